// Package e2e goes through the real interface as a person does: by key and
// pointer in Chromium, against a server with a database of its own.
package e2e_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"os"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/browser"
	"ubiquant/internal/testkit/database"
	"ubiquant/server"
)

// journey is a person at the browser, with the effort counted: keys, pointer
// actions and new intentions, for the Keystroke-Level Model (Card, Moran and
// Newell, 1980).
type journey struct {
	t                                *testing.T
	ctx                              context.Context
	server                           *server.Running
	keys, clicks, thoughts, switches int
	onKeyboard                       bool
}

// shared is the browser of all tests.
var shared = sync.OnceValues(func() (*browser.Browser, error) { return browser.Start(context.Background()) })

func TestMain(m *testing.M) {
	code := database.Main(m)
	if !testing.Short() {
		if b, err := shared(); err == nil {
			b.Close()
		}
	}
	os.Exit(code)
}

// begun are the tests that run beside others already.
var begun sync.Map

// alongside lets a test run beside others, however many pages it opens.
func alongside(t *testing.T) {
	if _, again := begun.LoadOrStore(t, true); !again {
		t.Parallel()
	}
}

// openTab is a tab of a person who has not been here yet.
func openTab(t testing.TB) context.Context {
	b, err := shared()
	require.NoError(t, err)
	tab, end, err := b.Tab()
	require.NoError(t, err)
	t.Cleanup(end)
	return tab
}

func begin(t *testing.T, name string) *journey {
	if testing.Short() {
		t.Skip("drives Chromium")
	}
	return beginOn(t, name, server.Options{Database: database.Demo(t)})
}

// beginOn begins on a server of one's own.
func beginOn(t *testing.T, name string, o server.Options) *journey {
	alongside(t)
	o.Log = slog.New(slog.NewTextHandler(io.Discard, nil))
	r, err := server.Start(context.Background(), o)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, r.Stop()) })
	tab, cancel := context.WithTimeout(openTab(t), 3*time.Minute)
	t.Cleanup(cancel)
	nothingThrows(t, tab, r.URL)
	j := &journey{t: t, ctx: tab, server: r, onKeyboard: true}
	link, err := r.Link(context.Background(), name)
	require.NoError(t, err)
	j.run(
		chromedp.EmulateViewport(1280, 800),
		chromedp.Navigate(link),
		browser.Until(`location.pathname === '/'`),
		browser.Drawn(),
	)
	return j
}

// nothingThrows watches a tab: a page in which something failed is half drawn, whether or
// not a test looks at that half. What is delivered runs from elsewhere, and is looked at by
// its own tests.
func nothingThrows(t *testing.T, tab context.Context, at string) {
	var told sync.Map
	note := func(what string) {
		if strings.Contains(what, at) || !strings.Contains(what, "http://") {
			told.Store(what, true)
		}
	}
	chromedp.ListenTarget(tab, func(ev any) {
		switch e := ev.(type) {
		case *runtime.EventExceptionThrown:
			note(e.ExceptionDetails.Error())
		case *runtime.EventConsoleAPICalled:
			if e.Type == runtime.APITypeError && len(e.Args) > 0 {
				note(string(e.Args[0].Value) + e.Args[0].Description)
			}
		}
	})
	t.Cleanup(func() {
		told.Range(func(what, _ any) bool { return assert.Fail(t, "the page failed", what) })
	})
}

func (j *journey) run(actions ...chromedp.Action) {
	j.t.Helper()
	require.NoError(j.t, chromedp.Run(j.ctx, actions...))
}

func (j *journey) until(script string) { j.t.Helper(); j.run(browser.Until(script)) }

// think marks a new intention.
func (j *journey) think() { j.thoughts++ }

func (j *journey) hand(keyboard bool) {
	if j.onKeyboard != keyboard {
		j.switches++
		j.onKeyboard = keyboard
	}
}

