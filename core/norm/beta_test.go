package norm

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func TestBetaCDFHasKnownValues(t *testing.T) {
	// I_x(1, b) = 1 - (1-x)^b and I_x(a, 1) = x^a; I_½(a, a) = ½ by symmetry.
	assert.InDelta(t, 0.5, betaCDF(0.5, 7.3, 7.3), 1e-10)
	assert.InDelta(t, 0.8*0.8*0.8, betaCDF(0.8, 3, 1), 1e-10)
	assert.InDelta(t, 1-0.2*0.2, betaCDF(0.8, 1, 2), 1e-10)
	assert.InDelta(t, 0.9990234375, betaCDF(0.5, 1, 10), 1e-9)
}

func TestBetaCDFGrowsAndMirrors(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		a, b := rapid.Float64Range(0.05, 400).Draw(t, "a"), rapid.Float64Range(0.05, 400).Draw(t, "b")
		x := rapid.Float64Range(0.001, 0.99).Draw(t, "x")
		p, q := betaCDF(x, a, b), betaCDF(x+0.005, a, b)
		if p < -1e-9 || q > 1+1e-9 || q < p-1e-7 {
			t.Fatalf("not a distribution: %v then %v", p, q)
		}
		if m := 1 - betaCDF(1-x, b, a); m-p > 1e-7 || p-m > 1e-7 {
			t.Fatalf("I_x(a,b) = 1 - I_1-x(b,a) fails: %v, %v", p, m)
		}
	})
}
