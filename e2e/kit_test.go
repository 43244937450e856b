package e2e_test

import (
	"context"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/browser"
	"ubiquant/server/assets"
)

// kitPage shows markup of the kit on a page of its own, as an application would.
func kitPage(t *testing.T, width int64, markup string) *journey {
	if testing.Short() {
		t.Skip("drives Chromium")
	}
	bundle, err := assets.Kit()
	require.NoError(t, err)
	alongside(t)
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch r.URL.Path {
		case "/":
			w.Header().Set("Content-Type", "text/html")
			module := "/dist/sorrel.js"
			if asked := r.URL.Query().Get("module"); asked != "" {
				module = asked
			}
			_, _ = w.Write(
				[]byte(
					`<!doctype html><meta name=viewport content="width=device-width"><link rel=stylesheet href=/dist/sorrel.css><script type=module src=` + module + `></script><script>window.told=[];for (const n of ['sorrel-press','sorrel-change','sorrel-submit','sorrel-go','sorrel-tab','sorrel-page','sorrel-close','sorrel-reset']) addEventListener(n, e => told.push(n + JSON.stringify(e.detail ?? '')))</script>` + markup,
				),
			) // a lost reader ends the test elsewhere
		default:
			data, ok := bundle.PackageFiles[r.URL.Path[1:]]
			if !ok {
				http.NotFound(w, r)
				return
			}
			if strings.HasSuffix(r.URL.Path, ".js") {
				w.Header().Set("Content-Type", "text/javascript")
			} else if r.URL.Path == "/dist/sorrel.css" {
				w.Header().Set("Content-Type", "text/css")
			}
			_, _ = w.Write(data)
		}
	}))
	t.Cleanup(s.Close)
	tab, cancel := context.WithTimeout(openTab(t), time.Minute)
	t.Cleanup(cancel)
	j := &journey{t: t, ctx: tab, onKeyboard: true}
	j.run(
		chromedp.EmulateViewport(width, 700),
		chromedp.Navigate(s.URL),
		browser.Until(
			`customElements.get('sorrel-button') && [...document.querySelectorAll('*')].every(e => !e.isUpdatePending)`,
		),
	)
	return j
}

// focused is what has the focus, through shadow roots.
const focused = `(() => { let e = document.activeElement; while (e?.shadowRoot?.activeElement) e = e.shadowRoot.activeElement; return (e?.getAttribute('aria-label') || e?.textContent || e?.tagName).trim() })()`

func TestTabsWalkByArrowKeys(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<sorrel-tabs><sorrel-tab label="One">first</sorrel-tab><sorrel-tab label="Two">second</sorrel-tab><sorrel-tab label="Three">third</sorrel-tab></sorrel-tabs>`,
	)
	j.key("Tab")
	assert.Equal(t, "One", j.text(focused))
	j.key("ArrowRight")
	j.until(focused + ` === 'Two'`)
	assert.Equal(
		t,
		"second",
		j.text(`[...document.querySelectorAll('sorrel-tab')].filter(e => !e.hidden).map(e => e.textContent).join()`),
	)
	j.key("ArrowLeft")
	j.key("ArrowLeft")
	j.until(focused + ` === 'Three'`)
	assert.Equal(
		t,
		"true",
		j.text(
			`document.querySelector('sorrel-tabs').shadowRoot.querySelectorAll('[role=tab]')[2].getAttribute('aria-selected')`,
		),
	)
}

// Tabs that lead to routes are links: the one of the route shown is marked and shows what it holds,
// whatever becomes of that later.
func TestTabsThatLeadToRoutesAreLinks(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<sorrel-tabs><sorrel-tab label="About" to="/beds/1" active>what it is</sorrel-tab><sorrel-tab label="Care" to="/beds/1/care">what was done</sorrel-tab></sorrel-tabs>`,
	)
	const strip = `document.querySelector('sorrel-tabs').shadowRoot`
	const shown = `[...document.querySelectorAll('sorrel-tab')].filter(e => !e.hidden).map(e => e.textContent).join()`
	j.until(strip + `.querySelectorAll('nav a').length === 2`)
	assert.Equal(t, "0", j.text(`String(`+strip+`.querySelectorAll('[role=tab], [role=tablist]').length)`))
	assert.Equal(t, "About page", j.text(`(a => a.textContent + ' ' + a.ariaCurrent)(`+strip+`.querySelector('[aria-current]'))`))
	assert.Equal(t, "what it is", j.text(shown))
	assert.Equal(t, "region", j.text(`document.querySelector('sorrel-tab').getAttribute('role')`))
	j.run(chromedp.Evaluate(`document.querySelectorAll('sorrel-tab').forEach((e, i) => (e.active = i === 1))`, nil))
	j.until(shown + ` === 'what was done'`)
	j.key("Tab")
	j.key("Tab")
	assert.Equal(t, "Care", j.text(focused))
}

