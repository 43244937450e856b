// Package server puts the parts together: database, workspace, API and live
// events, as one thing that starts and stops.
package server

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/url"
	"os"
	"path/filepath"
	"strconv"
	"time"

	"github.com/gofiber/fiber/v3"

	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/wsfile"
	"ubiquant/server/api"
	"ubiquant/server/assets"
	"ubiquant/server/pg"
	"ubiquant/server/service"
	"ubiquant/server/store"
	"ubiquant/server/stream"
)

// Options say how a server runs.
type Options struct {
	Data      string // folder of a private database
	Database  string // address of a database, instead of a private one
	Port      int    // on 127.0.0.1; 0 takes a free one
	Temporary bool   // the database need not survive a power cut
	Log       *slog.Logger
	// Workspace is loaded into an empty database; nil loads the demo.
	Workspace *model.Workspace
}

// Running is a server that serves.
type Running struct {
	URL      string
	Database string // its address
	Store    *store.Store
	API      *api.Server
	stop     func() error
	done     chan error
}

// DemoPeople are the accounts the demo comes with; they sign in by link until a
// password is set.
var DemoPeople = []store.User{
	{Name: "ida", FullName: "Ida Fenn", Role: store.Keeper},
	{Name: "noor", FullName: "Noor Abadi", Role: store.Builder},
	{Name: "tam", FullName: "Tam Okoro", Role: store.Builder},
	{Name: "lise", FullName: "Lise Brandt", Role: store.Reader},
}

// Seed loads a workspace, or the demo, with its people.
func Seed(ctx context.Context, st *store.Store, w *model.Workspace) error {
	if w == nil {
		demo, err := assets.Demo()
		if err != nil {
			return err
		}
		if w, err = wsfile.Read(demo); err != nil {
			return err
		}
	}
	for _, u := range DemoPeople {
		if err := st.PutUser(ctx, u, ""); err != nil {
			return err
		}
	}
	_, err := st.Import(ctx, w)
	return err
}

// OpenStore starts or finds the database; the function returned ends what was
// started.
func OpenStore(ctx context.Context, o Options) (*store.Store, func(), error) {
	st, _, stop, err := openStore(ctx, o)
	return st, stop, err
}

func openStore(ctx context.Context, o Options) (*store.Store, string, func(), error) {
	stop := func() {}
	url := o.Database
	if url == "" {
		cluster, err := pg.Start(ctx, o.Data, o.Temporary)
		if err != nil {
			return nil, "", nil, err
		}
		url, stop = cluster.URL, cluster.Stop
	}
	st, err := store.Open(ctx, url)
	if err != nil {
		stop()
		return nil, "", nil, err
	}
	return st, url, func() { st.Close(); stop() }, nil
}

// Freshen takes a private database away, and only what is one.
func Freshen(ctx context.Context, dir string) error {
	if _, err := os.Stat(filepath.Join(dir, "pg", "PG_VERSION")); err != nil {
		return nil
	}
	// Starting takes over an instance that was left behind, so that it can be ended.
	cluster, err := pg.Start(ctx, dir, false)
	if err != nil {
		return err
	}
	cluster.Stop()
	for _, name := range []string{"pg", "pg.password", "pg.log"} {
		if err := os.RemoveAll(filepath.Join(dir, name)); err != nil {
			return err
		}
	}
	return nil
}

// Start brings a server up; it serves when Start returns.
func Start(ctx context.Context, o Options) (*Running, error) {
	listener, err := net.Listen("tcp", "127.0.0.1:"+strconv.Itoa(o.Port))
	if err != nil {
		return nil, fmt.Errorf("the port %d cannot be used: %w; choose another with --port", o.Port, err)
	}
	bundle, err := assets.Kit()
	if err != nil {
		return nil, err
	}
	web, err := assets.App()
	if err != nil {
		return nil, err
	}
	frame, err := assets.Frame()
	if err != nil {
		return nil, err
	}
	st, database, closeStore, err := openStore(ctx, o)
	if err != nil {
		return nil, err
	}
	r := &Running{
		URL:      fmt.Sprintf("http://127.0.0.1:%d", listener.Addr().(*net.TCPAddr).Port),
		Database: database,
		Store:    st,
		done:     make(chan error, 1),
	}
	empty, err := st.Empty(ctx)
	if err == nil && empty {
		err = Seed(ctx, st, o.Workspace)
	}
	var l *store.Live
	if err == nil {
		l, err = st.Load(ctx, 0, bundle.Kit, func() string { return time.Now().Format(time.DateOnly) })
	}
	if err == nil {
		r.API, err = api.New(ctx, st, l, bundle, web, frame, o.Log)
	}
	if err != nil {
		closeStore()
		return nil, err
	}
	stopService := func() {}
	if err = r.serveDemo(ctx, l, &stopService); err != nil {
		closeStore()
		return nil, err
	}
	listenCtx, stopListening := context.WithCancel(ctx)
	listening := make(chan error, 1)
	go func() {
		listening <- st.Listen(listenCtx, func(id, seq int64, own bool) {
			if id == l.ID && !own {
				l.Heard(seq)
				r.API.Hub.Tell(stream.Event{Seq: seq})
			}
		}, r.API.Heard)
	}()
	go func() {
		r.done <- r.API.App.Listener(listener, fiber.ListenConfig{DisableStartupMessage: true})
	}()
	r.stop = func() error {
		r.API.Hub.Close() // streams first, or the shutdown waits for them
		err := r.API.App.ShutdownWithTimeout(5 * time.Second)
		stopListening()
		stopService()
		err = errors.Join(err, <-listening)
		closeStore()
		return err
	}
	return r, nil
}

// demoService is the name of the address that the stand-in service has in the demo.
const demoService = "office"

// serveDemo starts the stand-in for the demo's service where the workspace asks for it.
func (r *Running) serveDemo(ctx context.Context, l *store.Live, stop *func()) error {
	address := ""
	err := l.Read(ctx, func(l *live.Live, _ int64) error {
		if l.W.Name == "Fernhollow" {
			for _, b := range l.W.Bases {
				if b.Name == demoService {
					address = b.Address
				}
			}
		}
		return nil
	})
	u, bad := url.Parse(address)
	if err != nil || bad != nil || address == "" || u.Hostname() != "127.0.0.1" {
		return err // a service of one's own is asked itself
	}
	at, end, err := service.Start(u.Host)
	if err != nil {
		return fmt.Errorf("the demo's service cannot start: %w", err)
	}
	*stop = end
	r.API.StandIn(demoService, at)
	return nil
}

// Failed tells when the server ended by itself.
func (r *Running) Failed() <-chan error { return r.done }

// Stop ends the server and what it started.
func (r *Running) Stop() error { return r.stop() }

// Link makes a one-time sign-in address for a person.
func (r *Running) Link(ctx context.Context, name string) (string, error) {
	token, err := r.Store.Link(ctx, name)
	return r.URL + "/sign-in#" + token, err
}
