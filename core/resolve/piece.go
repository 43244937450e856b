package resolve

import (
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Overrides are the settings that a use puts on the inner elements of a piece, by
// their ids: first those that the piece offers as props, then those that reach an
// element by its name.
func Overrides(piece *screen.Document, use *screen.Element, cat kit.Catalog) map[string][]screen.Prop {
	if len(use.Props) == 0 {
		return nil
	}
	out := map[string][]screen.Prop{}
	for _, p := range piece.Props {
		if v, ok := use.Prop(p.Name); ok {
			out[p.Element] = append(out[p.Element], screen.Prop{Name: p.Prop, Value: v})
		}
	}
	for _, p := range use.Props {
		name, prop, reaches := strings.Cut(p.Name, ".")
		if !reaches {
			continue
		}
		piece.Root.Walk(func(e, _ *screen.Element) bool {
			if e.Name == name {
				out[e.ID] = append(out[e.ID], screen.Prop{Name: InnerProp(cat, e, prop), Value: p.Value})
			}
			return true
		})
	}
	return out
}

// InnerProp says what the last part of an override's name stands for.
func InnerProp(cat kit.Catalog, e *screen.Element, prop string) string {
	if c, ok := cat.Component(e.Type); ok {
		if _, has := c.Prop(prop); has {
			return prop
		}
	}
	switch prop {
	case "text":
		return ""
	case "shown":
		return screen.ShowProp
	case "kind":
		return screen.KindProp
	}
	return prop
}

// Around are the models of the record that stands around each piece where it is used first, by the
// piece's id: documents are gone over in their order.
func Around(docs []*screen.Document, pieces map[string]*screen.Document, models map[string]*sample.Model) map[string]*sample.Model {
	out, met := map[string]*sample.Model{}, map[string]bool{}
	var walk func(e *screen.Element, m *sample.Model)
	walk = func(e *screen.Element, m *sample.Model) {
		if e.Repeat != nil {
			m = sample.Over(e.Repeat.Model, m, models)
		}
		if id, ok := strings.CutPrefix(e.Type, screen.PiecePrefix); ok && m != nil && models[m.ID] == m {
			if piece := pieces[id]; piece != nil && !met[id+" "+m.ID] {
				met[id+" "+m.ID] = true
				if out[id] == nil {
					out[id] = m
				}
				walk(piece.Root, m)
			}
		}
		for _, c := range e.Children {
			walk(c, m)
		}
	}
	for _, d := range docs {
		walk(d.Root, nil)
	}
	return out
}
