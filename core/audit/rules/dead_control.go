package rules

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "dead-control", Title: "Control that does nothing", Severity: audit.Warning,
	Purpose: "A button or link leads somewhere, sends a form, or is named so that code can reach it.",
	Why:     "A button that silently does nothing is found by a customer.",
	Bad: []string{
		`{"id":"a","type":"sorrel-button","text":"Export"}`,
		`{"id":"a","type":"sorrel-link","text":"More","props":{"to":"#"}}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-button","text":"Export","props":{"to":"/export"}}`,
		`{"id":"a","type":"sorrel-button","text":"Export","name":"exportButton"}`,
		`{"id":"a","type":"sorrel-button","text":"Export","props":{"disabled":true}}`,
		`{"id":"a","type":"sorrel-button","text":"Dark","props":{"does":"theme dark"}}`,
	},
	Code: true,
	Judge: func(g *audit.Group) {
		acts, idle := len(g.Values["acts"]), g.Values["idle"]
		if acts < fewestHandled || len(idle)*mostIdle > acts+len(idle) {
			return
		}
		for _, place := range idle {
			g.Report(place, "", fmt.Sprintf("nothing makes it act, as far as its code shows; %d others are told what to do", acts), "")
		}
	},
	Looks: func(c *kit.Component) bool { return len(c.Acts) > 0 || c.Role == "action" },
	Element: func(p *audit.Pass, n *audit.Node) {
		if p.Doc.Source != "" {
			actsInCode(p, n)
			return
		}
		if n.Name != "" || n.Spread || len(n.Def.Acts) == 0 {
			return
		}
		if v := value(n, n.Def.DisabledBy()); v.Kind != screen.None && v.Text != "false" {
			return
		}
		if text, ok := fixed(n, kit.Does); ok && text != "" {
			return
		}
		for _, prop := range n.Def.Acts {
			v, ok := n.Prop(prop)
			if !ok {
				continue
			}
			text := strings.TrimSpace(v.Text)
			if !v.Known() {
				return
			}
			if text != "" && text != "#" && text != "none" {
				// A bar and its like show where one is; anything else that leads to where one is does nothing.
				bar := len(n.Def.Parents) > 0 || n.Closest(func(a *audit.Node) bool { return a.Def != nil && a.Def.Role == "bar" }) != nil
				if prop == n.Def.LeadsBy() && text == p.Doc.Route && p.Doc.Kind == screen.ScreenDoc && !bar {
					p.Report(n, prop, n.Def.Title+" leads to the screen that it stands on", "")
				}
				return
			}
		}
		p.Report(
			n,
			n.Def.Acts[0],
			n.Def.Title+" does nothing: it leads nowhere, sends no form and has no name for code to reach it",
			"",
		)
	},
})

const (
	fewestHandled = 10 // buttons of a kind in code that do something before one that does nothing is told of …
	mostIdle      = 10 // … and of how many at most one does nothing: more are made to act in a way that is not known
)

// silent are attributes that make nothing act.
var silent = regexp.MustCompile(`^(class|className|style|id|title|key|tabIndex|tabindex|role|lang|dir|hidden|(aria|data)-.*)$`)

// presses are names of what may act where something in it is pressed.
var presses = regexp.MustCompile(`^html-(a|label|summary|button)$|trigger|link|close|toggle|activator|anchor|menu|upload|drop|popover|tooltip`)

// actsInCode notes whether a button of code does something, as far as it shows: where it is told to by
// anything that is not known to only concern its looks, or where what stands around it may make it act.
func actsInCode(p *audit.Pass, n *audit.Node) {
	if n.Def.Role != "action" || n.Def.Plain || n.Spread || n.Parent == nil {
		return
	}
	if v := value(n, n.Def.DisabledBy()); v.Kind != screen.None && v.Text != "false" {
		return
	}
	if n.Parent.Def == nil || !n.Parent.Def.Plain || n.Closest(func(a *audit.Node) bool { return presses.MatchString(a.Type) }) != nil {
		return
	}
	by := "type" // where a library hands it on to the page's own button
	if p := n.Def.SendsBy(); p != nil {
		by = p.Name
	}
	sends, _ := n.Written(by)
	form := n.Closest(func(a *audit.Node) bool { return strings.Contains(a.Type, "form") }) != nil
	handled := slices.ContainsFunc(besidesOf(n.Element), func(s screen.Prop) bool { return s.Name != by && !silent.MatchString(s.Name) }) ||
		slices.ContainsFunc(n.Element.Props, func(s screen.Prop) bool {
			return s.Name != by && (!s.Value.Known() || slices.Contains(n.Def.Acts, s.Name) || s.Name == n.Def.LeadsBy())
		})
	switch {
	case handled:
		p.Fact(n, n.Type, "acts")
	case form && sends.Text != "button" || sends.Text == "submit" || sends.Text == "reset" || !sends.Known() && sends.Kind != screen.None:
	default:
		p.Fact(n, n.Type, "idle")
	}
}
