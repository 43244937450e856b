package e2e_test

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// Every screen is drawn with all records, at all widths and in all themes; what looks wrong is work
// like any other, shown as it was seen. After a change of one screen that one is left to measure.
func TestScreensAreMeasuredIntoTheWorklist(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/census/work"))
	j.until(button("Measure"))
	j.click(button("Measure"))
	j.until(`document.body.innerText.includes('Measuring ') && document.querySelector('[role=progressbar]')`)
	// It takes as long as it takes: what is waited for is that it goes on.
	const all = `document.body.innerText.includes('35 of 35 screens measured')`
	for n := 5; n < 35; n += 5 {
		j.until(fmt.Sprintf(`%s || Number(document.querySelector('[role=progressbar]')?.getAttribute('aria-valuenow')) >= %d`, all, n))
	}
	j.until(all)
	row := `[...document.querySelectorAll('[role=treeitem]')].find(r => r.textContent.includes('text, contrast'))`
	j.fill(`document.querySelector('input[aria-label=Words]')`, "contrast")
	j.click(row)
	j.until(`document.querySelector('[aria-label="What it is about"]')?.innerText.includes('hard to read')`)
	j.until(`document.querySelector('[aria-label="What it is about"]')?.innerText.includes('at 1280 px, dark')`)
	assert.NotContains(t, j.text(`document.querySelector('[aria-label="What it is about"]').innerText`), "Repair")

	j.bench("archive", "> 5")
	j.click(lineWith("Kept for seven years"))
	j.until(onLine)
	j.key("c")
	j.until(lineTexts + `.filter(t => t.includes('Kept for seven')).length === 2`)
	j.run(chromedp.Navigate(j.server.URL + "/census/work"))
	j.until(`[...document.querySelectorAll('button')].some(b => b.textContent.trim() === 'Measure 1')`)
}
