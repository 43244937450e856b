// Package workspace holds everything a team works on: applications, shells,
// screens, pieces, models, samples, house rules and let-stands. It reads and
// writes them as one JSON file or as a folder with a file a screen, and applies
// changes to them.
package workspace

import (
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"

	"github.com/go-json-experiment/json/jsontext"

	"ubiquant/core/audit"
	"ubiquant/core/audit/rules"
	"ubiquant/core/expr"
	"ubiquant/core/jsonread"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// Format is the version of the file format.
const Format = "ubiquant.workspace/1"

// App is an application: a set of screens on routes.
type App struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	// Packages are what the application has installed, by name with the version
	// asked for; nil where nobody said.
	Packages map[string]string `json:"packages,omitempty"`
}

// KitRef names the kit a workspace is built on.
type KitRef struct {
	Name    string `json:"name"`
	Version string `json:"version"`
}

// Workspace is the whole, as a value: changing it makes a new one (see Apply).
type Workspace struct {
	Name    string
	Kit     KitRef
	Apps    []App
	Docs    []*screen.Document // shells, screens and pieces, in their order
	Models  []sample.Model
	Queries []sample.Query  // lists made of the models'
	Bases   []sample.Base   // addresses that data may come from
	Sources []sample.Source // where live records come from, one a model at most
	Sets    []sample.Set    // the first is the usual one
	House   []audit.HouseRule
	Stands  []audit.LetStand
	// Tunings are the rules that the team holds otherwise than they come.
	Tunings []audit.Tuning
	Own     Own // what the team adds to the kit
}

// Doc finds a document by its address, "screen:tickets".
func (w *Workspace) Doc(key string) (*screen.Document, bool) {
	kind, id, _ := strings.Cut(key, ":")
	for _, d := range w.Docs {
		if d.ID == id && string(d.Kind) == kind {
			return d, true
		}
	}
	return nil, false
}

// ModelMap lists the models by id.
func (w *Workspace) ModelMap() map[string]*sample.Model {
	out := make(map[string]*sample.Model, len(w.Models))
	for i := range w.Models {
		out[w.Models[i].ID] = &w.Models[i]
	}
	return out
}

// AllSets lists the stored sample sets and those derived from the usual one.
func (w *Workspace) AllSets() []sample.Set {
	if len(w.Sets) == 0 {
		return sample.Derive(w.Models, sample.Set{})
	}
	out := slices.Clone(w.Sets)
	for _, s := range sample.Derive(w.Models, w.Sets[0]) {
		if !slices.ContainsFunc(out, func(o sample.Set) bool { return o.ID == s.ID }) {
			out = append(out, s)
		}
	}
	return out
}

// Set finds a sample set; the usual one where the id is empty.
func (w *Workspace) Set(id string) (*sample.Set, bool) {
	for _, s := range w.AllSets() {
		if s.ID == id || (id == "" && len(w.Sets) > 0) {
			return &s, true
		}
	}
	return nil, false
}

// Routes lists the routes of each application.
func (w *Workspace) Routes() map[string]map[string]bool {
	out := map[string]map[string]bool{}
	for _, d := range w.Docs {
		if d.Kind == screen.ScreenDoc && !d.Removed {
			if out[d.App] == nil {
				out[d.App] = map[string]bool{}
			}
			out[d.App][d.Route] = true
		}
	}
	return out
}

var kinds = []struct {
	kind   screen.DocKind
	plural string
}{{screen.ShellDoc, "shells"}, {screen.ScreenDoc, "screens"}, {screen.PieceDoc, "pieces"}}

var keys = []string{
	"format",
	"name",
	"kit",
	"applications",
	"shells",
	"screens",
	"pieces",
	"models",
	"queries",
	"bases",
	"sources",
	"samples",
	"houseRules",
	"letStands",
	"ruleSettings",
	"themes",
	"icons",
	"fonts",
	"leftOut",
}

// Read reads a workspace from one JSON text and checks what holds it together.
func Read(src []byte) (*Workspace, error) {
	r, err := jsonread.New(src, jsonread.DefaultLimits)
	if err != nil {
		return nil, fmt.Errorf("workspace: %w", err)
	}
	w := &Workspace{}
	if err = w.read(r); err == nil {
		err = r.End()
	}
	if err == nil {
		err = w.check(src)
	}
	if err != nil {
		return nil, fmt.Errorf("workspace: %w", err)
	}
	return w, nil
}

