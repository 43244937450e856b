// Package drawn draws pages of many kinds, and knows what it drew where: what a reader of
// pictures is held against.
package drawn

import (
	"image"
	"image/color"
	"image/draw"
	"math/rand/v2"
	"strings"
	"testing"
	"ubiquant/core/picture"

	"github.com/stretchr/testify/require"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/fixed"
)

// Truth is a part that was drawn.
type Truth struct {
	Rect picture.Rect
	Look picture.Look
}

// Sheet is a page that is drawn by a program, with what was drawn on it.
type Sheet struct {
	t      testing.TB
	Img    *image.NRGBA
	k      int // pixels for each unit: 2 for a dense screen
	Made   []Truth
	ink    color.NRGBA
	ground color.NRGBA
}

// RGB reads a colour such as "#1a2b3c".
func RGB(s string) color.NRGBA {
	v := func(i int) uint8 {
		return uint8(strings.IndexByte("0123456789abcdef", s[i])<<4 | strings.IndexByte("0123456789abcdef", s[i+1]))
	}
	return color.NRGBA{v(1), v(3), v(5), 255}
}

// New is an empty sheet, k pixels for each unit.
func New(t testing.TB, w, h, k int, ground, ink string) *Sheet {
	s := &Sheet{t: t, Img: image.NewNRGBA(image.Rect(0, 0, w*k, h*k)), k: k, ink: RGB(ink), ground: RGB(ground)}
	draw.Draw(s.Img, s.Img.Bounds(), image.NewUniform(s.ground), image.Point{}, draw.Src)
	return s
}

func (s *Sheet) note(look picture.Look, x, y, w, h int) {
	s.Made = append(s.Made, Truth{picture.Rect{X: x * s.k, Y: y * s.k, W: w * s.k, H: h * s.k}, look})
}

// Fills draws a place with round corners, antialiased.
func (s *Sheet) Fills(x, y, w, h, radius int, c color.NRGBA) {
	x, y, w, h, radius = x*s.k, y*s.k, w*s.k, h*s.k, radius*s.k
	for j := range h {
		for i := range w {
			const n = 3
			in := 0
			for a := range n * n {
				px, py := float64(i)+(float64(a%n)+.5)/n, float64(j)+(float64(a/n)+.5)/n
				r := float64(radius)
				dx := max(r-px, px-(float64(w)-r), 0)
				dy := max(r-py, py-(float64(h)-r), 0)
				if dx*dx+dy*dy <= r*r {
					in++
				}
			}
			if in == 0 {
				continue
			}
			old := s.Img.NRGBAAt(x+i, y+j)
			mix := func(a, b uint8) uint8 { return uint8((int(a)*(n*n-in) + int(b)*in) / (n * n)) }
			s.Img.SetNRGBA(x+i, y+j, color.NRGBA{mix(old.R, c.R), mix(old.G, c.G), mix(old.B, c.B), 255})
		}
	}
}

// frames draws a border with a ground in it.
func (s *Sheet) frames(x, y, w, h, radius int, line, ground string) {
	s.Fills(x, y, w, h, radius, RGB(line))
	s.Fills(x+1, y+1, w-2, h-2, max(0, radius-1), RGB(ground))
}

func (s *Sheet) panel(x, y, w, h, radius int, line, ground string) {
	s.frames(x, y, w, h, radius, line, ground)
	s.note(picture.Panel, x, y, w, h)
}

// writes sets words with their line's top at y, and gives the place they take up.
func (s *Sheet) writes(x, y, size int, bold bool, c color.NRGBA, words string) picture.Rect {
	src := goregular.TTF
	if bold {
		src = gobold.TTF
	}
	f, err := opentype.Parse(src)
	require.NoError(s.t, err)
	face, err := opentype.NewFace(f, &opentype.FaceOptions{Size: float64(size * s.k), DPI: 72, Hinting: font.HintingFull})
	require.NoError(s.t, err)
	d := font.Drawer{Dst: s.Img, Src: image.NewUniform(c), Face: face, Dot: fixed.P(x*s.k, (y+size)*s.k)}
	box, _ := d.BoundString(words)
	d.DrawString(words)
	return picture.Rect{X: box.Min.X.Floor(), Y: box.Min.Y.Floor(), W: (box.Max.X - box.Min.X).Ceil(), H: (box.Max.Y - box.Min.Y).Ceil()}
}

