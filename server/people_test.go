package server_test

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"net"
	"net/http"
	"runtime"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/testkit/database"
	"ubiquant/server"
	"ubiquant/server/api"
)

func TestAKeeperLetsPeopleOutAndTheirWindowsEnd(t *testing.T) {
	r := start(t)
	ida, noor := signIn(t, r, "ida"), signIn(t, r, "noor")
	req, err := http.NewRequest("GET", r.URL+"/api/events", nil)
	require.NoError(t, err)
	req.AddCookie(noor.cookie)
	stream, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	defer stream.Body.Close()
	ended := make(chan struct{})
	go func() { _, _ = io.Copy(io.Discard, stream.Body); close(ended) }()

	assert.Equal(t, 403, noor.do("POST", "/api/people/active", map[string]any{"name": "tam", "active": false}, nil).StatusCode)
	assert.Equal(t, 422, ida.do("POST", "/api/people/active", map[string]any{"name": "ida", "active": false}, nil).StatusCode)
	assert.Equal(t, 404, ida.do("POST", "/api/people/active", map[string]any{"name": "zed", "active": false}, nil).StatusCode)
	assert.Equal(t, 204, ida.do("POST", "/api/people/active", map[string]any{"name": "noor", "active": false}, nil).StatusCode)
	assert.Equal(t, 401, noor.get("/api/workspace", nil))
	select {
	case <-ended:
	case <-time.After(20 * time.Second):
		require.Fail(t, "the stream outlives its session")
	}
	var people struct {
		People []struct {
			Name   string
			Active bool
		}
		Log []struct{ Name, What string }
	}
	require.Equal(t, 200, ida.get("/api/people", &people))
	assert.Equal(t, "let out", people.Log[0].What)
	lise := signIn(t, r, "lise")
	people.Log = nil
	require.Equal(t, 200, lise.get("/api/people", &people))
	assert.Empty(t, people.Log, "only keepers read who signed in")
}

func TestOnesOwnPasswordIsChangedKnowingTheOldOne(t *testing.T) {
	r := start(t)
	tam := signIn(t, r, "tam")
	set := func(old, next string) int {
		return tam.do("POST", "/api/people/password", map[string]string{"old": old, "new": next}, nil).StatusCode
	}
	assert.Equal(t, 422, set("", "password1234"))
	assert.Equal(t, 204, set("", "seven ladders of chalk"), "none was set")
	assert.Equal(t, 422, set("guess", "twelve quiet lanterns"))
	assert.Equal(t, 204, set("seven ladders of chalk", "twelve quiet lanterns"))
	assert.Equal(t, 200, tam.get("/api/workspace", nil))
	for range 6 {
		set("guess", "another quiet lantern")
	}
	assert.Equal(t, 429, set("twelve quiet lanterns", "another quiet lantern"), "guessing is slow here, too")
}

// Guessing one person's password is slow from however many addresses.
func TestGuessingIsSlowForEachAccount(t *testing.T) {
	r, err := server.Start(context.Background(), server.Options{
		Database: database.Demo(t), Log: quiet, Public: api.Public{Proxies: []string{"127.0.0.1"}},
	})
	require.NoError(t, err)
	defer func() { assert.NoError(t, r.Stop()) }()
	p := &person{t: t, url: r.URL}
	statuses := map[int]int{}
	for i := range 12 {
		from := map[string]string{"X-Forwarded-For": fmt.Sprintf("203.0.113.%d", i)}
		res := p.do("POST", "/api/sign-in", map[string]string{"name": "ida", "password": "guess"}, from)
		statuses[res.StatusCode]++
	}
	assert.Equal(t, 5, statuses[401])
	assert.Equal(t, 7, statuses[429])
	res := p.do("POST", "/api/sign-in", map[string]string{"name": "tam", "password": "guess"},
		map[string]string{"X-Forwarded-For": "203.0.113.99"})
	assert.Equal(t, 401, res.StatusCode, "others are not held up")
}

func TestOnlyTheOwnHostIsServed(t *testing.T) {
	r, err := server.Start(context.Background(), server.Options{
		Database: database.Demo(t), Log: quiet,
		Public: api.Public{Address: "https://ubiquant.example/", Proxies: []string{"127.0.0.1"}},
	})
	require.NoError(t, err)
	defer func() { assert.NoError(t, r.Stop()) }()
	ask := func(host string) *http.Response {
		req, err := http.NewRequest("GET", r.URL+"/api/health", nil)
		require.NoError(t, err)
		req.Host = host
		res, err := http.DefaultClient.Do(req)
		require.NoError(t, err)
		res.Body.Close()
		return res
	}
	for host, status := range map[string]int{
		"ubiquant.example": 200, "localhost:4780": 200, "127.0.0.1:1": 200, "[::1]:4780": 200,
		"evil.example": 421, "127.0.0.1.evil.example": 421, "10.0.0.7": 421,
	} {
		assert.Equal(t, status, ask(host).StatusCode, host)
	}
	assert.Equal(t, "no-store", ask("localhost").Header.Get("Cache-Control"))
	link, err := r.Link(context.Background(), "ida")
	require.NoError(t, err)
	require.True(t, strings.HasPrefix(link, "https://ubiquant.example/sign-in#"))
	_, token, _ := strings.Cut(link, "#")
	p := &person{t: t, url: r.URL}
	res := p.do("POST", "/api/sign-in/link", map[string]string{"token": token}, nil)
	require.Equal(t, 200, res.StatusCode)
	assert.True(t, res.Cookies()[0].Secure, "outside it is TLS")
	_, err = server.Start(context.Background(), server.Options{
		Database: database.Demo(t), Log: quiet, Public: api.Public{Address: "ubiquant.example"}})
	assert.ErrorContains(t, err, "no public address")
}

