package kit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ubiquant/core/kit"
)

// What is asked for goes with what is wanted where one version is both.
func TestVersionsThatGoTogether(t *testing.T) {
	for _, c := range []struct {
		has, wanted string
		fits, known bool
	}{
		{"1.4.2", "^1.4.0", true, true},
		{"1.3.9", "^1.4.0", false, true},
		{"^1.2.0", "^1.4.0", true, true}, // it may be 1.4.0
		{"~1.3.0", "^1.4.0", false, true},
		{"^18.2.0", ">=19.0.0", false, true},
		{">=18", ">=19.0.0", true, true},
		{"^1.2.0", "1.4.0", true, true},
		{"^2.0.0", "1.4.0", false, true},
		{"^1.4.0", ">=1.2 <2", true, true},
		{"file:kit/acme-kit-1.4.0.tgz", "^1.4.0", true, true},
		{"workspace:*", "^1.4.0", false, false},
	} {
		fits, known := kit.Admits(c.has, c.wanted)
		assert.Equal(t, c.known, known, "%s and %s", c.has, c.wanted)
		assert.Equal(t, c.fits, fits && known, "%s and %s", c.has, c.wanted)
	}
}
