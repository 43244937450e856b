package server_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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
		`{"format": "other"}`: "accepted",
		`{"format": "ubiquant.rules/1", "rules": []}`: `unknown field`,
		`{`: "the file of rules",
	} {
		status, said := ida.detail("POST", "/api/rules/file", map[string]any{"text": bad})
		assert.Equal(t, 422, status, bad)
		assert.Contains(t, said, want)
	}
}
