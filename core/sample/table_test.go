package sample_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/sample"
)

func TestTypesAreInferredFromAllValues(t *testing.T) {
	table, err := sample.ReadTable(
		[]byte("\xef\xbb\xbfLatin name;Height (m);Planted;Price;On display;State;Picture;Note;Opens;Page\n"+
			"Acer griseum;12,5;12.3.1962;€ 1.234,50;yes;thriving;https://a.example/a.png;"+strings.Repeat("x ", 60)+";9:30;https://a.example/x\n"+
			"Ginkgo biloba;1.234,5;2026-03-31;€ 12;no;watch;data:image/png;b;14:00;https://a.example/y\n"+
			strings.Repeat(
				"Tilia;3;1 Mar 2020;€ 5,5;yes;watch;https://a.example/b.svg;c;08:00;https://b.example\n",
				6,
			)), "",
	)
	require.NoError(t, err)
	assert.Contains(t, table.Notes, "parted by semicolons")
	got := map[string]sample.FieldType{}
	for _, g := range table.Infer(nil) {
		got[g.Field.Name] = g.Field.Type
		assert.NotEmpty(t, g.Why)
	}
	assert.Equal(
		t,
		map[string]sample.FieldType{
			"latinName": "choice",
			"heightM":   "number",
			"planted":   "date",
			"price":     "money",
			"onDisplay": "yes/no",
			"state":     "choice",
			"picture":   "picture",
			"note":      "long text",
			"opens":     "time",
			"page":      "link",
		},
		got,
	)
	types := map[string]sample.FieldType{}
	for _, g := range table.Infer(nil) {
		types[g.Column] = g.Field.Type
	}
	table = table.As(table.Infer(nil), func(i int) sample.FieldType { return types[table.Columns[i]] })
	m := &sample.Model{
		ID: "plants",
		Fields: []sample.Field{
			{Name: "latin", Type: sample.Text},
			{Name: "height", Type: sample.Number},
			{Name: "planted", Type: sample.Date},
			{Name: "price", Type: sample.Money},
		},
	}
	records, wrong := table.Records(
		m,
		[]string{"latin", "height", "planted", "price"},
		map[string]bool{"plants-1": true},
		nil,
	)
	require.Empty(t, wrong)
	assert.Equal(
		t,
		sample.Record{
			"id":      "plants-2",
			"latin":   "Acer griseum",
			"height":  12.5,
			"planted": "1962-03-12",
			"price":   123450.0,
		},
		records[0],
	)
	assert.Equal(t, 1234.5, records[1]["height"])
}

func TestWhatDoesNotFitIsToldByRowAndColumn(t *testing.T) {
	table, err := sample.ReadTable([]byte("name,height,due\nOak,tall,2026-01-01\n,3,\nElm,4,32.1.2026\n"), "")
	require.NoError(t, err)
	m := &sample.Model{
		ID: "trees",
		Fields: []sample.Field{
			{Name: "name", Type: sample.Text, Required: true},
			{Name: "height", Type: sample.Number},
			{Name: "due", Type: sample.Date},
		},
	}
	records, wrong := table.Records(m, []string{"name", "height", "due"}, map[string]bool{}, nil)
	assert.Empty(t, records)
	require.Len(t, wrong, 3)
	assert.Equal(t, "row 1, height: “tall” is not a number", wrong[0].Error())
	assert.Equal(t, "row 2, name: it is required and has no value", wrong[1].Error())
	assert.Contains(t, wrong[2].Error(), "row 3, due: “32.1.2026” is not a date")
}

func TestBrokenTablesSayWhere(t *testing.T) {
	for src, why := range map[string]string{
		"":                             "nothing in it",
		"a,b\n1,2,3":                   "line 2 has 3 values",
		"a,b\n\"open,2":                "line 2",
		"\xff\xfea":                    "UTF-16",
		"[1, 2]":                       "entry 1 of the list is no object",
		"[{\"a\": 1},\n {\"a\": }]":    "line 2",
		"[{\"a\":1}] x":                "line 1: invalid character",
		strings.Repeat("[", 200) + "]": "nested 200 deep",
		"a\x00b":                       "zero bytes",
	} {
		_, err := sample.ReadTable([]byte(src), "")
		assert.ErrorContains(t, err, why, src)
	}
	table, err := sample.ReadTable([]byte("name\nK\xfcche"), "")
	require.NoError(t, err)
	assert.Equal(t, "Küche", table.Rows[0][0])
	assert.Contains(t, table.Notes[0], "Windows-1252")
}

func TestJSONComesInAsATable(t *testing.T) {
	table, err := sample.ReadTable(
		[]byte(
			`{"page": 1, "items": [{"id": "a", "n": 1.5, "on": true}, {"id": "b", "tags": ["x", "y"], "o": {"k": null}}]}`,
		), "",
	)
	require.NoError(t, err)
	assert.Equal(t, []string{"id", "n", "on", "tags", "o k"}, table.Columns)
	assert.Equal(t, [][]string{{"a", "1.5", "true", "", ""}, {"b", "", "", "x, y", ""}}, table.Rows)
	for _, g := range table.Infer(nil) {
		if g.Column == "tags" {
			assert.Equal(t, sample.Texts, g.Field.Type, g.Why)
		}
	}
}

