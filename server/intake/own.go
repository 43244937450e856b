package intake

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"iter"
	"maps"
	"os"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"

	"github.com/evanw/esbuild/pkg/api"

	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
)

// Own is a kit that is a folder of a repository, as the repository was read: it has no package of its
// own, its code is in the making, and the application around it has its styles.
type Own struct {
	Catalog *describe.Catalog // its components; each one's module is a file of the repository
	Sheets  []string          // style sheets of the application: files of the repository, or modules of packages
	// Around are components of it that stand around everything, by the names they are exported under.
	Around []string
	// Paths are the files of the repository that an import may mean, the likeliest first.
	Paths func(from, spec string) iter.Seq[string]
	// Words are what may be the name of a class in the code of the application.
	Words func() []string
	// Single is a script that makes modules of Vue's single files, run by Node; none: they cannot be drawn.
	Single []byte
	// Classes is a script that makes style sheets of classes, run by Node; none: such sheets stay as they are.
	Classes []byte
}

// findOwn takes what is known of the repository's own code as the package that it is not.
func (l *library) findOwn(context.Context) error {
	dir, err := filepath.Abs(l.Dir)
	if err == nil {
		dir, err = filepath.EvalSymlinks(dir)
	}
	if err != nil {
		return err
	}
	l.Dir, l.root = dir, dir
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
	for _, sheet := range l.Own.Sheets {
		if file := l.inside(sheet); file != "" {
			sheet = file
		}
		l.sheets = append(l.sheets, sheet)
	}
	l.meta.Styles = l.Own.Sheets
}

// endings are what an import may leave out of a file's name.
var endings = []string{"", ".tsx", ".ts", ".jsx", ".js", ".vue", ".mts", ".mjs", ".css", ".scss", "/index.tsx", "/index.ts", "/index.jsx", "/index.js", "/index.vue"}

var bareStyle = regexp.MustCompile(`\.(scss|sass|less|styl)$`)

// ownFiles has what a bundler of the team's does for its own files done here: aliases, styles that
// are written in classes, frameworks that want something around them.
func (l *library) ownFiles(b api.PluginBuild) {
	rel := func(file string) (string, bool) {
		out, err := filepath.Rel(l.Dir, file)
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
		if !own || l.Own.Paths == nil || filepath.IsAbs(a.Path) && l.inside(strings.TrimPrefix(a.Path, l.Dir)) != "" {
			return api.OnResolveResult{}, nil
		}
		spec, query, _ := strings.Cut(a.Path, "?")
		for p := range l.Own.Paths(from, spec) {
			for _, end := range endings {
				if file := l.inside(p + end); file != "" {
					return api.OnResolveResult{Path: file, Suffix: suffix(query)}, nil
				}
			}
		}
		return api.OnResolveResult{}, nil
	})
	b.OnLoad(api.OnLoadOptions{Filter: ".*", Namespace: "stands"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
		text, err := adapters.ReadFile("adapters/" + a.Path)
		src := string(text)
		return api.OnLoadResult{Contents: &src, ResolveDir: l.Dir, Loader: api.LoaderJS}, err
	})
	var once sync.Mutex // sheets are made one after the other: each takes a process
	b.OnLoad(api.OnLoadOptions{Filter: `\.css$`, Namespace: "file"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
		name, own := rel(a.Path)
		if !own {
			return api.OnLoadResult{}, nil
		}
		src, err := readFile(a.Path, 4<<20)
		if err != nil || !madeOfClasses.Match(src) {
			return api.OnLoadResult{}, err
		}
		once.Lock()
		defer once.Unlock()
		text, err := l.ofClasses(a.Path, name, string(src))
		if err != nil {
			l.miss(pack.Missing{What: fmt.Sprintf("%s is not drawn with: %s", name, err), Remedy: "its classes look like nothing here"})
			text = ""
		}
		return api.OnLoadResult{Contents: &text, Loader: api.LoaderCSS, ResolveDir: filepath.Dir(a.Path)}, nil
	})
	l.singles(b, rel)
	b.OnLoad(api.OnLoadOptions{Filter: bareStyle.String(), Namespace: "file"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
		name, _ := rel(a.Path)
		l.miss(pack.Missing{What: name + " is written in another language than CSS, and left out", Remedy: "name the sheet that is built of it with --style"})
		text := ""
		return api.OnLoadResult{Contents: &text, Loader: api.LoaderCSS}, nil
	})
}

