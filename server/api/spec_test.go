package api_test

import (
	"context"
	"encoding/json"
	"log/slog"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/server/api"
)

// The description types what used to be free: a change is one of its kinds, each with what
// it holds and who may, and every reference leads somewhere.
func TestTheDescriptionTypesChangesAndTrees(t *testing.T) {
	s, err := api.New(context.Background(), api.Parts{Log: slog.Default()})
	require.NoError(t, err)
	text, err := s.Spec()
	require.NoError(t, err)
	var doc struct {
		Components struct {
			Schemas map[string]json.RawMessage `json:"schemas"`
		} `json:"components"`
	}
	require.NoError(t, json.Unmarshal(text, &doc))
	said := string(doc.Components.Schemas["Change"])
	for _, k := range change.Kinds() {
		if k.Log {
			assert.NotContains(t, said, `"const": "`+k.Name+`"`)
		} else {
			assert.Contains(t, said, `"const": "`+k.Name+`"`)
			assert.Contains(t, said, "Needs the role "+string(k.Role))
		}
	}
	for _, part := range strings.Split(string(text), `"$ref": "`)[1:] {
		to, _, _ := strings.Cut(part, `"`)
		name, ok := strings.CutPrefix(to, "#/components/schemas/")
		require.True(t, ok, to)
		assert.Contains(t, doc.Components.Schemas, name)
	}
	assert.Contains(t, string(doc.Components.Schemas["ApiDocOut"]), "StoredElement")
}
