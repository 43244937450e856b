package intake

import (
	"context"
	_ "embed"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/Masterminds/semver/v3"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
)

// linker makes what Angular's libraries ship into what its compiler would have written.
//
//go:embed linker.mjs
var linker []byte

// angularVersion is what the adapter imports of the version of Angular that the library is drawn by.
const angularVersion = "angular-version"

// angularVersions are the files with what differs between versions, from which version on each holds, and
// whether Angular needs a zone there to tell it of changes; before the last nothing can be drawn by itself.
var angularVersions = []struct {
	from, file string
	zone       bool
}{
	{"20.0.0-0", "angular-20", false}, {"18.0.0-0", "angular-18", false},
	{"16.0.0-0", "angular-16", true}, {"14.2.0-0", "angular-14", true},
}

// ofVersion chooses what differs for the version of Angular that is installed.
func (l *library) ofVersion(version string) error {
	v, err := semver.NewVersion(version)
	if err != nil {
		return fmt.Errorf("@angular/core says that it is at version %q: %w", version, err)
	}
	for _, known := range angularVersions {
		if v.Compare(semver.MustParse(known.from)) < 0 {
			continue
		}
		l.angular = known.file
		if _, ok := l.installed("zone.js"); !ok && known.zone {
			return &LacksError{[]string{"zone.js"}, fmt.Sprintf(
				"Angular %s needs zone.js, which is not installed in %s: run \"npm install zone.js\" there", version, l.Dir,
			)}
		}
		return nil
	}
	return fmt.Errorf("components are drawn by Angular from 14.2 on, and %s is installed in %s", version, l.Dir)
}

// ways writes how the components of Angular are drawn: directives without an element of their own serve
// those that have one, and each component stands in what its selector asks for.
func (l *library) ways(b *strings.Builder) {
	js := func(s string) string {
		q, _ := json.Marshal(s)
		return string(q)
	}
	b.WriteString("const always = Object.values(components).filter(C => C?.ɵdir)\nconst ways = {\n")
	for _, e := range l.catalog.Entries {
		if way, ok := kit.Written(e.Selector, e.Export); ok { // as code that is delivered writes it
			parts := []string{js(way.Tag)}
			for i, name := range way.Attrs {
				parts = append(parts, js(name), js(way.Values[i]))
			}
			if len(way.Classes) > 0 {
				parts = append(parts, js("class"), js(strings.Join(way.Classes, " ")))
			}
			fmt.Fprintf(b, "  %s: [%s],\n", js(e.Export), strings.Join(parts, ", "))
		}
	}
	b.WriteString("}\nconst chosen = {\n")
	for i := range l.catalog.Entries {
		e := &l.catalog.Entries[i]
		if p, ok := e.ChosenBy(); ok {
			fmt.Fprintf(b, "  %s: %s,\n", js(e.Export), js(p.Name))
		}
	}
	b.WriteString("}\n")
}

// services writes what the components ask for and applications give them: classes of the library that nobody
// gives everywhere by itself.
func (l *library) services(b *strings.Builder, modules int) {
	b.WriteString("for (const m of [")
	for i := range modules {
		fmt.Fprintf(b, "m%d, ", i)
	}
	b.WriteString("]) for (const C of Object.values(m)) if (typeof C === 'function' && Object.hasOwn(C, 'ɵprov')\n" +
		"  && !C.ɵprov.providedIn && !C.ɵcmp && !C.ɵdir && !C.ɵpipe) setup.unshift(C)\n")
}

// link runs Angular's linker over the files that want it, where the library is Angular's.
func (l *library) link(ctx context.Context) (map[string]string, error) {
	if l.Drawn != describe.Angular {
		return nil, nil
	}
	first := l.build(l.entry(), nil, nil)
	if len(first.Errors) > 0 && l.standIn(first.Errors) {
		first = l.build(l.entry(), nil, nil)
	}
	if len(first.Errors) > 0 {
		return nil, l.unresolved(first.Errors)
	}
	var meta struct {
		Inputs map[string]struct{ Bytes int }
	}
	if err := json.Unmarshal([]byte(first.Metafile), &meta); err != nil {
		return nil, err
	}
	var files []string
	for file := range meta.Inputs {
		full := filepath.Join(l.Dir, filepath.FromSlash(file))
		if src, err := os.ReadFile(full); err == nil && strings.Contains(string(src), "ɵɵngDeclare") {
			files = append(files, full)
		}
	}
	slices.Sort(files)
	if len(files) == 0 {
		return nil, nil
	}
	l.Tell(fmt.Sprintf("linking %d files with Angular's linker", len(files)))
	at, done, err := script(linker, "linker.mjs")
	if err != nil {
		return nil, err
	}
	defer done()
	out, err := l.runNode(ctx, at, map[string]any{"dir": l.Dir, "files": files})
	if err != nil {
		return nil, fmt.Errorf("the linker of Angular is needed and did not run: %w; install @angular/compiler-cli and @babel/core in %s", err, l.Dir)
	}
	var linked map[string]string
	return linked, json.Unmarshal(out, &linked)
}
