package norm

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"ubiquant/core/cases"
)

// item is what one screen does in one context of a group, with how often.
type item struct {
	doc, value int32
	context    *cases.Context
	number     int32 // of the context
	uses       float64
	at         int32 // of the first such case among the document’s in the group
}

// Step is one fact that tells a branch apart.
type Step struct {
	Fact cases.Fact
	Word int32
	Is   bool // whether the branch has the word or has another
}

// mix is what the screens of a branch do: the weight of each value, a screen of several minds
// counted in shares.
type mix struct {
	weight []float64 // by value
	total  float64   // screens
}

func (m *mix) top() (value int32, share float64) {
	best := -1.0
	for v, w := range m.weight {
		if w > best {
			best, value = w, int32(v)
		}
	}
	if m.total == 0 {
		return value, 0
	}
	return value, best / m.total
}

// mute tells of a branch with neither one habit nor two.
func (m *mix) mute() bool {
	first, second := 0.0, 0.0
	for _, w := range m.weight {
		switch {
		case w > first:
			first, second = w, first
		case w > second:
			second = w
		}
	}
	return m.total > 0 && first/m.total < leastShare && (first+second)/m.total < TwoCover
}

// entropy of the weights, times the screens, in nats.
func entropy(weights ...[]float64) float64 {
	n, sum := 0.0, 0.0
	for v := range weights[0] {
		c := 0.0
		for _, w := range weights {
			c += w[v]
		}
		if c > 1e-9 {
			n += c
			sum += c * math.Log(c)
		}
	}
	if n == 0 {
		return 0
	}
	return n*math.Log(n) - sum
}

// share is a part of a screen, in steps of 2⁻²⁰: sums of such are exact, in whatever order.
func share(uses, of float64) float64 { return math.Round(uses/of*(1<<20)) / (1 << 20) }

// weigh counts screens: items are in the order of their documents.
func weigh(items []item, values int) mix {
	m := mix{weight: make([]float64, values)}
	for from := 0; from < len(items); {
		to, uses := from, 0.0
		for to < len(items) && items[to].doc == items[from].doc {
			uses += items[to].uses
			to++
		}
		for _, it := range items[from:to] {
			m.weight[it.value] += share(it.uses, uses)
		}
		m.total++
		from = to
	}
	return m
}

// branch is a part of a group whose contexts have something in common.
type branch struct {
	path  []Step
	items []item
}

// grower finds the contexts of one group.
type grower struct {
	book   *cases.Book
	values int
	skip   [cases.Facts]bool // facts that say what is decided, and so explain nothing
	table  map[int32]int
	out    []branch
}

// side is one side of a possible split.
type side struct {
	word    int32
	in, out mix
}

func (g *grower) grow(b branch) {
	m := weigh(b.items, g.values)
	several := 0
	for _, w := range m.weight {
		if w > 0 {
			several++
		}
	}
	if several < 2 || m.total < growFrom || len(b.path) >= deepest {
		g.out = append(g.out, b)
		return
	}
	_, share := m.top()
	tried := 0
	bestGain := 0.0
	var best Step
	for k := cases.Fact(0); k < cases.Facts; k++ {
		if g.skip[k] {
			continue
		}
		for _, s := range g.sides(b.items, k, &m) {
			if s.in.total < sideScreens || s.out.total < sideScreens {
				continue
			}
			tried++
			gain := entropy(s.in.weight, s.out.weight) - entropy(s.in.weight) - entropy(s.out.weight)
			if gain <= bestGain*(1+1e-9) {
				continue
			}
			ti, si := s.in.top()
			to, so := s.out.top()
			turns := ti != to && si > 0.6 && so > 0.6
			corner := si < 0.75 && so > 0.95 && (1-si)*s.in.total >= 3.5 ||
				so < 0.75 && si > 0.95 && (1-so)*s.out.total >= 3.5
			// What has a habit is not cut into a part in which everybody does otherwise: what
			// strays there would fall silent.
			mute := share >= leastShare && (s.in.mute() || s.out.mute())
			if turns || (share < firm || corner) && !mute {
				bestGain, best = gain, Step{k, s.word, true}
			}
		}
	}
	free := float64(min(several, 4) - 1)
	if bestGain == 0 || 2*bestGain <= math.Log(m.total)*free+2*math.Log(float64(max(2, tried))) {
		g.out = append(g.out, b)
		return
	}
	inside, outside := branch{path: append(slices.Clone(b.path), best)}, branch{}
	best.Is = false
	outside.path = append(slices.Clone(b.path), best)
	for _, it := range b.items {
		if it.context[best.Fact] == best.Word {
			inside.items = append(inside.items, it)
		} else {
			outside.items = append(outside.items, it)
		}
	}
	g.grow(inside)
	g.grow(outside)
}

// sides are the possible splits by one fact: each of its words against all others.
func (g *grower) sides(items []item, k cases.Fact, all *mix) []side {
	clear(g.table)
	var list []side
	find := func(w int32) int {
		i, ok := g.table[w]
		if !ok {
			i = len(list)
			g.table[w] = i
			list = append(list, side{word: w, in: mix{weight: make([]float64, g.values)}, out: mix{weight: make([]float64, g.values)}})
		}
		return i
	}
	var kinds []int
	for from := 0; from < len(items); {
		to, uses := from, 0.0
		kinds = kinds[:0]
		for to < len(items) && items[to].doc == items[from].doc {
			uses += items[to].uses
			if i := find(items[to].context[k]); !slices.Contains(kinds, i) {
				kinds = append(kinds, i)
			}
			to++
		}
		for _, i := range kinds {
			s := &list[i]
			inside := 0.0
			for _, it := range items[from:to] {
				if it.context[k] == s.word {
					inside += it.uses
				}
			}
			s.in.total++
			s.out.total-- // made good below where the screen has others too
			for _, it := range items[from:to] {
				s.out.weight[it.value] -= share(it.uses, uses)
				if it.context[k] == s.word {
					s.in.weight[it.value] += share(it.uses, inside)
				} else {
					s.out.weight[it.value] += share(it.uses, uses-inside)
				}
			}
			if inside < uses {
				s.out.total++
			}
		}
		from = to
	}
	if len(list) < 2 {
		return nil
	}
	for i := range list {
		s := &list[i]
		s.out.total += all.total
		for v := range s.out.weight {
			s.out.weight[v] = max(0, s.out.weight[v]+all.weight[v])
		}
	}
	slices.SortFunc(list, func(a, b side) int {
		return cmp.Or(cmp.Compare(b.in.total, a.in.total), strings.Compare(g.book.Text(a.word), g.book.Text(b.word)))
	})
	return list
}

// follows tells whether a context belongs to a branch.
func follows(path []Step, c *cases.Context) bool {
	for _, s := range path {
		if (c[s.Fact] == s.Word) != s.Is {
			return false
		}
	}
	return true
}
