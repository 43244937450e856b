package e2e_test

import (
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// command presses Ctrl and a key that the browser itself understands.
func (j *journey) command(key, name string) {
	j.t.Helper()
	j.hand(true)
	j.keys += 2
	down := input.DispatchKeyEvent(input.KeyDown).
		WithKey(key).
		WithCode("Key" + string(key[0]-32)).
		WithWindowsVirtualKeyCode(int64(key[0] - 32)).
		WithModifiers(input.ModifierCtrl).
		WithCommands([]string{name})
	j.run(down, input.DispatchKeyEvent(input.KeyUp).WithKey(key).WithModifiers(input.ModifierCtrl))
}

const lineTexts = `[...document.querySelectorAll('[data-line]')].map(l => l.textContent.trim().replace(/^▾/, ''))`

func (j *journey) bench(screen string, lines string) {
	j.t.Helper()
	j.run(chromedp.Navigate(j.server.URL + "/bench/screen/" + screen))
	// The choices of what is selected unfold between the lines and move those below.
	j.until(
		`document.querySelectorAll('[data-line]').length ` + lines + ` && !!document.querySelector('[role=group][aria-label^="Choices"]')`,
	)
}

func TestElementsAreCopiedAndCutBetweenScreens(t *testing.T) {
	j := begin(t, "noor")
	j.allowClipboard()
	j.bench("sign-in", "=== 9")
	j.click(`[...document.querySelectorAll('[data-line]')].find(l => l.textContent.includes('Forgotten'))`)
	j.until(`document.activeElement?.dataset.line`)
	j.command("c", "copy")
	j.until(`document.body.innerText.includes('on the clipboard')`)
	assert.Contains(t, j.clipboard(), "Forgotten", "others get markup")
	assert.Contains(t, j.clipboard(), "<sorrel-link")
	assert.NotContains(t, j.clipboard(), "data-e")

	j.bench("beds", "> 5")
	j.click(`[...document.querySelectorAll('[data-line]')].find(l => l.textContent.includes('page header'))`)
	j.until(`document.activeElement?.dataset.line`)
	j.command("v", "paste")
	j.until(
		lineTexts + `.some(t => t.includes('Forgotten')) && document.activeElement?.textContent.includes('Forgotten')`,
	)
	j.command("x", "cut")
	j.until(`!` + lineTexts + `.some(t => t.includes('Forgotten'))`)
	j.command("v", "paste")
	j.until(lineTexts + `.some(t => t.includes('Forgotten'))`)
	for range 3 {
		j.key("z", input.ModifierCtrl)
	}
	j.until(
		`!` + lineTexts + `.some(t => t.includes('Forgotten')) && [...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'Undo').disabled`,
	)

	// What may not stand there is refused with the reason, and nothing is lost.
	j.bench("sign-in", "=== 9")
	j.click(`[...document.querySelectorAll('[data-line]')].find(l => l.textContent.trim().startsWith('text input'))`)
	j.until(`document.activeElement?.dataset.line`)
	before := j.text(lineTexts + `.join()`)
	j.command("v", "paste")
	j.until(`document.body.innerText.includes('cannot stand here')`)
	assert.Equal(t, before, j.text(lineTexts+`.join()`))
}

func TestAWholeTableOfAModelIsOneLine(t *testing.T) {
	j := begin(t, "noor")
	j.bench("not-found", ">= 1")
	j.think()
	j.click(`document.querySelector('[data-line]')`)
	j.until(`document.activeElement?.dataset.line`)
	j.key("i")
	j.until(`document.activeElement?.getAttribute('aria-controls') === 'next-list'`)
	j.write("table of orders")
	j.until(`document.querySelector('[role=option]')?.textContent.includes('table of Orders')`)
	j.key("Enter")
	j.until(lineTexts + `.filter(t => t.includes('column')).length === 7`)
	j.effort("a table of a model")
	j.untilInFrame(
		"true",
		`String([...document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-row')].length > 3 && document.querySelector('body > div').shadowRoot.innerHTML.includes('€'))`,
	)
	// The same once more, by one key.
	j.until(`document.activeElement?.dataset.line !== undefined`)
	j.key("r")
	j.until(`document.activeElement?.textContent.includes('table')`)
	j.untilInFrame(
		"2",
		`String(document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-table').length)`,
	)
	j.key("z", input.ModifierCtrl)
	j.key("z", input.ModifierCtrl)
	j.until(`!` + lineTexts + `.some(t => t.includes('column'))`)
	// A form; the keys go on from where the undo left off.
	j.until(`document.activeElement?.dataset.line !== undefined`)
	j.key("i")
	j.until(`document.activeElement?.getAttribute('aria-controls') === 'next-list'`)
	j.write("form ticket")
	j.until(`document.querySelector('[role=option]')?.textContent.includes('form of a work ticket')`)
	j.key("Enter")
	j.untilInFrame(
		"true",
		`String(document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-field').length === 6)`,
	)
}

// A column of a field comes with its cells, and goes with one undo.
func TestATableTakesAColumnOfAField(t *testing.T) {
	j := begin(t, "ida")
	j.bench("tickets", "> 20")
	j.click(lineWith("table", "Work tickets"))
	cells := `[...document.querySelector('body > div').shadowRoot.querySelector('sorrel-row').children].length + ' ' + document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-column').length`
	j.untilInFrame("5 5", cells)
	j.line("i", "column b")
	j.untilInFrame("6 6", cells)
	j.untilInFrame(
		"Bed",
		`[...document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-column')].at(-1).textContent.trim()`,
	)
	j.untilInFrame(
		"true",
		`['North bank', 'Lime walk', 'Lakeside', 'Fern dell', 'Orchard', 'Stone garden', 'Heather slope', 'Pond edge'].includes(document.querySelector('body > div').shadowRoot.querySelector('sorrel-row').lastElementChild.textContent.trim())`,
	)
	j.key("z", input.ModifierCtrl)
	j.untilInFrame("5 5", cells)
}

func TestAllWidthsAreSeenAtOnceWhileEditing(t *testing.T) {
	j := begin(t, "noor")
	j.bench("volunteers", "> 5")
	j.click(`document.querySelector('button[title="All widths side by side"]')`)
	j.until(
		`document.querySelectorAll('figure figcaption').length === 4 && document.querySelector('[data-pending="0"]')`,
	)
	heading := `[...document.querySelectorAll('body > div')].map(d => d.shadowRoot.querySelector('sorrel-button[slot=actions], sorrel-page-header sorrel-button')?.getAttribute('emphasis')).join()`
	j.untilInFrame("soft,soft,soft,soft", heading)
	// An edit reaches every width, and stands when one is worked at again.
	j.click(`[...document.querySelectorAll('[data-line]')].find(l => l.textContent.includes('New volunteer'))`)
	j.until(`document.querySelector('[role=radiogroup][aria-label=emphasis]')`)
	j.key("m")
	j.untilInFrame("strong,strong,strong,strong", heading)
	// The bar is a menu where its places do not fit beside each other.
	j.untilInFrame(
		"true,true,false,false",
		`[...document.querySelectorAll('body > div')].map(d => getComputedStyle(d.shadowRoot.querySelector('sorrel-navbar').shadowRoot.querySelector('.toggle')).display !== 'none').join()`,
	)
	j.click(`document.querySelector('button[aria-label="Work at 360 pixels"]')`)
	j.until(
		`!document.querySelector('figcaption') && document.querySelector('[role=radiogroup][aria-label=Width] [aria-checked=true]')?.textContent.trim() === '360'`,
	)
	j.untilInFrame("strong", heading)
}

func TestTheHistoryTakesBackOneChangeAndLeavesTheOthers(t *testing.T) {
	j := begin(t, "noor")
	j.bench("sign-in", "=== 9")
	j.click(`[...document.querySelectorAll('[data-line]')].find(l => l.textContent.includes('Forgotten'))`)
	j.key("c")
	j.until(`document.querySelectorAll('[data-line]').length === 10`)
	j.key("w")
	j.until(`document.querySelectorAll('[data-line]').length === 11`)
	j.click(`[...document.querySelectorAll('[data-line]')].find(l => l.textContent.includes('Password'))`)
	j.key("Delete")
	j.until(`document.querySelectorAll('[data-line]').length === 9`)
	j.click(`document.querySelector('button[aria-label=History]')`)
	j.until(`document.querySelectorAll('[role=dialog] li').length === 3`)
	said := j.text(`document.querySelector('[role=dialog]').innerText`)
	assert.Contains(t, said, "Copy link")
	assert.Contains(t, said, "Noor")
	j.click(`document.querySelector('button[aria-label="Take back: Wrap in a stack"]')`)
	j.until(`document.querySelectorAll('[role=dialog] li').length === 4`)
	j.key("Escape")
	j.until(`!document.querySelector('[role=dialog]') && document.querySelectorAll('[data-line]').length === 8`)
	assert.NotContains(t, j.text(lineTexts+`.join()`), "Password", "what came after stays as it is")
}

// Undo goes on in another session where it was left, and so does redo.
func TestUndoGoesOnAfterANewStart(t *testing.T) {
	j := begin(t, "noor")
	j.bench("sign-in", "=== 9")
	j.click(lineWith("Forgotten"))
	j.key("c")
	j.until(`document.querySelectorAll('[data-line]').length === 10`)
	j.key("c")
	j.until(`document.querySelectorAll('[data-line]').length === 11`)
	j.key("z", input.ModifierCtrl)
	j.until(`document.querySelectorAll('[data-line]').length === 10`)
	j.run(chromedp.Navigate("about:blank"))
	j.bench("sign-in", "=== 10")
	j.until(
		`document.querySelector('button[title="Undo: Copy link"]') && document.querySelector('button[title="Redo: Copy link"]') && document.activeElement?.dataset.line !== undefined`,
	)
	j.key("z", input.ModifierCtrl)
	j.until(`document.querySelectorAll('[data-line]').length === 9`)
	j.key("z", input.ModifierCtrl, input.ModifierShift)
	j.until(`document.querySelectorAll('[data-line]').length === 10`)
	j.key("z", input.ModifierCtrl, input.ModifierShift)
	j.until(`document.querySelectorAll('[data-line]').length === 11`)
}

func TestAMarkedVersionIsComparedAndBroughtBack(t *testing.T) {
	j := begin(t, "noor")
	j.bench("sign-in", "=== 9")
	j.click(`document.querySelector('button[aria-label=History]')`)
	j.click(`document.querySelector('input[aria-label="Name of a version"]')`)
	j.write("before the fair")
	j.key("Enter")
	j.until(
		`[...document.querySelectorAll('[role=dialog] li')].some(l => l.textContent.includes('Version before the fair'))`,
	)
	j.key("Escape")
	j.until(`!document.querySelector('[role=dialog]')`)
	j.click(`[...document.querySelectorAll('[data-line]')].find(l => l.textContent.includes('Password'))`)
	j.until(`document.activeElement?.dataset.line`)
	j.key("Delete")
	j.until(`document.querySelectorAll('[data-line]').length === 7`)
	j.click(`[...document.querySelectorAll('[data-line]')].find(l => l.textContent.includes('Forgotten'))`)
	j.until(`document.activeElement?.dataset.line`)
	j.key("c")
	j.until(`document.querySelectorAll('[data-line]').length === 8`)
	j.click(`document.querySelector('button[aria-label=History]')`)
	j.click(`document.querySelector('button[aria-label="Compare with now: Version before the fair"]')`)
	j.until(
		`document.querySelectorAll('[role=dialog] figure').length === 2 && document.querySelector('[role=dialog] [data-pending="0"]')`,
	)
	said := j.text(`document.querySelector('[role=dialog]').innerText`)
	assert.Contains(t, said, "removed")
	assert.Contains(t, said, "added")
	// A part of it, then the rest.
	j.click(
		`[...document.querySelectorAll('[role=dialog] button')].find(b => b.getAttribute('aria-label')?.includes('removed'))`,
	)
	j.until(
		`![...document.querySelectorAll('[role=dialog] li')].some(l => l.textContent.includes('removed')) && document.querySelectorAll('[role=dialog] li').length === 1`,
	)
	j.click(button("Bring all back"))
	j.until(`document.body.innerText.includes('It is as it was then')`)
	j.key("Escape")
	j.until(`!document.querySelector('[role=dialog]') && document.querySelectorAll('[data-line]').length === 9`)
	assert.Contains(t, j.text(lineTexts+`.join()`), "Password")
}
