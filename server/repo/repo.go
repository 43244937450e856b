// Package repo reads a repository from its folder: which files hold markup, what their
// readers make of them, which kits are in use and what these say of themselves. Nothing of
// the repository is run; the readers that need Node run as processes of their own, with
// limits, and a file that one of them hangs on is left out and told.
package repo

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"ubiquant/core/kit/describe"
	"ubiquant/core/source"
)

// SettingsFile is where a team's settings lie, at the root of its repository.
const SettingsFile = "ubiquant.json"

// Limits of what is read.
const (
	maxFile  = 1 << 20 // bytes of one file
	maxFiles = 30_000
	maxLine  = 2_000 // bytes of a line on average: such files were written by programs
	maxText  = 8 << 20
)

// Options say what is read and by what.
type Options struct {
	Dir          string
	Markup       []byte // script that reads markup; none: only HTML is read, and it is said
	Declarations []byte // script that reads type declarations
	Node         string // program that runs them; empty: as found on the path
	Cache        string // folder for what was read before; empty: nothing is kept
	Tell         func(step string)
	// Known describes kits that are not installed in the repository, by their names.
	Known map[string]*describe.Catalog
	// Overlay are files to read in place of those in the folder, by their paths.
	Overlay map[string][]byte
	// Only lists the files there are, instead of those in the folder; with Overlay, a revision.
	Only []string
}

// Repository is a repository as it was read.
type Repository struct {
	*source.Read
	Dir      string
	Settings source.Settings
	Survey   *source.Survey
	Left     []source.Left // files that were not read, and why

	packages []source.Package
}

type reader struct {
	Options
	root     *os.Root
	files    []*source.File
	packages []source.Package
	aliases  []source.Alias
	texts    []source.TextFile // in JSON, not read yet
	owners   []owner
	settings source.Settings
	left     []source.Left
	html     map[string][]byte // files that may be templates
	unread   map[string]int    // files with markup in languages that are not read
	kept     *cache            // what was read of files before
}

// Read reads a repository.
func Read(ctx context.Context, o Options) (*Repository, error) {
	if o.Tell == nil {
		o.Tell = func(string) {}
	}
	dir, err := filepath.Abs(o.Dir)
	if err != nil {
		return nil, err
	}
	info, err := os.Stat(dir)
	if err != nil {
		return nil, err
	}
	if !info.IsDir() {
		return nil, fmt.Errorf("%s is no folder", o.Dir)
	}
	o.Dir = dir
	root, err := os.OpenRoot(dir)
	if err != nil {
		return nil, err
	}
	defer root.Close()
	r := &reader{Options: o, root: root, html: map[string][]byte{}, unread: map[string]int{}}
	if err := r.readSettings(); err != nil {
		return nil, err
	}
	o.Tell("looking for files")
	texts, err := r.walk(ctx)
	if err != nil {
		return nil, err
	}
	o.Tell(fmt.Sprintf("reading %d files", len(texts)))
	if err := r.read(ctx, texts); err != nil {
		return nil, err
	}
	for _, ext := range slices.Sorted(maps.Keys(r.unread)) {
		r.left = append(r.left, source.Left{File: "*" + ext, What: fmt.Sprintf("%d files: this language is not read", r.unread[ext])})
	}
	if len(r.files) == 0 {
		return nil, fmt.Errorf("%s: no file with markup was found. Looked for %s; left out: %s",
			dir, strings.Join(slices.Sorted(maps.Keys(languages)), ", "), orNothing(r.left))
	}
	r.bundled()
	in := &source.Input{
		Name: filepath.Base(dir), Files: r.files, Packages: r.packages, Aliases: r.aliases, Settings: r.settings, Texts: r.textsOf(), Owner: r.owner,
	}
	ages, why := made(ctx, dir)
	if in.Made = ages; why != "" {
		r.left = append(r.left, source.Left{File: ".git", What: why})
	}
	if len(r.packages) > 0 && r.packages[0].Dir == "" && r.packages[0].Name != "" {
		in.Name = r.packages[0].Name
	}
	survey := source.Look(in)
	catalogs := r.describe(ctx, survey)
	o.Tell("making screens of it")
	read, err := survey.Build(catalogs)
	if err != nil {
		return nil, err
	}
	read.Report.Left = append(r.left, read.Report.Left...)
	return &Repository{Read: read, Dir: dir, Settings: r.settings, Survey: survey, Left: r.left, packages: r.packages}, nil
}

func orNothing(list []source.Left) string {
	if len(list) == 0 {
		return "nothing"
	}
	words := make([]string, 0, 6)
	for _, l := range list[:min(len(list), 5)] {
		words = append(words, l.File+" ("+l.What+")")
	}
	if len(list) > 5 {
		words = append(words, fmt.Sprintf("and %d more", len(list)-5))
	}
	return strings.Join(words, ", ")
}

