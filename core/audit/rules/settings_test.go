package rules_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/audit"
	"ubiquant/core/audit/rules"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
	"ubiquant/internal/testkit"
)

// held runs all rules as a team holds them.
func held(t *testing.T, docs []string, tunings ...audit.Tuning) []audit.Finding {
	k := testkit.Sorrel(t)
	ix := usage.New(k)
	engine := audit.NewEngine(k, k, rules.All())
	engine.Context(nil, nil, nil, tunings)
	for i, src := range docs {
		d := &screen.Document{Kind: screen.ScreenDoc, ID: fmt.Sprint("s", i), App: "a", Root: testkit.Tree(t, src)}
		ix.Put(d)
		found, _ := ix.Find(d.Kind, d.ID)
		engine.Put(found)
	}
	return engine.Findings()
}

func count(list []audit.Finding, rule string) (n int) {
	for _, f := range list {
		if f.Rule == rule {
			n++
		}
	}
	return n
}

func TestARuleCanBeTurnedOffOrWeighedOtherwise(t *testing.T) {
	for _, r := range rules.All() {
		if r.ID == "house-rule" {
			continue // comes with the house rules themselves
		}
		assert.Zero(t, count(held(t, r.Bad, audit.Tuning{Rule: r.ID, Severity: audit.Off}), r.ID), r.ID)
		for _, f := range held(t, r.Bad, audit.Tuning{Rule: r.ID, Severity: audit.Note}) {
			if f.Rule == r.ID {
				assert.Equal(t, audit.Note, f.Severity, r.ID)
			}
		}
	}
}

func TestSettingsChangeWhatIsFound(t *testing.T) {
	button := func(emphasis string, to int) string {
		return fmt.Sprintf(
			`{"id":"b%d","type":"sorrel-button","text":"Go","props":{"emphasis":%q,"to":"/%d"}}`,
			to,
			emphasis,
			to,
		)
	}
	group := `{"id":"r","type":"row","children":[` + strings.Join(
		[]string{button("strong", 1), button("strong", 2), button("strong", 3)},
		",",
	) + `]}`
	link := func(words string) string {
		return fmt.Sprintf(`{"id":"b","type":"sorrel-button","text":%q,"props":{"to":"/x"}}`, words)
	}
	cases := []struct {
		name, rule, setting, value string
		docs                       []string
		before, after              int
	}{
		{"two main actions may stand together", "one-main-action", "most", "2", []string{group}, 2, 1},
		{"any number may", "one-main-action", "most", "9", []string{group}, 2, 0},
		{
			"the team's own sample words",
			"demo-text",
			"words",
			"Acme, Widget",
			[]string{`{"id":"a","type":"sorrel-text","text":"widget"}`},
			0,
			1,
		},
		{
			"three screens must agree",
			"same-action-words",
			"screens",
			"3",
			[]string{link("Export"), link("Export"), link("Download")},
			1,
			0,
		},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.before, count(held(t, c.docs), c.rule))
			assert.Equal(
				t,
				c.after,
				count(
					held(t, c.docs, audit.Tuning{Rule: c.rule, Settings: map[string]string{c.setting: c.value}}),
					c.rule,
				),
			)
		})
	}
}

func TestATuningIsCheckedAgainstItsRule(t *testing.T) {
	r, ok := rules.Find("one-main-action")
	require.True(t, ok)
	for words, tuning := range map[string]audit.Tuning{
		"severity \"fatal\" is not known": {Severity: "fatal"},
		"has no setting \"least\"":        {Settings: map[string]string{"least": "1"}},
		"a whole number from 1":           {Settings: map[string]string{"most": "0"}},
		"most of the rule":                {Settings: map[string]string{"most": "many"}},
	} {
		assert.ErrorContains(t, r.Check(&tuning), words)
	}
	assert.NoError(t, r.Check(&audit.Tuning{Severity: audit.Off, Settings: map[string]string{"most": "3"}}))
}
