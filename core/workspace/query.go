package workspace

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/expr"
	"ubiquant/core/sample"
)

func (w *Workspace) queryStep(s Step, t *Taken) error {
	if s.Query == nil {
		return fmt.Errorf("which query is not given")
	}
	w.Queries = slices.Clone(w.Queries)
	t.Data, t.Rules = true, true
	q := *s.Query
	at := slices.IndexFunc(w.Queries, func(o sample.Query) bool { return o.ID == q.ID })
	if s.Do == DropQuery {
		if at < 0 {
			return fmt.Errorf("there is no query %q", q.ID)
		}
		if uses := Speaking(w, q.ID, ""); len(uses) > 0 {
			return fmt.Errorf("%s is in use: %s on %s", q.ID, uses[0].Words, uses[0].Title)
		}
		w.Queries = without(w.Queries, at, t, func(old *sample.Query) Step { return Step{Do: PutQuery, Query: old} })
		return nil
	}
	if err := w.checkQuery(&q); err != nil {
		return err
	}
	w.Queries = withOne(
		w.Queries,
		at,
		q,
		t,
		Step{Do: DropQuery, Query: &sample.Query{ID: q.ID}},
		func(old *sample.Query) Step { return Step{Do: PutQuery, Query: old} },
	)
	return nil
}

// withOne is a list with one more, or in place of that at a position, and how that is
// taken back: by away where it is new, else by putting back what was there.
func withOne[T any](list []T, at int, next T, t *Taken, away Step, back func(old *T) Step) []T {
	if at < 0 {
		t.undo(away)
		return append(list, next)
	}
	old := list[at]
	t.undo(back(&old))
	list[at] = next
	return list
}

// without is a list less that at a position.
func without[T any](list []T, at int, t *Taken, back func(old *T) Step) []T {
	old := list[at]
	t.undo(back(&old))
	return slices.Delete(list, at, at+1)
}

func (w *Workspace) checkQuery(q *sample.Query) error {
	switch {
	case !modelID.MatchString(q.ID) || slices.Contains(reserved, q.ID):
		return fmt.Errorf("%q cannot be a query's id; accepted: a lower-case letter, then letters and digits", q.ID)
	case strings.TrimSpace(q.Name) == "":
		return fmt.Errorf("the query %s has no name", q.ID)
	case w.ModelMap()[q.ID] != nil:
		return fmt.Errorf("there is a model %s already", q.ID)
	case len(q.Group) > 10 || len(q.Each) > 40:
		return fmt.Errorf("the query %s groups by up to 10 fields and computes up to 40 values", q.ID)
	}
	for _, v := range q.Each {
		if !fieldName.MatchString(v.Name) {
			return fmt.Errorf(
				"%q cannot be a value's name; accepted: a lower-case letter, then letters and digits",
				v.Name,
			)
		}
	}
	_, err := expr.QueryModel(q, w.ModelMap())
	return err
}

// queriesHold says which query a change of models breaks.
func (w *Workspace) queriesHold() error {
	for i := range w.Queries {
		if _, err := expr.QueryModel(&w.Queries[i], w.ModelMap()); err != nil {
			return fmt.Errorf("%w; change the query first", err)
		}
	}
	return nil
}

// Lists are the models by id together with what the queries give.
func (w *Workspace) Lists() map[string]*sample.Model {
	out := w.ModelMap()
	for i := range w.Queries {
		if m, err := expr.QueryModel(&w.Queries[i], w.ModelMap()); err == nil {
			out[m.ID] = m
		}
	}
	return out
}

// Queried is a set with what is computed in its records, and those of the queries beside
// its own.
func (w *Workspace) Queried(s sample.Set, today string) sample.Set {
	s.Records = expr.Computed(w.ModelMap(), s.Records, today)
	if len(w.Queries) == 0 {
		return s
	}
	own := s.Records
	s.Records = maps.Clone(own)
	if s.Records == nil {
		s.Records = map[string][]sample.Record{}
	}
	for i := range w.Queries {
		// One that fails for these records gives none; its preview says why.
		s.Records[w.Queries[i].ID], _ = expr.RunQuery(&w.Queries[i], w.ModelMap(), own, today)
	}
	return s
}
