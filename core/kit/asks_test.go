package kit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ubiquant/core/kit"
)

// Libraries say in few ways what a field takes and what is wrong with it; each is understood, and
// what only looks like it is not.
func TestAFieldTellsWhatItAsksAndHowItBlames(t *testing.T) {
	text := func(name string) kit.Prop { return kit.Prop{Name: name, Type: kit.Text} }
	flag := func(name string) kit.Prop { return kit.Prop{Name: name, Type: kit.Bool} }
	choice := func(name string, values ...string) kit.Prop {
		return kit.Prop{Name: name, Type: kit.Enum, Values: values}
	}
	for _, c := range []struct {
		name        string
		holds       bool
		props       []kit.Prop
		asks        []string
		words, mark string
		as          any
	}{
		{"words and a flag", true, []kit.Prop{flag("required"), text("error-message"), flag("invalid")}, []string{"required"}, "error-message", "invalid", true},
		{"words alone", true, []kit.Prop{flag("isRequired"), text("errorText"), text("minLength")}, []string{"required", "shortest"}, "errorText", "", nil},
		{"the hint turns red", true, []kit.Prop{flag("error"), text("helperText"), choice("type", "text", "email")}, []string{"kind"}, "helperText", "error", true},
		{"one of its looks", true, []kit.Prop{choice("status", "error", "warning"), text("min"), text("max")}, []string{"least", "most"}, "", "status", "error"},
		{"a card of a tone", false, []kit.Prop{choice("tone", "good", "danger"), text("description"), text("type")}, []string{"kind"}, "", "", nil},
		{"nothing of all that", true, []kit.Prop{text("value"), text("requiredness"), choice("type", "round")}, nil, "", "", nil},
	} {
		def := &kit.Component{Tag: "x-field", Title: c.name, Props: c.props}
		if c.holds {
			def.Holds = "value"
		}
		var asks []string
		for _, rule := range []string{kit.Required, kit.Kind, kit.Least, kit.Most, kit.Shortest, kit.Longest, kit.Pattern} {
			if def.Asks()[rule] != nil {
				asks = append(asks, rule)
			}
		}
		assert.Equal(t, c.asks, asks, c.name)
		blame, ok := def.Blames()
		assert.Equal(t, c.words != "" || c.mark != "", ok, c.name)
		if c.words == "" {
			assert.Nil(t, blame.Words, c.name)
		} else if assert.NotNil(t, blame.Words, c.name) {
			assert.Equal(t, c.words, blame.Words.Name, c.name)
		}
		if c.mark == "" {
			assert.Nil(t, blame.Mark, c.name)
		} else if assert.NotNil(t, blame.Mark, c.name) {
			assert.Equal(t, c.mark, blame.Mark.Name, c.name)
			assert.Equal(t, c.as, blame.As, c.name)
		}
	}
}
