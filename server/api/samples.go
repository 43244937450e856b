package api

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"ubiquant/core/change"
	"ubiquant/core/data"
	"ubiquant/core/expr"
	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/sample"
)

// modelView is a model with where it is used.
type modelView struct {
	sample.Model
	Counts map[string]int          `json:"counts"` // records by set
	Uses   []named                 `json:"uses"`   // screens that repeat over it
	Makers map[string]sample.Maker `json:"makers"` // how each field would be made up
	Query  *sample.Query           `json:"query,omitempty"`
	Unused bool                    `json:"unused,omitempty"` // nothing speaks of it: no screen, no model, no list
}

type setView struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Own  bool   `json:"own"` // kept, and changed by hand; others are made by themselves
}

type samplesOut struct {
	Models []modelView         `json:"models"`
	Sets   []setView           `json:"sets"`
	Types  []string            `json:"types"`
	Kinds  map[string][]string `json:"kinds"` // that can be made up, by type
	Tones  []string            `json:"tones"` // that the kit has for what something means
	// Currencies are those that money may be in, the usual one first.
	Currencies []string `json:"currencies"`
	// Bases are the addresses that data may come from, Sources where it does.
	Bases   []sample.Base   `json:"bases"`
	Sources []sample.Source `json:"sources"`
}

// tonal are the props that say what something means, the most telling first.
var tonal = []string{"tone", "status", "severity", "intent", "variant", "kind", "color", "colour", "type"}

// tones are the values of the prop by which most of a kit's components say what
// something means.
func tones(k *kit.Kit) []string {
	for _, name := range tonal {
		seen := map[string]int{}
		var order []string
		for _, def := range k.Components {
			if p, ok := def.Prop(name); ok && def.Role != "action" {
				for _, v := range p.Values {
					if seen[v]++; seen[v] == 1 {
						order = append(order, v)
					}
				}
			}
		}
		if len(order) > 1 {
			return order
		}
	}
	return []string{}
}

// unused tells whether nothing speaks of a model, or of a list made of one: no screen, shell or piece, no
// other model and no other list.
func unused(l *live.Live, id string) bool {
	refers := func(m sample.Model) bool {
		return m.ID != id && slices.ContainsFunc(m.Fields, func(f sample.Field) bool { return f.Model == id })
	}
	made := func(q sample.Query) bool { return q.From == id }
	return !slices.ContainsFunc(l.W.Models, refers) && !slices.ContainsFunc(l.W.Queries, made) && len(data.Speaking(l.W, id, "")) == 0
}

func (s *Server) samples(c *Call, _ *none) (*samplesOut, error) {
	out := &samplesOut{Models: []modelView{}, Sets: []setView{}, Kinds: map[string][]string{}, Tones: []string{}}
	for _, t := range sample.FieldTypes {
		out.Types = append(out.Types, string(t))
		out.Kinds[string(t)] = sample.MakerKinds[t]
	}
	for _, cur := range sample.Currencies {
		out.Currencies = append(out.Currencies, cur.Code)
	}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		out.Tones = tones(l.Kit)
		out.Bases, out.Sources = append([]sample.Base{}, l.W.Bases...), append([]sample.Source{}, l.W.Sources...)
		uses := map[string][]named{}
		for _, d := range l.Index.Docs() {
			seen := map[string]bool{}
			for _, u := range d.Uses {
				if r := u.Element.Repeat; r != nil && !seen[r.Model] {
					seen[r.Model] = true
					uses[r.Model] = append(uses[r.Model], named{string(d.Kind) + ":" + d.ID, d.Title})
				}
			}
		}
		sets := l.Sets()
		for _, set := range sets {
			out.Sets = append(
				out.Sets,
				setView{
					set.ID,
					set.Name,
					slices.ContainsFunc(l.W.Sets, func(o sample.Set) bool { return o.ID == set.ID }),
				},
			)
		}
		for _, m := range l.W.Models {
			v := modelView{Model: m, Counts: map[string]int{}, Uses: uses[m.ID], Makers: map[string]sample.Maker{}}
			if v.Uses == nil {
				v.Uses, v.Unused = []named{}, unused(l, m.ID)
			}
			for _, set := range sets {
				v.Counts[set.ID] = len(set.Records[m.ID])
				if set.ID == "many" && set.Records == nil {
					v.Counts[set.ID] = live.ManyRecords
				}
			}
			for i := range m.Fields {
				v.Makers[m.Fields[i].Name] = m.Suggest(&m.Fields[i])
			}
			out.Models = append(out.Models, v)
		}
		for i := range l.W.Queries {
			q := &l.W.Queries[i]
			m := l.Models()[q.ID]
			if m == nil {
				continue
			}
			v := modelView{
				Model:  *m,
				Counts: map[string]int{},
				Uses:   uses[q.ID],
				Makers: map[string]sample.Maker{},
				Query:  q,
			}
			if v.Uses == nil {
				v.Uses, v.Unused = []named{}, unused(l, q.ID)
			}
			for _, set := range sets {
				if set.ID != "many" { // made only when it is looked at
					v.Counts[set.ID] = len(l.SampleSet(set.ID).Records[q.ID])
				}
			}
			out.Models = append(out.Models, v)
		}
		return nil
	})
	return out, err
}

