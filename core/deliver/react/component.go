package react

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/lower"
	"ubiquant/core/deliver/shared"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

var style = emit.Plain

// component is a screen, shell or piece being written as a function component.
type component struct {
	p       *lower.Program
	c       *lower.Component
	at      map[string]string // where the components stand, by their names
	imports *emit.Imports
	path    bool        // it reads the route that is shown
	goes    bool        // it goes to routes
	kinds   []emit.Stmt // names for elements whose kind is chosen
}

// up is the way from the component's folder to that of all.
const up = "../"

func (w *component) value(module, name string) string { return w.imports.Value(module, name, "") }

func (w *component) page(name string) string { return w.value(up+"lib/page", name) }

func (w *component) store(name string) string { return w.value(up+"data/store", name) }

func (w *component) read(e emit.Expr) emit.Expr {
	return emit.Map(e, func(e emit.Expr) emit.Expr {
		switch x := e.(type) {
		case emit.Taken:
			return emit.Name(w.value(shared.Module(x, up), x.Name))
		case emit.Read:
			switch x.What {
			case "state":
				return emit.Name("state")
			case "control":
				return emit.Member{Of: emit.Name("controls"), Name: x.Name}
			case "opened":
				return emit.Member{Of: emit.Name("opened"), Name: x.Name}
			case "fault":
				return emit.Member{Of: emit.Name("faults"), Name: x.Name}
			case "status":
				return emit.Name(statusVar(x.Name))
			case "path":
				w.path = true
				return emit.Name("path")
			}
			return emit.Name(x.Name)
		}
		return e
	})
}

func statusVar(id string) string { return emit.Camel(id) + "Status" }

// write is the file of the component.
func (w *component) write() deliver.File {
	c := w.c
	root := w.root()
	body := w.body()
	signature := w.props()
	if signature == nil {
		signature = "export function " + c.Name + "()"
	}
	text := emit.Print(w.imports.Doc(style), style.Width)
	if c.Kind == screen.ScreenDoc {
		text += "import './" + c.Own() + ".own.css'\n"
	}
	if text != "" {
		text += "\n"
	}
	var inner []emit.Doc
	if len(body) > 0 {
		inner = append(inner, style.Stmts(body), "")
	}
	inner = append(inner, emit.Join("return ", root))
	code, places := emit.PrintMarked(emit.Join(signature, " {", emit.Indent(inner...), emit.Hard, "}"), style.Width)
	emit.Shift(places, text)
	return deliver.File{Path: w.at[c.Name], Data: []byte(text + code + "\n"), Doc: c.Address(), Places: places}
}

// root is what the component shows.
func (w *component) root() emit.Doc {
	c := w.c
	if len(c.Root) == 1 {
		switch x := c.Root[0].(type) {
		case *lower.El:
			if x.If == nil {
				return style.Doc(emit.Markup{Doc: emit.Mark(x.ID, w.element(x, true))})
			}
		case *lower.Outlet:
			if x.If == nil {
				return style.Doc(w.outlet(x))
			}
		}
	}
	var kids []emit.JSXKid
	for _, n := range c.Root {
		kids = append(kids, w.node(n, true)...)
	}
	return style.Doc(emit.Markup{Doc: emit.JSX{Kids: kids}.Doc()})
}

// usual is a default value as it stands in code.
func (w *component) usual(e emit.Expr) emit.Expr {
	if e == nil {
		return nil
	}
	return w.read(e)
}

