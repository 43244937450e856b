package usage

import (
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// nextKey is an insertion point: in what, in which slot, after what.
type nextKey struct{ place, slot, prev string }

type nextCount struct {
	docs  int
	types map[string]int // documents in which the type comes here
}

// Next is a component that may come next, with its probability.
type Next struct {
	Type        string  `json:"type"`
	Probability float64 `json:"probability"`
	Screens     int     `json:"screens"`
}

const anyPrev = "*"

func (ix *Index) countNext(doc *Doc, sign int) {
	seen := map[nextKey]map[string]bool{}
	note := func(k nextKey, typ string) {
		if seen[k] == nil {
			seen[k] = map[string]bool{}
		}
		seen[k][typ] = true
	}
	for i := range doc.Uses {
		e := doc.Uses[i].Element
		prev := map[string]string{}
		for _, c := range e.Children {
			note(nextKey{e.Type, c.Slot, prev[c.Slot]}, c.Type)
			note(nextKey{e.Type, c.Slot, anyPrev}, c.Type)
			note(nextKey{anyPrev, "", prev[c.Slot]}, c.Type)
			note(nextKey{anyPrev, "", anyPrev}, c.Type)
			prev[c.Slot] = c.Type
		}
	}
	for k, types := range seen {
		n := ix.next[k]
		if n == nil {
			n = &nextCount{types: map[string]int{}}
			ix.next[k] = n
		}
		n.docs += sign
		for t := range types {
			if n.types[t] += sign; n.types[t] == 0 {
				delete(n.types, t)
			}
		}
	}
}

// ComesNext ranks what may come at an insertion point by what the screens do
// there: in this parent and slot after this sibling, smoothed towards the same
// parent and slot, then the same sibling anywhere, then anything. Only what may
// stand there is listed, the rest of the catalog last.
func (ix *Index) ComesNext(parent *screen.Element, slot, prev string, candidates []*kit.Component) []Next {
	ladder := []nextKey{{anyPrev, "", anyPrev}, {anyPrev, "", prev}, {parent.Type, slot, anyPrev}, {parent.Type, slot, prev}}
	pc, known := ix.cat.Component(parent.Type)
	var out []Next
	for _, c := range candidates {
		if known {
			if _, ok := kit.Accepts(ix.cat, pc, slot, c); !ok {
				continue
			}
		}
		p, screens := 0.0, 0
		for _, k := range ladder {
			n := ix.next[k]
			if n == nil {
				continue
			}
			total := 0
			for _, count := range n.types {
				total += count
			}
			// Dirichlet smoothing: the coarser estimate weighs as two screens.
			p = (float64(n.types[c.Tag]) + 2*p) / (float64(total) + 2)
			if k.place == parent.Type && k.prev != anyPrev {
				screens = n.types[c.Tag]
			}
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

// Root returns the most general spot of a component.
func (ix *Index) Root(typ string) (*Spot, bool) {
	t, ok := ix.comps[typ]
	if !ok {
		return nil, false
	}
	return t.root, true
}
