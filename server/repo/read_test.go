package repo_test

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/server/repo"
)

func texts(files map[string]string) map[string][]byte {
	out := map[string][]byte{}
	for name, text := range files {
		out[name] = []byte(text)
	}
	return out
}

// lines writes a tree as lines, the way a person would tell it.
func lines(e *screen.Element, depth int) string {
	var b strings.Builder
	b.WriteString(strings.Repeat("  ", depth) + e.Type)
	if e.Slot != "" {
		b.WriteString(" in " + e.Slot)
	}
	for _, p := range e.Props {
		b.WriteString(" " + p.Name + "=" + p.Value.Fixed())
	}
	if e.Text.Kind != screen.None {
		b.WriteString(" | " + e.Text.Fixed())
	}
	if e.Spread {
		b.WriteString(" …")
	}
	if e.Show != "" {
		b.WriteString(" if " + e.Show)
	}
	if e.Repeat != nil {
		b.WriteString(" for " + e.Repeat.Model)
	}
	b.WriteString("\n")
	for _, c := range e.Children {
		b.WriteString(lines(c, depth+1))
	}
	return b.String()
}

func told(r *repo.Repository, address string) string {
	d, ok := r.W.Doc(address)
	if !ok {
		return "(not there)"
	}
	return lines(d.Root, 0)
}

const kitted = `{"name":"garden","dependencies":{"@acme/kit":"1"}}`

func TestNamesAreFollowedToWhatTheyMean(t *testing.T) {
	r := read(t, put(t, texts(map[string]string{
		"package.json":  kitted,
		"tsconfig.json": `{"compilerOptions": {"baseUrl": ".", /* by custom */ "paths": {"#/*": ["src/*"]},}}`,
		"src/routes.tsx": `import { lazy } from 'react'
import { Frame } from './Frame'
const Beds = lazy(() => import('./screens/Beds'))
export const router = createBrowserRouter([
  { path: '/', element: <Frame />, children: [
    { path: 'beds', element: <Guard><Beds /></Guard> },
    { path: 'beds/:id', lazy: () => import('./screens/Bed') },
    { path: 'admin', children: adminRoutes },
  ] },
])
const adminRoutes = [{ path: 'users', Component: Users }]
import { Users } from '#/screens/admin'
`,
		"src/Frame.tsx": `import { Bar } from '@acme/kit'
export const Frame = () => <div><Bar title="Garden" /><Outlet /></div>`,
		"src/screens/admin/index.ts": `export { UsersPage as Users } from './UsersPage'`,
		"src/screens/admin/UsersPage.tsx": `import * as Kit from '@acme/kit'
import { Tabs } from '@acme/kit'
export function UsersPage() { return <Tabs.List size="small"><Kit.Button>Add</Kit.Button></Tabs.List> }`,
		"src/screens/Beds.tsx": `import { Button as B, Card } from '@acme/kit'
import { OurButton } from '#/ours'
import { t } from '#/i18n'
const SIZE = 'large'
const TONES = { late: 'red' } as const
export default function Beds({ beds, busy, ...rest }) {
  const header = <Card title={t('beds.title')} tone={TONES.late} />
  const columns = [{ name: 'State', render: bed => <B size={SIZE}>Open {bed.name}</B> }]
  return (
    <>
      {header}
      {busy && <B>Wait</B>}
      {beds.map(bed => <Card key={bed.id} tone={bed.bad ? 'red' : 'green'} footer={<B variant="ghost">Prune</B>} />)}
      <Card title="Rest" {...rest}>
        {busy ? <B variant="solid">Stop</B> : <B {...more}>Start</B>}
      </Card>
      <OurButton size="small">Save</OurButton>
      <Table columns={columns} />
    </>
  )
}`,
		"src/ours/index.ts": `export * from './OurButton'`,
		"src/ours/OurButton.tsx": `import { Button } from '@acme/kit'
export const OurButton = ({ children, ...props }) => <Button variant="soft" {...props}>{children}</Button>`,
		"src/screens/Bed.tsx": `import { Card, Button, Input, Field, Bar } from '@acme/kit'
import { Facts } from '../Facts'
export function Component() { return <Card title="Bed"><Facts/><Facts/><Field label="Name"><Input kind="text"/></Field><Only/></Card> }
const Only = () => <Button variant="solid">Only here</Button>`,
		"src/Facts.tsx":        `import { Card } from '@acme/kit'` + "\n" + `export const Facts = () => <Card title="Facts" />`,
		"src/locales/en.json":  `{"beds": {"title": "All beds"}}`,
		"src/Beds.test.tsx":    `import { Button } from '@acme/kit'` + "\n" + `test('x', () => { render(<Button size="huge" />) })`,
		"node_modules/a/b.tsx": `export const X = () => <Card/>`,
	})), nil)
	require.Empty(t, r.Report.Unreached)
	assert.Equal(t, 1, r.Report.Tests)
	assert.Equal(t, strings.TrimLeft(`
parts
  acme-card title=All beds tone=red
  acme-button | Wait if busy
  acme-card tone== bed.bad ? 'red' : 'green' for beds
    acme-button in footer variant=ghost | Prune
  acme-card title=Rest …
    acme-button variant=solid | Stop if busy
    acme-button | Start … if !(busy)
  acme-button size=small | Save …
  other-table
    acme-button in columns size=large | = Open {bed.name}
`, "\n"), told(r, "screen:beds"))
	assert.Equal(t, "acme-tabs-list size=small\n  acme-button | Add\n", told(r, "screen:users-page"))
	assert.Equal(t, strings.TrimLeft(`
acme-card title=Bed
  piece:facts …
  piece:facts …
  acme-field label=Name
    acme-input kind=text
  acme-button variant=solid | Only here
`, "\n"), told(r, "screen:bed"))
	assert.Equal(t, "html-div\n  acme-bar title=Garden\n  outlet\n", told(r, "shell:frame"))
	for address, route := range map[string]string{"screen:beds": "/beds", "screen:bed": "/beds/:id", "screen:users-page": "/admin/users"} {
		d, _ := r.W.Doc(address)
		require.NotNil(t, d, address)
		assert.Equal(t, route, d.Route)
		assert.Equal(t, "frame", d.Shell, address)
	}
	// What is not known is no evidence: neither after a spread nor where it is computed.
	assert.Equal(t, 1, r.Report.Others["(own)"]+r.Report.Others["?"]+r.Report.Unknown["Table"])
}

