package kit

import (
	"fmt"
	"slices"
	"sort"
)

// Correction is what a team says of a component in place of what was proposed or noted.
// What is empty is left as it is; the name "none" takes a role or a label away.
type Correction struct {
	Tag    string `json:"tag"`
	Family string `json:"family"` // id of one of the kit's families
	Role   string `json:"role"`   // one of RoleNames, or "none"
	Label  string `json:"label"`  // prop with its words, or "none"
	By     string `json:"by"`
	When   string `json:"when"`
}

// RoleNames are the roles that a component can have.
var RoleNames = []string{"action", "link", "control", "bar", "status"}

// Check holds a correction against a kit.
func (c *Correction) Check(k *Kit) error {
	def, ok := k.Component(c.Tag)
	if !ok || def.Level == Layout {
		return fmt.Errorf("%s has no component %q", k.Title, c.Tag)
	}
	if c.Family != "" && !slices.ContainsFunc(k.Families, func(f Family) bool { return f.ID == c.Family }) {
		return fmt.Errorf("%s has no family %q", k.Title, c.Family)
	}
	if c.Role != "" && c.Role != "none" && !slices.Contains(RoleNames, c.Role) {
		return fmt.Errorf("%q is no role; accepted: %v, none", c.Role, RoleNames)
	}
	if p, ok := def.Prop(c.Label); c.Label != "" && c.Label != "none" && (!ok || p.Type != Text) {
		return fmt.Errorf("%s has no prop %q that takes a text", def.Title, c.Label)
	}
	return nil
}

// Corrected is the kit with what a team says of its components, and what of that no
// longer fits it.
func (k *Kit) Corrected(list []Correction) (*Kit, []error) {
	if len(list) == 0 {
		return k, nil
	}
	out := *k
	out.bare = k.Bare()
	out.Components = slices.Clone(k.Components)
	var unfit []error
	for _, c := range list {
		if err := c.Check(k); err != nil {
			unfit = append(unfit, fmt.Errorf("what was said of %s does not fit %s %s: %w", c.Tag, k.Title, k.Version, err))
			continue
		}
		i := slices.IndexFunc(out.Components, func(d *Component) bool { return d.Tag == c.Tag })
		def := *out.Components[i]
		def.correct(&c)
		out.Components[i] = &def
	}
	order := map[string]int{}
	for i, f := range out.Families {
		order[f.ID] = i
	}
	sort.SliceStable(out.Components, func(i, j int) bool {
		return order[out.Components[i].Family] < order[out.Components[j].Family]
	})
	out.byTag = make(map[string]*Component, len(k.byTag))
	for tag, c := range k.byTag {
		out.byTag[tag] = c
	}
	for _, c := range out.Components {
		out.byTag[c.Tag] = c
	}
	return &out, unfit
}

func (c *Component) correct(say *Correction) {
	c.Guesses = slices.DeleteFunc(slices.Clone(c.Guesses), func(g Guess) bool {
		return g.What == "family" && say.Family != "" || g.What == "role" && say.Role != "" || g.What == "label" && say.Label != ""
	})
	why := "said by " + say.By
	if say.Family != "" {
		c.Family = say.Family
		c.Guesses = append(c.Guesses, Guess{"family", say.Family, 1, why})
	}
	if say.Role != "" {
		if c.Role = say.Role; say.Role == "none" {
			c.Role = ""
		}
		c.Guesses = append(c.Guesses, Guess{"role", say.Role, 1, why})
	}
	if say.Label != "" {
		if c.NameProp = say.Label; say.Label == "none" {
			c.NameProp = ""
		}
		c.Guesses = append(c.Guesses, Guess{"label", say.Label, 1, why})
	}
}
