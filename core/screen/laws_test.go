package screen_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/kit"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
)

var types = []string{
	"stack",
	"section",
	"row",
	"column",
	"grid",
	"sorrel-button",
	"sorrel-text",
	"sorrel-card",
	"sorrel-chip",
	"sorrel-field",
	"sorrel-text-input",
	"sorrel-table",
	"sorrel-row",
	"sorrel-cell",
	"sorrel-column",
	"sorrel-button-group",
	"sorrel-page-header",
}

// tree draws a valid tree: every element goes where the kit allows it.
func tree(t *rapid.T, k *kit.Kit) *screen.Element {
	root := &screen.Element{ID: "root", Type: "stack"}
	n := rapid.IntRange(1, 14).Draw(t, "size")
	for i := range n {
		if e, ok := insertion(t, k, root, fmt.Sprintf("e%02d", i)); ok {
			if next, _, err := screen.Apply(root, e, k); err == nil {
				root = next
			}
		}
	}
	return root
}

func ids(root *screen.Element) []string {
	var out []string
	root.Walk(func(e, _ *screen.Element) bool { out = append(out, e.ID); return true })
	return out
}

func insertion(t *rapid.T, k *kit.Kit, root *screen.Element, id string) (screen.Edit, bool) {
	parentID := rapid.SampledFrom(ids(root)).Draw(t, "parent")
	parent, _ := root.Find(parentID)
	def, _ := k.Component(parent.Type)
	if len(def.Slots) == 0 {
		return screen.Edit{}, false
	}
	slot := rapid.SampledFrom(def.Slots).Draw(t, "slot").Name
	var fit []string
	for _, typ := range types {
		c, _ := k.Component(typ)
		if _, ok := kit.Accepts(k, def, slot, c); ok {
			fit = append(fit, typ)
		}
	}
	if len(fit) == 0 {
		return screen.Edit{}, false
	}
	after := ""
	mates := []string{""}
	for _, c := range parent.Children {
		if c.Slot == slot {
			mates = append(mates, c.ID)
		}
	}
	after = rapid.SampledFrom(mates).Draw(t, "after")
	return screen.Edit{
		Op:     screen.Insert,
		Parent: parentID,
		After:  after,
		Tree:   &screen.Element{ID: id, Type: rapid.SampledFrom(fit).Draw(t, "type"), Slot: slot},
	}, true
}

// edit draws any edit on a tree; fresh begins the ids it makes.
func edit(t *rapid.T, k *kit.Kit, root *screen.Element, fresh string) screen.Edit {
	all := ids(root)
	id := rapid.SampledFrom(all).Draw(t, "id")
	el, _ := root.Find(id)
	switch op := rapid.SampledFrom(screen.Ops).Draw(t, "op"); op {
	case screen.Insert:
		if e, ok := insertion(t, k, root, fresh+"n"); ok {
			return e
		}
		return screen.Edit{Op: screen.Rename, ID: id, Name: "x"}
	case screen.Move:
		target := rapid.SampledFrom(all).Draw(t, "target")
		to, _ := root.Find(target)
		after, slot := "", ""
		if len(to.Children) > 0 {
			c := rapid.SampledFrom(to.Children).Draw(t, "mate")
			after, slot = c.ID, c.Slot
		}
		return screen.Edit{Op: op, ID: id, Parent: target, After: after, Slot: slot}
	case screen.Duplicate:
		m := map[string]string{}
		el.Walk(func(e, _ *screen.Element) bool { m[e.ID] = fresh + e.ID; return true })
		return screen.Edit{Op: op, ID: id, IDs: m}
	case screen.Wrap:
		many := []string{id}
		if _, parent := root.Find(id); parent != nil {
			for i, c := range parent.Children {
				if c.ID == id && i+1 < len(parent.Children) && parent.Children[i+1].Slot == c.Slot &&
					rapid.Bool().Draw(t, "two") {
					many = append(many, parent.Children[i+1].ID)
				}
			}
		}
		return screen.Edit{
			Op:   op,
			Many: many,
			Tree: &screen.Element{
				ID:   fresh + "w",
				Type: rapid.SampledFrom([]string{"stack", "sorrel-card", "sorrel-button-group"}).Draw(t, "wrapper"),
			},
		}
	case screen.Replace:
		return screen.Edit{
			Op:   op,
			ID:   id,
			Tree: &screen.Element{ID: id, Type: rapid.SampledFrom(types).Draw(t, "to")},
		}
	case screen.Set:
		def, _ := k.Component(el.Type)
		if len(def.Props) == 0 {
			return screen.Edit{Op: screen.Keep, ID: id}
		}
		p := rapid.SampledFrom(def.Props).Draw(t, "prop")
		v := screen.Lit("some text")
		switch {
		case len(p.Values) > 0:
			v = screen.Lit(rapid.SampledFrom(p.Values).Draw(t, "value"))
		case p.Type == kit.Bool:
			v = screen.FlagValue(rapid.Bool().Draw(t, "flag"))
		case p.Type == kit.Number:
			v = screen.Value{Kind: screen.Num, Text: "3"}
		}
		return screen.Edit{Op: op, ID: id, Prop: p.Name, Value: v, Filled: rapid.Bool().Draw(t, "filled")}
	case screen.Unset:
		return screen.Edit{
			Op:   op,
			ID:   id,
			Prop: rapid.SampledFrom([]string{"emphasis", "gap", "tone", "size"}).Draw(t, "prop"),
		}
	case screen.SetText:
		return screen.Edit{
			Op:    op,
			ID:    id,
			Value: screen.Lit(rapid.SampledFrom([]string{"Save", "Cancel"}).Draw(t, "text")),
		}
	case screen.SetRepeat:
		return screen.Edit{
			Op:     op,
			ID:     id,
			Repeat: &screen.Repeat{Model: rapid.SampledFrom([]string{"beds", "tickets"}).Draw(t, "model")},
		}
	default:
		return screen.Edit{Op: op, ID: id, Name: rapid.SampledFrom([]string{"", "one", "two"}).Draw(t, "name")}
	}
}

