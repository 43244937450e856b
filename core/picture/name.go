package picture

import "slices"

// name tells what boxes are by where they stand and what stands beside them.
func (r *reader) name(root *Box) {
	var all []int
	root.Walk(func(b *Box) {
		for range b.Lines {
			all = append(all, int(b.strength*100))
		}
	})
	usual := float64(median(all)) / 100
	root.Walk(func(b *Box) {
		b.Parts = unwrapped(b.Parts)
		if b.Look == Text && b.Lines == 1 && usual > 0 && b.strength > 1.55*usual && b.Rect.H <= 80 {
			b.Look, b.Lines = Heading, 0
		}
	})
	root.Walk(func(b *Box) {
		if b != root && b.Look == Panel && b.drawing() {
			b.Look, b.Parts, b.Across, b.Gap = Picture, nil, false, 0
		}
	})
	root.Walk(func(b *Box) {
		if b != root && (b.Look == Panel || b.Look == Group) {
			r.edge(b)
		}
		if b.Look == Panel || b.Look == Group {
			b.table()
		}
	})
}

// drawing tells whether what a ground holds is a picture in few colours: shapes without words
// or anything to press, none of them a picture by itself beside another.
func (b *Box) drawing() bool {
	if b.Rect.W < 48 || b.Rect.H < 40 || len(b.Parts) == 0 {
		return false
	}
	shapes := true
	b.Walk(func(p *Box) {
		switch p.Look {
		case Text, Heading, Field, Button, Chip, Avatar:
			shapes = false
		case Picture:
			shapes = shapes && len(b.Parts) < 3 // else they stand in a row
		}
	})
	return shapes
}

// unwrapped takes groups out that hold one part and so say nothing.
func unwrapped(parts []*Box) []*Box {
	var out []*Box
	for _, p := range parts {
		if p.Look == Group && len(p.Parts) == 1 {
			p = p.Parts[0]
		}
		out = append(out, p)
	}
	return out
}

// edge tells bars and sides, which go along the edges of the page.
func (r *reader) edge(b *Box) {
	at := b.Rect
	wide, high := at.W*100 >= 97*r.w, at.H*100 >= 60*r.h
	switch {
	case b.Look == Panel && wide && at.H*4 <= r.h && at.H <= 140 && (at.Y*50 <= r.h || at.Bottom()*50 >= 49*r.h):
		b.Look = Bar
	case b.Look == Panel && high && at.W*3 <= r.w && (at.X*50 <= r.w || at.Right()*50 >= 49*r.w):
		b.Look = Side
	}
}

// table tells rows whose parts stand below each other.
func (b *Box) table() {
	if b.Across || len(b.Parts) < 3 {
		return
	}
	var rows []*Box
	var cells [][]*Box
	var counts, heights []int
	parts := 0
	for _, p := range b.Parts {
		if p.Look != Line {
			parts++
		}
		if (p.Look == Group || p.Look == Panel) && p.Across && len(p.Parts) > 1 {
			rows, cells = append(rows, p), append(cells, p.cells())
			counts, heights = append(counts, len(cells[len(cells)-1])), append(heights, p.Rect.H)
		}
	}
	if len(rows) < 3 || len(rows)*4 < parts*3 {
		return
	}
	columns, high := median(counts), median(heights)
	if columns < 2 || high > 90 {
		return
	}
	var head []*Box
	for _, row := range cells {
		if len(row) == columns {
			head = row
			break
		}
	}
	fit, fields := 0, 0
	for _, row := range cells {
		under := 0
		for _, cell := range row {
			if cell.Look == Field {
				fields++
			}
			if slices.ContainsFunc(head, cell.stands) {
				under++
			}
		}
		if under*4 >= len(row)*3 {
			fit++
		}
	}
	if fit*5 < len(rows)*4 || fields*3 > len(rows) {
		return
	}
	if slices.ContainsFunc(head, func(c *Box) bool { return c.Look != Text && c.Look != Heading }) || len(b.Parts[0].Parts) == 0 {
		return // rows without a head are a list
	}
	b.Look = Table
	b.Parts = slices.DeleteFunc(b.Parts, func(p *Box) bool { return p.Look == Line })
	for i, row := range rows {
		row.Look, row.Parts = Row, cells[i]
	}
}

// cells are the parts of a row, those of groups in it by themselves.
func (b *Box) cells() []*Box {
	var out []*Box
	for _, p := range b.Parts {
		if p.Look == Group && p.Across {
			out = append(out, p.cells()...)
		} else {
			out = append(out, p)
		}
	}
	return out
}

// stands tells whether a part stands below (or above) another: at its left, its right or its
// middle.
func (b *Box) stands(o *Box) bool {
	return abs(b.Rect.X-o.Rect.X) <= 8 || abs(b.Rect.Right()-o.Rect.Right()) <= 8 ||
		abs(b.Rect.X+b.Rect.Right()-o.Rect.X-o.Rect.Right()) <= 16
}
