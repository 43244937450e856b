package into

import (
	"bytes"
	"context"
	"fmt"
	"io/fs"
	"maps"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"github.com/tdewolff/parse/v2"
	"github.com/tdewolff/parse/v2/css"

	"ubiquant/core/deliver"
	"ubiquant/core/kit"
)

// builders are packages that build an application and know no import.meta.env.
var builders = []string{"react-scripts", "next", "webpack", "@vue/cli-service", "parcel", "@rspack/core", "@rsbuild/core"}

// home is what the application around the folder is made with.
func (r *Repo) home(ctx context.Context) deliver.Home {
	h := deliver.Home{At: r.Folder}
	m, err := r.manifest()
	if err != nil || r.Folder == "." {
		return h
	}
	h.NoVite = m.has("vite") == "" && slices.ContainsFunc(builders, func(name string) bool { return m.has(name) != "" })
	if r.Target == "react" {
		if m.has("react-router") == "" && m.has("react-router-dom") != "" {
			h.Router = "react-router-dom"
		}
		if h.Folders = r.folders() != nil; h.Folders {
			return h
		}
		found := r.places(ctx)
		h.Elements = found.find("routes") == nil && found.find("elements") != nil
		if len(found.Places) == 0 { // nothing could be found out: as it was delivered
			h.Elements = r.read(r.at("routes.tsx")) != nil
		}
	}
	return h
}

// leastOf are the ranges of packages that delivered code goes with.
func leastOf(t deliver.Target, in deliver.Input, needs map[string]string) map[string]string {
	out := maps.Clone(t.Least)
	if out == nil {
		out = map[string]string{}
	}
	if t.ID == "react" && in.Kit.HasElements() {
		out["react"] = ">=19.0.0" // before, elements were handed texts alone
	}
	whole := func(name, version string, peers map[string]string) {
		if needs[name] == version {
			out[name] = "^" + version
		}
		for peer, wanted := range peers {
			if out[peer] == "" {
				out[peer] = wanted
			}
		}
	}
	if in.Kit.Folder() == "" {
		whole(in.Kit.Name, in.Kit.Published(), in.Peers)
	}
	for _, p := range in.Parts {
		whole(p.Name, p.Version, p.Peers)
	}
	return out
}

// versions tells of packages that are there in another version than the code goes with, and of
// those that were asked for and are not installed.
func (r *Repo) versions() (out []Addition) {
	m, err := r.manifest()
	if err != nil {
		return nil // packages says so
	}
	for _, name := range slices.Sorted(maps.Keys(r.least)) {
		asked := m.has(name)
		if asked == "" {
			continue
		}
		has, words := r.installed(name), "is installed"
		if has == "" {
			has, words = asked, "is asked for"
		}
		if fits, known := kit.Admits(has, r.least[name]); known && !fits {
			out = append(out, Addition{
				What: fmt.Sprintf("%s %s, which the screens are made for", name, r.least[name]), Path: "package.json",
				By: fmt.Sprintf("%s %s: ask for %s %s in package.json and install it", has, words, name, r.least[name]),
			})
		}
	}
	if lacks := r.uninstalled(m); len(lacks) > 0 {
		out = append(out, Addition{
			What: "the packages that are asked for, installed",
			By:   fmt.Sprintf("run %s install: node_modules has no %s", r.manager(), strings.Join(lacks, ", ")),
		})
	}
	return out
}

// locks are the files by which those who install packages keep what they chose.
var locks = []struct{ file, by string }{
	{"package-lock.json", "npm"}, {"pnpm-lock.yaml", "pnpm"}, {"yarn.lock", "yarn"}, {"bun.lock", "bun"}, {"bun.lockb", "bun"},
}

// manager is what installs packages in this folder; empty where nothing does.
func (r *Repo) manager() string {
	for _, l := range locks {
		if r.read(l.file) != nil {
			return l.by
		}
	}
	return ""
}

// uninstalled are packages that the screens need, and the repository asks for, and that are not
// where they are installed. Where packages are installed elsewhere (for several folders at once,
// or in no folder at all) none is.
func (r *Repo) uninstalled(m manifest) (out []string) {
	if _, err := r.root.Stat("node_modules"); err != nil || r.manager() == "" {
		return nil
	}
	for _, name := range slices.Sorted(maps.Keys(r.Needs)) {
		_, err := r.root.Lstat(filepath.FromSlash(path.Join("node_modules", name)))
		if m.has(name) != "" && err != nil {
			out = append(out, name)
		}
	}
	return out
}

