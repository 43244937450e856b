package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "same-record", Title: "Every record leads to the same one", Severity: audit.Error,
	Purpose: "What stands once for each record leads to that record.",
	Why:     "Twenty rows whose pencils all open the first record look right until somebody edits the wrong one.",
	Bad: []string{
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-link","text":{"expr":"record.title"},"repeat":{"model":"tickets"},"props":{"to":"/tickets/t1"}}]}`,
		`{"id":"a","type":"stack","repeat":{"model":"tickets"},"children":[{"id":"b","type":"sorrel-icon-button","props":{"icon":"pencil","label":"Edit","to":"/tickets/t1/edit"}}]}`,
	},
	Good: []string{
		`{"id":"a","type":"stack","repeat":{"model":"tickets"},"children":[{"id":"b","type":"sorrel-link","text":"All","props":{"to":"/tickets"}},{"id":"c","type":"sorrel-link","text":"New","props":{"to":"/tickets/new"}}]}`,
		`{"id":"a","type":"stack","repeat":{"model":"tickets"},"children":[{"id":"b","type":"sorrel-link","text":"It","props":{"to":{"expr":"'/tickets/' + record.id"}}}]}`,
		`{"id":"a","type":"stack","repeat":{"model":"tickets","limit":1},"children":[{"id":"b","type":"sorrel-link","text":"It","props":{"to":"/tickets/t1"}}]}`,
	},
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, def *kit.Prop) {
		path := prop.Value.Text
		if !leads(n, def) || prop.Value.Kind != screen.Literal || !strings.HasPrefix(path, "/") {
			return
		}
		// One record alone is not many.
		many := n.Repeat != nil && n.Repeat.Limit != 1 ||
			n.Closest(func(a *audit.Node) bool { return a.Repeat != nil && a.Repeat.Limit != 1 }) != nil
		if !many {
			return
		}
		at := recordPart(p, path)
		if at < 0 {
			return
		}
		parts := strings.Split(path, "/")
		fix := "'" + strings.Join(parts[:at], "/") + "/' + record.id"
		if rest := parts[at+1:]; len(rest) > 0 {
			fix += " + '/" + strings.Join(rest, "/") + "'"
		}
		p.Report(n, prop.Name, "every record leads to "+path, "Lead each to its own: "+fix,
			screen.Edit{Op: screen.Set, ID: n.ID, Prop: prop.Name, Value: screen.Value{Kind: screen.Expr, Text: fix}})
	},
})

// recordPart is which part of a path names one record: by the routes, or where these are not
// known, a part with a digit; -1 where none does.
func recordPart(p *audit.Pass, path string) int {
	parts := strings.Split(path, "/")
	if p.Routes != nil {
		route, ok := p.Routes.Of(path)
		if !ok {
			return -1
		}
		for i, part := range strings.Split(route, "/") {
			if strings.HasPrefix(part, ":") && i < len(parts) && i > 1 {
				return i
			}
		}
		return -1
	}
	for i := 2; i < len(parts); i++ {
		if strings.ContainsAny(parts[i], "0123456789") {
			return i
		}
	}
	return -1
}
