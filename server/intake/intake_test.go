package intake_test

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit/pack"
	"ubiquant/internal/testkit"
	"ubiquant/server/assets"
	"ubiquant/server/intake"
)

// folder writes files below a new folder.
func folder(t *testing.T, files map[string]string) string {
	t.Helper()
	dir := t.TempDir()
	for name, text := range files {
		file := filepath.Join(dir, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(file), 0o755))
		require.NoError(t, os.WriteFile(file, []byte(text), 0o644))
	}
	return dir
}

const orchard = "node_modules/@acme/orchard/"

func elements() map[string]string {
	return map[string]string{
		orchard + "package.json":              `{"name":"@acme/orchard","version":"2.1.0","main":"dist/index.js","customElements":"dist/custom-elements.json","dependencies":{"lit":"^3"}}`,
		orchard + "dist/index.js":             `export const version = '2.1.0'`,
		orchard + "dist/chip.js":              `class Chip extends HTMLElement {}; customElements.define('ac-chip', Chip)`,
		orchard + "dist/styles.css":           `:root{--ac-color-ink:#111;--ac-space-1:4px;--x:url(./font.woff2)}@font-face{font-family:Ac;src:url(./font.woff2)}.dark{--ac-color-ink:#eee;--a:1px;--b:2px}`,
		orchard + "dist/font.woff2":           "font",
		orchard + "dist/custom-elements.json": `{"modules":[{"path":"chip.js","declarations":[{"tagName":"ac-chip","name":"Chip","slots":[{"name":""}],"members":[{"kind":"field","name":"tone","attribute":"tone","type":{"text":"'calm' | 'loud'"}}]},{"tagName":"ac-ghost","name":"Ghost"}]}]}`,
	}
}

func run(t *testing.T, o intake.Options) *pack.Archive {
	t.Helper()
	a, err := intake.Pack(context.Background(), o)
	require.NoError(t, err)
	return a
}

// Where the manifest lies is read from package.json; the modules that it names are what
// registers elements; styles, fonts and themes come along; what nothing defines is told.
func TestALibraryOfElementsIsPacked(t *testing.T) {
	a := run(t, intake.Options{Dir: folder(t, elements()), Package: "@acme/orchard"})
	assert.Equal(t, "elements", a.Meta.Drawn)
	assert.Equal(t, "class=dark", a.Meta.Themes.Dark)
	assert.Contains(t, string(a.Files[pack.ModuleFile]), "ac-chip")
	assert.Contains(t, string(a.Files[pack.SheetFile]), "@font-face")
	fonts := 0
	for name := range a.Files {
		if strings.HasPrefix(name, pack.Assets) {
			fonts++
		}
	}
	assert.Equal(t, 1, fonts)
	require.Len(t, a.Meta.Missing, 1)
	assert.Contains(t, a.Meta.Missing[0].What, "<ac-ghost>")
	k, err := a.Kit()
	require.NoError(t, err)
	chip, ok := k.Component("ac-chip")
	require.True(t, ok)
	assert.Equal(t, "status", chip.Role)
	b := run(t, intake.Options{Dir: folder(t, elements()), Package: "@acme/orchard"})
	assert.Equal(t, a.Hash(), b.Hash(), "wherever it is packed, it is the same kit")
}

// A package that is declared as optional, and is not there, takes nobody else with it.
func TestAnOptionalPackageThatLacksIsStoodInFor(t *testing.T) {
	files := elements()
	files[orchard+"dist/chip.js"] = `import { draw } from 'lit-lost'; class Chip extends HTMLElement { static shown = draw('x').at } customElements.define('ac-chip', Chip)`
	var says map[string]any
	require.NoError(t, json.Unmarshal([]byte(files[orchard+"package.json"]), &says))
	says["peerDependencies"] = map[string]string{"lit-lost": "*"}
	says["peerDependenciesMeta"] = map[string]any{"lit-lost": map[string]bool{"optional": true}}
	text, err := json.Marshal(says)
	require.NoError(t, err)
	files[orchard+"package.json"] = string(text)
	a := run(t, intake.Options{Dir: folder(t, files), Package: "@acme/orchard"})
	said := ""
	for _, m := range a.Meta.Missing {
		said += m.What + " " + m.Remedy + "\n"
	}
	assert.Contains(t, said, "lit-lost is not installed, and chip.js imports it without asking for it")
	assert.Contains(t, said, "npm install lit-lost")
	_, ok := a.Meta.Peers["lit-lost"]
	assert.False(t, ok, "nobody is to install what is not needed")
}

