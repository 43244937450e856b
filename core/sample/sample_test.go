package sample_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/sample"
)

var tree = sample.Model{ID: "trees", Name: "Tree", Fields: []sample.Field{
	{
		Name:     "name",
		Type:     sample.Text,
		Required: true,
	}, {Name: "height", Type: sample.Number}, {Name: "price", Type: sample.Money}, {Name: "shown", Type: sample.YesNo},
	{
		Name: "planted",
		Type: sample.Date,
	}, {Name: "state", Type: sample.Choice, Choices: []string{"well", "ill"}}, {Name: "bed", Type: sample.Ref, Model: "beds"}}}

func TestARecordIsCheckedAgainstItsModel(t *testing.T) {
	good := sample.Record{
		"id":      "t1",
		"name":    "Lime",
		"height":  3.5,
		"price":   100.0,
		"shown":   true,
		"planted": "2026-03-01",
		"state":   "well",
		"bed":     "b1",
	}
	require.NoError(t, tree.Check(good))
	require.NoError(t, tree.Check(sample.Record{"id": "t2", "name": "Oak"}), "what is not required may be missing")
	cases := []struct {
		field string
		value any
		says  string
	}{
		{"name", 3.0, "name"}, {"height", "tall", "height"}, {"price", 1.5, "price"}, {"shown", "yes", "shown"},
		{
			"planted",
			"spring",
			"planted",
		}, {"planted", "2026-02-30", "planted"}, {"state", 5.0, "state"}, {"colour", "green", "colour"},
	}
	for _, c := range cases {
		bad := sample.Record{}
		for k, v := range good {
			bad[k] = v
		}
		if bad[c.field] = c.value; c.value == nil {
			delete(bad, c.field)
		}
		assert.ErrorContains(t, tree.Check(bad), c.says, "%s = %v", c.field, c.value)
	}
}

func TestFieldsAreFoundByName(t *testing.T) {
	f, ok := tree.Field("state")
	require.True(t, ok)
	assert.Equal(t, []string{"well", "ill"}, f.Choices)
	_, ok = tree.Field("colour")
	assert.False(t, ok)
}

func TestSortingIsStableEitherWayAndPutsMissingValuesLast(t *testing.T) {
	records := []sample.Record{
		{"id": "1", "height": 2.0},
		{"id": "2"},
		{"id": "3", "height": 10.0},
		{"id": "4", "height": 2.0},
	}
	ids := func(list []sample.Record) (out string) {
		for _, r := range list {
			out += r.ID()
		}
		return out
	}
	assert.Equal(t, "1432", ids(sample.Sort(records, "height")))
	assert.Equal(t, "3142", ids(sample.Sort(records, "-height")))
	assert.Equal(t, "1234", ids(sample.Sort(records, "")))
	assert.Equal(t, "1234", ids(records), "the records themselves stay as they are")
}

func TestSortingKeepsEveryRecord(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		var records []sample.Record
		for i := range rapid.IntRange(0, 30).Draw(r, "n") {
			rec := sample.Record{"id": fmt.Sprint(i)}
			switch rapid.IntRange(0, 3).Draw(r, "kind") {
			case 0:
				rec["v"] = rapid.Float64().Draw(r, "number")
			case 1:
				rec["v"] = rapid.String().Draw(r, "text")
			case 2:
				rec["v"] = rapid.Bool().Draw(r, "flag")
			}
			records = append(records, rec)
		}
		sorted := sample.Sort(records, rapid.SampledFrom([]string{"v", "-v", "id", "nothing"}).Draw(r, "by"))
		require.Len(r, sorted, len(records))
		seen := map[string]bool{}
		for _, rec := range sorted {
			seen[rec.ID()] = true
		}
		require.Len(r, seen, len(records))
	})
}

func TestSetsAreDerivedFromTheUsualRecords(t *testing.T) {
	usual := sample.Set{
		ID:      "usual",
		Name:    "Usual",
		Records: map[string][]sample.Record{"trees": {{"id": "t1", "name": "Lime"}, {"id": "t2", "name": "Oak"}}},
	}
	sets := sample.Derive([]sample.Model{tree}, usual)
	byID := map[string]sample.Set{}
	for _, s := range sets {
		assert.NotEmpty(t, s.Name)
		byID[s.ID] = s
		ids := map[string]bool{}
		for _, rec := range s.Records["trees"] {
			require.NoError(t, tree.Check(rec), "%s: %v", s.ID, rec)
			assert.False(t, ids[rec.ID()], "%s: the id %s stands twice", s.ID, rec.ID())
			ids[rec.ID()] = true
		}
	}
	assert.Empty(t, byID["empty"].Records["trees"])
	assert.Len(t, byID["one"].Records["trees"], 1)
	assert.Len(t, usual.Records["trees"], 2, "the usual ones stay as they are")
	assert.Equal(t, sets, sample.Derive([]sample.Model{tree}, usual), "the same every time")
}

func ExampleSort() {
	for _, r := range sample.Sort([]sample.Record{{"id": "a", "planted": "2024-05-01"}, {"id": "b", "planted": "2026-03-12"}}, "-planted") {
		fmt.Println(r.ID())
	}
	// Output:
	// b
	// a
}

func TestRecordsAreOrderedBySeveralFields(t *testing.T) {
	list := []sample.Record{
		{"id": "1", "s": "b", "n": 2.0},
		{"id": "2", "s": "a", "n": 1.0},
		{"id": "3", "n": 9.0},
		{"id": "4", "s": "a", "n": 5.0},
		{"id": "5", "s": "b"},
		{"id": "6", "s": "a", "n": 5.0},
	}
	ids := func(order string) (out string) {
		for _, r := range sample.Sort(list, order) {
			out += r.ID()
		}
		return out
	}
	assert.Equal(t, "462153", ids("s, -n"))
	assert.Equal(t, "246153", ids("s,n"))
	assert.Equal(t, "152463", ids(" -s , n"))
	assert.Equal(t, "123456", ids(" , "))
	assert.Equal(t, "s, -n", sample.WriteKeys(sample.Keys(" s ,-n,")))
}
