package lower

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// form has a form hand its values to own code.
func (b *builder) form(el *El, e *screen.Element, def *kit.Component) {
	if b.c.Kind != screen.ScreenDoc || b.alone || !def.IsForm() {
		return
	}
	name := "form"
	if e.Name != "" {
		name = emit.Camel(e.Name)
	}
	for n := 2; slices.ContainsFunc(b.c.Forms, func(f Form) bool { return f.Name == name }); n++ {
		name = "form" + strconv.Itoa(n)
	}
	f := Form{Name: name}
	e.Walk(func(c, _ *screen.Element) bool {
		cdef, ok := b.p.in.Cat.Component(c.Type)
		if !ok || cdef.Holds == "" {
			return true
		}
		named, ok := c.Prop("name")
		if !ok || named.Kind != screen.Literal || named.Text == "" || slices.ContainsFunc(f.Fields, func(o FormField) bool { return o.Name == named.Text }) {
			return true
		}
		holds, _ := cdef.Prop(cdef.Holds)
		typ, read := "string", false
		switch holds.Type {
		case kit.Bool:
			typ = "boolean"
		case kit.Number:
			typ = "number"
		}
		if kind, ok := c.Prop("kind"); ok && kind.Text == "number" || holds.Name == "valueAsNumber" {
			typ, read = "number", holds.Type == kit.Text
		}
		f.Fields = append(f.Fields, FormField{Name: named.Text, Type: typ, Holds: holds.Name, Read: read})
		return true
	})
	event := def.SentAt()
	if event == "" {
		b.p.note(b.doc, e.ID, "%s does not tell that it was sent; its values are handed to nobody", def.Title)
		return
	}
	b.c.Forms = append(b.c.Forms, f)
	for i := range el.On {
		if el.On[i].Event == event {
			el.On[i].Form = &f
			return
		}
	}
	el.On = append(el.On, On{Event: event, Form: &f})
}

// aimed notes what is opened and closed in a document, and by which names the code
// knows it.
func (b *builder) aimed(root *screen.Element) {
	at := map[string]bool{}
	note := func(e *screen.Element) {
		v, _ := e.Prop(kit.Does)
		list, _ := screen.ParseActions(v.Text)
		for _, a := range list {
			if a.Points() {
				at[a.To] = true
			}
		}
	}
	root.Walk(func(e, _ *screen.Element) bool {
		note(e)
		for _, v := range b.variants[e].as {
			note(v.el)
		}
		return true
	})
	var names emit.Names
	var walk func(e *screen.Element, each bool)
	walk = func(e *screen.Element, each bool) {
		each = each || e.Repeat != nil
		if def, ok := b.p.in.Cat.Component(e.Type); ok && at[e.ID] && def.Opens() && b.targets[e.ID] == nil {
			t := &Target{Key: names.Take(emit.Camel(cmp.Or(e.Name, e.ID))), Each: each}
			b.targets[e.ID] = t
			b.c.Targets = append(b.c.Targets, t)
		}
		for _, c := range e.Children {
			walk(c, each)
		}
	}
	walk(root, false)
}

// opening keeps an element open or closed as it is told.
func (b *builder) opening(el *El, e *screen.Element, def *kit.Component, t *Target, sc scope) {
	prop, _ := def.Prop(def.OpensBy)
	one := func(e *screen.Element) emit.Expr {
		v, ok := e.Prop(def.OpensBy)
		if !ok {
			return emit.Name("false")
		}
		return b.value(e, v, prop, sc)
	}
	usual, varies := b.varying(e, one)
	if !varies {
		usual = one(e)
	}
	name, fixed := usual.(emit.Name)
	t.Usual, t.Fixed = usual, fixed && (name == "true" || name == "false")
	el.Attrs = append(el.Attrs, Attr{Prop: prop.Name, Attr: prop.Attr, Def: prop, Value: t.read(sc)})
	if def.Closes != "" {
		flag := ""
		if def.ClosesSaying() {
			flag = def.OpensBy
		}
		el.On = append(el.On, On{Event: def.Closes, Acts: []Act{{Verb: screen.Close, Target: t, Key: sc.key(), Flag: flag}}})
	}
}

