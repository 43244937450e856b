package deliver_test

import (
	"archive/tar"
	"bytes"
	"compress/gzip"
	"flag"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/targets"
	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/stateful"
)

var renew = flag.Bool("renew", false, "write the golden files anew")

// kitFiles are the package of a kit, as far as a delivery asks for it.
var kitFiles = map[string][]byte{
	"package.json":    []byte(`{"name":"@fernhollow/sorrel","version":"1.0.0","exports":{".":"./dist/sorrel.js","./sorrel.css":"./dist/sorrel.css"}}`),
	"dist/sorrel.js":  []byte("//"),
	"dist/sorrel.css": []byte("a{}"),
}

func delivery(t *testing.T, target string, screens ...string) map[string]string {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	return deliveryOf(t, live.Open(w, testkit.Sorrel(t), "2026-11-23"), target, screens...)
}

func deliveryOf(t *testing.T, l *live.Live, target string, screens ...string) map[string]string {
	in, err := l.DeliverInput("ops", screens, kitFiles)
	require.NoError(t, err)
	tg, ok := targets.Find(target)
	require.True(t, ok)
	files, _, err := tg.Deliver(in)
	require.NoError(t, err)
	out := map[string]string{}
	for _, f := range files {
		assert.False(t, strings.HasPrefix(f.Path, "/") || strings.Contains(f.Path, ".."), f.Path)
		out[f.Path] = string(f.Data)
	}
	return out
}

func TestCodeOutIsAsReviewed(t *testing.T) {
	vue, html := delivery(t, "vue"), delivery(t, "html")
	react, angular := delivery(t, "react"), delivery(t, "angular")
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	l := live.Open(w, testkit.Sorrel(t), "2026-11-23")
	stateful.List(t, l, "screen:tickets")
	stateful, pages := deliveryOf(t, l, "vue", "tickets"), deliveryOf(t, l, "html", "tickets")
	golden := map[string]string{
		"TicketsScreen.tsx": react["src/app/screens/TicketsScreen.tsx"], "FactPiece.tsx": react["src/app/pieces/FactPiece.tsx"], "Settings.parts.react.ts": react["src/app/screens/Settings.parts.ts"],
		"tickets-screen.component.ts": angular["src/app/screens/tickets-screen.component.ts"], "tickets-screen.component.html": angular["src/app/screens/tickets-screen.component.html"],
		"Settings.parts.ts": vue["src/app/screens/Settings.parts.ts"], "Settings.own.ts": vue["src/app/screens/Settings.own.ts"], "lists.ts": vue["src/app/data/lists.ts"],
		"VisitorsScreen.vue":       vue["src/app/screens/VisitorsScreen.vue"],
		"TicketsScreen-states.vue": stateful["src/app/screens/TicketsScreen.vue"], "tickets.loading.html": pages["tickets.loading.html"], "acts.js": pages["acts.js"],
		"TicketsScreen.vue": vue["src/app/screens/TicketsScreen.vue"], "SettingsScreen.vue": vue["src/app/screens/SettingsScreen.vue"], "StaffShell.vue": vue["src/app/shells/StaffShell.vue"],
		"FactPiece.vue": vue["src/app/pieces/FactPiece.vue"], "SpecimensScreen.vue": vue["src/app/screens/SpecimensScreen.vue"], "router.ts": vue["src/app/routes.ts"], "models.ts": vue["src/app/data/models.ts"], "package.json": vue["package.json"],
		"sign-in.html": html["sign-in.html"], "pages.js": html["pages.js"],
	}
	for name, got := range golden {
		path := filepath.Join("testdata", name+".golden")
		if *renew {
			require.NoError(t, os.MkdirAll("testdata", 0o755))
			require.NoError(t, os.WriteFile(path, []byte(got), 0o644))
		}
		want, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.Equal(t, string(want), got, name)
	}
}

func TestOnlyChosenScreensAndTheirShellsAreDelivered(t *testing.T) {
	files := delivery(t, "vue", "sign-in")
	assert.Contains(t, files, "src/app/screens/SignInScreen.vue")
	assert.Contains(t, files, "src/app/shells/PlainShell.vue")
	assert.NotContains(t, files, "src/app/shells/StaffShell.vue")
	assert.NotContains(t, files, "src/app/screens/TicketsScreen.vue")
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	_, err = live.Open(w, testkit.Sorrel(t), "2026-11-23").DeliverInput("ops", []string{"nowhere"}, nil)
	assert.ErrorContains(t, err, `no screen "nowhere"`)
}

