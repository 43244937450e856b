package carry_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/core/carry"
	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
	"ubiquant/server/assets"
)

func sorrels(t testing.TB) (was, is *kit.Kit, notes string) {
	t.Helper()
	kits, err := assets.Kits()
	require.NoError(t, err)
	a, err := kits[0].Bundle()
	require.NoError(t, err)
	b, err := kits[1].Bundle()
	require.NoError(t, err)
	return a.Kit, b.Kit, string(kits[1].Files["package/CHANGELOG.md"])
}

func demo(t testing.TB) *model.Workspace {
	t.Helper()
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	return w
}

// settings counts all that elements say: props and words.
func settings(w *model.Workspace) (settings, elements int) {
	for _, d := range w.Docs {
		if d.Removed {
			continue
		}
		count := func(e, _ *screen.Element) bool {
			elements++
			settings += len(e.Props)
			if e.Text.Kind != screen.None {
				settings++
			}
			return true
		}
		d.Root.Walk(count)
		for _, s := range d.States {
			for _, e := range s.Edits {
				if e.Tree != nil {
					e.Tree.Walk(count)
				}
			}
		}
	}
	return settings, elements
}

// Every setting is as it was, is called otherwise, or is listed as lost: nothing falls
// between, whatever corresponds to what.
func TestEverySettingIsAccountedFor(t *testing.T) {
	was, is, notes := sorrels(t)
	w := demo(t)
	all, elements := settings(w)
	proposed := carry.Propose(was, is, notes)
	rapid.Check(t, func(r *rapid.T) {
		m := proposed
		m.Components = slices.Clone(m.Components)
		for i := range m.Components {
			c := &m.Components[i]
			switch rapid.IntRange(0, 5).Draw(r, "becomes") {
			case 0:
				*c = carry.Component{From: c.From}
			case 1:
				other := rapid.SampledFrom(is.Components).Draw(r, "other")
				*c = carry.Component{From: c.From, To: other.Tag}
			}
		}
		out := carry.Over(w, was, is, &m)
		require.Equal(r, elements, out.Elements)
		require.Equal(r, all, out.Same+out.Renamed+out.Without)
		for _, d := range out.Docs {
			old, ok := w.Doc(d.Doc)
			require.True(r, ok)
			require.Equal(r, ids(old.Root), ids(d.Root), "no element comes or goes")
		}
	})
}

func ids(root *screen.Element) (out []string) {
	root.Walk(func(e, _ *screen.Element) bool { out = append(out, e.ID); return true })
	return out
}

// To the same kit nothing changes.
func TestCarriedToTheSameKitNothingChanges(t *testing.T) {
	was, _, _ := sorrels(t)
	m := carry.Propose(was, was, "")
	out := carry.Over(demo(t), was, was, &m)
	assert.Empty(t, out.Docs)
	assert.Empty(t, out.Lost)
	assert.Zero(t, out.Renamed)
}

// What a version renames, by its own notes, is proposed; a value that it drops is lost and
// says what could stand in its place.
func TestAVersionIsCarriedOver(t *testing.T) {
	read := func(version, manifest string) *kit.Kit {
		c := &describe.Catalog{Name: "@acme/orchard", Version: version, Drawn: "elements"}
		require.NoError(t, c.Manifest([]byte(manifest), "m"))
		k, err := kit.Read(kit.Sources{Name: c.Name, Version: version, Components: c.Components()})
		require.NoError(t, err)
		return k
	}
	was := read("1.0.0", `{"modules":[{"path":"a","declarations":[
	 {"tagName":"ac-button","slots":[{"name":""}],"members":[{"kind":"field","name":"emphasis","attribute":"emphasis","type":{"text":"'strong'|'soft'|'odd'"}},{"kind":"field","name":"wide","attribute":"wide","type":{"text":"boolean"}}]},
	 {"tagName":"ac-pill","slots":[{"name":""}]}]}]}`)
	is := read("2.0.0", `{"modules":[{"path":"a","declarations":[
	 {"tagName":"ac-button","slots":[{"name":""}],"members":[{"kind":"field","name":"weight","attribute":"weight","type":{"text":"'strong'|'light'"}}]},
	 {"tagName":"ac-chip","slots":[{"name":""}]}]}]}`)
	m := carry.Propose(was, is, "- `emphasis` is now called `weight`, and `soft` → `light`\n- renamed ac-pill to ac-chip\n")
	button, _ := m.Find("ac-button")
	require.Equal(t, "weight", button.Props[0].To)
	assert.Equal(t, map[string]string{"soft": "light"}, button.Props[0].Values)
	pill, _ := m.Find("ac-pill")
	assert.Equal(t, "ac-chip", pill.To)

	root, err := tree(`{"id":"r","type":"stack","children":[
	 {"id":"a","type":"ac-button","text":"Save","props":{"emphasis":"soft","wide":true}},
	 {"id":"b","type":"ac-button","text":"Odd","props":{"emphasis":"odd"}},
	 {"id":"c","type":"ac-pill","text":"New"}]}`)
	require.NoError(t, err)
	w := &model.Workspace{Docs: []*screen.Document{{Kind: screen.ScreenDoc, ID: "s", Root: root}}}
	out := carry.Over(w, was, is, &m)
	require.Len(t, out.Docs, 1)
	a, b, c := out.Docs[0].Root.Children[0], out.Docs[0].Root.Children[1], out.Docs[0].Root.Children[2]
	v, _ := a.Prop("weight")
	assert.Equal(t, "light", v.Text)
	_, kept := a.Prop("wide")
	assert.True(t, kept, "what has no counterpart stays written")
	v, _ = b.Prop("weight")
	assert.Equal(t, "odd", v.Text)
	assert.Equal(t, "ac-chip", c.Type)
	require.Len(t, out.Lost, 2)
	assert.Equal(t, []string{"strong", "light"}, out.Lost[1].Repairs)
	// As findings they stand at their elements.
	l := live.Open(&model.Workspace{Docs: []*screen.Document{{Kind: screen.ScreenDoc, ID: "s", Root: out.Docs[0].Root}}}, is, "2026-11-29")
	open, _ := l.Findings()
	rules := map[string]string{}
	for _, f := range open {
		rules[f.Element] += f.Rule + " "
	}
	assert.Contains(t, rules["a"], "unknown-prop")
	assert.Contains(t, rules["b"], "value-outside")
}