// Style sheets that are called as modules are come with those; none is the theme of all.
func TestASheetAComponentIsNoTheme(t *testing.T) {
	files := elements()
	for _, name := range []string{"chip", "card", "bar", "list"} {
		files[orchard+"dist/themes/"+name+".css"] = ":host { display: block }"
		files[orchard+"dist/"+name+".js"] = "customElements.define('ac-" + name + "', class extends HTMLElement {})"
	}
	delete(files, orchard+"dist/orchard.css")
	a := run(t, intake.Options{Dir: folder(t, files), Package: "@acme/orchard"})
	assert.NotContains(t, strings.Join(a.Meta.Styles, " "), "themes/")
}

// What lacks is named, with where it is asked for and what installs it.
func TestWhatLacksIsSaid(t *testing.T) {
	for name, c := range map[string]struct {
		change map[string]string
		o      intake.Options
		says   []string
	}{
		"the package":  {nil, intake.Options{Package: "@acme/other"}, []string{"@acme/other is not installed", "npm install @acme/other"}},
		"a dependency": {map[string]string{orchard + "dist/chip.js": `import 'lit-lost'; customElements.define('ac-chip', class extends HTMLElement {})`}, intake.Options{}, []string{"lit-lost", "dist/chip.js:1", "npm install lit-lost"}},
		"a module of a dependency": {map[string]string{
			orchard + "dist/chip.js":               `import '@acme/pear/lost'; customElements.define('ac-chip', class extends HTMLElement {})`,
			"node_modules/@acme/pear/package.json": `{"name":"@acme/pear","version":"3.0.1","main":"index.js"}`,
			"node_modules/@acme/pear/index.js":     ``,
		}, intake.Options{}, []string{"dist/chip.js:1", "@acme/pear/lost", "no such module in @acme/pear 3.0.1"}},
		"the framework":   {map[string]string{orchard + "package.json": `{"name":"@acme/orchard","version":"1.0.0","main":"dist/index.js","peerDependencies":{"react":">=18"}}`}, intake.Options{}, []string{"needs react", "npm install react"}},
		"a version":       {map[string]string{orchard + "package.json": `{"name":"@acme/orchard"}`}, intake.Options{}, []string{"a name and a version"}},
		"a whole package": {map[string]string{orchard + "package.json": `{`}, intake.Options{}, []string{"package.json"}},
		"any component": {map[string]string{
			orchard + "package.json":              `{"name":"@acme/orchard","version":"1.0.0","main":"dist/index.js"}`,
			orchard + "dist/custom-elements.json": `{"modules":[]}`, orchard + "dist/chip.js": ``,
		}, intake.Options{}, []string{"no component", "manifest", "--module"}},
		"a kind": {nil, intake.Options{Drawn: "stone"}, []string{"stone", "accepted"}},
	} {
		t.Run(name, func(t *testing.T) {
			files := elements()
			for k, v := range c.change {
				files[k] = v
			}
			c.o.Dir = folder(t, files)
			if c.o.Package == "" {
				c.o.Package = "@acme/orchard"
			}
			_, err := intake.Pack(context.Background(), c.o)
			require.Error(t, err)
			for _, words := range c.says {
				assert.Contains(t, err.Error(), words)
			}
		})
	}
}

// A package says where its files are; nothing outside of it is read for that.
func TestAPackageCannotPointOutOfItself(t *testing.T) {
	files := elements()
	files["secret.json"] = `{"modules":[{"path":"x","declarations":[{"tagName":"se-cret"}]}]}`
	files[orchard+"package.json"] = `{"name":"@acme/orchard","version":"2.1.0","main":"dist/index.js","customElements":"../../../secret.json"}`
	dir := folder(t, files)
	require.NoError(t, os.Symlink(filepath.Join(dir, "secret.json"), filepath.Join(dir, orchard, "custom-elements.json")))
	a := run(t, intake.Options{Dir: dir, Package: "@acme/orchard"})
	_, found := a.Catalog.Find("se-cret")
	assert.False(t, found)
	_, found = a.Catalog.Find("ac-chip")
	assert.True(t, found, "the manifest where manifests lie is read")
}

