package angular

import (
	"cmp"
	"slices"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/lower"
	"ubiquant/core/deliver/shared"
	"ubiquant/core/kit"
	"ubiquant/core/render"
	"ubiquant/core/screen"
)

var style = emit.Plain

// component is a screen, shell or piece being written as a standalone component.
type component struct {
	p       *lower.Program
	c       *lower.Component
	at      map[string]string // where the components stand, by their names, without ending
	imports *emit.Imports
	uses    []string    // what the template is made of besides the kit's elements
	gives   []string    // functions that the template calls
	fields  []emit.Stmt // computed for the template
	methods []emit.Doc
	items   []item // records of the repeats around
	path    bool
	router  bool
	members emit.Names
	placed  map[*lower.El]bool // what comes into its place by what stands around it
}

func newComponent(p *lower.Program, c *lower.Component, at map[string]string) *component {
	return &component{p: p, c: c, at: at, imports: emit.NewImports(c.Names), placed: map[*lower.El]bool{}}
}

type item struct{ name, typ string }

// up is the way from the component's folder to that of all.
const up = "../"

func selector(name string) string { return "app-" + emit.Kebab(name) }

func (w *component) value(module, name string) string { return w.imports.Value(module, name, "") }

func (w *component) core(name string) string { return w.value("@angular/core", name) }

func (w *component) page(name string) string { return w.value(up+"lib/page", name) }

func (w *component) store(name string) string { return w.value(up+"data/store", name) }

// known says how what the component knows is read: in the class below this.
func (w *component) known(r emit.Read, class bool) emit.Expr {
	member := func(name string) emit.Expr {
		if class {
			return emit.Call{Fn: emit.Name("this." + name)}
		}
		return emit.Call{Fn: emit.Name(name)}
	}
	switch r.What {
	case "state":
		return member("state")
	case "control":
		return emit.Member{Of: member("controls"), Name: r.Name}
	case "opened":
		return emit.Member{Of: member("opened"), Name: r.Name}
	case "fault":
		return emit.Member{Of: member("faults"), Name: r.Name}
	case "status":
		return member(statusVar(r.Name))
	case "path":
		w.path = true
		return member("path")
	}
	return member(r.Name)
}

func statusVar(id string) string { return emit.Camel(id) + "Status" }

// inClass is an expression as it stands in the class.
func (w *component) inClass(e emit.Expr) emit.Expr {
	return emit.Map(e, func(e emit.Expr) emit.Expr {
		switch x := e.(type) {
		case emit.Taken:
			return emit.Name(w.value(shared.Module(x, up), x.Name))
		case emit.Read:
			return w.known(x, true)
		}
		return e
	})
}

// inTemplate is an expression as it stands in the template. What a template cannot say, or
// means otherwise there, becomes a member of the class, called after what it is for.
func (w *component) inTemplate(e emit.Expr, wanted string) emit.Expr {
	if emit.Any(e, beyond) {
		return w.member(e, wanted)
	}
	return emit.Map(e, func(e emit.Expr) emit.Expr {
		switch x := e.(type) {
		case emit.Taken:
			return emit.Name(w.give(shared.Module(x, up), x.Name))
		case emit.Read:
			return w.known(x, false)
		}
		return e
	})
}

// beyond tells what templates of Angular do not have, or where they differ: a missing
// value is null there.
func beyond(e emit.Expr) bool {
	switch x := e.(type) {
	case emit.Arrow, emit.As, emit.Object, emit.List, emit.Note:
		return true
	case emit.Member:
		return x.Maybe
	case emit.Name:
		return x == "undefined"
	}
	return false
}

// give makes a function known to the template.
func (w *component) give(module, name string) string {
	local := w.value(module, name)
	if !slices.Contains(w.gives, local) {
		w.gives = append(w.gives, local)
		w.members.Keep(local)
	}
	return local
}