// props are those of a piece; nil where it takes none.
func (w *component) props() emit.Doc {
	c := w.c
	if c.Kind != screen.PieceDoc {
		return nil
	}
	var types, names []emit.Doc
	add := func(name, typ string, usual emit.Expr) {
		types = append(types, shared.Key(name)+"?: "+typ+" | undefined")
		if usual != nil {
			name += " = " + style.Inline(usual)
		}
		names = append(names, name)
	}
	for _, p := range c.Props {
		add(p.Name, p.Type, w.usual(p.Default))
	}
	for _, ctl := range c.Controls {
		if ctl.Prop != "" {
			add(ctl.Prop, ctl.Type, ctl.Usual)
			add(teller(ctl), "((value: "+ctl.Type+") => void)", nil)
		}
	}
	if c.Record != nil {
		types = append(types, "record: "+w.imports.Type(up+"data/models", c.Record.Type))
		names = append(names, "record")
	}
	for _, o := range c.Outlets {
		add(outletProp(o), w.imports.Type("react", "ReactNode"), nil)
	}
	if w.slotted() {
		add("slot", "string", nil)
	}
	if len(names) == 0 {
		return nil
	}
	plain := func(list []emit.Doc, by string) string {
		texts := make([]string, len(list))
		for i, d := range list {
			texts[i], _ = d.(string)
		}
		return strings.Join(texts, by)
	}
	one := "export function " + c.Name + "({ " + plain(names, ", ") + " }: { " + plain(types, "; ") + " })"
	if len(one)+2 <= style.Width {
		return one
	}
	comma := func(list []emit.Doc) emit.Doc {
		var out []emit.Doc
		for i, d := range list {
			if i > 0 {
				out = append(out, ",", emit.Space)
			}
			out = append(out, d)
		}
		return emit.Join(out...)
	}
	return emit.Join("export function ", c.Name, "(", emit.Group("{", emit.Nest(emit.Space, comma(names), emit.Comma), emit.Space, "}: {",
		emit.Indent(types...), emit.Hard, "}"), ")")
}

// slotted tells whether what the component shows stands in a slot of a custom element
// where the component does.
func (w *component) slotted() bool { return w.p.In.Kit.HasElements() && w.c.Kind == screen.PieceDoc }

func outletProp(name string) string {
	if name == "" {
		return "children"
	}
	return emit.Camel(name)
}

// teller is the prop by which a piece tells what a control of it holds.
func teller(c lower.Control) string { return "on" + emit.Pascal(c.Prop) }

func (w *component) body() []emit.Stmt {
	c := w.c
	var out []emit.Stmt
	part := func(list ...emit.Stmt) {
		if len(list) == 0 {
			return
		}
		if len(out) > 0 {
			out = append(out, emit.Blank{})
		}
		out = append(out, list...)
	}
	call := func(fn string, args ...emit.Expr) emit.Expr { return emit.Call{Fn: emit.Name(fn), Args: args} }
	var first []emit.Stmt
	if c.Kind == screen.ScreenDoc && len(c.Params) > 0 {
		names := make([]string, len(c.Params))
		for i, p := range c.Params {
			names[i] = p + " = ''"
		}
		first = append(first, emit.Const{Name: "{ " + strings.Join(names, ", ") + " }", Is: call(w.value(shared.Router(w.p.In), "useParams"))})
	}
	if w.goes {
		first = append(first, emit.Const{Name: "navigate", Is: call(w.value(shared.Router(w.p.In), "useNavigate"))})
	}
	if w.path {
		first = append(first, emit.Const{Name: "path", Is: emit.Member{Of: call(w.value(shared.Router(w.p.In), "useLocation")), Name: "pathname"}})
	}
	part(first...)
	if c.Stateful {
		if c.Kind == screen.ScreenDoc {
			part(emit.Remark("What the screen shows; own code sets it while it loads, or when that fails."),
				emit.Const{Name: "[state, setState]", Is: call(w.value("react", "useState")+"<"+shared.StateType(c)+">", emit.Str(lower.Usual))})
		} else {
			part(emit.Const{Name: "{ state, setState }", Is: call(w.value("react", "useContext"), emit.Name(w.value(up+"lib/state", "ScreenState")))})
		}
	}
	if len(c.Controls) > 0 {
		kept := shared.Kept(c, func(ctl lower.Control) emit.Expr { return emit.Name(ctl.Prop) })
		fn, args := "useKept", []emit.Expr{kept}
		if told := shared.Told(c, func(ctl lower.Control) emit.Expr { return emit.Name(teller(ctl)) }); len(told.Fields) > 0 {
			fn, args = "useHeld", append(args, told)
		}
		keeps := call(w.value(up+"lib/use-kept", fn), args...)
		part(emit.Remark("What people chose or typed, by the names of the controls."),
			emit.Const{Name: "[controls, hold]", Is: keeps})
	}
	if len(c.Targets) > 0 {
		part(emit.Remark("What is open, by the name of what opens."),
			emit.Const{Name: "[opened, open]", Is: call(w.value(up+"lib/use-kept", "useKept"), shared.Opened(c))})
	}
	if len(c.Faults) > 0 {
		kept := "[faults, blame]"
		if !c.ShowsFaults {
			kept = "[, blame]"
		}
		part(emit.Remark(shared.Said), emit.Const{Name: kept, Is: call(w.value(up+"lib/use-kept", "useKept"), shared.Faults(c))})
	}
	var data []emit.Stmt
	records := func(name string) string { return w.value(up+"data/use-records", name) }
	for _, l := range c.Loads {
		o := emit.Object{}
		for _, name := range l.Params {
			o.Fields = append(o.Fields, emit.Field{Key: name, Value: emit.Member{Of: emit.Name("controls"), Name: name}})
		}
		data = append(data, emit.Do{Of: call(records("useSource"), emit.Str(shared.ListOf(w.p, l.Model)), o)})
	}
	for _, l := range c.Lists {
		data = append(data, emit.Const{Name: l.Var, Is: call(records("useRecords"), emit.Str(shared.ListOf(w.p, l.Model)))})
	}
	for _, id := range c.Statuses {
		data = append(data, emit.Const{Name: statusVar(id), Is: call(records("useStatus"), emit.Str(shared.ListOf(w.p, id)))})
	}
	for _, d := range c.Derived {
		data = append(data, emit.Const{Name: d.Var, Is: w.read(d.Code)})
	}
	part(data...)
	for _, check := range c.Checks {
		part(emit.Remark(shared.Asked), emit.Const{Name: check.Name, Is: emit.Arrow{Of: w.read(check.Asks)}})
	}
	part(w.kinds...)
	if c.Kind == screen.ScreenDoc {
		part(w.own()...)
	}
	return out
}

