package e2e_test

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// A setting is bound by choosing: what may stand is offered, what comes of it is told
// for each record, and what does not fit is said before it is taken.
func TestASettingIsBoundByChoosing(t *testing.T) {
	j := begin(t, "ida")
	j.newScreen("Tree list", "tree-list")
	j.line("i", "card")
	j.set("each spec")
	j.line("i", "heading | Name")
	j.keys, j.clicks, j.thoughts = 0, 0, 0
	j.think()
	j.key("Enter")
	offers := `[...document.querySelectorAll('[role=listbox][aria-label="What may stand here"] [role=option]')]`
	j.until(`document.activeElement?.getAttribute('aria-label')?.startsWith('Text of heading')`)
	j.write("= na")
	j.until(offers + `[0]?.textContent.trim().startsWith('name')`)
	j.key("Tab")
	j.until(
		`document.activeElement.value === '= record.name' && document.querySelector('[role=status]') && document.body.innerText.includes('→ Paperbark maple')`,
	)
	j.click(`document.querySelector('button[aria-label="The next record"]')`)
	j.until(`document.body.innerText.includes('→ Silver lime')`)
	j.key("Enter")
	j.until(lineWith("record.name"))
	j.effort("a text bound to a field")

	// A tone by condition is offered as the other screens have it.
	j.until(`document.activeElement?.dataset.line !== undefined`)
	j.line("n", "chip | = record.condition")
	j.until(`document.querySelector('button[aria-label="Compute tone"]')`)
	j.click(`document.querySelector('button[aria-label="Compute tone"]')`)
	j.until(
		offers + `.some(o => o.textContent.trim().startsWith('tone of condition')) && ` + offers + `[0].textContent.includes('as on ')`,
	)
	j.click(offers + `[0]`)
	j.key("Enter")
	j.untilInFrame(
		"true",
		`new Set([...document.querySelector('body > div').shadowRoot.querySelectorAll('.u-section sorrel-card sorrel-chip')].map(c => c.getAttribute('tone'))).size > 1`,
	)
	// What does not fit is told while it is typed.
	j.until(`document.querySelector('input[aria-label=tone]')`)
	j.click(`document.querySelector('input[aria-label=tone]')`)
	j.command("a", "selectAll")
	j.write("= record.height")
	j.until(`document.body.innerText.includes('is none of')`)
	j.key("Escape")
	assert.NotEmpty(t, j.frameText())
}

// The screen is seen with all sets of records at once.
func TestAScreenIsSeenWithAllSampleSets(t *testing.T) {
	j := begin(t, "lise")
	j.bench("specimens", "> 5")
	j.click(`[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'sets')`)
	j.until(`document.querySelectorAll('figcaption').length === 5 && document.querySelector('[data-pending="0"]')`)
	j.untilInFrame(
		"true,0,1",
		`(n => [n[0] > 5, n[1], n[2]])([...document.querySelectorAll('body > div')].map(d => d.shadowRoot.querySelectorAll('sorrel-card').length)).join()`,
	)
	// What was measured is judged: without records something says so, long words stick out.
	j.until(`!document.querySelector('ul[aria-label="What looks wrong with empty"]')`)
	j.until(
		`document.querySelector('ul[aria-label="What looks wrong with edge"]')?.innerText.match(/wider than it|sticks out/)`,
	)
	assert.Equal(t, "null", j.text(`String(document.querySelector('ul[aria-label="What looks wrong with usual"]'))`))
	j.click(`document.querySelector('button[aria-label="Work at edge"]')`)
	j.until(
		`!document.querySelector('figcaption') && [...document.querySelectorAll('select')].some(s => s.value === 'edge')`,
	)
	j.untilInFrame(
		"true",
		`document.querySelector('body > div').shadowRoot.textContent.includes('Metasequoiaglyptostroboides')`,
	)
}

