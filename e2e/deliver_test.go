package e2e_test

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"math"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/targets"
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

// box is an element's place on a page, by its tag and its order among these.
type box struct {
	Tag        string
	X, Y, W, H float64
}

// measure lists where the kit's elements stand below the screen's root.
const measure = `(async () => {
  const root = %ROOT%
  await new Promise(r => setTimeout(r, 300))
  const o = root.getBoundingClientRect(), k = o.width / root.offsetWidth
  return JSON.stringify([...root.querySelectorAll('*')].filter(e => e.tagName.startsWith('SORREL-')).map(e => { const r = e.getBoundingClientRect(); return {Tag: e.tagName, X: (r.x - o.x) / k, Y: (r.y - o.y) / k, W: r.width / k, H: r.height / k} }))
})()`

// extract makes a piece of a part with all that is like it.
func extract(t *testing.T, l *live.Live, run piece.Run) {
	x, err := piece.Propose(l, run)
	require.NoError(t, err)
	o := piece.Order{Run: run, ID: x.ID, Title: x.Title, Holes: x.Holes}
	for _, p := range x.Props {
		if p.Must || p.Others > 0 {
			o.Props = append(o.Props, screen.PieceProp{Name: p.Name, Element: p.Element, Prop: p.Prop})
		}
	}
	for _, tw := range x.Twins {
		o.Twins = append(o.Twins, tw.Run)
	}
	c, err := piece.Extract(l, o)
	require.NoError(t, err)
	_, err = l.Take(c)
	require.NoError(t, err)
}

// written is a folder with what a target makes of screens.
func written(t *testing.T, target string, in deliver.Input) string {
	t.Helper()
	to, ok := targets.Find(target)
	require.True(t, ok)
	files, _, err := to.Deliver(in)
	require.NoError(t, err)
	dir := t.TempDir()
	for _, f := range files {
		path := filepath.Join(dir, filepath.FromSlash(f.Path))
		require.NoError(t, os.MkdirAll(filepath.Dir(path), 0o755))
		require.NoError(t, os.WriteFile(path, f.Data, 0o644))
	}
	return dir
}

// heavy is held by the one test that installs or builds: what drives browsers beside it
// needs the rest of the machine.
var heavy sync.Mutex

// install gives an application its packages: those installed before for what registries have are
// used again, by links to their files; what travels along is unpacked anew each time.
func install(t *testing.T, dir string) {
	t.Helper()
	heavy.Lock()
	defer heavy.Unlock()
	text, err := os.ReadFile(filepath.Join(dir, "package.json"))
	require.NoError(t, err)
	var manifest struct {
		Scripts, Dependencies, DevDependencies map[string]string
	}
	require.NoError(t, json.Unmarshal(text, &manifest))
	along := map[string]string{}
	for name, at := range manifest.Dependencies {
		if file, ok := strings.CutPrefix(at, "file:"); ok {
			along[name] = file
			delete(manifest.Dependencies, name)
		}
	}
	asked, err := json.Marshal(manifest)
	require.NoError(t, err)
	sum := sha256.Sum256(asked)
	kept := filepath.Join(testkit.Root(), ".build", "delivered", hex.EncodeToString(sum[:8]))
	run := func(name string, args ...string) {
		cmd := exec.Command(name, args...)
		cmd.Dir = dir
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, "%s %v: %s", name, args, out)
	}
	if _, err := os.Stat(filepath.Join(kept, "node_modules")); err != nil {
		run("npm", "install", "--no-audit", "--no-fund", "--loglevel=error", "--prefer-offline")
		require.NoError(t, os.MkdirAll(filepath.Dir(kept), 0o755))
		run("rm", "-rf", kept+".part")
		require.NoError(t, os.Mkdir(kept+".part", 0o755))
		run("cp", "-a", "node_modules", kept+".part/node_modules")
		require.NoError(t, os.Rename(kept+".part", kept))
		return
	}
	run("cp", "-al", filepath.Join(kept, "node_modules"), "node_modules")
	for name, file := range along {
		at := filepath.Join(dir, "node_modules", filepath.FromSlash(name))
		run("rm", "-rf", at)
		require.NoError(t, os.MkdirAll(at, 0o755))
		run("tar", "xzf", filepath.Join(dir, filepath.FromSlash(file)), "-C", at, "--strip-components=1")
	}
}

