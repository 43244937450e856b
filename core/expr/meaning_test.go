package expr_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/expr"
	"ubiquant/core/sample"
)

// What a choice means is said once; what is none of the choices is as it is said for
// anything else, never as the last of them.
func TestMeaningsAreThoseOfTheField(t *testing.T) {
	m := &sample.Model{ID: "gates", Name: "Gate", Fields: []sample.Field{
		{
			Name:    "state",
			Type:    sample.Choice,
			Choices: []string{"open", "shut", "it's"},
			Meanings: []sample.Meaning{
				{Value: "open", Words: "Come in", Tone: "good"},
				{Value: "shut", Tone: "bad", Icon: "lock"},
				{Tone: "neutral"},
			},
		},
		{Name: "size", Type: sample.Choice, Choices: []string{"s"}},
	}}
	scope := expr.Scope{Record: m, Models: map[string]*sample.Model{"gates": m}}
	of := func(source string, r sample.Record) any {
		t.Helper()
		p, err := expr.Compile(source, scope)
		require.NoError(t, err)
		v, err := p.Eval(
			&expr.Env{Record: r, Lists: map[string][]sample.Record{"gates": {{"id": "1", "state": "shut"}}}},
		)
		require.NoError(t, err)
		return v
	}
	assert.Equal(t, "good", of("tone(record.state)", sample.Record{"state": "open"}))
	assert.Equal(t, "Come in", of("words(record.state)", sample.Record{"state": "open"}))
	assert.Equal(t, "shut", of("words(record.state)", sample.Record{"state": "shut"}), "without words it says itself")
	assert.Equal(t, "lock", of("icon(record.state)", sample.Record{"state": "shut"}))
	assert.Equal(t, "neutral", of("tone(record.state)", sample.Record{"state": "ajar"}))
	assert.Equal(t, "neutral", of("tone(record.state)", sample.Record{}))
	assert.Equal(t, "ajar", of("words(record.state)", sample.Record{"state": "ajar"}))
	assert.Equal(t, "bad", of("tone(find(gates, '1').state)", sample.Record{}), "over a reference as well")
	for source, why := range map[string]string{"tone(record.size)": "nothing is said of what the values of size mean", "tone('open')": "takes a field of a record", "tone(record.state, 1)": "takes one field", "icon(record.none)": "no field"} {
		_, err := expr.Compile(source, scope)
		assert.ErrorContains(t, err, why)
	}
}

// Controls and counts are known by their names, and nothing else.
func TestNamesOfTheScreenAreTyped(t *testing.T) {
	scope := expr.Scope{
		Models:   map[string]*sample.Model{},
		Controls: map[string]expr.Kind{"q": expr.Text, "page": expr.Number, "all": expr.Bool},
		Repeats:  []string{"list"},
	}
	env := &expr.Env{
		Controls: map[string]any{"q": "oak", "page": 2.0, "all": true},
		Count:    func(string) (int, int, error) { return 21, 3, nil },
	}
	for source, want := range map[string]any{"controls.q + '!'": "oak!", "controls.page + 1": 3.0, "controls.all ? 'yes' : 'no'": "yes", "plural(count.list, 'tree', 'trees')": "21 trees", "pages.list * 2": 6.0} {
		p, err := expr.Compile(source, scope)
		require.NoError(t, err)
		assert.True(t, p.Speaks())
		v, err := p.Eval(env)
		require.NoError(t, err)
		assert.Equal(t, want, v, source)
	}
	for source, why := range map[string]string{"controls.z": `no control here is named "z"; named are all, page, q`, "count.other": `nothing that repeats is named "other"; named are list`, "controls.q + 1": "cannot be added", "outer.x": "no record around"} {
		_, err := expr.Compile(source, scope)
		assert.ErrorContains(t, err, why)
	}
	p, err := expr.Compile("'fixed'", scope)
	require.NoError(t, err)
	assert.False(t, p.Speaks())
}
