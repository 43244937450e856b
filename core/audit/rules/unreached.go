package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/cases"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// entrance are routes that people come to from outside.
func entrance(route string) bool {
	if strings.Trim(route, "/") == "" || strings.Contains(route, "*") {
		return true
	}
	last := route[strings.LastIndexByte(route, '/')+1:]
	switch last {
	case "sign-in", "login", "sign-up", "register", "not-found", "404", "error", "welcome", "start", "home", "index":
		return true
	}
	return false
}

var _ = add(&audit.Rule{
	ID: "unreached", Title: "A screen that nothing leads to", Severity: audit.Note,
	Purpose: "Each screen is led to from another, from a shell, or is where one begins.",
	Why:     "A screen that nobody can come to is left over, or its link was forgotten.",
	Bad:     []string{},
	Good:    []string{`{"id":"a","type":"sorrel-text","text":"One screen alone is where one begins."}`},
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Parent == nil && p.Doc.Kind == screen.ScreenDoc && p.Doc.Route != "" && !entrance(p.Doc.Route) {
			p.Fact(n, cases.Bare(p.Doc.Route), "is")
		}
	},
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, def *kit.Prop) {
		led := ""
		switch {
		case leads(n, def):
			led = cases.Address(prop.Value)
		case prop.Name == kit.Does:
			if list, err := screen.ParseActions(prop.Value.Text); err == nil {
				for _, a := range list {
					if a.Verb == screen.GoTo {
						led = a.To
					}
				}
			}
		}
		if !strings.HasPrefix(led, "/") {
			return
		}
		route := cases.Bare(led)
		if p.Routes != nil {
			if of, ok := p.Routes.Of(led); ok {
				route = cases.Bare(of)
			}
		}
		if p.Doc.Kind == screen.ScreenDoc && route == cases.Bare(p.Doc.Route) {
			return // what leads to itself leads nowhere
		}
		p.Fact(n, route, "led")
	},
	Judge: func(g *audit.Group) {
		if len(g.Values["led"]) > 0 {
			return
		}
		for _, place := range g.Values["is"] {
			g.Report(place, "", "nothing leads to "+g.Key, "")
		}
	},
})
