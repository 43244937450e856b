package screen

import (
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/kit"
)

// Op names what an edit does.
type Op string

const (
	Insert    Op = "insert"    // Tree below Parent, in Tree's slot, after sibling After
	Remove    Op = "remove"    // element ID with all below it
	Move      Op = "move"      // element ID below Parent, in Slot, after sibling After
	Duplicate Op = "duplicate" // element ID once more after itself, ids by IDs
	Set       Op = "set"       // prop Prop of ID to Value
	Unset     Op = "unset"     // prop Prop of ID back to its default
	SetText   Op = "text"      // text of ID to Value
	Rename    Op = "rename"    // name of ID to Name
	Show      Op = "show"      // visibility of ID to the expression Name
	SetRepeat Op = "repeat"    // repetition of ID to Repeat, nil for none
	Wrap      Op = "wrap"      // siblings Many into Tree, which stands where the first stood
	Unwrap    Op = "unwrap"    // element ID gives way to its children
	Replace   Op = "replace"   // element ID becomes Tree's type, keeping what corresponds
	Keep      Op = "keep"      // what the tool filled in on ID is the team's own from now on
)

// Ops lists all operations.
var Ops = []Op{
	Insert,
	Remove,
	Move,
	Duplicate,
	Set,
	Unset,
	SetText,
	Rename,
	Show,
	SetRepeat,
	Wrap,
	Unwrap,
	Replace,
	Keep,
}

// Edit is one change to a tree, as a value. Which fields count depends on Op.
type Edit struct {
	Op     Op
	ID     string
	Parent string
	Slot   string
	After  string
	Tree   *Element
	IDs    map[string]string // old id -> new id
	Many   []string
	Prop   string
	Value  Value
	Filled bool
	Name   string
	Repeat *Repeat
	Slots  map[string]string // of Replace and Unwrap: child id -> slot
	exact  bool              // an inverse: restores what stood, without checks against the kit
}

// Following marks an edit that follows from another: it is taken as it is, without
// being held against the kit.
func Following(e Edit) Edit { e.exact = true; return e }

// Checked is an edit that is held against the kit, wherever it comes from.
func Checked(e Edit) Edit { e.exact = false; return e }

// Refusal says why an edit cannot be taken.
type Refusal struct {
	Edit    Op
	Element string
	Reason  string
}

func (r *Refusal) Error() string { return fmt.Sprintf("%s %s: %s", r.Edit, r.Element, r.Reason) }

func (e *Edit) refuse(id, format string, args ...any) error {
	return &Refusal{e.Op, id, fmt.Sprintf(format, args...)}
}

// Apply takes an edit into a tree. It yields the new tree and the edit that
// takes it back. The tree given stays as it is. Errors are of type *Refusal.
func Apply(root *Element, e Edit, cat kit.Catalog) (*Element, Edit, error) {
	switch e.Op {
	case Insert:
		return applyInsert(root, e, cat)
	case Duplicate:
		return applyDuplicate(root, e, cat)
	case Wrap:
		return applyWrap(root, e, cat)
	}
	el, parent := root.Find(e.ID)
	if el == nil {
		return nil, Edit{}, e.refuse(e.ID, "there is no such element")
	}
	structural := e.Op == Remove || e.Op == Move || e.Op == Unwrap
	if structural && parent == nil {
		return nil, Edit{}, e.refuse(e.ID, "the screen's root stays where it is")
	}
	switch e.Op {
	case Remove:
		if el.Type == "outlet" && !e.exact {
			return nil, Edit{}, e.refuse(e.ID, "a shell needs its outlet")
		}
		inverse := Edit{Op: Insert, Parent: parent.ID, After: parent.before(el), Tree: el, exact: true}
		return rewrite(root, parent.ID, func(p *Element) { p.Children = without(p.Children, el.ID) }), inverse, nil
	case Move:
		return applyMove(root, el, parent, e, cat)
	case Unwrap:
		return applyUnwrap(root, el, parent, e, cat)
	case Replace:
		return applyReplace(root, el, parent, e, cat)
	}
	return applySetting(root, el, e, cat)
}

