package rules

import (
	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "active-by-hand", Title: "The mark of where one is, set by hand", Severity: audit.Warning,
	Purpose: "A bar marks the item of the screen that is shown, and no other.",
	Why:     "An item that is marked by hand is marked on every screen, and tells people that they are where they are not.",
	Bad: []string{
		`{"id":"b","type":"sorrel-navbar","children":[{"id":"a","type":"sorrel-nav-item","text":"Tickets","props":{"to":"/tickets","active":true}}]}`,
	},
	Good: []string{
		`{"id":"b","type":"sorrel-navbar","children":[{"id":"a","type":"sorrel-nav-item","text":"Tickets","props":{"to":"/tickets"}}]}`,
		`{"id":"b","type":"sorrel-navbar","children":[{"id":"a","type":"sorrel-nav-item","text":"Now","props":{"to":"/tickets","active":{"expr":"1 == 1"}}}]}`,
	},
	Looks: func(c *kit.Component) bool {
		_, _, ok := c.Place()
		return ok
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		leads, active, _ := n.Def.Place()
		v, ok := n.Prop(active.Name)
		if !ok || !v.Known() || v.Text != "true" {
			return
		}
		to, _ := n.Prop(leads.Name)
		switch {
		case p.Doc.Kind == screen.ShellDoc:
			p.Report(n, active.Name, "it is marked on every screen of this shell", "Let the bar mark it", unset(n.ID, active.Name))
		case p.Doc.Kind == screen.ScreenDoc && to.Kind == screen.Literal && to.Text != p.Doc.Route:
			p.Report(n, active.Name, "it is marked, and leads to another screen", "Let the bar mark it", unset(n.ID, active.Name))
		}
	},
})
