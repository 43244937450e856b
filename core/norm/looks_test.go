package norm_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
	"ubiquant/core/norm"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
	"ubiquant/internal/testkit"
)

// words is a catalog with one component for headings and texts alike, as many libraries have it.
type words struct{ kit.Catalog }

func (w words) Component(typ string) (*kit.Component, bool) {
	switch typ {
	case "ac-words":
	case "ac-press":
		return (&kit.Component{Tag: typ, Title: "button", Role: "action", Slots: []kit.Slot{{Text: true}}, Props: []kit.Prop{
			{Name: "color", Type: kit.Enum, Values: []string{"plain", "error", "strong"}},
			{Name: "type", Type: kit.Enum, Values: []string{"submit", "button"}},
		}}).Seal(), true
	default:
		return w.Catalog.Component(typ)
	}
	return &kit.Component{Tag: typ, Title: "words", Slots: []kit.Slot{{Text: true}}, Props: []kit.Prop{
		{Name: "variant", Type: kit.Enum, Values: []string{"h4", "h5", "body1", "body2"}, Default: "body1"},
		{Name: "weight", Type: kit.Enum, Values: []string{"plain", "strong"}, Default: "plain"},
	}}, true
}

func judgeWords(t *testing.T, n int, kind screen.DocKind, variants func(i int) (heading, text string)) *norm.Norms {
	k := words{testkit.Sorrel(t)}
	ix := usage.New(k)
	for i := range n {
		h, b := variants(i)
		ix.Put(&screen.Document{
			Kind: kind, ID: fmt.Sprintf("d%d", i), Title: "D", Route: fmt.Sprintf("/d%d", i), App: "a",
			Root: testkit.Tree(t, fmt.Sprintf(`{"id":"r","type":"section","children":[
				{"id":"h","type":"ac-words","text":"Lime walk","props":{"variant":%q}},
				{"id":"b","type":"ac-words","text":"Planted in spring","props":{"variant":%q}},
				{"id":"c","type":"ac-words","text":"Watered in autumn","props":{"variant":%q}}]}`, h, b, b)),
		})
	}
	return norm.New(ix, k, nil)
}

// Where one component is a heading by some values and a text by others, headings are compared with
// headings and texts with texts.
func TestHeadingsAreNotComparedWithTexts(t *testing.T) {
	few := func(i int) (string, string) {
		if i == 4 || i == 11 {
			return "h5", "body2"
		}
		return "body2", "body2" // most have no heading
	}
	assert.Empty(t, about(judgeWords(t, 30, screen.ScreenDoc, few).Strays(), "variant"))
	one := judgeWords(t, 30, screen.ScreenDoc, func(i int) (string, string) {
		if i == 7 {
			return "h4", "body2"
		}
		return "h5", "body2"
	}).Strays()
	require.Len(t, one, 1)
	assert.Equal(t, []string{"screen:d7", "h", "h5"}, []string{one[0].Doc, one[0].Element, one[0].Norm})
	assert.Contains(t, one[0].Why, "a heading")
	text := judgeWords(t, 30, screen.ScreenDoc, func(i int) (string, string) {
		if i == 7 {
			return "h5", "body1"
		}
		return "h5", "body2"
	}).Strays()
	require.NotEmpty(t, text)
	assert.Equal(t, "body2", text[0].Norm)
}

// Pieces are evidence as screens are, and are called what they are.
func TestPiecesAreEvidence(t *testing.T) {
	list := judgeWords(t, 30, screen.PieceDoc, func(i int) (string, string) {
		if i == 7 {
			return "h4", "body2"
		}
		return "h5", "body2"
	}).Strays()
	require.Len(t, list, 1)
	assert.Equal(t, norm.Departs, list[0].Certainty)
	assert.Contains(t, list[0].Why, "29 of 30 pieces")
	assert.NotContains(t, list[0].Why, "so few")
}

