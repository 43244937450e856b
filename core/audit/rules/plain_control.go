package rules

import (
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// Attributes by which plain elements of code act, and how they are written in each framework.
var (
	pressed  = regexp.MustCompile(`^(onClick|@click|v-on:click|\(click\))(\.[a-z.]+)?$`)
	keyed    = regexp.MustCompile(`(?i)^(on|@|v-on:|\()key|^tabindex$|^role$|^contenteditable$`)
	holdsUp  = regexp.MustCompile(`^\(?\w*\)?\s*=>\s*\{?\s*\w+\??\.(stopPropagation|preventDefault)\(\);?\s*\}?$|^\$?e(vent)?\.(stopPropagation|preventDefault)\(\)$`)
	covering = regexp.MustCompile(`(?i)overlay|backdrop|mask|scrim|\binset-0\b`)
	ownWord  = regexp.MustCompile(`^(class|className|style|id|key|ref|title|alt|src|hidden|draggable|dir|lang|slot)$|^(data|aria|v|on)-|^\[|^[@:(#]|^on[A-Z]`)
)

// passive are the plain elements that are no control, whatever they are told.
var passive = []string{
	"div", "span", "p", "li", "img", "section", "article", "header", "footer", "aside", "td", "i", "svg",
	"h1", "h2", "h3", "h4", "h5", "h6", "strong", "em", "b", "small", "figure", "nav", "main", "ul", "dl", "dt", "dd",
}

var _ = add(&audit.Rule{
	ID: "plain-control", Title: "A plain element that is pressed", Severity: audit.Warning,
	Code:    true,
	Purpose: "What acts when it is pressed is a button, a link or another control.",
	Why:     "The keyboard does not reach a plain element, nothing is announced of it, and it has none of the kit’s looks.",
	Bad:     []string{`{"id":"a","type":"html-div","origin":{"file":"a.tsx","besides":{"onClick":{"bound":"go"}}},"text":"Prune"}`},
	Good: []string{
		`{"id":"a","type":"html-div","origin":{"file":"a.tsx","besides":{"onClick":{"bound":"e => e.stopPropagation()"}}},"text":"Prune"}`,
		`{"id":"a","type":"html-div","props":{"role":"button"},"origin":{"file":"a.tsx","besides":{"onClick":{"bound":"go"}}},"text":"Prune"}`,
	},
	Looks: func(c *kit.Component) bool { return c.Plain },
	Element: func(p *audit.Pass, n *audit.Node) {
		plain, host := strings.CutPrefix(n.Type, kit.HostPrefix)
		if !host || !slices.Contains(passive, plain) || n.Spread || n.Origin == nil || covering.MatchString(n.Origin.Look) {
			return
		}
		acts := false
		for _, a := range n.Origin.Besides {
			switch {
			case keyed.MatchString(a.Name):
				return
			case pressed.MatchString(a.Name):
				acts = acts || a.Value.Text != "" && !holdsUp.MatchString(a.Value.Text)
			case a.Value.Kind == screen.Flag && !ownWord.MatchString(a.Name):
				return // a directive, which may make a control of it
			}
		}
		if !acts || slices.ContainsFunc(n.Element.Props, func(s screen.Prop) bool { return keyed.MatchString(s.Name) }) {
			return
		}
		// What holds controls makes more room for pressing them.
		reached := false
		n.Element.Walk(func(e, _ *screen.Element) bool {
			def, ok := p.Cat.Component(e.Type)
			reached = reached || e != n.Element && ok && (def.Role == "action" || def.Role == "control" || def.Role == "link" ||
				slices.Contains([]string{"button", "a", "input", "select", "textarea", "label"}, strings.TrimPrefix(e.Type, kit.HostPrefix)))
			return !reached
		})
		if reached || n.Closest(func(a *audit.Node) bool {
			return presses.MatchString(a.Type) && !strings.Contains(a.Type, "tooltip") ||
				a.Def != nil && (a.Def.Role == "action" || a.Def.Role == "link")
		}) != nil {
			return
		}
		p.Report(n, "", "a plain "+plain+" acts when it is pressed: the keyboard does not reach it", "")
	},
})
