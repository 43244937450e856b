package bringin

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// Plain is the layout that holds markup which was not recognised.
const Plain = "markup"

// plainTags are the tags that plain markup may keep.
func plainTags() []string {
	for _, l := range kit.Layouts() {
		if l.Tag == Plain {
			p, _ := l.Prop("tag")
			return p.Values
		}
	}
	return nil
}

// children builds what stands in an element.
func (r *reader) children(n *html.Node, in scope) []*screen.Element {
	var out []*screen.Element
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		switch c.Type {
		case html.TextNode:
			if s := strings.Join(strings.Fields(c.Data), " "); s != "" && !r.used[c] {
				out = append(out, r.textElement(c, s))
			}
		case html.ElementNode:
			out = append(out, r.node(c, in)...)
		}
	}
	return out
}

func (r *reader) textElement(n *html.Node, s string) *screen.Element {
	if c := r.component("text", "paragraph"); c != nil {
		return &screen.Element{ID: r.idOf(n, ""), Type: c.Tag, Text: screen.Lit(s)}
	}
	return &screen.Element{
		ID:    r.idOf(n, ""),
		Type:  Plain,
		Text:  screen.Lit(s),
		Props: []screen.Prop{{Name: "tag", Value: screen.Lit("p")}},
	}
}

// idOf is the id of the element made of a node; more tells several of one node apart.
// It does not depend on what is made of other nodes, so that choices keep their place.
func (r *reader) idOf(n *html.Node, more string) string {
	if n.Type == html.ElementNode && r.o.Mark != "" {
		if id := attr(n, r.o.Mark); id != "" {
			return r.o.Prefix + id + more
		}
	}
	if r.numbers == nil {
		r.numbers = map[*html.Node]int{}
	}
	at, ok := r.numbers[n]
	if !ok {
		at = len(r.numbers)
		r.numbers[n] = at
	}
	return r.o.Prefix + strconv.Itoa(at) + more
}

func (r *reader) number(n *html.Node) {
	r.idOf(n, "")
	if id := attr(n, "id"); n.Type == html.ElementNode && id != "" && r.byID[id] == nil {
		r.byID[id] = n
	}
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		r.number(c)
	}
}

// guess notes what an element was taken for.
func (r *reader) guess(
	e *screen.Element,
	n *html.Node,
	title string,
	certainty float64,
	why string,
	others []*found,
) {
	g := Guess{
		Element:   e.ID,
		From:      excerpt(n),
		Text:      short(text(n), 40),
		Type:      e.Type,
		Title:     title,
		Certainty: certainty,
		Why:       why,
		Others:    []Other{},
		Plain:     e.Type == Plain,
	}
	for _, o := range others {
		if c := r.component(o.kind.as...); c != nil && c.Tag != e.Type && len(g.Others) < 4 &&
			!slices.ContainsFunc(g.Others, func(p Other) bool { return p.Type == c.Tag }) {
			g.Others = append(g.Others, Other{c.Tag, c.Title, o.certainty})
		}
	}
	if near := r.nearest(n); g.Plain && near != nil {
		g.Others = append(g.Others, *near)
	}
	r.res.Guesses = append(r.res.Guesses, g)
}

// node builds what one element of the markup becomes: mostly one element, none where
// it is left out, several where it is only a wrapper or parts of it find no place.
func (r *reader) node(n *html.Node, in scope) []*screen.Element {
	if r.used[n] || n.Data == "br" || n.Data == "wbr" {
		return nil
	}
	id := r.idOf(n, "")
	at := len(r.res.Guesses)
	var e *screen.Element
	switch chosen := r.o.Chosen[id]; {
	case chosen == Plain:
		e = r.plain(n, in, "chosen")
	case chosen != "":
		c, ok := r.k.Component(chosen)
		if !ok {
			return nil
		}
		e = r.generic(c, n, &found{kind: &kind{name: c.Title}, certainty: 1, why: "chosen"})
	default:
		if c, ok := r.k.Component(n.Data); ok && c.Level != kit.Layout {
			e = r.own(c, n)
			break
		}
		if (n.Data == "label" && r.labelsAnother(n)) || r.toggler(n, in) {
			return nil
		}
		f := r.recognise(n, in)
		if f == nil {
			return r.layout(n, in)
		}
		if f.kind.name == "skip" {
			return nil
		}
		c := r.component(f.kind.as...)
		if c == nil || in.in != nil && !r.mayStand(in.in, c) && f.certainty < 0.7 {
			if f.kind.name == "text" || len(elements(n)) > 0 {
				return r.layout(n, in)
			}
			e = r.plain(n, in, "the kit has no "+f.kind.name)
			break
		}
		e = r.build(f, c, n, in)
		if e == nil {
			return nil
		}
		r.guessAt(at, e, n, c.Title, f)
	}
	if e.Name == "" {
		r.name(e, n)
	}
	out := append([]*screen.Element{e}, r.spilt...)
	r.spilt = nil
	return out
}

