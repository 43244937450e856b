// Package bringin reads markup from elsewhere, in whatever style it was written, as
// elements of a kit: an example that somebody published, a part of an old page. What
// it recognises becomes components with their settings; what it does not stays as
// plain markup, marked as such, with the nearest component named. Each guess says how
// certain it is and why. No text and no form field is lost, and nothing that could run
// comes in.
package bringin

import (
	"bytes"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"

	"ubiquant/core/find"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// Other is a component that an element may be instead.
type Other struct {
	Type      string  `json:"type"`
	Title     string  `json:"title"`
	Certainty float64 `json:"certainty"`
}

// Guess says what a part of the markup was taken for.
type Guess struct {
	Element   string  `json:"element"` // id of the element made of it
	From      string  `json:"from"`    // the markup, in short
	Text      string  `json:"text"`
	Type      string  `json:"type"`
	Title     string  `json:"title"`
	Certainty float64 `json:"certainty"` // 0 to 1
	Why       string  `json:"why"`
	Others    []Other `json:"others"`
	Plain     bool    `json:"plain"` // not recognised: it stays as it was written
}

// Note is something that was left out, or is missing, and why.
type Note struct {
	What string `json:"what"`
	Why  string `json:"why"`
}

// Result is markup read as elements.
type Result struct {
	Roots   []*screen.Element `json:"-"`
	Guesses []Guess           `json:"guesses"`
	LeftOut []Note            `json:"leftOut"`
	Needs   []Note            `json:"needs"`
}

// Limits of what is read.
const (
	maxBytes = 1 << 20
	maxNodes = 8_000
	maxDepth = 200
)

// Error says why markup cannot be read.
type Error struct{ Reason string }

func (e *Error) Error() string { return e.Reason }

// Options say how to read.
type Options struct {
	// Prefix begins the ids of the elements made.
	Prefix string
	// Chosen are types decided by somebody, by the ids of elements; "markup" keeps the
	// markup as it is.
	Chosen map[string]string
	// Mark is an attribute that holds what an element's id is made of, so that it stays the
	// same whatever else the markup holds; elements without it are numbered.
	Mark string
	// Taken are names that cannot be given again.
	Taken map[string]bool
}

// Read reads markup as elements of the kit. Errors are of type *Error.
func Read(src []byte, k *kit.Kit, o Options) (*Result, error) {
	if len(src) > maxBytes {
		return nil, &Error{fmt.Sprintf("the markup has %d KB; accepted: up to %d", len(src)>>10, maxBytes>>10)}
	}
	if err := measure(src); err != nil {
		return nil, err
	}
	body := &html.Node{Type: html.ElementNode, DataAtom: atom.Body, Data: "body"}
	nodes, err := html.ParseFragment(bytes.NewReader(src), body)
	if err != nil {
		return nil, &Error{"the markup cannot be read: " + err.Error()}
	}
	for _, n := range nodes {
		body.AppendChild(n)
	}
	r := &reader{
		k:      k,
		o:      o,
		res:    &Result{Guesses: []Guess{}, LeftOut: []Note{}, Needs: []Note{}},
		byWord: map[string]*kit.Component{},
		names:  map[string]bool{},
		labels: map[string]*html.Node{},
		used:   map[*html.Node]bool{},
		byID:   map[string]*html.Node{},
		known:  map[asked]*found{},
		inline: map[*html.Node]bool{},
	}
	for name := range o.Taken {
		r.names[name] = true
	}
	r.clean(body)
	r.number(body)
	r.res.Roots = r.children(body, scope{})
	for _, e := range r.res.Roots {
		e.Slot = ""
	}
	if len(r.res.Roots) == 0 {
		return nil, &Error{"nothing to bring in: the markup holds no element and no text"}
	}
	for _, e := range r.res.Roots {
		order(e)
	}
	return r.res, nil
}

// order brings children into the order of their slots, as a document holds them.
func order(e *screen.Element) {
	slices.SortStableFunc(e.Children, func(a, b *screen.Element) int { return strings.Compare(a.Slot, b.Slot) })
	for _, c := range e.Children {
		order(c)
	}
}

// measure bounds depth and number before a tree is built of the markup.
func measure(src []byte) error {
	z := html.NewTokenizer(bytes.NewReader(src))
	depth, count := 0, 0
	for {
		switch z.Next() {
		case html.ErrorToken:
			return nil
		case html.StartTagToken:
			name, _ := z.TagName()
			count++
			if !void[string(name)] && !closed[string(name)] {
				depth++
			}
		case html.EndTagToken:
			if name, _ := z.TagName(); !closed[string(name)] {
				depth = max(0, depth-1)
			}
		case html.SelfClosingTagToken:
			count++
		}
		if depth > maxDepth {
			return &Error{fmt.Sprintf("the markup is nested deeper than %d elements", maxDepth)}
		}
		if count > maxNodes {
			return &Error{fmt.Sprintf("the markup holds more than %d elements; bring it in in parts", maxNodes)}
		}
	}
}

var void = map[string]bool{
	"area":   true,
	"base":   true,
	"br":     true,
	"col":    true,
	"embed":  true,
	"hr":     true,
	"img":    true,
	"input":  true,
	"link":   true,
	"meta":   true,
	"source": true,
	"track":  true,
	"wbr":    true,
}

// closed are the tags that the next of their kind closes.
var closed = map[string]bool{
	"p":      true,
	"li":     true,
	"td":     true,
	"th":     true,
	"tr":     true,
	"dt":     true,
	"dd":     true,
	"option": true,
}

type reader struct {
	k       *kit.Kit
	o       Options
	res     *Result
	byWord  map[string]*kit.Component
	names   map[string]bool
	labels  map[string]*html.Node // of controls, by the id they are for
	used    map[*html.Node]bool   // taken in by another already
	entries []find.Entry
	numbers map[*html.Node]int
	byID    map[string]*html.Node
	known   map[asked]*found
	inline  map[*html.Node]bool
	spilt   []*screen.Element // finds no place in what is being built; stands after it
}

// scope is what a part of the markup stands in.
type scope struct {
	in   *kit.Component // nearest component around
	kind string         // what that was recognised as
}

func (r *reader) leftOut(what, why string) {
	n := Note{what, why}
	if !slices.Contains(r.res.LeftOut, n) {
		r.res.LeftOut = append(r.res.LeftOut, n)
	}
}

func (r *reader) needs(what, why string) {
	n := Note{what, why}
	if !slices.Contains(r.res.Needs, n) {
		r.res.Needs = append(r.res.Needs, n)
	}
}

// clean takes away what cannot come in, and notes labels by what they are for.
func (r *reader) clean(n *html.Node) {
	var next *html.Node
	for c := n.FirstChild; c != nil; c = next {
		next = c.NextSibling
		if c.Type == html.CommentNode || c.Type == html.DoctypeNode {
			n.RemoveChild(c)
			continue
		}
		if c.Type != html.ElementNode {
			continue
		}
		if c.Data == "title" && n.Data != "svg" {
			r.leftOut("<title>", "it names a page; a screen has a title of its own")
			n.RemoveChild(c)
			continue
		}
		switch c.Data {
		case "script", "style", "link", "meta", "base", "noscript", "template", "iframe", "object", "embed", "head":
			r.leftOut(
				"<"+c.Data+">",
				map[string]string{"script": "what it does is for the screen's actions to say", "style": "the kit has its own styles", "link": "the kit has its own styles", "iframe": "a page inside a page does not come in", "noscript": "there is always a script", "meta": "it is about the page", "base": "it is about the page", "head": "it is about the page"}[c.Data],
			)
			n.RemoveChild(c)
			continue
		}
		kept := c.Attr[:0]
		for _, a := range c.Attr {
			switch {
			case strings.HasPrefix(a.Key, "on"):
				r.leftOut(a.Key+" of <"+c.Data+">", "a handler; choose an action for it")
			case a.Key == "style":
				r.leftOut("style of <"+c.Data+">", "the kit has its own looks; layouts and spacing are taken from it")
				kept = append(kept, a)
			case (a.Key == "href" || a.Key == "src" || a.Key == "action" || a.Key == "xlink:href") && unsafe(a.Val):
				r.leftOut(a.Key+" "+short(a.Val, 30), "such an address never comes in")
			default:
				kept = append(kept, a)
			}
		}
		c.Attr = kept
		if c.Data == "label" && attr(c, "for") != "" {
			r.labels[attr(c, "for")] = c
		}
		r.clean(c)
	}
}

func unsafe(address string) bool {
	s := strings.ToLower(strings.Map(func(r rune) rune {
		if r <= ' ' {
			return -1
		}
		return r
	}, address))
	return strings.HasPrefix(s, "javascript:") || strings.HasPrefix(s, "vbscript:") ||
		strings.HasPrefix(s, "data:") && !strings.HasPrefix(s, "data:image/")
}

func attr(n *html.Node, name string) string {
	for _, a := range n.Attr {
		if a.Key == name {
			return strings.TrimSpace(a.Val)
		}
	}
	return ""
}

func has(n *html.Node, name string) bool {
	return slices.ContainsFunc(n.Attr, func(a html.Attribute) bool { return a.Key == name })
}

func short(s string, most int) string {
	r := []rune(s)
	if len(r) <= most {
		return s
	}
	return string(r[:most]) + "…"
}

// excerpt is the start tag of an element, in short.
func excerpt(n *html.Node) string {
	s := "<" + n.Data
	for _, key := range []string{"class", "classname", "role", "type"} {
		if v := attr(n, key); v != "" {
			s += " " + key + `="` + short(v, 28) + `"`
			break
		}
	}
	return s + ">"
}

// text is what an element says, without what is only for the eye.
func text(n *html.Node) string {
	var b strings.Builder
	var walk func(*html.Node)
	walk = func(n *html.Node) {
		switch {
		case n.Type == html.TextNode:
			b.WriteString(n.Data)
		case n.Type == html.ElementNode && (n.Data == "svg" || n.Data == "br"):
			b.WriteString(" ")
		default:
			for c := n.FirstChild; c != nil; c = c.NextSibling {
				walk(c)
			}
			if n.Type == html.ElementNode && !inline[n.Data] {
				b.WriteString(" ")
			}
		}
	}
	walk(n)
	return strings.Join(strings.Fields(b.String()), " ")
}

var inline = map[string]bool{
	"b":      true,
	"strong": true,
	"i":      true,
	"em":     true,
	"u":      true,
	"s":      true,
	"span":   true,
	"small":  true,
	"mark":   true,
	"abbr":   true,
	"code":   true,
	"sub":    true,
	"sup":    true,
	"time":   true,
	"data":   true,
	"q":      true,
	"cite":   true,
	"var":    true,
	"wbr":    true,
	"bdi":    true,
	"font":   true,
}

// classes are the words of an element's classes: each class whole, and its parts.
func classes(n *html.Node) (whole, parts []string) {
	list := strings.Fields(attr(n, "class") + " " + attr(n, "classname"))
	for _, c := range list {
		c = plain(c)
		whole = append(whole, c)
		parts = append(parts, strings.FieldsFunc(c, func(r rune) bool { return r == '-' || r == '_' || r == ':' || r == '/' })...)
	}
	return whole, parts
}

// plain brings a class name to lower-case words joined by dashes.
func plain(s string) string {
	var b strings.Builder
	for i, c := range s {
		if c >= 'A' && c <= 'Z' {
			if i > 0 && b.Len() > 0 && !strings.HasSuffix(b.String(), "-") {
				b.WriteByte('-')
			}
			c += 'a' - 'A'
		}
		b.WriteRune(c)
	}
	return b.String()
}

func elements(n *html.Node) []*html.Node {
	var out []*html.Node
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		if c.Type == html.ElementNode {
			out = append(out, c)
		}
	}
	return out
}

