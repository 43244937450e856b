// Package sample holds the typed data that screens are bound to: models,
// records, and named sample sets.
package sample

import (
	"fmt"
	"slices"
	"sort"
	"strconv"
	"time"
)

// FieldType is the kind of a model's field.
type FieldType string

const (
	Text    FieldType = "text"
	Number  FieldType = "number"
	Money   FieldType = "money" // whole minor units (cents)
	YesNo   FieldType = "yes/no"
	Date    FieldType = "date" // YYYY-MM-DD
	Choice  FieldType = "choice"
	Picture FieldType = "picture"
	Ref     FieldType = "reference" // id of a record of another model
)

// FieldTypes lists all field types.
var FieldTypes = []FieldType{Text, Number, Money, YesNo, Date, Choice, Picture, Ref}

// Field is one typed field of a model.
type Field struct {
	Name     string    `json:"name"`
	Type     FieldType `json:"type"`
	Required bool      `json:"required,omitempty"`
	Choices  []string  `json:"choices,omitempty"`
	Model    string    `json:"model,omitempty"` // of a reference
}

// Model describes records of one kind.
type Model struct {
	ID     string  `json:"id"`
	Name   string  `json:"name"`
	Fields []Field `json:"fields"`
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

// Record holds values by field name: string, float64 or bool; a missing value
// has no key. Every record has an "id".
type Record map[string]any

// ID is the record's stable key.
func (r Record) ID() string { s, _ := r["id"].(string); return s }

// Check returns what is wrong with a record, or nil.
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
	for _, f := range m.Fields {
		if _, ok := r[f.Name]; f.Required && !ok {
			return fmt.Errorf("%s %s: the required field %s has no value", m.ID, r.ID(), f.Name)
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
	default:
		if _, ok := v.(string); !ok {
			return fmt.Errorf("%v is not a text", v)
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

func edgeRecords(m Model) []Record {
	long, bare, huge := Record{"id": m.ID + "-long"}, Record{"id": m.ID + "-bare"}, Record{"id": m.ID + "-huge"}
	for _, f := range m.Fields {
		set := func(l, b, h any) {
			long[f.Name], huge[f.Name] = l, h
			if f.Required {
				bare[f.Name] = b
			}
		}
		switch f.Type {
		case Number, Money:
			set(float64(1), float64(0), float64(987654321))
			bare[f.Name] = float64(-1)
		case YesNo:
			set(true, false, true)
		case Date:
			set("2031-12-31", "1799-01-01", "2026-02-28")
		case Choice:
			last := "unknown"
			if len(f.Choices) > 0 {
				last = f.Choices[len(f.Choices)-1]
			}
			set(last, last, "unheard of")
		case Picture:
			if f.Required {
				bare[f.Name] = ""
			}
		case Ref:
			if f.Required {
				set("", "", "")
			}
		default:
			set(longWord+" "+longWord, "x", "<b>“שלום” & 'markup'</b>")
		}
	}
	return []Record{long, bare, huge}
}

// Sort orders records by a field; a leading "-" turns the order. Missing values
// come last either way; equal ones keep their order.
func Sort(records []Record, field string) []Record {
	if field == "" {
		return records
	}
	down := field[0] == '-'
	if down {
		field = field[1:]
	}
	out := slices.Clone(records)
	sort.SliceStable(out, func(i, j int) bool {
		a, okA := out[i][field]
		b, okB := out[j][field]
		if !okA || !okB {
			return okA && !okB
		}
		c := compare(a, b)
		if down {
			return c > 0
		}
		return c < 0
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
	}
	return fmt.Sprint(v)
}
