package server_test

import (
	"context"
	"io"
	"log/slog"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/database"
	"ubiquant/server"
	"ubiquant/server/assets"
	"ubiquant/server/repo"
	"ubiquant/server/store"
)

// shipped is a kit that comes with the program.
func shipped(t *testing.T, name string) *pack.Archive {
	t.Helper()
	kits, err := assets.Kits()
	require.NoError(t, err)
	i := slices.IndexFunc(kits, func(a *pack.Archive) bool { return a.Meta.Name == name })
	require.GreaterOrEqual(t, i, 0)
	return kits[i]
}

// A database that began with a repository is brought up to it when it is served again: what
// changed, came and went, with what uses it; the rest stays, and so does what was decided.
func TestARepositoryIsReadAgainWhereItChanged(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "office")
	require.NoError(t, os.CopyFS(dir, os.DirFS(filepath.Join(testkit.Root(), "demo", "office"))))
	kit := shipped(t, "@fernhollow/yarrow")
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

// What a repository's settings and comments decide comes in when it is read again, and what was
// decided there no more goes; what people decided here stays, and where both did that is said.
func TestDecisionsOfARepositoryComeInAndPeoplesStay(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "office")
	require.NoError(t, os.CopyFS(dir, os.DirFS(filepath.Join(testkit.Root(), "demo", "office"))))
	settings := func(text string) {
		t.Helper()
		require.NoError(t, os.WriteFile(filepath.Join(dir, "ubiquant.json"), []byte(`{"format":"ubiquant.repository/1",`+text+`}`), 0o600))
	}
	kit := shipped(t, "@fernhollow/yarrow")
	k, err := kit.Kit()
	require.NoError(t, err)
	at := database.Empty(t)
	serve := func(look func(l *store.Live, w *model.Workspace)) *server.Running {
		t.Helper()
		r, err := repo.Open(t.Context(), repo.Options{Dir: dir})
		require.NoError(t, err)
		r.W = r.Judge(time.Now().Format(time.DateOnly)).W
		r.On(k)
		r.W.Kit.Hash = kit.Hash()
		running, err := server.Start(context.Background(), server.Options{
			Database: at, Kit: kit, Workspace: r.W, Log: slog.New(slog.NewTextHandler(io.Discard, nil)),
			Code: &server.Code{Name: "office", Settings: r.Settings},
		})
		require.NoError(t, err)
		defer func() { assert.NoError(t, running.Stop()) }()
		var w *model.Workspace
		require.NoError(t, running.API.Live.Read(t.Context(), func(l *live.Live, _ int64) error { w = l.W; return nil }))
		look(running.API.Live, w)
		return running
	}
	take := func(l *store.Live, steps ...change.Step) {
		t.Helper()
		require.NoError(t, l.Take(t.Context(), "ida", 0,
			func(*live.Live) (change.Change, error) { return change.Change{Title: "Decide", Steps: steps}, nil },
			func(*live.Live, store.Outcome) error { return nil }))
	}
	const size, kind = `{"spot":"yarrow-button","prop":"size","value":"md","reason":"one size"}`, `{"spot":"yarrow-button","prop":"variant","value":"ghost","reason":"quiet"}`
	settings(`"houseRules":[` + size + `]`)
	serve(func(l *store.Live, w *model.Workspace) {
		require.Len(t, w.House, 1)
		assert.Equal(t, "any button", w.House[0].Words, "the spot is said in words")
		// Somebody lets something stand, and changes what the repository settled.
		take(l, &change.PutStand{Stand: audit.LetStand{ID: "mine", Key: "stray|screen:edit-bed|button-e7hspj|size", Reason: "meant", By: "ida"}})
		h := w.House[0]
		then := h
		then.Value = "lg"
		take(l, &change.DropHouse{House: h}, &change.PutHouse{House: then})
	})

	// The repository settles another, and lets one stand in code.
	settings(`"houseRules":[` + size + `,` + kind + `]`)
	file := filepath.Join(dir, "src", "screens", "orders", "OrdersList.tsx")
	was, err := os.ReadFile(file)
	require.NoError(t, err)
	lines := strings.Split(string(was), "\n")
	lines = slices.Insert(lines, 15, "{/* ubiquant: let stand variant: asked for */}")
	require.NoError(t, os.WriteFile(file, []byte(strings.Join(lines, "\n")), 0o600))
	running := serve(func(_ *store.Live, w *model.Workspace) {
		require.Len(t, w.House, 2)
		assert.Equal(t, "lg", w.House[0].Value, "changed here, and not there")
		assert.Equal(t, "the repository", w.House[1].By)
		assert.True(t, slices.ContainsFunc(w.Stands, func(s audit.LetStand) bool { return s.ID == "mine" }))
		i := slices.IndexFunc(w.Stands, func(s audit.LetStand) bool { return s.InCode() })
		require.GreaterOrEqual(t, i, 0)
		assert.Equal(t, "asked for", w.Stands[i].Reason)
		err := change.Authorise(change.Change{Steps: []change.Step{&change.DropStand{Stand: w.Stands[i]}}}, &change.Circumstances{W: w, Role: model.Keeper, Person: "ida"})
		assert.ErrorContains(t, err, "take the comment away there")
	})
	assert.Empty(t, running.Said)

	// Both change one; the other is lifted there, and the comment is gone.
	settings(`"houseRules":[` + strings.ReplaceAll(size, "md", "sm") + `]`)
	require.NoError(t, os.WriteFile(file, was, 0o600))
	running = serve(func(_ *store.Live, w *model.Workspace) {
		require.Len(t, w.House, 1)
		assert.Equal(t, "lg", w.House[0].Value)
		assert.False(t, slices.ContainsFunc(w.Stands, func(s audit.LetStand) bool { return s.InCode() }))
	})
	require.Len(t, running.Said, 1)
	assert.Contains(t, running.Said[0], "what was decided here stays")
	assert.Zero(t, serve(func(*store.Live, *model.Workspace) {}).Decided, "once")
}

