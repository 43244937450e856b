package change

import (
	"fmt"

	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Props says which settings of its inner elements a piece leaves to its uses.
type Props struct {
	Doc      string           `json:"doc"`
	Kind     screen.DocKind   `json:"kind"`     // of older logs; the document says it itself
	Document *screen.Document `json:"document"` // of which the props count
}

var _ = add[Props](Kind{Name: "props", Does: "say which settings a piece leaves to its uses", Role: model.Builder})

func (s *Props) complete() string {
	if s.Document == nil {
		return "the props are not given"
	}
	return ""
}

func (s *Props) sets() []string { return []string{s.Doc + " props"} }

func (s *Props) apply(t *taking) error {
	d, old, err := t.doc(s.Doc)
	if err != nil {
		return err
	}
	if d.Kind != screen.PieceDoc {
		return fmt.Errorf("only a piece has props of its own")
	}
	names := map[string]bool{}
	for _, p := range s.Document.Props {
		e, _ := d.Root.Find(p.Element)
		switch {
		case !screen.ValidName(p.Name):
			return fmt.Errorf(
				"the prop %q: a name begins with a letter and holds letters, digits and dashes, at most 64", p.Name)
		case names[p.Name]:
			return fmt.Errorf("two props are called %q", p.Name)
		case e == nil:
			return fmt.Errorf("the prop %q is of an element that is not there: %s", p.Name, p.Element)
		}
		names[p.Name] = true
	}
	back := head(old)
	back.Props = old.Props
	t.undo(&Props{Doc: s.Doc, Document: back})
	d.Props = s.Document.Props
	return nil
}
