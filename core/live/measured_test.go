package live_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/geometry"
	"ubiquant/core/live"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit/opened"
)

// wide is what was seen on a screen: an element that is too wide with two sets.
func wide(t *testing.T, l *live.Live, doc, element string) []live.Seen {
	d, ok := l.W.Doc(doc)
	require.True(t, ok)
	var g live.Gathered
	g.Add(d, live.Look{Set: "usual", Width: 360}, []geometry.Finding{{Element: element, Kind: "too-wide", By: 4, Message: "it is 4 px too wide", Key: element}})
	g.Add(d, live.Look{Set: "edge", Width: 360}, []geometry.Finding{{Element: element, Kind: "too-wide", By: 90, Message: "it is 90 px too wide", Key: element + "#x"}})
	g.Add(d, live.Look{Set: "edge", Width: 360}, []geometry.Finding{{Element: "bar", Doc: "shell", Kind: "wraps", By: 2, Message: "it needs 2 lines", Key: "bar"}})
	return g.Seen()
}

func measure(t *testing.T, l *live.Live, doc, element string) {
	d, _ := l.W.Doc(doc)
	require.True(t, l.TakeMeasured(d, l.Drawn(d), wide(t, l, doc, element)))
}

func looks(l *live.Live) (out []live.Work) {
	for _, w := range l.Worklist() {
		if w.Rule == live.Looks.ID {
			out = append(out, w)
		}
	}
	return out
}

// What is seen on a drawn screen is work like any other: told once, with where it shows most, until
// somebody lets it stand or the screen changes.
func TestWhatIsMeasuredComesIntoTheWorklist(t *testing.T) {
	l := opened.Demo(t)
	before := l.Counts().Findings
	measure(t, l, "screen:tickets", "tickets-12")
	measure(t, l, "screen:beds", "beds-7")
	list := looks(l)
	require.Len(t, list, 3, "what stands in the shell is told once")
	assert.Equal(t, before+3, l.Counts().Findings)
	var own live.Work
	for _, w := range list {
		if w.Doc == "screen:tickets" {
			own = w
		}
	}
	assert.Equal(t, "it is 90 px too wide with usual and edge at 360", own.Message)
	assert.Equal(t, live.Look{Set: "edge", Width: 360}, *own.Look)
	assert.Equal(t, "tickets-12#x", own.Copy)
	assert.NotEmpty(t, own.Path)

	opened.Take(t, l, &change.PutStand{Stand: audit.LetStand{ID: "s1", Key: own.Key, Reason: "it scrolls", By: "ida", When: "2026-11-23"}})
	assert.Equal(t, before+2, l.Counts().Findings)
	_, stood := l.Findings()
	assert.Contains(t, keysOf(stood), own.Key)
}

func keysOf(list []audit.Finding) (out []string) {
	for _, f := range list {
		out = append(out, f.Key())
	}
	return out
}

// A change of a screen forgets what was measured of it, one of what all are drawn with forgets all,
// and what was drawn before a change is not kept after it.
func TestWhatChangedIsMeasuredAgain(t *testing.T) {
	l := opened.Demo(t)
	all := len(l.Unmeasured())
	measure(t, l, "screen:tickets", "tickets-12")
	measure(t, l, "screen:beds", "beds-7")
	require.Len(t, l.Unmeasured(), all-2)

	d, _ := l.W.Doc("screen:tickets")
	drawn := l.Drawn(d)
	edit := &change.Edit{Doc: "screen:tickets", Edits: []screen.Edit{{Op: screen.Set, ID: "tickets-1", Prop: "gap", Value: screen.Lit("4")}}}
	opened.Take(t, l, edit)
	require.Len(t, l.Unmeasured(), all-1, "the other screen stays measured")
	d, _ = l.W.Doc("screen:tickets")
	assert.False(t, l.TakeMeasured(d, drawn, nil))
	assert.Len(t, l.Unmeasured(), all-1)

	shell, _ := l.W.Doc("shell:staff")
	opened.Take(t, l, &change.Edit{Doc: "shell:staff", Edits: []screen.Edit{{Op: screen.Set, ID: shell.Root.ID, Prop: "gap", Value: screen.Lit("2")}}})
	assert.Len(t, l.Unmeasured(), all, "the shell is around them all")
	assert.Empty(t, l.Measured())
}

// A team may ask that a screen was measured, and nothing on it looks wrong, before it is signed off.
func TestASignOffMayAskForMeasuredScreens(t *testing.T) {
	l := opened.Demo(t)
	opened.Take(t, l, &change.Tune{Tuning: audit.Tuning{Rule: "sign-off", Settings: map[string]string{"asks": "wrong looks"}, By: "ida", When: "2026-11-23", Reason: "x"}})
	assert.Contains(t, l.Unmet("screen:beds")[0], "not measured since it last changed")
	measure(t, l, "screen:beds", "beds-7")
	assert.Equal(t, []string{"it looks wrong: it is 90 px too wide with usual and edge at 360"}, l.Unmet("screen:beds"))
	d, _ := l.W.Doc("screen:beds")
	require.True(t, l.TakeMeasured(d, l.Drawn(d), nil))
	assert.Empty(t, l.Unmet("screen:beds"))
}

func TestFaintLettersAreTold(t *testing.T) {
	n := &resolve.Node{Key: "r", ID: "r", Type: "section", Children: []*resolve.Node{{Key: "a#1", ID: "a", Type: "sorrel-text"}}}
	ink := func(ratio float64, large bool) []live.Ink {
		return []live.Ink{{Keys: []string{"a#1"}, Ink: "#777777", Ground: "#FFFFFF", Ratio: ratio, Large: large, Sample: "Due"}}
	}
	assert.Empty(t, live.Faint(n, ink(4.5, false)))
	assert.Empty(t, live.Faint(n, ink(3.1, true)))
	found := live.Faint(n, ink(4.478, false))
	require.Len(t, found, 1)
	assert.Equal(t, "a", found[0].Element)
	assert.Contains(t, found[0].Message, "a contrast of 4.47, and 4.5 is needed")
	assert.Len(t, live.Faint(n, ink(2.9, true)), 1)
	none := ink(2, false)
	none[0].Keys = nil
	assert.Equal(t, "r", live.Faint(n, none)[0].Element, "where elements bear no keys it is told of the screen")
}
