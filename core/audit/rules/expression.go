package rules

import (
	"slices"

	"ubiquant/core/audit"
	"ubiquant/core/expr"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "expression", Title: "Expression that cannot be computed", Severity: audit.Error,
	Purpose: "Every binding and condition speaks of fields and models that exist.",
	Why:     "A renamed field leaves an empty place where its value was.",
	Bad: []string{
		`{"id":"a","type":"sorrel-text","text":{"expr":"record.title"}}`,
		`{"id":"a","type":"sorrel-text","text":"x","repeat":{"model":"tickets","sort":"state, -duee"}}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-text","text":{"expr":"'today is ' + day(today)"}}`,
		`{"id":"a","type":"sorrel-text","text":"x","repeat":{"model":"tickets","sort":"state, -due"}}`,
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		var scope expr.Scope
		scoped := false
		check := func(prop, source string) {
			if !scoped {
				scope, scoped = scopeOf(p, n), true
			}
			if _, err := expr.Compile(source, scope); err != nil {
				p.Report(n, prop, err.Error(), "")
			}
		}
		over := recordModel(p, n)
		if n.Repeat != nil && over == nil {
			p.Report(n, "repeat", resolve.NoModel(n.Repeat.Model), "")
			return
		}
		if n.Repeat != nil {
			if r := n.Repeat; r.Page != "" {
				if c, ok := scopeOf(p, n).Controls[resolve.Identifier(r.Page)]; !ok || c != expr.Number {
					p.Report(
						n,
						"repeat",
						"its page is that of "+r.Page+", and no control of that name holds a number",
						"",
					)
				} else if r.Limit == 0 {
					p.Report(n, "repeat", "it has pages, and nothing says how many stand on each", "")
				}
			}
			m := over
			for _, k := range sample.Keys(n.Repeat.Sort) {
				if _, ok := m.Field(k.Field); !ok && k.Field != "id" {
					p.Report(n, "repeat", "it is ordered by "+k.Field+", a field that "+m.Name+" does not have", "")
				}
			}
		}
		eachExpression(n, check)
	},
})

// eachExpression calls check for all that an element computes.
func eachExpression(n *audit.Node, check func(prop, source string)) {
	if n.Text.Kind == screen.Expr {
		check("text", n.Text.Text)
	}
	for _, prop := range n.Props {
		if prop.Value.Kind == screen.Expr {
			check(prop.Name, prop.Value.Text)
		}
	}
	if n.Show != "" {
		check("show", n.Show)
	}
	if n.Repeat != nil && n.Repeat.Where != "" {
		check("repeat", n.Repeat.Where)
	}
}

// namesOf are the names of the document looked at, collected once.
func namesOf(p *audit.Pass, root *audit.Node) *resolve.Names {
	known := audit.Remember[*resolve.Names](p)
	if *known == nil {
		*known = resolve.NamesOf(root.Element, p.Cat).On(p.Doc.Route)
	}
	return *known
}

// scopeOf is what the expressions of an element may speak of.
func scopeOf(p *audit.Pass, n *audit.Node) expr.Scope {
	s := expr.Scope{Models: p.Models, Sources: p.Sourced}
	root := n
	var repeats []string
	for up := n; up != nil; up = up.Parent {
		root = up
		if up.Repeat != nil {
			repeats = append(repeats, up.Repeat.Model)
		}
	}
	for _, repeat := range slices.Backward(repeats) {
		s = s.Enter(repeat)
	}
	if p.Doc.Kind == screen.ShellDoc {
		return s // names are those of a screen or of a piece
	}
	return namesOf(p, root).In(s)
}

// recordModel is the model of the nearest repeat at or above an element.
func recordModel(p *audit.Pass, n *audit.Node) *sample.Model {
	for ; n != nil; n = n.Parent {
		if n.Repeat != nil {
			var around *sample.Model
			if _, ofField := sample.OverField(n.Repeat.Model); ofField {
				around = recordModel(p, n.Parent)
			}
			return sample.Over(n.Repeat.Model, around, p.Models)
		}
	}
	return nil
}
