package rules

import "ubiquant/core/audit"

var _ = add(&audit.Rule{
	ID: "left-out", Title: "An entry the team left out", Severity: audit.Warning,
	Purpose: "Screens use what the team took from the kit.",
	Why:     "The team decided to do without it, so that there is one way to do a thing.",
	Bad:     []string{`{"id":"a","type":"sorrel-divider"}`}, // where a team left dividers out
	Good:    []string{`{"id":"a","type":"sorrel-chip","text":"Thriving"}`},
	Element: func(p *audit.Pass, n *audit.Node) {
		if reason, out := p.Kit.Left[n.Element.Type]; out {
			p.Report(n, "", n.Def.Title+" is left out here: "+reason, "")
		}
	},
})
