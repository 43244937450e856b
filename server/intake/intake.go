// Package intake packs a library from a folder where it is installed: its code with its
// framework as one module, its styles and assets, and a description read from everything
// it says of itself. Nothing of the library is run here; parsers that need Node run as
// processes of their own, with limits.
package intake

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"

	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
)

// Options say what is packed, and what a person knows better than the package says.
type Options struct {
	Dir     string   // folder of the repository in which the library is installed
	Package string   // its name, or a folder with its package.json
	Modules []string // what code imports for its components, where it is not the package itself
	Styles  []string // style sheets, as imported, where the package does not name them
	Drawn   string   // elements, vue, react or angular
	Wrap    string   // component to put around everything; "-" for none
	Whole   bool     // the package's own files travel along, for deliveries of what no registry has
	Setup   string   // file of a module that says what is installed once, see README
	Reader  []byte   // script that reads type declarations; none: they are left out, and it is said
	Node    string   // program that runs it; empty: as found on the path
	App     *App     // the application that it is used in; nil where nothing is known of one
	Own     *Own     // with App: the package is code of the repository itself, not one that is installed
	Tell    func(step string)
}

// library is a package while it is packed.
type library struct {
	Options
	only     bool   // it is described and not packed
	cut      bool   // its types were not read, or not to the end: another time more may be known
	root     string // folder of the package, links resolved
	pkg      packageFile
	short    string
	catalog  *describe.Catalog
	meta     pack.Meta
	specs    []string
	imports  []string // modules to import for what they define
	sheets   []string // files
	notes    []byte
	exported map[string]string   // path behind "." -> file
	lacking  map[string]bool     // packages that something stands in for
	angular  string              // what differs for the version of Angular in use: one of angularVersions
	definer  string              // module that gives a call which registers all elements
	gave     map[string][]string // what modules export, as far as it was asked
	single   map[string]*single  // what was made of single files, by their places
	missing  sync.Mutex          // held while something is noted that lacks: files are loaded side by side
}

type packageFile struct {
	Name, Version, Main, Module, Style, Types, Typings string

	CustomElements       string          `json:"customElements"`
	WebTypes             json.RawMessage `json:"web-types"`
	Exports              json.RawMessage
	Dependencies         map[string]string
	PeerDependencies     map[string]string
	PeerDependenciesMeta map[string]struct{ Optional bool }
}

// Pack packs a library. Errors say what lacks and what to do about it; what could be left
// out stands in the archive's Missing and in its catalog's Left.
func Pack(ctx context.Context, o Options) (*pack.Archive, error) {
	if o.Tell == nil {
		o.Tell = func(string) {}
	}
	l := &library{Options: o}
	if o.App != nil {
		if err := o.App.find(); err != nil {
			return nil, err
		}
	}
	if o.Own != nil {
		if err := l.take(ctx, step{"finding its code", l.findOwn}, step{"looking what kind it is", l.kind}); err != nil {
			return nil, err
		}
		l.ownModules()
	} else if err := l.take(ctx,
		step{"finding the package", l.find},
		step{"looking what kind it is", l.kind},
		step{"choosing style sheets", l.styles},
		step{"reading descriptions", l.describe},
	); err != nil {
		return nil, err
	}
	o.Tell("bundling code and styles")
	files, err := l.bundle(ctx)
	if err != nil {
		return nil, err
	}
	if l.App != nil { // noted as files came, which is another order each time, and another archive
		slices.SortFunc(l.meta.Missing, func(a, b pack.Missing) int { return strings.Compare(a.What, b.What) })
	}
	l.catalog.Format = describe.Format
	if err := l.catalog.Check(); err != nil {
		return nil, fmt.Errorf("%s: what was read does not hold: %w", l.pkg.Name, err)
	}
	a := &pack.Archive{Meta: l.meta, Catalog: l.catalog, Files: files}
	// What is packed must be readable as it will be read.
	b, err := a.Bytes()
	if err != nil {
		return nil, err
	}
	return pack.Read(b)
}

type step struct {
	words string
	do    func(context.Context) error
}

func (l *library) take(ctx context.Context, steps ...step) error {
	for _, s := range steps {
		l.Tell(s.words)
		if err := s.do(ctx); err != nil {
			return err
		}
		if err := ctx.Err(); err != nil {
			return err
		}
	}
	return nil
}

