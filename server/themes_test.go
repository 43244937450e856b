package server_test

import (
	"archive/zip"
	"bytes"
	"encoding/base64"
	"encoding/json"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
)

type object = map[string]any

func text(t *testing.T, p *person, path string) string {
	res := p.do("GET", path, nil, nil)
	require.Equal(t, 200, res.StatusCode, path)
	b, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	return string(b)
}

func TestAThemeIsTriedKeptTakenAwayAndTakenBack(t *testing.T) {
	r := start(t)
	ida, noor := signIn(t, r, "ida"), signIn(t, r, "noor")
	heather := object{
		"name":   "Heather",
		"from":   "light",
		"making": object{"accent": "#7A3E73", "radius": 0, "density": "compact"},
		"tokens": object{"space.1": "3px"},
	}

	var tried struct {
		CSS     string
		Values  map[string]string
		Changes []struct{ Path, Before, After string }
		Checks  []kit.Check
		Reach   live.Reach
	}
	require.Equal(t, 200, noor.post("/api/themes/preview", heather, &tried), "anybody may try")
	assert.Contains(t, tried.CSS, "[data-theme~='draft'] {\n")
	assert.Contains(t, tried.CSS, "--sorrel-color-accent: #7A3E73;")
	assert.Equal(t, "0px", tried.Values["radius.box"])
	assert.Equal(t, "3px", tried.Values["space.1"])
	assert.Greater(t, tried.Reach.Elements, 500, "it shows on nearly everything")
	for _, c := range tried.Checks {
		assert.False(t, c.Fails, "%+v", c)
	}

	code, why := noor.detail("POST", "/api/themes", heather)
	assert.Equal(t, 403, code, why)
	var out struct{ Seq int }
	require.Equal(t, 200, ida.post("/api/themes", heather, &out))
	var dress struct{ CSS string }
	require.Equal(t, 200, noor.get("/api/dress", &dress))
	assert.Contains(t, dress.CSS, "[data-theme~='heather']")
	var glance struct{ Themes []string }
	require.Equal(t, 200, noor.get("/api/workspace", &glance))
	assert.Equal(t, []string{"light", "dark", "compact", "heather"}, glance.Themes)

	// Taken away and read back, it is the same theme.
	dtcg := text(t, noor, "/api/themes/heather/take/dtcg")
	assert.True(t, json.Valid([]byte(dtcg)))
	css := text(t, noor, "/api/themes/heather/take/css")
	assert.Contains(t, css, "--sorrel-radius-box: 0px;")
	bundle := text(t, noor, "/api/themes/heather/take/bundle")
	z, err := zip.NewReader(bytes.NewReader([]byte(bundle)), int64(len(bundle)))
	require.NoError(t, err)
	var names []string
	for _, f := range z.File {
		names = append(names, f.Name)
	}
	assert.Equal(t, []string{"sorrel-heather.tokens.json", "sorrel-heather.css", "README.md"}, names)
	var read struct{ Tokens map[string]json.RawMessage }
	require.Equal(t, 200, noor.post("/api/themes/read", object{"text": dtcg, "from": "light"}, &read))
	again := object{"name": "Again", "from": "light", "tokens": read.Tokens}
	require.Equal(t, 200, noor.post("/api/themes/preview", again, &tried))
	assert.Equal(t, strings.ReplaceAll(css, "heather", "draft"), tried.CSS)

	// It goes along with a delivery.
	var delivered struct{ Files []struct{ Path, Text string } }
	require.Equal(t, 200, noor.post("/api/deliver", object{"target": "vue"}, &delivered))
	sheet, main := "", ""
	for _, f := range delivered.Files {
		switch f.Path {
		case "src/app/themes.css":
			sheet = f.Text
		case "src/app/index.ts":
			main = f.Text
		}
	}
	assert.Equal(t, css, sheet)
	assert.Contains(t, main, "import './themes.css'")

	require.Equal(t, 200, ida.post("/api/changes/"+jsonNumber(out.Seq)+"/undo", object{}, nil))
	require.Equal(t, 200, noor.get("/api/workspace", &glance))
	assert.Equal(t, []string{"light", "dark", "compact"}, glance.Themes)
}

