package expr_test

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/expr"
	"ubiquant/core/sample"
	"ubiquant/internal/testkit"
)

var beds = &sample.Model{
	ID:     "beds",
	Name:   "Bed",
	Fields: []sample.Field{{Name: "name", Type: sample.Text, Required: true}},
}
var trees = &sample.Model{ID: "trees", Name: "Tree", Fields: []sample.Field{
	{
		Name:     "name",
		Type:     sample.Text,
		Required: true,
	}, {Name: "height", Type: sample.Number}, {Name: "price", Type: sample.Money}, {Name: "shown", Type: sample.YesNo},
	{
		Name: "planted",
		Type: sample.Date,
	}, {Name: "state", Type: sample.Choice, Choices: []string{"well", "ill"}}, {Name: "bed", Type: sample.Ref, Model: "beds"},
	{
		Name:     "cost",
		Type:     sample.Money,
		Currency: "JPY",
	}, {Name: "tags", Type: sample.Texts}, {Name: "beds", Type: sample.Refs, Model: "beds"}}}
var scope = expr.Scope{Record: trees, Models: map[string]*sample.Model{"trees": trees, "beds": beds}}

var lists = map[string][]sample.Record{
	"beds":  {{"id": "b1", "name": "North"}, {"id": "b2", "name": "Łąka"}},
	"trees": {},
}

var records = []sample.Record{
	{
		"id":      "t1",
		"name":    "Silver lime",
		"height":  12.345,
		"price":   123450.0,
		"shown":   true,
		"planted": "2026-03-01",
		"state":   "well",
		"bed":     "b1",
		"cost":    1234567.0,
		"tags":    sample.ListOf("tall", "Łó, “q”"),
		"beds":    sample.ListOf("b2", "b1", "b9"),
	},
	{"id": "t2", "name": ""},
	{
		"id":      "t3",
		"name":    "élan vital 東",
		"height":  -0.5,
		"price":   -5.0,
		"shown":   false,
		"planted": "not a date",
		"state":   "ill",
		"bed":     "b9",
	},
	{"id": "t4", "name": "x'y\"z<&>", "height": 0.0, "price": 0.0, "planted": "1799-12-31", "bed": "b2"},
	{"id": "t5", "name": "a  b   c", "height": 1e15, "price": 99999999999.0, "shown": true, "state": "unheard"},
	{"id": "t6", "name": "tie", "height": 0.125, "price": 50.0},
	{
		"id":     "t7",
		"name":   "𝔘nicode",
		"height": 2.5,
		"price":  1.0,
		"cost":   -3.0,
		"tags":   sample.ListOf("tall"),
		"beds":   sample.ListOf("b9"),
	},
}

