package rules

import (
	"fmt"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/cases"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "same-action-words", Title: "One action under different words", Severity: audit.Warning,
	Code:    true,
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
		`{"id":"a","type":"sorrel-button","text":"Cancel","props":{"to":"/tickets"}}`,
		`{"id":"a","type":"sorrel-button","text":"Cancel","props":{"to":"/tickets"}}`,
		`{"id":"a","type":"sorrel-button","text":"All tickets","props":{"to":"/tickets"}}`,
	},
	Settings: []audit.Setting{
		{Name: "screens", Help: "Screens that must agree before others are held to it", Default: "2", Number: true},
	},
	Looks: func(c *kit.Component) bool { return c.Role == "action" },
	Element: func(p *audit.Pass, n *audit.Node) {
		words := strings.TrimSpace(cases.NameOf(n.Def, n.Element))
		if words == "" {
			return
		}
		if to, ok := n.Prop(n.Def.LeadsBy()); ok && to.Kind == screen.Literal && to.Text != "" {
			// “All tickets” and “Cancel” lead to one place and mean two things.
			by := "text"
			if n.Text.Kind != screen.Literal {
				by = n.Def.NameProp
			}
			p.Fact(n, fmt.Sprintf("%s %d %s\x00%s", p.Doc.App, cases.Sense(words), to.Text, by), words)
		}
	},
	Judge: func(g *audit.Group) {
		parts := strings.SplitN(g.Key, " ", 3)
		to, by, _ := strings.Cut(parts[2], "\x00")
		g.Departs(g.Number("screens"), func(place audit.Place, words, usual string, docs int, certain bool) {
			message := fmt.Sprintf("what leads to %s says “%s” here and “%s” on %d screens", to, words, usual, docs)
			if !certain {
				g.Report(place, by, message+audit.TwoMinds, "")
				return
			}
			say := screen.Edit{Op: screen.Set, ID: place.Element, Prop: by, Value: screen.Lit(usual)}
			if by == "text" {
				say = screen.Edit{Op: screen.SetText, ID: place.Element, Value: screen.Lit(usual)}
			}
			g.Report(place, by, message, "Say “"+usual+"”", say)
		})
	},
})
