// Package byhand reads delivered code that was edited by hand as edits of the screens that it was
// made of. A document's code is there three times: as it was delivered, as it stands in the
// repository, and as it is made of the document now. What has changed between the first two is
// looked for in the last, which knows the element that each part is the code of. What cannot be
// said of an element is listed with its line; what can is held against the code that is made of
// it afterwards, so that nothing is taken that would come out in another way.
package byhand

import (
	"bytes"
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
	"ubiquant/core/source"
)

// Text is the code of a document with the markup that was read of it.
type Text struct {
	Data   []byte
	Module *source.Module
}

// File is the code of one document.
type File struct {
	Path              string
	Doc               *screen.Document
	Base, Theirs, Now Text
	Places            map[string]emit.Place // of the document's elements in Now, by their ids
}

// Kit is what screens are made of.
type Kit struct {
	*kit.Kit
	Cat    kit.Catalog
	Pieces map[string]string // ids by the names of their components, as Named writes them
}

// Named is a name of a component as it is however a framework writes it.
func Named(name string) string { return strings.ToLower(strings.ReplaceAll(name, "-", "")) }

// Taken is an edit of the code that is one of the document, too.
type Taken struct {
	Doc     string        `json:"doc"` // address
	Element string        `json:"element"`
	Path    string        `json:"path"`
	Line    int           `json:"line"` // in the code as it stands
	Says    string        `json:"says"`
	Edits   []screen.Edit `json:"-"`
}

// Left is an edit of the code that stays in the code alone.
type Left struct {
	Doc  string `json:"doc"`
	Path string `json:"path"`
	Line int    `json:"line"`
	What string `json:"what"`
	Why  string `json:"why"`
}

// Read is what was read of files that were edited by hand.
type Read struct {
	Taken []Taken
	Left  []Left
	// Settled are files of which everything is in their documents already.
	Settled []string
}

// Again makes the code of documents with edits taken into them, by their addresses. A file may get
// another path, as that of a piece with one more user; a document may have no code any more.
type Again func(edits map[string][]screen.Edit) (map[string]File, error)

// Take reads files that were edited by hand. The edits hold one after the other on the documents
// as they are.
func Take(files []File, k Kit, again Again) (*Read, error) {
	known := map[string]tried{}
	for _, f := range files {
		known[f.Path] = tried{map[string]string{}, map[string]bool{}}
	}
	var all []*reader
	made := map[string]File{}
	unsure := map[*reader]bool{}
	for range rounds {
		all, made, unsure = nil, map[string]File{}, map[*reader]bool{}
		edits := map[string][]screen.Edit{}
		for _, f := range files {
			r := read(f, k, known[f.Path])
			all = append(all, r)
			made[f.Doc.Address()] = f
			if len(r.taken) > 0 {
				edits[f.Doc.Address()] = r.edits()
			}
		}
		if len(edits) > 0 {
			var err error
			if made, err = again(edits); err != nil {
				return nil, err
			}
		}
		for _, r := range all {
			after, ok := made[r.f.Doc.Address()]
			if !ok {
				continue
			}
			for place, why := range r.check(after) {
				switch {
				case r.waits[place]:
					r.guess[place] = true
				case r.not[place] == "":
					r.not[place] = why
				default:
					continue
				}
				unsure[r] = true
			}
		}
		if len(unsure) == 0 {
			break
		}
	}
	out := &Read{}
	for _, r := range all {
		if unsure[r] { // nothing is taken that was not seen to come out as it stands
			for _, t := range r.taken {
				r.left = append(r.left, Left{t.Doc, t.Path, t.Line, t.Says, "what would be made of it could not be made out"})
			}
			r.taken = nil
		}
		r.unread(made[r.f.Doc.Address()].Now.Data)
		out.Taken, out.Left = append(out.Taken, r.taken...), append(out.Left, r.left...)
		if len(r.taken)+len(r.left) == 0 {
			out.Settled = append(out.Settled, r.f.Path)
		}
	}
	slices.SortStableFunc(out.Left, func(a, b Left) int {
		if a.Path != b.Path {
			return strings.Compare(a.Path, b.Path)
		}
		return a.Line - b.Line
	})
	return out, nil
}

// rounds bounds how often code is made again: what does not come out is left, or tried as computed,
// and the rest is looked at anew.
const rounds = 8

// edits are all that were taken.
func (r *reader) edits() (list []screen.Edit) {
	for _, t := range r.taken {
		list = append(list, t.Edits...)
	}
	return list
}

