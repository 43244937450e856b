package expr

import (
	_ "embed"
	"encoding/json"
	"strings"

	"cel.dev/cel-go/common/operators"
)

// Runtime is the TypeScript module that translated expressions import as x.
//
//go:embed runtime.ts
var Runtime string

// TypeScript translates the program. Names are as in the expression: record,
// today and the models' lists must be in scope where the text is put.
func (p *Program) TypeScript() string { return translate(p.root) }

// truth writes an operand as a yes or no: a field may be missing, all else is one.
func truth(n *node) string {
	code := translate(n)
	switch n.op {
	case "field", operators.Conditional:
		return "!!" + code
	case "lit":
		if n.value == nil {
			return "!!" + code
		}
	}
	return code
}

var tsOperators = map[string]string{
	operators.Less: "lt", operators.LessEquals: "le", operators.Greater: "gt", operators.GreaterEquals: "ge",
	operators.Subtract: "sub", operators.Multiply: "mul", operators.Divide: "div", operators.Modulo: "mod", operators.Negate: "neg",
	operators.Equals: "eq", operators.NotEquals: "ne",
}

func translate(n *node) string {
	arg := func(i int) string { return translate(n.args[i]) }
	call := func(name string) string {
		parts := make([]string, len(n.args))
		for i := range n.args {
			parts[i] = arg(i)
		}
		return "x." + name + "(" + strings.Join(parts, ", ") + ")"
	}
	switch n.op {
	case "lit":
		if s, ok := n.value.(string); ok {
			return tsString(s)
		}
		b, _ := json.Marshal(n.value) // numbers, booleans and null are the same in both
		return string(b)
	case "ident":
		return n.text
	case "control":
		return "controls." + n.text
	case "source":
		return "sources." + n.text
	case "count", "pages":
		return n.op + "." + n.text
	case "field":
		return arg(0) + "?." + n.text
	case "has":
		return "(" + arg(0) + "?." + n.text + " != null)"
	case operators.Conditional:
		return "(" + arg(0) + " ? " + arg(1) + " : " + arg(2) + ")"
	case operators.LogicalAnd:
		return "(" + truth(n.args[0]) + " && " + truth(n.args[1]) + ")"
	case operators.LogicalOr:
		return "(" + truth(n.args[0]) + " || " + truth(n.args[1]) + ")"
	case operators.LogicalNot:
		return "!" + arg(0)
	case operators.Add:
		if n.typ.Kind == Text {
			return call("join")
		}
		return call("add")
	}
	if name, ok := tsOperators[n.op]; ok {
		return call(name)
	}
	return call(strings.TrimPrefix(n.op, "."))
}

// tsString writes a text in single quotes, so that it can stand in an attribute
// that is in double quotes.
func tsString(s string) string {
	b, _ := json.Marshal(s)
	inner := string(b[1 : len(b)-1])
	inner = strings.ReplaceAll(inner, `\"`, `\u0022`)
	inner = strings.ReplaceAll(inner, `'`, `\u0027`)
	return "'" + inner + "'"
}
