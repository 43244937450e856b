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

func TestOfSeveralAttributesOneIsChosen(t *testing.T) {
	const button = "button[acFlatButton], button[acRaisedButton], a[acFlatButton], a[acRaisedButton], button[acButton]"
	p, ok := kit.ChosenBy(button, "AcButton", []kit.Prop{{Name: "acButton"}, {Name: "variant"}})
	assert.True(t, ok)
	assert.Equal(t, []string{"acFlatButton", "acRaisedButton"}, p.Values, "what carries a setting itself is no choice, and each stands once")
	assert.Equal(t, "appearance", p.Name)
	assert.True(t, p.Selects)
	for _, selector := range []string{"button[acButton], a[acButton]", "ac-chip, ac-plain-chip", "ac-tab, [ac-tab][value]", "[acMark], .ac-mark", ""} {
		_, ok := kit.ChosenBy(selector, "AcOther", nil)
		assert.False(t, ok, selector)
	}
}