// sources are expressions as people write them; each is evaluated on both sides.
var sources = []string{
	`record.name`, `record.height`, `record.shown`, `record.id`, `record.name + ', ' + record.state`, `'a' + "b"`, `record.height + 1`, `record.height * 2 - 0.5`, `record.height / 4`, `-record.height`, `7 % 3`,
	`record.height > 1`, `record.height >= 0.0`, `record.height < record.price`, `record.name < 'b'`, `record.name >= 'x'`, `record.planted > '2000-01-01'`, `record.state == 'well'`, `record.state != 'well'`, `record.height == 0.0`, `record.state == null`,
	`has(record.height)`, `!has(record.height)`, `has(record.height) ? number(record.height, 1) + ' m' : 'not measured'`, `record.shown && record.height > 1`, `record.shown || has(record.bed)`, `!record.shown`, `record.shown ? 'yes' : 'no'`,
	`money(record.price)`, `number(record.height, 0)`, `number(record.height, 2)`, `number(record.height, 3)`, `number(1234567.891, 1)`, `number(0.5, 0)`, `number(1.005, 2)`, `number(-0.004, 2)`, `day(record.planted)`, `day(today)`,
	`weekday(record.planted)`, `shortDay(record.planted)`, `month(record.planted)`, `weekday('2024-02-30')`, `month('soon')`, `shortDay('2024-02-29')`, `upTo(record.height, 2)`, `upTo(2.5, 2)`, `upTo(1200.0, 1)`, `upTo(-0.001, 2)`, `upTo(0.0, 3)`, `upTo(100.0, 0)`,
	`initials(record.name)`, `upper(record.name)`, `lower(record.name)`, `size(record.name)`, `size(beds)`, `size(trees)`, `text(record.height)`, `text(record.shown)`, `string(record.price)`, `text(1.5)`, `text(100)`, `text(0.1 + 0.2)`,
	`plural(size(beds), 'bed', 'beds')`, `plural(1, 'tree', 'trees')`, `form(size(beds), 'pl')`, `form(1.5, 'fr')`, `find(beds, record.bed).name`, `has(find(beds, record.bed).name) ? 'known' : 'unknown'`,
	`record.name.contains('i')`, `record.name.startsWith('S')`, `record.name.endsWith('e')`, `record.state.contains('')`, `record.state == 'well' ? 'good' : record.state == 'ill' ? 'bad' : 'neutral'`,
	`money(record.cost)`, `money(record.cost * 2)`, `moneyIn(record.price, 'KWD')`, `moneyIn(record.price, 'nowhere')`, `record.tags`, `size(record.tags)`, `joined(record.tags, ' · ')`, `text(record.tags)`, `record.tags.contains('tall')`, `record.tags == record.beds`, `record.tags == record.tags`, `has(record.tags)`, `size(findAll(beds, record.beds))`, `size(record.beds)`, `record.tags == null`,
	`values(beds, 'name')`, `joined(values(beds, 'name'), ', ')`, `size(values(beds, 'id'))`, `values(beds, 'name').contains('Łąka')`, `joined(values(trees, 'name'), ', ')`,
	`size(beds.filter(b, b.name == 'x'))`, `size(beds.filter(b, b.id == record.bed || has(b.name)))`, `joined(values(trees.filter(t, t.shown), 'name'), ', ')`, `sum(trees, 'height')`, `sum(trees.filter(t, t.height > 1.0), 'price')`, `size(trees.filter(t, t.bed == record.bed))`, `size(trees.filter(t, find(beds, t.bed).name == 'x'))`, `size(trees.filter(a, size(trees.filter(b, b.state == a.state)) > 1))`, `size(trees.filter(t, t.height + 1 > 2))`, `find(beds.filter(b, has(b.name)), record.bed).name`,
	`record.name == "it's" ? 'a"b' : '<b>'`, `(1 + 2) * 3`, `1 + 2 * 3`, `!(1 < 2) || 2 <= 2`, `true ? 1 : 2`, `record.height / record.price`, `record.name + text(record.height)`,
}

func TestExpressionsComputeWhatTheySay(t *testing.T) {
	env := &expr.Env{Record: records[0], Lists: lists, Today: "2026-11-23"}
	cases := map[string]any{
		`record.name + ' (' + record.state + ')'`:  "Silver lime (well)",
		`number(record.height, 1) + ' m'`:          "12.3 m",
		`money(record.price)`:                      "€1,234.50",
		`money(record.cost)`:                       "¥1,234,567",
		`money(-record.cost - 1)`:                  "-¥1,234,568",
		`moneyIn(12.0, 'GBP')`:                     "£0.12",
		`joined(record.tags, ' · ')`:               "tall · Łó, “q”",
		`record.tags.contains('tal')`:              false,
		`size(findAll(beds, record.beds))`:         2.0,
		`day(record.planted)`:                      "1 Mar 2026",
		`initials(record.name)`:                    "SL",
		`joined(values(beds, 'name'), ', ')`:       "North, Łąka",
		`size(values(trees, 'name'))`:              0.0,
		`find(beds, record.bed).name`:              "North",
		`size(beds) + 1`:                           3.0,
		`record.height > 12 && record.shown`:       true,
		`number(0.125, 2)`:                         "0.13",
		`number(999.995, 2)`:                       "1,000.00",
		`number(-0.001, 2)`:                        "0.00",
		`upTo(2.5, 2)`:                             "2.5",
		`upTo(1200.0, 1)`:                          "1,200",
		`upTo(2.345, 2)`:                           "2.35",
		`upTo(100.0, 0)`:                           "100",
		`weekday('2026-11-24')`:                    "Tue 24 Nov",
		`shortDay('2024-02-29')`:                   "29 Feb",
		`month('2026-03-01')`:                      "March 2026",
		`month('soon')`:                            "soon",
		`7 / 2`:                                    3.5,
		`record.planted < today ? 'past' : 'soon'`: "past",
	}
	for src, want := range cases {
		p, err := expr.Compile(src, scope)
		require.NoError(t, err, src)
		got, err := p.Eval(env)
		require.NoError(t, err, src)
		assert.Equal(t, want, got, src)
	}
}