func (w *Workspace) read(r *jsonread.Reader) error {
	formatted := false
	err := r.Object(func(key string) error {
		var err error
		switch key {
		case "format":
			formatted = true
			_, err = r.OneOf(Format)
		case "name":
			w.Name, err = r.String()
		case "kit":
			err = readStrings(r, map[string]*string{"name": &w.Kit.Name, "version": &w.Kit.Version})
		case "applications":
			err = r.Array(func(int) error {
				var a App
				err := r.Object(func(key string) error {
					var err error
					switch key {
					case "id":
						a.ID, err = r.String()
					case "name":
						a.Name, err = r.String()
					case "packages":
						a.Packages, err = readPackages(r)
					default:
						err = r.Unknown(key, "id", "name", "packages")
					}
					return err
				})
				w.Apps = append(w.Apps, a)
				return err
			})
		case "models":
			err = r.Array(func(int) error {
				m, err := readModel(r)
				w.Models = append(w.Models, m)
				return err
			})
		case "queries":
			err = r.Array(func(int) error {
				var q sample.Query
				err := readPlain(r, &q, "a query")
				w.Queries = append(w.Queries, q)
				return err
			})
		case "bases":
			err = r.Array(func(int) error {
				var b sample.Base
				err := readPlain(r, &b, "an address")
				w.Bases = append(w.Bases, b)
				return err
			})
		case "sources":
			err = r.Array(func(int) error {
				var s sample.Source
				err := readPlain(r, &s, "a source")
				w.Sources = append(w.Sources, s)
				return err
			})
		case "samples":
			err = r.Array(func(int) error {
				s, err := readSet(r)
				w.Sets = append(w.Sets, s)
				return err
			})
		case "ruleSettings":
			err = r.Array(func(int) error {
				t, err := readTuning(r)
				w.Tunings = append(w.Tunings, t)
				return err
			})
		case "houseRules":
			err = r.Array(func(int) error {
				var h audit.HouseRule
				err := readStrings(r, houseFields(&h))
				w.House = append(w.House, h)
				return err
			})
		case "letStands":
			err = r.Array(func(int) error {
				var s audit.LetStand
				err := readStrings(r, standFields(&s))
				w.Stands = append(w.Stands, s)
				return err
			})
		case "themes", "icons", "fonts", "leftOut":
			err = w.Own.read(r, key)
		default:
			for _, k := range kinds {
				if key == k.plural {
					return r.Array(func(int) error {
						d, err := ReadDocument(r, k.kind)
						w.Docs = append(w.Docs, d)
						return err
					})
				}
			}
			err = r.Unknown(key, keys...)
		}
		return err
	})
	if err == nil && !formatted {
		err = r.Fail(
			fmt.Sprintf("an object with \"format\": %q", Format),
			"the text does not say that it is a workspace",
		)
	}
	return err
}

func houseFields(h *audit.HouseRule) map[string]*string {
	return map[string]*string{
		"id":     &h.ID,
		"spot":   &h.Spot,
		"words":  &h.Words,
		"prop":   &h.Prop,
		"value":  &h.Value,
		"reason": &h.Reason,
		"by":     &h.By,
		"when":   &h.When,
	}
}

func standFields(s *audit.LetStand) map[string]*string {
	return map[string]*string{
		"id":     &s.ID,
		"key":    &s.Key,
		"reason": &s.Reason,
		"by":     &s.By,
		"when":   &s.When,
		"until":  &s.Until,
	}
}

