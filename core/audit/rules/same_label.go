package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "same-label", Title: "Two fields with one label", Severity: audit.Warning,
	Purpose: "The fields of one form, and the columns of one table, say what tells them apart.",
	Why:     "“Date” and “Date” are the first and the last day, and nobody knows which is which.",
	Bad: []string{
		`{"id":"f","type":"sorrel-form","children":[{"id":"a","type":"sorrel-field","props":{"label":"Date"},"children":[{"id":"b","type":"sorrel-text-input","props":{"name":"from"}}]},{"id":"c","type":"sorrel-field","props":{"label":"Date"},"children":[{"id":"d","type":"sorrel-text-input","props":{"name":"to"}}]}]}`,
		`{"id":"t","type":"sorrel-table","children":[{"id":"a","type":"sorrel-column","slot":"columns","text":"Date"},{"id":"b","type":"sorrel-column","slot":"columns","text":"Date"}]}`,
	},
	Good: []string{
		`{"id":"f","type":"sorrel-form","children":[{"id":"a","type":"sorrel-field","props":{"label":"From"},"children":[{"id":"b","type":"sorrel-text-input","props":{"name":"from"}}]},{"id":"c","type":"sorrel-field","props":{"label":"To"},"children":[{"id":"d","type":"sorrel-text-input","props":{"name":"to"}}]}]}`,
	},
	Looks: func(c *kit.Component) bool {
		_, columns := c.Slot("columns")
		return c.RequiredBy() != nil || columns
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		sameHeads(p, n)
		label := labelOf(n)
		if label == "" || n.Repeat != nil || n.Parent == nil {
			return
		}
		if n.Closest(func(a *audit.Node) bool { return a.Repeat != nil }) != nil {
			return
		}
		form := n.Closest(func(a *audit.Node) bool { return a.Def != nil && a.Def.Level == kit.Composite })
		if form == nil {
			return
		}
		type claim struct{ form, label string }
		seen := audit.Remember[map[claim]string](p)
		if *seen == nil {
			*seen = map[claim]string{}
		}
		key := claim{form.ID, label}
		first, taken := (*seen)[key]
		if !taken {
			(*seen)[key] = n.ID
			return
		}
		if v := value(n, n.Def.LabelBy()); v.Kind == screen.Literal && first != n.ID {
			p.Report(n, n.Def.LabelBy().Name, "“"+strings.TrimSpace(v.Text)+"” is the label of "+first+" too", "")
		}
	},
})

// sameHeads tells of columns of a table that are headed alike.
func sameHeads(p *audit.Pass, n *audit.Node) {
	seen := map[string]string{}
	for _, c := range n.Children {
		head := strings.ToLower(strings.TrimSpace(c.Text.Text))
		if c.Slot != "columns" || c.Text.Kind != screen.Literal || head == "" || c.Repeat != nil {
			continue
		}
		first, taken := seen[head]
		if def, ok := p.Cat.Component(c.Type); ok && taken {
			p.Report(&audit.Node{Element: c, Def: def, Parent: n}, "text", "“"+strings.TrimSpace(c.Text.Text)+"” heads the column "+first+" too", "")
		}
		seen[head] = c.ID
	}
}
