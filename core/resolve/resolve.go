// Package resolve turns a screen with its shell, pieces, sample records and
// state into a concrete tree: expressions computed, repeats unrolled, pieces put
// in place. An error at one element is reported there; the rest still resolves.
package resolve

import (
	"fmt"
	"slices"
	"strings"
	"sync"

	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/picture"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Prop is a setting with its computed value: string, float64 or bool.
type Prop struct {
	Name  string
	Value any
}

// Node is one concrete element.
type Node struct {
	Key       string // unique in the tree: the element's id, with record keys and piece uses
	ID        string // the element's id in its document
	Doc       string // "shell" or "piece:…" for elements that are not the screen's own
	Type      string
	Component *kit.Component // nil when the kit does not know it
	Slot      string
	Text      string
	Look      string // classes that it has in the code it was read from
	Props     []Prop
	Does      []screen.Action // what happens when it is pressed; elements by their keys
	Holds     *Holding        // what people choose in it, where the screen follows that
	Children  []*Node
	Problem   string // why the element could not be shown as meant
}

// look are the classes of an element that was read from code.
func look(e *screen.Element) string {
	if !e.FromCode() {
		return ""
	}
	return e.Origin.Look
}

// Holding tells how a control says what it holds.
type Holding struct{ Event, Prop, Name string }

// Count is the number of nodes of the tree.
func (n *Node) Count() int {
	count := 1
	for _, c := range n.Children {
		count += c.Count()
	}
	return count
}

// Problem is an error met at an element.
type Problem struct {
	Element string `json:"element"`
	Doc     string `json:"doc,omitempty"`
	Message string `json:"message"`
}

// Input is everything a screen is resolved from.
type Input struct {
	Screen *screen.Element
	Shells []*screen.Element // around the screen, the innermost first; none shows it without
	Route  string            // of the screen, marks the active place
	// Params are what the parameters of the route are; one that is not there is the first
	// record's that the screen would show by it.
	Params  map[string]string
	Catalog kit.Catalog
	Piece   func(id string) *screen.Document
	Models  map[string]*sample.Model
	Set     *sample.Set
	Today   string // YYYY-MM-DD
	Cache   *Cache // may be nil
	// Controls is what the screen's controls hold, by name; those not there hold what
	// they hold at first. The controls themselves are written as they are at first:
	// where they stand already, they hold it themselves.
	Controls map[string]any
	// Whole resolves all that controls can bring: every record of what they filter, sort
	// or page, and every element whose visibility follows them.
	Whole   bool
	Sourced []string          // models whose records have a source
	Asked   []string          // names of controls that sources ask for
	Sources map[string]string // the state of each; "ready" where it is left out
}

// Cache keeps compiled expressions; it may be shared between goroutines.
type Cache struct {
	mu       sync.Mutex
	programs map[[4]string]compiled
}

type compiled struct {
	program *expr.Program
	err     error
}

// NewCache returns an empty cache. It holds for one set of models.
func NewCache() *Cache { return &Cache{programs: map[[4]string]compiled{}} }

// maxNodes bounds what a few nested repeats could blow up to.
const maxNodes = 50_000

type resolver struct {
	Input
	problems []Problem
	nodes    int
	depth    int
	aimed    bool // something opens something
	names    *Names
	own      *frame
	inner    map[*screen.Document]*Names // of pieces
	index    expr.Index
	route    map[string]string
	budget   *expr.Budget
	whole    map[string]bool // elements that are all of the screen, from its root in: by their ids
}

// frame is a document while it resolves, the screen or one use of a piece: its names, and what
// their values go by.
type frame struct {
	names          *Names
	root           *screen.Element
	base           scope
	prefix, suffix string
	followed       bool // from outside: a use of the piece lends what its controls hold
	counting       map[string]bool
	counts         map[string][]sample.Record // what passes, by the repeat's name
}

// key is what the value of a control is kept by on the whole screen.
func (f *frame) key(c Control) string { return f.prefix + c.Key + f.suffix }

// held is what all controls of the document hold.
func (f *frame) held(on map[string]any) map[string]any {
	out := make(map[string]any, len(f.names.Controls))
	for name, c := range f.names.Controls {
		out[name] = c.Held(on[f.key(c)])
	}
	return out
}

// scope is what is around an element while it resolves.
type scope struct {
	frame  *frame // the screen's, or of the piece that it stands in; nil in a shell
	record sample.Record
	model  *sample.Model
	outer  sample.Record // of the repeat around that one
	around *sample.Model
	prefix string // of keys, ends in "/" inside a piece
	suffix string // of keys, begins with "#" inside a repeat
	doc    string
	shell  bool                      // in the shell, also inside a piece of it
	over   map[string][]screen.Prop  // settings a piece's use puts on inner elements
	fill   func(slot string) []*Node // what stands in an outlet, by its name
}

func newResolver(in Input) *resolver {
	if in.Set == nil {
		in.Set = &sample.Set{}
	}
	if in.Cache == nil {
		in.Cache = NewCache()
	}
	names := NamesOf(in.Screen, in.Catalog).On(in.Route)
	names.Follow(in.Asked)
	r := &resolver{Input: in, names: names, budget: expr.NewBudget()}
	r.own = &frame{names: names, root: in.Screen}
	r.own.base = scope{frame: r.own}
	return r
}

// namesIn are the names of a piece, as one use of it sets what its controls hold at first.
func (r *resolver) namesIn(piece *screen.Document, over map[string][]screen.Prop) *Names {
	names := r.inner[piece]
	if names == nil {
		names = NamesOf(piece.Root, r.Catalog)
		if r.inner == nil {
			r.inner = map[*screen.Document]*Names{}
		}
		r.inner[piece] = names
	}
	if len(over) == 0 || len(names.Controls) == 0 {
		return names
	}
	set := *names
	set.Controls = make(map[string]Control, len(names.Controls))
	for name, c := range names.Controls {
		set.Controls[name] = c.under(over, r.Catalog)
	}
	return &set
}

// Resolve computes the concrete tree of a screen in its shell.
func Resolve(in Input) (*Node, []Problem) {
	r := newResolver(in)
	r.whole = r.wholes(in.Screen)
	var roots []*Node
	inside := func(string) []*Node { return r.element(in.Screen, r.own.base) }
	for i, shell := range in.Shells {
		under, placed := inside, false
		sc := scope{doc: "shell", shell: true, fill: func(slot string) []*Node {
			placed = true
			return under(slot)
		}}
		if i > 0 { // elements of several shells may bear one id
			sc.prefix = fmt.Sprintf("shell%d/", i)
		}
		inside = func(string) []*Node {
			out := r.element(shell, sc)
			if !placed && ofCode(shell) { // its place is somewhere that was not read
				out = append(out, under("")...)
			}
			return out
		}
	}
	roots = inside("")
	if len(roots) == 0 {
		return &Node{Key: in.Screen.ID, ID: in.Screen.ID, Type: "section"}, r.problems
	}
	if r.aimed {
		aim(roots)
	}
	r.checked(roots)
	if len(roots) > 1 { // a piece of several parts, looked at by itself, or a shell of several
		stack, _ := in.Catalog.Component("stack")
		around := &Node{Key: in.Screen.ID, ID: in.Screen.ID, Type: "stack", Component: stack, Children: roots}
		if last := len(in.Shells) - 1; last >= 0 && in.Screen.Type != "parts" {
			// The screen's own root is drawn, too: no two elements of a page bear one key.
			around.Key, around.ID, around.Doc = in.Shells[last].ID, in.Shells[last].ID, "shell"
			if last > 0 {
				around.Key = fmt.Sprintf("shell%d/%s", last, around.ID)
			}
		}
		return around, r.problems
	}
	return roots[0], r.problems
}

// aim turns the ids that actions point at into keys: of the repeats and uses of pieces
// that an element stands in, the target is the one in the same, else the one outside.
func aim(roots []*Node) {
	byID := map[string][]*Node{}
	var note, turn func(list []*Node)
	note = func(list []*Node) {
		for _, n := range list {
			byID[n.Doc+" "+n.ID] = append(byID[n.Doc+" "+n.ID], n)
			note(n.Children)
		}
	}
	turn = func(list []*Node) {
		for _, n := range list {
			kept := n.Does[:0]
			for _, a := range n.Does {
				if !a.Points() {
					kept = append(kept, a)
					continue
				}
				if to := nearest(n, byID[n.Doc+" "+a.To]); to != nil {
					kept = append(kept, screen.Action{Verb: a.Verb, To: to.Key})
				}
			}
			n.Does = kept
			turn(n.Children)
		}
	}
	note(roots)
	turn(roots)
}

// nearest is, of the nodes of one element, that in the same use of a piece and as many
// repeats as both share.
func nearest(from *Node, list []*Node) *Node {
	prefix := func(n *Node) string { return strings.TrimSuffix(before(n.Key), n.ID) }
	suffix := func(n *Node) string { _, s, _ := strings.Cut(n.Key, "#"); return s }
	var best *Node
	shared := -1
	for _, n := range list {
		if prefix(n) != prefix(from) {
			continue
		}
		in, out := strings.Split(suffix(n), "#"), strings.Split(suffix(from), "#")
		same := 0
		for same < min(len(in), len(out)) && in[same] == out[same] {
			same++
		}
		if suffix(n) == "" || same == len(in) {
			same += 100 // not in a repeat that this one does not stand in
		}
		if same > shared {
			best, shared = n, same
		}
	}
	return best
}

func before(key string) string { s, _, _ := strings.Cut(key, "#"); return s }

func (r *resolver) report(e *screen.Element, sc scope, n *Node, message string) {
	if n != nil && n.Problem == "" {
		n.Problem = message
	}
	p := Problem{e.ID, sc.doc, message}
	if !slices.Contains(r.problems, p) {
		r.problems = append(r.problems, p)
	}
}

// count tells how many records a named repeat of a document has and how many pages they take.
func (r *resolver) count(f *frame, name string) (int, int, error) {
	e := f.names.Repeats[name]
	if f.counting[name] {
		return 0, 0, fmt.Errorf("%s counts itself", name)
	}
	if f.counting == nil {
		f.counting, f.counts = map[string]bool{}, map[string][]sample.Record{}
	}
	if _, known := f.counts[name]; !known {
		f.counting[name] = true
		passing, err := r.passing(e, f.base)
		delete(f.counting, name)
		if err != nil {
			return 0, 0, err
		}
		f.counts[name] = passing
	}
	n := len(f.counts[name])
	return n, pages(n, e.Repeat.Limit), nil
}

// passing are the records of a repeat that its condition lets through, in order.
func (r *resolver) passing(e *screen.Element, sc scope) ([]sample.Record, error) {
	model := sample.Over(e.Repeat.Model, sc.model, r.Models)
	if model == nil {
		return nil, fmt.Errorf("there is no model %s", e.Repeat.Model)
	}
	order := e.Repeat.Sort
	if source, computed := sample.Computed(order); computed {
		v, err := r.eval(source, sc)
		if err != nil {
			return nil, fmt.Errorf("repeat sort: %w", err)
		}
		order = sample.Plain(v)
	}
	records := sample.Sort(sample.Shown(e.Repeat.Model, sc.record, sc.model, r.Set.Records), order)
	if e.Repeat.Where == "" {
		return records, nil
	}
	inner := sc
	inner.model, inner.outer, inner.around = model, sc.record, sc.model
	var out []sample.Record
	for _, rec := range records {
		inner.record = rec
		keep, err := r.eval(e.Repeat.Where, inner)
		if err != nil {
			return nil, fmt.Errorf("repeat where: %w", err)
		}
		if yes, _ := keep.(bool); yes {
			out = append(out, rec)
			if e.Repeat.Limit > 0 && e.Repeat.Page == "" && e.Name == "" && len(out) == e.Repeat.Limit {
				break // nothing counts them
			}
		}
	}
	return out, nil
}

// element resolves one element, to none where it is hidden and to several where
// it repeats.
func (r *resolver) element(e *screen.Element, sc scope) []*Node {
	if e.Repeat == nil || e.FromCode() {
		return r.once(e, sc)
	}
	model := sample.Over(e.Repeat.Model, sc.model, r.Models)
	if model == nil {
		n := &Node{Key: sc.prefix + e.ID + sc.suffix, ID: e.ID, Doc: sc.doc, Type: e.Type, Slot: e.Slot, Look: look(e)}
		r.report(e, sc, n, NoModel(e.Repeat.Model))
		return []*Node{n}
	}
	if r.Whole && sc.doc == "" && sc.model == nil && Acts(e, r.names) {
		var out []*Node
		for _, rec := range r.Set.Records[model.ID] {
			inner := sc
			inner.record, inner.model, inner.suffix = rec, model, "#"+rec.ID()
			out = append(out, r.once(e, inner)...)
		}
		return out
	}
	records, err := r.passing(e, sc)
	if err != nil {
		r.report(e, sc, nil, err.Error())
		return nil
	}
	var out []*Node
	for _, rec := range paged(records, e.Repeat.Limit, r.page(e, sc)) {
		inner := sc
		inner.outer, inner.around = sc.record, sc.model
		inner.record, inner.model, inner.suffix = rec, model, sc.suffix+"#"+rec.ID()
		out = append(out, r.once(e, inner)...)
	}
	return out
}

// NoModel says why a repeat shows nothing.
func NoModel(repeat string) string {
	if field, ok := sample.OverField(repeat); ok {
		return "it repeats over " + field + ", and the record around it has no list or references of that name"
	}
	return "it repeats over a model that does not exist: " + repeat
}

// page is the page of a repeat that is shown, from 1.
func (r *resolver) page(e *screen.Element, sc scope) int {
	if e.Repeat.Page == "" || sc.frame == nil {
		return 1
	}
	c, ok := sc.frame.names.Controls[Identifier(e.Repeat.Page)]
	if !ok || c.Kind != expr.Number {
		r.report(e, sc, nil, "repeat page: no control named "+e.Repeat.Page+" holds a number")
		return 1
	}
	n, _ := c.Held(r.Controls[sc.frame.key(c)]).(float64)
	return int(n)
}

func (r *resolver) once(e *screen.Element, sc scope) []*Node {
	if r.nodes++; r.nodes > maxNodes {
		r.report(e, sc, nil, "the screen has grown past 50,000 elements; limit a repeat")
		return nil
	}
	if over := sc.over[e.ID]; len(over) > 0 {
		e = e.With(over)
		if e.Show == "false" {
			return nil
		}
		if e.Show == "true" {
			shown := *e
			shown.Show = ""
			e = &shown
		}
	}
	if r.Whole && sc.doc == "" && e.Show != "" && r.speaks(e.Show, sc) {
		shown := *e
		shown.Show = ""
		e = &shown
	}
	if e.Show != "" && !e.FromCode() {
		v, err := r.eval(e.Show, sc)
		if err != nil {
			r.report(e, sc, nil, "show: "+err.Error())
		} else if yes, _ := v.(bool); !yes {
			return nil
		}
	}
	if e.Type == "outlet" && sc.fill != nil {
		return r.outlet(e, sc)
	}
	if e.Type == "parts" {
		var out []*Node
		for _, c := range e.Children {
			out = append(out, r.element(c, sc)...)
		}
		for _, n := range out {
			n.Slot = e.Slot
		}
		return out
	}
	if id, ok := strings.CutPrefix(e.Type, screen.PiecePrefix); ok {
		return r.piece(e, id, sc)
	}
	n := &Node{Key: sc.prefix + e.ID + sc.suffix, ID: e.ID, Doc: sc.doc, Type: e.Type, Slot: e.Slot, Look: look(e)}
	n.Component, _ = r.Catalog.Component(e.Type)
	if v, ok := r.value(e, sc, n, "text", e.Text); ok {
		n.Text = sample.Plain(v)
	}
	n.Props = make([]Prop, 0, len(e.Props))
	for _, p := range e.Props {
		if p.Name == kit.Does && n.Component != nil && n.Component.Answers != "" {
			n.Does, _ = screen.ParseActions(p.Value.Text) // what cannot be read is reported by the audit
			n.Does = r.settled(n.Does, e, sc)
			r.aimed = r.aimed || slices.ContainsFunc(n.Does, screen.Action.Points)
			continue
		}
		if v, ok := r.value(e, sc, n, p.Name, p.Value); ok && v != nil {
			if p.Name == kit.ClassProp && n.Component != nil && n.Component.Styled() {
				n.Look = strings.Join(strings.Fields(n.Look+" "+sample.Plain(v)), " ")
				continue
			}
			n.Props = append(n.Props, Prop{p.Name, v})
			if s, ok := v.(string); ok && away(s) && !e.FromCode() && n.Component != nil && n.Component.ShowsPicture(p.Name) {
				r.report(e, sc, nil, "the picture at "+s+" is not kept here, so that it is not shown; choose one to keep it")
			}
		}
	}
	r.handed(e, n)
	if err := r.weigh(n); err != nil {
		r.report(e, sc, nil, err.Error())
		return nil
	}
	if f := sc.frame; f != nil && e.Name != "" && (f.names.Spoken || f.followed) {
		if c, ok := f.names.Controls[Identifier(e.Name)]; ok && c.Use == nil && c.Element.ID == e.ID {
			n.Holds = &Holding{Event: c.At, Prop: c.Holds.Name, Name: f.key(c)}
		}
	}
	n.Children = make([]*Node, 0, len(e.Children))
	once, apart := WordsOnce(e)
	if once == nil && apart {
		n.Text = ""
	}
	for i, c := range e.Children {
		if e.FromCode() && i > 0 && i == e.Origin.Behind {
			n.saysHere()
		}
		if !slices.Contains(once, c) {
			n.Children = append(n.Children, r.element(c, sc)...)
		}
	}
	if e.FromCode() && len(e.Children) > 0 && e.Origin.Behind == len(e.Children) {
		n.saysHere()
	}
	if r.Route != "" {
		r.markPlaces(n.Children, sc.shell)
	}
	return []*Node{n}
}

// handed gives an element that was read from code what its code sets of any element of a page.
func (r *resolver) handed(e *screen.Element, n *Node) {
	if !e.FromCode() || n.Component == nil {
		return
	}
	for _, p := range e.Origin.Besides {
		def, ok := n.Component.HandedAs(p.Name)
		if !ok || p.Value.Kind == screen.Bound {
			continue
		}
		var v any = p.Value.Text
		if p.Value.Kind == screen.Flag || def.Type == kit.Bool {
			v = p.Value.Text == "true" || p.Value.Text == ""
		}
		n.Props = append(n.Props, Prop{def.Name, v})
	}
}

// outlet puts the screen, or a piece's children, in place of the outlet; what
// stands in takes the outlet's slot.
func (r *resolver) outlet(e *screen.Element, sc scope) []*Node {
	filled := sc.fill(e.Name)
	for _, n := range filled {
		n.Slot = e.Slot
	}
	return filled
}

// markPlaces sets the active flag of the place, of those beside each other, that leads to the
// screen's route, so that no screen needs a shell of its own. In a shell nobody else sets it; on a
// screen what is set by hand stays.
func (r *resolver) markPlaces(nodes []*Node, shell bool) {
	leads := func(n *Node) (to, active string) {
		if n.Component == nil {
			return "", ""
		}
		where, flag, ok := n.Component.Place()
		if !ok {
			return "", ""
		}
		for _, p := range n.Props {
			if p.Name == where.Name {
				to, _ = p.Value.(string)
			}
		}
		return to, flag.Name
	}
	var beside []string
	for _, n := range nodes {
		if to, _ := leads(n); to != "" {
			beside = append(beside, to)
		}
	}
	if len(beside) == 0 && !shell {
		return
	}
	at := ""
	for _, n := range nodes {
		to, active := leads(n)
		if active == "" {
			continue
		}
		set := func(p Prop) bool { return p.Name == active }
		if shell {
			n.Props = slices.DeleteFunc(n.Props, set)
		} else if slices.ContainsFunc(n.Props, set) {
			continue
		}
		if at == "" {
			at = screen.Filled(r.Route, r.params())
		}
		if kit.Leads(at, to, beside) {
			n.Props = append([]Prop{{active, true}}, n.Props...)
		}
	}
}

// away tells of an address that a page drawn here cannot load.
func away(s string) bool {
	return strings.HasPrefix(s, "http") || strings.HasPrefix(s, "/") && len(picture.Named(s)) == 0
}

func (r *resolver) piece(e *screen.Element, id string, sc scope) []*Node {
	var piece *screen.Document
	if r.Piece != nil {
		piece = r.Piece(id)
	}
	if piece == nil || r.depth > 16 {
		n := &Node{Key: sc.prefix + e.ID + sc.suffix, ID: e.ID, Doc: sc.doc, Type: e.Type, Slot: e.Slot, Look: look(e)}
		message := "there is no piece " + id
		if piece != nil {
			message = "the piece " + id + " contains itself"
		}
		r.report(e, sc, n, message)
		return []*Node{n}
	}
	r.depth++
	defer func() { r.depth-- }()
	over := Overrides(piece, e, r.Catalog)
	for id, list := range over {
		for i, p := range list {
			// The use's values are computed where it stands, not inside the piece.
			if p.Value.Kind == screen.Expr {
				out, err := r.eval(p.Value.Text, sc)
				if err != nil {
					r.report(e, sc, nil, p.Name+": "+err.Error())
					out = nil
				}
				over[id][i].Value = literal(out)
			}
		}
	}
	outer := sc
	inner := scope{
		record: sc.record,
		model:  sc.model,
		suffix: sc.suffix,
		prefix: sc.prefix + e.ID + "/",
		doc:    e.Type,
		shell:  sc.shell,
		over:   over,
	}
	inner.fill = func(slot string) []*Node {
		var out []*Node
		for _, c := range e.Children {
			if c.Slot == slot {
				out = append(out, r.element(c, outer)...)
			}
		}
		return out
	}
	f := &frame{names: r.namesIn(piece, over), root: piece.Root, prefix: inner.prefix, suffix: inner.suffix}
	if around := sc.frame; around != nil && e.Name != "" && sc.suffix == around.suffix {
		f.followed = around.names.Spoken || around.followed
	}
	inner.frame, f.base = f, inner
	f.base.frame = f
	nodes := r.element(piece.Root, inner)
	for _, n := range nodes {
		n.Slot = e.Slot
	}
	return nodes
}
