package api

import (
	"bytes"
	"context"
	"encoding/json"
	"log/slog"
	"reflect"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What a handler forgets to make is empty in the answer, as described, never null: each
// route's answer with nothing in it, and with one empty thing in each of its lists.
func TestAnswersWithNothingInThemAreAsDescribed(t *testing.T) {
	s, err := New(context.Background(), Parts{Log: slog.Default()})
	require.NoError(t, err)
	text, err := s.Spec()
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	require.NoError(t, err)
	described := jsonschema.NewCompiler()
	require.NoError(t, described.AddResource("all.json", doc))
	for _, r := range s.Routes() {
		path := strings.ReplaceAll(r.Path, "/", "~1")
		for _, part := range strings.Split(r.Path, "/") {
			if strings.HasPrefix(part, ":") {
				path = strings.Replace(path, part, "%7B"+part[1:]+"%7D", 1)
			}
		}
		at := path + "/" + strings.ToLower(r.Method) + "/responses/200/content/application~1json/schema"
		form, err := described.Compile("all.json#/paths/" + at)
		if err != nil && reflect.TypeOf(r.out).Elem().NumField() == 0 {
			continue // nothing is answered
		}
		require.NoError(t, err)
		for _, depth := range []int{0, 1, 2, 3, 4} {
			out := reflect.New(reflect.TypeOf(r.out).Elem())
			fill(out.Elem(), depth)
			said, err := answered(out.Interface())
			require.NoError(t, err)
			read, err := jsonschema.UnmarshalJSON(bytes.NewReader(said))
			require.NoError(t, err)
			if err := form.Validate(read); err != nil {
				// A tree that is always there is not made up here.
				assert.NotContains(t, err.Error(), "got null, want array", r.Path)
			}
		}
	}
}

// fill puts one empty thing into each list and behind each pointer, so deep.
func fill(v reflect.Value, depth int) {
	if depth == 0 || !v.CanSet() {
		return
	}
	if _, own := v.Interface().(json.Marshaler); own {
		return
	}
	switch v.Kind() {
	case reflect.Struct:
		for i := range v.NumField() {
			fill(v.Field(i), depth)
		}
	case reflect.Pointer:
		v.Set(reflect.New(v.Type().Elem()))
		fill(v.Elem(), depth-1)
	case reflect.Slice:
		if v.Type().Elem().Kind() == reflect.Struct || v.Type().Elem().Kind() == reflect.Pointer {
			v.Set(reflect.MakeSlice(v.Type(), 1, 1))
			fill(v.Index(0), depth-1)
		}
	}
}
