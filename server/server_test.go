package server_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/database"
	"ubiquant/server"
	"ubiquant/server/api"
	"ubiquant/server/pg"
	"ubiquant/server/store"
)

var quiet = slog.New(slog.NewTextHandler(io.Discard, nil))

// folder is a data folder that the database's user can enter.
func folder(t testing.TB) string {
	dir, err := os.MkdirTemp("", "ubq-test-")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o711))
	t.Cleanup(func() { os.RemoveAll(dir) })
	return dir
}

func start(t testing.TB) *server.Running {
	if p, ok := t.(interface{ Parallel() }); ok {
		p.Parallel()
	}
	r, err := server.Start(context.Background(), server.Options{Database: database.Demo(t), Log: quiet})
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, r.Stop()) })
	return r
}

func TestMain(m *testing.M) { os.Exit(database.Main(m)) }

// person is a signed-in client.
type person struct {
	t      testing.TB
	url    string
	cookie *http.Cookie
}

func signIn(t testing.TB, r *server.Running, name string) *person {
	link, err := r.Link(context.Background(), name)
	require.NoError(t, err)
	p := &person{t: t, url: r.URL}
	_, token, _ := strings.Cut(link, "#")
	res := p.do("POST", "/api/sign-in/link", map[string]string{"token": token}, nil)
	require.Equal(t, 200, res.StatusCode)
	require.Len(t, res.Cookies(), 1)
	c := res.Cookies()[0]
	assert.True(t, c.HttpOnly)
	assert.Equal(t, http.SameSiteStrictMode, c.SameSite)
	p.cookie = c
	again := p.do("POST", "/api/sign-in/link", map[string]string{"token": token}, nil)
	assert.Equal(t, 401, again.StatusCode, "a link works once")
	return p
}

func (p *person) do(method, path string, body any, headers map[string]string) *http.Response {
	var r io.Reader
	if body != nil {
		b, err := json.Marshal(body)
		require.NoError(p.t, err)
		r = bytes.NewReader(b)
	}
	req, err := http.NewRequest(method, p.url+path, r)
	require.NoError(p.t, err)
	if body != nil {
		req.Header.Set("Content-Type", "application/json")
	}
	for k, v := range headers {
		req.Header.Set(k, v)
	}
	if p.cookie != nil {
		req.AddCookie(p.cookie)
	}
	res, err := http.DefaultClient.Do(req)
	require.NoError(p.t, err)
	b, err := io.ReadAll(res.Body)
	require.NoError(p.t, err)
	res.Body.Close()
	res.Body = io.NopCloser(bytes.NewReader(b))
	return res
}

func (p *person) get(path string, into any) int {
	res := p.do("GET", path, nil, nil)
	if into != nil && res.StatusCode == 200 {
		require.NoError(p.t, json.NewDecoder(res.Body).Decode(into))
	}
	return res.StatusCode
}

func setEmphasis(doc, id, value string) map[string]any {
	return map[string]any{
		"change": map[string]any{
			"title": "x",
			"steps": []any{
				map[string]any{
					"do":    "edit",
					"doc":   doc,
					"edits": []any{map[string]any{"op": "set", "id": id, "prop": "emphasis", "value": value}},
				},
			},
		},
		"view": doc,
	}
}

