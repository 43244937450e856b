package expr

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/sample"
)

// Computation is a field whose values are computed.
type Computation struct {
	Model   *sample.Model
	Field   *sample.Field
	Program *Program
}

// Computations are the computed fields of models, each after those that it is made of.
// What cannot be computed is left out and told.
func Computations(models map[string]*sample.Model) (list []Computation, problems []error) {
	all := map[string]Computation{}
	var names []string
	for _, id := range slices.Sorted(maps.Keys(models)) {
		m := models[id]
		for i := range m.Fields {
			f := &m.Fields[i]
			if f.Compute == "" {
				continue
			}
			p, err := Compile(f.Compute, Scope{Record: m, Models: models})
			switch {
			case err != nil:
				problems = append(problems, fmt.Errorf("%s of %s: %w", f.Name, m.ID, err))
			case !fits(typeOf(f).Kind, p.Type.Kind):
				problems = append(
					problems,
					fmt.Errorf(
						"%s of %s is %s, and what is computed is %s",
						f.Name,
						m.ID,
						typeOf(f).Kind,
						p.Type.Kind,
					),
				)
			default:
				name := m.ID + "." + f.Name
				all[name] = Computation{m, f, p}
				names = append(names, name)
			}
		}
	}
	state := map[string]int{} // 1 while what it is made of is looked at, 2 once it is in the list
	var visit func(name string) bool
	visit = func(name string) bool {
		if state[name] > 0 {
			return state[name] == 2
		}
		state[name] = 1
		for _, needs := range all[name].Program.fields() {
			if _, computed := all[needs]; computed && !visit(needs) {
				problems = append(
					problems,
					fmt.Errorf(
						"%s is computed of itself, by %s",
						strings.Replace(name, ".", "’s ", 1),
						strings.Replace(needs, ".", "’s ", 1),
					),
				)
				return false
			}
		}
		state[name] = 2
		list = append(list, all[name])
		return true
	}
	for _, name := range names {
		visit(name)
	}
	return list, problems
}

// fields are the fields that a program speaks of, as "model.field"; those of a list that
// is counted as a whole are not among them.
func (p *Program) fields() []string {
	var out []string
	var walk func(n *node)
	walk = func(n *node) {
		if (n.op == "field" || n.op == "has") && n.args[0].typ.Model != nil {
			out = append(out, n.args[0].typ.Model.ID+"."+n.text)
		}
		if n.op == "values" || n.op == "sum" {
			out = append(out, n.args[0].typ.Model.ID+"."+n.args[1].text)
		}
		for _, a := range n.args {
			walk(a)
		}
	}
	walk(p.root)
	return out
}

// CheckComputed says what about the computed fields of models cannot be computed.
func CheckComputed(models map[string]*sample.Model) error {
	if _, problems := Computations(models); len(problems) > 0 {
		return problems[0]
	}
	return nil
}

// Computed are the lists with the values of computed fields in their records. Where one
// cannot be computed it is missing, and told: once for each field, with the first record
// and its reason. The lists given stay as they are.
func Computed(
	models map[string]*sample.Model,
	lists map[string][]sample.Record,
	today string,
) (out map[string][]sample.Record, missing []Uncomputed) {
	list, _ := Computations(models)
	if len(list) == 0 {
		return lists, nil
	}
	out = maps.Clone(lists)
	mine := map[string]bool{}
	for _, c := range list {
		if records := out[c.Model.ID]; len(records) > 0 && !mine[c.Model.ID] {
			mine[c.Model.ID] = true
			fresh := make([]sample.Record, len(records))
			for i, r := range records {
				fresh[i] = maps.Clone(c.Model.Own(r))
			}
			out[c.Model.ID] = fresh
		}
	}
	budget := NewBudget()
	for _, c := range list {
		env := Env{Lists: out, Today: today, Index: &Index{}, Budget: budget}
		told := Uncomputed{Model: c.Model.ID, Field: c.Field.Name}
		for _, r := range out[c.Model.ID] {
			env.Record = r
			v, err := c.Program.Eval(&env)
			if err != nil {
				if told.Records++; told.Why == nil {
					told.Record, told.Why = r.ID(), err
				}
				continue
			}
			if v != nil && v != sample.List("") {
				r[c.Field.Name] = whole(c.Field, v)
			}
		}
		if told.Why != nil {
			missing = append(missing, told)
		}
	}
	return out, missing
}

// whole rounds amounts to minor units, half away from zero.
func whole(f *sample.Field, v any) any {
	if n, ok := v.(float64); ok && f.Type == sample.Money {
		return rounded(n)
	}
	return v
}
