package live_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/change"
	"ubiquant/core/data"
	"ubiquant/core/live"
	"ubiquant/core/render"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/opened"
)

func modelOf(t require.TestingT, l *live.Live, id string) sample.Model {
	m, ok := l.W.ModelMap()[id]
	require.True(t, ok)
	c := *m
	c.Fields = append([]sample.Field(nil), m.Fields...)
	return c
}

func TestARenamedFieldTakesRecordsAndExpressionsAlong(t *testing.T) {
	l := opened.Demo(t)
	before, shown := wsfile.Write(l.W), opened.Looks(t, l)
	m := modelOf(t, l, "tickets")
	for i := range m.Fields {
		if m.Fields[i].Name == "due" {
			m.Fields[i].Name = "dueOn"
		}
	}
	taken := opened.Take(t, l, &change.PutModel{Model: m, Renames: map[string]string{"due": "dueOn"}})
	assert.Contains(t, taken.Docs, "screen:tickets")
	assert.Contains(t, l.W.Sets[0].Records["tickets"][0], "dueOn")
	opened.Same(t, shown, opened.Looks(t, l))
	_, err := l.Take(taken.Inverse)
	require.NoError(t, err)
	assert.Equal(t, string(before), string(restored(l)))
}

// A press that touches a field goes along with the field, and a preview follows it.
func TestAPressTouchesTheRecordOfItsRow(t *testing.T) {
	l := opened.Demo(t)
	opened.Take(t, l, &change.Edit{Doc: "screen:volunteers", Edits: []screen.Edit{{
		Op: screen.Insert, Parent: "volunteers-8", After: "volunteers-11",
		Tree: testkit.Tree(t, `{"id":"turn","type":"sorrel-button","text":"Turn","props":{"does":"tick active; change skill Night rounds; remove"}}`),
	}}})
	m := modelOf(t, l, "volunteers")
	for i := range m.Fields {
		if m.Fields[i].Name == "active" {
			m.Fields[i].Name = "here"
		}
	}
	taken := opened.Take(t, l, &change.PutModel{Model: m, Renames: map[string]string{"active": "here"}})
	d, _ := l.W.Doc("screen:volunteers")
	turn, _ := d.Root.Find("turn")
	does, _ := turn.Prop("does")
	assert.Equal(t, "tick here; change skill Night rounds; remove", does.Text)

	first := l.W.Sets[0].Records["volunteers"][0]
	count := func(v live.View) (n int, text string) {
		root, _, err := l.Resolve("screen:volunteers", v)
		require.NoError(t, err)
		page := render.HTML(l.Kit, root)
		return strings.Count(page.HTML, `data-e="turn#`), page.HTML
	}
	_, before := count(live.View{})
	_, changed := count(live.View{Touched: []sample.Touch{{List: "volunteers", ID: first.ID(), Set: map[string]any{"skill": "Night rounds"}}}})
	assert.NotContains(t, before, "Night rounds")
	assert.Contains(t, changed, "Night rounds")
	_, gone := count(live.View{Touched: []sample.Touch{{List: "volunteers", ID: first.ID(), Drop: true}}})
	assert.NotContains(t, gone, "#"+first.ID()+`"`)
	_, after := count(live.View{})
	assert.Equal(t, before, after, "the records stay as they are")
	_, err := l.Take(taken.Inverse)
	require.NoError(t, err)
	d, _ = l.W.Doc("screen:volunteers")
	turn, _ = d.Root.Find("turn")
	does, _ = turn.Prop("does")
	assert.Equal(t, "tick active; change skill Night rounds; remove", does.Text)
}

// restored is the workspace without how often its documents were edited.
func restored(l *live.Live) []byte {
	for _, d := range l.W.Docs {
		d.Revision = 1
	}
	return wsfile.Write(l.W)
}

