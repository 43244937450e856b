package server_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What follows when somebody uses a screen's controls is told as patches.
func TestScreensFollowTheirControls(t *testing.T) {
	r := start(t)
	lise := signIn(t, r, "lise")
	ask := func(from, to map[string]any) (ops map[string]int) {
		t.Helper()
		var out struct {
			Patches []struct{ Op, Key, Text string }
			Page    *struct{ HTML string }
		}
		require.Equal(
			t,
			200,
			lise.post("/api/held", map[string]any{"doc": "screen:tickets", "from": from, "to": to}, &out),
		)
		require.Nil(t, out.Page)
		ops = map[string]int{}
		for _, p := range out.Patches {
			ops[p.Op]++
		}
		return ops
	}
	none := map[string]any{}
	assert.Equal(t, map[string]int{"remove": 10, "insert": 4}, ask(none, map[string]any{"page": 2}))
	assert.Empty(t, ask(none, map[string]any{"page": 1}))
	assert.Empty(t, ask(map[string]any{"page": 2}, map[string]any{"page": 99}), "past the last page is the last")
	assert.Empty(t, ask(none, map[string]any{"page": "two", "nobody": true}), "what no control holds changes nothing")
	ops := ask(none, map[string]any{"state": "done"})
	assert.NotZero(t, ops["remove"])
	assert.NotZero(t, ops["text"], "the count says so")
	assert.Equal(t, 1, ask(none, map[string]any{"q": "no such ticket"})["insert"], "the empty part")
	for _, bad := range []map[string]any{{"q": []int{1}}, {"q": map[string]any{}}} {
		code, why := lise.detail(
			"POST",
			"/api/held",
			map[string]any{"doc": "screen:tickets", "from": none, "to": bad},
		)
		assert.Equal(t, 422, code)
		assert.Contains(t, why, "q holds neither")
	}
}
