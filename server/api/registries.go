package api

import (
	"context"
	"errors"
	"fmt"
	"net/url"
	"slices"
	"strings"
	"sync"
	"time"

	"ubiquant/core/sample"
	"ubiquant/server/assets"
	"ubiquant/server/intake"
	"ubiquant/server/registry"
	"ubiquant/server/store"
)

// Fetching is a library that is fetched from a registry, or was.
type Fetching struct {
	ID       int       `json:"id"`
	Registry string    `json:"registry"`
	Package  string    `json:"package"` // as it was asked for
	By       string    `json:"by"`
	Began    time.Time `json:"began"`
	Seconds  float64   `json:"seconds"`
	Steps    []string  `json:"steps"` // what was done, the last one being done
	State    string    `json:"state"` // running, done, failed, stopped
	Why      string    `json:"why"`   // it failed
	Hash     string    `json:"hash"`  // of the kit that came of it
}

// maxFetchTime bounds how long fetching and packing one library may take.
const maxFetchTime = 10 * time.Minute

// fetchings has the library that is fetched. One at a time: packing takes what the machine has.
type fetchings struct {
	mu   sync.Mutex
	last *Fetching
	stop context.CancelFunc
	// instead are addresses that stand in for registries.
	instead map[string]string
}

// now is a copy of the last one; nil where there was none.
func (f *fetchings) now() *Fetching {
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.last == nil {
		return nil
	}
	out := *f.last
	out.Steps = slices.Clone(f.last.Steps)
	if out.State == "running" {
		out.Seconds = time.Since(out.Began).Seconds()
	}
	return &out
}

func (f *fetchings) client(r store.Registry) (*registry.Client, error) {
	f.mu.Lock()
	defer f.mu.Unlock()
	address := r.Address
	if at := f.instead[address]; at != "" {
		address = at
	}
	c, err := registry.New(address)
	if err == nil {
		c.Token = r.Token
	}
	return c, err
}

// StandInRegistry has an address stand in for a registry's.
func (s *Server) StandInRegistry(address, at string) {
	s.fetchings.mu.Lock()
	defer s.fetchings.mu.Unlock()
	if s.fetchings.instead == nil {
		s.fetchings.instead = map[string]string{}
	}
	s.fetchings.instead[address] = at
}

// RegistryView is a registry that is allowed.
type RegistryView struct {
	store.Registry
	Inside bool `json:"inside"` // it lies in the server's own network
	Known  bool `json:"known"`  // a token is given that says who asks
}

type registriesOut struct {
	Registries []RegistryView `json:"registries"`
	Fetching   *Fetching      `json:"fetching"` // the last one
}

func (s *Server) registries(c *Call, _ *none) (*registriesOut, error) {
	rows, err := s.Store.Registries(c.Context())
	if err != nil {
		return nil, err
	}
	out := &registriesOut{Registries: []RegistryView{}, Fetching: s.fetchings.now()}
	for _, r := range rows {
		v := RegistryView{Registry: r, Known: r.Token != ""}
		if u, err := url.Parse(r.Address); err == nil {
			v.Inside = sample.Inside(u.Hostname())
		}
		out.Registries = append(out.Registries, v)
	}
	return out, nil
}

type registryIn struct {
	Address string `json:"address"`
	// Token says who asks, where the registry wants to know; it is kept and never shown again.
	Token string `json:"token,omitempty"`
}

func (s *Server) allowRegistry(c *Call, in *registryIn) (*registriesOut, error) {
	address, err := registry.CheckAddress(in.Address)
	if err != nil {
		return nil, bad("%s", err)
	}
	token := strings.TrimSpace(in.Token)
	if err := registry.CheckToken(token); err != nil {
		return nil, bad("%s", err)
	}
	if err := s.Store.AllowRegistry(c.Context(), address, token, c.User.Name); err != nil {
		return nil, err
	}
	return s.registries(c, nil)
}

func (s *Server) forbidRegistry(c *Call, in *registryIn) (*registriesOut, error) {
	err := s.Store.ForbidRegistry(c.Context(), in.Address, c.User.Name)
	if errors.Is(err, store.ErrNotFound) {
		return nil, missing("registry " + in.Address)
	}
	if err != nil {
		return nil, err
	}
	return s.registries(c, nil)
}

// allowed gives what asks a registry, where a keeper has allowed that.
func (s *Server) allowed(ctx context.Context, address string) (*registry.Client, error) {
	rows, err := s.Store.Registries(ctx)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(rows, func(r store.Registry) bool { return r.Address == address })
	if i < 0 {
		return nil, bad("%s is no registry that a keeper has allowed", address)
	}
	return s.fetchings.client(rows[i])
}