// tried is what was found out of a file so far, by place.
type tried struct {
	not map[string]string // what is not to be taken, and why
	// guess is what is computed in code and does not come out by itself: much of it follows from
	// something else, as the fault of a field from its name.
	guess map[string]bool
}

// reader reads one file.
type reader struct {
	f File
	k Kit
	tried
	waits      map[string]bool // what is computed, until it is seen whether it follows
	ours, hand *matching       // what became of now in base, of base in theirs
	theirs     *node
	root       *screen.Element // with what was taken so far
	inStates   map[string]bool // elements that stand in a state alone
	ids        map[string]bool
	taken      []Taken
	left       []Left
	told       map[string]bool // places that are listed
	lines      map[int]bool    // on which something is listed
}

func read(f File, k Kit, t tried) *reader {
	r := &reader{
		f: f, k: k, tried: t, root: f.Doc.Root, waits: map[string]bool{}, inStates: map[string]bool{},
		ids: map[string]bool{}, told: map[string]bool{}, lines: map[int]bool{},
	}
	now, base := treeOf(f.Now), treeOf(f.Base)
	r.theirs = treeOf(f.Theirs)
	r.ours, r.hand = match(now, base), match(base, r.theirs)
	both := match(now, r.theirs)
	at := map[int]string{}
	for id, p := range f.Places {
		at[p.At] = id
	}
	f.Doc.Root.Walk(func(e, _ *screen.Element) bool { r.ids[e.ID] = true; return true })
	now.walk(func(n *node) {
		if n.Kind == element {
			n.id = at[n.Span[0]]
			if n.id != "" && !r.ids[n.id] {
				r.inStates[n.id] = true
				r.ids[n.id] = true
			}
		}
	})
	base.walk(func(b *node) {
		if n := r.ours.from[b]; n != nil {
			b.id = n.id
		}
		if t := r.hand.to[b]; t != nil {
			t.id = b.id
		}
	})
	// What was made on both sides alike is there already.
	r.theirs.walk(func(t *node) {
		if n := both.from[t]; n != nil && r.hand.from[t] == nil && r.ours.to[n] == nil && n.id != "" {
			t.id = n.id
			r.hand.from[t], r.ours.from[n] = n, n
		}
	})
	r.kids(r.theirs, &cursor{last: map[string]string{}}, "")
	r.gone(base, false)
	r.beside()
	return r
}

// cursor is where one stands among the children of an element.
type cursor struct {
	parent string
	last   map[string]string // the child that was met last, by slot
}

func (r *reader) line(n *node) int { return 1 + bytes.Count(r.f.Theirs.Data[:n.Span[0]], []byte("\n")) }

// place names what is said at a node of theirs.
func place(n *node, what string) string { return fmt.Sprintf("%d %s", n.Span[0], what) }

// refused tells whether something is not to be taken; it is listed then.
func (r *reader) refused(n *node, what string) bool {
	why, ok := r.not[place(n, what)]
	if ok {
		r.leave(n, what, why)
	}
	return ok
}

func (r *reader) leave(n *node, what, why string) {
	if r.told[place(n, what)] {
		return
	}
	r.told[place(n, what)] = true
	over := n.Span
	if n.Tag != nil && what != "element" {
		over = *n.Tag
	}
	for line := range 1 + bytes.Count(r.f.Theirs.Data[over[0]:over[1]], []byte("\n")) {
		r.lines[r.line(n)+line] = true
	}
	r.left = append(r.left, Left{r.f.Doc.Address(), r.f.Path, r.line(n), tag(n) + what, why})
}

func tag(n *node) string {
	if n.Kind != element {
		return ""
	}
	return "<" + n.Name + "> "
}

// computed tells whether a value is computed and may follow from something else still.
func (r *reader) computed(n *node, what string, v *source.Value) bool {
	if v.Literal() || r.guess[place(n, what)] {
		return false
	}
	r.waits[place(n, what)] = true
	return true
}

// edit takes an edit where the document takes it.
func (r *reader) edit(n *node, id, what, says string, e screen.Edit) bool {
	if r.refused(n, what) {
		return false
	}
	if r.inStates[id] {
		r.leave(n, what, "it stands in a state of the screen alone; edit it there")
		return false
	}
	next, _, err := screen.Apply(r.root, e, r.k.Cat)
	if err != nil {
		r.leave(n, what, reason(err))
		return false
	}
	r.root = next
	r.taken = append(r.taken, Taken{r.f.Doc.Address(), id, r.f.Path, r.line(n), says, []screen.Edit{e}})
	return true
}

func reason(err error) string {
	if refusal, ok := err.(*screen.Refusal); ok {
		return refusal.Reason
	}
	return err.Error()
}

