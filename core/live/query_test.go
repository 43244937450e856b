package live_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/sample"
	"ubiquant/internal/testkit/opened"
)

// A query goes along when what it is made of changes, and what repeats over it too.
func TestQueriesFollowTheirModels(t *testing.T) {
	l := opened.Demo(t)
	models, queries, sources := l.W.Models, l.W.Queries, l.W.Sources
	model := *l.W.ModelMap()["visits"]
	model.Fields = append([]sample.Field(nil), model.Fields...)
	model.Fields[1].Name, model.Fields[2].Name = "entrance", "people"
	c, _, err := l.Prepare(
		change.Change{
			Title: "rename",
			Steps: []change.Step{
				&change.PutModel{
					Model:   model,
					Renames: map[string]string{"gate": "entrance", "count": "people"},
				},
			},
		},
	)
	require.NoError(t, err)
	taken, err := l.Take(c)
	require.NoError(t, err)
	q := l.W.Queries[0]
	assert.Equal(t, []string{"entrance"}, q.Group)
	assert.Equal(t, "people", q.Each[0].Field)
	assert.Equal(
		t,
		map[string]string{"id": "/key", "day": "/when", "entrance": "/place/gate", "people": "/people"},
		l.W.Sources[0].Fields,
	)
	page, problems, err := l.Page("screen:visitors", live.View{})
	require.NoError(t, err)
	assert.Empty(t, problems)
	assert.Contains(t, page.HTML, `label="North gate"`)
	_, err = l.Take(taken.Inverse)
	require.NoError(t, err)
	assert.Equal(t, models, l.W.Models, "taken back, it is as it was")
	assert.Equal(t, queries, l.W.Queries)
	assert.Equal(t, sources, l.W.Sources)

	// What a query speaks of does not fall away under it.
	model.Fields = model.Fields[:1]
	_, err = l.Take(change.Change{Title: "less", Steps: []change.Step{&change.PutModel{Model: model}}})
	assert.ErrorContains(t, err, "change the query first")
	for why, s := range map[string]change.Step{
		"there is a model visits":         &change.PutQuery{Query: sample.Query{ID: "visits", Name: "V", From: "visits", Group: []string{"gate"}}},
		"cannot be a query's id":          &change.PutQuery{Query: sample.Query{ID: "count", Name: "V", From: "visits", Group: []string{"gate"}}},
		"is in use: each visitsByGate on": &change.DropQuery{Query: sample.Query{ID: "visitsByGate"}},
		"there is no query":               &change.DropQuery{Query: sample.Query{ID: "none"}},
	} {
		_, err := l.Take(change.Change{Title: "x", Steps: []change.Step{s}})
		assert.ErrorContains(t, err, why)
	}
	// The empty set gives a total of nothing, and records that change show at once.
	page, _, err = l.Page("screen:visitors", live.View{Set: "empty"})
	require.NoError(t, err)
	assert.NotContains(t, page.HTML, "at most")
	_, err = l.Take(
		change.Change{
			Title: "more",
			Steps: []change.Step{
				&change.Records{
					Rows: change.Rows{
						Set:   "usual",
						Model: "visits",
						Put: []sample.Record{
							{"id": "new", "day": "2026-11-22", "gate": "Lake gate", "count": 90000.0},
						},
					},
				},
			},
		},
	)
	require.NoError(t, err)
	page, _, err = l.Page("screen:visitors", live.View{})
	require.NoError(t, err)
	assert.Contains(t, page.HTML, "at most 90,000 on a day")
}
