package usage_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
	"ubiquant/internal/generate"
	"ubiquant/internal/testkit"
)

func doc(t testing.TB, id, tree string) *screen.Document {
	return &screen.Document{Kind: screen.ScreenDoc, ID: id, Root: testkit.Tree(t, tree)}
}

func indexOf(t testing.TB, docs ...*screen.Document) *usage.Index {
	ix := usage.New(testkit.Sorrel(t))
	for _, d := range docs {
		ix.Put(d)
	}
	return ix
}

const page = `{"id":"r","type":"section","children":[
 {"id":"h","type":"sorrel-page-header","children":[{"id":"n","type":"sorrel-button","slot":"actions","text":"New bed","props":{"emphasis":"strong"}}]},
 {"id":"f","type":"sorrel-form","children":[
  {"id":"w","type":"row","slot":"actions","children":[
   {"id":"c","type":"sorrel-button","text":"Cancel"},
   {"id":"s","type":"sorrel-button","text":"Save","props":{"action":"submit"}}]}]}]}`

func TestAnElementStandsInASpotForEachLevel(t *testing.T) {
	ix := indexOf(t, doc(t, "a", page))
	d, ok := ix.Find(screen.ScreenDoc, "a")
	require.True(t, ok)
	names := func(element string) (out []string) {
		for _, s := range d.SpotsOf(element) {
			out = append(out, s.Name())
		}
		return out
	}
	assert.Equal(
		t,
		[]string{
			"sorrel-button~sorrel-page-header.actions~says new~only",
			"sorrel-button~sorrel-page-header.actions~says new",
			"sorrel-button~sorrel-page-header.actions",
			"sorrel-button",
		},
		names("n"),
	)
	assert.Equal(
		t,
		"sorrel-button~sorrel-form.actions~does submit~last",
		names("s")[0],
		"a layout between does not make another place",
	)
	assert.Empty(t, names("nobody"))
}

func TestValuesAreCountedInScreensAndShares(t *testing.T) {
	ix := indexOf(
		t,
		doc(t, "a", page),
		doc(
			t,
			"b",
			`{"id":"r","type":"section","children":[{"id":"x","type":"sorrel-button","text":"Go","props":{"emphasis":"strong"}}]}`,
		),
	)
	any, ok := ix.Spot("sorrel-button")
	require.True(t, ok)
	m, ok := any.Mix("emphasis")
	require.True(t, ok)
	assert.Equal(t, 4, m.Uses)
	assert.Equal(t, 2, m.Screens)
	assert.InDelta(t, 2, m.Total(), 1e-5, "each screen has one vote")
	byValue := map[string]usage.Value{}
	for _, v := range m.Sorted() {
		byValue[v.Value] = v
	}
	assert.InDelta(t, 1+1.0/3, byValue["strong"].Weight, 1e-5)
	assert.Len(t, byValue["strong"].Docs, 2)
	_, tracked := any.Mix("to")
	assert.False(t, tracked, "no norms are made of addresses")
}

func TestWhatIsTakenOutLeavesNoTrace(t *testing.T) {
	k := testkit.Sorrel(t)
	rapid.Check(t, func(r *rapid.T) {
		w, _ := generate.Workspace(
			generate.Options{Screens: 6, Elements: 20, Slips: 0.2, Seed: rapid.Uint64Range(1, 30).Draw(r, "seed")},
		)
		ix, plain := usage.New(k), usage.New(k)
		for i, d := range w.Docs {
			ix.Put(d)
			if i%2 == 0 {
				plain.Put(d)
			}
		}
		for i, d := range w.Docs {
			if i%2 == 1 {
				ix.Drop(d.Kind, d.ID)
			}
		}
		var kept []string
		for _, s := range ix.Spots() {
			other, ok := plain.Spot(s.Name())
			require.True(r, ok, s.Name())
			kept = append(kept, s.Name())
			require.Equal(r, []int{other.Uses, other.Docs}, []int{s.Uses, s.Docs}, s.Name())
			for i := range s.Mixes {
				require.Equal(r, told(&other.Mixes[i]), told(&s.Mixes[i]), s.Name())
			}
		}
		require.Len(r, plain.Spots(), len(kept))
	})
}

// told is a mix without the numbers of its documents, which differ by order.
func told(m *usage.Mix) string {
	out := fmt.Sprint(m.Prop, m.Uses, m.Screens)
	for _, v := range m.Sorted() {
		out += fmt.Sprint(" ", v.Value, v.Uses, len(v.Docs), v.Weight)
	}
	return out
}

func TestChangedTellsOnceWhatAnEditTouched(t *testing.T) {
	ix := indexOf(t, doc(t, "a", page), doc(t, "b", page))
	spots, docs := ix.Changed()
	assert.Equal(t, []int32{0, 1}, docs)
	assert.NotEmpty(t, spots)
	spots, docs = ix.Changed()
	assert.Empty(t, spots)
	assert.Empty(t, docs)
	ix.Put(doc(t, "b", `{"id":"r","type":"section"}`))
	_, docs = ix.Changed()
	assert.Equal(t, []int32{1}, docs)
}

