package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "picture-alt", Title: "Picture without alternative text", Severity: audit.Error,
	Code:    true,
	Purpose: "A picture says in words what it shows, or is marked as mere adornment.",
	Why:     "Who does not see it is told a file name, or nothing.",
	Bad: []string{
		`{"id":"a","type":"sorrel-picture","props":{"src":"/oak.svg"}}`,
		`{"id":"a","type":"sorrel-picture","props":{"src":"/oak.svg","alt":"IMG_2044.jpg"}}`,
		`{"id":"a","type":"html-img","props":{"src":"/oak.svg"}}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-picture","props":{"src":"/oak.svg","alt":"An oak in March"}}`,
		`{"id":"a","type":"sorrel-picture","props":{"src":"/line.svg","decorative":true}}`,
		`{"id":"a","type":"html-img","props":{"src":"/line.svg","alt":""}}`,
	},
	Looks: func(c *kit.Component) bool { return c.Picture != nil },
	Element: func(p *audit.Pass, n *audit.Node) {
		if _, shows := fixed(n, n.Def.Picture.Src); !shows {
			return // it shows initials, or an icon; what must have a picture is told that it is missing
		}
		if v, ok := n.Prop(n.Def.Picture.Decorative); ok && v.Text != "false" {
			return
		}
		if alt, said := n.Prop(n.Def.Picture.Alt); said && n.Def.Plain && alt.Text == "" {
			return // in HTML an empty one says that it is adornment
		}
		if _, ok := fixed(n, n.Def.Picture.Alt); !ok {
			var fix []screen.Edit
			title := ""
			src, _ := n.Prop(n.Def.Picture.Src)
			switch m := recordModel(p, n); {
			case !src.Known() || n.Repeat != nil:
				// The picture of a record says which one it shows.
				if name := m.FirstText(); name != "" {
					title = "Say which " + strings.ToLower(m.Name) + " it shows"
					fix = append(fix, screen.Edit{
						Op: screen.Set, ID: n.ID, Prop: n.Def.Picture.Alt,
						Value: screen.Value{Kind: screen.Expr, Text: "record." + name},
					})
				}
			case n.Def.Picture.Decorative != "":
				title = "Mark it as adornment"
				fix = append(
					fix,
					screen.Edit{
						Op:    screen.Set,
						ID:    n.ID,
						Prop:  n.Def.Picture.Decorative,
						Value: screen.FlagValue(true),
					},
				)
			}
			p.Report(n, n.Def.Picture.Alt, "the picture has no alternative text", title, fix...)
			return
		}
		if alt, ok := n.Prop(n.Def.Picture.Alt); ok && alt.Kind == screen.Literal && fileEnd.MatchString(alt.Text) {
			p.Report(n, n.Def.Picture.Alt, "“"+alt.Text+"” is the name of a file and no words for the picture", "")
		}
	},
})