// ApplyAll takes edits in order; either all or none. The inverse list takes
// them back in the right order.
func ApplyAll(root *Element, edits []Edit, cat kit.Catalog) (*Element, []Edit, error) {
	inverses := make([]Edit, 0, len(edits))
	for i, e := range edits {
		next, inv, err := Apply(root, e, cat)
		if err != nil {
			if len(edits) > 1 {
				err = fmt.Errorf("edit %d of %d: %w", i+1, len(edits), err)
			}
			return nil, nil, err
		}
		root = next
		inverses = append(inverses, inv)
	}
	slices.Reverse(inverses)
	return root, inverses, nil
}

// rewrite copies the path from the root to the element and changes the copy.
func rewrite(root *Element, id string, change func(*Element)) *Element {
	if root.ID == id {
		c := *root
		change(&c)
		return &c
	}
	for i, child := range root.Children {
		if next := rewrite(child, id, change); next != nil {
			c := *root
			c.Children = slices.Clone(root.Children)
			c.Children[i] = next
			return &c
		}
	}
	return nil
}

func without(children []*Element, id string) []*Element {
	return slices.DeleteFunc(slices.Clone(children), func(c *Element) bool { return c.ID == id })
}

// place puts child after the sibling named, in the child's slot; an empty name
// puts it first of its slot.
func place(children []*Element, child *Element, after string) ([]*Element, bool) {
	at := 0
	if after == "" {
		at = slices.IndexFunc(children, func(c *Element) bool { return c.Slot == child.Slot })
		if at < 0 { // children stand in the order of their slots' names
			at = slices.IndexFunc(children, func(c *Element) bool { return c.Slot > child.Slot })
		}
		if at < 0 {
			at = len(children)
		}
	} else {
		i := slices.IndexFunc(children, func(c *Element) bool { return c.ID == after })
		if i < 0 || children[i].Slot != child.Slot {
			return nil, false
		}
		at = i + 1
	}
	return slices.Insert(slices.Clone(children), at, child), true
}

// canStand checks the slot rules for child as a child of parent.
func canStand(e Edit, cat kit.Catalog, parent *Element, slot, typ, childID string) error {
	if e.exact {
		return nil
	}
	pc, ok := cat.Component(parent.Type)
	if !ok {
		return nil // an unknown parent is a finding already; it must not block repairs
	}
	cc, ok := cat.Component(typ)
	if !ok {
		return e.refuse(childID, "the kit has no component %q", typ)
	}
	if reason, ok := kit.Accepts(cat, pc, slot, cc); !ok {
		return e.refuse(childID, "%s cannot stand here: %s", cc.Title, reason)
	}
	if s, ok := pc.Slot(slot); ok && s.Max > 0 {
		n := 0
		for _, c := range parent.Children {
			if c.Slot == slot && c.ID != childID {
				n++
			}
		}
		if n >= s.Max {
			return e.refuse(childID, "%s takes only %d here", pc.Title, s.Max)
		}
	}
	return nil
}

func applyInsert(root *Element, e Edit, cat kit.Catalog) (*Element, Edit, error) {
	if e.Tree == nil {
		return nil, Edit{}, e.refuse("", "nothing to insert is given")
	}
	parent, _ := root.Find(e.Parent)
	if parent == nil {
		return nil, Edit{}, e.refuse(e.Tree.ID, "the place to insert into (%s) is not there", e.Parent)
	}
	if err := checkTree(root, e, cat); err != nil {
		return nil, Edit{}, err
	}
	if err := canStand(e, cat, parent, e.Tree.Slot, e.Tree.Type, e.Tree.ID); err != nil {
		return nil, Edit{}, err
	}
	children, ok := place(parent.Children, e.Tree, e.After)
	if !ok {
		return nil, Edit{}, e.refuse(e.Tree.ID, "the neighbour %s is not there", e.After)
	}
	return rewrite(
			root,
			parent.ID,
			func(p *Element) { p.Children = children },
		), Edit{
			Op:    Remove,
			ID:    e.Tree.ID,
			exact: true,
		}, nil
}

