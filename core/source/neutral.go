// Package source turns the markup of a repository into documents that the same judge reads
// as those assembled here. Readers of the frameworks give a neutral tree of each file; this
// package follows imports to what they name, tells the kit's components from the team's own
// and from plain markup, finds screens and shells by their routes, and keeps for every
// element the place it has in its file, so that a repair is a change of its literal there.
//
// What is written is a value; what is computed is bound and no evidence; after a spread what
// is not set is unknown, never the default. What could not be understood is told.
package source

import (
	"encoding/json"
	"fmt"
)

// Span is a part of a file: offsets in bytes, the end not included.
type Span [2]int

// Value is a value as it stands in code.
type Value struct {
	Kind   string   `json:"kind"` // text, number, flag, one, key, bound, handler, unset
	Value  string   `json:"value"`
	Values []string `json:"values,omitempty"` // all that it may be, where that is known
	Form   string   `json:"form,omitempty"`   // how a literal is written: attribute, script, bare, content
	At     *Span    `json:"at,omitempty"`     // place of the literal, quotes included
}

// Literal reports whether the value stands there as it is.
func (v *Value) Literal() bool { return v.Kind == "text" || v.Kind == "number" || v.Kind == "flag" }

// Attribute is one setting of an element in code.
type Attribute struct {
	Value
	Name string `json:"name"`
	Span Span   `json:"span"`
}

// Node is a part of the markup of a file.
type Node struct {
	Kind       string      `json:"kind"` // element, text, value, slot, group
	Name       string      `json:"name,omitempty"`
	Span       Span        `json:"span"`
	Tag        *Span       `json:"tag,omitempty"`  // of an element: its opening tag
	Room       int         `json:"room,omitempty"` // where another attribute may stand
	Attributes []Attribute `json:"attributes,omitempty"`
	Spread     bool        `json:"spread,omitempty"` // more is set than stands here
	Passes     bool        `json:"passes,omitempty"` // the component's own props are passed on to it
	Value      *Value      `json:"value,omitempty"`
	Look       string      `json:"look,omitempty"` // classes that it has by an expression
	Slot       string      `json:"slot,omitempty"`
	Template   string      `json:"template,omitempty"` // of Angular: in which it stands, as a component knows that
	Show       string      `json:"show,omitempty"`
	Repeat     string      `json:"repeat,omitempty"`
	Under      string      `json:"under,omitempty"` // stands elsewhere in the code, under this name
	Children   []*Node     `json:"children,omitempty"`
}

// Prop is a prop as a component of the repository declares it.
type Prop struct {
	Name       string   `json:"name"`
	Type       string   `json:"type"` // text, yes/no, number, choice, data
	Values     []string `json:"values,omitempty"`
	Open       bool     `json:"open,omitempty"`
	Default    string   `json:"default,omitempty"`
	Required   bool     `json:"required,omitempty"`
	Deprecated string   `json:"deprecated,omitempty"`
	Ref        string   `json:"ref,omitempty"` // its type is declared under this name
}

// Declared is what a component says of its props.
type Declared struct {
	Props   []Prop   `json:"props"`
	Extends []string `json:"extends,omitempty"` // types whose props it takes over
}

// Component is a component of a file, with the markup it gives.
type Component struct {
	Name     string    `json:"name"`
	Exported []string  `json:"exported"`
	Span     Span      `json:"span"`
	Selector string    `json:"selector,omitempty"`
	Template string    `json:"template,omitempty"` // file with its markup
	Declared *Declared `json:"declared,omitempty"`
	Slots    []string  `json:"slots,omitempty"`
	Roots    []*Node   `json:"roots"`
}

// Import, Export, Target and Route are what a file says of others.
type (
	Import struct {
		Local string `json:"local"`
		Name  string `json:"name"` // "default", "*" or a name
		From  string `json:"from"`
	}
	Export struct {
		Name  string `json:"name"`
		Local string `json:"local"`
		From  string `json:"from,omitempty"`
	}
	Target struct {
		Local string `json:"local,omitempty"`
		From  string `json:"from,omitempty"`
		Name  string `json:"name,omitempty"`
	}
	Route struct {
		Path  string   `json:"path"`
		Chain []Target `json:"chain"` // what is drawn, from the outermost in
		List  string   `json:"list,omitempty"`
		Below *Target  `json:"below,omitempty"` // further routes, in another list
		Only  bool     `json:"only,omitempty"`  // no screen by itself: it sends one on, or others stand in it
		At    int      `json:"at"`
	}
	Problem struct {
		At   int    `json:"at"`
		What string `json:"what"`
	}
	Type struct {
		Values   []string  `json:"values,omitempty"`
		Declared *Declared `json:"declared,omitempty"`
	}
)

// Module is what a file holds.
type Module struct {
	Language   string          `json:"language"`
	Imports    []Import        `json:"imports"`
	Exports    []Export        `json:"exports"`
	Components []*Component    `json:"components"`
	Types      map[string]Type `json:"types"`
	Routes     []Route         `json:"routes"`
	Problems   []Problem       `json:"problems"`
	// Registered are components that a whole application of Vue has without importing them.
	Registered []struct {
		Name  string `json:"name"`  // that they are used under
		Local string `json:"local"` // in the file
	} `json:"registered,omitempty"`
	// Names are what else is called by names of the file: "Form.Item" for "Item".
	Names []struct {
		Name  string `json:"name"`
		Means string `json:"means"`
	} `json:"names,omitempty"`
	// Aliases are what a bundler's settings let stand for a path.
	Aliases []struct {
		Find string `json:"find"`
		To   string `json:"to"` // from the folder of the file
	} `json:"aliases,omitempty"`
	// Texts are objects of the file that hold texts and hardly anything else.
	Texts []struct {
		Under string            `json:"under"` // language, where the code names it
		Of    map[string]string `json:"of"`
	} `json:"texts,omitempty"`
}

// Parse reads what a reader answered for a file of a size. Places outside of the file are an
// error: the answer is then of another file.
func Parse(src []byte, size int) (*Module, error) {
	m := &Module{}
	if err := json.Unmarshal(src, m); err != nil {
		return nil, fmt.Errorf("the reader's answer: %w", err)
	}
	inside := func(s *Span) bool { return s == nil || s[0] >= 0 && s[0] <= s[1] && s[1] <= size }
	var check func(list []*Node) bool
	check = func(list []*Node) bool {
		for _, n := range list {
			if n == nil || !inside(&n.Span) || !inside(n.Tag) || n.Room < 0 || n.Room > size || n.Value != nil && !inside(n.Value.At) {
				return false
			}
			for i := range n.Attributes {
				if !inside(&n.Attributes[i].Span) || !inside(n.Attributes[i].At) {
					return false
				}
			}
			if !check(n.Children) {
				return false
			}
		}
		return true
	}
	for _, c := range m.Components {
		if c == nil || !check(c.Roots) {
			return nil, fmt.Errorf("the reader's answer speaks of places outside of the file")
		}
	}
	return m, nil
}
