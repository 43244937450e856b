package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"mime"
	"net/http"
	"net/http/httptest"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/spf13/cobra"

	"ubiquant/core/kit"
	"ubiquant/core/render"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
	"ubiquant/internal/browser"
	"ubiquant/server/assets"
)

func kitCommand() *cobra.Command {
	c := &cobra.Command{Use: "kit", Short: "Look at a kit's package"}
	c.AddCommand(kitCheckCommand())
	return c
}

// checked is what was found about one component.
type checked struct {
	Tag          string             `json:"tag"`
	Undocumented []string           `json:"undocumented"` // what has no sentence
	Variants     int                `json:"variants"`
	Problems     []string           `json:"problems"` // met while they were drawn
	Contrast     map[string]float64 `json:"contrast"` // the least by theme; 0 where no letters are
	Weak         []string           `json:"weak"`     // pairs of letters and ground too close
	Stops        int                `json:"stops"`    // places where the Tab key halts in its example
	Keys         []string           `json:"keys"`     // what is wrong with them
}

func (c *checked) fine() bool {
	return len(c.Undocumented)+len(c.Problems)+len(c.Weak)+len(c.Keys) == 0
}

func kitCheckCommand() *cobra.Command {
	var format string
	c := &cobra.Command{
		Use:   "check DIR",
		Short: "Check every component of a kit: documented, drawn without errors, reached by key, contrast in each theme",
		Long: `Reads the package of a kit (package.json, custom-elements.json, notes and tokens where
there are any, and what they name) and draws every component with every value of each
of its choices, one at a time, in every theme, in headless Chromium. The Tab key is
walked through every example: what takes the focus must be reached, be named, show that
it has the focus, and let it go.

Exit codes: 0 all is well; 1 something was found; 2 the package or the call cannot be
used.`,
		Example: "  ubiquant kit check kits/sorrel",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			list, themes, err := checkKit(cmd.Context(), args[0])
			if err != nil {
				return &exitError{exitBroken, err}
			}
			out := cmd.OutOrStdout()
			if format == "json" {
				enc := json.NewEncoder(out)
				enc.SetIndent("", " ")
				if err := enc.Encode(list); err != nil {
					return err
				}
			} else {
				printChecked(out, list, themes)
			}
			if slices.ContainsFunc(list, func(c checked) bool { return !c.fine() }) {
				return &exitError{exitFound, errors.New("not all is well")}
			}
			return nil
		},
	}
	choice(c, &format, "format", "how it is written", "text", "json")
	return c
}

func printChecked(out interface{ Write([]byte) (int, error) }, list []checked, themes []string) {
	bad := 0
	for _, c := range list {
		mark := "  "
		if !c.fine() {
			mark = "! "
			bad++
		}
		line := fmt.Sprintf("%s%-26s %2d drawn  %s", mark, c.Tag, c.Variants, stopsInWords(c.Stops))
		for _, theme := range themes {
			if c.Contrast[theme] > 0 {
				line += fmt.Sprintf("  %s %4.1f", theme, c.Contrast[theme])
			}
		}
		fmt.Fprintln(out, line)
		for _, s := range slices.Concat(c.Undocumented, c.Problems, c.Keys, c.Weak) {
			fmt.Fprintln(out, "      "+s)
		}
	}
	fmt.Fprintf(out, "%d components, %d not well\n", len(list), bad)
}

func stopsInWords(n int) string {
	if n == 0 {
		return "no keys   "
	}
	return fmt.Sprintf("keys at %d ", n)
}

