package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp"

	"github.com/stretchr/testify/assert"
)

// The sheet measures what is drawn: the kit's own pairs hold, in every theme.
func TestEveryPairOfLettersAndGroundInTheKitHoldsItsContrast(t *testing.T) {
	j := begin(t, "lise")
	j.run(chromedp.Navigate(j.server.URL + "/shelf?sheet=contrast"))
	j.until(`[...document.querySelectorAll('[role=status]')].some(e => e.textContent.includes('too weak'))`)
	said := j.text(`[...document.querySelectorAll('[role=status]')].find(e => e.textContent.includes('too weak')).textContent`)
	assert.Contains(t, said, "in 2 themes, 0 too weak")
	rows := j.text(`[...document.querySelectorAll('section[aria-label=Contrast] tbody tr')].map(r => [...r.cells].slice(1, 6).map(c => c.textContent.trim()).join(' ')).join('\n')`)
	assert.Contains(t, rows, "light surface accent", "a strong button's words")
	assert.Contains(t, rows, "dark good-ink good-soft", "a chip's words")
	assert.NotContains(t, rows, "878888", "words in a dialog stand on its sheet, not on what it covers")
}

func TestTokensTellWhoUsesThem(t *testing.T) {
	j := begin(t, "lise")
	j.run(chromedp.Navigate(j.server.URL + "/shelf?sheet=tokens"))
	j.until(`document.querySelector('section[aria-label=space]')`)
	row := j.text(`[...document.querySelectorAll('section[aria-label=space] tr')].find(r => r.cells[0].textContent.trim() === '5').textContent`)
	assert.Regexp(t, `\d+ components?`, row)
	assert.Regexp(t, `\d+ elements on \d+ screens`, row)
	assert.Equal(t, "button", j.text(`[...document.querySelectorAll('section[aria-label=color] tr')].find(r => r.cells[0].textContent.trim() === 'on-bad').querySelector('a').textContent`))
}
