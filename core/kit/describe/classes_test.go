package describe_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"ubiquant/core/kit/describe"
)

func TestClassesAreThoseOfSelectors(t *testing.T) {
	sheet := `.card, a.card-title:hover > .md\:flex { color: red; background: url(x.y.png) }
@media (min-width: 1.5em) { .w-1\/2 { width: 50% } }
.a { &:where(.dark, .dark *) { color: #fff } .b & { margin: .5rem } }
[data-x=".no"] { content: ".neither" }
.\31 0 { order: 1 }
.lost { color: red; } } .after { x: y }`
	assert.Equal(t, []string{"10", "a", "after", "b", "card", "card-title", "dark", "lost", "md:flex", "w-1/2"}, describe.ClassesOf([]byte(sheet)))
	assert.Empty(t, describe.ClassesOf(nil))
}

// Whatever a class is called, it is known by the name that code writes.
func TestClassesKeepTheirNames(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		names := rapid.SliceOfDistinct(rapid.StringMatching(`[a-z0-9-]?[a-zA-Z0-9_:/.\[\]%#!&,()+é-]{1,12}`), rapid.ID[string]).Draw(t, "names")
		var sheet strings.Builder
		for i, name := range names {
			var escaped strings.Builder
			for _, r := range name {
				switch {
				case r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r > 127 || r == '_':
					escaped.WriteRune(r)
				case i%2 == 0 && (r < '0' || r > '9'):
					escaped.WriteString(`\` + string(r))
				default:
					fmt.Fprintf(&escaped, `\%x `, r)
				}
			}
			fmt.Fprintf(&sheet, ".%s { order: %d }\n", escaped.String(), i)
		}
		slices.Sort(names)
		got := describe.ClassesOf([]byte(sheet.String()))
		if len(names) == 0 {
			assert.Empty(t, got)
			return
		}
		assert.Equal(t, names, got)
	})
}

func FuzzClassesOf(f *testing.F) {
	f.Add([]byte(`.a\`))
	f.Add([]byte(`.\110000 x{}`))
	f.Fuzz(func(t *testing.T, src []byte) {
		for _, name := range describe.ClassesOf(src) {
			if name == "" {
				t.Fatal("a class without a name")
			}
		}
	})
}
