package e2e_test

import (
	"image/png"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/testkit/drawn"
)

// drawnFile is a drawn page as a file.
func drawnFile(t *testing.T, name string) string {
	for _, p := range drawn.Pages {
		if p.Name != name {
			continue
		}
		file := filepath.Join(t.TempDir(), name+".png")
		f, err := os.Create(file)
		require.NoError(t, err)
		defer f.Close()
		require.NoError(t, png.Encode(f, p.Draw(t).Img))
		return file
	}
	t.Fatal("no page is called " + name)
	return ""
}

// boxNamed is the line of a box by its name.
func boxNamed(name string) string {
	return `[...document.querySelectorAll('[data-box]')].find(e => e.textContent.trim().startsWith('` + name + `'))`
}

const unfolded = `document.querySelector('[role=tree] fieldset')?.parentElement`

// plannedScreen makes a screen and gives it a picture to be planned from.
func (j *journey) plannedScreen(title, id, file string) {
	j.t.Helper()
	j.click(button("Overview"))
	j.click(button("New screen"))
	j.until(`document.activeElement?.tagName === 'INPUT' && !!document.querySelector('[role=dialog] input')`)
	j.think()
	j.write(title)
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim() === 'From a picture' && !b.disabled)`)
	j.until(`location.pathname === '/bench/screen/` + id + `/picture'`)
	j.think()
	j.upload(`[...document.querySelectorAll('main label')].find(l => l.textContent.includes('Drop, paste or choose'))?.querySelector('.btn')`, file)
	j.until(`document.querySelectorAll('[data-box]').length > 5`)
}

// A picture of a finished page becomes boxes, boxes become components, and the screen stands;
// a box that occurs on two pages becomes one piece.
func TestAScreenIsPlannedFromAPicture(t *testing.T) {
	j := begin(t, "ida")
	j.plannedScreen("Boat market", "boat-market", drawnFile(t, "narrow"))

	// Boxes are named and their words written.
	j.think()
	j.click(boxNamed("heading 1"))
	j.until(unfolded)
	words := `[...document.querySelectorAll('[role=tree] label')].find(l => l.textContent.trim() === 'Words')?.querySelector('input')`
	j.click(words)
	j.write("This week")
	j.key("Tab")
	j.until(boxNamed("heading 1") + `?.textContent.includes('This week')`)

	// A box of the picture becomes another component than was proposed.
	j.think()
	j.click(boxNamed("button 3"))
	link := `[...document.querySelectorAll('[role=tree] fieldset label')].find(l => l.textContent.trim().startsWith('link'))?.querySelector('input')`
	j.until(link)
	j.click(link)
	j.until(boxNamed("button 3") + `?.textContent.endsWith('link')`)

	// A panel becomes a piece.
	j.think()
	j.click(boxNamed("panel 1"))
	name := `document.querySelector('input[aria-label="Name of a new piece"]')`
	j.until(name)
	j.click(name)
	j.write("Bag card")
	j.key("Enter")
	j.until(boxNamed("panel 1") + `?.textContent.includes('Bag card')`)
	j.think()
	j.click(`[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'Make the screen' && !b.disabled)`)
	j.until(`document.body.innerText.includes('The screen stands as planned')`)

	// Another picture shows the same, and more.
	j.plannedScreen("Boats", "boats", drawnFile(t, "dense screen"))
	j.think()
	j.click(boxNamed("panel 1"))
	same := `document.querySelector('select[aria-label="Piece"]')`
	j.until(`!!` + same + ` && [...` + same + `.options].some(o => o.textContent === 'Bag card')`)
	j.text(`(s => { s.value = 'piece:bag-card'; s.dispatchEvent(new Event('change', {bubbles: true})); return '' })(` + same + `)`)
	j.until(boxNamed("panel 1") + `?.textContent.includes('Bag card')`)
	j.click(`[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'Make the screen' && !b.disabled)`)
	j.until(`document.body.innerText.includes('The screen stands as planned')`)
	j.effort("from a picture", 10)

	// Both stand on the Bench, with one piece.
	j.click(button("To its lines"))
	j.until(lineWith("Bag card"))
	j.run()
	j.untilInFrame("2", `document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-card').length`)

	// What is planned on is shown at once, and taken back.
	j.click(`document.querySelector('a[aria-label="From a picture"]')`)
	j.until(boxNamed("panel 2"))
	before := j.text(`String(document.querySelectorAll('[data-box]').length)`)
	j.click(boxNamed("panel 2"))
	j.key("Delete")
	j.until(`document.querySelectorAll('[data-box]').length < ` + before)
	j.until(`!document.querySelector('main button[disabled].btn-main')`)
	j.key("z", 2)
	j.until(`document.querySelectorAll('[data-box]').length === ` + before)
	j.until(`document.body.innerText.includes('The screen stands as planned')`)
	assert.NotEmpty(t, before)

	// A box is drawn without a pointer, too.
	j.run(chromedp.Focus(`[role=tree] [data-box][tabindex="0"]`, chromedp.ByQuery))
	j.run(chromedp.Evaluate(`[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'New box inside').focus()`, nil))
	j.key("Enter")
	j.until(`document.querySelectorAll('[data-box]').length === 1 + ` + before)
}

func TestWhatIsNoPictureIsRefusedWithTheReason(t *testing.T) {
	j := begin(t, "ida")
	j.click(button("New screen"))
	j.until(`document.activeElement?.tagName === 'INPUT' && !!document.querySelector('[role=dialog] input')`)
	j.write("Torn")
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim() === 'From a picture' && !b.disabled)`)
	j.until(`location.pathname === '/bench/screen/torn/picture'`)
	torn := filepath.Join(t.TempDir(), "torn.png")
	require.NoError(t, os.WriteFile(torn, []byte("\x89PNG\r\n\x1a\nand no more"), 0o600))
	j.upload(`[...document.querySelectorAll('main label')].find(l => l.textContent.includes('Drop, paste or choose'))?.querySelector('.btn')`, torn)
	j.until(`document.querySelector('[role=alert]')?.textContent.includes('accepted: PNG, JPEG, WebP')`)
	assert.Equal(t, "0", j.text(`String(document.querySelectorAll('[data-box]').length)`), "nothing is half done")
}