func TestVueFilesAreRead(t *testing.T) {
	r := read(t, put(t, texts(map[string]string{
		"package.json":  kitted,
		"src/router.js": `export default createRouter({ routes: [{ path: '/beds', component: () => import('@/views/Beds.vue') }, { path: '/late', components: { default: Late } }] })` + "\nimport Late from './views/Late.vue'",
		"src/views/Beds.vue": `<script setup lang="ts">
import { KitButton, KitCard } from '@acme/kit'
import OurCard from '../parts/OurCard.vue'
const size = 'large'
const { tone = 'quiet' } = defineProps<{ tone?: 'quiet' | 'loud' }>()
</script>

<template>
  <kit-card title="Beds é" :tone="late ? 'red' : 'green'">
    <template #footer><KitButton v-if="open" :size="size" @click="go">Prune {{ bed.name }}</KitButton></template>
    <KitButton v-for="bed in beds" :key="bed.id" :wide="true" v-bind="more">{{ $t('open') }}</KitButton>
    <app-badge kind="new" count="3" />
  </kit-card>
  <our-card title="Ours"><KitButton wide>In it</KitButton></our-card>
  <our-card title="Again" />
</template>`,
		"src/views/Late.vue": `<script>
import { KitButton } from '@acme/kit'
export default { components: { KitButton }, props: { size: { type: String, default: 'small', validator: v => ['small', 'large'].includes(v) } } }
</script>
<template><KitButton>Late</KitButton><router-link to="/beds">Beds</router-link><transition><KitButton>In</KitButton></transition><app-badge kind="old" /><app-badge kind="new" /><app-badge kind="new" /><app-badge kind="new" /></template>`,
		"src/parts/OurCard.vue": `<script setup lang="ts">
import { KitCard } from '@acme/kit'
defineProps<{ title: string }>()
</script>
<template><div><KitCard :title="title"><slot /></KitCard></div></template>`,
		// A page that is called as a component is not what its name means elsewhere.
		"src/views/AppBadge.vue": "<script setup>\nimport { KitButton } from '@acme/kit'\n</script>\n<template><KitButton>All badges</KitButton></template>",
		"src/views/Pug.vue":      "<template lang=\"pug\">\ndiv\n</template>\n",
	})), nil)
	assert.Equal(t, strings.TrimLeft(`
parts
  acme-kit-card title=Beds é tone== late ? 'red' : 'green'
    acme-kit-button wide=true | = t("open") … for beds
    other-app-badge
    acme-kit-button in footer size=large | = Prune {bed.name} if open
  piece:our-card title=Ours …
    acme-kit-button wide=true | In it
  piece:our-card title=Again …
`, "\n"), told(r, "screen:beds"))
	assert.Equal(t, 1, r.Report.Others["vue-router"], "what frameworks give every template is of no kit: %v", r.Report.Others)
	require.Len(t, r.Report.Left, 2, "%v", r.Report.Left)
	assert.Equal(t, "a template in pug is not read", r.Report.Left[1].What)
	assert.Contains(t, r.Report.Left[0].What, "it is described by how it is used")
}

