package expr_test

import (
	"fmt"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/expr"
	"ubiquant/core/sample"
	"ubiquant/internal/testkit"
)

func computedModels(fields ...sample.Field) map[string]*sample.Model {
	items := &sample.Model{
		ID:   "items",
		Name: "Item",
		Fields: append(
			[]sample.Field{
				{Name: "price", Type: sample.Money},
				{Name: "count", Type: sample.Number},
				{Name: "order", Type: sample.Ref, Model: "orders"},
			},
			fields...),
	}
	orders := &sample.Model{
		ID:   "orders",
		Name: "Order",
		Fields: []sample.Field{
			{Name: "share", Type: sample.Number},
			{Name: "half", Type: sample.Number, Compute: "record.share / 2"},
		},
	}
	return map[string]*sample.Model{"items": items, "orders": orders}
}

// What is computed is made after what it is made of, is missing where it cannot be, and
// leaves the records that are kept as they are.
func TestFieldsAreComputedOfEachOther(t *testing.T) {
	models := computedModels(
		sample.Field{Name: "left", Type: sample.Money, Compute: "record.total * find(orders, record.order).half"},
		sample.Field{Name: "total", Type: sample.Money, Compute: "record.price * record.count"},
		sample.Field{Name: "late", Type: sample.YesNo, Compute: "'2026-11-01' < today"},
	)
	kept := map[string][]sample.Record{
		"items": {
			{"id": "a", "price": 333.0, "count": 3.0, "order": "o"},
			{"id": "b", "price": 5.0},
			{"id": "c", "price": 5.0, "count": 2.0, "order": "gone", "total": 77.0},
		},
		"orders": {{"id": "o", "share": 0.5}},
	}
	got, missing := expr.Computed(models, kept, "2026-11-26")
	assert.NotEmpty(t, missing, "what cannot be computed is told")
	assert.Equal(t, []sample.Record{
		{"id": "a", "price": 333.0, "count": 3.0, "order": "o", "total": 999.0, "left": 250.0, "late": true},
		{"id": "b", "price": 5.0, "late": true},
		{"id": "c", "price": 5.0, "count": 2.0, "order": "gone", "total": 10.0, "late": true},
	}, got["items"], "amounts are whole; a kept value counts for nothing")
	assert.Equal(t, 0.25, got["orders"][0]["half"])
	assert.NotContains(t, kept["items"][0], "total")
	assert.NotContains(t, kept["orders"][0], "half")
	again, _ := expr.Computed(models, got, "2026-11-26")
	assert.Equal(t, got, again, "computed again it is the same")
}

// Long lists are looked up, short ones walked; of two records with one id both take the
// first.
func TestRecordsAreFoundTheSameHoweverLongTheList(t *testing.T) {
	p, err := expr.Compile(
		"find(orders, record.order).share",
		expr.Scope{Record: computedModels()["items"], Models: computedModels()},
	)
	require.NoError(t, err)
	for _, n := range []int{1, 24, 25, 200} {
		list := []sample.Record{{"id": "first", "share": 0.0}}
		for i := range n {
			list = append(
				list,
				sample.Record{"id": "o", "share": float64(i + 1)},
				sample.Record{"id": fmt.Sprint("x", i), "share": float64(-i)},
			)
		}
		index := &expr.Index{}
		for id, want := range map[string]any{"o": 1.0, "first": 0.0, fmt.Sprint("x", n-1): float64(1 - n), "gone": nil} {
			for _, ix := range []*expr.Index{nil, index} {
				got, err := p.Eval(
					&expr.Env{
						Record: sample.Record{"id": "i", "order": id},
						Lists:  map[string][]sample.Record{"orders": list},
						Index:  ix,
					},
				)
				require.NoError(t, err)
				assert.Equal(t, want, got, "%s among %d", id, n)
			}
		}
	}
}

