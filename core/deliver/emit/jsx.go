package emit

import "strings"

// JSX is an element of JSX.
type JSX struct {
	Name  string // empty: a fragment
	Attrs []Doc
	Kids  []JSXKid
	// Sole says that the only attribute is a text, which never breaks the line.
	Sole bool
}

// JSXKid is what stands in an element: another, text, or an expression in braces.
type JSXKid struct {
	Doc        Doc
	Expression bool
	Element    bool
}

// Doc lays the element out as prettier does.
func (t JSX) Doc() Doc {
	var head Doc = "<" + t.Name
	switch {
	case len(t.Attrs) == 1 && t.Sole:
		head = cat(head, " ", t.Attrs[0])
	case len(t.Attrs) > 0:
		head = cat(head, nest(space, joined(space, t.Attrs)))
	}
	if len(t.Kids) == 0 {
		if len(t.Attrs) == 0 || t.Sole && len(t.Attrs) == 1 {
			return cat(head, " />")
		}
		return grouped(head, space, "/>")
	}
	open := grouped(head, softline, ">")
	if len(t.Attrs) == 0 || t.Sole && len(t.Attrs) == 1 {
		open = cat(head, ">")
	}
	expressions, element := 0, false
	docs := make([]Doc, len(t.Kids))
	for i, k := range t.Kids {
		docs[i] = k.Doc
		element = element || k.Element
		if k.Expression {
			expressions++
		}
	}
	tail := "</" + t.Name + ">"
	if element || expressions > 1 || len(t.Attrs) > 1 || len(t.Kids) > 1 {
		return cat(open, nest(hardline, joined(hardline, docs)), hardline, tail)
	}
	return grouped(open, nest(softline, docs[0]), softline, tail)
}

// JSXAttr is a setting: a text in quotes, all else in braces.
func (s Style) JSXAttr(name string, e Expr) Doc {
	if text, ok := e.(Str); ok && !strings.ContainsAny(string(text), "\"\\\n\r\t&\u00a0") {
		return name + `="` + string(text) + `"`
	}
	if e == Expr(Name("true")) {
		return name
	}
	return cat(name, "=", s.Container(e, false))
}

// Container is an expression in braces.
func (s Style) Container(e Expr, inElement bool) Doc {
	switch x := e.(type) {
	case Object, List, Arrow, Call, Template:
		return cat("{", s.expr(e, 0), "}")
	case Markup:
		return grouped("{", nest(softline, x.Doc), softline, "}")
	case Binary:
		if _, markup := x.R.(Markup); inElement || markup {
			return cat("{", s.expr(e, 0), "}")
		}
	case Cond:
		if inElement {
			return cat("{", s.expr(e, 0), "}")
		}
	}
	return grouped("{", nest(softline, s.expr(e, 0)), softline, "}")
}

// JSXText are words between tags.
func (s Style) JSXText(text string) JSXKid {
	plain := strings.Join(strings.Fields(text), " ")
	if plain != text || strings.ContainsAny(text, "{}<>&\u00a0") || text == "" {
		return JSXKid{Doc: s.Container(Str(text), true), Expression: true}
	}
	return JSXKid{Doc: FillWords(text)}
}
