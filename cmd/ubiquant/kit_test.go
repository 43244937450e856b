package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A kit of three components: one is well, one throws, one is hard to read.
var brokenKit = map[string]string{
	"package.json": `{"name":"broken","version":"1.0.0","exports":{".":"./broken.js"}}`,
	"custom-elements.json": `{"modules":[{"declarations":[
		{"tagName":"x-well","description":"Says a word.","slots":[{"name":"","description":"The word."}]},
		{"tagName":"x-throws","description":"Throws.","members":[{"kind":"field","name":"tone","attribute":"tone","description":"Its tone.","type":{"text":"'calm' | 'loud'"},"default":"'calm'"}]},
		{"tagName":"x-weak","members":[{"kind":"field","name":"tone","attribute":"tone","type":{"text":"string"}}]},
		{"tagName":"x-gone","description":"Is in the manifest only."}]}]}`,
	"broken.js": `customElements.define('x-well', class extends HTMLElement { connectedCallback() { this.textContent = 'well' } })
		customElements.define('x-throws', class extends HTMLElement { connectedCallback() { if (this.getAttribute('tone') === 'loud') throw new Error('too loud') } })
		customElements.define('x-weak', class extends HTMLElement { connectedCallback() { const b = document.createElement('b'); b.textContent = 'pale'; b.style.color = '#aaa'; this.append(b) } })`,
}

func TestAKitIsCheckedComponentByComponent(t *testing.T) {
	if testing.Short() {
		t.Skip("drives Chromium")
	}
	dir := t.TempDir()
	for name, text := range brokenKit {
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o644))
	}
	out, code := run(t, "kit", "check", dir, "--format", "json")
	assert.Equal(t, exitFound, code)
	var list []checked
	require.NoError(t, json.NewDecoder(strings.NewReader(out)).Decode(&list))
	byTag := map[string]checked{}
	for _, c := range list {
		byTag[c.Tag] = c
	}
	well, throws, weak, gone := byTag["x-well"], byTag["x-throws"], byTag["x-weak"], byTag["x-gone"]
	assert.True(t, well.fine(), "%+v", well)
	assert.Greater(t, well.Contrast["light"], 20.0)
	assert.Equal(t, 2, throws.Variants, "each value is drawn")
	require.Len(t, throws.Problems, 1)
	assert.Contains(t, throws.Problems[0], "too loud")
	require.Len(t, weak.Weak, 1)
	assert.Contains(t, weak.Weak[0], "#AAAAAA on #FFFFFF")
	assert.Len(t, weak.Undocumented, 2)
	assert.Contains(t, gone.Problems[0], "x-gone is not registered")
}

func TestAKitThatIsNoneIsRefused(t *testing.T) {
	dir := t.TempDir()
	out, code := run(t, "kit", "check", dir)
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "no package.json")
	require.NoError(t, os.WriteFile(filepath.Join(dir, "package.json"), []byte(`{"name":"a","version":"1","main":"a.js"}`), 0o644))
	require.NoError(t, os.WriteFile(filepath.Join(dir, "custom-elements.json"), []byte(brokenKit["custom-elements.json"]), 0o644))
	out, code = run(t, "kit", "check", dir)
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "build the kit first")
}
