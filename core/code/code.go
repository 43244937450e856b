// Package code writes a screen as markup that people read and edit, and reads it back:
// a tag for each element, its settings as attributes, ":" before what is computed,
// {{ … }} for a computed text. Nothing is lost on the way: the key tells which element
// a tag is, so that what did not change stays as it was.
package code

import (
	"bytes"
	"fmt"
	"strconv"
	"strings"

	"golang.org/x/net/html"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// Attributes that are no settings of the component.
const (
	keyAttr   = "key"
	nameAttr  = "ref"
	slotAttr  = "slot"
	showAttr  = "if"
	eachAttr  = "each"
	whereAttr = "each-where"
	sortAttr  = "each-sort"
	limitAttr = "each-limit"
	pageAttr  = "each-page"
	textAttr  = "text"
)

// Write writes an element with all below it, two spaces a level.
func Write(e *screen.Element) string {
	var b strings.Builder
	write(&b, e, 0)
	return b.String()
}

func write(b *strings.Builder, e *screen.Element, depth int) {
	pad := strings.Repeat("  ", depth)
	b.WriteString(pad + "<" + tagOf(e.Type))
	attr := func(name, value string) { fmt.Fprintf(b, " %s=\"%s\"", name, escape(value)) }
	if e.Slot != "" {
		attr(slotAttr, e.Slot)
	}
	if e.Name != "" {
		attr(nameAttr, e.Name)
	}
	for _, p := range e.Props {
		switch p.Value.Kind {
		case screen.Expr, screen.Bound:
			attr(":"+p.Name, p.Value.Text)
		case screen.Token:
			attr(p.Name, "{"+p.Value.Text+"}")
		case screen.Flag:
			if p.Value.Text == "true" {
				b.WriteString(" " + p.Name)
			} else {
				attr(p.Name, "false")
			}
		default:
			attr(p.Name, guarded(p.Value.Text))
		}
	}
	if e.Show != "" {
		attr(showAttr, e.Show)
	}
	if r := e.Repeat; r != nil {
		attr(eachAttr, r.Model)
		if r.Where != "" {
			attr(whereAttr, r.Where)
		}
		if r.Sort != "" {
			attr(sortAttr, r.Sort)
		}
		if r.Limit != 0 {
			attr(limitAttr, strconv.Itoa(r.Limit))
		}
		if r.Page != "" {
			attr(pageAttr, r.Page)
		}
	}
	// A text that would not read back as itself stands as an attribute.
	text := ""
	switch {
	case !e.Text.Known() && !strings.Contains(e.Text.Text, "}}"):
		text = "{{ " + escape(e.Text.Text) + " }}"
	case !e.Text.Known():
		attr(":"+textAttr, e.Text.Text)
	case e.Text.Kind == screen.Token:
		attr(textAttr, "{"+e.Text.Text+"}")
	case e.Text.Kind == screen.None:
	case strings.Join(strings.Fields(e.Text.Text), " ") == e.Text.Text && e.Text.Text != "" && !strings.HasPrefix(e.Text.Text, "{{"):
		text = escape(e.Text.Text)
	default:
		attr(textAttr, guarded(e.Text.Text))
	}
	attr(keyAttr, e.ID)
	b.WriteString(">" + text)
	if len(e.Children) > 0 {
		b.WriteString("\n")
		for _, c := range e.Children {
			write(b, c, depth+1)
		}
		b.WriteString(pad)
	}
	b.WriteString("</" + tagOf(e.Type) + ">\n")
}

// guarded is a literal that would read as a token, with a mark that says otherwise.
func guarded(s string) string {
	if strings.HasPrefix(s, "{") || strings.HasPrefix(s, `\`) {
		return `\` + s
	}
	return s
}

// tagOf writes a piece's type as a tag may be: piece:note as piece.note.
func tagOf(typ string) string { return strings.ReplaceAll(typ, ":", ".") }

func typeOf(tag string) string {
	if rest, ok := strings.CutPrefix(tag, "piece."); ok {
		return screen.PiecePrefix + rest
	}
	return tag
}

var escape = strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;", `"`, "&quot;").Replace

// Error says what cannot be read, and where.
type Error struct {
	Line   int
	Reason string
}

func (e *Error) Error() string { return fmt.Sprintf("line %d: %s", e.Line, e.Reason) }

// Limits of what is read.
const (
	maxBytes = 4 << 20
	maxDepth = 200
)

// Read reads markup as Write writes it. now is the tree as it stands: an element with
// its key keeps what the markup cannot say. Elements without a key are new. Errors are
// of type *Error.
func Read(src []byte, now *screen.Element, cat kit.Catalog) (*screen.Element, error) {
	if len(src) > maxBytes {
		return nil, &Error{1, fmt.Sprintf("the code has %d KB; accepted: up to %d", len(src)>>10, maxBytes>>10)}
	}
	r := &reader{now: map[string]*screen.Element{}, cat: cat, taken: map[string]int{}, line: 1}
	now.Walk(func(e, _ *screen.Element) bool { r.now[e.ID] = e; return true })
	z := html.NewTokenizer(bytes.NewReader(src))
	for {
		typ := z.Next()
		line := r.line
		r.line += bytes.Count(z.Raw(), []byte("\n"))
		var err error
		switch typ {
		case html.ErrorToken:
			return r.end(now)
		case html.TextToken:
			err = r.text(string(z.Raw()), line)
		case html.StartTagToken, html.SelfClosingTagToken:
			err = r.start(z, line)
			if err == nil && typ == html.SelfClosingTagToken {
				err = r.close(r.open[len(r.open)-1].tag, line)
			}
		case html.EndTagToken:
			name, _ := z.TagName()
			err = r.close(string(name), line)
		}
		if err != nil {
			return nil, err
		}
	}
}

type opened struct {
	e    *screen.Element
	tag  string
	line int
}

type reader struct {
	now   map[string]*screen.Element
	cat   kit.Catalog
	taken map[string]int // keys, with the line they stood on
	open  []opened
	root  *screen.Element
	line  int
	fresh int
}

func (r *reader) end(now *screen.Element) (*screen.Element, error) {
	if n := len(r.open); n > 0 {
		return nil, &Error{r.open[n-1].line, fmt.Sprintf("<%s> is not closed", r.open[n-1].tag)}
	}
	if r.root == nil {
		return nil, &Error{1, "there is no element; the screen has one at least"}
	}
	if r.root.ID != now.ID {
		return nil, &Error{1, fmt.Sprintf("the outermost element is <%s key=%q>; it stays", tagOf(now.Type), now.ID)}
	}
	return r.root, nil
}

func (r *reader) start(z *html.Tokenizer, line int) error {
	name, more := z.TagName()
	tag := string(name)
	e := &screen.Element{Type: typeOf(tag)}
	def, ok := r.cat.Component(e.Type)
	if !ok {
		def = &kit.Component{Title: tag}
	}
	stood := false // what is no component of the kit stays where it stood
	for _, o := range r.now {
		stood = stood || o.Type == e.Type
	}
	if !ok && !stood {
		return &Error{line, fmt.Sprintf("the kit has no component %q", e.Type)}
	}
	if len(r.open) == 0 && r.root != nil {
		return &Error{line, fmt.Sprintf("<%s> stands beside the outermost element; it belongs inside", tag)}
	}
	if len(r.open) >= maxDepth {
		return &Error{line, fmt.Sprintf("it is nested deeper than %d elements", maxDepth)}
	}
	type given struct{ name, value string }
	var list []given
	for more {
		var k, v []byte
		k, v, more = z.TagAttr()
		if string(k) == keyAttr {
			e.ID = string(v)
		} else {
			list = append(list, given{string(k), string(v)})
		}
	}
	if e.ID == "" {
		for e.ID == "" || r.now[e.ID] != nil || r.taken[e.ID] > 0 {
			r.fresh++
			e.ID = "n" + strconv.Itoa(r.fresh)
		}
	}
	if first := r.taken[e.ID]; first > 0 {
		return &Error{line, fmt.Sprintf("the key %q stood on line %d already; a copy has none", e.ID, first)}
	}
	r.taken[e.ID] = line
	was := r.now[e.ID]
	if was != nil {
		e.Origin = was.Origin
	}
	for _, g := range list {
		if err := r.attribute(e, def, was, g.name, g.value, line); err != nil {
			return err
		}
	}
	screen.SortProps(e.Props)
	if len(r.open) > 0 {
		parent := r.open[len(r.open)-1].e
		parent.Children = append(parent.Children, e)
	} else {
		r.root = e
	}
	r.open = append(r.open, opened{e, tag, line})
	return nil
}

func (r *reader) attribute(
	e *screen.Element,
	def *kit.Component,
	was *screen.Element,
	name, value string,
	line int,
) error {
	repeat := func() *screen.Repeat {
		if e.Repeat == nil {
			e.Repeat = &screen.Repeat{}
		}
		return e.Repeat
	}
	bare, computed := strings.CutPrefix(name, ":")
	v := screen.Lit(value)
	if computed {
		v = screen.Value{Kind: screen.Expr, Text: value}
	} else if literal, ok := strings.CutPrefix(value, `\`); ok {
		value = literal
		v = screen.Lit(value)
	} else if inner, ok := strings.CutPrefix(value, "{"); ok && strings.HasSuffix(inner, "}") {
		v = screen.Value{Kind: screen.Token, Text: strings.TrimSuffix(inner, "}")}
	}
	// A setting of the component comes first, whatever it is called.
	for i := range def.Props {
		p := &def.Props[i]
		base, width, wide := strings.Cut(bare, "@")
		if !strings.EqualFold(p.Name, bare) && !(wide && strings.EqualFold(p.Name, base)) {
			continue
		}
		full := p.Name
		if wide {
			full += "@" + width
		}
		if v.Kind == screen.Literal {
			switch p.Type {
			case kit.Bool:
				v = screen.FlagValue(value != "false")
			case kit.Number:
				if _, err := strconv.ParseFloat(value, 64); err != nil {
					return &Error{line, fmt.Sprintf("%s of %s is a number, not %q", full, def.Title, value)}
				}
				v = screen.Value{Kind: screen.Num, Text: value}
			}
		}
		prop := screen.Prop{Name: full, Value: v}
		if was != nil {
			for _, o := range was.Props { // the same as it was, as it was written
				if strings.EqualFold(o.Name, full) && o.Value.Text == v.Text &&
					(o.Value.Kind == v.Kind || v.Kind == screen.Literal || v.Kind == screen.Num) {
					prop = o
				}
			}
		}
		e.Props = append(e.Props, prop)
		return nil
	}
	switch name {
	case nameAttr:
		e.Name = value
	case slotAttr:
		e.Slot = value
	case showAttr:
		e.Show = value
	case eachAttr:
		repeat().Model = value
	case whereAttr:
		repeat().Where = value
	case sortAttr:
		repeat().Sort = value
	case pageAttr:
		repeat().Page = value
	case limitAttr:
		n, err := strconv.Atoi(value)
		if err != nil || n < 0 {
			return &Error{line, fmt.Sprintf("%s is a number, not %q", name, value)}
		}
		repeat().Limit = n
	case textAttr, ":" + textAttr:
		e.Text = v
	default:
		if was != nil { // what was set stays, whatever the kit now says
			for _, o := range was.Props {
				if strings.EqualFold(o.Name, bare) && o.Value.Text == v.Text {
					e.Props = append(e.Props, o)
					return nil
				}
			}
		}
		return &Error{line, fmt.Sprintf("%s has no setting %q", def.Title, bare)}
	}
	return nil
}

func (r *reader) text(raw string, line int) error {
	s := strings.Join(strings.Fields(html.UnescapeString(raw)), " ")
	if s == "" {
		return nil
	}
	if len(r.open) == 0 {
		return &Error{line, fmt.Sprintf("the text %q stands outside of any element", s)}
	}
	e := r.open[len(r.open)-1].e
	if e.Text.Kind != screen.None {
		return &Error{
			line,
			fmt.Sprintf("a second text in <%s>; a text of its own is an element", r.open[len(r.open)-1].tag),
		}
	}
	e.Text = screen.Lit(s)
	if inner, ok := strings.CutPrefix(s, "{{"); ok && strings.HasSuffix(inner, "}}") {
		e.Text = screen.Value{Kind: screen.Expr, Text: strings.TrimSpace(strings.TrimSuffix(inner, "}}"))}
	}
	if was := r.now[e.ID]; was != nil && was.Text.Text == e.Text.Text &&
		(was.Text.Kind == screen.Num || was.Text.Kind == screen.Flag) {
		e.Text = was.Text
	}
	// An expression may hold more than one space; the same one is as it was.
	if was := r.now[e.ID]; was != nil && was.Text.Kind == screen.Expr && e.Text.Kind == screen.Expr &&
		strings.Join(strings.Fields(was.Text.Text), " ") == e.Text.Text {
		e.Text = was.Text
	}
	return nil
}

func (r *reader) close(tag string, line int) error {
	n := len(r.open)
	if n == 0 {
		return &Error{line, fmt.Sprintf("</%s> closes nothing", tag)}
	}
	last := r.open[n-1]
	if last.tag != tag {
		return &Error{line, fmt.Sprintf("</%s> does not close <%s> of line %d", tag, last.tag, last.line)}
	}
	screen.SortSlots(last.e)
	r.open = r.open[:n-1]
	return nil
}