func TestAngularTemplatesAreRead(t *testing.T) {
	r := read(t, put(t, texts(map[string]string{
		"package.json":          kitted,
		"src/app/app.routes.ts": `export const routes = [{ path: 'beds', component: BedsComponent }, { path: 'late', loadComponent: () => import('./late').then(m => m.LateComponent) }]` + "\nimport { BedsComponent } from './beds.component'",
		"src/app/beds.component.ts": `import { Component } from '@angular/core'
@Component({ selector: 'app-beds', templateUrl: './beds.component.html' })
export class BedsComponent {}
@Component({ selector: 'app-gone', templateUrl: './gone.html' })
export class GoneComponent {}`,
		"src/app/beds.component.html": `<kit-card heading="Beds" [tone]="'red'">
  @if (open) {
    <kit-button [wide]="true" (click)="go()">Prune {{ bed.name | uppercase }}</kit-button>
  } @else {
    <kit-button *ngIf="late" [wide]="wide">{{ 'open' | translate }}</kit-button>
  }
  @for (bed of beds; track bed.id) { <app-bed slot="rows" /> }
  <app-bed/>
</kit-card>`,
		"src/app/late.ts": `import { Component, Input, input } from '@angular/core'
@Component({ selector: 'app-late', template: ` + "`<div><kit-button>Late</kit-button><kit-card/><kit-card/><app-bed/></div>`" + ` })
export class LateComponent {}
@Component({ selector: 'app-bed', template: ` + "`<kit-card><ng-content/></kit-card>`" + ` })
export class BedComponent { @Input() tone: 'red' | 'green' = 'red' }`,
	})), nil)
	assert.Equal(t, strings.TrimLeft(`
kit-card heading=Beds tone=red
  kit-button wide=true | = Prune {bed.name | uppercase} if open
  kit-button wide== wide | = t("open") if (else) && late
  piece:bed …
  piece:bed in rows … for beds
`, "\n"), told(r, "screen:beds"))
	require.NotEmpty(t, r.Report.Left)
	assert.Contains(t, r.Report.Left[0].What, "its template ./gone.html is not there")
}

// Components of Angular are known by their selectors: by a tag or by attributes, which are no
// settings then, and never by a class alone.
func TestComponentsOfAngularAreKnownByTheirSelectors(t *testing.T) {
	declared := func(kind, name, selector string) string {
		marks := map[string]string{"ɵcmp": "ɵɵComponentDeclaration", "ɵdir": "ɵɵDirectiveDeclaration"}[kind]
		return fmt.Sprintf("export declare class %[2]s { static %[1]s: i0.%[3]s<%[2]s, %[4]q, never, {}, {}, never, ['*'], true, never> }\n", kind, name, marks, selector)
	}
	r := read(t, put(t, texts(map[string]string{
		"package.json":                                        `{"name":"garden","dependencies":{"@acme/ng":"1","@angular/core":"21"},"devDependencies":{"@angular/build":"21"}}`,
		"node_modules/@acme/ng/package.json":                  `{"name":"@acme/ng","version":"1.0.0","types":"index.d.ts","module":"index.js","peerDependencies":{"@angular/core":"21"}}`,
		"node_modules/@acme/ng/index.js":                      "export class AcMark {}",
		"node_modules/@acme/ng/index.d.ts":                    "import * as i0 from '@angular/core'\n" + declared("ɵcmp", "AcButton", "button[acButton], a[acButton]") + declared("ɵcmp", "AcCard", "ac-card") + declared("ɵdir", "AcMark", ".ac-mark"),
		"node_modules/@angular/platform-browser/package.json": `{"name":"@angular/platform-browser","version":"21.0.0"}`,
		"node_modules/@angular/common/package.json":           `{"name":"@angular/common","version":"21.0.0"}`,
		"node_modules/@angular/compiler/package.json":         `{"name":"@angular/compiler","version":"21.0.0"}`,
		"node_modules/@angular/core/package.json":             `{"name":"@angular/core","version":"21.0.0","types":"index.d.ts"}`,
		"node_modules/@angular/core/index.d.ts":               "export interface ɵɵComponentDeclaration<A, B, C, D, E, F, G, H, I> {}\nexport interface ɵɵDirectiveDeclaration<A, B, C, D, E, F, G, H, I> {}\n",
		"node_modules/@angular/build/package.json":            `{"name":"@angular/build","version":"21.0.0","peerDependencies":{"@angular/core":"21"}}`,
		"src/index.html":                                      "<!doctype html><html><body><app-root></app-root></body></html>",
		"src/app/app.ts": `import { Component } from '@angular/core'
import { RouterOutlet } from '@angular/router'
@Component({ selector: 'app-root', imports: [RouterOutlet], template: '<router-outlet />' })
export class App {}`,
		"src/app/app.routes.ts": `import { Beds } from './beds'
export const routes = [{ path: 'beds', component: Beds }]`,
		"src/app/beds.ts": `import { Component } from '@angular/core'
import { AcButton, AcCard } from '@acme/ng'
@Component({ selector: 'app-beds', imports: [AcButton, AcCard], template: ` + "`<ac-card><p class=\"ac-mark\">Beds</p><button acButton>Prune</button><a acButton href=\"/x\">Leave</a><button>Plain</button></ac-card>`" + ` })
export class Beds {}`,
	})), nil)
	assert.Equal(t, strings.TrimLeft(`
ng-ac-card
  html-p | Beds
  ng-ac-button | Prune
  ng-ac-button | Leave
  html-button | Plain
`, "\n"), told(r, "screen:beds"))
	require.Len(t, r.Report.Kits, 1, "what builds an application is no kit")
	assert.Empty(t, r.Report.Strange)
	assert.Empty(t, r.Report.Unknown)
}

