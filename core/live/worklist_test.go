package live_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit/opened"
)

// slipped is the demo with slips of several sorts on its screens.
func slipped(t *testing.T) *live.Live {
	l := opened.Demo(t)
	n := 0
	for _, d := range l.W.Docs {
		var edits []screen.Edit
		d.Root.Walk(func(e, _ *screen.Element) bool {
			if v, ok := e.Prop("size"); e.Type == "sorrel-button" && n%5 == 0 && (!ok || v.Text != "s") {
				edits = append(edits, screen.Edit{Op: screen.Set, ID: e.ID, Prop: "size", Value: screen.Lit("s")})
			}
			if _, ok := e.Prop("label"); ok && n%7 == 0 {
				edits = append(edits, screen.Edit{Op: screen.Unset, ID: e.ID, Prop: "label"})
			}
			n++
			return true
		})
		if len(edits) > 0 {
			_, err := l.Take(one(&change.Edit{Doc: d.Address(), Edits: edits}))
			require.NoError(t, err)
		}
	}
	return l
}

// Nothing is hidden by how it is listed: each thing that is open stands in the worklist once,
// with where it is and what is behind it; what matters more stands before.
func TestTheWorklistHoldsAllThatIsOpen(t *testing.T) {
	l := slipped(t)
	want := map[string]int{}
	open, _ := l.Findings()
	for _, f := range open {
		want[f.Key()]++
	}
	for _, s := range append(l.Strays(), l.Leans()...) {
		want[live.StrayKey(s)]++
	}
	for _, q := range l.Questions() {
		want["question|"+q.Key()]++
	}
	require.Greater(t, len(open), 10)
	got, last := map[string]int{}, 1000
	for _, w := range l.Worklist() {
		assert.Nil(t, w.Stood)
		got[w.Key]++
		assert.LessOrEqual(t, w.Weight, last)
		last = w.Weight
		assert.NotEmpty(t, w.Cause)
		assert.NotEmpty(t, w.Why)
		assert.NotEmpty(t, w.Message)
		assert.NotEmpty(t, w.Title)
		assert.NotEmpty(t, w.Path)
		assert.NotEmpty(t, w.SpotName)
	}
	assert.Equal(t, want, got)
}

// What is let stand is what its scope says, no more and no less, in the counts as in the lists;
// lifted, everything is as before.
func TestLettingStandReachesAsFarAsItSays(t *testing.T) {
	l := slipped(t)
	keys := func() map[string]live.Work {
		out := map[string]live.Work{}
		for _, w := range l.Worklist() {
			if w.Kind != live.OpenQuestion && w.Stood == nil {
				out[w.Key] = w
			}
		}
		return out
	}
	before, counts := keys(), l.Counts()
	tried := 0
	for key, w := range before {
		if tried > 40 {
			break
		}
		for _, scope := range audit.Scopes {
			tried++
			stand := audit.LetStand{ID: "a", Key: key, Scope: scope, Reason: "meant"}
			if scope == audit.InSpot {
				stand.Spot = w.Spot
			}
			taken, err := l.Take(one(&change.PutStand{Stand: stand}))
			require.NoError(t, err)
			after := keys()
			for other, o := range before {
				is, of := audit.ParseKey(other), audit.ParseKey(key)
				covered := other == key
				if is.Rule == of.Rule {
					switch scope {
					case audit.InDoc:
						covered = covered || is.Doc == of.Doc && is.Prop == of.Prop
					case audit.InSpot:
						covered = covered || o.Spot == w.Spot && is.Prop == of.Prop
					case audit.Everywhere:
						covered = true
					}
				}
				_, stands := after[other]
				assert.Equal(t, !covered, stands, "%s with %q of %s", other, scope, key)
			}
			open, _ := l.Findings()
			assert.Equal(t, len(before)-len(after), stood(l))
			assert.Equal(t, len(open), l.Counts().Findings)
			assert.Len(t, l.Strays(), l.Counts().Strays)
			_, err = l.Take(taken.Inverse)
			require.NoError(t, err)
			assert.Equal(t, counts, l.Counts())
		}
	}
	assert.Len(t, keys(), len(before))
}

// stood counts what is listed as let stand, each with how.
func stood(l *live.Live) int {
	n := 0
	for _, w := range l.Worklist() {
		if w.Stood != nil && w.Stood.Reason == "meant" {
			n++
		}
	}
	return n
}

// What was let stand for a while comes back by itself, and says what had been said; who is to
// see to something is told with it.
func TestWhatWasLetStandComesBack(t *testing.T) {
	l := slipped(t)
	l.SetToday("2026-11-01")
	open, _ := l.Findings()
	key := open[0].Key()
	for _, s := range []change.Step{
		&change.PutStand{Stand: audit.LetStand{ID: "a", Key: key, Reason: "until the fair", By: "ida", Until: "2026-11-20"}},
		&change.PutAssignment{Assignment: audit.Assignment{ID: "a", Key: key, To: "noor"}},
	} {
		_, err := l.Take(one(s))
		require.NoError(t, err)
	}
	find := func() *live.Work {
		for _, w := range l.Worklist() {
			if w.Key == key && w.Stood == nil {
				return &w
			}
		}
		return nil
	}
	assert.Nil(t, find())
	l.SetToday("2026-11-20")
	again := find()
	require.NotNil(t, again)
	assert.True(t, strings.Contains(again.Again, "until the fair"), again.Again)
	require.NotNil(t, again.Given)
	assert.Equal(t, "noor", again.Given.To)
}

// A norm that a stray departs from can become a house rule as it is seen: then the stray is a
// finding of the rule, nothing else that was open is lost, and what keeps the norm is not told.
func TestANormBecomesAHouseRuleWhereItIsSeen(t *testing.T) {
	l := slipped(t)
	tried := 0
	for _, w := range l.Worklist() {
		if w.Adopt == nil || w.Kind != live.OpenStray || tried >= 6 {
			continue
		}
		tried++
		rule := audit.HouseRule{ID: "a", Spot: w.Adopt.Spot, Where: w.Adopt.Where, Words: w.Adopt.Words, Prop: w.Prop, Value: w.Adopt.Value, Reason: "so"}
		taken, err := l.Take(one(&change.PutHouse{House: rule}))
		require.NoError(t, err)
		told := map[string]bool{}
		open, _ := l.Findings()
		for _, f := range open {
			if f.Rule == "house-rule" && f.Prop == w.Prop {
				told[f.Doc+"#"+f.Element] = true
			}
		}
		assert.True(t, told[w.Doc+"#"+w.Element], "%s: %+v", w.Message, w.Adopt)
		assert.False(t, told[w.Like.Doc+"#"+w.Like.Element], "%s: %+v", w.Message, w.Adopt)
		_, err = l.Take(taken.Inverse)
		require.NoError(t, err)
	}
	assert.Positive(t, tried)
}