func TestARecordThatIsNotWholeKeepsNothingFromBuilding(t *testing.T) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	l := live.Open(w, testkit.Sorrel(t), "2026-11-23")
	assert.Contains(t, deliveryOf(t, l, "vue", "tickets")["src/app/data/models.ts"], "\n  title: string\n")
	_, err = l.Take(
		change.Change{
			Title: "x",
			Steps: []change.Step{
				&change.Records{
					Rows: change.Rows{
						Set:   "usual",
						Model: "tickets",
						Put:   []sample.Record{{"id": "half", "due": "2026-01-01", "state": "open"}},
					},
				},
			},
		},
	)
	require.NoError(t, err)
	assert.Contains(t, deliveryOf(t, l, "vue", "tickets")["src/app/data/models.ts"], "\n  title?: string | undefined\n")
}

func TestAPackageIsTheSameBytesFromTheSameFiles(t *testing.T) {
	files := map[string][]byte{"b.js": []byte("b"), "a/c.js": []byte("c")}
	one, err := deliver.Pack(files)
	require.NoError(t, err)
	two, err := deliver.Pack(files)
	require.NoError(t, err)
	assert.True(t, bytes.Equal(one, two))
	zip, err := gzip.NewReader(bytes.NewReader(one))
	require.NoError(t, err)
	r := tar.NewReader(zip)
	var names []string
	for {
		h, err := r.Next()
		if err == io.EOF {
			break
		}
		require.NoError(t, err)
		names = append(names, h.Name)
	}
	assert.Equal(t, []string{"package/a/c.js", "package/b.js"}, names)
}

func TestTextThatLooksLikeCodeStaysText(t *testing.T) {
	k := testkit.Sorrel(t)
	e := testkit.Tree(t, `{"id":"a","type":"sorrel-text","text":"{{ evil }} <b>","props":{"tone":"quiet"}}`)
	vue, _ := targets.Find("vue")
	html, _ := targets.Find("html")
	assert.Equal(t, `<sorrel-text tone="quiet">{{ '{{' }} evil }} &lt;b&gt;</sorrel-text>`, vue.Element(k, k, e))
	assert.Equal(t, `<sorrel-text tone="quiet">{{ evil }} &lt;b&gt;</sorrel-text>`, html.Element(k, k, e))
}

// What goes in comes out, or is listed as left out: each element of each screen has its
// line in the code of each target, and each text stands in it.
func TestWhatGoesInComesOutOrIsListed(t *testing.T) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	l := live.Open(w, testkit.Sorrel(t), "2026-11-23")
	stateful.List(t, l, "screen:tickets")
	in, err := l.DeliverInput("ops", nil, nil)
	require.NoError(t, err)
	in.Published = true
	for _, target := range targets.All() {
		if target.Framework == "" {
			continue
		}
		files, notes, err := target.Inside(in)
		require.NoError(t, err)
		places := map[string]map[string]emit.Place{}
		code := map[string]string{}
		for _, f := range files {
			if f.Doc != "" {
				code[f.Doc] += strings.Join(strings.Fields(string(f.Data)), " ")
			}
			if f.Doc != "" && len(f.Places) > 0 {
				places[f.Doc] = f.Places
				for id, p := range f.Places {
					assert.Equal(t, "<", string(f.Data[p.At:p.At+1]), "%s of %s", id, f.Path)
					assert.Equal(t, 1+strings.Count(string(f.Data[:p.At]), "\n"), p.Line, "%s of %s", id, f.Path)
				}
			}
		}
		out := map[string]bool{}
		for _, n := range notes {
			out[n.Doc+" "+n.Element] = true
		}
		for _, d := range in.Screens {
			roots := []*screen.Element{d.Root}
			for _, s := range d.States {
				roots = append(roots, in.Root(d, s.Name))
			}
			for _, root := range roots {
				root.Walk(func(e, _ *screen.Element) bool {
					if out[d.Address()+" "+e.ID] || e.Show == "false" {
						return false
					}
					if assert.Contains(t, places[d.Address()], e.ID, "%s of %s in %s", e.ID, d.ID, target.ID) && e.Text.Kind == screen.Literal && e.Text.Text != "" {
						words := strings.Join(strings.Fields(e.Text.Text), " ")
						assert.Contains(t, code[d.Address()], words, "%s in %s", d.ID, target.ID)
					}
					return true
				})
			}
		}
	}
}

