package e2e_test

import (
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/deliver/targets"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/browser"
	"ubiquant/internal/testkit"
	"ubiquant/server/assets"
)

// hostile are texts that would run something where one place is written without care.
var hostile = []string{
	`{{ constructor.constructor("globalThis.__did=1")() }}`,
	`}} {{ constructor.constructor('globalThis.__did=2')() }} {{`,
	`"><img src=x onerror="globalThis.__did=3">`,
	`</script></template><script>globalThis.__did=4</script>`,
	`'+(globalThis.__did=5)+'`,
	"`+(globalThis.__did=6)+`${globalThis.__did=6}",
	`*/ globalThis.__did=7 /*`,
	"\\'; globalThis.__did=8; // \u2028 globalThis.__did=8",
	`" onclick="globalThis.__did=9" x="`,
	`<!-- --><svg onload=globalThis.__did=10>`,
	`javascript:globalThis.__did=11`,
}

// haunted is the demo with hostile texts in every place where a person can write.
func haunted(t *testing.T, k *kit.Kit) *live.Live {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	n := 0
	next := func() string { n++; return hostile[n%len(hostile)] }
	for _, d := range w.Docs {
		d.Title = next()
		d.Root.Walk(func(e, _ *screen.Element) bool {
			if e.Text.Kind == screen.Literal {
				e.Text = screen.Lit(next())
			} else if e.Text.Kind == screen.Expr && n%3 == 0 {
				e.Text.Text = "text(" + e.Text.Text + ") + '" + strings.ReplaceAll(hostile[0], "'", "") + "'"
			}
			def, _ := k.Component(e.Type)
			for i, p := range e.Props {
				prop := (*kit.Prop)(nil)
				if def != nil {
					prop, _ = def.Prop(p.Name)
				}
				if p.Value.Kind == screen.Literal && prop != nil && prop.Type == kit.Text && p.Name != kit.Does &&
					!strings.HasPrefix(p.Value.Text, "/") {
					e.Props[i].Value = screen.Lit(next())
				}
			}
			return true
		})
	}
	for i := range w.Sets {
		for _, records := range w.Sets[i].Records {
			for _, r := range records {
				for field, v := range r {
					m, isText := v.(string)
					if isText && field != "id" && strings.Contains(m, " ") || field == "picture" {
						r[field] = next()
					}
				}
			}
		}
	}
	for i := range w.Sources {
		w.Sources[i].Path += "${globalThis.__did=12}`+(globalThis.__did=12)+'"
	}
	w.Apps[0].Name = hostile[3]
	// Words of the language and of the code around, as names of models.
	for _, id := range []string{"delete", "class", "x", "models", "array", "string"} {
		w.Models = append(w.Models, sample.Model{ID: id, Name: id, Fields: []sample.Field{{Name: "name", Type: sample.Text}}})
		w.Sets[0].Records[id] = []sample.Record{{"id": "a", "name": next()}}
	}
	for i, d := range w.Docs {
		if d.Address() == "screen:messages" {
			d.Root.Children = append(d.Root.Children, &screen.Element{ID: "haunt", Type: "stack", Children: []*screen.Element{
				{ID: "h1", Type: "sorrel-text", Name: "delete", Repeat: &screen.Repeat{Model: "delete"}, Text: screen.Value{Kind: screen.Expr, Text: "record.name"}},
				{ID: "h2", Type: "sorrel-text", Name: "tickets", Repeat: &screen.Repeat{Model: "x"}, Text: screen.Value{Kind: screen.Expr, Text: "record.name"}},
				{ID: "h3", Type: "sorrel-text", Name: "class", Text: screen.Value{Kind: screen.Expr, Text: "text(size(class) + size(string) + size(models) + size(array))"}},
				{ID: "h4", Type: "sorrel-link", Repeat: &screen.Repeat{Model: "delete"}, Text: screen.Lit("to"),
					Props: []screen.Prop{{Name: "to", Value: screen.Value{Kind: screen.Expr, Text: "'java' + 'script:globalThis.__did=13'"}}}},
			}})
			w.Docs[i] = d
		}
	}
	return live.Open(w, k, today())
}

// Whatever somebody typed, delivered code shows it and runs none of it: it builds, and in
// Chromium nothing ran, also when what can be followed is followed.
func TestDeliveredCodeIsInert(t *testing.T) {
	if testing.Short() {
		t.Skip("installs packages and drives Chromium")
	}
	alongside(t)
	bundle, err := assets.Kit()
	require.NoError(t, err)
	l := haunted(t, bundle.Kit)
	in, err := l.DeliverInput("", nil, bundle.DeliverFiles())
	require.NoError(t, err)
	routes := []string{"/", "/messages", "/tickets", "/specimens", "/volunteers", "/settings", "/visitors", "/orders"}
	for _, target := range targets.All() {
		if target.Framework == "" {
			continue
		}
		t.Run(target.ID, func(t *testing.T) {
			dir := written(t, target.ID, in)
			build(t, dir, "VITE_SAMPLES=1")
			inert(t, filepath.Join(dir, "dist"), routes)
		})
	}
	t.Run("pages", func(t *testing.T) {
		dir := written(t, "html", in)
		pages, err := filepath.Glob(filepath.Join(dir, "*.html"))
		require.NoError(t, err)
		for i, p := range pages {
			pages[i] = "/" + filepath.Base(p)
		}
		inert(t, dir, pages)
	})
}

func inert(t *testing.T, dir string, routes []string) {
	app := httptest.NewServer(pagesOf(dir))
	defer app.Close()
	j := &journey{t: t, ctx: openTab(t), onKeyboard: true}
	for _, route := range routes {
		var did any
		var shown int
		j.run(
			chromedp.Navigate(app.URL+route),
			browser.Until(`document.readyState === 'complete' && document.body.innerText.length > 20`),
			chromedp.Evaluate(`document.body.innerText.length`, &shown),
			// All that can be followed is followed, through shadow roots; pages stay where they are.
			chromedp.Evaluate(`(() => { addEventListener('sorrel-go', e => { e.preventDefault(); e.stopImmediatePropagation() }, true); addEventListener('click', e => { const a = e.composedPath().find(n => n.href !== undefined); if (a && !/^javascript:/i.test(a.href)) e.preventDefault() }, true); const all = n => [...n.querySelectorAll('*')].flatMap(e => [e, ...(e.shadowRoot ? all(e.shadowRoot) : [])]); for (const e of all(document)) if (e.localName === 'a' || e.localName === 'sorrel-link') e.click() })()`, nil),
			chromedp.Evaluate(`globalThis.__did ?? null`, &did),
		)
		assert.Nil(t, did, "%s ran what somebody typed", route)
		assert.Positive(t, shown)
	}
	text, err := os.ReadFile(filepath.Join(dir, "index.html"))
	if err == nil {
		assert.NotContains(t, string(text), hostile[3])
	}
}
