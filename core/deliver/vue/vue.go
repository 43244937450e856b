// Package vue delivers a Vue application: Vite, TypeScript, vue-router, one file a
// component.
package vue

import (
	"embed"
	"fmt"
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

// Target is the Vue target.
var Target = deliver.Target{
	ID: "vue", Title: "Vue", Purpose: "A Vue 3 application with Vite, TypeScript and vue-router.",
	Framework: "vue", Draws: []string{"vue"},
	Needs: map[string]string{"vue": "3.5.45", "vue-router": "4.6.4"},
	Least: map[string]string{"vue": ">=3.5.0", "vue-router": ">=4.0.0"},
	DevNeeds: map[string]string{
		"@vitejs/plugin-vue": "6.0.11", "typescript": "5.9.3", "vite": "8.3.8", "vue-tsc": "3.3.14",
		"eslint": "10.15.0", "@eslint/js": "10.0.1", "typescript-eslint": "8.74.0", "eslint-plugin-vue": "10.12.1",
		"eslint-config-prettier": "10.1.8", "globals": "17.14.0", "prettier": "3.10.1",
	},
	Inside:  inside,
	Around:  around,
	Element: element,
}

// element writes one element as it stands in a template.
func element(k *kit.Kit, cat kit.Catalog, e *screen.Element) string {
	c, nodes := lower.Element(k, cat, e)
	w := &component{p: &lower.Program{In: deliver.Input{Kit: k, Cat: cat}}, c: c, imports: emit.NewImports(c.Names)}
	return emit.Print(emit.Stack(w.nodes(nodes)...), style.Width)
}

// relative is the way from one file to another, as an import says it.
func relative(from, to string) string {
	dir := path.Dir(from)
	if path.Dir(to) == dir {
		return "./" + path.Base(to)
	}
	return up + to
}

// inside writes what stands in the folder of the delivery.
func inside(in deliver.Input) ([]deliver.File, []deliver.Note, error) {
	return shared.Inside(in, shared.Parts{
		Options: shared.Built(in),
		Files:   files,
		At:      func(c *lower.Component) string { return c.Folder + "/" + c.Name + ".vue" },
		Component: func(p *lower.Program, c *lower.Component, at map[string]string) []deliver.File {
			w := &component{p: p, c: c, at: at, imports: emit.NewImports(c.Names)}
			out := []deliver.File{w.write()}
			if c.Kind == screen.ScreenDoc {
				out = append(out, w.parts()...)
			}
			return out
		},
		Routes:   shared.Routes(routes),
		Index:    index,
		Elements: elements,
	})
}

// index is what an application takes of the folder.
func index(setup shared.SetUp) string {
	var b strings.Builder
	for _, l := range setup.Imports {
		b.WriteString(l + "\n")
	}
	b.WriteString("import type { App } from 'vue'\n")
	for _, l := range setup.Named {
		b.WriteString(l + "\n")
	}
	b.WriteString("\nexport { missing, routes } from './routes'\n\n/** Makes an application ready for the screens: what the kit wants done once. */\nexport function setup<E>(app: App<E>): App<E> {\n")
	for _, l := range setup.Statements {
		b.WriteString("  " + l + "\n")
	}
	b.WriteString("  return app\n}\n")
	return b.String()
}

func routes(p *lower.Program, at map[string]string) string {
	load := func(c *lower.Component) emit.Expr {
		return emit.Arrow{Of: shared.Loaded(p, emit.Call{Fn: emit.Name("import"), Args: []emit.Expr{emit.Str("./" + at[c.Name])}})}
	}
	var list func(routes []*lower.Route) emit.List
	list = func(routes []*lower.Route) emit.List {
		out := emit.List{}
		for _, r := range routes {
			o := emit.Object{}
			set := func(k string, v emit.Expr) { o.Fields = append(o.Fields, emit.Field{Key: k, Value: v}) }
			if r.Screen != nil {
				set("path", emit.Str(r.Path))
				set("name", emit.Str(r.Screen.ID))
				set("component", load(r.Screen))
				if len(r.Screen.Params) > 0 {
					set("props", emit.Name("true"))
				}
				set("meta", emit.Object{Fields: []emit.Field{{Key: "title", Value: emit.Str(r.Screen.Named())}}})
			} else {
				set("path", emit.Str(""))
				set("component", load(r.Shell))
				set("children", list(r.Inside))
			}
			out.Of = append(out.Of, o)
		}
		return out
	}
	missing := emit.Object{Fields: []emit.Field{{Key: "path", Value: emit.Str("/:path(.*)*")}}}
	if lost := shared.Lost(p); lost != nil {
		missing.Fields = append(missing.Fields, emit.Field{Key: "redirect", Value: emit.Str(lost.Route)})
	} else {
		missing.Fields = append(missing.Fields, emit.Field{Key: "redirect", Value: emit.Str(shared.First(p))})
	}
	begin := append([]emit.Stmt{emit.Text("import type { RouteRecordRaw } from 'vue-router'")}, shared.LoadedFrom(p)...)
	return emit.Lines(emit.Statements(append(append(begin, emit.Blank{}),
		emit.Const{Export: true, Name: "routes", Type: "RouteRecordRaw[]", Is: emit.List{Of: []emit.Expr{emit.Object{Fields: []emit.Field{
			{Key: "path", Value: emit.Str("/")},
			{Key: "component", Value: emit.Arrow{Of: emit.Call{Fn: emit.Name("import"), Args: []emit.Expr{emit.Str("./GroundFrame.vue")}}}},
			{Key: "children", Value: list(p.Routes)},
		}}}}},
		emit.Blank{},
		emit.Remark("Where one comes to that leads nowhere."),
		emit.Const{Export: true, Name: "missing", Type: "RouteRecordRaw", Is: missing},
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
	return shared.OwnFiles(w.c, shared.OwnShape{
		Imports: w.imports,
		Element: func(r lower.Ref) string {
			return "Readonly<" + w.imports.Type("vue", "ShallowRef") + "<" + w.elementType(r.Tag) + " | null>>"
		},
		Params: func(object string) string { return "() => " + object },
		State: func(union string) []string {
			return []string{"state: " + w.imports.Type("vue", "Ref") + "<" + union + ">"}
		},
		Kept: func(name, _, object string) []string { return []string{name + ": " + object} },
		Settings: func(r lower.Ref) string {
			if r.Tag.Module == "" {
				return ""
			}
			return w.imports.Type(up+"lib/kit", "SettingsOf") + "<typeof " + w.tagType(r.Tag) + ">"
		},
	})
}

// tagType is tag where only types speak of it.
func (w *component) tagType(t lower.Tag) string {
	what, called, of := t.Taken()
	return w.imports.TypeCalled(t.Module, what, called) + of
}

// elements says to templates what the kit's elements can be set to.
func elements(p *lower.Program) string {
	var b strings.Builder
	b.WriteString("// What the elements of the kit can be set to, for those who check templates.\nimport type { HTMLAttributes, ReservedProps } from 'vue'\n\n" +
		"interface Named {\n  slot?: string | undefined\n  dataName?: string | undefined\n  dataScreen?: string | undefined\n}\n" +
		"type KitElement<P> = new () => { $props: P & Named & HTMLAttributes & ReservedProps }\n\n" +
		"declare module 'vue' {\n  interface GlobalComponents {\n")
	for _, c := range shared.Used(p) {
		if !slices.ContainsFunc(c.Props, func(p kit.Prop) bool { return p.Attr != "" }) && len(shared.Events(c)) == 0 {
			fmt.Fprintf(&b, "    '%s': KitElement<object>\n", c.Tag)
			continue
		}
		fmt.Fprintf(&b, "    '%s': KitElement<{\n", c.Tag)
		for _, prop := range c.Props {
			if prop.Attr != "" {
				b.WriteString(shared.TypeLine(3, shared.Key(prop.Attr)+"?:", shared.AttributeType(&prop)+" | undefined"))
			}
		}
		for _, event := range shared.Events(c) {
			fmt.Fprintf(&b, "      on%s?: ((event: CustomEvent) => void) | undefined\n", emit.Pascal(event))
		}
		b.WriteString("    }>\n")
	}
	b.WriteString("  }\n}\n\nexport {}\n")
	return b.String()
}

// around writes the application around the folder.
func around(t deliver.Target, in deliver.Input, folder string) ([]deliver.File, error) {
	info := struct {
		shared.Info
		Inside, Plugin string
	}{Info: shared.InfoOf(in), Inside: strings.TrimPrefix(folder, "src/")}
	out, err := shared.Copy(files, "files/project", info)
	if err != nil {
		return nil, err
	}
	places := map[string]string{"prettierrc.json": ".prettierrc.json", "gitignore": ".gitignore", "main.ts": "src/main.ts", "App.vue": "src/App.vue", "router.ts": "src/router.ts"}
	for i, f := range out {
		if to, ok := places[f.Path]; ok {
			out[i].Path = to
		}
	}
	config := "import vue from '@vitejs/plugin-vue'\nimport { defineConfig } from 'vite'\n\nexport default defineConfig({\n  plugins: [vue()],\n})\n"
	if in.Kit.HasElements() {
		config = fmt.Sprintf("import vue from '@vitejs/plugin-vue'\nimport { defineConfig } from 'vite'\n\n// The kit's elements are the browser's own, not Vue components.\nconst isCustomElement = (tag: string) => %s\n\nexport default defineConfig({\n  plugins: [vue({ template: { compilerOptions: { isCustomElement } } })],\n})\n", shared.Begins("tag", in.Kit.TagPrefixes()))
	}
	out = append(out, deliver.File{Path: "vite.config.ts", Data: []byte(config)})
	scripts := map[string]string{
		"dev": "vite", "check": "vue-tsc --noEmit", "build": "vue-tsc --noEmit && vite build", "preview": "vite preview",
		"lint": "eslint .", "format": "prettier --write .", "format:check": "prettier --check .",
	}
	manifest, more, err := shared.Manifest(in, t, scripts)
	if err != nil {
		return nil, err
	}
	return append(append(out, more...), deliver.File{Path: "package.json", Data: manifest}), nil
}
