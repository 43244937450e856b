package assemble_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/assemble"
	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/generate"
	"ubiquant/internal/testkit"
)

// read is a workspace with one screen that was read from code.
func read(t *testing.T, route, tree string, pieces ...*screen.Document) *live.Live {
	w := &model.Workspace{
		Name: "office", Apps: []model.App{{ID: "app", Name: "Office"}},
		Models: []sample.Model{{ID: "beds", Name: "Beds"}},
		Docs:   append(pieces, &screen.Document{Kind: screen.ScreenDoc, ID: "beds", Title: "Beds", Route: route, App: "app", Source: "src/Beds.tsx", Root: testkit.Tree(t, tree)}),
	}
	return live.Open(w, testkit.Sorrel(t), "2026-11-29")
}

func take(t *testing.T, l *live.Live, route string) (*screen.Document, []assemble.Left) {
	c, left, err := assemble.Take(l, assemble.Order{Doc: "screen:beds", ID: "made", Title: "Made", Route: route, Seed: 1})
	require.NoError(t, err)
	_, err = l.Take(c)
	require.NoError(t, err)
	d, ok := l.W.Doc("screen:made")
	require.True(t, ok)
	return d, left
}

// What code says of a record is said of one here, where it means the same; else a word stands
// for it, or nothing, and it is told.
func TestWhatCodeComputesIsSaidHereOrToldOf(t *testing.T) {
	for source, c := range map[string]struct {
		prop, want string
		told       bool
	}{
		"bed.name":                               {"text", "record.name", false},
		"bed?.name":                              {"text", "record.name", false},
		"bed.planted":                            {"text", "day(record.planted)", false},
		"Bed {bed.name}, {bed.count}":            {"text", "'Bed ' + record.name + ', ' + text(record.count)", false},
		"`Bed ${bed.name}`":                      {"text", "'Bed ' + record.name", false},
		"bed.state === 'dry' ? 'Water' : 'Fine'": {"text", "record.state == 'dry' ? 'Water' : 'Fine'", false},
		"format(bed.planted)":                    {"text", "day(record.planted)", true},
		"bed.owner.name":                         {"text", "record.owner", true},
		"total":                                  {"text", "Total", true},
		"t(\"beds.empty\")":                      {"text", "Empty", true},
		"'/beds/' + bed.id":                      {"to", "'/beds/' + record.id", false},
		"`/beds/${bed.id}`":                      {"to", "'/beds/' + record.id", false},
		"go()":                                   {"to", "", true},
		"bed.state === 'dry' ? 'strong' : 'quiet'": {"emphasis", "record.state == 'dry' ? 'strong' : 'quiet'", false},
	} {
		text, props := `"x"`, fmt.Sprintf(`{%q:{"bound":%q}}`, c.prop, source)
		if c.prop == "text" {
			text, props = fmt.Sprintf(`{"bound":%q}`, source), "{}"
		}
		l := read(t, "/beds", fmt.Sprintf(
			`{"id":"r","type":"parts","children":[{"id":"e","type":"stack","repeat":{"model":"beds"},"children":[{"id":"b","type":"sorrel-button","text":%s,"props":%s}]}]}`, text, props))
		d, left := take(t, l, "/made")
		b, _ := d.Root.Find("b")
		got := b.Text
		if c.prop != "text" {
			got, _ = b.Prop(c.prop)
		}
		assert.Equal(t, c.want, got.Text, source)
		assert.Equal(t, c.told, len(left) > 0, "%s: %v", source, left)
		_, problems, err := l.Resolve("screen:made", live.View{})
		require.NoError(t, err)
		assert.Empty(t, problems, source)
	}
}

// The fields that code shows become a model's, with records to look at; a screen on one
// record's route shows that record.
func TestRecordsAreMadeUpForWhatCodeShows(t *testing.T) {
	l := read(t, "/beds/:id", `{"id":"r","type":"parts","children":[
		{"id":"h","type":"sorrel-heading","text":{"bound":"bed.name"}},
		{"id":"w","type":"sorrel-text","text":"Water it","show":"bed.state === 'dry'"},
		{"id":"n","type":"sorrel-text","text":"None","show":"beds.length === 0"},
		{"id":"c","type":"stack","repeat":{"model":"bed.visits"},"children":[{"id":"v","type":"sorrel-text","text":{"bound":"visit.date"}}]}]}`)
	d, left := take(t, l, "/made/:bed")
	assert.Empty(t, left)
	one, _ := d.Root.Find("one")
	require.NotNil(t, one)
	assert.Equal(t, &screen.Repeat{Model: "beds", Where: "record.id == route.bed"}, one.Repeat)
	none, _ := d.Root.Find("n")
	assert.Equal(t, "size(beds) == 0", none.Show)
	beds, visits := l.W.ModelMap()["beds"], l.W.ModelMap()["visits"]
	require.NotNil(t, visits)
	assert.Equal(t, []sample.Field{{Name: "name", Type: sample.Text}, {Name: "state", Type: sample.Choice, Choices: []string{"dry", "other"}}}, beds.Fields)
	assert.Equal(t, []sample.Field{{Name: "date", Type: sample.Date}}, visits.Fields)
	assert.Len(t, l.W.Sets[0].Records["beds"], 6)
	assert.Len(t, l.W.Sets[0].Records["visits"], 6)
}

