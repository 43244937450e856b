package lower

import (
	"maps"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/expr"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// literal is what a control holds, as code.
func literal(v any) emit.Expr {
	switch v := v.(type) {
	case bool:
		return emit.Name(strconv.FormatBool(v))
	case float64:
		return emit.Name(strconv.FormatFloat(v, 'f', -1, 64))
	case string:
		return emit.Str(v)
	}
	return emit.Str("")
}

func controlOf(name string, c resolve.Control) Control {
	out := Control{Name: name, Type: "string"}
	out.Usual = literal(c.Usual)
	switch c.Usual.(type) {
	case bool:
		out.Type = "boolean"
	case float64:
		out.Type = "number"
	}
	return out
}

// loads notes the sources whose records the component shows, be it by a list made of them.
func (b *builder) loads() {
	if b.c.Kind != screen.ScreenDoc {
		return
	}
	need := map[string]bool{}
	var reach func(id string)
	reach = func(id string) {
		m := b.p.models[id]
		if m == nil || need[id] {
			return
		}
		need[id] = true
		if m.Query != nil {
			reach(m.Query.From)
		}
		for _, n := range m.Needs {
			reach(n)
		}
	}
	for _, l := range b.c.Lists {
		reach(l.Model)
	}
	for _, id := range slices.Sorted(maps.Keys(need)) {
		m := b.p.models[id]
		if m.Source == nil {
			continue
		}
		l := Load{Model: id}
		for _, param := range m.Source.Parameters() {
			if b.lent != nil && b.lent.Kinds[param] != expr.Any {
				l.Params = append(l.Params, param)
			}
		}
		if len(l.Params) > 0 {
			b.c.Loads = append(b.c.Loads, l)
		}
	}
}

// list is a model's list as the component reads it.
func (b *builder) list(model string) emit.Expr {
	if b.alone {
		return emit.Name(emit.Camel(model))
	}
	v, ok := b.lists[model]
	if !ok {
		name := emit.Camel(model)
		if m := b.p.models[model]; m != nil {
			name = m.List
		}
		v = b.c.Names.Take(name)
		b.lists[model] = v
		b.c.Lists = append(b.c.Lists, List{model, v})
	}
	return emit.Read{What: "list", Name: v}
}

func (b *builder) translator(sc scope) *translator {
	if b.compared == nil {
		b.compared = map[string]map[string]bool{}
	}
	return &translator{
		p: b.p, record: sc.record, outer: sc.outer, compared: b.compared, around: sc.items,
		local: func(m *sample.Model, around []string) string { return b.item(m, scope{items: around}) },
	}
}

// expression translates a source in a scope; one that does not compile becomes an empty
// text with the reason noted, so that the rest still builds.
func (b *builder) expression(e *screen.Element, source string, sc scope) translated {
	s := deliver.Scope(b.p.in, sc.model, sc.around)
	if b.lent != nil {
		s = b.lent.In(s)
	}
	s.Route = b.c.Params
	if b.alone {
		return translated{code: emit.Name(harmless(source)), typ: expr.Type{Kind: expr.Text}}
	}
	got, err := b.translator(sc).compile(source, s)
	if err != nil {
		b.p.note(b.doc, e.ID, "an expression is left out: %s", err)
		return translated{code: undefined, maybe: true, typ: expr.Type{Kind: expr.Text}}
	}
	got.code = emit.Map(got.code, func(part emit.Expr) emit.Expr {
		r, ok := part.(emit.Read)
		if !ok {
			return part
		}
		switch r.What {
		case "list":
			if b.p.models[r.Name] != nil {
				return b.list(r.Name)
			}
		case "param":
			b.c.UsesParams = true
		case "status":
			if !slices.Contains(b.c.Statuses, r.Name) {
				b.c.Statuses = append(b.c.Statuses, r.Name)
			}
		case "count":
			return b.count(r.Name)
		case "pages":
			return call("pages", b.count(r.Name), emit.Name(strconv.Itoa(b.lent.Repeats[r.Name].Repeat.Limit)))
		}
		return part
	})
	return got
}

var tamed = strings.NewReplacer("{{", "{ {", "}}", "} }", "`", "'", "<", "‹", "/*", "", "*/", "")

// harmless is an expression as it can stand in code that is only looked at.
func harmless(source string) string {
	return tamed.Replace(strings.Join(strings.Fields(source), " "))
}

// count is how many records of a named repeat pass, whatever page is shown.
func (b *builder) count(name string) emit.Expr {
	e := b.lent.Repeats[name]
	return emit.Member{Of: b.passing(e), Name: "length"}
}

// passing is the list of what passes a repeat that stands in no other: kept under a name
// where it is not the whole list, so that it is filtered once.
func (b *builder) passing(e *screen.Element) emit.Expr {
	if made, ok := b.matching[e]; ok {
		return made
	}
	m := b.p.in.Models[e.Repeat.Model]
	if m == nil {
		return emit.List{}
	}
	b.matching[e] = emit.List{} // what counts itself counts nothing
	code, whole := b.passes(e, m, scope{})
	if !whole {
		code = b.derive("matching "+b.p.models[m.ID].List, b.p.models[m.ID].Type, code)
	}
	b.matching[e] = code
	return code
}

func (b *builder) derive(name, typ string, code emit.Expr) emit.Expr {
	v := b.c.Names.Take(emit.Camel(name))
	b.c.Derived = append(b.c.Derived, Derived{v, typ + "[]", code})
	return emit.Read{What: "derived", Name: v}
}

// item names the record of a repeat.
func (b *builder) item(m *sample.Model, sc scope) string {
	name := "item"
	if b.p.in.Models[m.ID] == m {
		name = emit.Camel(singular(m))
		if known := b.p.models[m.ID]; known != nil && known.List == name {
			name = "entry"
		}
	}
	return b.c.Names.Local(name, sc.items)
}

// passes writes what passes a repeat in its order; whole says that it is the list itself.
func (b *builder) passes(e *screen.Element, m *sample.Model, sc scope) (code emit.Expr, whole bool) {
	r := e.Repeat
	name, ofField := sample.OverField(r.Model)
	switch {
	case !ofField:
		code, whole = b.list(m.ID), true
	case b.p.in.Models[m.ID] == m:
		code = call("findAll", b.list(m.ID), emit.Member{Of: sc.record, Name: name})
	default:
		code = call("items", emit.Member{Of: sc.record, Name: name})
	}
	if r.Where != "" {
		item := b.item(m, sc)
		inner := scope{model: m, around: sc.model, record: emit.Name(item), outer: sc.record, items: append(slices.Clone(sc.items), item)}
		where := b.expression(e, r.Where, inner)
		if where.code != emit.Expr(undefined) {
			code, whole = emit.Call{
				Fn:   emit.Member{Of: code, Name: "filter"},
				Args: []emit.Expr{emit.Arrow{Params: []string{item}, Of: where.condition()}},
			}, false
		}
	}
	if source, computed := sample.Computed(r.Sort); computed {
		code, whole = call("sorted", code, b.expression(e, source, sc).filled()), false
	} else if r.Sort != "" {
		code, whole = call("sorted", code, emit.Str(r.Sort)), false
	}
	return code, whole
}

// rows writes the records that a repeat shows.
func (b *builder) rows(e *screen.Element, m *sample.Model, sc scope) emit.Expr {
	r := e.Repeat
	var code emit.Expr
	_, ofField := sample.OverField(r.Model)
	order, _ := sample.Computed(r.Sort)
	inline := ofField || sc.record != nil && (speaks(r.Where, "outer") || speaks(order, "record") || b.lent == nil)
	if inline {
		code, _ = b.passes(e, m, sc)
	} else {
		code = b.passing(e)
	}
	page := resolve.Identifier(r.Page)
	switch {
	case r.Limit <= 0:
		return code
	case r.Page != "" && b.lent != nil && b.lent.Kinds[page] == expr.Number:
		code = call("pageOf", code, emit.Name(strconv.Itoa(r.Limit)), emit.Read{What: "control", Name: page})
	default:
		code = emit.Call{Fn: emit.Member{Of: code, Name: "slice"}, Args: []emit.Expr{emit.Name("0"), emit.Name(strconv.Itoa(r.Limit))}}
	}
	if inline {
		return code
	}
	return b.derive("shown "+b.p.models[m.ID].List, b.p.models[m.ID].Type, code)
}