// checkTree checks a subtree that is about to enter: ids new and unique, slots
// and props as the kit has them.
func checkTree(root *Element, e Edit, cat kit.Catalog) error {
	taken := map[string]bool{}
	root.Walk(func(el, _ *Element) bool { taken[el.ID] = true; return true })
	var err error
	e.Tree.Walk(func(el, parent *Element) bool {
		switch {
		case err != nil:
			return false
		case el.ID == "":
			err = e.refuse("", "an element has no id")
		case !e.exact && Misnamed(el) != "":
			err = e.refuse(short(el.ID), "%s", Misnamed(el))
		case taken[el.ID]:
			err = e.refuse(el.ID, "the id is taken")
		}
		taken[el.ID] = true
		if err != nil || e.exact {
			return err == nil
		}
		c, ok := cat.Component(el.Type)
		if !ok {
			err = e.refuse(el.ID, "the kit has no component %q", el.Type)
			return false
		}
		for _, p := range el.Props {
			if err == nil {
				err = checkProp(e, c, el.ID, p.Name, p.Value)
			}
		}
		if err == nil && parent != nil {
			err = canStand(e, cat, parent, el.Slot, el.Type, el.ID)
		}
		return err == nil
	})
	return err
}

// checkProp checks a value against the prop's type.
func checkProp(e Edit, c *kit.Component, id, name string, v Value) error {
	p, ok := c.Prop(name)
	if !ok {
		return e.refuse(id, "%s has no prop %q", c.Title, name)
	}
	if name == kit.Does {
		if v.Kind != Literal {
			return e.refuse(id, "what %s does is chosen, not computed", c.Title)
		}
		if _, err := ParseActions(v.Text); err != nil {
			return e.refuse(id, "%s", err)
		}
		return nil
	}
	if v.Kind == Expr || v.Kind == Token {
		if c.Level == kit.Layout && !c.Plain && v.Kind == Expr {
			return e.refuse(id, "%s of a layout cannot be computed", name)
		}
		return nil
	}
	switch p.Type {
	case kit.Enum:
		if !p.Takes(v.Text) {
			return e.refuse(id, "%s of %s is one of %s, not %q", name, c.Title, join(p.Values), v.Text)
		}
	case kit.Text:
		if p.JSON && !json.Valid([]byte(v.Text)) {
			return e.refuse(id, "%s of %s is data, written as JSON (%s)", name, c.Title, p.Shape)
		}
	case kit.Bool:
		if v.Kind != Flag {
			return e.refuse(id, "%s of %s is yes or no", name, c.Title)
		}
	case kit.Number:
		if v.Kind != Num {
			return e.refuse(id, "%s of %s is a number", name, c.Title)
		}
	}
	return nil
}

func join(list []string) string {
	s := ""
	for i, v := range list {
		if i > 0 {
			s += ", "
		}
		s += v
	}
	return s
}

func applyDuplicate(root *Element, e Edit, cat kit.Catalog) (*Element, Edit, error) {
	el, parent := root.Find(e.ID)
	if el == nil || parent == nil {
		return nil, Edit{}, e.refuse(e.ID, "there is no such element to copy")
	}
	// Two that share an id, or fields that share a name, would be one: a copy has its own.
	taken := map[string]bool{}
	root.Walk(func(o, _ *Element) bool {
		for _, p := range o.Props {
			if own(cat, o.Type, p) {
				taken[p.Name+" "+p.Value.Text] = true
			}
		}
		return true
	})
	var missing string
	var copyOf func(*Element) *Element
	copyOf = func(o *Element) *Element {
		c := *o
		c.ID, c.Name, c.Offset = e.IDs[o.ID], "", 0
		if c.Origin != nil && !strings.HasPrefix(c.Origin.File, PiecePrefix) {
			c.Origin = nil // a copy does not come from that place in code; cut loose it still is
		}
		if !ValidID(c.ID) {
			missing = o.ID
		}
		Repoint(&c, e.IDs) // a copy opens its own, not what it was copied from
		for i, p := range c.Props {
			if !own(cat, o.Type, p) {
				continue
			}
			free := p.Value.Text
			for n := 2; taken[p.Name+" "+free]; n++ {
				free = p.Value.Text + "-" + strconv.Itoa(n)
			}
			taken[p.Name+" "+free] = true
			c.Props = slices.Clone(c.Props)
			c.Props[i].Value = Lit(free)
		}
		c.Children = make([]*Element, len(o.Children))
		for i, child := range o.Children {
			c.Children[i] = copyOf(child)
		}
		return &c
	}
	tree := copyOf(el)
	if missing != "" {
		return nil, Edit{}, e.refuse(e.ID, "no new id is given for %s", missing)
	}
	next, inverse, err := applyInsert(
		root,
		Edit{Op: Insert, Parent: parent.ID, After: el.ID, Tree: tree, exact: e.exact},
		cat,
	)
	if err != nil {
		err.(*Refusal).Edit = Duplicate
	}
	return next, inverse, err
}

