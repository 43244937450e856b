package audit_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"ubiquant/core/audit"
)

// A score says how it comes about; more held against a document never lifts it, the same element
// never counts twice, and an error is not outweighed by how large the document is.
func TestAScoreIsExplainedAndNothingCountsTwice(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		n := rapid.IntRange(1, 400).Draw(r, "elements")
		element := func() string { return fmt.Sprint("e", rapid.IntRange(1, n).Draw(r, "element")) }
		var findings []audit.Finding
		for range rapid.IntRange(0, 12).Draw(r, "findings") {
			severity := rapid.SampledFrom([]audit.Severity{audit.Error, audit.Warning, audit.Note}).Draw(r, "severity")
			findings = append(findings, audit.Finding{Severity: severity, Element: element()})
		}
		var strays []string
		for range rapid.IntRange(0, 6).Draw(r, "strays") {
			strays = append(strays, element())
		}
		score, why := audit.Score(n, findings, strays)
		assert.True(t, score >= 0 && score <= 100)
		assert.Equal(t, len(findings)+len(strays) == 0, len(why) == 0)
		again, _ := audit.Score(n, append(findings, findings...), append(strays, strays...))
		assert.Equal(t, score, again)
		for _, f := range findings {
			if f.Severity == audit.Error {
				assert.LessOrEqual(t, score, 70)
				assert.Contains(t, strings.Join(why, "; "), "error")
			}
		}
		worse, _ := audit.Score(n, append(findings, audit.Finding{Severity: audit.Warning, Element: element()}), strays)
		assert.LessOrEqual(t, worse, score)
	})
}
