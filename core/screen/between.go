package screen

import (
	"fmt"
	"slices"

	"ubiquant/core/kit"
)

// Between lists the edits that bring one tree to another, as they were made by hand.
// Elements are told by their ids; the roots are the same element. They restore: what
// stood may stand again, whatever the kit now says.
//
// The law (see the tests): applying them to now gives then.
func Between(now, then *Element) []Edit {
	var edits []Edit
	work := now
	do := func(e Edit) {
		e.exact = true
		next, _, err := Apply(work, e, nothing{})
		if err != nil {
			return // cannot be: each edit is made for the tree that it meets
		}
		work = next
		edits = append(edits, e)
	}
	kept := map[string]bool{}
	then.Walk(func(e, _ *Element) bool { kept[e.ID] = true; return true })
	// What is to stand comes to its place, parents first.
	var place func(p *Element)
	place = func(p *Element) {
		before := map[string]string{} // by slot
		for _, c := range p.Children {
			el, parent := work.Find(c.ID)
			after := before[c.Slot]
			before[c.Slot] = c.ID
			switch {
			case el == nil:
				alone := *c
				alone.Children = nil
				do(Edit{Op: Insert, Parent: p.ID, After: after, Tree: &alone})
			case parent == nil:
				continue
			case parent.ID != p.ID || el.Slot != c.Slot || parent.before(el) != after:
				// Into itself nothing moves: what it stands in comes up first.
				if inside, _ := el.Find(p.ID); inside != nil {
					_, up := work.Find(el.ID)
					do(Edit{Op: Move, ID: p.ID, Parent: up.ID, Slot: el.Slot, After: el.ID})
				}
				do(Edit{Op: Move, ID: c.ID, Parent: p.ID, Slot: c.Slot, After: after})
			}
		}
		for _, c := range p.Children {
			place(c)
		}
	}
	place(then)
	var gone []string
	work.Walk(func(e, parent *Element) bool {
		if !kept[e.ID] && parent != nil {
			gone = append(gone, e.ID)
			return false
		}
		return true
	})
	for _, id := range gone {
		do(Edit{Op: Remove, ID: id})
	}
	then.Walk(func(e, _ *Element) bool {
		is, _ := work.Find(e.ID)
		if is == nil {
			return true
		}
		if is.Type != e.Type {
			alone := *e
			alone.Children = nil
			slots := map[string]string{}
			for _, c := range is.Children {
				slots[c.ID] = c.Slot
			}
			do(Edit{Op: Replace, ID: e.ID, Tree: &alone, Slots: slots})
			return true
		}
		for _, p := range is.Props {
			if _, still := e.Prop(p.Name); !still {
				do(Edit{Op: Unset, ID: e.ID, Prop: p.Name})
			}
		}
		for _, p := range e.Props {
			if !slices.Contains(is.Props, p) {
				do(Edit{Op: Set, ID: e.ID, Prop: p.Name, Value: p.Value, Filled: p.Filled})
			}
		}
		if is.Text != e.Text {
			do(Edit{Op: SetText, ID: e.ID, Value: e.Text})
		}
		if is.Name != e.Name {
			do(Edit{Op: Rename, ID: e.ID, Name: e.Name})
		}
		if is.Show != e.Show {
			do(Edit{Op: Show, ID: e.ID, Name: e.Show})
		}
		if (is.Repeat == nil) != (e.Repeat == nil) || is.Repeat != nil && *is.Repeat != *e.Repeat {
			do(Edit{Op: SetRepeat, ID: e.ID, Repeat: e.Repeat})
		}
		return true
	})
	return edits
}

// nothing is a catalog that knows nothing: what restores is not held against a kit.
type nothing struct{}

func (nothing) Component(string) (*kit.Component, bool) { return nil, false }

// Difference is one thing that is otherwise in a tree than in another.
type Difference struct {
	Element string `json:"element"`
	Title   string `json:"title"` // what the element is
	Words   string `json:"words"` // what was done to it
}

// Differences says in words what lies between a tree and a later one. title names an
// element for people.
func Differences(then, now *Element, title func(*Element) string) []Difference {
	out := []Difference{}
	byID := func(root *Element) map[string]*Element {
		m := map[string]*Element{}
		root.Walk(func(e, _ *Element) bool { m[e.ID] = e; return true })
		return m
	}
	was, is := byID(then), byID(now)
	add := func(e *Element, format string, args ...any) {
		out = append(out, Difference{e.ID, title(e), fmt.Sprintf(format, args...)})
	}
	said := func(v Value) string {
		if v.Kind == None {
			return "not set"
		}
		return v.Fixed()
	}
	now.Walk(func(e, parent *Element) bool {
		old := was[e.ID]
		if old == nil {
			if parent == nil || was[parent.ID] != nil {
				add(e, "added")
			}
			return true
		}
		_, before := then.Find(e.ID)
		switch {
		case parent != nil && before != nil && parent.ID != before.ID:
			add(e, "moved into %s", title(parent))
		case parent != nil && before != nil && (old.Slot != e.Slot || kin(before, old, is) != kin(parent, e, was)):
			add(e, "moved")
		}
		if old.Type != e.Type {
			add(e, "was %s", title(old))
		}
		if old.Text != e.Text {
			add(e, "text: %s, was %s", said(e.Text), said(old.Text))
		}
		for _, p := range e.Props {
			if v, _ := old.Prop(p.Name); v != p.Value {
				add(e, "%s: %s, was %s", p.Name, said(p.Value), said(v))
			}
		}
		for _, p := range old.Props {
			if _, still := e.Prop(p.Name); !still {
				add(e, "%s: not set, was %s", p.Name, said(p.Value))
			}
		}
		if old.Name != e.Name {
			add(e, "name: %s, was %s", orNone(e.Name), orNone(old.Name))
		}
		if old.Show != e.Show {
			add(e, "shows if %s, was %s", orAlways(e.Show), orAlways(old.Show))
		}
		if (old.Repeat == nil) != (e.Repeat == nil) || old.Repeat != nil && *old.Repeat != *e.Repeat {
			add(e, "repeats otherwise")
		}
		return true
	})
	then.Walk(func(e, parent *Element) bool {
		if is[e.ID] == nil {
			if parent == nil || is[parent.ID] != nil {
				add(e, "removed")
			}
		}
		return true
	})
	return out
}

// kin is the nearest sibling before an element that is there in the other tree too.
func kin(parent, e *Element, other map[string]*Element) string {
	last := ""
	for _, c := range parent.Children {
		if c.ID == e.ID {
			break
		}
		if c.Slot == e.Slot && other[c.ID] != nil {
			last = c.ID
		}
	}
	return last
}

func orNone(s string) string {
	if s == "" {
		return "none"
	}
	return s
}

func orAlways(s string) string {
	if s == "" {
		return "always"
	}
	return s
}
