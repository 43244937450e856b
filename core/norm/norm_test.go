package norm_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/norm"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
	"ubiquant/internal/testkit"
)

// form is a screen with one form whose submit button has an emphasis.
func form(t testing.TB, id, emphasis string, filled bool) *screen.Document {
	props, mark := "", ""
	if emphasis != "" {
		props = `,"emphasis":"` + emphasis + `"`
		if filled {
			mark = `,"filled":["emphasis"]`
		}
	}
	return &screen.Document{
		Kind: screen.ScreenDoc,
		ID:   id,
		Root: testkit.Tree(
			t,
			`{"id":"r","type":"section","children":[{"id":"f","type":"sorrel-form","children":[{"id":"b","type":"sorrel-button","slot":"actions","text":"Save","props":{"action":"submit"`+props+`}`+mark+`}]}]}`,
		),
	}
}

func index(t testing.TB, docs ...*screen.Document) *usage.Index {
	ix := usage.New(testkit.Sorrel(t))
	for _, d := range docs {
		ix.Put(d)
	}
	return ix
}

func team(t testing.TB, strong, soft int) []*screen.Document {
	var docs []*screen.Document
	for i := range strong {
		docs = append(docs, form(t, fmt.Sprint("strong", i), "strong", false))
	}
	for i := range soft {
		docs = append(docs, form(t, fmt.Sprint("soft", i), "soft", false))
	}
	return docs
}

const spot = "sorrel-button~sorrel-form.actions~does submit"

func words(ix *usage.Index, t testing.TB) func(*usage.Spot) string {
	return func(s *usage.Spot) string { return s.Words(testkit.Sorrel(t)) }
}

func standing(t *testing.T, docs ...*screen.Document) norm.Verdict {
	ix := index(t, docs...)
	sp, ok := ix.Spot(spot)
	require.True(t, ok)
	v, ok := norm.For(sp, "emphasis", "")
	require.True(t, ok)
	return v
}

func TestFewScreensAreOnlyCountedMoreLeanManyMakeANorm(t *testing.T) {
	assert.Equal(t, norm.Counted, standing(t, team(t, 4, 0)...).Standing)
	assert.Equal(t, norm.Leaning, standing(t, team(t, 9, 0)...).Standing)
	assert.Equal(t, norm.Norm, standing(t, team(t, 20, 0)...).Standing)
	assert.Equal(t, norm.Mixed, standing(t, team(t, 12, 12)...).Standing)
}

func TestOneAgainstManyStraysAndThreeMakeAQuestion(t *testing.T) {
	ix := index(t, team(t, 20, 1)...)
	n := norm.New(ix)
	strays := n.Strays(words(ix, t))
	require.Len(t, strays, 1)
	assert.Equal(t, "screen:soft0", strays[0].Doc)
	assert.Equal(t, "strong", strays[0].Norm)
	assert.Equal(t, 20, strays[0].Screens)

	ix = index(t, team(t, 20, 5)...)
	n = norm.New(ix)
	assert.Empty(t, n.Strays(words(ix, t)), "what stands on three screens or more is nobody's slip")
	require.Len(t, n.Questions(words(ix, t)), 1)

	n.Settle([]norm.Settled{{Spot: n.Questions(words(ix, t))[0].Spot, Prop: "emphasis"}})
	assert.Empty(t, n.Questions(words(ix, t)), "what is settled is no question any more")
}

func TestCopiesOnOneScreenDoNotVouchForEachOther(t *testing.T) {
	docs := team(t, 4, 0)
	crowd := &screen.Document{Kind: screen.ScreenDoc, ID: "crowd", Root: &screen.Element{ID: "r", Type: "section"}}
	for i := range 40 {
		crowd.Root.Children = append(
			crowd.Root.Children,
			testkit.Tree(
				t,
				fmt.Sprintf(
					`{"id":"f%d","type":"sorrel-form","children":[{"id":"b%d","type":"sorrel-button","slot":"actions","text":"Save","props":{"action":"submit","emphasis":"strong"}}]}`,
					i,
					i,
				),
			),
		)
	}
	v := standing(t, append(docs, crowd)...)
	assert.Equal(t, 5, v.Screens)
	assert.NotEqual(t, norm.Norm, v.Standing)
}

