package e2e_test

import (
	"context"
	"io"
	"net"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/browser"
)

// beside opens a tab for somebody else on the same server.
func (j *journey) beside(name string) *journey {
	j.t.Helper()
	ctx, cancel := context.WithTimeout(openTab(j.t), 3*time.Minute)
	j.t.Cleanup(cancel)
	other := &journey{t: j.t, ctx: ctx, server: j.server, onKeyboard: true}
	link, err := j.server.Link(context.Background(), name)
	require.NoError(j.t, err)
	other.run(
		chromedp.EmulateViewport(1280, 800),
		chromedp.Navigate(link),
		browser.Until(`location.pathname === '/'`),
	)
	return other
}

// line is a way to the server that can be cut.
type line struct {
	l    net.Listener
	mu   sync.Mutex
	cut  bool
	open map[net.Conn]bool
}

func lineTo(t *testing.T, address string) *line {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	t.Cleanup(func() { l.Close() })
	w := &line{l: l, open: map[net.Conn]bool{}}
	t.Cleanup(func() { w.set(true) })
	go func() {
		for {
			in, err := l.Accept()
			if err != nil {
				return
			}
			out, err := net.Dial("tcp", address)
			w.mu.Lock()
			if err != nil || w.cut {
				in.Close()
				if err == nil {
					out.Close()
				}
				w.mu.Unlock()
				continue
			}
			w.open[in], w.open[out] = true, true
			w.mu.Unlock()
			go func() { _, _ = io.Copy(out, in); out.Close() }()
			go func() { _, _ = io.Copy(in, out); in.Close() }()
		}
	}()
	return w
}

func (w *line) set(cut bool) {
	w.mu.Lock()
	defer w.mu.Unlock()
	w.cut = cut
	if cut {
		for c := range w.open {
			c.Close()
		}
		clear(w.open)
	}
}

const typing = `document.querySelector('[role=treeitem] input')`

// Two people work on one screen. Each sees where the other is and what the other does.
// One loses the connection: it is said at once, no edit is taken, what was being typed
// stays, and all goes on by itself when it is back.
func TestTwoPeopleWorkOnOneScreenAndOneLosesTheConnection(t *testing.T) {
	noor := begin(t, "noor")
	ida := noor.beside("ida")
	// Noor's way to the server can be cut.
	direct := strings.TrimPrefix(noor.server.URL, "http://")
	way := lineTo(t, direct)
	link, err := noor.server.Link(context.Background(), "noor")
	require.NoError(t, err)
	noor.run(
		chromedp.Navigate(strings.Replace(link, direct, way.l.Addr().String(), 1)),
		browser.Until(`location.pathname === '/'`),
		chromedp.Navigate("http://"+way.l.Addr().String()+"/bench/screen/sign-in"),
	)
	noor.until(
		`document.querySelectorAll('[data-line]').length === 9 && !!document.querySelector('[role=group][aria-label^="Choices"]')`,
	)
	ida.bench("sign-in", "=== 9")
	ida.click(lineWith("Forgotten"))
	noor.until(
		`[...document.querySelectorAll('[title="Ida Fenn is on this screen"]')].length === 1 && ` + lineWith(
			"Forgotten",
		) + `.querySelector('[title="Ida Fenn is here"]')`,
	)
	noor.click(lineWith("Sign in", "button"))
	noor.until(`document.activeElement?.dataset.line`)
	noor.key("Enter")
	noor.until(typing)
	noor.command("a", "selectAll")
	noor.write("Come in")
	noor.key("Enter")
	ida.until(lineWith("Come in"))

	way.set(true)
	noor.until(`document.body.innerText.includes('The connection is gone')`)
	noor.key("Enter")
	noor.until(typing)
	noor.command("a", "selectAll")
	noor.write("Enter the garden")
	noor.key("Enter")
	noor.until(typing + `?.value === 'Enter the garden'`)
	noor.click(`document.querySelector('button[aria-label="Copy beside"]')`)
	ida.until(`document.activeElement?.dataset.line`)
	ida.key("c")
	ida.until(`document.querySelectorAll('[data-line]').length === 10`)
	assert.Equal(
		t,
		"9",
		noor.text(`String(document.querySelectorAll('[data-line]').length)`),
		"nothing was done without a connection",
	)

	way.set(false)
	noor.until(`!document.body.innerText.includes('The connection is gone')`)
	noor.until(`document.querySelectorAll('[data-line]').length === 10`)
	assert.Equal(t, "Enter the garden", noor.text(typing+`?.value ?? ''`), "what was typed is kept")
	noor.run(chromedp.Evaluate(typing+`.focus()`, nil))
	noor.key("Enter")
	ida.until(lineWith("Enter the garden"))
	ida.until(`document.querySelectorAll('[data-line]').length === 10`)
}
