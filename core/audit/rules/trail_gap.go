package rules

import (
	"fmt"
	"regexp"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/cases"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// trail is how a whole of crumbs is called, and none of its parts.
var trail = regexp.MustCompile(`(?i)breadcrumbs?$`)

var _ = add(&audit.Rule{
	ID: "trail-gap", Title: "A step of the way back is missing", Severity: audit.Warning,
	Purpose: "Breadcrumbs lead to the screen above, as they do elsewhere.",
	Why:     "Who comes from a list by its record goes back to the start instead of to the list.",
	Bad:     []string{},
	Good:    []string{`{"id":"a","type":"sorrel-breadcrumbs","children":[{"id":"b","type":"sorrel-crumb","text":"Today","props":{"to":"/"}}]}`},
	Settings: []audit.Setting{
		{Name: "screens", Help: "Screens whose breadcrumbs lead to the screen above before others are held to it", Default: "3", Number: true},
	},
	Looks: func(c *kit.Component) bool {
		return trail.MatchString(c.Tag) || trail.MatchString(c.Title)
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		above := aboveOf(p)
		if above == "" || len(n.Children) == 0 {
			return
		}
		leads := false
		known := true
		n.Walk(func(e, _ *screen.Element) bool {
			known = known && !e.Spread && e.Repeat == nil
			for i := range e.Props {
				if v := e.Props[i].Value; !v.Known() || v.Kind == screen.Expr {
					known = false
				} else if cases.Leads(p.Doc.Route, v) == "up" {
					leads = true
				}
			}
			return true
		})
		switch {
		case leads:
			p.Fact(n, p.Doc.App, "leads")
		case known:
			p.Fact(n, p.Doc.App, "lacks "+above)
		}
	},
	Judge: func(g *audit.Group) {
		lead := g.Docs("leads")
		lack := 0
		for value := range g.Values {
			if value != "leads" {
				lack += g.Docs(value)
			}
		}
		if lead < g.Number("screens") || lead <= 2*lack {
			return
		}
		for _, value := range g.Sorted() {
			above, ok := strings.CutPrefix(value, "lacks ")
			if !ok {
				continue
			}
			for _, place := range g.Values[value] {
				g.Report(place, "", fmt.Sprintf("none of its steps leads to %s, the screen above; on %d screens one does", above, lead), "")
			}
		}
	},
})

// aboveOf is the nearest screen above the document's that needs no record; empty where there is none.
func aboveOf(p *audit.Pass) string {
	if p.Doc.Kind != screen.ScreenDoc || p.Routes == nil {
		return ""
	}
	for at := strings.LastIndex(p.Doc.Route, "/"); at > 0; at = strings.LastIndex(p.Doc.Route[:at], "/") {
		if above := p.Doc.Route[:at]; !strings.Contains(above, ":") && p.Routes.Lead(above) {
			return above
		}
	}
	return ""
}
