package workspace_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/screen"
	"ubiquant/core/workspace"
)

func in(t testing.TB, l *workspace.Live, doc, state string) string {
	page, _, err := l.Page(doc, workspace.View{State: state})
	require.NoError(t, err)
	return page.HTML
}

func stateStep(do workspace.Do, name string, edits ...screen.Edit) workspace.Change {
	return workspace.Change{
		Title: string(do),
		Steps: []workspace.Step{{Do: do, Doc: "screen:tickets", State: &screen.State{Name: name, Edits: edits}}},
	}
}

func TestAStateIsWhatDiffersFromTheUsualTree(t *testing.T) {
	l := live(t)
	usual := in(t, l, "screen:tickets", "")
	assert.Contains(t, usual, "<sorrel-table")
	s, err := l.ProposeState("screen:tickets", "loading")
	require.NoError(t, err)
	_, err = l.Take(stateStep(workspace.PutState, "loading", s.Edits...))
	require.NoError(t, err)
	loading := in(t, l, "screen:tickets", "loading")
	assert.Contains(t, loading, "<sorrel-spinner")
	assert.NotContains(t, loading, "<sorrel-table")
	assert.Equal(t, usual, in(t, l, "screen:tickets", ""), "the usual state stays")

	// What changes in the usual tree shows in the state as well.
	header := atOf(t, l, "screen:tickets", "sorrel-page-header")
	_, err = l.Take(
		workspace.Change{
			Title: "x",
			Steps: []workspace.Step{set("screen:tickets", header, "heading", screen.Lit("All tickets"))},
		},
	)
	require.NoError(t, err)
	assert.Contains(t, in(t, l, "screen:tickets", "loading"), "All tickets")

	// A difference made in the state holds only there, and is taken back by itself.
	edited, err := l.Take(
		stateStep(
			workspace.EditState,
			"loading",
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
	back, err := workspace.Read(workspace.Write(l.W))
	require.NoError(t, err)
	assert.Equal(t, string(workspace.Write(l.W)), string(workspace.Write(back)))
	kept, _ := back.Doc("screen:tickets")
	assert.Len(t, kept.States, 1)

	// Its element is gone: the rest of the state still holds, and it is said.
	spinner := atOfState(t, l, "loading", "sorrel-spinner")
	_, err = l.Take(
		stateStep(
			workspace.EditState,
			"loading",
			screen.Edit{Op: screen.Set, ID: header, Prop: "heading", Value: screen.Lit("Gone")},
		),
	)
	require.NoError(t, err)
	_, err = l.Take(
		workspace.Change{
			Title: "x",
			Steps: []workspace.Step{
				{Do: workspace.EditDoc, Doc: "screen:tickets", Edits: []screen.Edit{{Op: screen.Remove, ID: header}}},
			},
		},
	)
	require.NoError(t, err)
	assert.Contains(t, in(t, l, "screen:tickets", "loading"), spinner)
	_, problems, err := l.Page("screen:tickets", workspace.View{State: "loading"})
	require.NoError(t, err)
	require.NotEmpty(t, problems)
	assert.Contains(t, problems[len(problems)-1].Message, "no such element")
}

func atOfState(t testing.TB, l *workspace.Live, state, typ string) string {
	d := mustDoc(t, l, "screen:tickets")
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
	l := live(t)
	for state, want := range map[string]string{"error": "<sorrel-alert", "loading": "<sorrel-spinner"} {
		s, err := l.ProposeState("screen:specimens", state)
		require.NoError(t, err)
		_, err = l.Take(
			workspace.Change{
				Title: "x",
				Steps: []workspace.Step{{Do: workspace.PutState, Doc: "screen:specimens", State: &s}},
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
	l := live(t)
	for want, c := range map[string]workspace.Change{
		"no name":         stateStep(workspace.PutState, " "),
		"otherwise than":  stateStep(workspace.PutState, "ready"),
		"has no state":    stateStep(workspace.EditState, "nowhere"),
		"no such element": {Title: "x", Steps: []workspace.Step{stateStep(workspace.PutState, "a").Steps[0], stateStep(workspace.EditState, "a", screen.Edit{Op: screen.Set, ID: "nothing", Prop: "x"}).Steps[0]}},
		"a piece has no":  {Title: "x", Steps: []workspace.Step{{Do: workspace.PutState, Doc: "piece:fact", State: &screen.State{Name: "a"}}}},
	} {
		_, err := l.Take(c)
		assert.ErrorContains(t, err, want)
	}
}

// However often a state is edited, it shows the last that was said of each setting,
// and taking all back leaves the usual tree.
func TestStatesKeepTheLastWordAndUndoWholly(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		l := live(t)
		header := atOf(t, l, "screen:tickets", "sorrel-page-header")
		put, err := l.Take(stateStep(workspace.PutState, "own"))
		require.NoError(rt, err)
		undo := []workspace.Change{put.Inverse}
		last := ""
		for range rapid.IntRange(1, 8).Draw(rt, "edits") {
			last = rapid.StringMatching(`[a-z]{3,8}`).Draw(rt, "heading")
			taken, err := l.Take(
				stateStep(
					workspace.EditState,
					"own",
					screen.Edit{Op: screen.Set, ID: header, Prop: "heading", Value: screen.Lit(last)},
				),
			)
			require.NoError(rt, err)
			undo = append(undo, taken.Inverse)
		}
		d := mustDoc(t, l, "screen:tickets")
		require.Len(rt, d.States[0].Edits, 1)
		require.Contains(rt, in(t, l, "screen:tickets", "own"), `heading="`+last+`"`)
		for i := len(undo) - 1; i >= 0; i-- {
			_, err := l.Take(undo[i])
			require.NoError(rt, err)
		}
		require.Empty(rt, mustDoc(t, l, "screen:tickets").States)
	})
}
