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
		if b != root && (b.Look == Panel || b.Look == Group) {
			r.edge(b)
		}
		if b.Look == Panel || b.Look == Group {
			b.table()
		}
	})
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
	case b.Look == Panel && wide && at.H*4 <= r.h && at.H <= 140 && (at.Y*50 <= r.h || at.bottom()*50 >= 49*r.h):
		b.Look = Bar
	case b.Look == Panel && high && at.W*3 <= r.w && (at.X*50 <= r.w || at.right()*50 >= 49*r.w):
		b.Look = Side
	}
}

// table tells rows whose parts stand below each other.
func (b *Box) table() {
	if b.Across || len(b.Parts) < 3 {
		return
	}
	var rows []*Box
	var counts, heights []int
	parts := 0
	for _, p := range b.Parts {
		if p.Look != Line {
			parts++
		}
		if (p.Look == Group || p.Look == Panel) && p.Across && len(p.Parts) > 1 {
			rows = append(rows, p)
			counts, heights = append(counts, len(p.Parts)), append(heights, p.Rect.H)
		}
	}
	if len(rows) < 3 || len(rows)*4 < parts*3 {
		return
	}
	columns, high := median(counts), median(heights)
	if columns < 2 || high > 90 {
		return
	}
	var first *Box
	for _, row := range rows {
		if len(row.Parts) == columns {
			first = row
			break
		}
	}
	fit, fields := 0, 0
	for _, row := range rows {
		under := 0
		for _, cell := range row.Parts {
			if cell.Look == Field {
				fields++
			}
			for _, head := range first.Parts {
				if abs(cell.Rect.X-head.Rect.X) <= 8 || abs(cell.Rect.right()-head.Rect.right()) <= 8 ||
					abs(cell.Rect.X+cell.Rect.right()-head.Rect.X-head.Rect.right()) <= 16 {
					under++
					break
				}
			}
		}
		if under*4 >= len(row.Parts)*3 {
			fit++
		}
	}
	if fit*5 < len(rows)*4 || fields*3 > len(rows) {
		return
	}
	b.Look = Table
	b.Parts = slices.DeleteFunc(b.Parts, func(p *Box) bool { return p.Look == Line })
	for _, row := range rows {
		row.Look = Row
	}
}