func text(e *screen.Element) string { b, _ := json.Marshal(e); return string(b) }

func checkValid(t require.TestingT, k *kit.Kit, root *screen.Element) {
	seen := map[string]bool{}
	root.Walk(func(e, parent *screen.Element) bool {
		require.False(t, seen[e.ID], "the id %s stands twice", e.ID)
		seen[e.ID] = true
		c, ok := k.Component(e.Type)
		require.True(t, ok)
		for i := 1; i < len(e.Props); i++ {
			require.Less(t, e.Props[i-1].Name, e.Props[i].Name, "props in order")
		}
		if parent != nil {
			pc, _ := k.Component(parent.Type)
			reason, ok := kit.Accepts(k, pc, e.Slot, c)
			require.True(t, ok, "%s in %s: %s", e.ID, parent.ID, reason)
		}
		return true
	})
}

func TestApplyThenInvertIsTheIdentity(t *testing.T) {
	k := testkit.Sorrel(t)
	rapid.Check(t, func(t *rapid.T) {
		root := tree(t, k)
		before := text(root)
		e := edit(t, k, root, "a-")
		next, inverse, err := screen.Apply(root, e, k)
		if err != nil {
			require.Equal(t, before, text(root), "a refused edit changes nothing")
			return
		}
		require.Equal(t, before, text(root), "the tree given stays as it is")
		back, _, err := screen.Apply(next, inverse, k)
		require.NoError(t, err)
		require.Equal(t, before, text(back), "%+v", e)
	})
}

func TestAnyAcceptedSequenceLeavesAValidTreeAndUndoesWhole(t *testing.T) {
	k := testkit.Sorrel(t)
	rapid.Check(t, func(t *rapid.T) {
		root := tree(t, k)
		start := text(root)
		var inverses []screen.Edit
		for i := range rapid.IntRange(1, 12).Draw(t, "edits") {
			next, inv, err := screen.Apply(root, edit(t, k, root, fmt.Sprintf("s%d-", i)), k)
			if err != nil {
				continue
			}
			root = next
			inverses = append([]screen.Edit{inv}, inverses...)
			checkValid(t, k, root)
		}
		for _, inv := range inverses {
			var err error
			root, _, err = screen.Apply(root, inv, k)
			require.NoError(t, err)
		}
		require.Equal(t, start, text(root))
	})
}

func TestConcurrentEditsConvergeOrOneIsRefused(t *testing.T) {
	k := testkit.Sorrel(t)
	rapid.Check(t, func(t *rapid.T) {
		root := tree(t, k)
		a, b := edit(t, k, root, "a-"), edit(t, k, root, "b-")
		afterA, _, errA := screen.Apply(root, a, k)
		afterB, _, errB := screen.Apply(root, b, k)
		if errA != nil || errB != nil {
			return
		}
		b2, refusedB := screen.Rebase(b, a, root, afterA)
		a2, refusedA := screen.Rebase(a, b, root, afterB)
		if refusedA != nil || refusedB != nil {
			for _, err := range []error{refusedA, refusedB} {
				var r *screen.Refusal
				if err != nil {
					require.ErrorAs(t, err, &r)
					require.NotEmpty(t, r.Reason)
				}
			}
			return
		}
		ab, _, err1 := screen.Apply(afterA, b2, k)
		ba, _, err2 := screen.Apply(afterB, a2, k)
		if err1 != nil || err2 != nil {
			return // refused with a reason when applied
		}
		checkValid(t, k, ab)
		require.Equal(t, text(ab), text(ba), "a %+v\nb %+v\non %s", a, b, text(root))
	})
}

