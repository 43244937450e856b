package lower

import (
	"encoding/json"
	"maps"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/render"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// settings writes what an element is and how it is set.
func (b *builder) settings(el *El, e *screen.Element, sc scope) {
	def, known := b.p.in.Cat.Component(e.Type)
	if e.Name != "" && !b.alone {
		el.Own = e.Name
	}
	switch {
	case !known:
		el.Tag, el.Class = Tag{Name: "div"}, emit.Str("u-unknown")
		el.Kids = append(el.Kids, Words{emit.Str("Unknown here: " + e.Type)})
		if def, drawn := b.p.in.Kit.Component(e.Type); drawn && b.p.in.Kit.Outlined(def) {
			b.p.note(b.doc, e.ID, "%s is drawn as an outline here: its code is elsewhere; an empty box stands for it", def.Title)
		} else {
			b.p.note(b.doc, e.ID, "the kit has no %s; an empty box stands for it", e.Type)
		}
	case def.Plain && def.Export != "":
		b.elsewhere(el, e, def, sc)
	case def.Plain:
		el.Tag = Tag{Name: render.PlainTag(def.Tag), Def: def}
		b.plain(el, e, def, sc)
	case def.Level == kit.Layout:
		b.layout(el, e, def)
	case def.Level == kit.Piece:
		b.piece(el, e, def, sc)
	default:
		b.component(el, e, def, sc)
	}
	if el.Own != "" && !sc.each && e.Repeat == nil && b.c.Kind == screen.ScreenDoc {
		taken := slices.IndexFunc(b.c.Refs, func(r Ref) bool { return r.Name == e.Name })
		if taken < 0 {
			b.c.Refs = append(b.c.Refs, Ref{Name: e.Name, Var: emit.Camel(e.Name), Tag: el.Tag})
			taken = len(b.c.Refs) - 1
		}
		el.Ref = b.c.Refs[taken].Var // one of several states is there at a time
	}
}

// elsewhere writes what another package draws, as code of the application takes it: a picture.
func (b *builder) elsewhere(el *El, e *screen.Element, def *kit.Component, sc scope) {
	own := *def
	module, name, ok := def.FromElsewhere()
	own.Module, own.Export, own.Default = module, name, name == "default"
	if own.Default {
		own.Export = emit.Pascal(strings.TrimPrefix(def.Tag, kit.OtherPrefix))
	}
	if !ok || b.p.in.Kit.Folder() == "" {
		b.p.note(b.doc, e.ID, "%s is of the package %s, which the application has to have", own.Export, module)
	}
	b.component(el, e, own.Seal(), sc)
}

// plain writes what an element of HTML is set to. In the templates of frameworks a setting has the name of
// the attribute; printers of code that calls it otherwise know that.
func (b *builder) plain(el *El, e *screen.Element, def *kit.Component, sc scope) {
	if e.FromCode() && e.Origin.Look != "" {
		el.Class = emit.Str(e.Origin.Look)
	}
	for _, p := range b.propsOf(e) {
		prop, ok := def.Prop(p.Name)
		if !ok {
			b.p.note(b.doc, e.ID, "%s has no attribute %s; it is left out", def.Title, p.Name)
			continue
		}
		v := b.setting(e, p, prop, sc)
		s, text := v.(emit.Str)
		switch {
		case v == nil || v == emit.Expr(emit.Name("false")):
			continue
		case prop.Name == kit.ClassProp:
			el.Class = v
			continue
		case text && prop.Type == kit.Bool:
			if s != "true" {
				continue
			}
			v = emit.Name("true")
		case text && prop.Type == kit.Number:
			if f, err := strconv.ParseFloat(string(s), 64); err == nil {
				v = emit.Name(strconv.FormatFloat(f, 'f', -1, 64))
			}
		}
		el.Attrs = append(el.Attrs, Attr{Prop: prop.Name, Attr: prop.Attr, Value: v, Def: prop})
	}
	el.idFirst()
}

// idFirst puts what names an element before what it is set to, where people look for it.
func (el *El) idFirst() {
	if i := slices.IndexFunc(el.Attrs, func(a Attr) bool { return a.Prop == "id" && a.Def != nil && a.Value != nil }); i > 0 {
		id := el.Attrs[i]
		el.Attrs = slices.Insert(slices.Delete(el.Attrs, i, i+1), 0, id)
	}
}

func (b *builder) layout(el *El, e *screen.Element, def *kit.Component) {
	node := func(e *screen.Element) *resolve.Node {
		n := &resolve.Node{Type: e.Type, Component: def}
		for _, p := range e.Props {
			n.Props = append(n.Props, literalProp(p))
		}
		for range e.Children {
			n.Children = append(n.Children, nil)
		}
		return n
	}
	el.Tag = Tag{Name: render.TagOf(node(e)), Def: def}
	if region, ok := e.Prop("region"); ok && slices.Contains([]string{"header", "main", "footer", "nav", "aside", "section"}, region.Text) {
		el.Tag.Name = region.Text
	}
	classes := func(e *screen.Element) emit.Expr {
		return emit.Str(strings.Join(render.Classes(node(e)), " "))
	}
	var ok bool
	if el.Class, ok = b.varying(e, classes); !ok {
		el.Class = classes(e)
	}
}

func (b *builder) piece(el *El, e *screen.Element, def *kit.Component, sc scope) {
	id := strings.TrimPrefix(e.Type, screen.PiecePrefix)
	el.Tag = Tag{Name: b.p.nameOf(screen.PieceDoc, id), Piece: id, Def: def}
	if !slices.Contains(b.c.Pieces, id) && !b.alone {
		b.c.Pieces = append(b.c.Pieces, id)
	}
	if piece := b.p.in.Pieces[id]; piece != nil && b.p.around[id] != nil && speaksOf(piece.Root, "record") {
		if sc.model != nil && b.p.around[id].ID == sc.model.ID {
			el.Attrs = append(el.Attrs, Attr{Prop: "record", Attr: "record", Value: sc.record})
		} else {
			b.p.note(b.doc, e.ID, "the piece %s speaks of a record of %s, and none is here", id, b.p.around[id].ID)
		}
	}
	for _, p := range b.propsOf(e) {
		prop, ok := def.Prop(p.Name)
		if !ok {
			b.p.note(b.doc, e.ID, "the piece %s has no prop %s; it is left out", id, p.Name)
			continue
		}
		if value := b.setting(e, p, prop, sc); value != nil {
			el.Attrs = append(el.Attrs, Attr{Prop: propName(p.Name), Attr: propName(p.Name), Value: value, Def: prop})
		}
	}
	b.wired(el, e)
}

// setting is the value of a prop, which may differ by state; nil where it is left out.
func (b *builder) setting(e *screen.Element, p screen.Prop, prop *kit.Prop, sc scope) emit.Expr {
	safe := func(v screen.Value) bool {
		return !prop.URL || v.Kind != screen.Literal || render.SafeURL(v.Text)
	}
	one := func(e *screen.Element) emit.Expr {
		v, _ := e.Prop(p.Name)
		if !safe(v) {
			b.p.note(b.doc, e.ID, "the address of %s could run code; it is left out", p.Name)
			return undefined
		}
		return b.value(e, v, prop, sc)
	}
	if v := p.Value; v.Kind == screen.Literal && prop.Attr == "" && prop.Type == kit.Enum && len(prop.Values) > 0 && !prop.Takes(v.Text) && !b.alone {
		b.p.note(b.doc, e.ID, "%s takes %s, not %q; it is left out", prop.Name, strings.Join(prop.Values, ", "), v.Text)
		return nil
	}
	code, ok := b.varying(e, one)
	if !ok {
		code = one(&screen.Element{ID: e.ID, Props: []screen.Prop{p}})
		if code == emit.Expr(undefined) {
			return nil
		}
	}
	if _, fixed := code.(emit.Str); prop.URL && !fixed {
		code = call("url", code)
	}
	return code
}

// value writes a value in the type that code takes.
func (b *builder) value(e *screen.Element, v screen.Value, prop *kit.Prop, sc scope) emit.Expr {
	if code, ok := b.said(e, prop.Name, v, sc); ok {
		return code
	}
	switch v.Kind {
	case screen.None:
		return undefined
	case screen.Num, screen.Flag:
		return emit.Name(v.Text)
	case screen.Expr:
		got := b.expression(e, v.Text, sc)
		code := got.safe()
		if prop.Required && prop.Attr == "" && prop.Type == kit.Text && got.typ.Kind == expr.Text && (got.maybe || got.throws) {
			code = emit.Binary{Op: "??", L: code, R: emit.Str("")}
		}
		if prop.Type == kit.Enum && len(prop.Values) > 0 && prop.Attr == "" && got.typ.Kind == expr.Text && !literalChoice(code, prop) {
			code = call("chosen", code)
		}
		return code
	case screen.Token:
		if tok, ok := b.p.in.Kit.Tokens.Find(v.Text); ok {
			return emit.Str("var(" + tok.CSS + ")")
		}
		b.p.note(b.doc, e.ID, "there is no token %s; %s is left out", v.Text, prop.Name)
		return undefined
	}
	if prop.Attr == "" {
		if prop.JSON {
			if code, ok := data(v.Text); ok {
				return code
			}
		}
		if f, err := strconv.ParseFloat(v.Text, 64); err == nil && (prop.Numbers || prop.Type == kit.Number) {
			return emit.Name(strconv.FormatFloat(f, 'f', -1, 64))
		}
		if prop.Type == kit.Bool && (v.Text == "true" || v.Text == "false") {
			return emit.Name(v.Text)
		}
	}
	return emit.Str(v.Text)
}

// literalChoice tells whether an expression gives nothing but texts that a prop takes.
func literalChoice(e emit.Expr, prop *kit.Prop) bool {
	switch x := e.(type) {
	case emit.Str:
		return prop.Takes(string(x))
	case emit.Cond:
		return literalChoice(x.Then, prop) && literalChoice(x.Else, prop)
	}
	return false
}

// data writes JSON as code.
func data(text string) (emit.Expr, bool) {
	dec := json.NewDecoder(strings.NewReader(text))
	dec.UseNumber()
	var v any
	if dec.Decode(&v) != nil || dec.More() {
		return nil, false
	}
	return Literal(v), true
}

// Literal writes plain data as code: what JSON holds, with keys in order.
func Literal(v any) emit.Expr {
	switch x := v.(type) {
	case nil:
		return emit.Name("null")
	case string:
		return emit.Str(x)
	case bool:
		return emit.Name(strconv.FormatBool(x))
	case float64:
		return emit.Name(strconv.FormatFloat(x, 'f', -1, 64))
	case json.Number:
		return emit.Name(x.String())
	case sample.List:
		out := emit.List{}
		for _, item := range x.Items() {
			out.Of = append(out.Of, emit.Str(item))
		}
		return out
	case []any:
		out := emit.List{}
		for _, item := range x {
			out.Of = append(out.Of, Literal(item))
		}
		return out
	case map[string]any:
		out := emit.Object{}
		for _, k := range slices.Sorted(maps.Keys(x)) {
			out.Fields = append(out.Fields, emit.Field{Key: k, Value: Literal(x[k])})
		}
		return out
	}
	return undefined
}

func (b *builder) component(el *El, e *screen.Element, def *kit.Component, sc scope) {
	el.Tag = Tag{Name: def.Tag, Custom: true, Def: def}
	if def.Export != "" {
		el.Tag = Tag{Name: def.Export, Module: b.p.in.Kit.ModuleOf(def, b.p.in.Home.At), Def: def}
	}
	over := map[string]emit.Expr{}
	for _, p := range b.over[e.ID] {
		read := emit.Read{What: "prop", Name: propName(p.Name)}
		switch p.Prop {
		case screen.ShowProp, "":
		case screen.KindProp:
			el.Tag.Any = read
		default:
			over[p.Prop] = read
		}
	}
	target := b.targets[e.ID]
	_, mark, place := def.Place()
	marked := ""
	if place {
		marked = mark.Name
	}
	var holds *Control
	if b.follows() && e.Name != "" {
		name := resolve.Identifier(e.Name)
		if c, ok := b.lent.Controls[name]; ok && c.Use == nil && c.Element.ID == e.ID {
			one := b.control(name, c)
			holds = &one
			delete(over, c.Holds.Name)
			el.Attrs = append(el.Attrs, Attr{Prop: c.Holds.Name, Attr: c.Holds.Attr, Value: emit.Read{What: "control", Name: name}, Def: c.Holds})
			el.On = append(el.On, On{Event: c.At, Hold: holds, Holds: c.Holds})
		}
	}
	add := func(prop *kit.Prop, v emit.Expr) {
		el.Attrs = append(el.Attrs, Attr{Prop: prop.Name, Attr: prop.Attr, Value: v, Def: prop})
	}
	for _, p := range b.propsOf(e) {
		prop, ok := def.Prop(p.Name)
		switch {
		case p.Name == kit.Does:
		case !ok:
			b.p.note(b.doc, e.ID, "%s has no prop %s; it is left out", def.Title, p.Name)
		case p.Name == kit.ClassProp && prop.Handed:
			el.Class = b.setting(e, p, prop, sc)
		case p.Name == def.Holds && holds != nil, p.Name == def.OpensBy && target != nil,
			b.c.InShell && p.Name == marked:
		case over[p.Name] != nil:
			v := over[p.Name]
			if prop.URL {
				v = call("url", v)
			}
			add(prop, v)
			delete(over, p.Name)
		default:
			if v := b.setting(e, p, prop, sc); v != nil {
				add(prop, v)
			}
		}
	}
	for _, name := range slices.Sorted(maps.Keys(over)) {
		if prop, ok := def.Prop(name); ok {
			v := over[name]
			if prop.URL {
				v = call("url", v)
			}
			add(prop, v)
		}
	}
	if def.Export != "" && !b.alone { // code without would not compile
		for i := range def.Props {
			prop := &def.Props[i]
			_, slot := def.Slot(prop.Name)
			if !prop.Required || slot || slices.ContainsFunc(el.Attrs, func(a Attr) bool { return a.Prop == prop.Name }) {
				continue
			}
			if prop.Type == kit.Text && !prop.JSON {
				b.p.note(b.doc, e.ID, "%s needs %s; an empty text stands for it", def.Title, prop.Name)
				add(prop, emit.Str(""))
			} else {
				b.p.note(b.doc, e.ID, "%s needs %s, and it is not set; the code will not compile without", def.Title, prop.Name)
			}
		}
	}
	if target != nil {
		b.opening(el, e, def, target, sc)
	}
	if def.Export != "" {
		el.idFirst()
	}
	b.blamedProps(el, e, def)
	b.doing(el, e, def, sc)
	b.place(el, def)
	b.form(el, e, def)
	if c := b.check(e, sc); c != nil {
		at := slices.IndexFunc(el.On, func(on On) bool { return on.Event == def.Answers })
		if at < 0 {
			at, el.On = len(el.On), append(el.On, On{Event: def.Answers})
		}
		el.On[at].Check = c
	}
}

// place notes where a place in a navigation leads, unless it is marked by hand.
func (b *builder) place(el *El, def *kit.Component) {
	to, active, ok := def.Place()
	if !ok || b.alone {
		return
	}
	set := func(name string) int { return slices.IndexFunc(el.Attrs, func(a Attr) bool { return a.Prop == name }) }
	if at := set(to.Name); at >= 0 && set(active.Name) < 0 {
		el.leads, el.marks = el.Attrs[at].Value, active
	}
}

// mark gives places beside each other the flag of the one that is shown, see kit.Leads.
func (b *builder) mark(nodes []Node) {
	var list []*El
	for _, n := range nodes {
		if el, ok := n.(*El); ok && el.leads != nil {
			list = append(list, el)
		}
	}
	for _, el := range list {
		args := []emit.Expr{emit.Read{What: "path"}, el.leads}
		var beside emit.List
		for _, other := range list {
			own, fixed := el.leads.(emit.Str)
			if to, also := other.leads.(emit.Str); other != el && !(fixed && also && !strings.HasPrefix(string(to), string(own)+"/")) {
				beside.Of = append(beside.Of, other.leads)
			}
		}
		if len(beside.Of) > 0 {
			args = append(args, beside)
		}
		// A screen with a route of its own knows it.
		own, fixed := el.leads.(emit.Str)
		fixed = fixed && b.doc.Kind == screen.ScreenDoc && len(screen.Params(b.doc.Route)) == 0
		var others []string
		for _, o := range beside.Of {
			to, known := o.(emit.Str)
			others, fixed = append(others, string(to)), fixed && known
		}
		if fixed {
			if kit.Leads(b.doc.Route, string(own), others) {
				el.Attrs = append(el.Attrs, Attr{Prop: el.marks.Name, Attr: el.marks.Attr, Def: el.marks, Value: emit.Name("true")})
			}
			continue
		}
		el.Attrs = append(el.Attrs, Attr{Prop: el.marks.Name, Attr: el.marks.Attr, Def: el.marks, Value: call("active", args...)})
	}
}

func literalProp(p screen.Prop) resolve.Prop {
	switch p.Value.Kind {
	case screen.Flag:
		return resolve.Prop{Name: p.Name, Value: p.Value.Text == "true"}
	case screen.Token:
		return resolve.Prop{Name: p.Name, Value: resolve.TokenMark + p.Value.Text}
	}
	return resolve.Prop{Name: p.Name, Value: p.Value.Text}
}

// propName is the name of a piece's prop in code. Those by which uses reach inside begin
// with "in", so that they meet none that the piece offers.
func propName(name string) string {
	if of, prop, reaches := strings.Cut(name, "."); reaches {
		return emit.Camel("in-" + of + "-" + prop)
	}
	id := emit.Camel(name)
	if emit.Reserved(id) && id != "name" || slices.Contains([]string{"is", "record", "own"}, id) {
		return id + "Value"
	}
	return id
}
