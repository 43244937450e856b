package wsfile_test

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/docs"
	"ubiquant/internal/testkit"
	"ubiquant/internal/testkit/opened"
)

func TestErrorsSayWhatAndWhere(t *testing.T) {
	whole := func(parts string) string {
		return `{"format":"ubiquant.workspace/1","applications":[{"id":"a","name":"A"}],` + parts + `}`
	}
	element := `{"id":"r","type":"stack"}`
	cases := map[string]struct{ src, want string }{
		"no format":        {`{}`, "does not say that it is a workspace"},
		"other format":     {`{"format":"other/2"}`, "/format"},
		"unknown key":      {whole(`"screans":[]`), "accepted: format, name, kit"},
		"no id":            {whole(`"screens":[{"root":` + element + `}]`), "no id"},
		"element, no type": {whole(`"screens":[{"id":"s","root":{"id":"r"}}]`), "has no type"},
		"element key": {
			whole(`"screens":[{"id":"s","root":{"id":"r","type":"stack","childs":[]}}]`),
			"/screens/0/root/childs",
		},
		"bad value": {
			whole(`"screens":[{"id":"s","root":{"id":"r","type":"stack","props":{"gap":null}}}]`),
			"cannot be a value",
		},
		"same id twice": {
			whole(
				`"screens":[{"id":"s","application":"a","route":"/","root":{"id":"r","type":"stack","children":[{"id":"r","type":"stack"}]}}]`,
			),
			`"r" stands twice`,
		},
		"route taken": {
			whole(
				`"screens":[{"id":"s","application":"a","route":"/","root":` + element + `},{"id":"t","application":"a","route":"/","root":` + element + `}]`,
			),
			"taken by s",
		},
		"no such shell": {
			whole(`"screens":[{"id":"s","application":"a","route":"/","shell":"x","root":` + element + `}]`),
			`no shell "x"`,
		},
		"no outlet": {whole(`"shells":[{"id":"s","root":` + element + `}]`), "0 outlets"},
		"record field": {
			whole(
				`"models":[{"id":"m","name":"M","fields":[{"name":"n","type":"number"}]}],"samples":[{"id":"u","records":{"m":[{"id":"1","n":"x"}]}}]`,
			),
			"not a number",
		},
		"record model": {whole(`"samples":[{"id":"u","records":{"m":[]}}]`), `no model "m"`},
		"cut off":      {`{"format":"ubiquant.workspace/1","screens":[`, "line 1"},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			_, err := wsfile.Read([]byte(c.src))
			require.Error(t, err)
			assert.Contains(t, err.Error(), c.want)
		})
	}
}

func TestTheDemoKeepsThePublishedSchema(t *testing.T) {
	c := jsonschema.NewCompiler()
	doc, err := jsonschema.UnmarshalJSON(strings.NewReader(docs.WorkspaceSchema))
	require.NoError(t, err)
	require.NoError(t, c.AddResource("workspace.schema.json", doc))
	schema, err := c.Compile("workspace.schema.json")
	require.NoError(t, err)
	demo, err := jsonschema.UnmarshalJSON(bytes.NewReader(testkit.Demo(t)))
	require.NoError(t, err)
	assert.NoError(t, schema.Validate(demo))
	bad, _ := jsonschema.UnmarshalJSON(strings.NewReader(`{"format":"ubiquant.workspace/1","screens":[{"id":"s"}]}`))
	assert.Error(t, schema.Validate(bad))
}

