package picture

import (
	"image/color"
	"slices"
)

// framed finds what is inside a place that has a border or a ground of its own, and that
// ground.
func (r *reader) framed(at Rect, ground color.NRGBA) (inner Rect, own color.NRGBA, ok bool) {
	if at.W < 12 || at.H < 12 {
		return at, ground, false
	}
	var depth [4]int
	var colours [4]color.NRGBA
	drawn := true // every side has a line or a ground that the surroundings do not have
	for side := range 4 {
		d, c, line, flat := r.side(at, side, ground)
		if !flat {
			return r.bordered(at, ground)
		}
		depth[side], colours[side] = d, c
		drawn = drawn && (line || r.far(c, ground))
	}
	for _, c := range colours[1:] {
		if r.far(c, colours[0]) {
			return r.bordered(at, ground)
		}
	}
	if !drawn {
		return at, ground, false
	}
	own = colours[0]
	inner = Rect{
		at.X + depth[3], at.Y + depth[0],
		at.W - depth[1] - depth[3], at.H - depth[0] - depth[2],
	}
	return r.within(inner, own), own, inner.W > 4 && inner.H > 4
}

// side follows one side of a place inwards (0 top, 1 right, 2 bottom, 3 left), past a
// border or a shadow, to where three lines in a row have one and the same colour.
func (r *reader) side(at Rect, side int, ground color.NRGBA) (depth int, c color.NRGBA, line, flat bool) {
	limit := min(14, min(at.W, at.H)/3)
	var last color.NRGBA
	same := 0
	for d := 0; d <= limit; d++ {
		now, even := r.stroke(at, side, d)
		if !even {
			same = 0
			continue
		}
		line = line || r.far(now, ground)
		if same > 0 && !r.far(now, last) {
			same++
		} else {
			same = 1
		}
		if last = now; same == 3 {
			return d - 2, now, line, true
		}
	}
	return 0, c, false, false
}

// stroke is the colour of one line along a side, without its ends, where it has one.
func (r *reader) stroke(at Rect, side, d int) (color.NRGBA, bool) {
	n := at.W
	if side == 1 || side == 3 {
		n = at.H
	}
	skip := min(n/6, 24)
	pixel := func(i int) color.NRGBA {
		switch side {
		case 0:
			return r.at(at.X+i, at.Y+d)
		case 1:
			return r.at(at.Right()-1-d, at.Y+i)
		case 2:
			return r.at(at.X+i, at.Bottom()-1-d)
		}
		return r.at(at.X+d, at.Y+i)
	}
	c := pixel(n / 2)
	off, allowed := 0, n/50
	for i := skip; i < n-skip; i++ {
		if r.far(pixel(i), c) {
			if off++; off > allowed {
				return c, false
			}
		}
	}
	return c, true
}

// bordered is framed where things touch the border: a line goes all around.
func (r *reader) bordered(at Rect, ground color.NRGBA) (Rect, color.NRGBA, bool) {
	if at.W < 32 || at.H < 32 {
		return at, ground, false
	}
	for d := range 3 {
		first, even := r.stroke(at, 0, d)
		if !even || !r.far(first, ground) {
			continue
		}
		around := true
		for side := 1; side < 4 && around; side++ {
			c, even := r.stroke(at, side, d)
			around = even && !r.far(c, first)
		}
		if !around {
			continue
		}
		thick := d + 1
		for thick < 5 {
			c, even := r.stroke(at, 0, thick)
			if !even || r.far(c, first) {
				break
			}
			thick++
		}
		inner := at.inset(thick)
		own := r.usual(inner)
		if !r.far(own, first) {
			return at, ground, false // filled, not bordered
		}
		return r.within(inner, own), own, true
	}
	return at, ground, false
}