var codes = map[string]int64{
	"Enter":      13,
	"Escape":     27,
	"Tab":        9,
	"ArrowDown":  40,
	"ArrowUp":    38,
	"ArrowLeft":  37,
	"ArrowRight": 39,
	"Delete":     46,
	"PageUp":     33,
	"PageDown":   34,
	"Home":       36,
	"End":        35,
}

// key presses one key, as a keyboard does: what the page prevents types nothing.
func (j *journey) key(name string, modifiers ...input.Modifier) {
	j.t.Helper()
	j.hand(true)
	j.keys += 1 + len(modifiers)
	mods := input.Modifier(0)
	for _, m := range modifiers {
		mods |= m
	}
	down := input.DispatchKeyEvent(input.KeyDown).WithKey(name).WithModifiers(mods)
	if code, ok := codes[name]; ok {
		down = down.WithWindowsVirtualKeyCode(code).WithCode(name)
		if name == "Enter" {
			down = down.WithText("\r")
		}
	} else if mods&^input.ModifierShift == 0 {
		down = down.WithText(name)
	} else {
		down = down.WithCode("Key" + strings.ToUpper(name)).WithWindowsVirtualKeyCode(int64(strings.ToUpper(name)[0]))
	}
	j.run(down, input.DispatchKeyEvent(input.KeyUp).WithKey(name).WithModifiers(mods))
}

func (j *journey) write(text string) {
	j.t.Helper()
	for _, r := range text {
		j.key(string(r))
	}
}

// click presses the pointer on the first element that a script finds.
func (j *journey) click(script string) {
	j.t.Helper()
	j.hand(false)
	j.clicks++
	// While a dialog goes, what lies behind it takes no click yet; neither does a button
	// that waits for an answer.
	j.until(`(e => !!e && !e.closest('[inert]') && !e.disabled)(` + script + `)`)
	// Where it rests: what is drawn above it may still push it down, and out of view.
	var at [2]float64
	j.run(
		chromedp.Evaluate(
			`(async () => { const holds = (a, b) => { for (let n = b; n; n = n.parentNode || n.host) if (n === a) return true; return false }; for (let last = '', same = 0, n = 0; ; n++) { const e = `+script+`; if (e) { if (n % 40 === 0) e.scrollIntoView({block: 'nearest'}); const r = e.getBoundingClientRect(), p = [r.x + r.width / 2, r.y + r.height / 2], hit = document.elementFromPoint(...p); same = String(p) === last && hit && (holds(e, hit) || holds(hit, e)) ? same + 1 : 0; last = String(p); if (same > 2) return p } if (n > 1200) throw new Error("it does not come to rest, or something lies over it"); await new Promise(f => setTimeout(f, 16)) } })()`,
			&at,
			awaited,
		),
	)
	j.run(chromedp.MouseClickXY(at[0], at[1]))
}

// button finds a visible button by its words.
func button(words string) string {
	return fmt.Sprintf(
		`[...document.querySelectorAll('button, a')].find(b => b.offsetParent && b.textContent.trim().startsWith(%q))`,
		words,
	)
}

func (j *journey) text(script string) string {
	j.t.Helper()
	var s string
	j.run(chromedp.Evaluate(script, &s))
	return strings.TrimSpace(s)
}

// line opens a new line with key and writes a component and its text, as typed.
func (j *journey) line(key, what string) {
	j.t.Helper()
	j.think()
	j.until(`document.activeElement?.dataset.line !== undefined`)
	before := j.text(`document.activeElement.dataset.line`)
	j.key(key)
	j.until(`document.activeElement?.getAttribute('aria-controls') === 'next-list'`)
	j.write(what)
	j.key("Enter")
	j.until(
		fmt.Sprintf(
			`!document.querySelector('[aria-controls=next-list]') && !!document.activeElement && document.activeElement !== document.body && document.activeElement.dataset.line !== %q`,
			before,
		),
	)
}