func TestChangesAreAllOrNothingAndUndoneAsOne(t *testing.T) {
	l := opened.Demo(t)
	before := wsfile.Write(l.W)
	set := func(doc, id, value string) change.Step {
		return &change.Edit{
			Doc:   doc,
			Edits: []screen.Edit{{Op: screen.Set, ID: id, Prop: "emphasis", Value: screen.Lit(value)}},
		}
	}
	_, err := l.Take(
		change.Change{
			Title: "half",
			Steps: []change.Step{
				set("screen:volunteers", "volunteers-new", "strong"),
				set("screen:new-bed", "nowhere", "strong"),
			},
		},
	)
	var step *change.StepError
	require.ErrorAs(t, err, &step)
	assert.Equal(t, 2, step.Number)
	assert.Equal(t, string(before), string(wsfile.Write(l.W)), "nothing of it was taken")

	taken, err := l.Take(
		change.Change{
			Title: "both",
			Steps: []change.Step{
				set("screen:volunteers", "volunteers-new", "strong"),
				set("screen:new-bed", "new-bed-save", "strong"),
			},
		},
	)
	require.NoError(t, err)
	assert.Len(t, l.Strays(), 8)
	_, err = l.Take(taken.Inverse)
	require.NoError(t, err)
	assert.Len(t, l.Strays(), 10)
	v, _ := l.W.Doc("screen:volunteers")
	el, _ := v.Root.Find("volunteers-new")
	_, isSet := el.Prop("emphasis")
	assert.False(t, isSet)
}

func TestChangesSurviveTheLog(t *testing.T) {
	l := opened.Demo(t)
	c := change.Change{Title: "x", Steps: []change.Step{
		&change.PutHouse{
			House: audit.HouseRule{
				ID:     "h",
				Spot:   "sorrel-form",
				Words:  "any form",
				Prop:   "actions",
				Value:  "start",
				Reason: "because",
				By:     "ida",
				When:   "2026-11-23",
			},
		},
		&change.Edit{Doc: "screen:today", Edits: []screen.Edit{{Op: screen.Remove, ID: "today-2"}}},
		&change.Remove{Doc: "screen:archive"},
	}}
	taken, err := l.Take(c)
	require.NoError(t, err)
	for _, c := range []change.Change{taken.Applied, taken.Inverse} {
		back, err := change.Read(change.Write(c), true)
		require.NoError(t, err)
		assert.Equal(t, string(change.Write(c)), string(change.Write(back)))
	}
	_, err = change.Read(change.Write(taken.Inverse), false)
	assert.ErrorContains(t, err, "only the log restores")
	inverse, _ := change.Read(change.Write(taken.Inverse), true)
	_, err = l.Take(inverse)
	require.NoError(t, err)
	assert.Len(t, l.Questions(), 3)
}

func TestEditsOnAnOlderRevisionAreRebasedOrRefused(t *testing.T) {
	l := opened.Demo(t)
	doc, _ := l.W.Doc("screen:volunteers")
	base := doc.Revision
	edit := func(e screen.Edit) error {
		_, err := l.Take(
			change.Change{
				Title: "x",
				Steps: []change.Step{
					&change.Edit{Doc: "screen:volunteers", Base: base, Edits: []screen.Edit{e}},
				},
			},
		)
		return err
	}
	require.NoError(
		t,
		edit(screen.Edit{Op: screen.Set, ID: "volunteers-new", Prop: "emphasis", Value: screen.Lit("bare")}),
	)
	assert.NoError(
		t,
		edit(screen.Edit{Op: screen.Set, ID: "volunteers-new", Prop: "size", Value: screen.Lit("s")}),
		"another prop is another matter",
	)
	err := edit(screen.Edit{Op: screen.Set, ID: "volunteers-new", Prop: "emphasis", Value: screen.Lit("strong")})
	var refusal *screen.Refusal
	require.ErrorAs(t, err, &refusal)
	assert.Contains(t, refusal.Reason, "meanwhile")
}

func TestByDifferenceEqualsFromScratch(t *testing.T) {
	l := opened.Demo(t)
	_, err := l.Take(change.Change{Title: "x", Steps: []change.Step{
		&change.Edit{
			Doc: "screen:volunteers",
			Edits: []screen.Edit{
				{Op: screen.Set, ID: "volunteers-new", Prop: "emphasis", Value: screen.Lit("strong")},
			},
		},
		&change.Remove{
			Doc: "screen:archive",
		}, &change.PutHouse{House: audit.HouseRule{ID: "h", Spot: "sorrel-chip", Words: "any chip", Prop: "shape", Value: "round", Reason: "because"}},
	}})
	require.NoError(t, err)
	fresh := live.Open(l.W, testkit.Sorrel(t), l.Today)
	a, _ := json.Marshal([]any{l.Strays(), l.Questions(), l.Engine.Findings()})
	b, _ := json.Marshal([]any{fresh.Strays(), fresh.Questions(), fresh.Engine.Findings()})
	assert.JSONEq(t, string(b), string(a))
}

