package main

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	testdb "ubiquant/internal/testkit/database"
)

func TestMain(m *testing.M) { os.Exit(testdb.Main(m)) }

// A folder goes out into git, is edited there, and comes back: what changed there alone is merged,
// what changed on both sides is told and waits for a word, and what is gone goes from the folder.
func TestAFolderGoesOutAndComesBack(t *testing.T) {
	db := testdb.Demo(t)
	dir := t.TempDir()
	git := func(args ...string) {
		out, err := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=Ida", "-c", "user.email=ida@fernhollow.example"}, args...)...).CombinedOutput()
		require.NoError(t, err, "git %v: %s", args, out)
	}
	export := func() string {
		out, code := run(t, "export", "--folder", "--out", dir, "--database", db)
		require.Equal(t, 0, code, out)
		return out
	}
	edit := func(file, from, to string) {
		at := filepath.Join(dir, filepath.FromSlash(file))
		text, err := os.ReadFile(at)
		require.NoError(t, err)
		require.Contains(t, string(text), from)
		require.NoError(t, os.WriteFile(at, []byte(strings.Replace(string(text), from, to, 1)), 0o644))
	}
	bring := func(more ...string) (string, int) {
		return run(t, append([]string{"import", dir, "--merge", "--base", "HEAD", "--database", db}, more...)...)
	}
	export()
	git("init", "-q")
	git("add", "-A")
	git("commit", "-qm", "out")

	out, code := bring()
	assert.Equal(t, 0, code, out)
	assert.Contains(t, out, "0 added, 0 changed, 0 gone, 0 conflicts")

	edit("screens/archive.json", `"title": "Archive"`, `"title": "Attic"`)
	out, code = bring("--dry-run")
	assert.Equal(t, 0, code, out)
	assert.Contains(t, out, "changed screen:archive")
	assert.Contains(t, out, "Nothing was written")
	out, code = bring()
	assert.Equal(t, 0, code, out)
	assert.Contains(t, out, "Merged")
	export()
	text, err := os.ReadFile(filepath.Join(dir, "screens/archive.json"))
	require.NoError(t, err)
	assert.Contains(t, string(text), `"title": "Attic"`)

	edit("screens/archive.json", `"title": "Attic"`, `"title": "Cellar"`)
	out, code = bring()
	assert.Equal(t, exitFound, code, out)
	assert.Contains(t, out, `conflict screen:archive title: here "Attic", there "Cellar", before "Archive"`)
	assert.Contains(t, out, "nothing was written")
	out, code = bring("--prefer", "theirs")
	assert.Equal(t, 0, code, out)

	// What is of no document any more does not stay behind.
	require.NoError(t, os.WriteFile(filepath.Join(dir, "screens/old.json"), []byte("{}"), 0o644))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "NOTES.md"), []byte("ours"), 0o644))
	assert.Contains(t, export(), "screens/old.json is no longer of the workspace: removed")
	assert.FileExists(t, filepath.Join(dir, "NOTES.md"))
	assert.NoFileExists(t, filepath.Join(dir, "screens/old.json"))

	// A folder that is somebody else's is written into, and nothing of it goes.
	theirs := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(theirs, "screens"), 0o755))
	require.NoError(t, os.WriteFile(filepath.Join(theirs, "screens/own.json"), []byte("{}"), 0o644))
	out, code = run(t, "export", "--folder", "--out", theirs, "--database", db)
	require.Equal(t, 0, code, out)
	assert.FileExists(t, filepath.Join(theirs, "screens/own.json"))

	for _, c := range []struct{ args, why string }{
		{"--base nowhere", "neither a file, a folder nor a revision"},
		{"--prefer mine", "accepted"},
	} {
		out, code = bring(strings.Fields(c.args)...)
		assert.Equal(t, exitBroken, code)
		assert.Contains(t, out, c.why)
	}
	out, code = run(t, "import", dir, "--prefer", "ours", "--database", db)
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "go with --merge")
}
