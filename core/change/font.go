package change

import (
	"errors"

	"ubiquant/core/kit"
	"ubiquant/core/model"
)

// PutFont adds a font of the team's own.
type PutFont struct {
	Font kit.Font `json:"font"`
	At   *int     `json:"at" do:"log"`
}

// DropFont takes a font away.
type DropFont struct {
	Font kit.Font `json:"font" do:"key=data"` // of which the file counts
}

var (
	_ = add[PutFont](Kind{Name: "font", Does: "add a font", Role: model.Keeper})
	_ = add[DropFont](Kind{Name: "unfont", Does: "take a font away", Role: model.Keeper})
)

var fonts = entries[kit.Font]{
	part:   model.Fonts,
	in:     func(w *model.Workspace) *[]kit.Font { return &w.Own.Fonts },
	key:    func(f *kit.Font) string { return f.File() },
	put:    func(f kit.Font, at *int, _ bool) Step { return &PutFont{f, at} },
	drop:   func(f kit.Font) Step { return &DropFont{f} },
	sorted: true,
}

func (s *PutFont) stamp(by, when string) { s.Font.By, s.Font.When = by, when }

func (s *PutFont) sets() []string  { return []string{"font:" + s.Font.File()} }
func (s *DropFont) sets() []string { return []string{"font:" + s.Font.File()} }

func (s *PutFont) apply(t *taking) error {
	if s.Font.Family == "" {
		return errors.New("no font is given")
	}
	fonts.set(t, s.Font, s.At, false)
	return nil
}

func (s *DropFont) apply(t *taking) error {
	if _, ok := fonts.take(t, s.Font.File()); !ok {
		return noneOwn("font", s.Font.File())
	}
	return nil
}
