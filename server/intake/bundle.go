package intake

import (
	"cmp"
	"context"
	"embed"
	"encoding/json"
	"fmt"
	"io/fs"
	"maps"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"github.com/evanw/esbuild/pkg/api"

	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
	"ubiquant/core/source"
)

//go:embed adapters/*.js
var adapters embed.FS

// entry is the module that is bundled: what registers elements or gives components, with
// the adapter that draws them.
func (l *library) entry() string {
	var b strings.Builder
	specs := l.specs
	own := l.specs
	switch {
	case l.Own != nil:
		own = make([]string, len(specs))
		for i, spec := range specs {
			if own[i] = l.inside(spec); own[i] == "" {
				own[i] = spec // a module of a package that stands in it
			}
		}
	case !l.underModules():
		own = l.own(specs)
	}
	js := func(s string) string { q, _ := json.Marshal(s); return string(q) }
	for _, sheet := range l.sheets {
		if l.Own != nil {
			// As the application asks for it.
		} else if !l.underModules() {
			if in := l.own([]string{sheet}); filepath.IsAbs(in[0]) {
				sheet = in[0]
			}
		} else if key, own := strings.CutPrefix(sheet, l.pkg.Name+"/"); own {
			// Some let a sheet be imported by style sheets only ("style" among the conditions).
			if file := l.inside(l.behind("./" + key)); file != "" {
				sheet = file
			}
		}
		fmt.Fprintf(&b, "import %s\n", js(sheet))
	}
	if l.Drawn == describe.Elements {
		for i, file := range l.imports {
			src, _ := readFile(file, 4<<20)
			if exportsThis.Match(src) {
				fmt.Fprintf(&b, "import { defineCustomElement as d%d } from %s\nd%d()\n", i, js(file), i)
			} else {
				fmt.Fprintf(&b, "import %s\n", js(file))
			}
		}
		for i, s := range own {
			fmt.Fprintf(&b, "import %s\nexport * from %s\n", js(s), js(s))
			if l.definer != "" || len(l.Modules) > 0 {
				fmt.Fprintf(&b, "import * as s%d from %s\nif (s%d[%q]) s%d[%q]()\n", i, js(s), i, definesAll, i, definesAll)
			}
		}
		if l.definer != "" { // an application calls it as well
			l.meta.Setup = []string{"import { " + definesAll + " } from '" + l.definer + "'", definesAll + "()"}
		}
		if l.Setup != "" {
			fmt.Fprintf(&b, "import %s\n", js(l.Setup))
		}
		return b.String()
	}
	fmt.Fprintf(&b, "import { make } from 'ubiquant:%s'\n", l.Drawn)
	number := map[string]int{}
	for i, s := range own {
		number[specs[i]] = i
		fmt.Fprintf(&b, "import * as m%d from %s\n", i, js(s))
	}
	b.WriteString("const components = {\n")
	for _, e := range l.catalog.Entries {
		i, ok := number[e.Module]
		if !ok || e.Export == "" {
			continue
		}
		fmt.Fprintf(&b, "  %s: m%d", js(e.Export), i)
		for j, name := range strings.Split(e.Export, ".") {
			if e.Default && j == 0 {
				name = "default"
			}
			if j > 0 {
				b.WriteString("?")
			}
			fmt.Fprintf(&b, ".%s", name)
		}
		b.WriteString(",\n")
	}
	for i := range l.catalog.Besides {
		e := &l.catalog.Besides[i]
		fmt.Fprintf(&b, "  %s: m%d.%s,\n", js(e.Draws()), number[e.Module], e.Export)
	}
	b.WriteString("}\n")
	if l.Drawn == describe.Angular {
		l.ways(&b)
	}
	if l.Own != nil {
		l.stands(&b)
	} else {
		l.around(&b, len(own))
	}
	extra := ""
	if l.Drawn == describe.Angular {
		extra = ", always, ways, chosen"
	}
	fmt.Fprintf(&b, "export const drawer = make({ components, setup, wrap, settings%s })\nexport const has = Object.keys(components).filter(k => components[k])\n", extra)
	return b.String()
}

