package live_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/norm"
	"ubiquant/core/usage"
	"ubiquant/core/wsfile"
	"ubiquant/internal/generate"
	"ubiquant/internal/testkit"
)

// Whatever is offered as a repair brings no new finding, to its screen or to another.
func TestARepairBringsNothingNew(t *testing.T) {
	text, err := os.ReadFile("../../demo/fernhollow.json")
	require.NoError(t, err)
	demo, err := wsfile.Read(text)
	require.NoError(t, err)
	workspaces := map[string]*model.Workspace{"demo": demo}
	for _, seed := range []uint64{3, 4} {
		workspaces["team"] = generate.NewTeam(generate.Options{Screens: 40, Slips: 0.05, Seed: seed}).Workspace
	}
	for name, w := range workspaces {
		t.Run(name, func(t *testing.T) {
			l := live.Open(w, testkit.Sorrel(t), "2026-11-23")
			open, _ := l.Findings()
			had := map[string]bool{}
			for _, f := range open {
				had[f.Key()] = true
			}
			repairs := 0
			check := func(what string, strays []norm.Stray, findings []audit.Finding) {
				line, left := l.Line(strays, findings, what)
				require.Empty(t, left, what)
				taken, err := l.Take(line)
				require.NoError(t, err, what)
				after, _ := l.Findings()
				for _, f := range after {
					assert.True(t, had[f.Key()], "%s brings %s %s#%s: %s", what, f.Rule, f.Doc, f.Element, f.Message)
				}
				_, err = l.Take(taken.Inverse)
				require.NoError(t, err)
				repairs++
			}
			for _, s := range l.Safe(l.Strays()) {
				if len(s.Fix) > 0 {
					check(s.Why, []norm.Stray{s}, nil)
				}
			}
			for _, f := range l.SafeFindings(open) {
				if len(f.Fix) > 0 {
					check(f.Message, nil, []audit.Finding{f})
				}
			}
			assert.Greater(t, repairs, 10)
			again, _ := l.Findings()
			assert.Equal(t, open, again, "all taken back")
		})
	}
}

// Many repairs at once are one change: what no longer fits is told, and the rest is done.
func TestRepairsOfOneScreenAreDoneTogether(t *testing.T) {
	team := generate.NewTeam(generate.Options{Screens: 40, Slips: 0.08, Seed: 9})
	l := live.Open(team.Workspace, testkit.Sorrel(t), "2026-11-23")
	strays := l.Safe(l.Strays())
	line, left := l.Line(strays, nil, "all")
	_, err := l.Take(line)
	require.NoError(t, err)
	gone := map[string]bool{}
	for _, s := range l.Strays() {
		gone[live.StrayKey(s)] = true
	}
	stays := 0
	for _, s := range strays {
		if gone[live.StrayKey(s)] && len(s.Fix) > 0 {
			stays++
		}
	}
	assert.LessOrEqual(t, stays, len(left)+len(strays)/20)
	for _, d := range l.Index.Docs() {
		_, ok := l.W.Doc(usage.DocKey(d.Document))
		assert.True(t, ok)
	}
}

// A house rule holds where it says, and nowhere else.
func TestAHouseRuleHoldsInItsContext(t *testing.T) {
	team := generate.NewTeam(generate.Options{Screens: 40, Seed: 5})
	team.Clean.House = []audit.HouseRule{{
		ID: "forms", Spot: "section", Words: "any section, on forms", Where: "mostly=sorrel-form", Prop: "padding", Value: "6",
	}}
	l := live.Open(team.Clean, testkit.Sorrel(t), "2026-11-23")
	open, _ := l.Findings()
	told := map[string]bool{}
	for _, f := range open {
		if f.Rule == "house-rule" {
			told[f.Doc] = true
			require.Len(t, f.Fix, 1)
		}
	}
	for _, d := range team.Clean.Docs {
		form := strings.HasPrefix(d.ID, "new-") || strings.HasPrefix(d.ID, "edit-")
		if form || strings.HasPrefix(d.ID, "list-") {
			assert.Equal(t, form, told[usage.DocKey(d)], d.ID)
		}
	}
	again, err := wsfile.Read(wsfile.Write(team.Clean))
	require.NoError(t, err)
	assert.Equal(t, team.Clean.House, again.House, "it is kept with its context")
}
