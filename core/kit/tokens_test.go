package kit_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/kit"
	"ubiquant/internal/testkit"
)

func TestEveryTypeOfTokenIsWrittenAsCSS(t *testing.T) {
	cases := map[string]struct{ typ, value, want string }{
		"colour": {"color", `{"colorSpace":"srgb","components":[0,0.5,1]}`, "#0080FF"},
		"colour by hex": {
			"color",
			`{"colorSpace":"srgb","components":[0,0.5019,1],"hex":"#0080ff"}`,
			"#0080ff",
		},
		"half clear":            {"color", `{"colorSpace":"srgb","components":[1,0,0],"alpha":0.5}`, "#FF000080"},
		"colour of older files": {"color", `"#abc"`, "#abc"},
		"wide colour": {
			"color",
			`{"colorSpace":"display-p3","components":[1,0.2,0],"alpha":0.4}`,
			"color(display-p3 1 0.2 0 / 0.4)",
		},
		"by lightness": {
			"color",
			`{"colorSpace":"oklch","components":[0.6,0.1,"none"]}`,
			"oklch(0.6 0.1 none)",
		},
		"hsl":             {"color", `{"colorSpace":"hsl","components":[120,50,40]}`, "hsl(120 50% 40%)"},
		"length":          {"dimension", `{"value":1.5,"unit":"rem"}`, "1.5rem"},
		"length in words": {"dimension", `"12px"`, "12px"},
		"time":            {"duration", `{"value":120,"unit":"ms"}`, "120ms"},
		"fonts":           {"fontFamily", `["Alegreya Sans","sans-serif"]`, "'Alegreya Sans', sans-serif"},
		"weight":          {"fontWeight", `"semi-bold"`, "600"},
		"curve":           {"cubicBezier", `[0.2,0,0.2,1]`, "cubic-bezier(0.2, 0, 0.2, 1)"},
		"number":          {"number", `1.45`, "1.45"},
		"border": {
			"border",
			`{"color":"#112233","width":"1px","style":"dashed"}`,
			"1px dashed #112233",
		},
		"transition": {
			"transition",
			`{"duration":"200ms","delay":"0ms","timingFunction":[0,0,1,1]}`,
			"200ms cubic-bezier(0, 0, 1, 1) 0ms",
		},
		"shadow": {
			"shadow",
			`{"offsetX":"0px","offsetY":"2px","blur":"4px","spread":"0px","color":"#00000040"}`,
			"0px 2px 4px 0px #00000040",
		},
		"shadows": {
			"shadow",
			`[{"offsetX":"0px","offsetY":"2px","blur":"4px","spread":"0px","color":"#000000"},{"inset":true,"offsetX":"0px","offsetY":"1px","blur":"0px","spread":"0px","color":"#ffffff"}]`,
			"0px 2px 4px 0px #000000, inset 0px 1px 0px 0px #ffffff",
		},
		"gradient": {
			"gradient",
			`[{"color":"#000000","position":0},{"color":"#ffffff","position":1}]`,
			"linear-gradient(#000000 0%, #ffffff 100%)",
		},
		"typography": {
			"typography",
			`{"fontFamily":"Serif","fontSize":"16px","fontWeight":700,"lineHeight":1.2}`,
			"700 16px/1.2 Serif",
		},
		"nothing said": {"", `"12px"`, "12px"},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			typ := ""
			if c.typ != "" {
				typ = fmt.Sprintf(`"$type":%q,`, c.typ)
			}
			tokens, err := kit.ReadTokens([]byte(`{"a":{`+typ+`"b":{"$value":`+c.value+`}}}`), "k")
			require.NoError(t, err)
			tok, ok := tokens.Find("a.b")
			require.True(t, ok)
			assert.Equal(t, c.want, tok.Values["light"])
			assert.Equal(t, "--k-a-b", tok.CSS)
		})
	}
}

