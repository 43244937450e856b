package norm

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/cases"
)

// Question is a place where the screens are of two minds.
type Question struct {
	Spot  string   `json:"spot"`            // the address of the spot that a house rule would be about
	ID    string   `json:"id"`              // see Key
	Where string   `json:"where,omitempty"` // and what else must hold for it
	Words string   `json:"words"`
	Rule  bool     `json:"rule"` // whether a house rule can hold it
	Prop  string   `json:"prop"`
	Kind  string   `json:"kind"`
	What  string   `json:"what"`
	Sides []Side   `json:"sides"`
	With  []string `json:"with,omitempty"` // what else is decided together with it, in words
	// Moving is there where the newer screens give one answer and the older ones the other.
	Moving *Moving `json:"moving,omitempty"`
}

// Key names a question over time.
func (q *Question) Key() string { return strings.Join([]string{q.Spot, q.Kind, q.Prop, q.Where}, "|") }

// Side is one answer to an open question.
type Side struct {
	Value   string   `json:"value"`
	Words   string   `json:"words"`
	Uses    int      `json:"uses"`
	Screens int      `json:"screens"`
	Docs    []string `json:"docs"`
	Like    Place    `json:"like"`
}

// CountQuestions is the number of open questions without listing them.
func (n *Norms) CountQuestions() int {
	n.mu.Lock()
	defer n.mu.Unlock()
	return len(n.open())
}

// Questions lists where the screens are of two minds, those on most screens first. What is
// decided together is asked once.
func (n *Norms) Questions() []Question {
	n.mu.Lock()
	defer n.mu.Unlock()
	open := n.open()
	out := make([]Question, 0, len(open))
	for _, leaves := range open {
		q := n.question(leaves[0])
		n.answers(leaves[0], &q)
		for _, l := range leaves[1:] {
			if what := n.what(l.group); l.group != leaves[0].group && !slices.Contains(q.With, what) {
				q.With = append(q.With, what)
			}
		}
		out = append(out, q)
	}
	slices.SortFunc(out, func(a, b Question) int {
		size := func(q Question) int { return q.Sides[0].Screens + q.Sides[1].Screens }
		return cmp.Or(cmp.Compare(size(b), size(a)), strings.Compare(a.Spot+a.Prop+a.Words, b.Spot+b.Prop+b.Words))
	})
	return out
}

// open are the leaves that are asked about, those decided together side by side.
func (n *Norms) open() [][]*leaf {
	if n.questions != nil {
		return n.questions
	}
	list := [][]*leaf{}
	order := slices.Collect(maps.Keys(n.asked))
	slices.SortFunc(order, func(a, b *leaf) int {
		return cmp.Or(
			cmp.Compare(rank[a.group.Kind], rank[b.group.Kind]),
			cmp.Compare(b.sides[1].weight, a.sides[1].weight),
			strings.Compare(n.what(a.group)+n.where(a), n.what(b.group)+n.where(b)),
		)
	})
	for _, l := range order {
		q := n.question(l)
		if n.isSettled(&q) || n.unasked(l) {
			continue
		}
		at := slices.IndexFunc(list, func(o []*leaf) bool {
			return slices.ContainsFunc(o, func(other *leaf) bool { return other.group == l.group || together(other, l) })
		})
		if at < 0 {
			list = append(list, []*leaf{l})
		} else {
			list[at] = append(list[at], l)
		}
	}
	n.questions = list
	return list
}

