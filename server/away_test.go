package server_test

import (
	"context"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/testkit"
	"ubiquant/server"
)

// ubiquant runs the binary on a data folder.
func ubiquant(t *testing.T, dir string, args ...string) (string, error) {
	binary := filepath.Join(testkit.Root(), "bin", "ubiquant")
	if _, err := os.Stat(binary); err != nil {
		t.Fatal("bin/ubiquant is missing; run ./start.sh --build-only")
	}
	out, err := exec.Command(binary, append(args, "--data", dir)...).CombinedOutput()
	return string(out), err
}

func owned(t *testing.T) (dir string, r *server.Running) {
	if testing.Short() {
		t.Skip("starts PostgreSQL")
	}
	t.Parallel()
	dir = folder(t)
	r, err := server.Start(context.Background(), server.Options{Data: dir, Log: quiet})
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, r.Stop()) })
	return dir, r
}

// A command beside a server uses its database and leaves it running, whatever it does.
func TestCommandsBesideAServerLeaveItRunning(t *testing.T) {
	dir, r := owned(t)
	ida := signIn(t, r, "ida")
	out, err := ubiquant(t, dir, "export", "--out", filepath.Join(t.TempDir(), "w.json"))
	require.NoError(t, err, out)
	out, err = ubiquant(t, dir, "user", "mira", "--role", "reader")
	require.NoError(t, err, out)
	assert.Contains(t, out, "\n"+r.URL+"/sign-in#", "the link leads to the server that runs")
	out, err = ubiquant(t, dir, "import", filepath.Join(testkit.Root(), "demo", "fernhollow.json"))
	assert.Error(t, err)
	assert.Contains(t, out, "holds a workspace already")
	out, err = ubiquant(t, dir, "serve", "--port", "0", "--fresh", "--yes")
	assert.Error(t, err)
	assert.Contains(t, out, "in use by a server at "+r.URL)
	assert.Equal(t, 200, ida.get("/api/workspace", nil))
	assert.Equal(t, 200, ida.get("/api/health", nil))
	none := filepath.Join(t.TempDir(), "none")
	out, err = ubiquant(t, none, "export", "--out", "-")
	assert.Error(t, err)
	assert.Contains(t, out, "no database")
	assert.NoDirExists(t, none, "an export makes no database")
}

// While the database is gone it is said, no edit is taken, and all goes on by itself once
// it is back.
func TestALostDatabaseIsSaidAndComesBack(t *testing.T) {
	dir, r := owned(t)
	noor := signIn(t, r, "noor")
	postmaster := func() int { // 0 while there is none
		text, _ := os.ReadFile(filepath.Join(dir, "pg", "postmaster.pid"))
		pid, _ := strconv.Atoi(strings.SplitN(string(text), "\n", 2)[0])
		return pid
	}
	pid := postmaster()
	require.NotZero(t, pid)
	edits := []any{
		setEmphasis("screen:volunteers", "volunteers-new", "strong"),
		setEmphasis("screen:volunteers", "volunteers-new", "soft"),
	}
	require.NoError(t, syscall.Kill(pid, syscall.SIGKILL))
	statuses := map[int]bool{}
	acknowledged := 0
	require.Eventually(t, func() bool {
		// A connection may outlive the database's first process for a moment: what it takes
		// is kept like any other edit, and is no proof that the database is back.
		back := postmaster() != 0 && postmaster() != pid
		res := noor.do("POST", "/api/changes", edits[acknowledged%2], nil)
		statuses[res.StatusCode] = true
		if res.StatusCode == 200 {
			acknowledged++
		}
		return back && res.StatusCode == 200
	}, time.Minute, 20*time.Millisecond)
	delete(statuses, 200)
	for status := range statuses {
		assert.Equal(t, 503, status, "what is wrong is said, and that nothing was changed")
	}
	require.Eventually(t, func() bool { return noor.get("/api/health", nil) == http.StatusOK }, time.Minute, 20*time.Millisecond)
	var history struct{ Changes []struct{ Seq int } }
	require.Equal(t, 200, noor.get("/api/changes", &history))
	assert.GreaterOrEqual(t, len(history.Changes), acknowledged)
}
