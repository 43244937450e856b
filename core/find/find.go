// Package find searches a kit, its icons and tokens, screens and commands by any
// word one would think of, tolerant of word order and typing slips, and says why
// each thing matched.
package find

import (
	"math"
	"slices"
	"strings"
	"unicode"

	"ubiquant/core/kit"
)

// Field is one searchable text of an entry.
type Field struct {
	What   string // "name", "alias", "purpose", "prop", "value", "meaning" …
	Text   string
	Weight float64 // how much a match here counts
}

// Entry is one thing that can be found.
type Entry struct {
	Kind   string  `json:"kind"` // component, icon, token, screen, element, finding, command
	ID     string  `json:"id"`
	Title  string  `json:"title"`
	Hint   string  `json:"hint,omitempty"`
	Uses   int     `json:"uses,omitempty"`
	Fields []Field `json:"-"`
}

// Match is an entry that was found.
type Match struct {
	Entry
	Score float64 `json:"score"`
	Why   string  `json:"why"` // empty when the name itself matched
}

// Index is a set of entries prepared for searching. It is never changed and may
// be searched at once from several sides.
type Index struct {
	entries []Entry
	words   [][][]string // of each field of each entry
	joined  [][]string   // the same, written together
}

// New prepares entries.
func New(entries []Entry) *Index {
	ix := &Index{entries: entries, words: make([][][]string, len(entries)), joined: make([][]string, len(entries))}
	for i := range entries {
		ix.words[i] = make([][]string, len(entries[i].Fields))
		ix.joined[i] = make([]string, len(entries[i].Fields))
		for j, f := range entries[i].Fields {
			ix.words[i][j] = split(f.Text)
			ix.joined[i][j] = strings.Join(ix.words[i][j], "")
		}
	}
	return ix
}

// Search is New and Index.Search at once.
func Search(entries []Entry, query string, most int) []Match { return New(entries).Search(query, most) }

// fillers say nothing about what is meant.
var fillers = map[string]bool{
	"a":     true,
	"an":    true,
	"the":   true,
	"of":    true,
	"for":   true,
	"with":  true,
	"to":    true,
	"in":    true,
	"on":    true,
	"at":    true,
	"as":    true,
	"is":    true,
	"and":   true,
	"or":    true,
	"my":    true,
	"i":     true,
	"how":   true,
	"that":  true,
	"which": true,
	"some":  true,
}

// content drops the fillers, unless there is nothing else.
func content(words []string) []string {
	out := slices.DeleteFunc(slices.Clone(words), func(w string) bool { return fillers[w] })
	if len(out) == 0 {
		return words
	}
	return out
}

// enough is how many full matches make those that lack a word superfluous.
const enough = 3

// Search ranks the entries that hold every word of the query in some field. Where
// those are few, entries follow that lack words which say little: each word weighs
// by how rare it is among the entries (inverse document frequency, Spärck Jones,
// 1972), and at least half of the query's weight must be met. most bounds how
// many; 0 is all.
func (ix *Index) Search(query string, most int) []Match {
	asked := split(query)
	words := content(asked)
	scores := make([][]float64, len(words)) // by word, entry
	reasons := make([][]string, len(words))
	rarity := make([]float64, len(words))
	for w, word := range words {
		scores[w], reasons[w] = make([]float64, len(ix.entries)), make([]string, len(ix.entries))
		met := 0
		for i := range ix.entries {
			e := &ix.entries[i]
			for j := range e.Fields {
				f := &e.Fields[j]
				if s := score(ix.words[i][j], word) * f.Weight; s > scores[w][i] {
					scores[w][i], reasons[w][i] = s, f.why()
				}
			}
			if scores[w][i] > 0 {
				met++
			}
		}
		if met > 0 { // a word that nothing here holds tells nothing apart
			rarity[w] = math.Log(1 + float64(len(ix.entries))/float64(met))
		}
	}
	var full, part []Match
	joined := strings.Join(asked, "")
	for i := range ix.entries {
		e := &ix.entries[i]
		total, met, all, missed, why := 0.0, 0.0, 0.0, 0, ""
		for w := range words {
			all += rarity[w]
			if scores[w][i] == 0 {
				missed++
				continue
			}
			total += scores[w][i]
			met += rarity[w]
			if why == "" {
				why = reasons[w][i]
			}
		}
		// A field that is what was asked, word for word, is meant before those that
		// only hold the words.
		if len(asked) > 0 {
			for j := range e.Fields {
				if f := &e.Fields[j]; f.Weight >= 4 && ix.joined[i][j] == joined &&
					f.Weight*float64(len(asked))*1.5 > total {
					total, why, missed = f.Weight*float64(len(asked))*1.5, f.why(), 0
				}
			}
		}
		// Use breaks ties only: a hundred uses weigh less than one better match.
		use := min(float64(e.Uses), 100) / 1000
		switch {
		case missed == 0 && (total > 0 || len(words) == 0):
			full = append(full, Match{*e, total + use, why})
		case missed > 0 && total > 0 && met >= all/2:
			// Weaker than any full match, the stronger the more of the query it meets.
			part = append(part, Match{*e, (total*met/all + use) / 100, why})
		}
	}
	rank(full)
	if len(full) < enough {
		rank(part)
		full = append(full, part...)
	}
	if most > 0 && len(full) > most {
		full = full[:most]
	}
	return full
}

