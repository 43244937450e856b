package emit

import (
	"slices"
	"strconv"
	"strings"
	"unicode"
)

// reserved are the words that cannot name a variable in JavaScript (ECMA-262, strict code)
// or that everybody takes for something of the language or the browser.
var reserved = func() map[string]bool {
	out := map[string]bool{}
	for _, w := range strings.Fields(`
	abstract accessor any arguments as asserts async await bigint boolean break case catch class const constructor
	continue debugger declare default delete do else enum eval export extends false finally for from function get
	global if implements import in infer instanceof interface intrinsic is keyof let module namespace never new null
	number object of out override package private protected public readonly require return satisfies set static
	string super switch symbol this throw true try type typeof undefined unique unknown using var void while with yield
	NaN Infinity globalThis window document event name status location history self top parent length screen
	Array Boolean Date Error Function HTMLElement InstanceType Map Number Object Partial Promise Record Set String
	Symbol Event Element Node Text Range Selection Option Image Request Response Plain Maybe Page React JSX
	encodeURIComponent props emit attrs slots key ref children style slot`) {
		out[w] = true
	}
	return out
}()

// keyword are those of the reserved that the language itself refuses.
var keyword = func() map[string]bool {
	out := map[string]bool{}
	for _, w := range strings.Fields(`arguments await break case catch class const continue debugger default delete do else
		enum eval export extends false finally for function if implements import in instanceof interface let new null
		package private protected public return static super switch this throw true try typeof var void while with yield`) {
		out[w] = true
	}
	return out
}()

// Reserved reports whether a name cannot be given to a variable of delivered code.
func Reserved(name string) bool { return reserved[name] }

// Names gives out names, each once: nothing shadows anything.
type Names struct{ taken, local map[string]bool }

// Local is a name within a function or a loop: it may be used again where the other is not
// around, and never means what stands outside. in are those of the functions around.
func (n *Names) Local(wanted string, in []string) string {
	if n.local == nil {
		n.local = map[string]bool{}
	}
	wanted = Identifier(wanted)
	name := wanted
	for i := 2; n.taken[name] || reserved[name] || slices.Contains(in, name); i++ {
		name = wanted + strconv.Itoa(i)
	}
	n.local[name] = true
	return name
}

// Take is the name, or one like it where it is taken or means something already.
func (n *Names) Take(wanted string) string {
	if n.taken == nil {
		n.taken = map[string]bool{}
	}
	wanted = Identifier(wanted)
	name := wanted
	for i := 2; n.taken[name] || n.local[name] || reserved[name]; i++ {
		name = wanted + strconv.Itoa(i)
		if i == 2 && reserved[wanted] && !n.taken[wanted+"Value"] {
			name = wanted + "Value"
		}
	}
	n.taken[name] = true
	return name
}

// Import is the name of something that a module gives: its own, where that is not taken.
func (n *Names) Import(name string) string {
	if !IsIdentifier(name) || n.taken[name] || n.local[name] || keyword[name] {
		return n.Take(name)
	}
	n.Keep(name)
	return name
}

// Keep marks names as taken.
func (n *Names) Keep(names ...string) {
	if n.taken == nil {
		n.taken = map[string]bool{}
	}
	for _, name := range names {
		n.taken[name] = true
	}
}

// Words takes a name apart: "due-date" and "dueDate" are due and date.
func Words(s string) []string {
	var out []string
	var b strings.Builder
	flush := func() {
		if b.Len() > 0 {
			out = append(out, b.String())
			b.Reset()
		}
	}
	before := ' '
	for _, r := range s {
		switch {
		case !unicode.IsLetter(r) && !unicode.IsDigit(r):
			flush()
		case unicode.IsUpper(r) && !unicode.IsUpper(before):
			flush()
			b.WriteRune(r)
		default:
			b.WriteRune(r)
		}
		before = r
	}
	flush()
	return out
}

// Pascal is a type's or component's name: "new-ticket" is NewTicket.
func Pascal(s string) string {
	var b strings.Builder
	for _, w := range Words(s) {
		r := []rune(w)
		b.WriteRune(unicode.ToUpper(r[0]))
		b.WriteString(string(r[1:]))
	}
	out := b.String()
	if out == "" || !unicode.IsLetter([]rune(out)[0]) {
		return "X" + out
	}
	return out
}

// Camel is a variable's name: "due-date" is dueDate.
func Camel(s string) string {
	r := []rune(Pascal(s))
	r[0] = unicode.ToLower(r[0])
	return string(r)
}

// Kebab is a file's name: "NewTicket" is new-ticket.
func Kebab(s string) string {
	words := Words(s)
	for i := range words {
		words[i] = strings.ToLower(words[i])
	}
	if len(words) == 0 {
		return "x"
	}
	return strings.Join(words, "-")
}

// Identifier is a name as JavaScript takes one; one that it takes already stays.
func Identifier(s string) string {
	if IsIdentifier(s) {
		return s
	}
	return Camel(s)
}

// IsIdentifier tells whether a text can stand as a name in code.
func IsIdentifier(s string) bool {
	for i, r := range s {
		if r != '_' && r != '$' && !unicode.IsLetter(r) && (i == 0 || !unicode.IsDigit(r)) {
			return false
		}
	}
	return s != ""
}
