package api

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// doing is the choice of what happens when an element is pressed, changed or sent: all
// that can happen with what there is.
func doing(l *live.Live, d *screen.Document, root, el *screen.Element, def *kit.Component) Choice {
	ch := Choice{
		Prop:    kit.Does,
		Type:    "action",
		Summary: "What happens when it is pressed, changed or sent",
		Kind:    "literal",
		Values:  []ValueView{},
		Varies:  len(def.Acts) > 0,
	}
	if v, ok := el.Prop(kit.Does); ok {
		ch.Set, ch.Value, ch.Varies = true, v.Text, true
	}
	add := func(verb, to, words string) {
		ch.Values = append(ch.Values, ValueView{Value: screen.Action{Verb: verb, To: to}.String(), Words: words})
	}
	path := root.Path(el.ID)
	root.Walk(func(e, _ *screen.Element) bool {
		if e.Repeat != nil && !slices.Contains(path, e) {
			return false // there are many of it, and this one stands beside none
		}
		if c, ok := l.Cat.Component(e.Type); ok && c.Opens() && e.ID != el.ID {
			title := c.Title
			if about := aboutOf(c, e); about != "" {
				title += " “" + about + "”"
			}
			add(screen.Open, e.ID, "open "+title)
			if inside, _ := e.Find(el.ID); inside != nil {
				add(screen.Close, e.ID, "close "+title)
			}
		}
		return true
	})
	if slices.ContainsFunc(path, func(e *screen.Element) bool {
		c, ok := l.Cat.Component(e.Type)
		return ok && e.ID != el.ID && strings.HasSuffix(c.Answers, "submit")
	}) {
		add(screen.Submit, "", "send the form")
	}
	if d.Kind == screen.ScreenDoc {
		add(screen.Enter, "ready", "show the state ready")
		for _, s := range d.States {
			add(screen.Enter, s.Name, "show the state "+s.Name)
		}
	}
	if m := recordOf(l, root, el); m != nil {
		for i := range m.Fields {
			f := &m.Fields[i]
			switch {
			case f.Compute != "":
			case f.Type == sample.Choice:
				for _, c := range f.Choices {
					add(screen.ChangeField, f.Name+" "+c, "change "+f.Name+" to "+c)
				}
			case f.Type == sample.YesNo:
				add(screen.TickField, f.Name, "turn "+f.Name+" of the record over")
			case f.Type == sample.Date:
				add(screen.ChangeField, f.Name+" today", "change "+f.Name+" to today")
			}
		}
		add(screen.TakeAway, "", "remove the "+strings.ToLower(m.Name))
		// What somebody wrote for a field that no list of values says.
		written, _ := screen.ParseActions(ch.Value)
		for _, a := range written {
			known := slices.ContainsFunc(ch.Values, func(v ValueView) bool { return v.Value == a.String() })
			if _, _, err := resolve.Touched(a, m); a.Verb == screen.ChangeField && !known && err == nil {
				name, to := a.Field()
				add(a.Verb, a.To, "change "+name+" to "+to)
			}
		}
	}
	if strings.HasSuffix(def.Answers, "submit") || def.Role == "action" {
		for i := range l.W.Models {
			m := &l.W.Models[i]
			if fields := resolve.Fields(root, el, m, l.Cat); len(fields) > 0 {
				add(screen.AddRecord, m.ID, fmt.Sprintf("add it to %s, %d of %d fields", strings.ToLower(m.Name), len(fields), len(m.Fields)))
			}
		}
	}
	names := resolve.NamesOf(root, l.Cat)
	for _, name := range slices.Sorted(maps.Keys(names.Controls)) {
		c := names.Controls[name]
		if c.Kind == expr.Bool {
			add(screen.SetControl, name+" true", "turn "+name+" on")
			add(screen.SetControl, name+" false", "turn "+name+" off")
		}
		add(screen.SetControl, name, "set "+name+" back to what it is at first")
	}
	for i, t := range l.Kit.Tokens.Themes {
		if i > 0 {
			add(screen.Theme, t, "turn the theme "+t+" on or off")
		}
	}
	if def.LeadsBy() == "" {
		for _, o := range l.W.Docs {
			if o.Kind == screen.ScreenDoc && !o.Removed && (o.App == d.App || d.App == "") &&
				!strings.Contains(o.Route, ":") {
				add(screen.GoTo, o.Route, "go to "+o.Title)
			}
		}
	}
	return ch
}

// recordOf is the model of the record that an element stands for; nil where it stands for none, or
// for one of a list that is made of others.
func recordOf(l *live.Live, root, el *screen.Element) *sample.Model {
	scope := expr.Scope{Models: l.Models()}
	for _, e := range root.Path(el.ID) {
		if e.Repeat != nil {
			scope = scope.Enter(e.Repeat.Model)
		}
	}
	if scope.Record == nil || l.W.ModelMap()[scope.Record.ID] == nil {
		return nil
	}
	return scope.Record
}

// aboutOf is what an element says it is about: its heading or label, name or text.
func aboutOf(def *kit.Component, e *screen.Element) string {
	if name := titleProp(def); name != "" {
		if v, ok := e.Prop(name); ok && v.Text != "" {
			return v.Text
		}
	}
	if e.Name != "" {
		return e.Name
	}
	return e.Text.Text
}

// making is a component that opens over a screen and that an element may be told to
// open: it is put on the screen in the same edit.
type making struct {
	Tag   string `json:"tag"`
	Title string `json:"title"`
	About string `json:"about,omitempty"` // the prop that takes what it says; its text where empty
}

// makings lists them: what asks, what slides in and what tells something in passing.
func makings(l *live.Live) []making {
	out := []making{}
	for _, words := range [][]string{{"dialog", "modal"}, {"drawer", "side sheet"}, {"notification", "toast"}} {
		def := l.Component(words...)
		if def == nil || !def.Opens() || slices.ContainsFunc(out, func(m making) bool { return m.Tag == def.Tag }) {
			continue
		}
		m := making{def.Tag, def.Title, ""}
		if !def.Labelled {
			m.About = titleProp(def)
		}
		out = append(out, m)
	}
	return out
}
