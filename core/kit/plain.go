package kit

import (
	"slices"
	"strings"
	"sync"
)

// What begins the types of plain elements, and of what is neither of a kit nor of the team: code
// that was read has them.
const (
	HostPrefix  = "html-"
	OtherPrefix = "other-"
)

// places are plain elements that mean something: what stands in them stands in that.
var places = []string{
	"form", "header", "footer", "nav", "aside", "table", "thead", "tbody", "tr", "dialog", "ul", "ol", "li", "fieldset", "td", "th", "dl",
}

// Inlines are plain elements that set words apart in what is said around them.
var Inlines = []string{"span", "b", "strong", "em", "i", "small", "u", "mark", "code", "sub", "sup"}

// attributes are what plain elements are set to in HTML, by their tags; those of all come first. A mark
// behind a name says more of it: ! a flag, # a number, @ an address.
// Source: HTML Living Standard, "Attributes" (index), without what loads, runs or names other pages.
var attributes = map[string]string{
	"": "id title lang dir hidden! role tabindex# aria-label aria-labelledby aria-describedby aria-hidden aria-current aria-live " +
		"aria-expanded aria-controls",
	"a":        "href@ target rel download",
	"button":   "type name value disabled!",
	"details":  "open!",
	"fieldset": "name disabled!",
	"form":     "name autocomplete novalidate!",
	"img":      "src@ alt width height loading",
	"input": "type name value placeholder checked! disabled! required! readonly! multiple! min max step pattern autocomplete " +
		"maxlength# minlength# accept",
	"label":    "for",
	"meter":    "value# min# max# low# high# optimum#",
	"ol":       "start# reversed!",
	"optgroup": "label disabled!",
	"option":   "value selected! disabled!",
	"progress": "value# max#",
	"select":   "name disabled! required! multiple! size#",
	"td":       "colspan# rowspan#",
	"textarea": "name placeholder rows# cols# disabled! required! readonly! maxlength# autocomplete",
	"th":       "colspan# rowspan# scope",
	"time":     "datetime",
}

// ofPictures are what pictures of other packages are set to, such as icons: how they look.
var ofPictures = []Prop{
	{Name: "size", Type: Number}, {Name: "width", Type: Number}, {Name: "height", Type: Number}, {Name: "strokeWidth", Type: Number},
	{Name: "color"}, {Name: "stroke"}, {Name: "fill"},
}

// AttributeName is the name of an attribute in HTML by that which code of a framework calls it:
// "htmlFor" is "for". What begins with a value, in React, is that value here.
func AttributeName(inCode string) string {
	switch inCode {
	case "htmlFor":
		return "for"
	case "defaultValue", "defaultChecked", "defaultOpen":
		return strings.ToLower(strings.TrimPrefix(inCode, "default"))
	}
	return strings.ToLower(inCode)
}

// ClassProp is the setting with classes of the application's own styles, with spaces between.
const ClassProp = "class"

// drawnAs is how libraries say that a component draws what stands in it instead of an element of its own.
var drawnAs = []Prop{
	{Name: "asChild", Type: Bool, Summary: "What stands in it is drawn in its place, with what it does."},
	{Name: "as-child", Type: Bool, Summary: "What stands in it is drawn in its place, with what it does."},
}

// HandedAs finds the setting of any element of a page that a component hands on, by its name in code.
func (c *Component) HandedAs(inCode string) (*Prop, bool) {
	for _, name := range []string{inCode, AttributeName(inCode)} {
		if p, ok := c.Prop(name); ok && p.Handed {
			return p, true
		}
	}
	return nil, false
}

// Handed are the settings of any element of a page that a component hands on to what it draws, by names as
// code has them; names that are none are passed over.
func Handed(names []string) (list []Prop) {
	all := append(setTo(""), drawnAs...)
	for _, name := range names {
		p := Prop{Name: ClassProp, Attr: ClassProp, Summary: "Classes of the application's own styles."}
		if name != ClassProp && name != "className" {
			i := slices.IndexFunc(all, func(p Prop) bool { return p.Name == name || p.Name == AttributeName(name) })
			if i < 0 {
				continue
			}
			p = all[i]
		}
		p.Handed = true
		if !slices.ContainsFunc(list, func(o Prop) bool { return o.Name == p.Name }) {
			list = append(list, p)
		}
	}
	return list
}

// Styled tells whether a component can be given classes of the application's styles.
func (c *Component) Styled() bool {
	p, ok := c.Prop(ClassProp)
	return ok && p.Handed
}

// NameInReact is what React calls an attribute of HTML.
func NameInReact(attr string) string {
	switch attr {
	case "for":
		return "htmlFor"
	case ClassProp:
		return "className"
	}
	for _, name := range []string{
		"autoComplete", "colSpan", "dateTime", "maxLength", "minLength", "noValidate", "readOnly", "rowSpan", "tabIndex",
	} {
		if strings.EqualFold(name, attr) {
			return name
		}
	}
	return attr
}

