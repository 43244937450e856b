package piece_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/piece"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/opened"
)

// whole is the order for what is proposed: all that differs or must be left to the
// uses, and all twins that this serves.
func whole(x *piece.Extraction, run piece.Run) piece.Order {
	o := piece.Order{Run: run, ID: x.ID, Title: x.Title, Holes: x.Holes}
	for _, p := range x.Props {
		if p.Must || p.Others > 0 {
			o.Props = append(o.Props, screen.PieceProp{Name: p.Name, Element: p.Element, Prop: p.Prop})
		}
	}
	for _, tw := range x.Twins {
		o.Twins = append(o.Twins, tw.Run)
	}
	return o
}

func run(doc string, ids ...string) piece.Run { return piece.Run{Doc: doc, Elements: ids} }

func TestWhatIsExtractedLooksAsBeforeWhereverItIsUsed(t *testing.T) {
	l := opened.Demo(t)
	before := opened.Looks(t, l)
	doc := "screen:tickets"
	p := run(doc, opened.At(t, l, doc, "sorrel-page-header"))
	x, err := piece.Propose(l, p)
	require.NoError(t, err)
	require.NotEmpty(t, x.Twins, "other screens have a header as well")
	order := whole(x, p)
	order.Title, order.ID = "Screen header", "screen-header"
	c, err := piece.Extract(l, order)
	require.NoError(t, err)
	_, err = l.Take(c)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(order.Twins), 2, "used on three screens")
	opened.Same(t, before, opened.Looks(t, l))
	uses := 0
	for _, d := range l.W.Docs {
		d.Root.Walk(func(e, _ *screen.Element) bool {
			if e.Type == "piece:screen-header" {
				uses++
			}
			return true
		})
	}
	assert.Equal(t, 1+len(order.Twins), uses)

	// One change reaches all.
	piece, _ := l.W.Doc("piece:screen-header")
	require.NotEmpty(t, piece.Root.ID)
	_, err = l.Take(
		change.Change{
			Title: "x",
			Steps: []change.Step{
				&change.Edit{
					Doc: "piece:screen-header",
					Edits: []screen.Edit{
						{
							Op:     screen.Insert,
							Parent: piece.Root.ID,
							Tree: &screen.Element{
								ID:   "newone",
								Type: "sorrel-text",
								Text: screen.Lit("Reached"),
								Slot: firstSlot(t, l, piece.Root.Type),
							},
						},
					},
				},
			},
		},
	)
	require.NoError(t, err)
	for _, tw := range append(order.Twins, p) {
		assert.Contains(t, opened.Look(t, l, tw.Doc), "Reached", tw.Doc)
	}
}

func firstSlot(t testing.TB, l *live.Live, typ string) string {
	c, ok := l.Cat.Component(typ)
	require.True(t, ok)
	text, _ := l.Cat.Component("sorrel-text")
	for _, s := range c.Slots {
		if _, ok := kit.Accepts(l.Cat, c, s.Name, text); ok {
			return s.Name
		}
	}
	t.Fatalf("%s takes no text", typ)
	return ""
}

// Whatever is extracted, wherever, and cut loose again: nothing looks different, and
// undoing leaves what was.
func TestExtractingAndCuttingLooseChangeNoLook(t *testing.T) {
	base := opened.Demo(t)
	before := opened.Looks(t, base)
	var at []piece.Run
	for _, d := range base.W.Docs {
		if d.Kind == screen.PieceDoc || d.Removed {
			continue
		}
		d.Root.Walk(func(e, parent *screen.Element) bool {
			if parent != nil && e.Type != "outlet" {
				at = append(at, run(d.Address(), e.ID))
				for i, c := range parent.Children {
					if c == e && i+1 < len(parent.Children) && parent.Children[i+1].Slot == e.Slot {
						at = append(at, run(d.Address(), e.ID, parent.Children[i+1].ID))
					}
				}
			}
			return true
		})
	}
	done, tried := 0, 0
	rapid.Check(t, func(rt *rapid.T) {
		p := rapid.SampledFrom(at).Draw(rt, "part")
		if done >= 30 {
			return // each looks at all screens three times
		}
		tried++
		l := opened.Demo(t)
		x, err := piece.Propose(l, p)
		if err != nil {
			return // says why: an outlet, or not beside each other
		}
		order := whole(x, p)
		c, err := piece.Extract(l, order)
		if err != nil {
			rt.Fatalf("what is proposed cannot be done: %s", err)
		}
		taken, err := l.Take(c)
		if err != nil {
			if strings.Contains(err.Error(), "is not there") {
				rt.Fatalf("what is proposed is not taken: %s", err)
			}
			return // the kit refuses it: the demo has slips in it
		}
		done++
		opened.Same(rt, before, opened.Looks(t, l))
		use := opened.At(t, l, p.Doc, "piece:"+order.ID)
		loose, err := piece.Loose(l, p.Doc, use)
		require.NoError(rt, err)
		cut, err := l.Take(loose)
		require.NoError(rt, err)
		opened.Same(rt, before, opened.Looks(t, l))
		for _, back := range []change.Change{cut.Inverse, taken.Inverse} {
			_, err = l.Take(back)
			require.NoError(rt, err)
		}
		was, _ := base.W.Doc(p.Doc)
		is, _ := l.W.Doc(p.Doc)
		require.True(rt, screen.Equal(was.Root, is.Root))
	})
	// A short run draws fewer parts.
	assert.Greater(t, 2*done, tried, "most parts can be extracted")
}

