package model

import (
	"slices"
	"sort"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// Catalog is a kit with the pieces of a workspace.
type Catalog struct {
	*kit.Kit
	pieces map[string]*kit.Component
	docs   map[string]*screen.Document // the pieces themselves, by their types
	coded  bool                        // without what is only drawn as an outline
}

// PieceOf is what a piece is made of; nil where there is none of that type.
func (c *Catalog) PieceOf(typ string) *screen.Document { return c.docs[typ] }

// Delivered is the catalog without what is only drawn as an outline: there is no code of it here.
func (c *Catalog) Delivered() *Catalog {
	out := *c
	out.coded = true
	return &out
}

// For is the same catalog with the pieces of another workspace.
func (c *Catalog) For(w *Workspace) *Catalog {
	out := NewCatalog(c.Kit, w)
	out.coded = c.coded
	return out
}

// Component finds a component of the kit, a layout or a piece.
func (c *Catalog) Component(typ string) (*kit.Component, bool) {
	if def, ok := c.pieces[typ]; ok {
		return def, true
	}
	def, ok := c.Kit.Component(typ)
	if ok && c.coded && c.Outlined(def) {
		return nil, false
	}
	return def, ok
}

// Candidates lists everything that can be put on a screen: all but what the team
// left out of the kit.
func (c *Catalog) Candidates() []*kit.Component {
	var list []*kit.Component
	for _, l := range kit.Layouts() {
		if l.Tag != "outlet" && l.Tag != "parts" {
			list = append(list, l)
		}
	}
	for _, def := range c.Kit.Components {
		if _, out := c.Kit.Left[def.Tag]; !out {
			list = append(list, def)
		}
	}
	names := make([]string, 0, len(c.pieces))
	for n := range c.pieces {
		names = append(names, n)
	}
	sort.Strings(names)
	for _, n := range names {
		list = append(list, c.pieces[n])
	}
	return list
}

// Renew brings the pieces up to date with a workspace, for those who hold on to the
// catalog.
func (c *Catalog) Renew(w *Workspace) {
	now := NewCatalog(c.Kit, w)
	c.pieces, c.docs = now.pieces, now.docs
}

// On is the catalog as it is now, on a copy of its kit; it stays so.
func (c *Catalog) On(k *kit.Kit) *Catalog { return &Catalog{k, c.pieces, c.docs, c.coded} }

// NewCatalog makes the catalog of a workspace on a kit.
func NewCatalog(k *kit.Kit, w *Workspace) *Catalog {
	c := &Catalog{Kit: k, pieces: map[string]*kit.Component{}, docs: map[string]*screen.Document{}}
	for _, d := range w.Docs {
		if d.Kind != screen.PieceDoc || d.Removed {
			continue
		}
		def := &kit.Component{
			Tag:      screen.PiecePrefix + d.ID,
			Title:    d.Title,
			Family:   "pieces",
			Level:    kit.Piece,
			Stands:   d.Root.Type,
			Revision: d.Revision,
			Props:    []kit.Prop{},
			Slots:    []kit.Slot{},
		}
		if d.Root.Type == "parts" && len(d.Root.Children) > 0 {
			def.Stands = d.Root.Children[0].Type
		}
		for _, p := range d.Props {
			prop := kit.Prop{Name: p.Name, Attr: p.Name, Type: kit.Text, Summary: "Of " + p.Element + "."}
			if el, _ := d.Root.Find(p.Element); el != nil {
				if inner, ok := k.Component(el.Type); ok {
					if ip, ok := inner.Prop(p.Prop); ok {
						prop.Type, prop.Values, prop.URL = ip.Type, ip.Values, ip.URL
					}
				}
				if v := ValueOf(el, p.Prop); v.Kind != screen.Expr {
					prop.Default = v.Text
				}
				if p.Prop == screen.ShowProp {
					prop.Type, prop.Default = kit.Bool, "true"
				}
			}
			def.Props = append(def.Props, prop)
			def.Telling = append(def.Telling, p.Name)
		}
		def.Props = append(def.Props, innerProps(k, d)...)
		d.Root.Walk(func(e, _ *screen.Element) bool {
			if e.Type == "outlet" {
				def.Slots = append(def.Slots, kit.Slot{Name: e.Name})
			}
			return true
		})
		c.pieces[def.Tag], c.docs[def.Tag] = def.Seal(), d
	}
	return c
}

// innerProps lists by what names uses of a piece may reach its inner elements.
func innerProps(k *kit.Kit, d *screen.Document) []kit.Prop {
	var out []kit.Prop
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if e.Name == "" || e.Type == "outlet" || e.Type == "parts" {
			return true
		}
		add := func(p kit.Prop) {
			p.Name = e.Name + "." + p.Name
			p.Attr, p.Required, p.Inner = p.Name, false, true
			out = append(out, p)
		}
		if e != d.Root {
			add(kit.Prop{Name: "shown", Type: kit.Bool, Default: "true", Summary: "Whether " + e.Name + " is there."})
		}
		c, ok := k.Component(e.Type)
		if !ok || c.Level == kit.Layout {
			return true
		}
		if c.TakesText() {
			add(kit.Prop{Name: "text", Type: kit.Text, Default: e.Text.Fixed(), Summary: "Text of " + e.Name + "."})
		}
		var kinds []string
		for _, o := range k.Components {
			if c.Role != "" && o.Family == c.Family && o.Role == c.Role && slices.Equal(o.Parents, c.Parents) {
				kinds = append(kinds, o.Tag)
			}
		}
		if len(kinds) > 1 {
			add(
				kit.Prop{
					Name:    "kind",
					Type:    kit.Enum,
					Values:  kinds,
					Default: e.Type,
					Summary: "Which component " + e.Name + " is.",
				},
			)
		}
		for _, p := range c.Props {
			if v, ok := e.Prop(p.Name); ok {
				p.Default = v.Fixed()
			}
			add(p)
		}
		return true
	})
	return out
}

func ValueOf(e *screen.Element, prop string) screen.Value {
	switch prop {
	case "":
		return e.Text
	case screen.ShowProp:
		return screen.Value{Kind: screen.Expr, Text: e.Show}
	}
	v, _ := e.Prop(prop)
	return v
}