// A style sheet that cannot be imported is left out and said; the rest is packed.
func TestWhatFailsAloneIsLeftOutAndSaid(t *testing.T) {
	a := run(t, intake.Options{Dir: folder(t, elements()), Package: "@acme/orchard", Styles: []string{"@acme/orchard/lost.css"}})
	said := ""
	for _, m := range a.Meta.Missing {
		said += m.What + "; "
	}
	assert.Contains(t, said, "@acme/orchard/lost.css cannot be imported")
	assert.NotEmpty(t, a.Files[pack.ModuleFile])
}

// Components of React and Vue are read out of type declarations: props with their values,
// slots and events; the provider that all want stands around them.
func TestTypeDeclarationsAreRead(t *testing.T) {
	reader, err := assets.Reader()
	require.NoError(t, err)
	a := run(t, intake.Options{Dir: filepath.Join(testkit.Root(), "kits", "yarrow"), Package: ".", Reader: reader})
	assert.Equal(t, "react", a.Meta.Drawn)
	assert.Equal(t, "YarrowProvider", a.Meta.Wrap)
	assert.Equal(t, "data-yarrow=dark", a.Meta.Themes.Dark)
	button, ok := a.Catalog.Find("yarrow-button")
	require.True(t, ok)
	variant, _ := button.Prop("variant")
	assert.Equal(t, []string{"primary", "secondary", "ghost"}, variant.Values)
	assert.Equal(t, "secondary", variant.Default)
	assert.Equal(t, "How much it stands out.", variant.Summary)
	_, inherited := button.Prop("formAction")
	assert.False(t, inherited, "what every button of a page has is not this library's")
	item, ok := a.Catalog.Find("yarrow-tabs-item")
	require.True(t, ok)
	assert.Equal(t, "Tabs.Item", item.Export)
	options, _ := a.Catalog.Find("yarrow-select")
	data, _ := options.Prop("options")
	assert.Equal(t, "data", data.Type)

	v := run(t, intake.Options{Dir: filepath.Join(testkit.Root(), "kits", "tansy"), Package: ".", Reader: reader})
	card, ok := v.Catalog.Find("tansy-card")
	require.True(t, ok)
	assert.Equal(t, "TsCard", card.Export, "code keeps the name")
	assert.Len(t, card.Slots, 2)
	field, _ := v.Catalog.Find("tansy-text-field")
	assert.Equal(t, "update:modelValue", field.Events[0].Name)
	level, _ := v.Catalog.Find("tansy-heading")
	number, _ := level.Prop("level")
	assert.True(t, number.Numbers)
}

// A machine without Node packs what can be read without it, and says what it leaves out.
func TestWithoutNodeTheRestIsRead(t *testing.T) {
	a := run(t, intake.Options{Dir: folder(t, elements()), Package: "@acme/orchard", Reader: []byte("x"), Node: "/nowhere/node"})
	said := ""
	for _, l := range a.Catalog.Left {
		said += l.String() + "\n"
	}
	assert.Contains(t, said, "types")
}

