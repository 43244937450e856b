package angular

import (
	"cmp"
	"slices"
	"strings"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/lower"
	"ubiquant/core/deliver/shared"
	"ubiquant/core/kit"
)

// written is the way in which a component of the kit is written.
func written(def *kit.Component) kit.Selector {
	way, _ := kit.Written(def.Selector, def.Export)
	return way
}

// brought has the class know a component of the kit: what the template is made of has to be
// imported, by itself or with the NgModule that gives it.
func (w *component) brought(t lower.Tag) {
	what, called, _ := t.Taken()
	if t.Def.Brings != "" {
		what, called = t.Def.Brings, t.Def.Brings
	}
	w.use(w.imports.Value(t.Module, what, called))
}

// begun begins the tag of a component of the kit: its name, and the attributes by which it is
// known. Those that carry a setting are written with that.
func (w *component) begun(x *lower.El, t *emit.Tag) {
	w.brought(x.Tag)
	way := written(x.Tag.Def)
	t.Name = cmp.Or(way.Tag, "div")
	if attribute, ok := chosen(x); ok {
		way.Attrs, way.Values = []string{attribute}, []string{""}
	}
	for i, name := range way.Attrs {
		if !slices.ContainsFunc(x.Attrs, func(a lower.Attr) bool { return a.Prop == name }) {
			t.Attrs = append(t.Attrs, flag(name, way.Values[i]))
		}
	}
	if len(way.Classes) > 0 {
		t.Attrs = append(t.Attrs, flag("class", strings.Join(way.Classes, " ")))
	}
}

// chosen is the attribute by which an element is known, where one of several is chosen.
func chosen(x *lower.El) (attribute string, ok bool) {
	for _, a := range x.Attrs {
		if a.Def != nil && a.Def.Selects {
			return a.Static()
		}
	}
	return "", false
}

func flag(name, value string) emit.Doc {
	if value == "" {
		return name
	}
	return name + `="` + quoted(value) + `"`
}

// place says how an element comes into a place of the kit's component around it, which a
// selector names: by itself, by attributes, or as if it were something else.
func (w *component) place(x *lower.El, slot string) (attrs []emit.Doc, as string) {
	if kit.IsTemplate(slot) {
		return nil, "" // the template around it says so
	}
	ways := kit.ParseSelector(slot)
	is := kit.Selector{Tag: x.Tag.Name}
	if x.Tag.Module != "" {
		is = written(x.Tag.Def)
	}
	for _, way := range ways {
		if len(way.Classes) == 0 && (way.Tag == "" || way.Tag == is.Tag) &&
			!slices.ContainsFunc(way.Attrs, func(a string) bool { return !slices.Contains(is.Attrs, a) }) {
			return nil, ""
		}
	}
	if len(ways) == 0 || ways[0].Tag != "" || len(ways[0].Classes) > 0 {
		return nil, first(slot)
	}
	way := ways[0]
	for i, name := range way.Attrs {
		attrs = append(attrs, flag(name, way.Values[i]))
	}
	w.directive(way)
	return attrs, ""
}

// directive has the class know the directive of the kit that has a place's name, where there is one: it is
// what the place is for.
func (w *component) directive(way kit.Selector) {
	for _, def := range w.p.In.Kit.Components {
		if def.Export == "" || slices.ContainsFunc(def.Slots, func(s kit.Slot) bool { return s.Name != "" }) {
			continue
		}
		if slices.ContainsFunc(kit.ParseSelector(def.Selector), func(s kit.Selector) bool {
			return (s.Tag == "" || s.Tag == way.Tag) && len(s.Classes) == 0 && slices.Equal(s.Attrs, way.Attrs)
		}) {
			w.brought(lower.Tag{Name: def.Export, Module: w.p.In.Kit.ModuleOf(def, w.p.In.Home.At), Def: def})
			return
		}
	}
}

// inside writes what stands in an element. What comes into a place of the kit's component as
// something else, and stands there at times only or for each record, is held by something that
// is always there.
func (w *component) inside(x *lower.El) []emit.Doc {
	if x.Tag.Module == "" {
		return w.nodes(x.Kids)
	}
	var out []emit.Doc
	for i, n := range x.Kids {
		as := ""
		slot := shared.SlotOf(n)
		if kit.IsTemplate(slot) {
			if slices.ContainsFunc(x.Kids[:i], func(k lower.Node) bool { return shared.SlotOf(k) == slot }) {
				continue // it is in the template of the first
			}
			out = append(out, w.template(x.Kids[i:], slot))
			continue
		}
		if slot != "" {
			switch x := n.(type) {
			case *lower.El:
				if x.If != nil {
					as = w.held(x, slot)
				}
			case *lower.Each:
				for _, k := range x.Body {
					el, ok := k.(*lower.El)
					if !ok {
						continue
					}
					// Angular looks at the one element that a block has, and at no deeper one.
					if as = w.held(el, slot); as == "" && (el.If != nil || len(x.Body) > 1) {
						as = first(slot)
					}
				}
			case *lower.Outlet:
				as = first(slot)
			}
		}
		docs := w.node(n, false)
		if as != "" {
			docs = []emit.Doc{emit.Tag{Name: "ng-container", Attrs: []emit.Doc{flag("ngProjectAs", as)}, Kids: docs}.Doc()}
		}
		out = append(out, docs...)
	}
	return out
}

// template writes what of a list stands in one template of the component around it.
func (w *component) template(list []lower.Node, slot string) emit.Doc {
	t := emit.Tag{Name: "ng-template"}
	if ways := kit.ParseSelector(slot); len(ways) == 1 && len(ways[0].Attrs) == 1 {
		t.Attrs = []emit.Doc{flag(ways[0].Attrs[0], ways[0].Values[0])}
		w.directive(ways[0])
	} else {
		t.Attrs = []emit.Doc{slot}
	}
	for _, n := range list {
		if shared.SlotOf(n) == slot {
			t.Kids = append(t.Kids, w.node(n, false)...)
		}
	}
	return t.Doc()
}

// held is what an element comes into a place as, where something around it does so in its stead.
func (w *component) held(x *lower.El, slot string) string {
	_, as := w.place(x, slot)
	if as != "" {
		w.placed[x] = true
	}
	return as
}

// first is the first of the ways of a selector, as it is written there.
func first(selector string) string {
	one, _, _ := strings.Cut(selector, ",")
	return strings.TrimSpace(one)
}
