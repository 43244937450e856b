package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// The Proof is measured by what the screens share, looked at close by, and turned.
func TestTheProofHasRulersAndIsTurnedAndEnlarged(t *testing.T) {
	j := begin(t, "lise")
	j.bench("tickets", "> 5")
	j.click(button("rulers"))
	j.until(`document.querySelectorAll('[data-ruler]').length === 2`)
	assert.Regexp(
		t,
		`^margin 24 px, on \d+ of 35 screens$`,
		j.text(`document.querySelector('[data-ruler]').innerText`),
	)
	// The heading begins at the ruler.
	j.click(lineWith("page header"))
	j.until(
		`document.querySelectorAll('[data-selected]').length === 1 && Math.abs(document.querySelector('[data-ruler]').getBoundingClientRect().x - document.querySelector('[data-selected]').getBoundingClientRect().x) < 1.5`,
	)
	j.choose("zoom", "150")
	width := `getComputedStyle(document.querySelector('body > div').shadowRoot.querySelector('.u-screen')).transform`
	j.untilInFrame("matrix(1.5, 0, 0, 1.5, 0, 0)", width)
	j.until(
		`Math.abs(document.querySelector('[data-ruler]').getBoundingClientRect().x - document.querySelector('[data-selected]').getBoundingClientRect().x) < 1.5`,
	)
	j.choose("zoom", "0")
	j.click(`[...document.querySelectorAll('[role=radio]')].find(b => b.textContent.trim() === '360')`)
	j.until(`document.body.innerText.includes('360 px')`)
	j.click(button("turn"))
	j.until(`document.body.innerText.includes('780 px')`)
	j.untilInFrame("780px", `document.querySelector('body > div').shadowRoot.querySelector('.u-screen').style.width`)
	j.click(button("turn"))
	j.until(`document.body.innerText.includes('360 px')`)
}

// Two moments of the past stand beside each other, in words and as pictures.
func TestTwoMomentsOfThePastAreCompared(t *testing.T) {
	j := begin(t, "ida")
	j.bench("tickets", "> 5")
	for _, heading := range []string{"Jobs", "Chores", "Errands"} {
		j.click(lineWith("page header"))
		j.until(`document.querySelector('input[aria-label=heading]')`)
		j.run(
			chromedp.Evaluate(
				`(e => { e.value = '`+heading+`'; e.dispatchEvent(new Event('input', { bubbles: true })); e.dispatchEvent(new Event('change', { bubbles: true })) })(document.querySelector('input[aria-label=heading]'))`,
				nil,
			),
		)
		j.until(lineWith("page header", heading))
	}
	j.click(`document.querySelector('button[aria-label^="History"], button[title^="History"]')`)
	j.until(`document.querySelectorAll('[role=dialog] button[aria-label^="Compare with now"]').length === 3`)
	j.click(`[...document.querySelectorAll('[role=dialog] button[aria-label^="Compare with now"]')].at(-1)`)
	j.until(
		`document.querySelector('[role=dialog] [aria-label="What differs since"]')?.innerText.includes('Errands')`,
	)
	j.run(
		chromedp.Evaluate(
			`(s => { s.value = s.options[2].value; s.dispatchEvent(new Event('change', { bubbles: true })) })(document.querySelector('select[aria-label="Compare till"]'))`,
			nil,
		),
	)
	j.until(
		`(w => w.includes('Chores') && !w.includes('Errands from'))(document.querySelector('[aria-label="What differs since"]').innerText) && ![...document.querySelectorAll('[role=dialog] button')].some(b => b.textContent.includes('Bring all back'))`,
	)
}
