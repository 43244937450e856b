package rules

import (
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// samples are texts that examples carry and screens do not.
var samples = map[string]bool{
	"text":        true,
	"heading":     true,
	"title":       true,
	"label":       true,
	"button":      true,
	"sample":      true,
	"placeholder": true,
	"card title":  true,
	"foo":         true,
	"bar":         true,
	"test":        true,
	"xxx":         true,
	"xxxx":        true,
}

func isSample(s string) bool {
	if len(s) > 14 {
		return len(s) < 4000 && strings.Contains(strings.ToLower(s), "lorem ipsum")
	}
	return samples[strings.ToLower(strings.TrimSuffix(s, "."))] || strings.EqualFold(s, "lorem ipsum")
}

func sampleText(p *audit.Pass, s string) bool {
	return isSample(s) ||
		slices.ContainsFunc(p.Words("words"), func(w string) bool { return strings.EqualFold(w, s) })
}

var _ = add(&audit.Rule{
	ID: "demo-text", Title: "Demo text left in", Severity: audit.Warning,
	Purpose: "No sample words of a copied example stay on a screen.",
	Why:     "Nobody reads them until a customer does.",
	Bad: []string{
		`{"id":"a","type":"sorrel-text","text":"Lorem ipsum dolor sit amet"}`,
		`{"id":"a","type":"sorrel-heading","text":"Card title"}`,
	},
	Good:     []string{`{"id":"a","type":"sorrel-heading","text":"Title deeds"}`},
	Settings: []audit.Setting{{Name: "words", Help: "Further texts that count as samples, separated by commas"}},
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Text.Kind == screen.Literal && sampleText(p, n.Text.Text) {
			p.Report(n, "text", "“"+n.Text.Text+"” is a sample text", "")
		}
	},
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, def *kit.Prop) {
		if prop.Value.Kind == screen.Literal && (prop.Name == "heading" || prop.Name == "label") &&
			prop.Value.Text != "Title" &&
			sampleText(p, prop.Value.Text) {
			p.Report(n, prop.Name, "“"+prop.Value.Text+"” is a sample text", "")
		}
	},
})
