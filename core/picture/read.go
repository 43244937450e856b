package picture

import (
	"image"
	"image/color"
	"slices"
)

const (
	maxDepth = 40    // boxes in each other
	maxBoxes = 4_000 // more is a photograph of something, not a page
	// wide is how many pixels across a page is read with; what is larger is read smaller.
	wide = 1_800
)

// reader holds a picture while it is read.
type reader struct {
	w, h  int
	px    []color.NRGBA
	near  int // colours that differ by no more in any channel are the same
	boxes int
	page  color.NRGBA
}

// Read reads a picture of a page. The answer is a box for all of it, with those in it.
func Read(img *image.NRGBA) *Box {
	scale := 1 + (img.Rect.Dx()-1)/wide
	r := smaller(img, scale)
	if r.near = 3; r.noisy() {
		r.settle()
		r.near = 26
	}
	all := Rect{0, 0, r.w, r.h}
	r.page = r.rim(all)
	root := &Box{Rect: all, Look: Page, Ground: r.page}
	r.fill(root, all, r.page, 0)
	r.name(root)
	root.Walk(func(b *Box) {
		b.Rect = Rect{b.Rect.X * scale, b.Rect.Y * scale, b.Rect.W * scale, b.Rect.H * scale}
		b.Gap *= scale
	})
	root.Rect = Rect{0, 0, img.Rect.Dx(), img.Rect.Dy()}
	return root
}

// smaller is the picture with each n × n pixels as one.
func smaller(img *image.NRGBA, n int) *reader {
	w, h := img.Rect.Dx()/n, img.Rect.Dy()/n
	r := &reader{w: w, h: h, px: make([]color.NRGBA, w*h)}
	for y := range h {
		for x := range w {
			var sum [3]int
			for dy := range n {
				at := img.PixOffset(img.Rect.Min.X+x*n, img.Rect.Min.Y+y*n+dy)
				for dx := range n {
					for c := range 3 {
						sum[c] += int(img.Pix[at+4*dx+c])
					}
				}
			}
			all := n * n
			r.px[y*w+x] = color.NRGBA{uint8(sum[0] / all), uint8(sum[1] / all), uint8(sum[2] / all), 255}
		}
	}
	return r
}

func (r *reader) at(x, y int) color.NRGBA { return r.px[y*r.w+x] }

func apart(a, b color.NRGBA) int {
	d := func(x, y uint8) int { return max(int(x), int(y)) - min(int(x), int(y)) }
	return max(d(a.R, b.R), d(a.G, b.G), d(a.B, b.B))
}

func (r *reader) far(a, b color.NRGBA) bool { return apart(a, b) > r.near }

// noisy tells whether colours that were meant as one differ a little, as they do where the
// picture was packed with loss.
func (r *reader) noisy() bool {
	calm, stirred := 0, 0
	for y := 0; y < r.h; y += 3 {
		for x := 4; x < r.w; x += 4 {
			most := 0
			for i := x - 3; i <= x; i++ {
				most = max(most, apart(r.at(i-1, y), r.at(i, y)))
			}
			if most < 9 {
				calm++
				if most > 0 {
					stirred++
				}
			}
		}
	}
	return stirred*100 > calm
}

// settle gives pixels that are near a colour of which there is much around them that colour.
func (r *reader) settle() {
	const tile, reach = 24, 34
	for top := 0; top < r.h; top += tile {
		for left := 0; left < r.w; left += tile {
			at := Rect{left, top, min(tile, r.w-left), min(tile, r.h-top)}
			var rest []color.NRGBA
			for y := at.Y; y < at.Bottom(); y++ {
				rest = append(rest, r.px[y*r.w+at.X:y*r.w+at.Right()]...)
			}
			var much []color.NRGBA
			for all := len(rest); len(much) < 3; {
				c := (&reader{w: len(rest), h: 1, px: rest}).usual(Rect{0, 0, len(rest), 1})
				n := len(rest)
				rest = slices.DeleteFunc(rest, func(p color.NRGBA) bool { return apart(p, c) <= 5 })
				if (n-len(rest))*9 < all {
					break
				}
				much = append(much, c)
			}
			for y := at.Y; y < at.Bottom(); y++ {
				for x := at.X; x < at.Right(); x++ {
					p := &r.px[y*r.w+x]
					best := reach
					for _, c := range much {
						best = min(best, apart(*p, c))
					}
					for _, c := range much {
						if best < reach && apart(*p, c) == best {
							*p = c
							break
						}
					}
				}
			}
		}
	}
}

