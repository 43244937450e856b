package pack_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
	"ubiquant/core/kit/pack"
	"ubiquant/internal/testkit"
)

// Whatever has no code here is there as an outline, with all that may be set on it; what has code is
// drawn by that. It is an archive like any other.
func TestWhatCannotBeDrawnIsOutlined(t *testing.T) {
	k := testkit.Sorrel(t)
	whole, left, err := pack.Outlined(nil, k)
	require.NoError(t, err)
	assert.Empty(t, left)
	b, err := whole.Bytes()
	require.NoError(t, err)
	again, err := pack.Read(b)
	require.NoError(t, err)
	assert.Equal(t, whole.Hash(), again.Hash())
	drawn, err := again.Kit()
	require.NoError(t, err)
	for _, c := range k.Components {
		if c.Level == kit.Layout && c.From == "" {
			continue
		}
		is, ok := drawn.Component(c.Tag)
		require.True(t, ok, c.Tag)
		for i := range c.Props {
			p, has := is.Prop(c.Props[i].Name)
			require.True(t, has, "%s.%s", c.Tag, c.Props[i].Name)
			assert.Equal(t, c.Props[i].Type, p.Type, "%s.%s", c.Tag, p.Name)
			assert.Equal(t, c.Props[i].Values, p.Values)
		}
		for _, s := range c.Slots {
			_, has := is.Slot(s.Name)
			assert.True(t, has, "%s has the place %q", c.Tag, s.Name)
		}
		assert.Contains(t, string(whole.Files[pack.ModuleFile]), `"`+c.Tag+`"`)
	}
}

// Beside a library that is there only what it lacks is outlined; where it lacks nothing it is as it was.
func TestOutlinesStandBesideALibrary(t *testing.T) {
	base := orchard()
	own, err := base.Kit()
	require.NoError(t, err)
	same, left, err := pack.Outlined(base, own)
	require.NoError(t, err)
	assert.Same(t, base, same)
	assert.Empty(t, left)

	more := *own
	more.Components = append(slices.Clone(own.Components),
		&kit.Component{Tag: "ui-plot", Title: "plot", Export: "Plot", Props: []kit.Prop{{Name: "tone", Type: kit.Enum, Values: []string{"calm", "loud"}}, {Name: "onclick"}}},
		&kit.Component{Tag: "nameless", Title: "nameless", Export: "Nameless"},
	)
	a, left, err := pack.Outlined(base, &more)
	require.NoError(t, err)
	assert.Equal(t, []string{"nameless", "the prop onclick of ui-plot"}, left)
	k, err := a.Kit()
	require.NoError(t, err)
	plot, ok := k.Component("ui-plot")
	require.True(t, ok)
	assert.Equal(t, "Outlines", k.Of(plot).Title)
	for _, c := range own.Components {
		_, ok := k.Component(c.Tag)
		assert.True(t, ok, c.Tag)
	}
	assert.True(t, strings.HasPrefix(a.Meta.Version, base.Meta.Version+"+outlines"), a.Meta.Version)
	_, _, err = pack.Outlined(nil, &kit.Kit{})
	assert.ErrorContains(t, err, "no components")
}
