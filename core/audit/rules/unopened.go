package rules

import (
	"maps"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// opened is who opens what within one document.
type opened struct {
	ready bool
	by    map[string][]string // element that opens: the ids of those that open it
	up    map[string]string   // element: its parent
	moved map[string]bool     // what a state sets something of
}

var _ = add(&audit.Rule{
	ID: "unopened", Title: "What nothing opens", Severity: audit.Warning,
	Purpose: "A dialog, a menu and whatever else is closed at first has something that opens it.",
	Why:     "After copying, the button of the second menu often still opens the first.",
	Bad: []string{
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-button","text":"More","props":{"does":"open d"}},{"id":"c","type":"sorrel-dialog","props":{"heading":"Old"}},{"id":"d","type":"sorrel-dialog","props":{"heading":"More"}}]}`,
		`{"id":"a","type":"stack","children":[
			{"id":"r","type":"row","children":[{"id":"rb","type":"sorrel-button","text":"More","props":{"does":"open rm"}},{"id":"rm","type":"sorrel-menu","props":{"label":"More"}}]},
			{"id":"s","type":"row","children":[{"id":"sb","type":"sorrel-button","text":"Others","props":{"does":"open rm"}},{"id":"sm","type":"sorrel-menu","props":{"label":"Others"}}]}]}`,
	},
	Good: []string{
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-button","text":"More","props":{"does":"open c"}},{"id":"c","type":"sorrel-dialog","props":{"heading":"More"}}]}`,
		`{"id":"c","type":"sorrel-dialog","props":{"heading":"More","open":true}}`,
	},
	Looks: func(c *kit.Component) bool { return openedFromOutside(c) },
	Element: func(p *audit.Pass, n *audit.Node) {
		if v, ok := n.Prop(n.Def.OpensBy); ok && (!v.Known() || v.Text != "false") || n.Parent == nil && p.Doc.Kind == screen.PieceDoc {
			return
		}
		o := openings(p, n)
		title := strings.ToLower(n.Def.Title)
		if len(o.by[n.ID]) > 0 || o.moved[n.ID] {
			p.Fact(n, n.Type, "opened "+title)
			return
		}
		// What stands with it and opens another of its kind was meant for it.
		for _, other := range slices.Sorted(maps.Keys(o.by)) {
			if len(o.by[other]) < 2 || !sameType(p, other, n.Type) {
				continue
			}
			for _, from := range o.by[other] {
				if o.near(from, n.ID) > o.near(from, other) {
					p.Report(n, "", "nothing opens it; the button beside it opens another "+title, "Let the button beside it open it",
						set(from, kit.Does, screen.Aim(doesOf(p, from), map[string]string{other: n.ID})))
					return
				}
			}
		}
		p.Fact(n, n.Type, "shut "+title)
	},
	// Where none of the kind is opened anywhere, screens are drawn and not wired, and that is no slip.
	Judge: func(g *audit.Group) {
		wired := false
		for _, v := range g.Sorted() {
			state, title, _ := strings.Cut(v, " ")
			if wired = wired || state == "opened"; !wired || state == "opened" {
				continue
			}
			for _, place := range g.Values[v] {
				g.Report(place, "", "nothing opens the "+title, "")
			}
		}
	},
})

// closed is what events are called that tell of something closed, and of nothing opened.
var closed = regexp.MustCompile(`(?i)(close|hide|dismiss|cancel)$`)

// openedFromOutside tells whether a component is closed until something else opens it.
func openedFromOutside(c *kit.Component) bool {
	if !c.Opens() || !closed.MatchString(c.Closes) {
		return false
	}
	return !slices.ContainsFunc(c.Slots, func(s kit.Slot) bool {
		return slices.Contains([]string{"trigger", "anchor", "activator", "toggle", "button", "target", "reference"}, s.Name)
	})
}

func openings(p *audit.Pass, n *audit.Node) *opened {
	o := audit.Remember[opened](p)
	if o.ready {
		return o
	}
	*o = opened{ready: true, by: map[string][]string{}, up: map[string]string{}, moved: map[string]bool{}}
	note := func(e, parent *screen.Element) {
		if parent != nil {
			o.up[e.ID] = parent.ID
		}
		v, _ := e.Prop(kit.Does)
		list, _ := screen.ParseActions(v.Text)
		for _, a := range list {
			if a.Verb == screen.Open {
				o.by[a.To] = append(o.by[a.To], e.ID)
			}
		}
	}
	p.Doc.Root.Walk(func(e, parent *screen.Element) bool { note(e, parent); return true })
	for i := range p.Doc.States {
		for _, e := range p.Doc.States[i].Edits {
			o.moved[e.ID] = true
			if e.Tree != nil {
				e.Tree.Walk(func(e, parent *screen.Element) bool { note(e, parent); return true })
			}
			if list, err := screen.ParseActions(e.Value.Text); err == nil && e.Prop == kit.Does {
				for _, a := range list {
					o.by[a.To] = append(o.by[a.To], e.ID)
				}
			}
		}
	}
	return o
}

// near is how deep the closest element around both stands.
func (o *opened) near(a, b string) int {
	path := func(id string) (out []string) {
		for ; id != ""; id = o.up[id] {
			out = append(out, id)
		}
		slices.Reverse(out)
		return out
	}
	x, y := path(a), path(b)
	n := 0
	for n < len(x) && n < len(y) && x[n] == y[n] {
		n++
	}
	return n
}

func doesOf(p *audit.Pass, id string) string {
	e, _ := p.Doc.Root.Find(id)
	if e == nil {
		return ""
	}
	v, _ := e.Prop(kit.Does)
	return v.Text
}

func sameType(p *audit.Pass, id, typ string) bool {
	e, _ := p.Doc.Root.Find(id)
	return e != nil && e.Type == typ
}