// Twins that stand side by side all give way, in whatever order they are named.
func TestTwinsBesideEachOtherAllGiveWay(t *testing.T) {
	for _, turned := range []bool{false, true} {
		l := opened.Demo(t)
		before := opened.Looks(t, l)
		shell, ok := l.W.Doc("shell:staff")
		require.True(t, ok)
		var items []string
		shell.Root.Walk(func(e, _ *screen.Element) bool {
			if e.Type == "sorrel-nav-item" && len(items) < 4 {
				items = append(items, e.ID)
			}
			return true
		})
		require.Len(t, items, 4)
		if turned {
			slices.Reverse(items)
		}
		x, err := piece.Propose(l, run("shell:staff", items[0]))
		require.NoError(t, err)
		order := whole(x, run("shell:staff", items[0]))
		require.GreaterOrEqual(t, len(order.Twins), 3)
		c, err := piece.Extract(l, order)
		require.NoError(t, err)
		_, err = l.Take(c)
		require.NoError(t, err)
		opened.Same(t, before, opened.Looks(t, l))
	}
}

// pieced is a workspace with one piece used on three screens.
func pieced(t testing.TB) *live.Live {
	l := opened.Demo(t)
	piece := &screen.Document{
		Kind:  screen.PieceDoc,
		ID:    "note",
		Title: "Note",
		Root: &screen.Element{ID: "card", Type: "sorrel-card", Name: "card", Children: []*screen.Element{
			{
				ID:   "head",
				Type: "sorrel-heading",
				Name: "head",
				Text: screen.Lit("Head"),
			}, {ID: "line", Type: "sorrel-text", Name: "line", Text: screen.Lit("Line"), Props: []screen.Prop{{Name: "tone", Value: screen.Lit("quiet")}}}, {ID: "more", Type: "outlet", Name: "more"}}},
		Props: []screen.PieceProp{{Name: "title", Element: "head"}},
	}
	steps := []change.Step{&change.Create{Document: piece}}
	for _, s := range []string{"tickets", "specimens", "beds"} {
		d, ok := l.W.Doc("screen:" + s)
		require.True(t, ok)
		steps = append(
			steps,
			&change.Edit{
				Doc: "screen:" + s,
				Edits: []screen.Edit{
					{
						Op:     screen.Insert,
						Parent: d.Root.ID,
						Tree: &screen.Element{
							ID:    "use",
							Type:  "piece:note",
							Props: []screen.Prop{{Name: "title", Value: screen.Lit("Own " + s)}},
							Children: []*screen.Element{
								{ID: "use-more", Type: "sorrel-text", Slot: "more", Text: screen.Lit("Filled " + s)},
							},
						},
					},
				},
			},
		)
	}
	_, err := l.Take(change.Change{Title: "pieces", Steps: steps})
	require.NoError(t, err)
	return l
}

