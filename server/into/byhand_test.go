package into

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/deliver"
	"ubiquant/core/deliver/record"
	"ubiquant/core/deliver/targets"
	"ubiquant/core/kit"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/internal/testkit"
	"ubiquant/server/assets"
)

// delivered is a repository with a delivery in it, and what it was made of.
type delivered struct {
	*Repo
	t      *testing.T
	target deliver.Target
	in     deliver.Input
	l      *live.Live
	only   []string
}

// deliverInto delivers into a repository with a formatter of its own; deliverBare into one without,
// which is quicker.
func deliverInto(t *testing.T, l *live.Live, target string, screens ...string) *delivered {
	t.Helper()
	return deliverTo(t, repository(t, map[string]string{"package.json": `{"name":"office"}`}), l, target, screens)
}

func deliverBare(t *testing.T, l *live.Live, target string, screens ...string) *delivered {
	t.Helper()
	return deliverTo(t, t.TempDir(), l, target, screens)
}

func deliverTo(t *testing.T, dir string, l *live.Live, target string, screens []string) *delivered {
	t.Helper()
	d := &delivered{t: t, l: l, only: screens}
	var ok bool
	d.target, ok = targets.Find(target)
	require.True(t, ok)
	d.Repo = open(t, Repo{Dir: dir, Folder: "src/office", Target: target, App: "Office"})
	d.deliver()
	return d
}

// input is what is delivered of a workspace as it stands.
func (d *delivered) input() deliver.Input {
	in, err := d.l.DeliverInput("", d.only, nil)
	require.NoError(d.t, err)
	in.Published = true
	return in
}

func (d *delivered) plan() *Delivery {
	d.in = d.input()
	files, _, err := d.target.Inside(d.in)
	require.NoError(d.t, err)
	_, said := d.Settle(d.t.Context(), d.target, d.in)
	assert.Empty(d.t, said)
	p, err := d.Plan(d.t.Context(), record.Of(d.in, d.target.ID), files)
	require.NoError(d.t, err)
	return p
}

func (d *delivered) deliver() *Delivery {
	p := d.plan()
	require.NoError(d.t, d.Apply(p, false, true))
	return p
}

// edit replaces a text in a delivered file.
func (d *delivered) edit(name string, pairs ...string) {
	d.t.Helper()
	at := filepath.Join(d.Dir, "src/office", name)
	src, err := os.ReadFile(at)
	require.NoError(d.t, err)
	for i := 0; i < len(pairs); i += 2 {
		require.Contains(d.t, string(src), pairs[i])
		src = []byte(strings.Replace(string(src), pairs[i], pairs[i+1], 1))
	}
	require.NoError(d.t, os.WriteFile(at, src, 0o644))
}

func (d *delivered) byHand() *ByHand {
	d.t.Helper()
	h, err := d.ByHand(d.t.Context(), d.target, d.in)
	require.NoError(d.t, err)
	return h
}

func (d *delivered) take(h *ByHand) {
	_, err := d.l.Take(change.Change{Title: "by hand", Steps: h.Steps()})
	require.NoError(d.t, err)
}

func demo(t *testing.T) *live.Live {
	w, err := wsfile.Read(testkit.Demo(t))
	require.NoError(t, err)
	return live.Open(w, testkit.Sorrel(t), "2026-11-23")
}

// gallery is a workspace with every component of a kit on screens, as its examples show it.
func gallery(t *testing.T, name string) *live.Live {
	kits, err := assets.Kits()
	require.NoError(t, err)
	i := slices.IndexFunc(kits, func(a *pack.Archive) bool { return strings.HasSuffix(a.Meta.Name, name) })
	require.GreaterOrEqual(t, i, 0, name)
	b, err := kits[i].Bundle()
	require.NoError(t, err)
	w := &model.Workspace{Kit: model.KitRef{Name: b.Kit.Name, Version: b.Kit.Version}, Apps: []model.App{{ID: "all", Name: "All"}}}
	for _, def := range b.Kit.Components {
		if def.Level == kit.Layout || len(def.Within) > 0 || len(def.Parents) > 0 {
			continue
		}
		n := 0
		root := &screen.Element{ID: "root", Type: "stack", Props: []screen.Prop{{Name: "gap", Value: screen.Value{Kind: screen.Token, Text: "space.3"}}}}
		for range 2 {
			root.Children = append(root.Children, example(b.Kit, def.Example, def.Tag, &n))
		}
		w.Docs = append(w.Docs, &screen.Document{Kind: screen.ScreenDoc, ID: def.Tag, Title: def.Title, Route: "/" + def.Tag, App: "all", Root: root, Revision: 1})
	}
	return live.Open(w, b.Kit, "2026-11-23")
}

