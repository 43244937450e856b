package norm_test

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/kit"
	"ubiquant/core/norm"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
	"ubiquant/internal/generate"
	"ubiquant/internal/testkit"
)

// formDoc is a screen with one form: its submit button has an emphasis, and more stands in it.
func formDoc(t testing.TB, id, emphasis, more string) *screen.Document {
	tree := fmt.Sprintf(
		`{"id":"r","type":"section","props":{"gap":"5"},"children":[{"id":"f","type":"sorrel-form","children":[%s
		 {"id":"c","type":"sorrel-button","slot":"actions","text":"Cancel","props":{"emphasis":"bare","to":"/%s"}},
		 {"id":"s","type":"sorrel-button","slot":"actions","text":"Save","props":{"action":"submit","emphasis":"%s"}}]}]}`,
		more, id, emphasis,
	)
	return &screen.Document{
		Kind: screen.ScreenDoc, ID: id, Title: "Form " + id, Route: "/" + id + "/new", App: "a", Root: testkit.Tree(t, tree),
	}
}

// forms are so many of them; with says for each which emphasis it has.
func forms(t testing.TB, n int, with func(i int) string) []*screen.Document {
	var out []*screen.Document
	for i := range n {
		out = append(out, formDoc(t, fmt.Sprintf("%s%d", string(rune('a'+i%26)), i), with(i), ""))
	}
	return out
}

func judge(t testing.TB, docs ...*screen.Document) *norm.Norms {
	k := testkit.Sorrel(t)
	ix := usage.New(k)
	for _, d := range docs {
		ix.Put(d)
	}
	return norm.New(ix, k, nil)
}

func about(list []norm.Stray, prop string) (docs []string) {
	for _, s := range list {
		if s.Prop == prop {
			docs = append(docs, s.Doc)
		}
	}
	slices.Sort(docs)
	return docs
}

// asked lists the documents on the smaller sides of the questions about a prop.
func asked(n *norm.Norms, prop string) (docs []string) {
	for _, q := range n.Questions() {
		if q.Prop == prop {
			for _, s := range q.Sides[1:] {
				docs = append(docs, s.Docs...)
			}
		}
	}
	return docs
}

// However many of 35 screens depart, it is told: as strays while they are few, as a question when
// they are many. Nothing falls between.
func TestNothingFallsBetweenStraysAndQuestions(t *testing.T) {
	wasAsked := false
	for depart := 1; depart <= 17; depart++ {
		n := judge(t, forms(t, 35, func(i int) string {
			if i < depart {
				return "soft"
			}
			return "strong"
		})...)
		strays, questions := about(n.Strays(), "emphasis"), asked(n, "emphasis")
		if len(questions) > 0 {
			wasAsked = true
			assert.Len(t, questions, depart)
			assert.Empty(t, strays, "%d: it is asked, nobody is accused", depart)
			continue
		}
		assert.False(t, wasAsked, "%d: once it is a question, more on the smaller side do not end it", depart)
		told := len(strays) + len(about(n.Leans(), "emphasis"))
		assert.Equal(t, depart, told, "%d departures", depart)
		if depart <= 3 {
			assert.Len(t, strays, depart, "few departures are strays")
		}
	}
	assert.True(t, wasAsked)
}

func TestASmallTeamIsToldWhatIsWorthALook(t *testing.T) {
	few := judge(t, forms(t, 4, func(i int) string { return []string{"soft", "strong", "strong", "strong"}[i] })...)
	assert.Empty(t, few.Strays(), "of four screens nothing is said")
	small := judge(t, forms(t, 9, func(i int) string {
		if i == 4 {
			return "soft"
		}
		return "strong"
	})...)
	list := small.Strays()
	require.Len(t, list, 1)
	assert.Equal(t, norm.Look, list[0].Certainty)
	assert.Contains(t, list[0].Why, "so few say little")
	assert.Equal(t, "e4", strings.TrimPrefix(list[0].Doc, "screen:"))
}

// Copies on one screen do not vouch for each other.
func TestEvidenceIsCountedInScreens(t *testing.T) {
	docs := forms(t, 20, func(int) string { return "strong" })
	var many strings.Builder
	for i := range 30 {
		fmt.Fprintf(&many, `{"id":"x%d","type":"sorrel-chip","text":"x","props":{"shape":"square"}},`, i)
	}
	for i := range docs {
		docs[i] = formDoc(t, docs[i].ID, "strong", `{"id":"x","type":"sorrel-chip","text":"x"},`)
	}
	docs[7] = formDoc(t, docs[7].ID, "strong", many.String())
	assert.Equal(t, []string{"screen:" + docs[7].ID}, slices.Compact(about(judge(t, docs...).Strays(), "shape")),
		"thirty of them on one screen are one screen's opinion")
}

