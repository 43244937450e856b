package rules

import (
	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "loose-pager", Title: "A pager that turns nothing", Severity: audit.Note,
	Purpose: "A pager has a name, and what repeats takes its page from it.",
	Why:     "It shows “Page 1 of 7”, and page 2 is page 1 again.",
	Bad: []string{
		`{"id":"s","type":"stack","children":[{"id":"a","type":"sorrel-text","text":"x","repeat":{"model":"tickets","limit":10}},{"id":"p","type":"sorrel-pager","props":{"pages":7}}]}`,
	},
	Good: []string{
		`{"id":"s","type":"stack","children":[{"id":"a","type":"sorrel-text","text":"x","repeat":{"model":"tickets","limit":10,"page":"page"}},{"id":"p","type":"sorrel-pager","name":"page"}]}`,
		`{"id":"s","type":"stack","children":[{"id":"p","type":"sorrel-pager","props":{"pages":7}}]}`,
	},
	Looks: func(c *kit.Component) bool { return c.Holds == "page" },
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Name != "" || p.Doc.Kind != screen.ScreenDoc {
			return
		}
		if text, ok := fixed(n, kit.Does); ok && text != "" {
			return
		}
		// Where nothing repeats in parts, code of the team's own may turn the pages.
		parts := false
		p.Doc.Root.Walk(func(e, _ *screen.Element) bool {
			parts = parts || e.Repeat != nil && e.Repeat.Limit > 0 && e.Repeat.Page == ""
			return !parts
		})
		if parts {
			p.Report(n, "", n.Def.Title+" has no name, and nothing takes its page from it", "")
		}
	},
})
