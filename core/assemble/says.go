package assemble

import (
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/expr"
	"ubiquant/core/kit/describe"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

var (
	// path is a name of code with what is taken of it: "bed", "bed.soil", "bed?.soil".
	path = regexp.MustCompile(`(?:^|[^\w.$'"])([a-z_$][\w$]*)\??\.([a-zA-Z_]\w*)`)
	// hole is a value among words.
	hole = regexp.MustCompile(`\{([^{}]*)\}`)
	// against is a field compared with a word.
	against = regexp.MustCompile(`\.([a-zA-Z_]\w*)\s*[!=]==?\s*['"]([^'"]*)['"]`)
	// called is a name that begins a call.
	called = regexp.MustCompile(`[\w$]\s*\(`)
	// length is how many records a list has, compared with a number.
	length = regexp.MustCompile(`^([a-zA-Z_]\w*)\??\.length\s*(===?|!==?|>=?|<=?)\s*(\d+)$`)
	member = regexp.MustCompile(`([A-Za-z_$][\w$]*)\W*$`)
	key    = regexp.MustCompile(`^t\("([^"]*)"\)$`)
)

// bound lists the code that computes something of an element.
func bound(e *screen.Element) (out []string) {
	if e.Text.Kind == screen.Bound {
		out = append(out, e.Text.Text)
	}
	for _, p := range e.Props {
		if p.Value.Kind == screen.Bound {
			out = append(out, p.Value.Text)
		}
	}
	if e.Show != "" {
		out = append(out, e.Show)
	}
	return out
}

// roots are the names of which something is taken in code.
func roots(source string) (out []string) {
	for _, m := range path.FindAllStringSubmatch(source, -1) {
		out = append(out, m[1])
	}
	return out
}

// one is what one of many is called: "beds" is "bed", "entries" is "entry".
func one(many string) string {
	switch {
	case strings.HasSuffix(many, "ies") && len(many) > 4:
		return many[:len(many)-3] + "y"
	case strings.HasSuffix(many, "ches"), strings.HasSuffix(many, "shes"), strings.HasSuffix(many, "sses"), strings.HasSuffix(many, "xes"):
		return many[:len(many)-2]
	case strings.HasSuffix(many, "s") && !strings.HasSuffix(many, "ss"):
		return many[:len(many)-1]
	}
	return many
}

// variable is what code calls the record within a repeat: the singular of the list where it is
// used, else the name of which most is taken.
func variable(e *screen.Element, usual string) string {
	counts := map[string]int{}
	e.Walk(func(in, _ *screen.Element) bool {
		for _, source := range bound(in) {
			for _, n := range roots(source) {
				counts[n]++
			}
		}
		return true
	})
	if counts[usual] > 0 {
		return usual
	}
	best := ""
	for n, count := range counts {
		if best == "" || count > counts[best] || count == counts[best] && n < best {
			best = n
		}
	}
	if best == "" {
		return usual
	}
	return best
}

// says is what code computes as an expression over the record, where it says the same here.
// condition asks for yes or no.
func (a *assembler) says(source string, sc scope, condition bool) (string, bool) {
	if m := length.FindStringSubmatch(strings.TrimSpace(source)); m != nil && condition && a.lists[m[1]] != nil {
		return "size(" + m[1] + ") " + strings.NewReplacer("===", "==", "!==", "!=").Replace(m[2]) + " " + m[3], true
	}
	if sc.list == nil || sc.name == "" {
		return "", false
	}
	out, fields := a.translated(source, sc)
	if out == "" {
		return "", false
	}
	trial := sc.list.with(fields, source)
	m := trial.model
	m.Fields = trial.typed()
	if kind, ok := a.compiles(out, &m); !ok || condition && kind != expr.Bool {
		return "", false
	}
	*sc.list = *trial
	a.note(sc.list)
	if f, ok := m.Field(fields[0]); ok && !condition && f.Type == sample.Date && out == "record."+f.Name {
		out = "day(" + out + ")"
	}
	return out, true
}

// compiles tells whether an expression over a record means something, and what it gives.
func (a *assembler) compiles(source string, m *sample.Model) (expr.Kind, bool) {
	p, err := expr.Compile(source, expr.Scope{Record: m, Models: a.l.Models()})
	if err != nil {
		return expr.Any, false
	}
	return p.Root().Type().Kind, true
}

// translated is code in the grammar of expressions, with the fields that it names. It is empty
// where the code takes something of anything but the record.
func (a *assembler) translated(source string, sc scope) (out string, fields []string) {
	for _, m := range path.FindAllStringSubmatch(source, -1) {
		if m[1] != sc.name {
			return "", nil
		}
		if !slices.Contains(fields, m[2]) {
			fields = append(fields, m[2])
		}
	}
	if len(fields) == 0 || called.MatchString(source) {
		return "", nil
	}
	record := regexp.MustCompile(`(^|[^\w.$'"])` + regexp.QuoteMeta(sc.name) + `\??\.`)
	out = record.ReplaceAllString(source, "${1}record.")
	out = strings.NewReplacer("===", "==", "!==", "!=").Replace(out)
	return strings.TrimSpace(out), fields
}

// sentence is words with values among them, or one value, as an expression.
func (a *assembler) sentence(source string, sc scope) (string, bool) {
	if inner, ok := strings.CutPrefix(source, "`"); ok && strings.HasSuffix(inner, "`") {
		source = strings.ReplaceAll(strings.TrimSuffix(inner, "`"), "${", "{")
	}
	if !hole.MatchString(source) {
		return a.says(source, sc, false)
	}
	var parts []string
	at := 0
	words := func(s string) {
		if s != "" {
			parts = append(parts, "'"+strings.NewReplacer(`\`, `\\`, `'`, `\'`).Replace(s)+"'")
		}
	}
	for _, m := range hole.FindAllStringSubmatchIndex(source, -1) {
		words(source[at:m[0]])
		v, ok := a.says(source[m[2]:m[3]], sc, false)
		if !ok {
			return "", false
		}
		if kind, _ := a.compiles(v, a.shape(sc)); kind != expr.Text {
			v = "text(" + v + ")"
		}
		parts = append(parts, v)
		at = m[1]
	}
	words(source[at:])
	out := strings.Join(parts, " + ")
	_, ok := a.compiles(out, a.shape(sc))
	return out, ok
}

// shape is the model of the record in scope, as far as it is known by now.
func (a *assembler) shape(sc scope) *sample.Model {
	m := sc.list.model
	m.Fields = sc.list.typed()
	return &m
}

// field is the one field that code makes something of.
func (a *assembler) field(source string, sc scope) (string, bool) {
	if sc.list == nil {
		return "", false
	}
	found := ""
	for _, m := range path.FindAllStringSubmatch(source, -1) {
		if m[1] != sc.name || found != "" && found != m[2] {
			return "", false
		}
		found = m[2]
	}
	if found == "" || strings.ContainsAny(source, "?") {
		return "", false
	}
	return a.says(sc.name+"."+found, sc, false)
}

// standIn is the word that stands for what code computes: the name that it goes by there, or the
// key of a text.
func standIn(source string) string {
	if m := key.FindStringSubmatch(source); m != nil {
		source = m[1]
	}
	out := hole.ReplaceAllStringFunc(source, func(s string) string {
		if m := member.FindStringSubmatch(s[1 : len(s)-1]); m != nil {
			return m[1]
		}
		return "…"
	})
	if out != source {
		return out
	}
	if m := member.FindStringSubmatch(source); m != nil {
		return sentence(m[1])
	}
	return ""
}

// with is the list with fields that code takes of its records.
func (l *list) with(fields []string, source string) *list {
	out := *l
	out.used = slices.Clone(l.used)
	out.met = map[string][]string{}
	for f, words := range l.met {
		out.met[f] = slices.Clone(words)
	}
	for _, f := range fields {
		if _, known := out.model.Field(f); !known && f != "id" && !slices.Contains(out.used, f) {
			out.used = append(out.used, f)
		}
	}
	for _, m := range against.FindAllStringSubmatch(source, -1) {
		if !slices.Contains(out.met[m[1]], m[2]) {
			out.met[m[1]] = append(out.met[m[1]], m[2])
		}
	}
	return &out
}

// What fields hold is told by their names, as far as it is: by the words in them, with spaces between.
var (
	dated    = regexp.MustCompile(`(^| )(date|due|planted|born|since|until|deadline|expires|day|birthday)$| (at|on)$|^(created|updated|sent|joined|ordered)$`)
	counted  = regexp.MustCompile(`(^| )(count|total|subtotal|amount|number|quantity|qty|age|size|height|width|hours|stock|minutes|price|cost|score|index|length|percent)$`)
	decided  = regexp.MustCompile(`^(is|has|can)[A-Z]|^(active|enabled|done|open|closed|late|paid|visible|archived|selected|required)$`)
	pictured = regexp.MustCompile(`(?i)(picture|photo|image|avatar|thumbnail)(Url|Src)?$`)
)

// typed are the fields of the list's model, the new ones with the type that their names and what
// they are compared with ask for.
func (l *list) typed() []sample.Field {
	out := slices.Clone(l.model.Fields)
	for _, name := range l.used {
		f := sample.Field{Name: name, Type: sample.Text}
		says := strings.ReplaceAll(describe.Kebab(name), "-", " ")
		switch words := l.met[name]; {
		case len(words) > 0:
			f.Type = sample.Choice
			f.Choices = slices.Clone(words)
			if len(words) == 1 {
				f.Choices = append(f.Choices, "other")
			}
		case dated.MatchString(says):
			f.Type = sample.Date
		case counted.MatchString(says):
			f.Type = sample.Number
		case decided.MatchString(name):
			f.Type = sample.YesNo
		case pictured.MatchString(name):
			f.Type = sample.Picture
		}
		out = append(out, f)
	}
	return out
}
