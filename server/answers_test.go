package server_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// post sends a body and reads the answer.
func (p *person) post(path string, body, into any) int {
	res := p.do("POST", path, body, nil)
	if into != nil && res.StatusCode == 200 {
		require.NoError(p.t, json.NewDecoder(res.Body).Decode(into))
	}
	return res.StatusCode
}

// detail is what a refusal says.
func (p *person) detail(method, path string, body any) (int, string) {
	res := p.do(method, path, body, nil)
	var problem struct{ Detail, Title string }
	assert.Contains(p.t, res.Header.Get("Content-Type"), "application/problem+json")
	require.NoError(p.t, json.NewDecoder(res.Body).Decode(&problem))
	return res.StatusCode, problem.Title + ": " + problem.Detail
}

type choicesAnswer struct {
	Title   string
	Spots   []struct{ Name, Words string }
	Spot    int
	Choices []struct {
		Prop, Value, House string
		Set, Varies        bool
		Values             []struct {
			Value         string
			Uses, Screens int
		}
		Verdict struct{ Standing, Value string }
	}
	Strays   []struct{ Prop, Norm string }
	Findings []struct{ Rule string }
	Code     map[string]string
}

// What only looks shares one server.
func TestAnswers(t *testing.T) {
	r := start(t)
	lise := signIn(t, r, "lise")

	t.Run("beside a choice stands what the other screens do", func(t *testing.T) {
		var out choicesAnswer
		require.Equal(t, 200, lise.get("/api/docs/screen/volunteers/choices?element=volunteers-new", &out))
		assert.Equal(t, "button", out.Title)
		require.NotEmpty(t, out.Spots)
		assert.Contains(t, out.Spots[out.Spot].Words, "in the actions of a page header")
		assert.Equal(t, "any button", out.Spots[len(out.Spots)-1].Words)
		emphasis := out.Choices[0]
		assert.Equal(t, "emphasis", emphasis.Prop, "what varies here comes first")
		assert.Equal(t, "soft", emphasis.Value)
		assert.Equal(t, "norm", emphasis.Verdict.Standing)
		assert.Equal(t, "strong", emphasis.Verdict.Value)
		uses := 0
		for _, v := range emphasis.Values {
			uses += v.Uses
		}
		assert.Equal(t, 14, uses)
		require.Len(t, out.Strays, 1)
		assert.Equal(t, "strong", out.Strays[0].Norm)
		assert.Contains(t, out.Code["vue"], "<sorrel-button")
		assert.Contains(t, out.Code["html"], "New volunteer")
	})

	t.Run("the spot can be widened", func(t *testing.T) {
		var out choicesAnswer
		require.Equal(
			t,
			200,
			lise.get("/api/docs/screen/volunteers/choices?element=volunteers-new&spot=sorrel-button", &out),
		)
		assert.Equal(t, "any button", out.Spots[out.Spot].Words)
		for _, c := range out.Choices {
			if c.Prop == "emphasis" {
				assert.NotEqual(t, "norm", c.Verdict.Standing, "buttons in general have no one emphasis")
			}
		}
		status, said := lise.detail("GET", "/api/docs/screen/volunteers/choices?element=nobody", nil)
		assert.Equal(t, 404, status)
		assert.Contains(t, said, "nobody")
	})

	type suggestion struct {
		Type, Title, Slot, Why string
		Probability            float64
		Screens                int
		Preset                 map[string]string
	}
	var next struct{ Suggestions, Elsewhere []suggestion }
	t.Run("what comes next is what comes next on the other screens", func(t *testing.T) {
		require.Equal(
			t,
			200,
			lise.get("/api/docs/screen/volunteers/next?parent=volunteers-1&after=volunteers-2", &next),
		)
		require.NotEmpty(t, next.Suggestions)
		assert.Equal(t, "sorrel-page-header", next.Suggestions[0].Type, "after breadcrumbs")
		assert.Greater(t, next.Suggestions[0].Screens, 5)
		for i := 1; i < len(next.Suggestions); i++ {
			assert.LessOrEqual(t, next.Suggestions[i].Probability, next.Suggestions[i-1].Probability)
		}
	})
	t.Run("typing narrows it, and says why what matches may not stand there", func(t *testing.T) {
		require.Equal(
			t,
			200,
			lise.get("/api/docs/screen/volunteers/next?parent=volunteers-1&after=volunteers-2&q=crumb", &next),
		)
		types := []string{}
		for _, s := range next.Suggestions {
			types = append(types, s.Type)
		}
		assert.Contains(t, types, "sorrel-breadcrumbs")
		assert.NotContains(t, types, "sorrel-crumb")
		require.NotEmpty(t, next.Elsewhere)
		assert.Equal(t, "sorrel-crumb", next.Elsewhere[0].Type)
		assert.Contains(t, next.Elsewhere[0].Why, "breadcrumbs")
	})
	t.Run("a new element starts with the settings of the place", func(t *testing.T) {
		require.Equal(t, 200, lise.get("/api/docs/screen/volunteers/next?parent=volunteers-1&slot=*&q=chip", &next))
		require.Equal(t, 200, lise.get("/api/docs/screen/new-bed/next?parent=new-bed-3&slot=actions&q=button", &next))
		assert.Equal(t, 404, lise.get("/api/docs/screen/new-bed/next?parent=nobody", nil))
	})

	t.Run("anything is found by words, screens and elements as well", func(t *testing.T) {
		var out struct {
			Matches []struct{ Kind, ID, Title, Why string }
		}
		kinds := func(q string) map[string]bool {
			require.Equal(t, 200, lise.get("/api/find?q="+url.QueryEscape(q), &out))
			got := map[string]bool{}
			for _, m := range out.Matches {
				got[m.Kind] = true
			}
			return got
		}
		assert.True(t, kinds("popup")["component"])
		assert.Equal(t, "sorrel-dialog", out.Matches[0].ID)
		assert.Contains(t, out.Matches[0].Why, "popup")
		assert.True(t, kinds("work tickets")["screen"])
		assert.Equal(t, "screen:tickets", out.Matches[0].ID)
		assert.True(t, kinds("new volunteer")["element"])
		// An address finds what it names, pasted as a report prints it.
		for _, q := range []string{"screen:volunteers#volunteers-new", "demo.json:12:3 screen:volunteers#volunteers-new: note stray: …", "#volunteers-new"} {
			assert.True(t, kinds(q)["element"], q)
			assert.Equal(t, "screen:volunteers#volunteers-new", out.Matches[0].ID, q)
		}
		kinds("screen:volunteers#nobody")
		for _, m := range out.Matches {
			assert.NotEqual(t, "its address", m.Why)
		}
		require.Equal(t, 200, lise.get("/api/find?only=kit&q=volunteers", &out))
		for _, m := range out.Matches {
			assert.NotEqual(t, "screen", m.Kind)
		}
	})

	t.Run("a selector finds its uses", func(t *testing.T) {
		var out struct {
			Total int
			Uses  []struct{ Doc, Element string }
		}
		require.Equal(
			t,
			200,
			lise.get(
				"/api/where?selector="+url.QueryEscape("sorrel-page-header > sorrel-button[emphasis=soft]"),
				&out,
			),
		)
		assert.Equal(t, 1, out.Total)
		assert.Equal(t, "volunteers-new", out.Uses[0].Element)
		status, said := lise.detail("GET", "/api/where?selector="+url.QueryEscape("a:hover"), nil)
		assert.Equal(t, 422, status)
		assert.Contains(t, said, "character")
	})

	t.Run("the line-up groups every use by how it is set", func(t *testing.T) {
		var out struct {
			Total  int
			Props  []string
			Groups []struct {
				Values map[string]string
				Uses   []struct {
					Stray    bool
					Fragment struct{ Doc, Element string }
				}
			}
		}
		require.Equal(t, 200, lise.get("/api/census/line-up?component=sorrel-chip&prop=shape", &out))
		require.Len(t, out.Groups, 2)
		uses := 0
		for _, g := range out.Groups {
			uses += len(g.Uses)
			assert.Contains(t, []string{"round", "square"}, g.Values["shape"])
		}
		assert.Equal(t, out.Total, uses, "nothing is left out")
		assert.GreaterOrEqual(t, len(out.Groups[0].Uses), len(out.Groups[1].Uses))
		require.Equal(t, 200, lise.get("/api/census/line-up?component=sorrel-button&prop=emphasis", &out))
		strays := 0
		for _, g := range out.Groups {
			for _, u := range g.Uses {
				if u.Stray {
					strays++
				}
			}
		}
		assert.Positive(t, strays)
		assert.Equal(t, 404, lise.get("/api/census/line-up?component=sorrel-carousel", nil))

		// Each is shown in its surroundings.
		var pages struct{ Pages []struct{ Key, HTML string } }
		f := out.Groups[0].Uses[0].Fragment
		require.Equal(t, 200, lise.post("/api/fragments", map[string]any{"items": []any{f}}, &pages))
		assert.Contains(t, pages.Pages[0].HTML, f.Element)
		status, _ := lise.detail("POST", "/api/fragments", map[string]any{"items": make([]map[string]any, 201)})
		assert.Equal(t, 422, status)
	})

	t.Run("the count adds up", func(t *testing.T) {
		var out struct {
			Rows []struct {
				Type    string
				Uses    int
				Screens map[string]int
			}
		}
		require.Equal(t, 200, lise.get("/api/census/count", &out))
		require.NotEmpty(t, out.Rows)
		for i := 1; i < len(out.Rows); i++ {
			assert.LessOrEqual(t, out.Rows[i].Uses, out.Rows[i-1].Uses)
		}
	})

	t.Run("an element is told as code in every target", func(t *testing.T) {
		var out struct{ Code map[string]string }
		require.Equal(
			t,
			200,
			lise.post(
				"/api/code",
				map[string]any{
					"tree": map[string]any{
						"id":    "x",
						"type":  "sorrel-button",
						"text":  `Save <all> & "go"`,
						"props": map[string]any{"emphasis": "strong"},
					},
				},
				&out,
			),
		)
		assert.Contains(t, out.Code["html"], `<sorrel-button emphasis="strong">Save &lt;all&gt; &amp;`)
		assert.Contains(t, out.Code["vue"], `emphasis="strong"`)
		status, said := lise.detail("POST", "/api/code", map[string]any{"tree": map[string]any{"type": 3}})
		assert.Equal(t, 422, status)
		assert.Contains(t, said, "/type")
	})

	t.Run("a delivery can be looked at and taken away", func(t *testing.T) {
		var out struct {
			Files []struct {
				Path, Text string
				Size       int
			}
		}
		require.Equal(
			t,
			200,
			lise.post("/api/deliver", map[string]any{"target": "vue", "screens": []string{"tickets"}}, &out),
		)
		listed := map[string]int{}
		for _, f := range out.Files {
			listed[f.Path] = f.Size
		}
		assert.Contains(t, listed, "src/app/screens/TicketsScreen.vue")
		assert.NotContains(t, listed, "src/app/screens/SettingsScreen.vue")
		res := lise.do(
			"POST",
			"/api/deliver/archive",
			map[string]any{"target": "vue", "screens": []string{"tickets"}},
			nil,
		)
		require.Equal(t, 200, res.StatusCode)
		body, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		archive, err := zip.NewReader(bytes.NewReader(body), int64(len(body)))
		require.NoError(t, err)
		assert.Len(t, archive.File, len(listed))
		for _, f := range archive.File {
			assert.EqualValues(t, listed[f.Name], f.UncompressedSize64, f.Name)
		}
		for body, said := range map[string]string{`{"target":"cobol"}`: "cobol", `{"target":"vue","screens":["nowhere"]}`: "nowhere", `{"target":"vue","app":"none"}`: "none"} {
			var in map[string]any
			require.NoError(t, json.Unmarshal([]byte(body), &in))
			_, text := lise.detail("POST", "/api/deliver", in)
			assert.Contains(t, text, said)
		}
	})

	t.Run("a component is told with its use", func(t *testing.T) {
		var out struct {
			Mixes map[string][]struct {
				Value string
				Uses  int
			}
			Cells map[string][]struct {
				Row, Col string
				Uses     int
			}
			Uses  []struct{ Element string }
			House []struct{ Value string }
		}
		require.Equal(t, 200, lise.get("/api/kit/sorrel-button", &out))
		sum := 0
		for _, v := range out.Mixes["emphasis"] {
			sum += v.Uses
		}
		assert.Equal(t, len(out.Uses), sum)
		cells := 0
		for _, c := range out.Cells["emphasis|size"] {
			cells += c.Uses
		}
		assert.Equal(t, sum, cells)
		require.Equal(t, 200, lise.get("/api/kit/sorrel-avatar", &out))
		assert.Equal(t, "round", out.House[0].Value)
	})

	t.Run("trees that stand in no document are drawn, and many at once refused", func(t *testing.T) {
		var out struct{ Pages []struct{ HTML string } }
		require.Equal(
			t,
			200,
			lise.post(
				"/api/render",
				map[string]any{"trees": []any{map[string]any{"id": "x", "type": "sorrel-chip", "text": "late"}}},
				&out,
			),
		)
		assert.Contains(t, out.Pages[0].HTML, "late")
		status, _ := lise.detail("POST", "/api/render", map[string]any{"trees": make([]map[string]any, 201)})
		assert.Equal(t, 422, status)
	})

	t.Run("a session ends when it is ended", func(t *testing.T) {
		noor := signIn(t, r, "noor")
		require.Equal(t, 200, noor.get("/api/workspace", nil))
		require.Less(t, noor.do("POST", "/api/sign-out", map[string]any{}, nil).StatusCode, 300)
		assert.Equal(t, 401, noor.get("/api/workspace", nil))
	})
}

