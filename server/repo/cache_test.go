package repo

import (
	"fmt"
	"os"
	"path/filepath"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// What was kept is there again, whatever was kept between and by whom; of a file that is broken
// anywhere what stands before the break is there, and it is made anew.
func TestWhatWasReadIsKept(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		dir, err := os.MkdirTemp(t.TempDir(), "cache")
		require.NoError(r, err)
		want := map[string]string{}
		for round := range rapid.IntRange(1, 5).Draw(r, "rounds") {
			c := openCache(dir, "a")
			require.False(r, c.broken)
			require.Len(r, c.known, len(want))
			for i := range rapid.IntRange(0, 4).Draw(r, "new") {
				hash := fmt.Sprintf("%d-%d", round, i)
				want[hash] = rapid.StringMatching(`\{"[a-z é\\"]{0,40}\}`).Draw(r, "answer")
				c.add(hash, []byte(want[hash]))
			}
			c.keep()
		}
		c := openCache(dir, "a")
		for hash, answer := range want {
			require.Equal(r, answer, string(c.known[hash]))
		}
		if len(want) == 0 {
			return
		}
		// Cut anywhere.
		file := filepath.Join(dir, "markup-a.lines.gz")
		whole, err := os.ReadFile(file)
		require.NoError(r, err)
		require.NoError(r, os.WriteFile(file, whole[:rapid.IntRange(0, len(whole)-1).Draw(r, "cut")], 0o600))
		c = openCache(dir, "a")
		for hash, answer := range c.known {
			require.Equal(r, want[hash], string(answer))
		}
		for hash, answer := range want {
			if _, ok := c.known[hash]; !ok {
				c.add(hash, []byte(answer))
			}
		}
		c.keep()
		c = openCache(dir, "a")
		assert.False(r, c.broken)
		assert.Len(r, c.known, len(want))
	})
}

// Two that keep at once take nothing from each other.
func TestTwoKeepAtOnce(t *testing.T) {
	dir := t.TempDir()
	var all sync.WaitGroup
	for i := range 8 {
		all.Go(func() {
			c := openCache(dir, "a")
			for n := range 50 {
				c.add(fmt.Sprintf("%d-%d", i, n), []byte(`{"n":1}`))
			}
			c.keep()
		})
	}
	all.Wait()
	assert.Len(t, openCache(dir, "a").known, 400)
}

// A cache is no archive: of more than it holds what is used stays.
func TestACacheHoldsSoMuch(t *testing.T) {
	dir := t.TempDir()
	c := openCache(dir, "a")
	for n := range mostKept + 10 {
		c.add(fmt.Sprint(n), []byte("{}"))
	}
	clear(c.used)
	c.used["7"] = true
	c.keep()
	c = openCache(dir, "a")
	assert.Len(t, c.known, mostKept/2)
	assert.Contains(t, c.known, "7")
}
