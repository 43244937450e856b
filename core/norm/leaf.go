package norm

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"ubiquant/core/cases"
)

// said are the facts that tell what is decided in each kind of group, and so do not explain it.
var said = map[cases.Kind][]cases.Fact{
	cases.Words:    {cases.Says, cases.Content, cases.Position, cases.Prev, cases.Next},
	cases.Style:    {cases.Says, cases.Field, cases.Content},
	cases.End:      {cases.Says, cases.Field, cases.Content},
	cases.Label:    {cases.Says, cases.Does},
	cases.Control:  {cases.Says, cases.Does, cases.Content, cases.Position, cases.Prev, cases.Next},
	cases.Shows:    {cases.Says, cases.Does, cases.Content, cases.Position, cases.Prev, cases.Next},
	cases.Format:   {cases.Says, cases.Does, cases.Content, cases.Position, cases.Prev, cases.Next},
	cases.Required: {cases.Says, cases.Does, cases.Content, cases.Position, cases.Prev, cases.Next},
	cases.Order:    {cases.Content, cases.Position},
	cases.Fields:   {cases.Content, cases.Position},
	cases.Part:     {cases.Content},
	cases.Meaning:  {cases.Says, cases.Does},
	cases.Slot:     {cases.Place, cases.Parent, cases.Position, cases.Prev, cases.Next, cases.Outer, cases.Host},
	cases.Tone:     {cases.Says, cases.Content},
}

// leavesOf finds the contexts of a group and what is done in each.
func (n *Norms) leavesOf(g *group, items []item, words []int32) {
	if len(words) < 2 {
		return
	}
	gr := grower{book: n.book, values: len(words), table: map[int32]int{}}
	gr.skip[cases.Owner] = true
	gr.skip[cases.Thing] = !ofFields[g.Kind]
	gr.skip[cases.Sort] = g.Kind == cases.Prop && n.book.Text(g.A) == "direction"
	for _, f := range said[g.Kind] {
		gr.skip[f] = true
	}
	sample := items
	if len(g.docs) > sampled {
		last := g.docs[sampled]
		if i := slices.IndexFunc(items, func(it item) bool { return it.doc == last }); i >= 0 {
			sample = items[:i]
		}
	}
	if len(words) > mostMinds {
		sample, gr.values = n.fewer(sample, words)
	}
	gr.grow(branch{items: sample})
	for _, b := range gr.out {
		l := &leaf{group: g, path: b.path}
		own := items
		if len(b.path) > 0 {
			own = make([]item, 0, len(b.items))
			for _, it := range items {
				if follows(b.path, it.context) {
					own = append(own, it)
				}
			}
		}
		n.fill(l, own, words)
		g.leaves = append(g.leaves, l)
	}
}

// fewer tells only the most usual values apart; all others count as one.
func (n *Norms) fewer(items []item, words []int32) ([]item, int) {
	m := weigh(items, len(words))
	order := make([]int32, len(words))
	for v := range order {
		order[v] = int32(v)
	}
	slices.SortFunc(order, func(a, b int32) int {
		return cmp.Or(cmp.Compare(m.weight[b], m.weight[a]), strings.Compare(n.book.Text(words[a]), n.book.Text(words[b])))
	})
	to := make([]int32, len(words))
	for i, v := range order {
		to[v] = int32(min(i, mostMinds))
	}
	out := slices.Clone(items)
	for i := range out {
		out[i].value = to[out[i].value]
	}
	return out, mostMinds + 1
}