func refVar(r lower.Ref) string { return r.Var + "Ref" }

// own hands what own code works with to it.
func (w *component) own() []emit.Stmt {
	c := w.c
	var out []emit.Stmt
	o := emit.Object{}
	set := func(key string, v emit.Expr) { o.Fields = append(o.Fields, emit.Field{Key: key, Value: v}) }
	if len(c.Refs) > 0 {
		refs := emit.Object{}
		for _, r := range c.Refs {
			out = append(out, emit.Const{Name: refVar(r), Is: emit.Call{
				Fn: emit.Name(w.value("react", "useRef") + "<" + w.elementType(r.Tag) + ">"), Args: []emit.Expr{emit.Name("null")},
			}})
			refs.Fields = append(refs.Fields, emit.Field{Key: r.Var, Value: emit.Name(refVar(r))})
		}
		set("elements", refs)
	}
	if len(c.Params) > 0 {
		params := emit.Object{}
		for _, p := range c.Params {
			params.Fields = append(params.Fields, emit.Field{Key: p, Value: emit.Name(p)})
		}
		set("params", params)
	}
	if c.Stateful {
		set("state", emit.Name("state"))
		set("setState", emit.Name("setState"))
	}
	if len(c.Controls) > 0 {
		set("controls", emit.Name("controls"))
		set("hold", emit.Name("hold"))
	}
	if len(c.Targets) > 0 {
		set("opened", emit.Name("opened"))
		set("open", emit.Name("open"))
	}
	if len(c.Faults) > 0 {
		set("blame", emit.Name("blame"))
	}
	use := emit.Call{Fn: emit.Name(w.imports.Value("./"+c.Own()+".own", "use"+c.Own(), "")), Args: []emit.Expr{o}}
	if len(c.Forms) == 0 && !shared.Settable(c) {
		return append(out, emit.Do{Of: use})
	}
	return append(out, emit.Const{Name: "own", Is: use})
}

