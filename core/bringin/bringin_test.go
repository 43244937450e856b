package bringin_test

import (
	"flag"
	"fmt"
	"os"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"ubiquant/core/bringin"
	"ubiquant/core/kit"
	"ubiquant/core/screen"
	"ubiquant/internal/testkit"
)

var renew = flag.Bool("renew", false, "write the golden file anew")

type fragment struct{ name, src string }

func fragments(t testing.TB) []fragment {
	b, err := os.ReadFile("testdata/fragments.txt")
	require.NoError(t, err)
	var out []fragment
	for _, part := range regexp.MustCompile(`(?m)^-- (.*) --$`).Split(string(b), -1)[1:] {
		out = append(out, fragment{src: strings.TrimSpace(part)})
	}
	for i, m := range regexp.MustCompile(`(?m)^-- (.*) --$`).FindAllStringSubmatch(string(b), -1) {
		out[i].name = m[1]
	}
	return out
}

// outline writes elements as lines, as a reader of a screen would.
func outline(b *strings.Builder, k *kit.Kit, e *screen.Element, depth int) {
	title := e.Type
	if c, ok := k.Component(e.Type); ok {
		title = c.Title
	}
	b.WriteString(strings.Repeat("  ", depth))
	if e.Slot != "" {
		b.WriteString(e.Slot + ": ")
	}
	b.WriteString(title)
	if e.Name != "" {
		b.WriteString(" ." + e.Name)
	}
	if e.Text.Text != "" {
		fmt.Fprintf(b, " “%s”", e.Text.Text)
	}
	for _, p := range e.Props {
		fmt.Fprintf(b, " %s=%s", p.Name, p.Value.Text)
	}
	b.WriteString("\n")
	for _, c := range e.Children {
		outline(b, k, c, depth+1)
	}
}

func TestFragmentsInManyStylesAreReadAsReviewed(t *testing.T) {
	k := testkit.Sorrel(t)
	list := fragments(t)
	require.GreaterOrEqual(t, len(list), 40)
	var b strings.Builder
	for _, f := range list {
		res, err := bringin.Read([]byte(f.src), k, bringin.Options{Prefix: "m"})
		require.NoError(t, err, f.name)
		b.WriteString("-- " + f.name + " --\n")
		for _, e := range res.Roots {
			outline(&b, k, e, 0)
		}
		for _, g := range res.Guesses {
			if g.Certainty < 0.9 {
				fmt.Fprintf(&b, "? %s %.2f %s\n", g.Title, g.Certainty, g.From)
			}
		}
		for _, n := range res.LeftOut {
			fmt.Fprintf(&b, "- %s: %s\n", n.What, n.Why)
		}
		for _, n := range res.Needs {
			fmt.Fprintf(&b, "! %s: %s\n", n.What, n.Why)
		}
	}
	if *renew {
		require.NoError(t, os.WriteFile("testdata/fragments.golden", []byte(b.String()), 0o644))
	}
	want, err := os.ReadFile("testdata/fragments.golden")
	require.NoError(t, err)
	assert.Equal(t, string(want), b.String())
}

// allSaid is all that elements say, in their texts and settings.
func allSaid(list []*screen.Element) string {
	var b strings.Builder
	for _, root := range list {
		root.Walk(func(e, _ *screen.Element) bool {
			b.WriteString(" " + e.Text.Text)
			for _, p := range e.Props {
				b.WriteString(" " + p.Value.Text)
			}
			return true
		})
	}
	return b.String()
}

var word = regexp.MustCompile(`[\p{L}\p{N}]+`)

// wordsOf are the words that markup shows.
func wordsOf(src string) []string {
	var out []string
	z := html.NewTokenizer(strings.NewReader(src))
	skip := 0
	for {
		switch z.Next() {
		case html.ErrorToken:
			return out
		case html.StartTagToken:
			if name, _ := z.TagName(); slices.Contains([]string{"script", "style", "title", "iframe"}, string(name)) {
				skip++
			}
		case html.EndTagToken:
			if name, _ := z.TagName(); slices.Contains([]string{"script", "style", "title", "iframe"}, string(name)) {
				skip--
			}
		case html.TextToken:
			if skip == 0 {
				out = append(out, word.FindAllString(string(z.Text()), -1)...)
			}
		}
	}
}