// guessAt notes a guess before those of what stands inside.
func (r *reader) guessAt(at int, e *screen.Element, n *html.Node, title string, f *found) {
	inner := slices.Clone(r.res.Guesses[at:])
	r.res.Guesses = r.res.Guesses[:at]
	r.guess(e, n, title, f.certainty, f.why, f.others)
	r.res.Guesses = append(r.res.Guesses, inner...)
}

// labelsAnother tells whether a label belongs to a control elsewhere, which takes it in.
func (r *reader) labelsAnother(n *html.Node) bool {
	if c := r.byID[attr(n, "for")]; c != nil && isControl(c) && count(n, isControl) == 0 {
		return true
	}
	next := n.NextSibling
	for next != nil && next.Type == html.TextNode && strings.TrimSpace(next.Data) == "" {
		next = next.NextSibling
	}
	return attr(n, "for") == "" && count(n, isControl) == 0 && next != nil && next.Type == html.ElementNode &&
		isControl(next)
}

// toggler tells whether an element opens a bar's menu, which the kit's bar does itself.
func (r *reader) toggler(n *html.Node, in scope) bool {
	if in.kind != "navbar" && in.kind != "side navigation" {
		return false
	}
	_, parts := classes(n)
	if !slices.ContainsFunc(
		parts,
		func(p string) bool { return slices.Contains([]string{"toggler", "toggle", "hamburger", "burger"}, p) },
	) ||
		some(n, "ul") != nil {
		return false
	}
	r.leftOut(excerpt(n), "the kit's bar becomes a menu by itself where room ends")
	return true
}

func (r *reader) mayStand(parent, child *kit.Component) bool {
	return slices.ContainsFunc(
		parent.Slots,
		func(s kit.Slot) bool { _, ok := kit.Accepts(r.k, parent, s.Name, child); return ok },
	)
}

// own reads an element that is the kit's already.
func (r *reader) own(c *kit.Component, n *html.Node) *screen.Element {
	e := &screen.Element{ID: r.idOf(n, "")}
	e.Type = c.Tag
	for _, a := range n.Attr {
		for i := range c.Props {
			p := &c.Props[i]
			if p.Attr == a.Key || strings.EqualFold(p.Name, a.Key) {
				r.put(e, p, a.Val, has(n, a.Key))
			}
		}
	}
	at := len(r.res.Guesses)
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		switch {
		case ch.Type == html.TextNode && strings.TrimSpace(ch.Data) != "":
			r.say(e, c, ch, strings.Join(strings.Fields(ch.Data), " "))
		case ch.Type == html.ElementNode:
			for _, el := range r.node(ch, scope{c, c.Title}) {
				r.place(e, c, el, attr(ch, "slot"))
			}
		}
	}
	r.guessAt(at, e, n, c.Title, &found{certainty: 1, why: "it is the kit's own"})
	return e
}

// say adds a text to an element: its own where it takes one, else a text inside.
func (r *reader) say(e *screen.Element, c *kit.Component, n *html.Node, s string) {
	if c.TakesText() {
		if e.Text.Text != "" {
			s = e.Text.Text + " " + s
		}
		e.Text = screen.Lit(s)
		return
	}
	r.place(e, c, r.textElement(n, s), "")
}

// put sets a prop to a text, where it may have it.
func (r *reader) put(e *screen.Element, p *kit.Prop, value string, present bool) bool {
	var v screen.Value
	switch p.Type {
	case kit.Bool:
		if !present || value == "false" {
			return false
		}
		v = screen.FlagValue(true)
	case kit.Number:
		if _, err := strconv.ParseFloat(value, 64); err != nil {
			return false
		}
		v = screen.Value{Kind: screen.Num, Text: value}
	case kit.Enum:
		if !p.Takes(value) {
			return false
		}
		if value == p.Default {
			return true
		}
		v = screen.Lit(value)
		if p.Values[0] != "" && strings.Trim(p.Values[0], "0123456789") == "" {
			v = screen.Value{Kind: screen.Num, Text: value}
		}
	default:
		if value == "" {
			return false
		}
		if p.URL && unsafe(value) {
			r.leftOut(short(value, 30), "such an address never comes in")
			return false
		}
		v = screen.Lit(value)
	}
	e.Props = slices.DeleteFunc(e.Props, func(o screen.Prop) bool { return o.Name == p.Name })
	e.Props = append(e.Props, screen.Prop{Name: p.Name, Value: v})
	screen.SortProps(e.Props)
	return true
}

