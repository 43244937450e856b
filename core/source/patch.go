package source

import (
	"bytes"
	"encoding/json"
	"fmt"
	"html"
	"slices"
	"strconv"
	"strings"

	"github.com/aymanbagabas/go-udiff"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/screen"
)

// Repair is one repair of one element, as edits of its document.
type Repair struct {
	Key   string // of what it repairs
	Doc   string
	Edits []screen.Edit
}

// Patched is a file as repairs leave it.
type Patched struct {
	Path          string
	Before, After []byte
	Repairs       []string // keys of what is repaired in it
}

// Unmade is a repair that is no change of a literal.
type Unmade struct{ Key, Where, Why string }

// change is a piece of text in place of another.
type change struct {
	at   Span
	text string
	key  string
}

// Patch turns repairs into changes of literals: of attributes, and of texts. Everything else
// in a file stays as it is, to the byte. What cannot be repaired so is told. A repair is made
// whole or not at all.
func (r *Read) Patch(repairs []Repair) ([]Patched, []Unmade) {
	by := map[*File][]change{}
	var unmade []Unmade
	for _, rep := range repairs {
		made := map[*File][]change{}
		var why error
		for _, e := range rep.Edits {
			file, c, err := r.change(rep.Doc, e)
			if err != nil {
				why = err
				break
			}
			c.key = rep.Key
			made[file] = append(made[file], c)
		}
		if why == nil {
			for file, list := range made {
				if clash(by[file], list) {
					why = fmt.Errorf("another repair changes the same place")
				}
			}
		}
		if why != nil {
			unmade = append(unmade, Unmade{rep.Key, r.where(rep), why.Error()})
			continue
		}
		for file, list := range made {
			by[file] = append(by[file], list...)
		}
	}
	var out []Patched
	for file, list := range by {
		p := Patched{Path: file.Path, Before: file.Text, After: apply(file.Text, list)}
		for _, c := range list {
			if !slices.Contains(p.Repairs, c.key) {
				p.Repairs = append(p.Repairs, c.key)
			}
		}
		out = append(out, p)
	}
	slices.SortFunc(out, func(a, b Patched) int { return strings.Compare(a.Path, b.Path) })
	return out, unmade
}

// Replacement is a piece of a file that a repair puts another text in place of. Lines and columns
// begin at 1, columns count letters; the end is where the piece has ended.
type Replacement struct {
	Path                             string
	Line, Column, EndLine, EndColumn int
	Text                             string
}

// Replacements are what one repair changes, for tools that make it themselves; an error says why it
// is no change of literals.
func (r *Read) Replacements(rep Repair) ([]Replacement, error) {
	var out []Replacement
	for _, e := range rep.Edits {
		file, c, err := r.change(rep.Doc, e)
		if err != nil {
			return nil, err
		}
		one := Replacement{Path: file.Path, Text: c.text}
		one.Line, one.Column = position(file.Text, c.at[0])
		one.EndLine, one.EndColumn = position(file.Text, c.at[1])
		out = append(out, one)
	}
	return out, nil
}

func (r *Read) where(rep Repair) string {
	for _, e := range rep.Edits {
		if p := r.Places[rep.Doc][e.ID]; p != nil {
			line, _ := p.Position()
			return fmt.Sprintf("%s:%d", p.File.Path, line)
		}
	}
	return rep.Doc
}

// clash reports whether changes touch what others change otherwise. The same change twice is one.
func clash(had, list []change) bool {
	for _, c := range list {
		for _, h := range had {
			if c.at == h.at && c.text == h.text {
				continue
			}
			if c.at[0] < h.at[1] && h.at[0] < c.at[1] || c.at == h.at {
				return true
			}
		}
	}
	return false
}

func apply(text []byte, list []change) []byte {
	slices.SortFunc(list, func(a, b change) int {
		if a.at[0] != b.at[0] {
			return a.at[0] - b.at[0]
		}
		return a.at[1] - b.at[1]
	})
	var out bytes.Buffer
	at := 0
	for i, c := range list {
		if i > 0 && c.at == list[i-1].at && c.text == list[i-1].text {
			continue
		}
		out.Write(text[at:c.at[0]])
		out.WriteString(c.text)
		at = c.at[1]
	}
	out.Write(text[at:])
	return out.Bytes()
}