func TestAUseReachesInsideByNameAndTheSettingFollows(t *testing.T) {
	l := pieced(t)
	take := func(steps ...change.Step) []change.Lost {
		c, lost, err := l.Prepare(change.Change{Title: "x", Steps: steps})
		require.NoError(t, err)
		_, err = l.Take(c)
		require.NoError(t, err)
		return lost
	}
	take(
		opened.Set("screen:tickets", "use", "line.tone", screen.Lit("good")),
		opened.Set("screen:tickets", "use", "head.text", screen.Lit("Reached")),
		opened.Set("screen:beds", "use", "line.shown", screen.FlagValue(false)),
	)
	assert.Contains(t, opened.Look(t, l, "screen:tickets"), `tone="good">Line<`)
	assert.Contains(t, opened.Look(t, l, "screen:tickets"), "Reached")
	assert.NotContains(t, opened.Look(t, l, "screen:beds"), ">Line<")
	assert.Contains(t, opened.Look(t, l, "screen:specimens"), ">Line<")
	for _, s := range []string{"tickets", "specimens", "beds"} {
		assert.Contains(t, opened.Look(t, l, "screen:"+s), "Filled "+s)
	}

	// The inner element is renamed: uses follow.
	lost := take(
		&change.Edit{
			Doc:   "piece:note",
			Edits: []screen.Edit{{Op: screen.Rename, ID: "line", Name: "sentence"}},
		},
	)
	assert.Empty(t, lost)
	d, _ := l.W.Doc("screen:tickets")
	use, _ := d.Root.Find("use")
	v, ok := use.Prop("sentence.tone")
	assert.True(t, ok)
	assert.Equal(t, "good", v.Text)
	assert.Contains(t, opened.Look(t, l, "screen:tickets"), `tone="good">Line<`)

	// A prop of the piece is renamed: everywhere.
	take(
		&change.Props{
			Doc: "piece:note",
			Document: &screen.Document{
				ID:    "note",
				Title: "Note",
				Root:  d.Root,
				Props: []screen.PieceProp{{Name: "caption", Element: "head"}},
			},
		},
	)
	assert.Contains(t, opened.Look(t, l, "screen:beds"), "Own beds")

	// What it set is gone: it is said, and nothing is thrown away.
	lost = take(
		&change.Edit{
			Doc:   "piece:note",
			Edits: []screen.Edit{{Op: screen.Remove, ID: "line"}},
		},
	)
	require.Len(t, lost, 2)
	assert.ElementsMatch(t, []string{"sentence.tone", "sentence.shown"}, []string{lost[0].Prop, lost[1].Prop})
	d, _ = l.W.Doc("screen:tickets")
	use, _ = d.Root.Find("use")
	_, ok = use.Prop("sentence.tone")
	assert.True(t, ok)
	findings, _ := l.Of("screen:tickets")
	assert.True(
		t,
		slices.ContainsFunc(
			findings,
			func(f audit.Finding) bool { return f.Element == "use" && f.Rule == "unknown-prop" },
		),
		"the audit tells it too",
	)
}

func TestOverridesSurviveAnyChangeThatKeepsWhatTheySet(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		l := pieced(t)
		_, err := l.Take(
			change.Change{
				Title: "x",
				Steps: []change.Step{opened.Set("screen:tickets", "use", "line.tone", screen.Lit("good"))},
			},
		)
		require.NoError(rt, err)
		name, gone := "line", false
		for i := range rapid.IntRange(1, 6).Draw(rt, "changes") {
			var e screen.Edit
			switch rapid.IntRange(0, 4).Draw(rt, "what") {
			case 0:
				name = "n" + string(rune('a'+i))
				e = screen.Edit{Op: screen.Rename, ID: "line", Name: name}
			case 1:
				e = screen.Edit{Op: screen.Move, ID: "line", Parent: "card"}
			case 2:
				e = screen.Edit{
					Op:    screen.Set,
					ID:    "line",
					Prop:  "tone",
					Value: screen.Lit(rapid.SampledFrom([]string{"quiet", "bad"}).Draw(rt, "tone")),
				}
			case 3:
				e = screen.Edit{
					Op:   screen.Wrap,
					Many: []string{"line"},
					Tree: &screen.Element{ID: "w" + string(rune('a'+i)), Type: "stack"},
				}
			case 4:
				e = screen.Edit{Op: screen.Remove, ID: "line"}
			}
			c, lost, err := l.Prepare(
				change.Change{
					Title: "x",
					Steps: []change.Step{&change.Edit{Doc: "piece:note", Edits: []screen.Edit{e}}},
				},
			)
			require.NoError(rt, err)
			if _, err := l.Take(c); err != nil {
				continue
			}
			gone = gone || e.Op == screen.Remove
			require.Equal(rt, e.Op == screen.Remove, len(lost) > 0)
			if gone {
				break
			}
		}
		d, _ := l.W.Doc("screen:tickets")
		use, _ := d.Root.Find("use")
		v, ok := use.Prop(name + ".tone")
		require.True(rt, ok, "%v", use.Props)
		require.Equal(rt, "good", v.Text)
		require.Equal(rt, !gone, strings.Contains(opened.Look(t, l, "screen:tickets"), `tone="good">Line<`))
	})
}