type recordsIn struct {
	Model string `path:"model"`
	Set   string `query:"set"`
}

type recordsOut struct {
	Records  []sample.Record           `json:"records"`
	Problems []sample.CellError        `json:"problems"`
	Names    map[string][]namedRecords `json:"names"` // what references may name, by model
}

type namedRecords struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

func (s *Server) records(c *Call, in *recordsIn) (*recordsOut, error) {
	out := &recordsOut{Records: []sample.Record{}, Names: map[string][]namedRecords{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		m, set, err := modelIn(l, in.Model, in.Set)
		if err != nil {
			return err
		}
		out.Records = append(out.Records, set.Records[m.ID]...)
		out.Problems = m.CheckAll(out.Records, exists(set))
		for _, f := range m.Fields {
			if f.Type != sample.Ref && f.Type != sample.Refs || out.Names[f.Model] != nil {
				continue
			}
			list := []namedRecords{}
			for _, r := range set.Records[f.Model] {
				list = append(list, namedRecords{r.ID(), nameOf(l, f.Model, r)})
			}
			out.Names[f.Model] = list
		}
		return nil
	})
	return out, err
}

func modelIn(l *live.Live, model, set string) (*sample.Model, *sample.Set, error) {
	m := l.Models()[model]
	if m == nil {
		return nil, nil, missing("model " + model)
	}
	found := l.SampleSet(set)
	if found == nil && set != "" && set != "usual" {
		return nil, nil, missing("sample set " + set)
	}
	if found == nil {
		found = &sample.Set{ID: "usual", Name: "Usual"}
	}
	return m, found, nil
}

func exists(set *sample.Set) func(model, id string) bool {
	known := map[string]map[string]bool{}
	return func(model, id string) bool {
		if known[model] == nil {
			known[model] = map[string]bool{}
			for _, r := range set.Records[model] {
				known[model][r.ID()] = true
			}
		}
		return known[model][id]
	}
}

// nameOf is what a record is called: its first text.
func nameOf(l *live.Live, model string, r sample.Record) string {
	if m := l.W.ModelMap()[model]; m != nil {
		for _, f := range m.Fields {
			if s, ok := r[f.Name].(string); ok && f.Type == sample.Text && s != "" {
				return s
			}
		}
	}
	return r.ID()
}

// called finds a record by its id or by what it is called.
func called(l *live.Live, set *sample.Set) func(model, text string) (string, bool) {
	by := map[string]map[string]string{}
	return func(model, text string) (string, bool) {
		if by[model] == nil {
			by[model] = map[string]string{}
			for _, r := range slices.Backward(set.Records[model]) { // of two the first
				by[model][strings.ToLower(nameOf(l, model, r))] = r.ID()
			}
			for _, r := range set.Records[model] {
				by[model][strings.ToLower(r.ID())] = r.ID()
			}
		}
		id, ok := by[model][strings.ToLower(text)]
		return id, ok
	}
}

