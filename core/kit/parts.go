package kit

import (
	"fmt"
	"maps"
	"slices"
	"strings"
)

// Part is a package of another library whose components stand beside a kit's own.
type Part struct {
	Name    string `json:"name"` // of its package
	Version string `json:"version"`
	Title   string `json:"title"`
	Drawn   string `json:"drawn,omitempty"` // as Kit.Drawn
	Code    Code   `json:"code"`
	Ties    []Tie  `json:"ties,omitempty"`
}

// Outlines is the name of a kit, or of a part, whose components are drawn as outlines: their own code
// is elsewhere.
const Outlines = "outlines"

// Outlined tells whether a component is one of them.
func (k *Kit) Outlined(c *Component) bool {
	if c.Level == Layout || c.Level == Piece {
		return false
	}
	if p := k.Of(c); p != nil {
		return p.Name == Outlines
	}
	return k.Name == Outlines
}

// Tie makes a custom property of a part follow a token of the kit it stands beside.
type Tie struct {
	Property string `json:"property"` // with its dashes
	Token    string `json:"token"`    // its path
}

// Published is the version under which a registry has the kit's own package: what stands beside
// it is told by what follows a plus, as builds are (Semantic Versioning 2.0.0, 10).
func (k *Kit) Published() string {
	version, _, _ := strings.Cut(k.Version, "+")
	return version
}

// Beside is the kit with the components of parts from elsewhere, each of a family named after its
// part. named is the version that tells the two apart. Errors say which component, token or framework
// does not go together.
func (k *Kit) Beside(named string, parts []*Kit, ties [][]Tie) (*Kit, error) {
	out := *k
	out.Version = named
	out.Families, out.Components = slices.Clone(k.Families), slices.Clone(k.Components)
	out.byTag, out.draws = maps.Clone(k.byTag), maps.Clone(k.draws)
	for i, p := range parts {
		if p.Drawn != "" && out.Drawn != "" && p.Drawn != out.Drawn {
			return nil, fmt.Errorf("%s is made of components of %s and %s of %s: one page holds one framework beside elements", p.Title, p.Drawn, k.Title, out.Drawn)
		}
		if p.Drawn != "" {
			out.Drawn = p.Drawn
		}
		for _, t := range ties[i] {
			if _, ok := k.Tokens.Find(t.Token); !ok {
				return nil, fmt.Errorf("%s follows the token %q, which %s does not have", t.Property, t.Token, k.Title)
			}
		}
		family := Family{ID: fmt.Sprintf("part-%d", i+1), Name: p.Title}
		out.Families = append(out.Families, family)
		if len(p.Classes) > 0 {
			out.Classes = slices.Compact(slices.Sorted(slices.Values(slices.Concat(out.Classes, p.Classes))))
		}
		out.Parts = append(slices.Clone(out.Parts), Part{p.Name, p.Version, p.Title, p.Drawn, p.Code, ties[i]})
		for _, c := range p.Components {
			if is, taken := out.byTag[c.Tag]; taken {
				return nil, fmt.Errorf("%s has a component %q, and so has %s", p.Title, c.Tag, out.whose(is))
			}
			own := *c
			own.Part, own.Family = i+1, family.ID
			out.Components = append(out.Components, &own)
			out.byTag[own.Tag] = &own
		}
		for typ, by := range p.draws {
			if _, drawn := out.draws[typ]; !drawn {
				if out.draws == nil {
					out.draws = map[string]drawing{}
				}
				out.draws[typ] = drawing{by.export, i + 1}
			}
		}
	}
	out.drawPlain()
	return &out, nil
}

// whose names what a component belongs to.
func (k *Kit) whose(c *Component) string {
	switch {
	case c.Level == Layout:
		return "what every kit has"
	case c.Part > 0 && c.Part <= len(k.Parts):
		return k.Parts[c.Part-1].Title
	}
	return k.Title
}

// Of is the part that a component belongs to; nil for the kit's own.
func (k *Kit) Of(c *Component) *Part {
	if c.Part == 0 || c.Part > len(k.Parts) {
		return nil
	}
	return &k.Parts[c.Part-1]
}

// HasElements tells whether some components are elements of the page, which templates are told about.
func (k *Kit) HasElements() bool {
	return slices.ContainsFunc(k.Components, func(c *Component) bool { return c.Export == "" })
}

// OwnElements tells whether the kit's own components are elements, whatever stands beside them.
func (k *Kit) OwnElements() bool {
	return len(k.Components) == 0 || slices.ContainsFunc(k.Components, func(c *Component) bool { return c.Part == 0 && c.Export == "" })
}

// TagPrefixes are what the tags of its elements begin with, up to the first dash; of a kit of elements
// its own comes first.
func (k *Kit) TagPrefixes() []string {
	var out []string
	for part := range len(k.Parts) + 1 {
		for _, c := range k.Components {
			prefix, _, ok := strings.Cut(c.Tag, "-")
			if ok && c.Part == part && c.Export == "" && !slices.Contains(out, prefix) {
				out = append(out, prefix)
			}
		}
	}
	return out
}

// CodeOf says how a component is brought into code: as its part is, or as the kit.
func (k *Kit) CodeOf(c *Component) Code {
	if p := k.Of(c); p != nil {
		return p.Code
	}
	return k.Code
}

// PackageOf names the package of a component with its version, as it is installed.
func (k *Kit) PackageOf(c *Component) string {
	if p := k.Of(c); p != nil {
		return p.Name + "@" + p.Version
	}
	return k.Name + "@" + k.Published()
}