func example(k *kit.Kit, x kit.Example, typ string, n *int) *screen.Element {
	*n++
	e := &screen.Element{ID: fmt.Sprint("e-", *n), Type: typ, Slot: x.Slot}
	def, _ := k.Component(typ)
	for name, text := range x.Props {
		p, ok := def.Prop(name)
		if !ok {
			continue
		}
		v := screen.Lit(text)
		switch p.Type {
		case kit.Bool:
			v = screen.FlagValue(text == "true")
		case kit.Number:
			v = screen.Value{Kind: screen.Num, Text: text}
		}
		e.Props = append(e.Props, screen.Prop{Name: name, Value: v})
	}
	screen.SortProps(e.Props)
	if x.Text != "" {
		e.Text = screen.Lit(x.Text)
	}
	for _, c := range x.Children {
		if _, ok := k.Component(c.Type); ok {
			e.Children = append(e.Children, example(k, c, c.Type, n))
		}
	}
	screen.SortSlots(e)
	return e
}

// handEdit draws an edit as somebody makes one in code.
func handEdit(r *rand.Rand, root *screen.Element, cat kit.Catalog, fresh string) (screen.Edit, bool) {
	var all []*screen.Element
	root.Walk(func(e, _ *screen.Element) bool { all = append(all, e); return true })
	e := all[r.IntN(len(all))]
	def, ok := cat.Component(e.Type)
	if !ok {
		return screen.Edit{}, false
	}
	switch r.IntN(6) {
	case 0:
		if e.Text.Kind == screen.Literal {
			return screen.Edit{Op: screen.SetText, ID: e.ID, Value: screen.Lit(fmt.Sprintf("Said “%s” & <by> {hand}", fresh))}, true
		}
	case 1, 2:
		if len(def.Props) == 0 {
			return screen.Edit{}, false
		}
		p := def.Props[r.IntN(len(def.Props))]
		if p.Name == kit.Does || p.JSON || p.URL {
			return screen.Edit{}, false
		}
		switch p.Type {
		case kit.Bool:
			return screen.Edit{Op: screen.Set, ID: e.ID, Prop: p.Name, Value: screen.FlagValue(true)}, true
		case kit.Number:
			return screen.Edit{Op: screen.Set, ID: e.ID, Prop: p.Name, Value: screen.Value{Kind: screen.Num, Text: fmt.Sprint(1 + r.IntN(9))}}, true
		case kit.Enum:
			if len(p.Values) > 0 {
				return screen.Edit{Op: screen.Set, ID: e.ID, Prop: p.Name, Value: screen.Lit(p.Values[r.IntN(len(p.Values))])}, true
			}
		case kit.Text:
			return screen.Edit{Op: screen.Set, ID: e.ID, Prop: p.Name, Value: screen.Lit("By hand " + fresh)}, true
		}
	case 3:
		return screen.Edit{Op: screen.Remove, ID: e.ID}, e != root
	case 4:
		ids := map[string]string{}
		e.Walk(func(c, _ *screen.Element) bool { ids[c.ID] = fresh + c.ID; return true })
		return screen.Edit{Op: screen.Duplicate, ID: e.ID, IDs: ids}, e != root
	case 5:
		_, parent := root.Find(e.ID)
		if parent == nil || len(parent.Children) < 2 {
			return screen.Edit{}, false
		}
		mate := parent.Children[r.IntN(len(parent.Children))]
		return screen.Edit{Op: screen.Move, ID: e.ID, Parent: parent.ID, Slot: mate.Slot, After: mate.ID}, mate != e
	}
	return screen.Edit{}, false
}

// shape is a tree without what code does not say: ids of what is new, and marks of who made it.
func shape(e *screen.Element, known map[string]bool) string {
	c := *e
	if !known[c.ID] {
		c.ID = "new"
	}
	c.Origin = screen.Element{}.Origin
	kids := c.Children
	c.Children = nil
	out, _ := json.Marshal(&c)
	text := string(out)
	for _, k := range kids {
		text += "\n  " + strings.ReplaceAll(shape(k, known), "\n", "\n  ")
	}
	return text
}

