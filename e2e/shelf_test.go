package e2e_test

import (
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"

	"github.com/stretchr/testify/assert"
)

// The sheet measures what is drawn: the kit's own pairs hold, in every theme.
func TestEveryPairOfLettersAndGroundInTheKitHoldsItsContrast(t *testing.T) {
	j := begin(t, "lise")
	j.run(chromedp.Navigate(j.server.URL + "/shelf?sheet=contrast"))
	j.until(`[...document.querySelectorAll('[role=status]')].some(e => e.textContent.includes('too weak'))`)
	said := j.text(
		`[...document.querySelectorAll('[role=status]')].find(e => e.textContent.includes('too weak')).textContent`,
	)
	assert.Contains(t, said, "in light and dark, 0 too weak")
	rows := j.text(
		`[...document.querySelectorAll('section[aria-label=Contrast] tbody tr')].map(r => [...r.cells].slice(1, 6).map(c => c.textContent.trim()).join(' ')).join('\n')`,
	)
	assert.Contains(t, rows, "light surface accent", "a strong button's words")
	assert.Contains(t, rows, "dark good-ink good-soft", "a chip's words")
	assert.NotContains(t, rows, "878888", "words in a dialog stand on its sheet, not on what it covers")
}

func TestTokensTellWhoUsesThem(t *testing.T) {
	j := begin(t, "lise")
	j.run(chromedp.Navigate(j.server.URL + "/shelf?sheet=tokens"))
	j.until(`document.querySelector('section[aria-label=space]')`)
	row := j.text(
		`[...document.querySelectorAll('section[aria-label=space] tr')].find(r => r.cells[0].textContent.trim() === '5').textContent`,
	)
	assert.Regexp(t, `\d+ components?`, row)
	assert.Regexp(t, `\d+ elements on \d+ screens`, row)
	assert.Equal(
		t,
		"button",
		j.text(
			`[...document.querySelectorAll('section[aria-label=color] tr')].find(r => r.cells[0].textContent.trim() === 'on-bad').querySelector('a').textContent`,
		),
	)
}

func TestAValueIsReplacedEverywhereAndTakenBackAtOnce(t *testing.T) {
	j := begin(t, "noor")
	j.run(chromedp.Navigate(j.server.URL + "/census/count"))
	j.until(
		`document.querySelector('[placeholder*="section >"]') && document.querySelectorAll('tbody tr').length > 10`,
	)
	j.think()
	j.click(`document.querySelector('[placeholder*="section >"]')`)
	j.write("sorrel-button[emphasis=strong][text^=New]")
	j.key("Enter")
	j.until(`document.querySelector('section[aria-label=Found] li')`)
	found := j.text(`String(document.querySelectorAll('section[aria-label=Found] li').length)`)
	assert.Equal(t, found+" uses", j.text(`document.querySelector('form [role=status]').textContent`))
	assert.Contains(t, j.text(`location.search`), "where=", "the search can be sent to a colleague")

	// One of them stays as it is.
	j.click(`document.querySelector('section[aria-label=Found] li input')`)
	j.run(
		chromedp.Evaluate(
			`(() => { const s = document.querySelector('section[aria-label=Found] select'); s.value = 'size'; s.dispatchEvent(new Event('change')) })()`,
			nil,
		),
	)
	j.click(`document.querySelector('section[aria-label=Found] input[list]')`)
	j.write("l")
	j.key("Enter")
	j.until(`document.querySelector('[role=dialog] h3')?.textContent.includes('size: not set → l')`)
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim().startsWith('Apply'))`)
	j.until(
		`!document.querySelector('[role=dialog]') && document.querySelector('form [role=status]').textContent.includes('use')`,
	)
	j.until(`document.body.textContent.includes('Set size of') && document.body.textContent.includes('to l; undo')`)
	left := func() string {
		j.run(
			chromedp.Navigate("about:blank"),
			chromedp.Navigate(j.server.URL+"/census/count?where=sorrel-button[size=l]"),
		)
		j.until(`document.querySelector('form [role=status]')`)
		return j.text(`document.querySelector('form [role=status]').textContent`)
	}
	j.key("z", input.ModifierCtrl)
	j.until(`document.body.textContent.includes('Taken back: Set size of')`)
	assert.Equal(t, "0 uses", left())
}

func TestAnExampleIsTriedWithOtherValuesAndItsCodeFollows(t *testing.T) {
	j := begin(t, "lise")
	j.run(chromedp.Navigate(j.server.URL + "/shelf/sorrel-button"))
	j.until(`document.querySelector('pre')?.textContent.includes('emphasis="strong"')`)
	j.run(
		chromedp.Evaluate(
			`document.querySelector('[role=radiogroup][aria-label=intent] [aria-checked=true]').focus()`,
			nil,
		),
	)
	j.key("ArrowRight")
	j.until(`document.querySelector('pre').textContent.includes('intent="danger"')`)
	j.until(`document.activeElement.textContent.trim().startsWith('danger')`)
	j.click(`document.querySelector('input[aria-label=to]')`)
	j.write("/beds")
	j.until(`document.querySelector('pre').textContent.includes('to="/beds"')`)
	j.key("Tab")
	// What is the default anyway is not written.
	j.click(
		`[...document.querySelectorAll('[role=radiogroup][aria-label=emphasis] [role=radio]')].find(b => b.textContent.trim().startsWith('soft'))`,
	)
	j.until(`!document.querySelector('pre').textContent.includes('emphasis=')`)
	assert.Contains(
		t,
		j.text(`document.querySelector('section[aria-label=Needs]').textContent`),
		"@fernhollow/sorrel@1.0.0",
	)
	assert.Contains(
		t,
		j.text(`document.querySelector('section[aria-label=Needs]').textContent`),
		"main actions stand in one group",
		"what is wrong with its uses",
	)
}
