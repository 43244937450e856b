package rules

import (
	"fmt"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/screen"
)

// siblingStates are those that screens of records commonly have.
var siblingStates = []string{"loading", "empty", "error"}

var _ = add(&audit.Rule{
	ID: "state-missing", Title: "A state that the siblings have", Severity: audit.Note,
	Purpose: "Screens that show records are seen while these load, when there are none and when they cannot be had.",
	Why:     "What nobody looked at is met first by those who use it.",
	Bad:     []string{},
	Good: []string{
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-text","text":"x","repeat":{"model":"tickets"}}]}`,
	},
	Settings: []audit.Setting{
		{Name: "screens", Help: "Screens with the state before others are held to it", Default: "3", Number: true},
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Parent != nil || p.Doc.Kind != screen.ScreenDoc {
			return
		}
		records := false
		n.Element.Walk(func(e, _ *screen.Element) bool {
			records = records || e.Repeat != nil
			return !records
		})
		if !records {
			return
		}
		for _, s := range siblingStates {
			has := "lacks"
			if _, ok := p.Doc.State(s); ok {
				has = "has"
			}
			p.Fact(n, p.Doc.App+" "+s, has)
		}
	},
	Judge: func(g *audit.Group) {
		state := g.Key[strings.LastIndexByte(g.Key, ' ')+1:]
		g.Departs(g.Number("screens"), func(place audit.Place, _, usual string, docs int, certain bool) {
			if usual != "has" {
				return
			}
			message := fmt.Sprintf("it lacks the state %s, which %d screens like it have", state, docs)
			g.Report(place, "", message+map[bool]string{false: audit.TwoMinds}[certain], "")
		})
	},
})
