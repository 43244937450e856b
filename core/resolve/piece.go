package resolve

import (
	"strings"

	"ubiquant/core/kit"
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
