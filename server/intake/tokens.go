package intake

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
)

// tokens reads a file of tokens in any of the forms that are about: Design Tokens, the
// older form that says value and type without the sign, nested JSON with comments. What it
// gives is Design Tokens; what in it is no token is told.
func (l *library) tokens(src []byte, where string) ([]byte, error) {
	if _, err := kit.ReadTokens(src, "kit"); err == nil {
		return src, nil
	}
	var doc map[string]any
	if err := json.Unmarshal(withoutComments(src), &doc); err != nil {
		return nil, fmt.Errorf("it is no file of tokens: %w", err)
	}
	left := 0
	var turn func(v any, depth int) any
	turn = func(v any, depth int) any {
		m, ok := v.(map[string]any)
		if !ok || depth > 24 {
			left++
			return nil
		}
		if value, isToken := m["value"]; isToken {
			typ, _ := m["type"].(string)
			return l.token(value, typ, &left)
		}
		out := map[string]any{}
		for _, key := range sortedKeys(m) {
			if key == "" || key[0] == '$' || bytes.ContainsAny([]byte(key), ".{}") {
				continue
			}
			child := turn(m[key], depth+1)
			if text, plain := m[key].(string); plain {
				child = l.token(text, "", &left)
				left--
			}
			if child != nil {
				out[key] = child
			}
		}
		if len(out) == 0 {
			return nil
		}
		return out
	}
	out, _ := turn(doc, 0).(map[string]any)
	if out == nil {
		return nil, fmt.Errorf("it has no tokens; accepted: Design Tokens, or groups of values")
	}
	if left > 0 {
		l.catalog.Left = append(l.catalog.Left, describe.Left{Where: where, What: fmt.Sprintf("%d values are no token that is understood", left)})
	}
	b, err := json.Marshal(out)
	if err == nil {
		_, err = kit.ReadTokens(b, "kit")
	}
	return b, err
}

// token is a value of an older file as Design Tokens has it; nil where it is none.
func (l *library) token(value any, typ string, left *int) any {
	text := fmt.Sprint(value)
	types := []string{"color", "dimension", "number"}
	if slices.Contains([]string{"spacing", "sizing", "borderRadius", "fontSizes", "size"}, typ) {
		types = []string{"dimension", "number"}
	}
	for _, t := range types {
		v := text
		if t == "color" {
			c, ok := describe.Colour(text)
			if !ok {
				continue
			}
			v = c
		}
		if parsed, err := kit.ParseValue(t, v); err == nil {
			return map[string]any{"$type": t, "$value": json.RawMessage(parsed.JSON())}
		}
	}
	*left++
	return nil
}

// withoutComments takes the comments out of JSON, texts left as they are.
func withoutComments(src []byte) []byte {
	out := make([]byte, 0, len(src))
	for i := 0; i < len(src); i++ {
		switch {
		case src[i] == '"':
			j := i + 1
			for j < len(src) && src[j] != '"' {
				if src[j] == '\\' {
					j++
				}
				j++
			}
			j = min(j, len(src)-1)
			out = append(out, src[i:j+1]...)
			i = j
		case bytes.HasPrefix(src[i:], []byte("//")):
			for i < len(src) && src[i] != '\n' {
				i++
			}
			out = append(out, '\n')
		case bytes.HasPrefix(src[i:], []byte("/*")):
			end := bytes.Index(src[i+2:], []byte("*/"))
			if end < 0 {
				return out
			}
			i += end + 3
		default:
			out = append(out, src[i])
		}
	}
	return out
}
