package change

import (
	"fmt"
	"slices"

	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Edit edits the tree of a document.
type Edit struct {
	Doc   string        `json:"doc"`
	Base  int           `json:"base"` // revision the edits were made on; 0 means the current one
	Edits []screen.Edit `json:"edits"`
}

var _ = add[Edit](Kind{Name: "edit", Does: "edit the tree of a document", Role: model.Builder})

func (s *Edit) complete() string {
	if len(s.Edits) == 0 {
		return "there is nothing to edit"
	}
	return ""
}

func (s *Edit) sets() []string { return []string{s.Doc + " tree"} }

func (s *Edit) apply(t *taking) error {
	d, _, err := t.doc(s.Doc)
	if err != nil {
		return err
	}
	if d.Removed {
		return fmt.Errorf("%s is removed; restore it first", s.Doc)
	}
	if d.Source != "" {
		return fmt.Errorf("%s was read from %s: it is changed there", d.Title, d.Source)
	}
	edits, err := s.rebased(t, d)
	if err != nil {
		return err
	}
	inverses := make([]screen.Edit, 0, len(edits))
	for _, e := range edits {
		next, inv, err := screen.Apply(d.Root, e, t.cat)
		if err != nil {
			return err
		}
		t.Edits[s.Doc] = append(t.Edits[s.Doc], PastEdit{e, d.Root, next})
		d.Root = next
		d.Revision++
		inverses = append(inverses, inv)
	}
	if err := model.CheckSize(d); err != nil {
		return err
	}
	if err := model.CheckOutlet(d); err != nil {
		return err
	}
	if err := t.w.CheckPiece(d); err != nil {
		return err
	}
	slices.Reverse(inverses)
	t.Applied.Steps = append(t.Applied.Steps, &Edit{Doc: s.Doc, Edits: edits})
	t.undo(&Edit{Doc: s.Doc, Edits: inverses})
	return nil
}

// rebased carries the edits over what happened since they were made.
func (s *Edit) rebased(t *taking, d *screen.Document) ([]screen.Edit, error) {
	if s.Base > d.Revision {
		return nil, fmt.Errorf("%s is at revision %d, the edit speaks of %d", s.Doc, d.Revision, s.Base)
	}
	if s.Base <= 0 || s.Base == d.Revision || t.past == nil {
		return s.Edits, nil
	}
	steps, ok := t.past.Since(s.Doc, s.Base)
	if !ok {
		return nil, &screen.Refusal{
			Edit:    s.Edits[0].Op,
			Element: s.Edits[0].ID,
			Reason: fmt.Sprintf(
				"it was made on revision %d, too long before %d; reload the screen", s.Base, d.Revision),
		}
	}
	out := make([]screen.Edit, len(s.Edits))
	for i, e := range s.Edits {
		for _, p := range steps {
			var err error
			if e, err = screen.Rebase(e, p.Edit, p.Before, p.After); err != nil {
				return nil, err
			}
		}
		out[i] = e
	}
	return out, nil
}
