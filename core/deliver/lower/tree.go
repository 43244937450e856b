package lower

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

type scope struct {
	model, around *sample.Model
	record, outer emit.Expr
	each          bool
	items         []string // names of the records around
}

type builder struct {
	p        *program
	c        *Component
	doc      *screen.Document
	over     map[string][]screen.PieceProp
	props    []screen.PieceProp
	variants map[*screen.Element]variant
	targets  map[string]*Target
	lent     *resolve.Names
	lends    map[string]string // controls of a piece that are told, with the props that do it
	matching map[*screen.Element]emit.Expr
	lists    map[string]string
	checks   map[*screen.Element][]*asked
	blames   map[*screen.Element]map[string]blame
	alone    bool
	compared map[string]map[string]bool
}

func (p *program) builder(d *screen.Document) *builder {
	name := p.nameOf(d.Kind, d.ID)
	b := &builder{
		p: p, doc: d,
		c:        &Component{Kind: d.Kind, ID: d.ID, Name: name, Title: d.Title, TitleKey: titleKey(p.in, d), Route: d.Route, doc: d, Names: &emit.Names{}},
		variants: map[*screen.Element]variant{}, targets: map[string]*Target{},
		matching: map[*screen.Element]emit.Expr{}, lists: map[string]string{},
		checks: map[*screen.Element][]*asked{}, blames: map[*screen.Element]map[string]blame{},
	}
	b.c.Names.Keep(known...)
	b.c.Names.Keep("setControls", "setOpened", name)
	for part := range strings.SplitSeq(d.Route, "/") {
		if p, ok := strings.CutPrefix(part, ":"); ok && emit.IsIdentifier(p) {
			b.c.Params = append(b.c.Params, p)
		}
	}
	return b
}

func (p *program) component(d *screen.Document) *Component {
	b := p.builder(d)
	c := b.c
	sc := scope{}
	if d.Kind == screen.PieceDoc {
		c.InShell = p.shells[d.ID]
		b.props = append(slices.Clone(d.Props), reached(p.in, d)...)
		b.over = map[string][]screen.PieceProp{}
		for _, prop := range b.props {
			b.over[prop.Element] = append(b.over[prop.Element], prop)
			c.Names.Keep(propName(prop.Name))
		}
		if m := p.around[d.ID]; m != nil && speaksOf(d.Root, "record") {
			c.Record = p.models[m.ID]
			c.Names.Keep("record")
			sc = scope{model: m, record: emit.Read{What: "prop", Name: "record"}}
		}
	}
	c.InShell = c.InShell || d.Kind == screen.ShellDoc
	root := b.united()
	b.ownNames(root)
	b.aimed(root)
	b.ask(root)
	if root.Type == "parts" {
		c.ManyRoots = true
		for _, child := range root.Children {
			c.Root = append(c.Root, b.element(child, sc)...)
		}
	} else {
		c.Root = b.element(root, sc)
		c.ManyRoots = len(c.Root) > 1 // it can be of several kinds
	}
	b.mark(c.Root)
	for _, n := range c.Root {
		if e, ok := n.(*El); ok {
			e.Root = d.Kind == screen.PieceDoc
		}
	}
	if d.Kind == screen.PieceDoc {
		b.pieceProps()
	}
	b.controls()
	b.loads()
	return c
}

func (b *builder) element(e *screen.Element, sc scope) []Node {
	if e.Repeat == nil {
		return b.once(e, sc)
	}
	m := sample.Over(e.Repeat.Model, sc.model, b.p.in.Models)
	if b.alone {
		return b.once(e, sc)
	}
	if m == nil {
		b.p.note(b.doc, e.ID, "%s; it is left out", resolve.NoModel(e.Repeat.Model))
		return nil
	}
	each := &Each{Of: b.rows(e, m, sc), Item: b.item(m, sc), Type: "{ id: string; value: string }"}
	if known := b.p.models[m.ID]; b.p.in.Models[m.ID] == m {
		each.Type = known.Type
	}
	each.Body = b.once(e, scope{model: m, around: sc.model, record: emit.Name(each.Item), outer: sc.record, each: true, items: append(slices.Clone(sc.items), each.Item)})
	b.mark(each.Body)
	return []Node{each}
}

