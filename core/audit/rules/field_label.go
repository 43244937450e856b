package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "field-label", Title: "Field without a label", Severity: audit.Error,
	Purpose: "Every control is named: by the field round it, by its own label or by its words.",
	Why:     "A placeholder goes away when one types, and a screen reader has nothing to say.",
	Bad: []string{
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-text-input","props":{"placeholder":"Title"}}]}`,
	},
	Good: []string{
		`{"id":"a","type":"stack","children":[{"id":"c","type":"sorrel-field","props":{"label":"Title"},"children":[{"id":"b","type":"sorrel-text-input"}]},
		{"id":"d","type":"sorrel-checkbox","text":"On display"},{"id":"e","type":"sorrel-select","props":{"label":"Bed","options":"North"}}]}`,
	},
	Looks: func(c *kit.Component) bool { return c.Role == "control" },
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Text.Kind != screen.None {
			return
		}
		if n.Def.NameProp != "" {
			if _, ok := fixed(n, n.Def.NameProp); ok {
				return
			}
		}
		if n.Def.LabelledBy != "" &&
			n.Closest(func(a *audit.Node) bool { return a.Type == n.Def.LabelledBy }) != nil {
			return
		}
		if n.Def.NameProp != "" {
			if hint, ok := n.Prop("placeholder"); ok && hint.Kind == screen.Literal {
				p.Report(
					n,
					"",
					n.Def.Title+" has no label, only a placeholder",
					"Label it “"+hint.Text+"”",
					set(n.ID, n.Def.NameProp, hint.Text),
				)
				return
			}
		}
		// A name of the field says at least what it is for.
		if field, ok := p.Cat.Component(n.Def.LabelledBy); ok && n.Parent != nil && n.Parent.Def != nil {
			label := "Label"
			if name, ok := n.Prop("name"); ok && name.Kind == screen.Literal && name.Text != "" {
				words := strings.NewReplacer("-", " ", "_", " ").Replace(name.Text)
				label = strings.ToUpper(words[:1]) + words[1:]
			}
			_, has := field.Prop("label")
			if _, ok := kit.Accepts(p.Cat, n.Parent.Def, n.Slot, field); ok && has {
				p.Report(
					n,
					"",
					n.Def.Title+" has no label",
					"Wrap it in a "+field.Title+" labelled “"+label+"”",
					wrap(n, field.Tag, "", screen.Prop{Name: "label", Value: screen.Lit(label)}),
				)
				return
			}
		}
		p.Report(n, "", n.Def.Title+" has no label", "")
	},
})
