package carry

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Lost is something on an element that has no counterpart. It stays written there.
type Lost struct {
	Doc     string `json:"doc"`
	Element string `json:"element"`
	What    string `json:"what"` // component, prop, value, slot, words
	Name    string `json:"name"`
	Words   string `json:"words"`
	// Repairs are what could stand in its place: components, props or values.
	Repairs []string `json:"repairs,omitempty"`
}

// Result is a workspace's documents on another kit.
type Result struct {
	Docs []model.Carried `json:"-"` // those that differ
	Lost []Lost          `json:"lost"`
	// Settings counts every setting and every word that screens hold: as it was, under
	// another name, and without a counterpart. Together they are all there are.
	Elements int `json:"elements"`
	Same     int `json:"same"`
	Renamed  int `json:"renamed"`
	Without  int `json:"without"`
	Touched  int `json:"touched"` // elements that differ
}

// Over carries all documents of a workspace to a kit by a mapping.
func Over(w *model.Workspace, from, to *kit.Kit, m *Mapping) Result {
	c := &carrier{from: from, to: to, m: m}
	c.out.Lost = []Lost{}
	for _, d := range w.Docs {
		if d.Removed {
			continue
		}
		c.doc, c.changed = d.Address(), false
		root := c.element(d.Root)
		types := map[string]string{}
		d.Root.Walk(func(e, _ *screen.Element) bool { types[e.ID] = e.Type; return true })
		states := make([]screen.State, len(d.States))
		for i, s := range d.States {
			states[i] = c.state(s, types)
		}
		if c.changed {
			c.out.Docs = append(c.out.Docs, model.Carried{Doc: d.Address(), Root: root, States: states})
		}
	}
	return c.out
}

type carrier struct {
	from, to *kit.Kit
	m        *Mapping
	doc      string
	changed  bool
	out      Result
}

func (c *carrier) lose(e, what, name, words string, repairs []string) {
	if what != "component" && what != "slot" {
		c.out.Without++
	}
	c.out.Lost = append(c.out.Lost, Lost{c.doc, e, what, name, words, repairs})
}

// element carries an element with all below it.
func (c *carrier) element(e *screen.Element) *screen.Element {
	c.out.Elements++
	out := *e
	before := c.out.Renamed + len(c.out.Lost)
	def, ok := c.from.Component(e.Type)
	switch {
	case strings.HasPrefix(e.Type, screen.PiecePrefix) || !ok:
		c.out.Same += len(e.Props) + said(e)
	case def.Level == kit.Layout:
		out.Props = c.layout(e, def)
		c.out.Same += said(e)
	default:
		c.component(e, &out, def)
	}
	if before != c.out.Renamed+len(c.out.Lost) || out.Type != e.Type {
		c.out.Touched++
		c.changed = true
	}
	label := c.label(e, def)
	if len(e.Children) > 0 {
		out.Children = make([]*screen.Element, len(e.Children))
		pair, _ := c.m.Find(e.Type)
		for i, child := range e.Children {
			next := c.element(child)
			if label != nil {
				next = c.labelled(e, &out, child, next, label)
			}
			if pair != nil && pair.To != "" {
				next = c.slotted(pair, next)
			}
			out.Children[i] = next
		}
	}
	return &out
}

// label is what a wrapper says of the control in it, where the wrapper has no counterpart.
func (c *carrier) label(e *screen.Element, def *kit.Component) *screen.Prop {
	pair, ok := c.m.Find(e.Type)
	if def == nil || !ok || pair.To != "" && !pair.Stand() {
		return nil
	}
	for i := range e.Props {
		if e.Props[i].Name == "label" {
			return &e.Props[i]
		}
	}
	return nil
}

// labelled gives a control the label of the wrapper that it stood in, where it takes one
// and has none.
func (c *carrier) labelled(e, wrapper, was, is *screen.Element, label *screen.Prop) *screen.Element {
	def, ok := c.from.Component(was.Type)
	to, found := c.to.Component(is.Type)
	if !ok || !found || def.LabelledBy != e.Type || to.NameProp == "" {
		return is
	}
	if _, set := is.Prop(to.NameProp); set {
		return is
	}
	i := slices.IndexFunc(wrapper.Props, func(p screen.Prop) bool { return p.Name == label.Name })
	if i < 0 {
		return is // another control took it
	}
	out := *is
	out.Props = append(slices.Clone(is.Props), screen.Prop{Name: to.NameProp, Value: label.Value})
	screen.SortProps(out.Props)
	wrapper.Props = slices.Delete(slices.Clone(wrapper.Props), i, i+1)
	// It was counted as lost a moment ago.
	j := slices.IndexFunc(c.out.Lost, func(l Lost) bool {
		return l.Doc == c.doc && l.Element == e.ID && l.What == "prop" && l.Name == label.Name
	})
	if j >= 0 {
		c.out.Lost = slices.Delete(c.out.Lost, j, j+1)
		c.out.Without--
		c.out.Renamed++
	}
	return &out
}

