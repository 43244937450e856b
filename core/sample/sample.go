// Package sample holds the typed data that screens are bound to: models,
// records, and named sample sets.
package sample

import (
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"strconv"
	"strings"
	"time"
)

// FieldType is the kind of a model's field.
type FieldType string

const (
	Text     FieldType = "text"
	LongText FieldType = "long text"
	Time     FieldType = "time" // HH:MM
	Link     FieldType = "link"
	Number   FieldType = "number"
	Money    FieldType = "money" // whole minor units (cents)
	YesNo    FieldType = "yes/no"
	Date     FieldType = "date" // YYYY-MM-DD
	Choice   FieldType = "choice"
	Picture  FieldType = "picture"
	Ref      FieldType = "reference"  // id of a record of another model
	Texts    FieldType = "list"       // several texts, a List
	Refs     FieldType = "references" // ids of several records of another model, a List
)

// FieldTypes lists all field types.
var FieldTypes = []FieldType{
	Text,
	LongText,
	Number,
	Money,
	YesNo,
	Date,
	Time,
	Choice,
	Picture,
	Link,
	Ref,
	Texts,
	Refs,
}

// Field is one typed field of a model.
type Field struct {
	Name     string    `json:"name"`
	Type     FieldType `json:"type"`
	Required bool      `json:"required,omitempty"`
	Choices  []string  `json:"choices,omitempty"`
	Model    string    `json:"model,omitempty"` // of a reference
	Unique   bool      `json:"unique,omitempty"`
	// Currency of money, as ISO 4217 names it; empty is the euro.
	Currency string `json:"currency,omitempty"`
	// Compute is the expression over record that gives the value, which is not kept.
	Compute string `json:"compute,omitempty"`
	// Least and Most bound a number, an amount in major units, a date, a time, the
	// length of a text in letters, or how many a list holds; empty for no bound.
	Least string `json:"least,omitempty"`
	Most  string `json:"most,omitempty"`
	Maker *Maker `json:"maker,omitempty"` // how values are made up
	// Meanings say how each choice is shown wherever it stands; that of the empty value
	// is for what is none of the choices.
	Meanings []Meaning `json:"meanings,omitempty"`
}

// Meaning is how one value of a choice is shown: its words, and the tone and icon of the
// kit that say the same.
type Meaning struct {
	Value string `json:"value"`
	Words string `json:"words,omitempty"`
	Tone  string `json:"tone,omitempty"`
	Icon  string `json:"icon,omitempty"`
}

// Of is one aspect of a meaning: "words", "tone" or "icon".
func (m Meaning) Of(aspect string) string {
	switch aspect {
	case "tone":
		return m.Tone
	case "icon":
		return m.Icon
	}
	return m.Words
}

// Meaning finds how a value is shown.
func (f *Field) Meaning(value string) (Meaning, bool) {
	for _, m := range f.Meanings {
		if m.Value == value {
			return m, true
		}
	}
	return Meaning{}, false
}

// Model describes records of one kind.
type Model struct {
	ID     string  `json:"id"`
	Name   string  `json:"name"`
	Fields []Field `json:"fields"`
}

// FirstText is the field that a record goes by: its first text; empty where there is none.
func (m *Model) FirstText() string {
	if m == nil {
		return ""
	}
	for _, f := range m.Fields {
		if f.Type == Text {
			return f.Name
		}
	}
	return ""
}

// Field finds a field by name.
func (m *Model) Field(name string) (*Field, bool) {
	for i := range m.Fields {
		if m.Fields[i].Name == name {
			return &m.Fields[i], true
		}
	}
	return nil, false
}

// Record holds values by field name: string, float64, bool or List; a missing value
// has no key. Every record has an "id".
type Record map[string]any

// List is several texts as one value that compares by ==, like all others of a record.
// An empty one is no value.
type List string

// parted stands between the texts of a List, and in none of them.
const parted = "\x1f"

// ListOf makes a list of texts; empty ones are left out.
func ListOf(items ...string) List {
	kept := make([]string, 0, len(items))
	for _, item := range items {
		if item = strings.TrimSpace(strings.ReplaceAll(item, parted, " ")); item != "" {
			kept = append(kept, item)
		}
	}
	return List(strings.Join(kept, parted))
}

// Items are the texts, in order.
func (l List) Items() []string {
	if l == "" {
		return nil
	}
	return strings.Split(string(l), parted)
}

// MarshalJSON writes an array of texts.
func (l List) MarshalJSON() ([]byte, error) { return json.Marshal(append([]string{}, l.Items()...)) }

