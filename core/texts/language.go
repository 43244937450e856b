package texts

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"golang.org/x/text/language"
	"golang.org/x/text/language/display"

	"ubiquant/core/expr"
	"ubiquant/core/screen"
)

// Language is one that the texts are in.
type Language struct {
	ID string `json:"id"` // as BCP 47 writes languages: "de", "pt-BR"
	// Written tells that the documents are written in it; the others are translations.
	Written bool `json:"written,omitempty"`
}

// Said is one text in another language.
type Said struct {
	Language string `json:"language"`
	Key      string `json:"key"`
	Is       string `json:"is"` // the message
	Of       string `json:"of"` // the message that it was made of, which may have changed since
}

// Address tells what is said from all else that is.
func (s *Said) Address() string { return s.Language + " " + s.Key }

// Source is the language that texts are written in where nobody says otherwise.
const Source = "en"

// Check tells whether a language is one; the error says what is accepted.
func Check(id string) error {
	tag, err := language.Parse(id)
	if err != nil || tag.String() != id || id == "und" {
		return fmt.Errorf("%q is no language; accepted: as BCP 47 writes it, such as de, pl or pt-BR", id)
	}
	return nil
}

// Name is what a language is called, in English and in itself: "German (Deutsch)".
func Name(id string) string {
	tag := language.Make(id)
	name, own := display.English.Tags().Name(tag), display.Self.Name(tag)
	if name == "" {
		return id
	}
	if own == "" || own == name {
		return name
	}
	return name + " (" + own + ")"
}

// Direction is "rtl" for languages that are written from the right, else "ltr".
func Direction(id string) string {
	script, _ := language.Make(id).Script()
	if slices.Contains([]string{"Arab", "Hebr", "Thaa", "Syrc", "Nkoo", "Adlm", "Rohg", "Mand", "Samr"}, script.String()) {
		return "rtl"
	}
	return "ltr"
}

// Problem is something about a text in a language that does not hold.
type Problem struct {
	Key     string `json:"key"`
	Message string `json:"message"`
	// Stays tells that the text stays as it is written; else it is shown all the same.
	Stays bool `json:"stays"`
}

// Read is a message in another language, held against the text: an error where it cannot stand
// for it, a warning where something is likely forgotten.
func (t *Text) Read(message string) (m Message, warning string, err error) {
	if strings.TrimSpace(message) == "" {
		return nil, "", fmt.Errorf("it says nothing")
	}
	if m, err = Parse(message); err != nil {
		return nil, "", err
	}
	used := m.args()
	for _, name := range slices.Sorted(maps.Keys(used)) {
		v, ok := t.named(name)
		switch {
		case !ok:
			return nil, "", fmt.Errorf("there is no value %s; known: %s", name, t.names())
		case used[name][Plural] && v.Of != expr.Number:
			return nil, "", fmt.Errorf("%s is no number, and has no plural", name)
		case used[name][Select] && v.Of == expr.Number:
			return nil, "", fmt.Errorf("%s is a number; a plural with =0 and the like asks for it", name)
		case used[name][AsItIs] && v.Of == expr.Bool:
			return nil, "", fmt.Errorf("%s is yes or no; a select with true and other asks for it", name)
		}
	}
	var gone []string
	for _, v := range t.Values {
		if _, ok := used[v.Name]; !ok {
			gone = append(gone, v.Name)
		}
	}
	if len(gone) > 0 {
		warning = "it does not say " + strings.Join(gone, ", ")
	}
	if source, err := t.expression(m, "en"); err != nil {
		return nil, "", err
	} else if len([]rune(source)) > longest {
		return nil, "", fmt.Errorf("it is too long; accepted: about %d characters", longest)
	}
	return m, warning, nil
}

// longest bounds an expression.
const longest = 3900

func (t *Text) named(name string) (*Value, bool) {
	for i := range t.Values {
		if t.Values[i].Name == name {
			return &t.Values[i], true
		}
	}
	return nil, false
}

func (t *Text) names() string {
	if len(t.Values) == 0 {
		return "none"
	}
	names := make([]string, len(t.Values))
	for i, v := range t.Values {
		names[i] = v.Name
	}
	return strings.Join(names, ", ")
}

// expression is the expression that says a message with the values of the text.
func (t *Text) expression(m Message, lang string) (string, error) {
	parts := make([]string, 0, len(m))
	for i := range m {
		p := &m[i]
		if p.Arg == "" {
			parts = append(parts, expr.Quote(p.Words))
			continue
		}
		v, ok := t.named(p.Arg)
		if !ok {
			return "", fmt.Errorf("there is no value %s", p.Arg)
		}
		source := "(" + v.Source + ")"
		switch p.Kind {
		case AsItIs, Number:
			if v.Of != expr.Text {
				source = "text" + source
			}
			parts = append(parts, source)
			continue
		case Plural, Select:
		}
		said, err := t.choice(p, v, lang)
		if err != nil {
			return "", err
		}
		parts = append(parts, said)
	}
	if len(parts) == 0 {
		return "''", nil
	}
	return strings.Join(parts, " + "), nil
}