func TestBadTokensAreRefusedWithPathAndLine(t *testing.T) {
	bomb := `{"$type":"shadow","a":{"$value":["{y}","{y}","{y}","{y}","{y}","{y}","{y}","{y}","{y}","{y}"]}`
	for _, n := range []string{"y", "x", "w"} {
		next := string(n[0] - 1)
		bomb += fmt.Sprintf(
			`,%q:{"$value":["{%[2]s}","{%[2]s}","{%[2]s}","{%[2]s}","{%[2]s}","{%[2]s}","{%[2]s}","{%[2]s}","{%[2]s}","{%[2]s}"]}`,
			n,
			next,
		)
	}
	bomb += `,"v":{"$value":"0 0 0 0 red"}}`
	cases := map[string]struct{ src, where, why string }{
		"a circle": {
			`{"c":{"$type":"color",` + "\n" + `"a":{"$value":"{c.b}"},"b":{"$value":"{c.a}"}}}`,
			"/c/a (line 2",
			"leads back to itself (c.a → c.b → c.a)",
		},
		"a circle inside": {
			`{"c":{"$type":"color","a":{"$value":"{s.b.color}"}},"s":{"b":{"$type":"shadow","$value":{"offsetX":"{s.b}","offsetY":"0px","blur":"0px","spread":"0px","color":"#000"}}}}`,
			"/c/a",
			"does not exist",
		},
		"an unknown type": {
			`{"c":{` + "\n" + `"$type":"colour","a":{"$value":"#fff"}}}`,
			"line 2",
			`the type "colour" is not known; accepted: border, color`,
		},
		"an alias of nothing": {`{"c":{"a":{"$value":"{d.e}"}}}`, "/c/a", "does not exist: d.e"},
		"an alias in a part": {
			`{"s":{"$type":"shadow","a":{"$value":{"offsetX":"0px","offsetY":"0px","blur":"0px","spread":"0px","color":"{c.no}"}}}}`,
			"/s/a",
			"c.no",
		},
		"the wrong kind": {`{"a":{"$type":"dimension","b":{"$value":"wide"}}}`, "/a/b", "it is no length"},
		"no number of unit": {
			`{"a":{"$type":"duration","b":{"$value":{"value":3,"unit":"px"}}}}`,
			"/a/b",
			"accepted: a number with a unit: ms, s",
		},
		"out of range": {
			`{"a":{"$type":"color","b":{"$value":{"colorSpace":"srgb","components":[0,0,2]}}}}`,
			"/a/b",
			"out of range",
		},
		"an unknown space": {
			`{"a":{"$type":"color","b":{"$value":{"colorSpace":"cmyk","components":[0,0,0]}}}}`,
			"/a/b",
			`"cmyk" is not known`,
		},
		"breaking out":       {`{"a":{"b":{"$value":"x} body{display:none"}}}`, "/a/b", "break out"},
		"breaking out again": {`{"a":{"$type":"fontFamily","b":{"$value":["a'; x"]}}}`, "/a/b", "break out"},
		"a bad name":         {`{"a":{"b c":{"$value":"1px"}}}`, "line 1", "cannot name a custom property"},
		"token and group":    {`{"a":{"$value":"1px","b":{"$value":"2px"}}}`, "/a", "both a token and a group"},
		"a token of a theme": {
			`{"a":{"$value":"1px"},"$extensions":{"ubiquant":{"themes":{"dark":{"b":{"$value":"2px"}}}}}}`,
			"/b",
			"does not exist",
		},
		"a pointer":        {`{"a":{"$value":{"$ref":"#/b"}}}`, "/a", "by pointer"},
		"extending":        {`{"a":{"$extends":"{b}"}}`, "/a", "$extends is not read"},
		"growing for ever": {bomb, "/", "too large"},
		"no JSON":          {`{"a":`, "line 1", ""},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			_, err := kit.ReadTokens([]byte(c.src), "k")
			require.Error(t, err)
			assert.Contains(t, err.Error(), c.where)
			assert.Contains(t, err.Error(), c.why)
		})
	}
}

func TestAThemeTakenAwayAndReadBackIsTheSame(t *testing.T) {
	k := testkit.Sorrel(t)
	for _, theme := range k.Tokens.Themes {
		out := k.Tokens.DTCG(theme, "A theme")
		assert.True(t, json.Valid(out))
		set, err := k.ReadTheme(out, theme)
		require.NoError(t, err)
		assert.Empty(t, set, "%s against itself", theme)
		set, err = k.ReadTheme(out, "light")
		require.NoError(t, err)
		back, err := k.Tokens.With(k, []kit.Theme{{ID: "again", Name: "Again", From: "light", Tokens: set}})
		require.NoError(t, err)
		for _, tok := range back.List {
			assert.Equal(t, tok.Values[theme], tok.Values["again"], tok.Path)
		}
	}
	dtcg := string(k.Tokens.DTCG("light", ""))
	assert.Contains(t, dtcg, `"{font.text}"`, "aliases stay aliases")
}