// readSettings reads what the team says of its repository.
func (r *reader) readSettings() error {
	s, _, err := r.settingsNow()
	if err == nil {
		r.settings = *s
	}
	return err
}

// settingsNow are the settings with their text; none are empty.
func (r *reader) settingsNow() (*source.Settings, []byte, error) {
	src, err := r.text(SettingsFile, maxFile)
	if errors.Is(err, fs.ErrNotExist) {
		return &source.Settings{}, nil, nil
	}
	if err != nil {
		return nil, nil, err
	}
	s, err := source.ReadSettings(src)
	if err != nil {
		return nil, nil, fmt.Errorf("%s: %w", SettingsFile, err)
	}
	return s, src, nil
}

// Settings reads what a team says of its repository, with its text, and how many of some of its files
// are there.
func Settings(dir string, files []string) (s *source.Settings, text []byte, there int, err error) {
	root, err := os.OpenRoot(dir)
	if err != nil {
		return nil, nil, 0, err
	}
	defer root.Close()
	for _, name := range files {
		if info, err := root.Stat(filepath.FromSlash(name)); err == nil && info.Mode().IsRegular() {
			there++
		}
	}
	s, text, err = (&reader{root: root}).settingsNow()
	return s, text, there, err
}

// text reads a file of the repository, or what stands for it.
func (r *reader) text(name string, most int64) ([]byte, error) {
	if src, ok := r.Overlay[name]; ok {
		return src, nil
	}
	if r.Only != nil {
		return nil, fs.ErrNotExist
	}
	info, err := r.root.Stat(filepath.FromSlash(name))
	if err != nil {
		return nil, err
	}
	if !info.Mode().IsRegular() {
		return nil, fmt.Errorf("%s is no plain file", name)
	}
	if info.Size() > most {
		return nil, fmt.Errorf("%s has %d KB; at most %d KB are read", name, info.Size()>>10, most>>10)
	}
	return r.root.ReadFile(filepath.FromSlash(name))
}

// languages are the files that may hold markup or lead to some.
var languages = map[string]bool{".tsx": true, ".jsx": true, ".ts": true, ".js": true, ".mjs": true, ".mts": true, ".vue": true, ".html": true, ".htm": true}

// unread are files that hold markup too, and that nobody reads here: they are counted and told.
var unread = map[string]bool{
	".svelte": true, ".astro": true, ".mdx": true, ".hbs": true, ".ejs": true, ".pug": true, ".php": true, ".erb": true, ".twig": true, ".liquid": true, ".cshtml": true,
	".razor": true, ".jsp": true, ".njk": true, ".marko": true, ".riot": true, ".cts": true,
}

// skipped are folders of what was built, installed or generated.
var skipped = map[string]bool{
	"node_modules": true, "bower_components": true, "dist": true, "build": true, "out": true, "coverage": true, "vendor": true, "target": true,
	"__pycache__": true, "tmp": true, "temp": true,
}

// walk finds the files to read; the rest is told.
func (r *reader) walk(ctx context.Context) (map[string][]byte, error) {
	texts := map[string][]byte{}
	take := func(name string, size int64) {
		ext := path.Ext(name)
		switch {
		case path.Base(name) == "package.json":
			r.readPackage(name)
			return
		case tsconfig.MatchString(name):
			r.readAliases(name)
			return
		case path.Base(name) == "CODEOWNERS":
			r.readOwners(name)
			return
		case ext == ".json":
			r.noteTexts(name, size)
			return
		case matchAny(r.settings.Ignore, name):
			return
		case unread[ext]:
			r.unread[ext]++
			return
		case !languages[ext]:
			return
		}
		if strings.HasSuffix(name, ".min.js") || strings.HasSuffix(name, ".d.ts") || strings.HasSuffix(name, ".d.mts") {
			return
		}
		src, err := r.text(name, maxFile)
		switch {
		case err != nil:
			r.left = append(r.left, source.Left{File: name, What: err.Error()})
			return
		case bytes.IndexByte(src, 0) >= 0:
			r.left = append(r.left, source.Left{File: name, What: "is no text"})
			return
		case len(src) > 20_000 && len(src)/(1+bytes.Count(src, []byte("\n"))) > maxLine:
			r.left = append(r.left, source.Left{File: name, What: "has lines that only programs write"})
			return
		}
		if ext == ".html" || ext == ".htm" {
			r.html[name] = src
			return
		}
		texts[name] = src
	}
	if r.Only != nil {
		for _, name := range slices.Sorted(slices.Values(r.Only)) {
			if inside(name) {
				take(name, int64(len(r.Overlay[name])))
			}
		}
		return texts, nil
	}
	err := fs.WalkDir(r.root.FS(), ".", func(name string, d fs.DirEntry, err error) error {
		if err != nil {
			r.left = append(r.left, source.Left{File: name, What: err.Error()})
			if d != nil && d.IsDir() {
				return fs.SkipDir
			}
			return nil
		}
		if err := ctx.Err(); err != nil {
			return err
		}
		if d.IsDir() {
			if name != "." && (skipped[d.Name()] || strings.HasPrefix(d.Name(), ".") && d.Name() != ".github") {
				return fs.SkipDir
			}
			return nil
		}
		if !d.Type().IsRegular() {
			return nil // links lead elsewhere, or to what is read anyway
		}
		if len(texts) >= maxFiles {
			return fmt.Errorf("more than %d files: name a folder of it, or list what to leave out as \"ignore\" in %s", maxFiles, SettingsFile)
		}
		info, err := d.Info()
		if err != nil {
			return nil
		}
		take(name, info.Size())
		return nil
	})
	return texts, err
}

