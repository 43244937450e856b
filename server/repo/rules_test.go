package repo_test

import (
	"cmp"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/core/source"
	"ubiquant/server/repo"
)

// screens puts so many screens into an application, of which the sixth is changed.
func screens(t *testing.T, files map[string][]byte, n int, from, to string, page func(i int) string) {
	var imports, routes strings.Builder
	for i := range n {
		text := page(i)
		if i == 6 && from != "" {
			require.Contains(t, text, from)
			text = strings.Replace(text, from, to, 1)
		}
		files[fmt.Sprintf("src/pages/page%d.tsx", i)] = []byte(text)
		fmt.Fprintf(&imports, "import { Page%[1]d } from './pages/page%[1]d'\n", i)
		fmt.Fprintf(&routes, "{ path: '/beds/%[1]d', element: <Page%[1]d /> }, ", i)
	}
	files["src/routes.tsx"] = []byte(imports.String() + "export const routes = [" + routes.String() + "]\n")
}

// gardens is an application of twelve screens alike, on a folder of components; change is made to the sixth.
func gardens(t *testing.T, from, to string) *live.Live {
	files := texts(map[string]string{
		"package.json":      `{"name":"garden","dependencies":{"react":"19"}}`,
		"src/ui/button.tsx": `export function Button({ variant = 'plain', size = 'medium', wide, type, disabled, onClick, children, ...rest }: { variant?: 'plain' | 'primary' | 'danger'; size?: 'medium' | 'large'; wide?: boolean; type?: 'button' | 'submit'; disabled?: boolean; onClick?: () => void; children?: React.ReactNode }) { return <button {...rest}>{children}</button> }`,
		"src/ui/text.tsx":   `export function Text({ muted, children }: { muted?: boolean; children?: React.ReactNode }) { return <p>{children}</p> }`,
		"src/ui/sheet.tsx":  `export const Sheet = ({ children }: { children: React.ReactNode }) => <section>{children}</section>`,
	})
	screens(t, files, 12, from, to, func(i int) string {
		return fmt.Sprintf(`import { Button } from '../ui/button'
import { Text } from '../ui/text'
import { Sheet } from '../ui/sheet'
import { Leaf } from 'leaf-icons'
export const Page%[1]d = ({ ready }: { ready: boolean }) => (
  <Sheet>
    <header id="top"><Text>Bed %[1]d</Text></header>
    <Text muted>{words.about}</Text>
    <div className="tools">
      <Button variant="primary" onClick={() => keep(%[1]d)}>Keep</Button>
      <Button onClick={() => print(%[1]d)}>Print</Button>
      <Button variant="danger" onClick={() => remove(%[1]d)}>Remove</Button>
    </div>
  </Sheet>
)
`, i)
	})
	r := read(t, put(t, files), nil)
	require.Empty(t, r.Report.Unknown)
	return live.Open(r.W, r.Kit, day)
}

// toldOf are the rules that find something on the screens, and how often.
func toldOf(l *live.Live) map[string]int {
	out := map[string]int{}
	open, _ := l.Findings()
	for _, f := range open {
		out[f.Rule]++
	}
	return out
}

