package e2e_test

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit/pack"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/database"
	"ubiquant/server"
	"ubiquant/server/assets"
	"ubiquant/server/repo"
)

// ownKit is an application whose kit is a folder of its own, with styles that a build makes of classes,
// an alias, a picture of a package, a component that cannot be without what stands around it, one that
// cannot be bundled, and a part that is told what it says.
var ownKit = map[string]string{
	"package.json":   `{"name":"seed-shop","private":true,"dependencies":{"react":"^19","react-dom":"^19","leaf-icons":"1.0.0"}}`,
	"tsconfig.json":  `{"compilerOptions":{"jsx":"react-jsx","baseUrl":".","paths":{"~/*":["./src/*"]}}}`,
	"src/index.css":  "@import \"tailwindcss\";\n@custom-variant dark (&:where(.dark, .dark *));\n@theme {\n  --color-moss: rgb(20 90 40);\n}\n:root { --ground: rgb(250, 250, 245); }\n.dark { --ground: rgb(10, 20, 10); }\n",
	"src/main.tsx":   "import './index.css'\nimport { createBrowserRouter } from 'react-router'\nimport { Seeds } from '~/pages/Seeds'\nimport { NewSeed } from '~/pages/NewSeed'\nexport default createBrowserRouter([{ path: '/seeds', element: <Seeds /> }, { path: '/seeds/new', element: <NewSeed /> }])\n",
	"src/ui/join.ts": "export const join = (...all: (string | undefined | false)[]) => all.filter(Boolean).join(' ')\n",
	"src/ui/press.tsx": `import { join } from '~/ui/join'
const looks = { plain: 'border border-moss text-moss', full: 'bg-moss text-white' }
export interface PressProps extends React.ButtonHTMLAttributes<HTMLButtonElement> { look?: 'plain' | 'full'; size?: 'small' | 'large' }
export function Press({ look = 'plain', size = 'small', className, ...rest }: PressProps) {
  return <button className={join('rounded', size === 'large' ? 'h-12 px-6' : 'h-8 px-3', looks[look], className)} {...rest} />
}
`,
	"src/ui/sheet.tsx": `import { join } from './join'
export function Sheet({ className, children }: { className?: string; children?: React.ReactNode }) {
  return <section className={join('rounded-lg border p-4 data-[open=yes]:shadow', className)} data-open="yes">{children}</section>
}
const most = __MOST_SEEDS__ ?? 12
export const SheetTitle = ({ children }: { children?: React.ReactNode }) => <h2 data-most={most} className="text-lg font-bold dark:text-white">{children}</h2>
`,
	"src/ui/hint.tsx": `import { createContext, useContext } from 'react'
const Ground = createContext<string | null>(null)
export const HintProvider = ({ children }: { children?: React.ReactNode }) => <Ground.Provider value="low">{children}</Ground.Provider>
export function Hint({ children }: { children?: React.ReactNode }) {
  if (useContext(Ground) === null) throw new Error('Hint stands in a HintProvider')
  return <em data-hint="">{children}</em>
}
`,
	"src/ui/chart.tsx":   "import { draw } from './made-by-a-build'\nexport const Chart = ({ title }: { title?: string }) => <figure>{draw(title)}</figure>\n",
	"src/parts/Head.tsx": "export function Head({ title, children }: { title: string; children?: React.ReactNode }) {\n  return <header className=\"flex justify-between\"><h1 className=\"text-2xl\">{title}</h1><div>{children}</div></header>\n}\n",
	"src/pages/Seeds.tsx": `import { Leaf } from 'leaf-icons'
import { Press } from '~/ui/press'
import { Sheet, SheetTitle } from '~/ui/sheet'
import { Hint } from '~/ui/hint'
import { Chart } from '~/ui/chart'
import { Head } from '~/parts/Head'
export function Seeds() {
  return <div className="p-6 bg-[var(--ground)]">
    <Head title="Seeds"><Press look="full"><Leaf className="size-4" />New seed</Press></Head>
    <div className="grid grid-cols-2 gap-4">
      <Sheet><SheetTitle>Ferns</SheetTitle><p><b>Nine</b> kinds</p><Press>Sow</Press></Sheet>
      <Sheet className="w-full"><SheetTitle>Mosses</SheetTitle><Hint>Keep them wet</Hint><Press>Sow</Press></Sheet>
    </div>
    <Chart title="Sown" />
  </div>
}
`,
	"src/pages/NewSeed.tsx": `import { Press } from '~/ui/press'
import { Sheet, SheetTitle } from '~/ui/sheet'
import { Head } from '~/parts/Head'
export const NewSeed = () => <div className="p-6"><Head title="New seed" /><Sheet><SheetTitle>Facts</SheetTitle><Press size="large">Keep</Press></Sheet></div>
`,
	"node_modules/leaf-icons/package.json": `{"name":"leaf-icons","version":"1.0.0","main":"index.js","peerDependencies":{"react":"*"}}`,
	"node_modules/leaf-icons/index.js":     "import { createElement } from 'react'\nexport const Leaf = p => createElement('svg', { ...p, 'data-leaf': '' })\n",
}

