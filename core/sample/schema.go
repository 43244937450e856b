package sample

import (
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"go.yaml.in/yaml/v3"
)

// Schema is a model as a JSON Schema or an OpenAPI document describes it.
type Schema struct {
	Name   string   `json:"name"`
	Fields []Field  `json:"fields"`
	Notes  []string `json:"notes"` // what was left out, and why
}

// maxSchemaBytes bounds a document of schemas.
const maxSchemaBytes = 4 << 20

// own is the keyword that carries what JSON Schema has no word for.
const own = "x-field"

// ReadSchemas reads a JSON Schema (draft 4 to 2020-12) or an OpenAPI 3 document, as JSON
// or YAML: each object in it is a model. References within the document are followed;
// those outside it, and what a model cannot hold, are left out and told.
func ReadSchemas(src []byte) ([]Schema, error) {
	if len(src) > maxSchemaBytes {
		return nil, fmt.Errorf("this is %d MB; accepted: up to %d", len(src)>>20, maxSchemaBytes>>20)
	}
	var doc map[string]any
	if err := yaml.Unmarshal(src, &doc); err != nil {
		return nil, fmt.Errorf("this is neither JSON nor YAML: %s", strings.TrimPrefix(err.Error(), "yaml: "))
	}
	r := schemaReader{doc: doc}
	var out []Schema
	take := func(name string, s map[string]any) {
		if made, ok := r.model(name, s); ok {
			out = append(out, made)
		}
	}
	for _, pointer := range []string{"/components/schemas", "/definitions", "/$defs"} {
		at, _ := point(any(doc), pointer)
		list, _ := at.(map[string]any)
		for _, name := range slices.Sorted(maps.Keys(list)) {
			if s, ok := list[name].(map[string]any); ok {
				take(name, s)
			}
		}
	}
	if doc["openapi"] == nil {
		name, _ := doc["title"].(string)
		if items, ok := doc["items"].(map[string]any); ok {
			take(name, items)
		} else {
			take(name, doc)
		}
	}
	if len(out) == 0 {
		return nil, errors.New("no object with properties is described in it")
	}
	return out, nil
}

// LooksLikeSchemas reports whether a text is a document of schemas rather than records.
func LooksLikeSchemas(text string) bool {
	head := text[:min(len(text), 4000)]
	return schemaLike.MatchString(head)
}

var schemaLike = regexp.MustCompile(`(?m)^\s*\{?\s*"?(\$schema|openapi|\$defs|definitions|properties)"?\s*:`)

type schemaReader struct{ doc map[string]any }

// follow resolves a reference within the document; name is what it refers to.
func (r *schemaReader) follow(s map[string]any) (to map[string]any, name string, err error) {
	for range 20 { // a circle of references leads nowhere
		ref, ok := s["$ref"].(string)
		if !ok {
			return s, name, nil
		}
		if !strings.HasPrefix(ref, "#") {
			return nil, "", fmt.Errorf("%s is not in this document", ref)
		}
		at, ok := point(any(r.doc), strings.TrimPrefix(ref, "#"))
		next, isObject := at.(map[string]any)
		if !ok || !isObject {
			return nil, "", fmt.Errorf("%s leads to nothing", ref)
		}
		name = ref[strings.LastIndex(ref, "/")+1:]
		s = next
	}
	return nil, "", errors.New("its references go round in a circle")
}

// properties collects what an object and all that it is made of have.
func (r *schemaReader) properties(
	s map[string]any,
	depth int,
) (props map[string]any, order []string, required map[string]bool, err error) {
	props, required = map[string]any{}, map[string]bool{}
	if depth > 10 {
		return nil, nil, nil, errors.New("it is made of itself")
	}
	if s, _, err = r.follow(s); err != nil {
		return nil, nil, nil, err
	}
	parts, _ := s["allOf"].([]any)
	for _, p := range parts {
		part, _ := p.(map[string]any)
		more, _, must, err := r.properties(part, depth+1)
		if err != nil {
			return nil, nil, nil, err
		}
		maps.Copy(props, more)
		maps.Copy(required, must)
	}
	more, _ := s["properties"].(map[string]any)
	maps.Copy(props, more)
	list, _ := s["required"].([]any)
	for _, v := range list {
		if name, ok := v.(string); ok {
			required[name] = true
		}
	}
	// A document has no order of its own; ours carries one.
	order = slices.Sorted(maps.Keys(props))
	slices.SortStableFunc(order, func(a, b string) int { return place(props[a]) - place(props[b]) })
	return props, order, required, nil
}

