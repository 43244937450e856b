package e2e_test

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// A language is added; texts are said in it with the keys alone, what cannot stand is told where it
// is, the same words are said alike, and the Proof and what is delivered speak it.
func TestTheScreensSpeakAnotherLanguage(t *testing.T) {
	j := begin(t, "noor")
	j.run(chromedp.Navigate(j.server.URL + "/deliver"))
	j.click(`[...document.querySelectorAll('a')].find(a => a.textContent === 'all texts, and other languages')`)
	j.until(`document.querySelectorAll('[data-texts] li').length > 300`)
	j.fill(`document.querySelector('input[list]')`, "deutsch")
	j.click(button("Add"))
	j.until(`document.querySelector('[role=alert]')?.textContent.includes('is no language')`)
	j.fill(`document.querySelector('input[list]')`, "de")
	j.click(button("Add"))
	field := func(n int) string { return fmt.Sprintf(`document.querySelectorAll('[data-texts] textarea')[%d]`, n) }
	j.until(field(0) + `?.getAttribute('lang') === 'de'`)
	j.click(field(0))
	for n, words := range []string{"Heute", "Pflanzen", "Beete"} {
		j.until(fmt.Sprintf(`document.activeElement === %s`, field(n)))
		j.run(chromedp.KeyEvent(words), chromedp.KeyEvent(kb.Enter))
	}
	j.until(`document.activeElement === ` + field(3))
	j.until(`document.body.innerText.includes('441 missing')`)

	// What cannot stand is told at its field, and is not lost.
	j.run(chromedp.KeyEvent("{wo}"), chromedp.KeyEvent(kb.Enter))
	j.until(`document.querySelector('[data-texts] [role=alert]')?.textContent.includes('there is no value wo') && document.activeElement === ` + field(3))
	j.run(chromedp.KeyEvent(kb.Escape))
	j.until(field(3) + `.value === '' && !document.querySelector('[data-texts] [role=alert]')`)

	// The title of a screen is the same word as its place in the navigation.
	j.click(`[...document.querySelectorAll('button')].find(b => /^Say \d+ as elsewhere$/.test(b.textContent.trim()))`)
	j.until(`!document.body.innerText.includes('441 missing') && document.activeElement.type === 'search'`)
	j.until(`!/Say \d+ as elsewhere/.test(document.body.innerText)`)

	j.bench("today", ">= 10")
	j.choose("Language of the Proof", "de")
	j.untilDrawn("Pflanzen")
	j.untilDrawn("Open tickets") // what is not said stays as it is written
	// An edit is drawn in the language that is looked at.
	j.click(lineWith("What needs doing"))
	j.key("c")
	j.untilDrawn("Pflanzen")

	j.run(chromedp.Navigate(j.server.URL + "/deliver"))
	j.until(`[...document.querySelectorAll('[aria-label=Files] button')].some(b => b.textContent.includes('texts/') && b.textContent.includes('de.json'))`)
}
