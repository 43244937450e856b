package norm

import (
	"slices"
	"strings"

	"ubiquant/core/usage"
)

// Question is a spot where the screens are of two minds.
type Question struct {
	Spot  string `json:"spot"`
	Words string `json:"words"`
	Prop  string `json:"prop"`
	Sides []Side `json:"sides"`
}

// Side is one answer to an open question.
type Side struct {
	Value   string   `json:"value"`
	Uses    int      `json:"uses"`
	Screens int      `json:"screens"`
	Docs    []string `json:"docs"`
}

// ask notes which props of a spot want an answer.
func (n *Norms) ask(s *usage.Spot) {
	var props []int
	for i := range s.Mixes {
		if open(&s.Mixes[i]) && !explained(s, i) {
			props = append(props, i)
		}
	}
	if props == nil {
		delete(n.open, s)
	} else {
		n.open[s] = props
	}
}

// asked calls yield for each open question. Each is asked once, in the most
// general spot whose mix its finer spots do not explain.
func (n *Norms) asked(yield func(s *usage.Spot, prop int)) {
	for s, props := range n.open {
		for _, prop := range props {
			if !n.answeredAbove(s, prop) {
				yield(s, prop)
			}
		}
	}
}

// answeredAbove reports whether a house rule has settled the question, or a more
// general spot asks it already.
func (n *Norms) answeredAbove(s *usage.Spot, prop int) bool {
	if n.isSettled(s, s.Mixes[prop].Prop) {
		return true
	}
	for p := s.Parent; p != nil; p = p.Parent {
		if slices.Contains(n.open[p], prop) || n.isSettled(p, p.Mixes[prop].Prop) {
			return true
		}
	}
	return false
}

// CountQuestions is the number of open questions without listing them.
func (n *Norms) CountQuestions() int {
	count := 0
	n.asked(func(*usage.Spot, int) { count++ })
	return count
}

// Questions lists the spots where the screens are of two minds, those on most
// screens first.
func (n *Norms) Questions(words func(*usage.Spot) string) []Question {
	var out []Question
	n.asked(func(s *usage.Spot, prop int) {
		m := &s.Mixes[prop]
		q := Question{Spot: s.Name(), Words: words(s), Prop: m.Prop}
		for _, v := range m.Sorted() {
			side := Side{Value: v.Value, Uses: v.Uses, Screens: len(v.Docs), Docs: make([]string, 0, len(v.Docs))}
			for _, d := range v.Docs {
				side.Docs = append(side.Docs, usage.DocKey(n.ix.Doc(d).Document))
			}
			slices.Sort(side.Docs)
			q.Sides = append(q.Sides, side)
		}
		out = append(out, q)
	})
	slices.SortFunc(out, func(a, b Question) int {
		size := func(q Question) int { return q.Sides[0].Screens + q.Sides[1].Screens }
		if d := size(b) - size(a); d != 0 {
			return d
		}
		return strings.Compare(a.Spot+a.Prop, b.Spot+b.Prop)
	})
	return out
}

// open reports whether a mix has two sides that each stand on several screens
// and together cover nearly all.
func open(m *usage.Mix) bool {
	if m.Screens < 2*SideFrom || len(m.Values) < 2 {
		return false
	}
	first, second := &m.Values[0], &m.Values[1]
	if before(second, first) {
		first, second = second, first
	}
	for i := 2; i < len(m.Values); i++ {
		switch v := &m.Values[i]; {
		case before(v, first):
			first, second = v, first
		case before(v, second):
			second = v
		}
	}
	total := m.Total()
	if len(second.Docs) < SideFrom || second.Weight/total < SideShare ||
		(first.Weight+second.Weight)/total < TwoCover {
		return false
	}
	// Screens that use both make a difference by it, they do not disagree.
	return float64(inBoth(first.Docs, second.Docs)) <= Both*float64(len(second.Docs))
}

// before orders values: more screens first, then by value.
func before(a, b *usage.Value) bool {
	if len(a.Docs) != len(b.Docs) {
		return len(a.Docs) > len(b.Docs)
	}
	return a.Value < b.Value
}

// inBoth counts what two sorted lists share.
func inBoth(a, b []int32) int {
	count := 0
	for i, j := 0, 0; i < len(a) && j < len(b); {
		switch {
		case a[i] < b[j]:
			i++
		case a[i] > b[j]:
			j++
		default:
			count++
			i++
			j++
		}
	}
	return count
}

// explained reports whether the finer spots each agree with themselves: then the
// mix comes from different places or roles, not from two minds.
func explained(s *usage.Spot, prop int) bool {
	m := &s.Mixes[prop]
	total := m.Total()
	return len(s.Kids) > 0 && total > 0 && agreement(s, prop)/total >= Explained
}

// agreement is the weight of screens that follow the majority, in the spot itself
// or in the finer ones, whichever explains more. One screen always agrees with
// itself; that explains nothing.
func agreement(s *usage.Spot, prop int) float64 {
	m := &s.Mixes[prop]
	if m.Screens < 2 {
		return 0
	}
	top, finer := 0.0, 0.0
	for _, v := range m.Values {
		top = max(top, v.Weight)
	}
	for _, k := range s.Kids {
		finer += agreement(k, prop)
	}
	// Finer spots of one screen each count it once; shares of it must not add up
	// to more than there is.
	return max(top, min(finer, m.Total()))
}
