package sample

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode"
)

// dateForms are the ways in which dates are written, the least doubtful first. What
// month and day are is told by the dots; with slashes, the day comes first unless it
// cannot be one.
var dateForms = []string{
	time.DateOnly,
	"2.1.2006",
	"2/1/2006",
	"1/2/2006",
	"2 Jan 2006",
	"2 January 2006",
	"Jan 2, 2006",
	"January 2, 2006",
	time.RFC3339,
}

var yesNo = map[string]bool{
	"true":  true,
	"yes":   true,
	"y":     true,
	"1":     true,
	"x":     true,
	"✓":     true,
	"false": false,
	"no":    false,
	"n":     false,
	"0":     false,
	"":      false,
}

var grouped = regexp.MustCompile(`^-?\d{1,3}(?:[ ,.’']\d{3})*(?:[.,]\d+)?$`)

// number reads a number as people write it: 1234.5, 1,234.5, 1.234,5, 12,5.
func number(s string) (float64, bool) {
	s = strings.TrimSpace(strings.NewReplacer("\u00a0", " ", "−", "-").Replace(s))
	if f, err := strconv.ParseFloat(s, 64); err == nil && !math.IsInf(f, 0) && !math.IsNaN(f) {
		return f, true
	}
	if !grouped.MatchString(s) {
		return 0, false
	}
	// The last mark is the decimal one, unless three digits follow it and it is not alone.
	at := strings.LastIndexAny(s, ".,")
	marks := strings.Count(s, s[max(at, 0):max(at, 0)+1])
	whole, part := s, ""
	if at >= 0 && (len(s)-at-1 != 3 || marks == 1 && s[at] == '.') {
		whole, part = s[:at], s[at+1:]
	}
	clean := strings.NewReplacer(" ", "", ",", "", ".", "", "’", "", "'", "").Replace(whole)
	if part != "" {
		clean += "." + part
	}
	f, err := strconv.ParseFloat(clean, 64)
	return f, err == nil
}

// Parse reads a field's value from text as people write it. An empty text is no value.
// of finds a record of the model that a reference names, by its id or by what it is
// called; it may be nil.
func (f *Field) Parse(s string, of func(model, text string) (id string, ok bool)) (any, error) {
	s = strings.TrimSpace(s)
	if s == "" {
		return nil, nil
	}
	switch f.Type {
	case Number:
		n, ok := number(s)
		if !ok {
			return nil, fmt.Errorf("“%s” is not a number", s)
		}
		return n, nil
	case Money:
		bare := strings.TrimSpace(
			strings.TrimFunc(
				s,
				func(r rune) bool { return unicode.IsLetter(r) || unicode.IsSpace(r) || unicode.Is(unicode.Sc, r) },
			),
		)
		n, ok := number(bare)
		if !ok {
			return nil, fmt.Errorf("“%s” is not an amount of money", s)
		}
		return math.Round(n * f.minor()), nil
	case YesNo:
		b, ok := yesNo[strings.ToLower(s)]
		if !ok {
			return nil, fmt.Errorf("“%s” is neither yes nor no", s)
		}
		return b, nil
	case Date:
		for _, form := range dateForms {
			if t, err := time.Parse(form, s); err == nil {
				return t.Format(time.DateOnly), nil
			}
		}
		return nil, fmt.Errorf("“%s” is not a date; accepted: 2026-03-31, 31.3.2026, 31 Mar 2026", s)
	case Time:
		for _, form := range []string{"15:04", "15:04:05", "3:04 pm", "3:04pm", "3 pm", "3pm"} {
			if t, err := time.Parse(form, strings.ToLower(s)); err == nil {
				return t.Format("15:04"), nil
			}
		}
		return nil, fmt.Errorf("“%s” is not a time; accepted: 14:30", s)
	case Choice:
		for _, c := range f.Choices {
			if strings.EqualFold(c, s) {
				return c, nil
			}
		}
		return nil, fmt.Errorf("“%s” is none of %s", s, strings.Join(f.Choices, ", "))
	case Ref:
		return f.refer(s, of)
	case Texts, Refs:
		return f.list(s, of)
	}
	return s, nil
}

func (f *Field) refer(s string, of func(model, text string) (string, bool)) (any, error) {
	if of == nil {
		return s, nil
	}
	id, ok := of(f.Model, s)
	if !ok {
		return nil, fmt.Errorf("there is no record of %s called “%s”", f.Model, s)
	}
	return id, nil
}

// list reads several texts: parted by lines or semicolons where there are any, else by
// commas.
func (f *Field) list(s string, of func(model, text string) (string, bool)) (any, error) {
	by := ","
	if strings.ContainsAny(s, ";\n") {
		by = ";"
	}
	items := strings.Split(strings.ReplaceAll(s, "\n", by), by)
	if f.Type == Refs {
		for i, item := range items {
			if item = strings.TrimSpace(item); item == "" {
				continue
			}
			id, err := f.refer(item, of)
			if err != nil {
				return nil, err
			}
			items[i], _ = id.(string)
		}
	}
	if l := ListOf(items...); l != "" {
		return l, nil
	}
	return nil, nil
}