// Slips are told of in code by the rules that tell of them on screens that are assembled here; what only
// looks like one is not, and what may be otherwise than it shows is held against nobody.
func TestRulesLookAtCode(t *testing.T) {
	assert.Empty(t, toldOf(gardens(t, "", "")))
	const print, about = `<Button onClick={() => print(6)}>Print</Button>`, `<Text muted>{words.about}</Text>`
	for _, c := range []struct{ rule, from, to string }{
		{"demo-text", about, `<Text muted>Lorem ipsum dolor sit amet</Text>`},
		{"demo-text", about, `<Text muted>TODO</Text>`},
		{"", about, `<Text muted>Title</Text>`},
		{"shared-id", `<div className="tools">`, `<div className="tools" id="top">`},
		{"", `<div className="tools">`, `<div className="tools" id="tools">`},
		{"", about, `{ready ? <p id="about">Sown</p> : <p id="about">Bare</p>}`},
		{"danger-missing", `<Button variant="danger" `, `<Button `},
		{"", `onClick={() => remove(6)}>Remove`, `onClick={() => clear(6)}>Clear the list`},
		{"same-words", print, `<Button onClick={() => print(6)}>Keep</Button>`},
		{"one-main-action", print, `<Button variant="primary" onClick={() => print(6)}>Print</Button>`},
		{"", print, `{ready && <Button variant="primary" onClick={() => print(6)}>Print</Button>}`},
		{"unknown-prop", `<Button variant="danger" `, `<Button variant="danger" varaint="danger" `},
		{"", `<Button variant="danger" `, `<Button variant="danger" tooltip="For good" `},
		{"dead-control", print, `<Button>Print</Button>`},
		{"dead-control", print, `<Button type="button">Print</Button>`},
		{"", print, `<Button type="submit">Print</Button>`},
		{"", print, `<Button {...tools}>Print</Button>`},
		{"", print, `<Button disabled>Print</Button>`},
		{"", print, `<form><Button>Print</Button></form>`},
		{"", print, `<a href="/x"><Button>Print</Button></a>`},
		{"nameless", print, `<Button onClick={() => print(6)}><svg viewBox="0 0 8 8" /></Button>`},
		{"nameless", print, `<Button onClick={() => print(6)}><span><Leaf size={12} /></span></Button>`},
		{"", print, `<Button aria-label="Print" onClick={() => print(6)}><svg viewBox="0 0 8 8" /></Button>`},
		{"", print, `<Button onClick={() => print(6)}><svg viewBox="0 0 8 8" /><span>Print</span></Button>`},
		{"nameless", print, `<Button onClick={() => print(6)}>{ready && <Leaf size={12} />}</Button>`},
		{"unknown-prop", `<Button variant="danger" `, `<Button variant="danger" tpye="button" `},
		{"", `<Button variant="danger" `, `<Button variant="danger" hype="none" `},
		{"plain-control", print, `<span onClick={() => print(6)}>Print</span>`},
		{"", print, `<span role="button" tabIndex={0} onClick={() => print(6)}>Print</span>`},
		{"", print, `<span onClick={e => e.stopPropagation()}>Print</span>`},
		{"", print, `<div className="fixed inset-0" onClick={() => close(6)} />`},
		{"", print, `<div onClick={() => print(6)}><Button onClick={() => print(6)}>Print</Button></div>`},
		{"breaks-for-space", print, `<div><br /><br /></div>`},
		{"", print, `<p>Print<br /><br />it</p>`},
		{"off-theme", `<div className="tools">`, `<div className="tools" style={{ color: '#c30', height: '2px' }}>`},
		{"off-theme", `<div className="tools">`, `<div className="tools text-[#cc3300]">`},
		{"", `<div className="tools">`, `<div className="tools w-[30rem]" style={{ height: '20px' }}>`},
	} {
		told := toldOf(gardens(t, c.from, c.to))
		if c.rule == "" {
			assert.Empty(t, told, c.to)
			continue
		}
		assert.Equal(t, map[string]int{c.rule: 1}, told, c.to)
	}
}

// What is given back on a condition stands there on that condition, as what is chosen in markup does.
func TestWhatIsReturnedEarlyIsThereAtTimes(t *testing.T) {
	r := read(t, put(t, own(map[string]string{
		"src/pages/one.tsx": `import { Press } from '../ui/press'
import { Sheet } from '../ui/sheet'
export function One({ busy, kind }) {
  if (busy) return <Press wide>Wait</Press>
  if (kind === 'a') { return <Press wide>First</Press> } else if (kind === 'b') return <Press wide>Second</Press>
  switch (kind) {
    case 'c':
      return <Press wide>Third</Press>
  }
  return <Sheet><Press wide>Go</Press></Sheet>
}`,
		"src/pages/two.tsx": `import { Press } from '../ui/press'
export function Two({ late }) {
  if (late) { return <Press wide>Late</Press> }
}`,
	})), nil)
	assert.Equal(t, `parts
  ui-press wide=true | Wait if busy
  ui-press wide=true | First if kind === 'a'
  ui-press wide=true | Second if !(kind === 'a') && kind === 'b'
  ui-press wide=true | Third if kind === 'c'
  ui-sheet
    ui-press wide=true | Go
`, told(r, "screen:one"))
	assert.Equal(t, "ui-press wide=true | Late\n", told(r, "screen:two"), "there is nothing else")
}

// drawers is an application of sixteen forms in a drawer, of parts that stand in one another; change is made to
// the sixth. It gives what strays there.
func drawers(t *testing.T, at, from, to string) (told []string) {
	r := drawersRead(t, at, from, to)
	for _, s := range live.Open(r.W, r.Kit, day).Norms.Strays() {
		assert.Equal(t, "screen:page6", s.Doc)
		told = append(told, s.What+": "+s.Value+", not "+s.Norm)
	}
	return told
}