// A kit that is a folder of the repository is drawn by its code as it is now when it is served again, as
// one change; a library that is installed waits in Intake.
func TestOwnComponentsAreDrawnAnewWhereTheirCodeChanged(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "seeds")
	put := func(name, text string) {
		t.Helper()
		file := filepath.Join(dir, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o755))
		require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
	}
	put("package.json", `{"name":"seeds","dependencies":{"react":"*"}}`)
	put("src/ui/press.tsx", "export const Press = ({ children }) => <button>{children}</button>\n")
	put("src/ui/sheet.tsx", "export const Sheet = ({ children }) => <section>{children}</section>\n")
	put("src/pages/Seeds.tsx", "import { Press } from '../ui/press'\nimport { Sheet } from '../ui/sheet'\nexport const Seeds = () => <Sheet><Press>A</Press><Press>B</Press><Press>C</Press><Sheet>D</Sheet></Sheet>\n")
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "node_modules"), 0o755))
	for _, name := range []string{"react", "react-dom", "scheduler"} {
		require.NoError(t, os.Symlink(filepath.Join(testkit.Root(), "kits", "yarrow", "node_modules", name), filepath.Join(dir, "node_modules", name)))
	}
	at := database.Empty(t)
	serve := func(look func(r *server.Running, w *model.Workspace)) {
		t.Helper()
		r, err := repo.Open(t.Context(), repo.Options{Dir: dir})
		require.NoError(t, err)
		a, said, err := r.Drawn(t.Context(), repo.Options{}, repo.Making{}, nil)
		require.NoError(t, err)
		require.Empty(t, said)
		running, err := server.Start(context.Background(), server.Options{
			Database: at, Kit: a, Workspace: r.W, Code: &server.Code{Name: "seeds", Settings: r.Settings}, Log: slog.New(slog.NewTextHandler(io.Discard, nil)),
		})
		require.NoError(t, err)
		defer func() { assert.NoError(t, running.Stop()) }()
		require.NoError(t, running.API.Live.Read(t.Context(), func(l *live.Live, _ int64) error { look(running, l.W); return nil }))
	}
	var first string
	serve(func(_ *server.Running, w *model.Workspace) { first = w.Kit.Hash })
	serve(func(_ *server.Running, w *model.Workspace) { assert.Equal(t, first, w.Kit.Hash, "nothing changed") })
	put("src/ui/press.tsx", "export const Press = ({ children }) => <button className=\"tall\">{children}</button>\n")
	var second string
	serve(func(r *server.Running, w *model.Workspace) {
		second = w.Kit.Hash
		assert.NotEqual(t, first, second)
		assert.Empty(t, r.Said)
		list, err := r.Store.Kits(t.Context())
		assert.NoError(t, err)
		assert.Len(t, list, 2)
	})
	serve(func(_ *server.Running, w *model.Workspace) { assert.Equal(t, second, w.Kit.Hash) })
}
