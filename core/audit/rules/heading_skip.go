package rules

import (
	"fmt"
	"strconv"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// headings are those of a screen so far.
type headings struct {
	first string // of level 1
	last  int    // the last one's level
}

var _ = add(&audit.Rule{
	ID: "heading-skip", Title: "Heading level skipped", Severity: audit.Warning,
	Purpose: "Headings go down one level at a time.",
	Why:     "Who walks a page by its headings looks for the level that is missing.",
	Bad: []string{
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-page-header","props":{"heading":"Beds"}},{"id":"c","type":"sorrel-page-header","props":{"heading":"More beds"}}]}`,
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-page-header","props":{"heading":"Beds"}},{"id":"c","type":"sorrel-heading","text":"North","props":{"level":3}}]}`,
	},
	Good: []string{
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-page-header","props":{"heading":"Beds"}},{"id":"c","type":"sorrel-heading","text":"North","props":{"level":2}},{"id":"d","type":"sorrel-heading","text":"East","props":{"level":3}},{"id":"e","type":"sorrel-heading","text":"Next","props":{"level":2}}]}`,
	},
	Looks: func(c *kit.Component) bool { return c.Heading != nil },
	Element: func(p *audit.Pass, n *audit.Node) {
		if p.Doc.Kind != screen.ScreenDoc {
			return
		}
		level := n.Def.Heading.Level
		if prop := n.Def.Heading.LevelProp; prop != "" {
			text := "2"
			if def, ok := n.Def.Prop(prop); ok {
				text = def.Default
			}
			if v, ok := n.Prop(prop); ok {
				text = v.Text
			}
			var err error
			if level, err = strconv.Atoi(text); err != nil {
				return
			}
		}
		if level == 1 && n.Closest(func(a *audit.Node) bool { return a.Def != nil && a.Def.Opens() || a.Show != "" || a.Repeat != nil }) == nil && n.Show == "" {
			if first := audit.Remember[headings](p); first.first == "" {
				first.first = n.ID
			} else {
				p.Report(n, "", "a second heading of level 1; the first is "+first.first, "")
			}
		}
		last := &audit.Remember[headings](p).last
		if *last > 0 && level > *last+1 {
			want := *last + 1
			var fix []screen.Edit
			if n.Def.Heading.LevelProp != "" {
				fix = append(
					fix,
					screen.Edit{
						Op:    screen.Set,
						ID:    n.ID,
						Prop:  n.Def.Heading.LevelProp,
						Value: screen.Value{Kind: screen.Num, Text: strconv.Itoa(want)},
					},
				)
			}
			p.Report(
				n,
				n.Def.Heading.LevelProp,
				fmt.Sprintf("a heading of level %d follows one of level %d", level, *last),
				fmt.Sprintf("Make it level %d", want),
				fix...)
			level = want
		}
		*last = level
	},
})