// set is put by the prop's name; it does nothing where the kit lacks the prop.
func (r *reader) set(e *screen.Element, c *kit.Component, prop, value string) bool {
	p, ok := c.Prop(prop)
	return ok && r.put(e, p, value, true)
}

// alike groups words that say the same of a look or a meaning.
var alike = [][]string{
	{"strong", "primary", "main", "solid", "filled", "cta", "accent"},
	{"soft", "secondary", "outline", "outlined", "bordered", "tonal"},
	{"bare", "ghost", "link", "flat", "tertiary", "borderless"},
	{"danger", "destructive", "delete", "remove"},
	{"bad", "danger", "error", "critical", "negative", "red", "failed", "invalid", "overdue", "rejected"},
	{"good", "success", "ok", "positive", "green", "active", "done", "paid", "approved"},
	{"warn", "warning", "caution", "amber", "yellow", "orange", "pending"},
	{"info", "information", "blue"},
	{"neutral", "default", "grey", "gray", "muted"},
	{"quiet", "muted", "subtle", "secondary", "faded", "hint", "help", "subtitle", "caption", "dim", "meta"},
	{"s", "sm", "small", "xs", "mini", "tiny"}, {"m", "md", "medium"}, {"l", "lg", "large", "big", "xl"},
	{"round", "pill", "rounded", "circle"}, {"square", "sharp"},
	{"tight", "dense", "compact", "condensed"}, {"roomy", "comfortable"},
	{"fixed", "sticky", "pinned"}, {"across", "horizontal", "inline"}, {"down", "vertical", "stacked"},
	{"center", "centered", "centre"}, {"end", "right"}, {"start", "left"},
	{
		"wide",
		"large",
		"lg",
	}, {"narrow", "small", "sm"}, {"striped", "stripes", "zebra"}, {"raised", "elevated", "shadow"},
}

func means(word, value string) bool {
	return word == value ||
		slices.ContainsFunc(
			alike,
			func(g []string) bool { return slices.Contains(g, word) && slices.Contains(g, value) },
		)
}

// standard attributes by what the kit's props are commonly called.
var attributes = map[string][]string{
	"href":          {"to", "href"},
	"src":           {"src"},
	"alt":           {"alt", "name"},
	"placeholder":   {"placeholder"},
	"value":         {"value"},
	"name":          {"name"},
	"min":           {"min"},
	"max":           {"max"},
	"step":          {"step"},
	"rows":          {"rows"},
	"accept":        {"accept"},
	"aria-label":    {"label"},
	"aria-valuenow": {"value"},
	"aria-valuemin": {"min"},
	"aria-valuemax": {"max"},
	"title":         {"label"},
}

var flags = map[string][]string{
	"disabled": {"disabled", "aria-disabled"},
	"required": {"required", "aria-required"},
	"checked":  {"checked", "aria-checked"},
	"on":       {"checked", "aria-checked"},
	"active":   {"aria-current"},
	"open":     {"open"},
	"pressed":  {"aria-pressed"},
	"several":  {"multiple"},
	"selected": {"aria-selected"},
}

// dress reads an element's settings from its attributes and the words of its classes.
func (r *reader) dress(e *screen.Element, c *kit.Component, n *html.Node, f *found) {
	for _, a := range n.Attr {
		for _, prop := range attributes[a.Key] {
			p, ok := c.Prop(prop)
			if _, set := e.Prop(prop); !ok || set || p.Type == kit.Enum {
				continue
			}
			if p.URL && a.Val == "#" {
				r.needs("where "+strings.TrimSpace(short(text(n), 24)+" leads"), "its address is empty")
				continue
			}
			if r.put(e, p, strings.TrimSpace(a.Val), true) {
				if (p.Name == "src") && a.Val != "" && !strings.HasPrefix(a.Val, "data:") {
					r.needs("the picture "+short(a.Val, 40), "its file is not here")
				}
				break
			}
		}
	}
	whole, parts := classes(n)
	for prop, from := range flags {
		p, ok := c.Prop(prop)
		if !ok || p.Type != kit.Bool {
			continue
		}
		for _, key := range from {
			if has(n, key) && attr(n, key) != "false" {
				r.put(e, p, "true", true)
			}
		}
		if slices.Contains(whole, prop) || slices.Contains(whole, "is-"+prop) ||
			prop == "active" && slices.Contains(whole, "current") {
			r.put(e, p, "true", true)
		}
	}
	own := append(slices.Clone(f.kind.words), strings.Fields(f.kind.name)...)
	words := slices.DeleteFunc(
		append(slices.Clone(whole), parts...),
		func(w string) bool { return slices.Contains(own, w) || w == n.Data },
	)
	for i := range c.Props {
		p := &c.Props[i]
		if _, set := e.Prop(p.Name); set || p.Name == "action" || p.Name == "kind" {
			continue
		}
		for _, w := range words {
			if p.Type == kit.Bool && w != "" &&
				(w == p.Name || means(w, p.Name) && !slices.Contains([]string{"active", "disabled"}, p.Name)) {
				r.put(e, p, "true", true)
			}
			if p.Type != kit.Enum {
				continue
			}
			if c.Main != nil && c.Main.Prop == p.Name && slices.Contains(alike[0], w) {
				r.put(e, p, c.Main.Value, true)
				break
			}
			if at := slices.IndexFunc(p.Values, func(v string) bool { return means(w, v) }); at >= 0 {
				r.put(e, p, p.Values[at], true)
				break
			}
		}
	}
}

