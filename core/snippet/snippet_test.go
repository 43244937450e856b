package snippet_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/snippet"
	"ubiquant/internal/testkit/opened"
)

// outline says a tree in one text: types, texts and telling props.
func outline(e *screen.Element, props ...string) string {
	var b strings.Builder
	var walk func(e *screen.Element, depth int)
	walk = func(e *screen.Element, depth int) {
		b.WriteString(strings.Repeat(" ", depth) + e.Slot + "/" + e.Type)
		if e.Text.Text != "" {
			b.WriteString(" “" + e.Text.Text + "”")
		}
		for _, name := range props {
			if v, ok := e.Prop(name); ok {
				b.WriteString(" " + name + "=" + v.Text)
			}
		}
		if e.Repeat != nil {
			b.WriteString(" each " + e.Repeat.Model)
		}
		b.WriteString("\n")
		for _, c := range e.Children {
			walk(c, depth+1)
		}
	}
	walk(e, 0)
	return b.String()
}

// A choice of a model that no screen shows yet stands as choices stand elsewhere; what is said of
// theirs and not of its own is left out.
func TestANewModelIsShownAsItsLikesAre(t *testing.T) {
	l := opened.Demo(t)
	opened.Take(t, l, &change.PutModel{Model: sample.Model{ID: "loans", Name: "Loan", Fields: []sample.Field{
		{Name: "tool", Type: sample.Text, Required: true},
		{Name: "state", Type: sample.Choice, Choices: []string{"out", "back"}, Required: true},
	}}})
	tree, err := snippet.Make(l, "table:loans", l.W.Apps[0].ID, "")
	require.NoError(t, err)
	var chip *screen.Element
	tree.Walk(func(e, up *screen.Element) bool {
		if e.Type == "sorrel-chip" {
			chip = e
			assert.Equal(t, "sorrel-cell", up.Type)
		}
		return true
	})
	require.NotNil(t, chip)
	assert.Equal(t, screen.Value{Kind: screen.Expr, Text: "record.state"}, chip.Text)
	_, toned := chip.Prop("tone")
	assert.False(t, toned, "nothing is said of what its values mean")
}

func TestATableOfAModelShowsValuesAsTheScreensDo(t *testing.T) {
	l := opened.Demo(t)
	tree, err := snippet.Make(l, "table:orders", l.W.Apps[0].ID, "")
	require.NoError(t, err)
	said := outline(tree, "kind")
	assert.Contains(t, said, "columns/sorrel-column “Supplier”\n")
	assert.Contains(t, said, "columns/sorrel-column “Total” kind=number\n")
	assert.Contains(t, said, "/sorrel-row each orders\n")
	assert.Contains(t, said, "/sorrel-cell “money(record.total)”\n")
	assert.Contains(t, said, "/sorrel-cell “day(record.day)”\n")
	assert.Contains(t, said, "/sorrel-chip “record.state”", "a state is a chip on the team's screens, so it is here")
	columns, cells := strings.Count(said, "sorrel-column"), strings.Count(said, "sorrel-cell")
	assert.Equal(t, columns, cells)
	chip := find(tree, "sorrel-chip")
	tone, ok := chip.Prop("tone")
	require.True(t, ok)
	assert.Contains(t, tone.Text, "record.state", "with what the team's colours mean")
}

func find(e *screen.Element, typ string) (out *screen.Element) {
	e.Walk(func(c, _ *screen.Element) bool {
		if c.Type == typ && out == nil {
			out = c
		}
		return true
	})
	return out
}

