package live_test

import (
	"fmt"
	"maps"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/picture"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/internal/generate"
	"ubiquant/internal/testkit"
)

// board is a clean workspace in which something is planted.
type board struct {
	t *testing.T
	w *model.Workspace
}

// doc is a copy of the n-th screen whose id begins so.
func (b *board) doc(prefix string, n int) *screen.Document {
	for i, d := range b.w.Docs {
		if !strings.HasPrefix(d.ID, prefix) {
			continue
		}
		if n--; n >= 0 {
			continue
		}
		c := *d
		c.Root = deep(d.Root)
		b.w.Docs[i] = &c
		return &c
	}
	b.t.Fatalf("no %s", prefix)
	return nil
}

func deep(e *screen.Element) *screen.Element {
	c := *e
	c.Props = append([]screen.Prop(nil), e.Props...)
	c.Children = nil
	for _, k := range e.Children {
		c.Children = append(c.Children, deep(k))
	}
	return &c
}

// at is the n-th element of a type.
func at(d *screen.Document, typ string, n int) *screen.Element {
	var found *screen.Element
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if e.Type == typ && found == nil {
			if n--; n < 0 {
				found = e
			}
		}
		return true
	})
	return found
}

// saying is the element with a text.
func saying(d *screen.Document, text string) *screen.Element {
	var found *screen.Element
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if e.Text.Text == text {
			found = e
		}
		return true
	})
	return found
}

func set(e *screen.Element, prop, value string) {
	for i := range e.Props {
		if e.Props[i].Name == prop {
			e.Props[i].Value = screen.Lit(value)
			return
		}
	}
	e.Props = append(e.Props, screen.Prop{Name: prop, Value: screen.Lit(value)})
	screen.SortProps(e.Props)
}

func unset(e *screen.Element, prop string) {
	for i := range e.Props {
		if e.Props[i].Name == prop {
			e.Props = append(e.Props[:i], e.Props[i+1:]...)
			return
		}
	}
}

func expr(s string) screen.Value { return screen.Value{Kind: screen.Expr, Text: s} }

func put(t *testing.T, parent *screen.Element, tree string) {
	parent.Children = append(parent.Children, testkit.Tree(t, tree))
}

func without(parent *screen.Element, typ string) {
	kept := parent.Children[:0]
	for _, c := range parent.Children {
		if c.Type != typ {
			kept = append(kept, c)
		}
	}
	parent.Children = kept
}

// menus puts two buttons with a menu each onto a screen; the second opens the one named.
func menus(b *board, second string) {
	put(b.t, b.doc("detail-", 1).Root, `{"id":"ms","type":"stack","children":[
		{"id":"r1","type":"row","children":[{"id":"b1","type":"sorrel-button","text":"More","props":{"does":"open m1"}},{"id":"m1","type":"sorrel-menu","props":{"label":"More"}}]},
		{"id":"r2","type":"row","children":[{"id":"b2","type":"sorrel-button","text":"Others","props":{"does":"open `+second+`"}},{"id":"m2","type":"sorrel-menu","props":{"label":"Others"}}]}]}`)
}

// drawers puts two onto a screen, of which a button opens one and another the one named.
func drawers(b *board, second string) {
	put(b.t, b.doc("detail-", 1).Root, `{"id":"ds","type":"stack","children":[{"id":"zb","type":"sorrel-button","text":"More","props":{"does":"open zd"}},
		{"id":"zc","type":"sorrel-button","text":"Less","props":{"does":"open `+second+`"}},
		{"id":"zd","type":"sorrel-drawer","props":{"heading":"More"}},{"id":"ze","type":"sorrel-drawer","props":{"heading":"Less"}}]}`)
}

// records puts plants onto a list, of which the last is called otherwise than the others.
func records(b *board, name, last string) {
	b.w.Models = append(b.w.Models, sample.Model{ID: "plants", Name: "Plant", Fields: []sample.Field{
		{Name: "called", Type: sample.Text}, {Name: "size", Type: sample.Choice, Choices: []string{"small", "large"}},
	}})
	var list []sample.Record
	for i, called := range []string{name, name, name, name, last} {
		list = append(list, sample.Record{"id": fmt.Sprint("p", i), "called": called, "size": "small"})
	}
	if len(b.w.Sets) == 0 {
		b.w.Sets = []sample.Set{{ID: "usual", Name: "Usual", Records: map[string][]sample.Record{}}}
	}
	set := b.w.Sets[0]
	set.Records = maps.Clone(set.Records)
	set.Records["plants"] = list
	b.w.Sets = append([]sample.Set{set}, b.w.Sets[1:]...)
	put(b.t, b.doc("list-", 1).Root, `{"id":"zp","type":"stack","repeat":{"model":"plants"},"children":[{"id":"zt","type":"sorrel-text","text":{"expr":"record.called"}},{"id":"zs","type":"spacer"}]}`)
}

