package rules

import (
	"slices"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "required-missing", Title: "Required prop missing", Severity: audit.Error,
	Code:    true,
	Purpose: "Props the kit calls required are set.",
	Why:     "An icon button without a label has no name for a screen reader; a table without one cannot be told from another.",
	Bad:     []string{`{"id":"a","type":"sorrel-icon-button","props":{"icon":"pencil"}}`},
	Good:    []string{`{"id":"a","type":"sorrel-icon-button","props":{"icon":"pencil","label":"Edit"}}`},
	Looks: func(c *kit.Component) bool {
		return slices.ContainsFunc(c.Props, func(p kit.Prop) bool { return p.Required })
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		for i := range n.Def.Props {
			def := &n.Def.Props[i]
			if !def.Required {
				continue
			}
			given := slices.ContainsFunc(n.Children, func(c *screen.Element) bool { return c.Slot == def.Name }) // as elements
			if _, ok := fixed(n, def.Name); !ok && !given {
				p.Report(n, def.Name, n.Def.Title+" needs “"+def.Name+"”", "")
			}
		}
	},
})
