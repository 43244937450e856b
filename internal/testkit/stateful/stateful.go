// Package stateful gives a screen of the demo states and actions, for tests.
package stateful

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
)

// List lets a screen of records load and fail, and its records be removed one by one,
// with a question before and a word after.
func List(t testing.TB, l *live.Live, doc string) {
	t.Helper()
	take := func(steps ...change.Step) {
		_, err := l.Take(change.Change{Title: "States and actions", Steps: steps})
		require.NoError(t, err)
	}
	d, _ := l.W.Doc(doc)
	cell := ""
	d.Root.Walk(func(e, parent *screen.Element) bool {
		if v, _ := e.Prop("icon"); v.Text == "bin" {
			cell = parent.ID
			take(&change.Edit{Doc: doc, Edits: []screen.Edit{
				{Op: screen.Unset, ID: e.ID, Prop: "to"},
				{
					Op:     screen.Insert,
					Parent: cell,
					After:  e.ID,
					Tree: testkit.Tree(
						t,
						`{"id":"ask","type":"sorrel-dialog","props":{"heading":{"expr":"'Remove ' + record.id + '?'"}},"children":[
					{"id":"keep","type":"sorrel-button","slot":"actions","text":"Keep it","props":{"does":"close ask"}},
					{"id":"go","type":"sorrel-button","slot":"actions","text":"Remove it","props":{"does":"close ask; state removed; open said","intent":"danger"}}]}`,
					),
				},
				{Op: screen.Set, ID: e.ID, Prop: "does", Value: screen.Lit("open ask")},
				{
					Op:     screen.Insert,
					Parent: d.Root.ID,
					Tree: testkit.Tree(
						t,
						`{"id":"said","type":"sorrel-toast","name":"removedToast","text":"It is removed.","props":{"seconds":0}}`,
					),
				},
			}})
			return false
		}
		return true
	})
	for _, name := range []string{"loading", "error"} {
		s, err := l.ProposeState(doc, name)
		require.NoError(t, err)
		take(&change.PutState{Doc: doc, State: s})
	}
	take(&change.PutState{Doc: doc, State: screen.State{Name: "removed"}})
	edit := func(state string, edits ...screen.Edit) {
		take(&change.EditState{Doc: doc, State: screen.State{Name: state, Edits: edits}})
	}
	header := ""
	failed := ""
	d, _ = l.W.Doc(doc)
	inError, _ := screen.In(d, "error", l.Cat)
	inError.Walk(func(e, _ *screen.Element) bool {
		switch e.Type {
		case "sorrel-page-header":
			header = e.ID
		case "sorrel-alert":
			failed = e.ID
		}
		return true
	})
	edit(
		"error",
		screen.Edit{
			Op:     screen.Insert,
			Parent: failed,
			Tree: testkit.Tree(
				t,
				`{"id":"again","type":"sorrel-button","slot":"actions","text":"Try again","props":{"does":"state loading"}}`,
			),
		},
	)
	edit(
		"removed",
		screen.Edit{
			Op:     screen.Insert,
			Parent: d.Root.ID,
			Tree: testkit.Tree(
				t,
				`{"id":"left","type":"sorrel-alert","props":{"heading":"One less","tone":"good"}}`,
			),
		},
		screen.Edit{Op: screen.Set, ID: d.Root.ID, Prop: "gap", Value: screen.Lit("6")},
	)
	if header == "" { // a piece by now
		return
	}
	edit(
		"removed",
		screen.Edit{Op: screen.Set, ID: header, Prop: "heading", Value: screen.Lit("What is left")},
		screen.Edit{Op: screen.SetText, ID: header, Value: screen.Lit("One was removed.")},
	)
}
