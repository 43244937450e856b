package rules

import (
	"fmt"
	"hash/fnv"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

// leastAlike settings are the same in a copy of a piece, and so large a share of them; in one of few
// elements, all of them.
const (
	leastAlike = 3
	shareAlike = 0.75
	leastCopy  = 3
)

var _ = add(&audit.Rule{
	ID: "copied-piece", Title: "A piece made again by hand", Severity: audit.Note,
	Purpose: "What a piece already is, is that piece.",
	Why:     "A part built as the piece is misses all later changes of the piece.",
	Bad:     []string{},
	Good:    []string{contactPart},
	Looks:   func(*kit.Component) bool { return true },
	Element: func(p *audit.Pass, n *audit.Node) {
		if n.Element.Origin != nil && strings.HasPrefix(n.Element.Origin.File, screen.PiecePrefix) {
			return // cut loose, which is told of
		}
		whole := p.Doc.Kind == screen.PieceDoc && n.Parent == nil
		if !whole && p.Doc.Kind != screen.ScreenDoc || len(n.Children) == 0 || n.Count() < leastCopy {
			return
		}
		who := "screen"
		if whole {
			who = p.Doc.Address()
		}
		shape, said := outline(n.Element, func(id, prop string) bool {
			return slices.ContainsFunc(p.Doc.Props, func(o screen.PieceProp) bool { return o.Element == id && o.Prop == prop })
		})
		if n.Count() < leastPart {
			shape = allAlike + shape
		}
		p.Fact(n, shape, who+" "+said)
	},
	Judge: func(g *audit.Group) {
		type made struct {
			piece string
			said  []string
		}
		var pieces []made
		for _, v := range g.Sorted() {
			if who, said, _ := strings.Cut(v, " "); who != "screen" {
				pieces = append(pieces, made{who, strings.Fields(said)})
			}
		}
		if len(pieces) == 0 {
			return
		}
		for _, v := range g.Sorted() {
			who, said, _ := strings.Cut(v, " ")
			if who != "screen" {
				continue
			}
			here := strings.Fields(said)
			for _, piece := range pieces {
				same := 0
				for _, s := range piece.said {
					if slices.Contains(here, s) {
						same++
					}
				}
				share := shareAlike
				if strings.HasPrefix(g.Key, allAlike) {
					share = 1
				}
				if same < leastAlike || float64(same) < share*float64(len(piece.said)) {
					continue
				}
				for _, place := range g.Values[v] {
					_, name, _ := strings.Cut(piece.piece, ":")
					g.Report(place, "", fmt.Sprintf("this is made as the piece “%s” is: %d of its %d settings are the same",
						name, same, len(piece.said)), "")
				}
				break
			}
		}
	},
})

// allAlike begins the outlines of parts so small that only all of their settings tell a copy.
const allAlike = "all "

// outline is what a tree is made of, and what is set in it but for what may be set anew at
// each use, in short.
func outline(e *screen.Element, offered func(id, prop string) bool) (shape, said string) {
	var b, s strings.Builder
	at := 0
	var walk func(e *screen.Element)
	walk = func(e *screen.Element) {
		at++
		b.WriteString(e.Type + "@" + e.Slot + "(")
		literal := func(name string, v screen.Value) {
			if v.Kind == screen.Literal && v.Text != "" && name != kit.Does && !offered(e.ID, name) {
				h := fnv.New32a()
				fmt.Fprintf(h, "%d %s %s", at, name, v.Text)
				fmt.Fprintf(&s, "%x ", h.Sum32())
			}
		}
		literal("", e.Text)
		for _, p := range e.Props {
			literal(p.Name, p.Value)
		}
		for _, c := range e.Children {
			walk(c)
		}
		b.WriteString(")")
	}
	walk(e)
	h := fnv.New64a()
	h.Write([]byte(b.String()))
	return strconv.FormatUint(h.Sum64(), 36), s.String()
}