// within clears what a round corner leaves of its surroundings in the corners of a place:
// what is connected to the corner's two sides and ends within a corner's reach.
func (r *reader) within(in Rect, own color.NRGBA) Rect {
	reach := min(24, in.W/3, in.H/3)
	for corner := range 4 {
		// From the corner inwards, in both directions.
		at := func(i, j int) (x, y int) {
			x, y = in.X+i, in.Y+j
			if corner%2 == 1 {
				x = in.Right() - 1 - i
			}
			if corner > 1 {
				y = in.Bottom() - 1 - j
			}
			return x, y
		}
		other := func(i, j int) bool {
			x, y := at(i, j)
			return r.far(r.at(x, y), own)
		}
		seen := map[[2]int]bool{}
		var open [][2]int
		add := func(i, j int) {
			if p := [2]int{i, j}; i >= 0 && j >= 0 && i <= reach && j <= reach && !seen[p] && other(i, j) {
				seen[p] = true
				open = append(open, p)
			}
		}
		for i := range reach {
			add(i, 0)
			add(0, i)
		}
		ends := true
		for len(open) > 0 {
			p := open[len(open)-1]
			open = open[:len(open)-1]
			ends = ends && p[0] < reach && p[1] < reach
			for _, d := range [][2]int{{1, 0}, {-1, 0}, {0, 1}, {0, -1}} {
				add(p[0]+d[0], p[1]+d[1])
			}
		}
		if !ends {
			continue // something that stands here
		}
		for p := range seen {
			x, y := at(p[0], p[1])
			r.px[y*r.w+x] = own
		}
	}
	return in
}

// tally counts the colours of a place.
type tally struct {
	all, ground int
	most        int // pixels of the colour that is there most, the ground aside
	kinds       int // colours with at least three of a thousand
}

func (r *reader) tally(at Rect, ground color.NRGBA) tally {
	counts := map[[3]uint8]int{}
	var t tally
	step := 1 + at.W*at.H/20_000
	i := 0
	for y := at.Y; y < at.Bottom(); y++ {
		for x := at.X; x < at.Right(); x++ {
			if i++; i%step != 0 {
				continue
			}
			c := r.at(x, y)
			t.all++
			if !r.far(c, ground) {
				t.ground++
				continue
			}
			counts[[3]uint8{c.R >> 4, c.G >> 4, c.B >> 4}]++
		}
	}
	for _, n := range counts {
		t.most = max(t.most, n)
		if n*1000 >= 3*t.all {
			t.kinds++
		}
	}
	return t
}

// photo tells whether a place has so many colours, and none that goes through it, that it
// is one picture.
func (r *reader) photo(at Rect) bool {
	if at.W < 24 || at.H < 24 {
		return false
	}
	t := r.tally(at, r.usual(at))
	return t.kinds > 36 && t.ground*2 < t.all
}

// round finds what is filled and round at its sides: chips, avatars, dots.
func (r *reader) round(at Rect, ground color.NRGBA) *Box {
	if at.H < 6 || at.H > 120 || at.W < 6 || at.W > 260 {
		return nil
	}
	// Where a corner is round, a tenth of the height inwards is still outside.
	out := max(1, at.H/10)
	for _, p := range [][2]int{
		{at.X + out - 1, at.Y + out - 1}, {at.Right() - out, at.Y + out - 1},
		{at.X + out - 1, at.Bottom() - out}, {at.Right() - out, at.Bottom() - out},
	} {
		if r.far(r.at(p[0], p[1]), ground) {
			return nil
		}
	}
	t := r.tally(at, ground)
	filled := (t.all-t.ground)*100 >= 68*t.all
	lined := false
	if !filled {
		// A line around: along the middle of top and bottom it has one colour.
		top, even := r.stroke(Rect{at.X + at.W/4, at.Y, at.W / 2, at.H}, 0, 0)
		low, too := r.stroke(Rect{at.X + at.W/4, at.Y, at.W / 2, at.H}, 2, 0)
		_, upright := r.stroke(at, 3, 0) // where its sides are straight, it is a frame
		lined = at.W >= at.H && even && too && !upright && r.far(top, ground) && !r.far(top, low) && at.H >= 14
	}
	if !filled && !lined {
		return nil
	}
	b := &Box{Rect: at, Ground: r.usual(at)}
	square := at.W*100 <= 118*at.H && at.H*100 <= 118*at.W
	switch {
	case square && at.H < 14:
		b.Look = Icon
	case square:
		b.Look = Avatar
	case at.W < at.H:
		return nil
	case at.H <= 27:
		b.Look = Chip
	case at.H <= 64 && t.kinds < 24:
		b.Look = Button
	default:
		return nil
	}
	return b
}

