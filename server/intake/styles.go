package intake

import (
	"context"
	"encoding/json"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/kit/describe"
)

var usualTheme = regexp.MustCompile(`(?i)(^|[-_.])(default|light|base|main)([-_.]|$)`)

// sheetNames are what a package's main sheet is called, the best first; {} stands for the
// library's names.
var sheetNames = []string{"style.css", "styles.css", "index.css", "main.css", "{}.css", "all.css", "bundle.css", "theme.css", "global.css", "globals.css", "core.css"}

// styles chooses style sheets: those that a person names, the one that package.json
// names, or one that is called as main sheets are; and where themes are apart, light and
// dark. What was chosen is noted.
func (l *library) styles(context.Context) error {
	note := func(format string, args ...any) { l.meta.Notes = append(l.meta.Notes, fmt.Sprintf(format, args...)) }
	if len(l.Styles) > 0 {
		for _, s := range l.Styles {
			if s == "-" {
				return nil
			}
			l.sheets = append(l.sheets, s)
		}
		l.meta.Styles = l.sheets
		return nil
	}
	// How a file of the package is imported: by the export that leads to it, else by its path.
	importOf := func(rel string) (string, bool) {
		for _, key := range sortedKeys(l.exported) {
			if key != "." && path.Clean(l.exported[key]) == rel {
				return path.Join(l.pkg.Name, key), true
			}
		}
		for _, key := range sortedKeys(l.exported) {
			target := path.Clean(l.exported[key])
			if before, after, ok := strings.Cut(target, "*"); ok && strings.HasPrefix(rel, before) && strings.HasSuffix(rel, after) && len(rel) > len(before)+len(after) {
				name := strings.TrimSuffix(strings.TrimPrefix(rel, before), after)
				return path.Join(l.pkg.Name, strings.Replace(key, "*", name, 1)), true
			}
		}
		return path.Join(l.pkg.Name, rel), len(l.exported) == 0
	}
	take := func(rel, why string) {
		spec, reachable := importOf(rel)
		if !reachable {
			note("%s is there, and the package does not let it be imported", rel)
			return
		}
		if !slices.Contains(l.sheets, spec) {
			l.sheets = append(l.sheets, spec)
			note("style sheet %s: %s", spec, why)
		}
	}
	if l.pkg.Style != "" && strings.HasSuffix(l.pkg.Style, ".css") && l.inside(l.pkg.Style) != "" {
		take(strings.TrimPrefix(path.Clean(l.pkg.Style), "./"), "package.json names it")
	}
	var all []string
	l.walk(func(rel string, d fs.DirEntry) {
		spec, _ := importOf(rel)
		small := strings.HasSuffix(rel, ".min.css") && strings.HasSuffix(spec, ".min.css") // a copy of another
		if strings.HasSuffix(rel, ".css") && !small && !strings.HasSuffix(rel, ".rtl.css") && !strings.HasSuffix(rel, ".layer.css") && !strings.HasSuffix(rel, ".module.css") && strings.Count(rel, "/") <= 3 {
			if _, ok := importOf(rel); ok {
				all = append(all, rel)
			}
		}
	})
	slices.SortFunc(all, func(a, b string) int {
		if n := strings.Count(a, "/") - strings.Count(b, "/"); n != 0 {
			return n
		}
		return strings.Compare(a, b)
	})
	if len(l.sheets) == 0 {
		bare := strings.TrimPrefix(l.pkg.Name, "@")
		short := []string{l.short, path.Base(l.pkg.Name), path.Dir(bare), strings.ReplaceAll(bare, "/", "-")}
	search:
		for _, want := range sheetNames {
			names := []string{want}
			if want == "{}.css" {
				names = names[:0]
				for _, s := range short {
					names = append(names, s+".css", s+".min.css")
				}
			}
			for _, rel := range all {
				if slices.Contains(names, path.Base(rel)) && !strings.Contains(rel, "theme") {
					take(rel, "it is called as main sheets are")
					break search
				}
			}
		}
	}
	light, dark := "", ""
	for _, rel := range all {
		switch base := strings.TrimSuffix(path.Base(rel), ".css"); base {
		case "light", "theme-light", "light-theme", "default-theme":
			if light == "" {
				light = rel
			}
		case "dark", "theme-dark", "dark-theme", "dark.system", "css-vars":
			if dark == "" && base != "dark.system" {
				dark = rel
			}
		}
	}
	for _, rel := range all { // of themes with names of their own the first that has both
		name, ok := strings.CutSuffix(rel, "-light.css")
		if ok && light == "" && dark == "" && strings.Contains(rel, "theme") && slices.Contains(all, name+"-dark.css") {
			light, dark = rel, name+"-dark.css"
		}
	}
	if light != "" {
		take(light, "themes are sheets of their own")
	}
	if dark != "" {
		src, err := readFile(l.inside(dark), 8<<20)
		s := describe.ReadSheet(src)
		bare := slices.ContainsFunc(s.Properties, func(p describe.Property) bool { return !p.Dark })
		if err == nil && (s.Dark != "" || !bare) {
			take(dark, "themes are sheets of their own")
		} else {
			note("style sheet %s is left out: it would hold for the light theme as well", dark)
		}
	}
	if len(l.sheets) == 0 && len(all) > 0 && l.ofComponents(all) {
		note("no style sheet: the %d that are there are called as modules are, whose code brings them", len(all))
		return nil
	}
	if len(l.sheets) == 0 && len(all) > 0 {
		// Where there are only themes, one of them is better than none.
		themes := slices.DeleteFunc(slices.Clone(all), func(rel string) bool { return !strings.Contains(path.Dir(rel), "theme") })
		if len(themes) == len(all) {
			// The one that is for no purpose of its own.
			at := max(0, slices.IndexFunc(all, func(rel string) bool { return usualTheme.MatchString(path.Base(rel)) }))
			take(all[at], fmt.Sprintf("one of %d themes; others with --style", len(all)))
		}
	}
	if len(l.sheets) == 0 && len(all) == 1 {
		take(all[0], "it is the only one")
	}
	if spec := l.sheetBeside(); len(l.sheets) == 0 && spec != "" {
		l.sheets = append(l.sheets, spec)
		note("style sheet %s: its package is installed beside and called alike; others with --style", spec)
	}
	if len(l.sheets) == 0 && len(all) > 0 {
		note("%d style sheets are there and none is called as main sheets are (%s …): name those needed with --style", len(all), all[0])
	}
	l.meta.Styles = l.sheets
	return nil
}

