package model

import (
	"slices"

	"ubiquant/core/kit"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
	"ubiquant/core/texts"
)

// Written is the language that the texts are written in.
func (w *Workspace) Written() string {
	for _, l := range w.Languages {
		if l.Written {
			return l.ID
		}
	}
	return texts.Source
}

// Translated lists the languages that the texts are translated into.
func (w *Workspace) Translated() []string {
	out := []string{}
	for _, l := range w.Languages {
		if !l.Written {
			out = append(out, l.ID)
		}
	}
	return out
}

// Texts is what the texts of the workspace are taken from; cat is its catalog.
func (w *Workspace) Texts(cat kit.Catalog) texts.Input {
	pieces := map[string]*screen.Document{}
	standing := []*screen.Document{}
	for _, kind := range []screen.DocKind{screen.ScreenDoc, screen.ShellDoc, screen.PieceDoc} {
		for _, d := range w.Docs {
			if d.Kind != kind || d.Removed {
				continue
			}
			standing = append(standing, d)
			if kind == screen.PieceDoc {
				pieces[d.ID] = d
			}
		}
	}
	lists := w.Lists()
	return texts.Input{
		Docs: w.Docs, Models: lists, Sourced: w.Sourced(), Cat: cat, Around: resolve.Around(standing, pieces, lists),
	}
}

// In is the workspace with its texts in a language, and what of it does not hold; the workspace
// itself in that which they are written in.
func (w *Workspace) In(language string, cat kit.Catalog) (*Workspace, []texts.Problem) {
	if language == "" || !slices.Contains(w.Translated(), language) {
		return w, nil
	}
	out := *w
	var problems []texts.Problem
	out.Docs, problems = texts.In(w.Texts(cat), language, w.Translations)
	return &out, problems
}
