package change

import (
	"fmt"
	"strings"

	"ubiquant/core/model"
	"ubiquant/core/sample"
)

// PutSet makes or changes a sample set.
type PutSet struct {
	Set sample.Set `json:"set"`
	At  *int       `json:"at" do:"log"`
}

// DropSet takes a sample set away.
type DropSet struct {
	Set  sample.Set `json:"set" do:"key=id"` // of which the id counts
	Last bool       `json:"last" do:"log"`   // also the usual one, where it came with the first records
}

var (
	_ = add[PutSet](Kind{Name: "set", Does: "make or change a sample set", Role: model.Builder})
	_ = add[DropSet](Kind{Name: "unset", Does: "take a sample set away", Role: model.Builder})
)

var sets = entries[sample.Set]{
	part: model.Samples,
	in:   func(w *model.Workspace) *[]sample.Set { return &w.Sets },
	key:  func(s *sample.Set) string { return s.ID },
	put:  func(s sample.Set, at *int, _ bool) Step { return &PutSet{s, at} },
	drop: func(s sample.Set) Step { return &DropSet{Set: sample.Set{ID: s.ID, Name: s.Name}} },
}

func (s *PutSet) sets() []string  { return []string{"set:" + s.Set.ID} }
func (s *DropSet) sets() []string { return []string{"set:" + s.Set.ID} }

func (s *PutSet) apply(t *taking) error {
	if model.CheckID(s.Set.ID) != nil || strings.TrimSpace(s.Set.Name) == "" {
		return fmt.Errorf("a sample set has an id of lower-case letters, digits and dashes, and a name")
	}
	models := t.w.ModelMap()
	set := s.Set
	set.Records = make(map[string][]sample.Record, len(s.Set.Records))
	for id, records := range s.Set.Records {
		if models[id] == nil {
			return fmt.Errorf("there is no model %q", id)
		}
		set.Records[id] = model.OwnOf(models[id], records)
		if err := model.CheckRecords(models[id], set.Records[id]); err != nil {
			return err
		}
	}
	sets.set(t, set, s.At, false)
	return nil
}

func (s *DropSet) apply(t *taking) error {
	switch sets.find(t.w, s.Set.ID) {
	case -1:
		return fmt.Errorf("there is no set %q of your own", s.Set.ID)
	case 0:
		if !s.Last || len(t.w.Sets) > 1 {
			return fmt.Errorf("the usual set stays; the others are made of it")
		}
	}
	sets.take(t, s.Set.ID)
	return nil
}
