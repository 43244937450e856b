// Package pg finds Debian's PostgreSQL and runs a private cluster of it on
// loopback, for a server or a test that has no database of its own.
package pg

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
)

// ErrMissing says that PostgreSQL is not installed, and how to get it.
var ErrMissing = errors.New(
	"PostgreSQL is not installed; as root run: apt-get install -y --no-install-recommends postgresql",
)

// Cluster is a running private cluster.
type Cluster struct {
	URL  string // connection address, password included
	cmd  *exec.Cmd
	done chan error
	pid  int
}

// Find returns the folder with the newest PostgreSQL's programs.
func Find() (string, error) {
	found, err := filepath.Glob("/usr/lib/postgresql/*/bin/postgres")
	if err != nil || len(found) == 0 {
		return "", ErrMissing
	}
	version := func(p string) int {
		n, _ := strconv.Atoi(filepath.Base(filepath.Dir(filepath.Dir(p)))) // a name that is no number sorts first
		return n
	}
	slices.SortFunc(found, func(a, b string) int { return version(b) - version(a) })
	return filepath.Dir(found[0]), nil
}

// owner is who runs the cluster: postgres where root starts it, for PostgreSQL
// refuses to run as root.
func owner() (*syscall.Credential, error) {
	if os.Getuid() != 0 {
		return nil, nil
	}
	u, err := user.Lookup("postgres")
	if err != nil {
		return nil, fmt.Errorf("PostgreSQL does not run as root, and there is no user postgres: %w", err)
	}
	uid, err := strconv.ParseUint(u.Uid, 10, 32)
	if err != nil {
		return nil, err
	}
	gid, err := strconv.ParseUint(u.Gid, 10, 32)
	if err != nil {
		return nil, err
	}
	return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
}

// Start runs the cluster in dir, making it first where it is not there. An
// instance left over from a server that was killed is taken over. temporary
// clusters give up safety on a power cut for speed.
func Start(ctx context.Context, dir string, temporary bool) (*Cluster, error) {
	bin, err := Find()
	if err != nil {
		return nil, err
	}
	cred, err := owner()
	if err != nil {
		return nil, err
	}
	dir, err = filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	if err := reachable(dir, cred); err != nil {
		return nil, err
	}
	if err := os.MkdirAll(dir, 0o711); err != nil {
		return nil, err
	}
	data := filepath.Join(dir, "pg")
	run := func(name string, args ...string) error {
		cmd := exec.CommandContext(ctx, filepath.Join(bin, name), args...)
		cmd.SysProcAttr = &syscall.SysProcAttr{Credential: cred, Setpgid: true}
		cmd.Dir = "/"
		if out, err := cmd.CombinedOutput(); err != nil {
			return fmt.Errorf("%s: %w: %s", name, err, strings.TrimSpace(string(out)))
		}
		return nil
	}
	secret := filepath.Join(dir, "pg.password")
	if _, err := os.Stat(filepath.Join(data, "PG_VERSION")); err != nil {
		var key [16]byte
		if _, err := rand.Read(key[:]); err != nil {
			return nil, err
		}
		if err := os.WriteFile(secret, []byte(hex.EncodeToString(key[:])), 0o600); err != nil {
			return nil, err
		}
		if err := os.MkdirAll(data, 0o700); err != nil {
			return nil, err
		}
		if cred != nil {
			for _, p := range []string{data, secret} {
				if err := os.Chown(p, int(cred.Uid), int(cred.Gid)); err != nil {
					return nil, err
				}
			}
		}
		if err := run("initdb", "-D", data, "-U", "ubiquant", "-A", "scram-sha-256", "--pwfile="+secret, "-E", "UTF8", "--locale=C.UTF-8", "--no-sync"); err != nil {
			return nil, err
		}
	}
	password, err := os.ReadFile(secret)
	if err != nil {
		return nil, err
	}
	address := func(port int) string {
		return fmt.Sprintf("postgres://ubiquant:%s@127.0.0.1:%d/postgres?sslmode=disable", password, port)
	}
	if pid, port, ok := running(data); ok {
		c := &Cluster{URL: address(port), pid: pid}
		if err := c.wait(ctx, nil); err == nil {
			return c, nil
		}
	}
	port, err := freePort()
	if err != nil {
		return nil, err
	}
	sockets, err := os.MkdirTemp("", "ubq-") // short: the path of a socket has at most 107 bytes
	if err != nil {
		return nil, err
	}
	if cred != nil {
		if err := os.Chown(sockets, int(cred.Uid), int(cred.Gid)); err != nil {
			return nil, err
		}
	}
	args := []string{
		"-D",
		data,
		"-p",
		strconv.Itoa(port),
		"-c",
		"listen_addresses=127.0.0.1",
		"-c",
		"unix_socket_directories=" + sockets,
		"-c",
		"max_connections=60",
		"-c",
		"logging_collector=off",
	}
	if temporary {
		args = append(args, "-c", "fsync=off", "-c", "synchronous_commit=off", "-c", "full_page_writes=off")
	}
	log, err := os.Create(filepath.Join(dir, "pg.log"))
	if err != nil {
		return nil, err
	}
	defer log.Close() // the child has its own
	cmd := exec.Command(filepath.Join(bin, "postgres"), args...)
	// A process group of its own, so that Ctrl+C reaches it once, through Stop.
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: cred, Setpgid: true}
	cmd.Dir, cmd.Stdout, cmd.Stderr = "/", log, log
	if err := cmd.Start(); err != nil {
		return nil, fmt.Errorf("starting PostgreSQL: %w", err)
	}
	c := &Cluster{URL: address(port), cmd: cmd, pid: cmd.Process.Pid, done: make(chan error, 1)}
	go func() { c.done <- cmd.Wait(); os.RemoveAll(sockets) }()
	if err := c.wait(ctx, c.done); err != nil {
		c.Stop()
		text, _ := os.ReadFile(log.Name()) // only to explain the failure
		return nil, fmt.Errorf("PostgreSQL did not come up: %w\n%s", err, tail(string(text)))
	}
	return c, nil
}

