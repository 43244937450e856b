package live_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
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
