package server_test

import (
	"context"
	"encoding/json"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/testkit/database"
	"ubiquant/server"
)

// Rules travel as a file: what is written out is taken in again as it was, once; a broken file
// says what is wrong with it and changes nothing; who may not decide may still look.
func TestRulesTravelAsAFile(t *testing.T) {
	r := start(t)
	ida, noor := signIn(t, r, "ida"), signIn(t, r, "noor")
	rule := map[string]any{
		"id": "short-buttons", "title": "Buttons say little", "where": "sorrel-button", "must": "words(text) <= 2",
		"message": "a button says at most two words", "severity": "note",
	}
	var preview struct {
		Total, Screens, Picked int
		Hits                   []struct{ Doc, Element, Words, Message string }
	}
	require.Equal(t, 200, noor.post("/api/rules/preview", map[string]any{"rule": rule}, &preview))
	assert.Positive(t, preview.Total)
	assert.Less(t, preview.Total, preview.Picked)
	put := map[string]any{"change": map[string]any{"title": "New rule", "steps": []any{map[string]any{"do": "rule", "rule": rule}}}}
	status, _ := noor.detail("POST", "/api/changes", put)
	assert.Equal(t, 403, status, "a builder decides no rule")
	var changed struct{ Seq int64 }
	require.Equal(t, 200, ida.post("/api/changes", put, &changed))

	var rules struct {
		Own []struct {
			Findings int
			Rule     struct{ ID, By string }
		}
	}
	require.Equal(t, 200, noor.get("/api/rules", &rules))
	require.Len(t, rules.Own, 1)
	assert.Equal(t, preview.Total, rules.Own[0].Findings, "what was shown is what is found")
	assert.Equal(t, "ida", rules.Own[0].Rule.By)

	var file map[string]any
	require.Equal(t, 200, noor.get("/api/rules/file", &file))
	text, err := json.Marshal(file)
	require.NoError(t, err)
	status, said := ida.detail("POST", "/api/rules/file", map[string]any{"text": string(text)})
	assert.Equal(t, 422, status)
	assert.Contains(t, said, "nothing that is not here already")
	require.Equal(t, 200, ida.post("/api/changes", map[string]any{"change": map[string]any{"title": "Away", "steps": []any{
		map[string]any{"do": "unrule", "rule": map[string]any{"id": "short-buttons"}},
	}}}, &changed))
	var taken struct{ New, Changed []string }
	require.Equal(t, 200, ida.post("/api/rules/file", map[string]any{"text": string(text)}, &taken))
	assert.Equal(t, []string{"Buttons say little"}, taken.New)
	require.Equal(t, 200, noor.get("/api/rules", &rules))
	assert.Empty(t, rules.Own, "looking takes nothing")
	require.Equal(t, 200, ida.post("/api/rules/file", map[string]any{"text": string(text), "apply": true}, &taken))
	require.Equal(t, 200, noor.get("/api/rules", &rules))
	require.Len(t, rules.Own, 1)
	assert.Equal(t, preview.Total, rules.Own[0].Findings)

	for bad, want := range map[string]string{
		`{"format": "ubiquant.rules/1", "ownRules": [{"id": "a", "title": "t", "must": "props.", "message": "m", "severity": "note", "where": "*"}]}`: "Syntax error",
		`{"format": "other"}`:                         "accepted",
		`{"format": "ubiquant.rules/1", "rules": []}`: `unknown field`,
		`{`: "the file of rules",
	} {
		status, said := ida.detail("POST", "/api/rules/file", map[string]any{"text": bad})
		assert.Equal(t, 422, status, bad)
		assert.Contains(t, said, want)
	}
}

// The trend is counted from the history: each day's last state as it was then, what was decided
// marked, and the same after more has happened. Taking the history back ends where it began.
func TestTheTrendIsWhatTheCountsWere(t *testing.T) {
	t.Parallel()
	address := database.Demo(t)
	r, err := server.Start(context.Background(), server.Options{Database: address, Log: quiet})
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, r.Stop()) })
	db, err := pgx.Connect(context.Background(), address)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, db.Close(context.Background())) })
	ida := signIn(t, r, "ida")
	type point struct {
		Day                      string
		Errors, Warnings, Strays int
		Questions, Screens       int
		Score                    float64
	}
	type trend struct {
		Points []point
		Marks  []struct{ Kind, Title string }
		Done   bool
		Since  string
	}
	read := func() (out trend) {
		require.Eventually(t, func() bool {
			out = trend{}
			require.Equal(t, 200, ida.get("/api/census/trend", &out))
			return out.Done
		}, time.Minute, 20*time.Millisecond)
		return out
	}
	before := read()
	require.Len(t, before.Points, 1)
	assert.Positive(t, before.Points[0].Errors)

	// A rule, and a repair of strays, as if it were some days ago.
	rule := map[string]any{"id": "quiet", "title": "Quiet", "where": "sorrel-button", "must": "false", "message": "no button", "severity": "warning"}
	var out changed
	require.Equal(t, 200, ida.post("/api/changes", map[string]any{"change": map[string]any{"title": "A rule", "steps": []any{map[string]any{"do": "rule", "rule": rule}}}}, &out))
	noted := read()
	_, err = db.Exec(context.Background(), `UPDATE changes SET at = at - interval '3 days'`)
	require.NoError(t, err)
	require.Equal(t, 200, ida.post("/api/changes", map[string]any{"change": map[string]any{"title": "None", "steps": []any{map[string]any{"do": "unrule", "rule": map[string]any{"id": "quiet"}}}}}, &out))
	after := read()
	require.Len(t, after.Points, 2, after.Since)
	then, now := after.Points[0], after.Points[1]
	assert.Equal(t, noted.Points[len(noted.Points)-1].Warnings, then.Warnings)
	assert.Greater(t, then.Warnings, now.Warnings)
	now.Day, before.Points[0].Day = "", ""
	assert.Equal(t, before.Points[0], now)
	require.NotEmpty(t, after.Marks)
	assert.Equal(t, "A rule", after.Marks[0].Title)
}
