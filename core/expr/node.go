package expr

import (
	"cel.dev/cel-go/common/ast"
	"cel.dev/cel-go/parser"
)

// Node is a part of a program, for those who translate it: what it does, what it speaks
// of, and what it is made of.
type Node struct {
	n    *node
	info *ast.SourceInfo
}

// Root is the whole of the program.
func (p *Program) Root() Node { return Node{p.root, p.info} }

// Op is "lit", "ident", "var" (the record that a filter walks over), "field", "has", "control",
// "source", "route", "count", "pages", an operator as CEL names it, or a function; one that is
// called on its first value begins with a dot.
func (n Node) Op() string { return n.n.op }

// Text is the name of an identifier, a field, or of the record that a filter walks over.
func (n Node) Text() string { return n.n.text }

// Value is that of a literal: nil, string, float64 or bool.
func (n Node) Value() any { return n.n.value }

// Type is that of its value.
func (n Node) Type() Type { return n.n.typ }

// Source is an expression that gives its value, as it may stand within another; empty of what
// the language has put in.
func (n Node) Source() string {
	if n.n.from == nil {
		return ""
	}
	s, err := parser.Unparse(n.n.from, n.info)
	if err != nil {
		return ""
	}
	return s
}

// Args are what it is made of.
func (n Node) Args() []Node {
	out := make([]Node, len(n.n.args))
	for i, a := range n.n.args {
		out[i] = Node{a, n.info}
	}
	return out
}
