package rules

import (
	"fmt"

	"ubiquant/core/audit"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// lookProps are the looks that alike neighbours share.
var lookProps = []string{"size", "gap", "padding"}

var _ = add(&audit.Rule{
	ID: "odd-one-out", Title: "One of a row is otherwise", Severity: audit.Note,
	Code:    true,
	Purpose: "Neighbours of one kind have one size, and one room inside and between.",
	Why:     "Four buttons and one that is a little smaller look like a mistake, because it is one.",
	Bad: []string{
		`{"id":"g","type":"sorrel-button-group","children":[{"id":"a","type":"sorrel-button","text":"One","props":{"to":"/"}},{"id":"b","type":"sorrel-button","text":"Two","props":{"to":"/x","size":"s"}},{"id":"c","type":"sorrel-button","text":"Three","props":{"to":"/tickets"}},{"id":"d","type":"sorrel-button","text":"Four","props":{"to":"/export"}}]}`,
		`{"id":"g","type":"grid","children":[{"id":"a","type":"stack","props":{"gap":"3"}},{"id":"b","type":"stack","props":{"gap":"3"}},{"id":"c","type":"stack","props":{"gap":"5"}},{"id":"d","type":"stack","props":{"gap":"3"}}]}`,
	},
	Good: []string{
		// The first and the last may be meant to stand out.
		`{"id":"g","type":"grid","children":[{"id":"a","type":"stack","props":{"gap":"5"}},{"id":"b","type":"stack","props":{"gap":"3"}},{"id":"c","type":"stack","props":{"gap":"3"}},{"id":"d","type":"stack","props":{"gap":"3"}}]}`,
		`{"id":"g","type":"grid","children":[{"id":"a","type":"stack","props":{"gap":"5"}},{"id":"b","type":"stack","props":{"gap":"3"}},{"id":"c","type":"stack","props":{"gap":"5"}},{"id":"d","type":"stack","props":{"gap":"3"}}]}`,
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		if len(n.Children) < 4 {
			return
		}
		// Neighbours of one kind stand side by side, in one slot.
		for from := 0; from < len(n.Children); {
			to := from + 1
			for to < len(n.Children) && n.Children[to].Type == n.Children[from].Type && n.Children[to].Slot == n.Children[from].Slot {
				to++
			}
			if to-from >= 4 {
				oddOf(p, n, n.Children[from:to])
			}
			from = to
		}
	},
})

func oddOf(p *audit.Pass, parent *audit.Node, row []*screen.Element) {
	def, ok := p.Cat.Component(row[0].Type)
	if !ok {
		return
	}
	for _, name := range lookProps {
		prop, ok := def.Prop(name)
		if !ok {
			continue
		}
		values, odd := map[string]int{}, map[string]*screen.Element{}
		computed := false
		for _, e := range row {
			v, known := usage.Effective(e, name, prop.Default)
			computed = computed || !known || e.Repeat != nil
			values[v]++
			odd[v] = e
		}
		if computed || len(values) != 2 {
			continue
		}
		for v, count := range values {
			e := odd[v]
			if count != 1 || e == row[0] || e == row[len(row)-1] {
				continue
			}
			usual := ""
			for other := range values {
				if other != v {
					usual = other
				}
			}
			p.Report(&audit.Node{Element: e, Def: def, Parent: parent}, name,
				fmt.Sprintf("%s is %s here and %s on its %d neighbours", name, orDefault(v), orDefault(usual), len(row)-1),
				"As its neighbours", screen.SetTo(prop, e, usual))
		}
	}
}
