package expr

import (
	"fmt"
	"maps"
	"regexp"
	"slices"
	"sort"
	"strings"

	"ubiquant/core/sample"
)

// Completion is what may stand at a place of an expression.
type Completion struct {
	Text string `json:"text"` // what is shown
	Put  string `json:"put"`  // what takes the place of what was typed of it
	From int    `json:"from"` // where that begins, in bytes
	Why  string `json:"why"`  // its type, or what it does
}

// what functions do, for those who choose among them.
var purposes = map[string]string{
	"size": "how many", "text": "as a text", "lower": "in small letters", "upper": "in capitals", "initials": "first letters of a name", "money": "an amount with its currency", "number": "with so many decimals",
	"upTo": "at most so many decimals", "shortDay": "as 3 Mar", "weekday": "as Tue 3 Mar", "month": "as March 2026",
	"day": "a date in words, as 3 Mar 2026", "plural": "one ticket, two tickets", "form": "one, few, many or other, as a language counts", "find": "the record that a reference names", "values": "what a field is in the records of a list", "sum": "what a field of its records comes to", "filter": "those for which something holds", "findAll": "the records that references name", "joined": "its texts in one, with something between", "moneyIn": "an amount in a currency", "contains": "whether it holds a text", "startsWith": "whether it begins so", "endsWith": "whether it ends so",
}

// formats are the functions that show a field's value, by its type.
var formats = map[sample.FieldType]string{
	sample.Money:  "money",
	sample.Date:   "day",
	sample.Number: "text",
	sample.YesNo:  "text",
	sample.Texts:  "text",
}

// more are the other formats that a field's type has, as they are put, with %s for the field.
var more = map[sample.FieldType][]string{
	sample.Date:   {"weekday(%s)", "shortDay(%s)", "month(%s)"},
	sample.Number: {"upTo(%s, 2)", "number(%s, 0)"},
	sample.Texts:  {"joined(%s, ' · ')", "size(%s)"},
}

// Complete lists what may stand where somebody is typing, at so many bytes of the
// source: fields after a record, else fields with their format, models and functions.
func Complete(source string, at int, scope Scope) []Completion {
	at = max(0, min(at, len(source)))
	from := at
	for from > 0 && (wordByte(source[from-1])) {
		from--
	}
	typed := strings.ToLower(source[from:at])
	out := []Completion{}
	add := func(text, put, why string) {
		if strings.Contains(strings.ToLower(text), typed) {
			out = append(out, Completion{text, put, from, why})
		}
	}
	if from > 0 && source[from-1] == '.' {
		switch before := source[:from-1]; {
		case strings.HasSuffix(before, "controls"):
			for _, name := range slices.Sorted(maps.Keys(scope.Controls)) {
				add(name, name, "what it holds: "+scope.Controls[name].String())
			}
			return ranked(out, typed)
		case strings.HasSuffix(before, "sources"):
			for _, name := range scope.Sources {
				add(name, name, "ready, loading, refused or failed")
			}
			return ranked(out, typed)
		case strings.HasSuffix(before, "route"):
			for _, name := range scope.Route {
				add(name, name, "of the address of this screen")
			}
			return ranked(out, typed)
		case strings.HasSuffix(before, "count"), strings.HasSuffix(before, "pages"):
			for _, name := range scope.Repeats {
				add(name, name, "of what repeats there")
			}
			return ranked(out, typed)
		}
		if m := modelBefore(source[:from-1], scope); m != nil {
			add("id", "id", "text")
			for _, f := range m.Fields {
				add(f.Name, f.Name, describe(&f))
			}
			return ranked(out, typed)
		}
		if id := wordBefore(source[:from-1]); scope.Models[id] != nil {
			one := oneOf(id)
			add("filter", "filter("+one+", "+one+".", purposes["filter"])
			return ranked(out, typed)
		}
		for _, name := range []string{"contains", "startsWith", "endsWith"} {
			add(name, name+"(", purposes[name])
		}
		return ranked(out, typed)
	}
	if scope.Record != nil {
		for i := range scope.Record.Fields {
			f := &scope.Record.Fields[i]
			put := "record." + f.Name
			switch {
			case f.Type == sample.Ref && scope.Models[f.Model] != nil:
				if name := firstText(scope.Models[f.Model]); name != "" {
					add(
						f.Name+"’s "+name,
						fmt.Sprintf("find(%s, record.%s).%s", f.Model, f.Name, name),
						"of the record it refers to",
					)
				}
				continue
			case f.Type == sample.Refs && scope.Models[f.Model] != nil:
				add("how many "+f.Name, "size("+put+")", "of "+scope.Models[f.Model].Name)
				continue
			case formats[f.Type] != "" && strings.TrimSpace(source[:from]) == "":
				add(f.Name, put, describe(f))
				if formats[f.Type] != "text" {
					add(formats[f.Type]+" of "+f.Name, formats[f.Type]+"("+put+")", purposes[formats[f.Type]])
				}
				for _, form := range more[f.Type] {
					name, _, _ := strings.Cut(form, "(")
					add(name+" of "+f.Name, fmt.Sprintf(form, put), purposes[name])
				}
				continue
			}
			add(f.Name, put, describe(f))
			if len(f.Meanings) > 0 && strings.TrimSpace(source[:from]) == "" {
				for _, aspect := range Aspects {
					add(aspect+" of "+f.Name, aspect+"("+put+")", "its meaning")
				}
			}
		}
		add("record", "record.", scope.Record.Name)
	}
	for _, name := range slices.Sorted(maps.Keys(scope.Controls)) {
		add("controls."+name, "controls."+name, "what the control holds: "+scope.Controls[name].String())
	}
	for _, name := range scope.Repeats {
		add("count."+name, "count."+name, "how many of its records pass")
		add("pages."+name, "pages."+name, "how many pages they take")
	}
	for _, name := range scope.Route {
		add("route."+name, "route."+name, "what the address of this screen says")
	}
	for _, name := range scope.Sources {
		add("sources."+name, "sources."+name, "ready, loading, refused or failed")
	}
	if scope.Outer != nil {
		add("outer", "outer.", "the "+scope.Outer.Name+" around")
	}
	ids := make([]string, 0, len(scope.Models))
	for id := range scope.Models {
		ids = append(ids, id)
	}
	slices.Sort(ids)
	for _, id := range ids {
		add("size("+id+")", "size("+id+")", "how many")
		one := oneOf(id)
		add("size of some "+id, "size("+id+".filter("+one+", "+one+".", "how many of those for which something holds")
		for i := range scope.Models[id].Fields {
			f := &scope.Models[id].Fields[i]
			if typeOf(f).Kind == Number {
				put := "sum(" + id + ", '" + f.Name + "')"
				if f.Type == sample.Money {
					put = "money(" + put + ")"
				}
				add("sum of "+f.Name+" of "+id, put, purposes["sum"])
			}
		}
	}
	for _, name := range Functions() {
		if !slices.Contains([]string{"contains", "startsWith", "endsWith", "string"}, name) {
			add(name, name+"(", purposes[name])
		}
	}
	add("today", "today", "the day, as YYYY-MM-DD")
	return ranked(out, typed)
}

