package lower

import (
	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/expr"
	"ubiquant/core/screen"
)

// said says a text by its key, with the values that are put in, where texts have files of their own.
func (b *builder) said(e *screen.Element, prop string, v screen.Value, sc scope) (emit.Expr, bool) {
	t := b.p.in.Texts.Find(b.doc, e.ID, prop, v)
	if t == nil || b.alone {
		return nil, false
	}
	say := emit.Call{Fn: emit.Taken{Module: Texts, Name: "t"}, Args: []emit.Expr{emit.Str(t.Key)}}
	if len(t.Values) == 0 {
		return say, true
	}
	values := emit.Object{}
	for _, value := range t.Values {
		got := b.expression(e, value.Source, sc)
		code := got.safe()
		switch value.Of {
		case expr.Bool:
			code = got.condition()
		case expr.Number:
		default:
			code = got.text()
		}
		values.Fields = append(values.Fields, emit.Field{Key: value.Name, Value: code})
	}
	say.Args = append(say.Args, values)
	return say, true
}

// titleKey is the key of a screen's title; empty where it stands in the code.
func titleKey(in deliver.Input, d *screen.Document) string {
	if t := in.Texts.Find(d, "", "title", screen.Lit(d.Title)); t != nil {
		return t.Key
	}
	return ""
}

// Named is what the title of a route is given as: its key, or the title itself.
func (c *Component) Named() string {
	if c.TitleKey != "" {
		return c.TitleKey
	}
	return c.Title
}
