package intake_test

import (
	"context"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/testkit"
	"ubiquant/server/assets"
	"ubiquant/server/intake"
	"ubiquant/server/registry"
)

// offered serves folders of packages, and gives what asks for them.
func offered(t *testing.T, dirs ...string) *registry.Client {
	s := &registry.StandIn{}
	for _, dir := range dirs {
		require.NoError(t, s.AddFolder(dir))
	}
	server := httptest.NewServer(s)
	t.Cleanup(server.Close)
	c, err := registry.New(server.URL)
	require.NoError(t, err)
	return c
}

// What comes by a registry is what is packed where it is installed, to the byte.
func TestARegistryGivesWhatAnInstallationDoes(t *testing.T) {
	reader, err := assets.Reader()
	require.NoError(t, err)
	tansy := filepath.Join(testkit.Root(), "kits", "tansy")
	repository := t.TempDir()
	modules := filepath.Join(repository, "node_modules")
	own := filepath.Join(modules, "@fernhollow", "tansy")
	list, err := os.ReadDir(filepath.Join(tansy, "node_modules"))
	require.NoError(t, err)
	for _, d := range list {
		if d.IsDir() && d.Name()[0] != '.' && d.Name() != "typescript" { // which is large, and nobody asks for it
			require.NoError(t, os.CopyFS(filepath.Join(modules, d.Name()), os.DirFS(filepath.Join(tansy, "node_modules", d.Name()))))
		}
	}
	require.NoError(t, os.CopyFS(filepath.Join(own, "dist"), os.DirFS(filepath.Join(tansy, "dist"))))
	for _, name := range []string{"package.json", "tansy.css"} {
		src, err := os.ReadFile(filepath.Join(tansy, name))
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(own, name), src, 0o644))
	}
	c := offered(t, modules)
	t.Setenv("TMPDIR", t.TempDir())
	old := filepath.Join(os.TempDir(), "ubiquant-registry-old")
	require.NoError(t, os.MkdirAll(filepath.Join(old, "node_modules"), 0o755))
	long := time.Now().Add(-7 * time.Hour)
	require.NoError(t, os.Chtimes(old, long, long))
	steps := []string{}
	by, err := intake.FromRegistry(context.Background(), c, intake.Options{
		Package: "@fernhollow/tansy@^1", Reader: reader, Tell: func(step string) { steps = append(steps, step) },
	})
	require.NoError(t, err)
	assert.Contains(t, steps[1], "fetching")
	in, err := intake.Pack(context.Background(), intake.Options{Dir: repository, Package: "@fernhollow/tansy", Reader: reader})
	require.NoError(t, err)
	assert.Equal(t, in.Meta, by.Meta)
	assert.Equal(t, in.Hash(), by.Hash())
	left, err := filepath.Glob(filepath.Join(os.TempDir(), "ubiquant-registry-*"))
	require.NoError(t, err)
	assert.Empty(t, left, "the folder is removed, and what an ended process left")
}

// What a library imports and does not ask for is fetched, in the version that it speaks of where
// it does, and that is said.
func TestWhatALibraryDoesNotAskForIsFetched(t *testing.T) {
	of := func(name string, files map[string]string) string { return filepath.Dir(folderOf(t, name, files)) }
	library := map[string]string{}
	for name, text := range elements() {
		library[strings.TrimPrefix(name, orchard)] = text
	}
	library["package.json"] = `{"name":"@acme/orchard","version":"2.0.0","type":"module","main":"dist/index.js","customElements":"dist/custom-elements.json",
		"peerDependencies":{"leaf":"^1.0.0"},"peerDependenciesMeta":{"leaf":{"optional":true}}}`
	library["dist/index.js"] = "import { green } from 'leaf'\nimport 'root-stock'\nconsole.log(green)\n" + library["dist/index.js"]
	c := offered(t,
		of("orchard", library),
		of("leaf1", map[string]string{"package.json": `{"name":"leaf","version":"1.3.0","type":"module","main":"i.js"}`, "i.js": "export const green = 1"}),
		of("leaf2", map[string]string{"package.json": `{"name":"leaf","version":"2.0.0","type":"module","main":"i.js"}`, "i.js": "export const green = 2"}),
		of("root", map[string]string{"package.json": `{"name":"root-stock","version":"5.0.0","type":"module","main":"i.js"}`, "i.js": "export {}"}),
	)
	a, err := intake.FromRegistry(context.Background(), c, intake.Options{Package: "@acme/orchard"})
	require.NoError(t, err)
	assert.Subset(t, a.Meta.Notes, []string{
		"leaf 1.3.0 was fetched for it: it imports that without asking for it",
		"root-stock 5.0.0 was fetched for it: it imports that without asking for it",
	})
	for _, m := range a.Meta.Missing {
		assert.Empty(t, m.Install, m.What)
	}

	library["dist/index.js"] = "import 'nowhere-to-be-found'\n" + library["dist/index.js"]
	c = offered(t, of("orchard-again", library))
	_, err = intake.FromRegistry(context.Background(), c, intake.Options{Package: "@acme/orchard"})
	assert.ErrorContains(t, err, "nowhere-to-be-found (imported at")
	ctx, stop := context.WithCancel(context.Background())
	stop()
	_, err = intake.FromRegistry(ctx, c, intake.Options{Package: "@acme/orchard"})
	assert.ErrorIs(t, err, context.Canceled)
}

// folderOf writes files into a folder of a name, and gives its package.json.
func folderOf(t *testing.T, name string, files map[string]string) string {
	dir := filepath.Join(t.TempDir(), name)
	for file, text := range files {
		at := filepath.Join(dir, filepath.FromSlash(file))
		require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
		require.NoError(t, os.WriteFile(at, []byte(text), 0o644))
	}
	return filepath.Join(dir, "package.json")
}