// elementType is the type of an element, as own code reaches it.
func (w *component) elementType(t lower.Tag) string {
	switch {
	case t.Piece != "":
		return "HTMLElement"
	case t.Module != "":
		return w.imports.Type("react", "ComponentRef") + "<typeof " + w.tag(t) + ">"
	}
	return w.imports.Type(up+"lib/page", "ElementOf") + "<" + style.Quote(t.Name) + ">"
}

// tag is the name that an element is written with; what has to be imported for it is.
func (w *component) tag(t lower.Tag) string {
	switch {
	case t.Piece != "":
		return w.imports.Value(relative(w.at[w.c.Name], w.at[t.Name]), t.Name, "")
	case t.Module != "":
		what, called, of := t.Taken()
		return w.imports.Value(t.Module, what, called) + of
	}
	return t.Name
}

func (w *component) nodes(list []lower.Node) []emit.JSXKid {
	var out []emit.JSXKid
	for _, n := range list {
		out = append(out, w.node(n, false)...)
	}
	return out
}

// fragment is a list of nodes as one expression.
func (w *component) fragment(list []lower.Node) emit.Expr {
	if len(list) == 1 {
		switch x := list[0].(type) {
		case *lower.El:
			if x.If == nil {
				return emit.Markup{Doc: emit.Mark(x.ID, w.element(x, false))}
			}
			return w.conditional(x.If, emit.Mark(x.ID, w.element(x, false)))
		case lower.Words:
			return w.read(x.Of)
		case *lower.Outlet:
			return w.outlet(x)
		case *lower.Each:
			return w.each(x)
		}
	}
	return emit.Markup{Doc: emit.JSX{Kids: w.nodes(list)}.Doc()}
}

func (w *component) conditional(is emit.Expr, d emit.Doc) emit.Expr {
	return emit.Binary{Op: "&&", L: w.read(is), R: emit.Markup{Doc: d}}
}

func (w *component) node(n lower.Node, root bool) []emit.JSXKid {
	expression := func(e emit.Expr) []emit.JSXKid {
		return []emit.JSXKid{{Doc: style.Container(e, true), Expression: true}}
	}
	switch x := n.(type) {
	case lower.Words:
		if s, ok := x.Of.(emit.Str); ok {
			return []emit.JSXKid{style.JSXText(string(s))}
		}
		return expression(w.read(x.Of))
	case *lower.Each:
		kids := expression(w.each(x))
		kids[0].Element = true
		return kids
	case *lower.Outlet:
		if w.c.Kind == screen.ShellDoc && x.If == nil {
			return []emit.JSXKid{{Doc: w.main(), Element: true}}
		}
		return expression(w.outlet(x))
	case *lower.El:
		d := emit.Mark(x.ID, w.element(x, root))
		if x.If != nil {
			return expression(w.conditional(x.If, d))
		}
		return []emit.JSXKid{{Doc: d, Element: true}}
	}
	return nil
}

func (w *component) main() emit.Doc {
	return emit.JSX{Name: "main", Sole: true, Attrs: []emit.Doc{`className="u-contents"`}, Kids: []emit.JSXKid{
		{Doc: "<" + w.value(shared.Router(w.p.In), "Outlet") + " />", Element: true},
	}}.Doc()
}

func (w *component) outlet(x *lower.Outlet) emit.Expr {
	var out emit.Expr = emit.Name(outletProp(x.Name))
	if w.c.Kind == screen.ShellDoc {
		out = emit.Markup{Doc: w.main()}
	}
	if x.If != nil {
		return emit.Binary{Op: "&&", L: w.read(x.If), R: out}
	}
	return out
}

// each stands once for each record.
func (w *component) each(x *lower.Each) emit.Expr {
	key := emit.Name(x.Item + ".id")
	var body emit.Expr
	if el, ok := x.Body[0].(*lower.El); ok && len(x.Body) == 1 {
		d := emit.Mark(el.ID, w.keyed(el, key))
		if el.If != nil {
			body = w.conditional(el.If, d)
		} else {
			body = emit.Markup{Doc: d}
		}
	} else {
		body = emit.Markup{Doc: emit.JSX{
			Name: w.value("react", "Fragment"), Attrs: []emit.Doc{style.JSXAttr("key", key)}, Kids: w.nodes(x.Body),
		}.Doc()}
	}
	return emit.Call{
		Fn:   emit.Member{Of: w.read(x.Of), Name: "map"},
		Args: []emit.Expr{emit.Arrow{Params: []string{x.Item}, Of: body}},
	}
}

