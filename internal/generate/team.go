package generate

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"time"

	"ubiquant/core/model"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Planted is a departure from what the team does, as somebody made it by mistake.
type Planted struct {
	Kind     string
	Doc      string
	Elements []string // any of these may be told of
	Knowable bool     // whether the other screens say enough to know it
}

// Minds is a real open question: what it is about, by the component and prop, or the kind.
type Minds struct{ Comp, Prop string }

// Team is what was made, and what is true of it.
type Team struct {
	*model.Workspace
	Clean   *model.Workspace // the same without the slips
	Planted []Planted
	Habits  []Minds // what one author does and no other: may be asked
	Minds   []Minds
}

// SlipKinds are the kinds of slips that are planted.
var SlipKinds = []string{
	"main emphasis", "cancel emphasis", "page padding", "page gap", "header size", "field layout", "submit words",
	"new words", "label words", "capitals", "action order", "field order", "no crumbs", "no empty state", "no pager",
	"wrong control", "raw format", "required mark", "plain state", "wrong icon", "number column", "density",
	"heading level", "row action size",
}

type teamMaker struct {
	rng, slip *rand.Rand
	opts      Options
	clean     bool
	n         int
	doc       string
	planted   []Planted
	author    int
	late      bool // made after the team changed its mind
	mod       *sample.Model
	noun      string
	kinds     map[string]int
	admin     bool
}

func (m *teamMaker) el(typ string, props ...string) *screen.Element {
	m.n++
	e := &screen.Element{ID: fmt.Sprintf("e%d", m.n), Type: typ}
	for i := 0; i+1 < len(props); i += 2 {
		set(e, props[i], props[i+1])
	}
	return e
}

func (m *teamMaker) say(text string, e *screen.Element) *screen.Element {
	e.Text = screen.Lit(text)
	return e
}

func with(e *screen.Element, kids ...*screen.Element) *screen.Element {
	for _, k := range kids {
		if k != nil {
			e.Children = append(e.Children, k)
		}
	}
	return e
}

// slips decides whether the next decision is a slip, and notes it. The draw is made whether
// or not slips are planted, so that the clean twin is the same in all else.
func (m *teamMaker) slips(kind string, knowable bool, e ...*screen.Element) bool {
	hit := m.slip.Float64() < m.opts.Slips
	if !hit || m.clean {
		return false
	}
	p := Planted{Kind: kind, Doc: m.doc, Knowable: knowable}
	for _, x := range e {
		if x != nil {
			p.Elements = append(p.Elements, x.ID)
		}
	}
	m.planted = append(m.planted, p)
	m.kinds[kind]++
	return true
}

// either gives the usual value, or a slip.
func (m *teamMaker) either(kind string, e *screen.Element, prop, usual string, others ...string) *screen.Element {
	other := others[m.slip.IntN(len(others))]
	if m.slips(kind, true, e) {
		usual = other
	}
	return set(e, prop, usual)
}

// things are what the team's screens are about.
var things = []string{
	"ticket", "bed", "order", "shift", "round", "label", "seed lot", "tool", "path", "visitor", "volunteer", "donor",
	"event", "permit", "supplier", "invoice", "vehicle", "greenhouse", "pest report", "soil sample", "herbarium sheet",
	"guide", "ticket office", "school group", "membership", "lease", "pump", "weather note", "sighting", "graft",
	"nursery row", "compost heap", "map sheet", "sign board", "bench", "key", "contract", "survey", "photo", "course",
}

type asked struct {
	name, label string
	typ         sample.FieldType
	required    bool
}

var fieldPool = []asked{
	{"due", "Due", sample.Date, true}, {"state", "State", sample.Choice, true}, {"price", "Price", sample.Money, false},
	{"count", "Count", sample.Number, false}, {"notes", "Notes", sample.LongText, false}, {"start", "Start date", sample.Date, false},
	{"owner", "Owner", sample.Text, false}, {"place", "Place", sample.Text, false}, {"active", "Active", sample.YesNo, false},
	{"weight", "Weight", sample.Number, false}, {"cost", "Cost", sample.Money, true}, {"kind", "Kind", sample.Choice, false},
	{"phone", "Phone number", sample.Text, false}, {"checked", "Last checked", sample.Date, false},
}

