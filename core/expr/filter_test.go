package expr_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/expr"
	"ubiquant/core/sample"
)

func lent() (expr.Scope, *expr.Env) {
	volunteers := &sample.Model{ID: "volunteers", Name: "Volunteers", Fields: []sample.Field{{Name: "name", Type: sample.Text, Required: true}}}
	loans := &sample.Model{ID: "loans", Name: "Loans", Fields: []sample.Field{
		{Name: "tool", Type: sample.Text, Required: true},
		{Name: "state", Type: sample.Choice, Choices: []string{"out", "back"}},
		{Name: "due", Type: sample.Date},
		{Name: "fee", Type: sample.Money, Currency: "EUR"},
		{Name: "borrower", Type: sample.Ref, Model: "volunteers"},
	}}
	return expr.Scope{Models: map[string]*sample.Model{"loans": loans, "volunteers": volunteers}}, &expr.Env{
		Today: "2026-11-30",
		Lists: map[string][]sample.Record{
			"loans": {
				{"id": "a", "tool": "Saw", "state": "out", "due": "2026-11-01", "fee": 250.0, "borrower": "v"},
				{"id": "b", "tool": "Rake", "state": "back", "due": "2026-11-02", "fee": 100.0, "borrower": "v"},
				{"id": "c", "tool": "Spade", "state": "out", "due": "2026-12-24"},
				{"id": "d", "tool": "Hoe"},
			},
			"volunteers": {{"id": "v", "name": "Noor"}, {"id": "w", "name": "Tam"}},
		},
	}
}

func TestAFilteredListIsCountedAndSummedInPlace(t *testing.T) {
	scope, env := lent()
	for source, want := range map[string]any{
		"size(loans.filter(l, l.state == 'out'))":                                 2.0,
		"size(loans.filter(l, l.state == 'out' && l.due < today))":                1.0,
		"size(loans.filter(l, has(l.fee)))":                                       2.0,
		"size(loans.filter(l, l.tool.contains('a')).filter(m, m.state == 'out'))": 2.0,
		"sum(loans, 'fee')": 350.0,
		"money(sum(loans.filter(l, l.state == 'out'), 'fee'))":                                "€2.50",
		"sum(loans.filter(l, l.tool == 'none'), 'fee')":                                       0.0,
		"joined(values(loans.filter(l, l.state == 'out'), 'tool'), ', ')":                     "Saw, Spade",
		"size(volunteers.filter(v, size(loans.filter(l, l.borrower == v.id)) > 1))":           1.0,
		"size(loans.filter(l, find(volunteers, l.borrower).name == 'Noor'))":                  2.0,
		"plural(size(loans.filter(l, l.state == 'gone')), 'loan', 'loans') + ', to ' + 'all'": "0 loans, to all",
	} {
		p, err := expr.Compile(source, scope)
		require.NoError(t, err, source)
		got, err := p.Eval(env)
		require.NoError(t, err, source)
		assert.Equal(t, want, got, source)
	}
	// Within a repeat, of its record.
	inner := scope
	inner.Record = scope.Models["volunteers"]
	p, err := expr.Compile("size(loans.filter(l, l.borrower == record.id))", inner)
	require.NoError(t, err)
	env.Record = env.Lists["volunteers"][0]
	got, err := p.Eval(env)
	require.NoError(t, err)
	assert.Equal(t, 2.0, got)
}

func TestWhatIsWrongInAFilterIsSaidInPlainWords(t *testing.T) {
	scope, _ := lent()
	for source, want := range map[string]string{
		"size(loans.filter(l, l.stat == 'out'))":                       `Loans has no field "stat"; it has tool, state`,
		"size(loans.filter('l', true))":                                "filter takes a name for a record and what must hold of it, as in loans.filter(r, r.id != '')",
		"size(loans.filter(l))":                                        "filter takes a name",
		"size(loans.filter(l, l.tool))":                                "this is a text, not yes/no",
		"size('loans'.filter(l, true))":                                "filter is asked of a list of records, this is a text",
		"size(loans.filter(record, true))":                             `"record" means something already`,
		"size(loans.filter(volunteers, true))":                         `"volunteers" means something already`,
		"size(loans.filter(l, size(loans.filter(l, true)) > 0))":       `"l" is the record of the filter around`,
		"size(loans.filter(l, true)) + l.fee":                          `"l" is not known here`,
		"sum(loans, 'tool')":                                           "tool is a text; sum takes a field of numbers",
		"sum(loans, today)":                                            "sum takes the name of a field here, as in sum(loans, 'fee')",
		"values(loans, 'fee')":                                         "fee is a number; values takes a field of texts",
		"loans.filter(l, l.state == 'out') == 3":                       "a list is never equal to a number",
		"size(volunteers.filter(v, v.name == 'x')).filter(l, l == '')": "filter is asked of a list",
	} {
		_, err := expr.Compile(source, scope)
		assert.ErrorContains(t, err, want, source)
	}
}

