package vue

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// usualState is what the state of a screen is called when it is none of the others.
const usualState = "ready"

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

// united is the tree of a screen with all its states in one. Elements are told by
// their ids; what is another kind in another state, or stands elsewhere, is there once
// for each. What differs is kept beside the tree.
func (w *writer) united() *screen.Element {
	d := w.doc
	if len(d.States) == 0 {
		return d.Root
	}
	versions := []version{{usualState, d.Root}}
	for _, s := range d.States {
		root, _ := screen.In(d, s.Name, w.in.Cat)
		versions = append(versions, version{s.Name, root})
	}
	w.variants = map[*screen.Element]variant{}
	w.states = make([]string, len(versions))
	for i, v := range versions {
		w.states[i] = v.state
	}
	return w.unite(versions)
}

// corresponds tells whether two stand for one element that differs in settings alone.
func corresponds(a, b *screen.Element) bool {
	return a.ID == b.ID && a.Type == b.Type && a.Slot == b.Slot && a.Name == b.Name &&
		(a.Repeat == nil) == (b.Repeat == nil) &&
		(a.Repeat == nil || *a.Repeat == *b.Repeat)
}

func (w *writer) unite(list []version) *screen.Element {
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
		c := w.unite(g)
		if len(g) < len(list) {
			alone := *c // the same may stand elsewhere in another state
			v := variant{as: w.variants[c].as}
			for _, one := range g {
				v.in = append(v.in, one.state)
			}
			c = &alone
			w.variants[c] = v
		}
		out.Children[i] = c
	}
	w.variants[&out] = variant{as: list}
	return &out
}

// stands is the condition under which an element stands in the states it stands in.
func (w *writer) stands(in []string) string {
	w.stateful = true
	var parts []string
	if slices.Contains(in, usualState) {
		for _, s := range w.states {
			if !slices.Contains(in, s) {
				parts = append(parts, "state !== "+quote(s))
			}
		}
		return strings.Join(parts, " && ")
	}
	for _, s := range in {
		parts = append(parts, "state === "+quote(s))
	}
	return strings.Join(parts, " || ")
}

// varying writes what differs by state as one expression; ok is false where it is the
// same in all.
func (w *writer) varying(e *screen.Element, code func(*screen.Element) string) (expression string, ok bool) {
	v := w.variants[e]
	if len(v.as) == 0 {
		return "", false
	}
	usual := code(v.as[0].el)
	var b strings.Builder
	for _, other := range v.as[1:] {
		if is := code(other.el); is != usual {
			fmt.Fprintf(&b, "state === %s ? %s : ", quote(other.state), is)
		}
	}
	if b.Len() == 0 {
		return "", false
	}
	w.stateful = true
	return b.String() + usual, true
}

// propsOf lists the names of all settings that an element has in any state.
func (w *writer) propsOf(e *screen.Element) []screen.Prop {
	v := w.variants[e]
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

// target is an element that others open and close.
type target struct {
	key    string
	repeat bool // one for each record
}

// aimed notes what is opened and closed in a document, and by which names the code
// knows it.
func (w *writer) aimed(root *screen.Element) {
	at := map[string]bool{}
	note := func(e *screen.Element) {
		v, _ := e.Prop(kit.Does)
		list, _ := screen.ParseActions(v.Text)
		for _, a := range list {
			if a.Points() {
				at[a.To] = true
			}
		}
	}
	root.Walk(func(e, _ *screen.Element) bool {
		note(e)
		for _, v := range w.variants[e].as {
			note(v.el)
		}
		return true
	})
	taken := map[string]bool{}
	var walk func(e *screen.Element, repeat bool)
	walk = func(e *screen.Element, repeat bool) {
		repeat = repeat || e.Repeat != nil
		if def, ok := w.in.Cat.Component(e.Type); ok && at[e.ID] && def.Opens() && w.targets[e.ID].key == "" {
			name := e.Name
			if name == "" {
				name = e.ID
			}
			key := camel(name)
			for n := 2; taken[key]; n++ {
				key = fmt.Sprint(camel(name), n)
			}
			taken[key] = true
			if w.targets == nil {
				w.targets = map[string]target{}
			}
			w.targets[e.ID] = target{key, repeat}
		}
		for _, c := range e.Children {
			walk(c, repeat)
		}
	}
	walk(root, false)
}

// isOpen is where the code keeps whether a target is open.
func (t target) isOpen() string {
	if t.repeat {
		return "opened[`" + t.key + " ${record.id}`]"
	}
	return "opened." + t.key
}

// opening writes what keeps an element open or closed as it is told.
func (w *writer) opening(e *screen.Element, def *kit.Component, usual string) []string {
	t := w.targets[e.ID]
	attrs := []string{`:open="` + attr(t.isOpen()+" ?? "+usual) + `"`}
	if def.Closes != "" {
		attrs = append(attrs, fmt.Sprintf(`@%s.self="%s = false"`, def.Closes, attr(t.isOpen())))
	}
	return attrs
}

// doing writes the listener for what an element does; empty where it does nothing.
func (w *writer) doing(e *screen.Element, def *kit.Component, inRepeat bool) string {
	of := func(e *screen.Element) []string {
		v, _ := e.Prop(kit.Does)
		list, _ := screen.ParseActions(v.Text)
		var out []string
		for _, a := range list {
			switch a.Verb {
			case screen.GoTo:
				if strings.HasPrefix(a.To, "/") {
					out = append(out, "$router.push("+quote(a.To)+")")
				}
			case screen.Open, screen.Close:
				t := w.targets[a.To]
				if w.doc == nil { // an element by itself
					t.key = camel(a.To)
				}
				if t.key != "" && (inRepeat || !t.repeat) {
					out = append(out, fmt.Sprintf("%s = %t", t.isOpen(), a.Verb == screen.Open))
				}
			case screen.Enter:
				if w.doc == nil || a.To == usualState || slices.Contains(w.states, a.To) ||
					w.doc.Kind == screen.PieceDoc {
					w.stateful = true
					out = append(out, "state = "+quote(a.To))
				}
			case screen.Submit:
				out = append(out, w.x("submit")+"($event)")
			case screen.Theme:
				out = append(out, w.x("theme")+"("+quote(a.To)+", $event)")
			}
		}
		return out
	}
	code := strings.Join(of(e), "; ")
	if varied, ok := w.varying(e, func(e *screen.Element) string { return "[" + strings.Join(of(e), ", ") + "]" }); ok {
		code = "void (" + varied + ")"
	}
	if code == "" {
		return ""
	}
	event := def.Answers
	if event != "click" {
		event += ".self" // what stands inside sends its own
	}
	return "@" + event + `="` + attr(code) + `"`
}
