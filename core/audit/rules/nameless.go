package rules

import (
	"regexp"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// naming are names of settings by which something is named for those who do not see it.
var naming = regexp.MustCompile(`(?i)label|title|tooltip|describedby|alt$|^(text|content|children|aria-.*name)$`)

// drawing are attributes that only say how a picture looks.
var drawing = regexp.MustCompile(`^(style|size|width|height|color|colour|fill|stroke.*|icon|name|weight|spin|inline|variant|tone|` +
	`svgIcon|fontIcon|aria-hidden|focusable|xmlns|viewBox|data-.*)$`)

var _ = add(&audit.Rule{
	ID: "nameless", Title: "A control with a picture and no name", Severity: audit.Error,
	Code:    true,
	Purpose: "What shows a picture alone says in words what it does.",
	Why:     "Who does not see the picture is told “button”, and nothing else.",
	Bad: []string{
		`{"id":"a","type":"html-button","children":[{"id":"b","type":"html-svg"}]}`,
		`{"id":"a","type":"sorrel-button","children":[{"id":"b","type":"html-span","children":[{"id":"c","type":"html-svg"}]}],"props":{"to":"/"}}`,
	},
	Good: []string{
		`{"id":"a","type":"html-button","text":"Prune","children":[{"id":"b","type":"html-svg"}]}`,
		`{"id":"a","type":"html-button","children":[{"id":"b","type":"html-svg"},{"id":"c","type":"html-span","text":"Prune"}]}`,
		`{"id":"a","type":"html-button","children":[{"id":"b","type":"html-img","props":{"src":"/oak.svg","alt":"Prune"}}]}`,
		`{"id":"a","type":"html-button","children":[{"id":"b","type":"html-svg","children":[{"id":"c","type":"html-title","text":"Prune"}]}]}`,
		`{"id":"a","type":"html-button","children":[{"id":"b","type":"other-words"}]}`,
	},
	Looks: func(c *kit.Component) bool { return c.Role == "action" || c.Tag == kit.HostPrefix+"button" },
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Spread || n.Text.Kind != screen.None || len(n.Children) == 0 {
			return
		}
		if n.Parent != nil && strings.Contains(n.Parent.Type, "tooltip") {
			return // some name what stands in them
		}
		named := func(list []screen.Prop) bool {
			for i := range list {
				if naming.MatchString(list[i].Name) && (!list[i].Value.Known() || list[i].Value.Text != "") || list[i].Name == n.Def.NameProp {
					return true
				}
			}
			return false
		}
		if named(n.Element.Props) || n.Origin != nil && named(n.Origin.Besides) {
			return
		}
		for _, c := range n.Children {
			if !pictureOnly(p, c) {
				return
			}
		}
		p.Report(n, n.Def.NameProp, "it shows a picture and has no name in words", "")
	},
})

// pictureOnly reports whether an element is known to show a picture and no words.
func pictureOnly(p *audit.Pass, e *screen.Element) bool {
	if e.Text.Kind != screen.None || e.Spread || e.Slot != "" && !pictureSlot.MatchString(e.Slot) {
		return false
	}
	for _, list := range [][]screen.Prop{e.Props, besidesOf(e)} {
		for i := range list {
			if naming.MatchString(list[i].Name) && list[i].Value.Text != "" {
				return false
			}
		}
	}
	def, _ := p.Cat.Component(e.Type)
	plain, host := strings.CutPrefix(e.Type, kit.HostPrefix)
	switch {
	case host && (plain == "svg" || plain == "img" || plain == "i"):
		says := false // as a title in it does
		e.Walk(func(in, _ *screen.Element) bool {
			says = says || in.Text.Kind != screen.None
			return !says
		})
		return !says
	case host && (plain == "span" || plain == "div") && len(e.Children) > 0:
		for _, c := range e.Children {
			if !pictureOnly(p, c) {
				return false
			}
		}
		return true
	case len(e.Children) > 0:
		return false
	case def != nil && !def.Plain:
		return def.Role == "icon" || strings.HasSuffix(e.Type, "-icon") ||
			strings.HasPrefix(e.Type, "icon-") && def.From == kit.Guessed && onlyDrawn(e)
	}
	// Of another package what has nothing in it and is told only how to look is a picture.
	if e.Origin == nil || !strings.HasPrefix(e.Type, kit.OtherPrefix) || strings.Contains(e.Type, "under-") {
		return false
	}
	return onlyDrawn(e) && e.FromCode()
}

// pictureSlot are places of a control in which its picture stands.
var pictureSlot = regexp.MustCompile(`(?i)icon|^(prefix|suffix|prepend|append|start|end|left|right|leading|trailing|before|after)$`)

// onlyDrawn reports whether an element is told only how it looks.
func onlyDrawn(e *screen.Element) bool {
	for _, list := range [][]screen.Prop{e.Props, besidesOf(e)} {
		for i := range list {
			if !drawing.MatchString(list[i].Name) {
				return false
			}
		}
	}
	return true
}

func besidesOf(e *screen.Element) []screen.Prop {
	if e.Origin == nil {
		return nil
	}
	return e.Origin.Besides
}
