package change

import (
	"fmt"

	"ubiquant/core/data"
	"ubiquant/core/model"
	"ubiquant/core/sample"
)

// PutQuery makes or changes a list made of another.
type PutQuery struct {
	Query sample.Query `json:"query"`
	At    *int         `json:"at" do:"log"`
	Raw   bool         `json:"raw" do:"log"` // its model comes back by another step
}

// DropQuery takes one away.
type DropQuery struct {
	Query sample.Query `json:"query" do:"key=id"` // of which the id counts
}

var (
	_ = add[PutQuery](Kind{Name: "query", Does: "make a list of another", Role: model.Builder})
	_ = add[DropQuery](Kind{Name: "unquery", Does: "take a list made of another away", Role: model.Builder})
)

var queries = entries[sample.Query]{
	part: model.Queries,
	in:   func(w *model.Workspace) *[]sample.Query { return &w.Queries },
	key:  func(q *sample.Query) string { return q.ID },
	put:  func(q sample.Query, at *int, raw bool) Step { return &PutQuery{q, at, raw} },
	drop: func(q sample.Query) Step { return &DropQuery{q} },
}

func (s *PutQuery) sets() []string  { return []string{"query:" + s.Query.ID} }
func (s *DropQuery) sets() []string { return []string{"query:" + s.Query.ID} }

func (s *PutQuery) apply(t *taking) error {
	if !s.Raw {
		if err := t.w.CheckQuery(&s.Query); err != nil {
			return err
		}
	}
	queries.set(t, s.Query, s.At, s.Raw)
	return nil
}

func (s *DropQuery) apply(t *taking) error {
	if queries.find(t.w, s.Query.ID) < 0 {
		return fmt.Errorf("there is no query %q", s.Query.ID)
	}
	if uses := data.Speaking(t.w, s.Query.ID, ""); len(uses) > 0 {
		return fmt.Errorf("%s is in use: %s on %s", s.Query.ID, uses[0].Words, uses[0].Title)
	}
	queries.take(t, s.Query.ID)
	return nil
}
