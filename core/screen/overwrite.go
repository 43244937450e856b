package screen

import "slices"

// Overwrites tells whether an edit would overwrite or take along something that is no
// longer as it was left: left is the tree that the edit restores from, now is the tree it
// is to be taken into. It names the element, or nothing where the edit does no harm.
//
// An edit that takes another back is held against this, so that undoing never throws away
// what somebody else did since.
func Overwrites(e Edit, left, now *Element) (element string) {
	was, wasIn := left.Find(e.ID)
	is, isIn := now.Find(e.ID)
	if e.ID == "" || was == nil {
		return ""
	}
	if is == nil {
		return e.ID
	}
	same := true
	switch e.Op {
	case Set, Unset:
		a, okA := propOf(was, e.Prop)
		b, okB := propOf(is, e.Prop)
		same = okA == okB && a == b
	case SetText:
		same = was.Text == is.Text
	case Rename:
		same = was.Name == is.Name
	case Show:
		same = was.Show == is.Show
	case SetRepeat:
		same = (was.Repeat == nil) == (is.Repeat == nil) && (was.Repeat == nil || *was.Repeat == *is.Repeat)
	case Move:
		same = (wasIn == nil) == (isIn == nil) && (wasIn == nil || wasIn.ID == isIn.ID) && was.Slot == is.Slot
	case Remove, Replace, Duplicate:
		same = Equal(was, is)
	case Unwrap:
		same = was.SameAs(is)
	}
	if same {
		return ""
	}
	return e.ID
}

func propOf(e *Element, name string) (Prop, bool) {
	i := slices.IndexFunc(e.Props, func(p Prop) bool { return p.Name == name })
	if i < 0 {
		return Prop{}, false
	}
	return e.Props[i], true
}
