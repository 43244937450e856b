package e2e_test

import (
	"encoding/json"
	"fmt"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/deliver/targets"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/browser"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/database"
	"ubiquant/server"
	"ubiquant/server/assets"
	"ubiquant/server/intake"
	"ubiquant/server/repo"
)

// rowan is a library of Angular's components, built as such are published and packed where it is
// installed: known by attributes and by tags, with places that selectors name, with signals and
// with an NgModule.
func rowan(t *testing.T) *pack.Archive {
	t.Helper()
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	sorrel := packed(t, "@fernhollow/sorrel", "1.0.0")
	bundle, err := sorrel.Bundle()
	require.NoError(t, err)
	in, err := live.Open(w, bundle.Kit, today()).DeliverInput("", nil, bundle.DeliverFiles())
	require.NoError(t, err)
	in.Take(bundle)
	dir := written(t, "angular", in) // an application of Angular has what a library is built with
	install(t, dir)
	src := filepath.Join(dir, "rowan")
	require.NoError(t, os.CopyFS(src, os.DirFS("testdata/rowan")))
	build := exec.Command(filepath.Join(dir, "node_modules", ".bin", "ngc"), "-p", "rowan/tsconfig.json")
	build.Dir = dir
	heavy.Lock()
	out, err := build.CombinedOutput()
	heavy.Unlock()
	require.NoError(t, err, string(out))
	at := filepath.Join(dir, "node_modules", "@fernhollow")
	require.NoError(t, os.MkdirAll(at, 0o755))
	require.NoError(t, os.Rename(src, filepath.Join(at, "rowan")))
	reader, err := assets.Reader()
	require.NoError(t, err)
	a, err := intake.Pack(t.Context(), intake.Options{Dir: dir, Package: "@fernhollow/rowan", Whole: true, Reader: reader})
	require.NoError(t, err)
	for i := range a.Catalog.Entries { // as code that is read tells of them
		if e := &a.Catalog.Entries[i]; e.ID == "rowan-card" {
			e.AddTemplates([]string{"#more", "ng-template[rowanNote]"})
		}
	}
	return a
}

// watering is a screen of it, with something in each kind of place, at times and for each record.
const watering = `{"id":"all","type":"stack","children":[
	{"id":"card","type":"rowan-card","children":[
		{"id":"title","type":"rowan-card-title","slot":"[rowanCardTitle]","text":"Watering"},
		{"id":"mark","type":"rowan-chip","slot":"rowan-chip:not([below]), .rowan-mark","props":{"label":"New"}},
		{"id":"late","type":"row","slot":"rowan-chip:not([below]), .rowan-mark","show":"controls.on","children":[
			{"id":"late-chip","type":"rowan-chip","text":"Late"}]},
		{"id":"when","type":"row","slot":"[rowanCardTitle]","show":"controls.note != ''","children":[{"id":"when-chip","type":"rowan-chip","text":"Today"}]},
		{"id":"who","type":"row","slot":"[rowanCardTitle]","repeat":{"model":"jobs"},"show":"record.name == 'Mist'","children":[{"id":"who-chip","type":"rowan-chip","text":"Early"}]},
		{"id":"note","type":"rowan-field","name":"note","props":{"label":"Note","value":"Ferns"}},
		{"id":"on","type":"rowan-check","name":"on","text":"Only late ones","props":{"checked":false}},
		{"id":"box","type":"row","children":[{"id":"says","type":"rowan-chip","text":{"expr":"controls.note + ' first'"}}]},
		{"id":"extra","type":"rowan-chip","slot":"#more","text":"Extra"},
		{"id":"again","type":"row","slot":"#more","repeat":{"model":"jobs"},"children":[{"id":"again-chip","type":"rowan-chip","props":{"label":{"expr":"record.name + ' again'"}}}]},
		{"id":"noted","type":"rowan-chip","slot":"ng-template[rowanNote]","text":{"expr":"controls.note + ' noted'"}},
		{"id":"actions","type":"rowan-card-actions","slot":"rowan-card-actions","children":[
			{"id":"save","type":"rowan-button","name":"save","text":"Late ones","props":{"tone":"loud","does":"set on true"}}]},
		{"id":"more","type":"row","slot":"rowan-card-actions","repeat":{"model":"jobs"},"children":[
			{"id":"more-chip","type":"rowan-chip","props":{"label":{"expr":"record.name"}}}]}]},
	{"id":"water","type":"rowan-press","text":"Water","props":{"variant":"rowanLoud"}},
	{"id":"wait","type":"rowan-press","text":"Wait"},
	{"id":"dry","type":"piece:sign"},
	{"id":"wet","type":"piece:sign","props":{"mark.text":"Wet","mark.kind":"rowan-badge"}}]}`