func plural(s string) string {
	if strings.HasSuffix(s, "y") && !strings.HasSuffix(s, "ey") {
		return strings.TrimSuffix(s, "y") + "ies"
	}
	if strings.HasSuffix(s, "ch") {
		return s + "es"
	}
	return s + "s"
}

func capital(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

// idOf is a name as models have it: "seedLots".
func idOf(s string) string {
	words := strings.Fields(plural(s))
	for i := range words[1:] {
		words[i+1] = capital(words[i+1])
	}
	return strings.Join(words, "")
}

// pathOf is a name as routes and screens have it: "seed-lots".
func pathOf(s string) string { return strings.ReplaceAll(plural(s), " ", "-") }

// NewTeam makes a workspace as several people would have made it: kinds of screens with ways of
// their own, an administration apart, a change of mind half way, rare components; and slips.
func NewTeam(o Options) *Team {
	t := &Team{}
	t.Workspace, t.Planted = makeTeam(o, false)
	t.Clean, _ = makeTeam(o, true)
	t.Habits = []Minds{{"sorrel-button", "@part +lead:sorrel-icon"}}
	if o.Screens >= 30 {
		t.Minds = []Minds{{"sorrel-form", "actions"}, {"sorrel-chip", "shape"}}
	}
	return t
}

func makeTeam(o Options, clean bool) (*model.Workspace, []Planted) {
	w := &model.Workspace{
		Name: "Generated team", Kit: model.KitRef{Name: "@fernhollow/sorrel", Version: "1.0.0"},
		Apps: []model.App{{ID: "work", Name: "Work"}, {ID: "admin", Name: "Administration"}},
	}
	rng := rand.New(rand.NewPCG(o.Seed, 77))
	models := (o.Screens + 4) / 5
	for i := range models {
		name := things[i%len(things)]
		if i >= len(things) {
			name = []string{"old ", "spare ", "shared ", "foreign "}[i/len(things)%4] + name
		}
		mod := sample.Model{ID: idOf(name), Name: capital(name)}
		mod.Fields = append(mod.Fields, sample.Field{Name: "name", Type: sample.Text, Required: true})
		for _, at := range rng.Perm(len(fieldPool))[:4+rng.IntN(3)] {
			f := fieldPool[at]
			field := sample.Field{Name: f.name, Type: f.typ, Required: f.required}
			if f.typ == sample.Choice {
				field.Choices = []string{"open", "doing", "done"}
			}
			mod.Fields = append(mod.Fields, field)
		}
		w.Models = append(w.Models, mod)
	}
	var planted []Planted
	kinds := map[string]int{}
	docs := 0
	for i := range models {
		author := rng.IntN(5)
		for _, kind := range []string{"list", "new", "edit", "detail", "other"} {
			if docs >= o.Screens {
				break
			}
			docs++
			m := &teamMaker{
				rng: rand.New(rand.NewPCG(o.Seed, uint64(docs))), slip: rand.New(rand.NewPCG(o.Seed^0x51, uint64(docs))),
				opts: o, clean: clean, author: author, late: i*100 > models*55, mod: &w.Models[i], kinds: kinds,
				noun: strings.ToLower(w.Models[i].Name),
			}
			if kind == "other" {
				kind = []string{"dashboard", "report", "settings", "wizard"}[i%4]
			}
			d := &screen.Document{
				Kind: screen.ScreenDoc, App: "work", Shell: "", Revision: 1, Owner: fmt.Sprint("author", author),
				ID: kind + "-" + pathOf(m.noun),
				// Two screens a day; the change of mind is one in time.
				Made: time.Date(2025, 1, 1+docs/2, 0, 0, 0, 0, time.UTC).Format(time.DateOnly),
			}
			m.admin = kind == "report"
			if m.admin {
				d.App = "admin"
			}
			m.doc = "screen:" + d.ID
			d.Root = m.screen(kind, d)
			w.Docs = append(w.Docs, d)
			planted = append(planted, m.planted...)
		}
	}
	return w, planted
}

func (m *teamMaker) screen(kind string, d *screen.Document) *screen.Element {
	id, many := pathOf(m.noun), plural(m.noun)
	root := m.el("section")
	padding, gap := "5", "5"
	if m.admin {
		padding = "4"
	}
	if kind == "dashboard" {
		gap = "6"
	}
	m.either("page padding", root, "padding", padding, "2", "3", "6")
	m.either("page gap", root, "gap", gap, "2", "3", "4")
	switch kind {
	case "list":
		d.Title, d.Route = capital(many), "/"+id
		with(root, m.header(d, m.newButton(id)), m.filter(), m.table(id, true), m.pager(root))
	case "new", "edit":
		verb := map[string]string{"new": "New ", "edit": "Edit "}[kind]
		d.Title, d.Route = verb+m.noun, "/"+id+"/new"
		if kind == "edit" {
			d.Route = "/" + id + "/:id/edit"
		}
		with(root, m.crumbs(d, root), m.header(d), m.form(id, kind))
	case "detail":
		d.Title, d.Route = capital(m.noun), "/"+id+"/:id"
		edit := m.say("Edit", m.el("sorrel-button", "to", "/"+id+"/x1/edit"))
		m.either("main emphasis", edit, "emphasis", "strong", "soft", "bare")
		with(root, m.crumbs(d, root), m.header(d, edit), m.facts(), m.more(), m.history())
	case "dashboard":
		d.Title, d.Route = capital(m.noun)+" figures", "/"+id+"/figures"
		grid := m.el("grid", "columns", "4")
		for i := range 3 + m.rng.IntN(3) {
			with(grid, m.el("sorrel-stat", "label", capital(many)+" "+[]string{"open", "late", "done", "new", "lost", "all"}[i], "value", fmt.Sprint(m.rng.IntN(400))))
		}
		with(root, m.header(d), grid)
		if m.rng.IntN(2) == 0 {
			with(root, m.el("sorrel-bars", "label", capital(many)+" a week", "values", "3, 5, 8", "names", "Mon, Tue, Wed"))
		}
	case "report":
		d.Title, d.Route = capital(m.noun)+" report", "/"+id+"/report"
		with(root, m.header(d), m.table(id, false))
	case "settings":
		d.Title, d.Route = capital(m.noun)+" settings", "/"+id+"/settings"
		form := m.el("sorrel-form", "label", d.Title)
		for i := range 3 + m.rng.IntN(3) {
			with(form, m.say([]string{"Send reminders", "Show archived", "Print labels", "Ask before removing", "Use short names", "Keep a log"}[i], m.el("sorrel-switch", "name", fmt.Sprint("s", i))))
		}
		m.alignment(form)
		save := in("actions", m.say("Save", m.el("sorrel-button", "action", "submit", "emphasis", "strong")))
		with(form, save)
		with(root, m.header(d), form)
	case "wizard":
		d.Title, d.Route = "Import "+many, "/"+id+"/import"
		steps := with(m.el("sorrel-steps", "current", "1"), m.say("Choose", m.el("sorrel-step")), m.say("Check", m.el("sorrel-step")), m.say("Done", m.el("sorrel-step")))
		form := m.el("sorrel-form", "label", "File")
		with(form, with(m.el("sorrel-field", "label", "File"), m.el("sorrel-file-input", "name", "file")))
		m.alignment(form)
		with(form, in("actions", m.say("Next", m.el("sorrel-button", "action", "submit", "emphasis", "strong"))))
		with(root, m.header(d), steps, form)
	}
	// Rare things, on purpose.
	if m.rng.IntN(25) == 0 {
		with(root, m.say("Closed for the season.", m.el("sorrel-alert", "tone", "warn", "heading", "Please note")))
	}
	if m.rng.IntN(40) == 0 {
		with(root, m.el("sorrel-progress", "label", "Import", "value", "40", "shape", "round"))
	}
	if m.rng.IntN(5) == 0 && kind == "detail" {
		with(root, m.dialog(id))
	}
	return root
}

func (m *teamMaker) header(d *screen.Document, actions ...*screen.Element) *screen.Element {
	h := m.el("sorrel-page-header", "heading", d.Title)
	m.either("header size", h, "size", "m", "s")
	for _, a := range actions {
		with(h, in("actions", a))
	}
	// A line below is there where there is something to say: mostly on lists, now and then elsewhere.
	lines := 3
	if len(actions) > 0 && strings.HasPrefix(actions[0].Text.Text, "New") {
		lines = 9
	}
	if m.rng.IntN(10) < lines {
		h.Text = screen.Lit("All about " + m.noun + ".")
	}
	return h
}

func (m *teamMaker) newButton(id string) *screen.Element {
	b := m.el("sorrel-button", "to", "/"+id+"/new")
	b.Text = screen.Lit("New " + m.noun)
	other := []string{"Add ", "Create "}[m.slip.IntN(2)]
	if m.slips("new words", true, b) {
		b.Text = screen.Lit(other + m.noun)
	}
	if m.slips("capitals", strings.Contains(m.noun, " ") || len(m.noun) > 3, b) {
		words := strings.Fields(b.Text.Text)
		for i := range words {
			words[i] = capital(words[i])
		}
		b.Text = screen.Lit(strings.Join(words, " "))
	}
	return m.either("main emphasis", b, "emphasis", "strong", "soft", "bare")
}

func (m *teamMaker) filter() *screen.Element {
	row := m.el("stack", "direction", "across", "gap", "3")
	q := m.el("sorrel-text-input", "kind", "search", "name", "q", "label", "Find "+plural(m.noun))
	with(row, q)
	if m.rng.IntN(10) < 6 {
		with(row, m.el("sorrel-select", "name", "filter", "label", "Show", "options", "all, mine, late"))
	}
	if m.rng.IntN(4) == 0 {
		with(row, m.say("Export", m.el("sorrel-button", "to", "/"+pathOf(m.noun)+"/export")))
	}
	return row
}

func (m *teamMaker) pager(root *screen.Element) *screen.Element {
	p := m.el("sorrel-pager", "align", "end")
	p.Name = "page"
	p.Props = append(p.Props, screen.Prop{Name: "pages", Value: expression("pages.rows")})
	if m.slips("no pager", true, root) {
		return nil
	}
	return p
}

func (m *teamMaker) crumbs(d *screen.Document, root *screen.Element) *screen.Element {
	c := with(m.el("sorrel-breadcrumbs"),
		m.say(capital(plural(m.noun)), m.el("sorrel-crumb", "to", "/"+pathOf(m.noun))),
		m.say(d.Title, m.el("sorrel-crumb")))
	if m.slips("no crumbs", true, root) {
		return nil
	}
	return c
}

func record(f string) string { return "record." + f }

func expression(s string) screen.Value { return screen.Value{Kind: screen.Expr, Text: s} }

func (m *teamMaker) shown(f *sample.Field) *screen.Element {
	cell := m.el("sorrel-cell")
	r := record(f.Name)
	switch f.Type {
	case sample.Date:
		cell.Text = expression("day(" + r + ")")
		if m.slips("raw format", true, cell) {
			cell.Text = expression(r)
		}
	case sample.Money:
		cell.Text = expression("money(" + r + ")")
		if m.slips("raw format", true, cell) {
			cell.Text = expression("text(" + r + ")")
		}
	case sample.Number:
		cell.Text = expression("number(" + r + ", 0)")
	case sample.Choice:
		chip := m.el("sorrel-chip")
		chip.Text = expression(r)
		set(chip, "shape", map[bool]string{true: "square", false: "round"}[m.late])
		if m.slips("plain state", true, cell, chip) {
			cell.Text = expression(r)
		} else {
			with(cell, chip)
		}
	case sample.YesNo:
		cell.Text = expression(r + " ? 'yes' : 'no'")
	default:
		cell.Text = expression(r)
	}
	return cell
}

func (m *teamMaker) labelOf(name string) string {
	for _, f := range fieldPool {
		if f.name == name {
			return f.label
		}
	}
	return capital(name)
}

func (m *teamMaker) table(id string, actions bool) *screen.Element {
	t := m.el("sorrel-table", "label", capital(plural(m.noun)))
	density := map[bool]string{true: "tight", false: "roomy"}[m.admin]
	m.either("density", t, "density", density, map[bool]string{true: "roomy", false: "tight"}[m.admin])
	row := m.el("sorrel-row")
	row.Repeat = &screen.Repeat{Model: m.mod.ID, Limit: 10}
	if actions {
		row.Name, row.Repeat.Page = "rows", "page"
	}
	for i := range m.mod.Fields {
		f := &m.mod.Fields[i]
		if f.Type == sample.LongText {
			continue
		}
		col := in("columns", m.say(m.labelOf(f.Name), m.el("sorrel-column")))
		if f.Type == sample.Number || f.Type == sample.Money {
			m.either("number column", col, "kind", "number", "text")
		}
		with(t, col)
		cell := m.shown(f)
		if f.Name == "name" {
			link := m.el("sorrel-link")
			link.Text = cell.Text
			link.Props = []screen.Prop{{Name: "to", Value: expression("'/" + id + "/' + record.id")}}
			cell.Text = screen.Value{}
			with(cell, link)
		}
		with(row, cell)
	}
	if actions {
		with(t, in("columns", m.say("Actions", m.el("sorrel-column", "kind", "actions", "width", "narrow"))))
		edit := m.el("sorrel-icon-button", "label", "Edit "+m.noun)
		edit.Props = append(edit.Props, screen.Prop{Name: "to", Value: expression("'/" + id + "/' + record.id + '/edit'")})
		m.either("wrong icon", edit, "icon", "pencil", "settings", "note")
		m.either("row action size", edit, "size", "s", "m")
		bin := m.el("sorrel-icon-button", "label", "Remove "+m.noun, "icon", "bin", "intent", "danger", "size", "s")
		bin.Name = "remove"
		with(row, with(m.el("sorrel-cell"), edit, bin))
	}
	with(t, row)
	if actions {
		empty := in("empty", m.say("Nothing here yet.", m.el("sorrel-empty-state", "heading", "No "+plural(m.noun))))
		if !m.slips("no empty state", true, t) {
			with(t, empty)
		}
	}
	return t
}

func (m *teamMaker) alignment(form *screen.Element) {
	if m.author >= 3 {
		set(form, "actions", "end")
	}
}

func (m *teamMaker) form(id, kind string) *screen.Element {
	form := m.el("sorrel-form", "label", map[string]string{"new": "New ", "edit": "Edit "}[kind]+m.noun)
	m.alignment(form)
	var fields []*screen.Element
	for i := range m.mod.Fields {
		f := &m.mod.Fields[i]
		label := m.labelOf(f.Name)
		if f.Type == sample.YesNo {
			fields = append(fields, m.say(label, m.el("sorrel-switch", "name", f.Name)))
			continue
		}
		field := m.el("sorrel-field")
		wrong := label + " of it"
		if m.slips("label words", true, field) {
			label = wrong
		}
		if strings.Contains(label, " ") && m.slips("capitals", true, field) {
			words := strings.Fields(label)
			for i := range words {
				words[i] = capital(words[i])
			}
			label = strings.Join(words, " ")
		}
		set(field, "label", label)
		if m.rng.IntN(5) == 0 {
			set(field, "help", []string{"As on the sign.", "In whole numbers.", "Leave it empty if you do not know."}[m.rng.IntN(3)])
		}
		m.either("field layout", field, "layout", "above", "side")
		if f.Required {
			if !m.slips("required mark", true, field) {
				set(field, "required", "true")
			}
		}
		var control *screen.Element
		switch f.Type {
		case sample.Date:
			control = m.el("sorrel-text-input", "name", f.Name)
			kind := "date"
			if m.slips("wrong control", true, control, field) {
				kind = "text"
			}
			set(control, "kind", kind)
		case sample.Money, sample.Number:
			control = m.el("sorrel-number-input", "name", f.Name)
			if f.Type == sample.Money {
				set(control, "money", "euro")
			}
			if m.slips("wrong control", true, control, field) {
				control.Type, control.Props = "sorrel-text-input", nil
				set(set(control, "name", f.Name), "kind", "text")
			}
		case sample.Choice:
			control = m.el("sorrel-select", "name", f.Name, "options", strings.Join(f.Choices, ", "))
			if m.slips("wrong control", true, control, field) {
				control.Type, control.Props = "sorrel-text-input", nil
				set(set(control, "name", f.Name), "kind", "text")
			}
		case sample.LongText:
			control = m.el("sorrel-text-area", "name", f.Name)
		default:
			control = m.el("sorrel-text-input", "name", f.Name, "kind", "text")
		}
		fields = append(fields, with(field, control))
	}
	if at := m.slip.IntN(len(fields) - 1); m.slips("field order", kind == "edit" || kind == "new", fields[at], fields[at+1], form) {
		fields[at], fields[at+1] = fields[at+1], fields[at]
	}
	with(form, fields...)
	cancel := in("actions", m.say("Cancel", m.el("sorrel-button", "to", "/"+id)))
	m.either("cancel emphasis", cancel, "emphasis", "bare", "soft")
	save := in("actions", m.el("sorrel-button", "action", "submit"))
	save.Text = screen.Lit("Save")
	other := []string{"Store", "Submit", "OK"}[m.slip.IntN(3)]
	if m.slips("submit words", true, save) {
		save.Text = screen.Lit(other)
	}
	m.either("main emphasis", save, "emphasis", "strong", "soft")
	if m.slips("action order", true, cancel, save, form) {
		return with(form, save, cancel)
	}
	return with(form, cancel, save)
}

// more are actions of one screen alone, which no other screen has.
func (m *teamMaker) more() *screen.Element {
	var list []*screen.Element
	for _, at := range m.rng.Perm(7)[:m.rng.IntN(4)] {
		word := []string{"Print", "Publish", "Archive", "Share", "Copy", "Approve", "Send a note"}[at]
		b := m.say(word, m.el("sorrel-button", "to", "/"+pathOf(m.noun)+"/"+strings.ToLower(strings.Fields(word)[0])))
		if m.author == 2 { // who likes icons
			with(b, in("lead", m.el("sorrel-icon", "name", []string{"leaf", "note", "settings"}[at%3])))
		}
		list = append(list, b)
	}
	if list == nil {
		return nil
	}
	group := with(m.el("sorrel-button-group"), list...)
	if m.rng.IntN(3) == 0 {
		return with(m.el("stack", "gap", "3"), m.say("Something is late", m.el("sorrel-alert", "tone", []string{"info", "warn", "bad"}[m.rng.IntN(3)])), group)
	}
	return group
}

func (m *teamMaker) facts() *screen.Element {
	f := m.el("sorrel-facts")
	f.Repeat = &screen.Repeat{Model: m.mod.ID, Limit: 1}
	for i := range m.mod.Fields {
		field := &m.mod.Fields[i]
		fact := m.el("sorrel-fact", "name", m.labelOf(field.Name))
		v := record(field.Name)
		switch field.Type {
		case sample.Date:
			v = "day(" + v + ")"
		case sample.Money:
			v = "money(" + v + ")"
		}
		fact.Props = append(fact.Props, screen.Prop{Name: "value", Value: expression(v)})
		with(f, fact)
	}
	return f
}

func (m *teamMaker) history() *screen.Element {
	s := m.el("stack", "gap", "3")
	h := m.say("What happened", m.el("sorrel-heading"))
	m.either("heading level", h, "level", "2", "3")
	return with(s, h, m.say("Nothing yet.", m.el("sorrel-text", "tone", "quiet")))
}

// dialog asks before something is removed: its buttons are softer, on purpose.
func (m *teamMaker) dialog(id string) *screen.Element {
	d := m.el("sorrel-dialog", "heading", "Remove this "+m.noun+"?")
	return with(d, m.say("It cannot be brought back.", m.el("sorrel-text")),
		in("actions", m.say("Keep", m.el("sorrel-button", "emphasis", "bare", "does", "close "+d.ID))),
		in("actions", m.say("Remove", m.el("sorrel-button", "emphasis", "soft", "intent", "danger", "to", "/"+id))))
}
