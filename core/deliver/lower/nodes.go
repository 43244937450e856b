package lower

import (
	"strings"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/kit"
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

	leads emit.Expr // where a place in a navigation leads
	marks *kit.Prop // and the flag that marks it
}

// Fill is what stands in an outlet of a piece.
type Fill struct {
	Outlet string
	Kids   []Node
}

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
	Flag   string    // what the event says of a target: it is open where that says so, else closed
	Value  emit.Expr // that a control is set to
	List   string    // of the record that is touched, Key being its id
	Set    emit.Expr // the fields of the record that become something else; nil where it goes
}

func (Words) isNode()   {}
func (*Outlet) isNode() {}
func (*Each) isNode()   {}
func (*El) isNode()     {}
