package rules

import (
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

var _ = add(&audit.Rule{
	ID: "dead-action", Title: "Acts on what is not there", Severity: audit.Warning,
	Purpose: "What a press opens, where it leads and the state it brings are there.",
	Why:     "A removed dialog or a renamed state leaves a button behind that does nothing.",
	Bad: []string{
		`{"id":"a","type":"sorrel-button","text":"More","props":{"does":"open gone"}}`,
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-button","text":"More","props":{"does":"open c"}},{"id":"c","type":"sorrel-text","text":"No dialog"}]}`,
		`{"id":"a","type":"sorrel-button","text":"Try again","props":{"does":"state waiting"}}`,
		`{"id":"a","type":"sorrel-button","text":"More","props":{"does":"go /nowhere"}}`,
		`{"id":"a","type":"sorrel-button","text":"Dark","props":{"does":"theme midnight"}}`,
		`{"id":"a","type":"sorrel-button","text":"Send","props":{"does":"submit"}}`,
		`{"id":"a","type":"sorrel-button","text":"Send","props":{"does":"explode"}}`,
		`{"id":"a","type":"sorrel-button","text":"Done","props":{"does":"change state done"}}`,
		`{"id":"f","type":"sorrel-form","props":{"label":"New","does":"add tickets"},"children":[{"id":"d","type":"sorrel-text-input","props":{"name":"colour"}}]}`,
		`{"id":"r","type":"stack","repeat":{"model":"tickets"},"children":[{"id":"a","type":"sorrel-button","text":"Done","props":{"does":"change state over"}}]}`,
	},
	Good: []string{
		`{"id":"f","type":"sorrel-form","props":{"label":"New","does":"add tickets"},"children":[{"id":"d","type":"sorrel-text-input","props":{"name":"state"}}]}`,
		`{"id":"r","type":"stack","repeat":{"model":"tickets"},"children":[{"id":"a","type":"sorrel-button","text":"Done","props":{"does":"change state done"}},{"id":"b","type":"sorrel-button","text":"Away","props":{"does":"remove"}}]}`,
		`{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-button","text":"More","props":{"does":"open c; theme dark; state ready; go /tickets"}},{"id":"c","type":"sorrel-dialog","props":{"heading":"More"}}]}`,
		`{"id":"a","type":"sorrel-form","props":{"label":"x"},"children":[{"id":"b","type":"sorrel-icon-button","slot":"actions","props":{"icon":"check","label":"Save","does":"submit"}}]}`,
	},
	Looks: func(c *kit.Component) bool { return c.Answers != "" },
	Prop: func(p *audit.Pass, n *audit.Node, prop *screen.Prop, _ *kit.Prop) {
		if prop.Name != kit.Does {
			return
		}
		list, err := screen.ParseActions(prop.Value.Text)
		if err != nil {
			p.Report(
				n,
				prop.Name,
				"what it does cannot be read: "+err.Error(),
				"Let it do nothing",
				unset(n.ID, prop.Name),
			)
			return
		}
		for i, a := range list {
			why := amiss(p, n, a)
			if why == "" {
				continue
			}
			rest := slices.Delete(slices.Clone(list), i, i+1)
			fix := unset(n.ID, prop.Name)
			if len(rest) > 0 {
				fix = set(n.ID, prop.Name, screen.WriteActions(rest))
			}
			p.Report(n, prop.Name, why, "Without “"+a.String()+"”", fix)
			return
		}
	},
})

// amiss says why an action comes to nothing; empty where it does not.
func amiss(p *audit.Pass, n *audit.Node, a screen.Action) string {
	switch a.Verb {
	case screen.Open, screen.Close:
		target := within(p.Doc, a.To)
		if target == nil {
			return "what it is to " + a.Verb + " is not there"
		}
		if def, ok := p.Cat.Component(target.Type); ok && !def.Opens() {
			return "it is to " + a.Verb + " " + def.Title + ", which neither opens nor closes"
		}
	case screen.Enter:
		if _, ok := p.Doc.State(a.To); !ok && a.To != "ready" && p.Doc.Kind == screen.ScreenDoc {
			return "the screen has no state " + a.To
		}
	case screen.Theme:
		if !slices.Contains(p.Kit.Tokens.Themes, a.To) {
			return "there is no theme " + a.To
		}
	case screen.SetControl:
		name, _, _ := a.Control()
		if p.Doc.Kind == screen.ShellDoc {
			return "a shell knows no control of a screen"
		}
		if _, _, _, ok := resolve.NamesOf(p.Doc.Root, p.Cat).Set(a); !ok {
			return "no control here is named " + name + ", or it holds nothing such"
		}
	case screen.Submit:
		if n.Closest(
			func(o *audit.Node) bool { return o.Def != nil && strings.HasSuffix(o.Def.Answers, "submit") },
		) == nil {
			return "it stands in no form to be sent"
		}
	case screen.ChangeField, screen.TickField, screen.TakeAway:
		return untouched(p, n, a)
	case screen.AddRecord:
		m := p.Models[a.To]
		switch {
		case m == nil:
			return "there is no model " + a.To
		case len(resolve.Fields(p.Doc.Root, n.Element, m, p.Cat)) == 0:
			return "no control around it is named as a field of " + m.Name
		}
	case screen.GoTo:
		path, _, _ := strings.Cut(a.To, "?")
		path, _, _ = strings.Cut(path, "#")
		if strings.HasPrefix(path, "/") && p.Routes != nil && !p.Routes.Lead(path) {
			return "there is no screen on " + path
		}
	}
	return ""
}

// untouched says why an action touches no record.
func untouched(p *audit.Pass, n *audit.Node, a screen.Action) string {
	m := recordModel(p, n)
	if m == nil {
		if p.Doc.Kind == screen.PieceDoc {
			return "" // its use may stand in a repeat
		}
		return "it stands for no record that it could " + a.Verb
	}
	if a.Verb == screen.TakeAway {
		return ""
	}
	if _, _, err := resolve.Touched(a, m); err != nil {
		return err.Error()
	}
	return ""
}

// within finds an element of a document, be it one that only a state puts there.
func within(d *screen.Document, id string) *screen.Element {
	if e, _ := d.Root.Find(id); e != nil {
		return e
	}
	for _, s := range d.States {
		for _, edit := range s.Edits {
			if edit.Tree != nil {
				if e, _ := edit.Tree.Find(id); e != nil {
					return e
				}
			}
		}
	}
	return nil
}
