package sample_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/sample"
)

func TestSchemasOfAnOpenAPIDocumentAreModels(t *testing.T) {
	list, err := sample.ReadSchemas([]byte(`
openapi: 3.0.3
info: {title: Office, version: "1"}
paths: {}
components:
  schemas:
    Named:
      type: object
      required: [name]
      properties:
        id: {type: integer}
        name: {type: string, maxLength: 60}
    Ticket:
      title: Work ticket
      allOf:
        - $ref: '#/components/schemas/Named'
        - type: object
          required: [due-date]
          properties:
            due-date: {type: string, format: date}
            state: {type: string, enum: [open, done]}
            hours: {type: number, minimum: 0.5, maximum: 12}
            urgent: {type: [boolean, 'null']}
            assignee: {$ref: '#/components/schemas/Named'}
            notes: {type: string, maxLength: 4000}
            photo: {type: string, format: uri}
            tags: {type: array, items: {type: string}}
            beds: {type: array, maxItems: 3, items: {$ref: '#/components/schemas/Named'}}
            boxes: {type: array, items: {type: object, properties: {x: {type: number}}}}
            place: {type: object, properties: {x: {type: number}}}
            else: {$ref: 'other.yaml#/X'}
            round: {$ref: '#/components/schemas/Round'}
    Round: {$ref: '#/components/schemas/Round'}
    Plain: {type: string}
`))
	require.NoError(t, err)
	require.Len(t, list, 3)
	assert.Equal(t, "Named", list[0].Name)
	assert.Equal(t, []sample.Field{{Name: "name", Type: sample.Text, Required: true, Most: "60"}}, list[0].Fields)
	assert.Equal(t, []string{"its references go round in a circle"}, list[1].Notes)
	assert.Equal(t, "Work ticket", list[2].Name)
	assert.Equal(t, []sample.Field{
		{
			Name:  "assignee",
			Type:  sample.Ref,
			Model: "named",
		}, {Name: "beds", Type: sample.Refs, Model: "named", Most: "3"}, {Name: "dueDate", Type: sample.Date, Required: true}, {Name: "hours", Type: sample.Number, Least: "0.5", Most: "12"},
		{
			Name:     "name",
			Type:     sample.Text,
			Required: true,
			Most:     "60",
		}, {Name: "notes", Type: sample.LongText, Most: "4000"}, {Name: "photo", Type: sample.Picture},
		{
			Name:    "state",
			Type:    sample.Choice,
			Choices: []string{"open", "done"},
		}, {Name: "tags", Type: sample.Texts}, {Name: "urgent", Type: sample.YesNo},
	}, list[2].Fields)
	all := strings.Join(list[2].Notes, "\n")
	for _, why := range []string{"boxes is left out: it lists objects that are not described apart", "place is left out: an object within another", "else is left out: other.yaml#/X is not in this document", "round is left out: its references go round"} {
		assert.Contains(t, all, why)
	}
}

func TestWhatIsNoSchemaSaysWhy(t *testing.T) {
	for src, why := range map[string]string{"{": "neither JSON nor YAML", `{"type":"string"}`: "no object with properties", "[1]": "neither JSON nor YAML", "": "no object with properties"} {
		_, err := sample.ReadSchemas([]byte(src))
		assert.ErrorContains(t, err, why, src)
	}
	assert.True(t, sample.LooksLikeSchemas(`{"$schema": "x"}`))
	assert.True(t, sample.LooksLikeSchemas("openapi: 3.1.0\ninfo: {}"))
	assert.True(t, sample.LooksLikeSchemas("{\n  \"type\": \"object\",\n  \"properties\": {}\n}"))
	assert.False(t, sample.LooksLikeSchemas(`[{"name":"Oak"}]`))
	assert.False(t, sample.LooksLikeSchemas("name;properties\nOak;tall"))
}

// A model that is written as a schema is read back as it was.
func TestASchemaReadsBackAsItsModel(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		m := &sample.Model{ID: "things", Name: "Thing"}
		for i := range rapid.IntRange(1, 12).Draw(rt, "fields") {
			f := sample.Field{
				Name:     "f" + string(rune('a'+i)),
				Type:     rapid.SampledFrom(sample.FieldTypes).Draw(rt, "type"),
				Required: rapid.Bool().Draw(rt, "required"),
				Unique:   rapid.Bool().Draw(rt, "unique"),
			}
			switch f.Type {
			case sample.Choice:
				f.Choices = []string{"a", "b 'c'"}
				f.Meanings = []sample.Meaning{{Value: "a", Tone: "good"}, {Words: "else"}}
			case sample.Ref:
				f.Model = "others"
			case sample.Number, sample.Money, sample.Text:
				f.Least, f.Most = "1", "20"
			case sample.Date:
				f.Least = "2020-01-01"
			}
			m.Fields = append(m.Fields, f)
		}
		list, err := sample.ReadSchemas(sample.WriteSchema(m))
		if err != nil || len(list) != 1 || len(list[0].Notes) > 0 {
			rt.Fatal(err, list)
		}
		assert.Equal(rt, m.Name, list[0].Name)
		assert.Equal(rt, m.Fields, list[0].Fields)
	})
}

func FuzzSchemasAreReadOrRefused(f *testing.F) {
	f.Add([]byte(`{"$defs":{"a":{"$ref":"#/$defs/a"}}}`))
	f.Add([]byte("openapi: 3\ncomponents: {schemas: {A: {properties: {b: {$ref: '#'}}}}}"))
	f.Fuzz(func(t *testing.T, src []byte) { _, _ = sample.ReadSchemas(src) })
}
