package e2e_test

import (
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

const (
	focusHeld  = `!!document.activeElement && document.activeElement !== document.body`
	onLine     = `document.activeElement?.dataset.line !== undefined`
	dialogOpen = `!!document.querySelector('[role=dialog]')`
)

// Whatever dialog closes, somebody has the focus, and where a button opened it, that button.
func TestFocusComesBackFromEveryDialog(t *testing.T) {
	j := begin(t, "ida")
	for _, d := range []struct{ path, opens string }{
		{"/", button("New screen")},
		{"/samples/tickets", button("Fields")},
		{"/samples/tickets", button("Make up")},
		{"/samples/tickets", button("New model")},
		{"/census/strays", `[...document.querySelectorAll('button')].find(b => b.textContent.trim().startsWith('Let'))`},
		{"/shelf?sheet=tokens", `document.querySelector('button[aria-label^="Change color"]')`},
		{"/shelf", `document.querySelector('header button')`},
	} {
		j.run(chromedp.Navigate(j.server.URL + d.path))
		j.until(d.opens)
		j.click(d.opens)
		j.until(dialogOpen)
		j.key("Escape")
		j.until(`!(` + dialogOpen + `) && ` + focusHeld)
		assert.Equal(t, "BUTTON", j.text(`document.activeElement.tagName`), "%s: %s", d.path, d.opens)
	}
	j.run(chromedp.Navigate(j.server.URL + "/census"))
	j.until(`document.querySelector('h1, h2')`)
	j.key("?")
	j.until(dialogOpen)
	j.key("Escape")
	j.until(`!(` + dialogOpen + `) && ` + focusHeld)
}

// On the Bench the line under work has the focus after all that is done to it.
func TestTheLineUnderWorkKeepsTheFocus(t *testing.T) {
	j := begin(t, "ida")
	j.bench("sign-in", "=== 9")
	j.click(lineWith("Forgotten"))
	j.until(onLine)
	for _, key := range []string{"?", "e", "o"} {
		j.key(key)
		j.until(`!(` + onLine + `) && ` + focusHeld)
		j.key("Escape")
		j.until(`!(` + dialogOpen + `) && ` + onLine)
	}
	j.key("k", input.ModifierCtrl)
	j.until(dialogOpen)
	j.key("Escape")
	j.until(`!(` + dialogOpen + `) && ` + onLine)
	j.key("c")
	j.until(`document.querySelectorAll('[data-line]').length === 10 && ` + onLine)
	j.key("z", input.ModifierCtrl)
	j.until(`document.querySelectorAll('[data-line]').length === 9 && ` + onLine)
	j.click(lineWith("Forgotten"))
	j.key("Delete")
	j.until(`document.querySelectorAll('[data-line]').length === 8 && ` + onLine)
	j.key("z", input.ModifierCtrl)
	j.until(`document.querySelectorAll('[data-line]').length === 9 && ` + onLine)
	// A press on the Proof selects there, and the line takes the keys.
	j.until(`document.querySelector('[data-selected]')`)
	j.click(`document.querySelector('[data-selected]').parentElement`)
	j.until(onLine)
}
