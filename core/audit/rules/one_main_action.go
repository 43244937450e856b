package rules

import (
	"fmt"
	"slices"

	"ubiquant/core/audit"
	"ubiquant/core/cases"
)

var _ = add(&audit.Rule{
	ID: "one-main-action", Title: "More than one main action", Severity: audit.Warning,
	Code:    true,
	Purpose: "A group of actions has at most one main one.",
	Why:     "Two equally loud buttons leave it to the person to find out which one leads on.",
	Bad: []string{
		`{"id":"a","type":"sorrel-button-group","children":[{"id":"b","type":"sorrel-button","text":"Save","props":{"emphasis":"strong","to":"/"}},{"id":"c","type":"sorrel-button","text":"Send","props":{"emphasis":"strong","to":"/x"}}]}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-button-group","children":[{"id":"b","type":"sorrel-button","text":"Cancel","props":{"emphasis":"bare","to":"/"}},{"id":"c","type":"sorrel-button","text":"Send","props":{"emphasis":"strong","to":"/x"}}]}`,
	},
	Settings: []audit.Setting{
		{Name: "most", Help: "Main actions that may stand in one group", Default: "1", Number: true},
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		var mains map[string][]*audit.Node
		for _, c := range n.Children {
			def, ok := p.Cat.Component(c.Type)
			// Of what code shows now and then, one may stand in place of the other.
			if !ok || def.Main == nil || c.Repeat != nil || c.Show != "" && p.Doc.Source != "" {
				continue
			}
			if v, ok := c.Prop(def.Main.Prop); ok && v.Text == def.Main.Value {
				if mains == nil {
					mains = map[string][]*audit.Node{}
				}
				mains[c.Slot] = append(mains[c.Slot], &audit.Node{Element: c, Def: def})
			}
		}
		for _, list := range mains {
			// What sends the form leads on, else what makes or keeps something, else the last one.
			slices.SortStableFunc(list, func(a, b *audit.Node) int { return leadsOn(a) - leadsOn(b) })
			for _, extra := range list[:max(0, len(list)-p.Number("most"))] {
				p.Report(
					extra,
					extra.Def.Main.Prop,
					fmt.Sprintf("%d main actions stand in one group", len(list)),
					"Back to the default emphasis",
					unset(extra.ID, extra.Def.Main.Prop),
				)
			}
		}
	},
})

// leadsOn ranks what a main action is for.
func leadsOn(n *audit.Node) int {
	if value(n, n.Def.SendsBy()).Text == "submit" {
		return 2
	}
	if s := cases.Sense(cases.NameOf(n.Def, n.Element)); s != 0 && (s == cases.Sense("save") || s == cases.Sense("new")) {
		return 1
	}
	return 0
}