// fill counts what the screens of a leaf do, and notes what departs.
func (n *Norms) fill(l *leaf, items []item, words []int32) {
	m := weigh(items, len(words))
	l.screens = m.total
	byValue := make([]Answer, len(words))
	for v := range byValue {
		byValue[v].value = words[v]
		byValue[v].weight = math.Round(m.weight[v]*1024) / 1024
	}
	for _, it := range items {
		a := &byValue[it.value]
		a.uses += int(it.uses)
		if len(a.docs) == 0 || a.docs[len(a.docs)-1] != it.doc {
			a.docs = append(a.docs, it.doc)
		}
	}
	order := make([]int32, 0, len(words))
	for v := range byValue {
		if byValue[v].uses > 0 {
			order = append(order, int32(v))
		}
	}
	slices.SortFunc(order, func(a, b int32) int {
		return cmp.Or(cmp.Compare(byValue[b].weight, byValue[a].weight),
			strings.Compare(n.word(l.group, words[a]), n.word(l.group, words[b])))
	})
	at := make([]int, len(words))
	for i, v := range order {
		l.sides = append(l.sides, byValue[v])
		at[v] = i
	}
	l.likelihoods()
	if len(l.sides) < 2 {
		return
	}
	l.both = inBoth(l.sides[0].docs, l.sides[1].docs)
	l.move = n.wayOf(l)
	if l.sides[0].weight/l.screens < leastShare || l.screens < leastScreens(l.group.Kind) {
		return
	}
	firstV := order[0]
	looks := map[int32]map[int32]int{} // of each document: the values that it shows, and how often
	for _, it := range items {
		if looks[it.doc] == nil {
			looks[it.doc] = map[int32]int{}
		}
		looks[it.doc][it.value] += int(it.uses)
	}
	// Where a screen shows many values, or one of them as often as nobody slips beside what the
	// others do, it tells things apart by it.
	varied := func(doc, value int32) bool {
		shows := looks[doc]
		return l.group.Kind == cases.Prop &&
			(len(shows) >= manyLooks || shows[value] >= sameLook && shows[firstV] > 0)
	}
	for _, it := range items {
		if it.value == firstV {
			continue
		}
		for i := range int32(it.uses) {
			l.departs = append(l.departs, &departure{
				leaf: l, doc: it.doc, at: it.at + i, value: words[it.value], answer: at[it.value],
				varied: varied(it.doc, it.value),
			})
		}
	}
	n.contexts(l, items, firstV, words)
	n.concentrated(l, items, words)
}

// concentrated tells how likely it is that the screens which depart do so in the same corner by
// chance: slips fall anywhere on a screen, a habit always in its place.
func (n *Norms) concentrated(l *leaf, items []item, words []int32) {
	for a := 1; a < len(l.sides); a++ {
		l.sides[a].chance = 1
		docs := l.sides[a].docs
		if len(docs) < sideScreens {
			continue
		}
		for k := cases.Fact(0); k < cases.Facts; k++ {
			if slices.Contains(said[l.group.Kind], k) {
				continue
			}
			word, chance, same := int32(-1), 1.0, true
			for from := 0; from < len(items) && same; {
				to, uses, in := from, 0.0, 0.0
				for to < len(items) && items[to].doc == items[from].doc {
					if words[items[to].value] == l.sides[a].value {
						if word < 0 {
							word = items[to].context[k]
						}
						same = same && word == items[to].context[k]
						in = 1
					}
					to++
				}
				if in > 0 && same {
					in = 0
					for _, it := range items[from:to] {
						uses += it.uses
						if it.context[k] == word {
							in += it.uses
						}
					}
					chance *= in / uses
				}
				from = to
			}
			if same {
				l.sides[a].chance = min(l.sides[a].chance, chance*factsTried)
			}
		}
	}
}

// alike is how often what is seen on a single screen of its kind has a habit of its own. What has
// a type is mostly treated as its type is.
func (n *Norms) alike(g *group) float64 {
	if typed := strings.HasPrefix(n.book.Text(g.A), "type."); typed {
		switch g.Kind {
		case cases.Format:
			return ownFormat
		case cases.Control, cases.Shows:
			return ownComponent
		}
	}
	return ownAlone
}

// telling are facts by which a single screen, or a single kind of button, is of its own kind.
var telling = map[cases.Fact]bool{cases.Main: true, cases.Dialog: true, cases.Shell: true, cases.App: true, cases.Says: true, cases.Sort: true}

// ofScreen are those of them that all of a screen has.
var ofScreen = map[cases.Fact]bool{cases.Main: true, cases.Dialog: true, cases.Shell: true, cases.App: true, cases.Route: true, cases.Thing: true}