// own tells whether a setting names its element among others: an id, or the name under
// which a control's value is sent.
func own(cat kit.Catalog, typ string, p Prop) bool {
	if p.Value.Kind != Literal || p.Value.Text == "" || p.Name != "id" && p.Name != "name" {
		return false
	}
	c, ok := cat.Component(typ)
	return ok && (p.Name == "id" || c.Role == "control")
}

func applyMove(root, el, parent *Element, e Edit, cat kit.Catalog) (*Element, Edit, error) {
	target, _ := root.Find(e.Parent)
	if target == nil {
		return nil, Edit{}, e.refuse(e.ID, "the place to move to (%s) is not there", e.Parent)
	}
	if inside, _ := el.Find(e.Parent); inside != nil {
		return nil, Edit{}, e.refuse(e.ID, "an element cannot move into itself")
	}
	if e.After == e.ID {
		return nil, Edit{}, e.refuse(e.ID, "an element cannot stand after itself")
	}
	if target.ID != parent.ID || e.Slot != el.Slot {
		if err := canStand(e, cat, target, e.Slot, el.Type, el.ID); err != nil {
			return nil, Edit{}, err
		}
	}
	inverse := Edit{Op: Move, ID: el.ID, Parent: parent.ID, Slot: el.Slot, After: parent.before(el), exact: true}
	taken := rewrite(root, parent.ID, func(p *Element) { p.Children = without(p.Children, el.ID) })
	moved := *el
	moved.Slot = e.Slot
	target, _ = taken.Find(e.Parent)
	children, ok := place(target.Children, &moved, e.After)
	if !ok {
		return nil, Edit{}, e.refuse(e.ID, "the neighbour %s is not there", e.After)
	}
	return rewrite(taken, target.ID, func(p *Element) { p.Children = children }), inverse, nil
}

func applyWrap(root *Element, e Edit, cat kit.Catalog) (*Element, Edit, error) {
	if e.Tree == nil || len(e.Many) == 0 {
		return nil, Edit{}, e.refuse("", "what to wrap, or in what, is not given")
	}
	first, parent := root.Find(e.Many[0])
	if first == nil || parent == nil {
		return nil, Edit{}, e.refuse(e.Many[0], "there is no such element to wrap")
	}
	inside := make([]*Element, 0, len(e.Many))
	for _, id := range e.Many {
		i := slices.IndexFunc(parent.Children, func(c *Element) bool { return c.ID == id })
		if i < 0 || parent.Children[i].Slot != first.Slot {
			return nil, Edit{}, e.refuse(id, "only siblings in one slot can be wrapped together")
		}
		inside = append(inside, parent.Children[i])
	}
	for i, c := range inside[:len(inside)-1] {
		if parent.before(inside[i+1]) != c.ID {
			return nil, Edit{}, e.refuse(c.ID, "only neighbours can be wrapped together")
		}
	}
	wrapper := *e.Tree
	wrapper.Slot = first.Slot
	wrapper.Children = nil
	bare := e
	bare.Tree = &wrapper
	if err := checkTree(root, bare, cat); err != nil {
		return nil, Edit{}, err
	}
	rest := *parent
	rest.Children = slices.DeleteFunc(
		slices.Clone(parent.Children),
		func(c *Element) bool { return slices.Contains(e.Many, c.ID) },
	)
	if err := canStand(e, cat, &rest, wrapper.Slot, wrapper.Type, wrapper.ID); err != nil {
		return nil, Edit{}, err
	}
	slots := map[string]string{}
	for _, c := range inside {
		slots[c.ID] = c.Slot
		moved := *c
		moved.Slot = e.Slot
		if s, ok := e.Slots[c.ID]; ok && e.exact {
			moved.Slot = s
		}
		if err := canStand(e, cat, &wrapper, moved.Slot, moved.Type, moved.ID); err != nil {
			return nil, Edit{}, err
		}
		wrapper.Children = append(wrapper.Children, &moved)
	}
	children, ok := place(rest.Children, &wrapper, parent.before(first))
	if !ok {
		return nil, Edit{}, e.refuse(wrapper.ID, "the place of %s is not there", first.ID)
	}
	return rewrite(
			root,
			parent.ID,
			func(p *Element) { p.Children = children },
		), Edit{
			Op:    Unwrap,
			ID:    wrapper.ID,
			Slots: slots,
			exact: true,
		}, nil
}

