package merge_test

import (
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/merge"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit/opened"
	"ubiquant/internal/testkit/steps"
)

var counted = regexp.MustCompile(`\n *"(revision|made)": [^\n]*`)

// plain is a workspace as it is written, without how often and when.
func plain(w *model.Workspace) string {
	c := *w
	c.Docs = nil
	for _, d := range w.Docs {
		one := *d
		one.Signed = nil
		c.Docs = append(c.Docs, &one)
	}
	return counted.ReplaceAllString(string(wsfile.Write(&c)), "")
}

type same struct{ k *kit.Kit }

func (same) Since(string, int) ([]change.PastEdit, bool) { return nil, false }
func (s same) FindKit(model.KitRef) (*kit.Kit, error)    { return s.k, nil }

// changed is a workspace after some changes at random; those that rename the kit are left out.
func changed(r *rapid.T, start *model.Workspace, k *kit.Kit, label string) *model.Workspace {
	l := &live.Live{W: start, Kit: k, Cat: model.NewCatalog(k, start)}
	for range rapid.IntRange(1, 4).Draw(r, label) {
		step := steps.Draw(r, l)
		if _, kits := step.(*change.TakeKit); kits {
			continue
		}
		if next, _, err := change.Apply(l.W, change.Change{Title: "x", Steps: []change.Step{step}}, l.Cat, same{k}); err == nil {
			l.W = next
			l.Cat.Renew(next)
		}
	}
	return l.W
}

func merged(t require.TestingT, w *model.Workspace, k *kit.Kit, c change.Change) (*model.Workspace, change.Taken) {
	c, err := change.Read(change.Write(c), true)
	require.NoError(t, err)
	next, taken, err := change.Apply(w, c, model.NewCatalog(k, w), same{k})
	require.NoError(t, err)
	return next, taken
}

// What only one side changed is taken as it is; nothing changes where the other side did nothing; and
// a merge is taken back whole.
func TestWhatOneSideChangedIsTaken(t *testing.T) {
	start, k := opened.Demo(t).W, opened.Demo(t).Kit.Bare()
	rapid.Check(t, func(r *rapid.T) {
		theirs := changed(r, start, k, "theirs")
		same, err := merge.Three(start, theirs, start, false)
		require.NoError(r, err)
		assert.Empty(r, same.Change.Steps, "they did nothing")

		all, err := merge.Three(start, start, theirs, false)
		require.NoError(r, err)
		assert.Empty(r, all.Conflicts)
		next, taken := merged(r, start, k, all.Change)
		require.Equal(r, plain(theirs), plain(next))
		back, _ := merged(r, next, k, taken.Inverse)
		require.Equal(r, string(wsfile.Write(start)), string(wsfile.Write(back)))
	})
}

// Whichever side merges the other, the same comes of it, as far as both changed other things; and what
// each changed alone is there.
func TestMergingTakesBothSides(t *testing.T) {
	start, k := opened.Demo(t).W, opened.Demo(t).Kit.Bare()
	clean, clashes := 0, 0
	rapid.Check(t, func(r *rapid.T) {
		ours, theirs := changed(r, start, k, "ours"), changed(r, start, k, "theirs")
		one, err := merge.Three(start, ours, theirs, false)
		if err != nil { // two routes, two elements of one id: it is said, and nothing is done
			clashes++
			return
		}
		other, err := merge.Three(start, theirs, ours, false)
		require.NoError(r, err)
		require.Equal(r, len(one.Conflicts), len(other.Conflicts))
		if len(one.Conflicts) > 0 {
			clashes++
			return
		}
		clean++
		a, _ := merged(r, ours, k, one.Change)
		b, _ := merged(r, theirs, k, other.Change)
		require.ElementsMatch(r, strings.Split(plain(a), "\n"), strings.Split(plain(b), "\n"))
		// Merged again nothing is left to do.
		again, err := merge.Three(theirs, a, theirs, false)
		require.NoError(r, err)
		assert.Empty(r, again.Change.Steps)
	})
	t.Logf("%d merged, %d clashed", clean, clashes)
	assert.Positive(t, clean)
}

func edited(t *testing.T, w *model.Workspace, k *kit.Kit, doc string, edits ...screen.Edit) *model.Workspace {
	t.Helper()
	next, _, err := change.Apply(w, change.Change{Title: "x", Steps: []change.Step{&change.Edit{Doc: doc, Edits: edits}}}, model.NewCatalog(k, w), nil)
	require.NoError(t, err)
	return next
}

