package source

import (
	"bytes"
	"errors"
	"io"
	"regexp"
	"slices"
	"strings"

	"golang.org/x/net/html"
)

// void are elements that have no end.
var void = map[string]bool{
	"area": true, "base": true, "br": true, "col": true, "embed": true, "hr": true, "img": true, "input": true, "link": true, "meta": true, "source": true, "track": true, "wbr": true,
}

// ReadHTML reads a page: plain HTML with custom elements, or a template of a server, whose
// own tags are holes. It gives nil where there is no custom element, which is no screen of a kit.
func ReadHTML(src []byte) *Module {
	m := &Module{Language: "html", Types: map[string]Type{}}
	z := html.NewTokenizer(bytes.NewReader(src))
	z.SetMaxBuf(1 << 20)
	root := &Node{Kind: "group"}
	stack := []*Node{root}
	at, custom := 0, false
	top := func() *Node { return stack[len(stack)-1] }
	for {
		kind := z.Next()
		raw := z.Raw()
		start, end := at, at+len(raw)
		at = end
		switch kind {
		case html.ErrorToken:
			if err := z.Err(); !errors.Is(err, io.EOF) {
				m.Problems = append(m.Problems, Problem{start, err.Error()})
			}
			if !custom {
				if len(m.Imports) == 0 {
					return nil
				}
				return m
			}
			m.Components = []*Component{{Name: "default", Exported: []string{"default"}, Span: Span{0, len(src)}, Roots: body(root.Children)}}
			return m
		case html.TextToken:
			text := strings.TrimSpace(string(raw))
			if text == "" {
				continue
			}
			lead := bytes.Index(raw, []byte(text))
			place := Span{start + lead, start + lead + len(text)}
			v := &Value{Kind: "text", Value: strings.Join(strings.Fields(html.UnescapeString(text)), " "), Form: "content", At: &place}
			node := &Node{Kind: "text", Span: Span{start, end}, Value: v}
			if hole(text) {
				node.Kind, node.Value = "value", &Value{Kind: "bound", Value: text}
			}
			top().Children = append(top().Children, node)
		case html.StartTagToken, html.SelfClosingTagToken:
			n := tagOf(raw, start)
			if n == nil {
				continue
			}
			custom = custom || strings.Contains(n.Name, "-")
			if sheet := linked(n); sheet != "" {
				m.Imports = append(m.Imports, Import{From: sheet})
			}
			top().Children = append(top().Children, n)
			if kind == html.StartTagToken && !void[n.Name] {
				stack = append(stack, n)
			}
		case html.EndTagToken:
			name, _ := z.TagName()
			for i := len(stack) - 1; i > 0; i-- {
				if stack[i].Name == string(name) {
					stack[i].Span[1] = end
					stack = stack[:i]
					break
				}
			}
		}
	}
}

// linked is the style sheet that an element asks for; empty where it asks for none, or for one that lies elsewhere.
func linked(n *Node) string {
	if n.Name != "link" {
		return ""
	}
	is := map[string]string{}
	for i := range n.Attributes {
		if a := &n.Attributes[i]; a.Kind == "text" {
			is[a.Name] = a.Value.Value
		}
	}
	href, _, _ := strings.Cut(is["href"], "#")
	if !slices.Contains(strings.Fields(strings.ToLower(is["rel"])), "stylesheet") || href == "" || hole(href) {
		return ""
	}
	switch {
	case strings.HasPrefix(href, "//"), elsewhere.MatchString(href):
		return ""
	case strings.HasPrefix(href, "/"), strings.HasPrefix(href, "."):
		return href
	}
	return "./" + href
}

// elsewhere is how an address begins that says a scheme.
var elsewhere = regexp.MustCompile(`^[a-zA-Z][a-zA-Z0-9+.-]*:`)

// body is what is shown of a page.
func body(list []*Node) []*Node {
	for _, n := range list {
		if n.Name == "body" {
			return n.Children
		}
		if n.Name == "html" {
			return body(n.Children)
		}
	}
	return list
}

// hole reports whether a text is filled in by a server: {{ }}, {% %}, <% %>, ${ }.
func hole(s string) bool {
	for _, mark := range []string{"{{", "{%", "<%", "<?", "${", "@{"} {
		if strings.Contains(s, mark) {
			return true
		}
	}
	return false
}

// tagOf reads an opening tag with the places of its attributes, which the tokenizer does not tell.
func tagOf(raw []byte, start int) *Node {
	i := 1
	name := func() string {
		from := i
		for i < len(raw) && !strings.ContainsRune(" \t\r\n\f/>=", rune(raw[i])) {
			i++
		}
		return string(raw[from:i])
	}
	space := func() {
		for i < len(raw) && strings.ContainsRune(" \t\r\n\f/", rune(raw[i])) {
			i++
		}
	}
	n := &Node{Kind: "element", Name: strings.ToLower(name()), Span: Span{start, start + len(raw)}, Tag: &Span{start, start + len(raw)}}
	if n.Name == "" {
		return nil
	}
	n.Room = start + i
	for {
		space()
		if i >= len(raw) || raw[i] == '>' {
			break
		}
		from := i
		key := name()
		if key == "" {
			i++
			continue
		}
		span := Span{start + from, start + i}
		after := i
		for after < len(raw) && strings.ContainsRune(" \t\r\n", rune(raw[after])) {
			after++
		}
		if after >= len(raw) || raw[after] != '=' {
			n.Attributes = append(n.Attributes, Attribute{Value{Kind: "flag", Value: "true", Form: "bare", At: &Span{span[0], span[1]}}, key, span})
			n.Room = span[1]
			continue
		}
		i = after + 1
		for i < len(raw) && strings.ContainsRune(" \t\r\n", rune(raw[i])) {
			i++
		}
		valueFrom := i
		if i < len(raw) && (raw[i] == '"' || raw[i] == '\'') {
			quote := raw[i]
			i++
			for i < len(raw) && raw[i] != quote {
				i++
			}
			i = min(i+1, len(raw))
		} else {
			for i < len(raw) && !strings.ContainsRune(" \t\r\n>", rune(raw[i])) {
				i++
			}
		}
		place := Span{start + valueFrom, start + i}
		span[1] = start + i
		text := html.UnescapeString(strings.Trim(string(raw[valueFrom:i]), `"'`))
		v := Value{Kind: "text", Value: text, Form: "attribute", At: &place}
		if hole(text) {
			v = Value{Kind: "bound", Value: text}
		}
		if key == "slot" && v.Kind == "text" {
			n.Slot = text
		} else {
			n.Attributes = append(n.Attributes, Attribute{v, key, span})
		}
		n.Room = start + i
	}
	return n
}