// single is what was made of a single file.
type single struct {
	JS   string
	TS   bool
	CSS  []string
	Left []string
	Why  string
}

// singles has Vue's single files made modules: all that give components at once, others as they are met.
func (l *library) singles(b api.PluginBuild, rel func(string) (string, bool)) {
	if l.single == nil {
		l.single = map[string]*single{}
	}
	var one sync.Mutex
	load := func(file string) (*single, error) {
		one.Lock()
		defer one.Unlock()
		if made := l.single[file]; made != nil {
			return made, nil
		}
		list := []string{file}
		for _, spec := range l.specs {
			if in := l.inside(spec); in != file && l.single[in] == nil && strings.HasSuffix(spec, ".vue") {
				list = append(list, in)
			}
		}
		if err := l.compile(list); err != nil {
			return nil, err
		}
		return l.single[file], nil
	}
	b.OnLoad(api.OnLoadOptions{Filter: `\.vue$`, Namespace: "file"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
		made, err := load(a.Path)
		if err == nil && made.Why != "" {
			err = errors.New(made.Why)
		}
		if err != nil { // told at the file itself
			return api.OnLoadResult{Errors: []api.Message{{Text: err.Error(), Location: &api.Location{File: relativeTo(l.Dir, a.Path), Line: 1}}}}, nil
		}
		name, _ := rel(a.Path)
		for _, what := range made.Left {
			l.miss(pack.Missing{What: name + ": " + what, Remedy: "they are left out of what is drawn"})
		}
		text, loader := made.JS, api.LoaderJS
		if made.TS {
			loader = api.LoaderTS
		}
		if len(made.CSS) > 0 {
			q, _ := json.Marshal("styles-of:" + a.Path)
			text += "import " + string(q) + "\n"
		}
		return api.OnLoadResult{Contents: &text, Loader: loader, ResolveDir: filepath.Dir(a.Path)}, nil
	})
	b.OnResolve(api.OnResolveOptions{Filter: `^styles-of:`}, func(a api.OnResolveArgs) (api.OnResolveResult, error) {
		return api.OnResolveResult{Path: strings.TrimPrefix(a.Path, "styles-of:"), Namespace: "styles-of"}, nil
	})
	b.OnLoad(api.OnLoadOptions{Filter: ".*", Namespace: "styles-of"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
		made, err := load(a.Path)
		if err != nil {
			return api.OnLoadResult{}, err
		}
		text := strings.Join(made.CSS, "\n")
		if name, _ := rel(a.Path); madeOfClasses.MatchString(text) {
			if text, err = l.ofClasses(a.Path, name, text); err != nil {
				l.miss(pack.Missing{What: fmt.Sprintf("%s is drawn without its styles: %s", name, err), Remedy: "what they say of classes is left out"})
			}
		}
		return api.OnLoadResult{Contents: &text, Loader: api.LoaderCSS, ResolveDir: filepath.Dir(a.Path)}, nil
	})
}

// from is where a script says what it imports.
var from = regexp.MustCompile(`(from\s+["'])([^."'\s][^"'\n]*)(["'])`)

// nearer writes what a single file imports of the repository by paths, which types are followed by.
func (l *library) nearer(file, text string) string {
	if l.Own.Paths == nil {
		return text
	}
	in := relativeTo(l.Dir, file)
	return from.ReplaceAllStringFunc(text, func(whole string) string {
		m := from.FindStringSubmatch(whole)
		for p := range l.Own.Paths(in, m[2]) {
			for _, end := range endings {
				if l.inside(p+end) == "" {
					continue
				}
				to := relativeTo(path.Dir(in), p)
				if !strings.HasPrefix(to, ".") {
					to = "./" + to
				}
				return m[1] + to + m[3]
			}
		}
		return whole
	})
}

