package source

import (
	"encoding/base32"
	"fmt"
	"hash/fnv"
	"maps"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/screen"
)

// tree is one document while it is made.
type tree struct {
	*builder
	of     *Component // whose markup it is
	doc    *screen.Document
	ids    map[string]bool
	places map[string]*Place
}

// fill builds the tree of a document from a component.
func (b *builder) fill(d *screen.Document, c *Component) {
	t := &tree{b, c, d, map[string]bool{}, map[string]*Place{}}
	b.docs[c] = d
	b.open[c] = true
	f := b.files[c]
	list := t.roots(f, c, nil)
	b.open[c] = false
	root := &screen.Element{ID: t.id("parts", f, c.Name, ""), Type: "parts", Children: list}
	if len(list) == 1 {
		root = list[0]
		root.Slot = ""
	}
	screen.SortSlots(root)
	d.Root = root
	b.read.Places[d.Address()] = t.places
}

// id is the id of an element: of its file, component and way among elements of the kit, so
// that what changes elsewhere does not change it.
func (t *tree) id(typ string, f *File, component, way string) string {
	h := fnv.New64a()
	for _, part := range []string{f.Path, component, way} {
		h.Write([]byte(part))
		h.Write([]byte{0})
	}
	_, short, _ := strings.Cut(typ, "-")
	if short == "" {
		short = strings.ReplaceAll(typ, ":", "-")
	}
	name := describe.Kebab(short)
	if len(name) > 24 {
		name = name[:24]
	}
	if name == "" {
		name = "e"
	}
	code := strings.ToLower(base32.StdEncoding.WithPadding(base32.NoPadding).EncodeToString(h.Sum(nil)))[:6]
	id := name + "-" + code
	for n := 2; t.ids[id]; n++ {
		id = name + "-" + code + "-" + strconv.Itoa(n)
	}
	t.ids[id] = true
	return id
}

// filling is what stands in the holes of a component where it is used, and what it is told there.
type filling struct {
	slots map[string][]*screen.Element
	says  map[string]*Value // by the names of its props
	in    at                // where it is used
}

// asked is a component's prop that an expression gives and nothing else: "title", "props.title".
var asked = regexp.MustCompile(`^(?:this\.)?(?:props\.|\$props\.)?([A-Za-z_$][\w$]*)(?:\(\))?$`)

// prop is the prop of a component that a value is, where it is one as it comes.
func (c *Component) prop(v *Value) (string, bool) {
	m := asked.FindStringSubmatch(v.Value)
	if v.Kind != "bound" || m == nil || c == nil || c.Declared == nil {
		return "", false
	}
	ok := slices.ContainsFunc(c.Declared.Props, func(p Prop) bool { return p.Name == m[1] })
	return m[1], ok
}

// told is a value as it is where a component is used once: what it is told there, as far as it is
// written, else the value itself.
func (here at) told(v *Value) *Value {
	for depth := 0; here.fill != nil && depth < 20; depth++ {
		name, ok := here.component.prop(v)
		if !ok || here.fill.says[name] == nil {
			return v
		}
		told := *here.fill.says[name]
		told.At = nil // it is changed where it is told, which is elsewhere
		v, here = &told, here.fill.in
	}
	return v
}

// offers notes that a part of the team's has a prop for what one of its elements says or is set to.
func (t *tree) offers(here at, e *screen.Element, prop string, v *Value) {
	if t.doc.Kind != screen.PieceDoc || t.of != here.component {
		return
	}
	if name, ok := here.component.prop(v); ok {
		t.doc.Props = append(t.doc.Props, screen.PieceProp{Name: name, Element: e.ID, Prop: prop})
	}
}

// at is where in the code elements are being made.
type at struct {
	file      *File
	component *Component
	way       string
	fill      *filling
	seen      map[string]int // elements of a kind so far, under one parent of the kit
	kit       string         // type of the kit's component that they stand right in; empty for none
}

func (t *tree) roots(f *File, c *Component, fill *filling) []*screen.Element {
	here := at{file: f, component: c, fill: fill, seen: map[string]int{}}
	return t.list(here, c.Roots)
}

func (t *tree) list(here at, nodes []*Node) (out []*screen.Element) {
	for _, n := range nodes {
		out = append(out, t.node(here, n)...)
	}
	return out
}

