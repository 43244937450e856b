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
	"github.com/spf13/cobra"

	"ubiquant/core/kit"
	"ubiquant/core/render"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
	"ubiquant/e2e/browser"
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
}

func (c *checked) fine() bool { return len(c.Undocumented)+len(c.Problems)+len(c.Weak) == 0 }

func kitCheckCommand() *cobra.Command {
	var format string
	c := &cobra.Command{
		Use:   "check DIR",
		Short: "Check every component of a kit: documented, drawn without errors, contrast in each theme",
		Long: `Reads the package of a kit (package.json, custom-elements.json, notes and tokens where
there are any, and what they name) and draws every component with every value of each
of its choices, one at a time, in every theme, in headless Chromium.

Exit codes: 0 all is well; 1 something was found; 2 the package or the call cannot be
used.`,
		Example: "  ubiquant kit check kits/sorrel",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if format != "text" && format != "json" {
				return &exitError{exitBroken, fmt.Errorf("the format %q is not known; accepted: text, json", format)}
			}
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
	c.Flags().StringVar(&format, "format", "text", "text or json")
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
		line := fmt.Sprintf("%s%-26s %2d drawn", mark, c.Tag, c.Variants)
		for _, theme := range themes {
			if c.Contrast[theme] > 0 {
				line += fmt.Sprintf("  %s %4.1f", theme, c.Contrast[theme])
			}
		}
		fmt.Fprintln(out, line)
		for _, s := range slices.Concat(c.Undocumented, c.Problems, c.Weak) {
			fmt.Fprintln(out, "      "+s)
		}
	}
	fmt.Fprintf(out, "%d components, %d not well\n", len(list), bad)
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
		return nil, nil, fmt.Errorf("package.json names the module %q, which is not there; build the kit first", pkg.Module)
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
				out.Weak = append(out.Weak, fmt.Sprintf("%s: “%s” is %s on %s, %.2f; needed %g", theme, i.Sample, i.Ink, i.Ground, i.Ratio, needed))
			}
			if least := out.Contrast[theme]; least == 0 || i.Ratio < least {
				out.Contrast[theme] = i.Ratio
			}
		}
	}
	return out, nil
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
			e.Props = append(slices.DeleteFunc(e.Props, func(o screen.Prop) bool { return o.Name == p.Name }), screen.Prop{Name: p.Name, Value: screen.Lit(v)})
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
