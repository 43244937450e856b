package demo_test

import (
	"bytes"
	"encoding/json"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
)

type planted struct {
	Doc, Element, Prop, Rule, Spot string
}

type list struct{ Questions, Strays, Findings []planted }

func open(t *testing.T) *live.Live {
	t.Helper()
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	return live.Open(w, testkit.Sorrel(t), "2026-11-23")
}

func read(t *testing.T) list {
	t.Helper()
	b, err := os.ReadFile("planted.json")
	require.NoError(t, err)
	var l list
	require.NoError(t, json.Unmarshal(b, &l))
	return l
}

// figures states precision and recall, and false alarms per screen.
func figures(t *testing.T, what string, want, got []planted, screens int) (precision, recall float64) {
	t.Helper()
	hits := 0
	for _, w := range want {
		if slices.Contains(got, w) {
			hits++
		} else {
			t.Logf("%s missed: %+v", what, w)
		}
	}
	false_ := 0
	for _, g := range got {
		if !slices.Contains(want, g) {
			false_++
			t.Logf("%s not planted: %+v", what, g)
		}
	}
	precision, recall = float64(len(got)-false_)/float64(max(1, len(got))), float64(hits)/float64(len(want))
	t.Logf(
		"%s: precision %.2f, recall %.2f, %.3f false alarms a screen",
		what,
		precision,
		recall,
		float64(false_)/float64(screens),
	)
	return precision, recall
}

func TestTheCensusFindsWhatWasPlanted(t *testing.T) {
	l, want := open(t), read(t)
	screens := 0
	for _, d := range l.W.Docs {
		if d.Kind == screen.ScreenDoc {
			screens++
		}
	}
	var strays, findings, questions []planted
	for _, s := range l.Strays() {
		strays = append(strays, planted{Doc: s.Doc, Element: s.Element, Prop: s.Prop})
	}
	found, _ := l.Findings()
	for _, f := range found {
		findings = append(findings, planted{Doc: f.Doc, Element: f.Element, Rule: f.Rule})
	}
	for _, q := range l.Questions() {
		questions = append(questions, planted{Spot: q.Spot, Prop: q.Prop})
	}
	p, r := figures(t, "strays", want.Strays, strays, screens)
	assert.GreaterOrEqual(t, p, 0.9)
	assert.GreaterOrEqual(t, r, 0.9)
	p, r = figures(t, "findings", want.Findings, findings, screens)
	assert.GreaterOrEqual(t, p, 0.9)
	assert.GreaterOrEqual(t, r, 0.95)
	p, r = figures(t, "questions", want.Questions, questions, screens)
	assert.Equal(t, 1.0, p)
	assert.Equal(t, 1.0, r)
}

func TestTheDemoIsLargeEnoughToSaySomething(t *testing.T) {
	l, want := open(t), read(t)
	kinds := map[screen.DocKind]int{}
	for _, d := range l.W.Docs {
		kinds[d.Kind]++
	}
	assert.GreaterOrEqual(t, kinds[screen.ScreenDoc], 14)
	assert.Equal(t, 2, kinds[screen.ShellDoc])
	assert.GreaterOrEqual(t, len(l.W.Models), 5)
	assert.GreaterOrEqual(t, len(want.Strays)+len(want.Findings), 25)
	assert.Len(t, want.Questions, 3)
}

func TestEveryDemoScreenRendersUnderEverySampleSet(t *testing.T) {
	l := open(t)
	for _, set := range l.W.AllSets() {
		for _, d := range l.W.Docs {
			page, problems, err := l.Page(string(d.Kind)+":"+d.ID, live.View{Set: set.ID})
			require.NoError(t, err)
			assert.NotEmpty(t, page.HTML)
			for _, p := range problems {
				planted := p.Element == "ticket-assignee"
				missing := set.ID == "edge" // numbers are missing there on purpose
				inPiece := d.Kind == screen.PieceDoc
				assert.True(t, planted || missing || inPiece, "%s with %s: %+v", d.ID, set.ID, p)
			}
		}
	}
}

func TestTheFileIsWhatItsSourcesMake(t *testing.T) {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	assert.True(t, bytes.Equal(testkit.Demo(t), wsfile.Write(w)), "writing what was read is the identity")
	back, err := wsfile.ReadFolder(wsfile.Folder(w))
	require.NoError(t, err)
	slices.SortStableFunc(w.Docs, func(a, b *screen.Document) int {
		if a.Kind != b.Kind {
			return 0
		}
		if a.ID < b.ID {
			return -1
		}
		return 1
	})
	slices.SortStableFunc(back.Docs, func(a, b *screen.Document) int { return 0 })
	assert.Equal(t, len(w.Docs), len(back.Docs))
	for _, d := range w.Docs {
		again, ok := back.Doc(string(d.Kind) + ":" + d.ID)
		require.True(t, ok)
		assert.True(t, screen.Equal(d.Root, again.Root), d.ID)
	}
}