// ofComponents tells whether style sheets are called as components are: then each comes with
// the code of its own, and none is the theme of all.
func (l *library) ofComponents(sheets []string) bool {
	modules := map[string]bool{}
	l.walk(func(rel string, _ fs.DirEntry) {
		if base, ok := strings.CutSuffix(path.Base(rel), ".js"); ok {
			modules[base] = true
		}
	})
	n := 0
	for _, s := range sheets {
		base := strings.TrimSuffix(path.Base(s), ".css")
		part, _, _ := strings.Cut(base, "-") // Card-parameters.css
		if modules[base] || modules[part] {
			n++
		}
	}
	return 2*n > len(sheets)
}

// purpose are parts of names that say what a package is written for, or holds.
var purpose = map[string]bool{"react": true, "vue": true, "vue3": true, "angular": true, "ng": true, "ngx": true, "next": true, "js": true, "ui": true, "css": true, "styles": true, "components": true}

// stemOf is what is left of a package's name without its purpose.
func stemOf(name string) string {
	parts := strings.FieldsFunc(name, func(r rune) bool { return strings.ContainsRune("@/-.", r) })
	parts = slices.DeleteFunc(parts, func(p string) bool { return purpose[p] })
	return strings.Join(slices.Compact(parts), "-") // "@orchard/orchard" is one
}

// sheetBeside is the style sheet of a package that is installed beside the library, of the
// repository's own accord or since the library asks for it, where that is its look: "orchard-react" with "orchard", or with "orchard-css".
func (l *library) sheetBeside() string {
	var repo struct{ Dependencies, DevDependencies, PeerDependencies map[string]string }
	src, err := readFile(filepath.Join(l.Dir, "package.json"), 4<<20)
	if err != nil || json.Unmarshal(src, &repo) != nil {
		return ""
	}
	stem := stemOf(l.pkg.Name)
	names := append(sortedKeys(repo.Dependencies), sortedKeys(repo.DevDependencies)...)
	names = append(names, sortedKeys(l.pkg.Dependencies)...)
	for _, name := range append(names, sortedKeys(l.pkg.PeerDependencies)...) {
		if name == l.pkg.Name || len(stem) < 4 || stemOf(name) != stem {
			continue
		}
		dir := filepath.Join(l.Dir, "node_modules", filepath.FromSlash(name))
		var beside struct{ Style, Main string }
		if src, err := readFile(filepath.Join(dir, "package.json"), 4<<20); err != nil || json.Unmarshal(src, &beside) != nil {
			continue
		}
		files := []string{beside.Style, beside.Main, path.Base(name) + ".min.css", stem + ".min.css", stem + ".css"}
		for _, folder := range []string{"", "css", "dist", "lib"} {
			for _, called := range sheetNames {
				files = append(files, path.Join(folder, strings.ReplaceAll(called, "{}", path.Base(name))))
			}
		}
		for _, file := range files {
			file = strings.TrimPrefix(path.Clean("/"+file), "/")
			if !strings.HasSuffix(file, ".css") {
				continue
			}
			if info, err := os.Stat(filepath.Join(dir, filepath.FromSlash(file))); err == nil && info.Mode().IsRegular() {
				return path.Join(name, file)
			}
		}
	}
	return ""
}
