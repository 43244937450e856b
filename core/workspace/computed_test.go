package workspace_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/workspace"
)

// Computed fields are shown, counted and grouped like any other, are never kept, and go
// along with what they are made of.
func TestComputedFieldsFollowWhatTheyAreMadeOf(t *testing.T) {
	l := live(t)
	m := model(t, l, "orders")
	m.Fields = append(
		m.Fields,
		sample.Field{Name: "eachItem", Type: sample.Money, Compute: "record.total / record.items"},
		sample.Field{Name: "notes", Type: sample.Texts},
	)
	take(t, l, workspace.Step{Do: workspace.PutModel, Model: &m})
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
	taken := take(
		t,
		l,
		workspace.Step{
			Do:   workspace.PutRecords,
			Rows: &workspace.Rows{Set: "usual", Model: "orders", Put: []sample.Record{put}},
		},
	)
	kept := l.W.Sets[0].Records["orders"]
	assert.NotContains(t, kept[len(kept)-1], "eachItem")
	assert.Equal(t, sample.ListOf("early", "a, b"), kept[len(kept)-1]["notes"], "lists go through the log")
	again, err := workspace.Read(workspace.Write(l.W))
	require.NoError(t, err)
	assert.Equal(t, l.W.Sets, again.Sets, "and through the file")
	_, err = l.Take(taken.Inverse)
	require.NoError(t, err)

	// A query counts by it, a screen is ordered by it.
	take(
		t,
		l,
		workspace.Step{
			Do: workspace.PutQuery,
			Query: &sample.Query{
				ID:   "dearest",
				Name: "Dearest",
				From: "orders",
				Each: []sample.QueryValue{{Name: "most", Do: "most", Field: "eachItem"}},
			},
		},
	)
	assert.NotEmpty(t, l.SampleSet("").Records["dearest"][0]["most"])

	// A field that is renamed takes it along, and what it needs does not fall away.
	m = model(t, l, "orders")
	for i := range m.Fields {
		if m.Fields[i].Name == "items" {
			m.Fields[i].Name = "lines"
		}
	}
	before := workspace.Write(l.W)
	taken = take(
		t,
		l,
		workspace.Step{Do: workspace.PutModel, Model: &m, Renames: map[string]string{"items": "lines"}},
	)
	f, _ := l.W.ModelMap()["orders"].Field("eachItem")
	assert.Equal(t, "record.total / record.lines", f.Compute)
	_, err = l.Take(taken.Inverse)
	require.NoError(t, err)
	for _, d := range l.W.Docs {
		d.Revision = 0
	}
	other, err := workspace.Read(before)
	require.NoError(t, err)
	assert.Equal(t, other.Models, l.W.Models)
	less := model(t, l, "orders")
	less.Fields = append(less.Fields[:4:4], less.Fields[5:]...)
	_, err = l.Take(workspace.Change{Title: "less", Steps: []workspace.Step{{Do: workspace.PutModel, Model: &less}}})
	assert.ErrorContains(t, err, `no field "items"`)

	for why, f := range map[string]sample.Field{
		"neither required nor unique": {Name: "x", Type: sample.Number, Compute: "1", Required: true},
		"a picture is not computed":   {Name: "x", Type: sample.Picture, Compute: "'a'"},
		"is no money":                 {Name: "x", Type: sample.Number, Currency: "USD"},
		"there is no currency":        {Name: "x", Type: sample.Money, Currency: "XXL"},
		"which is not there":          {Name: "x", Type: sample.Refs, Model: "cows"},
	} {
		bad := model(t, l, "orders")
		bad.Fields = append(bad.Fields, f)
		_, err := l.Take(
			workspace.Change{Title: "bad", Steps: []workspace.Step{{Do: workspace.PutModel, Model: &bad}}},
		)
		assert.ErrorContains(t, err, why)
	}
}

// A repeat over a list follows the field when that is renamed.
func TestARepeatOverAListFollowsItsField(t *testing.T) {
	l := live(t)
	m := model(t, l, "volunteers")
	m.Fields = append(
		m.Fields,
		sample.Field{Name: "slots", Type: sample.Texts},
		sample.Field{Name: "beds", Type: sample.Refs, Model: "beds"},
	)
	take(t, l, workspace.Step{Do: workspace.PutModel, Model: &m})
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
	take(
		t,
		l,
		workspace.Step{
			Do:    workspace.EditDoc,
			Doc:   "screen:volunteers",
			Edits: []screen.Edit{{Op: screen.Insert, Parent: d.Root.ID, Tree: e}},
		},
	)
	m = model(t, l, "volunteers")
	for i := range m.Fields {
		if m.Fields[i].Name == "slots" {
			m.Fields[i].Name = "turns"
		}
	}
	assert.NotEmpty(t, workspace.Speaking(l.W, "volunteers", "slots"))
	take(t, l, workspace.Step{Do: workspace.PutModel, Model: &m, Renames: map[string]string{"slots": "turns"}})
	d, _ = l.W.Doc("screen:volunteers")
	inner, _ := d.Root.Find("a-day")
	assert.Equal(t, "record.turns", inner.Repeat.Model)
	// The field of a bed is renamed where beds are what is referred to.
	beds := model(t, l, "beds")
	beds.Fields[0].Name = "title"
	take(t, l, workspace.Step{Do: workspace.PutModel, Model: &beds, Renames: map[string]string{"name": "title"}})
	d, _ = l.W.Doc("screen:volunteers")
	inner, _ = d.Root.Find("a-bed")
	assert.Equal(t, "record.title", inner.Text.Text)
}
