package emit

import "strings"

// Tag is an element of markup: HTML, a template, or JSX.
type Tag struct {
	Name  string
	Attrs []Doc
	Kids  []Doc
	// Words says that the kids are one text, which may stand on the line of its tags.
	Words bool
	// Short writes one without kids as <a />, Void as <a>.
	Short, Void bool
}

// Doc lays the element out.
func (t Tag) Doc() Doc {
	end := ">"
	if len(t.Kids) == 0 && t.Short {
		end = " />"
	}
	var head Doc = "<" + t.Name + end
	if len(t.Attrs) > 0 {
		var tail Doc = cat(softline, ">")
		if end == " />" {
			tail = cat(space, "/>")
		}
		head = grouped("<"+t.Name, nest(space, joined(space, t.Attrs)), tail)
	}
	switch {
	case len(t.Kids) == 0 && (t.Short || t.Void):
		return head
	case len(t.Kids) == 0:
		return cat(head, "</"+t.Name+">")
	case t.Words && len(t.Kids) == 1:
		return grouped(head, nest(softline, t.Kids[0]), softline, "</"+t.Name+">")
	}
	return cat(head, nest(hardline, joined(hardline, t.Kids)), hardline, "</"+t.Name+">")
}

// Block is a part of a template in braces: a head, what stands in it, and its end.
func Block(head Doc, kids []Doc, end string) Doc {
	return cat(head, nest(hardline, joined(hardline, kids)), hardline, end)
}

// Attr is name="value" with code as the value, which may break into lines.
func (s Style) Attr(name string, e Expr) Doc {
	s.Markup = true
	switch e.(type) {
	case Object, List, Template:
		return cat(name+`="`, s.expr(e, 0), `"`)
	}
	return grouped(name+`="`, nest(softline, s.expr(e, 0)), softline, `"`)
}

// FillWords are words, as many on a line as fit.
func FillWords(words string) Doc { return fill(strings.Fields(words)) }

// Braces is code between braces, as text of a template.
func (s Style) Braces(e Expr) Doc {
	s.Markup = true
	return grouped("{{", nest(space, s.expr(e, 0)), space, "}}")
}

// Handler is name="…" with what happens at an event: one statement as it is, several as a
// function of the event, which code knows as $event.
func (s Style) Handler(name string, list []Stmt) Doc {
	if len(list) == 1 {
		if do, ok := list[0].(Do); ok {
			return s.Attr(name, do.Of)
		}
	}
	fn := Arrow{Body: MapAll(list, func(e Expr) Expr {
		if e == Expr(Name("$event")) {
			return Name("event")
		}
		return e
	})}
	for _, st := range list {
		if speaks(st, "$event") {
			fn.Params = []string{"event"}
		}
	}
	return s.Attr(name, fn)
}

func speaks(st Stmt, name string) bool {
	found := false
	MapAll([]Stmt{st}, func(e Expr) Expr {
		found = found || e == Expr(Name(name))
		return e
	})
	return found
}

// Join puts documents behind one another.
func Join(parts ...Doc) Doc { return concat(parts) }

// Stack puts documents below one another.
func Stack(parts ...Doc) Doc { return joined(hardline, parts) }

// Indent puts documents below one another, one step in.
func Indent(parts ...Doc) Doc { return nest(hardline, joined(hardline, parts)) }

// Group stands on one line where it fits.
func Group(parts ...Doc) Doc { return grouped(parts...) }

// Soft breaks where its group does; Space is a space where it does not.
var (
	Soft  = softline
	Space = space
	Hard  = hardline
	// Comma ends the last of a list that breaks.
	Comma Doc = ifBreak{",", ""}
)

// Nest is one step in where its group breaks.
func Nest(parts ...Doc) Doc { return nest(parts...) }

// Literal is text whose line ends stay.
func LiteralText(s string) Doc { return literal(s) }

// A replacer is made where it is declared: its first use is dear.
var inHTML = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", `"`, "&quot;", "\u00a0", "&nbsp;")

// EscapeHTML writes a text for markup.
func EscapeHTML(s string) string {
	return inHTML.Replace(s)
}

// mark notes where what follows begins.
type mark struct{ id string }

// Mark notes the place of an element; see PrintMarked.
func Mark(id string, d Doc) Doc { return cat(mark{id}, d) }