// Tabs that lead to routes are marked by the route that is shown, the nearest of them; a screen whose
// route is one alone knows which that is.
func TestTabsThatLeadToRoutesAreMarkedByTheRoute(t *testing.T) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	put := func(id string, tabs string) {
		t.Helper()
		d, ok := w.Doc("screen:" + id)
		require.True(t, ok)
		d.Root = testkit.Tree(t, `{"id":"r","type":"section","children":[{"id":"t","type":"sorrel-tabs","children":[`+tabs+`]}]}`)
	}
	put("beds", `{"id":"a","type":"sorrel-tab","props":{"label":"All","to":"/beds"}},{"id":"b","type":"sorrel-tab","props":{"label":"New","to":"/beds/new"}}`)
	put("specimen", `{"id":"a","type":"sorrel-tab","props":{"label":"About","to":{"expr":"'/specimens/' + route.id"}}},
		{"id":"b","type":"sorrel-tab","props":{"label":"Care","to":{"expr":"'/specimens/' + route.id + '/care'"}}}`)
	l := live.Open(w, testkit.Sorrel(t), "2026-11-23")
	of := func(target, mark string, screens ...string) string {
		t.Helper()
		for _, text := range deliveryOf(t, l, target, screens...) {
			if strings.Contains(text, mark) {
				return text
			}
		}
		t.Fatalf("%s stands in no file", mark)
		return ""
	}
	fixed, by := of("vue", `data-screen="beds"`, "beds"), of("vue", `data-screen="specimen"`, "specimen")
	assert.Contains(t, fixed, `<sorrel-tab label="All" to="/beds" active />`)
	assert.NotContains(t, fixed, "active(")
	assert.Equal(t, 2, strings.Count(by, ":active="), by)
	assert.Contains(t, strings.Join(strings.Fields(by), " "), "active($route.path, url(`/specimens/${")
	assert.Regexp(t, `<sorrel-tab [^>]*active[^>]*label="All"`, of("html", `label="All"`, "beds"))
}

// What stands around everything is handed the theme that its library gives.
func TestWhatStandsAroundIsHandedItsTheme(t *testing.T) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	in, err := live.Open(w, testkit.Sorrel(t), "2026-11-23").DeliverInput("ops", []string{"tickets"}, kitFiles)
	require.NoError(t, err)
	in.Wrap, in.WrapTheme = "Ground", &pack.WrapTheme{Prop: "theme", Light: "dayTheme", Dark: "nightTheme"}
	for target, want := range map[string][]string{
		"react": {"import { Ground, dayTheme } from '@fernhollow/sorrel'\n", "\n      <Ground theme={dayTheme}>\n        <Outlet />\n      </Ground>\n"},
		"vue":   {"import { Ground, dayTheme } from '@fernhollow/sorrel'\n", `<Ground :theme="dayTheme"><RouterView /></Ground>`},
	} {
		tg, _ := targets.Find(target)
		files, _, err := tg.Inside(in)
		require.NoError(t, err)
		for _, f := range files {
			if strings.HasPrefix(f.Path, "GroundFrame.") {
				for _, text := range want {
					assert.Contains(t, string(f.Data), text)
				}
			}
		}
	}
}

