package kit

import (
	"fmt"
	"slices"
	"strings"
)

// Difference is one thing in which a version of a kit differs from another.
type Difference struct {
	// Component is the tag it belongs to; empty for tokens and icons.
	Component string `json:"component,omitempty"`
	What      string `json:"what"` // component, prop, value, default, slot, event, level, token, icon
	Name      string `json:"name"`
	How       string `json:"how"` // new, gone, other
	Before    string `json:"before,omitempty"`
	After     string `json:"after,omitempty"`
	// Breaks says that what stands on screens may not be carried over as it is.
	Breaks bool `json:"breaks,omitempty"`
}

// String says it in words.
func (d Difference) String() string {
	what := d.What + " " + d.Name
	if d.What == "component" {
		what = d.Name
	}
	switch d.How {
	case "new":
		return what + " is new"
	case "gone":
		return what + " is gone"
	}
	return fmt.Sprintf("%s is %s, was %s", what, orNothing(d.After), orNothing(d.Before))
}

func orNothing(s string) string {
	if s == "" {
		return "nothing"
	}
	return s
}

// Compare lists in what a newer version of a kit differs: by component in the newer
// one's order, then what is gone, then tokens and icons.
func Compare(older, newer *Kit) []Difference {
	out := []Difference{}
	for _, c := range newer.Components {
		was, ok := own(older, c.Tag)
		if !ok {
			out = append(out, Difference{Component: c.Tag, What: "component", Name: c.Title, How: "new"})
			continue
		}
		out = append(out, compareComponent(was, c)...)
	}
	for _, c := range older.Components {
		if _, ok := own(newer, c.Tag); !ok {
			out = append(
				out,
				Difference{
					Component: c.Tag,
					What:      "component",
					Name:      c.Title,
					How:       "gone",
					Before:    c.Replacement,
					Breaks:    true,
				},
			)
		}
	}
	out = append(out, compareTokens(older, newer)...)
	icon := func(i Icon) string { return i.Name }
	return append(out, compareNames("", "icon", names(older.Icons, icon), names(newer.Icons, icon))...)
}

func own(k *Kit, tag string) (*Component, bool) {
	i := slices.IndexFunc(k.Components, func(c *Component) bool { return c.Tag == tag })
	if i < 0 {
		return nil, false
	}
	return k.Components[i], true
}

func names[T any](list []T, name func(T) string) []string {
	out := make([]string, len(list))
	for i, v := range list {
		out[i] = name(v)
	}
	return out
}

// compareNames lists what is new and what is gone, in order.
func compareNames(component, what string, older, newer []string) (out []Difference) {
	for _, n := range newer {
		if !slices.Contains(older, n) {
			out = append(out, Difference{Component: component, What: what, Name: n, How: "new"})
		}
	}
	for _, n := range older {
		if !slices.Contains(newer, n) {
			out = append(out, Difference{Component: component, What: what, Name: n, How: "gone", Breaks: true})
		}
	}
	return out
}

func compareComponent(was, is *Component) (out []Difference) {
	other := func(what, name, before, after string, breaks bool) {
		if before != after {
			out = append(out, Difference{is.Tag, what, name, "other", before, after, breaks})
		}
	}
	prop := func(p Prop) string { return p.Name }
	handed := func(p Prop) bool { return p.Handed } // none of the library's own
	wasProps, isProps := slices.DeleteFunc(slices.Clone(was.Props), handed), slices.DeleteFunc(slices.Clone(is.Props), handed)
	out = append(out, compareNames(is.Tag, "prop", names(wasProps, prop), names(isProps, prop))...)
	for i := range isProps {
		p := &isProps[i]
		before, ok := was.Prop(p.Name)
		if !ok {
			continue
		}
		other("type of", p.Name, before.Type.String(), p.Type.String(), true)
		other("default of", p.Name, before.Default, p.Default, false)
		other("deprecation of", p.Name, before.Deprecated, p.Deprecated, false)
		if !before.Required && p.Required {
			out = append(out, Difference{is.Tag, "need for", p.Name, "new", "", "", true})
		}
		if before.Type == Enum && p.Type == Enum {
			for _, d := range compareNames(is.Tag, "value", before.Values, p.Values) {
				d.Name = p.Name + " " + d.Name
				out = append(out, d)
			}
		}
	}
	slot := func(s Slot) string { return slotName(s.Name) }
	out = append(out, compareNames(is.Tag, "slot", names(was.Slots, slot), names(is.Slots, slot))...)
	for i := range is.Slots {
		if before, ok := was.Slot(is.Slots[i].Name); ok {
			other(
				"what may stand in",
				slotName(is.Slots[i].Name),
				strings.Join(before.Accepts, ", "),
				strings.Join(is.Slots[i].Accepts, ", "),
				true,
			)
		}
	}
	event := func(n Named) string { return n.Name }
	out = append(out, compareNames(is.Tag, "event", names(was.Events, event), names(is.Events, event))...)
	out = append(out, compareNames(is.Tag, "part", names(was.Parts, event), names(is.Parts, event))...)
	other("deprecation of", is.Title, was.Deprecated, is.Deprecated, false)
	return out
}

func compareTokens(older, newer *Kit) (out []Difference) {
	path := func(t Token) string { return t.Path }
	out = compareNames("", "token", names(older.Tokens.List, path), names(newer.Tokens.List, path))
	for i := range newer.Tokens.List {
		t := &newer.Tokens.List[i]
		was, ok := older.Tokens.Find(t.Path)
		if !ok {
			continue
		}
		for _, theme := range newer.Tokens.Themes {
			before, known := was.Values[theme]
			if known && before != t.Values[theme] {
				out = append(
					out,
					Difference{
						What:   "token",
						Name:   t.Path + " in " + theme,
						How:    "other",
						Before: before,
						After:  t.Values[theme],
					},
				)
			}
		}
	}
	return append(out, compareNames("", "theme", older.Tokens.Themes, newer.Tokens.Themes)...)
}
