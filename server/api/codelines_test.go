package api

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Lines come from files of the folder and from nowhere else, whatever a place says.
func TestLinesOfCodeComeFromTheFolderAlone(t *testing.T) {
	above := t.TempDir()
	dir := filepath.Join(above, "repository")
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "src"), 0o755))
	write := func(name, text string) {
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o600))
	}
	write("src/Beds.tsx", "one\r\ntwo\nthree")
	write("../secret.txt", "secret")
	write("large.ts", strings.Repeat("x", maxCodeFile+1))
	require.NoError(t, os.Symlink("../secret.txt", filepath.Join(dir, "linked.ts")))
	lines, ok := linesOf(dir, "src/Beds.tsx")
	require.True(t, ok)
	assert.Equal(t, []string{"one", "two", "three"}, lines)
	for _, file := range []string{"../secret.txt", "linked.ts", filepath.Join(above, "secret.txt"), "src", "large.ts", "none.ts", ""} {
		_, ok := linesOf(dir, file)
		assert.False(t, ok, file)
	}
	_, ok = linesOf(filepath.Join(above, "none"), "src/Beds.tsx")
	assert.False(t, ok)
}
