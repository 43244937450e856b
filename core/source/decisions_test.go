package source_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/audit"
	"ubiquant/core/model"
	"ubiquant/core/source"
)

// someDecisions makes settings out of few places and values, so that two of them often meet.
func someDecisions() *rapid.Generator[source.Settings] {
	return rapid.Custom(func(t *rapid.T) source.Settings {
		var s source.Settings
		value := rapid.SampledFrom([]string{"", "small", "large"})
		for _, spot := range []string{"acme-button", "acme-card", "acme-link"} {
			if rapid.Bool().Draw(t, spot) {
				s.House = append(s.House, source.HouseRule{Spot: spot, Prop: "size", Value: value.Draw(t, "value"), Reason: "so"})
			}
		}
		for _, id := range []string{"one", "two"} {
			if rapid.Bool().Draw(t, id) {
				s.Own = append(s.Own, audit.OwnRule{ID: id, Title: id, Must: value.Draw(t, "must")})
				s.Held = append(s.Held, audit.Tuning{Rule: id, Settings: map[string]string{"most": value.Draw(t, "most")}})
				s.Let = append(s.Let, source.LetStand{Key: "r|screen:" + id + "|e|", Reason: value.Draw(t, "reason") + "."})
			}
		}
		return s
	})
}

// What two sides decided since they were one comes together: nothing that one side alone did is
// lost, and where both did, mine stays and it is said.
func TestDecisionsOfTwoSidesComeTogether(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		base, mine, theirs := someDecisions().Draw(t, "base"), someDecisions().Draw(t, "mine"), someDecisions().Draw(t, "theirs")
		merged, both := mine.Merge(&base, &theirs)

		kept, said := mine.Merge(&base, &base)
		assert.Equal(t, mine, kept, "nothing new there: mine stays")
		assert.Empty(t, said)
		taken, said := base.Merge(&base, &theirs)
		assert.ElementsMatch(t, theirs.House, taken.House, "nothing new here: theirs is taken")
		assert.ElementsMatch(t, theirs.Let, taken.Let)
		assert.Empty(t, said)
		again, said := merged.Merge(&theirs, &theirs)
		assert.Equal(t, merged, again, "merged once is merged")
		assert.Empty(t, said)

		find := func(s *source.Settings, spot string) *source.HouseRule {
			i := slices.IndexFunc(s.House, func(h source.HouseRule) bool { return h.Spot == spot })
			if i < 0 {
				return nil
			}
			return &s.House[i]
		}
		for _, spot := range []string{"acme-button", "acme-card", "acme-link"} {
			b, m, h, got := find(&base, spot), find(&mine, spot), find(&theirs, spot), find(&merged, spot)
			switch {
			case assert.ObjectsAreEqual(m, b):
				assert.Equal(t, h, got, spot)
			default:
				assert.Equal(t, m, got, spot)
			}
			if !assert.ObjectsAreEqual(m, b) && !assert.ObjectsAreEqual(h, b) && !assert.ObjectsAreEqual(m, h) {
				assert.NotEmpty(t, both, spot)
			}
		}
		brings, lifts := merged.Since(&mine)
		back, gone := mine.Since(&merged)
		assert.Len(t, back, len(brings)-len(gone)+len(lifts), "as much the one way as the other")
	})
}

// A workspace's decisions written as settings and given to a workspace are the same decisions.
func TestDecisionsGoThroughSettingsAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := someDecisions().Draw(t, "settings")
		w := &model.Workspace{}
		s.Decide(w)
		back, left := source.DecidedIn(w, func(string) bool { return true })
		assert.Empty(t, left)
		for i := range back.House {
			back.House[i].Words = "" // the spot stands for words it has none of
		}
		assert.Equal(t, s, back)
	})
	w := &model.Workspace{Stands: []audit.LetStand{
		{ID: "a", Key: "stray|screen:here|e|size", Reason: "meant"},
		{ID: "b", Key: "stray|screen:there|e|size", Reason: "meant"},
		audit.StandsInCode("stray|screen:here|f|size", "in code", ""),
		{ID: "c", Key: "dead-control|screen:there|e|", Scope: audit.Everywhere, Reason: "later"},
	}}
	s, left := source.DecidedIn(w, func(doc string) bool { return doc == "screen:here" })
	assert.Len(t, s.Let, 2)
	assert.Equal(t, []string{"stray is let stand on screen:there, which is not in the repository"}, left)
	read, err := source.ReadSettings(s.Write())
	require.NoError(t, err)
	assert.Equal(t, s.Let, read.Let)
}

func TestDecisionsThatDoNotHoldAreNamed(t *testing.T) {
	for what, want := range map[string]string{
		`"ruleSettings":[{"rule":"no-such"}]`:                                                    `ruleSettings[0]: there is no rule "no-such"`,
		`"letStand":[{"key":"a","reason":"b","until":"soon"}]`:                                   `letStand[0]: "soon" is no date to look again`,
		`"letStand":[{"key":"a","reason":"b","scope":"far"}]`:                                    `letStand[0]: the scope "far" is not known`,
		`"letStand":[{"key":"a","reason":"b","scope":"spot"}]`:                                   `letStand[0]: what is let stand in a spot names the spot`,
		`"letStand":[{"key":"a","reason":"b"},{"key":"a","reason":"c"}]`:                         `letStand[1]: says the same thing as letStand[0]`,
		`"houseRules":[{"spot":"a","prop":"b","value":"1"},{"spot":"a","prop":"b","value":"2"}]`: `houseRules[1]: says the same thing as houseRules[0]`,
	} {
		_, err := source.ReadSettings([]byte(`{"format":"ubiquant.repository/1",` + what + `}`))
		assert.ErrorContains(t, err, want)
	}
}
