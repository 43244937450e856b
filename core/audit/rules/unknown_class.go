package rules

import (
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "unknown-class", Title: "Unknown class", Severity: audit.Note,
	Purpose: "A class that an element is given is one that the styles of the application speak of.",
	Why:     "A class that no style speaks of does nothing, and is often spelled otherwise. What makes styles of classes may know it; here it is drawn without.",
	Bad:     []string{`{"id":"a","type":"html-div","text":"Ferns","props":{"class":"cardd"}}`},
	Good:    []string{`{"id":"a","type":"html-div","text":"Ferns","props":{"class":"card"}}`},
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, def *kit.Prop) {
		if def == nil || !def.Handed || def.Name != kit.ClassProp || prop.Value.Kind != screen.Literal {
			return
		}
		var unknown, kept []string
		for name := range strings.FieldsSeq(prop.Value.Text) {
			if _, known := slices.BinarySearch(p.Kit.Classes, name); known {
				kept = append(kept, name)
			} else {
				unknown = append(unknown, name)
			}
		}
		if len(unknown) == 0 {
			return
		}
		fix := unset(n.ID, prop.Name)
		if len(kept) > 0 {
			fix = set(n.ID, prop.Name, strings.Join(kept, " "))
		}
		word := "the class "
		if len(unknown) > 1 {
			word = "the classes "
		}
		p.Report(n, prop.Name, "no style of the application speaks of "+word+strings.Join(unknown, ", "), "Take it off", fix)
	},
})
