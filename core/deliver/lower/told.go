package lower

import (
	"maps"
	"slices"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// Tell is what a control of a piece holds, as the component that uses the piece keeps it: it is
// given by a prop, and told when it changes.
type Tell struct {
	Prop string // of the piece
	Control
}

// tells notes what controls of pieces other documents follow, by the piece and the control's name
// there. One that a piece has of another piece in it is told by both.
func (p *program) tells() {
	p.told = map[string]map[string]bool{}
	var tell func(names *resolve.Names, name string)
	tell = func(names *resolve.Names, name string) {
		c, ok := names.Controls[name]
		if !ok || c.Use == nil {
			return
		}
		id := c.Use.Type[len(screen.PiecePrefix):]
		piece := p.in.Pieces[id]
		if piece == nil || p.told[id][c.Inner] {
			return
		}
		if p.told[id] == nil {
			p.told[id] = map[string]bool{}
		}
		p.told[id][c.Inner] = true
		tell(resolve.NamesOf(piece.Root, p.in.Cat), c.Inner)
	}
	look := func(d *screen.Document) {
		trees := []*screen.Element{d.Root}
		for _, s := range d.States {
			root, _ := screen.In(d, s.Name, p.in.Cat)
			trees = append(trees, root)
		}
		for _, root := range trees {
			names := resolve.NamesOf(root, p.in.Cat)
			root.Walk(func(e, _ *screen.Element) bool {
				for _, name := range resolve.Spoken(e, false) {
					tell(names, name)
				}
				for _, a := range resolve.Deeds(e) {
					if name, _, _ := a.Control(); a.Verb == screen.SetControl {
						tell(names, resolve.Identifier(name))
					}
				}
				return true
			})
			for _, src := range p.in.Sources {
				for _, name := range src.Parameters() {
					tell(names, name)
				}
			}
		}
	}
	for _, d := range p.in.Screens {
		look(d)
	}
	for _, id := range slices.Sorted(maps.Keys(p.in.Pieces)) {
		look(p.in.Pieces[id])
	}
}

// known are the names that components give to what they work with.
var known = []string{
	"record", "slot", "children", "state", "setState", "controls", "hold", "opened", "open", "faults", "blame", "own", "route", "router",
	"path", "params", "navigate", "elements", "maybe", "text", "today",
}

// lending are the controls of a piece that are given and told from outside, by their names, with
// the props that do it: those that other documents follow, and those whose value is a prop already.
func (p *program) lending(piece *screen.Document) map[string]string {
	props := append(slices.Clone(piece.Props), reached(p.in, piece)...)
	taken := map[string]bool{}
	for _, name := range known {
		taken[name] = true
	}
	for _, prop := range props {
		taken[propName(prop.Name)] = true
	}
	piece.Root.Walk(func(e, _ *screen.Element) bool {
		if e.Type == "outlet" && e.Name != "" {
			taken[emit.Camel(e.Name)] = true
		}
		return true
	})
	out := map[string]string{}
	names := resolve.NamesOf(piece.Root, p.in.Cat)
	for _, name := range slices.Sorted(maps.Keys(names.Controls)) {
		c := names.Controls[name]
		at := slices.IndexFunc(props, func(prop screen.PieceProp) bool {
			return c.Use == nil && prop.Element == c.Element.ID && prop.Prop == c.Holds.Name
		})
		switch {
		case at >= 0 && (names.Spoken || len(p.told[piece.ID]) > 0):
			out[name] = propName(props[at].Name)
		case p.told[piece.ID][name]:
			wish := propName(name)
			for taken[wish] {
				wish += "Value"
			}
			taken[wish] = true
			out[name] = wish
		}
	}
	return out
}

// follows tells whether what the controls of the document hold is followed.
func (b *builder) follows() bool {
	return b.lent != nil && (b.lent.Spoken || len(b.lends) > 0)
}

// ownNames are what the document's elements lend to its expressions; a piece's are its own.
func (b *builder) ownNames(root *screen.Element) {
	if b.doc.Kind == screen.ShellDoc {
		return
	}
	b.lent = resolve.NamesOf(root, b.p.in.Cat)
	if b.doc.Kind == screen.PieceDoc {
		b.lends = b.p.lending(b.doc)
		for _, prop := range b.lends {
			b.c.Names.Keep(prop)
		}
		return
	}
	for _, src := range b.p.in.Sources {
		b.lent.Follow(src.Parameters())
	}
}

// controls notes the controls that something follows.
func (b *builder) controls() {
	if !b.follows() {
		return
	}
	for _, name := range slices.Sorted(maps.Keys(b.lent.Controls)) {
		c := b.lent.Controls[name]
		if c.Use != nil && b.tellOf(name, c) == nil {
			continue // nothing follows it
		}
		b.c.Controls = append(b.c.Controls, b.control(name, c))
	}
}

func (b *builder) control(name string, c resolve.Control) Control {
	out := controlOf(name, c)
	out.Prop = b.lends[name]
	return out
}

// tellOf is how a use of a piece gives and tells what a control in it holds; nil where nothing
// follows that.
func (b *builder) tellOf(name string, c resolve.Control) *Tell {
	id := c.Use.Type[len(screen.PiecePrefix):]
	piece := b.p.in.Pieces[id]
	if piece == nil || !b.p.told[id][c.Inner] {
		return nil
	}
	return &Tell{Prop: b.p.lending(piece)[c.Inner], Control: controlOf(name, c)}
}

// wired has a use of a piece give and tell what its controls hold.
func (b *builder) wired(el *El, e *screen.Element) {
	if !b.follows() || e.Name == "" {
		return
	}
	for _, name := range slices.Sorted(maps.Keys(b.lent.Controls)) {
		c := b.lent.Controls[name]
		if c.Use == nil || c.Use.ID != e.ID {
			continue
		}
		tell := b.tellOf(name, c)
		if tell == nil {
			continue
		}
		for i, a := range el.Attrs {
			if a.Prop != tell.Prop {
				continue
			}
			if _, fixed := a.Value.(emit.Read); fixed || !constant(a.Value) {
				b.p.note(b.doc, e.ID, "what %s holds at first is computed; it begins with what the piece says, since %s follows it", tell.Prop, name)
			}
			el.Attrs = slices.Delete(el.Attrs, i, i+1)
			break
		}
		el.Tells = append(el.Tells, *tell)
	}
}

// constant tells whether an expression is a plain value.
func constant(e emit.Expr) bool {
	switch x := e.(type) {
	case emit.Str:
		return true
	case emit.Name:
		return x != ""
	}
	return false
}
