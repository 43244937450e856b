package api

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/render"
	"ubiquant/core/screen"
	"ubiquant/server/store"
	"ubiquant/server/stream"
)

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
	Seq     int64          `json:"seq"`
	Title   string         `json:"title"`
	Docs    []string       `json:"docs"`
	View    *docOut        `json:"view,omitempty"`
	Patches []render.Patch `json:"patches"`
	Page    *Page          `json:"page,omitempty"` // where patches do not do
	Counts  live.Counts    `json:"counts"`
	Lost    []change.Lost  `json:"lost"` // settings of uses that a changed piece has no place for
}

func (s *Server) change(c *Call, in *changeIn) (*changeOut, error) {
	sent, err := change.Read(in.Change, false)
	if err != nil {
		return nil, err
	}
	if len(sent.Steps) == 0 {
		return nil, bad("the change holds no steps")
	}
	return s.take(c, in, func(*live.Live) (change.Change, error) { return sent, nil })
}

// maxTitle bounds what a change is called in the history, in bytes.
const maxTitle = 300

// take takes a change that somebody makes. It is the only way to one, besides undo.
func (s *Server) take(c *Call, in *changeIn, build func(l *live.Live) (change.Change, error)) (*changeOut, error) {
	return s.log(c, in, 0, func(l *live.Live, out *changeOut) (change.Change, error) {
		made, err := build(l)
		if err != nil {
			return made, err
		}
		if len(made.Title) > maxTitle {
			return made, bad("a change is called something in at most %d bytes, not %d", maxTitle, len(made.Title))
		}
		if err := change.Authorise(made, s.circumstances(c, l)); err != nil {
			return made, err
		}
		made, out.Lost, err = l.Prepare(made)
		return made, err
	})
}

// circumstances are who asks for a change, and how things stand.
func (s *Server) circumstances(c *Call, l *live.Live) *change.Circumstances {
	return &change.Circumstances{
		W: l.W, Person: c.User.Name, Role: c.User.Role, Today: l.Today,
		Unmet: l.Unmet,
	}
}

// log takes a change that is made under the lock, and answers with what it changed.
func (s *Server) log(
	c *Call,
	in *changeIn,
	undoes int64,
	build func(l *live.Live, out *changeOut) (change.Change, error),
) (*changeOut, error) {
	out := &changeOut{Patches: []render.Patch{}, Lost: []change.Lost{}}
	var drawing *redrawn
	view, _, err := s.live(c.Context(), in.View, live.View{Set: in.Set, State: in.State})
	if err != nil {
		return nil, err
	}
	err = s.Live.Take(c.Context(), c.User.Name, undoes, func(l *live.Live) (change.Change, error) {
		made, err := build(l, out)
		out.Title = made.Title
		return made, err
	}, func(l *live.Live, o store.Outcome) error {
		out.Seq, out.Docs = o.Seq, o.Taken.Docs
		out.Counts = l.Counts()
		s.Hub.Tell(stream.Event{Seq: o.Seq, Docs: o.Taken.Docs, Author: c.User.Name, Client: in.Client})
		if d, ok := l.W.Doc(in.View); ok {
			drawing = &redrawn{scene: l.Scene(), d: d, taken: o.Taken, view: view}
			drawing.look(l, in, out)
		}
		return nil
	})
	if err != nil {
		return nil, refused(err)
	}
	if drawing != nil { // others may go on meanwhile
		drawing.draw(out)
	}
	return out, nil
}

// redrawn is a document that a change may have changed, for the window that looks at it.
type redrawn struct {
	scene  *live.Scene
	d      *screen.Document
	taken  change.Taken
	view   live.View
	before *screen.Element // what the window shows; nil where it needs the whole
}

// look tells what is known of the document: its tree, as far as it differs, and what is
// found in it.
func (r *redrawn) look(l *live.Live, in *changeIn, out *changeOut) {
	key := r.d.Address()
	state := in.State
	if _, known := r.d.State(state); !known {
		state = "" // it may be no more
	}
	before, changed := r.taken.Before[key]
	// A state is drawn anew, and so is what the window does not know.
	if changed && in.State == "" && in.Known == r.d.Revision-len(r.taken.Edits[key]) {
		r.before = before
	}
	r.view.State = state
	out.View = docView(l, r.d, state, r.before, out.Seq)
}

// draw makes the patches of the picture, or the whole page where they do not do.
func (r *redrawn) draw(out *changeOut) {
	// What is around it may have changed with it, unless it was edited alone.
	if r.before != nil && len(r.taken.Docs) == 1 && len(r.taken.Edits[r.d.Address()]) > 0 {
		from, _ := r.scene.ResolveTree(r.d, r.before, r.view)
		to, _ := r.scene.ResolveTree(r.d, r.d.Root, r.view) // what fails stands in the view's findings
		if patches, ok := render.Diff(r.scene.Kit, from, to); ok {
			if patches != nil {
				out.Patches = patches
			}
			return
		}
	}
	root, _ := screen.In(r.d, r.view.State, r.scene.Cat)
	p := pageOf(r.scene, r.d, root, r.view)
	out.Page = &p
}