func TestAFormOfAModelHasTheControlEachFieldWants(t *testing.T) {
	l := opened.Demo(t)
	tree, err := snippet.Make(l, "form:specimens", l.W.Apps[0].ID, "")
	require.NoError(t, err)
	said := outline(tree, "label", "name", "required", "kind", "options")
	for _, want := range []string{
		"/sorrel-form label=New specimen\n", "/sorrel-field label=Name required=true\n  /sorrel-text-input name=name\n", "label=Height\n  /sorrel-number-input name=height\n",
		"label=Planted required=true\n  /sorrel-text-input name=planted kind=date\n", "options=thriving, watch, ailing, dormant\n", "/sorrel-switch “On display” name=onDisplay\n", "actions/sorrel-button “Save”",
	} {
		assert.Contains(t, said, want)
	}
	assert.NotContains(t, said, "Picture")
	assert.Contains(t, said, "label=Bed\n  /sorrel-select name=bed options=joined(values(beds, 'name'), ', ')", "what there is to choose follows the records")
}

// Limits, currencies and lists of a model are those of its form, in the control and in
// words; what is computed is not asked for.
func TestAFormHoldsPeopleToTheModel(t *testing.T) {
	l := opened.Demo(t)
	opened.Take(t, l,
		&change.PutModel{Model: sample.Model{ID: "gifts", Name: "Gift", Fields: []sample.Field{
			{
				Name:  "count",
				Type:  sample.Number,
				Least: "1",
				Most:  "9",
			}, {Name: "amount", Type: sample.Money, Currency: "USD", Most: "500"}, {Name: "yen", Type: sample.Money, Currency: "JPY"},
			{
				Name:  "on",
				Type:  sample.Date,
				Least: "2026-01-01",
			}, {Name: "note", Type: sample.Text, Most: "60"}, {Name: "tags", Type: sample.Texts}, {Name: "beds", Type: sample.Refs, Model: "beds"},
			{
				Name:    "each",
				Type:    sample.Money,
				Compute: "record.amount / record.count",
			}, {Name: "large", Type: sample.YesNo, Compute: "record.count > 3"}}}},
	)
	form, err := snippet.Make(l, "form:gifts", l.W.Apps[0].ID, "")
	require.NoError(t, err)
	said := outline(form, "label", "name", "min", "max", "money", "decimals", "help", "kind")
	for _, want := range []string{
		"label=Count help=From 1 to 9\n  /sorrel-number-input name=count min=1 max=9\n", "label=Amount help=At most 500\n  /sorrel-number-input name=amount max=500 money=dollar decimals=2\n",
		"label=Yen\n  /sorrel-number-input name=yen\n", "label=On help=At least 1 Jan 2026\n  /sorrel-text-input name=on min=2026-01-01 kind=date\n",
		"label=Note help=At most 60 letters\n", "label=Tags help=Parted by commas\n  /sorrel-text-input name=tags\n", "label=Beds\n  /sorrel-checkbox-group name=beds\n",
	} {
		assert.Contains(t, said, want)
	}
	assert.NotContains(t, said, "Each")
	assert.NotContains(t, said, "Large")
	cards, err := snippet.Make(l, "cards:gifts", l.W.Apps[0].ID, "")
	require.NoError(t, err)
	chip := find(cards, "sorrel-chip")
	require.NotNil(t, chip)
	assert.Equal(t, "record.tags", chip.Repeat.Model)
}

