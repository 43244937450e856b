package pg_test

import (
	"context"
	"log/slog"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/server/pg"
)

func folder(t *testing.T) string {
	if testing.Short() {
		t.Skip("starts PostgreSQL")
	}
	t.Parallel()
	dir, err := os.MkdirTemp("", "ubq-pg-")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o711))
	t.Cleanup(func() { os.RemoveAll(dir) })
	return dir
}

func start(t *testing.T, o pg.Options) *pg.Cluster {
	o.Temporary = true
	c, err := pg.Start(context.Background(), o)
	require.NoError(t, err)
	t.Cleanup(c.Stop)
	return c
}

// ask runs a query that gives one text.
func ask(url, sql string) (out string, err error) {
	ctx, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	conn, err := pgx.Connect(ctx, url)
	if err != nil {
		return "", err
	}
	defer conn.Close(ctx)
	err = conn.QueryRow(ctx, sql).Scan(&out)
	return out, err
}

func postmaster(dir string) int {
	text, _ := os.ReadFile(filepath.Join(dir, "pg", "postmaster.pid")) // it is not there while none runs
	pid, _ := strconv.Atoi(strings.SplitN(string(text), "\n", 2)[0])
	return pid
}

func TestAGuestLeavesTheClusterAsItIs(t *testing.T) {
	dir := folder(t)
	host := start(t, pg.Options{Dir: dir, Make: true, Serve: true})
	assert.False(t, host.Guest)
	require.NoError(t, host.Announce("http://127.0.0.1:4780"))
	for range 3 {
		guest, err := pg.Start(context.Background(), pg.Options{Dir: dir})
		require.NoError(t, err)
		assert.True(t, guest.Guest)
		assert.Equal(t, host.URL, guest.URL)
		guest.Stop()
	}
	_, err := ask(host.URL, "SELECT 'here'")
	require.NoError(t, err)
	owner, ok := pg.Owner(dir)
	assert.True(t, ok)
	assert.Equal(t, "http://127.0.0.1:4780", owner.URL)

	_, err = pg.Start(context.Background(), pg.Options{Dir: dir, Serve: true})
	var inUse *pg.InUse
	require.ErrorAs(t, err, &inUse)
	assert.ErrorContains(t, err, "http://127.0.0.1:4780")
	require.ErrorAs(t, pg.Remove(dir), &inUse, "nobody removes the folder under a server")
	_, err = ask(host.URL, "SELECT 'here'")
	require.NoError(t, err)
}

func TestWhatServesWaitsForACommandToEnd(t *testing.T) {
	dir := folder(t)
	command := start(t, pg.Options{Dir: dir, Make: true})
	served := make(chan *pg.Cluster)
	go func() {
		c, err := pg.Start(context.Background(), pg.Options{Dir: dir, Serve: true, Temporary: true})
		assert.NoError(t, err)
		served <- c
	}()
	select {
	case <-served:
		require.Fail(t, "it did not wait")
	case <-time.After(300 * time.Millisecond):
	}
	command.Stop()
	c := <-served
	defer c.Stop()
	assert.False(t, c.Guest)
	_, err := ask(c.URL, "SELECT 'here'")
	assert.NoError(t, err)
}

func TestAClusterThatDiesIsStartedAgain(t *testing.T) {
	dir := folder(t)
	c, err := pg.Start(context.Background(), pg.Options{Dir: dir, Make: true, Serve: true, Log: slog.Default()})
	require.NoError(t, err)
	t.Cleanup(c.Stop)
	conn, err := pgx.Connect(context.Background(), c.URL)
	require.NoError(t, err)
	_, err = conn.Exec(context.Background(), "CREATE TABLE kept AS SELECT 'kept'::text AS word")
	require.NoError(t, err)
	require.NoError(t, conn.Close(context.Background()))
	for range 2 {
		was := postmaster(dir)
		require.NoError(t, syscall.Kill(was, syscall.SIGKILL))
		require.Eventually(t, func() bool {
			word, err := ask(c.URL, "SELECT word FROM kept")
			return err == nil && word == "kept" && postmaster(dir) != was
		}, time.Minute, 50*time.Millisecond)
	}
}

func TestAFirstStartThatIsInterruptedIsDoneAgain(t *testing.T) {
	dir := folder(t)
	for _, after := range []time.Duration{0, 50, 200, 500, 900} {
		ctx, cancel := context.WithTimeout(context.Background(), after*time.Millisecond)
		if c, err := pg.Start(ctx, pg.Options{Dir: dir, Make: true, Temporary: true}); err == nil {
			c.Stop()
		}
		cancel()
	}
	c := start(t, pg.Options{Dir: dir, Make: true})
	_, err := ask(c.URL, "SELECT 'here'")
	require.NoError(t, err)
}

func TestTheApplicationIsNoSuperuser(t *testing.T) {
	c := start(t, pg.Options{Dir: folder(t), Make: true})
	super, err := ask(c.URL, "SELECT rolsuper::text FROM pg_roles WHERE rolname = current_user")
	require.NoError(t, err)
	assert.Equal(t, "false", super)
	_, err = ask(c.URL, "SELECT pg_read_file('/etc/passwd')")
	assert.ErrorContains(t, err, "permission denied")
}

func TestNothingIsMadeWhereNothingIsToBe(t *testing.T) {
	dir := filepath.Join(folder(t), "none")
	_, err := pg.Start(context.Background(), pg.Options{Dir: dir})
	require.ErrorIs(t, err, pg.ErrNone)
	assert.NoDirExists(t, dir)
	assert.NoError(t, pg.Remove(dir))
	assert.NoDirExists(t, dir)
}