func (t *tree) node(here at, n *Node) []*screen.Element {
	switch n.Kind {
	case "group":
		inside := t.list(here, n.Children)
		if n.Under == "" || len(inside) == 0 {
			return inside
		}
		// It stands somewhere: under the name of what it is given to.
		typ := kit.OtherPrefix + "under-" + describe.Kebab(n.Under)
		return []*screen.Element{{ID: t.id(typ, here.file, here.component.Name, here.way+"/"+n.Under), Type: typ, Children: inside}}
	case "slot":
		if here.fill != nil {
			if list, ok := here.fill.slots[n.Name]; ok {
				delete(here.fill.slots, n.Name) // what is shown twice stands once
				return list
			}
			return t.list(here, n.Children)
		}
		return []*screen.Element{{ID: t.id("outlet", here.file, here.component.Name, here.way+"/"+n.Name), Type: "outlet", Name: slotWord(n.Name), Slot: n.Slot}}
	case "element":
		return t.element(here, n)
	}
	return nil // texts and values are what the element around them says
}

// slotWord is the name of an outlet; the main one has none.
func slotWord(s string) string {
	if s == "" || screen.ValidName(s) {
		return s
	}
	return screen.PlainName(s)
}

func (t *tree) element(here at, n *Node) []*screen.Element {
	typ, found := t.typeOf(here.file, n)
	r := &t.read.Report
	if typ != "" {
		return []*screen.Element{t.kit(here, n, typ, found)}
	}
	if found.Component != nil && t.passing(found) {
		if list, ok := t.own(here, n, found); ok {
			return list
		}
	}
	switch {
	case found.Component != nil || found.Package == "?":
		typ = kit.OtherPrefix + orElse(describe.Kebab(n.Name), "part")
		if found.Package == "?" {
			r.Unknown[n.Name]++
		} else {
			r.Others["(own)"]++
		}
	case found.Package != "":
		typ = kit.OtherPrefix + orElse(describe.Kebab(n.Name), "part")
		r.Others[(&Kit{Package: found.Package}).Name()]++
		t.picture(typ, n, found)
		if found.Package == loosePackage {
			r.Unknown[n.Name]++
		}
	default:
		switch n.Name {
		case "ng-container", "ng-template", "template", "Transition", "transition", "component":
			return t.within(here, n, t.list(here, n.Children))
		case "router-outlet", "router-view", "RouterView":
			return []*screen.Element{{ID: t.id("outlet", here.file, here.component.Name, here.way+"/view"), Type: "outlet", Slot: n.Slot}}
		}
		tag := describe.Kebab(n.Name)
		if tag == "" {
			tag = "span"
		}
		typ = kit.HostPrefix + tag
		r.Plain++
	}
	if n.Name == "Outlet" {
		return []*screen.Element{{ID: t.id("outlet", here.file, here.component.Name, here.way+"/view"), Type: "outlet", Slot: n.Slot}}
	}
	e := &screen.Element{Type: typ}
	inside := here
	inside.kit = ""
	e.ID = t.id(typ, here.file, here.component.Name, here.way+"/"+typ+"."+strconv.Itoa(here.seen[typ]))
	here.seen[typ]++
	t.around(here, e, n)
	place := &Place{File: here.file, Node: n, Props: map[string]*Attribute{}}
	besides := t.attributes(here, e, n)
	e.Text, place.Text = t.text(here, e, n)
	behind := t.inside(inside, e, n)
	t.settle(e, n, place)
	e.Origin.Behind, e.Origin.Besides = behind, besides
	return []*screen.Element{e}
}