// member is an expression that the class computes: a signal, or a method of the records
// that it speaks of.
func (w *component) member(e emit.Expr, wanted string) emit.Expr {
	var params []string
	var args []emit.Expr
	for _, it := range w.items {
		if emit.Any(e, func(e emit.Expr) bool { return root(e) == it.name }) {
			typ := it.typ
			if emit.IsIdentifier(typ) {
				typ = w.imports.Type(up+"data/models", typ)
			}
			params, args = append(params, it.name+": "+typ), append(args, emit.Name(it.name))
		}
	}
	name := w.memberName(wanted)
	code := w.inClass(e)
	if len(params) == 0 {
		w.fields = append(w.fields, emit.Const{Name: name, Is: emit.Call{Fn: emit.Name(w.core("computed")), Args: []emit.Expr{emit.Arrow{Of: code}}}})
		return emit.Call{Fn: emit.Name(name)}
	}
	w.methods = append(w.methods, emit.Join("protected "+name+"("+strings.Join(params, ", ")+") {", emit.Indent(style.Stmts([]emit.Stmt{emit.Return{Of: code}})), emit.Hard, "}"))
	return emit.Call{Fn: emit.Name(name), Args: args}
}

// root is the name that an expression begins with.
func root(e emit.Expr) string {
	if n, ok := e.(emit.Name); ok {
		first, _, _ := strings.Cut(string(n), ".")
		return first
	}
	return ""
}

func (w *component) memberName(wanted string) string {
	for {
		name := w.members.Take(emit.Camel(wanted))
		if !w.taken(name) {
			return name
		}
	}
}

// taken tells whether something of the component, or a record of its template, bears a
// name already.
func (w *component) taken(name string) bool {
	c := w.c
	return slices.Contains([]string{"state", "controls", "opened", "faults", "own", "path", "router", "navigate"}, name) ||
		slices.ContainsFunc(c.Lists, func(l lower.List) bool { return l.Var == name }) ||
		slices.ContainsFunc(c.Derived, func(d lower.Derived) bool { return d.Var == name }) ||
		slices.ContainsFunc(c.Props, func(p lower.Prop) bool { return p.Name == name }) ||
		slices.ContainsFunc(c.Controls, func(ctl lower.Control) bool { return ctl.Prop == name }) ||
		slices.Contains(c.Params, name) || name == "record"
}

// write is the class and the template of the component.
func (w *component) write() []deliver.File {
	c := w.c
	var kids []emit.Doc
	for _, n := range c.Root {
		kids = append(kids, w.node(n, true)...)
	}
	html, places := emit.PrintMarked(emit.Stack(kids...), style.Width)
	body := w.class()
	base := w.at[c.Name]
	meta := []emit.Field{
		{Key: "selector", Value: emit.Str(selector(c.Name))},
	}
	if len(w.uses) > 0 {
		list := emit.List{}
		for _, u := range w.uses {
			list.Of = append(list.Of, emit.Name(u))
		}
		meta = append(meta, emit.Field{Key: "imports", Value: list})
	}
	if w.p.In.Kit.HasElements() {
		meta = append(meta, emit.Field{Key: "schemas", Value: emit.List{Of: []emit.Expr{emit.Name(w.core("CUSTOM_ELEMENTS_SCHEMA"))}}})
	}
	meta = append(meta,
		emit.Field{Key: "changeDetection", Value: emit.Name(w.core("ChangeDetectionStrategy") + ".OnPush")},
		emit.Field{Key: "encapsulation", Value: emit.Name(w.core("ViewEncapsulation") + ".None")},
		emit.Field{Key: "host", Value: emit.Object{Fields: []emit.Field{{Key: "class", Value: emit.Str("u-contents")}}}},
		emit.Field{Key: "templateUrl", Value: emit.Str("./" + file(base) + ".component.html")},
	)
	if c.Kind == screen.ScreenDoc {
		meta = append(meta, emit.Field{Key: "styleUrl", Value: emit.Str("./" + c.Own() + ".own.css")})
	}
	decorator := emit.Join("@"+w.core("Component")+"(", style.Broken(emit.Object{Fields: meta}), ")")
	head := emit.Print(w.imports.Doc(style), style.Width)
	var class emit.Doc = "export class " + c.Name + " {}"
	if len(body) > 0 {
		class = emit.Join("export class "+c.Name+" {", emit.Indent(body...), emit.Hard, "}")
	}
	code := head + "\n" + emit.Print(emit.Stack(decorator, class), style.Width) + "\n"
	return []deliver.File{
		{Path: base + ".component.ts", Data: []byte(code), Doc: c.Address()},
		{Path: base + ".component.html", Data: []byte(html + "\n"), Doc: c.Address(), Places: places},
	}
}

