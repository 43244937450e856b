package repo

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"os"
	"path"
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
	said = append(said, r.On(k)...)
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
	used, handed, templates := map[string]int{}, map[string][]string{}, map[string][]string{}
	for _, d := range r.W.Docs {
		d.Root.Walk(func(e, _ *screen.Element) bool {
			used[e.Type]++
			if e.FromCode() {
				handed[e.Type] = append(handed[e.Type], handedOn(e)...)
			}
			for _, c := range e.Children {
				if kit.IsTemplate(c.Slot) {
					templates[e.Type] = append(templates[e.Type], c.Slot)
				}
			}
			return true
		})
	}
	sheets, paths, said := r.sheets()
	app := &intake.App{
		Dir: r.Dir, Sheets: sheets, SheetPaths: paths, Handed: handed, Templates: templates,
		Paths: r.Survey.Paths, Words: r.Survey.Words, Classes: with.Classes, Single: with.Single,
	}
	library := func(c *describe.Catalog, app *intake.App) (*pack.Archive, error) {
		o.Tell("packing " + c.Name + ", to draw its components")
		dir, at := (&reader{Options: Options{Dir: r.Dir}, packages: r.packages}).dirOf(c.Name)
		return intake.Pack(ctx, intake.Options{Dir: dir, Package: at, Reader: o.Declarations, Node: o.Node, App: app})
	}
	outlined := func(c *describe.Catalog, why any) {
		said = append(said, fmt.Sprintf("the components of %s are drawn as outlines: %v", c.Name, why))
	}
	lead := r.drawsMost(used)
	first := lead
	if lead >= 0 && r.folder(lead) {
		first = -1 // it is drawn as its code stands there, with what else is used
	}
	if first >= 0 {
		c, err := r.Catalogs[first], error(nil)
		if a, err = library(c, app); err != nil {
			outlined(c, err)
		} else {
			said = append(said, missing(a)...)
		}
	}
	var rest []*describe.Catalog
	for i, c := range r.Catalogs {
		switch {
		case i == first || r.loose(i) || usesOf(c, used) == 0:
		case c.Drawn == describe.React || c.Drawn == describe.Vue:
			if !slices.ContainsFunc(c.Entries, func(e describe.Entry) bool { return used[e.ID] > 0 && e.Export != "" }) {
				continue
			}
			if a != nil && a.Meta.Drawn != c.Drawn && a.Meta.Drawn != describe.Elements {
				outlined(c, fmt.Sprintf("they are drawn by %s, and %s by %s", c.Drawn, a.Meta.Name, a.Meta.Drawn))
				continue
			}
			rest = append(rest, c)
		case r.folder(i):
			outlined(c, fmt.Sprintf("of a folder of the repository, those of %s are not drawn", c.Drawn))
		case a == nil:
			outlined(c, "what draws the others could not be packed")
		case c.Drawn != describe.Elements && c.Drawn != a.Meta.Drawn:
			outlined(c, fmt.Sprintf("they are drawn by %s, and %s by %s", c.Drawn, a.Meta.Name, a.Meta.Drawn))
		default:
			one, err := library(c, nil)
			if err != nil {
				outlined(c, err)
				continue
			}
			said = append(said, missing(one)...)
			both, err := beside(a, one)
			if err != nil {
				outlined(c, err)
				continue
			}
			a = both
		}
	}
	if len(rest) == 0 {
		return a, said
	}
	if lead >= 0 && first < 0 { // the others join it
		if at := slices.Index(rest, r.Catalogs[lead]); at > 0 {
			rest = slices.Insert(slices.Delete(rest, at, at+1), 0, r.Catalogs[lead])
		}
	}
	catalog, left := intake.Joined(r.Dir, rest, func(id string) bool { return used[id] > 0 }, r.Besides)
	for _, what := range left {
		said = append(said, what+" are drawn as outlines")
	}
	if a != nil { // beside a library only what is used of the rest
		catalog.Entries = slices.DeleteFunc(catalog.Entries, func(e describe.Entry) bool { return used[e.ID] == 0 })
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
		outlined(catalog, err)
		return a, said
	}
	said = append(said, missing(own)...)
	if a == nil {
		return own, said
	}
	both, err := beside(a, own)
	if err != nil {
		outlined(catalog, err)
		return a, said
	}
	return both, said
}

