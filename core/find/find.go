// Package find searches a kit, its icons and tokens, screens and commands by any
// word one would think of, tolerant of word order and typing slips, and says why
// each thing matched.
package find

import (
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

// Search ranks the entries that hold every word of the query in some field.
func Search(entries []Entry, query string, most int) []Match {
	words := split(query)
	var out []Match
	for i := range entries {
		e := &entries[i]
		total, why := 0.0, ""
		for _, w := range words {
			best, reason := 0.0, ""
			for _, f := range e.Fields {
				if s := score(f.Text, w) * f.Weight; s > best {
					best, reason = s, ""
					if f.What != "name" {
						reason = f.What + " “" + f.Text + "”"
					}
				}
			}
			if best == 0 {
				total = 0
				break
			}
			total += best
			if reason != "" && why == "" {
				why = reason
			}
		}
		if total > 0 || len(words) == 0 {
			// Use breaks ties only: a hundred uses weigh less than one better match.
			total += min(float64(e.Uses), 100) / 1000
			out = append(out, Match{*e, total, why})
		}
	}
	slices.SortStableFunc(out, func(a, b Match) int {
		switch {
		case a.Score > b.Score:
			return -1
		case a.Score < b.Score:
			return 1
		}
		return strings.Compare(a.Title, b.Title)
	})
	if most > 0 && len(out) > most {
		out = out[:most]
	}
	return out
}

func split(s string) []string {
	return strings.FieldsFunc(strings.ToLower(s), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
}

// score compares a query word with the words of a text: 1 for equal, less for a
// beginning, a middle, or one slip (a letter missing, added, changed or swapped).
func score(text, word string) float64 {
	best := 0.0
	for _, w := range split(text) {
		s := 0.0
		switch {
		case w == word:
			s = 1
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
	if joined := strings.Join(split(text), ""); best < 0.9 && joined == word {
		best = 0.9
	}
	return best
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
		e.Fields = append(e.Fields, Field{"name", c.Title, 10}, Field{"name", c.Tag, 8}, Field{"purpose", c.Summary, 2}, Field{"family", c.Family, 1})
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
		e := Entry{Kind: "icon", ID: i.Name, Title: i.Name, Hint: strings.Join(i.Meanings, ", "), Fields: []Field{{"name", i.Name, 6}}}
		for _, m := range i.Meanings {
			e.Fields = append(e.Fields, Field{"means", m, 5})
		}
		out = append(out, e)
	}
	for _, t := range k.Tokens.List {
		out = append(out, Entry{Kind: "token", ID: t.Path, Title: t.Path, Hint: t.Values[k.Tokens.Themes[0]], Fields: []Field{{"name", t.Path, 4}, {"type", t.Type, 2}}})
	}
	return out
}
