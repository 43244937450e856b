package intake_test

import (
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
	"ubiquant/core/usage"
	"ubiquant/internal/testkit"
	"ubiquant/server/assets"
	"ubiquant/server/intake"
)

const plum = "node_modules/@acme/plum-day/"

// packed packs a library of one component with Vue beside it, and gives its kit and its one component.
func packed(t *testing.T, files map[string]string) (*kit.Kit, *kit.Component, []string) {
	t.Helper()
	return packedBeside(t, "tansy", "vue", files)
}

// packedBeside is packed with what one of our own kits has installed.
func packedBeside(t *testing.T, of, drawn string, files map[string]string) (*kit.Kit, *kit.Component, []string) {
	t.Helper()
	a := archiveBeside(t, of, files)
	k, err := a.Kit()
	require.NoError(t, err)
	require.Len(t, k.Components, 1)
	assert.Equal(t, drawn, a.Meta.Drawn)
	return k, k.Components[0], a.Meta.Notes
}

// archiveBeside packs a library with what one of our own kits has installed.
func archiveBeside(t *testing.T, of string, files map[string]string) *pack.Archive {
	t.Helper()
	reader, err := assets.Reader()
	if err != nil {
		t.Skip("the reader of declarations was not built")
	}
	installed := filepath.Join(testkit.Root(), "kits", of, "node_modules")
	dir := folder(t, files)
	names, err := os.ReadDir(installed)
	if err != nil {
		t.Skip("the framework is not installed")
	}
	for _, n := range names {
		if n.Name() != "@acme" {
			require.NoError(t, os.Symlink(filepath.Join(installed, n.Name()), filepath.Join(dir, "node_modules", n.Name())))
		}
	}
	return run(t, intake.Options{Dir: dir, Package: "@acme/plum-day", Reader: reader})
}

// What React makes of a component is marked, whatever it is said to give; what hands on a context draws
// nothing; what may be an element is a place, whatever else may stand there; and where one takes a
// theme that the library gives for light and for dark, it stands around everything.
func TestComponentsThatReactMakes(t *testing.T) {
	a := archiveBeside(t, "yarrow", map[string]string{
		plum + "package.json": `{"name":"@acme/plum-day","version":"1.2.0","main":"dist/day.js","types":"dist/day.d.ts","peerDependencies":{"react":"*"}}`,
		plum + "dist/day.js": `import { createElement, createContext } from "react"
export const Day = p => createElement("div", p)
export const GroundProvider = p => createElement("div", p)
export const DayProvider = createContext().Provider
export const quietLightTheme = {}, quietDarkTheme = {}, dayLightTheme = {}, dayDarkTheme = {}, createDarkTheme = () => 1`,
		plum + "dist/day.d.ts": `import * as React from 'react'
interface Made<P> { (props: P): any; $$typeof: symbol }
type Place = string | number | React.ReactElement | { as?: 'span' } | null
export declare const Day: Made<{ size?: 'small' | 'large'; icon?: Place; label?: Place }>
export declare const DayProvider: React.Provider<{ day: string }>
export interface Theme { ink: string }
export declare const GroundProvider: Made<{ theme?: Theme; children?: React.ReactNode }>
export declare const quietLightTheme: Theme, quietDarkTheme: Theme, dayLightTheme: Theme, dayDarkTheme: Theme
export declare function createDarkTheme(): Theme
`,
	})
	exports := []string{}
	for _, e := range a.Catalog.Entries {
		exports = append(exports, e.Export)
	}
	assert.ElementsMatch(t, []string{"Day", "GroundProvider"}, exports)
	day, ok := a.Catalog.Find("plumday-day")
	require.True(t, ok, "%v", a.Catalog.Entries)
	size, _ := day.Prop("size")
	assert.Equal(t, []string{"small", "large"}, size.Values)
	slots := []string{}
	for _, s := range day.Slots {
		slots = append(slots, s.Name)
	}
	assert.Subset(t, slots, []string{"icon", "label"})
	_, words := day.Prop("label")
	assert.True(t, words, "words may stand there, too")
	assert.Equal(t, "GroundProvider", a.Meta.Wrap)
	require.NotNil(t, a.Meta.WrapTheme)
	assert.Equal(t, pack.WrapTheme{Prop: "theme", Light: "dayLightTheme", Dark: "dayDarkTheme"}, *a.Meta.WrapTheme)
}

