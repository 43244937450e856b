package rules

import (
	"fmt"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "same-action-words", Title: "One action under different words", Severity: audit.Warning,
	Purpose: "A button or link that leads to the same place says the same on every screen.",
	Why:     "“New ticket” here and “Add a job” there look like two different things.",
	Bad: []string{
		`{"id":"a","type":"sorrel-button","text":"New ticket","props":{"to":"/tickets/new"}}`,
		`{"id":"a","type":"sorrel-button","text":"New ticket","props":{"to":"/tickets/new"}}`,
		`{"id":"a","type":"sorrel-button","text":"Add a job","props":{"to":"/tickets/new"}}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-button","text":"New ticket","props":{"to":"/tickets/new"}}`,
		`{"id":"a","type":"sorrel-button","text":"New ticket","props":{"to":"/tickets/new"}}`,
		`{"id":"a","type":"sorrel-button","text":"All tickets","props":{"to":"/tickets"}}`,
	},
	Settings: []audit.Setting{
		{Name: "screens", Help: "Screens that must agree before others are held to it", Default: "2", Number: true},
	},
	Looks: func(c *kit.Component) bool { return c.Role == "action" },
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Text.Kind != screen.Literal {
			return
		}
		if to, ok := n.Prop("to"); ok && to.Kind == screen.Literal && to.Text != "" {
			p.Fact(n, p.Doc.App+" "+to.Text, strings.TrimSpace(n.Text.Text))
		}
	},
	Judge: func(g *audit.Group) {
		usual, docs, clear := g.Majority()
		if !clear || docs < g.Number("screens") {
			return
		}
		_, to, _ := strings.Cut(g.Key, " ")
		for _, words := range g.Sorted() {
			if words == usual {
				continue
			}
			for _, place := range g.Values[words] {
				g.Report(
					place,
					"text",
					fmt.Sprintf("what leads to %s says “%s” here and “%s” on %d screens", to, words, usual, docs),
					"Say “"+usual+"”",
					screen.Edit{Op: screen.SetText, ID: place.Element, Value: screen.Lit(usual)},
				)
			}
		}
	},
})
