package api

import (
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"ubiquant/core/audit"
	"ubiquant/core/norm"
	"ubiquant/core/render"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
	"ubiquant/core/workspace"
	"ubiquant/server/live"
	"ubiquant/server/store"
)

// DocHead is what is known of a document without its tree.
type DocHead struct {
	Kind     string `json:"kind"`
	ID       string `json:"id"`
	Title    string `json:"title"`
	Route    string `json:"route,omitempty"`
	App      string `json:"app,omitempty"`
	Shell    string `json:"shell,omitempty"`
	Owner    string `json:"owner,omitempty"`
	Removed  bool   `json:"removed"`
	Revision int    `json:"revision"`
	Signed   string `json:"signed,omitempty"` // who and when, while it holds
	Elements int    `json:"elements"`
	// Props are what a piece leaves to its uses.
	Props    []screen.PieceProp `json:"props,omitempty"`
	States   []stateHead        `json:"states,omitempty"`
	Score    int                `json:"score"`
	Errors   int                `json:"errors"`
	Warnings int                `json:"warnings"`
	Strays   int                `json:"strays"`
}

func head(d *screen.Document, findings []audit.Finding, strays int) DocHead {
	h := DocHead{
		Kind:     string(d.Kind),
		ID:       d.ID,
		Title:    d.Title,
		Route:    d.Route,
		App:      d.App,
		Shell:    d.Shell,
		Owner:    d.Owner,
		Removed:  d.Removed,
		Revision: d.Revision,
		Elements: d.Root.Count(),
		Strays:   strays,
		Props:    d.Props,
	}
	for _, s := range d.States {
		h.States = append(h.States, stateHead{s.Name, s.Set, len(s.Edits)})
	}
	if d.Signed != nil && d.Signed.Revision == d.Revision {
		h.Signed = d.Signed.By + ", " + d.Signed.When
	}
	for _, f := range findings {
		switch f.Severity {
		case audit.Error:
			h.Errors++
		case audit.Warning:
			h.Warnings++
		}
	}
	h.Score = audit.Score(h.Elements, findings, strays)
	return h
}

// byDoc groups what the census found by document.
func byDoc(l *workspace.Live) (findings map[string][]audit.Finding, strays map[string][]norm.Stray) {
	findings, strays = map[string][]audit.Finding{}, map[string][]norm.Stray{}
	open, _ := l.Findings()
	for _, f := range open {
		findings[f.Doc] = append(findings[f.Doc], f)
	}
	for _, s := range l.Strays() {
		strays[s.Doc] = append(strays[s.Doc], s)
	}
	return findings, strays
}

// Attention is one thing that wants to be looked at.
type Attention struct {
	Kind    string `json:"kind"` // question, error, stray, signed
	Title   string `json:"title"`
	Detail  string `json:"detail"`
	Path    string `json:"path"` // address in the application
	Screens int    `json:"screens,omitempty"`
}

type workspaceOut struct {
	Name       string            `json:"name"`
	Kit        string            `json:"kit"`
	KitVersion string            `json:"kitVersion"`
	Seq        int64             `json:"seq"`
	Me         store.User        `json:"me"`
	Frame      string            `json:"frame"`        // where the sandboxed frame is
	Go         string            `json:"go,omitempty"` // event by which the kit's links ask to go
	Themes     []string          `json:"themes"`
	Apps       []workspace.App   `json:"apps"`
	Docs       []DocHead         `json:"docs"`
	Sets       []named           `json:"sets"`
	Models     []named           `json:"models"`
	Sourced    []string          `json:"sourced"` // models whose records can come from a service
	Dress      string            `json:"dress"`   // changes when what the team adds to the kit does
	Questions  int               `json:"questions"`
	Strays     int               `json:"strays"`
	Findings   int               `json:"findings"`
	Attention  []Attention       `json:"attention"`
	Owners     map[string]string `json:"owners"`
	RootPreset map[string]string `json:"rootPreset"` // what root sections of screens are set to
}

type named struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

