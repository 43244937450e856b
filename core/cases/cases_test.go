package cases_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/cases"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
	"ubiquant/internal/testkit"
)

var models = map[string]*sample.Model{
	"seed-lots": {ID: "seed-lots", Name: "Seed lot", Fields: []sample.Field{
		{Name: "due", Type: sample.Date, Required: true}, {Name: "price", Type: sample.Money}, {Name: "state", Type: sample.Choice},
	}},
}

const list = `{"id":"r","type":"section","children":[
 {"id":"h","type":"sorrel-page-header","props":{"heading":"Seed lots"},"children":[
  {"id":"n","type":"sorrel-button","slot":"actions","text":"New seed lot","props":{"emphasis":"strong","to":"/seed-lots/new"}}]},
 {"id":"t","type":"sorrel-table","props":{"label":"Lots"},"children":[
  {"id":"row","type":"sorrel-row","repeat":{"model":"seed-lots"},"children":[
   {"id":"c1","type":"sorrel-cell","text":{"expr":"day(record.due)"}},
   {"id":"c2","type":"sorrel-cell","text":{"expr":"money(record.price)"}},
   {"id":"c3","type":"sorrel-cell","children":[{"id":"chip","type":"sorrel-chip","text":{"expr":"record.state"}}]}]},
  {"id":"k1","type":"sorrel-column","slot":"columns","text":"Due"},
  {"id":"k2","type":"sorrel-column","slot":"columns","text":"Price","props":{"kind":"number"}},
  {"id":"k3","type":"sorrel-column","slot":"columns","text":"State"}]}]}`

// read lists the cases of a screen as "kind what: value" for each element.
func read(t testing.TB, route, title, tree string) (said map[string][]string, facts func(element string, f cases.Fact) string) {
	k := testkit.Sorrel(t)
	ix := usage.New(k)
	d := &screen.Document{Kind: screen.ScreenDoc, ID: "x", Title: title, Route: route, App: "a", Root: testkit.Tree(t, tree)}
	ix.Put(d)
	doc, _ := ix.Find(screen.ScreenDoc, "x")
	b := cases.NewBook()
	said = map[string][]string{}
	at := map[string]*cases.Context{}
	for _, c := range cases.NewReader(b, k, models).Read(doc) {
		g := b.Group(c.Group)
		id := doc.Uses[c.Use].Element.ID
		what := b.Text(g.A)
		if g.Kind == cases.End && g.B != 0 {
			what += " " + b.Text(g.B)
		}
		said[id] = append(said[id], strings.Join([]string{names[g.Kind], what, b.Text(c.Value)}, " "))
		if g.Kind == cases.Prop {
			at[id] = b.Context(c.Context)
		}
	}
	return said, func(element string, f cases.Fact) string { return b.Text(at[element][f]) }
}

var names = map[cases.Kind]string{
	cases.Prop: "prop", cases.Words: "words", cases.Style: "style", cases.End: "end", cases.Label: "label", cases.Control: "control",
	cases.Shows: "shows", cases.Format: "format", cases.Required: "required", cases.Order: "order", cases.Fields: "fields",
	cases.Whole: "whole", cases.Meaning: "meaning",
}

func TestWhateverIsDecidedIsACase(t *testing.T) {
	said, facts := read(t, "/seed-lots", "Seed lots", list)
	assert.Contains(t, said["n"], "prop emphasis strong")
	assert.Contains(t, said["n"], "words text new {}", "the thing it speaks of is left open")
	assert.Contains(t, said["n"], "style text Sentence")
	assert.Contains(t, said["h"], "words heading {title}")
	assert.Contains(t, said["c1"], "format type.date day(·)")
	assert.Contains(t, said["chip"], "shows type.choice sorrel-chip")
	assert.Contains(t, said["k2"], "label text price", "a column is headed by the field that its cells show")
	assert.Contains(t, said["k3"], "fields field.price first", "price stands before state")
	assert.True(t, slices.ContainsFunc(said["r"], func(s string) bool { return strings.Contains(s, "+:sorrel-table") }))
	assert.Equal(t, "leads new", facts("n", cases.Does))
	assert.Equal(t, "sorrel-page-header.actions", facts("n", cases.Place))
	assert.Equal(t, "sorrel-table", facts("n", cases.Main))
	assert.Equal(t, "money", facts("k2", cases.Type))
	assert.Equal(t, "top", facts("k2", cases.Route))
}

