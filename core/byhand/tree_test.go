package byhand

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"ubiquant/core/source"
)

func TestAFormatterChangesNothing(t *testing.T) {
	for a, b := range map[string]string{
		`event => own.press(event, { a: 1 })`: "(event) =>\n  own.press(event, {\n    a: 1,\n  });",
		`list.map(x => x.name + 'it"s')`:      "list.map((x) => x.name + 'it\"s')",
	} {
		assert.Equal(t, squeeze(a), squeeze(b))
	}
	for a, b := range map[string]string{`'a b'`: `'ab'`, "`a ${b} c`": "`a ${b}c`", `a(b)`: `a.b`} {
		assert.NotEqual(t, squeeze(a), squeeze(b), "what stands in quotes is said so")
	}
}

// drawn is a tree of elements with some words.
func drawn(t *rapid.T, depth int) *source.Node {
	n := &source.Node{Kind: element, Name: rapid.SampledFrom([]string{"a", "b", "c"}).Draw(t, "name")}
	n.Attributes = []source.Attribute{{Name: "x", Value: source.Value{Kind: text, Value: fmt.Sprint(rapid.IntRange(0, 3).Draw(t, "x"))}}}
	if depth > 0 {
		for range rapid.IntRange(0, 4).Draw(t, "kids") {
			n.Children = append(n.Children, drawn(t, depth-1))
		}
	}
	return n
}

func of(n *source.Node) *node {
	return treeOf(Text{Module: &source.Module{Components: []*source.Component{{Roots: []*source.Node{n}}}}})
}

// Each part became one other at most, and what is the same is found again as itself.
func TestMatchingIsOneToOne(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a, b := of(drawn(t, 3)), of(drawn(t, 3))
		m := match(a, b)
		for n, to := range m.to {
			assert.Same(t, n, m.from[to])
			assert.Equal(t, n.key(), to.key())
		}
		assert.Len(t, m.from, len(m.to))
		count := 0
		a.walk(func(n *node) { count++ })
		self := match(a, a)
		assert.Len(t, self.to, count)
		for n, to := range self.to {
			assert.Same(t, n, to)
		}
		assert.Empty(t, self.moved)
	})
}