// readTuning reads how a rule is held. The rule and its settings must be known, so
// that a misspelt one does not pass for set.
func readTuning(r *jsonread.Reader) (audit.Tuning, error) {
	var t audit.Tuning
	severity := ""
	texts := map[string]*string{
		"rule":     &t.Rule,
		"severity": &severity,
		"reason":   &t.Reason,
		"by":       &t.By,
		"when":     &t.When,
	}
	err := r.Object(func(key string) error {
		var err error
		if target, ok := texts[key]; ok {
			*target, err = r.String()
			return err
		}
		if key != "settings" {
			return r.Unknown(key, "rule", "severity", "settings", "reason", "by", "when")
		}
		t.Settings = map[string]string{}
		return r.Object(func(name string) error {
			t.Settings[name], err = r.String()
			return err
		})
	})
	if err != nil {
		return t, err
	}
	t.Severity = audit.Severity(severity)
	rule, ok := rules.Find(t.Rule)
	if !ok {
		return t, r.Fail("the id of a rule", "there is no rule %q", t.Rule)
	}
	if err := rule.Check(&t); err != nil {
		return t, r.Fail("", "%s", err)
	}
	return t, nil
}

func writeTuning(out *screen.Writer, t *audit.Tuning) {
	out.Open('{')
	out.Field("rule", t.Rule)
	out.Field("severity", string(t.Severity))
	if len(t.Settings) > 0 {
		out.Key("settings")
		out.Open('{')
		for _, name := range slices.Sorted(maps.Keys(t.Settings)) {
			out.Key(name)
			out.String(t.Settings[name])
		}
		out.Close('}')
	}
	out.Field("reason", t.Reason)
	out.Field("by", t.By)
	out.Field("when", t.When)
	out.Close('}')
}

func readStrings(r *jsonread.Reader, into map[string]*string) error {
	return r.Object(func(key string) error {
		target, ok := into[key]
		if !ok {
			return r.Unknown(key, slices.Sorted(maps.Keys(into))...)
		}
		var err error
		*target, err = r.String()
		return err
	})
}

// ReadDocument reads a shell, screen or piece.
func ReadDocument(r *jsonread.Reader, kind screen.DocKind) (*screen.Document, error) {
	d := &screen.Document{Kind: kind}
	texts := map[string]*string{
		"id":          &d.ID,
		"title":       &d.Title,
		"route":       &d.Route,
		"application": &d.App,
		"shell":       &d.Shell,
		"owner":       &d.Owner,
	}
	err := r.Object(func(key string) error {
		var err error
		if target, ok := texts[key]; ok {
			*target, err = r.String()
			return err
		}
		switch key {
		case "removed":
			d.Removed, err = r.Bool()
		case "revision":
			d.Revision, err = r.Int()
		case "signed":
			d.Signed = &screen.SignOff{}
			err = r.Object(func(key string) error {
				var err error
				switch key {
				case "by":
					d.Signed.By, err = r.String()
				case "when":
					d.Signed.When, err = r.String()
				case "revision":
					d.Signed.Revision, err = r.Int()
				default:
					err = r.Unknown(key, "by", "when", "revision")
				}
				return err
			})
		case "props":
			err = r.Array(func(int) error {
				var p screen.PieceProp
				err := readStrings(r, map[string]*string{"name": &p.Name, "element": &p.Element, "prop": &p.Prop})
				d.Props = append(d.Props, p)
				return err
			})
		case "states":
			err = r.Array(func(int) error {
				s, err := readState(r)
				d.States = append(d.States, s)
				return err
			})
		case "root":
			d.Root, err = screen.ReadElement(r)
		default:
			err = r.Unknown(
				key,
				append(
					slices.Sorted(maps.Keys(texts)),
					"removed",
					"revision",
					"signed",
					"props",
					"states",
					"root",
				)...)
		}
		return err
	})
	if err == nil && (d.ID == "" || d.Root == nil) {
		err = r.Fail("an object with id and root", "the %s has no id or no root", kind)
	}
	if err == nil && !idPattern.MatchString(d.ID) {
		err = r.Fail("lower-case letters, digits and dashes", "%q cannot be an id", d.ID)
	}
	return d, err
}

var idPattern = regexp.MustCompile(`^[a-z0-9][a-z0-9-]{0,63}$`)