func (s *Server) workspace(c *Call, _ *none) (*workspaceOut, error) {
	people, err := s.Store.Users(c.Context())
	if err != nil {
		return nil, err
	}
	out := &workspaceOut{Me: c.User, Frame: "/frame/" + s.ticket(time.Now()) + "/", Owners: map[string]string{}}
	for _, p := range people {
		out.Owners[p.Name] = p.FullName
	}
	err = s.Live.Read(c.Context(), func(l *workspace.Live, seq int64) error {
		out.Name, out.Kit, out.KitVersion, out.Seq = l.W.Name, l.Kit.Title, l.Kit.Version, seq
		out.Go = l.Kit.Code.Go
		out.Dress = s.dressOf(l).Hash
		out.Themes, out.Apps = l.Kit.Tokens.Themes, l.W.Apps
		findings, strays := byDoc(l)
		for _, d := range l.W.Docs {
			key := usage.DocKey(d)
			out.Docs = append(out.Docs, head(d, findings[key], len(strays[key])))
		}
		for _, set := range l.Sets() {
			out.Sets = append(out.Sets, named{set.ID, set.Name})
		}
		out.Models = []named{}
		for _, m := range l.W.Models {
			out.Models = append(out.Models, named{m.ID, m.Name})
		}
		for _, q := range l.W.Queries {
			out.Models = append(out.Models, named{q.ID, q.Name})
		}
		out.Sourced = append([]string{}, l.W.Sourced()...)
		questions := l.Questions()
		out.Questions = len(questions)
		for _, list := range strays {
			out.Strays += len(list)
		}
		for _, list := range findings {
			out.Findings += len(list)
		}
		out.Attention = attention(l, questions, findings, strays)
		section, _ := l.Cat.Component("section")
		out.RootPreset = l.Preset(section, "page", "")
		return nil
	})
	return out, err
}

// attention sorts what wants to be done: errors first, then open questions by
// how many screens they touch, then strays, most certain first.
func attention(
	l *workspace.Live,
	questions []norm.Question,
	findings map[string][]audit.Finding,
	strays map[string][]norm.Stray,
) []Attention {
	out := []Attention{}
	title := func(doc string) string {
		if d, ok := l.W.Doc(doc); ok {
			return d.Title
		}
		return doc
	}
	for _, d := range l.W.Docs {
		for _, f := range findings[usage.DocKey(d)] {
			if f.Severity == audit.Error {
				out = append(
					out,
					Attention{
						Kind:   "error",
						Title:  f.Message,
						Detail: title(f.Doc),
						Path:   benchPath(f.Doc, f.Element),
					},
				)
			}
		}
	}
	for _, q := range questions {
		out = append(
			out,
			Attention{
				Kind:    "question",
				Title:   fmt.Sprintf("%s: %s or %s?", capital(q.Words), q.Sides[0].Value, q.Sides[1].Value),
				Detail:  fmt.Sprintf("%s is %d : %d screens", q.Prop, q.Sides[0].Screens, q.Sides[1].Screens),
				Path:    "/census/questions#" + q.Spot + "|" + q.Prop,
				Screens: q.Sides[0].Screens + q.Sides[1].Screens,
			},
		)
	}
	for _, st := range l.Strays() {
		out = append(
			out,
			Attention{
				Kind: "stray",
				Title: fmt.Sprintf(
					"%s: %s is %s, elsewhere %s",
					capital(st.Words),
					st.Prop,
					orUnset(st.Value),
					orUnset(st.Norm),
				),
				Detail: title(st.Doc),
				Path:   benchPath(st.Doc, st.Element),
			},
		)
	}
	return out
}

func orUnset(s string) string {
	if s == "" {
		return "not set"
	}
	return s
}

