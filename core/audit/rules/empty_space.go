package rules

import (
	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "empty-space", Title: "Empty element for space", Severity: audit.Warning,
	Purpose: "Room between things is the gap of what holds them, or a spacer.",
	Why:     "An empty element makes room by accident: it is read out, and it is gone when somebody tidies up.",
	Bad: []string{
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-text"}]}`,
		`{"id":"a","type":"stack","children":[{"id":"b","type":"stack"},{"id":"c","type":"sorrel-text","text":"x"}]}`,
	},
	Good: []string{
		`{"id":"a","type":"stack","props":{"gap":"5"},"children":[{"id":"b","type":"sorrel-text","text":"x"},{"id":"s","type":"spacer"}]}`,
		`{"id":"root","type":"section"}`,
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Parent == nil || len(n.Children) > 0 || n.Text.Kind != screen.None || n.Element.Type == "spacer" ||
			n.Element.Type == "outlet" {
			return
		}
		layout := n.Def.Level == kit.Layout && len(n.Def.Slots) > 0 && n.Element.Type != "column"
		words := n.Def.Labelled && n.Def.Role == "" && n.Def.NameProp == "" && len(n.Def.Parents) == 0
		if layout || words {
			p.Report(
				n,
				"",
				n.Def.Title+" is empty and only takes room",
				"Take it away",
				screen.Edit{Op: screen.Remove, ID: n.ID},
			)
		}
	},
})