// Many who announce much and send little cost little.
func TestAnnouncedBodiesAreNotSetAside(t *testing.T) {
	r := start(t)
	res, err := http.Post(r.URL+"/api/sign-in", "application/json", bytes.NewReader(make([]byte, 20_000)))
	require.NoError(t, err)
	assert.Equal(t, 413, res.StatusCode)
	address := strings.TrimPrefix(r.URL, "http://")
	var before, after runtime.MemStats
	runtime.GC()
	runtime.ReadMemStats(&before)
	var wait sync.WaitGroup
	var conns []net.Conn
	for range 200 {
		c, err := net.Dial("tcp", address)
		require.NoError(t, err)
		conns = append(conns, c)
		_, err = fmt.Fprintf(c, "POST /api/sign-in HTTP/1.1\r\nHost: %s\r\nContent-Type: application/json\r\n"+
			"Content-Length: 30000000\r\n\r\n%s", address, strings.Repeat(" ", 9000))
		require.NoError(t, err)
		wait.Go(func() {
			answer := make([]byte, 64)
			_ = c.SetReadDeadline(time.Now().Add(20 * time.Second)) // it answers without the rest
			n, _ := c.Read(answer)
			assert.Regexp(t, "^HTTP/1.1 4(13|29)", string(answer[:n]), "too large, or too many attempts")
		})
	}
	wait.Wait()
	runtime.ReadMemStats(&after)
	for _, c := range conns {
		c.Close()
	}
	assert.Less(t, int64(after.HeapInuse)-int64(before.HeapInuse), int64(200<<20))
}

// A browser of the server's own sees what readers see, and tells what it measured; it is no person,
// and changes nothing.
func TestTheServersOwnBrowserChangesNothing(t *testing.T) {
	r := start(t)
	name, value := r.API.MachineSession()
	m := &person{t: t, url: r.URL, cookie: &http.Cookie{Name: name, Value: value}}
	m.get("/api/workspace", nil)
	m.post("/api/census/measured", object{"doc": "screen:beds", "drawn": "", "looks": []any{}, "failed": "it was not drawn in time"}, nil)
	for _, no := range [][2]string{{"POST", "/api/changes"}, {"POST", "/api/screens"}, {"POST", "/api/registries"}} {
		res := m.do(no[0], no[1], object{}, nil)
		assert.Contains(t, []int{403, 404}, res.StatusCode, no[1])
	}
	m.cookie.Value = ""
	assert.Equal(t, 401, m.do("GET", "/api/workspace", nil, nil).StatusCode)
	m.cookie.Value = value[:len(value)-1] + "x"
	assert.Equal(t, 401, m.do("GET", "/api/workspace", nil, nil).StatusCode)

	// What could not be measured is told as long as it is drawn as it was.
	ida := signIn(t, r, "ida")
	var out struct {
		Open []struct{ Doc, Drawn, Failed string }
	}
	of := func(doc string) (drawn, failed string) {
		ida.get("/api/census/measured", &out)
		for _, o := range out.Open {
			if o.Doc == doc {
				return o.Drawn, o.Failed
			}
		}
		t.Fatalf("%s is not left to measure", doc)
		return "", ""
	}
	drawn, failed := of("screen:beds")
	assert.Empty(t, failed, "it was drawn otherwise when it failed")
	before, _, err := r.API.ToMeasure(t.Context())
	require.NoError(t, err)
	m.cookie.Value = value
	for range 3 {
		_, failed = of("screen:beds")
		assert.Empty(t, failed, "it is tried several times")
		m.post("/api/census/measured", object{"doc": "screen:beds", "drawn": drawn, "looks": []any{}, "failed": "it was not drawn in time"}, nil)
	}
	_, failed = of("screen:beds")
	assert.Equal(t, "it was not drawn in time", failed)
	after, _, err := r.API.ToMeasure(t.Context())
	require.NoError(t, err)
	assert.Equal(t, before-1, after, "it is not tried again as it is")
}
