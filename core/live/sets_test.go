package live_test

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/geometry"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit/opened"
)

var renew = flag.Bool("renew", false, "write the golden files anew")

// Every screen of the demo is seen with every sample set: each renders, and what shows
// nothing or cannot be computed is as reviewed.
func TestEveryScreenIsSeenWithEverySampleSet(t *testing.T) {
	l := opened.Demo(t)
	var out strings.Builder
	for _, d := range l.W.Docs {
		if d.Kind != screen.ScreenDoc || d.Removed {
			continue
		}
		for _, set := range l.Sets() {
			view := live.View{Set: set.ID}
			page, problems, err := l.Page("screen:"+d.ID, view)
			require.NoError(t, err)
			assert.NotEmpty(t, page.HTML)
			for _, p := range problems {
				fmt.Fprintf(&out, "%s, %s: %s: %s\n", d.ID, set.ID, p.Element, p.Message)
			}
			n, _ := l.ResolveTree(d, d.Root, view)
			for _, f := range geometry.Judge(n, d.Root, nil, 1280) {
				fmt.Fprintf(&out, "%s, %s: %s\n", d.ID, set.ID, f.Message)
			}
		}
	}
	path := filepath.Join("testdata", "sets.golden")
	if *renew {
		require.NoError(t, os.MkdirAll("testdata", 0o755))
		require.NoError(t, os.WriteFile(path, []byte(out.String()), 0o644))
	}
	want, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, string(want), out.String())
}