// stopsScript lists what the Tab key should halt at, in reading order through shadow
// trees, and keeps it for haltScript. Of radio buttons with one name one is a stop.
const stopsScript = `(() => {
  const stops = [], groups = new Set()
  const walk = root => {
    for (const el of root.querySelectorAll('*')) {
      const box = el.getBoundingClientRect() // what has no size only passes the focus on
      const ok = el.matches('button, a[href], input, select, textarea, summary, [tabindex]') && !el.disabled && el.tabIndex >= 0 && el.checkVisibility({ visibilityProperty: true }) && !el.closest('[inert]') && box.width + box.height > 0
      const group = el.type === 'radio' && el.name
      if (ok && group) { // one of a group is a stop: the checked one
        if (el.checked) { const first = stops.findIndex(s => s.name === group); if (first >= 0) stops[first] = el; else stops.push(el) } else if (!groups.has(group)) stops.push(el)
        groups.add(group)
      } else if (ok) stops.push(el)
      if (el.shadowRoot) walk(el.shadowRoot)
    }
  }
  walk(document.body)
  window.stops = stops
  window.halted = new Set()
  window.last = null
  document.activeElement?.blur()
  getSelection().setPosition(document.body, 0)
  return stops.length
})()`

// haltScript tells where the focus is now and what is wrong there.
const haltScript = `(() => {
  let el = document.activeElement
  while (el?.shadowRoot?.activeElement) el = el.shadowRoot.activeElement
  if (!el || el === document.body) return { out: true, wrong: '' }
  const within = el === window.last // a date has several parts of the browser's own
  const again = window.halted.has(el) && !within
  window.last = el
  window.halted.add(el)
  const words = n => n.localName === 'slot' ? n.assignedNodes({ flatten: true }).map(words).join(' ') : n.nodeType === 3 ? n.data : [...(n.shadowRoot ?? n).childNodes].map(words).join(' ')
  const labelled = (el.getAttribute('aria-labelledby') ?? '').split(' ').map(id => el.getRootNode().getElementById?.(id)?.textContent ?? '').join('')
  const name = el.getAttribute('aria-label') || labelled || [...(el.labels ?? [])].map(words).join('') || el.title || (el.matches('input, select, textarea') ? '' : words(el))
  const style = getComputedStyle(el)
  const ring = (style.outlineStyle !== 'none' && parseFloat(style.outlineWidth) > 0) || style.boxShadow !== 'none'
  const wrong = within ? '' : !name.trim() ? 'has no name' : !ring ? 'does not show that it has the focus' : ''
  return { out: false, again, missed: window.stops.filter(s => !window.halted.has(s)).length, wrong: wrong && el.localName + ' ' + wrong }
})()`

// walkKeys walks the Tab key through what is drawn.
func walkKeys(tab context.Context, out *checked) error {
	if err := chromedp.Run(tab, chromedp.Evaluate(stopsScript, &out.Stops)); err != nil || out.Stops == 0 {
		return err
	}
	missed := out.Stops
	for range 4*out.Stops + 3 { // a date has parts of its own

		var at struct {
			Out, Again bool
			Missed     int
			Wrong      string
		}
		if err := chromedp.Run(tab, chromedp.KeyEvent(kb.Tab), chromedp.Evaluate(haltScript, &at)); err != nil {
			return err
		}
		if at.Wrong != "" && !slices.Contains(out.Keys, at.Wrong) {
			out.Keys = append(out.Keys, at.Wrong)
		}
		if at.Out || at.Again { // past the end of the page, or round again within a dialog
			break
		}
		missed = at.Missed
	}
	if missed > 0 {
		out.Keys = append(out.Keys, fmt.Sprintf("%d of %d places are not reached by the Tab key", missed, out.Stops))
	}
	return nil
}

// readPackage reads the files of a package, as far as it would be published.
func readPackage(dir string) (map[string][]byte, error) {
	files := map[string][]byte{}
	err := filepath.WalkDir(dir, func(p string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if d.IsDir() {
			if p != dir && (d.Name() == "node_modules" || strings.HasPrefix(d.Name(), ".")) {
				return filepath.SkipDir
			}
			return nil
		}
		info, err := d.Info()
		if err != nil {
			return err
		}
		if info.Size() > 16<<20 || !info.Mode().IsRegular() {
			return nil
		}
		rel, err := filepath.Rel(dir, p)
		if err != nil {
			return err
		}
		files[filepath.ToSlash(rel)], err = os.ReadFile(p)
		return err
	})
	if err == nil && files["package.json"] == nil {
		err = fmt.Errorf("%s holds no package.json", dir)
	}
	return files, err
}

