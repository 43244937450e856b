package sample_test

import (
	"encoding/json"
	"math"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/sample"
)

func trees() *sample.Model {
	return &sample.Model{ID: "trees", Name: "Tree", Fields: []sample.Field{
		{
			Name:     "latin",
			Type:     sample.Text,
			Required: true,
		}, {Name: "note", Type: sample.LongText}, {Name: "height", Type: sample.Number, Required: true, Least: "2", Most: "30"}, {Name: "price", Type: sample.Money, Required: true},
		{
			Name:     "planted",
			Type:     sample.Date,
			Required: true,
		}, {Name: "opens", Type: sample.Time, Required: true}, {Name: "shown", Type: sample.YesNo, Required: true}, {Name: "state", Type: sample.Choice, Required: true, Choices: []string{"thriving", "ailing"}},
		{
			Name: "picture",
			Type: sample.Picture,
		}, {Name: "page", Type: sample.Link, Required: true}, {Name: "bed", Type: sample.Ref, Model: "beds", Required: true}, {Name: "code", Type: sample.Text, Required: true, Unique: true}}}
}

func order(m *sample.Model, seed uint64, n int) sample.Order {
	return sample.Order{
		Model: m,
		Seed:  seed,
		Count: n,
		Today: "2026-11-23",
		IDs:   func(string) []string { return []string{"b1", "b2"} },
	}
}

func TestTheSameSeedGivesTheSameRecordsAndAllAreWithinLimits(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m, seed, n := trees(), rapid.Uint64().Draw(t, "seed"), rapid.IntRange(0, 60).Draw(t, "n")
		one, err := sample.Generate(order(m, seed, n))
		if err != nil {
			t.Fatal(err)
		}
		two, _ := sample.Generate(order(m, seed, n))
		a, _ := json.Marshal(one)
		b, _ := json.Marshal(two)
		if string(a) != string(b) || len(one) != n {
			t.Fatal("the same order gives other records")
		}
		for _, r := range one {
			if err := m.Check(r); err != nil {
				t.Fatal(err)
			}
		}
		if wrong := m.CheckAll(one, func(_, id string) bool { return id == "b1" || id == "b2" }); len(wrong) > 0 {
			t.Fatal(wrong[0])
		}
		// One field more changes none of the others.
		more := trees()
		more.Fields = append([]sample.Field{{Name: "extra", Type: sample.Text, Required: true}}, more.Fields...)
		wide, _ := sample.Generate(order(more, seed, n))
		for i := range wide {
			delete(wide[i], "extra")
		}
		if c, _ := json.Marshal(wide); string(c) != string(a) {
			t.Fatal("a field more changes the others")
		}
	})
}

func TestMakersAreHeldToTheirSettings(t *testing.T) {
	o := order(trees(), 7, 400)
	o.Makers = map[string]sample.Maker{
		"latin": {
			Kind:  "words",
			Least: 3,
			Most:  5,
		}, "height": {Kind: "number", Least: 5, Most: 6, Decimals: 2}, "price": {Kind: "money", Least: 10, Most: 1000, Spread: "low"}, "planted": {Kind: "date", Least: -10, Most: 0},
		"state": {
			Kind:    "choice",
			Weights: []float64{9, 1},
		}, "note": {Kind: "paragraph", Least: 10, Most: 12, Missing: 0.5}, "picture": {Kind: "picture", Ratio: "square"}, "code": {Kind: "pattern", Pattern: "T-###"},
	}
	list, err := sample.Generate(o)
	require.NoError(t, err)
	cheap, ailing, noted := 0, 0, 0
	for _, r := range list {
		n := len(strings.Fields(r["latin"].(string)))
		assert.True(t, n >= 3 && n <= 5, r["latin"])
		h := r["height"].(float64)
		assert.True(t, h >= 5 && h <= 6 && math.Abs(h*100-math.Round(h*100)) < 1e-6, h)
		assert.True(t, r["planted"].(string) >= "2026-11-13" && r["planted"].(string) <= "2026-11-23")
		assert.Regexp(t, `^T-\d{3}$`, r["code"])
		if r["price"].(float64) < 50500 {
			cheap++
		}
		if r["state"] == "ailing" {
			ailing++
		}
		if _, ok := r["note"]; ok {
			noted++
		}
		if p, ok := r["picture"].(string); ok {
			svg, err := url.PathUnescape(strings.TrimPrefix(p, "data:image/svg+xml,"))
			require.NoError(t, err)
			assert.Contains(t, svg, `viewBox="0 0 120 120"`)
		}
	}
	assert.Greater(t, cheap, 280, "most are near the least")
	assert.InDelta(t, 40, ailing, 25)
	assert.InDelta(t, 200, noted, 50)
	o.Makers["code"] = sample.Maker{Kind: "pattern", Pattern: "X"}
	_, err = sample.Generate(o)
	assert.NoError(t, err, "texts that would be the same are told apart")
	o.Makers["height"] = sample.Maker{Kind: "number", Least: 3, Most: 2}
	_, err = sample.Generate(o)
	assert.ErrorContains(t, err, "the least, 3, is more than the most, 2")
	o.Makers["height"] = sample.Maker{Kind: "colour"}
	_, err = sample.Generate(o)
	assert.ErrorContains(t, err, `"colour" cannot be made`)
	one := &sample.Model{
		ID:     "m",
		Fields: []sample.Field{{Name: "on", Type: sample.YesNo, Unique: true, Required: true}},
	}
	_, err = sample.Generate(order(one, 1, 3))
	assert.ErrorContains(t, err, "is to be unique")
}

