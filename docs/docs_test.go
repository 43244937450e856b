package docs_test

import (
	"bytes"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
	"ubiquant/core/workspace"
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
	w.Tunings = []audit.Tuning{{Rule: "one-main-action", Severity: audit.Note, Settings: map[string]string{"most": "2"}, Reason: "wide screens", By: "ida", When: "2026-11-23"}}
	w.Stands = []audit.LetStand{{ID: "a", Key: "k", Reason: "so", By: "ida", When: "2026-11-23", Until: "2026-12-01"}}
	require.NoError(t, valid(t, workspace.Write(w)))
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
		`{"format":"ubiquant.workspace/1","ruleSettings":[{"rule":"demo-text","severity":"fatal"}]}`,
	} {
		_, err := workspace.Read([]byte(src))
		assert.Error(t, err, src)
		assert.Error(t, valid(t, []byte(src)), src)
	}
}