// What an application of Vue registers for all of it is what it is called there: a library, with what
// its plugin begins all names with; a component of the team's, by its file or by the name that it is
// given; one of a library under a name of the team's. None of them is taken for another of the same name.
func TestWhatIsRegisteredForAllIsKnown(t *testing.T) {
	var types strings.Builder
	for _, name := range []string{"Button", "Card", "CardGrid", "Crumbs", "FormItem"} {
		fmt.Fprintf(&types, "{\"name\":%q,\"source\":{\"module\":\"@acme/sorbus\",\"symbol\":%[1]q},\"attributes\":[{\"name\":\"size\",\"value\":{\"type\":\"'small' | 'large'\"}}],\"slots\":[{\"name\":\"default\"}]},", name)
	}
	files := map[string]string{
		"package.json":                           `{"name":"garden","dependencies":{"@acme/sorbus":"1","vue":"3"}}`,
		"node_modules/vue/package.json":          `{"name":"vue","version":"3.5.0"}`,
		"node_modules/@acme/sorbus/package.json": `{"name":"@acme/sorbus","version":"1.0.0","module":"index.js","web-types":"web-types.json","peerDependencies":{"vue":"3"}}`,
		"node_modules/@acme/sorbus/index.js":     "export class Button {}",
		"node_modules/@acme/sorbus/web-types.json": `{"$schema":"","framework":"vue","name":"@acme/sorbus","version":"1.0.0","contributions":{"html":{"vue-components":[` +
			strings.TrimSuffix(types.String(), ",") + `]}}}`,
		"src/main.js": `import Sorbus, { Card as Plate } from '@acme/sorbus'
import Crumbs from './parts/crumbs/index.vue'
import Trail from './parts/TrailOfOurs.vue'
app.use(Sorbus).component('Crumbs', Crumbs)
app.component('OurTrail', Trail)
app.component('GardenPlate', Plate)`,
		"src/parts/crumbs/index.vue": "<template><a-crumbs /></template>",
		"src/parts/TrailOfOurs.vue":  "<template><a-crumbs size=\"small\" /></template>",
		"src/router.js":              `export default createRouter({ routes: [{ path: '/beds', component: () => import('./views/Beds.vue') }] })`,
		"src/views/Beds.vue":         `<template><a-card size="small"><a-form-item><a-button size="huge">Save</a-button></a-form-item><Crumbs /><our-trail /><garden-plate size="large" /></a-card></template>`,
	}
	r := read(t, put(t, texts(files)), nil)
	assert.Equal(t, strings.TrimLeft(`
sorbus-card size=small
  sorbus-form-item
    sorbus-button size=huge | Save
  sorbus-crumbs
  sorbus-crumbs size=small
  sorbus-card size=large
`, "\n"), told(r, "screen:beds"))
	require.Len(t, r.Report.Kits, 1, "%v", r.Report.Kits)
	assert.True(t, r.Report.Kits[0].Described)
	assert.Empty(t, r.Report.Unknown)
	// A few names that begin alike are no library's.
	files["src/views/Beds.vue"] = `<template><a-card size="small"><b-button /><c-crumbs /></a-card></template>`
	files["src/main.js"], files["src/parts/crumbs/index.vue"], files["src/parts/TrailOfOurs.vue"] = "", "", ""
	r = read(t, put(t, texts(files)), nil)
	assert.NotContains(t, told(r, "screen:beds"), "sorbus-")
}

// What is put into a component of the team's comes into the place that its code has for it: the main
// one has no name, others have theirs.
func TestAPieceHasThePlacesOfItsCode(t *testing.T) {
	card := "import { KitCard } from '@acme/kit'\nexport function Plot({ children, foot }) { return <KitCard><div>{children}</div></KitCard> }"
	r := read(t, put(t, texts(map[string]string{
		"package.json":   kitted,
		"src/router.tsx": "import { Beds } from './Beds'\nexport const routes = [{ path: '/beds', element: <Beds /> }]",
		"src/Beds.tsx":   "import { KitButton } from '@acme/kit'\nimport { Plot } from './Plot'\nexport function Beds() { return <main><Plot><KitButton>Prune</KitButton></Plot><Plot /><KitButton /><KitButton /><KitButton /></main> }",
		"src/Plot.tsx":   card,
	})), nil)
	d, ok := r.W.Doc("piece:plot")
	require.True(t, ok)
	outlets := 0
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if e.Type == "outlet" {
			outlets++
			assert.Empty(t, e.Name)
		}
		return true
	})
	assert.Equal(t, 1, outlets)
}