// What is edited in code becomes the edit of the screen that would have made that code, or is
// listed: nothing else becomes of the screens, and nothing is passed over. So in each framework,
// whichever kit.
func TestAnEditOfCodeIsTheEditOfTheScreen(t *testing.T) {
	for _, c := range []struct {
		target, name string
		of           func(*testing.T) *live.Live
		share        float64
		into         func(*testing.T, *live.Live, string, ...string) *delivered
	}{
		{"react", "demo", demo, 0.85, deliverInto}, {"vue", "demo", demo, 0.85, deliverBare}, {"angular", "demo", demo, 0.85, deliverBare},
		{"vue", "tansy", func(t *testing.T) *live.Live { return gallery(t, "tansy") }, 0.9, deliverBare},
		{"react", "yarrow", func(t *testing.T) *live.Live { return gallery(t, "yarrow") }, 0.9, deliverBare},
	} {
		t.Run(c.target+" "+c.name, func(t *testing.T) {
			t.Parallel()
			l := c.of(t)
			var some []string
			for i, doc := range l.W.Docs {
				if doc.Kind == screen.ScreenDoc && i%2 == 0 {
					some = append(some, doc.ID)
				}
			}
			d := c.into(t, l, c.target, some...)
			same, alike, all := 0, 0, 0
			code := func(root *screen.Element, of *screen.Document) string {
				next := *of
				next.Root = root
				in := d.in
				in.Screens = []*screen.Document{&next}
				files, _, err := d.target.Inside(in)
				require.NoError(t, err)
				for _, f := range files {
					if f.Places != nil && f.Doc == of.Address() {
						return string(f.Data)
					}
				}
				return ""
			}
			for seed := range uint64(1) {
				r := rand.New(rand.NewPCG(seed, 7))
				edits := map[string][]screen.Edit{}
				want := map[string]*screen.Element{}
				for _, doc := range d.in.Screens {
					root := doc.Root
					for i := range 1 + r.IntN(3) {
						if e, ok := handEdit(r, root, d.in.Cat, fmt.Sprint("h", i)); ok {
							if next, _, err := screen.Apply(root, e, d.in.Cat); err == nil {
								root = next
								edits[doc.Address()] = append(edits[doc.Address()], e)
							}
						}
					}
					want[doc.Address()] = root
				}
				with := edited(d.in, edits)
				files, notes, err := d.target.Inside(with)
				require.NoError(t, err)
				files, _ = d.formatted(t.Context(), files)
				for _, f := range files {
					if f.Places != nil {
						require.NoError(t, os.WriteFile(filepath.Join(d.Dir, "src/office", f.Path), f.Data, 0o644))
					}
				}
				h := d.byHand()
				left := map[string][]string{}
				for _, x := range h.Left {
					left[x.Doc] = append(left[x.Doc], fmt.Sprintf("%s:%d %s: %s", x.Path, x.Line, x.What, x.Why))
				}
				for _, n := range notes { // what is no code says nothing in code
					left[n.Doc] = append(left[n.Doc], n.Message)
				}
				taken := map[string][]screen.Edit{}
				for _, x := range h.Taken {
					taken[x.Doc] = append(taken[x.Doc], x.Edits...)
				}
				for _, doc := range d.in.Screens {
					if len(edits[doc.Address()]) == 0 {
						continue
					}
					all++
					root, _, err := screen.ApplyAll(doc.Root, taken[doc.Address()], d.in.Cat)
					require.NoError(t, err)
					known := map[string]bool{}
					doc.Root.Walk(func(e, _ *screen.Element) bool { known[e.ID] = true; return true })
					if shape(root, known) == shape(want[doc.Address()], known) {
						same++
						continue
					}
					if code(root, doc) == code(want[doc.Address()], doc) {
						alike++
						continue
					}
					assert.NotEmpty(t, left[doc.Address()], "%s of %s: another screen came of it, and nothing is said: %v became %v", doc.ID, c.target, said(edits[doc.Address()]), said(taken[doc.Address()]))
				}
			}
			t.Logf("%s: %d of %d screens come back as they were edited, %d as ones of the same code", c.target, same, all, alike)
			assert.GreaterOrEqual(t, float64(same+alike), c.share*float64(all), "%s: %d of %d", c.target, same, all)
		})
	}
}

func said(list []screen.Edit) (out []string) {
	for _, e := range list {
		s, _ := json.Marshal(e)
		out = append(out, string(s))
	}
	return out
}

// texts are what was read, in words.
func texts(h *ByHand) (taken, left []string) {
	for _, x := range h.Taken {
		taken = append(taken, x.Element+": "+x.Says)
	}
	for _, x := range h.Left {
		left = append(left, fmt.Sprintf("%s:%d %s: %s", x.Path, x.Line, x.What, x.Why))
	}
	return taken, left
}

