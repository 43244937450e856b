package e2e_test

import (
	"testing"
	"time"

	"github.com/chromedp/chromedp"

	"ubiquant/internal/browser"
)

// does runs a script in the Proof's frame.
func (j *journey) does(script string) {
	j.t.Helper()
	j.untilInFrame("false", `document.querySelector('body > div').inert`)
	var done bool
	j.inFrame(`(() => { `+script+`; return true })()`, &done)
}

// proof is the root of the Proof's picture.
const proof = `document.querySelector('body > div').shadowRoot`

// A small form: a stack, a text field, the main button, both with a name by which own code
// reaches them in what is delivered.
func TestASmallFormIsNamedForItsCode(t *testing.T) {
	j := begin(t, "tam")
	j.newScreen("Ask us", "ask-us")
	j.open("i")
	j.take("stack", "Tab")
	j.take("form | | Ask us", "Tab")
	j.take("field | Your name", "Tab")
	j.take("text in", "Enter")
	j.set("called nameInput")
	j.up("form")
	j.open("i")
	j.take("strong bu | Send", "Enter")
	j.set("act s")
	j.set("called sendButton")
	j.effort("small form", 10)
	j.untilInFrame(
		"strong,submit,Send",
		`(b => [b.getAttribute('emphasis'), b.getAttribute('action'), b.textContent.trim()].join())(`+proof+`.querySelector('.u-section sorrel-button'))`,
	)
	j.untilInFrame("Your name", proof+`.querySelector('.u-section sorrel-field').getAttribute('label')`)
	// From the element to the screen's code: the names stand there, and in what is delivered.
	j.key("o")
	j.until(`document.querySelector('textarea[aria-label="The screen as code"]')?.value.includes('sendButton')`)
	j.click(button("back to lines"))
	j.click(button("Deliver"))
	file := `[...document.querySelectorAll('button')].find(b => b.textContent.includes("AskUsScreen.vue"))`
	j.until(`!!` + file)
	j.click(file)
	j.until(
		`document.body.innerText.includes('ref="sendButton"') && document.body.innerText.includes('ref="nameInput"')`,
	)
}

// A list with all its states: work tickets with their count, a tick, edit and remove in
// each row, a dialog to add one, filters and pages; nothing there, on its way and failed.
func TestAListIsSeenInAllItsStates(t *testing.T) {
	j := begin(t, "ida")
	j.newScreen("All tickets", "all-tickets")
	j.line("i", "page h | = plural(count.list, 'ticket', 'tickets')")
	j.line("n", "tickets as a table")
	j.until(lineTexts + `.filter(t => t.includes('column')).length >= 4`)
	// The row gets what can be done with it.
	j.click(lineWith("row", "each tickets"))
	j.open("i")
	j.take("cell", "Tab")
	j.take("checkbox | | Done", "Enter")
	j.up("row")
	j.open("i")
	j.take("cell", "Tab")
	j.take("icon button | | Edit ticket", "Enter")
	j.set("icon pencil")
	j.line("n", "icon button | | Remove ticket")
	j.set("icon bin")
	j.up("table")
	j.open("i")
	j.take("column | Done", "Enter")
	j.line("n", "column | Actions")
	j.set("kind act")
	// The dialog that adds one, opened from the header.
	j.up("section")
	j.open("i")
	j.take("dia | | New ticket", "Tab")
	j.take("form of a work", "Enter")
	j.until(lineWith("form"))
	j.click(lineWith("page header"))
	j.open("i")
	j.take("strong bu | New ticket", "Enter")
	j.set("does open dia")
	j.until(lineWith("button", "New ticket"))
	// Its states.
	j.think()
	j.choose("State", "+loading")
	j.until(`document.body.innerText.includes('from ready')`)
	j.think()
	j.choose("State", "+error")
	j.until(`document.body.innerText.includes('When error')`)
	j.think()
	j.choose("State", "+empty")
	j.until(`document.body.innerText.includes('When empty')`)
	j.think()
	j.click(`[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'states')`)
	j.until(`document.querySelectorAll('figcaption').length === 4 && document.querySelector('[data-pending="0"]')`)
	j.effort("list with all its states", 25)
	all := func(script string) string {
		return `[...document.querySelectorAll('body > div')].map(d => (r => ` + script + `)(d.shadowRoot)).join()`
	}
	j.untilInFrame("true,false,false,false", all(`r.querySelectorAll('sorrel-row').length > 5`))
	j.untilInFrame("false,true,false,false", all(`!!r.querySelector('.u-section sorrel-spinner')`))
	j.untilInFrame("false,false,true,false", all(`!!r.querySelector('.u-section sorrel-alert')`))
	j.untilInFrame("false,false,false,true", all(`!!r.querySelector('.u-section sorrel-empty-state')`))
	// At work again, it acts: the count follows the filter, the button opens the dialog.
	j.click(`[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'states')`)
	j.choose("State", "")
	j.until(`!document.body.innerText.includes('When empty')`)
	j.click(button("Preview"))
	j.until(`document.querySelector('button[aria-pressed=true][title^="The kit takes"]')`)
	j.untilInFrame(
		"14 tickets",
		proof+`.querySelector('.u-section sorrel-page-header').firstChild.textContent.trim()`,
	)
	j.does(
		`const s = ` + proof + `.querySelector('.u-section sorrel-select[name=state]').shadowRoot.querySelector('select'); s.value = 'open'; s.dispatchEvent(new Event('change', { bubbles: true }))`,
	)
	j.untilInFrame(
		"true",
		`/^[1-9] tickets?$/.test(`+proof+`.querySelector('.u-section sorrel-page-header').firstChild.textContent.trim())`,
	)
	j.pressInFrame("New ticket")
	j.untilInFrame("true", proof+`.querySelector('.u-section sorrel-dialog').open`)
	// Nothing in it does nothing without saying so: what a press lacks is told.
	j.click(button("Preview"))
	j.until(`!document.querySelector('button[aria-pressed=true][title^="The kit takes"]')`)
	j.run(browser.Drawn())
	j.untilInFrame(
		"pencil,bin,true",
		`(r => [...[...r.querySelectorAll('sorrel-icon-button')].map(b => b.getAttribute('icon')), !!r.querySelector('sorrel-checkbox')].join())(`+proof+`.querySelector('.u-section sorrel-row'))`,
	)
}