// expected is the table of every route and the least role it needs. A route that
// is not here fails the test: somebody has to decide who may.
var expected = map[string]store.Role{
	"GET /api/health": api.Everyone, "POST /api/sign-in": api.Everyone, "POST /api/sign-in/link": api.Everyone, "POST /api/sign-out": store.Reader,
	"GET /api/people": store.Reader, "POST /api/people": store.Keeper, "POST /api/people/link": store.Keeper, "POST /api/people/active": store.Keeper, "POST /api/people/password": store.Reader, "GET /api/workspace": store.Reader,
	"GET /api/docs/:kind/:id": store.Reader, "GET /api/docs/:kind/:id/choices": store.Reader, "GET /api/docs/:kind/:id/next": store.Reader,
	"POST /api/pages": store.Reader, "POST /api/fragments": store.Reader, "POST /api/render": store.Reader, "POST /api/changes": store.Builder,
	"POST /api/changes/:seq/undo": store.Builder, "GET /api/changes": store.Reader, "GET /api/kit": store.Reader, "GET /api/kit/:tag": store.Reader,
	"POST /api/code": store.Reader, "GET /api/find": store.Reader, "GET /api/where": store.Reader, "GET /api/census": store.Reader,
	"GET /api/census/line-up": store.Reader, "GET /api/census/count": store.Reader, "GET /api/rules": store.Reader, "POST /api/census/line": store.Builder,
	"POST /api/census/settle": store.Keeper, "POST /api/census/unsettle": store.Keeper, "POST /api/census/let-stand": store.Builder, "GET /api/census/work": store.Reader, "GET /api/code/lines": store.Builder, "GET /api/code/decisions": store.Reader, "GET /api/census/trend": store.Reader, "GET /api/census/measured": store.Reader, "POST /api/census/measured": store.Builder, "POST /api/rules/preview": store.Builder, "POST /api/rules/example": store.Builder, "GET /api/rules/file": store.Reader, "POST /api/rules/file": store.Keeper, "POST /api/census/assign": store.Builder,
	"POST /api/sign-off": store.Builder, "GET /api/samples": store.Reader, "GET /api/targets": store.Reader, "POST /api/deliver": store.Reader, "GET /api/repositories": store.Reader, "POST /api/repositories/plan": store.Builder, "POST /api/repositories/take": store.Builder, "POST /api/repositories/deliver": store.Keeper,
	"GET /api/dress": store.Reader, "GET /api/samples/:model": store.Reader, "POST /api/samples/:model/cells": store.Builder, "POST /api/samples/read": store.Reader, "POST /api/samples/generate": store.Reader, "POST /api/models/preview": store.Reader, "GET /api/samples/:model/export": store.Reader, "GET /api/snippet": store.Reader, "POST /api/pieces/propose": store.Reader, "POST /api/here": store.Reader, "GET /api/docs/:kind/:id/code": store.Reader, "POST /api/docs/:kind/:id/code": store.Builder, "GET /api/docs/:kind/:id/past": store.Reader, "GET /api/docs/:kind/:id/rulers": store.Reader, "POST /api/geometry": store.Reader, "POST /api/held": store.Reader, "POST /api/sources/preview": store.Reader, "POST /api/queries/preview": store.Reader, "GET /api/docs/:kind/:id/expression": store.Reader, "POST /api/docs/:kind/:id/restore": store.Builder, "POST /api/bring-in": store.Reader, "GET /api/plans/:screen": store.Reader, "POST /api/plans/read": store.Reader, "POST /api/plans/stand": store.Builder, "POST /api/plans/piece": store.Builder, "POST /api/pieces/extract": store.Builder, "POST /api/questions/ask": store.Builder, "POST /api/questions/answer": store.Reader, "POST /api/shells/propose": store.Reader, "POST /api/shells": store.Builder, "POST /api/pieces/loose": store.Builder, "GET /api/themes": store.Reader, "POST /api/themes/preview": store.Reader, "POST /api/themes/read": store.Reader, "POST /api/themes": store.Keeper,
	"GET /api/themes/:id/take/:form": store.Reader, "POST /api/fonts": store.Keeper, "POST /api/fonts/remove": store.Keeper, "POST /api/icons/check": store.Reader,
	"POST /api/screens/:id/assemble": store.Builder, "GET /api/pictures": store.Reader, "POST /api/pictures": store.Builder, "POST /api/pictures/remove": store.Builder, "GET /api/pictures/:id/file": store.Reader,
	"GET /api/texts": store.Reader, "POST /api/texts/say": store.Builder, "POST /api/texts/language": store.Builder, "POST /api/texts/file": store.Builder, "GET /api/texts/file": store.Reader,
	"GET /api/icons/:name": store.Reader, "POST /api/reach": store.Reader, "POST /api/packages": store.Builder,
	"GET /api/registries": store.Reader, "POST /api/registries": store.Keeper, "POST /api/registries/remove": store.Keeper, "GET /api/registries/package": store.Builder, "POST /api/registries/fetch": store.Builder, "POST /api/registries/stop": store.Builder,
	"GET /api/kits": store.Reader, "GET /api/kits/:hash": store.Reader, "POST /api/kits": store.Builder, "POST /api/kits/:hash/render": store.Reader, "GET /api/kits/:hash/page": store.Reader, "POST /api/kits/:hash/carry": store.Reader, "GET /api/kits/:hash/beside": store.Reader, "POST /api/kits/:hash/beside": store.Builder, "POST /api/kits/:hash/beside/take": store.Keeper, "POST /api/kits/:hash/leave": store.Keeper, "POST /api/kits/:hash/take": store.Keeper, "GET /api/kits/:hash/mapping": store.Reader, "GET /api/kits/:hash/file": store.Reader,
	"GET /api/events": store.Reader, "POST /api/deliver/archive": store.Reader, "GET /api/export": store.Reader, "GET /api/openapi.json": store.Reader,
	"GET /workspace.schema.json": api.Everyone, "GET /frame/:ticket/*": api.Everyone, "GET /*": api.Everyone,
}

