package server_test

import (
	"encoding/json"
	"fmt"
	"io"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

type cellsAnswer struct {
	Change *struct{ Seq int64 }
	Wrong  []struct{ Field, Value, Reason string }
	Put    []map[string]any
	Fresh  []string
}

type recordsAnswer struct {
	Records  []map[string]any
	Problems []struct{ Record, Field, Reason string }
	Names    map[string][]struct{ ID, Name string }
}

// What a builder does with records, one after the other on one server.
func TestTheSamples(t *testing.T) {
	r := start(t)
	noor, lise := signIn(t, r, "noor"), signIn(t, r, "lise")
	cell := func(record, field, text string) map[string]string {
		return map[string]string{"record": record, "field": field, "text": text}
	}

	t.Run("texts become values, all or none", func(t *testing.T) {
		var out cellsAnswer
		write := map[string]any{
			"set":   "usual",
			"title": "t",
			"cells": []any{
				cell("b1", "area", "12,5"),
				cell("b1", "name", "Ridge"),
				cell("+1", "name", "New"),
				cell("+1", "soil", "CLAY"),
			},
			"fresh": 2,
			"after": "b1",
		}
		assert.Equal(t, 403, lise.post("/api/samples/beds/cells", write, nil))
		require.Equal(t, 200, noor.post("/api/samples/beds/cells", write, &out))
		require.NotNil(t, out.Change)
		var now recordsAnswer
		require.Equal(t, 200, lise.get("/api/samples/beds?set=usual", &now))
		assert.Equal(t, []any{"Ridge", 12.5}, []any{now.Records[0]["name"], now.Records[0]["area"]})
		assert.Equal(
			t,
			out.Fresh,
			[]string{now.Records[1]["id"].(string), now.Records[2]["id"].(string)},
			"new ones stand where they were put",
		)
		assert.Equal(t, "clay", now.Records[1]["soil"])
		assert.NotEmpty(t, now.Problems, "what is required and missing is told")
		write["cells"] = []any{cell("b1", "name", "Lost"), cell("b1", "area", "wide")}
		write["fresh"] = 0
		require.Equal(t, 200, noor.post("/api/samples/beds/cells", write, &out))
		assert.Equal(t, "“wide” is not a number", out.Wrong[0].Reason)
		require.Equal(t, 200, lise.get("/api/samples/beds?set=usual", &now))
		assert.Equal(t, "Ridge", now.Records[0]["name"])
		code, why := noor.detail(
			"POST",
			"/api/samples/beds/cells",
			map[string]any{"set": "edge", "title": "t", "cells": []any{cell("beds-long", "name", "x")}},
		)
		assert.Equal(t, 422, code)
		assert.Contains(t, why, "looked at, not changed")
		assert.Equal(t, 404, noor.post("/api/samples/nothing/cells", write, nil))
		require.Equal(t, 200, noor.post(fmt.Sprintf("/api/changes/%d/undo", newest(t, noor)), map[string]any{}, nil))
		require.Equal(t, 200, lise.get("/api/samples/beds?set=usual", &now))
		assert.NotEqual(t, "Ridge", now.Records[0]["name"])
	})

	t.Run("references are named by what they are called", func(t *testing.T) {
		var out cellsAnswer
		require.Equal(
			t,
			200,
			noor.post(
				"/api/samples/tickets/cells",
				map[string]any{"set": "usual", "title": "t", "cells": []any{cell("t1", "assignee", "noor abadi")}},
				&out,
			),
		)
		require.NotNil(t, out.Change, "%v", out.Wrong)
		var now recordsAnswer
		require.Equal(t, 200, lise.get("/api/samples/tickets?set=usual", &now))
		for _, v := range now.Names["volunteers"] {
			if v.ID == now.Records[0]["assignee"] {
				assert.Equal(t, "Noor Abadi", v.Name)
			}
		}
	})

	t.Run("rows are read into a model, and what does not fit is told", func(t *testing.T) {
		var out struct {
			Fields  []string
			Records []map[string]any
			Errors  int
			Wrong   []struct {
				Row           int
				Field, Reason string
			}
			Guesses []struct{ Field struct{ Name, Type string } }
		}
		require.Equal(
			t,
			200,
			lise.post(
				"/api/samples/read",
				map[string]any{
					"text":  "Name,Soil,Area,Moisture,Else\nA,clay,3,dry,x\nB,cheese,3,dry,x",
					"model": "beds",
					"set":   "usual",
				},
				&out,
			),
		)
		assert.Equal(t, []string{"name", "soil", "area", "moisture", ""}, out.Fields)
		assert.Len(t, out.Records, 1)
		assert.Equal(t, 2, out.Wrong[0].Row)
		assert.Contains(t, out.Wrong[0].Reason, "none of loam")
		code, why := lise.detail("POST", "/api/samples/read", map[string]any{"text": "a,b\n1,2,3"})
		assert.Equal(t, 422, code)
		assert.Contains(t, why, "line 2")
	})

	t.Run("records are made up the same from the same seed", func(t *testing.T) {
		var one, two recordsAnswer
		order := map[string]any{"model": "specimens", "set": "usual", "count": 40, "seed": 5}
		require.Equal(t, 200, lise.post("/api/samples/generate", order, &one))
		require.Equal(t, 200, lise.post("/api/samples/generate", order, &two))
		assert.Equal(t, one.Records, two.Records)
		assert.Len(t, one.Records, 40)
		code, why := lise.detail(
			"POST",
			"/api/samples/generate",
			map[string]any{"model": "specimens", "set": "usual", "count": 1_000_000},
		)
		assert.Equal(t, 422, code)
		assert.Contains(t, why, "up to 20000")
	})

	t.Run("what nothing speaks of is told", func(t *testing.T) {
		unused := func() (ids []string) {
			var all struct {
				Models []struct {
					ID     string
					Unused bool
				}
			}
			require.Equal(t, 200, lise.get("/api/samples", &all))
			for _, m := range all.Models {
				if m.Unused {
					ids = append(ids, m.ID)
				}
			}
			return ids
		}
		before := unused()
		assert.NotContains(t, before, "tickets", "screens show it")
		assert.NotContains(t, before, "beds", "records of others refer to it")
		query := map[string]any{"id": "lateOnes", "name": "Late ones", "from": "tickets", "group": []string{"state"}}
		require.Equal(t, 200, noor.post("/api/changes", map[string]any{"change": map[string]any{"title": "late", "steps": []any{map[string]any{"do": "query", "query": query}}}}, nil))
		assert.Equal(t, append(before, "lateOnes"), unused())
		require.Equal(t, 200, noor.post("/api/changes", map[string]any{"change": map[string]any{"title": "no late", "steps": []any{map[string]any{"do": "unquery", "query": query}}}}, nil))
		assert.Equal(t, before, unused())
	})

	t.Run("a change of a model is looked at before it is taken", func(t *testing.T) {
		var all struct{ Models []map[string]any }
		require.Equal(t, 200, lise.get("/api/samples", &all))
		for _, m := range all.Models {
			if m["id"] != "tickets" {
				continue
			}
			without := func(gone string) (fields []any) {
				for _, f := range m["fields"].([]any) {
					if f := f.(map[string]any); f["name"] != gone {
						fields = append(fields, f)
					}
				}
				return fields
			}
			fields := without("assignee")
			var out struct {
				Problem string
				Records int
				Gone    []string
				Uses    []struct{ Doc, Words string }
			}
			require.Equal(
				t,
				200,
				lise.post(
					"/api/models/preview",
					map[string]any{"model": map[string]any{"id": "tickets", "name": "Ticket", "fields": fields}},
					&out,
				),
			)
			assert.Equal(t, []string{"assignee"}, out.Gone)
			assert.Equal(t, 14, out.Records)
			assert.NotEmpty(t, out.Uses)
			require.Equal(
				t,
				200,
				lise.post(
					"/api/models/preview",
					map[string]any{"model": map[string]any{"id": "tickets", "name": "", "fields": fields}},
					&out,
				),
			)
			assert.Contains(t, out.Problem, "no name")
			// What something is computed of stays.
			require.Equal(
				t,
				200,
				lise.post(
					"/api/models/preview",
					map[string]any{
						"model": map[string]any{"id": "tickets", "name": "Ticket", "fields": without("due")},
					},
					&out,
				),
			)
			assert.Contains(t, out.Problem, `late of tickets: Ticket has no field "due"`)
		}
	})

	t.Run("records leave as CSV and JSON", func(t *testing.T) {
		res := lise.do("GET", "/api/samples/orders/export?as=csv&set=usual", nil, nil)
		text, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
		assert.True(
			t,
			strings.HasPrefix(string(text), "id,supplier,day,state,total,items,perItem,duty\n"),
			string(text[:60]),
		)
		assert.Contains(t, res.Header.Get("Content-Disposition"), "orders.csv")
		res = lise.do("GET", "/api/samples/orders/export?as=json&set=usual", nil, nil)
		var list []map[string]any
		require.NoError(t, json.NewDecoder(res.Body).Decode(&list))
		require.NoError(t, res.Body.Close())
		assert.Len(t, list, 7)
	})

	t.Run("a written cell brings what is computed of it, and only that", func(t *testing.T) {
		var out struct {
			Put      []map[string]any
			Wrong    []struct{ Reason string }
			Problems []struct{ Record, Field, Reason string }
		}
		write := func(cells ...map[string]string) {
			t.Helper()
			out.Put, out.Problems, out.Wrong = nil, nil, nil
			require.Equal(
				t,
				200,
				noor.post(
					"/api/samples/orders/cells",
					map[string]any{"set": "usual", "title": "x", "cells": cells},
					&out,
				),
			)
		}
		write(
			map[string]string{"record": "o1", "field": "total", "text": "90"},
			map[string]string{"record": "o1", "field": "perItem", "text": "1"},
		)
		require.Len(t, out.Put, 1)
		assert.EqualValues(
			t,
			3000,
			out.Put[0]["perItem"],
			"by three items; what was written over it counts for nothing",
		)
		write(map[string]string{"record": "o1", "field": "items", "text": "0"})
		require.Len(t, out.Put, 1)
		assert.NotContains(t, out.Put[0], "perItem")
		require.NotEmpty(t, out.Problems)
		assert.Contains(t, out.Problems[0].Reason, "nothing comes of record.total / record.items here")
		write(
			map[string]string{"record": "o1", "field": "items", "text": "3"},
			map[string]string{"record": "o1", "field": "duty", "text": "CHF 12.5"},
		)
		assert.EqualValues(t, 1250, out.Put[0]["duty"])
		assert.Empty(t, out.Problems)
	})

	t.Run("an expression is looked at while it is typed", func(t *testing.T) {
		var out struct {
			Model, Record, Type, Result, Problem string
			Records                              int
			Completions                          []struct{ Text, Put string }
			Met                                  []struct{ Source string }
		}
		look := func(element, prop, source string) {
			t.Helper()
			require.Equal(
				t,
				200,
				lise.get(
					"/api/docs/screen/tickets/expression?element="+element+"&prop="+prop+"&at="+fmt.Sprint(
						len(source),
					)+"&source="+url.QueryEscape(
						source,
					),
					&out,
				),
			)
		}
		var doc struct {
			Root json.RawMessage
		}
		require.Equal(t, 200, lise.get("/api/docs/screen/tickets", &doc))
		chip := elementOf(t, doc.Root, "sorrel-chip")
		look(chip, "tone", "record.sta")
		assert.Equal(t, "tickets", out.Model)
		assert.Equal(t, "state", out.Completions[0].Text)
		look(chip, "text", "")
		assert.Equal(t, "record.state", out.Met[0].Source, "as on another screen")
		look(chip, "tone", "record.state")
		assert.Contains(t, out.Problem, "is none of")
		look(chip, "text", "record.title + '!'")
		assert.True(t, strings.HasSuffix(out.Result, "!"))
		look(chip, "if", "record.title")
		assert.Equal(t, "this is a text, wanted is yes/no", out.Problem)
		look(chip, "text", "record.nothing")
		assert.NotEmpty(t, out.Problem)
		assert.Empty(t, out.Result)
	})

	t.Run("ten thousand records come in at once", func(t *testing.T) {
		var b strings.Builder
		b.WriteString("name,soil,area,moisture\n")
		for i := range 10_000 {
			fmt.Fprintf(&b, "Bed %d,clay,%d,dry\n", i, i)
		}
		began := time.Now()
		var out struct{ Records []map[string]any }
		require.Equal(
			t,
			200,
			noor.post("/api/samples/read", map[string]any{"text": b.String(), "model": "beds", "set": "usual"}, &out),
		)
		require.Len(t, out.Records, 10_000)
		require.Equal(
			t,
			200,
			noor.post(
				"/api/changes",
				map[string]any{
					"change": map[string]any{
						"title": "in",
						"steps": []any{
							map[string]any{
								"do":   "records",
								"rows": map[string]any{"set": "usual", "model": "beds", "put": out.Records},
							},
						},
					},
				},
				nil,
			),
		)
		t.Logf("10,000 records read and kept in %v", time.Since(began))
		var now recordsAnswer
		require.Equal(t, 200, lise.get("/api/samples/beds?set=usual", &now))
		assert.Len(t, now.Records, 10_008)
	})
}

// newest is the newest change that is not undone.
func newest(t *testing.T, p *person) int64 {
	var h struct{ Changes []struct{ Seq int64 } }
	require.Equal(t, 200, p.get("/api/changes?most=1", &h))
	return h.Changes[0].Seq
}

// elementOf is the id of the first element of a type.
func elementOf(t *testing.T, root json.RawMessage, typ string) string {
	t.Helper()
	var e struct {
		ID, Type string
		Children []json.RawMessage
	}
	require.NoError(t, json.Unmarshal(root, &e))
	if e.Type == typ {
		return e.ID
	}
	for _, c := range e.Children {
		if id := elementOf(t, c, typ); id != "" {
			return id
		}
	}
	return ""
}
