package e2e_test

import (
	"testing"

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
	j.until(`document.querySelector('[role=radiogroup][aria-label=Width] [aria-checked=true]').textContent.trim() === '960'`)
	j.click(`document.querySelector('button[aria-label="order otherwise from 960 px"]') ?? [...document.querySelectorAll('button')].find(b => b.textContent.startsWith('all '))`)
	j.click(`document.querySelector('button[aria-label="order otherwise from 960 px"]')`)
	j.until(`document.querySelector('[role=radiogroup][aria-label="order@960"]')`)
	j.click(`[...document.querySelectorAll('[role=radiogroup][aria-label="order@960"] [role=radio]')].find(b => b.textContent.trim().startsWith('last'))`)
	first := `getComputedStyle(document.querySelector('body > div').shadowRoot.querySelector('.u-column')).order`
	j.untilInFrame("1", first)
	assert.Contains(t, j.text(`document.querySelector('[title="It holds at the width looked at"]').closest('div').textContent`), "order ≥ 960")
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
		j.click(`[...document.querySelectorAll('[role=radiogroup][aria-label=Width] [role=radio]')].find(b => b.textContent.trim() === '` + w + `')`)
		j.until(`document.querySelector('[role=radiogroup][aria-label=Width] [aria-checked=true]').textContent.trim() === '` + w + `' && ` + inside)
	}
}
