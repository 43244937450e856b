package live

import (
	"fmt"
	"maps"
	"slices"
	"sync"

	"ubiquant/core/deliver"
	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/render"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/texts"
)

// Scene is what screens look like at one moment: a value that stays as it is while changes
// are taken, and may be used by many at once. What takes long (a page, a delivery) is made
// of it, so that nobody waits for another's rendering.
type Scene struct {
	W      *model.Workspace
	Kit    *kit.Kit
	Cat    *model.Catalog
	Today  string
	models map[string]*sample.Model
	cache  *resolve.Cache
	sets   *sampleSets
	spoken sync.Map // scenes in other languages, by language
	// missing are what languages lack of each document, in words; made when it is first asked for.
	missing     map[string][]string
	missingOnce sync.Once
}

// sampleSets are the sample sets with what is computed in them, made when they are first
// asked for.
type sampleSets struct {
	mu   sync.Mutex
	byID map[string]*sample.Set
}

const (
	manySet = "many"
	// ManyRecords is how many records of each model the set many has.
	ManyRecords = 500
)

// View says how a screen is looked at.
type View struct {
	Set     string // sample set; empty is the usual one
	NoShell bool
	State   string // of the document; empty is the usual one
	// Controls is what the screen's controls hold, by name; see resolve.Input.
	Controls map[string]any
	Whole    bool           // all that controls can bring, see resolve.Input
	Touched  []sample.Touch // what presses did to records
	// Params are what the parameters of the screen's route are.
	Params map[string]string
	// Live is what the sources gave, by model; nil shows a sample set.
	Live map[string]Fetched
}

// Resolve computes the concrete tree of a document in its shell.
func (s *Scene) Resolve(doc string, v View) (*resolve.Node, []resolve.Problem, error) {
	d, ok := s.W.Doc(doc)
	if !ok {
		return nil, nil, fmt.Errorf("there is no %s", doc)
	}
	root, lost := screen.In(d, v.State, s.Cat)
	n, problems := s.ResolveTree(d, root, v)
	for _, err := range lost {
		problems = append(
			problems,
			resolve.Problem{Element: d.Root.ID, Message: "the state " + v.State + ": " + err.Error()},
		)
	}
	return n, problems, nil
}

// ResolveTree is Resolve with another tree in place of the document's own.
func (s *Scene) ResolveTree(d *screen.Document, root *screen.Element, v View) (*resolve.Node, []resolve.Problem) {
	if state, ok := d.State(v.State); ok && v.Set == "" {
		v.Set = state.Set
	}
	in := resolve.Input{
		Screen:   root,
		Route:    d.Route,
		Catalog:  s.Cat,
		Piece:    s.Piece,
		Models:   s.models,
		Today:    s.Today,
		Cache:    s.cache,
		Set:      s.SampleSet(v.Set),
		Controls: v.Controls,
		Whole:    v.Whole,
		Params:   v.Params,
		Sourced:  s.W.Sourced(),
		Asked:    s.W.Asked(),
	}
	if v.Live != nil {
		in.Set, in.Sources = s.liveSet(v.Live)
	}
	if len(v.Touched) > 0 && in.Set != nil {
		list := slices.Clone(v.Touched)
		for i, t := range list {
			if m := s.W.ModelMap()[t.List]; t.Add && m != nil {
				list[i], _ = t.Taken(m) // what could not be taken was told when it was sent
			}
		}
		touched := s.W.Queried(in.Set.Touched(list), s.Today)
		in.Set = &touched
	}
	if !v.NoShell {
		for _, shell := range s.W.Shells(d) {
			in.Shells = append(in.Shells, shell.Root)
		}
	}
	return resolve.Resolve(in)
}

// Params are what the parameters of a screen's route are where nothing else is said: those
// of the first record that it would show by them.
func (s *Scene) Params(d *screen.Document) map[string]string {
	return resolve.Params(s.input(d))
}

func (s *Scene) input(d *screen.Document) resolve.Input {
	return resolve.Input{
		Screen: d.Root, Route: d.Route, Catalog: s.Cat, Models: s.models, Today: s.Today, Cache: s.cache, Set: s.SampleSet(""),
	}
}

// SampleSet is a sample set by its id, kept or made by itself; the empty id is the
// usual one. nil where there is none.
func (s *Scene) SampleSet(id string) *sample.Set {
	s.sets.mu.Lock()
	defer s.sets.mu.Unlock()
	byID := s.sets.byID
	if byID == nil {
		byID = map[string]*sample.Set{}
		s.sets.byID = byID
		for _, set := range s.W.AllSets() {
			set = s.W.Queried(set, s.Today)
			byID[set.ID] = &set
		}
		if len(s.W.Sets) > 0 {
			byID[""] = byID[s.W.Sets[0].ID]
		}
	}
	if _, own := byID[manySet]; id == manySet && !own {
		// Made when it is first looked at; a field that cannot be made leaves it empty.
		many, _ := sample.Many(s.W.Models, ManyRecords, s.Today)
		many = s.W.Queried(many, s.Today)
		byID[manySet] = &many
	}
	return byID[id]
}

