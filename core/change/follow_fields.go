package change

import (
	"maps"
	"slices"
	"strings"

	"ubiquant/core/data"
	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// renaming are fields of a model, or of a list made of it, that get other names.
type renaming struct {
	of    string
	names map[string]string // old to new
}

// renamings lists what steps rename, with the lists that go along.
func renamings(w *model.Workspace, steps []Step) []renaming {
	var out []renaming
	for _, s := range steps {
		put, ok := s.(*PutModel)
		if !ok || len(put.Renames) == 0 {
			continue
		}
		out = append(out, renaming{put.Model.ID, put.Renames})
		for _, q := range w.Queries {
			next := data.Renamed(q, put.Model.ID, put.Renames)
			names := map[string]string{}
			for i, path := range q.Group {
				if was, is := sample.GroupName(path), sample.GroupName(next.Group[i]); was != is {
					names[was] = is
				}
			}
			if len(names) > 0 {
				out = append(out, renaming{q.ID, names})
			}
		}
	}
	return out
}

// fields carries expressions along with fields that are renamed. What a piece says of a
// record from outside cannot be known, and is found where it no longer holds.
func (f *follower) fields(steps []Step) {
	for _, r := range renamings(f.w, steps) {
		for _, d := range f.w.Docs {
			if !d.Removed {
				f.edit(d, r.in(d, f.w.ModelMap()))
			}
		}
	}
}

// in lists the edits that carry the expressions of a document along.
func (r *renaming) in(d *screen.Document, models map[string]*sample.Model) []screen.Edit {
	var edits []screen.Edit
	data.EachExpression(d.Root, models, func(e *screen.Element, around, source, what string) {
		next := r.source(source, what, around, models)
		if next == source {
			return
		}
		value := screen.Value{Kind: screen.Expr, Text: next}
		switch what {
		case "where", "sort", "over":
			edits = append(edits, repeatWith(e, edits, what, next))
		case "if":
			edits = append(edits, screen.Edit{Op: screen.Show, ID: e.ID, Name: next})
		case "text":
			edits = append(edits, screen.Edit{Op: screen.SetText, ID: e.ID, Value: value})
		default:
			edits = append(edits, screen.Edit{Op: screen.Set, ID: e.ID, Prop: what, Value: value})
		}
	})
	return append(edits, r.actions(d.Root, expr.Scope{Models: models})...)
}

// actions lists the edits that carry presses along which touch a field of their record.
func (r *renaming) actions(e *screen.Element, scope expr.Scope) (edits []screen.Edit) {
	if e.Repeat != nil {
		scope = scope.Enter(e.Repeat.Model)
	}
	if v, ok := e.Prop(kit.Does); ok && scope.Record != nil && scope.Record.ID == r.of {
		list, _ := screen.ParseActions(v.Text)
		changed := false
		for i, a := range list {
			name, value := a.Field()
			if to := r.names[name]; a.Records() && to != "" {
				list[i].To, changed = strings.TrimSpace(to+" "+value), true
			}
		}
		if changed {
			edits = append(edits, screen.Edit{Op: screen.Set, ID: e.ID, Prop: kit.Does, Value: screen.Lit(screen.WriteActions(list))})
		}
	}
	for _, c := range e.Children {
		edits = append(edits, r.actions(c, scope)...)
	}
	return edits
}

// source is an expression, or an order, with the new names; around is the model of the record
// around it.
func (r *renaming) source(source, what, around string, models map[string]*sample.Model) string {
	own := around == r.of
	for _, from := range slices.Sorted(maps.Keys(r.names)) {
		to := r.names[from]
		switch what {
		case "each": // names the model
		case "sort":
			keys := sample.Keys(source)
			if !own || !slices.ContainsFunc(keys, func(k sample.Key) bool { return k.Field == from }) {
				continue
			}
			for i := range keys {
				if keys[i].Field == from {
					keys[i].Field = to
				}
			}
			source = sample.WriteKeys(keys)
		default:
			source = data.FieldOf(r.of, from, models).Rename(source, to, around)
		}
	}
	return source
}

// repeatWith is the edit that changes one part of a repeat; others may have changed
// before it.
func repeatWith(e *screen.Element, before []screen.Edit, what, next string) screen.Edit {
	r := *e.Repeat
	for _, o := range before {
		if o.Op == screen.SetRepeat && o.ID == e.ID {
			r = *o.Repeat
		}
	}
	switch what {
	case "where":
		r.Where = next
	case "sort":
		r.Sort = next
	default:
		r.Model = next
	}
	return screen.Edit{Op: screen.SetRepeat, ID: e.ID, Repeat: &r}
}
