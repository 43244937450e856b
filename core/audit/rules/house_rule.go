package rules

import (
	"ubiquant/core/audit"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

var _ = add(&audit.Rule{
	ID: "house-rule", Title: "Departure from a house rule", Severity: audit.Warning,
	Code:    true,
	Purpose: "What the team has settled is kept.",
	Why:     "Somebody decided it, with a reason that stands in the rule.",
	Element: func(p *audit.Pass, n *audit.Node) {
		for _, h := range p.House[n.Type] {
			key, ok := usage.ParseKey(h.Spot)
			if !ok || n.Spots[key.Level()].Key != key || !p.Holds(n, h.Where) {
				continue
			}
			def, ok := n.Def.Prop(h.Prop)
			if !ok {
				continue
			}
			value, ok := usage.Effective(n.Element, h.Prop, def.Default)
			if ok && value != h.Value {
				p.Report(
					n,
					h.Prop,
					"house rule for "+h.Words+": "+h.Prop+" is "+h.Value+", here "+orDefault(value)+" ("+h.Reason+")",
					"Set it to "+h.Value,
					screen.SetTo(def, n.Element, h.Value),
				)
			}
		}
	},
})

func orDefault(s string) string {
	if s == "" {
		return "not set"
	}
	return s
}