func TestADialogHoldsTheFocusAndGivesItBack(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<button id=opener onclick="document.querySelector('sorrel-dialog').open = true">open</button><sorrel-dialog heading="Remove it?"><sorrel-button slot="actions">Keep</sorrel-button><sorrel-button slot="actions">Remove</sorrel-button></sorrel-dialog>`,
	)
	j.run(chromedp.Focus("#opener"))
	j.key("Enter")
	j.until(`document.querySelector('sorrel-dialog').open`)
	j.until(focused + `.includes('Remove it?')`)
	assert.Equal(
		t,
		"dialog true",
		j.text(
			`(() => { const d = document.querySelector('sorrel-dialog').shadowRoot.querySelector('.sheet'); return d.getAttribute('role') + ' ' + d.getAttribute('aria-modal') })()`,
		),
	)
	for range 5 {
		j.key("Tab")
		assert.NotEqual(t, "open", j.text(focused), "the focus stays inside")
	}
	j.key("Escape")
	j.until(`!document.querySelector('sorrel-dialog').open`)
	assert.Equal(t, "open", j.text(focused))
}

func TestFieldsNameTheirControlsAndTellErrors(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<sorrel-field label="Height" help="In metres" required error="Too tall"><sorrel-text-input kind="number" name="h"></sorrel-text-input></sorrel-field>`,
	)
	j.until(
		`document.querySelector('sorrel-text-input').shadowRoot.querySelector('input').getAttribute('aria-label') === 'Height'`,
	)
	input := `document.querySelector('sorrel-text-input').shadowRoot.querySelector('input')`
	assert.Equal(t, "true", j.text(input+`.getAttribute('aria-invalid')`))
	assert.Equal(t, "true", j.text(input+`.getAttribute('aria-required')`))
	assert.Equal(t, "Too tall. In metres", j.text(input+`.getAttribute('aria-description')`))
	j.key("Tab")
	j.write("42")
	assert.Contains(t, j.text(`told.join()`), `sorrel-change{"value":"42"}`)
}

func TestAFormSendsItsValuesOnceAndDoesNotReload(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<sorrel-form label="New"><sorrel-field label="Name"><sorrel-text-input name="name" value="Oak"></sorrel-text-input></sorrel-field><sorrel-checkbox name="shown" checked>Shown</sorrel-checkbox><sorrel-button slot="actions" action="submit">Save</sorrel-button></sorrel-form>`,
	)
	j.run(chromedp.Evaluate(`document.querySelector('sorrel-button').focus()`, nil))
	j.key("Enter")
	j.until(`told.some(x => x.startsWith('sorrel-submit'))`)
	assert.Contains(t, j.text(`told.filter(x => x.startsWith('sorrel-submit')).join()`), `"name":"Oak"`)
	assert.Equal(t, "1", j.text(`String(told.filter(x => x.startsWith('sorrel-submit')).length)`))
}

func TestSwitchesAndCheckboxesTurnBySpace(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<sorrel-switch name="a">Remind</sorrel-switch><sorrel-checkbox name="b">Show</sorrel-checkbox>`,
	)
	j.key("Tab")
	j.key(" ")
	j.until(`document.querySelector('sorrel-switch').on`)
	assert.Equal(
		t,
		"switch true",
		j.text(
			`(() => { const b = document.querySelector('sorrel-switch').shadowRoot.querySelector('button'); return b.getAttribute('role') + ' ' + b.getAttribute('aria-checked') })()`,
		),
	)
	j.key("Tab")
	j.key(" ")
	j.until(`document.querySelector('sorrel-checkbox').checked`)
}

