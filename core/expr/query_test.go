package expr_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/expr"
	"ubiquant/core/sample"
)

func shop() (map[string]*sample.Model, map[string][]sample.Record) {
	beds := &sample.Model{ID: "beds", Name: "Bed", Fields: []sample.Field{{Name: "soil", Type: sample.Text}}}
	sales := &sample.Model{
		ID:   "sales",
		Name: "Sale",
		Fields: []sample.Field{
			{Name: "item", Type: sample.Text},
			{Name: "price", Type: sample.Money},
			{Name: "day", Type: sample.Date},
			{Name: "bed", Type: sample.Ref, Model: "beds"},
			{Name: "paid", Type: sample.YesNo},
		},
	}
	return map[string]*sample.Model{"beds": beds, "sales": sales}, map[string][]sample.Record{
		"beds": {{"id": "b1", "soil": "loam"}, {"id": "b2", "soil": "clay"}, {"id": "b3", "soil": "loam"}},
		"sales": {
			{"id": "1", "item": "tea", "price": 250.0, "day": "2026-11-02", "bed": "b1", "paid": true},
			{"id": "2", "item": "cake", "price": 401.0, "day": "2026-11-01", "bed": "b2", "paid": true},
			{"id": "3", "item": "tea", "price": 301.0, "day": "2026-11-03", "bed": "b3", "paid": false},
			{"id": "4", "item": "tea", "day": "2026-11-04", "bed": "gone", "paid": true},
		},
	}
}

func TestQueriesGroupJoinAndCompute(t *testing.T) {
	models, lists := shop()
	run := func(q sample.Query) []sample.Record {
		t.Helper()
		q.ID, q.Name = "made", "Made"
		out, err := expr.RunQuery(&q, models, lists, "2026-11-22")
		require.NoError(t, err)
		return out
	}
	each := []sample.QueryValue{
		{Name: "count", Do: "count"},
		{Name: "total", Do: "sum", Field: "price"},
		{Name: "mean", Do: "average", Field: "price"},
		{Name: "last", Do: "most", Field: "day"},
		{Name: "first", Do: "least", Field: "day"},
		{Name: "beds", Do: "distinct", Field: "bed"},
	}
	assert.Equal(t, []sample.Record{
		{
			"id":    "tea",
			"item":  "tea",
			"count": 3.0,
			"total": 551.0,
			"mean":  276.0,
			"last":  "2026-11-04",
			"first": "2026-11-02",
			"beds":  3.0,
		},
		{
			"id":    "cake",
			"item":  "cake",
			"count": 1.0,
			"total": 401.0,
			"mean":  401.0,
			"last":  "2026-11-01",
			"first": "2026-11-01",
			"beds":  1.0,
		},
	}, run(sample.Query{From: "sales", Group: []string{"item"}, Each: each, Sort: "-count"}), "a mean of money is whole, what is missing counts for nothing")
	assert.Equal(
		t,
		[]sample.Record{
			{"id": "loam", "bedSoil": "loam", "count": 2.0},
			{"id": "clay", "bedSoil": "clay", "count": 1.0},
			{"id": "all", "count": 1.0},
		},
		run(
			sample.Query{From: "sales", Group: []string{"bed.soil"}, Each: each[:1]},
		),
		"over the reference; one that leads nowhere is a group of its own",
	)
	assert.Equal(
		t,
		[]sample.Record{{"id": "all", "total": 651.0}},
		run(sample.Query{From: "sales", Where: "record.paid", Each: each[1:2]}),
	)
	assert.Equal(
		t,
		[]sample.Record{{"id": "all", "count": 0.0, "total": 0.0}},
		run(sample.Query{From: "sales", Where: "record.item == 'jam'", Each: each[:2]}),
		"a total of nothing is none",
	)
	assert.Empty(t, run(sample.Query{From: "sales", Where: "record.item == 'jam'", Group: []string{"item"}}))
	assert.Len(t, run(sample.Query{From: "sales", Group: []string{"item", "paid"}, Limit: 2}), 2)

	m, err := expr.QueryModel(
		&sample.Query{ID: "q", Name: "Q", From: "sales", Group: []string{"bed.soil"}, Each: each},
		models,
	)
	require.NoError(t, err)
	types := map[string]sample.FieldType{}
	for _, f := range m.Fields {
		types[f.Name] = f.Type
	}
	assert.Equal(
		t,
		map[string]sample.FieldType{
			"bedSoil": sample.Text,
			"count":   sample.Number,
			"total":   sample.Money,
			"mean":    sample.Money,
			"last":    sample.Date,
			"first":   sample.Date,
			"beds":    sample.Number,
		},
		types,
	)
}

