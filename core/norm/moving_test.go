package norm_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/norm"
	"ubiquant/core/screen"
)

// aged are forms made one a day, the first old of them with one emphasis and the rest with another.
func aged(t testing.TB, n, old int) []*screen.Document {
	docs := forms(t, n, func(i int) string {
		if i < old {
			return "strong"
		}
		return "soft"
	})
	for i, d := range docs {
		d.Made = fmt.Sprintf("2026-%02d-%02d", 1+i/28, 1+i%28)
	}
	return docs
}

func moving(n *norm.Norms, prop string) *norm.Moving {
	for _, q := range n.Questions() {
		if q.Prop == prop {
			return q.Moving
		}
	}
	return nil
}

// Where newer screens do it one way and older ones another, it is one question, however far it
// got, and nobody is accused of being new.
func TestAMoveIsAQuestionWithItsProgress(t *testing.T) {
	for _, fresh := range []int{4, 9, 18} {
		n := judge(t, aged(t, 22, 22-fresh)...)
		m := moving(n, "emphasis")
		require.NotNil(t, m, "%d of 22", fresh)
		assert.Equal(t, norm.Moving{
			To: "soft", Words: "soft", Since: fmt.Sprintf("2026-01-%02d", 22-fresh+1), Done: fresh, Of: 22,
		}, *m)
		assert.Empty(t, about(n.Strays(), "emphasis"))
	}
}

// Screens of unknown age, and answers that time does not tell apart, move nowhere.
func TestWhatTimeDoesNotTellApartMovesNowhere(t *testing.T) {
	undated := aged(t, 22, 13)
	for _, d := range undated {
		d.Made = ""
	}
	assert.Nil(t, moving(judge(t, undated...), "emphasis"))
	oneDay := aged(t, 22, 13)
	for _, d := range oneDay {
		d.Made = "2026-05-05"
	}
	assert.Nil(t, moving(judge(t, oneDay...), "emphasis"))

	told := 0
	for seed := range uint64(200) {
		docs := aged(t, 22, 13)
		rng := rand.New(rand.NewPCG(seed, 1))
		rng.Shuffle(len(docs), func(i, j int) { docs[i].Made, docs[j].Made = docs[j].Made, docs[i].Made })
		if moving(judge(t, docs...), "emphasis") != nil {
			told++
		}
	}
	assert.LessOrEqual(t, told, 2, "of 200 workspaces in which time says nothing")
}

// A few slips on the way are no reason to miss the move, and change nothing for anybody else.
func TestAMoveStandsSomeSlips(t *testing.T) {
	docs := aged(t, 30, 16)
	slip := formDoc(t, docs[3].ID, "soft", "") // an old one is new already
	slip.Made = docs[3].Made
	docs[3] = slip
	m := moving(judge(t, docs...), "emphasis")
	require.NotNil(t, m)
	assert.Equal(t, 15, m.Done)
}

// What is told of a move does not depend on the order in which screens come.
func TestAMoveDoesNotDependOnTheOrderOfScreens(t *testing.T) {
	want := moving(judge(t, aged(t, 22, 13)...), "emphasis")
	rapid.Check(t, func(rt *rapid.T) {
		docs := rapid.Permutation(aged(t, 22, 13)).Draw(rt, "order")
		require.Equal(rt, want, moving(judge(t, docs...), "emphasis"))
	})
}