// A function is a component by what it takes, where its declaration does not say what it gives; what is
// called as components are and draws nothing is told; and what is declared by the names that React's
// declarations had for everybody before is read with newer ones.
func TestComponentsThatMayGiveAnything(t *testing.T) {
	a := archiveBeside(t, "yarrow", map[string]string{
		plum + "package.json": `{"name":"@acme/plum-day","version":"1.2.0","main":"dist/day.js","types":"dist/day.d.ts","peerDependencies":{"react":"*"}}`,
		plum + "dist/day.js": `import { createElement } from "react"
export const Day = p => createElement("div", p), Week = Day, Chip = Day, Field = Day
export class Ledger {}
export const Sum = (a, b) => a + b`,
		plum + "dist/day.d.ts": `import * as React from 'react'
interface Becomes<T extends React.ElementType, P> {
  <As extends React.ElementType = T>(props: Omit<React.ComponentProps<As>, keyof P> & P & { as?: As }, context?: any): any
  displayName?: string
}
export declare const Day: Becomes<'button', { tone?: 'calm' | 'loud'; children?: React.ReactNode }> & Record<string, never>
export declare const Field: Becomes<'input', { size?: 'small' | 'large' }>
export declare const Week: (props: { className?: string; days?: number }) => any
export declare function Chip(props: { mark?: React.ElementType | JSX.Element | null | false; children?: React.ReactNode }): JSX.Element
export declare class Ledger { total: number }
export declare function Sum(a: number, b: number): any
`,
	})
	exports := []string{}
	for _, e := range a.Catalog.Entries {
		exports = append(exports, e.Export)
	}
	require.ElementsMatch(t, []string{"Day", "Week", "Chip", "Field"}, exports)
	day, _ := a.Catalog.Find("plumday-day")
	tone, _ := day.Prop("tone")
	assert.Equal(t, []string{"calm", "loud"}, tone.Values)
	field, _ := a.Catalog.Find("plumday-field")
	assert.Empty(t, field.Slots, "nothing stands in a field")
	chip, _ := a.Catalog.Find("plumday-chip")
	assert.True(t, slices.ContainsFunc(chip.Slots, func(s describe.Slot) bool { return s.Name == "mark" }), "%v", chip)
	assert.True(t, slices.ContainsFunc(a.Catalog.Left, func(l describe.Left) bool {
		return strings.Contains(l.What, "2 names") && strings.Contains(l.What, "Sum, Ledger")
	}), "%v", a.Catalog.Left)
}

// What a declaration picks of the page, and is not there, is nothing that must be set; and a yes or
// no that is a measure as well says so, whatever its type is called.
func TestWhatADeclarationPicksOfThePage(t *testing.T) {
	_, c, _ := packedBeside(t, "yarrow", "react", map[string]string{
		plum + "package.json": `{"name":"@acme/plum-day","version":"1.2.0","main":"dist/day.js","types":"dist/day.d.ts","peerDependencies":{"react":"*"}}`,
		plum + "dist/day.js":  `import { createElement } from "react"; export const Column = p => createElement("div", p)`,
		plum + "dist/day.d.ts": `import * as React from 'react'
type Width = boolean | number | 'auto'
interface Own { wide?: Width; name: string; quiet: boolean }
type All = Own & React.RefAttributes<HTMLElement> & { placeholder: any; onPointerEnterCapture: any }
export declare const Column: React.ForwardRefExoticComponent<Pick<All, 'wide' | 'name' | 'quiet' | 'placeholder' | 'onPointerEnterCapture'>>
`,
	})
	props := propsOf(c)
	assert.True(t, props["name"].Required)
	assert.True(t, props["quiet"].Required)
	assert.False(t, props["placeholder"].Required)
	assert.NotContains(t, props, "onPointerEnterCapture")
	wide, quiet := props["wide"], props["quiet"]
	assert.Contains(t, wide.Shape, "number")
	assert.False(t, usage.Tracked(&wide), "its width is a measure, no habit")
	assert.True(t, usage.Tracked(&quiet))
}

