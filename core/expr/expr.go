// Package expr compiles and evaluates the expressions that bind screens to
// records: a typed subset of CEL (Common Expression Language). It checks them
// against models and translates them to TypeScript.
//
// What differs from full CEL, on purpose: all numbers are doubles; && and ||
// stop at the first operand that decides; a missing optional field is null, which
// joins to a text as nothing, compares as neither less nor greater, and is an
// error in arithmetic; of the comprehensions there is filter, on lists of records:
// loans.filter(l, l.state == 'out').
package expr

import (
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"sync"

	"cel.dev/cel-go/common"
	"cel.dev/cel-go/common/ast"
	"cel.dev/cel-go/common/operators"
	"cel.dev/cel-go/common/types"
	"cel.dev/cel-go/parser"

	"ubiquant/core/sample"
)

// Kind is the type of an expression's value.
type Kind uint8

const (
	Any Kind = iota
	Null
	Text
	Number
	Bool
	List   // records of Type.Model
	Record // one record of Type.Model
	Texts  // several texts
)

func (k Kind) String() string {
	return [...]string{"anything", "nothing", "a text", "a number", "yes/no", "a list", "a record", "a list of texts"}[k]
}

// Type is a kind, with the model for records and lists, and the currency for amounts.
type Type struct {
	Kind     Kind
	Model    *sample.Model
	Currency string // of money, by its ISO code; empty is the usual one, or no money
}

// Scope is what an expression may speak of.
type Scope struct {
	Record *sample.Model            // of "record"; nil where none is in scope
	Outer  *sample.Model            // of "outer", the record of the repeat around that one
	Models map[string]*sample.Model // lists of records by model id
	// Controls are what "controls" holds: the named controls of the screen.
	Controls map[string]Kind
	// Repeats are the names that "count" and "pages" know: elements that repeat.
	Repeats []string
	// Sources are what "sources" knows: models whose records come from a source.
	Sources []string
	// Route are what "route" knows: the parameters of the screen's route.
	Route []string
}

// Enter is the scope within a repeat, see sample.Over.
func (s Scope) Enter(repeat string) Scope {
	s.Record, s.Outer = sample.Over(repeat, s.Record, s.Models), s.Record
	return s
}

// Env holds the values during evaluation. Today is a date, YYYY-MM-DD.
type Env struct {
	Record   sample.Record
	Outer    sample.Record
	Lists    map[string][]sample.Record
	Today    string
	Controls map[string]any    // what each holds: string, float64 or bool
	Sources  map[string]string // the state of each source; "ready" where it is left out
	Route    map[string]string // what the parameters of the route are
	// Index finds records by their ids; it may be shared by evaluations over the same
	// lists, and is not safe for several at once. Without one, lists are walked.
	Index *Index
	// Count tells how many records a named repeat has, whatever page is shown, and on
	// how many pages they stand.
	Count func(repeat string) (records, pages int, err error)
	// Budget bounds the work; it is shared by what is computed together. Without one only
	// the length of each text is bounded.
	Budget *Budget
	vars   *binding // the records that filters walk over, the innermost first
}

// binding is what a name of a filter stands for.
type binding struct {
	name   string
	record sample.Record
	around *binding
}

func (b *binding) of(name string) sample.Record {
	for ; b != nil; b = b.around {
		if b.name == name {
			return b.record
		}
	}
	return nil
}

// Program is a checked expression.
type Program struct {
	Source string
	Type   Type
	root   *node
	info   *ast.SourceInfo
}

// Error says what is wrong in an expression and where (offset from 0, in characters).
type Error struct {
	Source  string
	Offset  int
	Message string
}

func (e *Error) Error() string {
	return fmt.Sprintf("%s (at %d in `%s`)", e.Message, e.Offset+1, e.Source)
}

type node struct {
	from   ast.Expr // what it was read from; nil of what stands for something else
	op     string   // "lit", "ident", "var", "field", "has", "control", "count", "?:", an operator, or a function
	text   string   // identifier, field
	value  any
	args   []*node
	typ    Type
	offset int
}

var celParser = sync.OnceValues(func() (*parser.Parser, error) {
	return parser.NewParser(
		parser.Macros(parser.HasMacro),
		parser.MaxRecursionDepth(60),
		parser.ExpressionSizeCodePointLimit(4000),
	)
})

