package audit_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"ubiquant/core/audit"
)

// A report as text goes through files in their order, the gravest first. What one file says many
// times is said a few times, and the places of the rest are all there.
func TestATextReportLeavesNoPlaceOut(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		report := audit.Report{Source: "."}
		at := map[string]audit.Location{}
		for i := range rapid.IntRange(1, 60).Draw(r, "findings") {
			id := fmt.Sprintf("e%d", i)
			at[id] = audit.Location{
				File: rapid.SampledFrom([]string{"a.vue", "b.vue"}).Draw(r, "file"),
				Line: rapid.IntRange(1, 400).Draw(r, "line"), Column: i + 1, // no two in one place
			}
			report.Findings = append(report.Findings, audit.Finding{
				Rule: "plain-element", Severity: rapid.SampledFrom([]audit.Severity{audit.Note, audit.Error}).Draw(r, "severity"),
				Doc: "screen:x", Element: id, Message: rapid.SampledFrom([]string{"one", "other"}).Draw(r, "message"),
			})
		}
		report.At = func(_, element string) (audit.Location, bool) { l, ok := at[element]; return l, ok }
		text := report.Text()
		lines := strings.Split(text, "\n")
		said := map[string]int{}
		for _, f := range report.Findings {
			l := at[f.Element]
			place := fmt.Sprintf("%d:%d", l.Line, l.Column)
			found := 0
			for _, line := range lines {
				if !strings.HasPrefix(line, "./"+l.File) || !strings.Contains(line, string(f.Severity)) {
					continue
				}
				for _, word := range strings.FieldsFunc(strings.TrimPrefix(line, "./"+l.File+":"), func(r rune) bool { return r == ' ' || r == ',' }) {
					if word == place {
						found++
					}
				}
			}
			assert.Equal(r, 1, found, "%s %s in\n%s", l.File, place, text)
			said[l.File+string(f.Severity)+f.Message]++
		}
		whole := 0
		for _, n := range said {
			whole += min(n, 5)
			if n > 5 {
				whole -= 1 // three, and a line for the rest
			}
		}
		assert.Equal(r, whole, len(lines)-2, text)
		assert.Less(r, strings.LastIndex(text, " error "), max(strings.Index(text, " note "), strings.LastIndex(text, " error ")+1))
	})
}