func capital(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

func benchPath(doc, element string) string {
	kind, id, _ := strings.Cut(doc, ":")
	return "/bench/" + kind + "/" + id + "#" + element
}

type docIn struct {
	Kind  string `path:"kind"`
	ID    string `path:"id"`
	State string `query:"state"` // to see it in; empty is the usual one
}

func (in *docIn) key() string { return in.Kind + ":" + in.ID }

type docOut struct {
	Head     DocHead         `json:"head"`
	Root     json.RawMessage `json:"root"`
	Findings []audit.Finding `json:"findings"`
	Strays   []norm.Stray    `json:"strays"`
	Seq      int64           `json:"seq"`
	State    string          `json:"state,omitempty"`
	Changed  []string        `json:"changed,omitempty"` // elements that differ in this state
	Lost     []string        `json:"lost,omitempty"`    // differences of the state that no longer fit
}

// stateHead is a state at a glance.
type stateHead struct {
	Name        string `json:"name"`
	Set         string `json:"set,omitempty"`
	Differences int    `json:"differences"`
}

func (s *Server) doc(c *Call, in *docIn) (*docOut, error) {
	var out *docOut
	err := s.Live.Read(c.Context(), func(l *workspace.Live, seq int64) error {
		d, ok := l.W.Doc(in.key())
		if !ok {
			return missing(in.key())
		}
		if _, known := d.State(in.State); in.State != "" && !known {
			return missing(in.key() + " in the state " + in.State)
		}
		out = docView(l, d, in.State, nil, seq)
		return nil
	})
	return out, err
}

// docView is a document for a window that shows the tree before; nil is nothing.
func docView(l *workspace.Live, d *screen.Document, state string, before *screen.Element, seq int64) *docOut {
	key := usage.DocKey(d)
	var w screen.Writer
	root, lost := screen.In(d, state, l.Cat)
	if before != nil {
		w.ElementSince(root, before)
	} else {
		w.Element(root)
	}
	out := &docOut{Root: w.B, Seq: seq, State: state, Findings: []audit.Finding{}, Strays: []norm.Stray{}}
	findings, strays := l.Of(key)
	out.Findings, out.Strays = append(out.Findings, findings...), append(out.Strays, strays...)
	out.Head = head(d, out.Findings, len(out.Strays))
	for _, err := range lost {
		out.Lost = append(out.Lost, err.Error())
	}
	if state != "" {
		was := map[string]*screen.Element{}
		d.Root.Walk(func(e, _ *screen.Element) bool { was[e.ID] = e; return true })
		root.Walk(func(e, _ *screen.Element) bool {
			if o := was[e.ID]; o != e && (o == nil || !e.SameAs(o)) {
				out.Changed = append(out.Changed, e.ID)
			}
			return true
		})
	}
	return out
}

// Page is a rendered document.
type Page struct {
	Key      string                    `json:"key"`
	Revision int                       `json:"revision"`
	HTML     string                    `json:"html"`
	Props    map[string]map[string]any `json:"props,omitempty"`
	Problems []resolve.Problem         `json:"problems,omitempty"`
	Unsafe   []render.Dropped          `json:"unsafe,omitempty"`
}

type pagesIn struct {
	Docs    []string `json:"docs"`
	Set     string   `json:"set,omitempty"`
	NoShell bool     `json:"noShell,omitempty"`
	State   string   `json:"state,omitempty"`
}

type pagesOut struct {
	Pages []Page `json:"pages"`
}

// maxTiles bounds what one request renders.
const maxTiles = 200

func (s *Server) pages(c *Call, in *pagesIn) (*pagesOut, error) {
	if len(in.Docs) > maxTiles {
		return nil, bad("at most %d documents are rendered at once", maxTiles)
	}
	out := &pagesOut{Pages: []Page{}}
	views := map[string]workspace.View{}
	told := map[string][]resolve.Problem{}
	for _, key := range in.Docs {
		var err error
		if views[key], told[key], err = s.live(c.Context(), key, workspace.View{Set: in.Set, NoShell: in.NoShell, State: in.State}); err != nil {
			return nil, err
		}
	}
	err := s.Live.Read(c.Context(), func(l *workspace.Live, _ int64) error {
		for _, key := range in.Docs {
			d, ok := l.W.Doc(key)
			if !ok {
				return missing(key)
			}
			root, _ := screen.In(d, in.State, l.Cat)
			p := pageOf(l, d, root, views[key])
			p.Problems = append(told[key], p.Problems...)
			out.Pages = append(out.Pages, p)
		}
		return nil
	})
	return out, err
}

func pageOf(l *workspace.Live, d *screen.Document, root *screen.Element, v workspace.View) Page {
	n, problems := l.ResolveTree(d, root, v)
	p := render.HTML(l.Kit, n)
	return Page{
		Key:      usage.DocKey(d),
		Revision: d.Revision,
		HTML:     p.HTML,
		Props:    p.Props,
		Problems: problems,
		Unsafe:   p.Unsafe,
	}
}

// Fragment asks for an element in its surroundings.
type Fragment struct {
	Doc     string `json:"doc"`
	Element string `json:"element"`
	Up      int    `json:"up,omitempty"` // so many ancestors around it
}

type fragmentsIn struct {
	Items []Fragment `json:"items"`
}

func (s *Server) fragments(c *Call, in *fragmentsIn) (*pagesOut, error) {
	if len(in.Items) > maxTiles {
		return nil, bad("at most %d parts are rendered at once", maxTiles)
	}
	out := &pagesOut{Pages: []Page{}}
	err := s.Live.Read(c.Context(), func(l *workspace.Live, _ int64) error {
		trees := map[string]*resolve.Node{}
		for _, item := range in.Items {
			key := item.Doc + "#" + item.Element
			root := trees[item.Doc]
			if root == nil {
				n, _, err := l.Resolve(item.Doc, workspace.View{NoShell: true})
				if err != nil {
					return missing(item.Doc)
				}
				root, trees[item.Doc] = n, n
			}
			part := around(root, item.Element, item.Up)
			if part == nil {
				out.Pages = append(out.Pages, Page{Key: key}) // hidden with these records
				continue
			}
			p := render.HTML(l.Kit, inRoom(l, part))
			out.Pages = append(out.Pages, Page{Key: key, HTML: p.HTML, Props: p.Props})
		}
		return nil
	})
	return out, err
}

// inRoom puts a part into a section, so that it does not stick to a tile's edge.
func inRoom(l *workspace.Live, part *resolve.Node) *resolve.Node {
	section, ok := l.Cat.Component("section")
	if !ok || part.Type == "section" {
		return part
	}
	alone := *part
	alone.Slot = ""
	return &resolve.Node{
		Key:       "around",
		Type:      "section",
		Component: section,
		Props:     []resolve.Prop{{Name: "padding", Value: "3"}},
		Children:  []*resolve.Node{&alone},
	}
}

// around finds the first node of an element and its ancestor so many levels up;
// of repeated siblings only the first few stay, to keep the part small.
func around(root *resolve.Node, element string, up int) *resolve.Node {
	var path []*resolve.Node
	var walk func(n *resolve.Node) bool
	walk = func(n *resolve.Node) bool {
		path = append(path, n)
		if n.ID == element {
			return true
		}
		for _, child := range n.Children {
			if walk(child) {
				return true
			}
		}
		path = path[:len(path)-1]
		return false
	}
	if !walk(root) {
		return nil
	}
	part := *path[max(0, len(path)-1-up)]
	part.Slot = ""
	few := make([]*resolve.Node, 0, len(part.Children))
	met := map[string]int{}
	for _, c := range part.Children {
		if met[c.ID]++; met[c.ID] <= fewRepeats && len(few) < 60 {
			few = append(few, c)
		}
	}
	part.Children = few
	return &part
}

// fewRepeats is how many of the copies of a repeated element a small picture shows.
const fewRepeats = 4

type treesIn struct {
	Trees []json.RawMessage `json:"trees"`
}

func (s *Server) renderTrees(c *Call, in *treesIn) (*pagesOut, error) {
	if len(in.Trees) > maxTiles {
		return nil, bad("at most %d trees are rendered at once", maxTiles)
	}
	roots := make([]*screen.Element, len(in.Trees))
	for i, raw := range in.Trees {
		roots[i] = &screen.Element{}
		if err := roots[i].UnmarshalJSON(raw); err != nil {
			return nil, err
		}
	}
	out := &pagesOut{Pages: []Page{}}
	err := s.Live.Read(c.Context(), func(l *workspace.Live, _ int64) error {
		for _, root := range roots {
			d := &screen.Document{Kind: screen.PieceDoc, ID: "tile", Root: root}
			out.Pages = append(out.Pages, pageOf(l, d, root, workspace.View{}))
		}
		return nil
	})
	return out, err
}

type changeIn struct {
	Change json.RawMessage `json:"change"`
	Client string          `json:"client,omitempty"` // the window, so that it knows its own events
	View   string          `json:"view,omitempty"`   // document whose patches are wanted
	Set    string          `json:"set,omitempty"`
	State  string          `json:"state,omitempty"` // that View is seen in
	// Known is the revision of View that the window shows. Where it is the one the
	// change was made on, only what differs is sent: elements that are the same
	// hold their id and "same", and the picture comes as patches.
	Known int `json:"known,omitempty"`
}

type changeOut struct {
	Seq     int64            `json:"seq"`
	Title   string           `json:"title"`
	Docs    []string         `json:"docs"`
	View    *docOut          `json:"view,omitempty"`
	Patches []render.Patch   `json:"patches"`
	Page    *Page            `json:"page,omitempty"` // where patches do not do
	Counts  workspace.Counts `json:"counts"`
	Lost    []workspace.Lost `json:"lost"` // settings of uses that a changed piece has no place for
}

// keeperOnly are steps that change what the whole team is held to.
var keeperOnly = []workspace.Do{
	workspace.PutHouse,
	workspace.DropHouse,
	workspace.TuneRule,
	workspace.PutTheme,
	workspace.DropTheme,
	workspace.PutFont,
	workspace.DropFont,
	workspace.LeaveOut,
	workspace.TakeIn,
	workspace.PutBase,
	workspace.DropBase,
}

func (s *Server) change(c *Call, in *changeIn) (*changeOut, error) {
	change, err := workspace.ReadChange(in.Change, false)
	if err != nil {
		return nil, err
	}
	for _, step := range change.Steps {
		if slices.Contains(keeperOnly, step.Do) && c.User.Role != store.Keeper {
			return nil, problem(403, "Not allowed", "what the whole team is held to is a keeper's to change")
		}
		if step.Tuning != nil {
			step.Tuning.By, step.Tuning.When = c.User.Name, time.Now().Format(time.DateOnly)
		}
		by, when := c.User.Name, time.Now().Format(time.DateOnly)
		if step.Theme != nil {
			step.Theme.By, step.Theme.When = by, when
		}
		if step.Icon != nil {
			step.Icon.By, step.Icon.When = by, when
		}
		if step.Left != nil {
			step.Left.By, step.Left.When = by, when
		}
		if step.Signed != nil {
			step.Signed.By, step.Signed.When = c.User.Name, time.Now().Format(time.DateOnly)
		}
	}
	if len(change.Steps) == 0 {
		return nil, bad("the change holds no steps")
	}
	return s.take(c, in, 0, func(*workspace.Live) (workspace.Change, error) { return change, nil })
}

func (s *Server) take(
	c *Call,
	in *changeIn,
	undoes int64,
	build func(l *workspace.Live) (workspace.Change, error),
) (*changeOut, error) {
	out := &changeOut{Patches: []render.Patch{}, Lost: []workspace.Lost{}}
	view, _, err := s.live(c.Context(), in.View, workspace.View{Set: in.Set, State: in.State})
	if err != nil {
		return nil, err
	}
	err = s.Live.Take(c.Context(), c.User.Name, undoes, func(l *workspace.Live) (workspace.Change, error) {
		change, err := build(l)
		for i, st := range change.Steps {
			// A usual state that is new starts as the kit can show it.
			if d, ok := l.W.Doc(st.Doc); ok && err == nil && st.Do == workspace.PutState && st.State != nil &&
				len(st.State.Edits) == 0 &&
				st.State.Set == "" &&
				undoes == 0 {
				if _, known := d.State(st.State.Name); !known {
					var proposed screen.State
					if proposed, err = l.ProposeState(st.Doc, st.State.Name); err != nil {
						return change, bad("%s", err)
					}
					change.Steps[i].State = &proposed
				}
			}
		}
		if err == nil && undoes == 0 { // what is taken back holds the uses' edits already
			var lost []workspace.Lost
			change, lost, err = l.Follow(change)
			out.Lost = append(out.Lost, lost...)
		}
		out.Title = change.Title
		return change, err
	}, func(l *workspace.Live, o store.Outcome) error {
		out.Seq, out.Docs = o.Seq, o.Taken.Docs
		out.Counts = l.Counts()
		s.Hub.Tell(live.Event{Seq: o.Seq, Docs: o.Taken.Docs, Author: c.User.Name, Client: in.Client})
		d, ok := l.W.Doc(in.View)
		if in.View == "" || !ok {
			return nil
		}
		whole := in.State != "" // a state is drawn anew; the one seen may be no more
		if _, known := d.State(in.State); !known {
			in.State = ""
		}
		before, changed := o.Taken.Before[in.View]
		if !changed || whole || in.Known != d.Revision-len(o.Taken.Edits[in.View]) {
			before = nil
		}
		out.View = docView(l, d, in.State, before, o.Seq)
		view.State = in.State // it may be no more
		// What is around it may have changed with it, unless it was edited alone.
		if before != nil && len(o.Taken.Docs) == 1 && len(o.Taken.Edits[in.View]) > 0 {
			from, _ := l.ResolveTree(d, before, view)
			to, _ := l.ResolveTree(d, d.Root, view) // what fails stands in the view's findings
			if patches, ok := render.Diff(l.Kit, from, to); ok {
				if patches != nil {
					out.Patches = patches
				}
				return nil
			}
		}
		root, _ := screen.In(d, in.State, l.Cat)
		p := pageOf(l, d, root, view)
		out.Page = &p
		return nil
	})
	var p *Problem
	if err != nil && !isOwn(err, &p) {
		// What the core refuses is the caller's to mend, not a failure here.
		if refused := refusedByCore(err); refused != nil {
			return nil, refused
		}
	}
	return out, err
}

type undoIn struct {
	Seq    int64  `path:"seq" json:"-"`
	Client string `json:"client,omitempty"`
	View   string `json:"view,omitempty"`
	Set    string `json:"set,omitempty"`
	State  string `json:"state,omitempty"`
	Known  int    `json:"known,omitempty"`
}

func (s *Server) undo(c *Call, in *undoIn) (*changeOut, error) {
	row, err := s.Live.Change(c.Context(), in.Seq)
	if err != nil {
		return nil, missing("change " + strconv.FormatInt(in.Seq, 10))
	}
	if row.Undone {
		return nil, bad("the change %q is taken back already", row.Title)
	}
	inverse, err := workspace.ReadChange(row.Inverse, true)
	if err != nil {
		return nil, err
	}
	for _, step := range inverse.Steps {
		if slices.Contains(keeperOnly, step.Do) && c.User.Role != store.Keeper {
			return nil, problem(403, "Not allowed", "what the whole team is held to is a keeper's to change")
		}
	}
	return s.take(
		c,
		&changeIn{Client: in.Client, View: in.View, Set: in.Set, State: in.State, Known: in.Known},
		row.Seq,
		func(*workspace.Live) (workspace.Change, error) { return inverse, nil },
	)
}

type historyIn struct {
	Doc  string `query:"doc"`
	Most int    `query:"most"`
}

type historyOut struct {
	Changes []store.ChangeRow `json:"changes"`
}

func (s *Server) history(c *Call, in *historyIn) (*historyOut, error) {
	if in.Most <= 0 || in.Most > 500 {
		in.Most = 100
	}
	rows, err := s.Live.History(c.Context(), in.Doc, in.Most)
	if rows == nil {
		rows = []store.ChangeRow{}
	}
	return &historyOut{rows}, err
}

func (s *Server) signOff(c *Call, in *docIn) (*changeOut, error) {
	return s.take(c, &changeIn{}, 0, func(l *workspace.Live) (workspace.Change, error) {
		d, ok := l.W.Doc(in.key())
		if !ok {
			return workspace.Change{}, missing(in.key())
		}
		if d.Owner != c.User.Name && c.User.Role != store.Keeper {
			return workspace.Change{}, problem(403, "Not allowed", "a screen is signed off by its owner, "+d.Owner)
		}
		open, _ := l.Of(in.key())
		for _, f := range open {
			if f.Severity == audit.Error {
				return workspace.Change{}, bad("an error is open: %s", f.Message)
			}
		}
		return workspace.SignOff(d, c.User.Name, l.Today), nil
	})
}
