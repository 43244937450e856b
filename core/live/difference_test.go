package live_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
	"ubiquant/internal/generate"
	"ubiquant/internal/testkit"
)

// all is everything the census shows, as text.
func all(t require.TestingT, l *live.Live) string {
	open, standing := l.Findings()
	text, err := json.Marshal([]any{l.Strays(), l.Questions(), open, standing, l.Counts()})
	require.NoError(t, err)
	return string(text)
}

// Whatever is edited, removed, settled or let stand, what is kept up to date by
// difference is what counting anew would say.
func TestByDifferenceIsAlwaysAsFromScratch(t *testing.T) {
	k := testkit.Sorrel(t)
	rapid.Check(t, func(r *rapid.T) {
		w, _ := generate.Workspace(
			generate.Options{Screens: 24, Elements: 24, Slips: 0.06, Seed: rapid.Uint64Range(1, 40).Draw(r, "seed")},
		)
		l := live.Open(w, k, "2026-11-23")
		for range rapid.IntRange(1, 6).Draw(r, "changes") {
			step := drawStep(r, l)
			if _, err := l.Take(change.Change{Title: "x", Steps: []change.Step{step}}); err != nil {
				continue // refused edits are the law of another test
			}
		}
		require.Equal(r, all(r, live.Open(l.W, k, l.Today)), all(r, l))
	})
}

func drawStep(r *rapid.T, l *live.Live) change.Step {
	d := rapid.SampledFrom(l.W.Docs).Draw(r, "screen")
	doc := usage.DocKey(d)
	var elements []*screen.Element
	d.Root.Walk(func(e, _ *screen.Element) bool { elements = append(elements, e); return true })
	e := rapid.SampledFrom(elements).Draw(r, "element")
	edit := func(e screen.Edit) change.Step {
		return &change.Edit{Doc: doc, Edits: []screen.Edit{e}}
	}
	switch rapid.IntRange(0, 6).Draw(r, "what") {
	case 0:
		return edit(screen.Edit{Op: screen.Remove, ID: e.ID})
	case 1:
		return &change.Remove{Doc: doc}
	case 2:
		if questions := l.Questions(); len(questions) > 0 {
			q := rapid.SampledFrom(questions).Draw(r, "question")
			return &change.PutHouse{
				House: audit.HouseRule{
					ID:     "h-" + q.Prop,
					Spot:   q.Spot,
					Words:  q.Words,
					Prop:   q.Prop,
					Value:  q.Sides[0].Value,
					Reason: "it reads better",
					By:     "ida",
					When:   l.Today,
				},
			}
		}
	case 3:
		if strays := l.Strays(); len(strays) > 0 {
			s := rapid.SampledFrom(strays).Draw(r, "stray")
			if rapid.Bool().Draw(r, "repaired") {
				fix, _ := l.SetEdit(s.Doc, s.Element, s.Prop, s.Norm)
				return &change.Edit{Doc: s.Doc, Edits: []screen.Edit{fix}}
			}
			return &change.PutStand{
				Stand: audit.LetStand{
					ID:     "s-" + s.Doc + s.Element,
					Key:    live.StrayKey(s),
					Reason: "on purpose",
					By:     "ida",
					When:   l.Today,
				},
			}
		}
	case 4:
		if open, _ := l.Findings(); len(open) > 0 {
			f := rapid.SampledFrom(open).Draw(r, "finding")
			return &change.PutStand{
				Stand: audit.LetStand{
					ID:     "f-" + f.Doc + f.Element,
					Key:    f.Key(),
					Reason: "on purpose",
					By:     "ida",
					When:   l.Today,
				},
			}
		}
	}
	for _, p := range []string{"emphasis", "shape", "layout", "ground", "size", "padding"} {
		if def, ok := l.Cat.Component(e.Type); ok {
			if prop, ok := def.Prop(p); ok && len(prop.Values) > 0 {
				return edit(
					screen.Edit{
						Op:    screen.Set,
						ID:    e.ID,
						Prop:  p,
						Value: screen.Lit(rapid.SampledFrom(prop.Values).Draw(r, "value")),
					},
				)
			}
		}
	}
	return edit(
		screen.Edit{
			Op:    screen.SetText,
			ID:    e.ID,
			Value: screen.Lit(rapid.SampledFrom([]string{"Save", "New bed", "Cancel"}).Draw(r, "text")),
		},
	)
}
