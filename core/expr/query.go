package expr

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ubiquant/core/sample"
)

// QueryModel is the model of what a query gives: its groups' fields and its values. It
// says what of the query is not there.
func QueryModel(q *sample.Query, models map[string]*sample.Model) (*sample.Model, error) {
	from := models[q.From]
	if from == nil {
		return nil, fmt.Errorf("the query %s is made of %q, which is no model", q.ID, q.From)
	}
	if q.Where != "" {
		p, err := Compile(q.Where, Scope{Record: from, Models: models})
		if err != nil {
			return nil, fmt.Errorf("the query %s, where: %w", q.ID, err)
		}
		if !fits(Bool, p.Type.Kind) {
			return nil, fmt.Errorf("the query %s, where: this is %s, not yes/no", q.ID, p.Type.Kind)
		}
	}
	out := &sample.Model{ID: q.ID, Name: q.Name}
	add := func(f sample.Field) error {
		if _, taken := out.Field(f.Name); taken || f.Name == "id" {
			return fmt.Errorf("the query %s gives two things the name %s", q.ID, f.Name)
		}
		out.Fields = append(out.Fields, f)
		return nil
	}
	for _, path := range q.Group {
		f, err := pathOf(path, from, models)
		if err != nil {
			return nil, fmt.Errorf("the query %s groups by %s: %w", q.ID, path, err)
		}
		g := *f
		g.Name, g.Required, g.Unique, g.Maker, g.Compute = sample.GroupName(path), false, false, nil, ""
		if err := add(g); err != nil {
			return nil, err
		}
	}
	for _, v := range q.Each {
		f := sample.Field{Name: v.Name, Type: sample.Number}
		if !slices.Contains(sample.QueryDoes, v.Do) {
			return nil, fmt.Errorf(
				"the query %s: %q is nothing that is computed; accepted: %s",
				q.ID,
				v.Do,
				strings.Join(sample.QueryDoes, ", "),
			)
		}
		if v.Do != "count" {
			of, err := pathOf(v.Field, from, models)
			if err != nil {
				return nil, fmt.Errorf("the query %s, %s: %w", q.ID, v.Name, err)
			}
			numeric := of.Type == sample.Number || of.Type == sample.Money
			switch v.Do {
			case "sum", "average":
				if !numeric {
					return nil, fmt.Errorf("the query %s, %s: %s is no number", q.ID, v.Name, v.Field)
				}
				f.Type, f.Currency = of.Type, of.Currency
			case "least", "most":
				if !numeric && of.Type != sample.Date && of.Type != sample.Time {
					return nil, fmt.Errorf(
						"the query %s, %s: %s is neither a number nor a day nor a time",
						q.ID,
						v.Name,
						v.Field,
					)
				}
				f.Type, f.Currency = of.Type, of.Currency
			}
		}
		if err := add(f); err != nil {
			return nil, err
		}
	}
	if len(out.Fields) == 0 {
		return nil, fmt.Errorf("the query %s gives nothing: name what it groups by, or what it computes", q.ID)
	}
	for _, k := range sample.Keys(q.Sort) {
		if _, ok := out.Field(k.Field); !ok {
			return nil, fmt.Errorf("the query %s is ordered by %s, which it does not give", q.ID, k.Field)
		}
	}
	return out, nil
}

// pathOf is the field at a path: of the record, or of the one that it refers to.
func pathOf(path string, m *sample.Model, models map[string]*sample.Model) (*sample.Field, error) {
	first, rest, joined := strings.Cut(path, ".")
	f, ok := m.Field(first)
	switch {
	case !ok:
		return nil, fmt.Errorf("%s has no field %q", m.Name, first)
	case !joined:
		return f, nil
	case f.Type != sample.Ref || models[f.Model] == nil:
		return nil, fmt.Errorf("%s of %s refers to no record", first, m.Name)
	}
	of := models[f.Model]
	if f, ok = of.Field(rest); !ok {
		return nil, fmt.Errorf("%s has no field %q", of.Name, rest)
	}
	return f, nil
}

