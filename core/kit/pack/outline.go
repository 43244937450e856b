package pack

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
)

//go:embed outline.js
var outlines []byte

var elementName = regexp.MustCompile(`^[a-z][a-z0-9._]*-[a-z0-9._-]*$`)

// Outlined is an archive that has every component of a kit: base with what it does not have beside it,
// drawn as outlines; without a base all of them are. Nothing is left out but what no element of a page
// can be called, which is told.
func Outlined(base *Archive, k *kit.Kit) (a *Archive, left []string, err error) {
	has := func(string) bool { return false }
	if base != nil {
		own, err := base.Kit()
		if err != nil {
			return nil, nil, err
		}
		has = func(tag string) bool { _, ok := own.Component(tag); return ok }
	}
	var list []*kit.Component
	for _, c := range k.Components {
		switch {
		case c.Level == kit.Layout && c.Export == "" && c.From == "", has(c.Tag):
		case !elementName.MatchString(c.Tag):
			left = append(left, c.Tag)
		default:
			list = append(list, c)
		}
	}
	switch {
	case len(list) == 0 && base != nil:
		return base, left, nil
	case len(list) == 0:
		return nil, left, errors.New("there are no components to draw")
	}
	drawn, unfit, err := outline(list)
	left = append(left, unfit...)
	if err != nil || base == nil {
		return drawn, left, err
	}
	all := make([]string, len(drawn.Catalog.Entries))
	for i := range all {
		all[i] = drawn.Catalog.Entries[i].ID
	}
	a, err = base.Beside(append(slices.Clone(base.Parts), Part{Archive: drawn, Use: Use{Components: all}}))
	return a, left, err
}

// outline is an archive of components that draw nothing but what is known of them.
func outline(list []*kit.Component) (a *Archive, left []string, err error) {
	c := &describe.Catalog{Name: kit.Outlines, Version: "1", Drawn: describe.Elements}
	table := map[string][4]any{}
	for _, def := range list {
		e := describe.Entry{
			ID: def.Tag, Tag: def.Tag, Class: def.Class, Module: kit.Outlines, Summary: def.Summary, Deprecated: def.Deprecated,
			From: describe.FromGuess, Props: []describe.Prop{}, Slots: []describe.Slot{},
		}
		words := []string{}
		for i := range def.Props {
			p := &def.Props[i]
			e.Props = append(e.Props, described(p))
			if read := slices.Index(telling, p.Name); read >= 0 || p.Name == def.NameProp {
				words = append(words, strings.ToLower(p.Name)) // as the page calls attributes
			}
		}
		slices.SortFunc(words, func(a, b string) int { return slices.Index(telling, a) - slices.Index(telling, b) })
		places := []string{""} // whatever is said of it, children have a place
		for _, s := range def.Slots {
			e.Slots = append(e.Slots, describe.Slot{Name: s.Name, Summary: s.Summary})
			if s.Name != "" {
				places = append(places, s.Name)
			}
		}
		for _, v := range def.Events {
			e.Events = append(e.Events, describe.Slot{Name: v.Name, Summary: v.Summary})
		}
		without, why := fits(&e)
		if why != nil {
			left = append(left, def.Tag+": "+why.Error())
			continue
		}
		for _, name := range without {
			left = append(left, "the prop "+name+" of "+def.Tag)
		}
		c.Entries = append(c.Entries, e)
		table[def.Tag] = [4]any{def.Title, outlineKind(def), places, words}
	}
	slices.SortFunc(c.Entries, func(a, b describe.Entry) int { return strings.Compare(a.ID, b.ID) })
	if err := c.Check(); err != nil {
		return nil, left, fmt.Errorf("components as outlines: %w", err)
	}
	told, err := json.Marshal(table)
	if err != nil {
		return nil, left, err
	}
	module := bytes.Replace(outlines, []byte("const components = {}"), append([]byte("const components = "), told...), 1)
	return &Archive{
		Meta: Meta{
			Name: kit.Outlines, Version: c.Version, Title: "Outlines", Short: kit.Outlines, Drawn: describe.Elements,
			Notes: []string{"its components are drawn as outlines: their own code is not here"},
		},
		Catalog: c,
		Files:   map[string][]byte{ModuleFile: module},
	}, left, nil
}

// fits leaves out of an entry the props that a catalog cannot hold, which are told, and gives the rest
// attributes where these can have them. The error says why the entry cannot be held at all.
func fits(e *describe.Entry) (without []string, err error) {
	holds := func(p ...describe.Prop) error {
		one := *e
		one.Props = p
		return (&describe.Catalog{Name: kit.Outlines, Version: "1", Drawn: describe.Elements, Entries: []describe.Entry{one}}).Check()
	}
	if err := holds(); err != nil {
		return nil, err
	}
	e.Props = slices.DeleteFunc(e.Props, func(p describe.Prop) bool {
		bad := holds(p) != nil
		if bad {
			without = append(without, p.Name)
		}
		return bad
	})
	for i := range e.Props {
		p := e.Props[i]
		if p.Attr = p.Name; p.Type != "data" && holds(p) == nil {
			e.Props[i] = p
		}
	}
	return without, nil
}

// telling are settings that people read, the first said first.
var telling = []string{"label", "heading", "title", "header", "text", "name", "caption", "placeholder", "value", "alt"}

func outlineKind(c *kit.Component) string {
	switch {
	case c.Role == "control":
		return "control"
	case c.Role == "action", c.Role == "link", c.Role == "status", c.Family == "identity", c.Family == describe.IconFamily,
		c.Family == "content" && c.Level == kit.Basic:
		return "inline"
	}
	return "block"
}

// described is a prop as a catalog describes it.
func described(p *kit.Prop) describe.Prop {
	out := describe.Prop{
		Name: p.Name, Attr: p.Attr, Type: "text", Values: p.Values, Open: p.Open, Numbers: p.Numbers, Shape: p.Shape,
		Default: p.Default, Required: p.Required, Summary: p.Summary, Deprecated: p.Deprecated, From: p.From,
	}
	switch {
	case p.JSON:
		out.Type = "data"
	case p.Type == kit.Bool:
		out.Type = "yes/no"
	case p.Type == kit.Number:
		out.Type = "number"
	case p.Type == kit.Enum:
		out.Type = "choice"
	}
	return out
}
