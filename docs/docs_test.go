package docs_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/docs"
	"ubiquant/internal/generate"
	"ubiquant/internal/testkit"
)

func schema(t *testing.T) *jsonschema.Schema {
	value, err := jsonschema.UnmarshalJSON(strings.NewReader(docs.WorkspaceSchema))
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource("workspace.schema.json", value))
	out, err := c.Compile("workspace.schema.json")
	require.NoError(t, err)
	return out
}

func valid(t *testing.T, src []byte) error {
	value, err := jsonschema.UnmarshalJSON(bytes.NewReader(src))
	require.NoError(t, err)
	return schema(t).Validate(value)
}

func TestWorkspacesAreAsTheirPublishedSchemaSays(t *testing.T) {
	require.NoError(t, valid(t, testkit.Demo(t)))
	w, _ := generate.Workspace(generate.Options{Screens: 3, Elements: 60, Slips: 0.1, Seed: 1})
	w.Tunings = []audit.Tuning{
		{
			Rule:     "one-main-action",
			Severity: audit.Note,
			Settings: map[string]string{"most": "2"},
			Reason:   "wide screens",
			By:       "ida",
			When:     "2026-11-23",
		},
	}
	w.Stands = []audit.LetStand{{ID: "a", Key: "k", Scope: audit.InSpot, Spot: "s", Reason: "so", By: "ida", When: "2026-11-23", Until: "2026-12-01"}}
	w.OwnRules = []audit.OwnRule{{ID: "a", Title: "t", Of: "element", Where: "*", Must: "true", Message: "m", Severity: "note", Prop: "p", Value: "v", Why: "w", Good: "{}", Bad: "{}", By: "ida", When: "2026-11-23"}}
	w.Assignments = []audit.Assignment{{ID: "a", Key: "k", To: "noor", Note: "so", Due: "2026-12-01", By: "ida", When: "2026-11-23"}}
	radius := 0
	w.Apps[0].Packages = map[string]string{"vue": "3.5.0"}
	w.Own = model.Own{
		Themes: []kit.Theme{
			{
				ID:   "heather",
				Name: "Heather",
				From: "light",
				Making: kit.Making{
					Accent:  "#7A3E73",
					Radius:  &radius,
					Step:    5,
					Density: "compact",
					Font:    "serif",
					Size:    14.5,
				},
				Tokens: map[string]kit.Value{"color.ink": value(t, "color", "#112233")},
				By:     "ida",
				When:   "2026-11-23",
			},
		},
		Icons: []kit.OwnIcon{
			{
				Name:     "rail",
				Meanings: []string{"fence"},
				SVG:      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><path d="M0 0"></path></svg>`,
				By:       "noor",
			},
		},
		LeftOut: []model.LeftOut{{Tag: "sorrel-tag", Reason: "chips do", By: "ida", When: "2026-11-23"}},
	}
	w.Docs[len(w.Docs)-1].States = []screen.State{
		{
			Name: "loading",
			Set:  "empty",
			Edits: []screen.Edit{
				{Op: screen.Show, ID: "a", Name: "false"},
				{Op: screen.Insert, Parent: "a", Tree: &screen.Element{ID: "b", Type: "stack"}},
			},
		},
	}
	out := wsfile.Write(w)
	require.NoError(t, valid(t, out))
	back, err := wsfile.Read(out)
	require.NoError(t, err)
	assert.Equal(t, w.Own, back.Own, "what the team adds is read back as it was written")
	assert.Equal(t, w.Apps, back.Apps)
}

func value(t *testing.T, typ, text string) kit.Value {
	v, err := kit.ParseValue(typ, text)
	require.NoError(t, err)
	return v
}

// What the reader refuses, the schema refuses as well, so that an editor's hints
// can be trusted.
func TestTheSchemaRefusesWhatTheReaderRefuses(t *testing.T) {
	for _, src := range []string{
		`[]`,
		`{"format":"ubiquant.workspace/9"}`,
		`{"format":"ubiquant.workspace/1","colour":"red"}`,
		`{"format":"ubiquant.workspace/1","screens":[{"id":"s","root":{"type":"stack"}}]}`,
		`{"format":"ubiquant.workspace/1","applications":[{"id":"a","name":"A"}],"screens":[{"id":"s","application":"a","route":"/","root":{"id":"r","type":"stack","props":{"gap":[]}}}]}`,
		`{"format":"ubiquant.workspace/1","ruleSettings":[{"severity":"off"}]}`,
		`{"format":"ubiquant.workspace/1","themes":[{"id":"a","from":"light","colour":"red"}]}`,
		`{"format":"ubiquant.workspace/1","icons":[{"name":"a"}]}`,
		`{"format":"ubiquant.workspace/1","fonts":[{"file":"a"}]}`,
		`{"format":"ubiquant.workspace/1","ruleSettings":[{"rule":"demo-text","severity":"fatal"}]}`,
	} {
		_, err := wsfile.Read([]byte(src))
		assert.Error(t, err, src)
		assert.Error(t, valid(t, []byte(src)), src)
	}
}
