package sample_test

import (
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/sample"
)

func wide(s string, big bool) string {
	var b strings.Builder
	for _, u := range utf16.Encode([]rune(s)) {
		if big {
			b.WriteByte(byte(u >> 8))
			b.WriteByte(byte(u))
		} else {
			b.WriteByte(byte(u))
			b.WriteByte(byte(u >> 8))
		}
	}
	return b.String()
}

// awkward are files as people have them, each with what is understood of a column: its field,
// the reading taken, and the first value; and what is said of the whole.
var awkward = []struct {
	name, src, list string
	column          int
	field           string // "name type"
	reading         string
	first           string
	offers          string // other readings, by their ids
	unclear         bool
	says            string
}{
	{name: "leading zeros stay", src: "PLZ\n01067\n80331\n", field: "plz text", reading: "text", first: "01067", offers: "number"},
	{name: "long digits stay", src: "Card number\n4000123412341234567\n4000123412341234568\n", field: "cardNumber text", reading: "text", first: "4000123412341234567", offers: "number"},
	{name: "telephone numbers", src: "Phone\n+49 30 123456\n030 98765432\n", field: "phone text", reading: "text", first: "+49 30 123456"},
	{name: "the day first, as only it can be", src: "Due\n13/02/2026\n01/03/2026\n", field: "due date", reading: "date dmy", first: "2026-02-13"},
	{name: "the month first, as only it can be", src: "Due\n02/13/2026\n03/01/2026\n", field: "due date", reading: "date mdy", first: "2026-02-13"},
	{name: "day or month", src: "Due\n02/03/2026\n01/03/2026\n", field: "due date", reading: "date dmy", first: "2026-03-02", offers: "date mdy, text", unclear: true},
	{name: "points say that the day is first", src: "Due\n2.3.2026\n1.3.2026\n", field: "due date", reading: "date dmy", first: "2026-03-02"},
	{name: "two orders in one column", src: "Due\n13/02/2026\n02/13/2026\n", field: "due text", reading: "text", first: "13/02/2026"},
	{name: "months by name", src: "Wann\n3. März 2026\n14. Oktober 2025\n", field: "wann date", reading: "date ymd", first: "2026-03-03"},
	{name: "years of two digits", src: "Day\n13.02.26\n28.11.99\n", field: "day date", reading: "date dmy", first: "2026-02-13"},
	{name: "dates with an hour", src: "At\n2026-02-13T08:30:00Z\n2026-02-14T09:00:00+02:00\n", field: "at text", reading: "text", first: "2026-02-13T08:30:00Z", offers: "date ymd, time"},
	{name: "dates at midnight", src: "At\n2026-02-13T00:00:00\n2026-02-14T00:00:00\n", field: "at date", reading: "date ymd", first: "2026-02-13"},
	{name: "a comma before the decimals", src: "Size;N\n1.234,5;1\n12,25;2\n", field: "size number", reading: "number ,", first: "1234.5"},
	{name: "thousands or decimals", src: "Size;N\n1,234;1\n5,678;2\n", field: "size number", reading: "number .", first: "1234", offers: "number ,, text", unclear: true},
	{name: "lakhs", src: "Sum;N\n12,34,567;1\n1,00,000.5;2\n", field: "sum number", reading: "number", first: "1234567"},
	{name: "brackets are less than nothing", src: "Balance\n(1200.50)\n300\n", field: "balance number", reading: "number", first: "-1200.5"},
	{name: "pounds", src: "Price\n£12.50\n£1.99\n", field: "price money", reading: "money", first: "12.5"},
	{name: "francs behind", src: "Preis\n12.50 CHF\n7.05 CHF\n", field: "preis money", reading: "money", first: "12.5"},
	{name: "two currencies are no amount", src: "Price\n£12.50\n€ 7.05\n", field: "price text", reading: "text", first: "£12.50"},
	{name: "percent", src: "Share\n12 %\n7.5%\n", field: "share number", reading: "percent", first: "12"},
	{name: "units", src: "Height\n1.8 m\n12.25 m\n", field: "height text", reading: "text", first: "1.8 m", offers: "number of m ."},
	{name: "nothing in words", src: "Age\n12\nNA\n40\n", field: "age text", reading: "text", first: "12", offers: "number or nothing"},
	{name: "few values, some again", src: "State\nout\nout\nback\nlost\n", field: "state text", reading: "text", first: "out", offers: "choice"},
	{name: "yes and no elsewhere", src: "Aktiv\nja\nnein\nja\nja\nnein\nja\n", field: "aktiv choice", reading: "text", first: "ja", offers: "any text, yes/no ja"},
	{name: "noughts and ones", src: "On\n1\n0\n1\n", field: "on number", reading: "number", first: "1", offers: "yes/no 1, text"},
	{name: "lists", src: "Tags\n\"red; green\"\n\"blue; red\"\n", field: "tags text", reading: "text", first: "red; green", offers: "list ;"},
	{name: "what a spreadsheet says", src: "sep=;\na,b;n\n1;2\n", column: 1, field: "n number", reading: "number", first: "2", says: "parted by what its first line says"},
	{name: "old line ends", src: "a,b\r1,2\r3,4\r", column: 1, field: "b number", reading: "number", first: "2"},
	{name: "UTF-16", src: "\xff\xfe" + wide("Größe\tN\n12\t3\n", false), field: "grosse number", reading: "number", first: "12", says: "read as UTF-16"},
	{name: "UTF-16 the other way, unmarked", src: wide("Ort\tN\nBad\t3\n", true), field: "ort text", reading: "text", first: "Bad", says: "read as UTF-16"},
	{name: "bars", src: "a|b\n1|x, y\n2|z\n", column: 1, field: "b text", reading: "text", first: "x, y", says: "parted by bars"},
	{name: "commas in decimals, semicolons between", src: "a;b\n1,5;2,5\n3,5;4,5\n", column: 1, field: "b number", reading: "number ,", first: "2.5", says: "parted by semicolons"},
	{name: "a title above", src: "Stock of May,,\n,,\nName,N,M\nSpade,4,5\n", field: "name text", reading: "text", first: "Spade", says: "lines above the names are left out"},
	{name: "quotes as inches", src: "Pipe,N\n3/4\" steel,2\n", field: "pipe text", reading: "text", first: "3/4\" steel", says: "taken as they stand"},
	{name: "no names", src: "1,2026-01-05\n2,2026-02-05\n", field: "n1 number", reading: "number", first: "2", says: "looks like values"},
	{name: "names in other scripts", src: "Название\nлипа\nдуб\n", field: "nazvanie text", reading: "text", first: "липа"},
	{name: "capitals", src: "EAN Code\n1\n", field: "eanCode number", reading: "number", first: "1"},
	{name: "the order of names", src: `[{"zeta":1,"alpha":"x"},{"zeta":2,"alpha":"y"}]`, field: "zeta number", reading: "number", first: "1"},
	{name: "objects in objects", src: `[{"name":"A","address":{"street":"Elm 1","geo":{"lat":1.5}}},{"name":"B","address":{"street":"Oak 2","geo":{"lat":2.5}}}]`, column: 2, field: "addressGeoLat number", reading: "number", first: "1.5"},
	{name: "the longest of several lists", src: `{"meta":[{"v":1}],"data":{"rows":[{"k":"a"},{"k":"b"}]}}`, field: "k text", reading: "text", first: "a", says: "the list data.rows is taken"},
	{name: "a list that is chosen", src: `{"meta":[{"v":1}],"data":{"rows":[{"k":"a"},{"k":"b"}]}}`, list: "meta", field: "v number", reading: "number", first: "1", says: "the list meta is taken"},
	{name: "objects line by line", src: "{\"a\":1}\n{\"a\":2,\"b\":\"x\"}\n", field: "a number", reading: "number", first: "1"},
	{name: "places on a map", src: `{"type":"FeatureCollection","features":[{"type":"Feature","properties":{"name":"Gate"},"geometry":{"type":"Point","coordinates":[7.5,47.25]}}]}`, column: 2, field: "latitude number", reading: "number", first: "47.25", says: "longitude and latitude"},
	{name: "objects in lists", src: `[{"n":1,"lines":[{"a":1}]}]`, column: 1, field: "lines text", reading: "text", first: `[{"a":1}]`, says: "lines holds objects"},
}