// Searching the index is searching the trees.
func TestSelectFindsWhatMatchingEachTreeFinds(t *testing.T) {
	k := testkit.Sorrel(t)
	w, _ := generate.Workspace(generate.Options{Screens: 4, Elements: 40, Slips: 0.2, Seed: 3})
	ix := usage.New(k)
	for _, d := range w.Docs {
		ix.Put(d)
	}
	parts := []string{
		"section",
		"sorrel-form",
		"sorrel-card",
		"sorrel-button",
		"sorrel-cell",
		"*",
		"[slot=actions]",
		"sorrel-button[emphasis=strong]",
		"sorrel-button:not([emphasis])",
		"sorrel-text[text*=a]",
		"sorrel-carousel",
	}
	rapid.Check(t, func(r *rapid.T) {
		var src strings.Builder
		for i := range rapid.IntRange(1, 4).Draw(r, "steps") {
			if i > 0 {
				src.WriteString(rapid.SampledFrom([]string{" ", " > ", ", "}).Draw(r, "join"))
			}
			src.WriteString(rapid.SampledFrom(parts).Draw(r, "part"))
		}
		sel, err := screen.ParseSelector(src.String())
		require.NoError(r, err, src.String())
		for _, d := range ix.Docs() {
			var a, b []string
			ix.Select(d, sel, func(e *screen.Element) { a = append(a, e.ID) })
			sel.Match(d.Root, func(e *screen.Element) { b = append(b, e.ID) })
			require.Equal(r, b, a, src.String())
		}
	})
}

func TestWhatComesNextFollowsTheScreens(t *testing.T) {
	k := testkit.Sorrel(t)
	form := `{"id":"r","type":"sorrel-form","children":[{"id":"a","type":"sorrel-field"},{"id":"b","type":"sorrel-field"},{"id":"c","type":"sorrel-button","slot":"actions","text":"Cancel"},{"id":"d","type":"sorrel-button","slot":"actions","text":"Save"}]}`
	var docs []*screen.Document
	for i := range 5 {
		docs = append(docs, doc(t, fmt.Sprint("s", i), form))
	}
	ix := indexOf(t, docs...)
	first := func(parent, slot, prev string) string {
		list := ix.ComesNext(&screen.Element{ID: "x", Type: parent}, slot, prev, k.Components)
		require.NotEmpty(t, list)
		assert.IsNonIncreasing(t, chances(list))
		return list[0].Type
	}
	assert.Equal(t, "sorrel-field", first("sorrel-form", "", ""))
	assert.Equal(t, "sorrel-field", first("sorrel-form", "", "sorrel-field"))
	assert.Equal(t, "sorrel-button", first("sorrel-form", "actions", "sorrel-button"))
	assert.Equal(
		t,
		"sorrel-button",
		first("sorrel-dialog", "actions", "sorrel-button"),
		"in a place never seen, what follows this elsewhere",
	)
	for _, d := range docs {
		ix.Drop(d.Kind, d.ID)
	}
	for _, n := range ix.ComesNext(&screen.Element{ID: "x", Type: "sorrel-form"}, "", "", k.Components) {
		assert.Zero(t, n.Screens)
	}
}

func chances(list []usage.Next) []float64 {
	var out []float64
	for _, n := range list {
		out = append(out, n.Probability)
	}
	return out
}

// A habit is what at least three screens do, and four of five of those that could; shells
// and pieces have none.
func TestAHabitIsWhatMostScreensDo(t *testing.T) {
	headed := func(id, title, heading string) *screen.Document {
		d := doc(
			t,
			id,
			`{"id":"r","type":"section","children":[{"id":"h","type":"sorrel-page-header","props":{"heading":"`+heading+`"}}]}`,
		)
		d.Title = title
		return d
	}
	docs := []*screen.Document{headed("a", "Beds", "Beds"), headed("b", "Rounds", "rounds")}
	shell := headed("s", "Staff", "Staff")
	shell.Kind = screen.ShellDoc
	titled := func(docs ...*screen.Document) bool {
		return indexOf(t, docs...).Titled("sorrel-page-header", "heading")
	}
	assert.False(t, titled(append(docs, shell)...), "two screens are no habit")
	docs = append(docs, headed("c", "Shifts", "Shifts"))
	assert.True(t, titled(docs...))
	docs = append(docs, headed("d", "Orders", "What was ordered"))
	assert.False(t, titled(docs...), "three of four are not enough")
	docs = append(docs, headed("e", "Today", "Today"))
	assert.True(t, titled(docs...))
	assert.False(t, indexOf(t, docs...).Titled("sorrel-page-header", "size"))
	assert.False(t, indexOf(t, docs...).Titled("sorrel-card", "heading"))
}

func TestHowAThingIsNowIsNoHabit(t *testing.T) {
	for name, want := range map[string]bool{
		"disabled": false, "isDisabled": false, "is-open": false, "defaultChecked": false, "hasError": false, "invalid": false, "modelSelected": false,
		"outlined": true, "isolated": true, "hasty": true, "clearable": true, "opener": true, "islands": true,
	} {
		assert.Equal(t, want, usage.Tracked(&kit.Prop{Name: name, Type: kit.Bool}), name)
	}
	assert.True(t, usage.Tracked(&kit.Prop{Name: "error", Type: kit.Enum, Values: []string{"soft", "loud"}}), "a choice says how it looks")
}
