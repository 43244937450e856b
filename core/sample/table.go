package sample

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
)

// Table is rows of texts under named columns, as they were pasted or read.
type Table struct {
	Columns []string     `json:"columns"`
	Rows    [][]string   `json:"rows"`
	Notes   []string     `json:"notes"` // what was assumed on the way
	listed  map[int]bool // columns that hold lists
}

// Limits of a table.
const (
	maxTableBytes = 32 << 20
	maxRows       = 50_000
	maxColumns    = 200
	maxDepth      = 32
)

// ReadTable reads CSV (parted by commas, semicolons or tabs, as spreadsheets put it on
// the clipboard) or JSON (a list of objects, or an object that holds one).
func ReadTable(src []byte) (*Table, error) {
	if len(src) > maxTableBytes {
		return nil, fmt.Errorf("this is %d MB; accepted: up to %d", len(src)>>20, maxTableBytes>>20)
	}
	t := &Table{Notes: []string{}}
	text := bytes.TrimPrefix(src, []byte("\xef\xbb\xbf"))
	switch {
	case bytes.HasPrefix(text, []byte{0xff, 0xfe}) || bytes.HasPrefix(text, []byte{0xfe, 0xff}):
		return nil, errors.New("this is UTF-16; save it as UTF-8")
	case bytes.IndexByte(text, 0) >= 0:
		return nil, errors.New("this is no text: it holds zero bytes")
	case !utf8.Valid(text):
		at := 1 + bytes.Count(text[:invalidAt(text)], []byte("\n"))
		decoded, err := charmap.Windows1252.NewDecoder().Bytes(text)
		if err != nil {
			return nil, fmt.Errorf("line %d is not UTF-8", at)
		}
		text = decoded
		t.Notes = append(t.Notes, fmt.Sprintf("line %d is not UTF-8; read as Windows-1252", at))
	}
	trimmed := bytes.TrimSpace(text)
	if len(trimmed) == 0 {
		return nil, errors.New("there is nothing in it")
	}
	var err error
	if trimmed[0] == '[' || trimmed[0] == '{' {
		err = t.json(trimmed)
	} else {
		err = t.csv(text)
	}
	if err != nil {
		return nil, err
	}
	return t, nil
}

func invalidAt(b []byte) int {
	for i := 0; i < len(b); {
		r, n := utf8.DecodeRune(b[i:])
		if r == utf8.RuneError && n == 1 {
			return i
		}
		i += n
	}
	return len(b)
}

func (t *Table) csv(src []byte) error {
	line, _, _ := bytes.Cut(src, []byte("\n"))
	r := csv.NewReader(bytes.NewReader(src))
	r.LazyQuotes, r.FieldsPerRecord, r.TrimLeadingSpace = false, -1, true
	best := 0
	for comma, name := range map[rune]string{'\t': "tabs", ';': "semicolons", ',': "commas"} {
		if n := bytes.Count(line, []byte(string(comma))); n > best || n == best && n > 0 && comma == '\t' {
			best, r.Comma = n, comma
			t.Notes = append(
				t.Notes[:0:0],
				slices.DeleteFunc(t.Notes, func(s string) bool { return strings.HasPrefix(s, "parted by") })...)
			if comma != ',' {
				t.Notes = append(t.Notes, "parted by "+name)
			}
		}
	}
	taken := map[string]int{}
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			var p *csv.ParseError
			if errors.As(err, &p) {
				return fmt.Errorf("line %d, column %d: %w", p.Line, p.Column, p.Err)
			}
			return err
		}
		if t.Columns == nil {
			if len(row) > maxColumns {
				return fmt.Errorf("it has %d columns; accepted: up to %d", len(row), maxColumns)
			}
			for i, name := range row {
				name = strings.TrimSpace(name)
				if name == "" {
					name = fmt.Sprintf("column %d", i+1)
				}
				if taken[name]++; taken[name] > 1 {
					name += " " + strconv.Itoa(taken[name])
				}
				t.Columns = append(t.Columns, name)
			}
			continue
		}
		if len(row) > len(t.Columns) {
			at, _ := r.FieldPos(len(t.Columns))
			return fmt.Errorf("line %d has %d values, the first line names %d columns", at, len(row), len(t.Columns))
		}
		if len(row) == 1 && strings.TrimSpace(row[0]) == "" {
			continue
		}
		for len(row) < len(t.Columns) {
			row = append(row, "")
		}
		for i := range row {
			row[i] = unguarded(row[i])
		}
		if t.Rows = append(t.Rows, row); len(t.Rows) > maxRows {
			return fmt.Errorf("it has more than %d rows", maxRows)
		}
	}
	return nil
}