func readModel(r *jsonread.Reader) (m sample.Model, err error) {
	err = r.Object(func(key string) error {
		var err error
		switch key {
		case "id":
			m.ID, err = r.String()
		case "name":
			m.Name, err = r.String()
		case "fields":
			err = r.Array(func(int) error {
				f, err := readField(r)
				m.Fields = append(m.Fields, f)
				return err
			})
		default:
			err = r.Unknown(key, "id", "name", "fields")
		}
		return err
	})
	if err == nil && !modelID.MatchString(m.ID) {
		err = r.Fail("a lower-case letter, then letters and digits", "%q cannot be a model's id", m.ID)
	}
	return m, err
}

func readField(r *jsonread.Reader) (f sample.Field, err error) {
	types := make([]string, len(sample.FieldTypes))
	for i, t := range sample.FieldTypes {
		types[i] = string(t)
	}
	err = r.Object(func(key string) error {
		var err error
		switch key {
		case "name":
			f.Name, err = r.String()
		case "type":
			var s string
			s, err = r.OneOf(types...)
			f.Type = sample.FieldType(s)
		case "required":
			f.Required, err = r.Bool()
		case "choices":
			f.Choices, err = r.Strings()
		case "model":
			f.Model, err = r.String()
		case "unique":
			f.Unique, err = r.Bool()
		case "currency":
			f.Currency, err = r.String()
		case "compute":
			f.Compute, err = r.String()
		case "least":
			f.Least, err = r.String()
		case "most":
			f.Most, err = r.String()
		case "maker":
			f.Maker, err = readMaker(r)
		case "meanings":
			err = readPlain(r, &f.Meanings, "what values mean")
		default:
			err = r.Unknown(
				key,
				"name",
				"type",
				"required",
				"choices",
				"model",
				"unique",
				"currency",
				"compute",
				"least",
				"most",
				"maker",
				"meanings",
			)
		}
		return err
	})
	return f, err
}

func readSet(r *jsonread.Reader) (s sample.Set, err error) {
	s.Records = map[string][]sample.Record{}
	err = r.Object(func(key string) error {
		var err error
		switch key {
		case "id":
			s.ID, err = r.String()
		case "name":
			s.Name, err = r.String()
		case "records":
			err = r.Object(func(model string) error {
				list := []sample.Record{}
				err := r.Array(func(int) error {
					rec, err := ReadRecord(r)
					list = append(list, rec)
					return err
				})
				s.Records[model] = list
				return err
			})
		default:
			err = r.Unknown(key, "id", "name", "records")
		}
		return err
	})
	return s, err
}

// ReadRecord reads a record: texts, numbers, yes/no values and lists of texts by field.
func ReadRecord(r *jsonread.Reader) (sample.Record, error) {
	rec := sample.Record{}
	err := r.Object(func(field string) error {
		if r.Kind() == '[' {
			items, err := r.Strings()
			if l := sample.ListOf(items...); l != "" {
				rec[field] = l
			}
			return err
		}
		v, err := screen.ReadValue(r)
		if err != nil {
			return err
		}
		switch v.Kind {
		case screen.Num:
			var f float64
			if _, err := fmt.Sscan(v.Text, &f); err != nil {
				return r.Fail("a number", "%s is out of range", v.Text)
			}
			rec[field] = f
		case screen.Flag:
			rec[field] = v.Text == "true"
		case screen.Literal:
			rec[field] = v.Text
		default:
			return r.Fail("a text, number, true or false", "a record holds plain values only")
		}
		return nil
	})
	return rec, err
}

// CheckError says what does not fit together, and where.
type CheckError struct {
	Where   string // JSON pointer
	Message string
}

func (e *CheckError) Error() string { return e.Where + ": " + e.Message }