// build installs and builds a delivered application.
func build(t *testing.T, dir string, env ...string) {
	t.Helper()
	if _, err := os.Stat(filepath.Join(dir, "node_modules")); err != nil {
		install(t, dir)
	}
	args := []string{"run", "build"}
	if _, err := os.Stat(filepath.Join(dir, "angular.json")); err == nil {
		args = append(args, "--", "--configuration", "development")
	}
	heavy.Lock()
	defer heavy.Unlock()
	cmd := exec.Command("npm", args...)
	cmd.Dir = dir
	cmd.Env = append(append(os.Environ(), "NG_CLI_ANALYTICS=false", "CI=1"), env...)
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, "npm %v: %s", args, out)
}

// pagesOf serves a folder; what is no file in it is the application's to route.
func pagesOf(dir string) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		path := filepath.Join(dir, filepath.Clean("/"+r.URL.Path))
		if info, err := os.Stat(path); err != nil || info.IsDir() {
			path = filepath.Join(dir, "index.html")
		}
		http.ServeFile(w, r, path)
	})
}

// The delivered application installs, checks and builds, and its screens show the
// same text in the same place as the Proof.
func TestTheDeliveredApplicationLooksAsTheProof(t *testing.T) {
	if testing.Short() {
		t.Skip("installs packages and drives Chromium")
	}
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	bundle, err := assets.Kit()
	require.NoError(t, err)
	l := live.Open(w, bundle.Kit, today())
	// Parts become pieces first, in a shell and on screens: what is delivered of them
	// must still look as the Proof, which knows nothing of it.
	for _, run := range []piece.Run{{Doc: "screen:tickets", Elements: []string{"tickets-5"}}, {Doc: "shell:staff", Elements: []string{"bar"}}, {Doc: "screen:messages", Elements: []string{"messages-8", "messages-13"}}} {
		extract(t, l, run)
	}
	stateful.List(t, l, "screen:round")
	in, err := l.DeliverInput("", nil, bundle.DeliverFiles())
	require.NoError(t, err)
	dir := written(t, "vue", in)
	at, stopService, err := service.Start("127.0.0.1:0")
	require.NoError(t, err)
	defer stopService()
	build(t, dir, "VITE_OFFICE="+at, "VITE_SAMPLES=1")
	app := httptest.NewServer(pagesOf(filepath.Join(dir, "dist")))
	defer app.Close()

	j := begin(t, "ida")
	for _, screen := range []struct{ id, route string }{{"tickets", "/tickets"}, {"specimens", "/specimens"}, {"new-ticket", "/tickets/new"}, {"visitors", "/visitors"}, {"order", "/orders/o1"}, {"volunteer", "/volunteers/v1"}} {
		var proof, delivered []box
		var text string
		j.run(
			chromedp.Navigate(j.server.URL+"/bench/screen/"+screen.id),
			browser.Until(`document.querySelector("[data-selected]")`),
			browser.Drawn(),
		)
		j.untilInFrame(
			"true",
			`document.querySelector("body > div").shadowRoot.querySelector(".u-screen sorrel-footer") !== null`,
		)
		if screen.id == "visitors" { // the delivered one asks the service
			j.chooseSet("live")
			j.untilInFrame(
				"Page 1 of 6",
				`document.querySelector('body > div').shadowRoot.querySelector('sorrel-pager').shadowRoot.querySelector('span').textContent.trim()`,
			)
		}
		proofText := j.frameText()
		j.inFrameAwait(
			strings.Replace(
				measure,
				"%ROOT%",
				`document.querySelector('body > div').shadowRoot.querySelector('.u-screen')`,
				1,
			),
			&text,
		)
		require.NoError(t, json.Unmarshal([]byte(text), &proof))
		j.run(
			chromedp.Navigate(app.URL+screen.route),
			browser.Until(`document.querySelector('sorrel-footer')`),
			browser.Until(`document.fonts.status === 'loaded'`),
			chromedp.Evaluate(
				strings.Replace(measure, "%ROOT%", `document.querySelector('.u-screen')`, 1),
				&text,
				awaited,
			),
		)
		require.NoError(t, json.Unmarshal([]byte(text), &delivered))
		require.Equal(t, len(proof), len(delivered), screen.id)
		far := 0
		for i, p := range proof {
			d := delivered[i]
			require.Equal(t, p.Tag, d.Tag)
			if math.Abs(p.X-d.X) > 1 || math.Abs(p.Y-d.Y) > 1 || math.Abs(p.W-d.W) > 1 || math.Abs(p.H-d.H) > 1 {
				far++
				if far < 4 {
					t.Logf("%s: Proof %+v, delivered %+v", screen.id, p, d)
				}
			}
		}
		assert.Zero(t, far, "%s: elements out of place, of %d", screen.id, len(proof))
		appText := j.text(allText)
		assert.Equal(
			t,
			strings.Join(strings.Fields(proofText), " "),
			strings.Join(strings.Fields(appText), " "),
			screen.id,
		)
	}

	// What elements do, they do: a question opens, an answer closes it,
	// brings the screen into a state and says so.
	press := func(tag, that string) {
		t.Helper()
		button := `[...document.querySelectorAll('` + tag + `')].find(e => ` + that + `)?.shadowRoot?.querySelector('button')`
		j.run(browser.Until(button), chromedp.Evaluate(button+`.click()`, nil))
	}
	j.run(chromedp.Navigate(app.URL + "/rounds/r1"))
	press("sorrel-icon-button", `e.icon === 'bin'`)
	j.run(browser.Until(`document.querySelector('sorrel-dialog[open]')`))
	press("sorrel-dialog[open] sorrel-button", `e.intent !== 'danger'`)
	j.run(browser.Until(`!document.querySelector('sorrel-dialog[open]')`))
	press("sorrel-icon-button", `e.icon === 'bin'`)
	press("sorrel-dialog[open] sorrel-button", `e.intent === 'danger'`)
	j.run(
		browser.Until(
			`document.querySelector('sorrel-toast')?.open && [...document.querySelectorAll('sorrel-alert')].some(e => e.heading === 'One less') && !document.querySelector('sorrel-dialog[open]')`,
		),
	)
	// Lists act: what is typed narrows, the pager turns, and what counts them follows.
	j.run(chromedp.Navigate(app.URL + "/tickets"))
	rows := func(n int) string { return fmt.Sprintf(`document.querySelectorAll('sorrel-row').length === %d`, n) }
	pager := func(is string) string {
		return `document.querySelector('sorrel-pager').shadowRoot.querySelector('span').textContent.trim() === '` + is + `'`
	}
	j.run(
		browser.Until(rows(10)),
		browser.Until(pager("Page 1 of 2")),
		chromedp.Evaluate(
			`document.querySelector('sorrel-pager').shadowRoot.querySelectorAll('button')[1].click()`,
			nil,
		),
		browser.Until(rows(4)),
	)
	search := func(words string) chromedp.Action {
		return chromedp.Evaluate(
			`(i => { i.value = '`+words+`'; i.dispatchEvent(new Event('input', { bubbles: true, composed: true })) })(document.querySelector('sorrel-text-input').shadowRoot.querySelector('input'))`,
			nil,
		)
	}
	j.run(
		search("the l"),
		browser.Until(rows(3)),
		browser.Until(pager("Page 1 of 1")),
		browser.Until(`document.body.innerText.includes('3 tickets') || `+allText+`.includes('3 tickets')`),
	)
	j.run(
		search("nothing such"),
		browser.Until(rows(0)),
		browser.Until(`document.querySelector('sorrel-empty-state')?.heading === 'No tickets'`),
		search(""),
		browser.Until(rows(4)),
	)
	j.run(chromedp.Navigate(app.URL + "/settings"))
	press("sorrel-switch", `e.name === 'dark'`)
	j.run(browser.Until(`document.documentElement.dataset.theme === 'dark'`))
	press("sorrel-switch", `e.name === 'dark'`)
	j.run(browser.Until(`document.documentElement.dataset.theme === 'light'`))
}

