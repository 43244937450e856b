package e2e_test

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/deliver"
	"ubiquant/core/deliver/targets"
	"ubiquant/core/kit"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/piece"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/browser"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/stateful"
	"ubiquant/server/assets"
	"ubiquant/server/service"
)

// shape is what a page shows: where the kit's elements stand, and its text.
type shape struct {
	Boxes []box
	Text  string
}

// shapeOf waits until a page is drawn, stands still and, where a text is awaited, says it,
// and measures it: records that arrive late are not taken for a page without any.
const shapeOf = `(async awaited => {
  const root = () => document.querySelector('.u-screen')
  const text = () => ` + allText + `
  const boxes = () => { const o = root().getBoundingClientRect(); return [...root().querySelectorAll('*')].filter(e => /^(SORREL|CLOVER)-/.test(e.tagName)).map(e => { const r = e.getBoundingClientRect(); return {Tag: e.tagName, X: r.x - o.x, Y: r.y - o.y, W: r.width, H: r.height} }) }
  let before = '', same = 0
  for (let i = 0; i < 500 && (same < 3 || (awaited && text() !== awaited)); i++) {
    await new Promise(r => setTimeout(r, 40))
    if (!root() || document.querySelector('[data-waits]') || document.fonts.status !== 'loaded' || !root().querySelector('*')) continue
    const now = JSON.stringify(boxes())
    same = now === before ? same + 1 : 0
    before = now
  }
  return JSON.stringify({Boxes: boxes(), Text: text()})
})`

func (j *journey) shape(url, awaits string) shape {
	j.t.Helper()
	var text string
	var out shape
	j.run(chromedp.Navigate(url), chromedp.Evaluate(fmt.Sprintf("%s(%q)", shapeOf, awaits), &text, awaited))
	require.NoError(j.t, json.Unmarshal([]byte(text), &out))
	return out
}

// project installs and builds a delivered application, and checks it by all that its own
// project checks: types, lint rules, formatting. It gives the folder to serve.
func project(t *testing.T, target, dir, service string) string {
	t.Helper()
	run := func(name string, args ...string) {
		heavy.Lock()
		defer heavy.Unlock()
		cmd := exec.Command(name, args...)
		cmd.Dir = dir
		cmd.Env = append(os.Environ(), "CI=1")
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, "%s %v in the application for %s: %s", name, args, target, out)
	}
	install(t, dir)
	run("npm", "run", "format:check")
	run("npm", "run", "lint", "--", "--max-warnings", "0")
	build(t, dir, "VITE_OFFICE="+service, "VITE_SAMPLES=1")
	return filepath.Join(dir, "dist")
}

// plainly puts plain elements on a screen, set to something of each kind.
func plainly(t *testing.T, l *live.Live) {
	t.Helper()
	_, err := l.Take(change.Change{Title: "plain elements", Steps: []change.Step{&change.Edit{Doc: "screen:edit-ticket", Edits: []screen.Edit{
		{Op: screen.Insert, Parent: "edit-ticket-1", Tree: testkit.Tree(t, `{"id":"plain","type":"html-fieldset","props":{"id":"plain"},"children":[
			{"id":"plain-1","type":"html-legend","text":"Plainly"},
			{"id":"plain-2","type":"html-label","text":"How many","props":{"for":"plain-many"}},
			{"id":"plain-3","type":"html-input","props":{"id":"plain-many","type":"number","value":"3","min":"1","required":true,"readonly":true,"tabindex":0,"autocomplete":"off"}},
			{"id":"plain-4","type":"html-label","text":"Why {{ not }}","props":{"for":"plain-why"}},
			{"id":"plain-5","type":"html-textarea","props":{"id":"plain-why","rows":3,"maxlength":80,"placeholder":"{{ so }}"}},
			{"id":"plain-6","type":"html-input","props":{"type":"checkbox","checked":true,"disabled":true,"aria-label":"Late"}},
			{"id":"plain-7","type":"html-select","props":{"aria-label":"Side"},"children":[{"id":"plain-8","type":"html-option","text":"North","props":{"value":"n"}}]},
			{"id":"plain-9","type":"html-a","text":"Beds","props":{"href":"/beds","title":{"expr":"'All ' + text(size(beds))"}}},
			{"id":"plain-10","type":"html-progress","props":{"value":3,"max":10,"aria-label":"Done"}},
			{"id":"plain-11","type":"html-time","text":"Today","props":{"datetime":"2026-09-14"}},
			{"id":"plain-12","type":"html-details","props":{"open":true},"children":[{"id":"plain-13","type":"html-summary","text":"More"},{"id":"plain-14","type":"html-p","text":"And more"}]}]}`)},
	}}}})
	require.NoError(t, err)
}

