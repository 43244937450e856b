package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// labelled is the field of the open dialog whose label begins with words.
func labelled(words string) string {
	return `[...document.querySelectorAll('[role=dialog] label')].find(l => l.textContent.trim().startsWith('` + words + `'))?.querySelector('input, select')`
}

// What stands around a part of a screen becomes a shell; another screen goes into it and out again;
// a shell is begun as another one is, given another title and taken away.
func TestShellsAreMadeChangedAndChosen(t *testing.T) {
	j := begin(t, "ida")
	j.bench("settings", ">= 20")
	j.click(`document.querySelector('[data-line=settings-6] span')`)
	j.click(button("Shell of the rest …"))
	j.until(`document.querySelector('[role=dialog]')?.innerText.includes('Goes into the shell')`)
	said := j.text(`document.querySelector('[role=dialog]').innerText`)
	assert.Contains(t, said, "breadcrumbs, 2 × crumb, page header")
	assert.Contains(t, said, "Notices\nbecomes as here, where it has: ")
	j.fill(labelled("Title of the shell"), "Settings area")
	j.click(button("Make the shell"))
	j.until(`[...document.querySelectorAll('label')].some(l => l.textContent.includes('in shell') && l.querySelector('select').value === 'settings-area')`)
	j.untilDrawn("Warn of frost")
	assert.Contains(t, j.frameText(), "Settings", "the header stands in the shell now")
	assert.Contains(t, j.frameText(), "Fernhollow Arboretum, Operations", "which stands in the one around")

	j.run(chromedp.Navigate(j.server.URL + "/?group=shell"))
	j.until(`[...document.querySelectorAll('h2')].some(h => h.textContent.includes('Settings area'))`)
	j.click(`document.querySelector('button[aria-label="More for Settings area"]')`)
	j.click(button("Screens in it …"))
	row := func(title string) string {
		return `[...document.querySelectorAll('[role=dialog] label')].find(l => l.textContent.includes('` + title + `'))?.querySelector('input')`
	}
	j.until(row("/settings") + `?.checked`)
	j.click(row("/sign-in"))
	j.until(`document.querySelector('[role=dialog]').innerText.includes('1 go in')`)
	j.click(button("Save"))
	group := `document.querySelector('section[aria-label="Settings area"]')?.innerText ?? ''`
	j.until(`(` + group + `).includes('2 screens')`)
	// It cannot be taken away while screens stand in it.
	j.click(`document.querySelector('button[aria-label="More for Settings area"]')`)
	j.click(button("Remove"))
	j.until(`document.body.innerText.includes('shell:settings-area is in use by Settings')`)

	j.click(button("New shell"))
	j.fill(labelled("Title"), "Guests")
	j.choose("Begins", "staff")
	j.click(button("Create"))
	j.until(`location.pathname === '/bench/shell/guests'`)
	j.until(`document.querySelectorAll("[role=treeitem]").length >= 4`)
	j.untilDrawn("Volunteers")
	j.run(chromedp.Navigate(j.server.URL + "/"))
	j.click(`document.querySelector('button[aria-label="More for Guests"]')`)
	j.click(button("Rename, owner …"))
	j.fill(labelled("Title"), "For guests")
	j.click(button("Save"))
	j.until(`document.querySelector('button[aria-label="More for For guests"]')`)
	j.click(`document.querySelector('button[aria-label="More for For guests"]')`)
	j.click(button("Remove"))
	j.until(`!document.querySelector('button[aria-label="More for For guests"]')`)
	assert.Contains(t, j.text(`document.querySelector('details')?.textContent ?? ''`), "For guests")
}