func TestEditsSurviveTheirJSON(t *testing.T) {
	k := testkit.Sorrel(t)
	rapid.Check(t, func(t *rapid.T) {
		root := tree(t, k)
		e := edit(t, k, root, "a-")
		b, err := json.Marshal(e)
		require.NoError(t, err)
		var back screen.Edit
		require.NoError(t, json.Unmarshal(b, &back), string(b))
		again, _ := json.Marshal(back)
		require.Equal(t, string(b), string(again))
		var el screen.Element
		require.NoError(t, json.Unmarshal([]byte(text(root)), &el))
		require.True(t, screen.Equal(root, &el))
	})
}

func TestRefusalsSayWhy(t *testing.T) {
	k := testkit.Sorrel(t)
	root := testkit.Tree(
		t,
		`{"id":"r","type":"stack","children":[{"id":"b","type":"sorrel-button","text":"Save","name":"save"},{"id":"f","type":"sorrel-field","props":{"label":"x"},"children":[{"id":"i","type":"sorrel-text-input"}]},{"id":"c","type":"sorrel-card"}]}`,
	)
	cases := map[string]struct {
		edit screen.Edit
		want string
	}{
		"no such element": {screen.Edit{Op: screen.Remove, ID: "zz"}, "no such element"},
		"the root":        {screen.Edit{Op: screen.Remove, ID: "r"}, "root stays"},
		"into itself":     {screen.Edit{Op: screen.Move, ID: "c", Parent: "c"}, "into itself"},
		"wrong slot":      {screen.Edit{Op: screen.Move, ID: "b", Parent: "f"}, "cannot stand here"},
		"one control only": {
			screen.Edit{
				Op:     screen.Insert,
				Parent: "f",
				After:  "i",
				Tree:   &screen.Element{ID: "n", Type: "sorrel-select"},
			},
			"takes only 1",
		},
		"taken id": {
			screen.Edit{Op: screen.Insert, Parent: "r", Tree: &screen.Element{ID: "b", Type: "sorrel-card"}},
			"id is taken",
		},
		"unknown component": {
			screen.Edit{Op: screen.Insert, Parent: "r", Tree: &screen.Element{ID: "n", Type: "sorrel-cake"}},
			"no component",
		},
		"missing neighbour": {
			screen.Edit{
				Op:     screen.Insert,
				Parent: "r",
				After:  "zz",
				Tree:   &screen.Element{ID: "n", Type: "sorrel-card"},
			},
			"neighbour",
		},
		"value not a choice": {
			screen.Edit{Op: screen.Set, ID: "b", Prop: "emphasis", Value: screen.Lit("loud")},
			"one of strong, soft, bare",
		},
		"unknown prop": {
			screen.Edit{Op: screen.Set, ID: "b", Prop: "emfasis", Value: screen.Lit("x")},
			"no prop",
		},
		"yes/no": {
			screen.Edit{Op: screen.Set, ID: "b", Prop: "disabled", Value: screen.Lit("x")},
			"yes or no",
		},
		"text where none":  {screen.Edit{Op: screen.SetText, ID: "f", Value: screen.Lit("x")}, "takes no text"},
		"name taken":       {screen.Edit{Op: screen.Rename, ID: "c", Name: "save"}, "is taken"},
		"name with spaces": {screen.Edit{Op: screen.Rename, ID: "c", Name: "my card"}, "a name begins"},
		"children would fall": {
			screen.Edit{Op: screen.Replace, ID: "f", Tree: &screen.Element{Type: "sorrel-button-group"}},
			"cannot stand here",
		},
		"not neighbours": {
			screen.Edit{Op: screen.Wrap, Many: []string{"b", "c"}, Tree: &screen.Element{ID: "w", Type: "stack"}},
			"only neighbours",
		},
		"width on a component": {
			screen.Edit{Op: screen.Set, ID: "b", Prop: "size@640", Value: screen.Lit("s")},
			"no prop",
		},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			_, _, err := screen.Apply(root, c.edit, k)
			var r *screen.Refusal
			require.ErrorAs(t, err, &r)
			assert.Contains(t, r.Reason, c.want)
		})
	}
}

