package e2e_test

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/testkit"
)

func link(words string) string {
	return `[...document.querySelectorAll('nav a')].find(a => a.textContent.trim().startsWith('` + words + `'))`
}

func kitLink(name, version string) string {
	return `[...document.querySelectorAll('[aria-label=Kits] a')].find(a => a.textContent.includes('` + name + `') && a.textContent.includes('` + version + `'))`
}

// untilDrawn waits until words stand in the frame.
func (j *journey) untilDrawn(words string) {
	j.t.Helper()
	j.untilInFrame("yes", `(() => { const all = n => (n.textContent ?? '') + [...(n.querySelectorAll?.('*') ?? [])].map(e => e.shadowRoot ? all(e.shadowRoot) : '').join(''); return all(document.documentElement).includes('`+words+`') ? 'yes' : 'no' })()`)
}

// The next version of the kit is reviewed: what differs, how far it reaches, what becomes
// of the screens. It is taken as one change; what has no place any more is found where it
// stands; and one undo takes all of it back.
func TestAVersionIsReviewedTakenAndTakenBack(t *testing.T) {
	j := begin(t, "ida")
	j.click(link("Intake"))
	j.until(`document.querySelector('[aria-label=Kits] a')`)
	j.click(kitLink("sorrel", "1.1.0"))
	j.until(`document.querySelector('h2')?.textContent.includes('1.1.0')`)
	j.until(`[...document.querySelectorAll('[aria-label="Which components"] button')].some(b => b.textContent.includes('What differs') && b.getAttribute('aria-pressed') === 'true')`)
	assert.Contains(t, j.text(`document.querySelector('[aria-label=Batch]').textContent`), "default of density is tight, was roomy")
	assert.Contains(t, j.text(`document.querySelector('[aria-label=Batch]').textContent`), "It is gone; sorrel-chip stands in its place")
	// Before and after, side by side in two frames.
	j.click(`document.querySelector('button[aria-label="Look at table"]')`)
	j.until(`document.querySelector('section[aria-label=table]') && document.querySelectorAll('section[aria-label=table] iframe').length === 2`)
	j.click(button("Close"))

	j.click(link("Screens carried over"))
	j.until(`document.querySelector('[aria-label=Coverage]')?.textContent.includes('without a place')`)
	j.until(`document.querySelector('[aria-label="A screen in both"]').textContent.includes('the text has no color')`)

	j.click(button("Take it"))
	j.until(`document.body.textContent.includes('in use here')`)
	j.until(`[...document.querySelectorAll('button')].some(b => b.textContent.trim() === 'Undo' && !b.disabled)`)
	j.click(button("Undo"))
	j.until(`[...document.querySelectorAll('button')].some(b => b.textContent.trim() === 'Take it' && !b.disabled)`)
	j.until(kitLink("sorrel", "1.0.0") + `.textContent.includes('in use')`)
	j.click(button("Take it"))
	j.until(`document.body.textContent.includes('in use here')`)
	j.click(link("Shelf"))
	j.until(`document.querySelector('h1')?.textContent.includes('1.1.0')`)
	j.bench("archive", ">= 3")
	j.untilDrawn("Kept for seven years")
}

// A library of a framework is brought in as a file: its components are drawn live, parts
// in their wholes, in light and dark; the screens are shown in it; and it is taken.
func TestALibraryOfAFrameworkIsBroughtIn(t *testing.T) {
	j := begin(t, "ida")
	j.click(link("Intake"))
	j.until(`document.querySelector('[aria-label=Kits] a')`)
	file := filepath.Join(testkit.Root(), "server", "assets", "files", "kits", "yarrow.kit")
	require.FileExists(t, file)
	j.upload(button("Bring in a packed kit"), file)
	j.until(`document.querySelector('h2')?.textContent.includes('Yarrow')`)
	j.untilDrawn("Save changes")
	j.until(`[...document.querySelectorAll('[aria-label="Which components"] button')].some(b => /Cannot be drawn\s*0/.test(b.textContent))`)
	j.click(link("Screens carried over"))
	j.until(`document.querySelector('[aria-label=Coverage]')?.textContent.includes('have a counterpart')`)
	j.choose("Screen", "screen:tickets")
	j.until(`document.querySelector('[aria-label="A screen in both"]').textContent.includes('Yarrow has nothing in place of the')`)
	j.click(button("Take it"))
	j.until(`document.body.textContent.includes('in use here')`)

	// On the Bench the screen is drawn by React, edited, and painted anew.
	j.bench("tickets", ">= 3")
	j.untilDrawn("New ticket")
	j.click(link("Intake"))
	j.until(`document.querySelector('[aria-label=Kits] a')`)

	// What is no kit is refused, with the reason.
	bad := filepath.Join(t.TempDir(), "nothing.kit")
	require.NoError(t, os.WriteFile(bad, []byte("nothing"), 0o600))
	j.upload(button("Bring in a packed kit"), bad)
	j.until(`document.querySelector('[role=alert]')?.textContent.includes('this is no packed kit')`)
}
