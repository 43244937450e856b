// Package own makes rules of what a team writes: a selector picks elements, an expression of
// CEL, the Common Expression Language (https://cel.dev), says what must hold of each.
//
// An expression speaks of props (those set and the kit's defaults, by name), text,
// component, name, slot, index (among its siblings, from 0), parent (component, name, slot, text, props) and screen
// (kind, id, title, route, owner). count("selector") is how many elements inside are picked,
// beside("selector") how many siblings, within("selector") whether something around is, and
// words(text) how many words there are.
//
// What is computed in a screen or in code is not known: where that decides, the rule says
// nothing. What an expression may cost is bounded; one that costs more, or fails, says so at
// the element.
package own

import (
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"cel.dev/cel-go/cel"
	"cel.dev/cel-go/common"
	"cel.dev/cel-go/common/ast"
	"cel.dev/cel-go/common/types"
	"cel.dev/cel-go/common/types/ref"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// Limits of an expression: its length in bytes, and what evaluating it once may cost.
const (
	maxLength = 2000
	maxCost   = 20_000
	maxWithin = 5_000 // elements that one count looks at
)

// documents are what a rule may be about beside elements.
var documents = map[string]screen.DocKind{
	"screen": screen.ScreenDoc, "piece": screen.PieceDoc, "shell": screen.ShellDoc,
}

// Compile makes a rule of what a team wrote. Errors say what of it is wrong.
func Compile(o *audit.OwnRule) (*audit.Rule, error) {
	if !screen.ValidName(o.ID) {
		return nil, fmt.Errorf("the id %q is none; accepted: %s", o.ID, screen.NameForm)
	}
	if strings.TrimSpace(o.Title) == "" || strings.TrimSpace(o.Message) == "" {
		return nil, errors.New("a rule has a title, and a message for what does not keep it")
	}
	if o.Severity.Rank() == 0 {
		return nil, fmt.Errorf("the severity %q is not known; accepted: note, warning, error", o.Severity)
	}
	r := &audit.Rule{
		ID: o.ID, Title: o.Title, Severity: o.Severity, Code: true, Purpose: o.Message, Why: o.Why,
	}
	program, err := compile(o.Must)
	if err != nil {
		return nil, err
	}
	kind, ofDoc := documents[o.Of]
	switch {
	case ofDoc && o.Where != "":
		return nil, fmt.Errorf("a rule of a %s picks no elements; accepted: no selector", o.Of)
	case ofDoc:
		r.Element = func(p *audit.Pass, n *audit.Node) {
			if n.Parent == nil && p.Doc.Kind == kind {
				judge(p, n, o, program)
			}
		}
		return r, nil
	case o.Of != "" && o.Of != "element":
		return nil, fmt.Errorf("a rule of a %q is not known; accepted: element, screen, piece, shell", o.Of)
	}
	sel, err := screen.ParseSelector(o.Where)
	if err != nil {
		return nil, fmt.Errorf("the selector: %w", err)
	}
	types := sel.Types()
	r.Looks = func(c *kit.Component) bool { return types == nil || slices.Contains(types, c.Tag) }
	r.Element = func(p *audit.Pass, n *audit.Node) {
		if sel.With(p.Cat).Picks(pathOf(n)) {
			judge(p, n, o, program)
		}
	}
	return r, nil
}

// judge reports an element of which the expression does not hold.
func judge(p *audit.Pass, n *audit.Node, o *audit.OwnRule, program cel.Program) {
	holds, known, err := eval(p, n, program)
	switch {
	case err != nil:
		p.Report(n, "", fmt.Sprintf("“%s” cannot be told here: %s", o.Title, err), "")
	case known && !holds:
		if def, ok := repairs(n, o); ok {
			p.Report(n, o.Prop, o.Message, "Set "+o.Prop+" to "+o.Value, screen.SetTo(def, n.Element, o.Value))
			return
		}
		p.Report(n, o.Prop, o.Message, "")
	}
}

// repairs finds what a rule's repair sets, where the element has it.
func repairs(n *audit.Node, o *audit.OwnRule) (*kit.Prop, bool) {
	if o.Prop == "" || n.Def == nil {
		return nil, false
	}
	def, ok := n.Def.Prop(o.Prop)
	if !ok {
		return nil, false
	}
	v, set := n.Prop(o.Prop)
	return def, !set || v.Kind == screen.Literal
}

func pathOf(n *audit.Node) []*screen.Element {
	var path []*screen.Element
	for at := n; at != nil; at = at.Parent {
		path = append(path, at.Element)
	}
	slices.Reverse(path)
	return path
}

var elementType = cel.ObjectType("ubiquant.Element")

// self is the element that an expression is about, for the functions that look around it.
type self struct {
	node *audit.Node
	cat  kit.Catalog
}

func (s self) ConvertToNative(reflect.Type) (any, error) {
	return nil, errors.New("an element is no value")
}
func (s self) ConvertToType(ref.Type) ref.Val { return types.NewErr("an element is no value") }
func (s self) Equal(o ref.Val) ref.Val        { return types.Bool(o == ref.Val(s)) }
func (s self) Type() ref.Type                 { return elementType }
func (s self) Value() any                     { return s.node }

var environment = func() *cel.Env {
	looks := func(name string, out *cel.Type, fn func(s self, sel *screen.Selector) (ref.Val, error)) cel.EnvOption {
		return cel.Function(name, cel.MemberOverload(
			"element_"+name, []*cel.Type{elementType, cel.StringType}, out,
			cel.BinaryBinding(func(of, with ref.Val) ref.Val {
				s, ok := of.(self)
				text, isText := with.Value().(string)
				if !ok || !isText {
					return types.NewErr("%s takes a selector", name)
				}
				sel, err := screen.ParseSelector(text)
				if err != nil {
					return types.NewErr("%s: %s", name, err)
				}
				v, err := fn(s, sel.With(s.cat))
				if err != nil {
					return types.WrapErr(err)
				}
				return v
			}),
		))
	}
	short := func(name string) cel.Macro {
		return cel.GlobalMacro(name, 1, func(m cel.MacroExprFactory, _ ast.Expr, args []ast.Expr) (ast.Expr, *common.Error) {
			return m.NewMemberCall(name, m.NewIdent("self"), args[0]), nil
		})
	}
	env, err := cel.NewEnv(
		cel.Variable("self", elementType),
		cel.Variable("props", cel.MapType(cel.StringType, cel.DynType)),
		cel.Variable("parent", cel.MapType(cel.StringType, cel.DynType)),
		cel.Variable("screen", cel.MapType(cel.StringType, cel.StringType)),
		cel.Variable("text", cel.StringType),
		cel.Variable("component", cel.StringType),
		cel.Variable("name", cel.StringType),
		cel.Variable("slot", cel.StringType),
		cel.Variable("index", cel.IntType),
		cel.CrossTypeNumericComparisons(true),
		cel.Macros(append(slices.Clone(cel.StandardMacros), short("count"), short("beside"), short("within"))...),
		looks("count", cel.IntType, func(s self, sel *screen.Selector) (ref.Val, error) {
			n, err := inside(s.node, sel)
			return types.Int(n), err
		}),
		looks("beside", cel.IntType, func(s self, sel *screen.Selector) (ref.Val, error) {
			n := 0
			if s.node.Parent != nil {
				path := pathOf(s.node.Parent)
				for _, c := range s.node.Parent.Children {
					if c != s.node.Element && sel.Picks(append(slices.Clone(path), c)) {
						n++
					}
				}
			}
			return types.Int(n), nil
		}),
		looks("within", cel.BoolType, func(s self, sel *screen.Selector) (ref.Val, error) {
			for at := s.node.Parent; at != nil; at = at.Parent {
				if sel.Picks(pathOf(at)) {
					return types.True, nil
				}
			}
			return types.False, nil
		}),
		cel.Function("words", cel.Overload("words_string", []*cel.Type{cel.StringType}, cel.IntType,
			cel.UnaryBinding(func(v ref.Val) ref.Val { return types.Int(len(strings.Fields(fmt.Sprint(v.Value())))) }))),
	)
	if err != nil {
		panic(err) // the same each time
	}
	return env
}()

// inside counts the elements below one that a selector picks.
func inside(n *audit.Node, sel *screen.Selector) (int, error) {
	path := pathOf(n)
	found, seen := 0, 0
	var walk func(e *screen.Element) error
	walk = func(e *screen.Element) error {
		for _, c := range e.Children {
			if seen++; seen > maxWithin {
				return fmt.Errorf("there are more than %d elements inside", maxWithin)
			}
			path = append(path, c)
			if sel.Picks(path) {
				found++
			}
			if err := walk(c); err != nil {
				return err
			}
			path = path[:len(path)-1]
		}
		return nil
	}
	return found, walk(n.Element)
}

func compile(must string) (cel.Program, error) {
	switch {
	case strings.TrimSpace(must) == "":
		return nil, errors.New("nothing is said that must hold")
	case len(must) > maxLength:
		return nil, fmt.Errorf("the expression has %d bytes; accepted: at most %d", len(must), maxLength)
	}
	tree, issues := environment.Compile(must)
	if issues.Err() != nil {
		first := issues.Errors()[0]
		return nil, fmt.Errorf("%s (at %d in `%s`)", first.Message, first.Location.Column()+1, must)
	}
	if tree.OutputType() != cel.BoolType && tree.OutputType() != cel.DynType {
		return nil, fmt.Errorf("`%s` is %s; accepted: what is true or false", must, tree.OutputType())
	}
	return environment.Program(tree, cel.EvalOptions(cel.OptPartialEval), cel.CostLimit(maxCost))
}

// eval tells whether an expression holds of an element, where that is known.
func eval(p *audit.Pass, n *audit.Node, program cel.Program) (holds, known bool, err error) {
	unknown := []*cel.AttributePatternType{}
	mark := func(pattern *cel.AttributePatternType) { unknown = append(unknown, pattern) }
	props := propsOf(n.Element, n.Def, func(prop string) {
		mark(cel.AttributePattern("props").QualString(prop))
	})
	if n.Spread {
		mark(cel.AttributePattern("props").Wildcard())
	}
	text, ok := textOf(n.Element)
	if !ok {
		mark(cel.AttributePattern("text"))
	}
	parent, index := map[string]any{"component": "", "name": "", "slot": "", "text": "", "props": map[string]any{}}, 0
	if up := n.Parent; up != nil {
		words, ok := textOf(up.Element)
		if !ok {
			mark(cel.AttributePattern("parent").QualString("text"))
		}
		around := propsOf(up.Element, up.Def, func(prop string) {
			mark(cel.AttributePattern("parent").QualString("props").QualString(prop))
		})
		parent = map[string]any{"component": up.Element.Type, "name": up.Name, "slot": up.Slot, "text": words, "props": around}
		index = slices.Index(up.Children, n.Element)
	}
	vars, err := cel.PartialVars(map[string]any{
		"self": self{n, p.Cat}, "props": props, "parent": parent, "text": text, "component": n.Element.Type, "name": n.Name,
		"slot": n.Slot, "index": index, "screen": map[string]string{
			"kind": string(p.Doc.Kind), "id": p.Doc.ID, "title": p.Doc.Title, "route": p.Doc.Route, "owner": p.Doc.Owner,
		},
	}, unknown...)
	if err != nil {
		return false, false, err
	}
	out, _, err := program.Eval(vars)
	if err != nil {
		if strings.Contains(err.Error(), "cost limit") {
			err = errors.New("the expression costs too much")
		}
		return false, false, err
	}
	if types.IsUnknown(out) {
		return false, false, nil
	}
	b, ok := out.Value().(bool)
	if !ok {
		return false, false, fmt.Errorf("it gives %v, which is neither true nor false", out.Value())
	}
	return b, true, nil
}

func textOf(e *screen.Element) (string, bool) {
	return e.Text.Text, e.Text.Kind == screen.Literal || e.Text.Kind == screen.None
}

// propsOf are the props of an element as they count, set or by default; unknown is told those
// that are computed.
func propsOf(e *screen.Element, def *kit.Component, unknown func(prop string)) map[string]any {
	out := map[string]any{}
	if def != nil {
		for i := range def.Props {
			out[def.Props[i].Name] = valueOf(&def.Props[i], def.Props[i].Default)
		}
	}
	for i := range e.Props {
		prop := &e.Props[i]
		if prop.Value.Kind != screen.Literal {
			unknown(prop.Name)
			continue
		}
		var is *kit.Prop
		if def != nil {
			is, _ = def.Prop(prop.Name)
		}
		out[prop.Name] = valueOf(is, prop.Value.Text)
	}
	return out
}

// valueOf is a written value as the prop takes it.
func valueOf(p *kit.Prop, text string) any {
	if p == nil {
		return text
	}
	switch p.Type {
	case kit.Bool:
		return text == "true"
	case kit.Number:
		if f, err := strconv.ParseFloat(text, 64); err == nil {
			return f
		}
	}
	return text
}