// minor is how many minor units one of the field's currency has.
func (f *Field) minor() float64 { return math.Pow10(CurrencyOf(f.Currency).Decimals) }

// Write is Parse the other way round: a value as a cell of a table holds it.
func (f *Field) Write(v any) string {
	switch x := v.(type) {
	case float64:
		if f.Type == Money {
			return strconv.FormatFloat(x/f.minor(), 'f', CurrencyOf(f.Currency).Decimals, 64)
		}
	case List:
		if items := x.Items(); slices.ContainsFunc(items, func(s string) bool { return strings.ContainsAny(s, ",;") }) {
			return strings.Join(items, "; ") + ";"
		}
	}
	return Plain(v)
}

// within tells what about a value is outside the limits of its field; empty for nothing.
func (f *Field) within(v any) string {
	switch f.Type {
	case Number, Money:
		n := v.(float64)
		scale := 1.0
		if f.Type == Money {
			scale = f.minor()
		}
		if least, err := strconv.ParseFloat(f.Least, 64); err == nil && n < least*scale {
			return "is less than " + f.Least
		}
		if most, err := strconv.ParseFloat(f.Most, 64); err == nil && n > most*scale {
			return "is more than " + f.Most
		}
	case Date, Time:
		if f.Least != "" && v.(string) < f.Least {
			return "is before " + f.Least
		}
		if f.Most != "" && v.(string) > f.Most {
			return "is after " + f.Most
		}
	case Text, LongText:
		n := len([]rune(v.(string)))
		if least, err := strconv.Atoi(f.Least); err == nil && n < least {
			return fmt.Sprintf("has %d letters, at least %d are wanted", n, least)
		}
		if most, err := strconv.Atoi(f.Most); err == nil && n > most {
			return fmt.Sprintf("has %d letters, at most %d are wanted", n, most)
		}
	case Texts, Refs:
		n := len(v.(List).Items())
		if least, err := strconv.Atoi(f.Least); err == nil && n < least {
			return fmt.Sprintf("holds %d, at least %d are wanted", n, least)
		}
		if most, err := strconv.Atoi(f.Most); err == nil && n > most {
			return fmt.Sprintf("holds %d, at most %d are wanted", n, most)
		}
	}
	return ""
}

// CellError is what is wrong with one value.
type CellError struct {
	Row    int    `json:"row"` // from 1, among the rows looked at
	Record string `json:"record,omitempty"`
	Field  string `json:"field"`
	Value  string `json:"value,omitempty"`
	Reason string `json:"reason"`
}

func (e CellError) Error() string { return fmt.Sprintf("row %d, %s: %s", e.Row, e.Field, e.Reason) }

// CheckAll lists what is wrong with records beyond their types: what is required and
// missing, outside its limits, not among the choices, twice where it is to be unique,
// or refers to nothing. exists tells whether a record of a model is there; it may be nil.
func (m *Model) CheckAll(records []Record, exists func(model, id string) bool) []CellError {
	out := []CellError{}
	seen := map[string]map[any]int{}
	for i, r := range records {
		for j := range m.Fields {
			f := &m.Fields[j]
			v, has := r[f.Name]
			add := func(reason string) {
				out = append(out, CellError{i + 1, r.ID(), f.Name, f.Write(v), reason})
			}
			switch {
			case !has && f.Compute != "":
				add("nothing comes of " + f.Compute + " here")
				continue
			case !has && f.Required:
				add("it is required and has no value")
				continue
			case !has:
				continue
			}
			if err := f.check(v); err != nil {
				add(err.Error())
				continue
			}
			if why := f.within(v); why != "" {
				add(why)
			}
			if s, _ := v.(string); f.Type == Choice && len(f.Choices) > 0 && !slices.Contains(f.Choices, s) {
				add("“" + s + "” is none of " + strings.Join(f.Choices, ", "))
			} else if f.Type == Ref && exists != nil && s != "" && !exists(f.Model, s) {
				add("there is no record " + s + " of " + f.Model)
			}
			if l, ok := v.(List); ok && f.Type == Refs && exists != nil {
				for _, id := range l.Items() {
					if !exists(f.Model, id) {
						add("there is no record " + id + " of " + f.Model)
					}
				}
			}
			if f.Unique {
				if seen[f.Name] == nil {
					seen[f.Name] = map[any]int{}
				}
				if first := seen[f.Name][v]; first > 0 {
					add(fmt.Sprintf("it is the same as in row %d, and is to be unique", first))
				} else {
					seen[f.Name][v] = i + 1
				}
			}
		}
	}
	return out
}
