package sample_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/sample"
)

// Whatever is pressed: the set that it began with stays, what goes is gone, and the other
// records are as they were.
func TestTouchesLeaveTheSetAsItWas(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		ids := []string{"a", "b", "c", "d"}
		set := sample.Set{Records: map[string][]sample.Record{"loans": {}}}
		for _, id := range ids {
			set.Records["loans"] = append(set.Records["loans"], sample.Record{"id": id, "state": "out"})
		}
		want := map[string]string{"a": "out", "b": "out", "c": "out", "d": "out"}
		var list []sample.Touch
		for range rapid.IntRange(0, 12).Draw(t, "n") {
			touch := sample.Touch{List: rapid.SampledFrom([]string{"loans", "tools"}).Draw(t, "list"), ID: rapid.SampledFrom(append(ids, "z")).Draw(t, "id")}
			if touch.Drop = rapid.Bool().Draw(t, "drop"); !touch.Drop {
				touch.Set = map[string]any{"state": rapid.SampledFrom([]string{"back", "lost"}).Draw(t, "state")}
			}
			list = append(list, touch)
			if _, there := want[touch.ID]; touch.List == "loans" && there {
				if delete(want, touch.ID); !touch.Drop {
					want[touch.ID] = touch.Set["state"].(string)
				}
			}
		}
		got := map[string]string{}
		for _, r := range set.Touched(list).Records["loans"] {
			got[r.ID()] = r["state"].(string)
		}
		assert.Equal(t, want, got)
		require.Len(t, set.Records["loans"], 4)
		for _, r := range set.Records["loans"] {
			assert.Equal(t, "out", r["state"])
		}
	})
}

// What a form held becomes a record in the types of its model; what does not fit is told.
func TestAFormBecomesARecord(t *testing.T) {
	m := &sample.Model{ID: "loans", Name: "Loans", Fields: []sample.Field{
		{Name: "tool", Type: sample.Text}, {Name: "days", Type: sample.Number}, {Name: "late", Type: sample.YesNo},
		{Name: "state", Type: sample.Choice, Choices: []string{"out", "back"}}, {Name: "fee", Type: sample.Money}, {Name: "due", Type: sample.Date, Compute: "today"},
	}}
	touch, what := sample.Touch{List: "loans", Add: true, Set: map[string]any{
		"tool": "Saw", "days": "3", "late": true, "state": "lost", "fee": "", "due": "2026-01-01", "colour": "red",
	}}.Taken(m)
	assert.Equal(t, map[string]any{"tool": "Saw", "days": 3.0, "late": true}, touch.Set)
	assert.Equal(t, []string{"Loans has no field colour to be written", "Loans has no field due to be written", `state is one of out, back, not "lost"`}, what)
	set := sample.Set{}.Touched([]sample.Touch{touch, {List: "loans", ID: "new-1", Set: map[string]any{"days": 4.0}}})
	assert.Equal(t, []sample.Record{{"id": "new-1", "tool": "Saw", "days": 4.0, "late": true}}, set.Records["loans"])
}

func TestATextIsReadForItsField(t *testing.T) {
	for _, c := range []struct {
		f    sample.Field
		text string
		want any
		why  string
	}{
		{sample.Field{Name: "done", Type: sample.YesNo}, "yes", true, ""},
		{sample.Field{Name: "done", Type: sample.YesNo}, "maybe", nil, "yes or no"},
		{sample.Field{Name: "n", Type: sample.Number}, "2.5", 2.5, ""},
		{sample.Field{Name: "n", Type: sample.Number}, "two", nil, "a number"},
		{sample.Field{Name: "cost", Type: sample.Money}, "12.5", 1250.0, ""},
		{sample.Field{Name: "cost", Type: sample.Money, Currency: "JPY"}, "12", 12.0, ""},
		{sample.Field{Name: "cost", Type: sample.Money}, "-0.29", -29.0, ""},
		{sample.Field{Name: "state", Type: sample.Choice, Choices: []string{"on loan", "back"}}, "on loan", "on loan", ""},
		{sample.Field{Name: "state", Type: sample.Choice, Choices: []string{"out", "back"}}, "gone", nil, "one of out, back"},
		{sample.Field{Name: "due", Type: sample.Date}, "today", "today", ""},
		{sample.Field{Name: "due", Type: sample.Date}, "soon", nil, "a date such as"},
		{sample.Field{Name: "tags", Type: sample.Texts}, "a", nil, "a list"},
		{sample.Field{Name: "name", Type: sample.Text}, " Fern ", "Fern", ""},
	} {
		got, err := c.f.FromText(c.text)
		if c.why != "" {
			assert.ErrorContains(t, err, c.why, c.text)
			continue
		}
		require.NoError(t, err)
		assert.Equal(t, c.want, got, c.text)
	}
}
