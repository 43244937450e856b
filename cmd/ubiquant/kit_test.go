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
		{"tagName":"x-trap","description":"Keeps the focus.","slots":[{"name":"","description":"x"}]},
		{"tagName":"x-bare","description":"A button without a name or a ring.","slots":[{"name":"","description":"x"}]},
		{"tagName":"x-keys","description":"Two buttons that are well."},
		{"tagName":"x-gone","description":"Is in the manifest only."}]}]}`,
	"broken.js": `customElements.define('x-well', class extends HTMLElement { connectedCallback() { this.textContent = 'well' } })
		customElements.define('x-throws', class extends HTMLElement { connectedCallback() { if (this.getAttribute('tone') === 'loud') throw new Error('too loud') } })
		const inner = (el, html) => { el.attachShadow({ mode: 'open' }).innerHTML = html }
		customElements.define('x-trap', class extends HTMLElement { connectedCallback() { inner(this, '<button>a</button><button>b</button>'); this.shadowRoot.firstChild.onkeydown = e => { if (e.key === 'Tab') e.preventDefault() } } })
		customElements.define('x-bare', class extends HTMLElement { connectedCallback() { inner(this, '<style>button { outline: none !important; width: 9px }</style><button aria-label="named"></button><button></button>') } })
		customElements.define('x-keys', class extends HTMLElement { connectedCallback() { inner(this, '<button>a</button><label>b <input type="radio" name="x"></label><label>c <input type="radio" name="x" checked></label><label>d <input type="date"></label>') } })
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
	assert.Equal(t, []string{"1 of 2 places are not reached by the Tab key"}, byTag["x-trap"].Keys)
	assert.Equal(
		t,
		[]string{"button does not show that it has the focus", "button has no name"},
		byTag["x-bare"].Keys,
	)
	keys := byTag["x-keys"]
	assert.Equal(t, 3, keys.Stops, "one of the radio buttons is a stop")
	assert.Empty(t, keys.Keys)
}

func TestAKitThatIsNoneIsRefused(t *testing.T) {
	dir := t.TempDir()
	out, code := run(t, "kit", "check", dir)
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "no package.json")
	require.NoError(
		t,
		os.WriteFile(filepath.Join(dir, "package.json"), []byte(`{"name":"a","version":"1","main":"a.js"}`), 0o644),
	)
	require.NoError(
		t,
		os.WriteFile(filepath.Join(dir, "custom-elements.json"), []byte(brokenKit["custom-elements.json"]), 0o644),
	)
	out, code = run(t, "kit", "check", dir)
	assert.Equal(t, exitBroken, code)
	assert.Contains(t, out, "build the kit first")
}