// Sets lists all sample sets, those kept first. That of many records is without them:
// they are made when SampleSet is asked for it.
func (s *Scene) Sets() []sample.Set {
	out := s.W.AllSets()
	if !slices.ContainsFunc(out, func(o sample.Set) bool { return o.ID == manySet }) {
		out = append(out, sample.Set{ID: manySet, Name: "Many"})
	}
	return out
}

// Models are the models by id together with what the queries give.
func (s *Scene) Models() map[string]*sample.Model { return s.models }

// Piece finds a piece; nil where there is none.
func (s *Scene) Piece(id string) *screen.Document {
	d, ok := s.W.Doc("piece:" + id)
	if !ok {
		return nil
	}
	return d
}

// Page renders a document.
func (s *Scene) Page(doc string, v View) (render.Page, []resolve.Problem, error) {
	n, problems, err := s.Resolve(doc, v)
	if err != nil {
		return render.Page{}, nil, err
	}
	return render.HTML(s.Kit, n), problems, nil
}

// DeliverInput gathers what a delivery of screens is made of; no ids means all
// screens of the application.
func (s *Scene) DeliverInput(app string, ids []string, kitFiles map[string][]byte) (deliver.Input, error) {
	if slices.ContainsFunc(s.Kit.Components, s.Kit.Outlined) { // there is no code of these
		s = &Scene{
			W: s.W, Kit: s.Kit, Cat: s.Cat.Delivered(), Today: s.Today,
			models: s.models, cache: resolve.NewCache(), sets: s.sets,
		}
	}
	if err := unsigned(s.W, ids); err != nil {
		return deliver.Input{}, err
	}
	queries := map[string]*sample.Query{}
	for i := range s.W.Queries {
		queries[s.W.Queries[i].ID] = &s.W.Queries[i]
	}
	sources := map[string]*sample.Source{}
	for i := range s.W.Sources {
		sources[s.W.Sources[i].Model] = &s.W.Sources[i]
	}
	in := deliver.Input{
		Name:     app,
		Queries:  queries,
		Sources:  sources,
		Bases:    s.W.Bases,
		Shells:   map[string]*screen.Document{},
		Pieces:   map[string]*screen.Document{},
		Models:   s.models,
		Set:      s.SampleSet(""),
		Kit:      s.Kit,
		Cat:      s.Cat,
		KitFiles: kitFiles,
		Today:    s.Today,
		Fonts:    s.W.Own.Fonts,
		Pictures: s.W.ShownPictures(),
		Written:  s.W.Written(),
	}
	for _, t := range s.W.Own.Themes {
		in.Themes = append(in.Themes, t.ID)
	}
	for _, a := range s.W.Apps {
		if a.ID == app || app == "" {
			app, in.Name = a.ID, a.Name
			break
		}
	}
	if in.Set == nil {
		in.Set = &sample.Set{}
	}
	inCode := 0
	for _, d := range s.W.Docs {
		if d.Removed {
			continue
		}
		if d.Source != "" && d.Kind == screen.ScreenDoc {
			if slices.Contains(ids, d.ID) {
				return in, fmt.Errorf("%s was read from %s: it is there already", d.Title, d.Source)
			}
			if d.App == app {
				inCode++
			}
			continue
		}
		switch d.Kind {
		case screen.PieceDoc:
			in.Pieces[d.ID] = d
		case screen.ScreenDoc:
			if d.App == app && (len(ids) == 0 || slices.Contains(ids, d.ID)) {
				in.Screens = append(in.Screens, d)
				for _, shell := range s.W.Shells(d) {
					in.Shells[shell.ID] = shell
				}
			}
		}
	}
	for _, id := range ids {
		if !slices.ContainsFunc(in.Screens, func(d *screen.Document) bool { return d.ID == id }) {
			return in, fmt.Errorf("there is no screen %q in the application %q", id, app)
		}
	}
	if len(in.Screens) == 0 && inCode > 0 {
		return in, fmt.Errorf("the %d screens of the application %q were read from code: they are there already", inCode, app)
	}
	if len(in.Screens) == 0 {
		return in, fmt.Errorf("the application %q has no screens", app)
	}
	s.bind(&in)
	return in, nil
}