func TestEveryRouteAsksForItsRole(t *testing.T) {
	r := start(t)
	people := map[store.Role]*person{
		api.Everyone:  {t: t, url: r.URL},
		store.Reader:  signIn(t, r, "lise"),
		store.Builder: signIn(t, r, "noor"),
		store.Keeper:  signIn(t, r, "ida"),
	}
	seen := 0
	for _, route := range r.API.Everything() {
		name := route.Method + " " + route.Path
		need, ok := expected[name]
		require.True(t, ok, "%s is not in the table of routes and roles", name)
		assert.Equal(t, need, route.Role, name)
		seen++
		if route.Path == "/api/events" || route.Path == "/api/sign-out" || strings.Contains(route.Path, "*") ||
			strings.HasPrefix(route.Path, "/api/sign-in") {
			continue // streams, ends the session, or is open to everyone
		}
		path := strings.NewReplacer(":kind", "screen", ":id", "beds", ":seq", "1", ":tag", "sorrel-button", ":name", "leaf", ":form", "css").
			Replace(route.Path)
		for role, p := range people {
			var body any
			if route.Method == "POST" {
				body = map[string]any{}
			}
			got := p.do(route.Method, path, body, nil).StatusCode
			switch {
			case role == api.Everyone && need != api.Everyone:
				assert.Equal(t, 401, got, "%s without a session", name)
			case role.Rank() < need.Rank():
				assert.Equal(t, 403, got, "%s as %s", name, role)
			default:
				assert.NotContains(t, []int{401, 403, 500}, got, "%s as %s", name, role)
			}
		}
	}
	assert.Len(t, expected, seen)
	for _, u := range r.API.App.GetRoutes(true) {
		if u.Method == "GET" || u.Method == "POST" || u.Method == "PUT" || u.Method == "DELETE" ||
			u.Method == "PATCH" {
			_, ok := expected[u.Method+" "+u.Path]
			assert.True(t, ok, "%s %s is served and not in the table", u.Method, u.Path)
		}
	}
}