func file(at string) string { return at[strings.LastIndexByte(at, '/')+1:] }

// class are the members of the class.
func (w *component) class() []emit.Doc {
	c := w.c
	var out []emit.Doc
	field := func(modifier, name string, is emit.Expr) emit.Doc {
		return style.Field(modifier+name, is)
	}
	part := func(docs ...emit.Doc) {
		if len(docs) == 0 {
			return
		}
		if len(out) > 0 {
			out = append(out, "")
		}
		out = append(out, docs...)
	}
	call := func(fn string, args ...emit.Expr) emit.Expr { return emit.Call{Fn: emit.Name(fn), Args: args} }
	const seen = "protected readonly "
	var list []emit.Doc
	for _, p := range c.Props {
		typ := p.Type
		if p.Default == nil {
			list = append(list, field("readonly ", p.Name, call(w.core("input")+"<"+typ+" | undefined>", emit.Name("undefined"))))
			continue
		}
		usual := w.inClass(p.Default)
		list = append(list, field("readonly ", p.Name, call(w.core("input"), usual, emit.Object{Fields: []emit.Field{{
			Key: "transform", Value: emit.Arrow{Params: []string{"given: " + typ + " | undefined"}, Of: emit.Binary{Op: "??", L: emit.Name("given"), R: usual}},
		}}})))
	}
	for _, ctl := range c.Controls {
		if ctl.Prop != "" {
			list = append(list, field("readonly ", ctl.Prop, call(w.core("model")+"<"+ctl.Type+">", ctl.Usual)))
		}
	}
	if c.Record != nil {
		list = append(list, field("readonly ", "record", call(w.core("input")+".required<"+w.imports.Type(up+"data/models", c.Record.Type)+">")))
	}
	if c.Kind == screen.ScreenDoc {
		for _, p := range c.Params {
			list = append(list, field(seen, p, call(w.value(up+"lib/kept", "param"), emit.Str(p))))
		}
	}
	if w.router {
		list = append(list, field("private readonly ", "router", call(w.core("inject"), emit.Name(w.value("@angular/router", "Router")))))
	}
	if w.path {
		list = append(list, field(seen, "path", call(w.value(up+"lib/path", "pathShown"))))
	}
	part(list...)
	if c.Stateful {
		if c.Kind == screen.ScreenDoc {
			part("// What the screen shows; own code sets it while it loads, or when that fails.",
				field(seen, "state", call(w.core("signal")+"<"+shared.StateType(c)+">", emit.Str(lower.Usual))))
		} else {
			part(field(seen, "state", call(w.core("inject"), emit.Name(w.value(up+"lib/state", "SCREEN_STATE")))))
		}
	}
	if len(c.Controls) > 0 {
		kept := shared.Kept(c, func(lower.Control) emit.Expr { return nil })
		fn, args := "kept", []emit.Expr{kept}
		if told := shared.Told(c, func(ctl lower.Control) emit.Expr { return emit.Name("this." + ctl.Prop) }); len(told.Fields) > 0 {
			fn, args = "held", append(args, told)
		}
		keeps := call(w.value(up+"lib/kept", fn), args...)
		part("// What people chose or typed, by the names of the controls.", field(seen, "controls", keeps))
	}
	if len(c.Targets) > 0 {
		part("// What is open, by the name of what opens.",
			field(seen, "opened", call(w.value(up+"lib/kept", "kept"), shared.Opened(c))))
	}
	if len(c.Faults) > 0 {
		part("// "+shared.Said, field(seen, "faults", call(w.value(up+"lib/kept", "kept"), shared.Faults(c))))
	}
	var data []emit.Doc
	records := func(name string) string { return w.value(up+"data/records", name) }
	for _, l := range c.Loads {
		o := emit.Object{}
		for _, name := range l.Params {
			o.Fields = append(o.Fields, emit.Field{Key: name, Value: emit.Member{Of: emit.Name("this.controls()"), Name: name}})
		}
		data = append(data, field(seen, "ask"+emit.Pascal(l.Model),
			call(records("sourceOf"), emit.Str(shared.ListOf(w.p, l.Model)), emit.Arrow{Of: o})))
	}
	for _, l := range c.Lists {
		data = append(data, field(seen, l.Var, call(records("recordsOf"), emit.Str(shared.ListOf(w.p, l.Model)))))
	}
	for _, id := range c.Statuses {
		data = append(data, field(seen, statusVar(id), call(records("statusOf"), emit.Str(shared.ListOf(w.p, id)))))
	}
	for _, d := range c.Derived {
		data = append(data, field(seen, d.Var, call(w.core("computed"), emit.Arrow{Of: w.inClass(d.Code)})))
	}
	for _, f := range w.fields {
		is := f.(emit.Const)
		data = append(data, field(seen, is.Name, is.Is))
	}
	part(data...)
	for _, check := range c.Checks {
		part("// "+shared.Asked, field("private readonly ", check.Name, emit.Arrow{Of: w.inClass(check.Asks)}))
	}
	if c.Kind == screen.ScreenDoc {
		part(w.own(field)...)
	}
	var given []emit.Doc
	for _, g := range w.gives {
		given = append(given, field(seen, g, emit.Name(g)))
	}
	part(given...)
	for _, m := range w.methods {
		part(m)
	}
	return out
}

