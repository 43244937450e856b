package vue

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/lower"
	"ubiquant/core/deliver/shared"
	"ubiquant/core/screen"
)

var style = emit.Plain

// component is a screen, shell or piece being written as a single-file component.
type component struct {
	p       *lower.Program
	c       *lower.Component
	at      map[string]string // where the components stand, by their names
	imports *emit.Imports
	used    struct{ status, router bool }
}

// up is the way from the component's folder to that of all.
const up = "../"

// template and script say how what the component knows is read in either.
func (w *component) read(e emit.Expr, script bool) emit.Expr {
	return emit.Map(e, func(e emit.Expr) emit.Expr {
		switch x := e.(type) {
		case emit.Taken:
			return emit.Name(w.imports.Value(shared.Module(x, up), x.Name, ""))
		case emit.Read:
			return w.known(x, script)
		}
		return e
	})
}

func (w *component) known(r emit.Read, script bool) emit.Expr {
	ref := func(name string) emit.Expr {
		if script {
			return emit.Member{Of: emit.Name(name), Name: "value"}
		}
		return emit.Name(name)
	}
	switch r.What {
	case "list", "derived":
		return ref(r.Name)
	case "status":
		return ref(statusVar(r.Name))
	case "state":
		return ref("state")
	case "control":
		return emit.Member{Of: emit.Name("controls"), Name: r.Name}
	case "opened":
		return emit.Member{Of: emit.Name("opened"), Name: r.Name}
	case "fault":
		return emit.Member{Of: emit.Name("faults"), Name: r.Name}
	case "path":
		if script {
			w.used.router = true
			return emit.Member{Of: emit.Name("route"), Name: "path"}
		}
		return emit.Member{Of: emit.Name("$route"), Name: "path"}
	}
	return emit.Name(r.Name) // a prop, or a parameter of the route
}

// write is the file of the component.
func (w *component) write() deliver.File {
	c := w.c
	for _, r := range c.Refs {
		w.tag(r.Tag)
	}
	var template []emit.Doc
	for _, n := range c.Root {
		template = append(template, w.node(n, true)...)
	}
	script := w.script()
	if w.p.In.Kit.HasElements() && slots(c.Root) {
		template = append([]emit.Doc{"<!-- eslint-disable vue/no-deprecated-slot-attribute -- slots of custom elements are named by it -->"}, template...)
	}
	begin := "<template>"
	if script != "" {
		begin = "<script setup lang=\"ts\">\n" + script + "</script>\n\n" + begin
	}
	body, places := emit.PrintMarked(emit.Indent(template...), style.Width)
	emit.Shift(places, begin)
	tail := "\n</template>\n"
	if c.Kind == screen.ScreenDoc {
		tail += fmt.Sprintf("\n<style src=\"./%s.own.css\"></style>\n", c.Own())
	}
	return deliver.File{Path: w.at[c.Name], Data: []byte(begin + body + tail), Doc: c.Address(), Places: places}
}

// slots tells whether an element stands in a named slot of a custom element.
func slots(list []lower.Node) bool {
	return slices.ContainsFunc(list, func(n lower.Node) bool {
		switch x := n.(type) {
		case *lower.Each:
			return slots(x.Body)
		case *lower.Outlet:
			return x.Slot != ""
		case *lower.El:
			return x.Slot != "" || slots(x.Kids) || slices.ContainsFunc(x.Fills, func(f lower.Fill) bool { return slots(f.Kids) })
		}
		return false
	})
}

