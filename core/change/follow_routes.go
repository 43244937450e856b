package change

import (
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// move is a screen that gets another route or title.
type move struct {
	from, to string
	title    string // it had
	becomes  string
}

// routes carries links along with a screen whose route or title changes: what led there
// leads there still, and an item of navigation that bore its title bears the new one.
// What is computed from the old route cannot follow by itself, and is told.
func (f *follower) routes(steps []Step) {
	for _, s := range steps {
		meta, ok := s.(*Meta)
		if !ok || meta.Document == nil {
			continue
		}
		old, ok := f.w.Doc(meta.Doc)
		if !ok || old.Kind != screen.ScreenDoc {
			continue
		}
		m := move{old.Route, meta.Document.Route, old.Title, meta.Document.Title}
		if m.from == m.to && m.title == m.becomes {
			continue
		}
		for _, d := range f.w.Docs {
			if !d.Removed && (d.Kind != screen.ScreenDoc || d.App == old.App) {
				f.links(d, m)
			}
		}
	}
}

// links carries the links of a document along.
func (f *follower) links(d *screen.Document, m move) {
	var edits []screen.Edit
	d.Root.Walk(func(e, _ *screen.Element) bool {
		def, ok := f.cat.Component(e.Type)
		if !ok {
			return true
		}
		set := func(p screen.Prop, value string) {
			edits = append(edits, screen.Edit{
				Op: screen.Set, ID: e.ID, Prop: p.Name, Value: screen.Lit(value), Filled: p.Filled})
		}
		leads := false
		for _, p := range e.Props {
			if v := led(p.Value.Text, m.from, m.to); p.Name == kit.Does && m.from != m.to && v != p.Value.Text {
				set(p, v)
			}
			prop, ok := def.Prop(p.Name)
			if !ok || !prop.URL {
				continue
			}
			switch {
			case p.Value.Kind == screen.Literal && p.Value.Text == m.from:
				leads = true
				if m.from != m.to {
					set(p, m.to)
				}
			case p.Value.Kind == screen.Expr && m.from != m.to && m.computed(p.Value.Text):
				f.lose(d, e, p.Name, "it is computed from "+m.from+"; write "+m.to+" there")
			}
		}
		if leads && def.Role == "link" && e.Text == screen.Lit(m.title) && m.becomes != m.title {
			edits = append(edits, screen.Edit{Op: screen.SetText, ID: e.ID, Value: screen.Lit(m.becomes)})
		}
		return true
	})
	f.edit(d, edits)
}

// computed reports whether an expression makes an address of the old route.
func (m *move) computed(source string) bool {
	return strings.Contains(source, "'"+m.from+"'") || strings.Contains(source, "'"+m.from+"/'")
}

// led is what an element does, led to another route.
func led(does, from, to string) string {
	list, err := screen.ParseActions(does)
	if err != nil {
		return does
	}
	for i, a := range list {
		if a.Verb == screen.GoTo && a.To == from {
			list[i].To = to
		}
	}
	return screen.WriteActions(list)
}
