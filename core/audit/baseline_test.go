package audit_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
)

func someFindings(r *rand.Rand, n int) []audit.Finding {
	out := make([]audit.Finding, n)
	for i := range out {
		out[i] = audit.Finding{
			Rule: fmt.Sprint("rule-", r.IntN(4)), Severity: audit.Note, Doc: fmt.Sprint("screen:s", r.IntN(3)), Element: fmt.Sprint("e", i), Prop: "p",
			Message: fmt.Sprint("what is said ", r.IntN(5)),
		}
	}
	return out
}

// What is compared with its own baseline has nothing new and nothing mended, in whatever order;
// what is added is new, what is taken away is mended, and nothing else.
func TestABaselineTellsWhatIsNewAndWhatIsMended(t *testing.T) {
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 1))
		all := someFindings(r, 2+r.IntN(30))
		b, err := audit.ReadBaseline(audit.NewBaseline("app", all).Write(), "app")
		require.NoError(t, err)
		now := append([]audit.Finding{}, all...)
		r.Shuffle(len(now), func(i, j int) { now[i], now[j] = now[j], now[i] })
		fresh, gone := b.Compare(now)
		assert.Empty(t, fresh)
		assert.Empty(t, gone)

		added := audit.Finding{Rule: "rule-9", Doc: "screen:s1", Element: "new", Message: "never said"}
		fresh, gone = b.Compare(append([]audit.Finding{added}, now[1:]...))
		assert.Equal(t, []audit.Finding{added}, fresh)
		require.Len(t, gone, 1)
		assert.Equal(t, now[0].Message, gone[0].Message)
	}
}

// An element that moved has another id; what is said of it in its document is still known.
func TestAFindingIsKnownWhenItsElementMoves(t *testing.T) {
	f := audit.Finding{Rule: "stray", Doc: "screen:a", Element: "button-1", Prop: "size", Message: "Size of a button: l here"}
	b := audit.NewBaseline("app", []audit.Finding{f})
	f.Element = "button-2"
	fresh, gone := b.Compare([]audit.Finding{f})
	assert.Empty(t, fresh)
	assert.Empty(t, gone)
	other := f
	other.Doc = "screen:b"
	fresh, gone = b.Compare([]audit.Finding{other})
	assert.Len(t, fresh, 1)
	assert.Len(t, gone, 1)
}

func TestABaselineOfSomethingElseIsRefused(t *testing.T) {
	src := audit.NewBaseline("garden", nil).Write()
	_, err := audit.ReadBaseline(src, "office")
	assert.ErrorContains(t, err, `it is the baseline of "garden"`)
	_, err = audit.ReadBaseline([]byte(`{"format":"x"}`), "")
	assert.ErrorContains(t, err, `accepted: "ubiquant.baseline/1"`)
	_, err = audit.ReadBaseline([]byte(`{`), "")
	assert.Error(t, err)
}
