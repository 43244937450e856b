package sample

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
	unicode16 "golang.org/x/text/encoding/unicode"
)

// Table is rows of texts under named columns, as they were pasted or read.
type Table struct {
	Columns []string     `json:"columns"`
	Rows    [][]string   `json:"rows"`
	Notes   []string     `json:"notes"`           // what was assumed on the way
	Lists   []FoundList  `json:"lists,omitempty"` // of objects, where JSON holds several
	listed  map[int]bool // columns that hold lists
}

// Limits of a table.
const (
	maxTableBytes = 32 << 20
	maxRows       = 50_000
	maxColumns    = 200
	maxDepth      = 32
)

// ReadTable reads CSV (parted by commas, semicolons, tabs or bars, as spreadsheets put it on
// the clipboard and write it) or JSON (a list of objects, objects line by line, or an object
// that holds a list). list names one of several lists, see Table.Lists; the longest is taken
// where it is empty.
func ReadTable(src []byte, list string) (*Table, error) {
	if len(src) > maxTableBytes {
		return nil, fmt.Errorf("this is %d MB; accepted: up to %d", len(src)>>20, maxTableBytes>>20)
	}
	t := &Table{Notes: []string{}}
	text, err := t.decoded(src)
	if err != nil {
		return nil, err
	}
	if bytes.IndexByte(text, '\r') >= 0 { // old files end their lines with it alone
		text = bytes.ReplaceAll(bytes.ReplaceAll(text, []byte("\r\n"), []byte("\n")), []byte("\r"), []byte("\n"))
	}
	trimmed := bytes.TrimSpace(text)
	if len(trimmed) == 0 {
		return nil, errors.New("there is nothing in it")
	}
	if trimmed[0] == '[' || trimmed[0] == '{' {
		err = t.json(trimmed, list)
	} else {
		err = t.csv(text)
	}
	if err != nil {
		return nil, err
	}
	return t, nil
}

