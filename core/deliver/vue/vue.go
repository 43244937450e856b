// Package vue delivers a Vue application: Vite, TypeScript, vue-router, one file a
// screen, records as typed modules, the kit as a packed package.
package vue

import (
	"encoding/json"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/deliver"
	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/render"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Target is the Vue target.
var Target = deliver.Target{
	ID: "vue", Title: "Vue", Purpose: "A Vue 3 application with Vite, TypeScript and vue-router.",
	Deliver: Deliver,
	Element: func(k *kit.Kit, cat kit.Catalog, e *screen.Element) string {
		w := &writer{in: deliver.Input{Kit: k, Cat: cat}}
		w.element(e, 0, nil)
		return strings.TrimSpace(w.b.String())
	},
}

// Versions that the delivered application needs; they run on Node 20.19.
var (
	needs    = map[string]string{"vue": "3.5.45", "vue-router": "4.6.4"}
	devNeeds = map[string]string{
		"@vitejs/plugin-vue": "6.0.11",
		"typescript":         "5.9.3",
		"vite":               "8.3.8",
		"vue-tsc":            "3.3.14",
	}
)

// Deliver writes the application.
func Deliver(in deliver.Input) ([]deliver.File, error) {
	var files []deliver.File
	add := func(path, text string) { files = append(files, deliver.File{Path: path, Data: []byte(text)}) }
	pack, err := deliver.Pack(in.KitFiles)
	if err != nil {
		return nil, err
	}
	tgz := deliver.PackageName(in.Kit)
	files = append(files, deliver.File{Path: "kit/" + tgz, Data: pack})

	dependencies := maps.Clone(needs)
	dependencies[in.Kit.Name] = "file:kit/" + tgz
	manifest, err := json.MarshalIndent(map[string]any{
		"name": strings.ToLower(deliver.Pascal(in.Name)), "private": true, "version": "0.1.0", "type": "module",
		"scripts": map[string]string{
			"dev":     "vite",
			"check":   "vue-tsc --noEmit",
			"build":   "vue-tsc --noEmit && vite build",
			"preview": "vite preview",
		},
		"dependencies": dependencies, "devDependencies": devNeeds,
	}, "", "  ")
	if err != nil {
		return nil, err
	}
	add("package.json", string(manifest)+"\n")
	add(
		"index.html",
		fmt.Sprintf(
			"<!doctype html>\n<html lang=\"en\" data-theme=\"%s\">\n  <head>\n    <meta charset=\"utf-8\" />\n    <meta name=\"viewport\" content=\"width=device-width, initial-scale=1\" />\n    <title>%s</title>\n  </head>\n  <body>\n    <div id=\"app\"></div>\n    <script type=\"module\" src=\"/src/main.ts\"></script>\n  </body>\n</html>\n",
			in.Kit.Tokens.Themes[0],
			deliver.Escape(in.Name),
		),
	)
	prefix := in.Kit.Prefix + "-"
	add(
		"vite.config.ts",
		fmt.Sprintf(
			"import vue from '@vitejs/plugin-vue'\nimport { defineConfig } from 'vite'\n\n// The kit's elements are the browser's own, not Vue components.\nexport default defineConfig({\n  plugins: [vue({ template: { compilerOptions: { isCustomElement: tag => tag.startsWith('%s') } } })],\n})\n",
			prefix,
		),
	)
	add(
		"tsconfig.json",
		"{\n  \"compilerOptions\": {\n    \"target\": \"ES2022\",\n    \"module\": \"ESNext\",\n    \"moduleResolution\": \"Bundler\",\n    \"strict\": true,\n    \"jsx\": \"preserve\",\n    \"lib\": [\"ES2022\", \"DOM\", \"DOM.Iterable\"],\n    \"types\": [\"vite/client\"],\n    \"skipLibCheck\": true,\n    \"noEmit\": true\n  },\n  \"include\": [\"src\"]\n}\n",
	)
	add(
		"README.md",
		fmt.Sprintf(
			"# %s\n\n`npm install`, then `npm run dev` to look at it or `npm run build` for the files to serve.\n",
			in.Name,
		),
	)
	imports := strings.Join(nonEmpty(in.Kit.Code.Import, in.Kit.Code.Styles), "\n")
	if in.Kit.Code.Import == "" {
		imports = fmt.Sprintf("import '%s'", in.Kit.Name)
	}
	own, ownSheet, ownModule := deliver.Own(in, "src/", in.Kit.Name)
	files = append(files, own...)
	for _, name := range nonEmpty(ownSheet, ownModule) {
		imports += "\nimport './" + name + "'"
	}
	add(
		"src/main.ts",
		imports+"\nimport './layout.css'\nimport { createApp } from 'vue'\nimport App from './App.vue'\nimport { router } from './router'\n\ncreateApp(App).use(router).mount('#app')\n",
	)
	add(
		"src/layout.css",
		"html, body, #app { margin: 0; height: 100%; }\n.u-screen { min-height: 100%; }\n"+render.Sheet(in.Kit),
	)
	goEvent := ""
	goScript := ""
	if in.Kit.Code.Go != "" {
		goEvent = fmt.Sprintf(" @%s=\"follow\"", in.Kit.Code.Go)
		goScript = "import { useRouter } from 'vue-router'\n\nconst router = useRouter()\n// The kit asks to go somewhere; routes of this application are followed without a reload.\nfunction follow(event: CustomEvent<{ to: string }>) {\n  if (!event.detail.to.startsWith('/')) return\n  event.preventDefault()\n  void router.push(event.detail.to)\n}\n"
	}
	add(
		"src/App.vue",
		"<script setup lang=\"ts\">\n"+goScript+"</script>\n\n<template>\n  <div class=\"u-screen\""+goEvent+"><RouterView /></div>\n</template>\n",
	)
	add("src/router.ts", router(in))
	add("src/lib/x.ts", expr.Runtime+"\nconst usualTheme = "+quote(in.Kit.Tokens.Themes[0])+"\n"+runtimeMore)
	add("src/data/models.ts", models(in))
	if len(in.Sources) > 0 {
		add("src/data/sources.ts", sourceStates(in))
	}
	for _, id := range slices.Sorted(maps.Keys(in.Models)) {
		add("src/data/"+deliver.ListName(id)+".ts", records(in, in.Models[id]))
	}
	for _, id := range slices.Sorted(maps.Keys(in.Shells)) {
		add("src/shells/"+deliver.Pascal(id)+"Shell.vue", component(in, in.Shells[id]))
	}
	for _, id := range slices.Sorted(maps.Keys(in.Pieces)) {
		add("src/pieces/"+deliver.Pascal(id)+"Piece.vue", component(in, in.Pieces[id]))
	}
	for _, d := range in.Screens {
		add("src/screens/"+deliver.Pascal(d.ID)+"Screen.vue", component(in, d))
	}
	slices.SortFunc(files, func(a, b deliver.File) int { return strings.Compare(a.Path, b.Path) })
	return files, nil
}

func nonEmpty(list ...string) []string {
	return slices.DeleteFunc(list, func(s string) bool { return s == "" })
}

const runtimeMore = `
/** What stands at a JSON pointer (RFC 6901); undefined where nothing does. */
const at = (value: unknown, pointer: string): unknown =>
  pointer.split('/').slice(1).reduce<unknown>((v, part) => (v as Record<string, unknown> | null | undefined)?.[part.replaceAll('~1', '/').replaceAll('~0', '~')], value)
/** A value of an answer as one of a field; undefined where it is none. Money that is a
 * number is in minor units; written as a text it is an amount. */
function taken(v: unknown, type: string, decimals = 2): Plain {
  if (v == null) return undefined
  if (type === 'list' || type === 'references') {
    const list = (Array.isArray(v) ? v : String(v).split(/[,;]/)).map(i => String((i as { id?: unknown } | null)?.id ?? i).trim()).filter(Boolean)
    return list.length ? list : undefined
  }
  if (type === 'number' || type === 'money') {
    const n = typeof v === 'number' ? v : typeof v === 'string' && v.trim() ? Number(v) * (type === 'money' ? 10 ** decimals : 1) : NaN
    return Number.isFinite(n) && (type === 'number' || Number.isInteger(Math.round(n))) ? (type === 'money' ? Math.round(n) : n) : undefined
  }
  if (type === 'yes/no') return typeof v === 'boolean' ? v : undefined
  const s = typeof v === 'string' ? v : typeof v === 'number' ? text(v) : undefined
  if (type !== 'date' || s == null) return s
  return /^\d{4}-\d\d-\d\d($|T)/.test(s) ? s.slice(0, 10) : undefined
}
/** What comes of something; undefined where nothing can. */
export function maybe<T>(make: () => T): T | undefined {
  try { return make() } catch { return undefined }
}
/** A function that fills a list from a service and keeps its state. */
export function loader<R extends object, P>(list: R[], states: Record<string, string>, name: string, where: string, fields: { name: string; at: string; type: string; decimals?: number }[], address: (params: P) => string, complete?: (record: R) => void) {
  let last: AbortController | undefined
  let asked = ''
  return (params: P): void => {
    const url = address(params)
    if (url === asked) return
    asked = url
    last?.abort()
    const mine = last = new AbortController()
    states[name] = 'loading'
    const done = (state: string, records: R[]) => {
      if (mine.signal.aborted) return
      list.splice(0, Infinity, ...records)
      states[name] = state
    }
    fetch(url, { signal: mine.signal, headers: { Accept: 'application/json' } })
      .then(async answer => {
        if (answer.status === 401 || answer.status === 403) return done('refused', [])
        if (!answer.ok) return done('failed', [])
        const found = at(await answer.json(), where)
        if (!Array.isArray(found)) return done('failed', [])
        const records = found.map((item, i) => Object.fromEntries(fields.map(f => [f.name, taken(at(item, f.at), f.type, f.decimals) ?? (f.name === 'id' ? 'r' + (i + 1) : undefined)])) as unknown as R)
        if (complete) records.forEach(complete)
        done('ready', records)
      })
      .catch(() => done('failed', []))
  }
}

/** Sends the form that an element stands in. */
export function submit(event: Event) {
  for (let up = (event.target as Element).parentElement; up; up = up.parentElement) {
    const form = up as Partial<HTMLFormElement>
    if (typeof form.requestSubmit === 'function') return form.requestSubmit()
  }
}

/** Turns a theme on or off among those that stand; what is on or ticked itself says which. */
export function theme(name: string, event: Event) {
  const { dataset } = document.documentElement
  const list = (dataset.theme ?? '').split(' ').filter(t => t && t !== usualTheme)
  const is = list.includes(name)
  const { on, checked } = event.target as { on?: unknown; checked?: unknown }
  const wanted = [on, checked].find(v => typeof v === 'boolean') ?? !is
  if (wanted === is) return
  const rest = list.filter(t => t !== name)
  dataset.theme = (is ? [usualTheme, ...rest] : [...rest, name]).join(' ')
}

/** Whether a place in the navigation leads to the route that is shown. */
export const active = (path: string, to: string) => path === to || (to !== '/' && path.startsWith(to + '/'))
`

func router(in deliver.Input) string {
	var b, routes strings.Builder
	b.WriteString("import { createRouter, createWebHistory, type RouteRecordRaw } from 'vue-router'\n\n")
	byShell := map[string][]*screen.Document{}
	for _, d := range in.Screens {
		byShell[d.Shell] = append(byShell[d.Shell], d)
	}
	// Shells stand in shells: each is a route around what stands in it.
	within := map[string][]string{}
	for id, shell := range in.Shells {
		outer := shell.Shell
		if in.Shells[outer] == nil {
			outer = ""
		}
		within[outer] = append(within[outer], id)
	}
	var write func(shell string, depth int)
	write = func(shell string, depth int) {
		pad := strings.Repeat("    ", depth)
		for _, d := range byShell[shell] {
			fmt.Fprintf(
				&routes,
				"%s  { path: %s, name: %s, component: () => import('./screens/%sScreen.vue') },\n",
				pad,
				quote(d.Route),
				quote(d.ID),
				deliver.Pascal(d.ID),
			)
		}
		slices.Sort(within[shell])
		for _, id := range within[shell] {
			fmt.Fprintf(
				&routes,
				"%[1]s  {\n%[1]s    path: '/',\n%[1]s    component: () => import('./shells/%[2]sShell.vue'),\n%[1]s    children: [\n",
				pad,
				deliver.Pascal(id),
			)
			write(id, depth+1)
			fmt.Fprintf(&routes, "%[1]s    ],\n%[1]s  },\n", pad)
		}
	}
	write("", 0)
	b.WriteString(
		"const routes: RouteRecordRaw[] = [\n" + routes.String() + "]\n\nexport const router = createRouter({ history: createWebHistory(), routes })\n",
	)
	return b.String()
}

func quote(s string) string {
	b, _ := json.Marshal(s) // texts cannot fail
	return "'" + strings.ReplaceAll(strings.ReplaceAll(string(b[1:len(b)-1]), `\"`, `"`), "'", `\'`) + "'"
}

var tsTypes = map[sample.FieldType]string{
	sample.Number: "number",
	sample.Money:  "number",
	sample.YesNo:  "boolean",
	sample.Texts:  "string[]",
	sample.Refs:   "string[]",
}

func models(in deliver.Input) string {
	var b strings.Builder
	b.WriteString("// The models of the workspace. Money is in minor units; dates are YYYY-MM-DD.\n")
	for _, id := range slices.Sorted(maps.Keys(in.Models)) {
		m := in.Models[id]
		fmt.Fprintf(&b, "\nexport interface %s {\n  id: string\n", deliver.TypeName(id))
		for _, f := range m.Fields {
			typ := tsTypes[f.Type]
			if typ == "" {
				typ = "string"
			}
			// A record that is not whole yet must not keep the code from building.
			optional := "?"
			if f.Required &&
				!slices.ContainsFunc(in.Set.Records[id], func(r sample.Record) bool { return r[f.Name] == nil }) {
				optional = ""
			}
			fmt.Fprintf(&b, "  %s%s: %s\n", f.Name, optional, typ)
		}
		b.WriteString("}\n")
	}
	return b.String()
}

func records(in deliver.Input, m *sample.Model) string {
	if q := in.Queries[m.ID]; q != nil {
		return queried(in, m, q)
	}
	if src := in.Sources[m.ID]; src != nil {
		return sourced(in, m, src)
	}
	var b strings.Builder
	typ := deliver.TypeName(m.ID)
	fmt.Fprintf(&b, "import type { %s } from './models'\n\nexport const %s: %s[] = [\n", typ, deliver.ListName(m.ID), typ)
	for _, r := range in.Set.Records[m.ID] {
		line, _ := json.Marshal(map[string]any(r)) // records hold plain values
		b.WriteString("  " + string(line) + ",\n")
	}
	b.WriteString("]\n")
	return b.String()
}

// addressOf writes what is put after the base's address: texts, with what the parameters
// hold between them.
func addressOf(src *sample.Source) string {
	var parts []string
	rest := src.Path
	for _, p := range src.Parameters() {
		before, after, _ := strings.Cut(rest, "{"+p+"}")
		if before != "" {
			parts = append(parts, quote(before))
		}
		parts = append(parts, "encodeURIComponent(x.text(params."+p+"))")
		rest = after
	}
	if rest != "" || len(parts) == 0 {
		parts = append(parts, quote(rest))
	}
	return strings.Join(parts, " + ")
}

// sourced writes a list that a service fills.
func sourced(in deliver.Input, m *sample.Model, src *sample.Source) string {
	var b strings.Builder
	typ := deliver.TypeName(m.ID)
	fmt.Fprintf(
		&b,
		"import { reactive } from 'vue'\nimport type { %s } from './models'\nimport { bases, sources } from './sources'\nimport * as x from '../lib/x'\n\n",
		typ,
	)
	// What is computed follows what came.
	var follows []string
	w := &writer{in: in}
	computations, _ := expr.Computations(in.Models)
	for _, c := range computations {
		if c.Model.ID == m.ID {
			follows = append(
				follows,
				fmt.Sprintf("  record.%s = x.maybe(() => %s)\n", c.Field.Name, w.code(c.Field.Compute, m)),
			)
		}
	}
	complete := ""
	if len(follows) > 0 {
		complete = ", record => {\n" + strings.Join(follows, "") + "}"
		for _, id := range slices.Sorted(maps.Keys(w.said.Lists)) {
			if id != m.ID {
				fmt.Fprintf(&b, "import { %[1]s } from './%[1]s'\n", deliver.ListName(id))
			}
		}
		if w.said.Today {
			fmt.Fprintf(&b, "const today = %s\n", quote(in.Today))
		}
	}
	fmt.Fprintf(
		&b,
		"/** The records as they came last. */\nexport const %s: %s[] = reactive([])\n\n",
		deliver.ListName(m.ID),
		typ,
	)
	var params []string
	for _, p := range src.Parameters() {
		params = append(params, p+"?: string | number | boolean")
	}
	path := addressOf(src)
	var fields []string
	for _, f := range append([]sample.Field{{Name: "id", Type: sample.Text}}, m.Fields...) {
		if f.Compute != "" {
			continue
		}
		pointer, ok := src.Fields[f.Name]
		if !ok {
			pointer = "/" + f.Name
		}
		decimals := ""
		if f.Type == sample.Money && f.Currency != "" {
			decimals = fmt.Sprintf(", decimals: %d", sample.CurrencyOf(f.Currency).Decimals)
		}
		fields = append(
			fields,
			fmt.Sprintf(
				"  { name: %s, at: %s, type: %s%s },\n",
				quote(f.Name),
				quote(pointer),
				quote(string(f.Type)),
				decimals,
			),
		)
	}
	fmt.Fprintf(
		&b,
		"/** Asks for them anew; what was asked before is given up. */\nexport const load%s = x.loader(%s, sources, %s, %s, [\n%s], (params: { %s }) => bases.%s + %s%s)\n",
		typ,
		deliver.ListName(m.ID),
		quote(m.ID),
		quote(src.List),
		strings.Join(fields, ""),
		strings.Join(params, "; "),
		src.Base,
		path,
		complete,
	)
	return b.String()
}

// sourceStates writes the addresses that data comes from, and the state of each source.
func sourceStates(in deliver.Input) string {
	var b strings.Builder
	b.WriteString(
		"import { reactive } from 'vue'\n\n/** Addresses that data comes from; the environment says others. */\nexport const bases = {\n",
	)
	used := map[string]bool{}
	for _, s := range in.Sources {
		used[s.Base] = true
	}
	for _, base := range in.Bases {
		if used[base.Name] {
			fmt.Fprintf(
				&b,
				"  %s: (import.meta.env.VITE_%s as string | undefined) ?? %s,\n",
				base.Name,
				strings.ToUpper(base.Name),
				quote(strings.TrimSuffix(base.Address, "/")),
			)
		}
	}
	b.WriteString("}\n\n/** ready, loading, refused or failed. */\nexport const sources = reactive({ ")
	for i, id := range slices.Sorted(maps.Keys(in.Sources)) {
		if i > 0 {
			b.WriteString(", ")
		}
		b.WriteString(id + ": 'ready'")
	}
	b.WriteString(" })\n")
	return b.String()
}

// loads writes what asks the sources whose records a screen shows, anew whenever what
// it asks for changes.
func (w *writer) loads() (code string, loaded []string) {
	var b strings.Builder
	for _, id := range slices.Sorted(maps.Keys(w.in.Sources)) {
		if !w.needs(id) {
			continue
		}
		loaded = append(loaded, id)
		var params []string
		for _, p := range w.in.Sources[id].Parameters() {
			if w.lent != nil && w.lent.Kinds[p] != expr.Any {
				params = append(params, p+": controls."+p)
			}
		}
		given := "{}"
		if len(params) > 0 {
			given = "{ " + strings.Join(params, ", ") + " }"
		}
		fmt.Fprintf(&b, "\nwatchEffect(() => load%s(%s))\n", deliver.TypeName(id), given)
	}
	return b.String(), loaded
}

// needs tells whether the code shows the records of a model, be it by a list made of them.
func (w *writer) needs(model string) bool {
	if w.said.Lists[model] {
		return true
	}
	for id, q := range w.in.Queries {
		if q.From == model && w.said.Lists[id] {
			return true
		}
	}
	return false
}

// queried writes a list that is made of another.
func queried(in deliver.Input, m *sample.Model, q *sample.Query) string {
	from := in.Models[q.From]
	w := &writer{in: in}
	where := "true"
	if q.Where != "" {
		where = w.code(q.Where, from)
	}
	imports := map[string]bool{q.From: true}
	at := func(path string) string {
		first, rest, joined := strings.Cut(path, ".")
		if !joined {
			return "record => record." + first
		}
		f, _ := from.Field(first)
		imports[f.Model] = true
		return fmt.Sprintf("record => x.find(%s, record.%s)?.%s", deliver.ListName(f.Model), first, rest)
	}
	var group, each []string
	for _, path := range q.Group {
		group = append(group, sample.GroupName(path)+": "+at(path))
	}
	for _, v := range q.Each {
		item := fmt.Sprintf("    { name: %s, do: %s", quote(v.Name), quote(v.Do))
		if v.Do != "count" {
			item += ", of: " + at(v.Field)
		}
		if f, ok := m.Field(v.Name); ok && f.Type == sample.Money {
			item += ", whole: true"
		}
		each = append(each, item+" },\n")
	}
	maps.Copy(imports, w.said.Lists)
	var b strings.Builder
	typ := deliver.TypeName(m.ID)
	fmt.Fprintf(&b, "import type { %s, %s } from './models'\n", typ, deliver.TypeName(from.ID))
	for _, id := range slices.Sorted(maps.Keys(imports)) {
		fmt.Fprintf(&b, "import { %[1]s } from './%[1]s'\n", deliver.ListName(id))
	}
	b.WriteString("import * as x from '../lib/x'\n")
	if w.said.Today {
		fmt.Fprintf(&b, "\nconst today = %s\n", quote(in.Today))
	}
	live := false
	for id := range imports {
		live = live || in.Sources[id] != nil
	}
	if live { // made anew whenever what it is made of comes
		b.WriteString("import { reactive, watchEffect } from 'vue'\n")
	}
	begin, end := fmt.Sprintf("export const %s = ", deliver.ListName(m.ID)), ""
	if live {
		begin = fmt.Sprintf("export const %s: %s[] = reactive([])\nconst make = () => ", deliver.ListName(m.ID), typ)
		end = fmt.Sprintf(
			"watchEffect(() => { const made = make(); %s.splice(0, Infinity, ...made) })\n",
			deliver.ListName(m.ID),
		)
	}
	fmt.Fprintf(
		&b,
		"\n"+begin+"x.query<%s, %s>(%s, {\n  where: record => %s,\n  group: { %s },\n  each: [\n%s  ],\n  order: %s,\n  limit: %d,\n})\n"+end,
		deliver.TypeName(from.ID),
		typ,
		deliver.ListName(q.From),
		where,
		strings.Join(group, ", "),
		strings.Join(each, ""),
		quote(q.Sort),
		q.Limit,
	)
	return b.String()
}

// component writes a screen, shell or piece as a single-file component.
func component(in deliver.Input, d *screen.Document) string {
	w := &writer{in: in, doc: d}
	if d.Kind == screen.PieceDoc {
		w.props = append(slices.Clone(d.Props), reached(in, d)...)
		w.over = map[string][]screen.PieceProp{}
		for _, p := range w.props {
			w.over[p.Element] = append(w.over[p.Element], p)
		}
	}
	root := w.united()
	w.aimed(root)
	if d.Kind == screen.ScreenDoc {
		w.lent = resolve.NamesOf(root, in.Cat)
		for _, src := range in.Sources {
			w.lent.Follow(src.Parameters())
		}
	}
	if root.Type == "parts" {
		for _, c := range root.Children {
			w.element(c, 1, nil)
		}
	} else {
		w.element(root, 1, nil)
	}
	body := w.b.String()
	lends := w.lends(body)
	loads, loaded := "", []string(nil)
	if d.Kind == screen.ScreenDoc {
		loads, loaded = w.loads()
	}
	var script strings.Builder
	var imports []string
	for _, id := range slices.Sorted(maps.Keys(in.Models)) {
		var names []string
		if w.said.Lists[id] {
			names = append(names, deliver.ListName(id))
		}
		if slices.Contains(loaded, id) {
			names = append(names, "load"+deliver.TypeName(id))
		}
		if len(names) > 0 {
			imports = append(imports,
				fmt.Sprintf("import { %s } from '../data/%s'", strings.Join(names, ", "), deliver.ListName(id)))
		}
	}
	for _, id := range slices.Sorted(maps.Keys(w.pieces)) {
		imports = append(
			imports,
			fmt.Sprintf("import %sPiece from '../pieces/%sPiece.vue'", deliver.Pascal(id), deliver.Pascal(id)),
		)
	}
	if w.said.Runtime {
		imports = append(imports, "import * as x from '../lib/x'")
	}
	var fromVue []string
	use := func(yes bool, names ...string) {
		if yes {
			fromVue = append(fromVue, names...)
		}
	}
	piece := d.Kind == screen.PieceDoc
	use(strings.Contains(lends, "computed("), "computed")
	use(w.stateful && piece, "inject")
	use(w.stateful && !piece && len(w.pieces) > 0, "provide")
	use(len(w.targets) > 0 || lends != "", "reactive")
	use(w.stateful, "ref")
	use(w.stateful && piece, "type Ref")
	use(len(w.names) > 0, "useTemplateRef")
	use(loads != "", "watchEffect")
	if w.said.Sources && len(in.Sources) > 0 {
		imports = append(imports, "import { sources } from '../data/sources'")
	}
	if len(fromVue) > 0 {
		imports = append([]string{"import { " + strings.Join(fromVue, ", ") + " } from 'vue'"}, imports...)
	}
	script.WriteString(strings.Join(imports, "\n"))
	if len(imports) > 0 {
		script.WriteString("\n")
	}
	if w.said.Today {
		fmt.Fprintf(
			&script,
			"\n// The day of the sample records; use the real day where the records are live.\nconst today = %s\n",
			quote(in.Today),
		)
	}
	if d.Kind == screen.PieceDoc {
		script.WriteString(w.pieceProps())
	}
	if d.Root.Type == "parts" {
		script.WriteString("defineOptions({ inheritAttrs: false })\n")
	}
	var expose []string
	if w.stateful {
		script.WriteString(w.stateScript(d))
		if !piece {
			expose = append(expose, "state")
		}
	}
	script.WriteString(lends)
	script.WriteString(loads)
	if len(w.targets) > 0 {
		script.WriteString(
			"\n// What was opened or closed, by the name of what opens.\nconst opened = reactive<Record<string, boolean>>({})\n",
		)
	}
	if len(w.names) > 0 {
		script.WriteString("\n// Elements that own code reaches by their stable names.\n")
		for _, n := range w.names {
			typ := "HTMLElement"
			if id, piece := strings.CutPrefix(n.typ, screen.PiecePrefix); piece {
				typ = "InstanceType<typeof " + deliver.Pascal(id) + "Piece>"
			}
			fmt.Fprintf(&script, "const %s = useTemplateRef<%s>(%s)\n", w.constOf(n), typ, quote(n.name))
		}
		for _, n := range w.names {
			expose = append(expose, w.constOf(n))
		}
	}
	if len(expose) > 0 {
		fmt.Fprintf(&script, "defineExpose({ %s })\n", strings.Join(expose, ", "))
	}
	return "<script setup lang=\"ts\">\n" + script.String() + "</script>\n\n<template>\n" + body + "</template>\n"
}

func camel(id string) string {
	p := deliver.Pascal(id)
	return strings.ToLower(p[:1]) + p[1:]
}

func containsWord(s, word string) bool {
	for i := 0; ; {
		j := strings.Index(s[i:], word)
		if j < 0 {
			return false
		}
		j += i
		if (j == 0 || !wordByte(s[j-1])) && (j+len(word) == len(s) || !wordByte(s[j+len(word)])) {
			return true
		}
		i = j + 1
	}
}

func wordByte(c byte) bool {
	return c == '_' || c == '-' || c == '/' || c >= '0' && c <= '9' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z'
}

// stable is an element that own code reaches by its name.
type stable struct{ name, typ string }

type writer struct {
	in     deliver.Input
	doc    *screen.Document
	b      strings.Builder
	pieces map[string]bool
	names  []stable
	over   map[string][]screen.PieceProp
	props  []screen.PieceProp // of the piece: those it offers, and those by which its uses reach inside
	shell  map[string]bool    // pieces that shells are made of
	said   expr.Spoken        // what the code speaks of, and imports
	record bool               // an expression speaks of a record that comes from outside
	around *sample.Model      // of the record around that of the nearest repeat
	lent   *resolve.Names     // of a screen

	states   []string // of the screen, the usual one first
	variants map[*screen.Element]variant
	stateful bool              // something depends on the state, or changes it
	targets  map[string]target // what is opened and closed, by id
}

// constOf is the constant by which own code reaches an element: its name, and where
// the piece has a prop of that name, more.
func (w *writer) constOf(n stable) string {
	name := camel(n.name)
	if deliver.Reserved(name) {
		return name + "Element"
	}
	for id := range w.in.Models {
		if deliver.ListName(id) == name {
			return name + "Element"
		}
	}
	if slices.ContainsFunc(w.props, func(p screen.PieceProp) bool { return propID(p) == name }) {
		return name + "Element"
	}
	return name
}

// inShell tells whether what is written stands in a shell, be it in a piece of one.
func (w *writer) inShell() bool {
	if w.doc == nil || w.doc.Kind != screen.PieceDoc {
		return w.doc != nil && w.doc.Kind == screen.ShellDoc
	}
	if w.shell == nil {
		met := map[string]bool{}
		var reach func(d *screen.Document)
		reach = func(d *screen.Document) {
			d.Root.Walk(func(e, _ *screen.Element) bool {
				if id, ok := strings.CutPrefix(e.Type, screen.PiecePrefix); ok && !met[id] && w.in.Pieces[id] != nil {
					met[id] = true
					reach(w.in.Pieces[id])
				}
				return true
			})
		}
		for _, d := range w.in.Shells {
			reach(d)
		}
		w.shell = met
	}
	return w.shell[w.doc.ID]
}

func (w *writer) pieceProps() string {
	var b strings.Builder
	b.WriteString("\nwithDefaults(defineProps<{")
	for _, p := range w.props {
		fmt.Fprintf(&b, " %s?: %s;", propID(p), w.propType(p))
	}
	if w.record {
		b.WriteString(" record?: any;")
	}
	b.WriteString(" }>(), {")
	for _, p := range w.props {
		el, _ := w.doc.Root.Find(p.Element)
		if el == nil {
			continue
		}
		v, _ := el.Prop(p.Prop)
		switch p.Prop {
		case "":
			v = el.Text
		case screen.ShowProp:
			v = screen.FlagValue(true)
		case screen.KindProp:
			v = screen.Lit(el.Type)
		}
		switch v.Kind {
		case screen.None:
			if w.propType(p) == "boolean" { // else Vue would make no value a no
				fmt.Fprintf(&b, " %s: undefined,", propID(p))
			}
		case screen.Num, screen.Flag:
			fmt.Fprintf(&b, " %s: %s,", propID(p), v.Text)
		case screen.Token:
			if tok, ok := w.in.Kit.Tokens.Find(v.Text); ok {
				fmt.Fprintf(&b, " %s: %s,", propID(p), quote("var("+tok.CSS+")"))
			}
		case screen.Literal:
			fmt.Fprintf(&b, " %s: %s,", propID(p), quote(v.Text))
		}
	}
	b.WriteString(" })\n")
	return b.String()
}

// propID is the name of a piece's prop in code. Those by which uses reach inside
// begin with "in", so that they meet none that the piece offers.
func propID(p screen.PieceProp) string { return propName(p.Name) }

func propName(name string) string {
	if of, prop, reaches := strings.Cut(name, "."); reaches {
		return camel("in-" + of + "-" + prop)
	}
	// Those that Vue or the language has for itself get another.
	if id := camel(name); deliver.Reserved(id) || slices.Contains([]string{"key", "is", "slot", "style"}, id) {
		return id + "Value"
	}
	return camel(name)
}

func (w *writer) propType(p screen.PieceProp) string {
	if p.Prop == screen.ShowProp {
		return "boolean"
	}
	if p.Prop == "" {
		return "string | number"
	}
	if el, _ := w.doc.Root.Find(p.Element); el != nil {
		if def, ok := w.in.Cat.Component(el.Type); ok {
			if prop, ok := def.Prop(p.Prop); ok {
				switch prop.Type {
				case kit.Bool:
					return "boolean"
				case kit.Number:
					return "number | string"
				case kit.Text:
					return "string | number"
				}
			}
		}
	}
	return "string"
}

// reached lists the settings by which uses reach elements inside a piece by their names.
func reached(in deliver.Input, piece *screen.Document) []screen.PieceProp {
	met := map[string]bool{}
	var out []screen.PieceProp
	look := func(d *screen.Document) {
		d.Root.Walk(func(e, _ *screen.Element) bool {
			if e.Type != screen.PiecePrefix+piece.ID {
				return true
			}
			for _, p := range e.Props {
				of, prop, reaches := strings.Cut(p.Name, ".")
				if !reaches || met[p.Name] {
					continue
				}
				met[p.Name] = true
				piece.Root.Walk(func(inner, _ *screen.Element) bool {
					if inner.Name == of {
						out = append(
							out,
							screen.PieceProp{
								Name:    p.Name,
								Element: inner.ID,
								Prop:    resolve.InnerProp(in.Cat, inner, prop),
							},
						)
					}
					return true
				})
			}
			return true
		})
	}
	for _, d := range in.Screens {
		look(d)
	}
	for _, list := range []map[string]*screen.Document{in.Shells, in.Pieces} {
		for _, id := range slices.Sorted(maps.Keys(list)) {
			look(list[id])
		}
	}
	slices.SortFunc(out, func(a, b screen.PieceProp) int { return strings.Compare(a.Name, b.Name) })
	return out
}

// harmless is what may stand in a comment of a template: a reason quotes what somebody
// typed.
var harmless = regexp.MustCompile(`[^\pL\pN ,.:;()-]+`)

// code translates an expression; one that does not compile becomes an empty
// text with the reason beside it, so that the rest still builds.
func (w *writer) code(source string, model *sample.Model) string {
	scope := deliver.Scope(w.in, model, w.around)
	if w.lent != nil {
		scope = w.lent.In(scope)
	}
	p, err := expr.Compile(source, scope)
	if err != nil {
		return "'' /* " + harmless.ReplaceAllString(err.Error(), " ") + " */"
	}
	code, said := p.TypeScript(deliver.ListName)
	w.said.Add(said)
	if model == nil && said.Record {
		w.record = true
	}
	return code
}

// x is a function of the runtime, which is imported then.
func (w *writer) x(name string) string {
	w.said.Runtime = true
	return "x." + name
}

// list is the list of a model in code, which is imported then.
func (w *writer) list(id string) string {
	w.said.Add(expr.Spoken{Lists: map[string]bool{id: true}})
	return deliver.ListName(id)
}

// speaksOfOuter tells whether a repeat speaks of the record around it.
func speaksOfOuter(e *screen.Element) bool {
	found := false
	says := func(source string) { found = found || containsWord(source, "outer") }
	e.Walk(func(e, _ *screen.Element) bool {
		says(e.Show)
		if e.Text.Kind == screen.Expr {
			says(e.Text.Text)
		}
		for _, p := range e.Props {
			if p.Value.Kind == screen.Expr {
				says(p.Value.Text)
			}
		}
		if e.Repeat != nil {
			says(e.Repeat.Where)
		}
		return !found
	})
	return found
}

// rows writes the records that a repeat shows.
func (w *writer) rows(e *screen.Element, m *sample.Model) string {
	r := e.Repeat
	where := "true"
	if r.Where != "" {
		where = w.code(r.Where, m)
	}
	order := quote(r.Sort)
	if source, computed := sample.Computed(r.Sort); computed {
		order = w.x("text") + "(" + w.code(source, w.around) + ")"
	}
	code := fmt.Sprintf("%s(%s, record => %s, %s, %d", w.x("rows"), w.source(r.Model, m), where, order, r.Limit)
	if r.Page != "" && w.lent != nil {
		if name := resolve.Identifier(r.Page); w.lent.Kinds[name] == expr.Number {
			code += ", controls." + name
		}
	}
	return code + ")"
}

// source is what a repeat is over, as code: a list, or what a field of the record around
// holds.
func (w *writer) source(repeat string, m *sample.Model) string {
	name, ofField := sample.OverField(repeat)
	switch {
	case !ofField:
		return w.list(m.ID)
	case w.in.Models[m.ID] == m:
		return fmt.Sprintf("%s(%s, record.%s)", w.x("findAll"), w.list(m.ID), name)
	}
	return w.x("items") + "(record." + name + ")"
}

// lends writes what the controls hold and how many records the repeats have, as far as
// the code speaks of it.
func (w *writer) lends(body string) string {
	if w.lent == nil {
		return ""
	}
	var b strings.Builder
	if w.lent.Spoken && len(w.lent.Controls) > 0 {
		b.WriteString("\n// What people chose or typed, by the names of the controls.\nconst controls = reactive({ ")
		for i, name := range slices.Sorted(maps.Keys(w.lent.Controls)) {
			if i > 0 {
				b.WriteString(", ")
			}
			usual := w.lent.Controls[name].Usual
			code, _ := json.Marshal(usual) // a text, a number or yes/no
			if text, ok := usual.(string); ok {
				code = []byte(quote(text))
			}
			fmt.Fprintf(&b, "%s: %s", name, code)
		}
		b.WriteString(" })\n")
	}
	var counts, pages []string
	for _, name := range w.lent.Lists {
		ofPages := strings.Contains(body, "pages."+name)
		if !ofPages && !strings.Contains(body, "count."+name) {
			continue
		}
		e := w.lent.Repeats[name]
		m := w.in.Models[e.Repeat.Model]
		if m == nil {
			continue
		}
		where := "true"
		if e.Repeat.Where != "" {
			where = w.code(e.Repeat.Where, m)
		}
		counts = append(
			counts,
			fmt.Sprintf("%s: computed((): number => %s(%s, record => %s).length)", name, w.x("rows"), w.list(m.ID), where),
		)
		if ofPages {
			pages = append(
				pages,
				fmt.Sprintf("%s: computed((): number => %s(count.%s, %d))", name, w.x("pages"), name, e.Repeat.Limit),
			)
		}
	}
	if len(counts) > 0 {
		fmt.Fprintf(
			&b,
			"\n// How many records pass, whatever page is shown.\nconst count: Record<string, number> = reactive({ %s })\n",
			strings.Join(counts, ", "),
		)
	}
	if len(pages) > 0 {
		fmt.Fprintf(&b, "const pages: Record<string, number> = reactive({ %s })\n", strings.Join(pages, ", "))
	}
	return b.String()
}

func (w *writer) indent(depth int) { w.b.WriteString(strings.Repeat("  ", depth)) }

func (w *writer) element(e *screen.Element, depth int, model *sample.Model) {
	if e.Repeat != nil {
		if m := sample.Over(e.Repeat.Model, model, w.in.Models); m != nil {
			closes := 0
			wrap := func(open string) {
				w.indent(depth)
				w.b.WriteString(open)
				depth++
				closes++
			}
			if around := w.around; model != nil {
				w.around = model
				defer func() { w.around = around }()
				if speaksOfOuter(e) {
					wrap("<template v-for=\"outer in [record]\" :key=\"outer.id\">\n")
				}
			}
			model = m
			wrap(fmt.Sprintf("<template v-for=\"record in %s\" :key=\"record.id\">\n", attr(w.rows(e, m))))
			defer func() {
				for ; closes > 0; closes-- {
					depth--
					w.indent(depth)
					w.b.WriteString("</template>\n")
				}
			}()
		}
	}
	if e.Type == "outlet" {
		w.indent(depth)
		switch {
		case w.doc != nil && w.doc.Kind == screen.ShellDoc:
			w.b.WriteString("<RouterView />\n")
		default:
			name := ""
			if e.Name != "" {
				name = ` name="` + e.Name + `"`
			}
			w.b.WriteString("<slot" + name + " />\n")
		}
		return
	}
	tag, attrs := w.attributes(e, model)
	w.indent(depth)
	w.b.WriteString("<" + tag)
	for _, a := range attrs {
		w.b.WriteString(" " + a)
	}
	text := w.text(e, model)
	if text == "" && len(e.Children) == 0 {
		w.b.WriteString("></" + tag + ">\n")
		return
	}
	w.b.WriteString(">" + text)
	if len(e.Children) > 0 {
		w.b.WriteString("\n")
		if piece := w.in.Pieces[strings.TrimPrefix(e.Type, screen.PiecePrefix)]; strings.HasPrefix(
			e.Type,
			screen.PiecePrefix,
		) &&
			piece != nil {
			w.slots(e, piece, depth+1, model)
		} else {
			for _, c := range e.Children {
				w.element(c, depth+1, model)
			}
		}
		w.indent(depth)
	}
	w.b.WriteString("</" + tag + ">\n")
}

// slots writes what stands in the slots of a use of a piece. Where the piece's outlet
// stands in a slot of the kit, so does what fills it.
func (w *writer) slots(e *screen.Element, piece *screen.Document, depth int, model *sample.Model) {
	piece.Root.Walk(func(o, _ *screen.Element) bool {
		if o.Type != "outlet" {
			return true
		}
		var in []*screen.Element
		for _, c := range e.Children {
			if c.Slot == o.Name {
				into := *c
				into.Slot = o.Slot
				in = append(in, &into)
				if v, ok := w.variants[c]; ok {
					w.variants[&into] = v
				}
			}
		}
		if len(in) == 0 {
			return true
		}
		if o.Name != "" {
			w.indent(depth)
			fmt.Fprintf(&w.b, "<template #%s>\n", o.Name)
			defer func() { w.indent(depth); w.b.WriteString("</template>\n") }()
		}
		for _, c := range in {
			w.element(c, depth+1, model)
		}
		return true
	})
}

func attr(code string) string { return strings.ReplaceAll(code, `"`, "&quot;") }

func (w *writer) text(e *screen.Element, model *sample.Model) string {
	for _, p := range w.over[e.ID] {
		if p.Prop == "" {
			return "{{ " + w.x("text") + "(" + propID(p) + ") }}"
		}
	}
	if code, ok := w.varying(e, func(e *screen.Element) string { return w.valueCode(e.Text, model) }); ok {
		return "{{ " + w.x("text") + "(" + code + ") }}"
	}
	switch e.Text.Kind {
	case screen.None:
		return ""
	case screen.Expr:
		return "{{ " + w.x("text") + "(" + w.code(e.Text.Text, model) + ") }}"
	}
	return strings.ReplaceAll(deliver.Escape(e.Text.Text), "{{", "{{ '{{' }}")
}

func (w *writer) attributes(e *screen.Element, model *sample.Model) (tag string, attrs []string) {
	shown := ""
	for _, p := range w.over[e.ID] {
		if p.Prop == screen.ShowProp {
			shown = propID(p)
		}
	}
	var conditions []string
	if in := w.variants[e].in; in != nil {
		conditions = append(conditions, w.stands(in))
	}
	if shown != "" {
		conditions = append(conditions, shown)
	}
	if code, ok := w.varying(e, func(e *screen.Element) string {
		if e.Show == "" {
			return "true"
		}
		return "(" + w.code(e.Show, model) + ")"
	}); ok {
		conditions = append(conditions, code)
	} else if e.Show != "" {
		conditions = append(conditions, w.code(e.Show, model))
	}
	if len(conditions) > 1 {
		for i, c := range conditions {
			if strings.Contains(c, " ") {
				conditions[i] = "(" + c + ")"
			}
		}
	}
	if len(conditions) > 0 {
		attrs = append(attrs, `v-if="`+attr(strings.Join(conditions, " && "))+`"`)
	}
	if w.doc != nil && w.doc.Root.Type == "parts" &&
		slices.ContainsFunc(w.doc.Root.Children, func(c *screen.Element) bool { return c.ID == e.ID }) {
		attrs = append(attrs, `v-bind="$attrs"`) // a piece of several parts passes on the slot it stands in
	}
	if e.Slot != "" {
		attrs = append(attrs, `slot="`+deliver.Escape(e.Slot)+`"`)
	}
	if e.Name != "" && w.doc != nil {
		if n := (stable{e.Name, e.Type}); !slices.Contains(w.names, n) { // one of several states is there at a time
			w.names = append(w.names, n)
		}
		attrs = append(attrs, `ref="`+e.Name+`"`)
	}
	def, known := w.in.Cat.Component(e.Type)
	switch {
	case !known:
		return "div", append(attrs, `class="u-unknown"`)
	case def.Level == kit.Layout:
		node := func(e *screen.Element) *resolve.Node {
			n := &resolve.Node{Type: e.Type, Component: def}
			for _, p := range e.Props {
				n.Props = append(n.Props, literalProp(p))
			}
			for range e.Children {
				n.Children = append(n.Children, nil)
			}
			return n
		}
		tag = render.TagOf(node(e))
		if region, ok := e.Prop("region"); ok && region.Text != "none" {
			tag = region.Text
		}
		classes := func(e *screen.Element) string { return strings.Join(render.Classes(node(e)), " ") }
		if code, ok := w.varying(e, func(e *screen.Element) string { return quote(classes(e)) }); ok {
			return tag, append(attrs, `:class="`+attr(code)+`"`)
		}
		return tag, append(attrs, `class="`+classes(e)+`"`)
	case def.Level == kit.Piece:
		id := strings.TrimPrefix(e.Type, screen.PiecePrefix)
		if w.pieces == nil {
			w.pieces = map[string]bool{}
		}
		w.pieces[id] = true
		if model != nil {
			attrs = append(attrs, `:record="record"`)
		}
		for _, p := range w.propsOf(e) {
			prop, ok := def.Prop(p.Name)
			if !ok || (prop.URL && p.Value.Kind == screen.Literal && !render.SafeURL(p.Value.Text)) {
				continue
			}
			if code, ok := w.varying(e, func(e *screen.Element) string {
				v, _ := e.Prop(p.Name)
				return w.valueCode(v, model)
			}); ok {
				attrs = append(attrs, ":"+propName(p.Name)+`="`+attr(code)+`"`)
				continue
			}
			attrs = append(attrs, w.attribute(propName(p.Name), &kit.Prop{Type: kit.Text}, p.Value, model))
		}
		return deliver.Pascal(id) + "Piece", attrs
	}
	over := map[string]string{}
	for _, p := range w.over[e.ID] {
		if p.Prop != screen.ShowProp && p.Prop != screen.KindProp {
			over[p.Prop] = propID(p)
		}
	}
	opens := w.targets[e.ID].key != ""
	holds := w.holding(e, def)
	attrs = append(attrs, holds...)
	for _, p := range w.propsOf(e) {
		prop, ok := def.Prop(p.Name)
		if !ok || p.Name == kit.Does ||
			(prop.URL && p.Value.Kind == screen.Literal && !render.SafeURL(p.Value.Text)) {
			continue
		}
		if p.Name == def.Holds && holds != nil {
			continue
		}
		if name := over[p.Name]; name != "" {
			attrs = append(attrs, ":"+prop.Attr+`="`+w.address(prop, name)+`"`)
			delete(over, p.Name)
			continue
		}
		code, varies := w.varying(e, func(e *screen.Element) string {
			v, _ := e.Prop(p.Name)
			return w.valueCode(v, model)
		})
		if p.Name == "open" && opens {
			if !varies {
				code = w.valueCode(p.Value, model)
			}
			attrs = append(attrs, w.opening(e, def, code)...)
			opens = false
			continue
		}
		if varies {
			attrs = append(attrs, ":"+prop.Attr+`="`+attr(w.address(prop, code))+`"`)
			continue
		}
		if w.inShell() && p.Name == "active" && def.Role == "link" {
			continue
		}
		attrs = append(attrs, w.attribute(prop.Attr, prop, p.Value, model))
	}
	if opens {
		attrs = append(attrs, w.opening(e, def, "false")...)
	}
	if listener := w.doing(e, def, model != nil); listener != "" {
		attrs = append(attrs, listener)
	}
	for _, name := range slices.Sorted(maps.Keys(over)) {
		if prop, ok := def.Prop(name); ok && name != "" {
			attrs = append(attrs, ":"+prop.Attr+`="`+w.address(prop, over[name])+`"`)
		}
	}
	if w.inShell() && def.Role == "link" {
		if p, ok := def.Prop("active"); ok && p.Type == kit.Bool {
			to, ok := e.Prop("to")
			code := attr(quote(to.Text))
			for _, p := range w.over[e.ID] {
				if p.Prop == "to" {
					code, ok = "String("+propID(p)+")", true
				}
			}
			if ok && (to.Kind == screen.Literal || code != attr(quote(to.Text))) {
				attrs = append(attrs, `:active="`+w.x("active")+`($route.path, `+code+`)"`)
			}
		}
	}
	for _, p := range w.over[e.ID] {
		if p.Prop == screen.KindProp {
			return "component", append([]string{`:is="` + propID(p) + `"`}, attrs...)
		}
	}
	return def.Tag, attrs
}

// holding keeps what a named control holds where the screen follows it.
func (w *writer) holding(e *screen.Element, def *kit.Component) []string {
	if w.lent == nil || !w.lent.Spoken || e.Name == "" {
		return nil
	}
	name := resolve.Identifier(e.Name)
	c, ok := w.lent.Controls[name]
	if !ok || c.Element.ID != e.ID {
		return nil
	}
	return []string{
		fmt.Sprintf(`:%s="controls.%s"`, c.Holds.Attr, name),
		fmt.Sprintf(`@%s.self="controls.%s = $event.target.%s"`, c.At, name, c.Holds.Name),
	}
}

// stateScript keeps the state of a screen, or in a piece, that of the screen around.
func (w *writer) stateScript(d *screen.Document) string {
	if d.Kind == screen.PieceDoc {
		return "\n// The state of the screen around.\nconst state = inject<Ref<string>>('state', ref('ready'))\n"
	}
	names := make([]string, len(w.states))
	for i, s := range w.states {
		names[i] = quote(s)
	}
	if len(names) == 0 {
		names = []string{quote(usualState)}
	}
	out := fmt.Sprintf(
		"\n// What the screen shows; own code sets it while it loads, or when that fails.\nconst state = ref<%s>(%s)\n",
		strings.Join(names, " | "),
		quote(usualState),
	)
	if len(w.pieces) > 0 {
		out += "provide('state', state)\n"
	}
	return out
}

// valueCode writes a value as code.
func (w *writer) valueCode(v screen.Value, model *sample.Model) string {
	switch v.Kind {
	case screen.None:
		return "undefined"
	case screen.Num, screen.Flag:
		return v.Text
	case screen.Expr:
		return "(" + w.code(v.Text, model) + ")"
	case screen.Token:
		if tok, ok := w.in.Kit.Tokens.Find(v.Text); ok {
			return quote("var(" + tok.CSS + ")")
		}
		return "undefined"
	}
	return quote(v.Text)
}

func literalProp(p screen.Prop) resolve.Prop {
	switch p.Value.Kind {
	case screen.Flag:
		return resolve.Prop{Name: p.Name, Value: p.Value.Text == "true"}
	case screen.Token:
		return resolve.Prop{Name: p.Name, Value: resolve.TokenMark + p.Value.Text}
	}
	return resolve.Prop{Name: p.Name, Value: p.Value.Text}
}

// address is the code of a setting; one that is followed is held to harmless addresses,
// for a record may hold any.
func (w *writer) address(prop *kit.Prop, code string) string {
	if !prop.URL {
		return code
	}
	return w.x("url") + "(" + code + ")"
}

// attribute writes one setting. Numbers and flags are bound, so that the element
// gets a number or a yes/no, not a text.
func (w *writer) attribute(name string, prop *kit.Prop, v screen.Value, model *sample.Model) string {
	switch v.Kind {
	case screen.Expr:
		code := w.code(v.Text, model)
		return ":" + name + `="` + attr(w.address(prop, code)) + `"`
	case screen.Token:
		if tok, ok := w.in.Kit.Tokens.Find(v.Text); ok {
			return name + `="var(` + tok.CSS + `)"`
		}
	case screen.Num:
		return ":" + name + `="` + v.Text + `"`
	case screen.Flag:
		if v.Text == "true" && prop.Type == kit.Bool {
			return name
		}
		return ":" + name + `="` + v.Text + `"`
	}
	return name + `="` + deliver.Escape(v.Text) + `"`
}