// What a setting says and the screen's own name says, too, is what the screen is for.
func TestASettingThatTheScreenIsAboutIsMeant(t *testing.T) {
	k := words{testkit.Sorrel(t)}
	ix := usage.New(k)
	put := func(i int, look, at string) {
		ix.Put(&screen.Document{
			Kind: screen.ScreenDoc, ID: fmt.Sprintf("d%d", i), Title: "D", Route: at, App: "a",
			Root: testkit.Tree(t, fmt.Sprintf(`{"id":"r","type":"section","children":[{"id":"h","type":"ac-words","text":"Lime walk","props":{"variant":%q}}]}`, look)),
		})
	}
	for i := range 30 {
		put(i, "body2", fmt.Sprintf("/d%d", i))
	}
	put(7, "body1", "/harvest")
	n := norm.New(ix, k, nil)
	assert.Len(t, about(n.Strays(), "variant"), 1)
	// Called otherwise it is another matter, at once.
	put(7, "body1", "/harvest/body1")
	n.Update()
	assert.Empty(t, about(n.Strays(), "variant"))
	assert.Len(t, about(n.Leans(), "variant"), 1)
	assert.Equal(t, norm.New(ix, k, nil).Leans(), n.Leans())
	put(7, "body1", "/harvest")
	n.Update()
	assert.Len(t, about(n.Strays(), "variant"), 1)
}

// A chip in red beside grey ones says that something is wrong there, and is no slip of the hand; one of
// another shape is.
func TestAToneThatSaysAStateIsMeant(t *testing.T) {
	k := testkit.Sorrel(t)
	ix := usage.New(k)
	put := func(i int, props string) {
		ix.Put(&screen.Document{
			Kind: screen.ScreenDoc, ID: fmt.Sprintf("d%d", i), Title: "D", Route: fmt.Sprintf("/d%d", i), App: "a",
			Root: testkit.Tree(t, `{"id":"r","type":"section","children":[{"id":"c","type":"sorrel-chip","text":"Pruned","props":{`+props+`}}]}`),
		})
	}
	for i := range 30 {
		put(i, `"shape":"round"`)
	}
	put(7, `"shape":"round","tone":"bad"`)
	put(9, `"shape":"square"`)
	n := norm.New(ix, k, nil)
	assert.Equal(t, []string{"screen:d9"}, about(n.Strays(), "shape"))
	assert.Empty(t, about(n.Strays(), "tone"))
	assert.Len(t, about(n.Leans(), "tone"), 1, "it is not hidden")
}

// What stands out in a text is meant to; of a text of another size that is not as sure.
func TestAnEmphasisIsMeant(t *testing.T) {
	k := words{testkit.Sorrel(t)}
	ix := usage.New(k)
	for i := range 30 {
		look, weight := "body2", "plain"
		switch i {
		case 7:
			weight = "strong"
		case 9:
			look = "body1"
		}
		ix.Put(&screen.Document{
			Kind: screen.ScreenDoc, ID: fmt.Sprintf("d%d", i), Title: "D", Route: fmt.Sprintf("/d%d", i), App: "a",
			Root: testkit.Tree(t, fmt.Sprintf(`{"id":"r","type":"section","children":[{"id":"h","type":"ac-words","text":"Lime walk","props":{"variant":%q,"weight":%q}}]}`, look, weight)),
		})
	}
	n := norm.New(ix, k, nil)
	assert.Equal(t, []string{"screen:d9"}, about(n.Strays(), "variant"))
	assert.Empty(t, about(n.Strays(), "weight"))
	assert.Equal(t, []string{"screen:d7"}, about(n.Leans(), "weight"), "it is not hidden")
}

