package change

import (
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/jsonread"
	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/picture"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/texts"
)

// A step is written as one object: "do" names its kind, its fields follow by their tags.
// What a field's type looks like is said once, here. Fields tagged do:"log" are only in the
// log; of one tagged do:"key=id" its id counts, and it need not be whole; "key=a+b" are two.

// codec reads and writes the fields of one type. trusted admits what only the log holds.
type codec struct {
	read   func(r *jsonread.Reader, into reflect.Value, trusted bool) error
	write  func(out *screen.Writer, from reflect.Value)
	schema map[string]any
}

// of is the codec of a type; defined is the name of its definition in the schema of a
// workspace.
func of[T any](
	defined string,
	read func(r *jsonread.Reader, trusted bool) (T, error),
	write func(out *screen.Writer, v T),
) (reflect.Type, codec) {
	schema := map[string]any{"$ref": "workspace.schema.json#/" + defined}
	return reflect.TypeFor[T](), codec{
		func(r *jsonread.Reader, into reflect.Value, trusted bool) error {
			v, err := read(r, trusted)
			into.Set(reflect.ValueOf(v))
			return err
		},
		func(out *screen.Writer, from reflect.Value) { write(out, from.Interface().(T)) },
		schema,
	}
}

// plain is the codec of a type that is read and written the same wherever it comes from.
func plain[T any](
	defined string,
	read func(r *jsonread.Reader) (T, error),
	write func(out *screen.Writer, v *T),
) (reflect.Type, codec) {
	return of(
		defined,
		func(r *jsonread.Reader, _ bool) (T, error) { return read(r) },
		func(out *screen.Writer, v T) { write(out, &v) },
	)
}

// json is the codec of a type whose own JSON is its form.
func json[T any](defined, what string) (reflect.Type, codec) {
	return plain(defined, func(r *jsonread.Reader) (v T, err error) {
		err = model.ReadPlain(r, &v, what)
		return v, err
	}, func(out *screen.Writer, v *T) { model.WritePlain(out, v) })
}

