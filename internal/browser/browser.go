// Package browser drives Debian's Chromium, for journeys, for measuring, and for the pictures of
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
	"syscall"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/log"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/cdproto/target"
	"github.com/chromedp/chromedp"
)

// ErrMissing says that Chromium is not installed, and how to get it.
var ErrMissing = errors.New(
	"there is no Chromium here; as root run: apt-get install -y --no-install-recommends chromium",
)

// Browser is a running Chromium with an empty profile.
type Browser struct {
	first context.Context
	end   func()
}

// Program is the name of the browser's program.
const Program = "chromium"

// Start starts a browser.
func Start(ctx context.Context) (*Browser, error) { return start(ctx) }

// StartBehind starts a browser that leaves the processor to whoever else wants it.
func StartBehind(ctx context.Context) (*Browser, error) {
	nice, err := exec.LookPath("nice")
	if err != nil {
		return start(ctx)
	}
	return start(ctx, chromedp.ModifyCmdFunc(func(cmd *exec.Cmd) {
		cmd.Args = append([]string{nice, "-n", "10", cmd.Path}, cmd.Args[1:]...)
		cmd.Path = nice
		cmd.SysProcAttr = &syscall.SysProcAttr{Pdeathsig: syscall.SIGKILL} // it ends with us
	}))
}

func start(ctx context.Context, more ...chromedp.ExecAllocatorOption) (*Browser, error) {
	path, err := exec.LookPath(Program)
	if err != nil {
		return nil, ErrMissing
	}
	profile, err := os.MkdirTemp("", "ubq-browser-")
	if err != nil {
		return nil, err
	}
	options := []chromedp.ExecAllocatorOption{
		chromedp.NoFirstRun,
		chromedp.Headless,
		chromedp.NoSandbox,
		chromedp.DisableGPU,
		chromedp.ExecPath(path),
		chromedp.WSURLReadTimeout(90 * time.Second),
		chromedp.UserDataDir(profile),
		chromedp.Flag("hide-scrollbars", true),
		chromedp.Flag("force-color-profile", "srgb"),
		chromedp.Flag("lang", "en-GB"),
		chromedp.WindowSize(1280, 800),
	}
	for _, off := range []string{
		"disable-quic", "disable-background-networking", "disable-component-update", "disable-sync",
		// A tab beside another draws and times as if it were alone.
		"disable-renderer-backgrounding", "disable-background-timer-throttling",
		"disable-backgrounding-occluded-windows",
	} {
		options = append(options, chromedp.Flag(off, true))
	}
	allocator, stop := chromedp.NewExecAllocator(ctx, append(options, more...)...)
	tab, closeTab := chromedp.NewContext(allocator)
	b := &Browser{tab, func() { closeTab(); stop(); os.RemoveAll(profile) }}
	tell(tab)
	if err := chromedp.Run(tab); err != nil {
		b.end()
		return nil, fmt.Errorf("starting Chromium: %w", err)
	}
	return b, nil
}

// Close ends the browser.
func (b *Browser) Close() { b.end() }

// Tab opens a tab with cookies and storage of its own, as a person at another machine
// has them. The function returned closes it.
func (b *Browser) Tab() (context.Context, func(), error) {
	all := cdp.WithExecutor(b.first, chromedp.FromContext(b.first).Browser)
	own, err := target.CreateBrowserContext().Do(all)
	if err != nil {
		return nil, nil, fmt.Errorf("opening a tab: %w", err)
	}
	// A window of its own: a fresh set of cookies has none that a tab could open in.
	id, err := target.CreateTarget("about:blank").WithBrowserContextID(own).WithNewWindow(true).Do(all)
	if err != nil {
		return nil, nil, fmt.Errorf("opening a tab: %w", err)
	}
	tab, leave := chromedp.NewContext(context.WithValue(b.first, ownKey{}, own), chromedp.WithTargetID(id))
	tell(tab)
	end := func() {
		leave()
		_ = target.DisposeBrowserContext(own).Do(all) // it ends with the browser otherwise
	}
	// Every tab is the one being worked in.
	if err := chromedp.Run(tab, emulation.SetFocusEmulationEnabled(true)); err != nil {
		end()
		return nil, nil, fmt.Errorf("opening a tab: %w", err)
	}
	return tab, end, nil
}

// ownKey finds the cookies and storage of a tab.
type ownKey struct{}

// Open starts a browser for one tab. The function returned ends it.
func Open(ctx context.Context) (context.Context, func(), error) {
	b, err := Start(ctx)
	if err != nil {
		return nil, nil, err
	}
	return b.first, b.end, nil
}

// tell writes what a tab says to its console, where that is asked for.
func tell(tab context.Context) {
	if os.Getenv("UBIQUANT_BROWSER_LOG") == "" {
		return
	}
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

// Drawn waits until every live picture near the view is drawn.
func Drawn() chromedp.Action {
	return Until(
		`(() => { const stages = [...document.querySelectorAll('[data-pending]')]; return document.fonts.status === 'loaded' && !document.querySelector('[role=status][data-busy]') && stages.every(s => s.dataset.pending === '0') })()`,
	)
}

// Until waits until a script's value is true; it gives up after 45 seconds
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

// Own names the cookies and storage that a tab has to itself; empty where it shares the
// browser's.
func Own(ctx context.Context) cdp.BrowserContextID {
	own, _ := ctx.Value(ownKey{}).(cdp.BrowserContextID)
	return own
}

// beside reports whether a target belongs to the same cookies and storage as a tab.
func beside(ctx context.Context, t *target.Info) bool {
	own := Own(ctx)
	return own == "" || own == t.BrowserContextID
}

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
			if t.Type == "iframe" && strings.Contains(t.URL, part) && beside(ctx, t) {
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