func TestTheNavbarCollapsesToAMenuOnAPhone(t *testing.T) {
	j := kitPage(
		t,
		360,
		`<sorrel-navbar><sorrel-text slot="brand">Fern</sorrel-text><sorrel-nav-item to="/beds" active>Beds</sorrel-nav-item></sorrel-navbar>`,
	)
	toggle := `document.querySelector('sorrel-navbar').shadowRoot.querySelector('.toggle')`
	visible := `String(document.querySelector('sorrel-nav-item').getBoundingClientRect().height > 0)`
	assert.Equal(t, "false", j.text(visible))
	assert.Equal(t, "false", j.text(toggle+`.getAttribute('aria-expanded')`))
	j.click(toggle)
	j.until(visible + ` === 'true'`)
	assert.Equal(
		t,
		"page",
		j.text(
			`document.querySelector('sorrel-nav-item').shadowRoot.querySelector('a').getAttribute('aria-current')`,
		),
	)
	j.key("Escape")
	j.until(visible + ` === 'false'`)
	wide := kitPage(t, 1000, `<sorrel-navbar><sorrel-nav-item to="/beds">Beds</sorrel-nav-item></sorrel-navbar>`)
	assert.Equal(t, "true", wide.text(visible))
}

func TestATableIsReadAsOneAndNumbersStandAtTheRight(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<sorrel-table label="Beds"><sorrel-column slot="columns">Bed</sorrel-column><sorrel-column slot="columns" kind="number">Trees</sorrel-column><sorrel-row><sorrel-cell>North</sorrel-cell><sorrel-cell>14</sorrel-cell></sorrel-row></sorrel-table>`,
	)
	assert.Equal(
		t,
		"columnheader row cell",
		j.text(
			`['sorrel-column', 'sorrel-row', 'sorrel-cell'].map(s => document.querySelector(s).getAttribute('role')).join(' ')`,
		),
	)
	assert.Equal(
		t,
		"Beds",
		j.text(
			`document.querySelector('sorrel-table').shadowRoot.querySelector('[role=table]').getAttribute('aria-label')`,
		),
	)
	j.until(`document.querySelectorAll('sorrel-cell')[1].hasAttribute('data-number')`)
	assert.Equal(
		t,
		"true",
		j.text(
			`String(Math.abs(document.querySelectorAll('sorrel-column')[1].getBoundingClientRect().x - document.querySelectorAll('sorrel-cell')[1].getBoundingClientRect().x) < 1)`,
		),
		"cells stand under their heads",
	)
}

func TestLinksThatRunCodeAreInertAndTheDarkThemeDiffers(t *testing.T) {
	j := kitPage(
		t,
		800,
		`<sorrel-link to="javascript:told.push('ran')">x</sorrel-link><div id=l data-theme=light><sorrel-text>a</sorrel-text></div><div id=d data-theme=dark><sorrel-text>a</sorrel-text></div>`,
	)
	assert.Equal(
		t,
		"#",
		j.text(`document.querySelector('sorrel-link').shadowRoot.querySelector('a').getAttribute('href')`),
	)
	assert.NotEqual(
		t,
		j.text(`getComputedStyle(document.querySelector('#l sorrel-text')).color`),
		j.text(`getComputedStyle(document.querySelector('#d sorrel-text')).color`),
	)
}
