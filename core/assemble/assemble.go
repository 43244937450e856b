// Package assemble makes of a screen that was read from code one that is assembled here. What
// stands there in so many words comes along; what code computes from a record becomes an
// expression over records that are made up for it; the rest is left out, and said.
package assemble

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Order says which screen is taken, and what the new one is called.
type Order struct {
	Doc   string `json:"doc"` // address of the screen that was read
	ID    string `json:"id"`
	Title string `json:"title"`
	Route string `json:"route"`
	Seed  uint64 `json:"-"` // of the records that are made up
}

// Left is something that did not come along as it stands in code.
type Left struct {
	Element string `json:"element"` // of the new screen
	Title   string `json:"title"`   // the element in words
	What    string `json:"what"`    // a prop, "text", "shown if" or "each"
	Source  string `json:"source"`  // the code
	Why     string `json:"why"`
}

// made is how many records are made up for a list that has none.
const made = 6

// Take gives the change that makes the assembled screen, with the models and records it needs,
// and what did not come along. Errors say what keeps it from being made.
func Take(l *live.Live, o Order) (change.Change, []Left, error) {
	d, ok := l.W.Doc(o.Doc)
	switch {
	case !ok || d.Kind != screen.ScreenDoc || d.Removed:
		return change.Change{}, nil, fmt.Errorf("there is no %s", o.Doc)
	case d.Source == "":
		return change.Change{}, nil, fmt.Errorf("%s is assembled here already", d.Title)
	}
	a := &assembler{l: l, doc: d, ids: map[string]bool{}, lists: map[string]*list{}, left: []Left{}}
	for _, m := range l.W.Models {
		a.lists[m.ID] = &list{model: m, known: true}
		a.lists[m.ID].model.Fields = slices.Clone(m.Fields)
	}
	next := &screen.Document{
		Kind: screen.ScreenDoc, ID: o.ID, Title: strings.TrimSpace(o.Title), Route: o.Route, App: d.App, Shell: d.Shell,
	}
	if next.Title == "" {
		return change.Change{}, nil, fmt.Errorf("the new screen has no title")
	}
	next.Root = a.root(o.Route)
	var steps []change.Step
	for _, id := range a.order {
		list := a.lists[id]
		list.model.Fields = list.typed()
		if !list.known || len(list.used) > 0 {
			steps = append(steps, &change.PutModel{Model: list.model})
		}
		records, err := a.records(list, o.Seed)
		if err != nil {
			return change.Change{}, nil, err
		}
		if len(records) > 0 {
			steps = append(steps, &change.Records{Rows: change.Rows{Set: a.set(), Model: id, Put: records}})
		}
	}
	steps = append(steps, &change.Create{Kind: screen.ScreenDoc, Document: next})
	return change.Change{Title: "Take " + d.Title + " onto the Bench", Steps: steps}, a.left, nil
}

// list is what is known of the records that code shows.
type list struct {
	model sample.Model
	known bool                // it stood before
	met   map[string][]string // what code compares a field with
	used  []string            // fields that are new, in the order they are met
}

type assembler struct {
	l     *live.Live
	doc   *screen.Document
	ids   map[string]bool
	lists map[string]*list
	order []string // models that are new or have new fields
	left  []Left
	depth int
}

// scope is where an element stands: in which list, and what code calls its record.
type scope struct {
	list *list
	name string
	over map[string][]screen.Prop // what a use of a part sets in it, by element
	fill func(name string) []*screen.Element
}

func (a *assembler) set() string {
	if len(a.l.W.Sets) > 0 {
		return a.l.W.Sets[0].ID
	}
	return "usual"
}

func (a *assembler) records(l *list, seed uint64) ([]sample.Record, error) {
	if len(a.l.W.Sets) > 0 && len(a.l.W.Sets[0].Records[l.model.ID]) > 0 {
		return nil, nil
	}
	return sample.Generate(sample.Order{Model: &l.model, Seed: seed, Count: made, Today: a.l.Today})
}

