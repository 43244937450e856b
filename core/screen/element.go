// Package screen models what is assembled: a tree of elements, each one use of a
// component, piece or layout, and the edits that change such a tree.
//
// Trees are immutable. An Edit is a value: it is applied to a tree and yields a
// new one together with the edit that takes it back; it can be carried over
// another that came first (Rebase). Nothing else changes a tree, so a tree may be
// shared freely between readers.
package screen

import (
	"slices"
	"strings"
)

// Kind tells what a Value holds.
type Kind uint8

const (
	None    Kind = iota // no value
	Literal             // a text
	Num                 // a number, as written
	Flag                // "true" or "false"
	Token               // the path of a token
	Expr                // an expression over the record and screen in scope
	Bound               // computed in code that was read: its source, which says nothing here
)

// Value is a prop's or text's value.
type Value struct {
	Kind Kind
	Text string
}

// Lit makes a literal text.
func Lit(s string) Value { return Value{Literal, s} }

// IsExpr reports whether the value is computed.
func (v Value) IsExpr() bool { return v.Kind == Expr }

// Known reports whether the value stands there as it is: neither computed nor bound in code.
func (v Value) Known() bool { return v.Kind != Expr && v.Kind != Bound }

// Fixed returns the literal form for comparing and counting: its text, or a
// marker for what is computed.
func (v Value) Fixed() string {
	if !v.Known() {
		return "= " + v.Text
	}
	return v.Text
}

// Prop is one setting of an element.
type Prop struct {
	Name   string
	Value  Value
	Filled bool // set by the tool; no evidence of what the team does until kept
}

// Repeat makes an element stand once for each record of a model.
type Repeat struct {
	Model string // the model's id
	Where string // CEL over record; empty takes all
	Sort  string // fields, see sample.Keys; "= " and an expression where a control chooses
	Limit int    // 0 takes all; with a page, how many stand on each
	Page  string // name of the control that holds the page, from 1; empty shows the first
}

// Origin is the place in code an element came from.
type Origin struct {
	File, Range, Hash string
	Look              string // classes that it has there, by which it is drawn as it looks there
	Behind            int    // how many of its children stand there before what it says
	Besides           []Prop // what it is set to there and no component here knows: by name, as it stands there
}

// Element is one use of a component, piece or layout.
type Element struct {
	ID       string
	Type     string // tag of the kit, name of a layout, or "piece:" and an id
	Slot     string // of the parent; empty is the main slot
	Name     string // stable name for own code; may be empty
	Text     Value
	Props    []Prop // by name
	Show     string // expression; empty shows always
	Repeat   *Repeat
	Children []*Element
	Origin   *Origin
	Spread   bool  // read from code where more is set than stands there: what is not set is unknown
	Offset   int64 // where it began in the text it was read from; 0 when made here
}

// FromCode reports whether the element was read from code: what it shows and when is said there.
func (e *Element) FromCode() bool {
	return e.Origin != nil && e.Origin.File != "" && !strings.HasPrefix(e.Origin.File, PiecePrefix)
}

// PiecePrefix begins the type of an element that uses a piece.
const PiecePrefix = "piece:"

// Prop finds a set prop.
func (e *Element) Prop(name string) (Value, bool) {
	for i := range e.Props {
		if e.Props[i].Name == name {
			return e.Props[i].Value, true
		}
	}
	return Value{}, false
}

// Written is what an element is set to, in code also by an attribute that its component does not describe.
func (e *Element) Written(name string) (Value, bool) {
	if v, ok := e.Prop(name); ok || e.Origin == nil {
		return v, ok
	}
	for i := range e.Origin.Besides {
		if e.Origin.Besides[i].Name == name {
			return e.Origin.Besides[i].Value, true
		}
	}
	return Value{}, false
}

// SetProp returns the props with one set; the original stays.
func setProp(props []Prop, p Prop) []Prop {
	i, found := slices.BinarySearchFunc(
		props,
		p.Name,
		func(q Prop, n string) int { return strings.Compare(q.Name, n) },
	)
	if found {
		out := slices.Clone(props)
		out[i] = p
		return out
	}
	return slices.Insert(slices.Clone(props), i, p)
}

func unsetProp(props []Prop, name string) []Prop {
	return slices.DeleteFunc(slices.Clone(props), func(p Prop) bool { return p.Name == name })
}

// SortProps puts props into their canonical order.
func SortProps(props []Prop) {
	slices.SortFunc(props, func(a, b Prop) int { return strings.Compare(a.Name, b.Name) })
}

// What a setting from outside may reach besides props and the text.
const (
	ShowProp = "@show" // the visibility
	KindProp = "@kind" // the type
)

// With is the element as settings put on it from outside make it: a text where the
// name is empty, "@show" and "@kind" for its visibility and type, else a prop.
func (e *Element) With(over []Prop) *Element {
	if len(over) == 0 {
		return e
	}
	c := *e
	for _, o := range over {
		switch o.Name {
		case "":
			c.Text = o.Value
		case ShowProp:
			c.Show = o.Value.Text
		case KindProp:
			c.Type = o.Value.Text
		default:
			c.Props = setProp(c.Props, o)
		}
	}
	return &c
}