func TestWhatCannotBeComputedSaysWhy(t *testing.T) {
	for why, f := range map[string]sample.Field{
		"order of items is a text, and what is computed is a number": {Name: "order", Type: sample.Text, Compute: "record.count"},
		"has no field \"cuont\"":                                     {Name: "x", Type: sample.Number, Compute: "record.cuont"},
		"items’s x is computed of itself":                            {Name: "x", Type: sample.Number, Compute: "record.x + 1"},
		"there is no record":                                         {Name: "x", Type: sample.Number, Compute: "outer.x"},
		"cannot be calculated together":                              {Name: "x", Type: sample.Money, Compute: "record.dollars + record.yen"},
	} {
		models := computedModels(
			sample.Field{Name: "dollars", Type: sample.Money, Currency: "USD"},
			sample.Field{Name: "yen", Type: sample.Money, Currency: "JPY"},
		)
		m := models["items"]
		if at, ok := m.Field(f.Name); ok {
			*at = f
		} else {
			m.Fields = append(m.Fields, f)
		}
		err := expr.CheckComputed(models)
		if why == "there is no record" {
			assert.Error(t, err)
			continue
		}
		assert.ErrorContains(t, err, why)
	}
	assert.NoError(t, expr.CheckComputed(computedModels()))
}

// The currencies that are delivered are those of the tool.
func TestTheRuntimeKnowsTheSameCurrencies(t *testing.T) {
	for _, c := range sample.Currencies {
		want := c.Code + ": ['" + c.Sign + "', " + string(rune('0'+c.Decimals)) + "]"
		assert.Contains(t, expr.Runtime, want)
	}
	assert.Equal(
		t,
		len(sample.Currencies),
		strings.Count(strings.Split(strings.Split(expr.Runtime, "const currencies")[1], "}")[0], "['"),
	)
}

// The runtime is plain TypeScript that checks by itself.
func TestTheRuntimeTypeChecks(t *testing.T) {
	if testing.Short() {
		t.Skip("runs Node")
	}
	tsc := filepath.Join(testkit.Root(), "web", "node_modules", ".bin", "tsc")
	check := exec.Command(
		tsc,
		"--noEmit",
		"--strict",
		"--noUncheckedIndexedAccess",
		"--target",
		"ES2022",
		"--module",
		"ESNext",
		filepath.Join(testkit.Root(), "core", "expr", "runtime.ts"),
	)
	check.Dir = t.TempDir() // so that no settings or types of others count
	out, err := check.CombinedOutput()
	require.NoError(t, err, string(out))
}

// A text that is twice the one before, field after field, is bounded, and it is said where.
func TestTextsThatDoubleAreBounded(t *testing.T) {
	m := &sample.Model{ID: "seeds", Name: "Seed", Fields: []sample.Field{{Name: "f0", Type: sample.Text}}}
	for i := range 200 {
		m.Fields = append(m.Fields, sample.Field{
			Name: fmt.Sprintf("f%d", i+1), Type: sample.Text, Compute: fmt.Sprintf("record.f%d + record.f%d", i, i),
		})
	}
	models := map[string]*sample.Model{"seeds": m}
	require.NoError(t, expr.CheckComputed(models))
	var records []sample.Record
	for i := range 2_000 {
		records = append(records, sample.Record{"id": fmt.Sprintf("s%d", i), "f0": strings.Repeat("x", 50)})
	}
	out, missing := expr.Computed(models, map[string][]sample.Record{"seeds": records}, "2026-11-28")
	total := 0
	for _, r := range out["seeds"] {
		for _, v := range r {
			text, _ := v.(string)
			total += len(text)
			assert.LessOrEqual(t, len(text), 100_000)
		}
	}
	assert.Less(t, total, 70<<20)
	require.NotEmpty(t, missing)
	assert.Equal(t, "seeds", missing[0].Model)
	assert.Positive(t, missing[0].Records)
	assert.ErrorContains(t, missing[0].Why, "longer than 64 MB")
	_, missing = expr.Computed(models, map[string][]sample.Record{"seeds": records[:1]}, "2026-11-28")
	assert.ErrorContains(t, missing[0].Why, "accepted: up to 100000 bytes")
}
