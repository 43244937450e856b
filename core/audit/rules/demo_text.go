package rules

import (
	"regexp"
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
	"todo":        true,
	"tbd":         true,
	"dummy":       true,
	"asdf":        true,
	"sample text": true,
	"xxx":         true,
	"xxxx":        true,
}

// standIn are addresses of pictures that stand for others.
var standIn = regexp.MustCompile(`(?i)placeholder|dummy|lorem|/\d{2,4}x\d{2,4}\b|sample[-_]?(image|photo|picture)`)

// people are those who stand in examples, and nowhere else.
var people = []string{
	"john doe", "jane doe", "john smith", "jane smith", "joe bloggs", "acme inc", "acme corp",
	"john@example.com", "jane@example.com", "user@example.com", "foo@bar.com",
}

func ofExample(s string) bool {
	return slices.Contains(people, strings.ToLower(strings.Trim(s, " .,")))
}

// plainWords are samples that may as well name a field: of code only others are told, as its words
// stand in labels, heads and messages alike.
var plainWords = []string{"text", "heading", "title", "label", "button", "sample", "placeholder", "test"}

func isSample(s string) bool {
	if len(s) > 14 {
		return len(s) < 4000 && strings.Contains(strings.ToLower(s), "lorem ipsum")
	}
	return samples[strings.ToLower(strings.TrimSuffix(s, "."))] || strings.EqualFold(s, "lorem ipsum")
}

func sampleText(p *audit.Pass, s string) bool {
	named := p.Doc.Source != "" && slices.Contains(plainWords, strings.ToLower(strings.TrimSuffix(s, ".")))
	return isSample(s) && !named ||
		slices.ContainsFunc(p.Words("words"), func(w string) bool { return strings.EqualFold(w, s) })
}

// aboutThat tells whether a screen or a model is called so: then it is no sample.
func aboutThat(p *audit.Pass, s string) bool {
	if strings.EqualFold(s, p.Doc.Title) {
		return true
	}
	for _, m := range p.Models {
		if strings.EqualFold(s, m.Name) {
			return true
		}
	}
	return false
}

var _ = add(&audit.Rule{
	ID: "demo-text", Title: "Demo text left in", Severity: audit.Warning,
	Code:    true,
	Purpose: "No sample words of a copied example stay on a screen.",
	Why:     "Nobody reads them until a customer does.",
	Bad: []string{
		`{"id":"a","type":"sorrel-text","text":"Lorem ipsum dolor sit amet"}`,
		`{"id":"a","type":"sorrel-heading","text":"Card title"}`,
		`{"id":"a","type":"sorrel-text","text":"TODO"}`,
		`{"id":"a","type":"sorrel-avatar","props":{"name":"John Doe"}}`,
		`{"id":"t","type":"sorrel-table","children":[{"id":"r","type":"sorrel-row","children":[{"id":"c","type":"sorrel-cell","text":"Jane Doe"}]}]}`,
		`{"id":"a","type":"sorrel-picture","props":{"src":"/images/placeholder-400x300.png","alt":"A bed"}}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-heading","text":"Title deeds"}`,
		`{"id":"t","type":"sorrel-table","children":[{"id":"k","type":"sorrel-column","slot":"columns","text":"Title"}]}`,
		`{"id":"f","type":"sorrel-field","props":{"label":"Text"}}`,
		`{"id":"f","type":"sorrel-text-input","props":{"label":"Mail","placeholder":"jane@example.com"}}`,
	},
	Settings: []audit.Setting{{Name: "words", Help: "Further texts that count as samples, separated by commas"}},
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Text.Kind == screen.Literal && ofExample(n.Text.Text) {
			p.Report(n, "text", "“"+n.Text.Text+"” is a sample text", "")
			return
		}
		// The head of a column, a tab or an item may well be “Title” or “Test”.
		if n.Text.Kind == screen.Literal && sampleText(p, n.Text.Text) && !aboutThat(p, n.Text.Text) && (len(n.Def.Parents) == 0 || len(n.Text.Text) > 14) {
			p.Report(n, "text", "“"+n.Text.Text+"” is a sample text", "")
		}
	},
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, def *kit.Prop) {
		if n.Def.Picture != nil && prop.Name == n.Def.Picture.Src && prop.Value.Kind == screen.Literal &&
			standIn.MatchString(prop.Value.Text) {
			p.Report(n, prop.Name, "“"+prop.Value.Text+"” is a stand-in for a picture", "")
		}
		// A field may be about a title, a text or a test.
		named := n.Def.LabelBy() == def && (n.Def.Role == "control" || len(n.Def.Slots) == 1 && n.Def.Slots[0].Max == 1)
		// What stands in an empty field is an example on purpose.
		if prop.Value.Kind == screen.Literal && prop.Name != "placeholder" && def != nil && def.Type == kit.Text && ofExample(prop.Value.Text) {
			p.Report(n, prop.Name, "“"+prop.Value.Text+"” is a sample text", "")
			return
		}
		if prop.Value.Kind == screen.Literal && def != nil && def.Type == kit.Text && prop.Name == "placeholder" && strings.Contains(strings.ToLower(prop.Value.Text), "lorem ipsum") {
			p.Report(n, prop.Name, "“"+prop.Value.Text+"” is a sample text", "")
			return
		}
		if prop.Value.Kind == screen.Literal && def != nil && n.Def.Speaks(def) && prop.Name != "placeholder" && !named &&
			!aboutThat(p, prop.Value.Text) && sampleText(p, prop.Value.Text) {
			p.Report(n, prop.Name, "“"+prop.Value.Text+"” is a sample text", "")
		}
	},
})