// check looks at what a reader cannot see in one place: ids and references.
func (w *Workspace) check(src []byte) error {
	seen := map[string]bool{}
	unique := func(where, id string) error {
		if seen[where+" "+id] {
			return &CheckError{where, fmt.Sprintf("the id %q stands twice", id)}
		}
		seen[where+" "+id] = true
		return nil
	}
	for i, a := range w.Apps {
		if err := unique("/applications", a.ID); err != nil || a.ID == "" {
			return orMissing(err, fmt.Sprintf("/applications/%d", i))
		}
	}
	counts := map[screen.DocKind]int{}
	routes := map[string]string{}
	ids := map[string]bool{}
	for _, d := range w.Docs {
		plural := string(d.Kind) + "s"
		where := fmt.Sprintf("/%s/%d", plural, counts[d.Kind])
		counts[d.Kind]++
		if err := unique("/"+plural, d.ID); err != nil {
			return err
		}
		clear(ids)
		var dup *CheckError
		outlets := 0
		d.Root.Walk(func(e, _ *screen.Element) bool {
			if ids[e.ID] && dup == nil {
				line, column := jsonread.Position(src, e.Offset)
				dup = &CheckError{
					where,
					fmt.Sprintf(
						"the element id %q stands twice in %s %q (second at line %d, column %d)",
						e.ID,
						d.Kind,
						d.ID,
						line,
						column,
					),
				}
			}
			ids[e.ID] = true
			if e.Type == "outlet" {
				outlets++
			}
			return dup == nil
		})
		if dup != nil {
			return dup
		}
		if w.inItself(d) {
			return &CheckError{where + "/shell", fmt.Sprintf("the shell %q stands in itself", d.ID)}
		}
		switch d.Kind {
		case screen.ShellDoc:
			if outlets != 1 {
				return &CheckError{where, fmt.Sprintf("the shell %q has %d outlets; accepted: one", d.ID, outlets)}
			}
		case screen.ScreenDoc:
			if d.Shell != "" {
				if _, ok := w.Doc("shell:" + d.Shell); !ok {
					return &CheckError{where + "/shell", fmt.Sprintf("there is no shell %q", d.Shell)}
				}
			}
			if !slices.ContainsFunc(w.Apps, func(a App) bool { return a.ID == d.App }) {
				return &CheckError{where + "/application", fmt.Sprintf("there is no application %q", d.App)}
			}
			if !strings.HasPrefix(d.Route, "/") {
				return &CheckError{where + "/route", fmt.Sprintf("the route %q does not begin with /", d.Route)}
			}
			if other, taken := routes[d.App+d.Route]; taken && !d.Removed {
				return &CheckError{where + "/route", fmt.Sprintf("the route %s is taken by %s", d.Route, other)}
			}
			if !d.Removed {
				routes[d.App+d.Route] = d.ID
			}
		}
	}
	if err := expr.CheckComputed(w.ModelMap()); err != nil {
		return &CheckError{"/models", err.Error()}
	}
	for i := range w.Queries {
		if err := w.checkQuery(&w.Queries[i]); err != nil {
			return &CheckError{fmt.Sprintf("/queries/%d", i), err.Error()}
		}
		if slices.ContainsFunc(w.Queries[:i], func(o sample.Query) bool { return o.ID == w.Queries[i].ID }) {
			return &CheckError{fmt.Sprintf("/queries/%d", i), "two queries are called " + w.Queries[i].ID}
		}
	}
	for i := range w.Bases {
		if err := checkBase(&w.Bases[i]); err != nil {
			return &CheckError{fmt.Sprintf("/bases/%d", i), err.Error()}
		}
	}
	for i := range w.Sources {
		if err := w.checkSource(&w.Sources[i]); err != nil {
			return &CheckError{fmt.Sprintf("/sources/%d", i), err.Error()}
		}
	}
	models := w.ModelMap()
	for i, s := range w.Sets {
		for _, id := range slices.Sorted(maps.Keys(s.Records)) {
			m, ok := models[id]
			if !ok {
				return &CheckError{fmt.Sprintf("/samples/%d/records", i), fmt.Sprintf("there is no model %q", id)}
			}
			for j, rec := range s.Records[id] {
				if err := m.Check(rec); err != nil {
					return &CheckError{fmt.Sprintf("/samples/%d/records/%s/%d", i, id, j), err.Error()}
				}
			}
		}
	}
	return nil
}

func orMissing(err error, where string) error {
	if err != nil {
		return err
	}
	return &CheckError{where, "the id is missing"}
}

// Write writes the workspace as one JSON text: one stable form, indented by one
// space, so that files compare well.
func Write(w *Workspace) []byte {
	var out screen.Writer
	out.Open('{')
	w.head(&out)
	for _, k := range kinds {
		out.Key(k.plural)
		out.Open('[')
		for _, d := range w.Docs {
			if d.Kind == k.kind {
				WriteDocument(&out, d)
			}
		}
		out.Close(']')
	}
	w.tail(&out)
	out.Close('}')
	return pretty(out.B)
}

