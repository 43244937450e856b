package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "same-title", Title: "Two screens with one title", Severity: audit.Warning,
	Purpose: "What a screen is called tells it from the other screens of its application.",
	Why:     "Two tabs called “Tickets” are two chances to type into the wrong one.",
	Bad:     []string{},
	Good:    []string{`{"id":"a","type":"sorrel-text","text":"One screen alone."}`},
	Element: func(p *audit.Pass, n *audit.Node) {
		title := strings.ToLower(strings.TrimSpace(p.Doc.Title))
		if n.Parent == nil && p.Doc.Kind == screen.ScreenDoc && title != "" {
			p.Fact(n, p.Doc.App+" "+title, p.Doc.Route)
		}
	},
	Judge: func(g *audit.Group) {
		routes := g.Sorted()
		if len(routes) < 2 {
			return
		}
		for _, route := range routes[1:] {
			for _, place := range g.Values[route] {
				g.Report(place, "", "the screen on "+routes[0]+" has the same title", "")
			}
		}
	},
})
