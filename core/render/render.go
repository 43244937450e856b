// Package render turns a concrete tree into HTML for the kit's elements, and the
// difference between two trees into patches by element key. Text and attributes
// are escaped by construction; addresses that could run code are dropped.
//
// It writes no style attributes and no event handlers: layouts become classes of
// one generated sheet (see Sheet), so that a strict content policy holds.
package render

import (
	_ "embed" // the script
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/go-json-experiment/json"

	"ubiquant/core/kit"
	"ubiquant/core/picture"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// Page is a rendered tree: its HTML, and per element key the properties that no
// attribute can carry.
type Page struct {
	HTML  string                    `json:"html"`
	Props map[string]map[string]any `json:"props,omitempty"`
	// Unsafe lists addresses that were dropped, by element.
	Unsafe []Dropped `json:"unsafe,omitempty"`
}

// Dropped is an address that was not rendered because it could run code.
type Dropped struct {
	Element string `json:"element"`
	Prop    string `json:"prop"`
}

// HTML renders a tree.
func HTML(k *kit.Kit, root *resolve.Node) Page {
	w := writer{kit: k, page: Page{Props: map[string]map[string]any{}}}
	w.node(root)
	w.page.HTML = string(w.b)
	return w.page
}

// Delivered renders a tree for a page that stands by itself: its pictures are beside it, or where they are.
func Delivered(k *kit.Kit, root *resolve.Node) string {
	w := writer{kit: k, alone: true, page: Page{Props: map[string]map[string]any{}}}
	w.node(root)
	return string(w.b)
}

type writer struct {
	kit   *kit.Kit
	b     []byte
	page  Page
	alone bool // pictures that are kept elsewhere can be loaded
}

func (w *writer) text(s string) {
	for i := 0; i < len(s); i++ {
		switch s[i] {
		case '&':
			w.b = append(w.b, "&amp;"...)
		case '<':
			w.b = append(w.b, "&lt;"...)
		case '>':
			w.b = append(w.b, "&gt;"...)
		case '"':
			w.b = append(w.b, "&quot;"...)
		case '\'':
			w.b = append(w.b, "&#39;"...)
		case 0:
			w.b = append(w.b, "\uFFFD"...)
		default:
			w.b = append(w.b, s[i])
		}
	}
}

// Attr is an attribute of a rendered element; Flag ones have no value.
type Attr struct {
	Name  string `json:"name"`
	Value string `json:"value"`
	Flag  bool   `json:"flag,omitempty"`
}

// Attributes lists what a node becomes: its tag, attributes in order, and
// properties no attribute can carry.
func (w *writer) attributes(n *resolve.Node) (tag string, attrs []Attr, props map[string]any) {
	c := n.Component
	if c == nil {
		return "div", []Attr{{Name: "class", Value: "u-unknown"}}, nil
	}
	if n.Slot != "" {
		attrs = append(attrs, Attr{Name: "slot", Value: n.Slot})
	}
	drawn := !c.Plain || c.Export != ""
	if c.Level == kit.Layout && drawn && c.Export == "" {
		classes := strings.TrimSpace(strings.Join(Classes(n), " ") + " " + n.Look)
		return TagOf(n), append(attrs, Attr{Name: "class", Value: classes}), nil
	}
	if n.Look != "" && (!drawn || w.kit.Drawn == "") {
		attrs = append(attrs, Attr{Name: "class", Value: n.Look})
	}
	if !drawn {
		tag := PlainTag(c.Tag)
		attrs = append(attrs, w.plain(n)...)
		switch of, kept := slices.Contains(ofTables, tag), slices.Contains(ofChoices, tag); {
		case tag == "img" && !w.alone:
			return pictured(attrs)
		case w.kit.Drawn != "" && (of || kept): // made by the framework, whatever it stands in
			return "u-h", append(attrs, Attr{Name: "data-h", Value: tag}), nil
		case of:
			return "div", attrs, nil
		}
		return tag, attrs, nil
	}
	for _, p := range n.Props {
		def, ok := c.Prop(p.Name)
		if !ok || w.kit.Drawn != "" {
			continue // reported by the audit; of a framework's component see below
		}
		if s, ok := p.Value.(string); ok {
			if path, isToken := strings.CutPrefix(s, resolve.TokenMark); isToken {
				if tok, ok := w.kit.Tokens.Find(path); ok {
					attrs = append(attrs, Attr{Name: def.Attr, Value: "var(" + tok.CSS + ")"})
				}
				continue
			}
			if def.URL && !SafeURL(s) {
				w.page.Unsafe = append(w.page.Unsafe, Dropped{n.ID, p.Name})
				continue
			}
			p.Value = picture.From(s)
		}
		if def.Attr == "" {
			if props == nil {
				props = map[string]any{}
			}
			if v, ok := valueOf(def, p.Value); ok {
				props[p.Name] = v
			}
			continue
		}
		switch v := p.Value.(type) {
		case bool:
			if def.Type != kit.Bool {
				attrs = append(attrs, Attr{Name: def.Attr, Value: strconv.FormatBool(v)})
			} else if v {
				attrs = append(attrs, Attr{Name: def.Attr, Flag: true})
			} else if def.Default == "true" {
				if props == nil {
					props = map[string]any{}
				}
				props[p.Name] = false // an absent attribute would leave the default
			}
		case float64:
			attrs = append(attrs, Attr{Name: def.Attr, Value: strconv.FormatFloat(v, 'f', -1, 64)})
		case string:
			attrs = append(attrs, Attr{Name: def.Attr, Value: v})
		}
	}
	if w.kit.Drawn != "" {
		return drawnTag, w.drawn(n, attrs), nil
	}
	if len(n.Does) > 0 {
		attrs = append(attrs, Attr{Name: "data-does", Value: does(c.Answers, n.Does)})
	}
	if h := n.Holds; h != nil {
		attrs = append(attrs, Attr{Name: "data-holds", Value: h.Event + "|" + h.Prop + "|" + h.Name})
	}
	if c.OpensBy != "" && c.OpensBy != "open" {
		attrs = append(attrs, Attr{Name: "data-opens", Value: c.OpensBy})
	}
	return c.Tag, attrs, props
}

// drawnTag stands for a component of a framework, until the frame has drawn it.
const drawnTag = "u-c"

// drawn are the attributes of an element that a framework draws: which component, and its
// settings as JSON, in the types that its code takes.
func (w *writer) drawn(n *resolve.Node, attrs []Attr) []Attr {
	c := n.Component
	if c.Export == "" { // an element of the page, among components of a framework
		attrs = append(attrs, Attr{Name: "data-t", Value: c.Tag})
	} else {
		attrs = append(attrs, Attr{Name: "data-c", Value: c.Export})
		if c.Part > 0 {
			attrs = append(attrs, Attr{Name: "data-k", Value: strconv.Itoa(c.Part)})
		}
	}
	named := func(def *kit.Prop) string { // as code of the framework has it
		if def.Handed && w.kit.Drawn == "react" && c.Export != "" {
			return kit.NameInReact(def.Name)
		}
		return def.Name
	}
	settings := map[string]any{}
	for _, p := range n.Props {
		def, ok := c.Prop(p.Name)
		if !ok {
			continue
		}
		if s, ok := p.Value.(string); ok {
			if path, isToken := strings.CutPrefix(s, resolve.TokenMark); isToken {
				if tok, ok := w.kit.Tokens.Find(path); ok {
					settings[p.Name] = "var(" + tok.CSS + ")"
				}
				continue
			}
			// Which of a framework's props end up as addresses is not always known.
			if def.URL && !SafeURL(s) || scripted(s) {
				w.page.Unsafe = append(w.page.Unsafe, Dropped{n.ID, p.Name})
				continue
			}
			p.Value = picture.From(s)
		}
		if v, ok := valueOf(def, p.Value); ok {
			settings[named(def)] = v
		}
	}
	if n.Look != "" {
		settings[named(&kit.Prop{Name: kit.ClassProp, Handed: true})] = n.Look
	}
	if len(settings) > 0 {
		b, err := json.Marshal(settings, json.Deterministic(true))
		if err == nil { // texts, numbers and what was read from JSON
			attrs = append(attrs, Attr{Name: "data-p", Value: string(b)})
		}
	}
	if len(n.Does) > 0 {
		attrs = append(attrs, Attr{Name: "data-does", Value: does(c.Answers, n.Does)})
	}
	if h := n.Holds; h != nil {
		attrs = append(attrs, Attr{Name: "data-holds", Value: h.Event + "|" + h.Prop + "|" + h.Name})
	}
	if c.OpensBy != "" { // a framework's component is open as long as it is told so
		attrs = append(attrs, Attr{Name: "data-opens", Value: c.OpensBy})
		if c.Closes != "" {
			attrs = append(attrs, Attr{Name: "data-closes", Value: c.Closes + "|" + c.OpensBy})
		}
	}
	return attrs
}

// scripted tells of a text that a browser would run where it stood as an address.
func scripted(s string) bool {
	clean := strings.ToLower(strings.Map(func(r rune) rune {
		if r <= ' ' || r == 0x7f {
			return -1
		}
		return r
	}, s))
	return strings.HasPrefix(clean, "javascript:") || strings.HasPrefix(clean, "vbscript:") || strings.HasPrefix(clean, "data:text/html")
}

// valueOf is a value in the type that code takes: what a choice of numbers says is a
// number, what holds data is what its JSON says. ok is false for what is no value.
func valueOf(def *kit.Prop, value any) (v any, ok bool) {
	s, isText := value.(string)
	if !isText {
		return value, value != nil
	}
	switch {
	case def.JSON:
		var v any
		if s == "" || json.Unmarshal([]byte(s), &v) != nil {
			return nil, false
		}
		return v, true
	case def.Numbers || def.Type == kit.Number:
		if f, err := strconv.ParseFloat(s, 64); err == nil {
			return f, true
		}
	case def.Type == kit.Bool:
		return s == "true", true
	}
	return s, true
}

// does writes what an element does for acts.js: the event, then each action with its
// target after a colon, parted by bars.
func does(event string, list []screen.Action) string {
	var b strings.Builder
	b.WriteString(event)
	for _, a := range list {
		// What parts an action from its target does not stand in the target.
		b.WriteString("|" + a.Verb + ":" + strings.ReplaceAll(url.PathEscape(a.To), ":", "%3A"))
	}
	return b.String()
}

// Asks is the module by which forms of a drawn page look at their fields; it stands beside Faults,
// which says what is wrong with a value.
//
//go:embed asks.ts
var Asks string

// Faults says what is wrong with what a field holds, and says it aloud. Both are TypeScript.
//
//go:embed faults.ts
var Faults string

// Acts is the script that does what elements are told to, in the frame and in pages
// that are delivered.
//
//go:embed acts.js
var Acts string

// TagOf is the tag that a layout is written with: that of plain markup, as far as it
// is one that may be and can hold what stands in it, else a div.
func TagOf(n *resolve.Node) string {
	if n.Type != "markup" {
		return "div"
	}
	def, ok := n.Component.Prop("tag")
	for _, p := range n.Props {
		tag, isText := p.Value.(string)
		if ok && p.Name == "tag" && isText && slices.Contains(def.Values, tag) &&
			(len(n.Children) == 0 || !slices.Contains(onlyText, tag)) {
			return tag
		}
	}
	return "div"
}

// onlyText are the tags that a browser closes where something else begins.
var onlyText = []string{"p", "span", "pre", "summary"}

func (w *writer) node(n *resolve.Node) {
	tag, attrs, props := w.attributes(n)
	if props != nil {
		w.page.Props[n.Key] = props
	}
	w.b = append(w.b, '<')
	w.b = append(w.b, tag...)
	w.b = append(w.b, ` data-e="`...)
	w.text(n.Key)
	w.b = append(w.b, '"')
	for _, a := range attrs {
		w.b = append(w.b, ' ')
		w.b = append(w.b, a.Name...)
		if !a.Flag {
			w.b = append(w.b, `="`...)
			w.text(a.Value)
			w.b = append(w.b, '"')
		}
	}
	w.b = append(w.b, '>')
	if Void(tag) {
		return
	}
	if n.Component == nil {
		w.text("Unknown here: " + n.Type)
	}
	w.text(n.Text)
	for _, c := range n.Children {
		w.node(c)
	}
	w.b = append(w.b, "</"...)
	w.b = append(w.b, tag...)
	w.b = append(w.b, '>')
}

// SafeURL reports whether an address may stand in an attribute: relative ones,
// http, https, mailto, tel, and pictures as data. Control characters and spaces
// before the scheme do not hide it.
func SafeURL(s string) bool {
	clean := strings.Map(func(r rune) rune {
		if r <= ' ' || r == 0x7f {
			return -1
		}
		return r
	}, s)
	scheme, rest, found := strings.Cut(clean, ":")
	if !found || strings.ContainsAny(scheme, "/?#") {
		return true
	}
	switch strings.ToLower(scheme) {
	case "http", "https", "mailto", "tel":
		return true
	case "data":
		kind := strings.ToLower(rest)
		return slices.ContainsFunc(
			[]string{"image/png", "image/jpeg", "image/webp", "image/gif", "image/svg+xml"},
			func(k string) bool {
				return strings.HasPrefix(kind, k+",") || strings.HasPrefix(kind, k+";")
			},
		)
	}
	return false
}

// Classes lists the sheet's classes of a layout element.
func Classes(n *resolve.Node) []string {
	out := []string{"u-" + n.Type}
	for _, p := range n.Props {
		def, ok := n.Component.Prop(p.Name)
		if !ok {
			continue
		}
		var value string
		switch v := p.Value.(type) {
		case bool:
			if !v {
				continue
			}
			value = "on"
		case string:
			value = v
			if step, isToken := strings.CutPrefix(v, resolve.TokenMark); isToken {
				value = step[strings.LastIndexByte(step, '.')+1:]
			}
		case float64:
			value = strconv.FormatFloat(v, 'f', -1, 64)
		}
		base, width, _ := strings.Cut(p.Name, "@")
		if !plainWord(value) || (def.Type == kit.Enum && !slices.Contains(def.Values, value)) {
			continue
		}
		name := "u-" + base + "-" + value
		if width != "" {
			name += "@" + width
		}
		out = append(out, name)
	}
	return out
}

func plainWord(s string) bool {
	for _, r := range s {
		if !(r >= 'a' && r <= 'z' || r >= '0' && r <= '9') {
			return false
		}
	}
	return s != ""
}

// Patch is one change to a shown page. Ops: "attrs" sets all attributes and
// properties of Key; "text" its own text; "remove" takes Key away; "insert" puts
// HTML into Parent after the sibling After ("" is first); "move" puts Key after
// After within its parent.
type Patch struct {
	Op     string                    `json:"op"`
	Key    string                    `json:"key"`
	Parent string                    `json:"parent,omitempty"`
	After  string                    `json:"after,omitempty"`
	HTML   string                    `json:"html,omitempty"`
	Text   string                    `json:"text,omitempty"`
	Attrs  []Attr                    `json:"attrs,omitempty"`
	Props  map[string]map[string]any `json:"props,omitempty"`
}

// Diff lists the patches that turn the page of one tree into that of another.
// ok is false where the roots differ: then the page is to be set anew. All
// removals come first, so that a key that goes from one parent to another is
// never on the page twice.
func Diff(k *kit.Kit, from, to *resolve.Node) (patches []Patch, ok bool) {
	if from.Key != to.Key || from.Type != to.Type {
		return nil, false
	}
	d := differ{kit: k}
	d.removals(from, to)
	d.changes(from, to)
	return d.out, true
}

type differ struct {
	kit *kit.Kit
	out []Patch
}

// pairs matches the children that stay: same parent, key and type, drawn as the same element.
func (d *differ) pairs(from, to *resolve.Node) map[string]*resolve.Node {
	old := make(map[string]*resolve.Node, len(from.Children))
	for _, c := range from.Children {
		old[c.Key] = c
	}
	kept := make(map[string]*resolve.Node, len(to.Children))
	for _, c := range to.Children {
		if o := old[c.Key]; o != nil && o.Type == c.Type && d.drawnAlike(o, c) {
			kept[c.Key] = o
		}
	}
	return kept
}

// drawnAlike tells whether two nodes of one type are the same element on the page: what plain markup is
// drawn as hangs on its settings.
func (d *differ) drawnAlike(from, to *resolve.Node) bool {
	if from.Type != "markup" && from.Type != kit.HostPrefix+"img" {
		return true
	}
	w := writer{kit: d.kit}
	was, _, _ := w.attributes(from)
	is, _, _ := w.attributes(to)
	return was == is
}

func (d *differ) removals(from, to *resolve.Node) {
	kept := d.pairs(from, to)
	for _, c := range from.Children {
		if kept[c.Key] == nil {
			d.out = append(d.out, Patch{Op: "remove", Key: c.Key})
		}
	}
	for _, c := range to.Children {
		if old := kept[c.Key]; old != nil {
			d.removals(old, c)
		}
	}
}

func (d *differ) changes(from, to *resolve.Node) {
	if !slices.Equal(from.Props, to.Props) || !slices.Equal(from.Does, to.Does) || from.Slot != to.Slot || from.Look != to.Look ||
		(from.Component == nil) != (to.Component == nil) {
		w := writer{kit: d.kit}
		_, attrs, props := w.attributes(to)
		p := Patch{Op: "attrs", Key: to.Key, Attrs: attrs}
		if props != nil {
			p.Props = map[string]map[string]any{to.Key: props}
		}
		d.out = append(d.out, p)
	}
	if from.Text != to.Text {
		d.out = append(d.out, Patch{Op: "text", Key: to.Key, Text: to.Text})
	}
	kept := d.pairs(from, to)
	current := make([]string, 0, len(to.Children)) // the list on the page as patches are made
	for _, c := range from.Children {
		if kept[c.Key] != nil {
			current = append(current, c.Key)
		}
	}
	after := ""
	for i, c := range to.Children {
		old := kept[c.Key]
		switch {
		case old == nil:
			w := writer{kit: d.kit, page: Page{Props: map[string]map[string]any{}}}
			w.node(c)
			d.out = append(
				d.out,
				Patch{Op: "insert", Key: c.Key, Parent: to.Key, After: after, HTML: string(w.b), Props: w.page.Props},
			)
			current = slices.Insert(current, i, c.Key)
		case current[i] != c.Key:
			d.out = append(d.out, Patch{Op: "move", Key: c.Key, After: after})
			j := slices.Index(current, c.Key)
			current = slices.Insert(slices.Delete(current, j, j+1), i, c.Key)
		}
		if old != nil {
			d.changes(old, c)
		}
		after = c.Key
	}
}