// Walk calls visit for the element and all below it, parents first, with the
// parent (nil for the root). It goes no deeper where visit returns false.
func (e *Element) Walk(visit func(el, parent *Element) bool) { walk(e, nil, visit) }

func walk(e, parent *Element, visit func(el, parent *Element) bool) {
	if !visit(e, parent) {
		return
	}
	for _, c := range e.Children {
		walk(c, e, visit)
	}
}

// Copy is the element with all that stands in it, as a tree of its own.
func (e *Element) Copy() *Element {
	out := *e
	out.Children = make([]*Element, len(e.Children))
	for i, c := range e.Children {
		out.Children[i] = c.Copy()
	}
	return &out
}

// Count is the number of elements in the tree.
func (e *Element) Count() int {
	n := 1
	for _, c := range e.Children {
		n += c.Count()
	}
	return n
}

// Find returns the element with the id, and its parent.
func (e *Element) Find(id string) (el, parent *Element) {
	if e.ID == id {
		return e, nil
	}
	for _, c := range e.Children {
		if c.ID == id {
			return c, e
		}
		if el, parent := c.Find(id); el != nil {
			return el, parent
		}
	}
	return nil, nil
}

// Path lists the elements from the root to the one with the id, both included.
func (e *Element) Path(id string) []*Element {
	if e.ID == id {
		return []*Element{e}
	}
	for _, c := range e.Children {
		if p := c.Path(id); p != nil {
			return append([]*Element{e}, p...)
		}
	}
	return nil
}

// before returns the id of the sibling in the same slot that stands before the
// child, or "" where it is the first.
func (e *Element) before(child *Element) string {
	prev := ""
	for _, c := range e.Children {
		if c.ID == child.ID {
			return prev
		}
		if c.Slot == child.Slot {
			prev = c.ID
		}
	}
	return prev
}

// Equal reports whether two trees are the same in all that is written.
func Equal(a, b *Element) bool {
	if a == b {
		return true
	}
	if a == nil || b == nil || a.ID != b.ID || a.Type != b.Type || a.Slot != b.Slot || a.Name != b.Name || a.Text != b.Text || a.Show != b.Show || a.Spread != b.Spread ||
		!slices.Equal(a.Props, b.Props) || len(a.Children) != len(b.Children) ||
		(a.Repeat == nil) != (b.Repeat == nil) ||
		(a.Repeat != nil && *a.Repeat != *b.Repeat) {
		return false
	}
	for i := range a.Children {
		if !Equal(a.Children[i], b.Children[i]) {
			return false
		}
	}
	return true
}

// SameAs tells whether two elements are set alike, whatever stands in them.
func (e *Element) SameAs(o *Element) bool {
	a, b := *e, *o
	a.Children, b.Children = nil, nil
	return Equal(&a, &b)
}

// DocKind tells what a document is.
type DocKind string

const (
	ScreenDoc DocKind = "screen"
	ShellDoc  DocKind = "shell"
	PieceDoc  DocKind = "piece"
)

// Document is a tree with what is known of it as a whole: a screen on its
// route, a shell, or a piece.
type Document struct {
	Kind     DocKind
	ID       string
	Title    string
	Route    string // of a screen
	App      string // application's id
	Shell    string // shell's id; empty for none
	Owner    string // user name of the screen's owner
	Source   string // file that it was read from; empty for what was assembled here
	Made     string // when it was made, YYYY-MM-DD; empty where that is not known
	Removed  bool   // recoverable
	Revision int    // counts the edits taken
	Signed   *SignOff
	Props    []PieceProp // of a piece
	States   []State     // besides the usual one
	Root     *Element
}

// State is a named condition of a screen: what differs from the usual tree in it.
type State struct {
	Name  string
	Set   string // sample set that it is looked at with; empty keeps the one chosen
	Edits []Edit
}

// State finds a state by its name.
func (d *Document) State(name string) (*State, bool) {
	for i := range d.States {
		if d.States[i].Name == name {
			return &d.States[i], true
		}
	}
	return nil, false
}

// PieceProp is a setting that a piece offers: it stands for one prop of an inner
// element, or for its text where Prop is empty.
type PieceProp struct {
	Name    string `json:"name"`
	Element string `json:"element"`
	Prop    string `json:"prop,omitempty"`
}

// SignOff records that a screen's owner called it done, and at which revision.
type SignOff struct {
	By       string
	When     string // date, YYYY-MM-DD
	Revision int
}

// SignedNow reports whether the document is signed off as it stands.
func (d *Document) SignedNow() bool { return d.Signed != nil && d.Signed.Revision == d.Revision }

// Address names a document within its workspace: "screen:tickets".
func (d *Document) Address() string { return string(d.Kind) + ":" + d.ID }

// ParseAddress takes an address apart; ok is false where it is none.
func ParseAddress(address string) (kind DocKind, id string, ok bool) {
	k, id, cut := strings.Cut(address, ":")
	switch kind = DocKind(k); kind {
	case ScreenDoc, ShellDoc, PieceDoc:
		return kind, id, cut && id != ""
	}
	return kind, id, false
}
