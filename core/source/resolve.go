package source

import (
	"iter"
	"path"
	"slices"
	"strings"
)

// File is a file of the repository.
type File struct {
	Path string // from the repository's root, with slashes
	Text []byte
	*Module
}

// Package is a package.json of the repository, where others import it by its name.
type Package struct {
	Name    string
	Dir     string            // "" at the root
	Entries map[string]string // what its exports lead to: "." -> "src/index.ts"
	Needs   map[string]string // dependencies of all kinds
}

// Alias leads a prefix of specifiers to folders: "@/" to "src/".
type Alias struct {
	Prefix, Suffix string // a specifier is Prefix + rest + Suffix; without a star both are all of it
	Star           bool
	Within         string   // the folder whose files it holds for
	To             []string // paths, a star in them stands for the rest
}

// Found is what a name in code means.
type Found struct {
	Package, Export string     // of an external package
	Module          string     // specifier by which it was imported
	File            *File      // or of a file of the repository
	Component       *Component // of that file
}

// graph follows names through files.
type graph struct {
	files    map[string]*File
	packages []Package
	aliases  []Alias
	found    map[[3]string]Found
}

func newGraph(files []*File, packages []Package, aliases []Alias) *graph {
	g := &graph{files: map[string]*File{}, packages: packages, aliases: slices.Clone(aliases), found: map[[3]string]Found{}}
	for _, f := range files {
		g.files[f.Path] = f
	}
	// The more of a specifier an alias names, and the nearer its folder, the sooner it is asked.
	slices.SortStableFunc(g.aliases, func(a, b Alias) int {
		if d := len(b.Within) - len(a.Within); d != 0 {
			return d
		}
		return len(b.Prefix) - len(a.Prefix)
	})
	return g
}

// endings are what a specifier may leave out.
var endings = []string{"", ".tsx", ".ts", ".jsx", ".js", ".vue", ".mts", ".mjs", "/index.tsx", "/index.ts", "/index.jsx", "/index.js", "/index.vue", "/index.mts"}

// file finds a file by its path without what may be left out.
func (g *graph) file(p string) (*File, bool) {
	p = strings.TrimPrefix(path.Clean("/"+p), "/")
	for _, e := range endings {
		if f, ok := g.files[p+e]; ok {
			return f, true
		}
	}
	// ./button.js is written where button.ts stands.
	if base, ok := strings.CutSuffix(p, ".js"); ok {
		return g.file(base)
	}
	return nil, false
}

// PackageOf is the package that a specifier names: "@acme/ui/button" is of "@acme/ui".
func PackageOf(spec string) string {
	parts := strings.SplitN(spec, "/", 3)
	if strings.HasPrefix(spec, "@") && len(parts) > 1 {
		return parts[0] + "/" + parts[1]
	}
	return parts[0]
}

// module finds the file that a specifier means, seen from a file. ok is false for packages
// that are not of the repository.
func (g *graph) module(from *File, spec string) (*File, bool) {
	for p := range g.paths(from.Path, spec) {
		if f, ok := g.file(p); ok {
			return f, true
		}
	}
	return nil, false
}

