package e2e_test

import (
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/stretchr/testify/assert"

	"ubiquant/internal/browser"
)

// open opens a new line by a key of the line that has the focus.
func (j *journey) open(key string) {
	j.t.Helper()
	j.until(`document.activeElement?.dataset.line !== undefined`)
	j.key(key)
	j.until(`document.activeElement?.getAttribute('aria-controls') === 'next-list'`)
}

// take writes on the new line that is open and takes what leads the list: by Enter, by
// Tab to go on inside it, or with Control to go on after it.
func (j *journey) take(what, key string, modifiers ...input.Modifier) {
	j.t.Helper()
	j.think()
	j.write(what)
	before := j.text(`document.querySelectorAll('[data-line]').length + ''`)
	j.key(key, modifiers...)
	j.until(
		`document.querySelectorAll('[data-line]').length > ` + before + ` && (document.activeElement?.dataset.line !== undefined || (document.activeElement?.getAttribute('aria-controls') === 'next-list' && !document.activeElement.value))`,
	)
}

// newScreen makes a screen by Find anything and opens it.
func (j *journey) newScreen(title, id string) {
	j.t.Helper()
	j.think()
	j.key("k", input.ModifierCtrl)
	j.until(`document.activeElement?.getAttribute('aria-label') === 'Find anything'`)
	j.write("new scr")
	j.until(`document.querySelector('[role=listbox][aria-busy=false]')?.textContent.includes('New screen')`)
	for range 40 {
		if strings.Contains(
			j.text(`document.querySelector('[role=option][data-headlessui-state*=active]')?.textContent ?? ''`),
			"New screen",
		) {
			break
		}
		j.key("ArrowDown")
	}
	j.key("Enter")
	j.until(`document.activeElement?.tagName === 'INPUT' && !!document.querySelector('[role=dialog] input')`)
	j.think()
	j.write(title)
	j.key("Enter")
	j.until(`location.pathname === '/bench/screen/` + id + `' && !!document.querySelector('[data-line=root]')`)
	// Its first line has the focus: one goes on by keys.
	j.until(`document.activeElement?.dataset.line === 'root'`)
}

// up goes to the line around, as often as it takes to stand on one of a kind.
func (j *journey) up(kind string) {
	j.t.Helper()
	j.until(`document.activeElement?.dataset.line`)
	for range 12 {
		if strings.Contains(j.text(`document.activeElement.textContent.replace(/^[▸▾]/, '')`), kind) {
			return
		}
		before := j.text(`document.activeElement.dataset.line + document.activeElement.getAttribute('aria-expanded')`)
		j.key("ArrowLeft")
		j.until(
			"document.activeElement?.dataset.line && document.activeElement.dataset.line + document.activeElement.getAttribute('aria-expanded') !== '" + before + "'",
		)
	}
	j.t.Fatalf("no %s around", kind)
}