// drawScript shows markup in a theme and tells what came of it.
const drawScript = `(async (html, props, theme) => {
  const { inksOf } = await import('/inks.js')
  window.met = []
  document.body.dataset.theme = theme
  document.body.innerHTML = '<div class="u-screen">' + html + '</div>'
  for (const [key, values] of Object.entries(props ?? {})) Object.assign(document.querySelector('[data-e="' + CSS.escape(key) + '"]') ?? {}, values)
  const all = [...document.body.querySelectorAll('*')]
  for (let round = 0; round < 4; round++) await Promise.all(all.map(e => e.updateComplete))
  await new Promise(done => setTimeout(done, 20))
  const unknown = [...new Set(all.map(e => e.localName).filter(n => n.includes('-') && !customElements.get(n)))]
  return { problems: [...window.met, ...unknown.map(n => n + ' is not registered by the module')], inks: inksOf(document.body) }
})`

const checkPage = `<!doctype html><html lang="en"><head><meta charset="utf-8">%s
<script>window.met = []; addEventListener('error', e => met.push(e.message)); addEventListener('unhandledrejection', e => met.push(String(e.reason))); for (const level of ['error', 'warn']) console[level] = (...a) => met.push(a.join(' '))</script>
<script type="module" src="/%s"></script></head><body></body></html>`

func checkKit(ctx context.Context, dir string) ([]checked, []string, error) {
	files, err := readPackage(dir)
	if err != nil {
		return nil, nil, err
	}
	k, err := assets.ReadKit(files)
	if err != nil {
		return nil, nil, err
	}
	pkg, err := kit.ReadPackage(files["package.json"])
	if err != nil {
		return nil, nil, err
	}
	if files[pkg.Module] == nil {
		return nil, nil, fmt.Errorf(
			"package.json names the module %q, which is not there; build the kit first",
			pkg.Module,
		)
	}
	sheet := ""
	if name, ok := pkg.File(kit.Specifier(k.Code.Styles)); ok {
		sheet = fmt.Sprintf(`<link rel="stylesheet" href="/%s">`, name)
	}
	inks, err := assets.Inks()
	if err != nil {
		return nil, nil, assets.ErrNotBuilt
	}
	files["inks.js"] = inks
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
		data := files[name]
		switch {
		case name == "":
			data = fmt.Appendf(nil, checkPage, sheet+"<style>"+render.Sheet(k)+"</style>", pkg.Module)
			name = "index.html"
		case data == nil:
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Content-Type", mime.TypeByExtension(path.Ext(name)))
		_, _ = w.Write(data) // a lost reader shows as a problem on the page
	}))
	defer s.Close()
	tab, end, err := browser.Open(ctx)
	if err != nil {
		return nil, nil, err
	}
	defer end()
	tab, cancel := context.WithTimeout(tab, 5*time.Minute)
	defer cancel()
	if err := chromedp.Run(tab, chromedp.EmulateViewport(800, 2400), chromedp.Navigate(s.URL), browser.Until(`document.readyState === 'complete'`)); err != nil {
		return nil, nil, err
	}
	themes := k.Tokens.Themes
	if len(themes) == 0 {
		themes = []string{"light"}
	}
	list := make([]checked, 0, len(k.Components))
	for _, c := range k.Components {
		one, err := checkComponent(tab, k, c, themes)
		if err != nil {
			return nil, nil, fmt.Errorf("%s: %w", c.Tag, err)
		}
		list = append(list, one)
	}
	return list, themes, nil
}

