package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "unused-piece", Title: "A piece that nothing uses", Severity: audit.Note,
	Purpose: "A piece stands on a screen, in a shell or in another piece.",
	Why:     "What nobody uses is kept up to date by everybody.",
	Bad:     []string{},
	Good:    []string{`{"id":"a","type":"sorrel-text","text":"No piece."}`},
	Looks:   func(*kit.Component) bool { return true },
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Parent == nil && p.Doc.Kind == screen.PieceDoc {
			p.Fact(n, p.Doc.Address(), "is")
		}
		if strings.HasPrefix(n.Type, screen.PiecePrefix) && n.Type != p.Doc.Address() {
			p.Fact(n, n.Type, "used")
		}
	},
	Judge: func(g *audit.Group) {
		if len(g.Values["used"]) > 0 {
			return
		}
		for _, place := range g.Values["is"] {
			g.Report(place, "", "no screen and no other piece uses it", "")
		}
	},
})
