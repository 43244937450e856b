package render

import (
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/picture"
	"ubiquant/core/resolve"
)

// harmless are plain elements that are drawn as what they are; others are drawn as a box.
var harmless = []string{
	"p", "span", "section", "main", "article", "header", "footer", "nav", "aside", "ul", "ol", "li", "h1", "h2", "h3", "h4", "h5", "h6", "strong", "em", "b", "i", "small",
	"label", "fieldset", "legend", "figure", "figcaption", "blockquote", "code", "a", "pre", "dl", "dt", "dd", "hr", "br", "table", "caption", "thead", "tbody", "tfoot",
	"tr", "td", "th", "button", "form", "img", "input", "textarea", "select", "optgroup", "option", "time", "mark", "u", "sub", "sup", "kbd", "abbr", "address",
	"details", "summary", "progress", "meter", "search", "hgroup",
}

// voids are elements of HTML in which nothing stands.
var voids = []string{"img", "input", "hr", "br"}

// Void tells whether nothing stands in an element of HTML, so that it has no end.
func Void(tag string) bool { return slices.Contains(voids, tag) }

// PlainTag is the tag that a plain element is drawn and delivered as, by its type.
func PlainTag(typ string) string {
	if tag, ok := strings.CutPrefix(typ, kit.HostPrefix); ok && slices.Contains(harmless, tag) {
		return tag
	}
	return "div"
}

// plain are the attributes that a plain element is set to.
func (w *writer) plain(n *resolve.Node) (attrs []Attr) {
	for _, p := range n.Props {
		def, ok := n.Component.Prop(p.Name)
		if !ok {
			continue // reported by the audit
		}
		switch v := p.Value.(type) {
		case bool:
			switch {
			case def.Type != kit.Bool:
				attrs = append(attrs, Attr{Name: def.Attr, Value: strconv.FormatBool(v)})
			case v:
				attrs = append(attrs, Attr{Name: def.Attr, Flag: true})
			}
		case float64:
			attrs = append(attrs, Attr{Name: def.Attr, Value: strconv.FormatFloat(v, 'f', -1, 64)})
		case string:
			switch {
			case strings.HasPrefix(v, resolve.TokenMark): // none of them is a style
			case def.URL && !SafeURL(v):
				w.page.Unsafe = append(w.page.Unsafe, Dropped{n.ID, p.Name})
			case def.Type != kit.Bool:
				attrs = append(attrs, Attr{Name: def.Attr, Value: picture.From(v)})
			case v == "true":
				attrs = append(attrs, Attr{Name: def.Attr, Flag: true})
			}
		}
	}
	return attrs
}

// pictured draws a plain picture: one that is not kept here as a box of its own, that says what is to be
// seen, since nothing of it can be loaded.
func pictured(attrs []Attr) (tag string, _ []Attr, props map[string]any) {
	kept, at, box := false, picture.From(picture.Folder), []Attr{{Name: "role", Value: "img"}}
	look := "u-picture"
	for _, a := range attrs {
		switch a.Name {
		case "src":
			kept = strings.HasPrefix(a.Value, "data:") || strings.HasPrefix(a.Value, at)
		case "class":
			look += " " + a.Value
		case "alt":
			box = append(box, Attr{Name: "aria-label", Value: a.Value})
		case "id", "title", "slot":
			box = append(box, a)
		}
	}
	if kept {
		return "img", attrs, nil
	}
	return "div", append(box, Attr{Name: "class", Value: look}), nil
}

// ofTables are plain elements that a page keeps only in each other.
var ofTables = []string{"table", "caption", "thead", "tbody", "tfoot", "tr", "td", "th"}

// ofChoices are plain elements in which a page keeps nothing but each other.
var ofChoices = []string{"select", "optgroup", "option"}