func TestEditsFromOutsideCannotRestore(t *testing.T) {
	var e screen.Edit
	require.ErrorContains(
		t,
		json.Unmarshal([]byte(`{"op":"remove","id":"r","restores":true}`), &e),
		"only the log restores",
	)
}

func TestSelectorsPickElements(t *testing.T) {
	root := testkit.Tree(
		t,
		`{"id":"r","type":"stack","children":[{"id":"h","type":"sorrel-page-header","children":[{"id":"a","type":"sorrel-button","slot":"actions","text":"New","props":{"emphasis":"strong"}}]},{"id":"b","type":"sorrel-button","text":"Export"},{"id":"s","type":"section","children":[{"id":"c","type":"sorrel-button","text":"New","name":"go"}]}]}`,
	)
	cases := map[string][]string{
		"sorrel-button":                              {"a", "b", "c"},
		"sorrel-page-header > sorrel-button":         {"a"},
		"stack > sorrel-button":                      {"b"},
		"stack sorrel-button":                        {"a", "b", "c"},
		"sorrel-button[emphasis=strong]":             {"a"},
		"sorrel-button:not([emphasis])":              {"b", "c"},
		"[text=New], #b":                             {"a", "b", "c"},
		"[text^=Exp]":                                {"b"},
		"[text= Export ][text*=x]":                   {"b"},
		"#go":                                        {"c"},
		"*[slot=actions]":                            {"a"},
		"stack > section sorrel-button[text*=\"e\"]": {"c"},
	}
	for src, want := range cases {
		sel, err := screen.ParseSelector(src)
		require.NoError(t, err, src)
		var got []string
		sel.Match(root, func(e *screen.Element) { got = append(got, e.ID) })
		assert.Equal(t, want, got, src)
	}
	set, err := screen.ParseSelector("sorrel-button[emphasis=soft]")
	require.NoError(t, err)
	count := func(sel *screen.Selector) (n int) { sel.Match(root, func(*screen.Element) { n++ }); return n }
	assert.Zero(t, count(set), "nowhere set")
	assert.Equal(t, 2, count(set.With(testkit.Sorrel(t))), "but so by default")

	for _, src := range []string{"", ">", "a >", "[x", "a:hover", "a,,b", "#", "[=x]", "[a='x]"} {
		_, err := screen.ParseSelector(src)
		assert.ErrorContains(t, err, "selector, character", src)
	}
}

func FuzzApply(f *testing.F) {
	f.Add([]byte(`{"op":"set","id":"b","prop":"emphasis","value":"strong"}`))
	f.Add([]byte(`{"op":"wrap","many":["b"],"tree":{"id":"w","type":"stack"}}`))
	f.Add([]byte(`{"op":"move","id":"b","parent":"r","after":"b"}`))
	k, err := kit.Read(
		kit.Sources{
			Manifest: []byte(
				`{"modules":[{"declarations":[{"tagName":"x-b","slots":[{"name":""},{"name":"s"}],"members":[{"kind":"field","name":"emphasis","attribute":"emphasis","type":{"text":"'strong'|'soft'"}}]}]}]}`,
			),
		},
	)
	if err != nil {
		f.Fatal(err)
	}
	f.Fuzz(func(t *testing.T, src []byte) {
		root := &screen.Element{
			ID:   "r",
			Type: "stack",
			Children: []*screen.Element{
				{ID: "b", Type: "x-b"},
				{ID: "c", Type: "x-b", Children: []*screen.Element{{ID: "d", Type: "x-b", Slot: "s"}}},
			},
		}
		var e screen.Edit
		if json.Unmarshal(src, &e) != nil {
			return
		}
		before := text(root)
		next, inverse, err := screen.Apply(root, e, k)
		if err != nil {
			return
		}
		back, _, err := screen.Apply(next, inverse, k)
		if err != nil || text(back) != before {
			t.Fatalf("%s is not taken back: %v", src, err)
		}
	})
}

// A selector of many steps over a deep tree has more ways through than could ever
// be tried one by one.
func TestSelectorsStayLinear(t *testing.T) {
	root := &screen.Element{ID: "e0", Type: "stack"}
	for e, i := root, 1; i < 120; i++ {
		e.Children = []*screen.Element{{ID: fmt.Sprint("e", i), Type: "stack"}}
		e = e.Children[0]
	}
	sel, err := screen.ParseSelector("section" + strings.Repeat(" stack", 15))
	require.NoError(t, err)
	sel.Match(root, func(*screen.Element) { t.Fatal("there is no section") })
	_, err = screen.ParseSelector(strings.Repeat("a,", 16) + "a")
	assert.ErrorContains(t, err, "at most 16 selectors")
}
