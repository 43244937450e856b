package sample

import "fmt"

// Seen is what records show of a model's fields: where all are alike, what is drawn from them
// looks right by luck.
type Seen struct {
	// Same are the fields in which all records have one value, with that value in words; empty
	// where none has one.
	Same map[string]string
	// Never are the choices that no record has, by field.
	Never map[string][]string
}

// leastSeen records are needed before what they have in common is more than chance.
const leastSeen = 5

// See looks at the records of a model, those of all its sets together. It is nil where there
// are too few to tell, or nothing is to be told.
func See(m *Model, records []Record) *Seen {
	if len(records) < leastSeen {
		return nil
	}
	out := &Seen{Same: map[string]string{}, Never: map[string][]string{}}
	for i := range m.Fields {
		f := &m.Fields[i]
		if f.Type == Choice {
			if never := unseen(f, records); len(never) > 0 {
				out.Never[f.Name] = never
			}
		}
		first, alike := worded(records[0], f.Name), true
		for _, r := range records[1:] {
			if alike = worded(r, f.Name) == first; !alike {
				break
			}
		}
		if alike && f.Compute == "" {
			out.Same[f.Name] = first
		}
	}
	if len(out.Same) == 0 && len(out.Never) == 0 {
		return nil
	}
	return out
}

func worded(r Record, field string) string {
	v, ok := r[field]
	if !ok || v == nil {
		return ""
	}
	return fmt.Sprint(v)
}

func unseen(f *Field, records []Record) (never []string) {
	left := make(map[string]bool, len(f.Choices))
	for _, c := range f.Choices {
		left[c] = true
	}
	for _, r := range records {
		if delete(left, worded(r, f.Name)); len(left) == 0 {
			return nil
		}
	}
	for _, c := range f.Choices {
		if left[c] {
			never = append(never, c)
		}
	}
	return never
}