// setTo are the props of a plain element by its tag.
func setTo(tag string) []Prop {
	list := []Prop{}
	names := attributes[""]
	if tag != "" {
		names = attributes[tag] + " " + names
	}
	for name := range strings.FieldsSeq(names) {
		p := Prop{Name: strings.TrimRight(name, "!#@")}
		switch p.Attr = p.Name; name[len(p.Name):] {
		case "!":
			p.Type = Bool
		case "#":
			p.Type = Number
		case "@":
			p.URL = true
		}
		if p.Name == "alt" { // an empty one says that there is nothing to say
			p.Summary = "What is to be seen; empty where it only adorns."
		}
		list = append(list, p)
	}
	return list
}

var plains, styled sync.Map // type to *Component

// plain is a plain element by its type: "html-form". Every kit has them; classes tells whether they can be
// given some.
func plain(typ string, classes bool) (*Component, bool) {
	tag, host := strings.CutPrefix(typ, HostPrefix)
	if !host && !strings.HasPrefix(typ, OtherPrefix) {
		return nil, false
	}
	known := &plains
	if classes {
		known = &styled
	}
	if c, ok := known.Load(typ); ok {
		return c.(*Component), true
	}
	c := &Component{
		Tag: typ, Title: "<" + tag + ">", Level: Layout, Summary: "A plain element.", Plain: true, Props: []Prop{}, Slots: []Slot{{Text: true}},
	}
	if slices.Contains(places, tag) {
		c.Level = Basic
	}
	if !host {
		c.Title = strings.ReplaceAll(strings.TrimPrefix(typ, OtherPrefix), "-", " ")
		c.Summary = "Of another library, or of the team's own code without anything of the kit."
	}
	if host {
		c.Props = setTo(tag)
		if tag == "img" {
			c.Picture = &Picture{Src: "src", Alt: "alt"}
		}
	} else {
		c.Props = slices.Clone(ofPictures)
	}
	if classes {
		c.Props = append(c.Props, Handed([]string{ClassProp})...)
	}
	kept, _ := known.LoadOrStore(typ, c.Seal())
	return kept.(*Component), true
}

// Plain finds the plain element of a type, "html-a" or "other-plus", with what any kit knows of it.
func Plain(typ string) (*Component, bool) { return plain(typ, false) }

// FromElsewhere tells of what draws a plain element where another package does: the module, and the name
// by which that gives it. ok is false where nothing draws it.
func (c *Component) FromElsewhere() (module, name string, ok bool) {
	if !c.Plain || c.Export == "" {
		return "", "", false
	}
	return strings.Cut(c.Export, "#")
}

// Style says which classes the application's styles have.
func (k *Kit) Style(classes []string) {
	k.Classes = classes
	k.drawPlain()
}

// drawing is what draws a plain element: what the module of the kit gives by a name, or of one of its parts.
type drawing struct {
	export string
	part   int
}

// Draw says by what of the kit's module plain elements are drawn, by their types. They stay plain.
func (k *Kit) Draw(exports map[string]string) {
	k.draws = map[string]drawing{}
	for typ, export := range exports {
		k.draws[typ] = drawing{export, 0}
	}
	k.drawPlain()
}

func (k *Kit) drawPlain() {
	for typ, by := range k.draws {
		c, ok := k.Component(typ)
		if !ok || !c.Plain {
			continue // what is of the kit is drawn by what it is
		}
		drawn := *c
		drawn.Export, drawn.Part = by.export, by.part
		if _, ok := drawn.Prop(ClassProp); !ok && len(k.Classes) > 0 {
			drawn.Props = append(slices.Clone(drawn.Props), Handed([]string{ClassProp})...)
		}
		k.byTag[typ] = drawn.Seal()
	}
}

// counterparts are the names of components that usually stand in for a plain element.
var counterparts = map[string]string{
	"button": "button", "a": "link anchor", "select": "select", "textarea": "textarea text-area",
	"input": "input text-input text-field textfield", "table": "table data-table", "dialog": "dialog modal",
	"h1": "heading title", "h2": "heading title", "h3": "heading title", "h4": "heading title",
	"img": "image img picture", "progress": "progress progress-bar", "hr": "divider separator",
}

// Stand notes at plain elements which component the team has for them: one that it uses, and
// that is called as what the element is there for.
func (k *Kit) Stand(uses map[string]int) {
	for tag, names := range counterparts {
		var best *Component
		for name := range strings.FieldsSeq(names) {
			for _, own := range k.Components {
				_, short, _ := strings.Cut(own.Tag, "-")
				if tag == "a" && strings.Contains(strings.ToLower(own.Selector), "button") {
					continue // a link in a button's looks is for no link in a text
				}
				if short == name && uses[own.Tag] >= 3 && (best == nil || uses[own.Tag] > uses[best.Tag]) {
					best = own
				}
			}
		}
		if c, ok := k.Component(HostPrefix + tag); ok && best != nil {
			noted := *c
			noted.Replacement = best.Tag
			k.byTag[noted.Tag] = noted.Seal()
		}
	}
}
