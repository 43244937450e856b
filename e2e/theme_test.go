package e2e_test

import (
	"bytes"
	"context"
	"image"
	"image/png"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	cdpbrowser "github.com/chromedp/cdproto/browser"
	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/dom"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/browser"
	"ubiquant/internal/testkit"
)

// upload presses a button that asks for a file, and gives it one.
func (j *journey) upload(button, file string) {
	j.t.Helper()
	j.run(page.SetInterceptFileChooserDialog(true))
	asked := make(chan *page.EventFileChooserOpened, 1)
	ctx, stop := context.WithCancel(j.ctx)
	defer stop()
	chromedp.ListenTarget(ctx, func(ev any) {
		if e, ok := ev.(*page.EventFileChooserOpened); ok {
			select {
			case asked <- e:
			default:
			}
		}
	})
	// A browser asks only where it takes the press for a person's; one that came while the
	// page was drawn anew is none, and a person would press again.
	for {
		j.click(button)
		select {
		case e := <-asked:
			j.run(dom.SetFileInputFiles([]string{file}).WithBackendNodeID(e.BackendNodeID))
			j.run(page.SetInterceptFileChooserDialog(false))
			return
		case <-time.After(10 * time.Second):
		case <-j.ctx.Done():
			require.Fail(j.t, "no file was asked for")
		}
	}
}

// clipboards is held by the one test that works with the browser's clipboard: there is
// one for all tabs.
var clipboards sync.Mutex

// allowClipboard does what a person does who answers the browser's question.
func (j *journey) allowClipboard() {
	j.t.Helper()
	clipboards.Lock()
	j.t.Cleanup(clipboards.Unlock)
	for _, name := range []string{"clipboard-read", "clipboard-write"} {
		j.run(chromedp.ActionFunc(func(ctx context.Context) error {
			return cdpbrowser.SetPermission(
				&cdpbrowser.PermissionDescriptor{Name: name}, cdpbrowser.PermissionSettingGranted).
				WithOrigin(j.server.URL).
				WithBrowserContextID(browser.Own(ctx)).
				Do(cdp.WithExecutor(ctx, chromedp.FromContext(ctx).Browser))
		}))
	}
}

func (j *journey) clipboard() string {
	j.t.Helper()
	var out string
	j.run(chromedp.Evaluate(`navigator.clipboard.readText()`, &out, awaited))
	return out
}

// write into a field that has something in it.
func (j *journey) fill(field, text string) {
	j.t.Helper()
	j.click(field)
	j.key("a", input.ModifierCtrl)
	j.write(text)
	j.key("Tab")
}

// untilInFrame waits until a script in the frame gives a text.
func (j *journey) untilInFrame(want, script string) {
	j.t.Helper()
	var got string
	for end := time.Now().Add(30 * time.Second); time.Now().Before(end); {
		// What is asked for may not be drawn yet: that counts as another text.
		j.inFrame(`(() => { try { return String(`+script+`) } catch (e) { return String(e) } })()`, &got)
		if got == want {
			return
		}
		j.run(browser.Drawn())
	}
	require.Equal(j.t, want, got)
}

// shownStates are the buttons of the variant sheet that are shown in a state.
const shownStates = `Object.fromEntries([...document.querySelectorAll('body > div')].flatMap(d => { const b = d.shadowRoot.querySelector('sorrel-button')?.shadowRoot.querySelector('button'); return b?.hasAttribute('data-u-focus') ? [['focus', getComputedStyle(b).outlineStyle]] : b?.hasAttribute('data-u-hover') ? [['hover', getComputedStyle(b).backgroundColor]] : b?.disabled ? [['disabled', getComputedStyle(b).opacity]] : [] }))`

// From a word in the head to code on the clipboard.
func TestJourneyFindAndCopy(t *testing.T) {
	j := begin(t, "noor")
	j.allowClipboard()
	j.think()
	j.key("k", input.ModifierCtrl)
	j.until(`document.activeElement?.getAttribute('aria-label') === 'Find anything'`)
	j.write("pill")
	j.until(`document.querySelector('[role=listbox][aria-busy=false] [role=option]')?.textContent.includes('chip')`)
	j.until(`document.querySelector('[role=option][data-headlessui-state*=active]')?.textContent.includes('chip')`)
	j.key("Enter")
	j.until(`document.querySelector('h1')?.textContent.trim() === 'chip' && document.querySelector('pre')`)
	j.think()
	j.click(
		`document.querySelector('button[aria-label^="good round in light"], button[aria-label^="round good in light"]')`,
	)
	j.until(`document.querySelector('pre').textContent.includes('tone="good"')`)
	j.key("c")
	j.until(`document.body.innerText.includes('on the clipboard')`)
	assert.Equal(
		t,
		"import '@fernhollow/sorrel/parts/content.js'\n\n"+`<sorrel-chip tone="good">thriving</sorrel-chip>`,
		j.clipboard(),
	)
	j.effort("Find and copy")
}

