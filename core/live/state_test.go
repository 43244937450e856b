package live_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit/opened"
)

func in(t testing.TB, l *live.Live, doc, state string) string {
	page, _, err := l.Page(doc, live.View{State: state})
	require.NoError(t, err)
	return page.HTML
}

func one(s change.Step) change.Change { return change.Change{Title: "x", Steps: []change.Step{s}} }

func stateOf(name string, edits ...screen.Edit) screen.State {
	return screen.State{Name: name, Edits: edits}
}

func putState(name string, edits ...screen.Edit) change.Change {
	return one(&change.PutState{Doc: "screen:tickets", State: stateOf(name, edits...)})
}

func editState(name string, edits ...screen.Edit) change.Change {
	return one(&change.EditState{Doc: "screen:tickets", State: stateOf(name, edits...)})
}

func TestAStateIsWhatDiffersFromTheUsualTree(t *testing.T) {
	l := opened.Demo(t)
	usual := in(t, l, "screen:tickets", "")
	assert.Contains(t, usual, "<sorrel-table")
	s, err := l.ProposeState("screen:tickets", "loading")
	require.NoError(t, err)
	_, err = l.Take(putState("loading", s.Edits...))
	require.NoError(t, err)
	loading := in(t, l, "screen:tickets", "loading")
	assert.Contains(t, loading, "<sorrel-spinner")
	assert.NotContains(t, loading, "<sorrel-table")
	assert.Equal(t, usual, in(t, l, "screen:tickets", ""), "the usual state stays")

	// What changes in the usual tree shows in the state as well.
	header := opened.At(t, l, "screen:tickets", "sorrel-page-header")
	_, err = l.Take(
		change.Change{
			Title: "x",
			Steps: []change.Step{opened.Set("screen:tickets", header, "heading", screen.Lit("All tickets"))},
		},
	)
	require.NoError(t, err)
	assert.Contains(t, in(t, l, "screen:tickets", "loading"), "All tickets")

	// A difference made in the state holds only there, and is taken back by itself.
	edited, err := l.Take(
		editState("loading",
			screen.Edit{Op: screen.Set, ID: header, Prop: "heading", Value: screen.Lit("One moment")},
		),
	)
	require.NoError(t, err)
	assert.Contains(t, in(t, l, "screen:tickets", "loading"), "One moment")
	assert.NotContains(t, in(t, l, "screen:tickets", ""), "One moment")
	_, err = l.Take(edited.Inverse)
	require.NoError(t, err)
	assert.NotContains(t, in(t, l, "screen:tickets", "loading"), "One moment")

	// It is kept, written and read.
	back, err := wsfile.Read(wsfile.Write(l.W))
	require.NoError(t, err)
	assert.Equal(t, string(wsfile.Write(l.W)), string(wsfile.Write(back)))
	kept, _ := back.Doc("screen:tickets")
	assert.Len(t, kept.States, 1)

	// Its element is gone: the rest of the state still holds, and it is said.
	spinner := atOfState(t, l, "loading", "sorrel-spinner")
	_, err = l.Take(
		editState("loading",
			screen.Edit{Op: screen.Set, ID: header, Prop: "heading", Value: screen.Lit("Gone")},
		),
	)
	require.NoError(t, err)
	_, err = l.Take(
		change.Change{
			Title: "x",
			Steps: []change.Step{
				&change.Edit{Doc: "screen:tickets", Edits: []screen.Edit{{Op: screen.Remove, ID: header}}},
			},
		},
	)
	require.NoError(t, err)
	assert.Contains(t, in(t, l, "screen:tickets", "loading"), spinner)
	_, problems, err := l.Page("screen:tickets", live.View{State: "loading"})
	require.NoError(t, err)
	require.NotEmpty(t, problems)
	assert.Contains(t, problems[len(problems)-1].Message, "no such element")
}

func atOfState(t testing.TB, l *live.Live, state, typ string) string {
	d := opened.Doc(t, l, "screen:tickets")
	root, _ := screen.In(d, state, l.Cat)
	id := ""
	root.Walk(func(e, _ *screen.Element) bool {
		if e.Type == typ {
			id = e.ID
		}
		return true
	})
	require.NotEmpty(t, id)
	return id
}

func TestUsualStatesStartAsTheKitCanShowThem(t *testing.T) {
	l := opened.Demo(t)
	for state, want := range map[string]string{"error": "<sorrel-alert", "loading": "<sorrel-spinner"} {
		s, err := l.ProposeState("screen:specimens", state)
		require.NoError(t, err)
		_, err = l.Take(
			change.Change{
				Title: "x",
				Steps: []change.Step{&change.PutState{Doc: "screen:specimens", State: s}},
			},
		)
		require.NoError(t, err)
		html := in(t, l, "screen:specimens", state)
		assert.Contains(t, html, want)
		assert.NotContains(t, html, "<sorrel-card")
	}
	s, err := l.ProposeState("screen:tickets", "empty")
	require.NoError(t, err)
	assert.Equal(t, "empty", s.Set)
	_, err = l.ProposeState("screen:sign-in", "dialog open")
	assert.ErrorContains(t, err, "nothing that opens")
}

func TestBadStatesAreRefused(t *testing.T) {
	l := opened.Demo(t)
	for want, c := range map[string]change.Change{
		"no name":         putState(" "),
		"otherwise than":  putState("ready"),
		"has no state":    editState("nowhere"),
		"no such element": {Title: "x", Steps: []change.Step{putState("a").Steps[0], editState("a", screen.Edit{Op: screen.Set, ID: "nothing", Prop: "x"}).Steps[0]}},
		"a piece has no":  {Title: "x", Steps: []change.Step{&change.PutState{Doc: "piece:fact", State: screen.State{Name: "a"}}}},
	} {
		_, err := l.Take(c)
		assert.ErrorContains(t, err, want)
	}
}

// However often a state is edited, it shows the last that was said of each setting,
// and taking all back leaves the usual tree.
func TestStatesKeepTheLastWordAndUndoWholly(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		l := opened.Demo(t)
		header := opened.At(t, l, "screen:tickets", "sorrel-page-header")
		put, err := l.Take(putState("own"))
		require.NoError(rt, err)
		undo := []change.Change{put.Inverse}
		last := ""
		for range rapid.IntRange(1, 8).Draw(rt, "edits") {
			last = rapid.StringMatching(`[a-z]{3,8}`).Draw(rt, "heading")
			taken, err := l.Take(
				editState("own",
					screen.Edit{Op: screen.Set, ID: header, Prop: "heading", Value: screen.Lit(last)},
				),
			)
			require.NoError(rt, err)
			undo = append(undo, taken.Inverse)
		}
		d := opened.Doc(t, l, "screen:tickets")
		require.Len(rt, d.States[0].Edits, 1)
		require.Contains(rt, in(t, l, "screen:tickets", "own"), `heading="`+last+`"`)
		for i := len(undo) - 1; i >= 0; i-- {
			_, err := l.Take(undo[i])
			require.NoError(rt, err)
		}
		require.Empty(rt, opened.Doc(t, l, "screen:tickets").States)
	})
}
