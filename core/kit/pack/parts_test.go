package pack_test

import (
	"archive/zip"
	"bytes"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
)

// plum is a part of one element with a sheet of its own.
func plum() *pack.Archive {
	return &pack.Archive{
		Meta: pack.Meta{Name: "@acme/plum-day", Version: "2.1.0", Title: "Plum day", Short: "plum-day", Drawn: "elements"},
		Catalog: &describe.Catalog{Name: "@acme/plum-day", Version: "2.1.0", Drawn: "elements", Entries: []describe.Entry{
			{ID: "plum-day", Tag: "plum-day", From: "manifest", Module: "day.js"},
			{ID: "plum-week", Tag: "plum-week", From: "manifest", Module: "week.js"},
		}},
		Files: map[string][]byte{
			pack.ModuleFile: []byte("export {}"),
			pack.SheetFile:  []byte(".plum { --plum-accent: #123456 } .plum.dark { --plum-accent: #abcdef }"),
			"assets/b.png":  []byte("y"),
		},
	}
}

// orchard is a kit that has tokens.
func orchard() *pack.Archive {
	a := small()
	a.Catalog.Tokens = []describe.Token{{Name: "--orchard-accent", Values: map[string]string{"light": "#1E5F6E"}}}
	return a
}

func tied(components ...string) pack.Use {
	return pack.Use{Components: components, Ties: []kit.Tie{{Property: "--plum-accent", Token: "color.accent"}}}
}

func TestAPartStandsBesideAKit(t *testing.T) {
	a, err := orchard().Beside([]pack.Part{{Archive: plum(), Use: tied("plum-day")}})
	require.NoError(t, err)
	assert.Equal(t, "1.0.0+plum-day.2.1.0", a.Meta.Version)
	src, err := a.Bytes()
	require.NoError(t, err)
	again, err := pack.Read(src)
	require.NoError(t, err)
	assert.Equal(t, a.Hash(), again.Hash(), "read as it was written")

	b, err := again.Bundle()
	require.NoError(t, err)
	day, ok := b.Kit.Component("plum-day")
	require.True(t, ok)
	assert.Equal(t, "Plum day", b.Kit.Of(day).Title)
	assert.Equal(t, "@acme/plum-day@2.1.0", b.Kit.PackageOf(day))
	_, ok = b.Kit.Component("plum-week")
	assert.False(t, ok, "it was not taken")
	button, ok := b.Kit.Component("orchard-button")
	require.True(t, ok)
	assert.Nil(t, b.Kit.Of(button))
	assert.Equal(t, "1.0.0", b.Kit.Published())
	assert.Equal(t, "1.0.0", b.Package.Version)
	assert.Equal(t, "vue", b.Meta.Drawn, "one framework, beside elements")

	// All that is drawn with comes along, and what is delivered stays apart.
	for _, name := range []string{"base.js", "part-1.js", "assets/a.woff2", "assets/b.png"} {
		assert.Contains(t, b.Files, name)
	}
	assert.Contains(t, string(b.Files[pack.ModuleFile]), "export const drawers = [base.drawer, p1.drawer]")
	assert.NotContains(t, b.Drawing(), "part-1.js")
	sheet := string(b.Sheet())
	assert.Contains(t, sheet, "--plum-accent: var(--orchard-accent) !important;")
	assert.Contains(t, sheet, ".plum.dark {", "wherever its own styles set it")
	assert.Equal(t, sheet[strings.Index(sheet, ":root,"):], b.Parts[0].Ties)
}

// A version that tells of a build of its own keeps it.
func TestAKitsOwnBuildStays(t *testing.T) {
	base := orchard()
	base.Meta.Version, base.Catalog.Version = "1.0.0+b5", "1.0.0+b5"
	a, err := base.Beside([]pack.Part{{Archive: plum(), Use: tied("plum-day")}})
	require.NoError(t, err)
	assert.Equal(t, base.Hash(), a.Own().Hash())
}

