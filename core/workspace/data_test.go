package workspace_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/sample"
	"ubiquant/core/workspace"
)

func take(t require.TestingT, l *workspace.Live, steps ...workspace.Step) workspace.Taken {
	c, _, err := l.Follow(workspace.Change{Title: "data", Steps: steps})
	require.NoError(t, err)
	// As a change goes through the log.
	read, err := workspace.ReadChange(workspace.WriteChange(c), true)
	require.NoError(t, err)
	taken, err := l.Take(read)
	require.NoError(t, err)
	return taken
}

func model(t require.TestingT, l *workspace.Live, id string) sample.Model {
	m, ok := l.W.ModelMap()[id]
	require.True(t, ok)
	c := *m
	c.Fields = append([]sample.Field(nil), m.Fields...)
	return c
}

func TestARenamedFieldTakesRecordsAndExpressionsAlong(t *testing.T) {
	l := live(t)
	before, shown := workspace.Write(l.W), looks(t, l)
	m := model(t, l, "tickets")
	for i := range m.Fields {
		if m.Fields[i].Name == "due" {
			m.Fields[i].Name = "dueOn"
		}
	}
	taken := take(t, l, workspace.Step{Do: workspace.PutModel, Model: &m, Renames: map[string]string{"due": "dueOn"}})
	assert.Contains(t, taken.Docs, "screen:tickets")
	assert.Contains(t, l.W.Sets[0].Records["tickets"][0], "dueOn")
	same(t, shown, looks(t, l))
	_, err := l.Take(taken.Inverse)
	require.NoError(t, err)
	assert.Equal(t, string(before), string(restored(l)))
}

// restored is the workspace without how often its documents were edited.
func restored(l *workspace.Live) []byte {
	for _, d := range l.W.Docs {
		d.Revision = 1
	}
	return workspace.Write(l.W)
}

func TestAModelThatRecordsDoNotFitIsRefusedWithThoseThatDoNot(t *testing.T) {
	l := live(t)
	m := model(t, l, "beds")
	change := func(do func(f *sample.Field)) error {
		next := m
		next.Fields = append([]sample.Field(nil), m.Fields...)
		for i := range next.Fields {
			if next.Fields[i].Name == "name" {
				do(&next.Fields[i])
			}
		}
		_, err := l.Take(
			workspace.Change{Title: "m", Steps: []workspace.Step{{Do: workspace.PutModel, Model: &next}}},
		)
		return err
	}
	assert.ErrorContains(t, change(func(f *sample.Field) { f.Type = sample.Number }), "values do not fit: name of b1")
	assert.ErrorContains(t, change(func(f *sample.Field) { f.Name = "Bad name" }), "cannot be a field's name")
	assert.ErrorContains(
		t,
		change(func(f *sample.Field) { f.Name, f.Required = "other", true }),
		"which is to be required",
	)
	assert.ErrorContains(t, change(func(f *sample.Field) { f.Type = sample.Choice }), "something to choose from")
	assert.ErrorContains(
		t,
		change(func(f *sample.Field) { f.Type, f.Model = sample.Ref, "gone" }),
		`the model "gone"`,
	)
	// What fits in another type is read as that: numbers become texts.
	next := m
	next.Fields = append([]sample.Field(nil), m.Fields...)
	for i := range next.Fields {
		if next.Fields[i].Name == "area" {
			next.Fields[i].Type = sample.Text
		}
	}
	take(t, l, workspace.Step{Do: workspace.PutModel, Model: &next})
	assert.IsType(t, "", l.W.Sets[0].Records["beds"][0]["area"])
}

func TestAModelInUseStaysAndOthersGoWhole(t *testing.T) {
	l := live(t)
	_, err := l.Take(
		workspace.Change{
			Title: "x",
			Steps: []workspace.Step{{Do: workspace.DropModel, Model: &sample.Model{ID: "tickets"}}},
		},
	)
	assert.ErrorContains(t, err, "in use")
	fresh := sample.Model{
		ID:   "seats",
		Name: "Seat",
		Fields: []sample.Field{
			{Name: "name", Type: sample.Text, Required: true, Maker: &sample.Maker{Kind: "words", Least: 1, Most: 2}},
			{Name: "bed", Type: sample.Ref, Model: "beds"},
		},
	}
	before := string(workspace.Write(l.W))
	made := take(
		t,
		l,
		workspace.Step{Do: workspace.PutModel, Model: &fresh},
		workspace.Step{
			Do: workspace.PutRecords,
			Rows: &workspace.Rows{
				Set:   "usual",
				Model: "seats",
				Put:   []sample.Record{{"id": "s1", "name": "By the pond"}},
			},
		},
	)
	read, err := workspace.Read(workspace.Write(l.W))
	require.NoError(t, err)
	assert.Equal(t, fresh, read.Models[len(read.Models)-1])
	gone := take(t, l, workspace.Step{Do: workspace.DropModel, Model: &sample.Model{ID: "seats"}})
	take(t, l, gone.Inverse.Steps...)
	assert.Len(t, l.W.Sets[0].Records["seats"], 1)
	take(t, l, made.Inverse.Steps...)
	assert.Equal(t, before, string(workspace.Write(l.W)))
}

