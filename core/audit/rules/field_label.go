package rules

import (
	"slices"
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
		if named(p, n) {
			return
		}
		if label, by, ok := beside(p, n); ok {
			id, has := fixed(n, "id")
			if !has {
				id = screen.PlainName(label.Text.Text)
			}
			p.Report(
				n,
				"",
				n.Def.Title+" has no label: “"+label.Text.Text+"” beside it does not say that it is one",
				"Let “"+label.Text.Text+"” label it",
				set(label.ID, by, id),
				set(n.ID, "id", id),
			)
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

// named tells whether something else on a screen names a control: a label around it or one that says whose
// it is, or words for those who cannot see.
func named(p *audit.Pass, n *audit.Node) bool {
	for _, prop := range []string{"aria-label", "aria-labelledby"} {
		if _, ok := fixed(n, prop); ok {
			return true
		}
	}
	if n.Closest(func(a *audit.Node) bool { return a.Type == kit.HostPrefix+"label" }) != nil {
		return true
	}
	id, ok := fixed(n, "id")
	if !ok || id == "" {
		return false
	}
	labelled := audit.Remember[map[string]bool](p)
	if *labelled == nil {
		*labelled = map[string]bool{}
		p.Doc.Root.Walk(func(e, _ *screen.Element) bool {
			for i := range e.Props {
				if name := kit.AttributeName(e.Props[i].Name); name == "for" {
					(*labelled)[e.Props[i].Value.Text] = true
				}
			}
			return true
		})
	}
	return (*labelled)[id]
}

// beside finds the label that stands right before a control, or right behind it, that could say whose it is
// and does not; by is the setting that says it.
func beside(p *audit.Pass, n *audit.Node) (label *screen.Element, by string, ok bool) {
	if _, can := n.Def.Prop("id"); !can || n.Parent == nil {
		return nil, "", false
	}
	at := slices.IndexFunc(n.Parent.Children, func(c *screen.Element) bool { return c.ID == n.ID })
	for _, i := range []int{at - 1, at + 1} {
		if at < 0 || i < 0 || i >= len(n.Parent.Children) {
			continue
		}
		if i > at && i+1 < len(n.Parent.Children) {
			if next, ok := p.Cat.Component(n.Parent.Children[i+1].Type); ok && next.Role == n.Def.Role {
				continue // it is that one's
			}
		}
		e := n.Parent.Children[i]
		def, known := p.Cat.Component(e.Type)
		if !known || e.Text.Kind != screen.Literal || e.Text.Text == "" || e.Slot != n.Slot {
			continue
		}
		for j := range def.Props {
			name := def.Props[j].Name
			if _, taken := e.Prop(name); kit.AttributeName(name) == "for" && !taken {
				return e, name, true
			}
		}
	}
	return nil, "", false
}
