package pg

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"sync"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
)

// Options say how a cluster is used.
type Options struct {
	Dir       string // data folder
	Make      bool   // a cluster is made where there is none
	Serve     bool   // for as long as a server runs: it is watched, and restarted when it dies
	Temporary bool   // gives up safety on a power cut for speed
	Log       *slog.Logger
}

// Cluster is a running private cluster.
type Cluster struct {
	URL   string // connection address of the application's role, password included
	Admin string // that of the superuser
	Guest bool   // somebody else owns it; Stop leaves it running

	o       Options
	bin     string
	cred    *syscall.Credential
	lock    *lock
	port    int
	sockets string

	mu       sync.Mutex
	pid      int
	done     chan error // of the process, where it is a child of this one
	stopping chan struct{}
	watched  sync.WaitGroup
}

// ErrNone says that a folder has no database.
var ErrNone = errors.New("there is no database")

// Start finds the cluster of a data folder running, and is its guest, or runs it.
// An instance left over from a server that was killed is taken over. Errors are ErrMissing,
// ErrNone where none is to be made, *InUse where a server is to run beside another, and
// others.
func Start(ctx context.Context, o Options) (*Cluster, error) {
	bin, err := Find()
	if err != nil {
		return nil, err
	}
	cred, err := owner()
	if err != nil {
		return nil, err
	}
	if o.Dir, err = filepath.Abs(o.Dir); err != nil {
		return nil, err
	}
	if !o.Make && !exists(o.Dir) {
		return nil, fmt.Errorf("%w in %s", ErrNone, o.Dir)
	}
	if err := reachable(o.Dir, cred); err != nil {
		return nil, err
	}
	if err := os.MkdirAll(o.Dir, 0o711); err != nil {
		return nil, err
	}
	c := &Cluster{o: o, bin: bin, cred: cred, stopping: make(chan struct{})}
	// A command ends soon; what is to stay waits for it and owns the cluster then.
	for deadline := time.Now().Add(40 * time.Second); ; {
		var other *Holder
		if c.lock, other, err = acquire(o.Dir); err != nil {
			return nil, err
		}
		if c.lock != nil {
			return c, c.own(ctx)
		}
		if o.Serve && other.Serve {
			return nil, &InUse{o.Dir, *other}
		}
		if !o.Serve && c.visit(ctx) == nil {
			return c, nil
		}
		if time.Now().After(deadline) {
			return nil, fmt.Errorf("process %d holds the data folder %s and its database does not answer", other.PID, o.Dir)
		}
		select {
		case <-ctx.Done():
			return nil, ctx.Err()
		case <-time.After(100 * time.Millisecond):
		}
	}
}

// visit connects to the cluster that somebody else runs.
func (c *Cluster) visit(ctx context.Context) error {
	_, port, ok := running(dataDir(c.o.Dir))
	if !ok {
		return errors.New("it does not run")
	}
	if err := c.at(port); err != nil {
		return err
	}
	c.Guest = true
	return c.answers(ctx)
}

func (c *Cluster) at(port int) (err error) {
	c.port = port
	if c.URL, err = address(c.o.Dir, app, port); err != nil {
		return err
	}
	c.Admin, err = address(c.o.Dir, admin, port)
	return err
}

func (c *Cluster) answers(ctx context.Context) error {
	ctx, cancel := context.WithTimeout(ctx, 3*time.Second)
	defer cancel()
	conn, err := pgx.Connect(ctx, c.URL)
	if err != nil {
		return err
	}
	return conn.Close(ctx)
}

// own makes the cluster where there is none, runs it, and watches over it.
func (c *Cluster) own(ctx context.Context) (err error) {
	defer func() {
		if err != nil {
			c.Stop()
		}
	}()
	if err := c.lock.say(Holder{PID: os.Getpid(), Serve: c.o.Serve}); err != nil {
		return err
	}
	if !exists(c.o.Dir) {
		if err := create(ctx, c.bin, c.o.Dir, c.cred); err != nil {
			return err
		}
	}
	if pid, port, ok := running(dataDir(c.o.Dir)); ok {
		c.pid, c.port = pid, port
		if c.ready(ctx) == nil {
			c.watch()
			return nil
		}
	}
	if c.port, err = freePort(); err != nil {
		return err
	}
	if err := c.launch(ctx); err != nil {
		return err
	}
	c.watch()
	return nil
}

// ready waits until the cluster answers its superuser, and hands over what is the
// application's.
func (c *Cluster) ready(ctx context.Context) error {
	if _, _, err := secret(c.o.Dir, app); err != nil {
		return err
	}
	if err := c.at(c.port); err != nil {
		return err
	}
	if err := c.wait(ctx); err != nil {
		return err
	}
	return hand(ctx, c.o.Dir, c.port)
}

