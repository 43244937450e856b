package wsfile_test

import (
	"fmt"

	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
)

// A small team: fourteen screens with a form each. On one of them the main button
// is not like the others.
func team() (*model.Workspace, *kit.Kit) {
	k, err := kit.Read(kit.Sources{Name: "demo", Version: "1.0.0", Manifest: []byte(`{"modules":[{"declarations":[
		{"tagName":"x-form","slots":[{"name":""},{"name":"actions"}]},
		{"tagName":"x-button","slots":[{"name":""}],"members":[{"kind":"field","name":"emphasis","attribute":"emphasis","type":{"text":"'strong'|'soft'"},"default":"'soft'"}]}]}]}`)})
	if err != nil {
		panic(err)
	}
	w := &model.Workspace{
		Name: "Team",
		Kit:  model.KitRef{Name: "demo", Version: "1.0.0"},
		Apps: []model.App{{ID: "app", Name: "App"}},
	}
	for i := range 20 {
		b := &screen.Element{ID: "save", Type: "x-button", Slot: "actions", Text: screen.Lit("Save")}
		if i != 3 {
			b.Props = []screen.Prop{{Name: "emphasis", Value: screen.Lit("strong")}}
		}
		w.Docs = append(
			w.Docs,
			&screen.Document{
				Kind:     screen.ScreenDoc,
				ID:       fmt.Sprint("s", i),
				Title:    fmt.Sprint("Screen ", i),
				Route:    fmt.Sprint("/", i),
				App:      "app",
				Revision: 1,
				Root:     &screen.Element{ID: "form", Type: "x-form", Children: []*screen.Element{b}},
			},
		)
	}
	return w, k
}

// Opening a workspace counts every use; what strays is named with its evidence, and
// brought into line by edits.
func ExampleOpen() {
	w, k := team()
	l := live.Open(w, k, "2026-11-23")
	strays := l.Strays()
	for _, s := range strays {
		fmt.Printf(
			"%s of %s on %s is %s, on %d of %d screens %s\n",
			s.Prop,
			s.Element,
			s.Doc,
			s.Value,
			s.Screens,
			s.Of,
			s.Norm,
		)
	}
	line, _ := l.Line(strays, nil, "Into line")
	taken, err := l.Take(line)
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Println(len(l.Strays()), "stray left;", len(taken.Inverse.Steps), "step takes it back")
	// Output:
	// emphasis of save on screen:s3 is soft, on 19 of 20 screens strong
	// 0 stray left; 1 step takes it back
}

// What a reader refuses it names by its place.
func ExampleRead() {
	_, err := wsfile.Read([]byte(`{
 "format": "ubiquant.workspace/1",
 "screens": [{"id": "a", "colour": "red"}]
}`))
	fmt.Println(err)
	// Output:
	// workspace: /screens/0/colour (line 3, column 34): the key "colour" is not known here; accepted: application, id, made, owner, route, shell, source, title, removed, revision, signed, props, states, root
}