// attributes takes what a plain element is set to, and gives what it is set to besides.
func (t *tree) attributes(here at, e *screen.Element, n *Node) (besides []screen.Prop) {
	def, plain := kit.Plain(e.Type)
	for i := range n.Attributes {
		a := &n.Attributes[i]
		var p *kit.Prop
		if plain && a.Kind != "handler" {
			name := a.Name
			if name == "routerLink" && a.Kind == "text" && strings.HasPrefix(a.Value.Value, "/") {
				name = "href" // as Angular's router has it
			}
			if p, _ = def.Prop(name); p == nil {
				p, _ = def.Prop(kit.AttributeName(name))
			}
		}
		if p == nil {
			besides = t.besides(besides, here, n, a)
			continue
		}
		if _, twice := e.Prop(p.Name); twice {
			continue
		}
		v, ok := t.value(here.told(&a.Value), p)
		switch {
		case !ok:
		case p.Type == kit.Number && v.Kind == screen.Literal:
			if !screen.IsNumber(v.Text) {
				besides = t.besides(besides, here, n, a) // "100%" is none
				continue
			}
			v.Kind = screen.Num
			fallthrough
		default:
			e.Props = append(e.Props, screen.Prop{Name: p.Name, Value: v})
		}
	}
	screen.SortProps(e.Props)
	return besides
}

// maxBesides bounds what is noted of one element besides its props, maxSource each of it.
const (
	maxBesides = 24
	maxSource  = 240
)

// noted are attributes of code that say which element it is, or that are noted otherwise.
var noted = []string{"class", "className", "key", "ref", "slot", "v-if", "v-else", "v-else-if", "v-for", "*ngIf", "*ngFor"}

// besides notes what an element of code is set to and no component here knows.
func (t *tree) besides(list []screen.Prop, here at, n *Node, a *Attribute) []screen.Prop {
	if len(list) >= maxBesides || slices.Contains(noted, a.Name) || strings.HasPrefix(a.Name, "#") || n.fills(a.Name) ||
		slices.ContainsFunc(list, func(p screen.Prop) bool { return p.Name == a.Name }) {
		return list
	}
	v, ok := t.value(here.told(&a.Value), nil)
	if !ok {
		return list
	}
	if len(v.Text) > maxSource {
		v.Text = strings.ToValidUTF8(v.Text[:maxSource], "") + "…"
	}
	return append(list, screen.Prop{Name: a.Name, Value: v})
}

// inside makes the children of an element; behind is how many of them stand before what it says.
func (t *tree) inside(here at, e *screen.Element, n *Node) (behind int) {
	says := slices.IndexFunc(n.Children, func(c *Node) bool {
		return c.Slot == "" && c.Value != nil && (c.Kind == "value" || c.Kind == "text" && strings.TrimSpace(c.Value.Value) != "") ||
			c.Kind == "element" && inline(c.Name) && wordsOnly(c)
	})
	before := n.Children[:max(says, 0)]
	e.Children = t.list(here, before)
	behind = len(e.Children)
	e.Children = append(e.Children, t.list(here, n.Children[len(before):])...)
	if e.Text.Text == "" || says < 0 {
		return 0
	}
	return behind
}

// pictured are settings of what draws a picture and nothing else.
var pictured = regexp.MustCompile(`^(class|className|style|size|width|height|color|stroke|strokeWidth|fill|title|role|key|id|slot|focusable|aria-.*|data-.*)$`)

// picture notes what draws an element of another package where that is a picture, such as an icon: it
// stands alone and is only told how to look. What else is drawn needs to be told more than is known.
func (t *tree) picture(typ string, n *Node, found Found) {
	is := found.Module != "" && found.Package != loosePackage && !Plain(found.Package) && found.Export != "" && found.Export != "*" && !strings.Contains(found.Export, ".") &&
		len(n.Children) == 0 && !n.Spread && !slices.ContainsFunc(n.Attributes, func(a Attribute) bool { return !pictured.MatchString(a.Name) })
	was, known := t.pictures[typ]
	now := &describe.Beside{Type: typ, Export: strings.TrimPrefix(found.Export, "default:"), Module: found.Module}
	if strings.HasPrefix(found.Export, "default:") || now.Module != found.Package && path.Base(now.Module) == now.Export {
		now.Export = "default" // of a module of its own
	}
	switch {
	case !is || known && (was == nil || *was != *now):
		t.pictures[typ] = nil
	default:
		t.pictures[typ] = now
	}
}

func orElse(s, other string) string {
	if s == "" {
		return other
	}
	return s
}

// passing reports whether a component of the team is followed: it has something of a kit in
// it, or passes on what is put in it.
func (t *tree) passing(f Found) bool { return !t.kitless(f.Component) || holdsPlace(f.Component.Roots) }

