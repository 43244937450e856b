package change_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/opened"
)

// A field that gets another name is followed wherever an expression asks a record for it: within a
// filter, named in a text, over a reference; and a field of the same name of another model stays.
func TestARenamedFieldIsFollowedThroughTheExpression(t *testing.T) {
	l := opened.Demo(t)
	says := map[string]string{
		"one":   `text(size(tickets.filter(t, t.title.contains('title') && find(volunteers, t.assignee).name != '')))`,
		"two":   `joined(values(tickets.filter(x, has(x.title)), 'title'), ', ')`,
		"three": `text(size(rounds.filter(r, r.name == 'title'))) + controls.title`,
		"four":  `text(size(rounds.filter(r, size(tickets.filter(t, t.title == r.name)) > 0)))`,
	}
	want := map[string]string{
		"one":   `text(size(tickets.filter(t, t.what.contains('title') && find(volunteers, t.assignee).name != '')))`,
		"two":   `joined(values(tickets.filter(x, has(x.what)), 'what'), ', ')`,
		"three": says["three"],
		"four":  `text(size(rounds.filter(r, size(tickets.filter(t, t.what == r.name)) > 0)))`,
	}
	root := opened.Doc(t, l, "screen:beds").Root.ID
	var edits []screen.Edit
	for id, source := range says {
		el := testkit.Tree(t, `{"id":"`+id+`","type":"sorrel-text"}`)
		el.Text = screen.Value{Kind: screen.Expr, Text: source}
		edits = append(edits, screen.Edit{Op: screen.Insert, Parent: root, Tree: el})
	}
	opened.Take(t, l, &change.Edit{Doc: "screen:beds", Edits: edits})
	m := *l.W.ModelMap()["tickets"]
	m.Fields = append(m.Fields[:0:0], m.Fields...)
	m.Fields[0].Name = "what"
	taken := opened.Take(t, l, &change.PutModel{Model: m, Renames: map[string]string{"title": "what"}})
	texts := func() map[string]string {
		out := map[string]string{}
		for id := range says {
			el, _ := opened.Doc(t, l, "screen:beds").Root.Find(id)
			out[id] = el.Text.Text
		}
		return out
	}
	assert.Equal(t, want, texts())
	_, err := l.Take(taken.Inverse)
	require.NoError(t, err)
	assert.Equal(t, says, texts())
}
