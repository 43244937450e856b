package api

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"ubiquant/core/carry"
	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/model"
)

// PartView is a part from elsewhere beside the kit in use.
type PartView struct {
	kit.Part
	Components []string `json:"components"`
	Uses       int      `json:"uses"` // elements
	Screens    int      `json:"screens"`
}

type besideOut struct {
	// Problem says why it cannot stand beside the kit; empty where it can.
	Problem string `json:"problem,omitempty"`
	Beside  string `json:"beside"` // title of the kit in use
	// Taken says what of it stands there already.
	Taken      []string            `json:"taken"`
	Ties       []kit.Tie           `json:"ties"`
	Properties []describe.Proposal `json:"properties"` // what of it can follow the kit's tokens
	Tokens     []kit.Token         `json:"tokens"`
	Themes     []string            `json:"themes"`
}

// beside tells how a stored kit would stand beside the one in use.
func (s *Server) beside(c *Call, in *kitIn) (*besideOut, error) {
	part, base, err := s.both(c.Context(), in.Hash)
	if err != nil {
		return nil, err
	}
	is, err := base.Own().Kit()
	if err != nil {
		return nil, err
	}
	out := &besideOut{Beside: is.Title, Taken: []string{}, Ties: []kit.Tie{}, Properties: describe.Ties(part.Customs(), is.Tokens), Tokens: is.Tokens.List, Themes: is.Tokens.Themes}
	for _, p := range base.Parts {
		if p.Meta.Name == part.Meta.Name {
			out.Taken, out.Ties = p.Use.Components, append(out.Ties, p.Use.Ties...)
		}
	}
	all := make([]string, 0, len(part.Catalog.Entries))
	for _, e := range part.Catalog.Entries {
		all = append(all, e.ID)
	}
	if _, err := joined(base, part, pack.Use{Components: all}); err != nil {
		out.Problem = err.Error()
	}
	return out, nil
}

// both are a stored kit, and the one in use with its parts.
func (s *Server) both(ctx context.Context, hash string) (part, base *pack.Archive, err error) {
	if part, err = s.Store.Archive(ctx, model.KitRef{Hash: hash}); err != nil {
		return nil, nil, missing("kit " + hash)
	}
	var ref model.KitRef
	if err = s.Live.Read(ctx, func(l *live.Live, _ int64) error { ref = l.W.Kit; return nil }); err != nil {
		return nil, nil, err
	}
	base, err = s.Store.Archive(ctx, ref)
	return part, base, err
}

// joined is the kit in use with a part in place of what stood there of its package; without
// components it is taken out.
func joined(base, part *pack.Archive, use pack.Use) (*pack.Archive, error) {
	if part.Meta.Name == base.Meta.Name {
		return nil, fmt.Errorf("it is the kit in use itself")
	}
	var parts []pack.Part
	for _, p := range base.Parts {
		if p.Meta.Name != part.Meta.Name {
			parts = append(parts, p)
		}
	}
	if len(use.Components) > 0 {
		parts = append(parts, pack.Part{Archive: part, Use: use})
	}
	return base.Beside(parts)
}

type besideIn struct {
	Hash string `path:"hash"`
	// Components are those that stand beside the kit then; none takes it out again.
	Components []string  `json:"components"`
	Ties       []kit.Tie `json:"ties,omitempty"`
	Client     string    `json:"client,omitempty"`
}

type besideLook struct {
	Hash    string `json:"hash"`
	Version string `json:"version"`
	Frame   string `json:"frame"`
	// Sheet is the style sheet by which it follows the tokens.
	Sheet string `json:"sheet"`
	// Lost is what no longer has a counterpart on screens.
	Lost []carry.Lost `json:"lost"`
}

// lookBeside makes the kit in use with the part, to be looked at.
func (s *Server) lookBeside(c *Call, in *besideIn) (*besideLook, error) {
	part, base, err := s.both(c.Context(), in.Hash)
	if err != nil {
		return nil, err
	}
	a, err := joined(base, part, pack.Use{Components: in.Components, Ties: in.Ties})
	if err != nil {
		return nil, bad("%s", err)
	}
	b, err := a.Bundle()
	if err != nil {
		return nil, bad("%s", err)
	}
	s.Store.Offer(b)
	out := &besideLook{Hash: b.Hash, Version: b.Kit.Version, Frame: s.frameOf(b), Lost: []carry.Lost{}}
	for _, p := range b.Parts {
		if p.Meta.Name == part.Meta.Name {
			out.Sheet = p.Ties
		}
	}
	return out, s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		m := carry.Propose(l.Kit.Bare(), b.Kit, "")
		out.Lost = append(out.Lost, carry.Over(l.W, l.Kit.Bare(), b.Kit, &m).Lost...)
		return nil
	})
}

