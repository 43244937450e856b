package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"slices"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
	"github.com/spf13/cobra"

	"ubiquant/internal/browser"
	"ubiquant/server"
)

// view is one picture of the documentation.
type view struct {
	name, path string
	width      int64
	dark       bool
	before     []chromedp.Action
}

// kitChosen waits for the kits of Intake and chooses one by words.
func kitChosen(words string) chromedp.Action {
	find := `[...document.querySelectorAll('[aria-label=Kits] a')].find(a => a.textContent.includes('` + words + `'))`
	return chromedp.Tasks{
		browser.Until(`!!` + find),
		chromedp.Evaluate(find+`.click()`, nil),
	}
}

var views = []view{
	{name: "overview", path: "/"},
	{name: "shelf", path: "/shelf"},
	{name: "component", path: "/shelf/sorrel-button"},
	{name: "themes", path: "/shelf?sheet=themes", before: []chromedp.Action{
		browser.Until(`document.querySelector('section[aria-label="Change light"]')`),
		chromedp.Evaluate(
			`[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'Make one').click()`,
			nil,
		),
		browser.Until(`document.querySelector('section[aria-label="Make a theme"]')`),
		enter(`section[aria-label="Make a theme"] input[placeholder="Evening"]`, "Heather"),
		enter(`input[aria-labelledby="make-accent"]`, "#7A3E73"),
		browser.Until(`document.body.innerText.includes('tokens differ')`),
	}},
	{name: "bench", path: "/bench/screen/volunteers#volunteers-new"},
	{name: "bench-insert", path: "/bench/screen/tickets#tickets-5", before: []chromedp.Action{
		chromedp.Evaluate(
			`[...document.querySelectorAll('button')].find(b => b.textContent.trim().startsWith('New line')).click()`,
			nil,
		), browser.Until(`document.querySelectorAll('[role=option]').length > 0`)}},
	{
		name: "bench-states",
		path: "/bench/screen/tickets",
		before: []chromedp.Action{
			state("+loading"),
			browser.Until(`document.body.innerText.includes('When loading')`),
			state("+error"),
			browser.Until(`document.body.innerText.includes('When error')`),
			state("+empty"),
			browser.Until(`document.body.innerText.includes('When empty')`),
			chromedp.Evaluate(
				`[...document.querySelectorAll('button')].find(b => b.textContent.trim() === 'states').click()`,
				nil,
			),
			browser.Until(`document.querySelectorAll('figcaption').length === 4`),
		},
	},
	{name: "bench-picture", path: "/bench/screen/specimens", before: []chromedp.Action{
		browser.Drawn(), fromProof("/bench/screen/messages/picture"),
		chromedp.Evaluate(`[...document.querySelectorAll('[data-box]')].find(e => e.textContent.trim().startsWith('panel')).click()`, nil),
	}},
	{name: "samples", path: "/samples/specimens"},
	{name: "census-questions", path: "/census/questions"},
	{name: "census-strays", path: "/census/strays"},
	{name: "census-work", path: "/census/work", before: []chromedp.Action{
		browser.Until(`document.querySelectorAll('[role=treeitem]').length > 10`),
		chromedp.Evaluate(`[...document.querySelectorAll('[role=treeitem]')].find(e => e.textContent.includes('Meaning said anew')).click()`, nil),
		chromedp.Evaluate(`document.querySelector('[role=tree]').dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', bubbles: true }))`, nil),
		browser.Until(`document.querySelector('[data-bracket]')`),
		chromedp.Sleep(time.Second),
	}},
	{name: "census-rule", path: "/census/line-up?component=sorrel-chip&prop=shape", before: []chromedp.Action{
		browser.Until(`document.querySelectorAll('section h2 input').length > 1`),
		chromedp.Evaluate(`[...document.querySelectorAll('section')].filter(s => s.querySelector('h2 input')).slice(0, 2).forEach(s => s.querySelector('li input').click())`, nil),
		browser.Until(`[...document.querySelectorAll('a')].some(a => a.textContent.trim().startsWith('Rule: like'))`),
		chromedp.Evaluate(`[...document.querySelectorAll('a')].find(a => a.textContent.trim().startsWith('Rule: like')).click()`, nil),
		browser.Until(`document.querySelector('[role=dialog] li')`),
	}},
	{name: "census-line-up", path: "/census/line-up?component=sorrel-chip&prop=shape"},
	{
		name: "intake",
		path: "/intake",
		before: []chromedp.Action{
			kitChosen("1.1.0"),
			browser.Until(`document.querySelector('button[aria-label="Look at table"]')`),
			chromedp.Evaluate(`document.querySelector('button[aria-label="Look at table"]').click()`, nil),
			browser.Until(`document.querySelectorAll('section[aria-label=table] iframe').length === 2`),
			chromedp.Sleep(time.Second),
		},
	},
	{
		name: "intake-other",
		path: "/intake",
		before: []chromedp.Action{
			kitChosen("yarrow"),
			browser.Until(`[...document.querySelectorAll('nav a')].some(a => a.textContent.includes('Screens carried over'))`),
			chromedp.Evaluate(`[...document.querySelectorAll('nav a')].find(a => a.textContent.includes('Screens carried over')).click()`, nil),
			browser.Until(`document.querySelector('[aria-label=Coverage]')?.textContent.includes('have a counterpart')`),
			chromedp.Evaluate(
				`(() => { const s = document.querySelector('section[aria-label="A screen in both"] select'); s.value = 'screen:tickets'; s.dispatchEvent(new Event('change', { bubbles: true })) })()`,
				nil,
			),
			chromedp.Sleep(2 * time.Second),
		},
	},
	{name: "deliver", path: "/deliver"},
	{name: "overview-phone", path: "/", width: 360},
}