// kids reads what stands in a node. slot is that which a part of the markup around is for.
func (r *reader) kids(n *node, c *cursor, slot string) {
	for _, t := range n.kids {
		switch {
		case t.says():
		case t.Kind != element:
			in := slot
			if s := t.Slot + t.Under; s != "" {
				in = s
			}
			r.kids(t, c, in)
		case r.hand.from[t] == nil:
			r.fresh(t, c, slot)
		case t.id == "":
			r.frame(t)
			r.kids(t, c, slot)
		default:
			r.known(t, c, slot)
		}
	}
}

// frame looks at markup that is the code of no element.
func (r *reader) frame(t *node) {
	b := r.hand.from[t]
	why := "it is no part of what the screen is made of"
	if r.ours.from[b] == nil {
		why = "the screen does not have it any more"
	}
	r.differs(t, b, why)
}

// names are those of the attributes of either.
func names(list ...*node) []string {
	out := map[string]bool{}
	for _, n := range list {
		for i := range n.Attributes {
			out[n.Attributes[i].Name] = true
		}
	}
	return slices.Sorted(maps.Keys(out))
}

// said is an attribute with its value; empty where it is not set.
func said(n *node, name string) string {
	if n == nil {
		return ""
	}
	if a := n.attr(name); a != nil {
		return n.attribute(a)
	}
	return ""
}

// known looks at the code of an element that is there still.
func (r *reader) known(t *node, c *cursor, slot string) {
	b := r.hand.from[t]
	n := r.ours.from[b]
	at := r.slot(t, slot)
	was, _ := r.f.Doc.Root.Find(t.id)
	from := slotAround(b)
	if r.hand.moved[t] || r.slot(b, from) != at {
		_, now := r.root.Find(t.id)
		if now == nil || c.parent == "" {
			r.leave(t, "place", "there is no element of the screen that it stands in")
		} else {
			to := at
			if was != nil && r.slot(b, from) == at {
				to = was.Slot
			}
			r.edit(t, t.id, "place", "moved "+r.title(t.id), screen.Edit{
				Op: screen.Move, ID: t.id, Parent: c.parent, Slot: to, After: r.after(c, to),
			})
		}
	}
	if e, _ := r.root.Find(t.id); e != nil {
		c.last[e.Slot] = t.id
		r.settings(t, b, n, e)
	} else if r.inStates[t.id] {
		r.differs(t, b, "it stands in a state of the screen alone; edit it there")
	}
	r.kids(t, &cursor{t.id, map[string]string{}}, "")
}

// differs lists what has changed on markup that no edit reaches, and why none does.
func (r *reader) differs(t, b *node, why string) {
	for _, name := range names(b, t) {
		if said(b, name) != said(t, name) {
			r.leave(t, name, why)
		}
	}
	if !slices.Equal(b.words, t.words) {
		r.leave(t, "text", why)
	}
	if squeeze(b.Show) != squeeze(t.Show) {
		r.leave(t, "condition", why)
	}
	if squeeze(b.Repeat) != squeeze(t.Repeat) {
		r.leave(t, "list", why)
	}
	if t.Spread && !b.Spread {
		r.leave(t, "what is handed on", why)
	}
}

func (r *reader) title(id string) string {
	e, _ := r.root.Find(id)
	if e == nil {
		return id
	}
	name := e.Type
	if def, ok := r.k.Cat.Component(e.Type); ok {
		name = def.Title
	}
	if e.Text.Known() && e.Text.Text != "" {
		return fmt.Sprintf("%s “%s”", name, e.Text.Text)
	}
	return name
}

// after is the sibling in a slot that was met last, where it is there.
func (r *reader) after(c *cursor, slot string) string {
	id := c.last[slot]
	if _, parent := r.root.Find(id); parent == nil || parent.ID != c.parent {
		return ""
	}
	return id
}

// slot is that of its parent which a node stands in.
func (r *reader) slot(n *node, around string) string {
	if a := n.attr("slot"); a != nil && a.Kind == text {
		return a.Value.Value
	}
	if n.Slot != "" {
		return n.Slot
	}
	return around
}

// slotAround is the slot that the markup around a node is for.
func slotAround(n *node) string {
	for up := n.up; up != nil && up.Kind != element; up = up.up {
		if s := up.Slot + up.Under; s != "" {
			return s
		}
	}
	return ""
}

