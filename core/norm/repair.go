package norm

import (
	"cmp"
	"slices"
	"strings"

	"ubiquant/core/cases"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// repair is what brings a departure to what the others do, where that is certain.
func (n *Norms) repair(d *departure, s *Stray) (edits []screen.Edit, title string) {
	doc, l := n.docs[d.doc], d.leaf
	c := n.caseOf(d)
	e := doc.Uses[c.Use].Element
	def := n.def(e.Type)
	if def == nil {
		return nil, ""
	}
	usual := n.word(l.group, l.sides[0].value)
	switch l.group.Kind {
	case cases.Prop:
		if p, ok := def.Prop(s.Prop); ok {
			words := "Set it to " + usual
			if usual == "" {
				words = "Leave " + s.Prop + " out"
			}
			return []screen.Edit{screen.SetTo(p, e, usual)}, words
		}
	case cases.Required:
		if p := def.RequiredBy(); p != nil {
			return []screen.Edit{screen.SetTo(p, e, usual)}, map[string]string{"true": "Mark it as required", "false": "Do not require it"}[usual]
		}
	case cases.Words, cases.Label, cases.Style, cases.End:
		if text, ok := n.reworded(d, e, s); ok {
			return []screen.Edit{sayEdit(e, s.Prop, text)}, "Say “" + text + "”"
		}
	case cases.Format:
		field := n.book.Text(n.book.Context(c.Context)[cases.Field])
		prop, written := cases.Written(def, e, field)
		if written == "" {
			return nil, ""
		}
		expr := cases.FormatWith(written, field, usual)
		said := screen.Value{Kind: screen.Expr, Text: expr}
		if prop != "text" {
			return []screen.Edit{{Op: screen.Set, ID: e.ID, Prop: prop, Value: said}}, "Write it as " + expr
		}
		return []screen.Edit{{Op: screen.SetText, ID: e.ID, Value: said}}, "Write it as " + expr
	case cases.Control, cases.Shows:
		return n.replaced(d, e, s)
	case cases.Order, cases.Fields:
		return n.moved(d, e)
	case cases.Tone:
		if p := def.ToneBy(); p != nil {
			return []screen.Edit{screen.SetTo(p, e, usual)}, "Make it " + usual
		}
	case cases.Space:
		return n.spaced(d, e, usual)
	case cases.Slot:
		return n.slotted(d, e, usual)
	case cases.Part:
		return n.inserted(d, e, s)
	}
	return nil, ""
}

// spaced puts the class of the others in the place of an element's own.
func (n *Norms) spaced(d *departure, e *screen.Element, usual string) ([]screen.Edit, string) {
	if e.Origin == nil {
		return nil, ""
	}
	own := n.book.Text(d.value)
	classes := strings.Fields(e.Origin.Look)
	at := slices.Index(classes, own)
	if at < 0 {
		return nil, ""
	}
	classes[at] = usual
	return []screen.Edit{{Op: screen.Set, ID: e.ID, Prop: kit.ClassProp, Value: screen.Lit(strings.Join(classes, " "))}}, "Write " + usual
}

func sayEdit(e *screen.Element, prop, text string) screen.Edit {
	if prop == "text" {
		return screen.Edit{Op: screen.SetText, ID: e.ID, Value: screen.Lit(text)}
	}
	return screen.Edit{Op: screen.Set, ID: e.ID, Prop: prop, Value: screen.Lit(text)}
}

func textOf(e *screen.Element, prop string) string {
	if prop == "text" {
		return e.Text.Text
	}
	v, _ := e.Prop(prop)
	return v.Text
}

// reworded is a text as the others would say it about this thing.
func (n *Norms) reworded(d *departure, e *screen.Element, s *Stray) (string, bool) {
	l := d.leaf
	own := strings.TrimSpace(textOf(e, s.Prop))
	usual := n.book.Text(l.sides[0].value)
	switch l.group.Kind {
	case cases.Style:
		return cases.Restyle(own, usual)
	case cases.End:
		bare := strings.TrimRight(own, ".:!?…* ")
		if usual == "none" {
			return bare, bare != ""
		}
		return bare + usual, bare != ""
	}
	like, ok := n.docOf(s.Like)
	if !ok {
		return "", false
	}
	other, _ := like.Root.Find(s.Like.Element)
	if other == nil {
		return "", false
	}
	theirs := strings.TrimSpace(textOf(other, s.Prop))
	if l.group.Kind == cases.Label || !strings.Contains(usual, "{") {
		theirs = n.mostSaid(l, s.Prop)
		return theirs, theirs != ""
	}
	if usual == "{title}" {
		title := n.docs[d.doc].Title
		return title, title != ""
	}
	pattern, noun := n.reader.Pattern(n.docs[d.doc].Doc, own, e)
	theirPattern, theirNoun := n.reader.Pattern(like.Doc, theirs, other)
	if noun == "" || theirNoun == "" || !strings.Contains(pattern, cases.Open) || theirPattern != usual {
		return "", false
	}
	if r := []rune(theirNoun); strings.HasPrefix(theirs, theirNoun) == strings.HasPrefix(own, noun) || len(r) == 0 {
		return strings.Replace(theirs, theirNoun, noun, 1), true
	}
	return strings.Replace(theirs, theirNoun, strings.ToLower(noun), 1), true
}

// mostSaid is the most usual way of writing what most say.
func (n *Norms) mostSaid(l *leaf, prop string) string {
	counts, best := map[string]int{}, ""
	for i, number := range l.sides[0].docs {
		if i >= 60 { // keeps the cost flat
			break
		}
		doc := n.docs[number]
		for _, c := range doc.of(l.group.number) {
			if c.Value != l.sides[0].value || !follows(l.path, n.book.Context(c.Context)) {
				continue
			}
			t := strings.TrimSpace(textOf(doc.Uses[c.Use].Element, prop))
			counts[t]++
			if counts[t] > counts[best] || counts[t] == counts[best] && t < best {
				best = t
			}
		}
	}
	return best
}

func (n *Norms) docOf(p Place) (*doc, bool) {
	kind, id, ok := screen.ParseAddress(p.Doc)
	if !ok {
		return nil, false
	}
	d, ok := n.ix.Find(kind, id)
	if !ok {
		return nil, false
	}
	found := n.docs[d.Number]
	return found, found != nil
}

// replaced puts what the others use in the place of an element.
func (n *Norms) replaced(d *departure, e *screen.Element, s *Stray) ([]screen.Edit, string) {
	like, ok := n.docOf(s.Like)
	if !ok {
		return nil, ""
	}
	other, _ := like.Root.Find(s.Like.Element)
	if other == nil {
		return nil, ""
	}
	def := n.def(other.Type)
	if def == nil {
		return nil, ""
	}
	title := "Make it " + article(def.Title)
	if d.leaf.group.Kind == cases.Shows {
		// What stands inside another part goes into it, if that part is here.
		_, above := like.Root.Find(other.ID)
		if above != nil && above.Type == e.Type && len(e.Children) == 0 && len(above.Children) == 1 {
			tree := copyOf(other, "", n.freeIDs(d))
			tree.Text = other.Text
			field := n.book.Text(n.book.Context(n.caseOf(d).Context)[cases.Field])
			theirs := n.fieldOf(like, other.ID)
			for _, v := range n.valuesIn(tree) {
				v.Text = strings.ReplaceAll(v.Text, "record."+theirs, "record."+field)
			}
			return []screen.Edit{
				{Op: screen.SetText, ID: e.ID},
				{Op: screen.Insert, Parent: e.ID, Tree: tree},
			}, "Show it in " + article(def.Title)
		}
	}
	if other.Type == e.Type {
		// The same component, told apart by its kind.
		if p := def.KindBy(); p != nil {
			if v, ok := other.Prop(p.Name); ok {
				return []screen.Edit{screen.SetTo(p, e, v.Text)}, "Set its kind to " + v.Text
			}
		}
		return nil, ""
	}
	edits := []screen.Edit{{Op: screen.Replace, ID: e.ID, Tree: &screen.Element{Type: other.Type}}}
	for _, p := range e.Props {
		if _, ok := def.Prop(p.Name); ok && !carried(def, other, p.Name) {
			edits = append(edits, screen.Edit{Op: screen.Unset, ID: e.ID, Prop: p.Name})
		}
	}
	then := n.def(other.Type)
	for _, p := range other.Props {
		if then == nil || personal(then, p.Name) || !p.Value.Known() || p.Filled {
			continue
		}
		if v, ok := e.Prop(p.Name); ok && v == p.Value {
			continue
		}
		edits = append(edits, screen.Edit{Op: screen.Set, ID: e.ID, Prop: p.Name, Value: p.Value})
	}
	return edits, title
}

// own are settings that are an element's own and never taken over from another, whatever the library;
// what labels it, holds its value and says where it leads are as well.
var own = map[string]bool{"name": true, "value": true, "id": true, "min": true, "max": true, "options": true, "items": true}

func personal(def *kit.Component, name string) bool {
	p, ok := def.Prop(name)
	return own[name] || ok && (p == def.LabelBy() || def.Leads(p) || name == def.Holds)
}

func carried(def *kit.Component, other *screen.Element, prop string) bool {
	_, ok := other.Prop(prop)
	return ok || personal(def, prop)
}

func (n *Norms) fieldOf(d *doc, element string) string {
	for _, c := range d.cases {
		if d.Uses[c.Use].Element.ID == element {
			if f := n.book.Context(c.Context)[cases.Field]; f != 0 {
				return n.book.Text(f)
			}
		}
	}
	return ""
}

// valuesIn are the values of a tree that was copied.
func (n *Norms) valuesIn(e *screen.Element) []*screen.Value {
	out := []*screen.Value{&e.Text}
	for i := range e.Props {
		out = append(out, &e.Props[i].Value)
	}
	for _, c := range e.Children {
		out = append(out, n.valuesIn(c)...)
	}
	return out
}

// moved puts an element where the others have it: before or after the other of the two.
func (n *Norms) moved(d *departure, e *screen.Element) ([]screen.Edit, string) {
	doc := n.docs[d.doc]
	up := doc.Uses[n.caseOf(d).Use].Up
	if up < 0 {
		return nil, ""
	}
	parent := doc.Uses[up].Element
	if e.Repeat != nil {
		return nil, ""
	}
	order := n.usualOrder(d, parent, e.Slot)
	if order == nil {
		return nil, ""
	}
	// One element moved at most keeps the repair small and plain.
	have := make([]string, 0, len(order))
	for _, c := range parent.Children {
		if c.Slot == e.Slot {
			have = append(have, c.ID)
		}
	}
	for _, id := range have {
		rest := slices.DeleteFunc(slices.Clone(have), func(s string) bool { return s == id })
		want := slices.DeleteFunc(slices.Clone(order), func(s string) bool { return s == id })
		if !slices.Equal(rest, want) {
			continue
		}
		after := ""
		if at := slices.Index(order, id); at > 0 {
			after = order[at-1]
		}
		return []screen.Edit{{Op: screen.Move, ID: id, Parent: parent.ID, Slot: e.Slot, After: after}}, "Move it as on the others"
	}
	return nil, ""
}

// usualOrder is how the children of a slot would stand, were all orders as usual.
func (n *Norms) usualOrder(d *departure, parent *screen.Element, slot string) []string {
	doc := n.docs[d.doc]
	type pair struct{ a, b string }
	var swap []pair
	for _, x := range append([]*departure{d}, n.byDoc[d.doc]...) {
		if !ordered(x) || x.leaf.verdict != habit || n.certainty(x) == Lean {
			continue
		}
		c := n.caseOf(x)
		if up := doc.Uses[c.Use].Up; up < 0 || doc.Uses[up].Element != parent || doc.Uses[c.Use].Element.Slot != slot {
			continue
		}
		// The later of the two in the document is the case's own element.
		if first := n.partner(doc, x, parent, slot); first != "" {
			swap = append(swap, pair{doc.Uses[c.Use].Element.ID, first})
		}
	}
	slices.SortFunc(swap, func(x, y pair) int {
		return cmp.Or(strings.Compare(x.a, y.a), strings.Compare(x.b, y.b))
	})
	var list []string
	for _, c := range parent.Children {
		if c.Slot == slot {
			list = append(list, c.ID)
		}
	}
	for range len(list) {
		changed := false
		for _, s := range swap {
			a, b := slices.Index(list, s.a), slices.Index(list, s.b)
			if a > b && b >= 0 {
				list = slices.Delete(list, a, a+1)
				list = slices.Insert(list, b, s.a)
				changed = true
			}
		}
		if !changed {
			return list
		}
	}
	return nil
}

// partner is the sibling that comes before a case's element, and should come after it.
func (n *Norms) partner(doc *doc, x *departure, parent *screen.Element, slot string) string {
	c := n.caseOf(x)
	own := n.reader.SiblingKey(doc.Doc, c.Use)
	other := x.leaf.group.A
	if own == other {
		other = x.leaf.group.B
	}
	for i := range doc.Uses {
		u := &doc.Uses[i]
		if u.Up >= 0 && doc.Uses[u.Up].Element == parent && u.Element.Slot == slot &&
			n.reader.SiblingKey(doc.Doc, int32(i)) == other {
			return u.Element.ID
		}
	}
	return ""
}

// slotted moves an element to the end of another slot of the component that holds it.
func (n *Norms) slotted(d *departure, e *screen.Element, slot string) ([]screen.Edit, string) {
	doc := n.docs[d.doc]
	up := doc.Uses[n.caseOf(d).Use].Up
	for up >= 0 {
		if def := n.def(doc.Uses[up].Element.Type); def != nil && def.Level != kit.Layout {
			break
		}
		up = doc.Uses[up].Up
	}
	if up < 0 {
		return nil, ""
	}
	holder, after := doc.Uses[up].Element, ""
	for _, c := range holder.Children {
		if c.Slot == slot && c != e {
			after = c.ID
		}
	}
	where := "the " + slot
	if slot == "" {
		where = "the contents"
	}
	return []screen.Edit{{Op: screen.Move, ID: e.ID, Parent: holder.ID, Slot: slot, After: after}}, "Move it to " + where
}

// inserted puts in a part that is missing, as the most similar screen has it.
func (n *Norms) inserted(d *departure, e *screen.Element, s *Stray) ([]screen.Edit, string) {
	part := d.leaf.group.part
	rest, ok := strings.CutPrefix(part, "+")
	like, found := n.docOf(s.Like)
	if !ok || !found {
		return nil, ""
	}
	slot, rest, _ := strings.Cut(rest, ":")
	typ, key, named := strings.Cut(rest, ":")
	holder, _ := like.Root.Find(s.Like.Element)
	if holder == nil {
		return nil, ""
	}
	var model, above *screen.Element
	holder.Walk(func(el, parent *screen.Element) bool {
		if model != nil {
			return false
		}
		if el != holder && el.Type == typ && (parent != holder || slot == "" || el.Slot == slot) {
			if !named || n.keyOf(like, el) == key {
				model, above = el, parent
				return false
			}
		}
		return true
	})
	if model == nil || above != holder {
		return nil, ""
	}
	own := n.docs[d.doc]
	tree := copyOf(model, model.Slot, n.freeIDs(d))
	if holder.Text.Kind == screen.None && model.Text.Kind == screen.Expr && e.Text.Kind == screen.Expr {
		tree.Text = e.Text
	}
	if !n.reader.Adapt(like.Doc, own.Doc, tree) {
		return nil, ""
	}
	if holder.Text.Kind == screen.None && model.Text.Kind == screen.Expr && e.Text.Kind == screen.Expr {
		// What it shows goes into the part.
		return []screen.Edit{{Op: screen.SetText, ID: e.ID}, {Op: screen.Insert, Parent: e.ID, Tree: tree}}, "Show it in " + n.part(part)
	}
	after := ""
	for _, c := range holder.Children {
		if c == model {
			break
		}
		if c.Slot != model.Slot {
			continue
		}
		for _, o := range e.Children {
			if o.Slot == c.Slot && o.Type == c.Type {
				after = o.ID
			}
		}
	}
	if after == "" && len(e.Children) > 0 && model == holder.Children[len(holder.Children)-1] {
		for _, o := range e.Children {
			if o.Slot == model.Slot {
				after = o.ID
			}
		}
	}
	return []screen.Edit{{Op: screen.Insert, Parent: e.ID, After: after, Tree: tree}}, "Put in " + n.part(part)
}

func (n *Norms) keyOf(d *doc, e *screen.Element) string {
	for i := range d.Uses {
		if d.Uses[i].Element == e {
			return n.book.Text(n.reader.SiblingKey(d.Doc, int32(i)))
		}
	}
	return ""
}

// freeIDs gives ids that a document does not have.
func (n *Norms) freeIDs(d *departure) func() string {
	taken := map[string]bool{}
	own := n.docs[d.doc]
	for i := range own.Uses {
		taken[own.Uses[i].Element.ID] = true
	}
	return func() string {
		id := screen.FreeName(taken, own.ID+"-part")
		taken[id] = true
		return id
	}
}

func copyOf(e *screen.Element, slot string, id func() string) *screen.Element {
	c := *e
	c.ID, c.Slot, c.Origin, c.Offset, c.Name = id(), slot, nil, 0, ""
	c.Props = slices.Clone(e.Props)
	c.Children = nil
	for _, k := range e.Children {
		c.Children = append(c.Children, copyOf(k, k.Slot, id))
	}
	return &c
}