func (b *builder) once(e *screen.Element, sc scope) []Node {
	if read, kinds := b.kindsOf(e); len(kinds) > 0 {
		return b.either(e, read, kinds, sc)
	}
	return b.sole(e, sc)
}

// kindsOf are the kinds that an element of a piece can be where it is used, with what says which;
// none where it is what it is, or where all are custom elements, whose tags code can choose by name.
func (b *builder) kindsOf(e *screen.Element) (read emit.Expr, kinds []string) {
	for _, p := range b.over[e.ID] {
		if p.Prop == screen.KindProp {
			read = emit.Read{What: "prop", Name: propName(p.Name)}
		}
	}
	if read == nil {
		return nil, nil
	}
	component := false
	for _, kind := range append([]string{e.Type}, b.p.out.Kinds[KindsAt(b.doc.ID, e.ID)]...) {
		if def, ok := b.p.in.Cat.Component(kind); ok && !slices.Contains(kinds, kind) {
			kinds = append(kinds, kind)
			component = component || def.Export != ""
		}
	}
	if !component {
		return nil, nil
	}
	return read, kinds
}

// either is an element as each of the kinds that it can be, of which one is there.
func (b *builder) either(e *screen.Element, read emit.Expr, kinds []string, sc scope) []Node {
	var out []Node
	for _, kind := range kinds {
		as := *e
		as.Type = kind
		b.variants[&as], b.checks[&as], b.blames[&as] = b.variants[e], b.checks[e], b.blames[e]
		for _, n := range b.sole(&as, sc) {
			out = append(out, n)
			el, ok := n.(*El)
			if !ok {
				continue
			}
			el.Tag.Any = nil
			if len(kinds) == 1 {
				continue
			}
			is := emit.Expr(emit.Binary{Op: "===", L: read, R: emit.Str(kind)})
			if el.If != nil {
				is = emit.Binary{Op: "&&", L: el.If, R: is}
			}
			el.If = is
		}
	}
	return out
}

// sole is an element that is of one kind.
func (b *builder) sole(e *screen.Element, sc scope) []Node {
	if e.Type == "outlet" {
		if b.c.Kind == screen.PieceDoc {
			b.c.Outlets = append(b.c.Outlets, e.Name)
		}
		return []Node{&Outlet{Name: e.Name, Slot: e.Slot, If: b.shown(e, sc)}}
	}
	el := &El{ID: e.ID, Slot: e.Slot}
	b.compared = map[string]map[string]bool{}
	el.If = b.shown(e, sc)
	b.settings(el, e, sc)
	if words := b.words(e, sc); words != nil {
		says, plain := words.(emit.Str)
		if n := len(el.Kids); n > 0 && plain { // what is unknown says so first
			if first, ok := el.Kids[n-1].(Words).Of.(emit.Str); ok {
				el.Kids, words = el.Kids[:n-1], first+says
			}
		}
		el.Kids = append(el.Kids, Words{words})
	}
	if piece := b.p.in.Pieces[el.Tag.Piece]; piece != nil {
		el.Fills = b.fills(e, piece, sc)
		return []Node{el}
	}
	for _, c := range e.Children {
		el.Kids = append(el.Kids, b.element(c, sc)...)
	}
	b.mark(el.Kids)
	if el.Tag.Module != "" {
		filled(el.Kids)
	}
	b.places(el, e)
	return []Node{el}
}

// filled marks what a framework's component is handed, by the slot it stands in.
func filled(kids []Node) {
	for _, n := range kids {
		switch x := n.(type) {
		case *El:
			x.Filled = true
		case *Each:
			filled(x.Body)
		}
	}
}

