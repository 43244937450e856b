package rules

import (
	"ubiquant/core/audit"
)

var _ = add(&audit.Rule{
	ID: "unknown-component", Title: "Unknown component", Severity: audit.Error,
	Purpose: "Every element is a component of the kit, a piece or a layout.",
	Why:     "What the kit does not have is not shown, and cannot be delivered.",
	Bad:     []string{`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-carousel"}]}`},
	Good:    []string{`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-card"}]}`},
	Unknown: true,
	Element: func(p *audit.Pass, n *audit.Node) {
		p.Report(n, "", "the kit has no component “"+n.Type+"”", "")
	},
})
