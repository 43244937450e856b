package live_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/opened"
)

func TestWhatATeamAddsIsTakenBackWhole(t *testing.T) {
	l := opened.Demo(t)
	before := string(wsfile.Write(l.W))
	icon := func(svg string) kit.OwnIcon { return kit.OwnIcon{Name: "rail", SVG: svg} }
	line, cross := `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><path d="M0 0"></path></svg>`, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 2 2"><path d="M0 0"></path></svg>`
	theme := func(accent string) kit.Theme {
		return kit.Theme{ID: "heather", Name: "Heather", From: "light", Making: kit.Making{Accent: accent}}
	}
	var undo []change.Change
	for _, s := range []change.Step{
		&change.PutTheme{Theme: theme("#7A3E73")}, &change.PutTheme{Theme: theme("#102030")}, &change.DropTheme{Theme: kit.Theme{ID: "heather"}},
		&change.PutIcon{Icon: icon(line)}, &change.PutIcon{Icon: icon(cross)}, &change.DropIcon{Icon: icon("")},
		&change.LeaveOut{Left: model.LeftOut{Tag: "sorrel-tag", Reason: "chips do"}}, &change.TakeIn{Left: model.LeftOut{Tag: "sorrel-tag"}},
		&change.Install{App: l.W.Apps[0].ID, Packages: map[string]string{"vue": "3"}},
	} {
		taken, err := l.Take(one(s))
		require.NoError(t, err, change.Describe(s))
		undo = append(undo, taken.Inverse)
		// The log's form of it is read back the same.
		back, err := change.Read(change.Write(taken.Inverse), true)
		require.NoError(t, err, change.Describe(s))
		assert.Equal(t, string(change.Write(taken.Inverse)), string(change.Write(back)))
	}
	assert.NotEqual(t, before, string(wsfile.Write(l.W)))
	for i := len(undo) - 1; i >= 0; i-- {
		_, err := l.Take(undo[i])
		require.NoError(t, err, "%+v", undo[i])
	}
	assert.Equal(t, before, string(wsfile.Write(l.W)))
	for _, s := range []change.Step{&change.DropTheme{Theme: kit.Theme{ID: "dusk"}}, &change.DropIcon{Icon: icon("")}, &change.TakeIn{Left: model.LeftOut{Tag: "sorrel-tag"}}, &change.LeaveOut{Left: model.LeftOut{Tag: "sorrel-none", Reason: "x"}}, &change.PutTheme{}, &change.PutFont{}, &change.Install{App: "none"}} {
		_, err := l.Take(one(s))
		assert.Error(t, err, change.Describe(s))
	}
}

func TestWhatIsLeftOutIsNotOfferedAndIsFoundWhereItStands(t *testing.T) {
	l := opened.Demo(t)
	offered := func() bool {
		for _, c := range l.Cat.Candidates() {
			if c.Tag == "sorrel-badge" {
				return true
			}
		}
		return false
	}
	found := func() (n int) {
		open, _ := l.Findings()
		for _, f := range open {
			if f.Rule == "left-out" {
				n++
			}
		}
		return n
	}
	require.True(t, offered())
	uses := l.Index.CountOf("sorrel-badge").Uses
	require.Zero(t, found())
	taken, err := l.Take(
		one(
			&change.LeaveOut{Left: model.LeftOut{Tag: "sorrel-badge", Reason: "chips do"}},
		),
	)
	require.NoError(t, err)
	assert.False(t, offered())
	assert.Equal(t, uses, found())
	_, err = l.Take(taken.Inverse)
	require.NoError(t, err)
	assert.True(t, offered())
	assert.Zero(t, found())
}

func TestAnOwnIconIsKnownToTheRulesAtOnce(t *testing.T) {
	l := opened.Demo(t)
	svg := `<svg viewBox="0 0 1 1"><path d="M0 0"/></svg>`
	_, err := l.Take(one(&change.PutIcon{Icon: kit.OwnIcon{Name: "rail", SVG: svg}}))
	require.NoError(t, err)
	assert.Equal(t, "rail", l.Kit.Icons[len(l.Kit.Icons)-1].Name)
	assert.Len(t, l.Kit.Bare().Icons, len(l.Kit.Icons)-1, "the kit itself stays as it is")
}