// settings reads what has changed on an element.
func (r *reader) settings(t, b, n *node, e *screen.Element) {
	def, _ := r.k.Cat.Component(e.Type)
	for _, name := range names(b, t) {
		old, is, ours := said(b, name), said(t, name), said(n, name)
		switch {
		case old == is || name == "slot", ours == is:
			continue
		case ours != old:
			r.leave(t, name, "the screen has changed there, too")
		case def == nil:
			r.leave(t, name, "the kit has no "+e.Type)
		case isClass(name) && def.Level == kit.Layout && !def.Plain:
			r.classes(t, b, e, def)
		default:
			r.setting(t, e, def, name)
		}
	}
	if !slices.Equal(b.words, t.words) && !slices.Equal(n.words, t.words) {
		if !slices.Equal(b.words, n.words) {
			r.leave(t, "text", "the screen has changed there, too")
		} else if v, says, ok := r.says(t); !ok {
			r.leave(t, "text", "it is computed in a way that the screen cannot say")
		} else {
			r.edit(t, e.ID, "text", "text "+says, screen.Edit{Op: screen.SetText, ID: e.ID, Value: v})
		}
	}
	if old, is := squeeze(b.Show), squeeze(t.Show); old != is && squeeze(n.Show) != is {
		condition, ok := expression(t.Show)
		switch {
		case squeeze(n.Show) != old:
			r.leave(t, "condition", "the screen has changed there, too")
		case t.Show != "" && !ok:
			r.leave(t, "condition", "it is computed in a way that the screen cannot say")
		default:
			r.edit(t, e.ID, "condition", "shown if "+t.Show, screen.Edit{Op: screen.Show, ID: e.ID, Name: condition})
		}
	}
	if squeeze(b.Repeat) != squeeze(t.Repeat) && squeeze(n.Repeat) != squeeze(t.Repeat) {
		r.leave(t, "list", "what it repeats is chosen in the screen")
	}
	if t.Spread && !b.Spread {
		r.leave(t, "what is handed on", "a screen sets each thing by its name")
	}
}

func (r *reader) setting(t *node, e *screen.Element, def *kit.Component, name string) {
	a := t.attr(name)
	p, why := prop(def, name)
	switch {
	case p == nil:
		r.leave(t, name, why)
	case a == nil:
		r.edit(t, e.ID, name, p.Name+" taken away", screen.Edit{Op: screen.Unset, ID: e.ID, Prop: p.Name})
	default:
		if r.computed(t, name, &a.Value) {
			return
		}
		v, why := valueOf(&a.Value, t.code(a), p)
		if why != "" {
			r.leave(t, name, why)
			return
		}
		r.edit(t, e.ID, name, p.Name+" "+shown(v), screen.Edit{Op: screen.Set, ID: e.ID, Prop: p.Name, Value: v})
	}
}

func shown(v screen.Value) string {
	switch v.Kind {
	case screen.Expr:
		return "= " + v.Text
	case screen.Flag:
		if v.Text == "true" {
			return "yes"
		}
		return "no"
	case screen.None:
		return "taken away"
	}
	return "“" + v.Text + "”"
}

// classes reads the settings of a layout, which its classes say.
func (r *reader) classes(t, b *node, e *screen.Element, def *kit.Component) {
	is, strange := layout(t, def)
	was, _ := layout(b, def)
	for _, name := range strange {
		if !slices.Contains(classList(b), name) {
			r.leave(t, "class "+name, "it is no setting of "+def.Title+"; own styles stand in the file for them")
		}
	}
	if list := classList(t); !slices.Contains(list, "u-"+def.Tag) {
		r.leave(t, "class u-"+def.Tag, "it makes what the screen has as "+def.Title)
		return
	}
	for _, name := range slices.Sorted(maps.Keys(was)) {
		if _, ok := is[name]; !ok {
			r.edit(t, e.ID, "class", name+" taken away", screen.Edit{Op: screen.Unset, ID: e.ID, Prop: name})
		}
	}
	for _, name := range slices.Sorted(maps.Keys(is)) {
		if was[name] != is[name] {
			r.edit(t, e.ID, "class", name+" "+shown(is[name]), screen.Edit{Op: screen.Set, ID: e.ID, Prop: name, Value: is[name]})
		}
	}
}

