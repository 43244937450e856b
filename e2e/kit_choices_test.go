package e2e_test

import (
	"fmt"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// inside is an expression for a part of the first element with a tag.
func inside(tag, part string) string {
	return fmt.Sprintf(`document.querySelector('%s').shadowRoot.querySelector('%s')`, tag, part)
}

func TestRadiosWalkByArrowKeysAsOneStop(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<button>before</button><sorrel-radio-group label="Moisture" options="dry, moist, wet" value="dry" name="m"></sorrel-radio-group><button>after</button>`,
	)
	assert.Equal(
		t,
		"radiogroup Moisture",
		j.text(
			`(() => { const g = `+inside(
				"sorrel-radio-group",
				"[role=radiogroup]",
			)+`; return g.getAttribute('role') + ' ' + g.getAttribute('aria-label') })()`,
		),
	)
	j.key("Tab")
	j.key("Tab")
	j.key("ArrowDown")
	j.until(`document.querySelector('sorrel-radio-group').value === 'moist'`)
	j.key("ArrowUp")
	j.key("ArrowUp")
	j.until(`document.querySelector('sorrel-radio-group').value === 'wet'`)
	assert.Contains(t, j.text(`told.join()`), `sorrel-change{"value":"moist"}`)
	j.key("Tab")
	assert.Equal(t, "after", j.text(focused))
}

func TestSeveralChoicesAreSentInTheOrderOfTheList(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<sorrel-checkbox-group label="Conditions" options="thriving, watch, ailing" value="ailing"></sorrel-checkbox-group>`,
	)
	j.key("Tab")
	j.key(" ")
	j.until(`document.querySelector('sorrel-checkbox-group').value === 'thriving, ailing'`)
	j.key("Tab")
	j.key("Tab")
	j.key(" ")
	j.until(`document.querySelector('sorrel-checkbox-group').value === 'thriving'`)
}

func TestAComboboxNarrowsByTypingAndTakesByEnter(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<sorrel-combobox label="Tree" options="Acer griseum, Ginkgo biloba, Quercus robur, Quercus suber"></sorrel-combobox>`,
	)
	in, list := inside("sorrel-combobox", "input"), inside("sorrel-combobox", "[role=listbox]")
	j.key("Tab")
	assert.Equal(t, "false", j.text(in+`.getAttribute('aria-expanded')`))
	j.write("quer")
	j.until(list + `?.querySelectorAll('[role=option]').length === 2`)
	assert.Equal(t, "true", j.text(in+`.getAttribute('aria-expanded')`))
	j.key("ArrowDown")
	j.key("ArrowDown")
	j.until(in + `.getAttribute('aria-activedescendant') === 'o1'`)
	assert.Equal(t, "Quercus suber", j.text(list+`.querySelector('[aria-selected=true]').textContent`))
	assert.Equal(
		t,
		"true",
		j.text(`String(`+list+`.getBoundingClientRect().top >= `+in+`.getBoundingClientRect().bottom)`),
		"the list stands below what is typed",
	)
	j.key("Enter")
	j.until(`document.querySelector('sorrel-combobox').value === 'Quercus suber' && !` + list)
	j.write("zzz")
	j.until(list + `?.textContent.includes('Nothing matches')`)
	j.key("Escape")
	j.until(`!` + list + ` && ` + in + `.value === 'Quercus suber'`)
}

func TestANumberKeepsItsLimitsAndDecimals(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<sorrel-number-input label="Price" value="1234.5" decimals="2" money="euro" min="0" max="2000" step="5"></sorrel-number-input><button>after</button>`,
	)
	in := inside("sorrel-number-input", "input")
	assert.Equal(t, "1,234.50", j.text(in+`.value`))
	assert.Equal(
		t,
		"spinbutton 0 2000",
		j.text(`['role', 'aria-valuemin', 'aria-valuemax'].map(a => `+in+`.getAttribute(a)).join(' ')`),
	)
	j.key("Tab")
	j.key("ArrowUp")
	j.until(`document.querySelector('sorrel-number-input').value === '1239.5'`)
	j.key("PageDown")
	j.until(`document.querySelector('sorrel-number-input').value === '1189.5'`)
	j.run(chromedp.Evaluate(in+`.select()`, nil))
	j.write("99999.999")
	j.key("Tab")
	j.until(`document.querySelector('sorrel-number-input').value === '2000'`)
	wrong := kitPage(t, 800, `<sorrel-number-input label="Price" min="9" max="3"></sorrel-number-input>`)
	assert.Contains(t, wrong.text(inside("sorrel-number-input", "[role=alert]")+`.textContent`), "above the greatest")
}