// sign is a piece whose element is of another kind where it is used so.
const sign = `{"id":"sign-root","type":"row","children":[{"id":"sign-mark","type":"rowan-chip","name":"mark","text":"Dry"}]}`

// outline says where what is drawn stands: each element with what of the library is around it.
const outline = `(root => [...root.querySelectorAll('button, input, .rowan-card-title, .rowan-chip')].map(e => {
	const around = []
	for (let up = e.parentElement; up && up !== root; up = up.parentElement)
		if (/rowan-/.test(up.className) || up.localName.startsWith('rowan-')) around.push(up.className.match(/rowan-[\w-]+/)?.[0] ?? up.localName)
	return (e.className.match(/rowan-[\w-]+/g) ?? [e.localName]).join(' ') + ' "' + (e.textContent.trim() || e.value) + '" in ' + around.join(' < ')
}))`

// A library of Angular is drawn and heard in the Proof as its own framework does it, and delivered
// in it: by strict templates, in the same places, saying the same.
func TestALibraryOfAngularIsDrawnHeardAndDelivered(t *testing.T) {
	if testing.Short() {
		t.Skip("installs packages and drives Chromium")
	}
	kit := rowan(t)
	k, err := kit.Kit()
	require.NoError(t, err)
	w := model.NewWorkspace("Watering", model.KitRef{Name: k.Name, Version: k.Version, Hash: kit.Hash()})
	w.Models = []sample.Model{{ID: "jobs", Name: "Jobs", Fields: []sample.Field{{Name: "name", Type: sample.Text, Required: true}}}}
	w.Sets = []sample.Set{{ID: "usual", Name: "Usual", Records: map[string][]sample.Record{"jobs": {{"id": "j1", "name": "Mist"}, {"id": "j2", "name": "Soak"}}}}}
	l := live.Open(w, k, today())
	_, err = l.Take(change.Change{Title: "a screen", Steps: []change.Step{
		&change.Create{Document: &screen.Document{Kind: screen.PieceDoc, ID: "sign", Title: "Sign", Root: testkit.Tree(t, sign)}},
		&change.Create{Document: &screen.Document{
			Kind: screen.ScreenDoc, ID: "watering", Title: "Watering", App: "app", Shell: "plain", Route: "/watering", Root: testkit.Tree(t, watering),
		}},
	}})
	require.NoError(t, err)

	j := beginOn(t, "keeper", server.Options{Database: database.Empty(t), Kit: kit, Workspace: l.W})
	j.bench("watering", ">= 10")
	j.untilDrawn("Watering")
	var drawn string
	j.untilDrawn("Soak")
	j.untilDrawn("Ferns first")
	j.inFrame(`JSON.stringify(`+outline+`(document))`, &drawn)
	var want []string
	require.NoError(t, json.Unmarshal([]byte(drawn), &want))
	assert.Equal(t, []string{
		`rowan-card-title "Watering" in rowan-card-head < rowan-card`,
		`rowan-card-title "Today" in rowan-card-head < rowan-card`,
		`rowan-chip "Today" in rowan-chip < rowan-card-title < rowan-card-head < rowan-card`,
		`rowan-card-title "Early" in rowan-card-head < rowan-card`,
		`rowan-chip "Early" in rowan-chip < rowan-card-title < rowan-card-head < rowan-card`,
		`rowan-chip "New" in rowan-chip < rowan-card-head < rowan-card`,
		`input "Ferns" in rowan-field < rowan-field < rowan-card`,
		`input "on" in rowan-check < rowan-card`,
		`rowan-chip "Ferns first" in rowan-chip < rowan-card`,
		`rowan-button rowan-button-loud "Late ones" in rowan-card-actions < rowan-card-foot < rowan-card`,
		`rowan-chip "Mist" in rowan-chip < rowan-card-foot < rowan-card`,
		`rowan-chip "Soak" in rowan-chip < rowan-card-foot < rowan-card`,
		`rowan-chip "Extra" in rowan-chip < rowan-card-more < rowan-card`,
		`rowan-chip "Mist again" in rowan-chip < rowan-card-more < rowan-card`,
		`rowan-chip "Soak again" in rowan-chip < rowan-card-more < rowan-card`,
		`rowan-chip "Ferns noted" in rowan-chip < rowan-card-more < rowan-card`,
		`rowan-press rowan-press-loud "Water" in `,
		`rowan-press "Wait" in `,
		`rowan-chip "Dry" in rowan-chip`,
		`rowan-chip rowan-badge "Wet" in rowan-badge`,
	}, want)

	j.click(button("Preview"))
	j.until(`document.querySelector('button[aria-pressed=true]')?.textContent.trim() === 'Preview'`)
	j.untilInFrame("false", `document.querySelector('body > div').inert`)
	works(t, j.untilInFrame)

	in, err := l.DeliverInput("", nil, nil)
	require.NoError(t, err)
	bundle, err := kit.Bundle()
	require.NoError(t, err)
	in.KitFiles = bundle.DeliverFiles()
	in.Take(bundle)
	to, _ := targets.Find("angular")
	_, notes, err := to.Deliver(in)
	require.NoError(t, err)
	assert.Empty(t, notes)
	dir := written(t, "angular", in)
	own := `import type { UseWatering } from './Watering.parts'

export const useWatering: UseWatering = screen => {
  Object.assign(window, { loud: () => screen.elements.save()?.tone() })
  return {}
}
`
	require.NoError(t, os.WriteFile(filepath.Join(dir, "src/app/screens/Watering.own.ts"), []byte(own), 0o644))
	app := httptest.NewServer(pagesOf(project(t, "angular", dir, "")))
	t.Cleanup(app.Close)
	j.run(chromedp.Navigate(app.URL+"/watering"), browser.Until(`document.body.innerText.includes('Soak')`))
	var got []string
	require.NoError(t, json.Unmarshal([]byte(j.text(`JSON.stringify(`+outline+`(document))`)), &got))
	assert.Equal(t, want, got)
	works(t, func(is, script string) { t.Helper(); j.until(`(` + script + `) === ` + fmt.Sprintf("%q", is)) })
	j.until(`window.loud() === 'loud'`)

	// Read as code it is the same again: each component by its selector, and nothing that bears one is strange.
	r, err := repo.Open(t.Context(), repo.Options{Dir: dir})
	require.NoError(t, err)
	assert.Empty(t, r.Report.Strange)
	assert.Empty(t, r.Report.Unknown)
	require.Len(t, r.Report.Kits, 1)
	assert.Equal(t, "@fernhollow/rowan", r.Report.Kits[0].Name)
	assert.Equal(t, 9, r.Report.Kits[0].Used)
}

