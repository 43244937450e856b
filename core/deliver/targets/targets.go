// Package targets lists all delivery targets. A new one is a row here.
package targets

import (
	"ubiquant/core/deliver"
	"ubiquant/core/deliver/html"
	"ubiquant/core/deliver/vue"
)

// All lists the targets in the order they are offered.
func All() []deliver.Target { return []deliver.Target{vue.Target, html.Target} }

// Find returns a target by id.
func Find(id string) (deliver.Target, bool) {
	for _, t := range All() {
		if t.ID == id {
			return t, true
		}
	}
	return deliver.Target{}, false
}