type readIn struct {
	Text   string   `json:"text"`
	Model  string   `json:"model,omitempty"`  // into which the rows go; a new one is guessed without
	Set    string   `json:"set,omitempty"`    // whose records references name
	Fields []string `json:"fields,omitempty"` // the field each column goes to, empty for none; guessed without
	// Draft is a model that is not kept yet, in place of Model.
	Draft json.RawMessage `json:"draft,omitempty"`
	// Readings are those that somebody chose, by column; List is one of several lists.
	Readings map[string]string `json:"readings,omitempty"`
	List     string            `json:"list,omitempty"`
}

type readOut struct {
	Columns []string           `json:"columns"`
	Rows    [][]string         `json:"rows"` // the first of them, as they are written
	Read    [][]string         `json:"read"` // the same, as they are read
	Lists   []sample.FoundList `json:"lists"`
	Total   int                `json:"total"`
	Notes   []string           `json:"notes"`
	Guesses []sample.Guess     `json:"guesses"`
	Fields  []string           `json:"fields"`
	Records []sample.Record    `json:"records"`
	Wrong   []sample.CellError `json:"wrong"` // the first of them
	Errors  int                `json:"errors"`
	// Schemas are the models that a JSON Schema or an OpenAPI document describes, in
	// place of rows.
	Schemas []sample.Schema `json:"schemas,omitempty"`
}

// readTable reads pasted rows: as a new model, or into one that is there.
func (s *Server) readTable(c *Call, in *readIn) (*readOut, error) {
	if in.Model == "" && len(in.Draft) == 0 && sample.LooksLikeSchemas(in.Text) {
		list, err := sample.ReadSchemas([]byte(in.Text))
		if err != nil {
			return nil, bad("%s", err)
		}
		return &readOut{
			Columns: []string{},
			Rows:    [][]string{},
			Read:    [][]string{},
			Lists:   []sample.FoundList{},
			Notes:   []string{},
			Guesses: []sample.Guess{},
			Fields:  []string{},
			Records: []sample.Record{},
			Wrong:   []sample.CellError{},
			Schemas: list,
		}, nil
	}
	t, err := sample.ReadTable([]byte(in.Text), in.List)
	if err != nil {
		return nil, bad("%s", err)
	}
	out := &readOut{
		Columns: t.Columns,
		Rows:    t.Rows[:min(len(t.Rows), 50)],
		Total:   len(t.Rows),
		Notes:   t.Notes,
		Guesses: t.Infer(in.Readings),
		Lists:   append([]sample.FoundList{}, t.Lists...),
		Fields:  in.Fields,
		Records: []sample.Record{},
		Wrong:   []sample.CellError{},
	}
	err = s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		m := &sample.Model{ID: "rows"}
		taken := map[string]bool{}
		set := l.SampleSet(in.Set)
		if set == nil {
			set = &sample.Set{}
		}
		switch {
		case len(in.Draft) > 0:
			if m, err = model.ParseModel(in.Draft); err != nil {
				return bad("%s", err)
			}
		case in.Model != "":
			if m, _, err = modelIn(l, in.Model, in.Set); err != nil {
				return err
			}
			for _, r := range set.Records[m.ID] {
				taken[r.ID()] = true
			}
		default:
			referring(l, set, t, out.Guesses, in.Readings)
			for _, g := range out.Guesses {
				m.Fields = append(m.Fields, g.Field)
			}
		}
		if out.Fields == nil {
			out.Fields = matched(t, m)
		}
		read := t.As(out.Guesses, func(i int) sample.FieldType {
			if i < len(out.Fields) {
				if f, ok := m.Field(out.Fields[i]); ok {
					return f.Type
				}
			}
			return ""
		})
		out.Read = read.Rows[:min(len(read.Rows), 50)]
		var wrong []sample.CellError
		out.Records, wrong = read.Records(m, out.Fields, taken, called(l, set))
		out.Errors, out.Wrong = len(wrong), wrong[:min(len(wrong), 100)]
		return nil
	})
	return out, err
}

