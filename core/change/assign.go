package change

import (
	"fmt"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/model"
)

// PutAssignment gives something of the audit to somebody to see to.
type PutAssignment struct {
	Assignment audit.Assignment `json:"assignment"`
	At         *int             `json:"at" do:"log"`
}

// DropAssignment takes it back, or says that it is done.
type DropAssignment struct {
	Assignment audit.Assignment `json:"assignment" do:"key=id"` // of which the id counts
}

var (
	_ = add[PutAssignment](Kind{Name: "assign", Does: "give somebody something to see to", Role: model.Builder})
	_ = add[DropAssignment](Kind{Name: "unassign", Does: "take back what was given to somebody", Role: model.Builder})
)

var assignments = entries[audit.Assignment]{
	part: model.Assignments,
	in:   func(w *model.Workspace) *[]audit.Assignment { return &w.Assignments },
	key:  func(a *audit.Assignment) string { return a.ID },
	put:  func(a audit.Assignment, at *int, _ bool) Step { return &PutAssignment{a, at} },
	drop: func(a audit.Assignment) Step { return &DropAssignment{a} },
}

func (s *PutAssignment) stamp(by, when string) { s.Assignment.By, s.Assignment.When = by, when }

// allowed: the day by which it is to be done is one, and still to come.
func (s *PutAssignment) allowed(c *Circumstances) error {
	if s.Assignment.Due == "" || c.Restores {
		return nil
	}
	return comes("by which it is to be done", s.Assignment.Due, c.Today)
}

func (s *PutAssignment) sets() []string  { return []string{"assignment:" + s.Assignment.ID} }
func (s *DropAssignment) sets() []string { return []string{"assignment:" + s.Assignment.ID} }

func (s *PutAssignment) apply(t *taking) error {
	switch {
	case s.Assignment.ID == "" || s.Assignment.Key == "":
		return fmt.Errorf("nothing to see to is given")
	case strings.TrimSpace(s.Assignment.To) == "":
		return fmt.Errorf("nobody is named to see to it")
	}
	assignments.set(t, s.Assignment, s.At, false)
	return nil
}

func (s *DropAssignment) apply(t *taking) error {
	if _, ok := assignments.take(t, s.Assignment.ID); !ok {
		return fmt.Errorf("nothing is given to somebody under %q", s.Assignment.ID)
	}
	return nil
}
