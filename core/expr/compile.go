package expr

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"cel.dev/cel-go/common"
	"cel.dev/cel-go/common/ast"
	"cel.dev/cel-go/common/operators"
	"cel.dev/cel-go/common/types"

	"ubiquant/core/sample"
)

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