// referring proposes references: columns of which every text is what some record goes by.
func referring(l *live.Live, set *sample.Set, t *sample.Table, guesses []sample.Guess, chosen map[string]string) {
	of := called(l, set)
	for n := range guesses {
		g := &guesses[n]
		i := slices.Index(t.Columns, g.Column)
		if i < 0 || g.Field.Type != sample.Text && g.Field.Type != sample.Choice && chosen[g.Column] == "" {
			continue
		}
		for _, id := range slices.Sorted(maps.Keys(l.Models())) {
			some, all := map[string]bool{}, true
			for _, row := range t.Rows {
				if text := strings.TrimSpace(row[i]); text != "" && all {
					to, ok := of(id, text)
					some[to], all = true, ok
				}
			}
			if !all || len(some) < 2 {
				continue
			}
			r := sample.Reading{
				ID: "record of " + id, Words: "records of " + l.Models()[id].Name,
				Field: sample.Field{Name: g.Field.Name, Type: sample.Ref, Model: id},
			}
			g.Readings = append(g.Readings, r)
			if chosen[g.Column] == r.ID {
				required := g.Field.Required
				g.Reading, g.Field, g.Why, g.Unclear = r.ID, r.Field, r.Words, false
				g.Field.Required = required
			}
		}
	}
}

// matched finds for each column the field of the same name.
func matched(t *sample.Table, m *sample.Model) []string {
	out := make([]string, len(t.Columns))
	for i, column := range t.Columns {
		name := sample.FieldName(column)
		for _, f := range m.Fields {
			if strings.EqualFold(f.Name, name) && !strings.EqualFold(column, "id") {
				out[i] = f.Name
			}
		}
	}
	return out
}

type generateIn struct {
	Model  string                  `json:"model"`
	Set    string                  `json:"set"`
	Count  int                     `json:"count"`
	Seed   uint64                  `json:"seed"`
	Makers map[string]sample.Maker `json:"makers,omitempty"`
	Anew   bool                    `json:"anew,omitempty"` // in place of those that stand
	Draft  json.RawMessage         `json:"draft,omitempty"`
}

// generate makes records up, for looking at before they are kept.
func (s *Server) generate(c *Call, in *generateIn) (*recordsOut, error) {
	out := &recordsOut{Names: map[string][]namedRecords{}}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		set := l.SampleSet(in.Set)
		if set == nil {
			set = &sample.Set{}
		}
		m := l.W.ModelMap()[in.Model]
		if len(in.Draft) > 0 {
			var err error
			if m, err = model.ParseModel(in.Draft); err != nil {
				return bad("%s", err)
			}
		}
		if m == nil {
			return missing("model " + in.Model)
		}
		taken := map[string]bool{}
		used := func(string) map[string]struct{} { return nil }
		if !in.Anew {
			for _, r := range set.Records[m.ID] {
				taken[r.ID()] = true
			}
			used = func(field string) map[string]struct{} {
				values := map[string]struct{}{}
				for _, r := range set.Records[m.ID] {
					if v, ok := r[field].(string); ok {
						values[v] = struct{}{}
					}
				}
				return values
			}
		}
		met := map[string][]string{}
		for i := range m.Fields {
			if f := &m.Fields[i]; f.Type == sample.Texts {
				for _, r := range set.Records[m.ID] {
					items, _ := r[f.Name].(sample.List)
					for _, item := range items.Items() {
						if !slices.Contains(met[f.Name], item) && len(met[f.Name]) < 200 {
							met[f.Name] = append(met[f.Name], item)
						}
					}
				}
			}
		}
		var err error
		out.Records, err = sample.Generate(
			sample.Order{
				Model:  m,
				Met:    met,
				Makers: in.Makers,
				Seed:   in.Seed,
				Count:  in.Count,
				Today:  l.Today,
				Taken:  taken,
				Used:   used,
				IDs: func(model string) []string {
					ids := []string{}
					for _, r := range set.Records[model] {
						ids = append(ids, r.ID())
					}
					return ids
				},
			},
		)
		if err != nil {
			return bad("%s", err)
		}
		lists := maps.Clone(set.Records)
		if lists == nil {
			lists = map[string][]sample.Record{}
		}
		lists[m.ID] = out.Records
		computed, missing := expr.Computed(l.W.ModelMap(), lists, l.Today)
		out.Records = computed[m.ID]
		out.Problems = m.CheckAll(out.Records, exists(set))
		for _, u := range missing {
			if u.Model == m.ID {
				out.Problems = append(out.Problems, sample.CellError{
					Record: u.Record, Field: u.Field,
					Reason: fmt.Sprintf("%d records have no value: %s", u.Records, u.Why),
				})
			}
		}
		return nil
	})
	return out, err
}