func (w *component) script() string {
	c := w.c
	vue := func(name string) emit.Expr { return emit.Name(w.imports.Value("vue", name, "")) }
	records := func(name string) emit.Expr { return emit.Name(w.imports.Value(up+"data/use-records", name, "")) }
	call := func(fn emit.Expr, args ...emit.Expr) emit.Expr { return emit.Call{Fn: fn, Args: args} }
	var body []emit.Stmt
	part := func(list ...emit.Stmt) {
		if len(body) > 0 {
			body = append(body, emit.Blank{})
		}
		body = append(body, list...)
	}
	if len(c.Props) > 0 || c.Record != nil || c.Kind == screen.ScreenDoc && len(c.Params) > 0 {
		part(w.props())
	}
	if c.ManyRoots {
		part(emit.Do{Of: call(emit.Name("defineOptions"), emit.Object{Fields: []emit.Field{{Key: "inheritAttrs", Value: emit.Name("false")}}})})
	}
	if c.Stateful {
		part(w.state()...)
	}
	if len(c.Controls) > 0 {
		var models []emit.Stmt
		for _, ctl := range c.Controls {
			if ctl.Prop != "" {
				usual := emit.Object{Fields: []emit.Field{{Key: "default", Value: ctl.Usual}}}
				models = append(models, emit.Const{Name: ctl.Prop, Is: call(emit.Name("defineModel<"+ctl.Type+">"), emit.Str(ctl.Prop), usual)})
			}
		}
		if len(models) > 0 {
			part(models...)
		}
		kept := shared.Kept(c, func(ctl lower.Control) emit.Expr { return emit.Name(ctl.Prop) })
		part(emit.Remark("What people chose or typed, by the names of the controls."),
			emit.Const{Name: "controls", Is: call(vue("reactive"), kept)})
	}
	if len(c.Targets) > 0 {
		part(emit.Remark("What is open, by the name of what opens."), emit.Const{Name: "opened", Is: call(vue("reactive"), shared.Opened(c))})
	}
	if len(c.Faults) > 0 {
		part(emit.Remark(shared.Said), emit.Const{Name: "faults", Is: call(vue("reactive"), shared.Faults(c))},
			emit.Const{Name: "blame", Is: emit.Arrow{Params: []string{"field: keyof typeof faults", "words: string"}, Body: []emit.Stmt{
				emit.Do{Of: emit.Binary{Op: "=", L: emit.Index{Of: emit.Name("faults"), At: emit.Name("field")}, R: emit.Name("words")}},
			}}})
	}
	var data []emit.Stmt
	for _, l := range c.Loads {
		o := emit.Object{}
		for _, name := range l.Params {
			o.Fields = append(o.Fields, emit.Field{Key: name, Value: emit.Member{Of: emit.Name("controls"), Name: name}})
		}
		data = append(data, emit.Do{Of: call(records("useSource"), emit.Str(shared.ListOf(w.p, l.Model)), emit.Arrow{Of: o})})
	}
	for _, l := range c.Lists {
		data = append(data, emit.Const{Name: l.Var, Is: call(records("useRecords"), emit.Str(shared.ListOf(w.p, l.Model)))})
	}
	for _, id := range c.Statuses {
		data = append(data, emit.Const{Name: statusVar(id), Is: call(records("useStatus"), emit.Str(shared.ListOf(w.p, id)))})
	}
	for _, d := range c.Derived {
		data = append(data, emit.Const{Name: d.Var, Is: call(vue("computed"), emit.Arrow{Of: w.read(d.Code, true)})})
	}
	if len(data) > 0 {
		part(data...)
	}
	for _, check := range c.Checks {
		part(emit.Remark(shared.Asked), emit.Const{Name: check.Name, Is: emit.Arrow{Of: w.read(check.Asks, true)}})
	}
	if c.Kind == screen.ScreenDoc {
		part(w.own()...)
	}
	code := emit.Print(style.Stmts(body), style.Width)
	head := strings.TrimRight(emit.Print(w.imports.Doc(style), style.Width), "\n")
	if head != "" && code != "" {
		head += "\n\n"
	}
	if head+code == "" {
		return ""
	}
	return head + code + "\n"
}

func statusVar(id string) string { return emit.Camel(id) + "Status" }

