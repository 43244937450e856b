package change_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/audit"
	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit/opened"
	"ubiquant/internal/testkit/steps"
)

func TestEveryKindIsDrawn(t *testing.T) {
	for _, k := range change.Kinds() {
		assert.Equal(t, !k.Log, steps.Of[k.Name] != nil, k.Name)
		assert.NotEmpty(t, k.Does, k.Name)
		assert.Positive(t, k.Role.Rank(), k.Name)
	}
}

// plain is the whole workspace without how often its documents were edited.
func plain(w *model.Workspace) string {
	c := *w
	c.Docs = nil
	for _, d := range w.Docs {
		one := *d
		one.Revision = 1
		if d.Signed != nil {
			signed := *d.Signed
			signed.Revision = 1
			one.Signed = &signed
		}
		c.Docs = append(c.Docs, &one)
	}
	return string(wsfile.Write(&c)) + string(c.Stored(model.Order))
}

// Whatever mix of steps is taken: taking it back gives what there was before, and taking
// that back what it had become; both as they come out of the log.
func TestWhatIsTakenIsTakenBackWhole(t *testing.T) {
	start := opened.Demo(t).W
	taken := map[string]int{}
	k := opened.Demo(t).Kit.Bare()
	rapid.Check(t, func(r *rapid.T) {
		l := &live.Live{W: start, Kit: k, Cat: model.NewCatalog(k, start)}
		for range rapid.IntRange(1, 4).Draw(r, "changes") {
			c := change.Change{Title: "mixed"}
			for range rapid.IntRange(1, 3).Draw(r, "steps") {
				c.Steps = append(c.Steps, steps.Draw(r, l))
			}
			before := plain(l.W)
			there, err := apply(l, c)
			if err != nil {
				require.Equal(r, before, plain(l.W), "what is refused changes nothing")
				continue
			}
			for _, s := range c.Steps {
				taken[change.KindOf(s).Name]++
			}
			become := plain(l.W)
			back, err := apply(l, logged(r, there.Inverse))
			require.NoError(r, err)
			require.Equal(r, before, plain(l.W))
			_, err = apply(l, logged(r, back.Inverse))
			require.NoError(r, err)
			require.Equal(r, become, plain(l.W))
		}
	})
	t.Log(taken)
}

// same finds one kit, whatever is asked for.
type same struct{ k *kit.Kit }

func (same) Since(string, int) ([]change.PastEdit, bool) { return nil, false }
func (s same) FindKit(model.KitRef) (*kit.Kit, error)    { return s.k, nil }

// apply takes a change without what is computed from the workspace.
func apply(l *live.Live, c change.Change) (change.Taken, error) {
	next, t, err := change.Apply(l.W, c, l.Cat, same{l.Kit})
	if err == nil {
		l.W = next
		l.Cat.Renew(next)
	}
	return t, err
}

// logged is a change as it comes out of the log.
func logged(t require.TestingT, c change.Change) change.Change {
	src := change.Write(c)
	out, err := change.Read(src, true)
	require.NoError(t, err)
	require.Equal(t, string(src), string(change.Write(out)))
	return out
}

// What a change says it wrote is all that differs: put together from the parts and
// documents before, with those that it names, the workspace is the one after.
func TestAChangeNamesExactlyWhatItWrites(t *testing.T) {
	start, k := opened.Demo(t).W, opened.Demo(t).Kit.Bare()
	rapid.Check(t, func(r *rapid.T) {
		l := &live.Live{W: start, Kit: k, Cat: model.NewCatalog(k, start)}
		before := stored(l.W)
		there, err := apply(l, change.Change{Title: "mixed", Steps: []change.Step{steps.Draw(r, l), steps.Draw(r, l)}})
		if err != nil {
			return
		}
		after := stored(l.W)
		for key, was := range before {
			if !named(there, key) {
				require.Equal(r, was, after[key], "%s was written and not named", key)
			}
		}
		for key := range after {
			if !named(there, key) {
				require.Contains(r, before, key, "%s came and is not named", key)
			}
		}
		parts, docs := map[model.Part][]byte{}, map[string][]byte{}
		for key, body := range after {
			if strings.Contains(key, ":") {
				docs[key] = []byte(body)
			} else {
				parts[model.Part(key)] = []byte(body)
			}
		}
		again, err := model.Restore(parts, docs)
		require.NoError(r, err)
		again.Name, again.Kit = l.W.Name, l.W.Kit
		require.Equal(r, string(wsfile.Write(l.W)), string(wsfile.Write(again)), "after a restart")
	})
}

func stored(w *model.Workspace) map[string]string {
	out := map[string]string{}
	for _, p := range model.Parts() {
		out[string(p)] = string(w.Stored(p))
	}
	for _, d := range w.Docs {
		var body screen.Writer
		model.WriteDocument(&body, d)
		out[d.Address()] = string(body.B)
	}
	return out
}