func TestWritesFromOtherSitesAreRefused(t *testing.T) {
	r := start(t)
	p := signIn(t, r, "ida")
	body := setEmphasis("screen:volunteers", "volunteers-new", "strong")
	assert.Equal(
		t,
		403,
		p.do("POST", "/api/changes", body, map[string]string{"Origin": "https://elsewhere.example"}).StatusCode,
	)
	assert.Equal(
		t,
		403,
		p.do("POST", "/api/changes", body, map[string]string{"Sec-Fetch-Site": "cross-site"}).StatusCode,
	)
	assert.Equal(
		t,
		403,
		p.do("POST", "/api/changes", body, map[string]string{"Origin": "null"}).StatusCode,
		"a sandboxed frame has this origin",
	)
	assert.Equal(
		t,
		200,
		p.do(
			"POST",
			"/api/changes",
			body,
			map[string]string{"Origin": r.URL, "Sec-Fetch-Site": "same-origin"},
		).StatusCode,
	)
}

func TestPasswordsOpenASessionAndGuessingIsSlow(t *testing.T) {
	r := start(t)
	require.NoError(
		t,
		r.Store.PutUser(
			context.Background(),
			store.User{Name: "noor", FullName: "Noor", Role: store.Builder},
			"seven ladders of chalk",
			"ida",
		),
	)
	p := &person{t: t, url: r.URL}
	assert.Equal(
		t,
		200,
		p.do("POST", "/api/sign-in", map[string]string{"name": "noor", "password": "seven ladders of chalk"}, nil).StatusCode,
	)
	last := 0
	for range 14 {
		last = p.do("POST", "/api/sign-in", map[string]string{"name": "noor", "password": "guess"}, nil).StatusCode
	}
	assert.Equal(t, 429, last)
	assert.ErrorContains(
		t,
		r.Store.PutUser(context.Background(), store.User{Name: "x", Role: store.Reader}, "short", "ida"),
		"12 letters",
	)
	assert.ErrorContains(
		t,
		r.Store.PutUser(context.Background(), store.User{Name: "x", Role: "boss"}, "", "ida"),
		"keeper, builder, reader",
	)
}

func TestBadRequestsAreToldWhatIsWrong(t *testing.T) {
	r := start(t)
	p := signIn(t, r, "ida")
	cases := []struct {
		path   string
		body   any
		status int
		want   string
	}{
		{"/api/changes", map[string]any{"change": map[string]any{"steps": []any{}}}, 422, "no steps"},
		{
			"/api/changes",
			map[string]any{"change": map[string]any{"steps": []any{map[string]any{"do": "jump"}}}},
			422,
			"/steps/0 (line 1, column 11): the step does \\\"jump\\\", which is not known; accepted: answer, ask, assign, base, correct, create",
		},
		{
			"/api/changes",
			setEmphasis("screen:volunteers", "volunteers-new", "loud"),
			409,
			"one of strong, soft, bare",
		},
		{"/api/changes", setEmphasis("screen:nowhere", "x", "soft"), 422, "there is no screen:nowhere"},
		{"/api/changes", map[string]any{"chnage": 1}, 422, "chnage"},
		{
			"/api/census/settle",
			map[string]any{"spot": "sorrel-form", "prop": "actions", "value": "start"},
			422,
			"say why",
		},
		{"/api/deliver", map[string]any{"target": "stone"}, 404, "stone"},
		{"/api/census/line", map[string]any{"strays": []string{"stray|x|y|z"}}, 422, "nothing of it"},
	}
	for _, c := range cases {
		res := p.do("POST", c.path, c.body, nil)
		text, _ := io.ReadAll(res.Body)
		assert.Equal(t, c.status, res.StatusCode, "%s: %s", c.path, text)
		assert.Contains(t, string(text), c.want)
		assert.Equal(t, "application/problem+json", res.Header.Get("Content-Type"))
	}
	res, err := http.Post(r.URL+"/api/sign-in", "text/plain", strings.NewReader("name=x"))
	require.NoError(t, err)
	res.Body.Close()
	assert.Equal(t, 415, res.StatusCode)
}

type changed struct {
	Seq     int64
	Patches []map[string]any
	Counts  struct{ Strays, Questions, Findings int }
	View    struct{ Root json.RawMessage }
	Page    map[string]any
}

