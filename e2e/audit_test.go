package e2e_test

import (
	"strconv"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"

	"ubiquant/internal/generate"
	"ubiquant/internal/testkit/database"
	"ubiquant/server"
)

// A day of the audit on 135 screens by four people: a question settled with its other side
// brought into line, strays of one cause repaired on all their screens, one let stand in its
// spot, one given to somebody, a rule made by example, what is ready signed off; the trend
// tells of it.
func TestAnApplicationIsAuditedInADay(t *testing.T) {
	if testing.Short() {
		t.Skip("drives Chromium")
	}
	team := generate.NewTeam(generate.Options{Screens: 135, Elements: 60, Slips: 0.03, Seed: 7})
	j := beginOn(t, "keeper", server.Options{
		Database: database.Empty(t), Workspace: team.Workspace, Kit: packed(t, "@fernhollow/sorrel", "1.0.0"),
	})
	j.until(`document.body.textContent.includes('135 screens')`)
	const alert = `document.querySelector('[role=alert]')`
	const dialog = `document.querySelector('[role=dialog]')`
	row := func(n string) string {
		return `document.querySelectorAll('[role=treeitem][aria-level="1"]')[` + n + `]`
	}
	go2 := func(path, until string) {
		j.run(chromedp.Navigate(j.server.URL + path))
		j.until(until)
	}
	j.keys, j.clicks, j.thoughts = 0, 0, 0

	// The question that divides most screens.
	go2("/census/questions", `document.querySelectorAll('article').length >= 2`)
	questions := j.text(`String(document.querySelectorAll('article').length)`)
	j.think()
	j.click(`[...document.querySelectorAll('article button')].find(b => b.innerText.startsWith('Settle on'))`)
	j.until(dialog + `?.querySelector('textarea:focus')`)
	j.write("most do so")
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.innerText.trim() === 'Settle')`)
	j.until(`!` + dialog + ` && document.querySelectorAll('article').length < ` + questions)

	// Strays of one cause that stand on several screens, all at once.
	go2("/census/work?level=stray", row("2"))
	groups := j.text(`String(document.querySelectorAll('[role=treeitem][aria-level="1"]').length)`)
	several := `[...document.querySelectorAll('[role=treeitem][aria-level="1"]')].find(e => / on \d+$/.test(e.innerText.trim()))`
	j.think()
	j.click(several)
	j.until(`document.activeElement?.getAttribute('role') === 'tree'`)
	cause := j.text(several + `.innerText.split('\n').find(t => t.length > 3)`)
	j.key("f")
	j.until(`[...document.querySelectorAll('[role=dialog] button')].some(b => b.innerText.startsWith('Apply on'))`)
	assert.Equal(t, "", j.text(`[...document.querySelectorAll('[role=dialog] [role=alert]')].map(a => a.innerText).join()`), "it brings nothing new")
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.innerText.startsWith('Apply on'))`)
	j.until(`!` + dialog + ` && ![...document.querySelectorAll('[role=treeitem][aria-level="1"]')].some(e => e.innerText.includes(` + strconv.Quote(cause) + `))`)
	j.until(`document.querySelectorAll('[role=treeitem][aria-level="1"]').length < ` + groups)

	// One is meant, and stays so in its spot; one is for somebody.
	j.think()
	j.click(row("1"))
	j.key("l")
	j.until(dialog + `?.querySelector('input[required]:focus')`)
	j.write("asked for")
	j.click(`document.querySelector('[role=dialog] input[value=spot]')`)
	j.click(`document.querySelector('[role=dialog] .btn-main')`)
	j.until(`!` + dialog)
	j.think()
	j.click(row("0"))
	j.key("g")
	j.until(`document.querySelectorAll('[role=dialog] select option').length > 1`)
	j.run(chromedp.SetValue(`[role=dialog] select`, "keeper", chromedp.ByQuery))
	j.run(chromedp.Evaluate(`document.querySelector('[role=dialog] select').dispatchEvent(new Event('change', {bubbles: true}))`, nil))
	j.click(`document.querySelector('[role=dialog] .btn-main')`)
	j.until(`!` + dialog + ` && document.body.innerText.includes('Given to')`)

	// Like this, not like that.
	go2("/census/line-up?component=sorrel-chip&prop=shape", `document.querySelectorAll('section h2 input').length >= 2`)
	j.think()
	for _, section := range []string{"0", "1"} {
		j.click(`[...document.querySelectorAll('section')].filter(s => s.querySelector('h2 input'))[` + section + `].querySelector('li input')`)
	}
	j.click(button("Rule: like"))
	j.until(dialog + `?.querySelector('[role=status]') && !document.querySelector('[role=dialog] .btn-main').disabled`)
	j.click(`document.querySelector('[role=dialog] .btn-main')`)
	j.until(`!` + dialog + ` && document.querySelector('section[aria-label="Rules of your own"] tbody tr')`)

	// What meets the conditions is signed off together.
	go2("/", `document.querySelector('main, section[aria-label=Screens]') && document.body.innerText.includes('135 screens')`)
	j.until(`document.querySelector('aside a')?.innerText.includes('given to you')`)
	j.think()
	j.click(button("Sign off …"))
	j.until(`document.querySelectorAll('[role=dialog] fieldset div input').length > 100`)
	j.click(`document.querySelector('[role=dialog] input[type=checkbox]')`)
	j.click(`document.querySelector('[role=dialog] .btn-main')`)
	j.until(`!` + dialog + ` && [...document.querySelectorAll('section span')].filter(s => s.innerText === 'signed off').length > 100`)

	// The past is counted back from now, and what was decided comes in as it is met.
	go2("/census/trend", `document.querySelector('section[aria-label="What was decided"]')?.innerText.includes('Settle')`)
	j.effort("an application of 135 screens audited")
	assert.Equal(t, "", j.text(alert+`?.innerText ?? ''`))
}
