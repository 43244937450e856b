package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
)

var _ = add(&audit.Rule{
	ID: "misspelt-component", Title: "Misspelt component", Severity: audit.Error,
	Code:    true,
	Purpose: "Every component that is used without an import is one that somebody registered.",
	Why:     "A name that nobody registered is left standing as an unknown element, and draws nothing.",
	Bad:     []string{`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-buton","text":"Save"}]}`},
	Good:    []string{`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-button","text":"Save","props":{"to":"/"}}]}`},
	Looks:   func(c *kit.Component) bool { return c.From == kit.Guessed },
	Element: func(p *audit.Pass, n *audit.Node) {
		own := lastName(n.Type)
		for _, c := range p.Kit.Components {
			if c.From != kit.Guessed && !c.Plain && c.Tag != n.Type && oneSlip(lastName(c.Tag), own) {
				p.Fact(n, n.Type, c.Title)
				return
			}
		}
	},
	Judge: func(g *audit.Group) {
		for _, near := range g.Sorted() {
			if places := g.Values[near]; len(places) <= mostMisspelt {
				for _, place := range places {
					g.Report(place, "", "no component has this name; near it is the kit’s "+near, "")
				}
			}
		}
	},
})

// lastName is a component's name without what all of a kit begin with.
func lastName(tag string) string {
	_, name, _ := strings.Cut(tag, "-")
	return strings.ReplaceAll(name, "-", "")
}