// paths are the files of the repository that a specifier may mean, seen from a file, the likeliest
// first; what a specifier may leave out of a name is left out.
func (g *graph) paths(from, spec string) iter.Seq[string] {
	return func(yield func(string) bool) {
		if strings.HasPrefix(spec, ".") {
			yield(path.Join(path.Dir(from), spec))
			return
		}
		// "/src/ui/Button" is from the root of the package that is served.
		if strings.HasPrefix(spec, "/") {
			for _, p := range g.packages {
				if (p.Dir == "" || strings.HasPrefix(from, p.Dir+"/")) && !yield(path.Join(p.Dir, spec)) {
					return
				}
			}
		}
		for i := range g.aliases {
			a := &g.aliases[i]
			if a.Within != "" && !strings.HasPrefix(from, a.Within+"/") {
				continue
			}
			rest := ""
			if a.Star {
				if len(spec) < len(a.Prefix)+len(a.Suffix) || !strings.HasPrefix(spec, a.Prefix) || !strings.HasSuffix(spec, a.Suffix) {
					continue
				}
				rest = spec[len(a.Prefix) : len(spec)-len(a.Suffix)]
			} else if spec != a.Prefix {
				continue
			}
			for _, to := range a.To {
				if !yield(strings.Replace(to, "*", rest, 1)) {
					return
				}
			}
		}
		name := PackageOf(spec)
		for i := range g.packages {
			p := &g.packages[i]
			if p.Name != name || p.Name == "" {
				continue
			}
			rest := strings.TrimPrefix(strings.TrimPrefix(spec, name), "/")
			tries := []string{}
			if e, ok := p.Entries["./"+rest]; ok && rest != "" {
				tries = append(tries, e)
			}
			if e, ok := p.Entries["."]; ok && rest == "" {
				tries = append(tries, e)
			}
			tries = append(tries, path.Join("src", rest), rest, path.Join("src/components", rest), path.Join("lib", rest))
			for _, t := range tries {
				// What is built leads back to what it is built from.
				for _, v := range []string{t, strings.Replace(t, "dist/", "src/", 1), strings.Replace(t, "lib/", "src/", 1)} {
					v = strings.TrimSuffix(strings.TrimSuffix(strings.TrimSuffix(v, ".d.ts"), ".mjs"), ".cjs")
					if !yield(path.Join(p.Dir, v)) {
						return
					}
				}
			}
		}
	}
}

// Name finds what a name means in a file, as it is written in markup: "Button", "Tabs.List".
func (g *graph) Name(f *File, name string) (Found, bool) {
	key := [3]string{f.Path, "local", name}
	if out, ok := g.found[key]; ok {
		return out, out != (Found{})
	}
	g.found[key] = Found{} // names that lead to themselves lead nowhere
	out := g.local(f, name)
	g.found[key] = out
	return out, out != (Found{})
}

func (g *graph) local(f *File, name string) Found {
	for _, c := range f.Components {
		if c.Name == name {
			return g.real(Found{File: f, Component: c})
		}
	}
	for _, n := range f.Names {
		if n.Name == name && n.Means != name {
			if out, ok := g.Name(f, n.Means); ok {
				return out
			}
		}
	}
	head, rest, dotted := strings.Cut(name, ".")
	for _, i := range f.Imports {
		if i.Local != head || i.From == "" {
			continue
		}
		if !dotted {
			return g.from(f, i.From, i.Name)
		}
		if i.Name == "*" {
			return g.from(f, i.From, rest)
		}
		return g.from(f, i.From, i.Name+"."+rest)
	}
	if !dotted {
		return Found{}
	}
	// A part of what has another name, or of what stands in the file.
	for _, n := range f.Names {
		if n.Name == head {
			if out, ok := g.Name(f, n.Means+"."+rest); ok {
				return out
			}
		}
	}
	if whole, ok := g.Name(f, head); ok && whole.Component != nil {
		return g.within(whole, rest)
	}
	return Found{}
}

// within is a part of what was found: the list of tabs.
func (g *graph) within(whole Found, rest string) Found {
	switch {
	case whole.Package != "" && whole.Export == "default" && whole.Module == whole.Package:
		whole.Export = rest // all that a library gives, under one name
		return whole
	case whole.Package != "":
		whole.Export += "." + rest
		return whole
	}
	if whole.File != nil {
		name := whole.Component.Name + "." + rest
		for _, c := range whole.File.Components {
			if c.Name == name {
				return Found{File: whole.File, Component: c}
			}
		}
		// Tabs.List, of what is called TabsList
		joined := whole.Component.Name + strings.ReplaceAll(rest, ".", "")
		for _, c := range whole.File.Components {
			if c.Name == joined {
				return Found{File: whole.File, Component: c}
			}
		}
	}
	return Found{}
}

// from is what a module gives under a name.
func (g *graph) from(f *File, spec, name string) Found {
	to, ok := g.module(f, spec)
	if !ok {
		if strings.HasPrefix(spec, ".") || strings.HasPrefix(spec, "/") {
			return Found{} // of the repository, and not there
		}
		pkg := PackageOf(spec)
		if part, ok := strings.CutPrefix(name, "default."); ok {
			return g.within(g.from(f, spec, "default"), part)
		}
		if name == "default" {
			// A module a component: its last part is the component's name.
			if spec == pkg {
				return Found{Package: pkg, Export: "default", Module: spec}
			}
			base := path.Base(spec)
			return Found{Package: pkg, Export: strings.TrimSuffix(base, path.Ext(base)), Module: spec}
		}
		return Found{Package: pkg, Export: name, Module: spec}
	}
	return g.exported(to, name)
}

