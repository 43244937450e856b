package code_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/code"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
)

func demo(t testing.TB) *live.Live {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	return live.Open(w, testkit.Sorrel(t), "2026-11-23")
}

func TestEveryDocumentReadsBackAsItWasWritten(t *testing.T) {
	l := demo(t)
	for _, d := range l.W.Docs {
		back, err := code.Read([]byte(code.Write(d.Root)), d.Root, l.Cat)
		require.NoError(t, err, d.ID)
		assert.True(t, screen.Equal(d.Root, back), d.ID)
		assert.Empty(t, screen.Between(d.Root, back), d.ID)
	}
}

func TestCodeIsEditedAsPeopleWriteIt(t *testing.T) {
	l := demo(t)
	now := testkit.Tree(
		t,
		`{"id":"r","type":"stack","children":[{"id":"a","type":"sorrel-text","text":"Oak","props":{"tone":"quiet"}},{"id":"b","type":"sorrel-button","text":"Go","props":{"to":"/"}}]}`,
	)
	src := code.Write(now)
	assert.Equal(
		t,
		"<stack key=\"r\">\n  <sorrel-text tone=\"quiet\" key=\"a\">Oak</sorrel-text>\n  <sorrel-button to=\"/\" key=\"b\">Go</sorrel-button>\n</stack>\n",
		src,
	)
	src = strings.Replace(src, `tone="quiet" key="a">Oak`, `key="a">{{ size(tickets) }}`, 1)
	src = strings.Replace(
		src,
		`</stack>`,
		`<row gap="3" gap@640="5"><column span="6"><sorrel-chip if="true">New</sorrel-chip></column></row></stack>`,
		1,
	)
	then, err := code.Read([]byte(src), now, l.Cat)
	require.NoError(t, err)
	root, _, err := screen.ApplyAll(now, screen.Between(now, then), l.Cat)
	require.NoError(t, err)
	a, _ := root.Find("a")
	assert.Equal(t, screen.Value{Kind: screen.Expr, Text: "size(tickets)"}, a.Text)
	assert.Empty(t, a.Props)
	row := root.Children[2]
	assert.Equal(t, "row", row.Type)
	assert.Equal(t, "New", row.Children[0].Children[0].Text.Text)
	v, _ := row.Prop("gap@640")
	assert.Equal(t, "5", v.Text)
}

func TestWhatCannotBeReadSaysTheLine(t *testing.T) {
	l := demo(t)
	now := testkit.Tree(t, `{"id":"r","type":"stack"}`)
	for src, want := range map[string]string{
		"<stack key=\"r\">\n  <nothing></nothing></stack>":                     `line 2: the kit has no component "nothing"`,
		"<stack key=\"r\">\n<sorrel-text colour=\"x\">a</sorrel-text></stack>": `line 2: text has no setting "colour"`,
		"<stack key=\"r\">\n\n<row>\n</stack>":                                 "line 4: </stack> does not close <row> of line 3",
		"<stack key=\"r\"><stack key=\"r\"></stack></stack>":                   `the key "r" stood on line 1`,
		"<row></row>":                          "it stays",
		"":                                     "there is no element",
		"words":                                "outside of any element",
		"<stack key=\"r\">":                    "is not closed",
		"<stack key=\"r\"></stack></row>":      "closes nothing",
		"<stack key=\"r\"></stack><row></row>": "belongs inside",
		"<stack key=\"r\"><sorrel-slider min=\"low\"></sorrel-slider></stack>": `min of slider is a number, not "low"`,
	} {
		_, err := code.Read([]byte(src), now, l.Cat)
		var own *code.Error
		require.ErrorAs(t, err, &own, src)
		assert.ErrorContains(t, err, want)
	}
}

func FuzzRead(f *testing.F) {
	l := demo(f)
	for _, d := range l.W.Docs[:6] {
		f.Add(code.Write(d.Root))
	}
	now := l.W.Docs[2].Root
	f.Fuzz(func(t *testing.T, src string) {
		then, err := code.Read([]byte(src), now, l.Cat)
		if err != nil {
			return
		}
		again, err := code.Read([]byte(code.Write(then)), then, l.Cat)
		require.NoError(t, err)
		require.True(t, screen.Equal(then, again))
	})
}
