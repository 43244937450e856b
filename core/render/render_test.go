package render_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
	"pgregory.net/rapid"

	"ubiquant/core/kit"
	"ubiquant/core/render"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
)

func page(t testing.TB, src string) (render.Page, *resolve.Node) {
	n, _ := resolve.Resolve(resolve.Input{Screen: testkit.Tree(t, src), Catalog: testkit.Sorrel(t)})
	return render.HTML(testkit.Sorrel(t), n), n
}

func TestTextAndAttributesAreEscaped(t *testing.T) {
	p, _ := page(
		t,
		`{"id":"a\"><script>","type":"stack","children":[{"id":"b","type":"sorrel-button","text":"<img src=x onerror=alert(1)> & 'x'","props":{"to":"/\"onclick=\"x"}}]}`,
	)
	assert.NotContains(t, p.HTML, "<script>")
	assert.NotContains(t, p.HTML, "<img")
	assert.NotContains(t, p.HTML, `"onclick="`)
	assert.Contains(t, p.HTML, "&lt;img src=x onerror=alert(1)&gt; &amp; &#39;x&#39;")
}

func TestAddressesThatRunCodeAreDropped(t *testing.T) {
	unsafe := []string{
		"javascript:alert(1)",
		" JaVaScRiPt:alert(1)",
		"java\tscript:alert(1)",
		"java\nscript:x",
		"vbscript:x",
		"data:text/html,<script>",
		"data:image/svg+xml-evil,x",
		"\x01javascript:x",
		"blob:x",
		"file:///etc/passwd",
	}
	for _, u := range unsafe {
		assert.False(t, render.SafeURL(u), "%q", u)
	}
	for _, u := range []string{"", "/", "/a:b", "x/y", "#top", "?q=a:b", "https://example.org", "mailto:a@b.example", "tel:+123", "data:image/png;base64,AA", "data:image/svg+xml,%3Csvg%3E"} {
		assert.True(t, render.SafeURL(u), "%q", u)
	}
	p, _ := page(t, `{"id":"a","type":"sorrel-link","text":"x","props":{"to":"javascript:alert(1)"}}`)
	assert.NotContains(t, p.HTML, "javascript")
	assert.Equal(t, []render.Dropped{{Element: "a", Prop: "to"}}, p.Unsafe)
}

func TestLayoutsBecomeClassesAndNoStyleAttributes(t *testing.T) {
	p, _ := page(
		t,
		`{"id":"r","type":"row","props":{"gap":"4"},"children":[{"id":"c","type":"column","props":{"span":"12","span@960":"4"}},{"id":"d","type":"column","props":{"span":"99"}}]}`,
	)
	assert.Equal(
		t,
		`<div data-e="r" class="u-row u-gap-4"><div data-e="c" class="u-column u-span-12 u-span-4@960"></div><div data-e="d" class="u-column"></div></div>`,
		p.HTML,
	)
	sheet := render.Sheet(testkit.Sorrel(t))
	assert.Contains(t, sheet, `.u-span-4\@960`)
	assert.Contains(t, sheet, "var(--sorrel-space-4)")
}

// dom is a page as a browser would hold it, to try patches on.
func dom(t require.TestingT, markup string) *html.Node {
	body := &html.Node{Type: html.ElementNode, Data: "body", DataAtom: atom.Body}
	nodes, err := html.ParseFragment(strings.NewReader(markup), body)
	require.NoError(t, err)
	for _, n := range nodes {
		body.AppendChild(n)
	}
	return body
}

func key(n *html.Node) string {
	for _, a := range n.Attr {
		if a.Key == "data-e" {
			return a.Val
		}
	}
	return ""
}

func byKey(n *html.Node, k string) *html.Node {
	if n.Type == html.ElementNode && key(n) == k && k != "" {
		return n
	}
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		if found := byKey(c, k); found != nil {
			return found
		}
	}
	return nil
}

