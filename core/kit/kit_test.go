package kit_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit"
	"ubiquant/internal/testkit"
)

func TestTypeTextsBecomeTypes(t *testing.T) {
	cases := []struct {
		text     string
		typ      kit.Type
		values   []string
		optional bool
	}{
		{"'a' | 'b'", kit.Enum, []string{"a", "b"}, false},
		{`"x"|"y" | undefined`, kit.Enum, []string{"x", "y"}, true},
		{"1 | 2 | 3", kit.Enum, []string{"1", "2", "3"}, false},
		{"boolean", kit.Bool, nil, false},
		{"true | false", kit.Bool, nil, false},
		{"number | null", kit.Number, nil, true},
		{"string", kit.Text, nil, false},
		{"'a' | number", kit.Text, nil, false},
		{"Map<'a' | 'b', string>", kit.Text, nil, false},
		{"'with | bar' | 'b'", kit.Enum, []string{"with | bar", "b"}, false},
		{"", kit.Text, nil, false},
	}
	for _, c := range cases {
		typ, values, optional := kit.ParseType(c.text)
		assert.Equal(t, c.typ, typ, c.text)
		assert.Equal(t, c.values, values, c.text)
		assert.Equal(t, c.optional, optional, c.text)
	}
}

const bare = `{"modules":[{"path":"a.js","declarations":[{"tagName":"x-note","name":"Note","description":"Says something.","slots":[{"name":""}],
"members":[{"kind":"field","name":"tone","attribute":"tone","type":{"text":"'calm' | 'loud'"},"default":"'calm'"},{"kind":"field","name":"open","attribute":"open","type":{"text":"boolean"},"default":"false"},
{"kind":"field","name":"inner","privacy":"private","attribute":"inner","type":{"text":"string"}},{"kind":"method","name":"show"}]}]}]}`

func TestABareManifestGivesAUsableKit(t *testing.T) {
	k, err := kit.Read(kit.Sources{Name: "x", Version: "1", Manifest: []byte(bare)})
	require.NoError(t, err)
	c, ok := k.Component("x-note")
	require.True(t, ok)
	assert.Equal(t, "note", c.Title)
	assert.True(t, c.TakesText())
	require.Len(t, c.Props, 2, "private fields and methods are no props")
	tone, _ := c.Prop("tone")
	assert.Equal(t, []string{"calm", "loud"}, tone.Values)
	assert.Equal(t, "calm", tone.Default)
	stack, _ := k.Component("stack")
	_, ok = kit.Accepts(k, stack, "", c)
	assert.True(t, ok)
}

func TestBadKitsAreRefusedWithTheReason(t *testing.T) {
	cases := map[string]struct{ src, notes, tokens, want string }{
		"no modules":       {src: `{}`, want: "no modules"},
		"nothing declared": {src: `{"modules":[]}`, want: "no custom element"},
		"bad tag": {
			src:  `{"modules":[{"declarations":[{"tagName":"Note"}]}]}`,
			want: "/modules/0/declarations/0/tagName",
		},
		"twice": {
			src:  `{"modules":[{"declarations":[{"tagName":"x-a"},{"tagName":"x-a"}]}]}`,
			want: "declared twice",
		},
		"wrong kind": {src: `{"modules":{}}`, want: "found an object"},
		"bad attribute": {
			src:  `{"modules":[{"declarations":[{"tagName":"x-a","members":[{"kind":"field","name":"p","attribute":"on click"}]}]}]}`,
			want: "cannot be an attribute",
		},
		"notes of nothing": {src: bare, notes: `{"components":{"x-other":{}}}`, want: "x-other"},
		"notes, wrong prop": {
			src:   bare,
			notes: `{"components":{"x-note":{"telling":["size"]}}}`,
			want:  `no prop "size"`,
		},
		"token alias nowhere": {
			src:    bare,
			tokens: `{"color":{"$type":"color","a":{"$value":"{color.b}"}}}`,
			want:   "color.b",
		},
		"token alias circle": {
			src:    bare,
			tokens: `{"c":{"a":{"$value":"{c.b}"},"b":{"$value":"{c.a}"}}}`,
			want:   "leads back to itself",
		},
		"token breaks out": {
			src:    bare,
			tokens: `{"c":{"a":{"$value":"red;} body{display:none"}}}`,
			want:   "break out",
		},
		"colour out of range": {
			src:    bare,
			tokens: `{"c":{"a":{"$type":"color","$value":{"colorSpace":"srgb","components":[2,0,0]}}}}`,
			want:   "out of range",
		},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			_, err := kit.Read(kit.Sources{Manifest: []byte(c.src), Notes: []byte(c.notes), Tokens: []byte(c.tokens)})
			require.Error(t, err)
			assert.Contains(t, err.Error(), c.want)
		})
	}
}

