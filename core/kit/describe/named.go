package describe

import (
	"path"
	"regexp"
	"slices"
	"strings"
)

// NamedType is a type that is one of few values, as the library declares it under a name.
type NamedType struct {
	Name   string   `json:"name"`
	File   string   `json:"file"`
	Values []string `json:"values"`
}

var typeName = regexp.MustCompile(`^[A-Za-z_$][\w$]*$`)

// builtIn are types of the language and of pages, which no library declares.
var builtIn = map[string]bool{"string": true, "number": true, "boolean": true, "object": true, "any": true, "unknown": true, "array": true, "undefined": true, "null": true}

// unsaid is the name of the type that a prop was given, where nothing says what it is: a text, for
// now. open tells that any other text may stand as well.
func (p *Prop) unsaid() (name string, open bool) {
	if p.Type != "text" || p.Shape == "" {
		return "", false
	}
	for part := range strings.SplitSeq(p.Shape, "|") {
		switch part = strings.TrimSpace(part); {
		case part == "undefined" || part == "null" || part == `""` || part == "''":
		case part == "string":
			open = true
		case name != "" || builtIn[part] || !typeName.MatchString(part):
			return "", false
		default:
			name = part
		}
	}
	return name, open
}

// Unsaid lists the names of types that props have and that nothing read so far says the values of.
func (c *Catalog) Unsaid() []string {
	names := []string{}
	for i := range c.Entries {
		for j := range c.Entries[i].Props {
			if name, _ := c.Entries[i].Props[j].unsaid(); name != "" && !slices.Contains(names, name) {
				names = append(names, name)
			}
		}
	}
	slices.Sort(names)
	return names
}

// settleNamed gives props the values of the types that they name. A name that is declared with
// other values elsewhere is that of the component's own folder, or none.
func (c *Catalog) settleNamed(list []NamedType) {
	by := map[string][]NamedType{}
	for _, t := range list {
		by[t.Name] = append(by[t.Name], t)
	}
	for i := range c.Entries {
		e := &c.Entries[i]
		for j := range e.Props {
			p := &e.Props[j]
			name, open := p.unsaid()
			values := nearest(by[name], e.Module)
			if len(values) < 2 || len(values) > MaxValues {
				continue
			}
			p.Type, p.Values, p.Open, p.Numbers = "choice", values, open, allNumbers(values)
			p.settleDefault()
		}
	}
}

// nearest are the values of a name as the module of a component means it; nil where that is not clear.
func nearest(list []NamedType, module string) []string {
	if len(list) == 0 {
		return nil
	}
	same := !slices.ContainsFunc(list, func(t NamedType) bool { return !slices.Equal(t.Values, list[0].Values) })
	if same {
		return list[0].Values
	}
	// A manifest names sources, declarations lie where they are built: what they share is the folder.
	folder := path.Base(path.Dir(module))
	var found []string
	for _, t := range list {
		if path.Base(path.Dir(t.File)) != folder {
			continue
		}
		if found != nil && !slices.Equal(found, t.Values) {
			return nil
		}
		found = t.Values
	}
	return found
}
