package into

import (
	"bytes"
	_ "embed"
	"fmt"
	"io/fs"
	"path"
	"path/filepath"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/screen"
)

// folders is an application of React whose routes are the folders that its pages stand in.
type folders struct {
	dir  string // of the pages
	flat bool   // a page is a file, with any name; else it is a folder with a file called page
}

// kinds are where pages stand; those in folders come first, since there style sheets may be taken anywhere.
var kinds = []folders{{"src/app", false}, {"app", false}, {"src/pages", true}, {"pages", true}}

// folders finds out whether the application has its routes so; nil where it has not.
func (r *Repo) folders() *folders {
	m, err := r.manifest()
	if err != nil || r.Target != "react" || m.has("next") == "" {
		return nil
	}
	for _, f := range kinds {
		list, err := fs.ReadDir(r.root.FS(), f.dir)
		if err != nil {
			continue
		}
		if f.flat || slices.ContainsFunc(list, func(d fs.DirEntry) bool { return strings.HasPrefix(d.Name(), "layout.") }) {
			return &f
		}
	}
	return nil
}

//go:embed page.tsx
var pageText string

// How pages and folders are called: of a page, in folders and by itself; of what is no part of an
// address, of what stands for the rest of one, and of what is a parameter.
var (
	pageFile = regexp.MustCompile(`^page\.(tsx|ts|jsx|js|mdx)$`)
	flatFile = regexp.MustCompile(`^[^_].*\.(tsx|jsx|js|ts|mdx)$`)
	grouping = regexp.MustCompile(`^\(.*\)$`)
	others   = regexp.MustCompile(`^\[\[?\.\.\.`)
	variable = regexp.MustCompile(`^\[[^\]]+\]$`)
)

// pages are the routes that the application has by its folders, of both kinds.
func (r *Repo) pages() (out []taken) {
	for _, f := range kinds {
		out = append(out, r.pagesOf(f)...)
	}
	return out
}

func (r *Repo) pagesOf(f folders) (out []taken) {
	// What cannot be read has no page that anybody sees.
	_ = fs.WalkDir(r.root.FS(), f.dir, func(name string, d fs.DirEntry, err error) error {
		if err != nil {
			return nil
		}
		base := path.Base(name)
		if d.IsDir() {
			if base == "api" || strings.HasPrefix(base, "_") || strings.HasPrefix(base, "@") {
				return fs.SkipDir
			}
			return nil
		}
		named := pageFile
		if f.flat {
			named = flatFile
		}
		if !named.MatchString(base) {
			return nil
		}
		at := strings.TrimPrefix(path.Dir(name), f.dir)
		if f.flat {
			at = strings.TrimSuffix(strings.TrimSuffix(strings.TrimPrefix(name, f.dir), path.Ext(name)), "/index")
		}
		route := ""
		for part := range strings.SplitSeq(strings.Trim(at, "/"), "/") {
			switch {
			case part == "" || grouping.MatchString(part):
			case others.MatchString(part):
				route += "/*"
			case variable.MatchString(part):
				route += "/:"
			default:
				route += "/" + part
			}
		}
		if route == "" {
			route = "/"
		}
		out = append(out, taken{Path: route, File: name})
		return nil
	})
	return out
}

// page is the page that all addresses lead to which no page of the application has: on it stand the
// screens, with their own router.
func (r *Repo) page(f *folders) Addition {
	a := Addition{What: "a page for the addresses of the screens"}
	pages := r.pages()
	has := func(route string) bool {
		return slices.ContainsFunc(pages, func(t taken) bool { return t.Path == route })
	}
	folder := "[...screen]"
	if !has("/") && slices.ContainsFunc(r.shown, func(d *screen.Document) bool { return d.Route == "/" }) {
		folder = "[[...screen]]" // the first of them, too
	}
	for _, p := range pages {
		if p.Path != "/*" {
			continue
		}
		if a.Path, a.Done = p.File, bytes.Contains(r.read(p.File), []byte(path.Base(r.Folder)+"/Screens")); !a.Done {
			a.By = fmt.Sprintf("%s shows all addresses that no page has: show Screens of '%s' there, by next/dynamic with { ssr: false }", p.File, path.Join(r.Folder, "Screens"))
		}
		return a
	}
	if f.flat {
		app := path.Join(path.Dir(f.dir), "app")
		a.By = fmt.Sprintf("pages in %s take style sheets in _app alone: begin %s beside it, with a layout in %[2]s/layout.tsx, "+
			"and deliver again; the page for the screens goes there, and your pages stay", f.dir, app)
		return a
	}
	a.Path = path.Join(f.dir, folder, "page.tsx")
	module := r.from(a.Path) + "/Screens"
	a.Is = []byte(strings.ReplaceAll(pageText, "MODULE", filepath.ToSlash(module)))
	return a
}
