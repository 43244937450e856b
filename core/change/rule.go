package change

import (
	"fmt"

	"ubiquant/core/audit"
	"ubiquant/core/audit/own"
	"ubiquant/core/audit/rules"
	"ubiquant/core/model"
)

// PutOwnRule makes or changes a rule that the team writes.
type PutOwnRule struct {
	Rule audit.OwnRule `json:"rule"`
	At   *int          `json:"at" do:"log"`
}

// DropOwnRule takes it away.
type DropOwnRule struct {
	Rule audit.OwnRule `json:"rule" do:"key=id"` // of which the id counts
}

var (
	_ = add[PutOwnRule](Kind{Name: "rule", Does: "make or change a rule of the team's own", Role: model.Keeper})
	_ = add[DropOwnRule](Kind{Name: "unrule", Does: "take a rule of the team's own away", Role: model.Keeper})
)

var ownRules = entries[audit.OwnRule]{
	part: model.OwnRules,
	in:   func(w *model.Workspace) *[]audit.OwnRule { return &w.OwnRules },
	key:  func(o *audit.OwnRule) string { return o.ID },
	put:  func(o audit.OwnRule, at *int, _ bool) Step { return &PutOwnRule{o, at} },
	drop: func(o audit.OwnRule) Step { return &DropOwnRule{o} },
}

// mostOwnRules bounds what each document is checked against.
const mostOwnRules = 200

func (s *PutOwnRule) stamp(by, when string) { s.Rule.By, s.Rule.When = by, when }

func (s *PutOwnRule) sets() []string  { return []string{"rule:" + s.Rule.ID} }
func (s *DropOwnRule) sets() []string { return []string{"rule:" + s.Rule.ID} }

func (s *PutOwnRule) apply(t *taking) error {
	if _, taken := rules.Find(s.Rule.ID); taken || s.Rule.ID == audit.StrayRule.ID {
		return fmt.Errorf("there is a rule %q already", s.Rule.ID)
	}
	if _, err := own.Compile(&s.Rule); err != nil {
		return err
	}
	if len(t.w.OwnRules) >= mostOwnRules && ownRules.find(t.w, s.Rule.ID) < 0 {
		return fmt.Errorf("a team writes at most %d rules", mostOwnRules)
	}
	ownRules.set(t, s.Rule, s.At, false)
	return nil
}

func (s *DropOwnRule) apply(t *taking) error {
	if _, ok := ownRules.take(t, s.Rule.ID); !ok {
		return fmt.Errorf("the team has no rule %q", s.Rule.ID)
	}
	return nil
}