var codecs = func() map[reflect.Type]codec {
	out := map[reflect.Type]codec{}
	enter := func(t reflect.Type, c codec) { out[t] = c }
	typed := func(t reflect.Type, c codec, schema map[string]any) {
		c.schema = schema
		out[t] = c
	}
	t, c := plain("", (*jsonread.Reader).String, func(out *screen.Writer, v *string) { out.String(*v) })
	typed(t, c, map[string]any{"type": "string"})
	t, c = plain("", (*jsonread.Reader).Int, func(out *screen.Writer, v *int) { out.Raw(fmt.Sprint(*v)) })
	typed(t, c, map[string]any{"type": "integer"})
	t, c = of("", func(r *jsonread.Reader, _ bool) (*int, error) {
		n, err := r.Int()
		return &n, err
	}, func(out *screen.Writer, v *int) { out.Raw(fmt.Sprint(*v)) })
	typed(t, c, map[string]any{"type": "integer"})
	t, c = plain("", (*jsonread.Reader).Bool, func(out *screen.Writer, v *bool) { out.Raw(fmt.Sprint(*v)) })
	typed(t, c, map[string]any{"type": "boolean"})
	t, c = plain("", model.ReadPackages, func(out *screen.Writer, v *map[string]string) { model.WritePackages(out, *v) })
	typed(t, c, map[string]any{"type": "object", "additionalProperties": map[string]any{"type": "string"}})
	t, c = plain("", readKind, func(out *screen.Writer, v *screen.DocKind) { out.String(string(*v)) })
	typed(t, c, map[string]any{"enum": []string{"screen", "shell", "piece"}})

	enter(of("$defs/edit", readEdits, writeEdits))
	enter(of("$defs/document", func(r *jsonread.Reader, _ bool) (*screen.Document, error) {
		return model.ReadDocument(r, screen.ScreenDoc)
	}, model.WriteDocument))
	list := out[reflect.TypeFor[[]screen.Edit]()]
	list.schema = map[string]any{"type": "array", "items": list.schema}
	out[reflect.TypeFor[[]screen.Edit]()] = list
	enter(of("$defs/signOff", func(r *jsonread.Reader, _ bool) (*screen.SignOff, error) {
		return model.ReadSignOff(r)
	}, model.WriteSignOff))
	enter(plain("$defs/state", model.ReadState, model.WriteState))
	enter(plain("$defs/houseRule", model.ReadHouse, model.WriteHouse))
	enter(plain("$defs/letStand", model.ReadStand, model.WriteStand))
	enter(plain("$defs/ownRule", model.ReadOwnRule, model.WriteOwnRule))
	enter(plain("$defs/assignment", model.ReadAssignment, model.WriteAssignment))
	enter(json[audit.Ask]("$defs/ask", "a question put to people"))
	enter(plain("$defs/answer", model.ReadAnswer, model.WriteAnswer))
	enter(plain[audit.Tuning]("$defs/ruleSetting", model.ReadTuning, model.WriteTuning))
	enter(plain[kit.Theme]("$defs/theme", model.ReadTheme, model.WriteTheme))
	enter(plain[kit.OwnIcon]("$defs/icon", model.ReadIcon, model.WriteIcon))
	enter(plain[kit.Font]("$defs/font", model.ReadFont, model.WriteFont))
	enter(plain[model.KitRef]("$defs/kit", model.ReadKitRef, func(out *screen.Writer, k *model.KitRef) { model.WriteKitRef(out, *k) }))
	t, c = of("", readCarried, writeCarried)
	typed(t, c, map[string]any{"type": "array", "items": map[string]any{
		"type": "object", "required": []string{"doc", "root"},
		"properties": map[string]any{
			"doc":    map[string]any{"type": "string"},
			"root":   map[string]any{"$ref": "workspace.schema.json#/$defs/element"},
			"states": map[string]any{"type": "array", "items": map[string]any{"$ref": "workspace.schema.json#/$defs/state"}},
		},
	}})
	enter(plain("$defs/correction", model.ReadCorrection, model.WriteCorrection))
	enter(plain("$defs/leftOut", model.ReadLeftOut, model.WriteLeftOut))
	enter(plain("$defs/model", model.ReadModel, model.WriteModel))
	enter(plain("$defs/set", model.ReadSet, model.WriteSet))
	enter(json[sample.Query]("$defs/query", "a query"))
	enter(json[sample.Source]("$defs/source", "a source"))
	enter(json[sample.Base]("$defs/base", "an address"))
	enter(json[picture.Kept]("$defs/picture", "a picture"))
	enter(json[picture.Plan]("$defs/plan", "a plan"))
	enter(json[texts.Language]("$defs/language", "a language"))
	enter(json[texts.Said]("$defs/said", "a text in a language"))
	t, c = plain("", (*jsonread.Reader).Strings, func(out *screen.Writer, v *[]string) { model.WritePlain(out, v) })
	typed(t, c, map[string]any{"type": "array", "items": map[string]any{"type": "string"}})
	t, c = json[[]Stored]("", "documents and parts")
	typed(t, c, map[string]any{"type": "array", "items": map[string]any{
		"type": "object", "required": []string{"name", "text"},
		"properties": map[string]any{"name": map[string]any{"type": "string"}, "text": map[string]any{"type": "string"}},
	}})
	t, c = plain("", readRows, writeRows)
	typed(t, c, rowsSchema)
	return out
}()

func readKind(r *jsonread.Reader) (screen.DocKind, error) {
	name, err := r.OneOf(string(screen.ScreenDoc), string(screen.ShellDoc), string(screen.PieceDoc))
	return screen.DocKind(name), err
}

func readEdits(r *jsonread.Reader, trusted bool) (list []screen.Edit, err error) {
	err = r.Array(func(int) error {
		e, err := screen.ReadEdit(r, trusted)
		list = append(list, e)
		return err
	})
	return list, err
}

func writeEdits(out *screen.Writer, list []screen.Edit) {
	out.Open('[')
	for _, e := range list {
		out.Edit(e)
	}
	out.Close(']')
}

// field is a field of a kind of step.
type field struct {
	name  string
	index int
	log   bool
	codec codec
}

// fields lists what a step of a kind holds besides "do".
func (k *Kind) fields() []field {
	out := make([]field, 0, k.typ.NumField())
	for i := range k.typ.NumField() {
		f := k.typ.Field(i)
		c, ok := codecs[f.Type]
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if !ok || name == "" {
			panic(fmt.Sprintf("change: %s.%s has no form: enter one in codecs, and tag it", k.typ, f.Name))
		}
		if key, ok := strings.CutPrefix(f.Tag.Get("do"), "key="); ok {
			keys, properties := strings.Split(key, "+"), map[string]any{}
			for _, key := range keys {
				properties[key] = map[string]any{"type": "string"}
			}
			c.schema = map[string]any{"type": "object", "required": keys, "properties": properties}
		}
		out = append(out, field{name, i, f.Tag.Get("do") == "log", c})
	}
	return out
}