func applyUnwrap(root, el, parent *Element, e Edit, cat kit.Catalog) (*Element, Edit, error) {
	wrapper := *el
	wrapper.Children = nil
	inverse := Edit{Op: Wrap, Tree: &wrapper, Slots: map[string]string{}, exact: true}
	rest := *parent
	rest.Children = without(parent.Children, el.ID)
	lifted := make([]*Element, 0, len(el.Children))
	for _, c := range el.Children {
		inverse.Many = append(inverse.Many, c.ID)
		inverse.Slots[c.ID] = c.Slot
		up := *c
		up.Slot = el.Slot
		if s, ok := e.Slots[c.ID]; ok && e.exact {
			up.Slot = s
		}
		if err := canStand(e, cat, &rest, up.Slot, up.Type, up.ID); err != nil {
			return nil, Edit{}, err
		}
		lifted = append(lifted, &up)
		rest.Children = append(rest.Children, &up)
	}
	if len(lifted) == 0 { // an empty wrapper: taking it away is a removal
		inverse = Edit{Op: Insert, Parent: parent.ID, After: parent.before(el), Tree: el, exact: true}
	}
	i := slices.IndexFunc(parent.Children, func(c *Element) bool { return c.ID == el.ID })
	children := slices.Replace(slices.Clone(parent.Children), i, i+1, lifted...)
	return rewrite(root, parent.ID, func(p *Element) { p.Children = children }), inverse, nil
}

// applyReplace turns an element into another component. Props that the new one
// knows with an acceptable value stay, as do text and children where they may
// stand; children that may not stand make it a refusal, so that nothing is lost
// unseen.
func applyReplace(root, el, parent *Element, e Edit, cat kit.Catalog) (*Element, Edit, error) {
	if e.Tree == nil {
		return nil, Edit{}, e.refuse(e.ID, "what to become is not given")
	}
	old := *el
	old.Children = nil
	inverse := Edit{Op: Replace, ID: el.ID, Tree: &old, Slots: map[string]string{}, exact: true}
	next := *el
	next.Type = e.Tree.Type
	if e.exact {
		next.Props, next.Text, next.Name, next.Show, next.Repeat = e.Tree.Props, e.Tree.Text, e.Tree.Name, e.Tree.Show, e.Tree.Repeat
	} else {
		c, ok := cat.Component(e.Tree.Type)
		if !ok {
			return nil, Edit{}, e.refuse(e.ID, "the kit has no component %q", e.Tree.Type)
		}
		if parent != nil {
			if err := canStand(e, cat, parent, el.Slot, c.Tag, el.ID); err != nil {
				return nil, Edit{}, err
			}
		}
		next.Props = nil
		for _, p := range el.Props {
			if checkProp(e, c, el.ID, p.Name, p.Value) == nil {
				next.Props = setProp(next.Props, p)
			}
		}
		for _, p := range e.Tree.Props {
			if err := checkProp(e, c, el.ID, p.Name, p.Value); err != nil {
				return nil, Edit{}, err
			}
			next.Props = setProp(next.Props, p)
		}
		if !c.TakesText() {
			next.Text = Value{}
		}
		if e.Tree.Text.Kind != None {
			next.Text = e.Tree.Text
		}
	}
	shell := next
	shell.Children = nil
	next.Children = make([]*Element, len(el.Children))
	for i, child := range el.Children {
		inverse.Slots[child.ID] = child.Slot
		moved := *child
		if s, ok := e.Slots[child.ID]; ok {
			moved.Slot = s
		} else if !e.exact {
			if nc, ok := cat.Component(next.Type); ok {
				if _, has := nc.Slot(moved.Slot); !has {
					moved.Slot = ""
				}
			}
		}
		if err := canStand(e, cat, &shell, moved.Slot, moved.Type, moved.ID); err != nil {
			return nil, Edit{}, err
		}
		shell.Children = append(shell.Children, &moved)
		next.Children[i] = &moved
	}
	next.Children = bySlot(next.Children)
	return rewrite(root, el.ID, func(p *Element) { *p = next }), inverse, nil
}