func TestAModelThatRecordsDoNotFitIsRefusedWithThoseThatDoNot(t *testing.T) {
	l := opened.Demo(t)
	m := modelOf(t, l, "beds")
	refused := func(do func(f *sample.Field)) error {
		next := m
		next.Fields = append([]sample.Field(nil), m.Fields...)
		for i := range next.Fields {
			if next.Fields[i].Name == "name" {
				do(&next.Fields[i])
			}
		}
		_, err := l.Take(
			change.Change{Title: "m", Steps: []change.Step{&change.PutModel{Model: next}}},
		)
		return err
	}
	assert.ErrorContains(t, refused(func(f *sample.Field) { f.Type = sample.Number }), "values do not fit: name of b1")
	assert.ErrorContains(t, refused(func(f *sample.Field) { f.Name = "Bad name" }), "cannot be a field's name")
	assert.ErrorContains(
		t,
		refused(func(f *sample.Field) { f.Name, f.Required = "other", true }),
		"which is to be required",
	)
	assert.ErrorContains(t, refused(func(f *sample.Field) { f.Type = sample.Choice }), "something to choose from")
	assert.ErrorContains(
		t,
		refused(func(f *sample.Field) { f.Type, f.Model = sample.Ref, "gone" }),
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
	opened.Take(t, l, &change.PutModel{Model: next})
	assert.IsType(t, "", l.W.Sets[0].Records["beds"][0]["area"])
}

func TestAModelInUseStaysAndOthersGoWhole(t *testing.T) {
	l := opened.Demo(t)
	_, err := l.Take(
		change.Change{
			Title: "x",
			Steps: []change.Step{&change.DropModel{Model: sample.Model{ID: "tickets"}}},
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
	before := string(wsfile.Write(l.W))
	made := opened.Take(t, l,
		&change.PutModel{Model: fresh},
		&change.Records{
			Rows: change.Rows{
				Set:   "usual",
				Model: "seats",
				Put:   []sample.Record{{"id": "s1", "name": "By the pond"}},
			},
		},
	)
	read, err := wsfile.Read(wsfile.Write(l.W))
	require.NoError(t, err)
	assert.Equal(t, fresh, read.Models[len(read.Models)-1])
	gone := opened.Take(t, l, &change.DropModel{Model: sample.Model{ID: "seats"}})
	opened.Take(t, l, gone.Inverse.Steps...)
	assert.Len(t, l.W.Sets[0].Records["seats"], 1)
	opened.Take(t, l, made.Inverse.Steps...)
	assert.Equal(t, before, string(wsfile.Write(l.W)))
}

// Whatever is done to records, taking it back brings them to what they were, in order.
func TestRecordsAreChangedAndTakenBackWhole(t *testing.T) {
	l := opened.Demo(t)
	n := 0
	rapid.Check(t, func(rt *rapid.T) {
		before := string(wsfile.Write(l.W))
		old := l.W.Sets[0].Records["beds"]
		rows := change.Rows{Set: "usual", Model: "beds", At: map[string]int{}}
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
		taken := opened.Take(rt, l, &change.Records{Rows: rows})
		opened.Take(rt, l, taken.Inverse.Steps...)
		require.Equal(rt, before, string(wsfile.Write(l.W)))
	})
}

func TestBadRecordsAreRefusedWhole(t *testing.T) {
	l := opened.Demo(t)
	before := string(wsfile.Write(l.W))
	bed := func(more sample.Record) sample.Record {
		r := sample.Record{"id": "x", "name": "X", "soil": "clay", "area": 1.0, "moisture": "dry"}
		for k, v := range more {
			r[k] = v
		}
		return r
	}
	for why, rows := range map[string]change.Rows{
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
			change.Change{Title: "bad", Steps: []change.Step{&change.Records{Rows: rows}}},
		)
		assert.ErrorContains(t, err, why)
	}
	assert.Equal(t, before, string(wsfile.Write(l.W)))
}

func TestWhereAFieldIsSpokenOf(t *testing.T) {
	l := opened.Demo(t)
	var words []string
	for _, u := range data.Speaking(l.W, "tickets", "due") {
		words = append(words, u.Doc+": "+u.Words)
	}
	assert.Contains(t, words, "screen:tickets: sort due")
	assert.Contains(t, words, "screen:tickets: text day(record.due)")
	for _, u := range data.Speaking(l.W, "volunteers", "name") {
		d, _ := l.W.Doc(u.Doc)
		e, _ := d.Root.Find(u.Element)
		require.NotNil(t, e)
	}
	assert.NotEmpty(t, data.Speaking(l.W, "volunteers", "name"), "find(volunteers, …).name counts")
	assert.Empty(t, data.Speaking(l.W, "tickets", "nothing"))
}