// What is delivered shows and does the same in every framework: each screen has the text
// and the places of what the one renderer makes of it, each application passes strict
// compilers, the recommended lint rules and the formatter, and the same journeys lead to
// the same ends.
func TestEveryTargetShowsAndDoesTheSame(t *testing.T) {
	if testing.Short() {
		t.Skip("installs packages and drives Chromium")
	}
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	bundle := withClover(t)
	l := live.Open(w, bundle.Kit, today())
	_, err = l.Take(change.Change{Title: "a day", Steps: []change.Step{&change.Edit{Doc: "screen:edit-ticket", Edits: []screen.Edit{
		{Op: screen.Insert, Parent: "edit-ticket-1", Tree: testkit.Tree(t, `{"id":"day","type":"clover-day","name":"day","props":{"label":"Due","value":"2026-09-14","size":"snug"}}`)},
		{Op: screen.Insert, Parent: "edit-ticket-1", Tree: testkit.Tree(t, `{"id":"of-beds","type":"sorrel-select","props":{"label":"Bed","options":{"expr":"joined(values(beds, 'name'), ', ')"}}}`)},
		{Op: screen.Insert, Parent: "edit-ticket-1", Tree: testkit.Tree(t, `{"id":"late","type":"sorrel-stat","props":{"label":"Open and late","value":{"expr":"text(size(tickets.filter(t, t.state == 'open' && t.due < today)))"},"note":{"expr":"money(sum(orders.filter(o, o.state != 'none' && o.total > 100.0), 'total'))"}}}`)},
		{Op: screen.Insert, Parent: "edit-ticket-1", Tree: testkit.Tree(t, `{"id":"by","type":"sorrel-list","children":[{"id":"by-1","type":"sorrel-list-item","repeat":{"model":"volunteers"},"text":{"expr":"record.name + ': ' + plural(size(tickets.filter(t, t.assignee == record.id && size(beds.filter(b, b.id == t.bed)) > 0)), 'ticket', 'tickets')"}}]}`)},
	}}}})
	require.NoError(t, err)
	plainly(t, l)
	for _, run := range []piece.Run{{Doc: "screen:tickets", Elements: []string{"tickets-5"}}, {Doc: "shell:staff", Elements: []string{"bar"}}, {Doc: "screen:messages", Elements: []string{"messages-8", "messages-13"}}} {
		extract(t, l, run)
	}
	stateful.List(t, l, "screen:round")
	clears(t, l, "screen:specimens", "specimens-8", "specimens-12", "set q; set condition; set display false")
	clears(t, l, "screen:tickets", "tickets-7", "tickets-10", "set q; set state")
	// A panel with its list and pager keeps what it does to itself; filters tell it to the screen.
	extract(t, l, piece.Run{Doc: "screen:specimens", Elements: []string{"specimens-7", "specimens-23"}})
	extract(t, l, piece.Run{Doc: "screen:tickets", Elements: []string{"tickets-8", "tickets-10"}})
	touchesRecords(t, l)
	in, err := l.DeliverInput("", nil, bundle.DeliverFiles())
	require.NoError(t, err)
	in.Take(bundle)
	pages := httptest.NewServer(http.FileServer(http.Dir(written(t, "html", in))))
	t.Cleanup(pages.Close) // journeys end after this function does
	at, stopService, err := service.Start("127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(stopService)

	j := begin(t, "ida")
	expected := map[string]shape{}
	routes := map[string]string{}
	for _, d := range in.Screens {
		if d.ID == "visitors" { // its records come from the service
			continue
		}
		expected[d.ID] = j.shape(pages.URL+"/"+d.ID+".html", "")
		require.NotEmpty(t, expected[d.ID].Boxes, d.ID)
		routes[d.ID] = d.Route
		for name, value := range l.Scene().Params(d) {
			routes[d.ID] = strings.ReplaceAll(routes[d.ID], ":"+name, value)
		}
		routes[d.ID] = strings.ReplaceAll(routes[d.ID], ":id", "t1")
	}
	// Plain pages act as well, whatever of them stands in pieces.
	rows := func(tag string, n int) chromedp.Action {
		return browser.Until(fmt.Sprintf(`[...document.querySelectorAll(%q)].filter(e => e.getClientRects().length).length === %d`, tag, n))
	}
	types := chromedp.Evaluate(`(i => { i.value = 'the l'; i.dispatchEvent(new Event('input', { bubbles: true, composed: true })) })(document.querySelector('sorrel-text-input').shadowRoot.querySelector('input'))`, nil)
	j.run(chromedp.Navigate(pages.URL+"/tickets.html"), rows("sorrel-row", 10), types, rows("sorrel-row", 3), browser.Until(allText+`.includes('3 tickets')`),
		chromedp.Navigate(pages.URL+"/specimens.html"), rows(".u-grid sorrel-card", 6), types, rows(".u-grid sorrel-card", 0))
	j.formSays(pages.URL + "/new-volunteer.html")
	for _, target := range targets.All() {
		if target.Framework == "" {
			continue
		}
		t.Run(target.ID, func(t *testing.T) {
			conforms(t, target, in, at, expected, routes)
		})
	}
}

// formSays sends a form that is not whole: each field says what is wrong with it, all of it is said
// aloud, the first has the focus, and what is put right is taken back.
func (j *journey) formSays(url string) {
	j.t.Helper()
	const says = `[...document.querySelectorAll('sorrel-field')].map(f => f.error).join('|')`
	const aloud = `document.querySelector('#faults')?.textContent`
	types := func(name, what string) chromedp.Action {
		return chromedp.Evaluate(fmt.Sprintf(`(i => { i.value = %q; i.dispatchEvent(new Event('input', { bubbles: true, composed: true })) })([...document.querySelectorAll('sorrel-text-input')].find(e => e.name === %q).shadowRoot.querySelector('input'))`, what, name), nil)
	}
	const save = `[...document.querySelectorAll('sorrel-button')].find(e => e.action === 'submit')?.shadowRoot?.querySelector('button')`
	press := chromedp.Evaluate(save+`.click()`, nil)
	j.run(chromedp.Navigate(url), browser.Until(save),
		types("email", "aaron"), press,
		browser.Until(says+` === 'Name is needed.|E-mail address is no e-mail address.|'`),
		browser.Until(aloud+` === 'Not sent: Name is needed. E-mail address is no e-mail address.'`),
		browser.Until(`document.activeElement?.name === 'name'`),
		types("name", "Aaron Ash"),
		browser.Until(says+` === '|E-mail address is no e-mail address.|'`),
		types("email", "aaron@fernhollow.example"),
		browser.Until(says+` === '||'`), browser.Until(aloud+` === ''`),
		press, browser.Until(says+` === '||'`),
	)
}

// withClover is the demo's kit with a part from elsewhere beside it.
func withClover(t *testing.T) *pack.Bundle {
	t.Helper()
	kits, err := assets.Kits()
	require.NoError(t, err)
	base, part := kits[0], kits[4]
	a, err := base.Beside([]pack.Part{{Archive: part, Use: pack.Use{
		Components: []string{"clover-day"},
		Ties:       []kit.Tie{{Property: "--clover-accent", Token: "color.accent"}, {Property: "--clover-background", Token: "color.surface"}, {Property: "--clover-text", Token: "color.ink"}},
	}}})
	require.NoError(t, err)
	b, err := a.Bundle()
	require.NoError(t, err)
	return b
}

// clears puts a button beside filters that sets them back.
func clears(t *testing.T, l *live.Live, doc, parent, after, does string) {
	_, err := l.Take(change.Change{Title: "clear", Steps: []change.Step{&change.Edit{Doc: doc, Edits: []screen.Edit{
		{Op: screen.Insert, Parent: parent, After: after, Tree: &screen.Element{
			ID: "clear", Type: "sorrel-button", Text: screen.Lit("Show all"),
			Props: []screen.Prop{{Name: kit.Does, Value: screen.Lit(does)}},
		}},
	}}}})
	require.NoError(t, err)
}

// touchesRecords puts buttons onto the cards of the volunteers: one turns a field over, one
// writes one, one takes the record away.
func touchesRecords(t *testing.T, l *live.Live) {
	add := func(id, words, does string) screen.Edit {
		return screen.Edit{Op: screen.Insert, Parent: "volunteers-8", After: "volunteers-11", Tree: &screen.Element{
			ID: id, Type: "sorrel-button", Text: screen.Lit(words), Props: []screen.Prop{{Name: kit.Does, Value: screen.Lit(does)}},
		}}
	}
	_, err := l.Take(change.Change{Title: "cards", Steps: []change.Step{&change.Edit{Doc: "screen:volunteers", Edits: []screen.Edit{
		add("away", "Take away", "remove"), add("turn", "Turn", "tick active; change skill Night rounds"),
		{Op: screen.Insert, Parent: "volunteers-1", Tree: testkit.Tree(t, quickForm)},
	}}}})
	require.NoError(t, err)
}

// quickForm is a form that adds a volunteer.
const quickForm = `{"id":"quick","type":"sorrel-form","props":{"label":"Quick","does":"add volunteers"},"children":[
	{"id":"quick-field","type":"sorrel-field","props":{"label":"Name"},"children":[{"id":"quick-name","type":"sorrel-text-input","props":{"name":"name"}}]},
	{"id":"quick-on","type":"sorrel-switch","text":"Active","props":{"name":"active"}},
	{"id":"quick-add","type":"sorrel-button","slot":"actions","text":"Add","props":{"action":"submit"}}]}`

func conforms(t *testing.T, target deliver.Target, in deliver.Input, service string, expected map[string]shape, routes map[string]string) {
	dir := written(t, target.ID, in)
	own := func(name, code string) {
		require.NoError(t, os.WriteFile(filepath.Join(dir, "src/app", filepath.FromSlash(name)), []byte(code), 0o644))
	}
	// Own code takes what a form hands over, and reaches elements and the state by name.
	own("screens/NewTicket.own.ts", `import type { UseNewTicket } from './NewTicket.parts'

export const useNewTicket: UseNewTicket = screen => ({
  submit: {
    form: values => {
      if (values.title === 'Taken') screen.blame('title', 'There is one.')
      document.title = `+"`${values.title}/${values.urgent ? 'urgent' : 'calm'}`"+`
    },
  },
})
`)
	reach := map[string]string{"vue": "state.value = 'loading'", "react": "setState('loading')", "angular": "state.set('loading')"}[target.ID]
	own("screens/Round.own.ts", `import type { UseRound } from './Round.parts'

export const useRound: UseRound = screen => {
  Object.assign(window, {
    load: () => {
      screen.`+reach+`
    },
  })
  return {}
}
`)
	reach = map[string]string{"vue": ".value", "react": ".current", "angular": "()?.nativeElement"}[target.ID]
	own("screens/Settings.own.ts", `import type { UseSettings } from './Settings.parts'

export const useSettings: UseSettings = screen => {
  Object.assign(window, { press: () => screen.elements.clearButton`+reach+`?.intent })
  return {}
}
`)
	if target.ID == "angular" {
		own("data/bases.ts", "export const baseOf = (name: string, usual: string): string =>\n  name === 'office' ? '"+service+"' : usual\n")
	}
	app := httptest.NewServer(pagesOf(project(t, target.ID, dir, service)))
	t.Cleanup(app.Close)
	j := begin(t, "ida") // built one after the other, looked at beside each other
	for id, want := range expected {
		got := j.shape(app.URL+routes[id], want.Text)
		assert.Equal(t, want.Text, got.Text, "%s of %s", target.ID, id)
		if !assert.Equal(t, len(want.Boxes), len(got.Boxes), "elements of %s of %s", target.ID, id) {
			continue
		}
		far := 0
		for i, p := range want.Boxes {
			d := got.Boxes[i]
			if p.Tag != d.Tag || math.Abs(p.X-d.X) > 1 || math.Abs(p.Y-d.Y) > 1 || math.Abs(p.W-d.W) > 1 || math.Abs(p.H-d.H) > 1 {
				if far++; far < 3 {
					t.Logf("%s of %s: %+v, delivered %+v", target.ID, id, p, d)
				}
			}
		}
		assert.Zero(t, far, "elements of %s of %s out of place, of %d", target.ID, id, len(want.Boxes))
	}

	press := func(tag, that string) {
		t.Helper()
		button := `[...document.querySelectorAll('` + tag + `')].find(e => ` + that + `)?.shadowRoot?.querySelector('button, a')`
		j.run(browser.Until(button), chromedp.Evaluate(button+`.click()`, nil))
	}
	type_ := func(in, what string) chromedp.Action {
		return chromedp.Evaluate(fmt.Sprintf(
			`(i => { i.value = %q; i.dispatchEvent(new Event('input', { bubbles: true, composed: true })) })(document.querySelector(%q).shadowRoot.querySelector('input, textarea'))`, what, in), nil)
	}
	// A route shows its own record, and says what it shows.
	j.run(
		chromedp.Navigate(app.URL+"/volunteers/v3"),
		browser.Until(fmt.Sprintf(`document.querySelector('sorrel-page-header')?.heading === %q`, in.Set.Records["volunteers"][2]["name"])),
		browser.Until(`document.title.startsWith('Volunteer ·')`),
		chromedp.Navigate(app.URL+"/nowhere/at/all"),
		browser.Until(`location.pathname === '/not-found'`),
	)
	// It can be put on a phone's home screen.
	j.run(chromedp.ActionFunc(func(ctx context.Context) error {
		_, problems, manifest, _, err := page.GetAppManifest().Do(ctx)
		assert.Empty(t, problems, "the manifest of %s", target.ID)
		assert.Contains(t, manifest, `"short_name": "Fernhollow"`)
		return err
	}))
	// Lists act: what is typed narrows, the pager turns, and what counts them follows.
	rows := func(n int) chromedp.Action {
		return browser.Until(fmt.Sprintf(`document.querySelectorAll('sorrel-row').length === %d`, n))
	}
	j.run(chromedp.Navigate(app.URL+"/tickets"), rows(10),
		chromedp.Evaluate(`document.querySelector('sorrel-pager').shadowRoot.querySelectorAll('button')[1].click()`, nil), rows(4),
		type_("sorrel-text-input", "the l"), rows(3), browser.Until(allText+`.includes('3 tickets')`),
		type_("sorrel-text-input", "nothing such"), rows(0), browser.Until(`document.querySelector('sorrel-empty-state')?.heading === 'No tickets'`))
	// What stands beside a piece sets what its controls hold.
	press("sorrel-button", `e.textContent.trim() === 'Show all'`)
	j.run(rows(4), browser.Until(`document.querySelector('sorrel-text-input').value === ''`))
	// A press sets controls, and what follows them follows.
	cards := func(that string) chromedp.Action {
		return browser.Until(`(n => ` + that + `)(document.querySelectorAll('.u-grid sorrel-card').length)`)
	}
	j.run(chromedp.Navigate(app.URL+"/specimens"), cards(`n > 0`), type_("sorrel-text-input", "nothing such"), cards(`n === 0`))
	press("sorrel-button", `e.textContent.trim() === 'Show all'`)
	j.run(cards(`n > 0`), browser.Until(`document.querySelector('sorrel-text-input').value === '' && !document.querySelector('sorrel-checkbox').checked`))
	// A press changes the record of its card, and takes it away.
	first := `document.querySelector('.u-grid sorrel-card')`
	chip := first + `?.querySelector('sorrel-chip')?.textContent.trim()`
	j.run(chromedp.Navigate(app.URL+"/volunteers"), browser.Until(chip))
	was, name := j.text(chip), j.text(first+`.querySelector('sorrel-heading').textContent.trim()`)
	press("sorrel-button", `e.textContent.trim() === 'Turn'`)
	j.run(browser.Until(fmt.Sprintf(`%s !== %q && %s.textContent.includes('Night rounds')`, chip, was, first)))
	press("sorrel-button", `e.textContent.trim() === 'Take away'`)
	j.run(browser.Until(fmt.Sprintf(`%s?.querySelector('sorrel-heading') && !%s.includes(%q)`, first, allText, name)))
	// A form adds a record, which stands where the list has it, once it is what the model asks.
	press("sorrel-button", `e.textContent.trim() === 'Add'`)
	j.run(browser.Until(`[...document.querySelectorAll('sorrel-form')].find(f => f.label === 'Quick')?.querySelector('sorrel-field').error === 'Name is needed.'`))
	j.run(type_("sorrel-text-input", "Aaron Ash"))
	press("sorrel-button", `e.textContent.trim() === 'Add'`)
	j.run(browser.Until(first + `?.querySelector('sorrel-heading')?.textContent.trim() === 'Aaron Ash'`))
	j.run(chromedp.Navigate(app.URL + "/tickets"))
	// A link is followed without a reload; who uses the keyboard goes on at the new screen.
	j.run(chromedp.Evaluate(`window.stays = true`, nil))
	press("sorrel-nav-item", `e.to === '/beds'`)
	j.run(
		browser.Until(`location.pathname === '/beds' && document.title.startsWith('Beds ·')`),
		browser.Until(`document.activeElement?.dataset.screen === 'beds'`),
		browser.Until(`[...document.querySelectorAll('sorrel-nav-item')].filter(e => e.active).map(e => e.to).join() === '/beds'`),
		browser.Until(`document.querySelector('[aria-live]')?.textContent === 'Beds'`),
	)
	assert.Equal(t, "true", j.text(`String(window.stays === true)`), "the page was loaded again")
	// Forms say what is wrong with them, and hand over typed values.
	j.formSays(app.URL + "/volunteers/new")
	j.run(chromedp.Navigate(app.URL+"/tickets/new"), browser.Until(`document.querySelector('sorrel-form')?.shadowRoot`),
		type_("sorrel-text-input", "Prune"))
	j.run(chromedp.Evaluate(`document.querySelector('sorrel-checkbox').shadowRoot.querySelector('input').click()`, nil))
	j.run(type_("sorrel-text-input", "Taken"))
	press("sorrel-button", `e.action === 'submit'`)
	j.run(browser.Until(`document.querySelector('sorrel-field').error === 'There is one.'`), type_("sorrel-text-input", "Prune"))
	press("sorrel-button", `e.action === 'submit'`)
	j.run(browser.Until(`document.title === 'Prune/urgent' && !document.querySelector('sorrel-field').error`))
	// Dialogs open, answer and bring the screen into its states.
	j.run(chromedp.Navigate(app.URL + "/rounds/r1"))
	press("sorrel-icon-button", `e.icon === 'bin'`)
	j.run(browser.Until(`document.querySelector('sorrel-dialog[open]')`))
	press("sorrel-dialog[open] sorrel-button", `e.intent !== 'danger'`)
	j.run(browser.Until(`!document.querySelector('sorrel-dialog[open]')`))
	press("sorrel-icon-button", `e.icon === 'bin'`)
	press("sorrel-dialog[open] sorrel-button", `e.intent === 'danger'`)
	j.run(
		browser.Until(`document.querySelector('sorrel-toast')?.open && [...document.querySelectorAll('sorrel-alert')].some(e => e.heading === 'One less')`),
		chromedp.Evaluate(`load()`, nil),
		browser.Until(`document.querySelector('sorrel-spinner') && !document.querySelector('sorrel-table')`),
	)
	// A part from elsewhere follows the theme, and says which day was chosen.
	ground := `getComputedStyle(document.querySelector('clover-day').shadowRoot.querySelector('.month')).backgroundColor`
	j.run(chromedp.Navigate(app.URL+routes["edit-ticket"]), browser.Until(`document.querySelector('clover-day')?.shadowRoot?.querySelector('[aria-pressed=true]')`))
	light := j.text(ground)
	j.run(
		chromedp.Evaluate(`document.documentElement.dataset.theme = 'dark'`, nil),
		browser.Until(fmt.Sprintf(`%s !== %q`, ground, light)),
		chromedp.Evaluate(`document.querySelector('clover-day').shadowRoot.querySelector('[data-day="2026-09-20"]').click()`, nil),
		browser.Until(`document.querySelector('clover-day').value === '2026-09-20'`),
		chromedp.Evaluate(`document.documentElement.dataset.theme = 'light'`, nil),
	)
	// Themes, and elements by their stable names.
	j.run(chromedp.Navigate(app.URL + "/settings"))
	press("sorrel-switch", `e.name === 'dark'`)
	j.run(browser.Until(`document.documentElement.dataset.theme === 'dark'`))
	assert.Equal(t, "danger", j.text(`press()`))
	// Records of a service, asked for anew by what controls hold.
	j.run(chromedp.Navigate(app.URL+"/visitors"), browser.Until(
		`document.querySelector('sorrel-pager')?.shadowRoot?.querySelector('span')?.textContent.trim() === 'Page 1 of 6'`))
}
