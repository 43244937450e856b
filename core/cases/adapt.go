package cases

import (
	"strings"

	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// open prepares a document for questions about single elements.
func (r *Reader) open(d *usage.Doc) *reading {
	if r.last != nil && r.last.doc == d {
		return r.last
	}
	in := r.prepare(d)
	r.last = in
	return in
}

// Pattern is what an element of a document says with the thing it speaks of left open, and that
// thing as it was written.
func (r *Reader) Pattern(d *usage.Doc, text string, e *screen.Element) (pattern, noun string) {
	to := ""
	if v, ok := e.Prop(r.component(e.Type).leads); ok {
		to = Address(v)
	}
	return r.open(d).pattern(text, to)
}

// SiblingKey is the word that names an element among its siblings; 0 where none does.
func (r *Reader) SiblingKey(d *usage.Doc, use int32) int32 { return r.open(d).siblingKey(use) }

// Adapt rewrites a tree copied from one screen for another: routes, titles and the things they
// speak of. It reports false where something in it is of the other screen alone.
func (r *Reader) Adapt(from, to *usage.Doc, tree *screen.Element) bool {
	a, b := r.modelOf(from.Document), r.modelOf(to.Document)
	fit := true
	value := func(v *screen.Value) {
		switch {
		case v.Text == "":
		case !v.Known():
			for _, m := range recordField.FindAllStringSubmatch(v.Text, -1) {
				if m[1] == "id" {
					continue
				}
				if b == nil {
					fit = false
				} else if _, ok := b.Field(m[1]); !ok {
					fit = false
				}
			}
			v.Text = rerouted(v.Text, from.Route, to.Route)
		case strings.HasPrefix(v.Text, "/"):
			v.Text = rerouted(v.Text, from.Route, to.Route)
		case v.Text == from.Title:
			v.Text = to.Title
		case v.Kind == screen.Literal:
			v.Text = r.respoken(v.Text, from, to, a, b)
		}
	}
	tree.Walk(func(e, _ *screen.Element) bool {
		value(&e.Text)
		for i := range e.Props {
			value(&e.Props[i].Value)
		}
		if e.Repeat != nil && (a == nil || b == nil || e.Repeat.Model != a.ID) {
			fit = false
		} else if e.Repeat != nil {
			again := *e.Repeat
			again.Model = b.ID
			e.Repeat = &again
		}
		if e.Show != "" {
			fit = fit && !strings.Contains(e.Show, "record.") && !strings.Contains(e.Show, "controls.") && !strings.Contains(e.Show, "count.")
		}
		return true
	})
	return fit
}

// rerouted is a route about one thing as a route about another.
func rerouted(text, from, to string) string {
	a, b := thing(from), thing(to)
	if a == "" || b == "" {
		return text
	}
	parts := strings.Split(text, "/")
	for i := 1; i < len(parts); i++ {
		if name, _, _ := strings.Cut(parts[i], "'"); name == a {
			parts[i] = b + strings.TrimPrefix(parts[i], a)
			break
		}
	}
	return strings.Join(parts, "/")
}

// respoken says of one thing what was said of another.
func (r *Reader) respoken(text string, from, to *usage.Doc, a, b *sample.Model) string {
	names := func(d *usage.Doc, m *sample.Model) []string {
		if m != nil {
			return forms(spaced(m.Name))
		}
		return forms(spaced(thing(d.Route)))
	}
	theirs, own := names(from, a), names(to, b)
	low := strings.ToLower(text)
	for i := len(theirs) - 1; i >= 0; i-- {
		if i >= len(own) || theirs[i] == "" {
			continue
		}
		at := strings.Index(low, theirs[i])
		end := at + len(theirs[i])
		if at < 0 || at > 0 && low[at-1] != ' ' || end < len(low) && low[end] != ' ' && low[end] != '?' && low[end] != '.' {
			continue
		}
		word := own[i]
		if text[at] != low[at] {
			word = strings.ToUpper(word[:1]) + word[1:]
		}
		return text[:at] + word + text[end:]
	}
	return text
}
