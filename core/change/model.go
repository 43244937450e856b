package change

import (
	"fmt"
	"maps"
	"slices"

	"ubiquant/core/data"
	"ubiquant/core/model"
	"ubiquant/core/sample"
)

// PutModel makes or changes a model; records, lists and sources made of it follow.
type PutModel struct {
	Model   sample.Model      `json:"model"`
	Renames map[string]string `json:"renames"` // fields, old name to new
	At      *int              `json:"at" do:"log"`
	Raw     bool              `json:"raw" do:"log"` // what follows comes back by other steps
}

// DropModel takes a model away, with its records.
type DropModel struct {
	Model sample.Model `json:"model" do:"key=id"` // of which the id counts
	Raw   bool         `json:"raw" do:"log"`
}

var (
	_ = add[PutModel](Kind{Name: "model", Does: "make or change a model", Role: model.Builder})
	_ = add[DropModel](Kind{Name: "unmodel", Does: "take a model away", Role: model.Builder})
)

var models = entries[sample.Model]{
	part: model.Models,
	in:   func(w *model.Workspace) *[]sample.Model { return &w.Models },
	key:  func(m *sample.Model) string { return m.ID },
	put:  func(m sample.Model, at *int, _ bool) Step { return &PutModel{Model: m, At: at, Raw: true} },
	drop: func(m sample.Model) Step { return &DropModel{Model: sample.Model{ID: m.ID}, Raw: true} },
}

func (s *PutModel) sets() []string  { return []string{"model:" + s.Model.ID} }
func (s *DropModel) sets() []string { return []string{"model:" + s.Model.ID} }

func (s *PutModel) apply(t *taking) error {
	m := s.Model
	if !s.Raw {
		if err := t.w.CheckModel(&m); err != nil {
			return err
		}
	}
	at := models.find(t.w, m.ID)
	if at >= 0 && !s.Raw {
		old := t.w.Models[at]
		m.Fields = slices.Clone(m.Fields)
		t.part(model.Models).Models[at] = m
		if err := s.follow(t, &old); err != nil {
			return err
		}
		// The model comes back before its records do: what is undone goes the other way round.
		t.undo(&PutModel{Model: old, Raw: true})
		return t.w.DataHolds()
	}
	models.set(t, m, s.At, s.Raw)
	if s.Raw {
		return nil
	}
	return t.w.DataHolds()
}

// follow carries along what is made of a model that has changed.
func (s *PutModel) follow(t *taking, old *sample.Model) error {
	m := &s.Model
	s.followComputed(t)
	w := t.part(model.Samples)
	for i, set := range w.Sets {
		records, err := data.Migrate(old, m, set.Records[m.ID], s.Renames)
		if err != nil {
			return fmt.Errorf("in the set %s: %w", set.Name, err)
		}
		if records == nil {
			continue
		}
		t.undo(&Records{Rows{Set: set.ID, Model: m.ID, All: set.Records[m.ID], Whole: true}, true})
		w.Sets[i] = set.With(m.ID, records)
	}
	for i, q := range t.w.Queries {
		if next := data.Renamed(q, m.ID, s.Renames); !data.SameQuery(next, q) {
			t.undo(&PutQuery{Query: q, Raw: true})
			t.part(model.Queries).Queries[i] = next
		}
	}
	// So do sources; what has no field any more is read no more.
	for i, src := range t.w.Sources {
		if src.Model != m.ID {
			continue
		}
		next := src
		next.Fields = map[string]string{}
		for name, pointer := range src.Fields {
			if to, renamed := s.Renames[name]; renamed {
				name = to
			}
			if _, ok := m.Field(name); ok || name == "id" {
				next.Fields[name] = pointer
			}
		}
		if !maps.Equal(next.Fields, src.Fields) {
			t.undo(&PutSource{Source: src, Raw: true})
			t.part(model.Sources).Sources[i] = next
		}
	}
	return nil
}

// followComputed carries computed fields along with fields that are renamed.
func (s *PutModel) followComputed(t *taking) {
	list := t.part(model.Models).Models
	// The expressions still name the fields as they were.
	known := t.w.ModelMap()
	was := s.Model
	was.Fields = slices.Clone(was.Fields)
	for from, to := range s.Renames {
		if f, ok := s.Model.Field(to); ok {
			old := *f
			old.Name = from
			was.Fields = append(was.Fields, old)
		}
	}
	known[was.ID] = &was
	for i := range list {
		m := &list[i]
		fields := slices.Clone(m.Fields)
		for j := range fields {
			for _, from := range slices.Sorted(maps.Keys(s.Renames)) {
				fields[j].Compute = data.FieldOf(s.Model.ID, from, known).
					Rename(fields[j].Compute, s.Renames[from], m.ID)
			}
		}
		same := slices.EqualFunc(fields, m.Fields, func(a, b sample.Field) bool { return a.Compute == b.Compute })
		if same {
			continue
		}
		if m.ID != s.Model.ID { // the model itself comes back as a whole
			t.undo(&PutModel{Model: *m, Raw: true})
		}
		m.Fields = fields
	}
}

func (s *DropModel) apply(t *taking) error {
	id := s.Model.ID
	if models.find(t.w, id) < 0 {
		return fmt.Errorf("there is no model %q", id)
	}
	if !s.Raw {
		if err := free(t.w, id); err != nil {
			return err
		}
	}
	w := t.part(model.Samples)
	for i, set := range w.Sets {
		if list := set.Records[id]; len(list) > 0 {
			t.undo(&Records{Rows{Set: set.ID, Model: id, All: list, Whole: true}, true})
			w.Sets[i] = set.With(id, nil)
		}
	}
	models.take(t, id)
	if s.Raw {
		return nil
	}
	return t.w.DataHolds()
}

// free says what a model that is to go is still used by.
func free(w *model.Workspace, id string) error {
	if uses := data.Speaking(w, id, ""); len(uses) > 0 {
		return fmt.Errorf("%s is in use: %s on %s", id, uses[0].Words, uses[0].Title)
	}
	for _, o := range w.Models {
		for _, f := range o.Fields {
			if o.ID != id && (f.Type == sample.Ref || f.Type == sample.Refs) && f.Model == id {
				return fmt.Errorf("%s of %s refers to %s", f.Name, o.ID, id)
			}
		}
	}
	if _, _, fed := w.Source(id); fed {
		return fmt.Errorf("the records of %s come from a source; take that away first", id)
	}
	return nil
}
