package usage

import (
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// nextCount counts, in documents, which types come at one insertion point.
type nextCount struct {
	docs  int
	epoch int
	types map[*tracked]*typeCount
}

type typeCount struct{ docs, epoch int }

// insertion points are kept where they are looked up fast: those inside a
// component with it, by slot and the sibling before.
type insertion struct{ slot, prev string }

// Next is a component that may come next, with its probability.
type Next struct {
	Type        string  `json:"type"`
	Probability float64 `json:"probability"`
	Screens     int     `json:"screens"`
}

const anyPrev = "*"

// note counts a type once a document.
func (n *nextCount) note(t *tracked, epoch, sign int) {
	if n.epoch != epoch {
		n.epoch = epoch
		n.docs += sign
	}
	c := n.types[t]
	if c == nil {
		if n.types == nil {
			n.types = map[*tracked]*typeCount{}
		}
		c = &typeCount{}
		n.types[t] = c
	}
	if c.epoch != epoch {
		c.epoch = epoch
		c.docs += sign
	}
}

func (t *tracked) inside(slot, prev string) *nextCount {
	n := t.next[insertion{slot, prev}]
	if n == nil {
		if t.next == nil {
			t.next = map[insertion]*nextCount{}
		}
		n = &nextCount{}
		t.next[insertion{slot, prev}] = n
	}
	return n
}

func (ix *Index) countNext(doc *Doc, sign int) {
	at := 0
	var visit func(e *screen.Element)
	visit = func(e *screen.Element) {
		parent := doc.Uses[at].Spots[0].comp
		at++
		slot, prevType := "", ""
		var prev *tracked
		var anywhere *nextCount
		for i, c := range e.Children {
			if i == 0 || c.Slot != slot { // children stand in the order of their slots
				slot, prevType, prev = c.Slot, "", nil
				anywhere = parent.inside(slot, anyPrev)
			}
			own := doc.Uses[at].Spots[0].comp
			parent.inside(slot, prevType).note(own, ix.epoch, sign)
			anywhere.note(own, ix.epoch, sign)
			if prev != nil {
				prev.followed.note(own, ix.epoch, sign)
			} else {
				ix.first.note(own, ix.epoch, sign)
			}
			ix.anything.note(own, ix.epoch, sign)
			prevType, prev = c.Type, own
			visit(c)
		}
	}
	visit(doc.Root)
}

// ComesNext ranks what may come at an insertion point by what the screens do
// there: in this parent and slot after this sibling, smoothed towards the same
// parent and slot, then the same sibling anywhere, then anything. Only what may
// stand there is listed, the rest of the catalog last.
func (ix *Index) ComesNext(parent *screen.Element, slot, prev string, candidates []*kit.Component) []Next {
	here := ix.component(parent.Type)
	afterPrev := &ix.first
	if prev != "" {
		afterPrev = &ix.component(prev).followed
	}
	ladder := []*nextCount{&ix.anything, afterPrev, here.inside(slot, anyPrev), here.inside(slot, prev)}
	pc, known := ix.cat.Component(parent.Type)
	var out []Next
	for _, c := range candidates {
		if known {
			if _, ok := kit.Accepts(ix.cat, pc, slot, c); !ok {
				continue
			}
		}
		t := ix.component(c.Tag)
		p, screens := 0.0, 0
		for _, n := range ladder {
			total := 0
			for _, count := range n.types {
				total += count.docs
			}
			screens = 0
			if count := n.types[t]; count != nil {
				screens = count.docs
			}
			// Dirichlet smoothing: the coarser estimate weighs as two screens.
			p = (float64(screens) + 2*p) / (float64(total) + 2)
		}
		out = append(out, Next{Type: c.Tag, Probability: p, Screens: screens})
	}
	slices.SortStableFunc(out, func(a, b Next) int {
		switch {
		case a.Probability > b.Probability:
			return -1
		case a.Probability < b.Probability:
			return 1
		}
		return strings.Compare(a.Type, b.Type)
	})
	return out
}

// Count is how often a component is used.
type Count struct {
	Uses    int `json:"uses"`
	Screens int `json:"screens"`
}

// CountOf returns the uses of a component over all documents.
func (ix *Index) CountOf(typ string) Count {
	t, ok := ix.comps[typ]
	if !ok {
		return Count{}
	}
	return Count{t.root.Uses, t.root.Docs}
}

// titledDocs bounds how many screens are looked at for a habit: it is asked for at every
// key that is typed.
const titledDocs = 200

// Titled tells whether the screens have the habit of saying in a prop of a component what
// the screen is called: at least three of them, and four of five that have one.
func (ix *Index) Titled(typ, prop string) bool {
	have, say, looked := 0, 0, 0
	for _, d := range ix.byNum {
		if d == nil || d.Kind != screen.ScreenDoc {
			continue
		}
		if looked++; looked > titledDocs {
			break
		}
		for i := range d.Uses {
			if e := d.Uses[i].Element; e.Type == typ {
				have++
				if v, ok := e.Prop(prop); ok && v.Kind == screen.Literal && strings.EqualFold(v.Text, d.Title) {
					say++
				}
				break
			}
		}
	}
	return say >= 3 && 5*say >= 4*have
}

// Root returns the most general spot of a component.
func (ix *Index) Root(typ string) (*Spot, bool) {
	t, ok := ix.comps[typ]
	if !ok {
		return nil, false
	}
	return t.root, true
}