func TestTheDemoKitIsWhole(t *testing.T) {
	k := testkit.Sorrel(t)
	assert.GreaterOrEqual(t, len(k.Components), 22)
	assert.Equal(t, []string{"light", "dark", "compact"}, k.Tokens.Themes)
	for _, c := range k.Components {
		assert.NotEmpty(t, c.Summary, c.Tag)
		assert.NotEmpty(t, c.Family, c.Tag)
		for _, p := range c.Props {
			assert.NotEmpty(t, p.Summary, "%s %s", c.Tag, p.Name)
		}
		for _, parent := range c.Parents {
			_, ok := k.Component(parent)
			assert.True(t, ok, "%s may stand only in %s", c.Tag, parent)
		}
	}
	button, _ := k.Component("sorrel-button")
	assert.Equal(t, &kit.Choice{Prop: "emphasis", Value: "strong"}, button.Main)
	accent, ok := k.Tokens.Find("color.accent")
	require.True(t, ok)
	assert.NotEqual(t, accent.Values["light"], accent.Values["dark"])
	heading, _ := k.Tokens.Find("font.heading")
	assert.Contains(t, heading.Values["light"], "Alegreya Sans", "the alias is resolved")
	assert.Equal(t, []string{"1", "2", "3", "4", "5", "6", "7", "8"}, k.Tokens.Steps("space"))
}

func TestSlotRulesSayWhatMayStand(t *testing.T) {
	k := testkit.Sorrel(t)
	get := func(tag string) *kit.Component { c, ok := k.Component(tag); require.True(t, ok, tag); return c }
	_, ok := kit.Accepts(k, get("sorrel-page-header"), "actions", get("sorrel-button"))
	assert.True(t, ok, "by role")
	reason, ok := kit.Accepts(k, get("sorrel-field"), "", get("sorrel-button"))
	assert.False(t, ok)
	assert.Contains(t, reason, "role:control")
	reason, ok = kit.Accepts(k, get("stack"), "", get("sorrel-cell"))
	assert.False(t, ok)
	assert.Contains(t, reason, "stands only in sorrel-row")
	_, ok = kit.Accepts(k, get("sorrel-button"), "nowhere", get("sorrel-icon"))
	assert.False(t, ok)
}

func FuzzRead(f *testing.F) {
	f.Add(
		[]byte(bare),
		[]byte(`{"components":{"x-note":{"family":"a","slots":{"":{"text":true}}}}}`),
		[]byte(`{"c":{"$type":"color","a":{"$value":"#fff"}}}`),
	)
	f.Add([]byte(`{"modules":[{}]}`), []byte(`{}`), []byte(`{}`))
	f.Fuzz(func(t *testing.T, manifest, notes, tokens []byte) {
		k, err := kit.Read(kit.Sources{Manifest: manifest, Notes: notes, Tokens: tokens})
		if err != nil {
			return
		}
		for _, c := range k.Components {
			if _, ok := k.Component(c.Tag); !ok {
				t.Fatalf("%q is declared and cannot be found", c.Tag)
			}
		}
	})
}