// begin is an element of a component with the settings that the markup gives it.
func (r *reader) begin(f *found, c *kit.Component, n *html.Node) *screen.Element {
	e := &screen.Element{ID: r.idOf(n, ""), Type: c.Tag}
	r.dress(e, c, n, f)
	return e
}

// generic builds a component from an element by its attributes, words and parts.
func (r *reader) generic(c *kit.Component, n *html.Node, f *found) *screen.Element {
	e := r.begin(f, c, n)
	if slot, ok := c.Slot(""); ok && slot.Text && r.onlyInline(n) {
		if s := text(n); s != "" {
			e.Text = screen.Lit(s)
		}
		return e
	}
	// What heads it becomes its heading, where it has one.
	if p, ok := c.Prop("heading"); ok && p.Type == kit.Text {
		if h := r.heading(n); h != nil && r.onlyInline(h) {
			r.put(e, p, text(h), true)
			r.used[h] = true
		}
	}
	if p, ok := c.Prop("icon"); ok && p.Icon {
		if i := r.iconIn(n); i != nil &&
			!slices.ContainsFunc(c.Slots, func(s kit.Slot) bool { return s.Name == "lead" }) {
			if name := r.icon(iconWords(i)); name != "" {
				r.put(e, p, name, true)
				r.used[i] = true
			}
		}
	}
	r.fill(e, c, n, "", f.kind.name)
	r.lift(e, c)
	return e
}

// lift makes a component's only text its own, where it takes one.
func (r *reader) lift(e *screen.Element, c *kit.Component) {
	t := r.component("text", "paragraph")
	main := -1
	for i, ch := range e.Children {
		if ch.Slot == "" {
			if main >= 0 {
				return
			}
			main = i
		}
	}
	if _, headed := c.Prop("heading"); !headed && len(c.Slots) > 1 {
		return // what holds more than words keeps its texts as elements
	}
	if t == nil || main < 0 || !c.TakesText() || e.Text.Kind != screen.None {
		return
	}
	if only := e.Children[main]; only.Type == t.Tag && len(only.Props) == 0 && len(only.Children) == 0 {
		e.Text = only.Text
		e.Children = slices.Delete(e.Children, main, main+1)
	}
}

// heading is the first heading of an element, or what its classes call its title.
func (r *reader) heading(n *html.Node) *html.Node {
	if h := some(n, headings...); h != nil {
		return h
	}
	var walk func(*html.Node) *html.Node
	walk = func(n *html.Node) *html.Node {
		for _, c := range elements(n) {
			_, parts := classes(c)
			if slices.Contains(parts, "title") && r.onlyInline(c) ||
				(c.Data == "strong" || c.Data == "b") && c.Parent.FirstChild == c && len(elements(c.Parent)) > 1 {
				return c
			}
			if d := walk(c); d != nil {
				return d
			}
		}
		return nil
	}
	return walk(n)
}

var slotWords = map[string][]string{
	"header": {
		"header",
		"head",
		"top",
		"title",
	}, "footer": {"footer", "foot", "actions", "buttons", "bottom"}, "actions": {"actions", "buttons", "footer", "controls", "cta", "toolbar"},
	"picture": {
		"image",
		"img",
		"media",
		"picture",
		"cover",
		"thumb",
		"thumbnail",
		"figure",
		"photo",
	}, "brand": {"brand", "logo", "site-name", "home"}, "end": {"end", "right", "actions", "tools", "user", "account", "secondary"},
	"lead": {
		"lead",
		"icon",
		"prefix",
		"start",
		"avatar",
	}, "trail": {"trail", "suffix", "end", "badge", "meta"}, "foot": {"foot", "footer", "bottom"},
}

