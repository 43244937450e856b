package resolve_test

import (
	"slices"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
)

var model = &sample.Model{
	ID:     "beds",
	Name:   "Bed",
	Fields: []sample.Field{{Name: "name", Type: sample.Text}, {Name: "area", Type: sample.Number}},
}

var set = &sample.Set{
	Records: map[string][]sample.Record{
		"beds": {
			{"id": "1", "name": "North", "area": 5.0},
			{"id": "2", "name": "South"},
			{"id": "3", "name": "East", "area": 9.0},
		},
	},
}

func run(t *testing.T, src string, more func(*resolve.Input)) (*resolve.Node, []resolve.Problem) {
	in := resolve.Input{
		Screen:  testkit.Tree(t, src),
		Catalog: testkit.Sorrel(t),
		Models:  map[string]*sample.Model{"beds": model},
		Set:     set,
		Today:   "2026-11-23",
	}
	if more != nil {
		more(&in)
	}
	return resolve.Resolve(in)
}

func texts(n *resolve.Node) (out []string) {
	if n.Text != "" {
		out = append(out, n.Text)
	}
	for _, c := range n.Children {
		out = append(out, texts(c)...)
	}
	return out
}

// However many parts a screen and its shells have, no two elements of the page bear one key.
func TestNoTwoElementsOfAPageBearOneKey(t *testing.T) {
	one := `{"id":"root","type":"stack","children":[{"id":"a","type":"sorrel-text","text":"x"}]}`
	many := `{"id":"root","type":"parts","children":[{"id":"a","type":"sorrel-text","text":"x"},{"id":"b","type":"sorrel-text","text":"y"}]}`
	bar := `{"id":"frame","type":"parts","children":[{"id":"bar","type":"sorrel-text","text":"Bar"},{"id":"main","type":"stack","children":[{"id":"out","type":"outlet"}]}]}`
	for _, src := range []string{one, many} {
		for n := range 3 {
			in := resolve.Input{Catalog: testkit.Sorrel(t), Screen: testkit.Tree(t, src)}
			for range n {
				in.Shells = append(in.Shells, testkit.Tree(t, bar))
			}
			root, problems := resolve.Resolve(in)
			require.Empty(t, problems)
			seen := map[string]bool{}
			var walk func(n *resolve.Node)
			walk = func(n *resolve.Node) {
				assert.False(t, seen[n.Key], "%s is there twice, %d shells", n.Key, len(in.Shells))
				seen[n.Key] = true
				for _, c := range n.Children {
					walk(c)
				}
			}
			walk(root)
			assert.Greater(t, len(seen), n)
		}
	}
}

// A picture that the page cannot load is said, one that is kept or written out is shown.
func TestAPictureThatIsNotKeptIsSaid(t *testing.T) {
	for src, said := range map[string]bool{
		"/oak.svg": true, "https://a.example/oak.png": true, "/pictures/oak-0123456789abcdef.png": false, "data:image/png;base64,AA": false, "": false,
	} {
		_, problems := resolve.Resolve(resolve.Input{Catalog: testkit.Sorrel(t), Screen: testkit.Tree(t,
			`{"id":"p","type":"sorrel-picture","props":{"src":"`+src+`","alt":"An oak"}}`)})
		assert.Equal(t, said, len(problems) == 1, "%q: %v", src, problems)
	}
}

func TestRepeatsFilterSortAndLimit(t *testing.T) {
	n, problems := run(
		t,
		`{"id":"r","type":"stack","children":[{"id":"x","type":"sorrel-text","text":{"expr":"record.name"},"repeat":{"model":"beds","where":"has(record.area)","sort":"-area","limit":1}}]}`,
		nil,
	)
	assert.Empty(t, problems)
	assert.Equal(t, []string{"East"}, texts(n))
	assert.Equal(t, "x#3", n.Children[0].Key)
}

