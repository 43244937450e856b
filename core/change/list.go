package change

import (
	"slices"
	"strings"

	"ubiquant/core/model"
)

// entries are the items of a part that is a list with a key, and the steps that put one
// and take one away.
type entries[T any] struct {
	part   model.Part
	in     func(w *model.Workspace) *[]T
	key    func(item *T) string
	put    func(item T, at *int, raw bool) Step
	drop   func(item T) Step
	sorted bool // by key, wherever an item is put
}

func (e *entries[T]) find(w *model.Workspace, key string) int {
	return slices.IndexFunc(*e.in(w), func(o T) bool { return e.key(&o) == key })
}

// set puts an item in place of that with its key, else at a position, else at the end,
// and notes what takes that back. raw marks what comes back beside other things that it
// is made of, in whatever order; it is not checked against them.
func (e *entries[T]) set(t *taking, item T, at *int, raw bool) {
	list := e.in(t.part(e.part))
	if i := e.find(t.w, e.key(&item)); i >= 0 {
		t.undo(e.put((*list)[i], nil, raw))
		(*list)[i] = item
		return
	}
	t.undo(e.drop(item))
	if at != nil && *at >= 0 && *at <= len(*list) {
		*list = slices.Insert(*list, *at, item)
	} else {
		*list = append(*list, item)
	}
	if e.sorted {
		slices.SortStableFunc(*list, func(a, b T) int { return strings.Compare(e.key(&a), e.key(&b)) })
	}
}

// take takes the item with a key away; it reports false where there is none.
func (e *entries[T]) take(t *taking, key string) (gone T, ok bool) {
	i := e.find(t.w, key)
	if i < 0 {
		return gone, false
	}
	list := e.in(t.part(e.part))
	gone = (*list)[i]
	*list = slices.Delete(*list, i, i+1)
	t.undo(e.put(gone, &i, false))
	return gone, true
}
