package e2e_test

import (
	"strconv"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"

	"ubiquant/internal/browser"
)

func TestARemovedScreenCanBeRestored(t *testing.T) {
	j := begin(t, "ida")
	j.click(`document.querySelector('button[aria-label="More for Archive"]')`)
	j.click(`[...document.querySelectorAll('[role=menuitem]')].find(b => b.textContent.trim() === 'Remove')`)
	j.until(`document.body.innerText.includes('34 screens')`)
	j.click(`document.querySelector('details summary')`)
	j.click(button("Restore"))
	j.until(`document.body.innerText.includes('35 screens')`)
	j.click(`document.querySelector('button[aria-label="More for Archive"]')`)
	j.click(`[...document.querySelectorAll('[role=menuitem]')].find(b => b.textContent.trim().startsWith('Rename'))`)
	j.until(`document.querySelector('[role=dialog] input')`)
	j.run(
		chromedp.Evaluate(
			`(() => { const i = document.querySelectorAll('[role=dialog] input')[1]; i.value = '/tickets'; i.dispatchEvent(new Event('input')) })()`,
			nil,
		),
	)
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim() === 'Save')`)
	j.until(
		`document.querySelector('[role=dialog] [role=alert]')?.textContent.includes('taken by the screen Work tickets')`,
	)
	j.run(
		chromedp.Evaluate(
			`(() => { const i = document.querySelectorAll('[role=dialog] input')[1]; i.value = '/attic'; i.dispatchEvent(new Event('input')) })()`,
			nil,
		),
	)
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim() === 'Save')`)
	j.until(`!document.querySelector('[role=dialog]') && document.body.innerText.includes('/attic')`)
}

func TestAFindingIsLetStandWithAReasonAndTakenUpAgain(t *testing.T) {
	j := begin(t, "noor")
	j.run(chromedp.Navigate(j.server.URL + "/census/findings"))
	j.until(`document.querySelectorAll('tbody tr').length === 33`)
	j.click(button("Let stand"))
	j.until(`document.querySelector('[role=dialog] input')`)
	j.click(`document.querySelector('[role=dialog] input')`)
	j.write("The new kit brings it.")
	j.key("Enter")
	j.until(
		`document.querySelectorAll('tbody tr').length === 32 && document.body.innerText.includes('The new kit brings it.')`,
	)
	j.click(button("No longer"))
	j.until(`document.querySelectorAll('tbody tr').length === 33`)
	j.click(button("Make it level 2"))
	j.click(button("Apply on 1 screen"))
	j.until(`document.querySelectorAll('tbody tr').length === 32`)
}

func TestTheLineUpBringsChosenUsesIntoLine(t *testing.T) {
	j := begin(t, "noor")
	j.run(
		chromedp.Navigate(j.server.URL+"/census/line-up?component=sorrel-chip&prop=shape"),
		browser.Until(`document.querySelectorAll('section h2').length === 2`),
	)
	j.click(`document.querySelectorAll('section h2 input')[1]`)
	j.until(`[...document.querySelectorAll('button')].some(b => b.textContent.includes('Bring 5 into line'))`)
	j.run(
		chromedp.Evaluate(
			`(() => { const s = [...document.querySelectorAll('select')].at(-1); s.value = 'round'; s.dispatchEvent(new Event('change')) })()`,
			nil,
		),
	)
	j.click(button("Bring 5"))
	j.click(button("Apply on 5 screens"))
	j.until(`document.querySelectorAll('section h2').length === 1`)
	j.click(button("Undo set"))
	j.until(`document.querySelectorAll('section h2').length === 2`)
}

func TestPreviewBehavesAndFollowsLinks(t *testing.T) {
	j := begin(t, "ida")
	j.run(
		chromedp.Navigate(j.server.URL+"/bench/screen/tickets"),
		browser.Until(`document.querySelector('[data-selected]')`),
		browser.Drawn(),
	)
	j.click(button("Preview"))
	j.until(
		`[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'Preview').getAttribute('aria-pressed') === 'true'`,
	)
	var done string
	j.inFrame(
		`(document.querySelector('body > div').shadowRoot.querySelector('sorrel-button').shadowRoot.querySelector('button').click(), 'ok')`,
		&done,
	)
	j.until(`location.pathname === '/bench/screen/new-ticket'`)
}