// again puts a piece into a workspace, and by hand on a screen what it is made of.
func again(b *board, tone string) {
	made := `{"id":"X","type":"sorrel-card","props":{"pad":"roomy"},"children":[{"id":"Xh","type":"sorrel-heading","slot":"header","text":"Rain ahead","props":{"level":"3"}},
		{"id":"Xc","type":"sorrel-chip","text":"Closed","props":{"tone":"%s"}},{"id":"Xt","type":"sorrel-text","text":"The paths are closed"}]}`
	b.w.Docs = append(b.w.Docs, &screen.Document{Kind: screen.PieceDoc, ID: "rain", Title: "Rain", Root: testkit.Tree(b.t, fmt.Sprintf(made, "warn"))})
	if tone == "bad" { // another part, made of the same
		made = strings.NewReplacer("Rain ahead", "Opening hours", "Closed", "Summer", "The paths are closed", "From eight to six").Replace(made)
	}
	put(b.t, b.doc("detail-", 1).Root, fmt.Sprintf(strings.ReplaceAll(made, "X", "zz"), tone))
	put(b.t, b.doc("detail-", 2).Root, `{"id":"use","type":"piece:rain"}`)
}

// shows puts a picture onto a screen; one of so many pixels is kept.
func shows(b *board, id string, side int) {
	b.w.Pictures = append(b.w.Pictures, picture.Kept{ID: "fedcba9876543210", Title: "oak", Width: side, Height: side, Data: "data:image/png;base64,AAAA"})
	put(b.t, b.doc("detail-", 1).Root, `{"id":"zi","type":"sorrel-picture","props":{"src":"/pictures/oak-`+id+`.png","alt":"An oak"}}`)
}

// contact puts the same part onto three screens, but for what the last one says.
func contact(b *board, last string) {
	for i, says := range []string{"Ring the office", "Ring the office", last} {
		put(b.t, b.doc("detail-", i).Root, `{"id":"zc","type":"sorrel-card","children":[
			{"id":"zh","type":"sorrel-heading","slot":"header","text":"Questions?"},{"id":"zt","type":"sorrel-text","text":"`+says+`"},
			{"id":"zu","type":"sorrel-text","text":"Mondays to Fridays"},{"id":"zl","type":"sorrel-link","slot":"footer","text":"Where we are","props":{"to":"/x"}}]}`)
	}
}

// slip is one of the slips that the audit tells of: planted it is found by its rule or by the
// judge as the kind; what looks like it and is none is not.
type slip struct {
	name, rule, kind string
	plant, innocent  func(b *board)
}

