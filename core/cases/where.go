package cases

import (
	"fmt"
	"net/url"
	"slices"
	"strings"
	"sync"

	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/usage"
)

// factNames are the facts as they are written down.
var factNames = [Facts]string{
	App: "application", Shell: "shell", Main: "mostly", Route: "route", Dialog: "inside", Place: "place", Outer: "outer",
	Parent: "parent", Does: "does", Says: "says", Field: "field", Type: "type", Prev: "after", Next: "before",
	Position: "position", Content: "holds", Host: "host", Thing: "about", Sort: "sort", Owner: "owner",
}

// Condition is one fact that must be so, or must not.
type Condition struct {
	Fact Fact
	Word string
	Not  bool
}

// WriteWhere writes conditions as a text that ParseWhere reads back: "mostly=sorrel-form; inside!=".
func WriteWhere(list []Condition) string {
	parts := make([]string, len(list))
	for i, c := range list {
		parts[i] = factNames[c.Fact] + map[bool]string{true: "!=", false: "="}[c.Not] + url.QueryEscape(c.Word)
	}
	return strings.Join(parts, "; ")
}

// ParseWhere reads conditions; each holds one fact.
func ParseWhere(text string) ([]Condition, error) {
	var out []Condition
	for part := range strings.SplitSeq(text, ";") {
		if part = strings.TrimSpace(part); part == "" {
			continue
		}
		name, word, ok := strings.Cut(part, "=")
		if !ok {
			return nil, fmt.Errorf("%q says no fact; accepted: a fact, = or !=, and a word", part)
		}
		name, not := strings.CutSuffix(name, "!")
		fact := slices.Index(factNames[:], strings.TrimSpace(name))
		if fact < 0 {
			return nil, fmt.Errorf("%q is no fact; accepted: %s", name, strings.Join(factNames[:], ", "))
		}
		word, err := url.QueryUnescape(word)
		if err != nil {
			return nil, fmt.Errorf("%q: %w", part, err)
		}
		out = append(out, Condition{Fact(fact), word, not})
	}
	return out, nil
}

// Facets tells for elements whether conditions hold. It is safe for concurrent use.
type Facets struct {
	mu     sync.Mutex
	reader *Reader
	parsed map[string][]Condition
}

// NewFacets reads against a catalog and models.
func NewFacets(cat kit.Catalog, models map[string]*sample.Model) *Facets {
	return &Facets{reader: NewReader(NewBook(), cat, models), parsed: map[string][]Condition{}}
}

// Hold tells whether what is written in where holds for an element; what cannot be read never does.
func (f *Facets) Hold(d *usage.Doc, element, where string) bool {
	if where == "" {
		return true
	}
	f.mu.Lock()
	defer f.mu.Unlock()
	list, ok := f.parsed[where]
	if !ok {
		var err error
		if list, err = ParseWhere(where); err != nil {
			list = []Condition{{Fact: App, Word: "\x00"}}
		}
		f.parsed[where] = list
	}
	use := slices.IndexFunc(d.Uses, func(u usage.Use) bool { return u.Element.ID == element })
	if use < 0 {
		return false
	}
	ctx := &f.reader.open(d).ctx[use]
	for _, c := range list {
		if (f.reader.Text(ctx[c.Fact]) == c.Word) == c.Not {
			return false
		}
	}
	return true
}