// works presses, ticks and types, and looks what comes of it.
func works(t *testing.T, until func(is, script string)) {
	t.Helper()
	const late = `String(` + outline + `(document).includes('rowan-chip "Late" in rowan-chip < rowan-card-head < rowan-card'))`
	until("false", late)
	until("true", `(document.querySelector('.rowan-button').click(), `+late+`)`)
	until("false", `(c => (c.checked && c.click(), `+late+`))(document.querySelector('input[type=checkbox]'))`)
	until("true", `((i => (i.value = 'Moss', i.dispatchEvent(new Event('input', { bubbles: true }))))(document.querySelector('.rowan-field input')), String(document.body.textContent.includes('Moss first')))`)
}

// A workspace without a model is delivered like any: what keeps records holds to strict types.
func TestAnApplicationWithoutRecordsHoldsToItsTypes(t *testing.T) {
	sorrel := packed(t, "@fernhollow/sorrel", "1.0.0")
	bundle, err := sorrel.Bundle()
	require.NoError(t, err)
	w := model.NewWorkspace("Nothing", model.KitRef{Name: bundle.Kit.Name, Version: bundle.Kit.Version, Hash: sorrel.Hash()})
	l := live.Open(w, bundle.Kit, today())
	_, err = l.Take(change.Change{Title: "a screen", Steps: []change.Step{&change.Create{Document: &screen.Document{
		Kind: screen.ScreenDoc, ID: "hello", Title: "Hello", App: "app", Shell: "plain", Route: "/hello",
		Root: testkit.Tree(t, `{"id":"a","type":"stack","children":[{"id":"b","type":"sorrel-button","name":"go","text":"Go","props":{"does":"go /hello"}}]}`),
	}}}})
	require.NoError(t, err)
	in, err := l.DeliverInput("", nil, bundle.DeliverFiles())
	require.NoError(t, err)
	in.Take(bundle)
	// What keeps records is the same in all frameworks; the others' asks the builder what is built.
	check := exec.Command(filepath.Join(testkit.Root(), "web", "node_modules", ".bin", "tsc"),
		"--noEmit", "--strict", "--noUncheckedIndexedAccess", "--exactOptionalPropertyTypes", "--skipLibCheck",
		"--target", "es2022", "--module", "preserve", "--lib", "es2023,dom", "src/app/data/store.ts")
	check.Dir = written(t, "angular", in)
	out, err := check.CombinedOutput()
	assert.NoError(t, err, string(out))
}
