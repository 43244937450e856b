package workspace

import (
	"fmt"
	"slices"

	"ubiquant/core/screen"
)

// Was is a document as it was before some changes, given what takes each of these
// back, the newest first.
func (l *Live) Was(doc string, inverses []Change) (*screen.Document, error) {
	w := l.W
	for _, c := range inverses {
		for _, s := range c.Steps {
			key := s.Doc
			if s.Do == Create && s.Document != nil {
				key = string(s.Document.Kind) + ":" + s.Document.ID
			}
			if key != doc || s.Do == Sign || s.Do == Mark {
				continue
			}
			next, _, err := Apply(w, Change{Steps: []Step{s}}, l.Cat, nil)
			if err != nil && (s.Do == Meta || s.Do == Restore || s.Do == Remove) {
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
func (l *Live) Restore(was *screen.Document, elements []string, title string) (Change, error) {
	doc := string(was.Kind) + ":" + was.ID
	now, ok := l.W.Doc(doc)
	if !ok {
		return Change{}, fmt.Errorf("there is no %s", doc)
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
		return Change{}, fmt.Errorf("%s is as it was", now.Title)
	}
	c := Change{Title: title, Steps: []Step{{Do: EditDoc, Doc: doc, Edits: edits}}}
	if _, _, err := Apply(l.W, c, l.Cat, nil); err != nil {
		return Change{}, fmt.Errorf("this part cannot be brought back by itself: %w", err)
	}
	return c, nil
}

func contains(e *screen.Element, id string) bool {
	found, _ := e.Find(id)
	return found != nil
}