// around writes what is installed once and put around everything: what a person's module
// says, else what the library gives for it.
func (l *library) around(b *strings.Builder, modules int) {
	if l.Setup != "" {
		file := l.Setup
		if !filepath.IsAbs(file) {
			file = filepath.Join(l.Dir, file)
		}
		q, _ := json.Marshal(file)
		fmt.Fprintf(b, "import * as own from %s\nconst given = own.default ?? own\n", q)
		l.meta.Notes = append(l.meta.Notes, "what is set up once: "+l.Setup)
	} else {
		b.WriteString("const given = {}\n")
	}
	b.WriteString("const setup = [...(given.setup ?? [])]\n")
	if l.Drawn == describe.Angular {
		l.services(b, modules)
	}
	if l.Drawn == describe.Vue && l.Setup == "" {
		b.WriteString("for (const p of [")
		for i := range modules {
			fmt.Fprintf(b, "m%d.default, ", i)
		}
		b.WriteString("]) if (p && typeof p.install === 'function' && !p.render && !p.setup) setup.push(p)\n")
		// Plugins by name: what can be installed and is nothing else.
		b.WriteString("if (!setup.length) for (const m of [")
		for i := range modules {
			fmt.Fprintf(b, "m%d, ", i)
		}
		b.WriteString("]) for (const p of Object.values(m)) if (p && typeof p === 'object' && typeof p.install === 'function' && Object.keys(p).length < 3 && !setup.includes(p)) setup.push(p)\n")
		// A function that makes the library's plugin: createOrchard().
		fmt.Fprintf(b, "if (!setup.length) for (const m of [")
		for i := range modules {
			fmt.Fprintf(b, "m%d, ", i)
		}
		fmt.Fprintf(b, "]) { const f = m[%q]; if (typeof f === 'function') { const p = f(); if (p && typeof p.install === 'function') { setup.push(p); break } } }\n", "create"+pascal(l.short))
	}
	wrap, settings := l.wrapper()
	if wrap != "" {
		l.meta.Wrap = wrap
		fmt.Fprintf(b, "const wrap = given.wrap ?? components[%q]\nconst settings = given.settings ?? (theme => (%s))\n", wrap, settings)
	} else {
		b.WriteString("const wrap = given.wrap\nconst settings = given.settings\n")
	}
}

