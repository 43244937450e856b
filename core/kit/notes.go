package kit

import (
	"fmt"
	"maps"
	"slices"
	"strconv"

	"ubiquant/core/jsonread"
)

// NotesFormat is the version of kit notes this package reads.
const NotesFormat = "ubiquant.kit-notes/1"

func (k *Kit) readNotes(src []byte) error {
	r, err := jsonread.New(src, limits)
	if err != nil {
		return err
	}
	err = r.Object(func(key string) error {
		var err error
		switch key {
		case "format":
			_, err = r.OneOf(NotesFormat)
		case "name":
			k.Title, err = r.String()
		case "prefix":
			if k.Prefix, err = r.String(); err == nil && !attrPattern.MatchString(k.Prefix) {
				err = r.Fail("letters, digits and dashes", "%q cannot begin a custom property", k.Prefix)
			}
		case "code":
			err = r.Object(func(key string) error {
				var err error
				switch key {
				case "import":
					k.Code.Import, err = r.String()
				case "part":
					k.Code.Part, err = r.String()
				case "styles":
					k.Code.Styles, err = r.String()
				case "go":
					k.Code.Go, err = r.String()
				case "icon":
					k.Code.Icon, err = r.String()
				case "addIcons":
					k.Code.AddIcons, err = r.String()
				default:
					err = r.Unknown(key, "import", "part", "styles", "go", "icon", "addIcons")
				}
				return err
			})
		case "snippets":
			err = r.Array(func(int) error {
				s, err := readSnippet(r)
				k.Snippets = append(k.Snippets, s)
				return err
			})
		case "making":
			k.Roles, err = readRoles(r)
		case "families":
			err = r.Array(func(int) error {
				var f Family
				err := r.Object(func(key string) error {
					var err error
					switch key {
					case "id":
						f.ID, err = r.String()
					case "name":
						f.Name, err = r.String()
					default:
						err = r.Unknown(key, "id", "name")
					}
					return err
				})
				k.Families = append(k.Families, f)
				return err
			})
		case "components":
			err = r.Object(func(tag string) error {
				i := slices.IndexFunc(k.Components, func(c *Component) bool { return c.Tag == tag })
				if i < 0 {
					return r.Fail("tags that the manifest declares", "there is no component %q", tag)
				}
				return k.Components[i].readNotes(r)
			})
		default:
			err = r.Unknown(key, "format", "name", "prefix", "code", "snippets", "making", "families", "components")
		}
		return err
	})
	if err != nil {
		return err
	}
	return r.End()
}

func (c *Component) readNotes(r *jsonread.Reader) error {
	return r.Object(func(key string) error {
		var err error
		switch key {
		case "family":
			c.Family, err = r.String()
		case "role":
			c.Role, err = r.String()
		case "aliases":
			c.Aliases, err = r.Strings()
		case "level":
			var s string
			s, err = r.OneOf(string(Basic), string(Composite))
			c.Level = Level(s)
		case "text":
			_, err = r.OneOf("label")
			c.Labelled = true
		case "slots":
			// With notes, text may stand only where they say so.
			for i := range c.Slots {
				c.Slots[i].Text = false
			}
			err = r.Object(func(name string) error { return c.readSlotNotes(r, name) })
		case "parents":
			c.Parents, err = r.Strings()
		case "main":
			c.Main = &Choice{}
			err = readPair(r, map[string]*string{"prop": &c.Main.Prop, "value": &c.Main.Value})
		case "acts":
			if c.Acts, err = r.Strings(); err == nil {
				err = c.known(r, c.Acts)
			}
		case "answers":
			c.Answers, err = r.String()
		case "closes":
			c.Closes, err = r.String()
		case "holds":
			if err = readPair(r, map[string]*string{"prop": &c.Holds, "event": &c.HoldsAt}); err == nil {
				err = c.known(r, []string{c.Holds})
			}
		case "name":
			c.NameProp, err = r.String()
		case "labelledBy":
			c.LabelledBy, err = r.String()
		case "telling":
			if c.Telling, err = r.Strings(); err == nil {
				err = c.known(r, c.Telling)
			}
		case "icons":
			var names []string
			if names, err = r.Strings(); err == nil {
				err = c.known(r, names)
			}
			for i := range c.Props {
				c.Props[i].Icon = c.Props[i].Icon || slices.Contains(names, c.Props[i].Name)
			}
		case "picture":
			c.Picture = &Picture{}
			err = readPair(
				r,
				map[string]*string{"src": &c.Picture.Src, "alt": &c.Picture.Alt, "decorative": &c.Picture.Decorative},
			)
		case "heading":
			c.Heading = &Heading{}
			err = r.Object(func(key string) error {
				var err error
				switch key {
				case "level":
					c.Heading.Level, err = r.Int()
				case "levelProp":
					c.Heading.LevelProp, err = r.String()
				case "text":
					c.Heading.Text, err = r.String()
				default:
					err = r.Unknown(key, "level", "levelProp", "text")
				}
				return err
			})
		case "ordered":
			err = r.Array(func(int) error {
				names, err := r.Strings()
				if err == nil {
					err = c.known(r, names)
				}
				c.Ordered = append(c.Ordered, names)
				return err
			})
		case "replacement":
			c.Replacement, err = r.String()
		case "example":
			c.Example, err = readExample(r)
		default:
			err = r.Unknown(
				key,
				"family",
				"role",
				"aliases",
				"level",
				"text",
				"slots",
				"parents",
				"main",
				"acts",
				"answers",
				"closes",
				"name",
				"labelledBy",
				"telling",
				"ordered",
				"icons",
				"picture",
				"heading",
				"replacement",
				"example",
			)
		}
		return err
	})
}