// A theme with an accent, corners and a font of its own, for light and dark, seen on
// the kit and on a screen, checked, kept and taken away.
func TestJourneyATheme(t *testing.T) {
	j := begin(t, "ida")
	j.think()
	j.click(`[...document.querySelectorAll('nav a')].find(a => a.textContent.trim() === 'Shelf')`)
	j.click(
		`[...document.querySelectorAll('nav[aria-label=Sheets] a')].find(a => a.textContent.trim().toLowerCase() === 'themes')`,
	)
	j.until(`document.querySelector('section[aria-label="Change light"]')`)
	names := map[string]string{"light": "Heather", "dark": "Heather night"}
	accents := map[string]string{"light": "#7A3E73", "dark": "#D9A3D2"}
	for _, from := range []string{"light", "dark"} {
		j.think()
		j.click(button("Make one"))
		j.until(`document.querySelector('section[aria-label="Make a theme"]')`)
		j.click(`document.querySelector('section[aria-label="Make a theme"] input[placeholder=Evening]')`)
		j.write(names[from])
		if from == "dark" {
			j.run(
				chromedp.Evaluate(
					`(s => { s.value = 'dark'; s.dispatchEvent(new Event('change')) })(document.querySelector('section[aria-label="Make a theme"] select'))`,
					nil,
				),
			)
			j.clicks++
		}
		j.think()
		j.fill(`document.querySelector('input[aria-labelledby=make-accent]')`, accents[from])
		j.think()
		j.fill(
			`[...document.querySelectorAll('section[aria-label="Make a theme"] label')].find(l => l.textContent.trim().startsWith('Corners')).querySelector('input')`,
			"2",
		)
		j.think()
		j.fill(
			`[...document.querySelectorAll('section[aria-label="Make a theme"] label')].find(l => l.textContent.trim().startsWith('Font')).querySelector('input')`,
			"Georgia, serif",
		)
		j.until(`document.body.innerText.includes('Nothing brings the font Georgia')`)
		// The frames show it before anything is kept.
		want := map[string]string{"light": "rgb(122, 62, 115) 2px Georgia, serif", "dark": "rgb(217, 163, 210) 2px Georgia, serif"}[from]
		j.untilInFrame(
			want,
			`(() => { const b = [...document.querySelectorAll('body > div')].flatMap(d => [...d.shadowRoot.querySelectorAll('sorrel-button[emphasis=strong]')])[0]; const s = getComputedStyle(b.shadowRoot.querySelector('button')); return s.backgroundColor + ' ' + s.borderRadius + ' ' + s.fontFamily })()`,
		)
		j.until(
			`document.querySelector('section[aria-label="Contrast of the theme"] [role=status]').textContent.includes('can be read')`,
		)
		j.click(button("Keep the theme"))
		j.until(
			`[...document.querySelectorAll('section[aria-label=Themes] li')].some(l => l.textContent.includes('` + names[from] + `') && l.textContent.includes('from ` + from + `'))`,
		)
	}
	j.think()
	j.run(
		chromedp.Evaluate(
			`(s => { s.value = 'screen:today'; s.dispatchEvent(new Event('change')) })([...document.querySelectorAll('label')].find(l => l.textContent.includes('Seen on')).querySelector('select'))`,
			nil,
		),
	)
	j.clicks++
	j.until(
		`document.querySelector('[aria-label="The screen in the theme"]') && document.querySelector('[data-pending="0"]')`,
	)

	// Its files.
	j.until(`document.querySelectorAll('section[aria-label="Take away"] a').length === 3`)
	var files map[string]string
	j.run(
		chromedp.Evaluate(
			`Promise.all([...document.querySelectorAll('section[aria-label="Take away"] a')].map(async a => [a.textContent.trim(), await (await fetch(a.href)).text()])).then(Object.fromEntries)`,
			&files,
			awaited,
		),
	)
	require.Len(t, files, 3)
	assert.Contains(t, files["Style sheet"], "[data-theme~='heather-night']")
	assert.Contains(t, files["Style sheet"], "--sorrel-radius-control: 2px;")
	assert.Contains(t, files["Bundle"], "sorrel-heather-night.tokens.json")
	j.effort("A theme for light and dark (part of the dense form)")

	// Read back, the file makes the same theme.
	path := filepath.Join(t.TempDir(), "back.tokens.json")
	require.NoError(t, os.WriteFile(path, []byte(files["Design tokens"]), 0o644))
	j.click(button("Make one"))
	j.upload(button("read from a design tokens file"), path)
	j.until(`document.querySelector('section[aria-label="Make a theme"] h4')?.textContent.includes('Set one by one')`)
	j.until(`document.body.innerText.includes('tokens differ from')`)
	j.click(button("Keep the theme"))
	j.until(`[...document.querySelectorAll('section[aria-label=Themes] li')].length === 6`)
	var again string
	j.run(chromedp.Evaluate(`fetch('/api/themes/back/take/css').then(a => a.text())`, &again, awaited))
	assert.Equal(t, strings.ReplaceAll(files["Style sheet"], "heather-night", "back"), again)

	// Every place has it: the bench shows a screen in it.
	j.run(
		chromedp.Navigate(j.server.URL+"/bench/screen/today"),
		browser.Until(`document.querySelector('[data-selected]')`),
	)
	j.run(
		chromedp.Evaluate(
			`(s => { s.value = 'heather-night'; s.dispatchEvent(new Event('change')) })([...document.querySelectorAll('label')].find(l => l.textContent.includes('Theme of the Proof')).querySelector('select'))`,
			nil,
		),
	)
	j.untilInFrame(
		"#D9A3D2",
		`getComputedStyle(document.querySelector('body > div').shadowRoot.querySelector('.u-screen')).getPropertyValue('--sorrel-color-accent').trim()`,
	)
}

