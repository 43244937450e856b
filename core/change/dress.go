package change

import (
	"errors"
	"fmt"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/model"
)

// bare is the kit without what the team adds to it, which what is added must fit.
func (t *taking) bare() (*kit.Kit, error) {
	full, ok := t.cat.(interface{ Bare() *kit.Kit })
	if !ok {
		return nil, errors.New("there is no kit to change")
	}
	return full.Bare(), nil
}

func noneOwn(what, id string) error {
	return fmt.Errorf("there is no %s %q of the team's own", what, id)
}

// PutTheme makes or changes a theme of the team's own.
type PutTheme struct {
	Theme kit.Theme `json:"theme"`
	At    *int      `json:"at" do:"log"`
}

// DropTheme takes a theme away.
type DropTheme struct {
	Theme kit.Theme `json:"theme"` // of which the id counts
}

// PutIcon adds or changes an icon of the team's own.
type PutIcon struct {
	Icon kit.OwnIcon `json:"icon"`
	At   *int        `json:"at" do:"log"`
}

// DropIcon takes an icon away.
type DropIcon struct {
	Icon kit.OwnIcon `json:"icon"` // of which the name counts
}

// PutFont adds a font of the team's own.
type PutFont struct {
	Font kit.Font `json:"font"`
	At   *int     `json:"at" do:"log"`
}

// DropFont takes a font away.
type DropFont struct {
	Font kit.Font `json:"font"` // of which the file counts
}

// LeaveOut says that the team does not use an entry of the kit.
type LeaveOut struct {
	Left model.LeftOut `json:"left"`
	At   *int          `json:"at" do:"log"`
}

// TakeIn uses an entry again that was left out.
type TakeIn struct {
	Left model.LeftOut `json:"left"` // of which the tag counts
}

var (
	_ = add[PutTheme](Kind{Name: "theme", Does: "keep a theme", Role: model.Keeper})
	_ = add[DropTheme](Kind{Name: "untheme", Does: "take a theme away", Role: model.Keeper})
	_ = add[PutIcon](Kind{Name: "icon", Does: "add an icon", Role: model.Builder})
	_ = add[DropIcon](Kind{Name: "unicon", Does: "take an icon away", Role: model.Builder})
	_ = add[PutFont](Kind{Name: "font", Does: "add a font", Role: model.Keeper})
	_ = add[DropFont](Kind{Name: "unfont", Does: "take a font away", Role: model.Keeper})
	_ = add[LeaveOut](Kind{Name: "leave-out", Does: "leave an entry of the kit out", Role: model.Keeper})
	_ = add[TakeIn](Kind{Name: "take-in", Does: "use an entry that was left out", Role: model.Keeper})
)

var (
	themes = entries[kit.Theme]{
		part:   model.Themes,
		in:     func(w *model.Workspace) *[]kit.Theme { return &w.Own.Themes },
		key:    func(t *kit.Theme) string { return t.ID },
		put:    func(t kit.Theme, at *int, _ bool) Step { return &PutTheme{t, at} },
		drop:   func(t kit.Theme) Step { return &DropTheme{t} },
		sorted: true,
	}
	icons = entries[kit.OwnIcon]{
		part:   model.Icons,
		in:     func(w *model.Workspace) *[]kit.OwnIcon { return &w.Own.Icons },
		key:    func(i *kit.OwnIcon) string { return i.Name },
		put:    func(i kit.OwnIcon, at *int, _ bool) Step { return &PutIcon{i, at} },
		drop:   func(i kit.OwnIcon) Step { return &DropIcon{i} },
		sorted: true,
	}
	fonts = entries[kit.Font]{
		part:   model.Fonts,
		in:     func(w *model.Workspace) *[]kit.Font { return &w.Own.Fonts },
		key:    func(f *kit.Font) string { return f.File() },
		put:    func(f kit.Font, at *int, _ bool) Step { return &PutFont{f, at} },
		drop:   func(f kit.Font) Step { return &DropFont{f} },
		sorted: true,
	}
	leftOut = entries[model.LeftOut]{
		part:   model.LeftOuts,
		in:     func(w *model.Workspace) *[]model.LeftOut { return &w.Own.LeftOut },
		key:    func(l *model.LeftOut) string { return l.Tag },
		put:    func(l model.LeftOut, at *int, _ bool) Step { return &LeaveOut{l, at} },
		drop:   func(l model.LeftOut) Step { return &TakeIn{l} },
		sorted: true,
	}
)

func (s *PutTheme) stamp(by, when string) { s.Theme.By, s.Theme.When = by, when }
func (s *PutIcon) stamp(by, when string)  { s.Icon.By, s.Icon.When = by, when }
func (s *PutFont) stamp(by, when string)  { s.Font.By, s.Font.When = by, when }
func (s *LeaveOut) stamp(by, when string) { s.Left.By, s.Left.When = by, when }

func (s *PutTheme) sets() []string  { return []string{"theme:" + s.Theme.ID} }
func (s *DropTheme) sets() []string { return []string{"theme:" + s.Theme.ID} }
func (s *PutIcon) sets() []string   { return []string{"icon:" + s.Icon.Name} }
func (s *DropIcon) sets() []string  { return []string{"icon:" + s.Icon.Name} }
func (s *PutFont) sets() []string   { return []string{"font:" + s.Font.File()} }
func (s *DropFont) sets() []string  { return []string{"font:" + s.Font.File()} }
func (s *LeaveOut) sets() []string  { return []string{"left:" + s.Left.Tag} }
func (s *TakeIn) sets() []string    { return []string{"left:" + s.Left.Tag} }

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

func (s *PutIcon) apply(t *taking) error {
	k, err := t.bare()
	if err == nil {
		err = s.Icon.Check(k)
	}
	if err != nil {
		return err
	}
	icons.set(t, s.Icon, s.At, false)
	return nil
}

func (s *DropIcon) apply(t *taking) error {
	if _, ok := icons.take(t, s.Icon.Name); !ok {
		return noneOwn("icon", s.Icon.Name)
	}
	return nil
}

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
