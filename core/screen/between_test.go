package screen_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
)

// Whatever was done to a tree, the edits between it and what it was bring it back.
func TestBetweenBringsOneTreeToAnother(t *testing.T) {
	k := testkit.Sorrel(t)
	rapid.Check(t, func(rt *rapid.T) {
		then := tree(rt, k)
		now := then
		for i := range rapid.IntRange(0, 12).Draw(rt, "edits") {
			if next, _, err := screen.Apply(now, edit(rt, k, now, fmt.Sprintf("f%d", i)), k); err == nil {
				now = next
			}
		}
		back, _, err := screen.ApplyAll(now, screen.Between(now, then), k)
		require.NoError(rt, err)
		require.True(rt, screen.Equal(then, back))
		title := func(e *screen.Element) string { return e.Type }
		require.Empty(rt, screen.Differences(then, back, title))
		require.Equal(
			rt,
			screen.Equal(then, now),
			len(screen.Differences(then, now, title)) == 0,
			"differences are told exactly where there are some",
		)
	})
}

func TestDifferencesAreSaidInWords(t *testing.T) {
	then := testkit.Tree(
		t,
		`{"id":"r","type":"stack","children":[{"id":"a","type":"sorrel-text","text":"Oak"},{"id":"b","type":"sorrel-button","text":"Go","props":{"emphasis":"strong"}},{"id":"c","type":"stack","children":[{"id":"d","type":"sorrel-text","text":"Elm"}]}]}`,
	)
	now := testkit.Tree(
		t,
		`{"id":"r","type":"stack","children":[{"id":"b","type":"sorrel-button","text":"Go on","props":{"size":"s"}},{"id":"a","type":"sorrel-text","text":"Oak"},{"id":"e","type":"sorrel-chip","text":"New"}]}`,
	)
	var said []string
	for _, d := range screen.Differences(then, now, func(e *screen.Element) string { return e.Type }) {
		said = append(said, d.Element+" "+d.Words)
	}
	assert.ElementsMatch(
		t,
		[]string{
			"b moved",
			"a moved",
			"b text: Go on, was Go",
			"b size: s, was not set",
			"b emphasis: not set, was strong",
			"e added",
			"c removed",
		},
		said,
	)
}