// Compile parses and checks an expression in a scope.
func Compile(source string, scope Scope) (*Program, error) {
	p, err := celParser()
	if err != nil {
		return nil, err
	}
	tree, errs := p.Parse(common.NewTextSource(source))
	if len(errs.GetErrors()) > 0 {
		first := errs.GetErrors()[0]
		return nil, &Error{
			source,
			max(0, first.Location.Column()),
			"cannot be read: " + strings.TrimPrefix(first.Message, "Syntax error: "),
		}
	}
	c := compiler{source: source, scope: scope, info: tree.SourceInfo()}
	root, err := c.compile(tree.Expr())
	if err != nil {
		return nil, err
	}
	return &Program{Source: source, Type: root.typ, root: root, info: tree.SourceInfo()}, nil
}

// Speaks tells whether the program speaks of what controls hold, or of what follows
// from it: those change while somebody uses the screen.
func (p *Program) Speaks() bool { return speaks(p.root) }

func speaks(n *node) bool {
	return n.op == "control" || n.op == "count" || n.op == "pages" || slices.ContainsFunc(n.args, speaks)
}

type compiler struct {
	source string
	scope  Scope
	info   *ast.SourceInfo
	vars   map[string]*sample.Model // of the filters around
	names  []Mention                // the fields that were met
	loose  bool                     // what controls and the like are named does not matter
}

func (c *compiler) fail(n *node, format string, args ...any) error {
	return &Error{c.source, n.offset, fmt.Sprintf(format, args...)}
}

func (c *compiler) compile(e ast.Expr) (*node, error) {
	n, err := c.one(e)
	if err != nil && c.loose { // what the rest names counts all the same
		return &node{op: "lit"}, nil
	}
	return n, err
}

func (c *compiler) one(e ast.Expr) (*node, error) {
	n := &node{from: e}
	if loc := c.info.GetStartLocation(e.ID()); loc != nil {
		n.offset = max(0, loc.Column())
	}
	switch e.Kind() {
	case ast.LiteralKind:
		n.op = "lit"
		switch v := e.AsLiteral().(type) {
		case types.String:
			n.value, n.typ = string(v), Type{Kind: Text}
		case types.Int:
			n.value, n.typ = float64(v), Type{Kind: Number}
		case types.Uint:
			n.value, n.typ = float64(v), Type{Kind: Number}
		case types.Double:
			n.value, n.typ = float64(v), Type{Kind: Number}
		case types.Bool:
			n.value, n.typ = bool(v), Type{Kind: Bool}
		case types.Null:
			n.typ = Type{Kind: Null}
		default:
			return nil, c.fail(n, "this kind of literal is not used here")
		}
		return n, nil
	case ast.IdentKind:
		n.op, n.text = "ident", e.AsIdent()
		if m := c.vars[n.text]; m != nil {
			n.op, n.typ = "var", Type{Kind: Record, Model: m}
			return n, nil
		}
		switch m := c.scope.Models[n.text]; {
		case n.text == "record" && c.scope.Record != nil:
			n.typ = Type{Kind: Record, Model: c.scope.Record}
		case n.text == "record":
			return nil, c.fail(n, "there is no record here; repeat the element, or one above it, over a model")
		case n.text == "outer" && c.scope.Outer != nil:
			n.typ = Type{Kind: Record, Model: c.scope.Outer}
		case n.text == "outer" && m == nil:
			return nil, c.fail(n, "there is no record around this one; outer is that of a repeat around a repeat")
		case n.text == "today":
			n.typ = Type{Kind: Text}
		case m != nil:
			n.typ = Type{Kind: List, Model: m}
		default:
			return nil, c.fail(
				n,
				"%q is not known here; known: record, controls, count, pages, route, today and the models' names",
				n.text,
			)
		}
		return n, nil
	case ast.SelectKind:
		sel := e.AsSelect()
		if of := sel.Operand(); of.Kind() == ast.IdentKind && c.scope.Models[of.AsIdent()] == nil {
			switch of.AsIdent() {
			case "controls", "count", "pages", "sources", "route":
				return c.named(n, of.AsIdent(), sel.FieldName())
			}
		}
		of, err := c.compile(sel.Operand())
		if err != nil {
			return nil, err
		}
		n.op, n.text, n.args = "field", sel.FieldName(), []*node{of}
		if of.typ.Kind != Record {
			return nil, c.fail(n, "only a record has fields, this is %s", of.typ.Kind)
		}
		n.typ, err = c.fieldType(n, of.typ.Model)
		if err == nil {
			c.mention(of.typ.Model, n.text, n.offset, sel.IsTestOnly())
		}
		if err == nil && sel.IsTestOnly() {
			n.op, n.typ = "has", Type{Kind: Bool}
		}
		return n, err
	case ast.CallKind:
		call := e.AsCall()
		n.op = call.FunctionName()
		if slices.Contains(Aspects, n.op) && !call.IsMemberFunction() {
			return c.meaning(n, call.Args())
		}
		if n.op == "filter" && call.IsMemberFunction() {
			return c.filter(n, call.Target(), call.Args())
		}
		args := call.Args()
		if call.IsMemberFunction() {
			args = append([]ast.Expr{call.Target()}, args...)
			n.op = "." + n.op
		}
		for _, a := range args {
			arg, err := c.compile(a)
			if err != nil {
				return nil, err
			}
			n.args = append(n.args, arg)
		}
		return n, c.checkCall(n)
	}
	return nil, c.fail(n, "lists, maps and comprehensions are not used here")
}

