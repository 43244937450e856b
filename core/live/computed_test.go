package live_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/data"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit/opened"
)

// Computed fields are shown, counted and grouped like any other, are never kept, and go
// along with what they are made of.
func TestComputedFieldsFollowWhatTheyAreMadeOf(t *testing.T) {
	l := opened.Demo(t)
	m := modelOf(t, l, "orders")
	m.Fields = append(
		m.Fields,
		sample.Field{Name: "eachItem", Type: sample.Money, Compute: "record.total / record.items"},
		sample.Field{Name: "notes", Type: sample.Texts},
	)
	opened.Take(t, l, &change.PutModel{Model: m})
	r := l.W.Sets[0].Records["orders"][0]
	total, items := r["total"].(float64), r["items"].(float64)
	assert.NotContains(t, r, "eachItem", "it is not kept")
	shown := l.SampleSet("").Records["orders"][0]
	assert.InDelta(t, total/items, shown["eachItem"], 0.5)

	// A record that comes back with what was computed of it is kept without.
	put := sample.Record{
		"id":       "orders-new",
		"supplier": "Oak & Co",
		"day":      "2026-11-01",
		"state":    "open",
		"total":    1000.0,
		"items":    4.0,
		"eachItem": 1.0,
		"notes":    sample.ListOf("early", "a, b"),
	}
	taken := opened.Take(t, l,
		&change.Records{
			Rows: change.Rows{Set: "usual", Model: "orders", Put: []sample.Record{put}},
		},
	)
	kept := l.W.Sets[0].Records["orders"]
	assert.NotContains(t, kept[len(kept)-1], "eachItem")
	assert.Equal(t, sample.ListOf("early", "a, b"), kept[len(kept)-1]["notes"], "lists go through the log")
	again, err := wsfile.Read(wsfile.Write(l.W))
	require.NoError(t, err)
	assert.Equal(t, l.W.Sets, again.Sets, "and through the file")
	_, err = l.Take(taken.Inverse)
	require.NoError(t, err)

	// A query counts by it, a screen is ordered by it.
	opened.Take(t, l,
		&change.PutQuery{
			Query: sample.Query{
				ID:   "dearest",
				Name: "Dearest",
				From: "orders",
				Each: []sample.QueryValue{{Name: "most", Do: "most", Field: "eachItem"}},
			},
		},
	)
	assert.NotEmpty(t, l.SampleSet("").Records["dearest"][0]["most"])

	// A field that is renamed takes it along, and what it needs does not fall away.
	m = modelOf(t, l, "orders")
	for i := range m.Fields {
		if m.Fields[i].Name == "items" {
			m.Fields[i].Name = "lines"
		}
	}
	before := wsfile.Write(l.W)
	taken = opened.Take(t, l,
		&change.PutModel{Model: m, Renames: map[string]string{"items": "lines"}},
	)
	f, _ := l.W.ModelMap()["orders"].Field("eachItem")
	assert.Equal(t, "record.total / record.lines", f.Compute)
	_, err = l.Take(taken.Inverse)
	require.NoError(t, err)
	for _, d := range l.W.Docs {
		d.Revision = 0
	}
	other, err := wsfile.Read(before)
	require.NoError(t, err)
	assert.Equal(t, other.Models, l.W.Models)
	less := modelOf(t, l, "orders")
	less.Fields = append(less.Fields[:4:4], less.Fields[5:]...)
	_, err = l.Take(change.Change{Title: "less", Steps: []change.Step{&change.PutModel{Model: less}}})
	assert.ErrorContains(t, err, `no field "items"`)

	for why, f := range map[string]sample.Field{
		"neither required nor unique": {Name: "x", Type: sample.Number, Compute: "1", Required: true},
		"a picture is not computed":   {Name: "x", Type: sample.Picture, Compute: "'a'"},
		"is no money":                 {Name: "x", Type: sample.Number, Currency: "USD"},
		"there is no currency":        {Name: "x", Type: sample.Money, Currency: "XXL"},
		"which is not there":          {Name: "x", Type: sample.Refs, Model: "cows"},
	} {
		bad := modelOf(t, l, "orders")
		bad.Fields = append(bad.Fields, f)
		_, err := l.Take(
			change.Change{Title: "bad", Steps: []change.Step{&change.PutModel{Model: bad}}},
		)
		assert.ErrorContains(t, err, why)
	}
}

// A repeat over a list follows the field when that is renamed.
func TestARepeatOverAListFollowsItsField(t *testing.T) {
	l := opened.Demo(t)
	m := modelOf(t, l, "volunteers")
	m.Fields = append(
		m.Fields,
		sample.Field{Name: "slots", Type: sample.Texts},
		sample.Field{Name: "beds", Type: sample.Refs, Model: "beds"},
	)
	opened.Take(t, l, &change.PutModel{Model: m})
	d, _ := l.W.Doc("screen:volunteers")
	e := &screen.Element{
		ID:     "each-day",
		Type:   "stack",
		Repeat: &screen.Repeat{Model: "volunteers"},
		Children: []*screen.Element{
			{
				ID:     "a-day",
				Type:   "sorrel-badge",
				Text:   screen.Value{Kind: screen.Expr, Text: "record.value"},
				Repeat: &screen.Repeat{Model: "record.slots"},
			},
			{
				ID:     "a-bed",
				Type:   "sorrel-text",
				Text:   screen.Value{Kind: screen.Expr, Text: "record.name"},
				Repeat: &screen.Repeat{Model: "record.beds"},
			}},
	}
	opened.Take(t, l,
		&change.Edit{
			Doc:   "screen:volunteers",
			Edits: []screen.Edit{{Op: screen.Insert, Parent: d.Root.ID, Tree: e}},
		},
	)
	m = modelOf(t, l, "volunteers")
	for i := range m.Fields {
		if m.Fields[i].Name == "slots" {
			m.Fields[i].Name = "turns"
		}
	}
	assert.NotEmpty(t, data.Speaking(l.W, "volunteers", "slots"))
	opened.Take(t, l, &change.PutModel{Model: m, Renames: map[string]string{"slots": "turns"}})
	d, _ = l.W.Doc("screen:volunteers")
	inner, _ := d.Root.Find("a-day")
	assert.Equal(t, "record.turns", inner.Repeat.Model)
	// The field of a bed is renamed where beds are what is referred to.
	beds := modelOf(t, l, "beds")
	beds.Fields[0].Name = "title"
	opened.Take(t, l, &change.PutModel{Model: beds, Renames: map[string]string{"name": "title"}})
	d, _ = l.W.Doc("screen:volunteers")
	inner, _ = d.Root.Find("a-bed")
	assert.Equal(t, "record.title", inner.Text.Text)
}