// codeViews are pictures of the repository of code that the demo brings.
var codeViews = []view{
	{name: "code-patch", path: "/census/strays", before: []chromedp.Action{
		browser.Until(`document.querySelectorAll('li input[type=checkbox]').length > 3`),
		chromedp.Evaluate(`[...document.querySelectorAll('li input[type=checkbox]')].slice(0, 3).forEach(c => c.click())`, nil),
		browser.Until(`[...document.querySelectorAll('button')].some(b => b.textContent.includes('Bring 3 into line'))`),
		chromedp.Evaluate(`[...document.querySelectorAll('button')].find(b => b.textContent.includes('Bring 3 into line')).click()`, nil),
		browser.Until(`document.querySelector('[aria-label="The patch"]')`),
		chromedp.Sleep(2 * time.Second),
	}},
}

// fromProof takes a picture of what the Proof shows, and plans another screen from it.
func fromProof(path string) chromedp.Action {
	return chromedp.ActionFunc(func(ctx context.Context) error {
		var at [4]float64
		if err := chromedp.Run(ctx,
			chromedp.EmulateViewport(2000, 1000),
			browser.Drawn(),
			// Without the marks that lie over it.
			chromedp.Evaluate(`document.querySelectorAll('[data-selected]').forEach(e => { e.style.display = 'none' })`, nil),
			chromedp.Evaluate(`(r => [r.x, r.y, r.width, r.height])(document.querySelector('iframe').getBoundingClientRect())`, &at),
		); err != nil {
			return err
		}
		shot, err := page.CaptureScreenshot().WithClip(&page.Viewport{X: at[0], Y: at[1], Width: at[2], Height: at[3], Scale: 1}).Do(ctx)
		if err != nil {
			return err
		}
		file, err := os.CreateTemp("", "ubq-page-*.png")
		if err != nil {
			return err
		}
		defer os.Remove(file.Name())
		if _, err := file.Write(shot); err != nil {
			return err
		}
		if err := file.Close(); err != nil {
			return err
		}
		return chromedp.Run(ctx,
			chromedp.EmulateViewport(1280, 800),
			chromedp.Evaluate(fmt.Sprintf(`location.href = %q`, path), nil),
			browser.Until(`document.querySelector('main input[type=file]')`),
			chromedp.SetUploadFiles(`main input[type=file]`, []string{file.Name()}),
			browser.Until(`document.querySelectorAll('[data-box]').length > 4`),
		)
	})
}

// state chooses a state of the screen on the Bench.
func state(value string) chromedp.Action {
	return chromedp.Evaluate(
		fmt.Sprintf(
			`(s => { s.value = %q; s.dispatchEvent(new Event('change', { bubbles: true })) })([...document.querySelectorAll('select')].find(s => s.labels[0]?.textContent.trim().startsWith('State')))`,
			value,
		),
		nil,
	)
}