// change is an edit as a change of text.
func (r *Read) change(doc string, e screen.Edit) (*File, change, error) {
	p := r.Places[doc][e.ID]
	if p == nil {
		return nil, change{}, fmt.Errorf("where it stands in code is not known")
	}
	switch e.Op {
	case screen.Set, screen.Unset:
	case screen.SetText:
		if p.Text == nil || p.Text.At == nil {
			return nil, change{}, fmt.Errorf("its text is computed, or of several parts")
		}
		text, err := p.File.words(p.Text, e.Value.Text)
		return p.File, change{at: *p.Text.At, text: text}, err
	default:
		return nil, change{}, fmt.Errorf("to %s an element is more than a change of a literal", e.Op)
	}
	if p.Stands != "" && p.Sets {
		if _, own := p.Props[e.Prop]; !own {
			return nil, change{}, fmt.Errorf("it is %s, which may set %s itself", p.Stands, e.Prop)
		}
	}
	a, set := p.Props[e.Prop]
	if by := r.prop(doc, e); by != nil && by.Selects {
		if !set || e.Op != screen.Set || !slices.Contains(by.Values, e.Value.Text) {
			return nil, change{}, fmt.Errorf("it is known by one of %s, and has to bear it", strings.Join(by.Values, ", "))
		}
		return p.File, change{at: a.Span, text: e.Value.Text}, nil
	}
	if !set && e.Prop == kit.ClassProp {
		return nil, change{}, fmt.Errorf("its classes are computed, or stand elsewhere")
	}
	if !set {
		for i := range p.Node.Attributes {
			if n := &p.Node.Attributes[i]; plainName(n.Name) == plainName(e.Prop) {
				return nil, change{}, fmt.Errorf("%s is computed: %s", n.Name, n.Value.Value)
			}
		}
		if p.Node.Spread {
			return nil, change{}, fmt.Errorf("%s may be set by what is spread on it", e.Prop)
		}
		if e.Op == screen.Unset {
			return nil, change{}, fmt.Errorf("%s is not set here", e.Prop)
		}
		if p.Node.Room == 0 {
			return nil, change{}, fmt.Errorf("where another attribute may stand is not known")
		}
		text, err := p.File.attribute(p.File.nameFor(p.Node, e.Prop), e.Value)
		return p.File, change{at: Span{p.Node.Room, p.Node.Room}, text: p.File.before(p.Node) + text}, err
	}
	if e.Op == screen.Unset {
		from := a.Span[0]
		for from > 0 && strings.ContainsRune(" \t\r\n", rune(p.File.Text[from-1])) {
			from--
		}
		return p.File, change{at: Span{from, a.Span[1]}}, nil
	}
	if e.Prop == kit.ClassProp && e.Op == screen.Set {
		e.Value = screen.Lit(otherClass(a.Value.Value, e.Value.Text))
	}
	if e.Value.Kind == screen.Literal && a.Kind == "text" {
		switch a.Form {
		case "script":
			return p.File, change{at: *a.At, text: script(p.File.Text[a.At[0]:a.At[1]], e.Value.Text)}, nil
		case "attribute":
			if text, ok := p.File.quoted(p.File.Text[a.At[0]:a.At[1]], e.Value.Text); ok {
				return p.File, change{at: *a.At, text: text}, nil
			}
		}
	}
	if a.Form == "script" && e.Value.Kind != screen.Literal {
		return p.File, change{at: *a.At, text: e.Value.Text}, nil
	}
	text, err := p.File.attribute(strings.TrimLeft(a.Name, ":"), e.Value)
	return p.File, change{at: a.Span, text: text}, err
}

// otherClass is a text of classes with those of another where they differ, and all else as it is written; the
// other one where it has more or fewer.
func otherClass(had, want string) string {
	was, is := strings.Fields(had), strings.Fields(want)
	if len(was) != len(is) {
		return want
	}
	var b strings.Builder
	rest := had
	for i, class := range was {
		at := strings.Index(rest, class)
		b.WriteString(rest[:at] + is[i])
		rest = rest[at+len(class):]
	}
	return b.String() + rest
}

// prop is what the kit knows of the setting that an edit changes; nil for what it does not know.
func (r *Read) prop(doc string, e screen.Edit) *kit.Prop {
	if r.W == nil || r.Kit == nil {
		return nil
	}
	d, ok := r.W.Doc(doc)
	if !ok {
		return nil
	}
	el, _ := d.Root.Find(e.ID)
	if el == nil {
		return nil
	}
	def, ok := r.Kit.Component(el.Type)
	if !ok {
		return nil
	}
	p, _ := def.Prop(e.Prop)
	return p
}

