package kit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
)

func proposed(t *testing.T, version, components string) *kit.Kit {
	t.Helper()
	c := &describe.Catalog{Name: "@acme/orchard", Version: version, Drawn: "react"}
	require.NoError(t, c.Declared([]byte(`{"components":[`+components+`]}`), "orchard"))
	list := c.Components()
	describe.Propose(list, nil)
	k, err := kit.Read(kit.Sources{Name: c.Name, Version: version, Drawn: "react", Components: list, Families: describe.Families})
	require.NoError(t, err)
	return k
}

// What a team says of a component counts over what was proposed, in the next version too;
// what that version has no place for is told, and the rest still holds.
func TestWhatATeamSaysHoldsForTheNextVersion(t *testing.T) {
	zorb := `{"export":"Zorb","props":[{"name":"words","type":"text"},{"name":"size","type":"choice","values":["a","b"]}],"slots":[]}`
	say := []kit.Correction{
		{Tag: "orchard-zorb", Family: "forms", Role: "control", Label: "words", By: "ida"},
		{Tag: "orchard-gone", Role: "action", By: "ida"},
	}
	for version, components := range map[string]string{
		"1.0.0": zorb + `,{"export":"Gone","props":[],"slots":[]}`,
		"2.0.0": zorb,
	} {
		bare := proposed(t, version, components)
		k, unfit := bare.Corrected(say)
		c, ok := k.Component("orchard-zorb")
		require.True(t, ok)
		assert.Equal(t, "control", c.Role)
		assert.Equal(t, "forms", c.Family)
		assert.Equal(t, "words", c.NameProp)
		assert.Contains(t, c.Guesses, kit.Guess{What: "role", Value: "control", Certainty: 1, Why: "said by ida"})
		was, _ := bare.Component("orchard-zorb")
		assert.Empty(t, was.Role, "the kit itself stays as its makers publish it")
		assert.Same(t, bare, k.Bare())
		if version == "2.0.0" {
			require.Len(t, unfit, 1)
			assert.ErrorContains(t, unfit[0], "orchard-gone")
		} else {
			assert.Empty(t, unfit)
		}
	}
	for _, wrong := range []kit.Correction{
		{Tag: "orchard-zorb", Role: "king"}, {Tag: "orchard-zorb", Label: "size"}, {Tag: "orchard-zorb", Family: "fruit"}, {Tag: "stack"},
	} {
		k := proposed(t, "1.0.0", zorb)
		assert.Error(t, wrong.Check(k), wrong)
	}
}
