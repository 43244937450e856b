package piece

import (
	"fmt"
	"slices"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// difference is where a twin departs from the part that a piece is made of.
type difference struct {
	element, prop string // of the part
	value         screen.Value
	hole          bool   // the element is another altogether
	all           bool   // what stands in a slot of it is
	in            string // that slot
	words         string
}

func (d difference) key() string {
	return Hole{Element: d.element, All: d.all, In: d.in}.key()
}

// matched says which element of one part stands for which of its twin: what opens its
// own dialog is no difference.
func (l work) matched(list, run []*screen.Element) map[string]string {
	ids := map[string]string{}
	var pair func(a, b *screen.Element)
	pair = func(a, b *screen.Element) {
		ids[b.ID] = a.ID
		for _, slot := range slotsOf(a, b) {
			x, y := inSlot(a, slot), inSlot(b, slot)
			for i := range min(len(x), len(y)) {
				if l.alike(x[i], y[i]) {
					pair(x[i], y[i])
				}
			}
		}
	}
	for i := range min(len(list), len(run)) {
		pair(list[i], run[i])
	}
	return ids
}

// compare lists where b departs from a, whose elements stand for those of b by ids. It
// returns how many elements correspond.
func (l work) compare(a, b *screen.Element, ids map[string]string, out *[]difference) int {
	add := func(prop string, v screen.Value, words string) {
		*out = append(*out, difference{element: a.ID, prop: prop, value: v, words: words})
	}
	if a.Text != b.Text {
		add("", b.Text, fmt.Sprintf("%s says “%s”", l.title(a), b.Text.Fixed()))
	}
	names := map[string]bool{}
	for _, p := range a.Props {
		names[p.Name] = true
		v, _ := b.Prop(p.Name)
		if p.Name == kit.Does {
			v.Text = screen.Aim(v.Text, ids)
		}
		if v != p.Value {
			add(p.Name, v, fmt.Sprintf("%s: %s %s", l.title(a), p.Name, orDefault(v)))
		}
	}
	for _, p := range b.Props {
		if !names[p.Name] {
			add(p.Name, p.Value, fmt.Sprintf("%s: %s %s", l.title(a), p.Name, p.Value.Fixed()))
		}
	}
	same := 1
	for _, slot := range slotsOf(a, b) {
		x, y := inSlot(a, slot), inSlot(b, slot)
		if len(x) != len(y) || len(x) == 1 && !l.alike(x[0], y[0]) {
			*out = append(
				*out,
				difference{
					element: a.ID,
					hole:    true,
					all:     true,
					in:      slot,
					words:   fmt.Sprintf("other things stand in %s of %s", orMain(slot), l.title(a)),
				},
			)
			continue
		}
		for i := range x {
			if l.alike(x[i], y[i]) {
				same += l.compare(x[i], y[i], ids, out)
			} else { // each that does not correspond is a hole of its own
				*out = append(*out, difference{element: x[i].ID, hole: true, words: fmt.Sprintf("%s in place of %s", l.title(y[i]), l.title(x[i]))})
			}
		}
	}
	return same
}

func orMain(slot string) string {
	if slot == "" {
		return "the main slot"
	}
	return slot
}

func slotsOf(list ...*screen.Element) []string {
	var out []string
	for _, e := range list {
		for _, c := range e.Children {
			if !slices.Contains(out, c.Slot) {
				out = append(out, c.Slot)
			}
		}
	}
	slices.Sort(out)
	return out
}

func inSlot(e *screen.Element, slot string) []*screen.Element {
	var out []*screen.Element
	for _, c := range e.Children {
		if c.Slot == slot {
			out = append(out, c)
		}
	}
	return out
}

func orDefault(v screen.Value) string {
	if v.Kind == screen.None {
		return "not set"
	}
	return v.Fixed()
}

// alike tells whether two elements correspond: the same kind in the same slot, shown
// and repeated alike, and laid out alike.
func (l work) alike(a, b *screen.Element) bool {
	if a.Type != b.Type || a.Slot != b.Slot || a.Show != b.Show || (a.Repeat == nil) != (b.Repeat == nil) ||
		(a.Repeat != nil && *a.Repeat != *b.Repeat) {
		return false
	}
	if deeds(a) != deeds(b) {
		return false
	}
	if c, ok := l.Cat.Component(a.Type); ok && c.Level == kit.Layout {
		return slices.EqualFunc(
			a.Props,
			b.Props,
			func(p, q screen.Prop) bool { return p.Name == q.Name && p.Value == q.Value },
		)
	}
	return true
}

// deeds is what an element does, whatever it opens or closes.
func deeds(e *screen.Element) string {
	v, _ := e.Prop(kit.Does)
	list, err := screen.ParseActions(v.Text)
	if err != nil {
		return v.Text
	}
	for i, a := range list {
		if a.Points() {
			list[i].To = ""
		}
	}
	return screen.WriteActions(list)
}

// sameKinds tells whether two runs of elements correspond at their tops. The slot they
// stand in does not matter, as long as it is one.
func (l work) sameKinds(a, b []*screen.Element) bool {
	for i := range a {
		x := *b[i]
		x.Slot = a[i].Slot
		if b[i].Slot != b[0].Slot || !l.alike(a[i], &x) {
			return false
		}
	}
	return true
}
