package api

import (
	"maps"
	"slices"

	"ubiquant/core/live"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// tellsOf are the controls of a piece that a use of it tells of, as expressions around it write them;
// where the use has no name, the controls that it would tell of with one.
func tellsOf(l *live.Live, root, use *screen.Element) []string {
	out := []string{}
	piece := l.Cat.PieceOf(use.Type)
	if piece == nil || slices.ContainsFunc(root.Path(use.ID), func(e *screen.Element) bool { return e.Repeat != nil }) {
		return out // each of many holds its own
	}
	if use.Name == "" {
		return append(out, slices.Sorted(maps.Keys(resolve.NamesOf(piece.Root, l.Cat).Controls))...)
	}
	names := resolve.NamesOf(root, l.Cat).Controls
	for _, name := range slices.Sorted(maps.Keys(names)) {
		if c := names[name]; c.Use != nil && c.Use.ID == use.ID {
			out = append(out, "controls."+name)
		}
	}
	return out
}
