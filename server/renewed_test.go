package server

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
)

// read is a workspace read from code: a shell, a part, and a screen of both.
func read(t *testing.T, docs ...*screen.Document) *model.Workspace {
	return &model.Workspace{Name: "read", Apps: []model.App{{ID: "a", Name: "A"}}, Docs: docs}
}

func doc(t *testing.T, kind screen.DocKind, id, source, tree string) *screen.Document {
	d := &screen.Document{Kind: kind, ID: id, Title: id, Source: source, Revision: 1, Root: testkit.Tree(t, tree)}
	if kind == screen.ScreenDoc {
		d.App, d.Route, d.Shell = "a", "/"+id, "frame"
	}
	return d
}

// What screens that were assembled here use is read again under them, and what the code has no more
// stays for them; taken back, all is as it was.
func TestWhatAssembledScreensUseIsReadAgainUnderThem(t *testing.T) {
	k := testkit.Sorrel(t)
	shell := func(words string) *screen.Document {
		return doc(t, screen.ShellDoc, "frame", "Frame.tsx", `{"id":"r","type":"stack","children":[{"id":"w","type":"sorrel-text","text":"`+words+`"},{"id":"o","type":"outlet"}]}`)
	}
	part := func(words string) *screen.Document {
		return doc(t, screen.PieceDoc, "fact", "Fact.tsx", `{"id":"r","type":"stack","children":[{"id":"w","type":"sorrel-text","text":"`+words+`"}]}`)
	}
	other := doc(t, screen.PieceDoc, "badge", "Badge.tsx", `{"id":"r","type":"stack"}`)
	page := doc(t, screen.ScreenDoc, "beds", "Beds.tsx", `{"id":"r","type":"section","children":[{"id":"p","type":"piece:fact"}]}`)
	gone := doc(t, screen.ScreenDoc, "old", "Old.tsx", `{"id":"r","type":"section"}`)
	ours := doc(t, screen.ScreenDoc, "ours", "", `{"id":"r","type":"section","children":[{"id":"p","type":"piece:fact"},{"id":"b","type":"piece:badge"}]}`)
	was := read(t, shell("Frame"), part("Fact"), other, page, gone, ours)

	fresh := doc(t, screen.ScreenDoc, "new", "New.tsx", `{"id":"r","type":"section","children":[{"id":"p","type":"piece:chip"}]}`)
	fresh.Route = "/old" // takes the route of the one that is gone
	now := read(t, shell("Framed"), part("Facts"), doc(t, screen.PieceDoc, "chip", "Chip.tsx", `{"id":"r","type":"stack"}`), page, fresh)

	steps, count, kept := renewed(was, now)
	assert.Equal(t, 4, count, "the shell, the part, the new part and the new screen")
	assert.Equal(t, []string{"piece:badge"}, kept)
	next, taken, err := change.Apply(was, change.Change{Title: "again", Steps: steps}, model.NewCatalog(k, was), nil)
	require.NoError(t, err)
	words := func(w *model.Workspace, address string) string {
		d, ok := w.Doc(address)
		require.True(t, ok, address)
		el, _ := d.Root.Find("w")
		return el.Text.Text
	}
	assert.Equal(t, "Framed", words(next, "shell:frame"))
	assert.Equal(t, "Facts", words(next, "piece:fact"))
	_, ok := next.Doc("screen:old")
	assert.False(t, ok)
	d, _ := next.Doc("shell:frame")
	assert.Equal(t, 2, d.Revision)

	back, _, err := change.Apply(next, taken.Inverse, model.NewCatalog(k, next), nil)
	require.NoError(t, err)
	require.Len(t, back.Docs, len(was.Docs))
	for _, d := range was.Docs {
		is, ok := back.Doc(d.Address())
		require.True(t, ok, d.Address())
		assert.True(t, screen.Equal(d.Root, is.Root))
		assert.Equal(t, d.Revision, is.Revision)
	}

	steps, _, kept = renewed(next, now)
	assert.Empty(t, steps, "again, nothing is left to do")
	assert.Equal(t, []string{"piece:badge"}, kept)
}