func TestMistakesAreFoundBeforeAnyRecordIsSeen(t *testing.T) {
	cases := map[string]string{
		`record.hight`:               `no field "hight"`,
		`record.cost + usd.cost`:     `not known here`,
		`joined(record.name, '')`:    "takes a list of texts",
		`record.tags + 'x'`:          "cannot be added",
		`findAll(beds, record.bed)`:  "takes a list of texts",
		`record.name + 1`:            "cannot be added",
		`record.name * 2`:            "not a number",
		`record.height == 'x'`:       "never equal",
		`trees.name`:                 "only a record has fields",
		`nothing`:                    "is not known here",
		`upper(1)`:                   "takes a text",
		`upper()`:                    "takes 1 values, here are 0",
		`record.shown ? 1 : 'x'`:     "both branches",
		`record.name ? 1 : 2`:        "not yes/no",
		`frobnicate(1)`:              "no function",
		`1 +`:                        "cannot be read",
		`[1, 2]`:                     "not used here",
		`values(beds, record.name)`:  "takes the name of a field",
		`values(beds, 'nam')`:        "no field \"nam\"",
		`values(trees, 'height')`:    "takes a field of texts",
		`values(record.tags, 'x')`:   "takes",
		`trees.all(x, x.height > 1)`: "is not known here",
	}
	for src, want := range cases {
		_, err := expr.Compile(src, scope)
		var e *expr.Error
		require.ErrorAs(t, err, &e, src)
		assert.Contains(t, e.Message, want, src)
	}
	_, err := expr.Compile(`record.name`, expr.Scope{})
	assert.ErrorContains(t, err, "no record here")
}

func TestDivisionByZeroAndMissingNumbersAreErrorsAtTheRecord(t *testing.T) {
	for src, want := range map[string]string{`1 / (record.height - record.height)`: "division by zero", `record.price + 1`: "missing in this record"} {
		p, err := expr.Compile(src, scope)
		require.NoError(t, err)
		_, err = p.Eval(&expr.Env{Record: sample.Record{"id": "x", "height": 1.0}})
		assert.ErrorContains(t, err, want)
	}
}

// The same answer on both sides: the evaluator here and the TypeScript that is
// delivered, run by Node on the same records.
func TestTranslationsEqualTheEvaluator(t *testing.T) {
	bothSides(t, sources, records, lists)
}

