package kit

import (
	"regexp"
	"slices"
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

// ChosenBy is the setting of a component of Angular that is known by one of several attributes, as
// "button[ac-flat-button], button[ac-raised-button]" is: its value is the attribute that is written.
// Attributes that carry a setting themselves are none of them. ok is false where there is nothing to choose.
func ChosenBy(selector, export string, props []Prop) (p Prop, ok bool) {
	written, known := Written(selector, export)
	if !known {
		return Prop{}, false
	}
	carries := func(name string) bool {
		return slices.ContainsFunc(props, func(p Prop) bool { return p.Name == name })
	}
	for _, way := range ParseSelector(selector) {
		if len(way.Attrs) != 1 || way.Values[0] != "" || len(way.Classes) > 0 || way.Tag != "" && way.Tag != written.Tag ||
			carries(way.Attrs[0]) || slices.Contains(p.Values, way.Attrs[0]) {
			continue
		}
		p.Values = append(p.Values, way.Attrs[0])
	}
	for _, name := range []string{"variant", "appearance", "look"} {
		if !carries(name) {
			p.Name = name
			break
		}
	}
	p.Type, p.Selects = Enum, true
	p.Summary = "The attribute that it is written with."
	return p, len(p.Values) > 1 && p.Name != ""
}

// IsTemplate tells whether a place of a component of Angular takes a template: one with a name ("#header"), or
// one that bears an attribute ("ng-template[acTemplate=header]").
func IsTemplate(slot string) bool {
	return strings.HasPrefix(slot, "#") || strings.HasPrefix(slot, "ng-template[")
}