// A manifest that names types, and says nothing of them, is completed from the declarations; and a
// package that exports its main module under another path is imported by that.
func TestTypesThatAManifestNamesAreLookedUp(t *testing.T) {
	reader, err := assets.Reader()
	require.NoError(t, err)
	field := func(name, typ string) string {
		return `{"kind":"field","name":"` + name + `","attribute":"` + name + `","type":{"text":"` + typ + `"}}`
	}
	files := map[string]string{
		orchard + "package.json":      `{"name":"@acme/orchard","version":"2.1.0","type":"module","main":"es/index.js","exports":{"./es":"./es/index.js","./es/*":"./es/*"},"customElements":"custom-elements.json"}`,
		orchard + "es/index.js":       `import './chip/chip.js'; import './tag/tag.js'`,
		orchard + "es/index.d.ts":     `export * from './chip/chip'; export * from './tag/tag'`,
		orchard + "es/chip/chip.js":   `customElements.define('ac-chip', class extends HTMLElement {})`,
		orchard + "es/chip/chip.d.ts": `export declare enum TONE { CALM = "calm", LOUD = "loud" }` + "\n" + `export type Size = 's' | 'm'` + "\n" + `export type Shape = { round: boolean }`,
		orchard + "es/tag/tag.js":     `customElements.define('ac-tag', class extends HTMLElement {})`,
		orchard + "es/tag/tag.d.ts":   `export declare enum TAG_TONE { A = "a", B = "b" }` + "\n" + `export { TAG_TONE as TONE_OF_TAG }` + "\n" + `type Size = 'xs' | 'xl'` + "\n" + `export declare const one: Size`,
		orchard + "custom-elements.json": `{"modules":[
			{"path":"src/chip/chip.ts","declarations":[{"tagName":"ac-chip","name":"Chip","members":[` + strings.Join([]string{field("tone", "TONE | undefined"), field("size", "Size"), field("shape", "Shape"), field("like", "TONE | string")}, ",") + `]}]},
			{"path":"src/tag/tag.ts","declarations":[{"tagName":"ac-tag","name":"Tag","members":[` + strings.Join([]string{field("tone", "TAG_TONE"), field("size", "Size"), field("name", "Nowhere")}, ",") + `]}]}]}`,
	}
	a := run(t, intake.Options{Dir: folder(t, files), Package: "@acme/orchard", Reader: reader})
	k, err := a.Kit()
	require.NoError(t, err)
	values := func(tag, prop string) ([]string, bool) {
		c, ok := k.Component(tag)
		require.True(t, ok, tag)
		p, ok := c.Prop(prop)
		require.True(t, ok, prop)
		return p.Values, p.Open
	}
	for _, want := range []struct {
		tag, prop string
		values    []string
		open      bool
	}{
		{"ac-chip", "tone", []string{"calm", "loud"}, false}, {"ac-chip", "like", []string{"calm", "loud"}, true},
		{"ac-chip", "size", []string{"s", "m"}, false}, {"ac-tag", "size", []string{"xs", "xl"}, false},
		{"ac-tag", "tone", []string{"a", "b"}, false}, {"ac-tag", "name", nil, false}, {"ac-chip", "shape", nil, false},
	} {
		got, open := values(want.tag, want.prop)
		assert.Equal(t, want.values, got, "%s %s", want.tag, want.prop)
		assert.Equal(t, want.open, open, "%s %s", want.tag, want.prop)
	}
}

// A library that says of few of its components what may stand in them has not said that nothing may
// stand in the rest.
func TestSilenceOfMostIsNoEmptyElement(t *testing.T) {
	slotted := func(says int) []string {
		files := elements()
		var list []string
		for i := range 6 {
			slots := ""
			if i < says {
				slots = `,"slots":[{"name":"icon"}]`
			}
			list = append(list, `{"tagName":"ac-n`+string(rune('a'+i))+`","name":"N"`+slots+`}`)
		}
		files[orchard+"dist/custom-elements.json"] = `{"modules":[{"path":"chip.js","declarations":[` + strings.Join(list, ",") + `]}]}`
		files[orchard+"dist/chip.js"] = `for (const t of 'abcdef') customElements.define('ac-n' + t, class extends HTMLElement {})`
		a := run(t, intake.Options{Dir: folder(t, files), Package: "@acme/orchard"})
		var main []string
		for _, e := range a.Catalog.Entries {
			for _, s := range e.Slots {
				if s.Name == "" {
					main = append(main, e.ID)
				}
			}
		}
		return main
	}
	assert.Len(t, slotted(0), 6)
	assert.Equal(t, []string{"ac-nb", "ac-nc", "ac-nd", "ac-ne", "ac-nf"}, slotted(1))
	assert.Empty(t, slotted(3), "here the rest is empty indeed")
}

// Where the look of a library is a package of its own, what is installed beside and called alike is it.
func TestTheSheetOfASisterPackageIsTaken(t *testing.T) {
	for name, taken := range map[string]bool{"orchard": true, "orchard-css": true, "orchard-styles": true, "orchids": false, "grove": false} {
		files := map[string]string{
			"package.json":                                 `{"dependencies":{"orchard-ui":"1","` + name + `":"2"}}`,
			"node_modules/orchard-ui/package.json":         `{"name":"orchard-ui","version":"1.0.0","main":"index.js","customElements":"custom-elements.json"}`,
			"node_modules/orchard-ui/index.js":             `customElements.define('or-apple', class extends HTMLElement {})`,
			"node_modules/orchard-ui/custom-elements.json": `{"modules":[{"path":"index.js","declarations":[{"tagName":"or-apple","name":"Apple"}]}]}`,
			"node_modules/" + name + "/package.json":       `{"name":"` + name + `","version":"2.0.0","style":"dist/all.css"}`,
			"node_modules/" + name + "/dist/all.css":       `:root { --apple: red }`,
		}
		if name == "orchard-styles" { // it says of no sheet that it is the one, and has it where they lie
			files["node_modules/"+name+"/package.json"] = `{"name":"` + name + `","version":"2.0.0"}`
			files["node_modules/"+name+"/css/styles.css"] = files["node_modules/"+name+"/dist/all.css"]
			delete(files, "node_modules/"+name+"/dist/all.css")
		}
		a := run(t, intake.Options{Dir: folder(t, files), Package: "orchard-ui"})
		assert.Equal(t, taken, strings.Contains(string(a.Files[pack.SheetFile]), "--apple"), name)
		assert.Equal(t, taken, strings.Contains(strings.Join(a.Meta.Notes, "\n"), "installed beside and called alike"), name)
	}
}

