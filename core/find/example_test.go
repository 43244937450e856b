package find_test

import (
	"fmt"

	"ubiquant/core/find"
)

// Entries are found by any of their words, slips of the fingers included.
func ExampleSearch() {
	entries := []find.Entry{
		{
			Kind:  "component",
			ID:    "x-dialog",
			Title: "dialog",
			Fields: []find.Field{
				{What: "name", Text: "dialog", Weight: 12},
				{What: "also called", Text: "popup", Weight: 8},
			},
		},
		{
			Kind:   "component",
			ID:     "x-card",
			Title:  "card",
			Fields: []find.Field{{What: "name", Text: "card", Weight: 12}},
		},
	}
	for _, query := range []string{"popup", "dialgo"} {
		for _, m := range find.Search(entries, query, 5) {
			fmt.Println(query, "finds", m.Title)
		}
	}
	// Output:
	// popup finds dialog
	// dialgo finds dialog
}
