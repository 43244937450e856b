package rules

import (
	"regexp"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var figure = regexp.MustCompile(`^[^\pL]*\d[\d.,\s]*[^\pL]*$`)

var _ = add(&audit.Rule{
	ID: "typed-figure", Title: "A figure typed beside computed ones", Severity: audit.Note,
	Purpose: "Figures that stand together are all computed, or all typed.",
	Why:     "The one that somebody typed to see how it looks is the one that is still there a year later.",
	Bad: []string{
		`{"id":"g","type":"grid","children":[{"id":"a","type":"sorrel-stat","props":{"label":"Open","value":{"expr":"text(size(tickets))"}}},{"id":"b","type":"sorrel-stat","props":{"label":"Late","value":"11"}}]}`,
	},
	Good: []string{
		`{"id":"g","type":"grid","children":[{"id":"a","type":"sorrel-stat","props":{"label":"Open","value":"14"}},{"id":"b","type":"sorrel-stat","props":{"label":"Late","value":"11"}}]}`,
		`{"id":"g","type":"grid","children":[{"id":"a","type":"sorrel-stat","props":{"label":"Open","value":{"expr":"text(size(tickets))"}}},{"id":"b","type":"sorrel-stat","props":{"label":"Gate","value":"North"}}]}`,
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		for i, c := range n.Children {
			v, ok := c.Prop("value")
			if !ok || !v.Known() || !figure.MatchString(v.Text) {
				continue
			}
			def, ok := p.Cat.Component(c.Type)
			if !ok || def.Role == "control" || def.Holds == "value" {
				continue
			}
			if prop, ok := def.Prop("value"); !ok || prop.Type != kit.Text {
				continue
			}
			for j, other := range n.Children {
				if o, ok := other.Prop("value"); i != j && other.Type == c.Type && ok && o.Kind == screen.Expr {
					p.Report(&audit.Node{Element: c, Def: def, Parent: n}, "value", "“"+v.Text+"” is typed; its neighbours are computed", "")
					break
				}
			}
		}
	},
})