func (s *Sheet) text(x, y, size int, words string) {
	s.Made = append(s.Made, Truth{s.writes(x, y, size, false, s.ink, words), picture.Text})
}

func (s *Sheet) heading(x, y, size int, words string) {
	s.Made = append(s.Made, Truth{s.writes(x, y, size, true, s.ink, words), picture.Heading})
}

// lines is a paragraph.
func (s *Sheet) lines(x, y, size, step int, lines ...string) {
	var all picture.Rect
	for i, l := range lines {
		all = all.Around(s.writes(x, y+i*step, size, false, s.ink, l))
	}
	s.Made = append(s.Made, Truth{all, picture.Text})
}

func (s *Sheet) button(x, y, w, h int, ground, ink, words string) {
	s.Fills(x, y, w, h, 4, RGB(ground))
	s.centred(x, y, w, h, 14, ink, words)
	s.note(picture.Button, x, y, w, h)
}

func (s *Sheet) centred(x, y, w, h, size int, ink, words string) {
	f, _ := opentype.Parse(goregular.TTF)
	face, _ := opentype.NewFace(f, &opentype.FaceOptions{Size: float64(size), DPI: 72})
	wide := font.MeasureString(face, words).Ceil()
	s.writes(x+(w-wide)/2, y+(h-size)/2-1, size, false, RGB(ink), words)
}

func (s *Sheet) field(x, y, w, h int, line, ground, words string) {
	s.frames(x, y, w, h, 4, line, ground)
	if words != "" {
		s.writes(x+10, y+(h-14)/2-1, 14, false, RGB("#7a7f7b"), words)
	}
	s.note(picture.Field, x, y, w, h)
}

func (s *Sheet) chip(x, y, w, h int, ground, ink, words string) {
	s.Fills(x, y, w, h, h/2, RGB(ground))
	s.centred(x, y, w, h, 12, ink, words)
	s.note(picture.Chip, x, y, w, h)
}

func (s *Sheet) avatar(x, y, d int, ground, words string) {
	s.Fills(x, y, d, d, d/2, RGB(ground))
	s.centred(x, y, d, d, 12, "#ffffff", words)
	s.note(picture.Avatar, x, y, d, d)
}

// photo draws many colours.
func (s *Sheet) photo(x, y, w, h int, seed uint64) {
	r := rand.New(rand.NewPCG(seed, 1))
	a, b, c := r.Float64()*6, r.Float64()*6, r.Float64()*6
	for j := range h * s.k {
		for i := range w * s.k {
			u, v := float64(i)/float64(w*s.k), float64(j)/float64(h*s.k)
			wave := func(p float64) uint8 {
				q := u*p*17 + v*(6-p)*13 + r.Float64()*.7
				q -= float64(int(q))
				return uint8(30 + 200*q)
			}
			s.Img.SetNRGBA(x*s.k+i, y*s.k+j, color.NRGBA{wave(a), wave(b), wave(c), 255})
		}
	}
	s.note(picture.Picture, x, y, w, h)
}

func (s *Sheet) icon(x, y, d int) {
	s.Fills(x, y, d, 2, 0, s.ink)
	s.Fills(x, y+d-2, d, 2, 0, s.ink)
	s.Fills(x, y, 2, d, 0, s.ink)
	s.Fills(x+d-2, y, 2, d, 0, s.ink)
	s.Fills(x+d/2-1, y+2, 2, d-4, 0, s.ink)
	s.note(picture.Icon, x, y, d, d)
}

func (s *Sheet) fill(look picture.Look, x, y, w, h int, ground string) {
	s.Fills(x, y, w, h, 0, RGB(ground))
	s.note(look, x, y, w, h)
}