func said(e *screen.Element) int {
	if e.Text.Kind == screen.None {
		return 0
	}
	return 1
}

// slotted puts a child into the slot that corresponds to its own.
func (c *carrier) slotted(pair *Component, child *screen.Element) *screen.Element {
	i := slices.IndexFunc(pair.Slots, func(s Slot) bool { return s.From == child.Slot })
	if i < 0 || pair.Slots[i].To == child.Slot && !pair.Slots[i].Lost {
		return child
	}
	out := *child
	if pair.Slots[i].Lost {
		c.lose(child.ID, "slot", child.Slot, fmt.Sprintf("%s has no place for what stands in %s", pair.To, slotName(child.Slot)), nil)
		c.changed = true
		return child
	}
	out.Slot = pair.Slots[i].To
	c.changed = true
	return &out
}

func slotName(s string) string {
	if s == "" {
		return "the main slot"
	}
	return "the slot " + s
}

func (c *carrier) component(e, out *screen.Element, def *kit.Component) {
	pair, ok := c.m.Find(e.Type)
	if !ok || pair.To == "" {
		if is, same := own(c.to, e.Type); !ok && same && is != nil {
			c.out.Same += len(e.Props) + said(e)
			return
		}
		var others []string
		if ok {
			others = pair.Others
		}
		c.lose(e.ID, "component", e.Type, fmt.Sprintf("%s has nothing in place of the %s", c.to.Title, def.Title), others)
		c.out.Same += len(e.Props) + said(e)
		return
	}
	is, _ := c.to.Component(pair.To)
	out.Type = pair.To
	if pair.Stand() {
		c.lose(e.ID, "component", e.Type, fmt.Sprintf("%s has nothing in place of the %s; a layout holds what stood in it", c.to.Title, def.Title), pair.Others)
	}
	props := make([]screen.Prop, 0, len(e.Props))
	put := func(p screen.Prop) {
		if !slices.ContainsFunc(props, func(q screen.Prop) bool { return q.Name == p.Name }) {
			props = append(props, p)
		}
	}
	for _, p := range e.Props {
		if _, known := def.Prop(p.Name); !known && p.Name != kit.Does {
			put(p) // it was wrong before, and stays a finding
			c.out.Same++
			continue
		}
		c.prop(e, out, def, pair, is, p, put)
	}
	if said(e) == 1 {
		switch {
		case pair.Text != "":
			put(screen.Prop{Name: pair.Text, Value: e.Text})
			out.Text = screen.Value{}
			c.out.Renamed++
		case !is.TakesText():
			c.lose(e.ID, "words", e.Text.Text, fmt.Sprintf("the %s has no place for words", is.Title), nil)
		default:
			c.out.Same++
		}
	}
	screen.SortProps(props)
	out.Props = props
}

// prop carries one setting. One without a counterpart stays as it is written.
func (c *carrier) prop(e, out *screen.Element, def *kit.Component, pair *Component, is *kit.Component, p screen.Prop, put func(screen.Prop)) {
	if p.Name == kit.Does { // what happens at a press is no setting of the library's
		put(p)
		c.out.Same++
		return
	}
	i := slices.IndexFunc(pair.Props, func(q Prop) bool { return q.From == p.Name })
	switch {
	case pair.Words == p.Name && out.Text.Kind == screen.None:
		out.Text = p.Value
		c.out.Renamed++
		return
	case i < 0 || pair.Props[i].To == "":
		if _, same := is.Prop(p.Name); same && i < 0 {
			put(p)
			c.out.Same++
			return
		}
		put(p)
		repairs := []string{}
		if pair.Stand() {
			c.lose(e.ID, "prop", p.Name, fmt.Sprintf("%s said %s, and what stands in its place has no such setting", p.Name, p.Value.Fixed()), nil)
			return
		}
		for _, q := range is.Props {
			if len(repairs) < 4 && q.Type == kit.Enum && !slices.ContainsFunc(pair.Props, func(o Prop) bool { return o.To == q.Name }) {
				repairs = append(repairs, q.Name)
			}
		}
		c.lose(e.ID, "prop", p.Name, fmt.Sprintf("the %s has no %s; it said %s", is.Title, p.Name, p.Value.Fixed()), repairs)
		return
	}
	to := pair.Props[i]
	next := p
	next.Name = to.To
	q, _ := is.Prop(to.To)
	if q == nil {
		put(p)
		c.lose(e.ID, "prop", p.Name, fmt.Sprintf("the %s has no %s; it said %s", is.Title, to.To, p.Value.Fixed()), nil)
		return
	}
	if p.Value.Kind != screen.Expr && p.Value.Kind != screen.Token {
		value := p.Value.Text
		if v, ok := to.Values[value]; ok {
			value = v
		}
		if was, _ := def.Prop(p.Name); q.JSON && was != nil && !was.JSON {
			list, ok := listed(q, value)
			if !ok {
				put(p)
				c.lose(e.ID, "value", p.Name, fmt.Sprintf("%s of the %s takes %s; it said %s", to.To, is.Title, q.Shape, value), nil)
				return
			}
			value = list
		}
		if q.Type == kit.Enum && !q.Takes(value) {
			put(next)
			if was, ok := def.Prop(p.Name); ok && was.Type == kit.Enum && !was.Takes(p.Value.Text) {
				c.out.Same++ // it was wrong before
				return
			}
			c.lose(e.ID, "value", to.To+" "+value, fmt.Sprintf("%s of the %s has no %s", to.To, is.Title, value), q.Values)
			return
		}
		next.Value = typed(q, p.Value, value)
	} else if p.Value.Kind == screen.Token {
		next.Value = c.token(p.Value)
	}
	if next.Name == p.Name && next.Value == p.Value {
		c.out.Same++
	} else {
		c.out.Renamed++
	}
	put(next)
}