// What did not change is not read again: with all that a repository was known by, nothing reads it.
func TestWhatDidNotChangeIsNotReadAgain(t *testing.T) {
	markup, _ := readers(t)
	dir := put(t, texts(map[string]string{
		"package.json":     kitted,
		"src/router.tsx":   "import { Beds } from './Beds'\nexport const routes = [{ path: '/beds', element: <Beds /> }]",
		"src/Beds.tsx":     "import { KitButton } from '@acme/kit'\nexport function Beds() { return <KitButton size=\"large\">Prune</KitButton> }",
		"src/Card.vue":     "<template><kit-card /></template>",
		"src/data/part.ts": "export const part = 1",
	}))
	options := repo.Options{Dir: dir, Markup: markup, Cache: t.TempDir()}
	first, err := repo.Read(t.Context(), options)
	require.NoError(t, err)
	options.Node = filepath.Join(dir, "no-node")
	again, err := repo.Read(t.Context(), options)
	require.NoError(t, err)
	assert.Equal(t, first.Report, again.Report)
	assert.Equal(t, told(first, "screen:beds"), told(again, "screen:beds"))
	// Of what changed that it cannot be read is told.
	require.NoError(t, os.WriteFile(filepath.Join(dir, "src/data/part.ts"), []byte("export const part = 2"), 0o644))
	_, err = repo.Read(t.Context(), options)
	assert.ErrorContains(t, err, "cannot be started")
}

// What cannot be read is told with its place, and the rest goes on.
func TestWhatCannotBeReadIsToldAndTheRestGoesOn(t *testing.T) {
	dir := put(t, texts(map[string]string{
		"package.json":         kitted,
		"src/Good.tsx":         "import { A, B } from '@acme/kit'\nexport const Good = () => <A><B/><B/><B/><B/></A>",
		"src/Broken.tsx":       "export const Broken = () => <A>\n  <B\n</A>",
		"src/Zero.tsx":         "a\x00b",
		"src/Written.js":       strings.Repeat("var a=<A/>;", 5000),
		"src/Big.tsx":          strings.Repeat("// long\n", 200_000),
		"broken/package.json":  "{",
		"src/Other.svelte":     "<B/>",
		"src/Mixed.tsx":        "import { B } from '@acme/kit'\r\nexport const Mixed = () => <B>é\u2028</B>\r\n",
		"src/loop/a.ts":        "export * from './b'\nexport { Z } from './b'",
		"src/loop/b.ts":        "export * from './a'\nexport { Z } from './a'",
		"src/loop/Uses.tsx":    "import { Z } from './a'\nimport { B } from '@acme/kit'\nexport const Uses = () => <B><Z/></B>",
		"src/loop/Selfish.tsx": "import { B } from '@acme/kit'\nexport const Selfish = () => <B><Selfish/></B>",
	}))
	require.NoError(t, os.Symlink("/etc", filepath.Join(dir, "src", "etc")))
	r := read(t, dir, nil)
	by := map[string]string{}
	for _, l := range r.Report.Left {
		by[l.File] += l.What
	}
	for file, what := range map[string]string{
		"src/Broken.tsx": "Unexpected token", "src/Zero.tsx": "is no text", "src/Written.js": "only programs write", "src/Big.tsx": "at most 1024 KB", "broken/package.json": "unexpected end",
		"*.svelte": "1 files: this language is not read",
	} {
		assert.Contains(t, by[file], what, file)
	}
	assert.Equal(t, "acme-a\n  acme-b\n  acme-b\n  acme-b\n  acme-b\n", told(r, "screen:good"))
	assert.NotEqual(t, "(not there)", told(r, "screen:uses"))
	assert.Contains(t, r.Report.Unknown, "Z")
	for file := range by {
		assert.NotContains(t, file, "etc/")
	}
}