// bySlot brings children into their canonical order: by the name of their slot,
// and within a slot as they were. The order across slots shows nowhere, and two
// people's edits must not differ in it.
func bySlot(children []*Element) []*Element {
	order := func(a, b *Element) int { return strings.Compare(a.Slot, b.Slot) }
	if !slices.IsSortedFunc(children, order) {
		slices.SortStableFunc(children, order)
	}
	return children
}

// SortSlots brings an element's children into their canonical order.
func SortSlots(e *Element) { e.Children = bySlot(e.Children) }

func applySetting(root, el *Element, e Edit, cat kit.Catalog) (*Element, Edit, error) {
	inverse := Edit{Op: e.Op, ID: e.ID, exact: true}
	var change func(*Element)
	switch e.Op {
	case Set, Unset:
		if _, has := el.Prop(kit.ClassProp); e.Op == Set && e.Prop == kit.ClassProp && !has && el.FromCode() && el.Origin.Look != "" {
			// What looks as it does in code by classes that are written there is made to look otherwise there.
			inverse.Op, inverse.Prop, inverse.Value = Set, e.Prop, Lit(el.Origin.Look)
			change = func(p *Element) {
				origin := *p.Origin
				origin.Look, p.Origin = e.Value.Text, &origin
			}
			break
		}
		if e.Op == Set && !e.exact {
			c, ok := cat.Component(el.Type)
			if !ok {
				return nil, Edit{}, e.refuse(el.ID, "the kit has no component %q", el.Type)
			}
			if err := checkProp(e, c, el.ID, e.Prop, e.Value); err != nil {
				return nil, Edit{}, err
			}
		}
		inverse.Prop = e.Prop
		inverse.Op = Unset
		for _, p := range el.Props {
			if p.Name == e.Prop {
				inverse.Op, inverse.Value, inverse.Filled = Set, p.Value, p.Filled
			}
		}
		if e.Op == Set {
			change = func(p *Element) { p.Props = setProp(p.Props, Prop{e.Prop, e.Value, e.Filled}) }
		} else {
			change = func(p *Element) { p.Props = unsetProp(p.Props, e.Prop) }
		}
	case SetText:
		if c, ok := cat.Component(el.Type); ok && !c.TakesText() && e.Value.Kind != None && !e.exact {
			return nil, Edit{}, e.refuse(el.ID, "%s takes no text of its own", c.Title)
		}
		inverse.Value = el.Text
		change = func(p *Element) { p.Text = e.Value }
	case Rename:
		if e.Name != "" && !e.exact {
			if !ValidName(e.Name) {
				return nil, Edit{}, e.refuse(
					el.ID,
					"a name begins with a letter and holds letters, digits and dashes, at most 64; %q does not",
					e.Name,
				)
			}
			taken := ""
			root.Walk(func(o, _ *Element) bool {
				if o.Name == e.Name && o.ID != el.ID {
					taken = o.ID
				}
				return taken == ""
			})
			if taken != "" {
				return nil, Edit{}, e.refuse(el.ID, "the name %q is taken by %s", e.Name, taken)
			}
		}
		inverse.Name = el.Name
		change = func(p *Element) { p.Name = e.Name }
	case Show:
		inverse.Name = el.Show
		change = func(p *Element) { p.Show = e.Name }
	case SetRepeat:
		inverse.Repeat = el.Repeat
		change = func(p *Element) { p.Repeat = e.Repeat }
	case Keep:
		filled := slices.Clone(el.Props)
		for i := range filled {
			filled[i].Filled = false
		}
		old := *el
		old.Children = nil
		inverse = Edit{Op: Replace, ID: el.ID, Tree: &old, exact: true}
		change = func(p *Element) { p.Props = filled }
	default:
		return nil, Edit{}, e.refuse(e.ID, "the operation %q is not known", e.Op)
	}
	return rewrite(root, el.ID, change), inverse, nil
}
