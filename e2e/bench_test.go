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
	down := input.DispatchKeyEvent(input.KeyDown).WithKey(key).WithCode("Key" + string(key[0]-32)).WithWindowsVirtualKeyCode(int64(key[0] - 32)).WithModifiers(input.ModifierCtrl).WithCommands([]string{name})
	j.run(down, input.DispatchKeyEvent(input.KeyUp).WithKey(key).WithModifiers(input.ModifierCtrl))
}

const lineTexts = `[...document.querySelectorAll('[data-line]')].map(l => l.textContent.trim().replace(/^▾/, ''))`

func (j *journey) bench(screen string, lines string) {
	j.t.Helper()
	j.run(chromedp.Navigate(j.server.URL + "/bench/screen/" + screen))
	j.until(`document.querySelectorAll('[data-line]').length ` + lines)
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
	j.until(lineTexts + `.some(t => t.includes('Forgotten')) && document.activeElement?.textContent.includes('Forgotten')`)
	j.command("x", "cut")
	j.until(`!` + lineTexts + `.some(t => t.includes('Forgotten'))`)
	j.command("v", "paste")
	j.until(lineTexts + `.some(t => t.includes('Forgotten'))`)
	for range 3 {
		j.key("z", input.ModifierCtrl)
	}
	j.until(`!` + lineTexts + `.some(t => t.includes('Forgotten')) && [...document.querySelectorAll('button')].find(b => b.textContent === 'Undo').disabled`)

	// What may not stand there is refused with the reason, and nothing is lost.
	j.bench("tickets", "> 5")
	j.click(`[...document.querySelectorAll('[data-line]')].find(l => l.textContent.includes('column') && l.textContent.includes('Due'))`)
	j.until(`document.activeElement?.dataset.line`)
	before := j.text(lineTexts + `.join()`)
	j.command("v", "paste")
	j.until(`document.body.innerText.includes('takes')`)
	assert.Equal(t, before, j.text(lineTexts+`.join()`))
}

func TestAWholeTableOfAModelIsOneLine(t *testing.T) {
	j := begin(t, "noor")
	j.bench("not-found", ">= 1")
	j.think()
	j.click(`document.querySelector('[data-line]')`)
	j.until(`document.activeElement?.dataset.line`)
	j.key("i")
	j.until(`document.activeElement?.getAttribute('role') === 'combobox'`)
	j.write("table of orders")
	j.until(`document.querySelector('[role=option]')?.textContent.includes('table of Orders')`)
	j.key("Enter")
	j.until(lineTexts + `.filter(t => t.includes('column')).length === 5`)
	j.effort("a table of a model")
	j.untilInFrame("true", `String([...document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-row')].length > 3 && document.querySelector('body > div').shadowRoot.innerHTML.includes('€'))`)
	// The same once more, by one key.
	j.until(`document.activeElement?.dataset.line !== undefined`)
	j.key("r")
	j.until(`document.activeElement?.textContent.includes('table')`)
	j.untilInFrame("2", `String(document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-table').length)`)
	j.key("z", input.ModifierCtrl)
	j.key("z", input.ModifierCtrl)
	j.until(`!` + lineTexts + `.some(t => t.includes('column'))`)
	// A form; the keys go on from where the undo left off.
	j.until(`document.activeElement?.dataset.line !== undefined`)
	j.key("i")
	j.until(`document.activeElement?.getAttribute('role') === 'combobox'`)
	j.write("form ticket")
	j.until(`document.querySelector('[role=option]')?.textContent.includes('form of a work ticket')`)
	j.key("Enter")
	j.untilInFrame("true", `String(document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-field').length === 5)`)
}