func relativeTo(dir, file string) string {
	out, err := filepath.Rel(dir, file)
	if err != nil {
		return file
	}
	return filepath.ToSlash(out)
}

// compile makes modules of single files.
func (l *library) compile(files []string) error {
	if len(l.Own.Single) == 0 {
		return errors.New("this program was built without what makes modules of single files")
	}
	at, done, err := script(l.Own.Single, "single.cjs")
	if err != nil {
		return err
	}
	defer done()
	type asked struct {
		File string `json:"file"`
		Text string `json:"text"`
	}
	var ask []asked
	for _, file := range files {
		src, err := readFile(file, 1<<20)
		if err != nil {
			return err
		}
		ask = append(ask, asked{file, l.nearer(file, string(src))})
	}
	out, err := l.runNode(context.Background(), at, map[string]any{"files": ask})
	if err != nil {
		return err
	}
	var made []*single
	if err := json.Unmarshal(out, &made); err != nil || len(made) != len(files) {
		return errors.Join(err, errors.New("what was answered is not of these files"))
	}
	for i, file := range files {
		l.single[file] = made[i]
	}
	return nil
}

func suffix(query string) string {
	if query == "" {
		return ""
	}
	return "?" + query
}

// miss notes what lacks, once.
func (l *library) miss(m pack.Missing) {
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

// madeOfClasses tells of a sheet that a build fills with what classes in code stand for.
var madeOfClasses = regexp.MustCompile(`@tailwind\b|@import\s+["']tailwindcss|@apply\b|@theme\b|@utility\b|@custom-variant\b`)

// darkVariant is how a sheet that is made of classes says that some hold in the dark alone.
var darkVariant = regexp.MustCompile(`:(?:is|where)\(\.([\w-]*dark)\b`)

// ofClasses makes a style sheet of one that leaves to a build what classes stand for.
func (l *library) ofClasses(file, name, text string) (string, error) {
	if len(l.Own.Classes) == 0 {
		return "", errors.New("this program was built without its reader of classes")
	}
	at, done, err := script(l.Own.Classes, "classes.cjs")
	if err != nil {
		return "", err
	}
	defer done()
	out, err := l.runNode(context.Background(), at, map[string]any{
		"dir": l.Dir, "file": file, "text": text, "words": l.Own.Words(), "config": l.classSettings(filepath.Dir(file)),
	})
	if err != nil {
		return "", err
	}
	var answer struct {
		CSS  string
		Left []string
	}
	if err := json.Unmarshal(out, &answer); err != nil {
		return "", err
	}
	for _, what := range answer.Left {
		l.miss(pack.Missing{What: name + ": " + what, Remedy: "what it gives is left out of what is drawn"})
	}
	return answer.CSS, nil
}

// classSettings finds the file with the settings of classes that holds for a folder.
func (l *library) classSettings(dir string) string {
	for at := dir; strings.HasPrefix(at, l.Dir); at = filepath.Dir(at) {
		for _, name := range []string{"tailwind.config.js", "tailwind.config.ts", "tailwind.config.cjs", "tailwind.config.mjs"} {
			file := filepath.Join(at, name)
			if info, err := os.Stat(file); err == nil && info.Mode().IsRegular() {
				return file
			}
		}
		if at == filepath.Dir(at) {
			break
		}
	}
	return ""
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
	all, entries := l.specs, l.catalog.Entries
	defer func() { l.specs, l.catalog.Entries = all, entries }()
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
			if pkg := importedOf(e.Module); !isFile(l.inside(e.Module)) {
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
		if _, ok := l.installed(importedOf(e.Module)); ok {
			first.Besides = append(first.Besides, e)
		}
	}
	return &first, left
}

func isFile(name string) bool { return name != "" }
