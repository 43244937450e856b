package api

import (
	"encoding/json"
	"fmt"
	"net/url"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/norm"
	"ubiquant/core/render"
	"ubiquant/core/resolve"
	"ubiquant/core/screen"
	"ubiquant/core/snippet"
	"ubiquant/core/texts"
	"ubiquant/core/usage"
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
	Source   string `json:"source,omitempty"` // file that it was read from
	Removed  bool   `json:"removed"`
	Revision int    `json:"revision"`
	Signed   string `json:"signed,omitempty"` // who and when, while it holds
	Was      string `json:"was,omitempty"`    // who signed it off as it was before, and when
	Since    int    `json:"since,omitempty"`  // edits since then
	// Unmet is what of the team's conditions for a sign-off it does not meet.
	Unmet    []string `json:"unmet,omitempty"`
	Elements int      `json:"elements"`
	// Props are what a piece leaves to its uses.
	Props    []screen.PieceProp `json:"props,omitempty"`
	States   []stateHead        `json:"states,omitempty"`
	Score    int                `json:"score"`
	Why      []string           `json:"why,omitempty"` // how the score comes about
	Errors   int                `json:"errors"`
	Warnings int                `json:"warnings"`
	Strays   int                `json:"strays"`
}

func head(d *screen.Document, findings []audit.Finding, strays []norm.Stray) DocHead {
	h := DocHead{
		Kind:     string(d.Kind),
		ID:       d.ID,
		Title:    d.Title,
		Route:    d.Route,
		App:      d.App,
		Shell:    d.Shell,
		Owner:    d.Owner,
		Source:   d.Source,
		Removed:  d.Removed,
		Revision: d.Revision,
		Elements: d.Root.Count(),
		Strays:   len(strays),
		Props:    d.Props,
	}
	for _, s := range d.States {
		h.States = append(h.States, stateHead{s.Name, s.Set, len(s.Edits)})
	}
	switch {
	case d.SignedNow():
		h.Signed = d.Signed.By + ", " + d.Signed.When
	case d.Signed != nil:
		h.Was, h.Since = d.Signed.By+", "+d.Signed.When, d.Revision-d.Signed.Revision
	}
	for _, f := range findings {
		switch f.Severity {
		case audit.Error:
			h.Errors++
		case audit.Warning:
			h.Warnings++
		}
	}
	stray := make([]string, len(strays))
	for i := range strays {
		stray[i] = strays[i].Element
	}
	h.Score, h.Why = audit.Score(h.Elements, findings, stray)
	return h
}

