// Package rules holds the checks of the Census, one a file. To add one, add a
// file with `var _ = add(&audit.Rule{…})`: its bad and good examples are its test
// and its page in the docs.
package rules

import (
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var all []*audit.Rule

func add(r *audit.Rule) *audit.Rule { all = append(all, r); return r }

// All lists the rules by id.
func All() []*audit.Rule {
	out := slices.Clone(all)
	slices.SortFunc(out, func(a, b *audit.Rule) int { return strings.Compare(a.ID, b.ID) })
	return out
}

// Find returns a rule by id.
func Find(id string) (*audit.Rule, bool) {
	for _, r := range append(all, Signing) {
		if r.ID == id {
			return r, true
		}
	}
	return nil, false
}

func set(id, prop, value string) screen.Edit {
	return screen.Edit{Op: screen.Set, ID: id, Prop: prop, Value: screen.Lit(value)}
}

// wrap puts an element into a new one of a type.
func wrap(n *audit.Node, typ, slot string, props ...screen.Prop) screen.Edit {
	return screen.Edit{
		Op:   screen.Wrap,
		Many: []string{n.ID},
		Slot: slot,
		Tree: &screen.Element{ID: n.ID + "-in", Type: typ, Props: props},
	}
}

func unset(id, prop string) screen.Edit {
	return screen.Edit{Op: screen.Unset, ID: id, Prop: prop}
}

// fixed returns a prop's literal text; computed values count as present, and so does what may be
// among more that is set where nobody sees it.
func fixed(n *audit.Node, prop string) (text string, present bool) {
	v, ok := n.Prop(prop)
	if !ok || v.Kind == screen.None {
		return "", n.Spread && !ok
	}
	return v.Text, !v.Known() || strings.TrimSpace(v.Text) != ""
}

// value is what one of the settings that an element may have says; nothing where it has none.
func value(n *audit.Node, p *kit.Prop) screen.Value {
	if p == nil {
		return screen.Value{}
	}
	v, _ := n.Prop(p.Name)
	return v
}

// leads reports whether a setting of an element says where it leads.
func leads(n *audit.Node, def *kit.Prop) bool {
	return n.Def != nil && def != nil && n.Def.Leads(def)
}