// ownText tells whether an element says something itself, not by what stands in it.
func ownText(n *html.Node) bool {
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		if c.Type == html.TextNode && strings.TrimSpace(c.Data) != "" {
			return true
		}
	}
	return false
}

// onlyInline tells whether all that stands in an element is text and its markup.
func (r *reader) onlyInline(n *html.Node) bool {
	yes, known := r.inline[n]
	if !known {
		yes = r.isInline(n)
		r.inline[n] = yes
	}
	return yes
}

func (r *reader) isInline(n *html.Node) bool {
	for _, c := range elements(n) {
		if c.Data == "br" {
			continue
		}
		if w, _ := classes(c); !inline[c.Data] || len(w) > 0 && r.recognise(c, scope{}) != nil ||
			attr(c, "role") != "" ||
			!r.onlyInline(c) {
			return false
		}
	}
	return true
}

// component finds a kit's component by what it is called: its tag's last words, its
// title, or another name it goes by.
func (r *reader) component(words ...string) *kit.Component {
	for _, w := range words {
		if c, known := r.byWord[w]; known {
			if c != nil {
				return c
			}
			continue
		}
		r.byWord[w] = r.search(w)
		if r.byWord[w] != nil {
			return r.byWord[w]
		}
	}
	return nil
}

func (r *reader) search(word string) *kit.Component {
	usable := func(c *kit.Component) bool { return c.Deprecated == "" && r.k.Left[c.Tag] == "" }
	dashed := strings.ReplaceAll(word, " ", "-")
	for _, c := range r.k.Components {
		if _, name, ok := strings.Cut(c.Tag, "-"); ok && (name == dashed || strings.EqualFold(c.Title, word)) &&
			usable(c) {
			return c
		}
	}
	for _, c := range r.k.Components {
		if slices.ContainsFunc(c.Aliases, func(a string) bool { return strings.EqualFold(a, word) }) && usable(c) {
			return c
		}
	}
	return nil
}

