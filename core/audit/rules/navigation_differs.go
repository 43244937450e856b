package rules

import (
	"fmt"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "navigation-differs", Title: "Navigation differs", Severity: audit.Warning,
	Purpose: "A bar of navigation has the same items in the same order wherever it stands.",
	Why:     "A copied bar misses the place that was added to the others.",
	Bad: []string{
		`{"id":"a","type":"sorrel-side-nav","children":[{"id":"b","type":"sorrel-nav-item","text":"Beds","props":{"to":"/"}}]}`,
		`{"id":"a","type":"sorrel-side-nav","children":[{"id":"b","type":"sorrel-nav-item","text":"Beds","props":{"to":"/"}}]}`,
		`{"id":"a","type":"sorrel-side-nav","children":[{"id":"b","type":"sorrel-nav-item","text":"All beds","props":{"to":"/"}}]}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-side-nav","children":[{"id":"b","type":"sorrel-nav-item","text":"Beds","props":{"to":"/"}}]}`,
		`{"id":"a","type":"sorrel-side-nav","children":[{"id":"b","type":"sorrel-nav-item","text":"Beds","props":{"to":"/"}}]}`,
	},
	Settings: []audit.Setting{
		{Name: "screens", Help: "Screens that must agree before others are held to it", Default: "2", Number: true},
	},
	Looks: func(c *kit.Component) bool { return c.Role == "bar" },
	Element: func(p *audit.Pass, n *audit.Node) {
		var items []string
		for _, c := range n.Children {
			def, ok := p.Cat.Component(c.Type)
			if !ok || def.Role != "link" {
				continue
			}
			to, _ := c.Prop(def.LeadsBy())
			text := c.Text
			if text.Kind != screen.Literal {
				continue
			}
			items = append(items, text.Text+" → "+to.Text)
		}
		if len(items) > 0 {
			p.Fact(n, p.Doc.App+" "+n.Type, strings.Join(items, ", "))
		}
	},
	Judge: func(g *audit.Group) {
		g.Departs(g.Number("screens"), func(place audit.Place, items, usual string, docs int, certain bool) {
			message := fmt.Sprintf("the navigation differs from %d others: here %s; there %s", docs, items, usual)
			g.Report(place, "", message+map[bool]string{false: audit.TwoMinds}[certain], "")
		})
	},
})