// A repeat within a repeat is over what the record around holds: the texts of a list, or
// the records that it refers to, in their order.
func TestRepeatsAreOverWhatARecordHolds(t *testing.T) {
	plants := &sample.Model{
		ID:   "plants",
		Name: "Plant",
		Fields: []sample.Field{
			{Name: "name", Type: sample.Text},
			{Name: "tags", Type: sample.Texts},
			{Name: "beds", Type: sample.Refs, Model: "beds"},
		},
	}
	with := func(in *resolve.Input) {
		in.Models = map[string]*sample.Model{"beds": model, "plants": plants}
		in.Set = &sample.Set{Records: map[string][]sample.Record{"beds": set.Records["beds"], "plants": {
			{
				"id":   "p",
				"name": "Yew",
				"tags": sample.ListOf("old", "dark"),
				"beds": sample.ListOf("3", "gone", "1"),
			}, {"id": "q", "name": "Ash"}}}}
	}
	n, problems := run(
		t,
		`{"id":"r","type":"stack","children":[{"id":"s","type":"stack","repeat":{"model":"plants"},"children":[
		{"id":"n","type":"sorrel-text","text":{"expr":"record.name"}},
		{"id":"t","type":"sorrel-text","text":{"expr":"outer.name + ' ' + record.value"},"repeat":{"model":"record.tags","sort":"value"}},
		{"id":"b","type":"sorrel-text","text":{"expr":"record.name"},"repeat":{"model":"record.beds","where":"record.area > 4"}}]}]}`,
		with,
	)
	assert.Empty(t, problems)
	assert.Equal(t, []string{"Yew", "Yew dark", "Yew old", "East", "North", "Ash"}, texts(n))
	assert.Equal(t, "b#p#3", n.Children[0].Children[3].Key)
	for repeat, why := range map[string]string{"record.name": "no list or references of that name", "record.none": "no list or references of that name"} {
		_, problems = run(
			t,
			`{"id":"r","type":"stack","children":[{"id":"s","type":"stack","repeat":{"model":"plants"},"children":[{"id":"t","type":"sorrel-text","repeat":{"model":"`+repeat+`"}}]}]}`,
			with,
		)
		require.NotEmpty(t, problems, repeat)
		assert.Contains(t, problems[0].Message, why)
	}
	_, problems = run(
		t,
		`{"id":"r","type":"stack","children":[{"id":"t","type":"sorrel-text","repeat":{"model":"record.tags"}}]}`,
		with,
	)
	require.Len(t, problems, 1, "there is no record around it")
}

// A control is followed where an expression speaks of it, or a source asks for it.
func TestControlsAreFollowedThatSourcesAskFor(t *testing.T) {
	const src = `{"id":"r","type":"stack","children":[{"id":"f","type":"sorrel-text-input","name":"from","props":{"kind":"date","label":"From"}}]}`
	n, _ := run(t, src, nil)
	assert.Nil(t, n.Children[0].Holds)
	n, _ = run(t, src, func(in *resolve.Input) { in.Asked = []string{"gate", "from"} })
	require.NotNil(t, n.Children[0].Holds)
	assert.Equal(t, "from", n.Children[0].Holds.Name)
}

func TestAnErrorIsReportedAtItsElementAndTheRestStillResolves(t *testing.T) {
	n, problems := run(
		t,
		`{"id":"r","type":"stack","children":[{"id":"x","type":"sorrel-text","text":{"expr":"text(record.area + 1)"},"repeat":{"model":"beds"}},{"id":"y","type":"sorrel-text","text":"after"},{"id":"z","type":"sorrel-text","repeat":{"model":"cows"}},{"id":"q","type":"sorrel-text","show":"nonsense("}]}`,
		nil,
	)
	assert.Equal(t, []string{"6", "10", "after"}, texts(n))
	require.Len(t, problems, 3)
	assert.Equal(t, "x", problems[0].Element)
	assert.Contains(t, problems[0].Message, "missing in this record")
	assert.Contains(t, problems[1].Message, "cows")
}

func TestAScreenStandsInItsShellAndMarksItsPlace(t *testing.T) {
	shell := testkit.Tree(
		t,
		`{"id":"s","type":"stack","children":[{"id":"n","type":"sorrel-side-nav","children":[{"id":"a","type":"sorrel-nav-item","text":"Beds","props":{"to":"/beds"}},{"id":"b","type":"sorrel-nav-item","text":"Today","props":{"to":"/","active":true}}]},{"id":"o","type":"outlet"}]}`,
	)
	n, _ := run(
		t,
		`{"id":"r","type":"section"}`,
		func(in *resolve.Input) { in.Shells, in.Route = []*screen.Element{shell}, "/beds/:id" },
	)
	items := n.Children[0].Children
	assert.Contains(t, items[0].Props, resolve.Prop{Name: "active", Value: true})
	assert.NotContains(t, items[1].Props, resolve.Prop{Name: "active", Value: true})
	assert.Equal(t, "r", n.Children[1].ID)
	assert.Equal(t, "shell", n.Doc)
}