// What a library opens by a flag of its own is opened by it, and closed by the event that goes with the
// flag: as that says where it says whether it is open.
func TestWhatOpensByAFlagOfItsOwnIsOpenedByIt(t *testing.T) {
	own := func(closes string) *kit.Kit {
		sheet := &kit.Component{
			Tag: "ac-sheet", Title: "sheet", Export: "Sheet", Module: "@acme/orchard", Family: "feedback",
			Props: []kit.Prop{{Name: "visible", Type: kit.Bool}}, Slots: []kit.Slot{{Text: true}}, Events: []kit.Named{{Name: closes}},
		}
		return &kit.Kit{Name: "@acme/orchard", Version: "1.0.0", Components: []*kit.Component{sheet.Seal()}}
	}
	for _, c := range []struct{ target, closes, want string }{
		{"vue", "update:visible", `<Sheet :visible="opened.s" @update:visible="opened.s = $event === true">`},
		{"vue", "close", `<Sheet :visible="opened.s" @close="opened.s = false">`},
		{"react", "onVisibleChange", `visible={opened.s} onVisibleChange={(event: unknown) => open('s', held(event, 'visible') === true)} >`},
		{"react", "onHide", `visible={opened.s} onHide={() => open('s', false)}>`},
	} {
		w, err := wsfile.Read(testkit.Demo(t))
		require.NoError(t, err)
		k, err := testkit.Sorrel(t).Beside("1.0.0+parts.1", []*kit.Kit{own(c.closes)}, [][]kit.Tie{nil})
		require.NoError(t, err)
		d, _ := w.Doc("screen:tickets")
		d.Root = testkit.Tree(t, `{"id":"r","type":"section","children":[
			{"id":"b","type":"sorrel-button","text":"More","props":{"does":"open s"}},{"id":"s","type":"ac-sheet","text":"Inside"}]}`)
		in, err := live.Open(w, k, "2026-11-23").DeliverInput("ops", []string{"tickets"}, kitFiles)
		require.NoError(t, err)
		target, _ := targets.Find(c.target)
		files, _, err := target.Deliver(in)
		require.NoError(t, err)
		code := ""
		for _, f := range files {
			if f.Doc == "screen:tickets" {
				code += strings.Join(strings.Fields(string(f.Data)), " ")
			}
		}
		assert.Contains(t, code, c.want)
	}
}

// What is drawn as an outline has no code that could be delivered: a box stands for it, that is told,
// and nothing is imported or installed for it.
func TestOutlinesAreNotDelivered(t *testing.T) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	archive, _, err := pack.Outlined(nil, &kit.Kit{Components: []*kit.Component{{Tag: "ui-plot", Title: "plot", Export: "Plot"}}})
	require.NoError(t, err)
	plots, err := archive.Kit()
	require.NoError(t, err)
	k, err := testkit.Sorrel(t).Beside("1.0.0+outlines.1", []*kit.Kit{plots}, [][]kit.Tie{nil})
	require.NoError(t, err)
	d, _ := w.Doc("screen:tickets")
	d.Root.Children = append(d.Root.Children, &screen.Element{ID: "plot", Type: "ui-plot"})
	in, err := live.Open(w, k, "2026-11-23").DeliverInput("ops", []string{"tickets"}, kitFiles)
	require.NoError(t, err)
	library := &pack.Archive{
		Meta: pack.Meta{Name: "@acme/orchard", Version: "1.0.0", Short: "orchard", Drawn: "elements"},
		Catalog: &describe.Catalog{Name: "@acme/orchard", Version: "1.0.0", Drawn: "elements", Entries: []describe.Entry{
			{ID: "orchard-card", Tag: "orchard-card", From: "manifest", Module: "card.js"},
		}},
		Files: map[string][]byte{pack.ModuleFile: []byte("export {}")},
	}
	library, err = library.Beside([]pack.Part{{Archive: archive, Use: pack.Use{Components: []string{"ui-plot"}}}})
	require.NoError(t, err)
	bundle, err := library.Bundle()
	require.NoError(t, err)
	require.Len(t, bundle.Parts, 1)
	taken := in
	taken.Take(bundle)
	assert.Empty(t, taken.Parts)
	for _, target := range targets.All() {
		files, notes, err := target.Deliver(in)
		require.NoError(t, err)
		assert.True(t, target.Framework == "" || slices.ContainsFunc(notes, func(n deliver.Note) bool {
			return n.Element == "plot" && strings.Contains(n.Message, "drawn as an outline")
		}), "%s: %v", target.ID, notes)
		for _, f := range files {
			assert.NotContains(t, string(f.Data), `"outlines"`, f.Path)
			assert.NotContains(t, string(f.Data), "'outlines'", f.Path)
			assert.NotContains(t, string(f.Data), "<ui-plot", f.Path)
		}
		assert.NotEmpty(t, target.Refuses(plots), "a kit of nothing else cannot be delivered")
	}
}

