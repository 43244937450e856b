package piece_test

import (
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/piece"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit/opened"
)

// Layouts, and what a control tells where something follows it: nothing in a shell follows what
// stands on a screen.
var layout = regexp.MustCompile(`</?(?:div|section)\b[^>]*>| data-holds="[^"]*"`)

// What a press opens, or looks at, is told by its place among all elements, layouts too; that it is there was
// looked at.
var opensAt = regexp.MustCompile(`\b(open|close|at):\d+`)

// shown is what a screen shows in its shells, whatever layouts hold it together.
func shown(t testing.TB, l *live.Live, doc string) string {
	return opensAt.ReplaceAllString(layout.ReplaceAllString(opened.Look(t, l, doc), ""), "$1")
}

// Whatever part of a screen stays, with all that stands around it in a shell: the same is shown in
// every state, nothing is there twice, and undo brings all of it back.
func TestWhatStandsAroundBecomesAShell(t *testing.T) {
	base := opened.Demo(t)
	type at struct{ doc, id string }
	var places []at
	for _, d := range base.W.Docs {
		if d.Kind == screen.ScreenDoc && !d.Removed {
			d.Root.Walk(func(e, parent *screen.Element) bool {
				if parent != nil {
					places = append(places, at{d.Address(), e.ID})
				}
				return true
			})
		}
	}
	refused, made := 0, 0
	rapid.Check(t, func(r *rapid.T) {
		l := opened.Demo(t)
		p := rapid.SampledFrom(places).Draw(r, "place")
		before := shown(t, l, p.doc)
		s, err := piece.Surround(l, p.doc, p.id)
		if err != nil {
			refused++
			return
		}
		order := piece.ShellOrder{Doc: p.doc, Element: p.id, ID: "made", Title: "Made"}
		docs := map[string]string{p.doc: before}
		for _, tw := range s.Twins {
			if tw.Equal {
				order.Twins = append(order.Twins, tw.Doc)
				docs[tw.Doc] = shown(t, l, tw.Doc)
			}
		}
		c, err := piece.Shell(l, order)
		require.NoError(r, err)
		taken := opened.Take(r, l, c.Steps...)
		made++
		for doc, before := range docs {
			opened.Same(r, map[string]string{doc: before}, map[string]string{doc: shown(t, l, doc)})
			d := opened.Doc(t, l, doc)
			assert.Equal(r, "made", d.Shell)
			for _, st := range d.States {
				for _, e := range st.Edits {
					_, _, err := screen.Apply(d.Root, e, l.Cat)
					assert.NoError(r, err, "%s when %s", doc, st.Name)
				}
			}
		}
		_, err = l.Take(taken.Inverse)
		require.NoError(r, err)
		for doc, before := range docs {
			opened.Same(r, map[string]string{doc: before}, map[string]string{doc: shown(t, l, doc)})
		}
	})
	t.Logf("%d shells made, %d refused", made, refused)
	assert.Greater(t, made, refused/4)
}

func TestWhatOnlyOneScreenKnowsDoesNotGoIntoAShell(t *testing.T) {
	l := opened.Demo(t)
	d := opened.Doc(t, l, "screen:specimen")
	require.Contains(t, d.Route, ":")
	refusals := map[string]bool{}
	d.Root.Walk(func(e, parent *screen.Element) bool {
		if parent != nil {
			if _, err := piece.Surround(l, "screen:specimen", e.ID); err != nil {
				refusals[err.Error()] = true
			}
		}
		return true
	})
	assert.NotEmpty(t, refusals)
	for why := range refusals {
		t.Log(why)
	}
	_, err := piece.Surround(l, "screen:specimen", d.Root.ID)
	assert.ErrorContains(t, err, "nothing stands around the root")
	_, err = piece.Surround(l, "shell:staff", "bar")
	assert.ErrorContains(t, err, "part of a screen")
}

// A shell always has one place for its screens, whatever is done to it.
func TestAShellKeepsItsOutlet(t *testing.T) {
	l := opened.Demo(t)
	d := opened.Doc(t, l, "shell:staff")
	outlet := opened.At(t, l, "shell:staff", "outlet")
	wrapped := &screen.Element{ID: "held", Type: "stack"}
	opened.Take(t, l, &change.Edit{Doc: d.Address(), Edits: []screen.Edit{{Op: screen.Wrap, Many: []string{outlet}, Tree: wrapped}}})
	for name, e := range map[string]screen.Edit{
		"removed with what holds it": {Op: screen.Remove, ID: "held"},
		"copied":                     {Op: screen.Duplicate, ID: "held", IDs: map[string]string{"held": "held-2", outlet: "outlet-2"}},
	} {
		_, err := l.Take(change.Change{Title: name, Steps: []change.Step{&change.Edit{Doc: d.Address(), Edits: []screen.Edit{e}}}})
		assert.ErrorContains(t, err, "outlet", name)
	}
	_, err := l.Take(change.Change{Title: "New shell", Steps: []change.Step{&change.Create{Document: &screen.Document{
		Kind: screen.ShellDoc, ID: "bare", Title: "Bare", Root: &screen.Element{ID: "root", Type: "stack"},
	}}}})
	assert.ErrorContains(t, err, "Bare would have 0 outlets")
}