// script is a text as JavaScript writes it, in the quotes that stand there.
func script(had []byte, text string) string {
	quote := byte('\'')
	if len(had) > 0 && (had[0] == '"' || had[0] == '`') {
		quote = had[0]
	}
	var b strings.Builder
	b.WriteByte(quote)
	for _, r := range text {
		switch {
		case r == rune(quote) || r == '\\' || r == '$' && quote == '`':
			b.WriteString("\\" + string(r))
		case r == '\n':
			b.WriteString("\\n")
		default:
			b.WriteRune(r)
		}
	}
	b.WriteByte(quote)
	return b.String()
}

// quoted is a text as an attribute has it, in the quotes that stand there; ok is false where it
// cannot be.
func (f *File) quoted(had []byte, text string) (string, bool) {
	quote := `"`
	if len(had) > 0 && had[0] == '\'' {
		quote = "'"
	}
	if f.inScript() {
		return quote + text + quote, !strings.ContainsAny(text, quote+"&\n")
	}
	return quote + html.EscapeString(text) + quote, true
}

// inScript reports whether the file's markup stands in a script.
func (f *File) inScript() bool { return f.Language == "tsx" || f.Language == "script" }

// attribute writes an attribute anew.
func (f *File) attribute(name string, v screen.Value) (string, error) {
	text := v.Text
	switch v.Kind {
	case screen.Literal:
		if out, ok := f.quoted(nil, text); ok {
			return name + "=" + out, nil
		}
		b, _ := json.Marshal(text)
		return name + "={" + string(b) + "}", nil
	case screen.Num:
		if _, err := strconv.ParseFloat(text, 64); err != nil {
			return "", fmt.Errorf("%q is no number", text)
		}
	case screen.Flag:
		if text == "true" && f.Language != "angular" {
			return name, nil
		}
	default:
		return "", fmt.Errorf("only texts, numbers and yes or no can be written")
	}
	switch f.Language {
	case "vue":
		return ":" + name + `="` + text + `"`, nil
	case "angular":
		return "[" + name + `]="` + text + `"`, nil
	case "html":
		return name + `="` + text + `"`, nil
	}
	return name + "={" + text + "}", nil
}

// nameFor is a prop's name as the file would write it.
func (f *File) nameFor(n *Node, prop string) string {
	if f.Language != "vue" && f.Language != "html" {
		return prop
	}
	for i := range n.Attributes {
		if a := n.Attributes[i].Name; strings.ToLower(a) != a && !strings.HasPrefix(a, "@") {
			return prop
		}
	}
	return describe.Kebab(prop)
}

// before is what stands between attributes: a blank, or the line and the room that those of
// this element have.
func (f *File) before(n *Node) string {
	if len(n.Attributes) == 0 {
		return " "
	}
	last := &n.Attributes[0]
	for i := range n.Attributes {
		if n.Attributes[i].Span[0] > last.Span[0] {
			last = &n.Attributes[i]
		}
	}
	from := last.Span[0]
	line := bytes.LastIndexByte(f.Text[:from], '\n') + 1
	if room := string(f.Text[line:from]); line > 0 && strings.TrimSpace(room) == "" {
		end := "\n"
		if line > 1 && f.Text[line-2] == '\r' {
			end = "\r\n"
		}
		return end + room
	}
	return " "
}

// words is what stands between tags, written so that it reads as the text.
func (f *File) words(v *Value, text string) (string, error) {
	switch {
	case v.Form == "script":
		return script(f.Text[v.At[0]:v.At[1]], text), nil
	case f.inScript():
		if strings.ContainsAny(text, "{}<>&\n") || strings.TrimSpace(text) != text {
			b, err := json.Marshal(text)
			return "{" + string(b) + "}", err
		}
		return text, nil
	case strings.Contains(text, "{{") || f.Language == "angular" && strings.ContainsAny(text, "{}@"):
		return "", fmt.Errorf("its text would be read as something computed")
	}
	return strings.NewReplacer("&", "&amp;", "<", "&lt;", ">", "&gt;").Replace(text), nil
}

// Diff is the changes of files as a patch that usual tools apply; Reverse takes them back.
func Diff(files []Patched) string {
	var b strings.Builder
	for _, f := range files {
		b.WriteString(udiff.Unified("a/"+f.Path, "b/"+f.Path, string(f.Before), string(f.After)))
	}
	return b.String()
}

// Reverse is the same files, back as they were.
func Reverse(files []Patched) []Patched {
	out := slices.Clone(files)
	for i := range out {
		out[i].Before, out[i].After = out[i].After, out[i].Before
	}
	return out
}