func (t *Text) choice(p *Part, v *Value, lang string) (string, error) {
	source := "(" + v.Source + ")"
	var exact, rest []Case
	other := Case{}
	for _, c := range p.Cases {
		switch {
		case c.Is == "other":
			other = c
		case strings.HasPrefix(c.Is, "="):
			exact = append(exact, c)
		default:
			rest = append(rest, c)
		}
	}
	out, err := t.expression(other.Says, lang)
	if err != nil {
		return "", err
	}
	for _, c := range slices.Backward(append(exact, rest...)) {
		says, err := t.expression(c.Says, lang)
		if err != nil {
			return "", err
		}
		asks := source + " == " + expr.Quote(c.Is)
		switch {
		case p.Kind == Plural && strings.HasPrefix(c.Is, "="):
			asks = source + " == " + c.Is[1:]
		case p.Kind == Plural:
			asks = "form(" + v.Source + ", " + expr.Quote(lang) + ") == " + expr.Quote(c.Is)
		case v.Of == expr.Bool && c.Is == "true":
			asks = source
		case v.Of == expr.Bool && c.Is == "false":
			asks = "!" + source
		case v.Of == expr.Bool:
			continue // never is
		}
		out = asks + " ? " + says + " : " + out
	}
	return "(" + out + ")", nil
}

// said is the value that a message gives a text.
func (t *Text) said(m Message, lang string) (screen.Value, error) {
	if !slices.ContainsFunc(m, func(p Part) bool { return p.Arg != "" }) {
		var b strings.Builder
		for _, p := range m {
			b.WriteString(p.Words)
		}
		return screen.Lit(b.String()), nil
	}
	source, err := t.expression(m, lang)
	return screen.Value{Kind: screen.Expr, Text: source}, err
}

// Table is a language beside the texts as they are now.
type Table struct {
	Language string
	said     map[string]*Said // by the keys of the texts
	// Lost are those of no text: it was removed, or stands elsewhere now.
	Lost []Said
}

// Beside puts what is said in a language beside the texts. A text whose element became another
// kind keeps what it had.
func Beside(list []Text, lang string, said []Said) *Table {
	out := &Table{Language: lang, said: map[string]*Said{}}
	by := make(map[string]*Said, len(said))
	for i := range said {
		if said[i].Language == lang {
			by[said[i].Key] = &said[i]
		}
	}
	for i := range list {
		if s := by[list[i].Key]; s != nil {
			out.said[list[i].Key] = s
			delete(by, list[i].Key)
		}
	}
	for i := range list {
		t := &list[i]
		if out.said[t.Key] != nil || len(by) == 0 {
			continue
		}
		for _, key := range slices.Sorted(maps.Keys(by)) {
			if t.was(key) {
				out.said[t.Key] = by[key]
				delete(by, key)
				break
			}
		}
	}
	for _, key := range slices.Sorted(maps.Keys(by)) {
		out.Lost = append(out.Lost, *by[key])
	}
	return out
}

// was tells whether a key is the text's own with another kind of element.
func (t *Text) was(key string) bool {
	head, last := t.stem, ""
	if i := strings.LastIndexByte(head, '.'); i >= 0 {
		head, last = head[:i], head[i:]
	}
	i := strings.LastIndexByte(head, '.')
	if t.Element == "" || i < 0 {
		return false
	}
	at, id := head[:i+1], head[i+1:]
	kind, ok := strings.CutPrefix(key, at)
	if !ok {
		return false
	}
	kind, ok = strings.CutSuffix(kind, "-"+id+last)
	return ok && kind != "" && !strings.Contains(kind, ".")
}

// Of is what the language says for a text; nil where it says nothing.
func (t *Table) Of(text *Text) *Said { return t.said[text.Key] }

// In is the documents in a language, and what of it does not hold. What is not said in it stays as
// it is written.
func In(in Input, lang string, said []Said) ([]*screen.Document, []Problem) {
	list, _ := List(in)
	table := Beside(list, lang, said)
	var problems []Problem
	w := newWalk(in)
	out := make([]*screen.Document, len(in.Docs))
	for i, d := range in.Docs {
		out[i] = w.document(d, func(t *Text, v screen.Value) screen.Value {
			s := table.Of(t)
			if s == nil {
				return v
			}
			m, warning, err := t.Read(s.Is)
			if err == nil {
				var now screen.Value
				if now, err = t.said(m, lang); err == nil {
					if warning != "" {
						problems = append(problems, Problem{t.Key, warning, false})
					}
					return now
				}
			}
			problems = append(problems, Problem{t.Key, err.Error(), true})
			return v
		})
	}
	return out, problems
}
