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

var plains sync.Map // type to *Component

// plain is a plain element by its type: "html-form". Every kit has them.
func plain(typ string) (*Component, bool) {
	tag, host := strings.CutPrefix(typ, HostPrefix)
	if !host && !strings.HasPrefix(typ, OtherPrefix) {
		return nil, false
	}
	if c, ok := plains.Load(typ); ok {
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
	kept, _ := plains.LoadOrStore(typ, c.Seal())
	return kept.(*Component), true
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
				if short == name && uses[own.Tag] >= 3 && (best == nil || uses[own.Tag] > uses[best.Tag]) {
					best = own
				}
			}
		}
		if c, ok := plain(HostPrefix + tag); ok && best != nil {
			noted := *c
			noted.Replacement = best.Tag
			k.byTag[noted.Tag] = noted.Seal()
		}
	}
}
