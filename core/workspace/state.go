package workspace

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

const maxStates = 40

// stateStep puts a state, takes one away, or adds differences to one.
func (w *Workspace) stateStep(s Step, d *screen.Document, cat kit.Catalog, t *Taken) error {
	if s.State == nil || strings.TrimSpace(s.State.Name) == "" {
		return fmt.Errorf("the state has no name")
	}
	name := strings.TrimSpace(s.State.Name)
	if name == "ready" || len(name) > 40 {
		return fmt.Errorf("a state is called otherwise than ready, in at most 40 letters")
	}
	if d.Kind == screen.PieceDoc {
		return fmt.Errorf("a piece has no states; the screens that use it do")
	}
	at := slices.IndexFunc(d.States, func(o screen.State) bool { return o.Name == name })
	d.States = slices.Clone(d.States)
	switch s.Do {
	case DropState:
		if at < 0 {
			return fmt.Errorf("%s has no state %q", d.Title, name)
		}
		old := d.States[at]
		d.States = slices.Delete(d.States, at, at+1)
		t.undo(Step{Do: PutState, Doc: s.Doc, State: &old})
		return nil
	case PutState:
		next := screen.State{Name: name, Set: s.State.Set, Edits: s.State.Edits}
		if at >= 0 {
			old := d.States[at]
			d.States[at] = next
			t.undo(Step{Do: PutState, Doc: s.Doc, State: &old})
			return nil
		}
		if len(d.States) >= maxStates {
			return fmt.Errorf("%s has %d states; more is a second screen", d.Title, maxStates)
		}
		d.States = append(d.States, next)
		t.undo(Step{Do: DropState, Doc: s.Doc, State: &next})
		return nil
	}
	// EditState: the differences are made on the tree as the state shows it.
	if at < 0 {
		return fmt.Errorf("%s has no state %q", d.Title, name)
	}
	old := d.States[at]
	root, _ := screen.In(d, name, cat)
	for _, e := range s.State.Edits {
		next, _, err := screen.Apply(root, e, cat)
		if err != nil {
			return err
		}
		root = next
	}
	next := old
	next.Edits = squash(append(slices.Clone(old.Edits), s.State.Edits...))
	d.States[at] = next
	t.undo(Step{Do: PutState, Doc: s.Doc, State: &old})
	return nil
}

// squash leaves out what a later edit of the same setting makes void.
func squash(edits []screen.Edit) []screen.Edit {
	setting := func(e screen.Edit) string {
		switch e.Op {
		case screen.Set, screen.Unset:
			return e.ID + "|prop|" + e.Prop
		case screen.SetText, screen.Show, screen.SetRepeat, screen.Rename:
			return e.ID + "|" + string(e.Op)
		}
		return ""
	}
	last := map[string]int{}
	for i, e := range edits {
		if key := setting(e); key != "" {
			last[key] = i
		}
	}
	out := make([]screen.Edit, 0, len(edits))
	for i, e := range edits {
		if key := setting(e); key == "" || last[key] == i {
			out = append(out, e)
		}
	}
	return out
}

// ProposeState works out how a screen would look in a usual state, by what the kit
// has for it: what waits is shown by a spinner, what failed by an alert, an open
// dialog is open. Where there is nothing to go by, the state starts as the usual one.
func (l *Live) ProposeState(doc, name string) (screen.State, error) {
	d, ok := l.W.Doc(doc)
	s := screen.State{Name: strings.TrimSpace(name)}
	if !ok {
		return s, fmt.Errorf("there is no %s", doc)
	}
	ids := map[string]bool{}
	d.Root.Walk(func(e, _ *screen.Element) bool { ids[e.ID] = true; return true })
	var lists []*screen.Element // what shows records
	var opens *screen.Element
	d.Root.Walk(func(e, parent *screen.Element) bool {
		if e.Repeat != nil && parent != nil {
			if list := holder(l.Cat, e, parent); !slices.Contains(lists, list) {
				lists = append(lists, list)
			}
			return false
		}
		if c, ok := l.Cat.Component(e.Type); ok && opens == nil {
			if p, ok := c.Prop("open"); ok && p.Type == kit.Bool {
				opens = e
			}
		}
		return true
	})
	put := func(parent, after *screen.Element, words []string, props map[string]string, text string) {
		c := l.Component(words...)
		if c == nil || parent == nil {
			return
		}
		e := &screen.Element{ID: unique(ids, plainName(s.Name+"-"+c.Title)), Type: c.Tag}
		if after != nil {
			e.Slot = after.Slot
		}
		for name, v := range props {
			if _, ok := c.Prop(name); ok {
				e.Props = append(e.Props, screen.Prop{Name: name, Value: screen.Lit(v)})
			}
		}
		screen.SortProps(e.Props)
		if text != "" && c.TakesText() {
			e.Text = screen.Lit(text)
		}
		edit := screen.Edit{Op: screen.Insert, Parent: parent.ID, Tree: e}
		if after != nil {
			edit.After = after.ID
		}
		if _, _, err := screen.Apply(d.Root, edit, l.Cat); err == nil {
			s.Edits = append(s.Edits, edit)
		}
	}
	switch s.Name {
	case "loading":
		for _, list := range lists {
			_, parent := d.Root.Find(list.ID)
			put(parent, list, []string{"spinner", "loading", "loader"}, map[string]string{"label": "Loading"}, "")
			s.Edits = append(s.Edits, screen.Edit{Op: screen.Show, ID: list.ID, Name: "false"})
		}
	case "empty":
		if slices.ContainsFunc(l.W.AllSets(), func(set sample.Set) bool { return set.ID == "empty" }) {
			s.Set = "empty"
		}
	case "error":
		first, parent := d.Root, (*screen.Element)(nil)
		if len(lists) > 0 {
			first, parent = d.Root.Find(lists[0].ID)
		} else if len(d.Root.Children) > 0 {
			first, parent = d.Root.Children[len(d.Root.Children)-1], d.Root
		}
		put(
			parent,
			first,
			[]string{"alert", "error message", "message"},
			map[string]string{"tone": "bad", "heading": "This could not be loaded"},
			"Try again in a moment.",
		)
		for _, list := range lists {
			s.Edits = append(s.Edits, screen.Edit{Op: screen.Show, ID: list.ID, Name: "false"})
		}
	case "dialog open":
		if opens == nil {
			return s, fmt.Errorf("%s holds nothing that opens; put a dialog on it first", d.Title)
		}
		s.Edits = append(
			s.Edits,
			screen.Edit{Op: screen.Set, ID: opens.ID, Prop: "open", Value: screen.FlagValue(true)},
		)
	}
	return s, nil
}

// Component finds a component of the kit by what it is called.
func (l *Live) Component(words ...string) *kit.Component {
	for _, w := range words {
		for _, c := range l.Kit.Components {
			if c.Deprecated == "" && (c.Title == w || slices.Contains(c.Aliases, w)) {
				return c
			}
		}
	}
	return nil
}

// holder is what shows the records of a repeated element: the component or layout
// around it.
func holder(cat kit.Catalog, e, parent *screen.Element) *screen.Element {
	if c, ok := cat.Component(parent.Type); ok && c.Level == kit.Layout && parent.Type != "grid" {
		return e
	}
	return parent
}
