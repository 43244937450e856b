package model

import (
	"bytes"
	"encoding/json"
	"fmt"
	"maps"
	"slices"

	"ubiquant/core/audit"
	"ubiquant/core/audit/rules"
	"ubiquant/core/jsonread"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// stringsCodec reads and writes values that hold texts alone.
func stringsCodec[T any](
	fields func(*T) map[string]*string,
	order ...string,
) (func(*jsonread.Reader) (T, error), func(*screen.Writer, *T)) {
	return func(r *jsonread.Reader) (v T, err error) {
		err = readStrings(r, fields(&v))
		return v, err
	}, func(out *screen.Writer, v *T) { writeStrings(out, fields(v), order...) }
}

// How house rules, what is let stand and entries left out are read and written.
var (
	ReadHouse, WriteHouse = stringsCodec(houseFields, "id", "spot", "words", "where", "prop", "value", "reason", "by", "when")
	ReadStand, WriteStand = stringsCodec(standFields, "id", "key", "scope", "spot", "reason", "by", "when", "until")

	ReadOwnRule, WriteOwnRule = stringsCodec(
		ownRuleFields,
		"id", "title", "of", "where", "must", "message", "severity", "prop", "value", "why", "good", "bad", "by", "when",
	)

	ReadAssignment, WriteAssignment = stringsCodec(assignmentFields, "id", "key", "to", "note", "due", "by", "when")

	ReadAnswer, WriteAnswer = stringsCodec(answerFields, "id", "key", "value", "words", "why", "by", "when")

	ReadLeftOut, WriteLeftOut = stringsCodec(leftFields, "tag", "reason", "by", "when")

	ReadCorrection, WriteCorrection = stringsCodec(correctionFields, "tag", "family", "role", "label", "by", "when")
)

func readApp(r *jsonread.Reader) (a App, err error) {
	err = r.Object(func(key string) error {
		var err error
		switch key {
		case "id":
			a.ID, err = r.String()
		case "name":
			a.Name, err = r.String()
		case "packages":
			a.Packages, err = ReadPackages(r)
		case "paths":
			a.Paths, err = r.Strings()
		default:
			err = r.Unknown(key, "id", "name", "packages", "paths")
		}
		return err
	})
	return a, err
}

func writeApp(out *screen.Writer, a *App) {
	out.Open('{')
	out.Field("id", a.ID)
	out.Field("name", a.Name)
	if a.Packages != nil {
		out.Key("packages")
		WritePackages(out, a.Packages)
	}
	if len(a.Paths) > 0 {
		out.Key("paths")
		out.Open('[')
		for _, path := range a.Paths {
			out.String(path)
		}
		out.Close(']')
	}
	out.Close('}')
}

func houseFields(h *audit.HouseRule) map[string]*string {
	return map[string]*string{
		"id":     &h.ID,
		"spot":   &h.Spot,
		"words":  &h.Words,
		"where":  &h.Where,
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
		"scope":  (*string)(&s.Scope),
		"spot":   &s.Spot,
		"reason": &s.Reason,
		"by":     &s.By,
		"when":   &s.When,
		"until":  &s.Until,
	}
}

func ownRuleFields(o *audit.OwnRule) map[string]*string {
	return map[string]*string{
		"id":       &o.ID,
		"title":    &o.Title,
		"of":       &o.Of,
		"where":    &o.Where,
		"must":     &o.Must,
		"message":  &o.Message,
		"severity": (*string)(&o.Severity),
		"prop":     &o.Prop,
		"value":    &o.Value,
		"why":      &o.Why,
		"good":     &o.Good,
		"bad":      &o.Bad,
		"by":       &o.By,
		"when":     &o.When,
	}
}

func answerFields(a *audit.Answer) map[string]*string {
	return map[string]*string{
		"id":    &a.ID,
		"key":   &a.Key,
		"value": &a.Value,
		"words": &a.Words,
		"why":   &a.Why,
		"by":    &a.By,
		"when":  &a.When,
	}
}

func assignmentFields(a *audit.Assignment) map[string]*string {
	return map[string]*string{
		"id":   &a.ID,
		"key":  &a.Key,
		"to":   &a.To,
		"note": &a.Note,
		"due":  &a.Due,
		"by":   &a.By,
		"when": &a.When,
	}
}

// ReadTuning reads how a rule is held. The rule and its settings must be known, so
// that a misspelt one does not pass for set.
func ReadTuning(r *jsonread.Reader) (audit.Tuning, error) {
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

func WriteTuning(out *screen.Writer, t *audit.Tuning) {
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
		"source":      &d.Source,
		"made":        &d.Made,
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
			d.Signed, err = ReadSignOff(r)
		case "props":
			err = r.Array(func(int) error {
				var p screen.PieceProp
				err := readStrings(r, map[string]*string{"name": &p.Name, "element": &p.Element, "prop": &p.Prop})
				d.Props = append(d.Props, p)
				return err
			})
		case "states":
			err = r.Array(func(int) error {
				s, err := ReadState(r)
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

func ReadModel(r *jsonread.Reader) (m sample.Model, err error) {
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
			err = ReadPlain(r, &f.Meanings, "what values mean")
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

func ReadSet(r *jsonread.Reader) (s sample.Set, err error) {
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

func ReadPackages(r *jsonread.Reader) (map[string]string, error) {
	out := map[string]string{}
	err := r.Object(func(name string) error {
		version, err := r.String()
		out[name] = version
		return err
	})
	return out, err
}

func WritePackages(out *screen.Writer, packages map[string]string) {
	out.Open('{')
	for _, name := range slices.Sorted(maps.Keys(packages)) {
		out.Key(name)
		out.String(packages[name])
	}
	out.Close('}')
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
	out.Field("source", d.Source)
	out.Field("made", d.Made)
	out.Flag("removed", d.Removed)
	out.Int("revision", d.Revision)
	if d.Signed != nil {
		out.Key("signed")
		WriteSignOff(out, d.Signed)
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
			WriteState(out, &d.States[i])
		}
		out.Close(']')
	}
	out.Key("root")
	out.Element(d.Root)
	out.Close('}')
}

func WriteState(out *screen.Writer, s *screen.State) {
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

func ReadState(r *jsonread.Reader) (s screen.State, err error) {
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

func WriteModel(out *screen.Writer, m *sample.Model) {
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
			out.Key("maker")
			WritePlain(out, f.Maker)
		}
		if len(f.Meanings) > 0 {
			out.Key("meanings")
			WritePlain(out, f.Meanings)
		}
		out.Close('}')
	}
	out.Close(']')
	out.Close('}')
}

func WriteSet(out *screen.Writer, s *sample.Set) {
	out.Open('{')
	out.Field("id", s.ID)
	out.Field("name", s.Name)
	out.Key("records")
	out.Open('{')
	for _, id := range slices.Sorted(maps.Keys(s.Records)) {
		out.Key(id)
		out.Open('[')
		for _, rec := range s.Records[id] {
			WriteRecord(out, rec)
		}
		out.Close(']')
	}
	out.Close('}')
	out.Close('}')
}

func WriteRecord(out *screen.Writer, rec sample.Record) {
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

func readMaker(r *jsonread.Reader) (*sample.Maker, error) {
	m := &sample.Maker{}
	return m, ReadPlain(r, m, "how values are made")
}

// ReadPlain reads what is written as plain JSON; what says what it is.
func ReadPlain(r *jsonread.Reader, into any, what string) error {
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

// WritePlain writes what ReadPlain reads.
func WritePlain(out *screen.Writer, v any) {
	b, _ := json.Marshal(v) // numbers and texts encode
	out.Raw(string(b))
}

// ReadSignOff reads who signed a document off, when and at which revision.
func ReadSignOff(r *jsonread.Reader) (*screen.SignOff, error) {
	s := &screen.SignOff{}
	return s, r.Object(func(key string) error {
		var err error
		switch key {
		case "by":
			s.By, err = r.String()
		case "when":
			s.When, err = r.String()
		case "revision":
			s.Revision, err = r.Int()
		default:
			err = r.Unknown(key, "by", "when", "revision")
		}
		return err
	})
}

// WriteSignOff writes what ReadSignOff reads.
func WriteSignOff(out *screen.Writer, s *screen.SignOff) {
	out.Open('{')
	out.Field("by", s.By)
	out.Field("when", s.When)
	out.Int("revision", s.Revision)
	out.Close('}')
}

// ReadKitRef reads the name and version of the kit that a workspace is built on.
func ReadKitRef(r *jsonread.Reader) (k KitRef, err error) {
	err = readStrings(r, map[string]*string{"name": &k.Name, "version": &k.Version, "hash": &k.Hash})
	return k, err
}

// WriteKitRef writes what ReadKitRef reads.
func WriteKitRef(out *screen.Writer, k KitRef) {
	writeStrings(out, map[string]*string{"name": &k.Name, "version": &k.Version, "hash": &k.Hash}, "name", "version", "hash")
}

// ParseModel reads a model that stands by itself.
func ParseModel(src []byte) (*sample.Model, error) {
	r, err := jsonread.New(src, jsonread.DefaultLimits)
	if err != nil {
		return nil, err
	}
	m, err := ReadModel(r)
	if err == nil {
		err = r.End()
	}
	return &m, err
}
