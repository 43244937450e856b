package audit

import (
	"bytes"
	"cmp"
	"fmt"
	"html/template"
	"slices"
	"strings"
)

// cause is findings of one rule that say the same of one thing.
type cause struct {
	Rule, Title string
	Severity    Severity
	Findings    []Finding
}

// causes groups findings by rule, the gravest and most frequent first.
func (r *Report) causes() (out []cause) {
	titles := map[string]string{StrayRule.ID: StrayRule.Title}
	for _, rule := range r.Rules {
		titles[rule.ID] = rule.Title
	}
	at := map[string]int{}
	for _, f := range r.all() {
		i, had := at[f.Rule]
		if !had {
			i = len(out)
			at[f.Rule] = i
			out = append(out, cause{Rule: f.Rule, Title: titles[f.Rule], Severity: f.Severity})
		}
		out[i].Findings = append(out[i].Findings, f)
	}
	slices.SortStableFunc(out, func(a, b cause) int {
		return cmp.Or(b.Severity.Rank()-a.Severity.Rank(), len(b.Findings)-len(a.Findings))
	})
	return out
}

func (r *Report) headline() string {
	counts := map[Severity]int{}
	for _, f := range r.all() {
		counts[f.Severity]++
	}
	s := fmt.Sprintf("%d errors, %d warnings, %d notes", counts[Error], counts[Warning], counts[Note])
	if r.Since != "" {
		s += fmt.Sprintf(" new since %s; %d mended, %d known", r.Since, len(r.Mended), r.Known)
	}
	return s
}

// shownMost is how many findings of a cause a summary lists.
const shownMost = 5

// markdown takes out what would be read as marks or tags.
var markdown = strings.NewReplacer("|", "\\|", "<", "&lt;", ">", "&gt;", "\n", " ", "`", "'", "*", "\\*", "_", "\\_", "[", "\\[", "]", "\\]")

// Markdown writes a summary that fits a screen, for the description of a change: a row a rule,
// the first places of each folded away.
func (r *Report) Markdown() ([]byte, error) {
	var b bytes.Buffer
	fmt.Fprintf(&b, "### %s: %s\n\n", markdown.Replace(cmp.Or(r.Name, r.Source)), markdown.Replace(r.headline()))
	list := r.causes()
	if len(list) == 0 {
		b.WriteString("Nothing was found.\n")
	} else {
		b.WriteString("| | Rule | Where |\n|---|---|---|\n")
	}
	for _, c := range list {
		f := c.Findings[0]
		where, _ := r.at(&f)
		more := ""
		if len(c.Findings) > 1 {
			more = fmt.Sprintf(" and %d more", len(c.Findings)-1)
		}
		fmt.Fprintf(&b, "| %s | %s (%d) | %s: %s%s |\n", c.Severity, markdown.Replace(c.Title), len(c.Findings), markdown.Replace(where), markdown.Replace(f.Message), more)
	}
	for _, c := range list {
		if len(c.Findings) < 2 {
			continue
		}
		fmt.Fprintf(&b, "\n<details><summary>%s (%d)</summary>\n\n", markdown.Replace(c.Title), len(c.Findings))
		for i, f := range c.Findings {
			if i == shownMost*4 {
				fmt.Fprintf(&b, "- and %d more\n", len(c.Findings)-i)
				break
			}
			where, _ := r.at(&f)
			fmt.Fprintf(&b, "- %s: %s\n", markdown.Replace(where), markdown.Replace(f.Message))
		}
		b.WriteString("\n</details>\n")
	}
	for i, q := range r.Questions {
		if i == 0 {
			b.WriteString("\nOpen questions:\n\n")
		}
		if i == shownMost {
			fmt.Fprintf(&b, "- and %d more\n", len(r.Questions)-i)
			break
		}
		fmt.Fprintf(&b, "- %s\n", markdown.Replace(asked(&q)))
	}
	if len(r.Mended) > 0 {
		b.WriteString("\nMended:\n\n")
		for i, e := range r.Mended {
			if i == shownMost {
				fmt.Fprintf(&b, "- and %d more\n", len(r.Mended)-i)
				break
			}
			fmt.Fprintf(&b, "- %s: %s\n", markdown.Replace(e.Doc), markdown.Replace(e.Message))
		}
	}
	return b.Bytes(), nil
}