// holdsPlace reports whether something that is put in has a place there.
func holdsPlace(list []*Node) bool {
	return slices.ContainsFunc(list, func(n *Node) bool { return n.Kind == "slot" || holdsPlace(n.Children) })
}

// within puts what an element that shows nothing by itself says on those in it.
func (t *tree) within(here at, n *Node, list []*screen.Element) []*screen.Element {
	for _, e := range list {
		t.around(here, e, n)
	}
	return list
}

// around takes over when, how often and in which slot an element stands.
func (t *tree) around(here at, e *screen.Element, n *Node) {
	if n.Slot != "" {
		e.Slot = n.Slot
	}
	if here.kit != "" && n.Template != "" && e.Slot == "" {
		e.Slot = n.Template
		t.templates[here.kit] = append(t.templates[here.kit], n.Template)
	}
	for i := range n.Attributes {
		if a := &n.Attributes[i]; a.Name == "slot" && a.Kind == "text" {
			e.Slot = a.Value.Value
		}
	}
	if n.Show != "" {
		e.Show = n.Show
	}
	if n.Repeat != "" {
		e.Repeat = &screen.Repeat{Model: n.Repeat}
	}
}

// settle notes the place of an element and how it may have more than is known.
func (t *tree) settle(e *screen.Element, n *Node, place *Place) {
	line, column := place.Position()
	e.Origin = &screen.Origin{File: place.File.Path, Range: fmt.Sprintf("%d:%d", line, column), Look: n.look()}
	e.Spread = n.Spread
	if at := slices.IndexFunc(n.Attributes, func(a Attribute) bool { return a.Name == "class" || a.Name == "className" }); at >= 0 && n.Look == "" {
		if a := &n.Attributes[at]; a.Kind == "text" && a.At != nil && place.Props[kit.ClassProp] == nil {
			place.Props[kit.ClassProp] = a
		}
	}
	screen.SortSlots(e)
	t.places[e.ID] = place
}

// maxLook bounds the classes of one element.
const maxLook = 2_000

// look are the classes that an element has in its code, as far as they are written there.
func (n *Node) look() string {
	out := n.Look
	for i := range n.Attributes {
		if a := &n.Attributes[i]; (a.Name == "class" || a.Name == "className") && a.Kind == "text" {
			out = a.Value.Value + " " + out
		}
	}
	if out = strings.Join(strings.Fields(out), " "); len(out) > maxLook {
		return ""
	}
	return out
}

// selects is under what the settings of a component have the one whose value is an attribute: no name of any.
const selects = "[]"

// empties tells whether a setting that is written as its name alone is an empty text in the file's language.
func (f *File) empties(p *kit.Prop) bool {
	return (f.Language == "angular" || f.Language == "html") && p.Type == kit.Enum && !slices.Contains(p.Values, "true")
}

