package into

import (
	"bytes"
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

// folders finds out whether the application has its routes so; nil where it has not.
func (r *Repo) folders() *folders {
	m, err := r.manifest()
	if err != nil || r.Target != "react" || m.has("next") == "" {
		return nil
	}
	for _, f := range []folders{{"src/app", false}, {"app", false}, {"src/pages", true}, {"pages", true}} {
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

var (
	pageFile = regexp.MustCompile(`^page\.(tsx|ts|jsx|js|mdx)$`)
	flatFile = regexp.MustCompile(`^[^_].*\.(tsx|jsx|js|ts|mdx)$`)
	group    = regexp.MustCompile(`^\(.*\)$`)
	rest     = regexp.MustCompile(`^\[\[?\.\.\.`)
	variable = regexp.MustCompile(`^\[[^\]]+\]$`)
)

// pagesOf are the routes that the application has by its folders.
func (r *Repo) pagesOf(f *folders) (out []taken) {
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
		if file := pageFile; f.flat && !flatFile.MatchString(base) || !f.flat && !file.MatchString(base) {
			return nil
		}
		at := strings.TrimPrefix(path.Dir(name), f.dir)
		if f.flat {
			at = strings.TrimSuffix(strings.TrimSuffix(strings.TrimPrefix(name, f.dir), path.Ext(name)), "/index")
		}
		route := ""
		for part := range strings.SplitSeq(strings.Trim(at, "/"), "/") {
			switch {
			case part == "" || group.MatchString(part):
			case rest.MatchString(part):
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
	pages := r.pagesOf(f)
	has := func(route string) bool {
		return slices.ContainsFunc(pages, func(t taken) bool { return t.Path == route })
	}
	folder := "[...screen]"
	if !has("/") && slices.ContainsFunc(r.shown, func(d *screen.Document) bool { return d.Route == "/" }) {
		folder = "[[...screen]]" // the first of them, too
	}
	if f.flat {
		a.By = fmt.Sprintf("add %s/%s.tsx, which shows Screens of '%s' by next/dynamic with { ssr: false }, "+
			"and import the style sheets of %s in %[1]s/_app", f.dir, folder, path.Join(r.Folder, "Screens"), r.Folder)
		return a
	}
	for _, p := range pages {
		if p.Path == "/*" && !bytes.Contains(r.read(p.File), []byte(path.Base(r.Folder)+"/Screens")) {
			a.By = fmt.Sprintf("%s shows all addresses that no page has: show Screens of '%s' there, by next/dynamic with { ssr: false }", p.File, path.Join(r.Folder, "Screens"))
			return a
		}
		if p.Path == "/*" {
			a.Path, a.Done = p.File, true
			return a
		}
	}
	a.Path = path.Join(f.dir, folder, "page.tsx")
	module := r.from(a.Path) + "/Screens"
	a.Is = []byte(strings.ReplaceAll(pageText, "MODULE", filepath.ToSlash(module)))
	return a
}

const pageText = `'use client'

import dynamic from 'next/dynamic'
import { notFound, usePathname } from 'next/navigation'

// They are drawn in the browser alone: there is their router.
const Screens = dynamic(() => import('MODULE'), { ssr: false })

function Missing(): never {
  notFound()
}

export default function Page() {
  return <Screens at={usePathname()} missing={<Missing />} />
}
`