// usual is the colour that most of a place has.
func (r *reader) usual(at Rect) color.NRGBA {
	type bin struct{ n, r, g, b int }
	bins := map[[3]uint8]bin{}
	step := 1 + at.W*at.H/60_000
	i := 0
	for y := at.Y; y < at.Bottom(); y++ {
		for x := at.X; x < at.Right(); x++ {
			if i++; i%step != 0 {
				continue
			}
			c := r.at(x, y)
			key := [3]uint8{c.R >> 3, c.G >> 3, c.B >> 3}
			b := bins[key]
			bins[key] = bin{b.n + 1, b.r + int(c.R), b.g + int(c.G), b.b + int(c.B)}
		}
	}
	var best bin
	var of [3]uint8
	for key, b := range bins {
		if b.n > best.n || b.n == best.n && slices.Compare(key[:], of[:]) < 0 {
			best, of = b, key
		}
	}
	if best.n == 0 {
		return color.NRGBA{255, 255, 255, 255}
	}
	return color.NRGBA{uint8(best.r / best.n), uint8(best.g / best.n), uint8(best.b / best.n), 255}
}

// rim is the colour that most of a place's outermost pixels have: what stands in it may
// cover more than the ground.
func (r *reader) rim(at Rect) color.NRGBA {
	if at.W < 8 || at.H < 8 {
		return r.usual(at)
	}
	rim := &reader{w: 2 * (at.W + at.H), h: 1}
	for x := at.X; x < at.Right(); x++ {
		rim.px = append(rim.px, r.at(x, at.Y+1), r.at(x, at.Bottom()-2))
	}
	for y := at.Y; y < at.Bottom(); y++ {
		rim.px = append(rim.px, r.at(at.X+1, y), r.at(at.Right()-2, y))
	}
	return rim.usual(Rect{0, 0, rim.w, 1})
}

// run is a stretch of rows or columns, from the first to before the last.
type run struct{ from, to int }

func (s run) len() int { return s.to - s.from }

// runs are the stretches of rows (or columns, across) of a place that show anything on its
// ground.
func (r *reader) runs(at Rect, ground color.NRGBA, across bool) []run {
	var out []run
	open := false
	start, end := at.Y, at.Bottom()
	if across {
		start, end = at.X, at.Right()
	}
	for i := start; i < end; i++ {
		if r.shows(at, ground, i, across) {
			if open {
				out[len(out)-1].to = i + 1
			} else {
				out, open = append(out, run{i, i + 1}), true
			}
		} else {
			open = false
		}
	}
	return out
}

func (r *reader) shows(at Rect, ground color.NRGBA, i int, across bool) bool {
	if across {
		for y := at.Y; y < at.Bottom(); y++ {
			if r.far(r.at(i, y), ground) {
				return true
			}
		}
		return false
	}
	for x := at.X; x < at.Right(); x++ {
		if r.far(r.at(x, i), ground) {
			return true
		}
	}
	return false
}

// trim takes the ground off around what a place shows; it is empty where there is nothing.
func (r *reader) trim(at Rect, ground color.NRGBA) Rect {
	rows := r.runs(at, ground, false)
	if len(rows) == 0 {
		return Rect{}
	}
	at.Y, at.H = rows[0].from, rows[len(rows)-1].to-rows[0].from
	cols := r.runs(at, ground, true)
	at.X, at.W = cols[0].from, cols[len(cols)-1].to-cols[0].from
	return at
}

// fill reads what stands in a box, on its ground.
func (r *reader) fill(b *Box, in Rect, ground color.NRGBA, depth int) {
	if depth >= maxDepth || r.boxes >= maxBoxes {
		return
	}
	if b.Parts, b.Across = r.bands(in, ground, depth), false; b.Parts != nil {
		return
	}
	if b.Parts, b.Across = r.columns(in, ground, depth), true; b.Parts != nil {
		return
	}
	b.Across = false
	one := r.area(in, ground, depth+1)
	switch {
	case one == nil:
	case one.Look == Group:
		b.Parts, b.Across, b.Gap = one.Parts, one.Across, one.Gap
	default:
		b.Parts = []*Box{one}
	}
}

