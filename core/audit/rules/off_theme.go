package rules

import (
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var rawLook = regexp.MustCompile(`^(#[0-9a-fA-F]{3,8}|(rgb|hsl|oklch)a?\(.*\)|-?\d+(\.\d+)?(px|rem|em|pt))$`)

var _ = add(&audit.Rule{
	ID: "off-theme", Title: "Colour or size off the theme", Severity: audit.Warning,
	Purpose: "Colours and sizes come from tokens.",
	Why:     "A colour written by hand stays as it is when the theme changes, and is wrong in the dark.",
	Bad: []string{
		`{"id":"a","type":"sorrel-text","text":"Late","props":{"color":"#b00020"}}`,
		`{"id":"a","type":"stack","props":{"gap":"18px"}}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-text","text":"Late","props":{"tone":"bad"}}`,
		`{"id":"a","type":"stack","props":{"gap":"4"}}`,
		`{"id":"a","type":"sorrel-text","text":"#fff"}`,
	},
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, def *kit.Prop) {
		if def == nil || prop.Value.Kind == screen.Token || !prop.Value.Known() {
			return
		}
		if def.Tokens != "" {
			if !slices.Contains(p.Kit.Tokens.Steps(def.Tokens), prop.Value.Text) &&
				!def.Takes(prop.Value.Text) {
				p.Report(
					n,
					prop.Name,
					prop.Name+" is “"+prop.Value.Text+"”, which is no step of "+def.Tokens,
					"Back to the default",
					unset(n.ID, prop.Name),
				)
			}
		} else if def.Type == kit.Text && prop.Value.Text != "" && strings.ContainsRune("#-rho0123456789", rune(prop.Value.Text[0])) && rawLook.MatchString(prop.Value.Text) {
			p.Report(n, prop.Name, prop.Name+" is “"+prop.Value.Text+"”, written by hand where the theme has tokens", "Take it off", unset(n.ID, prop.Name))
		}
	},
})