func TestCommentsLetFindingsStand(t *testing.T) {
	var screens strings.Builder
	files := map[string]string{"package.json": kitted}
	for _, name := range []string{"A", "B", "C", "D", "E", "F", "G", "H", "I", "J", "K", "L", "M", "N", "O", "P"} {
		size := `size="small"`
		if name == "P" {
			size = `size="large"`
		}
		files["src/"+name+".tsx"] = "import { Button, Card } from '@acme/kit'\nexport const " + name + " = () => (\n  <Card>\n    {/* ubiquant: let stand size until 2099-01-31: it is the only one */}\n    <Button " + size + ">Save</Button>\n  </Card>\n)\n"
		screens.WriteString("import { " + name + " } from './" + name + "'\n")
	}
	screens.WriteString("export const routes = [")
	for name := range files {
		if n := strings.TrimSuffix(filepath.Base(name), ".tsx"); strings.HasSuffix(name, ".tsx") {
			screens.WriteString("{ path: '/" + n + "', element: <" + n + " /> },")
		}
	}
	files["src/routes.tsx"] = screens.String() + "]"
	r := read(t, put(t, texts(files)), nil)
	strays := live.Open(r.W, r.Kit, day).Norms.Strays()
	require.Len(t, strays, 1)
	p := r.Places[strays[0].Doc][strays[0].Element]
	require.Equal(t, "src/P.tsx", p.File.Path)
	stands, wrong := p.Comments()
	assert.Empty(t, wrong)
	require.Len(t, stands, 1)
	assert.True(t, stands[0].Covers("stray", strays[0].Prop))
	assert.False(t, stands[0].Covers("stray", "variant"))
	assert.Equal(t, "it is the only one", stands[0].Reason)
	for text, want := range map[string]string{
		"ubiquant: let stand size */":                         "without a reason",
		"ubiquant: let stand size until tomorrow: because */": "is no date",
	} {
		p.File.Text = []byte(strings.Replace(string(p.File.Text), "ubiquant: let stand size until 2099-01-31: it is the only one */", text, 1))
		p.Node.Span[0] = strings.Index(string(p.File.Text), "<Button")
		stands, wrong = p.Comments()
		assert.Empty(t, stands)
		require.NotEmpty(t, wrong)
		assert.Contains(t, wrong[0].What, want)
		p.File.Text = []byte(strings.Replace(string(p.File.Text), text, "ubiquant: let stand size until 2099-01-31: it is the only one */", 1))
	}
}

// A revision of git is read as it stood, whatever stands in the folder now.
func TestARevisionIsReadAsItStood(t *testing.T) {
	dir := put(t, texts(map[string]string{"package.json": kitted, "app/src/A.tsx": "import { A, B } from '@acme/kit'\nexport const Page = () => <A><B/><B/><B/><B/></A>"}))
	git := func(args ...string) {
		t.Helper()
		cmd := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=A", "-c", "user.email=a@example.org"}, args...)...)
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, "%s", out)
	}
	git("init", "-q")
	git("add", ".")
	git("commit", "-qm", "first")
	require.NoError(t, os.WriteFile(filepath.Join(dir, "app/src/A.tsx"), []byte("gone"), 0o644))
	files, err := repo.Revision(t.Context(), dir, "HEAD")
	require.NoError(t, err)
	assert.Contains(t, string(files["app/src/A.tsx"]), "<A><B/>")
	within, err := repo.Revision(t.Context(), filepath.Join(dir, "app"), "HEAD")
	require.NoError(t, err)
	assert.Contains(t, within, "src/A.tsx")
	_, err = repo.Revision(t.Context(), dir, "nowhere")
	assert.ErrorContains(t, err, "neither a file, a folder nor a revision")
	_, err = repo.Revision(t.Context(), dir, "--output=x")
	assert.ErrorContains(t, err, "is no revision")
}

// What a bundler's settings let stand for a path is followed, however they say it; what they
// compute is not, and breaks nothing.
func TestAliasesOfBundlersAreFollowed(t *testing.T) {
	for name, c := range map[string]struct{ file, text, from string }{
		"object, resolve": {"vite.config.ts", `import path from 'node:path'
export default defineConfig({ resolve: { alias: { ui: path.resolve(__dirname, './src/parts') } } })`, "ui/Thing"},
		"object, URL": {"vite.config.mjs", `import { fileURLToPath, URL } from 'node:url'
export default { resolve: { alias: { '$ui': fileURLToPath(new URL('./src/parts', import.meta.url)) } } }`, "$ui/Thing"},
		"list": {"vite.config.js", `export default { resolve: { alias: [{ find: '@parts', replacement: '/src/parts' }, { find: /^~/, replacement: '' }] } }`, "@parts/Thing"},
		"exact": {"webpack.config.js", `const path = require('path')
module.exports = { resolve: { alias: { Thing$: 'x', Thing: path.join(__dirname, 'src', 'parts', 'Thing') } } }`, "Thing"},
		"helper": {"config/webpack.common.js", `const path = require('path')
function at(dir) { return path.join(__dirname, '..', dir) }
module.exports = { resolve: { extensions: ['.js'], alias: { 'parts': at('src/parts') } } }`, "parts/Thing"},
		"constant, template": {"rsbuild.config.ts", "const src = `${__dirname}/src`\nexport default { source: { alias: { 'app-parts': `${src}/parts` } } }", "app-parts/Thing"},
		"chain": {"vue.config.js", `const { resolve } = require('path')
module.exports = { chainWebpack: config => { config.resolve.alias.set('one', resolve('src')).set('parts', resolve(__dirname, 'src/parts')) } }`, "parts/Thing"},
		"from the root":    {"vite.config.ts", `export default {}`, "/src/parts/Thing"},
		"package imports":  {"package.json", `{"name": "garden", "dependencies": {"@acme/kit": "1"}, "imports": {"#parts/*": "./src/parts/*"}}`, "#parts/Thing"},
		"computed besides": {"vite.config.ts", `export default { resolve: { alias: { ...more, [key]: 'x', lib: 'react', parts: './src/parts', no: where() } } }`, "parts/Thing"},
	} {
		t.Run(name, func(t *testing.T) {
			files := map[string]string{
				"package.json":        kitted,
				"src/routes.tsx":      `import { Home } from './Home'` + "\n" + `export const routes = [{ path: '/', element: <Home /> }]`,
				"src/Home.tsx":        `import { Thing } from '` + c.from + `'` + "\n" + `export const Home = () => <main><Thing /></main>`,
				"ubiquant.json":       `{"format": "ubiquant.repository/1", "kits": ["@acme/kit"]}`,
				"src/parts/Thing.tsx": `import { Button } from '@acme/kit'` + "\n" + `export const Thing = () => <Button size="small">Go</Button>`,
			}
			files[c.file] = c.text
			r := read(t, put(t, texts(files)), nil)
			assert.Contains(t, told(r, "screen:home"), "acme-button", "%s: %s", c.file, told(r, "screen:home"))
		})
	}
}