func TestAwkwardFilesAreUnderstoodAsTheyAreMeant(t *testing.T) {
	for _, f := range awkward {
		t.Run(f.name, func(t *testing.T) {
			table, err := sample.ReadTable([]byte(f.src), f.list)
			require.NoError(t, err)
			require.NotEmpty(t, table.Rows)
			guesses := table.Infer(nil)
			at := guesses[f.column]
			assert.Equal(t, f.field, at.Field.Name+" "+string(at.Field.Type), at.Why)
			assert.Equal(t, f.reading, strings.TrimSpace(at.Reading))
			assert.Equal(t, f.unclear, at.Unclear)
			var others []string
			for _, r := range at.Readings {
				if r.ID != at.Reading {
					others = append(others, r.ID)
				}
			}
			if f.offers != "" {
				assert.Equal(t, strings.TrimSuffix(f.offers, ", text"), strings.TrimSuffix(strings.Join(others, ", "), ", text"), "offered besides")
			}
			types := map[string]sample.FieldType{}
			for _, g := range guesses {
				types[g.Column] = g.Field.Type
			}
			read := table.As(guesses, func(i int) sample.FieldType { return types[table.Columns[i]] })
			assert.Equal(t, f.first, read.Rows[0][f.column])
			if f.says != "" {
				assert.Contains(t, strings.Join(table.Notes, "; "), f.says)
			}
		})
	}
}