// Describe reads what a library says of its components, and nothing else: for those who
// only want to know what its names mean. whole is false where its types could not be read, or not in
// the time that there was: asked again it may tell more.
func Describe(ctx context.Context, o Options) (c *describe.Catalog, whole bool, err error) {
	if o.Tell == nil {
		o.Tell = func(string) {}
	}
	l := &library{Options: o, only: true}
	if err := l.take(ctx,
		step{"finding the package", l.find},
		step{"looking what kind it is", l.kind},
		step{"reading descriptions", l.describe},
	); err != nil {
		return nil, false, err
	}
	var lacks []describe.Left // they come first: much of what else is left out follows from them
	for _, m := range l.meta.Missing {
		lacks = append(lacks, describe.Left{Where: "types", What: m.What + ": " + m.Remedy})
	}
	l.catalog.Left = append(lacks, l.catalog.Left...)
	l.catalog.Format = describe.Format
	if err := l.catalog.Check(); err != nil {
		return nil, false, fmt.Errorf("%s: what was read does not hold: %w", l.pkg.Name, err)
	}
	return l.catalog, !l.cut, nil
}

// find finds the package's folder and reads its package.json.
func (l *library) find(context.Context) error {
	dir, err := filepath.Abs(l.Dir)
	if err != nil {
		return err
	}
	l.Dir = dir
	asFolder := l.Package
	if !filepath.IsAbs(asFolder) {
		asFolder = filepath.Join(dir, asFolder)
	}
	switch {
	case strings.HasPrefix(l.Package, ".") || filepath.IsAbs(l.Package):
		l.root = asFolder
	default:
		for at := dir; ; at = filepath.Dir(at) {
			try := filepath.Join(at, "node_modules", filepath.FromSlash(l.Package))
			if _, err := os.Stat(filepath.Join(try, "package.json")); err == nil {
				l.root = try
				break
			}
			if filepath.Dir(at) == at {
				return fmt.Errorf("%s is not installed in %s or above: run \"npm install %s\" there, or name its folder", l.Package, dir, l.Package)
			}
		}
	}
	if real, err := filepath.EvalSymlinks(l.root); err == nil {
		l.root = real
	}
	src, err := readFile(filepath.Join(l.root, "package.json"), 4<<20)
	if err != nil {
		return fmt.Errorf("%s has no package.json that can be read: %w", l.root, err)
	}
	if err := json.Unmarshal(src, &l.pkg); err != nil {
		return fmt.Errorf("%s: %w", filepath.Join(l.root, "package.json"), err)
	}
	if l.pkg.Name == "" || l.pkg.Version == "" {
		return fmt.Errorf("%s: a name and a version are needed", filepath.Join(l.root, "package.json"))
	}
	l.short = describe.Short(l.pkg.Name)
	l.exported = exportsOf(l.pkg.Exports)
	l.meta = pack.Meta{
		Name: l.pkg.Name, Version: l.pkg.Version, Short: l.short, Title: describe.Title(l.pkg.Name), Peers: map[string]string{}, Packages: map[string]string{},
	}
	for name, version := range l.pkg.PeerDependencies {
		if !l.pkg.PeerDependenciesMeta[name].Optional {
			l.meta.Peers[name] = version
		}
	}
	return nil
}

// readFile reads a plain file up to a size.
func readFile(name string, most int64) ([]byte, error) {
	info, err := os.Stat(name)
	if err != nil {
		return nil, err
	}
	if !info.Mode().IsRegular() {
		return nil, fmt.Errorf("%s is no plain file", name)
	}
	if info.Size() > most {
		return nil, fmt.Errorf("%s has %d MB; at most %d MB are read", name, info.Size()>>20, most>>20)
	}
	return os.ReadFile(name)
}

