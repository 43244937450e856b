package lower

import (
	"maps"
	"slices"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/kit"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// pieceProps are the settings that a piece takes.
func (b *builder) pieceProps() {
	for _, p := range b.props {
		el, _ := b.doc.Root.Find(p.Element)
		if el == nil || slices.Contains(slices.Collect(maps.Values(b.lends)), propName(p.Name)) {
			continue // it is given and told as what a control holds
		}
		out := Prop{Name: propName(p.Name), Type: b.propType(p, el)}
		v, _ := el.Prop(p.Prop)
		switch p.Prop {
		case "":
			v = el.Text
		case screen.ShowProp:
			v = screen.FlagValue(true)
		case screen.KindProp:
			v = screen.Lit(el.Type)
		}
		if v.Kind != screen.None && v.Kind != screen.Expr {
			prop := &kit.Prop{}
			if def, ok := b.p.in.Cat.Component(el.Type); ok {
				if found, ok := def.Prop(p.Prop); ok {
					prop = found
				}
			}
			out.Default = b.value(el, v, prop, scope{})
		}
		if !slices.ContainsFunc(b.c.Props, func(o Prop) bool { return o.Name == out.Name }) {
			b.c.Props = append(b.c.Props, out)
		}
	}
}

func (b *builder) propType(p screen.PieceProp, el *screen.Element) string {
	switch p.Prop {
	case screen.ShowProp:
		return "boolean"
	case "":
		return "string | number"
	case screen.KindProp:
		return "string"
	}
	def, ok := b.p.in.Cat.Component(el.Type)
	if !ok {
		return "string"
	}
	prop, ok := def.Prop(p.Prop)
	if !ok {
		return "string"
	}
	switch prop.Type {
	case kit.Bool:
		return "boolean"
	case kit.Number:
		return "number | string"
	case kit.Enum:
		if !prop.Open && !prop.Numbers && prop.Attr == "" {
			return union(prop.Values)
		}
		return "string"
	}
	if prop.JSON || prop.Attr == "" && def.Export != "" && prop.Shape != "" {
		return "string"
	}
	return "string | number"
}

// reached lists the settings by which uses reach elements inside a piece by their names.
func reached(in deliver.Input, piece *screen.Document) []screen.PieceProp {
	met := map[string]bool{}
	var out []screen.PieceProp
	look := func(d *screen.Document) {
		d.Root.Walk(func(e, _ *screen.Element) bool {
			if e.Type != screen.PiecePrefix+piece.ID {
				return true
			}
			for _, p := range e.Props {
				of, prop, reaches := strings.Cut(p.Name, ".")
				if !reaches || met[p.Name] {
					continue
				}
				if def, ok := in.Cat.Component(e.Type); ok {
					if _, known := def.Prop(p.Name); !known { // it is left out where it is used, and told
						continue
					}
				}
				met[p.Name] = true
				piece.Root.Walk(func(inner, _ *screen.Element) bool {
					if inner.Name == of {
						out = append(out, screen.PieceProp{
							Name: p.Name, Element: inner.ID, Prop: resolve.InnerProp(in.Cat, inner, prop),
						})
					}
					return true
				})
			}
			return true
		})
	}
	for _, d := range in.Screens {
		look(d)
	}
	for _, list := range []map[string]*screen.Document{in.Shells, in.Pieces} {
		for _, id := range slices.Sorted(maps.Keys(list)) {
			look(list[id])
		}
	}
	slices.SortFunc(out, func(a, b screen.PieceProp) int { return strings.Compare(a.Name, b.Name) })
	return out
}
