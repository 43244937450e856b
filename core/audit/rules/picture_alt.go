package rules

import (
	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "picture-alt", Title: "Picture without alternative text", Severity: audit.Error,
	Purpose: "A picture says in words what it shows, or is marked as mere adornment.",
	Why:     "Who does not see it is told a file name, or nothing.",
	Bad:     []string{`{"id":"a","type":"sorrel-picture","props":{"src":"/oak.svg"}}`},
	Good: []string{
		`{"id":"a","type":"sorrel-picture","props":{"src":"/oak.svg","alt":"An oak in March"}}`,
		`{"id":"a","type":"sorrel-picture","props":{"src":"/line.svg","decorative":true}}`,
	},
	Looks: func(c *kit.Component) bool { return c.Picture != nil },
	Element: func(p *audit.Pass, n *audit.Node) {
		if v, ok := n.Prop(n.Def.Picture.Decorative); ok && v.Text != "false" {
			return
		}
		if _, ok := fixed(n, n.Def.Picture.Alt); !ok {
			var fix []screen.Edit
			title := ""
			if n.Def.Picture.Decorative != "" {
				title = "Mark it as adornment"
				fix = append(
					fix,
					screen.Edit{
						Op:    screen.Set,
						ID:    n.ID,
						Prop:  n.Def.Picture.Decorative,
						Value: screen.FlagValue(true),
					},
				)
			}
			p.Report(n, n.Def.Picture.Alt, "the picture has no alternative text", title, fix...)
		}
	},
})
