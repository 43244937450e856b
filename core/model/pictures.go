package model

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/picture"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Shown tells what shows each kept picture, by the picture's id: documents and records, each in
// words.
func (w *Workspace) Shown() map[string][]string {
	found := map[string]map[string]bool{}
	note := func(text, where string) {
		for _, id := range picture.Named(text) {
			if found[id] == nil {
				found[id] = map[string]bool{}
			}
			found[id][where] = true
		}
	}
	for _, d := range w.Docs {
		where := fmt.Sprintf("the %s %s", d.Kind, d.Title)
		look := func(e, _ *screen.Element) bool {
			for i := range e.Props {
				note(e.Props[i].Value.Text, where)
			}
			return true
		}
		d.Root.Walk(look)
		for i := range d.States {
			for _, e := range d.States[i].Edits {
				note(e.Value.Text, where)
				if e.Tree != nil {
					e.Tree.Walk(look)
				}
			}
		}
	}
	for i := range w.Sets {
		for model, records := range w.Sets[i].Records {
			for _, r := range records {
				noteRecord(r, func(text string) { note(text, fmt.Sprintf("a record of %s in %s", model, w.Sets[i].Name)) })
			}
		}
	}
	out := make(map[string][]string, len(found))
	for id, where := range found {
		out[id] = slices.Sorted(maps.Keys(where))
	}
	return out
}

func noteRecord(r sample.Record, note func(text string)) {
	for _, v := range r {
		if s, ok := v.(string); ok && strings.HasPrefix(s, picture.Folder) {
			note(s)
		}
	}
}

// ShownPictures are those that something shows.
func (w *Workspace) ShownPictures() (out []picture.Kept) {
	if len(w.Pictures) == 0 {
		return nil
	}
	shown := w.Shown()
	for i := range w.Pictures {
		if len(shown[w.Pictures[i].ID]) > 0 {
			out = append(out, w.Pictures[i])
		}
	}
	return out
}
