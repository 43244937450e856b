package geometry_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"ubiquant/core/geometry"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/internal/testkit"
)

func judge(t *testing.T, src string, records []sample.Record, boxes ...geometry.Box) []geometry.Finding {
	t.Helper()
	root := testkit.Tree(t, src)
	n, _ := resolve.Resolve(
		resolve.Input{
			Screen:  root,
			Catalog: testkit.Sorrel(t),
			Models: map[string]*sample.Model{
				"beds": {ID: "beds", Name: "Bed", Fields: []sample.Field{{Name: "name", Type: sample.Text}}},
			},
			Set:   &sample.Set{Records: map[string][]sample.Record{"beds": records}},
			Today: "2026-11-23",
		},
	)
	return geometry.Judge(n, root, boxes, 1000)
}

func box(key string, x, y, w, h float64) geometry.Box {
	return geometry.Box{Key: key, X: x, Y: y, W: w, H: h}
}

const page = `{"id":"r","type":"stack","children":[{"id":"a","type":"sorrel-card","children":[{"id":"t","type":"sorrel-text","text":"x"}]},{"id":"b","type":"sorrel-text","text":"y"}]}`

func said(list []geometry.Finding) (out []string) {
	for _, f := range list {
		out = append(out, f.Element+" "+f.Kind)
	}
	return out
}

func TestWhatSticksOutIsReportedOnceAtTheOutermost(t *testing.T) {
	assert.Empty(
		t,
		judge(
			t,
			page,
			nil,
			box("r", 0, 0, 1000, 400),
			box("a", 0, 0, 1001, 100),
			box("t", 10, 10, 400, 20),
			box("b", 0, 110, 500, 20),
		),
		"a pixel is rounding",
	)
	assert.Equal(
		t,
		[]string{"a out-of-page"},
		said(
			judge(
				t,
				page,
				nil,
				box("r", 0, 0, 1000, 400),
				box("a", 0, 0, 1300, 100),
				box("t", 10, 10, 1280, 20),
				box("b", 0, 110, 500, 20),
			),
		),
	)
	scrolled := box("a", 0, 0, 1300, 100)
	scrolled.Scrolls = true
	assert.Empty(
		t,
		said(
			judge(
				t,
				page,
				nil,
				box("r", 0, 0, 1000, 400),
				scrolled,
				box("t", 10, 10, 900, 20),
				box("b", 0, 110, 500, 20),
			),
		),
		"a frame scrolls it",
	)
	found := judge(
		t,
		page,
		nil,
		box("r", 0, 0, 1000, 400),
		box("a", 0, 0, 300, 100),
		box("t", 10, 10, 400, 20),
		box("b", 0, 110, 500, 20),
	)
	assert.Equal(t, "text sticks out of its card by 110 px", found[0].Message)
	assert.Equal(
		t,
		[]string{"b over-neighbour"},
		said(judge(t, page, nil, box("r", 0, 0, 1000, 400), box("a", 0, 0, 300, 100), box("b", 0, 60, 500, 60))),
	)
}

func TestWhatLiesOverOthersOnPurposeIsNotHeldAgainst(t *testing.T) {
	src := `{"id":"r","type":"stack","children":[{"id":"a","type":"sorrel-text","text":"x"},{"id":"d","type":"sorrel-dialog","props":{"heading":"x","open":true},"children":[{"id":"in","type":"sorrel-text","text":"y"}]}]}`
	assert.Empty(
		t,
		judge(
			t,
			src,
			nil,
			box("r", 0, 0, 1000, 400),
			box("a", 0, 0, 500, 50),
			box("d", -50, 0, 1200, 900),
			box("in", -20, 0, 1100, 20),
		),
	)
}

func TestWhatIsTooWideIsReportedAtTheInnermost(t *testing.T) {
	wide := func(b geometry.Box, over float64) geometry.Box { b.Over = over; return b }
	assert.Equal(
		t,
		[]string{"t too-wide"},
		said(
			judge(
				t,
				page,
				nil,
				wide(box("r", 0, 0, 1000, 400), 30),
				wide(box("a", 0, 0, 300, 100), 40),
				wide(box("t", 10, 10, 280, 20), 40),
				box("b", 0, 110, 500, 20),
			),
		),
	)
	assert.Equal(
		t,
		[]string{"a too-wide"},
		said(
			judge(
				t,
				page,
				nil,
				box("r", 0, 0, 1000, 400),
				wide(box("a", 0, 0, 300, 100), 40),
				box("t", 10, 10, 280, 20),
				wide(box("b", 0, 110, 500, 20), 1),
			),
		),
	)
}

func TestWordsThatWrapAreToldWhereOneLineIsMeant(t *testing.T) {
	src := `{"id":"r","type":"stack","children":[{"id":"a","type":"sorrel-button","text":"Save it all for later, and for ever"},{"id":"c","type":"sorrel-chip","text":"on display"},{"id":"t","type":"sorrel-text","text":"Words that may take all the room that they need"},{"id":"h","type":"sorrel-heading","text":"A heading","props":{"level":"2"}}]}`
	at := func(lines int) []geometry.Finding {
		var boxes []geometry.Box
		for i, id := range []string{"a", "c", "t", "h"} {
			b := box(id, 0, float64(100*i), 90, 80)
			b.Lines = lines
			boxes = append(boxes, b)
		}
		return judge(t, src, nil, append(boxes, box("r", 0, 0, 1000, 400))...)
	}
	assert.Equal(t, []string{"a wraps", "c wraps"}, said(at(2)))
	assert.Equal(t, "the words of button need 3 lines", at(3)[0].Message)
	assert.Empty(t, said(at(0)))
}