func (t *Table) json(src []byte) error {
	d := json.NewDecoder(bytes.NewReader(src))
	d.UseNumber()
	if depth := nesting(src); depth > maxDepth {
		return fmt.Errorf("it is nested %d deep; accepted: up to %d", depth, maxDepth)
	}
	var all any
	if err := d.Decode(&all); err != nil {
		at := d.InputOffset()
		var s *json.SyntaxError
		if errors.As(err, &s) {
			at = s.Offset
		}
		return fmt.Errorf("line %d: %w", 1+bytes.Count(src[:min(int(at), len(src))], []byte("\n")), err)
	}
	if d.More() {
		return fmt.Errorf(
			"line %d: something follows after the end",
			1+bytes.Count(src[:d.InputOffset()], []byte("\n")),
		)
	}
	list, ok := all.([]any)
	if o, isObject := all.(map[string]any); isObject {
		for _, name := range sortedKeys(o) {
			if inner, isList := o[name].([]any); isList && len(inner) > 0 && !ok {
				list, ok = inner, true
				t.Notes = append(t.Notes, "the list "+name+" is taken")
			}
		}
		if !ok {
			list, ok = []any{o}, true
		}
	}
	if !ok || len(list) > maxRows {
		return fmt.Errorf("a list of up to %d objects is accepted", maxRows)
	}
	at := map[string]int{}
	for i, e := range list {
		o, ok := e.(map[string]any)
		if !ok {
			return fmt.Errorf("entry %d of the list is no object", i+1)
		}
		row := make([]string, len(t.Columns))
		for _, name := range sortedKeys(o) {
			j, known := at[name]
			if !known {
				if j = len(t.Columns); j >= maxColumns {
					return fmt.Errorf("it has more than %d names", maxColumns)
				}
				at[name] = j
				t.Columns = append(t.Columns, name)
				row = append(row, "")
			}
			for len(row) <= j {
				row = append(row, "")
			}
			row[j] = jsonCell(o[name])
			if _, isList := o[name].([]any); isList {
				if t.listed == nil {
					t.listed = map[int]bool{}
				}
				t.listed[j] = true
			}
		}
		t.Rows = append(t.Rows, row)
	}
	for i, row := range t.Rows {
		for len(row) < len(t.Columns) {
			row = append(row, "")
		}
		t.Rows[i] = row
	}
	return nil
}

// nesting is how deep brackets stand in each other, those in texts left out.
func nesting(src []byte) (deepest int) {
	depth, quoted := 0, false
	for i := 0; i < len(src); i++ {
		switch c := src[i]; {
		case quoted && c == '\\':
			i++
		case c == '"':
			quoted = !quoted
		case !quoted && (c == '[' || c == '{'):
			depth++
			deepest = max(deepest, depth)
		case !quoted && (c == ']' || c == '}'):
			depth--
		}
	}
	return deepest
}