// set writes a setting of the line, as typed: "emphasis strong".
func (j *journey) set(what string) {
	j.t.Helper()
	j.think()
	j.until(`document.activeElement?.dataset.line !== undefined`)
	j.key("p")
	j.until(`document.activeElement?.getAttribute('aria-label')?.startsWith('Set a prop of')`)
	j.write(what)
	j.key("Enter")
	j.until(`document.activeElement?.dataset.line !== undefined`)
}

// effort prints what the journey cost, beside the minutes that the like takes by hand
// where that is known.
func (j *journey) effort(name string, minutes ...float64) {
	seconds := 0.28*float64(j.keys) + 1.2*float64(j.clicks) + 0.4*float64(j.switches) + 1.35*float64(j.thoughts)
	hand := ""
	if len(minutes) > 0 {
		hand = fmt.Sprintf("; by hand %g min, %.2f of it", minutes[0], seconds/60/minutes[0])
	}
	j.t.Logf(
		"%s: %d keys, %d pointer actions, %d intentions, %.0f s by the Keystroke-Level Model%s",
		name,
		j.keys,
		j.clicks,
		j.thoughts,
		seconds,
		hand,
	)
}

// allText is the text of a page, that inside the kit's elements included.
const allText = `(() => { const text = n => n.nodeType === 3 ? n.textContent : [...(n.shadowRoot ? [n.shadowRoot] : []), ...n.childNodes].filter(c => !['STYLE','SCRIPT'].includes(c.nodeName)).map(text).join(' '); return text(document.body).replace(/\s+/g, ' ') })()`

// awaited waits for a script's promise.
func awaited(p *runtime.EvaluateParams) *runtime.EvaluateParams { return p.WithAwaitPromise(true) }

func today() string { return time.Now().Format(time.DateOnly) }

// frameText is the visible text of the Proof's frame, kit elements included.
func (j *journey) frameText() string {
	j.t.Helper()
	var out string
	j.inFrame(allText, &out)
	return out
}

// inFrame evaluates a script inside the sandboxed frame, a target of its own.
func (j *journey) inFrame(script string, into any) {
	j.t.Helper()
	require.NoError(j.t, browser.InFrame(j.ctx, "/frame/", script, into))
}

// inFrameAwait is inFrame for a script that gives a promise.
func (j *journey) inFrameAwait(script string, into any) {
	j.t.Helper()
	require.NoError(j.t, browser.InFrame(j.ctx, "/frame/", script, into, awaited))
}