func (w *component) keyed(x *lower.El, key emit.Expr) emit.Doc { return w.tagged(x, false, key) }

func (w *component) element(x *lower.El, root bool) emit.Doc { return w.tagged(x, root, nil) }

func (w *component) tagged(x *lower.El, root bool, key emit.Expr) emit.Doc {
	t := emit.JSX{Name: w.tag(x.Tag)}
	plain := true
	add := func(name string, e emit.Expr) {
		t.Attrs = append(t.Attrs, style.JSXAttr(name, e))
		_, text := e.(emit.Str)
		plain = plain && text
	}
	if x.Tag.Any != nil {
		t.Name = w.c.Names.Take("Kind")
		w.kinds = append(w.kinds, emit.Const{Name: t.Name, Is: emit.As{Of: w.read(x.Tag.Any), Type: style.Quote(x.Tag.Name)}})
	}
	if key != nil {
		add("key", key)
	}
	switch {
	case x.Ref != "" && x.Tag.Module != "": // not every component says that it takes one
		t.Attrs = append(t.Attrs, "{...{ ref: "+x.Ref+"Ref }}")
		plain = false
	case x.Ref != "" && x.Tag.Piece == "":
		add("ref", emit.Name(x.Ref+"Ref"))
	}
	switch {
	case x.Slot != "" && !x.Filled:
		add("slot", emit.Str(x.Slot))
	case root && x.Root && w.slotted():
		add("slot", emit.Name("slot"))
	}
	if root && w.c.Kind == screen.ScreenDoc {
		add("data-screen", emit.Str(w.c.ID))
	}
	if x.Own != "" && x.Tag.Module == "" && x.Tag.Piece == "" {
		add("data-name", emit.Str(x.Own))
	}
	if x.Class != nil {
		add("className", w.read(x.Class))
	}
	for _, a := range x.Attrs {
		name := cmp.Or(a.Attr, a.Prop)
		if x.Tag.Module != "" || x.Tag.Piece != "" {
			name = a.Prop
		}
		if a.Def != nil && (a.Def.Handed || x.Tag.Def != nil && x.Tag.Def.Plain) {
			name = inCode(x.Tag.Name, name)
		}
		add(name, w.read(a.Value))
	}
	for _, tell := range x.Tells {
		add(tell.Prop, w.read(emit.Read{What: "control", Name: tell.Name}))
		hold := emit.Call{Fn: emit.Name("hold"), Args: []emit.Expr{emit.Str(tell.Name), emit.Name("value")}}
		add("on"+emit.Pascal(tell.Prop), emit.Arrow{Params: []string{"value"}, Of: hold})
	}
	for _, on := range x.On {
		if name, fn := w.on(x, on); fn != nil {
			add(name, fn)
		}
	}
	if x.Ref != "" && x.Tag.Module != "" {
		t.Attrs = append(t.Attrs, "{...own.set?."+x.Ref+"}")
		plain = false
	}
	switch {
	case len(x.Fills) > 0:
		for _, f := range x.Fills {
			if f.Outlet == "" {
				t.Kids = w.nodes(f.Kids)
				continue
			}
			add(outletProp(f.Outlet), w.fragment(f.Kids))
		}
	case x.Tag.Module != "":
		by := shared.BySlot(x.Kids)
		for _, slot := range slices.Sorted(maps.Keys(by)) {
			if slot == "" || slot == "children" {
				t.Kids = w.nodes(by[slot])
				continue
			}
			add(slot, w.fragment(by[slot]))
		}
	default:
		t.Kids = w.nodes(x.Kids)
	}
	t.Sole = plain && len(t.Attrs) == 1
	d := t.Doc()
	if root && w.c.Kind == screen.ScreenDoc && w.provides() {
		name := w.value(up+"lib/state", "ScreenState")
		return emit.JSX{Name: name, Attrs: []emit.Doc{style.JSXAttr("value", emit.Object{Fields: []emit.Field{
			{Key: "state", Value: emit.Name("state")},
			{Key: "setState", Value: emit.Arrow{Params: []string{"to"}, Of: emit.Call{Fn: emit.Name("setState"), Args: []emit.Expr{emit.As{Of: emit.Name("to"), Type: "typeof state"}}}}},
		}})}, Kids: []emit.JSXKid{{Doc: d, Element: true}}}.Doc()
	}
	return d
}