// places leaves out what stands in a framework's component where that takes nothing: code
// with it would not compile.
func (b *builder) places(el *El, e *screen.Element) {
	def := el.Tag.Def
	if el.Tag.Module == "" || b.alone {
		return
	}
	el.Kids = slices.DeleteFunc(el.Kids, func(n Node) bool {
		slot := ""
		switch x := n.(type) {
		case *El:
			slot = x.Slot
		case *Outlet:
			slot = x.Slot
		case *Each:
			if inner, ok := x.Body[0].(*El); ok {
				slot = inner.Slot
			}
		}
		_, takes := def.Slot(slot)
		if slot == "" && !takes {
			_, takes = def.Slot("children")
		}
		if takes {
			return false
		}
		what := "what stands in it"
		if w, ok := n.(Words); ok {
			what = "its text"
			if s, ok := w.Of.(emit.Str); ok {
				what = fmt.Sprintf("the text %q", string(s))
			}
		}
		where := ""
		if slot != "" {
			where = " at " + slot
		}
		b.p.note(b.doc, e.ID, "%s takes nothing%s; %s is left out", def.Title, where, what)
		return true
	})
}

// fills are what stands in the outlets of a piece. Where the outlet stands in a slot of
// the kit, so does what fills it.
func (b *builder) fills(e *screen.Element, piece *screen.Document, sc scope) []Fill {
	var out []Fill
	piece.Root.Walk(func(o, in *screen.Element) bool {
		if o.Type != "outlet" {
			return true
		}
		f := Fill{Outlet: o.Name}
		for _, c := range e.Children {
			if c.Slot != o.Name {
				continue
			}
			into := *c
			into.Slot = o.Slot
			if v, ok := b.variants[c]; ok {
				b.variants[&into] = v
			}
			f.Kids = append(f.Kids, b.element(&into, sc)...)
		}
		if in != nil {
			if def, ok := b.p.in.Cat.Component(in.Type); ok && def.Export != "" {
				filled(f.Kids)
			}
		}
		if len(f.Kids) > 0 {
			out = append(out, f)
		}
		return true
	})
	return out
}

// words are an element's text; nil where it has none.
func (b *builder) words(e *screen.Element, sc scope) emit.Expr {
	for _, p := range b.over[e.ID] {
		if p.Prop == "" {
			return emit.Read{What: "prop", Name: propName(p.Name)}
		}
	}
	text := func(e *screen.Element) emit.Expr {
		if code, ok := b.said(e, "", e.Text, sc); ok {
			return code
		}
		switch e.Text.Kind {
		case screen.None:
			return emit.Str("")
		case screen.Expr:
			return b.expression(e, e.Text.Text, sc).text()
		}
		return emit.Str(e.Text.Text)
	}
	if code, ok := b.varying(e, text); ok {
		return code
	}
	if code := text(e); code != emit.Expr(emit.Str("")) {
		return code
	}
	return nil
}

// shown is the condition under which an element stands; nil where it always does.
func (b *builder) shown(e *screen.Element, sc scope) emit.Expr {
	var list []emit.Expr
	if in := b.variants[e].in; in != nil {
		list = append(list, b.stands(in))
	}
	for _, p := range b.over[e.ID] {
		if p.Prop == screen.ShowProp {
			list = append(list, emit.Read{What: "prop", Name: propName(p.Name)})
		}
	}
	one := func(e *screen.Element) emit.Expr {
		if e.Show == "" {
			return emit.Name("true")
		}
		return b.expression(e, e.Show, sc).condition()
	}
	if code, ok := b.varying(e, one); ok {
		list = append(list, code)
	} else if e.Show != "" {
		list = append(list, one(e))
	}
	if len(list) == 0 {
		return nil
	}
	out := list[0]
	for _, c := range list[1:] {
		out = emit.Binary{Op: "&&", L: out, R: c}
	}
	return out
}