// fresh makes an element of markup that was written by hand.
func (r *reader) fresh(t *node, c *cursor, slot string) {
	if r.refused(t, "element") {
		return
	}
	typ := r.typeOf(t)
	def, ok := r.k.Cat.Component(typ)
	switch {
	case typ == "" || !ok:
		r.leave(t, "element", "the kit has no such component, and no piece is called so")
		return
	case c.parent == "":
		r.leave(t, "element", "there is no element of the screen that it stands in")
		return
	case t.Repeat != "":
		r.leave(t, "element", "what it repeats is chosen in the screen")
		return
	}
	e := &screen.Element{ID: r.free(def.Title), Type: typ, Slot: r.slotOf(c.parent, r.slot(t, slot))}
	if def.Level == kit.Layout && !def.Plain {
		set, strange := layout(t, def)
		for _, name := range slices.Sorted(maps.Keys(set)) {
			e.Props = append(e.Props, screen.Prop{Name: name, Value: set[name]})
		}
		for _, name := range strange {
			r.leave(t, "class "+name, "it is no setting of "+def.Title+"; own styles stand in the file for them")
		}
	}
	for i := range t.Attributes {
		r.given(t, &t.Attributes[i], e, def)
	}
	if t.Spread {
		r.leave(t, "what is handed on", "a screen sets each thing by its name")
	}
	if len(t.words) > 0 && !r.refused(t, "text") {
		if v, _, ok := r.says(t); ok {
			e.Text = v
		} else {
			r.leave(t, "text", "it is computed in a way that the screen cannot say")
		}
	}
	if t.Show != "" && !r.refused(t, "condition") {
		if condition, ok := expression(t.Show); ok {
			e.Show = condition
		} else {
			r.leave(t, "condition", "it is computed in a way that the screen cannot say")
		}
	}
	screen.SortProps(e.Props)
	says := "added " + def.Title
	if e.Text.Known() && e.Text.Text != "" {
		says += fmt.Sprintf(" “%s”", e.Text.Text)
	}
	if !r.edit(t, e.ID, "element", says, screen.Edit{Op: screen.Insert, Parent: c.parent, After: r.after(c, e.Slot), Tree: e}) {
		return
	}
	t.id = e.ID
	c.last[e.Slot] = e.ID
	r.kids(t, &cursor{e.ID, map[string]string{}}, "")
}

// given takes an attribute of a new element.
func (r *reader) given(t *node, a *source.Attribute, e *screen.Element, def *kit.Component) {
	switch {
	case a.Name == "slot", a.Name == "key", isClass(a.Name) && def.Level == kit.Layout && !def.Plain:
	case r.computed(t, a.Name, &a.Value), r.refused(t, a.Name):
	case a.Name == "data-name" && a.Kind == text:
		e.Name = a.Value.Value
	default:
		p, why := prop(def, a.Name)
		var v screen.Value
		if p != nil {
			v, why = valueOf(&a.Value, t.code(a), p)
		}
		if why != "" {
			r.leave(t, a.Name, why)
			return
		}
		e.Props = append(e.Props, screen.Prop{Name: p.Name, Value: v})
	}
}

// free is an id that no element has.
func (r *reader) free(title string) string {
	base := strings.Trim(emit.Kebab(title), "-")
	if !screen.ValidID(base) {
		base = "element"
	}
	id := base
	for n := 2; r.ids[id]; n++ {
		id = fmt.Sprint(base, "-", n)
	}
	r.ids[id] = true
	return id
}

// gone reads what was taken out.
func (r *reader) gone(b *node, inside bool) {
	here := inside
	if b.Kind == element && r.hand.to[b] == nil && !inside {
		here = true
		r.remove(b)
	}
	for _, c := range b.kids {
		r.gone(c, here)
	}
}

// holds tells whether something in an element, or itself, is in the code still.
func (r *reader) holds(e *screen.Element) bool {
	found := false
	r.theirs.walk(func(t *node) {
		if t.id != "" && !found {
			inner, _ := e.Find(t.id)
			found = inner != nil
		}
	})
	return found
}

func (r *reader) remove(b *node) {
	at := r.theirs
	for up := b.up; up != nil; up = up.up {
		if t := r.hand.to[up]; t != nil && t.Kind == element {
			at = t
			break
		}
	}
	what := "without " + strings.TrimSpace(tag(b))
	if len(b.words) > 0 {
		what += " " + strings.Join(b.words, " ")
	}
	e, _ := r.root.Find(b.id)
	switch {
	case r.ours.from[b] == nil: // it went on both sides
	case b.id == "":
		r.leave(at, what, "it is no element of the screen that was taken out")
	case e == nil:
		if _, was := r.f.Doc.Root.Find(b.id); r.inStates[b.id] || was != nil {
			r.leave(at, what, "it stands in a state of the screen alone; take it out there")
		}
	case r.ours.from[b].deep != b.deep:
		r.leave(at, what, "the screen has changed there, too")
	case r.holds(e):
		r.leave(at, what, "something that stands in it in the screen is in the code still")
	default:
		r.edit(at, b.id, what, "taken out "+r.title(b.id), screen.Edit{Op: screen.Remove, ID: b.id})
	}
}
