package intake

import (
	"context"
	"encoding/json"
	"fmt"
	"iter"
	"maps"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"

	"github.com/evanw/esbuild/pkg/api"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
	"ubiquant/core/source"
)

// Own is a kit that is a folder of a repository, as the repository was read: it has no package of its
// own, its code is in the making, and the application around it has its styles.
type Own struct {
	Catalog *describe.Catalog // its components; each one's module is a file of the repository
	// Around are components of it that stand around everything, by the names they are exported under.
	Around []string
}

// App is the application that a library is used in, with the styles of its pages.
type App struct {
	Dir    string   // folder of the repository
	Sheets []string // style sheets of whole pages: files of the repository, or modules of packages
	// SheetPaths are folders of the repository in which its build looks for sheets of Sass, too.
	SheetPaths []string
	// Paths are the files of the repository that an import may mean, the likeliest first.
	Paths func(from, spec string) iter.Seq[string]
	// Handed are what its code sets of components, by their ids, besides their props: settings of any element of a page.
	Handed map[string][]string
	// Templates are what its code puts into components as templates, by their ids.
	Templates map[string][]string
	// Words are what may be the name of a class in the code of the application.
	Words func() []string
	// Single is a script that makes modules of Vue's single files, and CSS of sheets in Sass, run by Node; none:
	// they cannot be drawn.
	Single []byte
	// Classes is a script that makes style sheets of classes, run by Node; none: such sheets stay as they are.
	Classes []byte
}

// find follows links, so that files are what they are called.
func (a *App) find() error {
	dir, err := filepath.Abs(a.Dir)
	if err == nil {
		dir, err = filepath.EvalSymlinks(dir)
	}
	a.Dir = dir
	return err
}

// file is a file of the application by its path; empty where there is none, or where it leads out of it.
func (a *App) file(name string) string {
	if a == nil {
		return ""
	}
	return (&library{root: a.Dir}).inside(name)
}

// sheets are its style sheets as they are imported.
func (a *App) sheets() []string {
	out := make([]string, len(a.Sheets))
	for i, sheet := range a.Sheets {
		if out[i] = a.file(sheet); out[i] == "" {
			out[i] = sheet
		}
	}
	return out
}

// applied makes the style sheet of the application around a library, with what belongs to it. What does
// not come along is said, and the library stays as it is.
func (l *library) applied() (sheet []byte, assets map[string][]byte) {
	left := l.App.sheets()
	for len(left) > 0 {
		var entry strings.Builder
		for _, s := range left {
			q, _ := json.Marshal(s)
			fmt.Fprintf(&entry, "import %s\n", q)
		}
		r := l.build(entry.String(), nil, nil)
		if len(r.Errors) == 0 {
			assets = map[string][]byte{}
			for _, f := range r.OutputFiles {
				switch name := path.Base(filepath.ToSlash(f.Path)); name {
				case "kit.css":
					sheet = f.Contents
				case "kit.js":
				default:
					assets[pack.Assets+name] = f.Contents
				}
			}
			return sheet, assets
		}
		before := len(left)
		for _, e := range r.Errors {
			left = slices.DeleteFunc(left, func(s string) bool {
				at := ""
				if e.Location != nil {
					at = filepath.Join(l.Dir, e.Location.File)
				}
				return strings.Contains(e.Text, `"`+s+`"`) || at == s || at != "" && sameFile(at, s)
			})
		}
		what := "the style sheets of the application"
		if len(left) == before {
			left = nil
		}
		l.miss(pack.Missing{What: fmt.Sprintf("%s are not all drawn with: %s", what, r.Errors[0].Text), Remedy: "what they say is left out"})
	}
	return nil, nil
}

// settings notes what the application can set of components besides their props: its classes, which are
// those of its style sheet, and what its code sets.
func (l *library) settings(sheet []byte) {
	l.catalog.Classes = describe.ClassesOf(sheet)
	always := []string{"id", "aria-label"}
	if len(l.catalog.Classes) > 0 {
		always = append(always, kit.ClassProp)
	}
	for i := range l.catalog.Entries {
		e := &l.catalog.Entries[i]
		names := slices.Clone(l.App.Handed[e.ID])
		if l.Drawn != describe.React { // there not every component takes what it does not know
			names = append(names, always...)
		}
		slices.Sort(names)
		e.Handed = slices.Compact(names)
		e.AddTemplates(l.App.Templates[e.ID])
	}
}