// What a library's sheet speaks of and nothing sets is looked for in the packages that it asks for: the
// sheets that set most of it, none for a purpose of its own, and the dark counterpart.
func TestSheetsThatSetWhatALibrarySpeaksOf(t *testing.T) {
	speaks, sets, few := "", "", ""
	for i := range 40 {
		speaks += fmt.Sprintf(".or-%d{color:var(--or-ink-%d)}", i, i)
		sets += fmt.Sprintf("--or-ink-%d:#123;", i)
		if i < 5 {
			few += fmt.Sprintf("--or-ink-%d:#456;", i)
		}
	}
	files := map[string]string{
		"package.json":                                  `{"dependencies":{"orchard-ui":"1"}}`,
		"node_modules/orchard-ui/package.json":          `{"name":"orchard-ui","version":"1.0.0","main":"index.js","style":"all.css","customElements":"custom-elements.json","dependencies":{"ground":"1","other":"1"}}`,
		"node_modules/orchard-ui/all.css":               speaks,
		"node_modules/orchard-ui/index.js":              `customElements.define('or-apple', class extends HTMLElement {})`,
		"node_modules/orchard-ui/custom-elements.json":  `{"modules":[{"path":"index.js","declarations":[{"tagName":"or-apple","name":"Apple"}]}]}`,
		"node_modules/ground/package.json":              `{"name":"ground","version":"1.0.0"}`,
		"node_modules/ground/themes/light.css":          ":root{" + sets + "}",
		"node_modules/ground/themes/dark.css":           "[data-ground=dark]{" + sets + "}[data-ground=dark] a{" + sets + "}[data-ground=dark] b{" + sets + "}",
		"node_modules/ground/themes/light-contrast.css": ":root{--x:1;" + sets + "}",
		"node_modules/other/package.json":               `{"name":"other","version":"1.0.0"}`,
		"node_modules/other/few.css":                    ":root{" + few + "}",
	}
	a := run(t, intake.Options{Dir: folder(t, files), Package: "orchard-ui"})
	assert.Equal(t, []string{"ground/themes/light.css", "ground/themes/dark.css", "orchard-ui/all.css"}, a.Meta.Styles)
	assert.Equal(t, "data-ground=dark", a.Meta.Themes.Dark)
	assert.Contains(t, strings.Join(a.Meta.Notes, "\n"), "ground/themes/light.css: it sets 40 custom properties")

	a = run(t, intake.Options{Dir: folder(t, files), Package: "orchard-ui", Styles: []string{"orchard-ui/all.css"}})
	assert.Equal(t, []string{"orchard-ui/all.css"}, a.Meta.Styles, "who names sheets gets those")
	assert.NotContains(t, strings.Join(a.Meta.Notes, "\n"), "ground/themes", "and no other is said to be taken")
}

// A sheet that the package lets only style sheets import, by a path of its own or by a pattern, is
// packed all the same; what it exports for code comes before what it exports for sheets.
func TestASheetForSheetsOnlyIsPacked(t *testing.T) {
	for name, exports := range map[string]string{
		"by its path":  `"./*":"./dist/*","./themes/*":{"style":"./dist/*.css"},"./dist/styles.css":{"style":"./dist/styles.css"}`,
		"by a pattern": `"./themes/*":{"style":"./dist/*.css"},"./dist/custom-elements.json":"./dist/custom-elements.json"`,
	} {
		files := elements()
		files[orchard+"package.json"] = `{"name":"@acme/orchard","version":"2.1.0","customElements":"dist/custom-elements.json","exports":{".":{"sass":"./dist/_all.scss","default":"./dist/index.js"},` + exports + `}}`
		a := run(t, intake.Options{Dir: folder(t, files), Package: "@acme/orchard"})
		assert.Contains(t, string(a.Files[pack.SheetFile]), "--ac-color-ink", name)
	}
}