// kind tells how the library's components are drawn.
func (l *library) kind(context.Context) error {
	if l.Drawn == "" {
		l.Drawn = l.guessKind()
	}
	if !slices.Contains([]string{describe.Elements, describe.Vue, describe.React, describe.Angular}, l.Drawn) {
		return fmt.Errorf("%q is no kind of library; accepted: elements, vue, react, angular", l.Drawn)
	}
	l.meta.Drawn = l.Drawn
	framework := map[string][]string{
		describe.Vue: {"vue"}, describe.React: {"react", "react-dom"}, describe.Angular: {"@angular/core", "@angular/platform-browser", "@angular/common"},
	}[l.Drawn]
	for i, name := range framework {
		version, ok := l.installed(name)
		if !ok && l.only { // what is only read is not drawn
			if i == 0 && l.Drawn != describe.React {
				l.meta.Missing = append(l.meta.Missing, pack.Missing{
					What: name + " is not installed: what declarations take from it is unknown", Remedy: "npm install " + name, Install: name,
				})
			}
			continue
		}
		if !ok {
			return &LacksError{[]string{name}, fmt.Sprintf(
				"%s needs %s, which is not installed in %s: run \"npm install %s\" there", l.pkg.Name, name, l.Dir, name,
			)}
		}
		if i == 0 {
			l.meta.Framework = name + " " + version
			if l.Drawn == describe.Angular && !l.only {
				if err := l.ofVersion(version); err != nil {
					return err
				}
			}
		}
	}
	if l.Own == nil {
		l.catalog = &describe.Catalog{Name: l.pkg.Name, Version: l.pkg.Version, Drawn: l.Drawn}
	}
	return nil
}

func (l *library) guessKind() string {
	all := map[string]bool{}
	for name := range l.pkg.PeerDependencies {
		all[name] = true
	}
	deps := map[string]bool{}
	for name := range l.pkg.Dependencies {
		deps[name] = true
	}
	optional := func(name string) bool { return l.pkg.PeerDependenciesMeta[name].Optional }
	switch {
	case l.pkg.CustomElements != "":
		return describe.Elements
	case all["@angular/core"] && !optional("@angular/core"):
		return describe.Angular
	case all["vue"] && !optional("vue"):
		return describe.Vue
	case all["react"] && !optional("react"):
		return describe.React
	case deps["lit"] || deps["lit-element"] || deps["@stencil/core"] || deps["@microsoft/fast-element"]:
		return describe.Elements
	case all["vue"] || deps["vue"]:
		return describe.Vue
	case all["react"] || deps["react"]:
		return describe.React
	}
	var web struct{ Framework string }
	if file := l.webTypesFile(); file != "" {
		if src, err := readFile(file, 48<<20); err == nil && json.Unmarshal(src, &web) == nil && web.Framework == "vue" {
			return describe.Vue
		}
	}
	for name := range deps {
		if strings.HasPrefix(name, "@vue/") {
			return describe.Vue
		}
	}
	// Some say nowhere what they are for, and their code or declarations import it.
	for _, file := range []string{l.inside(l.pkg.Module), l.inside(l.pkg.Main), l.inside(l.pkg.Types)} {
		src, err := readFile(file, 4<<20)
		if file == "" || err != nil {
			continue
		}
		for _, kind := range []string{describe.Vue, describe.React} {
			if regexp.MustCompile(`(from|require\()\s*["']` + kind + `["']`).Match(src) {
				return kind
			}
		}
	}
	return describe.Elements
}

// installed is the version of a package that the library would be given.
func (l *library) installed(name string) (string, bool) {
	for _, from := range []string{l.root, l.Dir} {
		for at := from; ; at = filepath.Dir(at) {
			src, err := readFile(filepath.Join(at, "node_modules", filepath.FromSlash(name), "package.json"), 4<<20)
			if err == nil {
				var p packageFile
				if json.Unmarshal(src, &p) == nil && p.Version != "" {
					return p.Version, true
				}
			}
			if filepath.Dir(at) == at {
				break
			}
		}
	}
	return "", false
}

func (l *library) webTypesFile() string {
	var one string
	var many []string
	if json.Unmarshal(l.pkg.WebTypes, &one) != nil && json.Unmarshal(l.pkg.WebTypes, &many) == nil && len(many) > 0 {
		one = many[0]
	}
	for _, name := range []string{one, "web-types.json", "dist/web-types.json", "web-types/web-types.json"} {
		if file := l.inside(name); file != "" {
			return file
		}
	}
	return ""
}

