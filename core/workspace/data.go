package workspace

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/expr"
	"ubiquant/core/jsonread"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Rows is a change of the records of one model in one sample set.
type Rows struct {
	Set, Model string
	Put        []sample.Record // new or changed, by id
	At         map[string]int  // where new ones come to stand; at the end without
	Drop       []string        // ids
	All        []sample.Record // in place of all there are, where Whole
	Whole      bool
}

// maxRecords bounds one model's records in one set.
const maxRecords = 50_000

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

func checkModel(w *Workspace, m *sample.Model) error {
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

// dataHolds says which query or computed field a change of models breaks.
func (w *Workspace) dataHolds() error {
	if err := expr.CheckComputed(w.ModelMap()); err != nil {
		return err
	}
	return w.queriesHold()
}

func (w *Workspace) dataStep(s Step, t *Taken) error {
	w.Models, w.Sets = slices.Clone(w.Models), slices.Clone(w.Sets)
	t.Data = true
	switch s.Do {
	case PutQuery, DropQuery:
		return w.queryStep(s, t)
	case PutSource, DropSource, PutBase, DropBase:
		return w.sourceStep(s, t)
	case PutModel:
		if err := w.putModel(s, t); err != nil || s.Raw {
			return err
		}
		return w.dataHolds()
	case DropModel:
		if err := w.dropModel(s, t); err != nil || s.Raw {
			return err
		}
		if _, _, fed := w.Source(s.Model.ID); fed {
			return fmt.Errorf("the records of %s come from a source; take that away first", s.Model.ID)
		}
		return w.dataHolds()
	case PutSet, DropSet:
		return w.setStep(s, t)
	}
	return w.rowsStep(s, t)
}

func (w *Workspace) putModel(s Step, t *Taken) error {
	if s.Model == nil {
		return fmt.Errorf("which model is not given")
	}
	m := *s.Model
	if err := checkModel(w, &m); err != nil {
		return err
	}
	t.Rules = true
	at := slices.IndexFunc(w.Models, func(o sample.Model) bool { return o.ID == m.ID })
	if at < 0 {
		w.Models = append(w.Models, m)
		t.undo(Step{Do: DropModel, Model: &sample.Model{ID: m.ID}, Raw: true})
		return nil
	}
	old := w.Models[at]
	m.Fields = slices.Clone(m.Fields)
	w.Models[at] = m
	if !s.Raw {
		w.followComputed(m.ID, s.Renames, t)
		for i, set := range w.Sets {
			records, err := migrate(&old, &m, set.Records[m.ID], s.Renames)
			if err != nil {
				return fmt.Errorf("in the set %s: %w", set.Name, err)
			}
			if records == nil {
				continue
			}
			t.undo(Step{Do: PutRecords, Rows: &Rows{Set: set.ID, Model: m.ID, All: set.Records[m.ID], Whole: true}})
			w.Sets[i] = with(set, m.ID, records)
		}
	}
	// Queries go along with renamed fields.
	w.Queries = slices.Clone(w.Queries)
	for i, q := range w.Queries {
		if next := renamedIn(q, m.ID, s.Renames); !s.Raw && !sameQuery(next, q) {
			t.undo(Step{Do: PutQuery, Query: &q})
			w.Queries[i] = next
		}
	}
	// So do sources; what has no field any more is read no more.
	w.Sources = slices.Clone(w.Sources)
	for i, src := range w.Sources {
		if src.Model != m.ID || s.Raw {
			continue
		}
		next := src
		next.Fields = map[string]string{}
		for name, pointer := range src.Fields {
			if to, renamed := s.Renames[name]; renamed {
				name = to
			}
			if _, ok := m.Field(name); ok || name == "id" {
				next.Fields[name] = pointer
			}
		}
		if !maps.Equal(next.Fields, src.Fields) {
			t.undo(Step{Do: PutSource, Source: &src})
			w.Sources[i] = next
		}
	}
	// The model comes back before its records do: what is undone goes the other way round.
	t.undo(Step{Do: PutModel, Model: &old, Raw: true})
	return nil
}

// followComputed carries computed fields along with fields that are renamed.
func (w *Workspace) followComputed(model string, renames map[string]string, t *Taken) {
	for i := range w.Models {
		m := &w.Models[i]
		fields := slices.Clone(m.Fields)
		for j := range fields {
			for _, from := range slices.Sorted(maps.Keys(renames)) {
				fields[j].Compute = fieldOf(model, from).rename(fields[j].Compute, renames[from], m.ID == model)
			}
		}
		same := slices.EqualFunc(fields, m.Fields, func(a, b sample.Field) bool { return a.Compute == b.Compute })
		if same {
			continue
		}
		if m.ID != model { // the model itself comes back as a whole
			old := *m
			t.undo(Step{Do: PutModel, Model: &old, Raw: true})
		}
		m.Fields = fields
	}
}

// renaming lists the steps that rename fields, with those of the queries that go along.
func renaming(w *Workspace, steps []Step) []Step {
	var out []Step
	for _, s := range steps {
		if s.Do != PutModel || s.Model == nil || len(s.Renames) == 0 {
			continue
		}
		out = append(out, s)
		for _, q := range w.Queries {
			next := renamedIn(q, s.Model.ID, s.Renames)
			names := map[string]string{}
			for i, path := range q.Group {
				if was, is := sample.GroupName(path), sample.GroupName(next.Group[i]); was != is {
					names[was] = is
				}
			}
			if len(names) > 0 {
				out = append(out, Step{Do: PutModel, Model: &sample.Model{ID: q.ID}, Renames: names})
			}
		}
	}
	return out
}

// renamedIn is a query as it is once fields of a model have other names.
func renamedIn(q sample.Query, model string, renames map[string]string) sample.Query {
	if q.From != model || len(renames) == 0 {
		return q
	}
	path := func(p string) string {
		first, rest, joined := strings.Cut(p, ".")
		if to, ok := renames[first]; ok {
			first = to
		}
		if joined {
			return first + "." + rest
		}
		return first
	}
	q.Group, q.Each = slices.Clone(q.Group), slices.Clone(q.Each)
	names := map[string]string{}
	for i, p := range q.Group {
		q.Group[i] = path(p)
		names[sample.GroupName(p)] = sample.GroupName(q.Group[i])
	}
	for i := range q.Each {
		q.Each[i].Field = path(q.Each[i].Field)
	}
	for _, from := range slices.Sorted(maps.Keys(renames)) {
		q.Where = fieldOf(model, from).rename(q.Where, renames[from], true)
	}
	keys := sample.Keys(q.Sort)
	for i, k := range keys {
		if to, ok := names[k.Field]; ok {
			keys[i].Field = to
		}
	}
	q.Sort = sample.WriteKeys(keys)
	return q
}

func sameQuery(a, b sample.Query) bool {
	return a.Where == b.Where && a.Sort == b.Sort && slices.Equal(a.Group, b.Group) && slices.Equal(a.Each, b.Each)
}

// with is a set with other records of a model.
func with(s sample.Set, model string, records []sample.Record) sample.Set {
	s.Records = maps.Clone(s.Records)
	if s.Records == nil {
		s.Records = map[string][]sample.Record{}
	}
	if len(records) == 0 {
		delete(s.Records, model)
	} else {
		s.Records[model] = records
	}
	return s
}

// migrate carries records from one form of a model to the next: values go along with
// renamed fields, what has no field falls away, and what has another type is read as
// that. It refuses what would lose values that do not fit. nil means that all fit as
// they are.
func migrate(old, next *sample.Model, records []sample.Record, renames map[string]string) ([]sample.Record, error) {
	came := map[string]string{} // new name -> old name
	for _, f := range next.Fields {
		came[f.Name] = f.Name
	}
	for from, to := range renames {
		came[to] = from
	}
	var out []sample.Record
	changed := false
	var wrong []string
	count := 0
	for _, r := range records {
		n := sample.Record{"id": r["id"]}
		for i := range next.Fields {
			f := &next.Fields[i]
			if f.Compute != "" {
				continue
			}
			was, known := old.Field(came[f.Name])
			v, has := r[came[f.Name]]
			if !known || !has {
				if f.Required {
					count++
					wrong = append(wrong, fmt.Sprintf("%s has no %s, which is to be required", r.ID(), f.Name))
				}
				continue
			}
			if was.Type != f.Type || was.Currency != f.Currency {
				var err error
				if v, err = f.Parse(was.Write(v), nil); err != nil {
					count++
					wrong = append(wrong, fmt.Sprintf("%s of %s: %s", f.Name, r.ID(), err))
					continue
				}
			}
			if v != nil {
				n[f.Name] = v
			}
		}
		changed = changed || !maps.Equal(n, r)
		out = append(out, n)
	}
	if count > 0 {
		return nil, fmt.Errorf("%d values do not fit: %s", count, strings.Join(wrong[:min(3, len(wrong))], "; "))
	}
	if !changed {
		return nil, nil
	}
	return out, nil
}

func (w *Workspace) dropModel(s Step, t *Taken) error {
	if s.Model == nil {
		return fmt.Errorf("which model is not given")
	}
	id := s.Model.ID
	at := slices.IndexFunc(w.Models, func(o sample.Model) bool { return o.ID == id })
	if at < 0 {
		return fmt.Errorf("there is no model %q", id)
	}
	if !s.Raw {
		if uses := Speaking(w, id, ""); len(uses) > 0 {
			return fmt.Errorf("%s is in use: %s on %s", id, uses[0].Words, uses[0].Title)
		}
		for _, o := range w.Models {
			for _, f := range o.Fields {
				if o.ID != id && (f.Type == sample.Ref || f.Type == sample.Refs) && f.Model == id {
					return fmt.Errorf("%s of %s refers to %s", f.Name, o.ID, id)
				}
			}
		}
	}
	old := w.Models[at]
	w.Models = slices.Delete(w.Models, at, at+1)
	for i, set := range w.Sets {
		if list := set.Records[id]; len(list) > 0 {
			t.undo(Step{Do: PutRecords, Rows: &Rows{Set: set.ID, Model: id, All: list, Whole: true}})
			w.Sets[i] = with(set, id, nil)
		}
	}
	t.undo(Step{Do: PutModel, Model: &old, Raw: true})
	t.Rules = true
	return nil
}

func (w *Workspace) setStep(s Step, t *Taken) error {
	if s.Set == nil || !idPattern.MatchString(s.Set.ID) || strings.TrimSpace(s.Set.Name) == "" {
		return fmt.Errorf("a sample set has an id of lower-case letters, digits and dashes, and a name")
	}
	at := slices.IndexFunc(w.Sets, func(o sample.Set) bool { return o.ID == s.Set.ID })
	if s.Do == DropSet {
		switch {
		case at < 0:
			return fmt.Errorf("there is no set %q of your own", s.Set.ID)
		case at == 0:
			return fmt.Errorf("the usual set stays; the others are made of it")
		}
		old := w.Sets[at]
		w.Sets = slices.Delete(w.Sets, at, at+1)
		t.undo(Step{Do: PutSet, Set: &old})
		return nil
	}
	models := w.ModelMap()
	set := *s.Set
	set.Records = make(map[string][]sample.Record, len(s.Set.Records))
	for id, records := range s.Set.Records {
		if models[id] == nil {
			return fmt.Errorf("there is no model %q", id)
		}
		set.Records[id] = ownOf(models[id], records)
		if err := checkRecords(models[id], set.Records[id]); err != nil {
			return err
		}
	}
	if at < 0 {
		w.Sets = append(w.Sets, set)
		t.undo(Step{Do: DropSet, Set: &sample.Set{ID: set.ID, Name: set.Name}})
		return nil
	}
	old := w.Sets[at]
	w.Sets[at] = set
	t.undo(Step{Do: PutSet, Set: &old})
	return nil
}

// ownOf are records as they are kept, without what is computed.
func ownOf(m *sample.Model, records []sample.Record) []sample.Record {
	if !slices.ContainsFunc(m.Fields, func(f sample.Field) bool { return f.Compute != "" }) {
		return records
	}
	out := make([]sample.Record, len(records))
	for i, r := range records {
		out[i] = m.Own(r)
	}
	return out
}

func checkRecords(m *sample.Model, records []sample.Record) error {
	if len(records) > maxRecords {
		return fmt.Errorf("%d records of %s are more than %d", len(records), m.ID, maxRecords)
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

func (w *Workspace) rowsStep(s Step, t *Taken) error {
	if s.Rows == nil {
		return fmt.Errorf("which records is not given")
	}
	rows := *s.Rows
	m := w.ModelMap()[rows.Model]
	if m == nil {
		return fmt.Errorf("there is no model %q", rows.Model)
	}
	if len(w.Sets) == 0 {
		w.Sets = append(w.Sets, sample.Set{ID: "usual", Name: "Usual"})
	}
	at := slices.IndexFunc(w.Sets, func(o sample.Set) bool { return o.ID == rows.Set })
	if at < 0 {
		return fmt.Errorf(
			"there is no set %q of your own; those made by themselves are looked at, not changed",
			rows.Set,
		)
	}
	rows.Put, rows.All = ownOf(m, rows.Put), ownOf(m, rows.All)
	old := w.Sets[at].Records[rows.Model]
	if rows.Whole {
		if err := checkRecords(m, rows.All); err != nil {
			return err
		}
		w.Sets[at] = with(w.Sets[at], rows.Model, rows.All)
		t.undo(Step{Do: PutRecords, Rows: &Rows{Set: rows.Set, Model: rows.Model, All: old, Whole: true}})
		return nil
	}
	where := make(map[string]int, len(old))
	for i, r := range old {
		where[r.ID()] = i
	}
	back := &Rows{Set: rows.Set, Model: rows.Model, At: map[string]int{}}
	next := slices.Clone(old)
	drop := map[string]bool{}
	for _, id := range rows.Drop {
		i, ok := where[id]
		if !ok || drop[id] {
			return fmt.Errorf("there is no record %s of %s", id, rows.Model)
		}
		drop[id] = true
		back.Put, back.At[id] = append(back.Put, old[i]), i
	}
	var fresh []sample.Record
	for _, r := range rows.Put {
		if err := m.Check(r); err != nil {
			return err
		}
		i, known := where[r.ID()]
		switch {
		case drop[r.ID()]:
			return fmt.Errorf("the record %s is both put and dropped", r.ID())
		case known && i >= 0:
			back.Put = append(back.Put, old[i])
			next[i] = r
		case known:
			return fmt.Errorf("the record %s stands twice in the change", r.ID())
		default:
			where[r.ID()] = -1
			fresh = append(fresh, r)
			back.Drop = append(back.Drop, r.ID())
		}
	}
	next = slices.DeleteFunc(next, func(r sample.Record) bool { return drop[r.ID()] })
	// Those that have a place come in from the front, so that each place is still right.
	slices.SortStableFunc(fresh, func(a, b sample.Record) int { return place(rows.At, a) - place(rows.At, b) })
	for _, r := range fresh {
		next = slices.Insert(next, min(place(rows.At, r), len(next)), r)
	}
	if len(next) > maxRecords {
		return fmt.Errorf("%d records of %s are more than %d", len(next), m.ID, maxRecords)
	}
	w.Sets[at] = with(w.Sets[at], rows.Model, next)
	t.undo(Step{Do: PutRecords, Rows: back})
	return nil
}

// place is where a new record comes to stand.
func place(at map[string]int, r sample.Record) int {
	if i, ok := at[r.ID()]; ok && i >= 0 {
		return i
	}
	return maxRecords + 1
}

// Spoken is where a screen speaks of a model or one of its fields.
type Spoken struct {
	Doc     string `json:"doc"`
	Title   string `json:"title"`
	Element string `json:"element"`
	Words   string `json:"words"`
}

// Speaking lists where screens, shells and pieces speak of a model, or of a field of it
// where one is given.
func Speaking(w *Workspace, model, field string) []Spoken {
	out := []Spoken{}
	of := fieldOf(model, field)
	name := regexp.MustCompile(`\b` + regexp.QuoteMeta(model) + `\b`)
	for _, d := range w.Docs {
		if d.Removed {
			continue
		}
		EachExpression(d.Root, w.ModelMap(), func(e *screen.Element, around, source, what string) {
			says := around == model && what == "each"
			switch {
			case what == "sort":
				says = around == model &&
					(field == "" || slices.ContainsFunc(sample.Keys(source), func(k sample.Key) bool { return k.Field == field }))
			case field == "":
				says = says || what != "each" && name.MatchString(source)
			default:
				says = what != "each" && of.speaks(source, around == model)
			}
			if says {
				out = append(
					out,
					Spoken{string(d.Kind) + ":" + d.ID, d.Title, e.ID, strings.TrimSpace(what + " " + source)},
				)
			}
		})
	}
	return out
}

// EachExpression calls found for every expression of a tree: at which element, with the
// model of the records around it (those of the nearest repeat, around where there is
// none), and what it is for: a prop, "text", "if", "each" where a repeat is over a model,
// "over" where it is over a field of the record around, "where" or "sort".
func EachExpression(
	root *screen.Element,
	models map[string]*sample.Model,
	found func(e *screen.Element, around, source, what string),
) {
	eachExpression(root, "", models, found)
}

func eachExpression(
	root *screen.Element,
	around string,
	models map[string]*sample.Model,
	found func(e *screen.Element, around, source, what string),
) {
	if r := root.Repeat; r != nil {
		if _, ofField := sample.OverField(r.Model); ofField {
			found(root, around, r.Model, "over")
			if m := sample.Over(r.Model, models[around], models); m != nil {
				around = m.ID
			}
		} else {
			around = r.Model
			found(root, around, r.Model, "each")
		}
		if r.Where != "" {
			found(root, around, r.Where, "where")
		}
		if _, computed := sample.Computed(r.Sort); r.Sort != "" && !computed {
			found(root, around, r.Sort, "sort")
		}
	}
	if root.Show != "" {
		found(root, around, root.Show, "if")
	}
	if root.Text.Kind == screen.Expr {
		found(root, around, root.Text.Text, "text")
	}
	for _, p := range root.Props {
		if p.Value.Kind == screen.Expr {
			found(root, around, p.Value.Text, p.Name)
		}
	}
	for _, c := range root.Children {
		eachExpression(c, around, models, found)
	}
}

// fieldPattern finds a field of a model in expressions.
type fieldPattern struct{ record, found *regexp.Regexp }

func fieldOf(model, field string) fieldPattern {
	f, m := regexp.QuoteMeta(field), regexp.QuoteMeta(model)
	return fieldPattern{
		regexp.MustCompile(`\b(record\.)` + f + `\b`),
		regexp.MustCompile(`\b(find\(\s*` + m + `\s*,[^()]*(?:\([^()]*\)[^()]*)*\)\.)` + f + `\b`),
	}
}

func (p fieldPattern) speaks(source string, isRecord bool) bool {
	return isRecord && p.record.MatchString(source) || p.found.MatchString(source)
}

func (p fieldPattern) rename(source, to string, isRecord bool) string {
	if isRecord {
		source = p.record.ReplaceAllString(source, "${1}"+to)
	}
	return p.found.ReplaceAllString(source, "${1}"+to)
}

// followFields carries expressions along with fields that are renamed. What a piece
// says of a record from outside cannot be known, and is found where it no longer holds.
func (l *Live) followFields(c Change) Change {
	steps := c.Steps
	for _, s := range renaming(l.W, c.Steps) {
		for _, d := range l.W.Docs {
			if d.Removed {
				continue
			}
			var edits []screen.Edit
			model := s.Model.ID
			EachExpression(d.Root, l.W.ModelMap(), func(e *screen.Element, around, source, what string) {
				next := source
				for _, from := range slices.Sorted(maps.Keys(s.Renames)) {
					to := s.Renames[from]
					if what == "sort" {
						if keys := sample.Keys(next); around == model &&
							slices.ContainsFunc(keys, func(k sample.Key) bool { return k.Field == from }) {
							for i := range keys {
								if keys[i].Field == from {
									keys[i].Field = to
								}
							}
							next = sample.WriteKeys(keys)
						}
					} else if what != "each" {
						next = fieldOf(model, from).rename(next, to, around == model)
					}
				}
				if next == source {
					return
				}
				value := screen.Value{Kind: screen.Expr, Text: next}
				switch what {
				case "where", "sort", "over":
					r := *e.Repeat
					for _, o := range edits { // the other of both may have changed already
						if o.Op == screen.SetRepeat && o.ID == e.ID {
							r = *o.Repeat
						}
					}
					switch what {
					case "where":
						r.Where = next
					case "sort":
						r.Sort = next
					default:
						r.Model = next
					}
					edits = append(edits, screen.Following(screen.Edit{Op: screen.SetRepeat, ID: e.ID, Repeat: &r}))
				case "if":
					edits = append(edits, screen.Following(screen.Edit{Op: screen.Show, ID: e.ID, Name: next}))
				case "text":
					edits = append(edits, screen.Following(screen.Edit{Op: screen.SetText, ID: e.ID, Value: value}))
				default:
					edits = append(
						edits,
						screen.Following(screen.Edit{Op: screen.Set, ID: e.ID, Prop: what, Value: value}),
					)
				}
			})
			if len(edits) > 0 {
				steps = append(
					steps[:len(steps):len(steps)],
					Step{Do: EditDoc, Doc: string(d.Kind) + ":" + d.ID, Edits: edits},
				)
			}
		}
	}
	c.Steps = steps
	return c
}

func writeRows(out *screen.Writer, r *Rows) {
	list := func(key string, records []sample.Record) {
		out.Key(key)
		out.Open('[')
		for _, rec := range records {
			writeRecord(out, rec)
		}
		out.Close(']')
	}
	out.Open('{')
	out.Field("set", r.Set)
	out.Field("model", r.Model)
	if len(r.Put) > 0 {
		list("put", r.Put)
	}
	if len(r.At) > 0 {
		out.Key("at")
		out.Open('{')
		for _, id := range slices.Sorted(maps.Keys(r.At)) {
			out.Key(id)
			out.Raw(fmt.Sprint(r.At[id]))
		}
		out.Close('}')
	}
	if len(r.Drop) > 0 {
		out.Key("drop")
		out.Open('[')
		for _, id := range r.Drop {
			out.String(id)
		}
		out.Close(']')
	}
	if r.Whole {
		list("all", r.All)
	}
	out.Close('}')
}

func readRows(r *jsonread.Reader) (*Rows, error) {
	rows := &Rows{}
	list := func(into *[]sample.Record) error {
		return r.Array(func(int) error {
			rec, err := ReadRecord(r)
			*into = append(*into, rec)
			return err
		})
	}
	err := r.Object(func(key string) error {
		var err error
		switch key {
		case "set":
			rows.Set, err = r.String()
		case "model":
			rows.Model, err = r.String()
		case "put":
			err = list(&rows.Put)
		case "all":
			rows.Whole = true
			err = list(&rows.All)
		case "drop":
			rows.Drop, err = r.Strings()
		case "at":
			rows.At = map[string]int{}
			err = r.Object(func(id string) error {
				n, err := r.Int()
				rows.At[id] = n
				return err
			})
		default:
			err = r.Unknown(key, "set", "model", "put", "at", "drop", "all")
		}
		return err
	})
	return rows, err
}

func readMaker(r *jsonread.Reader) (*sample.Maker, error) {
	m := &sample.Maker{}
	return m, readPlain(r, m, "how values are made")
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

// readPlain reads what is written as plain JSON; what says what it is.
func readPlain(r *jsonread.Reader, into any, what string) error {
	raw, err := r.Raw()
	if err != nil {
		return err
	}
	d := json.NewDecoder(bytes.NewReader(raw))
	d.DisallowUnknownFields()
	if err := d.Decode(into); err != nil {
		return r.Fail(what, "%s cannot be read: %s", what, err)
	}
	return nil
}

func writePlain(out *screen.Writer, key string, v any) {
	b, _ := json.Marshal(v) // numbers and texts encode
	out.Key(key)
	out.Raw(string(b))
}

// ReadModel reads a model as it stands in a workspace.
func ReadModel(src []byte) (*sample.Model, error) {
	r, err := jsonread.New(src, jsonread.DefaultLimits)
	if err != nil {
		return nil, err
	}
	m, err := readModel(r)
	if err == nil {
		err = r.End()
	}
	return &m, err
}