func TestTheHandlesOfARangeDoNotPassEachOther(t *testing.T) {
	j := kitPage(t, 800, `<sorrel-slider label="Height" range value="10" upper="12" max="20"></sorrel-slider>`)
	j.key("Tab")
	for range 4 {
		j.key("ArrowRight")
	}
	j.until(`document.querySelector('sorrel-slider').value === 12`)
	j.key("Tab")
	j.key("ArrowLeft")
	assert.Equal(
		t,
		"12, 12",
		j.text(
			`document.querySelector('sorrel-slider').value + ', ' + document.querySelector('sorrel-slider').upper`,
		),
	)
	assert.Equal(
		t,
		"Height from, Height to",
		j.text(
			`[...document.querySelector('sorrel-slider').shadowRoot.querySelectorAll('input')].map(i => i.getAttribute('aria-label')).join(', ')`,
		),
	)
}

func TestADateRangeKeepsItsOrder(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<sorrel-date-range label="Stay" from="2026-03-02" to="2026-03-06" name="s"></sorrel-date-range>`,
	)
	j.run(
		chromedp.Evaluate(
			`(() => { const i = `+inside(
				"sorrel-date-range",
				"input",
			)+`; i.value = '2026-04-01'; i.dispatchEvent(new Event('change')) })()`,
			nil,
		),
	)
	j.until(`document.querySelector('sorrel-date-range').to === '2026-04-01'`)
	assert.Contains(t, j.text(`told.join()`), "2026-04-01, 2026-04-01")
}

const menuPage = `<button>before</button><sorrel-menu label="More"><sorrel-menu-item>Edit</sorrel-menu-item><sorrel-menu-item disabled>Copy</sorrel-menu-item><sorrel-menu-item to="/gone">Remove</sorrel-menu-item></sorrel-menu>`

func TestAMenuIsWalkedByArrowsAndLetters(t *testing.T) {
	j := kitPage(t, 800, menuPage)
	button := inside("sorrel-menu", "button")
	j.key("Tab")
	j.key("Tab")
	j.key("ArrowDown")
	j.until(`document.querySelector('sorrel-menu').open`)
	j.until(`document.activeElement.textContent.trim() === 'Edit'`)
	j.key("ArrowDown")
	j.until(`document.activeElement.textContent.trim() === 'Remove'`)
	j.key("ArrowDown")
	j.until(`document.activeElement.textContent.trim() === 'Edit'`)
	j.key("r")
	j.until(`document.activeElement.textContent.trim() === 'Remove'`)
	j.key("Escape")
	j.until(`!document.querySelector('sorrel-menu').open && document.activeElement.tagName === 'SORREL-MENU'`)
	assert.Equal(t, "false", j.text(button+`.getAttribute('aria-expanded')`))
	j.key("ArrowUp")
	j.until(`document.activeElement.textContent.trim() === 'Remove'`)
	j.key("Enter")
	j.until(`told.some(t => t.startsWith('sorrel-go'))`)
	assert.Equal(t, "false", j.text(`String(document.querySelector('sorrel-menu').open)`))
}

func TestAMenuClosesOnAPressElsewhere(t *testing.T) {
	j := kitPage(t, 800, menuPage)
	j.click(inside("sorrel-menu", "button"))
	j.until(`document.querySelector('sorrel-menu').open`)
	j.click(`document.querySelector('button')`)
	j.until(`!document.querySelector('sorrel-menu').open`)
}

func TestATooltipShowsOnFocusAndGoesOnEscape(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<div style="padding:80px"><sorrel-tooltip text="Waters all beds"><sorrel-button>Water</sorrel-button></sorrel-tooltip></div>`,
	)
	shown := `!` + inside("sorrel-tooltip", "[role=tooltip]") + `.hidden`
	assert.Equal(
		t,
		"Waters all beds",
		j.text(`document.querySelector('sorrel-button').getAttribute('aria-description')`),
	)
	j.key("Tab")
	j.until(shown)
	j.key("Escape")
	j.until(`!(` + shown + `)`)
}

func TestAPopoverOpensAndGivesTheFocusBack(t *testing.T) {
	j := kitPage(t, 800, `<sorrel-popover label="How?">At the gate. <a href="#x">More</a></sorrel-popover>`)
	j.key("Tab")
	j.key("Enter")
	j.until(`document.querySelector('sorrel-popover').open`)
	j.key("Tab")
	assert.Equal(t, "More", j.text(focused))
	j.key("Escape")
	j.until(`!document.querySelector('sorrel-popover').open`)
	assert.Equal(t, "How?", j.text(focused))
}

