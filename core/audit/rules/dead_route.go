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
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, def *kit.Prop) {
		if !leads(n, def) || prop.Value.Kind != screen.Literal || !strings.HasPrefix(prop.Value.Text, "/") ||
			p.Routes == nil {
			return
		}
		path, _, _ := strings.Cut(prop.Value.Text, "?")
		path, _, _ = strings.Cut(path, "#")
		if p.Routes.Lead(path) || fileEnd.MatchString(path) {
			return
		}
		p.Report(n, prop.Name, "there is no screen on "+path, "")
	},
})
