package deliver_test

import (
	"archive/tar"
	"bytes"
	"compress/gzip"
	"flag"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/deliver"
	"ubiquant/core/deliver/targets"
	"ubiquant/core/live"
	"ubiquant/core/sample"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/stateful"
)

var renew = flag.Bool("renew", false, "write the golden files anew")

func delivery(t *testing.T, target string, screens ...string) map[string]string {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	return deliveryOf(t, live.Open(w, testkit.Sorrel(t), "2026-11-23"), target, screens...)
}

func deliveryOf(t *testing.T, l *live.Live, target string, screens ...string) map[string]string {
	in, err := l.DeliverInput(
		"ops",
		screens,
		map[string][]byte{
			"package.json": []byte(
				`{"name":"@fernhollow/sorrel","version":"1.0.0","exports":{".":"./dist/sorrel.js","./sorrel.css":"./dist/sorrel.css"}}`,
			),
			"dist/sorrel.js":  []byte("//"),
			"dist/sorrel.css": []byte("a{}"),
		},
	)
	require.NoError(t, err)
	tg, ok := targets.Find(target)
	require.True(t, ok)
	files, err := tg.Deliver(in)
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
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	l := live.Open(w, testkit.Sorrel(t), "2026-11-23")
	stateful.List(t, l, "screen:tickets")
	stateful, pages := deliveryOf(t, l, "vue", "tickets"), deliveryOf(t, l, "html", "tickets")
	golden := map[string]string{
		"TicketsScreen-states.vue": stateful["src/screens/TicketsScreen.vue"], "tickets.loading.html": pages["tickets.loading.html"], "acts.js": pages["acts.js"],
		"TicketsScreen.vue": vue["src/screens/TicketsScreen.vue"], "SettingsScreen.vue": vue["src/screens/SettingsScreen.vue"], "StaffShell.vue": vue["src/shells/StaffShell.vue"],
		"FactPiece.vue": vue["src/pieces/FactPiece.vue"], "SpecimensScreen.vue": vue["src/screens/SpecimensScreen.vue"], "router.ts": vue["src/router.ts"], "models.ts": vue["src/data/models.ts"], "package.json": vue["package.json"],
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
	assert.Contains(t, files, "src/screens/SignInScreen.vue")
	assert.Contains(t, files, "src/shells/PlainShell.vue")
	assert.NotContains(t, files, "src/shells/StaffShell.vue")
	assert.NotContains(t, files, "src/screens/TicketsScreen.vue")
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	_, err = live.Open(w, testkit.Sorrel(t), "2026-11-23").DeliverInput("ops", []string{"nowhere"}, nil)
	assert.ErrorContains(t, err, `no screen "nowhere"`)
}

func TestARecordThatIsNotWholeKeepsNothingFromBuilding(t *testing.T) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	l := live.Open(w, testkit.Sorrel(t), "2026-11-23")
	assert.Contains(t, deliveryOf(t, l, "vue", "tickets")["src/data/models.ts"], "\n  title: string\n")
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
	assert.Contains(t, deliveryOf(t, l, "vue", "tickets")["src/data/models.ts"], "\n  title?: string\n")
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
