package sample

import (
	"maps"
	"slices"
)

// Touch is what a press does to a record: some fields hold something else, or it goes.
type Touch struct {
	List string         `json:"list"` // the model's id
	ID   string         `json:"id"`
	Set  map[string]any `json:"set,omitempty"`
	Drop bool           `json:"drop,omitempty"`
}

// Touched is the set after what presses did to its records, one after the other. The set itself
// stays; what names a record that is not there does nothing.
func (s Set) Touched(list []Touch) Set {
	out := s
	out.Records = maps.Clone(s.Records)
	own := map[string]bool{}
	for _, t := range list {
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