// inside is a file of the package; empty where there is none, or where the name leads out
// of it.
func (l *library) inside(name string) string {
	if name == "" {
		return ""
	}
	file := filepath.Join(l.root, filepath.FromSlash(path.Clean("/"+filepath.ToSlash(name))))
	if info, err := os.Stat(file); err != nil || !info.Mode().IsRegular() {
		return ""
	}
	if real, err := filepath.EvalSymlinks(file); err != nil || !strings.HasPrefix(real, l.root+string(filepath.Separator)) {
		return ""
	}
	return file
}

// skipped are folders of packages that hold no part of what is imported.
var skipped = map[string]bool{"node_modules": true, "test": true, "tests": true, "__tests__": true, "testing": true, "schematics": true, "stories": true, "docs": true, "cdn": true, "umd": true, "cjs": true, "locale": true, "locales": true, "i18n": true, ".git": true}

// walk visits the package's files, at most so many.
func (l *library) walk(visit func(rel string, d fs.DirEntry)) {
	n := 0
	_ = filepath.WalkDir(l.root, func(file string, d fs.DirEntry, err error) error {
		if err != nil {
			return nil // what cannot be read is not there
		}
		if d.IsDir() && file != l.root && skipped[d.Name()] {
			return filepath.SkipDir
		}
		if n++; n > 30_000 {
			return filepath.SkipAll
		}
		if d.Type().IsRegular() {
			rel, _ := filepath.Rel(l.root, file)
			visit(filepath.ToSlash(rel), d)
		}
		return nil
	})
}

func sortedKeys[V any](m map[string]V) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	slices.Sort(keys)
	return keys
}

// describe reads everything that the package says of its components.
func (l *library) describe(ctx context.Context) error {
	c := l.catalog
	manifest := l.manifestFile()
	if manifest != "" {
		src, err := readFile(manifest, 48<<20)
		if err == nil {
			err = c.Manifest(src, l.rel(manifest))
		}
		if err != nil {
			c.Left = append(c.Left, describe.Left{Where: l.rel(manifest), What: err.Error()})
		}
	}
	if l.Drawn == describe.Elements {
		l.elementModules(manifest)
	}
	l.modules()
	typed, err := l.declared(ctx)
	if err != nil {
		l.cut = true
		c.Left = append(c.Left, describe.Left{Where: "types", What: err.Error()})
	}
	web := &describe.Catalog{Name: c.Name, Version: c.Version, Drawn: l.Drawn}
	if file := l.webTypesFile(); file != "" {
		src, err := readFile(file, 48<<20)
		if err == nil {
			err = web.WebTypes(src, l.rel(file), l.short)
		}
		if err != nil {
			c.Left = append(c.Left, describe.Left{Where: l.rel(file), What: err.Error()})
		}
	}
	hadManifest := len(c.Entries) > 0
	if typed != nil {
		c.Merge(typed, hadManifest && l.Drawn == describe.Elements)
	}
	web.CallAs(c)
	c.Merge(web, len(c.Entries) > 0)
	// What one source leaves out and another says is not left out.
	c.Left = slices.DeleteFunc(c.Left, func(l describe.Left) bool {
		tag, _, of := strings.Cut(strings.TrimPrefix(l.What, "<"), "> is defined there")
		_, said := c.Find(tag)
		return of && said || hadManifest && strings.Contains(l.What, "Could not find a declaration file")
	})
	if len(c.Entries) == 0 {
		return l.nothing()
	}
	l.mainSlots()
	slices.SortFunc(c.Entries, func(a, b describe.Entry) int { return strings.Compare(a.ID, b.ID) })
	if file := l.first("notes.json", path.Base(l.pkg.Name)+".notes.json", l.short+".notes.json"); file != "" {
		if l.notes, err = readFile(file, 8<<20); err != nil {
			c.Left = append(c.Left, describe.Left{Where: l.rel(file), What: err.Error()})
		}
	}
	return nil
}