func TestWhatTheToolFilledInIsNoEvidence(t *testing.T) {
	var docs []*screen.Document
	for i := range 20 {
		docs = append(docs, form(t, fmt.Sprint(i), "strong", true))
	}
	assert.Equal(t, 0, standing(t, docs...).Screens)
}

func TestDefaultsCountLikeSetValues(t *testing.T) {
	v := standing(t, form(t, "a", "", false), form(t, "b", "soft", false))
	assert.Equal(t, "soft", v.Value)
	assert.Equal(t, 2, v.Screens)
}

// skewed draws the usual value mostly.
func skewed(r *rapid.T, usual string, others ...string) string {
	if rapid.IntRange(0, 9).Draw(r, "odd") > 0 {
		return usual
	}
	return rapid.SampledFrom(others).Draw(r, "other")
}

// anyScreen is a screen with a few buttons in a few places and roles.
func anyScreen(r *rapid.T, id string) *screen.Document {
	root := &screen.Element{ID: "r", Type: "section"}
	for i := range rapid.IntRange(1, 3).Draw(r, "groups") {
		place := rapid.SampledFrom([]string{"sorrel-form", "sorrel-form", "sorrel-dialog"}).Draw(r, "place")
		group := &screen.Element{ID: fmt.Sprint("g", i), Type: place}
		for j := range rapid.IntRange(1, 3).Draw(r, "buttons") {
			b := &screen.Element{
				ID:   fmt.Sprintf("b%d-%d", i, j),
				Type: "sorrel-button",
				Slot: "actions",
				Text: screen.Lit(skewed(r, "Save", "Cancel", "New bed")),
			}
			b.Props = []screen.Prop{
				{
					Name:   "emphasis",
					Value:  screen.Lit(skewed(r, "strong", "soft", "bare")),
					Filled: rapid.IntRange(0, 19).Draw(r, "filled") == 0,
				},
				{Name: "size", Value: screen.Lit(skewed(r, "m", "s"))},
			}
			group.Children = append(group.Children, b)
		}
		root.Children = append(root.Children, group)
	}
	return &screen.Document{
		Kind:    screen.ScreenDoc,
		ID:      id,
		Root:    root,
		Removed: rapid.IntRange(0, 9).Draw(r, "removed") == 0,
	}
}

// However a set of screens came about, it is judged the same.
func TestTheWayDoesNotMatter(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		ix := index(t)
		n := norm.New(ix)
		now := map[string]*screen.Document{}
		for range rapid.IntRange(1, 4).Draw(r, "updates") {
			for range rapid.IntRange(1, 16).Draw(r, "screens") {
				d := anyScreen(r, fmt.Sprint("s", rapid.IntRange(0, 24).Draw(r, "screen")))
				now[d.ID] = d
				ix.Put(d)
			}
			n.Update()
		}
		fresh := index(t)
		for _, d := range now {
			fresh.Put(d)
		}
		again := norm.New(fresh)
		require.Equal(r, again.Strays(words(fresh, t)), n.Strays(words(ix, t)))
		require.Equal(r, again.Questions(words(fresh, t)), n.Questions(words(ix, t)))
		require.Equal(r, len(n.Strays(words(ix, t))), n.Count())
		require.Equal(r, len(n.Questions(words(ix, t))), n.CountQuestions())
	})
}

// mixed is a team whose forms each have so many buttons of one kind, of which on
// some screens one is soft.
func mixed(t testing.TB, screens, buttons, odd int) *usage.Index {
	ix := index(t)
	for i := range screens {
		root := &screen.Element{ID: "r", Type: "sorrel-form"}
		for j := range buttons {
			b := &screen.Element{
				ID:    fmt.Sprint("b", j),
				Type:  "sorrel-button",
				Slot:  "actions",
				Text:  screen.Lit("Save"),
				Props: []screen.Prop{{Name: "emphasis", Value: screen.Lit("strong")}},
			}
			if i < odd && j == buttons/2 {
				b.Props[0].Value = screen.Lit("soft")
			}
			root.Children = append(root.Children, b)
		}
		ix.Put(&screen.Document{Kind: screen.ScreenDoc, ID: fmt.Sprint("s", i), Root: root})
	}
	return ix
}