func words(t *testing.T, w *model.Workspace, doc, id string) string {
	t.Helper()
	d, ok := w.Doc(doc)
	require.True(t, ok)
	e, _ := d.Root.Find(id)
	require.NotNil(t, e, id)
	return e.Text.Text
}

// Two people edit different elements of one screen, one moves what the other leaves alone: all of it
// is there. What both wrote is told with both, and what stands here stays unless theirs is asked for.
func TestOneScreenByTwo(t *testing.T) {
	start, k := opened.Demo(t).W, opened.Demo(t).Kit.Bare()
	const doc = "screen:new-ticket"
	text := func(id, to string) screen.Edit {
		return screen.Edit{Op: screen.SetText, ID: id, Value: screen.Lit(to)}
	}
	d, _ := start.Doc(doc)
	var buttons []*screen.Element
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if e.Type == "sorrel-button" {
			buttons = append(buttons, e)
		}
		return true
	})
	require.GreaterOrEqual(t, len(buttons), 2)
	save, cancel := buttons[0].ID, buttons[1].ID
	ours := edited(t, start, k, doc, text(save, "Keep"))
	theirs := edited(t, start, k, doc, text(cancel, "Leave"), screen.Edit{Op: screen.Insert, Parent: d.Root.ID, Tree: &screen.Element{ID: "more", Type: "sorrel-text", Text: screen.Lit("More")}})
	r, err := merge.Three(start, ours, theirs, false)
	require.NoError(t, err)
	assert.Empty(t, r.Conflicts)
	assert.Equal(t, []string{doc}, r.Changed)
	next, _ := merged(t, ours, k, r.Change)
	assert.Equal(t, "Keep", words(t, next, doc, save))
	assert.Equal(t, "Leave", words(t, next, doc, cancel))
	assert.Equal(t, "More", words(t, next, doc, "more"))
	now, _ := next.Doc(doc)
	was, _ := ours.Doc(doc)
	assert.Equal(t, was.Revision+1, now.Revision)

	theirs = edited(t, start, k, doc, text(save, "Store"))
	for _, c := range []struct {
		theirs bool
		is     string
	}{{false, "Keep"}, {true, "Store"}} {
		r, err = merge.Three(start, ours, theirs, c.theirs)
		require.NoError(t, err)
		require.Len(t, r.Conflicts, 1)
		assert.Contains(t, r.Conflicts[0].String(), doc+" ")
		assert.Contains(t, r.Conflicts[0].String(), `/`+save+`/text: here "Keep", there "Store", before "Save"`)
		next, _ = merged(t, ours, k, r.Change)
		assert.Equal(t, c.is, words(t, next, doc, save))
	}
	// Without what both come from, nothing counts as taken away, and what differs is told.
	r, err = merge.Three(nil, ours, theirs, false)
	require.NoError(t, err)
	assert.Len(t, r.Conflicts, 1)
	assert.Empty(t, r.Gone)
}

func TestWhatBothMovedStandsOnce(t *testing.T) {
	start, k := opened.Demo(t).W, opened.Demo(t).Kit.Bare()
	const doc = "screen:new-ticket"
	d, _ := start.Doc(doc)
	box := func(id string) screen.Edit {
		return screen.Edit{Op: screen.Insert, Parent: d.Root.ID, Tree: &screen.Element{ID: id, Type: "stack"}}
	}
	start = edited(t, start, k, doc, box("left"), box("right"), screen.Edit{Op: screen.Insert, Parent: d.Root.ID, Tree: &screen.Element{ID: "it", Type: "sorrel-text", Text: screen.Lit("It")}})
	move := func(to string) *model.Workspace {
		return edited(t, start, k, doc, screen.Edit{Op: screen.Move, ID: "it", Parent: to})
	}
	r, err := merge.Three(start, move("left"), move("right"), false)
	require.NoError(t, err)
	require.Len(t, r.Conflicts, 1)
	assert.Contains(t, r.Conflicts[0].String(), "stands in left")
	next, _ := merged(t, move("left"), k, r.Change)
	now, _ := next.Doc(doc)
	count := 0
	now.Root.Walk(func(e, p *screen.Element) bool {
		if e.ID == "it" {
			count++
			assert.Equal(t, "left", p.ID)
		}
		return true
	})
	assert.Equal(t, 1, count)
}

func TestAnotherKitIsRefused(t *testing.T) {
	w := opened.Demo(t).W
	other := *w
	other.Kit.Name = "@acme/orchard"
	_, err := merge.Three(nil, w, &other, false)
	assert.ErrorContains(t, err, "carry it over first")
}
