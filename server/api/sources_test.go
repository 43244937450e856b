package api

import (
	"context"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/sample"
	"ubiquant/server/outward"
)

// A source may hang, lie, swell, break off or lead elsewhere: each is told for what it
// is, and nothing that no keeper allowed is asked.
func TestSourcesAreAskedWithCare(t *testing.T) {
	defer func() { patience = 5 * time.Second }()
	reached := 0
	elsewhere := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { reached++ }))
	defer elsewhere.Close()
	json := func(w http.ResponseWriter) { w.Header().Set("Content-Type", "application/json") }
	ways := map[string]http.HandlerFunc{
		"/good": func(w http.ResponseWriter, r *http.Request) {
			json(w)
			fmt.Fprintf(w, `[{"asked":%q}]`, r.URL.RawQuery)
		},
		"/refused": func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(401) },
		"/broken":  func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(502) },
		"/hangs":   func(_ http.ResponseWriter, r *http.Request) { <-r.Context().Done() },
		"/drips": func(w http.ResponseWriter, r *http.Request) {
			json(w)
			w.(http.Flusher).Flush()
			<-r.Context().Done()
		},
		"/lies": func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Type", "text/html")
			fmt.Fprint(w, "[]")
		},
		"/swells":  func(w http.ResponseWriter, _ *http.Request) { json(w); fmt.Fprint(w, strings.Repeat(" ", maxAnswer+1)) },
		"/leads":   func(w http.ResponseWriter, r *http.Request) { http.Redirect(w, r, elsewhere.URL, http.StatusFound) },
		"/circles": func(w http.ResponseWriter, r *http.Request) { http.Redirect(w, r, "/circles", http.StatusFound) },
		"/onward":  func(w http.ResponseWriter, r *http.Request) { http.Redirect(w, r, "/good", http.StatusFound) },
	}
	service := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if way, ok := ways[r.URL.Path]; ok {
			way(w, r)
			return
		}
		w.WriteHeader(404)
	}))
	defer service.Close()
	u, err := url.Parse(service.URL)
	require.NoError(t, err)
	allowed := map[string]bool{outward.Host(u): true}
	for path, want := range map[string][2]string{
		"/good": {sample.Ready, ""}, "/onward": {sample.Ready, ""}, "/refused": {sample.Refused, "401"}, "/broken": {sample.Failed, "502"}, "/none": {sample.Failed, "404"},
		"/hangs": {sample.Failed, "took longer than 400ms"}, "/drips": {sample.Failed, "took longer"}, "/lies": {sample.Failed, `calls itself "text/html", not JSON`},
		"/swells": {sample.Failed, "larger than 2 MiB"}, "/leads": {sample.Failed, "which no keeper has allowed"}, "/circles": {sample.Failed, "leads on more than 3 times"},
	} {
		patience = time.Minute // what answers at all does so, however busy the machine is
		if path == "/hangs" || path == "/drips" {
			patience = 400 * time.Millisecond
		}
		got := ask(context.Background(), service.URL+path, allowed)
		assert.Equal(t, want[0], got.status, path)
		assert.Contains(t, got.why, want[1], path)
	}
	assert.Zero(t, reached, "where no keeper allowed it, nothing is asked")

	// A name that leads inside is not asked, though the name itself is allowed.
	_, port, _ := strings.Cut(u.Host, ":")
	name := "localtest.invalid:" + port
	got := ask(context.Background(), "http://"+name, map[string]bool{name: true})
	assert.Equal(t, sample.Failed, got.status)
	got = ask(context.Background(), service.URL+"/good", map[string]bool{})
	assert.Equal(t, sample.Failed, got.status)
	assert.Contains(t, got.why, "inside the server's own network")
	got = ask(context.Background(), "http://127.0.0.1:1/", map[string]bool{"127.0.0.1:1": true})
	assert.Equal(t, sample.Failed, got.status, "nobody listens there")
}

// The same address is not asked again at once.
func TestAnAnswerIsKeptForAWhile(t *testing.T) {
	times := 0
	service := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		times++
		w.Header().Set("Content-Type", "application/json")
		fmt.Fprint(w, "[]")
	}))
	defer service.Close()
	u, _ := url.Parse(service.URL)
	var f fetcher
	for range 3 {
		assert.Equal(
			t,
			sample.Ready,
			f.fetch(context.Background(), service.URL, map[string]bool{outward.Host(u): true}).status,
		)
	}
	assert.Equal(t, 1, times)
}