// Code goes by what the application around is made with: its router, how its routes stand, and
// what builds it. Every screen is in the routes, whichever way they stand.
func TestCodeGoesByTheApplicationAround(t *testing.T) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	in, err := live.Open(w, testkit.Sorrel(t), "2026-11-23").DeliverInput("ops", nil, kitFiles)
	require.NoError(t, err)
	inside := func(target string, home deliver.Home) map[string]string {
		in.Home = home
		tg, _ := targets.Find(target)
		files, _, err := tg.Inside(in)
		require.NoError(t, err)
		out := map[string]string{}
		for _, f := range files {
			out[f.Path] = string(f.Data)
		}
		return out
	}
	for _, target := range []string{"vue", "react"} {
		for name, text := range inside(target, deliver.Home{NoVite: true}) {
			assert.NotContains(t, text, "import.meta", "%s for %s", name, target)
			assert.NotContains(t, text, "vite/client", "%s for %s", name, target)
		}
	}
	assert.Contains(t, inside("react", deliver.Home{})["data/bases.ts"], "import.meta.env")

	for _, elements := range []bool{false, true} {
		files := inside("react", deliver.Home{Router: "react-router-dom", Elements: elements})
		for name, text := range files {
			assert.NotContains(t, text, "'react-router'", name)
		}
		_, list := files["routes.ts"]
		assert.NotEqual(t, elements, list, "routes stand in one way")
		routes := files["routes.ts"] + files["routes.tsx"] + files["loaded.ts"]
		for _, d := range in.Screens {
			assert.Contains(t, routes, d.Route)
			assert.Contains(t, routes, emit.Pascal(d.ID)+"Screen")
		}
	}
	for name := range inside("react", deliver.Home{}) {
		assert.NotContains(t, []string{"Shown.tsx", "loaded.ts", "lib/arrival.ts"}, name, "what only routes of elements want")
	}
}

// Plain elements are what they are in every target, set to what they are set to, under the names that each
// language has for it.
func TestPlainElementsAreDeliveredAsWhatTheyAre(t *testing.T) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	d, _ := w.Doc("screen:tickets")
	d.Root.Children = append(d.Root.Children,
		&screen.Element{ID: "zz-1", Type: "html-label", Text: screen.Lit("Bed"), Props: []screen.Prop{{Name: "for", Value: screen.Lit("bed")}}},
		&screen.Element{ID: "zz-2", Type: "html-input", Props: []screen.Prop{
			{Name: "checked", Value: screen.FlagValue(true)}, {Name: "disabled", Value: screen.FlagValue(false)}, {Name: "id", Value: screen.Lit("bed")},
			{Name: "readonly", Value: screen.Lit("true")}, {Name: "tabindex", Value: screen.Lit("2")}, {Name: "type", Value: screen.Lit("checkbox")},
		}},
		&screen.Element{ID: "zz-3", Type: "html-a", Text: screen.Lit("Go"), Props: []screen.Prop{{Name: "href", Value: screen.Lit("javascript:x")}}},
		&screen.Element{ID: "zz-4", Type: "html-img", Props: []screen.Prop{{Name: "alt", Value: screen.Lit("")}, {Name: "src", Value: screen.Lit("/fern.png")}}},
	)
	l := live.Open(w, testkit.Sorrel(t), "2026-11-23")
	for target, want := range map[string][]string{
		"react":   {`<label htmlFor="bed">`, `<input id="bed" defaultChecked readOnly tabIndex={2} type="checkbox" />`, `<img alt="" src="/fern.png" />`},
		"vue":     {`<label for="bed">`, `<input id="bed" checked readonly :tabindex="2" type="checkbox" />`, `<img alt="" src="/fern.png" />`},
		"angular": {`<label for="bed">`, `<input id="bed" checked readonly tabindex="2" type="checkbox" />`, `<img alt="" src="/fern.png" />`},
		"html":    {` for="bed">Bed</label>`, `id="bed"`, `src="/fern.png"`},
	} {
		code := ""
		for _, text := range deliveryOf(t, l, target, "tickets") {
			code += text
		}
		for _, part := range want {
			assert.Contains(t, code, part, target)
		}
		assert.NotContains(t, code, "javascript:x", target)
		assert.NotContains(t, code, "disabled={false}", target)
	}
}