func sameFile(a, b string) bool {
	real, err := filepath.EvalSymlinks(a)
	return err == nil && real == b
}

// findOwn takes what is known of the repository's own code as the package that it is not.
func (l *library) findOwn(context.Context) error {
	l.Dir, l.root = l.App.Dir, l.App.Dir
	c := *l.Own.Catalog
	c.Entries = slices.Clone(c.Entries)
	c.Left = slices.Clone(c.Left)
	// What draws knows components by the names that code takes them by.
	by := map[string]string{}
	c.Entries = slices.DeleteFunc(c.Entries, func(e describe.Entry) bool {
		if was, twice := by[e.Export]; twice {
			c.Left = append(c.Left, describe.Left{Where: e.Module, What: fmt.Sprintf("%s is in %s as well: this one is not drawn", e.Export, was)})
			return true
		}
		by[e.Export] = e.Module
		return false
	})
	l.catalog = &c
	l.Drawn = c.Drawn
	l.pkg = packageFile{Name: c.Name, Version: c.Version}
	l.short = describe.Short(path.Base(c.Name))
	l.meta = pack.Meta{
		Name: c.Name, Version: c.Version, Short: l.short, Title: c.Name, Peers: map[string]string{}, Packages: map[string]string{},
		Notes: []string{"the repository's own code, as it stands in " + c.Name},
	}
	return nil
}

// ownModules lists the files that give components, and the style sheets.
func (l *library) ownModules() {
	files := map[string]bool{}
	for _, e := range l.catalog.Entries {
		files[e.Module] = true
	}
	for _, e := range l.catalog.Besides {
		files[e.Module] = true
	}
	l.specs = slices.Sorted(maps.Keys(files))
	l.sheets = l.App.sheets()
	l.meta.Styles = l.App.Sheets
}

// endings are what an import may leave out of a file's name.
var endings = []string{"", ".tsx", ".ts", ".jsx", ".js", ".vue", ".mts", ".mjs", ".css", ".scss", "/index.tsx", "/index.ts", "/index.jsx", "/index.js", "/index.vue"}

var bareStyle = regexp.MustCompile(`\.(less|styl)$`)

// ownFiles has what a bundler of the team's does for its own files done here: aliases, styles that
// are written in classes, frameworks that want something around them.
func (l *library) ownFiles(b api.PluginBuild) {
	rel := func(file string) (string, bool) {
		out, err := filepath.Rel(l.App.Dir, file)
		out = filepath.ToSlash(out)
		return out, err == nil && !strings.HasPrefix(out, "../") && !strings.Contains("/"+out, "/node_modules/")
	}
	b.OnResolve(api.OnResolveOptions{Filter: `^[^.]`}, func(a api.OnResolveArgs) (api.OnResolveResult, error) {
		if strings.HasPrefix(a.Path, "styles-of:") || strings.HasPrefix(a.Path, "ubiquant:") {
			return api.OnResolveResult{}, nil
		}
		if stand, ok := standsFor[a.Path]; ok {
			return api.OnResolveResult{Path: stand, Namespace: "stands"}, nil
		}
		from, own := rel(a.Importer)
		if !own || l.App.Paths == nil || filepath.IsAbs(a.Path) && l.App.file(strings.TrimPrefix(a.Path, l.App.Dir)) != "" {
			return api.OnResolveResult{}, nil
		}
		spec, query, _ := strings.Cut(a.Path, "?")
		for p := range l.App.Paths(from, spec) {
			for _, end := range endings {
				if file := l.App.file(p + end); file != "" {
					return api.OnResolveResult{Path: file, Suffix: suffix(query)}, nil
				}
			}
		}
		return api.OnResolveResult{}, nil
	})
	b.OnLoad(api.OnLoadOptions{Filter: ".*", Namespace: "stands"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
		text, err := adapters.ReadFile("adapters/" + a.Path)
		src := string(text)
		return api.OnLoadResult{Contents: &src, ResolveDir: l.App.Dir, Loader: api.LoaderJS}, err
	})
	var once sync.Mutex // sheets are made one after the other: each takes a process
	b.OnLoad(api.OnLoadOptions{Filter: `\.(css|scss|sass)$`, Namespace: "file"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
		name, own := rel(a.Path)
		sass := path.Ext(a.Path) != ".css"
		if !own && !sass {
			return api.OnLoadResult{}, nil
		}
		once.Lock()
		defer once.Unlock()
		text, made, err := l.sheetOf(a.Path, name, sass)
		if err != nil {
			l.miss(pack.Missing{What: fmt.Sprintf("%s is not drawn with: %s", name, err), Remedy: "its classes look like nothing here"})
			text = ""
		} else if !made {
			return api.OnLoadResult{}, nil
		}
		loader := api.LoaderCSS
		if strings.Contains(path.Base(a.Path), ".module.") {
			loader = api.LoaderLocalCSS
		}
		return api.OnLoadResult{Contents: &text, Loader: loader, ResolveDir: filepath.Dir(a.Path)}, nil
	})
	l.singles(b, rel)
	b.OnLoad(api.OnLoadOptions{Filter: bareStyle.String(), Namespace: "file"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
		name, own := rel(a.Path)
		if !own {
			return api.OnLoadResult{}, nil
		}
		l.miss(pack.Missing{What: name + " is written in another language than CSS, and left out", Remedy: "name the sheet that is built of it with --style"})
		text := ""
		return api.OnLoadResult{Contents: &text, Loader: api.LoaderCSS}, nil
	})
}