func TestWhereSomethingLeadsIsSeenFromItsScreen(t *testing.T) {
	for _, c := range []struct{ from, to, want string }{
		{"/tickets", "/tickets/new", "new"}, {"/tickets/:id", "/tickets", "up"}, {"/tickets/:id", "/tickets/t1/edit", ":/edit"},
		{"/tickets", "/orders", "top"}, {"/tickets", "/", "up"}, {"/", "/", "here"}, {"/tickets/t7", "/tickets/:id", "here"},
		{"/tickets", "https://example.org", "out"}, {"/tickets", "/tickets/new?from=a", "new"},
	} {
		assert.Equal(t, c.want, cases.Leads(c.from, screen.Lit(c.to)), "%s to %s", c.from, c.to)
	}
	own := screen.Value{Kind: screen.Expr, Text: "'/tickets/' + record.id + '/edit'"}
	assert.Equal(t, ":/edit", cases.Leads("/tickets", own), "an address that is computed has the shape of what it gives")
}

// What is asked is no matter of habit; what asks whether to do something is, as what does it is.
func TestWhatATextEndsWith(t *testing.T) {
	for text, want := range map[string]string{
		"Remove the lot?": "?", "Remove the lot": "none", "The lot was removed.": ".",
		"Already have an account?": "", "What grows here?": "",
	} {
		said, _ := read(t, "/x", "X", `{"id":"r","type":"section","children":[{"id":"h","type":"sorrel-heading","text":"`+text+`"}]}`)
		got := ""
		for _, s := range said["h"] {
			if end, ok := strings.CutPrefix(s, "end text "); ok {
				got = end
			}
		}
		assert.Equal(t, want, got, text)
	}
}

func TestHowWordsAreWritten(t *testing.T) {
	for text, want := range map[string]string{
		"Save changes": "Sentence", "Save Changes": "Title Case", "SAVE CHANGES": "CAPITALS", "save changes": "small", "Save": "Sentence",
		"PDF": "", "Print the PDF": "", "Open in Chromium today": "", "3 beds": "", "": "", "Log in": "Sentence",
	} {
		assert.Equal(t, want, cases.StyleOf(text), text)
	}
	again, ok := cases.Restyle("Save Changes", "Sentence")
	assert.True(t, ok)
	assert.Equal(t, "Save changes", again)
	for text, want := range map[string]string{"BED ID / VAT NO.": "Bed ID / VAT no.", "SAVE AS PDF": "Save as PDF", "DRY BED": "Dry bed"} {
		again, ok = cases.Restyle(text, "Sentence")
		assert.True(t, ok, text)
		assert.Equal(t, want, again, "short forms stay as they are")
	}
	_, ok = cases.Restyle("CSV", "Sentence")
	assert.False(t, ok, "what would stay as it is is no repair")
}

func TestWordsForOneThingAndForOthers(t *testing.T) {
	assert.Equal(t, cases.Sense("Save"), cases.Sense("Store changes"))
	assert.NotEqual(t, cases.Sense("Save"), cases.Sense("Send"))
	assert.Equal(t, cases.Sense("Log in"), cases.Sense("Sign in now"))
	assert.Zero(t, cases.Sense("Prune the limes"))
}

// How a field is written is a case wherever an element writes it: in its text, or in a prop of words.
// Whether it is there is asked, not written; blanks make no other format.
func TestAFormatIsACaseWhereverItStands(t *testing.T) {
	for tree, want := range map[string]string{
		`{"id":"e","type":"sorrel-stat","props":{"label":"Sum","value":{"expr":"money(record.price)"}}}`:                                 "money(·)",
		`{"id":"e","type":"sorrel-stat","props":{"label":"Sum","value":{"expr":"has(record.price) ? number(record.price,2) : 'none'"}}}`: "number(·, 2)",
		`{"id":"e","type":"sorrel-page-header","text":{"expr":"'Due ' + day(record.due)"},"props":{"heading":"Lot"}}`:                    "day(·)",
		`{"id":"e","type":"sorrel-text","text":{"expr":"number(record.price,  2) + ' in all'"}}`:                                         "number(·, 2)",
		`{"id":"e","type":"sorrel-stat","props":{"label":"Sum","value":{"expr":"has(record.price) ? 'paid' : 'open'"}}}`:                 "",
		`{"id":"e","type":"sorrel-link","text":"Open","props":{"to":{"expr":"'/lots/' + day(record.due)"}}}`:                             "",
	} {
		said, _ := read(t, "/seed-lots/:id", "Lot", `{"id":"r","type":"stack","repeat":{"model":"seed-lots"},"children":[`+tree+`]}`)
		got := ""
		for _, c := range said["e"] {
			if rest, ok := strings.CutPrefix(c, "format type."); ok {
				_, got, _ = strings.Cut(rest, " ")
			}
		}
		assert.Equal(t, want, got, tree)
	}
}