func TestNoTextAndNoFieldIsLost(t *testing.T) {
	k := testkit.Sorrel(t)
	for _, f := range fragments(t) {
		if f.name == "pagination" { // the kit's pager counts by itself
			continue
		}
		res, err := bringin.Read([]byte(f.src), k, bringin.Options{Prefix: "m"})
		require.NoError(t, err)
		said := allSaid(res.Roots)
		for _, w := range wordsOf(f.src) {
			if w == "GL" || w == "40" || w == "p" { // initials are made of the name, 10 of 40 is 25 %
				continue
			}
			assert.Contains(t, said, w, f.name)
		}
		for _, m := range regexp.MustCompile(`<(?:input|select|textarea)[^>]* name="(\w+)"`).FindAllStringSubmatch(f.src, -1) {
			assert.Contains(t, said, m[1], "%s: the field %s", f.name, m[1])
		}
	}
}

// stands checks that a tree may stand as it is: what the kit knows, where it may be,
// set to what it may have, with ids that are unique.
func stands(t require.TestingT, k *kit.Kit, roots []*screen.Element) {
	root := &screen.Element{ID: "root", Type: "stack"}
	after := ""
	for _, e := range roots {
		next, _, err := screen.Apply(root, screen.Edit{Op: screen.Insert, Parent: "root", After: after, Tree: e}, k)
		require.NoError(t, err)
		root, after = next, e.ID
	}
}

func TestWhatIsReadMayStandOnAScreen(t *testing.T) {
	k := testkit.Sorrel(t)
	for _, f := range fragments(t) {
		t.Run(f.name, func(t *testing.T) {
			res, err := bringin.Read([]byte(f.src), k, bringin.Options{Prefix: "m"})
			require.NoError(t, err)
			stands(t, k, res.Roots)
		})
	}
}

func TestNothingThatRunsComesIn(t *testing.T) {
	k := testkit.Sorrel(t)
	for _, src := range []string{`<a href="javascript:alert(1)">x</a>`, `<a href=" java&#10;script:alert(1)">x</a>`, `<img src="data:text/html,<script>alert(1)</script>" alt="x">`, `<div onclick="alert(1)" style="background:url(javascript:alert(1))">x</div>`, `<svg onload="alert(1)"><script>alert(1)</script></svg><p>x</p>`, `<sorrel-link to="javascript:alert(1)">x</sorrel-link>`} {
		res, err := bringin.Read([]byte(src), k, bringin.Options{Prefix: "m"})
		require.NoError(t, err, src)
		assert.NotContains(t, strings.ToLower(allSaid(res.Roots)), "alert", src)
	}
}

func TestWhatCannotBeReadSaysWhy(t *testing.T) {
	k := testkit.Sorrel(t)
	for want, src := range map[string]string{
		"nothing to bring in": "<script>x</script>  <!-- only a comment -->",
		"nested deeper":       strings.Repeat("<div>", 400) + "x",
		"accepted: up to":     "<p>" + strings.Repeat("x", 2<<20),
		"in parts":            strings.Repeat("<p>x", 30_000),
	} {
		_, err := bringin.Read([]byte(src), k, bringin.Options{})
		var own *bringin.Error
		require.ErrorAs(t, err, &own)
		assert.ErrorContains(t, err, want)
	}
}

func TestAChoiceReplacesAGuessAndKeepsTheRest(t *testing.T) {
	k := testkit.Sorrel(t)
	src := `<div><p>Before</p><div class="panel"><h3>Dell</h3><p>Shade</p></div><p>After</p></div>`
	first, err := bringin.Read([]byte(src), k, bringin.Options{Prefix: "m"})
	require.NoError(t, err)
	at := slices.IndexFunc(first.Guesses, func(g bringin.Guess) bool { return g.Type == "sorrel-card" })
	require.GreaterOrEqual(t, at, 0)
	id := first.Guesses[at].Element
	second, err := bringin.Read(
		[]byte(src),
		k,
		bringin.Options{Prefix: "m", Chosen: map[string]string{id: "sorrel-alert"}},
	)
	require.NoError(t, err)
	said := allSaid(second.Roots)
	for _, w := range []string{"Before", "Dell", "Shade", "After"} {
		assert.Contains(t, said, w)
	}
	var types []string
	for _, e := range second.Roots {
		e.Walk(func(e, _ *screen.Element) bool { types = append(types, e.Type); return true })
	}
	assert.Contains(t, types, "sorrel-alert")
	assert.NotContains(t, types, "sorrel-card")
	third, err := bringin.Read(
		[]byte(src),
		k,
		bringin.Options{Prefix: "m", Chosen: map[string]string{id: bringin.Plain}},
	)
	require.NoError(t, err)
	assert.Contains(t, allSaid(third.Roots), "Shade")
}

func FuzzRead(f *testing.F) {
	for _, fr := range fragments(f) {
		f.Add(fr.src)
	}
	k := testkit.Sorrel(f)
	f.Fuzz(func(t *testing.T, src string) {
		res, err := bringin.Read([]byte(src), k, bringin.Options{Prefix: "m"})
		if err != nil {
			return
		}
		stands(t, k, res.Roots)
	})
}
