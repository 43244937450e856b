// Package targets lists all delivery targets. A new one is a row here.
package targets

import (
	"ubiquant/core/deliver"
	"ubiquant/core/deliver/angular"
	"ubiquant/core/deliver/html"
	"ubiquant/core/deliver/react"
	"ubiquant/core/deliver/vue"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// All lists the targets in the order they are offered.
func All() []deliver.Target {
	return []deliver.Target{vue.Target, react.Target, angular.Target, html.Target}
}

// Code writes an element as it stands in code, by the id of each target whose code can use
// the kit.
func Code(k *kit.Kit, cat kit.Catalog, e *screen.Element) map[string]string {
	out := map[string]string{}
	for _, t := range All() {
		if t.Refuses(k) == "" {
			out[t.ID] = t.Element(k, cat, e)
		}
	}
	return out
}

// Find returns a target by id.
func Find(id string) (deliver.Target, bool) {
	for _, t := range All() {
		if t.ID == id {
			return t, true
		}
	}
	return deliver.Target{}, false
}