// From nothing to a grid of records: a model from a row, two dozen made up, bound cards
// of those on display, the newest first, six of them; later four in a line.
func TestRecordsBecomeAGrid(t *testing.T) {
	j := begin(t, "noor")
	j.run(chromedp.Navigate(j.server.URL + "/samples"))
	j.until(`document.querySelector('[role=grid] [role=gridcell]')`)
	j.keys, j.clicks, j.thoughts = 0, 0, 0
	j.think()
	j.click(button("Model from rows"))
	// A dialog takes the focus when it stands; what is typed before that is nobody's.
	j.until(`document.querySelector('[role=dialog] textarea') && document.querySelector('[role=dialog]').contains(document.activeElement)`)
	j.click(`document.querySelector('[role=dialog] textarea')`)
	j.until(`document.activeElement?.matches('[role=dialog] textarea')`)
	j.write("Na")
	// Whoever types slowly is shown what stands so far.
	j.until(`document.querySelector('[role=dialog]').innerText.includes('0 rows')`)
	j.write("me,Latin name,Height,Planted,On display,Picture")
	j.key("Enter")
	j.write("Oak,Quercus,12.5,2020-01-01,yes,data:image/x")
	j.until(`document.querySelector('[role=dialog]').innerText.includes('Quercus')`)
	j.click(button("Go on to the fields"))
	j.until(`document.querySelector('[role=dialog] input[placeholder=Specimen]')`)
	j.click(`document.querySelector('[role=dialog] input[placeholder=Specimen]')`)
	j.write("Plant")
	j.click(button("Make it"))
	j.until(`location.pathname === '/samples/plants'`)
	j.think()
	j.click(button("Make up"))
	j.until(`document.querySelector('[role=dialog]')?.innerText.includes('Add 24')`)
	j.click(
		`[...document.querySelectorAll('[role=dialog] label')].find(l => l.textContent.includes('in place of')).querySelector('input')`,
	)
	j.until(`document.querySelector('[role=dialog]')?.innerText.includes('Replace by 24')`)
	j.click(button("Replace by"))
	j.until(`document.body.innerText.includes('24 records')`)
	j.newScreen("Plants", "plants")
	j.line("i", "cards of pl")
	j.until(lineWith("each plants"))
	j.click(lineWith("each plants"))
	fill := func(label, text string) {
		t.Helper()
		j.until(`document.querySelector('input[aria-label^="` + label + `"]')`)
		j.click(`document.querySelector('input[aria-label^="` + label + `"]')`)
		j.write(text)
		j.key("Enter")
	}
	j.think()
	fill("Only records where", "record.onDisplay")
	j.until(`document.querySelector('input[aria-label="Only records where"]').value === 'record.onDisplay'`)
	fill("Sort by field", "-planted")
	fill("At most so many", "6")
	cards := `document.querySelector('body > div').shadowRoot.querySelectorAll('.u-section sorrel-card').length`
	j.untilInFrame("6", cards)
	j.click(lineWith("grid"))
	j.until(`document.activeElement?.dataset.line`)
	j.set("columns 3")
	j.effort("records to a grid", 15)
	grid := `document.querySelector('body > div').shadowRoot.querySelector('.u-grid').className`
	j.untilInFrame("true", `/u-columns-3( |$)/.test(`+grid+`)`)
	j.set("columns 4")
	j.untilInFrame("true", `/u-columns-4( |$)/.test(`+grid+`)`)
	// The newest of those on display, each with its drawn picture.
	j.untilInFrame(
		strings.Repeat("data:image/svg ", 6),
		`[...document.querySelector('body > div').shadowRoot.querySelectorAll('.u-section sorrel-card sorrel-picture')].map(p => (p.src || p.getAttribute('src')).slice(0, 14) + ' ').join('')`,
	)
}

// Initials in the cards' heads, coloured by what the record is: once said at the field,
// everywhere the same. A kind that nobody knows is caught; one that no record has is told.
func TestAMeaningIsSaidOnceAndShownEverywhere(t *testing.T) {
	j := begin(t, "ida")
	j.newScreen("Gate list", "gate-list")
	j.think()
	j.line("i", "card")
	j.set("each beds")
	j.line("i", "heading | = record.name")
	j.line("n", "avatar")
	j.until(
		`document.querySelector('button[aria-label="Compute name"]') || document.querySelector('input[aria-label=name]')`,
	)
	j.set("name = record.name")
	j.set("tone = tone(record.moisture)")
	avatars := `[...document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-card sorrel-avatar')]`
	j.untilInFrame("bad,good,info", `[...new Set(`+avatars+`.map(a => a.getAttribute('tone')))].sort().join()`)
	j.effort("a meaning in colour", 7)

	// Said otherwise at the field, all follow; what is none of the choices is refused.
	j.run(chromedp.Navigate(j.server.URL + "/samples/beds"))
	j.until(`document.querySelector('[role=grid] [role=gridcell]')`)
	j.click(`document.getElementById('cell-0-3')`)
	j.pasteText("swampy")
	j.until(`document.body.innerText.includes('“swampy” is none of dry, fresh, wet')`)
	j.click(button("Fields"))
	j.until(`document.querySelectorAll('[role=dialog] [role=group]').length > 3`)
	j.click(
		`[...document.querySelectorAll('[role=dialog] [role=group]')].find(g => g.querySelector('input').value === 'moisture').querySelector('button[aria-expanded]')`,
	)
	j.until(`document.querySelector('select[aria-label="Tone of wet"]')`)
	j.run(
		chromedp.Evaluate(
			`(s => { s.value = 'warn'; s.dispatchEvent(new Event('change', { bubbles: true })) })(document.querySelector('select[aria-label="Tone of wet"]'))`,
			nil,
		),
	)
	// One more kind, which no record has.
	j.run(
		chromedp.Evaluate(
			`(i => { i.value = 'dry, fresh, wet, frozen'; i.dispatchEvent(new Event('input', { bubbles: true })) })(document.querySelector('input[aria-label="Choices of moisture"]'))`,
			nil,
		),
	)
	j.click(button("Change"))
	j.until(
		`!document.querySelector('[role=dialog]') && document.body.innerText.includes('no record with moisture frozen')`,
	)
	j.bench("gate-list", "> 2")
	j.untilInFrame("bad,good,warn", `[...new Set(`+avatars+`.map(a => a.getAttribute('tone')))].sort().join()`)
}
