package change

import (
	"fmt"

	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Renew puts a document as it was read from code again in place of what was read before. Who uses
// it goes on doing so.
type Renew struct {
	Document *screen.Document `json:"document"` // of revision 0 it takes the next one
}

var _ = add[Renew](Kind{
	Name: "renew", Does: "put what was read from code again in place of what was read before", Role: model.Builder, Log: true,
})

func (s *Renew) complete() string {
	if s.Document == nil {
		return "what was read is not given"
	}
	return ""
}

func (s *Renew) sets() []string { return []string{s.Document.Address()} }

func (s *Renew) apply(t *taking) error {
	d, old, err := t.doc(s.Document.Address())
	if err != nil {
		return err
	}
	if old.Source == "" || s.Document.Source == "" {
		return fmt.Errorf("%s was not read from code", s.Document.Address())
	}
	next := *s.Document
	if next.Revision == 0 {
		next.Revision, next.Signed = old.Revision+1, old.Signed
	}
	if err := model.CheckTree(&next, t.cat); err != nil {
		return err
	}
	if err := t.w.CheckPiece(&next); err != nil {
		return err
	}
	*d = next
	t.Routes = true
	t.undo(&Renew{Document: old})
	return nil
}