// fontFaces asks for the fonts that the kit's styles ask for and do not bring: without them another
// is shown.
func (r *Repo) fontFaces() (out []Addition) {
	if len(r.fonts) == 0 {
		return nil
	}
	sources := r.stylesAndPages()
	m, _ := r.manifest() // one that cannot be read brings no font
	for _, family := range r.fonts {
		slug := strings.ReplaceAll(strings.ToLower(family), " ", "-")
		brought := m.has("@fontsource/"+slug) != "" || m.has("@fontsource-variable/"+slug) != ""
		brought = brought || slices.ContainsFunc(sources, func(s sheet) bool {
			return linked(s.text, family) || slices.ContainsFunc(kit.Families(s.text), func(f string) bool { return strings.EqualFold(f, family) })
		})
		a := Addition{What: fmt.Sprintf("the font %s, which the kit asks for and does not bring", family), Done: brought}
		if !brought {
			a.By = fmt.Sprintf("add an @font-face for %s to a style sheet of the application, "+
				"or link one in its page; until then another font is shown", family)
		}
		out = append(out, a)
	}
	return out
}

var familyParameter = regexp.MustCompile(`[?&]family=([^"'&:)\s]+)`)

// linked tells whether a page or a sheet takes a font from a service by its address.
func linked(src []byte, family string) bool {
	for _, m := range familyParameter.FindAllSubmatch(src, -1) {
		for one := range strings.SplitSeq(string(m[1]), "|") {
			if strings.EqualFold(strings.ReplaceAll(strings.ReplaceAll(one, "+", " "), "%20", " "), family) {
				return true
			}
		}
	}
	return false
}

// Bounds of a look at a repository's own sheets and pages.
const (
	maxSheets = 2000
	maxSheet  = 1 << 20
)

// resets tells of rules for all elements that take the room away which the kit's elements give
// themselves: what a page says of an element comes before what it says of itself.
func (r *Repo) resets() (out []Addition) {
	if len(r.Prefixes) == 0 {
		return nil
	}
	for _, s := range r.stylesAndPages() {
		if path.Ext(s.path) != ".css" {
			continue
		}
		if sets := ofAll(s.text); len(sets) > 0 {
			out = append(out, Addition{
				What: "the room that the kit's elements give themselves", Path: s.path,
				By: fmt.Sprintf("a rule for all elements (*) sets %s there, the kit's too: let it name those that it is for (body, h1, p, ul)", strings.Join(sets, " and ")),
			})
		}
	}
	return out
}

// ofAll are the margins and paddings that a style sheet sets for all elements.
func ofAll(sheet []byte) (out []string) {
	// The parser knows rules within media queries, not within layers.
	sheet = bytes.ReplaceAll(sheet, []byte("@layer "), []byte("@media "))
	p := css.NewParser(parse.NewInputBytes(sheet), false)
	all, here := false, false
	for {
		kind, _, data := p.Next()
		switch kind {
		case css.ErrorGrammar:
			return out
		case css.QualifiedRuleGrammar, css.BeginRulesetGrammar:
			selector := ""
			for _, t := range p.Values() {
				selector += string(t.Data)
			}
			for one := range strings.SplitSeq(selector, ",") {
				all = all || strings.TrimSpace(one) == "*"
			}
			if kind == css.BeginRulesetGrammar {
				all, here = false, all
			}
		case css.EndRulesetGrammar:
			here = false
		case css.DeclarationGrammar:
			if name := strings.ToLower(string(data)); here && (name == "margin" || name == "padding") && !slices.Contains(out, name) {
				out = append(out, name)
			}
		}
	}
}

// sheet is a style sheet or a page of the repository.
type sheet struct {
	path string
	text []byte
}

// stylesAndPages are the repository's own style sheets and pages.
func (r *Repo) stylesAndPages() (out []sheet) {
	looked := 0
	// What cannot be read says nothing of fonts.
	_ = fs.WalkDir(r.root.FS(), ".", func(name string, d fs.DirEntry, err error) error {
		if err != nil || looked > maxSheets {
			return nil
		}
		if d.IsDir() {
			base := path.Base(name)
			if base == "node_modules" || base == "dist" || name == r.Folder || name != "." && strings.HasPrefix(base, ".") {
				return fs.SkipDir
			}
			return nil
		}
		ext := path.Ext(name)
		if !slices.Contains([]string{".css", ".scss", ".sass", ".less", ".vue", ".html"}, ext) {
			return nil
		}
		looked++
		if src := r.read(name); len(src) <= maxSheet {
			out = append(out, sheet{name, src})
		}
		return nil
	})
	return out
}