// From and to, what was counted between them in a summary, itemised and grouped by gate,
// the counts met as chips; asked of a service with what the dates hold, on its way and
// refused.
func TestARangeIsAskedSummedAndItemised(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/samples/visits"))
	j.until(`!!` + button("Live from office"))
	j.keys, j.clicks, j.thoughts = 0, 0, 0
	j.think()
	j.click(button("Live from office"))
	j.until(`document.querySelector('[role=dialog] input[placeholder="/visits?gate={gate}"]')`)
	j.click(`document.querySelector('[role=dialog] input[placeholder="/visits?gate={gate}"]')`)
	j.key("End")
	j.write("&to={to}")
	j.until(`!!document.querySelector('[aria-label="Try to with"]')`)
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim() === 'Change')`)
	j.until(`!document.querySelector('[role=dialog]')`)
	j.think()
	j.click(button("List made of one"))
	j.until(`document.querySelector('[role=dialog] input[placeholder="Tickets by state"]')`)
	j.click(`document.querySelector('[role=dialog] input[placeholder="Tickets by state"]')`)
	j.write("Gates")
	j.choose("Made of", "visits")
	j.choose("Group by", "gate")
	j.click(button("Another value"))
	j.until(`document.querySelector('[aria-label="Name of value 2"]')`)
	j.choose("What value2 is", "average")
	j.choose("Of which field value2 is", "count")
	j.until(`document.querySelector('[role=dialog]').innerText.includes('Lake gate')`)
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim() === 'Make it')`)
	j.until(`location.pathname === '/samples/gates'`)
	j.newScreen("Between days", "between-days")
	j.open("i")
	j.take("form | | Days", "Tab")
	j.take("field | From", "Tab")
	j.take("date text in", "Enter")
	j.set("called from")
	j.up("fieldFrom")
	j.open("n")
	j.take("field | To", "Tab")
	j.take("date text in", "Enter")
	j.set("called to")
	j.up("form")
	j.open("i")
	j.take("strong bu | Show", "Enter")
	j.set("act s")
	j.up("form")
	j.open("n")
	j.take("figures of visits b", "Enter")
	j.until(lineWith("stat", "each visitsByGate"))
	j.open("n")
	j.take("list", "Tab")
	j.take(
		"list item | = record.gate + ', ' + plural(record.count, 'day', 'days') + ', ' + upTo(record.value2, 2)",
		"Enter",
	)
	j.set("each gates")
	j.key("ArrowLeft")
	j.until(`/^.?list$/.test(document.activeElement?.textContent.trim())`)
	j.open("n")
	j.take("across stack", "Tab")
	j.take("chip | = number(record.count, 0)", "Enter")
	j.set("each visits")
	j.up("stack")
	j.open("n")
	j.take("spinner | | Coming", "Enter")
	j.set("if sources.visits == 'loading'")
	j.open("n")
	j.take("alert | | Not for you", "Enter")
	j.set("if sources.visits == 'refused'")
	j.effort("range, total, items", 17)
	counts := `[` + proof + `.querySelectorAll('.u-section sorrel-stat').length, ` + proof + `.querySelectorAll('.u-section sorrel-chip').length, ` + proof + `.querySelectorAll('.u-section sorrel-list-item').length].join()`
	j.untilInFrame("2,12,2", counts)
	j.chooseSet("live")
	j.untilInFrame("2,60,2", counts)
	j.click(button("Preview"))
	j.until(`document.querySelector('button[aria-pressed=true][title^="The kit takes"]')`)
	day := func(i string, back int) {
		t.Helper()
		j.does(
			`const i = ` + proof + `.querySelectorAll('.u-section sorrel-text-input')[` + i + `].shadowRoot.querySelector('input'); i.value = '` + time.Now().
				AddDate(0, 0, -back).
				Format(time.DateOnly) +
				`'; i.dispatchEvent(new Event('input', { bubbles: true, composed: true })); i.dispatchEvent(new Event('change', { bubbles: true, composed: true }))`,
		)
	}
	day("0", 9)
	j.untilInFrame("true", `Number(`+counts+`.split(',')[1]) < 25`)
	day("1", 5)
	j.untilInFrame("true", `Number(`+counts+`.split(',')[1]) < 15`)
	// No more than two decimals, whatever was divided.
	j.untilInFrame(
		"",
		`[...`+proof+`.querySelectorAll('.u-section sorrel-list-item')].map(e => e.textContent.trim()).filter(s => !/^(North|Lake) gate, \d+ days?, [\d,]+(\.\d{1,2})?$/.test(s)).join()`,
	)
	j.click(button("Preview"))
	j.chooseSet("live-loading")
	j.untilInFrame("true", `!!`+proof+`.querySelector('.u-section sorrel-spinner')`)
	j.chooseSet("live-refused")
	j.untilInFrame("Not for you", proof+`.querySelector('.u-section sorrel-alert').heading`)
}