func TestFindAnythingOpensAComponentAndItsUses(t *testing.T) {
	j := begin(t, "lise")
	j.key("k", input.ModifierCtrl)
	j.until(`document.activeElement?.getAttribute('aria-label') === 'Find anything'`)
	j.write("modal")
	j.until(
		`document.querySelector('[role=listbox][aria-busy=false] [role=option]')?.textContent.includes('dialog') && document.activeElement.value === 'modal'`,
	)
	j.key("Enter")
	j.until(`location.pathname === '/shelf/sorrel-dialog'`)
	j.until(
		`document.querySelector('h1')?.textContent.trim() === 'dialog' && document.body.innerText.includes('Where used')`,
	)
	assert.Contains(
		t,
		j.text(`document.querySelector('pre').textContent`),
		"import '@fernhollow/sorrel/parts/feedback.js'",
	)
}

func TestLinesAreMovedWrappedCopiedAndRemovedByKey(t *testing.T) {
	j := begin(t, "noor")
	j.run(
		chromedp.Navigate(j.server.URL+"/bench/screen/sign-in"),
		browser.Until(`document.querySelectorAll('[data-line]').length === 9`),
		browser.Drawn(),
	)
	shown := `[...document.querySelectorAll('[data-line]')].map(l => l.getAttribute('aria-level') + l.textContent.trim().replace(/^▾/, '').split(' ')[0]).join(' ')`
	before := j.text(shown)
	j.click(`[...document.querySelectorAll('[data-line]')].find(l => l.textContent.includes('Forgotten'))`)
	j.key("ArrowUp", input.ModifierAlt)
	j.until(
		`[...document.querySelectorAll('[data-line]')].findIndex(l => l.textContent.includes('Forgotten')) === 2 && document.activeElement?.textContent.includes('Forgotten')`,
	)
	j.key("w")
	j.until(`document.activeElement?.textContent.trim().includes('stack')`)
	j.key("u")
	j.until(
		`document.activeElement?.textContent.includes('Forgotten') && document.activeElement.getAttribute('aria-selected') === 'true' && document.querySelectorAll('[data-line]').length === 9`,
	)
	j.key("c")
	j.until(
		`[...document.querySelectorAll('[data-line]')].filter(l => l.textContent.includes('Forgotten')).length === 2 && document.activeElement?.textContent.includes('Forgotten')`,
	)
	j.key("Delete")
	j.until(
		`[...document.querySelectorAll('[data-line]')].filter(l => l.textContent.includes('Forgotten')).length === 1`,
	)
	// All at once, as an impatient hand does it: each takes back the change before.
	for range 5 {
		j.key("z", input.ModifierCtrl)
	}
	j.until(`[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'Undo').disabled`)
	j.until(shown + ` === ` + strconv.Quote(before))
}

// The line-up is walked and worked by keys, its groups side by side.
func TestTheLineUpIsWorkedByKeys(t *testing.T) {
	j := begin(t, "noor")
	j.run(
		chromedp.Navigate(j.server.URL+"/census/line-up?component=sorrel-chip&prop=shape"),
		browser.Until(`document.querySelectorAll('section h2').length === 2`),
	)
	j.click(`[...document.querySelectorAll('label')].find(l => l.textContent.trim() === 'side by side').querySelector('input')`)
	j.until(`(([a, b]) => a.top === b.top && a.right <= b.left)([...document.querySelectorAll('section')].map(s => s.getBoundingClientRect()))`)
	j.run(chromedp.Evaluate(`document.querySelectorAll('section')[1].querySelector('[data-wall]').focus()`, nil))
	first := j.text(`document.activeElement.dataset.use`)
	j.key("ArrowDown")
	j.until(`document.activeElement.dataset.use !== '` + first + `' && document.querySelectorAll('section')[1].contains(document.activeElement)`)
	j.key(" ")
	j.until(`document.querySelectorAll('section')[1].querySelectorAll('li input:checked').length === 1`)
	j.key("m")
	j.until(`document.querySelector('[role=dialog]')`)
	j.click(button("Apply on 1 screen"))
	j.until(`document.querySelectorAll('section')[1]?.querySelectorAll('li').length === 4`)
}