// ownRepository writes an application beside the framework that one of our kits has installed.
func ownRepository(t *testing.T, files map[string]string, of string, packages ...string) string {
	t.Helper()
	dir := filepath.Join(t.TempDir(), "seed-shop")
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "node_modules"), 0o755))
	for name, text := range files {
		file := filepath.Join(dir, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o755))
		require.NoError(t, os.WriteFile(file, []byte(text), 0o600))
	}
	installed := filepath.Join(testkit.Root(), "kits", of, "node_modules")
	for _, name := range packages {
		require.NoError(t, os.Symlink(filepath.Join(installed, name), filepath.Join(dir, "node_modules", name)))
	}
	return dir
}

// opened reads a repository and what draws it, as serve --code does.
func openedCode(t *testing.T, dir string) (*repo.Repository, *pack.Archive, []string) {
	t.Helper()
	r, err := repo.Open(t.Context(), repo.Options{Dir: dir})
	require.NoError(t, err)
	r.W = r.Judge("2026-01-01").W
	reader, err := assets.Reader()
	require.NoError(t, err)
	var with repo.Making
	with.Classes, err = assets.Classes()
	require.NoError(t, err)
	with.Single, err = assets.Single()
	require.NoError(t, err)
	a, said, err := r.Drawn(t.Context(), repo.Options{Declarations: reader}, with, nil)
	require.NoError(t, err)
	return r, a, said
}