// A list with filters and pages acts: what it shows follows its controls, which take no
// name that the screen has already.
func TestAListWithFiltersFollowsItsControls(t *testing.T) {
	l := opened.Demo(t)
	app := l.W.Apps[0].ID
	put := func(id string) *screen.Element {
		tree, err := snippet.Make(l, id, app, "screen:made")
		require.NoError(t, err)
		tree.Walk(func(e, _ *screen.Element) bool { e.ID += "-" + id[:4]; return true })
		opened.Take(t, l,
			&change.Edit{
				Doc:   "screen:made",
				Edits: []screen.Edit{{Op: screen.Insert, Parent: "root", Tree: tree}},
			},
		)
		return tree
	}
	opened.Take(t, l,
		&change.Create{
			Document: &screen.Document{
				Kind:  screen.ScreenDoc,
				ID:    "made",
				Title: "Made",
				App:   app,
				Route: "/made",
				Root:  &screen.Element{ID: "root", Type: "section"},
			},
		},
	)
	cards := put("catalogue:specimens")
	put("list:tickets")
	var names []string
	d, _ := l.W.Doc("screen:made")
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if e.Name != "" {
			names = append(names, e.Name)
		}
		return true
	})
	assert.ElementsMatch(
		t,
		[]string{"search", "condition", "order", "onDisplay", "list", "page", "search2", "state", "list2", "page2"},
		names,
	)
	again, _ := d.Root.Find("s4-list")
	require.NotNil(t, again)
	assert.Contains(
		t,
		again.Props,
		screen.Prop{Name: "name", Value: screen.Lit("search2")},
		"nor do two controls send under one name",
	)
	card := find(cards, "sorrel-card")
	assert.Equal(t, &screen.Repeat{Model: "specimens", Limit: 12, Page: "page",
		Where: "lower(record.name + ' ' + record.latin).contains(lower(controls.search)) && (controls.condition == '' || record.condition == controls.condition) && (!controls.onDisplay || record.onDisplay)",
		Sort:  "= controls.order == 'Most height' ? '-height' : controls.order == 'Latest planted' ? '-planted' : 'name'"}, card.Repeat)
	shown := func(held map[string]any) string {
		in := resolve.Input{
			Screen:   d.Root,
			Catalog:  l.Cat,
			Models:   l.Models(),
			Set:      l.SampleSet(""),
			Today:    l.Today,
			Controls: held,
		}
		root, problems := resolve.Resolve(in)
		require.Empty(t, problems)
		var out []string
		var walk func(n *resolve.Node)
		walk = func(n *resolve.Node) {
			if n.Type == "sorrel-heading" {
				out = append(out, n.Text)
			}
			for _, c := range n.Children {
				walk(c)
			}
		}
		walk(root)
		return strings.Join(out, "|")
	}
	all := shown(nil)
	assert.Equal(t, 11, strings.Count(all, "|"), "twelve on a page")
	assert.NotEqual(t, all, shown(map[string]any{"page": 2.0}))
	assert.NotEqual(t, all, shown(map[string]any{"order": "Latest planted"}))
	acers := shown(map[string]any{"search": "ACER gris"})
	assert.NotEmpty(t, acers)
	assert.NotContains(t, acers, "|", "two texts are searched as one")
	assert.Less(t, len(shown(map[string]any{"condition": "ailing"})), len(all))
}

// What is made of records is offered as a table and as figures, not as a form; figures
// need a number.
func TestListsMadeOfOthersAreOffered(t *testing.T) {
	l := opened.Demo(t)
	ids := map[string]string{}
	for _, o := range snippet.Offers(l) {
		ids[o.ID] = o.Title
	}
	assert.Equal(t, "table of Visits by gate", ids["table:visitsByGate"])
	assert.Equal(t, "figures of Visits by gate", ids["figures:visitsByGate"])
	for _, id := range []string{"form:visitsByGate", "list:visitsByGate", "catalogue:visitsByGate", "figures:messages"} {
		assert.NotContains(t, ids, id)
	}
	tree, err := snippet.Make(l, "figures:visitsByGate", l.W.Apps[0].ID, "")
	require.NoError(t, err)
	assert.Equal(
		t,
		"/grid\n /sorrel-stat label=record.gate value=number(record.visitors, 0) each visitsByGate\n",
		outline(tree, "label", "value"),
	)
}

