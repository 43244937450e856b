package change

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// PutState gives a document a state, or another one under a name it has.
type PutState struct {
	Doc   string       `json:"doc"`
	State screen.State `json:"state"`
	At    *int         `json:"at" do:"log"`
}

// DropState takes a state away.
type DropState struct {
	Doc   string       `json:"doc"`
	State screen.State `json:"state" do:"key=name"` // of which the name counts
}

// EditState adds differences to a state.
type EditState struct {
	Doc   string       `json:"doc"`
	State screen.State `json:"state"` // by its name; its edits are the further differences
}

var (
	_ = add[PutState](Kind{Name: "state", Does: "give a screen a state", Role: model.Builder})
	_ = add[DropState](Kind{Name: "unstate", Does: "take a state of a screen away", Role: model.Builder})
	_ = add[EditState](Kind{Name: "edit-state", Does: "change what differs in a state", Role: model.Builder})
)

const maxStates = 40

func (s *PutState) sets() []string  { return stateSets(s.Doc, s.State) }
func (s *DropState) sets() []string { return stateSets(s.Doc, s.State) }
func (s *EditState) sets() []string { return stateSets(s.Doc, s.State) }

func stateSets(doc string, s screen.State) []string {
	return []string{doc + " state " + strings.TrimSpace(s.Name)}
}

// stateOf gives the document with its states to write, the name and where it stands.
func stateOf(t *taking, doc string, s screen.State) (d *screen.Document, name string, at int, err error) {
	name = strings.TrimSpace(s.Name)
	switch {
	case name == "":
		return nil, "", 0, fmt.Errorf("the state has no name")
	case name == "ready" || len(name) > 40:
		return nil, "", 0, fmt.Errorf("a state is called otherwise than ready, in at most 40 letters")
	}
	if d, _, err = t.doc(doc); err != nil {
		return nil, "", 0, err
	}
	if d.Kind == screen.PieceDoc {
		return nil, "", 0, fmt.Errorf("a piece has no states; the screens that use it do")
	}
	d.States = slices.Clone(d.States)
	return d, name, slices.IndexFunc(d.States, func(o screen.State) bool { return o.Name == name }), nil
}

func (s *PutState) apply(t *taking) error {
	d, name, at, err := stateOf(t, s.Doc, s.State)
	if err != nil {
		return err
	}
	next := screen.State{Name: name, Set: s.State.Set, Edits: s.State.Edits}
	if at >= 0 {
		t.undo(&PutState{Doc: s.Doc, State: d.States[at]})
		d.States[at] = next
		return nil
	}
	if len(d.States) >= maxStates {
		return fmt.Errorf("%s has %d states; more is a second screen", d.Title, maxStates)
	}
	if s.At != nil && *s.At >= 0 && *s.At <= len(d.States) {
		d.States = slices.Insert(d.States, *s.At, next)
	} else {
		d.States = append(d.States, next)
	}
	t.undo(&DropState{Doc: s.Doc, State: next})
	return nil
}

func (s *DropState) apply(t *taking) error {
	d, name, at, err := stateOf(t, s.Doc, s.State)
	if err != nil {
		return err
	}
	if at < 0 {
		return fmt.Errorf("%s has no state %q", d.Title, name)
	}
	t.undo(&PutState{Doc: s.Doc, State: d.States[at], At: &at})
	d.States = slices.Delete(d.States, at, at+1)
	return nil
}

func (s *EditState) apply(t *taking) error {
	d, name, at, err := stateOf(t, s.Doc, s.State)
	if err != nil {
		return err
	}
	if at < 0 {
		return fmt.Errorf("%s has no state %q", d.Title, name)
	}
	// The differences are made on the tree as the state shows it.
	old := d.States[at]
	root, _ := screen.In(d, name, t.cat)
	for _, e := range s.State.Edits {
		next, _, err := screen.Apply(root, e, t.cat)
		if err != nil {
			return err
		}
		root = next
	}
	next := old
	next.Edits = squash(append(slices.Clone(old.Edits), s.State.Edits...))
	d.States[at] = next
	t.undo(&PutState{Doc: s.Doc, State: old})
	return nil
}

// squash leaves out what a later edit of the same setting makes void.
func squash(edits []screen.Edit) []screen.Edit {
	setting := func(e screen.Edit) string {
		switch e.Op {
		case screen.Set, screen.Unset:
			return e.ID + "|prop|" + e.Prop
		case screen.SetText, screen.Show, screen.SetRepeat, screen.Rename:
			return e.ID + "|" + string(e.Op)
		}
		return ""
	}
	last := map[string]int{}
	for i, e := range edits {
		if key := setting(e); key != "" {
			last[key] = i
		}
	}
	out := make([]screen.Edit, 0, len(edits))
	for i, e := range edits {
		if key := setting(e); key == "" || last[key] == i {
			out = append(out, e)
		}
	}
	return out
}