func jsonNumber(n int) string { b, _ := json.Marshal(n); return string(b) }

func TestATokenOfTheKitIsChangedForAll(t *testing.T) {
	r := start(t)
	ida := signIn(t, r, "ida")
	change := object{"id": "dark", "from": "dark", "tokens": object{"color.on-bad": "#101010"}}
	var tried struct {
		Changes []struct{ Path, Before, After string }
		Reach   live.Reach
	}
	require.Equal(t, 200, ida.post("/api/themes/preview", change, &tried))
	require.Len(t, tried.Changes, 1)
	assert.Equal(t, "#101010", tried.Changes[0].After)
	var tags []string
	for _, c := range tried.Reach.Components {
		tags = append(tags, c.Tag)
	}
	assert.Contains(t, tags, "sorrel-button")
	assert.NotContains(t, tags, "sorrel-card")
	require.Equal(t, 200, ida.post("/api/themes", change, nil))
	var k struct {
		Tokens []struct {
			Path   string
			Values map[string]string
		}
	}
	require.Equal(t, 200, ida.get("/api/kit", &k))
	for _, tok := range k.Tokens {
		if tok.Path == "color.on-bad" {
			assert.Equal(t, "#101010", tok.Values["dark"])
			assert.Equal(t, "#FFFFFF", tok.Values["light"])
		}
	}
	// Spacing reaches elements that are set to the step, by default too.
	var reach live.Reach
	require.Equal(t, 200, ida.post("/api/reach", object{"paths": []string{"space.4"}}, &reach))
	assert.Greater(t, len(reach.Docs), 30)
}

func TestBadThemesAreRefusedAndNothingIsHalfTaken(t *testing.T) {
	r := start(t)
	ida := signIn(t, r, "ida")
	for name, c := range map[string]struct {
		path string
		body object
		want string
	}{
		"no colour":       {"/api/themes", object{"name": "X", "from": "light", "making": object{"accent": "mauve"}}, `the accent "mauve" is no colour`},
		"no such token":   {"/api/themes", object{"name": "X", "from": "light", "tokens": object{"color.mauve": "#fff"}}, "color.mauve"},
		"a circle":        {"/api/themes", object{"name": "X", "from": "light", "tokens": object{"font.text": "{font.heading}"}}, "leads back to itself"},
		"breaking out":    {"/api/themes", object{"name": "X", "from": "light", "tokens": object{"font.text": "a; } body { x"}}, "cannot be a value"},
		"wrong kind":      {"/api/themes", object{"name": "X", "from": "light", "tokens": object{"space.1": "#fff"}}, "space.1: it is no length"},
		"no name":         {"/api/themes", object{"name": " 7 ", "from": "light"}, "a name with letters"},
		"no start":        {"/api/themes", object{"name": "X", "from": "dusk"}, "light, dark, compact"},
		"a broken file":   {"/api/themes/read", object{"text": `{"color":`, "from": "light"}, "line 1"},
		"a foreign token": {"/api/themes/read", object{"text": `{"tint":{"$type":"color","a":{"$value":"#fff"}}}`, "from": "light"}, "Sorrel has no token tint.a"},
		"another type":    {"/api/themes/read", object{"text": "{\n\"color\":{\"ink\":{\"$type\":\"dimension\",\"$value\":\"1px\"}}}", "from": "light"}, "/color/ink (line 2"},
		"no font":         {"/api/fonts", object{"data": base64.StdEncoding.EncodeToString([]byte("GIF89a not a font at all, but long enough to look at"))}, "cannot be used as a font"},
		"no base64":       {"/api/fonts", object{"data": "§"}, "not base64"},
		"no such font":    {"/api/fonts/remove", object{"file": "x.woff2"}, "x.woff2"},
		"a script":        {"/api/icons/check", object{"svg": "<svg viewBox=\"0 0 1 1\">\n<script/></svg>", "name": "x"}, `line 2`},
		"the kit's name":  {"/api/icons/check", object{"svg": `<svg viewBox="0 0 1 1"><path d="M0 0"/></svg>`, "name": "leaf"}, `has an icon "leaf" already`},
		"an icon by hand": {"/api/changes", object{"change": object{"title": "x", "steps": []any{object{"do": "icon", "icon": object{"name": "x", "svg": "<svg onload=\"x\" viewBox=\"0 0 1 1\"/>"}}}}}, "onload"},
		"no reason":       {"/api/changes", object{"change": object{"title": "x", "steps": []any{object{"do": "leave-out", "left": object{"tag": "sorrel-tag"}}}}}, "needs a reason"},
		"no package.json": {"/api/packages", object{"app": "operations", "text": "{]"}, "package.json"},
	} {
		code, why := ida.detail("POST", c.path, c.body)
		assert.Contains(t, []int{422, 404}, code, "%s: %s", name, why)
		assert.Contains(t, why, c.want, name)
	}
	var glance struct {
		Seq    int
		Themes []string
	}
	require.Equal(t, 200, ida.get("/api/workspace", &glance))
	assert.Zero(t, glance.Seq, "nothing was taken")
	assert.Len(t, glance.Themes, 3)
}

