package change

import (
	"ubiquant/core/kit"
	"ubiquant/core/model"
)

// Correct says of a component what was proposed wrongly. It holds for later versions of
// the kit as well, as far as they have what it speaks of.
type Correct struct {
	Correction kit.Correction `json:"correction"`
	At         *int           `json:"at" do:"log"`
}

// Uncorrect takes back what was said of a component.
type Uncorrect struct {
	Correction kit.Correction `json:"correction" do:"key=tag"` // of which the tag counts
}

var (
	_ = add[Correct](Kind{Name: "correct", Does: "say what a component of the kit is", Role: model.Builder})
	_ = add[Uncorrect](Kind{Name: "uncorrect", Does: "take back what was said of a component", Role: model.Builder})
)

var corrections = entries[kit.Correction]{
	part:   model.Corrections,
	in:     func(w *model.Workspace) *[]kit.Correction { return &w.Own.Corrections },
	key:    func(c *kit.Correction) string { return c.Tag },
	put:    func(c kit.Correction, at *int, _ bool) Step { return &Correct{c, at} },
	drop:   func(c kit.Correction) Step { return &Uncorrect{c} },
	sorted: true,
}

func (s *Correct) stamp(by, when string) { s.Correction.By, s.Correction.When = by, when }

func (s *Correct) sets() []string   { return []string{"correction:" + s.Correction.Tag} }
func (s *Uncorrect) sets() []string { return []string{"correction:" + s.Correction.Tag} }

func (s *Correct) apply(t *taking) error {
	k, err := t.bare()
	if err == nil {
		err = s.Correction.Check(k)
	}
	if err != nil {
		return err
	}
	corrections.set(t, s.Correction, s.At, false)
	return nil
}

func (s *Uncorrect) apply(t *taking) error {
	if _, ok := corrections.take(t, s.Correction.Tag); !ok {
		return noneOwn("correction of", s.Correction.Tag)
	}
	return nil
}