// Plain pages act as well: their lists are filtered, ordered and paged by what their
// controls hold, without a build and without a server of their own.
func TestDeliveredPagesAct(t *testing.T) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	bundle, err := assets.Kit()
	require.NoError(t, err)
	in, err := live.Open(w, bundle.Kit, today()).DeliverInput("", nil, bundle.DeliverFiles())
	require.NoError(t, err)
	target, _ := targets.Find("html")
	files, _, err := target.Deliver(in)
	require.NoError(t, err)
	dir := t.TempDir()
	for _, f := range files {
		path := filepath.Join(dir, filepath.FromSlash(f.Path))
		require.NoError(t, os.MkdirAll(filepath.Dir(path), 0o755))
		require.NoError(t, os.WriteFile(path, f.Data, 0o644))
	}
	app := httptest.NewServer(http.FileServer(http.Dir(dir)))
	defer app.Close()
	j := begin(t, "ida")
	j.run(chromedp.Navigate(app.URL + "/specimens.html"))
	cards := func(n int) chromedp.Action {
		return browser.Until(fmt.Sprintf(`document.querySelectorAll('.u-grid sorrel-card').length === %d`, n))
	}
	pager := func(is string) chromedp.Action {
		return browser.Until(
			`document.querySelector('sorrel-pager').shadowRoot?.querySelector('span')?.textContent.trim() === '` + is + `'`,
		)
	}
	first := func(is string) chromedp.Action {
		return browser.Until(
			`document.querySelector('.u-grid sorrel-card sorrel-heading')?.textContent.trim() === '` + is + `'`,
		)
	}
	does := func(script string) chromedp.Action { return chromedp.Evaluate(`{ `+script+` }`, nil) }
	choose := func(name, value string) chromedp.Action {
		return does(
			`const s = document.querySelector('sorrel-select[name=` + name + `]').shadowRoot.querySelector('select'); s.value = '` + value + `'; s.dispatchEvent(new Event('change', { bubbles: true }))`,
		)
	}
	search := func(words string) chromedp.Action {
		return does(
			`const i = document.querySelector('sorrel-text-input').shadowRoot.querySelector('input'); i.focus(); i.value = '` + words + `'; i.dispatchEvent(new Event('input', { bubbles: true, composed: true }))`,
		)
	}
	j.run(
		cards(6),
		pager("Page 1 of 4"),
		browser.Until(
			`!document.querySelector('[data-waits]') && getComputedStyle(document.querySelector('.u-screen')).visibility === 'visible'`,
		),
	)
	j.run(
		does(`document.querySelector('sorrel-pager').shadowRoot.querySelectorAll('button')[1].click()`),
		pager("Page 2 of 4"),
		cards(6),
	)
	j.run(
		choose("order", "name"),
		does(`document.querySelector('sorrel-pager').shadowRoot.querySelectorAll('button')[0].click()`),
		pager("Page 1 of 4"),
		first("Bog myrtle"),
	)
	j.run(search("maple"), cards(2), pager("Page 1 of 1"), first("Field maple"))
	assert.Equal(t, "SORREL-TEXT-INPUT", j.text(`document.activeElement.tagName`), "who types goes on typing")
	j.run(
		search("nothing such"),
		cards(0),
		browser.Until(`document.querySelector('sorrel-empty-state')?.heading === 'No specimens'`),
		search(""),
		cards(6),
		browser.Until(`!document.querySelector('sorrel-empty-state')`),
	)
	// A record has a page of its own, and links to it lead there.
	third := in.Set.Records["specimens"][2]
	j.run(
		chromedp.Navigate(app.URL+"/specimen@"+third.ID()+".html"),
		browser.Until(fmt.Sprintf(`document.querySelector('sorrel-page-header')?.heading === %q`, third["name"])),
		browser.Until(fmt.Sprintf(`pageOf('/specimens/%[1]s') === 'specimen@%[1]s.html' && pageOf('/specimens') === 'specimens.html'`, third.ID())),
		chromedp.Navigate(app.URL+"/specimens.html"),
		cards(6),
	)
	j.run(
		choose("condition", "ailing"),
		browser.Until(
			`[...document.querySelectorAll('.u-grid sorrel-chip')].every(c => c.textContent.trim() === 'ailing')`,
		),
	)
}