func place(p any) int {
	m, _ := p.(map[string]any)
	extra, _ := m[own].(map[string]any)
	return int(asNumber(extra["at"]))
}

func asNumber(v any) float64 {
	switch x := v.(type) {
	case int:
		return float64(x)
	case float64:
		return x
	}
	return 0
}

func (r *schemaReader) model(name string, s map[string]any) (Schema, bool) {
	out := Schema{Name: name, Fields: []Field{}, Notes: []string{}}
	props, order, required, err := r.properties(s, 0)
	if err != nil {
		out.Notes = append(out.Notes, err.Error())
		return out, name != ""
	}
	if len(props) == 0 {
		return out, false
	}
	if title, ok := s["title"].(string); ok {
		out.Name = title
	}
	for _, prop := range order {
		described, _ := props[prop].(map[string]any)
		if strings.EqualFold(prop, "id") {
			continue // every record has one
		}
		f, why := r.field(prop, described)
		if why != "" {
			out.Notes = append(out.Notes, prop+" is left out: "+why)
			continue
		}
		if slices.ContainsFunc(out.Fields, func(o Field) bool { return o.Name == f.Name }) {
			out.Notes = append(out.Notes, prop+" is left out: another is called "+f.Name+" already")
			continue
		}
		f.Required = required[prop]
		out.Fields = append(out.Fields, f)
	}
	return out, true
}

func (r *schemaReader) field(name string, s map[string]any) (f Field, why string) {
	f.Name = fieldName(name)
	if f.Name == "" {
		return f, "its name has no letters"
	}
	to, called, err := r.follow(s)
	if err != nil {
		return f, err.Error()
	}
	extra, _ := to[own].(map[string]any)
	kind, _ := to["type"].(string)
	if list, ok := to["type"].([]any); ok { // a type or nothing
		for _, t := range list {
			if t, _ := t.(string); t != "null" {
				kind = t
			}
		}
	}
	format, _ := to["format"].(string)
	limits := func(least, most string) {
		for key, into := range map[string]*string{least: &f.Least, most: &f.Most} {
			if v, ok := to[key]; ok {
				*into = Plain(asNumber(v))
			}
		}
	}
	enum, _ := to["enum"].([]any)
	switch {
	case len(enum) > 0:
		f.Type = Choice
		for _, v := range enum {
			if v != nil {
				f.Choices = append(f.Choices, fmt.Sprint(v))
			}
		}
	case to["properties"] != nil || to["allOf"] != nil || kind == "object":
		if called == "" {
			return f, "an object within another is no field; describe it apart and refer to it"
		}
		f.Type, f.Model = Ref, fieldName(called)
	case kind == "array":
		of, _ := to["items"].(map[string]any)
		item, called, err := r.follow(of)
		switch {
		case err != nil:
			return f, err.Error()
		case called != "" && (item["properties"] != nil || item["allOf"] != nil):
			f.Type, f.Model = Refs, fieldName(called)
		case item["properties"] != nil || item["type"] == "array" || item["type"] == "object":
			return f, "it lists objects that are not described apart"
		default:
			f.Type = Texts
		}
		limits("minItems", "maxItems")
	case kind == "boolean":
		f.Type = YesNo
	case kind == "integer" || kind == "number":
		f.Type = Number
		limits("minimum", "maximum")
	case kind == "string" || kind == "" && len(to) > 0:
		f.Type = Text
		switch format {
		case "date", "date-time":
			f.Type = Date
		case "time":
			f.Type = Time
		case "uri", "url", "uri-reference":
			f.Type = Link
		default:
			limits("minLength", "maxLength")
			if n, _ := strconv.ParseFloat(f.Most, 64); n > 200 {
				f.Type = LongText
			}
		}
		if pictured.MatchString(name) && f.Type != Date {
			f.Type = Picture
		}
	default:
		return f, "what it holds is not said"
	}
	if t, ok := extra["type"].(string); ok && slices.Contains(FieldTypes, FieldType(t)) {
		f.Type = FieldType(t)
	}
	if m, ok := extra["model"].(string); ok {
		f.Model = m
	}
	for key, into := range map[string]*string{"least": &f.Least, "most": &f.Most} {
		if v, ok := extra[key].(string); ok {
			*into = v
		}
	}
	f.Unique, _ = extra["unique"].(bool)
	f.Currency, _ = extra["currency"].(string)
	f.Compute, _ = extra["compute"].(string)
	if list, ok := extra["meanings"]; ok {
		b, err := json.Marshal(list)
		if err == nil {
			_ = json.Unmarshal(b, &f.Meanings) // what is no meaning means nothing
		}
	}
	return f, ""
}

