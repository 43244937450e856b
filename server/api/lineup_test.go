package api

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ubiquant/core/screen"
)

// What a repair changes is said as it was and as it will be; of many classes those that differ.
func TestEditsAreSaid(t *testing.T) {
	in := &screen.Element{
		ID: "a", Type: "html-div", Text: screen.Lit("Sow"), Props: []screen.Prop{{Name: "size", Value: screen.Lit("s")}},
		Origin: &screen.Origin{File: "src/a.tsx", Look: "flex gap-9 p-4"},
	}
	set := func(prop, value string) screen.Edit {
		return screen.Edit{Op: screen.Set, ID: "a", Prop: prop, Value: screen.Lit(value)}
	}
	assert.Equal(t, "size: s → l", editWords(in, set("size", "l")))
	assert.Equal(t, "tone: not set → calm", editWords(in, set("tone", "calm")))
	assert.Equal(t, "class: gap-9 → gap-2", editWords(in, set("class", "flex gap-2 p-4")))
	assert.Equal(t, "text: Sow → Plant", editWords(in, screen.Edit{Op: screen.SetText, ID: "a", Value: screen.Lit("Plant")}))
}
