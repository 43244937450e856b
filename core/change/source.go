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
	Source sample.Source `json:"source" do:"key=model"` // of which the model counts
}

var (
	_ = add[PutSource](Kind{Name: "source", Does: "say where records come from", Role: model.Builder})
	_ = add[DropSource](Kind{Name: "unsource", Does: "show samples in place of a source", Role: model.Builder})
)

var (
	sources = entries[sample.Source]{
		part: model.Sources,
		in:   func(w *model.Workspace) *[]sample.Source { return &w.Sources },
		key:  func(s *sample.Source) string { return s.Model },
		put:  func(s sample.Source, at *int, raw bool) Step { return &PutSource{s, at, raw} },
		drop: func(s sample.Source) Step { return &DropSource{s} },
	}
)

func (s *PutSource) sets() []string  { return []string{"source:" + s.Source.Model} }
func (s *DropSource) sets() []string { return []string{"source:" + s.Source.Model} }

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
