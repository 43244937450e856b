package e2e_test

import (
	"bytes"
	"context"
	"image"
	"image/png"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// proof is a picture of the Proof at rest, without marks of the application's own.
func (j *journey) proof() image.Image {
	j.t.Helper()
	j.click(button("Preview"))
	j.until(
		`document.querySelector('button[aria-pressed=true]')?.textContent.trim() === 'Preview' && document.querySelector('[data-pending="0"]')`,
	)
	// At rest: fonts have come, and the height stands.
	var settled string
	j.inFrameAwait(`document.fonts.ready.then(() => 'fonts')`, &settled)
	j.run(
		chromedp.Evaluate(
			`(async () => { for (let last = 0, same = 0; same < 4;) { await new Promise(r => setTimeout(r, 100)); const h = document.querySelector('[data-painted]').getBoundingClientRect().height; same = h === last ? same + 1 : 0; last = h } return true })()`,
			nil,
			awaited,
		),
	)
	var shot []byte
	var at struct{ X, Y, W, H float64 }
	j.run(
		chromedp.Evaluate(
			`(() => { const r = document.querySelector('[data-painted]').getBoundingClientRect(); return { X: r.x, Y: r.y, W: r.width, H: Math.min(r.height, innerHeight - r.y) } })()`,
			&at,
		),
		chromedp.ActionFunc(func(ctx context.Context) error {
			var err error
			shot, err = page.CaptureScreenshot().
				WithClip(&page.Viewport{X: at.X, Y: at.Y, Width: at.W, Height: at.H, Scale: 1}).
				Do(ctx)
			return err
		}),
	)
	j.click(button("Preview"))
	img, err := png.Decode(bytes.NewReader(shot))
	require.NoError(j.t, err)
	return img
}

func samePixels(t *testing.T, a, b image.Image, what string) {
	t.Helper()
	require.Equal(t, a.Bounds(), b.Bounds(), what)
	differ := 0
	for y := a.Bounds().Min.Y; y < a.Bounds().Max.Y; y++ {
		for x := a.Bounds().Min.X; x < a.Bounds().Max.X; x++ {
			if a.At(x, y) != b.At(x, y) {
				differ++
			}
		}
	}
	assert.Zero(t, differ, "%s: pixels that differ", what)
}

// lineWith is the line whose text holds all words.
func lineWith(words ...string) string {
	test := make([]string, len(words))
	for i, w := range words {
		test[i] = `l.textContent.includes('` + w + `')`
	}
	return `[...document.querySelectorAll('[data-line]')].find(l => ` + strings.Join(test, " && ") + `)`
}

// A header becomes a piece on three screens. Nothing looks different by a pixel; one
// change reaches all; cut loose, a copy stays as it was.
func TestAHeaderIsTakenApartIntoAPiece(t *testing.T) {
	j := begin(t, "noor")
	screens := []string{"rounds", "tickets", "volunteers"}
	before := map[string]image.Image{}
	for _, s := range screens {
		j.bench(s, "> 5")
		j.untilInFrame(
			"true",
			`String(!!document.querySelector('body > div').shadowRoot.querySelector('sorrel-page-header'))`,
		)
		before[s] = j.proof()
	}
	j.bench("tickets", "> 5")
	j.keys, j.clicks, j.thoughts = 0, 0, 0
	j.think()
	j.click(lineWith("page header"))
	j.until(`document.activeElement?.dataset.line && document.querySelector('[role=group][aria-label^="Choices"]')`)
	j.key("e")
	j.until(`document.querySelectorAll('[role=dialog] fieldset').length === 2`)
	j.click(`document.querySelector('[role=dialog] input:not([type])')`)
	j.command("a", "selectAll")
	j.write("Screen header")
	for _, twin := range []string{"Watering rounds", "Volunteers"} {
		j.think()
		j.click(
			`[...document.querySelectorAll('[role=dialog] fieldset label')].find(l => l.textContent.includes('` + twin + `')).querySelector('input:not(:checked)')`,
		)
	}
	j.click(`[...document.querySelectorAll('[role=dialog] button')].find(b => b.textContent.trim().startsWith('Extract'))`)
	j.until(
		`!document.querySelector('[role=dialog]') && document.activeElement?.textContent.includes('Screen header')`,
	)
	j.effort("a header taken apart into a piece on three screens", 7)
	for _, s := range screens {
		j.bench(s, "> 5")
		j.until(lineWith("Screen header"))
		j.untilInFrame(
			"true",
			`String(!!document.querySelector('body > div').shadowRoot.querySelector('sorrel-page-header'))`,
		)
		samePixels(t, before[s], j.proof(), s)
	}

	// One change of the piece reaches all three; what they set themselves stays.
	j.click(lineWith("Screen header"))
	j.click(`[...document.querySelectorAll('a')].find(a => a.textContent.trim() === 'Open the piece')`)
	j.until(`document.querySelector('[aria-label="Props of the piece"]') && ` + lineWith("button"))
	j.click(lineWith("button"))
	j.click(button("all "))
	j.until(`document.querySelector('[role=radiogroup][aria-label=size]')`)
	j.click(
		`[...document.querySelectorAll('[role=radiogroup][aria-label=size] [role=radio]')].find(b => b.textContent.trim().startsWith('s'))`,
	)
	j.until(
		`document.querySelector('[role=radiogroup][aria-label=size] [aria-checked=true]')?.textContent.trim().startsWith('s')`,
	)
	for _, s := range screens {
		j.bench(s, "> 5")
		j.untilInFrame(
			"s",
			`document.querySelector('body > div').shadowRoot.querySelector('sorrel-page-header sorrel-button').getAttribute('size')`,
		)
	}

	// The Shelf has it, with where it is used.
	j.run(chromedp.Navigate(j.server.URL + "/shelf/piece:screen-header"))
	j.until(
		`document.querySelector('h1')?.textContent.trim() === 'Screen header' && document.body.innerText.includes('on 3 screens') && [...document.querySelectorAll('a')].some(a => a.textContent.trim() === 'Open on the Bench')`,
	)

	// Cut loose on one: it looks the same, says so, and the next change passes it by.
	j.bench("volunteers", "> 5")
	j.click(lineWith("Screen header"))
	j.click(button("Cut loose"))
	j.until(lineWith("page header") + ` && document.body.innerText.includes('Cut loose from')`)
	j.run(chromedp.Navigate(j.server.URL + "/bench/piece/screen-header"))
	j.until(lineWith("button"))
	j.click(lineWith("button"))
	j.click(button("all "))
	j.until(`document.querySelector('[role=radiogroup][aria-label=size]')`)
	j.click(
		`[...document.querySelectorAll('[role=radiogroup][aria-label=size] [role=radio]')].find(b => b.textContent.trim().startsWith('l'))`,
	)
	j.until(
		`document.querySelector('[role=radiogroup][aria-label=size] [aria-checked=true]')?.textContent.trim().startsWith('l')`,
	)
	for s, size := range map[string]string{"tickets": "l", "volunteers": "s"} {
		j.bench(s, "> 5")
		j.untilInFrame(
			size,
			`document.querySelector('body > div').shadowRoot.querySelector('sorrel-page-header sorrel-button').getAttribute('size')`,
		)
	}
}
