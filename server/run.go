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
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"

	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/source"
	"ubiquant/core/wsfile"
	"ubiquant/server/api"
	"ubiquant/server/assets"
	"ubiquant/server/measuring"
	"ubiquant/server/pg"
	"ubiquant/server/registry"
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
	Make      bool   // a private database is made where there is none
	Log       *slog.Logger
	Public    api.Public // how it is reached from outside
	// Repositories are folders on this machine that may be delivered into, by name.
	Repositories map[string]string
	// Workspace is loaded into an empty database; nil loads the demo. In one that is not empty,
	// screens that were read from code are brought up to those that it has.
	Workspace *model.Workspace
	// Code is the repository that Workspace was read from, where it was.
	Code *Code
	// Measure has screens measured as they change, where a browser is here.
	Measure bool
	Quiet   time.Duration // as measuring.Measurer
	// Kit is one to begin with where the database is empty: a workspace without screens, or with
	// those of Workspace.
	Kit *pack.Archive
}

// Code is a repository that screens are read from.
type Code struct {
	Name     string // as in Repositories
	Settings source.Settings
}

// Running is a server that serves.
type Running struct {
	Began    bool     // the database was empty, and was given what the options say
	Reread   int      // documents of the options\' workspace that were read anew
	Decided  int      // decisions that the repository's settings and comments brought
	Said     []string // what was not taken as the repository has it, and why
	URL      string
	Database string // its address
	Store    *store.Store
	API      *api.Server
	public   string // its address from outside, where it has one
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

// SeedKit loads a workspace on a kit, one without screens where none is given, with somebody who
// keeps it.
func SeedKit(ctx context.Context, st *store.Store, a *pack.Archive, w *model.Workspace) error {
	if _, err := st.PutKit(ctx, a, "the start"); err != nil {
		return err
	}
	keeper := store.User{Name: "keeper", FullName: "Keeper", Role: store.Keeper}
	if err := st.PutUser(ctx, keeper, "", "the start"); err != nil {
		return err
	}
	k, err := a.Kit()
	if err != nil {
		return err
	}
	if w == nil {
		w = model.NewWorkspace(k.Title, model.KitRef{Name: k.Name, Version: k.Version, Hash: a.Hash()})
	}
	_, err = st.Import(ctx, w)
	return err
}

// Seed loads a workspace, which comes without people, or the demo with its own. The
// demo's kits come with either: a workspace made with one of them finds it here.
func Seed(ctx context.Context, st *store.Store, w *model.Workspace) error {
	kits, err := assets.Kits()
	if err != nil {
		return err
	}
	for _, a := range kits {
		if _, err := st.PutKit(ctx, a, "the demo"); err != nil {
			return err
		}
	}
	if w == nil {
		demo, err := assets.Demo()
		if err != nil {
			return err
		}
		if w, err = wsfile.Read(demo); err != nil {
			return err
		}
		for _, u := range DemoPeople {
			if err := st.PutUser(ctx, u, "", "the demo"); err != nil {
				return err
			}
		}
		if err := st.AllowRegistry(ctx, demoRegistry, "", "the demo"); err != nil {
			return err
		}
	}
	if _, err := st.Kit(ctx, w.Kit); err != nil {
		return err
	}
	_, err = st.Import(ctx, w)
	return err
}

// rescue stores the demo's kits in a database from before kits were stored.
func rescue(ctx context.Context, st *store.Store) error {
	rows, err := st.Kits(ctx)
	if err != nil || len(rows) > 0 {
		return err
	}
	kits, err := assets.Kits()
	if err != nil {
		return err
	}
	for _, a := range kits {
		if _, err := st.PutKit(ctx, a, "an earlier version"); err != nil {
			return err
		}
	}
	return nil
}

// OpenStore opens the database for a command: beside a server that runs, or by itself.
// The function returned ends what was started, and nothing else.
func OpenStore(ctx context.Context, o Options) (*store.Store, func(), error) {
	st, _, stop, err := openStore(ctx, o, false)
	return st, stop, err
}

func openStore(ctx context.Context, o Options, serve bool) (*store.Store, *pg.Cluster, func(), error) {
	cluster := &pg.Cluster{URL: o.Database}
	if o.Database == "" {
		var err error
		cluster, err = pg.Start(ctx, pg.Options{
			Dir: o.Data, Make: o.Make || serve, Serve: serve, Temporary: o.Temporary, Log: o.Log,
		})
		if err != nil {
			return nil, nil, nil, err
		}
	}
	st, err := store.Open(ctx, cluster.URL)
	if err != nil {
		cluster.Stop()
		return nil, nil, nil, err
	}
	return st, cluster, func() { st.Close(); cluster.Stop() }, nil
}

// FreePort checks that a server can have a port on loopback.
func FreePort(port int) error {
	l, err := listen(port)
	if err != nil {
		return err
	}
	return l.Close()
}

func listen(port int) (net.Listener, error) {
	l, err := net.Listen("tcp", "127.0.0.1:"+strconv.Itoa(port))
	if err != nil {
		return nil, fmt.Errorf("the port %d cannot be used: %w; choose another with --port", port, err)
	}
	return l, nil
}

// Start brings a server up; it serves when Start returns.
func Start(ctx context.Context, o Options) (*Running, error) {
	listener, err := listen(o.Port)
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
	st, cluster, closeStore, err := openStore(ctx, o, true)
	if err != nil {
		listener.Close()
		return nil, err
	}
	r := &Running{
		URL:      fmt.Sprintf("http://127.0.0.1:%d", listener.Addr().(*net.TCPAddr).Port),
		Database: cluster.URL,
		Store:    st,
		public:   strings.TrimSuffix(o.Public.Address, "/"),
		done:     make(chan error, 1),
	}
	err = cluster.Announce(r.URL)
	var empty bool
	if err == nil {
		empty, err = st.Empty(ctx)
	}
	switch {
	case err != nil:
	case empty && o.Kit != nil:
		err = SeedKit(ctx, st, o.Kit, o.Workspace)
	case empty:
		err = Seed(ctx, st, o.Workspace)
	case o.Kit != nil && o.Workspace == nil:
		_, err = st.PutKit(ctx, o.Kit, "the command line") // it waits in Intake
	}
	r.Began = empty
	if err == nil {
		err = rescue(ctx, st)
	}
	var l *store.Live
	if err == nil {
		l, err = st.Load(ctx, 0, nil, func() string { return time.Now().Format(time.DateOnly) })
	}
	if err == nil && !empty && o.Workspace != nil {
		err = r.reread(ctx, l, &o)
	}
	if err == nil && o.Code != nil {
		err = st.PutCodeSettings(ctx, o.Code.Name, o.Code.Settings.Write())
	}
	if err == nil {
		r.API, err = api.New(ctx, api.Parts{
			Store: st, Live: l, Web: web, Frame: frame, Log: o.Log, Public: o.Public, Repositories: o.Repositories,
		})
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
	stopMeasuring, err := r.measure(ctx, o, api.Parts{Store: st, Live: l, Web: web, Frame: frame, Log: o.Log})
	if err != nil {
		stopService()
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
		stopMeasuring()
		r.API.Hub.Close() // streams first, or the shutdown waits for them
		r.API.End()
		err := r.API.App.ShutdownWithTimeout(5 * time.Second)
		if errors.Is(err, context.DeadlineExceeded) {
			// What was acknowledged is stored; who still holds on is cut off.
			o.Log.Warn("connections that did not end within five seconds are cut")
			err = nil
		}
		stopListening()
		stopService()
		err = errors.Join(err, <-listening)
		closeStore()
		return err
	}
	return r, nil
}

// measure has a browser of the server's own measure what changes; the function returned ends it.
// Behind a public address it is served on a port of its own: pages for others name that address.
func (r *Running) measure(ctx context.Context, o Options, parts api.Parts) (stop func(), err error) {
	if !o.Measure || !measuring.Here() {
		return func() {}, nil
	}
	m := &measuring.Measurer{API: r.API, URL: r.URL, Log: o.Log, Quiet: o.Quiet}
	ctx, cancel := context.WithCancel(ctx)
	var behind sync.WaitGroup
	stop = func() { cancel(); behind.Wait() }
	if o.Public.Address != "" {
		own, err := api.New(ctx, parts)
		if err != nil {
			cancel()
			return nil, err
		}
		own.MeasureFor(r.API)
		at, err := listen(0)
		if err != nil {
			cancel()
			return nil, err
		}
		m.URL = "http://" + at.Addr().String()
		behind.Go(func() {
			if err := own.App.Listener(at, fiber.ListenConfig{DisableStartupMessage: true}); err != nil {
				o.Log.Warn("the browser of the server's own is not served", "error", err)
			}
		})
		stop = func() {
			cancel()
			own.Hub.Close()
			own.End()
			if err := own.App.ShutdownWithTimeout(5 * time.Second); err != nil {
				o.Log.Warn("the browser of the server's own was cut off", "error", err)
			}
			behind.Wait()
		}
	}
	behind.Go(func() { m.Run(ctx) })
	return stop, nil
}

// demoService is the name of the address that the stand-in service has in the demo.
const demoService = "office"

// demoRegistry is the address of the registry that the demo's libraries are fetched from.
const demoRegistry = "http://127.0.0.1:4785"

// serveDemo starts the stand-ins for what the demo takes from elsewhere: its service where the
// workspace asks for it, its registry where that is allowed.
func (r *Running) serveDemo(ctx context.Context, l *store.Live, stop *func()) error {
	address, demo := "", false
	err := l.Read(ctx, func(l *live.Live, _ int64) error {
		if demo = l.W.Name == "Fernhollow"; demo {
			for _, b := range l.W.Bases {
				if b.Name == demoService {
					address = b.Address
				}
			}
		}
		return nil
	})
	if err != nil || !demo {
		return err
	}
	ends := []func(){}
	*stop = func() {
		for _, end := range ends {
			end()
		}
	}
	// A service of one's own is asked itself.
	if u, bad := url.Parse(address); bad == nil && address != "" && u.Hostname() == "127.0.0.1" {
		at, end, err := service.Start(u.Host)
		if err != nil {
			return fmt.Errorf("the demo's service cannot start: %w", err)
		}
		ends = append(ends, end)
		r.API.StandIn(demoService, at)
	}
	allowed, err := r.Store.Registries(ctx)
	if err != nil || !slices.ContainsFunc(allowed, func(r store.Registry) bool { return r.Address == demoRegistry }) {
		return err
	}
	at, end, err := startRegistry()
	if err != nil {
		return fmt.Errorf("the demo's registry cannot start: %w", err)
	}
	ends = append(ends, end)
	r.API.StandInRegistry(demoRegistry, at)
	return nil
}

// startRegistry offers the demo's libraries as a registry does, those that stand by themselves.
func startRegistry() (address string, stop func(), err error) {
	kits, err := assets.Kits()
	if err != nil {
		return "", nil, err
	}
	packages, err := assets.Packages()
	if err != nil {
		return "", nil, err
	}
	for _, a := range kits {
		if a.Meta.Drawn == describe.Elements {
			packages = append(packages, a.Published())
		}
	}
	s := &registry.StandIn{}
	for _, files := range packages {
		if err := s.Add(files); err != nil {
			return "", nil, err
		}
	}
	return service.Serve(strings.TrimPrefix(demoRegistry, "http://"), s)
}

// Failed tells when the server ended by itself.
func (r *Running) Failed() <-chan error { return r.done }

// Stop ends the server and what it started.
func (r *Running) Stop() error { return r.stop() }

// Link makes a one-time sign-in address for a person.
func (r *Running) Link(ctx context.Context, name string) (string, error) {
	token, err := r.Store.Link(ctx, name)
	at := r.URL
	if r.public != "" {
		at = r.public
	}
	return at + "/sign-in#" + token, err
}