var page = template.Must(template.New("report").Parse(`<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>{{.Name}}: audit</title>
<style>
:root { color-scheme: light dark; --ink: #22252b; --quiet: #5b6270; --line: #d9dce2; --ground: #fbfbf9; --error: #a3262c; --warning: #7a5200; --note: #2f5a86 }
@media (prefers-color-scheme: dark) { :root { --ink: #e7e8ea; --quiet: #a4abb8; --line: #3a3f48; --ground: #191b1f; --error: #ff9d9a; --warning: #f1c26a; --note: #9cc4ee } }
body { margin: 2rem auto; max-width: 68rem; padding: 0 1rem; font: 15px/1.5 system-ui, sans-serif; color: var(--ink); background: var(--ground) }
h1 { font-size: 1.5rem; margin: 0 } h2 { font-size: 1.1rem; margin: 2rem 0 .5rem } p { margin: .25rem 0 }
table { border-collapse: collapse; width: 100% } td, th { text-align: left; vertical-align: top; padding: .4rem .75rem .4rem 0; border-top: 1px solid var(--line) }
th { color: var(--quiet); font-weight: 500 } code { font: 13px/1.5 ui-monospace, monospace; overflow-wrap: anywhere } .quiet { color: var(--quiet) }
.error { color: var(--error) } .warning { color: var(--warning) } .note { color: var(--note) }
</style></head><body>
<h1>{{.Name}}</h1><p class="quiet">{{.Headline}}</p>
{{range .Causes}}<h2><span class="{{.Severity}}">{{.Severity}}</span> · {{.Title}} <span class="quiet">({{len .Rows}})</span></h2>
<p class="quiet">{{.Why}}</p>
<table><thead><tr><th scope="col">Where</th><th scope="col">What</th><th scope="col">Repair</th></tr></thead><tbody>
{{range .Rows}}<tr><td><code>{{.Where}}</code></td><td>{{.Message}}</td><td>{{.Fix}}</td></tr>
{{end}}</tbody></table>{{else}}<p>Nothing was found.</p>{{end}}
{{if .Questions}}<h2>Open questions</h2><ul>{{range .Questions}}<li>{{.}}</li>{{end}}</ul>{{end}}
{{if .Mended}}<h2>Mended</h2><ul>{{range .Mended}}<li><code>{{.Doc}}</code> {{.Message}}</li>{{end}}</ul>{{end}}
</body></html>
`))

// HTML writes the report as one page with everything in it, for people without an account.
func (r *Report) HTML() ([]byte, error) {
	type row struct{ Where, Message, Fix string }
	type group struct {
		Title, Why string
		Severity   Severity
		Rows       []row
	}
	why := map[string]string{StrayRule.ID: StrayRule.Why}
	for _, rule := range r.Rules {
		why[rule.ID] = rule.Why
	}
	data := struct {
		Name, Headline string
		Causes         []group
		Questions      []string
		Mended         []Entry
	}{Name: cmp.Or(r.Name, r.Source), Headline: r.headline(), Mended: r.Mended}
	for _, c := range r.causes() {
		g := group{Title: cmp.Or(c.Title, c.Rule), Why: why[c.Rule], Severity: c.Severity}
		for _, f := range c.Findings {
			where, _ := r.at(&f)
			g.Rows = append(g.Rows, row{where, f.Message, cmp.Or(f.FixTitle, f.Needs)})
		}
		data.Causes = append(data.Causes, g)
	}
	for i := range r.Questions {
		data.Questions = append(data.Questions, asked(&r.Questions[i]))
	}
	var b bytes.Buffer
	err := page.Execute(&b, data)
	return b.Bytes(), err
}
