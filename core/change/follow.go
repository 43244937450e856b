package change

import (
	"slices"
	"strings"

	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Lost is a setting of a use that a changed piece has no place for any more. It stays
// where it stands, so that nothing is lost, and is reported.
type Lost struct {
	Doc     string `json:"doc"`
	Title   string `json:"title"`
	Element string `json:"element"`
	Prop    string `json:"prop"`
	Why     string `json:"why"`
}

// follower carries along with a change what depends on what it changes.
type follower struct {
	w     *model.Workspace
	cat   *model.Catalog
	past  Past
	steps []Step
	lost  []Lost
}

// edit adds edits that follow; they are taken as they are, without being held against the
// kit.
func (f *follower) edit(d *screen.Document, edits []screen.Edit) {
	if len(edits) == 0 {
		return
	}
	for i := range edits {
		edits[i] = screen.Following(edits[i])
	}
	f.steps = append(f.steps, &Edit{Doc: d.Address(), Edits: edits})
}

func (f *follower) lose(d *screen.Document, e *screen.Element, prop, why string) {
	f.lost = append(f.lost, Lost{d.Address(), d.Title, e.ID, prop, why})
}

// Follow gives the change with the edits that it takes elsewhere: links follow a route,
// expressions a renamed field or control, the uses of a piece what became of it. What cannot follow
// is told.
func Follow(w *model.Workspace, c Change, cat *model.Catalog, past Past) (Change, []Lost) {
	f := &follower{w, cat, past, slices.Clone(c.Steps), []Lost{}}
	f.fields(c.Steps)
	f.routes(c.Steps)
	f.names(c.Steps)
	f.pieces(c.Title)
	c.Steps = f.steps
	return c, f.lost
}

// pieces carries the uses of pieces along with a change of them: settings follow what
// they reach by its id, under whatever name it now goes.
//
// Three trees meet here: the piece as it was, the piece as it becomes, and the use's
// own settings. A setting wins over what the piece now says, as it won before; it is
// lost only where what it set is gone.
func (f *follower) pieces(title string) {
	if !slices.ContainsFunc(f.steps, func(s Step) bool {
		switch s.(type) {
		case *Edit, *Props:
			return strings.HasPrefix(docOf(s), "piece:")
		}
		return false
	}) {
		return
	}
	next, t, err := Apply(f.w, Change{title, f.steps}, f.cat, f.past)
	if err != nil {
		return // taking it will say so, with its place
	}
	cat := model.NewCatalog(f.cat.Kit, next)
	for _, key := range t.Docs {
		was, ok1 := f.w.Doc(key)
		is, ok2 := next.Doc(key)
		if !ok1 || !ok2 || is.Kind != screen.PieceDoc {
			continue
		}
		for _, d := range next.Docs {
			if !d.Removed {
				f.uses(d, was, is, cat)
			}
		}
	}
}

// uses carries the uses of a piece on a document along.
func (f *follower) uses(d, was, is *screen.Document, cat *model.Catalog) {
	typ := screen.PiecePrefix + is.ID
	renames := renamed(was, is)
	def, _ := cat.Component(typ)
	before, _ := f.cat.Component(typ)
	var edits []screen.Edit
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if e.Type != typ {
			return true
		}
		for _, p := range e.Props {
			name := renames(p.Name)
			if name != p.Name {
				edits = append(edits,
					screen.Edit{Op: screen.Unset, ID: e.ID, Prop: p.Name},
					screen.Edit{Op: screen.Set, ID: e.ID, Prop: name, Value: p.Value, Filled: p.Filled})
			}
			_, fits := def.Prop(name)
			if _, fitted := before.Prop(p.Name); fitted && !fits {
				f.lose(d, e, p.Name, "the piece has no "+strings.ReplaceAll(name, ".", " ")+" any more")
			}
		}
		return true
	})
	f.edit(d, edits)
}

// renamed tells under what name a setting of a use goes once a piece has changed.
func renamed(was, is *screen.Document) func(string) string {
	props := map[string]string{}
	for _, p := range was.Props {
		for _, q := range is.Props {
			if p.Element == q.Element && p.Prop == q.Prop {
				props[p.Name] = q.Name
			}
		}
	}
	inner := map[string]string{}
	was.Root.Walk(func(e, _ *screen.Element) bool {
		if now, _ := is.Root.Find(e.ID); e.Name != "" && now != nil && now.Name != "" {
			inner[e.Name] = now.Name
		}
		return true
	})
	return func(name string) string {
		if of, prop, reaches := strings.Cut(name, "."); reaches {
			if now, ok := inner[of]; ok {
				return now + "." + prop
			}
			return name
		}
		if now, ok := props[name]; ok {
			return now
		}
		return name
	}
}
