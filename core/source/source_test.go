package source_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/screen"
	"ubiquant/core/source"
)

// attribute is where an attribute stands in a text, by how it is written there.
func attribute(t *testing.T, text, written, name, kind, form string) source.Attribute {
	t.Helper()
	at := strings.Index(text, written)
	require.GreaterOrEqual(t, at, 0, "%q in %q", written, text)
	a := source.Attribute{Name: name, Span: source.Span{at, at + len(written)}}
	a.Kind, a.Form = kind, form
	_, value, valued := strings.Cut(written, "=")
	switch {
	case !valued:
		a.At = &source.Span{at, at + len(written)}
		a.Value.Value = "true"
	case form == "script":
		inner := strings.Trim(value, "{}\"")
		if strings.HasPrefix(value, "{") {
			inner = strings.TrimSuffix(strings.TrimPrefix(value, "{"), "}")
		}
		from := at + strings.Index(written, inner)
		a.At = &source.Span{from, from + len(inner)}
		a.Value.Value = strings.Trim(inner, "'\"")
	case form == "attribute":
		from := at + len(written) - len(value)
		a.At = &source.Span{from, from + len(value)}
		a.Value.Value = strings.Trim(value, "'\"")
	}
	return a
}

func set(prop string, v screen.Value) screen.Edit {
	return screen.Edit{Op: screen.Set, ID: "e", Prop: prop, Value: v}
}

// A repair is written as its language writes it, in the quotes and on the lines that stand there.
func TestARepairIsWrittenAsItsLanguageWritesIt(t *testing.T) {
	unset := screen.Edit{Op: screen.Unset, ID: "e", Prop: "look"}
	says := func(s string) screen.Edit { return screen.Edit{Op: screen.SetText, ID: "e", Value: screen.Lit(s)} }
	for _, c := range []struct {
		language, text, written, kind, form string
		edit                                screen.Edit
		want, why                           string
	}{
		{"tsx", `<B look="a">Hi</B>`, `look="a"`, "text", "attribute", set("look", screen.Lit("b")), `<B look="b">Hi</B>`, ""},
		{"tsx", `<B look='a'>Hi</B>`, `look='a'`, "text", "attribute", set("look", screen.Lit("b")), `<B look='b'>Hi</B>`, ""},
		{"tsx", `<B look="a">Hi</B>`, `look="a"`, "text", "attribute", set("look", screen.Lit(`b "c"`)), `<B look={"b \"c\""}>Hi</B>`, ""},
		{"tsx", `<B look={'a'}>Hi</B>`, `look={'a'}`, "text", "script", set("look", screen.Lit("it's")), `<B look={'it\'s'}>Hi</B>`, ""},
		{"tsx", `<B look={3}>Hi</B>`, `look={3}`, "number", "script", set("look", screen.Value{Kind: screen.Num, Text: "4"}), `<B look={4}>Hi</B>`, ""},
		{"tsx", `<B look="a">Hi</B>`, `look="a"`, "text", "attribute", set("look", screen.Value{Kind: screen.Num, Text: "4"}), `<B look={4}>Hi</B>`, ""},
		{"tsx", `<B look>Hi</B>`, `look`, "flag", "bare", set("look", screen.FlagValue(false)), `<B look={false}>Hi</B>`, ""},
		{"vue", `<b look>Hi</b>`, `look`, "flag", "bare", set("look", screen.FlagValue(false)), `<b :look="false">Hi</b>`, ""},
		{"vue", `<b look="a">Hi</b>`, `look="a"`, "text", "attribute", set("look", screen.Lit(`"&`)), `<b look="&#34;&amp;">Hi</b>`, ""},
		{"tsx", "<B\n  one\n  look=\"a\"\n>Hi</B>", `look="a"`, "text", "attribute", unset, "<B\n  one\n>Hi</B>", ""},
		{"tsx", "<B\r\n  look=\"a\"\r\n>Hi</B>", `look="a"`, "text", "attribute", set("size", screen.Lit("s")), "<B\r\n  look=\"a\"\r\n  size=\"s\"\r\n>Hi</B>", ""},
		{"tsx", `<B look="a">Hi</B>`, `look="a"`, "text", "attribute", set("isWide", screen.FlagValue(true)), `<B look="a" isWide>Hi</B>`, ""},
		{"vue", `<b look="a">Hi</b>`, `look="a"`, "text", "attribute", set("isWide", screen.FlagValue(true)), `<b look="a" is-wide>Hi</b>`, ""},
		{"angular", `<b look="a">Hi</b>`, `look="a"`, "text", "attribute", set("wide", screen.FlagValue(true)), `<b look="a" [wide]="true">Hi</b>`, ""},
		{"html", `<b look="a">Hi</b>`, `look="a"`, "text", "attribute", set("wide", screen.Value{Kind: screen.Num, Text: "2"}), `<b look="a" wide="2">Hi</b>`, ""},
		{"tsx", `<B look="a">Hi</B>`, `look="a"`, "text", "attribute", says("a {b}"), `<B look="a">{"a {b}"}</B>`, ""},
		{"vue", `<b look="a">Hi</b>`, `look="a"`, "text", "attribute", says("a < b & c"), `<b look="a">a &lt; b &amp; c</b>`, ""},
		{"vue", `<b look="a">Hi</b>`, `look="a"`, "text", "attribute", says("a {{ b }}"), "", "would be read as something computed"},
		{"tsx", `<B look="a">Hi</B>`, `look="a"`, "text", "attribute", screen.Edit{Op: screen.Move, ID: "e"}, "", "more than a change of a literal"},
		{"tsx", `<B look="a">Hi</B>`, `look="a"`, "text", "attribute", screen.Edit{Op: screen.Set, ID: "gone", Prop: "look"}, "", "is not known"},
		{"tsx", `<B look={a}>Hi</B>`, `look={a}`, "bound", "", set("look", screen.Lit("b")), "", "look is computed"},
	} {
		file := &source.File{Path: "a", Text: []byte(c.text), Module: &source.Module{Language: c.language}}
		a := attribute(t, c.text, c.written, "look", c.kind, c.form)
		hi := strings.Index(c.text, ">Hi<") + 1
		p := &source.Place{
			File: file, Node: &source.Node{Kind: "element", Name: "B", Attributes: []source.Attribute{a}, Room: a.Span[1]}, Props: map[string]*source.Attribute{},
			Text: &source.Value{Kind: "text", Form: "content", Value: "Hi", At: &source.Span{hi, hi + 2}},
		}
		if a.Literal() {
			p.Props["look"] = &p.Node.Attributes[0]
		}
		r := &source.Read{Places: map[string]map[string]*source.Place{"screen:a": {"e": p}}}
		files, unmade := r.Patch([]source.Repair{{Key: "k", Doc: "screen:a", Edits: []screen.Edit{c.edit}}})
		if c.why != "" {
			require.Len(t, unmade, 1, c.text)
			assert.Contains(t, unmade[0].Why, c.why)
			assert.Empty(t, files)
			continue
		}
		require.Len(t, files, 1, "%s %v", c.text, unmade)
		assert.Equal(t, c.want, string(files[0].After))
		assert.Equal(t, c.text, string(source.Reverse(files)[0].After))
	}
}