// own hands what own code works with to it.
func (w *component) own(field func(modifier, name string, is emit.Expr) emit.Doc) []emit.Doc {
	c := w.c
	var out []emit.Doc
	o := emit.Object{}
	set := func(key string, v emit.Expr) { o.Fields = append(o.Fields, emit.Field{Key: key, Value: v}) }
	if len(c.Refs) > 0 {
		refs := emit.Object{}
		for _, r := range c.Refs {
			if r.Tag.Module != "" {
				read := emit.Object{Fields: []emit.Field{{Key: "read", Value: emit.Name(w.elementType(r.Tag))}}}
				out = append(out, field("private readonly ", refVar(r), emit.Call{
					Fn: emit.Name(w.core("viewChild")), Args: []emit.Expr{emit.Str(refVar(r)), read},
				}))
				refs.Fields = append(refs.Fields, emit.Field{Key: r.Var, Value: emit.Name("this." + refVar(r))})
				continue
			}
			out = append(out, field("private readonly ", refVar(r), emit.Call{
				Fn:   emit.Name(w.core("viewChild") + "<" + w.imports.Type("@angular/core", "ElementRef") + "<" + w.elementType(r.Tag) + ">>"),
				Args: []emit.Expr{emit.Str(refVar(r))},
			}))
			refs.Fields = append(refs.Fields, emit.Field{Key: r.Var, Value: emit.Name("this." + refVar(r))})
		}
		set("elements", refs)
	}
	if len(c.Params) > 0 {
		params := emit.Object{}
		for _, p := range c.Params {
			params.Fields = append(params.Fields, emit.Field{Key: p, Value: emit.Name("this." + p)})
		}
		set("params", params)
	}
	for _, has := range []struct {
		yes  bool
		name string
	}{{c.Stateful, "state"}, {len(c.Controls) > 0, "controls"}, {len(c.Targets) > 0, "opened"}} {
		if has.yes {
			set(has.name, emit.Name("this."+has.name))
		}
	}
	if len(c.Faults) > 0 {
		set("blame", emit.Name("this.faults.keep"))
	}
	use := emit.Call{Fn: emit.Name(w.imports.Value("./"+c.Own()+".own", "use"+c.Own(), "")), Args: []emit.Expr{o}}
	return append(out, field("protected readonly ", "own", use))
}

func refVar(r lower.Ref) string { return r.Var + "Ref" }

// elementType is the type of an element, as own code reaches it.
func (w *component) elementType(t lower.Tag) string {
	if t.Piece != "" {
		return "HTMLElement"
	}
	if t.Module != "" {
		what, called, _ := t.Taken()
		return w.imports.Value(t.Module, what, called)
	}
	return w.imports.Type(up+"lib/page", "ElementOf") + "<" + style.Quote(t.Name) + ">"
}