// small tells what a framed box is where it holds little.
func (r *reader) small(b *Box, ground color.NRGBA) {
	at := b.Rect
	flat := b.flat()
	words, icons := 0, 0
	for _, p := range flat {
		switch p.Look {
		case Text, Heading:
			words++
		case Icon, Line:
			icons++
		default:
			words += 9
		}
	}
	light := !r.far(b.Ground, ground) || apart(b.Ground, ground) < 40 && brightness(b.Ground) >= brightness(ground)-8
	square := at.W*100 <= 130*at.H && at.H*100 <= 130*at.W
	leave := func(look Look) { b.Look, b.Parts, b.Across, b.Gap = look, nil, false, 0 }
	switch {
	case at.H > 72:
		if len(flat) == 0 && r.far(b.Ground, ground) {
			leave(Picture)
		}
		return
	case len(flat) == 0:
		switch {
		case square && at.H <= 28:
			leave(Icon)
		case at.H <= 14:
			leave(Line)
		case light && at.W >= 2*at.H && at.H >= 20:
			leave(Field)
		case at.H >= 28 && r.far(b.Ground, ground):
			leave(Picture)
		}
		return
	case words > 2 || words+icons > 3:
		return
	}
	inside := held(flat)
	left, right := inside.X-at.X, at.Right()-inside.Right()
	centred := abs(left-right) <= max(8, at.W/8)
	textual := words > 0
	between := 0 // the widest place between what it holds
	for i := 1; i < len(flat); i++ {
		between = max(between, flat[i].Rect.X-flat[i-1].Rect.Right())
	}
	switch {
	case square && at.H <= 64 && !textual:
		leave(Button) // with an icon alone
	case at.H <= 27 && centred && at.W <= 200:
		leave(Chip)
	case light && at.W >= 120 && at.H >= 24 && (left*3 < right || between*3 > at.W):
		leave(Field)
	case centred && at.H >= 20 && at.W <= 420 && between < 24:
		leave(Button)
	case light && at.H >= 24 && at.H <= 56 && at.W >= 2*at.H:
		leave(Field)
	}
}

// flat are the boxes in it that hold none.
func (b *Box) flat() []*Box {
	var out []*Box
	for _, p := range b.Parts {
		if len(p.Parts) == 0 {
			out = append(out, p)
		} else {
			out = append(out, p.flat()...)
		}
	}
	slices.SortStableFunc(out, func(a, b *Box) int { return a.Rect.X - b.Rect.X })
	return out
}

func abs(n int) int { return max(n, -n) }

func brightness(c color.NRGBA) int { return (int(c.R)*30 + int(c.G)*59 + int(c.B)*11) / 100 }

// leaf tells what a place is that nothing cuts.
func (r *reader) leaf(at Rect, ground color.NRGBA) *Box {
	b := &Box{Rect: at, Look: Text, Lines: 1, Ground: ground}
	t := r.tally(at, ground)
	full := t.ground*100 < 4*t.all // nothing of the ground comes through
	switch {
	case (at.H <= 4 || at.W <= 4) && max(at.W, at.H) >= 20:
		b.Look = Line
	case full && at.H <= 14 && at.W >= 3*at.H:
		b.Look = Line
	case at.H > 72 || full && min(at.W, at.H) >= 20 || t.kinds > 40:
		b.Look = Picture
	case len(r.runs(at, ground, true)) > 1 && at.W*10 > at.H*11: // letters
	case max(at.W, at.H) <= 44 && at.W*100 <= 150*at.H && at.H*100 <= 150*at.W:
		b.Look = Icon
	}
	if b.Look != Text {
		b.Lines = 0
	} else {
		b.strength = r.strength(at, ground)
	}
	return b
}

// strength is how high small letters are, times how thick they are drawn: what makes a
// heading stand out is one of the two, or both.
func (r *reader) strength(at Rect, ground color.NRGBA) float64 {
	ink := make([]int, at.H)
	most, pixels, strokes := 0, 0, 0
	for y := range at.H {
		on := false
		for x := range at.W {
			other := apart(r.at(at.X+x, at.Y+y), ground) > 60
			if other {
				ink[y]++
				if !on {
					strokes++
				}
			}
			on = other
		}
		most = max(most, ink[y])
		pixels += ink[y]
	}
	rows := 0
	for _, n := range ink {
		if n*5 >= most*2 {
			rows++
		}
	}
	return float64(rows) * float64(pixels) / float64(max(1, strokes))
}