func sortedKeys(o map[string]any) []string {
	keys := make([]string, 0, len(o))
	for k := range o {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}

func jsonCell(v any) string {
	switch x := v.(type) {
	case nil:
		return ""
	case string:
		return x
	case bool:
		return strconv.FormatBool(x)
	case json.Number:
		return x.String()
	case []any:
		parts := make([]string, len(x))
		for i, p := range x {
			parts[i] = jsonCell(p)
		}
		return (&Field{Type: Texts}).Write(ListOf(parts...))
	}
	b, _ := json.Marshal(v) // what was decoded encodes
	return string(b)
}

// Guess is a field made of a column, with what speaks for it.
type Guess struct {
	Column string `json:"column"`
	Field  Field  `json:"field"`
	Why    string `json:"why"`
}

var (
	moneyLike = regexp.MustCompile(`^-?\s*[€$£]\s*-?[\d.,’' ]+$|^-?[\d.,’' ]+\s*(?:[€$£]|EUR|USD|GBP|CHF)$`)
	linkLike  = regexp.MustCompile(`^https?://\S+$`)
	imageLike = regexp.MustCompile(`(?i)^data:image/|^https?://\S+\.(?:png|jpe?g|gif|webp|svg|avif)(?:\?\S*)?$`)
	timeLike  = regexp.MustCompile(`^\d{1,2}:\d{2}(?::\d{2})?$`)
)

// FieldName makes a field's name of a column's: "Latin name" is latinName.
func FieldName(column string) string {
	var b strings.Builder
	up := false
	for _, r := range column {
		switch {
		case r > unicode.MaxASCII || !unicode.IsLetter(r) && !unicode.IsDigit(r):
			up = b.Len() > 0
			continue
		case b.Len() == 0 && unicode.IsDigit(r):
			b.WriteString("n")
		case b.Len() == 0:
			r = unicode.ToLower(r)
		case up:
			r = unicode.ToUpper(r)
		}
		b.WriteRune(r)
		up = false
	}
	if b.Len() == 0 {
		return "field"
	}
	return b.String()
}

// Infer guesses a field for each column but one called id: the strictest type that all
// its values are.
func (t *Table) Infer() []Guess {
	var out []Guess
	taken := map[string]bool{"id": true}
	for i, column := range t.Columns {
		if strings.EqualFold(column, "id") {
			continue
		}
		f := Field{Name: FieldName(column), Type: Text}
		for n := 2; taken[f.Name]; n++ {
			f.Name = FieldName(column) + strconv.Itoa(n)
		}
		taken[f.Name] = true
		values := map[string]int{}
		filled, longest := 0, 0
		for _, row := range t.Rows {
			if v := strings.TrimSpace(row[i]); v != "" {
				values[v]++
				filled++
				longest = max(longest, len([]rune(v)))
			}
		}
		all := func(typ FieldType) bool {
			probe := Field{Type: typ}
			for v := range values {
				if _, err := probe.Parse(v, nil); err != nil {
					return false
				}
			}
			return filled > 0
		}
		like := func(re *regexp.Regexp) bool {
			for v := range values {
				if !re.MatchString(v) {
					return false
				}
			}
			return filled > 0
		}
		why := "any text"
		switch {
		case t.listed[i]:
			f.Type, why = Texts, "lists of texts"
		case filled == 0:
			why = "no value to tell by"
		case like(imageLike):
			f.Type, why = Picture, "addresses of pictures"
		case like(linkLike):
			f.Type, why = Link, "addresses"
		case like(moneyLike) && all(Money):
			f.Type, why = Money, "amounts with a currency"
		case all(YesNo) && len(values) <= 2 && !onlyDigits(values):
			f.Type, why = YesNo, "only yes and no"
		case like(timeLike) && all(Time):
			f.Type, why = Time, "times"
		case all(Number):
			f.Type, why = Number, "only numbers"
		case all(Date):
			f.Type, why = Date, "only dates"
		case longest > 80:
			f.Type, why = LongText, "texts of more than 80 letters"
		case len(values) <= 8 && filled >= 2*len(values)+2:
			f.Type, why = Choice, fmt.Sprintf("%d values again and again", len(values))
			for v := range values {
				f.Choices = append(f.Choices, v)
			}
			slices.SortFunc(f.Choices, func(a, b string) int {
				if values[a] != values[b] {
					return values[b] - values[a]
				}
				return strings.Compare(a, b)
			})
		case len(values) == filled && filled == len(t.Rows) && filled > 1:
			why = "texts, each once"
		}
		f.Required = filled == len(t.Rows) && filled > 0
		out = append(out, Guess{column, f, why})
	}
	return out
}

func onlyDigits(values map[string]int) bool {
	for v := range values {
		if v != "0" && v != "1" {
			return false
		}
	}
	return true
}

// Records makes records of a table: fields names the field that each column goes to,
// empty for none. Ids are taken from a column called id, else made after prefix, free of
// those taken. Rows with something wrong are left out and told; of as for Parse.
func (t *Table) Records(
	m *Model,
	fields []string,
	taken map[string]bool,
	of func(model, text string) (string, bool),
) ([]Record, []CellError) {
	records, wrong := []Record{}, []CellError{}
	next := 1
	for n, row := range t.Rows {
		r := Record{}
		bad := len(wrong)
		for i, column := range t.Columns {
			if i >= len(fields) || i >= len(row) {
				break
			}
			text := strings.TrimSpace(row[i])
			if strings.EqualFold(column, "id") && fields[i] == "" && text != "" {
				r["id"] = text
			}
			f, ok := m.Field(fields[i])
			if !ok || f.Compute != "" {
				continue
			}
			v, err := f.Parse(text, of)
			if err != nil {
				wrong = append(wrong, CellError{n + 1, r.ID(), f.Name, text, err.Error()})
			} else if v != nil {
				r[f.Name] = v
			} else if f.Required {
				wrong = append(wrong, CellError{n + 1, r.ID(), f.Name, "", "it is required and has no value"})
			}
		}
		if len(wrong) > bad {
			continue
		}
		if r.ID() == "" {
			for ; taken[m.ID+"-"+strconv.Itoa(next)]; next++ {
			}
			r["id"] = m.ID + "-" + strconv.Itoa(next)
		}
		taken[r.ID()] = true
		records = append(records, r)
	}
	return records, wrong
}

// CSV writes records as comma-separated values with a head, money in major units.
//
// A text that a spreadsheet would take for a formula is written with an apostrophe before
// it, unless formulas is set; ReadTable takes that away again.
func (m *Model) CSV(records []Record, formulas bool) []byte {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	head := []string{"id"}
	for _, f := range m.Fields {
		head = append(head, f.Name)
	}
	_ = w.Write(head) // a buffer takes it all
	for _, r := range records {
		id := r.ID()
		if !formulas && formula(id) {
			id = "'" + id
		}
		row := []string{id}
		for i := range m.Fields {
			v, ok := r[m.Fields[i].Name]
			if !ok {
				v = nil
			}
			cell := m.Fields[i].Write(v)
			if _, number := v.(float64); !number && !formulas && formula(cell) {
				cell = "'" + cell
			}
			row = append(row, cell)
		}
		_ = w.Write(row)
	}
	w.Flush()
	return b.Bytes()
}

// formula reports whether a spreadsheet would compute a cell rather than show it.
func formula(cell string) bool { return cell != "" && strings.ContainsRune("=+-@\t\r", rune(cell[0])) }

// unguarded is a cell without the apostrophe that keeps a spreadsheet from computing it.
func unguarded(cell string) string {
	if rest, ok := strings.CutPrefix(cell, "'"); ok && formula(rest) {
		return rest
	}
	return cell
}
