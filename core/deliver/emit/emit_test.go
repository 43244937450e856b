package emit

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/evanw/esbuild/pkg/api"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// canonical is how esbuild writes a module: two that mean the same are the same.
func canonical(t require.TestingT, code string) string {
	out := api.Transform(code, api.TransformOptions{Loader: api.LoaderTS, MinifySyntax: true, Charset: api.CharsetUTF8})
	require.Empty(t, out.Errors, code)
	return string(out.Code)
}

var texts = rapid.OneOf(
	rapid.String(),
	rapid.StringOfN(rapid.RuneFrom([]rune("'\"`\\${}<>/&!-; \n\u2028ab")), 0, 24, -1),
	rapid.SampledFrom([]string{"</script>", "<!--", "{{ x }}", "}}", "${x}", "&lt;", "*/", "\\", "<b>", "&amp", "&#123;",
		`\u003c`, `\u003cb>`, `\u0026`, `\"`, "< b", "&"}),
)

// Whatever a text holds, its literal is that text, in every style, and ends nothing that it
// stands in.
func TestALiteralIsItsText(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := strings.ToValidUTF8(texts.Draw(t, "text"), "")
		b, err := json.Marshal(text)
		require.NoError(t, err)
		want := canonical(t, "x = "+string(b))
		for _, s := range []Style{Plain, {Double: true, Width: 80}, {Markup: true, Width: 80}} {
			got := s.Quote(text)
			assert.Equal(t, want, canonical(t, "x = "+got))
			assert.NotContains(t, strings.ToLower(got), "</script")
			if s.Markup {
				assert.NotContains(t, got, `"`)
				assert.NotContains(t, got, "{{")
				assert.NotContains(t, got, "}}")
			}
			tpl := s.Inline(Template{Parts: []Expr{Str(text), Name("y")}})
			assert.Equal(t, canonical(t, "x = "+string(b)+" + `${y}`"), canonical(t, "x = "+tpl), tpl)
		}
	})
}

// Names are given out once, are names to the language, and never mean something already.
func TestNamesNeverClash(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var names Names
		met := map[string]bool{}
		var around []string
		for range rapid.IntRange(1, 20).Draw(t, "n") {
			wanted := rapid.SampledFrom([]string{"ticket", "class", "new ticket", "NewTicket", "2 beds", "ünï", "", "delete", "x-y"}).Draw(t, "wanted")
			if rapid.Bool().Draw(t, "local") {
				name := names.Local(wanted, around)
				assert.False(t, met[name], "%s shadows a name outside", name)
				assert.NotContains(t, around, name)
				around = append(around, name)
				continue
			}
			name := names.Take(wanted)
			assert.True(t, IsIdentifier(name), name)
			assert.False(t, Reserved(name), name)
			assert.False(t, met[name], name)
			assert.NotContains(t, around, name)
			met[name] = true
		}
	})
}

func TestImportsFollowFromWhatIsReferredTo(t *testing.T) {
	var names Names
	names.Keep("find")
	i := NewImports(&names)
	assert.Equal(t, "find2", i.Value("../lib/values", "find", ""))
	assert.Equal(t, "Ticket", i.Type("../data/models", "Ticket"))
	assert.Equal(t, "ref", i.Value("vue", "ref", ""))
	i.Type("vue", "Ref")
	assert.Equal(t, "Fact", i.Value("./Fact.vue", "default", "Fact"))
	i.Type("vue", "ref") // a value stays one
	assert.Equal(t, `import { type Ref, ref } from 'vue'
import type { Ticket } from '../data/models'
import { find as find2 } from '../lib/values'
import Fact from './Fact.vue'
`, Print(i.Doc(Plain), 100))
}

// Lines break where the formatter that most repositories use breaks them.
func TestLinesBreakWhereReadersExpect(t *testing.T) {
	long := Name("aNameThatIsLongEnoughToBreakLines")
	for want, e := range map[string]Expr{
		"(a + b) * c":               Binary{"*", Binary{"+", Name("a"), Name("b")}, Name("c")},
		"a && (b || c)":             Binary{"&&", Name("a"), Binary{"||", Name("b"), Name("c")}},
		"!(a === b)":                Unary{"!", Binary{"===", Name("a"), Name("b")}},
		"x => ({ a: 1 })":           Arrow{Params: []string{"x"}, Of: Object{[]Field{{Key: "a", Value: Name("1")}}}},
		"(a as string).length":      Member{Of: As{Name("a"), "string"}, Name: "length"},
		"{ a, ...b, [c.id]: true }": Object{[]Field{{Key: "a", Value: Name("a")}, {Key: "b"}, {At: Name("c.id"), Value: Name("true")}}},
		"a?.b?.(1)":                 Call{Fn: Member{Of: Name("a"), Name: "b", Maybe: true}, Args: []Expr{Name("1")}, Maybe: true},
		"a['not-a-name']":           Member{Of: Name("a"), Name: "not-a-name"},
		"() => {}":                  Arrow{},
		"`${a} of ${b}`":            Template{[]Expr{Name("a"), Str(" of "), Name("b")}},
		"a\n  ? b\n  : c\n    ? " + string(long) + string(long) + "\n    : " + string(long): Cond{Name("a"), Name("b"), Cond{Name("c"), long + long, long}},
		"list.filter(\n  x =>\n    " + string(long) + " === x &&\n    " + string(long) + " === x,\n)": Call{Fn: Member{Of: Name("list"), Name: "filter"}, Args: []Expr{Arrow{
			Params: []string{"x"}, Of: Binary{"&&", Binary{"===", long, Name("x")}, Binary{"===", long, Name("x")}},
		}}},
		"a &&\n(" + string(long) + " ||\n  " + string(long) + ")": Binary{"&&", Name("a"), Binary{"||", long, long}},
	} {
		assert.Equal(t, want, Print(Plain.Doc(e), 60))
	}
}

func TestMarksTellWhereAPartBegins(t *testing.T) {
	inner := Tag{Name: "b", Short: true}.Doc()
	text, places := PrintMarked(Mark("a", Tag{Name: "a", Kids: []Doc{Mark("b", inner), Mark("c", inner)}}.Doc()), 80)
	assert.Equal(t, "<a>\n  <b />\n  <b />\n</a>", text)
	assert.Equal(t, map[string]Place{"a": {1, 0}, "b": {2, 6}, "c": {3, 14}}, places)
	// Lines that come out empty are no part of the text.
	text, places = PrintMarked(Indent("x", "", Mark("y", "y")), 80)
	assert.Equal(t, byte('y'), text[places["y"].At])
}

// Objects, or lists, of several things each stand below each other, and so does what is around them.
func TestATableOfObjectsHasARowEach(t *testing.T) {
	one := func(n string) Expr {
		return Object{Fields: []Field{{Key: "id", Value: Str(n)}, {Key: "n", Value: Name("1")}}}
	}
	assert.Equal(t, "[\n  { id: 'a', n: 1 },\n  { id: 'b', n: 1 },\n]", Print(Plain.Doc(List{Of: []Expr{one("a"), one("b")}}), 100))
	assert.Equal(t, "[{ id: 'a', n: 1 }]", Print(Plain.Doc(List{Of: []Expr{one("a")}}), 100))
	within := Object{Fields: []Field{{Key: "x", Value: Call{Fn: Name("f"), Args: []Expr{List{Of: []Expr{one("a"), one("b")}}}}}}}
	assert.Equal(t, "{\n  x: f([\n    { id: 'a', n: 1 },\n    { id: 'b', n: 1 },\n  ]),\n}", Print(Plain.Doc(within), 100))
}