// ofLooks are the kinds of decisions on how one of many alike looks.
var ofLooks = map[cases.Kind]bool{cases.Prop: true, cases.Space: true}

// ofFields are the kinds of decisions about a field of a thing.
var ofFields = map[cases.Kind]bool{
	cases.Label: true, cases.Control: true, cases.Shows: true, cases.Format: true, cases.Required: true,
}

// whatFor are the kinds of decisions that follow from what a screen is for.
var whatFor = map[cases.Kind]bool{cases.Part: true, cases.Words: true, cases.Order: true}

// contexts tells for each departure how it stands in the contexts that a slip does not change.
func (n *Norms) contexts(l *leaf, items []item, first int32, words []int32) {
	if len(l.departs) == 0 {
		return
	}
	type tally struct {
		screens float64
		own     bool
		depart  map[int32]float64
	}
	solid := cases.Solid
	switch {
	case l.group.Kind == cases.Prop:
		solid = append(slices.Clone(solid), cases.Says, cases.Does, cases.Sort)
	case ofFields[l.group.Kind] || l.group.Kind == cases.Words:
		solid = append(slices.Clone(solid), cases.Thing)
	}
	byField := ofFields[l.group.Kind] || slices.ContainsFunc(l.path, func(s Step) bool {
		return s.Fact == cases.Field || s.Fact == cases.Type || s.Fact == cases.Content
	})
	for _, k := range solid {
		if slices.Contains(said[l.group.Kind], k) ||
			slices.ContainsFunc(l.path, func(s Step) bool { return s.Fact == k && s.Is }) {
			continue
		}
		byWord := map[int32]*tally{}
		for from := 0; from < len(items); {
			to := from
			for to < len(items) && items[to].doc == items[from].doc {
				to++
			}
			for i := from; i < to; i++ {
				w := items[i].context[k]
				t := byWord[w]
				if t == nil {
					t = &tally{depart: map[int32]float64{}}
					byWord[w] = t
				}
				uses, seen := 0.0, false
				for j := from; j < to; j++ {
					if items[j].context[k] == w {
						uses += items[j].uses
						seen = seen || j < i
					}
				}
				if !seen {
					t.screens++
				}
				t.depart[items[i].value] += share(items[i].uses, uses)
			}
			from = to
		}
		// A context of one screen says less of how contexts are.
		says := func(t *tally) (own, of int) {
			of = 10
			if t.screens < 2 {
				of = loneContext
			}
			if t.own {
				own = of
			}
			return own, of
		}
		own, contexts := 0, 0 // in tenths
		for _, t := range byWord {
			t.own = t.depart[first] < t.screens/2
			a, b := says(t)
			own, contexts = own+a, contexts+b
		}
		if len(byWord) < 2 {
			continue
		}
		number := map[int32]int32{}
		for v, w := range words {
			number[w] = int32(v)
		}
		for _, d := range l.departs {
			c := n.caseOf(d)
			t := byWord[n.book.Context(c.Context)[k]]
			a, b := says(t)
			likely := (ownHabit*ownScreens + float64(own-a)/10) / (ownScreens + float64(contexts-b)/10)
			if k == cases.Sort && t.screens < sideScreens || t.screens < 2 && (telling[k] || k == cases.Thing && byField || k == cases.Route && whatFor[l.group.Kind] || k == cases.Field && byField) {
				// Its other elements of another make vouch for nothing. Where it is the screen that is of its own kind,
				// many that do as the others vouch for it.
				hit := t.screens
				if share := t.depart[number[d.value]]; ofScreen[k] && ofLooks[l.group.Kind] && share <= t.screens*fewOfOwn {
					hit = math.Round(share*64) / 64
				}
				d.facts = append(d.facts, [3]float64{hit, t.screens, n.alike(l.group)})
				continue
			}
			d.facts = append(d.facts, [3]float64{math.Round(t.depart[number[d.value]]*64) / 64, t.screens, likely})
		}
	}
}

// word is the text of a value; parts have none and are there or not.
func (n *Norms) word(g *group, value int32) string {
	if g.Kind == cases.Part {
		return [2]string{"no", "yes"}[value]
	}
	return n.book.Text(value)
}

