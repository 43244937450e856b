package model

import (
	"fmt"
	"slices"

	"ubiquant/core/audit"
	"ubiquant/core/jsonread"
	"ubiquant/core/kit"
	"ubiquant/core/picture"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/texts"
)

// Part is a section of a workspace beside its documents, by its key in the JSON form.
// It is what is stored, marked as changed and computed anew by itself.
type Part string

// The parts of a workspace.
const (
	Applications Part = "applications"
	Models       Part = "models"
	Queries      Part = "queries"
	Bases        Part = "bases"
	Sources      Part = "sources"
	Samples      Part = "samples"
	HouseRules   Part = "houseRules"
	RuleSettings Part = "ruleSettings"
	OwnRules     Part = "ownRules"
	LetStands    Part = "letStands"
	Assignments  Part = "assignments"
	Asks         Part = "asks"
	Answers      Part = "answers"
	Themes       Part = "themes"
	Icons        Part = "icons"
	Fonts        Part = "fonts"
	LeftOuts     Part = "leftOut"
	Corrections  Part = "corrections"
	Pictures     Part = "pictures"
	Plans        Part = "plans"
	Languages    Part = "languages"
	Translations Part = "translations"
	// BaseKit names the kit. In the JSON form it stands with the workspace's name.
	BaseKit Part = "kit"
	// Order is the order that the documents stand in. It has no key of its own in the
	// JSON form, where the documents stand in it.
	Order Part = "order"
)

// form is how a part is read, written and copied.
type form struct {
	part   Part
	apart  bool // written by whoever writes the whole
	always bool // written where it is empty, too
	empty  func(w *Workspace) bool
	read   func(w *Workspace, r *jsonread.Reader) error
	write  func(w *Workspace, out *screen.Writer)
	copy   func(w *Workspace)
	take   func(w, from *Workspace) // has what the other has
}

// list is the form of a part that is a list.
func list[T any](
	part Part,
	always bool,
	in func(w *Workspace) *[]T,
	read func(r *jsonread.Reader) (T, error),
	write func(out *screen.Writer, item *T),
) form {
	return form{
		part:   part,
		always: always,
		empty:  func(w *Workspace) bool { return len(*in(w)) == 0 },
		copy:   func(w *Workspace) { *in(w) = slices.Clone(*in(w)) },
		take:   func(w, from *Workspace) { *in(w) = *in(from) },
		read: func(w *Workspace, r *jsonread.Reader) error {
			return r.Array(func(int) error {
				item, err := read(r)
				*in(w) = append(*in(w), item)
				return err
			})
		},
		write: func(w *Workspace, out *screen.Writer) {
			out.Open('[')
			for i := range *in(w) {
				write(out, &(*in(w))[i])
			}
			out.Close(']')
		},
	}
}

// plain reads and writes values that are plain JSON.
func plain[T any](what string) (func(*jsonread.Reader) (T, error), func(*screen.Writer, *T)) {
	return func(r *jsonread.Reader) (v T, err error) {
		err = ReadPlain(r, &v, what)
		return v, err
	}, func(out *screen.Writer, v *T) { WritePlain(out, v) }
}

// forms are the parts in the order they are written in; those from Models on stand
// behind the documents.
var forms = func() []form {
	readQuery, writeQuery := plain[sample.Query]("a query")
	readBase, writeBase := plain[sample.Base]("an address")
	readPicture, writePicture := plain[picture.Kept]("a picture")
	readPlan, writePlan := plain[picture.Plan]("a plan")
	readAsk, writeAsk := plain[audit.Ask]("a question put to people")
	readLanguage, writeLanguage := plain[texts.Language]("a language")
	readSaid, writeSaid := plain[texts.Said]("a text in a language")
	readSource, writeSource := plain[sample.Source]("a source")
	return []form{
		list(Applications, true, func(w *Workspace) *[]App { return &w.Apps }, readApp, writeApp),
		list(Models, true, func(w *Workspace) *[]sample.Model { return &w.Models }, ReadModel, WriteModel),
		list(Queries, false, func(w *Workspace) *[]sample.Query { return &w.Queries }, readQuery, writeQuery),
		list(Bases, false, func(w *Workspace) *[]sample.Base { return &w.Bases }, readBase, writeBase),
		list(Sources, false, func(w *Workspace) *[]sample.Source { return &w.Sources }, readSource, writeSource),
		list(Samples, true, func(w *Workspace) *[]sample.Set { return &w.Sets }, ReadSet, WriteSet),
		list(HouseRules, true, func(w *Workspace) *[]audit.HouseRule { return &w.House }, ReadHouse, WriteHouse),
		list(RuleSettings, false, func(w *Workspace) *[]audit.Tuning { return &w.Tunings }, ReadTuning, WriteTuning),
		list(OwnRules, false, func(w *Workspace) *[]audit.OwnRule { return &w.OwnRules }, ReadOwnRule, WriteOwnRule),
		list(LetStands, true, func(w *Workspace) *[]audit.LetStand { return &w.Stands }, ReadStand, WriteStand),
		list(Assignments, false, func(w *Workspace) *[]audit.Assignment { return &w.Assignments }, ReadAssignment, WriteAssignment),
		list(Asks, false, func(w *Workspace) *[]audit.Ask { return &w.Asks }, readAsk, writeAsk),
		list(Answers, false, func(w *Workspace) *[]audit.Answer { return &w.Answers }, ReadAnswer, WriteAnswer),
		list(Themes, false, func(w *Workspace) *[]kit.Theme { return &w.Own.Themes }, ReadTheme, WriteTheme),
		list(Icons, false, func(w *Workspace) *[]kit.OwnIcon { return &w.Own.Icons }, readDrawnIcon, WriteIcon),
		list(Fonts, false, func(w *Workspace) *[]kit.Font { return &w.Own.Fonts }, ReadFont, WriteFont),
		list(LeftOuts, false, func(w *Workspace) *[]LeftOut { return &w.Own.LeftOut }, ReadLeftOut, WriteLeftOut),
		list(Corrections, false, func(w *Workspace) *[]kit.Correction { return &w.Own.Corrections }, ReadCorrection, WriteCorrection),
		list(Pictures, false, func(w *Workspace) *[]picture.Kept { return &w.Pictures }, readPicture, writePicture),
		list(Plans, false, func(w *Workspace) *[]picture.Plan { return &w.Plans }, readPlan, writePlan),
		list(Languages, false, func(w *Workspace) *[]texts.Language { return &w.Languages }, readLanguage, writeLanguage),
		list(Translations, false, func(w *Workspace) *[]texts.Said { return &w.Translations }, readSaid, writeSaid),
		{
			part: BaseKit, apart: true,
			empty: func(w *Workspace) bool { return w.Kit.Name == "" },
			copy:  func(*Workspace) {}, // a value
			take:  func(w, from *Workspace) { w.Kit = from.Kit },
			read: func(w *Workspace, r *jsonread.Reader) (err error) {
				w.Kit, err = ReadKitRef(r)
				return err
			},
			write: func(w *Workspace, out *screen.Writer) { WriteKitRef(out, w.Kit) },
		},
	}
}()