// provides tells whether pieces of the screen know its state.
func (w *component) provides() bool {
	return w.c.Stateful && slices.ContainsFunc(w.p.Pieces, func(c *lower.Component) bool { return c.Stateful })
}

// on is a listener: its name and function; nil where nothing happens.
func (w *component) on(x *lower.El, on lower.On) (string, emit.Expr) {
	var list []emit.Stmt
	do := func(e emit.Expr) { list = append(list, emit.Do{Of: e}) }
	event := emit.Name("event")
	if on.Hold != nil {
		do(emit.Call{Fn: emit.Name("hold"), Args: []emit.Expr{emit.Str(on.Hold.Name),
			emit.Call{Fn: emit.Name(w.page("held")), Args: []emit.Expr{event, emit.Str(on.Holds.Name)}}}})
	}
	if on.Form != nil {
		typ := w.imports.Type("./"+w.c.Own()+".parts", w.c.Own()+"Values")
		values := emit.Call{Fn: emit.Name(w.page("valuesOf")), Args: []emit.Expr{event, shared.Holds(on.Form)}}
		do(emit.Call{
			Fn: emit.Member{Of: emit.Name("own.submit"), Name: on.Form.Name, Maybe: true}, Maybe: true,
			Args: []emit.Expr{emit.As{Of: values, Type: typ + "[" + style.Quote(on.Form.Name) + "]"}, event},
		})
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
		list = shared.Guarded(w.value(up+"lib/forms", "fine"), on.Check, "event", "", "blame", list)
	}
	if len(list) == 0 {
		return "", nil
	}
	name := listener(on.Event)
	fn := emit.Arrow{Body: list}
	if on.Event != "click" && x.Tag.Custom { // what stands inside sends its own
		fn.Body = append([]emit.Stmt{emit.If{
			If:   emit.Unary{Op: "!", Of: emit.Call{Fn: emit.Name(w.page("itself")), Args: []emit.Expr{event}}},
			Then: []emit.Stmt{emit.Return{}},
		}}, list...)
	} else if len(list) == 1 {
		if one, ok := list[0].(emit.Do); ok {
			fn = emit.Arrow{Of: one.Of}
		}
	}
	if emit.Any(fn, func(e emit.Expr) bool { return e == emit.Expr(event) }) {
		fn.Params = []string{"event"}
		if !x.Tag.Custom { // not every component says what it gives
			fn.Params[0] += ": unknown"
		}
	}
	return name, fn
}

// inCode is what React calls an attribute of HTML. What fields hold is what they begin with: people go on
// from there.
func inCode(tag, attr string) string {
	if (attr == "value" || attr == "checked") && slices.Contains([]string{"input", "select", "textarea"}, tag) {
		return "default" + emit.Pascal(attr)
	}
	return kit.NameInReact(attr)
}

// listener is the prop that takes a listener of an event.
func listener(event string) string {
	switch {
	case strings.HasPrefix(event, "on") && len(event) > 2 && event[2] >= 'A' && event[2] <= 'Z':
		return event // a component's own
	case strings.Contains(event, "-"):
		return "on" + event
	}
	return "on" + emit.Pascal(event)
}

func (w *component) acts(list []lower.Act) []emit.Stmt {
	w.goes = w.goes || slices.ContainsFunc(list, func(a lower.Act) bool { return a.Verb == screen.GoTo })
	return shared.Doing{
		Go: "navigate", Open: "open", State: "setState", Hold: "hold", Opened: "opened.", Read: w.read, Page: w.page, Store: w.store,
	}.Acts(list)
}
