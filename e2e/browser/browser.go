// Package browser drives Debian's Chromium, for journeys and for the pictures of
// the documentation.
package browser

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"strings"
	"sync"
	"time"

	"github.com/chromedp/cdproto/log"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
)

// ErrMissing says that Chromium is not installed, and how to get it.
var ErrMissing = errors.New(
	"Chromium is not installed; as root run: apt-get install -y --no-install-recommends chromium",
)

// Open starts a browser with an empty profile. The function returned ends it.
func Open(ctx context.Context) (context.Context, func(), error) {
	path, err := exec.LookPath("chromium")
	if err != nil {
		return nil, nil, ErrMissing
	}
	profile, err := os.MkdirTemp("", "ubq-browser-")
	if err != nil {
		return nil, nil, err
	}
	options := append(
		[]chromedp.ExecAllocatorOption{},
		chromedp.NoFirstRun,
		chromedp.Headless,
		chromedp.NoSandbox,
		chromedp.DisableGPU,
		chromedp.ExecPath(path),
		chromedp.WSURLReadTimeout(90*time.Second),
		chromedp.UserDataDir(profile),
		chromedp.Flag(
			"disable-quic",
			true,
		),
		chromedp.Flag("disable-background-networking", true),
		chromedp.Flag("disable-component-update", true),
		chromedp.Flag(
			"disable-sync",
			true,
		),
		chromedp.Flag("hide-scrollbars", true),
		chromedp.Flag("force-color-profile", "srgb"),
		chromedp.Flag("lang", "en-GB"),
		chromedp.WindowSize(1280, 800),
	)
	allocator, stop := chromedp.NewExecAllocator(ctx, options...)
	tab, closeTab := chromedp.NewContext(allocator)
	end := func() { closeTab(); stop(); os.RemoveAll(profile) }
	if os.Getenv("UBIQUANT_BROWSER_LOG") != "" {
		chromedp.ListenTarget(tab, func(ev any) {
			switch e := ev.(type) {
			case *log.EventEntryAdded:
				fmt.Fprintln(os.Stderr, "browser:", e.Entry.Level, e.Entry.Text, e.Entry.URL)
			case *runtime.EventExceptionThrown:
				fmt.Fprintln(os.Stderr, "browser:", e.ExceptionDetails.Error())
			case *runtime.EventConsoleAPICalled:
				for _, a := range e.Args {
					fmt.Fprintln(os.Stderr, "browser:", e.Type, string(a.Value), a.Description)
				}
			}
		})
	}
	if err := chromedp.Run(tab); err != nil {
		end()
		return nil, nil, fmt.Errorf("starting Chromium: %w", err)
	}
	return tab, end, nil
}

// Drawn waits until every live picture near the view is drawn.
func Drawn() chromedp.Action {
	return Until(
		`(() => { const stages = [...document.querySelectorAll('[data-pending]')]; return document.fonts.status === 'loaded' && !document.querySelector('[role=status][data-busy]') && stages.every(s => s.dataset.pending === '0') })()`,
	)
}

// Until waits until a script's value is true; it gives up after twenty seconds
// and says what it waited for.
func Until(script string) chromedp.Action {
	return chromedp.ActionFunc(func(ctx context.Context) error {
		deadline := time.Now().Add(45 * time.Second)
		for {
			var ok bool
			if err := chromedp.Evaluate(`!!(`+script+`)`, &ok).Do(ctx); err == nil && ok {
				return nil
			}
			if time.Now().After(deadline) {
				var text string
				_ = chromedp.Evaluate(`document.body.innerText.slice(0, 300) + ' … ' + document.activeElement?.outerHTML.slice(0, 200)`, &text).
					Do(ctx)

					// only to explain
				return fmt.Errorf("waited in vain for %s; the page says:\n%s", script, text)
			}
			select {
			case <-ctx.Done():
				return ctx.Err()
			case <-time.After(20 * time.Millisecond):
			}
		}
	})
}

// frames are the contexts of frames that were looked into, by target.
var frames sync.Map

// InFrame evaluates a script inside the frame whose address holds part of a
// path. A sandboxed frame is a target of its own.
func InFrame(ctx context.Context, part, script string, into any, options ...chromedp.EvaluateOption) error {
	deadline := time.Now().Add(10 * time.Second)
	for {
		targets, err := chromedp.Targets(ctx)
		if err != nil {
			return err
		}
		for _, t := range targets {
			if t.Type == "iframe" && strings.Contains(t.URL, part) {
				inner, ok := frames.Load(t.TargetID)
				if !ok {
					// Never cancelled by itself: that would close the frame. It ends with ctx.
					fresh, _ := chromedp.NewContext(ctx, chromedp.WithTargetID(t.TargetID))
					inner, _ = frames.LoadOrStore(t.TargetID, fresh)
				}
				return chromedp.Run(inner.(context.Context), chromedp.Evaluate(script, into, options...))
			}
		}
		if time.Now().After(deadline) {
			return fmt.Errorf("there is no frame with %s", part)
		}
		time.Sleep(50 * time.Millisecond)
	}
}
