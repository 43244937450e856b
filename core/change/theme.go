package change

import (
	"ubiquant/core/kit"
	"ubiquant/core/model"
)

// PutTheme makes or changes a theme of the team's own.
type PutTheme struct {
	Theme kit.Theme `json:"theme"`
	At    *int      `json:"at" do:"log"`
}

// DropTheme takes a theme away.
type DropTheme struct {
	Theme kit.Theme `json:"theme" do:"key=id"` // of which the id counts
}

var (
	_ = add[PutTheme](Kind{Name: "theme", Does: "keep a theme", Role: model.Keeper})
	_ = add[DropTheme](Kind{Name: "untheme", Does: "take a theme away", Role: model.Keeper})
)

var themes = entries[kit.Theme]{
	part:   model.Themes,
	in:     func(w *model.Workspace) *[]kit.Theme { return &w.Own.Themes },
	key:    func(t *kit.Theme) string { return t.ID },
	put:    func(t kit.Theme, at *int, _ bool) Step { return &PutTheme{t, at} },
	drop:   func(t kit.Theme) Step { return &DropTheme{t} },
	sorted: true,
}

func (s *PutTheme) stamp(by, when string) { s.Theme.By, s.Theme.When = by, when }

func (s *PutTheme) sets() []string  { return []string{"theme:" + s.Theme.ID} }
func (s *DropTheme) sets() []string { return []string{"theme:" + s.Theme.ID} }

func (s *PutTheme) apply(t *taking) error {
	k, err := t.bare()
	if err == nil {
		err = s.Theme.Check(k)
	}
	if err != nil {
		return err
	}
	themes.set(t, s.Theme, s.At, false)
	return nil
}

func (s *DropTheme) apply(t *taking) error {
	if _, ok := themes.take(t, s.Theme.ID); !ok {
		return noneOwn("theme", s.Theme.ID)
	}
	return nil
}
