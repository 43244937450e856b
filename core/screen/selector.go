package screen

import (
	"fmt"
	"strings"

	"ubiquant/core/kit"
)

// Selector picks elements with the syntax of CSS selectors over our tree: types,
// #id, [prop], [prop=value], [prop^=], [prop*=], :not(…), descendant, child (>)
// and lists with commas. A prop named "text" stands for the element's text, and
// "slot" for its slot. [prop] asks whether it is set; with a catalog (see With) a
// comparison takes the default of a prop that is not.
type Selector struct {
	chains [][]compound // each from the ancestor to the subject
	cat    kit.Catalog
}

// With returns the selector with the defaults of a catalog's props.
func (s *Selector) With(cat kit.Catalog) *Selector { return &Selector{s.chains, cat} }

type compound struct {
	typ, id string
	child   bool // must be a direct child of the one before
	tests   []propTest
}

type propTest struct {
	name, op, value string
	not             bool
}

// ParseSelector reads a selector. Errors say at which character.
func ParseSelector(src string) (*Selector, error) {
	p := &selectorParser{src: src}
	sel := &Selector{}
	for {
		chain, err := p.chain()
		if err != nil {
			return nil, err
		}
		sel.chains = append(sel.chains, chain)
		if p.at >= len(src) {
			return sel, nil
		}
		if len(sel.chains) >= 16 {
			return nil, p.fail("at most 16 selectors are accepted, separated by commas")
		}
		p.at++ // the comma
	}
}

type selectorParser struct {
	src string
	at  int
}

func (p *selectorParser) fail(format string, args ...any) error {
	return fmt.Errorf("selector, character %d: %s", p.at+1, fmt.Sprintf(format, args...))
}

func (p *selectorParser) spaces() bool {
	start := p.at
	for p.at < len(p.src) && (p.src[p.at] == ' ' || p.src[p.at] == '\t' || p.src[p.at] == '\n') {
		p.at++
	}
	return p.at > start
}

func (p *selectorParser) word() string {
	start := p.at
	for p.at < len(p.src) {
		c := p.src[p.at]
		if !(c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '-' || c == '_' || c == '@' || c == '.' && p.at > start) {
			// A piece's type holds a colon: piece:name.
			if !(c == ':' && p.src[start:p.at] == "piece") {
				break
			}
		}
		p.at++
	}
	return p.src[start:p.at]
}

func (p *selectorParser) chain() ([]compound, error) {
	var out []compound
	child := false
	for {
		p.spaces()
		if p.at < len(p.src) && p.src[p.at] == '>' {
			if len(out) == 0 || child {
				return nil, p.fail("> stands between two elements")
			}
			child = true
			p.at++
			continue
		}
		if p.at >= len(p.src) || p.src[p.at] == ',' {
			break
		}
		c, err := p.compound()
		if err != nil {
			return nil, err
		}
		c.child = child
		child = false
		out = append(out, c)
		if len(out) > 16 {
			return nil, p.fail("at most 16 steps are accepted")
		}
	}
	if len(out) == 0 || child {
		return nil, p.fail("an element is missing; accepted: a type, #id, [prop=value] or *")
	}
	return out, nil
}

func (p *selectorParser) compound() (compound, error) {
	var c compound
	start := p.at
	if p.src[p.at] == '*' {
		p.at++
	} else {
		c.typ = p.word()
	}
	for p.at < len(p.src) {
		switch p.src[p.at] {
		case '#':
			p.at++
			if c.id = p.word(); c.id == "" {
				return c, p.fail("an id is missing after #")
			}
		case '[':
			t, err := p.test()
			if err != nil {
				return c, err
			}
			c.tests = append(c.tests, t)
		case ':':
			if !strings.HasPrefix(p.src[p.at:], ":not([") {
				return c, p.fail("only :not([…]) is accepted here")
			}
			p.at += len(":not(")
			t, err := p.test()
			if err != nil {
				return c, err
			}
			if p.at >= len(p.src) || p.src[p.at] != ')' {
				return c, p.fail("the closing ) is missing")
			}
			p.at++
			t.not = true
			c.tests = append(c.tests, t)
		case ' ', '\t', '\n', ',', '>':
			return c, nil
		default:
			return c, p.fail("%q is not known here", p.src[p.at])
		}
	}
	if p.at == start {
		return c, p.fail("an element is missing")
	}
	return c, nil
}

