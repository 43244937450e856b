package e2e_test

import (
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/stretchr/testify/assert"
)

// newScreen makes a screen by Find anything and opens it.
func (j *journey) newScreen(title, id string) {
	j.t.Helper()
	j.think()
	j.key("k", input.ModifierCtrl)
	j.until(`document.activeElement?.getAttribute('aria-label') === 'Find anything'`)
	j.write("new scr")
	j.until(`document.querySelector('[role=listbox][aria-busy=false]')?.textContent.includes('New screen')`)
	for range 40 {
		if strings.Contains(j.text(`document.querySelector('[role=option][data-headlessui-state*=active]')?.textContent ?? ''`), "New screen") {
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
	j.click(`document.querySelector('[data-line=root]')`)
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
		j.until("document.activeElement?.dataset.line && document.activeElement.dataset.line + document.activeElement.getAttribute('aria-expanded') !== '" + before + "'")
	}
	j.t.Fatalf("no %s around", kind)
}

// A control room: volunteers as cards, tickets as a table with their states in colour,
// tabs, a settings dialog with a slider and progress, a switch.
func TestAControlRoomIsAssembledByKeyboard(t *testing.T) {
	j := begin(t, "ida")
	j.newScreen("Control room", "control-room")
	j.line("i", "page header | Who is here, what is open | Control room")
	j.line("n", "switch | Night mode")
	j.line("n", "tabs")
	j.line("i", "tab | Tickets")
	j.line("i", "table of work tickets")
	j.until(lineTexts + `.filter(t => t.includes('column')).length >= 4`)
	j.up("tabTickets")
	j.line("n", "tab | Volunteers")
	j.line("i", "cards of volunteers")
	j.up("tabs")
	j.line("n", "dialog | | Settings")
	j.line("i", "slider | Brightness")
	j.line("n", "progress | Watering done")
	j.effort("control room")
	said := j.text(lineTexts + `.join('\n')`)
	for _, want := range []string{"switchNight mode", "tabTickets", "tabVolunteers", "table", "dialogSettings", "slider", "progress"} {
		assert.True(t, strings.Contains(said, want), "%s in\n%s", want, said)
	}
	j.untilInFrame("true,true,true,true", `['sorrel-tab sorrel-row', 'sorrel-tab sorrel-card', 'sorrel-dialog sorrel-slider', 'sorrel-switch'].map(s => !!document.querySelector('body > div').shadowRoot.querySelector(s)).join()`)
	j.untilInFrame("Control room,Settings,Brightness,Watering done", `['page-header:heading', 'dialog:heading', 'slider:label', 'progress:label'].map(s => document.querySelector('body > div').shadowRoot.querySelector('.u-section sorrel-' + s.split(':')[0]).getAttribute(s.split(':')[1])).join()`)
	// The table's states wear the colours that the other screens give them.
	j.untilInFrame("good,info,neutral", `[...new Set([...document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-row sorrel-chip')].map(c => c.getAttribute('tone') ?? 'neutral'))].sort().join()`)
}
