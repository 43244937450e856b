package e2e_test

import (
	"fmt"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// cellText is what a cell of the grid shows.
func (j *journey) cellText(row, col int) string {
	j.t.Helper()
	return j.text(
		`document.getElementById('cell-` + strconv.Itoa(row) + `-` + strconv.Itoa(col) + `')?.innerText.trim() ?? ''`,
	)
}

func (j *journey) untilCell(row, col int, text string) {
	j.t.Helper()
	j.until(
		`document.getElementById('cell-` + strconv.Itoa(
			row,
		) + `-` + strconv.Itoa(
			col,
		) + `')?.innerText.trim() === ` + strconv.Quote(
			text,
		),
	)
}

// pasteText pastes as the browser does, into what has the focus.
func (j *journey) pasteText(text string) {
	j.t.Helper()
	j.keys += 2
	j.run(
		chromedp.Evaluate(
			`(() => { const d = new DataTransfer(); d.setData('text/plain', `+strconv.Quote(
				text,
			)+`); document.activeElement.dispatchEvent(new ClipboardEvent('paste', { clipboardData: d, bubbles: true, cancelable: true })) })()`,
			nil,
		),
	)
}

// The grid is worked by keys: typed over, filled, pasted, undone; what does not fit is
// told and nothing of it is written.
func TestRecordsAreWorkedOnAsInASpreadsheet(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/samples/beds"))
	j.until(`document.querySelector('[role=grid] [role=gridcell]')`)
	j.click(`document.getElementById('cell-0-0')`)
	first := j.cellText(0, 0)
	j.think()
	j.write("Rock slope")
	j.key("Enter")
	j.untilCell(0, 0, "Rock slope")
	// Enter went on to the next row; the arrows lead to the area, which takes numbers only.
	j.key("ArrowRight")
	j.key("ArrowRight")
	before := j.cellText(1, 2)
	j.write("big")
	j.key("Enter")
	j.until(`document.body.innerText.includes('“big” is not a number. Nothing was written.')`)
	assert.Equal(t, before, j.cellText(1, 2))
	j.think()
	j.pasteText("10\twet\n1,5\tdry")
	j.untilCell(2, 2, "10")
	j.untilCell(3, 2, "1.5")
	j.untilCell(3, 3, "dry")
	// Fill down from the first of three.
	j.key("ArrowDown", input.ModifierShift)
	j.key("ArrowDown", input.ModifierShift)
	j.key("d", input.ModifierCtrl)
	j.untilCell(4, 2, "10")
	j.key("z", input.ModifierCtrl)
	j.untilCell(3, 2, "1.5")
	j.key("z", input.ModifierCtrl)
	j.key("z", input.ModifierCtrl)
	j.untilCell(0, 0, first)
	j.effort("records as in a spreadsheet")

	// What was written is on the screens.
	j.click(`document.getElementById('cell-0-0')`)
	j.write("Rock slope")
	j.key("Enter")
	j.untilCell(0, 0, "Rock slope")
	j.bench("beds", "> 5")
	j.untilInFrame("true", allText+`.includes("Rock slope")`)
}

// A model comes from pasted rows with the types that its values have; records are made
// up, a field is renamed with all that speaks of it.
func TestAModelComesFromRowsAndItsRecordsAreMadeUp(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/samples"))
	j.until(`document.querySelector('[role=grid] [role=gridcell]')`)
	j.think()
	j.click(button("Model from rows"))
	j.until(`document.querySelector('[role=dialog] textarea')`)
	j.run(
		chromedp.SetValue(
			`[role=dialog] textarea`,
			"Name;Opened;Seats;Fee;Kind\nPond view;3.4.2021;12;€ 2,50;bench\nLime walk;12.5.2022;4;€ 0;bench\nOld oak;1.6.2020;6;€ 1;hut\nGlasshouse;2.2.2022;30;€ 4;hut\nNorth gate;1.1.2020;2;€ 0;bench\nSouth lawn;9.9.2023;8;€ 0;bench",
			chromedp.ByQuery,
		),
		chromedp.Evaluate(
			`document.querySelector('[role=dialog] textarea').dispatchEvent(new Event('input', { bubbles: true }))`,
			nil,
		),
	)
	j.until(
		`document.querySelector('[role=dialog] table') && document.querySelector('[role=dialog]').innerText.includes('amounts in EUR')`,
	)
	j.click(button("Go on to the fields"))
	j.until(
		`[...document.querySelectorAll('[role=dialog] select[aria-label^="Type of"]')].map(s => s.value).join() === 'text,date,number,money,choice'`,
	)
	j.click(`document.querySelector('[role=dialog] input[placeholder=Specimen]')`)
	j.write("Seat")
	j.until(`document.querySelector('[role=dialog] code').textContent.trim() === 'seats'`)
	j.click(button("Make it"))
	j.until(`location.pathname === '/samples/seats'`)
	j.untilCell(0, 0, "Pond view")
	assert.Equal(
		t,
		"2021-04-03,12,2.50,bench",
		strings.Join([]string{j.cellText(0, 1), j.cellText(0, 2), j.cellText(0, 3), j.cellText(0, 4)}, ","),
	)
	j.think()
	j.click(button("Make up"))
	j.until(`document.querySelector('[role=dialog]')?.innerText.includes('Add 24')`)
	j.click(button("Add 24"))
	j.until(`document.body.innerText.includes('30 records')`)
	j.effort("a model from rows, and two dozen more")

	// The field of another model is renamed: screens follow.
	j.run(chromedp.Navigate(j.server.URL + "/samples/tickets"))
	j.until(`document.querySelector('[role=grid] [role=gridcell]')`)
	j.click(button("Fields"))
	j.until(`document.querySelectorAll('[role=dialog] [role=group]').length > 3`)
	name := `[...document.querySelectorAll('[role=dialog] [role=group] input')].find(i => i.value === 'title')`
	j.run(
		chromedp.Evaluate(
			`(i => { i.value = 'what'; i.dispatchEvent(new Event('input', { bubbles: true })) })(`+name+`)`,
			nil,
		),
	)
	j.until(
		`document.querySelector('[role=dialog]').innerText.includes('What speaks of it follows:') && document.querySelector('[role=dialog]').innerText.includes('Work tickets')`,
	)
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim() === 'Change')`)
	j.until(`[...document.querySelectorAll('[role=columnheader]')].some(h => h.textContent.includes('what'))`)
	j.bench("tickets", "> 5")
	j.until(lineWith("record.what"))
	j.untilInFrame("true", allText+`.includes("Prune the limes")`)
}

func TestReadersSeeRecordsAndChangeNone(t *testing.T) {
	j := begin(t, "lise")
	j.run(chromedp.Navigate(j.server.URL + "/samples/beds"))
	j.until(`document.querySelector('[role=grid] [role=gridcell]')`)
	j.click(`document.getElementById('cell-0-0')`)
	was := j.cellText(0, 0)
	j.write("x")
	j.key("Enter")
	assert.Equal(t, was, j.cellText(0, 0))
	assert.Empty(
		t,
		j.text(
			`[...document.querySelectorAll('button')].find(b => /New model|Make up|Fields/.test(b.textContent))?.textContent ?? ''`,
		),
	)
}

// The models of a service's own description are offered; one is taken with its limits.
func TestAModelComesFromADescription(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/samples"))
	j.until(`document.querySelector('[role=grid] [role=gridcell]')`)
	j.click(button("Model from rows"))
	j.until(`document.querySelector('[role=dialog] textarea')`)
	j.run(
		chromedp.SetValue(
			`[role=dialog] textarea`,
			"openapi: 3.0.3\ncomponents:\n  schemas:\n    Gate: {type: object, required: [name], properties: {name: {type: string, maxLength: 40}, opened: {type: string, format: date}, kind: {enum: [stone, iron]}, tags: {type: array, items: {type: string}}, parts: {type: array, items: {type: object, properties: {n: {type: number}}}}}}\n    Key: {type: object, properties: {gate: {$ref: '#/components/schemas/Gate'}}}",
			chromedp.ByQuery,
		),
		chromedp.Evaluate(
			`document.querySelector('[role=dialog] textarea').dispatchEvent(new Event('input', { bubbles: true }))`,
			nil,
		),
	)
	j.until(
		`document.querySelectorAll('[role=dialog] input[type=radio]').length === 2 && document.querySelector('[role=dialog]').innerText.includes('parts is left out: it lists objects')`,
	)
	j.click(button("Go on to the fields"))
	j.until(
		`[...document.querySelectorAll('[role=dialog] select[aria-label^="Type of"]')].map(s => s.value).join() === 'choice,text,date,list'`,
	)
	j.click(button("Make it"))
	j.until(`location.pathname === '/samples/gates' && document.body.innerText.includes('There are no records yet')`)
	// A list made of another, seen while it is made.
	j.click(button("List made of one"))
	j.until(`document.querySelector('[role=dialog] input[placeholder="Tickets by state"]')`)
	j.click(`document.querySelector('[role=dialog] input[placeholder="Tickets by state"]')`)
	j.write("Beds by soil")
	choose := func(label, value string) {
		j.run(
			chromedp.Evaluate(
				`(s => { s.value = '`+value+`'; s.dispatchEvent(new Event('change', { bubbles: true })) })([...document.querySelectorAll('[role=dialog] label')].find(l => l.textContent.trim().startsWith('`+label+`'))?.querySelector('select') ?? document.querySelector('[role=dialog] select[aria-label="`+label+`"]'))`,
				nil,
			),
		)
	}
	choose("Made of", "beds")
	j.until(
		`[...document.querySelector('[role=dialog] select[aria-label="Group by"]').options].some(o => o.value === 'soil')`,
	)
	choose("Group by", "soil")
	j.until(
		`document.querySelectorAll('[role=dialog] tbody tr').length === 4 && document.querySelector('[role=dialog] tbody').innerText.includes('loam')`,
	)
	j.click(button("Make it"))
	j.until(`location.pathname === '/samples/bedsBySoil'`)
	j.untilCell(0, 0, "loam")
	j.untilCell(0, 1, "2")
}

// What rows say is kept as they say it; where a column can be read in two ways, one is asked.
func TestRowsAreReadAsTheyAreMeant(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/samples"))
	j.until(`document.querySelector('[role=grid] [role=gridcell]')`)
	j.click(button("Model from rows"))
	j.until(`document.querySelector('[role=dialog] textarea')`)
	j.run(
		chromedp.SetValue(
			`[role=dialog] textarea`,
			"Code;Size;Borrowed;Price;Borrower\n0012;1.234,5;02/03/2026;£12.50;Noor Abadi\n0099;12,5;01/04/2026;£2;Tam Okoro\n",
			chromedp.ByQuery,
		),
		chromedp.Evaluate(`document.querySelector('[role=dialog] textarea').dispatchEvent(new Event('input', { bubbles: true }))`, nil),
	)
	j.until(`document.querySelector('[role=dialog]')?.innerText.includes('Nothing in the column Borrowed says which is meant')`)
	choose := func(column, reading string) {
		j.run(chromedp.Evaluate(fmt.Sprintf(
			`(s => { s.value = %q; s.dispatchEvent(new Event('change', { bubbles: true })) })(document.querySelector('[role=dialog] select[aria-label="How %s is read"]'))`,
			reading, column), nil))
	}
	const goOn = `[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim() === 'Go on to the fields')`
	j.until(goOn + `.disabled`)
	choose("Borrowed", "date mdy")
	j.until(`!` + goOn + `.disabled && document.querySelector('[role=dialog] tbody').innerText.includes('2026-02-03')`)
	choose("Borrower", "record of volunteers")
	j.until(`!` + goOn + `.disabled`)
	j.click(goOn)
	j.until(`[...document.querySelectorAll('[role=dialog] select[aria-label^="Type of"]')].map(s => s.value).join() === 'text,number,date,money,reference'`)
	j.click(`document.querySelector('[role=dialog] input[required]')`)
	j.write("Loan")
	j.click(button("Make it"))
	j.until(`location.pathname.startsWith('/samples/loan')`)
	j.untilCell(0, 0, "0012")
	j.untilCell(0, 1, "1234.5")
	j.untilCell(0, 2, "2026-02-03")
	j.untilCell(0, 3, "12.50")
	j.untilCell(0, 4, "Noor Abadi")
}