// Write writes a change as one JSON text, for the log.
func Write(c Change) []byte {
	var out screen.Writer
	out.Open('{')
	out.Field("title", c.Title)
	out.Key("steps")
	out.Open('[')
	for _, s := range c.Steps {
		k, v := KindOf(s), reflect.ValueOf(s).Elem()
		out.Open('{')
		out.Field("do", k.Name)
		for _, f := range k.fields() {
			if value := v.Field(f.index); !value.IsZero() {
				out.Key(f.name)
				f.codec.write(&out, value)
			}
		}
		out.Close('}')
	}
	out.Close(']')
	out.Close('}')
	return out.B
}

// Read reads a change. trusted admits what restores, as the log holds it; what comes
// from outside is not trusted.
func Read(src []byte, trusted bool) (Change, error) {
	var c Change
	r, err := jsonread.New(src, jsonread.DefaultLimits)
	if err != nil {
		return c, err
	}
	err = r.Object(func(key string) error {
		var err error
		switch key {
		case "title":
			c.Title, err = r.String()
		case "steps":
			err = r.Array(func(i int) error {
				s, err := readStep(r, fmt.Sprintf("/steps/%d", i), trusted)
				c.Steps = append(c.Steps, s)
				return err
			})
		default:
			err = r.Unknown(key, "title", "steps")
		}
		return err
	})
	if err == nil {
		err = r.End()
	}
	return c, err
}

// readStep reads a step: its kind may stand behind its fields.
func readStep(r *jsonread.Reader, pointer string, trusted bool) (Step, error) {
	name := r.Ahead("do")
	k, known := kinds[name]
	if !known || k.Log && !trusted {
		if name == "" {
			return nil, r.FailAt(pointer, r.Offset(), "a step with do: "+namesOf(trusted), "the step does not say what it does")
		}
		return nil, r.FailAt(pointer, r.Offset(), namesOf(trusted), "the step does %q, which is not known", name)
	}
	s := k.New()
	v := reflect.ValueOf(s).Elem()
	fields := k.fields()
	err := r.Object(func(key string) error {
		if key == "do" {
			_, err := r.String()
			return err
		}
		i := slices.IndexFunc(fields, func(f field) bool { return f.name == key && (trusted || !f.log) })
		if i < 0 {
			accepted := []string{"do"}
			for _, f := range fields {
				if trusted || !f.log {
					accepted = append(accepted, f.name)
				}
			}
			return r.Unknown(key, accepted...)
		}
		return fields[i].codec.read(r, v.Field(fields[i].index), trusted)
	})
	if whole, ok := s.(interface{ complete() string }); ok && err == nil {
		if lacks := whole.complete(); lacks != "" {
			err = r.Fail("a whole step", "%s: %s", k.Name, lacks)
		}
	}
	return s, err
}

func namesOf(trusted bool) string {
	var out []string
	for _, name := range slices.Sorted(maps.Keys(kinds)) {
		if trusted || !kinds[name].Log {
			out = append(out, name)
		}
	}
	return strings.Join(out, ", ")
}

// Schema is the JSON Schema (2020-12) of a change as it is sent, made of the kinds.
func Schema() map[string]any {
	var steps []any
	for _, k := range Kinds() {
		if k.Log {
			continue
		}
		props := map[string]any{"do": map[string]any{"const": k.Name}}
		for _, f := range k.fields() {
			if !f.log {
				props[f.name] = f.codec.schema
			}
		}
		steps = append(steps, map[string]any{
			"type":                 "object",
			"description":          strings.ToUpper(k.Does[:1]) + k.Does[1:] + ". Needs the role " + string(k.Role) + ".",
			"required":             []string{"do"},
			"additionalProperties": false,
			"properties":           props,
		})
	}
	return map[string]any{
		"$schema":              "https://json-schema.org/draft/2020-12/schema",
		"$id":                  "change.schema.json",
		"title":                "A change of a workspace",
		"description":          "Steps that are taken, logged and undone as one: all of them or none.",
		"type":                 "object",
		"required":             []string{"steps"},
		"additionalProperties": false,
		"properties": map[string]any{
			"title": map[string]any{"type": "string"},
			"steps": map[string]any{"type": "array", "minItems": 1, "items": map[string]any{"oneOf": steps}},
		},
	}
}
