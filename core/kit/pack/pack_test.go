package pack_test

import (
	"archive/zip"
	"bytes"
	"io/fs"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
	"ubiquant/internal/testkit"
	"ubiquant/server/assets"
)

func small() *pack.Archive {
	return &pack.Archive{
		Meta: pack.Meta{Name: "@acme/orchard", Version: "1.0.0", Short: "orchard", Drawn: "vue"},
		Catalog: &describe.Catalog{Name: "@acme/orchard", Version: "1.0.0", Drawn: "vue", Entries: []describe.Entry{{
			ID: "orchard-button", Export: "Button", Module: "@acme/orchard", From: "types",
			Props: []describe.Prop{{Name: "tone", Type: "choice", Values: []string{"calm", "loud"}, From: "types"}}, Slots: []describe.Slot{{Name: ""}},
		}}},
		Files: map[string][]byte{pack.ModuleFile: []byte("export {}"), "assets/a.woff2": []byte("x")},
	}
}

func TestAnArchiveIsReadAsItIsWritten(t *testing.T) {
	a := small()
	b, err := a.Bytes()
	require.NoError(t, err)
	again, err := pack.Read(b)
	require.NoError(t, err)
	assert.Equal(t, a.Hash(), again.Hash(), "the address is the content's")
	c, err := again.Bytes()
	require.NoError(t, err)
	assert.Equal(t, b, c)
	other := small()
	other.Files[pack.ModuleFile] = []byte("export { }")
	assert.NotEqual(t, a.Hash(), other.Hash())
}

func zipped(t *testing.T, files map[string]string, mode fs.FileMode) []byte {
	t.Helper()
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for name, text := range files {
		h := &zip.FileHeader{Name: name, Method: zip.Deflate}
		h.SetMode(mode)
		w, err := z.CreateHeader(h)
		require.NoError(t, err)
		_, err = w.Write([]byte(text))
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	return b.Bytes()
}

// An archive from anywhere is refused with the reason and the place, and never taken half.
func TestHostileArchivesAreRefused(t *testing.T) {
	good, err := small().Bytes()
	require.NoError(t, err)
	for name, c := range map[string]struct {
		src  []byte
		says string
	}{
		"no archive":     {[]byte("PK nothing"), "no packed kit"},
		"cut short":      {good[:len(good)/2], "no packed kit"},
		"out of it":      {zipped(t, map[string]string{"../../etc/passwd": "x"}, 0o644), "leads out"},
		"absolute":       {zipped(t, map[string]string{"/etc/passwd": "x"}, 0o644), "leads out"},
		"backslashes":    {zipped(t, map[string]string{`a\..\b`: "x"}, 0o644), "leads out"},
		"other folder":   {zipped(t, map[string]string{"secret/x": "x"}, 0o644), "assets, package and parts alone"},
		"a link":         {zipped(t, map[string]string{"kit.js": "/etc/passwd"}, fs.ModeSymlink|0o777), "link"},
		"a bomb":         {zipped(t, map[string]string{"kit.js": strings.Repeat("0", pack.MaxFile+1)}, 0o644), "unpacks to more"},
		"nothing in it":  {zipped(t, map[string]string{"kit.js": ""}, 0o644), "missing"},
		"no description": {zipped(t, map[string]string{"kit.json": "{}", "catalog.json": "{}", "kit.js": ""}, 0o644), "format"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := pack.Read(c.src)
			require.Error(t, err)
			assert.Contains(t, err.Error(), c.says)
		})
	}
	lies := small()
	lies.Catalog.Version = "2.0.0"
	b, err := lies.Bytes()
	require.NoError(t, err)
	_, err = pack.Read(b)
	assert.ErrorContains(t, err, "speaks of")
}

// The demo's kit, packed as any library is, is what its own package says.
func TestTheDemoKitComesByTheSameDoor(t *testing.T) {
	kits, err := assets.Kits()
	require.NoError(t, err)
	b, err := kits[0].Bundle()
	require.NoError(t, err)
	own := testkit.Sorrel(t)
	require.Equal(t, len(own.Components), len(b.Kit.Components))
	for i, c := range own.Components {
		d := b.Kit.Components[i]
		assert.Equal(t, c.Tag, d.Tag)
		assert.Equal(t, c.Role, d.Role, c.Tag)
		assert.Equal(t, c.Example, d.Example, c.Tag)
		assert.Empty(t, d.Guesses, "%s: its makers' notes speak of it", c.Tag)
		for j, p := range c.Props {
			q := d.Props[j]
			q.From, q.Shape, q.Numbers = p.From, p.Shape, p.Numbers
			assert.Equal(t, p, q, c.Tag)
		}
	}
	assert.Equal(t, own.Tokens, b.Kit.Tokens)
	assert.NotNil(t, b.PackageFiles, "its package travels along")
	assert.Equal(t, "data-theme=dark", b.Meta.Themes.Dark)
}

func FuzzRead(f *testing.F) {
	b, err := small().Bytes()
	require.NoError(f, err)
	f.Add(b)
	f.Fuzz(func(t *testing.T, src []byte) {
		a, err := pack.Read(src)
		if err != nil {
			return
		}
		if _, err := a.Bundle(); err != nil {
			t.Fatal(err)
		}
	})
}