func place(body, parent, n *html.Node, after string) {
	if after != "" {
		parent.InsertBefore(n, byKey(body, after).NextSibling)
		return
	}
	for c := parent.FirstChild; c != nil; c = c.NextSibling {
		if c.Type == html.ElementNode {
			parent.InsertBefore(n, c)
			return
		}
	}
	parent.AppendChild(n)
}

func apply(t require.TestingT, body *html.Node, p render.Patch) {
	n := byKey(body, p.Key)
	switch p.Op {
	case "attrs":
		n.Attr = []html.Attribute{{Key: "data-e", Val: p.Key}}
		for _, a := range p.Attrs {
			n.Attr = append(n.Attr, html.Attribute{Key: a.Name, Val: a.Value})
		}
	case "text":
		if n.FirstChild != nil && n.FirstChild.Type == html.TextNode {
			n.RemoveChild(n.FirstChild)
		}
		if p.Text != "" {
			n.InsertBefore(&html.Node{Type: html.TextNode, Data: p.Text}, n.FirstChild)
		}
	case "remove":
		n.Parent.RemoveChild(n)
	case "insert":
		fresh := dom(t, p.HTML).FirstChild
		fresh.Parent.RemoveChild(fresh)
		place(body, byKey(body, p.Parent), fresh, p.After)
	case "move":
		parent := n.Parent
		parent.RemoveChild(n)
		place(body, parent, n, p.After)
	default:
		require.Fail(t, "unknown patch", p.Op)
	}
}

func written(t require.TestingT, n *html.Node) string {
	var b strings.Builder
	for c := range n.Descendants() { // in which order attributes stand says nothing
		slices.SortFunc(c.Attr, func(a, b html.Attribute) int { return strings.Compare(a.Key, b.Key) })
	}
	for c := n.FirstChild; c != nil; c = c.NextSibling {
		require.NoError(t, html.Render(&b, c))
	}
	return b.String()
}

// The law of patches: the page of one tree, patched, is the page of the other.
func TestPatchesLeadFromOnePageToTheOther(t *testing.T) {
	k := testkit.Sorrel(t)
	rapid.Check(t, func(t *rapid.T) {
		var build func(name string, depth int) *screen.Element
		ids := rapid.Permutation([]string{"a", "b", "c", "d", "e", "f", "g", "h"})
		var pool []string
		build = func(name string, depth int) *screen.Element {
			e := &screen.Element{ID: name, Type: rapid.SampledFrom([]string{"stack", "section"}).Draw(t, "type")}
			if name == "root" {
				e.Type = "stack"
			}
			if rapid.Bool().Draw(t, "gap") {
				e.Props = []screen.Prop{
					{Name: "gap", Value: screen.Lit(rapid.SampledFrom([]string{"2", "3"}).Draw(t, "step"))},
				}
			}
			for range rapid.IntRange(0, 3).Draw(t, "children") {
				if len(pool) == 0 {
					break
				}
				id := pool[0]
				pool = pool[1:]
				if depth < 2 && id > "c" && rapid.Bool().Draw(t, "deeper") {
					e.Children = append(e.Children, build(id, depth+1))
				} else if typ := map[string]string{"a": "html-img", "b": "html-a", "c": "markup"}[id]; typ != "" {
					e.Children = append(e.Children, &screen.Element{
						ID: id, Type: typ,
						Origin: &screen.Origin{File: "a.tsx", Look: rapid.SampledFrom([]string{"", "card", "card wide"}).Draw(t, "look")},
						Props: rapid.SampledFrom([][]screen.Prop{nil, {{Name: "href", Value: screen.Lit("/a")}}, {{Name: "src", Value: screen.Lit("/a.png")}},
							{{Name: "src", Value: screen.Lit("data:image/png;base64,AA")}}, {{Name: "tag", Value: screen.Lit("p")}}}).Draw(t, "set"),
					})
				} else {
					e.Children = append(e.Children, &screen.Element{ID: id, Type: "sorrel-text", Text: screen.Lit(rapid.SampledFrom([]string{"", "x", "y & z"}).Draw(t, "text"))})
				}
			}
			return e
		}
		pool = ids.Draw(t, "ids")
		from := build("root", 0)
		pool = ids.Draw(t, "ids again")
		to := build("root", 0)
		a, _ := resolve.Resolve(resolve.Input{Screen: from, Catalog: k})
		b, _ := resolve.Resolve(resolve.Input{Screen: to, Catalog: k})
		patches, ok := render.Diff(k, a, b)
		require.True(t, ok)
		body := dom(t, render.HTML(k, a).HTML)
		for _, p := range patches {
			apply(t, body, p)
		}
		require.Equal(t, written(t, dom(t, render.HTML(k, b).HTML)), written(t, body))
	})
}

