// Package lower turns screens, shells and pieces with their states, lists, sources and
// expressions into a typed program, once for all targets: components with what they take,
// keep and show, the data behind them, and the routes. A target prints it.
//
// Expressions are trees (emit.Expr). What they read of a component (a control, a list, the
// state) stands in them as emit.Read, since each framework reads it in its own way.
package lower

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Program is everything that is delivered.
type Program struct {
	In      deliver.Input
	Models  []*Model
	Shells  []*Component
	Pieces  []*Component
	Screens []*Component
	Routes  []*Route // in the order in which they are written
	// Notes say what could not be put into code as it was meant, and where.
	Notes []deliver.Note
	// Kinds are those that uses of a piece choose for an element inside it; see KindsAt.
	Kinds map[string][]string
}

// Route is a screen on its path, or a shell around others.
type Route struct {
	Path   string
	Screen *Component // nil of a shell
	Shell  *Component
	Inside []*Route
}

// Model is a kind of record.
type Model struct {
	ID, Type, List string // the type's name, and that of the list
	Title          string
	Fields         []Field
	Sample         []sample.Record
	Source         *Source // where its records come from; nil for the team's own
	Query          *Query  // made of others
	Computed       []Computed
	Needs          []string // ids of models that what is computed speaks of
}

// Field is one of a record's.
type Field struct {
	Name, Type string
	Optional   bool
	Of         *sample.Field
}

// Computed is a field whose value is computed of the record.
type Computed struct {
	Name string
	Code emit.Expr // speaks of Item
	Item string
}

// Source is a service.
type Source struct {
	*sample.Source
	Base    string
	Address string
}

// Query is a list made of another.
type Query struct {
	From  string
	Item  string
	Where emit.Expr // nil takes all
	Group []Group
	Each  []Aggregate
	Sort  string
	Limit int
}

// Group is one value by which records are grouped.
type Group struct {
	Name string
	Code emit.Expr
}

// Aggregate is one value of each group.
type Aggregate struct {
	Name, Do string
	Of       emit.Expr // nil of a count
	Whole    bool
}

type program struct {
	in     deliver.Input
	out    *Program
	models map[string]*Model
	shells map[string]bool // pieces that shells are made of
	around map[string]*sample.Model
	told   map[string]map[string]bool // what controls of pieces other documents follow; see tells
	names  map[string]string          // of components, by the address of their document
}

// nameOf is the name of a document's component: one that no other has, whatever files are
// called on a disk that does not tell capitals apart.
func (p *program) nameOf(kind screen.DocKind, id string) string {
	address := string(kind) + ":" + id
	if name, ok := p.names[address]; ok {
		return name
	}
	base, end := emit.Pascal(id), map[screen.DocKind]string{screen.ScreenDoc: "Screen", screen.ShellDoc: "Shell", screen.PieceDoc: "Piece"}[kind]
	name := base + end
	for n := 2; slices.ContainsFunc(slices.Collect(maps.Values(p.names)), func(o string) bool { return strings.EqualFold(o, name) }); n++ {
		name = base + strconv.Itoa(n) + end
	}
	if p.names == nil {
		p.names = map[string]string{}
	}
	p.names[address] = name
	return name
}

// Lower makes the program of what is delivered.
func Lower(in deliver.Input) *Program {
	p := &program{in: in, out: &Program{In: in}, models: map[string]*Model{}}
	for _, d := range in.Screens {
		p.nameOf(d.Kind, d.ID)
	}
	p.data()
	p.reach()
	p.tells()
	p.kinds()
	for _, id := range slices.Sorted(maps.Keys(in.Pieces)) {
		p.out.Pieces = append(p.out.Pieces, p.component(in.Pieces[id]))
	}
	for _, id := range slices.Sorted(maps.Keys(in.Shells)) {
		p.out.Shells = append(p.out.Shells, p.component(in.Shells[id]))
	}
	for _, d := range in.Screens {
		p.out.Screens = append(p.out.Screens, p.component(d))
	}
	p.used()
	p.routes()
	return p.out
}

