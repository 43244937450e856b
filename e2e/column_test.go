package e2e_test

import (
	"testing"

	"github.com/chromedp/cdproto/input"
)

// The head of a column takes its cells along, and one undo brings both back.
func TestAColumnGoesWithItsCells(t *testing.T) {
	j := begin(t, "noor")
	j.bench("tickets", "> 10")
	const count = `String([...document.querySelectorAll('[data-line]')].length)`
	before := j.text(count)
	j.click(lineWith("column", "Due"))
	j.until(onLine + ` && document.activeElement.textContent.includes('Due')`)
	j.key("Delete")
	j.until(`document.body.innerText.includes('1 cell went with it')`)
	j.until(`![...document.querySelectorAll('[data-line]')].some(l => l.textContent.includes('day(record.due)'))`)
	j.untilInFrame("4,4", `(r => [r.querySelectorAll('sorrel-column').length, r.querySelector('sorrel-row').querySelectorAll('sorrel-cell').length].join())(document.querySelector('body > div').shadowRoot)`)
	j.key("z", input.ModifierCtrl)
	j.until(count + ` === '` + before + `'`)
	j.untilInFrame("5,5", `(r => [r.querySelectorAll('sorrel-column').length, r.querySelector('sorrel-row').querySelectorAll('sorrel-cell').length].join())(document.querySelector('body > div').shadowRoot)`)
}
