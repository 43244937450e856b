package main

import (
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"fmt"
	"io/fs"
	"log/slog"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"runtime"
	"slices"
	"time"

	"github.com/chromedp/cdproto/heapprofiler"
	"github.com/chromedp/cdproto/network"
	cdpruntime "github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/spf13/cobra"

	"ubiquant/core/change"
	"ubiquant/core/deliver"
	"ubiquant/core/deliver/targets"
	"ubiquant/core/find"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/norm"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
	"ubiquant/core/wsfile"
	"ubiquant/internal/browser"
	"ubiquant/internal/generate"
	"ubiquant/server"
	"ubiquant/server/assets"
)

// figure is one measured budget.
type figure struct {
	What    string  `json:"what"`
	Value   float64 `json:"value"`
	Unit    string  `json:"unit"`
	Budget  float64 `json:"budget,omitempty"` // 0: told, not budgeted
	Least   bool    `json:"least,omitempty"`  // the budget is a lower bound
	Over    bool    `json:"over"`
	Details string  `json:"details,omitempty"`
}

type meter struct {
	figures []figure
	log     func(string)
	edit    float64 // how long an edit takes on 500 elements, in milliseconds
}

func (m *meter) add(f figure) {
	if f.Budget > 0 {
		f.Over = f.Value > f.Budget
		if f.Least {
			f.Over = f.Value < f.Budget
		}
	}
	m.figures = append(m.figures, f)
	mark := "  "
	if f.Over {
		mark = "! "
	}
	line := fmt.Sprintf("%s%-62s %9.3g %-6s", mark, f.What, f.Value, f.Unit)
	if f.Budget > 0 {
		line += fmt.Sprintf(" budget %g", f.Budget)
	}
	if f.Details != "" {
		line += "  (" + f.Details + ")"
	}
	m.log(line)
}

func measureCommand() *cobra.Command {
	var sizes []int
	var seed uint64
	var format string
	var noBrowser bool
	c := &cobra.Command{
		Use:   "measure",
		Short: "Measure the budgets, each as a ratio to a reference in the same run",
		Long:  "Generates workspaces from a seed and measures audit, reading, edits, searches, delivery,\nthe browser, and precision and recall on planted slips. Lines with ! are over budget.",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			m := &meter{log: func(s string) {
				if format == "text" {
					fmt.Fprintln(cmd.OutOrStdout(), s)
				}
			}}
			bundle, err := assets.Kit()
			if err != nil {
				return &exitError{exitBroken, err}
			}
			m.accuracy(bundle, seed)
			m.teams(bundle, seed)
			for _, n := range sizes {
				if err := m.scale(bundle, n, seed); err != nil {
					return err
				}
			}
			m.search(bundle)
			if err := m.data(bundle); err != nil {
				return err
			}
			if err := m.load(); err != nil {
				return err
			}
			for _, n := range []int{300, 1000} {
				if err := m.code(cmd.Context(), bundle.Kit, n, seed); err != nil {
					return err
				}
			}
			if !noBrowser {
				if err := m.inBrowser(cmd.Context(), seed); err != nil {
					return err
				}
			}
			if format == "json" {
				enc := json.NewEncoder(cmd.OutOrStdout())
				enc.SetIndent("", " ")
				return enc.Encode(m.figures)
			}
			return nil
		},
	}
	c.Flags().IntSliceVar(&sizes, "screens", []int{100, 1000, 10000}, "sizes of the generated workspaces")
	c.Flags().Uint64Var(&seed, "seed", 1, "seed of the generated workspaces")
	choice(c, &format, "format", "how it is written", "text", "json")
	c.Flags().BoolVar(&noBrowser, "no-browser", false, "leave out what needs Chromium and PostgreSQL")
	return c
}

