package change

import (
	"fmt"

	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Meta changes what is said of a document: title, route, shell and owner.
type Meta struct {
	Doc      string           `json:"doc"`
	Kind     screen.DocKind   `json:"kind"`     // of older logs; the document says it itself
	Document *screen.Document `json:"document"` // of which these four count
}

var _ = add[Meta](Kind{Name: "meta", Does: "change title, route, shell or owner of a document", Role: model.Builder})

func (s *Meta) complete() string {
	if s.Document == nil {
		return "what to change is not given"
	}
	return ""
}

// allowed: a screen is handed on by its owner, or by a keeper.
func (s *Meta) allowed(c *Circumstances) error {
	d, ok := c.W.Doc(s.Doc)
	if !ok || d.Owner == s.Document.Owner || d.Owner == "" || d.Owner == c.Person || c.Role == model.Keeper {
		return nil
	}
	return denied("%s is handed on by its owner, %s, or by a keeper", d.Title, d.Owner)
}

func (s *Meta) sets() []string { return []string{s.Doc + " head"} }

func (s *Meta) apply(t *taking) error {
	d, old, err := t.doc(s.Doc)
	if err != nil {
		return err
	}
	next := *s.Document
	next.Kind, next.App, next.ID = old.Kind, old.App, old.ID // a screen stays in its application
	if err := t.w.CheckMeta(&next, s.Doc); err != nil {
		return fmt.Errorf("%w", err)
	}
	d.Title, d.Route, d.Shell, d.Owner = next.Title, next.Route, next.Shell, next.Owner
	t.Routes = t.Routes || d.Route != old.Route
	t.undo(&Meta{Doc: s.Doc, Document: head(old)})
	return nil
}

// head is a document without its contents.
func head(d *screen.Document) *screen.Document {
	return &screen.Document{
		Kind: d.Kind, ID: d.ID, Title: d.Title, Route: d.Route, Shell: d.Shell, Owner: d.Owner, App: d.App,
		Root: &screen.Element{ID: d.Root.ID, Type: d.Root.Type},
	}
}
