package change

import (
	"fmt"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/model"
)

// PutHouse settles a spot by a house rule.
type PutHouse struct {
	House audit.HouseRule `json:"house"`
	At    *int            `json:"at" do:"log"`
}

// DropHouse lifts a house rule.
type DropHouse struct {
	House audit.HouseRule `json:"house" do:"key=id"` // of which the id counts
}

var (
	_ = add[PutHouse](Kind{Name: "house", Does: "settle a spot by a house rule", Role: model.Keeper})
	_ = add[DropHouse](Kind{Name: "unhouse", Does: "lift a house rule", Role: model.Keeper})
)

var houseRules = entries[audit.HouseRule]{
	part: model.HouseRules,
	in:   func(w *model.Workspace) *[]audit.HouseRule { return &w.House },
	key:  func(h *audit.HouseRule) string { return h.ID },
	put:  func(h audit.HouseRule, at *int, _ bool) Step { return &PutHouse{h, at} },
	drop: func(h audit.HouseRule) Step { return &DropHouse{h} },
}

func (s *PutHouse) stamp(by, when string) { s.House.By, s.House.When = by, when }

func (s *PutHouse) sets() []string  { return []string{"house:" + s.House.ID} }
func (s *DropHouse) sets() []string { return []string{"house:" + s.House.ID} }

func (s *PutHouse) apply(t *taking) error {
	if s.House.ID == "" {
		return fmt.Errorf("no house rule is given")
	}
	if strings.TrimSpace(s.House.Reason) == "" {
		return fmt.Errorf("a house rule needs a reason")
	}
	if houseRules.find(t.w, s.House.ID) >= 0 {
		return fmt.Errorf("the house rule %q exists already", s.House.ID)
	}
	for _, h := range t.w.House {
		// Two conditions may each have a rule; without one it reaches into every other.
		meet := h.Where == s.House.Where || h.Where == "" || s.House.Where == ""
		if h.Spot == s.House.Spot && h.Prop == s.House.Prop && meet {
			return fmt.Errorf("%s of %s is settled already: %s", h.Prop, h.Words, h.Value)
		}
	}
	houseRules.set(t, s.House, s.At, false)
	return nil
}

func (s *DropHouse) apply(t *taking) error {
	if _, ok := houseRules.take(t, s.House.ID); !ok {
		return fmt.Errorf("there is no house rule %q", s.House.ID)
	}
	return nil
}
