package screen_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
)

func TestActionsReadBackAsTheyWereWritten(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var list []screen.Action
		for range rapid.IntRange(0, 12).Draw(t, "n") {
			a := screen.Action{Verb: rapid.SampledFrom(screen.Verbs).Draw(t, "verb")}
			switch a.Verb {
			case screen.Submit, screen.TakeAway:
			case screen.ChangeField:
				a.To = rapid.StringMatching(`[a-z][a-zA-Z0-9]{0,8} [a-z0-9][a-z0-9 -]{0,8}[a-z0-9]`).Draw(t, "to")
			default:
				a.To = rapid.StringMatching(`[a-z/][a-z0-9/ -]{0,8}[a-z0-9]`).Draw(t, "to")
			}
			list = append(list, a)
		}
		back, err := screen.ParseActions(screen.WriteActions(list))
		if err != nil || len(back) != len(list) {
			t.Fatalf("%v came back as %v, %v", list, back, err)
		}
		for i := range list {
			if back[i] != list[i] {
				t.Fatalf("%v came back as %v", list, back)
			}
		}
	})
}

func TestWhatCannotHappenSaysWhy(t *testing.T) {
	k := testkit.Sorrel(t)
	root := testkit.Tree(
		t,
		`{"id":"r","type":"stack","children":[{"id":"b","type":"sorrel-button","text":"Go"},{"id":"s","type":"stack"}]}`,
	)
	for does, why := range map[string]string{"explode": "nothing that can happen", "open": "does not say what", "submit now": "the form around it", "remove it": "the record that it stands for", "change state": "says to what"} {
		_, _, err := screen.Apply(
			root,
			screen.Edit{Op: screen.Set, ID: "b", Prop: "does", Value: screen.Lit(does)},
			k,
		)
		assert.ErrorContains(t, err, why, does)
	}
	_, _, err := screen.Apply(
		root,
		screen.Edit{Op: screen.Set, ID: "b", Prop: "does", Value: screen.Value{Kind: screen.Expr, Text: "'go /'"}},
		k,
	)
	assert.ErrorContains(t, err, "chosen, not computed")
	_, _, err = screen.Apply(root, screen.Edit{Op: screen.Set, ID: "s", Prop: "does", Value: screen.Lit("go /")}, k)
	assert.ErrorContains(t, err, "no prop", "a stack answers to nothing")
}

func TestACopyOpensItsOwn(t *testing.T) {
	k := testkit.Sorrel(t)
	root := testkit.Tree(
		t,
		`{"id":"r","type":"stack","children":[{"id":"s","type":"stack","children":[{"id":"b","type":"sorrel-button","text":"Go","props":{"does":"open d; open other"}},{"id":"d","type":"sorrel-dialog","props":{"heading":"x"}}]},{"id":"other","type":"sorrel-dialog","props":{"heading":"y"}}]}`,
	)
	next, _, err := screen.Apply(
		root,
		screen.Edit{Op: screen.Duplicate, ID: "s", IDs: map[string]string{"s": "s2", "b": "b2", "d": "d2"}},
		k,
	)
	require.NoError(t, err)
	copied, _ := next.Find("b2")
	v, _ := copied.Prop("does")
	assert.Equal(t, "open d2; open other", v.Text)
	kept, _ := next.Find("b")
	v, _ = kept.Prop("does")
	assert.Equal(t, "open d; open other", v.Text)
}
