package cases

import (
	"maps"
	"regexp"
	"slices"
	"strings"
	"unicode"

	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

func sortedKeys(m map[string]*sample.Model) []string { return slices.Sorted(maps.Keys(m)) }

// thing is what a route is about: the first part of it.
func thing(route string) string {
	first, _, _ := strings.Cut(strings.TrimPrefix(route, "/"), "/")
	return first
}

// Shape is a route without what it is about: "/tickets/:id/edit" is ":/edit", "/tickets" is "top".
func Shape(route string) string {
	parts := strings.FieldsFunc(route, func(r rune) bool { return r == '/' })
	switch len(parts) {
	case 0:
		return "root"
	case 1:
		return "top"
	}
	for i, p := range parts {
		if parameter(p) {
			parts[i] = ":"
		}
	}
	return strings.Join(parts[1:], "/")
}

// Bare is a route with its parameters left open.
func Bare(route string) string {
	parts := strings.FieldsFunc(route, func(r rune) bool { return r == '/' })
	for i, p := range parts {
		if parameter(p) {
			parts[i] = ":"
		}
	}
	return "/" + strings.Join(parts, "/")
}

func parameter(part string) bool {
	return strings.HasPrefix(part, ":") || strings.ContainsAny(part, "0123456789") || part == "\x00"
}

var quoted = regexp.MustCompile(`'([^']*)'|"([^"]*)"`)

// Address is where a value leads; what is computed of it is one part.
func Address(v screen.Value) string {
	if v.Kind != screen.Expr {
		path, _, _ := strings.Cut(v.Text, "?")
		path, _, _ = strings.Cut(path, "#")
		return path
	}
	var b strings.Builder
	at := 0
	for _, m := range quoted.FindAllStringSubmatchIndex(v.Text, -1) {
		if strings.Contains(v.Text[at:m[0]], "record") || strings.Contains(v.Text[at:m[0]], "route") {
			b.WriteString("\x00")
		}
		b.WriteString(v.Text[m[0]+1 : m[1]-1])
		at = m[1]
	}
	if strings.TrimSpace(v.Text[at:]) != "" {
		b.WriteString("\x00")
	}
	return b.String()
}

// Leads says where something leads, seen from a screen's route: up to what holds it, to another
// screen about the same thing, elsewhere; and the shape of the route it leads to.
func Leads(from string, to screen.Value) string {
	path := Address(to)
	if !strings.HasPrefix(path, "/") {
		return "out"
	}
	a := strings.FieldsFunc(from, func(r rune) bool { return r == '/' })
	b := strings.FieldsFunc(path, func(r rune) bool { return r == '/' })
	for i := range a {
		if parameter(a[i]) {
			a[i] = ":"
		}
	}
	for i := range b {
		if parameter(b[i]) {
			b[i] = ":"
		}
	}
	switch {
	case slices.Equal(a, b):
		return "here"
	case len(b) == 0 && len(a) > 1:
		return "home" // which is no way up: that leads to what is one above
	case len(b) < len(a) && slices.Equal(a[:len(b)], b):
		return "up"
	case len(b) > 1:
		return strings.Join(b[1:], "/")
	case len(b) == 0:
		return "home"
	}
	return "top"
}

// NameOf is the text that an element goes by; empty where it is computed.
func NameOf(def *kit.Component, e *screen.Element) string {
	if def.NameProp != "" {
		if v, ok := e.Prop(def.NameProp); ok && v.Kind == screen.Literal {
			return v.Text
		}
	}
	if e.Text.Kind == screen.Literal {
		return e.Text.Text
	}
	return ""
}

func firstWord(s string) string {
	s = strings.ToLower(strings.TrimSpace(s))
	if end := strings.IndexFunc(s, func(r rune) bool { return !unicode.IsLetter(r) && r != '\'' }); end >= 0 {
		s = s[:end]
	}
	return s
}

var recordField = regexp.MustCompile(`record\.([a-zA-Z_]\w*)`)

// fieldIn is the one field of the record that an expression reads; empty where there are others.
func fieldIn(expr string) string {
	field := ""
	for _, m := range recordField.FindAllStringSubmatch(expr, -1) {
		if m[1] == "id" || m[1] == field {
			continue
		}
		if field != "" {
			return ""
		}
		field = m[1]
	}
	return field
}

// fieldShown is the field that an element's text shows, or that one of its props does.
func fieldShown(e *screen.Element) string {
	if !e.Text.Known() {
		return shownBy(e.Text)
	}
	if e.Text.Kind != screen.None {
		return ""
	}
	for i := range e.Props {
		if p := &e.Props[i]; !p.Value.Known() && p.Name != "to" && p.Name != "href" {
			if f := shownBy(p.Value); f != "" {
				return f
			}
		}
	}
	return ""
}

// member is the last name of a way through code: of "ticket.due", "props.row?.original.due".
var member = regexp.MustCompile(`[A-Za-z_$][\w$]*(?:\(\))?(?:[?!]?\.[A-Za-z_$][\w$]*(?:\(\))?)*[?!]?\.([A-Za-z_$][\w$]*)\b`)

// shownBy is the field that a computed value shows. In code it is the one way through an
// object that stands there, alone or in a call.
func shownBy(v screen.Value) string {
	if v.Kind == screen.Expr {
		return fieldIn(v.Text)
	}
	field := ""
	for _, m := range member.FindAllStringSubmatch(v.Text, -1) {
		if m[1] == "id" || m[1] == field || m[1] == "length" {
			continue
		}
		if field != "" {
			return ""
		}
		field = m[1]
	}
	return field
}

var leadingCall = regexp.MustCompile(`^(\w+)\(`)

// codeTypes are words in the names of functions and pipes that say what they write.
var codeTypes = []struct {
	words *regexp.Regexp
	typ   sample.FieldType
}{
	{regexp.MustCompile(`(?i)(?:\b|\w)(?:money|currency|price)\(|\|\s*(?:money|currency)\b`), sample.Money},
	{regexp.MustCompile(`(?i)\b\w*(?:date|day|month|time|ago)\w*\(|\|\s*(?:date|day|month)\b|\.format\(`), sample.Date},
	{regexp.MustCompile(`(?i)\b(?:format|to)?(?:number|percent|fixed|amount|count|size)\w*\(|\|\s*(?:number|percent|decimal)\b|\.length$`), sample.Number},
}

// typeShown is the type of what a value gives, as far as its outermost function tells; in
// code, as far as the names of functions and pipes in it do.
func typeShown(v screen.Value) string {
	if v.Kind == screen.Bound {
		for _, c := range codeTypes {
			if c.words.MatchString(v.Text) {
				return string(c.typ)
			}
		}
		return ""
	}
	expr := v.Text
	m := leadingCall.FindStringSubmatch(strings.TrimSpace(expr))
	if m == nil {
		return ""
	}
	switch m[1] {
	case "day", "weekday", "shortDay", "month":
		return string(sample.Date)
	case "money":
		return string(sample.Money)
	case "number", "upTo", "size", "count", "sum", "average":
		return string(sample.Number)
	case "text":
		if strings.Contains(expr, "size(") {
			return string(sample.Number)
		}
	}
	return ""
}

var calledField = regexp.MustCompile(`\w+\(record\.([a-zA-Z_]\w*)[^()]*\)`)

// formatAt is where an expression writes a field: the call around it, or the field alone. Whether it
// is there is asked, and not written.
func formatAt(expr, field string) (from, to int) {
	for _, m := range calledField.FindAllStringSubmatchIndex(expr, -1) {
		if expr[m[2]:m[3]] == field && !strings.HasPrefix(expr[m[0]:], "has(") {
			return m[0], m[1]
		}
	}
	for _, m := range recordField.FindAllStringSubmatchIndex(expr, -1) {
		if expr[m[2]:m[3]] == field && !strings.HasSuffix(expr[:m[0]], "has(") {
			return m[0], m[1]
		}
	}
	return 0, 0
}

var afterComma = regexp.MustCompile(`,\s*`)

// formatOf is how an expression writes a field, the field left open: "day(record.due)" is
// "day(·)", and so is "'Due ' + day(record.due)".
func formatOf(expr, field string) string {
	from, to := formatAt(expr, field)
	if from == to {
		return ""
	}
	return afterComma.ReplaceAllString(strings.ReplaceAll(expr[from:to], "record."+field, "·"), ", ")
}

// Written is where an element writes a field and how: its text, or the first prop of words that does;
// both empty where none does.
func Written(def *kit.Component, e *screen.Element, field string) (prop, expr string) {
	if e.Text.Kind == screen.Expr && fieldIn(e.Text.Text) == field {
		return "text", e.Text.Text
	}
	for i := range e.Props {
		p := &e.Props[i]
		if p.Value.Kind != screen.Expr || fieldIn(p.Value.Text) != field || formatOf(p.Value.Text, field) == "" {
			continue
		}
		if d, ok := def.Prop(p.Name); ok && d.Type == kit.Text && !d.URL && !d.JSON && !d.Icon && d.Tokens == "" && len(d.Values) == 0 {
			return p.Name, p.Value.Text
		}
	}
	return "", ""
}

// FormatWith is an expression with its field written in another format.
func FormatWith(expr, field, format string) string {
	from, to := formatAt(expr, field)
	return expr[:from] + strings.ReplaceAll(format, "·", "record."+field) + expr[to:]
}

// spaced takes a name of code apart: "workTickets" is "work tickets".
func spaced(name string) string {
	var b strings.Builder
	for i, r := range name {
		if r == '-' || r == '_' || unicode.IsUpper(r) && i > 0 && !strings.HasSuffix(b.String(), " ") {
			b.WriteByte(' ')
		}
		if r != '-' && r != '_' {
			b.WriteRune(unicode.ToLower(r))
		}
	}
	return strings.Join(strings.Fields(b.String()), " ")
}

// forms are the singular and plural of a noun.
func forms(noun string) []string {
	if noun == "" {
		return nil
	}
	out := []string{noun}
	switch {
	case strings.HasSuffix(noun, "ies"):
		out = append(out, strings.TrimSuffix(noun, "ies")+"y")
	case strings.HasSuffix(noun, "sses"), strings.HasSuffix(noun, "xes"), strings.HasSuffix(noun, "ches"), strings.HasSuffix(noun, "shes"):
		out = append(out, strings.TrimSuffix(noun, "es"))
	case strings.HasSuffix(noun, "s") && !strings.HasSuffix(noun, "ss"):
		out = append(out, strings.TrimSuffix(noun, "s"))
	case strings.HasSuffix(noun, "y") && len(noun) > 1 && !strings.ContainsRune("aeiou", rune(noun[len(noun)-2])):
		out = append(out, strings.TrimSuffix(noun, "y")+"ies")
	case strings.HasSuffix(noun, "x"), strings.HasSuffix(noun, "ch"), strings.HasSuffix(noun, "sh"), strings.HasSuffix(noun, "ss"):
		out = append(out, noun+"es")
	default:
		out = append(out, noun+"s")
	}
	return out
}

// Open stands in a pattern of words for the thing spoken of.
const Open = "{}"

// Pattern is a text in small letters with the thing that it speaks of left open, and that thing
// as it was written: "New ticket" is "new {}" and "ticket".
func (in *reading) pattern(text, to string) (pattern, noun string) {
	text = strings.Trim(strings.TrimSpace(text), ".:!…")
	low := strings.ToLower(text)
	if low == in.title && in.title != "" {
		return "{title}", text
	}
	words, lows := strings.Fields(text), strings.Fields(low)
	if len(words) != len(lows) || len(words) == 0 {
		return low, ""
	}
	local := map[string]bool{}
	for _, route := range []string{in.doc.Route, to} {
		for _, part := range strings.FieldsFunc(route, func(r rune) bool { return r == '/' }) {
			if !parameter(part) && part != "new" && part != "edit" {
				for _, f := range forms(spaced(part)) {
					local[f] = true
				}
			}
		}
	}
	for length := min(3, len(words)); length > 0; length-- {
		for at := len(words) - length; at >= 0; at-- {
			run := strings.Join(lows[at:at+length], " ")
			if !in.nouns[run] && !local[run] {
				continue
			}
			parts := slices.Concat(lows[:at], []string{Open}, lows[at+length:])
			return strings.Join(parts, " "), strings.Join(words[at:at+length], " ")
		}
	}
	return low, ""
}

// StyleOf says how a text of words is written: "Sentence", "Title Case", "CAPITALS" or "small"
// letters; empty where one cannot tell.
func StyleOf(text string) string {
	words := strings.Fields(text)
	if len(words) == 0 {
		return ""
	}
	if len(text) > 4 && text == strings.ToUpper(text) && text != strings.ToLower(text) {
		return "CAPITALS"
	}
	capital, small := 0, 0
	for i, w := range words {
		r := []rune(w)
		switch {
		case !unicode.IsLetter(r[0]), len(r) > 1 && w == strings.ToUpper(w):
			return "" // a number, or a short form such as PDF
		case i == 0:
		case unicode.IsUpper(r[0]):
			capital++
		case len(r) > 3: // shorter words are small in either way of writing
			small++
		}
	}
	switch {
	case unicode.IsLower([]rune(words[0])[0]):
		return "small"
	case capital > 0 && small > 0:
		return "" // a name in it
	case capital > 0:
		return "Title Case"
	}
	return "Sentence"
}

// shortForms are words that are written in capitals wherever they stand, besides those without a vowel (PDF).
var shortForms = map[string]bool{
	"ID": true, "IDS": true, "IP": true, "UI": true, "API": true, "URL": true, "URI": true, "UUID": true, "FAQ": true, "EU": true, "UK": true,
	"USA": true, "IBAN": true, "EAN": true, "ISBN": true, "ISO": true, "SKU": true, "CEO": true, "AI": true, "SAP": true, "USB": true,
	"UTC": true, "GUI": true, "VAT": true, "ETA": true,
}

// shortForm tells whether a word in capitals is a short form, as far as the word alone can tell.
func shortForm(w string) bool {
	letters := strings.TrimFunc(w, func(r rune) bool { return !unicode.IsLetter(r) })
	if len(letters) < 2 || letters != strings.ToUpper(letters) {
		return false
	}
	return shortForms[letters] || len(letters) <= 5 && !strings.ContainsAny(letters, "AEIOUY") && letters[0] < unicode.MaxASCII
}

// Restyle writes a text as a style says, short forms as they are; ok is false where that is not certain.
func Restyle(text, style string) (out string, ok bool) {
	words := strings.Fields(text)
	for i, w := range words {
		if shortForm(w) {
			continue
		}
		r := []rune(strings.ToLower(w))
		if style == "Title Case" || style == "Sentence" && i == 0 {
			r[0] = unicode.ToUpper(r[0])
		}
		words[i] = string(r)
		if style == "CAPITALS" {
			words[i] = strings.ToUpper(w)
		}
	}
	out = strings.Join(words, " ")
	return out, len(words) > 0 && out != text
}

// endOf is the mark that a text ends with.
func endOf(text string) string {
	switch r := []rune(text); r[len(r)-1] {
	case '.', ':', '!', '?', '…', '*':
		if strings.HasSuffix(text, "...") {
			return "..."
		}
		return string(r[len(r)-1])
	}
	return "none"
}
