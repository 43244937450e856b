// Package live is a workspace with everything computed from it: the catalog, the index of
// every use, norms and findings, kept up to date by difference as changes are taken, and
// what screens look like.
package live

import (
	"errors"
	"reflect"
	"runtime"
	"slices"
	"strings"
	"sync"

	"ubiquant/core/audit"
	"ubiquant/core/audit/own"
	"ubiquant/core/audit/rules"
	"ubiquant/core/change"
	"ubiquant/core/deliver"
	"ubiquant/core/kit"
	"ubiquant/core/model"
	"ubiquant/core/norm"
	"ubiquant/core/picture"
	"ubiquant/core/render"
	"ubiquant/core/resolve"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// Live is a workspace with everything computed from it, kept up to date by
// difference. It is not safe for concurrent use; its owner locks.
type Live struct {
	W      *model.Workspace
	Kit    *kit.Kit
	Cat    *model.Catalog
	Index  *usage.Index
	Norms  *norm.Norms
	Engine *audit.Engine
	Today  string
	// Kits finds a kit that a change names; nil where changes name none.
	Kits     func(ref model.KitRef) (*kit.Kit, error)
	Unfit    []error // what of the team's own no longer fits the kit
	models   map[string]*sample.Model
	cache    *resolve.Cache
	history  map[string][]pastStep
	sets     *sampleSets
	scene    *Scene // as of the last change; nil where it is to be made
	measured measured
}

type pastStep struct {
	rev  int // revision the edit led to
	edit change.PastEdit
}

// historyLength bounds how far back an edit can be rebased.
const historyLength = 200

// Open computes everything from a workspace. today is a date, YYYY-MM-DD.
func Open(w *model.Workspace, k *kit.Kit, today string) *Live {
	// The kit as the team has it is one value that changes in place: catalog, index
	// and engine hold on to it.
	l := &Live{W: w, Kit: new(kit.Kit), Today: today, history: map[string][]pastStep{}}
	l.dress(k.Bare())
	l.Cat = model.NewCatalog(l.Kit, w)
	l.build()
	return l
}

// build counts and checks everything from the beginning.
func (l *Live) build() {
	l.Index = usage.New(l.Cat)
	l.Engine = audit.NewEngine(l.Kit, l.Cat, rules.All())
	l.context()
	// While one document is counted, those before are checked, and what they decide is read.
	l.Norms = norm.Start(l.Index, l.Cat, l.models)
	checks, reads := make(chan *usage.Doc, 256), make(chan *usage.Doc, 256)
	var wg sync.WaitGroup
	wg.Go(func() {
		for d := range checks {
			l.Engine.Put(d)
		}
	})
	wg.Go(func() {
		for d := range reads {
			l.Norms.Take(d)
		}
	})
	for _, d := range l.W.Docs {
		l.Index.Put(d)
		if doc, ok := l.Index.Find(d.Kind, d.ID); ok {
			checks <- doc
			reads <- doc
		}
	}
	close(checks)
	close(reads)
	wg.Wait()
	l.Norms.Done()
	l.settle()
}

// repiece brings the pieces of the catalog up to date; the index and engine hold on
// to it. It reports false where what is counted of a piece became another, so that
// everything has to be counted anew.
func (l *Live) repiece(docs []string) bool {
	l.Cat.Renew(l.W)
	for _, doc := range docs {
		if strings.HasPrefix(doc, "piece:") && !l.Index.Redefine(doc) {
			return false
		}
	}
	for _, doc := range docs {
		if !strings.HasPrefix(doc, "piece:") {
			continue
		}
		for _, d := range l.Index.Docs() {
			if usesPiece(d.Document, doc) {
				l.Engine.Put(d)
			}
		}
	}
	return true
}

// FindKit finds a kit that a change names.
func (l *Live) FindKit(ref model.KitRef) (*kit.Kit, error) {
	if l.Kits == nil {
		return nil, errors.New("no other kit is known here")
	}
	return l.Kits(ref)
}

// rekit computes everything anew on the kit that the workspace names now. It was found
// while the change was applied.
func (l *Live) rekit() {
	bare, err := l.FindKit(l.W.Kit)
	if err != nil {
		return // the kit that was stays
	}
	l.dress(bare)
	l.Cat.Renew(l.W)
	l.build()
	l.Norms.Update()
}

func (l *Live) dress(bare *kit.Kit) {
	var k *kit.Kit
	k, l.Unfit = l.W.Own.Dress(bare)
	*l.Kit = *k
}

func (l *Live) context() {
	l.models = l.W.Lists()
	l.cache = resolve.NewCache()
	l.sets = &sampleSets{}
	l.Engine.Sourced, l.Engine.Seen = l.W.Sourced(), l.W.Seen()
	l.Engine.Pictures = map[string]*picture.Kept{}
	for i := range l.W.Pictures {
		l.Engine.Pictures[l.W.Pictures[i].ID] = &l.W.Pictures[i]
	}
	l.Engine.Own = nil
	for i := range l.W.OwnRules {
		// Those kept are checked as they are put.
		if r, err := own.Compile(&l.W.OwnRules[i]); err == nil {
			l.Engine.Own = append(l.Engine.Own, r)
		}
	}
	l.Engine.Context(l.models, l.W.House, l.W.Routes(), l.W.Tunings)
}

func (l *Live) settle() {
	list := make([]norm.Settled, len(l.W.House))
	for i, h := range l.W.House {
		list[i] = norm.Settled{Spot: h.Spot, Where: h.Where, Prop: h.Prop}
	}
	l.Norms.Settle(list)
}

func (l *Live) audit(key string) {
	kind, id, _ := strings.Cut(key, ":")
	if d, ok := l.Index.Find(screen.DocKind(kind), id); ok {
		l.Engine.Put(d)
	} else {
		l.Engine.Drop(key)
	}
}

// Since lists what happened to a document after a revision.
func (l *Live) Since(doc string, rev int) ([]change.PastEdit, bool) {
	steps := l.history[doc]
	d, ok := l.W.Doc(doc)
	if !ok || len(steps) < d.Revision-rev {
		return nil, false
	}
	out := make([]change.PastEdit, 0, d.Revision-rev)
	for _, s := range steps {
		if s.rev > rev {
			out = append(out, s.edit)
		}
	}
	return out, len(out) == d.Revision-rev
}

// Prepare gives a change as it is taken here: a usual state that is new starts as the kit
// can show it, and what follows elsewhere comes along. lost is what cannot follow.
func (l *Live) Prepare(c change.Change) (out change.Change, lost []change.Lost, err error) {
	c.Steps = slices.Clone(c.Steps)
	for i, s := range c.Steps {
		put, ok := s.(*change.PutState)
		if !ok || len(put.State.Edits) > 0 || put.State.Set != "" {
			continue
		}
		d, ok := l.W.Doc(put.Doc)
		if !ok {
			continue
		}
		if _, known := d.State(put.State.Name); known {
			continue
		}
		proposed, err := l.ProposeState(put.Doc, put.State.Name)
		if err != nil {
			return c, nil, &change.StepError{Number: i + 1, Of: len(c.Steps), Step: s, Err: err}
		}
		c.Steps[i] = &change.PutState{Doc: put.Doc, State: proposed}
	}
	out, lost = change.Follow(l.W, c, l.Cat, l)
	return out, lost, nil
}

// Take applies a change and brings everything computed up to date.
func (l *Live) Take(c change.Change) (change.Taken, error) {
	next, t, err := change.Apply(l.W, c, l.Cat, l)
	if err != nil {
		return t, err
	}
	l.Adopt(next, t)
	return t, nil
}

// Adopt makes the outcome of Apply current. It is apart from Take so that a
// server can store the change first.
func (l *Live) Adopt(next *model.Workspace, t change.Taken) {
	l.W = next
	l.scene = nil
	l.outdate(t.Docs, t.Wrote(drawing...))
	pieces := false
	for doc, edits := range t.Edits {
		d, ok := next.Doc(doc)
		if !ok {
			continue
		}
		rev := d.Revision - len(edits)
		for _, e := range edits {
			rev++
			l.history[doc] = append(l.history[doc], pastStep{rev, e})
		}
		if extra := len(l.history[doc]) - historyLength; extra > 0 {
			l.history[doc] = slices.Clone(l.history[doc][extra:])
		}
	}
	for _, doc := range t.Docs {
		pieces = pieces || strings.HasPrefix(doc, "piece:")
	}
	if t.Wrote(model.BaseKit) {
		l.rekit()
		return
	}
	if t.Wrote(model.Corrections) { // what counts as an action or a control decides every spot
		l.dress(l.Kit.Bare())
		l.Cat.Renew(l.W)
		l.build()
		l.Norms.Update()
		return
	}
	if t.Wrote(dressing...) {
		l.dress(l.Kit.Bare())
	}
	if pieces && !l.repiece(t.Docs) {
		l.build()
		l.Norms.Update()
		return
	}
	all := t.Routes || t.Wrote(judging...) || t.Wrote(model.Samples) && !reflect.DeepEqual(l.W.Seen(), l.Engine.Seen)
	switch {
	case all:
		l.context()
	case t.Wrote(model.Samples):
		l.sets = &sampleSets{}
	}
	for _, doc := range t.Docs {
		if d, ok := next.Doc(doc); ok {
			l.Index.Put(d)
		} else {
			kind, id, _ := screen.ParseAddress(doc)
			l.Index.Drop(kind, id)
		}
		l.audit(doc)
	}
	if all {
		for _, d := range l.Index.Docs() {
			l.Engine.Put(d)
		}
	}
	if t.Wrote(deciding...) {
		l.Norms = norm.New(l.Index, l.Cat, l.models)
	}
	if all {
		l.settle()
	}
	l.Norms.Update()
}

// dressing are the parts that change the kit as the team has it; judging those that every
// document is checked against.
var (
	dressing = []model.Part{model.Themes, model.Icons, model.Fonts, model.LeftOuts, model.Corrections}
	judging  = append([]model.Part{
		model.Applications, model.Models, model.Queries, model.Bases, model.Sources, model.HouseRules,
		model.RuleSettings, model.OwnRules, model.Pictures,
	}, dressing...)
)

// deciding are the parts by which it is told what is decided in a document.
var deciding = append([]model.Part{model.Applications, model.Models, model.Queries, model.Bases, model.Sources}, dressing...)

// SetToday tells what day it is, YYYY-MM-DD; what is computed of it is made anew.
func (l *Live) SetToday(today string) {
	if l.Today != today {
		l.Today = today
		l.sets, l.scene = &sampleSets{}, nil
	}
}

// Scene is what screens look like now. It stays so.
func (l *Live) Scene() *Scene {
	if l.scene == nil {
		// Kit and catalog change in place here, for those who hold on to them.
		k := *l.Kit
		l.scene = &Scene{
			W: l.W, Kit: &k, Cat: l.Cat.On(&k), Today: l.Today, models: l.models, cache: l.cache, sets: l.sets,
		}
	}
	return l.scene
}

// Resolve computes the concrete tree of a document in its shell.
func (l *Live) Resolve(doc string, v View) (*resolve.Node, []resolve.Problem, error) {
	return l.Scene().Resolve(doc, v)
}

// ResolveTree is Resolve with another tree in place of the document's own.
func (l *Live) ResolveTree(d *screen.Document, root *screen.Element, v View) (*resolve.Node, []resolve.Problem) {
	return l.Scene().ResolveTree(d, root, v)
}

// Page renders a document.
func (l *Live) Page(doc string, v View) (render.Page, []resolve.Problem, error) {
	return l.Scene().Page(doc, v)
}

// SampleSet is a sample set by its id; see Scene.
func (l *Live) SampleSet(id string) *sample.Set { return l.Scene().SampleSet(id) }

// Sets lists all sample sets, those kept first.
func (l *Live) Sets() []sample.Set { return l.Scene().Sets() }

// Models are the models by id together with what the queries give.
func (l *Live) Models() map[string]*sample.Model { return l.models }

// Piece finds a piece; nil where there is none.
func (l *Live) Piece(id string) *screen.Document { return l.Scene().Piece(id) }

// DeliverInput gathers what a delivery of screens is made of; see Scene.
func (l *Live) DeliverInput(app string, ids []string, kitFiles map[string][]byte) (deliver.Input, error) {
	return l.Scene().DeliverInput(app, ids, kitFiles)
}

// WithTexts has a delivery keep its texts in files; see Scene.
func (l *Live) WithTexts(in *deliver.Input) { l.Scene().WithTexts(in) }

// Rules are the rules that screens are checked against, those that the team wrote at the end.
func (l *Live) Rules() []*audit.Rule { return append(rules.All(), l.Engine.Own...) }

// Words names a spot.
func (l *Live) Words(s *usage.Spot) string { return s.Words(l.Cat) }

// Strays lists the strays, most certain first, without those let stand and without what a
// finding tells already.
func (l *Live) Strays() []norm.Stray { return l.notStanding(l.Norms.Strays()) }

// StandingStrays lists the strays that are let stand, without what a finding tells.
func (l *Live) StandingStrays() []norm.Stray {
	standing := l.standing()
	return slices.DeleteFunc(append(l.Norms.Strays(), l.Norms.Leans()...), func(s norm.Stray) bool {
		return !standing.stray(s) || l.Engine.Tells(s.Doc, s.Element, s.Prop)
	})
}

// Leans lists the departures that are more likely meant, with how likely they are slips.
func (l *Live) Leans() []norm.Stray { return l.notStanding(l.Norms.Leans()) }

func (l *Live) notStanding(list []norm.Stray) []norm.Stray {
	standing := l.standing()
	return slices.DeleteFunc(list, func(s norm.Stray) bool {
		return standing.stray(s) || l.Engine.Tells(s.Doc, s.Element, s.Prop)
	})
}

// StrayKey names a stray over time, for letting it stand.
func StrayKey(s norm.Stray) string {
	return strings.Join([]string{"stray", s.Doc, s.Element, s.Prop}, "|")
}

// Questions lists the open questions.
func (l *Live) Questions() []norm.Question { return l.Norms.Questions() }

// Findings lists the findings that are not let stand, and those that are.
func (l *Live) Findings() (open, standing []audit.Finding) {
	all, stands := append(l.Engine.Findings(), findingsOf(l.Measured())...), l.standing()
	if stands.nothing() {
		return all, nil
	}
	for _, f := range all {
		if stands.finding(&f) {
			standing = append(standing, f)
		} else {
			open = append(open, f)
		}
	}
	return open, standing
}

// Of lists the open findings and the strays of one document.
func (l *Live) Of(doc string) (findings []audit.Finding, strays []norm.Stray) {
	standing := l.standing()
	for _, f := range append(l.Engine.Of(doc), l.measuredOf(doc)...) {
		if !standing.finding(&f) {
			findings = append(findings, f)
		}
	}
	kind, id, _ := strings.Cut(doc, ":")
	if d, ok := l.Index.Find(screen.DocKind(kind), id); ok {
		strays = l.notStanding(l.Norms.Of(d.Number))
	}
	return findings, strays
}

// Counts are how many of each kind are open.
type Counts struct {
	Questions int `json:"questions"`
	Strays    int `json:"strays"`
	Findings  int `json:"findings"`
}

// Counts tells how much is open without listing it.
func (l *Live) Counts() Counts {
	c := Counts{Questions: l.Norms.CountQuestions(), Findings: l.Engine.Count()}
	for _, f := range l.Measured() {
		if l.StandOf(f.Key()) == nil {
			c.Findings++
		}
	}
	c.Strays = l.Norms.Count(l.Engine.Moved(), l.Engine.Tells)
	standing := l.standing()
	if len(standing.wide) > 0 { // each is asked whether it is covered
		open, _ := l.Findings()
		c.Findings, c.Strays = len(open), len(l.Strays())
		return c
	}
	for key := range standing.exact {
		rest, ok := strings.CutPrefix(key, "stray|")
		if !ok {
			c.Findings -= l.Engine.CountKey(key)
			continue
		}
		parts := strings.Split(rest, "|")
		if len(parts) != 3 || l.Engine.Tells(parts[0], parts[1], parts[2]) {
			continue
		}
		kind, id, _ := strings.Cut(parts[0], ":")
		if d, ok := l.Index.Find(screen.DocKind(kind), id); ok && l.Norms.Has(d.Number, parts[1], parts[2]) {
			c.Strays--
		}
	}
	return c
}

// Line brings strays and findings into line: the edits that repair them, one step a document.
// What no longer fits after the repairs before it is left out and told by its key.
func (l *Live) Line(strays []norm.Stray, findings []audit.Finding, title string) (change.Change, []string) {
	lining := lining{live: l, trees: map[string]*screen.Element{}, edits: map[string][]screen.Edit{}}
	var left []string
	for _, s := range strays {
		fix := s.Fix
		if len(fix) == 0 {
			if e, ok := l.SetEdit(s.Doc, s.Element, s.Prop, s.Norm); ok {
				fix = []screen.Edit{e}
			}
		}
		if !lining.put(s.Doc, fix) {
			left = append(left, StrayKey(s))
		}
	}
	for _, f := range findings {
		if !lining.put(f.Doc, f.Fix) {
			left = append(left, f.Key())
		}
	}
	c := change.Change{Title: title}
	for _, doc := range lining.order {
		c.Steps = append(c.Steps, &change.Edit{Doc: doc, Edits: lining.edits[doc]})
	}
	return c, left
}

// lining gathers repairs by document, each on what those before it leave.
type lining struct {
	live  *Live
	trees map[string]*screen.Element
	edits map[string][]screen.Edit
	order []string
}

func (n *lining) put(doc string, fix []screen.Edit) bool {
	d, ok := n.live.W.Doc(doc)
	if !ok || len(fix) == 0 {
		return false
	}
	root := n.trees[doc]
	if root == nil {
		root = d.Root
	}
	fix = withFreeIDs(root, fix)
	after, _, err := screen.ApplyAll(root, fix, n.live.Cat)
	if err != nil {
		return false
	}
	if n.trees[doc] == nil {
		n.order = append(n.order, doc)
	}
	n.trees[doc] = after
	n.edits[doc] = append(n.edits[doc], fix...)
	return true
}

// withFreeIDs gives what is put in ids that the tree does not have.
func withFreeIDs(root *screen.Element, fix []screen.Edit) []screen.Edit {
	taken := map[string]bool{}
	root.Walk(func(e, _ *screen.Element) bool { taken[e.ID] = true; return true })
	out := slices.Clone(fix)
	for i := range out {
		if out[i].Op == screen.Insert && out[i].Tree != nil {
			out[i].Tree = renamed(out[i].Tree, taken)
		}
	}
	return out
}

func renamed(e *screen.Element, taken map[string]bool) *screen.Element {
	c := *e
	c.ID = screen.FreeName(taken, e.ID)
	c.Children = make([]*screen.Element, len(e.Children))
	for i, k := range e.Children {
		c.Children[i] = renamed(k, taken)
	}
	return &c
}

// Brings lists the findings that edits of a document would bring to it. What compares documents
// is not among them.
func (l *Live) Brings(doc string, fix []screen.Edit) []audit.Finding {
	d, ok := l.W.Doc(doc)
	if !ok {
		return nil
	}
	after, _, err := screen.ApplyAll(d.Root, fix, l.Cat)
	if err != nil {
		return nil
	}
	had := map[string]bool{}
	for _, f := range l.Engine.Of(doc) {
		had[f.Key()] = true
	}
	next := *d
	next.Root = after
	ix := usage.New(l.Cat)
	ix.Put(&next)
	counted, ok := ix.Find(d.Kind, d.ID)
	if !ok {
		return nil
	}
	return slices.DeleteFunc(l.Engine.Check(counted).Findings(), func(f audit.Finding) bool { return had[f.Key()] })
}

// safe is a repair as it may be offered: not at all, with the reason, where it would bring a finding.
func (l *Live) safe(doc string, fix []screen.Edit, title string) ([]screen.Edit, string, string) {
	if len(fix) > 0 {
		if brings := l.Brings(doc, fix); len(brings) > 0 {
			return nil, "", brings[0].Message
		}
	}
	return fix, title, ""
}

// Safe takes the repairs off that would bring new findings, and says so instead.
func (l *Live) Safe(list []norm.Stray) []norm.Stray {
	for i := range list {
		s := &list[i]
		s.Fix, s.FixTitle, s.Needs = l.safe(s.Doc, s.Fix, s.FixTitle)
	}
	return list
}

// SafeFindings takes the repairs off that would bring other findings, and says so.
func (l *Live) SafeFindings(list []audit.Finding) []audit.Finding {
	out := slices.Clone(list)
	for i := range out {
		f := &out[i]
		f.Fix, f.FixTitle, f.Needs = l.safe(f.Doc, f.Fix, f.FixTitle)
	}
	return out
}

// SetEdit is the edit that brings a prop of an element to a value; "text" stands
// for its text, which is changed where it is written and not computed.
func (l *Live) SetEdit(doc, element, prop, value string) (screen.Edit, bool) {
	d, ok := l.W.Doc(doc)
	if !ok {
		return screen.Edit{}, false
	}
	el, _ := d.Root.Find(element)
	if el == nil {
		return screen.Edit{}, false
	}
	if prop == "text" {
		return screen.Edit{Op: screen.SetText, ID: element, Value: screen.Lit(value)}, el.Text.Kind == screen.Literal
	}
	def, ok := l.Cat.Component(el.Type)
	if !ok {
		return screen.Edit{}, false
	}
	p, ok := def.Prop(prop)
	if !ok {
		return screen.Edit{}, false
	}
	return screen.SetTo(p, el, value), true
}

// Where runs a selector over all documents, with the kit's defaults for props that
// are not set, on all processors, and calls found in
// the documents' order.
func (l *Live) Where(sel *screen.Selector, found func(d *screen.Document, e *screen.Element)) {
	sel = sel.With(l.Cat)
	docs := l.Index.Docs()
	hits := make([][]*screen.Element, len(docs))
	workers := runtime.GOMAXPROCS(0)
	var wg sync.WaitGroup
	for w := range workers {
		wg.Go(func() {
			for i := w; i < len(docs); i += workers {
				l.Index.Select(docs[i], sel, func(e *screen.Element) { hits[i] = append(hits[i], e) })
			}
		})
	}
	wg.Wait()
	for i, d := range docs {
		for _, e := range hits[i] {
			found(d.Document, e)
		}
	}
}

// usesPiece tells whether a document holds a use of a piece, or a copy cut loose.
func usesPiece(d *screen.Document, typ string) bool {
	found := false
	d.Root.Walk(func(e, _ *screen.Element) bool {
		found = found || e.Type == typ || e.Origin != nil && e.Origin.File == typ
		return !found
	})
	return found
}
