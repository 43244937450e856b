package rules

import (
	"regexp"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// fileEnd is how the address of a file ends, and that of a screen does not.
var fileEnd = regexp.MustCompile(`\.[A-Za-z][A-Za-z0-9]{1,4}$`)

var _ = add(&audit.Rule{
	ID: "dead-route", Title: "Leads to a route that is not there", Severity: audit.Warning,
	Purpose: "What leads to a route of the application leads to a screen.",
	Why:     "A renamed or removed screen leaves links behind that end at “not found”.",
	Bad:     []string{`{"id":"a","type":"sorrel-link","text":"More","props":{"to":"/nowhere"}}`},
	Good: []string{
		`{"id":"a","type":"sorrel-link","text":"More","props":{"to":"/"}}`,
		`{"id":"a","type":"sorrel-link","text":"More","props":{"to":"https://example.org/x"}}`,
		`{"id":"a","type":"sorrel-link","text":"Manual","props":{"to":"/files/manual.pdf"}}`,
	},
	Code: true,
	Element: func(p *audit.Pass, n *audit.Node) {
		if p.Doc.Source == "" || p.Routes == nil {
			return
		}
		look := func(list []screen.Prop) {
			for i := range list {
				v := list[i].Value
				within := strings.HasPrefix(v.Text, "/") && !strings.HasPrefix(v.Text, "//")
				if !within || v.Kind != screen.Literal || !leadsOff.MatchString(list[i].Name) {
					continue
				}
				path := pathOf(v.Text)
				switch {
				case p.Routes.Lead(path):
					p.Fact(n, "routes", "")
				case fileEnd.MatchString(path):
				default:
					p.Fact(n, "routes", path)
				}
			}
		}
		look(n.Element.Props)
		look(besidesOf(n.Element))
	},
	Judge: func(g *audit.Group) {
		// Where many lead to what is not known, there are routes that were not read.
		dead := map[string]bool{}
		for path, places := range g.Values {
			if path != "" {
				for _, place := range places {
					dead[place.Doc+"#"+place.Element] = true
				}
			}
		}
		if known := len(g.Values[""]); known < fewestRouted || known < routedForDead*len(dead) {
			return
		}
		for _, path := range g.Sorted() {
			if path == "" {
				continue
			}
			for _, place := range g.Values[path] {
				g.Report(place, "", "there is no screen on "+path, "")
			}
		}
	},
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, def *kit.Prop) {
		if !leads(n, def) || prop.Value.Kind != screen.Literal || !strings.HasPrefix(prop.Value.Text, "/") ||
			p.Routes == nil || p.Doc.Source != "" {
			return
		}
		path := pathOf(prop.Value.Text)
		if p.Routes.Lead(path) || fileEnd.MatchString(path) {
			return
		}
		p.Report(n, prop.Name, "there is no screen on "+path, "")
	},
})

// Links of code that lead to known routes before one that does not is told of, and for each that does not.
const fewestRouted, routedForDead = 4, 4

// leadsOff are names in code of what leads to a route.
var leadsOff = regexp.MustCompile(`^(to|href|routerLink)$`)

// pathOf is an address within the application without what it asks for there.
func pathOf(address string) string {
	path, _, _ := strings.Cut(address, "?")
	path, _, _ = strings.Cut(path, "#")
	return path
}