// byDoc groups what the census found by document.
func byDoc(l *live.Live) (findings map[string][]audit.Finding, strays map[string][]norm.Stray) {
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
	Kind    string `json:"kind"` // asked, given, error, question, stray, warning
	Title   string `json:"title"`
	Detail  string `json:"detail"`
	Path    string `json:"path"`  // address in the application
	Count   int    `json:"count"` // of one cause
	Screens int    `json:"screens"`
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
	Apps       []model.App       `json:"apps"`
	Docs       []DocHead         `json:"docs"`
	Sets       []named           `json:"sets"`
	Models     []named           `json:"models"`
	Sourced    []string          `json:"sourced"`   // models whose records can come from a service
	Languages  []named           `json:"languages"` // that the texts are translated into
	Dress      string            `json:"dress"`     // changes when what the team adds to the kit does
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
	out := &workspaceOut{Me: c.User, Owners: map[string]string{}}
	for _, p := range people {
		out.Owners[p.Name] = p.FullName
	}
	err = s.Live.Read(c.Context(), func(l *live.Live, seq int64) error {
		out.Name, out.Kit, out.KitVersion, out.Seq = l.W.Name, l.Kit.Title, l.Kit.Version, seq
		out.Go = l.Kit.Code.Go
		out.Languages = []named{}
		for _, id := range l.W.Translated() {
			out.Languages = append(out.Languages, named{id, texts.Name(id)})
		}
		b, err := s.kitOf(c.Context(), l.W)
		if err != nil {
			return err
		}
		out.Frame = s.frameOf(b)
		out.Dress = s.dressOf(l).Hash
		out.Themes, out.Apps = l.Kit.Tokens.Themes, l.W.Apps
		findings, strays := byDoc(l)
		for _, d := range l.W.Docs {
			key := usage.DocKey(d)
			h := head(d, findings[key], strays[key])
			if d.Kind == screen.ScreenDoc && !d.Removed {
				h.Unmet = l.UnmetOf(d, findings[key], strays[key])
			}
			out.Docs = append(out.Docs, h)
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
		out.Attention = append(putTo(l, c.User.Name, out.Owners), attention(l.Worklist(), c.User.Name)...)
		section, _ := l.Cat.Component("section")
		out.RootPreset = snippet.Preset(l, section, "page", "")
		return nil
	})
	return out, err
}

// attention lists what wants to be done, a cause at a time: what was given to this person, then
// errors, questions, strays and warnings.
func attention(work []live.Work, me string) []Attention {
	order := []string{"given", "error", "question", "stray", "warning"}
	groups := map[string][]Attention{}
	type cause struct{ kind, id string }
	at, docs := map[cause]int{}, map[cause]map[string]bool{}
	for _, w := range work {
		kind := string(w.Kind)
		if w.Kind == live.OpenFinding {
			kind = string(w.Severity)
		}
		if w.Given != nil && w.Given.To == me {
			kind = "given"
		}
		if w.Stood != nil || !slices.Contains(order, kind) {
			continue
		}
		of := cause{kind, w.Cause}
		if i, ok := at[of]; ok {
			a := &groups[kind][i]
			a.Count++
			docs[of][w.Doc] = true
			a.Screens = len(docs[of])
			a.Title, a.Detail = w.Why, fmt.Sprintf("%d on %s", a.Count, screens(a.Screens))
			continue
		}
		a := Attention{
			Kind: kind, Title: w.Message, Detail: w.Title, Count: 1, Screens: 1,
			Path: "/census/work?at=" + url.QueryEscape(w.Key),
		}
		switch kind {
		case "question":
			a.Title, a.Detail = w.Why+"?", w.Message
			a.Path = "/census/questions#" + strings.TrimPrefix(w.Key, "question|")
		case "given":
			if w.Given.Note != "" {
				a.Detail += ", " + w.Given.Note
			}
			if w.Given.Due != "" {
				a.Detail += ", by " + w.Given.Due
			}
		}
		at[of], docs[of] = len(groups[kind]), map[string]bool{w.Doc: true}
		groups[kind] = append(groups[kind], a)
	}
	out := []Attention{}
	for _, kind := range order {
		out = append(out, groups[kind]...)
	}
	return out
}

func screens(n int) string {
	if n == 1 {
		return "one screen"
	}
	return fmt.Sprintf("%d screens", n)
}

func orUnset(s string) string {
	if s == "" {
		return "not set"
	}
	return s
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
	err := s.Live.Read(c.Context(), func(l *live.Live, seq int64) error {
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
func docView(l *live.Live, d *screen.Document, state string, before *screen.Element, seq int64) *docOut {
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
	out.Head = head(d, out.Findings, out.Strays)
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
	// Language that the texts are shown in; empty is the one that they are written in.
	Language string `json:"language,omitempty"`
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
	views := map[string]live.View{}
	told := map[string][]resolve.Problem{}
	for _, key := range in.Docs {
		var err error
		if views[key], told[key], err = s.live(c.Context(), key, live.View{Set: in.Set, NoShell: in.NoShell, State: in.State}); err != nil {
			return nil, err
		}
	}
	err := s.onScene(c.Context(), func(l *live.Scene) error {
		language := l.W.Written()
		if there := l.In(in.Language); there != l {
			l, language = there, in.Language
		}
		for _, key := range in.Docs {
			d, ok := l.W.Doc(key)
			if !ok {
				return missing(key)
			}
			root, _ := screen.In(d, in.State, l.Cat)
			p := pageOf(l, d, root, views[key])
			p.HTML = directed(p.HTML, language)
			p.Problems = append(told[key], p.Problems...)
			out.Pages = append(out.Pages, p)
		}
		return nil
	})
	return out, err
}

// directed has a page run from the right, where its language does.
func directed(html, language string) string {
	if end := strings.IndexAny(html, " >"); end > 0 && texts.Direction(language) == "rtl" {
		return html[:end] + ` dir="rtl"` + html[end:]
	}
	return html
}

func pageOf(l *live.Scene, d *screen.Document, root *screen.Element, v live.View) Page {
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
	Up      int    `json:"up,omitempty"` // so many ancestors around it; below 0 as many as it wants to be recognised
	Set     string `json:"set,omitempty"`
	State   string `json:"state,omitempty"`
}

type fragmentsIn struct {
	Items []Fragment `json:"items"`
}

func (s *Server) fragments(c *Call, in *fragmentsIn) (*pagesOut, error) {
	if len(in.Items) > maxTiles {
		return nil, bad("at most %d parts are rendered at once", maxTiles)
	}
	out := &pagesOut{Pages: []Page{}}
	err := s.onScene(c.Context(), func(l *live.Scene) error {
		trees := map[string]*resolve.Node{}
		for _, item := range in.Items {
			key := item.Doc + "#" + item.Element
			if item.Set != "" || item.State != "" {
				key += "#" + item.Set + "#" + item.State
			}
			seen := strings.Join([]string{item.Doc, item.Set, item.State}, "\x00")
			root := trees[seen]
			if root == nil {
				n, _, err := l.Resolve(item.Doc, live.View{NoShell: true, Set: item.Set, State: item.State})
				if err != nil {
					return missing(item.Doc)
				}
				root, trees[seen] = n, n
			}
			up := item.Up
			if d, ok := l.W.Doc(item.Doc); ok && up < 0 {
				up = upFor(l.Cat, d.Root, item.Element)
			}
			part := around(root, item.Element, up)
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
func inRoom(l *live.Scene, part *resolve.Node) *resolve.Node {
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

// read reads the trees.
func (in *treesIn) read() ([]*screen.Element, error) {
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
	return roots, nil
}

func (s *Server) renderTrees(c *Call, in *treesIn) (*pagesOut, error) {
	roots, err := in.read()
	if err != nil {
		return nil, err
	}
	out := &pagesOut{Pages: []Page{}}
	err = s.onScene(c.Context(), func(l *live.Scene) error {
		for _, root := range roots {
			d := &screen.Document{Kind: screen.PieceDoc, ID: "tile", Root: root}
			out.Pages = append(out.Pages, pageOf(l, d, root, live.View{}))
		}
		return nil
	})
	return out, err
}
