package describe

import (
	"slices"
	"strings"
)

// IconFamily holds the components of a library that are one icon each.
const IconFamily = "icons"

// fewestIcons is how many components that are called icons and are set alike are taken for
// icons: fewer may each be something of its own.
const fewestIcons = 8

// icons are those of a library's components that are one picture each: their names (in lower
// case, with dashes) have "icon" at one end and something more, and they are set alike.
func icons[T any](list []T, name func(T) string, props func(T) []string) []T {
	called := map[string][]T{}
	for _, c := range list {
		n := name(c)
		if strings.HasSuffix(n, "-icon") || strings.HasPrefix(n, "icon-") {
			set := slices.Sorted(slices.Values(props(c)))
			called[strings.Join(set, " ")] = append(called[strings.Join(set, " ")], c)
		}
	}
	var out []T
	for _, alike := range called {
		if len(alike) >= fewestIcons {
			out = append(out, alike...)
		}
	}
	return out
}

// Icons are the entries that are one picture each.
func (c *Catalog) Icons() []*Entry {
	list := make([]*Entry, len(c.Entries))
	for i := range c.Entries {
		list[i] = &c.Entries[i]
	}
	return icons(list, func(e *Entry) string { return withoutLibrary(e.ID) }, func(e *Entry) []string {
		names := make([]string, 0, len(e.Props))
		for _, p := range e.Props {
			names = append(names, p.Name)
		}
		return names
	})
}