// decoded is a file's text, whatever it is encoded in; what was assumed is noted.
func (t *Table) decoded(src []byte) ([]byte, error) {
	text := bytes.TrimPrefix(src, []byte("\xef\xbb\xbf"))
	order, utf16 := unicode16.LittleEndian, false
	switch {
	case bytes.HasPrefix(text, []byte{0xff, 0xfe}):
		utf16 = true
	case bytes.HasPrefix(text, []byte{0xfe, 0xff}):
		order, utf16 = unicode16.BigEndian, true
	case len(text) > 3 && len(text)%2 == 0 && bytes.IndexByte(text, 0) >= 0:
		// Every other byte of what is written with few signs is zero.
		even, odd := 0, 0
		for i, c := range text {
			if c == 0 && i%2 == 0 {
				even++
			} else if c == 0 {
				odd++
			}
		}
		utf16 = max(even, odd)*10 > len(text)*3 && min(even, odd)*20 < len(text)
		if even > odd {
			order = unicode16.BigEndian
		}
	}
	switch {
	case utf16:
		decoded, err := unicode16.UTF16(order, unicode16.UseBOM).NewDecoder().Bytes(text)
		if err != nil || bytes.IndexByte(decoded, 0) >= 0 || bytes.Contains(decoded, []byte("\uFFFD")) {
			return nil, errors.New("this begins as UTF-16 and is none; save it as UTF-8")
		}
		t.Notes = append(t.Notes, "read as UTF-16")
		return decoded, nil
	case bytes.IndexByte(text, 0) >= 0:
		return nil, errors.New("this is no text: it holds zero bytes")
	case !utf8.Valid(text):
		at := 1 + bytes.Count(text[:invalidAt(text)], []byte("\n"))
		decoded, err := charmap.Windows1252.NewDecoder().Bytes(text)
		if err != nil {
			return nil, fmt.Errorf("line %d is not UTF-8", at)
		}
		t.Notes = append(t.Notes, fmt.Sprintf("line %d is not UTF-8; read as Windows-1252", at))
		return decoded, nil
	}
	return text, nil
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

// separators are what parts the values of a line, the likelier first.
var separators = []struct {
	mark  rune
	words string
}{{'\t', "tabs"}, {';', "semicolons"}, {',', "commas"}, {'|', "bars"}}

// partedBy finds what parts the values: what stands in the first lines as often in each, outside
// of quotes.
func partedBy(src []byte) (mark rune, words string) {
	lines := [][4]int{}
	var now [4]int
	quoted, some := false, false
	for i := 0; i < len(src) && len(lines) < 20; i++ {
		switch c := src[i]; {
		case c == '"':
			quoted = !quoted
			some = true
		case c == '\n' && !quoted:
			if some {
				lines = append(lines, now)
			}
			now, some = [4]int{}, false
		case !quoted:
			some = some || c > ' '
			for j, s := range separators {
				if rune(c) == s.mark {
					now[j]++
				}
			}
		}
	}
	if some {
		lines = append(lines, now)
	}
	// Where the names have none, what stands in values parts nothing: there is one column.
	first, rest, _ := bytes.Cut(src, []byte("\n"))
	second, _, _ := bytes.Cut(rest, []byte("\n"))
	if !bytes.ContainsAny(first, "\t;,|") && len(bytes.TrimSpace(first)) > 0 && len(bytes.TrimSpace(second)) > 0 {
		return '\t', ""
	}
	best, at := 0, 2
	for j := range separators {
		alike := 0
		for _, l := range lines {
			if n := l[j]; n > 0 && n == most(lines, j) {
				alike++
			}
		}
		// That all lines have it alike counts more than how often they do.
		if weight := alike*1000/max(1, len(lines)) + min(most(lines, j), 3); alike > 0 && weight > best {
			best, at = weight, j
		}
	}
	return separators[at].mark, separators[at].words
}

// most is how often a separator stands in most lines.
func most(lines [][4]int, j int) int {
	times := map[int]int{}
	for _, l := range lines {
		times[l[j]]++
	}
	out := 0
	for n := range times {
		if times[n] > times[out] || times[n] == times[out] && n > out {
			out = n
		}
	}
	return out
}

func (t *Table) csv(src []byte) error {
	mark, words := partedBy(src)
	skipped := 0 // lines above the heads
	if first, rest, ok := bytes.Cut(src, []byte("\n")); ok {
		// Spreadsheets say with what they part.
		if sep, said := bytes.CutPrefix(bytes.ToLower(bytes.TrimSpace(first)), []byte("sep=")); said && len(sep) <= 1 {
			mark = '\t'
			if len(sep) == 1 {
				mark = rune(sep[0])
			}
			words, src, skipped = "what its first line says", rest, 1
		}
	}
	err := t.lines(src, mark, false, skipped)
	var p *csv.ParseError
	if errors.As(err, &p) && errors.Is(p.Err, csv.ErrBareQuote) {
		line := p.Line + skipped
		t.Columns, t.Rows = nil, nil
		if err = t.lines(src, mark, true, skipped); err == nil {
			t.Notes = append(t.Notes, fmt.Sprintf("the quotes in line %d are taken as they stand", line))
		}
	}
	if errors.As(err, &p) {
		return fmt.Errorf("line %d, column %d: %w", p.Line+skipped, p.Column, p.Err)
	}
	if err == nil && mark != ',' && words != "" {
		t.Notes = append(t.Notes, "parted by "+words)
	}
	if err == nil {
		t.titles()
	}
	return err
}

// titles says where the first line looks like values rather than names.
func (t *Table) titles() {
	plain := 0
	for _, name := range t.Columns {
		_, number := numberIn(".", name)
		_, date := dateIn("ymd", name)
		if number && name != "" || date {
			plain++
		}
	}
	if plain*2 > len(t.Columns) {
		t.Notes = append(t.Notes, "the first line is taken for names, and looks like values")
	}
}

func (t *Table) lines(src []byte, mark rune, lazy bool, skipped int) error {
	r := csv.NewReader(bytes.NewReader(src))
	r.Comma, r.LazyQuotes, r.FieldsPerRecord, r.TrimLeadingSpace = mark, lazy, -1, mark != '\t'
	above := 0
	taken := map[string]int{}
	for {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return err
		}
		if t.Columns == nil && single(row) && aside(src, r, mark) {
			above++ // a title over the table
			continue
		}
		if t.Columns == nil {
			if above > 0 {
				t.Notes = append(t.Notes, fmt.Sprintf("%d lines above the names are left out", above))
			}
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
		for len(row) > len(t.Columns) && strings.TrimSpace(row[len(row)-1]) == "" {
			row = row[:len(row)-1]
		}
		if len(row) > len(t.Columns) {
			at, _ := r.FieldPos(len(t.Columns))
			at += skipped
			return fmt.Errorf("line %d has %d values, the first line names %d columns", at, len(row), len(t.Columns))
		}
		if !slices.ContainsFunc(row, func(s string) bool { return strings.TrimSpace(s) != "" }) {
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

// single tells whether a row holds no more than one value.
func single(row []string) bool {
	n := 0
	for _, v := range row {
		if strings.TrimSpace(v) != "" {
			n++
		}
	}
	return n <= 1
}

// aside tells whether what follows has more values a line than one: what stood alone before
// is no name of a column.
func aside(src []byte, r *csv.Reader, mark rune) bool {
	rest := src[r.InputOffset():]
	line, _, _ := bytes.Cut(bytes.TrimLeft(rest, "\n"), []byte("\n"))
	for range 4 { // a title and a line under it
		if bytes.ContainsRune(line, mark) && len(bytes.Trim(line, string(mark)+" ")) > 0 {
			return true
		}
		_, after, ok := bytes.Cut(rest, []byte("\n"))
		if !ok {
			return false
		}
		rest = after
		line, _, _ = bytes.Cut(rest, []byte("\n"))
	}
	return false
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

var (
	linkLike  = regexp.MustCompile(`^https?://\S+$`)
	imageLike = regexp.MustCompile(`(?i)^data:image/|^https?://\S+\.(?:png|jpe?g|gif|webp|svg|avif)(?:\?\S*)?$`)
	timeLike  = regexp.MustCompile(`^\d{1,2}:\d{2}(?::\d{2})?$`)
)

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
