package change

import (
	"fmt"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/audit/rules"
	"ubiquant/core/model"
)

// Tune holds a rule otherwise than it comes; an empty tuning holds it as it comes.
type Tune struct {
	Tuning audit.Tuning `json:"tuning"`
}

var _ = add[Tune](Kind{Name: "tune", Does: "weigh or set a rule", Role: model.Keeper})

var tunings = entries[audit.Tuning]{
	part:   model.RuleSettings,
	in:     func(w *model.Workspace) *[]audit.Tuning { return &w.Tunings },
	key:    func(t *audit.Tuning) string { return t.Rule },
	put:    func(t audit.Tuning, _ *int, _ bool) Step { return &Tune{t} },
	drop:   func(t audit.Tuning) Step { return &Tune{audit.Tuning{Rule: t.Rule}} },
	sorted: true,
}

func (s *Tune) stamp(by, when string) { s.Tuning.By, s.Tuning.When = by, when }

// allowed: who turns a rule off or down says why.
func (s *Tune) allowed(c *Circumstances) error {
	rule, ok := rules.Find(s.Tuning.Rule)
	if !ok || c.Restores || s.Tuning.Severity == "" || strings.TrimSpace(s.Tuning.Reason) != "" {
		return nil
	}
	if s.Tuning.Severity.Rank() < rule.Severity.Rank() {
		return fmt.Errorf("“%s” is held lower than it comes: say why", rule.Title)
	}
	return nil
}

func (s *Tune) sets() []string { return []string{"tune:" + s.Tuning.Rule} }

func (s *Tune) apply(t *taking) error {
	rule, ok := rules.Find(s.Tuning.Rule)
	if !ok {
		return fmt.Errorf("there is no rule %q", s.Tuning.Rule)
	}
	if err := rule.Check(&s.Tuning); err != nil {
		return err
	}
	if !s.Tuning.Empty() {
		tunings.set(t, s.Tuning, nil, false)
		return nil
	}
	if _, held := tunings.take(t, rule.ID); !held {
		t.undo(&Tune{audit.Tuning{Rule: rule.ID}})
	}
	return nil
}