func (c *Component) known(r *jsonread.Reader, names []string) error {
	for _, n := range names {
		if !slices.ContainsFunc(c.Props, func(p Prop) bool { return p.Name == n }) {
			return r.Fail("props that the manifest declares", "%s has no prop %q", c.Tag, n)
		}
	}
	return nil
}

func (c *Component) readSlotNotes(r *jsonread.Reader, name string) error {
	s, ok := c.Slot(name)
	if !ok {
		return r.Fail("slots that the manifest declares", "%s has no slot %q", c.Tag, name)
	}
	return r.Object(func(key string) error {
		var err error
		switch key {
		case "text":
			s.Text, err = r.Bool()
		case "accepts":
			s.Accepts, err = r.Strings()
			s.Closed = err == nil && len(s.Accepts) == 0
		case "max":
			s.Max, err = r.Int()
		default:
			err = r.Unknown(key, "text", "accepts", "max")
		}
		return err
	})
}

func readPair(r *jsonread.Reader, into map[string]*string) error {
	return r.Object(func(key string) error {
		target, ok := into[key]
		if !ok {
			names := make([]string, 0, len(into))
			for n := range into {
				names = append(names, n)
			}
			slices.Sort(names)
			return r.Unknown(key, names...)
		}
		var err error
		*target, err = r.String()
		return err
	})
}

func readExample(r *jsonread.Reader) (e Example, err error) {
	err = r.Object(func(key string) error {
		var err error
		switch key {
		case "type":
			e.Type, err = r.String()
		case "slot":
			e.Slot, err = r.String()
		case "text":
			e.Text, err = r.String()
		case "props":
			e.Props = map[string]string{}
			err = r.Object(func(name string) error {
				if r.Kind() == '"' {
					var err error
					e.Props[name], err = r.String()
					return err
				}
				raw, err := r.Raw()
				e.Props[name] = string(raw)
				return err
			})
		case "children":
			err = r.Array(func(int) error {
				child, err := readExample(r)
				e.Children = append(e.Children, child)
				return err
			})
		default:
			err = r.Unknown(key, "type", "slot", "text", "props", "children")
		}
		return err
	})
	return e, err
}

// readRoles reads which tokens take part in making a theme. That they exist is
// checked once the tokens are read.
func readRoles(r *jsonread.Reader) (*Roles, error) {
	out := &Roles{}
	lists := map[string]*[]string{
		"accent":  &out.Accent,
		"ground":  &out.Ground,
		"radius":  &out.Radius,
		"space":   &out.Space,
		"font":    &out.Font,
		"heading": &out.Heading,
		"size":    &out.Size,
	}
	err := r.Object(func(key string) error {
		if list, ok := lists[key]; ok {
			var err error
			*list, err = r.Strings()
			return err
		}
		if key != "pairs" {
			return r.Unknown(key, append(slices.Sorted(maps.Keys(lists)), "pairs")...)
		}
		// Contrast by ink: {"4.5": {"color.ink": ["color.ground"]}}.
		return r.Object(func(needs string) error {
			ratio, err := strconv.ParseFloat(needs, 64)
			if err != nil || ratio < 1 || ratio > 21 {
				return r.Fail("a contrast from 1 to 21", "%q is no contrast", needs)
			}
			return r.Object(func(ink string) error {
				grounds, err := r.Strings()
				for _, g := range grounds {
					out.Pairs = append(out.Pairs, Pair{ink, g, ratio})
				}
				return err
			})
		})
	})
	return out, err
}

// check says which names of the roles no token has.
func (r *Roles) check(t *Tokens) error {
	for _, list := range [][]string{r.Accent, r.Ground, r.Radius, r.Space, r.Font, r.Heading, r.Size} {
		for _, name := range list {
			if _, ok := t.Find(name); !ok && len(t.Steps(name)) == 0 {
				return fmt.Errorf("making: the kit has no token or group %q", name)
			}
		}
	}
	for _, p := range r.Pairs {
		for _, name := range []string{p.Ink, p.Ground} {
			if _, ok := t.Find(name); !ok {
				return fmt.Errorf("making: the kit has no token %q", name)
			}
		}
	}
	return nil
}
