package change

import (
	"regexp"
	"strings"

	"ubiquant/core/data"
	"ubiquant/core/kit"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// names carries along what speaks of an element by its name, where that changes: what a
// control holds, how many records a list has, which control turns its pages. A source
// that asks for a control is asked from several screens, and is told.
func (f *follower) names(steps []Step) {
	for _, s := range steps {
		edit, ok := s.(*Edit)
		if !ok {
			continue
		}
		d, ok := f.w.Doc(edit.Doc)
		if !ok {
			continue
		}
		for _, e := range edit.Edits {
			if e.Op != screen.Rename || e.Name == "" {
				continue
			}
			if el, _ := d.Root.Find(e.ID); el != nil && el.Name != "" && el.Name != e.Name {
				f.edit(d, f.named(d, el, e.Name))
			}
		}
	}
}

// named lists the edits that give an element another name wherever a document says it.
func (f *follower) named(d *screen.Document, el *screen.Element, to string) []screen.Edit {
	was, is := resolve.Identifier(el.Name), resolve.Identifier(to)
	speaks := regexp.MustCompile(`\b(controls|count|pages)\.` + regexp.QuoteMeta(was) + `\b`)
	var edits []screen.Edit
	data.EachExpression(d.Root, f.w.ModelMap(), func(e *screen.Element, _, source, what string) {
		next := speaks.ReplaceAllString(source, "${1}."+is)
		if next == source {
			return
		}
		value := screen.Value{Kind: screen.Expr, Text: next}
		switch what {
		case "each": // names a model
		case "where", "sort", "over":
			edits = append(edits, repeatWith(e, edits, what, next))
		case "if":
			edits = append(edits, screen.Edit{Op: screen.Show, ID: e.ID, Name: next})
		case "text":
			edits = append(edits, screen.Edit{Op: screen.SetText, ID: e.ID, Value: value})
		default:
			edits = append(edits, screen.Edit{Op: screen.Set, ID: e.ID, Prop: what, Value: value})
		}
	})
	d.Root.Walk(func(e *screen.Element, _ *screen.Element) bool {
		if does, ok := renamedIn(e, was, is); ok {
			edits = append(edits, screen.Edit{Op: screen.Set, ID: e.ID, Prop: kit.Does, Value: screen.Lit(does)})
		}
		if e.Repeat != nil && e.Repeat.Page != "" && resolve.Identifier(e.Repeat.Page) == was {
			edits = append(edits, repeatWith(e, edits, "page", to))
		}
		return true
	})
	for _, src := range f.w.Sources {
		for _, p := range src.Parameters() {
			if p == was {
				f.lose(d, el, "", "the records of "+src.Model+" are asked for by {"+was+"}; write {"+is+"} there")
			}
		}
	}
	return edits
}

// renamedIn is what an element does once a control that it sets has another name.
func renamedIn(e *screen.Element, was, is string) (string, bool) {
	v, ok := e.Prop(kit.Does)
	if !ok {
		return "", false
	}
	list, err := screen.ParseActions(v.Text)
	changed := false
	for i, a := range list {
		name, _, _ := a.Control()
		if a.Verb == screen.SetControl && resolve.Identifier(name) == was {
			list[i].To = is + strings.TrimPrefix(a.To, name)
			changed = true
		}
	}
	return screen.WriteActions(list), changed && err == nil
}