type modelIO struct {
	Model   json.RawMessage   `json:"model"`
	Renames map[string]string `json:"renames,omitempty"`
}

type modelReach struct {
	Problem string        `json:"problem,omitempty"` // why it cannot be so
	Records int           `json:"records"`           // that change
	Uses    []data.Spoken `json:"uses"`              // that speak of what is renamed or falls away
	Gone    []string      `json:"gone"`              // fields that fall away
}

// previewModel says what a change of a model would reach.
func (s *Server) previewModel(c *Call, in *modelIO) (*modelReach, error) {
	m, err := model.ParseModel(in.Model)
	if err != nil {
		return nil, bad("%s", err)
	}
	out := &modelReach{Uses: []data.Spoken{}, Gone: []string{}}
	err = s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		next, _, err := change.Apply(
			l.W,
			change.Change{
				Title: "look",
				Steps: []change.Step{&change.PutModel{Model: *m, Renames: in.Renames}},
			},
			l.Cat,
			l,
		)
		if err != nil {
			out.Problem = err.Error()
		} else {
			for i := range next.Sets {
				was := []sample.Record{}
				if i < len(l.W.Sets) {
					was = l.W.Sets[i].Records[m.ID]
				}
				for j, r := range next.Sets[i].Records[m.ID] {
					if j >= len(was) || !sameRecord(was[j], r) {
						out.Records++
					}
				}
			}
		}
		old := l.W.ModelMap()[m.ID]
		if old == nil {
			return nil
		}
		for _, f := range old.Fields {
			_, kept := m.Field(f.Name)
			_, renamed := in.Renames[f.Name]
			if !kept || renamed {
				out.Uses = append(out.Uses, data.Speaking(l.W, m.ID, f.Name)...)
			}
			if !kept && !renamed {
				out.Gone = append(out.Gone, f.Name)
			}
		}
		return nil
	})
	return out, err
}

func sameRecord(a, b sample.Record) bool {
	if len(a) != len(b) {
		return false
	}
	for k, v := range a {
		if w, ok := b[k]; !ok || v != w {
			return false
		}
	}
	return true
}

// exportRecords gives the records of a model as CSV or JSON.
func (s *Server) exportRecords(c fiber.Ctx) error {
	var text []byte
	model, set := strings.Clone(c.Params("model")), strings.Clone(c.Query("set"))
	as := strings.Clone(c.Query("as"))
	asCSV := as != "json" && as != "schema"
	formulas := c.Query("formulas") == "1" // left to be computed by a spreadsheet
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		m, found, err := modelIn(l, model, set)
		if err != nil {
			return err
		}
		if asCSV {
			text = m.CSV(found.Records[m.ID], formulas)
			return nil
		}
		if as == "schema" {
			text = sample.WriteSchema(m)
			return nil
		}
		list := found.Records[m.ID]
		if list == nil {
			list = []sample.Record{}
		}
		text, err = json.MarshalIndent(list, "", " ")
		return err
	})
	if err != nil {
		return err
	}
	switch {
	case asCSV:
		c.Set("Content-Type", "text/csv; charset=utf-8")
		c.Attachment(model + ".csv")
	case as == "schema":
		c.Set("Content-Type", "application/schema+json")
		c.Attachment(model + ".schema.json")
	default:
		c.Set("Content-Type", "application/json")
		c.Attachment(model + ".json")
	}
	return c.Send(text)
}

type cell struct {
	Record string `json:"record"` // its id; "+1", "+2" … are new ones
	Field  string `json:"field"`
	Text   string `json:"text"`
}

type cellsIn struct {
	Model  string   `path:"model" json:"-"`
	Set    string   `json:"set"`
	Cells  []cell   `json:"cells"`
	Fresh  int      `json:"fresh,omitempty"`  // how many new records, be it without a value
	After  string   `json:"after,omitempty"`  // the record after which new ones stand; at the end without
	Drop   []string `json:"drop,omitempty"`   // ids
	Client string   `json:"client,omitempty"` // the window
	Title  string   `json:"title"`
}