// The edge set is looked at once and then kept: what it holds breaks layouts on purpose.
func TestTheEdgeSetIsAsReviewed(t *testing.T) {
	m := trees()
	for _, s := range sample.Derive([]sample.Model{*m}, sample.Set{Records: map[string][]sample.Record{"trees": {{"id": "1"}}}}) {
		if s.ID != "edge" {
			continue
		}
		kinds := map[string]bool{}
		for _, r := range s.Records["trees"] {
			require.NoError(t, m.Check(r))
			kinds[r["state"].(string)] = true
		}
		assert.Equal(
			t,
			map[string]bool{"thriving": true, "ailing": true, "unheard of": true},
			kinds,
			"every choice, and one that nobody knows",
		)
		got, err := json.MarshalIndent(s.Records, "", " ")
		require.NoError(t, err)
		path := filepath.Join("testdata", "edge.golden")
		if os.Getenv("RENEW") != "" {
			require.NoError(t, os.MkdirAll("testdata", 0o755))
			require.NoError(t, os.WriteFile(path, got, 0o644))
		}
		want, err := os.ReadFile(path)
		require.NoError(t, err)
		assert.Equal(t, string(want), string(got))
	}
}

func TestManyRecordsReferToEachOther(t *testing.T) {
	s, err := sample.Many(
		[]sample.Model{
			*trees(),
			{ID: "beds", Name: "Bed", Fields: []sample.Field{{Name: "name", Type: sample.Text, Required: true}}},
		},
		500,
		"2026-11-23",
	)
	require.NoError(t, err)
	beds := map[string]bool{}
	for _, r := range s.Records["beds"] {
		beds[r.ID()] = true
	}
	assert.Len(t, beds, 500)
	for _, r := range s.Records["trees"] {
		assert.True(t, beds[r["bed"].(string)])
	}
}

// Lists are made of what they hold already, none twice; people are called as people are.
func TestWhatIsMadeUpFollowsWhatIsThere(t *testing.T) {
	m := &sample.Model{
		ID:   "volunteers",
		Name: "Volunteer",
		Fields: []sample.Field{
			{Name: "name", Type: sample.Text, Required: true},
			{Name: "days", Type: sample.Texts, Required: true},
			{Name: "beds", Type: sample.Refs, Model: "beds", Required: true},
		},
	}
	assert.Equal(t, "person", m.Suggest(&m.Fields[0]).Kind)
	beds := &sample.Model{ID: "beds", Name: "Bed", Fields: m.Fields}
	assert.Equal(t, "title", beds.Suggest(&beds.Fields[0]).Kind)
	week := []string{"Monday", "Tuesday", "Friday"}
	made, err := sample.Generate(
		sample.Order{
			Model: m,
			Seed:  5,
			Count: 60,
			Today: "2026-11-26",
			Met:   map[string][]string{"days": week},
			IDs:   func(string) []string { return []string{"b1", "b2"} },
			Makers: map[string]sample.Maker{
				"days": {Kind: "list", Least: 1, Most: 3},
				"beds": {Kind: "references", Least: 1, Most: 9},
			},
		},
	)
	require.NoError(t, err)
	sizes := map[int]bool{}
	for _, r := range made {
		days := r["days"].(sample.List).Items()
		sizes[len(days)] = true
		assert.Subset(t, week, days)
		assert.Len(t, slices.Compact(slices.Sorted(slices.Values(days))), len(days), "none twice")
		assert.LessOrEqual(t, len(r["beds"].(sample.List).Items()), 2, "no more than there are")
		assert.Contains(t, r["name"], " ")
	}
	assert.Len(t, sizes, 3)
}
