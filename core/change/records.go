package change

import (
	"fmt"
	"maps"
	"slices"

	"ubiquant/core/jsonread"
	"ubiquant/core/model"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Records changes the records of one model in one sample set.
type Records struct {
	Rows Rows `json:"rows"`
	Raw  bool `json:"raw" do:"log"` // their model comes back by another step
}

var _ = add[Records](Kind{Name: "records", Does: "change the records of a model", Role: model.Builder})

// Rows is a change of the records of one model in one sample set.
type Rows struct {
	Set, Model string
	Put        []sample.Record // new or changed, by id
	At         map[string]int  // where new ones come to stand; at the end without
	Drop       []string        // ids
	All        []sample.Record // in place of all there are, where Whole
	Whole      bool
}

func writeRows(out *screen.Writer, r *Rows) {
	list := func(key string, records []sample.Record) {
		out.Key(key)
		out.Open('[')
		for _, rec := range records {
			model.WriteRecord(out, rec)
		}
		out.Close(']')
	}
	out.Open('{')
	out.Field("set", r.Set)
	out.Field("model", r.Model)
	if len(r.Put) > 0 {
		list("put", r.Put)
	}
	if len(r.At) > 0 {
		out.Key("at")
		out.Open('{')
		for _, id := range slices.Sorted(maps.Keys(r.At)) {
			out.Key(id)
			out.Raw(fmt.Sprint(r.At[id]))
		}
		out.Close('}')
	}
	if len(r.Drop) > 0 {
		out.Key("drop")
		out.Open('[')
		for _, id := range r.Drop {
			out.String(id)
		}
		out.Close(']')
	}
	if r.Whole {
		list("all", r.All)
	}
	out.Close('}')
}

func readRows(r *jsonread.Reader) (Rows, error) {
	var rows Rows
	list := func(into *[]sample.Record) error {
		return r.Array(func(int) error {
			rec, err := model.ReadRecord(r)
			*into = append(*into, rec)
			return err
		})
	}
	err := r.Object(func(key string) error {
		var err error
		switch key {
		case "set":
			rows.Set, err = r.String()
		case "model":
			rows.Model, err = r.String()
		case "put":
			err = list(&rows.Put)
		case "all":
			rows.Whole = true
			err = list(&rows.All)
		case "drop":
			rows.Drop, err = r.Strings()
		case "at":
			rows.At = map[string]int{}
			err = r.Object(func(id string) error {
				n, err := r.Int()
				rows.At[id] = n
				return err
			})
		default:
			err = r.Unknown(key, "set", "model", "put", "at", "drop", "all")
		}
		return err
	})
	return rows, err
}

var rowsSchema = func() map[string]any {
	text := map[string]any{"type": "string"}
	record := map[string]any{"type": "object", "required": []string{"id"}}
	list := func(items map[string]any) map[string]any { return map[string]any{"type": "array", "items": items} }
	return map[string]any{
		"type":                 "object",
		"required":             []string{"set", "model"},
		"additionalProperties": false,
		"properties": map[string]any{
			"set": text, "model": text, "put": list(record), "all": list(record), "drop": list(text),
			"at": map[string]any{"type": "object", "additionalProperties": map[string]any{"type": "integer"}},
		},
	}
}()

func (s *Records) sets() []string {
	r := &s.Rows
	all := "records:" + r.Set + "/" + r.Model
	if r.Whole {
		return []string{all}
	}
	out := make([]string, 0, len(r.Put)+len(r.Drop))
	for _, rec := range r.Put {
		out = append(out, all+"/"+rec.ID())
	}
	for _, id := range r.Drop {
		out = append(out, all+"/"+id)
	}
	return out
}

func (s *Records) apply(t *taking) error {
	rows := s.Rows
	m := t.w.ModelMap()[rows.Model]
	if m == nil {
		return fmt.Errorf("there is no model %q", rows.Model)
	}
	w := t.part(model.Samples)
	if len(w.Sets) == 0 {
		usual := sample.Set{ID: "usual", Name: "Usual"}
		w.Sets = append(w.Sets, usual)
		t.undo(&DropSet{Set: usual, Last: true})
	}
	at := slices.IndexFunc(w.Sets, func(o sample.Set) bool { return o.ID == rows.Set })
	if at < 0 {
		return fmt.Errorf(
			"there is no set %q of your own; those made by themselves are looked at, not changed", rows.Set)
	}
	if !s.Raw {
		rows.Put, rows.All = model.OwnOf(m, rows.Put), model.OwnOf(m, rows.All)
	}
	old := w.Sets[at].Records[rows.Model]
	if rows.Whole {
		if !s.Raw {
			if err := model.CheckRecords(m, rows.All); err != nil {
				return err
			}
		}
		w.Sets[at] = w.Sets[at].With(rows.Model, rows.All)
		t.undo(&Records{Rows{Set: rows.Set, Model: rows.Model, All: old, Whole: true}, s.Raw})
		return nil
	}
	next, back, err := rows.into(old, m)
	if err != nil {
		return err
	}
	w.Sets[at] = w.Sets[at].With(rows.Model, next)
	t.undo(&Records{Rows: back})
	return nil
}

// into is what becomes of records, and the rows that take it back.
func (rows *Rows) into(old []sample.Record, m *sample.Model) (next []sample.Record, back Rows, err error) {
	where := make(map[string]int, len(old))
	for i, r := range old {
		where[r.ID()] = i
	}
	back = Rows{Set: rows.Set, Model: rows.Model, At: map[string]int{}}
	next = slices.Clone(old)
	drop := map[string]bool{}
	for _, id := range rows.Drop {
		i, ok := where[id]
		if !ok || drop[id] {
			return nil, back, fmt.Errorf("there is no record %s of %s", id, rows.Model)
		}
		drop[id] = true
		back.Put, back.At[id] = append(back.Put, old[i]), i
	}
	var fresh []sample.Record
	for _, r := range rows.Put {
		if err := m.Check(r); err != nil {
			return nil, back, err
		}
		i, known := where[r.ID()]
		switch {
		case drop[r.ID()]:
			return nil, back, fmt.Errorf("the record %s is both put and dropped", r.ID())
		case known && i >= 0:
			back.Put = append(back.Put, old[i])
			next[i] = r
		case known:
			return nil, back, fmt.Errorf("the record %s stands twice in the change", r.ID())
		default:
			where[r.ID()] = -1
			fresh = append(fresh, r)
			back.Drop = append(back.Drop, r.ID())
		}
	}
	next = slices.DeleteFunc(next, func(r sample.Record) bool { return drop[r.ID()] })
	// Those that have a place come in from the front, so that each place is still right.
	slices.SortStableFunc(fresh, func(a, b sample.Record) int { return place(rows.At, a) - place(rows.At, b) })
	for _, r := range fresh {
		next = slices.Insert(next, min(place(rows.At, r), len(next)), r)
	}
	if len(next) > model.MaxRecords {
		return nil, back, fmt.Errorf("%d records of %s are more than %d", len(next), m.ID, model.MaxRecords)
	}
	return next, back, nil
}

// place is where a new record comes to stand.
func place(at map[string]int, r sample.Record) int {
	if i, ok := at[r.ID()]; ok && i >= 0 {
		return i
	}
	return model.MaxRecords + 1
}