// A list walked for each record of another, in another: it ends, and says so.
func TestFiltersInFiltersEnd(t *testing.T) {
	scope, env := lent()
	var many []sample.Record
	for range 2_000 {
		many = append(many, sample.Record{"id": "x", "state": "out"})
	}
	env.Lists["loans"] = many
	env.Budget = expr.NewBudget()
	p, err := expr.Compile("size(loans.filter(a, size(loans.filter(b, size(loans.filter(c, c.state == b.state)) > 0)) > 0))", scope)
	require.NoError(t, err)
	_, err = p.Eval(env)
	assert.ErrorContains(t, err, "operations would be needed")
}

func TestMentionsAreTheFieldsThatAreNamed(t *testing.T) {
	scope, _ := lent()
	scope.Record = scope.Models["volunteers"]
	named := func(source string) (out [][2]any) {
		list, ok := expr.Mentions(source, scope)
		require.True(t, ok, source)
		for _, m := range list {
			assert.Equal(t, m.Field, string([]rune(source)[m.At:][:len([]rune(m.Field))]), source)
			out = append(out, [2]any{m.Model + "." + m.Field, m.At})
		}
		return out
	}
	assert.Equal(t, [][2]any{{"volunteers.name", 7}}, named("record.name"))
	assert.Equal(t, [][2]any{{"loans.state", 22}, {"loans.fee", 40}}, named("sum(loans.filter(l, l.state == 'out'), 'fee')"))
	assert.Equal(t, [][2]any{{"loans.tool", 15}, {"volunteers.name", 43}}, named("values(loans, 'tool') == unknown || record.name == 'name'"))
	assert.Equal(t, [][2]any{{"volunteers.name", 13}, {"volunteers.name", 40}}, named("'é' + record.name + controls.a + record.name"))
	assert.Equal(t, [][2]any{{"loans.fee", 23}, {"volunteers.name", 69}, {"volunteers.name", 75}}, named("size(loans.filter(l, l.fee > 1)) > 0 && has( find(volunteers, record.name).name )"))
	for _, source := range []string{
		"find(unknown, record.name).name", "values(unknown, 'name')", "sum(null, 'name')", "findAll(unknown, record.name)",
		"unknown.filter(u, u.name == record.name)", "find(null, 'x').name + record.name", "words(record.name) + tone(unknown.x)",
	} {
		for _, at := range named(source) {
			assert.Equal(t, "volunteers.name", at[0], source)
		}
		_, err := expr.Compile(source, scope)
		assert.Error(t, err, source)
	}
	_, ok := expr.Mentions("record.(", scope)
	assert.False(t, ok)
}

func TestWhatAFilterMayAskIsOffered(t *testing.T) {
	scope, _ := lent()
	offered := func(source string) (out []string) {
		for _, c := range expr.Complete(source, len(source), scope) {
			out = append(out, c.Put)
		}
		return out
	}
	assert.Equal(t, []string{"filter(l, l."}, offered("size(loans."))
	assert.Contains(t, offered("size(loans.filter(l, l."), "due")
	assert.Contains(t, offered("size(loans.filter(l, l.state == 'out' && l.d"), "due")
	assert.Contains(t, offered("some"), "size(loans.filter(l, l.")
	assert.Contains(t, offered("sum of fee"), "money(sum(loans, 'fee'))")
}

// Whatever is written, it is read or refused, and what it names stands where it is said to.
func FuzzWhatIsWritten(f *testing.F) {
	scope, env := lent()
	scope.Record = scope.Models["loans"]
	env.Record = env.Lists["loans"][0]
	for _, s := range []string{"size(loans.filter(l, l.state == 'out' && has(l.fee)))", "sum(loans, 'fee') + record.fee", "find(volunteers, record.borrower).name", "values(null, 'x')", "has( record.due )", "é.filter(é, é)", "outer.x.filter(record, today)"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, source string) {
		if p, err := expr.Compile(source, scope); err == nil {
			env.Budget = expr.NewBudget()
			_, _ = p.Eval(env)
			p.TypeScript(func(id string) string { return id })
		}
		list, _ := expr.Mentions(source, scope)
		letters := []rune(source)
		for _, m := range list {
			assert.Equal(t, m.Field, string(letters[m.At:][:len([]rune(m.Field))]))
		}
		expr.Complete(source, len(source), scope)
	})
}
