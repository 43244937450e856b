package workspace_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
	"ubiquant/core/workspace"
	"ubiquant/internal/testkit"
)

func open(t *testing.T) *workspace.Live {
	w, err := workspace.Read(testkit.Demo(t))
	require.NoError(t, err)
	return workspace.Open(w, testkit.Sorrel(t), "2026-11-23")
}

func one(s workspace.Step) workspace.Change {
	return workspace.Change{Title: "x", Steps: []workspace.Step{s}}
}

func TestWhatATeamAddsIsTakenBackWhole(t *testing.T) {
	l := open(t)
	before := string(workspace.Write(l.W))
	icon := func(svg string) *kit.OwnIcon { return &kit.OwnIcon{Name: "rail", SVG: svg} }
	line, cross := `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><path d="M0 0"></path></svg>`, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 2 2"><path d="M0 0"></path></svg>`
	theme := func(accent string) *kit.Theme {
		return &kit.Theme{ID: "heather", Name: "Heather", From: "light", Making: kit.Making{Accent: accent}}
	}
	var undo []workspace.Change
	for _, s := range []workspace.Step{
		{Do: workspace.PutTheme, Theme: theme("#7A3E73")}, {Do: workspace.PutTheme, Theme: theme("#102030")}, {Do: workspace.DropTheme, Theme: &kit.Theme{ID: "heather"}},
		{Do: workspace.PutIcon, Icon: icon(line)}, {Do: workspace.PutIcon, Icon: icon(cross)}, {Do: workspace.DropIcon, Icon: icon("")},
		{Do: workspace.LeaveOut, Left: &workspace.LeftOut{Tag: "sorrel-tag", Reason: "chips do"}}, {Do: workspace.TakeIn, Left: &workspace.LeftOut{Tag: "sorrel-tag"}},
		{Do: workspace.Install, App: l.W.Apps[0].ID, Packages: map[string]string{"vue": "3"}},
	} {
		taken, err := l.Take(one(s))
		require.NoError(t, err, s.Do)
		undo = append(undo, taken.Inverse)
		// The log's form of it is read back the same.
		back, err := workspace.ReadChange(workspace.WriteChange(taken.Inverse), true)
		require.NoError(t, err, s.Do)
		assert.Equal(t, string(workspace.WriteChange(taken.Inverse)), string(workspace.WriteChange(back)))
	}
	assert.NotEqual(t, before, string(workspace.Write(l.W)))
	for i := len(undo) - 1; i >= 0; i-- {
		_, err := l.Take(undo[i])
		require.NoError(t, err, "%+v", undo[i])
	}
	assert.Equal(t, before, string(workspace.Write(l.W)))
	for _, s := range []workspace.Step{{Do: workspace.DropTheme, Theme: &kit.Theme{ID: "dusk"}}, {Do: workspace.DropIcon, Icon: icon("")}, {Do: workspace.TakeIn, Left: &workspace.LeftOut{Tag: "sorrel-tag"}}, {Do: workspace.LeaveOut, Left: &workspace.LeftOut{Tag: "sorrel-none", Reason: "x"}}, {Do: workspace.PutTheme}, {Do: workspace.PutFont}, {Do: workspace.Install, App: "none"}} {
		_, err := l.Take(one(s))
		assert.Error(t, err, s.Do)
	}
}

func TestWhatIsLeftOutIsNotOfferedAndIsFoundWhereItStands(t *testing.T) {
	l := open(t)
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
			workspace.Step{Do: workspace.LeaveOut, Left: &workspace.LeftOut{Tag: "sorrel-badge", Reason: "chips do"}},
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
	l := open(t)
	svg := `<svg viewBox="0 0 1 1"><path d="M0 0"/></svg>`
	_, err := l.Take(one(workspace.Step{Do: workspace.PutIcon, Icon: &kit.OwnIcon{Name: "rail", SVG: svg}}))
	require.NoError(t, err)
	assert.Equal(t, "rail", l.Kit.Icons[len(l.Kit.Icons)-1].Name)
	assert.Len(t, l.Kit.Bare().Icons, len(l.Kit.Icons)-1, "the kit itself stays as it is")
}

func TestNeedsAreMetMissingOrUnknown(t *testing.T) {
	l := open(t)
	pkg, err := kit.ReadPackage(
		[]byte(
			`{"name":"@fernhollow/sorrel","version":"1.0.0","peerDependencies":{"charts":"^2.1.0","maps":"*"},"peerDependenciesMeta":{"maps":{"optional":true}}}`,
		),
	)
	require.NoError(t, err)
	button, _ := l.Kit.Component("sorrel-button")
	states := func(packages map[string]string) map[string]string {
		_, err := l.Take(one(workspace.Step{Do: workspace.Install, App: l.W.Apps[0].ID, Packages: packages}))
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
	l := open(t)
	_, err := l.Take(
		one(
			workspace.Step{
				Do: workspace.PutTheme,
				Theme: &kit.Theme{
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
	w, err := workspace.Read(testkit.Demo(t))
	require.NoError(t, err)
	w.Own.Themes = []kit.Theme{
		{ID: "dusk", Name: "Dusk", From: "twilight"},
		{ID: "heather", Name: "Heather", From: "light"},
	}
	l := workspace.Open(w, testkit.Sorrel(t), "2026-11-23")
	require.Len(t, l.Unfit, 1)
	assert.ErrorContains(t, l.Unfit[0], "dusk")
	assert.Equal(t, []string{"light", "dark", "compact", "heather"}, l.Kit.Tokens.Themes)
	assert.Contains(t, string(workspace.Write(l.W)), "dusk", "it stays in the workspace")
}

func TestReachFollowsStylesStepsAndAliases(t *testing.T) {
	l := open(t)
	tags := func(r workspace.Reach) (out []string) {
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
			if e.Doc == string(d.Kind)+":"+d.ID {
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
