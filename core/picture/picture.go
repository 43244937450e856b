// Package picture reads a picture of a finished page as nested boxes: what stands in it,
// in what, beside or below what, and what it looks like.
//
// Everything is found from the picture itself. What lies around a part is its ground; a
// part ends where the ground goes through from side to side, or at an edge that does. What
// has a ground or a border of its own is a part whose contents are read in the same way.
// No letters are read: words are typed by people.
package picture

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	_ "image/gif"  // read
	_ "image/jpeg" // read
	"image/png"
	"slices"

	_ "golang.org/x/image/webp" // read
)

// What a picture may be at most, so that nobody's file takes the memory away.
const (
	MaxBytes  = 8 << 20    // of the file
	MaxPixels = 24_000_000 // of the picture
	MaxSide   = 12_000     // pixels
	MinSide   = 48         // less shows no page
)

// Decode reads a PNG, JPEG or WebP file; what is see-through lies on white. Errors say what
// is wrong with the file and what would be accepted.
func Decode(file []byte) (*image.NRGBA, string, error) {
	if len(file) == 0 {
		return nil, "", errors.New("the file is empty; accepted: a PNG, JPEG or WebP picture")
	}
	if len(file) > MaxBytes {
		return nil, "", fmt.Errorf("the picture is a file of %.1f MB; accepted: up to %d MB", float64(len(file))/(1<<20), MaxBytes>>20)
	}
	head, format, err := image.DecodeConfig(bytes.NewReader(file))
	if err != nil {
		return nil, "", errors.New("the file is no picture that can be read; accepted: PNG, JPEG, WebP")
	}
	w, h := head.Width, head.Height
	if w < MinSide || h < MinSide {
		return nil, "", fmt.Errorf("the picture is %d × %d; a page is at least %d × %d", w, h, MinSide, MinSide)
	}
	if w > MaxSide || h > MaxSide || w*h > MaxPixels {
		return nil, "", fmt.Errorf(
			"the picture is %d × %d; accepted: up to %d a side and %d million pixels", w, h, MaxSide, MaxPixels/1_000_000)
	}
	img, _, err := image.Decode(bytes.NewReader(file))
	if err != nil {
		return nil, "", fmt.Errorf("the picture breaks off or is damaged: %w", err)
	}
	out := image.NewNRGBA(image.Rect(0, 0, w, h))
	draw.Draw(out, out.Bounds(), image.NewUniform(color.White), image.Point{}, draw.Src)
	draw.Draw(out, out.Bounds(), img, img.Bounds().Min, draw.Over)
	return out, format, nil
}

// Clean is the picture as a PNG file that holds its pixels and nothing else: no place,
// no camera, no name.
func Clean(img image.Image) ([]byte, error) {
	var out bytes.Buffer
	err := png.Encode(&out, img)
	return out.Bytes(), err
}

// Rect is a place in a picture, in its pixels.
type Rect struct {
	X int `json:"x"`
	Y int `json:"y"`
	W int `json:"w"`
	H int `json:"h"`
}

// Right is where it ends, to the right.
func (r Rect) Right() int { return r.X + r.W }

// Bottom is where it ends, below.
func (r Rect) Bottom() int { return r.Y + r.H }

// Holds tells whether another place lies in this one.
func (r Rect) Holds(o Rect) bool {
	return o.X >= r.X && o.Y >= r.Y && o.Right() <= r.Right() && o.Bottom() <= r.Bottom()
}

func (r Rect) inset(n int) Rect { return Rect{r.X + n, r.Y + n, max(0, r.W-2*n), max(0, r.H-2*n)} }

// Around is the smallest place that holds both.
func (r Rect) Around(o Rect) Rect {
	if r.W == 0 || r.H == 0 {
		return o
	}
	x, y := min(r.X, o.X), min(r.Y, o.Y)
	return Rect{x, y, max(r.Right(), o.Right()) - x, max(r.Bottom(), o.Bottom()) - y}
}

// Share is the common part of two places by the part of both: 1 where they are the same.
func (r Rect) Share(o Rect) float64 {
	w := min(r.Right(), o.Right()) - max(r.X, o.X)
	h := min(r.Bottom(), o.Bottom()) - max(r.Y, o.Y)
	if w <= 0 || h <= 0 {
		return 0
	}
	both := float64(w * h)
	return both / (float64(r.W*r.H) + float64(o.W*o.H) - both)
}

// Look is what a box looks like.
type Look string

// The looks that are told apart.
const (
	Page    Look = "page"    // all of it
	Group   Look = "group"   // parts that stand together
	Panel   Look = "panel"   // a ground or border of its own around several parts
	Bar     Look = "bar"     // the same from side to side, on top or at the bottom
	Side    Look = "side"    // the same from top to bottom, at one side
	Table   Look = "table"   // rows whose parts stand below each other
	Row     Look = "row"     // of a table
	Heading Look = "heading" // one line larger than the other text
	Text    Look = "text"
	Button  Look = "button" // a filled or bordered place with few words in its middle
	Field   Look = "field"  // a bordered empty place, or with words at its left
	Chip    Look = "chip"   // a small one, round at its sides
	Avatar  Look = "avatar" // a small round one
	Icon    Look = "icon"   // small, about as wide as high
	Picture Look = "picture"
	Line    Look = "line"
)

// Box is a part of a picture.
type Box struct {
	Rect   Rect
	Look   Look
	Across bool // its parts stand beside each other, else below
	Ground color.NRGBA
	Lines  int // of text
	Gap    int // between its parts in pixels, the usual one
	Parts  []*Box

	strength float64 // of letters: how high and how heavy
}

// Count is how many boxes there are, itself among them.
func (b *Box) Count() int {
	n := 1
	for _, p := range b.Parts {
		n += p.Count()
	}
	return n
}

// Walk visits the box and all in it, the outer ones first.
func (b *Box) Walk(visit func(b *Box)) {
	visit(b)
	for _, p := range b.Parts {
		p.Walk(visit)
	}
}

// median is the middle one; 0 where there are none.
func median(list []int) int {
	if len(list) == 0 {
		return 0
	}
	list = slices.Sorted(slices.Values(list))
	return list[len(list)/2]
}