// props are those of a piece, or the parameters of a screen's route.
func (w *component) props() emit.Stmt {
	c := w.c
	var types, names []string
	for _, p := range c.Props {
		types = append(types, fmt.Sprintf("%s?: %s | undefined", p.Name, p.Type))
		name := p.Name
		if p.Default != nil {
			name += " = " + style.Inline(w.read(p.Default, true))
		} else {
			name += " = undefined"
		}
		names = append(names, name)
	}
	if c.Record != nil {
		types = append(types, "record: "+w.imports.Type(up+"data/models", c.Record.Type))
		names = append(names, "record")
	}
	if c.Kind == screen.ScreenDoc {
		for _, p := range c.Params {
			types = append(types, p+": string")
			names = append(names, p)
		}
	}
	head := "const { " + strings.Join(names, ", ") + " } = defineProps<{"
	one := "const { " + strings.Join(names, ", ") + " } = defineProps<{ " + strings.Join(types, "; ") + " }>()"
	if len(one) <= style.Width {
		return emit.Text(one)
	}
	if len(head) <= style.Width {
		return emit.Text(head + "\n  " + strings.Join(types, "\n  ") + "\n}>()")
	}
	// Few are kept on one line, as the formatter does where nothing would be gained by more.
	few := len(names) <= 2 || !slices.ContainsFunc(names, func(n string) bool { return strings.Contains(n, " = ") })
	if before := "const { " + strings.Join(names, ", ") + " } ="; few && len(before) <= style.Width {
		return emit.Text(before + "\n  defineProps<{\n    " + strings.Join(types, "\n    ") + "\n  }>()")
	}
	return emit.Text("const {\n  " + strings.Join(names, ",\n  ") + ",\n} = defineProps<{\n  " + strings.Join(types, "\n  ") + "\n}>()")
}

// state is that of a screen, or in a piece or shell that of the screen around.
func (w *component) state() []emit.Stmt {
	c := w.c
	if c.Kind != screen.ScreenDoc {
		inject, ref := w.imports.Value("vue", "inject", ""), w.imports.Value("vue", "ref", "")
		typ := w.imports.Type("vue", "Ref")
		return []emit.Stmt{emit.Remark("The state of the screen around."),
			emit.Text("const state = " + inject + "<" + typ + "<string>>('state', () => " + ref + "('" + lower.Usual + "'), true)")}
	}
	ref := w.imports.Value("vue", "ref", "")
	out := []emit.Stmt{emit.Remark("What the screen shows; own code sets it while it loads, or when that fails."),
		emit.Text("const state = " + ref + "<" + shared.StateType(c) + ">('" + lower.Usual + "')")}
	if len(c.Pieces) > 0 {
		out = append(out, emit.Text(w.imports.Value("vue", "provide", "")+"('state', state)"))
	}
	return out
}

// own hands what own code works with to it.
func (w *component) own() []emit.Stmt {
	c := w.c
	o := emit.Object{}
	if len(c.Refs) > 0 {
		refs := emit.Object{}
		fn := w.imports.Value("vue", "useTemplateRef", "")
		for _, r := range c.Refs {
			refs.Fields = append(refs.Fields, emit.Field{Key: r.Var, Value: emit.Call{
				Fn: emit.Name(fn + "<" + w.elementType(r.Tag) + ">"), Args: []emit.Expr{emit.Str(r.Var)},
			}})
		}
		o.Fields = append(o.Fields, emit.Field{Key: "elements", Value: refs})
	}
	if len(c.Params) > 0 {
		params := emit.Object{}
		for _, p := range c.Params {
			params.Fields = append(params.Fields, emit.Field{Key: p, Value: emit.Name(p)})
		}
		o.Fields = append(o.Fields, emit.Field{Key: "params", Value: emit.Arrow{Of: params}})
	}
	if c.Stateful {
		o.Fields = append(o.Fields, emit.Field{Key: "state", Value: emit.Name("state")})
	}
	if len(c.Controls) > 0 {
		o.Fields = append(o.Fields, emit.Field{Key: "controls", Value: emit.Name("controls")})
	}
	if len(c.Targets) > 0 {
		o.Fields = append(o.Fields, emit.Field{Key: "opened", Value: emit.Name("opened")})
	}
	if len(c.Faults) > 0 {
		o.Fields = append(o.Fields, emit.Field{Key: "blame", Value: emit.Name("blame")})
	}
	use := emit.Call{Fn: emit.Name(w.imports.Value("./"+c.Own()+".own", "use"+c.Own(), "")), Args: []emit.Expr{o}}
	if len(c.Forms) == 0 && !shared.Settable(c) {
		return []emit.Stmt{emit.Do{Of: use}}
	}
	return []emit.Stmt{emit.Const{Name: "own", Is: use}}
}

