package model

import (
	"fmt"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"time"

	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// MaxRecords bounds one model's records in one set.
const MaxRecords = 50_000

// modelID is what a model may be called: expressions speak of its records by it.
var modelID = regexp.MustCompile(`^[a-z][a-zA-Z0-9]{0,47}$`)

// fieldName is what a field may be called, for the same reason.
var fieldName = regexp.MustCompile(`^[a-z][a-zA-Z0-9]{0,47}$`)

// reserved are the words that mean something else in expressions.
var reserved = []string{
	"record",
	"outer",
	"controls",
	"count",
	"pages",
	"sources",
	"today",
	"size",
	"find",
	"true",
	"false",
	"null",
}

// CheckModel says what is wrong with a model for this workspace.
func (w *Workspace) CheckModel(m *sample.Model) error {
	if !modelID.MatchString(m.ID) {
		return fmt.Errorf("%q cannot be a model's id; accepted: a lower-case letter, then letters and digits", m.ID)
	}
	if strings.TrimSpace(m.Name) == "" {
		return fmt.Errorf("the model %s has no name", m.ID)
	}
	if slices.Contains(reserved, m.ID) {
		return fmt.Errorf("%q means something else in expressions", m.ID)
	}
	if len(m.Fields) > 200 {
		return fmt.Errorf("%s has %d fields; accepted: up to 200", m.ID, len(m.Fields))
	}
	names := map[string]bool{"id": true}
	for i := range m.Fields {
		f := &m.Fields[i]
		switch {
		case !fieldName.MatchString(f.Name):
			return fmt.Errorf(
				"%q cannot be a field's name; accepted: a lower-case letter, then letters and digits",
				f.Name,
			)
		case names[f.Name]:
			return fmt.Errorf("two fields of %s are called %s", m.ID, f.Name)
		case !slices.Contains(sample.FieldTypes, f.Type):
			return fmt.Errorf("%s: there is no type %q", f.Name, f.Type)
		case f.Type == sample.Choice && len(f.Choices) == 0:
			return fmt.Errorf("%s: a choice needs something to choose from", f.Name)
		case (f.Type == sample.Ref || f.Type == sample.Refs) && f.Model != m.ID && w.ModelMap()[f.Model] == nil:
			return fmt.Errorf("%s refers to the model %q, which is not there", f.Name, f.Model)
		case f.Currency != "" && f.Type != sample.Money:
			return fmt.Errorf("%s has a currency, and is no money", f.Name)
		case f.Currency != "" && sample.CurrencyOf(f.Currency).Code != f.Currency:
			return fmt.Errorf(
				"%s: there is no currency %q; known are %s",
				f.Name,
				f.Currency,
				strings.Join(currencies(), ", "),
			)
		case f.Compute != "" && (f.Required || f.Unique):
			return fmt.Errorf("%s is computed: it is neither required nor unique", f.Name)
		case f.Compute != "" && (f.Type == sample.Picture || f.Type == sample.Ref || f.Type == sample.Refs):
			return fmt.Errorf("%s: a %s is not computed", f.Name, f.Type)
		}
		if why := meaningless(f); why != "" {
			return fmt.Errorf("the meanings of %s: %s", f.Name, why)
		}
		names[f.Name] = true
	}
	return nil
}

func currencies() []string {
	out := make([]string, len(sample.Currencies))
	for i, c := range sample.Currencies {
		out[i] = c.Code
	}
	return out
}

// DataHolds says which query or computed field a change of models breaks.
func (w *Workspace) DataHolds() error {
	if err := expr.CheckComputed(w.ModelMap()); err != nil {
		return err
	}
	return w.queriesHold()
}

// OwnOf are records as they are kept, without what is computed.
func OwnOf(m *sample.Model, records []sample.Record) []sample.Record {
	if !slices.ContainsFunc(m.Fields, func(f sample.Field) bool { return f.Compute != "" }) {
		return records
	}
	out := make([]sample.Record, len(records))
	for i, r := range records {
		out[i] = m.Own(r)
	}
	return out
}

func CheckRecords(m *sample.Model, records []sample.Record) error {
	if len(records) > MaxRecords {
		return fmt.Errorf("%d records of %s are more than %d", len(records), m.ID, MaxRecords)
	}
	ids := make(map[string]bool, len(records))
	for _, r := range records {
		if err := m.Check(r); err != nil {
			return err
		}
		if ids[r.ID()] {
			return fmt.Errorf("two records of %s have the id %s", m.ID, r.ID())
		}
		ids[r.ID()] = true
	}
	return nil
}

// meaningless says what is wrong with a field's meanings, or nothing.
func meaningless(f *sample.Field) string {
	seen := map[string]bool{}
	for _, m := range f.Meanings {
		switch {
		case f.Type != sample.Choice:
			return "only choices have meanings"
		case m.Value != "" && !slices.Contains(f.Choices, m.Value):
			return fmt.Sprintf("“%s” is none of the choices", m.Value)
		case seen[m.Value]:
			return fmt.Sprintf("“%s” means two things", m.Value)
		}
		seen[m.Value] = true
	}
	return ""
}

func (w *Workspace) CheckQuery(q *sample.Query) error {
	switch {
	case !modelID.MatchString(q.ID) || slices.Contains(reserved, q.ID):
		return fmt.Errorf("%q cannot be a query's id; accepted: a lower-case letter, then letters and digits", q.ID)
	case strings.TrimSpace(q.Name) == "":
		return fmt.Errorf("the query %s has no name", q.ID)
	case w.ModelMap()[q.ID] != nil:
		return fmt.Errorf("there is a model %s already", q.ID)
	case len(q.Group) > 10 || len(q.Each) > 40:
		return fmt.Errorf("the query %s groups by up to 10 fields and computes up to 40 values", q.ID)
	}
	for _, v := range q.Each {
		if !fieldName.MatchString(v.Name) {
			return fmt.Errorf(
				"%q cannot be a value's name; accepted: a lower-case letter, then letters and digits",
				v.Name,
			)
		}
	}
	_, err := expr.QueryModel(q, w.ModelMap())
	return err
}

// queriesHold says which query a change of models breaks.
func (w *Workspace) queriesHold() error {
	for i := range w.Queries {
		if _, err := expr.QueryModel(&w.Queries[i], w.ModelMap()); err != nil {
			return fmt.Errorf("%w; change the query first", err)
		}
	}
	return nil
}

func CheckBase(b *sample.Base) error {
	if !fieldName.MatchString(b.Name) {
		return fmt.Errorf(
			"%q cannot be an address's name; accepted: a lower-case letter, then letters and digits",
			b.Name,
		)
	}
	u, err := url.Parse(b.Address)
	if err != nil || (u.Scheme != "http" && u.Scheme != "https") || u.Host == "" || u.RawQuery != "" ||
		u.Fragment != "" ||
		u.User != nil {
		return fmt.Errorf(
			"%q is no address that data can come from; accepted: http or https with a host, without a query and a password",
			b.Address,
		)
	}
	return nil
}

func (w *Workspace) CheckSource(s *sample.Source) error {
	m := w.ModelMap()[s.Model]
	if m == nil {
		return fmt.Errorf("there is no model %q", s.Model)
	}
	if !slices.ContainsFunc(w.Bases, func(b sample.Base) bool { return b.Name == s.Base }) {
		return fmt.Errorf("%q is no address that a keeper has allowed", s.Base)
	}
	if s.Path != "" && !strings.HasPrefix(s.Path, "/") && !strings.HasPrefix(s.Path, "?") {
		return fmt.Errorf("the path %q begins neither with / nor with ?", s.Path)
	}
	if strings.Contains(s.Path, "..") || strings.ContainsAny(s.Path, " \n\t\\#") {
		return fmt.Errorf("the path %q holds what a path does not", s.Path)
	}
	for _, p := range append([]string{s.List}, valuesOf(s.Fields)...) {
		if p != "" && !strings.HasPrefix(p, "/") {
			return fmt.Errorf("%q is no JSON pointer; one begins with /", p)
		}
	}
	for name := range s.Fields {
		if _, ok := m.Field(name); !ok && name != "id" {
			return fmt.Errorf("%s has no field %q", m.Name, name)
		}
	}
	return nil
}

func valuesOf(m map[string]string) []string {
	out := make([]string, 0, len(m))
	for _, v := range m {
		out = append(out, v)
	}
	return out
}

// CheckPiece refuses a piece that would hold itself, whether at once or through others.
func (w *Workspace) CheckPiece(d *screen.Document) error {
	if d.Kind != screen.PieceDoc {
		return nil
	}
	met := map[string]bool{}
	var reach func(d *screen.Document, path []string) error
	reach = func(from *screen.Document, path []string) error {
		var bad error
		from.Root.Walk(func(e, _ *screen.Element) bool {
			id, ok := strings.CutPrefix(e.Type, screen.PiecePrefix)
			if !ok || bad != nil {
				return bad == nil
			}
			if id == d.ID {
				bad = fmt.Errorf(
					"the piece %s would hold itself (%s)",
					d.Title,
					strings.Join(append(path, d.Title), ", which holds "),
				)
				return false
			}
			if next, ok := w.Doc("piece:" + id); ok && !met[id] {
				met[id] = true
				bad = reach(next, append(path, next.Title))
			}
			return bad == nil
		})
		return bad
	}
	return reach(d, []string{d.Title})
}

func (w *Workspace) CheckMeta(d *screen.Document, key string) error {
	if strings.TrimSpace(d.Title) == "" {
		return fmt.Errorf("a title is needed")
	}
	if len(d.Title) > 200 {
		return fmt.Errorf("the title is longer than 200 letters")
	}
	if _, err := time.Parse(time.DateOnly, d.Made); d.Made != "" && err != nil {
		return fmt.Errorf("%q is no day on which it could have been made; write it as 2026-11-02", d.Made)
	}
	if d.Shell != "" {
		if shell, ok := w.Doc("shell:" + d.Shell); !ok || shell.Removed {
			return fmt.Errorf("there is no shell %q", d.Shell)
		}
		if d.Kind == screen.ShellDoc && ("shell:"+d.Shell == key || w.InItself(d)) {
			return fmt.Errorf("the shell %s would stand in itself", d.Title)
		}
	}
	if d.Kind != screen.ScreenDoc {
		return nil
	}
	if err := CheckRoute(d.Route); err != nil {
		return err
	}
	if !slices.ContainsFunc(w.Apps, func(a App) bool { return a.ID == d.App }) {
		return fmt.Errorf("there is no application %q", d.App)
	}
	for _, o := range w.Docs {
		if o.Kind == screen.ScreenDoc && !o.Removed && o.App == d.App && o.Route == d.Route && "screen:"+o.ID != key {
			return fmt.Errorf("the route %s is taken by the screen %s", d.Route, o.Title)
		}
	}
	return nil
}

var idPattern = regexp.MustCompile(`^[a-z0-9][a-z0-9-]{0,63}$`)

// CheckID says what is wrong with the id of a document, a set or a state's name in a
// path; ids become file names.
func CheckID(id string) error {
	if !idPattern.MatchString(id) {
		return fmt.Errorf("%q cannot be an id; accepted: lower-case letters, digits and dashes", id)
	}
	return nil
}

// UserOf is the title of a document that needs a shell or a piece, or nothing.
func (w *Workspace) UserOf(d *screen.Document) string {
	for _, o := range w.Docs {
		if o.Removed {
			continue
		}
		if d.Kind == screen.ShellDoc && o.Shell == d.ID {
			return o.Title
		}
		used := false
		o.Root.Walk(func(e, _ *screen.Element) bool {
			used = used || e.Type == screen.PiecePrefix+d.ID
			return !used
		})
		if d.Kind == screen.PieceDoc && used {
			return o.Title
		}
	}
	return ""
}

// CheckRoute says what is wrong with the route of a screen. Routes become addresses,
// file names and patterns of a router.
func CheckRoute(route string) error {
	bad := ""
	switch {
	case !strings.HasPrefix(route, "/"):
		bad = "it does not begin with /"
	case len(route) > 200:
		bad = "it is longer than 200 letters"
	case !routeForm.MatchString(route):
		bad = "its parts hold letters, digits, dots, dashes and underscores, or are a parameter such as :id"
	}
	for _, part := range strings.Split(route, "/") {
		if part == "." || part == ".." {
			bad = "it holds " + part
		}
	}
	if bad == "" {
		return nil
	}
	return fmt.Errorf("the route %q cannot be used: %s; accepted: a path such as /beds or /beds/:id", route, bad)
}

// routeForm is a path without empty parts, but for the root alone.
var routeForm = regexp.MustCompile(`^/$|^(/(:[A-Za-z][A-Za-z0-9_]*|[\p{L}\p{N}._~-]+))+$`)

// maxElements bounds one document. An edit takes time with the elements beside it.
const (
	maxElements = 20_000
	maxSiblings = 5_000
)

// CheckSize says where a document has grown too large to be worked on.
func CheckSize(d *screen.Document) error {
	if n := d.Root.Count(); n > maxElements {
		return fmt.Errorf("%s would have %d elements; accepted: up to %d", d.Address(), n, maxElements)
	}
	var crowded *screen.Element
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if len(e.Children) > maxSiblings {
			crowded = e
		}
		return crowded == nil
	})
	if crowded != nil {
		return fmt.Errorf("%s: %d elements would stand in %s; accepted: up to %d",
			d.Address(), len(crowded.Children), crowded.ID, maxSiblings)
	}
	return nil
}