func TestATokenIsChangedKnowingWhatItReaches(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/shelf?sheet=tokens"))
	j.click(`document.querySelector('button[aria-label^="Change color.on-bad in light"]')`)
	j.until(`document.querySelector('[role=dialog] input.font-mono')`)
	j.fill(`document.querySelector('[role=dialog] input.font-mono')`, "mauve")
	j.until(`document.querySelector('[role=dialog] [role=alert]')?.textContent.includes('is no colour')`)
	assert.Equal(t, "true", j.text(`String([...document.querySelectorAll('[role=dialog] button')].at(-1).disabled)`))
	j.fill(`document.querySelector('[role=dialog] input.font-mono')`, "#FFE9E9")
	j.until(`document.querySelector('section[aria-label="What it reaches"]')?.textContent.includes('elements on')`)
	j.until(`document.querySelectorAll('[role=dialog] iframe').length === 2`)
	j.click(button("Keep it"))
	j.until(
		`!document.querySelector('[role=dialog]') && document.querySelector('button[aria-label="Change color.on-bad in light, #FFE9E9"]')`,
	)
	j.key("z", input.ModifierCtrl)
	j.until(`document.querySelector('button[aria-label="Change color.on-bad in light, #FFFFFF"]')`)
	reader := j.beside("lise")
	reader.run(chromedp.Navigate(reader.server.URL + "/shelf?sheet=tokens"))
	reader.until(`document.querySelector('section[aria-label=color]')`)
	assert.Equal(
		t,
		"0",
		reader.text(`String(document.querySelectorAll('button[aria-label^=Change]').length)`),
		"only a keeper changes tokens",
	)
}

