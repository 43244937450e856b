package screen

import "slices"

// Rebase carries an edit that was made beside another over it, so that it can be
// applied after. before is the tree both were made on, and after the tree once
// over was applied. Edits name elements by id and neighbours, so most need no
// change; two that want the same thing differently are refused, never silently
// overwritten.
//
// The law (see the tests): applying a then Rebase(b, a), and b then Rebase(a, b),
// gives the same tree, or one of the two is refused with a reason.
func Rebase(e, over Edit, before, after *Element) (Edit, error) {
	gone := func(id string) bool {
		was, _ := before.Find(id)
		is, _ := after.Find(id)
		return id != "" && was != nil && is == nil
	}
	for _, id := range e.touches() {
		if gone(id) {
			return Edit{}, e.refuse(id, "the element was taken away meanwhile")
		}
	}
	if gone(e.Parent) {
		return Edit{}, e.refuse(e.subject(), "the place it goes into was taken away meanwhile")
	}
	if e.collides(over) {
		return Edit{}, e.refuse(e.subject(), "it was changed meanwhile (%s)", over.Op)
	}
	if structural(e.Op) && structural(over.Op) {
		return rebaseStructure(e, over, before)
	}
	// Removing or replacing what somebody else is just working in loses work.
	if lossy(e.Op) {
		for _, id := range over.touches() {
			if inside(before, e.ID, id) && id != "" {
				return Edit{}, e.refuse(e.ID, "it was changed inside meanwhile (%s)", over.Op)
			}
		}
	}
	return e, nil
}

func structural(op Op) bool {
	switch op {
	case Insert, Remove, Move, Duplicate, Wrap, Unwrap, Replace:
		return true
	}
	return false
}

func lossy(op Op) bool { return op == Remove || op == Replace || op == Unwrap || op == Duplicate }

// subject is the element an edit is about.
func (e *Edit) subject() string {
	if e.ID == "" && e.Tree != nil {
		return e.Tree.ID
	}
	return e.ID
}

// touches lists existing elements that the edit is about.
func (e *Edit) touches() []string {
	if e.Op == Wrap {
		return e.Many
	}
	if e.ID == "" {
		return nil
	}
	return []string{e.ID}
}

// collides reports two settings of the same thing to different values.
func (e *Edit) collides(o Edit) bool {
	if e.ID != o.ID || e.ID == "" {
		// One name for two elements is only seen when both are there.
		return e.Op == Rename && o.Op == Rename && e.Name == o.Name && e.Name != ""
	}
	prop := func(op Op) bool { return op == Set || op == Unset }
	switch {
	case prop(e.Op) && prop(o.Op):
		return e.Prop == o.Prop && (e.Op != o.Op || e.Value != o.Value || e.Filled != o.Filled)
	case e.Op == Replace || o.Op == Replace:
		return !(e.Op == Move || o.Op == Move) || e.Op == o.Op
	case (prop(e.Op) && o.Op == Keep) || (prop(o.Op) && e.Op == Keep):
		return true
	case e.Op != o.Op:
		return false
	case e.Op == SetText:
		return e.Value != o.Value
	case e.Op == Rename || e.Op == Show:
		return e.Name != o.Name
	case e.Op == SetRepeat:
		return (e.Repeat == nil) != (o.Repeat == nil) || (e.Repeat != nil && *e.Repeat != *o.Repeat)
	}
	return false
}

// inside reports whether id stands at or below top.
func inside(tree *Element, top, id string) bool {
	el, _ := tree.Find(top)
	if el == nil {
		return false
	}
	found, _ := el.Find(id)
	return found != nil
}

// lists names the child lists (parent and slot) that an edit changes or leans on.
func (e *Edit) lists(tree *Element) [][2]string {
	var out [][2]string
	home := func(id string) {
		if el, parent := tree.Find(id); el != nil && parent != nil {
			out = append(out, [2]string{parent.ID, el.Slot})
		}
	}
	switch e.Op {
	case Insert:
		out = append(out, [2]string{e.Parent, e.Tree.Slot})
	case Move:
		home(e.ID)
		out = append(out, [2]string{e.Parent, e.Slot})
	case Wrap:
		home(e.Many[0])
	case Replace:
		home(e.ID)
		if el, _ := tree.Find(e.ID); el != nil {
			for _, c := range el.Children {
				out = append(out, [2]string{el.ID, c.Slot})
			}
			out = append(out, [2]string{el.ID, ""})
		}
	case Unwrap:
		home(e.ID)
		if el, _ := tree.Find(e.ID); el != nil {
			for _, c := range el.Children {
				out = append(out, [2]string{el.ID, c.Slot})
			}
			out = append(out, [2]string{el.ID, ""})
		}
	default:
		home(e.ID)
	}
	return out
}

func rebaseStructure(e, over Edit, before *Element) (Edit, error) {
	shared := false
	for _, a := range e.lists(before) {
		shared = shared || slices.Contains(over.lists(before), a)
	}
	nested := false
	for _, a := range append(e.touches(), e.Parent) {
		for _, b := range append(over.touches(), over.Parent) {
			if a != "" && b != "" && a != b && (e.Op != Insert || over.Op != Insert) {
				nested = nested || (slices.Contains(e.touches(), a) && inside(before, a, b)) ||
					(slices.Contains(over.touches(), b) && inside(before, b, a))
			}
		}
	}
	if nested {
		return Edit{}, e.refuse(e.subject(), "the surroundings were rebuilt meanwhile (%s)", over.Op)
	}
	if !shared {
		return e, nil
	}
	switch {
	case e.Op == Insert && over.Op == Insert:
		if e.Tree.ID == over.Tree.ID {
			return Edit{}, e.refuse(e.Tree.ID, "the id is taken")
		}
		// Both at one place: the smaller id stands first, whoever came first.
		if e.After == over.After && e.Parent == over.Parent && e.Tree.Slot == over.Tree.Slot &&
			over.Tree.ID < e.Tree.ID {
			e.After = over.Tree.ID
		}
		return e, nil
	case e.Op == Insert && over.Op == Remove && e.After == over.ID:
		if el, parent := before.Find(over.ID); el != nil && parent != nil {
			e.After = parent.before(el)
		}
		return e, nil
	case e.Op == Insert && over.Op == Remove,
		e.Op == Remove && over.Op == Insert,
		e.Op == Remove && over.Op == Remove:
		return e, nil
	}
	return Edit{}, e.refuse(e.subject(), "its surroundings were reordered meanwhile (%s)", over.Op)
}
