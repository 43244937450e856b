package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

func (j *journey) choose(label, value string) {
	j.t.Helper()
	j.hand(false)
	j.clicks += 2
	j.until(
		`document.querySelector('select') && [...document.querySelectorAll('select')].some(s => (s.labels[0]?.textContent ?? s.getAttribute('aria-label') ?? '').includes('` + label + `'))`,
	)
	j.run(
		chromedp.Evaluate(
			`(() => { const s = [...document.querySelectorAll('select')].find(s => (s.labels[0]?.textContent ?? s.getAttribute('aria-label') ?? '').includes('`+label+`')); s.value = '`+value+`'; s.dispatchEvent(new Event('change', { bubbles: true })) })()`,
			nil,
		),
	)
}

// A screen is seen while it loads, when it failed and when nothing is there; what is
// done in a state holds only in it, and all stand side by side.
func TestAScreenIsAssembledInAllItsStates(t *testing.T) {
	j := begin(t, "noor")
	j.bench("tickets", "> 5")
	j.keys, j.clicks, j.thoughts = 0, 0, 0
	parts := `['sorrel-table', 'sorrel-spinner', 'sorrel-alert', 'sorrel-row'].map(t => document.querySelector('body > div').shadowRoot.querySelectorAll(t).length > 0).join()`
	j.untilInFrame("true,false,false,true", parts)
	j.think()
	j.choose("State", "+loading")
	j.untilInFrame("false,true,false,false", parts)
	j.until(`document.body.innerText.includes('2 differences from ready')`)
	j.click(lineWith("page header"))
	j.until(`document.querySelector('input[aria-label=heading]')`)
	j.run(
		chromedp.SetValue(`input[aria-label=heading]`, "One moment", chromedp.ByQuery),
		chromedp.Evaluate(
			`document.querySelector('input[aria-label=heading]').dispatchEvent(new Event('input', { bubbles: true })), document.querySelector('input[aria-label=heading]').dispatchEvent(new Event('change', { bubbles: true }))`,
			nil,
		),
	)
	j.untilInFrame(
		"One moment",
		`document.querySelector('body > div').shadowRoot.querySelector('sorrel-page-header').getAttribute('heading')`,
	)
	j.until(`document.body.innerText.includes('3 differences') && ` + lineWith("page header", "differs"))
	j.until(`document.querySelector('input[aria-label=heading]').value === 'One moment'`)
	j.click(lineWith("spinner"))
	j.until(`document.querySelector('[role=group][aria-label="Choices of spinner"]')`)
	j.choose("State", "")
	j.untilInFrame(
		"Work tickets",
		`document.querySelector('body > div').shadowRoot.querySelector('sorrel-page-header').getAttribute('heading')`,
	)
	j.think()
	j.choose("State", "+error")
	j.untilInFrame("false,false,true,false", parts)
	j.think()
	j.choose("State", "+empty")
	j.untilInFrame("true,false,false,false", parts)
	j.think()
	j.click(`[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'states')`)
	j.until(`document.querySelectorAll('figcaption').length === 4 && document.querySelector('[data-pending="0"]')`)
	j.effort("a screen in all its states")
	j.untilInFrame(
		"Work tickets,One moment,Work tickets,Work tickets",
		`[...document.querySelectorAll('body > div')].map(d => d.shadowRoot.querySelector('sorrel-page-header').getAttribute('heading')).join()`,
	)
	// One is worked at again, and taken away; undo brings it back.
	j.click(`document.querySelector('button[aria-label="Work at loading"]')`)
	j.until(`document.body.innerText.includes('When loading')`)
	j.click(button("Take away"))
	j.until(`!document.body.innerText.includes('When loading')`)
	j.untilInFrame("true,false,false,true", parts)
	j.click(`document.querySelector('[data-line]')`)
	j.key("z", 2)
	j.until(`[...document.querySelectorAll('select option')].some(o => o.value === 'loading')`)
	assert.NotContains(t, j.text(`document.body.innerText`), "no longer fits")
}
