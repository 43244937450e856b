package describe

import (
	"encoding/json"
	"strconv"
	"strings"
)

// node is a place in a JSON document of which nobody knows whether it keeps to its
// format: what is missing or of another kind is empty, never an error.
type node struct {
	v  any
	at string // JSON pointer
}

func document(src []byte) (node, error) {
	if err := wellFormed(src); err != nil {
		return node{}, err
	}
	var v any
	err := json.Unmarshal(src, &v)
	return node{v: v}, err
}

func (n node) get(key string) node {
	m, _ := n.v.(map[string]any)
	return node{m[key], n.at + "/" + strings.ReplaceAll(strings.ReplaceAll(key, "~", "~0"), "/", "~1")}
}

func (n node) is() bool { return n.v != nil }

func (n node) str(keys ...string) string {
	for _, k := range keys {
		if s, ok := n.get(k).v.(string); ok && s != "" {
			return clip(strings.ToValidUTF8(s, ""), MaxText)
		}
	}
	return ""
}

func (n node) text() string { s, _ := n.v.(string); return s }

func (n node) yes(key string) bool { b, _ := n.get(key).v.(bool); return b }

func (n node) list(keys ...string) []node {
	for _, k := range keys {
		at := n.get(k)
		list, ok := at.v.([]any)
		if !ok {
			if one, isMap := at.v.(map[string]any); isMap && len(keys) > 1 { // an object where a list of one is meant
				return []node{{one, at.at}}
			}
			continue
		}
		out := make([]node, len(list))
		for i, v := range list {
			out[i] = node{v, at.at + "/" + strconv.Itoa(i)}
		}
		return out
	}
	return nil
}

// deprecated is the note of something that is not to be used any more.
func (n node) deprecated() string {
	d := n.get("deprecated")
	switch v := d.v.(type) {
	case bool:
		if v {
			return "Deprecated."
		}
	case string:
		if v == "" {
			return "Deprecated."
		}
		return clip(v, MaxText)
	}
	return ""
}