// A table takes a column for each field of what it shows, head and cell at once; those
// that it does not show yet are offered first.
func TestATableTakesAColumnOfAField(t *testing.T) {
	l := opened.Demo(t)
	d, _ := l.W.Doc("screen:tickets")
	table := find(d.Root, "sorrel-table")
	offers := snippet.FieldOffers(l, table)
	require.Len(t, offers, 7)
	assert.Equal(t, "column bed", offers[0].Title, "the bed is not shown yet")
	tree, beside, into, err := snippet.Field(l, "column:tickets.bed", table)
	require.NoError(t, err)
	assert.Equal(t, "columns/sorrel-column “Bed”\n", outline(tree, "kind"))
	assert.Equal(t, "find(beds, record.bed).name", beside.Text.Text)
	row, _ := d.Root.Find(into)
	assert.Equal(t, "sorrel-row", row.Type)
	orders, _ := l.W.Doc("screen:orders")
	tree, beside, _, err = snippet.Field(l, "column:orders.total", find(orders.Root, "sorrel-table"))
	require.NoError(t, err)
	assert.Equal(t, "columns/sorrel-column “Total” kind=number\n", outline(tree, "kind"))
	assert.Equal(t, "money(record.total)", beside.Text.Text)
	assert.Empty(t, snippet.FieldOffers(l, d.Root))
	_, err = snippet.Make(l, "column:tickets.bed", l.W.Apps[0].ID, "screen:tickets")
	assert.ErrorContains(t, err, "no snippet", "it is made where it comes to stand")
	for _, id := range []string{"column:tickets.none", "none:tickets.bed"} {
		_, _, _, err = snippet.Field(l, id, table)
		assert.Error(t, err, id)
	}
}

// Every offer makes a tree that the kit takes, that resolves and that no rule finds an
// error in.
func TestEveryOfferCanBePutOnAScreen(t *testing.T) {
	l := opened.Demo(t)
	app := l.W.Apps[0].ID
	offers := snippet.Offers(l)
	require.Greater(t, len(offers), 20)
	for _, o := range offers {
		tree, err := snippet.Make(l, o.ID, app, "")
		require.NoError(t, err, o.ID)
		before, _ := l.Findings()
		root := &screen.Element{ID: "root", Type: "section"}
		doc := &screen.Document{
			Kind:  screen.ScreenDoc,
			ID:    "made",
			Title: "Made",
			App:   app,
			Route: "/made",
			Root:  root,
		}
		taken, err := l.Take(change.Change{Title: "x", Steps: []change.Step{
			&change.Create{Document: doc},
			&change.Edit{
				Doc:   "screen:made",
				Edits: []screen.Edit{{Op: screen.Insert, Parent: "root", Tree: tree}},
			},
		}})
		require.NoError(t, err, "%s: %s", o.ID, outline(tree))
		page, problems, err := l.Page("screen:made", live.View{})
		require.NoError(t, err)
		assert.Empty(t, problems, o.ID)
		assert.NotEmpty(t, page.HTML)
		after, _ := l.Findings()
		for _, f := range after {
			if f.Doc == "screen:made" {
				assert.NotEqual(t, "error", string(f.Severity), "%s: %s", o.ID, f.Message)
			}
		}
		_, err = l.Take(taken.Inverse)
		require.NoError(t, err)
		again, _ := l.Findings()
		assert.Len(t, again, len(before))
	}
	for _, id := range []string{"", "form", "form:none", "none:orders"} {
		_, err := snippet.Make(l, id, app, "")
		assert.Error(t, err, id)
	}
}

func TestCardsLeadWithTheNameAndFitTheRoom(t *testing.T) {
	l := opened.Demo(t)
	tree, err := snippet.Make(l, "cards:specimens", l.W.Apps[0].ID, "")
	require.NoError(t, err)
	said := outline(tree, "columns", "src")
	assert.Contains(t, said, "/grid\n /sorrel-card each specimens\n")
	assert.Contains(t, said, "picture/sorrel-picture src=record.picture\n")
	assert.Equal(t, 1, strings.Count(said, "sorrel-heading"))
	assert.Contains(t, said, "header/sorrel-heading “record.name”\n")
	assert.Contains(t, said, "/sorrel-text “record.latin”\n")
	assert.Contains(t, said, "footer/sorrel-chip “record.condition”\n")
}