var pictured = regexp.MustCompile(`(?i)(picture|photo|image|avatar|thumbnail)`)

// fieldName makes a field's name of any: "due-date" and "Due date" are dueDate.
func fieldName(s string) string {
	var b strings.Builder
	up := false
	for _, r := range s {
		switch {
		case r > 127 || !unicode.IsLetter(r) && !unicode.IsDigit(r):
			up = b.Len() > 0
		case b.Len() == 0 && unicode.IsDigit(r):
		case b.Len() == 0:
			b.WriteRune(unicode.ToLower(r))
		case up:
			b.WriteRune(unicode.ToUpper(r))
			up = false
		default:
			b.WriteRune(r)
		}
	}
	return b.String()[:min(b.Len(), 48)]
}

// WriteSchema describes a model as a JSON Schema (2020-12). What that has no word for
// stands under "x-field", where ReadSchemas finds it again.
func WriteSchema(m *Model) []byte {
	props := map[string]any{"id": map[string]any{"type": "string"}}
	required := []string{"id"}
	for i, f := range m.Fields {
		p, extra := map[string]any{}, map[string]any{"at": i + 1}
		switch f.Type {
		case Number:
			p["type"] = "number"
		case Money:
			p["type"], p["description"], extra["type"] = "integer", "in minor units", f.Type
		case YesNo:
			p["type"] = "boolean"
		case Texts, Refs:
			p["type"], p["items"], extra["type"] = "array", map[string]any{"type": "string"}, f.Type
			if f.Type == Refs {
				extra["model"] = f.Model
			}
		default:
			p["type"] = "string"
			switch f.Type {
			case Date:
				p["format"] = "date"
			case Time:
				p["format"], extra["type"] = "time", f.Type
			case Link:
				p["format"] = "uri"
			case Choice:
				p["enum"] = f.Choices
			}
			if f.Type != Date && f.Type != Choice {
				extra["type"] = f.Type
			}
			if f.Type == Ref {
				extra["model"] = f.Model
			}
		}
		least, most := "minimum", "maximum"
		switch f.Type {
		case Text, LongText:
			least, most = "minLength", "maxLength"
		case Texts, Refs:
			least, most = "minItems", "maxItems"
		}
		for key, v := range map[string]string{least: f.Least, most: f.Most} {
			if n, err := strconv.ParseFloat(v, 64); err == nil &&
				slices.Contains([]FieldType{Number, Text, LongText, Texts, Refs}, f.Type) {
				p[key] = n
			}
		}
		for key, v := range map[string]string{"least": f.Least, "most": f.Most} {
			if v != "" {
				extra[key] = v
			}
		}
		if f.Unique {
			extra["unique"] = true
		}
		if f.Currency != "" {
			extra["currency"] = f.Currency
		}
		if f.Compute != "" {
			extra["compute"], p["readOnly"] = f.Compute, true
		}
		if len(f.Meanings) > 0 {
			extra["meanings"] = f.Meanings
		}
		p[own] = extra
		props[f.Name] = p
		if f.Required {
			required = append(required, f.Name)
		}
	}
	b, _ := json.MarshalIndent(
		map[string]any{
			"$schema":              "https://json-schema.org/draft/2020-12/schema",
			"title":                m.Name,
			"type":                 "object",
			"properties":           props,
			"required":             required,
			"additionalProperties": false,
		},
		"",
		"  ",
	) // plain values encode
	return append(b, '\n')
}
