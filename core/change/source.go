package change

import (
	"fmt"

	"ubiquant/core/model"
	"ubiquant/core/sample"
)

// PutSource says where the records of a model come from.
type PutSource struct {
	Source sample.Source `json:"source"`
	At     *int          `json:"at" do:"log"`
	Raw    bool          `json:"raw" do:"log"` // its model comes back by another step
}

// DropSource shows samples in their place again.
type DropSource struct {
	Source sample.Source `json:"source"` // of which the model counts
}

// PutBase allows an address that data may come from.
type PutBase struct {
	Origin sample.Base `json:"origin"`
	At     *int        `json:"at" do:"log"`
}

// DropBase no longer allows it.
type DropBase struct {
	Origin sample.Base `json:"origin"` // of which the name counts
}

var (
	_ = add[PutSource](Kind{Name: "source", Does: "say where records come from", Role: model.Builder})
	_ = add[DropSource](Kind{Name: "unsource", Does: "show samples in place of a source", Role: model.Builder})
	_ = add[PutBase](Kind{Name: "base", Does: "allow an address for data", Role: model.Keeper})
	_ = add[DropBase](Kind{Name: "unbase", Does: "no longer allow an address", Role: model.Keeper})
)

var (
	sources = entries[sample.Source]{
		part: model.Sources,
		in:   func(w *model.Workspace) *[]sample.Source { return &w.Sources },
		key:  func(s *sample.Source) string { return s.Model },
		put:  func(s sample.Source, at *int, raw bool) Step { return &PutSource{s, at, raw} },
		drop: func(s sample.Source) Step { return &DropSource{s} },
	}
	bases = entries[sample.Base]{
		part: model.Bases,
		in:   func(w *model.Workspace) *[]sample.Base { return &w.Bases },
		key:  func(b *sample.Base) string { return b.Name },
		put:  func(b sample.Base, at *int, _ bool) Step { return &PutBase{b, at} },
		drop: func(b sample.Base) Step { return &DropBase{b} },
	}
)

func (s *PutSource) sets() []string  { return []string{"source:" + s.Source.Model} }
func (s *DropSource) sets() []string { return []string{"source:" + s.Source.Model} }
func (s *PutBase) sets() []string    { return []string{"base:" + s.Origin.Name} }
func (s *DropBase) sets() []string   { return []string{"base:" + s.Origin.Name} }

func (s *PutSource) apply(t *taking) error {
	if !s.Raw {
		if err := t.w.CheckSource(&s.Source); err != nil {
			return err
		}
	}
	sources.set(t, s.Source, s.At, s.Raw)
	return nil
}

func (s *DropSource) apply(t *taking) error {
	if _, ok := sources.take(t, s.Source.Model); !ok {
		return fmt.Errorf("%s has no source", s.Source.Model)
	}
	return nil
}

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
