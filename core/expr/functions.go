package expr

import (
	"slices"
	"strings"

	"cel.dev/cel-go/common/operators"

	"ubiquant/core/sample"
)

// function describes a function: argument kinds (Any takes all) and result.
type function struct {
	args   []Kind
	result Kind
	eval   func(args []any) (any, error)
}

// functions is the one table of what expressions can call. Each row has its
// counterpart of the same name in the TypeScript runtime.
var functions = map[string]function{
	"size":     {[]Kind{Any}, Number, evalSize},
	"text":     {[]Kind{Any}, Text, func(a []any) (any, error) { return sample.Plain(a[0]), nil }},
	"string":   {[]Kind{Any}, Text, func(a []any) (any, error) { return sample.Plain(a[0]), nil }},
	"lower":    {[]Kind{Text}, Text, func(a []any) (any, error) { return strings.ToLower(str(a[0])), nil }},
	"upper":    {[]Kind{Text}, Text, func(a []any) (any, error) { return strings.ToUpper(str(a[0])), nil }},
	"initials": {[]Kind{Text}, Text, func(a []any) (any, error) { return Initials(str(a[0])), nil }},
	"money":    {[]Kind{Number}, Text, func(a []any) (any, error) { return FormatMoney(a[0], ""), nil }},
	"moneyIn": {
		[]Kind{Number, Text},
		Text,
		func(a []any) (any, error) { return FormatMoney(a[0], str(a[1])), nil },
	},
	"joined":  {[]Kind{Texts, Text}, Text, evalJoined},
	"findAll": {[]Kind{List, Texts}, List, nil},
	"values":  {[]Kind{List, Text}, Texts, nil},
	"sum":     {[]Kind{List, Text}, Number, nil},
	"number": {
		[]Kind{Number, Number},
		Text,
		func(a []any) (any, error) { return FormatNumber(a[0], int(num(a[1]))), nil },
	},
	"day": {[]Kind{Text}, Text, func(a []any) (any, error) { return FormatDay(str(a[0])), nil }},
	"upTo": {
		[]Kind{Number, Number},
		Text,
		func(a []any) (any, error) { return FormatUpTo(a[0], int(num(a[1]))), nil },
	},
	"shortDay":  {[]Kind{Text}, Text, func(a []any) (any, error) { return FormatShortDay(str(a[0])), nil }},
	"weekday":   {[]Kind{Text}, Text, func(a []any) (any, error) { return FormatWeekday(str(a[0])), nil }},
	"month":     {[]Kind{Text}, Text, func(a []any) (any, error) { return FormatMonth(str(a[0])), nil }},
	"plural":    {[]Kind{Number, Text, Text}, Text, evalPlural},
	"form":      {[]Kind{Number, Text}, Text, func(a []any) (any, error) { return PluralForm(a[0], str(a[1])), nil }},
	"find":      {[]Kind{List, Text}, Record, nil},
	".contains": {[]Kind{Text, Text}, Bool, evalContains},
	".startsWith": {
		[]Kind{Text, Text},
		Bool,
		func(a []any) (any, error) { return strings.HasPrefix(str(a[0]), str(a[1])), nil },
	},
	".endsWith": {
		[]Kind{Text, Text},
		Bool,
		func(a []any) (any, error) { return strings.HasSuffix(str(a[0]), str(a[1])), nil },
	},
}

// Functions lists the names of all functions, for completion.
func Functions() []string {
	names := make([]string, 0, len(functions))
	for n := range functions {
		names = append(names, strings.TrimPrefix(n, "."))
	}
	slices.Sort(names)
	return names
}

func fits(want, got Kind) bool { return want == Any || got == Any || got == Null || want == got }