func tree(src string) (*screen.Element, error) {
	var e screen.Element
	err := e.UnmarshalJSON([]byte(src))
	return &e, err
}

// A mapping is an open file; one that names what neither kit has is refused by place.
func TestAMappingIsAFile(t *testing.T) {
	was, is, notes := sorrels(t)
	m := carry.Propose(was, is, notes)
	again, err := carry.Read(m.Write(), was, is)
	require.NoError(t, err)
	assert.Equal(t, string(m.Write()), string(again.Write()))
	for src, says := range map[string]string{
		`{}`: "/format",
		`{"format":"ubiquant.kit-mapping/1","components":[{"from":"x-y"}]}`:                                                                       "/components/0/from",
		`{"format":"ubiquant.kit-mapping/1","components":[{"from":"sorrel-button","to":"x"}]}`:                                                    "/components/0/to",
		`{"format":"ubiquant.kit-mapping/1","components":[{"from":"sorrel-button","to":"sorrel-button","props":[{"from":"size","to":"girth"}]}]}`: "/components/0/props/0/to",
	} {
		_, err := carry.Read([]byte(src), was, is)
		assert.ErrorContains(t, err, says)
	}
	// What somebody decided counts over a new proposal.
	button, _ := m.Find("sorrel-button")
	button.To, button.Decided = "sorrel-link", "ida"
	fresh := carry.Propose(was, is, notes).With(&m, was, is)
	button, _ = fresh.Find("sorrel-button")
	assert.Equal(t, "sorrel-link", button.To)
	assert.Equal(t, "ida", button.Decided)
}

// A label that stood around a control goes to the control where that has one of its own,
// and a list that was written as a text is written as a list.
func TestLabelsAndListsFindTheirPlace(t *testing.T) {
	was, _, _ := sorrels(t)
	kits, err := assets.Kits()
	require.NoError(t, err)
	tansy, err := kits[2].Bundle()
	require.NoError(t, err)
	root, err := tree(`{"id":"r","type":"stack","children":[
	 {"id":"f","type":"sorrel-field","props":{"label":"Bed"},"children":[{"id":"s","type":"sorrel-select","props":{"options":"North bank, Lime walk"}}]}]}`)
	require.NoError(t, err)
	w := &model.Workspace{Docs: []*screen.Document{{Kind: screen.ScreenDoc, ID: "s", Root: root}}}
	m := carry.Propose(was, tansy.Kit, "")
	out := carry.Over(w, was, tansy.Kit, &m)
	field := out.Docs[0].Root.Children[0]
	_, kept := field.Prop("label")
	assert.False(t, kept)
	control := field.Children[0]
	label, _ := control.Prop("label")
	assert.Equal(t, "Bed", label.Text)
	options, _ := control.Prop("options")
	assert.JSONEq(t, `["North bank","Lime walk"]`, options.Text)
	require.Len(t, out.Lost, 1, "the field itself")
	assert.Equal(t, "component", out.Lost[0].What)
}
