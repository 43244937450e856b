package own_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
	"ubiquant/core/audit/own"
	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
	"ubiquant/internal/testkit"
)

func rule(where, must string) *audit.OwnRule {
	return &audit.OwnRule{ID: "mine", Title: "Mine", Where: where, Must: must, Message: "not so", Severity: audit.Warning}
}

// found are the ids of the elements that a rule reports on a screen, with what it says.
func found(t *testing.T, o *audit.OwnRule, src string) map[string]string {
	t.Helper()
	r, err := own.Compile(o)
	require.NoError(t, err)
	k := testkit.Sorrel(t)
	cat := model.NewCatalog(k, &model.Workspace{})
	ix := usage.New(cat)
	d := &screen.Document{
		Kind: screen.ScreenDoc, ID: "beds", Title: "Beds of the garden", Route: "/beds", Owner: "noor", App: "a",
		Root: testkit.Tree(t, src),
	}
	ix.Put(d)
	doc, ok := ix.Find(d.Kind, d.ID)
	require.True(t, ok)
	e := audit.NewEngine(k, cat, []*audit.Rule{r})
	e.Context(nil, nil, nil, nil)
	out := map[string]string{}
	for _, f := range e.Check(doc).Findings() {
		out[f.Element] = f.Message
	}
	return out
}

const page = `{"id":"root","type":"section","children":[
 {"id":"head","type":"sorrel-page-header","props":{"heading":"Beds"},"children":[
  {"id":"one","type":"sorrel-button","slot":"actions","text":"New bed","props":{"emphasis":"strong","to":"/x"}},
  {"id":"two","type":"sorrel-button","slot":"actions","text":"Print all of the beds","props":{"emphasis":"strong","to":"/y"}}]},
 {"id":"body","type":"stack","children":[
  {"id":"three","type":"sorrel-button","text":"more","props":{"to":"/z"}},
  {"id":"four","type":"sorrel-button","text":{"expr":"record.name"},"props":{"emphasis":{"expr":"record.state"},"to":"/z"}}]}]}`

func defaultOf(t *testing.T, cat kit.Catalog, tag, prop string) string {
	def, ok := cat.Component(tag)
	require.True(t, ok)
	p, ok := def.Prop(prop)
	require.True(t, ok)
	return p.Default
}

// What a rule may say, and what it finds.
func TestARuleFindsWhatDoesNotKeepIt(t *testing.T) {
	for _, c := range []struct {
		where, must string
		want        []string
	}{
		{"sorrel-page-header", `count("sorrel-button[emphasis=strong]") <= 1`, []string{"head"}},
		{"sorrel-page-header", `count("sorrel-button") <= 2`, nil},
		{"sorrel-button", `within("sorrel-page-header") || props.emphasis != "strong"`, nil},
		{"sorrel-page-header sorrel-button", `props.emphasis == "soft"`, []string{"one", "two"}},
		{"sorrel-button", `words(text) <= 3`, []string{"two"}},
		{"sorrel-button", `text.matches("^[A-Z]")`, []string{"three"}},
		{"sorrel-button", `beside("sorrel-button") == 0`, []string{"one", "two", "three", "four"}},
		{"sorrel-button", `index < 1`, []string{"two", "four"}},
		{"sorrel-button", `parent.component == "sorrel-page-header"`, []string{"three", "four"}},
		{"sorrel-page-header", `props.heading == screen.title`, []string{"head"}},
		// What is computed is not known, and nothing is said of it.
		{"sorrel-button", `props.emphasis == "strong"`, []string{"three"}},
		{"sorrel-button", `text == "x" || props.to == "/z"`, []string{"one", "two"}},
		{"sorrel-button", `has(props.emphasis)`, nil},
		{"*", `component != "stack"`, []string{"body"}},
	} {
		var got []string
		for id := range found(t, rule(c.where, c.must), page) {
			got = append(got, id)
		}
		assert.ElementsMatch(t, c.want, got, "%s: %s", c.where, c.must)
	}
	o := rule("", `screen.title.matches("^[A-Z][a-z]+$")`)
	o.Of = "screen"
	assert.Equal(t, map[string]string{"root": "not so"}, found(t, o, page), "a screen's name is judged at its root")
}

// What cannot be a rule is refused with what is wrong; what fails or costs too much where it is
// applied says so there, and does not hang.
func TestRulesThatCannotBeAreTold(t *testing.T) {
	for want, o := range map[string]*audit.OwnRule{
		"selector, character":        rule("sorrel-button[", "true"),
		"nothing is said":            rule("*", " "),
		"undeclared reference":       rule("*", "prop.emphasis == 'x'"),
		"accepted: what is true":     rule("*", "1 + 1"),
		"accepted: at most 2000":     rule("*", "true || "+strings.Repeat("true || ", 300)+"true"),
		"picks no elements":          {ID: "a", Title: "t", Message: "m", Severity: "note", Of: "screen", Where: "*", Must: "true"},
		`a rule of a "door"`:         {ID: "a", Title: "t", Message: "m", Severity: "note", Of: "door", Must: "true"},
		"severity":                   {ID: "a", Title: "t", Message: "m", Severity: "loud", Where: "*", Must: "true"},
		"a title, and a message":     {ID: "a", Severity: "note", Where: "*", Must: "true"},
		"the id":                     {ID: "A b", Title: "t", Message: "m", Severity: "note", Where: "*", Must: "true"},
		"Syntax error":               rule("*", "props.emphasis == "),
		"no matching overload":       rule("*", "count(1) == 1"),
		"found no matching overload": rule("*", "words(1) == 1"),
	} {
		_, err := own.Compile(o)
		if assert.Error(t, err, want) {
			assert.Contains(t, err.Error(), want)
		}
	}
	assert.Contains(t, found(t, rule("sorrel-page-header", "props.nothing == 1"), page)["head"], "no such key")
	assert.Contains(t, found(t, rule("sorrel-page-header", `count("sorrel-button[") == 1`), page)["head"], "selector, character")
	long := "[" + strings.Repeat("1,", 60) + "1]"
	costly := fmt.Sprintf("%[1]s.all(a, %[1]s.all(b, %[1]s.all(c, a + b + c > 0)))", long)
	assert.Contains(t, found(t, rule("sorrel-page-header", costly), page)["head"], "costs too much")
}

// A rule by example finds the one and not the other, and its repair makes the one like the other.
func TestARuleByExampleTellsTheTwoApart(t *testing.T) {
	k := testkit.Sorrel(t)
	cat := model.NewCatalog(k, &model.Workspace{})
	root := testkit.Tree(t, page)
	of := func(id string) own.Example { return root.Path(id) }
	tried := 0
	for _, like := range []string{"one", "two", "three", "head", "body"} {
		for _, unlike := range []string{"one", "two", "three", "head", "body"} {
			o, err := own.ByExample(cat, of(like), of(unlike))
			if err != nil {
				continue
			}
			tried++
			o.ID = "mine"
			kept, caught, err := own.Tried(o, k, cat)
			require.NoError(t, err, "%+v", o)
			assert.True(t, kept && caught, "%s, not %s: %+v", like, unlike, o)
		}
	}
	assert.Greater(t, tried, 8)
	o, err := own.ByExample(cat, of("three"), of("one"))
	require.NoError(t, err)
	assert.Equal(t, "emphasis", o.Prop)
	assert.Equal(t, defaultOf(t, cat, "sorrel-button", "emphasis"), o.Value)
	_, err = own.ByExample(cat, of("one"), of("one"))
	assert.ErrorContains(t, err, "set alike")
}