// root is the tree of the new screen. A screen on one record's route shows that record.
func (a *assembler) root(route string) *screen.Element {
	sc := scope{}
	var each *screen.Repeat
	if _, param, ok := strings.Cut(route, ":"); ok {
		param, _, _ = strings.Cut(param, "/")
		if id, name := a.shown(); id != "" {
			sc.list, sc.name = a.lists[id], name
			each = &screen.Repeat{Model: id, Where: "record.id == route." + param}
		}
	}
	inner := a.element(a.doc.Root, sc)
	if each == nil && len(inner) == 1 && inner[0].Repeat == nil && inner[0].Show == "" {
		return inner[0]
	}
	for _, e := range inner {
		e.Slot = ""
	}
	if each == nil {
		return &screen.Element{ID: screen.FreeName(a.ids, "screen"), Type: "stack", Children: inner}
	}
	return &screen.Element{ID: screen.FreeName(a.ids, "screen"), Type: "stack", Children: []*screen.Element{
		{ID: screen.FreeName(a.ids, "one"), Type: "stack", Repeat: each, Children: inner},
	}}
}

// shown is the list of whose records the screen shows one, and what code calls it.
func (a *assembler) shown() (id, name string) {
	counts := map[string]int{}
	var walk func(e *screen.Element)
	walk = func(e *screen.Element) {
		if e.Repeat != nil {
			return
		}
		for _, source := range bound(e) {
			for _, n := range roots(source) {
				counts[n]++
			}
		}
		for _, c := range e.Children {
			walk(c)
		}
	}
	walk(a.doc.Root)
	best := 0
	for id := range a.lists {
		for n, count := range counts {
			if one(id) == n && (count > best || count == best && n < name) {
				best, name = count, n
			}
		}
	}
	for candidate := range a.lists {
		if name != "" && one(candidate) == name && (id == "" || candidate < id) {
			id = candidate
		}
	}
	return id, name
}

// elements takes a list of children.
func (a *assembler) elements(list []*screen.Element, sc scope) (out []*screen.Element) {
	for _, c := range list {
		out = append(out, a.element(c, sc)...)
	}
	return out
}

// element is what becomes of one that was read; more than one where it only held others.
func (a *assembler) element(e *screen.Element, sc scope) []*screen.Element {
	if e.Type == "outlet" {
		if sc.fill == nil {
			return nil
		}
		in := sc.fill(e.Name)
		for _, c := range in {
			c.Slot = e.Slot
		}
		return in
	}
	if id, ok := strings.CutPrefix(e.Type, screen.PiecePrefix); ok {
		return a.inline(e, id, sc)
	}
	if list := sc.over[e.ID]; len(list) > 0 {
		e = e.With(list)
	}
	def, known := a.l.Cat.Component(e.Type)
	out := &screen.Element{ID: screen.FreeName(a.ids, e.ID), Type: e.Type, Slot: e.Slot, Name: e.Name}
	title := e.Type
	if known {
		title = def.Title
	}
	inside := sc
	if e.Repeat != nil {
		inside = a.each(e, out, title, sc)
	}
	a.show(e, out, title, inside)
	switch {
	case strings.HasPrefix(e.Type, kit.OtherPrefix) && (!known || def.Export == ""):
		a.leave(out, title, "", strings.TrimPrefix(e.Type, kit.OtherPrefix), "it is of no kit; what stands in it came along")
		if len(e.Children) == 0 && e.Text.Kind == screen.None {
			return nil
		}
		out.Type = "stack"
		if box, ok := a.l.Cat.Component(kit.HostPrefix + "div"); ok && box.Styled() { // the application says how it lies there
			out.Type, def = box.Tag, box
		}
	case e.Type == "parts":
		out.Type = "stack"
	default:
		a.props(e, out, def, title, inside)
	}
	if e.FromCode() {
		a.besides(e, out, def, title)
	}
	a.inside(e, out, title, inside)
	if out.Type == "stack" && e.Type != "stack" && out.Text.Kind != screen.None {
		a.leave(out, title, "text", out.Text.Text, "there is no element of the kit that says it")
		out.Text = screen.Value{}
	}
	return []*screen.Element{out}
}

