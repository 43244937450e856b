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

// rawColour is a colour as it is written by hand.
var rawColour = regexp.MustCompile(`#([0-9a-fA-F]{8}|[0-9a-fA-F]{6}|[0-9a-fA-F]{3,4})\b|\b(rgb|hsl|oklch)a?\([^)]*\d[^)]*\)`)

var _ = add(&audit.Rule{
	ID: "off-theme", Title: "Colour or size off the theme", Severity: audit.Warning,
	Code:    true,
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
	Element: func(p *audit.Pass, n *audit.Node) {
		if p.Doc.Source == "" || n.Origin == nil {
			return
		}
		if v, ok := n.Written("style"); ok {
			if colour := rawColour.FindString(v.Text); colour != "" {
				p.Report(n, "style", "its style has the colour “"+colour+"”, written by hand where the theme has tokens", "")
				return
			}
		}
		for _, class := range strings.Fields(n.Origin.Look) {
			if _, value, ok := strings.Cut(class, "-["); ok && rawColour.MatchString(value) {
				p.Report(n, "class", "the class “"+class+"” is a colour written by hand where the theme has tokens", "")
				return
			}
		}
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
		} else if p.Doc.Source != "" && !rawColour.MatchString(prop.Value.Text) {
			return // how many pixels high something is in code is no look of the theme's
		} else if def.Type == kit.Text && prop.Value.Text != "" && strings.ContainsRune("#-rho0123456789", rune(prop.Value.Text[0])) && rawLook.MatchString(prop.Value.Text) {
			p.Report(n, prop.Name, prop.Name+" is “"+prop.Value.Text+"”, written by hand where the theme has tokens", "Take it off", unset(n.ID, prop.Name))
		}
	},
})