func propsOf(c *kit.Component) map[string]kit.Prop {
	out := map[string]kit.Prop{}
	for _, p := range c.Props {
		out[p.Name] = p
	}
	return out
}

// A package that says nowhere what it is for is what its code imports; without declarations its
// component tells of itself: by mixins, merged objects and wrappers as builds write them. What a module
// gives without a name is called after it.
func TestAComponentThatOnlyItsCodeTellsOf(t *testing.T) {
	_, c, notes := packed(t, map[string]string{
		plum + "package.json": `{"name":"@acme/plum-day","version":"1.2.0","main":"dist/day.mjs"}`,
		plum + "dist/day.mjs": `import { h } from "vue"
const merged = (a, b) => Object.assign(a, b)
const usual = { size: { type: String, default: "roomy" }, weeks: Number, inline: { type: Boolean } }
const mixin = { props: { label: { type: [String, Number], required: true } } }
const main = {
  name: "Day",
  mixins: [mixin],
  props: merged(merged({}, usual), { marks: { type: Array }, pick: { type: Function }, ...{ open: { default: true } } }),
  emits: ["update:value", "open"],
  setup() { return () => h("i") },
}
const wrapped = (it, more) => { for (const [k, v] of more) it[k] = v; return it }
const Day = /* @__PURE__ */ wrapped(main, [["__scopeId", "x"]])
export { Day as default }
`,
	})
	assert.Equal(t, "PlumDay", c.Export)
	assert.True(t, c.Default)
	props := propsOf(c)
	assert.Len(t, props, 6, "a function is code's own")
	assert.Equal(t, "roomy", props["size"].Default)
	assert.Equal(t, kit.Number, props["weeks"].Type)
	assert.Equal(t, kit.Bool, props["inline"].Type)
	assert.Equal(t, kit.Bool, props["open"].Type)
	assert.True(t, props["label"].Required)
	assert.True(t, props["marks"].JSON)
	events := []string{}
	for _, e := range c.Events {
		events = append(events, e.Name)
	}
	assert.Contains(t, events, "update:value")
	assert.Contains(t, notes, "no declaration tells of its components: what they say of themselves in code was read")
}

// Where declarations give a component without a name, it is read from them.
func TestAComponentThatADeclarationGivesWithoutAName(t *testing.T) {
	_, c, notes := packed(t, map[string]string{
		plum + "package.json": `{"name":"@acme/plum-day","version":"1.2.0","main":"dist/day.mjs","types":"index.d.ts","peerDependencies":{"vue":"^3"}}`,
		plum + "dist/day.mjs": `import { h } from "vue"; export default { setup: () => () => h("i") }`,
		plum + "index.d.ts":   `import type { DefineComponent } from "vue"; declare const _default: DefineComponent<{ size?: "roomy" | "snug" }>; export default _default;`,
	})
	assert.Equal(t, "PlumDay", c.Export)
	assert.True(t, c.Default)
	assert.Equal(t, []string{"roomy", "snug"}, propsOf(c)["size"].Values)
	for _, n := range notes {
		assert.NotContains(t, n, "no declaration")
	}
}

