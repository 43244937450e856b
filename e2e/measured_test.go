package e2e_test

import (
	"context"
	"fmt"
	"io"
	"log/slog"
	"slices"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/database"
	"ubiquant/server"
	"ubiquant/server/api"
)

// Every screen is drawn with all records, at all widths and in all themes; what looks wrong is work
// like any other, shown as it was seen. After a change of one screen that one is left to measure.
func TestScreensAreMeasuredIntoTheWorklist(t *testing.T) {
	j := begin(t, "ida")
	j.run(chromedp.Navigate(j.server.URL + "/census/work"))
	j.until(button("Measure"))
	j.click(button("Measure"))
	j.until(`document.body.innerText.includes('Measuring ') && document.querySelector('[role=progressbar]')`)
	// It takes as long as it takes: what is waited for is that it goes on.
	const all = `document.body.innerText.includes('35 of 35 screens measured')`
	for n := 5; n < 35; n += 5 {
		j.until(fmt.Sprintf(`%s || Number(document.querySelector('[role=progressbar]')?.getAttribute('aria-valuenow')) >= %d`, all, n))
	}
	j.until(all)
	row := `[...document.querySelectorAll('[role=treeitem]')].find(r => r.textContent.includes('text, contrast'))`
	j.fill(`document.querySelector('input[aria-label=Words]')`, "contrast")
	j.click(row)
	j.until(`document.querySelector('[aria-label="What it is about"]')?.innerText.includes('hard to read')`)
	j.until(`document.querySelector('[aria-label="What it is about"]')?.innerText.includes('at 1280 px, dark')`)
	assert.NotContains(t, j.text(`document.querySelector('[aria-label="What it is about"]').innerText`), "Repair")

	j.bench("archive", "> 5")
	j.click(lineWith("Kept for seven years"))
	j.until(onLine)
	j.key("c")
	j.until(lineTexts + `.filter(t => t.includes('Kept for seven')).length === 2`)
	j.run(chromedp.Navigate(j.server.URL + "/census/work"))
	j.until(`[...document.querySelectorAll('button')].some(b => b.textContent.trim() === 'Measure 1')`)
}

// Screens are measured by a browser of the server's own once nothing changes: again after an edit,
// and the worklist follows without being asked.
func TestTheServerMeasuresWhatChanges(t *testing.T) {
	at := twoScreens(t)
	j := beginOn(t, "ida", server.Options{Database: at, Measure: true, Quiet: 300 * time.Millisecond})
	j.run(chromedp.Navigate(j.server.URL + "/census/work"))
	contrast := `[...document.querySelectorAll('[role=treeitem]')].some(r => r.textContent.includes('text, contrast'))`
	j.until(contrast)
	before := j.allMeasured()

	j.bench("archive", "> 5")
	j.click(lineWith("Kept for seven years"))
	j.until(onLine)
	j.key("c")
	j.until(lineTexts + `.filter(t => t.includes('Kept for seven')).length === 2`)
	assert.Greater(t, j.allMeasured(), before, "what changed is measured again")
	j.run(chromedp.Navigate(j.server.URL + "/census/work"))
	j.until(contrast)
	j.until(button("Measure"))
	assert.NotContains(t, j.text(`document.body.innerText`), "The server measures", "nothing is left to measure")
}

// twoScreens is a database with two screens of the demo.
func twoScreens(t *testing.T) (at string) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	w.Docs = slices.DeleteFunc(w.Docs, func(d *screen.Document) bool {
		return d.Kind == screen.ScreenDoc && d.ID != "archive" && d.ID != "beds"
	})
	at = database.Empty(t)
	st, closeStore, err := server.OpenStore(t.Context(), server.Options{Database: at})
	require.NoError(t, err)
	require.NoError(t, server.Seed(t.Context(), st, w))
	require.NoError(t, st.PutUser(t.Context(), server.DemoPeople[0], "", "the test"))
	closeStore()
	return at
}

// Behind a public address the pages name that address, which the machine itself may not reach.
func TestTheServerMeasuresBehindAPublicAddress(t *testing.T) {
	alongside(t)
	r, err := server.Start(context.Background(), server.Options{
		Database: twoScreens(t), Measure: true, Quiet: 300 * time.Millisecond,
		Public: api.Public{Address: "https://ubiquant.example"}, Log: slog.New(slog.NewTextHandler(io.Discard, nil)),
	})
	require.NoError(t, err)
	defer func() { assert.NoError(t, r.Stop()) }()
	(&journey{t: t, server: r}).allMeasured()
}

// allMeasured waits until nothing is left to measure, and tells which change was the last by then.
func (j *journey) allMeasured() (seq int64) {
	j.t.Helper()
	require.Eventually(j.t, func() bool {
		left, at, err := j.server.API.ToMeasure(j.t.Context())
		seq = at
		return err == nil && left == 0
	}, 2*time.Minute, 50*time.Millisecond)
	return seq
}