func TestQueriesThatCannotBeSayWhy(t *testing.T) {
	models, _ := shop()
	for why, q := range map[string]sample.Query{
		"is no model":              {From: "none"},
		`Sale has no field "size"`: {From: "sales", Group: []string{"size"}},
		"refers to no record":      {From: "sales", Group: []string{"item.x"}},
		`Bed has no field "x"`:     {From: "sales", Group: []string{"bed.x"}},
		"is no number":             {From: "sales", Each: []sample.QueryValue{{Name: "n", Do: "sum", Field: "item"}}},
		"neither a number nor a":   {From: "sales", Each: []sample.QueryValue{{Name: "n", Do: "most", Field: "item"}}},
		"two things the name item": {From: "sales", Group: []string{"item"}, Each: []sample.QueryValue{{Name: "item", Do: "count"}}},
		"nothing that is computed": {From: "sales", Each: []sample.QueryValue{{Name: "n", Do: "guess"}}},
		"gives nothing":            {From: "sales"},
		"where: this is a text":    {From: "sales", Where: "record.item", Group: []string{"item"}},
		"ordered by price, which":  {From: "sales", Group: []string{"item"}, Sort: "price"},
		"no field \"colour\"":      {From: "sales", Where: "record.colour == 'red'", Group: []string{"item"}},
	} {
		_, err := expr.QueryModel(&q, models)
		assert.ErrorContains(t, err, why)
	}
}

// However records are grouped, nothing is counted twice and nothing is lost.
func TestGroupsPartTheirRecords(t *testing.T) {
	models, lists := shop()
	rapid.Check(t, func(rt *rapid.T) {
		var list []sample.Record
		for i := range rapid.IntRange(0, 30).Draw(rt, "records") {
			r := sample.Record{
				"id":   string(rune('a' + i)),
				"item": rapid.SampledFrom([]string{"tea", "cake", "", "a|b"}).Draw(rt, "item"),
				"paid": rapid.Bool().Draw(rt, "paid"),
			}
			if rapid.Bool().Draw(rt, "priced") {
				r["price"] = float64(rapid.IntRange(-500, 500).Draw(rt, "price"))
			}
			list = append(list, r)
		}
		data := map[string][]sample.Record{"sales": list, "beds": lists["beds"]}
		each := []sample.QueryValue{{Name: "count", Do: "count"}, {Name: "total", Do: "sum", Field: "price"}}
		sum := func(group ...string) (count, total float64) {
			out, err := expr.RunQuery(
				&sample.Query{ID: "q", Name: "Q", From: "sales", Group: group, Each: each},
				models,
				data,
				"",
			)
			if err != nil {
				rt.Fatal(err)
			}
			for _, r := range out {
				count += r["count"].(float64)
				total += r["total"].(float64)
			}
			return count, total
		}
		allCount, allTotal := sum()
		for _, group := range [][]string{{"item"}, {"item", "paid"}, {"bed.soil"}} {
			count, total := sum(group...)
			if count != allCount || total != allTotal {
				rt.Fatalf(
					"by %v: %v records worth %v, all together %v worth %v",
					group,
					count,
					total,
					allCount,
					allTotal,
				)
			}
		}
	})
}
