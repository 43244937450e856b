package sample

import "strings"

// Query is a list made of another: records grouped by fields, with values computed of
// each group. Screens repeat over it as over a model, whose id is the query's.
type Query struct {
	ID    string       `json:"id"`
	Name  string       `json:"name"`
	From  string       `json:"from"`            // model
	Where string       `json:"where,omitempty"` // expression over record
	Group []string     `json:"group,omitempty"` // fields; "bed.soil" is one of the record referred to
	Each  []QueryValue `json:"each,omitempty"`
	Sort  string       `json:"sort,omitempty"` // of the query's own fields, see Keys
	Limit int          `json:"limit,omitempty"`
}

// QueryValue is one value of each group.
type QueryValue struct {
	Name string `json:"name"`
	// Do is count, sum, average, least, most or distinct.
	Do    string `json:"do"`
	Field string `json:"field,omitempty"` // not of count
}

// QueryDoes lists what can be computed of a group.
var QueryDoes = []string{"count", "sum", "average", "least", "most", "distinct"}

// GroupName is the name of the field that a group's path gives: "bed.soil" is bedSoil.
func GroupName(path string) string {
	first, rest, _ := strings.Cut(path, ".")
	if rest == "" {
		return first
	}
	return first + strings.ToUpper(rest[:1]) + rest[1:]
}