// A catalogue: breadcrumbs, heading, filters at the left, cards in a grid at the right, a
// pager. What is typed and chosen acts, and all parts keep one margin.
func TestCataloguePageIsAssembledByKeyboard(t *testing.T) {
	j := begin(t, "ida")
	j.newScreen("Plant catalogue", "plant-catalogue")
	j.line("i", "breadcrumbs")
	j.line("i", "crumb | Today")
	j.set("to /")
	j.line("n", "crumb | Catalogue")
	j.up("breadcrumbs")
	j.line("n", "page h")
	j.line("n", "specimens as cards")
	j.until(lineWith("each specimens"))
	j.effort("catalogue page", 10)
	lines := j.text(lineTexts + `.join('|')`)
	for _, want := range []string{"breadcrumbs", "crumb", "page header", "grid", "card", "picture", "record.latin", "chip", "pager"} {
		assert.Contains(t, lines, want)
	}
	assert.Contains(t, lines, "page headerPlant catalogue", "it says what the screen is called, as the others do")
	const root = `document.querySelector('body > div').shadowRoot`
	cards := root + `.querySelectorAll('.u-grid sorrel-card').length`
	pager := root + `.querySelector('sorrel-pager').shadowRoot.querySelector('span').textContent.trim()`
	first := root + `.querySelector('.u-grid sorrel-card sorrel-heading')?.textContent.trim()`
	j.untilInFrame("12", cards)
	j.untilInFrame("Page 1 of 2", pager)
	// One margin for all: they begin at the same place.
	j.untilInFrame(
		"1",
		`new Set(['sorrel-breadcrumbs', 'sorrel-page-header', '.u-row'].map(s => Math.round(`+root+`.querySelector('.u-section ' + s).getBoundingClientRect().x))).size`,
	)
	j.untilInFrame(
		"true",
		root+`.querySelector('.u-section sorrel-text-input').getBoundingClientRect().right < `+root+`.querySelector('.u-grid').getBoundingClientRect().x`,
	)
	j.click(button("Preview"))
	j.until(`document.querySelector('button[aria-pressed=true][title^="The kit takes"]')`)
	// The picture itself is told a moment after the button.
	j.untilInFrame("false", `document.querySelector('body > div').inert`)
	does := func(script string) {
		t.Helper()
		var done bool
		j.inFrame(`(() => { `+script+`; return true })()`, &done)
	}
	var was string
	j.inFrame(first, &was)
	does(root + `.querySelector('sorrel-pager').shadowRoot.querySelectorAll('button')[1].click()`)
	j.untilInFrame("Page 2 of 2", pager)
	choose := func(name, value string) {
		t.Helper()
		does(
			`const s = ` + root + `.querySelector('.u-section sorrel-select[name=` + name + `]').shadowRoot.querySelector('select'); s.value = '` + value + `'; s.dispatchEvent(new Event('change', { bubbles: true }))`,
		)
	}
	choose("order", "Latest planted")
	j.untilInFrame("true", first+` !== "`+was+`"`)
	choose("condition", "ailing")
	j.untilInFrame("Page 1 of 1", pager)
	j.untilInFrame(
		"ailing",
		`[...new Set([...`+root+`.querySelectorAll('.u-grid sorrel-chip')].map(c => c.textContent.trim()))].join()`,
	)
	does(
		`const i = ` + root + `.querySelector('.u-section sorrel-text-input').shadowRoot.querySelector('input'); i.value = 'zzz'; i.dispatchEvent(new Event('input', { bubbles: true, composed: true }))`,
	)
	j.untilInFrame("0", cards)
	j.untilInFrame("No specimens", root+`.querySelector('.u-section sorrel-empty-state').heading`)
}

func TestAChoiceShowsItsNormAndOneKeyBringsAStrayIntoLine(t *testing.T) {
	j := begin(t, "noor")
	j.run(chromedp.Navigate(j.server.URL+"/bench/screen/volunteers"), browser.Drawn())
	j.until(`!!document.querySelector('[data-line=volunteers-1]')`)
	j.click(`document.querySelector('[data-line=volunteers-1]')`)
	j.think()
	j.key("s")
	j.until(
		`document.activeElement?.dataset.line === 'volunteers-new' && document.body.innerText.includes('soft here, strong on 30 of 32 screens')`,
	)
	assert.Contains(t, j.text(`document.querySelector('[role=group][aria-label^=Choices]').innerText`), "spot: ")
	j.key("m")
	j.until(`!document.body.innerText.includes('soft here, strong on')`)
	var emphasis string
	j.inFrame(
		`document.querySelector('body > div').shadowRoot.querySelector('[data-e="volunteers-new"]').getAttribute('emphasis')`,
		&emphasis,
	)
	assert.Equal(t, "strong", emphasis)
	j.key("z", input.ModifierCtrl)
	j.until(`document.body.innerText.includes('soft here, strong on')`)
	j.key("z", input.ModifierCtrl, input.ModifierShift)
	j.until(`!document.body.innerText.includes('soft here, strong on')`)
	j.effort("stray on the bench")
}

