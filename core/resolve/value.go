package resolve

import (
	"regexp"
	"strconv"
	"strings"

	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

func (r *resolver) compile(source string, sc scope) (*expr.Program, error) {
	key := [4]string{source}
	if sc.model != nil {
		key[1] = sc.model.ID
	}
	if sc.around != nil {
		key[2] = sc.around.ID
	}
	scope := expr.Scope{Record: sc.model, Outer: sc.around, Models: r.Models, Sources: r.Sourced}
	if sc.frame != nil {
		key[3] = sc.frame.names.key
		scope = sc.frame.names.In(scope)
	}
	r.Cache.mu.Lock()
	defer r.Cache.mu.Unlock()
	c, ok := r.Cache.programs[key]
	if !ok {
		c.program, c.err = expr.Compile(source, scope)
		r.Cache.programs[key] = c
	}
	return c.program, c.err
}

// weigh counts the texts of a node: few long ones, repeated often, are a large page.
func (r *resolver) weigh(n *Node) error {
	if err := r.budget.Text(n.Text); err != nil {
		return err
	}
	for _, p := range n.Props {
		if text, ok := p.Value.(string); ok {
			if err := r.budget.Text(text); err != nil {
				return err
			}
		}
	}
	return nil
}

func (r *resolver) eval(source string, sc scope) (any, error) {
	p, err := r.compile(source, sc)
	if err != nil {
		return nil, err
	}
	env := &expr.Env{
		Record:  sc.record,
		Outer:   sc.outer,
		Lists:   r.Set.Records,
		Today:   r.Today,
		Sources: r.Sources,
		Index:   &r.index,
		Budget:  r.budget,
	}
	if p.Speaks() && sc.frame != nil {
		env.Controls = sc.frame.held(r.Controls)
		env.Count = func(name string) (int, int, error) { return r.count(sc.frame, name) }
	}
	if len(r.names.Route) > 0 && sc.doc == "" {
		env.Route = r.params()
	}
	return p.Eval(env)
}

// speaks tells whether an expression follows what controls hold.
func (r *resolver) speaks(source string, sc scope) bool {
	p, err := r.compile(source, sc)
	return err == nil && p.Speaks()
}

func (r *resolver) value(e *screen.Element, sc scope, n *Node, what string, v screen.Value) (any, bool) {
	switch v.Kind {
	case screen.None:
		return nil, false
	case screen.Num:
		f, err := strconv.ParseFloat(v.Text, 64)
		return f, err == nil
	case screen.Flag:
		return v.Text == "true", true
	case screen.Token:
		return TokenMark + v.Text, true
	case screen.Bound:
		return r.stand(e, what, v.Text)
	case screen.Expr:
		out, err := r.eval(v.Text, sc)
		if err != nil {
			r.report(e, sc, n, what+": "+err.Error())
			return nil, false
		}
		return out, true
	}
	return v.Text, true
}

// member is the last name in a way through code, nothing what stands there where there is none.
var (
	member  = regexp.MustCompile(`([A-Za-z_$][\w$]*)\W*$`)
	nothing = regexp.MustCompile(`(\s*(:|\?\?|\|\|)\s*(null|undefined|true|false|''|""))+\W*$`)
)

// stand is what stands for a value that code computes: for words the name that it goes by there, for
// whether what is all of a screen is open that it is, for anything else nothing.
func (r *resolver) stand(e *screen.Element, what, source string) (any, bool) {
	if what != "text" {
		def, ok := r.Catalog.Component(e.Type)
		if !ok {
			return nil, false
		}
		if what == def.OpensBy && r.whole[e.ID] {
			return true, true // else there is nothing to see of it
		}
		if p, ok := def.Prop(what); !ok || p.Type != kit.Text || p.URL || p.JSON {
			return nil, false
		}
	}
	name := func(code string) string {
		m := member.FindStringSubmatch(nothing.ReplaceAllString(code, ""))
		if m == nil || m[1] == "null" || m[1] == "undefined" {
			return "…"
		}
		return m[1]
	}
	if strings.Contains(source, "{") { // words with values among them
		return hole.ReplaceAllStringFunc(source, func(s string) string { return name(s) }), true
	}
	return name(source), true
}

var hole = regexp.MustCompile(`\{[^{}]*\}`)

// TokenMark begins a prop value that names a token; the renderer writes it as
// the token's custom property.
const TokenMark = "\x00token:"

func literal(v any) screen.Value {
	switch x := v.(type) {
	case nil:
		return screen.Value{}
	case float64:
		return screen.Value{Kind: screen.Num, Text: sample.Plain(x)}
	case bool:
		return screen.FlagValue(x)
	}
	return screen.Lit(sample.Plain(v))
}
