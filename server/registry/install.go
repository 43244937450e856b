package registry

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync/atomic"

	"golang.org/x/sync/errgroup"
)

// What one installation may cost.
const (
	maxPackages = 1500
	maxAll      = 1536 << 20 // bytes of all that is unpacked
	atOnce      = 6
)

// Want is a package that is asked for.
type Want struct{ Name, Range string }

// Installed is what an installation put into its folder.
type Installed struct {
	Packages int
	Bytes    int64
	// Notes say what was decided that not everybody would have decided so, and what was left out.
	Notes []string
	// Versions are those of the packages that stand in the folder itself.
	Versions map[string]string
}

// place is a package in a folder of packages.
type place struct {
	name     string // as code imports it
	version  *Version
	parent   *place
	children map[string]*place
}

func (p *place) dir() string {
	if p.parent == nil {
		return ""
	}
	return filepath.Join(p.parent.dir(), "node_modules", filepath.FromSlash(p.name))
}

// sees is the package that an import from a place finds.
func (p *place) sees(name string) *place {
	for at := p; at != nil; at = at.parent {
		if c := at.children[name]; c != nil {
			return c
		}
	}
	return nil
}

func (p *place) put(name string, v *Version) *place {
	c := &place{name: name, version: v, parent: p, children: map[string]*place{}}
	p.children[name] = c
	return c
}

// Installation is a folder of packages while it is put together.
type Installation struct {
	client *Client
	dir    string
	tell   func(string)
	root   *place
	count  int             // places
	done   map[*place]bool // unpacked
	bytes  int64
	notes  []string
}

// Begin begins an installation into a folder; tell is told what happens.
func (c *Client) Begin(dir string, tell func(step string)) *Installation {
	return &Installation{client: c, dir: dir, tell: tell, root: &place{children: map[string]*place{}}, done: map[*place]bool{}}
}

// need is an import of a place that is not provided for yet.
type need struct {
	from  *place
	name  string // as code imports it
	asked string
	peer  bool
}

// Add puts packages into the folder, with all that they ask for and what they ask of whoever
// uses them. What is there and fits stays. On errors the folder holds a part.
func (i *Installation) Add(ctx context.Context, wants ...Want) (*Installed, error) {
	var needs []need
	for _, w := range wants {
		needs = append(needs, need{i.root, w.Name, w.Range, false})
	}
	for len(needs) > 0 {
		next, err := i.level(ctx, needs)
		if err != nil {
			return nil, err
		}
		needs = next
	}
	if err := i.fetch(ctx); err != nil {
		return nil, err
	}
	out := &Installed{Packages: len(i.done), Bytes: i.bytes, Notes: slices.Clone(i.notes), Versions: map[string]string{}}
	for name, p := range i.root.children {
		out.Versions[name] = p.version.Version
	}
	return out, nil
}

// level provides for needs, and gives those that come of it. The order is that of the names, so
// that the same is made each time.
func (i *Installation) level(ctx context.Context, needs []need) ([]need, error) {
	if err := i.ask(ctx, needs); err != nil {
		return nil, err
	}
	var next []need
	for _, n := range needs {
		made, err := i.provide(ctx, n)
		if err != nil {
			return nil, err
		}
		if made == nil {
			continue
		}
		v := made.version
		for _, name := range slices.Sorted(maps.Keys(v.Dependencies)) {
			if _, optional := v.OptionalDependencies[name]; !optional && !v.bundles(name) {
				next = append(next, need{made, name, v.Dependencies[name], false})
			}
		}
		for _, name := range slices.Sorted(maps.Keys(v.PeerDependencies)) {
			if !v.PeerDependenciesMeta[name].Optional {
				next = append(next, need{made, name, v.PeerDependencies[name], true})
			}
		}
	}
	return next, nil
}

// ask asks for what there is of all that is needed, several at once.
func (i *Installation) ask(ctx context.Context, needs []need) error {
	names := map[string]bool{}
	for _, n := range needs {
		if name, _, ok := source(n.name, n.asked); ok {
			names[name] = true
		}
	}
	g, ctx := errgroup.WithContext(ctx)
	g.SetLimit(atOnce)
	for name := range names {
		g.Go(func() error {
			_, err := i.client.Package(ctx, name)
			if errors.Is(err, ErrNotThere) {
				return nil // said where it is needed
			}
			return err
		})
	}
	return g.Wait()
}