func drawersRead(t *testing.T, at, from, to string) *repo.Repository {
	part := func(names ...string) string {
		var b strings.Builder
		for _, name := range names {
			fmt.Fprintf(&b, "export const %s = ({ children }: { children?: React.ReactNode }) => <section>{children}</section>\n", name)
		}
		return b.String()
	}
	files := texts(map[string]string{
		"package.json":      `{"name":"garden","dependencies":{"react":"19"}}`,
		"src/ui/button.tsx": `export function Button({ look = 'plain', type, onClick, children }: { look?: 'plain' | 'primary'; type?: 'button' | 'submit'; onClick?: () => void; children?: React.ReactNode }) { return <button>{children}</button> }`,
		"src/ui/input.tsx":  `export function Input({ name, onChange }: { name?: string; onChange?: () => void }) { return <input name={name} /> }`,
		"src/ui/drawer.tsx": part("Drawer", "DrawerBody", "DrawerFooter", "DrawerClose"),
		at + "/item.tsx":    part("Item", "ItemLabel", "ItemFault"),
	})
	screens(t, files, 16, from, to, func(i int) string {
		return fmt.Sprintf(`import { Button } from '../ui/button'
import { Input } from '../ui/input'
import { Drawer, DrawerBody, DrawerFooter, DrawerClose } from '../ui/drawer'
import { Item, ItemLabel, ItemFault } from '../%[2]s/item'
export const Page%[1]d = () => (
  <Drawer>
    <DrawerBody>
      <Item><ItemLabel>Bed %[1]d</ItemLabel><Input name="bed" /><ItemFault /></Item>
      <Item><ItemLabel>Plant</ItemLabel><Input name="plant" /><ItemFault /></Item>
    </DrawerBody>
    <DrawerFooter>
      <div className="flex  gap-2 md:p-8 p-lifted">
        <DrawerClose><Button>Cancel</Button></DrawerClose>
        <Button look="primary" type="submit">Save</Button>
      </div>
    </DrawerFooter>
  </Drawer>
)
`, i, strings.TrimPrefix(at, "src/"))
	})
	return read(t, put(t, files), nil)
}

// What only arranges is looked through, and what holds one action stands for it; what is made for a place
// is missed there, whatever else stands in it.
func TestWrappersAreLookedThrough(t *testing.T) {
	const closes, saves = "<DrawerClose><Button>Cancel</Button></DrawerClose>", `<Button look="primary" type="submit">Save</Button>`
	for _, c := range []struct{ says, from, to string }{
		{"comes first", closes + "\n        " + saves, saves + closes},
		{"whether a drawer footer has a drawer close: no, not yes", closes, ""},
		{"what a button says: close, not cancel", closes, "<DrawerClose><Button>Close</Button></DrawerClose>"},
		{"the space (gap) in a drawer footer: gap-9, not gap-2", "gap-2", "gap-9"},
		{"whether an Item has an Item label: no, not yes", "<ItemLabel>Plant</ItemLabel>", ""},
		{"whether an Item has an Item fault: no, not yes", `<Input name="plant" /><ItemFault />`, `<Input name="plant" />`},
	} {
		// The team's parts are a library of their own, or pieces beside the screens that use them.
		for _, at := range []string{"src/parts", "src/pages"} {
			assert.Empty(t, drawers(t, at, "", ""))
			assert.Contains(t, strings.ToLower(strings.Join(drawers(t, at, c.from, c.to), "\n")), strings.ToLower(c.says), at)
		}
	}
}

// A step of space is brought into line in its class, to the byte; what looks like one is none, and classes
// that are computed are left to people.
func TestAStepOfSpaceIsBroughtIntoLine(t *testing.T) {
	for to, done := range map[string]bool{`className="flex  gap-9 md:p-8 p-lifted"`: true, `className={join("flex", wide && "w-full", "gap-9")}`: false} {
		r := drawersRead(t, "src/parts", `className="flex  gap-2 md:p-8 p-lifted"`, to)
		l := live.Open(r.W, r.Kit, day)
		var repairs []source.Repair
		for _, s := range l.Norms.Strays() {
			require.Equal(t, "@class gap", s.Prop)
			repairs = append(repairs, source.Repair{Key: live.StrayKey(s), Doc: s.Doc, Edits: s.Fix})
		}
		require.Len(t, repairs, 1)
		files, unmade := r.Patch(repairs)
		if !done {
			require.Len(t, unmade, 1)
			assert.Contains(t, unmade[0].Why, "class")
			continue
		}
		require.Empty(t, unmade)
		require.Len(t, files, 1)
		assert.Equal(t, strings.Replace(string(files[0].Before), "gap-9", "gap-2", 1), string(files[0].After))
		// On the tree it is done and undone alike.
		d, _ := r.W.Doc(repairs[0].Doc)
		changed, back, err := screen.ApplyAll(d.Root, repairs[0].Edits, r.Kit)
		require.NoError(t, err)
		e, _ := changed.Find(repairs[0].Edits[0].ID)
		assert.Equal(t, "flex gap-2 md:p-8 p-lifted", e.Origin.Look)
		undone, _, err := screen.ApplyAll(changed, back, r.Kit)
		require.NoError(t, err)
		e, _ = undone.Find(repairs[0].Edits[0].ID)
		assert.Equal(t, "flex gap-9 md:p-8 p-lifted", e.Origin.Look)
	}
}