func TestTwoRepairsOfOnePlaceAreNotBothMade(t *testing.T) {
	text := `<B look="a"/>`
	file := &source.File{Path: "a", Text: []byte(text), Module: &source.Module{Language: "tsx"}}
	a := attribute(t, text, `look="a"`, "look", "text", "attribute")
	p := &source.Place{File: file, Node: &source.Node{Attributes: []source.Attribute{a}, Room: a.Span[1]}, Props: map[string]*source.Attribute{"look": &a}}
	r := &source.Read{Places: map[string]map[string]*source.Place{"screen:a": {"e": p}}}
	repair := func(key, to string) source.Repair {
		return source.Repair{Key: key, Doc: "screen:a", Edits: []screen.Edit{set("look", screen.Lit(to))}}
	}
	files, unmade := r.Patch([]source.Repair{repair("one", "b"), repair("same", "b"), repair("other", "c")})
	require.Len(t, files, 1)
	assert.Equal(t, `<B look="b"/>`, string(files[0].After))
	require.Len(t, unmade, 1)
	assert.Equal(t, "other", unmade[0].Key)
	assert.Contains(t, unmade[0].Why, "another repair changes the same place")
}

func TestSettingsSayWhatIsWrong(t *testing.T) {
	for text, want := range map[string]string{
		`{`: "unexpected EOF",
		"{\n \"format\": \"ubiquant.repository/1\",\n \"kits\": [,]}": "line 3",
		`{"format":"x"}`: `accepted: "ubiquant.repository/1"`,
		`{"format":"ubiquant.repository/1","colour":1}`:                         "unknown field",
		`{"format":"ubiquant.repository/1","kits":["../up"]}`:                   "neither a package nor a folder",
		`{"format":"ubiquant.repository/1","standsFor":{"a":"b"}}`:              "is not understood; accepted:",
		`{"format":"ubiquant.repository/1","houseRules":[{"prop":"size"}]}`:     "a spot and a prop are needed",
		`{"format":"ubiquant.repository/1","letStand":[{"key":"k"}]}`:           "a key and a reason are needed",
		`{"format":"ubiquant.repository/1"} {"format":"ubiquant.repository/1"}`: "something stands behind",
	} {
		_, err := source.ReadSettings([]byte(text))
		assert.ErrorContains(t, err, want, text)
	}
	s := &source.Settings{Kits: []string{"@acme/ui", "./src/ui"}, Ignore: []string{"src/old/**"}}
	again, err := source.ReadSettings(s.Write())
	require.NoError(t, err)
	assert.Equal(t, s, again)
}

