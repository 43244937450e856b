package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "unknown-prop", Title: "Unknown prop", Severity: audit.Error,
	Purpose: "Every prop that is set exists on its component, written as the kit writes it.",
	Why:     "A prop the component does not know has no effect; often its name is only spelled otherwise (capitals, dashes).",
	Bad:     []string{`{"id":"a","type":"sorrel-button","text":"Save","props":{"Emphasis":"strong"}}`},
	Good:    []string{`{"id":"a","type":"sorrel-button","text":"Save","props":{"emphasis":"strong"}}`},
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, def *kit.Prop) {
		if def != nil {
			return
		}
		fold := func(s string) string { return strings.ToLower(strings.ReplaceAll(s, "-", "")) }
		for _, known := range n.Def.Props {
			if fold(known.Name) == fold(prop.Name) {
				p.Report(
					n,
					prop.Name,
					n.Def.Title+" has no prop “"+prop.Name+"”; it is written “"+known.Name+"”",
					"Write it “"+known.Name+"”",
					unset(
						n.ID,
						prop.Name,
					),
					screen.Edit{Op: screen.Set, ID: n.ID, Prop: known.Name, Value: prop.Value},
				)
				return
			}
		}
		p.Report(n, prop.Name, n.Def.Title+" has no prop “"+prop.Name+"”", "Take it off", unset(n.ID, prop.Name))
	},
})
