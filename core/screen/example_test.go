package screen_test

import (
	"fmt"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
)

func plainKit() *kit.Kit {
	k, err := kit.Read(
		kit.Sources{
			Manifest: []byte(
				`{"modules":[{"declarations":[{"tagName":"x-button","slots":[{"name":""}],"members":[{"kind":"field","name":"emphasis","attribute":"emphasis","type":{"text":"'strong'|'soft'"}}]}]}]}`,
			),
		},
	)
	if err != nil {
		panic(err)
	}
	return k
}

// An edit is a value. It gives a new tree and the edit that takes it back.
func ExampleApply() {
	tree := &screen.Element{
		ID:       "page",
		Type:     "stack",
		Children: []*screen.Element{{ID: "save", Type: "x-button", Text: screen.Lit("Save")}},
	}
	next, back, err := screen.Apply(
		tree,
		screen.Edit{Op: screen.Set, ID: "save", Prop: "emphasis", Value: screen.Lit("strong")},
		plainKit(),
	)
	if err != nil {
		fmt.Println(err)
		return
	}
	was, _ := tree.Children[0].Prop("emphasis")
	is, _ := next.Children[0].Prop("emphasis")
	fmt.Printf("%q, then %q; back by %s\n", was.Text, is.Text, back.Op)

	_, _, err = screen.Apply(
		tree,
		screen.Edit{Op: screen.Set, ID: "save", Prop: "emphasis", Value: screen.Lit("loud")},
		plainKit(),
	)
	fmt.Println(err)
	// Output:
	// "", then "strong"; back by unset
	// set save: emphasis of button is one of strong, soft, not "loud"
}

// Selectors pick elements as CSS does, over our tree.
func ExampleParseSelector() {
	tree := &screen.Element{ID: "page", Type: "stack", Children: []*screen.Element{
		{
			ID:    "a",
			Type:  "x-button",
			Props: []screen.Prop{{Name: "emphasis", Value: screen.Lit("strong")}},
		}, {ID: "b", Type: "x-button"}}}
	sel, err := screen.ParseSelector("stack > x-button:not([emphasis])")
	if err != nil {
		fmt.Println(err)
		return
	}
	sel.Match(tree, func(e *screen.Element) { fmt.Println(e.ID) })
	// Output: b
}
