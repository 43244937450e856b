package piece

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// ties are what holds a part to the rest of its document, and together.
type ties struct {
	// own are its elements that it speaks of itself, by their names in expressions.
	own map[string]*screen.Element
	// told are its controls that the rest speaks of: the use of the piece lends them.
	told map[string]*screen.Element
	// lists of it are not lent.
	lists map[string]bool
}

// words are what the piece tells, by the names of its controls.
func (t *ties) words() []string {
	out := []string{}
	for _, name := range slices.Sorted(maps.Keys(t.told)) {
		out = append(out, t.told[name].Name)
	}
	return out
}

// like tells whether another part speaks of itself as this one does: under the same names, of
// what stands for the same. What the documents around speak of may differ.
func (t *ties) like(o *ties, ids map[string]string) bool {
	if len(t.own) != len(o.own) {
		return false
	}
	for name, e := range t.own {
		if other := o.own[name]; other == nil || ids[other.ID] != e.ID {
			return false
		}
	}
	return true
}

// outside tells whether an expression speaks of what stands around the part: of a record, or of
// names of the screen's.
func (t *ties) outside(v screen.Value) bool {
	return resolve.SpeaksOfRecord(v) || slices.ContainsFunc(resolve.SpokenBy(v), func(said [2]string) bool {
		return said[0] == "route" || t.own[said[1]] == nil
	})
}

// counted is a list of the part that an expression counts; empty for none. Left to the uses, it
// would find none there.
func (t *ties) counted(v screen.Value) string {
	for _, said := range resolve.SpokenBy(v) {
		if said[0] != "controls" && t.lists[said[1]] {
			return said[1]
		}
	}
	return ""
}

// tied finds what holds a part to the rest of its document. What no piece could do is an error:
// a press in it that opens what stands outside, or the other way round, a list in it that
// follows what people choose outside, and one that is counted outside.
func (l work) tied(d *screen.Document, list []*screen.Element) (*ties, error) {
	inside := map[string]*screen.Element{}
	for _, root := range list {
		root.Walk(func(e, _ *screen.Element) bool { inside[e.ID] = e; return true })
	}
	t := &ties{own: map[string]*screen.Element{}, told: map[string]*screen.Element{}, lists: map[string]bool{}}
	named := map[string]*screen.Element{}
	names := resolve.NamesOf(d.Root, l.Cat)
	for name, c := range names.Controls {
		switch {
		case c.Use == nil && inside[c.Element.ID] != nil:
			named[name] = c.Element
		case c.Use != nil && inside[c.Use.ID] != nil:
			named[name] = c.Use
		}
	}
	for name, e := range names.Repeats {
		if inside[e.ID] != nil {
			named[name], t.lists[name] = e, true
		}
	}
	var err error
	var look func(e *screen.Element, repeated bool)
	look = func(e *screen.Element, repeated bool) {
		in := inside[e.ID] != nil
		repeated = repeated || e.Repeat != nil && in
		for _, name := range resolve.Spoken(e, false) {
			switch of := named[name]; {
			case in && of != nil:
				t.own[name] = of
			case in && repeated: // else the uses say it
				err = fmt.Errorf("%s follows %s, which is a name of the screen's own; it stays on the screen", l.title(e), name)
			case !in && t.lists[name]:
				err = fmt.Errorf("what the screen shows follows %s; it stays on the screen", of.Name)
			case !in && of != nil:
				t.told[name] = of
			}
		}
		for _, a := range resolve.Deeds(e) {
			name, _, _ := a.Control()
			name = resolve.Identifier(name)
			switch of := named[name]; {
			case a.Verb != screen.SetControl:
			case in && of != nil:
				t.own[name] = of
			case in:
				err = fmt.Errorf("%s sets the control %s, and a piece knows none of a screen's", l.title(e), name)
			case of != nil:
				t.told[name] = of
			}
		}
		for _, c := range e.Children {
			look(c, repeated)
		}
	}
	look(d.Root, false)
	for name := range t.told {
		if names.Controls[name].Use != nil {
			err = fmt.Errorf("what the screen shows follows %s of the piece in this part; it stays on the screen", name)
		}
	}
	for _, src := range l.W.Sources {
		for _, asked := range src.Parameters() {
			if of := named[asked]; of != nil && !t.lists[asked] {
				err = fmt.Errorf("the records of %s are asked for by what %s holds; it stays on the screen", src.Model, of.Name)
			}
		}
	}
	if err != nil {
		return nil, err
	}
	d.Root.Walk(func(e, _ *screen.Element) bool {
		for _, a := range resolve.Deeds(e) {
			if target, _ := d.Root.Find(a.To); a.Points() && target != nil &&
				(inside[e.ID] == nil) != (inside[a.To] == nil) {
				err = fmt.Errorf(
					"%s is to %s %s, and only one of them is in this part; take both, or neither",
					l.title(e),
					a.Verb,
					l.title(target),
				)
			}
		}
		return err == nil
	})
	return t, err
}

// place is where a use of a new piece stands for what stood there.
type place struct {
	doc  *screen.Document
	list []*screen.Element
	ties *ties
	ids  map[string]string // of the part that the piece is made of, by those here; nil where they are the same
}

// wire has the document of a use speak of what its controls hold by the names under which the use
// lends it: it gives what they are called now, and does so in the use itself, which is named for it.
func (u place) wire(use *screen.Element, piece *screen.Document, taken map[string]bool) (map[string]string, error) {
	told := maps.Clone(u.ties.told)
	for _, p := range use.Props {
		if name := u.ties.counted(p.Value); name != "" {
			return nil, fmt.Errorf("%s counts %s, which goes into the piece; it is not left to the uses", p.Name, name)
		}
		for _, said := range resolve.SpokenBy(p.Value) {
			if e := u.ties.own[said[1]]; e != nil {
				told[said[1]] = e
			}
		}
	}
	if len(told) == 0 {
		return nil, nil
	}
	free := map[string]bool{}
	for name := range taken {
		if element, ok := strings.CutPrefix(name, "="); ok {
			free[element] = true
		}
	}
	use.Name = screen.FreeName(free, screen.PlainName(piece.ID))
	taken["="+use.Name] = true
	names := map[string]string{}
	for name, e := range told {
		id := e.ID
		if u.ids != nil {
			id = u.ids[id]
		}
		inner, _ := piece.Root.Find(id)
		if inner == nil {
			return nil, fmt.Errorf("%s goes into a slot, and what the screen shows follows it", e.Name)
		}
		names[name] = resolve.LentName(use.Name, inner.Name)
	}
	for i, child := range use.Children {
		use.Children[i] = child.Copy()
	}
	use.Walk(func(e, _ *screen.Element) bool { resolve.Respeak(e, names); return true })
	return names, nil
}
