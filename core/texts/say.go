package texts

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"cel.dev/cel-go/common/operators"

	"ubiquant/core/expr"
)

// maker makes the message of an expression: its words stand in it, and what is computed is put
// in as values. A choice between words is a select, plural a plural.
type maker struct {
	t      *Text
	out    Message
	inside string // why words of it are in no message
	counts string // the number whose plural this is within, as it is written
}

func (m *maker) words(s string) {
	if s == "" {
		return
	}
	if n := len(m.out); n > 0 && m.out[n-1].Arg == "" {
		m.out[n-1].Words += s
		return
	}
	m.out = append(m.out, Part{Words: s})
}

func (m *maker) say(n expr.Node) {
	args := n.Args()
	switch op := n.Op(); {
	case op == "lit" && n.Type().Kind == expr.Text:
		s, _ := n.Value().(string)
		m.words(s)
		return
	case op == operators.Add && n.Type().Kind == expr.Text:
		m.say(args[0])
		m.say(args[1])
		return
	case (op == "text" || op == "string") && args[0].Type().Kind == expr.Text:
		m.say(args[0])
		return
	case (op == "text" || op == "string") && args[0].Type().Kind == expr.Number && args[0].Source() != "":
		part := Part{Arg: m.value(args[0], expr.Number)}
		if args[0].Source() == m.counts {
			part.Kind = Number
		}
		m.out = append(m.out, part)
		return
	case op == "plural" && args[0].Source() != "":
		name := m.value(args[0], expr.Number)
		one, many := m.inner(args[1], args[0].Source()), m.inner(args[2], args[0].Source())
		number := func(says Message) Message {
			out := Message{{Arg: name, Kind: Number}, {Words: " "}}
			if len(says) > 0 && says[0].Arg == "" {
				out[1].Words += says[0].Words
				says = says[1:]
			}
			return append(out, says...)
		}
		m.out = append(m.out, Part{Arg: name, Kind: Plural, Cases: []Case{{"one", number(one)}, {"other", number(many)}}})
		return
	case op == operators.Conditional && n.Type().Kind == expr.Text:
		if m.choice(args) {
			return
		}
	}
	m.computed(n)
}

// inner is the message of a part, whose values are those of the whole; counts is the number whose
// plural it stands in, empty for none.
func (m *maker) inner(n expr.Node, counts string) Message {
	in := maker{t: m.t, counts: counts}
	in.say(n)
	if m.inside == "" {
		m.inside = in.inside
	}
	return in.out
}

// key is a word that a select can ask for.
var key = regexp.MustCompile(`^[\p{L}\p{N}_]+$`)

// choice says a choice between two: by what a text is, where it asks for that, else by yes or no.
// It does not where neither side has words: then it is a value like others.
func (m *maker) choice(args []expr.Node) bool {
	had := len(m.t.Values)
	if on, is, ok := asks(args[0]); ok {
		part, of, counts := Part{Kind: Select}, expr.Text, ""
		if number := on.Args(); on.Op() == "form" {
			part.Kind, of, on, counts = Plural, expr.Number, number[0], number[0].Source()
		}
		asked, then := args[0], args
		for {
			part.Cases = append(part.Cases, Case{is, m.inner(then[1], counts)})
			next := then[2]
			if is = further(asked, next); is == "" || slices.ContainsFunc(part.Cases, func(c Case) bool { return c.Is == is }) {
				part.Cases = append(part.Cases, Case{"other", m.inner(next, counts)})
				break
			}
			then = next.Args()
		}
		if (Message{part}).spoken() {
			part.Arg = m.value(on, of)
			m.out = append(m.out, part)
			return true
		}
		m.t.Values = m.t.Values[:had]
		return false
	}
	if args[0].Source() == "" {
		return false
	}
	part := Part{Kind: Select, Cases: []Case{{"true", m.inner(args[1], "")}, {"other", m.inner(args[2], "")}}}
	if !(Message{part}).spoken() {
		m.t.Values = m.t.Values[:had]
		return false
	}
	part.Arg = m.value(args[0], expr.Bool)
	m.out = append(m.out, part)
	return true
}

// asks tells whether a condition asks what a text is: of which, and for what.
func asks(n expr.Node) (on expr.Node, is string, ok bool) {
	if n.Op() != operators.Equals {
		return n, "", false
	}
	a, b := n.Args()[0], n.Args()[1]
	if a.Op() == "lit" {
		a, b = b, a
	}
	is, ok = b.Value().(string)
	if a.Op() == "form" && !slices.Contains(forms, is) {
		return n, "", false
	}
	return a, is, ok && b.Op() == "lit" && a.Op() != "lit" && a.Source() != "" && a.Type().Kind == expr.Text && key.MatchString(is) && is != "other"
}

// further is what another choice asks for, where it asks the same as one before; empty where it does not.
func further(asked, next expr.Node) string {
	if next.Op() != operators.Conditional || next.Type().Kind != expr.Text {
		return ""
	}
	was, _, _ := asks(asked)
	on, is, ok := asks(next.Args()[0])
	if !ok || on.Source() != was.Source() {
		return ""
	}
	return is
}

// computed puts a value in.
func (m *maker) computed(n expr.Node) {
	if n.Source() == "" {
		m.inside = "its words are put in by a rule of the data, not by the screen"
		return
	}
	if wordsIn(n) {
		m.inside = "words stand within what is computed, as in upper('…'); they stay as they are"
	}
	m.out = append(m.out, Part{Arg: m.value(n, n.Type().Kind)})
}

// wordsIn tells whether what is computed has words in it that people read: those that a function
// of texts is given.
func wordsIn(n expr.Node) bool {
	switch n.Op() {
	case "lower", "upper", "initials", "joined", operators.Conditional:
		return slices.ContainsFunc(n.Args(), func(a expr.Node) bool {
			s, _ := a.Value().(string)
			return a.Op() == "lit" && strings.ContainsFunc(s, unicode.IsLetter) || wordsIn(a)
		})
	}
	return false
}

// value is the name of a value; the same one has the same name.
func (m *maker) value(n expr.Node, of expr.Kind) string {
	source := n.Source()
	for _, v := range m.t.Values {
		if v.Source == source && v.Of == of {
			return v.Name
		}
	}
	base := called(n)
	name := base
	for i := 2; slices.ContainsFunc(m.t.Values, func(v Value) bool { return v.Name == name }); i++ {
		name = base + strconv.Itoa(i)
	}
	m.t.Values = append(m.t.Values, Value{name, source, of})
	return name
}

// called is what a value is called by: the field, control or list that it is of.
func called(n expr.Node) string {
	if n.Op() == "has" {
		return "has" + strings.ToUpper(n.Text()[:1]) + n.Text()[1:]
	}
	if n.Text() != "" && key.MatchString(n.Text()) && n.Op() != "var" {
		return n.Text()
	}
	for _, a := range n.Args() {
		if name := called(a); name != "value" {
			return name
		}
	}
	return "value"
}
