package repo

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"

	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
	"ubiquant/core/screen"
	"ubiquant/core/source"
	"ubiquant/server/intake"
)

// Making are scripts that make of a repository's own code what a build of the team's would.
type Making struct {
	Classes []byte // style sheets of what classes stand for
	Single  []byte // modules of Vue's single files
}

// Drawn puts the repository's workspace on what draws it: an archive, where there is one, else what can be
// packed of its kits; what neither has is an outline. said tells what is not drawn as it is, and why.
func (r *Repository) Drawn(ctx context.Context, o Options, with Making, a *pack.Archive) (drawn *pack.Archive, said []string, err error) {
	if a == nil {
		a, said = r.Pack(ctx, o, with)
	}
	a, undrawn, err := pack.Outlined(a, r.Kit)
	if err != nil {
		return nil, said, err
	}
	for _, tag := range undrawn {
		said = append(said, "left out of the outlines: "+tag)
	}
	k, err := a.Kit()
	if err != nil {
		return nil, said, err
	}
	for _, l := range r.On(k) {
		said = append(said, "not of "+k.Name+", and plain there: "+l)
	}
	r.W.Kit.Hash = a.Hash()
	return a, said, nil
}

// Pack packs what draws the components of the repository's kits: a library as it is installed, with
// what else is used of the same framework beside it; a folder of the repository as its code stands
// there, with the styles of the application. said tells what is left out, and why. The archive is nil
// where nothing of it can be packed.
func (r *Repository) Pack(ctx context.Context, o Options, with Making) (a *pack.Archive, said []string) {
	if o.Tell == nil {
		o.Tell = func(string) {}
	}
	used := map[string]bool{}
	for _, d := range r.W.Docs {
		d.Root.Walk(func(e, _ *screen.Element) bool {
			used[e.Type] = true
			return true
		})
	}
	var rest []*describe.Catalog
	for i, c := range r.Catalogs {
		switch {
		case i < len(r.Survey.Kits) && r.Survey.Kits[i].Package == "*":
		case i > 0 || r.Survey.Kits[0].Folder != "":
			rest = append(rest, c)
		default:
			o.Tell("packing " + c.Name + ", to draw its components")
			dir, at := (&reader{Options: Options{Dir: r.Dir}, packages: r.packages}).dirOf(c.Name)
			base, err := intake.Pack(ctx, intake.Options{Dir: dir, Package: at, Reader: o.Declarations, Node: o.Node})
			if err != nil {
				said = append(said, fmt.Sprintf("%s is drawn as outlines: %s", c.Name, err))
				continue
			}
			a = base
		}
	}
	rest = slices.DeleteFunc(rest, func(c *describe.Catalog) bool {
		return !slices.ContainsFunc(c.Entries, func(e describe.Entry) bool { return used[e.ID] && e.Export != "" }) ||
			c.Drawn != describe.React && c.Drawn != describe.Vue || a != nil && a.Meta.Drawn != c.Drawn && a.Meta.Drawn != describe.Elements
	})
	if len(rest) == 0 {
		return a, said
	}
	catalog, left := intake.Joined(r.Dir, rest, func(id string) bool { return used[id] }, r.Besides)
	for _, what := range left {
		said = append(said, what+" are drawn as outlines")
	}
	if a != nil { // beside a library only what is used of the rest
		catalog.Entries = slices.DeleteFunc(catalog.Entries, func(e describe.Entry) bool { return !used[e.ID] })
	}
	o.Tell("packing " + catalog.Name + ", to draw its components")
	around := []string{}
	for _, k := range r.Survey.Kits {
		if k.Folder == "" {
			continue
		}
		for _, c := range r.Survey.Around(k.Folder) {
			around = append(around, c.Name)
		}
	}
	own, err := intake.Pack(ctx, intake.Options{Dir: r.Dir, Node: o.Node, Own: &intake.Own{
		Catalog: catalog, Around: around, Sheets: r.sheets(), Paths: r.Survey.Paths, Words: r.Survey.Words, Classes: with.Classes, Single: with.Single,
	}})
	if err != nil {
		return a, append(said, fmt.Sprintf("the components of %s are drawn as outlines: %s", catalog.Name, err))
	}
	for _, m := range own.Meta.Missing {
		said = append(said, m.What+": "+m.Remedy)
	}
	if a == nil {
		return own, said
	}
	part := pack.Part{Archive: own}
	for _, e := range own.Catalog.Entries {
		part.Use.Components = append(part.Use.Components, e.ID)
	}
	both, err := a.Beside(append(slices.Clone(a.Parts), part))
	if err != nil {
		return a, append(said, fmt.Sprintf("the components of %s are drawn as outlines: %s", catalog.Name, err))
	}
	return both, said
}

// sheets are the style sheets of the application: files of the repository, or modules of packages.
func (r *Repository) sheets() []string {
	var out []string
	add := func(s string) {
		if !slices.Contains(out, s) {
			out = append(out, s)
		}
	}
	for _, s := range r.Survey.Sheets() {
		if file, ok := r.fileOf(s); ok {
			add(file)
		} else if s.Spec[0] != '.' && s.Spec[0] != '/' {
			add(s.Spec)
		}
	}
	return out
}

func (r *Repository) fileOf(s source.Sheet) (string, bool) {
	for p := range r.Survey.Paths(s.From, s.Spec) {
		if info, err := os.Stat(filepath.Join(r.Dir, filepath.FromSlash(p))); err == nil && info.Mode().IsRegular() {
			return p, true
		} else if err != nil && !errors.Is(err, os.ErrNotExist) {
			continue
		}
	}
	return "", false
}