// inBoth counts what two sorted lists share.
func inBoth(a, b []int32) int {
	in := make(map[int32]bool, len(a))
	for _, d := range a {
		in[d] = true
	}
	count := 0
	for _, d := range b {
		if in[d] {
			count++
		}
	}
	return count
}

// weighWorkspace finds the workspace's own rate of slips and how often each kind of thing has
// one habit, and tells whether they moved. All leaves are asked together: the rate is the one
// under which what they do is most likely.
func (n *Norms) weighWorkspace() (moved bool) {
	var all [maxRates]int64
	for k := range n.sums {
		for i := range rates {
			all[i] += n.sums[k][i]
		}
	}
	moved = n.one[0] == 0
	for k := range n.sums {
		// The rate of a kind, that of all kinds standing in for what is not known of it.
		best := 0
		for i := range rates {
			if kindWeight*n.sums[k][i]+all[i] > kindWeight*n.sums[k][best]+all[best] {
				best = i
			}
		}
		moved = moved || best != n.rate[k]
		n.rate[k] = best
	}
	for k := range n.one {
		one := (oneHabit*oneLeaves + float64(n.alone[k][n.rate[k]])/scale) / (oneLeaves + float64(n.leaves[k]))
		// In steps, so that it seldom moves.
		logit := math.Round(oneSteps*math.Log(one/(1-one))) / oneSteps
		one = math.Min(mostOne, sigmoid(logit))
		moved = moved || one != n.one[k]
		n.one[k] = one
	}
	return moved
}

// likelihoods are how much likelier what a leaf does is under one habit than under two, for each
// rate of slips.
func (l *leaf) likelihoods() {
	if l.screens < min(8, leastScreens(l.group.Kind)+3) || len(l.sides) == 0 {
		return
	}
	k := l.screens - l.sides[0].weight
	l.likely = make([]float64, len(rates))
	if k > l.screens/2 {
		for i := range l.likely {
			l.likely[i] = -manyMinds
		}
		return
	}
	two := twoLog(k, l.screens)
	for i, r := range rates {
		l.likely[i] = oneLog(k, l.screens, r) - two
	}
}

// weigh finds what a leaf amounts to, at the workspace's rate of slips.
func (n *Norms) weigh(l *leaf) {
	l.verdict = few
	if l.screens < leastScreens(l.group.Kind) || len(l.sides) == 0 {
		return
	}
	if len(l.sides) == 1 {
		l.verdict = habit
		return
	}
	first, second := &l.sides[0], &l.sides[1]
	for i := range l.sides[1:] {
		a := &l.sides[i+1]
		a.odds = odds(a.weight, l.screens, rates[n.rate[l.group.Kind]], n.one[l.group.Kind])
	}
	switch {
	case n.moves(l):
		l.verdict = two // however few have moved so far
	case second.odds < askBelow && len(second.docs) >= sideScreens && len(first.docs) >= sideScreens &&
		(first.weight+second.weight)/l.screens >= TwoCover && float64(l.both) <= Both*float64(len(second.docs)):
		l.verdict = two
		if l.group.Kind == cases.Part && !askedParts(l.group.part) || n.ofThings(l.group) {
			l.verdict = free // there where it is needed
		}
	case first.weight/l.screens >= leastShare:
		l.verdict = habit
	default:
		l.verdict = free
	}
	for _, d := range l.departs {
		a := &l.sides[d.answer]
		// This leaf's own rate of slips, the workspace's standing in for what is not known.
		rate := (rates[n.rate[l.group.Kind]]*ownRate + a.weight) / (ownRate + l.screens)
		shared := 1.0
		if a.chance < 1 {
			shared = a.chance / (a.chance + ownCorner)
		}
		for _, f := range d.facts {
			shared = min(shared, slipped(f[0], f[1], rate, f[2]))
		}
		d.sure = n.meant(d, first.value) * sigmoid(a.odds) * shared * (1 - a.weight/l.screens) * (1 - 1/(1+float64(len(first.docs))))
		if d.varied {
			d.sure *= variedScreen
		}
	}
}