func (w *component) nodes(list []lower.Node) []emit.Doc {
	var out []emit.Doc
	for _, n := range list {
		out = append(out, w.node(n, false)...)
	}
	return out
}

var inTemplate = strings.NewReplacer("{", "&#123;", "}", "&#125;", "@", "&#64;")

// literal is a text of a template that says what it says.
func literal(s string) string {
	s = emit.EscapeHTML(strings.Join(strings.Fields(s), " "))
	return inTemplate.Replace(s)
}

// interpolates tells whether a template would compute something of a text. Angular looks
// for braces after it has read what stands for characters, so that nothing hides them.
func interpolates(s string) bool { return strings.Contains(s, "{{") }

// quoted is a text in an attribute.
func quoted(s string) string { return strings.ReplaceAll(emit.EscapeHTML(s), "{{", "{ {") }

func (w *component) when(is emit.Expr, d emit.Doc) emit.Doc {
	if is == nil {
		return d
	}
	return emit.Block(emit.Join("@if (", markup(w.inTemplate(is, "shown")), ") {"), []emit.Doc{d}, "}")
}

func markup(e emit.Expr) emit.Doc {
	s := style
	s.Markup = true
	return s.Doc(e)
}

func (w *component) node(n lower.Node, root bool) []emit.Doc {
	switch x := n.(type) {
	case lower.Words:
		return []emit.Doc{w.words(x)}
	case *lower.Each:
		of := w.inTemplate(x.Of, "listed "+x.Item)
		if len(style.Inline(of)) > 40 {
			of = w.member(x.Of, "listed "+x.Item)
		}
		w.items = append(w.items, item{x.Item, x.Type})
		kids := w.nodes(x.Body)
		w.items = w.items[:len(w.items)-1]
		return []emit.Doc{emit.Block(emit.Join("@for ("+x.Item+" of ", markup(of), "; track "+x.Item+".id) {"), kids, "}")}
	case *lower.Outlet:
		return []emit.Doc{w.when(x.If, w.outlet(x))}
	case *lower.El:
		return []emit.Doc{w.when(x.If, emit.Mark(x.ID, w.element(x, root)))}
	}
	return nil
}

func (w *component) words(x lower.Words) emit.Doc {
	if s, ok := x.Of.(emit.Str); ok && !interpolates(string(s)) {
		return emit.FillWords(literal(string(s)))
	}
	return style.Braces(w.inTemplate(x.Of, "words"))
}

func (w *component) use(name string) {
	if !slices.Contains(w.uses, name) {
		w.uses = append(w.uses, name)
	}
}

func (w *component) outlet(x *lower.Outlet) emit.Doc {
	if w.c.Kind == screen.ShellDoc {
		w.use(w.value("@angular/router", "RouterOutlet"))
		return emit.Tag{Name: "main", Attrs: []emit.Doc{`class="u-contents"`}, Kids: []emit.Doc{"<router-outlet />"}}.Doc()
	}
	if x.Name != "" {
		return `<ng-content select="[fill=` + emit.Kebab(x.Name) + `]" />`
	}
	return "<ng-content />"
}

