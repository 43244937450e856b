package expr

import (
	_ "embed"
	"encoding/json"
	"maps"
	"strings"

	"cel.dev/cel-go/common/operators"
)

// Runtime is the TypeScript module that translated expressions import as x.
//
//go:embed runtime.ts
var Runtime string

// Spoken is what translated code speaks of, and must have in scope where it is put.
type Spoken struct {
	Lists                                   map[string]bool // by the id of the model
	Record, Outer, Today, Sources, Controls bool
	Runtime                                 bool // the module x
}

// Add takes in what other code speaks of.
func (s *Spoken) Add(o Spoken) {
	if s.Lists == nil {
		s.Lists = map[string]bool{}
	}
	maps.Copy(s.Lists, o.Lists)
	s.Record, s.Outer, s.Today = s.Record || o.Record, s.Outer || o.Outer, s.Today || o.Today
	s.Sources, s.Controls, s.Runtime = s.Sources || o.Sources, s.Controls || o.Controls, s.Runtime || o.Runtime
}

// TypeScript translates the program, and tells what the code speaks of. list names a
// model's list in the code, by its id.
func (p *Program) TypeScript(list func(id string) string) (string, Spoken) {
	t := translator{list: list, spoken: Spoken{Lists: map[string]bool{}}}
	return t.translate(p.root), t.spoken
}

type translator struct {
	list   func(id string) string
	spoken Spoken
}

// truth writes an operand as a yes or no: a field may be missing, all else is one.
func (t *translator) truth(n *node) string {
	code := t.translate(n)
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

func (t *translator) translate(n *node) string {
	arg := func(i int) string { return t.translate(n.args[i]) }
	call := func(name string) string {
		parts := make([]string, len(n.args))
		for i := range n.args {
			parts[i] = arg(i)
		}
		t.spoken.Runtime = true
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
		switch {
		case n.text == "record":
			t.spoken.Record = true
		case n.text == "outer" && n.typ.Kind == Record:
			t.spoken.Outer = true
		case n.text == "today":
			t.spoken.Today = true
		default:
			t.spoken.Lists[n.text] = true
			return t.list(n.text)
		}
		return n.text
	case "var":
		return n.text
	case ".filter":
		return arg(0) + ".filter(" + n.text + " => " + t.truth(n.args[1]) + ")"
	case "control":
		t.spoken.Controls = true
		return "controls." + n.text
	case "route":
		return "params." + n.text
	case "source":
		t.spoken.Sources = true
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
		return "(" + t.truth(n.args[0]) + " && " + t.truth(n.args[1]) + ")"
	case operators.LogicalOr:
		return "(" + t.truth(n.args[0]) + " || " + t.truth(n.args[1]) + ")"
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

var inBraces = strings.NewReplacer("{", `\u007b`, "}", `\u007d`, "`", `\u0060`)

// tsString writes a text in single quotes, so that it can stand in an attribute
// that is in double quotes, and between the braces of a template.
func tsString(s string) string {
	b, _ := json.Marshal(s)
	inner := string(b[1 : len(b)-1])
	inner = strings.ReplaceAll(inner, `\"`, `\u0022`)
	inner = strings.ReplaceAll(inner, `'`, `\u0027`)
	// Two braces would end the place in a template that the text stands in.
	inner = inBraces.Replace(inner)
	return "'" + inner + "'"
}