// kit makes an element of the kit.
func (t *tree) kit(here at, n *Node, typ string, found Found) *screen.Element {
	r := &t.read.Report
	r.Elements++
	t.uses[typ]++
	way := here.way + "/" + typ + "." + strconv.Itoa(here.seen[typ])
	here.seen[typ]++
	e := &screen.Element{ID: t.id(typ, here.file, here.component.Name, way), Type: typ}
	t.around(here, e, n)
	place := &Place{File: here.file, Node: n, Props: map[string]*Attribute{}}
	props := t.props[typ]
	var besides []screen.Prop
	for i := range n.Attributes {
		a := &n.Attributes[i]
		if a.Kind == "bound" && n.fills(a.Name) {
			continue
		}
		p, known := props[plainName(a.Name)]
		if known && (p.Selects || here.file.Language == "angular" && p.Name != a.Name) {
			known = false // Angular knows its settings by their very names
		}
		if !known {
			handed := t.handsOn[typ] && handedOn.MatchString(a.Name)
			at := typ + "." + plainName(a.Name)
			if a.Kind != "flag" || !t.bears[at] { // what it is known by is said with it
				besides = t.besides(besides, here, n, a)
			}
			if !shown.MatchString(a.Name) && a.Kind != "handler" && !handed && !t.slotted[at] && !t.bears[at] {
				r.Strange[typ+"."+a.Name]++
			}
			continue
		}
		told := here.told(&a.Value)
		v, ok := t.value(told, p)
		if a.Kind == "flag" && here.file.empties(p) {
			v, ok = screen.Lit(""), !t.bears[typ+"."+plainName(a.Name)] // else it only says what it is
		}
		if !ok {
			continue
		}
		t.offers(here, e, p.Name, told)
		r.Set++
		if a.Literal() || a.Kind == "one" && len(a.Values) == 1 {
			r.Known++
		}
		if _, twice := e.Prop(p.Name); twice {
			continue // the same prop in two ways of writing: the first counts
		}
		e.Props = append(e.Props, screen.Prop{Name: p.Name, Value: v})
		if a.Literal() && a.At != nil {
			place.Props[p.Name] = a
		}
	}
	if by := props[selects]; by != nil {
		for i := range n.Attributes {
			if a := &n.Attributes[i]; a.Kind == "flag" && slices.Contains(by.Values, a.Name) {
				e.Props = append(e.Props, screen.Prop{Name: by.Name, Value: screen.Lit(a.Name)})
				place.Props[by.Name] = a
				r.Set++
				r.Known++
				break
			}
		}
	}
	screen.SortProps(e.Props)
	e.Text, place.Text = t.text(here, e, n)
	inside := here
	inside.way, inside.seen, inside.kit = way, map[string]int{}, typ
	behind := t.inside(inside, e, n)
	t.settle(e, n, place)
	e.Origin.Behind, e.Origin.Besides = behind, besides
	if found.Component != nil && t.wraps[found.Component] != "" {
		place.Stands, place.Sets = found.Component.Name, t.sets[found.Component]
		e.Spread = e.Spread || t.sets[found.Component] // what it passes on besides is its own matter
	}
	if n.Spread {
		r.Spread++
	}
	return e
}

// value is a value of code as one of a screen; ok is false where nothing is set.
func (t *tree) value(v *Value, p *kit.Prop) (screen.Value, bool) {
	literal := func(s string) screen.Value {
		switch {
		case p != nil && p.Type == kit.Bool && (s == "" || s == "true"):
			return screen.FlagValue(true)
		case p != nil && p.Type == kit.Bool && s == "false":
			return screen.FlagValue(false)
		}
		return screen.Lit(s)
	}
	switch v.Kind {
	case "text":
		return literal(v.Value), true
	case "number":
		return screen.Value{Kind: screen.Num, Text: v.Value}, true
	case "flag":
		return screen.FlagValue(v.Value == "true"), true
	case "one":
		if len(v.Values) == 1 {
			return literal(v.Values[0]), true
		}
	case "key":
		file := t.files[t.of].Path
		if text, ok := t.in.Texts.Text(v.Value, file); ok {
			t.told++
			return screen.Lit(text), true
		}
		if len(v.Values) == 1 { // the words that stand in for it
			return screen.Lit(v.Values[0]), true
		}
		t.asked[v.Value] = orElse(t.asked[v.Value], file)
		return screen.Value{Kind: screen.Bound, Text: "t(" + strconv.Quote(v.Value) + ")"}, true
	case "unset":
		return screen.Value{}, false
	}
	return screen.Value{Kind: screen.Bound, Text: orElse(v.Value, "…")}, true
}

// inline reports whether an element of a name only sets words apart, those that a translation puts in too.
func inline(name string) bool { return name == "Trans" || slices.Contains(kit.Inlines, name) }

// text is what an element says itself; the literal where it is one.
func (t *tree) text(here at, e *screen.Element, n *Node) (screen.Value, *Value) {
	var parts []string
	var only, bound *Value
	known, count := true, 0
	var gather func(list []*Node)
	gather = func(list []*Node) {
		for _, c := range list {
			if c.Slot != "" {
				continue
			}
			switch {
			case c.Kind == "text" && c.Value != nil:
				parts = append(parts, c.Value.Value)
				count++
				if c.Value.Literal() {
					only = c.Value
				}
			case c.Kind == "value" && c.Value != nil:
				count++
				told := here.told(c.Value)
				v, ok := t.value(told, nil)
				bound = told
				switch {
				case !ok:
				case v.Kind == screen.Bound:
					known = false
					parts = append(parts, "{"+v.Text+"}")
				default:
					parts = append(parts, v.Text)
					only = nil
				}
			case c.Kind == "element" && inline(c.Name) && wordsOnly(c):
				gather(c.Children)
			}
		}
	}
	gather(n.Children)
	said := strings.TrimSpace(strings.Join(parts, " "))
	switch {
	case said == "":
		return screen.Value{}, nil
	case !known:
		if len(parts) == 1 {
			t.offers(here, e, "", bound)
			said = strings.TrimSuffix(strings.TrimPrefix(said, "{"), "}")
		}
		return screen.Value{Kind: screen.Bound, Text: said}, nil
	case count == 1 && only != nil:
		return screen.Lit(said), only
	}
	return screen.Lit(said), nil
}