// mainSlots gives a main slot to components that say nothing of what may stand in them, where the
// library says it of few or none: it has not said that nothing may.
func (l *library) mainSlots() {
	icons := l.catalog.Icons() // of which nobody expects that something stands in them
	var silent []*describe.Entry
	all := 0
	for i := range l.catalog.Entries {
		e := &l.catalog.Entries[i]
		if slices.Contains(icons, e) {
			continue
		}
		all++
		if len(e.Slots) == 0 {
			silent = append(silent, e)
		}
	}
	if len(silent) == 0 || 4*(all-len(silent)) >= all {
		return
	}
	for _, e := range silent {
		e.Slots = []describe.Slot{{From: describe.FromGuess}}
	}
	note := "no component says what may stand in it: each is given a main slot"
	if len(silent) < all {
		note = fmt.Sprintf("%d of %d components say nothing of what may stand in them: each is given a main slot", len(silent), all)
	}
	l.meta.Notes = append(l.meta.Notes, note)
}

// nothing says what was looked for where no component was found.
func (l *library) nothing() error {
	var b strings.Builder
	fmt.Fprintf(&b, "no component of %s was found. Looked for: ", l.pkg.Name)
	switch l.Drawn {
	case describe.Elements:
		b.WriteString("a manifest of custom elements (customElements in package.json, custom-elements.json), type declarations of elements, modules that define tags, web-types")
	default:
		fmt.Fprintf(&b, "type declarations of %s components under %s, web-types", l.Drawn, strings.Join(l.specs, ", "))
		for _, m := range l.meta.Missing { // what is missing may be why
			fmt.Fprintf(&b, "\n%s: %s", m.What, m.Remedy)
		}
	}
	for _, left := range l.catalog.Left {
		b.WriteString("\n  " + left.String())
	}
	b.WriteString("\nIf code imports it otherwise, name the module with --module; if it is of another kind, say so with --kind")
	return errors.New(b.String())
}

func (l *library) rel(file string) string {
	if rel, err := filepath.Rel(l.root, file); err == nil {
		return filepath.ToSlash(rel)
	}
	return file
}

func (l *library) first(names ...string) string {
	for _, n := range names {
		if file := l.inside(n); file != "" {
			return file
		}
	}
	return ""
}

func (l *library) manifestFile() string {
	if l.Drawn != describe.Elements {
		return ""
	}
	return l.first(l.pkg.CustomElements, "custom-elements.json", "dist/custom-elements.json", "custom-elements-manifest.json", "docs.json", "dist/docs.json", "dist/custom-elements/custom-elements.json")
}

var (
	definesTag  = regexp.MustCompile("customElements\\.define\\(\\s*[\"'`]([a-z][a-z0-9._]*-[a-z0-9._-]*)[\"'`]|customElement\\(\\s*[\"'`]([a-z][a-z0-9._]*-[a-z0-9._-]*)[\"'`]")
	exportsThis = regexp.MustCompile(`export\s*\{[^}]*\bdefineCustomElement\s*[,}]`) // under this name
)