// bands are the parts of a place whose grounds change from side to side: a bar and what
// is below it. There are none where the ground is one.
func (r *reader) bands(in Rect, ground color.NRGBA, depth int) []*Box {
	return r.grounds(in, ground, false, depth)
}

// columns are the same from top to bottom: a side and what is beside it.
func (r *reader) columns(in Rect, ground color.NRGBA, depth int) []*Box {
	return r.grounds(in, ground, true, depth)
}

// grounds cuts a place where an edge goes through all of it, into what has grounds of
// their own.
func (r *reader) grounds(in Rect, ground color.NRGBA, across bool, depth int) []*Box {
	if in.W < 48 || in.H < 48 {
		return nil
	}
	edges := r.edges(in, across)
	if len(edges) == 0 {
		return nil
	}
	length := in.H
	if across {
		length = in.W
	}
	var stretches []run
	from := 0
	for _, e := range edges {
		if e.from-from >= 3 {
			stretches = append(stretches, run{from, e.from})
		}
		from = e.to
	}
	if length-from >= 3 {
		stretches = append(stretches, run{from, length})
	}
	part := func(s run) Rect {
		if across {
			return Rect{in.X + s.from, in.Y, s.len(), in.H}
		}
		return Rect{in.X, in.Y + s.from, in.W, s.len()}
	}
	own := make([]color.NRGBA, len(stretches))
	changes := false
	for i, s := range stretches {
		own[i] = r.rim(part(s))
		changes = changes || r.far(own[i], own[0])
	}
	if len(stretches) < 2 || !changes && depth > 0 {
		return nil
	}
	var out []*Box
	for i, s := range stretches {
		at := part(s)
		if b := r.on(at, own[i], ground, depth); b != nil {
			out = append(out, b)
		}
	}
	if len(out) < 2 {
		return nil
	}
	return out
}

// on is a part of a page with a ground of its own, from edge to edge.
func (r *reader) on(at Rect, own, ground color.NRGBA, depth int) *Box {
	b := &Box{Rect: at, Look: Panel, Ground: own}
	if !r.far(own, ground) {
		b.Look = Group
	}
	r.boxes++
	r.fill(b, at, own, depth+1)
	if b.Look == Group {
		if len(b.Parts) == 0 {
			return nil
		}
		if len(b.Parts) == 1 && b.Parts[0].Look != Group {
			return b.Parts[0]
		}
		b.Rect = held(b.Parts)
	}
	return b
}

func held(parts []*Box) Rect {
	var out Rect
	for _, p := range parts {
		out = out.Around(p.Rect)
	}
	return out
}

// edges are where nearly every pixel of a row (column) differs from the one before: where
// a ground ends. A line is two of them, close to each other.
func (r *reader) edges(in Rect, across bool) []run {
	length, side := in.H, in.W
	if across {
		length, side = in.W, in.H
	}
	allowed := side / 100
	var out []run
	for i := 1; i < length; i++ {
		same := 0
		for j := 0; j < side && same <= allowed; j++ {
			var a, b color.NRGBA
			if across {
				a, b = r.at(in.X+i-1, in.Y+j), r.at(in.X+i, in.Y+j)
			} else {
				a, b = r.at(in.X+j, in.Y+i-1), r.at(in.X+j, in.Y+i)
			}
			if !r.far(a, b) {
				same++
			}
		}
		if same > allowed {
			continue
		}
		if n := len(out); n > 0 && i-out[n-1].to <= 4 {
			out[n-1].to = i
		} else {
			out = append(out, run{i, i})
		}
	}
	return out
}

// area is what a place shows on its ground, or nil.
func (r *reader) area(in Rect, ground color.NRGBA, depth int) *Box {
	at := r.trim(in, ground)
	if at.W == 0 || r.boxes >= maxBoxes {
		return nil
	}
	if max(at.W, at.H) < 8 && depth > 0 {
		return nil // a speck, or what a round corner leaves
	}
	r.boxes++
	if depth >= maxDepth {
		return r.leaf(at, ground)
	}
	if b := r.round(at, ground); b != nil {
		return b
	}
	if inner, own, ok := r.framed(at, ground); ok {
		b := &Box{Rect: at, Look: Panel, Ground: own}
		r.fill(b, inner, own, depth+1)
		r.small(b, ground)
		return b
	}
	through := max(widest(r.runs(at, ground, false), 8), widest(r.runs(at, ground, true), 8))
	if through == 0 && r.photo(at) {
		return &Box{Rect: at, Look: Picture, Ground: ground}
	}
	if parts, across, gap := r.gaps(at, ground, depth); parts != nil {
		return &Box{Rect: at, Look: Group, Across: across, Gap: gap, Ground: ground, Parts: parts}
	}
	return r.leaf(at, ground)
}