// Where a declaration of Vue leaves open what stands in a component, its code says it: beside the
// declaration, or where that hands it on from.
func TestPlacesThatADeclarationLeavesOpenAreReadFromCode(t *testing.T) {
	made := func(open string) string {
		return `declare const it: { new (): { $props: { size?: "roomy" | "snug" }; $slots: ` + open + ` } }; export default it`
	}
	const open = `Readonly<{ [name: string]: ((...args: any[]) => any) | undefined }>`
	files := map[string]string{
		plum + "package.json":         `{"name":"@acme/plum-day","version":"1.2.0","module":"es/index.js","types":"es/index.d.ts","peerDependencies":{"vue":"^3"}}`,
		plum + "es/index.js":          `export { default as Button } from './button/index.js'; export { default as Title } from './title.js'; export { default as Dial } from './dial.js'; export { default as Note } from './note.js'; export { default as Step } from './parts/Step.js'`,
		plum + "es/index.d.ts":        `export { default as Button } from './button'; export { default as Title } from './title'; export { default as Dial } from './dial'; export { default as Note } from './note'; export { default as Step } from '../types/step'`,
		plum + "es/button/index.js":   `import { wide } from '../_lib/slots.js'; import _Button from './button.js'; export { _Button as default }`,
		plum + "es/button/index.d.ts": made(open),
		plum + "es/button/button.js":  `import { renderSlot, h } from 'vue'; export default { render: _ctx => h('button', [_ctx.$slots.icon ? renderSlot(_ctx.$slots, "icon") : '', renderSlot(_ctx.$slots, "default")]) }`,
		plum + "es/_lib/slots.js":     `export const wide = 1`,
		plum + "es/title.js":          `import { createVNode } from 'vue'; import Base from './base.js'; export default { setup: (props, { slots }) => () => createVNode(Base, props, slots) }`,
		plum + "es/title.d.ts":        made(open),
		plum + "es/base.js":           `export default { setup: (props, { slots }) => () => slots.default?.() }`,
		plum + "es/dial.js":           `import { h } from 'vue'; export default { setup: (props, { slots }) => () => h('i', slots.mark?.()) }`,
		plum + "es/dial.d.ts":         made(open),
		plum + "es/note.js":           `import { h } from 'vue'; export default { setup: (props, { slots }) => () => h('p', slots.default?.()) }`,
		plum + "es/note.d.ts":         made(`{ aside?: () => any }`),
		plum + "types/step.d.ts":      made(open),
		plum + "es/parts/Step.js":     `import { h } from 'vue'; const renderContent = n => n; export default { setup: () => () => h('p', renderContent("default", "content")) }`,
	}
	a := archiveBeside(t, "tansy", files)
	got := map[string][]string{}
	for _, e := range a.Catalog.Entries {
		for _, s := range e.Slots {
			got[e.Export] = append(got[e.Export], s.Name)
		}
	}
	assert.Equal(t, map[string][]string{"Button": {"", "icon"}, "Title": {""}, "Dial": {"mark"}, "Note": {"aside"}, "Step": {""}}, got)
}

// Components of Vue are declared as classes too, as Vue had it before: what their fields say is set,
// what is called is not.
func TestComponentsThatAreDeclaredAsClasses(t *testing.T) {
	_, c, _ := packed(t, map[string]string{
		plum + "package.json": `{"name":"@acme/plum-day","version":"1.2.0","main":"day.js","types":"day.d.ts","peerDependencies":{"vue":"*"}}`,
		plum + "day.js":       `export const PlumDay = { name: 'PlumDay', props: { size: { type: String, default: 'snug' } }, render: () => null }`,
		plum + "day.d.ts": `declare class Base { $props: Record<string, any>; $slots: { [name: string]: any }; $emit: (name: string) => void }
export declare class PlumDay extends Base { size: 'snug' | 'roomy'; label: string; plain: boolean; focus(): void; static install(app: any): void }
export {}`,
	})
	assert.Equal(t, []string{"label", "plain", "size"}, slices.Sorted(maps.Keys(propsOf(c))))
	size := propsOf(c)["size"]
	assert.Equal(t, []string{"snug", "roomy"}, size.Values)
	assert.Equal(t, "snug", size.Default)
	assert.False(t, size.Required)
}