// enter writes into a field as a person does.
func enter(field, text string) chromedp.Action {
	return chromedp.Evaluate(
		fmt.Sprintf(
			`(e => { e.value = %q; e.dispatchEvent(new Event('input')); e.dispatchEvent(new Event('change')) })(document.querySelector(%q))`,
			text,
			field,
		),
		nil,
	)
}

func screenshotsCommand() *cobra.Command {
	var out string
	var only []string
	var height int64
	c := &cobra.Command{
		Use:   "screenshots",
		Short: "Take the pictures of the documentation from the demo",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			dir, err := os.MkdirTemp("", "ubq-shots-")
			if err != nil {
				return err
			}
			defer os.RemoveAll(dir)
			if err := os.Chmod(dir, 0o711); err != nil {
				return err
			}
			running, err := server.Start(
				cmd.Context(),
				server.Options{Data: dir, Temporary: true, Log: slog.New(slog.NewTextHandler(os.Stderr, nil))},
			)
			if err != nil {
				return &exitError{exitBroken, err}
			}
			err = takePictures(cmd.Context(), running, "ida", views, out, only, height)
			if err = errors.Join(err, running.Stop()); err != nil {
				return err
			}
			code := filepath.Join(dir, "code")
			if err := os.Mkdir(code, 0o711); err != nil {
				return err
			}
			o := server.Options{Data: code, Temporary: true, Log: slog.New(slog.NewTextHandler(os.Stderr, nil))}
			if err := beginWithCode(cmd.Context(), cmd, "demo/office", "", &o); err != nil {
				return err
			}
			if running, err = server.Start(cmd.Context(), o); err != nil {
				return &exitError{exitBroken, err}
			}
			err = takePictures(cmd.Context(), running, "keeper", codeViews, out, only, height)
			return errors.Join(err, running.Stop())
		},
	}
	c.Flags().StringVar(&out, "out", "docs/screenshots", "folder for the pictures")
	c.Flags().
		Int64Var(&height, "height", 800, "height of the window in pixels; a tall one shows more of a long place")
	c.Flags().StringSliceVar(&only, "only", nil, "names of pictures; all where not given")
	return c
}

// keepersWindow opens a browser's window for at most so long, signed in as somebody who
// keeps the workspace. The function returned ends it.
func keepersWindow(
	ctx context.Context,
	running *server.Running,
	name string,
	most time.Duration,
) (context.Context, func(), error) {
	link, err := running.Link(ctx, name)
	if err != nil {
		return nil, nil, err
	}
	tab, end, err := browser.Open(ctx)
	if err != nil {
		return nil, nil, err
	}
	tab, cancel := context.WithTimeout(tab, most)
	if err := chromedp.Run(tab, chromedp.EmulateViewport(1280, 800), chromedp.Navigate(link), browser.Until(`location.pathname === '/'`)); err != nil {
		cancel()
		end()
		return nil, nil, err
	}
	return tab, func() { cancel(); end() }, nil
}

func takePictures(ctx context.Context, running *server.Running, name string, list []view, out string, only []string, height int64) error {
	if err := os.MkdirAll(out, 0o755); err != nil {
		return err
	}
	tab, end, err := keepersWindow(ctx, running, name, 5*time.Minute)
	if err != nil {
		return err
	}
	defer end()
	for _, v := range list {
		if len(only) > 0 && !slices.Contains(only, v.name) {
			continue
		}
		width, mode := v.width, "light"
		if width == 0 {
			width = 1280
		}
		if v.dark {
			mode = "dark"
		}
		var png []byte
		steps := append([]chromedp.Action{
			emulation.SetDeviceMetricsOverride(width, height, 1, false),
			chromedp.Evaluate(`localStorage.setItem('ubiquant-mode', '`+mode+`')`, nil),
			chromedp.Navigate("about:blank"), chromedp.Navigate(running.URL + v.path),
			browser.Until(`!!document.querySelector('#place :is(h1, form)')`), browser.Drawn(),
		}, v.before...)
		// The last paint may still be on its way after the last answer.
		steps = append(
			steps,
			chromedp.Sleep(700*time.Millisecond),
			browser.Drawn(),
			chromedp.Sleep(300*time.Millisecond),
			chromedp.CaptureScreenshot(&png),
		)
		if err := chromedp.Run(tab, steps...); err != nil {
			return fmt.Errorf("%s: %w", v.name, err)
		}
		if err := os.WriteFile(filepath.Join(out, v.name+".png"), png, 0o644); err != nil {
			return err
		}
	}
	return nil
}
