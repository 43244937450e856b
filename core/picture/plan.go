package picture

import (
	"bytes"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// Kept is a picture that a workspace keeps.
type Kept struct {
	ID     string `json:"id"` // from its content
	Title  string `json:"title,omitempty"`
	Width  int    `json:"width"` // pixels
	Height int    `json:"height"`
	Data   string `json:"data"` // "data:image/png;base64,…" or jpeg
	By     string `json:"by,omitempty"`
	When   string `json:"when,omitempty"` // YYYY-MM-DD
}

// Plan is what is to become of a picture on a screen: its boxes as people adjusted them.
type Plan struct {
	Screen  string `json:"screen"`
	Picture string `json:"picture"`
	Root    Part   `json:"root"`
	// Stood is the plan as it was when the screen was last made of it; nil where it never was.
	Stood *Part `json:"stood,omitempty"`
}

// Part is a box of a plan.
type Part struct {
	ID     string `json:"id"`
	Name   string `json:"name"`
	At     Rect   `json:"at"`
	Look   Look   `json:"look"`
	Across bool   `json:"across,omitempty"`
	Gap    int    `json:"gap,omitempty"`
	Lines  int    `json:"lines,omitempty"` // of text
	// Becomes is the type of the element it becomes where somebody decided: a tag, a layout,
	// "piece:…", or Leave.
	Becomes string `json:"becomes,omitempty"`
	Text    string `json:"text,omitempty"`
	Parts   []Part `json:"parts,omitempty"`
}

// Leave is what a part becomes that is left out: it stands elsewhere, as in the shell.
const Leave = "leave"

// maxParts bounds a plan.
const maxParts = 2_000

// Count is how many boxes there are, itself among them.
func (p *Part) Count() int {
	n := 1
	for i := range p.Parts {
		n += p.Parts[i].Count()
	}
	return n
}

// Copy is the part with all in it, to be changed.
func (p *Part) Copy() Part {
	out := *p
	out.Parts = slices.Clone(p.Parts)
	for i := range out.Parts {
		out.Parts[i] = out.Parts[i].Copy()
	}
	return out
}

// Walk visits a part and all in it with what holds each, the outer ones first.
func (p *Part) Walk(visit func(p, in *Part)) { p.walk(nil, visit) }

func (p *Part) walk(in *Part, visit func(p, in *Part)) {
	visit(p, in)
	for i := range p.Parts {
		p.Parts[i].walk(p, visit)
	}
}

// Find is the part with an id, or nil.
func (p *Part) Find(id string) *Part {
	var out *Part
	p.Walk(func(q, _ *Part) {
		if q.ID == id {
			out = q
		}
	})
	return out
}

// Planned turns what was read in a picture into the parts of a plan, each with an id and a
// name.
func Planned(root *Box) Part {
	counts := map[Look]int{}
	next := 0
	var of func(b *Box) Part
	of = func(b *Box) Part {
		next++
		counts[b.Look]++
		p := Part{
			ID: "p" + strconv.Itoa(next), Name: string(b.Look) + " " + strconv.Itoa(counts[b.Look]),
			At: b.Rect, Look: b.Look, Across: b.Across, Gap: b.Gap, Lines: b.Lines,
		}
		for _, c := range b.Parts {
			p.Parts = append(p.Parts, of(c))
		}
		return p
	}
	return of(root)
}

var partID = regexp.MustCompile(`^[a-z][a-z0-9-]{0,30}$`)

// Check says what is wrong with a plan of a picture.
func (p *Plan) Check(of *Kept) error {
	if n := p.Root.Count(); n > maxParts {
		return fmt.Errorf("the plan has %d boxes; accepted: up to %d", n, maxParts)
	}
	seen := map[string]bool{}
	var err error
	all := Rect{0, 0, of.Width, of.Height}
	p.Root.Walk(func(q, _ *Part) {
		switch {
		case err != nil:
		case !partID.MatchString(q.ID) || seen[q.ID]:
			err = fmt.Errorf("the box id %q stands twice or is none; accepted: a lower-case letter, then letters, digits, dashes", q.ID)
		case strings.TrimSpace(q.Name) == "" || len(q.Name) > 80:
			err = fmt.Errorf("the box %s has no name, or one of more than 80 bytes", q.ID)
		case len(q.Text) > 4_000:
			err = fmt.Errorf("the words of %s are %d bytes; accepted: up to 4000", q.Name, len(q.Text))
		case q.At.W < 1 || q.At.H < 1 || !all.Holds(q.At):
			err = fmt.Errorf("the box %s lies at %d, %d with %d × %d, outside the picture of %d × %d",
				q.Name, q.At.X, q.At.Y, q.At.W, q.At.H, of.Width, of.Height)
		}
		seen[q.ID] = true
	})
	return err
}

// Check says what is wrong with a picture that is to be kept.
func (k *Kept) Check() error {
	head, data, cut := strings.Cut(k.Data, ";base64,")
	if !cut || head != "data:image/png" && head != "data:image/jpeg" {
		return errors.New("the picture is not given as data:image/png or data:image/jpeg in base64")
	}
	file, err := base64.StdEncoding.DecodeString(data)
	if err != nil {
		return errors.New("the picture is no base64")
	}
	if len(file) > MaxKept {
		return fmt.Errorf("the picture takes %.1f MB; accepted: up to %d MB", float64(len(file))/(1<<20), MaxKept>>20)
	}
	of, format, err := image.DecodeConfig(bytes.NewReader(file))
	switch {
	case err != nil || head != "data:image/"+format:
		return errors.New("the picture cannot be read, or is of another kind than it says")
	case of.Width != k.Width || of.Height != k.Height:
		return fmt.Errorf("the picture is %d × %d, and %d × %d is said of it", of.Width, of.Height, k.Width, k.Height)
	case k.ID != idOf(file):
		return fmt.Errorf("the picture's id is %s, and %s is said", idOf(file), k.ID)
	}
	return nil
}

// MaxKept is how many bytes a picture takes at most where it is kept.
const MaxKept = 3 << 20

// Keep is a decoded picture as it is kept: its pixels and nothing else, neither place nor
// camera nor name, packed without loss where that is small enough.
func Keep(img image.Image, title string) (Kept, error) {
	file, err := Clean(img)
	if err != nil {
		return Kept{}, err
	}
	kind := "png"
	for quality := 90; len(file) > MaxKept && quality >= 50; quality -= 20 {
		var out bytes.Buffer
		if err := jpeg.Encode(&out, img, &jpeg.Options{Quality: quality}); err != nil {
			return Kept{}, err
		}
		file, kind = out.Bytes(), "jpeg"
	}
	if len(file) > MaxKept {
		return Kept{}, fmt.Errorf("the picture takes more than %d MB, however it is packed; take a smaller one", MaxKept>>20)
	}
	size := img.Bounds()
	return Kept{
		ID: idOf(file), Title: title, Width: size.Dx(), Height: size.Dy(),
		Data: "data:image/" + kind + ";base64," + base64.StdEncoding.EncodeToString(file),
	}, nil
}

func idOf(file []byte) string {
	sum := sha256.Sum256(file)
	return hex.EncodeToString(sum[:8])
}
