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
	return &screen.Document{Kind: screen.ScreenDoc, ID: id, Root: testkit.Tree(t, `{"id":"r","type":"section","children":[{"id":"f","type":"sorrel-form","children":[{"id":"b","type":"sorrel-button","slot":"actions","text":"Save","props":{"action":"submit"`+props+`}`+mark+`}]}]}`)}
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
		crowd.Root.Children = append(crowd.Root.Children, testkit.Tree(t, fmt.Sprintf(`{"id":"f%d","type":"sorrel-form","children":[{"id":"b%d","type":"sorrel-button","slot":"actions","text":"Save","props":{"action":"submit","emphasis":"strong"}}]}`, i, i)))
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

func TestComingAndGoingLeavesTheIndexAsItWas(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		docs := team(t, 6, 3)
		ix := index(t, docs...)
		n := norm.New(ix)
		for range rapid.IntRange(1, 8).Draw(r, "steps") {
			i := rapid.IntRange(0, len(docs)-1).Draw(r, "doc")
			docs[i] = form(t, docs[i].ID, rapid.SampledFrom([]string{"strong", "soft", "bare", ""}).Draw(r, "emphasis"), rapid.Bool().Draw(r, "filled"))
			ix.Put(docs[i])
			n.Update()
		}
		fresh := index(t, docs...)
		again := norm.New(fresh)
		a, _ := ix.Spot(spot)
		b, _ := fresh.Spot(spot)
		va, _ := norm.For(a, "emphasis", "")
		vb, _ := norm.For(b, "emphasis", "")
		require.InDelta(r, vb.Sure, va.Sure, 1e-9)
		va.Sure, vb.Sure = 0, 0
		require.Equal(r, vb, va)
		require.Equal(r, len(again.Strays(words(fresh, t))), len(n.Strays(words(ix, t))))
		require.Equal(r, len(again.Questions(words(fresh, t))), len(n.Questions(words(ix, t))))
	})
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
