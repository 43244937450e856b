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

// IDForm says in words what ValidID takes.
const IDForm = "letters, digits, dots, dashes and underscores, at most 64, the first a letter or digit"

var idForm = regexp.MustCompile(`^[A-Za-z0-9][A-Za-z0-9._-]{0,63}$`)

// ValidID tells whether a text can be the id of an element. Ids stand in addresses, in
// delivered code and in the keys of what repeats.
func ValidID(s string) bool { return idForm.MatchString(s) }

// Misnamed says what is wrong with the id or the name of an element; empty for nothing.
func Misnamed(e *Element) string {
	switch {
	case !ValidID(e.ID):
		return strconv.Quote(short(e.ID)) + " cannot be an element's id; accepted: " + IDForm
	case e.Name != "" && !ValidName(e.Name):
		return strconv.Quote(short(e.Name)) + " cannot be an element's name; accepted: " + NameForm
	}
	return ""
}

// short is enough of a text to know it by.
func short(s string) string {
	if len(s) > 40 {
		return s[:40] + "…"
	}
	return s
}