func TestAnIconAndAFontOfOnesOwnAreAddedAndShown(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/shelf?sheet=icons"))
	j.click(button("Add one of your own"))
	bad := filepath.Join(t.TempDir(), "rail fence.svg")
	require.NoError(
		t,
		os.WriteFile(bad, []byte("<svg viewBox=\"0 0 24 24\">\n<script>alert(1)</script></svg>"), 0o644),
	)
	j.run(chromedp.SetUploadFiles(`[role=dialog] input[type=file]`, []string{bad}))
	j.until(`document.querySelector('[role=dialog] [role=alert]')?.textContent.includes('line 2')`)
	require.NoError(
		t,
		os.WriteFile(
			bad,
			[]byte(
				`<svg viewBox="0 0 24 24"><path d="M2 9h20M2 15h20" stroke="currentColor" stroke-width="2"/></svg>`,
			),
			0o644,
		),
	)
	j.run(chromedp.SetUploadFiles(`[role=dialog] input[type=file]`, []string{bad}))
	j.until(`document.querySelectorAll('[role=dialog] img').length === 3`)
	assert.Equal(
		t,
		"rail-fence",
		j.text(
			`[...document.querySelectorAll('[role=dialog] label')].find(l => l.textContent.trim().startsWith('Name')).querySelector('input').value`,
		),
	)
	j.click(
		`[...document.querySelectorAll('[role=dialog] label')].find(l => l.textContent.trim().startsWith('What it means')).querySelector('input')`,
	)
	j.write("paling")
	j.click(button("Add it"))
	j.until(
		`[...document.querySelectorAll('section[aria-label=Icons] li')].some(l => l.textContent.includes('rail-fence'))`,
	)
	j.untilInFrame(
		"true",
		`String([...document.querySelectorAll('body > div')].some(d => d.shadowRoot.querySelector('sorrel-icon[name=rail-fence]')?.shadowRoot.innerHTML.includes('M2 9h20')))`,
	)
	j.click(`document.querySelector('input[type=search]')`)
	j.write("paling")
	j.until(`document.querySelectorAll('section[aria-label=Icons] li').length === 1`)

	j.run(chromedp.Navigate(j.server.URL + "/shelf?sheet=themes"))
	j.until(`document.querySelector('section[aria-label=Fonts]')`)
	j.upload(button("Add a font"), bad)
	j.until(`document.querySelector('[role=alert]')?.textContent.includes('cannot be used as a font')`)
	j.upload(
		button("Add a font"),
		filepath.Join(
			testkit.Root(),
			"web/node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff2",
		),
	)
	j.until(
		`document.querySelector('section[aria-label=Fonts]').textContent.includes('Atkinson Hyperlegible Next 400')`,
	)
	j.click(button("Make one"))
	j.fill(
		`[...document.querySelectorAll('section[aria-label="Make a theme"] label')].find(l => l.textContent.trim().startsWith('Font')).querySelector('input')`,
		"Atkinson Hyperlegible Next",
	)
	j.untilInFrame("true", `[...document.fonts].some(f => f.family.includes('Atkinson') && f.status === 'loaded')`)
}

func TestAComponentsPageSaysWhatItIsAndWhetherItCanBeUsed(t *testing.T) {
	j := begin(t, "ida")
	j.run(
		chromedp.Navigate(j.server.URL+"/shelf/sorrel-button"),
		browser.Until(`document.querySelector('section[aria-label="Variant sheet"] figure')`),
		browser.Drawn(),
	)
	// States are the real thing: the ring and the darker ground come from the kit's own rules.
	j.untilInFrame("3", `String(Object.keys(`+shownStates+`).length)`)
	var states map[string]string
	j.inFrame(shownStates, &states)
	assert.Equal(t, "solid", states["focus"])
	assert.Equal(t, "0.45", states["disabled"])
	assert.NotEqual(t, "rgb(30, 95, 110)", states["hover"], "darker than at rest")
	versions := j.text(`document.querySelector('section[aria-label=Needs]').innerText`)
	assert.Contains(t, versions, "1.1.0 newer")
	assert.Contains(t, versions, "color.accent in light is #175463, was #1E5F6E")
	assert.Contains(t, versions, "it is not known what")

	pkg := filepath.Join(t.TempDir(), "package.json")
	require.NoError(t, os.WriteFile(pkg, []byte(`{"name":"ops","dependencies":{"vue":"^3.5.0"}}`), 0o644))
	j.upload(button("Bring in the application"), pkg)
	j.until(
		`document.querySelector('[aria-label="Why it cannot be used now"]')?.textContent.includes('npm install @fernhollow/sorrel@1.0.0')`,
	)
	require.NoError(
		t,
		os.WriteFile(pkg, []byte(`{"name":"ops","dependencies":{"@fernhollow/sorrel":"^1.0.0"}}`), 0o644),
	)
	j.upload(button("Bring in the application"), pkg)
	j.until(
		`!document.querySelector('[aria-label="Why it cannot be used now"]') && document.querySelector('section[aria-label=Needs]').innerText.includes('is there')`,
	)

	// Left out, it is no longer offered, and its page says why and what to do.
	j.run(
		chromedp.Navigate(j.server.URL+"/shelf/sorrel-badge"),
		browser.Until(`document.querySelector('h1')?.textContent.trim() === 'badge'`),
	)
	j.click(button("Leave it out here"))
	j.click(`document.querySelector('[role=dialog] input')`)
	j.write("chips do")
	j.key("Enter")
	j.until(
		`document.querySelector('[aria-label="Why it cannot be used now"]')?.textContent.includes('The team does not use it: chips do')`,
	)
	j.click(button("Take it in"))
	j.until(`!document.querySelector('[aria-label="Why it cannot be used now"]')`)
	j.run(
		chromedp.Navigate(j.server.URL+"/shelf/sorrel-tag"),
		browser.Until(`document.querySelector('[aria-label="Why it cannot be used now"]')`),
	)
	assert.Contains(
		t,
		j.text(`document.querySelector('[aria-label="Why it cannot be used now"]').textContent`),
		"Use chip.",
	)
}