func TestScreensAreRenamedRemovedAndRestored(t *testing.T) {
	l := opened.Demo(t)
	meta := func(title, route string) error {
		_, err := l.Take(
			change.Change{
				Title: "meta",
				Steps: []change.Step{
					&change.Meta{
						Doc:      "screen:archive",
						Document: &screen.Document{Title: title, Route: route, Shell: "staff", Owner: "ida"},
					},
				},
			},
		)
		return err
	}
	require.NoError(t, meta("Attic", "/attic"))
	d, _ := l.W.Doc("screen:archive")
	assert.Equal(t, []string{"Attic", "/attic", "ida", "ops"}, []string{d.Title, d.Route, d.Owner, d.App})
	assert.ErrorContains(t, meta("Attic", "/tickets"), "taken by the screen Work tickets")
	assert.ErrorContains(t, meta("", "/attic"), "a title is needed")
	assert.ErrorContains(t, meta("Attic", "attic"), "does not begin with /")
	_, err := l.Take(
		change.Change{Title: "gone", Steps: []change.Step{&change.Remove{Doc: "shell:staff"}}},
	)
	assert.ErrorContains(t, err, "is in use by")
	taken, err := l.Take(
		change.Change{Title: "gone", Steps: []change.Step{&change.Remove{Doc: "screen:archive"}}},
	)
	require.NoError(t, err)
	open, _ := l.Findings()
	for _, f := range open {
		assert.NotEqual(t, "screen:archive", f.Doc, "what is removed is not audited")
	}
	_, err = l.Take(taken.Inverse)
	require.NoError(t, err)
	d, _ = l.W.Doc("screen:archive")
	assert.False(t, d.Removed)
}

func TestSigningOffKeepsWhatWasFilledIn(t *testing.T) {
	l := opened.Demo(t)
	_, err := l.Take(
		change.Change{
			Title: "new",
			Steps: []change.Step{
				&change.Create{
					Document: &screen.Document{
						Kind:  screen.ScreenDoc,
						ID:    "extra",
						Title: "Extra",
						Route: "/extra",
						App:   "ops",
						Root: testkit.Tree(
							t,
							`{"id":"r","type":"section","props":{"padding":"5"},"filled":["padding"]}`,
						),
					},
				},
			},
		},
	)
	require.NoError(t, err)
	d, _ := l.W.Doc("screen:extra")
	_, err = l.Take(change.SignOff(d))
	require.NoError(t, err)
	d, _ = l.W.Doc("screen:extra")
	assert.Equal(t, d.Revision, d.Signed.Revision)
	assert.False(t, d.Root.Props[0].Filled)
}

func TestRoutesAndIdsAreCheckedAtTheDoor(t *testing.T) {
	for _, route := range []string{
		"", "beds", "//evil.example", "/a//b", "/a/", "/a/../b", "/a/./b", "/a b", "/a\x00", "/a\n", "/a?b", "/a#b", "/:id(.*)",
		"/*", "/a/:", "/a\\b", "/%2e%2e", "/" + strings.Repeat("a", 200),
	} {
		assert.Error(t, model.CheckRoute(route), "%q", route)
	}
	for _, route := range []string{"/", "/beds", "/beds/:id", "/a-b/c_d/e.f", "/Été/:bedId/edit"} {
		assert.NoError(t, model.CheckRoute(route), "%q", route)
	}
	whole := func(parts string) string {
		return `{"format":"ubiquant.workspace/1","applications":[{"id":"a","name":"A"}],` + parts + `}`
	}
	for what, src := range map[string]string{
		"set":     whole(`"samples":[{"id":"x/../../../out","name":"X","records":{}}]`),
		"name":    whole(`"screens":[{"id":"s","application":"a","route":"/","root":{"id":"r","type":"stack","name":"x\" onclick=\"y"}}]`),
		"element": whole(`"screens":[{"id":"s","application":"a","route":"/","root":{"id":"r\u0000","type":"stack"}}]`),
		"app":     `{"format":"ubiquant.workspace/1","applications":[{"id":"../a","name":"A"}]}`,
	} {
		_, err := wsfile.Read([]byte(src))
		assert.ErrorContains(t, err, "cannot be", what)
	}
}

