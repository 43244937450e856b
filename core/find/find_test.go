package find_test

import (
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/find"
	"ubiquant/internal/testkit"
)

// queries are what people type, with what they may mean.
func queries(t *testing.T) (list [][2]string) {
	src, err := os.ReadFile("testdata/queries.tsv")
	require.NoError(t, err)
	for line := range strings.Lines(string(src)) {
		if query, meant, ok := strings.Cut(strings.TrimSpace(line), "\t"); ok && query[0] != '#' {
			list = append(list, [2]string{query, meant})
		}
	}
	return list
}

func TestEverydayWordsFindWhatIsMeantAmongTheFirstThree(t *testing.T) {
	k := testkit.Sorrel(t)
	ix := find.New(find.Kit(k, k.Components, func(string) int { return 0 }))
	list := queries(t)
	require.GreaterOrEqual(t, len(list), 120)
	hits := 0
	for _, q := range list {
		got := []string{}
		for _, m := range ix.Search(q[0], 3) {
			got = append(got, m.ID)
		}
		if slices.ContainsFunc(strings.Split(q[1], ","), func(id string) bool { return slices.Contains(got, id) }) {
			hits++
		} else {
			t.Logf("%q finds %v, meant is %s", q[0], got, q[1])
		}
	}
	share := float64(hits) / float64(len(list))
	t.Logf("%d of %d queries, %.0f %%", hits, len(list), 100*share)
	assert.GreaterOrEqual(t, share, 0.95)
}

func TestEveryWordMustMatchInAnyOrderAndTheReasonIsTold(t *testing.T) {
	k := testkit.Sorrel(t)
	entries := find.Kit(k, k.Components, func(string) int { return 0 })
	a, b := find.Search(entries, "header page", 1), find.Search(entries, "page header", 1)
	require.Len(t, a, 1)
	assert.Equal(t, a[0].ID, b[0].ID)
	assert.Empty(t, b[0].Why, "the name itself matched")
	popup := find.Search(entries, "popup", 1)
	assert.Equal(t, "also called “popup”", popup[0].Why)
	assert.Empty(t, find.Search(entries, "zebra", 0))
	part := find.Search(entries, "confirm zebra window", 0)
	require.NotEmpty(t, part, "a word that says nothing here does not hide what the others mean")
	assert.Equal(t, "sorrel-dialog", part[0].ID)
	assert.Len(t, find.Search(entries, "", 5), 5, "nothing typed shows everything")
}

func TestUseBreaksTies(t *testing.T) {
	field := []find.Field{{What: "name", Text: "same", Weight: 1}}
	got := find.Search(
		[]find.Entry{{ID: "rare", Title: "a", Fields: field}, {ID: "common", Title: "b", Uses: 50, Fields: field}},
		"same",
		0,
	)
	assert.Equal(t, "common", got[0].ID)
}