func (p *selectorParser) test() (propTest, error) {
	var t propTest
	p.at++ // [
	p.spaces()
	if t.name = p.word(); t.name == "" {
		return t, p.fail("a prop's name is missing")
	}
	p.spaces()
	rest := p.src[p.at:]
	for _, op := range []string{"^=", "*=", "="} {
		if strings.HasPrefix(rest, op) {
			t.op = op
			p.at += len(op)
			break
		}
	}
	if t.op != "" {
		p.spaces()
		if p.at < len(p.src) && (p.src[p.at] == '"' || p.src[p.at] == '\'') {
			end := strings.IndexByte(p.src[p.at+1:], p.src[p.at])
			if end < 0 {
				return t, p.fail("the closing quote is missing")
			}
			t.value = p.src[p.at+1 : p.at+1+end]
			p.at += end + 2
		} else { // without quotes it is all up to the end: [to=/tickets/new], [label=New ticket]
			end := strings.IndexByte(p.src[p.at:], ']')
			if end < 0 {
				return t, p.fail("the closing ] is missing")
			}
			t.value = strings.TrimSpace(p.src[p.at : p.at+end])
			p.at += end
		}
		p.spaces()
	}
	if p.at >= len(p.src) || p.src[p.at] != ']' {
		return t, p.fail("the closing ] is missing")
	}
	p.at++
	return t, nil
}

// Match calls found for every element of the tree that the selector picks.
func (s *Selector) Match(root *Element, found func(*Element)) {
	var path []*Element
	var visit func(e *Element)
	visit = func(e *Element) {
		path = append(path, e)
		if s.Picks(path) {
			found(e)
		}
		for _, c := range e.Children {
			visit(c)
		}
		path = path[:len(path)-1]
	}
	visit(root)
}

// Types lists the types an element must have one of to be picked; empty where
// any may do.
func (s *Selector) Types() []string {
	var out []string
	for _, chain := range s.chains {
		typ := chain[len(chain)-1].typ
		if typ == "" {
			return nil
		}
		out = append(out, typ)
	}
	return out
}

// Picks reports whether the last element of a path from the root is picked.
func (s *Selector) Picks(path []*Element) bool {
	for _, chain := range s.chains {
		if s.picks(chain, path) {
			return true
		}
	}
	return false
}

// picks walks down the path once, keeping as bits which beginnings of the chain
// end at the element before and at any above, so that the work stays linear
// whatever the selector.
func (s *Selector) picks(chain []compound, path []*Element) bool {
	last := len(chain) - 1
	if !chain[last].matches(path[len(path)-1], s.cat) {
		return false
	}
	var before, above uint32
	for at, e := range path {
		var here uint32
		for i := range chain {
			if i == last && at < len(path)-1 {
				break
			}
			reach := above
			if chain[i].child {
				reach = before
			}
			if (i == 0 || reach&(1<<(i-1)) != 0) && chain[i].matches(e, s.cat) {
				here |= 1 << i
			}
		}
		before = here
		above |= here
	}
	return before&(1<<last) != 0
}

func (c *compound) matches(e *Element, cat kit.Catalog) bool {
	if (c.typ != "" && c.typ != e.Type) || (c.id != "" && c.id != e.ID && c.id != e.Name) {
		return false
	}
	for _, t := range c.tests {
		if t.matches(e, cat) == t.not {
			return false
		}
	}
	return true
}

func (t *propTest) matches(e *Element, cat kit.Catalog) bool {
	var v Value
	ok := true
	switch t.name {
	case "text":
		v, ok = e.Text, e.Text.Kind != None
	case "slot":
		v = Lit(e.Slot)
	default:
		v, ok = e.Prop(t.name)
		if !ok && t.op != "" && cat != nil {
			if def, known := cat.Component(e.Type); known {
				if p, has := def.Prop(t.name); has {
					v, ok = Lit(p.Default), true
				}
			}
		}
	}
	if !ok {
		return false
	}
	switch t.op {
	case "=":
		return v.Text == t.value
	case "^=":
		return strings.HasPrefix(v.Text, t.value)
	case "*=":
		return strings.Contains(v.Text, t.value)
	}
	return true
}
