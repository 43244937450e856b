package e2e_test

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/deliver"
	"ubiquant/core/deliver/targets"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/texts"
	"ubiquant/core/wsfile"
	"ubiquant/internal/browser"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/stateful"
	"ubiquant/internal/testkit/translated"
)

// Texts that stand in files of their own are what they were, and in another language what the
// plain pages of that language say: in every framework, by strict compilers, lint rules and the
// formatter.
func TestTextsAreDeliveredInEveryLanguage(t *testing.T) {
	if testing.Short() {
		t.Skip("installs packages and drives Chromium")
	}
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	bundle := withClover(t)
	l := live.Open(w, bundle.Kit, today())
	_, err = l.Take(change.Change{Title: "signs", Steps: []change.Step{&change.Edit{Doc: "screen:beds", Edits: []screen.Edit{
		{Op: screen.Insert, Parent: "beds-1", Tree: testkit.Tree(t, `{"id":"signs","type":"sorrel-text","text":"It's {here}, # 'quoted' <b>`+"`${1}`"+`</b>"}`)},
	}}}})
	require.NoError(t, err)
	stateful.List(t, l, "screen:round")
	translated.Into(l.W, model.NewCatalog(bundle.Kit, l.W), "de", func(key string) bool { return key == "screens.tickets.page-header-5.heading" })
	l.W.Languages = append(l.W.Languages, texts.Language{ID: "ar"})
	in, err := l.DeliverInput("", []string{"tickets", "ticket", "beds", "volunteers", "round"}, bundle.DeliverFiles())
	require.NoError(t, err)
	in.Take(bundle)
	l.WithTexts(&in)
	pages := httptest.NewServer(http.FileServer(http.Dir(written(t, "html", in))))
	t.Cleanup(pages.Close)
	j := begin(t, "ida")
	expected := map[string]shape{}
	for _, folder := range []string{"", "de/", "ar/"} {
		for _, d := range in.Screens {
			expected[folder+d.ID] = j.shape(pages.URL+"/"+folder+d.ID+".html", "")
		}
	}
	assert.Contains(t, expected["beds"].Text, "It's {here}, # 'quoted' <b>`${1}`</b>")
	assert.Contains(t, expected["de/beds"].Text, translated.Words("It's {here}, # 'quoted' <b>`${1}`</b>"))
	assert.Contains(t, expected["de/tickets"].Text, "Ä'ticketsß", "a plural is one in another language, too")
	assert.NotEqual(t, expected["beds"].Text, expected["de/beds"].Text)
	assert.Equal(t, expected["beds"].Text, expected["ar/beds"].Text, "what is not translated is shown as it is written")
	for _, target := range targets.All() {
		if target.Framework != "" {
			t.Run(target.ID, func(t *testing.T) { speaks(t, target, in, expected) })
		}
	}
}

// ofElements is the beginning of an application of React whose routes stand as elements.
const ofElements = `import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter, Routes } from 'react-router'
import { missing, routes, setup } from './app'

setup()
const root = document.getElementById('root')
if (!root) throw new Error('the page has no element "root"')
createRoot(root).render(
  <StrictMode>
    <BrowserRouter>
      <Routes>
        {routes}
        {missing}
      </Routes>
    </BrowserRouter>
  </StrictMode>,
)
`

// speaks compares the screens in each language; with React as parts of routes that stand as elements.
func speaks(t *testing.T, target deliver.Target, in deliver.Input, expected map[string]shape) {
	in.Home.Elements = target.ID == "react"
	dir := written(t, target.ID, in)
	if in.Home.Elements {
		require.NoError(t, os.WriteFile(filepath.Join(dir, "src/main.tsx"), []byte(ofElements), 0o644))
	}
	app := httptest.NewServer(pagesOf(project(t, target.ID, dir, "")))
	t.Cleanup(app.Close)
	j := begin(t, "ida")
	for _, language := range []string{"en", "de", "ar"} {
		j.run(chromedp.Navigate(app.URL+"/beds"), chromedp.Evaluate(fmt.Sprintf(`localStorage.setItem('language', %q)`, language), nil))
		folder := language + "/"
		if language == "en" {
			folder = ""
		}
		for _, d := range in.Screens {
			want := expected[folder+d.ID]
			route := strings.NewReplacer("/tickets/:id", "/tickets/t1", "/rounds/:id", "/rounds/r1").Replace(d.Route)
			assert.Equal(t, want.Text, j.shape(app.URL+route, want.Text).Text, "%s of %s in %s", target.ID, d.ID, language)
		}
		title := "Beds"
		if language == "de" {
			title = translated.Words(title)
		}
		j.run(chromedp.Navigate(app.URL+"/beds"), browser.Until(fmt.Sprintf(
			`document.title.startsWith(%q) && document.documentElement.lang === %q && document.documentElement.dir === %q`,
			title+" ·", language, texts.Direction(language))))
	}
}