// The same for expressions and records that nobody thought of: 320 on 60 records, some
// without what is not required, from a seed.
func TestMadeUpExpressionsAreEqualOnBothSides(t *testing.T) {
	ids := map[string][]string{"beds": {"b1", "b2", "b9"}}
	made, err := sample.Generate(
		sample.Order{
			Model: trees,
			Seed:  11,
			Count: 60,
			Today: "2026-11-23",
			IDs:   func(m string) []string { return ids[m] },
			Makers: map[string]sample.Maker{
				"height":  {Kind: "number", Least: -20, Most: 400, Decimals: 3, Missing: 0.3},
				"price":   {Kind: "money", Least: -50, Most: 100000, Spread: "low", Missing: 0.3},
				"state":   {Kind: "choice", Missing: 0.3},
				"planted": {Kind: "date", Least: -90000, Most: 400, Missing: 0.3},
				"tags":    {Kind: "list", Least: 1, Most: 4, Missing: 0.3},
				"beds":    {Kind: "references", Least: 1, Most: 3, Missing: 0.3},
			},
		},
	)
	require.NoError(t, err)
	w := writer{rand.New(rand.NewPCG(3, 9))}
	var list []string
	for len(list) < 320 {
		src := w.expression(expr.Kind(2+w.r.IntN(3)), 3)
		if _, err := expr.Compile(src, scope); err == nil { // too long ones are refused
			list = append(list, src)
		}
	}
	bothSides(t, list, made, map[string][]sample.Record{"beds": lists["beds"], "trees": made})
}

// writer makes expressions up: of a kind, so many deep.
type writer struct{ r *rand.Rand }

func (w writer) one(list ...string) string { return list[w.r.IntN(len(list))] }

func (w writer) expression(kind expr.Kind, deep int) string {
	text := func() string { return w.expression(expr.Text, deep-1) }
	number := func() string { return w.expression(expr.Number, deep-1) }
	yes := func() string { return w.expression(expr.Bool, deep-1) }
	if deep == 0 {
		switch kind {
		case expr.Text:
			return w.one(
				"record.name",
				"record.state",
				"record.planted",
				"'a'",
				"''",
				"'Łó “q”'",
				"today",
				"record.id",
			)
		case expr.Number:
			return w.one(
				"record.height",
				"record.price",
				"record.cost",
				"size(record.tags)",
				"size(record.beds)",
				"1",
				"0",
				"2.5",
				"size(beds)",
				"size(trees)",
				"1000000",
			)
		}
		return w.one(
			"record.shown",
			"has(record.tags)",
			"record.tags.contains('oak')",
			"(record.tags == record.beds)",
			"true",
			"false",
			"has(record.height)",
			"has(record.state)",
		)
	}
	switch kind {
	case expr.Text:
		return w.one(
			"upper("+text()+")",
			"lower("+text()+")",
			"initials("+text()+")",
			"day(record.planted)",
			"day("+text()+")",
			"money(record.price)",
			"money("+number()+")",
			"joined(record.tags, "+text()+")",
			"text(record.beds)",
			"moneyIn("+number()+", 'JPY')",
			"upTo("+number()+", "+w.one("0", "1", "2")+")",
			w.one("weekday", "shortDay", "month")+"("+w.one("record.planted", "today", text())+")",
			"number("+number()+", "+w.one("0", "1", "2")+")",
			"text("+number()+")",
			"text("+yes()+")",
			"("+text()+" + "+text()+")",
			"("+yes()+" ? "+text()+" : "+text()+")",
			"plural("+number()+", 'one', 'many')",
			"form("+number()+", 'pl')", "form("+number()+", 'ar')",
			"find(beds, record.bed).name",
			"joined(values(beds.filter(b, b.name != "+text()+"), 'name'), ', ')",
			w.expression(kind, 0),
		)
	case expr.Number:
		return w.one(
			"("+number()+" + "+number()+")",
			"("+number()+" - "+number()+")",
			"("+number()+" * "+number()+")",
			"("+number()+" / "+number()+")",
			"("+yes()+" ? "+number()+" : "+number()+")",
			"size("+text()+")",
			"size(trees.filter(t, t.shown == "+yes()+" && t.state != "+text()+"))",
			"sum(trees.filter(t, t.shown), 'height')",
			"-("+number()+")",
			w.expression(kind, 0),
		)
	}
	return w.one(
		"("+number()+" < "+number()+")",
		"("+number()+" >= "+number()+")",
		"("+text()+" == "+text()+")",
		"("+text()+" != "+text()+")",
		"("+text()+" < "+text()+")",
		"("+yes()+" && "+yes()+")",
		"("+yes()+" || "+yes()+")",
		"!("+yes()+")",
		"("+text()+").contains("+text()+")",
		"("+text()+").startsWith("+text()+")",
		"(record.state == null)",
		w.expression(kind, 0),
	)
}