// accuracy states precision and recall of strays on planted slips.
func (m *meter) accuracy(bundle *pack.Bundle, seed uint64) {
	for _, screens := range []int{30, 300} {
		for _, share := range []float64{0.01, 0.03, 0.1} {
			w, slips := generate.Workspace(generate.Options{Screens: screens, Elements: 80, Slips: share, Seed: seed})
			l := live.Open(w, bundle.Kit, today())
			found := l.Strays()
			hit := func(list int) int {
				n := 0
				for _, s := range found[:min(list, len(found))] {
					if slices.Contains(slips, generate.Slip{Doc: s.Doc, Element: s.Element, Prop: s.Prop}) {
						n++
					}
				}
				return n
			}
			top := min(20, len(found))
			name := fmt.Sprintf("%d screens, %g %% slips", screens, share*100)
			if top > 0 {
				m.add(
					figure{
						What:   "precision among the " + fmt.Sprint(top) + " most certain, " + name,
						Value:  float64(hit(20)) / float64(top),
						Budget: 0.9,
						Least:  true,
						Unit:   "",
					},
				)
			}
			all := hit(len(found))
			precision := 1.0
			if len(found) > 0 {
				precision = float64(all) / float64(len(found))
			}
			m.add(
				figure{
					What:    "recall, " + name,
					Value:   float64(all) / float64(max(1, len(slips))),
					Details: fmt.Sprintf("precision %.2f, %d strays, %d planted", precision, len(found), len(slips)),
				},
			)
		}
	}
}

// plain is what encoding/json decodes as the reference: the same data, no more.
type plain struct {
	ID       string         `json:"id"`
	Type     string         `json:"type"`
	Slot     string         `json:"slot"`
	Text     any            `json:"text"`
	Props    map[string]any `json:"props"`
	Children []plain        `json:"children"`
}

func timed(fn func()) float64 {
	start := time.Now()
	fn()
	return time.Since(start).Seconds()
}

func median(list []float64) float64 {
	s := slices.Clone(list)
	slices.Sort(s)
	return s[len(s)/2]
}

func percentile(list []float64, p float64) float64 {
	s := slices.Clone(list)
	slices.Sort(s)
	return s[min(len(s)-1, int(p*float64(len(s))))]
}

