package resolve

import (
	"slices"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// WordsOnce finds, in an element that was read from code, the words that it says itself and by plain
// elements in it as well: they are shown once. apart is true where those elements say all of it, so that
// they say it and the element does not; else the elements are left out, which would say part of it again.
func WordsOnce(e *screen.Element) (out []*screen.Element, apart bool) {
	if !e.FromCode() || e.Text.Text == "" {
		return nil, false
	}
	plain := strings.NewReplacer("{", "", "}", "")
	var all []string
	for _, c := range e.Children {
		tag, host := strings.CutPrefix(c.Type, kit.HostPrefix)
		if host && c.Slot == "" && c.Text.Text != "" && slices.Contains(kit.Inlines, tag) {
			out = append(out, c)
			all = append(all, plain.Replace(c.Text.Text))
		}
	}
	if len(out) == 0 {
		return nil, false
	}
	if strings.Join(all, " ") == plain.Replace(e.Text.Text) {
		return nil, true
	}
	out = slices.DeleteFunc(out, func(c *screen.Element) bool {
		return !strings.Contains(plain.Replace(e.Text.Text), plain.Replace(c.Text.Text))
	})
	return out, false
}

// saysHere has what an element says stand behind those of its children that it has so far, as words of
// their own.
func (n *Node) saysHere() {
	if n.Text == "" {
		return
	}
	words := &Node{Key: n.Key + "/says", ID: n.ID, Doc: n.Doc, Type: kit.HostPrefix + "span", Text: n.Text}
	words.Component, _ = plainKit.Component(words.Type)
	n.Text, n.Children = "", append(n.Children, words)
}

// plainKit knows plain elements and nothing else.
var plainKit = &kit.Kit{}
