package change

import (
	"fmt"
	"slices"

	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Create makes a document: a screen, a shell or a piece.
type Create struct {
	Kind     screen.DocKind   `json:"kind"` // a screen where it is not said
	Document *screen.Document `json:"document"`
	At       *int             `json:"at" do:"log"` // where it stood among the documents
}

// Discard takes back that a document was made.
type Discard struct {
	Doc string `json:"doc"`
}

var (
	_ = add[Create](Kind{Name: "create", Does: "make a screen, a shell or a piece", Role: model.Builder})
	_ = add[Discard](Kind{Name: "discard", Does: "take back that a document was made", Role: model.Builder, Log: true})
)

func (s *Create) complete() string {
	if s.Document == nil {
		return "what to create is not given"
	}
	if s.Kind != "" {
		s.Document.Kind = s.Kind
	}
	return ""
}

// stamp takes away what a new document cannot have, since nobody has signed it off yet, and says
// when it was made.
func (s *Create) stamp(_, when string) {
	d := *s.Document
	d.Signed, d.Removed, d.Revision, d.Made = nil, false, 1, when
	s.Document = &d
}

func (s *Create) sets() []string { return []string{s.Document.Address()} }

func (s *Create) apply(t *taking) error {
	d := *s.Document
	s.Kind = d.Kind
	if err := model.CheckID(d.ID); err != nil {
		return err
	}
	if _, taken := t.w.Doc(d.Address()); taken {
		return fmt.Errorf("%s exists already", d.Address())
	}
	if err := t.w.CheckMeta(&d, d.Address()); err != nil {
		return err
	}
	if err := model.CheckTree(&d, t.cat); err != nil {
		return err
	}
	if err := t.w.CheckPiece(&d); err != nil {
		return err
	}
	d.Revision = max(d.Revision, 1)
	w := t.part(model.Order)
	if s.At != nil && *s.At >= 0 && *s.At <= len(w.Docs) {
		w.Docs = slices.Insert(w.Docs, *s.At, &d)
	} else {
		w.Docs = append(w.Docs, &d)
	}
	t.touch(&d)
	t.Before[d.Address()] = nil
	t.Routes = true
	t.undo(&Discard{Doc: d.Address()})
	return nil
}

func (s *Discard) sets() []string { return []string{s.Doc} }

func (s *Discard) apply(t *taking) error {
	at, err := t.place(s.Doc)
	if err != nil {
		return err
	}
	old := t.w.Docs[at]
	if user := t.w.UserOf(old); user != "" {
		return fmt.Errorf("%s is in use by %s", s.Doc, user)
	}
	if old.Kind == screen.ScreenDoc {
		plans.take(t, old.ID) // it is of no use without its screen
	}
	w := t.part(model.Order)
	w.Docs = slices.Delete(w.Docs, at, at+1)
	t.touch(old)
	t.Routes = true
	t.undo(&Create{Kind: old.Kind, Document: old, At: &at})
	return nil
}
