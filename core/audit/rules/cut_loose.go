package rules

import (
	"fmt"
	"strconv"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "cut-loose", Title: "A copy cut loose from its piece", Severity: audit.Note,
	Purpose: "What is the same is one piece, so that one change reaches it everywhere.",
	Why:     "A copy of its own misses all later changes of the piece, and nobody notices.",
	Bad:     []string{`{"id":"a","type":"sorrel-card","origin":{"file":"piece:note","hash":"3"}}`},
	Good:    []string{`{"id":"a","type":"sorrel-card"}`},
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Element.Origin == nil || !strings.HasPrefix(n.Element.Origin.File, screen.PiecePrefix) {
			return
		}
		piece, ok := p.Cat.Component(n.Element.Origin.File)
		if !ok {
			p.Report(n, "", n.Def.Title+" was cut loose from a piece that is no longer there", "")
			return
		}
		message := n.Def.Title + " was cut loose from the piece " + piece.Title
		if then, err := strconv.Atoi(n.Element.Origin.Hash); err == nil && piece.Revision > then {
			message += fmt.Sprintf(" and misses what changed there since, %d edits", piece.Revision-then)
		}
		p.Report(n, "", message, "")
	},
})