func TestTheWallIsWalkedByKey(t *testing.T) {
	j := begin(t, "lise")
	j.run(
		chromedp.Navigate(j.server.URL+"/shelf"),
		browser.Until(`document.querySelectorAll('[data-wall]').length > 60`),
	)
	j.until(`document.activeElement?.type === 'search'`)
	at := func() string {
		return j.text(`document.activeElement.getAttribute('href') ?? document.activeElement.type`)
	}
	j.key("ArrowDown")
	assert.Equal(t, "/shelf/sorrel-breadcrumbs", at())
	j.key("ArrowRight")
	second := at()
	j.key("ArrowDown")
	below := at()
	assert.NotEqual(t, second, below)
	j.key("ArrowUp")
	assert.Equal(t, second, at(), "up leads back to where one came from")
	j.key("ArrowLeft")
	j.key("ArrowUp")
	assert.Equal(t, "search", at())
	j.key("ArrowDown")
	j.key("Enter")
	j.until(`location.pathname === '/shelf/sorrel-breadcrumbs'`)
}

// A record's picture is chosen by keys alone, but for the system's own dialog; left by Escape, the
// cell has the focus again.
func TestAPictureOfARecordIsChosenByKeys(t *testing.T) {
	file := filepath.Join(t.TempDir(), "Pond.png")
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, image.NewNRGBA(image.Rect(0, 0, 48, 48))))
	require.NoError(t, os.WriteFile(file, b.Bytes(), 0o600))
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/samples/specimens"))
	j.until(`document.querySelector('[role=grid] [role=gridcell] img')`)
	cell := `document.querySelector('[role=grid] [role=gridcell] img').closest('[role=gridcell]')`
	j.click(cell)
	j.until(`document.activeElement?.getAttribute('role') === 'grid'`)
	j.key("Enter")
	j.until(`document.querySelector('[role=dialog]')?.innerText.includes('No picture is kept yet')`)
	j.key("Escape")
	j.until(`!document.querySelector('[role=dialog]') && document.activeElement?.getAttribute('role') === 'grid'`)
	j.key("Enter")
	j.upload(`document.querySelector('[role=dialog] label.btn')`, file)
	j.until(`document.querySelector('[role=dialog] img')?.naturalWidth === 48`)
	focused := func(words string) {
		for range 12 {
			if j.text(`String(document.activeElement?.textContent.trim().startsWith('`+words+`'))`) == "true" {
				return
			}
			j.key("Tab")
		}
		require.Fail(t, "no key reaches "+words)
	}
	focused("Pond.png")
	j.key("Enter")
	j.until(`document.activeElement?.getAttribute('aria-pressed') === 'true'`)
	focused("Use it")
	j.key("Enter")
	j.until(`!document.querySelector('[role=dialog]') && ` + cell + `.querySelector('img').src.includes('/api/pictures/')`)
}

// A picture is added where it is to stand: the Proof draws it, and who does not see it is told
// what it shows.
func TestAPictureIsChosenOnTheBench(t *testing.T) {
	file := filepath.Join(t.TempDir(), "Old oak.png")
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, image.NewNRGBA(image.Rect(0, 0, 64, 48))))
	require.NoError(t, os.WriteFile(file, b.Bytes(), 0o600))
	j := begin(t, "ida")
	j.bench("specimen", "> 5")
	j.click(lineWith("picture"))
	j.key("Enter")
	j.click(`document.querySelector('button[aria-label="Choose a picture for src"]')`)
	j.until(`document.querySelector('[role=dialog]')?.innerText.includes('No picture is kept yet')`)
	j.upload(`document.querySelector('[role=dialog] label.btn')`, file)
	j.until(`document.querySelector('[role=dialog] img')?.naturalWidth === 64`)
	j.fill(`[...document.querySelectorAll('[role=dialog] label')].find(l => l.textContent.includes('in words'))?.querySelector('input')`, "An old oak")
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim() === 'Use it' && !b.disabled)`)
	j.until(`!document.querySelector('[role=dialog]')`)
	shown := `(e => e.shadowRoot.querySelector('img').naturalWidth + ' ' + e.getAttribute('alt'))(document.querySelector('body > div').shadowRoot.querySelector('sorrel-picture'))`
	j.untilInFrame("64 An old oak", shown)
	// Taken back in one step, and brought back.
	j.click(`document.querySelector('button[aria-label^="Undo"], button[title^="Undo"]')`)
	j.untilInFrame("true", `!document.querySelector('body > div').shadowRoot.querySelector('sorrel-picture').getAttribute('src').startsWith('pictures/')`)
}
