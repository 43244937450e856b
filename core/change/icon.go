package change

import (
	"ubiquant/core/kit"
	"ubiquant/core/model"
)

// PutIcon adds or changes an icon of the team's own.
type PutIcon struct {
	Icon kit.OwnIcon `json:"icon"`
	At   *int        `json:"at" do:"log"`
}

// DropIcon takes an icon away.
type DropIcon struct {
	Icon kit.OwnIcon `json:"icon" do:"key=name"` // of which the name counts
}

var (
	_ = add[PutIcon](Kind{Name: "icon", Does: "add an icon", Role: model.Builder})
	_ = add[DropIcon](Kind{Name: "unicon", Does: "take an icon away", Role: model.Builder})
)

var icons = entries[kit.OwnIcon]{
	part:   model.Icons,
	in:     func(w *model.Workspace) *[]kit.OwnIcon { return &w.Own.Icons },
	key:    func(i *kit.OwnIcon) string { return i.Name },
	put:    func(i kit.OwnIcon, at *int, _ bool) Step { return &PutIcon{i, at} },
	drop:   func(i kit.OwnIcon) Step { return &DropIcon{i} },
	sorted: true,
}

func (s *PutIcon) stamp(by, when string) { s.Icon.By, s.Icon.When = by, when }

func (s *PutIcon) sets() []string  { return []string{"icon:" + s.Icon.Name} }
func (s *DropIcon) sets() []string { return []string{"icon:" + s.Icon.Name} }

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
