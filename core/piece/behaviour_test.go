package piece_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/change"
	"ubiquant/core/expr"
	"ubiquant/core/live"
	"ubiquant/core/piece"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit/opened"
)

// held is what the controls of a screen hold, by their elements; keyed turns it into what a view
// says, whatever pieces the controls stand in by now.
type held map[string]any

func keyed(l *live.Live, doc string, values held) live.View {
	d, _ := l.W.Doc(doc)
	v := live.View{Controls: map[string]any{}}
	var within func(root *screen.Element, prefix string)
	within = func(root *screen.Element, prefix string) {
		for name, c := range resolve.NamesOf(root, l.Cat).Controls {
			if value, ok := values[c.Element.ID]; ok && c.Use == nil {
				v.Controls[prefix+name] = value
			}
		}
		root.Walk(func(e, _ *screen.Element) bool {
			if p := l.Cat.PieceOf(e.Type); p != nil && e.Repeat == nil {
				within(p.Root, prefix+e.ID+"/")
			}
			return true
		})
	}
	within(d.Root, "")
	return v
}

func look(t testing.TB, l *live.Live, doc string, values held) string {
	return opened.LookIn(t, l, doc, keyed(l, doc, values))
}

// Whatever part becomes a piece, and is cut loose again: what people choose and type in it, or
// beside it, does the same as before.
func TestAPieceBehavesAsThePartThatItIsMadeOf(t *testing.T) {
	base := opened.Demo(t)
	type part struct {
		run      piece.Run
		controls []resolve.Control
	}
	var parts []part
	for _, d := range base.W.Docs {
		names := resolve.NamesOf(d.Root, base.Cat)
		if d.Kind != screen.ScreenDoc || d.Removed || !names.Spoken {
			continue
		}
		var controls []resolve.Control
		for _, c := range names.Controls {
			controls = append(controls, c)
		}
		d.Root.Walk(func(e, parent *screen.Element) bool {
			if parent == nil {
				return true
			}
			for i, c := range parent.Children {
				for j := i; c == e && j < len(parent.Children); j++ {
					ids := []string{}
					for _, n := range parent.Children[i : j+1] {
						ids = append(ids, n.ID)
					}
					parts = append(parts, part{run(d.Address(), ids...), controls})
				}
			}
			return true
		})
	}
	require.NotEmpty(t, parts)
	lends, wired := 0, 0
	rapid.Check(t, func(rt *rapid.T) {
		p := rapid.SampledFrom(parts).Draw(rt, "part")
		values := held{}
		for _, c := range p.controls {
			if !rapid.Bool().Draw(rt, c.Element.ID+" used") {
				continue
			}
			switch c.Kind {
			case expr.Bool:
				values[c.Element.ID] = rapid.Bool().Draw(rt, c.Element.ID)
			case expr.Number:
				values[c.Element.ID] = float64(rapid.IntRange(1, 3).Draw(rt, c.Element.ID))
			default:
				texts := append([]string{"a", "e", ""}, c.Holds.Values...)
				values[c.Element.ID] = rapid.SampledFrom(texts).Draw(rt, c.Element.ID)
			}
		}
		if wired >= 25 {
			return // each opens the demo anew
		}
		l := opened.Demo(t)
		x, err := piece.Propose(l, p.run)
		if err != nil {
			return // says why
		}
		c, err := piece.Extract(l, whole(x, p.run))
		if err != nil {
			if strings.Contains(err.Error(), "counts") {
				return
			}
			rt.Fatalf("what is proposed cannot be done: %s", err)
		}
		before := look(t, l, p.run.Doc, values)
		taken, err := l.Take(c)
		if err != nil {
			return // the kit refuses it: the demo has slips in it
		}
		wired++
		if len(x.Tells) > 0 {
			lends++
		}
		same := func(when string) {
			opened.Same(rt, map[string]string{when: before}, map[string]string{when: look(t, l, p.run.Doc, values)})
		}
		same("as a piece")
		loose, err := piece.Loose(l, p.run.Doc, opened.At(t, l, p.run.Doc, "piece:"+x.ID))
		require.NoError(rt, err)
		cut, err := l.Take(loose)
		require.NoError(rt, err)
		same("cut loose")
		for _, back := range []change.Change{cut.Inverse, taken.Inverse} {
			_, err = l.Take(back)
			require.NoError(rt, err)
		}
		was, _ := base.W.Doc(p.run.Doc)
		is, _ := l.W.Doc(p.run.Doc)
		require.True(rt, screen.Equal(was.Root, is.Root))
	})
	assert.Positive(t, wired)
	t.Log(fmt.Sprint(wired, " parts, ", lends, " of them lend"))
}

// What a use lends goes by the names of the use and of the control: whichever changes, all that
// speaks of it follows.
func TestWhatSpeaksOfAPiecesControlFollowsItsNames(t *testing.T) {
	l := opened.Demo(t)
	doc := "screen:specimens"
	d, _ := l.W.Doc(doc)
	condition := resolve.NamesOf(d.Root, l.Cat).Controls["condition"]
	require.NotNil(t, condition.Element)
	values := held{condition.Element.ID: "ailing"}
	before := look(t, l, doc, values)
	require.NotEqual(t, look(t, l, doc, nil), before, "it filters")
	_, row := d.Root.Find(condition.Element.ID) // with other controls in it
	x, err := piece.Propose(l, run(doc, row.ID))
	require.NoError(t, err)
	assert.Contains(t, x.Tells, "condition")
	order := whole(x, run(doc, row.ID))
	order.ID, order.Title, order.Twins = "finder", "Finder", nil
	c, err := piece.Extract(l, order)
	require.NoError(t, err)
	_, err = l.Take(c)
	require.NoError(t, err)
	opened.Same(t, map[string]string{"": before}, map[string]string{"": look(t, l, doc, values)})

	use := opened.At(t, l, doc, "piece:finder")
	opened.Take(t, l, &change.Edit{Doc: doc, Edits: []screen.Edit{{Op: screen.Rename, ID: use, Name: "narrow"}}})
	d, _ = l.W.Doc(doc)
	assert.Contains(t, resolve.NamesOf(d.Root, l.Cat).Controls, "narrowCondition")
	opened.Same(t, map[string]string{"": before}, map[string]string{"": look(t, l, doc, values)})

	opened.Take(t, l, &change.Edit{Doc: "piece:finder", Edits: []screen.Edit{{Op: screen.Rename, ID: condition.Element.ID, Name: "health"}}})
	d, _ = l.W.Doc(doc)
	assert.Contains(t, resolve.NamesOf(d.Root, l.Cat).Controls, "narrowHealth")
	opened.Same(t, map[string]string{"": before}, map[string]string{"": look(t, l, doc, values)})
	_, problems, err := l.Page(doc, live.View{})
	require.NoError(t, err)
	assert.Empty(t, problems, "nothing speaks of a name that is gone")
}