// Elements that a call registers are registered by it, in the frame and in an application.
func TestElementsThatACallRegisters(t *testing.T) {
	files := map[string]string{
		orchard + "package.json":            `{"name":"@acme/orchard","version":"2.1.0","main":"dist/index.js","customElements":"elements.json","dependencies":{"@stencil/core":"^4"}}`,
		orchard + "dist/index.js":           `export {}`,
		orchard + "elements.json":           `{"modules":[{"path":"src/chip.tsx","declarations":[{"tagName":"ac-chip","customElement":true,"name":"Chip"}]}]}`,
		orchard + "custom-element/index.js": `class Chip extends HTMLElement { static is = 'ac-chip' }; const defineCustomElements = () => [Chip].forEach(c => customElements.define(c.is, c)); export { Chip, defineCustomElements }`,
	}
	a := run(t, intake.Options{Dir: folder(t, files), Package: "@acme/orchard"})
	assert.Empty(t, a.Meta.Missing)
	assert.Contains(t, string(a.Files["kit.js"]), "defineCustomElements")
	assert.Equal(t, []string{"import { defineCustomElements } from '@acme/orchard/custom-element/index.js'", "defineCustomElements()"}, a.Meta.Setup)
	// Without such a module what lacks is told.
	delete(files, orchard+"custom-element/index.js")
	a = run(t, intake.Options{Dir: folder(t, files), Package: "@acme/orchard"})
	require.Len(t, a.Meta.Missing, 1)
	assert.Contains(t, a.Meta.Missing[0].What, "<ac-chip>")
}

// Elements that only their declarations and code tell of: events stand in the maps that listeners
// take names from, places in remarks at the class and in what it draws. What the page gives every
// element is not theirs.
func TestElementsTellEventsAndPlaces(t *testing.T) {
	reader, err := assets.Reader()
	require.NoError(t, err)
	files := map[string]string{
		orchard + "package.json": `{"name":"@acme/orchard","version":"2.1.0","main":"dist/index.js","types":"dist/index.d.ts"}`,
		orchard + "dist/index.js": `import './plate.js'
import './cup.js'
`,
		orchard + "dist/plate.js": `/**
 * @slot default - What lies on it.
 * @slot rim
 */
class Plate extends HTMLElement {
  render() { return h('div', null, h('slot', { key: 'x' }), h('slot', { name: 'foot' }), h('slot', { name: this.own })) }
}
customElements.define('ac-plate', Plate)
export { Plate }`,
		orchard + "dist/cup.js": `class Cup extends HTMLElement {
  render() { return html` + "`<p><slot name=\"handle\"></slot>${this.more}<slot></slot></p>`" + ` }
}
customElements.define('ac-cup', Cup)
export { Cup }`,
		orchard + "dist/index.d.ts": `
interface PlateEventMap {
  /** It was emptied. */
  emptied: void
  'plate-turned': number
}
export interface PlateElement extends HTMLElement {
  size: 's' | 'm'
  '@eventTypes': PlateEventMap
  addEventListener<K extends keyof PlateEventMap>(type: K, listener: (ev: CustomEvent<PlateEventMap[K]>) => void): void
  addEventListener<K extends keyof HTMLElementEventMap>(type: K, listener: (ev: HTMLElementEventMap[K]) => void): void
  addEventListener(type: string, listener: EventListener): void
}
export interface CupElement extends HTMLElement { full: boolean }
declare global {
  interface HTMLElementTagNameMap { 'ac-plate': PlateElement; 'ac-cup': CupElement }
}`,
	}
	a := run(t, intake.Options{Dir: folder(t, files), Package: "@acme/orchard", Reader: reader, Drawn: "elements"})
	plate, ok := a.Catalog.Find("ac-plate")
	require.True(t, ok)
	var events, places []string
	for _, e := range plate.Events {
		events = append(events, e.Name+": "+e.Summary)
	}
	assert.ElementsMatch(t, []string{"emptied: It was emptied.", "plate-turned: "}, events)
	for _, s := range plate.Slots {
		places = append(places, s.Name+": "+s.Summary)
	}
	assert.ElementsMatch(t, []string{": What lies on it.", "rim: ", "foot: "}, places)
	cup, ok := a.Catalog.Find("ac-cup")
	require.True(t, ok)
	assert.Empty(t, cup.Events)
	require.Len(t, cup.Slots, 2)
	assert.ElementsMatch(t, []string{"handle", ""}, []string{cup.Slots[0].Name, cup.Slots[1].Name})
	for _, l := range a.Catalog.Left {
		assert.NotContains(t, l.What, "@eventTypes")
	}
	size, ok := plate.Prop("size")
	require.True(t, ok)
	assert.False(t, size.Required, "it has one of itself")
}