func TestInALargeTeamASlipMayHappenToSeveral(t *testing.T) {
	for _, c := range []struct {
		screens, buttons, odd, strays int
	}{
		{20, 1, 2, 2},     // nearly alone
		{20, 1, 3, 0},     // three of twenty are a habit
		{100, 1, 5, 5},    // five of a hundred are slips
		{100, 1, 6, 0},    // six are too many
		{100, 10, 10, 10}, // odd ones among alike on the same screen weigh little
		{100, 10, 11, 0},  // an accent on more screens than that is on purpose
	} {
		ix := mixed(t, c.screens, c.buttons, c.odd)
		assert.Equal(t, c.strays, norm.New(ix).Count(), "%+v", c)
	}
}

func TestEvidenceIsToldAndTheOwnScreenLeftOut(t *testing.T) {
	ix := mixed(t, 40, 1, 1)
	list := norm.New(ix).Strays(words(ix, t))
	require.Len(t, list, 1)
	assert.Equal(t, 39, list[0].Screens)
	assert.Equal(t, 40, list[0].Of)
	assert.Equal(t, norm.LeanFrom, list[0].Twins, "counted as far as it matters")
	d, _ := ix.Find(screen.ScreenDoc, "s0")
	n := norm.New(ix)
	assert.Equal(t, list, n.Of(d.Number, words(ix, t)))
	assert.True(t, n.Has(d.Number, "b0", "emphasis"))
	assert.False(t, n.Has(d.Number, "b0", "size"))
	few := mixed(t, 14, 1, 1)
	fewer := norm.New(few).Strays(words(few, t))
	require.Len(t, fewer, 1)
	assert.Less(t, fewer[0].Surprise, list[0].Surprise, "more screens make it more certain")
}

func TestASecondHabitOfAFinerSpotExcuses(t *testing.T) {
	// On a quarter of the screens the first of three is soft: a habit of firsts.
	ix := index(t)
	for i := range 40 {
		root := &screen.Element{ID: "r", Type: "sorrel-form"}
		for j := range 3 {
			b := &screen.Element{
				ID:    fmt.Sprint("b", j),
				Type:  "sorrel-button",
				Slot:  "actions",
				Text:  screen.Lit("Save"),
				Props: []screen.Prop{{Name: "emphasis", Value: screen.Lit("strong")}},
			}
			if j == 0 && i%10 == 0 {
				b.Props[0].Value = screen.Lit("soft")
			}
			root.Children = append(root.Children, b)
		}
		ix.Put(&screen.Document{Kind: screen.ScreenDoc, ID: fmt.Sprint("s", i), Root: root})
	}
	assert.Zero(t, norm.New(ix).Count())
}

func TestComesNextRanksWhatTheScreensDo(t *testing.T) {
	k := testkit.Sorrel(t)
	ix := index(t, team(t, 6, 0)...)
	list := ix.ComesNext(&screen.Element{ID: "x", Type: "sorrel-form"}, "actions", "", k.Components)
	require.NotEmpty(t, list)
	assert.Equal(t, "sorrel-button", list[0].Type)
	assert.Equal(t, 6, list[0].Screens)
	for _, n := range list {
		assert.NotEqual(t, "sorrel-cell", n.Type, "what may not stand there is not offered")
	}
}

func TestSpotsHaveNamesInWordsAndAddressesThatReadBack(t *testing.T) {
	ix := index(t, team(t, 1, 0)...)
	d := ix.Docs()[0]
	spots := d.SpotsOf("b")
	require.Len(t, spots, 4)
	assert.Equal(t, "single button that sends the form in the actions of a form", spots[0].Words(testkit.Sorrel(t)))
	assert.Equal(t, "any button", spots[3].Words(testkit.Sorrel(t)))
	for _, s := range spots {
		k, ok := usage.ParseKey(s.Name())
		require.True(t, ok)
		assert.Equal(t, s.Key, k)
	}
	for _, bad := range []string{"", "a~b~c~d~e", "a~noslot"} {
		_, ok := usage.ParseKey(bad)
		assert.False(t, ok, bad)
	}
}