// CheckTree says what is wrong with the tree of a new document.
func CheckTree(d *screen.Document, cat kit.Catalog) error {
	if err := CheckOutlet(d); err != nil {
		return err
	}
	ids := map[string]bool{}
	names := map[string]bool{}
	var bad error
	d.Root.Walk(func(e, _ *screen.Element) bool {
		switch _, known := cat.Component(e.Type); {
		case e.ID == "" || ids[e.ID]:
			bad = fmt.Errorf("the element id %q is empty or stands twice", e.ID)
		case !known:
			bad = fmt.Errorf("the kit has no component %q", e.Type)
		case screen.Misnamed(e) != "":
			bad = fmt.Errorf("%s", screen.Misnamed(e))
		case e.Name != "" && names[e.Name]:
			bad = fmt.Errorf("two elements are called %q", e.Name)
		}
		ids[e.ID], names[e.Name] = true, true
		return bad == nil
	})
	if bad != nil {
		return bad
	}
	return CheckSize(d)
}

// CheckOutlet says what is wrong with the place that a shell has for its screens. What was read
// from code is as it is.
func CheckOutlet(d *screen.Document) error {
	if d.Kind != screen.ShellDoc || d.Source != "" {
		return nil
	}
	n := 0
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if e.Type == "outlet" {
			n++
		}
		return true
	})
	if n != 1 {
		return fmt.Errorf("the shell %s would have %d outlets; its screens stand in one", d.Title, n)
	}
	return nil
}
