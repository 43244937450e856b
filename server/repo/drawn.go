package repo

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/tailscale/hujson"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
	"ubiquant/core/screen"
	"ubiquant/core/source"
	"ubiquant/server/intake"
)

// Making are scripts that make of a repository's own code what a build of the team's would.
type Making struct {
	Classes []byte // style sheets of what classes stand for
	Single  []byte // modules of Vue's single files, and CSS of sheets in Sass
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
	used, handed := map[string]bool{}, map[string][]string{}
	for _, d := range r.W.Docs {
		d.Root.Walk(func(e, _ *screen.Element) bool {
			used[e.Type] = true
			if e.FromCode() {
				handed[e.Type] = append(handed[e.Type], handedOn(e)...)
			}
			return true
		})
	}
	sheets, said := r.sheets()
	app := &intake.App{
		Dir: r.Dir, Sheets: sheets, Handed: handed,
		Paths: r.Survey.Paths, Words: r.Survey.Words, Classes: with.Classes, Single: with.Single,
	}
	var rest []*describe.Catalog
	for i, c := range r.Catalogs {
		switch {
		case i < len(r.Survey.Kits) && r.Survey.Kits[i].Package == "*":
		case i > 0 || len(r.Survey.Kits) == 0 || r.Survey.Kits[0].Folder != "":
			rest = append(rest, c)
		default:
			o.Tell("packing " + c.Name + ", to draw its components")
			dir, at := (&reader{Options: Options{Dir: r.Dir}, packages: r.packages}).dirOf(c.Name)
			base, err := intake.Pack(ctx, intake.Options{Dir: dir, Package: at, Reader: o.Declarations, Node: o.Node, App: app})
			if err != nil {
				said = append(said, fmt.Sprintf("%s is drawn as outlines: %s", c.Name, err))
				continue
			}
			a = base
			said = append(said, missing(a)...)
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
	if a != nil {
		beside := *app
		app, beside.Sheets = &beside, nil // they are with the library
	}
	around := []string{}
	for _, k := range r.Survey.Kits {
		if k.Folder == "" {
			continue
		}
		for _, c := range r.Survey.Around(k.Folder) {
			around = append(around, c.Name)
		}
	}
	own, err := intake.Pack(ctx, intake.Options{Dir: r.Dir, Node: o.Node, App: app, Own: &intake.Own{Catalog: catalog, Around: around}})
	if err != nil {
		return a, append(said, fmt.Sprintf("the components of %s are drawn as outlines: %s", catalog.Name, err))
	}
	said = append(said, missing(own)...)
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

// handedOn are the settings of any element of a page that the code of an element has.
func handedOn(e *screen.Element) (names []string) {
	if e.Origin.Look != "" {
		names = append(names, kit.ClassProp)
	}
	for _, p := range e.Origin.Besides {
		for _, known := range kit.Handed([]string{p.Name}) {
			names = append(names, known.Name)
		}
	}
	return names
}

// mostMissing is how much is said of what could not be packed; Intake lists all of it.
const mostMissing = 12

// missing says what could not be packed.
func missing(a *pack.Archive) (out []string) {
	for i, m := range a.Meta.Missing {
		if i == mostMissing {
			return append(out, fmt.Sprintf("and %d more of %s, listed in Intake", len(a.Meta.Missing)-i, a.Meta.Name))
		}
		out = append(out, m.What+": "+m.Remedy)
	}
	return out
}

// sheets are the style sheets of the application: files of the repository, or modules of packages.
func (r *Repository) sheets() (out, said []string) {
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
		} else {
			said = append(said, s.From+" asks for the style sheet "+s.Spec+", which is not there: it is drawn without")
		}
	}
	for _, file := range r.listed() {
		add(file)
	}
	return out, said
}

// builds is where Angular's applications say what is built.
const builds = "angular.json"

// listed are the style sheets that the settings of a build name: texts, or objects with an input.
func (r *Repository) listed() []string {
	src, err := os.ReadFile(filepath.Join(r.Dir, builds))
	if err != nil {
		return nil
	}
	if src, err = hujson.Standardize(src); err != nil {
		return nil
	}
	var says struct {
		Projects map[string]struct {
			Architect, Targets map[string]struct {
				Options struct{ Styles []json.RawMessage }
			}
		}
	}
	if json.Unmarshal(src, &says) != nil {
		return nil
	}
	var out []string
	for _, name := range slices.Sorted(maps.Keys(says.Projects)) {
		p := says.Projects[name]
		for _, raw := range append(p.Architect["build"].Options.Styles, p.Targets["build"].Options.Styles...) {
			var file string
			var given struct{ Input string }
			if json.Unmarshal(raw, &file) != nil && json.Unmarshal(raw, &given) == nil {
				file = given.Input
			}
			if file != "" {
				out = append(out, strings.TrimPrefix(strings.TrimPrefix(file, "./"), "node_modules/"))
			}
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
