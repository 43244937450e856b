package repo_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/live"
	"ubiquant/internal/testkit"
)

// The repositories of the demo have slips planted, as four developers would have made them:
// most are told at their file, and hardly anything else is.
func TestTheSlipsOfTheDemoRepositoriesAreTold(t *testing.T) {
	for name, least := range map[string]float64{"office": 0.9, "stand": 0.6} {
		t.Run(name, func(t *testing.T) {
			dir := filepath.Join(testkit.Root(), "demo", name)
			r := read(t, dir, nil)
			assert.Equal(t, 40, r.Report.Screens)
			assert.Equal(t, 1, r.Report.Shells)
			require.NotEmpty(t, r.Report.Kits)
			assert.True(t, r.Report.Kits[0].Described, "the kit beside it describes itself")
			src, err := os.ReadFile(filepath.Join(dir, "planted.json"))
			require.NoError(t, err)
			var planted struct {
				Slips []struct{ File, Find, Prop string }
			}
			require.NoError(t, json.Unmarshal(src, &planted))
			l := live.Open(r.W, r.Kit, day)
			told := map[string]bool{}
			open, _ := l.Findings()
			for _, f := range open {
				told[r.Places[f.Doc][f.Element].File.Path] = true
			}
			for _, s := range l.Norms.Strays() {
				told[r.Places[s.Doc][s.Element].File.Path] = true
			}
			slips := map[string]bool{}
			found := 0
			for _, s := range planted.Slips {
				slips[s.File] = true
				if told[s.File] {
					found++
				} else {
					t.Logf("not told: %s, %s", s.File, s.Prop)
				}
			}
			assert.GreaterOrEqual(t, float64(found), least*float64(len(planted.Slips)))
			for file := range told {
				assert.True(t, slips[file], "nothing was planted in %s", file)
			}
		})
	}
}
