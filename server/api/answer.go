package api

import (
	"github.com/go-json-experiment/json"
	jsonv1 "github.com/go-json-experiment/json/v1"
)

// answered writes an answer or an event as the description promises it: a list or a table
// without anything in it is an empty one, never null, whoever forgot to make it. Everything
// else is as encoding/json writes it.
func answered(v any) ([]byte, error) {
	return json.Marshal(
		v,
		jsonv1.DefaultOptionsV1(),
		json.FormatNilSliceAsNull(false),
		json.FormatNilMapAsNull(false),
	)
}