// wordsOnly reports whether an element holds nothing but words.
func wordsOnly(n *Node) bool {
	for _, c := range n.Children {
		if c.Kind == "element" && !(inline(c.Name) && wordsOnly(c)) || c.Kind == "slot" || c.Kind == "group" {
			return false
		}
	}
	return true
}

// says is what an element tells the component that it is of, by the names of props.
func (n *Node) says() map[string]*Value {
	out := map[string]*Value{}
	for i := range n.Attributes {
		out[n.Attributes[i].Name] = &n.Attributes[i].Value
	}
	return out
}

// own makes an element of a component of the team: where it is used once, it is read in its
// place; else it is a piece, which counts once.
func (t *tree) own(here at, n *Node, found Found) ([]*screen.Element, bool) {
	c := found.Component
	inside := here
	inside.kit = "" // what is put in stands in it, whatever is around it
	if t.builder.open[c] {
		return nil, false
	}
	if t.count[c] <= 1 && t.docs[c] == nil {
		fill := &filling{map[string][]*screen.Element{}, n.says(), here}
		for _, e := range t.list(inside, n.Children) {
			slot := e.Slot
			e.Slot = ""
			fill.slots[slot] = append(fill.slots[slot], e)
		}
		t.builder.open[c] = true
		list := t.roots(t.files[c], c, fill)
		t.builder.open[c] = false
		t.read.Report.Inlined++
		t.docs[c] = t.doc
		for _, rest := range slices.Sorted(maps.Keys(fill.slots)) {
			list = append(list, fill.slots[rest]...) // what no hole takes is still there
		}
		for _, e := range list {
			t.around(here, e, n)
		}
		return list, true
	}
	d := t.docs[c]
	if d == nil || d.Kind != screen.PieceDoc {
		if d != nil {
			return nil, false // a screen that is used in another
		}
		d = t.piece(c)
	}
	typ := screen.PiecePrefix + d.ID
	e := &screen.Element{Type: typ}
	e.ID = t.id(typ, here.file, here.component.Name, here.way+"/"+typ+"."+strconv.Itoa(here.seen[typ]))
	here.seen[typ]++
	t.around(here, e, n)
	place := &Place{File: here.file, Node: n, Props: map[string]*Attribute{}}
	var besides []screen.Prop
	for i := range n.Attributes {
		a := &n.Attributes[i]
		told := here.told(&a.Value)
		v, ok := t.value(told, nil)
		_, twice := e.Prop(a.Name)
		if !slices.ContainsFunc(d.Props, func(p screen.PieceProp) bool { return p.Name == a.Name }) {
			besides = t.besides(besides, here, n, a)
			continue
		}
		if !ok || twice {
			continue
		}
		e.Props = append(e.Props, screen.Prop{Name: a.Name, Value: v})
		if a.Literal() && a.At != nil {
			place.Props[a.Name] = a
		}
		t.offers(here, e, a.Name, told)
	}
	screen.SortProps(e.Props)
	e.Children = t.list(inside, n.Children)
	t.settle(e, n, place)
	words := here
	words.component = nil // they are no setting of the part that is being made
	if said, _ := t.text(words, e, n); said.Kind != screen.None && len(besides) < maxBesides {
		if len(said.Text) > maxSource {
			said.Text = strings.ToValidUTF8(said.Text[:maxSource], "") + "…"
		}
		besides = append(besides, screen.Prop{Name: "children", Value: said}) // the words that are put in
	}
	e.Origin.Besides = besides
	e.Spread = true
	return []*screen.Element{e}, true
}
