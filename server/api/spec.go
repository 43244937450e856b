package api

import (
	"encoding/json"
	"fmt"
	"strings"

	"github.com/swaggest/openapi-go/openapi31"

	"ubiquant/core/change"
)

// stored are fields of operations whose form is that of the workspace's schema, which is
// published: by the schema and the field, the definition.
var stored = map[[2]string]string{
	{"ApiChangeIn", "change"}:  "Change",
	{"ApiDocOut", "root"}:      "StoredElement",
	{"ApiModelIO", "model"}:    "StoredModel",
	{"ApiReadIn", "draft"}:     "StoredModel",
	{"ApiGenerateIn", "draft"}: "StoredModel",
	{"ApiSnippetOut", "tree"}:  "StoredElement",
}

// withStored writes a description with the definitions of what is stored, and of changes
// as the table of their kinds makes them.
func withStored(spec *openapi31.Spec) ([]byte, error) {
	text, err := json.Marshal(spec)
	if err != nil {
		return nil, err
	}
	var doc, workspace map[string]any
	if err := json.Unmarshal(text, &doc); err != nil {
		return nil, err
	}
	if err := json.Unmarshal([]byte(schema), &workspace); err != nil {
		return nil, fmt.Errorf("the workspace's schema: %w", err)
	}
	components, _ := doc["components"].(map[string]any)
	schemas, _ := components["schemas"].(map[string]any)
	defs, _ := workspace["$defs"].(map[string]any)
	for name, def := range defs {
		schemas[storedName(name)] = pointed(def)
	}
	made := change.Schema()
	delete(made, "$schema")
	delete(made, "$id")
	schemas["Change"] = pointed(plainJSON(made))
	for at, name := range stored {
		of, _ := schemas[at[0]].(map[string]any)
		props, _ := of["properties"].(map[string]any)
		if props[at[1]] == nil {
			return nil, fmt.Errorf("%s has no field %s to describe", at[0], at[1])
		}
		props[at[1]] = map[string]any{"$ref": "#/components/schemas/" + name}
	}
	return json.MarshalIndent(doc, "", " ")
}

func storedName(def string) string { return "Stored" + strings.ToUpper(def[:1]) + def[1:] }

// plainJSON is a value as it comes out of JSON.
func plainJSON(v any) any {
	text, err := json.Marshal(v)
	if err != nil {
		panic(err) // maps and texts alone
	}
	var out any
	if err := json.Unmarshal(text, &out); err != nil {
		panic(err)
	}
	return out
}

// pointed has references to the workspace's definitions lead to the components.
func pointed(v any) any {
	switch v := v.(type) {
	case map[string]any:
		out := make(map[string]any, len(v))
		for k, item := range v {
			if ref, ok := item.(string); ok && k == "$ref" {
				if _, def, cut := strings.Cut(ref, "#/$defs/"); cut {
					item = "#/components/schemas/" + storedName(def)
				}
			}
			out[k] = pointed(item)
		}
		return out
	case []any:
		out := make([]any, len(v))
		for i := range v {
			out[i] = pointed(v[i])
		}
		return out
	}
	return v
}