func (w *component) element(x *lower.El, root bool) emit.Doc {
	// Elements of HTML are written whole, but for those that nothing stands in.
	short := x.Tag.Def == nil || !x.Tag.Def.Plain || render.Void(x.Tag.Name)
	t := emit.Tag{Name: x.Tag.Name, Short: short}
	add := func(d emit.Doc) { t.Attrs = append(t.Attrs, d) }
	text := func(name, value string) { add(name + `="` + quoted(value) + `"`) }
	if x.Tag.Piece != "" {
		t.Name = selector(x.Tag.Name)
		w.use(w.imports.Value(relative(w.at[w.c.Name], w.at[x.Tag.Name])+".component", x.Tag.Name, ""))
	}
	if x.Tag.Module != "" {
		w.begun(x, &t)
	}
	if x.Ref != "" {
		add("#" + x.Ref + "Ref")
	}
	switch {
	case x.Slot == "":
	case !x.Filled:
		text("slot", x.Slot)
	default:
		attrs, as := w.place(x, x.Slot)
		t.Attrs = append(t.Attrs, attrs...)
		if as != "" && !w.placed[x] {
			text("ngProjectAs", as)
		}
	}
	if root && w.c.Kind == screen.ScreenDoc {
		text("data-screen", w.c.ID)
	}
	if x.Own != "" {
		text("data-name", x.Own)
	}
	if x.Class != nil {
		if s, ok := x.Class.(emit.Str); ok {
			text("class", string(s))
		} else {
			add(style.Attr("[class]", w.inTemplate(x.Class, "classes")))
		}
	}
	for _, a := range x.Attrs {
		if a.Def == nil || !a.Def.Selects { // the tag has begun with it
			add(w.attribute(x, a))
		}
	}
	for _, tell := range x.Tells {
		add(style.Attr("["+tell.Prop+"]", w.inTemplate(emit.Read{What: "control", Name: tell.Name}, tell.Prop)))
		keep := emit.Call{Fn: emit.Name("controls.keep"), Args: []emit.Expr{emit.Str(tell.Name), emit.Name("$event")}}
		add(style.Attr("("+tell.Prop+"Change)", keep))
	}
	for _, on := range x.On {
		if d := w.on(x, on); d != nil {
			add(d)
		}
	}
	if x.Tag.Any != nil {
		return w.chosen(x, t)
	}
	w.fill(x, &t)
	return t.Doc()
}

func (w *component) fill(x *lower.El, t *emit.Tag) {
	if len(x.Fills) == 0 {
		t.Kids = w.inside(x)
		if len(x.Kids) == 1 {
			_, t.Words = x.Kids[0].(lower.Words)
		}
		return
	}
	for _, f := range x.Fills {
		if f.Outlet == "" {
			t.Kids = append(t.Kids, w.nodes(f.Kids)...)
			continue
		}
		t.Kids = append(t.Kids, emit.Tag{
			Name: "ng-container", Attrs: []emit.Doc{`ngProjectAs="[fill=` + emit.Kebab(f.Outlet) + `]"`}, Kids: w.nodes(f.Kids),
		}.Doc())
	}
}

// chosen is an element whose kind is chosen where a piece is used: one branch a kind.
func (w *component) chosen(x *lower.El, t emit.Tag) emit.Doc {
	w.fill(x, &t)
	kinds := []string{x.Tag.Name}
	for _, other := range w.p.Kinds[lower.KindsAt(w.c.ID, x.ID)] {
		if !slices.Contains(kinds, other) {
			kinds = append(kinds, other)
		}
	}
	read := w.inTemplate(x.Tag.Any, "kind")
	var parts []emit.Doc
	for i, kind := range kinds[1:] {
		t.Name = kind
		head := "@if ("
		if i > 0 {
			head = "} @else if ("
		}
		parts = append(parts, emit.Join(head, markup(emit.Binary{Op: "===", L: read, R: emit.Str(kind)}), ") {", emit.Indent(t.Doc()), emit.Hard))
	}
	t.Name = kinds[0]
	if len(parts) == 0 {
		return t.Doc()
	}
	parts = append(parts, emit.Join("} @else {", emit.Indent(t.Doc()), emit.Hard, "}"))
	return emit.Join(parts...)
}

// attribute writes a setting. Numbers and flags are bound, so that an element gets a
// number or a yes/no, not a text.
func (w *component) attribute(x *lower.El, a lower.Attr) emit.Doc {
	if s, ok := a.Static(); ok && x.Tag.Piece == "" && !interpolates(s) {
		return cmp.Or(a.Attr, a.Prop) + `="` + quoted(s) + `"`
	}
	if n, ok := a.Value.(emit.Name); ok && x.Tag.Def != nil && x.Tag.Def.Plain && a.Def != nil && a.Def.Type == kit.Number {
		return a.Attr + `="` + string(n) + `"`
	}
	if a.Value == emit.Expr(emit.Name("true")) && x.Tag.Piece == "" && a.Attr != "" {
		return a.Attr
	}
	if a.Def != nil && (a.Def.Handed || x.Tag.Def != nil && x.Tag.Def.Plain) { // no property has each of their names
		return style.Attr("[attr."+a.Attr+"]", w.inTemplate(a.Value, a.Prop))
	}
	return style.Attr("["+a.Prop+"]", w.inTemplate(a.Value, a.Prop+" of "+cmp.Or(x.Own, last(x.Tag.Name))))
}

