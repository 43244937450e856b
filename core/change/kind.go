package change

import (
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"ubiquant/core/model"
)

// Kind says of one kind of step what its type does not.
type Kind struct {
	Name string     // what the step says it does: "edit"
	Does string     // the same in words, for people who read the API
	Role model.Role // needed at least; a step may ask more (see guarded)
	// Log marks a kind that only the log holds: it restores what stood, and nobody sends it.
	Log bool
	typ reflect.Type // of the step, without the pointer
}

// New makes an empty step of the kind.
func (k *Kind) New() Step { return reflect.New(k.typ).Interface().(Step) }

var (
	kinds  = map[string]*Kind{}
	byType = map[reflect.Type]*Kind{}
)

// add enters a kind; each stands in the file of its step.
func add[S any, P interface {
	*S
	Step
}](k Kind) *Kind {
	k.typ = reflect.TypeFor[S]()
	if kinds[k.Name] != nil {
		panic("change: two kinds of step are called " + k.Name)
	}
	kinds[k.Name], byType[k.typ] = &k, &k
	return &k
}

// Kinds lists all kinds by name.
func Kinds() []*Kind {
	out := make([]*Kind, 0, len(kinds))
	for _, k := range kinds {
		out = append(out, k)
	}
	slices.SortFunc(out, func(a, b *Kind) int { return strings.Compare(a.Name, b.Name) })
	return out
}

// KindOf is the kind of a step.
func KindOf(s Step) *Kind { return byType[reflect.TypeOf(s).Elem()] }

// Describe names a step in an error: what it does, and to which document.
func Describe(s Step) string {
	name := KindOf(s).Name
	if doc := docOf(s); doc != "" {
		name += " " + doc
	}
	return name
}

// docOf is the document that a step is about, or nothing.
func docOf(s Step) string {
	if f := reflect.ValueOf(s).Elem().FieldByName("Doc"); f.IsValid() {
		return f.String()
	}
	return ""
}

// About is the document whose contents a step changes, or nothing.
func About(s Step) string {
	switch s := s.(type) {
	case *Create:
		return s.Document.Address()
	case *Sign, *Mark:
		return ""
	}
	return docOf(s)
}

// HeadOnly reports whether a step changes what is said of a document, and not its tree.
func HeadOnly(s Step) bool {
	switch s.(type) {
	case *Meta, *Remove, *Restore:
		return true
	}
	return false
}

// stamped is a step of which the server, and never the client, says by whom and when.
type stamped interface{ stamp(by, when string) }

// guarded is a step that asks more than a role.
type guarded interface{ allowed(c *Circumstances) error }

// Circumstances are who takes a change, when, and how things stand.
type Circumstances struct {
	W      *model.Workspace
	Person string // name of the account
	Role   model.Role
	Today  string // YYYY-MM-DD
	// Restores is set where a change is taken back: who did what and when stays as the log
	// has it.
	Restores bool
	// Unmet lists what of the team's conditions for a sign-off a document does not meet.
	Unmet func(doc string) []string
}

// Denied says that somebody may not take a step.
type Denied struct{ Reason string }

func (d *Denied) Error() string { return d.Reason }

func denied(format string, args ...any) error { return &Denied{fmt.Sprintf(format, args...)} }

// Authorise checks that a person may take a change, and says of its steps by whom and
// when. Every way to a change leads through here. Errors are of type *Denied where the
// person may not, others where nobody may.
func Authorise(c Change, in *Circumstances) error {
	for i, s := range c.Steps {
		k := KindOf(s)
		if !in.Role.May(k.Role) {
			if k.Role == model.Keeper {
				return denied("what the whole team is held to is a keeper's to change")
			}
			return denied("a %s cannot %s", in.Role, k.Does)
		}
		if st, ok := s.(stamped); ok && !in.Restores {
			st.stamp(in.Person, in.Today)
		}
		if g, ok := s.(guarded); ok {
			err := g.allowed(in)
			var no *Denied
			if err != nil && !errors.As(err, &no) {
				err = &StepError{i + 1, len(c.Steps), s, err}
			}
			if err != nil {
				return err
			}
		}
	}
	return nil
}