var bodyWords = []string{
	"body",
	"content",
	"contents",
	"inner",
	"main",
	"wrapper",
	"wrap",
	"container",
	"collapse",
	"nav",
	"menu",
	"list",
	"items",
	"links",
	"group",
	"dialog",
	"document",
	"text",
	"panel",
	"modal",
	"fluid",
}

// slotOf is the slot that an element's classes or tag speak of; empty where none does.
func slotOf(c *kit.Component, n *html.Node) string {
	whole, parts := classes(n)
	words := append(append(whole, parts...), n.Data)
	for _, s := range c.Slots {
		if s.Name == "" {
			continue
		}
		if slices.ContainsFunc(
			words,
			func(w string) bool { return w == s.Name || slices.Contains(slotWords[s.Name], w) },
		) {
			return s.Name
		}
	}
	if slices.ContainsFunc(
		whole,
		func(w string) bool { return w == "ml-auto" || w == "ms-auto" || w == "push-right" },
	) {
		if _, ok := c.Slot("end"); ok {
			return "end"
		}
	}
	return ""
}

func wrapper(n *html.Node) bool {
	switch n.Data {
	case "div",
		"section",
		"header",
		"footer",
		"ul",
		"ol",
		"nav",
		"main",
		"aside",
		"figure",
		"form",
		"li",
		"span",
		"article",
		"picture",
		"fieldset":
		return !ownText(n)
	}
	return false
}

// fill puts what stands in an element of the markup into the slots of a component.
func (r *reader) fill(e *screen.Element, c *kit.Component, n *html.Node, slot, kindName string) {
	in := scope{c, kindName}
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		if r.used[ch] {
			continue
		}
		if ch.Type == html.TextNode {
			if s := strings.Join(strings.Fields(ch.Data), " "); s != "" {
				if t, ok := c.Slot(slot); ok && t.Text && slot == "" {
					r.say(e, c, ch, s)
				} else {
					r.place(e, c, r.textElement(ch, s), slot)
				}
			}
			continue
		}
		if ch.Type != html.ElementNode {
			continue
		}
		to := slot
		if s := slotOf(c, ch); s != "" && slot == "" {
			to = s
		}
		_, own := r.k.Component(ch.Data)
		f := r.recognise(ch, in)
		_, parts := classes(ch)
		part := f == nil || f.kind.name == "text" && !r.onlyInline(ch) || f.certainty < 0.6 ||
			f.kind.name == kindName ||
			f.kind.name == "list" && (kindName == "navbar" || kindName == "menu") ||
			to != slot && wrapper(ch) && f.certainty < 0.95 && !slices.Contains(f.kind.tags, ch.Data)
		// Header and footer of a part are its slots, not a page's.
		if to != slot && (ch.Data == "header" || ch.Data == "footer") {
			part = true
		}
		body := slices.ContainsFunc(parts, func(p string) bool { return slices.Contains(bodyWords, p) }) ||
			slices.Contains([]string{"ul", "ol", "li", "nav"}, ch.Data) ||
			ch.Data == "div" && len(elements(ch)) == 1
		if !own && r.o.Chosen[r.idOf(ch, "")] == "" && wrapper(ch) && part &&
			(to != slot || body || kindName == "form" || !r.takesLayout(c)) &&
			!(r.takesLayout(c) && r.laidOut(ch)) {
			r.fill(e, c, ch, to, kindName)
			continue
		}
		for _, el := range r.node(ch, in) {
			r.place(e, c, el, to)
		}
	}
}

// takesLayout tells whether layouts may stand in a component.
func (r *reader) takesLayout(c *kit.Component) bool {
	stack, _ := r.k.Component("stack")
	_, ok := kit.Accepts(r.k, c, "", stack)
	return ok
}

// laidOut tells whether an element lays its children out in a way worth keeping.
func (r *reader) laidOut(n *html.Node) bool {
	l := r.layoutOf(n)
	return l.typ == "row" || l.typ == "grid"
}

