package kit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ubiquant/core/kit"
)

func TestASelectorIsItsWays(t *testing.T) {
	assert.Equal(t, []kit.Selector{
		{Tag: "button", Attrs: []string{"acButton"}, Values: []string{""}},
		{Tag: "a", Attrs: []string{"acButton", "kind"}, Values: []string{"", "link"}},
	}, kit.ParseSelector("  button[acButton],\n a[acButton][kind='link'] "))
	assert.Equal(t, []kit.Selector{{Tag: "ac-hint"}}, kit.ParseSelector("ac-hint:not([align='end'])"), "what it must not be is passed over")
	assert.Equal(t, []kit.Selector{{Classes: []string{"ac-mark"}}, {Attrs: []string{"acMark"}, Values: []string{""}}}, kit.ParseSelector(".ac-mark, [acMark]:not(a)"))
	assert.Empty(t, kit.ParseSelector("ac-list > ac-item, , *, [open, #id"), "what says where an element stands is no way to write it")
	assert.Empty(t, kit.ParseSelector(""))
}

func TestWhatBearsNoTagStandsOnTheElementThatItsNameSpeaksOf(t *testing.T) {
	for selector, tag := range map[string]string{"[acTextInput]": "input", "[acTextarea]": "textarea", "[acMark]": "div", "ac-link": "ac-link", "a[acButton]": "a"} {
		way, ok := kit.Written(selector, "")
		assert.True(t, ok)
		assert.Equal(t, tag, way.Tag, selector)
	}
	_, ok := kit.Written("", "AcInput")
	assert.False(t, ok)
}