func TestAnEditAnswersWithWhatChangedAndUndoTakesItBack(t *testing.T) {
	r := start(t)
	p := signIn(t, r, "noor")
	var before struct{ Head struct{ Revision int } }
	require.Equal(t, 200, p.get("/api/docs/screen/volunteers", &before))
	var out changed
	change := setEmphasis("screen:volunteers", "volunteers-new", "strong")
	change["known"] = before.Head.Revision
	res := p.do("POST", "/api/changes", change, nil)
	require.NoError(t, json.NewDecoder(res.Body).Decode(&out))
	require.Len(t, out.Patches, 1)
	assert.Equal(t, "attrs", out.Patches[0]["op"])
	assert.Equal(t, 9, out.Counts.Strays)
	assert.Contains(t, string(out.View.Root), `"same":true`, "what did not change is not sent again")
	assert.Nil(t, out.Page)

	// A window that shows another revision cannot be patched.
	var whole changed
	res = p.do("POST", "/api/changes", change, nil)
	require.NoError(t, json.NewDecoder(res.Body).Decode(&whole))
	assert.Empty(t, whole.Patches)
	assert.NotNil(t, whole.Page)
	assert.NotContains(t, string(whole.View.Root), `"same":true`)
	res = p.do("POST", fmt.Sprintf("/api/changes/%d/undo", whole.Seq), map[string]any{}, nil)
	require.Equal(t, 200, res.StatusCode)

	first := out.Seq
	res = p.do("POST", fmt.Sprintf("/api/changes/%d/undo", first), map[string]any{}, nil)
	require.NoError(t, json.NewDecoder(res.Body).Decode(&out))
	assert.Equal(t, 10, out.Counts.Strays)
	assert.Equal(
		t,
		422,
		p.do("POST", fmt.Sprintf("/api/changes/%d/undo", first), map[string]any{}, nil).StatusCode,
		"once",
	)
}

func TestOnlyAKeeperHoldsARuleOtherwise(t *testing.T) {
	r := start(t)
	tuning := map[string]any{"rule": "demo-text", "severity": "off", "by": "somebody else"}
	tune := map[string]any{
		"change": map[string]any{"title": "x", "steps": []any{map[string]any{"do": "tune", "tuning": tuning}}},
	}
	assert.Equal(t, 403, signIn(t, r, "noor").do("POST", "/api/changes", tune, nil).StatusCode)
	ida := signIn(t, r, "ida")
	status, said := ida.detail("POST", "/api/changes", tune)
	assert.Equal(t, 422, status)
	assert.Contains(t, said, "say why")
	tuning["reason"] = "the demo is all demo text"
	var before, after struct {
		Rules []struct {
			ID       string
			Findings int
			Tuning   *struct{ By, Severity string }
		}
	}
	require.Equal(t, 200, ida.get("/api/rules", &before))
	var out changed
	res := ida.do("POST", "/api/changes", tune, nil)
	require.NoError(t, json.NewDecoder(res.Body).Decode(&out))
	require.Equal(t, 200, ida.get("/api/rules", &after))
	for i, rule := range after.Rules {
		if rule.ID == "demo-text" {
			assert.NotZero(t, before.Rules[i].Findings)
			assert.Zero(t, rule.Findings)
			require.NotNil(t, rule.Tuning)
			assert.Equal(t, "ida", rule.Tuning.By, "who did it is not for the window to say")
		}
	}
	assert.Equal(
		t,
		403,
		signIn(
			t,
			r,
			"noor",
		).do("POST", fmt.Sprintf("/api/changes/%d/undo", out.Seq), map[string]any{}, nil).
			StatusCode,
	)
	assert.Equal(
		t,
		200,
		ida.do("POST", fmt.Sprintf("/api/changes/%d/undo", out.Seq), map[string]any{}, nil).StatusCode,
	)
}

