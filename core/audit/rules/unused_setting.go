package rules

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// fewestUses of a piece tell of a setting that nobody sets.
const fewestUses = 2

var _ = add(&audit.Rule{
	ID: "unused-setting", Title: "A setting that no use of the piece sets", Severity: audit.Note,
	Purpose: "What a piece offers to be set is set somewhere.",
	Why:     "Whoever uses the piece looks at each of its settings, and whoever changes it keeps each working.",
	Bad:     []string{},
	Good:    []string{`{"id":"a","type":"sorrel-text","text":"No piece."}`},
	Looks:   func(*kit.Component) bool { return true },
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Parent == nil && p.Doc.Kind == screen.PieceDoc && p.Doc.Source == "" {
			for _, s := range p.Doc.Props {
				p.Fact(n, p.Doc.Address(), "is "+s.Name)
			}
		}
		if strings.HasPrefix(n.Type, screen.PiecePrefix) {
			p.Fact(n, n.Type, "used")
			for _, s := range n.Props {
				p.Fact(n, n.Type, "sets "+s.Name)
			}
		}
	},
	Judge: func(g *audit.Group) {
		if len(g.Values["used"]) < fewestUses {
			return
		}
		for _, value := range slices.Sorted(maps.Keys(g.Values)) {
			if name, ok := strings.CutPrefix(value, "is "); ok && len(g.Values["sets "+name]) == 0 {
				for _, place := range g.Values[value] {
					g.Report(place, "", fmt.Sprintf("none of its %d uses sets “%s”", len(g.Values["used"]), name), "")
				}
			}
		}
	},
})
