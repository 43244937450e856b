package intake

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"ubiquant/core/kit/pack"
	"ubiquant/server/registry"
)

// again bounds the packages that a library imports and does not ask for, and that are fetched for it.
const again = 24

// FromRegistry packs a library that a registry has: it is installed into a folder of its own,
// with all that it asks for, packed there as Pack does, and the folder is removed. Of the options
// Dir is not used, and Package may ask for a version ("@acme/orchard-ui@^2").
func FromRegistry(ctx context.Context, c *registry.Client, o Options) (*pack.Archive, error) {
	if o.Tell == nil {
		o.Tell = func(string) {}
	}
	name, version := registry.Split(o.Package)
	if err := registry.CheckName(name); err != nil {
		return nil, err
	}
	o.Tell("asking " + c.Address + " for " + name)
	sweep()
	dir, err := os.MkdirTemp("", folders)
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	o.Dir, o.Package = dir, name
	i := c.Begin(dir, o.Tell)
	is, err := i.Add(ctx, registry.Want{Name: name, Range: version})
	if err != nil {
		return nil, err
	}
	if more := beside(is.Versions); len(more) > 0 {
		if is, err = i.Add(ctx, c.There(ctx, more)...); err != nil {
			return nil, err
		}
	}
	asked := asks(ctx, c, name, is.Versions[name])
	fetched := []string{}
	a, err := Pack(ctx, o)
	for tried := []string{}; len(tried) < again; {
		lacks := lacking(a, err, tried)
		if len(lacks) == 0 {
			break
		}
		tried = append(tried, lacks...)
		wants := []registry.Want{}
		for _, l := range lacks {
			wants = append(wants, registry.Want{Name: l, Range: asked[l]})
		}
		o.Tell("it imports what it does not ask for: " + strings.Join(lacks, ", "))
		more, addErr := i.Add(ctx, c.There(ctx, wants)...)
		var next *pack.Archive
		nextErr := addErr
		if addErr == nil {
			next, nextErr = Pack(ctx, o)
		}
		if nextErr != nil && a != nil {
			break // it stands without
		}
		if addErr != nil {
			return nil, errors.Join(err, addErr)
		}
		a, err, is, fetched = next, nextErr, more, tried
	}
	if err != nil {
		return nil, err
	}
	for _, l := range fetched {
		if v := is.Versions[l]; v != "" {
			a.Meta.Notes = append(a.Meta.Notes, fmt.Sprintf("%s %s was fetched for it: it imports that without asking for it", l, v))
		}
	}
	a.Meta.Notes = append(a.Meta.Notes, is.Notes...)
	return a, nil
}

// folders are called so while libraries are installed in them.
const folders = "ubiquant-registry-*"

// sweep removes folders that a process which was ended has left: no installation takes so long.
func sweep() {
	left, _ := filepath.Glob(filepath.Join(os.TempDir(), folders)) // the pattern is right
	for _, dir := range left {
		if info, err := os.Lstat(dir); err == nil && info.IsDir() && time.Since(info.ModTime()) > 6*time.Hour {
			_ = os.RemoveAll(dir) // another time, then
		}
	}
}

// beside lists what a repository that uses a framework has installed for it, of which libraries
// say nothing: what declares its types, and what draws it in a page.
func beside(is map[string]string) []registry.Want {
	out := []registry.Want{}
	want := func(name, version string) {
		if is[name] == "" {
			out = append(out, registry.Want{Name: name, Range: version})
		}
	}
	if v := is["react"]; v != "" {
		want("react-dom", v)
		want("@types/react", "^"+strings.SplitN(v, ".", 2)[0])
	}
	if v := is["@angular/core"]; v != "" {
		for _, name := range []string{"common", "platform-browser", "compiler", "compiler-cli"} {
			want("@angular/"+name, v)
		}
		want("@babel/core", "^7")
	}
	return out
}

// asks lists what a package speaks of, needed or not, with the versions.
func asks(ctx context.Context, c *registry.Client, name, version string) map[string]string {
	out := map[string]string{}
	if d, err := c.Package(ctx, name); err == nil && d.Versions[version] != nil {
		for _, list := range []map[string]string{d.Versions[version].PeerDependencies, d.Versions[version].OptionalDependencies} {
			for name, asked := range list {
				out[name] = asked
			}
		}
	}
	return out
}

// lacking lists packages that would have to be there and were not fetched before.
func lacking(a *pack.Archive, err error, before []string) []string {
	out := []string{}
	var lacks *LacksError
	if errors.As(err, &lacks) {
		out = append(out, lacks.Packages...)
	}
	if a != nil {
		for _, m := range a.Meta.Missing {
			if m.Install != "" {
				out = append(out, m.Install)
			}
		}
	}
	slices.Sort(out)
	return slices.DeleteFunc(slices.Compact(out), func(name string) bool {
		return slices.Contains(before, name) || registry.CheckName(name) != nil
	})
}
