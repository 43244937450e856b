// Package piece makes pieces out of screens: what a piece made of a part would be, where
// the same stands elsewhere, and how a use is cut loose again.
package piece

import (
	"fmt"
	"slices"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
)

// work is the workspace that pieces are made in.
type work struct{ *live.Live }

// Propose works out what a piece made of a part would be, and where else the same stands.
func Propose(l *live.Live, p Run) (*Extraction, error) { return work{l}.propose(p) }

// Extract is the change that makes a piece of a part, and uses it there and in place of
// its twins.
func Extract(l *live.Live, o Order) (change.Change, error) { return work{l}.extract(o) }

// Loose is the change that cuts a use loose from its piece.
func Loose(l *live.Live, doc, element string) (change.Change, error) {
	return work{l}.loose(doc, element)
}

// Run names elements that stand beside each other on a document.
type Run struct {
	Doc      string   `json:"doc"`
	Elements []string `json:"elements"`
}

// Offered is a setting of an inner element that a piece may leave to its uses.
type Offered struct {
	Key     string `json:"key"`
	Element string `json:"element"`
	Prop    string `json:"prop"` // empty for the text, "@show" for the visibility
	Name    string `json:"name"` // it would bear in the piece
	Of      string `json:"of"`   // the inner element, in words
	Value   string `json:"value"`
	Others  int    `json:"others"` // twins in which it differs
	Must    bool   `json:"must"`   // it speaks of a record from outside
}

// Hole is a part that differs from twin to twin and may become a slot.
type Hole struct {
	Key     string `json:"key,omitempty"`
	Element string `json:"element"`
	All     bool   `json:"all"` // all that stands in a slot of the element; else the element itself
	In      string `json:"in"`  // that slot
	Name    string `json:"name"`
	Of      string `json:"of"`
	Others  int    `json:"others"`
}

// key tells a hole from others.
func (h Hole) key() string {
	if h.All {
		return h.Element + "|" + h.In
	}
	return h.Element
}

// Twin is a place where the same stands, or nearly.
type Twin struct {
	Run
	Title       string   `json:"title"` // of the document
	Equal       bool     `json:"equal"`
	Differences []string `json:"differences"`
	Needs       []string `json:"needs"` // props and slots that it takes, by Offered.Key and Hole.Key
}

// Extraction says what a piece made of a part would be.
type Extraction struct {
	ID    string    `json:"id"`
	Title string    `json:"title"`
	Size  int       `json:"size"`
	Props []Offered `json:"props"`
	Holes []Hole    `json:"holes"`
	Twins []Twin    `json:"twins"`
	Taken []string  `json:"taken"` // ids of pieces there are
	Tells []string  `json:"tells"` // controls of it that the rest of the screen speaks of
}

// Order is an extraction as somebody decided it.
type Order struct {
	Run
	ID    string             `json:"id"`
	Title string             `json:"title"`
	Props []screen.PieceProp `json:"props"`
	Holes []Hole             `json:"holes"`
	Twins []Run              `json:"twins"`
}

// twinsMost bounds how many twins are listed.
const twinsMost = 60

// part finds neighbours in one slot, in their order, and their parent.
func (l work) part(p Run) (d *screen.Document, parent *screen.Element, list []*screen.Element, err error) {
	d, ok := l.W.Doc(p.Doc)
	if !ok {
		return nil, nil, nil, fmt.Errorf("there is no %s", p.Doc)
	}
	if len(p.Elements) == 0 {
		return nil, nil, nil, fmt.Errorf("no element is chosen")
	}
	for _, id := range p.Elements {
		el, up := d.Root.Find(id)
		switch {
		case el == nil:
			return nil, nil, nil, fmt.Errorf("there is no element %q on %s", id, d.Title)
		case up == nil:
			return nil, nil, nil, fmt.Errorf("the root of %s stays where it is; choose what stands in it", d.Title)
		case parent != nil && (up != parent || el.Slot != list[0].Slot):
			return nil, nil, nil, fmt.Errorf(
				"a piece is made of neighbours in one place; %s stands elsewhere",
				l.title(el),
			)
		}
		parent = up
		list = append(list, el)
	}
	at := func(e *screen.Element) int { return slices.Index(parent.Children, e) }
	slices.SortFunc(list, func(a, b *screen.Element) int { return at(a) - at(b) })
	between := 0
	for i := at(list[0]); i <= at(list[len(list)-1]); i++ {
		if parent.Children[i].Slot == list[0].Slot {
			between++
		}
	}
	if between != len(list) {
		return nil, nil, nil, fmt.Errorf("a piece is made of neighbours; something else stands between them")
	}
	return d, parent, list, nil
}

func (l work) title(e *screen.Element) string { return resolve.TitleOf(e, l.Cat) }
