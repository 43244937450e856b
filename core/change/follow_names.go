package change

import (
	"maps"
	"slices"
	"strings"

	"ubiquant/core/model"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// names carries along what speaks of an element by its name, where that changes: what a
// control holds, how many records a list has, which control turns its pages. A source
// that asks for a control is asked from several screens, and is told.
func (f *follower) names(steps []Step) {
	renames := false
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
				renames = true
			}
		}
	}
	if renames {
		f.lent(steps)
	}
}

// lent carries along what speaks of the controls of pieces: they go by the name of the use and
// by their own, whichever of the two changes.
func (f *follower) lent(steps []Step) {
	next, _, err := Apply(f.w, Change{Steps: steps}, f.cat, f.past)
	if err != nil {
		return // taking it will say so, with its place
	}
	cat := model.NewCatalog(f.cat.Kit, next)
	for _, d := range f.w.Docs {
		is, ok := next.Doc(d.Address())
		if !ok || d.Removed {
			continue
		}
		now := map[string]string{}
		for name, c := range resolve.NamesOf(is.Root, cat).Controls {
			if c.Use != nil {
				now[c.ID] = name
			}
		}
		was, names := resolve.NamesOf(d.Root, f.cat).Controls, map[string]string{}
		for _, name := range slices.Sorted(maps.Keys(was)) {
			c := was[name]
			if _, still := is.Root.Find(root(c.ID)); c.Use == nil || still == nil || now[c.ID] == name {
				continue
			}
			if now[c.ID] == "" {
				if len(resolve.Respoken(d.Root, map[string]string{name: name + "-"})) > 0 {
					f.lose(d, c.Use, "", "what speaks of "+name+" finds another control by the name that it goes by now")
				}
				continue
			}
			f.asked(d, c.Use, name, now[c.ID])
			names[name] = now[c.ID]
		}
		f.edit(d, resolve.Respoken(d.Root, names))
	}
}

// root is the element of a document that a lent control stands in.
func root(id string) string { first, _, _ := strings.Cut(id, "/"); return first }

// named lists the edits that give an element another name wherever a document says it.
func (f *follower) named(d *screen.Document, el *screen.Element, to string) []screen.Edit {
	was := resolve.Identifier(el.Name)
	f.asked(d, el, was, resolve.Identifier(to))
	return resolve.Respoken(d.Root, map[string]string{was: to})
}

// asked tells of sources that ask for a control by the name that it had.
func (f *follower) asked(d *screen.Document, el *screen.Element, was, is string) {
	for _, src := range f.w.Sources {
		for _, p := range src.Parameters() {
			if p == was {
				f.lose(d, el, "", "the records of "+src.Model+" are asked for by {"+was+"}; write {"+is+"} there")
			}
		}
	}
}
