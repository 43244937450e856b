package snippet_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/snippet"
	"ubiquant/internal/testkit/opened"
)

// invented is a model that nobody prepared, with made-up records.
func invented(t testing.TB, l *live.Live, seed uint64) (change.Step, change.Step) {
	r := rand.New(rand.NewPCG(seed, 7))
	words := []string{"Name", "Reference", "Due date", "Amount", "Paid", "Kind", "Photo", "Web page", "Opens", "Tags", "Notes", "Weight kg", "Owner"}
	kinds := []sample.FieldType{
		sample.Text, sample.LongText, sample.Number, sample.Money, sample.YesNo, sample.Date, sample.Time,
		sample.Choice, sample.Picture, sample.Link, sample.Ref, sample.Texts, sample.Refs,
	}
	m := sample.Model{ID: fmt.Sprintf("things%d", seed), Name: fmt.Sprintf("Thing %c", 'A'+rune(seed))}
	r.Shuffle(len(words), func(i, j int) { words[i], words[j] = words[j], words[i] })
	for i := range 2 + r.IntN(9) {
		f := sample.Field{Name: sample.FieldName(words[i]), Type: kinds[r.IntN(len(kinds))], Required: r.IntN(2) == 0}
		switch f.Type {
		case sample.Choice:
			f.Choices = []string{"open", "on loan", "gone"}
		case sample.Ref, sample.Refs:
			f.Model = "volunteers"
		}
		m.Fields = append(m.Fields, f)
	}
	records, err := sample.Generate(sample.Order{
		Model: &m, Seed: seed, Count: 12, Today: l.Today, Taken: map[string]bool{},
		IDs:  func(string) []string { return []string{"v1", "v2", "v3"} },
		Used: func(string) map[string]struct{} { return nil },
	})
	require.NoError(t, err)
	return &change.PutModel{Model: m}, &change.Records{Rows: change.Rows{Set: "usual", Model: m.ID, Put: records}}
}

// Whatever model an arrangement is made for, and whatever shell the screen stands in: nothing
// of it is found fault with, and it shows with no records, one, many and ugly ones.
func TestArrangementsArriveWithoutFaults(t *testing.T) {
	l := opened.Demo(t)
	for seed := range uint64(10) {
		m, rows := invented(t, l, seed)
		_, err := l.Take(change.Change{Title: "a model", Steps: []change.Step{m, rows}})
		require.NoError(t, err)
	}
	app := l.W.Apps[0].ID
	for _, o := range snippet.Offers(l) {
		for _, shell := range []string{"staff", "plain", ""} {
			tree, err := snippet.Make(l, o.ID, app, "screen:made")
			require.NoError(t, err, o.ID)
			made, err := l.Take(change.Change{Title: "a screen", Steps: []change.Step{
				&change.Create{Kind: screen.ScreenDoc, Document: &screen.Document{
					Kind: screen.ScreenDoc, ID: "made", Title: "Made", Route: "/made", App: app, Shell: shell,
					Root: &screen.Element{ID: "root", Type: "section", Props: []screen.Prop{{Name: "padding", Value: screen.Lit("4")}}},
				}},
				&change.Edit{Doc: "screen:made", Edits: []screen.Edit{
					{Op: screen.Insert, Parent: "root", Tree: &screen.Element{
						ID: "header", Type: "sorrel-page-header", Props: []screen.Prop{{Name: "heading", Value: screen.Lit("Made")}},
					}},
					{Op: screen.Insert, Parent: "root", After: "header", Tree: tree},
				}},
			}})
			require.NoError(t, err, o.ID)
			findings, _ := l.Of("screen:made")
			for _, f := range findings {
				switch f.Rule {
				case "unreached": // no screen leads to this one yet
				case "navigation-differs": // a second navigation inside a shell that has one
					assert.Contains(t, []string{"navbar", "side-nav"}, o.ID)
				default:
					assert.Fail(t, f.Message, "%s in %q: %s at %s", o.ID, shell, f.Rule, f.Element)
				}
			}
			for _, set := range l.W.AllSets() {
				_, problems, err := l.Page("screen:made", live.View{Set: set.ID})
				require.NoError(t, err)
				assert.Empty(t, problems, "%s with %s", o.ID, set.ID)
			}
			_, err = l.Take(made.Inverse)
			require.NoError(t, err)
		}
	}
}
