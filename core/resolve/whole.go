package resolve

import (
	"strings"

	"ubiquant/core/screen"
)

// ofCode tells whether anything of a document was read from code.
func ofCode(root *screen.Element) (found bool) {
	root.Walk(func(e, _ *screen.Element) bool {
		found = found || e.FromCode()
		return !found
	})
	return found
}

// wholes are the root of a screen and what alone stands in it, also in pieces: of a screen that is all
// a dialog, the dialog.
func (r *resolver) wholes(e *screen.Element) map[string]bool {
	out := map[string]bool{}
	for range 16 {
		out[e.ID] = true
		if id, ok := strings.CutPrefix(e.Type, screen.PiecePrefix); ok && r.Piece != nil {
			if piece := r.Piece(id); piece != nil {
				e = piece.Root
				continue
			}
		}
		if len(e.Children) != 1 {
			break
		}
		e = e.Children[0]
	}
	return out
}
