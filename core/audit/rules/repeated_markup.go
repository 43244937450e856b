package rules

import (
	"fmt"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/screen"
)

// leastRepeated elements make a part worth a piece, so many of them in a row a repetition.
const (
	leastPart     = 4
	leastRepeated = 3

	leastPartInCode = 12 // of code, where layouts have more elements for the same
)

var _ = add(&audit.Rule{
	ID: "repeated-markup", Title: "The same part, again and again", Severity: audit.Note,
	Code:    true,
	Purpose: "What is the same several times is a repetition over records, or a piece.",
	Why:     "A change to one of five copies is forgotten on the other four.",
	Bad: []string{
		`{"id":"g","type":"grid","children":[` + copyOfCard("a") + `,` + copyOfCard("b") + `,` + copyOfCard("c") + `]}`,
	},
	Good: []string{
		`{"id":"g","type":"grid","children":[` + copyOfCard("a") + `,` + copyOfCard("b") + `]}`,
		`{"id":"g","type":"stack","children":[{"id":"a","type":"sorrel-text","text":"x"},{"id":"b","type":"sorrel-text","text":"y"},{"id":"c","type":"sorrel-text","text":"z"}]}`,
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		for from := 0; from < len(n.Children); {
			first := n.Children[from]
			to := from + 1
			for to < len(n.Children) && n.Children[to].Type == first.Type && n.Children[to].Repeat == nil && madeAlike(first, n.Children[to]) {
				to++
			}
			least := leastPart
			if p.Doc.Source != "" {
				least = leastPartInCode
			}
			if to-from >= leastRepeated && first.Repeat == nil && first.Count() >= least {
				def, _ := p.Cat.Component(first.Type)
				p.Report(&audit.Node{Element: first, Def: def, Parent: n}, "",
					fmt.Sprintf("this part of %d elements stands here %d times", first.Count(), to-from), "")
			}
			from = to
		}
	},
})

// copyOfCard is an example of a part with words of its own.
func copyOfCard(id string) string {
	return strings.ReplaceAll(
		`{"id":"X","type":"sorrel-card","children":[{"id":"Xh","type":"sorrel-heading","slot":"header","text":"X"},{"id":"Xt","type":"sorrel-text","text":"About X"},{"id":"Xl","type":"sorrel-link","slot":"footer","text":"Open","props":{"to":"/x"}}]}`,
		"X", id)
}

// madeAlike tells whether two parts are made of the same, whatever they say.
func madeAlike(a, b *screen.Element) bool {
	if a.Type != b.Type || a.Slot != b.Slot || a.Text.Kind != b.Text.Kind || len(a.Children) != len(b.Children) || len(a.Props) != len(b.Props) {
		return false
	}
	for i := range a.Props {
		if a.Props[i].Name != b.Props[i].Name || a.Props[i].Value.Kind != b.Props[i].Value.Kind {
			return false
		}
	}
	for i := range a.Children {
		if !madeAlike(a.Children[i], b.Children[i]) {
			return false
		}
	}
	return true
}
