package source

import "slices"

// voids are elements of a page in which nothing stands.
var voids = []string{
	"input", "img", "hr", "br", "textarea", "select", "area", "col", "embed", "source", "track", "wbr", "iframe", "video", "audio", "canvas", "svg",
}

// contents says where content stands that is handed on with all else: <Card {...props} /> of a component
// of React has in it what stands in the component, where nothing else is said to.
func (b *builder) contents() {
	holds := map[*Component]bool{}
	var takes func(c *Component) bool
	var look func(f *File, n *Node) bool
	look = func(f *File, n *Node) bool {
		if n.Kind == "element" && n.Passes && f.Language == "tsx" && len(n.Children) == 0 {
			typ, found := b.typeOf(f, n)
			in := found.Component != nil && typ == "" && takes(found.Component)
			switch {
			case typ != "":
				in = b.slotted[typ+"."]
			case found.Component == nil:
				in = found != (Found{}) || !slices.Contains(voids, n.Name)
			}
			if in {
				n.Children = []*Node{{Kind: "slot", Span: Span{n.Span[1], n.Span[1]}}}
			}
		}
		has := n.Kind == "slot" && n.Name == ""
		for _, c := range n.Children {
			has = look(f, c) || has
		}
		return has
	}
	takes = func(c *Component) bool {
		if has, ok := holds[c]; ok {
			return has
		}
		holds[c] = false // what is in itself holds nothing by that
		has := false
		for _, n := range c.Roots {
			has = look(b.files[c], n) || has
		}
		holds[c] = has
		return has
	}
	for _, f := range b.in.Files {
		for _, c := range f.Components {
			takes(c)
		}
	}
}