// Screens are as old as git knows of their files, renamed or not.
func TestScreensAreAsOldAsTheirFiles(t *testing.T) {
	page := func(name string) string {
		return "import { A, B } from '@acme/kit'\nexport const " + name + " = () => <A><B/><B/><B/><B/></A>"
	}
	dir := put(t, texts(map[string]string{"package.json": kitted, "app/src/pages/Early.tsx": page("Early")}))
	git := func(day string, args ...string) {
		t.Helper()
		cmd := exec.Command("git", append([]string{"-C", dir, "-c", "user.name=A", "-c", "user.email=a@example.org"}, args...)...)
		cmd.Env = append(os.Environ(), "GIT_AUTHOR_DATE="+day+"T12:00:00Z", "GIT_COMMITTER_DATE="+day+"T12:00:00Z")
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, "%s", out)
	}
	at := func(name string) string { return filepath.Join(dir, "app/src/pages", name) }
	git("2026-03-01", "init", "-q")
	git("2026-03-01", "add", ".")
	git("2026-03-01", "commit", "-qm", "first")
	require.NoError(t, os.WriteFile(at("Späte.tsx"), []byte(page("Late")), 0o644))
	git("2026-05-09", "add", ".")
	git("2026-05-09", "commit", "-qm", "second")
	require.NoError(t, os.Rename(at("Early.tsx"), at("Known.tsx")))
	require.NoError(t, os.WriteFile(at("Fresh.tsx"), []byte(page("Fresh")), 0o644))
	git("2026-06-02", "add", "app/src/pages/Known.tsx", "app/src/pages/Early.tsx")
	git("2026-06-02", "commit", "-qm", "renamed")
	made := map[string]string{}
	for _, d := range read(t, dir, nil).W.Docs {
		made[filepath.Base(d.Source)] = d.Made
	}
	assert.Equal(t, map[string]string{"Known.tsx": "2026-03-01", "Späte.tsx": "2026-05-09", "Fresh.tsx": ""}, made)
}

// A part of a whole leads to what it is called in its file, however it is put together and wherever it
// is handed on from; what a function makes of a component is that component.
func TestPartsAndWhatIsWrappedLeadToWhatTheyAre(t *testing.T) {
	r := read(t, put(t, texts(map[string]string{
		"package.json": kitted,
		"src/router.tsx": `import { Beds } from './Beds'
export const routes = [{ path: '/beds', element: <Beds /> }]`,
		"src/Beds.tsx": `import { Sheet, Panel, Bar } from './parts'
import List from './list'
import Acme from '@acme/kit'
export function Beds() {
  return <Sheet><Sheet.Title>Beds</Sheet.Title><Sheet.Close size="small" /><Panel.Row.Cell>Fern</Panel.Row.Cell><Bar title="Beds" /><List.Item>Moss</List.Item><Acme.Chip tone="calm">Ivy</Acme.Chip><Sheet.Body>One</Sheet.Body><Sheet.Body>Two</Sheet.Body></Sheet>
}`,
		"src/parts/index.ts": `export { Sheet } from './sheet'
export * from './panel'
export { default as Bar } from './bar'`,
		"src/parts/sheet.tsx": `import { KitDialog, KitHeading } from '@acme/kit'
import { SheetBody } from './body'
const Root = ({ children }) => <KitDialog wide>{children}</KitDialog>
const Close = KitDialog.Close
const Body = SheetBody
export const Sheet = Object.assign(Root, { Title: KitHeading, Close, Body })`,
		"src/parts/body.tsx": `import { KitCard } from '@acme/kit'
export function SheetBody({ children }) { return <KitCard><p>Here:</p>{children}</KitCard> }`,
		"src/parts/panel.tsx": `import * as Kit from '@acme/kit'
const Cell = styled(Kit.Cell)(() => ({ padding: 4 }))
export const Panel = { Row: { Cell } }`,
		"src/parts/bar.tsx": `import { KitBar } from '@acme/kit'
const Bar = connect(state => state)(observer(KitBar))
export default Bar`,
		"src/list.tsx": `import { KitItem } from '@acme/kit'
function List() { return <ul /> }
List.Item = memo(KitItem)
export default List`,
	})), nil)
	assert.Empty(t, r.Report.Unknown)
	assert.Equal(t, strings.TrimPrefix(`
piece:sheet …
  acme-kit-heading | Beds
  acme-kit-dialog-close size=small
  acme-cell | Fern
  acme-kit-bar title=Beds
  acme-kit-item | Moss
  acme-chip tone=calm | Ivy
  piece:sheet-body …
  piece:sheet-body …
`, "\n"), told(r, "screen:beds"))
}