// Element is one element by itself, as it stands in code; what it speaks of is named as
// in the workspace.
func Element(k *kit.Kit, c kit.Catalog, e *screen.Element) (*Component, []Node) {
	p := &program{in: deliver.Input{Kit: k, Cat: c, Set: &sample.Set{}}, out: &Program{}, models: map[string]*Model{}}
	b := p.builder(&screen.Document{Kind: screen.PieceDoc, ID: "element", Root: e})
	b.alone = true
	return b.c, b.element(e, scope{})
}

func (p *program) note(doc *screen.Document, element, format string, args ...any) {
	n := deliver.Note{Element: element, Message: fmt.Sprintf(format, args...)}
	if doc != nil {
		n.Doc = doc.Address()
	}
	if !slices.Contains(p.out.Notes, n) {
		p.out.Notes = append(p.out.Notes, n)
	}
}

// Singular is what one record is called: the model's name, else its id.
func singular(m *sample.Model) string {
	for _, name := range []string{m.Name, m.ID} {
		if words := emit.Words(name); len(words) > 0 && emit.IsIdentifier(emit.Pascal(name)) {
			return emit.Pascal(name)
		}
	}
	return "Item"
}

// data makes the models with what is computed of them.
func (p *program) data() {
	var types, lists emit.Names
	types.Keep("Records", "Lists", "Status")
	ids := slices.Sorted(maps.Keys(p.in.Models))
	for _, id := range ids {
		m := p.in.Models[id]
		out := &Model{ID: id, Title: m.Name, Type: types.Take(singular(m)), List: lists.Take(emit.Camel(id)), Sample: p.in.Set.Records[id]}
		out.Fields = append(out.Fields, Field{Name: "id", Type: "string"})
		for i := range m.Fields {
			f := &m.Fields[i]
			out.Fields = append(out.Fields, Field{Name: f.Name, Type: p.typeOf(m, f), Optional: p.optional(m, f.Name), Of: f})
		}
		p.models[id] = out
		p.out.Models = append(p.out.Models, out)
		if src := p.in.Sources[id]; src != nil {
			out.Source = &Source{Source: src, Base: src.Base}
			for _, b := range p.in.Bases {
				if b.Name == src.Base {
					out.Source.Address = strings.TrimSuffix(b.Address, "/")
				}
			}
		}
	}
	computations, problems := expr.Computations(p.in.Models)
	for _, err := range problems {
		p.note(nil, "", "what cannot be computed is left out: %s", err)
	}
	for _, c := range computations {
		out := p.models[c.Model.ID]
		t := &translator{p: p, record: emit.Name("record"), local: plainItem, around: []string{"record"}}
		got := t.of(c.Program.Root())
		out.Computed = append(out.Computed, Computed{c.Field.Name, got.safe(), "record"})
		out.Needs = append(out.Needs, listsIn(got.code, out.ID, out.Needs)...)
	}
	for _, id := range ids {
		if q := p.in.Queries[id]; q != nil && p.in.Models[q.From] != nil {
			p.models[id].Query = p.query(p.models[id], p.in.Models[id], q)
		}
	}
}

// plainItem names the record that a filter walks over where no component gives names.
func plainItem(_ *sample.Model, around []string) string {
	return (&emit.Names{}).Local("one", around)
}

// listsIn are the lists that an expression reads, but for one and those that are had.
func listsIn(e emit.Expr, but string, had []string) []string {
	var out []string
	emit.Map(e, func(e emit.Expr) emit.Expr {
		if r, ok := e.(emit.Read); ok && r.What == "list" && r.Name != but && !slices.Contains(had, r.Name) && !slices.Contains(out, r.Name) {
			out = append(out, r.Name)
		}
		return e
	})
	return out
}

