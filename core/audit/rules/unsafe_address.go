package rules

import (
	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/render"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "unsafe-address", Title: "Address that runs code", Severity: audit.Error,
	Code:    true,
	Purpose: "Addresses lead somewhere; they do not run code.",
	Why:     "Such an address is dropped when the screen is rendered: the link is dead, and would be a hole if it were not.",
	Bad: []string{
		`{"id":"a","type":"sorrel-link","text":"Help","props":{"to":"javascript:help()"}}`,
		`{"id":"a","type":"sorrel-picture","props":{"alt":"x","src":"data:text/html,x"}}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-link","text":"Help","props":{"to":"/"}}`,
		`{"id":"a","type":"sorrel-link","text":"Write","props":{"to":"mailto:x@example.org"}}`,
	},
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, def *kit.Prop) {
		if def != nil && def.URL && prop.Value.Kind == screen.Literal && !render.SafeURL(prop.Value.Text) {
			p.Report(
				n,
				prop.Name,
				prop.Name+" runs code instead of leading somewhere; it is not rendered",
				"Take it off",
				unset(n.ID, prop.Name),
			)
		}
	},
})