type cellsOut struct {
	Change   *changeOut         `json:"change,omitempty"` // none where something is wrong
	Wrong    []sample.CellError `json:"wrong"`
	Put      []sample.Record    `json:"put"` // as they stand now
	Fresh    []string           `json:"fresh"`
	Problems []sample.CellError `json:"problems"`
}

// cells writes texts into the cells of records: all of them, or none where one does not
// fit its field.
func (s *Server) cells(c *Call, in *cellsIn) (*cellsOut, error) {
	out := &cellsOut{Wrong: []sample.CellError{}, Put: []sample.Record{}, Fresh: []string{}}
	if len(in.Cells) > 200_000 || in.Fresh > 20_000 || in.Fresh < 0 {
		return nil, bad("at most 200,000 cells and 20,000 new records are written at once")
	}
	var asIs error
	var before []sample.Record
	change, err := s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		m, set, err := modelIn(l, in.Model, in.Set)
		if err != nil {
			return change.Change{}, err
		}
		before = set.Records[m.ID]
		rows := &change.Rows{Set: set.ID, Model: m.ID, Drop: in.Drop, At: map[string]int{}}
		at := map[string]int{} // where the records of the change stand in Put
		old := map[string]sample.Record{}
		place := len(set.Records[m.ID])
		for i, r := range set.Records[m.ID] {
			old[r.ID()] = r
			if r.ID() == in.After {
				place = i + 1
			}
		}
		next := len(old) + 1
		for i := range in.Fresh {
			id := m.ID + "-" + strconv.Itoa(next)
			for ; old[id] != nil; id = m.ID + "-" + strconv.Itoa(next) {
				next++
			}
			next++
			at["+"+strconv.Itoa(i+1)] = len(rows.Put)
			rows.Put = append(rows.Put, sample.Record{"id": id})
			rows.At[id] = place + i
			out.Fresh = append(out.Fresh, id)
		}
		of := called(l, set)
		for i, cell := range in.Cells {
			f, ok := m.Field(cell.Field)
			if !ok {
				return change.Change{}, bad("%s has no field %q", m.ID, cell.Field)
			}
			if f.Compute != "" {
				continue // a row pasted as a whole holds it too
			}
			j, touched := at[cell.Record]
			if !touched {
				was, known := old[cell.Record]
				if !known {
					return change.Change{}, missing("record " + cell.Record)
				}
				j = len(rows.Put)
				at[cell.Record] = j
				rows.Put = append(rows.Put, maps.Clone(was))
			}
			v, err := f.Parse(cell.Text, of)
			switch {
			case err != nil:
				out.Wrong = append(
					out.Wrong,
					sample.CellError{
						Row:    i + 1,
						Record: cell.Record,
						Field:  cell.Field,
						Value:  cell.Text,
						Reason: err.Error(),
					},
				)
			case v == nil:
				delete(rows.Put[j], cell.Field)
			default:
				rows.Put[j][cell.Field] = v
			}
		}
		if len(out.Wrong) > 0 {
			asIs = bad("%s", out.Wrong[0].Reason)
			return change.Change{}, asIs
		}
		out.Put = append(out.Put, rows.Put...)
		return change.Change{Title: in.Title, Steps: []change.Step{&change.Records{Rows: *rows}}}, nil
	})
	if asIs != nil {
		out.Wrong = out.Wrong[:min(len(out.Wrong), 100)]
		out.Problems = []sample.CellError{}
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	out.Change = change
	return out, s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		m, set, err := modelIn(l, in.Model, in.Set)
		if err == nil {
			out.Problems = m.CheckAll(set.Records[m.ID], exists(set))
			if slices.ContainsFunc(m.Fields, func(f sample.Field) bool { return f.Compute != "" }) {
				// What is computed of others may have changed anywhere.
				was := make(map[string]sample.Record, len(before))
				for _, r := range before {
					was[r.ID()] = r
				}
				out.Put = slices.DeleteFunc(
					slices.Clone(set.Records[m.ID]),
					func(r sample.Record) bool { return sameRecord(was[r.ID()], r) },
				)
			}
		}
		return err
	})
}