// What all screens of one context share is its habit, and what departs inside of it is a slip.
func TestAContextHasAHabitOfItsOwn(t *testing.T) {
	dialog := `{"id":"d","type":"sorrel-dialog","props":{"heading":"Sure?"},"children":[
	 {"id":"k","type":"sorrel-button","slot":"actions","text":"Keep","props":{"emphasis":"bare","does":"close d"}},
	 {"id":"g","type":"sorrel-button","slot":"actions","text":"Go","props":{"emphasis":"%s","to":"/"}}]},`
	docs := forms(t, 40, func(int) string { return "strong" })
	for i := range 18 {
		docs[i] = formDoc(t, docs[i].ID, "strong", fmt.Sprintf(dialog, "soft"))
	}
	n := judge(t, docs...)
	assert.Empty(t, about(n.Strays(), "emphasis"), "soft buttons belong to dialogs")
	assert.Empty(t, asked(n, "emphasis"), "and are no second mind")
	docs[3] = formDoc(t, docs[3].ID, "strong", fmt.Sprintf(dialog, "strong"))
	var told []string
	for _, s := range judge(t, docs...).Strays() {
		if s.Prop == "emphasis" {
			told = append(told, s.Doc+"#"+s.Element)
		}
	}
	assert.Equal(t, []string{"screen:" + docs[3].ID + "#g"}, told, "a strong one inside a dialog strays")
}

func TestWhatTheToolFilledInIsNoEvidence(t *testing.T) {
	docs := forms(t, 20, func(i int) string { return map[bool]string{true: "soft", false: "strong"}[i == 3] })
	button := docs[3].Root.Children[0].Children[1]
	for i := range button.Props {
		button.Props[i].Filled = button.Props[i].Name == "emphasis"
	}
	assert.Empty(t, about(judge(t, docs...).Strays(), "emphasis"))
}

// What is held against an element is found with the screens in whatever order.
func TestTheOrderOfScreensDoesNotMatter(t *testing.T) {
	k := testkit.Sorrel(t)
	rapid.Check(t, func(r *rapid.T) {
		team := generate.NewTeam(generate.Options{Screens: 20, Slips: 0.06, Seed: rapid.Uint64Range(1, 50).Draw(r, "seed")})
		one, other := usage.New(k), usage.New(k)
		for _, d := range team.Docs {
			one.Put(d)
		}
		for _, d := range rapid.Permutation(team.Docs).Draw(r, "order") {
			other.Put(d)
		}
		a, b := norm.New(one, k, team.Lists()), norm.New(other, k, team.Lists())
		require.Equal(r, a.Strays(), b.Strays())
		require.Equal(r, a.Questions(), b.Questions())
		require.Equal(r, a.Leans(), b.Leans())
	})
}

// One more slip on another screen never makes an earlier one disappear: it stays a stray, becomes
// part of a question, or is listed with its odds.
func TestOneMoreSlipHidesNone(t *testing.T) {
	k := testkit.Sorrel(t)
	rapid.Check(t, func(r *rapid.T) {
		team := generate.NewTeam(generate.Options{Screens: 24, Slips: 0.03, Seed: rapid.Uint64Range(1, 200).Draw(r, "seed")})
		ix := usage.New(k)
		for _, d := range team.Docs {
			ix.Put(d)
		}
		n := norm.New(ix, k, team.Lists())
		before := n.Strays()
		// A slip: one more element is set otherwise, on a screen that nothing is held against.
		held := map[string]bool{}
		for _, s := range before {
			held[s.Doc] = true
		}
		var free []*screen.Document
		for _, d := range team.Docs {
			if !held[usage.DocKey(d)] {
				free = append(free, d)
			}
		}
		if len(free) == 0 {
			return
		}
		d := rapid.SampledFrom(free).Draw(r, "screen")
		prop := rapid.SampledFrom([]string{"gap", "padding"}).Draw(r, "prop")
		edit := screen.Edit{Op: screen.Set, ID: d.Root.ID, Prop: prop, Value: screen.Lit("1")}
		next := *d
		var err error
		next.Root, _, err = screen.Apply(d.Root, edit, k)
		require.NoError(r, err)
		ix.Put(&next)
		n.Update()
		told := map[string]bool{}
		for _, s := range append(n.Strays(), n.Leans()...) {
			told[s.Doc+s.Element+s.Kind] = true
		}
		inQuestion := map[string]bool{}
		for _, q := range n.Questions() {
			for _, s := range q.Sides {
				for _, doc := range s.Docs {
					inQuestion[doc+q.Kind] = true
				}
			}
		}
		for _, s := range before {
			require.True(r, told[s.Doc+s.Element+s.Kind] || inQuestion[s.Doc+s.Kind], "%s was hidden", s.Why)
		}
	})
}