type lineAnswer struct {
	Docs []struct {
		Doc           string
		Words         []string
		Before, After struct{ HTML string }
	}
	Skipped []struct{ Key, Why string }
	Taken   *changed
}

func TestStraysAreSeenBeforeAndAfterAndBroughtIntoLineAtOnce(t *testing.T) {
	r := start(t)
	noor := signIn(t, r, "noor")
	var census struct {
		Strays []struct{ Key, Doc, Prop, Value, Norm string }
	}
	require.Equal(t, 200, noor.get("/api/census", &census))
	require.Len(t, census.Strays, 10)
	keys := []string{census.Strays[0].Key, census.Strays[1].Key}

	var preview lineAnswer
	require.Equal(
		t,
		200,
		noor.post("/api/census/line", map[string]any{"strays": append(keys, "stray|gone|x|y")}, &preview),
	)
	require.Len(t, preview.Skipped, 1)
	assert.Equal(t, "stray|gone|x|y", preview.Skipped[0].Key)
	assert.Equal(t, "it is no longer there", preview.Skipped[0].Why)
	assert.Nil(t, preview.Taken)
	require.NotEmpty(t, preview.Docs)
	for _, d := range preview.Docs {
		assert.NotEqual(t, d.Before.HTML, d.After.HTML, d.Doc)
		assert.Contains(t, strings.Join(d.Words, " "), "→")
	}
	require.Equal(t, 200, noor.get("/api/census", &census))
	assert.Len(t, census.Strays, 10, "looking changes nothing")

	var taken lineAnswer
	require.Equal(t, 200, noor.post("/api/census/line", map[string]any{"strays": keys, "apply": true}, &taken))
	assert.Equal(t, 8, taken.Taken.Counts.Strays)
	status, said := noor.detail("POST", "/api/census/line", map[string]any{"strays": keys})
	assert.Equal(t, 422, status)
	assert.Contains(t, said, "nothing of it can be repaired")
	var back changed
	require.Equal(t, 200, noor.post(fmt.Sprintf("/api/changes/%d/undo", taken.Taken.Seq), map[string]any{}, &back))
	assert.Equal(t, 10, back.Counts.Strays, "both at once")
}

