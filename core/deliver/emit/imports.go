package emit

import (
	"cmp"
	"maps"
	"slices"
	"strings"
)

// Imports are what a file takes from other modules. They follow from what its code refers
// to: nothing is imported that is not used.
type Imports struct {
	names *Names
	of    map[string]map[string]string // local names by module and what is taken
	only  map[string]map[string]bool   // what is taken as a type alone
	bare  []string                     // modules taken for what they do
}

// NewImports are those of a file whose names are given.
func NewImports(names *Names) *Imports {
	return &Imports{names: names, of: map[string]map[string]string{}, only: map[string]map[string]bool{}}
}

// Value is the local name of something taken from a module: "default" is what it gives
// without a name, wanted then says how to call it.
func (i *Imports) Value(module, what, wanted string) string {
	return i.take(module, what, wanted, false)
}

// Type is Value for what only types speak of.
func (i *Imports) Type(module, what string) string { return i.take(module, what, "", true) }

// TypeCalled is Type for what a module gives without a name, and how to call it.
func (i *Imports) TypeCalled(module, what, wanted string) string {
	return i.take(module, what, wanted, true)
}

func (i *Imports) take(module, what, wanted string, typ bool) string {
	if i.of[module] == nil {
		i.of[module], i.only[module] = map[string]string{}, map[string]bool{}
	}
	if local, ok := i.of[module][what]; ok {
		if !typ {
			i.only[module][what] = false
		}
		return local
	}
	local := i.names.Import(cmp.Or(wanted, what))
	i.of[module][what], i.only[module][what] = local, typ
	return local
}

// Bare takes a module for what it does.
func (i *Imports) Bare(module string) {
	if !slices.Contains(i.bare, module) {
		i.bare = append(i.bare, module)
	}
}

// Doc writes the statements: modules of packages first, then those of the application.
func (i *Imports) Doc(s Style) Doc {
	var out concat
	for _, m := range i.bare {
		out = append(out, "import "+s.Quote(m), s.end(), hardline)
	}
	modules := slices.SortedFunc(maps.Keys(i.of), func(a, b string) int {
		return cmp.Or(cmp.Compare(rank(a), rank(b)), strings.Compare(a, b))
	})
	for _, module := range modules {
		var names []Doc
		first, types := "", true
		for _, what := range slices.Sorted(maps.Keys(i.of[module])) {
			types = types && i.only[module][what]
		}
		for _, what := range slices.Sorted(maps.Keys(i.of[module])) {
			local := i.of[module][what]
			if what == "default" {
				first = local
				continue
			}
			name := what
			if local != what {
				name += " as " + local
			}
			if i.only[module][what] && !types {
				name = "type " + name
			}
			names = append(names, name)
		}
		head := "import "
		if types {
			head = "import type "
		}
		parts := []Doc{head, first}
		if first != "" && len(names) > 0 {
			parts = append(parts, ", ")
		}
		if len(names) > 0 {
			parts = append(parts, grouped("{", nest(space, joined(cat(",", space), names), ifBreak{",", ""}), space, "}"))
		}
		out = append(out, cat(parts...), " from "+s.Quote(module), s.end(), hardline)
	}
	return out
}

// rank puts packages before modules of the application, far ones before near ones.
func rank(module string) int {
	switch {
	case strings.HasPrefix(module, "./"):
		return 2
	case strings.HasPrefix(module, "."):
		return 1
	}
	return 0
}

// Empty tells whether nothing is taken.
func (i *Imports) Empty() bool { return len(i.of) == 0 && len(i.bare) == 0 }