// Of places beside each other the nearest to the route shown is marked, on a screen too; what is
// marked by hand there stays.
func TestTheNearestOfPlacesBesideEachOtherIsMarked(t *testing.T) {
	tabs := func(second string) string {
		return `{"id":"r","type":"sorrel-tabs","children":[
			{"id":"a","type":"sorrel-tab","props":{"label":"About","to":{"expr":"'/beds/' + route.id"}}},
			{"id":"b","type":"sorrel-tab","props":{"label":"Care","to":{"expr":"'/beds/' + route.id + '/care'"}` + second + `}}]}`
	}
	marked := func(n *resolve.Node) (out []string) {
		for _, c := range n.Children {
			if slices.Contains(c.Props, resolve.Prop{Name: "active", Value: true}) {
				out = append(out, c.ID)
			}
		}
		return out
	}
	for _, c := range []struct {
		route, by string
		want      []string
	}{
		{"/beds/:id", "", []string{"a"}},
		{"/beds/:id/care", "", []string{"b"}},
		{"/beds/:id/care/:day", "", []string{"b"}},
		{"/beds/:id/soil", "", []string{"a"}},
		{"/rounds/:id", "", nil},
		{"/beds/:id", `,"active":true`, []string{"a", "b"}},
	} {
		n, problems := run(t, tabs(c.by), func(in *resolve.Input) {
			in.Route, in.Params = c.route, map[string]string{"id": "north", "day": "monday"}
		})
		assert.Empty(t, problems)
		assert.Equal(t, c.want, marked(n), c.route)
	}
}

func TestPiecesTakeSettingsAndNeverContainThemselves(t *testing.T) {
	piece := &screen.Document{
		Kind:  screen.PieceDoc,
		ID:    "fact",
		Title: "Fact",
		Props: []screen.PieceProp{{Name: "value", Element: "v"}},
		Root: testkit.Tree(
			t,
			`{"id":"p","type":"stack","children":[{"id":"v","type":"sorrel-text","text":"Value"},{"id":"o","type":"outlet"}]}`,
		),
	}
	loop := &screen.Document{
		Kind: screen.PieceDoc,
		ID:   "loop",
		Root: testkit.Tree(t, `{"id":"l","type":"stack","children":[{"id":"again","type":"piece:loop"}]}`),
	}
	pieces := func(in *resolve.Input) {
		in.Piece = func(id string) *screen.Document { return map[string]*screen.Document{"fact": piece, "loop": loop}[id] }
		in.Catalog = withPieces{in.Catalog}
	}
	n, problems := run(
		t,
		`{"id":"r","type":"stack","children":[{"id":"u","type":"piece:fact","props":{"value":{"expr":"record.name"}},"repeat":{"model":"beds","limit":2},"children":[{"id":"in","type":"sorrel-text","text":"inside"}]}]}`,
		pieces,
	)
	assert.Empty(t, problems)
	assert.Equal(t, []string{"North", "inside", "South", "inside"}, texts(n))
	assert.Equal(t, "u/p#1", n.Children[0].Key)
	_, problems = run(t, `{"id":"r","type":"stack","children":[{"id":"u","type":"piece:loop"}]}`, pieces)
	require.NotEmpty(t, problems)
	assert.Contains(t, problems[0].Message, "contains itself")
}

type withPieces struct{ kit.Catalog }

func TestRepeatsThatBlowUpAreCutOff(t *testing.T) {
	many := &sample.Set{Records: map[string][]sample.Record{"beds": make([]sample.Record, 300)}}
	for i := range many.Records["beds"] {
		many.Records["beds"][i] = sample.Record{"id": string(rune('a'+i%26)) + string(rune('a'+i/26))}
	}
	_, problems := run(
		t,
		`{"id":"r","type":"stack","repeat":{"model":"beds"},"children":[{"id":"x","type":"stack","repeat":{"model":"beds"},"children":[{"id":"y","type":"sorrel-text","text":"x"}]}]}`,
		func(in *resolve.Input) { in.Set = many },
	)
	require.NotEmpty(t, problems)
	assert.Contains(t, problems[len(problems)-1].Message, "50,000")
}

func TestWhatIsOpenedIsTheOneInTheSameRow(t *testing.T) {
	root, problems := run(t, `{"id":"r","type":"stack","children":[
		{"id":"row","type":"stack","repeat":{"model":"beds"},"children":[{"id":"b","type":"sorrel-button","text":"Ask","props":{"does":"open d; close all; open gone; state loading"}},{"id":"d","type":"sorrel-dialog","props":{"heading":"x"}}]},
		{"id":"all","type":"sorrel-drawer","props":{"heading":"y"}}]}`, nil)
	require.Empty(t, problems)
	require.GreaterOrEqual(t, len(root.Children), 3)
	for _, row := range root.Children[:len(root.Children)-1] {
		button, dialog := row.Children[0], row.Children[1]
		assert.Equal(
			t,
			[]screen.Action{
				{Verb: "open", To: dialog.Key},
				{Verb: "close", To: "all"},
				{Verb: "state", To: "loading"},
			},
			button.Does,
		)
	}
}