func TestATextThatAPersonWritesIsTheValueItShows(t *testing.T) {
	for _, tok := range testkit.Sorrel(t).Tokens.List {
		for theme, css := range tok.Values {
			if tok.Type == "shadow" && strings.Contains(css, "rgb") {
				continue
			}
			v, err := kit.ParseValue(tok.Type, css)
			require.NoError(t, err, "%s %s", tok.Path, css)
			tokens, err := kit.ReadTokens(
				[]byte(fmt.Sprintf(`{"a":{"$type":%q,"$value":%s}}`, tok.Type, v.JSON())),
				"k",
			)
			require.NoError(t, err)
			assert.Equal(t, css, tokens.List[0].Values["light"], "%s in %s", tok.Path, theme)
		}
	}
	for typ, text := range map[string]string{"color": "reddish", "dimension": "12 apples", "number": "many", "fontWeight": "2000", "cubicBezier": "1, 2", "shadow": "2px", "fontFamily": "a'b", "duration": "5px"} {
		_, err := kit.ParseValue(typ, text)
		assert.Error(t, err, "%s as %s", text, typ)
	}
	alias, err := kit.ParseValue("color", "{color.ink}")
	require.NoError(t, err)
	path, ok := alias.Alias()
	assert.True(t, ok)
	assert.Equal(t, "color.ink", path)
}

func TestWhatAliasesReachIsFound(t *testing.T) {
	k := testkit.Sorrel(t)
	assert.Equal(t, []string{"font.heading", "font.text"}, k.Tokens.Reached("font.text"))
	assert.Equal(t, []string{"font.heading"}, k.Tokens.Reached("font.heading"))
}

func hex(t *rapid.T, name string) string {
	return fmt.Sprintf("#%06X", rapid.IntRange(0, 0xffffff).Draw(t, name))
}

