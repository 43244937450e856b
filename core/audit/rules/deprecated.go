package rules

import (
	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "deprecated", Title: "Deprecated use", Severity: audit.Warning,
	Code:    true,
	Purpose: "New work uses nothing that the kit is about to take away.",
	Why:     "The next version of the kit will not have it.",
	Bad: []string{
		`{"id":"a","type":"sorrel-tag","text":"old"}`,
		`{"id":"a","type":"sorrel-text","text":"x","props":{"color":"red"}}`,
	},
	Good: []string{`{"id":"a","type":"sorrel-chip","text":"new"}`},
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Def.Deprecated == "" {
			return
		}
		if n.Def.Replacement != "" {
			p.Report(n, "", n.Def.Title+" is deprecated: "+n.Def.Deprecated, "Replace it by "+n.Def.Replacement,
				screen.Edit{Op: screen.Replace, ID: n.ID, Tree: &screen.Element{ID: n.ID, Type: n.Def.Replacement}})
		} else {
			p.Report(n, "", n.Def.Title+" is deprecated: "+n.Def.Deprecated, "")
		}
	},
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, def *kit.Prop) {
		if def != nil && def.Deprecated != "" {
			p.Report(
				n,
				prop.Name,
				prop.Name+" of "+n.Def.Title+" is deprecated: "+def.Deprecated,
				"Take it off",
				unset(n.ID, prop.Name),
			)
		}
	},
})