func named(t change.Taken, key string) bool {
	for _, d := range t.Docs {
		if d == key {
			return true
		}
	}
	return t.Wrote(model.Part(key))
}

// Every kind is for the role that its row says, and nobody below it.
func TestEveryKindIsAllowedOrRefusedByRole(t *testing.T) {
	l := opened.Demo(t)
	for _, k := range change.Kinds() {
		if k.Log {
			continue
		}
		rapid.Check(t, func(r *rapid.T) {
			c := change.Change{Title: "x", Steps: []change.Step{steps.Of[k.Name](r, l)}}
			for _, role := range []model.Role{"", model.Reader, model.Builder, model.Keeper} {
				err := change.Authorise(c, &change.Circumstances{W: l.W, Person: "noor", Role: role, Today: "2026-11-28"})
				var no *change.Denied
				switch {
				case !role.May(k.Role):
					require.ErrorAs(r, err, &no, "%s as %q", k.Name, role)
				case role == model.Keeper:
					require.NoError(r, err, k.Name)
				}
			}
		})
	}
}

func TestNobodySpeaksForSomebodyElse(t *testing.T) {
	l := opened.Demo(t)
	var theirs *screen.Document
	for _, d := range l.W.Docs {
		if d.Kind == screen.ScreenDoc && d.Owner != "" && d.Owner != "noor" {
			theirs = d
			break
		}
	}
	require.NotNil(t, theirs)
	as := func(role model.Role, s change.Step) error {
		return change.Authorise(change.Change{Title: "x", Steps: []change.Step{s}}, &change.Circumstances{
			W: l.W, Person: "noor", Role: role, Today: "2026-11-28",
			Unmet: func(string) []string { return []string{"a field has no label"} },
		})
	}
	doc := theirs.Address()
	signed := &change.Sign{Doc: doc, Signed: &screen.SignOff{By: theirs.Owner, When: "2020-01-01", Revision: 99}}
	assert.ErrorContains(t, as(model.Builder, signed), "signed off by its owner")
	assert.ErrorContains(t, as(model.Builder, &change.Sign{Doc: doc}), "signed off by its owner")
	assert.ErrorContains(t, as(model.Keeper, signed), "no label")
	assert.Equal(t, &screen.SignOff{By: "noor", When: "2026-11-28"}, signed.Signed, "who signs is not the client's to say")

	grab := *theirs
	grab.Owner = "noor"
	assert.ErrorContains(t, as(model.Builder, &change.Meta{Doc: doc, Document: &grab}), "handed on by its owner")
	assert.NoError(t, as(model.Keeper, &change.Meta{Doc: doc, Document: &grab}))

	stand := &change.PutStand{Stand: audit.LetStand{ID: "a", Key: "k", Reason: "r", By: "ida", When: "1999-01-01"}}
	require.NoError(t, as(model.Builder, stand))
	assert.Equal(t, "noor 2026-11-28", stand.Stand.By+" "+stand.Stand.When)
	stand.Stand.Until = "2026-11-28"
	assert.ErrorContains(t, as(model.Builder, stand), "past or today")
	stand.Stand.Until = "soon"
	assert.ErrorContains(t, as(model.Builder, stand), "no date")

	made := &change.Create{Document: &screen.Document{Kind: screen.ScreenDoc, ID: "x", Revision: 7,
		Signed: &screen.SignOff{By: "ida"}, Root: &screen.Element{ID: "r", Type: "stack"}}}
	require.NoError(t, as(model.Builder, made))
	assert.Nil(t, made.Document.Signed, "nobody has signed a new screen off")
	assert.Equal(t, 1, made.Document.Revision)
}

func TestWhatOnlyTheLogHoldsIsNotTakenFromOutside(t *testing.T) {
	for _, src := range []string{
		`{"steps":[{"do":"discard","doc":"screen:beds"}]}`,
		`{"steps":[{"do":"model","raw":true,"model":{"id":"a","name":"A","fields":[]}}]}`,
		`{"steps":[{"do":"house","at":0,"house":{"id":"a"}}]}`,
		`{"steps":[{"do":"edit","doc":"screen:beds","house":{"id":"a"},"edits":[{"op":"remove","id":"x"}]}]}`,
		`{"steps":[{"doc":"screen:beds"}]}`,
		`{"steps":[{"do":"create"}]}`,
		`{"steps":[{"do":"edit","doc":"screen:beds","edits":[]}]}`,
	} {
		_, err := change.Read([]byte(src), false)
		assert.Error(t, err, src)
	}
	c, err := change.Read([]byte(`{"title":"t","steps":[{"house":{"id":"a","reason":"r"},"do":"unhouse"}]}`), false)
	require.NoError(t, err, "what a step does may stand behind its fields")
	assert.Equal(t, "unhouse", change.KindOf(c.Steps[0]).Name)
}