// bothSides evaluates expressions here and, translated, in Node, and compares.
func bothSides(t *testing.T, sources []string, records []sample.Record, lists map[string][]sample.Record) {
	t.Helper()
	if testing.Short() {
		t.Skip("runs Node")
	}
	esbuild := filepath.Join(testkit.Root(), "kits", "sorrel", "node_modules", ".bin", "esbuild")
	if _, err := os.Stat(esbuild); err != nil {
		t.Fatal("the kit's packages are missing; run ./start.sh --build-only")
	}
	dir := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(dir, "x.ts"), []byte(expr.Runtime), 0o644))
	var b strings.Builder
	b.WriteString("import * as x from './x'\nconst today = '2026-11-23'\n")
	for name, list := range lists {
		text, _ := json.Marshal(list)
		fmt.Fprintf(&b, "const %s: any[] = %s\n", name, text)
	}
	text, _ := json.Marshal(records)
	fmt.Fprintf(&b, "const records: any[] = %s\nconst programs: ((record: any) => unknown)[] = [\n", text)
	programs := make([]*expr.Program, len(sources))
	for i, src := range sources {
		p, err := expr.Compile(src, scope)
		require.NoError(t, err, src)
		programs[i] = p
		code, _ := p.TypeScript(func(id string) string { return id })
		fmt.Fprintf(&b, "  record => %s,\n", code)
	}
	b.WriteString(
		"]\nconst out = programs.map(p => records.map(r => { try { return { value: p(r) ?? null } } catch (e) { return { error: (e as Error).message } } }))\nconsole.log(JSON.stringify(out))\n",
	)
	require.NoError(t, os.WriteFile(filepath.Join(dir, "main.ts"), []byte(b.String()), 0o644))
	bundle := filepath.Join(dir, "main.mjs")
	out, err := exec.Command(esbuild, "--bundle", "--format=esm", "--log-level=warning", "--outfile="+bundle, filepath.Join(dir, "main.ts")).
		CombinedOutput()
	require.NoError(t, err, string(out))
	out, err = exec.Command("node", bundle).Output()
	require.NoError(t, err)
	var got [][]struct {
		Value any
		Error string
	}
	require.NoError(t, json.Unmarshal(out, &got))
	compared := 0
	for i, p := range programs {
		for j, r := range records {
			want, err := p.Eval(&expr.Env{Record: r, Lists: lists, Today: "2026-11-23"})
			there := got[i][j]
			if err != nil {
				assert.NotEmpty(t, there.Error, "%s on %s: %v here, %v there", sources[i], r.ID(), err, there.Value)
				continue
			}
			if f, ok := want.(float64); ok && (math.IsInf(f, 0) || math.IsNaN(f)) {
				want = nil // JSON has no such numbers
			}
			if l, ok := want.(sample.List); ok {
				items := []any{}
				for _, item := range l.Items() {
					items = append(items, item)
				}
				want = items
			}
			// A condition makes a missing yes/no a no on both sides; shown alone it stays missing.
			assert.Equal(t, want, there.Value, "%s on %s (%s)", sources[i], r.ID(), there.Error)
			compared++
		}
	}
	t.Logf("%d expressions × %d records, %d values compared", len(sources), len(records), compared)
}

func ExampleCompile() {
	p, err := expr.Compile(`record.name + ', ' + number(record.height, 1) + ' m'`, scope)
	if err != nil {
		fmt.Println(err)
		return
	}
	v, _ := p.Eval(&expr.Env{Record: sample.Record{"id": "t", "name": "Yew", "height": 4.0}})
	fmt.Println(v)
	code, _ := p.TypeScript(func(list string) string { return list })
	fmt.Println(code)
	// Output:
	// Yew, 4.0 m
	// x.join(x.join(x.join(record?.name, ', '), x.number(record?.height, 1)), ' m')
}
