package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "empty-space", Title: "Empty element for space", Severity: audit.Warning,
	Purpose: "Room between things is the gap of what holds them, or a spacer.",
	Why:     "An empty element makes room by accident: it is read out, and it is gone when somebody tidies up.",
	Bad: []string{
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-text"}]}`,
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-text","text":"  "}]}`,
		`{"id":"a","type":"stack","children":[{"id":"b","type":"spacer"},{"id":"c","type":"spacer"}]}`,
		`{"id":"a","type":"stack","children":[{"id":"b","type":"stack"},{"id":"c","type":"sorrel-text","text":"x"}]}`,
	},
	Good: []string{
		`{"id":"a","type":"stack","props":{"gap":"5"},"children":[{"id":"b","type":"sorrel-text","text":"x"},{"id":"s","type":"spacer"}]}`,
		`{"id":"root","type":"section"}`,
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-empty-state","props":{"heading":"No tickets"}}]}`,
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		for i := 1; i < len(n.Children); i++ {
			a, b := n.Children[i-1], n.Children[i]
			if a.Type == "spacer" && b.Type == "spacer" && a.Slot == b.Slot {
				p.Report(&audit.Node{Element: b, Parent: n}, "", "a second spacer beside another; one with more room does", "")
			}
		}
		blank := n.Text.Kind == screen.None || n.Text.Kind == screen.Literal && strings.TrimSpace(n.Text.Text) == ""
		if n.Parent == nil || len(n.Children) > 0 || !blank || n.Element.Type == "spacer" || n.Element.Type == "outlet" {
			return
		}
		if n.Def.Plain && n.Type != kit.HostPrefix+"div" && n.Type != kit.HostPrefix+"section" || n.Def.Plain && len(n.Props) > 0 {
			return // a line, a field, or a box that a style draws
		}
		layout := n.Def.Level == kit.Layout && len(n.Def.Slots) > 0 && n.Element.Type != "column"
		words := n.Def.Labelled && n.Def.Role == "" && n.Def.NameProp == "" && len(n.Def.Parents) == 0
		if layout || words && !shows(n) {
			p.Report(
				n,
				"",
				n.Def.Title+" is empty and only takes room",
				"Take it away",
				screen.Edit{Op: screen.Remove, ID: n.ID},
			)
		}
	},
})

// shows tells whether an element shows anything by its props: words, a picture, an icon.
func shows(n *audit.Node) bool {
	for i := range n.Props {
		p := &n.Props[i]
		def, ok := n.Def.Prop(p.Name)
		if ok && !def.Handed && (def.Type == kit.Text || def.Type == kit.Number || def.Icon) && def.Tokens == "" && p.Value.Text != "" {
			return true
		}
	}
	return false
}
