package rules

import (
	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

const lineBreak = kit.HostPrefix + "br"

var _ = add(&audit.Rule{
	ID: "breaks-for-space", Title: "Line breaks for space", Severity: audit.Warning,
	Code:    true,
	Purpose: "Room between things is the gap of what holds them.",
	Why:     "Breaks of lines make as much room as a line of text has, which no step of space is, and stay when what they part is gone.",
	Bad:     []string{`{"id":"a","type":"stack","children":[{"id":"b","type":"html-br"},{"id":"c","type":"html-br"}]}`},
	Good: []string{
		`{"id":"a","type":"stack","children":[{"id":"b","type":"html-br"}]}`,
		// Words may stand between breaks within a text.
		`{"id":"a","type":"html-p","text":"Hollow Lane 4","children":[{"id":"b","type":"html-br"},{"id":"c","type":"html-br"}]}`,
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Text.Kind != screen.None {
			return
		}
		in := n.Children
		for i := 1; i < len(in); i++ {
			if in[i].Type == lineBreak && in[i-1].Type == lineBreak && in[i].Slot == in[i-1].Slot && (i == 1 || in[i-2].Type != lineBreak) {
				p.Report(&audit.Node{Element: in[i], Parent: n}, "", "line breaks in a row make room here; the gap of what holds them does", "")
			}
		}
	},
})