// sheetOf is the CSS of a style sheet that a build makes something of; made is false for one that is CSS as
// it stands.
func (l *library) sheetOf(file, name string, sass bool) (text string, made bool, err error) {
	src, err := readFile(file, 4<<20)
	if err != nil {
		return "", false, err
	}
	if text = string(src); sass {
		if text, err = l.ofSass(file, name); err != nil {
			return "", true, err
		}
	}
	if !madeOfClasses.MatchString(text) {
		return text, sass, nil
	}
	text, err = l.ofClasses(file, name, text)
	return text, true, err
}

func suffix(query string) string {
	if query == "" {
		return ""
	}
	return "?" + query
}

// miss notes what lacks, once.
func (l *library) miss(m pack.Missing) {
	l.missing.Lock()
	defer l.missing.Unlock()
	if !slices.Contains(l.meta.Missing, m) {
		l.meta.Missing = append(l.meta.Missing, m)
	}
}

// standsFor are modules of frameworks that want their own server or an application around them, and
// what is taken in their place so that components that speak of them can be drawn alone.
var standsFor = map[string]string{
	"next/link": "next-link.js", "next/image": "next-image.js", "next/navigation": "next-navigation.js", "next/router": "next-navigation.js",
	"next/dynamic": "next-dynamic.js", "next/font/google": "next-font.js", "next/font/local": "next-font.js",
}

// loaders are those of files that are no code; a repository's own scripts may have markup in them.
func (l *library) loaders() map[string]api.Loader {
	if l.Own == nil {
		return loaders
	}
	out := maps.Clone(loaders)
	out[".js"] = api.LoaderJSX
	return out
}

// jsx is how markup in scripts is made elements where no settings of the repository say so.
func (l *library) jsx() api.JSX {
	if l.Own == nil {
		return api.JSXTransform
	}
	return api.JSXAutomatic
}

// stands writes what stands around components of the repository's own: what they cannot be without, and
// a router's memory where they ask for a router.
func (l *library) stands(b *strings.Builder) {
	b.WriteString("const setup = []\nconst settings = undefined\n")
	if l.Drawn != describe.React {
		b.WriteString("const wrap = undefined\n")
		return
	}
	b.WriteString("import { createElement as around } from 'react'\n")
	list := []string{}
	for _, name := range []string{"react-router-dom", "react-router"} {
		if _, ok := l.installed(name); ok && l.asks(name) {
			q, _ := json.Marshal(name)
			fmt.Fprintf(b, "import { MemoryRouter } from %s\n", q)
			list = append(list, "MemoryRouter")
			l.meta.Notes = append(l.meta.Notes, "a router that remembers stands around everything, as components ask for one of "+name)
			break
		}
	}
	for _, name := range l.Own.Around {
		if slices.ContainsFunc(l.catalog.Entries, func(e describe.Entry) bool { return e.Export == name }) {
			q, _ := json.Marshal(name)
			list = append(list, "components["+string(q)+"]")
			l.meta.Notes = append(l.meta.Notes, name+" stands around everything")
		}
	}
	if len(list) == 0 {
		b.WriteString("const wrap = undefined\n")
		return
	}
	fmt.Fprintf(b, "const wrap = ({ children }) => [%s].reduceRight((inner, C) => (C ? around(C, null, inner) : inner), children)\n", strings.Join(list, ", "))
}

