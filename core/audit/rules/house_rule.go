package rules

import (
	"slices"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

var _ = add(&audit.Rule{
	ID: "house-rule", Title: "Departure from a house rule", Severity: audit.Warning,
	Purpose: "What the team has settled is kept.",
	Why:     "Somebody decided it, with a reason that stands in the rule.",
	Element: func(p *audit.Pass, n *audit.Node) {
		for _, h := range p.House[n.Type] {
			key, ok := usage.ParseKey(h.Spot)
			if !ok || n.Spots[key.Level()].Key != key {
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
					SetTo(def, n.Element, h.Value),
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

// SetTo is the edit that brings a prop to a value: the default is reached by
// taking the setting off.
func SetTo(def *kit.Prop, e *screen.Element, value string) screen.Edit {
	if value == def.Default {
		return unset(e.ID, def.Name)
	}
	edit := set(e.ID, def.Name, value)
	switch {
	case def.Type == kit.Bool:
		edit.Value = screen.FlagValue(value == "true")
	case def.Type == kit.Number || (def.Type == kit.Enum && isNumber(value) && slices.Contains(def.Values, value) && allNumbers(def.Values)):
		edit.Value = screen.Value{Kind: screen.Num, Text: value}
	}
	return edit
}

func isNumber(s string) bool {
	for _, r := range s {
		if r < '0' || r > '9' {
			return false
		}
	}
	return s != ""
}

func allNumbers(list []string) bool {
	for _, s := range list {
		if !isNumber(s) {
			return false
		}
	}
	return true
}
