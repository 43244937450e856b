// Package geometry judges where the elements of a screen came to stand: what sticks out
// of the page or of what it stands in, what lies over its neighbour, whose words wrap,
// which copies beside each other are uneven, what leaves the margin that the other parts
// keep, and what shows nothing at all. The measuring is somebody else's; here it is an input.
package geometry

import (
	_ "embed" // the script
	"fmt"
	"math"
	"slices"
	"strings"
	"unicode/utf8"

	"ubiquant/core/kit"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// Measure is the script that measures boxes in a browser, as a module.
//
//go:embed measure.js
var Measure string

// Box is where an element stands on its page, in CSS pixels.
type Box struct {
	Key string  `json:"key"` // of the node
	X   float64 `json:"x"`
	Y   float64 `json:"y"`
	W   float64 `json:"w"`
	H   float64 `json:"h"`
	// Over is how much wider what stands in it is, where it does not scroll.
	Over float64 `json:"over,omitempty"`
	// Lines is how many lines its own words take, where it is more than one.
	Lines int `json:"lines,omitempty"`
	// Scrolls tells that it reaches past what it stands in, in a frame that scrolls it.
	Scrolls bool `json:"scrolls,omitempty"`
}

func (b Box) right() float64  { return b.X + b.W }
func (b Box) bottom() float64 { return b.Y + b.H }

// Finding is one thing that looks wrong.
type Finding struct {
	Element string  `json:"element"`
	Doc     string  `json:"doc,omitempty"` // "shell" or "piece:…" for elements that are not the screen's own
	Kind    string  `json:"kind"`          // out-of-page, out-of-parent, too-wide, over-neighbour, small-target, wraps, uneven, off-margin, nothing
	By      float64 `json:"by"`            // pixels, or lines where words wrap, the most of all its copies
	Times   int     `json:"times"`         // in how many copies of a repeat
	Message string  `json:"message"`
	Key     string  `json:"key"` // of the copy of which that is so
}

// target is how large in pixels what is pressed has to be (WCAG 2.2, 2.5.8).
const target = 24

// Tolerances in pixels: browsers round, shadows and rings overhang.
const (
	outBy  = 2
	overBy = 4
)

// Judge looks at a screen that was measured at a width. root is its tree, for what
// repeats over no record.
func Judge(n *resolve.Node, root *screen.Element, boxes []Box, width float64) []Finding {
	j := &judge{boxes: make(map[string]Box, len(boxes)), width: width, at: map[string]int{}, out: []Finding{}}
	for _, b := range boxes {
		if finite(b) {
			j.boxes[b.Key] = b
		}
	}
	j.node(n, nil, false)
	j.margin(n, root)
	j.nothing(n, root)
	return j.out
}

func finite(b Box) bool {
	for _, v := range []float64{b.X, b.Y, b.W, b.H, b.Over} {
		if math.IsNaN(v) || math.IsInf(v, 0) {
			return false
		}
	}
	return b.W >= 0 && b.H >= 0
}

type judge struct {
	boxes map[string]Box
	width float64
	at    map[string]int // where the finding of an element and kind stands
	out   []Finding
}

func (j *judge) report(n *resolve.Node, kind string, by float64, words string) {
	key := n.Doc + " " + n.ID + " " + kind
	if i, ok := j.at[key]; ok {
		f := &j.out[i]
		f.Times++
		if by > f.By {
			f.By, f.Message, f.Key = by, words, n.Key
		}
		return
	}
	j.at[key] = len(j.out)
	j.out = append(j.out, Finding{n.ID, n.Doc, kind, by, 1, words, n.Key})
}

func name(n *resolve.Node) string {
	if n.Component != nil {
		return n.Component.Title
	}
	return n.Type
}

// floats tells whether an element lies over others on purpose: what opens, what hangs
// at an edge.
func floats(n *resolve.Node) bool {
	if n.Component == nil {
		return false
	}
	if n.Component.Opens() {
		return true
	}
	for _, p := range n.Props {
		if s, ok := p.Value.(string); ok &&
			(p.Name == "position" && s != "static" || p.Name == "stays" && s != "none") {
			return true
		}
	}
	return false
}

// node looks at an element and those in it; wide tells that the innermost that is too
// wide was found.
func (j *judge) node(n *resolve.Node, parent *resolve.Node, out bool) (wide bool) {
	b, measured := j.boxes[n.Key]
	if measured && !floats(n) && !out && !b.Scrolls {
		if by := math.Max(b.right()-j.width, -b.X); by > outBy {
			j.report(
				n,
				"out-of-page",
				math.Round(by),
				fmt.Sprintf("%s sticks out of the page by %.0f px", name(n), by),
			)
			out = true // what stands in it does so with it
		} else if parent != nil {
			if p, ok := j.boxes[parent.Key]; ok && p.W > 0 {
				if by := math.Max(b.right()-p.right(), p.X-b.X); by > outBy {
					j.report(n, "out-of-parent", math.Round(by), fmt.Sprintf("%s sticks out of its %s by %.0f px", name(n), name(parent), by))
				}
			}
		}
	}
	if floats(n) {
		return false
	}
	for i, c := range n.Children {
		wide = j.node(c, n, out) || wide
		j.over(n.Children[:i], c)
		j.uneven(n.Children[:i], c)
	}
	if least := math.Min(b.W, b.H); measured && n.Component != nil && n.Component.Role == "action" && least > 0 && least < target {
		j.report(n, "small-target", target-least, fmt.Sprintf("%s is %.0f px small, and hard to hit under %d", name(n), least, target))
	}
	if measured && b.Lines > 1 && label(n) {
		j.report(n, "wraps", float64(b.Lines), fmt.Sprintf("the words of %s need %d lines", name(n), b.Lines))
	}
	if measured && !wide && !out && b.Over > outBy {
		j.report(
			n,
			"too-wide",
			math.Round(b.Over),
			fmt.Sprintf("what stands in %s is %.0f px wider than it", name(n), b.Over),
		)
		wide = true
	}
	return wide || out
}

// over compares an element with those before it in the same slot: only layouts lay
// them out without overlap, whatever a component does with its children.
func (j *judge) over(before []*resolve.Node, c *resolve.Node) {
	b, ok := j.boxes[c.Key]
	if !ok || floats(c) {
		return
	}
	// Those that stand near come near in order as well; all pairs would be too many.
	for _, o := range before[max(0, len(before)-8):] {
		a, ok := j.boxes[o.Key]
		if !ok || o.Slot != c.Slot || floats(o) {
			continue
		}
		wide := math.Min(a.right(), b.right()) - math.Max(a.X, b.X)
		high := math.Min(a.bottom(), b.bottom()) - math.Max(a.Y, b.Y)
		if by := math.Min(wide, high); by > overBy {
			j.report(
				c,
				"over-neighbour",
				math.Round(by),
				fmt.Sprintf("%s lies over the %s before it by %.0f px", name(c), name(o), by),
			)
		}
	}
}

// short is up to how many letters words are expected to stand on one line.
const short = 24

// label tells whether the words of an element are meant to stand on one line: what is
// pressed, and what says little.
func label(n *resolve.Node) bool {
	c := n.Component
	if c == nil || !c.Labelled || n.Text == "" {
		return false
	}
	if _, heading := c.Prop("level"); heading {
		return false // headings may take the room that they need
	}
	return c.Role == "action" || c.Role == "link" || utf8.RuneCountInString(n.Text) <= short
}

// uneven compares a copy of a repeat with the one before it where both stand side by side:
// as boxes they are to be of one height.
func (j *judge) uneven(before []*resolve.Node, c *resolve.Node) {
	if len(before) == 0 || c.Component == nil || c.Component.Labelled {
		return
	}
	o := before[len(before)-1]
	a, okA := j.boxes[o.Key]
	b, okB := j.boxes[c.Key]
	if !okA || !okB || o.ID != c.ID || o.Key == c.Key || math.Abs(a.Y-b.Y) > outBy || b.X < a.right()-outBy {
		return
	}
	if by := math.Abs(a.H - b.H); by > overBy {
		j.report(
			c,
			"uneven",
			math.Round(by),
			fmt.Sprintf("one %s is %.0f px higher than that beside it", name(c), by),
		)
	}
}

// margin finds the part of a page that stands outside the edges that the others keep.
func (j *judge) margin(n *resolve.Node, root *screen.Element) {
	if root == nil {
		return
	}
	if n.ID != root.ID || n.Doc != "" {
		for _, c := range n.Children {
			j.margin(c, root)
		}
		return
	}
	type part struct {
		n *resolve.Node
		b Box
	}
	var parts []part
	for _, c := range n.Children {
		if b, ok := j.boxes[c.Key]; ok && b.W > 0 && b.H > 0 && !floats(c) && !b.Scrolls {
			parts = append(parts, part{c, b})
		}
	}
	if len(parts) < 4 {
		return // too few to say what is usual
	}
	lefts := make([]float64, len(parts))
	for i, p := range parts {
		lefts[i] = p.b.X
	}
	slices.Sort(lefts)
	usual := lefts[len(lefts)/2]
	same := 0
	for _, x := range lefts {
		if math.Abs(x-usual) <= outBy {
			same++
		}
	}
	if 4*same < 3*len(parts) {
		return
	}
	for _, p := range parts {
		if by := usual - p.b.X; by > outBy && p.b.X >= -outBy {
			j.report(
				p.n,
				"off-margin",
				math.Round(by),
				fmt.Sprintf("%s begins %.0f px before the margin that the other parts keep", name(p.n), by),
			)
		}
	}
}

// nothing finds what would hold records and holds none, with nothing in their place.
func (j *judge) nothing(n *resolve.Node, root *screen.Element) {
	if root == nil {
		return
	}
	nodes := map[string][]*resolve.Node{}
	var note func(n *resolve.Node)
	note = func(n *resolve.Node) {
		if n.Doc == "" {
			nodes[n.ID] = append(nodes[n.ID], n)
		}
		for _, c := range n.Children {
			note(c)
		}
	}
	note(n)
	root.Walk(func(e, parent *screen.Element) bool {
		if e.Repeat == nil || parent == nil || len(nodes[e.ID]) > 0 {
			return true
		}
		// What shows only then may stand beside it as well.
		if _, around := root.Find(parent.ID); around != nil &&
			slices.ContainsFunc(around.Children, func(s *screen.Element) bool {
				return s.ID != parent.ID && s.Repeat == nil && len(nodes[s.ID]) > 0 &&
					(strings.Contains(s.Show, "count.") || strings.Contains(s.Show, "size("))
			}) {
			return true
		}
		for _, p := range nodes[parent.ID] {
			// A head with no rows shows as little as an empty grid.
			shows := slices.ContainsFunc(p.Children, func(c *resolve.Node) bool {
				return p.Component == nil || p.Component.Level == kit.Layout || c.Slot == e.Slot || c.Slot == "empty"
			})
			if !shows {
				j.report(
					p,
					"nothing",
					0,
					fmt.Sprintf(
						"%s shows nothing where there are no %s; say so in their place",
						name(p),
						e.Repeat.Model,
					),
				)
			}
		}
		return true
	})
}