// elementType is the type of an element, as own code reaches it.
func (w *component) elementType(t lower.Tag) string {
	switch {
	case t.Piece != "":
		return "InstanceType<typeof " + w.tag(t) + ">"
	case t.Module != "":
		return w.imports.Type(up+"lib/kit", "InstanceOf") + "<typeof " + w.tag(t) + ">"
	}
	return w.imports.Type(up+"lib/page", "ElementOf") + "<" + style.Quote(t.Name) + ">"
}

// tag is the name that an element is written with; what has to be imported for it is.
func (w *component) tag(t lower.Tag) string {
	switch {
	case t.Piece != "":
		return w.imports.Value(relative(w.at[w.c.Name], w.at[t.Name]), "default", t.Name)
	case t.Module != "":
		what, called, of := t.Taken()
		return w.imports.Value(t.Module, what, called) + of
	}
	return t.Name
}

func (w *component) nodes(list []lower.Node) []emit.Doc {
	var out []emit.Doc
	for _, n := range list {
		out = append(out, w.node(n, false)...)
	}
	return out
}

func text(name, value string) emit.Doc { return name + `="` + emit.EscapeHTML(value) + `"` }

func (w *component) bind(name string, e emit.Expr) emit.Doc {
	return style.Attr(":"+name, w.read(e, false))
}

func (w *component) node(n lower.Node, root bool) []emit.Doc {
	switch x := n.(type) {
	case lower.Words:
		return []emit.Doc{w.words(x)}
	case *lower.Each:
		e := emit.Tag{Name: "template", Attrs: []emit.Doc{
			emit.Join(`v-for="`+x.Item+` in `, inTemplate(w.read(x.Of, false)), `"`), `:key="` + x.Item + `.id"`,
		}, Kids: w.nodes(x.Body)}
		return []emit.Doc{e.Doc()}
	case *lower.Outlet:
		return []emit.Doc{w.outlet(x)}
	case *lower.El:
		return []emit.Doc{emit.Mark(x.ID, w.element(x, root))}
	}
	return nil
}

func inTemplate(e emit.Expr) emit.Doc {
	s := style
	s.Markup = true
	return s.Doc(e)
}

func (w *component) words(x lower.Words) emit.Doc {
	if s, ok := x.Of.(emit.Str); ok {
		return emit.FillWords(literal(string(s)))
	}
	return style.Braces(w.read(x.Of, false))
}

// literal is a text of a template that says what it says.
func literal(s string) string {
	s = strings.Join(strings.Fields(s), " ")
	return strings.ReplaceAll(emit.EscapeHTML(s), "{{", "{{ '{{' }}")
}

func (w *component) outlet(x *lower.Outlet) emit.Doc {
	var attrs []emit.Doc
	if x.If != nil {
		attrs = append(attrs, style.Attr("v-if", w.read(x.If, false)))
	}
	if w.c.Kind == screen.ShellDoc {
		return emit.Tag{Name: "main", Attrs: append(attrs, `class="u-contents"`), Kids: []emit.Doc{"<RouterView />"}}.Doc()
	}
	if x.Name != "" {
		attrs = append(attrs, text("name", x.Name))
	}
	return emit.Tag{Name: "slot", Attrs: attrs, Short: true}.Doc()
}

