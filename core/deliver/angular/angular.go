// Package angular delivers an Angular application: standalone components with signals,
// strict templates, the router, one class and one template a component.
package angular

import (
	"embed"
	"encoding/json"
	"path"
	"slices"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/lower"
	"ubiquant/core/deliver/shared"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

//go:embed all:files
var files embed.FS

const version = "21.2.26"

// Target is the Angular target.
var Target = deliver.Target{
	ID: "angular", Title: "Angular", Purpose: "An Angular application of standalone components, with strict templates and the router.",
	Framework: "@angular/core",
	Draws:     []string{"angular"},
	Needs: map[string]string{
		"@angular/common": version, "@angular/compiler": version, "@angular/core": version,
		"@angular/platform-browser": version, "@angular/router": version, "rxjs": "7.8.2", "tslib": "2.9.1",
	},
	Least: map[string]string{"@angular/core": ">=19.0.0"},
	DevNeeds: map[string]string{
		"@angular/build": "21.2.27", "@angular/cli": "21.2.27", "@angular/compiler-cli": version, "typescript": "5.9.3",
		"angular-eslint": "21.4.0", "eslint": "9.39.1", "@eslint/js": "9.39.1", "typescript-eslint": "8.74.0",
		"eslint-config-prettier": "10.1.8", "prettier": "3.10.1",
	},
	Fit:     fit,
	Inside:  inside,
	Around:  around,
	Element: element,
}

// element writes one element as it stands in a template.
func element(k *kit.Kit, cat kit.Catalog, e *screen.Element) string {
	c, nodes := lower.Element(k, cat, e)
	w := newComponent(&lower.Program{In: deliver.Input{Kit: k, Cat: cat}}, c, nil)
	return emit.Print(emit.Stack(w.nodes(nodes)...), style.Width)
}

// relative is the way from one file to another, as an import says it.
func relative(from, to string) string {
	if path.Dir(to) == path.Dir(from) {
		return "./" + path.Base(to)
	}
	return up + to
}

// inside writes what stands in the folder of the delivery.
func inside(in deliver.Input) ([]deliver.File, []deliver.Note, error) {
	return shared.Inside(in, shared.Parts{
		Options: shared.Options{
			Sampled:   emit.Binary{Op: "||", L: emit.Name("typeof ngDevMode === 'undefined'"), R: emit.Name("ngDevMode")},
			Reference: "declare const ngDevMode: unknown",
		},
		Files: files,
		At:    func(c *lower.Component) string { return c.Folder + "/" + emit.Kebab(c.Name) },
		Component: func(p *lower.Program, c *lower.Component, at map[string]string) []deliver.File {
			w := newComponent(p, c, at)
			out := w.write()
			if c.Kind == screen.ScreenDoc {
				out = append(out, w.parts()...)
			}
			return out
		},
		Routes: shared.Routes(routes),
		Index: func(s shared.SetUp) string { // styles are listed in angular.json
			s.Imports = slices.DeleteFunc(slices.Clone(s.Imports), func(l string) bool { return strings.HasSuffix(kit.Specifier(l), ".css") })
			return shared.Index(s)
		},
	})
}

// rank orders routes: the first that matches is shown, so that a part that is written out
// comes before one that may be anything.
func rank(route string) string {
	parts := strings.Split(strings.Trim(route, "/"), "/")
	for i, p := range parts {
		if strings.HasPrefix(p, ":") {
			parts[i] = "\uffff"
		}
	}
	return strings.Join(parts, "/")
}

func routes(p *lower.Program, at map[string]string) string {
	load := func(c *lower.Component) emit.Field {
		return emit.Field{Key: "loadComponent", Value: emit.Arrow{Async: true, Of: emit.Member{
			Of: shared.Awaited(p, "./"+at[c.Name]+".component"), Name: c.Name,
		}}}
	}
	var list func(routes []*lower.Route) emit.List
	list = func(routes []*lower.Route) emit.List {
		out := emit.List{}
		routes = slices.Clone(routes)
		slices.SortStableFunc(routes, func(a, b *lower.Route) int {
			if (a.Screen == nil) != (b.Screen == nil) {
				if a.Screen == nil {
					return 1
				}
				return -1
			}
			if a.Begins() != b.Begins() { // one without would stand there empty
				if a.Begins() {
					return -1
				}
				return 1
			}
			return strings.Compare(rank(a.Path), rank(b.Path))
		})
		for _, r := range routes {
			o := emit.Object{}
			set := func(f ...emit.Field) { o.Fields = append(o.Fields, f...) }
			if r.Screen != nil {
				set(emit.Field{Key: "path", Value: emit.Str(strings.Trim(r.Path, "/"))})
				if strings.Trim(r.Path, "/") == "" {
					set(emit.Field{Key: "pathMatch", Value: emit.Str("full")})
				}
				set(emit.Field{Key: "data", Value: emit.Object{Fields: []emit.Field{{Key: "title", Value: emit.Str(r.Screen.Named())}}}}, load(r.Screen))
			} else {
				set(emit.Field{Key: "path", Value: emit.Str("")}, load(r.Shell), emit.Field{Key: "children", Value: list(r.Inside)})
			}
			out.Of = append(out.Of, o)
		}
		return out
	}
	to := shared.First(p)
	if lost := shared.Lost(p); lost != nil {
		to = lost.Route
	}
	begin := append([]emit.Stmt{emit.Text("import type { Route, Routes } from '@angular/router'"), emit.Text("import { GroundFrame } from './ground-frame.component'")}, shared.LoadedFrom(p)...)
	return emit.Lines(emit.Statements(append(append(begin, emit.Blank{}),
		emit.Const{Export: true, Name: "routes", Type: "Routes", Is: emit.List{Of: []emit.Expr{emit.Object{Fields: []emit.Field{
			{Key: "path", Value: emit.Str("")}, {Key: "component", Value: emit.Name("GroundFrame")},
			{Key: "children", Value: list(p.Routes)},
		}}}}},
		emit.Blank{},
		emit.Remark("Where one comes to that leads nowhere."),
		emit.Const{Export: true, Name: "missing", Type: "Route", Is: emit.Object{Fields: []emit.Field{
			{Key: "path", Value: emit.Str("**")}, {Key: "redirectTo", Value: emit.Str(to)},
		}}},
	)...))
}

// parts are the files beside a screen: the types that own code works with, and own code.
func (w *component) parts() []deliver.File {
	own := w.c.Own()
	var names emit.Names
	names.Keep(own+"Parts", own+"Own", own+"Values", "Use"+own)
	was := w.imports
	w.imports = emit.NewImports(&names)
	defer func() { w.imports = was }()
	core := func(name string) string { return w.imports.Type("@angular/core", name) }
	return shared.OwnFiles(w.c, shared.OwnShape{
		Imports: w.imports,
		Element: func(r lower.Ref) string {
			if r.Tag.Module != "" {
				what, called, _ := r.Tag.Taken()
				return core("Signal") + "<" + w.imports.TypeCalled(r.Tag.Module, what, called) + " | undefined>"
			}
			return core("Signal") + "<" + core("ElementRef") + "<" + w.elementType(r.Tag) + "> | undefined>"
		},
		Params: func(object string) string {
			return strings.ReplaceAll(object, ": string", ": "+core("Signal")+"<string>")
		},
		State: func(union string) []string { return []string{"state: " + core("WritableSignal") + "<" + union + ">"} },
		Kept: func(name, _, object string) []string {
			return []string{name + ": " + w.imports.Type(up+"lib/kept", "Kept") + "<" + object + ">"}
		},
		Settings: func(lower.Ref) string { return "" },
	})
}

// around writes the application around the folder.
func around(t deliver.Target, in deliver.Input, folder string) ([]deliver.File, error) {
	styles := []string{}
	for _, name := range shared.Sheets(in) {
		if strings.HasPrefix(name, "./") {
			name = path.Join(folder, name)
		}
		styles = append(styles, name)
	}
	list, err := json.Marshal(styles)
	if err != nil {
		return nil, err
	}
	info := struct {
		shared.Info
		Inside, StylesJSON string
	}{shared.InfoOf(in), strings.TrimPrefix(folder, "src/"), strings.ReplaceAll(string(list), `","`, `", "`)}
	out, err := shared.Copy(files, "files/project", info)
	if err != nil {
		return nil, err
	}
	places := map[string]string{
		"prettierrc.json": ".prettierrc.json", "gitignore": ".gitignore", "main.ts": "src/main.ts", "app.component.ts": "src/app.component.ts", "index.html": "src/index.html",
	}
	for i, f := range out {
		if to, ok := places[f.Path]; ok {
			out[i].Path = to
		}
	}
	manifest, more, err := shared.Manifest(in, t, map[string]string{
		"dev": "ng serve", "check": "ngc -p tsconfig.json --noEmit", "build": "ng build",
		"lint": "eslint .", "format": "prettier --write .", "format:check": "prettier --check .",
	})
	if err != nil {
		return nil, err
	}
	return append(append(out, more...), deliver.File{Path: "package.json", Data: manifest}), nil
}