func tail(s string) string {
	lines := strings.Split(strings.TrimSpace(s), "\n")
	return strings.Join(lines[max(0, len(lines)-6):], "\n")
}

// reachable checks that the cluster's user can enter the folders above dir.
func reachable(dir string, cred *syscall.Credential) error {
	if cred == nil {
		return nil
	}
	for p := filepath.Dir(dir); ; p = filepath.Dir(p) {
		info, err := os.Stat(p)
		if err == nil && info.Mode().Perm()&0o001 == 0 {
			return fmt.Errorf(
				"the data folder %s cannot be used as root: the user postgres cannot enter %s; choose another with --data, for example /var/lib/ubiquant",
				dir,
				p,
			)
		}
		if p == "/" {
			return nil
		}
	}
}

// running reads postmaster.pid: its first line is the process, its fourth the port.
func running(data string) (pid, port int, ok bool) {
	text, err := os.ReadFile(filepath.Join(data, "postmaster.pid"))
	if err != nil {
		return 0, 0, false
	}
	lines := strings.Split(string(text), "\n")
	if len(lines) < 4 {
		return 0, 0, false
	}
	pid, err = strconv.Atoi(strings.TrimSpace(lines[0]))
	if err != nil || syscall.Kill(pid, 0) == syscall.ESRCH {
		return 0, 0, false
	}
	port, err = strconv.Atoi(strings.TrimSpace(lines[3]))
	return pid, port, err == nil
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

func (c *Cluster) wait(ctx context.Context, died <-chan error) error {
	deadline := time.Now().Add(20 * time.Second)
	var last error
	for time.Now().Before(deadline) {
		conn, err := pgx.Connect(ctx, c.URL)
		if err == nil {
			return conn.Close(ctx)
		}
		last = err
		select {
		case err := <-died:
			return fmt.Errorf("it ended: %w", errors.Join(err, last))
		case <-ctx.Done():
			return ctx.Err()
		case <-time.After(30 * time.Millisecond):
		}
	}
	return last
}

// Stop ends the cluster, open connections included, and waits until it is gone.
func (c *Cluster) Stop() {
	if err := syscall.Kill(c.pid, syscall.SIGINT); err != nil {
		return // gone already
	}
	if c.done != nil {
		select {
		case <-c.done:
		case <-time.After(15 * time.Second):
			syscall.Kill(c.pid, syscall.SIGQUIT)
		}
		return
	}
	for range 300 {
		if syscall.Kill(c.pid, 0) == syscall.ESRCH {
			return
		}
		time.Sleep(50 * time.Millisecond)
	}
}