func (w *component) element(x *lower.El, root bool) emit.Doc {
	t := emit.Tag{Name: w.tag(x.Tag), Short: true}
	add := func(d emit.Doc) { t.Attrs = append(t.Attrs, d) }
	if x.Tag.Any != nil {
		t.Name = "component"
		add(w.bind("is", x.Tag.Any))
	}
	if x.If != nil {
		add(style.Attr("v-if", w.read(x.If, false)))
	}
	if x.Ref != "" {
		add(text("ref", x.Ref))
	}
	if x.Slot != "" && !x.Filled {
		add(text("slot", x.Slot))
	}
	if root && x.Root && w.c.ManyRoots {
		add(`v-bind="$attrs"`)
	}
	if x.Ref != "" && x.Tag.Module != "" {
		add(style.Attr("v-bind", emit.Name("own.set?."+x.Ref)))
	}
	for _, tell := range x.Tells {
		add(style.Attr("v-model:"+emit.Kebab(tell.Prop), w.read(emit.Read{What: "control", Name: tell.Name}, false)))
	}
	if root && w.c.Kind == screen.ScreenDoc {
		add(text("data-screen", w.c.ID))
	}
	if x.Own != "" && x.Tag.Module == "" && x.Tag.Piece == "" { // strict templates take no attribute that a component does not have
		add(text("data-name", x.Own))
	}
	if x.Class != nil {
		if s, ok := x.Class.(emit.Str); ok {
			add(text("class", string(s)))
		} else {
			add(w.bind("class", x.Class))
		}
	}
	for _, a := range x.Attrs {
		add(w.attribute(x, a))
	}
	for _, on := range x.On {
		if d := w.on(x, on); d != nil {
			add(d)
		}
	}
	switch {
	case len(x.Fills) > 0:
		for _, f := range x.Fills {
			t.Kids = append(t.Kids, w.fill(f.Outlet, f.Kids)...)
		}
	case x.Tag.Module != "":
		t.Kids = w.bySlot(x.Kids)
	default:
		t.Kids = w.nodes(x.Kids)
	}
	if len(x.Kids) == 1 {
		_, t.Words = x.Kids[0].(lower.Words)
	}
	return t.Doc()
}

func (w *component) fill(slot string, kids []lower.Node) []emit.Doc {
	if slot == "" {
		return w.nodes(kids)
	}
	name := "#" + slot
	return []emit.Doc{emit.Tag{Name: "template", Attrs: []emit.Doc{name}, Kids: w.nodes(kids)}.Doc()}
}

// bySlot puts what stands in a component of Vue into templates, one a slot.
func (w *component) bySlot(kids []lower.Node) []emit.Doc {
	by := shared.BySlot(kids)
	var out []emit.Doc
	for _, slot := range slices.Sorted(maps.Keys(by)) {
		out = append(out, w.fill(slot, by[slot])...)
	}
	return out
}

// attribute writes a setting. Numbers and flags are bound, so that an element gets a
// number or a yes/no, not a text.
func (w *component) attribute(x *lower.El, a lower.Attr) emit.Doc {
	name := a.Attr
	if name == "" {
		name = a.Prop
	}
	if x.Tag.Module != "" || x.Tag.Piece != "" {
		name = emit.Kebab(a.Prop)
	}
	if s, ok := a.Static(); ok {
		return text(name, s)
	}
	if a.Value == emit.Expr(emit.Name("true")) {
		return name
	}
	return w.bind(name, a.Value)
}