func TestTheProofSelectsAndDrags(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL+"/bench/screen/new-ticket"), browser.Drawn())
	j.until(`!!document.querySelector('[data-selected]')`)
	order := func() string {
		return j.text(
			`[...document.querySelectorAll('[data-line]')].filter(l => l.getAttribute('aria-level') === '3' && l.textContent.trim().startsWith('▾field')).map(l => l.textContent).join('|')`,
		)
	}
	before := order()
	require.True(t, strings.Index(before, "Title") < strings.Index(before, "Due"), before)
	// Where the fields stand is told by the frame and shown by the selection.
	at := func(id string) (x, y, h float64) {
		j.click(`document.querySelector('[data-line="` + id + `"]')`)
		j.until(
			`document.querySelectorAll('[data-selected]').length === 1 && document.querySelector('[data-line="` + id + `"]').getAttribute('aria-selected') === 'true'`,
		)
		var r [3]float64
		j.run(
			chromedp.Evaluate(
				`(() => { const r = document.querySelector('[data-selected]').getBoundingClientRect(); return [r.x, r.y, r.height] })()`,
				&r,
			),
		)
		return r[0], r[1], r[2]
	}
	fx, fy, fh := at("new-ticket-12")
	tx, ty, _ := at("new-ticket-8")
	j.run(chromedp.MouseClickXY(fx+30, fy+4))
	j.until(`location.hash === '#new-ticket-12'`)
	j.clicks += 2
	j.run(input.DispatchMouseEvent(input.MousePressed, fx+30, fy+4).WithButton(input.Left).WithClickCount(1),
		input.DispatchMouseEvent(input.MouseMoved, fx+30, fy-fh/2).WithButton(input.Left),
		input.DispatchMouseEvent(input.MouseMoved, tx+30, ty+3).WithButton(input.Left))
	j.until(`!!document.querySelector('[data-drop]')`)
	assert.Contains(t, j.text(`document.querySelector('[data-drop]').innerText`), "before")
	j.run(input.DispatchMouseEvent(input.MouseReleased, tx+30, ty+3).WithButton(input.Left).WithClickCount(1))
	j.until(
		`(() => { const l = [...document.querySelectorAll('[data-line]')].map(x => x.dataset.line); return l.indexOf('new-ticket-12') < l.indexOf('new-ticket-8') })()`,
	)
	j.effort("drag on the proof")
}