// Own is a record without the values of computed fields, which are made and not kept.
func (m *Model) Own(r Record) Record {
	out := r
	for i := range m.Fields {
		f := &m.Fields[i]
		if _, has := out[f.Name]; !has || f.Compute == "" {
			continue
		}
		if len(out) == len(r) {
			out = maps.Clone(r)
		}
		delete(out, f.Name)
	}
	return out
}

// ID is the record's stable key.
func (r Record) ID() string { s, _ := r["id"].(string); return s }

// Check returns what makes a record none of this model, or nil: no id, fields that are
// not there, values of another type. What is merely not as it should be, CheckAll tells.
func (m *Model) Check(r Record) error {
	if r.ID() == "" {
		return fmt.Errorf("a record of %s has no id", m.ID)
	}
	for name, v := range r {
		if name == "id" {
			continue
		}
		f, ok := m.Field(name)
		if !ok {
			return fmt.Errorf("%s %s: the model has no field %q", m.ID, r.ID(), name)
		}
		if err := f.check(v); err != nil {
			return fmt.Errorf("%s %s, field %s: %w", m.ID, r.ID(), name, err)
		}
	}
	return nil
}

func (f *Field) check(v any) error {
	switch f.Type {
	case Number, Money:
		n, ok := v.(float64)
		if !ok {
			return fmt.Errorf("%v is not a number", v)
		}
		if f.Type == Money && n != float64(int64(n)) {
			return fmt.Errorf("%v is not a whole number of minor units", v)
		}
	case YesNo:
		if _, ok := v.(bool); !ok {
			return fmt.Errorf("%v is not true or false", v)
		}
	case Date:
		s, _ := v.(string)
		if _, err := time.Parse(time.DateOnly, s); err != nil {
			return fmt.Errorf("%v is not a date as YYYY-MM-DD", v)
		}
	case Time:
		s, _ := v.(string)
		if _, err := time.Parse("15:04", s); err != nil {
			return fmt.Errorf("%v is not a time as HH:MM", v)
		}
	case Texts, Refs:
		if _, ok := v.(List); !ok {
			return fmt.Errorf("%v is not a list of texts", v)
		}
	default:
		if _, ok := v.(string); !ok {
			return fmt.Errorf("%s is not a text", Plain(v))
		}
	}
	return nil
}

// Set is a named set of records by model.
type Set struct {
	ID      string              `json:"id"`
	Name    string              `json:"name"`
	Records map[string][]Record `json:"records"`
}

// Derive makes the sets that every workspace has from the usual one: empty, one,
// and edge (long words, missing optionals, huge and negative numbers).
func Derive(models []Model, usual Set) []Set {
	empty := Set{ID: "empty", Name: "Empty", Records: map[string][]Record{}}
	one := Set{ID: "one", Name: "One", Records: map[string][]Record{}}
	edge := Set{ID: "edge", Name: "Edge", Records: map[string][]Record{}}
	for _, m := range models {
		if rs := usual.Records[m.ID]; len(rs) > 0 {
			one.Records[m.ID] = rs[:1]
		}
		edge.Records[m.ID] = edgeRecords(m)
	}
	return []Set{empty, one, edge}
}

const longWord = "Metasequoiaglyptostroboidesdreieichensis"

// edgeRecords break layouts on purpose: the longest words, what is optional missing,
// nothing, less than nothing and very much, long ago and far ahead, each choice once and
// one that nobody knows, text from right to left, and text that looks like markup.
func edgeRecords(m Model) []Record {
	kinds := []string{"long", "bare", "zero", "negative", "huge", "rtl", "markup"}
	most := 0
	for _, f := range m.Fields {
		most = max(most, len(f.Choices))
	}
	for i := range most {
		kinds = append(kinds, "choice-"+strconv.Itoa(i+1))
	}
	out := make([]Record, len(kinds))
	for i, kind := range kinds {
		r := Record{"id": m.ID + "-" + kind}
		for _, f := range m.Fields {
			if f.Compute != "" {
				continue
			}
			if v := f.edge(kind, i-(len(kinds)-most)); v != nil && (kind != "bare" || f.Required) {
				r[f.Name] = v
			}
		}
		out[i] = r
	}
	return out
}