func (w *component) on(x *lower.El, on lower.On) emit.Doc {
	var list []emit.Stmt
	do := func(e emit.Expr) { list = append(list, emit.Do{Of: e}) }
	event := on.Event
	if on.Hold != nil {
		set := emit.Member{Of: emit.Name("controls"), Name: on.Hold.Name}
		var is emit.Expr = emit.Name("$event")
		if x.Tag.Module == "" {
			is = emit.Call{Fn: emit.Name(w.imports.Value(up+"lib/page", "held", "")), Args: []emit.Expr{emit.Name("$event"), emit.Str(on.Holds.Name)}}
		}
		do(emit.Binary{Op: "=", L: set, R: is})
	}
	if on.Form != nil {
		do(w.hands(on.Form))
	}
	acts := w.acts(on.Acts)
	for _, c := range slices.Backward(on.Cases) {
		acts = []emit.Stmt{emit.If{
			If:   emit.Binary{Op: "===", L: emit.Name("state"), R: emit.Str(c.State)},
			Then: w.acts(c.Acts), Else: acts,
		}}
	}
	list = append(list, acts...)
	if on.Check != nil {
		list = shared.Guarded(w.imports.Value(up+"lib/forms", "fine", ""), on.Check, "$event", "", "blame", list)
	}
	if len(list) == 0 {
		return nil
	}
	if event != "click" && x.Tag.Module == "" {
		event += ".self" // what stands inside sends its own
	}
	return style.Handler("@"+event, list)
}

func markupQuote(s string) string {
	m := style
	m.Markup = true
	return m.Quote(s)
}

// hands gives a form's values to own code.
func (w *component) hands(f *lower.Form) emit.Expr {
	values := emit.Call{Fn: emit.Name(w.imports.Value(up+"lib/page", "valuesOf", "")), Args: []emit.Expr{emit.Name("$event"), shared.Holds(f)}}
	typ := w.imports.Type("./"+w.c.Own()+".parts", w.c.Own()+"Values")
	return emit.Call{
		Fn: emit.Member{Of: emit.Name("own.submit"), Name: f.Name, Maybe: true}, Maybe: true,
		Args: []emit.Expr{emit.As{Of: values, Type: typ + "[" + markupQuote(f.Name) + "]"}, emit.Name("$event")},
	}
}

func (w *component) acts(list []lower.Act) []emit.Stmt {
	var out []emit.Stmt
	do := func(e emit.Expr) { out = append(out, emit.Do{Of: e}) }
	page := func(fn string, args ...emit.Expr) {
		do(emit.Call{Fn: emit.Name(w.imports.Value(up+"lib/page", fn, "")), Args: args})
	}
	store := func(fn string, args ...emit.Expr) {
		do(emit.Call{Fn: emit.Name(w.imports.Value(up+"data/store", fn, "")), Args: args})
	}
	for _, a := range list {
		switch a.Verb {
		case screen.GoTo:
			do(emit.Call{Fn: emit.Name("$router.push"), Args: []emit.Expr{emit.Str(a.To)}})
		case screen.Open, screen.Close:
			is := emit.Expr(emit.Member{Of: emit.Name("opened"), Name: a.Target.Key})
			if a.Target.Each {
				is = emit.Index{Of: is, At: w.read(a.Key, false)}
			}
			to := emit.Expr(emit.Name(fmt.Sprint(a.Verb == screen.Open)))
			if a.Flag != "" {
				to = emit.Binary{Op: "===", L: emit.Name("$event"), R: emit.Name("true")}
			}
			do(emit.Binary{Op: "=", L: is, R: to})
		case screen.Enter:
			do(emit.Binary{Op: "=", L: emit.Name("state"), R: emit.Str(a.To)})
		case screen.SetControl:
			do(emit.Binary{Op: "=", L: emit.Member{Of: emit.Name("controls"), Name: a.To}, R: a.Value})
		case screen.ChangeField, screen.TickField:
			store("change", emit.Str(a.List), w.read(a.Key, false), w.read(a.Set, false))
		case screen.TakeAway:
			store("remove", emit.Str(a.List), w.read(a.Key, false))
		case screen.AddRecord:
			values := emit.Call{Fn: emit.Name(w.imports.Value(up+"lib/page", "valuesOf", "")), Args: []emit.Expr{emit.Name("$event"), a.Set}}
			store("add", emit.Str(a.List), values, a.Value)
		case screen.Submit:
			page("submit", emit.Name("$event"))
		case screen.Theme:
			page("theme", emit.Str(a.To), emit.Name("$event"))
		}
	}
	return out
}
