package resolve_test

import (
	"strings"
	"testing"

	"github.com/go-json-experiment/json"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/internal/testkit"
)

// checks are what the elements of a screen look at first, by their ids.
func checks(t *testing.T, tree string) map[string][]resolve.Check {
	t.Helper()
	root := testkit.Tree(t, tree)
	got, problems := resolve.Resolve(resolve.Input{Screen: root, Catalog: testkit.Sorrel(t), Models: map[string]*sample.Model{
		"tools": {ID: "tools", Name: "Tool", Fields: []sample.Field{
			{Name: "name", Type: sample.Text, Required: true, Most: "20"},
			{Name: "price", Type: sample.Money, Least: "1"},
			{Name: "state", Type: sample.Choice, Choices: []string{"in", "out"}},
		}},
	}})
	require.Empty(t, problems)
	out := map[string][]resolve.Check{}
	var walk func(n *resolve.Node)
	walk = func(n *resolve.Node) {
		for i, a := range n.Does {
			if a.Verb == resolve.Checks {
				assert.Zero(t, i, "it comes before all else")
				var list []resolve.Check
				require.NoError(t, json.Unmarshal([]byte(a.To), &list))
				out[n.ID] = list
			}
		}
		for _, c := range n.Children {
			walk(c)
		}
	}
	walk(got)
	return out
}

// A form looks at its fields before it is sent, by whatever sends it: what they ask, what they are
// called, and where they say what is wrong. What asks nothing is not looked at.
func TestAFormLooksAtItsFieldsFirst(t *testing.T) {
	got := checks(t, `{"id":"s","type":"section","children":[{"id":"f","type":"sorrel-form","props":{"label":"Lend"},"children":[
		{"id":"a","type":"sorrel-field","props":{"label":"Borrower","required":true},"children":[{"id":"a1","type":"sorrel-text-input","props":{"name":"who","kind":"email"}}]},
		{"id":"b","type":"sorrel-text-area","props":{"name":"notes"}},
		{"id":"c","type":"sorrel-text-input","props":{"name":"dueBack","kind":"date","min":"2026-01-01"}},
		{"id":"d","type":"sorrel-checkbox","text":"I bring it back","props":{"name":"promise","required":true}},
		{"id":"send","type":"sorrel-button","slot":"actions","text":"Lend","props":{"action":"submit","does":"go /"}},
		{"id":"also","type":"sorrel-button","slot":"actions","text":"Also","props":{"does":"submit"}},
		{"id":"no","type":"sorrel-button","slot":"actions","text":"Cancel","props":{"does":"go /"}}]}]}`)
	require.Len(t, got, 3)
	list := got["f"]
	assert.Equal(t, list, got["send"])
	assert.Equal(t, list, got["also"])
	var said []string
	for _, c := range list {
		words := "nowhere"
		if c.Words != nil {
			words = c.Words.Key + "." + c.Words.Prop
		}
		var rules []string
		for _, rule := range []string{"required", "kind", "least"} {
			if c.Asks[rule].Of != nil {
				rules = append(rules, rule+" of "+c.Asks[rule].Of.Key)
			}
		}
		said = append(said, c.Key+" "+c.Label+": "+strings.Join(rules, ", ")+"; "+words)
	}
	assert.Equal(t, []string{
		"a1 Borrower: required of a, kind of a1; a.error",
		"c Due back: kind of c, least of c; nowhere",
		"d I bring it back: required of d; nowhere",
	}, said)
}

// What adds a record asks what the record's model says, beside what the screen does.
func TestWhatAddsARecordAsksWhatItsModelSays(t *testing.T) {
	got := checks(t, `{"id":"s","type":"section","children":[{"id":"st","type":"stack","children":[
		{"id":"n","type":"sorrel-text-input","props":{"name":"name","label":"Tool"}},
		{"id":"p","type":"sorrel-text-input","props":{"name":"price","label":"Price","min":"5"}},
		{"id":"z","type":"sorrel-select","props":{"name":"state","label":"State","options":"in, out"}},
		{"id":"add","type":"sorrel-button","text":"Add","props":{"does":"add tools; go /"}}]}]}`)
	require.Len(t, got, 1)
	list := got["add"]
	require.Len(t, list, 3)
	assert.Equal(t, "n", list[0].Key)
	assert.Equal(t, map[string]resolve.Ask{"required": {Is: true}, "longest": {Is: "20"}}, list[0].Asks)
	assert.Equal(t, "number", list[1].Asks["kind"].Is)
	assert.Equal(t, "p", list[1].Asks["least"].Of.Key, "the screen's own word counts")
	assert.Equal(t, []any{"in", "out"}, list[2].Asks["choices"].Is)
}
