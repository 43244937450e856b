package workspace

import (
	"fmt"
	"net/url"
	"slices"
	"strings"

	"ubiquant/core/sample"
)

func (w *Workspace) sourceStep(s Step, t *Taken) error {
	w.Bases, w.Sources = slices.Clone(w.Bases), slices.Clone(w.Sources)
	t.Data, t.Rules = true, true
	switch s.Do {
	case PutBase, DropBase:
		return w.baseStep(s, t)
	}
	if s.Source == nil {
		return fmt.Errorf("which source is not given")
	}
	next := *s.Source
	at := slices.IndexFunc(w.Sources, func(o sample.Source) bool { return o.Model == next.Model })
	if s.Do == DropSource {
		if at < 0 {
			return fmt.Errorf("%s has no source", next.Model)
		}
		w.Sources = without(
			w.Sources,
			at,
			t,
			func(old *sample.Source) Step { return Step{Do: PutSource, Source: old} },
		)
		return nil
	}
	if err := w.checkSource(&next); err != nil {
		return err
	}
	w.Sources = withOne(
		w.Sources,
		at,
		next,
		t,
		Step{Do: DropSource, Source: &sample.Source{Model: next.Model}},
		func(old *sample.Source) Step { return Step{Do: PutSource, Source: old} },
	)
	return nil
}

func (w *Workspace) baseStep(s Step, t *Taken) error {
	if s.Origin == nil {
		return fmt.Errorf("which address is not given")
	}
	b := *s.Origin
	at := slices.IndexFunc(w.Bases, func(o sample.Base) bool { return o.Name == b.Name })
	if s.Do == DropBase {
		if at < 0 {
			return fmt.Errorf("there is no address called %q", b.Name)
		}
		for _, o := range w.Sources {
			if o.Base == b.Name {
				return fmt.Errorf("%s is in use: the records of %s come from it", b.Name, o.Model)
			}
		}
		w.Bases = without(w.Bases, at, t, func(old *sample.Base) Step { return Step{Do: PutBase, Origin: old} })
		return nil
	}
	if err := checkBase(&b); err != nil {
		return err
	}
	w.Bases = withOne(
		w.Bases,
		at,
		b,
		t,
		Step{Do: DropBase, Origin: &sample.Base{Name: b.Name}},
		func(old *sample.Base) Step { return Step{Do: PutBase, Origin: old} },
	)
	return nil
}

func checkBase(b *sample.Base) error {
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

func (w *Workspace) checkSource(s *sample.Source) error {
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

// Fetched is what a source gave.
type Fetched struct {
	Status  string // see sample.Ready
	Records []sample.Record
}

// Source finds where the records of a model come from.
func (w *Workspace) Source(model string) (*sample.Source, *sample.Base, bool) {
	for i := range w.Sources {
		if s := &w.Sources[i]; s.Model == model {
			for j := range w.Bases {
				if w.Bases[j].Name == s.Base {
					return s, &w.Bases[j], true
				}
			}
		}
	}
	return nil, nil, false
}

// asked are the names of the controls that sources ask for.
func (w *Workspace) asked() []string {
	var out []string
	for i := range w.Sources {
		out = append(out, w.Sources[i].Parameters()...)
	}
	return out
}

// Sourced lists the models whose records have a source.
func (w *Workspace) Sourced() []string {
	out := make([]string, len(w.Sources))
	for i := range w.Sources {
		out[i] = w.Sources[i].Model
	}
	return out
}

// liveSet is the usual set with what sources gave in place of their models' records.
func (l *Live) liveSet(given map[string]Fetched) (*sample.Set, map[string]string) {
	usual := sample.Set{ID: "live", Name: "Live"}
	if len(l.W.Sets) > 0 {
		usual.Records = l.W.Sets[0].Records
	}
	states := map[string]string{}
	for model, f := range given {
		usual = with(usual, model, f.Records)
		states[model] = f.Status
	}
	usual = l.W.Queried(usual, l.Today)
	return &usual, states
}
