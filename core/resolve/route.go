package resolve

import (
	"slices"

	"cel.dev/cel-go/common/operators"

	"ubiquant/core/expr"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Params are what the parameters of a screen's route are in what is resolved.
func Params(in Input) map[string]string { return newResolver(in).params() }

// ShownBy are the ids of the records that a screen shows by the one parameter of its route,
// in their order; none where it has another number of parameters, or shows none by it.
func ShownBy(in Input) (param string, ids []string) {
	r := newResolver(in)
	if len(r.names.Route) != 1 {
		return "", nil
	}
	param = r.names.Route[0]
	m, order := r.shownBy(param)
	if m == nil {
		return param, nil
	}
	for _, rec := range sample.Sort(r.Set.Records[m.ID], order) {
		ids = append(ids, rec.ID())
	}
	return param, ids
}

// params fills what is not given by the first record that the screen would show by it.
func (r *resolver) params() map[string]string {
	if r.route != nil {
		return r.route
	}
	r.route = map[string]string{}
	for _, name := range r.names.Route {
		if v, ok := r.Params[name]; ok {
			r.route[name] = v
			continue
		}
		if m, order := r.shownBy(name); m != nil {
			if list := sample.Sort(r.Set.Records[m.ID], order); len(list) > 0 {
				r.route[name] = list[0].ID()
			}
		}
	}
	return r.route
}

// shownBy is the model whose record a parameter names, and the order in which the screen
// shows such records: that of the first repeat whose condition speaks of the parameter,
// else of what an expression looks up by it.
func (r *resolver) shownBy(name string) (m *sample.Model, order string) {
	var looked *sample.Model
	var walk func(e *screen.Element, sc scope)
	look := func(source string, sc scope) bool {
		p, err := r.compile(source, sc)
		if err != nil {
			return false
		}
		spoken := false
		var visit func(n expr.Node)
		visit = func(n expr.Node) {
			if n.Op() == "route" && n.Text() == name {
				spoken = true
			}
			args := n.Args()
			if n.Op() == "find" && looked == nil && args[1].Op() == "route" && args[1].Text() == name {
				looked = args[0].Type().Model
			}
			// A field that refers to records of a model says whose id it is.
			if n.Op() == operators.Equals && looked == nil {
				for i, a := range args {
					if b := args[1-i]; a.Op() == "route" && a.Text() == name && b.Op() == "field" && b.Text() != "id" {
						if f, ok := b.Args()[0].Type().Model.Field(b.Text()); ok {
							looked = r.Models[f.Model]
						}
					}
				}
			}
			for _, a := range args {
				visit(a)
			}
		}
		visit(p.Root())
		return spoken
	}
	walk = func(e *screen.Element, sc scope) {
		if m != nil {
			return
		}
		if e.Repeat != nil {
			sc.model, sc.around = sample.Over(e.Repeat.Model, sc.model, r.Models), sc.model
			if e.Repeat.Where != "" && look(e.Repeat.Where, sc) && looked == nil && sc.model != nil {
				m, order = sc.model, e.Repeat.Sort
				return
			}
		}
		if e.Text.IsExpr() {
			look(e.Text.Text, sc)
		}
		if e.Show != "" {
			look(e.Show, sc)
		}
		for _, p := range e.Props {
			if p.Value.IsExpr() {
				look(p.Value.Text, sc)
			}
		}
		for _, c := range e.Children {
			walk(c, sc)
		}
	}
	walk(r.Screen, r.own.base)
	if m == nil {
		m = looked
	}
	if _, computed := sample.Computed(order); computed || slices.Contains(r.names.Route, order) {
		order = ""
	}
	return m, order
}
