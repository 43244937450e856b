package expr

import (
	"ubiquant/core/sample"
)

// Index finds the records of lists by their ids. The lists must not be added to while it
// is in use.
type Index struct {
	lists map[listed]map[string]sample.Record
}

// listed is a list, by where it begins and how long it is.
type listed struct {
	first *sample.Record
	len   int
}

// walked is up to how many records a list is walked instead.
const walked = 24

// find is the first record of a list with an id, nil where there is none.
func (ix *Index) find(list []sample.Record, id string) sample.Record {
	if ix == nil || len(list) <= walked {
		for _, r := range list {
			if r.ID() == id {
				return r
			}
		}
		return nil
	}
	key := listed{&list[0], len(list)}
	by := ix.lists[key]
	if by == nil {
		by = make(map[string]sample.Record, len(list))
		for _, r := range list {
			if _, taken := by[r.ID()]; !taken {
				by[r.ID()] = r
			}
		}
		if ix.lists == nil {
			ix.lists = map[listed]map[string]sample.Record{}
		}
		ix.lists[key] = by
	}
	return by[id]
}