// Main sheets are called like their package in many ways; themes apart go in pairs; a single sheet
// needs no name; and the look that a library asks for is its own.
func TestSheetsAreFoundByMoreNames(t *testing.T) {
	const sheet = `:root{--ac-ink:#111}`
	for name, c := range map[string]struct {
		files  map[string]string
		styles []string
	}{
		"scope and name":  {map[string]string{orchard + "dist/acme-orchard.css": sheet, orchard + "dist/acme-orchard-core.css": sheet}, []string{"@acme/orchard/dist/acme-orchard.css"}},
		"a pair":          {map[string]string{orchard + "theme/classic-light.css": sheet, orchard + "theme/classic-dark.css": `[data-m=dark]{--a:1px;--b:2px;--c:3px}`, orchard + "theme/other-dark.css": sheet}, []string{"@acme/orchard/theme/classic-light.css", "@acme/orchard/theme/classic-dark.css"}},
		"the only one":    {map[string]string{orchard + "dist/tokens/values.css": sheet}, []string{"@acme/orchard/dist/tokens/values.css"}},
		"two that differ": {map[string]string{orchard + "dist/a.css": sheet, orchard + "dist/b.css": sheet}, nil},
		"what it asks for": {map[string]string{
			"node_modules/@acme/acme/package.json": `{"name":"@acme/acme","version":"1.0.0","style":"all.css"}`, "node_modules/@acme/acme/all.css": sheet,
			orchard + "package.json": `{"name":"@acme/vue","version":"2.1.0","main":"index.js","customElements":"c.json","dependencies":{"@acme/acme":"1"}}`,
		}, []string{"@acme/acme/all.css"}},
	} {
		files := map[string]string{
			"package.json":           `{}`,
			orchard + "package.json": `{"name":"@acme/orchard","version":"2.1.0","main":"index.js","customElements":"c.json"}`,
			orchard + "index.js":     `customElements.define('ac-chip', class extends HTMLElement {})`,
			orchard + "c.json":       `{"modules":[{"path":"index.js","declarations":[{"tagName":"ac-chip","name":"Chip"}]}]}`,
		}
		maps.Copy(files, c.files)
		if name == "what it asks for" {
			for _, file := range []string{"package.json", "index.js", "c.json"} {
				files["node_modules/@acme/vue/"+file] = files[orchard+file]
				delete(files, orchard+file)
			}
		}
		pkg := map[bool]string{true: "@acme/vue", false: "@acme/orchard"}[name == "what it asks for"]
		a := run(t, intake.Options{Dir: folder(t, files), Package: pkg})
		assert.Equal(t, c.styles, a.Meta.Styles, name)
	}
}