// asks reports whether a file that gives components imports a package.
func (l *library) asks(pkg string) bool {
	imports := regexp.MustCompile(`["']` + regexp.QuoteMeta(pkg) + `["']`)
	return slices.ContainsFunc(l.specs, func(spec string) bool {
		src, err := readFile(l.inside(spec), 4<<20)
		return err == nil && imports.Match(src)
	})
}

// without leaves out what stands in files that cannot be bundled. True where there are any.
func (l *library) without(errs []api.Message) bool {
	some := false
	for _, e := range errs {
		if e.Location == nil {
			continue
		}
		file := filepath.ToSlash(e.Location.File)
		reached := l.reaching(file)
		for i, n := 0, len(l.catalog.Entries); i < n; i++ {
			if entry := l.catalog.Entries[i]; slices.Contains(reached, entry.Module) {
				l.miss(pack.Missing{What: fmt.Sprintf("%s cannot be drawn: %s:%d: %s", entry.Export, file, e.Location.Line, e.Text), For: entry.ID, Remedy: "it is drawn as an outline"})
			}
		}
		before := len(l.catalog.Entries)
		l.catalog.Entries = slices.DeleteFunc(l.catalog.Entries, func(e describe.Entry) bool { return slices.Contains(reached, e.Module) })
		some = some || len(l.catalog.Entries) < before
	}
	if len(l.catalog.Entries) == 0 {
		return false // nothing would be left: the errors say why
	}
	l.specs = slices.DeleteFunc(l.specs, func(file string) bool {
		return !slices.ContainsFunc(l.catalog.Entries, func(e describe.Entry) bool { return e.Module == file }) &&
			!slices.ContainsFunc(l.catalog.Besides, func(e describe.Beside) bool { return e.Module == file })
	})
	return some
}

// reaching are the modules that give components and cannot do without a file: the file itself, else
// those that fail when they are bundled alone for it.
func (l *library) reaching(file string) []string {
	if slices.Contains(l.specs, file) {
		return []string{file}
	}
	all, entries, sheets := l.specs, l.catalog.Entries, l.sheets
	defer func() { l.specs, l.catalog.Entries, l.sheets = all, entries, sheets }()
	l.sheets = nil
	var out []string
	for _, one := range all {
		l.specs = []string{one}
		l.catalog.Entries = slices.DeleteFunc(slices.Clone(entries), func(e describe.Entry) bool { return e.Module != one })
		r := l.build(l.entry(), nil, nil)
		if slices.ContainsFunc(r.Errors, func(m api.Message) bool { return m.Location != nil && filepath.ToSlash(m.Location.File) == file }) {
			out = append(out, one)
		}
	}
	return out
}

// unasked says of a package that somebody else's code imports that it is not asked for.
func (l *library) unasked() string {
	if l.Own != nil {
		return ""
	}
	return " without asking for it"
}

// Joined is one description of several: the components of the first, and those of the others that are
// used, as far as one framework draws them all and they are installed, with pictures of other packages
// besides. left says what does not go in.
func Joined(dir string, list []*describe.Catalog, used func(id string) bool, besides []describe.Beside) (c *describe.Catalog, left []string) {
	first := *list[0]
	first.Entries = slices.Clone(first.Entries)
	l := &library{Options: Options{Dir: dir}, root: dir}
	for _, other := range list[1:] {
		n := 0
		for _, e := range other.Entries {
			if !used(e.ID) || e.Export == "" {
				continue
			}
			if other.Drawn != first.Drawn {
				n++
				continue
			}
			if pkg := source.PackageOf(e.Module); l.inside(e.Module) == "" {
				if _, ok := l.installed(pkg); !ok {
					n++
					continue
				}
			}
			first.Entries = append(first.Entries, e)
		}
		if n > 0 {
			left = append(left, fmt.Sprintf("%d components of %s", n, other.Name))
		}
	}
	for _, e := range besides {
		if _, ok := l.installed(source.PackageOf(e.Module)); ok {
			first.Besides = append(first.Besides, e)
		}
	}
	return &first, left
}
