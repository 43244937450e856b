// Package react delivers a React application: Vite, TypeScript, React Router, one file a
// component.
package react

import (
	"embed"
	"fmt"
	"path"
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

// Target is the React target.
var Target = deliver.Target{
	ID: "react", Title: "React", Purpose: "A React 19 application with Vite, TypeScript and React Router.",
	Framework: "react", Draws: []string{"react"},
	Needs: map[string]string{"react": "19.3.1", "react-dom": "19.3.1", "react-router": "7.18.7"},
	Least: map[string]string{"react": ">=18.0.0", "react-router": ">=6.4.0", "react-router-dom": ">=6.4.0"},
	DevNeeds: map[string]string{
		"@types/react": "19.3.3", "@types/react-dom": "19.3.0", "@vitejs/plugin-react": "6.3.0", "typescript": "5.9.3", "vite": "8.3.8",
		"eslint": "10.15.0", "@eslint/js": "10.0.1", "typescript-eslint": "8.74.0", "eslint-plugin-react-hooks": "7.1.1",
		"eslint-plugin-react-refresh": "0.5.8", "eslint-config-prettier": "10.1.8", "globals": "17.14.0", "prettier": "3.10.1",
	},
	Inside:  inside,
	Around:  around,
	Element: element,
}

// element writes one element as it stands in JSX, with the imports that it needs.
func element(k *kit.Kit, cat kit.Catalog, e *screen.Element) string {
	c, nodes := lower.Element(k, cat, e)
	w := &component{p: &lower.Program{In: deliver.Input{Kit: k, Cat: cat}}, c: c, imports: emit.NewImports(c.Names)}
	var docs []emit.Doc
	for _, kid := range w.nodes(nodes) {
		docs = append(docs, kid.Doc)
	}
	code := emit.Print(emit.Stack(docs...), style.Width)
	return strings.TrimLeft(emit.Print(w.imports.Doc(style), style.Width)+"\n"+code, "\n")
}

// relative is the way from one file to another, as an import says it.
func relative(from, to string) string {
	to = strings.TrimSuffix(to, ".tsx")
	if path.Dir(to) == path.Dir(from) {
		return "./" + path.Base(to)
	}
	return up + to
}

// inside writes what stands in the folder of the delivery.
func inside(in deliver.Input) ([]deliver.File, []deliver.Note, error) {
	return shared.Inside(in, shared.Parts{
		Options: shared.Built(in),
		Files:   files,
		At:      func(c *lower.Component) string { return c.Folder + "/" + c.Name + ".tsx" },
		Component: func(p *lower.Program, c *lower.Component, at map[string]string) []deliver.File {
			w := &component{p: p, c: c, at: at, imports: emit.NewImports(c.Names)}
			out := []deliver.File{w.write()}
			if c.Kind == screen.ScreenDoc {
				out = append(out, w.parts()...)
			}
			return out
		},
		Routes:   routesOf(in),
		Index:    shared.Index,
		Elements: elements,
	})
}

// routes writes them as a router that takes a list has them.
func routes(p *lower.Program, at map[string]string) string {
	load := func(module, name string) emit.Field {
		return emit.Field{Key: "lazy", Value: emit.Arrow{Async: true, Of: emit.Object{Fields: []emit.Field{{
			Key: "Component", Value: emit.Member{Of: shared.Awaited(p, module), Name: name},
		}}}}}
	}
	var list func(routes []*lower.Route) emit.List
	list = func(routes []*lower.Route) emit.List {
		out := emit.List{}
		for _, r := range routes {
			o := emit.Object{}
			set := func(f ...emit.Field) { o.Fields = append(o.Fields, f...) }
			if r.Screen != nil {
				set(emit.Field{Key: "path", Value: emit.Str(r.Path)},
					emit.Field{Key: "handle", Value: emit.Object{Fields: []emit.Field{{Key: "title", Value: emit.Str(r.Screen.Named())}}}},
					load("./"+strings.TrimSuffix(at[r.Screen.Name], ".tsx"), r.Screen.Name))
			} else {
				set(load("./"+strings.TrimSuffix(at[r.Shell.Name], ".tsx"), r.Shell.Name),
					emit.Field{Key: "children", Value: list(r.Inside)})
			}
			out.Of = append(out.Of, o)
		}
		return out
	}
	begin := append([]emit.Stmt{emit.Text("import { redirect, type RouteObject } from " + emit.Plain.Quote(shared.Router(p.In))), emit.Text("import { GroundFrame } from './GroundFrame'")}, shared.LoadedFrom(p)...)
	return emit.Lines(emit.Statements(append(append(begin, emit.Blank{}),
		emit.Const{Export: true, Name: "routes", Type: "RouteObject[]", Is: emit.List{Of: []emit.Expr{emit.Object{Fields: []emit.Field{
			{Key: "Component", Value: emit.Name("GroundFrame")},
			{Key: "children", Value: list(p.Routes)},
		}}}}},
		emit.Blank{},
		emit.Remark("Where one comes to that leads nowhere."),
		emit.Const{Export: true, Name: "missing", Type: "RouteObject", Is: emit.Object{Fields: []emit.Field{
			{Key: "path", Value: emit.Str("*")},
			{Key: "loader", Value: emit.Arrow{Of: emit.Call{Fn: emit.Name("redirect"), Args: []emit.Expr{emit.Str(elsewhere(p))}}}},
		}}},
	)...))
}

// elsewhere is where one is led who comes to nothing.
func elsewhere(p *lower.Program) string {
	if lost := shared.Lost(p); lost != nil {
		return lost.Route
	}
	return shared.First(p)
}

// parts are the files beside a screen: the types that own code works with, and own code.
func (w *component) parts() []deliver.File {
	own := w.c.Own()
	var names emit.Names
	names.Keep(own+"Parts", own+"Own", own+"Values", "Use"+own)
	was := w.imports
	w.imports = emit.NewImports(&names)
	defer func() { w.imports = was }()
	return shared.OwnFiles(w.c, shared.OwnShape{
		Imports: w.imports,
		Element: func(r lower.Ref) string {
			return w.imports.Type("react", "RefObject") + "<" + w.elementType(r.Tag) + " | null>"
		},
		Params: func(object string) string { return object },
		State: func(union string) []string {
			return []string{"state: " + union, "setState: (state: " + union + ") => void"}
		},
		Kept: func(name, what, object string) []string {
			kept := own + "Parts['" + name + "']"
			keep := what + ": <K extends keyof " + kept + ">(name: K, value: " + kept + "[K]) => void"
			if len(keep)+2 > style.Width {
				keep = what + ": <K extends keyof " + kept + ">(\n  name: K,\n  value: " + kept + "[K],\n) => void"
			}
			return []string{name + ": " + object, keep}
		},
		Settings: func(r lower.Ref) string {
			if r.Tag.Module == "" {
				return ""
			}
			what, called, of := r.Tag.Taken()
			local := w.imports.TypeCalled(r.Tag.Module, what, called)
			return "Partial<" + w.imports.Type("react", "ComponentProps") + "<typeof " + local + of + ">>"
		},
	})
}

// elements says to JSX what the kit's elements can be set to.
func elements(p *lower.Program) string {
	var b strings.Builder
	b.WriteString("// What the elements of the kit can be set to, for those who check JSX.\nimport type { HTMLAttributes, Key, Ref } from 'react'\nimport type { ElementOf } from './lib/page'\n\n" +
		"type KitElement<Tag extends string, P> = P &\n  Omit<HTMLAttributes<HTMLElement>, keyof P> & {\n    key?: Key | null | undefined\n    ref?: Ref<ElementOf<Tag>> | undefined\n  }\n\n" +
		"declare module 'react' {\n  namespace JSX {\n    interface IntrinsicElements {\n")
	for _, c := range shared.Used(p) {
		fmt.Fprintf(&b, "      '%s': KitElement<\n        '%s',\n        {\n          slot?: string | undefined\n", c.Tag, c.Tag)
		for _, prop := range c.Props {
			if prop.Attr != "" {
				b.WriteString(shared.TypeLine(5, shared.Key(prop.Attr)+"?:", shared.AttributeType(&prop)+" | undefined"))
			}
		}
		for _, event := range shared.Events(c) {
			fmt.Fprintf(&b, "          'on%s'?: ((event: CustomEvent) => void) | undefined\n", event)
		}
		b.WriteString("        }\n      >\n")
	}
	b.WriteString("    }\n  }\n}\n")
	return b.String()
}

// around writes the application around the folder.
func around(t deliver.Target, in deliver.Input, folder string) ([]deliver.File, error) {
	info := struct {
		shared.Info
		Inside string
	}{Info: shared.InfoOf(in), Inside: strings.TrimPrefix(folder, "src/")}
	out, err := shared.Copy(files, "files/project", info)
	if err != nil {
		return nil, err
	}
	places := map[string]string{"prettierrc.json": ".prettierrc.json", "gitignore": ".gitignore", "main.tsx": "src/main.tsx"}
	for i, f := range out {
		if to, ok := places[f.Path]; ok {
			out[i].Path = to
		}
	}
	manifest, more, err := shared.Manifest(in, t, map[string]string{
		"dev": "vite", "check": "tsc --noEmit", "build": "tsc --noEmit && vite build", "preview": "vite preview",
		"lint": "eslint .", "format": "prettier --write .", "format:check": "prettier --check .",
	})
	if err != nil {
		return nil, err
	}
	return append(append(out, more...), deliver.File{Path: "package.json", Data: manifest}), nil
}