// source is the package behind a name that code imports: "npm:other@^1" stands for another.
func source(name, asked string) (pkg, rest string, ok bool) {
	if CheckName(name) != nil { // it names a folder as well
		return "", "", false
	}
	if alias, is := strings.CutPrefix(asked, "npm:"); is {
		name, asked = Split(alias)
	}
	return name, asked, !strings.ContainsAny(asked, ":/") && CheckName(name) == nil // addresses and folders are no registry's
}

// provide puts what is needed where whoever needs it finds it; nil where it is there.
func (i *Installation) provide(ctx context.Context, n need) (*place, error) {
	who := func() string {
		if n.from == i.root {
			return ""
		}
		return fmt.Sprintf(" (asked for by %s)", n.from.name)
	}
	name, asked, ok := source(n.name, n.asked)
	if !ok {
		i.note("%s %s is no package of a registry and was left out%s", n.name, n.asked, who())
		return nil, nil
	}
	at := n.from
	if n.peer {
		at = n.from.parent // it is asked of whoever uses the package
	}
	if is := at.sees(n.name); is != nil {
		fits, err := ranged(asked)
		if is.version.Name == name && (err != nil || fits(is.version.Version)) {
			return nil, nil
		}
		if n.peer || at == i.root {
			i.note("%s %s is there, and %s is asked for%s", n.name, is.version.Version, asked, who())
			return nil, nil
		}
	} else {
		at = i.root
	}
	d, err := i.client.Package(ctx, name)
	if err != nil {
		if n.peer && errors.Is(err, ErrNotThere) {
			i.note("%s is not in the registry and was left out%s", name, who())
			return nil, nil
		}
		return nil, fmt.Errorf("%w%s", err, who())
	}
	v, err := d.Choose(asked)
	if err != nil {
		return nil, fmt.Errorf("%w%s", err, who())
	}
	if i.count++; i.count > maxPackages { // packages may ask for each other without an end
		return nil, fmt.Errorf("more than %d packages are asked for; at most %d are taken%s", maxPackages, maxPackages, who())
	}
	return at.put(n.name, v), nil
}

func (i *Installation) note(format string, args ...any) {
	if note := fmt.Sprintf(format, args...); !slices.Contains(i.notes, note) {
		i.notes = append(i.notes, note)
	}
}

// all lists the places, those that hold others first.
func (p *place) all() []*place {
	var out []*place
	for _, name := range slices.Sorted(maps.Keys(p.children)) {
		out = append(out, p.children[name])
		out = append(out, p.children[name].all()...)
	}
	return out
}

// fetch takes the archives of all that is not there yet, several at once.
func (i *Installation) fetch(ctx context.Context) error {
	var list []*place
	for _, p := range i.root.all() {
		if !i.done[p] {
			list = append(list, p)
		}
	}
	i.tell(fmt.Sprintf("fetching %d %s", len(list), map[bool]string{true: "package", false: "packages"}[len(list) == 1]))
	top, err := os.OpenRoot(i.dir)
	if err != nil {
		return err
	}
	defer top.Close()
	var unpacked atomic.Int64
	g, ctx := errgroup.WithContext(ctx)
	g.SetLimit(atOnce)
	for _, p := range list {
		g.Go(func() error {
			body, err := i.client.Fetch(ctx, p.version)
			if err != nil {
				return err
			}
			if err := top.MkdirAll(p.dir(), 0o755); err != nil {
				return err
			}
			into, err := top.OpenRoot(p.dir())
			if err != nil {
				return err
			}
			defer into.Close()
			n, err := unpack(body, into)
			if err != nil {
				return fmt.Errorf("%s %s: %w", p.version.Name, p.version.Version, err)
			}
			if all := i.bytes + unpacked.Add(n); all > maxAll {
				return fmt.Errorf("what is asked for unpacks to %d MiB and more; at most %d are taken", all>>20, maxAll>>20)
			}
			return nil
		})
	}
	if err := g.Wait(); err != nil {
		return err
	}
	for _, p := range list {
		i.done[p] = true
	}
	i.bytes += unpacked.Load()
	return nil
}

// There leaves those of some packages that the registry has.
func (c *Client) There(ctx context.Context, wants []Want) []Want {
	return slices.DeleteFunc(wants, func(w Want) bool {
		_, err := c.Package(ctx, w.Name)
		return errors.Is(err, ErrNotThere)
	})
}
