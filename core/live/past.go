package live

import (
	"fmt"
	"slices"

	"ubiquant/core/change"
	"ubiquant/core/screen"
)

// Was is a document as it was before some changes, given what takes each of these
// back, the newest first.
func (l *Live) Was(doc string, inverses []change.Change) (*screen.Document, error) {
	w := l.W
	for _, c := range inverses {
		for _, s := range c.Steps {
			if change.About(s) != doc {
				continue
			}
			next, _, err := change.Apply(w, change.Change{Title: c.Title, Steps: []change.Step{s}}, l.Cat, nil)
			if err != nil && change.HeadOnly(s) {
				continue // its route has been taken since; its tree is what is looked at
			}
			if err != nil {
				return nil, fmt.Errorf("%s cannot be brought back so far: %w", doc, err)
			}
			w = next
		}
	}
	d, ok := w.Doc(doc)
	if !ok {
		return nil, fmt.Errorf("%s was not there yet", doc)
	}
	return d, nil
}

// Restore is the change that brings a document, or only some of its elements, back to
// what it was.
func (l *Live) Restore(was *screen.Document, elements []string, title string) (change.Change, error) {
	doc := was.Address()
	now, ok := l.W.Doc(doc)
	if !ok {
		return change.Change{}, fmt.Errorf("there is no %s", doc)
	}
	edits := screen.Between(now.Root, was.Root)
	if len(elements) > 0 {
		edits = slices.DeleteFunc(edits, func(e screen.Edit) bool {
			id := e.ID
			if e.Tree != nil && e.Op == screen.Insert {
				id = e.Tree.ID
			}
			// What stood inside an element comes back with it.
			for _, chosen := range elements {
				if el, _ := was.Root.Find(chosen); id == chosen || el != nil && contains(el, id) {
					return false
				}
			}
			return true
		})
	}
	if len(edits) == 0 {
		return change.Change{}, fmt.Errorf("%s is as it was", now.Title)
	}
	c := change.Change{Title: title, Steps: []change.Step{&change.Edit{Doc: doc, Edits: edits}}}
	if _, _, err := change.Apply(l.W, c, l.Cat, nil); err != nil {
		return change.Change{}, fmt.Errorf("this part cannot be brought back by itself: %w", err)
	}
	return c, nil
}

func contains(e *screen.Element, id string) bool {
	found, _ := e.Find(id)
	return found != nil
}
