package server_test

import (
	"context"
	"io"
	"log/slog"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/database"
	"ubiquant/server"
	"ubiquant/server/assets"
	"ubiquant/server/repo"
)

// A database that began with a repository is brought up to it when it is served again: what
// changed, came and went, with what uses it; the rest stays, and so does what was decided.
func TestARepositoryIsReadAgainWhereItChanged(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "office")
	require.NoError(t, os.CopyFS(dir, os.DirFS(filepath.Join(testkit.Root(), "demo", "office"))))
	kits, err := assets.Kits()
	require.NoError(t, err)
	var kit *pack.Archive
	for _, a := range kits {
		if a.Meta.Name == "@fernhollow/yarrow" {
			kit = a
		}
	}
	k, err := kit.Kit()
	require.NoError(t, err)
	at := database.Empty(t)
	serve := func(look func(w *model.Workspace)) int {
		t.Helper()
		r, err := repo.Open(t.Context(), repo.Options{Dir: dir})
		require.NoError(t, err)
		r.On(k)
		r.W.Kit.Hash = kit.Hash()
		running, err := server.Start(context.Background(), server.Options{Database: at, Kit: kit, Workspace: r.W, Log: slog.New(slog.NewTextHandler(io.Discard, nil))})
		require.NoError(t, err)
		defer func() { assert.NoError(t, running.Stop()) }()
		require.NoError(t, running.API.Live.Read(t.Context(), func(l *live.Live, _ int64) error { look(l.W); return nil }))
		return running.Reread
	}
	edit := func(name, was, is string) {
		t.Helper()
		file := filepath.Join(dir, filepath.FromSlash(name))
		src, err := os.ReadFile(file)
		require.NoError(t, err)
		require.Contains(t, string(src), was)
		require.NoError(t, os.WriteFile(file, []byte(strings.ReplaceAll(string(src), was, is)), 0o600))
	}
	docs := 0
	assert.Zero(t, serve(func(w *model.Workspace) { docs = len(w.Docs) }))
	assert.Zero(t, serve(func(w *model.Workspace) { assert.Len(t, w.Docs, docs) }), "nothing changed")

	edit("src/screens/beds/BedsList.tsx", `variant="primary"`, `variant="ghost"`)
	assert.Equal(t, 1, serve(func(w *model.Workspace) {
		assert.Len(t, w.Docs, docs)
		d, _ := w.Doc("screen:beds-list")
		found := false
		d.Root.Walk(func(e, _ *screen.Element) bool {
			v, _ := e.Prop("variant")
			found = found || e.Text.Text == "New bed" && v.Text == "ghost"
			return true
		})
		assert.True(t, found)
	}))
	// A part that changes is read anew, and what uses it goes on doing so; one screen goes.
	edit("src/parts/Empty.tsx", "There are no", "Nobody has made")
	edit("src/routes.tsx", "      { path: 'counts/new', element: <NewCount /> },\n", "")
	edit("src/routes.tsx", "import { NewCount } from '~/screens/counts/NewCount'\n", "")
	assert.Equal(t, 2, serve(func(w *model.Workspace) {
		d, ok := w.Doc("screen:new-count")
		require.True(t, ok, "a file in the folder of screens is one without a route, too")
		assert.Equal(t, "/new-count", d.Route)
		d, ok = w.Doc("piece:empty")
		require.True(t, ok)
		text := ""
		d.Root.Walk(func(e, _ *screen.Element) bool { text += e.Text.Text; return true })
		assert.Contains(t, text, "Nobody has made")
	}))
	require.NoError(t, os.Remove(filepath.Join(dir, "src", "screens", "counts", "NewCount.tsx")))
	serve(func(w *model.Workspace) {
		_, ok := w.Doc("screen:new-count")
		assert.False(t, ok)
	})
	assert.Zero(t, serve(func(*model.Workspace) {}))
}
