package lower

import (
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"cel.dev/cel-go/common/operators"

	"ubiquant/core/deliver/emit"
	"ubiquant/core/expr"
	"ubiquant/core/sample"
)

// Values is the module with what expressions call; a target knows where it stands.
const Values = "@values"

// Texts is the module that says texts by their keys; a target knows where it stands.
const Texts = "@texts"

func value(name string) emit.Expr { return emit.Taken{Module: Values, Name: name} }

func call(name string, args ...emit.Expr) emit.Expr { return emit.Call{Fn: value(name), Args: args} }

var undefined = emit.Name("undefined")

// translated is an expression as code, with what is known of its value.
type translated struct {
	code    emit.Expr
	typ     expr.Type
	maybe   bool // it may be missing
	throws  bool // it may fail for a record
	plain   bool // a text that compares as its characters do: a date, or ASCII
	whole   bool // a number that is written as JavaScript writes it
	choices []string
}

// translator writes expressions of one place as code.
type translator struct {
	p             *program
	record, outer emit.Expr
	compared      map[string]map[string]bool // literals that something was compared with, by its code
	// local is a name for the record that a filter walks over, and around those that are taken.
	local  func(m *sample.Model, around []string) string
	around []string
	vars   map[string]emit.Expr // what the names of filters are called in the code
}

// filter writes the records of a list for which something holds.
func (t *translator) filter(n expr.Node) translated {
	of := t.of(n.Args()[0])
	name, around, vars, compared := t.local(n.Type().Model, t.around), t.around, t.vars, t.compared
	t.compared = nil // what was compared is of other records
	t.around, t.vars = append(slices.Clone(around), name), maps.Clone(vars)
	if t.vars == nil {
		t.vars = map[string]emit.Expr{}
	}
	t.vars[n.Text()] = emit.Name(name)
	must := t.of(n.Args()[1])
	t.around, t.vars, t.compared = around, vars, compared
	return translated{
		typ: n.Type(), throws: of.throws || must.throws,
		code: emit.Call{
			Fn:   emit.Member{Of: of.code, Name: "filter"},
			Args: []emit.Expr{emit.Arrow{Params: []string{name}, Of: must.truth()}},
		},
	}
}

func (t *translator) compile(source string, scope expr.Scope) (translated, error) {
	p, err := expr.Compile(source, scope)
	if err != nil {
		return translated{}, err
	}
	return t.of(p.Root()), nil
}

var comparisons = map[string][2]string{
	operators.Less: {"<", "lt"}, operators.LessEquals: {"<=", "le"},
	operators.Greater: {">", "gt"}, operators.GreaterEquals: {">=", "ge"},
}

var arithmetic = map[string][2]string{
	operators.Add: {"+", "add"}, operators.Subtract: {"-", "sub"}, operators.Multiply: {"*", "mul"},
	operators.Divide: {"", "div"}, operators.Modulo: {"", "mod"},
}

var ascii = regexp.MustCompile(`^[\x20-\x7e]*$`)