func TestAnUnchangedPageNeedsNoPatch(t *testing.T) {
	_, n := page(t, `{"id":"r","type":"stack","children":[{"id":"b","type":"sorrel-button","text":"Save"}]}`)
	patches, ok := render.Diff(testkit.Sorrel(t), n, n)
	assert.True(t, ok)
	assert.Empty(t, patches)
}

// Every setting of a layout does something: each value that is not the default has a
// rule in the sheet, at every width where it may differ.
func TestNoChoiceOfALayoutDoesNothing(t *testing.T) {
	k := testkit.Sorrel(t)
	sheet := render.Sheet(k)
	for _, l := range kit.Layouts() {
		for _, p := range l.Props {
			values := p.Values
			switch {
			case p.Tokens != "":
				values = append(slices.Clone(p.Values), k.Tokens.Steps(p.Tokens)...)
			case p.Type == kit.Bool:
				values = []string{"on"}
			}
			if p.Name == "region" || p.Name == "tag" { // these are the tag it is written with
				continue
			}
			for _, v := range values {
				if v != p.Default {
					assert.Contains(t, sheet, ".u-"+p.Name+"-"+v, "%s of %s", p.Name, l.Tag)
				}
				for _, w := range kit.Breakpoints {
					if p.Responsive {
						assert.Contains(t, sheet, ".u-"+p.Name+"-"+v+`\@`+w, "%s of %s", p.Name, l.Tag)
					}
				}
			}
		}
	}
}

// Plain elements are drawn with what they are set to, and nothing of it runs or leads away; a picture that
// is not kept here is a box that says what is to be seen.
func TestPlainElementsAreDrawnAsTheyAreSet(t *testing.T) {
	p, _ := page(t, `{"id":"r","type":"html-form","children":[
		{"id":"l","type":"html-label","text":"Bed","props":{"for":"bed"}},
		{"id":"i","type":"html-input","props":{"id":"bed","type":"checkbox","checked":true,"disabled":false,"placeholder":"\"><b>"}},
		{"id":"a","type":"html-a","text":"Go","props":{"href":"javascript:x"}},
		{"id":"b","type":"html-a","text":"Go","props":{"href":"/beds","onclick":"x"}},
		{"id":"p","type":"html-img","props":{"src":"/fern.png","alt":"A fern"}},
		{"id":"q","type":"html-img","props":{"src":"data:image/png;base64,AA","alt":""}},
		{"id":"s","type":"html-select","children":[{"id":"o","type":"html-option","text":"North","props":{"value":"n"}}]},
		{"id":"t","type":"html-td","text":"x","props":{"colspan":2}}]}`)
	for _, want := range []string{
		`<label data-e="l" for="bed">Bed</label>`,
		`<input data-e="i" checked id="bed" placeholder="&quot;&gt;&lt;b&gt;" type="checkbox"><a `,
		`<a data-e="a">Go</a>`, `<a data-e="b" href="/beds">Go</a>`,
		`<div data-e="p" role="img" aria-label="A fern" class="u-picture"></div>`,
		`<img data-e="q" alt="" src="data:image/png;base64,AA"><select `,
		`<option data-e="o" value="n">North</option></select>`,
		`<div data-e="t" colspan="2">x</div>`,
	} {
		assert.Contains(t, p.HTML, want)
	}
	assert.Equal(t, []render.Dropped{{Element: "a", Prop: "href"}}, p.Unsafe)
}
