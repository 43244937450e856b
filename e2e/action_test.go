package e2e_test

import (
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// pressInFrame presses what bears these words in the Proof.
func (j *journey) pressInFrame(words string) {
	j.t.Helper()
	j.clicks++
	// The picture is told a moment after the button that it takes presses now.
	j.untilInFrame("false", `document.querySelector('body > div').inert`)
	j.untilInFrame(
		"pressed",
		`(b => (b.click(), 'pressed'))([...document.querySelector('body > div').shadowRoot.querySelectorAll('*')].find(e => e.textContent.trim() === '`+words+`' && e.shadowRoot?.querySelector('button')).shadowRoot.querySelector('button'))`,
	)
}

// What a press does is chosen from what there is, done in the preview, and missed where
// it is gone.
func TestAPressDoesWhatIsChosen(t *testing.T) {
	j := begin(t, "ida")
	j.bench("settings", "> 5")
	open := `['sorrel-dialog', 'sorrel-toast'].map(t => document.querySelector('body > div').shadowRoot.querySelector(t)?.open ?? 'none').join()`
	j.click(button("Preview"))
	j.until(`document.querySelector('button[aria-pressed=true]')?.textContent.trim() === 'Preview'`)
	j.untilInFrame("false,false", open)
	j.pressInFrame("Remove all samples")
	j.untilInFrame("true,false", open)
	j.pressInFrame("Keep them")
	j.untilInFrame("false,false", open)
	j.pressInFrame("Remove all samples")
	j.pressInFrame("Remove")
	j.untilInFrame("false,true", open)
	j.pressInFrame("Dark")
	j.untilInFrame("dark", `document.querySelector('body > div').shadowRoot.querySelector('.u-screen').dataset.theme`)
	j.pressInFrame("Dark")
	j.untilInFrame(
		"light",
		`document.querySelector('body > div').shadowRoot.querySelector('.u-screen').dataset.theme`,
	)
	j.click(button("Preview"))

	// A word after saving: made and opened in one go, by the form that was sent.
	j.click(lineWith("form", "General"))
	j.until(`document.querySelector('[role=group][aria-label="Choices of form"]')`)
	j.click(button("all "))
	j.think()
	j.choose("does", "+sorrel-toast")
	j.until(`document.activeElement?.getAttribute('aria-label') === 'What the new toast says'`)
	j.write("Saved.")
	j.key("Enter")
	j.until(lineWith("toast", "Saved."))
	j.until(
		`document.querySelector('select[aria-label=does]')?.selectedOptions[0].textContent.trim() === 'open toast “Saved.”'`,
	)
	j.click(button("Preview"))
	j.pressInFrame("Save")
	j.untilInFrame(
		"Saved.",
		`[...document.querySelector('body > div').shadowRoot.querySelectorAll('sorrel-toast')].find(t => t.open)?.textContent ?? ''`,
	)
	j.click(button("Preview"))

	// Without the dialog, the button says that it opens nothing; the repair is one press.
	j.click(lineWith("dialog", "Remove all samples?"))
	j.key("Delete")
	j.until(`!` + lineWith("dialog", "Remove all samples?"))
	j.click(lineWith("button", "Remove all samples"))
	j.until(`document.body.innerText.includes('what it is to open is not there')`)
	assert.Contains(
		t,
		j.text(`document.querySelector('select[aria-label=does]').selectedOptions[0].textContent`),
		"not there",
	)
	j.click(button("Without"))
	j.until(`!document.body.innerText.includes('what it is to open is not there')`)
	j.key("z", input.ModifierCtrl)
	j.until(`document.body.innerText.includes('what it is to open is not there')`)
}

// A press sets controls to what they held at first, and what follows them follows.
func TestAPressSetsControls(t *testing.T) {
	j := begin(t, "ida")
	j.bench("specimens", "> 5")
	j.click(lineWith("checkbox"))
	j.until(onLine)
	j.line("n", "button | Show all")
	j.until(`document.querySelector('[role=group][aria-label="Choices of button"]')`)
	j.click(button("all "))
	j.think()
	j.choose("does", "set q")
	j.until(`document.querySelector('select[aria-label=does]')?.selectedOptions[0].textContent.trim() === 'set q back to what it is at first'`)
	j.click(button("Preview"))
	j.until(`document.querySelector('button[aria-pressed=true]')?.textContent.trim() === 'Preview'`)
	const root = `document.querySelector('body > div').shadowRoot`
	cards := root + `.querySelectorAll('.u-grid sorrel-card').length > 0`
	j.untilInFrame("true", cards)
	j.untilInFrame("typed", `(i => (i.value = 'nothing such', i.dispatchEvent(new Event('input', { bubbles: true, composed: true })), 'typed'))(`+root+`.querySelector('sorrel-text-input').shadowRoot.querySelector('input'))`)
	j.untilInFrame("false", cards)
	j.pressInFrame("Show all")
	j.untilInFrame("true", cards)
	j.untilInFrame("", root+`.querySelector('sorrel-text-input').value`)
}

// A press touches the record of its row: in the preview what follows from that is drawn, and the
// records themselves stay as they are.
func TestAPressTouchesARecord(t *testing.T) {
	j := begin(t, "ida")
	j.bench("volunteers", "> 5")
	j.click(lineWith("text", "record.skill"))
	j.until(onLine)
	j.line("n", "button | Turn")
	j.until(`document.querySelector('[role=group][aria-label="Choices of button"]')`)
	j.click(button("all "))
	j.think()
	j.choose("does", "tick active")
	j.until(`document.querySelector('select[aria-label=does]')?.selectedOptions[0].textContent.trim() === 'turn active of the record over'`)
	const root = `document.querySelector('body > div').shadowRoot`
	chip := root + `.querySelector('.u-grid sorrel-card sorrel-chip').textContent.trim()`
	j.click(button("Preview"))
	j.until(`document.querySelector('button[aria-pressed=true]')?.textContent.trim() === 'Preview'`)
	var was string
	j.inFrame(chip, &was)
	j.pressInFrame("Turn")
	other := map[string]string{"active": "away", "away": "active"}[was]
	j.untilInFrame(other, chip)
	j.pressInFrame("Turn")
	j.untilInFrame(was, chip)
	j.pressInFrame("Turn")
	j.untilInFrame(other, chip)
	j.click(button("Preview"))
	j.click(link("Samples"))
	j.until(`document.querySelector('[role=grid]')`)
	j.bench("volunteers", "> 5")
	j.untilInFrame(was, chip)
}

// A form adds a record of what it holds, once that is what the model asks for: in the preview it
// stands in the list, kept nowhere.
func TestAFormAddsARecord(t *testing.T) {
	j := begin(t, "ida")
	j.bench("volunteers", "> 5")
	var status int
	j.run(chromedp.Evaluate(`fetch('/api/changes', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ client: 'x', change: { title: 'Form', steps: [{ do: 'edit', doc: 'screen:volunteers', edits: [{ op: 'insert', parent: 'volunteers-1', after: 'volunteers-5', tree: `+quickForm+` }] }] } }) }).then(r => r.status)`, &status, func(p *runtime.EvaluateParams) *runtime.EvaluateParams { return p.WithAwaitPromise(true) }))
	require.Equal(t, 200, status)
	j.until(lineWith("form", "Quick"))
	const root = `document.querySelector('body > div').shadowRoot`
	j.click(button("Preview"))
	j.until(`document.querySelector('button[aria-pressed=true]')?.textContent.trim() === 'Preview'`)
	j.pressInFrame("Add")
	j.untilInFrame("Name is needed.", root+`.querySelector('sorrel-form sorrel-field').error`)
	j.untilInFrame("Not sent: Name is needed.", `document.querySelector('#faults').textContent`)
	j.untilInFrame("typed", `(i => (i.value = 'Aaron Ash', i.dispatchEvent(new Event('input', { bubbles: true, composed: true })), 'typed'))(`+root+`.querySelector('sorrel-text-input').shadowRoot.querySelector('input'))`)
	j.pressInFrame("Add")
	j.untilInFrame("Aaron Ash", root+`.querySelector('.u-grid sorrel-card sorrel-heading').textContent.trim()`)
}