func checkComponent(tab context.Context, k *kit.Kit, c *kit.Component, themes []string) (checked, error) {
	variants := variantsOf(c)
	out := checked{Tag: c.Tag, Undocumented: undocumented(c), Variants: len(variants), Contrast: map[string]float64{}}
	root := &screen.Element{ID: "all", Type: "stack", Children: variants}
	node, _ := resolve.Resolve(resolve.Input{Screen: root, Catalog: k})
	page := render.HTML(k, node)
	for _, theme := range themes {
		args, err := json.Marshal([]any{page.HTML, page.Props, theme})
		if err != nil {
			return out, err
		}
		var got struct {
			Problems []string
			Inks     []struct {
				Ink, Ground, Sample string
				Ratio               float64
				Large               bool
			}
		}
		if err := chromedp.Run(tab, chromedp.Evaluate(drawScript+"(..."+string(args)+")", &got, awaitPromise)); err != nil {
			return out, err
		}
		for _, p := range got.Problems {
			if !slices.Contains(out.Problems, p) {
				out.Problems = append(out.Problems, p)
			}
		}
		for _, i := range got.Inks {
			needed := 4.5
			if i.Large {
				needed = 3
			}
			if i.Ratio < needed {
				out.Weak = append(
					out.Weak,
					fmt.Sprintf(
						"%s: “%s” is %s on %s, %.2f; needed %g",
						theme,
						i.Sample,
						i.Ink,
						i.Ground,
						i.Ratio,
						needed,
					),
				)
			}
			if least := out.Contrast[theme]; least == 0 || i.Ratio < least {
				out.Contrast[theme] = i.Ratio
			}
		}
	}
	// Keys are walked through the example alone, as it is first met.
	alone, _ := resolve.Resolve(
		resolve.Input{Screen: &screen.Element{ID: "all", Type: "stack", Children: variants[:1]}, Catalog: k},
	)
	page = render.HTML(k, alone)
	args, err := json.Marshal([]any{page.HTML, page.Props, themes[0]})
	if err != nil {
		return out, err
	}
	if err := chromedp.Run(tab, chromedp.Evaluate(drawScript+"(..."+string(args)+")", nil, awaitPromise)); err != nil {
		return out, err
	}
	return out, walkKeys(tab, &out)
}

func undocumented(c *kit.Component) (out []string) {
	if c.Summary == "" {
		out = append(out, "the component has no description")
	}
	for _, p := range c.Props {
		if p.Summary == "" {
			out = append(out, "the prop "+p.Name+" has no description")
		}
	}
	for _, s := range c.Slots {
		if s.Summary == "" {
			out = append(out, "the slot “"+s.Name+"” has no description")
		}
	}
	return out
}

// variantsOf is a component's example with every value of each of its choices, one
// at a time.
func variantsOf(c *kit.Component) []*screen.Element {
	count := 0
	out := []*screen.Element{exampleOf(c.Example, c.Tag, &count)}
	for _, p := range c.Props {
		for _, v := range p.Values {
			if v == p.Default {
				continue
			}
			e := exampleOf(c.Example, c.Tag, &count)
			e.Props = append(
				slices.DeleteFunc(e.Props, func(o screen.Prop) bool { return o.Name == p.Name }),
				screen.Prop{Name: p.Name, Value: screen.Lit(v)},
			)
			screen.SortProps(e.Props)
			out = append(out, e)
		}
	}
	for _, e := range out {
		e.Slot = ""
	}
	return out
}

func exampleOf(ex kit.Example, typ string, count *int) *screen.Element {
	*count++
	e := &screen.Element{ID: fmt.Sprint("x", *count), Type: typ, Slot: ex.Slot}
	if ex.Type != "" {
		e.Type = ex.Type
	}
	if ex.Text != "" {
		e.Text = screen.Lit(ex.Text)
	}
	for name, value := range ex.Props {
		v := screen.Lit(value)
		if value == "true" || value == "false" {
			v = screen.FlagValue(value == "true")
		}
		e.Props = append(e.Props, screen.Prop{Name: name, Value: v})
	}
	screen.SortProps(e.Props)
	for _, child := range ex.Children {
		e.Children = append(e.Children, exampleOf(child, child.Type, count))
	}
	return e
}
