package rules

import (
	"fmt"
	"regexp"

	"ubiquant/core/audit"
	"ubiquant/core/screen"
)

var shownField = regexp.MustCompile(
	`^(?:(day|weekday|shortDay|month|money|number|upTo|text|string)\()?record\.([a-zA-Z_]\w*)(?:, ?(\d+))?\)?$`,
)

var _ = add(&audit.Rule{
	ID: "format-differs", Title: "One field in different formats", Severity: audit.Warning,
	Purpose: "A field of a model is shown in one format on all screens.",
	Why:     "A date as 2026-03-01 here and 1 Mar 2026 there makes one look twice.",
	Bad: []string{
		`{"id":"a","type":"sorrel-text","text":{"expr":"day(record.due)"},"repeat":{"model":"tickets"}}`,
		`{"id":"a","type":"sorrel-text","text":{"expr":"day(record.due)"},"repeat":{"model":"tickets"}}`,
		`{"id":"a","type":"sorrel-text","text":{"expr":"record.due"},"repeat":{"model":"tickets"}}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-text","text":{"expr":"day(record.due)"},"repeat":{"model":"tickets"}}`,
		`{"id":"a","type":"sorrel-text","text":{"expr":"day(record.due)"},"repeat":{"model":"tickets"}}`,
	},
	Settings: []audit.Setting{
		{Name: "screens", Help: "Screens that must agree before others are held to it", Default: "2", Number: true},
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Text.Kind != screen.Expr {
			return
		}
		m := shownField.FindStringSubmatch(n.Text.Text)
		if m == nil {
			return
		}
		if model := recordModel(p, n); model != nil {
			p.Fact(n, model.ID+"."+m[2], n.Text.Text)
		}
	},
	Judge: func(g *audit.Group) {
		g.Departs(g.Number("screens"), func(place audit.Place, format, usual string, docs int, certain bool) {
			message := fmt.Sprintf("%s is shown as `%s` here and as `%s` on %d screens", g.Key, format, usual, docs)
			if !certain {
				g.Report(place, "text", message+audit.TwoMinds, "")
				return
			}
			g.Report(place, "text", message, "Show it as "+usual,
				screen.Edit{Op: screen.SetText, ID: place.Element, Value: screen.Value{Kind: screen.Expr, Text: usual}})
		})
	},
})