func TestNeedsAreMetMissingOrUnknown(t *testing.T) {
	l := opened.Demo(t)
	pkg, err := kit.ReadPackage(
		[]byte(
			`{"name":"@fernhollow/sorrel","version":"1.0.0","peerDependencies":{"charts":"^2.1.0","maps":"*"},"peerDependenciesMeta":{"maps":{"optional":true}}}`,
		),
	)
	require.NoError(t, err)
	button, _ := l.Kit.Component("sorrel-button")
	states := func(packages map[string]string) map[string]string {
		_, err := l.Take(one(&change.Install{App: l.W.Apps[0].ID, Packages: packages}))
		require.NoError(t, err)
		out := map[string]string{}
		for _, n := range l.Usability(pkg, nil).Needs(button) {
			if n.For == l.W.Apps[0].Name {
				out[n.Name] = n.State
			}
		}
		return out
	}
	for _, c := range []struct {
		has  map[string]string
		want map[string]string
	}{
		{nil, map[string]string{"@fernhollow/sorrel": "unknown", "charts": "unknown"}},
		{map[string]string{}, map[string]string{"@fernhollow/sorrel": "missing", "charts": "missing"}},
		{map[string]string{"@fernhollow/sorrel": "^1.0.0", "charts": "^2.3.0"}, map[string]string{"@fernhollow/sorrel": "met", "charts": "met"}},
		{map[string]string{"@fernhollow/sorrel": "0.9.0", "charts": "1.0.0"}, map[string]string{"@fernhollow/sorrel": "missing", "charts": "missing"}},
		{map[string]string{"@fernhollow/sorrel": "file:kit/fernhollow-sorrel-1.0.0.tgz", "charts": "github:x/y"}, map[string]string{"@fernhollow/sorrel": "met", "charts": "unknown"}},
	} {
		assert.Equal(t, c.want, states(c.has), "%v", c.has)
	}
	states(map[string]string{"charts": "2.1.0"})
	reasons := l.Usability(pkg, nil).Reasons(button)
	require.NotEmpty(t, reasons)
	assert.Equal(t, "npm install @fernhollow/sorrel@1.0.0", reasons[0].Command)
	tag, _ := l.Kit.Component("sorrel-tag")
	found := false
	for _, r := range l.Usability(pkg, nil).Reasons(tag) {
		found = found || r.Kind == "deprecated" && r.Tag == "sorrel-chip"
	}
	assert.True(t, found, "a deprecated entry names what to take instead")
}

func TestAFontThatNothingBringsIsTold(t *testing.T) {
	l := opened.Demo(t)
	_, err := l.Take(
		one(
			&change.PutTheme{
				Theme: kit.Theme{
					ID:     "press",
					Name:   "Press",
					From:   "light",
					Making: kit.Making{Font: "Galley Test, serif"},
				},
			},
		),
	)
	require.NoError(t, err)
	sheet := []byte("@font-face { font-family: 'Alegreya Sans'; src: url(x) }")
	assert.Equal(t, []string{"Galley Test"}, l.W.Own.MissingFonts(l.Kit, "press", sheet))
	assert.Empty(t, l.W.Own.MissingFonts(l.Kit, "light", sheet))
	assert.Equal(t, []string{"Alegreya Sans"}, l.W.Own.MissingFonts(l.Kit, "light", nil))
}

func TestAThemeThatNoLongerFitsIsToldAndNothingElseIsLost(t *testing.T) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	w.Own.Themes = []kit.Theme{
		{ID: "dusk", Name: "Dusk", From: "twilight"},
		{ID: "heather", Name: "Heather", From: "light"},
	}
	l := live.Open(w, testkit.Sorrel(t), "2026-11-23")
	require.Len(t, l.Unfit, 1)
	assert.ErrorContains(t, l.Unfit[0], "dusk")
	assert.Equal(t, []string{"light", "dark", "compact", "heather"}, l.Kit.Tokens.Themes)
	assert.Contains(t, string(wsfile.Write(l.W)), "dusk", "it stays in the workspace")
}

func TestReachFollowsStylesStepsAndAliases(t *testing.T) {
	l := opened.Demo(t)
	tags := func(r live.Reach) (out []string) {
		for _, c := range r.Components {
			out = append(out, c.Tag)
		}
		return out
	}
	accent := l.Reach("color.accent")
	assert.Contains(t, tags(accent), "sorrel-button")
	assert.NotContains(t, tags(accent), "sorrel-heading")
	stripe := l.Reach("color.stripe")
	assert.Contains(t, tags(stripe), "sorrel-table")
	assert.Equal(t, []string{"font.heading", "font.text"}, l.Reach("font.text").Tokens)
	step := l.Reach("space.7")
	assert.Equal(t, []string{"sorrel-empty-state", "sorrel-hero"}, tags(step))
	want := 0
	for _, d := range l.W.Docs {
		if d.Removed {
			continue
		}
		for _, e := range step.Docs {
			if e.Doc == d.Address() {
				want += len(e.Elements)
				for _, id := range e.Elements {
					el, _ := d.Root.Find(id)
					require.NotNil(t, el)
				}
			}
		}
	}
	assert.Equal(t, want, step.Elements)
}