// exported is what a file exports under a name.
func (g *graph) exported(f *File, name string) Found {
	key := [3]string{f.Path, "export", name}
	if out, ok := g.found[key]; ok {
		return out
	}
	g.found[key] = Found{}
	out := g.export(f, name)
	g.found[key] = out
	return out
}

func (g *graph) export(f *File, name string) Found {
	if head, rest, ok := strings.Cut(name, "."); ok {
		return g.exportedPart(f, head, rest)
	}
	for _, c := range f.Components {
		if slices.Contains(c.Exported, name) {
			return g.real(Found{File: f, Component: c})
		}
	}
	for _, e := range f.Exports {
		if e.Name != name || e.Name == "*" {
			continue
		}
		if e.From != "" {
			if e.Local == "*" {
				return Found{}
			}
			return g.from(f, e.From, e.Local)
		}
		if out, ok := g.Name(f, e.Local); ok {
			return out
		}
	}
	for _, e := range f.Exports {
		if e.Name == "*" && e.From != "" && name != "default" {
			if out := g.from(f, e.From, name); out != (Found{}) {
				// A package that is passed on whole may well have no such name; a file comes first.
				if out.Package == "" || !g.elsewhere(f, e, name) {
					return out
				}
			}
		}
	}
	return Found{}
}

// renames reports whether a component is another name of something and no more, as of
// const Close = Dialog.Close.
func (c *Component) renames() bool {
	return len(c.Roots) == 1 && c.Roots[0].Passes && len(c.Roots[0].Attributes) == 0 && holesOnly(c.Roots[0]) && c.Roots[0].Name != c.Name
}

// real is the component of the repository that one is another name of.
func (g *graph) real(f Found) Found {
	if f.Component.renames() {
		if out, ok := g.Name(f.File, f.Component.Roots[0].Name); ok && out.Component != nil {
			return out
		}
	}
	return f
}

// exportedPart is a part of what a file exports: "Item" of "Form", by what is exported under that
// name, which may be called otherwise in the file, or be from another.
func (g *graph) exportedPart(f *File, head, rest string) Found {
	if out, ok := g.Name(f, head+"."+rest); ok && head == "default" {
		return out
	}
	for _, e := range f.Exports {
		if e.Name != head || e.Name == "*" {
			continue
		}
		switch {
		case e.From != "" && e.Local == "*":
			return g.from(f, e.From, rest)
		case e.From != "":
			return g.from(f, e.From, e.Local+"."+rest)
		}
		if out, ok := g.Name(f, e.Local+"."+rest); ok {
			return out
		}
	}
	for _, e := range f.Exports {
		if e.Name == "*" && e.From != "" && head != "default" {
			if out := g.from(f, e.From, head+"."+rest); out.File != nil || out.Package != "" && !g.elsewhere(f, e, head) {
				return out
			}
		}
	}
	return g.within(g.exported(f, head), rest)
}

// elsewhere tells whether another star of a file leads to a component of the repository.
func (g *graph) elsewhere(f *File, not Export, name string) bool {
	for _, e := range f.Exports {
		if e.Name == "*" && e.From != "" && e != not {
			if out := g.from(f, e.From, name); out.File != nil {
				return true
			}
		}
	}
	return false
}

// Target is what a route shows.
func (g *graph) Target(f *File, t Target) (Found, bool) {
	if t.Local != "" {
		return g.Name(f, t.Local)
	}
	if t.From != "" {
		out := g.from(f, t.From, t.Name)
		if out == (Found{}) && t.Name == "default" {
			// A module with Component for the router, or with one component only.
			if to, ok := g.module(f, t.From); ok {
				if out = g.exported(to, "Component"); out == (Found{}) && len(to.Components) == 1 {
					out = Found{File: to, Component: to.Components[0]}
				}
			}
		}
		return out, out != (Found{})
	}
	return Found{}, false
}