func pretty(b []byte) []byte {
	v := jsontext.Value(b)
	// The writer makes valid JSON by construction; a failure would be a defect here.
	if err := v.Indent(jsontext.WithIndent(" ")); err != nil {
		panic("workspace: " + err.Error())
	}
	return append(v, '\n')
}

func (w *Workspace) head(out *screen.Writer) {
	out.Field("format", Format)
	out.Field("name", w.Name)
	out.Key("kit")
	out.Open('{')
	out.Field("name", w.Kit.Name)
	out.Field("version", w.Kit.Version)
	out.Close('}')
	out.Key("applications")
	out.Open('[')
	for _, a := range w.Apps {
		out.Open('{')
		out.Field("id", a.ID)
		out.Field("name", a.Name)
		writePackages(out, a.Packages)
		out.Close('}')
	}
	out.Close(']')
}

func readPackages(r *jsonread.Reader) (map[string]string, error) {
	out := map[string]string{}
	err := r.Object(func(name string) error {
		version, err := r.String()
		out[name] = version
		return err
	})
	return out, err
}

func writePackages(out *screen.Writer, packages map[string]string) {
	if packages == nil {
		return
	}
	out.Key("packages")
	out.Open('{')
	for _, name := range slices.Sorted(maps.Keys(packages)) {
		out.Key(name)
		out.String(packages[name])
	}
	out.Close('}')
}

func (w *Workspace) tail(out *screen.Writer) {
	out.Key("models")
	out.Open('[')
	for i := range w.Models {
		writeModel(out, &w.Models[i])
	}
	out.Close(']')
	if len(w.Queries) > 0 {
		writePlain(out, "queries", w.Queries)
	}
	if len(w.Bases) > 0 {
		writePlain(out, "bases", w.Bases)
	}
	if len(w.Sources) > 0 {
		writePlain(out, "sources", w.Sources)
	}
	out.Key("samples")
	out.Open('[')
	for i := range w.Sets {
		writeSet(out, &w.Sets[i])
	}
	out.Close(']')
	out.Key("houseRules")
	out.Open('[')
	for i := range w.House {
		writeStrings(out, houseFields(&w.House[i]), "id", "spot", "words", "prop", "value", "reason", "by", "when")
	}
	out.Close(']')
	if len(w.Tunings) > 0 {
		out.Key("ruleSettings")
		out.Open('[')
		for i := range w.Tunings {
			writeTuning(out, &w.Tunings[i])
		}
		out.Close(']')
	}
	out.Key("letStands")
	out.Open('[')
	for i := range w.Stands {
		writeStrings(out, standFields(&w.Stands[i]), "id", "key", "reason", "by", "when", "until")
	}
	out.Close(']')
	w.Own.write(out)
}

func writeStrings(out *screen.Writer, fields map[string]*string, order ...string) {
	out.Open('{')
	for _, k := range order {
		out.Field(k, *fields[k])
	}
	out.Close('}')
}

// WriteDocument writes a shell, screen or piece.
func WriteDocument(out *screen.Writer, d *screen.Document) {
	out.Open('{')
	out.Field("id", d.ID)
	out.Field("title", d.Title)
	out.Field("route", d.Route)
	out.Field("application", d.App)
	out.Field("shell", d.Shell)
	out.Field("owner", d.Owner)
	out.Flag("removed", d.Removed)
	out.Int("revision", d.Revision)
	if d.Signed != nil {
		out.Key("signed")
		out.Open('{')
		out.Field("by", d.Signed.By)
		out.Field("when", d.Signed.When)
		out.Int("revision", d.Signed.Revision)
		out.Close('}')
	}
	if len(d.Props) > 0 {
		out.Key("props")
		out.Open('[')
		for _, p := range d.Props {
			out.Open('{')
			out.Field("name", p.Name)
			out.Field("element", p.Element)
			out.Field("prop", p.Prop)
			out.Close('}')
		}
		out.Close(']')
	}
	if len(d.States) > 0 {
		out.Key("states")
		out.Open('[')
		for i := range d.States {
			writeState(out, &d.States[i])
		}
		out.Close(']')
	}
	out.Key("root")
	out.Element(d.Root)
	out.Close('}')
}