func TestSettlingWithItsFixesIsOneStep(t *testing.T) {
	r := start(t)
	p := signIn(t, r, "ida")
	res := p.do(
		"POST",
		"/api/census/settle",
		map[string]any{
			"spot":   "sorrel-form",
			"prop":   "actions",
			"value":  "start",
			"reason": "eyes begin at the left",
			"fix":    true,
		},
		nil,
	)
	var out changed
	require.NoError(t, json.NewDecoder(res.Body).Decode(&out))
	assert.Equal(t, 2, out.Counts.Questions)
	var census struct {
		House    []map[string]any
		Findings []struct{ Rule string }
	}
	require.Equal(t, 200, p.get("/api/census", &census))
	assert.Len(t, census.House, 2)
	departures := 0
	for _, f := range census.Findings {
		if f.Rule == "house-rule" {
			departures++
		}
	}
	assert.Equal(t, 1, departures, "only the avatar that was there before departs; all forms were brought into line")
	res = p.do("POST", fmt.Sprintf("/api/changes/%d/undo", out.Seq), map[string]any{}, nil)
	require.NoError(t, json.NewDecoder(res.Body).Decode(&out))
	assert.Equal(t, 3, out.Counts.Questions)
}

func TestTwoServersOnOneDatabaseShareEverything(t *testing.T) {
	url := database.Demo(t)
	var people [2]*person
	for i := range people {
		r, err := server.Start(context.Background(), server.Options{Database: url, Log: quiet})
		require.NoError(t, err)
		defer func() { assert.NoError(t, r.Stop()) }()
		people[i] = signIn(t, r, "ida")
	}
	req, err := http.NewRequest("GET", people[1].url+"/api/events", nil)
	require.NoError(t, err)
	req.AddCookie(people[1].cookie)
	ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)
	defer cancel()
	stream, err := http.DefaultClient.Do(req.WithContext(ctx))
	require.NoError(t, err)
	defer stream.Body.Close()
	heard := make(chan string, 1)
	go func() {
		buf, all := make([]byte, 512), ""
		for {
			n, err := stream.Body.Read(buf)
			all += string(buf[:n])
			if strings.Contains(all, `"seq":1`) && strings.Contains(all, "Ida Fenn") || err != nil {
				heard <- all
				return
			}
		}
	}()
	// Who looks where on one server is told to those on the other, and so is a change. A
	// window says it again and again: what is said in passing may be missed.
	require.Equal(
		t,
		200,
		people[0].do(
			"POST",
			"/api/changes",
			setEmphasis("screen:volunteers", "volunteers-new", "strong"),
			nil,
		).StatusCode,
	)
	again := time.NewTicker(100 * time.Millisecond)
	defer again.Stop()
	for waiting := true; waiting; {
		select {
		case all := <-heard:
			assert.Contains(t, all, "event: change")
			assert.Contains(
				t,
				all,
				`"here":[{"client":"w1","name":"Ida Fenn","doc":"screen:volunteers","element":"volunteers-new"}]`,
			)
			waiting = false
		case <-again.C:
			require.Equal(
				t,
				200,
				people[0].do(
					"POST",
					"/api/here",
					map[string]string{"client": "w1", "doc": "screen:volunteers", "element": "volunteers-new"},
					nil,
				).StatusCode,
			)
		case <-ctx.Done():
			t.Fatal("the other server's window was not told")
		}
	}
	var doc struct {
		Root json.RawMessage
		Seq  int64
	}
	require.Equal(t, 200, people[1].get("/api/docs/screen/volunteers", &doc))
	assert.Equal(t, int64(1), doc.Seq)
	// Both write at once: every change gets a number of its own and none is lost.
	var wg sync.WaitGroup
	for i, p := range people {
		wg.Add(1)
		go func() {
			defer wg.Done()
			for n := range 20 {
				ids := []string{"volunteers-new", "new-bed-save"}
				docs := []string{"screen:volunteers", "screen:new-bed"}
				value := []string{"strong", "soft"}[n%2]
				assert.Equal(
					t,
					200,
					p.do("POST", "/api/changes", setEmphasis(docs[i], ids[i], value), nil).StatusCode,
				)
			}
		}()
	}
	wg.Wait()
	// A server hears of the other's last change a moment after that one was answered.
	for _, p := range people {
		require.Eventually(t, func() bool {
			return p.get("/api/docs/screen/volunteers", &doc) == 200 && doc.Seq >= 41
		}, 20*time.Second, 20*time.Millisecond)
		assert.Equal(t, int64(41), doc.Seq)
	}
}

