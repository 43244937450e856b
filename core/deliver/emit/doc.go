// Package emit prints code: a layout engine that breaks lines where a formatter would
// (after Wadler, "A prettier printer", 2003), names that never clash, imports that follow
// from what is referred to, and trees of TypeScript and of markup.
package emit

import (
	"slices"
	"strings"
	"unicode/utf8"
)

// Doc is a text with places at which it may break into lines.
type Doc any // string, line, concat, group, indent, ifBreak

type (
	concat []Doc
	group  struct {
		of     Doc
		broken bool
	}
	indent  struct{ of Doc }
	line    struct{ flat string }
	hard    struct{ blank bool }
	ifBreak struct{ broken, flat Doc }
	// choice is the first of several ways that fits: all on one line, a part broken, all
	// broken.
	choice []Doc
	// fill are words, as many on a line as fit.
	fill []string
	// literal is text whose line ends are its own.
	literal string
)

var (
	softline Doc = line{}
	space    Doc = line{" "}
	hardline Doc = hard{}
)

func cat(parts ...Doc) Doc { return concat(parts) }

// grouped stands on one line where it fits.
func grouped(parts ...Doc) Doc { return group{of: concat(parts), broken: breaks(concat(parts))} }

func nest(parts ...Doc) Doc { return indent{concat(parts)} }

// breaks tells whether a document holds a line end that stays; of several ways the first counts.
func breaks(d Doc) bool {
	switch d := d.(type) {
	case hard:
		return true
	case choice:
		return breaks(d[0])
	case literal:
		return strings.Contains(string(d), "\n")
	case concat:
		return slices.ContainsFunc(d, breaks)
	case group:
		return d.broken || breaks(d.of)
	case indent:
		return breaks(d.of)
	}
	return false
}

// joined puts a separator between documents.
func joined(by Doc, list []Doc) Doc {
	var out concat
	for i, d := range list {
		if i > 0 {
			out = append(out, by)
		}
		out = append(out, d)
	}
	return out
}

type piece struct {
	depth int
	flat  bool
	doc   Doc
}

// Print lays a document out in lines of at most so many characters, where it can.
func Print(d Doc, width int) string {
	text, _ := PrintMarked(d, width)
	return text
}

// Place is where something begins in a text: its line, from 1, and its byte.
type Place struct{ Line, At int }

// Shift moves places by the text that comes to stand before them.
func Shift(places map[string]Place, before string) {
	for id, p := range places {
		places[id] = Place{p.Line + strings.Count(before, "\n"), p.At + len(before)}
	}
}

// PrintMarked is Print that tells where each marked part begins.
func PrintMarked(d Doc, width int) (text string, places map[string]Place) {
	places = map[string]Place{}
	row := 1
	var b strings.Builder
	col := 0
	stack := []piece{{0, false, d}}
	for len(stack) > 0 {
		p := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		switch d := p.doc.(type) {
		case nil:
		case mark:
			if _, ok := places[d.id]; !ok {
				places[d.id] = Place{row, b.Len()}
			}
		case string:
			b.WriteString(d)
			col += utf8.RuneCountInString(d)
		case literal:
			b.WriteString(string(d))
			row += strings.Count(string(d), "\n")
			if i := strings.LastIndexByte(string(d), '\n'); i >= 0 {
				col = utf8.RuneCountInString(string(d)[i+1:])
			} else {
				col += utf8.RuneCountInString(string(d))
			}
		case concat:
			for i := len(d) - 1; i >= 0; i-- {
				stack = append(stack, piece{p.depth, p.flat, d[i]})
			}
		case indent:
			stack = append(stack, piece{p.depth + 1, p.flat, d.of})
		case group:
			flat := !d.broken && (p.flat || fits(d.of, width-col, stack))
			stack = append(stack, piece{p.depth, flat, d.of})
		case choice:
			way, flat := d[len(d)-1], false
			for i, w := range d[:len(d)-1] {
				if p.flat || fits(w, width-col, stack) && (i > 0 || !breaks(w)) {
					way, flat = w, true
					break
				}
			}
			stack = append(stack, piece{p.depth, flat, way})
		case fill:
			for i, word := range d {
				n := utf8.RuneCountInString(word)
				switch {
				case i == 0:
				case p.flat || col+1+n <= width:
					b.WriteString(" ")
					col++
				default:
					b.WriteString("\n" + strings.Repeat("  ", p.depth))
					row++
					col = 2 * p.depth
				}
				b.WriteString(word)
				col += n
			}
		case ifBreak:
			if p.flat {
				stack = append(stack, piece{p.depth, true, d.flat})
			} else {
				stack = append(stack, piece{p.depth, false, d.broken})
			}
		case line:
			if p.flat {
				b.WriteString(d.flat)
				col += len(d.flat)
				continue
			}
			b.WriteString("\n")
			row++
			b.WriteString(strings.Repeat("  ", p.depth))
			col = 2 * p.depth
		case hard:
			b.WriteString("\n")
			row++
			if d.blank {
				b.WriteString("\n")
				row++
			}
			b.WriteString(strings.Repeat("  ", p.depth))
			col = 2 * p.depth
		}
	}
	list := strings.Split(b.String(), "\n")
	gone := make([]int, len(list)+1) // bytes of the lines before that come out empty
	for i := range list {
		gone[i+1] = gone[i]
		if strings.TrimSpace(list[i]) == "" {
			gone[i+1] += len(list[i])
			list[i] = ""
		}
	}
	for id, p := range places {
		places[id] = Place{p.Line, p.At - gone[p.Line-1]}
	}
	return strings.Join(list, "\n"), places
}

// fits tells whether a document, laid flat, and what follows up to the next place to
// break, stand in the room that is left.
func fits(d Doc, room int, rest []piece) bool {
	work := []piece{{0, true, d}}
	at := len(rest)
	for room >= 0 {
		if len(work) == 0 {
			if at == 0 {
				return true
			}
			at--
			work = append(work, rest[at])
			continue
		}
		p := work[len(work)-1]
		work = work[:len(work)-1]
		switch d := p.doc.(type) {
		case string:
			room -= utf8.RuneCountInString(d)
		case literal:
			first, _, more := strings.Cut(string(d), "\n")
			room -= utf8.RuneCountInString(first)
			if more {
				return room >= 0
			}
		case concat:
			for i := len(d) - 1; i >= 0; i-- {
				work = append(work, piece{0, p.flat, d[i]})
			}
		case indent:
			work = append(work, piece{0, p.flat, d.of})
		case group:
			work = append(work, piece{0, p.flat && !d.broken, d.of})
		case choice:
			if p.flat {
				work = append(work, piece{0, true, d[0]})
			} else {
				work = append(work, piece{0, false, d[len(d)-1]})
			}
		case fill:
			if !p.flat && len(d) > 0 {
				return room-utf8.RuneCountInString(d[0]) >= 0
			}
			for i, word := range d {
				if i > 0 {
					room--
				}
				room -= utf8.RuneCountInString(word)
			}
		case ifBreak:
			if p.flat {
				work = append(work, piece{0, true, d.flat})
			} else {
				work = append(work, piece{0, false, d.broken})
			}
		case line:
			if !p.flat {
				return true
			}
			room -= len(d.flat)
		case hard:
			return true
		}
	}
	return false
}