// inside reports whether a path has no part that is left out.
func inside(name string) bool {
	for part := range strings.SplitSeq(path.Dir(name), "/") {
		if skipped[part] || strings.HasPrefix(part, ".") && part != "." && part != ".github" {
			return false
		}
	}
	return true
}

func matchAny(patterns []string, name string) bool {
	return slices.ContainsFunc(patterns, func(p string) bool { return source.Match(p, name) })
}

// read turns texts into files.
func (r *reader) read(ctx context.Context, texts map[string][]byte) error {
	modules, err := r.parse(ctx, texts, "")
	if err != nil {
		return err
	}
	// Templates in files of their own are read once it is known whose they are.
	templates, wanted := map[string][]byte{}, map[string]*source.Component{}
	for _, name := range slices.Sorted(maps.Keys(texts)) {
		m := modules[name]
		if m == nil {
			continue
		}
		for _, c := range m.Components {
			if c.Template == "" {
				continue
			}
			at := path.Join(path.Dir(name), c.Template)
			if src, ok := r.html[at]; ok {
				templates[at], wanted[at] = src, c
				delete(r.html, at)
			} else {
				r.left = append(r.left, source.Left{File: name, What: "its template " + c.Template + " is not there"})
			}
		}
	}
	read, err := r.parse(ctx, templates, "template")
	if err != nil {
		return err
	}
	for _, name := range slices.Sorted(maps.Keys(texts)) {
		if m := modules[name]; m != nil {
			r.files = append(r.files, &source.File{Path: name, Text: texts[name], Module: m})
		}
	}
	// A template is a file whose component is that of the class: places are the template's.
	for at, m := range read {
		c := wanted[at]
		if m == nil || len(m.Components) == 0 {
			continue
		}
		for _, f := range r.files {
			i := slices.Index(f.Components, c)
			if i < 0 {
				continue
			}
			t := m.Components[0]
			t.Name, t.Exported, t.Selector, t.Declared = c.Name, c.Exported, c.Selector, c.Declared
			f.Components = slices.Delete(slices.Clone(f.Components), i, i+1)
			m.Imports, m.Exports = f.Imports, f.Exports
			f.Exports = append(f.Exports, source.Export{Name: c.Name, Local: c.Name, From: "./" + strings.TrimPrefix(relative(path.Dir(f.Path), at), "./")})
			r.files = append(r.files, &source.File{Path: at, Text: templates[at], Module: m})
		}
	}
	for _, name := range slices.Sorted(maps.Keys(r.html)) {
		m := source.ReadHTML(r.html[name])
		if m != nil {
			r.files = append(r.files, &source.File{Path: name, Text: r.html[name], Module: m})
		}
	}
	slices.SortFunc(r.files, func(a, b *source.File) int { return strings.Compare(a.Path, b.Path) })
	return nil
}

func relative(from, to string) string {
	out, err := filepath.Rel(from, to)
	if err != nil {
		return to
	}
	return filepath.ToSlash(out)
}

// Write puts patched files in place of those that were read. A file that is not as it was read
// is not replaced, and then none is.
func (r *Repository) Write(files []source.Patched) error {
	root, err := os.OpenRoot(r.Dir)
	if err != nil {
		return err
	}
	defer root.Close()
	for _, f := range files {
		now, err := root.ReadFile(filepath.FromSlash(f.Path))
		if err != nil {
			return err
		}
		if !bytes.Equal(now, f.Before) {
			return fmt.Errorf("%s was changed since it was read: nothing is written; audit again", f.Path)
		}
	}
	for _, f := range files {
		name := filepath.FromSlash(f.Path)
		info, err := root.Stat(name)
		if err != nil {
			return err
		}
		if err := root.WriteFile(name+".part", f.After, info.Mode().Perm()); err != nil {
			return err
		}
		if err := root.Rename(name+".part", name); err != nil {
			return errors.Join(err, root.Remove(name+".part"))
		}
	}
	return nil
}
