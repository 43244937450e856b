package live_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/internal/generate"
	"ubiquant/internal/testkit"
)

// The judge says the same of a team's screens whatever its library calls the settings that mean the
// same: as many strays and questions, and each about the same element.
func TestTheJudgeDoesNotDependOnTheNamesOfALibrary(t *testing.T) {
	o := generate.Options{Screens: 60, Elements: 40, Slips: 0.05, Seed: 11}
	here := live.Open(generate.NewTeam(o).Workspace, testkit.Sorrel(t), "2026-11-23")
	there := generate.NewTeam(o).Workspace
	for _, d := range there.Docs {
		d.Root.Walk(func(e, _ *screen.Element) bool {
			for i := range e.Props {
				e.Props[i].Name = testkit.OtherName(e.Props[i].Name)
			}
			screen.SortProps(e.Props)
			return true
		})
		require.Empty(t, d.States, "nothing else speaks of settings")
	}
	other := live.Open(there, testkit.Renamed(t), "2026-11-23")

	strays := func(l *live.Live) (out []string) {
		for _, s := range l.Strays() {
			line := s.Doc + "#" + s.Element + " " + testkit.OtherName(s.Prop) + ":"
			for _, e := range s.Fix {
				line += " " + string(e.Op) + " " + testkit.OtherName(e.Prop) + " " + e.Value.Text
			}
			out = append(out, line)
		}
		return out
	}
	assert.Greater(t, len(here.Strays()), 20)
	assert.ElementsMatch(t, strays(here), strays(other))
	questions := func(l *live.Live) (out []string) {
		for _, q := range l.Questions() {
			out = append(out, q.Kind+" "+testkit.OtherName(q.Prop))
		}
		return out
	}
	assert.ElementsMatch(t, questions(here), questions(other))
	findings := func(l *live.Live) (out []string) {
		open, _ := l.Findings()
		for _, f := range open {
			out = append(out, f.Rule+" "+f.Doc+"#"+f.Element+" "+testkit.OtherName(f.Prop))
		}
		return out
	}
	assert.ElementsMatch(t, findings(here), findings(other))
}