func TestAQuestionIsSettledAndStraysAreBroughtIntoLine(t *testing.T) {
	j := begin(t, "ida")
	j.think()
	j.click(button("Census"))
	j.until(`document.querySelectorAll('article').length === 3`)
	j.click(button("Settle on start"))
	j.until(`document.querySelector('[role=dialog] textarea')`)
	j.click(`document.querySelector('[role=dialog] textarea')`)
	j.write("Eyes begin at the left.")
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim() === 'Settle')`)
	j.until(`document.querySelector('article') && ![...document.querySelectorAll('article h2')].some(h => h.textContent.startsWith('Actions of a form'))`)
	j.think()
	j.click(button("Strays"))
	j.until(`document.querySelectorAll('li input[type=checkbox]').length > 5`)
	j.click(button("All"))
	j.click(button("Bring"))
	j.until(`[...document.querySelectorAll('[role=dialog] figcaption')].some(f => f.textContent.trim() === 'after')`)
	j.click(button("Apply on"))
	j.until(`document.querySelector('li input[type=checkbox]') && !document.querySelector('li input[type=checkbox]:not(:disabled)')`)
	j.click(button("Undo bring"))
	j.until(`document.querySelectorAll('li input[type=checkbox]').length > 5`)
	j.click(button("House rules"))
	j.until(`document.body.innerText.includes('Eyes begin at the left.')`)
	j.effort("settle and bring into line")
}

// A hostile kit runs in the frame: it gets nowhere.
func TestTheFrameReachesNothing(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL+"/bench/screen/today"), browser.Drawn())
	j.until(`document.querySelector('[data-pending]')?.dataset.pending === '0'`) // the frame's own code ran before any kit's
	for what, script := range map[string]string{
		"cookies":    `(() => { try { return 'read: ' + document.cookie } catch (e) { return e.name } })()`,
		"storage":    `(() => { try { return 'read: ' + localStorage.length } catch (e) { return e.name } })()`,
		"the page":   `(() => { try { return 'read: ' + parent.document.title } catch (e) { return e.name } })()`,
		"navigation": `(() => { try { top.location = 'about:blank'; return 'went' } catch (e) { return e.name } })()`,
	} {
		var got string
		j.inFrame(script, &got)
		assert.Equal(t, "SecurityError", got, what)
	}
	var status string
	j.inFrame(
		`window.__r = 'waiting', fetch('`+j.server.URL+`/api/workspace', {credentials: 'include'}).then(() => __r = 'reached', e => __r = e.name), ''`,
		&status,
	)
	require.Eventually(
		t,
		func() bool { j.inFrame(`__r`, &status); return status != "waiting" },
		10*time.Second,
		50*time.Millisecond,
	)
	assert.Equal(t, "TypeError", status, "the policy lets the frame connect to nothing")
	j.inFrame(`(() => { const f = document.createElement('iframe'); document.body.append(f); let inner; try { inner = typeof f.contentWindow.RTCPeerConnection } catch (e) { inner = e.name } f.remove(); try { delete globalThis.RTCPeerConnection } catch { /* it stays as it is */ } return [typeof RTCPeerConnection, typeof webkitRTCPeerConnection, inner].join() })()`, &status)
	assert.Equal(t, "undefined,undefined,SecurityError", status, "nor speak to anybody by another way")
	// Forged messages and a form change nothing.
	j.until(`document.querySelector('[role=group][aria-label^=Choices]')`)
	before := j.text(`document.body.innerText`)
	j.inFrame(
		`parent.postMessage({type: 'go', to: '/x'}, '*'), parent.postMessage(JSON.stringify({op: 'remove', id: 'today-1'}), '*'), (() => { const f = document.createElement('form'); f.action = '`+j.server.URL+`/api/sign-out'; f.method = 'post'; document.body.append(f); f.submit(); return '' })()`,
		&status,
	)
	// A round trip of the page's own: what was sent before it has arrived.
	j.run(
		chromedp.Evaluate(
			`fetch('/api/health').then(() => new Promise(done => setTimeout(() => done(true), 100)))`,
			nil,
			awaited,
		),
	)
	assert.Equal(t, before, j.text(`document.body.innerText`))
	assert.Equal(t, "/bench/screen/today", j.text(`location.pathname`))
	var me struct{ Me struct{ Name string } }
	require.NoError(
		t,
		json.Unmarshal(
			[]byte(
				j.text(
					`(() => { const x = new XMLHttpRequest(); x.open('GET', '/api/workspace', false); x.send(); return x.responseText })()`,
				),
			),
			&me,
		),
	)
	assert.Equal(t, "ida", me.Me.Name, "still signed in")
	// A frame that leads itself elsewhere is put back.
	drawn := j.frameText()
	j.inFrame(`setTimeout(() => (location.href = 'data:text/html,gone'), 50), ''`, &status)
	j.until(`document.querySelector('[data-pending]')?.dataset.pending === 'connecting'`)
	j.until(`document.querySelector('[data-pending]')?.dataset.pending === '0'`)
	again := func() bool { return strings.TrimSpace(j.frameText()) == strings.TrimSpace(drawn) }
	assert.Eventually(t, again, 20*time.Second, 100*time.Millisecond)
}

func TestReadersLookAndCannotChange(t *testing.T) {
	j := begin(t, "lise")
	assert.Empty(
		t,
		j.text(
			`[...document.querySelectorAll('button')].find(b => b.textContent.includes('New screen'))?.textContent ?? ''`,
		),
	)
	j.run(chromedp.Navigate(j.server.URL+"/bench/screen/today#today-2"), browser.Drawn())
	j.until(`[...document.querySelectorAll('button')].find(b => b.textContent.trim().startsWith('New line'))?.disabled`)
}
