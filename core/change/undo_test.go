package change_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit/opened"
)

// history is what was taken, with what takes it back, as the log has it.
type history struct {
	t     *testing.T
	l     *live.Live
	log   []change.Logged
	backs []change.Change
}

func (h *history) take(author string, undoes int64, steps ...change.Step) int64 {
	h.t.Helper()
	taken, err := h.l.Take(change.Change{Title: author + "'s", Steps: steps})
	require.NoError(h.t, err)
	h.log = append(h.log, change.Logged{
		Seq: int64(len(h.log) + 1), Undoes: undoes, Author: author, Change: taken.Applied})
	h.backs = append(h.backs, taken.Inverse)
	return int64(len(h.log))
}

func (h *history) undo(author string, seq int64) int64 {
	h.t.Helper()
	return h.take(author, seq, h.backs[seq-1].Steps...)
}

// clash is who would be overwritten, were a change taken back: empty for nobody.
func (h *history) clash(seq int64) string {
	back := h.backs[seq-1]
	if by, ok := change.Clash(back, seq, h.log[seq:]); ok {
		return by.Author
	}
	var since []change.Change
	for i := len(h.backs) - 1; i >= int(seq); i-- {
		since = append(since, h.backs[i])
	}
	_, element := change.Overwritten(back, func(doc string) *screen.Document {
		d, err := h.l.Was(doc, since)
		require.NoError(h.t, err)
		return d
	}, func(doc string) *screen.Document { d, _ := h.l.W.Doc(doc); return d })
	return element
}

func edit(edits ...screen.Edit) change.Step { return &change.Edit{Doc: "screen:sign-in", Edits: edits} }

func TestTakingBackOverwritesNobody(t *testing.T) {
	l := opened.Demo(t)
	h := &history{t: t, l: l}
	id := opened.At(t, l, "screen:sign-in", "sorrel-link")
	form := opened.At(t, l, "screen:sign-in", "sorrel-form")
	say := func(words string) change.Step {
		return edit(screen.Edit{Op: screen.SetText, ID: id, Value: screen.Lit(words)})
	}
	first := h.take("noor", 0, say("Lost it?"))
	assert.Empty(t, h.clash(first))
	other := h.take("ida", 0, edit(screen.Edit{Op: screen.Rename, ID: id, Name: "lost"}))
	assert.Empty(t, h.clash(first), "another thing of the same element is not in the way")
	second := h.take("ida", 0, say("Forgotten your password?"))
	assert.Equal(t, id, h.clash(first), "Ida's words would be gone")
	assert.Empty(t, h.clash(second))
	back := h.undo("ida", second)
	assert.Empty(t, h.clash(first), "she took hers back")
	h.undo("ida", back)
	assert.Equal(t, id, h.clash(first), "and did it again")
	assert.Empty(t, h.clash(other))

	put := h.take("noor", 0, edit(screen.Edit{Op: screen.Insert, Parent: form,
		Tree: &screen.Element{ID: "n1", Type: "sorrel-field", Children: []*screen.Element{}}}))
	assert.Empty(t, h.clash(put))
	h.take("ida", 0, edit(screen.Edit{Op: screen.Rename, ID: "n1", Name: "mail"}))
	assert.Equal(t, "n1", h.clash(put), "somebody works in what would be taken away")
}

func TestTakingBackRecordsAndRulesOverwritesNobody(t *testing.T) {
	l := opened.Demo(t)
	h := &history{t: t, l: l}
	record := func(name string) change.Step {
		r := sample.Record{}
		for k, v := range l.W.Sets[0].Records["beds"][0] {
			r[k] = v
		}
		r["name"] = name
		return &change.Records{Rows: change.Rows{Set: "usual", Model: "beds", Put: []sample.Record{r}}}
	}
	first := h.take("noor", 0, record("One"))
	elsewhere := h.take("tam", 0, &change.Records{Rows: change.Rows{
		Set: "usual", Model: "beds", Drop: []string{l.W.Sets[0].Records["beds"][1].ID()}}})
	assert.Empty(t, h.clash(first))
	h.take("ida", 0, record("Two"))
	assert.Equal(t, "ida", h.clash(first))
	assert.Empty(t, h.clash(elsewhere))
	h.take("lise", 0, &change.Records{Rows: change.Rows{Set: "usual", Model: "beds", Whole: true,
		All: l.W.Sets[0].Records["beds"][:2]}})
	assert.Equal(t, "lise", h.clash(elsewhere), "all of them were put anew")

	house := h.take("ida", 0, &change.PutHouse{House: audit.HouseRule{ID: "a", Spot: "s", Prop: "p", Reason: "r"}})
	assert.Empty(t, h.clash(house))
	made := h.take("noor", 0, &change.Create{Document: &screen.Document{
		Kind: screen.ScreenDoc, ID: "new", Title: "New", Route: "/new", App: l.W.Apps[0].ID,
		Root: &screen.Element{ID: "root", Type: "stack"}}})
	assert.Empty(t, h.clash(made))
	h.take("ida", 0, &change.Edit{Doc: "screen:new", Edits: []screen.Edit{{Op: screen.Rename, ID: "root", Name: "all"}}})
	assert.Equal(t, "ida", h.clash(made), "a screen that others work on is not discarded")
}