// A part of the team's own code comes as what it is made of, with what its use sets.
func TestAPartComesAsWhatItIsMadeOf(t *testing.T) {
	part := &screen.Document{
		Kind: screen.PieceDoc, ID: "box", Title: "Box", Source: "src/Box.tsx", Props: []screen.PieceProp{{Name: "title", Element: "h", Prop: ""}},
		Root: testkit.Tree(t, `{"id":"p","type":"sorrel-card","children":[{"id":"h","type":"sorrel-heading","slot":"header","text":"Title"},{"id":"o","type":"outlet"}]}`),
	}
	l := read(t, "/beds", `{"id":"r","type":"stack","children":[
		{"id":"u","type":"piece:box","props":{"title":"Ours"},"children":[{"id":"x","type":"sorrel-text","text":"In it"}]},
		{"id":"k","type":"other-date-picker","children":[{"id":"y","type":"sorrel-text","text":"Kept"}]}]}`, part)
	d, left := take(t, l, "/made")
	h, card := d.Root.Find("h")
	require.NotNil(t, h)
	assert.Equal(t, "Ours", h.Text.Text)
	_, in := d.Root.Find("x")
	assert.Equal(t, card, in)
	_, kept := d.Root.Find("y")
	require.NotNil(t, kept)
	assert.Equal(t, "stack", kept.Type)
	require.Len(t, left, 1)
	assert.Equal(t, "date-picker", left[0].Source)
}

func TestWhatCannotBeTakenSaysWhy(t *testing.T) {
	l := read(t, "/beds", `{"id":"r","type":"stack"}`)
	_, _, err := assemble.Take(l, assemble.Order{Doc: "screen:none", ID: "x", Title: "X", Route: "/x"})
	assert.ErrorContains(t, err, "there is no screen:none")
	_, _, err = assemble.Take(l, assemble.Order{Doc: "screen:beds", ID: "x", Title: " ", Route: "/x"})
	assert.ErrorContains(t, err, "no title")
	d, _ := take(t, l, "/made")
	_, _, err = assemble.Take(l, assemble.Order{Doc: d.Address(), ID: "x", Title: "X", Route: "/x"})
	assert.ErrorContains(t, err, "assembled here already")
}

// Whatever was read: nothing of code stays in what is assembled, all that is lost is told of,
// the new screen has no problem of its own, and taking it back leaves everything as it was.
func TestNothingOfCodeStaysAndNothingIsLostInSilence(t *testing.T) {
	code := []string{"thing.name", "`${thing.name}`", "f(thing.due)", "other", "thing.state === 'new' ? 1 : 2", "{thing.count} of {all}", "!thing.done", "a && b", "\\", "'", "{"}
	for seed := range uint64(12) {
		r := rand.New(rand.NewPCG(seed, 1))
		team := generate.NewTeam(generate.Options{Screens: 12, Seed: seed + 40})
		w := team.Clean
		bound := 0
		pick := func() string { bound++; return code[r.IntN(len(code))] }
		var read []*screen.Document
		for i, d := range w.Docs {
			if d.Kind != screen.ScreenDoc {
				continue
			}
			c := *d
			c.Source = "src/" + d.ID + ".tsx"
			c.Root = copyOf(d.Root, func(e *screen.Element) {
				if e.Text.Kind == screen.Expr || e.Text.Kind == screen.Literal && r.IntN(4) == 0 {
					e.Text = screen.Value{Kind: screen.Bound, Text: pick()}
				}
				for i := range e.Props {
					if e.Props[i].Value.Kind == screen.Expr || r.IntN(6) == 0 {
						e.Props[i].Value = screen.Value{Kind: screen.Bound, Text: pick()}
					}
				}
				if e.Show != "" {
					e.Show = pick()
				}
				if r.IntN(3) == 0 {
					e.Origin = &screen.Origin{File: c.Source, Look: "wide", Besides: []screen.Prop{
						{Name: "onClick", Value: screen.Value{Kind: screen.Bound, Text: "go"}}, {Name: "data-row", Value: screen.Lit("3")},
					}}
				}
			})
			w.Docs[i] = &c
			read = append(read, &c)
		}
		l := live.Open(w, testkit.Sorrel(t), "2026-11-29")
		for _, d := range read {
			before := string(wsfile.Write(l.W))
			c, left, err := assemble.Take(l, assemble.Order{Doc: d.Address(), ID: "made", Title: "Made", Route: "/made" + d.Route, Seed: seed})
			require.NoError(t, err, d.ID)
			done, err := l.Take(c)
			require.NoError(t, err, d.ID)
			made, _ := l.W.Doc("screen:made")
			told := map[string]bool{}
			for _, x := range left {
				told[x.Element+" "+x.What] = true
			}
			made.Root.Walk(func(e, _ *screen.Element) bool {
				assert.NotEqual(t, screen.Bound, e.Text.Kind)
				assert.Nil(t, e.Origin)
				was, _ := d.Root.Find(e.ID)
				for _, p := range e.Props {
					assert.NotEqual(t, screen.Bound, p.Value.Kind)
				}
				if was == nil {
					return true
				}
				for _, p := range was.Props {
					_, kept := e.Prop(p.Name)
					assert.True(t, kept || told[e.ID+" "+p.Name], "%s %s.%s = %s is lost in silence", d.ID, e.ID, p.Name, p.Value.Text)
				}
				if was.FromCode() {
					for _, name := range []string{"class", "onClick", "data-row"} {
						assert.True(t, told[e.ID+" "+name], "%s %s: %s", d.ID, e.ID, name)
					}
				}
				assert.True(t, was.Text.Kind != screen.Bound || e.Text.Kind == screen.Expr || told[e.ID+" text"], "%s %s: %s", d.ID, e.ID, was.Text.Text)
				assert.True(t, was.Show == "" || e.Show != "" || told[e.ID+" shown if"], "%s %s: %s", d.ID, e.ID, was.Show)
				return true
			})
			_, problems, err := l.Resolve("screen:made", live.View{})
			require.NoError(t, err)
			assert.Empty(t, problems, "%s: %v", d.ID, left)
			_, err = l.Take(done.Inverse)
			require.NoError(t, err)
			assert.Equal(t, before, string(wsfile.Write(l.W)))
		}
		assert.Positive(t, bound)
	}
}