// place puts an element into a component: in the slot meant, else where it may stand,
// else what it holds, else after the component.
func (r *reader) place(e *screen.Element, c *kit.Component, el *screen.Element, slot string) {
	def, ok := r.k.Component(el.Type)
	if !ok {
		return
	}
	if s, ok := c.Slot("actions"); ok && slot == "" && def.Role == "action" {
		if _, ok := kit.Accepts(r.k, c, s.Name, def); ok {
			slot = s.Name
		}
	}
	slots := []string{slot}
	for _, s := range c.Slots {
		if s.Name != slot {
			slots = append(slots, s.Name)
		}
	}
	for _, name := range slots {
		s, ok := c.Slot(name)
		if !ok {
			continue
		}
		if _, ok := kit.Accepts(r.k, c, name, def); !ok {
			continue
		}
		n := 0
		for _, o := range e.Children {
			if o.Slot == name {
				n++
			}
		}
		if s.Max > 0 && n >= s.Max {
			continue
		}
		el.Slot = name
		e.Children = append(e.Children, el)
		return
	}
	// A text where only text may stand is the component's own.
	if el.Text.Kind == screen.Literal && len(el.Children) == 0 && c.TakesText() &&
		(def.Level == kit.Layout || def == r.component("text", "paragraph") || def.Heading != nil) {
		if e.Text.Text != "" {
			e.Text.Text += " "
		}
		e.Text = screen.Lit(e.Text.Text + el.Text.Text)
		return
	}
	// It stands in what it needs around it.
	for _, tag := range def.Parents {
		if w, ok := r.k.Component(tag); ok && r.mayStand(c, w) {
			if last := lastOf(e, tag); last != nil {
				r.place(last, w, el, "")
				return
			}
			around := &screen.Element{ID: el.ID + "w", Type: tag}
			r.place(around, w, el, "")
			r.place(e, c, around, slot)
			return
		}
	}
	if def.Level == kit.Layout && (len(el.Children) > 0 || el.Text.Kind != screen.None) {
		if el.Text.Kind == screen.Literal {
			e2 := &screen.Element{ID: el.ID + "t", Type: "stack"}
			if t := r.component("text", "paragraph"); t != nil {
				e2.Type, e2.Text = t.Tag, el.Text
				r.place(e, c, e2, slot)
			}
		}
		for _, ch := range el.Children {
			ch.Slot = ""
			r.place(e, c, ch, slot)
		}
		return
	}
	el.Slot = ""
	if len(def.Parents) > 0 {
		r.leftOut(def.Title+" of its own", "it stands only in "+strings.Join(def.Parents, " or ")+"; its text stays")
		if t := r.component("text", "paragraph"); t != nil {
			el = &screen.Element{ID: el.ID, Type: t.Tag, Text: el.Text, Children: nil}
		}
	}
	r.spilt = append(r.spilt, el)
	r.leftOut(def.Title+" in "+c.Title, "it may not stand there; it stands after it")
}

func lastOf(e *screen.Element, typ string) *screen.Element {
	if len(e.Children) > 0 && e.Children[len(e.Children)-1].Type == typ {
		return e.Children[len(e.Children)-1]
	}
	return nil
}

// plain keeps markup as it is, marked as such.
func (r *reader) plain(n *html.Node, in scope, why string) *screen.Element {
	e := &screen.Element{ID: r.idOf(n, ""), Type: Plain}
	tag := n.Data
	if !slices.Contains(plainTags(), tag) {
		tag = "div"
	}
	e.Props = []screen.Prop{{Name: "tag", Value: screen.Lit(tag)}}
	at := len(r.res.Guesses)
	if r.onlyInline(n) {
		if s := text(n); s != "" {
			e.Text = screen.Lit(s)
		}
	} else {
		e.Children = r.children(n, scope{})
		for _, c := range e.Children {
			c.Slot = ""
		}
	}
	r.guessAt(at, e, n, "plain markup", &found{certainty: 0.2, why: why})
	return e
}

// arrangement is how an element lays out what stands in it.
type arrangement struct {
	typ   string
	props []screen.Prop
}

var (
	spanWord = regexp.MustCompile(
		`^(?:col|column|span|cols|is)-(?:(xs|sm|md|lg|xl|small|medium|large)-)?(?:span-)?(\d{1,2})$`,
	)
	gridCols = regexp.MustCompile(`^(?:(?:xs|sm|md|lg|xl):)?(?:grid-cols|columns|cols|grid)-(\d)$`)
	repeatOf = regexp.MustCompile(`grid-template-columns:\s*repeat\((\d),`)
	fraction = regexp.MustCompile(`^(?:w|width|col|size)-(\d)/(\d{1,2})$`)
	gapWord  = regexp.MustCompile(`^(?:gap|space-[xy]|g)-(\d)$`)
	flexed   = regexp.MustCompile(`display:\s*(inline-)?flex`)
	gridded  = regexp.MustCompile(`display:\s*grid`)
)

func lit(name, value string) screen.Prop { return screen.Prop{Name: name, Value: screen.Lit(value)} }