var slips = []slip{
	{"S7 two elements share a name", "shared-id", "", func(b *board) {
		d := b.doc("list-", 1)
		at(d, "sorrel-table", 0).Name, at(d, "sorrel-pager", 0).Name = "things", "things"
	}, func(b *board) {
		d := b.doc("list-", 1)
		at(d, "sorrel-table", 0).Name, at(d, "sorrel-pager", 0).Name = "things", "page"
	}},
	{"S8 two fields share a value", "shared-id", "", func(b *board) {
		d := b.doc("new-", 1)
		set(at(d, "sorrel-field", 1).Children[0], "name", "name")
	}, func(b *board) { set(at(b.doc("new-", 1), "sorrel-field", 1).Children[0], "name", "nickname") }},
	{"S8 two fields share a label", "same-label", "", func(b *board) {
		set(at(b.doc("new-", 1), "sorrel-field", 1), "label", "Name")
	}, func(b *board) { set(at(b.doc("new-", 1), "sorrel-field", 1), "label", "Name in full") }},
	{"S9 two screens bear one name", "same-title", "", func(b *board) {
		b.doc("detail-", 0).Title = b.doc("detail-", 1).Title
	}, func(b *board) { b.doc("report-", 0).Title = b.doc("detail-", 1).Title }}, // another application
	{"S10 sample text stays in", "demo-text", "", func(b *board) {
		put(b.t, b.doc("detail-", 1).Root, `{"id":"zz","type":"sorrel-text","text":"Lorem ipsum dolor sit amet"}`)
	}, func(b *board) {
		put(b.t, at(b.doc("list-", 1), "sorrel-table", 0), `{"id":"zz","type":"sorrel-column","slot":"columns","text":"Title"}`)
	}},
	{"S10 a stand-in for a picture", "demo-text", "", func(b *board) {
		put(b.t, b.doc("detail-", 1).Root, `{"id":"zz","type":"sorrel-picture","props":{"src":"/img/placeholder.png","alt":"A bed"}}`)
	}, func(b *board) {
		put(b.t, b.doc("detail-", 1).Root, `{"id":"zz","type":"sorrel-picture","props":{"src":"/img/north-bank.png","alt":"A bed"}}`)
	}},
	{"S11 a route that is not there", "dead-route", "", func(b *board) {
		set(at(b.doc("new-", 2), "sorrel-crumb", 0), "to", "/nowhere")
	}, func(b *board) { set(at(b.doc("new-", 2), "sorrel-crumb", 0), "to", "/files/manual.pdf") }},
	{"S11 a screen that nothing leads to", "unreached", "", func(b *board) {
		b.w.Docs = append(b.w.Docs, &screen.Document{Kind: screen.ScreenDoc, ID: "lonely", Title: "Lonely", Route: "/lonely", App: "work",
			Root: testkit.Tree(b.t, `{"id":"r","type":"section"}`)})
	}, func(b *board) {
		b.w.Docs = append(b.w.Docs, &screen.Document{Kind: screen.ScreenDoc, ID: "lonely", Title: "Lonely", Route: "/lonely", App: "work",
			Root: testkit.Tree(b.t, `{"id":"r","type":"section"}`)})
		put(b.t, b.doc("detail-", 1).Root, `{"id":"zz","type":"sorrel-link","text":"Lonely","props":{"to":"/lonely"}}`)
	}},
	{"S12 a date written otherwise", "format-differs", "format", func(b *board) {
		cellOf(b, "day(record.due)").Text = expr("record.due")
	}, func(b *board) { cellOf(b, "day(record.due)").Show = "record.due != ''" }},
	{"S13 the least above the most", "contradiction", "", func(b *board) {
		c := at(b.doc("new-", 1), "sorrel-text-input", 0)
		set(c, "min", "9")
		set(c, "max", "3")
	}, func(b *board) {
		c := at(b.doc("new-", 1), "sorrel-text-input", 0)
		set(c, "min", "3")
		set(c, "max", "9")
	}},
	{"S13 demanded and not to be filled in", "contradiction", "", func(b *board) {
		c := at(b.doc("new-", 1), "sorrel-text-input", 0)
		set(c, "required", "true")
		set(c, "disabled", "true")
	}, func(b *board) { set(at(b.doc("new-", 1), "sorrel-text-input", 0), "disabled", "true") }},
	{"S14 a field without a label", "field-label", "", func(b *board) {
		put(b.t, b.doc("list-", 1).Root, `{"id":"zz","type":"sorrel-text-input","props":{"name":"zz","placeholder":"Find"}}`)
	}, func(b *board) {
		put(b.t, b.doc("list-", 1).Root, `{"id":"zz","type":"sorrel-text-input","props":{"name":"zz","label":"Find"}}`)
	}},
	{"S15 a button that does nothing", "dead-control", "", func(b *board) {
		put(b.t, b.doc("detail-", 1).Root, `{"id":"zz","type":"sorrel-button","text":"Print"}`)
	}, func(b *board) {
		put(b.t, b.doc("detail-", 1).Root, `{"id":"zz","type":"sorrel-button","text":"Print","name":"print"}`)
	}},
	{"S15 a link to its own screen", "dead-control", "", func(b *board) {
		d := b.doc("list-", 1)
		put(b.t, d.Root, fmt.Sprintf(`{"id":"zz","type":"sorrel-link","text":"More","props":{"to":%q}}`, d.Route))
	}, func(b *board) {
		put(b.t, b.doc("list-", 1).Root, `{"id":"zz","type":"sorrel-link","text":"More","props":{"to":"/tickets"}}`)
	}},
	{"S15 every row leads to one record", "same-record", "", func(b *board) {
		d := b.doc("list-", 1)
		set(at(d, "sorrel-link", 0), "to", d.Route+"/x1")
	}, func(b *board) {
		d := b.doc("list-", 1)
		set(at(d, "sorrel-link", 0), "to", d.Route+"/new")
	}},
	{"S16 an element in the wrong parent", "wrong-place", "", func(b *board) {
		put(b.t, b.doc("detail-", 1).Root, `{"id":"zz","type":"sorrel-cell","text":"x"}`)
	}, func(b *board) { put(b.t, b.doc("detail-", 1).Root, `{"id":"zz","type":"sorrel-text","text":"x"}`) }},
	{"S16 a form sent from outside", "outside-form", "", func(b *board) {
		put(b.t, b.doc("new-", 1).Root, `{"id":"zz","type":"sorrel-button","text":"Save","props":{"action":"submit"}}`)
	}, func(b *board) {
		put(b.t, at(b.doc("new-", 1), "sorrel-form", 0), `{"id":"zz","type":"sorrel-button","slot":"actions","text":"Save","props":{"action":"submit"}}`)
	}},
	{"S16 an action outside its slot", "", "slot", func(b *board) {
		f := at(b.doc("edit-", 2), "sorrel-form", 0)
		f.Children[len(f.Children)-1].Slot = ""
	}, func(b *board) {
		put(b.t, at(b.doc("edit-", 2), "sorrel-form", 0), `{"id":"zz","type":"sorrel-button","text":"Look it up","props":{"to":"/beds"}}`)
	}},
	{"S11 a piece that nothing uses", "unused-piece", "", func(b *board) {
		b.w.Docs = append(b.w.Docs, pieceDoc(b.t))
	}, func(b *board) {
		b.w.Docs = append(b.w.Docs, pieceDoc(b.t))
		put(b.t, b.doc("detail-", 1).Root, `{"id":"zz","type":"piece:hint"}`)
	}},
	{"S11 a setting of a piece that nothing sets", "unused-setting", "", func(b *board) { hints(b, `{}`, `{}`) }, func(b *board) { hints(b, `{}`, `{"words":"Ring twice."}`) }},
	{"S29 a small piece made again by hand", "copied-piece", "", func(b *board) {
		hints(b, `{}`, `{"words":"Ring."}`)
		put(b.t, b.doc("detail-", 4).Root, `{"id":"zy","type":"stack","props":{"gap":"1","align":"center"},"children":[{"id":"zx","type":"sorrel-text","props":{"size":"s"},"text":"Come by."},{"id":"zw","type":"sorrel-text","text":"At noon."}]}`)
	}, func(b *board) {
		hints(b, `{}`, `{"words":"Ring."}`)
		put(b.t, b.doc("detail-", 4).Root, `{"id":"zy","type":"stack","props":{"gap":"1","align":"end"},"children":[{"id":"zx","type":"sorrel-text","props":{"size":"s"},"text":"Come by."},{"id":"zw","type":"sorrel-text","text":"At noon."}]}`)
	}},
	{"S9 two columns headed alike", "same-label", "", func(b *board) { columns(b, "Total", "Total") }, func(b *board) { columns(b, "Total", "Paid") }},
	{"S10 a person out of an example", "demo-text", "", func(b *board) {
		put(b.t, b.doc("detail-", 4).Root, `{"id":"zy","type":"sorrel-avatar","props":{"name":"John Doe","size":"s"}}`)
	}, func(b *board) {
		put(b.t, b.doc("detail-", 4).Root, `{"id":"zy","type":"sorrel-avatar","props":{"name":"Jo Dorn","size":"s"}}`)
	}},
	{"S15 a pager whose pages are typed", "loose-pager", "", func(b *board) { pager(b, `4`) }, func(b *board) { pager(b, `{"expr":"pages.all"}`) }},
	{"S34 what removes does not look so", "danger-missing", "", func(b *board) { removing(b, "plain") }, func(b *board) { removing(b, "danger") }},
	{"S37 a step of the way back is missing", "trail-gap", "", func(b *board) { trails(b, "/elsewhere") }, func(b *board) { trails(b, "") }},
	{"S30 one word in two tones", "", "tone", func(b *board) { late(b, "bad", 9, "good") }, func(b *board) {
		late(b, "bad", 9, "bad")
		put(b.t, b.doc("list-", 9).Root, `{"id":"zy","type":"sorrel-chip","text":"Paid","props":{"tone":"good"}}`)
	}},
	{"S35 two actions with the same words", "same-words", "", func(b *board) {
		h := at(b.doc("list-", 1), "sorrel-page-header", 0)
		put(b.t, h, `{"id":"y","type":"sorrel-button","slot":"actions","text":"Print","props":{"to":"/a"}}`)
		put(b.t, h, `{"id":"z","type":"sorrel-button","slot":"actions","text":"Print","props":{"to":"/b"}}`)
	}, func(b *board) {
		h := at(b.doc("list-", 1), "sorrel-page-header", 0)
		put(b.t, h, `{"id":"y","type":"sorrel-button","slot":"actions","text":"Print","props":{"to":"/a"}}`)
		put(b.t, h, `{"id":"z","type":"sorrel-button","slot":"actions","text":"Print all","props":{"to":"/b"}}`)
	}},
	{"S10 a figure typed beside computed ones", "typed-figure", "", func(b *board) {
		put(b.t, b.doc("list-", 1).Root, `{"id":"zz","type":"grid","children":[{"id":"z1","type":"sorrel-stat","props":{"label":"All","value":{"expr":"text(size(beds))"}}},{"id":"z2","type":"sorrel-stat","props":{"label":"Late","value":"12"}}]}`)
	}, func(b *board) {
		put(b.t, b.doc("list-", 1).Root, `{"id":"zz","type":"grid","children":[{"id":"z1","type":"sorrel-stat","props":{"label":"All","value":{"expr":"text(size(beds))"}}},{"id":"z2","type":"sorrel-stat","props":{"label":"Gate","value":"North"}}]}`)
	}},
	{"S15 a pager that turns nothing", "loose-pager", "", func(b *board) {
		d := b.doc("list-", 1)
		at(d, "sorrel-pager", 0).Name = ""
		row := at(d, "sorrel-row", 0)
		again := *row.Repeat
		again.Page = ""
		row.Repeat = &again
	}, func(b *board) { set(at(b.doc("list-", 1), "sorrel-pager", 0), "align", "end") }},
	{"S7 the second button opens the first menu", "unopened", "", func(b *board) { menus(b, "m1") }, func(b *board) { menus(b, "m2") }},
	{"S11 a drawer that nothing opens", "unopened", "", func(b *board) { drawers(b, "zd") }, func(b *board) { drawers(b, "ze") }},
	{"S11 a state in which nothing differs", "idle-state", "", func(b *board) {
		d := b.doc("detail-", 2)
		d.States = append(d.States, screen.State{Name: "sent", Edits: []screen.Edit{{Op: screen.SetText, ID: d.Root.ID, Value: d.Root.Text}}})
	}, func(b *board) {
		d := b.doc("detail-", 2)
		d.States = append(d.States, screen.State{Name: "sent", Edits: []screen.Edit{{Op: screen.Set, ID: d.Root.ID, Prop: "gap", Value: screen.Lit("1")}}})
	}},
	{"S24 all records have the same value", "records-alike", "", func(b *board) { records(b, "Rose", "Rose") }, func(b *board) { records(b, "Rose", "Oak") }},
	{"S24 a branch that no record shows", "records-alike", "", func(b *board) {
		records(b, "Rose", "Oak")
		at(b.doc("list-", 1), "spacer", 0).Show = "record.size == 'large'"
	}, func(b *board) {
		records(b, "Rose", "Oak")
		at(b.doc("list-", 1), "spacer", 0).Show = "record.size == 'small'"
	}},
	{"S29 a piece made again by hand", "copied-piece", "", func(b *board) { again(b, "warn") }, func(b *board) { again(b, "bad") }},
	{"S32 one part on three screens", "copied-part", "", func(b *board) { contact(b, "Ring the office") }, func(b *board) { contact(b, "Write to us") }},
	{"S32 the same markup again and again", "repeated-markup", "", func(b *board) { cards(b, 3) }, func(b *board) { cards(b, 2) }},
	{"S37 the active mark set by hand", "active-by-hand", "", func(b *board) { shell(b, `"active":true`) }, func(b *board) { shell(b, `"count":3`) }},
	{"S38 one field of several without a label", "odd-one-out", "", func(b *board) { fieldRow(b, "") }, func(b *board) { fieldRow(b, "Soil") }},
	{"S38 one label with a colon", "odd-one-out", "", func(b *board) { fieldRow(b, "Soil:") }, func(b *board) { fieldRow(b, "Soil") }},
	{"S38 one of a row in another size", "odd-one-out", "", func(b *board) { row(b, 1) }, func(b *board) { row(b, 0) }},
	{"S20 two spacers in a row", "empty-space", "", func(b *board) {
		put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"stack","children":[{"id":"z1","type":"spacer"},{"id":"z2","type":"spacer"}]}`)
	}, func(b *board) {
		put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"stack","children":[{"id":"z1","type":"spacer"},{"id":"z3","type":"sorrel-text","text":"x"},{"id":"z2","type":"spacer"}]}`)
	}},
	{"S19 another page margin", "", "setting", func(b *board) { set(b.doc("list-", 2).Root, "padding", "2") },
		func(b *board) { set(b.doc("list-", 2).Root, "width", "full") }},
	{"S19 another gap", "", "setting", func(b *board) { set(b.doc("detail-", 2).Root, "gap", "2") },
		func(b *board) { set(b.doc("detail-", 2).Root, "gap", "5") }},
	{"S20 an empty element for room", "empty-space", "", func(b *board) {
		put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"sorrel-text","text":" "}`)
	}, func(b *board) {
		put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"sorrel-empty-state","props":{"heading":"Nothing"}}`)
	}},
	{"S22 a picture that is not there", "picture-file", "", func(b *board) { shows(b, "0123456789abcdef", 600) },
		func(b *board) { shows(b, "fedcba9876543210", 600) }},
	{"S22 a picture that is far too large", "picture-file", "", func(b *board) { shows(b, "fedcba9876543210", 6000) },
		func(b *board) { shows(b, "fedcba9876543210", 1600) }},
	{"S22 a picture without words", "picture-alt", "", func(b *board) {
		put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"sorrel-picture","props":{"src":"/oak.png"}}`)
	}, func(b *board) {
		put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"sorrel-picture","props":{"src":"/oak.png","alt":"An oak"}}`)
	}},
	{"S22 a file name as words", "picture-alt", "", func(b *board) {
		put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"sorrel-picture","props":{"src":"/oak.png","alt":"oak.png"}}`)
	}, func(b *board) {
		put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"sorrel-picture","props":{"src":"/oak.png","alt":"Oak, photographed in Dr. Fenn’s garden"}}`)
	}},
	{"S23 a heading level skipped", "heading-skip", "", func(b *board) { set(at(b.doc("detail-", 2), "sorrel-heading", 0), "level", "4") },
		func(b *board) {
			put(b.t, b.doc("detail-", 2).Root, `{"id":"zz","type":"sorrel-heading","text":"Below","props":{"level":"3"}}`)
		}},
	{"S23 two headings of the first level", "heading-skip", "", func(b *board) {
		put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"sorrel-page-header","props":{"heading":"Again"}}`)
	}, func(b *board) { put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"sorrel-heading","text":"Again"}`) }},
	{"S34 the main action otherwise", "", "setting", func(b *board) { set(saying(b.doc("edit-", 2), "Save"), "emphasis", "soft") },
		func(b *board) { set(saying(b.doc("edit-", 2), "Save"), "emphasis", "strong") }},
	{"S34 two main actions", "one-main-action", "", func(b *board) { set(saying(b.doc("edit-", 2), "Cancel"), "emphasis", "strong") },
		func(b *board) { set(saying(b.doc("edit-", 2), "Cancel"), "emphasis", "bare") }},
	{"S35 other words for sending", "", "words", func(b *board) { saying(b.doc("edit-", 2), "Save").Text = screen.Lit("Store") },
		func(b *board) { saying(b.doc("edit-", 2), "Save").Text = screen.Lit("Send") }},
	{"S35 other words for a new one", "", "words", func(b *board) {
		e := at(b.doc("list-", 2), "sorrel-button", 0)
		e.Text = screen.Lit(strings.Replace(e.Text.Text, "New", "Add", 1))
	}, func(b *board) {
		put(b.t, at(b.doc("list-", 2), "sorrel-page-header", 0), `{"id":"zz","type":"sorrel-button","slot":"actions","text":"Import","props":{"to":"/beds"}}`)
	}},
	{"S36 a date typed and not picked", "", "control", func(b *board) { set(dateField(b), "kind", "text") },
		func(b *board) { set(dateField(b), "min", "2026-01-01") }},
	{"S36 a label otherwise", "", "label", func(b *board) {
		d := b.doc("edit-", 3)
		set(at(d, "sorrel-field", 0), "label", "What it is called")
	}, func(b *board) { set(at(b.doc("edit-", 3), "sorrel-field", 0), "help", "As on the sign.") }},
	{"S39 a colour by hand", "off-theme", "", func(b *board) {
		put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"sorrel-text","text":"Red","props":{"color":"#cc0000"}}`)
	}, func(b *board) {
		put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"sorrel-text","text":"Red","props":{"tone":"bad"}}`)
	}},
	{"S41 an icon button without a name", "required-missing", "", func(b *board) { unset(at(b.doc("list-", 2), "sorrel-icon-button", 0), "label") },
		func(b *board) { set(at(b.doc("list-", 2), "sorrel-icon-button", 0), "label", "Edit this one") }},
	{"S41 another icon for one meaning", "", "setting", func(b *board) { set(at(b.doc("list-", 2), "sorrel-icon-button", 0), "icon", "settings") },
		func(b *board) { set(at(b.doc("list-", 2), "sorrel-icon-button", 0), "icon", "pencil") }},
	{"S44 numbers in a column for text", "", "setting", func(b *board) {
		for i := range 40 {
			if c := at(b.doc("list-", 0), "sorrel-column", i); c != nil {
				if v, _ := c.Prop("kind"); v.Text == "number" {
					set(c, "kind", "text")
					return
				}
			}
		}
		b.t.Fatal("no number column")
	}, func(b *board) { set(at(b.doc("list-", 0), "sorrel-column", 0), "kind", "text") }},
	{"S44 a cell is missing", "table-shape", "", func(b *board) {
		row := at(b.doc("list-", 2), "sorrel-row", 0)
		row.Children = row.Children[1:]
	}, func(b *board) { at(b.doc("list-", 2), "sorrel-row", 0).Children[0].Show = "true" }},
	{"S45 cancel after save", "", "order", func(b *board) {
		f := at(b.doc("edit-", 2), "sorrel-form", 0)
		n := len(f.Children)
		f.Children[n-1], f.Children[n-2] = f.Children[n-2], f.Children[n-1]
	}, func(b *board) {
		put(b.t, at(b.doc("edit-", 2), "sorrel-form", 0), `{"id":"zz","type":"sorrel-button","slot":"actions","text":"Help","name":"help"}`)
	}},
	{"S45 the required mark is missing", "", "required", func(b *board) { unset(at(b.doc("edit-", 2), "sorrel-field", 0), "required") },
		func(b *board) { set(at(b.doc("edit-", 2), "sorrel-field", 0), "help", "Short") }},
	{"S40 the empty state is missing", "", "part", func(b *board) { without(at(b.doc("list-", 3), "sorrel-table", 0), "sorrel-empty-state") },
		func(b *board) { at(b.doc("list-", 3), "sorrel-empty-state", 0).Show = "true" }},
	{"S37 the breadcrumbs are missing", "", "part", func(b *board) { without(b.doc("new-", 3).Root, "sorrel-breadcrumbs") },
		func(b *board) { without(b.doc("list-", 3).Root, "sorrel-breadcrumbs") }},
	{"S46 a deprecated component", "deprecated", "", func(b *board) {
		put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"sorrel-tag","text":"x"}`)
	}, func(b *board) { put(b.t, b.doc("list-", 2).Root, `{"id":"zz","type":"sorrel-chip","text":"x"}`) }},
}

func columns(b *board, heads ...string) {
	list := []string{}
	for i, h := range heads {
		list = append(list, fmt.Sprintf(`{"id":"y%d","type":"sorrel-column","slot":"columns","text":%q}`, i, h))
	}
	put(b.t, b.doc("detail-", 4).Root, `{"id":"zz","type":"sorrel-table","props":{"label":"Sums"},"children":[`+strings.Join(list, ",")+`]}`)
}

func pager(b *board, pages string) {
	put(b.t, b.doc("detail-", 4).Root, `{"id":"zz","type":"stack","children":[{"id":"y","type":"sorrel-text","name":"all","text":"One","repeat":{"model":"beds","limit":5,"page":"at"}},{"id":"x","type":"sorrel-pager","name":"at","props":{"pages":`+pages+`}}]}`)
}

// removing puts buttons that remove on four screens, the last with an intent of its own.
func removing(b *board, last string) {
	for i, intent := range []string{"danger", "danger", "danger", last} {
		put(b.t, b.doc("detail-", i).Root, fmt.Sprintf(`{"id":"zz","type":"sorrel-button","text":"Delete it","props":{"intent":%q,"to":"/archive"}}`, intent))
	}
}

// trails puts breadcrumbs on four screens, each with a step to the screen above; the last leads to
// another where one is given.
func trails(b *board, last string) {
	for i := range 4 {
		d := b.doc("detail-", i)
		above := d.Route[:strings.LastIndex(d.Route, "/")]
		if i == 3 && last != "" {
			above = last
		}
		put(b.t, d.Root, fmt.Sprintf(`{"id":"zz","type":"sorrel-breadcrumbs","children":[{"id":"y","type":"sorrel-crumb","text":"All","props":{"to":%q}}]}`, above))
	}
}

// hints uses a piece that offers its words twice, with settings.
func hints(b *board, settings ...string) {
	d := pieceDoc(b.t)
	d.Props = []screen.PieceProp{{Name: "words", Element: "q"}}
	b.w.Docs = append(b.w.Docs, d)
	for i, s := range settings {
		put(b.t, b.doc("detail-", i+1).Root, `{"id":"zz","type":"piece:hint","props":`+s+`}`)
	}
}

func pieceDoc(t *testing.T) *screen.Document {
	return &screen.Document{Kind: screen.PieceDoc, ID: "hint", Title: "Hint", Revision: 1,
		Root: testkit.Tree(t, `{"id":"p","type":"stack","props":{"gap":"1","align":"center"},"children":[{"id":"q","type":"sorrel-text","props":{"size":"s"},"text":"Ask the office."},{"id":"r","type":"sorrel-text","text":"At noon."}]}`)}
}

// late puts a chip with one word and tone on so many lists, and on one more with another.
func late(b *board, tone string, n int, other string) {
	for i := range n + 1 {
		if i == n {
			tone = other
		}
		put(b.t, b.doc("list-", i).Root, fmt.Sprintf(`{"id":"zz","type":"sorrel-chip","text":"Late","props":{"tone":%q}}`, tone))
	}
}

// cards puts so many cards of one make on a screen.
func cards(b *board, n int) {
	grid := testkit.Tree(b.t, `{"id":"zz","type":"grid"}`)
	for i := range n {
		put(b.t, grid, fmt.Sprintf(`{"id":"z%d","type":"sorrel-card","children":[{"id":"h%d","type":"sorrel-heading","slot":"header","text":"Bed %d"},{"id":"t%d","type":"sorrel-text","text":"About %d"},{"id":"l%d","type":"sorrel-link","slot":"footer","text":"Bed %d","props":{"to":"/beds"}}]}`, i, i, i, i, i, i, i))
	}
	d := b.doc("detail-", 1)
	d.Root.Children = append(d.Root.Children, grid)
}

// shell adds a shell with a bar.
func shell(b *board, props string) {
	b.w.Docs = append(b.w.Docs, &screen.Document{Kind: screen.ShellDoc, ID: "bar", Title: "Bar", Revision: 1, Root: testkit.Tree(b.t,
		`{"id":"s","type":"stack","children":[{"id":"n","type":"sorrel-navbar","children":[{"id":"i","type":"sorrel-nav-item","text":"Beds","props":{"to":"/beds",`+props+`}}]},{"id":"o","type":"outlet"}]}`)})
}

// row puts four buttons on a screen, of which one is small.
func row(b *board, small int) {
	group := testkit.Tree(b.t, `{"id":"zz","type":"sorrel-button-group"}`)
	for i := range 4 {
		put(b.t, group, fmt.Sprintf(`{"id":"z%d","type":"sorrel-button","text":"To %d","props":{"to":"/beds","size":%q}}`, i, i, map[bool]string{true: "s", false: "m"}[i == small]))
	}
	d := b.doc("detail-", 1)
	d.Root.Children = append(d.Root.Children, group)
}

// fieldRow puts fields beside each other, of which one is labelled so.
func fieldRow(b *board, label string) {
	group := testkit.Tree(b.t, `{"id":"zz","type":"stack"}`)
	for i, own := range []string{"Bed row", "Depth", label, "Shade"} {
		put(b.t, group, fmt.Sprintf(`{"id":"z%d","type":"sorrel-field","props":{"label":%q},"children":[{"id":"y%d","type":"sorrel-text-input","props":{"value":"x%d"}}]}`, i, own, i, i))
		if own == "" {
			group.Children[i].Props = nil
		}
	}
	d := b.doc("detail-", 1)
	d.Root.Children = append(d.Root.Children, group)
}

// cellOf is the first cell that shows something as an expression does.
func cellOf(b *board, e string) *screen.Element {
	for n := range 40 {
		for _, prefix := range []string{"list-", "report-"} {
			count := 0
			for _, d := range b.w.Docs {
				if strings.HasPrefix(d.ID, prefix) {
					count++
				}
			}
			if n >= count {
				continue
			}
			if found := saying(b.doc(prefix, n), e); found != nil {
				return found
			}
		}
	}
	b.t.Fatal("nothing shows " + e)
	return nil
}

func dateField(b *board) *screen.Element {
	for n := range 8 {
		d := b.doc("new-", n)
		for i := range 12 {
			if c := at(d, "sorrel-text-input", i); c != nil {
				if v, _ := c.Prop("kind"); v.Text == "date" {
					return c
				}
			}
		}
	}
	b.t.Fatal("no date is asked for")
	return nil
}

// Each slip is told of when it is planted, and what looks like it and is none is not.
func TestEachSlipIsToldAndItsLookAlikeIsNot(t *testing.T) {
	k := testkit.Sorrel(t)
	told := func(t *testing.T, change func(b *board)) map[string]string {
		team := generate.NewTeam(generate.Options{Screens: 60, Seed: 77})
		b := &board{t, team.Clean}
		change(b)
		l := live.Open(b.w, k, "2026-11-23")
		out := map[string]string{}
		findings, _ := l.Findings()
		for _, f := range findings {
			out[f.Rule+" "+f.Doc+"#"+f.Element+" "+f.Prop] = f.Message
		}
		for _, s := range l.Strays() {
			out[s.Kind+" "+s.Doc+"#"+s.Element+" "+s.Prop] = s.Why
		}
		return out
	}
	before := told(t, func(*board) {})
	for _, s := range slips {
		t.Run(s.name, func(t *testing.T) {
			fresh := func(change func(b *board)) (list []string) {
				for key, message := range told(t, change) {
					if kind, _, _ := strings.Cut(key, " "); (kind == s.rule || kind == s.kind) && before[key] == "" {
						list = append(list, message)
					}
				}
				return list
			}
			assert.NotEmpty(t, fresh(s.plant), "planted and not told")
			assert.Empty(t, fresh(s.innocent), "told, and nothing is wrong")
		})
	}
}

// The page that lists the slips lists those that are tried here.
func TestThePageOfSlipsIsComplete(t *testing.T) {
	page, err := os.ReadFile("../../docs/slips.md")
	require.NoError(t, err)
	for _, s := range slips {
		by := s.rule
		if by == "" {
			by = "judge: " + s.kind
		}
		number, words, _ := strings.Cut(s.name, " ")
		assert.Contains(t, string(page), fmt.Sprintf("| %s | %s | %s |", number, words, by))
	}
}
