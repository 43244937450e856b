package live_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// A point's parts add up: owners share all screens, elements and those of the kit; what it counts
// is what the lists hold.
func TestAPointAddsUp(t *testing.T) {
	l := slipped(t)
	p := l.Point()
	screens, elements, fromKit, score := 0, 0, 0, 0.0
	for _, o := range p.Owners {
		screens += o.Screens
		elements += o.Elements
		fromKit += o.FromKit
		score += o.Score * float64(o.Screens)
		assert.LessOrEqual(t, o.FromKit, o.Elements)
	}
	assert.Equal(t, []int{p.Screens, p.Elements, p.FromKit}, []int{screens, elements, fromKit})
	assert.InDelta(t, p.Score, score/float64(p.Screens), 1e-6)
	assert.Less(t, p.FromKit, p.Elements, "the demo has an element that the kit does not know")
	assert.Positive(t, p.Deprecated)
	open, _ := l.Findings()
	assert.Equal(t, len(open), p.Errors+p.Warnings+p.Notes)
	assert.Len(t, l.Strays(), p.Strays)
	assert.Len(t, l.Questions(), p.Questions)
	assert.LessOrEqual(t, p.Causes, p.Errors+p.Warnings+p.Strays)
	assert.Empty(t, p.Folders, "nothing of it was read from code")
}
