package snippet_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/snippet"
	"ubiquant/server/assets"
)

// A kit whose makers wrote no notes has arrangements all the same, made of what its components are
// called: they stand without faults, a form's controls hold the fields of the model, and its button
// adds a record, whatever the model.
func TestKitsWithoutNotesHaveArrangements(t *testing.T) {
	kits, err := assets.Kits()
	require.NoError(t, err)
	for _, a := range kits {
		if a.Meta.Name == "sorrel" || strings.HasPrefix(a.Meta.Name, "clover") || a.Meta.Drawn == "elements" {
			continue
		}
		k, err := a.Kit()
		require.NoError(t, err)
		w := &model.Workspace{Name: "Made", Kit: model.KitRef{Name: k.Name, Version: k.Version}, Apps: []model.App{{ID: "app", Name: "App"}}}
		l := live.Open(w, k, "2026-11-23")
		for seed := range uint64(6) {
			m, rows := invented(t, l, seed)
			put := m.(*change.PutModel)
			for i := range put.Model.Fields { // nobody else is there to refer to
				if f := &put.Model.Fields[i]; f.Model != "" {
					f.Type, f.Model = sample.Text, ""
				}
			}
			_ = rows
			_, err := l.Take(change.Change{Title: "a model", Steps: []change.Step{m}})
			require.NoError(t, err)
		}
		offers := snippet.Offers(l)
		require.NotEmpty(t, offers, k.Name)
		for _, o := range offers {
			tree, err := snippet.Make(l, o.ID, "app", "screen:made")
			require.NoError(t, err, o.ID)
			made, err := l.Take(change.Change{Title: "a screen", Steps: []change.Step{
				&change.Create{Kind: screen.ScreenDoc, Document: &screen.Document{
					Kind: screen.ScreenDoc, ID: "made", Title: "Made", Route: "/made", App: "app",
					Root: &screen.Element{ID: "root", Type: "section"},
				}},
				&change.Edit{Doc: "screen:made", Edits: []screen.Edit{{Op: screen.Insert, Parent: "root", Tree: tree}}},
			}})
			require.NoError(t, err, "%s %s", k.Name, o.ID)
			findings, _ := l.Of("screen:made")
			for _, f := range findings {
				if f.Rule != "unreached" {
					assert.Fail(t, f.Rule+": "+f.Message, "%s %s", k.Name, o.ID)
				}
			}
			_, problems, err := l.Page("screen:made", live.View{})
			require.NoError(t, err)
			assert.Empty(t, problems, "%s %s", k.Name, o.ID)
			if strings.HasPrefix(o.ID, "form:") {
				d, _ := l.W.Doc("screen:made")
				m := l.Models()[strings.TrimPrefix(o.ID, "form:")]
				adds, held := false, map[string]bool{}
				d.Root.Walk(func(e, _ *screen.Element) bool {
					does, _ := e.Prop("does")
					adds = adds || does.Text == "add "+m.ID
					held[e.Name] = true
					if name, ok := e.Prop("name"); ok {
						held[name.Text] = true
					}
					for _, p := range e.Props {
						if strings.HasPrefix(p.Value.Text, "[") {
							assert.True(t, json.Valid([]byte(p.Value.Text)))
						}
						assert.NotContains(t, p.Value.Text, "{choice")
					}
					return true
				})
				assert.True(t, adds, "%s %s", k.Name, o.ID)
				for _, f := range m.Fields {
					if f.Type != sample.Picture && f.Type != sample.Refs {
						assert.True(t, held[f.Name], "%s of %s: %s", f.Name, f.Type, k.Name)
					}
				}
			}
			_, err = l.Take(made.Inverse)
			require.NoError(t, err)
		}
	}
}
