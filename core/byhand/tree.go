package byhand

import (
	"hash/fnv"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"ubiquant/core/source"
)

// node is a part of the markup of one text.
type node struct {
	*source.Node
	id    string // of the element of the document that it is the code of
	up    *node
	kids  []*node
	deep  uint64   // says all that stands in it
	src   []byte   // the text that it stands in
	words []string // that it says itself
}

const (
	element = "element"
	text    = "text"
	value   = "value"
)

// key is what a node has in common with another that it may have become.
func (n *node) key() string {
	switch n.Kind {
	case element:
		return "<" + n.Name
	case text, value:
		return "words"
	}
	return n.Kind + "|" + n.Name + "|" + n.Under + "|" + n.Slot
}

func (n *node) says() bool { return n.Kind == text || n.Kind == value }

// treeOf is the markup of all components of a text below one node that stands for the text.
func treeOf(of Text) *node {
	root := &node{Node: &source.Node{Kind: "file"}, src: of.Data}
	for _, c := range of.Module.Components {
		root.take(c.Roots)
	}
	root.sum()
	return root
}

func (n *node) take(list []*source.Node) {
	for _, c := range list {
		kid := &node{Node: c, up: n, src: n.src}
		if kid.says() {
			if c.Value == nil || c.Value.Kind == text && strings.TrimSpace(c.Value.Value) == "" {
				continue
			}
			n.words = append(n.words, kid.said())
		}
		n.kids = append(n.kids, kid)
		kid.take(c.Children)
	}
}

// sum notes what stands in each node, so that two that say the same are known by it.
func (n *node) sum() {
	h := fnv.New64a()
	add := func(list ...string) {
		for _, s := range list {
			_, _ = h.Write([]byte(s))
			_, _ = h.Write([]byte{0})
		}
	}
	add(n.key(), squeeze(n.Show), squeeze(n.Repeat), n.Slot, strconv.FormatBool(n.Spread))
	if n.says() {
		add(n.said())
	}
	list := make([]string, 0, len(n.Attributes))
	for i := range n.Attributes {
		list = append(list, n.attribute(&n.Attributes[i]))
	}
	slices.Sort(list)
	add(list...)
	for _, c := range n.kids {
		c.sum()
		for i := range 8 {
			_, _ = h.Write([]byte{byte(c.deep >> (8 * i))})
		}
	}
	n.deep = h.Sum64()
}

// walk visits a node and all below it.
func (n *node) walk(visit func(*node)) {
	visit(n)
	for _, c := range n.kids {
		c.walk(visit)
	}
}

// attr is an attribute of a node, by its name as it is written.
func (n *node) attr(name string) *source.Attribute {
	for i := range n.Attributes {
		if n.Attributes[i].Name == name {
			return &n.Attributes[i]
		}
	}
	return nil
}

// attribute is one with its value, as it is whatever formatter wrote it. What is computed is read
// of the text itself: the readers shorten what is long.
func (n *node) attribute(a *source.Attribute) string {
	if a.Literal() {
		return a.Name + "=" + a.Kind + ":" + literal(&a.Value)
	}
	return a.Name + "=" + a.Kind + ":" + squeeze(n.code(a))
}

// code is what the value of an attribute is computed by.
func (n *node) code(a *source.Attribute) string {
	if _, code, ok := strings.Cut(string(n.src[a.Span[0]:a.Span[1]]), "="); ok {
		return bare(code)
	}
	return a.Value.Value
}

// said is what a text or a value among the markup says.
func (n *node) said() string {
	if n.Value.Literal() {
		return n.Value.Kind + ":" + literal(n.Value)
	}
	return n.Value.Kind + ":" + squeeze(n.computed())
}

// computed is what a value among the markup is computed by.
func (n *node) computed() string { return bare(string(n.src[n.Span[0]:n.Span[1]])) }

// bare is code without what holds it in markup.
func bare(code string) string {
	code = strings.TrimSpace(code)
	for _, around := range []string{"{{}}", "{}", `""`, "''"} {
		n := len(around) / 2
		if len(code) >= 2*n && strings.HasPrefix(code, around[:n]) && strings.HasSuffix(code, around[n:]) {
			return strings.TrimSpace(code[n : len(code)-n])
		}
	}
	return code
}

func literal(v *source.Value) string {
	if v.Kind == text {
		return strings.Join(strings.Fields(v.Value), " ")
	}
	return v.Value
}

var (
	around = regexp.MustCompile(`\((\w+)\)=>`)
	ends   = regexp.MustCompile(`,([)\]}])`)
)

// squeeze is code as it is whatever formatter wrote it. What stands in quotes stays.
func squeeze(code string) string {
	var b strings.Builder
	quote := rune(0)
	escaped := false
	for _, c := range code {
		switch {
		case quote != 0:
			if c == quote && !escaped {
				quote = 0
				if c == '"' {
					c = '\''
				}
			}
			escaped = c == '\\' && !escaped
		case c == '"' || c == '\'' || c == '`':
			quote = c
			if c == '"' {
				c = '\''
			}
		case unicode.IsSpace(c) || c == ';':
			continue
		}
		b.WriteRune(c)
	}
	return ends.ReplaceAllString(around.ReplaceAllString(b.String(), "$1=>"), "$1")
}