// A link in code leads to a route that is there, or is told of; what only sends one on is there too. Where
// much leads to what is not known, routes were not read, and nothing is told.
func TestALinkOfCodeLeadsToARoute(t *testing.T) {
	pages := func(last string, routes string) []string {
		files := texts(map[string]string{
			"package.json":      `{"name":"garden","dependencies":{"react":"19"}}`,
			"src/ui/button.tsx": `export function Button({ size = 'm', onClick, children }: { size?: 'm' | 'l'; onClick?: () => void; children?: React.ReactNode }) { return <button>{children}</button> }`,
		})
		screens(t, files, 8, "", "", func(i int) string {
			to := fmt.Sprintf("/beds/%d?from=list", (i+1)%8)
			if i == 6 {
				to = last
			}
			return fmt.Sprintf(`import { Link } from 'react-router-dom'
import { Button } from '../ui/button'
export const Page%[1]d = () => <main><Button onClick={() => keep(%[1]d)}>Keep</Button><Link to=%[2]q>Next</Link></main>
`, i, to)
		})
		files["src/more.tsx"] = []byte("import { Page0 } from './pages/page0'\nexport const more = [" + routes + "]\n")
		l := read(t, put(t, files), nil)
		var out []string
		open, _ := live.Open(l.W, l.Kit, day).Findings()
		for _, f := range open {
			if f.Rule == "dead-route" {
				out = append(out, f.Doc+": "+f.Message)
			}
		}
		return out
	}
	const told = "screen:page6: there is no screen on "
	assert.Empty(t, pages("/beds/3", ""))
	assert.Equal(t, []string{told + "/bets/3"}, pages("/bets/3", ""))
	assert.Empty(t, pages("/files/plan.pdf", ""))
	assert.Empty(t, pages("https://acme.example/x", ""))
	assert.Empty(t, pages("/old", "{ path: '/old', redirectTo: '/beds/1' }"))
	assert.Empty(t, pages("/shed", "{ path: '/shed', children: [{ path: 'tools', element: <Page0 /> }] }"))
	assert.Empty(t, pages("/guide/how/to", "{ path: '/guide/*', element: <Page0 /> }"))
	assert.Empty(t, pages("/guests", "{ path: '/guests/:id?', element: <Page0 /> }"))
	assert.Equal(t, []string{told + "/gone"}, pages("/gone", "{ path: '*', element: <Page0 /> }"), "what shows that nothing is there is no route")
}

// In a list of routes one may hold others together and say nothing else of them.
func TestRoutesAreReadThroughWhatHoldsThemTogether(t *testing.T) {
	const button = `import { Button } from '@acme/kit'` + "\n"
	r := read(t, put(t, texts(map[string]string{
		"package.json": kitted,
		"src/routes.tsx": `import { Frame } from './Frame'
export const routes = [{ element: <Frame />, children: [{ errorElement: <p />, children: [{ path: '/beds', lazy: () => import('./Beds') }] }] }]`,
		"src/Frame.tsx": button + `export const Frame = () => <main><Button>Home</Button><Outlet /></main>`,
		"src/Beds.tsx":  button + `export function Component() { return <Button>Save</Button> }`,
	})), nil)
	d, ok := r.W.Doc("screen:beds")
	require.True(t, ok)
	assert.Equal(t, "/beds", d.Route)
	assert.Equal(t, "frame", d.Shell)
}