// besides takes what code sets of any element of a page, and says what else it sets.
func (a *assembler) besides(e, out *screen.Element, def *kit.Component, title string) {
	if look := e.Origin.Look; look != "" {
		if def != nil && def.Styled() {
			out.Props = append(out.Props, screen.Prop{Name: kit.ClassProp, Value: screen.Lit(look)})
		} else {
			a.leave(out, title, kit.ClassProp, look, "how its code has it look is no setting here")
		}
	}
	for _, p := range e.Origin.Besides {
		var known *kit.Prop
		if def != nil {
			known, _ = def.HandedAs(p.Name)
		}
		twice := false
		if known != nil {
			_, twice = out.Prop(known.Name)
		}
		switch {
		case known != nil && p.Value.Kind != screen.Bound && !twice && known.Type != kit.Number:
			out.Props = append(out.Props, screen.Prop{Name: known.Name, Value: p.Value})
		case known != nil && !twice && screen.IsNumber(p.Value.Text):
			out.Props = append(out.Props, screen.Prop{Name: known.Name, Value: screen.Value{Kind: screen.Num, Text: p.Value.Text}})
		case handler.MatchString(p.Name):
			a.leave(out, title, p.Name, p.Value.Text, "what code does then is not known here")
		case p.Value.Kind == screen.Bound:
			a.leave(out, title, p.Name, p.Value.Text, "code computes it, and it is no setting here")
		default:
			a.leave(out, title, p.Name, p.Value.Text, "it is no setting here")
		}
	}
	screen.SortProps(out.Props)
}

// handler is the name of an attribute that says what happens.
var handler = regexp.MustCompile(`^(on[A-Z]|@|v-on:|\()`)

// inside takes what an element says and holds: words once that code has read in two ways, and in their
// place among what stands beside them.
func (a *assembler) inside(e, out *screen.Element, title string, sc scope) {
	once, apart := resolve.WordsOnce(e)
	if once != nil || !apart {
		out.Text = a.text(e.Text, out, title, sc)
	}
	behind := 0
	for i, c := range e.Children {
		if slices.Contains(once, c) {
			tag := strings.TrimPrefix(c.Type, kit.HostPrefix)
			a.leave(out, title, "<"+tag+">", c.Text.Text, "code sets it apart in the words; here they run on")
			continue
		}
		out.Children = append(out.Children, a.element(c, sc)...)
		if e.FromCode() && i < e.Origin.Behind {
			behind = len(out.Children)
		}
	}
	if behind == 0 || out.Text.Kind == screen.None {
		return
	}
	words := &screen.Element{ID: screen.FreeName(a.ids, out.ID+"-words"), Type: kit.HostPrefix + "span", Text: out.Text}
	out.Text = screen.Value{}
	out.Children = slices.Insert(out.Children, behind, words)
}

// inline puts what a part of the team's own code is made of in place of its use.
func (a *assembler) inline(use *screen.Element, id string, sc scope) []*screen.Element {
	piece, ok := a.l.W.Doc(use.Type)
	if !ok || a.depth > 12 {
		a.leave(use, id, "", id, "the part is not there, or contains itself")
		return nil
	}
	a.depth++
	defer func() { a.depth-- }()
	inner := scope{list: sc.list, name: sc.name, over: resolve.Overrides(piece, use, a.l.Cat)}
	inner.fill = func(name string) (in []*screen.Element) {
		for _, c := range use.Children {
			if c.Slot == name {
				in = append(in, a.element(c, sc)...)
			}
		}
		return in
	}
	from := []*screen.Element{piece.Root}
	if piece.Root.Type == "parts" {
		from = piece.Root.Children
	}
	if use.Repeat != nil || use.Show != "" {
		around := &screen.Element{ID: screen.FreeName(a.ids, use.ID), Type: "stack", Slot: use.Slot}
		in := inner
		if use.Repeat != nil {
			in = a.each(use, around, piece.Title, sc)
			in.over, in.fill = inner.over, inner.fill
		}
		a.show(use, around, piece.Title, in)
		around.Children = a.elements(from, in)
		return []*screen.Element{around}
	}
	out := a.elements(from, inner)
	for _, c := range out {
		c.Slot = use.Slot
	}
	return out
}

// show lets an element be shown where code shows it, as far as that can be said here.
func (a *assembler) show(e, out *screen.Element, title string, sc scope) {
	if e.Show == "" {
		return
	}
	if v, ok := a.says(e.Show, sc, true); ok {
		out.Show = v
		return
	}
	a.leave(out, title, "shown if", e.Show, "code decides it; here it is always shown")
}

