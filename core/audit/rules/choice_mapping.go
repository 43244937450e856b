package rules

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/sample"
)

// compared finds what a field of the record is compared with.
var compared = regexp.MustCompile(`\brecord\.(\w+)\s*[!=]=\s*'((?:[^'\\]|\\.)*)'`)

var _ = add(&audit.Rule{
	ID: "choice-mapping", Title: "Choices that are not told apart", Severity: audit.Warning,
	Code:    true,
	Purpose: "What is shown by a choice of the record covers all choices and names none that is not there.",
	Why:     "A state that was forgotten looks like one that nobody knows; a misspelt one never shows.",
	Bad: []string{
		`{"id":"a","type":"sorrel-chip","text":"x","repeat":{"model":"tickets"},"props":{"tone":{"expr":"record.state == 'open' ? 'info' : record.state == 'doing' ? 'warn' : 'neutral'"}}}`,
		`{"id":"a","type":"sorrel-text","text":"x","repeat":{"model":"tickets"},"show":"record.state == 'opne'"}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-chip","text":"x","repeat":{"model":"tickets"},"props":{"tone":{"expr":"record.state == 'open' ? 'info' : record.state == 'doing' ? 'warn' : record.state == 'done' ? 'good' : 'neutral'"}}}`,
		`{"id":"a","type":"sorrel-text","repeat":{"model":"tickets"},"text":{"expr":"record.state == 'done' ? 'over' : 'to be done'"}}`,
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		m := recordModel(p, n)
		if m == nil {
			return
		}
		eachExpression(n, func(prop, source string) {
			named := map[string][]string{}
			for _, c := range compared.FindAllStringSubmatch(source, -1) {
				named[c[1]] = append(named[c[1]], strings.NewReplacer(`\'`, `'`, `\\`, `\`).Replace(c[2]))
			}
			for i := range m.Fields {
				if f := &m.Fields[i]; f.Type == sample.Choice && len(named[f.Name]) > 0 {
					for _, v := range named[f.Name] {
						if !slices.Contains(f.Choices, v) {
							p.Report(
								n,
								prop,
								fmt.Sprintf(
									"%s is never “%s”; the choices are %s",
									f.Name,
									v,
									strings.Join(f.Choices, ", "),
								),
								"",
							)
							return
						}
					}
					left := slices.DeleteFunc(
						slices.Clone(f.Choices),
						func(c string) bool { return slices.Contains(named[f.Name], c) },
					)
					// One question divides them in two; what asks more is meant to tell all apart.
					if len(named[f.Name]) > 1 && len(left) > 1 && strings.Contains(source, "?") {
						p.Report(
							n,
							prop,
							fmt.Sprintf("%s of %s look like what nobody knows", strings.Join(left, " and "), f.Name),
							"",
						)
					}
				}
			}
		})
	},
})