// A component that is used without an import, and that nobody registered, is told of where its name is
// near that of one of the kit.
func TestAMisspeltComponentIsTold(t *testing.T) {
	find := func(name string, uses int) int {
		page := strings.Repeat("<acme-button size=\"l\">Keep</acme-button><acme-tabs></acme-tabs>", 3) + strings.Repeat("<"+name+">Save</"+name+">", uses)
		r := read(t, put(t, texts(map[string]string{
			"package.json":                        `{"name":"garden","dependencies":{"@acme/kit":"1"}}`,
			"node_modules/@acme/kit/package.json": `{"name":"@acme/kit","version":"1.0.0","customElements":"custom-elements.json"}`,
			"node_modules/@acme/kit/custom-elements.json": `{"schemaVersion":"1.0.0","modules":[{"kind":"javascript-module","path":"a.js","declarations":[` +
				`{"kind":"class","customElement":true,"name":"Button","tagName":"acme-button","attributes":[{"name":"size","type":{"text":"'m' | 'l'"}}],"slots":[{"name":""}]},` +
				`{"kind":"class","customElement":true,"name":"Tabs","tagName":"acme-tabs"}]}]}`,
			"src/main.js":     "import '@acme/kit'",
			"pages/beds.html": page,
		})), nil)
		return toldOf(live.Open(r.W, r.Kit, day))["misspelt-component"]
	}
	assert.Equal(t, 1, find("acme-buton", 1))
	assert.Equal(t, 2, find("acme-buttno", 2))
	assert.Equal(t, 0, find("acme-buton", 3), "what is used much is somebody's")
	assert.Equal(t, 0, find("acme-chart", 1))
	assert.Equal(t, 0, find("acme-tabz", 1), "short names are near each other")
}

// Texts by their keys are read from modules as from JSON: the nearest file counts, English before others,
// and what two files say differently from as far is not known.
func TestTextsInModulesAreRead(t *testing.T) {
	page := func(key string) string {
		return "<script setup>import { Button } from '@acme/kit'</script><template><Button>{{ $t('" + key + "') }}</Button></template>"
	}
	files := map[string]string{
		"package.json":                     kitted,
		"ubiquant.json":                    `{"format":"ubiquant.repository/1","kits":["@acme/kit"]}`,
		"src/locale/en-US.ts":              "import beds from '../views/beds/locale/en-US'\nexport default { 'menu.home': 'Home', common: { save: 'Save', many: `{n} beds`, mail: `me{'@'}acme` }, ...beds }",
		"src/locale/de.ts":                 "export default { 'menu.home': 'Start', common: { save: 'Speichern' } }",
		"src/views/beds/locale/en-US.ts":   "export default { title: 'All beds', 'beds.add': 'Add a bed' }",
		"src/views/beds/locale/de.ts":      "export default { title: 'Alle Beete' }",
		"src/views/guests/locale/en-US.ts": "export default { title: 'All guests' }",
		"src/views/beds/A.vue":             page("title"),
		"src/views/beds/B.vue":             page("beds.add"),
		"src/views/guests/C.vue":           page("title"),
		"src/views/D.vue":                  page("title"),
		"src/views/E.vue":                  page("common.save"),
		"src/views/F.vue":                  page("common.many"),
		"src/views/G.vue":                  page("common.mail"),
		"src/views/H.tsx":                  "import { Button } from '@acme/kit'\nexport const H = () => <Button>{t('nowhere.said', 'Else')}</Button>",
		"src/views/I.tsx":                  "import { Button } from '@acme/kit'\nexport const I = () => <Button>{formatMessage({ id: 'x', defaultMessage: 'By default' })}</Button>",
		"src/views/J.vue":                  page("inline.own"),
		"src/i18n.ts":                      "export const i18n = createI18n({ locale: 'en', messages: { en: { inline: { own: 'In its place' } }, de: { inline: { own: 'Darin' } } } })",
		"src/shop/options.ts":              "export default { title: 'No text of anybody', beds: 'x' }",
		"src/views/K.vue":                  page("beds"),
	}
	r := read(t, put(t, texts(files)), nil)
	for name, want := range map[string]string{
		"a": "All beds", "b": "Add a bed", "c": "All guests", "d": `t("title")`, "e": "Save", "f": `t("common.many")`, "g": "me@acme",
		"h": "Else", "i": "By default", "j": "In its place", "k": `t("beds")`,
	} {
		d, ok := r.W.Doc("screen:" + name)
		if assert.True(t, ok, name) {
			var said string
			d.Root.Walk(func(e, _ *screen.Element) bool {
				said = cmp.Or(said, e.Text.Text)
				return true
			})
			assert.Equal(t, want, said, name)
		}
	}
	assert.Contains(t, r.Report.Left, source.Left{File: "src/views/K.vue", What: "no text stands under the key “beds”, which it asks for"})
	files["src/locale/en-US.ts"], files["src/views/beds/locale/en-US.ts"], files["src/views/guests/locale/en-US.ts"], files["src/i18n.ts"] = "", "", "", ""
	r = read(t, put(t, texts(files)), nil)
	assert.Contains(t, told(r, "screen:e"), "Speichern", "what there is, where there is no English")
}