// What somebody changes in code by hand is told with its line, taken, and merged without a trace.
func TestWhatIsEditedByHandIsTakenIntoTheScreen(t *testing.T) {
	d := deliverInto(t, demo(t), "react", "edit-ticket", "tickets")
	d.edit("screens/EditTicketScreen.tsx",
		"Cancel", "Never mind",
		"u-gap-5", "u-gap-3 mine",
		`label="State"`, `label="How far" required`,
		`        <sorrel-field label="Due"`, `        {/* asked for in spring */}
        <sorrel-field label="Bed">
          <sorrel-text-input name="bed" placeholder="B4" onsorrel-change={() => alert(1)} />
        </sorrel-field>
        <sorrel-field label="Due"`,
		"  const own =", "  console.log(id);\n  const own =",
	)
	d.edit("screens/TicketsScreen.tsx",
		"<sorrel-cell>{day(workTicket.due)}</sorrel-cell>", "<sorrel-cell>{shortDay(workTicket.due)}</sorrel-cell>",
		"Nothing is waiting.", "All is done.",
	)
	taken, left := texts(d.byHand())
	assert.ElementsMatch(t, []string{
		"edit-ticket-1: gap “space.3”", "edit-ticket-10: label “How far”", "edit-ticket-10: required yes", "field: added field",
		"text-input: added text input", "edit-ticket-14: text “Never mind”",
		"tickets-21: text = shortDay(record.due)", "tickets-29: text “All is done.”",
	}, taken)
	require.Len(t, left, 4, "%v", left)
	assert.Contains(t, left[0], "console.log(id);: it is code beside the markup")
	assert.Contains(t, left[1], "<div> class mine: it is no setting of section")
	assert.Contains(t, left[2], "asked for in spring")
	assert.Contains(t, left[3], "<sorrel-text-input> onsorrel-change: what happens at an event")

	d.take(d.byHand())
	d.in = d.input()
	taken, again := texts(d.byHand())
	assert.Empty(t, taken, "what was taken is in the screens")
	assert.Len(t, again, 4, "and what was not still is not")
	p := d.plan()
	for _, c := range p.Changes {
		if c.Path == "screens/TicketsScreen.tsx" {
			assert.Equal(t, record.Renew, c.What, "nothing of it is lost")
		}
	}

	// Without what only code can say nothing of the file is theirs alone.
	d.edit("screens/EditTicketScreen.tsx", "  console.log(id);\n", "", " mine", "", "        {/* asked for in spring */}\n", "", " onsorrel-change={() => alert(1)}", "")
	for _, c := range d.deliver().Changes {
		assert.NotEqual(t, record.Conflict, c.What, c.Path)
		assert.NotEqual(t, record.Edited, c.What, c.Path)
	}
	assert.Zero(t, d.byHand().Files)
}

// Classes and what plain elements are set to are settings of the screen, however code calls them.
func TestClassesEditedByHandAreThoseOfTheScreen(t *testing.T) {
	for target, names := range map[string][3]string{"react": {"className", "htmlFor", "readOnly "}, "vue": {"class", "for", "readonly "}} {
		w, err := wsfile.Read(testkit.Demo(t))
		require.NoError(t, err)
		k := *testkit.Sorrel(t)
		k.Style([]string{"card", "wide"})
		l := live.Open(w, &k, "2026-11-23")
		_, err = l.Take(change.Change{Title: "plain", Steps: []change.Step{&change.Edit{Doc: "screen:edit-ticket", Edits: []screen.Edit{
			{Op: screen.Insert, Parent: "edit-ticket-1", Tree: testkit.Tree(t, `{"id":"zz","type":"html-div","props":{"class":"card"},"children":[
				{"id":"zz-1","type":"html-label","text":"Soil","props":{"for":"soil"}},{"id":"zz-2","type":"html-input","props":{"id":"soil","readonly":true,"title":"Of it"}}]}`)},
		}}}})
		require.NoError(t, err)
		d := deliverBare(t, l, target, "edit-ticket")
		file := map[string]string{"react": "screens/EditTicketScreen.tsx", "vue": "screens/EditTicketScreen.vue"}[target]
		d.edit(file, names[0]+`="card"`, names[0]+`="card wide"`, names[1]+`="soil"`, names[1]+`="bed"`, `id="soil"`, `id="bed"`, names[2], "")
		taken, left := texts(d.byHand())
		assert.ElementsMatch(t, []string{"zz: class “card wide”", "zz-1: for “bed”", "zz-2: id “bed”", "zz-2: readonly taken away"}, taken, target)
		assert.Empty(t, left, target)
		d.take(d.byHand())
		d.in = d.input()
		taken, _ = texts(d.byHand())
		assert.Empty(t, taken, target)
	}
}