func (t *translator) of(n expr.Node) translated {
	out := translated{typ: n.Type()}
	args := func() []translated {
		list := make([]translated, len(n.Args()))
		for i, a := range n.Args() {
			list[i] = t.of(a)
			out.throws = out.throws || list[i].throws
		}
		return list
	}
	switch n.Op() {
	case "lit":
		switch v := n.Value().(type) {
		case nil:
			out.code, out.maybe = undefined, true
		case string:
			out.code, out.plain = emit.Str(v), ascii.MatchString(v)
		case float64:
			out.code = emit.Name(strconv.FormatFloat(v, 'f', -1, 64))
		case bool:
			out.code = emit.Name(strconv.FormatBool(v))
		}
		return out
	case "ident":
		switch {
		case n.Text() == "record" && out.typ.Kind == expr.Record:
			out.code = t.record
		case n.Text() == "outer" && out.typ.Kind == expr.Record:
			out.code = t.outer
		case n.Text() == "today" && out.typ.Kind == expr.Text:
			out.code, out.plain = call("today"), true
		default:
			out.code = emit.Read{What: "list", Name: n.Text()}
		}
		return out
	case "var":
		out.code = t.vars[n.Text()]
		return out
	case ".filter":
		return t.filter(n)
	case "control":
		out.code = emit.Read{What: "control", Name: n.Text()}
		out.whole = true
		return out
	case "source":
		out.code, out.plain = emit.Read{What: "status", Name: n.Text()}, true
		return out
	case "route":
		out.code = emit.Read{What: "param", Name: n.Text()}
		return out
	case "count", "pages":
		out.code, out.whole = emit.Read{What: n.Op(), Name: n.Text()}, true
		return out
	case "field", "has":
		of := t.of(n.Args()[0])
		model := n.Args()[0].Type().Model
		out.throws = of.throws
		out.maybe = of.maybe || t.p.optional(model, n.Text())
		out.code = emit.Member{Of: of.code, Name: n.Text(), Maybe: of.maybe}
		if f, ok := model.Field(n.Text()); ok {
			out.plain = f.Type == sample.Date || f.Type == sample.Time
			out.choices = t.p.choicesOf(model, f)
		}
		if n.Op() == "has" {
			return translated{code: emit.Binary{Op: "!==", L: out.code, R: undefined}, typ: n.Type(), throws: of.throws}
		}
		return out
	case operators.Conditional:
		a := args()
		out.code = emit.Cond{If: a[0].code, Then: a[1].code, Else: a[2].code}
		out.maybe, out.plain = a[1].maybe || a[2].maybe, a[1].plain && a[2].plain
		return out
	case operators.LogicalAnd, operators.LogicalOr:
		a := args()
		op := "&&"
		if n.Op() == operators.LogicalOr {
			op = "||"
		}
		out.code = emit.Binary{Op: op, L: a[0].truth(), R: a[1].truth()}
		return out
	case operators.LogicalNot:
		out.code = emit.Unary{Op: "!", Of: args()[0].code}
		return out
	case operators.Equals, operators.NotEquals:
		a := args()
		out.code = t.equal(a[0], a[1], n.Op() == operators.NotEquals)
		return out
	case operators.Negate:
		a := args()
		if a[0].maybe {
			out.code, out.throws = call("neg", a[0].code), true
			return out
		}
		out.code = emit.Unary{Op: "-", Of: a[0].code}
		return out
	}
	if ops, ok := comparisons[n.Op()]; ok {
		a := args()
		if !a[0].maybe && !a[1].maybe && (a[0].typ.Kind == expr.Number || a[0].plain && a[1].plain) {
			out.code = emit.Binary{Op: ops[0], L: a[0].code, R: a[1].code}
		} else {
			out.code = call(ops[1], a[0].code, a[1].code)
		}
		return out
	}
	if ops, ok := arithmetic[n.Op()]; ok {
		a := args()
		if n.Op() == operators.Add && out.typ.Kind == expr.Text {
			out.code = emit.Template{Parts: append(a[0].parts(), a[1].parts()...)}
			if parts := out.code.(emit.Template).Parts; !emit.Any(out.code, func(e emit.Expr) bool {
				_, text := e.(emit.Str)
				_, whole := e.(emit.Template)
				return !text && !whole
			}) {
				var b strings.Builder
				for _, p := range parts {
					b.WriteString(string(p.(emit.Str)))
				}
				out.code = emit.Str(b.String())
			}
			out.plain = a[0].plain && a[1].plain
			return out
		}
		if ops[0] == "" || a[0].maybe || a[1].maybe {
			out.code, out.throws = call(ops[1], a[0].code, a[1].code), true
			return out
		}
		out.code = emit.Binary{Op: ops[0], L: a[0].code, R: a[1].code}
		return out
	}
	return t.function(n, out, args())
}