func TestFontsAndIconsOfOnesOwnReachTheFrames(t *testing.T) {
	r := start(t)
	ida, noor := signIn(t, r, "ida"), signIn(t, r, "noor")
	data, err := os.ReadFile(
		filepath.Join(testkit.Root(), "kits/sorrel/dist/fonts/alegreya-sans-latin-500-normal.woff2"),
	)
	require.NoError(t, err)
	require.Equal(t, 200, ida.post("/api/fonts", object{"data": base64.StdEncoding.EncodeToString(data)}, nil))
	svg := `<svg viewBox="0 0 24 24"><path d="M2 12h20" stroke="currentColor"/></svg>`
	require.Equal(
		t,
		200,
		noor.post(
			"/api/changes",
			object{
				"change": object{
					"title": "Add the icon rail",
					"steps": []any{
						object{
							"do":   "icon",
							"icon": object{"name": "rail", "meanings": []string{"fence"}, "svg": svg},
						},
					},
				},
			},
			nil,
		),
	)
	var dress struct {
		CSS, Add string
		Icons    map[string]string
	}
	require.Equal(t, 200, noor.get("/api/dress", &dress))
	assert.Equal(t, "addIcons", dress.Add)
	assert.Contains(t, dress.Icons["rail"], `d="M2 12h20"`)
	_, after, ok := strings.Cut(dress.CSS, "src: url('")
	require.True(t, ok)
	file, _, _ := strings.Cut(after, "'")
	res := (&person{t: t, url: r.URL}).do("GET", file, nil, map[string]string{"Origin": "null"})
	assert.Equal(t, 200, res.StatusCode)
	assert.Equal(t, "*", res.Header.Get("Access-Control-Allow-Origin"))
	got, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	assert.Equal(t, data, got)

	var found struct{ Matches []struct{ Kind, ID string } }
	require.Equal(t, 200, noor.get("/api/find?q=fence&only=kit", &found))
	require.NotEmpty(t, found.Matches)
	assert.Equal(t, "rail", found.Matches[0].ID, "found by its meaning at once")

	// What was added stands in the workspace's file and comes back from it.
	exported := text(t, ida, "/api/export")
	w, err := wsfile.Read([]byte(exported))
	require.NoError(t, err)
	require.Len(t, w.Own.Fonts, 1)
	assert.Equal(t, data, w.Own.Fonts[0].Data)
	require.Len(t, w.Own.Icons, 1)
	assert.Equal(t, exported, string(wsfile.Write(w)))

	var delivered struct{ Files []struct{ Path, Text string } }
	require.Equal(t, 200, noor.post("/api/deliver", object{"target": "html"}, &delivered))
	var paths []string
	for _, f := range delivered.Files {
		paths = append(paths, f.Path)
		if f.Path == "icons.js" {
			assert.Contains(t, f.Text, "import { addIcons } from './kit/sorrel.js'")
		}
	}
	assert.Contains(t, paths, "icons.js")
	assert.Contains(t, paths, "fonts/alegreya-sans-500.woff2")
	require.Equal(t, 200, ida.post("/api/fonts/remove", object{"file": "alegreya-sans-500.woff2"}, nil))
}