// Parts lists the parts in the order they are written in.
func Parts() []Part {
	out := make([]Part, len(forms), len(forms)+1)
	for i := range forms {
		out[i] = forms[i].part
	}
	return append(out, Order)
}

func formOf(p Part) (*form, bool) {
	i := slices.IndexFunc(forms, func(f form) bool { return f.part == p })
	if i < 0 {
		return nil, false
	}
	return &forms[i], true
}

// Copy copies a part, so that it can be written without changing the workspace that this
// one was made from.
func (w *Workspace) Copy(p Part) {
	if f, ok := formOf(p); ok {
		f.copy(w)
	} else {
		w.Docs = slices.Clone(w.Docs)
	}
}

// ReadPart reads a part into the workspace; known is false where there is none such.
func (w *Workspace) ReadPart(p Part, r *jsonread.Reader) (known bool, err error) {
	f, ok := formOf(p)
	if !ok {
		return false, nil
	}
	return true, f.read(w, r)
}

// Replace puts a part as it is kept by itself (see Stored) in place of what stood.
func (w *Workspace) Replace(p Part, src []byte) error {
	f, ok := formOf(p)
	if !ok {
		return fmt.Errorf("there is no part %q", p)
	}
	r, err := jsonread.New(src, jsonread.DefaultLimits)
	if err != nil {
		return fmt.Errorf("%s: %w", p, err)
	}
	var from Workspace
	if err := f.read(&from, r); err != nil {
		return fmt.Errorf("%s: %w", p, err)
	}
	f.take(w, &from)
	return nil
}

// WriteParts writes the parts with their keys: those before the documents, or those
// behind them.
func (w *Workspace) WriteParts(out *screen.Writer, behind bool, without ...Part) {
	for i := range forms {
		f := &forms[i]
		if f.apart || (f.part != Applications) != behind || !f.always && f.empty(w) {
			continue
		}
		out.Key(string(f.part))
		if slices.Contains(without, f.part) {
			out.Open('[')
			out.Close(']')
			continue
		}
		f.write(w, out)
	}
}

// Stored is a part as it is kept by itself.
func (w *Workspace) Stored(p Part) []byte {
	var out screen.Writer
	if f, ok := formOf(p); ok {
		f.write(w, &out)
		return out.B
	}
	out.Open('[')
	for _, d := range w.Docs {
		out.String(d.Address())
	}
	out.Close(']')
	return out.B
}

// Restore reads parts and documents as they are kept by themselves. Documents are by
// address; those that the order does not name stand behind the others.
func Restore(parts map[Part][]byte, docs map[string][]byte) (*Workspace, error) {
	w := &Workspace{}
	var order []string
	for p, src := range parts {
		r, err := jsonread.New(src, jsonread.DefaultLimits)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", p, err)
		}
		known := true
		if p == Order {
			order, err = r.Strings()
		} else {
			known, err = w.ReadPart(p, r)
		}
		if err == nil && !known {
			err = fmt.Errorf("this part is not known here; a newer version stored it")
		}
		if err != nil {
			return nil, fmt.Errorf("%s: %w", p, err)
		}
	}
	return w, w.restoreDocs(order, docs)
}

func (w *Workspace) restoreDocs(order []string, docs map[string][]byte) error {
	left := make(map[string]bool, len(docs))
	for key := range docs {
		left[key] = true
	}
	put := func(key string) error {
		delete(left, key)
		kind, _, _ := screen.ParseAddress(key)
		r, err := jsonread.New(docs[key], jsonread.DefaultLimits)
		if err != nil {
			return fmt.Errorf("%s: %w", key, err)
		}
		d, err := ReadDocument(r, kind)
		if err != nil {
			return fmt.Errorf("%s: %w", key, err)
		}
		w.Docs = append(w.Docs, d)
		return nil
	}
	for _, key := range order {
		if !left[key] {
			return fmt.Errorf("the order of the documents names %q, which is not there or stands twice", key)
		}
		if err := put(key); err != nil {
			return err
		}
	}
	rest := make([]string, 0, len(left))
	for key := range left {
		rest = append(rest, key)
	}
	slices.Sort(rest)
	for _, key := range rest {
		if err := put(key); err != nil {
			return err
		}
	}
	return nil
}
