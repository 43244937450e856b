package api

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/data"
	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

type expressionIn struct {
	Kind    string `path:"kind"`
	ID      string `path:"id"`
	Element string `query:"element"`
	Prop    string `query:"prop"` // that it is for; "text", "if" and "where" stand for themselves
	Source  string `query:"source"`
	At      int    `query:"at"` // where the cursor stands, in bytes
	State   string `query:"state"`
	Set     string `query:"set"`
	Record  int    `query:"record"` // the how-manieth record to try it on, from 0
}

// metExpression is an expression that other screens use for the same.
type metExpression struct {
	Source  string   `json:"source"`
	Screens []string `json:"screens"`
}

type expressionOut struct {
	Model       string            `json:"model,omitempty"` // of the record in scope
	Record      string            `json:"record,omitempty"`
	Records     int               `json:"records"` // to step through
	Type        string            `json:"type,omitempty"`
	Result      string            `json:"result"`
	Problem     string            `json:"problem,omitempty"` // why it is none, or does not fit what it is for
	Completions []expr.Completion `json:"completions"`
	Met         []metExpression   `json:"met"`
}

// expression looks at an expression while it is typed: what may stand next, what comes
// of it for a record, and how others say the same.
func (s *Server) expression(c *Call, in *expressionIn) (*expressionOut, error) {
	out := &expressionOut{Completions: []expr.Completion{}, Met: []metExpression{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		d, ok := l.W.Doc(in.Kind + ":" + in.ID)
		if !ok {
			return missing(in.Kind + ":" + in.ID)
		}
		root, _ := screen.In(d, in.State, l.Cat)
		path := root.Path(in.Element)
		if len(path) == 0 {
			return missing("element " + in.Element)
		}
		el := path[len(path)-1]
		scope := expr.Scope{Models: l.Models(), Sources: l.W.Sourced()}
		if d.Kind != screen.ShellDoc {
			scope = resolve.NamesOf(root, l.Cat).On(d.Route).In(scope)
		}
		var repeats []string
		for _, e := range path { // the nearest repeat's
			if e.Repeat != nil && (e != el || in.Prop != "each" && in.Prop != "sort") {
				repeats = append(repeats, e.Repeat.Model)
			}
		}
		set := l.SampleSet(in.Set)
		if set == nil {
			set = &sample.Set{}
		}
		env := &expr.Env{Lists: set.Records, Today: l.Today}
		env.Controls, env.Count = resolve.Lent(
			resolve.Input{Screen: root, Catalog: l.Cat, Models: scope.Models, Set: set, Today: l.Today},
		)
		env.Route = resolve.Params(resolve.Input{Screen: root, Route: d.Route, Catalog: l.Cat, Models: scope.Models, Set: set, Today: l.Today})
		for i, repeat := range repeats {
			list := sample.Shown(repeat, env.Record, scope.Record, set.Records)
			scope, env.Outer, env.Record = scope.Enter(repeat), env.Record, nil
			at := in.Record
			if i < len(repeats)-1 { // of what stands around, one that holds something
				at = max(0, slices.IndexFunc(list, func(r sample.Record) bool {
					return len(sample.Shown(repeats[i+1], r, scope.Record, set.Records)) > 0
				}))
			}
			if len(list) > 0 {
				env.Record = list[((at%len(list))+len(list))%len(list)]
			}
			out.Records = len(list)
		}
		if scope.Record != nil {
			out.Model = scope.Record.ID
			if env.Record != nil {
				out.Record = nameOf(l, scope.Record.ID, env.Record)
			}
		}
		source := strings.TrimLeft(in.Source, " ")
		at := in.At - (len(in.Source) - len(source))
		out.Completions = append(out.Completions, expr.Complete(source, at, scope)...)
		def, _ := l.Cat.Component(el.Type)
		var prop *kit.Prop
		if def != nil {
			prop, _ = def.Prop(in.Prop)
		}
		out.Met = append(out.Met, met(l, el, in.Prop, scope.Record)...)
		if prop != nil && len(prop.Values) > 0 && scope.Record != nil && strings.TrimSpace(source) == "" {
			otherwise := prop.Default
			if otherwise == "" {
				otherwise = prop.Values[0]
			}
			for i := range scope.Record.Fields {
				f := &scope.Record.Fields[i]
				if f.Type != sample.Choice {
					continue
				}
				if means := len(f.Meanings) > 0 && slices.ContainsFunc(f.Meanings, func(m sample.Meaning) bool { return slices.Contains(prop.Values, m.Tone) }); means {
					tone := "tone of " + f.Name
					out.Completions = slices.DeleteFunc(
						out.Completions,
						func(c expr.Completion) bool { return c.Text == tone },
					)
					out.Completions = slices.Insert(
						out.Completions,
						0,
						expr.Completion{Text: tone, Put: "tone(record." + f.Name + ")", Why: "its meaning"},
					)
					continue
				}
				values := map[string]string{}
				for _, choice := range f.Choices {
					values[choice] = otherwise
				}
				out.Completions = append(
					[]expr.Completion{
						{
							Text: "by " + f.Name,
							Put:  expr.Mapping(f, values, otherwise),
							Why:  "each choice its own, and what nobody knows " + otherwise,
						},
					},
					out.Completions...)
			}
		}
		if strings.TrimSpace(source) == "" {
			return nil
		}
		p, err := expr.Compile(source, scope)
		if err != nil {
			out.Problem = err.Error()
			return nil
		}
		out.Type = p.Type.Kind.String()
		out.Problem = misfit(in.Prop, prop, p.Type.Kind)
		if scope.Record != nil && env.Record == nil {
			return nil // nothing to try it on
		}
		v, err := p.Eval(env)
		switch {
		case err != nil:
			out.Problem = err.Error()
		case v == nil:
			out.Result = "nothing"
		default:
			out.Result = sample.Plain(v)
			if prop != nil && len(prop.Values) > 0 && !slices.Contains(prop.Values, out.Result) {
				out.Problem = fmt.Sprintf("“%s” is none of %s", out.Result, strings.Join(prop.Values, ", "))
			}
		}
		return nil
	})
	return out, err
}