func (p *program) query(out *Model, m *sample.Model, q *sample.Query) *Query {
	from := p.in.Models[q.From]
	item := emit.Name("record")
	res := &Query{From: q.From, Item: string(item), Sort: q.Sort, Limit: q.Limit}
	needs := func(e emit.Expr) { out.Needs = append(out.Needs, listsIn(e, q.From, out.Needs)...) }
	if q.Where != "" {
		t := &translator{p: p, record: item, local: plainItem, around: []string{emit.Plain.Inline(item)}}
		got, err := t.compile(q.Where, deliver.Scope(p.in, from, nil))
		if err != nil {
			p.note(nil, "", "the list %s takes all: %s", m.ID, err)
		} else {
			res.Where = got.condition()
			needs(got.code)
		}
	}
	at := func(path string) emit.Expr {
		first, rest, joined := strings.Cut(path, ".")
		of := emit.Member{Of: item, Name: first}
		if !joined {
			return of
		}
		f, ok := from.Field(first)
		if !ok {
			return undefined
		}
		e := emit.Member{Of: call("find", emit.Read{What: "list", Name: f.Model}, of), Name: rest, Maybe: true}
		needs(e)
		return e
	}
	for _, path := range q.Group {
		res.Group = append(res.Group, Group{sample.GroupName(path), at(path)})
	}
	for _, v := range q.Each {
		e := Aggregate{Name: v.Name, Do: v.Do}
		if v.Do != "count" {
			e.Of = at(v.Field)
		}
		if f, ok := m.Field(v.Name); ok && f.Type == sample.Money {
			e.Whole = true
		}
		res.Each = append(res.Each, e)
	}
	return res
}

// optional tells whether a record may lack a field. One that is not whole yet must not
// keep the code from building.
func (p *program) optional(m *sample.Model, field string) bool {
	if field == "id" {
		return false
	}
	f, ok := m.Field(field)
	if !ok {
		return true
	}
	if m.ID == "" || p.in.Models[m.ID] != m { // texts of a list
		return false
	}
	return !f.Required || slices.ContainsFunc(p.in.Set.Records[m.ID], func(r sample.Record) bool { return r[field] == nil })
}

// choicesOf are the texts that a field holds, where it holds one of few; nil where the
// records hold others too.
func (p *program) choicesOf(m *sample.Model, f *sample.Field) []string {
	if len(f.Choices) == 0 || p.in.Models[m.ID] != m {
		return nil
	}
	for _, r := range p.in.Set.Records[m.ID] {
		if v, ok := r[f.Name].(string); ok && !slices.Contains(f.Choices, v) {
			return nil
		}
	}
	return f.Choices
}

func (p *program) typeOf(m *sample.Model, f *sample.Field) string {
	switch f.Type {
	case sample.Number, sample.Money:
		return "number"
	case sample.YesNo:
		return "boolean"
	case sample.Texts, sample.Refs:
		return "string[]"
	}
	if f.Compute != "" {
		return "string"
	}
	return union(p.choicesOf(m, f))
}

// union is the type of one of few texts.
func union(choices []string) string {
	if len(choices) == 0 {
		return "string"
	}
	quoted := make([]string, len(choices))
	for i, c := range choices {
		quoted[i] = emit.Plain.Quote(c)
	}
	return strings.Join(slices.Compact(quoted), " | ")
}

// reach finds the pieces that shells are made of, and the records that stand around each
// piece where it is used.
func (p *program) reach() {
	p.shells = map[string]bool{}
	var shell func(d *screen.Document)
	shell = func(d *screen.Document) {
		d.Root.Walk(func(e, _ *screen.Element) bool {
			if id, ok := strings.CutPrefix(e.Type, screen.PiecePrefix); ok && !p.shells[id] && p.in.Pieces[id] != nil {
				p.shells[id] = true
				shell(p.in.Pieces[id])
			}
			return true
		})
	}
	for _, d := range p.in.Shells {
		shell(d)
	}
	docs := slices.Clone(p.in.Screens)
	for _, list := range []map[string]*screen.Document{p.in.Shells, p.in.Pieces} {
		for _, id := range slices.Sorted(maps.Keys(list)) {
			docs = append(docs, list[id])
		}
	}
	p.around = resolve.Around(docs, p.in.Pieces, p.in.Models)
}

