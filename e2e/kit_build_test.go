package e2e_test

import (
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/internal/testkit"
)

// Whoever builds the kit from its sources gets the same bytes, of both versions.
func TestTheKitIsBuiltTheSameTwice(t *testing.T) {
	if testing.Short() {
		t.Skip("builds the kit twice")
	}
	kit := filepath.Join(testkit.Root(), "kits/sorrel")
	for from, flag := range map[string]string{kit: "", filepath.Join(kit, ".next"): "--next"} {
		out := filepath.Join(t.TempDir(), "out")
		args := []string{"build.mjs", "--out", out}
		if flag != "" {
			args = append(args, flag)
		}
		build := exec.Command("node", args...)
		build.Dir = kit
		said, err := build.CombinedOutput()
		require.NoError(t, err, "%s", said)
		compared := 0
		require.NoError(t, filepath.WalkDir(out, func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || d.Type()&fs.ModeSymlink != 0 {
				return err
			}
			rel, err := filepath.Rel(out, path)
			if err != nil || !(strings.HasPrefix(rel, "dist") || strings.HasSuffix(rel, ".json")) ||
				rel == "tsconfig.json" {
				return err
			}
			a, err := os.ReadFile(path)
			if err != nil {
				return err
			}
			b, err := os.ReadFile(filepath.Join(from, rel))
			if err != nil {
				return err
			}
			compared++
			assert.True(t, string(a) == string(b), "%s %s differs", flag, rel)
			return nil
		}))
		assert.Greater(t, compared, 30)
	}
}

func TestAPartOfTheKitWorksAloneAndBesideTheWhole(t *testing.T) {
	j := kitPage(t, 600, `<sorrel-button>Water</sorrel-button>`)
	page := j.text(`location.href`)
	j.run(
		chromedp.Navigate(page+"?module=/dist/parts/actions.js"),
		chromedp.Poll(
			`!!customElements.get('sorrel-button') && document.querySelector('sorrel-button').shadowRoot?.querySelector('button')`,
			nil,
		),
	)
	assert.Equal(
		t,
		"undefined",
		j.text(`typeof customElements.get('sorrel-table')`),
		"what was not asked for is not there",
	)
	j.run(chromedp.Evaluate(`import('/dist/sorrel.js')`, nil, awaited))
	assert.Equal(t, "function", j.text(`typeof customElements.get('sorrel-table')`))
	j.key("Tab")
	j.key("Enter")
	j.until(`told.join() === 'sorrel-press""'`)
}