// Whatever reading is chosen, what it gives is a value of its type, and what it cannot read
// stays as it was written.
func TestEveryReadingGivesValuesOfItsType(t *testing.T) {
	for _, f := range awkward {
		table, err := sample.ReadTable([]byte(f.src), f.list)
		require.NoError(t, err)
		for _, g := range table.Infer(nil) {
			for _, r := range g.Readings {
				chosen := table.Infer(map[string]string{g.Column: r.ID})
				m := &sample.Model{ID: "m"}
				fields := make([]string, len(table.Columns))
				types := make([]sample.FieldType, len(table.Columns))
				for _, c := range chosen {
					for i, name := range table.Columns {
						if name == c.Column {
							fields[i], types[i] = c.Field.Name, c.Field.Type
						}
					}
					m.Fields = append(m.Fields, c.Field)
				}
				read := table.As(chosen, func(i int) sample.FieldType { return types[i] })
				_, wrong := read.Records(m, fields, map[string]bool{}, nil)
				assert.Empty(t, wrong, "%s, %s as %s", f.name, g.Column, r.ID)
			}
		}
	}
}

// A column for a field that is there is read as that field's type, and texts stay texts.
func TestTextsForATextFieldStayAsTheyAre(t *testing.T) {
	table, err := sample.ReadTable([]byte("Code\n1,200\n3,400\n"), "")
	require.NoError(t, err)
	read := table.As(table.Infer(nil), func(int) sample.FieldType { return sample.Text })
	assert.Equal(t, "1,200", read.Rows[0][0])
}

func TestNamesOfFields(t *testing.T) {
	for column, name := range map[string]string{
		"Latin name": "latinName", "EAN Code": "eanCode", "unit_price": "unitPrice", "Größe (cm)": "grosseCm", "2nd try": "n2ndTry",
		"latinName": "latinName", "ID": "id", "Œuvre": "oeuvre", "客户": "field", "Ταχύτητα": "tachytita", "don't": "dont",
	} {
		assert.Equal(t, name, sample.FieldName(column), column)
	}
}