func (c *compiler) checkCall(n *node) error {
	kind := func(i int) Kind { return n.args[i].typ.Kind }
	result := func(k Kind) error { n.typ = Type{Kind: k}; return nil }
	switch n.op {
	case operators.Conditional:
		if !fits(Bool, kind(0)) {
			return c.fail(n.args[0], "the condition is %s, not yes/no", kind(0))
		}
		n.typ = n.args[1].typ
		if kind(1) == Null {
			n.typ = n.args[2].typ
		} else if kind(2) != Null && kind(1) != kind(2) {
			return c.fail(n.args[2], "both branches must be alike: %s and %s", kind(1), kind(2))
		}
		return nil
	case operators.LogicalAnd, operators.LogicalOr, operators.LogicalNot:
		for _, a := range n.args {
			if !fits(Bool, a.typ.Kind) {
				return c.fail(a, "this is %s, not yes/no", a.typ.Kind)
			}
		}
		return result(Bool)
	case operators.Equals, operators.NotEquals:
		if !fits(kind(0), kind(1)) && kind(0) != Null {
			return c.fail(n, "%s is never equal to %s", kind(0), kind(1))
		}
		return result(Bool)
	case operators.Less, operators.LessEquals, operators.Greater, operators.GreaterEquals:
		if kind(0) != kind(1) || (kind(0) != Number && kind(0) != Text) {
			return c.fail(n, "%s cannot be compared with %s", kind(0), kind(1))
		}
		return result(Bool)
	case operators.Add:
		switch {
		case kind(0) == Text && kind(1) == Text:
			return result(Text)
		case kind(0) == Number && kind(1) == Number:
			return c.amount(n)
		}
		return c.fail(n, "%s and %s cannot be added; turn both into text with text(…)", kind(0), kind(1))
	case operators.Subtract, operators.Multiply, operators.Divide, operators.Modulo, operators.Negate:
		for _, a := range n.args {
			if a.typ.Kind != Number {
				return c.fail(a, "this is %s, not a number", a.typ.Kind)
			}
		}
		return c.amount(n)
	}
	f, ok := functions[n.op]
	if !ok {
		return c.fail(n, "there is no function %q", strings.Trim(n.op, "._"))
	}
	if n.op == ".contains" && len(n.args) == 2 && kind(0) == Texts {
		f.args = []Kind{Texts, Text}
	}
	if len(n.args) != len(f.args) {
		return c.fail(n, "%s takes %d values, here are %d", strings.TrimPrefix(n.op, "."), len(f.args), len(n.args))
	}
	for i, want := range f.args {
		if !fits(want, kind(i)) {
			return c.fail(n.args[i], "%s takes %s here, not %s", strings.TrimPrefix(n.op, "."), want, kind(i))
		}
	}
	n.typ = Type{Kind: f.result}
	if len(f.args) > 0 && f.args[0] == List && n.args[0].typ.Model == nil {
		return c.fail(n.args[0], "%s takes a list of records here, not %s", n.op, kind(0))
	}
	switch n.op {
	case "find", "findAll":
		n.typ.Model = n.args[0].typ.Model
	case "values", "sum":
		of := n.args[1]
		name, literal := of.value.(string)
		if of.op != "lit" || !literal {
			return c.fail(of, "%[1]s takes the name of a field here, as in %[1]s(%[2]s, '%[3]s')", n.op, n.args[0].typ.Model.ID, example(n.args[0].typ.Model, n.op))
		}
		of.text = name
		typ, err := c.fieldType(of, n.args[0].typ.Model)
		if err != nil {
			return err
		}
		c.mention(n.args[0].typ.Model, name, of.offset, false)
		if n.op == "sum" {
			if typ.Kind != Number {
				return c.fail(of, "%s is %s; sum takes a field of numbers", name, typ.Kind)
			}
			n.typ.Currency = typ.Currency
		} else if typ.Kind != Text {
			return c.fail(of, "%s is %s; values takes a field of texts", name, typ.Kind)
		}
	case "money":
		// An amount is written in the currency of the field that it comes from.
		if in := n.args[0].typ.Currency; in != "" {
			n.op, n.args = "moneyIn", append(
				n.args,
				&node{op: "lit", value: in, typ: Type{Kind: Text}, offset: n.offset},
			)
		}
	}
	return nil
}

// example is a field of a model that a function takes.
func example(m *sample.Model, function string) string {
	want := Text
	if function == "sum" {
		want = Number
	}
	for i := range m.Fields {
		if typeOf(&m.Fields[i]).Kind == want {
			return m.Fields[i].Name
		}
	}
	return "name"
}

// amount is the type of what is calculated: in the currency of what it is made of, and of
// one only.
func (c *compiler) amount(n *node) error {
	n.typ = Type{Kind: Number}
	for _, a := range n.args {
		switch in := a.typ.Currency; {
		case in == "" || in == n.typ.Currency:
		case n.typ.Currency != "":
			return c.fail(n, "amounts in %s and %s cannot be calculated together", n.typ.Currency, in)
		default:
			n.typ.Currency = in
		}
	}
	return nil
}
