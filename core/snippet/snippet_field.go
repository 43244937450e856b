package snippet

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/data"

	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// FieldOffers lists the snippets for the fields of what repeats inside an element: a
// table of tickets takes a column for each field of a ticket. Fields that nothing in it
// speaks of yet come first.
func (l work) fieldOffers(e *screen.Element) []Offer {
	var out, shown []Offer
	for i := range l.Kit.Snippets {
		s := &l.Kit.Snippets[i]
		root, ok := l.Kit.Component(s.Tree.Type)
		rows, m := l.repeated(e)
		if !ok || s.Of != "field" || s.Within != e.Type || m == nil {
			continue
		}
		for j := range m.Fields {
			f := &m.Fields[j]
			if slices.Contains(s.Tree.Except, string(f.Type)) {
				continue
			}
			o := Offer{
				s.ID + ":" + m.ID + "." + f.Name,
				kit.Fill(
					s.Title,
					map[string]string{"label": sentence(f.Name), "labelLower": strings.ToLower(sentence(f.Name))},
				),
				append([]string{f.Name}, s.Words...),
				root,
			}
			if speaksOf(rows, f.Name) {
				shown = append(shown, o)
			} else {
				out = append(out, o)
			}
		}
	}
	return append(out, shown...)
}

// repeated is what repeats over a model inside an element, the outermost first.
func (l work) repeated(e *screen.Element) (rows *screen.Element, m *sample.Model) {
	e.Walk(func(c, _ *screen.Element) bool {
		if c.Repeat != nil && rows == nil {
			rows, m = c, l.Models()[c.Repeat.Model]
		}
		return rows == nil
	})
	return rows, m
}

func speaksOf(e *screen.Element, field string) bool {
	found := false
	if e != nil {
		data.EachExpression(e, nil, func(_ *screen.Element, _, source, _ string) {
			found = found || slices.Contains(fieldsIn(source), field)
		})
	}
	return found
}

// Field makes an offer of FieldOffers for an element: what comes to stand in it, and what
// beside that comes to stand at the end of what repeats, nil for nothing.
func (l work) field(id string, e *screen.Element) (tree, beside *screen.Element, into string, err error) {
	name, path, _ := strings.Cut(id, ":")
	i := slices.IndexFunc(l.Kit.Snippets, func(s kit.Snippet) bool { return s.ID == name && s.Of == "field" })
	rows, m := l.repeated(e)
	_, field, _ := strings.Cut(path, ".")
	if i < 0 || m == nil {
		return nil, nil, "", fmt.Errorf("there is no snippet %q here", id)
	}
	f, ok := m.Field(field)
	if !ok {
		return nil, nil, "", fmt.Errorf("%s has no field %q", m.Name, field)
	}
	s := &l.Kit.Snippets[i]
	b := &snippetMaker{l: l, model: m, names: map[string]string{}, taken: map[string]bool{}}
	words := b.fieldWords(modelWords(m), f)
	words["kind"] = string(f.Type)
	if f.Type == sample.Money {
		words["kind"] = string(sample.Number)
	}
	tree = b.one(&s.Tree, words, f, s.Within)
	if s.Beside != nil {
		beside, into = b.one(s.Beside, words, f, rows.Type), rows.ID
	}
	return tree, beside, into, nil
}
