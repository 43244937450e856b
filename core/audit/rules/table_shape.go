package rules

import (
	"fmt"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "table-shape", Title: "Table columns and cells differ", Severity: audit.Error,
	Purpose: "Every column of a table has a head with words, every row as many cells as there are columns.",
	Why:     "A missing cell shifts all values after it under the wrong head.",
	Bad: []string{
		`{"id":"a","type":"sorrel-table","props":{"label":"Beds"},"children":[{"id":"b","type":"sorrel-column","slot":"columns","text":"Bed"},{"id":"c","type":"sorrel-column","slot":"columns","text":"Trees"},{"id":"d","type":"sorrel-row","children":[{"id":"e","type":"sorrel-cell","text":"North"}]}]}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-table","props":{"label":"Beds"},"children":[{"id":"b","type":"sorrel-column","slot":"columns","text":"Bed"},{"id":"d","type":"sorrel-row","children":[{"id":"e","type":"sorrel-cell","text":"North"}]}]}`,
	},
	Looks: func(c *kit.Component) bool { _, ok := c.Slot("columns"); return ok },
	Element: func(p *audit.Pass, n *audit.Node) {
		columns := 0
		for _, c := range n.Children {
			if c.Slot != "columns" {
				continue
			}
			columns++
			if c.Text.Kind == screen.None || (c.Text.Kind == screen.Literal && c.Text.Text == "") {
				if def, ok := p.Cat.Component(c.Type); ok {
					p.Report(&audit.Node{Element: c, Def: def, Parent: n}, "text", "the column has no head text", "")
				}
			}
		}
		if columns == 0 {
			return
		}
		for _, c := range n.Children {
			if c.Slot == "" && len(c.Children) > 0 && len(c.Children) != columns {
				p.Report(
					&audit.Node{Element: c, Parent: n},
					"",
					fmt.Sprintf("the row has %d cells, the table %d columns", len(c.Children), columns),
					"",
				)
			}
		}
	},
})