// What is written into a cell reads back as the same value.
func TestValuesReadBackAsTheyAreWritten(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := sample.Field{
			Name:    "f",
			Type:    rapid.SampledFrom(sample.FieldTypes).Draw(t, "type"),
			Choices: []string{"open", "doing"},
		}
		var v any
		switch f.Type {
		case sample.Number:
			v = float64(rapid.IntRange(-1e9, 1e9).Draw(t, "n")) / 1000
		case sample.Money:
			v = float64(rapid.IntRange(-1e9, 1e9).Draw(t, "n"))
		case sample.YesNo:
			v = rapid.Bool().Draw(t, "b")
		case sample.Date:
			v = "2026-0" + rapid.StringMatching(`[1-9]-[12][0-8]`).Draw(t, "d")
		case sample.Time:
			v = rapid.StringMatching(`[01][0-9]:[0-5][0-9]`).Draw(t, "t")
		case sample.Choice:
			v = rapid.SampledFrom(f.Choices).Draw(t, "c")
		case sample.Texts, sample.Refs:
			v = sample.ListOf(
				rapid.SliceOfN(rapid.StringMatching(`[a-z][a-z ,;]{0,5}[a-z]`), 1, 4).
					Filter(func(l []string) bool { return !strings.Contains(strings.Join(l, ""), ";") }).
					Draw(t, "list")...)
		default:
			v = rapid.StringMatching(`[a-z][a-z <>&"'ü]{0,12}[a-z]`).Draw(t, "s")
		}
		back, err := f.Parse(f.Write(v), nil)
		if err != nil || back != v {
			t.Fatalf("%v of %s came back as %v, %v", v, f.Type, back, err)
		}
	})
}

func TestAllThatIsWrongWithRecordsIsTold(t *testing.T) {
	m := &sample.Model{
		ID: "t",
		Fields: []sample.Field{
			{Name: "name", Type: sample.Text, Required: true, Unique: true, Most: "5"},
			{Name: "n", Type: sample.Number, Least: "1", Most: "9"},
			{Name: "s", Type: sample.Choice, Choices: []string{"a"}},
			{Name: "d", Type: sample.Date, Least: "2026-01-01"},
			{Name: "r", Type: sample.Ref, Model: "o"},
		},
	}
	wrong := m.CheckAll(
		[]sample.Record{
			{"id": "1", "name": "Oak", "n": 0.0},
			{"id": "2", "name": "Oak", "s": "b", "d": "2025-12-31"},
			{"id": "3", "n": 10.0, "r": "gone"},
			{"id": "4", "name": "Longer", "n": 9.0, "s": "a", "d": "2026-01-01", "r": "o1"},
		},
		func(_, id string) bool { return id == "o1" },
	)
	var said []string
	for _, w := range wrong {
		said = append(said, w.Error())
	}
	assert.Equal(t, []string{
		"row 1, n: is less than 1", "row 2, name: it is the same as in row 1, and is to be unique", "row 2, s: “b” is none of a", "row 2, d: is before 2026-01-01",
		"row 3, name: it is required and has no value", "row 3, n: is more than 9", "row 3, r: there is no record gone of o", "row 4, name: has 6 letters, at most 5 are wanted",
	}, said)
}

func FuzzReadTable(f *testing.F) {
	for _, s := range []string{"a,b\n1,2", "a\tb\n\"x\ny\"\t2", `[{"a":[1,{"b":2}]}]`, "ü;b\n1;\"", "\xff\xfe"} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, src []byte) {
		table, err := sample.ReadTable(src, "")
		if err != nil {
			return
		}
		for _, row := range table.Rows {
			if len(row) != len(table.Columns) {
				t.Fatalf("a row of %d under %d columns", len(row), len(table.Columns))
			}
		}
		m := &sample.Model{ID: "m"}
		var fields []string
		guesses := table.Infer(nil)
		types := map[string]sample.FieldType{}
		for _, g := range guesses {
			m.Fields = append(m.Fields, g.Field)
			types[g.Column] = g.Field.Type
		}
		columns := table.Columns
		table = table.As(guesses, func(i int) sample.FieldType { return types[columns[i]] })
		at := 0
		for _, c := range table.Columns {
			if strings.EqualFold(c, "id") {
				fields = append(fields, "")
				continue
			}
			fields = append(fields, m.Fields[at].Name)
			at++
		}
		records, wrong := table.Records(m, fields, map[string]bool{}, nil)
		if len(wrong) > 0 { // what is inferred from all values fits them all
			t.Fatalf("%v in %q", wrong[0], src)
		}
		for _, r := range records {
			if err := m.Check(r); err != nil {
				t.Fatal(err)
			}
		}
	})
}
