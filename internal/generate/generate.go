// Package generate makes workspaces of any size from a seed, with planted slips
// and legitimate second variants as bait, for measuring and for tests of scale.
package generate

import (
	"fmt"
	"math/rand/v2"

	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Options say what is made. The same options make the same workspace.
type Options struct {
	Screens  int
	Elements int     // about so many on each screen
	Slips    float64 // share of elements with a habit that depart from it
	Seed     uint64
}

// Slip is a planted departure.
type Slip struct{ Doc, Element, Prop string }

// maker makes one screen.
type maker struct {
	rng    *rand.Rand
	opts   Options
	doc    string
	n      int
	slips  []Slip
	kind   int // which of the team's kinds of screen
	number int
}

func (m *maker) el(typ string, children ...*screen.Element) *screen.Element {
	m.n++
	return &screen.Element{ID: fmt.Sprintf("e%d", m.n), Type: typ, Children: children}
}

func (m *maker) text(typ, text string) *screen.Element {
	e := m.el(typ)
	e.Text = screen.Lit(text)
	return e
}

func set(e *screen.Element, prop, value string) *screen.Element {
	e.Props = append(e.Props, screen.Prop{Name: prop, Value: screen.Lit(value)})
	screen.SortProps(e.Props)
	return e
}

func in(slot string, e *screen.Element) *screen.Element { e.Slot = slot; return e }

// habit sets a prop as the team does, or, now and then, as it does not.
func (m *maker) habit(e *screen.Element, prop, usual string, others ...string) *screen.Element {
	if m.rng.Float64() < m.opts.Slips {
		m.slips = append(m.slips, Slip{m.doc, e.ID, prop})
		return set(e, prop, others[m.rng.IntN(len(others))])
	}
	return set(e, prop, usual)
}

var nouns = []string{"ticket", "bed", "order", "shift", "count", "round", "label", "seed", "tool", "path"}

func (m *maker) noun() string { return nouns[m.rng.IntN(len(nouns))] }

func (m *maker) header() *screen.Element {
	h := set(m.el("sorrel-page-header"), "heading", "All "+m.noun()+"s")
	m.habit(h, "size", "m", "s")
	what := m.rng.IntN(len(nouns))
	b := in("actions", m.text("sorrel-button", "New "+nouns[what]))
	set(b, "to", fmt.Sprintf("/s%d", what))
	h.Children = []*screen.Element{m.habit(b, "emphasis", "strong", "soft", "bare")}
	return h
}

func (m *maker) table(rows int) *screen.Element {
	t := set(m.el("sorrel-table"), "label", m.noun())
	// Bait: reports, a kind of screen of their own, are tight on purpose.
	if m.kind == 2 {
		set(t, "density", "tight")
	}
	for range 4 {
		t.Children = append(t.Children, in("columns", m.text("sorrel-column", m.noun())))
	}
	for range rows {
		r := m.el("sorrel-row")
		for range 3 {
			r.Children = append(r.Children, m.text("sorrel-cell", m.noun()))
		}
		chip := m.text("sorrel-chip", []string{"good", "late", "new"}[m.rng.IntN(3)])
		set(chip, "tone", []string{"good", "warn", "info"}[m.rng.IntN(3)]) // by meaning, no habit
		m.habit(chip, "shape", "round", "square")
		r.Children = append(r.Children, m.el("sorrel-cell", chip))
		t.Children = append(t.Children, r)
	}
	return t
}

func (m *maker) form(fields int) *screen.Element {
	f := set(m.el("sorrel-form"), "label", m.noun())
	// Two minds: every third screen has the buttons at the end.
	if m.number%3 == 0 {
		set(f, "actions", "end")
	}
	for i := range fields {
		field := set(m.el("sorrel-field"), "label", m.noun())
		m.habit(field, "layout", "above", "side")
		control := m.el("sorrel-text-input")
		set(control, "name", fmt.Sprintf("f%d-%d", m.n, i))
		set(control, "kind", []string{"text", "date", "number"}[m.rng.IntN(3)])
		field.Children = []*screen.Element{control}
		f.Children = append(f.Children, field)
	}
	cancel := in("actions", set(m.text("sorrel-button", "Cancel"), "to", "/s11"))
	m.habit(cancel, "emphasis", "bare", "soft")
	save := in("actions", set(m.text("sorrel-button", "Save"), "action", "submit"))
	m.habit(save, "emphasis", "strong", "soft", "bare")
	f.Children = append(f.Children, cancel, save)
	return f
}

func (m *maker) cards(n int) *screen.Element {
	g := m.el("grid")
	set(g, "columns", "3")
	for i := range n {
		size := "m"
		// Bait: now and then the first card is the main one, on purpose.
		if i == 0 && m.number%6 == 0 {
			size = "l"
		}
		c := m.el(
			"sorrel-card",
			in("header", set(m.text("sorrel-heading", m.noun()), "size", size)),
			m.text("sorrel-text", "About a "+m.noun()),
			in("footer", set(m.text("sorrel-link", "Open"), "to", "/s12")),
		)
		m.habit(c, "ground", "plain", "raised", "none")
		g.Children = append(g.Children, c)
	}
	return g
}

// Workspace makes a workspace and lists what was planted in it.
func Workspace(o Options) (*model.Workspace, []Slip) {
	w := &model.Workspace{
		Name: "Generated",
		Kit:  model.KitRef{Name: "@fernhollow/sorrel", Version: "1.0.0"},
		Apps: []model.App{{ID: "app", Name: "App"}},
	}
	var slips []Slip
	for i := range o.Screens {
		id := fmt.Sprintf("s%d", i)
		m := &maker{
			rng:    rand.New(rand.NewPCG(o.Seed, uint64(i))),
			opts:   o,
			doc:    "screen:" + id,
			kind:   i % 4,
			number: i,
		}
		root := m.el("section")
		m.habit(root, "padding", "5", "3", "4")
		m.habit(root, "gap", "5", "2", "6")
		root.Children = append(root.Children, m.header())
		for m.n < o.Elements {
			left := o.Elements - m.n
			switch (m.kind + len(root.Children)) % 3 {
			case 0:
				root.Children = append(root.Children, m.table(min(12, left/9+1)))
			case 1:
				root.Children = append(root.Children, m.form(min(8, left/2+1)))
			default:
				root.Children = append(root.Children, m.cards(min(9, left/4+1)))
			}
		}
		w.Docs = append(
			w.Docs,
			&screen.Document{
				Kind:     screen.ScreenDoc,
				ID:       id,
				Title:    "Screen " + id,
				Route:    "/" + id,
				App:      "app",
				Revision: 1,
				Root:     root,
			},
		)
		slips = append(slips, m.slips...)
	}
	return w, slips
}
