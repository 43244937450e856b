package plan_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/picture"
	"ubiquant/core/plan"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit/drawn"
	"ubiquant/internal/testkit/opened"
)

// planned is the demo with a new screen that is planned from a drawn page.
func planned(t testing.TB, s *drawn.Sheet, shell string) (*live.Live, picture.Plan) {
	l := opened.Demo(t)
	kept, err := picture.Keep(s.Img, "drawn")
	require.NoError(t, err)
	p := picture.Plan{Screen: "drawn", Picture: kept.ID, Root: picture.Planned(picture.Read(s.Img))}
	root := &screen.Element{ID: "root", Type: "section"}
	take(t, l, &change.Create{Kind: screen.ScreenDoc, Document: &screen.Document{
		Kind: screen.ScreenDoc, ID: "drawn", Title: "Drawn", Route: "/drawn", App: l.W.Apps[0].ID, Shell: shell, Root: root,
	}}, &change.PutPicture{Picture: kept}, &change.PutPlan{Plan: p})
	return l, p
}

func take(t testing.TB, l *live.Live, steps ...change.Step) {
	_, err := l.Take(change.Change{Title: "test", Steps: steps})
	require.NoError(t, err)
}

func stand(t testing.TB, l *live.Live) []string {
	c, left, err := plan.Stand(l, "drawn")
	require.NoError(t, err)
	take(t, l, c.Steps...)
	return left
}

func tree(l *live.Live) *screen.Element {
	d, _ := l.W.Doc("screen:drawn")
	return d.Root
}

func lines(e *screen.Element, depth int) string {
	out := fmt.Sprintf("%s%s %s %q", strings.Repeat("  ", depth), e.ID, e.Type, e.Text.Text)
	for _, p := range e.Props {
		out += " " + p.Name + "=" + p.Value.Text
	}
	out += "\n"
	for _, c := range e.Children {
		out += lines(c, depth+1)
	}
	return out
}

// Whatever a picture shows: each box stands on the screen, or what it stands in says why not;
// all words that were written stand; and nothing changes by making it once more.
func TestWhatIsPlannedStandsOrIsLeftOutAloud(t *testing.T) {
	for _, page := range drawn.Pages {
		t.Run(page.Name, func(t *testing.T) {
			l, p := planned(t, page.Draw(t), "plain")
			p.Root.Walk(func(q, _ *picture.Part) {
				switch q.Look {
				case picture.Text, picture.Heading, picture.Button, picture.Chip:
					q.Text = "Words of " + q.ID + "."
				case picture.Icon:
					q.Text = []string{"search", "no such thing", ""}[len(q.ID)%3]
				}
			})
			take(t, l, &change.PutPlan{Plan: p})
			assert.Empty(t, stand(t, l))
			kept, _ := l.W.Plan("drawn")
			shown, err := plan.Show(l, kept)
			require.NoError(t, err)
			left := map[string]bool{}
			for _, n := range shown.Notes {
				left[n.What] = true
			}
			said := lines(tree(l), 0)
			var out func(q *picture.Part)
			out = func(q *picture.Part) {
				if left[q.Name] {
					return
				}
				if q.Text != "" {
					assert.Contains(t, said, q.Text, q.Name)
				}
				if len(q.Parts) == 0 && q.Look != picture.Text && q.Look != picture.Heading {
					assert.NotEmpty(t, shown.Became[q.ID], "%s became nothing", q.Name)
				}
				for i := range q.Parts {
					out(&q.Parts[i])
				}
			}
			out(&p.Root)
			c, _, err := plan.Stand(l, "drawn")
			require.NoError(t, err)
			assert.Len(t, c.Steps, 1, "made once more, the screen is as it is")
		})
	}
}

func page(t testing.TB, name string) *drawn.Sheet {
	for _, p := range drawn.Pages {
		if p.Name == name {
			return p.Draw(t)
		}
	}
	t.Fatal("there is no page " + name)
	return nil
}

