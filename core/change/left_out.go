package change

import (
	"errors"
	"fmt"
	"strings"

	"ubiquant/core/model"
)

// LeaveOut says that the team does not use an entry of the kit.
type LeaveOut struct {
	Left model.LeftOut `json:"left"`
	At   *int          `json:"at" do:"log"`
}

// TakeIn uses an entry again that was left out.
type TakeIn struct {
	Left model.LeftOut `json:"left" do:"key=tag"` // of which the tag counts
}

var (
	_ = add[LeaveOut](Kind{Name: "leave-out", Does: "leave an entry of the kit out", Role: model.Keeper})
	_ = add[TakeIn](Kind{Name: "take-in", Does: "use an entry that was left out", Role: model.Keeper})
)

var leftOut = entries[model.LeftOut]{
	part:   model.LeftOuts,
	in:     func(w *model.Workspace) *[]model.LeftOut { return &w.Own.LeftOut },
	key:    func(l *model.LeftOut) string { return l.Tag },
	put:    func(l model.LeftOut, at *int, _ bool) Step { return &LeaveOut{l, at} },
	drop:   func(l model.LeftOut) Step { return &TakeIn{l} },
	sorted: true,
}

func (s *LeaveOut) stamp(by, when string) { s.Left.By, s.Left.When = by, when }

func (s *LeaveOut) sets() []string { return []string{"left:" + s.Left.Tag} }
func (s *TakeIn) sets() []string   { return []string{"left:" + s.Left.Tag} }

func (s *LeaveOut) apply(t *taking) error {
	k, err := t.bare()
	if err != nil {
		return err
	}
	if _, known := k.Component(s.Left.Tag); !known {
		return fmt.Errorf("%s has no component %q", k.Title, s.Left.Tag)
	}
	if strings.TrimSpace(s.Left.Reason) == "" {
		return errors.New("leaving an entry out needs a reason")
	}
	leftOut.set(t, s.Left, s.At, false)
	return nil
}

func (s *TakeIn) apply(t *taking) error {
	if _, ok := leftOut.take(t, s.Left.Tag); !ok {
		return fmt.Errorf("%s is not left out", s.Left.Tag)
	}
	return nil
}
