package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "value-outside", Title: "Value outside its choices", Severity: audit.Error,
	Code:    true,
	Purpose: "A prop with fixed choices holds one of them.",
	Why:     "The component falls back to its default, or to nothing, without a word.",
	Bad:     []string{`{"id":"a","type":"sorrel-button","text":"Save","props":{"emphasis":"primary"}}`},
	Good:    []string{`{"id":"a","type":"sorrel-button","text":"Save","props":{"emphasis":"strong"}}`},
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, def *kit.Prop) {
		if def == nil || def.Type != kit.Enum || !prop.Value.Known() ||
			def.Takes(prop.Value.Text) {
			return
		}
		message := prop.Name + " is “" + prop.Value.Text + "”; the choices are " + strings.Join(def.Values, ", ")
		if def.Default != "" {
			p.Report(n, prop.Name, message, "Back to the default, "+def.Default, unset(n.ID, prop.Name))
		} else {
			p.Report(n, prop.Name, message, "")
		}
	},
})