func TestWhatPeopleDidStaysWhenThePlanGoesOn(t *testing.T) {
	l, _ := planned(t, page(t, "sign in"), "plain")
	stand(t, l)
	kept, _ := l.W.Plan("drawn")
	shown, err := plan.Show(l, kept)
	require.NoError(t, err)
	next := *kept
	next.Root = kept.Root.Copy()
	var button, heading *picture.Part
	next.Root.Walk(func(q, _ *picture.Part) {
		switch q.Look {
		case picture.Button:
			button = q
		case picture.Heading:
			heading = q
		}
	})
	take(t, l, &change.Edit{Doc: "screen:drawn", Edits: []screen.Edit{
		{Op: screen.SetText, ID: shown.Became[button.ID], Value: screen.Lit("Come in")},
	}})
	heading.Text = "Welcome"
	take(t, l, &change.PutPlan{Plan: next})
	assert.Empty(t, stand(t, l))
	assert.Contains(t, lines(tree(l), 0), `"Come in"`, "what was written on the screen")
	assert.Contains(t, lines(tree(l), 0), `"Welcome"`, "what was written in the plan")

	// What is gone from the screen is told.
	take(t, l, &change.Edit{Doc: "screen:drawn", Edits: []screen.Edit{{Op: screen.Remove, ID: shown.Became[heading.ID]}}})
	next.Root = next.Root.Copy()
	next.Root.Find(heading.ID).Text = "Welcome back"
	take(t, l, &change.PutPlan{Plan: next})
	assert.NotEmpty(t, stand(t, l))
}

func TestADecisionReplacesWhatWasProposed(t *testing.T) {
	l, _ := planned(t, page(t, "people"), "plain")
	kept, _ := l.W.Plan("drawn")
	shown, err := plan.Show(l, kept)
	require.NoError(t, err)
	next := *kept
	next.Root = kept.Root.Copy()
	var chosen string
	next.Root.Walk(func(q, _ *picture.Part) {
		if q.Look == picture.Avatar && chosen == "" {
			require.NotEmpty(t, shown.Choices[q.ID])
			assert.Equal(t, "sorrel-avatar", shown.Choices[q.ID][0].Type)
			q.Becomes, chosen = "sorrel-badge", q.ID
		}
	})
	take(t, l, &change.PutPlan{Plan: next})
	assert.Empty(t, stand(t, l))
	e, _ := tree(l).Find("plan-" + chosen)
	require.NotNil(t, e)
	assert.Equal(t, "sorrel-badge", e.Type)

	// What the kit does not have is said, and what was proposed stands.
	next.Root = next.Root.Copy()
	next.Root.Find(chosen).Becomes = "sorrel-nothing-such"
	shown, err = plan.Show(l, &next)
	require.NoError(t, err)
	assert.Contains(t, fmt.Sprint(shown.Notes), "it cannot become sorrel-nothing-such here")
}

func TestOnePieceStandsForBoxesOfTwoPictures(t *testing.T) {
	l, p := planned(t, page(t, "narrow"), "plain")
	var card string
	p.Root.Walk(func(q, _ *picture.Part) {
		if q.Look == picture.Panel && card == "" {
			card = q.ID
		}
	})
	c, err := plan.Piece(l, "drawn", card, "bag-card", "Bag card")
	require.NoError(t, err)
	take(t, l, c.Steps...)
	require.NotNil(t, l.Piece("bag-card"))
	assert.Equal(t, "sorrel-card", l.Piece("bag-card").Root.Type)
	assert.Empty(t, stand(t, l))
	e, _ := tree(l).Find("plan-" + card)
	require.NotNil(t, e)
	assert.Equal(t, "piece:bag-card", e.Type)

	_, err = plan.Piece(l, "drawn", card, "bag-card", "Bag card")
	assert.ErrorContains(t, err, "there is a piece bag-card already")

	// Another screen's picture shows the same.
	s := page(t, "dense screen")
	kept, err := picture.Keep(s.Img, "other")
	require.NoError(t, err)
	other := picture.Plan{Screen: "tickets", Picture: kept.ID, Root: picture.Planned(picture.Read(s.Img))}
	other.Root.Walk(func(q, _ *picture.Part) {
		if q.Look == picture.Panel {
			q.Becomes = "piece:bag-card"
		}
	})
	take(t, l, &change.PutPicture{Picture: kept}, &change.PutPlan{Plan: other})
	c, left, err := plan.Stand(l, "tickets")
	require.NoError(t, err)
	assert.Empty(t, left)
	take(t, l, c.Steps...)
	uses := 0
	for _, d := range l.W.Docs {
		d.Root.Walk(func(e, _ *screen.Element) bool {
			if e.Type == "piece:bag-card" {
				uses++
			}
			return true
		})
	}
	assert.GreaterOrEqual(t, uses, 2)
}

func TestBarsAreTheShellsWhereItHasSome(t *testing.T) {
	for shell, stands := range map[string]bool{"staff": false, "": true} {
		l, _ := planned(t, page(t, "filters beside a list"), shell)
		stand(t, l)
		kept, _ := l.W.Plan("drawn")
		shown, err := plan.Show(l, kept)
		require.NoError(t, err)
		assert.Equal(t, stands, strings.Contains(lines(tree(l), 0), "sorrel-navbar"), shell)
		assert.Equal(t, stands, len(shown.Notes) == 0, "%s: %v", shell, shown.Notes)
	}
}