// function writes a call: as the language says it where nothing can be missing.
func (t *translator) function(n expr.Node, out translated, a []translated) translated {
	codes := make([]emit.Expr, len(a))
	for i := range a {
		codes[i] = a[i].code
	}
	method := func(of translated, name string, args ...emit.Expr) emit.Expr {
		return emit.Call{Fn: emit.Member{Of: of.filled(), Name: name}, Args: args}
	}
	name := strings.TrimPrefix(n.Op(), ".")
	switch name {
	case "lower":
		out.code, out.plain = method(a[0], "toLowerCase"), a[0].plain
		return out
	case "upper":
		out.code, out.plain = method(a[0], "toUpperCase"), a[0].plain
		return out
	case "startsWith", "endsWith":
		out.code = method(a[0], name, a[1].filled())
		return out
	case "contains":
		if a[0].typ.Kind == expr.Texts && a[0].maybe {
			out.code = call("contains", codes...)
			return out
		}
		out.code = method(a[0], "includes", a[1].filled())
		return out
	case "size":
		out.whole = true
		if k := a[0].typ.Kind; (k == expr.List || k == expr.Texts) && !a[0].maybe {
			out.code = emit.Member{Of: a[0].code, Name: "length"}
			return out
		}
	case "find":
		out.maybe = true
	case "text", "string":
		if a[0].typ.Kind == expr.Text && !a[0].maybe {
			return a[0]
		}
		name = "text"
	case "plural":
		out.plain = a[1].plain && a[2].plain
	}
	out.code = call(name, codes...)
	return out
}

// truth is a yes or no, where it may be missing.
func (t translated) truth() emit.Expr {
	if t.maybe {
		return emit.Binary{Op: "===", L: t.code, R: emit.Name("true")}
	}
	return t.code
}

// filled is a text that is there: one that is missing is empty.
func (t translated) filled() emit.Expr {
	if t.code == emit.Expr(undefined) {
		return emit.Str("")
	}
	if t.maybe {
		return emit.Binary{Op: "??", L: t.code, R: emit.Str("")}
	}
	return t.code
}

// parts are those of a text that is put together.
func (t translated) parts() []emit.Expr {
	if tpl, ok := t.code.(emit.Template); ok {
		return tpl.Parts
	}
	return []emit.Expr{t.filled()}
}

// equal compares two values. A choice is one of few texts to the compiler: what is
// compared with a text that is none of them, or with one again where the first comparison
// has settled it, is compared as any text.
func (t *translator) equal(a, b translated, not bool) emit.Expr {
	op := "==="
	if not {
		op = "!=="
	}
	scalar := func(k expr.Kind) bool {
		return k == expr.Text || k == expr.Number || k == expr.Bool || k == expr.Null
	}
	if !scalar(a.typ.Kind) || !scalar(b.typ.Kind) {
		is := call("eq", a.code, b.code)
		if not {
			return emit.Unary{Op: "!", Of: is}
		}
		return is
	}
	if _, ok := a.code.(emit.Str); ok {
		a, b = b, a
	}
	if _, both := a.code.(emit.Str); both { // two texts that are known
		a.code = emit.As{Of: a.code, Type: "string"}
	}
	if _, number := a.code.(emit.Name); number && a.typ.Kind != expr.Null && b.typ.Kind != expr.Null {
		if _, known := b.code.(emit.Name); known { // two numbers, or yes and no
			return call("eq", a.code, b.code)
		}
	}
	if lit, ok := b.code.(emit.Str); ok {
		key := emit.Plain.Inline(a.code)
		if len(a.choices) > 0 && (t.compared[key][string(lit)] || !contains(a.choices, string(lit))) {
			a.code = emit.As{Of: a.code, Type: "string"}
		}
		if t.compared == nil {
			t.compared = map[string]map[string]bool{}
		}
		if t.compared[key] == nil {
			t.compared[key] = map[string]bool{}
		}
		t.compared[key][string(lit)] = true
	} else if len(a.choices) > 0 && len(b.choices) > 0 {
		a.code = emit.As{Of: a.code, Type: "string"}
	}
	return emit.Binary{Op: op, L: a.code, R: b.code}
}

func contains(list []string, s string) bool {
	for _, have := range list {
		if have == s {
			return true
		}
	}
	return false
}

// text is a value as words on the page. What is missing shows as nothing in all targets.
func (t translated) text() emit.Expr {
	if t.typ.Kind == expr.Text || t.typ.Kind == expr.Number && t.whole {
		return t.safe()
	}
	return translated{code: call("text", t.code), throws: t.throws}.safe()
}

// safe is the value, or nothing where computing it fails for a record.
func (t translated) safe() emit.Expr {
	if !t.throws {
		return t.code
	}
	return call("maybe", emit.Arrow{Of: t.code})
}

// condition is a yes or no that never fails.
func (t translated) condition() emit.Expr {
	if !t.throws {
		return t.code
	}
	return emit.Binary{Op: "===", L: t.safe(), R: emit.Name("true")}
}