// An application whose kit is a folder of its own is drawn by that code, with its own styles, in its own
// layout, in light and dark; what cannot be drawn is an outline, and that is said.
func TestAKitThatIsAFolderOfTheApplicationIsDrawn(t *testing.T) {
	dir := ownRepository(t, ownKit, "yarrow", "react", "react-dom", "scheduler")
	r, a, said := openedCode(t, dir)
	require.Len(t, said, 2)
	assert.Contains(t, said[0]+said[1], "Chart cannot be drawn: src/ui/chart.tsx:1")
	assert.Contains(t, said[0]+said[1], "something in for __MOST_SEEDS__, which is not known")
	assert.Equal(t, "./src/ui", a.Meta.Name)

	j := beginOn(t, "keeper", server.Options{Database: database.Empty(t), Kit: a, Workspace: r.W, Repositories: map[string]string{"seeds": dir}})
	const look = `(() => {
		const page = (d => d.shadowRoot ?? d)(document.querySelector('body > div'))
		const all = tag => [...page.querySelectorAll(tag)]
		const has = (words, tag) => all(tag).find(e => e.textContent === words)
		const style = (e, name) => e && getComputedStyle(e)[name]
		const press = has('New seed', 'button'), ferns = has('Ferns', 'h2')
		return Object.entries({
			filled: style(press, 'backgroundColor') === 'rgb(20, 90, 40)', small: style(press, 'height') === '32px',
			picture: !!press?.firstElementChild?.matches('svg[data-leaf].size-4'),
			told: style(has('Seeds', 'h1'), 'fontSize') === '24px',
			columns: style(page.querySelector('.grid'), 'gridTemplateColumns')?.split(' ').length === 2,
			bold: style(ferns, 'fontWeight') === '700', condition: style(ferns?.parentElement, 'boxShadow')?.includes('rgb'),
			provided: !!has('Keep them wet', 'em[data-hint]'),
			ofBuild: ferns?.dataset.most === '12', once: all('p').filter(p => p.innerText === 'Nine kinds').length === 1,
			outlined: !!page.querySelector('ui-chart'), broken: !page.querySelector('[data-broken]'),
		}).filter(([, ok]) => !ok).map(([name]) => name).join(' ')
	})()`
	j.run(chromedp.Navigate(j.server.URL + "/bench/screen/seeds"))
	j.untilInFrame("", look)
	const ground = `(() => { for (let e = (d => d.shadowRoot ?? d)(document.querySelector('body > div')).querySelector('.grid'); e; e = e.parentElement ?? e.getRootNode().host) { const c = getComputedStyle(e).backgroundColor; if (c !== 'rgba(0, 0, 0, 0)') return c } })()`
	j.untilInFrame("rgb(250, 250, 245)", ground)
	j.choose("Theme", "dark")
	j.untilInFrame("rgb(10, 20, 10)", ground)

	// A screen of one's own is made of what stands in code, with its classes, and goes back as such code.
	j.run(chromedp.Navigate(j.server.URL + "/bench/screen/seeds"))
	j.click(button("Assemble"))
	j.until(`document.querySelector('[role=dialog]')?.innerText.includes('code sets it apart in the words')`) // all else comes along
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.innerText.trim() === 'Assemble it')`)
	j.until(`location.pathname.endsWith('seeds-assembled')`)
	j.untilInFrame("", look)
	j.fill(`document.querySelector('input[aria-label=class]')`, "p-6 text-moss strangely")
	j.untilInFrame("rgb(20, 90, 40)", `(d => { const e = (d.shadowRoot ?? d).querySelector(".strangely"); return e ? getComputedStyle(e).color : (d.shadowRoot ?? d).innerHTML.slice(-900) })(document.querySelector("body > div"))`)
	j.until(`document.body.innerText.includes('no style of the application speaks of the class strangely')`)

	j.run(chromedp.Navigate(j.server.URL + "/deliver"))
	j.until(`document.querySelector('input[name=into]:checked')?.value === 'seeds'`) // nowhere else
	j.until(`document.body.innerText.includes('2 more were read from code')`)
	j.click(button("Write"))
	made := filepath.Join(dir, "src", "seed-shop", "screens", "SeedsAssembledScreen.tsx")
	require.Eventually(t, func() bool { _, err := os.Stat(made); return err == nil }, 30*time.Second, 50*time.Millisecond)
	code, err := os.ReadFile(made)
	require.NoError(t, err)
	for _, part := range []string{
		"import { Leaf } from 'leaf-icons'\n", `className="p-6 text-moss strangely"`, `<Leaf className="size-4" />`, `<Press look="full">`,
		`<div className="grid grid-cols-2 gap-4">`, `<Sheet className="w-full">`, `<h1 className="text-2xl">`,
	} {
		assert.Contains(t, string(code), part)
	}

	// The kit, one by one.
	j.run(chromedp.Navigate(j.server.URL + "/shelf"))
	j.until(`document.body.innerText.includes('Sheet title') || document.body.innerText.includes('sheet title')`)
}

// The same of an application of Vue, whose settings of classes are a file of code: what is written there
// counts, what would have to be run is said.
func TestAKitOfSingleFilesIsDrawn(t *testing.T) {
	dir := ownRepository(t, map[string]string{
		"package.json":          `{"name":"bed-plan","private":true,"dependencies":{"vue":"^3"}}`,
		"vite.config.js":        "import { fileURLToPath } from 'node:url'\nexport default { resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } }, css: { preprocessorOptions: { scss: { additionalData: '@use \"@/styles/wide\" as *;' } } } }\n",
		"src/styles/_wide.scss": "$gap: 24px;\n@mixin wide { row-gap: $gap; }\n",
		"src/styles/tones.scss": "@forward 'inks';\n",
		"src/styles/_inks.scss": "$ink: rgb(7, 8, 9);\n",
		"src/all.scss":          "@use './styles/tones';\n.bar { @include wide; > section { color: tones.$ink; } }\n",
		"src/out.scss":          "@use '../../secret';\n",
		"src/bad.sass":          ".a\n  color: $lost\n",
		"tailwind.config.js":    "const moss = 'rgb(20 90 40)'\nmodule.exports = { darkMode: 'class', theme: { extend: { colors: { moss, soft: tint(moss) }, spacing: { 18: '72px' } } }, plugins: [require('leaf-shapes')] }\n",
		"src/style.css":         "@tailwind base;\n@tailwind components;\n@tailwind utilities;\n@layer components { .bar { @apply flex gap-4; } }\n",
		"src/main.ts":           "import './style.css'\nimport './all.scss'\nimport './bad.sass'\nimport './out.scss'\nimport { createRouter } from 'vue-router'\nimport Beds from './views/Beds.vue'\nimport NewBed from './views/NewBed.vue'\nexport default createRouter({ routes: [{ path: '/beds', component: Beds }, { path: '/beds/new', component: NewBed }] })\n",
		"src/looks.ts":          "export interface Looks { kind?: 'main' | 'quiet' }\n",
		"src/ui/Press.vue":      "<script setup lang=\"ts\">\nimport type { Looks } from '@/looks'\nwithDefaults(defineProps<Looks & { wide?: boolean }>(), { kind: 'main' })\n</script>\n<template><button :class=\"[kind === 'main' ? 'bg-moss text-white' : 'border', wide && 'w-full', 'h-18']\"><slot /></button></template>\n",
		"src/ui/Panel.vue":      "<script>\nexport default { props: { title: String } }\n</script>\n<template><section class=\"p-4\"><h2>{{ title }}</h2><slot /><footer v-if=\"$slots.foot\"><slot name=\"foot\" /></footer></section></template>\n<style scoped>\nfooter { text-align: right }\n</style>\n<style lang=\"scss\">\n@use '@/styles/tones' as t;\nh2 { @include wide; letter-spacing: $gap; background: t.$ink }\n</style>\n<style lang=\"less\">\n@a: red;\n</style>\n",
		"src/views/Beds.vue":    "<script setup>\nimport Press from '@/ui/Press.vue'\nimport Panel from '@/ui/Panel.vue'\n</script>\n<template><div class=\"bar\"><Panel title=\"North\"><p>Fern</p><template #foot><Press kind=\"quiet\">Open</Press></template></Panel><Panel title=\"South\"><Press>Sow</Press></Panel></div></template>\n",
		"src/views/NewBed.vue":  "<script setup>\nimport Press from '@/ui/Press.vue'\nimport Panel from '@/ui/Panel.vue'\n</script>\n<template><Panel title=\"New bed\"><Press wide>Keep</Press></Panel></template>\n",
	}, "tansy", "vue", "@vue")
	require.NoError(t, os.WriteFile(filepath.Join(filepath.Dir(dir), "_secret.scss"), []byte(".secret { color: red }"), 0o600))
	r, a, said := openedCode(t, dir)
	assert.NotContains(t, string(a.Files[pack.SheetFile]), "secret", "nothing out of the repository is read")
	assert.Equal(t, []string{
		"src/bad.sass is not drawn with: Undefined variable (bad.sass:2): its classes look like nothing here",
		"src/out.scss is not drawn with: Can't find stylesheet to import (out.scss:1): its classes look like nothing here",
		"src/style.css: tailwind.config.js:2: \"leaf-shapes\" is code, and is not run: what it gives is left out of what is drawn",
		"src/style.css: tailwind.config.js:2: tint() is code, and is not run: what it gives is left out of what is drawn",
		"src/ui/Panel.vue: its styles are written in less: they are left out of what is drawn",
	}, said)
	j := beginOn(t, "keeper", server.Options{Database: database.Empty(t), Kit: a, Workspace: r.W})
	j.run(chromedp.Navigate(j.server.URL + "/bench/screen/beds"))
	j.untilInFrame("", `(() => {
		const page = (d => d.shadowRoot ?? d)(document.querySelector('body > div'))
		const has = (words, tag) => [...page.querySelectorAll(tag)].find(e => e.textContent === words)
		const style = (e, name) => e && getComputedStyle(e)[name]
		return Object.entries({
			bar: style(page.querySelector('.bar'), 'columnGap') === '16px', sass: style(page.querySelector('.bar'), 'rowGap') === '24px',
			parts: style(page.querySelector('.bar > section'), 'color') === 'rgb(7, 8, 9)', inFile: style(has('North', 'h2'), 'letterSpacing') === '24px',
			forwarded: style(has('North', 'h2'), 'backgroundColor') === 'rgb(7, 8, 9)', told: !!has('North', 'h2'),
			main: style(has('Sow', 'button'), 'backgroundColor') === 'rgb(20, 90, 40)', high: style(has('Sow', 'button'), 'height') === '72px',
			quiet: style(has('Open', 'button'), 'borderTopWidth') === '1px', line: style(has('Open', 'button'), 'borderTopColor').includes('oklch'),
			scoped: style(has('Open', 'button')?.parentElement, 'textAlign') === 'right',
		}).filter(([, ok]) => !ok).map(([name]) => name).join(' ')
	})()`)
}

// Libraries whose elements nobody imports are drawn as those that code imports are: the one that is used
// most, and the others beside it.
func TestLibrariesThatNoFileImportsAreDrawn(t *testing.T) {
	library := func(name string, tags ...string) map[string]string {
		var js, says strings.Builder
		for i, tag := range tags {
			class := fmt.Sprintf("C%d", i)
			fmt.Fprintf(&js, "export class %s extends HTMLElement { connectedCallback() { this.attachShadow({ mode: 'open' }).innerHTML = '<slot></slot>' } }\ncustomElements.define('%s', %[1]s)\n", class, tag)
			fmt.Fprintf(&says, `{"kind":"class","name":%q,"tagName":%q,"customElement":true,"slots":[{"name":""}],"attributes":[{"name":"look","type":{"text":"'plain' | 'full'"}}]},`, class, tag)
		}
		return map[string]string{
			"package.json":         fmt.Sprintf(`{"name":%q,"version":"1.0.0","module":"index.js","customElements":"custom-elements.json"}`, name),
			"index.js":             js.String(),
			"custom-elements.json": `{"schemaVersion":"1.0.0","modules":[{"kind":"javascript-module","path":"index.js","declarations":[` + strings.TrimSuffix(says.String(), ",") + `]}]}`,
		}
	}
	files := map[string]string{
		"package.json":    `{"name":"pond","private":true,"dependencies":{"@acme/reed":"1.0.0","@acme/rush":"1.0.0"}}`,
		"index.html":      "<!doctype html><html><head><title>Pond</title><link rel=\"stylesheet\" href=\"looks/pond.css?v=2\"><link rel=stylesheet href=/wide.css><link rel=\"icon\" href=\"pond.css\"><link rel=\"stylesheet\" href=\"https://example.test/far.css\"><link rel=\"stylesheet\" href=\"gone.css\"></head><body><reed-card><reed-press look=\"full\">Fill</reed-press><reed-press>Drain</reed-press><rush-meter look=\"plain\">3 m</rush-meter></reed-card></body></html>",
		"looks/pond.css":  ".pond { color: green }",
		"public/wide.css": ".wide { width: 90% }",
	}
	for name, of := range map[string]map[string]string{"@acme/rush": library("@acme/rush", "rush-meter", "rush-dial"), "@acme/reed": library("@acme/reed", "reed-press", "reed-card", "reed-list")} {
		for file, text := range of {
			files["node_modules/"+name+"/"+file] = text
		}
	}
	r, a, said := openedCode(t, ownRepository(t, files, "sorrel"))
	assert.Equal(t, []string{"index.html asks for the style sheet ./gone.css, which is not there: it is drawn without"}, said)
	for _, class := range []string{".pond", ".wide"} {
		assert.Contains(t, string(a.Files[pack.SheetFile]), class)
	}
	assert.Equal(t, "@acme/reed", a.Meta.Name)
	require.Len(t, a.Parts, 1)
	assert.Equal(t, "@acme/rush", a.Parts[0].Meta.Name)
	assert.Equal(t, []string{"rush-dial", "rush-meter"}, a.Parts[0].Use.Components)
	k, err := a.Kit()
	require.NoError(t, err)
	assert.Empty(t, r.On(k), "all that the screens use can be drawn")
}

// A library that is installed is drawn with the styles of the application around it, which are no part of
// what is known of the library; a sheet that cannot be found takes none of the others along.
func TestALibraryIsDrawnWithTheStylesOfItsApplication(t *testing.T) {
	page := "import { Panel, Press } from '@acme/plum'\nexport const %s = () => <div className=\"grid gap-4\"><Panel><Press>Go</Press><Press>On</Press></Panel><Panel /></div>\n"
	r, a, said := openedCode(t, ownRepository(t, map[string]string{
		"package.json":                         `{"name":"plums","private":true,"dependencies":{"@acme/plum":"1.0.0"}}`,
		"src/main.tsx":                         "import './index.css'\nimport './lost.css'\nimport { createBrowserRouter } from 'react-router'\nimport { One } from './one'\nimport { Two } from './two'\nexport default createBrowserRouter([{ path: '/one', element: <One /> }, { path: '/two', element: <Two /> }])\n",
		"src/index.css":                        "@import \"tailwindcss\";\n@import \"./lines.css\";\n:root { --app-line: rgb(1, 2, 3); }\n",
		"src/lines.css":                        ".line { border: 1px solid var(--app-line); }\n",
		"src/one.tsx":                          fmt.Sprintf(page, "One"),
		"src/two.tsx":                          fmt.Sprintf(page, "Two"),
		"node_modules/@acme/plum/package.json": `{"name":"@acme/plum","version":"1.0.0","main":"index.js","types":"index.d.ts","style":"plum.css","peerDependencies":{"react":"*"}}`,
		"node_modules/@acme/plum/index.js":     "import { createElement as h } from 'react'\nexport const Press = p => h('button', { className: 'plum-press', ...p })\nexport const Panel = p => h('section', p)\n",
		"node_modules/@acme/plum/index.d.ts":   "import * as React from 'react'\nexport declare const Press: React.FC<{ children?: React.ReactNode }>\nexport declare const Panel: React.FC<{ children?: React.ReactNode }>\n",
		"node_modules/@acme/plum/plum.css":     ":root { --plum-ink: rgb(9, 9, 9); }\n.plum-press { color: var(--plum-ink) }\n",
	}, "yarrow", "react", "react-dom", "scheduler", "@types", "csstype"))
	assert.Equal(t, []string{"src/main.tsx asks for the style sheet ./lost.css, which is not there: it is drawn without"}, said)
	assert.Equal(t, "@acme/plum", a.Meta.Name)
	sheet := string(a.Files[pack.SheetFile])
	for _, has := range []string{".plum-press", ".gap-4", ".line", "--app-line"} {
		assert.Contains(t, sheet, has)
	}
	k, err := a.Kit()
	require.NoError(t, err)
	var tokens []string
	for _, tok := range k.Tokens.List {
		tokens = append(tokens, tok.CSS)
	}
	assert.Contains(t, tokens, "--plum-ink")
	assert.NotContains(t, tokens, "--app-line")
	d, ok := r.W.Doc("screen:one")
	require.True(t, ok)
	assert.Equal(t, "grid gap-4", d.Root.Origin.Look)
}