func (m *meter) scale(bundle *pack.Bundle, n int, seed uint64) error {
	w, _ := generate.Workspace(generate.Options{Screens: n, Elements: 150, Slips: 0.02, Seed: seed})
	name := fmt.Sprintf("%d screens", n)
	elements := 0
	texts := make([][]byte, len(w.Docs))
	for i, d := range w.Docs {
		var out screen.Writer
		out.Element(d.Root)
		texts[i] = out.B
		elements += d.Root.Count()
	}
	var reference float64
	for range 2 { // the second is warm
		reference = timed(func() {
			for _, t := range texts {
				var p plain
				if err := json.Unmarshal(t, &p); err != nil {
					panic(err) // what our own writer made
				}
			}
		})
	}
	var l *live.Live
	runtime.GC()
	audit := timed(func() { l = live.Open(w, bundle.Kit, today()); l.Findings(); l.Strays(); l.Questions() })
	m.add(
		figure{
			What:    "audit in memory ÷ decoding by encoding/json, " + name,
			Value:   audit / reference,
			Budget:  0.4,
			Unit:    "×",
			Details: fmt.Sprintf("%d elements, %.2f s", elements, audit),
		},
	)

	// An edit, with counts, norms and findings up to date after it.
	var edits []float64
	for i := range 30 {
		d := w.Docs[(i*7)%len(w.Docs)]
		value := []string{"3", "5"}[i%2]
		change := change.Change{
			Title: "x",
			Steps: []change.Step{
				&change.Edit{
					Doc:   usage.DocKey(d),
					Edits: []screen.Edit{{Op: screen.Set, ID: d.Root.ID, Prop: "padding", Value: screen.Lit(value)}},
				},
			},
		}
		var err error
		edits = append(edits, 1000*timed(func() {
			if _, err = l.Take(change); err == nil {
				l.Of(usage.DocKey(d))
				l.Counts()
			}
		}))
		if err != nil {
			return err
		}
	}
	m.add(
		figure{
			What:    "after one edit, everything up to date, " + name,
			Value:   median(edits),
			Budget:  10,
			Unit:    "ms",
			Details: fmt.Sprintf("p95 %.1f", percentile(edits, 0.95)),
		},
	)

	// The worklist, against the audit that it lists; and all repairs on offer, made and applied.
	var work []live.Work
	listed := timed(func() { work = l.Worklist() })
	m.add(figure{
		What: "worklist ÷ audit, " + name, Value: listed / audit, Budget: 0.3, Unit: "×",
		Details: fmt.Sprintf("%d things, %.0f ms", len(work), 1000*listed),
	})
	strays := slices.DeleteFunc(l.Strays(), func(s norm.Stray) bool { return len(s.Fix) == 0 })
	strays = strays[:min(len(strays), 300)]
	var lined change.Change
	repaired := timed(func() { lined, _ = l.Line(l.Safe(strays), nil, "x") })
	m.add(figure{
		What: "repairs prepared ÷ audit, " + name, Value: repaired / audit, Budget: 1, Unit: "×",
		Details: fmt.Sprintf("%d on %d screens, %.0f ms", len(strays), len(lined.Steps), 1000*repaired),
	})

	// Where is this used, against grep over the same screens as code.
	sel, err := screen.ParseSelector("sorrel-form sorrel-button[emphasis=strong]")
	if err != nil {
		return err
	}
	where := timed(func() { found := 0; l.Where(sel, func(*screen.Document, *screen.Element) { found++ }) })
	dir, err := os.MkdirTemp("", "ubq-measure-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	vue, _ := targets.Find("vue")
	for _, d := range w.Docs {
		if err := os.WriteFile(filepath.Join(dir, d.ID+".vue"), []byte(vue.Element(bundle.Kit, l.Cat, d.Root)), 0o644); err != nil {
			return err
		}
	}
	grep := timed(func() { err = exec.Command("grep", "-rc", "sorrel-button", dir).Run() })
	if err != nil {
		return fmt.Errorf("grep: %w", err)
	}
	m.add(
		figure{
			What:   "where is this used ÷ grep -rc over the code, " + name,
			Value:  where / grep,
			Budget: 0.5,
			Unit:   "×",
		},
	)

	if n >= 100 {
		in, err := l.DeliverInput("", nil, bundle.DeliverFiles())
		if err != nil {
			return err
		}
		in.Screens = in.Screens[:100]
		for _, t := range targets.All() {
			if t.Framework == "" || t.Refuses(l.Kit) != "" {
				continue
			}
			var files []deliver.File
			took := timed(func() { files, _, err = t.Inside(in) })
			if err != nil {
				return err
			}
			wrote := timed(func() { err = writeAway(files) })
			if err != nil {
				return err
			}
			m.add(figure{What: "delivering 100 screens for " + t.Title + ", of " + name, Value: took, Budget: 1, Unit: "s"})
			m.add(figure{What: "  ÷ writing the same bytes to files", Value: took / wrote, Budget: 5, Unit: "×"})
		}
	}

	// From bytes, with the memory it takes.
	whole := wsfile.Write(w)
	w, l, texts = nil, nil, nil
	runtime.GC()
	var after runtime.MemStats
	var readErr error
	var again *live.Live
	fromBytes := timed(func() {
		var read *model.Workspace
		if read, readErr = wsfile.Read(whole); readErr == nil {
			again = live.Open(read, bundle.Kit, today())
			again.Findings()
			again.Strays()
		}
	})
	if readErr != nil {
		return readErr
	}
	runtime.GC()
	runtime.ReadMemStats(&after)
	m.add(
		figure{
			What:   "the same, read from bytes ÷ decoding, " + name,
			Value:  fromBytes / reference,
			Budget: 1.2,
			Unit:   "×",
		},
	)
	m.add(
		figure{
			What:    "memory of it, " + name,
			Value:   (float64(after.HeapAlloc) - float64(len(whole))) / (1 << 30),
			Budget:  1.5,
			Unit:    "GiB",
			Details: fmt.Sprintf("the text has %.0f MiB", float64(len(whole))/(1<<20)),
		},
	)
	runtime.KeepAlive(again)
	runtime.KeepAlive(whole)
	return nil
}

// search times finding among 2,000 entries, word by word as it is typed.
func (m *meter) search(bundle *pack.Bundle) {
	k := bundle.Kit
	entries := find.Kit(k, k.Components, func(string) int { return 0 })
	for len(entries) < 2000 {
		entries = append(entries, entries[:min(len(entries), 2000-len(entries))]...)
	}
	ix := find.New(entries)
	var times []float64
	for _, query := range []string{"b", "but", "button", "date picker", "box with picture", "dialgo", "how to show a big number"} {
		times = append(times, 1000*timed(func() { ix.Search(query, 60) }))
	}
	m.add(
		figure{
			What:    "finding among 2,000 entries, the slowest of seven queries",
			Value:   slices.Max(times),
			Budget:  30,
			Unit:    "ms",
			Details: fmt.Sprintf("median %.1f", median(times)),
		},
	)
}

// data times a long table, and records that come in.
func (m *meter) data(bundle *pack.Bundle) error {
	rows := sample.Model{ID: "rows", Name: "Row"}
	row := &screen.Element{ID: "row", Type: "sorrel-row", Repeat: &screen.Repeat{Model: "rows", Sort: "f1"}}
	for i := range 8 {
		name := fmt.Sprintf("f%d", i+1)
		rows.Fields = append(rows.Fields, sample.Field{Name: name, Type: sample.Text, Required: true})
		row.Children = append(
			row.Children,
			&screen.Element{
				ID:   "c" + name,
				Type: "sorrel-cell",
				Text: screen.Value{Kind: screen.Expr, Text: "upper(record." + name + ") + '.'"},
			},
		)
	}
	order := sample.Order{Model: &rows, Seed: 1, Count: 10_000, Today: today()}
	var records []sample.Record
	var err error
	made := timed(func() { records, err = sample.Generate(order) })
	if err != nil {
		return err
	}
	m.add(figure{What: "10,000 records of 8 fields made up", Value: made, Unit: "s"})
	d := &screen.Document{
		Kind:     screen.ScreenDoc,
		ID:       "rows",
		Title:    "Rows",
		Route:    "/rows",
		App:      "a",
		Revision: 1,
		Root:     &screen.Element{ID: "table", Type: "sorrel-table", Children: []*screen.Element{row}},
	}
	w := &model.Workspace{
		Name:   "Rows",
		Apps:   []model.App{{ID: "a", Name: "A"}},
		Models: []sample.Model{rows},
		Sets: []sample.Set{
			{ID: "usual", Name: "Usual", Records: map[string][]sample.Record{"rows": records[:500]}},
		},
		Docs: []*screen.Document{d},
	}
	l := live.Open(w, bundle.Kit, today())
	var times []float64
	for range 20 {
		times = append(times, 1000*timed(func() { _, _, err = l.Page("screen:rows", live.View{}) }))
		if err != nil {
			return err
		}
	}
	m.add(
		figure{
			What:    "a table of 500 rows × 8 computed cells resolved and rendered",
			Value:   median(times),
			Budget:  33,
			Unit:    "ms",
			Details: fmt.Sprintf("p95 %.1f", percentile(times, 0.95)),
		},
	)
	text := rows.CSV(records, false)
	in := timed(func() {
		var t *sample.Table
		if t, err = sample.ReadTable(text, ""); err == nil {
			fields := make([]string, len(t.Columns))
			for i, c := range t.Columns {
				if c != "id" {
					fields[i] = c
				}
			}
			t.Infer(nil)
			list, _ := t.Records(&rows, fields, map[string]bool{}, nil)
			_, err = l.Take(
				change.Change{
					Title: "in",
					Steps: []change.Step{
						&change.Records{
							Rows: change.Rows{Set: "usual", Model: "rows", All: list, Whole: true},
						},
					},
				},
			)
		}
	})
	m.add(figure{What: "10,000 records read from CSV and taken in", Value: in, Budget: 2, Unit: "s"})
	return err
}

var firstLoad = regexp.MustCompile(`(?:src|href)="/(assets/[^"]+\.(?:js|css))"`)

// load sums what the browser fetches before the first screen shows.
func (m *meter) load() error {
	app, err := assets.App()
	if err != nil {
		return &exitError{exitBroken, err}
	}
	index, err := fs.ReadFile(app, "index.html")
	if err != nil {
		return err
	}
	names := []string{"index.html"}
	for _, match := range firstLoad.FindAllSubmatch(index, -1) {
		names = append(names, string(match[1]))
	}
	for _, part := range []string{"OverviewPlace", "TileStage", "FindingMark"} {
		more, err := fs.Glob(app, "assets/"+part+"-*.js")
		if err != nil {
			return err
		}
		names = append(names, more...)
	}
	total := 0.0
	for _, name := range names {
		data, err := fs.ReadFile(app, name)
		if err != nil {
			return err
		}
		total += zipped(data)
	}
	m.add(figure{What: "first load, gzip", Value: total, Budget: 250, Unit: "KB"})
	bundle, err := assets.Kit()
	if err != nil {
		return err
	}
	m.add(
		figure{
			What:   "the kit's module and style sheet, gzip",
			Value:  zipped(bundle.Files[pack.ModuleFile]) + zipped(bundle.Sheet()),
			Budget: 120,
			Unit:   "KB",
		},
	)
	return nil
}

// zipped is the size of a file in KB as it goes over the wire.
func zipped(data []byte) float64 {
	var b bytes.Buffer
	z := gzip.NewWriter(&b)
	_, _ = z.Write(data) // a Buffer does not fail
	_ = z.Close()
	return float64(b.Len()) / 1024
}

// visits measures what the Shelf fetches at first, and whether the page holds on to
// memory when it is left and visited again.
func (m *meter) visits(tab context.Context, url string) error {
	var fetched float64
	if err := chromedp.Run(tab, chromedp.Navigate("about:blank"), network.ClearBrowserCache(), chromedp.Navigate(url+"/shelf"),
		browser.Until(`document.querySelector('[data-pending="0"]') && document.querySelectorAll('[data-wall]').length >= 40`),
		chromedp.Evaluate(`performance.getEntriesByType('resource').filter(e => !e.name.includes('/frame/')).reduce((n, e) => n + e.encodedBodySize, performance.getEntriesByType('navigation')[0].encodedBodySize) / 1024`, &fetched)); err != nil {
		return err
	}
	m.add(figure{What: "the Shelf's first view besides the kit, as sent", Value: fetched, Budget: 300, Unit: "KB"})
	var heap []float64
	for range 12 {
		var used float64
		if err := chromedp.Run(tab,
			chromedp.Evaluate(`document.querySelector('nav[aria-label=Places] a[href="/"]').click()`, nil), browser.Until(`location.pathname === '/' && document.querySelector('h1') && document.querySelector('[data-pending="0"]')`),
			chromedp.Evaluate(`document.querySelector('nav[aria-label=Places] a[href="/shelf"]').click()`, nil), browser.Until(`document.querySelectorAll('[data-wall]').length >= 40 && document.querySelector('[data-pending="0"]')`),
			chromedp.Evaluate(`document.querySelector('nav[aria-label=Places] a[href="/"]').click()`, nil), browser.Until(`location.pathname === '/' && document.querySelector('[data-pending="0"]')`),
			heapprofiler.CollectGarbage(), chromedp.Evaluate(`performance.memory.usedJSHeapSize / 1048576`, &used)); err != nil {
			return err
		}
		heap = append(heap, used)
	}
	m.add(
		figure{
			What:    "memory of the page after ten more visits of the Shelf",
			Value:   heap[11] / heap[1],
			Budget:  1.1,
			Unit:    "×",
			Details: fmt.Sprintf("%.1f MiB after two, %.1f after twelve", heap[1], heap[11]),
		},
	)
	return nil
}

// editScript clicks one of two choices in turn and waits for the paint of each,
// told by the revision that the Proof shows.
const editScript = `(async (prop, values) => {
  const surface = document.querySelector('[data-painted]'), times = []
  for (let i = 0; i < 40; i++) {
    const choice = [...document.querySelectorAll('[role=radiogroup][aria-label=' + prop + '] [role=radio]')].find(b => b.getAttribute('aria-checked') === 'false' && values.includes(b.textContent.trim().split(' ')[0]))
    const before = surface.dataset.painted, from = performance.now()
    choice.click()
    await new Promise(done => { const o = new MutationObserver(() => { if (surface.dataset.painted !== before) { o.disconnect(); done() } }); o.observe(surface, {attributes: true}) })
    times.push(performance.now() - from)
    await new Promise(r => setTimeout(r, 60))
  }
  const answers = performance.getEntriesByType('resource').filter(e => e.name.endsWith('/api/changes')).map(e => e.duration).sort((a, b) => a - b)
  return [...times, answers[answers.length >> 1]]
})`

// edits are made on a 500-element screen: one that changes one element, and the
// worst there is, which moves every other.
var edits = []struct{ what, element, prop, values string }{
	{"an edit on a 500-element screen, sent to painted", "e3", "emphasis", `["strong", "soft"]`},
	{"the same where everything moves", "e1", "padding", `["4", "5"]`},
}

func awaitPromise(p *cdpruntime.EvaluateParams) *cdpruntime.EvaluateParams {
	return p.WithAwaitPromise(true)
}

// firstKeeper is who looks after a database that begins with a workspace of one's own.
const firstKeeper = "keeper"

func (m *meter) inBrowser(ctx context.Context, seed uint64) error {
	for _, safe := range []bool{false, true} {
		if err := m.editsInBrowser(ctx, seed, safe); err != nil {
			return err
		}
	}
	return m.largeInBrowser(ctx, seed)
}

// dataFolder makes a folder that a database may live in, under whatever user it runs.
func dataFolder() (dir string, clean func(), err error) {
	if dir, err = os.MkdirTemp("", "ubq-measure-"); err != nil {
		return "", nil, err
	}
	return dir, func() { os.RemoveAll(dir) }, os.Chmod(dir, 0o711)
}

// openScript goes from one screen to another inside the application, and tells how
// long it took until its lines and its picture stood.
const openScript = `(async (path, title) => {
  const from = performance.now()
  history.pushState({}, '', path)
  dispatchEvent(new PopStateEvent('popstate', { state: {} }))
  for (;;) {
    await new Promise(r => setTimeout(r, 4))
    if (document.querySelector('h1')?.textContent === title && document.querySelector('[data-pending="0"]') && document.querySelector('[data-selected]')) return performance.now() - from
  }
})`

// dragScript drags what a selector finds up and down over the middle of its view, a step a
// frame, gives it up, and tells how long each frame took.
const dragScript = `(async (selector, from, view) => {
  const el = document.querySelector(selector), r = document.querySelector(from).getBoundingClientRect(), v = document.querySelector(view).getBoundingClientRect()
  const at = (on, type, x, y) => on.dispatchEvent(new PointerEvent(type, { bubbles: true, clientX: x, clientY: y, button: 0, buttons: 1, pointerType: 'mouse' }))
  const frame = () => new Promise(requestAnimationFrame)
  at(el, 'pointerdown', r.x + r.width / 2, r.y + r.height / 2)
  const times = []
  let last = await frame()
  for (let i = 0; i < 150; i++) {
    at(window, 'pointermove', v.x + 80 + i % 40, v.y + v.height * (0.5 + 0.3 * Math.sin(i / 12)))
    const now = await frame()
    times.push(now - last)
    last = now
  }
  const marked = !!document.querySelector('[data-drop], [data-line-drop]')
  dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }))
  at(window, 'pointerup', v.x + 80, v.y + 80)
  return marked ? times : []
})`

// drags are those whose frames are counted: what takes the press, where, and the view.
var drags = []struct{ what, selector, from, view string }{
	{"dragging on the Proof", "[data-painted]", "[data-selected]", "[aria-label=Proof]"},
	{"dragging lines", "[data-line=e3]", "[data-line=e3]", "[role=tree]"},
}

// largeInBrowser measures what grows with a screen: an edit on four times as many
// elements, and how long a screen of 500 takes to open.
func (m *meter) largeInBrowser(ctx context.Context, seed uint64) error {
	for _, elements := range []int{500, 2000} {
		dir, clean, err := dataFolder()
		if err != nil {
			return err
		}
		defer clean()
		w, _ := generate.Workspace(generate.Options{Screens: 6, Elements: elements, Slips: 0.02, Seed: seed})
		kit, err := assets.Kit()
		if err != nil {
			return err
		}
		running, err := server.Start(
			ctx,
			server.Options{
				Data:      dir,
				Temporary: true,
				Workspace: w,
				Kit:       kit.From,
				Log:       slog.New(slog.NewTextHandler(os.Stderr, nil)),
			},
		)
		if err != nil {
			return &exitError{exitBroken, err}
		}
		defer running.Stop()
		tab, end, err := keepersWindow(ctx, running, firstKeeper, 3*time.Minute)
		if err != nil {
			return &exitError{exitBroken, err}
		}
		defer end()
		var times []float64
		if err := chromedp.Run(tab, chromedp.Navigate(running.URL+"/bench/screen/s0#e3"), browser.Until(`document.querySelector('[data-selected]') && document.querySelector('[aria-label=emphasis]')`), browser.Drawn(),
			chromedp.Evaluate(editScript+`("emphasis", ["strong", "soft"])`, &times, awaitPromise)); err != nil {
			return err
		}
		took := median(times[:len(times)-1])
		for _, d := range drags {
			var frames []float64
			if err := chromedp.Run(tab, browser.Drawn(), chromedp.Evaluate(dragScript+`("`+d.selector+`", "`+d.from+`", "`+d.view+`")`, &frames, awaitPromise)); err != nil {
				return err
			}
			if len(frames) == 0 {
				return fmt.Errorf("%s showed no mark", d.what)
			}
			sum := 0.0
			for _, f := range frames {
				sum += f
			}
			m.add(
				figure{
					What:    fmt.Sprintf("%s among %d elements, frames a second", d.what, elements),
					Value:   1000 * float64(len(frames)) / sum,
					Budget:  57,
					Least:   true,
					Unit:    "",
					Details: fmt.Sprintf("95 of 100 within %.0f ms", percentile(frames, 0.95)),
				},
			)
		}
		if elements == 500 {
			m.edit = took
			var opened []float64
			for i := range 12 {
				d := w.Docs[len(w.Docs)-1-i%2]
				var ms float64
				if err := chromedp.Run(tab, chromedp.Evaluate(openScript+`("/bench/screen/`+d.ID+`", "`+d.Title+`")`, &ms, awaitPromise)); err != nil {
					return err
				}
				opened = append(opened, ms)
			}
			m.add(
				figure{
					What:   "opening a screen of 500 elements from another",
					Value:  median(opened),
					Budget: 300,
					Unit:   "ms",
				},
			)
		} else {
			m.add(figure{What: "an edit on 2,000 elements, times that on 500", Value: took / m.edit, Budget: 2, Unit: "×", Details: fmt.Sprintf("%.0f ms and %.0f", took, m.edit)})
		}
	}
	return nil
}

func (m *meter) editsInBrowser(ctx context.Context, seed uint64, safe bool) error {
	dir, clean, err := dataFolder()
	if err != nil {
		return err
	}
	defer clean()
	w, _ := generate.Workspace(generate.Options{Screens: 40, Elements: 500, Slips: 0.02, Seed: seed})
	kit, err := assets.Kit()
	if err != nil {
		return err
	}
	start := time.Now()
	running, err := server.Start(
		ctx,
		server.Options{Data: dir, Temporary: !safe, Workspace: w, Kit: kit.From, Log: slog.New(slog.NewTextHandler(os.Stderr, nil))},
	)
	if err != nil {
		return &exitError{exitBroken, err}
	}
	defer running.Stop()
	name := "without the disk's sync"
	if safe {
		name = "with the disk's sync"
		m.add(
			figure{
				What:  "start to serving, database made and filled",
				Value: 1000 * time.Since(start).Seconds(),
				Unit:  "ms",
			},
		)
		second := time.Now()
		other, err := server.Start(
			ctx,
			server.Options{Database: running.Database, Log: slog.New(slog.NewTextHandler(os.Stderr, nil))},
		)
		if err != nil {
			return err
		}
		m.add(
			figure{
				What:   "start to serving, database running",
				Value:  1000 * time.Since(second).Seconds(),
				Budget: 500,
				Unit:   "ms",
			},
		)
		if err := other.Stop(); err != nil {
			return err
		}
	}
	tab, end, err := keepersWindow(ctx, running, firstKeeper, 3*time.Minute)
	if err != nil {
		return &exitError{exitBroken, err}
	}
	defer end()
	for _, edit := range edits {
		var times []float64
		if err := chromedp.Run(tab, chromedp.Navigate("about:blank"), chromedp.Navigate(running.URL+"/bench/screen/s0#"+edit.element), browser.Until(`document.querySelector('[data-selected]') && document.querySelector('[aria-label=`+edit.prop+`]')`), browser.Drawn(),
			chromedp.Evaluate(editScript+`("`+edit.prop+`", `+edit.values+`)`, &times, awaitPromise)); err != nil {
			return err
		}
		answer := times[len(times)-1]
		times = times[:len(times)-1]
		m.add(
			figure{
				What:    edit.what + ", " + name,
				Value:   median(times),
				Budget:  33,
				Unit:    "ms",
				Details: fmt.Sprintf("the server's answer takes %.0f", answer),
			},
		)
		m.add(figure{What: "  95 of 100 within", Value: percentile(times, 0.95), Budget: 66, Unit: "ms"})
	}
	if !safe {
		var wall float64
		var examples int
		if err := chromedp.Run(tab, chromedp.Navigate(running.URL+"/shelf"), browser.Until(`document.querySelector('[data-pending="0"]') && document.querySelectorAll('li a').length >= 40`),
			chromedp.Evaluate(`performance.now()`, &wall), chromedp.Evaluate(`document.querySelectorAll('li a').length`, &examples)); err != nil {
			return err
		}
		m.add(
			figure{
				What:    "the wall: navigation to all examples near the view drawn",
				Value:   wall / 1000,
				Budget:  1,
				Unit:    "s",
				Details: fmt.Sprintf("%d components, those near the view drawn, and the icons", examples),
			},
		)
		return m.visits(tab, running.URL)
	}
	return nil
}

// writeAway writes files to a folder that goes again.
func writeAway(files []deliver.File) error {
	dir, err := os.MkdirTemp("", "ubiquant-delivered-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	tree := map[string][]byte{}
	for _, f := range files {
		tree[f.Path] = f.Data
	}
	return writeFiles(dir, tree)
}
