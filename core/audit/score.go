package audit

import (
	"fmt"
	"math"
)

// What is held against an element counts as so much of it, the heaviest alone: nothing is
// counted twice.
var weights = map[Severity]float64{Error: 1, Warning: 0.6, Note: 0.3}

const strayCounts = 0.3

// With an error open a document stands no higher than the first, and each further element with
// one takes as much off as the second: a dangerous link is not outweighed by a long page.
const (
	atMostWithError = 70
	perFurtherError = 10
)

// Score is a document's consistency from 0 to 100, and how it comes about, a line for each part:
// the share of its elements that nothing is held against, an error counting as a whole element,
// a warning as 0.6, a note or a stray as 0.3 of one. strays are the ids of elements that stray.
func Score(elements int, findings []Finding, strays []string) (score int, why []string) {
	if elements == 0 {
		return 100, nil
	}
	held := map[string]float64{}
	for _, s := range strays {
		held[s] = strayCounts
	}
	stray := map[string]bool{}
	for _, s := range strays {
		stray[s] = true
	}
	for _, f := range findings {
		if w := weights[f.Severity]; w >= held[f.Element] {
			held[f.Element] = w
			stray[f.Element] = false
		}
	}
	counts := map[string]int{}
	lost := map[string]float64{}
	for element, w := range held {
		kind := "note"
		switch {
		case stray[element]:
			kind = "stray"
		case w == weights[Error]:
			kind = "error"
		case w == weights[Warning]:
			kind = "warning"
		}
		counts[kind]++
		lost[kind] += 100 * w / float64(elements)
	}
	out := 100.0
	for _, kind := range []string{"error", "warning", "note", "stray"} {
		if n := counts[kind]; n > 0 {
			out -= lost[kind]
			why = append(why, fmt.Sprintf("%d of %d elements with %s, −%.1f", n, elements, article(kind), lost[kind]))
		}
	}
	if n := counts["error"]; n > 0 {
		if most := float64(max(0, atMostWithError-perFurtherError*(n-1))); out > most {
			out = most
			why = append(why, fmt.Sprintf("with %d open %s no more than %.0f", n, plural("error", n), most))
		}
	}
	return int(math.Round(max(0, out))), why
}

func article(kind string) string {
	switch kind {
	case "error":
		return "an error"
	case "stray":
		return "what strays"
	}
	return "a " + kind
}

func plural(word string, n int) string {
	if n == 1 {
		return word
	}
	return word + "s"
}
