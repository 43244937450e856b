package e2e_test

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// An open question is put to people; one of them finds it on the Overview, says what she thinks, and
// who asked settles it with the reason that was given.
func TestAQuestionIsPutToPeople(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/census/questions"))
	j.click(button("Ask people …"))
	person := func(name string) string {
		return `[...document.querySelectorAll('[role=dialog] label')].find(l => l.textContent.includes('` + name + `'))?.querySelector('input')`
	}
	j.until(person("Lise Brandt"))
	// Those who own the screens are proposed.
	j.until(person("Noor Abadi") + `.checked`)
	for _, owner := range []string{"Noor Abadi", "Tam Okoro"} {
		j.click(person(owner))
	}
	j.until(person("Lise Brandt") + `.checked`)
	j.fill(labelled("What they should know"), "The forms are next.")
	j.click(button("Ask 1"))
	j.until(`document.querySelector('article')?.innerText.includes('Not answered yet: Lise Brandt. “The forms are next.”')`)

	lise := j.beside("lise")
	lise.run(chromedp.Navigate(j.server.URL + "/"))
	lise.click(`[...document.querySelectorAll('aside a')].find(a => a.textContent.includes('asked by Ida Fenn: The forms are next.'))`)
	lise.until(`location.pathname === '/census/questions' && document.querySelector('article')`)
	side := `document.querySelector('article section')`
	lise.click(`[...` + side + `.querySelectorAll('button')].find(b => b.textContent.trim() === 'I say this')`)
	lise.until(`document.querySelector('[role=dialog] textarea')`)
	lise.fill(`document.querySelector('[role=dialog] textarea')`, "It is where people look.")
	lise.click(button("Say so"))
	lise.until(side + `.innerText.includes('Lise Brandt: It is where people look.')`)
	lise.until(`document.activeElement === document.querySelector('article')`)
	assert.NotContains(t, lise.text(`document.querySelector('article').innerText`), "Ask people", "who reads does not ask")

	j.run(chromedp.Navigate(j.server.URL + "/"))
	j.click(`[...document.querySelectorAll('aside a')].find(a => a.textContent.includes('Lise Brandt has answered'))`)
	j.until(side + `?.innerText.includes('Lise Brandt: It is where people look.')`)
	j.click(`[...` + side + `.querySelectorAll('button')].find(b => b.textContent.trim().startsWith('Settle on'))`)
	j.until(`document.querySelector('[role=dialog] textarea')?.value === 'Lise Brandt: It is where people look.'`)
	before := j.text(`String(document.querySelectorAll('article').length)`)
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim() === 'Settle')`)
	j.until(`String(document.querySelectorAll('article').length) !== '` + before + `'`)
	assert.NotContains(t, j.text(`document.querySelector('main').innerText`), "Lise Brandt")
}