// launch starts the postmaster and waits until it answers.
func (c *Cluster) launch(ctx context.Context) error {
	var err error
	if c.sockets == "" {
		// Short: the path of a socket has at most 107 bytes.
		if c.sockets, err = os.MkdirTemp("", "ubq-"); err != nil {
			return err
		}
		if c.cred != nil {
			if err := os.Chown(c.sockets, int(c.cred.Uid), int(c.cred.Gid)); err != nil {
				return err
			}
		}
	}
	args := []string{"-D", dataDir(c.o.Dir), "-p", strconv.Itoa(c.port)}
	settings := []string{
		"listen_addresses=127.0.0.1", "unix_socket_directories=" + c.sockets,
		"max_connections=60", "logging_collector=off",
	}
	if c.o.Temporary {
		settings = append(settings, "fsync=off", "synchronous_commit=off", "full_page_writes=off")
	}
	for _, s := range settings {
		args = append(args, "-c", s)
	}
	log, err := os.Create(filepath.Join(c.o.Dir, "pg.log"))
	if err != nil {
		return err
	}
	defer log.Close() // the child has its own
	cmd := exec.Command(filepath.Join(c.bin, "postgres"), args...)
	// A process group of its own, so that Ctrl+C reaches it once, through Stop.
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: c.cred, Setpgid: true}
	cmd.Dir, cmd.Stdout, cmd.Stderr = "/", log, log
	if err := cmd.Start(); err != nil {
		return fmt.Errorf("starting PostgreSQL: %w", err)
	}
	done := make(chan error, 1)
	go func() { done <- cmd.Wait() }()
	c.mu.Lock()
	c.pid, c.done = cmd.Process.Pid, done
	c.mu.Unlock()
	if err := c.ready(ctx); err != nil {
		if syscall.Kill(c.pid, syscall.SIGINT) == nil { // it runs and cannot be used
			c.gone()
		}
		text, _ := os.ReadFile(log.Name()) // only to explain the failure
		return fmt.Errorf("PostgreSQL did not come up: %w\n%s", err, tail(string(text)))
	}
	return nil
}

// wait waits until the superuser can connect.
func (c *Cluster) wait(ctx context.Context) error {
	deadline := time.Now().Add(20 * time.Second)
	var last error
	for time.Now().Before(deadline) {
		conn, err := pgx.Connect(ctx, c.Admin)
		if err == nil {
			return conn.Close(ctx)
		}
		last = err
		select {
		case err := <-c.done:
			c.done <- err
			return fmt.Errorf("it ended: %w", errors.Join(err, last))
		case <-ctx.Done():
			return ctx.Err()
		case <-time.After(30 * time.Millisecond):
		}
	}
	return last
}

// Announce writes down where the server that owns the cluster serves, for commands beside
// it.
func (c *Cluster) Announce(url string) error {
	if c.lock == nil {
		return nil
	}
	return c.lock.say(Holder{PID: os.Getpid(), Serve: c.o.Serve, URL: url})
}

// watch starts the cluster again when it ends by itself.
func (c *Cluster) watch() {
	if !c.o.Serve {
		return
	}
	c.watched.Go(func() {
		for {
			select {
			case <-c.stopping:
				return
			case err := <-c.ended():
				c.note("PostgreSQL ended by itself; it is started again", err)
			}
			for wait := 50 * time.Millisecond; ; wait = min(2*wait, 3*time.Second) {
				ctx, cancel := context.WithTimeout(context.Background(), 30*time.Second)
				err := c.launch(ctx)
				cancel()
				if err == nil {
					break
				}
				c.note("PostgreSQL does not start", err)
				select {
				case <-c.stopping:
					return
				case <-time.After(wait):
				}
			}
		}
	})
}

func (c *Cluster) note(what string, err error) {
	if c.o.Log != nil {
		c.o.Log.Warn(what, "error", err)
	}
}

// ended tells when the process is gone.
func (c *Cluster) ended() <-chan error {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.done != nil {
		return c.done
	}
	// One that was taken over is nobody's child here.
	out, pid := make(chan error, 1), c.pid
	go func() {
		for syscall.Kill(pid, 0) != syscall.ESRCH {
			select {
			case <-c.stopping:
				return
			case <-time.After(200 * time.Millisecond):
			}
		}
		out <- nil
	}()
	return out
}

// Stop ends the cluster, open connections included, and waits until it is gone. A guest
// leaves it as it is.
func (c *Cluster) Stop() {
	if c.Guest || c.lock == nil {
		return
	}
	close(c.stopping)
	c.watched.Wait()
	if c.pid > 0 && syscall.Kill(c.pid, syscall.SIGINT) == nil {
		c.gone()
	}
	if c.sockets != "" {
		os.RemoveAll(c.sockets)
	}
	c.lock.release()
	c.lock = nil
}

func (c *Cluster) gone() {
	if c.done != nil {
		select {
		case <-c.done:
		case <-time.After(15 * time.Second):
			_ = syscall.Kill(c.pid, syscall.SIGQUIT) // it is gone, or goes now
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

// Remove takes the cluster of a folder away, and only what is one. Nobody may use it.
func Remove(dir string) error {
	dir, err := filepath.Abs(dir)
	if err != nil {
		return err
	}
	if _, err := os.Stat(dir); errors.Is(err, os.ErrNotExist) {
		return nil
	}
	l, other, err := acquire(dir)
	if err != nil {
		return err
	}
	if other != nil {
		return &InUse{dir, *other}
	}
	defer l.release()
	if pid, _, ok := running(dataDir(dir)); ok { // left over from a server that was killed
		c := &Cluster{pid: pid}
		if syscall.Kill(pid, syscall.SIGINT) == nil {
			c.gone()
		}
	}
	for _, name := range []string{dataDir(dir), dataDir(dir) + ".part", secretFile(dir, admin), secretFile(dir, app),
		filepath.Join(dir, "pg.log")} {
		if err := os.RemoveAll(name); err != nil {
			return err
		}
	}
	return nil
}

// Holds reports whether a folder has a database.
func Holds(dir string) bool { return exists(dir) }
