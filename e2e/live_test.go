package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp"
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
	does(
		`const i = ` + root + typed + `; i.value = 'maple'; i.dispatchEvent(new Event('input', { bubbles: true, composed: true }))`,
	)
	j.untilInFrame("Page 1 of 1", pager)
	j.untilInFrame("maple", root+typed+`.value`)
	j.untilInFrame("true", root+`.querySelector('.u-grid').textContent.includes('maple')`)
	// Nothing passes: that is said, and the pager has one page.
	does(
		`const i = ` + root + typed + `; i.value = 'zzz'; i.dispatchEvent(new Event('input', { bubbles: true, composed: true }))`,
	)
	j.untilInFrame("true", root+`.querySelector('sorrel-empty-state')?.getAttribute('heading') === 'No specimens'`)
	does(
		`const i = ` + root + typed + `; i.value = ''; i.dispatchEvent(new Event('input', { bubbles: true, composed: true }))`,
	)
	// A yes or no: those not on display stand among the others.
	does(root + `.querySelector('sorrel-checkbox').shadowRoot.querySelector('input').click()`)
	j.untilInFrame("Page 2 of 4", pager)
	j.click(button("Preview"))
	j.untilInFrame("Page 1 of 4", pager)
	j.untilInFrame(was, first)
}

// chooseSet looks at the screen with another sample set.
func (j *journey) chooseSet(set string) {
	j.t.Helper()
	const box = `[...document.querySelectorAll('select')].find(s => [...s.options].some(o => o.value === 'live'))`
	j.until(box)
	j.run(
		chromedp.Evaluate(
			`(s => { s.value = '`+set+`'; s.dispatchEvent(new Event('change', { bubbles: true })) })(`+box+`)`,
			nil,
		),
	)
}

// What a service gives is seen on the screen, asked with what its controls hold; loading,
// a refusal, a failure and nothing at all are looked at by choosing them.
func TestLiveRecordsAreSeenWithAllThatMayHappen(t *testing.T) {
	j := begin(t, "noor")
	j.bench("visitors", "> 5")
	const root = `document.querySelector('body > div').shadowRoot`
	pager := root + `.querySelector('sorrel-pager').shadowRoot.querySelector('span').textContent.trim()`
	alert := `(` + root + `.querySelector('sorrel-alert')?.heading ?? '')`
	j.untilInFrame("Page 1 of 2", pager)
	j.chooseSet("live")
	j.untilInFrame("Page 1 of 6", pager)
	j.untilInFrame("", alert)
	j.click(button("Preview"))
	j.until(`document.querySelector('button[aria-pressed=true][title^="The kit takes"]')`)
	var done bool
	j.inFrame(
		`(() => { const s = `+root+`.querySelector('sorrel-select').shadowRoot.querySelector('select'); s.value = 'Lake gate'; s.dispatchEvent(new Event('change', { bubbles: true })); return true })()`,
		&done,
	)
	j.untilInFrame("Page 1 of 3", pager)
	j.untilInFrame("1", root+`.querySelectorAll('sorrel-stat').length`)
	j.click(button("Preview"))
	j.untilInFrame("Page 1 of 6", pager)
	j.chooseSet("live-refused")
	j.untilInFrame("No counts for you", alert)
	j.chooseSet("live-failed")
	j.untilInFrame("The counts did not come", alert)
	j.chooseSet("live-loading")
	j.untilInFrame("true", root+`.querySelector('sorrel-spinner') !== null`)
	j.chooseSet("live-empty")
	j.untilInFrame("0", root+`.querySelectorAll('sorrel-row').length`)
	j.chooseSet("live-slow")
	j.untilInFrame("true", root+`.querySelector('sorrel-spinner') !== null`)
	j.untilInFrame("Page 1 of 6", pager)
}