// ranked puts what begins as typed first; else the order stays.
func ranked(list []Completion, typed string) []Completion {
	begins := func(c Completion) bool { return strings.HasPrefix(strings.ToLower(c.Text), typed) }
	sort.SliceStable(list, func(i, j int) bool { return begins(list[i]) && !begins(list[j]) })
	return list[:min(len(list), 40)]
}

func wordByte(c byte) bool {
	return c == '_' || c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z'
}

func describe(f *sample.Field) string {
	s := string(f.Type)
	switch {
	case f.Type == sample.Choice:
		s += ": " + strings.Join(f.Choices, ", ")
	case f.Type == sample.Money && f.Currency != "":
		s += " in " + f.Currency
	}
	if f.Compute != "" {
		return s + ", computed"
	}
	if !f.Required {
		s += ", may be missing"
	}
	return s
}

func firstText(m *sample.Model) string {
	for _, f := range m.Fields {
		if f.Type == sample.Text {
			return f.Name
		}
	}
	return ""
}

// wordBefore is the word that a source ends with.
func wordBefore(source string) string {
	return source[strings.LastIndexFunc(source, func(r rune) bool { return r > 127 || !wordByte(byte(r)) })+1:]
}

// oneOf is a name for a record of a list that filter walks over: its first letter.
func oneOf(list string) string {
	if one := strings.ToLower(list[:1]); wordByte(one[0]) && (one[0] < '0' || one[0] > '9') {
		return one
	}
	return "r"
}

// bound finds where a filter names the records of a list.
var bound = regexp.MustCompile(`(\w+)\s*\.\s*filter\(\s*(\w+)\s*,`)

// modelBefore is the model of the record that stands before a dot: "record", the name that a filter
// gave, or "find(model, …)".
func modelBefore(source string, scope Scope) *sample.Model {
	source = strings.TrimSpace(source)
	switch word := wordBefore(source); word {
	case "record":
		return scope.Record
	case "outer":
		return scope.Outer
	case "":
	default:
		for _, f := range slices.Backward(bound.FindAllStringSubmatch(source, -1)) {
			if f[2] == word && scope.Models[f[1]] != nil {
				return scope.Models[f[1]]
			}
		}
	}
	if !strings.HasSuffix(source, ")") {
		return nil
	}
	depth := 0
	for i := len(source) - 1; i >= 0; i-- {
		switch source[i] {
		case ')':
			depth++
		case '(':
			if depth--; depth > 0 {
				continue
			}
			if !strings.HasSuffix(source[:i], "find") {
				return nil
			}
			model, _, _ := strings.Cut(source[i+1:], ",")
			return scope.Models[strings.TrimSpace(model)]
		}
	}
	return nil
}

// Mapping is an expression that gives each choice of a field a value of its own, and
// what nobody knows the last one.
func Mapping(field *sample.Field, values map[string]string, otherwise string) string {
	var b strings.Builder
	for _, c := range field.Choices {
		if v, ok := values[c]; ok {
			fmt.Fprintf(&b, "record.%s == '%s' ? '%s' : ", field.Name, escaped(c), escaped(v))
		}
	}
	return b.String() + "'" + escaped(otherwise) + "'"
}

// Quote writes a text as an expression that gives it.
func Quote(s string) string { return "'" + escaped(s) + "'" }

var inQuotes = strings.NewReplacer(`\`, `\\`, `'`, `\'`, "\n", `\n`, "\r", `\r`, "\t", `\t`)

func escaped(s string) string {
	return inQuotes.Replace(s)
}