func writeState(out *screen.Writer, s *screen.State) {
	out.Open('{')
	out.Field("name", s.Name)
	out.Field("set", s.Set)
	if len(s.Edits) > 0 {
		out.Key("edits")
		out.Open('[')
		for _, e := range s.Edits {
			out.Edit(e)
		}
		out.Close(']')
	}
	out.Close('}')
}

func readState(r *jsonread.Reader) (s screen.State, err error) {
	err = r.Object(func(key string) error {
		var err error
		switch key {
		case "name":
			s.Name, err = r.String()
		case "set":
			s.Set, err = r.String()
		case "edits":
			err = r.Array(func(int) error {
				e, err := screen.ReadEdit(r, false)
				s.Edits = append(s.Edits, e)
				return err
			})
		default:
			err = r.Unknown(key, "name", "set", "edits")
		}
		return err
	})
	if err == nil && s.Name == "" {
		err = r.Fail("a name", "the state has no name")
	}
	return s, err
}

func writeModel(out *screen.Writer, m *sample.Model) {
	out.Open('{')
	out.Field("id", m.ID)
	out.Field("name", m.Name)
	out.Key("fields")
	out.Open('[')
	for _, f := range m.Fields {
		out.Open('{')
		out.Field("name", f.Name)
		out.Field("type", string(f.Type))
		out.Flag("required", f.Required)
		if len(f.Choices) > 0 {
			out.Key("choices")
			out.Open('[')
			for _, c := range f.Choices {
				out.String(c)
			}
			out.Close(']')
		}
		out.Field("model", f.Model)
		out.Flag("unique", f.Unique)
		out.Field("currency", f.Currency)
		out.Field("compute", f.Compute)
		out.Field("least", f.Least)
		out.Field("most", f.Most)
		if f.Maker != nil {
			writePlain(out, "maker", f.Maker)
		}
		if len(f.Meanings) > 0 {
			writePlain(out, "meanings", f.Meanings)
		}
		out.Close('}')
	}
	out.Close(']')
	out.Close('}')
}

func writeSet(out *screen.Writer, s *sample.Set) {
	out.Open('{')
	out.Field("id", s.ID)
	out.Field("name", s.Name)
	out.Key("records")
	out.Open('{')
	for _, id := range slices.Sorted(maps.Keys(s.Records)) {
		out.Key(id)
		out.Open('[')
		for _, rec := range s.Records[id] {
			writeRecord(out, rec)
		}
		out.Close(']')
	}
	out.Close('}')
	out.Close('}')
}

func writeRecord(out *screen.Writer, rec sample.Record) {
	out.Open('{')
	out.Field("id", rec.ID())
	for _, f := range slices.Sorted(maps.Keys(rec)) {
		if f == "id" {
			continue
		}
		out.Key(f)
		switch v := rec[f].(type) {
		case bool:
			out.Value(screen.FlagValue(v))
		case float64:
			out.Value(screen.Value{Kind: screen.Num, Text: sample.Plain(v)})
		case sample.List:
			out.Open('[')
			for _, item := range v.Items() {
				out.String(item)
			}
			out.Close(']')
		default:
			out.String(sample.Plain(v))
		}
	}
	out.Close('}')
}

// Head writes all but the documents; with ReadParts it makes a whole again.
func Head(w *Workspace) []byte {
	var out screen.Writer
	out.Open('{')
	w.head(&out)
	w.tail(&out)
	out.Close('}')
	return out.B
}

// ReadParts puts a workspace together from its head and its documents.
func ReadParts(head []byte, docs []Part) (*Workspace, error) {
	w := &Workspace{}
	r, err := jsonread.New(head, jsonread.DefaultLimits)
	if err == nil {
		err = w.read(r)
	}
	if err != nil {
		return nil, fmt.Errorf("workspace: %w", err)
	}
	for _, p := range docs {
		r, err := jsonread.New(p.Body, jsonread.DefaultLimits)
		if err != nil {
			return nil, err
		}
		d, err := ReadDocument(r, p.Kind)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", p.Kind, err)
		}
		w.Docs = append(w.Docs, d)
	}
	return w, nil
}

