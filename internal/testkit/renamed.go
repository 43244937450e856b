package testkit

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"ubiquant/core/kit"
)

// otherNames are what another library calls settings that mean the same.
var otherNames = map[string]string{
	"to": "href", "label": "labelText", "required": "isRequired", "disabled": "isDisabled", "open": "isOpen", "action": "htmlType",
	"tone": "severity", "kind": "inputType",
}

// OtherName is what the library of Renamed calls a setting of the demo's kit.
func OtherName(prop string) string {
	base, at, wide := strings.Cut(prop, "@")
	if other, ok := otherNames[base]; ok {
		base = other
	}
	if wide {
		return base + "@" + at
	}
	return base
}

// renamed gives settings their other names, wherever notes and examples speak of them.
func renamed(v any, under string) any {
	switch x := v.(type) {
	case map[string]any:
		out := map[string]any{}
		for k, inner := range x {
			as := k
			if under == "props" {
				as = OtherName(k)
			}
			if s, ok := inner.(string); ok && slices.Contains([]string{"name", "prop"}, k) {
				inner = OtherName(s)
			}
			out[as] = renamed(inner, k)
		}
		return out
	case []any:
		out := make([]any, len(x))
		for i, inner := range x {
			if s, ok := inner.(string); ok && slices.Contains([]string{"telling", "acts", "ordered"}, under) {
				inner = OtherName(s)
			}
			out[i] = renamed(inner, under)
		}
		return out
	}
	return v
}

// RenamedText is JSON of an element or of notes, with the settings called as the library of Renamed
// does.
func RenamedText(t testing.TB, src string) string {
	t.Helper()
	var v any
	if err := json.Unmarshal([]byte(src), &v); err != nil {
		t.Fatal(err)
	}
	b, err := json.Marshal(renamed(v, ""))
	if err != nil {
		t.Fatal(err)
	}
	return string(b)
}

// Renamed is the demo's kit as another library would have it: the same components, whose settings are
// called otherwise.
func Renamed(t testing.TB) *kit.Kit {
	t.Helper()
	read := func(name string) []byte {
		b, err := os.ReadFile(filepath.Join(Root(), "kits", "sorrel", name))
		if err != nil {
			t.Fatal(err)
		}
		return b
	}
	manifest := string(read("custom-elements.json"))
	for was, is := range otherNames {
		for _, key := range []string{"name", "fieldName"} {
			manifest = strings.ReplaceAll(manifest, fmt.Sprintf("%q: %q", key, was), fmt.Sprintf("%q: %q", key, is))
		}
	}
	k, err := kit.Read(kit.Sources{
		Name: "@acme/kit", Version: "1.0.0", Manifest: []byte(manifest), Notes: []byte(RenamedText(t, string(read("sorrel.notes.json")))),
		Tokens: read("sorrel.tokens.json"), Icons: read("icons.json"),
	})
	if err != nil {
		t.Fatal(err)
	}
	return k
}