// gaps cuts a place where its ground goes through it: along the widest gaps, and those
// nearly as wide.
func (r *reader) gaps(at Rect, ground color.NRGBA, depth int) (parts []*Box, across bool, gap int) {
	rows, cols := r.runs(at, ground, false), r.runs(at, ground, true)
	down := widest(rows, 4)
	line := r.line(rows)
	beside := widest(cols, max(9, line*2/5))
	if down == 0 && beside == 0 {
		return nil, false, 0
	}
	cut := rows
	// Rows that follow each other evenly are rows, however far their parts stand from each
	// other: nothing beside them reaches from one into the next.
	if across = down == 0 || !regular(rows) && beside*4 > down*5; across {
		cut = cols
		down = beside
	}
	least := max(4, down*3/5)
	if across {
		least = max(9, line*2/5, down*3/5)
	}
	var between []int
	group := cut[0]
	put := func(s run) {
		place := Rect{at.X, s.from, at.W, s.len()}
		if across {
			place = Rect{s.from, at.Y, s.len(), at.H}
		}
		if b := r.area(place, ground, depth+1); b != nil {
			parts = append(parts, b)
		}
	}
	for _, s := range cut[1:] {
		if s.from-group.to >= least {
			between = append(between, s.from-group.to)
			put(group)
			group = s
		} else {
			group.to = s.to
		}
	}
	put(group)
	if !across {
		parts = paragraphs(parts)
	} else if words(parts) {
		return nil, false, 0
	}
	return parts, across, median(between)
}

// line is how high a line of text is here, as far as rows tell.
func (r *reader) line(rows []run) int {
	var heights []int
	for _, s := range rows {
		if s.len() > 4 {
			heights = append(heights, s.len())
		}
	}
	return min(40, median(heights))
}

// widest is the widest gap between runs, 0 where none is as wide as asked.
func widest(list []run, least int) int {
	out := 0
	for i := 1; i < len(list); i++ {
		out = max(out, list[i].from-list[i-1].to)
	}
	if out < least {
		return 0
	}
	return out
}

// regular tells whether at least four runs follow each other evenly.
func regular(list []run) bool {
	if len(list) < 4 {
		return false
	}
	var steps []int
	for i := 1; i < len(list); i++ {
		steps = append(steps, list[i].from+list[i].to-list[i-1].from-list[i-1].to)
	}
	usual, even := median(steps), 0
	for _, s := range steps {
		if s*8 >= usual*7 && s*8 <= usual*9 {
			even++
		}
	}
	return even*4 >= len(steps)*3
}

// paragraphs puts lines of text together that follow each other as lines do.
func paragraphs(parts []*Box) []*Box {
	var out []*Box
	for _, p := range parts {
		if n := len(out); n > 0 && follows(out[n-1], p) {
			last := out[n-1]
			last.Rect = last.Rect.Around(p.Rect)
			last.Lines += p.Lines
			last.strength = max(last.strength, p.strength)
			continue
		}
		out = append(out, p)
	}
	return out
}

// words tells whether parts beside each other are the words of one line.
func words(parts []*Box) bool {
	for i, p := range parts {
		if p.Look != Text && p.Look != Icon || p.Rect.H > 60 {
			return false
		}
		if i > 0 && (p.Rect.X-parts[i-1].Rect.Right())*10 > 6*max(p.Rect.H, parts[i-1].Rect.H) {
			return false
		}
	}
	return len(parts) > 0 && slices.ContainsFunc(parts, func(p *Box) bool { return p.Look == Text })
}

func follows(a, b *Box) bool {
	if a.Look != Text || b.Look != Text {
		return false
	}
	high, next := a.Rect.H/max(1, a.Lines), b.Rect.H
	if a.Lines > 1 {
		high = next // lines of one paragraph; their gaps are in its height
	}
	gap := b.Rect.Y - a.Rect.Bottom()
	begins := a.Rect.X - b.Rect.X
	return begins >= -3 && begins <= 3 && gap*10 <= next*8 && next*3 >= high*2 && next*2 <= high*3
}
