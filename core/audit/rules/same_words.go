package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/cases"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "same-words", Title: "Two actions with the same words", Severity: audit.Warning,
	Code:    true,
	Purpose: "Actions that stand together say what tells them apart.",
	Why:     "Two buttons that say “Open” leave it to luck which one is pressed.",
	Bad: []string{
		`{"id":"g","type":"sorrel-button-group","children":[{"id":"a","type":"sorrel-button","text":"Open","props":{"to":"/"}},{"id":"b","type":"sorrel-button","text":"Open","props":{"to":"/tickets"}}]}`,
	},
	Good: []string{
		`{"id":"g","type":"sorrel-button-group","children":[{"id":"a","type":"sorrel-button","text":"Open","props":{"to":"/"}},{"id":"b","type":"sorrel-button","text":"Open tickets","props":{"to":"/tickets"}}]}`,
		`{"id":"g","type":"stack","children":[{"id":"c","type":"sorrel-card","children":[{"id":"a","type":"sorrel-link","text":"Open","props":{"to":"/"}}]},{"id":"d","type":"sorrel-card","children":[{"id":"b","type":"sorrel-link","text":"Open","props":{"to":"/tickets"}}]}]}`,
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		if len(n.Children) < 2 {
			return
		}
		first := map[string]*screen.Element{}
		for _, e := range n.Children {
			def, ok := p.Cat.Component(e.Type)
			if !ok || def.Role != "action" && def.Role != "link" || e.Repeat != nil || e.Show != "" {
				continue
			}
			said := strings.ToLower(strings.TrimSpace(cases.NameOf(def, e)))
			if said == "" {
				continue
			}
			key := e.Slot + "\x00" + said
			if other := first[key]; other == nil {
				first[key] = e
			} else {
				p.Report(&audit.Node{Element: e, Def: def, Parent: n}, "", "“"+cases.NameOf(def, e)+"” is what "+other.ID+" beside it says too", "")
			}
		}
	},
})