// elementModules finds the modules that register elements: where the manifest says, or
// where the code does it.
func (l *library) elementModules(manifest string) {
	base := path.Dir(l.rel(manifest))
	missing := []string{}
	for i := range l.catalog.Entries {
		e := &l.catalog.Entries[i]
		file := ""
		name := strings.TrimPrefix(path.Clean("/"+e.Module), "/")
		js := name
		for _, ext := range []string{".ts", ".tsx"} {
			if s, ok := strings.CutSuffix(name, ext); ok && !strings.HasSuffix(name, ".d.ts") {
				js = s + ".js"
			}
		}
		if e.Module != "" {
			for _, try := range []string{js, path.Join(base, js), "dist/" + js, "lib/" + js, strings.Replace(js, "src/", "dist/", 1), strings.Replace(js, "src/", "", 1), strings.Replace(js, "src/", "dist/src/", 1), strings.Replace(js, "src/", "lib/", 1), strings.Replace(js, "src/", "es/", 1)} {
				if f := l.inside(try); f != "" && strings.HasSuffix(f, "js") {
					file = f
					break
				}
			}
		}
		if file == "" {
			missing = append(missing, e.ID)
			continue
		}
		if !slices.Contains(l.imports, file) {
			l.imports = append(l.imports, file)
		}
	}
	if len(missing) == 0 && len(l.catalog.Entries) > 0 {
		if !slices.ContainsFunc(l.imports, registers) { // it names the classes, and others register them
			l.imports = append(l.imports, l.definers()...)
		}
		return
	}
	// What the manifest does not lead to is looked for in the code.
	type definition struct {
		file string
		tags int
		size int
	}
	byTag := map[string]definition{}
	definers := l.definers()
	l.walk(func(rel string, d fs.DirEntry) {
		if !strings.HasSuffix(rel, ".js") && !strings.HasSuffix(rel, ".mjs") || strings.HasSuffix(rel, ".min.js") {
			return
		}
		file := filepath.Join(l.root, filepath.FromSlash(rel))
		src, err := readFile(file, 4<<20)
		if err != nil {
			return
		}
		found := map[string]bool{}
		for _, m := range definesTag.FindAllSubmatch(src, 500) {
			found[string(m[1])+string(m[2])] = true
		}
		if exportsThis.Match(src) {
			if tag := strings.TrimSuffix(path.Base(rel), path.Ext(rel)); strings.Contains(tag, "-") {
				found[tag] = true
			}
		}
		for tag := range found {
			old, known := byTag[tag]
			if !known || len(found) < old.tags || len(found) == old.tags && len(src) < old.size {
				byTag[tag] = definition{file, len(found), len(src)}
			}
		}
	})
	for _, tag := range sortedKeys(byTag) {
		if len(l.catalog.Entries) > 0 && !slices.Contains(missing, tag) {
			continue
		}
		if file := byTag[tag].file; !slices.Contains(l.imports, file) {
			l.imports = append(l.imports, file)
		}
	}
	if len(byTag) == 0 {
		l.imports = append(l.imports, definers...)
	}
	if len(byTag) == 0 && len(definers) == 0 {
		l.definer = l.definingModule()
	}
	if len(byTag) == 0 && len(definers) == 0 && len(l.catalog.Entries) == 0 {
		l.imports = append(l.imports, l.reached()...)
	}
}

// registering is what code does that makes a class an element of the page.
var registering = regexp.MustCompile(`\.define\(|\bcustomElement\(|\bdefineElement\(|\bdefineCustomElement\b`)

func registers(file string) bool {
	src, err := readFile(file, 4<<20)
	return err == nil && registering.Match(src)
}

// definers are the modules that a package has for nothing but registering its elements.
func (l *library) definers() []string {
	out := []string{}
	l.walk(func(rel string, _ fs.DirEntry) {
		if name := path.Base(rel); name == "define.js" || name == "define.mjs" {
			out = append(out, filepath.Join(l.root, filepath.FromSlash(rel)))
		}
	})
	return out
}

// reached lists the modules that the main one reaches, in other packages too, and that
// define elements.
func (l *library) reached() []string {
	r := l.build("import "+strconv.Quote(l.own([]string{l.pkg.Name})[0]), nil, nil)
	var meta struct {
		Inputs map[string]struct{ Bytes int }
	}
	if json.Unmarshal([]byte(r.Metafile), &meta) != nil {
		return nil
	}
	out := []string{}
	for _, file := range sortedKeys(meta.Inputs) {
		full := filepath.Join(l.Dir, filepath.FromSlash(file))
		if src, err := readFile(full, 4<<20); err == nil && definesTag.Match(src) {
			out = append(out, full)
		}
	}
	return out
}

// modules lists what code imports for the components.
// definesAll is the call by which some builds of elements register all of them.
const definesAll = "defineCustomElements"

// definingModule finds the module of such a build that holds its elements itself; one that loads them
// when they are met cannot be packed.
func (l *library) definingModule() string {
	for _, dir := range []string{"custom-element", "custom-elements", "dist/custom-element", "dist/custom-elements", "dist/components", "components"} {
		src, err := readFile(l.inside(dir+"/index.js"), 8<<20)
		if err == nil && bytes.Contains(src, []byte(definesAll)) && bytes.Contains(src, []byte("export")) {
			return l.pkg.Name + "/" + dir + "/index.js"
		}
	}
	return ""
}

