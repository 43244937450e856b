package resolve

import (
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

var spokenName = regexp.MustCompile(`\b(controls|count|pages)\.(\w+)`)

// Respeak has one element speak of others by other names: what controls hold, how many records
// a list has, which control turns its pages, which one a press sets. Names are given by what
// expressions write now. It tells whether anything changed; what the element holds is copied first.
func Respeak(e *screen.Element, names map[string]string) bool {
	changed := false
	says := func(source string) string {
		return spokenName.ReplaceAllStringFunc(source, func(found string) string {
			of, name, _ := strings.Cut(found, ".")
			to, ok := names[name]
			if !ok || Identifier(to) == name {
				return found
			}
			changed = true
			return of + "." + Identifier(to)
		})
	}
	e.Show = says(e.Show)
	if e.Text.Kind == screen.Expr {
		e.Text.Text = says(e.Text.Text)
	}
	if e.Repeat != nil {
		r := *e.Repeat
		r.Where = says(r.Where)
		if _, computed := sample.Computed(r.Sort); computed {
			r.Sort = says(r.Sort)
		}
		if to, ok := names[Identifier(r.Page)]; ok && r.Page != "" {
			changed = changed || to != r.Page
			r.Page = to
		}
		e.Repeat = &r
	}
	e.Props = slices.Clone(e.Props)
	for i, p := range e.Props {
		switch {
		case p.Name == kit.Does:
			if does, ok := resets(p.Value.Text, names); ok {
				e.Props[i].Value, changed = screen.Lit(does), true
			}
		case p.Value.Kind == screen.Expr:
			e.Props[i].Value.Text = says(p.Value.Text)
		}
	}
	return changed
}

// resets are actions with the controls that they set under their new names.
func resets(does string, names map[string]string) (string, bool) {
	list, err := screen.ParseActions(does)
	changed := false
	for i, a := range list {
		name, _, _ := a.Control()
		to, ok := names[Identifier(name)]
		if a.Verb != screen.SetControl || !ok {
			continue
		}
		list[i].To = Identifier(to) + strings.TrimPrefix(a.To, name)
		changed = changed || list[i].To != a.To
	}
	return screen.WriteActions(list), changed && err == nil
}

// Respoken lists the edits that have all of a tree speak of elements by other names; see Respeak.
func Respoken(root *screen.Element, names map[string]string) []screen.Edit {
	var edits []screen.Edit
	root.Walk(func(e, _ *screen.Element) bool {
		is := *e
		if !Respeak(&is, names) {
			return true
		}
		if is.Show != e.Show {
			edits = append(edits, screen.Edit{Op: screen.Show, ID: e.ID, Name: is.Show})
		}
		if is.Text != e.Text {
			edits = append(edits, screen.Edit{Op: screen.SetText, ID: e.ID, Value: is.Text})
		}
		if e.Repeat != nil && *is.Repeat != *e.Repeat {
			edits = append(edits, screen.Edit{Op: screen.SetRepeat, ID: e.ID, Repeat: is.Repeat})
		}
		for i, p := range is.Props {
			if p.Value != e.Props[i].Value {
				edits = append(edits, screen.Edit{Op: screen.Set, ID: e.ID, Prop: p.Name, Value: p.Value})
			}
		}
		return true
	})
	return edits
}
