package resolve

import (
	"fmt"
	"maps"
	"slices"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// Unfolding is what stands in place of a use of a piece where the piece is not used.
type Unfolding struct {
	Copies []*screen.Element
	Spoken map[*screen.Element]bool // of them, what something speaks of by its name
	Around map[string]string        // what the document calls the controls now, by what the use lent them as
}

// Unfold makes what a use of a piece shows of elements of the document's own, with ids and names
// that it has not yet; those are taken. What the elements speak of is what they spoke of in the
// piece. It is an error where a setting speaks of the record around and what it sets stands in a
// repeat.
func Unfold(use *screen.Element, piece *screen.Document, cat kit.Catalog, ids, names map[string]bool) (Unfolding, error) {
	over := Overrides(piece, use, cat)
	apart := apartFrom(use, piece, cat, names)
	out := Unfolding{Spoken: map[*screen.Element]bool{}, Around: apart.around}
	var bad error
	renamed := map[string]string{}
	var made []*screen.Element
	var copyOf func(e *screen.Element, inRepeat bool) []*screen.Element
	copyOf = func(e *screen.Element, inRepeat bool) []*screen.Element {
		if e.Type == "outlet" {
			var in []*screen.Element
			for _, c := range use.Children {
				if c.Slot == e.Name {
					into := c.Copy()
					into.Slot = e.Slot
					into.Walk(func(e, _ *screen.Element) bool { Respeak(e, apart.around); return true })
					in = append(in, into)
				}
			}
			return in
		}
		for _, o := range over[e.ID] {
			if (inRepeat || e.Repeat != nil) && SpeaksOfRecord(o.Value) {
				bad = fmt.Errorf(
					"%s is computed from the record around and stands in a repeat of its own; it cannot be cut loose",
					TitleOf(e, cat),
				)
			}
		}
		c := *e.With(over[e.ID])
		c.ID = screen.FreeName(ids, e.ID)
		renamed[e.ID] = c.ID
		if name, spoken := apart.named[e.ID]; spoken {
			c.Name, out.Spoken[&c] = name, true
		} else if names[c.Name] {
			c.Name = ""
		}
		names[c.Name] = c.Name != ""
		c.Children = nil
		for _, child := range e.Children {
			c.Children = append(c.Children, copyOf(child, inRepeat || e.Repeat != nil)...)
		}
		made = append(made, &c)
		return []*screen.Element{&c}
	}
	roots := []*screen.Element{piece.Root}
	if piece.Root.Type == "parts" {
		roots = piece.Root.Children
	}
	for _, r := range roots {
		out.Copies = append(out.Copies, copyOf(r, false)...)
	}
	if bad != nil {
		return Unfolding{}, bad
	}
	for _, c := range made {
		screen.Repoint(c, renamed)
		Respeak(c, apart.inside)
	}
	for _, c := range out.Copies {
		c.Slot = use.Slot
		if use.Show != "" && c.Show != "" {
			c.Show = "(" + use.Show + ") && (" + c.Show + ")"
		} else if use.Show != "" {
			c.Show = use.Show
		}
	}
	return out, nil
}

// apart says what the elements of a piece that something speaks of are called once they stand on
// a document themselves.
type apart struct {
	named          map[string]string // by their ids in the piece
	inside, around map[string]string // what speaks of them in the piece, and on the document
}

// apartFrom keeps the names of what a piece speaks of itself, and of what its use lends, from those
// that the document has already.
func apartFrom(use *screen.Element, piece *screen.Document, cat kit.Catalog, taken map[string]bool) apart {
	out := apart{map[string]string{}, map[string]string{}, map[string]string{}}
	free := maps.Clone(taken)
	inner := NamesOf(piece.Root, cat)
	give := func(e *screen.Element) string {
		if name, given := out.named[e.ID]; given {
			return name
		}
		name := e.Name
		if free[name] && use.Name != "" && screen.ValidName(use.Name+"-"+name) {
			name = use.Name + "-" + name
		}
		out.named[e.ID] = screen.FreeName(free, name)
		return out.named[e.ID]
	}
	for _, name := range slices.Sorted(maps.Keys(inner.Repeats)) {
		out.inside[name] = give(inner.Repeats[name])
	}
	for _, name := range slices.Sorted(maps.Keys(inner.Controls)) {
		c := inner.Controls[name]
		to := ""
		if c.Use == nil {
			to = give(c.Element)
		} else {
			to = LentName(give(c.Use), c.Inner)
		}
		out.inside[name] = to
		if use.Name != "" {
			out.around[LentName(use.Name, name)] = to
		}
	}
	return out
}

// TitleOf is what an element's component is called; its type where the catalog does not know it.
func TitleOf(e *screen.Element, cat kit.Catalog) string {
	if c, ok := cat.Component(e.Type); ok {
		return c.Title
	}
	return e.Type
}

// Unfolded is a tree without uses of pieces that behave: for one whose lists follow its controls,
// whose controls something follows, or which is told what others hold, stands what it is made of.
// What the tree shows and does is the same. Uses in repeats stay.
func Unfolded(root *screen.Element, cat kit.Catalog) *screen.Element {
	for range deepest { // pieces are made of pieces
		ids, names := map[string]bool{}, map[string]bool{}
		root.Walk(func(e, _ *screen.Element) bool {
			ids[e.ID], names[e.Name] = true, e.Name != ""
			return true
		})
		lent := NamesOf(root, cat)
		around, changed := map[string]string{}, false
		var unfold func(e *screen.Element) *screen.Element
		unfold = func(e *screen.Element) *screen.Element {
			out := *e
			out.Children = nil
			for _, c := range e.Children {
				piece := pieceOf(c, cat)
				if c.Repeat != nil || piece == nil {
					if c.Repeat == nil {
						c = unfold(c)
					} else {
						c = c.Copy()
					}
					out.Children = append(out.Children, c)
					continue
				}
				inner := NamesOf(piece.Root, cat)
				follows := inner.Spoken || len(Spoken(c, false)) > 0
				if !follows && (c.Name == "" || !lent.Spoken || len(inner.Controls) == 0) {
					out.Children = append(out.Children, unfold(c))
					continue
				}
				made, err := Unfold(c, piece, cat, ids, names)
				if err != nil {
					out.Children = append(out.Children, c.Copy())
					continue
				}
				changed = true
				maps.Copy(around, made.Around)
				out.Children = append(out.Children, made.Copies...)
			}
			return &out
		}
		next := unfold(root)
		if !changed {
			return root
		}
		next.Walk(func(e, _ *screen.Element) bool { Respeak(e, around); return true })
		root = next
	}
	return root
}
