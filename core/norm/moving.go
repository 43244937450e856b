package norm

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"ubiquant/core/cases"
)

// Moving says that the screens are on their way from one answer to another: the older ones give
// one, the newer ones the other.
type Moving struct {
	To    string `json:"to"`    // the answer that newer screens give
	Words string `json:"words"` // in words
	Since string `json:"since"` // when the first screen was made after which it is given, YYYY-MM-DD
	Done  int    `json:"done"`  // screens that give it …
	Of    int    `json:"of"`    // … of so many
}

// String is the move in words: "moving to end: 7 of 16 since 2026-10-05".
func (m *Moving) String() string {
	return fmt.Sprintf("moving to %s: %d of %d since %s", m.Words, m.Done, m.Of, m.Since)
}

// move is a leaf's way from one of its two most usual answers to the other.
type move struct {
	to    int // of the leaf's sides
	since string
}

// wayOf tells whether the two most usual answers of a leaf are told apart by when the screens were
// made: for each day on which screens were made, two shares (before, and from then on) compete
// with one share for all, by their likelihoods (binomial). What is gained is held against the days
// that were tried and, by the Bayesian information criterion (Schwarz, 1978), against the second
// share. Screens of unknown age, and those that give both answers, say nothing. nil where they are
// not told apart.
func (n *Norms) wayOf(l *leaf) *move {
	type dated struct {
		made string
		side int
	}
	answers := map[int32]int{}
	for side := range 2 {
		for _, d := range l.sides[side].docs {
			answers[d] |= 1 << side
		}
	}
	var list []dated
	for _, number := range slices.Concat(l.sides[0].docs, l.sides[1].docs) {
		if d := n.docs[number]; d.Made != "" && answers[number] != 3 {
			list = append(list, dated{d.Made, answers[number] - 1})
		}
	}
	if len(list) < movingFrom || 5*len(list) < 4*len(answers) {
		return nil
	}
	slices.SortFunc(list, func(a, b dated) int { return cmp.Or(cmp.Compare(a.made, b.made), a.side-b.side) })
	all := 0.0 // those of the second answer
	for _, d := range list {
		all += float64(d.side)
	}
	size := float64(len(list))
	likely := func(k, of float64) float64 {
		q := (k + 0.5) / (of + 1)
		return k*math.Log(q) + (of-k)*math.Log(1-q)
	}
	best, out := 0.0, (*move)(nil)
	days, before := 0.0, 0.0
	for i, d := range list {
		if i > 0 && d.made != list[i-1].made {
			days++
			from, to := before/float64(i), (all-before)/(size-float64(i))
			gain := likely(before, float64(i)) + likely(all-before, size-float64(i))
			side := 1
			if from > to {
				side, from, to = 0, 1-from, 1-to
			}
			if from <= 1-movedShare && to >= movedShare && (out == nil || gain > best) {
				best, out = gain, &move{side, d.made}
			}
		}
		before += float64(d.side)
	}
	if out == nil || best-likely(all, size)-math.Log(days)-math.Log(size)/2 < movedOdds {
		return nil
	}
	return out
}

// moves tells whether a leaf is a move that somebody can decide about: screens enough on both
// sides, and nothing that is there where it is needed.
func (n *Norms) moves(l *leaf) bool {
	return l.move != nil && l.screens >= leastScreens(l.group.Kind) &&
		len(l.sides[0].docs) >= sideScreens && len(l.sides[1].docs) >= sideScreens &&
		!(l.group.Kind == cases.Part && !askedParts(l.group.part)) && !n.ofThings(l.group)
}

// moving is a leaf's move as it is told; nil for none.
func (n *Norms) moving(l *leaf) *Moving {
	if !n.moves(l) {
		return nil
	}
	to := l.sides[l.move.to]
	return &Moving{
		To: n.word(l.group, to.value), Words: n.say(l.group, to.value), Since: l.move.since,
		Done: len(to.docs), Of: len(l.sides[0].docs) + len(l.sides[1].docs) - l.both,
	}
}
