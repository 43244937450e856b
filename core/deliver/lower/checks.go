package lower

import (
	"cmp"
	"maps"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/kit"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Check is what is asked of fields before what they hold is sent.
type Check struct {
	Name string      // of what code calls to learn it
	Asks emit.Object // by the names of the faults
}

// asked is a control with what it and the field around it ask.
type asked struct {
	way   []*screen.Element // down to it
	field resolve.Field
	fault string // what it says is kept by this name
	name  string // code finds it by this
	holds string
	model *sample.Field // whose value it is, where a record is added
}

// blame is a prop that shows a fault, of the element that it is kept for.
type blame struct {
	fault string
	as    any // "" of words
}

// ask notes which controls are looked at before something is sent, and where they show faults.
func (b *builder) ask(root *screen.Element) {
	fields, order := map[*screen.Element]*asked{}, []*screen.Element{}
	controls := map[*screen.Element]int{}
	def := func(e *screen.Element) *kit.Component {
		d, _ := b.p.in.Cat.Component(e.Type)
		return d
	}
	root.Walk(func(e, _ *screen.Element) bool {
		if d := def(e); d != nil && d.Holds != "" {
			for _, at := range root.Path(e.ID) {
				controls[at]++
			}
		}
		return true
	})
	root.Walk(func(e, _ *screen.Element) bool {
		d := def(e)
		if d == nil || d.Holds == "" {
			return true
		}
		a := &asked{way: root.Path(e.ID), name: e.Name, holds: d.Holds}
		if v, ok := e.Prop("name"); ok && v.Kind == screen.Literal {
			a.name = v.Text
		}
		parts := make([]resolve.Part, len(a.way))
		for i, at := range a.way {
			parts[i] = resolve.Part{Def: def(at), Alone: controls[at] == 1, Has: func(prop string) bool { _, ok := at.Prop(prop); return ok }}
		}
		a.field = resolve.FieldOf(parts)
		fields[e], order = a, append(order, e)
		return true
	})
	var walk func(e, form *screen.Element)
	walk = func(e, form *screen.Element) {
		d := def(e)
		if d != nil && d.IsForm() {
			form = e
		}
		var list []*asked
		if d != nil && d.Answers != "" && form != nil && (form == e && d.SentAt() != "" || b.sends(e)) {
			for _, c := range order {
				if slices.Contains(fields[c].way, form) {
					list = append(list, fields[c])
				}
			}
		}
		if d != nil && d.Answers != "" {
			list = b.ofModel(root, e, fields, list)
		}
		b.guard(e, form, list)
		for _, c := range e.Children {
			walk(c, form)
		}
	}
	walk(root, nil)
}

// sends tells whether an element that does something sends the form around it.
func (b *builder) sends(e *screen.Element) bool {
	v, ok := e.Prop(kit.Does)
	list, _ := screen.ParseActions(v.Text)
	return ok && (slices.ContainsFunc(list, func(a screen.Action) bool { return a.Verb == screen.Submit }) ||
		slices.ContainsFunc(e.Props, func(p screen.Prop) bool {
			return p.Value.Kind == screen.Literal && resolve.Sends(p.Name, p.Value.Text)
		}))
}

// ofModel adds the controls that fill a record which an element adds.
func (b *builder) ofModel(root, e *screen.Element, fields map[*screen.Element]*asked, list []*asked) []*asked {
	v, _ := e.Prop(kit.Does)
	does, _ := screen.ParseActions(v.Text)
	for _, a := range does {
		m := b.p.in.Models[a.To]
		if a.Verb != screen.AddRecord || m == nil {
			continue
		}
		filled := resolve.Fields(root, e, m, b.p.in.Cat)
		for _, name := range slices.Sorted(maps.Keys(filled)) {
			at := fields[filled[name]]
			if at == nil {
				continue
			}
			at.model, _ = m.Field(name)
			if !slices.Contains(list, at) {
				list = append(list, at)
			}
		}
	}
	return list
}

// guard has an element look at fields first: those of which anything is asked, and which code
// finds.
func (b *builder) guard(e, form *screen.Element, list []*asked) {
	repeated := func(at *screen.Element) bool { return at.Repeat != nil }
	list = slices.DeleteFunc(slices.Clone(list), func(a *asked) bool {
		if len(a.rules()) == 0 {
			return true
		}
		last := a.way[len(a.way)-1]
		switch {
		case slices.ContainsFunc(a.way, repeated):
			b.p.note(b.doc, last.ID, "what it asks is not looked at when it is sent: there is one for each record")
		case a.name == "":
			b.p.note(b.doc, last.ID, "what it asks is not looked at when it is sent: it has no name that code finds it by")
		default:
			return false
		}
		return true
	})
	if len(list) == 0 {
		return
	}
	for _, a := range list {
		if a.fault == "" {
			if a.fault = a.name; !emit.IsIdentifier(a.name) || a.name == "__proto__" {
				a.fault = "its" + emit.Pascal(a.name)
			}
			for n := 2; slices.Contains(b.c.Faults, a.fault); n++ {
				a.fault = emit.Camel(a.name) + strconv.Itoa(n)
			}
			b.c.Faults = append(b.c.Faults, a.fault)
			b.blamed(a)
		}
	}
	b.checks[e] = list
}

// blamed notes which props show what is wrong with a field.
func (b *builder) blamed(a *asked) {
	note := func(at *resolve.At, as any) {
		if at == nil {
			return
		}
		el := a.way[at.Part]
		if b.blames[el] == nil {
			b.blames[el] = map[string]blame{}
		}
		b.blames[el][at.Prop.Name] = blame{a.fault, as}
	}
	note(a.field.Words, "")
	note(a.field.Mark, a.field.As)
}

// rules are what the model and the screen ask, the screen's own word last.
func (a *asked) rules() []string {
	var out []string
	if a.model != nil {
		out = slices.AppendSeq(out, maps.Keys(resolve.FieldAsks(a.model)))
	}
	out = slices.AppendSeq(out, maps.Keys(a.field.Asks))
	slices.Sort(out)
	return slices.Compact(out)
}

// check is what an element has to look at first; nil where it looks at nothing.
func (b *builder) check(e *screen.Element, sc scope) *Check {
	list := b.checks[e]
	if len(list) == 0 || b.alone {
		return nil
	}
	if sc.each {
		b.p.note(b.doc, e.ID, "it sends without a look at its fields: there is one for each record")
		return nil
	}
	base := "form"
	for _, at := range slices.Backward(list[0].way) {
		if at.Name != "" && at != list[0].way[len(list[0].way)-1] {
			base = at.Name
			break
		}
	}
	asks := emit.Object{}
	for _, a := range list {
		asks.Fields = append(asks.Fields, emit.Field{Key: a.fault, Value: b.asks(a, sc)})
	}
	for _, c := range b.c.Checks {
		if reflect.DeepEqual(c.Asks, asks) {
			return c
		}
	}
	c := &Check{Name: b.c.Names.Take(emit.Camel("asks of " + base)), Asks: asks}
	b.c.Checks = append(b.c.Checks, c)
	return c
}

// asks is what is asked of one field, as code has it.
func (b *builder) asks(a *asked, sc scope) emit.Object {
	out := emit.Object{}
	set := func(key string, v emit.Expr) { out.Fields = append(out.Fields, emit.Field{Key: key, Value: v}) }
	if a.name != a.fault {
		set("name", emit.Str(a.name))
	}
	set("holds", emit.Str(a.holds))
	if a.field.Words == nil {
		set("silent", emit.Name("true"))
	}
	of := func(at resolve.At) emit.Expr {
		e := a.way[at.Part]
		v, _ := e.Prop(at.Prop.Name)
		return b.setting(e, screen.Prop{Name: at.Prop.Name, Value: v}, at.Prop, sc)
	}
	label := emit.Expr(emit.Str(""))
	if a.field.Label != nil {
		label = of(*a.field.Label)
	} else if words := b.words(a.way[len(a.way)-1], sc); words != nil {
		label = words
	}
	if s, ok := label.(emit.Str); ok && strings.TrimSpace(string(s)) == "" {
		label = emit.Str(resolve.Called(a.name))
	}
	set("label", label)
	model := map[string]any{}
	if a.model != nil {
		model = resolve.FieldAsks(a.model)
	}
	for _, rule := range a.rules() {
		if at, ok := a.field.Asks[rule]; ok {
			if v := of(at); v != nil && v != emit.Expr(undefined) && !(rule == kit.Kind && unknownKind(v)) {
				set(rule, v)
			}
			continue
		}
		switch v := model[rule].(type) {
		case bool:
			set(rule, emit.Name(strconv.FormatBool(v)))
		case string:
			set(rule, emit.Str(v))
		case []string:
			list := emit.List{}
			for _, choice := range v {
				list.Of = append(list.Of, emit.Str(choice))
			}
			set(rule, list)
		}
	}
	return out
}

// unknownKind tells of a kind of text that cannot be wrong.
func unknownKind(v emit.Expr) bool {
	s, ok := v.(emit.Str)
	return ok && !slices.Contains(kit.Kinds, string(s))
}

// blamedProps has the props of an element show what is wrong with it.
func (b *builder) blamedProps(el *El, e *screen.Element, def *kit.Component) {
	for _, name := range slices.Sorted(maps.Keys(b.blames[e])) {
		shows := b.blames[e][name]
		prop, ok := def.Prop(name)
		if !ok || b.alone {
			continue
		}
		b.c.ShowsFaults = true
		said := emit.Expr(emit.Read{What: "fault", Name: shows.fault})
		at := slices.IndexFunc(el.Attrs, func(a Attr) bool { return a.Prop == name })
		var usual emit.Expr
		if at >= 0 {
			usual = el.Attrs[at].Value
		}
		switch as := shows.as.(type) {
		case bool:
			said = emit.Binary{Op: "!==", L: said, R: emit.Str("")}
			if usual != nil {
				said = emit.Binary{Op: "||", L: said, R: usual}
			}
		case string:
			if as != "" {
				said = emit.Cond{If: said, Then: emit.Str(as), Else: cmp.Or[emit.Expr](usual, b.usual(prop))}
			} else if usual != nil && usual != emit.Expr(emit.Str("")) {
				said = emit.Binary{Op: "||", L: said, R: usual}
			}
		}
		if at >= 0 {
			el.Attrs[at].Value = said
		} else {
			el.Attrs = append(el.Attrs, Attr{Prop: prop.Name, Attr: prop.Attr, Value: said, Def: prop})
		}
	}
}

// usual is what a prop is where nobody sets it.
func (b *builder) usual(p *kit.Prop) emit.Expr {
	if p.Default != "" {
		return emit.Str(strings.Trim(p.Default, `"'`))
	}
	return undefined
}
