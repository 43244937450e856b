// Package model is what a workspace is: applications, shells, screens, pieces, models,
// samples, what the team settled and what it adds to the kit, as one value, with how
// each part is checked, read and written. Changing it makes a new value; see package
// change.
package model

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/expr"
	"ubiquant/core/picture"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/texts"
)

// App is an application: a set of screens on routes.
type App struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	// Packages are what the application has installed, by name with the version
	// asked for; nil where nobody said.
	Packages map[string]string `json:"packages,omitempty"`
	// Paths lead somewhere though no screen is on them: code sends one on from there, or shows what is
	// not read. Only of applications that were read from code.
	Paths []string `json:"paths,omitempty"`
}

// KitRef names the kit a workspace is built on.
type KitRef struct {
	Name    string `json:"name"`
	Version string `json:"version"`
	// Hash is the address of its content; empty where the name and the version say which.
	Hash string `json:"hash,omitempty"`
}

// Carried is a document's tree and states as they are on another kit.
type Carried struct {
	Doc    string // its address
	Root   *screen.Element
	States []screen.State
}

// Workspace is the whole, as a value.
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
	// OwnRules are those that the team wrote.
	OwnRules []audit.OwnRule
	// Assignments are what somebody is to see to.
	Assignments []audit.Assignment
	// Asks are the open questions that were put to people, Answers what people say to them.
	Asks    []audit.Ask
	Answers []audit.Answer
	// Tunings are the rules that the team holds otherwise than they come.
	Tunings []audit.Tuning
	Own     Own // what the team adds to the kit
	// Pictures are those that screens are planned from, Plans what is to become of them, one
	// a screen at most.
	Pictures []picture.Kept
	Plans    []picture.Plan
	// Languages are those that the texts are in, Translations what they are in those that they
	// are not written in.
	Languages    []texts.Language
	Translations []texts.Said
}

// NewWorkspace is a workspace to begin with: one application, and a shell with nothing but
// the place for its screens.
func NewWorkspace(name string, ref KitRef) *Workspace {
	return &Workspace{
		Name: name, Kit: ref, Apps: []App{{ID: "app", Name: "Application"}},
		Docs: []*screen.Document{{
			Kind: screen.ShellDoc, ID: "plain", Title: "Plain", App: "app", Revision: 1,
			Root: &screen.Element{ID: "root", Type: "stack", Children: []*screen.Element{{ID: "outlet", Type: "outlet"}}},
		}},
	}
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

// Seen is what the records of all stored sets show of each model.
func (w *Workspace) Seen() map[string]*sample.Seen {
	out := map[string]*sample.Seen{}
	for i := range w.Models {
		m := &w.Models[i]
		var records []sample.Record
		for j := range w.Sets {
			records = append(records, w.Sets[j].Records[m.ID]...)
		}
		if seen := sample.See(m, records); seen != nil {
			out[m.ID] = seen
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
	for i := range w.Apps {
		if a := &w.Apps[i]; len(a.Paths) > 0 {
			out[a.ID] = map[string]bool{}
			for _, path := range a.Paths {
				out[a.ID][path] = true
			}
		}
	}
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

// Shells lists the shells around a document, the innermost first.
func (w *Workspace) Shells(d *screen.Document) []*screen.Document {
	var out []*screen.Document
	for shell, ok := w.Doc("shell:" + d.Shell); ok && d.Shell != "" && !slices.Contains(out, shell); shell, ok = w.Doc("shell:" + shell.Shell) {
		out = append(out, shell)
	}
	return out
}

// InItself tells whether a shell would stand in itself, be it by way of others.
func (w *Workspace) InItself(d *screen.Document) bool {
	return d.Kind == screen.ShellDoc &&
		slices.ContainsFunc(w.Shells(d), func(s *screen.Document) bool { return s.ID == d.ID })
}

// Lists are the models by id together with what the queries give.
func (w *Workspace) Lists() map[string]*sample.Model {
	out := w.ModelMap()
	for i := range w.Queries {
		if m, err := expr.QueryModel(&w.Queries[i], w.ModelMap()); err == nil {
			out[m.ID] = m
		}
	}
	return out
}

// Queried is a set with what is computed in its records, and those of the queries beside
// its own.
func (w *Workspace) Queried(s sample.Set, today string) sample.Set {
	s.Records, _ = expr.Computed(w.ModelMap(), s.Records, today) // told where the records are looked at
	if len(w.Queries) == 0 {
		return s
	}
	own := s.Records
	s.Records = maps.Clone(own)
	if s.Records == nil {
		s.Records = map[string][]sample.Record{}
	}
	for i := range w.Queries {
		// One that fails for these records gives none; its preview says why.
		s.Records[w.Queries[i].ID], _ = expr.RunQuery(&w.Queries[i], w.ModelMap(), own, today)
	}
	return s
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

// Asked are the names of the controls that sources ask for.
func (w *Workspace) Asked() []string {
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

// Picture finds a picture by its id.
func (w *Workspace) Picture(id string) (*picture.Kept, bool) {
	i := slices.IndexFunc(w.Pictures, func(k picture.Kept) bool { return k.ID == id })
	if i < 0 {
		return nil, false
	}
	return &w.Pictures[i], true
}

// Plan finds the plan of a screen.
func (w *Workspace) Plan(screen string) (*picture.Plan, bool) {
	i := slices.IndexFunc(w.Plans, func(p picture.Plan) bool { return p.Screen == screen })
	if i < 0 {
		return nil, false
	}
	return &w.Plans[i], true
}

// CheckPlan says what is wrong with a plan for this workspace.
func (w *Workspace) CheckPlan(p *picture.Plan) error {
	if _, ok := w.Doc("screen:" + p.Screen); !ok {
		return fmt.Errorf("there is no screen %s to plan", p.Screen)
	}
	of, ok := w.Picture(p.Picture)
	if !ok {
		return fmt.Errorf("there is no picture %s", p.Picture)
	}
	return p.Check(of)
}