// filter is the records of a list for which something holds; the first value names the record
// that it is asked of.
func (c *compiler) filter(n *node, target ast.Expr, args []ast.Expr) (*node, error) {
	of, err := c.compile(target)
	if err != nil {
		return nil, err
	}
	if of.typ.Kind != List || of.typ.Model == nil {
		return nil, c.fail(n, "filter is asked of a list of records, this is %s", of.typ.Kind)
	}
	if len(args) != 2 || args[0].Kind() != ast.IdentKind {
		return nil, c.fail(n, "filter takes a name for a record and what must hold of it, as in %s.filter(r, r.id != '')", of.typ.Model.ID)
	}
	n.op, n.text, n.typ = ".filter", args[0].AsIdent(), of.typ
	switch name := n.text; {
	case slices.Contains(words, name) || c.scope.Models[name] != nil:
		return nil, c.fail(n, "%q means something already; give the record that filter asks another name", name)
	case c.vars[name] != nil:
		return nil, c.fail(n, "%q is the record of the filter around; give this one another name", name)
	}
	around := c.vars
	c.vars = maps.Clone(around)
	if c.vars == nil {
		c.vars = map[string]*sample.Model{}
	}
	c.vars[n.text] = of.typ.Model
	must, err := c.compile(args[1])
	c.vars = around
	if err != nil {
		return nil, err
	}
	if !fits(Bool, must.typ.Kind) {
		return nil, c.fail(must, "this is %s, not yes/no", must.typ.Kind)
	}
	n.args = []*node{of, must}
	return n, nil
}

// words are the names that mean the same in every expression.
var words = []string{"record", "outer", "today", "controls", "count", "pages", "sources", "route"}

// Mention is a field of a model that an expression names: where its name begins, in characters.
type Mention struct {
	Model, Field string
	At           int
}

// Mentions lists the fields that an expression names, by the records that they are asked of; ok is
// false where it cannot be read. What else in it is not known here does not matter.
func Mentions(source string, scope Scope) (list []Mention, ok bool) {
	p, err := celParser()
	if err != nil {
		return nil, false
	}
	tree, errs := p.Parse(common.NewTextSource(source))
	if len(errs.GetErrors()) > 0 {
		return nil, false
	}
	c := compiler{source: source, scope: scope, info: tree.SourceInfo(), loose: true}
	if _, err := c.compile(tree.Expr()); err != nil {
		return nil, false
	}
	return c.names, true
}

// mention notes that a field is named from some character on; in has(…), which begins there, before
// what closes it.
func (c *compiler) mention(m *sample.Model, field string, from int, has bool) {
	if !c.loose {
		return
	}
	letters := []rune(c.source)
	at := max(0, from)
	skip := func(what string) {
		for at < len(letters) && strings.ContainsRune(what, letters[at]) {
			at++
		}
	}
	if depth := 0; has {
		for ; at < len(letters); at++ {
			if letters[at] == '(' {
				depth++
			} else if letters[at] == ')' {
				if depth--; depth == 0 {
					break
				}
			}
		}
		for at > 0 && at <= len(letters) && letters[at-1] == ' ' {
			at--
		}
		at -= len([]rune(field))
	} else {
		skip(". '\"")
	}
	if at >= 0 && at < len(letters) && strings.HasPrefix(string(letters[at:]), field) {
		c.names = append(c.names, Mention{m.ID, field, at})
	}
}

// Aspects are what a meaning says of a choice, each a function of a field.
var Aspects = []string{"words", "tone", "icon"}

