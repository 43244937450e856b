package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "dead-control", Title: "Control that does nothing", Severity: audit.Warning,
	Purpose: "A button or link leads somewhere, sends a form, or is named so that code can reach it.",
	Why:     "A button that silently does nothing is found by a customer.",
	Bad: []string{
		`{"id":"a","type":"sorrel-button","text":"Export"}`,
		`{"id":"a","type":"sorrel-link","text":"More","props":{"to":"#"}}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-button","text":"Export","props":{"to":"/export"}}`,
		`{"id":"a","type":"sorrel-button","text":"Export","name":"exportButton"}`,
		`{"id":"a","type":"sorrel-button","text":"Export","props":{"disabled":true}}`,
		`{"id":"a","type":"sorrel-button","text":"Dark","props":{"does":"theme dark"}}`,
	},
	Looks: func(c *kit.Component) bool { return len(c.Acts) > 0 },
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Name != "" {
			return
		}
		if v := value(n, n.Def.DisabledBy()); v.Kind != screen.None && v.Text != "false" {
			return
		}
		if text, ok := fixed(n, kit.Does); ok && text != "" {
			return
		}
		for _, prop := range n.Def.Acts {
			v, ok := n.Prop(prop)
			if !ok {
				continue
			}
			text := strings.TrimSpace(v.Text)
			if !v.Known() {
				return
			}
			if text != "" && text != "#" && text != "none" {
				// A bar and its like show where one is; anything else that leads to where one is does nothing.
				bar := len(n.Def.Parents) > 0 || n.Closest(func(a *audit.Node) bool { return a.Def != nil && a.Def.Role == "bar" }) != nil
				if prop == n.Def.LeadsBy() && text == p.Doc.Route && p.Doc.Kind == screen.ScreenDoc && !bar {
					p.Report(n, prop, n.Def.Title+" leads to the screen that it stands on", "")
				}
				return
			}
		}
		p.Report(
			n,
			n.Def.Acts[0],
			n.Def.Title+" does nothing: it leads nowhere, sends no form and has no name for code to reach it",
			"",
		)
	},
})
