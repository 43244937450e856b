package rules

import (
	"ubiquant/core/audit"
	"ubiquant/core/kit"
)

var _ = add(&audit.Rule{
	ID: "plain-element", Title: "Plain element", Severity: audit.Note,
	Code:    true,
	Purpose: "What the kit has a component for is that component.",
	Why:     "A plain element has a look and a behaviour of its own, and no change of the kit reaches it.",
	Bad:     []string{`{"id":"a","type":"html-button","text":"Save"}`},
	Good:    []string{`{"id":"a","type":"sorrel-button","text":"Save"}`},
	Looks:   func(c *kit.Component) bool { return c.Plain && c.Replacement != "" },
	Element: func(p *audit.Pass, n *audit.Node) {
		of, ok := p.Cat.Component(n.Def.Replacement)
		if !ok || p.Doc.Source == "" {
			return
		}
		p.Report(n, "", "a plain "+n.Def.Title+" stands here, where the kit has "+of.Title, "")
	},
})