type packageIn struct {
	Registry string `query:"registry"`
	Package  string `query:"package"`
}

type packageOut struct {
	Name     string   `json:"name"`
	Latest   string   `json:"latest"`
	Versions []string `json:"versions"` // the newest first, at most 200
	All      int      `json:"all"`
	Here     []string `json:"here"` // versions that are brought in already
}

// mostVersions is how many versions of a package are listed.
const mostVersions = 200

// lookPackage asks a registry what there is of a package.
func (s *Server) lookPackage(c *Call, in *packageIn) (*packageOut, error) {
	client, err := s.allowed(c.Context(), in.Registry)
	if err != nil {
		return nil, err
	}
	d, err := client.Package(c.Context(), in.Package)
	if err != nil {
		return nil, bad("%s", err)
	}
	list := d.Numbers()
	out := &packageOut{
		Name: in.Package, Latest: d.Tags["latest"], All: len(list), Versions: list[:min(len(list), mostVersions)], Here: []string{},
	}
	kits, err := s.Store.Kits(c.Context())
	for _, k := range kits {
		if k.Name == in.Package && !slices.Contains(out.Here, k.Version) {
			out.Here = append(out.Here, k.Version)
		}
	}
	return out, err
}

type fetchIn struct {
	Registry string `json:"registry"`
	Package  string `json:"package"`           // its name
	Version  string `json:"version,omitempty"` // a version, a range or a tag; the latest where there is none
}

// fetchPackage begins to fetch a library from a registry; what comes of it waits in Intake.
func (s *Server) fetchPackage(c *Call, in *fetchIn) (*Fetching, error) {
	client, err := s.allowed(c.Context(), in.Registry)
	if err != nil {
		return nil, err
	}
	if err := registry.CheckName(in.Package); err != nil {
		return nil, bad("%s", err)
	}
	asked := in.Package
	if in.Version != "" {
		asked += "@" + in.Version
	}
	f := &s.fetchings
	f.mu.Lock()
	defer f.mu.Unlock()
	if f.last != nil && f.last.State == "running" {
		return nil, problem(409, "One at a time", fmt.Sprintf("%s is being fetched for %s", f.last.Package, f.last.By))
	}
	id := 1
	if f.last != nil {
		id = f.last.ID + 1
	}
	mine := &Fetching{ID: id, Registry: in.Registry, Package: asked, By: c.User.Name, Began: time.Now(), Steps: []string{}, State: "running"}
	ctx, stop := context.WithTimeout(s.ends, maxFetchTime)
	f.last, f.stop = mine, stop
	s.behind.Go(func() {
		defer stop()
		hash, err := s.bringFrom(ctx, client, mine, asked)
		f.mu.Lock()
		defer f.mu.Unlock()
		mine.Seconds, mine.Hash, mine.State = time.Since(mine.Began).Seconds(), hash, "done"
		switch {
		case errors.Is(ctx.Err(), context.DeadlineExceeded):
			mine.State, mine.Why = "failed", fmt.Sprintf("it took longer than %s", maxFetchTime)
		case err != nil && ctx.Err() != nil:
			mine.State = "stopped"
		case err != nil:
			mine.State, mine.Why = "failed", err.Error()
		}
	})
	out := *mine
	return &out, nil
}

// bringFrom fetches and packs a library, and stores the kit.
func (s *Server) bringFrom(ctx context.Context, client *registry.Client, mine *Fetching, asked string) (hash string, err error) {
	defer func() {
		if r := recover(); r != nil { // what a registry sends is nobody's work here
			s.Log.Error("a library could not be packed", "package", asked, "panic", r)
			err = fmt.Errorf("%s cannot be packed: something went wrong here; it was logged", asked)
		}
	}()
	o := intake.Options{Package: asked, Tell: func(step string) {
		s.fetchings.mu.Lock()
		defer s.fetchings.mu.Unlock()
		mine.Steps = append(mine.Steps, step)
	}}
	o.Reader, _ = assets.Reader() // without one types are left out, and it is said
	a, err := intake.FromRegistry(ctx, client, o)
	if err != nil {
		return "", err
	}
	row, err := s.Store.PutKit(ctx, a, mine.By)
	return row.Hash, err
}

type stopIn struct {
	ID int `json:"id"`
}

func (s *Server) stopFetching(_ *Call, in *stopIn) (*none, error) {
	s.fetchings.mu.Lock()
	defer s.fetchings.mu.Unlock()
	if s.fetchings.last == nil || s.fetchings.last.ID != in.ID || s.fetchings.last.State != "running" {
		return nil, bad("it is not running")
	}
	s.fetchings.stop()
	return nil, nil
}