// A control room: volunteers as cards, tickets as a table with their states in colour,
// tabs, a settings dialog with a slider and progress, a switch.
func TestAControlRoomIsAssembledByKeyboard(t *testing.T) {
	j := begin(t, "ida")
	j.newScreen("Control room", "control-room")
	j.line("i", "side navi")
	j.line("n", "page h")
	j.line("n", "sw | Night")
	j.set("does dark")
	j.open("n")
	j.take("tabs", "Tab")
	j.take("tab | Tickets", "Tab")
	j.take("table of ti", "Enter")
	j.until(lineTexts + `.filter(t => t.includes('column')).length >= 4`)
	j.up("tabTickets")
	j.open("n")
	j.take("tab | People", "Tab")
	j.take("cards of v", "Enter")
	j.up("tabs")
	j.open("n")
	j.take("dia | | Settings", "Tab")
	j.take("sli | Light", "Enter", input.ModifierCtrl)
	j.take("prog | Water", "Enter")
	j.up("dialog")
	j.line("n", "bu | Settings")
	j.set("does sett")
	j.effort("control room", 8)
	said := j.text(lineTexts + `.join('\n')`)
	for _, want := range []string{"side nav", "switchNight", "tabTickets", "tabPeople", "table", "dialogSettings", "slider", "progress"} {
		assert.True(t, strings.Contains(said, want), "%s in\n%s", want, said)
	}
	j.untilInFrame(
		"true,true,true,true",
		`['sorrel-tab sorrel-row', 'sorrel-tab sorrel-card', 'sorrel-dialog sorrel-slider', 'sorrel-switch'].map(s => !!document.querySelector('body > div').shadowRoot.querySelector(s)).join()`,
	)
	j.untilInFrame(
		"Control room,Settings,Light,Water",
		`['page-header:heading', 'dialog:heading', 'slider:label', 'progress:label'].map(s => document.querySelector('body > div').shadowRoot.querySelector('.u-section sorrel-' + s.split(':')[0]).getAttribute(s.split(':')[1])).join()`,
	)
	// The side navigation leads to the screens, and knows which of them is shown.
	j.untilInFrame(
		"true",
		`document.querySelector('body > div').shadowRoot.querySelectorAll('.u-section sorrel-side-nav sorrel-nav-item').length > 4`,
	)
	// The table's states wear the colours that the other screens give them.
	j.untilInFrame(
		"good,info,neutral",
		`[...new Set([...document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-row sorrel-chip')].map(c => c.getAttribute('tone') ?? 'neutral'))].sort().join()`,
	)
	// The button opens what it says, and the switch turns the dark on.
	j.click(button("Preview"))
	j.pressInFrame("Settings")
	j.untilInFrame(
		"true",
		`document.querySelector('body > div').shadowRoot.querySelector('.u-section sorrel-dialog').open`,
	)
	j.pressInFrame("Night")
	j.untilInFrame("dark", `document.querySelector('body > div').shadowRoot.querySelector('.u-screen').dataset.theme`)
}

// A busy page: a bar with links, a drop-down and a counter on a face, cards of unlike
// texts in equal boxes, a gallery. On a phone the bar becomes a menu, nothing sticks out.
func TestABusyPageHoldsOnAPhone(t *testing.T) {
	j := begin(t, "tam")
	j.newScreen("Open day", "open-day")
	j.line("i", "navbar of")
	j.open("i")
	j.take("menu | More", "Tab")
	j.take("menu item | Archive", "Enter")
	j.set("to /arc")
	j.up("menuMore")
	j.open("n")
	j.take("badge", "Enter")
	j.set("count 3")
	j.open("i")
	j.take("avatar | Tam Okoro", "Enter")
	j.up("navbar")
	j.line("n", "cards of mess")
	j.open("n")
	j.take("gallery", "Tab")
	j.take("picture", "Enter")
	j.set("src https://example.org/a.png")
	j.set("alt A fern")
	j.effort("busy page", 14)
	j.until(`document.querySelector('[data-pending="0"]')`)
	j.untilInFrame(
		"3,Tam Okoro",
		`['badge', 'avatar'].map((t, i) => document.querySelector('body > div').shadowRoot.querySelector('.u-section sorrel-' + t)[['count', 'name'][i]]).join()`,
	)
	heights := `[...new Set([...document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-card')].map(c => Math.round(c.getBoundingClientRect().height)))].length`
	j.untilInFrame("1", heights)
	j.click(`[...document.querySelectorAll('[role=radio]')].find(b => b.textContent.trim() === '360')`)
	j.untilInFrame("360px", `document.querySelector('body > div').shadowRoot.querySelector('.u-screen').style.width`)
	j.run(browser.Drawn())
	j.untilInFrame(
		"true",
		`(bar => !!bar.shadowRoot.querySelector('button[aria-expanded]') && getComputedStyle(bar.shadowRoot.querySelector('button[aria-expanded]')).display !== 'none')([...document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-navbar')].at(-1))`,
	)
	j.untilInFrame(
		"",
		`[...document.querySelector('body > div').shadowRoot.querySelectorAll('.u-section *')].filter(e => e.tagName.startsWith('SORREL') && e.getBoundingClientRect().right > document.querySelector('body > div').shadowRoot.querySelector('.u-screen').getBoundingClientRect().right + 1 && e.offsetParent && getComputedStyle(e).visibility !== 'hidden').map(e => e.tagName).join()`,
	)
}