// Pages are pages of many kinds, each with what was drawn.
var Pages = []struct {
	Name string
	Draw func(t testing.TB) *Sheet
}{
	{"sign in", func(t testing.TB) *Sheet {
		s := New(t, 1000, 700, 1, "#eef0ee", "#1d241f")
		s.panel(320, 140, 360, 330, 8, "#c9cec9", "#ffffff")
		s.heading(344, 164, 24, "Sign in")
		s.text(344, 214, 14, "E-mail address")
		s.field(344, 236, 312, 36, "#8f958f", "#ffffff", "")
		s.text(344, 292, 14, "Password")
		s.field(344, 314, 312, 36, "#8f958f", "#ffffff", "at least twelve signs")
		s.button(344, 376, 312, 40, "#345b8c", "#ffffff", "Sign in")
		s.text(344, 436, 13, "Forgotten your password?")
		return s
	}},
	{"cards in a grid", func(t testing.TB) *Sheet {
		s := New(t, 1200, 900, 1, "#ffffff", "#202020")
		s.fill(picture.Bar, 0, 0, 1200, 56, "#27323f")
		s.Made[0].Look = picture.Bar
		s.writes(24, 18, 18, true, RGB("#ffffff"), "Orchard")
		s.writes(160, 20, 15, false, RGB("#ffffff"), "Trees")
		s.writes(240, 20, 15, false, RGB("#ffffff"), "Harvest")
		s.avatar(1140, 12, 32, "#b0603a", "KL")
		s.heading(40, 88, 30, "All trees")
		s.button(1020, 84, 140, 38, "#b0603a", "#ffffff", "Add a tree")
		for i := range 6 {
			x, y := 40+i%3*384, 160+i/3*350
			s.panel(x, y, 352, 318, 8, "#d5d5d5", "#fafafa")
			s.photo(x+16, y+16, 320, 160, uint64(i))
			s.heading(x+16, y+192, 20, []string{"Quince", "Medlar", "Pear", "Plum", "Sloe", "Apple"}[i])
			s.lines(x+16, y+228, 14, 20, "Planted a while ago on the", "north side of the wall")
			s.chip(x+16, y+280, 84, 24, "#d9ead3", "#274e13", "thriving")
		}
		return s
	}},
	{"table", func(t testing.TB) *Sheet {
		s := New(t, 1180, 640, 1, "#ffffff", "#22252a")
		s.heading(32, 28, 28, "Orders")
		s.field(32, 84, 280, 36, "#9aa0a6", "#ffffff", "Search")
		s.field(328, 84, 180, 36, "#9aa0a6", "#ffffff", "Any state")
		top := 150
		for i := range 8 {
			y := top + i*44
			words := []string{"Number", "Customer", "Placed", "Total"}
			if i > 0 {
				words = []string{"10" + string(rune('0'+i)), "Garden of somebody", "12 May 2026", "1,240.00"}
			}
			for c, x := range []int{40, 220, 640, 960} {
				s.text(x, y+12, 14, words[c])
			}
			s.Fills(32, y+43, 1116, 1, 0, RGB("#d8dce0"))
		}
		s.note(picture.Table, 32, top+12, 1116, 8*44-12)
		return s
	}},
	{"side and settings", func(t testing.TB) *Sheet {
		s := New(t, 1280, 800, 1, "#f6f6f2", "#1c1c1c")
		s.fill(picture.Side, 0, 0, 220, 800, "#e2e4d9")
		for i, w := range []string{"Overview", "People", "Places", "Billing", "Settings"} {
			s.text(24, 40+i*40, 15, w)
		}
		s.heading(260, 36, 30, "Settings")
		s.panel(260, 100, 620, 260, 6, "#c8cabf", "#ffffff")
		s.heading(284, 122, 20, "Profile")
		s.text(284, 164, 14, "Name")
		s.field(284, 186, 572, 36, "#a0a39a", "#ffffff", "Wren Oldfield")
		s.text(284, 240, 14, "Telephone")
		s.field(284, 262, 572, 36, "#a0a39a", "#ffffff", "")
		s.button(744, 312, 112, 34, "#4b5d2a", "#ffffff", "Save")
		s.panel(260, 390, 620, 160, 6, "#c8cabf", "#ffffff")
		s.heading(284, 412, 20, "Messages")
		s.lines(284, 450, 14, 21, "Which messages are sent, and how often they are", "sent to people who asked for them.")
		return s
	}},
	{"dark numbers", func(t testing.TB) *Sheet {
		s := New(t, 1280, 720, 1, "#14181c", "#e6e9ec")
		s.heading(40, 32, 28, "Today")
		for i, w := range []string{"Visitors", "Tickets", "Takings", "Volunteers"} {
			x := 40 + i*306
			s.panel(x, 96, 282, 120, 10, "#2c343c", "#1d2329")
			s.text(x+20, 114, 14, w)
			s.heading(x+20, 150, 32, []string{"1,204", "87", "9,310", "42"}[i])
		}
		s.panel(40, 248, 794, 420, 10, "#2c343c", "#1d2329")
		s.heading(60, 268, 20, "What comes next")
		for i := range 6 {
			y := 316 + i*54
			s.avatar(60, y, 32, "#5b7f9c", "AB")
			s.text(108, y+8, 14, "Watering of the lower beds")
			s.chip(720, y+4, 90, 24, "#2f4a36", "#bfe3c8", "open")
		}
		s.panel(858, 248, 382, 420, 10, "#2c343c", "#1d2329")
		s.heading(878, 268, 20, "Weather")
		s.photo(878, 316, 342, 180, 5)
		s.lines(878, 520, 14, 22, "Rain towards the evening, then", "dry with some wind from the", "west until Friday.")
		return s
	}},
	{"article", func(t testing.TB) *Sheet {
		s := New(t, 900, 1100, 1, "#fffdf7", "#2a2622")
		s.heading(120, 60, 40, "Winter pruning")
		s.text(120, 124, 14, "Ida Fenn, 3 January")
		s.photo(120, 170, 660, 300, 9)
		long := []string{
			"Pruning in winter is done while the tree rests, on a dry day", "without frost. What is dead, ill or broken goes first, then what",
			"crosses, then what grows inwards.", "Step back often and look at it.",
		}
		s.lines(120, 506, 17, 26, long...)
		s.heading(120, 650, 26, "What you need")
		s.lines(120, 704, 17, 26, long[1], long[2], long[0])
		s.lines(120, 818, 17, 26, long[2], long[1])
		s.button(120, 920, 180, 42, "#2a2622", "#fffdf7", "Read on")
		return s
	}},
	{"form in two columns", func(t testing.TB) *Sheet {
		s := New(t, 1100, 720, 1, "#ffffff", "#1f2933")
		s.heading(60, 40, 28, "New order")
		for i, w := range []string{"Customer", "Reference", "From", "Until", "Number", "Price"} {
			x, y := 60+i%2*500, 110+i/2*92
			s.text(x, y, 14, w)
			s.field(x, y+24, 468, 38, "#9fb3c8", "#ffffff", "")
		}
		s.text(60, 392, 14, "Remarks")
		s.panel(60, 416, 968, 120, 4, "#9fb3c8", "#ffffff")
		s.Made = s.Made[:len(s.Made)-1]
		s.button(60, 566, 130, 40, "#0f609b", "#ffffff", "Save")
		s.frames(206, 566, 130, 40, 4, "#9fb3c8", "#ffffff")
		s.centred(206, 566, 130, 40, 14, "#1f2933", "Cancel")
		s.note(picture.Button, 206, 566, 130, 40)
		return s
	}},
	{"people", func(t testing.TB) *Sheet {
		s := New(t, 760, 800, 1, "#f2f4f7", "#101828")
		s.heading(40, 36, 26, "People")
		s.panel(40, 92, 680, 600, 12, "#d0d5dd", "#ffffff")
		for i := range 7 {
			y := 112 + i*80
			s.avatar(60, y+8, 40, []string{"#7a5af8", "#0086c9", "#dd2590", "#2e8b57", "#a15c07", "#475467", "#c11574"}[i], "NN")
			s.text(116, y+8, 15, "Somebody "+[]string{"Ash", "Birch", "Cedar", "Fir", "Hazel", "Larch", "Rowan"}[i])
			s.icon(680, y+18, 18)
		}
		return s
	}},
	{"gallery", func(t testing.TB) *Sheet {
		s := New(t, 1024, 820, 1, "#ffffff", "#111111")
		s.heading(32, 30, 28, "Gallery")
		for i := range 8 {
			s.photo(32+i%4*244, 96+i/4*250, 228, 200, uint64(40+i))
			s.text(32+i%4*244, 304+i/4*250, 14, "In the glass house")
		}
		s.button(448, 620, 128, 40, "#111111", "#ffffff", "Show more")
		s.fill(picture.Bar, 0, 740, 1024, 80, "#e8e8e8")
		s.writes(420, 770, 14, false, s.ink, "Open every day from nine")
		return s
	}},
	{"dense screen", func(t testing.TB) *Sheet {
		s := New(t, 1000, 620, 2, "#fafafa", "#1a1a2e")
		s.fill(picture.Bar, 0, 0, 1000, 48, "#ffffff")
		s.Fills(0, 48, 1000, 1, 0, RGB("#dddddd"))
		s.writes(24, 14, 16, true, s.ink, "Boathouse")
		s.heading(40, 84, 26, "Boats")
		s.panel(40, 140, 440, 200, 8, "#dddddd", "#ffffff")
		s.heading(60, 160, 18, "Heron")
		s.lines(60, 194, 14, 20, "Four seats, moored at the", "lower landing stage")
		s.button(60, 280, 120, 36, "#16537e", "#ffffff", "Reserve")
		s.panel(510, 140, 440, 200, 8, "#dddddd", "#ffffff")
		s.heading(530, 160, 18, "Otter")
		s.lines(530, 194, 14, 20, "Two seats, moored at the", "upper landing stage")
		s.button(530, 280, 120, 36, "#16537e", "#ffffff", "Reserve")
		return s
	}},
	{"narrow", func(t testing.TB) *Sheet {
		s := New(t, 390, 844, 1, "#ffffff", "#222222")
		s.fill(picture.Bar, 0, 0, 390, 56, "#6b2d5c")
		s.writes(16, 18, 18, true, RGB("#ffffff"), "Market")
		s.heading(16, 84, 24, "This week")
		for i := range 3 {
			y := 140 + i*210
			s.panel(16, y, 358, 190, 10, "#e0d3dc", "#fdf8fc")
			s.heading(32, y+16, 18, []string{"Leeks", "Kale", "Parsnips"}[i])
			s.lines(32, y+52, 14, 20, "From the field by the mill,", "picked this morning")
			s.button(32, y+130, 110, 38, "#6b2d5c", "#ffffff", "To the bag")
		}
		return s
	}},
	{"filters beside a list", func(t testing.TB) *Sheet {
		s := New(t, 1280, 760, 1, "#f4f5f7", "#172b4d")
		s.fill(picture.Bar, 0, 0, 1280, 60, "#ffffff")
		s.Fills(0, 60, 1280, 1, 0, RGB("#d5d9e0"))
		s.writes(32, 20, 18, true, s.ink, "Tool shed")
		s.button(1130, 12, 118, 36, "#0b5cad", "#ffffff", "New loan")
		s.panel(32, 92, 280, 400, 6, "#d5d9e0", "#ffffff")
		s.heading(52, 110, 18, "Narrow down")
		for i, w := range []string{"Search", "State", "From", "Until"} {
			s.text(52, 154+i*76, 14, w)
			s.field(52, 176+i*76, 240, 36, "#b3bac5", "#ffffff", "")
		}
		s.panel(344, 92, 904, 420, 6, "#d5d9e0", "#ffffff")
		for i := range 7 {
			y := 104 + i*58
			for c, x := range []int{364, 620, 860} {
				s.text(x, y+16, 14, []string{"Long ladder", "Wren Oldfield", "14 March 2026"}[c])
			}
			s.chip(1140, y+12, 88, 24, "#e3fcef", "#006644", "on loan")
		}
		return s
	}},
	{"two grounds, tabs", func(t testing.TB) *Sheet {
		s := New(t, 1100, 760, 1, "#ffffff", "#30343f")
		s.fill(picture.Panel, 0, 0, 1100, 220, "#fde8d7")
		s.heading(60, 60, 40, "Help where you need it")
		s.text(60, 122, 16, "Ask anything about trees")
		s.field(60, 154, 420, 40, "#d0a98a", "#ffffff", "How do I graft a pear?")
		for i, w := range []string{"Common", "Grafting", "Pests"} {
			s.text(60+i*120, 252, 15, w)
		}
		for i := range 4 {
			x, y := 60+i%2*500, 320+i/2*190
			s.panel(x, y, 470, 160, 8, "#e3e5ea", "#f7f8fa")
			s.heading(x+20, y+20, 18, []string{"When to water", "Grafting wax", "Leaf curl", "Frost"}[i])
			s.lines(x+20, y+58, 14, 20, "Short answers to what people ask", "most, with pictures of each step", "and of what goes wrong")
		}
		return s
	}},
}
