package e2e_test

import (
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// A setting is made to differ at the width being looked at; the picture follows, and
// which one holds is told.
func TestALayoutDiffersAtTheWidthLookedAt(t *testing.T) {
	j := begin(t, "noor")
	j.bench("tickets", "> 5")
	j.click(lineWith("column", ""))
	j.until(`document.querySelector('[role=radiogroup][aria-label=span]')`)
	j.click(`document.querySelector('[role=radiogroup][aria-label=Width] [role=radio]:nth-of-type(3)')`)
	j.until(
		`document.querySelector('[role=radiogroup][aria-label=Width] [aria-checked=true]').textContent.trim() === '960'`,
	)
	j.click(
		`document.querySelector('button[aria-label="order otherwise from 960 px"]') ?? [...document.querySelectorAll('button')].find(b => b.textContent.trim().startsWith('all '))`,
	)
	j.click(`document.querySelector('button[aria-label="order otherwise from 960 px"]')`)
	j.until(`document.querySelector('[role=radiogroup][aria-label="order@960"]')`)
	j.click(
		`[...document.querySelectorAll('[role=radiogroup][aria-label="order@960"] [role=radio]')].find(b => b.textContent.trim().startsWith('last'))`,
	)
	first := `getComputedStyle(document.querySelector('body > div').shadowRoot.querySelector('.u-column')).order`
	j.untilInFrame("1", first)
	assert.Contains(
		t,
		j.text(`document.querySelector('[title="It holds at the width looked at"]').closest('div').textContent`),
		"order ≥ 960",
	)
	j.click(`document.querySelector('[role=radiogroup][aria-label=Width] [role=radio]')`)
	j.untilInFrame("0", first)
}

// What is selected wears its bracket where it is, also after the width has changed.
func TestTheBracketFollowsTheWidth(t *testing.T) {
	j := begin(t, "noor")
	j.bench("tickets", "> 5")
	j.click(lineWith("page header"))
	inside := `(() => { const p = document.querySelector('[data-painted]').getBoundingClientRect(), b = document.querySelector('[data-selected]')?.getBoundingClientRect(); return !!b && b.left >= p.left - 1 && b.right <= p.right + 1 && b.width > p.width * 0.6 })()`
	j.until(inside)
	for _, w := range []string{"360", "960", "640", "1280"} {
		j.click(
			`[...document.querySelectorAll('[role=radiogroup][aria-label=Width] [role=radio]')].find(b => b.textContent.trim() === '` + w + `')`,
		)
		j.until(
			`document.querySelector('[role=radiogroup][aria-label=Width] [aria-checked=true]').textContent.trim() === '` + w + `' && ` + inside,
		)
	}
}

// On the Proof, texts are written where they stand, edges go to columns, and the path
// leads up to what an element stands in.
func TestTheProofIsWorkedOnDirectly(t *testing.T) {
	j := begin(t, "noor")
	j.bench("tickets", "> 5")
	j.untilInFrame(
		"true",
		`String(!!document.querySelector('body > div').shadowRoot.querySelector('sorrel-page-header'))`,
	)
	at := func(selector string) (x, y float64) {
		var in, out [2]float64
		j.inFrame(
			`(() => { const r = document.querySelector('body > div').shadowRoot.querySelector('`+selector+`').getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2] })()`,
			&in,
		)
		j.run(
			chromedp.Evaluate(
				`(() => { const r = document.querySelector('iframe').getBoundingClientRect(); return [r.x, r.y] })()`,
				&out,
			),
		)
		return in[0] + out[0], in[1] + out[1]
	}
	x, y := at("sorrel-page-header sorrel-button")
	j.run(chromedp.MouseClickXY(x, y, chromedp.ClickCount(2)))
	j.until(`document.activeElement?.getAttribute('aria-label') === 'Text of button'`)
	j.command("a", "selectAll")
	j.write("Open a ticket")
	j.key("Enter")
	j.untilInFrame(
		"Open a ticket",
		`document.querySelector('body > div').shadowRoot.querySelector('sorrel-page-header sorrel-button').textContent`,
	)
	j.until(lineWith("Open a ticket"))

	// Up the path to the row's first column, whose edge is dragged to half of the row.
	x, y = at("sorrel-text-input")
	j.run(chromedp.MouseClickXY(x, y))
	j.click(
		`[...document.querySelectorAll('nav[aria-label="What it stands in"] button')].find(b => b.textContent.trim() === 'column')`,
	)
	j.until(`document.querySelector('[data-edge]')`)
	var edge, row [4]float64
	j.run(
		chromedp.Evaluate(
			`(() => { const r = document.querySelector('[data-edge]').getBoundingClientRect(); return [r.x + 3, r.y + 12, 0, 0] })()`,
			&edge,
		),
	)
	j.inFrame(
		`(() => { const r = document.querySelector('body > div').shadowRoot.querySelector('.u-row').getBoundingClientRect(); return [r.x, r.y, r.width, r.height] })()`,
		&row,
	)
	var left float64
	j.run(chromedp.Evaluate(`document.querySelector('iframe').getBoundingClientRect().x`, &left))
	to := left + row[0] + row[2]/2
	j.run(
		chromedp.MouseEvent(input.MousePressed, edge[0], edge[1], chromedp.ButtonLeft, chromedp.ClickCount(1)),
		chromedp.MouseEvent(input.MouseMoved, to-20, edge[1], chromedp.ButtonLeft),
		chromedp.MouseEvent(input.MouseMoved, to, edge[1], chromedp.ButtonLeft),
	)
	j.until(`document.body.innerText.includes('6 of 12')`)
	j.run(chromedp.MouseEvent(input.MouseReleased, to, edge[1], chromedp.ButtonLeft, chromedp.ClickCount(1)))
	j.untilInFrame(
		"true",
		`String(document.querySelector('body > div').shadowRoot.querySelector('.u-column').className.includes('u-span-6'))`,
	)

	// The gap of the page and its padding go from step to step, by pointer and by key.
	j.click(`document.querySelector('nav[aria-label="What it stands in"] button')`)
	j.until(`document.querySelector('[data-edge=gap]') && document.querySelector('[data-edge=padding]')`)
	drag := func(edge string, dx, dy float64, told string) {
		var p [2]float64
		j.run(
			chromedp.Evaluate(
				`(r => [r.x + r.width / 2, r.y + r.height / 2])(document.querySelector('[data-edge=`+edge+`]').getBoundingClientRect())`,
				&p,
			),
		)
		j.run(
			chromedp.MouseEvent(input.MousePressed, p[0], p[1], chromedp.ButtonLeft, chromedp.ClickCount(1)),
			chromedp.MouseEvent(input.MouseMoved, p[0]+dx/2, p[1]+dy/2, chromedp.ButtonLeft),
			chromedp.MouseEvent(input.MouseMoved, p[0]+dx, p[1]+dy, chromedp.ButtonLeft),
		)
		j.until(`document.body.innerText.includes('` + told + `')`)
		j.run(chromedp.MouseEvent(input.MouseReleased, p[0]+dx, p[1]+dy, chromedp.ButtonLeft, chromedp.ClickCount(1)))
	}
	drag("gap", 0, -8, "gap 3, 12 px")
	section := `document.querySelector('body > div').shadowRoot.querySelector('.u-section').className`
	j.untilInFrame("u-section u-gap-3 u-padding-5", section)
	j.until(`document.querySelector('[data-edge=gap]').getAttribute('aria-label') === 'Gap of this section, step 3'`)
	drag("padding", 10, 0, "padding 6, ")
	j.untilInFrame("u-section u-gap-3 u-padding-6", section)
	j.run(chromedp.Focus(`[data-edge=padding]`))
	j.until(
		`document.querySelector('[data-edge=padding]').getAttribute('aria-label') === 'Padding of this section, step 6'`,
	)
	j.key("ArrowLeft")
	j.untilInFrame("u-section u-gap-3 u-padding-5", section)
}

// A shell is put into another; the screens in it stand in both at once.
func TestAShellIsPutIntoAnother(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/bench/shell/staff"))
	j.until(`[...document.querySelectorAll('label')].some(l => l.textContent.trim().startsWith('in shell'))`)
	bars := `document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-navbar').length`
	j.untilInFrame("1", bars)
	j.choose("in shell", "plain")
	j.untilInFrame("2", bars)
	j.bench("tickets", "> 5")
	j.untilInFrame("2", bars)
	j.run(chromedp.Navigate(j.server.URL + "/bench/shell/plain"))
	// None that it stands around itself is offered.
	j.until(`[...document.querySelectorAll('label')].find(l => l.textContent.trim().startsWith('in shell'))?.querySelectorAll('option').length === 1`)
}
