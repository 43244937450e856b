package rules

import (
	"regexp"

	"ubiquant/core/audit"
	"ubiquant/core/screen"
)

var placeholderText = regexp.MustCompile(`(?i)\blorem ipsum\b|^(text|heading|title|label|button|sample|placeholder|card title|foo|bar|test|xxx+)\.?$`)

var _ = add(&audit.Rule{
	ID: "demo-text", Title: "Demo text left in", Severity: audit.Warning,
	Purpose: "No sample words of a copied example stay on a screen.",
	Why:     "Nobody reads them until a customer does.",
	Bad:     []string{`{"id":"a","type":"sorrel-text","text":"Lorem ipsum dolor sit amet"}`, `{"id":"a","type":"sorrel-heading","text":"Card title"}`},
	Good:    []string{`{"id":"a","type":"sorrel-heading","text":"Title deeds"}`},
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Text.Kind == screen.Literal && placeholderText.MatchString(n.Text.Text) {
			p.Report(n, "text", "“"+n.Text.Text+"” is a sample text", "")
		}
		for _, prop := range n.Props {
			if prop.Value.Kind == screen.Literal && (prop.Name == "heading" || prop.Name == "label") && prop.Value.Text != "Title" && placeholderText.MatchString(prop.Value.Text) {
				p.Report(n, prop.Name, "“"+prop.Value.Text+"” is a sample text", "")
			}
		}
	},
})
