package expr_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/expr"
	"ubiquant/core/sample"
)

func texts(list []expr.Completion) (out []string) {
	for _, c := range list {
		out = append(out, c.Text)
	}
	return out
}

func TestWhatMayStandIsOffered(t *testing.T) {
	seats := &sample.Model{
		ID:   "seats",
		Name: "Seat",
		Fields: []sample.Field{
			{Name: "title", Type: sample.Text},
			{Name: "fee", Type: sample.Money},
			{Name: "opened", Type: sample.Date, Required: true},
			{Name: "bed", Type: sample.Ref, Model: "beds"},
		},
	}
	scope := expr.Scope{Record: seats, Models: map[string]*sample.Model{"seats": seats, "beds": beds}}
	assert.Equal(t, []string{"fee"}, texts(expr.Complete("record.fe", 9, scope)))
	assert.Equal(t, []string{"name"}, texts(expr.Complete("find(beds, record.bed).na", 25, scope)))
	got := expr.Complete("fe", 2, scope)
	assert.Equal(t, []string{"fee", "money of fee"}, texts(got)[:2])
	assert.Equal(t, "record.fee", got[0].Put)
	assert.Equal(t, []string{"bed’s name"}, texts(expr.Complete("'by ' + be", 10, scope))[:1])
	assert.Contains(t, texts(expr.Complete("", 0, expr.Scope{Models: scope.Models})), "size(seats)")
	assert.NotContains(t, texts(expr.Complete("", 0, expr.Scope{Models: scope.Models})), "record")
	assert.Equal(t, []string{"startsWith"}, texts(expr.Complete("record.title.st", 15, scope)))
	// What is put in where nothing was typed is whole, or goes on: it compiles.
	for _, c := range expr.Complete("", 0, scope) {
		if last := c.Put[len(c.Put)-1]; last != '(' && last != '.' {
			_, err := expr.Compile(c.Put, scope)
			assert.NoError(t, err, c.Put)
		}
	}
}

func TestEveryChoiceIsMapped(t *testing.T) {
	f := sample.Field{
		Name:     "state",
		Type:     sample.Choice,
		Required: true,
		Choices:  []string{"open", "it's done", `a\b`},
	}
	m := &sample.Model{ID: "m", Fields: []sample.Field{f}}
	source := expr.Mapping(&f, map[string]string{"open": "info", "it's done": "good", `a\b`: "bad"}, "neutral")
	p, err := expr.Compile(source, expr.Scope{Record: m})
	require.NoError(t, err)
	for state, want := range map[string]string{"open": "info", "it's done": "good", `a\b`: "bad", "unheard of": "neutral"} {
		got, err := p.Eval(&expr.Env{Record: sample.Record{"id": "1", "state": state}})
		require.NoError(t, err)
		assert.Equal(t, want, got, state)
	}
}

func TestCompletingNeverStumbles(t *testing.T) {
	scope := expr.Scope{Record: beds, Models: map[string]*sample.Model{"beds": beds}}
	rapid.Check(t, func(t *rapid.T) {
		s := rapid.StringMatching(`[a-z.()' ü+]{0,12}`).Draw(t, "source")
		at := rapid.IntRange(-2, 20).Draw(t, "at")
		for _, c := range expr.Complete(s, at, scope) {
			if c.From < 0 || c.From > len(s) {
				t.Fatalf("%+v for %q at %d", c, s, at)
			}
		}
	})
}
