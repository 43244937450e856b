package sample

import (
	"strconv"
	"strings"
)

// fieldPrefix begins what a repeat is over where that is a field of the record around.
const fieldPrefix = "record."

// OverField is the field of the record around that a repeat is over; ok is false where
// it is over a model.
func OverField(repeat string) (field string, ok bool) { return strings.CutPrefix(repeat, fieldPrefix) }

// Over is the model of the records that a repeat shows: one by its id, or with
// "record.beds" the records that this field of the record around refers to, or with
// "record.tags" the texts of that list, each as a record with a value. It is nil where
// there is no such thing.
func Over(repeat string, around *Model, models map[string]*Model) *Model {
	name, ok := OverField(repeat)
	if !ok {
		return models[repeat]
	}
	if around == nil {
		return nil
	}
	f, ok := around.Field(name)
	switch {
	case ok && f.Type == Refs:
		return models[f.Model]
	case ok && f.Type == Texts:
		return &Model{
			ID:     around.ID + "." + name,
			Name:   name,
			Fields: []Field{{Name: "value", Type: Text, Required: true}},
		}
	}
	return nil
}

// Shown are the records that a repeat is over, before anything is left out of them;
// record is the one around, of the model around.
func Shown(repeat string, record Record, around *Model, lists map[string][]Record) []Record {
	name, ok := OverField(repeat)
	if !ok {
		return lists[repeat]
	}
	if around == nil {
		return nil
	}
	l, _ := record[name].(List)
	if f, ok := around.Field(name); ok && f.Type == Refs {
		return Among(lists[f.Model], l)
	}
	var out []Record
	for i, item := range l.Items() {
		out = append(out, Record{"id": strconv.Itoa(i + 1), "value": item})
	}
	return out
}

// Among are the records that a list of ids names, in its order; ids of none are left out.
func Among(records []Record, ids List) []Record {
	items := ids.Items()
	if len(items) == 0 {
		return nil
	}
	by := make(map[string]Record, len(records))
	for _, r := range records {
		by[r.ID()] = r
	}
	var out []Record
	for _, id := range items {
		if r, ok := by[id]; ok {
			out = append(out, r)
		}
	}
	return out
}