func TestConditionsReadBack(t *testing.T) {
	rapid.Check(t, func(r *rapid.T) {
		list := rapid.SliceOf(rapid.Custom(func(r *rapid.T) cases.Condition {
			return cases.Condition{
				Fact: cases.Fact(rapid.IntRange(0, int(cases.Facts)-1).Draw(r, "fact")),
				Word: rapid.String().Draw(r, "word"), Not: rapid.Bool().Draw(r, "not"),
			}
		})).Draw(r, "conditions")
		again, err := cases.ParseWhere(cases.WriteWhere(list))
		require.NoError(r, err)
		require.Equal(r, len(list), len(again))
		for i := range list {
			require.Equal(r, list[i], again[i])
		}
	})
	_, err := cases.ParseWhere("weather=fine")
	assert.ErrorContains(t, err, `"weather" is no fact; accepted: application, shell`)
	_, err = cases.ParseWhere("mostly")
	assert.ErrorContains(t, err, "says no fact")
}

func TestConditionsHoldWhereTheFactsAre(t *testing.T) {
	k := testkit.Sorrel(t)
	ix := usage.New(k)
	ix.Put(&screen.Document{Kind: screen.ScreenDoc, ID: "x", Route: "/seed-lots", App: "a", Root: testkit.Tree(t, list)})
	d, _ := ix.Find(screen.ScreenDoc, "x")
	f := cases.NewFacets(k, models)
	assert.True(t, f.Hold(d, "n", "place=sorrel-page-header.actions; mostly=sorrel-table"))
	assert.False(t, f.Hold(d, "n", "place!=sorrel-page-header.actions"))
	assert.False(t, f.Hold(d, "n", "weather=fine"), "what cannot be read never holds")
	assert.False(t, f.Hold(d, "nobody", "mostly=sorrel-table"))
	assert.True(t, f.Hold(d, "nobody", ""), "nothing is demanded")
}

// Whatever a screen holds, its cases are in the order of their groups and point into it.
func FuzzReadingADocument(f *testing.F) {
	f.Add(list, "/seed-lots", "Seed lots")
	f.Add(`{"id":"r","type":"nowhere","text":"…","props":{"to":"/"},"children":[{"id":"r2","type":"sorrel-button","text":"  "}]}`, "", "")
	f.Fuzz(func(t *testing.T, tree, route, title string) {
		root := &screen.Element{}
		if root.UnmarshalJSON([]byte(tree)) != nil {
			t.Skip()
		}
		k := testkit.Sorrel(t)
		ix := usage.New(k)
		ix.Put(&screen.Document{Kind: screen.ScreenDoc, ID: "x", Title: title, Route: route, Root: root})
		d, _ := ix.Find(screen.ScreenDoc, "x")
		list := cases.NewReader(cases.NewBook(), k, models).Read(d)
		for i, c := range list {
			if i > 0 && list[i-1].Group > c.Group || int(c.Use) >= len(d.Uses) {
				t.Fatal("a case out of place")
			}
		}
	})
}

// How a label ends says nothing of how a sentence does, in a text that is now the one, now the other;
// what is shortened, joins or goes on says nothing of either.
func TestLabelsAndSentencesEndAsTheyDo(t *testing.T) {
	ends := func(component, text string) []string {
		said, _ := read(t, "/lots", "Lots", fmt.Sprintf(`{"id":"r","type":"section","children":[{"id":"a","type":%q,"text":%q}]}`, component, text))
		list := slices.DeleteFunc(said["a"], func(s string) bool {
			return !strings.HasPrefix(s, "end ") && !strings.HasPrefix(s, "style ")
		})
		slices.Sort(list)
		return list
	}
	assert.Equal(t, []string{"end text none", "style text Sentence"}, ends("sorrel-text", "Seed lots"))
	assert.Equal(t, []string{"end text sentence .", "style text Sentence"}, ends("sorrel-text", "No lots are sown."))
	assert.Equal(t, []string{"end text sentence none", "style text Sentence"}, ends("sorrel-text", "No lots are sown"))
	assert.Empty(t, ends("sorrel-text", "qty."), "a word that is shortened, too short to be written one way or another")
	assert.Equal(t, []string{"style text Sentence"}, ends("sorrel-text", "Sowing…"))
	assert.Equal(t, []string{"end text none"}, ends("sorrel-text", "and"))
	assert.Equal(t, []string{"end text none", "style text small"}, ends("sorrel-text", "pond side"))
	assert.Equal(t, []string{"end text …", "style text Sentence"}, ends("sorrel-button", "Sow…"), "of a button it is decided")
	assert.Equal(t, []string{"end text .", "style text Sentence"}, ends("sorrel-button", "Sow all of these lots."))
}
