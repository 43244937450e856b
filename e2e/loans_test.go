package e2e_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// Tools lent to volunteers, with nothing prepared: a model from rows, figures counted in place, a
// table with filters whose rows act, and a dialog whose dates bound each other. What a row does to its
// record is counted at once.
func TestLoansAreAssembledWithNothingPrepared(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/samples"))
	j.until(`document.querySelector('[role=grid] [role=gridcell]')`)
	j.keys, j.clicks, j.thoughts = 0, 0, 0
	j.think()
	j.click(button("Model from rows"))
	j.until(`document.querySelector('[role=dialog] textarea')`)
	j.run(
		chromedp.SetValue(
			`[role=dialog] textarea`,
			"Tool;Borrower;Lent;Due;State\nPole pruner;Noor Abadi;2026-11-02;2026-11-16;out\nBow saw;Tam Okoro;2026-11-20;2026-12-18;out\nLong ladder;Lise Brandt;2026-10-01;2026-10-08;back\nSpade;Ida Fenn;2026-11-21;2026-12-05;out\nRake;Tam Okoro;2026-09-01;2026-09-12;lost\n",
			chromedp.ByQuery,
		),
		chromedp.Evaluate(`document.querySelector('[role=dialog] textarea').dispatchEvent(new Event('input', { bubbles: true }))`, nil),
	)
	j.until(`document.querySelector('[role=dialog] select[aria-label="How Borrower is read"]')`)
	j.run(chromedp.Evaluate(fmt.Sprintf(
		`(s => { s.value = %q; s.dispatchEvent(new Event('change', { bubbles: true })) })(document.querySelector('[role=dialog] select[aria-label="How Borrower is read"]'))`,
		"record of volunteers"), nil))
	j.clicks += 2
	const goOn = `[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim() === 'Go on to the fields')`
	j.until(`!` + goOn + `.disabled`)
	j.click(goOn)
	j.until(`document.querySelectorAll('[role=dialog] select[aria-label^="Type of"]').length === 5`)
	j.choose("Type of state", "choice")
	j.click(`document.querySelector('[role=dialog] input[required]')`)
	j.write("Loan")
	j.click(button("Make it"))
	j.until(`location.pathname.startsWith('/samples/loan')`)

	j.newScreen("Loans", "loans")
	j.open("i")
	j.take("page h | | Loans", "Tab")
	j.take("strong bu | New loan", "Enter")
	j.up("page header")
	j.open("n")
	j.take("across stack", "Tab")
	j.take("stat | | Out", "Enter")
	j.set("value = text(size(loans.filter(l, l.state == 'out')))")
	j.open("n")
	j.take("stat | | Late", "Enter")
	j.set("value = text(size(loans.filter(l, l.state == 'out' && l.due < today)))")
	j.open("n")
	j.take("stat | | Lost", "Enter")
	j.set("value = text(size(loans.filter(l, l.state == 'lost')))")
	j.up("stack")
	j.open("n")
	j.take("loans as a table, w", "Enter")
	j.untilInFrame("Out 3,Late 1,Lost 1", `[...`+proof+`.querySelectorAll('sorrel-stat')].map(s => s.label + ' ' + s.value).join()`)
	j.click(lineWith("column", "State"))
	j.until(onLine)
	j.line("n", "column | Actions")
	j.click(lineWith("chip", "record.state"))
	j.until(onLine)
	j.key("ArrowLeft")
	j.open("n")
	j.take("cell", "Tab")
	j.take("icon bu | Edit | edit", "Enter")
	j.open("n")
	j.take("icon bu | Return | check", "Enter")
	j.set("does change state back")
	j.up("section")
	j.open("i")
	j.take("dia | | Lend a tool", "Tab")
	j.take("form of a loan", "Enter")
	j.click(lineWith("text input", "lent"))
	j.until(onLine)
	j.set("called lent")
	j.set("max = controls.due")
	j.click(lineWith("text input", "due"))
	j.until(onLine)
	j.set("called due")
	j.set("min = controls.lent")
	j.click(lineWith("button", "New loan"))
	j.until(onLine)
	j.set("does open lend")
	for range 5 { // the way back up folded what lay on it
		j.run(chromedp.Evaluate(`document.querySelector('[data-line] button[aria-label=Unfold]')?.click()`, nil), chromedp.Sleep(100*time.Millisecond))
	}
	j.click(lineWith("icon button", "pencil"))
	j.until(onLine)
	j.set("does open lend")
	j.effort("loans", 35)
	// What arrangements and the norm brought is as the other screens have it.
	j.until(`document.querySelector('[data-pending="0"]')`)
	assert.NotContains(t, j.text(lineTexts+`.join('\n')`), "Whether a cell has a chip")
	assert.NotContains(t, j.text(lineTexts+`.join('\n')`), "Span of a column")
	j.untilInFrame("true", `['lent', 'due'].every(n => `+proof+`.querySelector('.u-section sorrel-text-input[name=' + n + ']'))`)
	j.click(button("Preview"))
	j.does(proof + `.querySelectorAll('.u-section sorrel-icon-button')[1].shadowRoot.querySelector('button').click()`)
	j.untilInFrame("Out 2,Late 1,Lost 1", `[...`+proof+`.querySelectorAll('sorrel-stat')].map(s => s.label + ' ' + s.value).join()`)
}
