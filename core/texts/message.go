package texts

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
)

// Message is a text as ICU writes messages: words with what is put into them.
type Message []Part

// Part is a piece of a message: words, or a value.
type Part struct {
	Words string // that stand there; empty for a value
	Arg   string // name of the value
	Kind  Kind   // how the value is put in
	Cases []Case // of Plural and Select
}

// Kind is how a value is put into a message.
type Kind uint8

// The kinds.
const (
	AsItIs Kind = iota // {name}
	Number             // # within the forms of a plural
	Plural             // {name, plural, one {…} other {…}}
	Select             // {name, select, true {…} other {…}}
)

// Case is what a message says for one value: a plural form, "=" and a number, or a word; "other"
// for all else.
type Case struct {
	Is   string
	Says Message
}

// deepest bounds how far choices stand in choices.
const deepest = 8

// forms are the plural forms of the Unicode CLDR.
var forms = []string{"zero", "one", "two", "few", "many", "other"}

// Parse reads a message. What it takes of the ICU syntax are values, plural with its forms and
// "=n", select, and quoting by apostrophes; the error says what else stands there, and at which
// character.
func Parse(s string) (Message, error) {
	p := &parser{rest: []rune(s)}
	m, err := p.message("", 0)
	if err != nil {
		return nil, fmt.Errorf("character %d: %w", p.at+1, err)
	}
	return m, nil
}

type parser struct {
	rest []rune
	at   int
}

func (p *parser) peek(ahead int) rune {
	if p.at+ahead < len(p.rest) {
		return p.rest[p.at+ahead]
	}
	return 0
}

func (p *parser) space() {
	for unicode.IsSpace(p.peek(0)) {
		p.at++
	}
}

// message reads up to the end, or within a choice to its closing brace; plural is the value that
// # stands for.
func (p *parser) message(plural string, depth int) (Message, error) {
	var out Message
	var words strings.Builder
	flush := func() {
		if words.Len() > 0 {
			out = append(out, Part{Words: words.String()})
			words.Reset()
		}
	}
	for p.at < len(p.rest) {
		switch c := p.peek(0); {
		case c == '\'':
			p.quoted(&words, plural != "")
		case c == '#' && plural != "":
			flush()
			out = append(out, Part{Arg: plural, Kind: Number})
			p.at++
		case c == '{':
			flush()
			part, err := p.value(depth)
			if err != nil {
				return nil, err
			}
			out = append(out, part)
		case c == '}':
			if depth == 0 {
				return nil, fmt.Errorf("a } that closes nothing; write '}' for the sign itself")
			}
			flush()
			return out, nil
		default:
			words.WriteRune(c)
			p.at++
		}
	}
	if depth > 0 {
		return nil, fmt.Errorf("a } is missing")
	}
	flush()
	return out, nil
}

// quoted reads what an apostrophe begins: two are one, and before a sign of the syntax it quotes
// up to the next.
func (p *parser) quoted(words *strings.Builder, plural bool) {
	p.at++
	switch c := p.peek(0); {
	case c == '\'':
		p.at++
		words.WriteRune('\'')
		return
	case c != 0 && strings.ContainsRune("{}<>", c) || c == '#' && plural:
	default:
		words.WriteRune('\'')
		return
	}
	for p.at < len(p.rest) {
		c := p.peek(0)
		p.at++
		if c != '\'' {
			words.WriteRune(c)
			continue
		}
		if p.peek(0) != '\'' {
			return
		}
		p.at++
		words.WriteRune('\'')
	}
}

func (p *parser) word() string {
	p.space()
	begin := p.at
	for c := p.peek(0); c != 0 && !unicode.IsSpace(c) && !strings.ContainsRune("{},#'", c); c = p.peek(0) {
		p.at++
	}
	word := string(p.rest[begin:p.at])
	p.space()
	return word
}

