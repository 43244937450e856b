package source

import (
	"fmt"
	"slices"

	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// On puts what was read on one kit, as a workspace holds it: elements that the kit does not have
// become plain, props that it does not have are left out. What changed is listed, each sort once.
func (r *Read) On(k *kit.Kit) (lost []string) {
	said := map[string]bool{}
	say := func(format string, args ...any) {
		if s := fmt.Sprintf(format, args...); !said[s] {
			said[s] = true
			lost = append(lost, s)
		}
	}
	pieces := map[string]bool{}
	for _, d := range r.W.Docs {
		if d.Kind == screen.PieceDoc {
			pieces[screen.PiecePrefix+d.ID] = true
		}
	}
	var on func(e *screen.Element)
	on = func(e *screen.Element) {
		def, ok := k.Component(e.Type)
		switch {
		case pieces[e.Type]:
		case !ok:
			say("not of %s, and plain there: %s", k.Name, e.Type)
			e.Type = kit.OtherPrefix + e.Type
			e.Props = nil
		default:
			e.Props = slices.DeleteFunc(slices.Clone(e.Props), func(p screen.Prop) bool {
				_, has := def.Prop(p.Name)
				if !has {
					say("not of %s, and left out there: %s of %s", k.Name, p.Name, e.Type)
				}
				return !has
			})
		}
		for _, c := range e.Children {
			on(c)
		}
	}
	routes := map[string]bool{}
	for _, d := range r.W.Docs {
		on(d.Root)
		if d.Kind != screen.ScreenDoc {
			continue
		}
		// A workspace knows every screen by a route of its own.
		if model.CheckRoute(d.Route) != nil || routes[d.Route] {
			say("the route %q of %s: here it stands at /%s", d.Route, d.Title, d.ID)
			d.Route = "/" + d.ID
		}
		routes[d.Route] = true
	}
	r.W.Kit.Name, r.W.Kit.Version = k.Name, k.Version
	slices.Sort(lost)
	return lost
}