// typed is a value in the kind that its prop takes.
func typed(q *kit.Prop, was screen.Value, value string) screen.Value {
	switch {
	case q.Type == kit.Bool:
		return screen.FlagValue(value == "true")
	case q.Type == kit.Number && was.Kind == screen.Num:
		return screen.Value{Kind: screen.Num, Text: value}
	case was.Kind == screen.Num && value == was.Text:
		return was
	}
	return screen.Lit(value)
}

// token finds a token of the other kit for one of this: by its path, else the one of its
// type whose value is nearest.
func (c *carrier) token(v screen.Value) screen.Value {
	if _, ok := c.to.Tokens.Find(v.Text); ok {
		return v
	}
	if step, ok := strings.CutPrefix(v.Text, "space."); ok {
		if near := c.step(step); near != "" {
			return screen.Value{Kind: screen.Token, Text: "space." + near}
		}
	}
	return v
}

// layout carries the settings of a layout: steps of room become the nearest of the other
// kit's.
func (c *carrier) layout(e *screen.Element, def *kit.Component) []screen.Prop {
	out := slices.Clone(e.Props)
	for i, p := range out {
		q, ok := def.Prop(p.Name)
		if !ok || q.Tokens != "space" || p.Value.Kind == screen.Expr {
			c.out.Same++
			continue
		}
		near := p.Value.Text
		if !slices.Contains(q.Values, near) {
			near = c.step(p.Value.Text)
		}
		switch near {
		case p.Value.Text:
			c.out.Same++
		case "":
			c.lose(e.ID, "value", p.Name+" "+p.Value.Text, fmt.Sprintf("%s has no steps of room", c.to.Title), nil)
		default:
			out[i].Value.Text = near
			c.out.Renamed++
		}
	}
	return out
}

// step is the step of the other kit that gives the most similar room.
func (c *carrier) step(name string) string {
	was, ok := c.from.Tokens.Find("space." + name)
	if !ok {
		if _, same := c.to.Tokens.Find("space." + name); same {
			return name
		}
		return ""
	}
	return c.to.Tokens.NearestStep("space", kit.Pixels(was.Values[c.from.Tokens.Themes[0]]), name)
}

// state carries the differences of a state. types are those of the elements as the
// differences find them.
func (c *carrier) state(s screen.State, types map[string]string) screen.State {
	out := s
	out.Edits = slices.Clone(s.Edits)
	for i, e := range out.Edits {
		if e.Tree != nil {
			e.Tree.Walk(func(x, _ *screen.Element) bool { types[x.ID] = x.Type; return true })
			out.Edits[i].Tree = c.element(e.Tree)
		}
		if e.Op != screen.Set && e.Op != screen.Unset {
			continue
		}
		pair, ok := c.m.Find(types[e.ID])
		if !ok || pair.To == "" {
			continue
		}
		j := slices.IndexFunc(pair.Props, func(p Prop) bool { return p.From == e.Prop })
		if j < 0 || pair.Props[j].To == "" || pair.Props[j].To == "(its words)" {
			continue
		}
		to := pair.Props[j]
		if to.To != e.Prop {
			out.Edits[i].Prop = to.To
			c.changed = true
		}
		if v, ok := to.Values[e.Value.Text]; ok {
			out.Edits[i].Value = screen.Lit(v)
			c.changed = true
		}
	}
	return out
}
