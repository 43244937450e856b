// Package cases reads from documents everything that was decided in them: a prop's value, the
// words on a button, the order of two, a part that is there or not, the component chosen for a
// field. Each is a case: what was decided (its group), how (its value), and the facts around it.
// What the cases amount to is judged elsewhere.
package cases

import (
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// Kind tells what sort of thing is decided.
type Kind uint8

const (
	Prop     Kind = iota // a setting of a component
	Words                // what it says, the thing it speaks of left open
	Style                // how its words are written: capitals
	End                  // how its words end
	Label                // what the label of a field says
	Control              // which component takes a field
	Shows                // which component shows a field
	Format               // how a field is written out
	Required             // whether a field must be filled in
	Order                // which of two comes first
	Fields               // which of two fields of one thing comes first
	Whole                // which parts a component or screen has; judged part by part, as Part
	Part                 // whether one part is there
	Meaning              // what an icon stands for
	Slot                 // where in a component an action stands
	Tone                 // in which tone a word is said
	Space                // which step of space it has by a class of its own
	Kinds                // how many kinds there are
)

// Group is one thing that is decided again and again.
type Group struct {
	Kind Kind
	Comp int32 // the component, where one is meant
	A, B int32 // what of it: a prop, a field, a part, two that have an order
}

// Fact is one thing known of where a case stands.
type Fact uint8

const (
	App      Fact = iota
	Shell         // the shell around the screen
	Main          // what the screen mostly consists of
	Route         // the shape of the screen's route
	Dialog        // what opens and closes around it
	Place         // the nearest component that holds it, and the slot
	Outer         // the place of that
	Parent        // the element directly above
	Does          // what it does when used
	Says          // its first word
	Field         // the field it shows or takes
	Type          // the type of that field, or what stands in it
	Prev          // what stands before it
	Next          // and after it
	Position      // first, last, only or between
	Content       // what stands in it
	Host          // position of the component that holds it
	Thing         // what the screen is about: the first part of its route
	Sort          // what it is for: which way it runs, what a column holds
	Owner         // whose screen it is: no context, but one opinion
	Facts         // how many there are
)

// Solid facts are those that a slip at the element does not change.
var Solid = []Fact{Shell, Main, Route, Dialog, Place, Field, App, Owner}

// Context is the facts around a case, as numbers of a Book.
type Context [Facts]int32

// Case is one decision in a document.
type Case struct {
	Group, Value int32
	Context      int32
	Use          int32 // index of the element's use in its document
}

// Book gives numbers to what cases are made of, so that they are small and quickly compared.
// Number 0 is nothing.
type Book struct {
	words    []string
	byWord   map[string]int32
	groups   []Group
	byGroup  map[Group]int32
	contexts []Context
	byCtx    map[Context]int32
	pairs    map[[2]int32]int32
}

// NewBook is an empty one.
func NewBook() *Book {
	return &Book{
		words:   []string{""},
		byWord:  map[string]int32{"": 0},
		byGroup: map[Group]int32{},
		byCtx:   map[Context]int32{},
		pairs:   map[[2]int32]int32{},
	}
}

// Word is the number of a text.
func (b *Book) Word(s string) int32 {
	if n, ok := b.byWord[s]; ok {
		return n
	}
	n := int32(len(b.words))
	b.words = append(b.words, s)
	b.byWord[s] = n
	return n
}

// Text is the text with a number.
func (b *Book) Text(n int32) string { return b.words[n] }

// pair is the number of two texts joined by a dot.
func (b *Book) pair(x, y int32) int32 {
	if y == 0 {
		return x
	}
	k := [2]int32{x, y}
	if n, ok := b.pairs[k]; ok {
		return n
	}
	n := b.Word(b.words[x] + "." + b.words[y])
	b.pairs[k] = n
	return n
}

// GroupNumber is the number of a group.
func (b *Book) GroupNumber(g Group) int32 {
	if n, ok := b.byGroup[g]; ok {
		return n
	}
	n := int32(len(b.groups))
	b.groups = append(b.groups, g)
	b.byGroup[g] = n
	return n
}

// Group is the group with a number.
func (b *Book) Group(n int32) Group { return b.groups[n] }

func (b *Book) context(c *Context) int32 {
	if n, ok := b.byCtx[*c]; ok {
		return n
	}
	n := int32(len(b.contexts))
	b.contexts = append(b.contexts, *c)
	b.byCtx[*c] = n
	return n
}

// Context is the facts with a number.
func (b *Book) Context(n int32) *Context { return &b.contexts[n] }

// Reader reads cases against a catalog and the team's models.
type Reader struct {
	*Book
	cat    kit.Catalog
	nouns  map[string]bool
	fields map[string][]*sample.Field // by name
	models map[string]*sample.Model
	types  map[string]*component
	last   *reading
}

// component is what is known of a type, with its names numbered.
type component struct {
	def     *kit.Component
	number  int32
	tracked []tracked
	texts   []spokenProp // that people read; the first is its own text, where it has one
	level   bool         // a layout
	control bool         // people choose or type in it
	acts    bool         // a button or a link
	leads   string       // its prop with an address; empty for none
	tone    string       // and the one that says whether what it tells is good or bad
	prose   bool         // a text of no other purpose
}

// spokenProp is a prop that people read, with the groups that all of its texts are in.
type spokenProp struct {
	name       string // "text" for the element's own
	number     int32
	required   bool
	freely     bool // explains, and names nothing
	end, style int32
	sentence   int32 // how its sentences end, where it has labels and sentences; 0 elsewhere
}

func (r *Reader) spokenProp(comp int32, name string, required bool) spokenProp {
	n := r.Word(name)
	return spokenProp{
		name: name, number: n, required: required, freely: saidFreely[strings.ToLower(name)],
		end: r.GroupNumber(Group{Kind: End, Comp: comp, A: n}), style: r.GroupNumber(Group{Kind: Style, Comp: comp, A: n}),
	}
}

type tracked struct {
	name   string
	number int32
	def    string
	defN   int32
	group  int32
	heads  int32    // the group of its values for headings, where it has others, too
	looks  []string // these values
}

// NewReader reads against a catalog and models, which are not changed.
func NewReader(b *Book, cat kit.Catalog, models map[string]*sample.Model) *Reader {
	r := &Reader{
		Book: b, cat: cat, models: models,
		nouns: map[string]bool{}, fields: map[string][]*sample.Field{}, types: map[string]*component{},
	}
	for _, m := range models {
		for _, name := range []string{m.ID, m.Name} {
			for _, n := range forms(spaced(name)) {
				r.nouns[n] = true
			}
		}
		for i := range m.Fields {
			r.fields[m.Fields[i].Name] = append(r.fields[m.Fields[i].Name], &m.Fields[i])
		}
	}
	return r
}

// takes tells whether people choose or type in a component: by its role, or where no notes tell
// one, because it has a name to be sent under and keeps a value.
func takes(def *kit.Component) bool {
	_, named := def.Prop("name")
	return def.Role == "control" || def.LabelledBy != "" || def.Role == "" && named && def.Holds != ""
}

// acts tells whether a component is a button or a link: by its role, or because it says something
// and leads somewhere or sends a form.
func acts(def *kit.Component) bool {
	if def.Role != "" {
		return def.Role == "action" || def.Role == "link"
	}
	leads := false
	for _, name := range []string{"to", "href", "action", "type"} {
		_, has := def.Prop(name)
		leads = leads || has
	}
	return leads && (def.TakesText() || labels(def)) && def.Level != kit.Composite && def.Level != kit.Layout
}

// labels tells whether a component names what stands in it, or itself.
func labels(def *kit.Component) bool {
	by := def.LabelBy()
	return by != nil && strings.HasPrefix(strings.ToLower(by.Name), "label")
}

// arranges are plain elements that only set apart or beside each other what is in them, as layouts do.
var arranges = map[string]bool{
	kit.HostPrefix + "div": true, kit.HostPrefix + "span": true, kit.HostPrefix + "section": true,
	kit.HostPrefix + "article": true, kit.HostPrefix + "center": true,
}

// component is what is known of a type.
func (r *Reader) component(typ string) *component {
	if c, ok := r.types[typ]; ok {
		return c
	}
	c := &component{number: r.Word(typ)}
	if def, ok := r.cat.Component(typ); ok {
		c.def = def
		c.level = def.Level == kit.Layout || def.Plain && arranges[typ]
		c.control, c.acts, c.leads = takes(def), acts(def), def.LeadsBy()
		if by := def.ToneBy(); by != nil {
			c.tone = by.Name
		}
		if def.TakesText() {
			p := r.spokenProp(c.number, "text", true)
			if c.prose = def.Prose(); c.prose {
				p.sentence = r.GroupNumber(Group{Kind: End, Comp: c.number, A: p.number, B: r.Word("sentence")})
			}
			c.texts = append(c.texts, p)
		}
		for i := range def.Props {
			p := &def.Props[i]
			level := def.Heading != nil && def.Heading.LevelProp == p.Name
			switch {
			case p.Handed: // any element has it
			case element[strings.ToLower(p.Name)] && len(headings(p.Values)) == 0: // which element it becomes is no look
			case usage.Tracked(p) || level:
				g := Group{Kind: Prop, Comp: c.number, A: r.Word(p.Name)}
				t := tracked{name: p.Name, number: g.A, def: p.Default, defN: r.Word(p.Default), group: r.GroupNumber(g)}
				if t.looks = headings(p.Values); len(t.looks) > 0 {
					g.B = r.Word("heading")
					t.heads = r.GroupNumber(g)
				}
				c.tracked = append(c.tracked, t)
			case def.Speaks(p):
				c.texts = append(c.texts, r.spokenProp(c.number, p.Name, p.Required))
			}
		}
	}
	r.types[typ] = c
	return c
}

// element are what libraries call the setting that says which element of the page something becomes.
var element = map[string]bool{"as": true, "aschild": true, "component": true, "tag": true, "element": true, "is": true}

var heading = regexp.MustCompile(`(?i)^(h[1-6]$|heading|headline|title|display)`)

// headings are the values by which something is a heading, where others make it a text: what is
// right for the one says nothing of the other. None where all are of one sort.
func headings(values []string) []string {
	var out []string
	for _, v := range values {
		if heading.MatchString(v) {
			out = append(out, v)
		}
	}
	if len(out) == len(values) {
		return nil
	}
	return out
}

// reading is one document being read.
type reading struct {
	*Reader
	doc   *usage.Doc
	base  Context // the facts of the whole screen
	comps []*component
	ctx   []Context // by use
	kids  [][]int32 // by use
	title string    // of the screen, in small letters
	model *sample.Model
	out   []Case
}

// prepare finds the facts around each element of a document.
func (r *Reader) prepare(d *usage.Doc) *reading {
	n := len(d.Uses)
	in := &reading{
		Reader: r, doc: d,
		comps: make([]*component, n), ctx: make([]Context, n), kids: make([][]int32, n),
		title: strings.ToLower(strings.TrimSpace(d.Title)),
		out:   make([]Case, 0, 4*n),
	}
	for i := range d.Uses {
		in.comps[i] = r.component(d.Uses[i].Element.Type)
		if up := d.Uses[i].Up; up >= 0 {
			in.kids[up] = append(in.kids[up], int32(i))
		}
	}
	in.model = r.modelOf(d.Document)
	in.whole()
	in.surround()
	in.pairColumns()
	return in
}

// Read lists the cases of a document, in the order of their groups.
func (r *Reader) Read(d *usage.Doc) []Case {
	in := r.prepare(d)
	for i := range d.Uses {
		in.element(int32(i))
	}
	in.screenParts()
	slices.SortFunc(in.out, func(a, b Case) int {
		if a.Group != b.Group {
			return int(a.Group - b.Group)
		}
		if a.Value != b.Value {
			return int(a.Value - b.Value)
		}
		if a.Context != b.Context {
			return int(a.Context - b.Context)
		}
		return int(a.Use - b.Use)
	})
	return slices.Clip(in.out)
}

func (in *reading) add(g Group, value, context, use int32) {
	in.out = append(in.out, Case{in.GroupNumber(g), value, context, use})
}

// modelOf is the model that a screen is about, by the first part of its route.
func (r *Reader) modelOf(d *screen.Document) *sample.Model {
	first := thing(d.Route)
	if first == "" {
		return nil
	}
	if m, ok := r.models[first]; ok {
		return m
	}
	for _, id := range sortedKeys(r.models) {
		if slices.Contains(forms(spaced(r.models[id].Name)), spaced(first)) {
			return r.models[id]
		}
	}
	return nil
}

// whole finds the facts that all of the screen shares.
func (in *reading) whole() {
	d := in.doc
	in.base[App] = in.Word(d.App)
	in.base[Shell] = in.Word(d.Shell)
	in.base[Owner] = in.Word(d.Owner)
	in.base[Thing] = in.Word(thing(d.Route))
	if d.Kind != screen.ScreenDoc {
		in.base[Route] = in.Word("(" + string(d.Kind) + ")")
	} else {
		in.base[Route] = in.Word(Shape(d.Route))
	}
	weights := map[int32]int{}
	var visit func(use int32)
	visit = func(use int32) {
		c := in.comps[use]
		if c.def != nil && (c.level || c.def.Level == kit.Piece) && len(in.kids[use]) > 0 {
			for _, k := range in.kids[use] {
				visit(k)
			}
			return
		}
		if c.def != nil && c.def.Opens() || c.def != nil && c.def.Heading != nil {
			return
		}
		if c.def != nil && c.def.Plain {
			for _, k := range in.kids[use] {
				visit(k)
			}
			return
		}
		weights[c.number] += in.count(use)
	}
	visit(0)
	best, most := int32(0), 1
	for n, w := range weights {
		if w > most || w == most && best != 0 && in.Text(n) < in.Text(best) {
			best, most = n, w
		}
	}
	in.base[Main] = best
}

// count is how many elements stand from a use down; what repeats counts as several.
func (in *reading) count(use int32) int {
	n := 1
	for _, k := range in.kids[use] {
		n += in.count(k)
	}
	if in.doc.Uses[use].Element.Repeat != nil {
		n *= 4
	}
	return n
}

// surround finds the facts of each element.
func (in *reading) surround() {
	var visit func(use, place, outer, dialog, host int32)
	visit = func(use, place, outer, dialog, host int32) {
		e, c := in.doc.Uses[use].Element, in.comps[use]
		x := &in.ctx[use]
		*x = in.base
		x[Place], x[Outer], x[Dialog], x[Host] = place, outer, dialog, host
		if up := in.doc.Uses[use].Up; up >= 0 {
			x[Parent] = in.pair(in.comps[up].number, in.Word(e.Slot))
			in.beside(use, x)
		} else {
			x[Parent] = in.Word("(top)")
		}
		in.roles(use, x)
		if c.level {
			if v, ok := e.Prop("direction"); ok {
				x[Sort] = in.Word(v.Text)
			}
		}
		if c.def != nil && c.def.Opens() {
			dialog = c.number
		}
		for i, k := range in.kids[use] {
			if i == 0 {
				x[Content] = in.comps[k].number
			}
			if c.level {
				visit(k, place, outer, dialog, host)
			} else {
				visit(k, in.pair(c.number, in.Word(in.doc.Uses[k].Element.Slot)), place, dialog, x[Position])
			}
		}
	}
	visit(0, in.Word("page"), 0, 0, 0)
}

// beside finds what stands before and after an element in its slot.
func (in *reading) beside(use int32, x *Context) {
	e := in.doc.Uses[use].Element
	first, last, found := true, true, false
	for _, k := range in.kids[in.doc.Uses[use].Up] {
		switch {
		case in.doc.Uses[k].Element.Slot != e.Slot:
		case k == use:
			found = true
		case !found:
			first = false
			x[Prev] = in.comps[k].number
		case last:
			last = false
			x[Next] = in.comps[k].number
		}
	}
	switch {
	case first && last:
		x[Position] = in.Word("only")
	case first:
		x[Position] = in.Word("first")
	case last:
		x[Position] = in.Word("last")
	default:
		x[Position] = in.Word("between")
	}
}

// closes are names of what makes the one thing in it close what is around them.
var closes = regexp.MustCompile(`(^|-)(close|dismiss|cancel)$`)

// roles finds what an element is for.
func (in *reading) roles(use int32, x *Context) {
	e, c := in.doc.Uses[use].Element, in.comps[use]
	if c.def == nil {
		return
	}
	if v, ok := e.Prop(kit.Does); ok {
		if list, err := screen.ParseActions(v.Text); err == nil && len(list) > 0 {
			x[Does] = in.Word("does " + list[0].Verb)
		}
	}
	if v, ok := e.Prop("action"); ok && v.Kind == screen.Literal && v.Text != "none" && v.Text != "" {
		x[Does] = in.Word("does " + v.Text)
	}
	if c.acts {
		by := "type" // where a library hands it on to the page's own button
		if p := c.def.SendsBy(); p != nil {
			by = p.Name
		}
		if v, ok := e.Written(by); ok && (v.Text == "submit" || v.Text == "reset") {
			x[Does] = in.Word("does " + v.Text)
		}
	}
	if up := in.doc.Uses[use].Up; up >= 0 && c.acts && x[Does] == 0 && len(in.kids[up]) == 1 && closes.MatchString(in.doc.Uses[up].Element.Type) {
		x[Does] = in.Word("does close") // what stands in it alone does what it is for
	}
	if c.leads != "" && x[Does] == 0 {
		if v, ok := e.Prop(c.leads); ok && v.Text != "" {
			x[Does] = in.Word("leads " + Leads(in.doc.Route, v))
		}
	}
	switch {
	case c.acts:
		if w := firstWord(NameOf(c.def, e)); w != "" {
			x[Says] = in.Word(w)
		}
	case c.control:
		if by := c.def.KindBy(); by != nil {
			if v, ok := e.Prop(by.Name); ok && v.Kind == screen.Literal {
				x[Says] = in.Word("takes " + v.Text)
			}
		}
	}
	field := ""
	if c.control {
		if v, ok := e.Prop("name"); ok && v.Kind == screen.Literal {
			field = v.Text
		}
	}
	if field == "" {
		field = fieldShown(e)
	}
	if field == "" && len(in.kids[use]) == 1 {
		// What holds one control speaks for it.
		k := in.kids[use][0]
		if kc := in.comps[k]; kc.def != nil && (kc.def.LabelledBy == e.Type || kc.control && labels(c.def)) {
			if v, ok := in.doc.Uses[k].Element.Prop("name"); ok && v.Kind == screen.Literal {
				field = v.Text
			}
		}
	}
	if field != "" {
		x[Field] = in.Word(field)
		x[Type] = in.Word(in.typeOf(field))
	}
	if x[Type] == 0 && !e.Text.Known() {
		x[Type] = in.Word(typeShown(e.Text))
	}
}

// typeOf is the type of a field where the models agree on it: the screen's own model first.
func (in *reading) typeOf(field string) string {
	if in.model != nil {
		if f, ok := in.model.Field(field); ok {
			return string(f.Type)
		}
	}
	typ := ""
	for _, f := range in.fields[field] {
		if typ != "" && typ != string(f.Type) {
			return ""
		}
		typ = string(f.Type)
	}
	return typ
}

// pairColumns tells the head of a column what its cells show: where one slot holds as many alike
// as what repeats beside it.
func (in *reading) pairColumns() {
	for use := range in.kids {
		var heads, cells []int32
		for _, k := range in.kids[use] {
			switch e := in.doc.Uses[k].Element; {
			case e.Slot != "" && len(in.kids[k]) == 0:
				if len(heads) == 0 || in.doc.Uses[heads[0]].Element.Slot == e.Slot {
					heads = append(heads, k)
				}
			case e.Slot == "" && len(in.kids[k]) > 1 && cells == nil:
				cells = in.kids[k]
			}
		}
		if len(heads) < 2 || len(cells) == 0 {
			continue
		}
		if len(heads) != len(cells) {
			for _, h := range heads {
				in.ctx[h][Sort] = in.Word("(no cell)")
			}
			continue
		}
		for i, h := range heads {
			cell := cells[i]
			x := &in.ctx[h]
			in.ctx[cell][Position], x[Position] = 0, 0
			in.ctx[cell][Prev], in.ctx[cell][Next], x[Prev], x[Next] = 0, 0, 0, 0
			inner := cell
			for in.ctx[inner][Type] == 0 && in.ctx[inner][Field] == 0 && len(in.kids[inner]) > 0 {
				inner = in.kids[inner][0]
			}
			x[Field], x[Type] = in.ctx[inner][Field], in.ctx[inner][Type]
			x[Content] = in.comps[inner].number
			in.ctx[cell][Field], in.ctx[cell][Type] = x[Field], x[Type]
			in.ctx[cell][Content] = in.comps[inner].number
			x[Sort] = in.comps[inner].number
		}
	}
}