// Whatever is done to records, taking it back brings them to what they were, in order.
func TestRecordsAreChangedAndTakenBackWhole(t *testing.T) {
	l := live(t)
	n := 0
	rapid.Check(t, func(rt *rapid.T) {
		before := string(workspace.Write(l.W))
		old := l.W.Sets[0].Records["beds"]
		rows := &workspace.Rows{Set: "usual", Model: "beds", At: map[string]int{}}
		for _, r := range old {
			switch rapid.IntRange(0, 4).Draw(rt, "what") {
			case 0:
				rows.Drop = append(rows.Drop, r.ID())
			case 1:
				rows.Put = append(
					rows.Put,
					sample.Record{"id": r.ID(), "name": "Changed", "soil": "clay", "area": 1.0, "moisture": "dry"},
				)
			}
		}
		for range rapid.IntRange(0, 4).Draw(rt, "new") {
			n++
			r := sample.Record{
				"id":       fmt.Sprint("new", n),
				"name":     "New",
				"soil":     "clay",
				"area":     2.0,
				"moisture": "wet",
			}
			if rapid.Bool().Draw(rt, "placed") {
				rows.At[r.ID()] = rapid.IntRange(0, len(old)).Draw(rt, "at")
			}
			rows.Put = append(rows.Put, r)
		}
		taken := take(rt, l, workspace.Step{Do: workspace.PutRecords, Rows: rows})
		take(rt, l, taken.Inverse.Steps...)
		require.Equal(rt, before, string(workspace.Write(l.W)))
	})
}

func TestBadRecordsAreRefusedWhole(t *testing.T) {
	l := live(t)
	before := string(workspace.Write(l.W))
	bed := func(more sample.Record) sample.Record {
		r := sample.Record{"id": "x", "name": "X", "soil": "clay", "area": 1.0, "moisture": "dry"}
		for k, v := range more {
			r[k] = v
		}
		return r
	}
	for why, rows := range map[string]workspace.Rows{
		"no field \"colour\"":      {Set: "usual", Model: "beds", Put: []sample.Record{bed(sample.Record{"colour": "red"})}},
		"is not a number":          {Set: "usual", Model: "beds", Put: []sample.Record{bed(nil), bed(sample.Record{"id": "y", "area": "big"})}},
		"has no id":                {Set: "usual", Model: "beds", Put: []sample.Record{bed(sample.Record{"id": ""})}},
		"stands twice":             {Set: "usual", Model: "beds", Put: []sample.Record{bed(nil), bed(nil)}},
		"there is no record gone":  {Set: "usual", Model: "beds", Drop: []string{"gone"}},
		"there is no model \"x\"":  {Set: "usual", Model: "x"},
		"no set \"edge\" of your":  {Set: "edge", Model: "beds"},
		"two records of beds have": {Set: "usual", Model: "beds", Whole: true, All: []sample.Record{bed(nil), bed(nil)}},
	} {
		_, err := l.Take(
			workspace.Change{Title: "bad", Steps: []workspace.Step{{Do: workspace.PutRecords, Rows: &rows}}},
		)
		assert.ErrorContains(t, err, why)
	}
	assert.Equal(t, before, string(workspace.Write(l.W)))
}

func TestWhereAFieldIsSpokenOf(t *testing.T) {
	l := live(t)
	var words []string
	for _, u := range workspace.Speaking(l.W, "tickets", "due") {
		words = append(words, u.Doc+": "+u.Words)
	}
	assert.Contains(t, words, "screen:tickets: sort due")
	assert.Contains(t, words, "screen:tickets: text day(record.due)")
	for _, u := range workspace.Speaking(l.W, "volunteers", "name") {
		d, _ := l.W.Doc(u.Doc)
		e, _ := d.Root.Find(u.Element)
		require.NotNil(t, e)
	}
	assert.NotEmpty(t, workspace.Speaking(l.W, "volunteers", "name"), "find(volunteers, …).name counts")
	assert.Empty(t, workspace.Speaking(l.W, "tickets", "nothing"))
}