// each lets an element repeat over the records of the list that code goes through.
func (a *assembler) each(e, out *screen.Element, title string, sc scope) scope {
	source := e.Repeat.Model
	last := source[strings.LastIndexByte(source, '.')+1:]
	id := last
	if a.lists[id] == nil {
		if id = modelID(last); id == "" {
			a.leave(out, title, "each", source, "code says what is gone through; it stands here once")
			return sc
		}
	}
	if a.lists[id] == nil {
		a.lists[id] = &list{model: sample.Model{ID: id, Name: sentence(id)}}
	}
	list := a.lists[id]
	a.note(list)
	out.Repeat = &screen.Repeat{Model: id}
	if e.Repeat.Where != "" {
		a.leave(out, title, "each", e.Repeat.Where, "code chooses among the records; here all are shown")
	}
	return scope{list: list, name: variable(e, one(last)), over: sc.over, fill: sc.fill}
}

// note marks a list as needed by the new screen.
func (a *assembler) note(l *list) {
	if !slices.Contains(a.order, l.model.ID) {
		a.order = append(a.order, l.model.ID)
	}
}

// props takes the settings that the kit knows.
func (a *assembler) props(e, out *screen.Element, def *kit.Component, title string, sc scope) {
	if e.Spread {
		a.leave(out, title, "", "…", "code sets more of it than stands there")
	}
	for _, p := range e.Props {
		var known *kit.Prop
		if def != nil {
			known, _ = def.Prop(p.Name)
		}
		switch {
		case known == nil && p.Name != kit.Does:
			a.leave(out, title, p.Name, p.Value.Text, "the kit knows no such prop")
		case p.Value.Kind != screen.Bound:
			p.Filled = false
			out.Props = append(out.Props, p)
		default:
			a.computed(p, known, out, title, sc)
		}
	}
}

// computed takes a setting that code computes.
func (a *assembler) computed(p screen.Prop, known *kit.Prop, out *screen.Element, title string, sc scope) {
	if v, ok := a.sentence(p.Value.Text, sc); ok {
		out.Props = append(out.Props, screen.Prop{Name: p.Name, Value: screen.Value{Kind: screen.Expr, Text: v}})
		return
	}
	if known != nil && known.Type == kit.Text && !known.URL && !known.JSON {
		if v, ok := a.field(p.Value.Text, sc); ok {
			out.Props = append(out.Props, screen.Prop{Name: p.Name, Value: screen.Value{Kind: screen.Expr, Text: v}})
			a.leave(out, title, p.Name, p.Value.Text, "code makes something of the field; here it stands as it is")
			return
		}
		if words := standIn(p.Value.Text); words != "" {
			out.Props = append(out.Props, screen.Prop{Name: p.Name, Value: screen.Lit(words)})
			a.leave(out, title, p.Name, p.Value.Text, "code computes it; a word stands for it")
			return
		}
	}
	a.leave(out, title, p.Name, p.Value.Text, "code computes it")
}

// text takes what an element says.
func (a *assembler) text(v screen.Value, out *screen.Element, title string, sc scope) screen.Value {
	if v.Kind != screen.Bound {
		return v
	}
	if s, ok := a.sentence(v.Text, sc); ok {
		return screen.Value{Kind: screen.Expr, Text: s}
	}
	if s, ok := a.field(v.Text, sc); ok {
		a.leave(out, title, "text", v.Text, "code makes something of the field; here it stands as it is")
		return screen.Value{Kind: screen.Expr, Text: s}
	}
	words := standIn(v.Text)
	a.leave(out, title, "text", v.Text, "code computes it; a word stands for it")
	if words == "" {
		return screen.Value{}
	}
	return screen.Lit(words)
}

func (a *assembler) leave(e *screen.Element, title, what, source, why string) {
	a.left = append(a.left, Left{Element: e.ID, Title: title, What: what, Source: source, Why: why})
}

// modelID is the id of a model for what code calls a list; empty where there is no name in it.
func modelID(name string) string {
	words := strings.FieldsFunc(describe.Kebab(name), func(r rune) bool { return r == '-' })
	for i, w := range words {
		if i > 0 {
			words[i] = strings.ToUpper(w[:1]) + w[1:]
		}
	}
	id := strings.Join(words, "")
	if (&model.Workspace{}).CheckModel(&sample.Model{ID: id, Name: "x"}) != nil {
		return ""
	}
	return id
}

// sentence is a name of code as people read it.
func sentence(name string) string {
	words := strings.ReplaceAll(describe.Kebab(name), "-", " ")
	return strings.ToUpper(words[:1]) + words[1:]
}