// layoutOf reads from classes and styles how an element lays out its children.
func (r *reader) layoutOf(n *html.Node) arrangement {
	whole, parts := classes(n)
	style := strings.ToLower(attr(n, "style"))
	list := elements(n)
	spans := 0
	for _, c := range list {
		if spanOf(c) != "" {
			spans++
		}
	}
	gap := func(a arrangement) arrangement {
		for _, w := range whole {
			if m := gapWord.FindStringSubmatch(w); m != nil && m[1] != "0" {
				a.props = append(a.props, lit("gap", m[1]))
				break
			}
		}
		screen.SortProps(a.props)
		return a
	}
	if spans > 0 && spans*2 >= len(list) {
		return gap(arrangement{typ: "row"})
	}
	columns := ""
	for _, w := range whole {
		if m := gridCols.FindStringSubmatch(w); m != nil && m[1] >= "1" && m[1] <= "6" {
			columns = m[1]
		}
	}
	if m := repeatOf.FindStringSubmatch(style); m != nil && m[1] >= "1" && m[1] <= "6" {
		columns = m[1]
	}
	cards := 0
	for _, c := range list {
		if k := r.recognise(c, scope{}); k != nil &&
			(k.kind.name == "card" || k.kind.name == "picture" || k.kind.name == "stat") {
			cards++
		}
	}
	isGrid := columns != "" || gridded.MatchString(style) || slices.Contains(parts, "grid") ||
		slices.Contains(parts, "deck") ||
		slices.Contains(parts, "cards") ||
		slices.Contains(parts, "tiles") ||
		cards >= 3 && cards == len(list)
	if isGrid && len(list) > 1 {
		a := arrangement{typ: "grid"}
		if columns != "" {
			a.props = append(a.props, lit("columns", columns))
		}
		return gap(a)
	}
	across := flexed.MatchString(style) && !strings.Contains(style, "column") ||
		slices.ContainsFunc(whole, func(w string) bool {
			return slices.Contains(
				[]string{
					"flex",
					"d-flex",
					"inline-flex",
					"hstack",
					"flex-row",
					"horizontal",
					"row",
					"inline",
					"cluster",
					"level",
					"media",
					"bar",
					"toolbar",
					"actions",
					"buttons",
					"filters",
				},
				w,
			)
		}) && !slices.Contains(whole, "flex-col") && !slices.Contains(whole, "flex-column")
	if across && len(list) > 1 {
		a := arrangement{typ: "stack", props: []screen.Prop{lit("direction", "across")}}
		if slices.ContainsFunc(
			whole,
			func(w string) bool { return strings.HasSuffix(w, "-between") || w == "space-between" },
		) ||
			strings.Contains(style, "space-between") {
			a.props = append(a.props, lit("spread", "between"))
		}
		if slices.ContainsFunc(
			whole,
			func(w string) bool { return w == "items-center" || w == "align-items-center" || w == "align-center" },
		) ||
			strings.Contains(style, "align-items:center") ||
			strings.Contains(style, "align-items: center") {
			a.props = append(a.props, lit("align", "center"))
		}
		if slices.Contains(whole, "flex-wrap") || strings.Contains(style, "wrap") {
			a.props = append(a.props, screen.Prop{Name: "wrap", Value: screen.FlagValue(true)})
		}
		return gap(a)
	}
	if n.Data == "p" || ownText(n) && len(list) > 0 { // words with other things between them
		return arrangement{
			typ: "stack",
			props: []screen.Prop{
				lit("align", "center"),
				lit("direction", "across"),
				lit("gap", "1"),
				{Name: "wrap", Value: screen.FlagValue(true)},
			},
		}
	}
	switch n.Data {
	case "main", "aside", "header", "footer":
		return gap(arrangement{typ: "section", props: []screen.Prop{lit("region", n.Data)}})
	case "section", "article":
		return gap(arrangement{typ: "section"})
	}
	return gap(arrangement{typ: "stack"})
}

// spanOf is how many of twelve columns an element's classes give it.
func spanOf(n *html.Node) string {
	whole, _ := classes(n)
	best := ""
	for _, w := range whole {
		if m := spanWord.FindStringSubmatch(w); m != nil {
			if v, _ := strconv.Atoi(m[2]); v >= 1 && v <= 12 {
				best = m[2]
			}
		}
		if m := fraction.FindStringSubmatch(w); m != nil {
			a, _ := strconv.Atoi(m[1])
			b, _ := strconv.Atoi(m[2])
			if b > 0 && a > 0 && 12*a%b == 0 && a <= b {
				best = strconv.Itoa(12 * a / b)
			}
		}
		if w == "col" || w == "column" {
			if best == "" {
				best = "auto"
			}
		}
	}
	return best
}

var demoWords = []string{
	"example",
	"demo",
	"preview",
	"sample",
	"playground",
	"snippet",
	"container",
	"wrapper",
	"page",
	"root",
	"app",
	"outer",
	"inner",
	"site",
	"layout",
}

