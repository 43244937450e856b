package rules

import (
	"strconv"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// oneOfMany reports whether a control shares its name with others by intent: buttons of which one
// is chosen, boxes that fill one list.
func oneOfMany(c *kit.Component) bool {
	return strings.Contains(c.Tag, "radio") || strings.Contains(c.Tag, "checkbox")
}

var _ = add(&audit.Rule{
	ID: "shared-id", Title: "Shared id or field name", Severity: audit.Error,
	Code:    true,
	Purpose: "Ids are unique on a screen, and the names of fields within their form.",
	Why:     "Two copies that share an id open each other's menu; two fields that share a name become one when the form is sent.",
	Bad: []string{
		`{"id":"a","type":"sorrel-form","children":[{"id":"b","type":"sorrel-field","props":{"label":"From"},"children":[{"id":"c","type":"sorrel-text-input","props":{"name":"date"}}]},{"id":"d","type":"sorrel-field","props":{"label":"To"},"children":[{"id":"e","type":"sorrel-text-input","props":{"name":"date"}}]}]}`,
	},
	Good: []string{
		`{"id":"a","type":"sorrel-form","children":[{"id":"b","type":"sorrel-field","props":{"label":"From"},"children":[{"id":"c","type":"sorrel-text-input","props":{"name":"from"}}]},{"id":"d","type":"sorrel-field","props":{"label":"To"},"children":[{"id":"e","type":"sorrel-text-input","props":{"name":"to"}}]}]}`,
	},
	Element: func(p *audit.Pass, n *audit.Node) {
		if p.Doc.Source != "" && n.Sometimes() {
			return // two that are never there at once may share what they are called
		}
		type claim struct{ kind, within, name string }
		type seen = map[claim]string
		owners := audit.Remember[seen](p)
		if *owners == nil {
			*owners = seen{}
		}
		check := func(key claim, prop, what string) {
			if first, taken := (*owners)[key]; taken && first != n.ID {
				message := what + " “" + key.name + "” is shared with " + first
				free := key
				for i := 2; ; i++ {
					free.name = key.name + "-" + strconv.Itoa(i)
					if _, taken := (*owners)[free]; !taken {
						break
					}
				}
				(*owners)[free] = n.ID
				if prop == "" {
					p.Report(
						n,
						prop,
						message,
						"Call it "+free.name,
						screen.Edit{Op: screen.Rename, ID: n.ID, Name: free.name},
					)
				} else {
					p.Report(n, prop, message, "Call it "+free.name, set(n.ID, prop, free.name))
				}
				return
			}
			(*owners)[key] = n.ID
		}
		if v, ok := n.Written("id"); ok && v.Kind == screen.Literal && v.Text != "" {
			check(claim{"id", "", v.Text}, "id", "the id")
		}
		if n.Name != "" {
			check(claim{"name", "", n.Name}, "", "the name")
		}
		if v, ok := n.Prop("name"); ok && n.Def.Role == "control" && !oneOfMany(n.Def) && v.Kind == screen.Literal && v.Text != "" {
			form := ""
			if f := n.Closest(func(a *audit.Node) bool { return a.Def != nil && a.Def.Family == "forms" && a.Type != n.Def.LabelledBy }); f != nil {
				form = f.ID
			}
			check(claim{"field", form, v.Text}, "name", "the field name")
		}
	},
})
