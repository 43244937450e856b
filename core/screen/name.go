package screen

import (
	"regexp"
	"strconv"
	"strings"
)

var notPlain = regexp.MustCompile(`[^a-z0-9]+`)

// PlainName makes a name that begins with a letter and holds letters, digits and dashes.
func PlainName(s string) string {
	s = strings.Trim(notPlain.ReplaceAllString(strings.ToLower(s), "-"), "-")
	if s == "" || s[0] < 'a' {
		s = strings.TrimRight("part-"+s, "-")
	}
	if len(s) > 40 {
		s = strings.Trim(s[:40], "-")
	}
	return s
}

// FreeName is a name that is not taken yet, numbered where it must be, and takes it.
func FreeName(taken map[string]bool, name string) string {
	out := name
	for n := 2; taken[out]; n++ {
		out = name + "-" + strconv.Itoa(n)
	}
	taken[out] = true
	return out
}

// NameForm says in words what ValidName takes.
const NameForm = "a letter, then letters, digits and dashes, at most 64"

// ValidName tells whether a text can be the name of an element or a piece's prop: it
// begins with a letter and holds letters, digits and dashes, at most 64.
func ValidName(s string) bool {
	if len(s) > 64 {
		return false
	}
	for i, r := range s {
		letter := r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z'
		if !letter && (i == 0 || !(r >= '0' && r <= '9' || r == '-')) {
			return false
		}
	}
	return s != ""
}