// used leaves out pieces that nothing stands of, and says of the others where they belong:
// one used by a single component stands beside it.
func (p *program) used() {
	users := map[string][]string{}
	kept := map[string]bool{}
	var keep func(c *Component)
	byID := map[string]*Component{}
	for _, c := range p.out.Pieces {
		byID[c.ID] = c
	}
	keep = func(c *Component) {
		for _, id := range c.Pieces {
			users[id] = append(users[id], c.Name)
			if !kept[id] && byID[id] != nil {
				kept[id] = true
				keep(byID[id])
			}
		}
	}
	for _, c := range slices.Concat(p.out.Shells, p.out.Screens) {
		keep(c)
	}
	p.out.Pieces = slices.DeleteFunc(p.out.Pieces, func(c *Component) bool { return !kept[c.ID] })
	owner := map[string]*Component{}
	for _, c := range slices.Concat(p.out.Shells, p.out.Screens, p.out.Pieces) {
		owner[c.Name] = c
	}
	var folder func(c *Component) string
	folder = func(c *Component) string {
		switch {
		case c.Kind == screen.ScreenDoc:
			return "screens"
		case c.Kind == screen.ShellDoc:
			return "shells"
		}
		if names := users[c.ID]; len(names) == 1 {
			return folder(owner[names[0]])
		}
		return "pieces"
	}
	for _, c := range slices.Concat(p.out.Shells, p.out.Screens, p.out.Pieces) {
		c.Folder = folder(c)
	}
}

// KindsAt is the key in Kinds of an element of a piece.
func KindsAt(piece, element string) string { return piece + "#" + element }

// kinds collects what uses of pieces choose for the elements inside.
func (p *program) kinds() {
	p.out.Kinds = map[string][]string{}
	look := func(d *screen.Document) {
		d.Root.Walk(func(e, _ *screen.Element) bool {
			id, ok := strings.CutPrefix(e.Type, screen.PiecePrefix)
			piece := p.in.Pieces[id]
			if !ok || piece == nil {
				return true
			}
			over := resolve.Overrides(piece, e, p.in.Cat)
			for _, inner := range slices.Sorted(maps.Keys(over)) {
				for _, set := range over[inner] {
					at := KindsAt(id, inner)
					if set.Name == screen.KindProp && !slices.Contains(p.out.Kinds[at], set.Value.Text) {
						p.out.Kinds[at] = append(p.out.Kinds[at], set.Value.Text)
					}
				}
			}
			return true
		})
	}
	for _, d := range p.in.Screens {
		look(d)
	}
	for _, list := range []map[string]*screen.Document{p.in.Shells, p.in.Pieces} {
		for _, id := range slices.Sorted(maps.Keys(list)) {
			look(list[id])
		}
	}
}

// routes puts screens into their shells.
func (p *program) routes() {
	shells := map[string]*Route{}
	for _, c := range p.out.Shells {
		shells[c.ID] = &Route{Shell: c}
	}
	for _, c := range p.out.Screens {
		r := &Route{Path: c.Route, Screen: c}
		if s := shells[c.doc.Shell]; s != nil {
			s.Inside = append(s.Inside, r)
		} else {
			p.out.Routes = append(p.out.Routes, r)
		}
	}
	for _, c := range p.out.Shells {
		r := shells[c.ID]
		if outer := shells[c.doc.Shell]; outer != nil && outer != r {
			outer.Inside = append(outer.Inside, r)
		} else {
			p.out.Routes = append(p.out.Routes, r)
		}
	}
	var prune func(list []*Route) []*Route
	prune = func(list []*Route) []*Route {
		return slices.DeleteFunc(list, func(r *Route) bool {
			r.Inside = prune(r.Inside)
			return r.Screen == nil && len(r.Inside) == 0
		})
	}
	p.out.Routes = prune(p.out.Routes)
	// A shell without it would stand empty where one begins.
	begins := func(r *Route) int {
		if r.Begins() {
			return 0
		}
		return 1
	}
	slices.SortStableFunc(p.out.Routes, func(a, b *Route) int { return begins(a) - begins(b) })
}

// Begins tells whether a route has the screen in it that one begins with.
func (r *Route) Begins() bool {
	if r.Screen != nil {
		return strings.Trim(r.Path, "/") == ""
	}
	return slices.ContainsFunc(r.Inside, (*Route).Begins)
}
