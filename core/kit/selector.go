package kit

import (
	"regexp"
	"strings"
)

// Selector is one way in which a component of Angular is written: a tag, attributes, or both.
type Selector struct {
	Tag     string   // empty where any element may bear the attributes
	Attrs   []string // their names, in order
	Values  []string // what each has to hold; empty where it only has to be there
	Classes []string
}

// selectorPart is a tag, [name], [name=value], .class or :not(…).
var selectorPart = regexp.MustCompile(`^(?:([A-Za-z][\w-]*)|\[\s*([\w.:-]+)\s*(?:=\s*["']?([^"'\]]*)["']?\s*)?\]|\.([\w-]+)|:not\([^)]*\))`)

// ParseSelector reads the ways of a selector, as "button[acButton], a[acButton]" has two.
// What an element must not be is passed over; a way that says where an element stands is left
// out.
func ParseSelector(text string) []Selector {
	var out []Selector
	for way := range strings.SplitSeq(text, ",") {
		var s Selector
		rest := strings.TrimSpace(way)
		for rest != "" {
			part := selectorPart.FindStringSubmatch(rest)
			if part == nil {
				break
			}
			switch {
			case part[1] != "":
				s.Tag = part[1]
			case part[2] != "":
				s.Attrs, s.Values = append(s.Attrs, part[2]), append(s.Values, part[3])
			case part[4] != "":
				s.Classes = append(s.Classes, part[4])
			}
			rest = rest[len(part[0]):]
		}
		if rest == "" && (s.Tag != "" || len(s.Attrs) > 0 || len(s.Classes) > 0) {
			out = append(out, s)
		}
	}
	return out
}

// hosts are elements of HTML on which what bears such a word in its name is written.
var hosts = []struct{ word, tag string }{
	{"textarea", "textarea"}, {"input", "input"}, {"button", "button"}, {"link", "a"}, {"anchor", "a"}, {"image", "img"},
}

// Written is the way in which a component of Angular is written: the first of its selector. Where
// that names no element, it is the one that the component's name speaks of ("AcTextInput" stands on
// an input), else a box.
func Written(selector, export string) (s Selector, ok bool) {
	ways := ParseSelector(selector)
	if len(ways) == 0 {
		return Selector{}, false
	}
	s = ways[0]
	if s.Tag != "" {
		return s, true
	}
	s.Tag = "div"
	said := strings.ToLower(export + " " + strings.Join(s.Attrs, " "))
	for _, h := range hosts {
		if strings.Contains(said, h.word) {
			s.Tag = h.tag
			break
		}
	}
	return s, true
}