// A package may say of a main module that it does not ship; what its elements are registered by
// counts, and what lacks is told.
func TestAMainModuleThatIsNotShipped(t *testing.T) {
	files := elements()
	files[orchard+"package.json"] = `{"name":"@acme/orchard","version":"2.1.0","type":"module","customElements":"dist/custom-elements.json","exports":{".":"./built/index.js","./chip":"./dist/chip.js"}}`
	a := run(t, intake.Options{Dir: folder(t, files), Package: "@acme/orchard"})
	assert.Contains(t, string(a.Files[pack.ModuleFile]), ".define(")
	assert.Contains(t, strings.Join(a.Meta.Notes, "\n"), "./built/index.js")
}

// Of modules that share what registers an element, the one that gives the call under its name does.
func TestACallIsTakenFromWhereItHasItsName(t *testing.T) {
	files := map[string]string{
		orchard + "package.json":               `{"name":"@acme/orchard","version":"2.1.0","type":"module","main":"dist/components/index.js","customElements":"elements.json"}`,
		orchard + "elements.json":              `{"modules":[{"path":"src/chip.tsx","declarations":[{"tagName":"ac-chip","customElement":true,"name":"Chip"}]}]}`,
		orchard + "dist/components/index.js":   `export {}`,
		orchard + "dist/components/p-a1b2.js":  `class Chip extends HTMLElement {}; function defineCustomElement() { for (const tag of ['ac-chip']) customElements.define(tag, Chip) } export { Chip as C, defineCustomElement as d }`,
		orchard + "dist/components/ac-chip.js": `import { C, d as defineCustomElement$1 } from './p-a1b2.js'; const AcChip = C; const defineCustomElement = defineCustomElement$1; export { AcChip, defineCustomElement }`,
	}
	a := run(t, intake.Options{Dir: folder(t, files), Package: "@acme/orchard"})
	assert.Empty(t, a.Meta.Missing)
	assert.Contains(t, string(a.Files[pack.ModuleFile]), "ac-chip")
}

// Of icons nobody expects that something stands in them, however many they are.
func TestIconsAreGivenNoPlace(t *testing.T) {
	files := elements()
	var list []string
	for _, name := range []string{"add", "edit", "file", "home", "leaf", "moon", "pond", "tree"} {
		list = append(list, `{"tagName":"ac-`+name+`-icon","name":"I"}`)
	}
	list = append(list, `{"tagName":"ac-card","name":"Card","slots":[{"name":""}]}`, `{"tagName":"ac-rule","name":"Rule"}`)
	files[orchard+"dist/custom-elements.json"] = `{"modules":[{"path":"chip.js","declarations":[` + strings.Join(list, ",") + `]}]}`
	a := run(t, intake.Options{Dir: folder(t, files), Package: "@acme/orchard"})
	for _, e := range a.Catalog.Entries {
		assert.Equal(t, e.ID == "ac-card", len(e.Slots) > 0, e.ID)
	}
}

// A manifest may name the classes, and modules beside them make those elements of the page; what begins
// all their names may stand in one place.
func TestModulesThatOnlyRegisterAreTaken(t *testing.T) {
	files := map[string]string{
		orchard + "package.json":         `{"name":"@acme/orchard","version":"2.1.0","type":"module","main":"lib/index.js","customElements":"custom-elements.json"}`,
		orchard + "lib/index.js":         "export { Chip } from './chip/chip.js'",
		orchard + "lib/chip/chip.js":     "export class Chip extends HTMLElement {}",
		orchard + "lib/chip/define.js":   "import { Chip } from './chip.js'\nimport { all } from '../all.js'\ncustomElements.define(`${all.begin}-chip`, Chip)",
		orchard + "lib/all.js":           "export const all = { begin: globalThis.begin ?? 'ac' }",
		orchard + "custom-elements.json": `{"modules":[{"path":"lib/chip/chip.js","declarations":[{"tagName":"ac-chip","name":"Chip","members":[{"kind":"field","name":"tone","attribute":"tone","type":{"text":"'calm' | 'loud'"}}]},{"tagName":"ac-ghost","name":"Ghost"}]}]}`,
	}
	a := run(t, intake.Options{Dir: folder(t, files), Package: "@acme/orchard"})
	assert.Contains(t, string(a.Files[pack.ModuleFile]), ".define(")
	require.Len(t, a.Meta.Missing, 1)
	assert.Contains(t, a.Meta.Missing[0].What, "<ac-ghost>")
}
