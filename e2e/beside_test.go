package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// looks is the text below a picture of a part: "dark" of "Beside Sorrel".
func looks(side, theme string) string {
	return `[...document.querySelectorAll('section[aria-label="` + side + `"] figcaption')].find(f => f.textContent.trim().startsWith('` + theme + `'))?.textContent ?? ''`
}

// A component made elsewhere is brought in beside the kit: its colours follow the theme, in light and
// dark; it is used on two screens; it is counted, told with what it needs, and taken out again.
func TestJourneyAPartFromElsewhere(t *testing.T) {
	j := begin(t, "ida")
	j.think()
	j.click(link("Intake"))
	j.until(`document.querySelector('[aria-label=Kits] a')`)
	j.click(kitLink("clover-day", "2.1.0"))
	j.until(`document.querySelector('h2')?.textContent.includes('Clover day')`)
	j.think()
	j.click(link("Beside the kit"))
	// As it comes it cannot be read in dark; beside the kit it can.
	j.until(`(` + looks("As it comes", "dark") + `).includes('least contrast 1.')`)
	j.until(`(` + looks("Beside Sorrel", "dark") + `).includes('least contrast')`)
	assert.NotContains(t, j.text(looks("Beside Sorrel", "dark")), "of “", "everything can be read")
	assert.NotContains(t, j.text(looks("Beside Sorrel", "light")), "of “")
	// A tie is chosen otherwise, and seen at once.
	j.choose("What --clover-accent follows", "color.bad")
	j.until(`document.querySelector('select[aria-label="What --clover-accent follows"]').value === 'color.bad'`)
	j.choose("What --clover-accent follows", "color.accent")
	j.think()
	j.click(button("Take it beside Sorrel"))
	j.until(`document.querySelector('[aria-label=Batch] header')?.textContent.includes('stands beside Sorrel')`)

	for _, screen := range []string{"new-ticket", "edit-ticket"} {
		j.bench(screen, ">= 10")
		j.click(lineWith("field", "Due"))
		j.until(onLine)
		j.line("n", "clover day")
		j.set("value 2026-09-14")
		j.untilDrawn("September 2026")
	}
	j.effort("a part from elsewhere on two screens", 5)
	// It is counted and judged as the kit's own, and told with what it needs.
	j.run(chromedp.Navigate(j.server.URL + "/shelf/clover-day"))
	j.until(`document.querySelector('#place').textContent.includes('@meadowsweet/clover-day@2.1.0')`)
	assert.Contains(t, j.text(`document.querySelector('#place').textContent`), "2 uses on 2 screens")

	// Taken out again, it stays written where it stands and is a finding there; one undo brings it back.
	j.run(chromedp.Navigate(j.server.URL + "/intake"))
	j.click(kitLink("clover-day", "2.1.0"))
	j.click(link("Beside the kit"))
	j.click(button("Take it out"))
	j.until(`[...document.querySelectorAll('button')].some(b => b.textContent.trim() === 'Undo' && !b.disabled)`)
	j.until(`!document.querySelector('[aria-label=Batch] header')?.textContent.includes('stands beside Sorrel')`)
	j.until(`document.activeElement?.getAttribute('aria-label') === 'Beside Sorrel'`)
	j.click(button("Undo"))
	j.until(`document.querySelector('[aria-label=Batch] header')?.textContent.includes('stands beside Sorrel')`)
	j.bench("new-ticket", ">= 10")
	j.untilDrawn("September 2026")
}

// A library that nobody has installed comes by its name from a registry that a keeper allowed.
func TestALibraryIsFetchedByItsName(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/intake"))
	j.click(button("Fetch a library"))
	const name = `document.querySelector('[role=dialog] input[placeholder="@acme/orchard-ui"]')`
	j.fill(name, "@meadowsweet/campion-hour")
	j.click(button("Fetch it"))
	j.until(`document.querySelector('[role=dialog] [role=alert]')?.textContent.includes('no such package')`)
	j.fill(name, "@meadowsweet/campion-hours")
	j.click(button("Fetch it"))
	j.until(`location.pathname.length > 40 && document.querySelector('[aria-label=Batch] h2')?.textContent.includes('Campion')`)
	j.until(`!document.querySelector('[role=dialog]')`)
	j.effort("a library by its name", 3)
	// Who closes the dialog meanwhile stays where they are, and finds it in the list.
	j.click(button("Fetch a library"))
	j.fill(name, "@fernhollow/sorrel")
	j.choose("Version", "1.0.0")
	before := j.text(`String(document.querySelectorAll('[aria-label=Kits] li').length)`)
	j.click(button("Fetch it"))
	j.until(`document.querySelector('[aria-label=Fetching]')?.textContent.includes('is being fetched for ida')`)
	j.until(`document.activeElement?.textContent.trim() === 'Stop'`)
	j.key(kb.Escape)
	j.until(`document.querySelector('[aria-label=Batch] [role=status]')?.textContent.includes('Fetching @fernhollow/sorrel')`)
	j.until(`document.querySelectorAll('[aria-label=Kits] li').length > ` + before)
	assert.Contains(t, j.text(`document.querySelector('[aria-label=Batch] h2').textContent`), "Campion")
}
