package kit

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// What opens a component is known however its library calls it, and so is what tells that it was
// closed; what only shows is not taken for it.
func TestWhatOpensIsKnownHoweverItIsCalled(t *testing.T) {
	for _, c := range []struct {
		flag, event, role string
		opens, closes     string
	}{
		{"open", "ac-close", "", "open", "ac-close"},
		{"open", "", "", "open", ""},
		{"opened", "onClose", "", "opened", "onClose"},
		{"isOpen", "onDismiss", "", "isOpen", "onDismiss"},
		{"visible", "onCancel", "", "visible", "onCancel"},
		{"visible", "update:visible", "", "visible", "update:visible"},
		{"visible", "visibleChange", "", "visible", "visibleChange"},
		{"show", "onUpdateShow", "", "show", "onUpdateShow"},
		{"modelValue", "update:modelValue", "", "modelValue", "update:modelValue"},
		{"model-value", "update:model-value", "", "model-value", "update:model-value"},
		{"modelValue", "update:modelValue", "control", "", ""},
		{"visible", "", "", "", ""},
		{"visible", "click", "", "", ""},
		{"visible", "cancel", "action", "", ""},
	} {
		d := &Component{Tag: "ac-dialog", Role: c.role, Props: []Prop{{Name: "title", Type: Text}, {Name: c.flag, Type: Bool}}}
		if c.event != "" {
			d.Events = []Named{{Name: "click"}, {Name: c.event}}
		}
		d.index()
		assert.Equal(t, c.opens, d.OpensBy, "%+v", c)
		assert.Equal(t, c.closes, d.Closes, "%+v", c)
		assert.Equal(t, c.opens != "", d.Opens())
	}
	begun := &Component{Tag: "ac-modal", Props: []Prop{{Name: "acTitle", Type: Text}, {Name: "acWidth", Type: Text}, {Name: "acVisible", Type: Bool}},
		Events: []Named{{Name: "acOnCancel"}, {Name: "acVisibleChange"}}}
	begun.index()
	assert.Equal(t, "acVisible acVisibleChange", begun.OpensBy+" "+begun.Closes)
	text := &Component{Tag: "ac-x", Props: []Prop{{Name: "open", Type: Text}}}
	text.index()
	assert.False(t, text.Opens())
}
