package expr

import (
	"math"
	"slices"
	"strings"

	"cel.dev/cel-go/common/operators"

	"ubiquant/core/sample"
)

// Eval computes the value: nil, string, float64, bool, sample.List, sample.Record or
// []sample.Record. Errors speak of the record, not of the program.
func (p *Program) Eval(env *Env) (any, error) { return p.eval(p.root, env) }

func (p *Program) eval(n *node, env *Env) (any, error) {
	if err := env.Budget.step(0); err != nil {
		return nil, &Error{p.Source, n.offset, err.Error()}
	}
	switch n.op {
	case "lit":
		return n.value, nil
	case "ident":
		switch {
		case n.text == "record":
			return env.Record, nil
		case n.text == "outer" && n.typ.Kind == Record:
			return env.Outer, nil
		case n.text == "today":
			return env.Today, nil
		}
		return env.Lists[n.text], nil
	case "var":
		return env.vars.of(n.text), nil
	case ".filter":
		return p.filtered(n, env)
	case "control":
		return env.Controls[n.text], nil
	case "source":
		if s := env.Sources[n.text]; s != "" {
			return s, nil
		}
		return sample.Ready, nil
	case "route":
		return env.Route[n.text], nil
	case "count", "pages":
		if env.Count == nil {
			return 0.0, nil
		}
		records, pages, err := env.Count(n.text)
		if err != nil {
			return nil, &Error{p.Source, n.offset, err.Error()}
		}
		if n.op == "pages" {
			return float64(pages), nil
		}
		return float64(records), nil
	case "field", "has":
		of, err := p.eval(n.args[0], env)
		if err != nil {
			return nil, err
		}
		rec, _ := of.(sample.Record)
		v, ok := rec[n.text]
		if n.op == "has" {
			return ok, nil
		}
		return v, nil
	case operators.Conditional:
		cond, err := p.truth(n.args[0], env)
		if err != nil {
			return nil, err
		}
		if cond {
			return p.eval(n.args[1], env)
		}
		return p.eval(n.args[2], env)
	case operators.LogicalAnd, operators.LogicalOr:
		left, err := p.truth(n.args[0], env)
		if err != nil || left == (n.op == operators.LogicalOr) {
			return left, err
		}
		return p.truth(n.args[1], env)
	case operators.LogicalNot:
		v, err := p.truth(n.args[0], env)
		return !v, err
	}
	args := make([]any, len(n.args))
	for i, a := range n.args {
		v, err := p.eval(a, env)
		if err != nil {
			return nil, err
		}
		args[i] = v
	}
	v, err := p.call(n, args, env)
	if err == nil {
		if over := env.Budget.made(v); over != nil {
			return nil, &Error{p.Source, n.offset, over.Error()}
		}
	}
	return v, err
}

// filtered are the records of a list for which the condition holds, in their order.
func (p *Program) filtered(n *node, env *Env) (any, error) {
	of, err := p.eval(n.args[0], env)
	if err != nil {
		return nil, err
	}
	list, _ := of.([]sample.Record)
	at := &binding{name: n.text, around: env.vars}
	inner := *env
	inner.vars = at
	out := []sample.Record{}
	for _, r := range list {
		at.record = r
		holds, err := p.truth(n.args[1], &inner)
		if err != nil {
			return nil, err
		}
		if holds {
			out = append(out, r)
		}
	}
	return out, nil
}

