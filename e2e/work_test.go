package e2e_test

import (
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// The worklist is worked by keys: walked, unfolded, a cause repaired on all its screens at
// once and taken back, one let stand on its screen and found again, one given to a person who
// finds it on the Overview.
func TestTheWorklistIsWorkedByKeys(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/census/work"))
	const tree = `document.querySelector('[role=tree]')`
	current := `document.getElementById(` + tree + `.getAttribute('aria-activedescendant'))`
	total := func() string { return j.text(`document.querySelector('[role=status].ml-auto').innerText`) }
	j.until(`document.querySelectorAll('[role=treeitem][aria-level="1"]').length > 10`)
	j.keys, j.clicks, j.thoughts = 0, 0, 0
	before := total()

	// Its cause holds chips on four screens.
	j.think()
	j.click(`document.querySelector('input[aria-label=Words]')`)
	j.write("meaning said")
	j.until(`document.querySelectorAll('[role=treeitem][aria-level="1"]').length === 1`)
	j.click(`document.querySelector('[role=treeitem]')`)
	j.until(`document.activeElement === ` + tree)
	j.key("ArrowRight")
	j.until(`document.querySelectorAll('[role=treeitem][aria-level="2"]').length === 4`)
	j.until(`document.querySelector('[data-bracket]')`)
	j.key("a")
	j.until(`document.querySelectorAll('[role=treeitem][aria-checked=true]').length === 5`)
	j.key("f")
	j.until(`[...document.querySelectorAll('[role=dialog] button')].some(b => b.innerText.includes('Apply on 4'))`)
	j.click(button("Apply on 4"))
	j.until(`!document.querySelector('[role=dialog]') && document.body.innerText.includes('Nothing matches')`)
	j.effort("one cause repaired on four screens")
	j.click(`[...document.querySelectorAll('button')].find(b => b.innerText.startsWith('Undo'))`)
	j.until(`document.querySelectorAll('[role=treeitem][aria-level="1"]').length === 1`)

	// Let stand on one screen, with a reason; it is listed as such and comes back.
	j.click(`document.querySelector('[role=treeitem]')`)
	j.until(`document.querySelectorAll('[role=treeitem][aria-level="2"]').length === 4 || ` + current + `?.getAttribute('aria-expanded') === 'false'`)
	j.key("ArrowRight")
	j.key("ArrowDown")
	j.until(current + `?.getAttribute('aria-level') === '2'`)
	j.key("l")
	j.until(`document.querySelector('[role=dialog] input[required]')?.matches(':focus')`)
	j.click(`document.querySelector('[role=dialog] input[type=radio][value=screen]')`)
	j.click(`document.querySelector('[role=dialog] input[required]')`)
	j.write("the fair wants it loud")
	j.key("Enter")
	j.until(`!document.querySelector('[role=dialog]') && document.querySelectorAll('[role=treeitem][aria-level="2"]').length === 3`)
	j.run(chromedp.Navigate(j.server.URL + "/census/work?level=stood&words=fair+loud"))
	j.until(`document.body.innerText.includes('the fair wants it loud')`)
	j.until(`document.body.innerText.includes('Let stand on the whole screen')`)
	j.click(`document.querySelector('[role=treeitem]')`)
	j.key("ArrowDown")
	j.until(current + `?.getAttribute('aria-level') === '2'`)
	j.key("l")
	j.until(`document.body.innerText.includes('Nothing matches')`)

	// Given to a person, who finds it.
	j.run(chromedp.Navigate(j.server.URL + "/census/work"))
	j.until(`document.querySelectorAll('[role=treeitem][aria-level="1"]').length > 10`)
	assert.Equal(t, before, total(), "all that was done is taken back")
	j.click(`document.querySelector('[role=treeitem]')`)
	j.key("g")
	j.until(`document.querySelector('[role=dialog] select')`)
	j.run(chromedp.SetValue(`[role=dialog] select`, "ida", chromedp.ByQuery))
	j.run(chromedp.Evaluate(`document.querySelector('[role=dialog] select').dispatchEvent(new Event('change', {bubbles: true}))`, nil))
	j.click(`document.querySelector("[role=dialog] .btn-main")`)
	j.until(`!document.querySelector('[role=dialog]') && document.body.innerText.includes('Given to Ida')`)
	j.click(`document.querySelector('nav a[href="/"]')`)
	j.until(`document.querySelector('aside a')?.innerText.includes('given to you')`)
	j.click(`document.querySelector('aside a')`)
	// From there it is under the cursor, and the keys are at hand.
	j.until(`location.pathname === '/census/work' && document.activeElement === ` + tree + ` && ` + current + `?.getAttribute('aria-level') === '2'`)
}

// A rule by example: two chips are chosen in the line-up, the rule is read off them, shown with
// what it hits, made, found in the worklist, and taken back.
func TestARuleIsMadeByExample(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/census/line-up?component=sorrel-chip&prop=shape"))
	j.until(`document.querySelectorAll('section h2 input').length >= 2`)
	j.keys, j.clicks, j.thoughts = 0, 0, 0
	j.think()
	for _, section := range []string{"0", "1"} {
		j.click(`[...document.querySelectorAll('section')].filter(s => s.querySelector('h2 input'))[` + section + `].querySelector('li input')`)
	}
	j.click(button("Rule: like"))
	const hits = `document.querySelector('[role=dialog] [role=status]')`
	j.until(hits + ` && /^[1-9]/.test(` + hits + `.innerText)`)
	j.until(`document.querySelector('[role=dialog]').innerText.includes('the good one keeps it, the bad one is found')`)
	assert.Contains(t, j.text(`document.querySelector('[role=dialog] textarea').value`), "shape")
	// What cannot be a rule says so while it is written.
	j.click(`document.querySelector('[role=dialog] textarea')`)
	j.run(chromedp.KeyEvent(kb.End))
	j.write(" &&")
	j.until(`document.querySelector('[role=dialog] [role=alert]')?.innerText.includes('Syntax error') && document.querySelector('[role=dialog] .btn-main').disabled`)
	for range 3 {
		j.run(chromedp.KeyEvent(kb.Backspace))
	}
	j.until(`!document.querySelector('[role=dialog] .btn-main').disabled`)
	j.click(`document.querySelector('[role=dialog] .btn-main')`)
	j.until(`!document.querySelector('[role=dialog]') && document.querySelector('section[aria-label="Rules of your own"] tbody tr')`)
	j.effort("a rule by example")
	j.click(`document.querySelector('section[aria-label="Rules of your own"] td a')`)
	j.until(`location.pathname === '/census/work' && document.querySelectorAll('[role=treeitem]').length > 1`)
	j.click(`[...document.querySelectorAll('button')].find(b => b.innerText.startsWith('Undo'))`)
	j.until(`document.body.innerText.includes('Nothing matches')`)
}

// Several screens are signed off at once, as far as they meet what the team asks for; asking
// for more leaves fewer, and one undo takes all of it back.
func TestScreensAreSignedOffTogether(t *testing.T) {
	j := begin(t, "ida")
	ready := func() string {
		j.click(button("Sign off …"))
		j.until(`document.querySelector('[role=dialog] input[type=checkbox]') || document.querySelector('[role=dialog]')?.innerText.includes('None is ready')`)
		return j.text(`String(document.querySelectorAll('[role=dialog] fieldset div input').length)`)
	}
	many := ready()
	assert.NotEqual(t, "0", many)
	j.click(`document.querySelector('[role=dialog] input[type=checkbox]')`)
	j.click(button("Sign off " + many))
	j.until(`!document.querySelector('[role=dialog]') && [...document.querySelectorAll('main span, section span')].filter(s => s.innerText === 'signed off').length === ` + many)
	j.key("z", input.ModifierCtrl)
	j.until(`![...document.querySelectorAll('section span')].some(s => s.innerText === 'signed off')`)

	j.run(chromedp.Navigate(j.server.URL + "/census/rules#sign-off"))
	const asks = `[...document.querySelectorAll('#sign-off label')].find(l => l.innerText.includes('warnings')).querySelector('input')`
	j.until(`document.querySelector('#sign-off label')`)
	j.click(asks)
	j.click(`[...document.querySelectorAll('#sign-off button')].find(b => b.innerText === 'Save')`)
	j.until(`document.querySelector('#sign-off').innerText.includes('Ida')`)
	j.click(`document.querySelector('nav a[href="/"]')`)
	fewer := ready()
	assert.NotEqual(t, many, fewer)
	assert.Contains(t, j.text(`document.querySelector('[role=dialog]').innerText`), "Not yet")
}