// refused tells what the core refuses, which is the caller's to mend, from a failure here.
func refused(err error) error {
	var own *Problem
	var no *change.Denied
	switch {
	case err == nil || errors.As(err, &own):
		return err
	case errors.As(err, &no):
		return problem(403, "Not allowed", no.Reason)
	}
	return refusedByCore(err)
}

type undoIn struct {
	Seq    int64  `path:"seq" json:"-"`
	Client string `json:"client,omitempty"`
	View   string `json:"view,omitempty"`
	Set    string `json:"set,omitempty"`
	State  string `json:"state,omitempty"`
	Known  int    `json:"known,omitempty"`
}

// undo takes a change back, where nothing that was done since is overwritten by it.
func (s *Server) undo(c *Call, in *undoIn) (*changeOut, error) {
	row, err := s.Live.Change(c.Context(), in.Seq)
	if err != nil {
		return nil, missing("change " + strconv.FormatInt(in.Seq, 10))
	}
	if row.Undone {
		return nil, bad("the change %q is taken back already", row.Title)
	}
	inverse, err := change.Read(row.Inverse, true)
	if err != nil {
		return nil, err
	}
	see := &changeIn{Client: in.Client, View: in.View, Set: in.Set, State: in.State, Known: in.Known}
	return s.log(c, see, row.Seq, func(l *live.Live, _ *changeOut) (change.Change, error) {
		who := s.circumstances(c, l)
		who.Restores = true
		if err := change.Authorise(inverse, who); err != nil {
			return inverse, err
		}
		return inverse, s.unharmed(c, l, row, inverse)
	})
}

// unharmed refuses to take a change back where that would overwrite a later one.
func (s *Server) unharmed(c *Call, l *live.Live, row store.ChangeRow, inverse change.Change) error {
	later, err := s.Live.Later(c.Context(), row.Seq)
	if err != nil || len(later) == 0 {
		return err
	}
	if len(later) == store.MaxLater {
		return bad("more than %d changes were made since; bring the document back from its history", len(later))
	}
	since := make([]change.Logged, len(later))
	inverses := make([]change.Change, len(later)) // the newest first
	for i, r := range later {
		since[i] = change.Logged{Seq: r.Seq, Undoes: r.Undoes, Author: r.Author}
		if since[i].Change, err = change.Read(r.Body, true); err != nil {
			return err
		}
		if inverses[len(later)-1-i], err = change.Read(r.Inverse, true); err != nil {
			return err
		}
	}
	if by, ok := change.Clash(inverse, row.Seq, since); ok {
		return problem(409, "The undo was refused",
			fmt.Sprintf("%s has changed the same since (%s)", by.Author, by.Change.Title))
	}
	doc, element := change.Overwritten(inverse, func(doc string) *screen.Document {
		d, err := l.Was(doc, inverses)
		if err != nil {
			return nil // it was not there; applying the change says what is wrong
		}
		return d
	}, func(doc string) *screen.Document {
		d, _ := l.W.Doc(doc)
		return d
	})
	if element == "" {
		return nil
	}
	by := "somebody"
	for _, r := range later {
		if slices.Contains(strings.Fields(r.Docs), doc) {
			by = r.Author + " (" + r.Title + ")"
		}
	}
	p := problem(409, "The undo was refused", fmt.Sprintf("it was changed since, last by %s", by))
	p.Where = element
	return p
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

type signOffIn struct {
	Docs   []string `json:"docs"` // kind:id of each
	Drop   bool     `json:"drop,omitempty"`
	Client string   `json:"client,omitempty"`
}

func (s *Server) signOff(c *Call, in *signOffIn) (*changeOut, error) {
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		if len(in.Docs) == 0 {
			return change.Change{}, bad("nothing is named to sign off")
		}
		out := change.Change{Title: fmt.Sprintf("Sign off %d screens", len(in.Docs))}
		for _, key := range in.Docs {
			d, ok := l.W.Doc(key)
			if !ok {
				return change.Change{}, missing(key)
			}
			one := change.SignOff(d)
			if in.Drop {
				one = change.Change{Title: d.Title + " is no longer signed off", Steps: []change.Step{&change.Sign{Doc: key}}}
			}
			if out.Steps = append(out.Steps, one.Steps...); len(in.Docs) == 1 {
				out.Title = one.Title
			}
		}
		return out, nil
	})
}