// edge is a field's value in a record of a kind; choice counts the choices.
func (f *Field) edge(kind string, choice int) any {
	text := map[string]string{"long": longWord + " " + longWord, "bare": "x", "rtl": "שלום, גינה קטנה ליד האגם", "markup": "<b>“bold” & 'markup'</b>", "huge": strings.TrimSpace(strings.Repeat("many words in a row ", 12))}[kind]
	if text == "" {
		text = "Some text"
	}
	switch f.Type {
	case Number, Money:
		n, ok := map[string]float64{"zero": 0, "bare": 0, "negative": -1250, "huge": 987654321}[kind]
		if !ok {
			n = 1250
		}
		return n
	case YesNo:
		return kind != "bare" && kind != "zero"
	case Date:
		if d, ok := map[string]string{"zero": "2026-02-28", "negative": "1799-01-01", "huge": "2099-12-31", "long": "2026-09-30"}[kind]; ok {
			return d
		}
		return "2026-05-05"
	case Time:
		if kind == "zero" {
			return "00:00"
		}
		return "23:59"
	case Choice:
		switch {
		case kind == "huge":
			return "unheard of"
		case len(f.Choices) == 0:
			return "unknown"
		}
		return f.Choices[max(0, choice)%len(f.Choices)]
	case Picture:
		if kind == "long" || strings.HasPrefix(kind, "choice") {
			return Draw(rand.New(rand.NewPCG(7, 7)), map[bool]string{true: "wide", false: "photo"}[kind == "long"])
		}
		return nil // pictures may always fail to come
	case Ref:
		if f.Required {
			return ""
		}
		return nil
	case Refs:
		return nil
	case Texts:
		switch kind {
		case "bare", "zero":
			return nil
		case "huge":
			return ListOf(strings.Fields(strings.Repeat("one two three four five six ", 4))...)
		}
		return ListOf(text, "two")
	case Link:
		return "https://fernhollow.example/" + strings.ToLower(longWord)
	case LongText:
		if kind == "long" || kind == "huge" {
			return strings.TrimSpace(strings.Repeat(text+". ", 6))
		}
	}
	return text
}

// Key is one field that records are ordered by.
type Key struct {
	Field string
	Down  bool
}

// Keys reads an order as it is written: fields parted by commas, a "-" before one turns
// it: "state, -due".
func Keys(order string) []Key {
	var out []Key
	if _, computed := Computed(order); computed {
		return nil
	}
	for part := range strings.SplitSeq(order, ",") {
		field, down := strings.CutPrefix(strings.TrimSpace(part), "-")
		if field = strings.TrimSpace(field); field != "" {
			out = append(out, Key{field, down})
		}
	}
	return out
}

// Computed is the expression that gives an order, where it is written as "= …".
func Computed(order string) (source string, ok bool) {
	source, ok = strings.CutPrefix(strings.TrimSpace(order), "=")
	return strings.TrimSpace(source), ok
}

// WriteKeys is the order that reads back as these.
func WriteKeys(keys []Key) string {
	parts := make([]string, len(keys))
	for i, k := range keys {
		if parts[i] = k.Field; k.Down {
			parts[i] = "-" + k.Field
		}
	}
	return strings.Join(parts, ", ")
}

// Sort orders records by fields, see Keys: by the first, those equal in it by the next.
// Missing values come last either way; equal ones keep their order.
func Sort(records []Record, order string) []Record {
	keys := Keys(order)
	if len(keys) == 0 {
		return records
	}
	out := slices.Clone(records)
	slices.SortStableFunc(out, func(p, q Record) int {
		for _, k := range keys {
			a, okA := p[k.Field]
			b, okB := q[k.Field]
			switch {
			case !okA && !okB:
				continue
			case !okA:
				return 1
			case !okB:
				return -1
			}
			if c := compare(a, b); c != 0 && k.Down {
				return -c
			} else if c != 0 {
				return c
			}
		}
		return 0
	})
	return out
}

func compare(a, b any) int {
	switch x := a.(type) {
	case float64:
		y, _ := b.(float64)
		switch {
		case x < y:
			return -1
		case x > y:
			return 1
		}
		return 0
	case bool:
		y, _ := b.(bool)
		if x == y {
			return 0
		}
		if !x {
			return -1
		}
		return 1
	}
	x, y := fmt.Sprint(a), fmt.Sprint(b)
	switch {
	case x < y:
		return -1
	case x > y:
		return 1
	}
	return 0
}

// Plain writes a value as plain text, as it stands in a cell.
func Plain(v any) string {
	switch x := v.(type) {
	case nil:
		return ""
	case string:
		return x
	case bool:
		if x {
			return "yes"
		}
		return "no"
	case float64:
		return strconv.FormatFloat(x, 'f', -1, 64)
	case List:
		return strings.Join(x.Items(), ", ")
	}
	return fmt.Sprint(v)
}

// With is the set with other records of a model.
func (s Set) With(model string, records []Record) Set {
	s.Records = maps.Clone(s.Records)
	if s.Records == nil {
		s.Records = map[string][]Record{}
	}
	if len(records) == 0 {
		delete(s.Records, model)
	} else {
		s.Records[model] = records
	}
	return s
}