// valueAt is a record's value at a path.
func valueAt(r sample.Record, path string, m *sample.Model, lists map[string][]sample.Record, index *Index) any {
	first, rest, joined := strings.Cut(path, ".")
	if !joined {
		return r[first]
	}
	f, _ := m.Field(first)
	if o := index.find(lists[f.Model], str(r[first])); o != nil {
		return o[rest]
	}
	return nil
}

// RunQuery computes the records of a query. Missing values are left out of sums,
// averages, least and most, and are a group of their own. Averages of money are rounded
// to whole minor units, half away from zero.
func RunQuery(
	q *sample.Query,
	models map[string]*sample.Model,
	lists map[string][]sample.Record,
	today string,
) ([]sample.Record, error) {
	model, err := QueryModel(q, models)
	if err != nil {
		return nil, err
	}
	from := models[q.From]
	var where *Program
	if q.Where != "" {
		if where, err = Compile(q.Where, Scope{Record: from, Models: models}); err != nil {
			return nil, err
		}
	}
	type group struct {
		row     sample.Record
		members []sample.Record
	}
	index, budget := &Index{}, NewBudget()
	var groups []*group
	byID := map[string]*group{}
	for _, r := range lists[q.From] {
		if where != nil {
			keep, err := where.Eval(&Env{Record: r, Lists: lists, Today: today, Index: index, Budget: budget})
			if err != nil {
				return nil, fmt.Errorf("the query %s, where, at %s: %w", q.ID, r.ID(), err)
			}
			if keep != true {
				continue
			}
		}
		row := sample.Record{}
		parts := make([]string, len(q.Group))
		for i, path := range q.Group {
			if v := valueAt(r, path, from, lists, index); v != nil {
				row[sample.GroupName(path)] = v
				parts[i] = sample.Plain(v)
			}
		}
		id := strings.Join(parts, "|")
		if id == "" {
			id = "all"
		}
		g := byID[id]
		if g == nil {
			g = &group{row: row}
			row["id"] = id
			byID[id] = g
			groups = append(groups, g)
		}
		g.members = append(g.members, r)
	}
	if len(q.Group) == 0 && len(groups) == 0 { // a total of nothing is still a total
		groups = append(groups, &group{row: sample.Record{"id": "all"}})
	}
	var out []sample.Record
	for _, g := range groups {
		for _, v := range q.Each {
			f, _ := model.Field(v.Name)
			var values []any
			for _, r := range g.members {
				if v.Do == "count" {
					values = append(values, r)
				} else if x := valueAt(r, v.Field, from, lists, index); x != nil {
					values = append(values, x)
				}
			}
			if x := computed(v.Do, values, f.Type == sample.Money); x != nil {
				g.row[v.Name] = x
			}
		}
		out = append(out, g.row)
	}
	out = sample.Sort(out, q.Sort)
	if q.Limit > 0 && len(out) > q.Limit {
		out = out[:q.Limit]
	}
	return out, nil
}

func computed(do string, values []any, money bool) any {
	switch do {
	case "count":
		return float64(len(values))
	case "distinct":
		seen := map[any]bool{}
		for _, v := range values {
			seen[v] = true
		}
		return float64(len(seen))
	case "least", "most":
		var best any
		for _, v := range values {
			if best == nil || order(map[bool]string{true: "_<_", false: "_>_"}[do == "least"], v, best) {
				best = v
			}
		}
		return best
	}
	sum := 0.0
	for _, v := range values {
		sum += num(v)
	}
	if do == "sum" {
		return sum
	}
	if len(values) == 0 {
		return nil
	}
	mean := sum / float64(len(values))
	if money {
		mean = rounded(mean)
	}
	return mean
}

// rounded is a whole number, half away from zero.
func rounded(n float64) float64 { return math.Copysign(math.Floor(math.Abs(n)+0.5), n) }
