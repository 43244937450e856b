package rules

import (
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// mostMisspelt is how many uses may write a name otherwise by mistake; what more do is a prop that
// nobody described.
const mostMisspelt = 2

// misspelt is the prop that a name in code, which the component does not have, was to be; empty where none is near.
func misspelt(c *kit.Component, name string) string {
	const shortest = 4
	if len(name) < shortest || strings.ContainsAny(name, "-:@.()[]*#") {
		return ""
	}
	for i := range c.Props {
		p := &c.Props[i]
		if p.Handed || p.From == kit.Guessed || len(p.Name) < shortest || p.Name == name {
			continue
		}
		if oneSlip(strings.ToLower(p.Name), strings.ToLower(name)) {
			return p.Name
		}
	}
	return ""
}

// oneSlip reports whether two words differ by one letter too many, too few or another, or by two
// neighbours that changed places; of short words, many of which are near each other, by the last alone.
func oneSlip(a, b string) bool {
	const short = 4 // letters
	if len(a) > len(b) {
		a, b = b, a
	}
	i := 0
	for i < len(a) && a[i] == b[i] {
		i++
	}
	switch {
	case len(a) == len(b) && i == len(a):
		return true // in capitals
	case len(a)+1 == len(b):
		return len(a) > short && a[i:] == b[i+1:]
	case len(a) != len(b):
		return false
	}
	return len(a) > short && a[i+1:] == b[i+1:] || i+1 < len(a) && a[i] == b[i+1] && a[i+1] == b[i] && a[i+2:] == b[i+2:]
}

var _ = add(&audit.Rule{
	ID: "unknown-prop", Title: "Unknown prop", Severity: audit.Error,
	Code:    true,
	Purpose: "Every prop that is set exists on its component, written as the kit writes it.",
	Why:     "A prop the component does not know has no effect; often its name is only spelled otherwise (capitals, dashes).",
	Bad:     []string{`{"id":"a","type":"sorrel-button","text":"Save","props":{"Emphasis":"strong"}}`},
	Good:    []string{`{"id":"a","type":"sorrel-button","text":"Save","props":{"emphasis":"strong"}}`},
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Origin == nil || n.Def.Plain || n.Def.From == kit.Guessed {
			return
		}
		look := func(name string) {
			if near := misspelt(n.Def, name); near != "" {
				p.Fact(n, n.Type+"\x00"+name, near)
			}
		}
		for _, besides := range n.Origin.Besides {
			look(besides.Name)
		}
		for i := range n.Props {
			if def, ok := n.Def.Prop(n.Props[i].Name); ok && def.From == kit.Guessed { // seen in use, and nowhere else
				look(def.Name)
			}
		}
	},
	Judge: func(g *audit.Group) {
		for _, known := range g.Sorted() {
			if places := g.Values[known]; len(places) <= mostMisspelt {
				_, name, _ := strings.Cut(g.Key, "\x00")
				for _, place := range places {
					g.Report(place, name, "it has no prop “"+name+"”; it is written “"+known+"”", "")
				}
			}
		}
	},
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, def *kit.Prop) {
		if def != nil {
			return
		}
		fold := func(s string) string { return strings.ToLower(strings.ReplaceAll(s, "-", "")) }
		for _, known := range n.Def.Props {
			if fold(known.Name) == fold(prop.Name) {
				p.Report(
					n,
					prop.Name,
					n.Def.Title+" has no prop “"+prop.Name+"”; it is written “"+known.Name+"”",
					"Write it “"+known.Name+"”",
					unset(
						n.ID,
						prop.Name,
					),
					screen.Edit{Op: screen.Set, ID: n.ID, Prop: known.Name, Value: prop.Value},
				)
				return
			}
		}
		p.Report(n, prop.Name, n.Def.Title+" has no prop “"+prop.Name+"”", "Take it off", unset(n.ID, prop.Name))
	},
})
