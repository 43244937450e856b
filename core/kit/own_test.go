package kit_test

import (
	"bytes"
	"encoding/binary"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
	"ubiquant/internal/testkit"
)

func TestAnIconIsKeptInOnePlainForm(t *testing.T) {
	out, err := kit.ReadSVG([]byte(`<?xml version="1.0"?><!-- drawn by hand -->
<svg xmlns="http://www.w3.org/2000/svg" width="24" height="24" viewBox="0 0 24 24" class="x" data-a="b">
  <title>A &amp; B</title>
  <defs><linearGradient id="g"><stop offset="0" stop-color="#abc"/></linearGradient></defs>
  <path d="M0 0h24" fill="url(#g)" stroke="currentColor"/>
</svg>`))
	require.NoError(t, err)
	assert.Equal(
		t,
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24"><title>A &amp; B</title><defs><linearGradient id="g"><stop offset="0" stop-color="#abc"></stop></linearGradient></defs><path d="M0 0h24" fill="url(#g)" stroke="currentColor"></path></svg>`,
		out,
	)
	again, err := kit.ReadSVG([]byte(out))
	require.NoError(t, err)
	assert.Equal(t, out, again)
}

func TestWhatRunsOrLoadsIsRefusedInAnIcon(t *testing.T) {
	wrap := func(inner string) string {
		return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><path d="M0 0"/>` + "\n" + inner + `</svg>`
	}
	cases := map[string]struct{ src, why string }{
		"a script":          {wrap(`<script>alert(1)</script>`), `"script" may not stand`},
		"a handler":         {wrap(`<path d="M0 0" onload="x()"/>`), `"onload" of path`},
		"on the root":       {`<svg onload="x()" viewBox="0 0 1 1"><path d="M0 0"/></svg>`, "onload"},
		"a foreign object":  {wrap(`<foreignObject><body/></foreignObject>`), "foreignObject"},
		"a picture":         {wrap(`<image href="http://x"/>`), `"image"`},
		"a use":             {wrap(`<use href="#a"/>`), `"use"`},
		"a link":            {wrap(`<a href="javascript:x"/>`), `"a"`},
		"a style":           {wrap(`<style>*{fill:red}</style>`), `"style"`},
		"a style attribute": {wrap(`<path style="fill:url(//x)"/>`), `"style" of path`},
		"a foreign paint":   {wrap(`<path fill="url(http://x#y)"/>`), "speak of this picture only"},
		"a namespace":       {`<x:svg xmlns:x="http://other" viewBox="0 0 1 1"/>`, `"svg"`},
		"animation":         {wrap(`<animate attributeName="href"/>`), "animate"},
		"an entity":         {`<!DOCTYPE svg [<!ENTITY a "b">]>` + wrap(""), "document type"},
		"a stylesheet":      {`<?xml-stylesheet href="x"?>` + wrap(""), "instruction"},
		"text":              {wrap("words"), "text stands outside"},
		"no shapes":         {`<svg viewBox="0 0 1 1"></svg>`, "shows nothing"},
		"no box":            {`<svg><path d="M0 0"/></svg>`, "no viewBox"},
		"not an svg":        {`<html></html>`, "html"},
		"broken":            {`<svg viewBox="0 0 1 1"><path`, "not well formed"},
		"empty":             {``, "empty"},
		"two":               {wrap("") + wrap(""), "a second picture follows"},
		"large":             {wrap(strings.Repeat(" ", 70<<10)), "at most 64 KB"},
		"deep": {
			`<svg viewBox="0 0 1 1">` + strings.Repeat("<g>", 40) + strings.Repeat("</g>", 40) + `</svg>`,
			"nested too deeply",
		},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			_, err := kit.ReadSVG([]byte(c.src))
			require.Error(t, err)
			assert.Contains(t, err.Error(), c.why)
			assert.Contains(t, err.Error(), "line ")
		})
	}
}

func FuzzReadSVG(f *testing.F) {
	f.Add([]byte(`<svg viewBox="0 0 1 1"><path d="M0 0" fill="url(#a)"/></svg>`))
	f.Add([]byte(`<svg viewBox="0 0 1 1"><script/><g onclick="x"><path/></g></svg>`))
	f.Fuzz(func(t *testing.T, src []byte) {
		out, err := kit.ReadSVG(src)
		if err != nil {
			return
		}
		again, err := kit.ReadSVG([]byte(out))
		if err != nil || again != out {
			t.Fatalf("%q is not plain: %q, %v", out, again, err)
		}
		low := strings.ToLower(out)
		for _, never := range []string{"<script", "<style", "<image", "<use", "<foreign", " on", "href", "javascript:", "url(h", "@import"} {
			if strings.Contains(strings.ReplaceAll(low, "&#", ""), never) && strings.Contains(low, "<") &&
				!strings.Contains(low, "<title>") &&
				!strings.Contains(low, "<desc>") {
				t.Fatalf("%q holds %q", out, never)
			}
		}
	})
}

func someFont(t *testing.T) []byte {
	data, err := os.ReadFile(
		filepath.Join(testkit.Root(), "kits/sorrel/dist/fonts/alegreya-sans-latin-700-normal.woff2"),
	)
	require.NoError(t, err)
	return data
}

func TestAFontSaysWhatItIs(t *testing.T) {
	f, err := kit.ReadFont(someFont(t))
	require.NoError(t, err)
	assert.Equal(t, "Alegreya Sans", f.Family)
	assert.Equal(t, 700, f.Weight)
	assert.False(t, f.Italic)
	assert.Equal(t, "alegreya-sans-700.woff2", f.File())
	assert.Contains(t, f.Face("./x/"), "src: url('./x/alegreya-sans-700.woff2') format('woff2')")
}

func TestWhatIsNoFontIsRefusedWithTheReason(t *testing.T) {
	good := someFont(t)
	change := func(at int, b ...byte) []byte { c := bytes.Clone(good); copy(c[at:], b); return c }
	long := binary.BigEndian.AppendUint32(nil, uint32(len(good)-10))
	cases := map[string]struct {
		data []byte
		why  string
	}{
		"nothing":        {nil, "it is not one"},
		"a picture":      {[]byte("\x89PNG\r\n\x1a\n" + strings.Repeat("x", 100)), "it is not one"},
		"the older form": {append([]byte("wOFF"), make([]byte, 100)...), "first version"},
		"not compressed": {append([]byte("OTTO"), make([]byte, 100)...), "not compressed"},
		"cut off":        {good[:len(good)/2], "the file has"},
		"cut off, and so it says": {
			append(append(bytes.Clone(good[:8]), long...), good[12:len(good)-10]...),
			"tables",
		},
		"no tables": {change(12, 0, 0), "0 tables"},
		"spoilt":    {change(len(good)/2, bytes.Repeat([]byte{0xff}, 400)...), ""},
		"too large": {append(bytes.Clone(good), make([]byte, 2<<20)...), "at most 1024 KB"},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			_, err := kit.ReadFont(c.data)
			require.Error(t, err)
			assert.Contains(t, err.Error(), c.why)
		})
	}
}

func FuzzReadFont(f *testing.F) {
	if data, err := os.ReadFile(filepath.Join(testkit.Root(), "kits/sorrel/dist/fonts/alegreya-sans-latin-700-normal.woff2")); err == nil {
		f.Add(data)
	}
	f.Add([]byte("wOF2"))
	f.Fuzz(func(t *testing.T, data []byte) {
		if font, err := kit.ReadFont(data); err == nil &&
			(font.Family == "" || strings.ContainsAny(font.Family, `;{}<>'"\`)) {
			t.Fatalf("the family %q could break out of a style sheet", font.Family)
		}
	})
}

func TestAnApplicationsPackagesAreRead(t *testing.T) {
	list, err := kit.ReadDependencies(
		[]byte(
			`{"name":"x","dependencies":{"vue":"3.5.0"},"devDependencies":{"vue":"2","vite":"8"},"scripts":{"a":"b"}}`,
		),
	)
	require.NoError(t, err)
	assert.Equal(t, map[string]string{"vue": "3.5.0", "vite": "8"}, list)
	_, err = kit.ReadDependencies([]byte(`{"dependencies":{"vue":3}}`))
	assert.ErrorContains(t, err, "/dependencies/vue")
}