// meaning writes a field's table of meanings out, so that it is computed and translated
// as any other choice between values.
func (c *compiler) meaning(n *node, args []ast.Expr) (*node, error) {
	if len(args) != 1 {
		return nil, c.fail(n, "%s takes one field of a record", n.op)
	}
	of, err := c.compile(args[0])
	if err != nil {
		return nil, err
	}
	if of.op != "field" || of.args[0].typ.Kind != Record {
		return nil, c.fail(n, "%s takes a field of a record, as in %s(record.state)", n.op, n.op)
	}
	m := of.args[0].typ.Model
	f, ok := m.Field(of.text)
	if !ok || len(f.Meanings) == 0 {
		return nil, c.fail(
			n,
			"nothing is said of what the values of %s mean; say it at the field of %s",
			of.text,
			m.Name,
		)
	}
	lit := func(s string) *node { return &node{op: "lit", value: s, typ: Type{Kind: Text}, offset: n.offset} }
	out := of
	if other, _ := f.Meaning(""); n.op != "words" || other.Words != "" {
		out = lit(other.Of(n.op))
	}
	for _, means := range slices.Backward(f.Meanings) {
		says := means.Of(n.op)
		if means.Value == "" || n.op == "words" && says == "" {
			continue
		}
		is := &node{
			op:     operators.Equals,
			args:   []*node{of, lit(means.Value)},
			typ:    Type{Kind: Bool},
			offset: n.offset,
		}
		out = &node{
			op:     operators.Conditional,
			args:   []*node{is, lit(says), out},
			typ:    Type{Kind: Text},
			offset: n.offset,
		}
	}
	return out, nil
}

// named is what a control holds, or how many records a repeat has.
func (c *compiler) named(n *node, what, name string) (*node, error) {
	n.text = name
	if c.loose {
		n.op = what
		return n, nil
	}
	if what == "controls" {
		kind, ok := c.scope.Controls[name]
		if !ok {
			return nil, c.fail(
				n,
				"no control here is named %q%s",
				name,
				known(slices.Sorted(maps.Keys(c.scope.Controls))),
			)
		}
		n.op, n.typ = "control", Type{Kind: kind}
		return n, nil
	}
	if what == "sources" {
		if !slices.Contains(c.scope.Sources, name) {
			return nil, c.fail(n, "the records of %q come from no source%s", name, known(c.scope.Sources))
		}
		n.op, n.typ = "source", Type{Kind: Text}
		return n, nil
	}
	if what == "route" {
		if !slices.Contains(c.scope.Route, name) {
			return nil, c.fail(n, "the route of this screen has no parameter %q%s", name, known(c.scope.Route))
		}
		n.op, n.typ = "route", Type{Kind: Text}
		return n, nil
	}
	if !slices.Contains(c.scope.Repeats, name) {
		return nil, c.fail(n, "nothing that repeats is named %q%s", name, known(c.scope.Repeats))
	}
	n.op, n.typ = what, Type{Kind: Number}
	return n, nil
}

func known(names []string) string {
	if len(names) == 0 {
		return ""
	}
	return "; named are " + strings.Join(names, ", ")
}

func (c *compiler) fieldType(n *node, m *sample.Model) (Type, error) {
	if n.text == "id" {
		return Type{Kind: Text}, nil
	}
	f, ok := m.Field(n.text)
	if !ok {
		names := make([]string, len(m.Fields))
		for i, f := range m.Fields {
			names[i] = f.Name
		}
		return Type{}, c.fail(n, "%s has no field %q; it has %s", m.Name, n.text, strings.Join(names, ", "))
	}
	return typeOf(f), nil
}

// typeOf is the type of a field's values.
func typeOf(f *sample.Field) Type {
	switch f.Type {
	case sample.Number:
		return Type{Kind: Number}
	case sample.Money:
		return Type{Kind: Number, Currency: f.Currency}
	case sample.YesNo:
		return Type{Kind: Bool}
	case sample.Texts, sample.Refs:
		return Type{Kind: Texts}
	}
	return Type{Kind: Text}
}

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

// Index finds the records of lists by their ids. The lists must not be added to while it
// is in use.
type Index struct {
	lists map[listed]map[string]sample.Record
}

// listed is a list, by where it begins and how long it is.
type listed struct {
	first *sample.Record
	len   int
}

// walked is up to how many records a list is walked instead.
const walked = 24

// find is the first record of a list with an id, nil where there is none.
func (ix *Index) find(list []sample.Record, id string) sample.Record {
	if ix == nil || len(list) <= walked {
		for _, r := range list {
			if r.ID() == id {
				return r
			}
		}
		return nil
	}
	key := listed{&list[0], len(list)}
	by := ix.lists[key]
	if by == nil {
		by = make(map[string]sample.Record, len(list))
		for _, r := range list {
			if _, taken := by[r.ID()]; !taken {
				by[r.ID()] = r
			}
		}
		if ix.lists == nil {
			ix.lists = map[listed]map[string]sample.Record{}
		}
		ix.lists[key] = by
	}
	return by[id]
}

func evalPlural(a []any) (any, error) {
	word := a[2]
	if num(a[0]) == 1 {
		word = a[1]
	}
	return sample.Plain(a[0]) + " " + str(word), nil
}
