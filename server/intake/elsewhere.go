package intake

import (
	"fmt"
	"io/fs"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"github.com/evanw/esbuild/pkg/api"

	"ubiquant/core/kit/describe"
)

// Bounds of the search for sheets that set what a library's sheet speaks of.
const (
	fewProperties = 24  // that nothing sets: fewer are set by code, or from outside
	leastGain     = 8   // properties that a sheet has to set to be taken
	mostSheets    = 600 // that are looked at
)

var (
	spokenOf   = regexp.MustCompile(`var\(\s*(--[\w-]+)`)
	setThere   = regexp.MustCompile(`(--[\w-]+)\s*:`)
	otherTheme = regexp.MustCompile(`(?i)dark|contrast|blind|tritan|dimmed|night`)
)

// sheetOf is the style sheet of what was bundled.
func sheetOf(r api.BuildResult) []byte {
	for _, f := range r.OutputFiles {
		if strings.HasSuffix(f.Path, "kit.css") {
			return f.Contents
		}
	}
	return nil
}

func propertiesIn(src []byte, found *regexp.Regexp) map[string]bool {
	out := map[string]bool{}
	for _, m := range found.FindAllSubmatch(src, -1) {
		out[string(m[1])] = true
	}
	return out
}

// setElsewhere finds, where a library's sheet speaks of many custom properties that nothing sets, the
// sheets that set them among the packages that it asks for: those that set most, and their dark
// counterparts.
func (l *library) setElsewhere(sheet []byte) (specs []string) {
	open := propertiesIn(sheet, spokenOf)
	for name := range propertiesIn(sheet, setThere) {
		delete(open, name)
	}
	if len(open) < fewProperties {
		return nil
	}
	type candidate struct {
		spec string
		src  []byte
		sets map[string]bool
	}
	var list []candidate
	for _, name := range append(sortedKeys(l.pkg.Dependencies), sortedKeys(l.pkg.PeerDependencies)...) {
		dir, err := filepath.EvalSymlinks(filepath.Join(l.Dir, "node_modules", filepath.FromSlash(name)))
		if err != nil {
			continue // not installed here
		}
		_ = filepath.WalkDir(dir, func(file string, d fs.DirEntry, err error) error {
			switch {
			case err != nil || len(list) >= mostSheets:
				return fs.SkipAll
			case d.IsDir() && d.Name() == "node_modules":
				return fs.SkipDir
			case d.IsDir() || !d.Type().IsRegular() || !strings.HasSuffix(file, ".css") || strings.HasSuffix(file, ".min.css"):
				return nil
			}
			rel, _ := filepath.Rel(dir, file)
			if src, err := readFile(file, 4<<20); err == nil {
				list = append(list, candidate{path.Join(name, filepath.ToSlash(rel)), src, propertiesIn(src, setThere)})
			}
			return nil
		})
	}
	gain := func(c candidate) (n int) {
		for name := range open {
			if c.sets[name] {
				n++
			}
		}
		return n
	}
	for range 6 {
		best, most := -1, leastGain-1
		for i, c := range list {
			n := gain(c)
			usual := !otherTheme.MatchString(path.Base(c.spec)) && !strings.Contains(c.spec, "internal")
			switch {
			case !usual || n < most:
			case n > most || best >= 0 && len(c.spec) < len(list[best].spec):
				best, most = i, n
			}
		}
		if best < 0 {
			break
		}
		c := list[best]
		for name := range c.sets {
			delete(open, name)
		}
		specs = append(specs, c.spec)
		l.meta.Notes = append(l.meta.Notes, fmt.Sprintf(
			"style sheet %s: it sets %d custom properties that the library speaks of; others with --style", c.spec, most,
		))
		dark := strings.Replace(c.spec, "light", "dark", 1)
		at := slices.IndexFunc(list, func(o candidate) bool { return o.spec == dark && dark != c.spec })
		if at >= 0 && describe.ReadSheet(list[at].src).Dark != "" {
			specs = append(specs, dark)
			l.meta.Notes = append(l.meta.Notes, fmt.Sprintf("style sheet %s: the dark counterpart", dark))
		}
	}
	return specs
}