// call applies an operator or a function to its values.
func (p *Program) call(n *node, args []any, env *Env) (any, error) {
	switch n.op {
	case operators.Equals:
		return equal(args[0], args[1]), nil
	case operators.NotEquals:
		return !equal(args[0], args[1]), nil
	case operators.Less, operators.LessEquals, operators.Greater, operators.GreaterEquals:
		return order(n.op, args[0], args[1]), nil
	case operators.Add:
		if n.typ.Kind == Text {
			return str(args[0]) + str(args[1]), nil
		}
		return p.arithmetic(n, args)
	case operators.Subtract, operators.Multiply, operators.Divide, operators.Modulo, operators.Negate:
		return p.arithmetic(n, args)
	case "find":
		list, _ := args[0].([]sample.Record)
		return env.Index.find(list, str(args[1])), nil
	case "values":
		list, _ := args[0].([]sample.Record)
		if err := env.Budget.step(len(list)); err != nil {
			return nil, &Error{p.Source, n.offset, err.Error()}
		}
		var out []string
		seen := map[string]bool{}
		for _, r := range list {
			v, _ := r[n.args[1].text].(string)
			if v = strings.TrimSpace(v); v != "" && !seen[v] {
				seen[v] = true
				out = append(out, v)
			}
		}
		return sample.ListOf(out...), nil
	case "sum":
		list, _ := args[0].([]sample.Record)
		if err := env.Budget.step(len(list)); err != nil {
			return nil, &Error{p.Source, n.offset, err.Error()}
		}
		total := 0.0
		for _, r := range list {
			total += num(r[n.args[1].text]) // what is missing adds nothing
		}
		return total, nil
	case "findAll":
		list, _ := args[0].([]sample.Record)
		ids, _ := args[1].(sample.List)
		if err := env.Budget.step(len(ids.Items())); err != nil {
			return nil, &Error{p.Source, n.offset, err.Error()}
		}
		var out []sample.Record
		for _, id := range ids.Items() {
			if r := env.Index.find(list, id); r != nil {
				out = append(out, r)
			}
		}
		return out, nil
	}
	return functions[n.op].eval(args)
}

func (p *Program) truth(n *node, env *Env) (bool, error) {
	v, err := p.eval(n, env)
	if err != nil {
		return false, err
	}
	b, _ := v.(bool) // a missing yes/no field counts as no
	return b, nil
}

func (p *Program) arithmetic(n *node, args []any) (any, error) {
	nums := make([]float64, len(args))
	for i, a := range args {
		f, ok := a.(float64)
		if !ok {
			return nil, &Error{p.Source, n.args[i].offset, "the number is missing in this record"}
		}
		nums[i] = f
	}
	switch n.op {
	case operators.Negate:
		return -nums[0], nil
	case operators.Add:
		return nums[0] + nums[1], nil
	case operators.Subtract:
		return nums[0] - nums[1], nil
	case operators.Multiply:
		return nums[0] * nums[1], nil
	}
	if nums[1] == 0 {
		return nil, &Error{p.Source, n.offset, "division by zero"}
	}
	if n.op == operators.Modulo {
		return math.Mod(nums[0], nums[1]), nil
	}
	return nums[0] / nums[1], nil
}

func equal(a, b any) bool {
	switch a.(type) {
	case nil, string, float64, bool, sample.List:
		switch b.(type) {
		case nil, string, float64, bool, sample.List:
			return a == b
		}
	}
	return false
}

func order(op string, a, b any) bool {
	c := 0
	switch x := a.(type) {
	case float64:
		y, ok := b.(float64)
		if !ok {
			return false
		}
		switch {
		case x < y:
			c = -1
		case x > y:
			c = 1
		}
	case string:
		y, ok := b.(string)
		if !ok {
			return false
		}
		c = strings.Compare(x, y)
	default:
		return false
	}
	switch op {
	case operators.Less:
		return c < 0
	case operators.LessEquals:
		return c <= 0
	case operators.Greater:
		return c > 0
	}
	return c >= 0
}

func str(v any) string  { s, _ := v.(string); return s }
func num(v any) float64 { f, _ := v.(float64); return f }

func evalSize(a []any) (any, error) {
	switch x := a[0].(type) {
	case string:
		return float64(len([]rune(x))), nil
	case []sample.Record:
		return float64(len(x)), nil
	case sample.List:
		return float64(len(x.Items())), nil
	}
	return 0.0, nil
}

func evalJoined(a []any) (any, error) {
	l, _ := a[0].(sample.List)
	return strings.Join(l.Items(), str(a[1])), nil
}

func evalContains(a []any) (any, error) {
	if l, ok := a[0].(sample.List); ok {
		return slices.Contains(l.Items(), str(a[1])), nil
	}
	return strings.Contains(str(a[0]), str(a[1])), nil
}

func evalPlural(a []any) (any, error) {
	word := a[2]
	if num(a[0]) == 1 {
		word = a[1]
	}
	return sample.Plain(a[0]) + " " + str(word), nil
}