// nearest is the component whose names are most like an element's.
func (r *reader) nearest(n *html.Node) *Other {
	if r.entries == nil {
		r.entries = find.Kit(r.k, r.k.Components, func(string) int { return 0 })
	}
	_, parts := classes(n)
	words := append(parts, attr(n, "role"), n.Data)
	for _, w := range words {
		if len(w) < 3 || w == "div" || w == "span" {
			continue
		}
		for _, m := range find.Search(r.entries, w, 3) {
			if m.Kind == "component" {
				return &Other{Type: m.ID, Title: m.Title, Certainty: 0.3}
			}
		}
	}
	return nil
}

// icon finds the kit's icon by a name or meaning.
func (r *reader) icon(words []string) string {
	for _, w := range words {
		for _, i := range r.k.Icons {
			if i.Name == w || slices.Contains(i.Meanings, w) {
				return i.Name
			}
		}
	}
	return ""
}

// name gives an element a name of its own where the markup had an id or a name.
func (r *reader) name(e *screen.Element, n *html.Node) {
	id := attr(n, "id")
	if id == "" {
		return
	}
	name := strings.Trim(strings.Map(func(c rune) rune {
		if c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' {
			return c
		}
		return '-'
	}, id), "-")
	if !screen.ValidName(name) {
		return
	}
	given := name
	for i := 2; r.names[given]; i++ {
		given = name + "-" + strconv.Itoa(i)
	}
	if given != name {
		r.leftOut("the id "+name+" a second time", "ids are unique; it is "+given)
	}
	r.names[given] = true
	e.Name = given
}