// WithTexts has a delivery keep its texts in files, one a language that they are in.
func (s *Scene) WithTexts(in *deliver.Input) {
	from := s.W.Texts(s.Cat)
	from.Docs = slices.Clone(in.Screens)
	for _, list := range []map[string]*screen.Document{in.Shells, in.Pieces} {
		for _, id := range slices.Sorted(maps.Keys(list)) {
			from.Docs = append(from.Docs, list[id])
		}
	}
	t := &deliver.Texts{Written: s.W.Written(), Others: s.W.Translated(), Is: map[string]map[string]string{}}
	var left []texts.Left
	t.List, left = texts.List(from)
	note := func(format string, args ...any) {
		t.Notes = append(t.Notes, deliver.Note{Message: fmt.Sprintf(format, args...)})
	}
	if len(left) > 0 && len(t.Others) > 0 {
		note("%d things that people read are no texts of their own, and are the same in each language; Texts lists them", len(left))
	}
	for _, language := range t.Others {
		t.Is[language] = map[string]string{}
		missing := 0
		table := texts.Beside(t.List, language, s.W.Translations)
		for i := range t.List {
			said := table.Of(&t.List[i])
			if said == nil {
				missing++
				continue
			}
			if _, _, err := t.List[i].Read(said.Is); err != nil {
				note("%s is shown as it is written, in %s as well: %s", t.List[i].Key, texts.Name(language), err)
				continue
			}
			t.Is[language][t.List[i].Key] = said.Is
		}
		if missing > 0 {
			note("in %s, %d of %d texts are not said, and are shown as they are written", texts.Name(language), missing, len(t.List))
		}
	}
	in.Texts = t
	in.In = func(language string) *deliver.Input {
		there, out := s.In(language), *in
		out.Written, out.Texts, out.Cat = language, nil, there.Cat
		out.Screens, out.Shells, out.Pieces = slices.Clone(in.Screens), maps.Clone(in.Shells), maps.Clone(in.Pieces)
		for i, d := range out.Screens {
			out.Screens[i], _ = there.W.Doc(d.Address())
		}
		for _, list := range []map[string]*screen.Document{out.Shells, out.Pieces} {
			for id, d := range list {
				list[id], _ = there.W.Doc(d.Address())
			}
		}
		there.bind(&out)
		return &out
	}
}

// In is what screens look like in a language.
func (s *Scene) In(language string) *Scene {
	if made, ok := s.spoken.Load(language); ok {
		return made.(*Scene)
	}
	w, _ := s.W.In(language, s.Cat)
	if w == s.W {
		return s
	}
	made, _ := s.spoken.LoadOrStore(language, &Scene{
		W: w, Kit: s.Kit, Cat: s.Cat.For(w), Today: s.Today,
		models: s.models, cache: resolve.NewCache(), sets: s.sets,
	})
	return made.(*Scene)
}

// bind gives a delivery the ways to render its screens.
func (s *Scene) bind(in *deliver.Input) {
	in.Page = func(d *screen.Document, state string, params map[string]string) string {
		n, _ := s.ResolveTree(d, in.Root(d, state), View{State: state, Whole: true, Params: params})
		return render.Delivered(s.Kit, n)
	}
	in.Records = func(d *screen.Document) (string, []string) {
		return resolve.ShownBy(s.input(d))
	}
	in.Root = func(d *screen.Document, state string) *screen.Element {
		root, _ := screen.In(d, state, s.Cat)
		return resolve.Unfolded(root, s.Cat)
	}
}

// liveSet is the usual set with what sources gave in place of their models' records.
func (s *Scene) liveSet(given map[string]Fetched) (*sample.Set, map[string]string) {
	usual := sample.Set{ID: "live", Name: "Live"}
	if len(s.W.Sets) > 0 {
		usual.Records = s.W.Sets[0].Records
	}
	states := map[string]string{}
	for model, f := range given {
		usual = usual.With(model, f.Records)
		states[model] = f.Status
	}
	usual = s.W.Queried(usual, s.Today)
	return &usual, states
}

// On is what screens would look like on another kit, with the documents that differ there.
func (s *Scene) On(bare *kit.Kit, docs []model.Carried) *Scene {
	w := *s.W
	w.Docs = slices.Clone(s.W.Docs)
	for _, c := range docs {
		i := slices.IndexFunc(w.Docs, func(d *screen.Document) bool { return d.Address() == c.Doc })
		if i < 0 {
			continue
		}
		d := *w.Docs[i]
		d.Root, d.States = c.Root, c.States
		w.Docs[i] = &d
	}
	k, _ := w.Own.Dress(bare) // what does not fit is told once the kit is taken
	return &Scene{
		W: &w, Kit: k, Cat: model.NewCatalog(k, &w), Today: s.Today,
		models: s.models, cache: resolve.NewCache(), sets: s.sets,
	}
}
