package rules_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
)

// shed is a kit of an application with styles of its own: its label says whose it is by an id.
func shed(t *testing.T) *kit.Kit {
	c := &describe.Catalog{Name: "./ui", Version: "1", Drawn: describe.React, Entries: []describe.Entry{
		{ID: "ui-input", Export: "Input", Handed: []string{"class", "id", "aria-label"}, Props: []describe.Prop{{Name: "placeholder", Type: "text"}}},
		{ID: "ui-label", Export: "Label", Slots: []describe.Slot{{}}, Props: []describe.Prop{{Name: "htmlFor", Type: "text"}}},
	}}
	k, err := kit.Read(kit.Sources{Name: c.Name, Version: c.Version, Drawn: c.Drawn, Components: c.Components()})
	require.NoError(t, err)
	for _, e := range k.Components {
		if e.Tag == "ui-input" {
			e.Role = "control"
			e.Seal()
		}
	}
	k.Style([]string{"card", "md:flex"})
	return k
}

// found is what one rule finds on a screen of that kit, and the screen.
func found(t *testing.T, rule, tree string) ([]audit.Finding, *live.Live) {
	w := &model.Workspace{Name: "shed", Apps: []model.App{{ID: "app", Name: "Shed"}}, Docs: []*screen.Document{
		{Kind: screen.ScreenDoc, ID: "one", Title: "One", Route: "/one", App: "app", Root: testkit.Tree(t, tree)},
	}}
	l := live.Open(w, shed(t), "2026-12-01")
	var out []audit.Finding
	open, _ := l.Findings()
	for _, f := range open {
		if f.Rule == rule {
			out = append(out, f)
		}
	}
	return out, l
}

// A field is named by a label around it, by one that says whose it is, or by words for those who cannot
// see; a label that only stands beside it is told to say so, and does when it was repaired.
func TestALabelSaysWhoseItIs(t *testing.T) {
	for tree, want := range map[string]int{
		`{"id":"r","type":"html-div","children":[{"id":"l","type":"ui-label","text":"Bed","props":{"htmlFor":"bed"}},{"id":"i","type":"ui-input","props":{"id":"bed"}}]}`:                          0,
		`{"id":"r","type":"html-div","children":[{"id":"l","type":"html-label","text":"Bed","props":{"for":"bed"}},{"id":"i","type":"ui-input","props":{"id":"bed"}}]}`:                            0,
		`{"id":"r","type":"html-label","text":"Bed","children":[{"id":"i","type":"ui-input"}]}`:                                                                                                    0,
		`{"id":"r","type":"html-div","children":[{"id":"i","type":"ui-input","props":{"aria-label":"Bed"}}]}`:                                                                                      0,
		`{"id":"r","type":"html-div","children":[{"id":"l","type":"ui-label","text":"Bed","props":{"htmlFor":"soil"}},{"id":"i","type":"ui-input","props":{"id":"bed"}}]}`:                         1,
		`{"id":"r","type":"html-div","children":[{"id":"i","type":"ui-input"}]}`:                                                                                                                   1,
		`{"id":"r","type":"html-div","children":[{"id":"i","type":"ui-input"},{"id":"l","type":"ui-label","text":"Bed"},{"id":"j","type":"ui-input","props":{"id":"j"}}]}`:                         2,
		`{"id":"r","type":"html-div","children":[{"id":"l","type":"ui-label","text":"Bed"},{"id":"i","type":"ui-input"},{"id":"m","type":"ui-label","text":"Soil"},{"id":"j","type":"ui-input"}]}`: 2,
	} {
		list, l := found(t, "field-label", tree)
		assert.Len(t, list, want, tree)
		for _, f := range list {
			if len(f.Fix) == 2 { // the label beside it
				assert.Contains(t, f.Message, "does not say that it is one")
				d, ok := l.W.Doc("screen:one")
				require.True(t, ok)
				after, _, err := screen.ApplyAll(d.Root, f.Fix, l.Cat)
				require.NoError(t, err)
				b, err := after.MarshalJSON()
				require.NoError(t, err)
				rest, _ := found(t, "field-label", string(b))
				assert.Len(t, rest, want-1, "%s: %s", f.Message, b)
			}
		}
	}
}

func TestClassesThatNoStyleSpeaksOfAreToldOf(t *testing.T) {
	list, _ := found(t, "unknown-class", `{"id":"r","type":"html-div","text":"x","props":{"class":"card md:flex carp  pond"}}`)
	require.Len(t, list, 1)
	assert.Equal(t, "no style of the application speaks of the classes carp, pond", list[0].Message)
	list, _ = found(t, "unknown-class", `{"id":"r","type":"ui-input","props":{"class":"card"}}`)
	assert.Empty(t, list)
	list, _ = found(t, "unknown-prop", `{"id":"r","type":"ui-input","props":{"class":"card","id":"x","aria-label":"y"}}`)
	assert.Empty(t, list)
	list, _ = found(t, "unknown-prop", `{"id":"r","type":"ui-label","props":{"class":"card"}}`)
	assert.Len(t, list, 1, "code of this one does not hand it on")
}