// What departs on another screen, too, does not stand as usual everywhere else.
func TestEverywhereElseIsSaidOfOneAlone(t *testing.T) {
	for departing, says := range map[int]string{1: "body2 everywhere else, on 30 screens", 2: "mostly body2, on each of 30 screens"} {
		k := words{testkit.Sorrel(t)}
		ix := usage.New(k)
		for i := range 30 {
			more := "body2"
			if i < departing {
				more = "body1"
			}
			ix.Put(&screen.Document{
				Kind: screen.ScreenDoc, ID: fmt.Sprintf("d%d", i), Title: "D", Route: fmt.Sprintf("/d%d", i), App: "a",
				Root: testkit.Tree(t, fmt.Sprintf(`{"id":"r","type":"section","children":[
					{"id":"a","type":"ac-words","text":"Lime walk","props":{"variant":"body2"}},
					{"id":"b","type":"ac-words","text":"Pond side","props":{"variant":"body2"}},
					{"id":"c","type":"ac-words","text":"North bank","props":{"variant":%q}}]}`, more)),
			})
		}
		list := norm.New(ix, k, nil).Strays()
		require.Len(t, list, departing)
		assert.Contains(t, list[0].Why, says)
	}
}

// What a text of no other purpose is set in follows from what it says, where a team sets texts in more
// than one step; a step that nobody else takes is as likely a slip as any other.
func TestStepsOfTexts(t *testing.T) {
	judge := func(small int) *norm.Norms {
		return judgeWords(t, 60, screen.ScreenDoc, func(i int) (string, string) {
			if i%12 == 0 && i < 12*small {
				return "h5", "body1"
			}
			return "h5", "body2"
		})
	}
	assert.NotEmpty(t, about(judge(1).Strays(), "variant"))
	assert.Empty(t, about(judge(4).Strays(), "variant"))
	assert.NotEmpty(t, about(judge(4).Leans(), "variant"), "they are not hidden")
}

// judgePress judges 30 screens of one button each; at is the one on screen 7.
func judgePress(t *testing.T, usual, at string) *norm.Norms {
	k := words{testkit.Sorrel(t)}
	ix := usage.New(k)
	for i := range 30 {
		button := usual
		if i == 7 {
			button = at
		}
		ix.Put(&screen.Document{
			Kind: screen.ScreenDoc, ID: fmt.Sprintf("d%d", i), Title: "D", Route: fmt.Sprintf("/d%d", i), App: "a",
			Root: testkit.Tree(t, `{"id":"r","type":"section","children":[{"id":"b","type":"ac-press",`+button+`}]}`),
		})
	}
	return norm.New(ix, k, nil)
}

// That something takes away for good is told by its words, not by what most others do.
func TestDangerStraysByWordsAlone(t *testing.T) {
	for _, c := range []struct {
		usual, at string
		strays    bool
	}{
		{`"text":"Prune","props":{"color":"plain"}`, `"text":"Delete","props":{"color":"error"}`, false},
		{`"text":"Prune","props":{"color":"plain"}`, `"text":{"expr":"record.verb"},"props":{"color":"error"}`, false},
		{`"text":"Save","props":{"color":"plain"}`, `"text":"Save","props":{"color":"error"}`, true},
		{`"text":"Delete","props":{"color":"plain"}`, `"text":"Delete","props":{"color":"strong"}`, true},
		{`"text":"Delete","props":{"color":"error"}`, `"text":"Prune","props":{"color":"plain"}`, false},
		{`"text":"Delete","props":{"color":"error"}`, `"text":"Delete it","props":{"color":"plain"}`, true},
	} {
		n := judgePress(t, c.usual, c.at)
		assert.Equal(t, c.strays, len(about(n.Strays(), "color")) == 1, c.at)
		assert.Len(t, about(append(n.Strays(), n.Leans()...), "color"), 1, "it is not hidden: %s", c.at)
	}
}

// A button that is said to send nothing must not lose that; one that does not say so may send the form.
func TestAButtonThatSendsNothingMaySaySo(t *testing.T) {
	plain, said := `"text":"Prune"`, `"text":"Prune","props":{"type":"button"}`
	assert.Empty(t, about(judgePress(t, plain, said).Strays(), "type"))
	assert.Len(t, about(judgePress(t, said, plain).Strays(), "type"), 1)
	assert.Len(t, about(judgePress(t, `"text":"Prune","props":{"type":"submit"}`, said).Strays(), "type"), 1)
}