// beside puts all of another archive beside one.
func beside(a, other *pack.Archive) (*pack.Archive, error) {
	part := pack.Part{Archive: other}
	for _, e := range other.Catalog.Entries {
		part.Use.Components = append(part.Use.Components, e.ID)
	}
	return a.Beside(append(slices.Clone(a.Parts), part))
}

// loose tells whether a catalog stands for what no import and no library explains.
func (r *Repository) loose(catalog int) bool {
	return catalog < len(r.Survey.Kits) && r.Survey.Kits[catalog].Loose()
}

// folder tells whether a catalog is of a folder of the repository.
func (r *Repository) folder(catalog int) bool {
	return catalog < len(r.Survey.Kits) && r.Survey.Kits[catalog].Folder != ""
}

// drawsMost is which catalog the screens stand on, of a library or of a folder of the repository that can
// be drawn itself: the one that settings name first, else the one that is used most; -1 for none.
func (r *Repository) drawsMost(used map[string]int) int {
	best, most := -1, 0
	for i, c := range r.Catalogs {
		n := usesOf(c, used)
		if r.loose(i) || n == 0 || r.folder(i) && c.Drawn != describe.React && c.Drawn != describe.Vue {
			continue
		}
		if n > most {
			best, most = i, n
		}
		if len(r.Settings.Kits) > 0 {
			break
		}
	}
	return best
}

// usesOf is how often what a catalog describes is used.
func usesOf(c *describe.Catalog, used map[string]int) (n int) {
	for i := range c.Entries {
		n += used[c.Entries[i].ID]
	}
	return n
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

// sheets are the style sheets of the application, files of the repository or modules of packages, and the
// folders in which its build looks for what they ask for.
func (r *Repository) sheets() (out, paths, said []string) {
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
	listed, paths := r.listed()
	for _, file := range listed {
		add(file)
	}
	return out, paths, said
}

// builds is where Angular's applications say what is built.
const builds = "angular.json"

// listed are the style sheets that the settings of a build name, texts or objects with an input, and the
// folders in which it looks for what they ask for.
func (r *Repository) listed() (sheets, paths []string) {
	src, err := os.ReadFile(filepath.Join(r.Dir, builds))
	if err != nil {
		return nil, nil
	}
	if src, err = hujson.Standardize(src); err != nil {
		return nil, nil
	}
	type build struct {
		Options struct {
			Styles                   []json.RawMessage
			StylePreprocessorOptions struct{ IncludePaths []string }
		}
	}
	var says struct {
		Projects map[string]struct{ Architect, Targets map[string]build }
	}
	if json.Unmarshal(src, &says) != nil {
		return nil, nil
	}
	for _, name := range slices.Sorted(maps.Keys(says.Projects)) {
		p := says.Projects[name]
		for _, of := range []build{p.Architect["build"], p.Targets["build"]} {
			paths = append(paths, of.Options.StylePreprocessorOptions.IncludePaths...)
			for _, raw := range of.Options.Styles {
				var file string
				var given struct{ Input string }
				if json.Unmarshal(raw, &file) != nil && json.Unmarshal(raw, &given) == nil {
					file = given.Input
				}
				if file != "" {
					sheets = append(sheets, strings.TrimPrefix(strings.TrimPrefix(file, "./"), "node_modules/"))
				}
			}
		}
	}
	return sheets, paths
}

func (r *Repository) fileOf(s source.Sheet) (string, bool) {
	list := slices.Collect(r.Survey.Paths(s.From, s.Spec))
	if strings.HasPrefix(s.Spec, "/") { // what is served as it lies there
		list = append(list, path.Join(".", s.Spec), path.Join("public", s.Spec), path.Join("static", s.Spec))
	}
	for _, p := range list {
		if info, err := os.Stat(filepath.Join(r.Dir, filepath.FromSlash(p))); err == nil && info.Mode().IsRegular() {
			return p, true
		} else if err != nil && !errors.Is(err, os.ErrNotExist) {
			continue
		}
	}
	return "", false
}