func TestPatternsFitPaths(t *testing.T) {
	for pattern, fits := range map[string][]string{
		"src/pages/**":      {"src/pages/A.tsx", "src/pages/a/B.tsx"},
		"**/*.stories.tsx":  {"A.stories.tsx", "src/a/B.stories.tsx"},
		"src/old":           {"src/old/a/B.tsx"},
		"./src/*/Page.vue":  {"src/a/Page.vue"},
		"src/(app)/page.ts": {"src/(app)/page.ts"},
	} {
		for _, p := range fits {
			assert.True(t, source.Match(pattern, p), "%s %s", pattern, p)
		}
		for _, p := range []string{"src/other/A.tsx", "src/a/b/Page.vue", "old/src/a.ts"} {
			assert.False(t, source.Match(pattern, p), "%s %s", pattern, p)
		}
	}
}

func TestPlainPagesAreReadWithoutAnything(t *testing.T) {
	m := source.ReadHTML([]byte(`<!doctype html><html><body><kit-bar title="A &amp; B" wide size=3><kit-button slot='end' {{ more }} look="{{ look }}">Save é</kit-button></kit-bar><br><p>{% if x %}</p></body></html>`))
	require.NotNil(t, m)
	bar := m.Components[0].Roots[0]
	require.Equal(t, "kit-bar", bar.Name)
	assert.Equal(t, "A & B", bar.Attributes[0].Value.Value)
	assert.Equal(t, "flag", bar.Attributes[1].Kind)
	assert.Equal(t, "3", bar.Attributes[2].Value.Value)
	button := bar.Children[0]
	assert.Equal(t, "end", button.Slot)
	look := button.Attributes[len(button.Attributes)-1]
	assert.Equal(t, "bound", look.Kind)
	assert.Equal(t, "Save é", button.Children[0].Value.Value)
	assert.Equal(t, "bound", m.Components[0].Roots[2].Children[0].Value.Kind)
	assert.Nil(t, source.ReadHTML([]byte(`<p>No component</p>`)))
}

// Whatever a page holds, every place that is read of it lies inside of it, and a literal's place
// holds the literal.
func FuzzReadHTML(f *testing.F) {
	for _, s := range []string{`<a-b c="d" e>f</a-b>`, `<a-b c='d`, `<a-b c=d/><`, "<a-b\n c = \"d\"\n>é</a-b>", `<a-b {{x}}>`, `<!-- <a-b> --><a-b>`, `<a-b =x =y>`} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, src []byte) {
		m := source.ReadHTML(src)
		if m == nil {
			return
		}
		var check func(list []*source.Node)
		check = func(list []*source.Node) {
			for _, n := range list {
				require.True(t, 0 <= n.Span[0] && n.Span[0] <= n.Span[1] && n.Span[1] <= len(src))
				for _, a := range n.Attributes {
					require.True(t, n.Span[0] <= a.Span[0] && a.Span[0] <= a.Span[1] && a.Span[1] <= len(src))
					if a.At != nil {
						require.True(t, a.Span[0] <= a.At[0] && a.At[1] <= a.Span[1])
					}
				}
				check(n.Children)
			}
		}
		for _, c := range m.Components {
			check(c.Roots)
		}
	})
}

func TestAnswersThatSpeakOfOtherFilesAreRefused(t *testing.T) {
	for _, answer := range []string{
		`{"components":[{"roots":[{"kind":"element","span":[0,99]}]}]}`,
		`{"components":[{"roots":[{"kind":"element","span":[5,2]}]}]}`,
		`{"components":[{"roots":[{"kind":"element","span":[0,2],"attributes":[{"name":"a","span":[0,2],"at":[0,88]}]}]}]}`,
		`{"components":[{"roots":[null]}]}`, `{"components":[null]}`,
	} {
		_, err := source.Parse([]byte(answer), 10)
		assert.ErrorContains(t, err, "outside of the file", answer)
	}
	_, err := source.Parse([]byte(`{`), 10)
	assert.Error(t, err)
}
