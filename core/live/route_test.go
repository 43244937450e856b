package live_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/data"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit/opened"
)

func TestLinksAndNavigationFollowAScreenThatMoves(t *testing.T) {
	l := opened.Demo(t)
	d := opened.Doc(t, l, "screen:beds")
	was := opened.Look(t, l, "screen:today")
	require.Contains(t, was, `to="/beds">Beds<`)
	c, lost, err := l.Prepare(
		change.Change{
			Title: "Move",
			Steps: []change.Step{
				&change.Meta{
					Doc: "screen:beds",
					Document: &screen.Document{
						ID:    d.ID,
						Title: "Plots",
						Route: "/plots",
						Shell: d.Shell,
						Owner: d.Owner,
						Root:  d.Root,
					},
				},
			},
		},
	)
	require.NoError(t, err)
	taken, err := l.Take(c)
	require.NoError(t, err)
	is := opened.Look(t, l, "screen:today")
	assert.Contains(t, is, `to="/plots">Plots<`, "the navigation of the shell")
	assert.NotContains(t, is, `"/beds"`)
	for _, o := range lost {
		assert.Contains(t, o.Why, "computed from /beds")
	}
	_, err = l.Take(taken.Inverse)
	require.NoError(t, err)
	assert.Equal(t, was, opened.Look(t, l, "screen:today"), "one undo takes all of it back")
}

// A control that gets another name is spoken of by that wherever the screen did.
func TestARenamedControlTakesAlongWhatSpeaksOfIt(t *testing.T) {
	l := opened.Demo(t)
	d := opened.Doc(t, l, "screen:specimens")
	var q *screen.Element
	said := 0
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if e.Name == "q" {
			q = e
		}
		return true
	})
	require.NotNil(t, q)
	rename := func(name string) {
		opened.Take(t, l, &change.Edit{Doc: d.Address(), Edits: []screen.Edit{{Op: screen.Rename, ID: q.ID, Name: name}}})
	}
	opened.Take(t, l, &change.Edit{Doc: d.Address(), Edits: []screen.Edit{
		{Op: screen.Set, ID: "specimens-6", Prop: kit.Does, Value: screen.Lit("set q ash; go /today")},
	}})
	rename("search-word")
	button, _ := opened.Doc(t, l, "screen:specimens").Root.Find("specimens-6")
	does, _ := button.Prop(kit.Does)
	assert.Equal(t, "set searchWord ash; go /today", does.Text)
	data.EachExpression(opened.Doc(t, l, "screen:specimens").Root, l.W.ModelMap(), func(_ *screen.Element, _, source, _ string) {
		assert.NotContains(t, source, "controls.q ")
		if strings.Contains(source, "controls.searchWord") {
			said++
		}
	})
	assert.Positive(t, said)
	_, problems, err := l.Page("screen:specimens", live.View{Controls: map[string]any{"searchWord": "quercus"}})
	require.NoError(t, err)
	assert.Empty(t, problems)
}