func TestCopiesSideBySideAreOfOneHeight(t *testing.T) {
	src := `{"id":"r","type":"grid","children":[{"id":"c","type":"sorrel-card","repeat":{"model":"beds"},"children":[{"id":"t","type":"sorrel-text","text":"x"}]}]}`
	records := []sample.Record{{"id": "1", "name": "a"}, {"id": "2", "name": "b"}, {"id": "3", "name": "c"}}
	found := judge(
		t,
		src,
		records,
		box("r", 0, 0, 1000, 400),
		box("c#1", 0, 0, 300, 100),
		box("c#2", 310, 0, 300, 140),
		box("c#3", 0, 150, 300, 60),
	)
	assert.Equal(t, []string{"c uneven"}, said(found), "that below may be of another height")
	assert.Equal(t, "one card is 40 px higher than that beside it", found[0].Message)
}

func TestAPartOutsideTheMarginOfTheOthersIsTold(t *testing.T) {
	src := `{"id":"r","type":"stack","children":[{"id":"a","type":"sorrel-text","text":"x"},{"id":"b","type":"sorrel-text","text":"x"},{"id":"c","type":"sorrel-text","text":"x"},{"id":"d","type":"sorrel-text","text":"x"}]}`
	at := func(a, d float64) []geometry.Finding {
		return judge(
			t,
			src,
			nil,
			box("r", 0, 0, 1000, 400),
			box("a", a, 0, 300, 20),
			box("b", 24, 30, 300, 20),
			box("c", 24, 60, 300, 20),
			box("d", d, 90, 300, 20),
		)
	}
	assert.Empty(t, said(at(24, 24)))
	assert.Equal(t, []string{"a off-margin"}, said(at(0, 24)))
	assert.Empty(t, said(at(24, 400)), "what stands at the end of its line keeps the margin")
	assert.Empty(t, said(at(0, 500)), "where the parts are of two minds there is no margin")
}

func TestCopiesAreCountedAndTheWorstIsTold(t *testing.T) {
	src := `{"id":"r","type":"grid","children":[{"id":"c","type":"sorrel-card","repeat":{"model":"beds"},"text":"x"}]}`
	records := []sample.Record{{"id": "1", "name": "a"}, {"id": "2", "name": "b"}}
	found := judge(
		t,
		src,
		records,
		box("r", 0, 0, 1000, 400),
		box("c#1", 0, 0, 1010, 50),
		box("c#2", 0, 60, 1090, 50),
	)
	assert.Equal(
		t,
		[]geometry.Finding{
			{Element: "c", Kind: "out-of-page", By: 90, Times: 2, Message: "card sticks out of the page by 90 px", Key: "c#2"},
		},
		found,
	)
	assert.Equal(t, []string{"r nothing"}, said(judge(t, src, nil, box("r", 0, 0, 1000, 0))))
}

func TestATableThatSaysThatItIsEmptyShowsSomething(t *testing.T) {
	with := `{"id":"r","type":"sorrel-table","props":{"label":"x"},"children":[{"id":"h","type":"sorrel-column","slot":"columns","text":"Name"},{"id":"w","type":"sorrel-row","repeat":{"model":"beds"},"children":[{"id":"c","type":"sorrel-cell"}]},{"id":"e","type":"sorrel-empty-state","slot":"empty","props":{"heading":"None"}}]}`
	without := `{"id":"r","type":"sorrel-table","props":{"label":"x"},"children":[{"id":"h","type":"sorrel-column","slot":"columns","text":"Name"},{"id":"w","type":"sorrel-row","repeat":{"model":"beds"},"children":[{"id":"c","type":"sorrel-cell"}]}]}`
	assert.Empty(t, judge(t, with, nil))
	assert.Equal(t, []string{"r nothing"}, said(judge(t, without, nil)))
}

// Boxes come from a browser that others' code runs in: whatever they hold is judged.
func TestAnyBoxesAreJudged(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		number := rapid.OneOf(rapid.Float64(), rapid.Just(math.NaN()), rapid.Just(math.Inf(1)))
		var boxes []geometry.Box
		for _, key := range []string{"r", "a", "t", "b", "nobody"} {
			boxes = append(
				boxes,
				box(key, number.Draw(rt, "x"), number.Draw(rt, "y"), number.Draw(rt, "w"), number.Draw(rt, "h")),
			)
		}
		for _, f := range judge(t, page, nil, boxes...) {
			if f.Element == "nobody" || math.IsNaN(f.By) {
				rt.Fatalf("%+v", f)
			}
		}
	})
}

// What is pressed is large enough to be hit; what is only read may be small.
func TestSmallTargetsAreTold(t *testing.T) {
	src := `{"id":"r","type":"section","children":[{"id":"b","type":"sorrel-button","text":"Go"},{"id":"t","type":"sorrel-text","text":"Go"}]}`
	at := func(size float64) []string {
		return said(judge(t, src, nil, box("r", 0, 0, 400, 200), box("b", 0, 0, 90, size), box("t", 0, 60, 90, 12)))
	}
	assert.Equal(t, []string{"b small-target"}, at(23))
	assert.Empty(t, at(24))
}
