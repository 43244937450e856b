package main

import (
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/source"
	"ubiquant/server/repo"
)

// isRepository reports whether a path is a folder of code, and no workspace.
func isRepository(path string) bool {
	info, err := os.Stat(path)
	if err != nil || !info.IsDir() {
		return false
	}
	_, err = os.Stat(filepath.Join(path, "workspace.json"))
	return err != nil
}

// readRepository reads a repository with everything that comes with this program.
func readRepository(ctx context.Context, dir string, say io.Writer, overlay map[string][]byte, only []string) (*repo.Repository, error) {
	o := repo.Options{Dir: dir, Overlay: overlay, Only: only}
	if say != nil {
		o.Tell = func(step string) { fmt.Fprintln(say, step+" …") }
	}
	return repo.Open(ctx, o)
}

// places finds elements of a repository in its files.
func places(r *repo.Repository) func(doc, element string) (audit.Location, bool) {
	return func(doc, element string) (audit.Location, bool) {
		p := r.Places[doc][element]
		if p == nil {
			return audit.Location{}, false
		}
		line, column := p.Position()
		return audit.Location{File: p.File.Path, Line: line, Column: column}, true
	}
}

// fixes are what repairs change in the files of a repository.
func fixes(r *repo.Repository) func(f *audit.Finding) []audit.Replacement {
	return func(f *audit.Finding) []audit.Replacement {
		list, err := r.Replacements(source.Repair{Key: f.Key(), Doc: f.Doc, Edits: f.Fix})
		if err != nil {
			return nil // more than literals: told by its title
		}
		out := make([]audit.Replacement, len(list))
		for i, c := range list {
			out[i] = audit.Replacement{File: c.Path, Line: c.Line, Column: c.Column, EndLine: c.EndLine, EndColumn: c.EndColumn, Text: c.Text}
		}
		return out
	}
}

// tellRepository says what was understood of a repository, and what was not.
func tellRepository(w io.Writer, r *repo.Repository) {
	rep := &r.Report
	fmt.Fprintf(w, "%d files read: %s, %s, %s used in several places, %d read where they are used (screens found %s)\n",
		rep.Files, several(rep.Screens, "screen"), several(rep.Shells, "shell"), several(rep.Parts, "part"), rep.Inlined, rep.How)
	for _, k := range rep.Kits {
		how := "described by its makers"
		if !k.Described {
			how = "described by how it is used"
		}
		fmt.Fprintf(w, "  kit %s %s: %d uses of %d of its %s, %s\n", k.Name, k.Version, k.Uses, k.Used, several(k.Components, "component"), how)
	}
	if len(rep.Kits) == 0 {
		fmt.Fprintf(w, "  no kit is in use: name one as \"kits\" in %s, a package or a folder\n", repo.SettingsFile)
	}
	known := 100
	if rep.Set > 0 {
		known = rep.Known * 100 / rep.Set
	}
	fmt.Fprintf(w, "  %d elements of the kit, %d plain; %d props set, %d %% of them written out; on %s more is set than is known\n",
		rep.Elements, rep.Plain, rep.Set, known, several(rep.Spread, "element"))
	if len(rep.Others) > 0 {
		fmt.Fprintf(w, "  others: %s\n", counted(rep.Others, 8))
	}
	if len(rep.Unknown) > 0 {
		fmt.Fprintf(w, "  names that lead nowhere: %s\n", counted(rep.Unknown, 8))
	}
	if len(rep.Strange) > 0 {
		fmt.Fprintf(w, "  props that the kit does not describe: %s\n", counted(rep.Strange, 8))
	}
	if len(rep.Unreached) > 0 {
		fmt.Fprintf(w, "  no screen leads to %s: %s\n", several(len(rep.Unreached), "component"), clippedList(rep.Unreached, 4))
	}
	if rep.Tests > 0 {
		fmt.Fprintf(w, "  left out: %s\n", several(rep.Tests, "file")+" of tests and examples")
	}
	for i, l := range rep.Left {
		if i == 10 {
			fmt.Fprintf(w, "  … and %d more were left out\n", len(rep.Left)-i)
			break
		}
		at := l.File
		if l.Line > 0 {
			at = fmt.Sprintf("%s:%d", at, l.Line)
		}
		fmt.Fprintf(w, "  left out: %s: %s\n", at, l.What)
	}
}

func several(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return fmt.Sprintf("%d %ss", n, what)
}

func clippedList(list []string, most int) string {
	if len(list) > most {
		return strings.Join(list[:most], ", ") + fmt.Sprintf(" and %d more", len(list)-most)
	}
	return strings.Join(list, ", ")
}

// counted lists names with their counts, the most first.
func counted(m map[string]int, most int) string {
	names := make([]string, 0, len(m))
	for n := range m {
		names = append(names, n)
	}
	slices.SortFunc(names, func(a, b string) int {
		if m[a] != m[b] {
			return m[b] - m[a]
		}
		return strings.Compare(a, b)
	})
	words := make([]string, len(names))
	for i, n := range names {
		words[i] = fmt.Sprintf("%s (%d)", n, m[n])
	}
	return clippedList(words, most)
}
