package e2e_test

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"net/http/httputil"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/browser"
)

// slowly is a way to a server on which every answer takes its time, the kit's module most.
func slowly(t *testing.T, server string, seed uint64) string {
	to, err := url.Parse(server)
	require.NoError(t, err)
	proxy := httputil.NewSingleHostReverseProxy(to)
	proxy.FlushInterval = -1 // events come as they are told
	dice := make(chan time.Duration, 1)
	rolled := make(chan struct{})
	t.Cleanup(func() { close(rolled) })
	go func() {
		r := rand.New(rand.NewPCG(seed, 1))
		for {
			select {
			case dice <- time.Duration(r.IntN(250)) * time.Millisecond:
			case <-rolled:
				return
			}
		}
	}()
	s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		wait := <-dice
		if strings.HasSuffix(r.URL.Path, ".js") && strings.Contains(r.URL.Path, "/frame/") {
			wait = 2*time.Second + 8*wait
		}
		select {
		case <-time.After(wait):
		case <-r.Context().Done():
			return
		}
		proxy.ServeHTTP(w, r)
	}))
	t.Cleanup(s.CloseClientConnections) // streams last as long as their windows
	return s.URL
}

// Whatever is edited before the frame is there, and however answers overtake each other,
// the Proof shows in the end what the lines say.
func TestTheProofShowsWhatTheLinesSayHoweverSlowlyItComes(t *testing.T) {
	for seed := range uint64(3) {
		t.Run(fmt.Sprint(seed), func(t *testing.T) {
			j := begin(t, "noor")
			way := slowly(t, j.server.URL, seed)
			link, err := j.server.Link(context.Background(), "noor")
			require.NoError(t, err)
			j.run(
				chromedp.Navigate(strings.Replace(link, j.server.URL, way, 1)),
				browser.Until(`location.pathname === '/'`),
				chromedp.Navigate(way+"/bench/screen/sign-in"),
			)
			j.until(`document.querySelectorAll('[data-line]').length === 9`)
			j.click(lineWith("Forgotten"))
			for i := range 4 {
				j.line("n", fmt.Sprintf("text | Said %d", i))
				if i == int(seed) {
					j.run(chromedp.EmulateViewport(1100+50*int64(seed), 800)) // drawn in another size
				}
			}
			j.key("Delete")
			j.until(`document.querySelectorAll('[data-line]').length === 12`)
			for _, said := range []string{"Said 0", "Said 1", "Said 2"} {
				j.untilInFrame("1", shown(said))
			}
			j.untilInFrame("0", shown("Said 3"))
			// The order is that of the lines, and nothing else is there.
			var lines, drawn []string
			require.NoError(t, json.Unmarshal([]byte(j.text(
				`JSON.stringify([...document.querySelectorAll('[data-line]')].map(l => l.dataset.line))`)), &lines))
			var keys string
			j.inFrame(`JSON.stringify([...`+tileRoot+`.querySelectorAll('[data-e]')].map(e => e.dataset.e.split('#')[0]))`, &keys)
			require.NoError(t, json.Unmarshal([]byte(keys), &drawn))
			own := map[string]bool{}
			for _, id := range lines {
				own[id] = true
			}
			var of []string
			for _, id := range drawn {
				if own[id] {
					of = append(of, id)
				}
			}
			assert.Equal(t, lines, of)
		})
	}
}

const tileRoot = `document.querySelector('body > div').shadowRoot`

// shown counts the texts of the Proof that say something.
func shown(text string) string {
	return `[...` + tileRoot + `.querySelectorAll('sorrel-text')].filter(e => e.textContent.trim() === '` + text + `').length`
}
