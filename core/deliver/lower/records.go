package lower

import (
	"maps"
	"slices"
	"strconv"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// touches is what an action does to the record that it stands for: in which list, and what its
// fields become. why says what keeps it from being done.
func (b *builder) touches(a screen.Action, sc scope) (list string, set emit.Expr, why string) {
	if sc.model == nil || sc.record == nil {
		return "", nil, "it stands for no record"
	}
	m := b.p.models[sc.model.ID]
	if m == nil || m.Query != nil {
		return "", nil, "the list is made of others"
	}
	if a.Verb == screen.TakeAway {
		return m.List, nil, ""
	}
	f, value, err := resolve.Touched(a, sc.model)
	if err != nil {
		return "", nil, err.Error()
	}
	is := literal(value)
	switch {
	case a.Verb == screen.TickField:
		is = emit.Unary{Op: "!", Of: emit.Member{Of: sc.record, Name: f.Name}}
	case f.Type == sample.Date && value == "today":
		is = call("today")
	}
	return m.List, emit.Object{Fields: []emit.Field{{Key: f.Name, Value: is}}}, ""
}

// adds is what a form, or a button among fields, adds to a list: Set says by which property each control holds its field,
// Value which fields are to be read as something else than a text.
func (b *builder) adds(act Act, e *screen.Element) (Act, string) {
	m := b.p.models[act.To]
	model := b.p.in.Models[act.To]
	if m == nil || model == nil || m.Query != nil {
		return act, "there is no such list"
	}
	fields := resolve.Fields(b.doc.Root, e, model, b.p.in.Cat)
	if len(fields) == 0 {
		return act, "no control around it is named as a field of " + model.Name
	}
	holds, kinds := emit.Object{}, emit.Object{}
	for _, name := range slices.Sorted(maps.Keys(fields)) {
		def, _ := b.p.in.Cat.Component(fields[name].Type)
		if _, has := fields[name].Prop("name"); !has {
			b.p.note(b.doc, fields[name].ID, "what it holds is not added: a %s has no name that code finds it by; own code can add it", def.Title)
			continue
		}
		holds.Fields = append(holds.Fields, emit.Field{Key: name, Value: emit.Str(def.Holds)})
		f, _ := model.Field(name)
		kind := ""
		switch f.Type {
		case sample.Number:
			kind = "number"
		case sample.YesNo:
			kind = "yes/no"
		case sample.Money:
			kind = "10^" + strconv.Itoa(sample.CurrencyOf(f.Currency).Decimals)
		}
		if kind != "" {
			kinds.Fields = append(kinds.Fields, emit.Field{Key: name, Value: emit.Str(kind)})
		}
	}
	if len(holds.Fields) == 0 {
		return act, "code finds none of the controls by a name"
	}
	act.List, act.Set, act.Value = m.List, holds, kinds
	return act, ""
}
