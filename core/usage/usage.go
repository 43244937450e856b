// Package usage indexes every use of every component on a set of documents, and
// keeps the index up to date by difference: a changed document is taken out and
// put in again, nothing else is touched.
//
// Uses are grouped into spots: where an element stands, from the general (any
// button) over the place (in the actions of a page header) and the role (that
// says "new") to the neighbours (as the last of several).
package usage

import (
	"maps"
	"math"
	"regexp"
	"slices"
	"strings"
	"unicode"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// Level tells how specific a spot is.
type Level int

const (
	ByComponent Level = iota
	ByPlace
	ByRole
	ByNeighbours
	levels
)

// Key identifies a spot. Empty parts are not told apart.
type Key struct {
	Component string
	Place     string // nearest ancestor that is no layout; "page" at the top
	Slot      string // of the place
	Role      string // normalised text, action or bound field
	Position  string // "only", "first", "last", "between"
	level     Level
}

// String is the spot's stable address.
func (k Key) String() string {
	parts := []string{k.Component}
	if k.level >= ByPlace {
		parts = append(parts, k.Place+"."+k.Slot)
	}
	if k.level >= ByRole {
		parts = append(parts, k.Role)
	}
	if k.level >= ByNeighbours {
		parts = append(parts, k.Position)
	}
	return strings.Join(parts, "~")
}

// Value is one value met for a prop in a spot.
type Value struct {
	Value  string
	Uses   int
	Weight float64 // screens, a screen of two minds counted in shares
	Docs   []int32 // numbers of the documents it stands on, in order
}

// Mix is what a spot's elements do with one prop.
type Mix struct {
	Prop    string
	Values  []Value
	Uses    int
	Screens int // documents with any counted value
}

// Spot is a place elements stand in, with the mixes of their props.
type Spot struct {
	Key    Key
	Level  Level
	Parent *Spot // the next more general one
	Kids   []*Spot
	Number int // counts up from 0 in the order in which spots were met
	Uses   int
	Docs   int
	Mixes  []Mix // in the order of the component's tracked props

	comp    *tracked
	epoch   int
	scratch []scratch
	byRole  map[[2]string]*Spot
	places  map[[2]string]*Spot
}

// Name is the spot's stable address.
func (s *Spot) Name() string { return s.Key.String() }

type scratch struct {
	uses   int
	values []Value // Uses only
}

// Use is one element with the spots it stands in.
type Use struct {
	Element *screen.Element
	Up      int32 // where the parent's use stands in the document's; -1 at the root
	Spots   [levels]*Spot
}

// Doc is an indexed document.
type Doc struct {
	*screen.Document
	Number int32
	Uses   []Use
}

// tracked is a component with the props that norms are made of.
type tracked struct {
	def      *kit.Component
	props    []trackedProp
	root     *Spot
	next     map[insertion]*nextCount // what comes inside it
	followed nextCount                // what comes after it, wherever
}

type trackedProp struct {
	name, def string
	index     int
}

// Index holds all uses.
type Index struct {
	cat             kit.Catalog
	docs            map[string]*Doc
	byNum           []*Doc
	comps           map[string]*tracked
	spots           map[string]*Spot // by address, made when first asked for
	all             []*Spot
	first, anything nextCount // what comes first, and at all, wherever
	dirty           map[*Spot]bool
	changed         map[int32]bool
	epoch           int
	scratch         []*Spot
}

// New returns an empty index over a catalog.
func New(cat kit.Catalog) *Index {
	return &Index{
		cat:     cat,
		docs:    map[string]*Doc{},
		comps:   map[string]*tracked{},
		dirty:   map[*Spot]bool{},
		changed: map[int32]bool{},
	}
}

// states are flags that say how a thing is now, not how the team builds it;
// like texts and ids they are never evidence.
var states = map[string]bool{
	"active":     true,
	"checked":    true,
	"on":         true,
	"open":       true,
	"disabled":   true,
	"busy":       true,
	"selected":   true,
	"pressed":    true,
	"required":   true,
	"hidden":     true,
	"decorative": true,
	"page":       true,
	"shown":      true,
}

// flags are states besides, as other libraries call them.
var flags = map[string]bool{
	"opened": true, "visible": true, "show": true, "closed": true, "loading": true, "pending": true, "saving": true,
	"invalid": true, "valid": true, "error": true, "errors": true, "warning": true, "readonly": true, "expanded": true,
	"collapsed": true, "focused": true, "focus": true, "hovered": true, "indeterminate": true, "current": true,
	"toggled": true, "completed": true, "done": true, "touched": true, "dirty": true, "frozen": true, "highlighted": true,
}

// ahead are beginnings of names that say nothing of what a flag is about.
var ahead = regexp.MustCompile(`^(is|has|default|initially|model)[-A-Z]`)

// state tells whether a prop says how a thing is now: by its name, as "disabled", or a flag by a name
// that means as much, as "isOpen".
func state(p *kit.Prop) bool {
	if states[p.Name] {
		return true
	}
	if p.Type != kit.Bool {
		return false
	}
	name := p.Name
	if m := ahead.FindStringSubmatch(name); m != nil {
		name = strings.TrimPrefix(name[len(m[1]):], "-")
	}
	name = strings.ToLower(strings.ReplaceAll(name, "-", ""))
	return states[name] || flags[name]
}

// Tracked reports whether norms are made of a prop: choices, looks and steps,
// never texts, ids or states.
func Tracked(p *kit.Prop) bool {
	if state(p) || p.Handed {
		return false
	}
	// What takes a number or a text beside yes and no, as a column its width, is a measure.
	measure := p.Type == kit.Bool && loose.MatchString(p.Shape)
	return p.Type == kit.Enum || p.Type == kit.Bool && !measure || p.Tokens != "" || p.Icon
}

var loose = regexp.MustCompile(`\b(number|string)\b`)

func (ix *Index) component(typ string) *tracked {
	if t, ok := ix.comps[typ]; ok {
		return t
	}
	t := &tracked{}
	if def, ok := ix.cat.Component(typ); ok {
		t.def = def
		for i := range def.Props {
			if p := &def.Props[i]; Tracked(p) {
				t.props = append(t.props, trackedProp{p.Name, p.Default, i})
			}
		}
	}
	t.root = ix.newSpot(Key{Component: typ}, nil, t)
	ix.comps[typ] = t
	return t
}

// Bare is the spot of a component without any evidence.
func (ix *Index) Bare(typ string) *Spot {
	return (&Index{cat: ix.cat, comps: map[string]*tracked{}}).component(typ).root
}

// Redefine takes in a component whose definition changed. It reports false where other
// props are counted now, or with other defaults: then everything is to be counted anew.
func (ix *Index) Redefine(typ string) bool {
	t, ok := ix.comps[typ]
	if !ok {
		return true
	}
	now := (&Index{cat: ix.cat, comps: map[string]*tracked{}}).component(typ)
	if !slices.EqualFunc(
		t.props,
		now.props,
		func(a, b trackedProp) bool { return a.name == b.name && a.def == b.def },
	) {
		return false
	}
	t.def, t.props = now.def, now.props
	return true
}

func (ix *Index) newSpot(k Key, parent *Spot, t *tracked) *Spot {
	s := &Spot{Key: k, Level: k.level, Parent: parent, Number: len(ix.all), comp: t, Mixes: make([]Mix, len(t.props))}
	for i, p := range t.props {
		s.Mixes[i].Prop = p.name
	}
	if parent != nil {
		parent.Kids = append(parent.Kids, s)
	}
	ix.all = append(ix.all, s)
	return s
}

func (s *Spot) kid(ix *Index, a, b string, k Key) *Spot {
	m := &s.byRole
	if k.level == ByPlace {
		m = &s.places
	}
	if *m == nil {
		*m = map[[2]string]*Spot{}
	}
	if kid, ok := (*m)[[2]string{a, b}]; ok {
		return kid
	}
	kid := ix.newSpot(k, s, s.comp)
	(*m)[[2]string{a, b}] = kid
	return kid
}

// Put takes a document in, in place of an earlier one with its kind and id.
func (ix *Index) Put(d *screen.Document) {
	key := DocKey(d)
	old := ix.docs[key]
	if old != nil {
		ix.count(old, -1)
		if d.Removed {
			ix.byNum[old.Number] = nil
			delete(ix.docs, key)
			return
		}
	}
	if d.Removed || d.Root == nil {
		return
	}
	doc := &Doc{Document: d}
	if old != nil {
		doc.Number = old.Number
		doc.Uses = make([]Use, 0, len(old.Uses)+8)
		ix.byNum[doc.Number] = doc
	} else {
		doc.Number = int32(len(ix.byNum))
		doc.Uses = make([]Use, 0, d.Root.Count())
		ix.byNum = append(ix.byNum, doc)
	}
	ix.walk(doc, d.Root, nil, -1, "page", "")
	ix.docs[key] = doc
	ix.count(doc, 1)
}

// Drop takes a document out.
func (ix *Index) Drop(kind screen.DocKind, id string) {
	key := string(kind) + ":" + id
	if old := ix.docs[key]; old != nil {
		ix.count(old, -1)
		ix.byNum[old.Number] = nil
		delete(ix.docs, key)
	}
}

// DocKey is the address of a document.
func DocKey(d *screen.Document) string { return d.Address() }

// walk finds the spots of an element and all below. place and slot are those of
// the nearest ancestor that is no layout.
func (ix *Index) walk(doc *Doc, e, parent *screen.Element, up int32, place, slot string) {
	t := ix.component(e.Type)
	u := Use{Element: e, Up: up}
	u.Spots[0] = t.root
	u.Spots[1] = t.root.kid(ix, place, slot, Key{Component: e.Type, Place: place, Slot: slot, level: ByPlace})
	role := Role(t.def, e)
	u.Spots[2] = u.Spots[1].kid(
		ix,
		role,
		"",
		Key{Component: e.Type, Place: place, Slot: slot, Role: role, level: ByRole},
	)
	position := positionOf(e, parent)
	u.Spots[3] = u.Spots[2].kid(
		ix,
		position,
		"",
		Key{Component: e.Type, Place: place, Slot: slot, Role: role, Position: position, level: ByNeighbours},
	)
	doc.Uses = append(doc.Uses, u)
	up = int32(len(doc.Uses) - 1)
	layout := t.def != nil && t.def.Level == kit.Layout
	for _, c := range e.Children {
		if layout {
			ix.walk(doc, c, e, up, place, slot)
		} else {
			ix.walk(doc, c, e, up, e.Type, c.Slot)
		}
	}
}

func positionOf(e, parent *screen.Element) string {
	if parent == nil {
		return "only"
	}
	first, last, n := -1, -1, 0
	at := 0
	for i, c := range parent.Children {
		if c.Slot != e.Slot {
			continue
		}
		if first < 0 {
			first = i
		}
		last = i
		n++
		if c == e {
			at = i
		}
	}
	switch {
	case n == 1:
		return "only"
	case at == first:
		return "first"
	case at == last:
		return "last"
	}
	return "between"
}

// Role says what an element is for, from its accessible text, action or bound
// field; empty where nothing tells.
func Role(c *kit.Component, e *screen.Element) string {
	if c == nil {
		return ""
	}
	switch c.Role {
	case "action":
		if v, ok := e.Prop("action"); ok && v.Kind == screen.Literal && v.Text != "none" {
			return "does " + v.Text
		}
		if by := c.SendsBy(); by != nil {
			if v, ok := e.Prop(by.Name); ok && (v.Text == "submit" || v.Text == "reset") {
				return "does " + v.Text
			}
		}
		text := e.Text
		if c.NameProp != "" {
			if v, ok := e.Prop(c.NameProp); ok {
				text = v
			}
		}
		if text.Kind == screen.Literal {
			if verb := firstWord(text.Text); verb != "" {
				return "says " + verb
			}
		}
	case "control":
		if by := c.KindBy(); by != nil {
			if v, ok := e.Prop(by.Name); ok && v.Kind == screen.Literal {
				return "takes " + v.Text
			}
		}
	case "status":
		if e.Text.Kind == screen.Expr {
			return "shows " + e.Text.Text
		}
	}
	if c.Heading != nil && c.Heading.LevelProp != "" {
		if v, ok := e.Prop(c.Heading.LevelProp); ok {
			return "level " + v.Text
		}
	}
	return ""
}

// firstWord normalises the verb of a label: "New ticket…" is "new".
func firstWord(s string) string {
	s = strings.TrimSpace(s)
	end := strings.IndexFunc(s, func(r rune) bool { return !unicode.IsLetter(r) && r != '\'' })
	if end >= 0 {
		s = s[:end]
	}
	return lower(s)
}

func lower(s string) string {
	for _, r := range s {
		if unicode.IsUpper(r) {
			return strings.ToLower(s)
		}
	}
	return s
}

// Effective returns what counts as an element's value for a prop: the set one
// or the default. ok is false for values that are computed, that were filled in by
// the tool, or that may be set where nobody sees it: they are no evidence.
func Effective(e *screen.Element, prop, def string) (value string, ok bool) {
	for i := range e.Props {
		if e.Props[i].Name == prop {
			p := &e.Props[i]
			if p.Filled || !p.Value.Known() {
				return "", false
			}
			return p.Value.Text, true
		}
	}
	return def, !e.Spread
}

func (ix *Index) count(doc *Doc, sign int) {
	ix.epoch++
	ix.changed[doc.Number] = true
	ix.scratch = ix.scratch[:0]
	for i := range doc.Uses {
		u := &doc.Uses[i]
		t := u.Spots[0].comp
		for _, s := range u.Spots {
			if s.epoch != ix.epoch {
				s.epoch = ix.epoch
				ix.scratch = append(ix.scratch, s)
				if s.scratch == nil {
					s.scratch = make([]scratch, len(t.props))
				}
				for j := range s.scratch {
					s.scratch[j].uses = 0
					s.scratch[j].values = s.scratch[j].values[:0]
				}
				s.Docs += sign
			}
			s.Uses += sign
		}
		for j := range t.props {
			p := &t.props[j]
			value, ok := Effective(u.Element, p.name, p.def)
			if !ok {
				continue
			}
			for _, s := range u.Spots {
				s.scratch[j].add(value)
			}
		}
	}
	for _, s := range ix.scratch {
		for j := range s.scratch {
			if s.scratch[j].uses > 0 {
				s.Mixes[j].merge(&s.scratch[j], doc.Number, sign)
			}
		}
		ix.dirty[s] = true
	}
	ix.countNext(doc, sign)
}

func (sc *scratch) add(value string) {
	sc.uses++
	for i := range sc.values {
		if sc.values[i].Value == value {
			sc.values[i].Uses++
			return
		}
	}
	sc.values = append(sc.values, Value{Value: value, Uses: 1})
}

func (m *Mix) merge(sc *scratch, doc int32, sign int) {
	m.Screens += sign
	m.Uses += sign * sc.uses
	for _, v := range sc.values {
		i := slices.IndexFunc(m.Values, func(o Value) bool { return o.Value == v.Value })
		if i < 0 {
			m.Values = append(m.Values, Value{Value: v.Value})
			i = len(m.Values) - 1
		}
		o := &m.Values[i]
		o.Uses += sign * v.Uses
		o.Weight += float64(sign) * weight(v.Uses, sc.uses)
		// In order, so that results do not depend on the way they came about.
		j, found := slices.BinarySearch(o.Docs, doc)
		switch {
		case sign > 0 && !found:
			o.Docs = slices.Insert(o.Docs, j, doc)
		case sign < 0 && found:
			o.Docs = slices.Delete(o.Docs, j, j+1)
		}
		if o.Uses == 0 {
			m.Values = slices.Delete(m.Values, i, i+1)
		}
	}
}

// weight is the share of a document that a value holds in a spot, in steps of
// 2⁻²⁰: such sums are exact, so that taking out what was put in leaves no trace.
func weight(uses, of int) float64 {
	return math.Round(float64(uses)/float64(of)*(1<<20)) / (1 << 20)
}

// Changed returns the spots and the numbers of the documents that changed since
// it was last asked, each in order.
func (ix *Index) Changed() (spots []*Spot, docs []int32) {
	spots = slices.SortedFunc(maps.Keys(ix.dirty), func(a, b *Spot) int { return a.Number - b.Number })
	docs = slices.Sorted(maps.Keys(ix.changed))
	clear(ix.dirty)
	clear(ix.changed)
	return spots, docs
}

// Spots lists all spots that hold at least one use.
func (ix *Index) Spots() []*Spot {
	out := make([]*Spot, 0, len(ix.all))
	for _, s := range ix.all {
		if s.Uses > 0 {
			out = append(out, s)
		}
	}
	return out
}

// Spot finds a spot by its address.
func (ix *Index) Spot(name string) (*Spot, bool) {
	if ix.spots == nil || len(ix.spots) != len(ix.all) {
		ix.spots = make(map[string]*Spot, len(ix.all))
		for _, s := range ix.all {
			ix.spots[s.Name()] = s
		}
	}
	s, ok := ix.spots[name]
	return s, ok
}

// Doc finds an indexed document by its number.
func (ix *Index) Doc(n int32) *Doc {
	if int(n) >= len(ix.byNum) {
		return nil
	}
	return ix.byNum[n]
}

// Docs lists the documents in the order they came.
func (ix *Index) Docs() []*Doc {
	out := make([]*Doc, 0, len(ix.docs))
	for _, d := range ix.byNum {
		if d != nil {
			out = append(out, d)
		}
	}
	return out
}

// Select calls found for the elements of a document that a selector picks. It
// only reads, so that several documents can be searched at once.
func (ix *Index) Select(d *Doc, sel *screen.Selector, found func(*screen.Element)) {
	var roots []*Spot
	types := sel.Types()
	for _, typ := range types {
		if t, ok := ix.comps[typ]; ok {
			roots = append(roots, t.root)
		}
	}
	var path []*screen.Element
	for i := range d.Uses {
		u := &d.Uses[i]
		if types != nil && !slices.Contains(roots, u.Spots[0]) {
			continue
		}
		path = append(path[:0], u.Element)
		for up := u.Up; up >= 0; up = d.Uses[up].Up {
			path = append(path, d.Uses[up].Element)
		}
		slices.Reverse(path)
		if sel.Picks(path) {
			found(u.Element)
		}
	}
}

// Find returns an indexed document.
func (ix *Index) Find(kind screen.DocKind, id string) (*Doc, bool) {
	d, ok := ix.docs[string(kind)+":"+id]
	return d, ok
}

// Spots of one element, from the specific to the general.
func (d *Doc) SpotsOf(element string) []*Spot {
	for i := range d.Uses {
		if d.Uses[i].Element.ID == element {
			s := slices.Clone(d.Uses[i].Spots[:])
			slices.Reverse(s)
			return s
		}
	}
	return nil
}

// Mix finds the mix of a prop.
func (s *Spot) Mix(prop string) (*Mix, bool) {
	for i := range s.Mixes {
		if s.Mixes[i].Prop == prop {
			return &s.Mixes[i], true
		}
	}
	return nil, false
}

// Default is the kit's default of a prop in this spot.
func (s *Spot) Default(prop string) string {
	if s.comp.def != nil {
		if p, ok := s.comp.def.Prop(prop); ok {
			return p.Default
		}
	}
	return ""
}

// Def is the definition of the spot's component; nil when the kit lacks it.
func (s *Spot) Def() *kit.Component { return s.comp.def }

// Total is the weight of all values: the screens that count.
func (m *Mix) Total() float64 {
	t := 0.0
	for i := range m.Values {
		t += m.Values[i].Weight
	}
	return t
}

// Sorted returns the values, most used first.
func (m *Mix) Sorted() []Value {
	out := slices.Clone(m.Values)
	slices.SortFunc(out, func(a, b Value) int {
		if a.Uses != b.Uses {
			return b.Uses - a.Uses
		}
		return strings.Compare(a.Value, b.Value)
	})
	return out
}

// Words names the spot for people: "main button in the actions of a page header".
func (s *Spot) Words(cat kit.Catalog) string {
	title := func(typ string) string {
		if c, ok := cat.Component(typ); ok {
			return c.Title
		}
		return strings.TrimPrefix(typ, screen.PiecePrefix)
	}
	k := s.Key
	words := title(k.Component)
	if s.Level == ByComponent {
		return "any " + words
	}
	if s.Level >= ByNeighbours && k.Position != "only" {
		words = map[string]string{"first": "first ", "last": "last ", "between": "middle "}[k.Position] + words
	}
	if s.Level >= ByNeighbours && k.Position == "only" {
		words = "single " + words
	}
	if s.Level >= ByRole && k.Role != "" {
		switch verb, rest, _ := strings.Cut(k.Role, " "); verb {
		case "says":
			words += " “" + rest + "…”"
		case "does":
			words += " that sends the form"
			if rest == "reset" {
				words = strings.TrimSuffix(words, "sends the form") + "clears the form"
			}
		case "takes":
			words += " for " + rest
		case "shows":
			words += " showing " + rest
		case "level":
			words += " of level " + rest
		}
	}
	switch {
	case k.Place == "page" && k.Slot == "":
		return words + " on the page"
	case k.Slot != "":
		return words + " in the " + k.Slot + " of " + article(title(k.Place))
	}
	return words + " in " + article(title(k.Place))
}

func article(s string) string {
	if s != "" && strings.ContainsRune("aeiou", rune(s[0])) {
		return "an " + s
	}
	return "a " + s
}

// ParseKey reads a spot's address back.
func ParseKey(name string) (Key, bool) {
	parts := strings.Split(name, "~")
	if parts[0] == "" || len(parts) > int(levels) {
		return Key{}, false
	}
	k := Key{Component: parts[0], level: Level(len(parts) - 1)}
	if len(parts) > 1 {
		dot := strings.LastIndexByte(parts[1], '.')
		if dot < 0 {
			return Key{}, false
		}
		k.Place, k.Slot = parts[1][:dot], parts[1][dot+1:]
	}
	if len(parts) > 2 {
		k.Role = parts[2]
	}
	if len(parts) > 3 {
		k.Position = parts[3]
	}
	return k, true
}

// Level tells how specific the address is.
func (k Key) Level() Level { return k.level }