// matching says which nodes of one tree are which of another.
type matching struct {
	to, from map[*node]*node
	moved    map[*node]bool // of the second: those that stand elsewhere now
}

// most is how many pairs of children are weighed before it goes by their order alone.
const most = 250_000

// match finds for the nodes of one tree what has become of them in another: first among the
// children of what is matched, in their order, then anywhere, for what was moved.
func match(a, b *node) *matching {
	m := &matching{map[*node]*node{}, map[*node]*node{}, map[*node]bool{}}
	m.pair(a, b)
	var gone, fresh []*node
	a.walk(func(n *node) {
		if m.to[n] == nil && n.Kind == element {
			gone = append(gone, n)
		}
	})
	b.walk(func(n *node) {
		if m.from[n] == nil && n.Kind == element {
			fresh = append(fresh, n)
		}
	})
	same := map[uint64][]*node{}
	for _, n := range gone {
		same[n.deep] = append(same[n.deep], n)
	}
	move := func(n, t *node) {
		m.moved[t] = true
		m.pair(n, t)
	}
	for _, t := range fresh {
		if m.from[t] != nil {
			continue // with what it stands in
		}
		same[t.deep] = slices.DeleteFunc(same[t.deep], func(n *node) bool { return m.to[n] != nil })
		if list := same[t.deep]; len(list) > 0 {
			move(list[0], t)
		}
	}
	for _, t := range fresh {
		if m.from[t] != nil {
			continue
		}
		var best *node
		score := alike
		for _, n := range gone {
			if m.to[n] == nil && n.key() == t.key() {
				if w := weight(n, t); w > score {
					best, score = n, w
				}
			}
		}
		if best != nil {
			move(best, t)
		}
	}
	return m
}

func (m *matching) pair(a, b *node) {
	m.to[a], m.from[b] = b, a
	m.children(a.kids, b.kids)
}

// children matches two lists so that the order holds and as much as can be is alike.
func (m *matching) children(a, b []*node) {
	free := func(list []*node, in map[*node]*node) []*node {
		if !slices.ContainsFunc(list, func(n *node) bool { return in[n] != nil }) {
			return list
		}
		return slices.DeleteFunc(slices.Clone(list), func(n *node) bool { return in[n] != nil })
	}
	a, b = free(a, m.to), free(b, m.from) // some were found elsewhere
	for len(a) > 0 && len(b) > 0 && a[0].deep == b[0].deep {
		m.pair(a[0], b[0])
		a, b = a[1:], b[1:]
	}
	for len(a) > 0 && len(b) > 0 && a[len(a)-1].deep == b[len(b)-1].deep {
		m.pair(a[len(a)-1], b[len(b)-1])
		a, b = a[:len(a)-1], b[:len(b)-1]
	}
	if len(a) == 0 || len(b) == 0 {
		return
	}
	if len(a)*len(b) > most {
		at := 0
		for _, n := range a {
			if i := slices.IndexFunc(b[at:], func(t *node) bool { return t.key() == n.key() }); i >= 0 {
				m.pair(n, b[at+i])
				at += i + 1
			}
		}
		return
	}
	width := len(b) + 1
	best := make([]int, (len(a)+1)*width)
	pairs := make([]int, len(a)*len(b))
	for i := len(a) - 1; i >= 0; i-- {
		for j := len(b) - 1; j >= 0; j-- {
			w := weight(a[i], b[j])
			pairs[i*len(b)+j] = w
			at := i*width + j
			best[at] = max(best[at+width], best[at+1])
			if w > 0 {
				best[at] = max(best[at], w+best[at+width+1])
			}
		}
	}
	for i, j := 0, 0; i < len(a) && j < len(b); {
		at := i*width + j
		w := pairs[i*len(b)+j]
		switch {
		case w > 0 && best[at] == w+best[at+width+1]:
			m.pair(a[i], b[j])
			i, j = i+1, j+1
		case best[at] == best[at+width]:
			i++
		default:
			j++
		}
	}
}

// alike is the weight above which an element that stands elsewhere is taken to be the same.
const alike = 12

// weight says how much two nodes are alike; 0 is not at all.
func weight(a, b *node) int {
	if a.key() != b.key() {
		return 0
	}
	if a.deep == b.deep {
		return 40
	}
	w := 1
	if n := len(a.Attributes) + len(b.Attributes); n > 0 {
		same := 0
		for i := range a.Attributes {
			if o := b.attr(a.Attributes[i].Name); o != nil && b.attribute(o) == a.attribute(&a.Attributes[i]) {
				same++
			}
		}
		w += 20 * same / n
	}
	if len(a.words) > 0 && slices.Equal(a.words, b.words) {
		w += 8
	}
	if len(a.kids) > 0 {
		same := 0
		for _, n := range a.kids {
			if slices.ContainsFunc(b.kids, func(t *node) bool { return t.deep == n.deep }) {
				same++
			}
		}
		w += 10 * same / max(len(a.kids), len(b.kids))
	}
	if squeeze(a.Repeat) == squeeze(b.Repeat) && a.Repeat != "" {
		w += 6
	}
	return w
}