// A repair leaves nothing of what it repairs, and can be taken.
func TestARepairRepairs(t *testing.T) {
	k := testkit.Sorrel(t)
	team := generate.NewTeam(generate.Options{Screens: 60, Slips: 0.03, Seed: 11})
	ix := usage.New(k)
	for _, d := range team.Docs {
		ix.Put(d)
	}
	n := norm.New(ix, k, team.Lists())
	list := n.Strays()
	require.NotEmpty(t, list)
	repaired := 0
	for _, s := range list {
		if len(s.Fix) == 0 {
			continue
		}
		kind, id, _ := screen.ParseAddress(s.Doc)
		d, _ := ix.Find(kind, id)
		was := d.Document
		next := *was
		var err error
		next.Root, _, err = screen.ApplyAll(was.Root, s.Fix, k)
		require.NoError(t, err, s.Why)
		ix.Put(&next)
		n.Update()
		for _, o := range n.Strays() {
			assert.False(t, o.Doc == s.Doc && o.Element == s.Element && o.Prop == s.Prop, "%s: %s", s.FixTitle, o.Why)
		}
		ix.Put(was)
		n.Update()
		repaired++
	}
	assert.Equal(t, list, n.Strays(), "taken back, all is as before")
	assert.GreaterOrEqual(t, 10*repaired, 9*len(list))
}

func TestWhatIsDecidedTogetherIsAskedOnce(t *testing.T) {
	var docs []*screen.Document
	for i := range 30 {
		table := `{"id":"t","type":"sorrel-table","props":{"density":"%s","stripes":%v,"label":"Things"}},`
		a, b := "roomy", false
		if i%2 == 0 {
			a, b = "tight", true
		}
		docs = append(docs, formDoc(t, fmt.Sprintf("%s%d", string(rune('a'+i%26)), i), "strong", fmt.Sprintf(table, a, b)))
	}
	n := judge(t, docs...)
	list := n.Questions()
	require.Len(t, list, 1)
	assert.Len(t, list[0].With, 1)
	n.Settle([]norm.Settled{{Spot: "sorrel-table", Prop: list[0].Prop}})
	for _, q := range n.Questions() {
		assert.NotEqual(t, list[0].Prop, q.Prop, "what is settled is asked no more")
	}
}

func TestAVerdictOfASpotLeavesTheOwnScreenOut(t *testing.T) {
	k := testkit.Sorrel(t)
	ix := usage.New(k)
	for _, d := range forms(t, 20, func(i int) string { return map[bool]string{true: "soft", false: "strong"}[i == 0] }) {
		ix.Put(d)
	}
	s, ok := ix.Spot("sorrel-button~sorrel-form.actions~does submit")
	require.True(t, ok)
	v, ok := norm.For(s, "emphasis", "soft")
	require.True(t, ok)
	assert.Equal(t, norm.Norm, v.Standing)
	assert.Equal(t, "strong", v.Value)
	assert.Equal(t, 19, v.Screens)
}

// Whatever is asked, one side can be brought into line with the other; then it is asked no more.
func TestAQuestionCanBeBroughtIntoLine(t *testing.T) {
	k := testkit.Sorrel(t)
	docs := forms(t, 30, func(int) string { return "strong" })
	for i := range 12 { // on some screens, what cancels comes last
		c := docs[i].Root.Children[0].Children
		c[0], c[1] = c[1], c[0]
	}
	ix := usage.New(k)
	for _, d := range docs {
		ix.Put(d)
	}
	n := norm.New(ix, k, nil)
	var order *norm.Question
	for _, q := range n.Questions() {
		if q.Kind == "order" {
			order = &q
		}
	}
	require.NotNil(t, order)
	assert.False(t, order.Rule)
	list, ok := n.Align(order.ID, order.Sides[0].Value)
	require.True(t, ok)
	assert.Len(t, list, 12)
	for _, s := range list {
		require.NotEmpty(t, s.Fix, s.Why)
		kind, id, _ := screen.ParseAddress(s.Doc)
		d, _ := ix.Find(kind, id)
		next := *d.Document
		var err error
		next.Root, _, err = screen.ApplyAll(d.Root, s.Fix, k)
		require.NoError(t, err)
		ix.Put(&next)
	}
	n.Update()
	for _, q := range n.Questions() {
		assert.NotEqual(t, "order", q.Kind)
	}
	_, ok = n.Align("nothing", "x")
	assert.False(t, ok)
}

// A kit that its makers published without notes is judged as well: what takes a value and what
// leads somewhere is told by its props.
func TestAKitWithoutNotesIsJudgedAsWell(t *testing.T) {
	manifest, err := os.ReadFile(filepath.Join(testkit.Root(), "kits", "sorrel", "custom-elements.json"))
	require.NoError(t, err)
	bare, err := kit.Read(kit.Sources{Name: "@fernhollow/sorrel", Version: "1.0.0", Manifest: manifest})
	require.NoError(t, err)
	team := generate.NewTeam(generate.Options{Screens: 80, Slips: 0.03, Seed: 21})
	count := func(k *kit.Kit) (kinds map[string]int) {
		ix := usage.New(k)
		for _, d := range team.Docs {
			ix.Put(d)
		}
		kinds = map[string]int{}
		for _, s := range norm.New(ix, k, team.Lists()).Strays() {
			kinds[s.Kind]++
		}
		return kinds
	}
	with, without := count(testkit.Sorrel(t)), count(bare)
	for _, kind := range []string{"setting", "words", "label", "control", "format"} {
		assert.GreaterOrEqual(t, 10*without[kind], 7*with[kind], kind)
	}
}