func TestANavbarOfTheScreensLeadsToEachOfThem(t *testing.T) {
	l := opened.Demo(t)
	tree, err := snippet.Make(l, "navbar", l.W.Apps[0].ID, "")
	require.NoError(t, err)
	said := outline(tree, "to")
	assert.Contains(t, said, "/sorrel-nav-item “Today” to=/\n")
	assert.Contains(t, said, "/sorrel-nav-item “Specimens” to=/specimens\n")
	assert.NotContains(t, said, ":id", "a place that wants a record is no place to go to")
}

// What the norm filled in says so, and is no evidence for the norm until it is kept.
func TestFilledSettingsCountOnlyOnceKept(t *testing.T) {
	l := opened.Demo(t)
	app := l.W.Apps[0].ID
	// The team makes up its mind about its forms.
	for _, d := range l.Index.Docs() {
		var edits []screen.Edit
		for i := range d.Uses {
			if e := d.Uses[i].Element; e.Type == "sorrel-form" {
				edits = append(
					edits,
					screen.Edit{Op: screen.Set, ID: e.ID, Prop: "actions", Value: screen.Lit("end")},
				)
			}
		}
		if len(edits) > 0 {
			_, err := l.Take(
				change.Change{Title: "x", Steps: []change.Step{&change.Edit{Doc: d.Address(), Edits: edits}}},
			)
			require.NoError(t, err)
		}
	}
	tree, err := snippet.Make(l, "form:tickets", app, "")
	require.NoError(t, err)
	el := tree
	at := slices.IndexFunc(el.Props, func(p screen.Prop) bool { return p.Filled })
	require.GreaterOrEqual(t, at, 0, "a clear norm is filled in")
	prop := el.Props[at]
	assert.Equal(t, "actions end", prop.Name+" "+prop.Value.Text)
	uses := func() int {
		root, ok := l.Index.Root(el.Type)
		require.True(t, ok)
		for i := range root.Mixes {
			if root.Mixes[i].Prop == prop.Name {
				for _, v := range root.Mixes[i].Values {
					if v.Value == prop.Value.Text {
						return v.Uses
					}
				}
			}
		}
		return 0
	}
	before := uses()
	_, err = l.Take(change.Change{Title: "x", Steps: []change.Step{
		&change.Create{
			Document: &screen.Document{
				Kind:  screen.ScreenDoc,
				ID:    "made",
				Title: "Made",
				App:   app,
				Route: "/made",
				Root:  &screen.Element{ID: "root", Type: "section"},
			},
		},
		&change.Edit{
			Doc:   "screen:made",
			Edits: []screen.Edit{{Op: screen.Insert, Parent: "root", Tree: tree}},
		},
	}})
	require.NoError(t, err)
	assert.Equal(t, before, uses())
	_, err = l.Take(
		change.Change{Title: "x", Steps: []change.Step{&change.Edit{
			Doc:   "screen:made",
			Edits: []screen.Edit{{Op: screen.Keep, ID: el.ID}},
		}}},
	)
	require.NoError(t, err)
	assert.Greater(t, uses(), before)
}

// An action in a row leads to the screen of that row's record, by what it says.
func TestActionsInARowLeadToTheirRecord(t *testing.T) {
	l := opened.Demo(t)
	d, ok := l.W.Doc("screen:tickets")
	require.True(t, ok)
	cell := find(d.Root, "sorrel-cell")
	leads := snippet.Leads(l, d.Root, cell, d.App)
	require.Len(t, leads, 2)
	to := map[string][]string{}
	for _, lead := range leads {
		to[lead.To] = lead.Words
	}
	assert.Contains(t, to["'/tickets/' + record.id"], "open")
	assert.Contains(t, to["'/tickets/' + record.id + '/edit'"], "edit")
	assert.Empty(t, snippet.Leads(l, d.Root, d.Root, d.App), "there is no record around")
	for tag, prop := range map[string]string{"sorrel-icon-button": "to", "sorrel-link": "to", "sorrel-card": "", "sorrel-chip": ""} {
		def, ok := l.Cat.Component(tag)
		require.True(t, ok)
		assert.Equal(t, prop, snippet.LeadProp(def), tag)
	}
}