func FuzzRead(f *testing.F) {
	f.Add(
		[]byte(
			`{"format":"ubiquant.workspace/1","applications":[{"id":"a","name":"A"}],"screens":[{"id":"s","application":"a","route":"/","root":{"id":"r","type":"stack","props":{"gap":"4"},"children":[{"id":"b","type":"x-b","text":{"expr":"1"}}]}}]}`,
		),
	)
	f.Fuzz(func(t *testing.T, src []byte) {
		w, err := wsfile.Read(src)
		if err != nil {
			return
		}
		once := wsfile.Write(w)
		again, err := wsfile.Read(once)
		if err != nil {
			t.Fatalf("what was written cannot be read: %v\n%s", err, once)
		}
		if !bytes.Equal(once, wsfile.Write(again)) {
			t.Fatal("writing what was read is not the identity")
		}
	})
}

func TestRulesAreTunedAndTakenBack(t *testing.T) {
	l := opened.Demo(t)
	before, _ := l.Findings()
	findings := func(rule string) (n int) {
		open, _ := l.Findings()
		for _, f := range open {
			if f.Rule == rule {
				n++
			}
		}
		return n
	}
	rule := before[0].Rule
	tune := func(tuning audit.Tuning) (change.Taken, error) {
		return l.Take(
			change.Change{Title: "tune", Steps: []change.Step{&change.Tune{Tuning: tuning}}},
		)
	}
	had := findings(rule)
	require.NotZero(t, had)
	taken, err := tune(audit.Tuning{Rule: rule, Severity: audit.Off, Reason: "not for us"})
	require.NoError(t, err)
	assert.Zero(t, findings(rule))

	again, err := wsfile.Read(wsfile.Write(l.W))
	require.NoError(t, err)
	assert.Equal(t, l.W.Tunings, again.Tunings, "it is kept in the file")
	back, err := change.Read(change.Write(taken.Inverse), true)
	require.NoError(t, err)
	_, err = l.Take(back)
	require.NoError(t, err)
	assert.Equal(t, had, findings(rule))
	assert.Empty(t, l.W.Tunings)

	_, err = tune(audit.Tuning{Rule: "no-such-rule"})
	assert.ErrorContains(t, err, `there is no rule "no-such-rule"`)
	_, err = wsfile.Read(
		[]byte(
			`{"format":"ubiquant.workspace/1","ruleSettings":[{"rule":"one-main-action","settings":{"most":"x"}}]}`,
		),
	)
	assert.ErrorContains(t, err, "/ruleSettings/0")
}

func TestShellsStandInShellsAndNeverInThemselves(t *testing.T) {
	l := opened.Demo(t)
	within := func(id, shell string) error {
		d, ok := l.W.Doc("shell:" + id)
		require.True(t, ok)
		_, err := l.Take(
			change.Change{
				Title: "Nest",
				Steps: []change.Step{
					&change.Meta{
						Doc:      "shell:" + id,
						Document: &screen.Document{ID: id, Title: d.Title, Shell: shell, Root: d.Root},
					},
				},
			},
		)
		return err
	}
	require.NoError(t, within("staff", "plain"))
	page, _, err := l.Page("screen:tickets", live.View{})
	require.NoError(t, err)
	assert.Equal(t, 2, strings.Count(page.HTML, "<sorrel-navbar"), "the bars of both")
	assert.ErrorContains(t, within("plain", "staff"), "would stand in itself")
	assert.ErrorContains(t, within("plain", "plain"), "would stand in itself")
	assert.ErrorContains(t, within("plain", "nowhere"), "no shell")
	w, err := wsfile.Read(wsfile.Write(l.W))
	require.NoError(t, err)
	in, err := live.Open(w, l.Kit, "2026-11-23").DeliverInput("ops", []string{"tickets"}, nil)
	require.NoError(t, err)
	assert.Len(t, in.Shells, 2)
}