// A server that is killed in the middle of 500 edits has lost none that it
// acknowledged.
func TestKillLosesNoAcknowledgedEdit(t *testing.T) {
	if testing.Short() {
		t.Skip("starts the binary")
	}
	binary := filepath.Join(testkit.Root(), "bin", "ubiquant")
	if _, err := os.Stat(binary); err != nil {
		t.Fatal("bin/ubiquant is missing; run ./start.sh --build-only")
	}
	dir := folder(t)
	cluster, err := pg.Start(context.Background(), pg.Options{Dir: dir, Make: true})
	require.NoError(t, err)
	defer cluster.Stop()
	out, err := os.Create(filepath.Join(dir, "out"))
	require.NoError(t, err)
	cmd := exec.Command(binary, "serve", "--port", "0", "--database", cluster.URL)
	cmd.Stdout = out
	require.NoError(t, cmd.Start())
	var url, token string
	require.Eventually(t, func() bool {
		b, _ := os.ReadFile(out.Name())
		_, rest, ok := strings.Cut(string(b), "with ")
		if ok && strings.HasSuffix(rest, "\n") {
			url, token, _ = strings.Cut(strings.TrimSpace(rest), "/sign-in#")
		}
		return token != ""
	}, 20*time.Second, 20*time.Millisecond)
	p := &person{t: t, url: url}
	p.cookie = p.do("POST", "/api/sign-in/link", map[string]string{"token": token}, nil).Cookies()[0]
	acknowledged := 0
	for i := range 500 {
		if i == 250 {
			go func() { cmd.Process.Kill() }()
		}
		b, _ := json.Marshal(
			map[string]any{
				"change": map[string]any{
					"title": "x",
					"steps": []any{
						map[string]any{
							"do":  "edit",
							"doc": "screen:today",
							"edits": []any{
								map[string]any{
									"op":     "insert",
									"parent": "today-1",
									"tree": map[string]any{
										"id":   fmt.Sprint("k", i),
										"type": "sorrel-text",
										"text": "x",
									},
								},
							},
						},
					},
				},
			},
		)
		req, _ := http.NewRequest("POST", url+"/api/changes", bytes.NewReader(b))
		req.Header.Set("Content-Type", "application/json")
		req.AddCookie(p.cookie)
		res, err := http.DefaultClient.Do(req)
		if err != nil {
			break
		}
		io.Copy(io.Discard, res.Body)
		res.Body.Close()
		require.Equal(t, 200, res.StatusCode)
		acknowledged = i + 1
	}
	cmd.Wait()
	require.GreaterOrEqual(t, acknowledged, 250)
	require.Less(t, acknowledged, 500)
	r, err := server.Start(context.Background(), server.Options{Database: cluster.URL, Log: quiet})
	require.NoError(t, err)
	defer func() { assert.NoError(t, r.Stop()) }()
	again := signIn(t, r, "ida")
	var doc struct{ Root json.RawMessage }
	require.Equal(t, 200, again.get("/api/docs/screen/today", &doc))
	for i := range acknowledged {
		assert.Contains(t, string(doc.Root), fmt.Sprintf(`"id":"k%d"`, i))
	}
	t.Logf("%d edits were acknowledged before the kill", acknowledged)
}
