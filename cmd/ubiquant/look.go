package main

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"regexp"
	"slices"
	"strings"
	"time"

	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"

	"ubiquant/core/audit"
	"ubiquant/core/deliver"
	"ubiquant/core/deliver/html"
	"ubiquant/core/geometry"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/render"
	"ubiquant/core/screen"
	"ubiquant/internal/browser"
)

// measured has every screen drawn in headless Chromium, under each sample set and at
// each width, and judges what stands where.
func measured(ctx context.Context, l *live.Live, bundle *pack.Bundle, sets []string, widths []int) ([]audit.Finding, error) {
	apps := map[string]bool{}
	for _, d := range l.W.Docs {
		if d.Kind == screen.ScreenDoc && !d.Removed {
			apps[d.App] = true
		}
	}
	var found live.Gathered
	for _, app := range l.W.Apps {
		if !apps[app.ID] {
			continue
		}
		in, err := l.DeliverInput(app.ID, nil, bundle.DeliverFiles())
		if err != nil {
			return nil, err
		}
		files, _, err := html.Target.Deliver(in)
		if err != nil {
			return nil, err
		}
		err = eachLook(
			ctx,
			l,
			in,
			files,
			sets,
			widths,
			func(d *screen.Document, set string, width int, list []geometry.Finding) {
				found.Add(d, live.Look{Set: set, Width: width}, list)
			},
		)
		if err != nil {
			return nil, err
		}
	}
	var out []audit.Finding
	for _, s := range found.Seen() {
		out = append(out, s.Finding)
	}
	return out, nil
}

var listScript = regexp.MustCompile(`\n\s*<script type="module" src="[^"]*\.lists\.js"></script>`)

// boxesOf measures as the Proof's frame does, once the kit has drawn and fonts came.
var boxesOf = strings.ReplaceAll(geometry.Measure, "export ", "") + `
(async () => {
  const all = [...document.querySelectorAll('*')]
  const tags = new Set(all.map(e => e.localName).filter(n => n.includes('-')))
  await Promise.race([Promise.all([...tags].map(t => customElements.whenDefined(t))), new Promise(f => setTimeout(f, 3000))])
  for (const [key, props] of Object.entries(JSON.parse(document.getElementById('props').textContent))) {
    const el = document.querySelector('[data-e="' + CSS.escape(key) + '"]')
    if (el) Object.assign(el, props)
  }
  for (let i = 0; i < 3; i++) await Promise.all([...document.querySelectorAll('*')].map(e => e.updateComplete))
  await document.fonts.ready
  const root = document.querySelector('.u-screen'), boxes = measure(root.querySelectorAll('[data-e]'), root)
  return JSON.stringify(boxes)
})()`

func eachLook(
	ctx context.Context,
	l *live.Live,
	in deliver.Input,
	files []deliver.File,
	sets []string,
	widths []int,
	take func(d *screen.Document, set string, width int, list []geometry.Finding),
) error {
	byPath := map[string][]byte{}
	for _, f := range files {
		byPath["/"+f.Path] = f.Data
	}
	var page []byte
	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path == "/look" {
			w.Header().Set("Content-Type", "text/html; charset=utf-8")
			_, _ = w.Write(page)
			return
		}
		data, ok := byPath[r.URL.Path]
		if !ok {
			http.NotFound(w, r)
			return
		}
		http.ServeContent(w, r, r.URL.Path, time.Time{}, strings.NewReader(string(data)))
	}))
	defer server.Close()
	tab, end, err := browser.Open(ctx)
	if err != nil {
		return err
	}
	defer end()
	for _, d := range in.Screens {
		delivered := byPath["/"+d.ID+".html"]
		head, _, ok := strings.Cut(string(delivered), "</head>")
		if !ok {
			return fmt.Errorf("the page of %s has no head", d.ID)
		}
		head = listScript.ReplaceAllString(head, "")
		for _, set := range sets {
			root, _ := screen.In(d, "", l.Cat)
			n, _ := l.ResolveTree(d, root, live.View{Set: set})
			drawn := render.HTML(l.Kit, n)
			props, err := json.Marshal(drawn.Props)
			if err != nil {
				return err
			}
			page = []byte(
				head + `</head><body><div class="u-screen">` + drawn.HTML + `</div><script type="application/json" id="props">` + strings.ReplaceAll(
					string(props),
					"<",
					`\u003c`,
				) + `</script></body></html>`,
			)
			if string(props) == "null" {
				page = []byte(strings.Replace(string(page), `id="props">null<`, `id="props">{}<`, 1))
			}
			for _, width := range widths {
				var text string
				if err := chromedp.Run(tab, chromedp.EmulateViewport(int64(width), 900), chromedp.Navigate(server.URL+"/look"),
					chromedp.Evaluate(boxesOf, &text, func(p *runtime.EvaluateParams) *runtime.EvaluateParams { return p.WithAwaitPromise(true) })); err != nil {
					return fmt.Errorf("%s with %s at %d: %w", d.ID, set, width, err)
				}
				var boxes []geometry.Box
				if err := json.Unmarshal([]byte(text), &boxes); err != nil {
					return err
				}
				take(d, set, width, geometry.Judge(n, root, boxes, float64(width)))
			}
		}
	}
	return nil
}

// lookSets are the sets that screens are seen under.
func lookSets(l *live.Live) []string {
	var out []string
	for _, s := range l.Sets() {
		out = append(out, s.ID)
	}
	slices.Sort(out)
	return out
}