// What a control is set to is worked out here, where its kind is known; what is told to set it
// has it followed.
func TestAControlIsSetToWhatItCanHold(t *testing.T) {
	root, problems := run(t, `{"id":"r","type":"stack","children":[
		{"id":"q","type":"sorrel-text-input","name":"q","props":{"value":"fern"}},
		{"id":"on","type":"sorrel-checkbox","name":"on-display"},
		{"id":"n","type":"sorrel-pager","name":"page","props":{"page":2}},
		{"id":"b","type":"sorrel-button","text":"Clear","props":{"does":"set q; set q ash; set onDisplay yes; set page 3; set page x; set gone"}}]}`, nil)
	require.Empty(t, problems)
	var said []string
	for _, a := range root.Children[3].Does {
		said = append(said, a.To)
	}
	assert.Equal(t, []string{`q="fern"`, `q="ash"`, `onDisplay=true`, `page=3`}, said)
	require.NotNil(t, root.Children[0].Holds)
	assert.Equal(t, "q", root.Children[0].Holds.Name)
}

func TestShellsStandInShells(t *testing.T) {
	inner := testkit.Tree(
		t,
		`{"id":"a","type":"stack","children":[{"id":"side","type":"sorrel-text","text":"inner"},{"id":"o","type":"outlet"}]}`,
	)
	outer := testkit.Tree(
		t,
		`{"id":"a","type":"stack","children":[{"id":"bar","type":"sorrel-text","text":"outer"},{"id":"o","type":"outlet"},{"id":"foot","type":"sorrel-text","text":"foot"}]}`,
	)
	n, problems := run(
		t,
		`{"id":"r","type":"sorrel-text","text":"screen"}`,
		func(in *resolve.Input) { in.Shells = []*screen.Element{inner, outer} },
	)
	assert.Empty(t, problems)
	assert.Equal(t, []string{"outer", "inner", "screen", "foot"}, texts(n))
	assert.NotEqual(t, n.Key, n.Children[1].Key, "both are called a")
}

// For words that code computes stands the name that they go by there, never what stands there where
// there are none.
func TestComputedWordsGoByTheirName(t *testing.T) {
	for source, want := range map[string]string{
		"bed.name":                       "name",
		"bed?.name ?? ''":                "name",
		"late ? when(bed.due) : null":    "due",
		"open && at ? menu(at) : false":  "at",
		"null":                           "…",
		"Due {bed.due ?? undefined} now": "Due due now",
	} {
		n, _ := run(t, `{"id":"a","type":"sorrel-text","text":{"bound":`+strconv.Quote(source)+`}}`, nil)
		assert.Equal(t, []string{want}, texts(n), source)
	}
}

// A screen that is all a dialog is seen, where code says when it is open; one among other things is not.
func TestADialogThatIsAllOfAScreenIsOpen(t *testing.T) {
	const dialog = `{"id":"d","type":"sorrel-dialog","props":{"open":{"bound":"shown"}}}`
	opened := func(src string) (open any) {
		n, _ := run(t, src, func(in *resolve.Input) {
			in.Piece = func(id string) *screen.Document {
				return &screen.Document{Kind: screen.PieceDoc, ID: id, Root: testkit.Tree(t, dialog)}
			}
		})
		for ; n.Type != "sorrel-dialog"; n = n.Children[0] {
		}
		for _, p := range n.Props {
			if p.Name == "open" {
				open = p.Value
			}
		}
		return open
	}
	assert.Equal(t, true, opened(dialog))
	assert.Equal(t, true, opened(`{"id":"a","type":"stack","children":[{"id":"b","type":"piece:sheet"}]}`))
	assert.Nil(t, opened(`{"id":"a","type":"stack","children":[`+dialog+`,{"id":"t","type":"sorrel-text","text":"x"}]}`))
}

// A screen is seen whatever is known of its shell: of one that was read from code and has no place for
// it that was understood, it stands below.
func TestAScreenIsSeenInAShellOfCodeWithoutAPlace(t *testing.T) {
	in := func(shell string) []string {
		root := testkit.Tree(t, shell)
		n, _ := run(t, `{"id":"s","type":"sorrel-text","text":"Beds"}`, func(in *resolve.Input) { in.Shells = []*screen.Element{root} })
		return texts(n)
	}
	const code = `"origin":{"file":"Frame.tsx","range":"1:1"},`
	assert.Equal(t, []string{"Garden", "Beds"}, in(`{"id":"f",`+code+`"type":"stack","children":[{"id":"t","type":"sorrel-text","text":"Garden"}]}`))
	assert.Equal(t, []string{"Garden", "Beds"}, in(`{"id":"f","type":"parts","children":[{"id":"t",`+code+`"type":"sorrel-text","text":"Garden"}]}`))
	assert.Equal(t, []string{"Beds", "Garden"}, in(`{"id":"f",`+code+`"type":"stack","children":[{"id":"o","type":"outlet"},{"id":"t","type":"sorrel-text","text":"Garden"}]}`))
	assert.Equal(t, []string{"Garden"}, in(`{"id":"f","type":"stack","children":[{"id":"t","type":"sorrel-text","text":"Garden"}]}`))
}