// pascal writes "orchard" as "Orchard".
func pascal(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

var (
	makesStyle = regexp.MustCompile(`createElement\(\s*["'\x60]style["'\x60]|createElement\(\s*\w+\.?\w*\s*\)[^;]{0,80}\.styleSheet|<style[ >]`)
	writesAttr = regexp.MustCompile(`setAttribute\(\s*["'\x60]style["'\x60]|\sstyle=["'$\\]`)
	fetchesRaw = regexp.MustCompile(`fetch\(`)
	dataURL    = regexp.MustCompile(`["'\x60]data:image/svg\+xml`)
)

// bundle makes one module of the library, with its sheet and assets.
func (l *library) bundle(ctx context.Context) (map[string][]byte, error) {
	linked, err := l.link(ctx)
	if err != nil {
		return nil, err
	}
	build := func() api.BuildResult {
		r := l.build(l.entry(), linked, nil)
		if len(r.Errors) > 0 && l.forgive(r.Errors) {
			r = l.build(l.entry(), linked, nil)
		}
		if len(r.Errors) > 0 && l.standIn(r.Errors) {
			r = l.build(l.entry(), linked, nil)
		}
		for l.Own != nil && len(r.Errors) > 0 && l.without(r.Errors) {
			r = l.build(l.entry(), linked, nil)
		}
		return r
	}
	r := build()
	if len(r.Errors) == 0 && len(l.Styles) == 0 { // who names sheets gets those
		if more := l.setElsewhere(sheetOf(r)); len(more) > 0 {
			l.sheets = append(more, l.sheets...)
			l.meta.Styles = l.sheets
			r = build()
		}
	}
	if len(r.Errors) > 0 {
		return nil, l.unresolved(r.Errors)
	}
	said := map[string]bool{} // an entry that is made again says its notes again
	l.meta.Notes = slices.DeleteFunc(l.meta.Notes, func(note string) bool {
		again := said[note]
		said[note] = true
		return again
	})
	// What types declare and the code does not give cannot be drawn.
	for _, w := range r.Warnings {
		if _, rest, ok := strings.Cut(w.Text, `Import "`); ok && w.ID == "import-is-undefined" {
			name, _, _ := strings.Cut(rest, `"`)
			l.meta.Missing = append(l.meta.Missing, pack.Missing{
				What: name + " is declared, and the module does not give it", For: name,
				Remedy: "it is left out of what can be drawn; name the module that has it with --module",
			})
		}
	}
	files := map[string][]byte{}
	for _, f := range r.OutputFiles {
		name := path.Base(filepath.ToSlash(f.Path))
		switch {
		case name == "kit.js":
			files[pack.ModuleFile] = f.Contents
		case name == "kit.css":
			files[pack.SheetFile] = f.Contents
		default:
			files[pack.Assets+name] = f.Contents
		}
	}
	l.sizes(r.Metafile)
	if l.Own != nil && l.App != nil && l.App.Words != nil {
		files[pack.ModuleFile] = l.putIn(files[pack.ModuleFile])
	}
	js := files[pack.ModuleFile]
	l.meta.Needs = pack.Needs{
		StyleElements:   makesStyle.Match(js) || l.Drawn == describe.Angular,
		StyleAttributes: writesAttr.Match(js),
		DataFetch:       fetchesRaw.Match(js) && dataURL.Match(js),
	}
	if sheet := files[pack.SheetFile]; len(sheet) > 0 {
		s := describe.ReadSheet(sheet)
		if m := darkVariant.FindSubmatch(sheet); l.Own != nil && s.Dark == "" && m != nil {
			s.Dark = "class=" + string(m[1]) // classes that hold in it alone say it
		}
		l.catalog.Style(s, pack.SheetFile)
		l.theme(s)
	} else if l.Drawn != describe.Elements {
		l.meta.Notes = append(l.meta.Notes, "no style sheet: its styles come with its code, or none was named")
	}
	if l.meta.Themes.Dark == "" {
		if dark := describe.DarkInCode(js); dark != "" {
			l.meta.Themes.Dark, l.meta.Themes.How = dark, "selectors in its code"
		}
	}
	if l.App != nil && l.Own == nil { // read by now: what the application says is none of the library's
		sheet, assets := l.applied()
		maps.Copy(files, assets)
		files[pack.SheetFile] = append(append(files[pack.SheetFile], '\n'), sheet...)
		l.settings(sheet)
	}
	if l.Own != nil {
		l.settings(files[pack.SheetFile])
	}
	if l.Drawn == describe.Elements {
		for _, e := range l.catalog.Entries {
			_, rest, _ := strings.Cut(e.Tag, "-") // some write what begins all names in one place
			if !strings.Contains(string(js), e.Tag) && !strings.Contains(string(js), "}-"+rest+"`") {
				l.meta.Missing = append(l.meta.Missing, pack.Missing{
					What: "<" + e.Tag + "> is described, and nothing that was packed defines it", For: e.ID,
					Remedy: "name the module that defines it with --module",
				})
			}
		}
	}
	if len(l.notes) > 0 {
		files[pack.NotesFile] = l.notes
	}
	if l.Own != nil {
		return files, nil // what lies around it speaks of the application
	}
	// The package's own account of itself is small and says what code imports.
	for _, name := range []string{"package.json", "CHANGELOG.md"} {
		if data, err := readFile(filepath.Join(l.root, name), 1<<20); err == nil {
			files[pack.Package+name] = data
		}
	}
	if l.Whole {
		if err := l.whole(files); err != nil {
			return nil, err
		}
	}
	for name, to := range map[string]string{
		l.first("icons.json"): pack.IconsFile,
		l.first(l.short+".tokens.json", path.Base(l.pkg.Name)+".tokens.json", "tokens.json", "dist/tokens.json"): pack.TokensFile,
	} {
		if name == "" {
			continue
		}
		data, err := readFile(name, 8<<20)
		if err == nil && to == pack.TokensFile {
			data, err = l.tokens(data, l.rel(name))
		}
		if err == nil && to == pack.IconsFile && !iconList(data) {
			continue
		}
		if err != nil {
			l.catalog.Left = append(l.catalog.Left, describe.Left{Where: l.rel(name), What: err.Error()})
			continue
		}
		files[to] = data
	}
	return files, nil
}

// whole takes the files that the package would publish.
func (l *library) whole(files map[string][]byte) error {
	var listed struct{ Files []string }
	src, err := readFile(filepath.Join(l.root, "package.json"), 4<<20)
	if err == nil {
		err = json.Unmarshal(src, &listed)
	}
	if err != nil {
		return err
	}
	total := 0
	l.walk(func(rel string, _ fs.DirEntry) {
		published := len(listed.Files) == 0
		for _, f := range listed.Files {
			f = strings.TrimSuffix(strings.TrimPrefix(f, "./"), "/")
			match, _ := path.Match(f, rel)
			published = published || match || rel == f || strings.HasPrefix(rel, f+"/")
		}
		if !published && rel != "package.json" && err == nil {
			return
		}
		data, failed := readFile(filepath.Join(l.root, filepath.FromSlash(rel)), pack.MaxFile)
		if failed != nil {
			err = failed
			return
		}
		if total += len(data); total > pack.MaxUnpacked/2 {
			err = fmt.Errorf("the package has more than %d MB of files; it cannot travel along", pack.MaxUnpacked>>21)
			return
		}
		files[pack.Package+rel] = data
	})
	return err
}

// iconList tells whether a file is a list of icons' names, and not something else that is
// called so.
func iconList(src []byte) bool {
	var list []struct{ Name string }
	return json.Unmarshal(src, &list) == nil && len(list) > 0 && list[0].Name != ""
}

func (l *library) theme(s describe.Sheet) {
	if l.meta.Themes.Dark != "" && s.Dark == "" {
		return
	}
	switch {
	case s.Dark != "":
		l.meta.Themes = pack.Themes{Light: s.Light, Dark: s.Dark, How: "selectors of " + pack.SheetFile}
	case s.Media:
		l.meta.Themes = pack.Themes{Dark: "media", How: "the system's wish, in " + pack.SheetFile}
	}
}

// loaders of files that are no code.
var loaders = map[string]api.Loader{
	".woff2": api.LoaderFile, ".woff": api.LoaderFile, ".ttf": api.LoaderFile, ".otf": api.LoaderFile, ".eot": api.LoaderEmpty,
	".svg": api.LoaderFile, ".png": api.LoaderFile, ".gif": api.LoaderFile, ".jpg": api.LoaderFile, ".jpeg": api.LoaderFile,
	".webp": api.LoaderFile, ".avif": api.LoaderFile, ".wasm": api.LoaderFile, ".mp3": api.LoaderEmpty, ".cur": api.LoaderEmpty,
}

func (l *library) build(entry string, linked map[string]string, plugins []api.Plugin) api.BuildResult {
	own := api.Plugin{Name: "adapter", Setup: func(b api.PluginBuild) {
		if len(l.lacking) > 0 {
			b.OnResolve(api.OnResolveOptions{Filter: `^[@\w]`}, func(a api.OnResolveArgs) (api.OnResolveResult, error) {
				if l.lacking[source.PackageOf(a.Path)] {
					return api.OnResolveResult{Path: a.Path, Namespace: "lacking"}, nil
				}
				return api.OnResolveResult{}, nil
			})
			b.OnLoad(api.OnLoadOptions{Filter: ".*", Namespace: "lacking"}, func(api.OnLoadArgs) (api.OnLoadResult, error) {
				text := nothing
				return api.OnLoadResult{Contents: &text, Loader: api.LoaderJS}, nil
			})
		}
		b.OnResolve(api.OnResolveOptions{Filter: "^ubiquant:"}, func(a api.OnResolveArgs) (api.OnResolveResult, error) {
			return api.OnResolveResult{Path: strings.TrimPrefix(a.Path, "ubiquant:"), Namespace: "ubiquant"}, nil
		})
		b.OnLoad(api.OnLoadOptions{Filter: ".*", Namespace: "ubiquant"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
			name := a.Path
			if name == angularVersion {
				name = l.angular
			}
			src, err := adapters.ReadFile("adapters/" + name + ".js")
			text := string(src)
			// The framework is the one that the library uses.
			return api.OnLoadResult{Contents: &text, ResolveDir: l.root, Loader: api.LoaderJS}, err
		})
		if l.App != nil {
			l.ownFiles(b)
		}
		if len(linked) > 0 {
			b.OnLoad(api.OnLoadOptions{Filter: `\.m?js$`, Namespace: "file"}, func(a api.OnLoadArgs) (api.OnLoadResult, error) {
				if text, ok := linked[a.Path]; ok {
					return api.OnLoadResult{Contents: &text, Loader: api.LoaderJS, ResolveDir: filepath.Dir(a.Path)}, nil
				}
				return api.OnLoadResult{}, nil
			})
		}
	}}
	nodePaths := []string{}
	for at := l.Dir; ; at = filepath.Dir(at) {
		nodePaths = append(nodePaths, filepath.Join(at, "node_modules"))
		if filepath.Dir(at) == at {
			break
		}
	}
	return api.Build(api.BuildOptions{
		Stdin:  &api.StdinOptions{Contents: entry, ResolveDir: l.Dir, Sourcefile: "kit-entry.js", Loader: api.LoaderJS},
		Bundle: true, Format: api.FormatESModule, Outdir: "/kit", EntryNames: "kit", AssetNames: "assets/[name]-[hash]",
		Target: api.ES2022, Metafile: true, LogLevel: api.LogLevelSilent, LegalComments: api.LegalCommentsNone,
		AbsWorkingDir: l.Dir, NodePaths: nodePaths, Charset: api.CharsetUTF8,
		MinifySyntax: true, MinifyWhitespace: true, MinifyIdentifiers: true, KeepNames: l.Drawn == describe.Angular,
		Platform: api.PlatformBrowser, Conditions: []string{"production", "module", "browser"},
		MainFields: []string{"browser", "module", "main"},
		Define: map[string]string{
			"process.env.NODE_ENV": `"production"`, "process.env": "{}", "__VUE_OPTIONS_API__": "true", "__VUE_PROD_DEVTOOLS__": "false",
			"__VUE_PROD_HYDRATION_MISMATCH_DETAILS__": "false", "global": "globalThis", "ngDevMode": "false", "ngServerMode": "false", "ngHmrMode": "false", "ngJitMode": "false", "ngI18nClosureMode": "false",
			"import.meta.env": "{}",
		},
		Loader: l.loaders(), JSX: l.jsx(), Plugins: append([]api.Plugin{own}, plugins...),
	})
}

// ofBuild are names that an application's build puts values in for, as they are usually written.
var ofBuild = regexp.MustCompile(`\b__[A-Z][A-Z0-9]*(?:_[A-Z0-9]+)*__\b`)

// putIn gives what only an application's own build has a value for, as __VERSION__, none, and says so: code that
// asks for it, often while it is loaded, would go no further.
func (l *library) putIn(js []byte) []byte {
	written := map[string]bool{} // in the application's own code: frameworks ask for some of them, too
	for _, word := range l.App.Words() {
		for _, name := range ofBuild.FindAllString(word, -1) {
			written[name] = true
		}
	}
	var names []string
	for _, m := range ofBuild.FindAll(js, -1) {
		if written[string(m)] {
			names = append(names, string(m))
		}
	}
	slices.Sort(names)
	if names = slices.Compact(names); len(names) == 0 || len(names) > mostOfBuild {
		return js
	}
	l.meta.Missing = append(l.meta.Missing, pack.Missing{
		What:   "the build of the application puts something in for " + strings.Join(names, ", ") + ", which is not known",
		Remedy: "here it is undefined",
	})
	list, _ := json.Marshal(names)
	return append([]byte("for(const n of "+string(list)+")n in globalThis||(globalThis[n]=void 0);"), js...)
}

// mostOfBuild bounds these names: where there are more, they are something else.
const mostOfBuild = 100

// forgive takes out of the packing what fails alone: a style sheet that cannot be
// resolved, a module beside the main one. True where anything was taken out.
func (l *library) forgive(errs []api.Message) bool {
	some := false
	for _, e := range errs {
		for i, s := range l.sheets {
			if strings.Contains(e.Text, `"`+s+`"`) {
				l.meta.Missing = append(l.meta.Missing, pack.Missing{What: "the style sheet " + s + " cannot be imported", Remedy: "name another with --style"})
				l.sheets = slices.Delete(l.sheets, i, i+1)
				l.meta.Styles = l.sheets
				some = true
				break
			}
		}
		if _, lacks := bareImport(e.Text); e.Location == nil || lacks {
			continue // a package that lacks can be installed
		}
		for i, file := range l.imports {
			if filepath.Join(l.Dir, e.Location.File) == file || e.Location.File == file || strings.Contains(e.Text, file) {
				l.meta.Missing = append(l.meta.Missing, pack.Missing{What: l.rel(file) + " cannot be bundled: " + e.Text, Remedy: "what it defines is left out"})
				l.imports = slices.Delete(l.imports, i, i+1)
				some = true
				break
			}
		}
	}
	return some
}

// nothing stands for a package that is not installed: whatever is taken of it, called or made
// of it is the same again, so that the rest of a library loads.
const nothing = `const it = new Proxy(function () {}, {
  get: (_, key) => key === Symbol.toPrimitive ? () => '' : key === 'prototype' ? {} : key === '__esModule' ? false : it,
  apply: () => it, construct: () => ({}),
})
module.exports = it
`

// standIn lets something stand in for packages that are not installed and need not be: who
// imports them declares them as optional, or not at all. True where there are any.
func (l *library) standIn(errs []api.Message) bool {
	if l.lacking == nil {
		l.lacking = map[string]bool{}
	}
	from := map[string]string{}
	for _, e := range errs {
		pkg, lacks := bareImport(e.Text)
		if !lacks || e.Location == nil {
			continue
		}
		if l.Own == nil && l.wants(e.Location.File, pkg) {
			return false // told with the others
		}
		if from[pkg] == "" {
			from[pkg] = e.Location.File
		}
	}
	for _, pkg := range sortedKeys(from) {
		l.lacking[pkg] = true
		l.meta.Missing = append(l.meta.Missing, pack.Missing{
			What:   fmt.Sprintf("%s is not installed, and %s imports it%s: what uses it does not draw", pkg, path.Base(filepath.ToSlash(from[pkg])), l.unasked()),
			Remedy: "npm install " + pkg, Install: pkg,
		})
	}
	return len(from) > 0
}

// manyModules are so many that a package has entries of which one does without others.
const manyModules = 10

// wants tells whether the package that a file belongs to asks for another to be installed.
func (l *library) wants(file, pkg string) bool {
	if !filepath.IsAbs(file) {
		file = filepath.Join(l.Dir, file)
	}
	for at := filepath.Dir(file); ; at = filepath.Dir(at) {
		src, err := readFile(filepath.Join(at, "package.json"), 4<<20)
		var says struct {
			Name                           string
			Dependencies, PeerDependencies map[string]string
			PeerDependenciesMeta           map[string]struct{ Optional bool }
		}
		if err == nil && json.Unmarshal(src, &says) == nil && says.Name != "" {
			_, direct := says.Dependencies[pkg]
			_, peer := says.PeerDependencies[pkg]
			if direct || peer {
				return direct || !says.PeerDependenciesMeta[pkg].Optional
			}
			// Not declared at all: one of many entries can do without, the only one cannot.
			return len(l.specs)+len(l.imports) < manyModules
		}
		if at == l.Dir || filepath.Dir(at) == at {
			return true // an import of the repository itself
		}
	}
}

// bareImport is the package that an error says could not be found.
func bareImport(text string) (pkg string, ok bool) {
	_, rest, found := strings.Cut(text, `Could not resolve "`)
	name, _, _ := strings.Cut(rest, `"`)
	if !found || strings.HasPrefix(name, ".") || filepath.IsAbs(name) || strings.HasSuffix(name, ".css") {
		return "", false
	}
	return source.PackageOf(name), true
}

// unresolved says exactly what lacks, by package.
func (l *library) unresolved(errs []api.Message) error {
	lacking := map[string]string{}
	var other []string
	for _, e := range errs {
		at := ""
		if e.Location != nil {
			at = fmt.Sprintf("%s:%d", e.Location.File, e.Location.Line)
		}
		pkg, lacks := bareImport(e.Text)
		version, there := "", false
		if lacks {
			version, there = l.installed(pkg)
		}
		if lacks && !there && pkg != l.pkg.Name {
			if lacking[pkg] == "" {
				lacking[pkg] = at
			}
			continue
		}
		words := e.Text
		if lacks {
			words += fmt.Sprintf(": there is no such module in %s %s", pkg, cmp.Or(version, l.pkg.Version))
		}
		if len(other) < 8 {
			other = append(other, strings.TrimSpace(at+" "+words))
		}
	}
	var b strings.Builder
	fmt.Fprintf(&b, "%s cannot be packed", l.pkg.Name)
	if len(lacking) > 0 {
		names := sortedKeys(lacking)
		fmt.Fprintf(&b, ": %d packages that it imports are not installed in %s.\n", len(names), l.Dir)
		for i, n := range names {
			if i == 12 {
				fmt.Fprintf(&b, "  and %d more\n", len(names)-12)
				break
			}
			fmt.Fprintf(&b, "  %s (imported at %s)\n", n, lacking[n])
		}
		fmt.Fprintf(&b, "Run \"npm install %s\" there", strings.Join(names[:min(len(names), 12)], " "))
	}
	for _, o := range other {
		b.WriteString("\n  " + o)
	}
	return &LacksError{Packages: sortedKeys(lacking), words: b.String()}
}

// LacksError says that a library cannot be packed as it stands.
type LacksError struct {
	Packages []string // that are not installed; none where something else is the matter
	words    string
}

func (e *LacksError) Error() string { return e.words }

// sizes notes whose code is in the module: versions, bytes, and packages that are there
// in two versions.
func (l *library) sizes(metafile string) {
	var meta struct {
		Inputs  map[string]struct{ Bytes int }
		Outputs map[string]struct {
			Inputs map[string]struct{ BytesInOutput int }
		}
	}
	if json.Unmarshal([]byte(metafile), &meta) != nil {
		return
	}
	l.meta.Sizes = map[string]int{}
	folders := map[string][]string{}
	for _, out := range meta.Outputs {
		for file, in := range out.Inputs {
			name, folder := packageOf(file)
			if name == "" {
				if strings.HasPrefix(filepath.Join(l.Dir, file), l.root) {
					name = l.pkg.Name
				} else {
					continue
				}
			}
			l.meta.Sizes[name] += in.BytesInOutput
			if folder != "" && !slices.Contains(folders[name], folder) {
				folders[name] = append(folders[name], folder)
			}
		}
	}
	for _, name := range sortedKeys(folders) {
		versions := []string{}
		for _, folder := range folders[name] {
			if src, err := readFile(filepath.Join(l.Dir, folder, "package.json"), 4<<20); err == nil {
				var p packageFile
				if json.Unmarshal(src, &p) == nil && p.Version != "" && !slices.Contains(versions, p.Version) {
					versions = append(versions, p.Version)
				}
			}
		}
		slices.Sort(versions)
		if len(versions) > 0 {
			l.meta.Packages[name] = strings.Join(versions, " and ")
		}
		if len(versions) > 1 {
			l.meta.Notes = append(l.meta.Notes, fmt.Sprintf("%s is in it in %d versions: %s", name, len(versions), strings.Join(versions, ", ")))
		}
	}
}

func packageOf(file string) (name, folder string) {
	i := strings.LastIndex(file, "node_modules/")
	if i < 0 {
		return "", ""
	}
	parts := strings.SplitN(file[i+len("node_modules/"):], "/", 3)
	name = parts[0]
	if strings.HasPrefix(name, "@") && len(parts) > 1 {
		name += "/" + parts[1]
	}
	return name, file[:i+len("node_modules/")] + name
}
