package describe_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
)

// Pictures of other packages are plain elements, and nothing of the kit is drawn by them.
func TestWhatIsDrawnBesidesIsPlain(t *testing.T) {
	with := func(b describe.Beside) error {
		c := &describe.Catalog{
			Name: "./src/ui", Version: "0", Drawn: describe.React, Entries: []describe.Entry{{ID: "ui-press", Export: "Press"}}, Besides: []describe.Beside{b},
		}
		return c.Check()
	}
	assert.NoError(t, with(describe.Beside{Type: "other-leaf", Export: "Leaf", Module: "leaf-icons"}))
	for _, b := range []describe.Beside{
		{Type: "ui-press", Export: "Leaf", Module: "leaf-icons"}, {Type: "other-leaf", Export: "Leaf", Module: ""},
		{Type: "other-leaf", Export: "Leaf;alert(1)", Module: "leaf-icons"}, {Type: "other-LEAF", Export: "Leaf", Module: "m"},
	} {
		assert.ErrorContains(t, with(b), "/besides/0", b)
	}

	k, err := kit.Read(kit.Sources{Name: "a", Version: "0", Drawn: describe.React, Components: []*kit.Component{{Tag: "ui-press", Export: "Press", Level: kit.Basic, Family: "controls"}}, Families: describe.Families})
	if !assert.NoError(t, err) {
		return
	}
	k.Draw(map[string]string{"other-leaf": "leaf-icons#Leaf", "ui-press": "leaf-icons#Leaf", "stack": "leaf-icons#Leaf"})
	leaf, ok := k.Component("other-leaf")
	assert.True(t, ok && leaf.Plain)
	assert.Equal(t, "leaf-icons#Leaf", leaf.Export)
	press, _ := k.Component("ui-press")
	assert.Equal(t, "Press", press.Export)
	stack, ok := k.Component("stack")
	assert.True(t, ok)
	assert.Empty(t, stack.Export)
	other, _ := (&kit.Kit{}).Component("other-leaf")
	assert.Empty(t, other.Export, "of another kit it is not drawn so")
}