// misfit says why what comes of an expression cannot be what it is for.
func misfit(what string, prop *kit.Prop, kind expr.Kind) string {
	want := expr.Any
	switch {
	case what == "if" || what == "where":
		want = expr.Bool
	case prop == nil:
	case prop.Type == kit.Bool:
		want = expr.Bool
	case prop.Type == kit.Number:
		want = expr.Number
	}
	switch {
	case kind == expr.List || kind == expr.Record:
		return "this is " + kind.String() + ", which nothing can show; choose a field of it"
	case want != expr.Any && kind != want && kind != expr.Any && kind != expr.Null:
		return "this is " + kind.String() + ", wanted is " + want.String()
	}
	return ""
}

// met lists how the screens compute the same setting of the same component from records
// of the same model, the most frequent first.
func met(l *live.Live, el *screen.Element, prop string, model *sample.Model) []metExpression {
	if model == nil {
		return nil
	}
	var out []metExpression
	for _, d := range l.Index.Docs() {
		data.EachExpression(d.Root, l.Models(), func(e *screen.Element, around, source, what string) {
			if around != model.ID || e.Type != el.Type || what != prop || e.ID == el.ID {
				return
			}
			i := slices.IndexFunc(out, func(m metExpression) bool { return m.Source == source })
			if i < 0 {
				out = append(out, metExpression{source, nil})
				i = len(out) - 1
			}
			if !slices.Contains(out[i].Screens, d.Title) {
				out[i].Screens = append(out[i].Screens, d.Title)
			}
		})
	}
	slices.SortStableFunc(out, func(a, b metExpression) int { return len(b.Screens) - len(a.Screens) })
	return out[:min(len(out), 4)]
}
