package resolve_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	whole "ubiquant/core/model"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
)

func pieceDoc(t *testing.T, id, tree string) *screen.Document {
	return &screen.Document{Kind: screen.PieceDoc, ID: id, Title: id, Root: testkit.Tree(t, tree)}
}

// A named use lends what the controls of its piece hold, at any depth; the document's own names come
// first, and what a use sets is what its control holds at first.
func TestANamedUseLendsItsControls(t *testing.T) {
	inner := pieceDoc(t, "box", `{"id":"r","type":"stack","children":[{"id":"q","type":"sorrel-text-input","name":"words","props":{"value":"oak"}}]}`)
	inner.Props = []screen.PieceProp{{Name: "first", Element: "q", Prop: "value"}}
	outer := pieceDoc(t, "panel", `{"id":"r","type":"stack","children":[{"id":"b","type":"piece:box","name":"find"}]}`)
	k := testkit.Sorrel(t)
	cat := whole.NewCatalog(k, &whole.Workspace{Docs: []*screen.Document{inner, outer}})
	names := resolve.NamesOf(testkit.Tree(t, `{"id":"r","type":"section","children":[
		{"id":"p","type":"piece:panel","name":"left"},
		{"id":"x","type":"piece:box","name":"right","props":{"first":"elm"}},
		{"id":"y","type":"piece:box"},
		{"id":"z","type":"piece:box","name":"own"},
		{"id":"w","type":"sorrel-text-input","name":"own-words"},
		{"id":"v","type":"piece:box","name":"many","repeat":{"model":"beds"}}]}`), cat)
	keys := map[string]string{}
	for name, c := range names.Controls {
		keys[name] = fmt.Sprint(c.Key, " ", c.Usual)
	}
	assert.Equal(t, map[string]string{"leftFindWords": "p/b/words oak", "rightWords": "x/words elm", "ownWords": "ownWords "}, keys)
}

// Pieces in pieces in pieces lend no more than can be looked through.
func TestWhatPiecesLendIsBounded(t *testing.T) {
	docs := []*screen.Document{pieceDoc(t, "p0", `{"id":"r","type":"sorrel-text-input","name":"q"}`)}
	for i := 1; i <= 15; i++ {
		docs = append(docs, pieceDoc(t, fmt.Sprintf("p%d", i), fmt.Sprintf(
			`{"id":"r","type":"stack","children":[{"id":"a","type":"piece:p%d","name":"a"},{"id":"b","type":"piece:p%d","name":"b"}]}`, i-1, i-1)))
	}
	cat := whole.NewCatalog(testkit.Sorrel(t), &whole.Workspace{Docs: docs})
	done := make(chan *resolve.Names, 1)
	go func() { done <- resolve.NamesOf(testkit.Tree(t, `{"id":"u","type":"piece:p15","name":"all"}`), cat) }()
	select {
	case names := <-done:
		assert.LessOrEqual(t, len(names.Controls), 2_000)
	case <-time.After(time.Minute):
		require.Fail(t, "it goes through all of them")
	}
}
