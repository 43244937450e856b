package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "loose-pager", Title: "A pager that turns nothing", Severity: audit.Note,
	Purpose: "A pager has a name, what repeats takes its page from it, and the pages are counted.",
	Why:     "It shows “Page 1 of 7”, and page 2 is page 1 again.",
	Bad: []string{
		`{"id":"s","type":"stack","children":[{"id":"a","type":"sorrel-text","name":"list","text":"x","repeat":{"model":"tickets","limit":10,"page":"page"}},{"id":"p","type":"sorrel-pager","name":"page","props":{"pages":7}}]}`,
		`{"id":"s","type":"stack","children":[{"id":"a","type":"sorrel-text","text":"x","repeat":{"model":"tickets","limit":10}},{"id":"p","type":"sorrel-pager","props":{"pages":7}}]}`,
	},
	Good: []string{
		`{"id":"s","type":"stack","children":[{"id":"a","type":"sorrel-text","name":"list","text":"x","repeat":{"model":"tickets","limit":10,"page":"page"}},{"id":"p","type":"sorrel-pager","name":"page","props":{"pages":{"expr":"pages.list"}}}]}`,
		`{"id":"s","type":"stack","children":[{"id":"a","type":"sorrel-text","text":"x","repeat":{"model":"tickets","limit":10,"page":"page"}},{"id":"p","type":"sorrel-pager","name":"page"}]}`,
		`{"id":"s","type":"stack","children":[{"id":"p","type":"sorrel-pager","props":{"pages":7}}]}`,
	},
	Looks: func(c *kit.Component) bool { return c.Holds == "page" },
	Element: func(p *audit.Pass, n *audit.Node) {
		if p.Doc.Kind != screen.ScreenDoc {
			return
		}
		if n.Name != "" {
			typedPages(p, n)
			return
		}
		if text, ok := fixed(n, kit.Does); ok && text != "" {
			return
		}
		// Where nothing repeats in parts, code of the team's own may turn the pages.
		parts := false
		p.Doc.Root.Walk(func(e, _ *screen.Element) bool {
			parts = parts || e.Repeat != nil && e.Repeat.Limit > 0 && e.Repeat.Page == ""
			return !parts
		})
		if parts {
			p.Report(n, "", n.Def.Title+" has no name, and nothing takes its page from it", "")
		}
	},
})

// typedPages tells of a pager that says how many pages there are in figures, whatever repeats.
func typedPages(p *audit.Pass, n *audit.Node) {
	var turned *screen.Element
	p.Doc.Root.Walk(func(e, _ *screen.Element) bool {
		if e.Repeat != nil && e.Repeat.Page == n.Name {
			turned = e
		}
		return turned == nil
	})
	prop, has := n.Def.Prop("pages")
	if turned == nil || !has {
		return
	}
	v, ok := n.Prop(prop.Name)
	if !ok || v.Kind != screen.Literal && v.Kind != screen.Num || strings.TrimSpace(v.Text) == "" {
		return
	}
	message := "it says " + v.Text + " pages, however many there are"
	if turned.Name == "" {
		p.Report(n, prop.Name, message+"; what repeats has no name to count them by", "")
		return
	}
	p.Report(n, prop.Name, message, "Count the pages of "+turned.Name,
		screen.Edit{Op: screen.Set, ID: n.ID, Prop: prop.Name, Value: screen.Value{Kind: screen.Expr, Text: "pages." + turned.Name}})
}
