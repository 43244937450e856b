package resolve

import (
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Names are what the elements of one document lend to its expressions by their names:
// what controls hold, and how many records repeats have. A piece has names of its own, and a
// named use of it lends what its controls hold to the document that it stands in: that of
// "search" in the use "filters" is filtersSearch there.
type Names struct {
	Controls map[string]Control
	Repeats  map[string]*screen.Element // that stand in no other repeat
	Kinds    map[string]expr.Kind       // of the controls
	Lists    []string                   // names of the repeats, in order
	Spoken   bool                       // something follows what a control holds
	Route    []string                   // parameters of the screen's route
	key      string
}

// Control is a named element that holds what people choose or type.
type Control struct {
	Element *screen.Element
	// Key is what its value is kept by: its name; of one in a piece behind the ids of the uses
	// that it stands in, "filters/search".
	Key   string
	ID    string          // of its element, likewise
	Use   *screen.Element // of the piece that lends it; nil where it is the document's own
	Inner string          // what it is called in that piece
	Holds *kit.Prop
	At    string // event at which it changed
	Kind  expr.Kind
	Usual any // what it holds at first: string, float64 or bool
}

// NamesOf collects the names of a document.
func NamesOf(root *screen.Element, cat kit.Catalog) *Names {
	return namesOf(root, cat, 0, map[*screen.Document]*Names{})
}

// Pieced is a catalog that knows what the pieces in it are made of.
type Pieced interface {
	PieceOf(typ string) *screen.Document
}

func pieceOf(e *screen.Element, cat kit.Catalog) *screen.Document {
	if pieces, ok := cat.(Pieced); ok && strings.HasPrefix(e.Type, screen.PiecePrefix) {
		return pieces.PieceOf(e.Type)
	}
	return nil
}

// LentName is what the control of a piece is called where a use of it lends it.
func LentName(use, control string) string { return Identifier(use + "." + control) }

type lending struct {
	use   *screen.Element
	piece *screen.Document
}

// deepest bounds how many pieces stand in one another; one that contains itself ends there.
// mostControls bounds the controls that a document has, those of its pieces among them.
const (
	deepest      = 16
	mostControls = 2_000
)

func (n *Names) control(name string, c Control) {
	if n.Controls == nil {
		n.Controls, n.Kinds = map[string]Control{}, map[string]expr.Kind{}
	}
	n.Controls[name], n.Kinds[name] = c, c.Kind
}

// lent adds what the controls of a piece hold, where no control of the document's own goes by
// that name.
func (n *Names) lent(l lending, cat kit.Catalog, depth int, known map[*screen.Document]*Names) {
	inner := known[l.piece]
	if inner == nil {
		inner = namesOf(l.piece.Root, cat, depth+1, known)
		known[l.piece] = inner
	}
	over := Overrides(l.piece, l.use, cat)
	for _, name := range slices.Sorted(maps.Keys(inner.Controls)) {
		as := LentName(l.use.Name, name)
		if _, taken := n.Controls[as]; taken || len(n.Controls) >= mostControls {
			continue
		}
		c := inner.Controls[name].under(over, cat)
		c.Key, c.ID, c.Use, c.Inner = l.use.ID+"/"+c.Key, l.use.ID+"/"+c.ID, l.use, name
		n.control(as, c)
	}
}

// under is a control of a piece as a use sets it.
func (c Control) under(over map[string][]screen.Prop, cat kit.Catalog) Control {
	list := over[c.Element.ID]
	if c.Use != nil || len(list) == 0 {
		return c
	}
	if set, ok := controlOf(c.Element.With(list), cat); ok {
		c.Usual = set.Usual
	}
	return c
}

func namesOf(root *screen.Element, cat kit.Catalog, depth int, known map[*screen.Document]*Names) *Names {
	out := &Names{}
	var uses []lending
	var walk func(e *screen.Element, inside bool)
	walk = func(e *screen.Element, inside bool) {
		out.Spoken = out.Spoken || len(Spoken(e, true)) > 0 || setsControl(e)
		if e.Name != "" && !inside {
			name := Identifier(e.Name)
			if e.Repeat != nil {
				if out.Repeats == nil {
					out.Repeats = map[string]*screen.Element{}
				}
				if out.Repeats[name] == nil {
					out.Lists = append(out.Lists, name)
				}
				out.Repeats[name] = e
			} else if c, ok := controlOf(e, cat); ok {
				c.Key, c.ID = name, e.ID
				out.control(name, c)
			} else if piece := pieceOf(e, cat); piece != nil {
				uses = append(uses, lending{e, piece})
			}
		}
		for _, c := range e.Children {
			walk(c, inside || e.Repeat != nil)
		}
	}
	walk(root, false)
	for _, l := range uses {
		if depth < deepest {
			out.lent(l, cat, depth, known)
		}
	}
	slices.Sort(out.Lists)
	for name, kind := range out.Kinds {
		out.key += fmt.Sprintf("%s:%d ", name, kind)
	}
	if len(out.Kinds) > 1 {
		parts := strings.Fields(out.key)
		slices.Sort(parts)
		out.key = strings.Join(parts, " ")
	}
	out.key += "|" + strings.Join(out.Lists, " ")
	return out
}

// Follow has what the controls of these names hold followed: sources ask for it.
func (n *Names) Follow(asked []string) {
	for _, name := range asked {
		if _, ok := n.Controls[name]; ok {
			n.Spoken = true
		}
	}
}

// On adds the parameters of the screen's route.
func (n *Names) On(route string) *Names {
	n.Route = screen.Params(route)
	n.key += "|" + strings.Join(n.Route, " ")
	return n
}

// In puts the names into a scope.
func (n *Names) In(s expr.Scope) expr.Scope {
	s.Controls, s.Repeats, s.Route = n.Kinds, n.Lists, n.Route
	return s
}

var (
	naming = regexp.MustCompile(`\b(controls|count|pages)\.(\w+)`)
	// lent are all that a screen lends to its expressions: a piece knows none of it.
	lent = regexp.MustCompile(`\b(controls|count|pages|route)\.(\w+)`)
)

// Spoken lists the names of the screen's own that an element's expressions speak of, those
// of its route among them; with controls alone, only those of controls.
func Spoken(e *screen.Element, controls bool) []string {
	var out []string
	says := func(source string) {
		for _, m := range lent.FindAllStringSubmatch(source, -1) {
			if !controls || m[1] == "controls" {
				out = append(out, m[2])
			}
		}
	}
	says(e.Show)
	if e.Text.Kind == screen.Expr {
		says(e.Text.Text)
	}
	if r := e.Repeat; r != nil {
		says(r.Where)
		says(r.Sort)
		if r.Page != "" {
			out = append(out, Identifier(r.Page))
		}
	}
	for _, p := range e.Props {
		if p.Value.Kind == screen.Expr {
			says(p.Value.Text)
		}
	}
	return out
}

var record = regexp.MustCompile(`(^|[^\w.])record\b`)

// SpeaksOfRecord tells whether a value is computed of a record.
func SpeaksOfRecord(v screen.Value) bool {
	return v.Kind == screen.Expr && record.MatchString(v.Text)
}

// SpokenBy finds what a value speaks of by name: pairs of "controls", "count", "pages" or "route"
// and the name.
func SpokenBy(v screen.Value) (out [][2]string) {
	if v.Kind == screen.Expr {
		for _, m := range lent.FindAllStringSubmatch(v.Text, -1) {
			out = append(out, [2]string{m[1], m[2]})
		}
	}
	return out
}

// Deeds are the actions of an element; none where they cannot be read.
func Deeds(e *screen.Element) []screen.Action {
	v, _ := e.Prop(kit.Does)
	list, err := screen.ParseActions(v.Text)
	if err != nil {
		return nil
	}
	return list
}

func controlOf(e *screen.Element, cat kit.Catalog) (Control, bool) {
	def, ok := cat.Component(e.Type)
	if !ok || def.Holds == "" {
		return Control{}, false
	}
	prop, ok := def.Prop(def.Holds)
	if !ok {
		return Control{}, false
	}
	c := Control{Element: e, Holds: prop, At: def.HoldsAt, Kind: expr.Text}
	usual := strings.Trim(prop.Default, `'"`)
	if v, ok := e.Prop(def.Holds); ok && v.Kind != screen.Expr && v.Kind != screen.Token {
		usual = v.Text
	}
	switch prop.Type {
	case kit.Bool:
		c.Kind, c.Usual = expr.Bool, usual == "true"
	case kit.Number:
		c.Kind = expr.Number
		n, _ := strconv.ParseFloat(usual, 64)
		c.Usual = n
	default:
		c.Usual = usual
	}
	return c, true
}

// setsControl tells whether an element is told to set a control: what that holds is followed.
func setsControl(e *screen.Element) bool {
	v, ok := e.Prop(kit.Does)
	return ok && strings.Contains(v.Text, screen.SetControl) &&
		slices.ContainsFunc(Deeds(e), func(a screen.Action) bool { return a.Verb == screen.SetControl })
}

// Set finds the control that an action sets, and what it is to hold.
func (n *Names) Set(a screen.Action) (name string, c Control, value any, ok bool) {
	name, text, given := a.Control()
	name = Identifier(name)
	if c, ok = n.Controls[name]; !ok || !given {
		return name, c, c.Usual, ok
	}
	switch c.Kind {
	case expr.Bool:
		return name, c, text == "true" || text == "yes" || text == "on", true
	case expr.Number:
		f, err := strconv.ParseFloat(text, 64)
		return name, c, f, err == nil
	}
	return name, c, text, true
}

// Held is a value that a control can hold, or what it holds at first where it is of
// another kind.
func (c Control) Held(v any) any {
	switch c.Kind {
	case expr.Bool:
		if b, ok := v.(bool); ok {
			return b
		}
	case expr.Number:
		if f, ok := v.(float64); ok {
			return f
		}
	default:
		if s, ok := v.(string); ok {
			return s
		}
	}
	return c.Usual
}

// Identifier is how expressions and code write an element's name: "due-date" is dueDate.
func Identifier(name string) string {
	var b strings.Builder
	up := false
	for _, r := range name {
		if !unicode.IsLetter(r) && !unicode.IsDigit(r) {
			up = b.Len() > 0
			continue
		}
		switch {
		case up:
			r = unicode.ToUpper(r)
		case b.Len() == 0:
			r = unicode.ToLower(r)
		}
		b.WriteRune(r)
		up = false
	}
	return b.String()
}

// paged is the part of the records that stands on a page, from 1; past the last it is
// the last.
func paged(records []sample.Record, size, page int) []sample.Record {
	if size <= 0 {
		return records
	}
	page = min(max(page, 1), pages(len(records), size))
	from := (page - 1) * size
	return records[from:min(len(records), from+size)]
}

// pages is how many pages so many records take; none still takes one.
func pages(records, size int) int {
	if size <= 0 {
		return 1
	}
	return max(1, (records+size-1)/size)
}

// Lent is what the names of a document give at first: what its controls hold, and how
// many records its repeats have.
func Lent(in Input) (controls map[string]any, count func(repeat string) (records, pages int, err error)) {
	r := newResolver(in)
	return r.own.held(r.Controls), func(name string) (int, int, error) { return r.count(r.own, name) }
}

// Acts tells whether what a repeat shows follows the screen's controls.
func Acts(e *screen.Element, names *Names) bool {
	r := e.Repeat
	if r == nil || !names.Spoken {
		return false
	}
	_, sorted := sample.Computed(r.Sort)
	return r.Page != "" || sorted || naming.MatchString(r.Where)
}
