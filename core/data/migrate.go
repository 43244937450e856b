package data

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/sample"
)

// Migrate carries records from one form of a model to the next: values go along with
// renamed fields, what has no field falls away, and what has another type is read as
// that. It refuses what would lose values that do not fit. nil means that all fit as
// they are.
func Migrate(old, next *sample.Model, records []sample.Record, renames map[string]string) ([]sample.Record, error) {
	came := map[string]string{} // new name -> old name
	for _, f := range next.Fields {
		came[f.Name] = f.Name
	}
	for from, to := range renames {
		came[to] = from
	}
	var out []sample.Record
	changed := false
	var wrong []string
	count := 0
	for _, r := range records {
		n := sample.Record{"id": r["id"]}
		for i := range next.Fields {
			f := &next.Fields[i]
			if f.Compute != "" {
				continue
			}
			was, known := old.Field(came[f.Name])
			v, has := r[came[f.Name]]
			if !known || !has {
				if f.Required {
					count++
					wrong = append(wrong, fmt.Sprintf("%s has no %s, which is to be required", r.ID(), f.Name))
				}
				continue
			}
			if was.Type != f.Type || was.Currency != f.Currency {
				var err error
				if v, err = f.Parse(was.Write(v), nil); err != nil {
					count++
					wrong = append(wrong, fmt.Sprintf("%s of %s: %s", f.Name, r.ID(), err))
					continue
				}
			}
			if v != nil {
				n[f.Name] = v
			}
		}
		changed = changed || !maps.Equal(n, r)
		out = append(out, n)
	}
	if count > 0 {
		return nil, fmt.Errorf("%d values do not fit: %s", count, strings.Join(wrong[:min(3, len(wrong))], "; "))
	}
	if !changed {
		return nil, nil
	}
	return out, nil
}

// Renamed is a query as it is once fields of a model have other names.
func Renamed(q sample.Query, model string, renames map[string]string) sample.Query {
	if q.From != model || len(renames) == 0 {
		return q
	}
	path := func(p string) string {
		first, rest, joined := strings.Cut(p, ".")
		if to, ok := renames[first]; ok {
			first = to
		}
		if joined {
			return first + "." + rest
		}
		return first
	}
	q.Group, q.Each = slices.Clone(q.Group), slices.Clone(q.Each)
	names := map[string]string{}
	for i, p := range q.Group {
		q.Group[i] = path(p)
		names[sample.GroupName(p)] = sample.GroupName(q.Group[i])
	}
	for i := range q.Each {
		q.Each[i].Field = path(q.Each[i].Field)
	}
	for _, from := range slices.Sorted(maps.Keys(renames)) {
		q.Where = FieldOf(model, from, nil).Rename(q.Where, renames[from], model)
	}
	keys := sample.Keys(q.Sort)
	for i, k := range keys {
		if to, ok := names[k.Field]; ok {
			keys[i].Field = to
		}
	}
	q.Sort = sample.WriteKeys(keys)
	return q
}

// SameQuery reports whether two queries ask the same of their fields.
func SameQuery(a, b sample.Query) bool {
	return a.Where == b.Where && a.Sort == b.Sort && slices.Equal(a.Group, b.Group) && slices.Equal(a.Each, b.Each)
}
