package api

import (
	"maps"
	"slices"

	"ubiquant/core/change"
	"ubiquant/core/deliver"
	"ubiquant/core/deliver/record"
	"ubiquant/core/deliver/targets"
	"ubiquant/core/live"
	"ubiquant/server/into"
)

// RepositoryView is a repository that may be delivered into: whoever starts the server
// names them.
type RepositoryView struct {
	Name    string `json:"name"`
	Target  string `json:"target"`  // that its framework asks for; empty where it has none
	Version string `json:"version"` // of the framework, as package.json says it
	Problem string `json:"problem,omitempty"`
	// Home is set where the kit is code of this very repository, so that what is made of it can go nowhere else.
	Home bool `json:"home,omitempty"`
}

type repositoriesOut struct {
	Repositories []RepositoryView `json:"repositories"`
}

func (s *Server) listRepositories(c *Call, _ *none) (*repositoriesOut, error) {
	out, folder := &repositoriesOut{Repositories: []RepositoryView{}}, ""
	if err := s.onScene(c.Context(), func(l *live.Scene) error {
		folder = l.Kit.Folder()
		return nil
	}); err != nil {
		return nil, err
	}
	for _, name := range slices.Sorted(maps.Keys(s.repositories)) {
		v := RepositoryView{Name: name}
		r, err := into.Open(into.Repo{Dir: s.repositories[name], Folder: "."})
		if err != nil {
			v.Problem = "It cannot be opened on the server."
			s.Log.Warn("a repository cannot be opened", "name", name, "error", err)
		} else {
			v.Target, v.Version = r.Detect()
			v.Home = folder != "" && r.Has(folder)
			_ = r.Close() // it was read alone
		}
		out.Repositories = append(out.Repositories, v)
	}
	return out, nil
}

type intoIn struct {
	deliverIn
	Repository string `json:"repository"`
	Folder     string `json:"folder,omitempty"`
	Connect    bool   `json:"connect,omitempty"` // make the additions that the application needs
	Client     string `json:"client,omitempty"`  // window that takes what was edited by hand
}

// ChangeView is what a delivery does to a file.
type ChangeView struct {
	record.Change
	Patch string `json:"patch,omitempty"`
	Hand  string `json:"hand,omitempty"` // the patch of what was edited by hand
}

// AdditionView is what the application needs besides.
type AdditionView struct {
	into.Addition
	Patch string `json:"patch,omitempty"`
}

type intoOut struct {
	Folder    string         `json:"folder"`
	Target    string         `json:"target"`
	Changes   []ChangeView   `json:"changes"`
	Additions []AdditionView `json:"additions"`
	Notes     []deliver.Note `json:"notes"`
	Said      []string       `json:"said"`
	Patch     string         `json:"patch"` // all of it
	// ByHand is what was edited by hand since; none where nothing was.
	ByHand *into.ByHand `json:"byHand,omitempty"`
}

// planInto says what delivering into a repository would do.
func (s *Server) planInto(c *Call, in *intoIn) (*intoOut, error) {
	return s.into(c, in, false)
}

// deliverInto does it.
func (s *Server) deliverInto(c *Call, in *intoIn) (*intoOut, error) {
	return s.into(c, in, true)
}

// takeByHand takes what was edited by hand in delivered code into the screens.
func (s *Server) takeByHand(c *Call, in *intoIn) (*changeOut, error) {
	d, err := s.destination(c, in)
	if err != nil {
		return nil, err
	}
	defer d.repo.Close()
	h, err := d.repo.ByHand(c.Context(), d.target, d.input)
	if err != nil {
		return nil, bad("%s", err)
	}
	if len(h.Taken) == 0 {
		return nil, bad("nothing that was edited by hand in %s can be taken into the screens", in.Repository)
	}
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		for _, t := range h.Taken {
			read, _ := d.scene.W.Doc(t.Doc)
			now, ok := l.W.Doc(t.Doc)
			if !ok || read == nil || now.Revision != read.Revision {
				return change.Change{}, bad("%s has changed meanwhile; look again", t.Doc)
			}
		}
		return change.Change{Title: "Taken from " + in.Repository, Steps: h.Steps()}, nil
	})
}

// maxShown bounds the patch of one file that is sent to be looked at, in bytes.
const maxShown = 64 << 10

// destination is a repository with what is delivered into it; whoever asks for it closes the
// repository.
type destination struct {
	repo   *into.Repo
	target deliver.Target
	input  deliver.Input
	scene  *live.Scene
}

func (s *Server) destination(c *Call, in *intoIn) (*destination, error) {
	dir, ok := s.repositories[in.Repository]
	if !ok {
		return nil, missing("repository " + in.Repository)
	}
	d := &destination{}
	err := s.onScene(c.Context(), func(l *live.Scene) error {
		d.scene = l
		b, err := s.kitOf(c.Context(), l.W)
		if err != nil {
			return err
		}
		if d.input, err = l.DeliverInput(in.App, in.Screens, b.DeliverFiles()); err != nil {
			return bad("%s", err)
		}
		d.input.Take(b)
		target := in.Target
		if found, _ := (&into.Repo{Dir: dir}).Detect(); found != "" {
			target = found
		}
		if d.target, ok = targets.Find(target); !ok {
			return missing("target " + target)
		}
		if why := d.target.Refuses(l.Kit); why != "" {
			return bad("%s", why)
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	if d.repo, err = into.Open(into.Repo{Dir: dir, Folder: in.Folder, Target: d.target.ID, App: d.input.Name}); err != nil {
		return nil, bad("%s", err)
	}
	if before, err := d.repo.Record(); in.Texts || len(d.scene.W.Translated()) > 0 || err == nil && before.Texts {
		d.scene.WithTexts(&d.input)
	}
	return d, nil
}

func (s *Server) into(c *Call, in *intoIn, apply bool) (*intoOut, error) {
	to, err := s.destination(c, in)
	if err != nil {
		return nil, err
	}
	r, t, input := to.repo, to.target, to.input
	defer r.Close()
	byHand, said := r.Settle(c.Context(), t, input)
	files, notes, err := r.Files(c.Context(), t, input)
	if err != nil {
		return nil, bad("%s", err)
	}
	d, err := r.Plan(c.Context(), record.Of(input, t.ID), files)
	if err != nil {
		return nil, bad("%s", err)
	}
	if apply {
		if err := r.Apply(d, in.Connect, false); err != nil {
			return nil, bad("%s", err)
		}
	}
	out := &intoOut{
		Folder: r.Folder, Target: t.ID, Changes: []ChangeView{}, Additions: []AdditionView{},
		Notes: notes, Said: d.Notes, Patch: r.Patch(d, true), ByHand: byHand,
	}
	if said != "" {
		out.Said = append(out.Said, said)
	}
	edits := r.Edits()
	for _, ch := range d.Changes {
		v := ChangeView{Change: ch}
		if p := record.Patch([]record.Change{ch}, ""); len(p) <= maxShown {
			v.Patch = p
		}
		if p := edits[ch.Path]; len(p) <= maxShown {
			v.Hand = p
		}
		out.Changes = append(out.Changes, v)
	}
	for _, a := range d.Additions {
		v := AdditionView{Addition: a}
		if a.Is != nil {
			v.Patch = record.Patch([]record.Change{{Path: a.Path, Was: a.Was, Is: a.Is}}, "")
		}
		out.Additions = append(out.Additions, v)
	}
	return out, nil
}
