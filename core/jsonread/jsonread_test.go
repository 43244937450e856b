package jsonread_test

import (
	"errors"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/jsonread"
)

func TestErrorsSayWhereAndWhatIsAccepted(t *testing.T) {
	src := "{\n \"list\": [\n  1,\n  \"two\"\n ]\n}"
	r, err := jsonread.New([]byte(src), jsonread.DefaultLimits)
	require.NoError(t, err)
	err = r.Object(func(string) error {
		return r.Array(func(int) error { _, err := r.Int(); return err })
	})
	var e *jsonread.Error
	require.True(t, errors.As(err, &e))
	assert.Equal(t, "/list/1", e.Pointer)
	assert.Equal(t, 4, e.Line)
	assert.Equal(t, "a whole number", e.Accepts)
	assert.Contains(t, e.Error(), "found a text")
}

func TestLimitsAndBrokenTextsEndInErrors(t *testing.T) {
	small := jsonread.Limits{Bytes: 400, Depth: 5, Values: 30}
	cases := map[string]string{
		"too large":      `"` + strings.Repeat("x", 500) + `"`,
		"too deep":       strings.Repeat("[", 9) + strings.Repeat("]", 9),
		"too many":       "[" + strings.Repeat("[],", 40) + "[]]",
		"not closed":     `[1, 2`,
		"not JSON":       `[1,, 2]`,
		"more after it":  `[] []`,
		"two equal keys": `[{"a":[],"a":[]}]`,
		"broken letters": "[\"\xff\"]",
	}
	for name, src := range cases {
		t.Run(name, func(t *testing.T) {
			r, err := jsonread.New([]byte(src), small)
			var visit func() error
			visit = func() error {
				switch r.Kind() {
				case '[':
					return r.Array(func(int) error { return visit() })
				case '{':
					return r.Object(func(string) error { return visit() })
				}
				_, err := r.Raw()
				return err
			}
			if err == nil {
				if err = visit(); err == nil {
					err = r.End()
				}
			}
			var e *jsonread.Error
			require.True(t, errors.As(err, &e), "%v", err)
			assert.NotEmpty(t, e.Message)
			assert.Positive(t, e.Line)
		})
	}
}