func TestWhatIsLetStandCountsNoMoreUntilItIsLookedAtAgain(t *testing.T) {
	r := start(t)
	noor := signIn(t, r, "noor")
	var census struct {
		Strays   []struct{ Key string }
		Findings []struct{ Key string }
		Standing []struct{ Key string }
		Stands   []struct{ By, Reason string }
	}
	require.Equal(t, 200, noor.get("/api/census", &census))
	strays, findings := len(census.Strays), len(census.Findings)
	stray, finding := census.Strays[0].Key, census.Findings[0].Key

	status, said := noor.detail("POST", "/api/census/let-stand", map[string]any{"keys": []string{stray}, "reason": " "})
	assert.Equal(t, 422, status)
	assert.Contains(t, said, "needs a reason")

	var out changed
	require.Equal(
		t,
		200,
		noor.post("/api/census/let-stand", map[string]any{"keys": []string{stray}, "reason": "on purpose"}, &out),
	)
	assert.Equal(t, strays-1, out.Counts.Strays)
	require.Equal(
		t,
		200,
		noor.post(
			"/api/census/let-stand",
			map[string]any{"keys": []string{finding}, "reason": "until spring", "until": "2099-01-01"},
			&out,
		),
	)
	assert.Equal(t, findings-1, out.Counts.Findings)
	require.Equal(t, 200, noor.get("/api/census", &census))
	assert.Equal(
		t,
		[]int{strays - 1, findings - 1},
		[]int{len(census.Strays), len(census.Findings)},
		"the lists say what the counts say",
	)
	assert.Equal(t, "noor", census.Stands[0].By)

	require.Equal(t, 200, noor.post("/api/census/let-stand", map[string]any{"keys": []string{finding}, "drop": true}, &out))
	assert.Equal(t, findings, out.Counts.Findings)
	status, _ = noor.detail("POST", "/api/census/let-stand", map[string]any{"keys": []string{finding}, "drop": true})
	assert.Equal(t, 404, status)
	status, said = noor.detail(
		"POST",
		"/api/census/let-stand",
		map[string]any{"keys": []string{finding}, "reason": "it was long ago", "until": "2001-01-01"},
	)
	assert.Equal(t, 422, status)
	assert.Contains(t, said, "2001-01-01, is past")
}
