package lower

import (
	"cmp"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/render"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Component is a screen, shell or piece.
type Component struct {
	Kind               screen.DocKind
	ID, Name, Title    string
	TitleKey           string // of its title, where texts have files of their own
	Route              string
	Folder             string   // screens, shells or pieces; a piece with one user stands beside it
	Params             []string // parameters of the route
	UsesParams         bool
	Props              []Prop
	Record             *Model // of the record that a piece stands for; nil where it speaks of none
	States             []string
	Stateful           bool
	Controls           []Control // those whose value is followed
	Targets            []*Target
	Refs               []Ref
	Lists              []List // that it reads
	Statuses           []string
	Derived            []Derived
	Loads              []Load
	Pieces             []string // used in it
	Forms              []Form
	Faults             []string // what is kept of fields that do not hold what they are asked for
	ShowsFaults        bool
	Checks             []*Check
	Root               []Node
	Outlets            []string // of a piece, by their names
	Names              *emit.Names
	doc                *screen.Document
	InShell, ManyRoots bool
}

// Own is the name that own code of a screen goes by: "Tickets" of TicketsScreen.
func (c *Component) Own() string { return strings.TrimSuffix(c.Name, "Screen") }

// Address is that of the document it is made of.
func (c *Component) Address() string { return c.doc.Address() }

// List is a model's list with the name it has in a component.
type List struct{ Model, Var string }

// Prop is a setting of a piece.
type Prop struct {
	Name, Type string
	Default    emit.Expr // nil where there is none
}

// Control is a named control whose value is followed.
type Control struct {
	Name, Type string
	Usual      emit.Expr
	Prop       string // of a piece, by which it is given and told; empty where the piece keeps it to itself
}

// Target is what is opened and closed.
type Target struct {
	Key   string
	Each  bool      // one for each record
	Usual emit.Expr // whether it is open at first
	Fixed bool      // that is known beforehand
}

// Ref is an element that own code reaches by its stable name.
type Ref struct {
	Name, Var string
	Tag       Tag
}

// Derived is a list made of another: what passes, or a page of it.
type Derived struct {
	Var, Type string
	Code      emit.Expr
}

// Load asks a source for records; what it asks for are controls by their names.
type Load struct {
	Model  string
	Params []string
}

// Form is a form with the names and types of what is filled in.
type Form struct {
	Name   string
	Fields []FormField
}

// FormField is one value that a form hands over.
type FormField struct {
	Name, Type string
	Holds      string // the property of the control with the value
	Read       bool   // the value is a text that is read as a number
}

// Node is *El, *Each, Words or *Outlet.
type Node interface{ isNode() }

// Words are text.
type Words struct{ Of emit.Expr }

// Outlet is where something else stands: of a shell the screen, of a piece what it is
// given.
type Outlet struct {
	Name string
	Slot string
	If   emit.Expr
}

// Each stands once for each record.
type Each struct {
	Item, Type string
	Of         emit.Expr
	Body       []Node
}

// El is an element.
type El struct {
	ID     string
	Tag    Tag
	Slot   string    // of the parent
	Filled bool      // its parent is a framework's component, which is handed what stands in its slots
	Class  emit.Expr // of a layout
	If     emit.Expr
	Attrs  []Attr
	On     []On
	Ref    string // a Ref's Var
	Own    string // stable name
	Kids   []Node
	Fills  []Fill // of a piece with outlets: what stands in each
	Tells  []Tell // of a piece: what its controls hold, kept here
	Root   bool   // the outermost of a piece: it takes the slot that the piece stands in
}

// Fill is what stands in an outlet of a piece.
type Fill struct {
	Outlet string
	Kids   []Node
}

func (Words) isNode()   {}
func (*Outlet) isNode() {}
func (*Each) isNode()   {}
func (*El) isNode()     {}

// Tag is what an element is written as.
type Tag struct {
	Name   string // "div", "sorrel-button", "Tabs.List", or the name of a piece's component
	Module string // that gives it, of a framework's component
	Piece  string // id of the piece
	Custom bool   // an element of the kit
	Any    emit.Expr
	Def    *kit.Component
}

// Taken is what has to be imported of its module, how that is called, and what of it the tag is:
// of "Tabs.List" it is "Tabs", "Tabs" and ".List".
func (t Tag) Taken() (what, called, of string) {
	called, of, dotted := strings.Cut(t.Name, ".")
	if dotted {
		of = "." + of
	}
	if t.Def != nil && t.Def.Default {
		return "default", called, of
	}
	return called, called, of
}

// Attr is a setting.
type Attr struct {
	Prop  string // property, or the component's prop
	Attr  string // attribute; empty where only the property carries it
	Value emit.Expr
	Def   *kit.Prop
}

// Static is the value as a text, where it is one.
func (a Attr) Static() (string, bool) {
	s, ok := a.Value.(emit.Str)
	return string(s), ok
}

// On is what happens at an event.
type On struct {
	Event string
	Acts  []Act
	Cases []Case   // in other states
	Hold  *Control // keeps what the control holds
	Holds *kit.Prop
	Form  *Form
	Check *Check // nothing happens unless it finds nothing wrong
}

// Case is what happens in one state.
type Case struct {
	State string
	Acts  []Act
}

// Act is one thing that happens.
type Act struct {
	Verb   string
	To     string // route, state or theme
	Target *Target
	Key    emit.Expr // id of the record, of a target for each
	Value  emit.Expr // that a control is set to
	List   string    // of the record that is touched, Key being its id
	Set    emit.Expr // the fields of the record that become something else; nil where it goes
}

type scope struct {
	model, around *sample.Model
	record, outer emit.Expr
	each          bool
	items         []string // names of the records around
}

type builder struct {
	p        *program
	c        *Component
	doc      *screen.Document
	over     map[string][]screen.PieceProp
	props    []screen.PieceProp
	variants map[*screen.Element]variant
	targets  map[string]*Target
	lent     *resolve.Names
	lends    map[string]string // controls of a piece that are told, with the props that do it
	matching map[*screen.Element]emit.Expr
	lists    map[string]string
	checks   map[*screen.Element][]*asked
	blames   map[*screen.Element]map[string]blame
	alone    bool
	compared map[string]map[string]bool
}

func (p *program) builder(d *screen.Document) *builder {
	name := p.nameOf(d.Kind, d.ID)
	b := &builder{
		p: p, doc: d,
		c:        &Component{Kind: d.Kind, ID: d.ID, Name: name, Title: d.Title, TitleKey: titleKey(p.in, d), Route: d.Route, doc: d, Names: &emit.Names{}},
		variants: map[*screen.Element]variant{}, targets: map[string]*Target{},
		matching: map[*screen.Element]emit.Expr{}, lists: map[string]string{},
		checks: map[*screen.Element][]*asked{}, blames: map[*screen.Element]map[string]blame{},
	}
	b.c.Names.Keep(known...)
	b.c.Names.Keep("setControls", "setOpened", name)
	for part := range strings.SplitSeq(d.Route, "/") {
		if p, ok := strings.CutPrefix(part, ":"); ok && emit.IsIdentifier(p) {
			b.c.Params = append(b.c.Params, p)
		}
	}
	return b
}

func (p *program) component(d *screen.Document) *Component {
	b := p.builder(d)
	c := b.c
	sc := scope{}
	if d.Kind == screen.PieceDoc {
		c.InShell = p.shells[d.ID]
		b.props = append(slices.Clone(d.Props), reached(p.in, d)...)
		b.over = map[string][]screen.PieceProp{}
		for _, prop := range b.props {
			b.over[prop.Element] = append(b.over[prop.Element], prop)
			c.Names.Keep(propName(prop.Name))
		}
		if m := p.around[d.ID]; m != nil && speaksOf(d.Root, "record") {
			c.Record = p.models[m.ID]
			c.Names.Keep("record")
			sc = scope{model: m, record: emit.Read{What: "prop", Name: "record"}}
		}
	}
	c.InShell = c.InShell || d.Kind == screen.ShellDoc
	root := b.united()
	b.ownNames(root)
	b.aimed(root)
	b.ask(root)
	if root.Type == "parts" {
		c.ManyRoots = true
		for _, child := range root.Children {
			c.Root = append(c.Root, b.element(child, sc)...)
		}
	} else {
		c.Root = b.element(root, sc)
	}
	for _, n := range c.Root {
		if e, ok := n.(*El); ok {
			e.Root = d.Kind == screen.PieceDoc
		}
	}
	if d.Kind == screen.PieceDoc {
		b.pieceProps()
	}
	b.controls()
	b.loads()
	return c
}

// literal is what a control holds, as code.
func literal(v any) emit.Expr {
	switch v := v.(type) {
	case bool:
		return emit.Name(strconv.FormatBool(v))
	case float64:
		return emit.Name(strconv.FormatFloat(v, 'f', -1, 64))
	case string:
		return emit.Str(v)
	}
	return emit.Str("")
}

func controlOf(name string, c resolve.Control) Control {
	out := Control{Name: name, Type: "string"}
	out.Usual = literal(c.Usual)
	switch c.Usual.(type) {
	case bool:
		out.Type = "boolean"
	case float64:
		out.Type = "number"
	}
	return out
}

// loads notes the sources whose records the component shows, be it by a list made of them.
func (b *builder) loads() {
	if b.c.Kind != screen.ScreenDoc {
		return
	}
	need := map[string]bool{}
	var reach func(id string)
	reach = func(id string) {
		m := b.p.models[id]
		if m == nil || need[id] {
			return
		}
		need[id] = true
		if m.Query != nil {
			reach(m.Query.From)
		}
		for _, n := range m.Needs {
			reach(n)
		}
	}
	for _, l := range b.c.Lists {
		reach(l.Model)
	}
	for _, id := range slices.Sorted(maps.Keys(need)) {
		m := b.p.models[id]
		if m.Source == nil {
			continue
		}
		l := Load{Model: id}
		for _, param := range m.Source.Parameters() {
			if b.lent != nil && b.lent.Kinds[param] != expr.Any {
				l.Params = append(l.Params, param)
			}
		}
		if len(l.Params) > 0 {
			b.c.Loads = append(b.c.Loads, l)
		}
	}
}

// list is a model's list as the component reads it.
func (b *builder) list(model string) emit.Expr {
	if b.alone {
		return emit.Name(emit.Camel(model))
	}
	v, ok := b.lists[model]
	if !ok {
		name := emit.Camel(model)
		if m := b.p.models[model]; m != nil {
			name = m.List
		}
		v = b.c.Names.Take(name)
		b.lists[model] = v
		b.c.Lists = append(b.c.Lists, List{model, v})
	}
	return emit.Read{What: "list", Name: v}
}

func (b *builder) translator(sc scope) *translator {
	if b.compared == nil {
		b.compared = map[string]map[string]bool{}
	}
	return &translator{
		p: b.p, record: sc.record, outer: sc.outer, compared: b.compared, around: sc.items,
		local: func(m *sample.Model, around []string) string { return b.item(m, scope{items: around}) },
	}
}

// expression translates a source in a scope; one that does not compile becomes an empty
// text with the reason noted, so that the rest still builds.
func (b *builder) expression(e *screen.Element, source string, sc scope) translated {
	s := deliver.Scope(b.p.in, sc.model, sc.around)
	if b.lent != nil {
		s = b.lent.In(s)
	}
	s.Route = b.c.Params
	if b.alone {
		return translated{code: emit.Name(harmless(source)), typ: expr.Type{Kind: expr.Text}}
	}
	got, err := b.translator(sc).compile(source, s)
	if err != nil {
		b.p.note(b.doc, e.ID, "an expression is left out: %s", err)
		return translated{code: undefined, maybe: true, typ: expr.Type{Kind: expr.Text}}
	}
	got.code = emit.Map(got.code, func(part emit.Expr) emit.Expr {
		r, ok := part.(emit.Read)
		if !ok {
			return part
		}
		switch r.What {
		case "list":
			if b.p.models[r.Name] != nil {
				return b.list(r.Name)
			}
		case "param":
			b.c.UsesParams = true
		case "status":
			if !slices.Contains(b.c.Statuses, r.Name) {
				b.c.Statuses = append(b.c.Statuses, r.Name)
			}
		case "count":
			return b.count(r.Name)
		case "pages":
			return call("pages", b.count(r.Name), emit.Name(strconv.Itoa(b.lent.Repeats[r.Name].Repeat.Limit)))
		}
		return part
	})
	return got
}

// harmless is an expression as it can stand in code that is only looked at.
func harmless(source string) string {
	return strings.NewReplacer("{{", "{ {", "}}", "} }", "`", "'", "<", "‹", "/*", "", "*/", "").Replace(strings.Join(strings.Fields(source), " "))
}

// count is how many records of a named repeat pass, whatever page is shown.
func (b *builder) count(name string) emit.Expr {
	e := b.lent.Repeats[name]
	return emit.Member{Of: b.passing(e), Name: "length"}
}

// passing is the list of what passes a repeat that stands in no other: kept under a name
// where it is not the whole list, so that it is filtered once.
func (b *builder) passing(e *screen.Element) emit.Expr {
	if made, ok := b.matching[e]; ok {
		return made
	}
	m := b.p.in.Models[e.Repeat.Model]
	if m == nil {
		return emit.List{}
	}
	b.matching[e] = emit.List{} // what counts itself counts nothing
	code, whole := b.passes(e, m, scope{})
	if !whole {
		code = b.derive("matching "+b.p.models[m.ID].List, b.p.models[m.ID].Type, code)
	}
	b.matching[e] = code
	return code
}

func (b *builder) derive(name, typ string, code emit.Expr) emit.Expr {
	v := b.c.Names.Take(emit.Camel(name))
	b.c.Derived = append(b.c.Derived, Derived{v, typ + "[]", code})
	return emit.Read{What: "derived", Name: v}
}

// item names the record of a repeat.
func (b *builder) item(m *sample.Model, sc scope) string {
	name := "item"
	if b.p.in.Models[m.ID] == m {
		name = emit.Camel(singular(m))
		if known := b.p.models[m.ID]; known != nil && known.List == name {
			name = "entry"
		}
	}
	return b.c.Names.Local(name, sc.items)
}

// passes writes what passes a repeat in its order; whole says that it is the list itself.
func (b *builder) passes(e *screen.Element, m *sample.Model, sc scope) (code emit.Expr, whole bool) {
	r := e.Repeat
	name, ofField := sample.OverField(r.Model)
	switch {
	case !ofField:
		code, whole = b.list(m.ID), true
	case b.p.in.Models[m.ID] == m:
		code = call("findAll", b.list(m.ID), emit.Member{Of: sc.record, Name: name})
	default:
		code = call("items", emit.Member{Of: sc.record, Name: name})
	}
	if r.Where != "" {
		item := b.item(m, sc)
		inner := scope{model: m, around: sc.model, record: emit.Name(item), outer: sc.record, items: append(slices.Clone(sc.items), item)}
		where := b.expression(e, r.Where, inner)
		if where.code != emit.Expr(undefined) {
			code, whole = emit.Call{
				Fn:   emit.Member{Of: code, Name: "filter"},
				Args: []emit.Expr{emit.Arrow{Params: []string{item}, Of: where.condition()}},
			}, false
		}
	}
	if source, computed := sample.Computed(r.Sort); computed {
		code, whole = call("sorted", code, b.expression(e, source, sc).filled()), false
	} else if r.Sort != "" {
		code, whole = call("sorted", code, emit.Str(r.Sort)), false
	}
	return code, whole
}

// rows writes the records that a repeat shows.
func (b *builder) rows(e *screen.Element, m *sample.Model, sc scope) emit.Expr {
	r := e.Repeat
	var code emit.Expr
	_, ofField := sample.OverField(r.Model)
	order, _ := sample.Computed(r.Sort)
	inline := ofField || sc.record != nil && (speaks(r.Where, "outer") || speaks(order, "record") || b.lent == nil)
	if inline {
		code, _ = b.passes(e, m, sc)
	} else {
		code = b.passing(e)
	}
	page := resolve.Identifier(r.Page)
	switch {
	case r.Limit <= 0:
		return code
	case r.Page != "" && b.lent != nil && b.lent.Kinds[page] == expr.Number:
		code = call("pageOf", code, emit.Name(strconv.Itoa(r.Limit)), emit.Read{What: "control", Name: page})
	default:
		code = emit.Call{Fn: emit.Member{Of: code, Name: "slice"}, Args: []emit.Expr{emit.Name("0"), emit.Name(strconv.Itoa(r.Limit))}}
	}
	if inline {
		return code
	}
	return b.derive("shown "+b.p.models[m.ID].List, b.p.models[m.ID].Type, code)
}

func (b *builder) element(e *screen.Element, sc scope) []Node {
	if e.Repeat == nil {
		return b.once(e, sc)
	}
	m := sample.Over(e.Repeat.Model, sc.model, b.p.in.Models)
	if b.alone {
		return b.once(e, sc)
	}
	if m == nil {
		b.p.note(b.doc, e.ID, "%s; it is left out", resolve.NoModel(e.Repeat.Model))
		return nil
	}
	each := &Each{Of: b.rows(e, m, sc), Item: b.item(m, sc), Type: "{ id: string; value: string }"}
	if known := b.p.models[m.ID]; b.p.in.Models[m.ID] == m {
		each.Type = known.Type
	}
	each.Body = b.once(e, scope{model: m, around: sc.model, record: emit.Name(each.Item), outer: sc.record, each: true, items: append(slices.Clone(sc.items), each.Item)})
	return []Node{each}
}

func (b *builder) once(e *screen.Element, sc scope) []Node {
	if e.Type == "outlet" {
		if b.c.Kind == screen.PieceDoc {
			b.c.Outlets = append(b.c.Outlets, e.Name)
		}
		return []Node{&Outlet{Name: e.Name, Slot: e.Slot, If: b.shown(e, sc)}}
	}
	el := &El{ID: e.ID, Slot: e.Slot}
	b.compared = map[string]map[string]bool{}
	el.If = b.shown(e, sc)
	b.settings(el, e, sc)
	if words := b.words(e, sc); words != nil {
		says, plain := words.(emit.Str)
		if n := len(el.Kids); n > 0 && plain { // what is unknown says so first
			if first, ok := el.Kids[n-1].(Words).Of.(emit.Str); ok {
				el.Kids, words = el.Kids[:n-1], first+says
			}
		}
		el.Kids = append(el.Kids, Words{words})
	}
	if piece := b.p.in.Pieces[el.Tag.Piece]; piece != nil {
		el.Fills = b.fills(e, piece, sc)
		return []Node{el}
	}
	for _, c := range e.Children {
		el.Kids = append(el.Kids, b.element(c, sc)...)
	}
	if el.Tag.Module != "" {
		filled(el.Kids)
	}
	b.places(el, e)
	return []Node{el}
}

// filled marks what a framework's component is handed, by the slot it stands in.
func filled(kids []Node) {
	for _, n := range kids {
		switch x := n.(type) {
		case *El:
			x.Filled = true
		case *Each:
			filled(x.Body)
		}
	}
}

// places leaves out what stands in a framework's component where that takes nothing: code
// with it would not compile.
func (b *builder) places(el *El, e *screen.Element) {
	def := el.Tag.Def
	if el.Tag.Module == "" || b.alone {
		return
	}
	el.Kids = slices.DeleteFunc(el.Kids, func(n Node) bool {
		slot := ""
		switch x := n.(type) {
		case *El:
			slot = x.Slot
		case *Outlet:
			slot = x.Slot
		case *Each:
			if inner, ok := x.Body[0].(*El); ok {
				slot = inner.Slot
			}
		}
		_, takes := def.Slot(slot)
		if slot == "" && !takes {
			_, takes = def.Slot("children")
		}
		if takes {
			return false
		}
		what := "what stands in it"
		if w, ok := n.(Words); ok {
			what = "its text"
			if s, ok := w.Of.(emit.Str); ok {
				what = fmt.Sprintf("the text %q", string(s))
			}
		}
		where := ""
		if slot != "" {
			where = " at " + slot
		}
		b.p.note(b.doc, e.ID, "%s takes nothing%s; %s is left out", def.Title, where, what)
		return true
	})
}

// fills are what stands in the outlets of a piece. Where the outlet stands in a slot of
// the kit, so does what fills it.
func (b *builder) fills(e *screen.Element, piece *screen.Document, sc scope) []Fill {
	var out []Fill
	piece.Root.Walk(func(o, in *screen.Element) bool {
		if o.Type != "outlet" {
			return true
		}
		f := Fill{Outlet: o.Name}
		for _, c := range e.Children {
			if c.Slot != o.Name {
				continue
			}
			into := *c
			into.Slot = o.Slot
			if v, ok := b.variants[c]; ok {
				b.variants[&into] = v
			}
			f.Kids = append(f.Kids, b.element(&into, sc)...)
		}
		if in != nil {
			if def, ok := b.p.in.Cat.Component(in.Type); ok && def.Export != "" {
				filled(f.Kids)
			}
		}
		if len(f.Kids) > 0 {
			out = append(out, f)
		}
		return true
	})
	return out
}

// words are an element's text; nil where it has none.
func (b *builder) words(e *screen.Element, sc scope) emit.Expr {
	for _, p := range b.over[e.ID] {
		if p.Prop == "" {
			return emit.Read{What: "prop", Name: propName(p.Name)}
		}
	}
	text := func(e *screen.Element) emit.Expr {
		if code, ok := b.said(e, "", e.Text, sc); ok {
			return code
		}
		switch e.Text.Kind {
		case screen.None:
			return emit.Str("")
		case screen.Expr:
			return b.expression(e, e.Text.Text, sc).text()
		}
		return emit.Str(e.Text.Text)
	}
	if code, ok := b.varying(e, text); ok {
		return code
	}
	if code := text(e); code != emit.Expr(emit.Str("")) {
		return code
	}
	return nil
}

// shown is the condition under which an element stands; nil where it always does.
func (b *builder) shown(e *screen.Element, sc scope) emit.Expr {
	var list []emit.Expr
	if in := b.variants[e].in; in != nil {
		list = append(list, b.stands(in))
	}
	for _, p := range b.over[e.ID] {
		if p.Prop == screen.ShowProp {
			list = append(list, emit.Read{What: "prop", Name: propName(p.Name)})
		}
	}
	one := func(e *screen.Element) emit.Expr {
		if e.Show == "" {
			return emit.Name("true")
		}
		return b.expression(e, e.Show, sc).condition()
	}
	if code, ok := b.varying(e, one); ok {
		list = append(list, code)
	} else if e.Show != "" {
		list = append(list, one(e))
	}
	if len(list) == 0 {
		return nil
	}
	out := list[0]
	for _, c := range list[1:] {
		out = emit.Binary{Op: "&&", L: out, R: c}
	}
	return out
}

// settings writes what an element is and how it is set.
func (b *builder) settings(el *El, e *screen.Element, sc scope) {
	def, known := b.p.in.Cat.Component(e.Type)
	if e.Name != "" && !b.alone {
		el.Own = e.Name
	}
	switch {
	case !known:
		el.Tag, el.Class = Tag{Name: "div"}, emit.Str("u-unknown")
		el.Kids = append(el.Kids, Words{emit.Str("Unknown here: " + e.Type)})
		b.p.note(b.doc, e.ID, "the kit has no %s; an empty box stands for it", e.Type)
	case def.Level == kit.Layout:
		b.layout(el, e, def)
	case def.Level == kit.Piece:
		b.piece(el, e, def, sc)
	default:
		b.component(el, e, def, sc)
	}
	if el.Own != "" && !sc.each && e.Repeat == nil && b.c.Kind == screen.ScreenDoc {
		taken := slices.IndexFunc(b.c.Refs, func(r Ref) bool { return r.Name == e.Name })
		if taken < 0 {
			b.c.Refs = append(b.c.Refs, Ref{Name: e.Name, Var: emit.Camel(e.Name), Tag: el.Tag})
			taken = len(b.c.Refs) - 1
		}
		el.Ref = b.c.Refs[taken].Var // one of several states is there at a time
	}
}

func (b *builder) layout(el *El, e *screen.Element, def *kit.Component) {
	node := func(e *screen.Element) *resolve.Node {
		n := &resolve.Node{Type: e.Type, Component: def}
		for _, p := range e.Props {
			n.Props = append(n.Props, literalProp(p))
		}
		for range e.Children {
			n.Children = append(n.Children, nil)
		}
		return n
	}
	el.Tag = Tag{Name: render.TagOf(node(e)), Def: def}
	if region, ok := e.Prop("region"); ok && slices.Contains([]string{"header", "main", "footer", "nav", "aside", "section"}, region.Text) {
		el.Tag.Name = region.Text
	}
	classes := func(e *screen.Element) emit.Expr {
		return emit.Str(strings.Join(render.Classes(node(e)), " "))
	}
	var ok bool
	if el.Class, ok = b.varying(e, classes); !ok {
		el.Class = classes(e)
	}
}

func (b *builder) piece(el *El, e *screen.Element, def *kit.Component, sc scope) {
	id := strings.TrimPrefix(e.Type, screen.PiecePrefix)
	el.Tag = Tag{Name: b.p.nameOf(screen.PieceDoc, id), Piece: id, Def: def}
	if !slices.Contains(b.c.Pieces, id) && !b.alone {
		b.c.Pieces = append(b.c.Pieces, id)
	}
	if piece := b.p.in.Pieces[id]; piece != nil && b.p.around[id] != nil && speaksOf(piece.Root, "record") {
		if sc.model != nil && b.p.around[id].ID == sc.model.ID {
			el.Attrs = append(el.Attrs, Attr{Prop: "record", Attr: "record", Value: sc.record})
		} else {
			b.p.note(b.doc, e.ID, "the piece %s speaks of a record of %s, and none is here", id, b.p.around[id].ID)
		}
	}
	for _, p := range b.propsOf(e) {
		prop, ok := def.Prop(p.Name)
		if !ok {
			b.p.note(b.doc, e.ID, "the piece %s has no prop %s; it is left out", id, p.Name)
			continue
		}
		if value := b.setting(e, p, prop, sc); value != nil {
			el.Attrs = append(el.Attrs, Attr{Prop: propName(p.Name), Attr: propName(p.Name), Value: value, Def: prop})
		}
	}
	b.wired(el, e)
}

// setting is the value of a prop, which may differ by state; nil where it is left out.
func (b *builder) setting(e *screen.Element, p screen.Prop, prop *kit.Prop, sc scope) emit.Expr {
	safe := func(v screen.Value) bool {
		return !prop.URL || v.Kind != screen.Literal || render.SafeURL(v.Text)
	}
	one := func(e *screen.Element) emit.Expr {
		v, _ := e.Prop(p.Name)
		if !safe(v) {
			b.p.note(b.doc, e.ID, "the address of %s could run code; it is left out", p.Name)
			return undefined
		}
		return b.value(e, v, prop, sc)
	}
	if v := p.Value; v.Kind == screen.Literal && prop.Attr == "" && prop.Type == kit.Enum && len(prop.Values) > 0 && !prop.Takes(v.Text) && !b.alone {
		b.p.note(b.doc, e.ID, "%s takes %s, not %q; it is left out", prop.Name, strings.Join(prop.Values, ", "), v.Text)
		return nil
	}
	code, ok := b.varying(e, one)
	if !ok {
		code = one(&screen.Element{ID: e.ID, Props: []screen.Prop{p}})
		if code == emit.Expr(undefined) {
			return nil
		}
	}
	if _, fixed := code.(emit.Str); prop.URL && !fixed {
		code = call("url", code)
	}
	return code
}

// value writes a value in the type that code takes.
func (b *builder) value(e *screen.Element, v screen.Value, prop *kit.Prop, sc scope) emit.Expr {
	if code, ok := b.said(e, prop.Name, v, sc); ok {
		return code
	}
	switch v.Kind {
	case screen.None:
		return undefined
	case screen.Num, screen.Flag:
		return emit.Name(v.Text)
	case screen.Expr:
		got := b.expression(e, v.Text, sc)
		code := got.safe()
		if prop.Required && prop.Attr == "" && prop.Type == kit.Text && got.typ.Kind == expr.Text && (got.maybe || got.throws) {
			code = emit.Binary{Op: "??", L: code, R: emit.Str("")}
		}
		if prop.Type == kit.Enum && len(prop.Values) > 0 && prop.Attr == "" && got.typ.Kind == expr.Text && !literalChoice(code, prop) {
			code = call("chosen", code)
		}
		return code
	case screen.Token:
		if tok, ok := b.p.in.Kit.Tokens.Find(v.Text); ok {
			return emit.Str("var(" + tok.CSS + ")")
		}
		b.p.note(b.doc, e.ID, "there is no token %s; %s is left out", v.Text, prop.Name)
		return undefined
	}
	if prop.Attr == "" {
		if prop.JSON {
			if code, ok := data(v.Text); ok {
				return code
			}
		}
		if f, err := strconv.ParseFloat(v.Text, 64); err == nil && (prop.Numbers || prop.Type == kit.Number) {
			return emit.Name(strconv.FormatFloat(f, 'f', -1, 64))
		}
		if prop.Type == kit.Bool && (v.Text == "true" || v.Text == "false") {
			return emit.Name(v.Text)
		}
	}
	return emit.Str(v.Text)
}

// literalChoice tells whether an expression gives nothing but texts that a prop takes.
func literalChoice(e emit.Expr, prop *kit.Prop) bool {
	switch x := e.(type) {
	case emit.Str:
		return prop.Takes(string(x))
	case emit.Cond:
		return literalChoice(x.Then, prop) && literalChoice(x.Else, prop)
	}
	return false
}

// data writes JSON as code.
func data(text string) (emit.Expr, bool) {
	dec := json.NewDecoder(strings.NewReader(text))
	dec.UseNumber()
	var v any
	if dec.Decode(&v) != nil || dec.More() {
		return nil, false
	}
	return Literal(v), true
}

// Literal writes plain data as code: what JSON holds, with keys in order.
func Literal(v any) emit.Expr {
	switch x := v.(type) {
	case nil:
		return emit.Name("null")
	case string:
		return emit.Str(x)
	case bool:
		return emit.Name(strconv.FormatBool(x))
	case float64:
		return emit.Name(strconv.FormatFloat(x, 'f', -1, 64))
	case json.Number:
		return emit.Name(x.String())
	case sample.List:
		out := emit.List{}
		for _, item := range x.Items() {
			out.Of = append(out.Of, emit.Str(item))
		}
		return out
	case []any:
		out := emit.List{}
		for _, item := range x {
			out.Of = append(out.Of, Literal(item))
		}
		return out
	case map[string]any:
		out := emit.Object{}
		for _, k := range slices.Sorted(maps.Keys(x)) {
			out.Fields = append(out.Fields, emit.Field{Key: k, Value: Literal(x[k])})
		}
		return out
	}
	return undefined
}

func (b *builder) component(el *El, e *screen.Element, def *kit.Component, sc scope) {
	el.Tag = Tag{Name: def.Tag, Custom: true, Def: def}
	if def.Export != "" {
		el.Tag = Tag{Name: def.Export, Module: cmp.Or(def.Module, b.p.in.Kit.Name), Def: def}
	}
	over := map[string]emit.Expr{}
	for _, p := range b.over[e.ID] {
		read := emit.Read{What: "prop", Name: propName(p.Name)}
		switch p.Prop {
		case screen.ShowProp, "":
		case screen.KindProp:
			el.Tag.Any = read
		default:
			over[p.Prop] = read
		}
	}
	target := b.targets[e.ID]
	var holds *Control
	if b.follows() && e.Name != "" {
		name := resolve.Identifier(e.Name)
		if c, ok := b.lent.Controls[name]; ok && c.Use == nil && c.Element.ID == e.ID {
			one := b.control(name, c)
			holds = &one
			delete(over, c.Holds.Name)
			el.Attrs = append(el.Attrs, Attr{Prop: c.Holds.Name, Attr: c.Holds.Attr, Value: emit.Read{What: "control", Name: name}, Def: c.Holds})
			el.On = append(el.On, On{Event: c.At, Hold: holds, Holds: c.Holds})
		}
	}
	add := func(prop *kit.Prop, v emit.Expr) {
		el.Attrs = append(el.Attrs, Attr{Prop: prop.Name, Attr: prop.Attr, Value: v, Def: prop})
	}
	for _, p := range b.propsOf(e) {
		prop, ok := def.Prop(p.Name)
		switch {
		case p.Name == kit.Does:
		case !ok:
			b.p.note(b.doc, e.ID, "%s has no prop %s; it is left out", def.Title, p.Name)
		case p.Name == def.Holds && holds != nil, p.Name == "open" && target != nil,
			b.c.InShell && p.Name == "active" && def.Role == "link":
		case over[p.Name] != nil:
			v := over[p.Name]
			if prop.URL {
				v = call("url", v)
			}
			add(prop, v)
			delete(over, p.Name)
		default:
			if v := b.setting(e, p, prop, sc); v != nil {
				add(prop, v)
			}
		}
	}
	for _, name := range slices.Sorted(maps.Keys(over)) {
		if prop, ok := def.Prop(name); ok {
			v := over[name]
			if prop.URL {
				v = call("url", v)
			}
			add(prop, v)
		}
	}
	if def.Export != "" && !b.alone { // code without would not compile
		for i := range def.Props {
			prop := &def.Props[i]
			_, slot := def.Slot(prop.Name)
			if !prop.Required || slot || slices.ContainsFunc(el.Attrs, func(a Attr) bool { return a.Prop == prop.Name }) {
				continue
			}
			if prop.Type == kit.Text && !prop.JSON {
				b.p.note(b.doc, e.ID, "%s needs %s; an empty text stands for it", def.Title, prop.Name)
				add(prop, emit.Str(""))
			} else {
				b.p.note(b.doc, e.ID, "%s needs %s, and it is not set; the code will not compile without", def.Title, prop.Name)
			}
		}
	}
	if target != nil {
		b.opening(el, e, def, target, sc)
	}
	b.blamedProps(el, e, def)
	b.doing(el, e, def, sc)
	b.active(el, e, def)
	b.form(el, e, def)
	if c := b.check(e, sc); c != nil {
		at := slices.IndexFunc(el.On, func(on On) bool { return on.Event == def.Answers })
		if at < 0 {
			at, el.On = len(el.On), append(el.On, On{Event: def.Answers})
		}
		el.On[at].Check = c
	}
}

// active marks a place of the navigation that leads to the route that is shown.
func (b *builder) active(el *El, e *screen.Element, def *kit.Component) {
	if !b.c.InShell || def.Role != "link" {
		return
	}
	p, ok := def.Prop("active")
	if !ok || p.Type != kit.Bool {
		return
	}
	var code emit.Expr
	if to, ok := e.Prop("to"); ok && to.Kind == screen.Literal {
		code = emit.Str(to.Text)
	}
	for _, over := range b.over[e.ID] {
		if over.Prop == "to" {
			code = emit.Read{What: "prop", Name: propName(over.Name)}
		}
	}
	if code != nil {
		el.Attrs = append(el.Attrs, Attr{
			Prop: p.Name, Attr: p.Attr, Def: p,
			Value: call("active", emit.Read{What: "path"}, code),
		})
	}
}

// form has a form hand its values to own code.
func (b *builder) form(el *El, e *screen.Element, def *kit.Component) {
	if b.c.Kind != screen.ScreenDoc || b.alone || !def.IsForm() {
		return
	}
	name := "form"
	if e.Name != "" {
		name = emit.Camel(e.Name)
	}
	for n := 2; slices.ContainsFunc(b.c.Forms, func(f Form) bool { return f.Name == name }); n++ {
		name = "form" + strconv.Itoa(n)
	}
	f := Form{Name: name}
	e.Walk(func(c, _ *screen.Element) bool {
		cdef, ok := b.p.in.Cat.Component(c.Type)
		if !ok || cdef.Holds == "" {
			return true
		}
		named, ok := c.Prop("name")
		if !ok || named.Kind != screen.Literal || named.Text == "" || slices.ContainsFunc(f.Fields, func(o FormField) bool { return o.Name == named.Text }) {
			return true
		}
		holds, _ := cdef.Prop(cdef.Holds)
		typ, read := "string", false
		switch holds.Type {
		case kit.Bool:
			typ = "boolean"
		case kit.Number:
			typ = "number"
		}
		if kind, ok := c.Prop("kind"); ok && kind.Text == "number" || holds.Name == "valueAsNumber" {
			typ, read = "number", holds.Type == kit.Text
		}
		f.Fields = append(f.Fields, FormField{Name: named.Text, Type: typ, Holds: holds.Name, Read: read})
		return true
	})
	event := def.SentAt()
	if event == "" {
		b.p.note(b.doc, e.ID, "%s does not tell that it was sent; its values are handed to nobody", def.Title)
		return
	}
	b.c.Forms = append(b.c.Forms, f)
	for i := range el.On {
		if el.On[i].Event == event {
			el.On[i].Form = &f
			return
		}
	}
	el.On = append(el.On, On{Event: event, Form: &f})
}

// aimed notes what is opened and closed in a document, and by which names the code
// knows it.
func (b *builder) aimed(root *screen.Element) {
	at := map[string]bool{}
	note := func(e *screen.Element) {
		v, _ := e.Prop(kit.Does)
		list, _ := screen.ParseActions(v.Text)
		for _, a := range list {
			if a.Points() {
				at[a.To] = true
			}
		}
	}
	root.Walk(func(e, _ *screen.Element) bool {
		note(e)
		for _, v := range b.variants[e].as {
			note(v.el)
		}
		return true
	})
	var names emit.Names
	var walk func(e *screen.Element, each bool)
	walk = func(e *screen.Element, each bool) {
		each = each || e.Repeat != nil
		if def, ok := b.p.in.Cat.Component(e.Type); ok && at[e.ID] && def.Opens() && b.targets[e.ID] == nil {
			t := &Target{Key: names.Take(emit.Camel(cmp.Or(e.Name, e.ID))), Each: each}
			b.targets[e.ID] = t
			b.c.Targets = append(b.c.Targets, t)
		}
		for _, c := range e.Children {
			walk(c, each)
		}
	}
	walk(root, false)
}

// opening keeps an element open or closed as it is told.
func (b *builder) opening(el *El, e *screen.Element, def *kit.Component, t *Target, sc scope) {
	prop, _ := def.Prop("open")
	one := func(e *screen.Element) emit.Expr {
		v, ok := e.Prop("open")
		if !ok {
			return emit.Name("false")
		}
		return b.value(e, v, prop, sc)
	}
	usual, varies := b.varying(e, one)
	if !varies {
		usual = one(e)
	}
	name, fixed := usual.(emit.Name)
	t.Usual, t.Fixed = usual, fixed && (name == "true" || name == "false")
	el.Attrs = append(el.Attrs, Attr{Prop: prop.Name, Attr: prop.Attr, Def: prop, Value: t.read(sc)})
	if def.Closes != "" {
		el.On = append(el.On, On{Event: def.Closes, Acts: []Act{{Verb: screen.Close, Target: t, Key: sc.key()}}})
	}
}

func (sc scope) key() emit.Expr {
	if sc.record == nil {
		return nil
	}
	return emit.Member{Of: sc.record, Name: "id"}
}

func (t *Target) read(sc scope) emit.Expr {
	is := emit.Expr(emit.Read{What: "opened", Name: t.Key})
	if t.Each {
		is = emit.Index{Of: is, At: sc.key()}
	} else if t.Fixed {
		return is
	}
	return emit.Binary{Op: "??", L: is, R: t.Usual}
}

// doing notes what an element does.
func (b *builder) doing(el *El, e *screen.Element, def *kit.Component, sc scope) {
	of := func(e *screen.Element) []Act {
		v, _ := e.Prop(kit.Does)
		list, _ := screen.ParseActions(v.Text)
		var out []Act
		for _, a := range list {
			act := Act{Verb: a.Verb, To: a.To}
			switch a.Verb {
			case screen.GoTo:
				if !strings.HasPrefix(a.To, "/") {
					continue
				}
			case screen.Open, screen.Close:
				act.Target = b.targets[a.To]
				if b.alone {
					act.Target = &Target{Key: emit.Camel(a.To)}
				}
				if act.Target == nil || act.Target.Each && !sc.each {
					b.p.note(b.doc, e.ID, "what it would %s is not there", a.Verb)
					continue
				}
				act.Key = sc.key()
			case screen.SetControl:
				if b.lent == nil {
					b.p.note(b.doc, e.ID, "it sets %s, and a piece knows no control", a.To)
					continue
				}
				name, _, value, ok := b.lent.Set(a)
				if !ok {
					b.p.note(b.doc, e.ID, "it sets %s, which no control here can hold", a.To)
					continue
				}
				act.To, act.Value = name, literal(value)
			case screen.ChangeField, screen.TickField, screen.TakeAway:
				why := ""
				if act.List, act.Set, why = b.touches(a, sc); why != "" {
					b.p.note(b.doc, e.ID, "it cannot %s: %s", a, why)
					continue
				}
				act.Key = sc.key()
			case screen.AddRecord:
				why := ""
				if act, why = b.adds(act, e); why != "" {
					b.p.note(b.doc, e.ID, "it cannot %s: %s", a, why)
					continue
				}
			case screen.Enter:
				if !b.alone && a.To != Usual && !slices.Contains(b.c.States, a.To) && b.c.Kind != screen.PieceDoc {
					b.p.note(b.doc, e.ID, "there is no state %s", a.To)
					continue
				}
				b.c.Stateful = true
			}
			out = append(out, act)
		}
		return out
	}
	on := On{Event: def.Answers, Acts: of(e)}
	if v := b.variants[e]; len(v.as) > 0 {
		on.Acts = of(v.as[0].el)
		for _, other := range v.as[1:] {
			if acts := of(other.el); !slices.Equal(acts, on.Acts) {
				on.Cases = append(on.Cases, Case{other.state, acts})
				b.c.Stateful = true
			}
		}
	}
	if on.Event != "" && (len(on.Acts) > 0 || len(on.Cases) > 0) {
		el.On = append(el.On, on)
	}
}

// speaksOf tells whether a tree has an expression that speaks of a name.
func speaksOf(root *screen.Element, name string) bool {
	found := false
	says := func(source string) { found = found || speaks(source, name) }
	root.Walk(func(e, _ *screen.Element) bool {
		says(e.Show)
		if e.Text.Kind == screen.Expr {
			says(e.Text.Text)
		}
		for _, p := range e.Props {
			if p.Value.Kind == screen.Expr {
				says(p.Value.Text)
			}
		}
		if e.Repeat != nil {
			says(e.Repeat.Where)
			says(e.Repeat.Model)
		}
		return !found
	})
	return found
}

// speaks tells whether an expression has a name in it.
func speaks(source, name string) bool {
	return slices.Contains(strings.FieldsFunc(source, func(r rune) bool {
		return r != '_' && (r < '0' || r > '9') && (r < 'a' || r > 'z') && (r < 'A' || r > 'Z') && r < 128
	}), name)
}

func literalProp(p screen.Prop) resolve.Prop {
	switch p.Value.Kind {
	case screen.Flag:
		return resolve.Prop{Name: p.Name, Value: p.Value.Text == "true"}
	case screen.Token:
		return resolve.Prop{Name: p.Name, Value: resolve.TokenMark + p.Value.Text}
	}
	return resolve.Prop{Name: p.Name, Value: p.Value.Text}
}

// propName is the name of a piece's prop in code. Those by which uses reach inside begin
// with "in", so that they meet none that the piece offers.
func propName(name string) string {
	if of, prop, reaches := strings.Cut(name, "."); reaches {
		return emit.Camel("in-" + of + "-" + prop)
	}
	id := emit.Camel(name)
	if emit.Reserved(id) && id != "name" || slices.Contains([]string{"is", "record", "own"}, id) {
		return id + "Value"
	}
	return id
}

// pieceProps are the settings that a piece takes.
func (b *builder) pieceProps() {
	for _, p := range b.props {
		el, _ := b.doc.Root.Find(p.Element)
		if el == nil || slices.Contains(slices.Collect(maps.Values(b.lends)), propName(p.Name)) {
			continue // it is given and told as what a control holds
		}
		out := Prop{Name: propName(p.Name), Type: b.propType(p, el)}
		v, _ := el.Prop(p.Prop)
		switch p.Prop {
		case "":
			v = el.Text
		case screen.ShowProp:
			v = screen.FlagValue(true)
		case screen.KindProp:
			v = screen.Lit(el.Type)
		}
		if v.Kind != screen.None && v.Kind != screen.Expr {
			prop := &kit.Prop{}
			if def, ok := b.p.in.Cat.Component(el.Type); ok {
				if found, ok := def.Prop(p.Prop); ok {
					prop = found
				}
			}
			out.Default = b.value(el, v, prop, scope{})
		}
		if !slices.ContainsFunc(b.c.Props, func(o Prop) bool { return o.Name == out.Name }) {
			b.c.Props = append(b.c.Props, out)
		}
	}
}

func (b *builder) propType(p screen.PieceProp, el *screen.Element) string {
	switch p.Prop {
	case screen.ShowProp:
		return "boolean"
	case "":
		return "string | number"
	case screen.KindProp:
		return "string"
	}
	def, ok := b.p.in.Cat.Component(el.Type)
	if !ok {
		return "string"
	}
	prop, ok := def.Prop(p.Prop)
	if !ok {
		return "string"
	}
	switch prop.Type {
	case kit.Bool:
		return "boolean"
	case kit.Number:
		return "number | string"
	case kit.Enum:
		if !prop.Open && !prop.Numbers && prop.Attr == "" {
			return union(prop.Values)
		}
		return "string"
	}
	if prop.JSON || prop.Attr == "" && def.Export != "" && prop.Shape != "" {
		return "string"
	}
	return "string | number"
}

// reached lists the settings by which uses reach elements inside a piece by their names.
func reached(in deliver.Input, piece *screen.Document) []screen.PieceProp {
	met := map[string]bool{}
	var out []screen.PieceProp
	look := func(d *screen.Document) {
		d.Root.Walk(func(e, _ *screen.Element) bool {
			if e.Type != screen.PiecePrefix+piece.ID {
				return true
			}
			for _, p := range e.Props {
				of, prop, reaches := strings.Cut(p.Name, ".")
				if !reaches || met[p.Name] {
					continue
				}
				met[p.Name] = true
				piece.Root.Walk(func(inner, _ *screen.Element) bool {
					if inner.Name == of {
						out = append(out, screen.PieceProp{
							Name: p.Name, Element: inner.ID, Prop: resolve.InnerProp(in.Cat, inner, prop),
						})
					}
					return true
				})
			}
			return true
		})
	}
	for _, d := range in.Screens {
		look(d)
	}
	for _, list := range []map[string]*screen.Document{in.Shells, in.Pieces} {
		for _, id := range slices.Sorted(maps.Keys(list)) {
			look(list[id])
		}
	}
	slices.SortFunc(out, func(a, b screen.PieceProp) int { return strings.Compare(a.Name, b.Name) })
	return out
}
