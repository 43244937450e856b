package change

import (
	"fmt"
	"strings"
	"time"

	"ubiquant/core/audit"
	"ubiquant/core/model"
)

// PutStand lets a finding or a stray stand, with a reason.
type PutStand struct {
	Stand audit.LetStand `json:"stand"`
	At    *int           `json:"at" do:"log"`
}

// DropStand no longer lets it stand.
type DropStand struct {
	Stand audit.LetStand `json:"stand" do:"key=id"` // of which the id counts
}

var (
	_ = add[PutStand](Kind{Name: "stand", Does: "let a finding stand", Role: model.Builder})
	_ = add[DropStand](Kind{Name: "unstand", Does: "no longer let a finding stand", Role: model.Builder})
)

var stands = entries[audit.LetStand]{
	part: model.LetStands,
	in:   func(w *model.Workspace) *[]audit.LetStand { return &w.Stands },
	key:  func(s *audit.LetStand) string { return s.ID },
	put:  func(s audit.LetStand, at *int, _ bool) Step { return &PutStand{s, at} },
	drop: func(s audit.LetStand) Step { return &DropStand{s} },
}

func (s *PutStand) stamp(by, when string) { s.Stand.By, s.Stand.When = by, when }

// allowed: the date to look again is one, and still to come.
func (s *PutStand) allowed(c *Circumstances) error {
	until := s.Stand.Until
	if until == "" || c.Restores {
		return nil
	}
	if _, err := time.Parse(time.DateOnly, until); err != nil {
		return fmt.Errorf("%q is no date to look again; accepted: a day such as 2027-01-31", until)
	}
	if until <= c.Today {
		return fmt.Errorf("the day to look again, %s, is past or today", until)
	}
	return nil
}

func (s *PutStand) sets() []string  { return []string{"stand:" + s.Stand.ID} }
func (s *DropStand) sets() []string { return []string{"stand:" + s.Stand.ID} }

func (s *PutStand) apply(t *taking) error {
	switch {
	case s.Stand.ID == "" || s.Stand.Key == "":
		return fmt.Errorf("nothing to let stand is given")
	case strings.TrimSpace(s.Stand.Reason) == "":
		return fmt.Errorf("letting a finding stand needs a reason")
	case stands.find(t.w, s.Stand.ID) >= 0:
		return fmt.Errorf("%q is let stand already", s.Stand.ID)
	}
	stands.set(t, s.Stand, s.At, false)
	return nil
}

func (s *DropStand) apply(t *taking) error {
	if _, ok := stands.take(t, s.Stand.ID); !ok {
		return fmt.Errorf("nothing is let stand under %q", s.Stand.ID)
	}
	return nil
}
