package snippet

import (
	"slices"
	"strings"

	"ubiquant/core/cases"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/screen"
)

// Lead is a place that an action of a record leads to.
type Lead struct {
	Title string   `json:"title"` // of the screen
	To    string   `json:"to"`    // an expression: the address for the record around
	Words []string `json:"words"` // that an action which leads there says
}

// Leads are the screens of single records that what comes to stand in parent may lead to: those
// of what repeats around it, by the routes of the application.
func Leads(l *live.Live, root, parent *screen.Element, app string) []Lead {
	model := ""
	for _, e := range root.Path(parent.ID) {
		if e.Repeat != nil {
			model = e.Repeat.Model
		}
	}
	if model == "" {
		return nil
	}
	lists := map[string]bool{} // routes of what shows these records as a list
	var screens []*screen.Document
	for _, d := range l.W.Docs {
		if d.Kind != screen.ScreenDoc || d.Removed || d.Root == nil || app != "" && d.App != app {
			continue
		}
		screens = append(screens, d)
		d.Root.Walk(func(e, _ *screen.Element) bool {
			if e.Repeat != nil && e.Repeat.Model == model {
				lists[d.Route] = true
			}
			return true
		})
	}
	var out []Lead
	for _, d := range screens {
		before, rest, one := strings.Cut(d.Route, "/:")
		_, verb, deeper := strings.Cut(rest, "/")
		if !one || strings.ContainsAny(verb, ":/") || !lists[before] && before[strings.LastIndexByte(before, '/')+1:] != model {
			continue
		}
		lead := Lead{Title: d.Title, To: "'" + before + "/' + record.id", Words: cases.Senses("show")}
		if deeper {
			lead.To += " + '/" + verb + "'"
			lead.Words = append(cases.Senses(verb), strings.ReplaceAll(verb, "-", " "))
		}
		out = append(out, lead)
	}
	return out
}

// LeadProp is the setting of an action or a link that says where it leads; empty where it has none.
func LeadProp(def *kit.Component) string {
	for i := range def.Props {
		p := &def.Props[i]
		if p.URL && (def.Role == "link" || def.Role == "action" || slices.Contains(def.Acts, p.Name)) {
			return p.Name
		}
	}
	return ""
}
