package sample

import (
	"fmt"
	"maps"
	"slices"
)

// Touch is what a press does to a record: some fields hold something else, it goes, or a new one
// comes.
type Touch struct {
	List string         `json:"list"` // the model's id
	ID   string         `json:"id"`   // of the record; empty for a new one
	Set  map[string]any `json:"set,omitempty"`
	Drop bool           `json:"drop,omitempty"`
	Add  bool           `json:"add,omitempty"`
	// From says where a form holds what a new record is of: by field the key of an element and
	// its property. Whoever draws the form puts what is there into Set.
	From map[string][2]string `json:"from,omitempty"`
}

// Taken is a new record of what a form held, in the types of the model's fields. what lists what
// could not be taken, and why.
func (t Touch) Taken(m *Model) (out Touch, what []string) {
	out = t
	out.Set = map[string]any{}
	for _, name := range slices.Sorted(maps.Keys(t.Set)) {
		f, ok := m.Field(name)
		text, isText := t.Set[name].(string)
		switch {
		case !ok || f.Compute != "":
			what = append(what, m.Name+" has no field "+name+" to be written")
		case !isText || f.Type == Text || f.Type == LongText:
			out.Set[name] = t.Set[name]
		case text != "":
			value, err := f.FromText(text)
			if err != nil {
				what = append(what, err.Error())
				continue
			}
			out.Set[name] = value
		}
	}
	return out, what
}

// Touched is the set after what presses did to its records, one after the other. The set itself
// stays; what names a record that is not there does nothing.
func (s Set) Touched(list []Touch) Set {
	out := s
	if out.Records = maps.Clone(s.Records); out.Records == nil {
		out.Records = map[string][]Record{}
	}
	own := map[string]bool{}
	for i, t := range list {
		if t.Add {
			record := Record{}
			maps.Copy(record, t.Set)
			record["id"] = fmt.Sprintf("new-%d", i+1)
			out.Records[t.List] = append(slices.Clip(out.Records[t.List]), record)
			continue
		}
		at := slices.IndexFunc(out.Records[t.List], func(r Record) bool { return r.ID() == t.ID })
		if at < 0 {
			continue
		}
		if !own[t.List] {
			own[t.List] = true
			out.Records[t.List] = slices.Clone(out.Records[t.List])
		}
		records := out.Records[t.List]
		if t.Drop {
			out.Records[t.List] = slices.Delete(records, at, at+1)
			continue
		}
		records[at] = maps.Clone(records[at])
		maps.Copy(records[at], t.Set)
	}
	return out
}