// Whatever accent and ground are chosen, what stands on them can be read: inks are
// moved until they do, so that only what was chosen outright can fail.
func TestAMadeThemeCanBeRead(t *testing.T) {
	k := testkit.Sorrel(t)
	rapid.Check(t, func(t *rapid.T) {
		m := kit.Making{Accent: hex(t, "accent")}
		from := rapid.SampledFrom([]string{"light", "dark"}).Draw(t, "from")
		made, err := k.With([]kit.Theme{{ID: "made", Name: "Made", From: from, Making: m}}, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		for _, c := range made.Checks("made") {
			if c.Fails && c.Ink != "color.accent" {
				t.Fatalf(
					"%s %s on %s %s has %.2f of %g",
					c.Ink,
					c.InkValue,
					c.Ground,
					c.GroundValue,
					c.Ratio,
					c.Needs,
				)
			}
		}
		accent, _ := made.Tokens.Find("color.accent")
		if accent.Values["made"] != m.Accent {
			t.Fatalf("the accent %s was chosen and is %s", m.Accent, accent.Values["made"])
		}
	})
}

func TestMakingAThemeChangesWhatItSays(t *testing.T) {
	k := testkit.Sorrel(t)
	value := func(m kit.Making, path string) string {
		made, err := k.With([]kit.Theme{{ID: "made", Name: "Made", From: "light", Making: m}}, nil, nil)
		require.NoError(t, err)
		tok, ok := made.Tokens.Find(path)
		require.True(t, ok)
		return tok.Values["made"]
	}
	zero, two := 0, 2
	assert.Equal(t, "0px", value(kit.Making{Radius: &zero}, "radius.box"))
	assert.Equal(t, "2px", value(kit.Making{Radius: &two}, "radius.control"))
	assert.Equal(t, "3px", value(kit.Making{Radius: &two}, "radius.box"), "in proportion: 6 to 10")
	assert.Equal(t, "12px", value(kit.Making{Density: "compact"}, "space.4"))
	assert.Equal(t, "24px", value(kit.Making{Step: 6}, "space.4"))
	assert.Equal(
		t,
		"'Lora Test', serif",
		value(kit.Making{Font: "Lora Test, serif"}, "font.heading"),
		"headings follow the text",
	)
	assert.Equal(t, "16px", value(kit.Making{Size: 16}, "text.m"))
	assert.Equal(t, "#10191C", func() string {
		made, err := k.With([]kit.Theme{{ID: "made", Name: "Made", From: "dark"}}, nil, nil)
		require.NoError(t, err)
		tok, _ := made.Tokens.Find("color.ground")
		return tok.Values["made"]
	}(), "what it starts from")
	for _, bad := range []kit.Making{{Accent: "green"}, {Accent: "#12"}, {Density: "tight"}, {Step: 90}, {Size: 3}, {Font: "a;b"}} {
		_, err := k.With([]kit.Theme{{ID: "made", Name: "Made", From: "light", Making: bad}}, nil, nil)
		assert.Error(t, err, "%+v", bad)
	}
	assert.Equal(t, []string{"accent", "ground", "radius", "density", "step", "font", "heading", "size"}, k.Makable())
}

func TestAChangeOfTheKitsOwnThemeIsATheme(t *testing.T) {
	k := testkit.Sorrel(t)
	v, err := kit.ParseValue("color", "#112233")
	require.NoError(t, err)
	made, err := k.With(
		[]kit.Theme{{ID: "dark", From: "dark", Tokens: map[string]kit.Value{"color.ink": v}}},
		nil,
		nil,
	)
	require.NoError(t, err)
	ink, _ := made.Tokens.Find("color.ink")
	assert.Equal(t, "#112233", ink.Values["dark"])
	was, _ := k.Tokens.Find("color.ink")
	assert.NotEqual(t, "#112233", was.Values["dark"], "the kit itself stays as it is")
	for _, th := range []kit.Theme{{ID: "x y", Name: "X", From: "light"}, {ID: "x", From: "light"}, {ID: "x", Name: "X", From: "y"}, {ID: "dark", From: "light"}, {ID: "x", Name: "X", From: "light", Tokens: map[string]kit.Value{"no.such": v}}, {ID: "x", Name: "X", From: "light", Tokens: map[string]kit.Value{"space.1": v}}} {
		assert.Error(t, th.Check(k), "%+v", th)
	}
	circle, _ := kit.ParseValue("fontFamily", "{font.heading}")
	th := kit.Theme{ID: "x", Name: "X", From: "light", Tokens: map[string]kit.Value{"font.text": circle}}
	assert.ErrorContains(t, th.Check(k), "leads back to itself")
}

func TestABareKitCanBeThemedByItsWords(t *testing.T) {
	k, err := kit.Read(
		kit.Sources{
			Manifest: []byte(bare),
			Tokens: []byte(
				`{"brand":{"$type":"color","main":{"$value":"#204060"},"soft":{"$value":"#d0e0f0"}},"spacing":{"$type":"dimension","s":{"$value":"4px"}}}`,
			),
		},
	)
	require.NoError(t, err)
	assert.Equal(t, []string{"accent", "density", "step"}, k.Makable())
	made, err := k.With(
		[]kit.Theme{{ID: "made", Name: "Made", From: "light", Making: kit.Making{Accent: "#602020"}}},
		nil,
		nil,
	)
	require.NoError(t, err)
	main, _ := made.Tokens.Find("brand.main")
	soft, _ := made.Tokens.Find("brand.soft")
	assert.Equal(t, "#602020", main.Values["made"])
	assert.NotEqual(t, "#d0e0f0", strings.ToLower(soft.Values["made"]), "it moves along")
}

func TestContrastIsThatOfTheGuidelines(t *testing.T) {
	for _, c := range []struct {
		a, b string
		want float64
	}{{"#000000", "#ffffff", 21}, {"#777777", "#ffffff", 4.48}, {"#fff", "#fff", 1}} {
		got, ok := kit.Contrast(c.a, c.b)
		assert.True(t, ok)
		assert.InDelta(t, c.want, got, 0.005)
	}
	_, ok := kit.Contrast("red", "#fff")
	assert.False(t, ok)
}

func FuzzReadTokens(f *testing.F) {
	f.Add(
		[]byte(
			`{"c":{"$type":"color","a":{"$value":"#fff"},"b":{"$value":"{c.a}"}},"s":{"$type":"shadow","x":{"$value":{"offsetX":"0px","offsetY":"0px","blur":"1px","spread":"0px","color":"{c.a}"}}},"$extensions":{"ubiquant":{"themes":{"light":{},"dark":{"c":{"a":{"$value":"#000"}}}}}}}`,
		),
	)
	f.Add(
		[]byte(
			`{"a":{"$value":[1,2]},"g":{"$type":"gradient","x":{"$value":[{"color":"#000","position":0},{"color":"#fff","position":2}]}}}`,
		),
	)
	f.Fuzz(func(t *testing.T, src []byte) {
		tokens, err := kit.ReadTokens(src, "k")
		if err != nil {
			return
		}
		for _, theme := range tokens.Themes {
			out := tokens.DTCG(theme, "")
			again, err := kit.ReadTokens(out, "k")
			if err != nil {
				t.Fatalf("%s cannot be read back: %v", out, err)
			}
			for _, tok := range tokens.List {
				back, ok := again.Find(tok.Path)
				if !ok || back.Values["light"] != tok.Values[theme] {
					t.Fatalf("%s is %q, read back %+v", tok.Path, tok.Values[theme], back)
				}
				if strings.ContainsAny(tok.Values[theme], ";{}<>") {
					t.Fatalf("%s could break out of a style sheet: %q", tok.Path, tok.Values[theme])
				}
			}
		}
	})
}
