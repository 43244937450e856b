package e2e_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
)

// Filters become a piece, and the list beside them goes on following them: by what the use tells.
// On another screen the piece brings its own.
func TestFiltersBecomeAPieceThatTellsWhatTheyHold(t *testing.T) {
	j := begin(t, "noor")
	root := `document.querySelector('body > div').shadowRoot`
	rows := func(n int) { j.untilInFrame(fmt.Sprint(n), root+`.querySelectorAll('sorrel-row').length`) }
	types := func(words string) {
		j.untilInFrame("typed", `(i => (i.value = '`+words+`', i.dispatchEvent(new Event('input', { bubbles: true, composed: true })), 'typed'))(`+root+`.querySelector('sorrel-text-input').shadowRoot.querySelector('input'))`)
	}
	j.bench("tickets", "> 5")
	j.click(lineWith("text input"))
	j.until(`document.activeElement?.dataset.line`)
	j.key("e")
	j.until(`document.querySelector('[role=dialog]')?.innerText.includes('Told by each use')`)
	j.click(`document.querySelector('[role=dialog] input:not([type])')`)
	j.command("a", "selectAll")
	j.write("Finder")
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim().startsWith('Extract'))`)
	j.until(`!document.querySelector('[role=dialog]') && document.activeElement?.textContent.includes('Finder')`)
	j.until(`document.querySelector('[role=group][aria-label^="Choices"]')?.innerText.includes('controls.finderQ')`)
	j.click(button("Preview"))
	rows(10)
	types("the l")
	rows(3)
	j.click(button("Preview"))
	rows(10)

	// What follows it goes along with the names.
	j.click(`[...document.querySelectorAll('a')].find(a => a.textContent.trim() === 'Open the piece')`)
	j.until(`document.querySelector('[aria-label="Props of the piece"]') && ` + lineWith("text input"))
	j.click(lineWith("text input"))
	j.click(button("all "))
	j.fill(`document.querySelector("[aria-label=\"Name for own code\"]")`, "words")
	j.bench("tickets", "> 5")
	j.click(lineWith("Finder"))
	j.until(`document.querySelector('[role=group][aria-label^="Choices"]')?.innerText.includes('controls.finderWords')`)
	j.click(button("Preview"))
	rows(10)
	types("the l")
	rows(3)
	assert.NotContains(t, j.text(`document.body.innerText`), "no control named")
}
