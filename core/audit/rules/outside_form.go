package rules

import (
	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "outside-form", Title: "Sends a form that is not there", Severity: audit.Error,
	Purpose: "What sends a form stands in it.",
	Why:     "A button beside the form looks like its own and sends nothing.",
	Bad: []string{
		`{"id":"a","type":"stack","children":[{"id":"f","type":"sorrel-form","children":[{"id":"i","type":"sorrel-field","props":{"label":"Name"}}]},{"id":"b","type":"sorrel-button","text":"Save","props":{"action":"submit"}}]}`,
	},
	Good: []string{
		`{"id":"f","type":"sorrel-form","children":[{"id":"i","type":"sorrel-field","props":{"label":"Name"}},{"id":"b","type":"sorrel-button","slot":"actions","text":"Save","props":{"action":"submit"}}]}`,
	},
	Looks: func(c *kit.Component) bool {
		return c.SendsBy() != nil && c.Role == "action"
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		by := n.Def.SendsBy()
		if v := value(n, by); v.Kind != screen.Literal || v.Text != "submit" || p.Doc.Kind == screen.PieceDoc {
			return
		}
		// A form is what can be sent: a composite of the family that controls stand in.
		form := n.Closest(func(a *audit.Node) bool { return a.Def == nil || a.Def.Family == "forms" || a.Def.Answers == "submit" })
		if form != nil {
			return
		}
		p.Report(n, by.Name, "it sends a form, and stands in none", "")
	},
})
