package piece

import (
	"fmt"
	"strconv"
	"strings"

	"ubiquant/core/change"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// Loose puts a copy of a piece in place of a use of it. The copy misses all later
// changes of the piece and says so; it looks the same.
func (l work) loose(doc, element string) (change.Change, error) {
	d, _, list, err := l.part(Run{doc, []string{element}})
	if err != nil {
		return change.Change{}, err
	}
	use := list[0]
	id, ok := strings.CutPrefix(use.Type, screen.PiecePrefix)
	piece := l.Piece(id)
	if !ok || piece == nil {
		return change.Change{}, fmt.Errorf("%s is no use of a piece", l.title(use))
	}
	ids, names := map[string]bool{}, map[string]bool{}
	d.Root.Walk(func(e, _ *screen.Element) bool {
		ids[e.ID] = true
		names[e.Name] = e.Name != "" && e != use
		return true
	})
	made, err := resolve.Unfold(use, piece, l.Cat, ids, names)
	if err != nil {
		return change.Change{}, err
	}
	copies := made.Copies
	if use.Repeat != nil && (len(copies) != 1 || copies[0].Repeat != nil) {
		return change.Change{}, fmt.Errorf(
			"%s repeats, and what it is made of cannot; wrap it in a stack first",
			piece.Title,
		)
	}
	for _, c := range copies {
		c.Origin = &screen.Origin{File: use.Type, Hash: strconv.Itoa(piece.Revision)}
		if use.Repeat != nil {
			c.Repeat = use.Repeat
		}
	}
	// What the piece speaks of keeps the name that it is spoken of by.
	if use.Name != "" && len(copies) == 1 && !made.Spoken[copies[0]] {
		copies[0].Name = use.Name
	}
	edits := replaceBy(d, list, copies...)
	for _, e := range resolve.Respoken(d.Root, made.Around) {
		if inside, _ := use.Find(e.ID); inside == nil {
			edits = append(edits, screen.Following(e))
		}
	}
	return change.Change{
		Title: "Cut " + piece.Title + " loose",
		Steps: []change.Step{&change.Edit{Doc: doc, Edits: edits}},
	}, nil
}