// What a library says of itself is asked once, as long as what is installed stays what it is.
func TestADescriptionIsReadOnce(t *testing.T) {
	markup, declarations := readers(t)
	files := map[string]string{
		"package.json":                        kitted,
		"src/Beds.tsx":                        "import { Chip, Mark } from '@acme/kit'\nexport function Beds() { return <><Chip tone=\"calm\">Fern</Chip>" + strings.Repeat("<Chip>Moss</Chip><Mark>Ivy</Mark>", 4) + "</> }",
		"src/routes.ts":                       "import { Beds } from './Beds'\nexport const routes = [{ path: '/beds', component: Beds }]",
		"node_modules/@acme/kit/package.json": `{"name":"@acme/kit","version":"1.0.0","types":"index.d.ts","main":"index.js","peerDependencies":{"react":"*"}}`,
		"node_modules/@acme/kit/index.js":     `export const Chip = ({ tone = "calm" }) => null`,
		"node_modules/@acme/kit/index.d.ts":   `export declare const Mark: () => JSX.Element; export declare const Chip: (p: { tone?: "calm" | "loud" }) => JSX.Element; declare namespace JSX { interface Element {} }`,
		"node_modules/.package-lock.json":     `{"packages":{"node_modules/@acme/kit":{"version":"1.0.0"}}}`,
	}
	dir, cache := put(t, texts(files)), t.TempDir()
	ask := func() (string, int) {
		asked := 0
		r, err := repo.Read(t.Context(), repo.Options{Dir: dir, Markup: markup, Declarations: declarations, Cache: cache, Tell: func(step string) {
			if strings.Contains(step, "says of itself") {
				asked++
			}
		}})
		require.NoError(t, err)
		c, ok := r.Kit.Component("acme-chip")
		require.True(t, ok)
		p, _ := c.Prop("tone")
		return p.Default, asked
	}
	for _, want := range []int{1, 0} {
		tone, asked := ask()
		assert.Equal(t, "calm", tone)
		assert.Equal(t, want, asked)
	}
	// Another version, installed in its place.
	for name, text := range map[string]string{
		"node_modules/@acme/kit/index.js": `export const Chip = ({ tone = "loud" }) => null`,
		"node_modules/.package-lock.json": `{"packages":{"node_modules/@acme/kit":{"version":"1.0.1"}}}`,
	} {
		require.NoError(t, os.WriteFile(filepath.Join(dir, filepath.FromSlash(name)), []byte(text), 0o644))
	}
	tone, asked := ask()
	assert.Equal(t, "loud", tone)
	assert.Equal(t, 1, asked)
}

// Content that a component of React hands on with all else stands where that is put; nothing stands in
// an element that holds nothing.
func TestContentIsHandedOnWithAllElse(t *testing.T) {
	r := read(t, put(t, texts(map[string]string{
		"package.json": kitted,
		"src/router.tsx": `import { Beds } from './Beds'
export const routes = [{ path: '/beds', element: <Beds /> }]`,
		"src/Beds.tsx": `import { KitInput, KitField, KitCard } from '@acme/kit'
import { Control, Line } from './parts'
export function Beds() {
  return <KitCard><Control><KitInput /></Control><Control><KitField /></Control><Line /><KitInput /><KitInput /></KitCard>
}`,
		"src/parts.tsx": `import { KitSlot } from '@acme/kit'
export function Control(props) { return <section className="c"><KitSlot wide {...props} /></section> }
export function Line(props) { return <p><input {...props} /></p> }`,
	})), nil)
	assert.Equal(t, `acme-kit-card
  piece:control …
    acme-kit-input
  piece:control …
    acme-kit-field
  other-line
  acme-kit-input
  acme-kit-input
`, told(r, "screen:beds"))
	assert.Equal(t, `html-section
  acme-kit-slot wide=true …
    outlet
`, told(r, "piece:control"))
}