func TestAPieceNeverHoldsItself(t *testing.T) {
	l := pieced(t)
	_, err := l.Take(change.Change{Title: "x", Steps: []change.Step{
		&change.Create{
			Document: &screen.Document{
				Kind:  screen.PieceDoc,
				ID:    "outer",
				Title: "Outer",
				Root: &screen.Element{
					ID:       "r",
					Type:     "stack",
					Children: []*screen.Element{{ID: "u", Type: "piece:note"}},
				},
			},
		}}})
	require.NoError(t, err)
	into := func(piece, what string) error {
		d, _ := l.W.Doc("piece:" + piece)
		_, err := l.Take(
			change.Change{
				Title: "x",
				Steps: []change.Step{
					&change.Edit{
						Doc: "piece:" + piece,
						Edits: []screen.Edit{
							{
								Op:     screen.Insert,
								Parent: d.Root.ID,
								Tree:   &screen.Element{ID: "loop", Type: "piece:" + what},
							},
						},
					},
				},
			},
		)
		return err
	}
	assert.ErrorContains(t, into("outer", "outer"), "Outer would hold itself")
	assert.ErrorContains(t, into("note", "outer"), "Note, which holds Outer")
}

func TestAPartThatCannotBeAPieceSaysWhy(t *testing.T) {
	l := opened.Demo(t)
	shell := "shell:staff"
	for what, c := range map[string]struct {
		run  piece.Run
		want string
	}{
		"nothing":     {run("screen:tickets"), "no element is chosen"},
		"no screen":   {run("screen:nowhere", "a"), "no screen:nowhere"},
		"no element":  {run("screen:tickets", "nothing"), `no element "nothing"`},
		"the root":    {run("screen:tickets", opened.Doc(t, l, "screen:tickets").Root.ID), "stays where it is"},
		"the outlet":  {run(shell, opened.At(t, l, shell, "outlet")), "outlet stays"},
		"two places":  {run("screen:tickets", opened.At(t, l, "screen:tickets", "sorrel-page-header"), opened.At(t, l, "screen:tickets", "sorrel-cell")), "stands elsewhere"},
		"not beside ": {run("screen:tickets", opened.Doc(t, l, "screen:tickets").Root.Children[0].ID, opened.Doc(t, l, "screen:tickets").Root.Children[2].ID), "stands between"},
	} {
		_, err := piece.Propose(l, c.run)
		assert.ErrorContains(t, err, c.want, what)
	}
}

func TestCountsAndFindingsAfterAPieceAreThoseOfAFreshStart(t *testing.T) {
	l := pieced(t)
	steps := []change.Change{
		{Title: "tone", Steps: []change.Step{opened.Set("screen:tickets", "use", "line.tone", screen.Lit("good"))}},
		{Title: "default", Steps: []change.Step{opened.Set("piece:note", "line", "tone", screen.Lit("bad"))}},
		{
			Title: "name",
			Steps: []change.Step{
				&change.Edit{
					Doc:   "piece:note",
					Edits: []screen.Edit{{Op: screen.Rename, ID: "line", Name: "sentence"}},
				},
			},
		},
		{
			Title: "gone",
			Steps: []change.Step{
				&change.Edit{Doc: "piece:note", Edits: []screen.Edit{{Op: screen.Remove, ID: "line"}}},
			},
		},
	}
	for _, c := range steps {
		c, _, err := l.Prepare(c)
		require.NoError(t, err)
		_, err = l.Take(c)
		require.NoError(t, err)
		fresh := live.Open(l.W, testkit.Sorrel(t), "2026-11-23")
		for _, d := range l.W.Docs {
			key := d.Address()
			findings, strays := l.Of(key)
			wantF, wantS := fresh.Of(key)
			require.ElementsMatch(t, wantF, findings, "%s after %s", key, c.Title)
			require.ElementsMatch(t, wantS, strays, "%s after %s", key, c.Title)
		}
		require.Equal(t, fresh.Counts(), l.Counts(), c.Title)
	}
}