func copyOf(e *screen.Element, change func(*screen.Element)) *screen.Element {
	c := *e
	c.Props = append([]screen.Prop(nil), e.Props...)
	c.Children = nil
	change(&c)
	for _, child := range e.Children {
		c.Children = append(c.Children, copyOf(child, change))
	}
	return &c
}

// What code sets of any element of a page comes along where the kit hands it on; words are said once, where
// code says them.
func TestWhatCodeSetsOfAnyElementComesAlong(t *testing.T) {
	k, err := kit.Read(kit.Sources{Name: "./ui", Version: "1", Drawn: "react", Components: (&describe.Catalog{Drawn: describe.React, Entries: []describe.Entry{
		{ID: "ui-press", Export: "Press", Handed: []string{"aria-label", "asChild", "class", "id"}, Slots: []describe.Slot{{}}},
		{ID: "ui-bare", Export: "Bare", Slots: []describe.Slot{{}}},
	}}).Components()})
	require.NoError(t, err)
	k.Style([]string{"wide"})
	k.Draw(map[string]string{"other-leaf": "leaf-icons#Leaf"})
	code := `"origin":{"file":"src/Beds.tsx","look":"wide","besides":{"aria-label":"Sow","asChild":true,"onClick":{"bound":"sow"},"data-row":"3","id":{"bound":"at"}}}`
	w := &model.Workspace{Name: "shed", Apps: []model.App{{ID: "app", Name: "Shed"}}, Docs: []*screen.Document{{
		Kind: screen.ScreenDoc, ID: "beds", Title: "Beds", Route: "/beds", App: "app", Source: "src/Beds.tsx", Root: testkit.Tree(t, `{"id":"r","type":"html-div","origin":{"file":"src/Beds.tsx","look":"wide"},"children":[
			{"id":"p","type":"ui-press",`+code+`},{"id":"b","type":"ui-bare",`+code+`},
			{"id":"w","type":"ui-press","text":"Sow ferns","origin":{"file":"src/Beds.tsx","behind":1},"children":[{"id":"i","type":"other-leaf","props":{"size":16}},{"id":"f","type":"html-b","text":"ferns"}]},
			{"id":"o","type":"other-plot","origin":{"file":"src/Beds.tsx","look":"wide"},"children":[{"id":"x","type":"ui-bare"}]}]}`),
	}}}
	d, left := take(t, live.Open(w, k, "2026-12-01"), "/made")
	b, err := d.Root.MarshalJSON()
	require.NoError(t, err)
	assert.JSONEq(t, `{"id":"r","type":"html-div","props":{"class":"wide"},"children":[
		{"id":"p","type":"ui-press","props":{"aria-label":"Sow","asChild":true,"class":"wide"}},{"id":"b","type":"ui-bare"},
		{"id":"w","type":"ui-press","children":[{"id":"i","type":"other-leaf","props":{"size":16}},{"id":"w-words","type":"html-span","text":"Sow ferns"}]},
		{"id":"o","type":"html-div","props":{"class":"wide"},"children":[{"id":"x","type":"ui-bare"}]}]}`, string(b))
	var told []string
	for _, l := range left {
		told = append(told, l.Element+" "+l.What)
	}
	assert.Equal(t, []string{"p onClick", "p data-row", "p id", "b class", "b aria-label", "b asChild", "b onClick", "b data-row", "b id", "w <b>", "o "}, told)
}