func (p *parser) value(depth int) (Part, error) {
	if depth >= deepest {
		return Part{}, fmt.Errorf("choices stand in choices more than %d deep", deepest)
	}
	p.at++
	part := Part{Arg: p.word()}
	if part.Arg != "" && !key.MatchString(part.Arg) {
		return part, fmt.Errorf("%q is no name of a value; accepted: letters, digits and _", part.Arg)
	}
	if part.Arg == "" {
		return part, fmt.Errorf("the name of a value is missing behind {; write '{' for the sign itself")
	}
	switch p.peek(0) {
	case '}':
		p.at++
		return part, nil
	case ',':
		p.at++
	default:
		return part, fmt.Errorf("} or a comma is missing behind %s", part.Arg)
	}
	inner := ""
	switch kind := p.word(); kind {
	case "plural":
		part.Kind, inner = Plural, part.Arg
	case "select":
		part.Kind = Select
	default:
		return part, fmt.Errorf("%q is not taken; accepted: plural, select", kind)
	}
	if p.peek(0) != ',' {
		return part, fmt.Errorf("a comma and the forms are missing")
	}
	p.at++
	for {
		p.space()
		if p.peek(0) == '}' {
			break
		}
		is := p.word()
		switch {
		case is == "":
			return part, fmt.Errorf("a form is missing")
		case slices.ContainsFunc(part.Cases, func(c Case) bool { return c.Is == is }):
			return part, fmt.Errorf("%s stands twice", is)
		case part.Kind == Select && !key.MatchString(is):
			return part, fmt.Errorf("%q cannot be asked for; accepted: letters, digits and _", is)
		case part.Kind == Plural && !formed(is):
			return part, fmt.Errorf("%q is no form; accepted: %s, and = with a number", is, strings.Join(forms, ", "))
		case p.peek(0) != '{':
			return part, fmt.Errorf("a { is missing behind %s", is)
		}
		p.at++
		says, err := p.message(inner, depth+1)
		if err != nil {
			return part, err
		}
		p.at++
		part.Cases = append(part.Cases, Case{is, says})
	}
	if !slices.ContainsFunc(part.Cases, func(c Case) bool { return c.Is == "other" }) {
		return part, fmt.Errorf("the form other is missing, for all that is none of the rest")
	}
	p.at++
	return part, nil
}

// formed tells whether a plural can have such a form.
func formed(is string) bool {
	if n, exact := strings.CutPrefix(is, "="); exact {
		return n != "" && len(n) < 10 && strings.Trim(n, "0123456789") == ""
	}
	return slices.Contains(forms, is)
}

// String writes the message so that Parse reads it back.
func (m Message) String() string {
	var b strings.Builder
	m.write(&b, false)
	return b.String()
}

func (m Message) write(b *strings.Builder, plural bool) {
	for _, p := range m {
		switch {
		case p.Arg == "":
			quote(b, p.Words, plural)
		case p.Kind == AsItIs:
			b.WriteString("{" + p.Arg + "}")
		case p.Kind == Number:
			b.WriteByte('#')
		default:
			name := "plural"
			if p.Kind == Select {
				name = "select"
			}
			b.WriteString("{" + p.Arg + ", " + name + ",")
			for _, c := range p.Cases {
				b.WriteString(" " + c.Is + " {")
				c.Says.write(b, p.Kind == Plural)
				b.WriteByte('}')
			}
			b.WriteByte('}')
		}
	}
}

// quote writes words: the signs of the syntax between apostrophes, and an apostrophe twice where
// one alone would begin a quotation.
func quote(b *strings.Builder, words string, plural bool) {
	signs := "{}'"
	if plural {
		signs += "#"
	}
	for words != "" {
		n := strings.IndexAny(words, signs)
		if n < 0 {
			b.WriteString(words)
			return
		}
		b.WriteString(words[:n])
		run := words[n:]
		if end := strings.IndexFunc(run, func(r rune) bool { return !strings.ContainsRune(signs, r) }); end >= 0 {
			run = run[:end]
		}
		words = words[n+len(run):]
		switch {
		case strings.Trim(run, "'") != "":
			b.WriteString("'" + strings.ReplaceAll(run, "'", "''") + "'")
		case run == "'" && words != "" && !strings.ContainsAny(words[:1], "<>#"):
			b.WriteByte('\'')
		default:
			b.WriteString(run + run)
		}
	}
}

// args are the values that a message puts in, with all ways in which it does.
func (m Message) args() map[string]map[Kind]bool {
	out := map[string]map[Kind]bool{}
	var walk func(m Message)
	walk = func(m Message) {
		for _, p := range m {
			if p.Arg == "" || p.Kind == Number { // of which its plural counts
				continue
			}
			if out[p.Arg] == nil {
				out[p.Arg] = map[Kind]bool{}
			}
			out[p.Arg][p.Kind] = true
			for _, c := range p.Cases {
				walk(c.Says)
			}
		}
	}
	walk(m)
	return out
}

// spoken tells whether a message has words in it, besides values.
func (m Message) spoken() bool {
	return slices.ContainsFunc(m, func(p Part) bool {
		return p.Arg == "" && strings.ContainsFunc(p.Words, unicode.IsLetter) ||
			slices.ContainsFunc(p.Cases, func(c Case) bool { return c.Says.spoken() })
	})
}
