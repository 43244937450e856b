package rules

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
)

// ofRecord finds the fields of the record that an expression names.
var ofRecord = regexp.MustCompile(`\brecord\.([a-zA-Z_]\w*)`)

var _ = add(&audit.Rule{
	ID: "records-alike", Title: "Right by luck", Severity: audit.Note,
	Purpose: "The sample records differ in what a screen shows of them, and each of its branches is shown by one.",
	Why:     "Where all records are alike, nobody has seen what the screen does with another.",
	Bad: []string{
		`{"id":"a","type":"sorrel-text","text":{"expr":"record.state"},"repeat":{"model":"alike"}}`,
		`{"id":"a","type":"sorrel-text","text":"Waiting","repeat":{"model":"alike"},"show":"record.kind == 'rare'"}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-text","text":{"expr":"record.kind"},"repeat":{"model":"alike"}}`,
		`{"id":"a","type":"sorrel-text","text":"Plain","repeat":{"model":"alike"},"show":"record.kind == 'plain'"}`,
	},
	Looks: func(*kit.Component) bool { return true },
	Element: func(p *audit.Pass, n *audit.Node) {
		if len(p.Seen) == 0 {
			return
		}
		m := recordModel(p, n)
		if m == nil || p.Seen[m.ID] == nil || slices.Contains(p.Sourced, m.ID) {
			return
		}
		seen, told := p.Seen[m.ID], audit.Remember[map[string]bool](p)
		if *told == nil {
			*told = map[string]bool{}
		}
		say := func(prop, what, message string) {
			if !(*told)[what] {
				(*told)[what] = true
				p.Report(n, prop, message, "")
			}
		}
		eachExpression(n, func(prop, source string) {
			for _, c := range compared.FindAllStringSubmatch(source, -1) {
				if field := c[1]; slices.Contains(seen.Never[field], c[2]) {
					say(prop, m.ID+"."+field+"="+c[2], fmt.Sprintf("no sample record has “%s” as its %s, so this was never seen", c[2], field))
				}
			}
			for _, c := range ofRecord.FindAllStringSubmatch(source, -1) {
				field := c[1]
				value, same := seen.Same[field]
				switch {
				case !same || strings.Contains(source, field+" ==") || strings.Contains(source, field+" !="):
				case value == "":
					say(prop, m.ID+"."+field, fmt.Sprintf("no sample record has a %s", field))
				default:
					say(prop, m.ID+"."+field, fmt.Sprintf("all sample records have the same %s, “%s”", field, value))
				}
			}
		})
	},
})