func (sc scope) key() emit.Expr {
	if sc.record == nil {
		return nil
	}
	return emit.Member{Of: sc.record, Name: "id"}
}

func (t *Target) read(sc scope) emit.Expr {
	is := emit.Expr(emit.Read{What: "opened", Name: t.Key})
	if t.Each {
		is = emit.Index{Of: is, At: sc.key()}
	} else if t.Fixed {
		return is
	}
	return emit.Binary{Op: "??", L: is, R: t.Usual}
}

// doing notes what an element does.
func (b *builder) doing(el *El, e *screen.Element, def *kit.Component, sc scope) {
	of := func(e *screen.Element) []Act {
		v, _ := e.Prop(kit.Does)
		list, _ := screen.ParseActions(v.Text)
		var out []Act
		for _, a := range list {
			act := Act{Verb: a.Verb, To: a.To}
			switch a.Verb {
			case screen.GoTo:
				if !strings.HasPrefix(a.To, "/") {
					continue
				}
			case screen.Open, screen.Close:
				act.Target = b.targets[a.To]
				if b.alone {
					act.Target = &Target{Key: emit.Camel(a.To)}
				}
				if act.Target == nil || act.Target.Each && !sc.each {
					b.p.note(b.doc, e.ID, "what it would %s is not there", a.Verb)
					continue
				}
				act.Key = sc.key()
			case screen.SetControl:
				if b.lent == nil {
					b.p.note(b.doc, e.ID, "it sets %s, and a piece knows no control", a.To)
					continue
				}
				name, _, value, ok := b.lent.Set(a)
				if !ok {
					b.p.note(b.doc, e.ID, "it sets %s, which no control here can hold", a.To)
					continue
				}
				act.To, act.Value = name, literal(value)
			case screen.ChangeField, screen.TickField, screen.TakeAway:
				why := ""
				if act.List, act.Set, why = b.touches(a, sc); why != "" {
					b.p.note(b.doc, e.ID, "it cannot %s: %s", a, why)
					continue
				}
				act.Key = sc.key()
			case screen.AddRecord:
				why := ""
				if act, why = b.adds(act, e); why != "" {
					b.p.note(b.doc, e.ID, "it cannot %s: %s", a, why)
					continue
				}
			case screen.Enter:
				if !b.alone && a.To != Usual && !slices.Contains(b.c.States, a.To) && b.c.Kind != screen.PieceDoc {
					b.p.note(b.doc, e.ID, "there is no state %s", a.To)
					continue
				}
				b.c.Stateful = true
			}
			out = append(out, act)
		}
		return out
	}
	on := On{Event: def.Answers, Acts: of(e)}
	if v := b.variants[e]; len(v.as) > 0 {
		on.Acts = of(v.as[0].el)
		for _, other := range v.as[1:] {
			if acts := of(other.el); !slices.Equal(acts, on.Acts) {
				on.Cases = append(on.Cases, Case{other.state, acts})
				b.c.Stateful = true
			}
		}
	}
	if on.Event != "" && (len(on.Acts) > 0 || len(on.Cases) > 0) {
		el.On = append(el.On, on)
	}
}

// speaksOf tells whether a tree has an expression that speaks of a name.
func speaksOf(root *screen.Element, name string) bool {
	found := false
	says := func(source string) { found = found || speaks(source, name) }
	root.Walk(func(e, _ *screen.Element) bool {
		says(e.Show)
		if e.Text.Kind == screen.Expr {
			says(e.Text.Text)
		}
		for _, p := range e.Props {
			if p.Value.Kind == screen.Expr {
				says(p.Value.Text)
			}
		}
		if e.Repeat != nil {
			says(e.Repeat.Where)
			says(e.Repeat.Model)
		}
		return !found
	})
	return found
}

// speaks tells whether an expression has a name in it.
func speaks(source, name string) bool {
	return slices.Contains(strings.FieldsFunc(source, func(r rune) bool {
		return r != '_' && (r < '0' || r > '9') && (r < 'a' || r > 'z') && (r < 'A' || r > 'Z') && r < 128
	}), name)
}
