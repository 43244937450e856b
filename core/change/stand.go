package change

import (
	"fmt"
	"slices"
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

// allowed: what a comment in code says is taken away there, or would be back when it is read again.
func (s *DropStand) allowed(c *Circumstances) error {
	if s.Stand.InCode() && !c.Restores {
		return fmt.Errorf("a comment in code lets it stand: take the comment away there")
	}
	return nil
}

// allowed: the date to look again is one, and still to come; a rule is let stand altogether
// by who may turn it off.
func (s *PutStand) allowed(c *Circumstances) error {
	if s.Stand.InCode() && !c.Restores {
		return fmt.Errorf("%q is an id of what comments in code let stand", s.Stand.ID)
	}
	if s.Stand.Scope == audit.Everywhere && !c.Restores && !c.Role.May(model.Keeper) {
		return denied("a rule is let stand everywhere by a keeper")
	}
	until := s.Stand.Until
	if until == "" || c.Restores {
		return nil
	}
	return comes("to look again", until, c.Today)
}

// comes checks that a day is one, and still to come.
func comes(what, day, today string) error {
	if _, err := time.Parse(time.DateOnly, day); err != nil {
		return fmt.Errorf("%q is no date %s; accepted: a day such as 2027-01-31", day, what)
	}
	if day <= today {
		return fmt.Errorf("the day %s, %s, is past or today", what, day)
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
	case !slices.Contains(audit.Scopes, s.Stand.Scope):
		return fmt.Errorf("the scope %q is not known; accepted: none for one element, screen, spot, rule", s.Stand.Scope)
	case (s.Stand.Scope == audit.InSpot) != (s.Stand.Spot != ""):
		return fmt.Errorf("what is let stand in a spot names the spot, and nothing else does")
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
