package api

import (
	"maps"
	"slices"

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
}

type repositoriesOut struct {
	Repositories []RepositoryView `json:"repositories"`
}

func (s *Server) listRepositories(_ *Call, _ *none) (*repositoriesOut, error) {
	out := &repositoriesOut{Repositories: []RepositoryView{}}
	for _, name := range slices.Sorted(maps.Keys(s.repositories)) {
		v := RepositoryView{Name: name}
		r, err := into.Open(into.Repo{Dir: s.repositories[name], Folder: "."})
		if err != nil {
			v.Problem = "It cannot be opened on the server."
			s.Log.Warn("a repository cannot be opened", "name", name, "error", err)
		} else {
			v.Target, v.Version = r.Detect()
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
}

// ChangeView is what a delivery does to a file.
type ChangeView struct {
	record.Change
	Patch string `json:"patch,omitempty"`
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
}

// planInto says what delivering into a repository would do.
func (s *Server) planInto(c *Call, in *intoIn) (*intoOut, error) {
	return s.into(c, in, false)
}

// deliverInto does it.
func (s *Server) deliverInto(c *Call, in *intoIn) (*intoOut, error) {
	return s.into(c, in, true)
}

// maxShown bounds the patch of one file that is sent to be looked at, in bytes.
const maxShown = 64 << 10

func (s *Server) into(c *Call, in *intoIn, apply bool) (*intoOut, error) {
	dir, ok := s.repositories[in.Repository]
	if !ok {
		return nil, missing("repository " + in.Repository)
	}
	var input deliver.Input
	var t deliver.Target
	var scene *live.Scene
	err := s.onScene(c.Context(), func(l *live.Scene) error {
		scene = l
		b, err := s.kitOf(c.Context(), l.W)
		if err != nil {
			return err
		}
		if input, err = l.DeliverInput(in.App, in.Screens, b.DeliverFiles()); err != nil {
			return bad("%s", err)
		}
		input.Take(b)
		target := in.Target
		if found, _ := (&into.Repo{Dir: dir}).Detect(); found != "" {
			target = found
		}
		if t, ok = targets.Find(target); !ok {
			return missing("target " + target)
		}
		if why := t.Refuses(l.Kit); why != "" {
			return bad("%s", why)
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	r, err := into.Open(into.Repo{Dir: dir, Folder: in.Folder, Target: t.ID, App: input.Name})
	if err != nil {
		return nil, bad("%s", err)
	}
	defer r.Close()
	if before, err := r.Record(); in.Texts || len(scene.W.Translated()) > 0 || err == nil && before.Texts {
		scene.WithTexts(&input)
	}
	files, notes, err := r.Files(t, input)
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
	out := &intoOut{Folder: r.Folder, Target: t.ID, Changes: []ChangeView{}, Additions: []AdditionView{}, Notes: notes, Said: d.Notes, Patch: r.Patch(d, true)}
	for _, ch := range d.Changes {
		v := ChangeView{Change: ch}
		if p := record.Patch([]record.Change{ch}, ""); len(p) <= maxShown {
			v.Patch = p
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
