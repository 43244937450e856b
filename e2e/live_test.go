package e2e_test

import (
	"testing"
)

// The lists of a screen act: what is typed narrows, what is chosen orders, the pager
// turns, and the counts follow. Nothing of it stays when the preview ends.
func TestListsActInThePreview(t *testing.T) {
	j := begin(t, "noor")
	j.bench("specimens", "> 5")
	const root = `document.querySelector('body > div').shadowRoot`
	cards := root + `.querySelectorAll('.u-grid sorrel-card').length`
	first := root + `.querySelector('.u-grid sorrel-card sorrel-heading')?.textContent.trim()`
	pager := root + `.querySelector('sorrel-pager').shadowRoot.querySelector('span').textContent.trim()`
	does := func(script string) {
		t.Helper()
		var done bool
		j.inFrame(`(() => { `+script+`; return true })()`, &done)
	}
	j.untilInFrame("6", cards)
	j.untilInFrame("Page 1 of 4", pager)
	var was string
	j.inFrame(first, &was)
	j.click(button("Preview"))
	j.until(`document.querySelector('button[aria-pressed=true][title^="The kit takes"]')`)
	does(root + `.querySelector('sorrel-pager').shadowRoot.querySelectorAll('button')[1].click()`)
	j.untilInFrame("Page 2 of 4", pager)
	j.untilInFrame("true", first+` !== "`+was+`"`)
	// What is typed narrows; the page that is no more gives way to the last.
	typed := `.querySelector('sorrel-text-input').shadowRoot.querySelector('input')`
	does(`const i = ` + root + typed + `; i.value = 'maple'; i.dispatchEvent(new Event('input', { bubbles: true, composed: true }))`)
	j.untilInFrame("Page 1 of 1", pager)
	j.untilInFrame("maple", root+typed+`.value`)
	j.untilInFrame("true", root+`.querySelector('.u-grid').textContent.includes('maple')`)
	// Nothing passes: that is said, and the pager has one page.
	does(`const i = ` + root + typed + `; i.value = 'zzz'; i.dispatchEvent(new Event('input', { bubbles: true, composed: true }))`)
	j.untilInFrame("true", root+`.querySelector('sorrel-empty-state')?.getAttribute('heading') === 'No specimens'`)
	does(`const i = ` + root + typed + `; i.value = ''; i.dispatchEvent(new Event('input', { bubbles: true, composed: true }))`)
	// A yes or no: those not on display stand among the others.
	does(root + `.querySelector('sorrel-checkbox').shadowRoot.querySelector('input').click()`)
	j.untilInFrame("Page 2 of 4", pager)
	j.click(button("Preview"))
	j.untilInFrame("Page 1 of 4", pager)
	j.untilInFrame(was, first)
}