// Align lists what departs from one answer to an open question, with the repairs that bring it to
// that answer. ok is false where nothing of that name is asked.
func (n *Norms) Align(question, value string) (list []Stray, ok bool) {
	n.mu.Lock()
	defer n.mu.Unlock()
	for _, leaves := range n.open() {
		q := n.question(leaves[0])
		if q.ID != question {
			continue
		}
		l := leaves[0]
		at := slices.IndexFunc(l.sides, func(a Answer) bool { return n.word(l.group, a.value) == value })
		if at < 0 {
			return nil, false
		}
		// The same leaf, as it were if this answer held.
		turned := *l
		turned.sides = slices.Clone(l.sides)
		turned.sides[0], turned.sides[at] = turned.sides[at], turned.sides[0]
		turned.verdict = habit
		for _, a := range turned.sides[1:] {
			for _, number := range a.docs {
				for i, c := range n.docs[number].of(l.group.number) {
					if n.same(l.group, c.Value, a.value) && follows(l.path, n.book.Context(c.Context)) {
						d := &departure{leaf: &turned, doc: number, at: int32(i), value: a.value, sure: 1}
						if l.group.Kind == cases.Part {
							d.value = a.value
						}
						list = append(list, n.stray(d, Departs))
					}
				}
			}
		}
		sortStrays(list)
		return list, true
	}
	return nil, false
}

// unasked are things that nobody would settle.
func (n *Norms) unasked(l *leaf) bool {
	return l.group.Kind == cases.Meaning
}

// isSettled tells whether a house rule has decided a question: one about the same place, or about
// all of the component.
func (n *Norms) isSettled(q *Question) bool {
	return slices.ContainsFunc(n.settled, func(s Settled) bool {
		return s.Prop == q.Prop && (s.Spot == q.Spot && (s.Where == "" || s.Where == q.Where) || strings.HasPrefix(s.Spot, q.Spot+"~"))
	})
}

// together tells whether two questions divide the screens in the same way.
func together(a, b *leaf) bool {
	side := map[int32]int{}
	for i := range 2 {
		for _, d := range a.sides[i].docs {
			side[d] |= 1 << i
		}
	}
	same, cross, all := 0, 0, len(side)
	for i := range 2 {
		for _, d := range b.sides[i].docs {
			switch s, ok := side[d]; {
			case !ok:
				all++
			case s == 1<<i:
				same++
			default:
				cross++
			}
		}
	}
	return max(same, cross)*10 >= all*8
}

// question is what a leaf asks, without the answers.
func (n *Norms) question(l *leaf) Question {
	q := Question{
		Words: n.where(l), Prop: n.propOf(l.group), Kind: kindNames[l.group.Kind], What: n.what(l.group),
	}
	q.Spot = n.book.Text(l.group.Comp)
	q.Rule = l.group.Kind == cases.Prop && l.group.B == 0
	q.Where = n.conditions(l)
	if l.group.Kind == cases.Part || l.group.Kind == cases.Order {
		q.Prop += " " + n.book.Text(l.group.A) + n.book.Text(l.group.B)
	}
	q.ID = q.Key()
	q.Moving = n.moving(l)
	return q
}

// conditions are what must hold beside the spot, as a house rule writes it.
func (n *Norms) conditions(l *leaf) string {
	where := make([]cases.Condition, len(l.path))
	for i, step := range l.path {
		where[i] = cases.Condition{Fact: step.Fact, Word: n.book.Text(step.Word), Not: !step.Is}
	}
	return cases.WriteWhere(where)
}

// answers lists what the screens of a leaf do.
func (n *Norms) answers(l *leaf, q *Question) {
	for _, a := range l.sides {
		s := Side{
			Value: n.word(l.group, a.value), Words: n.say(l.group, a.value), Uses: a.uses, Screens: len(a.docs),
			Docs: make([]string, 0, len(a.docs)),
		}
		for _, d := range a.docs {
			s.Docs = append(s.Docs, n.docs[d].key)
		}
		slices.Sort(s.Docs)
		s.Like = n.example(l, a)
		q.Sides = append(q.Sides, s)
	}
}

// example is an element that decides as an answer does: on the first screen by name.
func (n *Norms) example(l *leaf, a Answer) Place {
	best := Place{}
	for _, number := range a.docs {
		d := n.docs[number]
		if best.Doc != "" && d.key > best.Doc {
			continue
		}
		first := int32(-1)
		for _, c := range d.of(l.group.number) {
			if n.same(l.group, c.Value, a.value) && follows(l.path, n.book.Context(c.Context)) && (first < 0 || c.Use < first) {
				best, first = Place{d.key, d.Uses[c.Use].Element.ID}, c.Use
			}
		}
	}
	return best
}