func TestWhatDoesNotGoTogetherIsSaid(t *testing.T) {
	other := plum()
	other.Catalog.Entries[0].ID = "orchard-button"
	framed := plum()
	framed.Meta.Drawn, framed.Catalog.Drawn = "react", "react"
	with, err := orchard().Beside([]pack.Part{{Archive: plum(), Use: tied("plum-day")}})
	require.NoError(t, err)
	for name, c := range map[string]struct {
		parts []pack.Part
		why   string
	}{
		"nothing taken":      {[]pack.Part{{Archive: plum()}}, "nothing of Plum day is taken"},
		"twice":              {[]pack.Part{{Archive: plum(), Use: tied("plum-day")}, {Archive: plum(), Use: tied("plum-week")}}, "is there already"},
		"no such component":  {[]pack.Part{{Archive: plum(), Use: tied("plum-year")}}, `no component "plum-year"`},
		"one name for two":   {[]pack.Part{{Archive: other, Use: pack.Use{Components: []string{"orchard-button"}}}}, `has a component "orchard-button", and so has @acme/orchard`},
		"two frameworks":     {[]pack.Part{{Archive: framed, Use: tied("plum-day")}}, "one page holds one framework"},
		"no such token":      {[]pack.Part{{Archive: plum(), Use: pack.Use{Components: []string{"plum-day"}, Ties: []kit.Tie{{Property: "--plum-accent", Token: "color.gone"}}}}}, "color.gone"},
		"no property":        {[]pack.Part{{Archive: plum(), Use: pack.Use{Components: []string{"plum-day"}, Ties: []kit.Tie{{Property: "x}body{", Token: "color.accent"}}}}}, "no custom property"},
		"tied twice":         {[]pack.Part{{Archive: plum(), Use: pack.Use{Components: []string{"plum-day"}, Ties: []kit.Tie{{Property: "--a-b", Token: "color.accent"}, {Property: "--a-b", Token: "color.accent"}}}}}, "tied twice"},
		"a part with a part": {[]pack.Part{{Archive: with, Use: pack.Use{Components: []string{"orchard-button"}}}}, "parts of its own"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := orchard().Beside(c.parts)
			assert.ErrorContains(t, err, c.why)
		})
	}
}

// Whatever stands beside it, a kit without it is the kit as it was; and the same parts give the same
// kit, whatever stood there before.
func TestPartsComeAndGo(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		base := orchard()
		was := base.Hash()
		draw := func(label string) *pack.Archive {
			use := pack.Use{Components: rapid.SliceOfNDistinct(rapid.SampledFrom([]string{"plum-day", "plum-week"}), 1, 2, rapid.ID[string]).Draw(t, label)}
			if rapid.Bool().Draw(t, label+" tied") {
				use.Ties = tied().Ties
			}
			a, err := base.Beside([]pack.Part{{Archive: plum(), Use: use}})
			require.NoError(t, err)
			return a
		}
		one, two := draw("one"), draw("two")
		assert.NotEqual(t, was, one.Hash())
		assert.Equal(t, was, one.Own().Hash())
		none, err := one.Beside(nil)
		require.NoError(t, err)
		assert.Equal(t, was, none.Hash())
		over, err := one.Beside(two.Parts)
		require.NoError(t, err)
		assert.Equal(t, two.Hash(), over.Hash())
	})
}

func TestHostilePartsAreRefused(t *testing.T) {
	a, err := orchard().Beside([]pack.Part{{Archive: plum(), Use: tied("plum-day")}})
	require.NoError(t, err)
	src, err := a.Bytes()
	require.NoError(t, err)
	whole := unzipped(t, src)
	for name, change := range map[string]func(map[string]string){
		"parts without their list":   func(f map[string]string) { delete(f, pack.PartsFile) },
		"a list that cannot be read": func(f map[string]string) { f[pack.PartsFile] = "{" },
		"more than are there": func(f map[string]string) {
			f[pack.PartsFile] = `[{"components":["plum-day"]},{"components":["plum-day"]}]`
		},
		"one that nobody speaks of": func(f map[string]string) { f["parts/2/kit.js"] = "" },
		"a way out":                 func(f map[string]string) { f["parts/1/../../x"] = "" },
		"a part of a part":          func(f map[string]string) { f["parts/1/parts/1/kit.js"] = "" },
		"a folder of another kind":  func(f map[string]string) { f["parts/1/secret/x"] = "" },
		"an unknown component": func(f map[string]string) {
			f[pack.PartsFile] = `[{"components":["plum-day"],"ties":[{"property":"--plum-accent","token":"color.gone"}]}]`
		},
	} {
		t.Run(name, func(t *testing.T) {
			files := map[string]string{}
			for k, v := range whole {
				files[k] = v
			}
			change(files)
			_, err := pack.Read(zipped(t, files, 0o644))
			assert.Error(t, err)
		})
	}
}

func unzipped(t *testing.T, src []byte) map[string]string {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(src), int64(len(src)))
	require.NoError(t, err)
	out := map[string]string{}
	for _, f := range z.File {
		r, err := f.Open()
		require.NoError(t, err)
		b, err := io.ReadAll(r)
		require.NoError(t, err)
		out[f.Name] = string(b)
	}
	return out
}
