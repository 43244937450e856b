package rules

import "ubiquant/core/audit"

var _ = add(&audit.Rule{
	ID: "plain-markup", Title: "Plain markup", Severity: audit.Note,
	Purpose: "Screens are made of the kit's components, so that what is the same is one thing.",
	Why:     "Markup that was brought in has a look and a behaviour of its own, and no change of the kit reaches it.",
	Bad:     []string{`{"id":"a","type":"markup","text":"From an old page"}`},
	Good:    []string{`{"id":"a","type":"sorrel-text","text":"Of the kit"}`},
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Element.Type == "markup" {
			p.Report(n, "", "this is plain markup, no component of the kit yet", "")
		}
	},
})
