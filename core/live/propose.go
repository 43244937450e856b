package live

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

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
	flag := ""
	d.Root.Walk(func(e, parent *screen.Element) bool {
		if e.Repeat != nil && parent != nil {
			if list := holder(l.Cat, e, parent); !slices.Contains(lists, list) {
				lists = append(lists, list)
			}
			return false
		}
		if c, ok := l.Cat.Component(e.Type); ok && opens == nil {
			if c.Opens() {
				opens, flag = e, c.OpensBy
			}
		}
		return true
	})
	put := func(parent, after *screen.Element, words []string, props map[string]string, text string) {
		c := l.Component(words...)
		if c == nil || parent == nil {
			return
		}
		e := &screen.Element{ID: screen.FreeName(ids, screen.PlainName(s.Name+"-"+c.Title)), Type: c.Tag}
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
			screen.Edit{Op: screen.Set, ID: opens.ID, Prop: flag, Value: screen.FlagValue(true)},
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