// takeBeside puts the workspace on the kit in use with the part, or without it, as one change.
func (s *Server) takeBeside(c *Call, in *besideIn) (*changeOut, error) {
	part, base, err := s.both(c.Context(), in.Hash)
	if err != nil {
		return nil, err
	}
	a, err := joined(base, part, pack.Use{Components: in.Components, Ties: in.Ties})
	if err != nil {
		return nil, bad("%s", err)
	}
	hash, err := s.keep(c, a)
	if err != nil {
		return nil, err
	}
	b, err := s.Store.Kit(c.Context(), model.KitRef{Hash: hash})
	if err != nil {
		return nil, err
	}
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		is := l.Kit.Bare()
		if l.W.Kit.Hash == b.Hash {
			return change.Change{}, bad("it stands there so already")
		}
		if is.Published() != b.Kit.Published() {
			return change.Change{}, problem(409, "The kit has changed", "the workspace stands on another version of the kit by now: look at it once more")
		}
		m := carry.Propose(is, b.Kit, "")
		title := fmt.Sprintf("Take %s %s beside %s", cmp.Or(part.Meta.Title, part.Meta.Name), part.Meta.Version, is.Title)
		switch {
		case len(in.Components) == 0:
			title = fmt.Sprintf("Take %s out, beside %s", cmp.Or(part.Meta.Title, part.Meta.Name), is.Title)
		case slices.ContainsFunc(is.Parts, func(p kit.Part) bool { return p.Name == part.Meta.Name }):
			title = fmt.Sprintf("Change how %s stands beside %s", cmp.Or(part.Meta.Title, part.Meta.Name), is.Title)
		}
		return change.Change{Title: title, Steps: []change.Step{&change.TakeKit{
			Kit:  model.KitRef{Name: b.Kit.Name, Version: b.Kit.Version, Hash: b.Hash},
			Docs: carry.Over(l.W, is, b.Kit, &m).Docs,
		}}}, nil
	})
}

// keep stores a kit with its parts, as it is made here: it waits for nobody to look at it.
func (s *Server) keep(c *Call, a *pack.Archive) (hash string, err error) {
	row, err := s.Store.PutKit(c.Context(), a, c.User.Name)
	if err == nil && len(a.Parts) > 0 {
		err = s.Store.LeaveKit(c.Context(), row.Hash, false)
	}
	return row.Hash, err
}

// withParts is a version of the kit in use with the parts that stand beside that. dropped says what
// follows a token no more, because the version has none of it.
func (s *Server) withParts(ctx context.Context, b *pack.Bundle, ref model.KitRef) (out *pack.Bundle, dropped []string, err error) {
	if b.Meta.Name != ref.Name || len(b.Parts) > 0 {
		return b, nil, nil
	}
	is, err := s.Store.Kit(ctx, ref)
	if err != nil || len(is.Parts) == 0 {
		return b, nil, err
	}
	base, err := s.Store.Archive(ctx, ref)
	if err != nil {
		return nil, nil, err
	}
	next, err := s.Store.Archive(ctx, model.KitRef{Hash: b.Hash})
	if err != nil {
		return nil, nil, err
	}
	parts := slices.Clone(base.Parts)
	for i, p := range parts {
		kept := []kit.Tie{}
		for _, t := range p.Use.Ties {
			if _, ok := b.Kit.Tokens.Find(t.Token); ok {
				kept = append(kept, t)
				continue
			}
			dropped = append(dropped, fmt.Sprintf("%s of %s follows %s, which %s %s does not have", t.Property, is.Kit.Parts[i].Title, t.Token, b.Kit.Title, b.Kit.Version))
		}
		parts[i].Use.Ties = kept
	}
	a, err := next.Beside(parts)
	if err != nil { // a component of the new version has the name of one beside it
		return b, append(dropped, err.Error()), nil
	}
	if out, err = a.Bundle(); err == nil {
		s.Store.Offer(out)
	}
	return out, dropped, err
}

// partsOf are the parts beside the kit in use.
func partsOf(l *live.Live) []PartView {
	out := []PartView{}
	for i, p := range l.Kit.Parts {
		v := PartView{Part: p, Components: []string{}}
		for _, def := range l.Kit.Components {
			if def.Part == i+1 {
				n := l.Index.CountOf(def.Tag)
				v.Components = append(v.Components, def.Title)
				v.Uses, v.Screens = v.Uses+n.Uses, v.Screens+n.Screens
			}
		}
		out = append(out, v)
	}
	return out
}
