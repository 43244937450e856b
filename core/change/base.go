package change

import (
	"fmt"

	"ubiquant/core/model"
	"ubiquant/core/sample"
)

// PutBase allows an address that data may come from.
type PutBase struct {
	Origin sample.Base `json:"origin"`
	At     *int        `json:"at" do:"log"`
}

// DropBase no longer allows it.
type DropBase struct {
	Origin sample.Base `json:"origin" do:"key=name"` // of which the name counts
}

var (
	_ = add[PutBase](Kind{Name: "base", Does: "allow an address for data", Role: model.Keeper})
	_ = add[DropBase](Kind{Name: "unbase", Does: "no longer allow an address", Role: model.Keeper})
)

var bases = entries[sample.Base]{
	part: model.Bases,
	in:   func(w *model.Workspace) *[]sample.Base { return &w.Bases },
	key:  func(b *sample.Base) string { return b.Name },
	put:  func(b sample.Base, at *int, _ bool) Step { return &PutBase{b, at} },
	drop: func(b sample.Base) Step { return &DropBase{b} },
}

func (s *PutBase) sets() []string  { return []string{"base:" + s.Origin.Name} }
func (s *DropBase) sets() []string { return []string{"base:" + s.Origin.Name} }

func (s *PutBase) apply(t *taking) error {
	if err := model.CheckBase(&s.Origin); err != nil {
		return err
	}
	bases.set(t, s.Origin, s.At, false)
	return nil
}

func (s *DropBase) apply(t *taking) error {
	for _, o := range t.w.Sources {
		if o.Base == s.Origin.Name {
			return fmt.Errorf("%s is in use: the records of %s come from it", s.Origin.Name, o.Model)
		}
	}
	if _, ok := bases.take(t, s.Origin.Name); !ok {
		return fmt.Errorf("there is no address called %q", s.Origin.Name)
	}
	return nil
}
