package kit_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
)

// A plain element is set to what HTML lets it be set to, under the names that code of any framework has.
func TestPlainElementsKnowTheirAttributes(t *testing.T) {
	label, ok := kit.Plain("html-label")
	require.True(t, ok)
	for _, name := range []string{"for", "htmlFor", "id", "aria-label", "tabIndex"} {
		_, ok := label.Prop(kit.AttributeName(name))
		assert.True(t, ok, name)
	}
	for _, name := range []string{"href", "onclick", "style", "srcdoc", kit.ClassProp} {
		_, ok := label.Prop(name)
		assert.False(t, ok, name)
	}
	input, _ := kit.Plain("html-input")
	value, ok := input.Prop(kit.AttributeName("defaultValue"))
	require.True(t, ok)
	assert.Equal(t, "value", value.Name)
	for _, name := range []string{"for", "readonly", "tabindex", "colspan", "id", kit.ClassProp} {
		assert.Equal(t, name, map[bool]string{true: kit.ClassProp, false: kit.AttributeName(kit.NameInReact(name))}[name == kit.ClassProp], "there and back")
	}
	picture, _ := kit.Plain("other-leaf")
	_, sized := picture.Prop("size")
	assert.True(t, sized)
}

// Only where an application has styles can elements be given its classes; the kit without them stays as it is.
func TestClassesAreASettingWhereAnApplicationHasThem(t *testing.T) {
	k, err := kit.Read(kit.Sources{Name: "./ui", Version: "1", Drawn: "react", Components: []*kit.Component{{Tag: "ui-leaf", Title: "leaf", Export: "Leaf", Props: []kit.Prop{}, Slots: []kit.Slot{}}}})
	require.NoError(t, err)
	bare, _ := k.Component("html-div")
	assert.False(t, bare.Styled())
	k.Draw(map[string]string{"other-leaf": "leaf-icons#Leaf"})
	k.Style([]string{"card"})
	for _, typ := range []string{"html-div", "other-leaf", "other-plum"} {
		c, ok := k.Component(typ)
		require.True(t, ok)
		assert.True(t, c.Styled(), typ)
	}
	leaf, _ := k.Component("other-leaf")
	module, name, ok := leaf.FromElsewhere()
	assert.Equal(t, []any{"leaf-icons", "Leaf", true}, []any{module, name, ok})
	again, _ := (&kit.Kit{}).Component("html-div")
	assert.False(t, again.Styled())
}

// What code hands on to any element of a page is known by one name, once; what is no such thing is none.
func TestWhatIsHandedOnHasOneName(t *testing.T) {
	var names []string
	for _, p := range kit.Handed([]string{"className", "class", "id", "tabIndex", "tabindex", "asChild", "onClick", "data-x", "style"}) {
		assert.True(t, p.Handed)
		names = append(names, p.Name)
	}
	slices.Sort(names)
	assert.Equal(t, []string{"asChild", "class", "id", "tabindex"}, names)
}

// A plain element has a counterpart in the kit where the team uses one that is there for the same.
func TestPlainElementsHaveCounterpartsThatTheTeamUses(t *testing.T) {
	k, err := kit.Read(kit.Sources{Name: "@acme/ng", Version: "1", Drawn: "angular", Components: []*kit.Component{
		{Tag: "ac-anchor", Title: "anchor", Export: "AcAnchor", Selector: "a[ac-button]", Props: []kit.Prop{}, Slots: []kit.Slot{}},
		{Tag: "ac-button", Title: "button", Export: "AcButton", Selector: "button[ac-button]", Props: []kit.Prop{}, Slots: []kit.Slot{}},
		{Tag: "ac-divider", Title: "divider", Export: "AcDivider", Selector: "ac-divider", Props: []kit.Prop{}, Slots: []kit.Slot{}},
	}})
	require.NoError(t, err)
	k.Stand(map[string]int{"ac-anchor": 9, "ac-button": 3, "ac-divider": 2})
	has := func(tag string) string {
		c, ok := k.Component(kit.HostPrefix + tag)
		require.True(t, ok)
		return c.Replacement
	}
	assert.Equal(t, "ac-button", has("button"))
	assert.Empty(t, has("a"), "a link that looks like a button is for no link in a text")
	assert.Empty(t, has("hr"), "what is hardly used is nobody's habit")
}
