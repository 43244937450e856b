package server_test

import (
	"fmt"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
)

// While some edit, change the kit's dress, records and rules, others take deliveries and
// pages away: nobody sees half of anything, and every edit is taken.
func TestManyLookWhileOthersChange(t *testing.T) {
	r := start(t)
	ida, noor, lise := signIn(t, r, "ida"), signIn(t, r, "noor"), signIn(t, r, "lise")
	const rounds = 12
	var wait sync.WaitGroup
	done := make(chan struct{})
	for _, ask := range []func() int{
		func() int {
			return lise.do("POST", "/api/deliver", map[string]any{"target": "vue"}, nil).StatusCode
		},
		func() int {
			return lise.do("POST", "/api/pages",
				map[string]any{"docs": []string{"screen:tickets", "screen:today", "screen:specimens"}, "set": "many"}, nil).StatusCode
		},
		func() int { return lise.get("/api/census", nil) },
		func() int { return lise.get("/api/docs/screen/volunteers", nil) },
	} {
		wait.Go(func() {
			for {
				select {
				case <-done:
					return
				default:
					assert.Equal(t, 200, ask())
				}
			}
		})
	}
	change := func(p *person, steps ...any) {
		body := map[string]any{"change": map[string]any{"title": "x", "steps": steps}, "view": "screen:volunteers"}
		assert.Equal(t, 200, p.do("POST", "/api/changes", body, nil).StatusCode)
	}
	for i := range rounds {
		value := []string{"strong", "soft"}[i%2]
		assert.Equal(t, 200, noor.do("POST", "/api/changes", setEmphasis("screen:volunteers", "volunteers-new", value), nil).StatusCode)
		change(noor, map[string]any{"do": "records", "rows": map[string]any{"set": "usual", "model": "beds", "put": []any{
			map[string]any{"id": fmt.Sprintf("x%d", i), "name": "Extra", "soil": "clay", "area": 2, "moisture": "wet"}}}})
		change(ida, map[string]any{"do": "theme", "theme": map[string]any{
			"id": "heather", "name": "Heather", "from": "light", "making": map[string]any{"accent": fmt.Sprintf("#7A3E%02X", 64+i)}}})
		change(ida, map[string]any{"do": "leave-out", "left": map[string]any{"tag": "sorrel-tag", "reason": "chips do"}},
			map[string]any{"do": "take-in", "left": map[string]any{"tag": "sorrel-tag"}})
	}
	close(done)
	wait.Wait()
}
