package rules

import (
	"fmt"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "form-differs", Title: "Like forms differ", Severity: audit.Note,
	Purpose: "Forms about one thing ask for its fields in one order and demand the same of them.",
	Why:     "Who filled in the first form fills in the second by habit, and gets it wrong.",
	Bad: []string{
		`{"id":"a","type":"sorrel-form","children":[{"id":"b","type":"sorrel-field","props":{"label":"Title","required":true}},{"id":"c","type":"sorrel-field","props":{"label":"Due"}}]}`,
		`{"id":"a","type":"sorrel-form","children":[{"id":"b","type":"sorrel-field","props":{"label":"Title","required":true}},{"id":"c","type":"sorrel-field","props":{"label":"Due"}}]}`,
		`{"id":"a","type":"sorrel-form","children":[{"id":"c","type":"sorrel-field","props":{"label":"Due"}},{"id":"b","type":"sorrel-field","props":{"label":"Title"}}]}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-form","children":[{"id":"b","type":"sorrel-field","props":{"label":"Title","required":true}},{"id":"c","type":"sorrel-field","props":{"label":"Due"}}]}`,
		`{"id":"a","type":"sorrel-form","children":[{"id":"b","type":"sorrel-field","props":{"label":"Title","required":true}},{"id":"d","type":"sorrel-field","props":{"label":"Bed"}}]}`,
	},
	Looks: func(c *kit.Component) bool { return c.RequiredBy() != nil },
	Element: func(p *audit.Pass, n *audit.Node) {
		label := labelOf(n)
		if label == "" || n.Parent == nil {
			return
		}
		about := p.Doc.App + " " + thing(p.Doc.Route)
		required := value(n, n.Def.RequiredBy())
		p.Fact(
			n,
			about+"\x00required\x00"+label+"\x00"+n.Def.RequiredBy().Name,
			map[bool]string{true: "is required", false: "may be left out"}[required.Text == "true"],
		)
		for i, c := range n.Parent.Children {
			if c.ID != n.ID || i == 0 {
				continue
			}
			before := n.Parent.Children[i-1]
			if v, ok := before.Prop(n.Def.LabelBy().Name); ok && before.Type == n.Type && v.Kind == screen.Literal {
				a, b := strings.ToLower(strings.TrimSpace(v.Text)), label
				p.Fact(n, about+"\x00order\x00"+min(a, b)+"\x00"+max(a, b), a+" before "+b)
			}
		}
	},
	Judge: func(g *audit.Group) {
		parts := strings.Split(g.Key, "\x00")
		g.Departs(2, func(place audit.Place, is, usual string, docs int, certain bool) {
			doubt := map[bool]string{false: audit.TwoMinds}[certain]
			if parts[1] == "order" {
				g.Report(place, "", fmt.Sprintf("%s here, %s on %d like forms", is, usual, docs)+doubt, "")
				return
			}
			message := fmt.Sprintf("%s %s here and %s on %d like forms", parts[2], is, usual, docs)
			if !certain {
				g.Report(place, parts[3], message+doubt, "")
				return
			}
			required := parts[3]
			g.Report(place, required, message, "As on the others", screen.Edit{
				Op: screen.Set, ID: place.Element, Prop: required, Value: screen.FlagValue(usual == "is required"),
			})
		})
	},
})

// labelOf is what a field that can be required is called, in small letters.
func labelOf(n *audit.Node) string {
	if n.Def == nil || n.Def.RequiredBy() == nil {
		return ""
	}
	v := value(n, n.Def.LabelBy())
	if v.Kind != screen.Literal {
		return ""
	}
	return strings.ToLower(strings.TrimSpace(v.Text))
}

// thing is what a route is about: the first part of it.
func thing(route string) string {
	first, _, _ := strings.Cut(strings.TrimPrefix(route, "/"), "/")
	return first
}
