package e2e_test

import (
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// dragLine drags a line to another, to so much of its height and so far across, and tells
// what the mark says before it lets go.
func (j *journey) dragLine(from, to string, down, across float64) string {
	j.t.Helper()
	j.hand(false)
	j.clicks += 2
	var at [4]float64
	j.run(
		chromedp.Evaluate(
			`(() => { const f = document.querySelector('[data-line="`+from+`"]').getBoundingClientRect(), t = document.querySelector('[data-line="`+to+`"]').getBoundingClientRect(); return [f.x + 120, f.y + f.height / 2, t.y, t.height] })()`,
			&at,
		),
	)
	y := at[2] + at[3]*down
	step := func(kind input.MouseType, x, y float64) chromedp.Action {
		return input.DispatchMouseEvent(kind, x, y).WithButton(input.Left).WithClickCount(1)
	}
	j.run(
		step(input.MousePressed, at[0], at[1]),
		step(input.MouseMoved, at[0], at[1]-8),
		step(input.MouseMoved, across, (at[1]+y)/2),
		step(input.MouseMoved, across, y),
	)
	j.until(`!!document.querySelector('[data-line-drop]')`)
	said := j.text(`document.querySelector('[data-line-drop]').innerText`)
	j.run(step(input.MouseReleased, across, y))
	j.until(`!document.querySelector('[data-line-drop]')`)
	return said
}

// Lines are dragged, several at once, to exactly where the mark is; moved and copied
// together by keys; and what they tell is written where it stands.
func TestLinesAreDraggedAndWrittenInPlace(t *testing.T) {
	j := begin(t, "ida")
	j.bench("settings", "> 20")
	order := func() string {
		return j.text(`[...document.querySelectorAll('[data-line]')].map(l => l.dataset.line).join(' ')`)
	}
	said := j.dragLine("settings-18", "settings-16", 0.1, 200)
	assert.Equal(t, "before switch", said)
	j.until(
		`(o => o.indexOf('settings-18') < o.indexOf('settings-16'))([...document.querySelectorAll('[data-line]')].map(l => l.dataset.line))`,
	)
	// Two of them go along together, into what is pointed at.
	j.click(`document.querySelector('[data-line="settings-16"]')`)
	j.until(`document.activeElement?.dataset.line === 'settings-16'`)
	j.key("ArrowDown", input.ModifierShift)
	j.until(`document.activeElement?.dataset.line === 'settings-17'`)
	said = j.dragLine("settings-17", "settings-12", 0.5, 200)
	assert.Equal(t, "at the end of column, all 2", said)
	j.until(
		`(o => o.indexOf('settings-16') > o.indexOf('settings-22') && o.indexOf('settings-17') === o.indexOf('settings-16') + 1)([...document.querySelectorAll('[data-line]')].map(l => l.dataset.line))`,
	)
	// Both are still selected: a key moves them up, and they keep their order.
	j.until(`document.querySelectorAll('[data-line].bg-mosswash').length === 2`)
	before := order()
	j.click(`document.querySelector('[data-line="settings-16"]')`)
	j.until(`document.activeElement?.dataset.line === 'settings-16'`)
	j.key("ArrowDown", input.ModifierShift)
	j.until(`document.activeElement?.dataset.line === 'settings-17'`)
	j.key("ArrowUp", input.ModifierAlt)
	j.until(`[...document.querySelectorAll('[data-line]')].map(l => l.dataset.line).join(' ') !== '` + before + `'`)
	ids := strings.Fields(order())
	at := func(id string) int {
		for i, o := range ids {
			if o == id {
				return i
			}
		}
		return -1
	}
	assert.Equal(t, at("settings-16")+1, at("settings-17"))
	n := len(ids)
	j.key("c")
	j.until(`document.querySelectorAll('[data-line]').length === ` + strconv.Itoa(n+2))
	texts := j.text(lineTexts + `.filter(t => t.startsWith('switch')).join()`)
	assert.Contains(
		t,
		texts,
		"switchSend reminders on the day before,switchWarn of frost,switchSend reminders on the day before,switchWarn of frost",
		"copies stand together",
	)
	// Escape gives a drag up.
	now := order()
	var p [2]float64
	j.run(
		chromedp.Evaluate(
			`(r => [r.x + 120, r.y + 11])(document.querySelector('[data-line="settings-5"]').getBoundingClientRect())`,
			&p,
		),
	)
	j.run(
		input.DispatchMouseEvent(input.MousePressed, p[0], p[1]).WithButton(input.Left).WithClickCount(1),
		input.DispatchMouseEvent(input.MouseMoved, p[0], p[1]+60).WithButton(input.Left),
	)
	j.until(`!!document.querySelector('[data-line-drop]')`)
	j.key("Escape")
	j.until(`!document.querySelector('[data-line-drop]')`)
	j.run(input.DispatchMouseEvent(input.MouseReleased, p[0], p[1]+60).WithButton(input.Left).WithClickCount(1))
	assert.Equal(t, now, order())
	// A setting, and a name, are written on the line.
	j.click(`document.querySelector('[data-line="settings-22"]')`)
	j.until(`document.activeElement?.dataset.line === 'settings-22'`)
	j.click(
		`[...document.querySelector('[data-line="settings-22"]').querySelectorAll('span')].find(s => s.textContent.trim() === 'danger')`,
	)
	j.until(
		`document.activeElement?.getAttribute('aria-label')?.startsWith('Set a prop of') && document.activeElement.value === 'intent danger'`,
	)
	j.write("plain")
	j.key("Enter")
	j.until(`!document.querySelector('[data-line="settings-22"]').textContent.includes('danger')`)
	j.click(
		`[...document.querySelector('[data-line="settings-22"]').querySelectorAll('span')].find(s => s.textContent.trim().startsWith('.'))`,
	)
	j.until(`document.activeElement?.value?.startsWith('called ')`)
	j.write("wipeButton")
	j.key("Enter")
	j.until(`document.querySelector('[data-line="settings-22"]').textContent.includes('.wipeButton')`)
	require.NotContains(t, j.text(`document.body.innerText`), "could not")
}
