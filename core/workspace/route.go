package workspace

import (
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// led is what an element does, led to another route.
func led(does, from, to string) string {
	list, err := screen.ParseActions(does)
	if err != nil {
		return does
	}
	for i, a := range list {
		if a.Verb == screen.GoTo && a.To == from {
			list[i].To = to
		}
	}
	return screen.WriteActions(list)
}

// followRoutes carries links along with a screen whose route or title changes: what led
// there leads there still, and an item of navigation that bore its title bears the new
// one. What is computed from the old route cannot follow by itself, and is told.
func (l *Live) followRoutes(c Change) (Change, []Lost) {
	lost := []Lost{}
	steps := c.Steps
	for _, s := range c.Steps {
		if s.Do != Meta || s.Document == nil {
			continue
		}
		old, ok := l.W.Doc(s.Doc)
		if !ok || old.Kind != screen.ScreenDoc || old.Route == s.Document.Route && old.Title == s.Document.Title {
			continue
		}
		from, to := old.Route, s.Document.Route
		for _, d := range l.W.Docs {
			if d.Removed || d.Kind == screen.ScreenDoc && d.App != old.App {
				continue
			}
			key := string(d.Kind) + ":" + d.ID
			var edits []screen.Edit
			d.Root.Walk(func(e, _ *screen.Element) bool {
				def, ok := l.Cat.Component(e.Type)
				if !ok {
					return true
				}
				leads := false
				for _, p := range e.Props {
					if p.Name == kit.Does && from != to {
						if v := led(p.Value.Text, from, to); v != p.Value.Text {
							edits = append(
								edits,
								screen.Following(
									screen.Edit{
										Op:     screen.Set,
										ID:     e.ID,
										Prop:   p.Name,
										Value:  screen.Lit(v),
										Filled: p.Filled,
									},
								),
							)
						}
					}
					prop, ok := def.Prop(p.Name)
					if !ok || !prop.URL {
						continue
					}
					switch {
					case p.Value.Kind == screen.Literal && p.Value.Text == from:
						leads = true
						if from != to {
							edits = append(
								edits,
								screen.Following(
									screen.Edit{
										Op:     screen.Set,
										ID:     e.ID,
										Prop:   p.Name,
										Value:  screen.Lit(to),
										Filled: p.Filled,
									},
								),
							)
						}
					case p.Value.Kind == screen.Expr && from != to && (strings.Contains(p.Value.Text, "'"+from+"'") || strings.Contains(p.Value.Text, "'"+from+"/'")):
						lost = append(
							lost,
							Lost{
								key,
								d.Title,
								e.ID,
								p.Name,
								"it is computed from " + from + "; write " + to + " there",
							},
						)
					}
				}
				if leads && def.Role == "link" && e.Text == screen.Lit(old.Title) && s.Document.Title != old.Title {
					edits = append(
						edits,
						screen.Following(
							screen.Edit{Op: screen.SetText, ID: e.ID, Value: screen.Lit(s.Document.Title)},
						),
					)
				}
				return true
			})
			if len(edits) > 0 {
				steps = append(steps[:len(steps):len(steps)], Step{Do: EditDoc, Doc: key, Edits: edits})
			}
		}
	}
	c.Steps = steps
	return c, lost
}