func (l *library) modules() {
	if len(l.Modules) > 0 {
		l.specs = l.Modules
		return
	}
	if l.definer != "" {
		l.specs = []string{l.definer}
		l.meta.Notes = append(l.meta.Notes, "its elements are registered by a call that "+l.definer+" gives")
		return
	}
	l.specs = nil
	if main := l.mainModule(); main != "" {
		l.specs = []string{main}
	}
	if l.Drawn == describe.Angular || l.Drawn != describe.Elements && len(l.specs) == 0 {
		l.specs = append(l.specs, l.subpaths()...)
	}
}

// subpaths are the modules that a package exports beside its main one.
func (l *library) subpaths() []string {
	out := []string{}
	for _, key := range sortedKeys(l.exported) {
		file := l.exported[key]
		name := strings.TrimPrefix(key, "./")
		if key == "." || strings.HasSuffix(key, "/") || strings.Contains(key, "*") || strings.Contains(key, "package.json") ||
			slices.Contains([]string{".css", ".scss", ".json"}, path.Ext(file)) {
			continue
		}
		if slices.ContainsFunc(strings.Split(name, "/"), func(s string) bool { return skipped[s] || s == "prebuilt-themes" || s == "theming" }) {
			continue
		}
		out = append(out, l.pkg.Name+"/"+name)
	}
	if len(out) > 0 && len(l.exported) > 2 {
		return out
	}
	// A folder a component, each with an entry of its own; a package that says what can be imported
	// of it has no others.
	if len(l.pkg.Exports) > 0 && !slices.ContainsFunc(sortedKeys(l.exported), func(key string) bool { return strings.Contains(key, "*") }) {
		return out
	}
	entries, _ := os.ReadDir(l.root)
	for _, d := range entries {
		if !d.IsDir() || skipped[d.Name()] {
			continue
		}
		if l.first(d.Name()+"/index.d.ts", d.Name()+"/index.d.mts") != "" && l.first(d.Name()+"/index.mjs", d.Name()+"/index.js", d.Name()+"/package.json") != "" {
			out = append(out, l.pkg.Name+"/"+d.Name())
		}
	}
	return out
}

// declared reads type declarations, in ever more modules where the main one has next to
// no components.
func (l *library) declared(ctx context.Context) (*describe.Catalog, error) {
	if len(l.Reader) == 0 {
		return nil, errors.New("type declarations were not read: this program was built without their reader")
	}
	read := func(specs []string, code bool) (*describe.Catalog, error) {
		src, err := l.ask(ctx, specs, code)
		if err != nil {
			return nil, err
		}
		c := &describe.Catalog{Name: l.pkg.Name, Version: l.pkg.Version, Drawn: l.Drawn}
		err = c.Declared(src, l.short)
		// A package that is looked at in its own folder is read by files; code imports it by name.
		for i, file := range l.own(specs) {
			for j := range c.Entries {
				if c.Entries[j].Module == file {
					c.Entries[j].Module = specs[i]
				}
			}
		}
		return c, err
	}
	c, err := read(l.specs, false)
	if _, there := l.installed("@types/react"); l.Drawn == describe.React && !there && err == nil {
		l.meta.Missing = append(l.meta.Missing, pack.Missing{
			What:   "React's own types are not installed: components that are declared by them are not read, and props not told from those of the page",
			Remedy: "npm install --save-dev @types/react", Install: "@types/react",
		})
	}
	if l.Drawn == describe.Vue && err == nil && len(c.Entries) == 0 {
		// Without declarations, what components say of themselves in code is read.
		if told, err := read(l.specs, true); err == nil && len(told.Entries) > 0 {
			l.meta.Notes = append(l.meta.Notes, "no declaration tells of its components: what they say of themselves in code was read")
			return told, nil
		}
	}
	if err != nil || l.Drawn == describe.Elements || len(l.Modules) > 0 || len(c.Entries) >= 5 {
		return c, err
	}
	more := slices.Clone(l.specs)
	for _, s := range l.subpaths() {
		if s == l.pkg.Name+"/components" {
			more = append(slices.Clone(l.specs), s)
			break
		}
		more = append(more, s)
	}
	if len(more) == len(l.specs) {
		return c, nil
	}
	again, err := read(more, false)
	if err != nil || len(again.Entries) <= len(c.Entries) {
		return c, nil
	}
	l.specs = more
	l.meta.Notes = append(l.meta.Notes, fmt.Sprintf("components are imported from %d modules of the package", len(more)))
	return again, nil
}
