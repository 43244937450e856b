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
	ID: "danger-missing", Title: "What takes away does not look so", Severity: audit.Warning,
	Code:    true,
	Purpose: "An action that removes something looks as the others that do.",
	Why:     "Where most removing buttons warn by their looks, one that does not is pressed without a thought.",
	Bad: []string{
		`{"id":"s","type":"stack","children":[{"id":"a","type":"sorrel-button","text":"Remove","props":{"intent":"danger","to":"/a"}},{"id":"b","type":"sorrel-button","text":"Remove it","props":{"intent":"danger","to":"/b"}}]}`,
		`{"id":"s","type":"stack","children":[{"id":"a","type":"sorrel-button","text":"Delete all","props":{"intent":"danger","to":"/a"}}]}`,
		`{"id":"a","type":"sorrel-icon-button","props":{"icon":"bin","label":"Remove ticket","to":"/tickets"}}`,
	},
	Good: []string{
		`{"id":"s","type":"stack","children":[{"id":"a","type":"sorrel-button","text":"Remove","props":{"intent":"danger","to":"/a"}},{"id":"b","type":"sorrel-button","text":"Remove it","props":{"intent":"danger","to":"/b"}}]}`,
		`{"id":"s","type":"stack","children":[{"id":"a","type":"sorrel-button","text":"Delete all","props":{"intent":"danger","to":"/a"}}]}`,
		`{"id":"a","type":"sorrel-button","text":"Clear the filter","props":{"to":"/tickets"}}`,
	},
	Settings: []audit.Setting{
		{Name: "others", Help: "Removing actions that look so before others are held to it", Default: "3", Number: true},
	},
	Looks: func(c *kit.Component) bool { prop, _ := c.DangerBy(); return prop != nil && c.Role == "action" },
	Element: func(p *audit.Pass, n *audit.Node) {
		if !cases.TakesAway(cases.NameOf(n.Def, n.Element)) {
			return
		}
		prop, danger := n.Def.DangerBy()
		switch v, ok := n.Prop(prop.Name); {
		case ok && !v.Known() || n.Spread:
		case v.Text == danger:
			p.Fact(n, "removes", "danger")
		default:
			p.Fact(n, "removes", prop.Name+"="+danger)
		}
	},
	Judge: func(g *audit.Group) {
		so, plain := len(g.Values["danger"]), 0
		for value, places := range g.Values {
			if value != "danger" {
				plain += len(places)
			}
		}
		if so < g.Number("others") || so <= 2*plain {
			return
		}
		for _, lacks := range g.Sorted() {
			prop, danger, ok := strings.Cut(lacks, "=")
			if !ok {
				continue
			}
			called, value := danger, screen.Lit(danger)
			if danger == "true" { // a flag is called what it says
				called, value = prop, screen.FlagValue(true)
			}
			for _, place := range g.Values[lacks] {
				message := fmt.Sprintf("it takes something away and does not look so: %d others are “%s”", so, called)
				g.Report(place, prop, message, "Make it "+called, screen.Edit{Op: screen.Set, ID: place.Element, Prop: prop, Value: value})
			}
		}
	},
})
