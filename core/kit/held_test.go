package kit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ubiquant/core/kit"
)

// What a control keeps its value in, and what tells of it, is found by the names that libraries of
// elements, Vue and React give them; what is no control keeps nothing by such names.
func TestAControlTellsWhatItHolds(t *testing.T) {
	for _, c := range []struct {
		role          string
		props, events []string
		holds, at     string
	}{
		{"control", []string{"value"}, []string{"ac-blur", "ac-change"}, "value", "ac-change"},
		{"control", []string{"value", "label"}, []string{"validityChange", "valueChange"}, "value", "valueChange"},
		{"control", []string{"value", "checked"}, []string{"valueChange", "checkedChange"}, "checked", "checkedChange"},
		{"control", []string{"value"}, []string{"acFieldOpen", "acFieldTextChange", "acFieldChange"}, "value", "acFieldChange"},
		{"control", []string{"modelValue"}, []string{"update:open", "update:modelValue"}, "modelValue", "update:modelValue"},
		{"control", []string{"modelValue"}, []string{"update:model-value"}, "modelValue", "update:model-value"},
		{"control", []string{"checked"}, []string{"onCheckedChange"}, "checked", "onCheckedChange"},
		{"control", []string{"value"}, []string{"onChange"}, "value", "onChange"},
		{"control", []string{"label"}, []string{"valueChange"}, "", ""},
		{"control", []string{"value"}, []string{"opened"}, "", ""},
		{"", []string{"modelValue"}, []string{"update:modelValue"}, "", ""},
	} {
		def := &kit.Component{Tag: "ac-field", Title: "field", Role: c.role}
		for _, p := range c.props {
			def.Props = append(def.Props, kit.Prop{Name: p, Type: kit.Text})
		}
		for _, e := range c.events {
			def.Events = append(def.Events, kit.Named{Name: e})
		}
		def.Seal()
		assert.Equal(t, c.holds, def.Holds, "%v %v", c.props, c.events)
		assert.Equal(t, c.at, def.HoldsAt, "%v %v", c.props, c.events)
		if c.holds != "" {
			assert.NotEmpty(t, def.Answers, "a control that tells can do something then")
		}
	}
}
