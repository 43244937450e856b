package rules

import (
	"ubiquant/core/audit"
	"ubiquant/core/kit"
)

var _ = add(&audit.Rule{
	ID: "wrong-place", Title: "Element in the wrong place", Severity: audit.Error,
	Purpose: "Elements stand where the kit allows them: in the right parent and slot.",
	Why:     "A cell outside its row, or a button where only fields go, is laid out and read out wrongly.",
	Bad: []string{
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-cell","text":"1"}]}`,
		`{"id":"a","type":"sorrel-field","props":{"label":"x"},"children":[{"id":"b","type":"sorrel-button","text":"Go","props":{"to":"/"}}]}`,
	},
	Good: []string{`{"id":"a","type":"sorrel-row","children":[{"id":"b","type":"sorrel-cell","text":"1"}]}`},
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Parent == nil || n.Parent.Def == nil {
			return
		}
		if reason, ok := kit.Accepts(p.Cat, n.Parent.Def, n.Slot, n.Def); !ok {
			message := n.Def.Title + " cannot stand here: " + reason
			if around := kit.Around(p.Cat, n.Parent.Def, n.Slot, n.Def, p.Kit.Components); len(around) == 1 {
				w, _ := p.Cat.Component(around[0])
				slot, _ := kit.SlotFor(p.Cat, w, n.Def)
				p.Report(n, "", message, "Wrap it in a "+w.Title, wrap(n, around[0], slot))
				return
			}
			p.Report(n, "", message, "")
		}
	},
})
