package server_test

import (
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

type taken struct {
	Seq  int64
	Docs []string
	Lost []struct{ Prop, Why string }
	View struct {
		State   string
		Changed []string
		Head    struct {
			Revision int
			States   []struct {
				Name        string
				Differences int
			}
		}
	}
	Page *struct{ HTML string }
}

func edit(doc string, edits ...any) map[string]any {
	return map[string]any{
		"change": map[string]any{
			"title": "t",
			"steps": []any{map[string]any{"do": "edit", "doc": doc, "edits": edits}},
		},
		"view": doc,
	}
}

// What a builder does on the Bench, one after the other on one server.
func TestTheBench(t *testing.T) {
	r := start(t)
	noor, lise := signIn(t, r, "noor"), signIn(t, r, "lise")

	t.Run("a part becomes a piece and is cut loose again", func(t *testing.T) {
		var x struct {
			ID    string
			Twins []struct {
				Doc      string
				Elements []string
				Equal    bool
			}
		}
		require.Equal(
			t,
			200,
			lise.post(
				"/api/pieces/propose",
				map[string]any{"doc": "screen:beds", "elements": []string{"beds-5"}},
				&x,
			),
		)
		assert.Equal(t, "own-page-header", x.ID)
		assert.NotEmpty(t, x.Twins)
		code, why := noor.detail(
			"POST",
			"/api/pieces/propose",
			map[string]any{"doc": "screen:beds", "elements": []string{"nothing"}},
		)
		assert.Equal(t, 422, code)
		assert.Contains(t, why, `no element "nothing" on Beds`)
		order := map[string]any{
			"order": map[string]any{
				"doc":      "screen:beds",
				"elements": []string{"beds-5"},
				"id":       "head",
				"title":    "Head",
				"props":    []any{},
				"holes":    []any{},
				"twins":    []any{},
			},
			"seen": map[string]any{"view": "screen:beds"},
		}
		assert.Equal(t, 403, lise.post("/api/pieces/extract", order, nil), "readers look")
		var out taken
		require.Equal(t, 200, noor.post("/api/pieces/extract", order, &out))
		assert.ElementsMatch(t, []string{"piece:head", "screen:beds"}, out.Docs)
		code, why = noor.detail("POST", "/api/pieces/extract", order)
		assert.Equal(t, 422, code)
		assert.Contains(t, why, "no element", "its part is a use now")
		code, why = noor.detail(
			"POST",
			"/api/pieces/loose",
			map[string]any{"doc": "screen:beds", "element": "beds-1", "seen": map[string]any{}},
		)
		assert.Equal(t, 422, code)
		assert.Contains(t, why, "stays where it is")
		require.Equal(
			t,
			200,
			noor.post(
				"/api/pieces/loose",
				map[string]any{
					"doc":     "screen:beds",
					"element": "head",
					"seen":    map[string]any{"view": "screen:beds"},
				},
				&out,
			),
		)
		var piece struct{ Component struct{ Title string } }
		require.Equal(t, 200, lise.get("/api/kit/piece%3Ahead", &piece))
		assert.Equal(t, "Head", piece.Component.Title)
	})

	t.Run("a state starts as the kit can show it and is seen by itself", func(t *testing.T) {
		var out taken
		state := func(do, name string) map[string]any {
			return map[string]any{
				"change": map[string]any{
					"title": "t",
					"steps": []any{
						map[string]any{"do": do, "doc": "screen:beds", "state": map[string]any{"name": name}},
					},
				},
				"view":  "screen:beds",
				"state": name,
			}
		}
		require.Equal(t, 200, noor.post("/api/changes", state("state", "loading"), &out))
		assert.Equal(t, "loading", out.View.State)
		require.NotNil(t, out.Page)
		assert.Contains(t, out.Page.HTML, "sorrel-spinner")
		assert.NotEmpty(t, out.View.Changed)
		var page struct{ Pages []struct{ HTML string } }
		require.Equal(t, 200, lise.post("/api/pages", map[string]any{"docs": []string{"screen:beds"}}, &page))
		assert.NotContains(t, page.Pages[0].HTML, "sorrel-spinner")
		code, why := noor.detail("GET", "/api/docs/screen/beds?state=nowhere", nil)
		assert.Equal(t, 404, code)
		assert.Contains(t, why, "nowhere")
		var after taken
		require.Equal(t, 200, noor.post("/api/changes", state("unstate", "loading"), &after))
		assert.Empty(t, after.View.State, "what was seen is no more")
	})

	t.Run("code is read with its place, and not over what somebody else did", func(t *testing.T) {
		var doc struct {
			Code     string
			Revision int
		}
		require.Equal(t, 200, lise.get("/api/docs/screen/sign-in/code", &doc))
		put := func(code string, revision int) (int, string) {
			return noor.detail(
				"POST",
				"/api/docs/screen/sign-in/code",
				map[string]any{"code": code, "revision": revision, "seen": map[string]any{"view": "screen:sign-in"}},
			)
		}
		status, why := put(strings.Replace(doc.Code, "<sorrel-link", "<sorrel-lnik", 1), doc.Revision)
		assert.Equal(t, 422, status)
		assert.Regexp(t, `line \d+: the kit has no component "sorrel-lnik"`, why)
		status, why = put(doc.Code, doc.Revision)
		assert.Equal(t, 422, status)
		assert.Contains(t, why, "nothing in it differs")
		var out taken
		require.Equal(
			t,
			200,
			noor.post(
				"/api/docs/screen/sign-in/code",
				map[string]any{
					"code":     strings.Replace(doc.Code, ">Forgotten the password?<", ">Lost it?<", 1),
					"revision": doc.Revision,
					"seen":     map[string]any{"view": "screen:sign-in"},
				},
				&out,
			),
		)
		assert.Equal(t, doc.Revision+1, out.View.Head.Revision)
		status, why = put(doc.Code, doc.Revision)
		assert.Equal(t, 422, status)
		assert.Contains(t, why, "changed meanwhile")
	})

	t.Run("a screen is compared with what it was and brought back", func(t *testing.T) {
		var first, second taken
		require.Equal(
			t,
			200,
			noor.post(
				"/api/changes",
				edit("screen:sign-in", map[string]any{"op": "text", "id": "sign-in-9", "value": "One"}),
				&first,
			),
		)
		require.Equal(
			t,
			200,
			noor.post(
				"/api/changes",
				edit("screen:sign-in", map[string]any{"op": "text", "id": "sign-in-9", "value": "Two"}),
				&second,
			),
		)
		var past struct {
			Differences   []struct{ Element, Words string }
			Before, After struct{ HTML string }
		}
		require.Equal(t, 200, lise.get("/api/docs/screen/sign-in/past?seq="+strconv.FormatInt(first.Seq, 10), &past))
		require.Len(t, past.Differences, 1)
		assert.Equal(t, "text: Two, was One", past.Differences[0].Words)
		assert.Contains(t, past.Before.HTML, ">One<")
		assert.Contains(t, past.After.HTML, ">Two<")
		require.Equal(
			t,
			200,
			lise.get(
				"/api/docs/screen/sign-in/past?seq="+strconv.FormatInt(
					first.Seq,
					10,
				)+"&till="+strconv.FormatInt(
					first.Seq,
					10,
				),
				&past,
			),
		)
		assert.Empty(t, past.Differences)
		body := map[string]any{"seq": first.Seq, "title": "Back", "seen": map[string]any{"view": "screen:sign-in"}}
		assert.Equal(t, 403, lise.post("/api/docs/screen/sign-in/restore", body, nil))
		require.Equal(t, 200, noor.post("/api/docs/screen/sign-in/restore", body, nil))
		code, why := noor.detail("POST", "/api/docs/screen/sign-in/restore", body)
		assert.Equal(t, 422, code)
		assert.Contains(t, why, "is as it was")
	})

	t.Run("markup is read and nothing is put anywhere", func(t *testing.T) {
		var out struct {
			Trees   []any
			Guesses []struct{ Title string }
			Page    struct{ HTML string }
		}
		require.Equal(
			t,
			200,
			lise.post(
				"/api/bring-in",
				map[string]any{
					"html": `<button class="btn btn-primary" onclick="x()">Go</button>`,
					"doc":  "screen:beds",
				},
				&out,
			),
		)
		assert.Len(t, out.Trees, 1)
		assert.Contains(t, out.Page.HTML, `emphasis="strong"`)
		code, why := lise.detail("POST", "/api/bring-in", map[string]any{"html": " ", "doc": "screen:beds"})
		assert.Equal(t, 422, code)
		assert.Contains(t, why, "nothing to bring in")
	})
}