// leastScreens are the screens from which something is said: one thing has few.
func leastScreens(k cases.Kind) float64 {
	if k == cases.Fields {
		return 3
	}
	return LookFrom
}

// ofThings tells whether a group is about an order that things have and nobody decides.
func (n *Norms) ofThings(g *group) bool {
	return g.Kind == cases.Fields ||
		g.Kind == cases.Order && !(strings.Contains(n.book.Text(g.A), " ") && strings.Contains(n.book.Text(g.B), " "))
}

// askedParts are the parts that a screen has by decision and not because there is something to
// show: those in a slot of their own.
func askedParts(part string) bool {
	return strings.HasPrefix(part, "+") && !strings.HasPrefix(part, "+:") && strings.Count(part, ":") == 1
}

// tells reports whether a departure in a setting says something by itself.
func (n *Norms) tells(g *group, value int32) bool {
	def := n.def(n.book.Text(g.Comp))
	return def != nil && def.Tells(n.book.Text(g.A), n.book.Text(value))
}

// warns reports whether one of two values says that something takes away for good, and the words
// do not say that this is wrong here, or right. How many do otherwise tells nothing of it.
func (n *Norms) warns(d *departure, usual int32) bool {
	g := d.leaf.group
	def := n.def(n.book.Text(g.Comp))
	if def == nil || def.Role != "action" {
		return false
	}
	prop, danger := def.DangerBy()
	if prop == nil || prop.Name != n.book.Text(g.A) {
		return false
	}
	words := cases.NameOf(def, n.element(d))
	switch danger {
	case n.book.Text(d.value):
		return !cases.Harmless(words)
	case n.book.Text(usual):
		return !cases.TakesAway(words)
	}
	return false
}

// plainly reports whether a button is told to do nothing of itself where the others are not told:
// without that it may send the form around it.
func (n *Norms) plainly(g *group, value, usual int32) bool {
	def := n.def(n.book.Text(g.Comp))
	if def == nil || n.book.Text(usual) != "" || n.book.Text(value) != "button" {
		return false
	}
	by := def.SendsBy()
	return by != nil && by.Name == n.book.Text(g.A)
}

// steps reports whether a text of no other purpose is set in another of the steps that a team sets
// texts in: which it is follows from what it says.
func (n *Norms) steps(d *departure) bool {
	def := n.def(n.book.Text(d.leaf.group.Comp))
	if def == nil || d.leaf.group.B != 0 || len(d.leaf.sides[d.answer].docs) < sideScreens {
		return false
	}
	by := def.StepBy()
	return by != nil && by.Name == n.book.Text(d.leaf.group.A)
}

// meant is how likely a departure can be a slip at all, by what it says: words that mean another
// thing are no other words for the same.
func (n *Norms) meant(d *departure, usual int32) float64 {
	g, value := d.leaf.group, d.value
	switch {
	case g.Kind == cases.Part && strings.HasPrefix(g.part, "="):
		return optionalText
	case g.Kind == cases.Part && !g.alike:
		return optionalPart
	case g.Kind == cases.Order && n.ofThings(g):
		return looseOrder
	case g.Kind == cases.Prop && n.tells(g, value):
		return saidState
	case g.Kind == cases.Prop && n.warns(d, usual):
		return saidDanger
	case g.Kind == cases.Prop && n.plainly(g, value, usual):
		return saidPlain
	case g.Kind == cases.Prop && n.steps(d):
		return saidStep
	case g.Kind != cases.Words:
		return 1
	}
	here, there := n.book.Text(value), n.book.Text(usual)
	if g.B == 0 { // a heading or label
		if there == "{title}" {
			return ownTitle
		}
		if !strings.Contains(there, cases.Open) {
			return 1
		}
		return unlikeWords
	}
	a, b := cases.Sense(here), cases.Sense(there)
	firstA, _, _ := strings.Cut(here, " ")
	firstB, _, _ := strings.Cut(there, " ")
	switch {
	case a != 0 && a == b && firstA != firstB:
		return 1
	case a == 0 && b == 0 && firstA != firstB:
		return strangeWords
	}
	return unlikeWords
}
