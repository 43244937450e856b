package rules

import (
	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "idle-state", Title: "A state in which nothing differs", Severity: audit.Note,
	Purpose: "A state shows what the usual one does not, or is looked at with a sample set of its own.",
	Why:     "It is chosen, signed and delivered as if somebody had thought of it, and shows what is always shown.",
	Bad:     []string{},
	Good:    []string{`{"id":"a","type":"sorrel-text","text":"The usual state alone."}`},
	Looks:   func(*kit.Component) bool { return true },
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Parent != nil {
			return
		}
		for i := range p.Doc.States {
			s := &p.Doc.States[i]
			if s.Set != "" || !asUsual(p.Doc, s, p.Cat) {
				continue
			}
			p.Report(n, "", "in the state “"+s.Name+"” nothing differs from the usual one", "")
		}
	},
})

// asUsual tells whether a state comes to the usual tree, whatever its edits are.
func asUsual(d *screen.Document, s *screen.State, cat kit.Catalog) bool {
	if len(s.Edits) == 0 {
		return true
	}
	root, lost := screen.In(d, s.Name, cat)
	if len(lost) > 0 {
		return false // told where the state is looked at
	}
	var then, now screen.Writer
	then.Element(root)
	now.Element(d.Root)
	return string(then.B) == string(now.B)
}