// What both sides changed is theirs; what only the screen changed is no edit by hand.
func TestWhatBothSidesChangedIsSaid(t *testing.T) {
	d := deliverBare(t, demo(t), "vue", "edit-ticket")
	_, err := d.l.Take(change.Change{Title: "here", Steps: []change.Step{&change.Edit{Doc: "screen:edit-ticket", Edits: []screen.Edit{
		{Op: screen.SetText, ID: "edit-ticket-14", Value: screen.Lit("Back")},
		{Op: screen.Set, ID: "edit-ticket-title", Prop: "label", Value: screen.Lit("Name")},
		{Op: screen.Remove, ID: "edit-ticket-10"},
	}}}})
	require.NoError(t, err)
	d.edit("screens/EditTicketScreen.vue", "Cancel", "Never mind", ">Save<", ">Keep<", `label="State"`, `label="How far"`)
	d.in = d.input()
	taken, left := texts(d.byHand())
	assert.Equal(t, []string{"edit-ticket-15: text “Keep”"}, taken)
	require.Len(t, left, 2, "%v", left)
	assert.Contains(t, left[0], "<sorrel-field> label: the screen does not have it any more")
	assert.Contains(t, left[1], "<sorrel-button> text: the screen has changed there, too")
}

// What is put into something new, or stands elsewhere now, is still what it was.
func TestWhatIsMovedInCodeStaysItself(t *testing.T) {
	d := deliverBare(t, demo(t), "angular", "tickets")
	d.edit("screens/tickets-screen.component.html", `<div class="u-row u-align-end">`, `<sorrel-card><div class="u-row u-align-end">`,
		"  <sorrel-table", "  </sorrel-card>\n  <sorrel-table")
	taken, left := texts(d.byHand())
	assert.Empty(t, left)
	require.Len(t, taken, 2, "%v", taken)
	assert.Equal(t, "card: added card", taken[0])
	assert.Contains(t, taken[1], "moved row")
	d.take(d.byHand())
	doc, ok := d.l.W.Doc("screen:tickets")
	require.True(t, ok)
	q, in := doc.Root.Find("tickets-7")
	require.NotNil(t, q, "with all that stands in it")
	assert.NotNil(t, in)
}

// What cannot be read is listed, and nothing is taken of it.
func TestCodeThatCannotBeReadIsListed(t *testing.T) {
	d := deliverBare(t, demo(t), "react", "tickets", "edit-ticket")
	d.edit("screens/EditTicketScreen.tsx", "</sorrel-form>", "</sorrel-from>")
	d.edit("screens/TicketsScreen.tsx", "New ticket", "A new ticket")
	d.edit("lib/page.ts", "export", "// mine\nexport")
	h := d.byHand()
	taken, left := texts(h)
	assert.Equal(t, 3, h.Files)
	assert.Len(t, taken, 1)
	require.Len(t, left, 2)
	assert.Contains(t, left[0]+left[1], "screens/EditTicketScreen.tsx:1 the file: it cannot be read: ")
	assert.Contains(t, left[0]+left[1], "lib/page.ts:1 the file: no screen is made of it")
}

// A use of a piece more, written by hand: the piece's own code moves to where those with several users
// stand, and what was edited in it is read all the same.
func TestAPieceWithAnotherUserIsStillRead(t *testing.T) {
	d := deliverBare(t, demo(t), "react", "specimen", "bed")
	d.edit("screens/FactPiece.tsx", `size="s" tone="quiet"`, `size="m" tone="quiet"`)
	d.edit("screens/BedScreen.tsx",
		"import './Bed.own.css'", "import { FactPiece } from './FactPiece'\nimport './Bed.own.css'",
		"          <sorrel-table", "          <FactPiece name=\"Soil\" value={bed.soil} />\n          <sorrel-table")
	h := d.byHand()
	taken, left := texts(h)
	assert.Empty(t, left)
	require.Len(t, taken, 2, "%v", taken)
	assert.Contains(t, taken[0], "added Fact")
	assert.Contains(t, taken[1], "size “m”")
	d.take(h)
	doc, _ := d.l.W.Doc("screen:bed")
	found := false
	doc.Root.Walk(func(e, _ *screen.Element) bool {
		if e.Type == "piece:fact" {
			v, _ := e.Prop("value")
			found = v.Kind == screen.Expr && v.Text == "record.soil"
		}
		return true
	})
	assert.True(t, found)

	// Asked of other screens only, it says what it did not look at.
	d.only = []string{"specimen"}
	d.in = d.input()
	_, left = texts(d.byHand())
	assert.Contains(t, strings.Join(left, "\n"), "BedScreen.tsx:1 the file: it is of a screen that is not among those asked for")
}
