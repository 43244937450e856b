package byhand

import (
	"bytes"
	"regexp"
	"slices"
	"strings"

	"github.com/aymanbagabas/go-udiff"
)

// check holds the code that is made of the document with the edits taken against the code as it
// stands: what does not come out as it stands, by its place, and why.
func (r *reader) check(after File) map[string]string {
	wrong := map[string]string{}
	tree := treeOf(after.Now)
	at := map[int]string{}
	for id, p := range after.Places {
		at[p.At] = id
	}
	made := map[string]*node{}
	tree.walk(func(n *node) {
		if n.Kind == element {
			if id := at[n.Span[0]]; id != "" {
				n.id = id
				made[id] = n
			}
		}
	})
	r.theirs.walk(func(t *node) {
		if t.Kind != element || t.id == "" || r.inStates[t.id] {
			return
		}
		b := r.hand.from[t]
		n := made[t.id]
		if n == nil {
			if e, _ := r.root.Find(t.id); e != nil && b == nil {
				wrong[place(t, "element")] = "the screen has no code for it"
			}
			return
		}
		differs := func(what string, is, was, now string) {
			if now == is || b != nil && is == was || r.told[place(t, what)] {
				return
			}
			wrong[place(t, what)] = "made of the screen it would be " + clip(now)
		}
		for i := range t.Attributes {
			name := t.Attributes[i].Name
			if name == "slot" || name == "key" {
				continue
			}
			what := name
			is, now, was := said(t, name), said(n, name), said(b, name)
			if isClass(name) {
				if b == nil || len(classList(t)) > 0 {
					what = "class"
					is, now, was = r.classesOf(t), r.classesOf(n), r.classesOf(b)
				}
			}
			differs(what, is, was, now)
		}
		if b != nil {
			for i := range b.Attributes {
				if name := b.Attributes[i].Name; t.attr(name) == nil && n.attr(name) != nil {
					differs(name, "", said(b, name), said(n, name))
				}
			}
		}
		var had []string
		show := ""
		if b != nil {
			had, show = b.words, squeeze(b.Show)
		}
		differs("text", strings.Join(t.words, " "), strings.Join(had, " "), strings.Join(n.words, " "))
		differs("condition", squeeze(t.Show), show, squeeze(n.Show))
	})
	r.order(r.theirs, made, wrong)
	return wrong
}

func clip(s string) string {
	if len(s) > 80 {
		s = strings.ToValidUTF8(s[:80], "") + "…"
	}
	if s == "" {
		return "nothing"
	}
	return s
}

// classesOf are the classes of an element without those that are listed already.
func (r *reader) classesOf(n *node) string {
	if n == nil {
		return ""
	}
	list := slices.DeleteFunc(classList(n), func(name string) bool {
		return slices.ContainsFunc(r.left, func(l Left) bool { return strings.HasSuffix(l.What, "class "+name) })
	})
	slices.Sort(list)
	return strings.Join(list, " ")
}

// order looks for what would come out in another order, or in another place.
func (r *reader) order(t *node, made map[string]*node, wrong map[string]string) {
	above := func(n *node) string {
		for up := n.up; up != nil; up = up.up {
			if up.id != "" {
				return up.id
			}
		}
		return ""
	}
	last := map[string]*node{} // the element met last, by what it stands in
	t.walk(func(t *node) {
		n := made[t.id]
		if t.Kind != element || t.id == "" || n == nil {
			return
		}
		in := above(t)
		before := last[in]
		last[in] = t
		if r.hand.from[t] != nil && !r.hand.moved[t] {
			return
		}
		what := "element"
		if r.hand.moved[t] {
			what = "place"
		}
		switch {
		case r.told[place(t, what)]:
		case above(n) != in:
			wrong[place(t, what)] = "made of the screen it would stand elsewhere"
		case before != nil && made[before.id].Span[0] > n.Span[0]:
			wrong[place(t, what)] = "made of the screen it would stand before what it stands behind here"
		}
	})
}

// beside lists what was edited besides the markup.
func (r *reader) beside() {
	b, t := r.outside(r.f.Base), r.outside(r.f.Theirs)
	if bytes.Equal(b, t) {
		return
	}
	edits := udiff.Lines(string(b), string(t))
	shift := 0
	for _, e := range edits {
		start := e.Start + shift
		shift += len(e.New) - (e.End - e.Start)
		said := strings.TrimSpace(e.New)
		if said == "" {
			said = strings.TrimSpace(string(b[e.Start:e.End]))
		}
		if said == "" || brought(said) || returned(e.New) == returned(string(b[e.Start:e.End])) {
			continue
		}
		line, _, _ := strings.Cut(said, "\n")
		at := 1 + bytes.Count(t[:min(start, len(t))], []byte("\n"))
		for i := range 1 + strings.Count(e.New, "\n") {
			r.lines[at+i] = true
		}
		why := "it is code beside the markup; own code stands in the file for it"
		r.left = append(r.left, Left{r.f.Doc.Address(), r.f.Path, at, clip(line), why})
	}
}

var (
	word    = regexp.MustCompile(`[\p{L}\p{N}_$]+`)
	comment = regexp.MustCompile(`<!--|/\*|(^|\s)//`)
)

// unread lists lines with words that neither were there before nor are in what is made of the
// document now, and of which nothing was said: comments, and what the readers do not know.
func (r *reader) unread(made []byte) {
	known := map[string]bool{}
	for _, text := range [][]byte{made, r.f.Base.Data} {
		for _, w := range word.FindAll(text, -1) {
			known[string(w)] = true
		}
	}
	before := map[string]bool{}
	for text := range bytes.Lines(r.f.Base.Data) {
		before[string(bytes.TrimSpace(text))] = true
	}
	line := 0
	for text := range bytes.Lines(r.f.Theirs.Data) {
		line++
		text = bytes.TrimSpace(text)
		if r.lines[line] || before[string(text)] || brought(string(text)) {
			continue
		}
		if comment.Match(text) || slices.ContainsFunc(word.FindAll(text, -1), func(w []byte) bool { return !known[string(w)] }) {
			r.left = append(r.left, Left{r.f.Doc.Address(), r.f.Path, line, clip(string(text)), "it is nothing that a screen has"})
		}
	}
}

// returned is code without what only stands around markup that is given back.
func returned(code string) string {
	return strings.NewReplacer("(", "", ")", "", ";", "").Replace(strings.Join(strings.Fields(code), ""))
}

// brought tells whether lines only bring in what markup is written with.
func brought(lines string) bool {
	for line := range strings.Lines(lines) {
		line = strings.TrimSpace(line)
		if line != "" && !strings.HasPrefix(line, "import ") && line != ")" && line != "(" {
			return false
		}
	}
	return true
}

// outside is a text without its markup; the lines stay as they are counted.
func (r *reader) outside(f Text) []byte {
	inside := make([]bool, len(f.Data))
	for _, c := range f.Module.Components {
		for _, n := range c.Roots {
			for i := n.Span[0]; i < n.Span[1]; i++ {
				inside[i] = true
			}
		}
	}
	out := make([]byte, 0, len(f.Data))
	for i, c := range f.Data {
		if c == '\n' {
			out = append(bytes.TrimRight(out, " \t\r"), c)
		} else if !inside[i] {
			out = append(out, c)
		}
	}
	return out
}
