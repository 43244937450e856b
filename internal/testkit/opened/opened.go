// Package opened gives tests the demo workspace live, and what its screens look like.
package opened

import (
	"encoding/json"
	"fmt"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
)

// byName is where a control's value goes by its name, whatever pieces it stands in.
var byName = regexp.MustCompile(`(data-holds="[^"|]*\|[^"|]*\|)[^"]*|set:[^:|"]*=`)

// Demo is the demo workspace, live.
func Demo(t testing.TB) *live.Live {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	return live.Open(w, testkit.Sorrel(t), "2026-11-23")
}

var marks = regexp.MustCompile(` data-e="[^"]*"`)
var opens = regexp.MustCompile(`\b(?:open|close):[^|"]*`)
var looksAt = regexp.MustCompile(`\bcheck:[^|"]*`)
var keys = regexp.MustCompile(`"key":"([^"]*)"`)

// Look is what a document shows, without the ids of its elements.
func Look(t testing.TB, l *live.Live, doc string) string { return LookIn(t, l, doc, live.View{}) }

// LookIn is what a document shows in a view; what its controls hold goes by no name.
func LookIn(t testing.TB, l *live.Live, doc string, v live.View) string {
	page, _, err := l.Page(doc, v)
	require.NoError(t, err)
	var props []string
	for _, p := range page.Props {
		b, err := json.Marshal(p)
		require.NoError(t, err)
		props = append(props, string(b))
	}
	slices.Sort(props)
	// What a press opens is told by its place, whatever its key.
	at := map[string]string{}
	for i, m := range marks.FindAllString(page.HTML, -1) {
		at[strings.Trim(strings.TrimPrefix(m, ` data-e=`), `"`)] = fmt.Sprint(i)
	}
	html := opens.ReplaceAllStringFunc(page.HTML, func(s string) string {
		verb, key, _ := strings.Cut(s, ":")
		key, err := url.PathUnescape(key)
		require.NoError(t, err)
		require.Contains(t, at, key)
		return verb + ":" + at[key]
	})
	html = looksAt.ReplaceAllStringFunc(html, func(s string) string {
		fields, err := url.PathUnescape(s)
		require.NoError(t, err)
		return keys.ReplaceAllStringFunc(fields, func(s string) string {
			key := keys.FindStringSubmatch(s)[1]
			require.Contains(t, at, key)
			return "at:" + at[key]
		})
	})
	html = byName.ReplaceAllString(html, "$1")
	return marks.ReplaceAllString(html, "") + strings.Join(props, "\n")
}

// Looks is what every screen and shell shows, by address.
func Looks(t testing.TB, l *live.Live) map[string]string {
	out := map[string]string{}
	for _, d := range l.W.Docs {
		if !d.Removed && d.Kind != screen.PieceDoc {
			out[d.Address()] = Look(t, l, d.Address())
		}
	}
	return out
}

// Same compares what documents show, and tells the first that differs in short.
func Same(t require.TestingT, a, b map[string]string) {
	for doc, was := range a {
		if is := b[doc]; is != was {
			i := 0
			for i < min(len(is), len(was)) && is[i] == was[i] {
				i++
			}
			from := max(0, i-60)
			require.Equal(t, was[from:min(len(was), i+80)], is[from:min(len(is), i+80)], doc)
		}
	}
}

// Take takes steps as one change, with what follows from it.
func Take(t require.TestingT, l *live.Live, steps ...change.Step) change.Taken {
	c, _ := change.Follow(l.W, change.Change{Title: "data", Steps: steps}, l.Cat, l)
	// As a change goes through the log.
	read, err := change.Read(change.Write(c), true)
	require.NoError(t, err)
	taken, err := l.Take(read)
	require.NoError(t, err)
	return taken
}

// At finds the element on a screen that a selector means, the first.
func At(t testing.TB, l *live.Live, doc, selector string) string {
	sel, err := screen.ParseSelector(selector)
	require.NoError(t, err)
	id := ""
	l.Where(sel, func(d *screen.Document, e *screen.Element) {
		if id == "" && d.Address() == doc {
			id = e.ID
		}
	})
	require.NotEmpty(t, id, "%s on %s", selector, doc)
	return id
}

// Doc is a document that is there.
func Doc(t testing.TB, l *live.Live, key string) *screen.Document {
	d, ok := l.W.Doc(key)
	require.True(t, ok, key)
	return d
}

// Set is the step that sets a prop of an element.
func Set(doc, id, prop string, v screen.Value) change.Step {
	return &change.Edit{
		Doc:   doc,
		Edits: []screen.Edit{{Op: screen.Set, ID: id, Prop: prop, Value: v}},
	}
}