func TestADrawerHoldsTheFocusAndGivesItBack(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<button id=opener onclick="document.querySelector('sorrel-drawer').open = true">open</button><sorrel-drawer heading="Columns"><sorrel-checkbox>Bed</sorrel-checkbox><sorrel-button slot="actions">Done</sorrel-button></sorrel-drawer>`,
	)
	j.run(chromedp.Focus("#opener"))
	j.key("Enter")
	j.until(`document.querySelector('sorrel-drawer').open`)
	j.until(focused + `.includes('Columns')`)
	for range 6 {
		j.key("Tab")
		assert.NotEqual(t, "open", j.text(focused), "the focus stays inside")
	}
	for range 6 {
		j.key("Tab", input.ModifierShift)
		assert.NotEqual(t, "open", j.text(focused), "the focus stays inside")
	}
	j.key("Escape")
	j.until(`!document.querySelector('sorrel-drawer').open`)
	assert.Equal(t, "open", j.text(focused))
}

func TestAToastGoesByItselfUnlessItIsHeld(t *testing.T) {
	j := kitPage(t, 800, `<sorrel-toast open seconds="0.3">Saved</sorrel-toast>`)
	j.until(`told.some(t => t.startsWith('sorrel-close'))`)
	held := kitPage(t, 800, `<sorrel-toast open seconds="0">Saved</sorrel-toast>`)
	held.key("Tab")
	assert.Equal(t, "Close", held.text(focused))
	held.key("Enter")
	held.until(`!document.querySelector('sorrel-toast').open`)
}

func TestWhatIsShownIsToldToScreenReaders(t *testing.T) {
	j := kitPage(
		t,
		900,
		`<sorrel-progress label="Beds" value="140"></sorrel-progress><sorrel-badge count="120" label="messages"><sorrel-icon name="mail"></sorrel-icon></sorrel-badge>
		<sorrel-steps current="2"><sorrel-step>One</sorrel-step><sorrel-step>Two</sorrel-step></sorrel-steps><sorrel-lines label="Visitors" values="1,2;3,4" names="Mon,Tue" rows="Now,Then"></sorrel-lines>
		<sorrel-avatar-group label="Round" most="2"><sorrel-avatar name="A B"></sorrel-avatar><sorrel-avatar name="C D"></sorrel-avatar><sorrel-avatar name="E F"></sorrel-avatar></sorrel-avatar-group>
		<sorrel-list label="Beds"><sorrel-list-item>North</sorrel-list-item></sorrel-list>`,
	)
	assert.Equal(
		t,
		"100",
		j.text(inside("sorrel-progress", "[role=progressbar]")+`.getAttribute('aria-valuenow')`),
		"more than all is all",
	)
	assert.Equal(
		t,
		"99+ 120 messages",
		j.text(
			`(() => { const c = `+inside(
				"sorrel-badge",
				".count",
			)+`; return c.textContent + ' ' + c.getAttribute('aria-label') })()`,
		),
	)
	j.until(`document.querySelectorAll('sorrel-step')[1].getAttribute('aria-current') === 'step'`)
	assert.Equal(t, "", j.text(`document.querySelectorAll('sorrel-step')[0].getAttribute('aria-current') ?? ''`))
	assert.Contains(t, j.text(inside("sorrel-lines", "table")+`.textContent`), "Tue: 4")
	j.until(inside("sorrel-avatar-group", ".more") + `?.textContent.trim() === '+1'`)
	assert.Equal(
		t,
		"list listitem",
		j.text(
			`document.querySelector('sorrel-list').getAttribute('role') + ' ' + document.querySelector('sorrel-list-item').getAttribute('role')`,
		),
	)
}

func TestClearingAFilterPanelTakesAllFiltersBack(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<sorrel-filter-panel><sorrel-text-input value="" label="Name"></sorrel-text-input><sorrel-checkbox>Shown</sorrel-checkbox></sorrel-filter-panel>`,
	)
	j.run(
		chromedp.Evaluate(
			`document.querySelector('sorrel-text-input').value = 'oak'; document.querySelector('sorrel-checkbox').checked = true`,
			nil,
		),
	)
	j.click(inside("sorrel-filter-panel", "button"))
	j.until(
		`told.includes('sorrel-reset""') && document.querySelector('sorrel-text-input').value === '' && !document.querySelector('sorrel-checkbox').checked`,
	)
}

func TestASkipLinkLeadsThereByKey(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<sorrel-skip-link to="main">To the beds</sorrel-skip-link><button>nav</button><main id="main">Beds</main>`,
	)
	j.key("Tab")
	j.key("Enter")
	j.until(`document.activeElement.id === 'main'`)
}