func last(tag string) string { return tag[strings.LastIndexByte(tag, '-')+1:] }

func (w *component) on(x *lower.El, on lower.On) emit.Doc {
	var list []emit.Stmt
	event := emit.Name("event")
	this := func(name string) string { return "this." + name }
	do := func(e emit.Expr) { list = append(list, emit.Do{Of: e}) }
	if on.Hold != nil {
		do(emit.Call{Fn: emit.Name(this("controls.keep")), Args: []emit.Expr{emit.Str(on.Hold.Name),
			emit.Call{Fn: emit.Name(w.page("held")), Args: []emit.Expr{event, emit.Str(on.Holds.Name)}}}})
	}
	if on.Form != nil {
		typ := w.imports.Type("./"+w.c.Own()+".parts", w.c.Own()+"Values")
		values := emit.Call{Fn: emit.Name(w.page("valuesOf")), Args: []emit.Expr{event, shared.Holds(on.Form)}}
		do(emit.Call{
			Fn: emit.Member{Of: emit.Name(this("own.submit")), Name: on.Form.Name, Maybe: true}, Maybe: true,
			Args: []emit.Expr{emit.As{Of: values, Type: typ + "[" + style.Quote(on.Form.Name) + "]"}, event},
		})
	}
	acts := w.acts(on.Acts)
	for _, c := range slices.Backward(on.Cases) {
		acts = []emit.Stmt{emit.If{
			If:   emit.Binary{Op: "===", L: emit.Name("this.state()"), R: emit.Str(c.State)},
			Then: w.acts(c.Acts), Else: acts,
		}}
	}
	list = append(list, acts...)
	if on.Check != nil {
		list = shared.Guarded(w.value(up+"lib/forms", "fine"), on.Check, "event", "this.", "this.faults.keep", list)
	}
	if len(list) == 0 {
		return nil
	}
	if on.Event != "click" && x.Tag.Custom { // what stands inside sends its own
		list = append([]emit.Stmt{emit.If{
			If:   emit.Unary{Op: "!", Of: emit.Call{Fn: emit.Name(w.page("itself")), Args: []emit.Expr{event}}},
			Then: []emit.Stmt{emit.Return{}},
		}}, list...)
	}
	var params []string
	var args []emit.Expr
	whole := emit.Arrow{Body: list}
	if emit.Any(whole, func(e emit.Expr) bool { return e == emit.Expr(event) }) {
		typ := "Event"
		if x.Tag.Module != "" { // components give what they want
			typ = "unknown"
		}
		params, args = append(params, "event: "+typ), append(args, emit.Name("$event"))
	}
	for _, it := range w.items {
		if emit.Any(whole, func(e emit.Expr) bool { return root(e) == it.name }) {
			typ := it.typ
			if emit.IsIdentifier(typ) {
				typ = w.imports.Type(up+"data/models", typ)
			}
			params, args = append(params, it.name+": "+typ), append(args, emit.Name(it.name))
		}
	}
	words := emit.Words(on.Event)
	name := w.memberName("on " + cmp.Or(x.Own, last(x.Tag.Name)) + " " + words[len(words)-1])
	w.methods = append(w.methods, emit.Join("protected "+name+"("+strings.Join(params, ", ")+") {", emit.Indent(style.Stmts(list)), emit.Hard, "}"))
	return style.Attr("("+on.Event+")", emit.Call{Fn: emit.Name(name), Args: args})
}

func (w *component) acts(list []lower.Act) []emit.Stmt {
	w.router = w.router || slices.ContainsFunc(list, func(a lower.Act) bool { return a.Verb == screen.GoTo })
	return shared.Doing{
		Go: "this.router.navigateByUrl", Open: "this.opened.keep", State: "this.state.set",
		Hold: "this.controls.keep", Opened: "this.opened().", Read: w.inClass, Page: w.page, Store: w.store,
	}.Acts(list)
}