func rank(list []Match) {
	slices.SortStableFunc(list, func(a, b Match) int {
		switch {
		case a.Score > b.Score:
			return -1
		case a.Score < b.Score:
			return 1
		}
		return strings.Compare(a.Title, b.Title)
	})
}

// why says which field matched; nothing where it was the name.
func (f *Field) why() string {
	if f.What == "name" {
		return ""
	}
	return f.What + " “" + f.Text + "”"
}

func split(s string) []string {
	return strings.FieldsFunc(
		strings.ToLower(s),
		func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) },
	)
}

// score compares a query word with the words of a text: 1 for equal, less for a
// plural, a beginning, a middle, or one slip (a letter missing, added, changed or
// swapped).
func score(words []string, word string) float64 {
	best := 0.0
	for _, w := range words {
		s := 0.0
		switch {
		case w == word:
			return 1
		case plural(w, word) || plural(word, w):
			s = 0.95
		case strings.HasPrefix(w, word):
			s = 0.8
		case len(word) >= 3 && strings.Contains(w, word):
			s = 0.5
		case len(word) >= 4 && slip(w, word):
			s = 0.4
		case len(word) >= 5 && len(w) >= len(word) && slip(w[:len(word)], word):
			s = 0.3
		}
		best = max(best, s)
	}
	if best < 0.9 && len(words) > 1 && isJoined(words, word) {
		best = 0.9
	}
	return best
}

func plural(one, many string) bool {
	rest, ok := strings.CutPrefix(many, one)
	return ok && (rest == "s" || rest == "es")
}

// isJoined reports whether the words written together are the word.
func isJoined(words []string, word string) bool {
	for _, w := range words {
		rest, ok := strings.CutPrefix(word, w)
		if !ok {
			return false
		}
		word = rest
	}
	return word == ""
}

// slip reports an edit distance of one, counting a swap of neighbours as one.
func slip(a, b string) bool {
	if len(a) < len(b) {
		a, b = b, a
	}
	if len(a)-len(b) > 1 {
		return false
	}
	i := 0
	for i < len(b) && a[i] == b[i] {
		i++
	}
	if len(a) > len(b) {
		return a[i+1:] == b[i:]
	}
	if i == len(b) {
		return true
	}
	return a[i+1:] == b[i+1:] || (i+1 < len(a) && a[i] == b[i+1] && a[i+1] == b[i] && a[i+2:] == b[i+2:])
}

// Kit makes entries of a kit: components, icons and tokens.
func Kit(k *kit.Kit, all []*kit.Component, uses func(typ string) int) []Entry {
	var out []Entry
	for _, c := range all {
		e := Entry{Kind: "component", ID: c.Tag, Title: c.Title, Hint: c.Summary, Uses: uses(c.Tag)}
		e.Fields = append(
			e.Fields,
			Field{"name", c.Title, 10},
			Field{"name", c.Tag, 8},
			Field{"purpose", c.Summary, 2},
			Field{"family", c.Family, 1},
		)
		for _, a := range c.Aliases {
			e.Fields = append(e.Fields, Field{"also called", a, 7})
		}
		for _, p := range c.Props {
			e.Fields = append(e.Fields, Field{"prop", p.Name, 4}, Field{"purpose", p.Summary, 1})
			for _, v := range p.Values {
				e.Fields = append(e.Fields, Field{p.Name, v, 3})
			}
		}
		for _, s := range c.Slots {
			e.Fields = append(e.Fields, Field{"slot", s.Name, 3}, Field{"purpose", s.Summary, 1})
		}
		out = append(out, e)
	}
	for _, i := range k.Icons {
		e := Entry{
			Kind:   "icon",
			ID:     i.Name,
			Title:  i.Name,
			Hint:   strings.Join(i.Meanings, ", "),
			Fields: []Field{{"name", i.Name, 6}, {"kind", "icon sign", 1}},
		}
		for _, m := range i.Meanings {
			e.Fields = append(e.Fields, Field{"means", m, 5})
		}
		out = append(out, e)
	}
	for _, t := range k.Tokens.List {
		out = append(
			out,
			Entry{
				Kind:   "token",
				ID:     t.Path,
				Title:  t.Path,
				Hint:   t.Values[k.Tokens.Themes[0]],
				Fields: []Field{{"name", t.Path, 4}, {"type", t.Type, 2}},
			},
		)
	}
	return out
}
