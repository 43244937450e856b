package lower

import (
	"slices"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/screen"
)

// Usual is what the state of a screen is called when it is none of the others.
const Usual = "ready"

// version is an element as it stands in one state.
type version struct {
	state string
	el    *screen.Element
}

// variant is an element that stands in some states only, or otherwise in each.
type variant struct {
	in []string  // states it stands in; nil for all
	as []version // how it stands in each; nil where it is the same in all
}

// united is the tree of a document with all its states in one. Elements are told by
// their ids; what is another kind in another state, or stands elsewhere, is there once
// for each. What differs is kept beside the tree.
func (b *builder) united() *screen.Element {
	d := b.doc
	if len(d.States) == 0 {
		return d.Root
	}
	versions := []version{{Usual, d.Root}}
	for _, s := range d.States {
		root, _ := screen.In(d, s.Name, b.p.in.Cat)
		versions = append(versions, version{s.Name, root})
	}
	b.c.States = make([]string, len(versions))
	for i, v := range versions {
		b.c.States[i] = v.state
	}
	return b.unite(versions)
}

// corresponds tells whether two stand for one element that differs in settings alone.
func corresponds(a, b *screen.Element) bool {
	return a.ID == b.ID && a.Type == b.Type && a.Slot == b.Slot && a.Name == b.Name &&
		(a.Repeat == nil) == (b.Repeat == nil) &&
		(a.Repeat == nil || *a.Repeat == *b.Repeat)
}

func (b *builder) unite(list []version) *screen.Element {
	first := list[0].el
	if !slices.ContainsFunc(list, func(v version) bool { return v.el != first }) {
		return first
	}
	var groups [][]version
	for _, v := range list {
		at := 0
		for _, c := range v.el.Children {
			if c.Show == "false" {
				continue // not there in this state
			}
			to := -1
			for i := at; i < len(groups) && to < 0; i++ {
				if corresponds(groups[i][0].el, c) {
					to = i
				}
			}
			if to < 0 {
				groups = slices.Insert(groups, at, []version{{v.state, c}})
				to = at
			} else {
				groups[to] = append(groups[to], version{v.state, c})
			}
			at = to + 1
		}
	}
	out := *first
	out.Children = make([]*screen.Element, len(groups))
	for i, g := range groups {
		c := b.unite(g)
		if len(g) < len(list) {
			alone := *c // the same may stand elsewhere in another state
			v := variant{as: b.variants[c].as}
			for _, one := range g {
				v.in = append(v.in, one.state)
			}
			c = &alone
			b.variants[c] = v
		}
		out.Children[i] = c
	}
	b.variants[&out] = variant{as: list}
	return &out
}

var stateRead = emit.Read{What: "state"}

func inState(op, state string) emit.Expr {
	return emit.Binary{Op: op, L: stateRead, R: emit.Str(state)}
}

// stands is the condition under which an element stands in the states it stands in.
func (b *builder) stands(in []string) emit.Expr {
	b.c.Stateful = true
	var out emit.Expr
	add := func(op string, e emit.Expr) {
		if out == nil {
			out = e
		} else {
			out = emit.Binary{Op: op, L: out, R: e}
		}
	}
	if slices.Contains(in, Usual) {
		for _, s := range b.c.States {
			if !slices.Contains(in, s) {
				add("&&", inState("!==", s))
			}
		}
		return out
	}
	for _, s := range in {
		add("||", inState("===", s))
	}
	return out
}

// varying writes what differs by state as one expression; ok is false where it is the
// same in all.
func (b *builder) varying(e *screen.Element, code func(*screen.Element) emit.Expr) (expression emit.Expr, ok bool) {
	v := b.variants[e]
	if len(v.as) == 0 {
		return nil, false
	}
	usual := code(v.as[0].el)
	out, written := usual, emit.Plain.Inline(usual)
	for _, other := range slices.Backward(v.as[1:]) {
		if is := code(other.el); emit.Plain.Inline(is) != written {
			out, ok = emit.Cond{If: inState("===", other.state), Then: is, Else: out}, true
		}
	}
	b.c.Stateful = b.c.Stateful || ok
	return out, ok
}

// propsOf lists the names of all settings that an element has in any state.
func (b *builder) propsOf(e *screen.Element) []screen.Prop {
	v := b.variants[e]
	if len(v.as) == 0 {
		return e.Props
	}
	out := slices.Clone(e.Props)
	for _, o := range v.as {
		for _, p := range o.el.Props {
			if !slices.ContainsFunc(out, func(q screen.Prop) bool { return q.Name == p.Name }) {
				out = append(out, p)
			}
		}
	}
	screen.SortProps(out)
	return out
}