// Part is one document as it is stored.
type Part struct {
	Kind screen.DocKind
	Body []byte
}

// Folder writes the workspace as files by path: a file a document, one for each
// sample set and one for the rest.
func Folder(w *Workspace) map[string][]byte {
	files := map[string][]byte{}
	var head screen.Writer
	head.Open('{')
	w.head(&head)
	bare := *w
	bare.Sets = nil
	bare.tail(&head)
	head.Close('}')
	files["workspace.json"] = pretty(head.B)
	for _, d := range w.Docs {
		var out screen.Writer
		WriteDocument(&out, d)
		files[string(d.Kind)+"s/"+d.ID+".json"] = pretty(out.B)
	}
	for i := range w.Sets {
		var out screen.Writer
		writeSet(&out, &w.Sets[i])
		files[fmt.Sprintf("samples/%02d-%s.json", i, w.Sets[i].ID)] = pretty(out.B)
	}
	return files
}

// ReadFolder reads what Folder wrote. Documents stand in the order of their
// paths. Unknown paths are refused, so that no file is silently left out.
func ReadFolder(files map[string][]byte) (*Workspace, error) {
	head, ok := files["workspace.json"]
	if !ok {
		return nil, fmt.Errorf("workspace folder: workspace.json is missing")
	}
	w := &Workspace{}
	r, err := jsonread.New(head, jsonread.DefaultLimits)
	if err == nil {
		err = w.read(r)
	}
	if err != nil {
		return nil, fmt.Errorf("workspace.json: %w", err)
	}
	for _, path := range slices.Sorted(maps.Keys(files)) {
		if path == "workspace.json" {
			continue
		}
		if err := w.readFile(path, files[path]); err != nil {
			return nil, fmt.Errorf("%s: %w", path, err)
		}
	}
	slices.SortStableFunc(w.Docs, func(a, b *screen.Document) int { return rank(a.Kind) - rank(b.Kind) })
	if err := w.check(nil); err != nil {
		return nil, fmt.Errorf("workspace folder: %w", err)
	}
	return w, nil
}

func rank(k screen.DocKind) int {
	return slices.IndexFunc(kinds, func(e struct {
		kind   screen.DocKind
		plural string
	}) bool {
		return e.kind == k
	})
}

func (w *Workspace) readFile(path string, src []byte) error {
	dir, name, _ := strings.Cut(path, "/")
	if !strings.HasSuffix(name, ".json") || strings.Contains(name, "/") {
		return fmt.Errorf(
			"this file is not known here; accepted: workspace.json and .json files in shells, screens, pieces and samples",
		)
	}
	r, err := jsonread.New(src, jsonread.DefaultLimits)
	if err != nil {
		return err
	}
	for _, k := range kinds {
		if dir == k.plural {
			d, err := ReadDocument(r, k.kind)
			if err != nil {
				return err
			}
			if d.ID+".json" != name {
				return fmt.Errorf("the file holds %s %q; its name should be %s.json", k.kind, d.ID, d.ID)
			}
			w.Docs = append(w.Docs, d)
			return r.End()
		}
	}
	if dir == "samples" {
		s, err := readSet(r)
		w.Sets = append(w.Sets, s)
		return err
	}
	return fmt.Errorf("the folder %q is not known here; accepted: shells, screens, pieces, samples", dir)
}

// Shells lists the shells around a document, the innermost first.
func (w *Workspace) Shells(d *screen.Document) []*screen.Document {
	var out []*screen.Document
	for shell, ok := w.Doc("shell:" + d.Shell); ok && d.Shell != "" && !slices.Contains(out, shell); shell, ok = w.Doc("shell:" + shell.Shell) {
		out = append(out, shell)
	}
	return out
}

// inItself tells whether a shell would stand in itself, be it by way of others.
func (w *Workspace) inItself(d *screen.Document) bool {
	return d.Kind == screen.ShellDoc &&
		slices.ContainsFunc(w.Shells(d), func(s *screen.Document) bool { return s.ID == d.ID })
}
