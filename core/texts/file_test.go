package texts_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/screen"
	"ubiquant/core/texts"
)

func TestFilesOfTextsAreReadAsWritten(t *testing.T) {
	lines := []texts.Line{{Key: "screens.a.title", Is: "A <b> & “c”\n\"d\""}, {Key: "b", Is: "{n, plural, one {#} other {#}}"}}
	got, err := texts.ReadFile(texts.Write(lines))
	require.NoError(t, err)
	assert.Equal(t, lines, got)
	assert.Equal(t, "{}\n", string(texts.Write(nil)))
	got, err = texts.ReadFile([]byte("\xef\xbb\xbf" + `{"screens": {"a": {"title": "x"}, "b": "y"}, "c.d": "z"}`))
	require.NoError(t, err)
	assert.Equal(t, []texts.Line{{"screens.a.title", "x"}, {"screens.b", "y"}, {"c.d", "z"}}, got)
	for bad, why := range map[string]string{
		`[]`: "no object of texts", `{"a": 1}`: "a is no text", `{"a": ["b"]}`: "a is no text", `{"a": "b"`: "EOF", `{"a":"b"} {}`: "stands behind",
		`{"a": {"b": "c"}, "a.b": "d"}`: "a.b stands twice", "": "EOF", strings.Repeat(`{"a":`, 30): "is no text",
	} {
		_, err := texts.ReadFile([]byte(bad))
		assert.ErrorContains(t, err, why, bad)
	}
}

func TestAFileIsHeldAgainstTheTexts(t *testing.T) {
	d := over(screen.Value{Kind: screen.Expr, Text: "'Due ' + day(record.due)"})
	d.Root.Children[0].Props = []screen.Prop{{Name: "errorText", Value: screen.Lit("Lost")}, {Name: "hint", Value: screen.Lit("Late")}}
	list, _ := texts.List(input(t, d))
	at := "screens.loans.button-2."
	said := []texts.Said{
		{Language: "de", Key: at + "hint", Is: "Spät", Of: "Late"}, {Language: "de", Key: at + "errorText", Is: "Weg", Of: "Gone"},
		{Language: "fr", Key: "screens.loans.title", Is: "Prêts", Of: "Loans"},
	}
	got := texts.Take(list, "de", said, []texts.Line{
		{at + "hint", "Spät"}, {at + "errorText", "Verloren"}, {at + "text", "Fällig am {when}"}, {"screens.loans.title", "Loans"}, {"screens.gone.title", "Weg"},
	})
	assert.Equal(t, []texts.Said{
		{"de", "screens.loans.title", "Loans", "Loans"}, {"de", at + "errorText", "Verloren", "Lost"},
	}, got.Said)
	assert.Equal(t, []int{1, 1, 1, 1, 1}, []int{got.New, got.Other, got.Same, got.Written, got.Missing})
	assert.Equal(t, []string{"screens.gone.title"}, got.Unknown)
	require.Len(t, got.Wrong, 1)
	assert.Equal(t, texts.Problem{Key: at + "text", Message: "there is no value when; known: due", Stays: true}, got.Wrong[0])
	// What is said again as it was is said of what is written now.
	got = texts.Take(list, "de", said, []texts.Line{{at + "errorText", "Weg"}})
	assert.Equal(t, []texts.Said{{"de", at + "errorText", "Weg", "Lost"}}, got.Said)
}

func TestEntriesSayWhatIsMissingAndWhatChanged(t *testing.T) {
	d := over(screen.Lit("Loans"))
	d.Root.Children[0].Props = []screen.Prop{{Name: "hint", Value: screen.Lit("Late")}}
	list, _ := texts.List(input(t, d))
	entries := texts.Entries(list, texts.Beside(list, "de", []texts.Said{
		{Language: "de", Key: "screens.loans.title", Is: "Leihen", Of: "Loans"},
		{Language: "de", Key: "screens.loans.button-2.hint", Is: "{x}", Of: "Later"},
	}))
	require.Len(t, entries, 3)
	assert.Equal(t, []string{"Leihen", "", "{x}"}, []string{entries[0].Is, entries[1].Is, entries[2].Is})
	assert.Equal(t, "Leihen", entries[1].Like, "the same words elsewhere are said so")
	assert.Equal(t, "Later", entries[2].Was)
	assert.Contains(t, entries[2].Wrong, "no value x")
}