// layout builds what is no component: an arrangement of what stands in it, nothing
// where it is empty, and only its content where it is a wrapper.
func (r *reader) layout(n *html.Node, in scope) []*screen.Element {
	switch n.Data {
	case "video", "audio", "canvas", "details", "map", "math", "select", "option", "svg", "source":
		if n.Data == "svg" || n.Data == "source" {
			r.leftOut("<"+n.Data+">", "a drawing that is no icon of the kit; bring it in as an icon of your own")
			return nil
		}
		return []*screen.Element{r.plain(n, in, "nothing tells what it is")}
	}
	spilt := r.spilt
	r.spilt = nil
	children := r.children(n, in)
	r.spilt = spilt
	if len(children) == 0 {
		if _, parts := classes(n); len(parts) > 0 || n.Data == "div" {
			r.leftOut("an empty "+excerpt(n), "spacing is the layout's")
		}
		return nil
	}
	a := r.layoutOf(n)
	_, parts := classes(n)
	demo := slices.ContainsFunc(parts, func(p string) bool { return slices.Contains(demoWords, p) })
	if demo && n.Data == "div" && a.typ == "stack" && n.Parent != nil && n.Parent.Data == "body" {
		r.leftOut(excerpt(n), "only a wrapper around the rest")
		return children
	}
	if len(children) == 1 &&
		(a.typ == "stack" || a.typ == "section" && n.Data != "main" && n.Data != "section" || a.typ == "grid") &&
		spanOf(n) == "" {
		return children
	}
	e := &screen.Element{ID: r.idOf(n, ""), Type: a.typ, Props: a.props, Children: children}
	if a.typ == "row" {
		e.Children = r.columns(n, children)
	}
	for _, c := range e.Children {
		c.Slot = ""
	}
	r.name(e, n)
	return []*screen.Element{e}
}

// columns puts what stands in a row into columns with the spans of the markup.
func (r *reader) columns(n *html.Node, children []*screen.Element) []*screen.Element {
	var out []*screen.Element
	for _, ch := range elements(n) {
		id := r.idOf(ch, "")
		var own []*screen.Element
		for _, c := range children {
			// What was made of this child, or of what stands in it.
			if r.madeOf(c.ID, ch) {
				own = append(own, c)
			}
		}
		if len(own) == 0 {
			continue
		}
		span := spanOf(ch)
		col := &screen.Element{ID: id + "c", Type: "column", Children: own}
		if span != "" && span != "auto" {
			// Narrow screens have one column, as the markup means by naming a width.
			col.Props = []screen.Prop{
				{Name: "span", Value: screen.Value{Kind: screen.Literal, Text: "12"}},
				{Name: "span@640", Value: screen.Value{Kind: screen.Literal, Text: span}},
			}
		}
		if len(own) == 1 && own[0].ID == id && (own[0].Type == "stack" || own[0].Type == "section") &&
			own[0].Type != "row" {
			col.Children = own[0].Children
		}
		for _, c := range col.Children {
			c.Slot = ""
		}
		out = append(out, col)
	}
	return out
}

func (r *reader) madeOf(id string, n *html.Node) bool {
	if strings.TrimRight(
		id,
		"abcdefghijklmnopqrstuvwxyz",
	) == strings.TrimRight(
		r.idOf(n, ""),
		"abcdefghijklmnopqrstuvwxyz",
	) {
		return true
	}
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		if r.madeOf(id, c) {
			return true
		}
	}
	return false
}

func (r *reader) iconIn(n *html.Node) *html.Node {
	for _, c := range elements(n) {
		if f := r.recognise(c, scope{}); f != nil && f.kind.name == "icon" {
			return c
		}
		if i := r.iconIn(c); i != nil {
			return i
		}
	}
	return nil
}

// iconWords are the words by which an icon may be found.
func iconWords(n *html.Node) []string {
	whole, parts := classes(n)
	var out []string
	for _, w := range whole {
		for _, cut := range []string{"icon-", "ico-", "i-", "glyph-"} {
			if rest, ok := strings.CutPrefix(w, cut); ok {
				out = append(out, rest)
			}
		}
	}
	out = append(out, parts...)
	for _, s := range []string{attr(n, "aria-label"), attr(n, "title"), attr(n, "name"), attr(n, "data-icon"), text(n)} {
		out = append(out, strings.Fields(strings.ToLower(s))...)
	}
	for _, c := range elements(n) {
		if c.Data == "use" {
			_, id, _ := strings.Cut(attr(c, "href")+attr(c, "xlink:href"), "#")
			out = append(out, id, strings.TrimPrefix(id, "icon-"))
		}
		if c.Data == "title" {
			out = append(out, strings.Fields(strings.ToLower(text(c)))...)
		}
	}
	return slices.DeleteFunc(out, func(w string) bool { return w == "" || w == "icon" })
}