// Where declarations take longer than there is time, what was read by then is told, and the rest by name.
func TestWhatThereIsNoTimeForIsKnownByName(t *testing.T) {
	reader, err := assets.Reader()
	require.NoError(t, err)
	dir := folder(t, map[string]string{
		"reader.cjs": string(reader),
		"node_modules/@acme/orchard/package.json": `{"name":"@acme/orchard","version":"1.0.0","types":"i.d.ts"}`,
		"node_modules/@acme/orchard/i.d.ts": `export interface ReactElement { type: string }
export declare function Chip(p: { tone: 'calm' | 'loud' }): ReactElement
export declare const paint: () => void`,
	})
	for seconds, says := range map[string]string{
		"0.001": `"components":[{"export":"Chip","class":"Chip","props":[],`,
		"60":    `"values":["calm","loud"]`,
	} {
		cmd := exec.Command("node", filepath.Join(dir, "reader.cjs"))
		cmd.Stdin = strings.NewReader(`{"dir":"` + dir + `","package":"@acme/orchard","drawn":"react","specs":["@acme/orchard"],"seconds":` + seconds + `}`)
		out, err := cmd.Output()
		require.NoError(t, err)
		assert.Contains(t, string(out), says)
		assert.Equal(t, seconds == "0.001", strings.Contains(string(out), "1 components are known by their names alone"), string(out))
	}
}

// What a component cannot be without stands around everything: its own provider, where there is no
// other and it needs nothing.
func TestAProviderOfOneComponentStandsAroundAll(t *testing.T) {
	a := archiveBeside(t, "yarrow", map[string]string{
		plum + "package.json": `{"name":"@acme/plum-day","version":"1.0.0","type":"module","main":"i.js","types":"i.d.ts","peerDependencies":{"react":">=18"}}`,
		plum + "i.js":         `export const Hint = p => null, HintProvider = p => p.children, WordsProvider = p => p.children`,
		plum + "i.d.ts": `import * as React from 'react'
export declare const Hint: (p: { text?: string }) => React.ReactElement
export declare const HintProvider: (p: { delay?: number; children?: React.ReactNode }) => React.ReactElement
export declare const WordsProvider: (p: { words: object; children?: React.ReactNode }) => React.ReactElement`,
	})
	assert.Equal(t, "HintProvider", a.Meta.Wrap)
}

// A provider that cannot do without what the library itself gives is handed that; what says in code
// how a page is made dark is read where no sheet says it.
func TestAProviderIsHandedWhatTheLibraryGives(t *testing.T) {
	a := archiveBeside(t, "yarrow", map[string]string{
		plum + "package.json": `{"name":"@acme/plum-day","version":"1.0.0","type":"module","main":"i.js","types":"i.d.ts","peerDependencies":{"react":">=18"}}`,
		plum + "i.js": `import { createElement as h } from 'react'
export const PlumDayProvider = ({ value, children }) => h('div', { 'data-day': value.name }, children)
export const Chip = ({ children }) => h('b', null, children)
export const defaultDay = { name: 'plain', rules: { night: '.dark &, .dark .plum:not(.light) &' } }, a = defaultDay, quiet = 3
export const makeDay = () => defaultDay`,
		plum + "i.d.ts": `import * as React from 'react'
export interface Day { name: string; rules: Record<string, string>; length?: number }
export declare const PlumDayProvider: (p: { value: Day; children?: React.ReactNode }) => React.ReactElement
export declare const Chip: (p: { children?: React.ReactNode }) => React.ReactElement
export declare const defaultDay: Day, a: Day, quiet: number
export declare const makeDay: () => Day`,
	})
	assert.Equal(t, "PlumDayProvider", a.Meta.Wrap)
	require.NotNil(t, a.Meta.WrapTheme)
	assert.Equal(t, pack.WrapTheme{Prop: "value", Light: "defaultDay", Dark: "defaultDay"}, *a.Meta.WrapTheme)
	assert.Contains(t, a.Meta.Notes, "PlumDayProvider stands around everything; its value is defaultDay")
	assert.Equal(t, pack.Themes{Dark: "class=dark", How: "selectors in its code"}, a.Meta.Themes)
}
