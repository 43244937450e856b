package api

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/gofiber/fiber/v3"

	"ubiquant/core/carry"
	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/server/store"
)

// KitView is a stored kit in the list of Intake.
type KitView struct {
	store.KitRow
	State string `json:"state"` // in use, waits, left, beside the one in use
	// Kind says what it would be here: this kit, a newer or an older version of it, another.
	Kind string `json:"kind"`
}

type kitsOut struct {
	Kits []KitView `json:"kits"`
}

func kitView(row store.KitRow, l *live.Live) KitView {
	v := KitView{KitRow: row, State: "waits", Kind: "another"}
	beside := slices.ContainsFunc(l.Kit.Parts, func(p kit.Part) bool { return p.Name == row.Name && p.Version == row.Version })
	switch {
	case row.Hash == l.W.Kit.Hash:
		v.State, v.Kind = "in use", "this"
	case beside:
		v.State, v.Kind = "beside", "part"
	case row.LeftAt != nil:
		v.State = "left"
	}
	if row.Name == l.W.Kit.Name && v.Kind != "this" {
		v.Kind = "version"
	}
	return v
}

func (s *Server) kits(c *Call, _ *none) (*kitsOut, error) {
	rows, err := s.Store.Kits(c.Context())
	if err != nil {
		return nil, err
	}
	out := &kitsOut{Kits: []KitView{}}
	return out, s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		for _, row := range rows {
			// The kit in use with its parts is told; the same with others, and without any, was before.
			was := row.Name == l.Kit.Name && row.Hash != l.W.Kit.Hash &&
				(row.Version == l.Kit.Published() && len(l.Kit.Parts) > 0 || strings.Contains(row.Version, "+") && row.LeftAt != nil)
			if !was {
				out.Kits = append(out.Kits, kitView(row, l))
			}
		}
		return nil
	})
}

// uploadKit takes a packed kit as a file.
func (s *Server) uploadKit(c fiber.Ctx) error {
	a, err := pack.Read(slices.Clone(c.Body()))
	if err != nil {
		return problem(422, "This is no kit that can be taken", err.Error())
	}
	u, _ := c.Locals("user").(store.User)
	row, err := s.Store.PutKit(c.Context(), a, u.Name)
	if err != nil {
		return err
	}
	return c.JSON(row)
}

type kitIn struct {
	Hash string `path:"hash"`
}

// BatchEntry is a component of a kit that is reviewed.
type BatchEntry struct {
	*kit.Component
	Change  string   `json:"change"` // new, changed, same, gone
	Changes []string `json:"changes"`
	Breaks  bool     `json:"breaks"` // what stands on screens may not go on as it is
	Uses    int      `json:"uses"`
	Screens int      `json:"screens"`
}

type batchOut struct {
	Kit     KitView         `json:"kit"`
	Title   string          `json:"title"`
	Meta    pack.Meta       `json:"meta"`
	Frame   string          `json:"frame"`
	Themes  []string        `json:"themes"`
	Go      string          `json:"go"`
	Entries []BatchEntry    `json:"entries"`
	Others  []string        `json:"others"` // what differs in tokens and icons
	Left    []describe.Left `json:"left"`
	System  []describe.Prop `json:"system"`
	Known   map[string]int  `json:"known"` // props by where they are known from
	Named   []kit.Family    `json:"named"` // families
	Unfit   []string        `json:"unfit"` // what of the team's own would not fit
	Parts   []PartView      `json:"parts"` // that stand beside the kit in use
}

// batch is a stored kit, beside the one in use.
func (s *Server) batch(c *Call, in *kitIn) (*batchOut, error) {
	b, err := s.stored(c.Context(), in.Hash)
	if err != nil {
		return nil, err
	}
	out := &batchOut{
		Title: b.Kit.Title, Meta: b.Meta, Frame: s.frameOf(b.Bundle), Themes: b.Kit.Tokens.Themes, Go: b.Kit.Code.Go,
		Entries: []BatchEntry{}, Others: []string{}, Left: []describe.Left{}, System: []describe.Prop{},
		Known: map[string]int{}, Named: b.Kit.Families, Unfit: []string{}, Parts: []PartView{},
	}
	if b.Catalog != nil {
		out.Left = append(out.Left, b.Catalog.Left...)
		out.System = append(out.System, b.Catalog.System...)
	}
	return out, s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		out.Kit = kitView(b.row, l)
		is := l.Kit.Bare()
		same := is.Name == b.Kit.Name
		by := map[string][]kit.Difference{}
		if same {
			for _, d := range kit.Compare(is, b.Kit) {
				by[d.Component] = append(by[d.Component], d)
			}
		}
		entry := func(def *kit.Component, change string) BatchEntry {
			e := BatchEntry{Component: def, Change: change, Changes: []string{}}
			for _, d := range by[def.Tag] {
				e.Breaks = e.Breaks || d.Breaks
				e.Changes = append(e.Changes, d.String())
			}
			if same {
				n := l.Index.CountOf(def.Tag)
				e.Uses, e.Screens = n.Uses, n.Screens
			}
			return e
		}
		for _, def := range b.Kit.Components {
			how := "new"
			if _, known := is.Component(def.Tag); known && same {
				if how = "same"; len(by[def.Tag]) > 0 {
					how = "changed"
				}
			}
			out.Entries = append(out.Entries, entry(def, how))
			for _, p := range def.Props {
				out.Known[p.From]++
			}
		}
		if same {
			for _, def := range is.Components {
				if _, still := b.Kit.Component(def.Tag); !still {
					out.Entries = append(out.Entries, entry(def, "gone"))
				}
			}
		}
		for _, d := range by[""] {
			out.Others = append(out.Others, d.String())
		}
		out.Parts = partsOf(l)
		out.Unfit = append(out.Unfit, b.dropped...)
		_, unfit := l.W.Own.Dress(b.Kit)
		for _, err := range unfit {
			out.Unfit = append(out.Unfit, err.Error())
		}
		return nil
	})
}

// stored finds a kit that somebody brought in.
func (s *Server) stored(ctx context.Context, hash string) (*review, error) {
	rows, err := s.Store.Kits(ctx)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(rows, func(r store.KitRow) bool { return r.Hash == hash })
	if i < 0 {
		return nil, missing("kit " + hash)
	}
	out := &review{row: rows[i]}
	if out.Bundle, err = s.Store.Kit(ctx, model.KitRef{Hash: hash}); err != nil {
		return nil, err
	}
	var ref model.KitRef
	if err = s.Live.Read(ctx, func(l *live.Live, _ int64) error { ref = l.W.Kit; return nil }); err != nil {
		return nil, err
	}
	out.Bundle, out.dropped, err = s.withParts(ctx, out.Bundle, ref)
	return out, err
}

// review is a stored kit that is looked at, with what stands beside the one in use where it is a
// version of that.
type review struct {
	*pack.Bundle
	row     store.KitRow
	dropped []string // what of the parts does not go with it
}

type kitTreesIn struct {
	Hash string `path:"hash"`
	treesIn
}

// renderOn renders trees on a kit that is reviewed.
func (s *Server) renderOn(c *Call, in *kitTreesIn) (*pagesOut, error) {
	b, err := s.Store.Kit(c.Context(), model.KitRef{Hash: in.Hash})
	if errors.Is(err, store.ErrNotFound) {
		return nil, missing("kit " + in.Hash)
	}
	if err != nil {
		return nil, err
	}
	roots, err := in.read()
	if err != nil {
		return nil, err
	}
	out := &pagesOut{Pages: []Page{}}
	return out, s.onScene(c.Context(), func(l *live.Scene) error {
		on := l.On(b.Kit, nil)
		for _, root := range roots {
			d := &screen.Document{Kind: screen.PieceDoc, ID: "tile", Root: root}
			out.Pages = append(out.Pages, pageOf(on, d, root, live.View{}))
		}
		return nil
	})
}

type leaveIn struct {
	Hash string `path:"hash"`
	Back bool   `json:"back,omitempty"` // take it up again
}

func (s *Server) leaveKit(c *Call, in *leaveIn) (*none, error) {
	err := s.Store.LeaveKit(c.Context(), in.Hash, in.Back)
	if errors.Is(err, store.ErrNotFound) {
		return nil, missing("kit " + in.Hash)
	}
	return nil, err
}

type carryIn struct {
	Hash string `path:"hash"`
	// Decide are components about which somebody decides; what was decided before counts
	// along.
	Decide []Decision `json:"decide,omitempty"`
	File   string     `json:"file,omitempty"` // a mapping file, in place of what was decided before
}

// Decision says what becomes of a component; an empty To that it has no counterpart.
type Decision struct {
	From string `json:"from"`
	To   string `json:"to"`
	Back bool   `json:"back,omitempty"` // the proposal counts again
}

type carryOut struct {
	Mapping  carry.Mapping  `json:"mapping"`
	Coverage carry.Coverage `json:"coverage"`
	Result   carry.Result   `json:"result"`
	Docs     []string       `json:"docs"` // documents that differ
	LostAll  int            `json:"lostAll"`
	Uses     map[string]int `json:"uses"` // elements by component
}

// mostLost is how many losses are listed at once.
const mostLost = 400

// mapped proposes what becomes of the workspace's components on a kit, with what was
// decided.
func (s *Server) mapped(ctx context.Context, w *model.Workspace, is *kit.Kit, b *pack.Bundle) (carry.Mapping, error) {
	m := carry.Propose(is, b.Kit, string(b.Files[pack.Package+"CHANGELOG.md"]))
	src, err := s.Store.Mapping(ctx, w.Kit.Name, b.Kit.Name)
	if err != nil || src == nil {
		return m, err
	}
	decided, err := carry.Read(src, is, b.Kit)
	if err != nil { // it speaks of versions that are gone; what still holds is taken
		decided = carry.Loose(src)
	}
	return m.With(decided, is, b.Kit), nil
}

// carryOver computes the screens on another kit, and takes decisions about it.
func (s *Server) carryOver(c *Call, in *carryIn) (*carryOut, error) {
	if (len(in.Decide) > 0 || in.File != "") && c.User.Role.Rank() < store.Builder.Rank() {
		return nil, problem(403, "Not allowed", "deciding needs the role builder; yours is "+string(c.User.Role))
	}
	b, err := s.stored(c.Context(), in.Hash)
	if err != nil {
		return nil, err
	}
	out := &carryOut{Docs: []string{}, Uses: map[string]int{}}
	var w *model.Workspace
	var is *kit.Kit
	err = s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		w, is = l.W, l.Kit.Bare()
		for _, def := range is.Components {
			if n := l.Index.CountOf(def.Tag); n.Uses > 0 {
				out.Uses[def.Tag] = n.Uses
			}
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	if in.File != "" {
		m, err := carry.Read([]byte(in.File), is, b.Kit)
		if err != nil {
			return nil, bad("the mapping: %s", err)
		}
		for i := range m.Components {
			m.Components[i].Decided = c.User.Name
		}
		if err := s.Store.PutMapping(c.Context(), w.Kit.Name, b.Kit.Name, c.User.Name, m.Write()); err != nil {
			return nil, err
		}
	}
	m, err := s.mapped(c.Context(), w, is, b.Bundle)
	if err != nil {
		return nil, err
	}
	if len(in.Decide) > 0 {
		if m, err = s.decide(c, w, is, b.Bundle, m, in.Decide); err != nil {
			return nil, err
		}
	}
	out.Mapping, out.Coverage = m, m.Cover(out.Uses)
	out.Result = carry.Over(w, is, b.Kit, &m)
	for _, d := range out.Result.Docs {
		out.Docs = append(out.Docs, d.Doc)
	}
	if out.LostAll = len(out.Result.Lost); out.LostAll > mostLost {
		out.Result.Lost = out.Result.Lost[:mostLost]
	}
	return out, nil
}

// decide keeps decisions and gives the mapping with them.
func (s *Server) decide(c *Call, w *model.Workspace, is *kit.Kit, b *pack.Bundle, m carry.Mapping, list []Decision) (carry.Mapping, error) {
	kept := carry.Mapping{From: m.From, To: m.To, Components: []carry.Component{}}
	for _, own := range m.Components {
		if own.Decided != "" && !slices.ContainsFunc(list, func(d Decision) bool { return d.From == own.From }) {
			kept.Components = append(kept.Components, own)
		}
	}
	for _, d := range list {
		if _, ok := is.Component(d.From); !ok {
			return m, missing("component " + d.From)
		}
		if _, ok := b.Kit.Component(d.To); !ok && d.To != "" {
			return m, bad("%s has no component %q", b.Kit.Title, d.To)
		}
		if !d.Back {
			kept.Components = append(kept.Components, carry.Component{From: d.From, To: d.To, Decided: c.User.Name})
		}
	}
	if err := s.Store.PutMapping(c.Context(), w.Kit.Name, b.Kit.Name, c.User.Name, kept.Write()); err != nil {
		return m, err
	}
	return s.mapped(c.Context(), w, is, b)
}

type kitPageIn struct {
	Hash string `path:"hash"`
	Doc  string `query:"doc"`
	Set  string `query:"set"`
}

// pageOn is a screen as it would be on another kit.
func (s *Server) pageOn(c *Call, in *kitPageIn) (*pagesOut, error) {
	b, err := s.stored(c.Context(), in.Hash)
	if err != nil {
		return nil, err
	}
	l, _, err := s.Live.Scene(c.Context())
	if err != nil {
		return nil, err
	}
	m, err := s.mapped(c.Context(), l.W, l.Kit.Bare(), b.Bundle)
	if err != nil {
		return nil, err
	}
	r := carry.Over(l.W, l.Kit.Bare(), b.Kit, &m)
	p, problems, err := l.On(b.Kit, r.Docs).Page(in.Doc, live.View{Set: in.Set})
	if err != nil {
		return nil, err
	}
	return &pagesOut{Pages: []Page{{Key: in.Doc, HTML: p.HTML, Props: p.Props, Problems: problems, Unsafe: p.Unsafe}}}, nil
}

type takeKitIn struct {
	Hash string `path:"hash"`
	// Without are entries that the team does not take; they are left out, with the reason.
	Without []string `json:"without,omitempty"`
	Client  string   `json:"client,omitempty"`
}

// takeKit puts the workspace on a kit, and carries all screens over, as one change.
func (s *Server) takeKit(c *Call, in *takeKitIn) (*changeOut, error) {
	b, err := s.stored(c.Context(), in.Hash)
	if err != nil {
		return nil, err
	}
	if b.Hash != in.Hash { // with the parts that stand beside the kit
		if _, err := s.keep(c, b.From); err != nil {
			return nil, err
		}
	}
	return s.take(c, &changeIn{Client: in.Client}, func(l *live.Live) (change.Change, error) {
		is := l.Kit.Bare()
		if l.W.Kit.Hash == b.Hash {
			return change.Change{}, bad("the workspace stands on it already")
		}
		m, err := s.mapped(c.Context(), l.W, is, b.Bundle)
		if err != nil {
			return change.Change{}, err
		}
		r := carry.Over(l.W, is, b.Kit, &m)
		out := change.Change{
			Title: fmt.Sprintf("Take %s %s in place of %s %s", b.Kit.Title, b.Kit.Version, is.Title, is.Version),
			Steps: []change.Step{&change.TakeKit{
				Kit: model.KitRef{Name: b.Kit.Name, Version: b.Kit.Version, Hash: b.Hash}, Docs: r.Docs,
			}},
		}
		for _, tag := range in.Without {
			out.Steps = append(out.Steps, &change.LeaveOut{Left: model.LeftOut{Tag: tag, Reason: "not taken when the kit was"}})
		}
		return out, nil
	})
}

// mappingFile sends what becomes of the kit in use on another, as an open file.
func (s *Server) mappingFile(c fiber.Ctx) error {
	b, err := s.stored(c.Context(), c.Params("hash"))
	if err != nil {
		return err
	}
	l, _, err := s.Live.Scene(c.Context())
	if err != nil {
		return err
	}
	m, err := s.mapped(c.Context(), l.W, l.Kit.Bare(), b.Bundle)
	if err != nil {
		return err
	}
	c.Set("Content-Type", "application/json")
	c.Set("Content-Disposition", `attachment; filename="`+describe.Short(l.W.Kit.Name)+`-to-`+b.Meta.Short+`.mapping.json"`)
	return c.Send(m.Write())
}

// kitFile sends a stored kit as it was packed, with what stands beside it.
func (s *Server) kitFile(c fiber.Ctx) error {
	a, err := s.Store.Archive(c.Context(), model.KitRef{Hash: c.Params("hash")})
	if err != nil {
		return missing("kit " + c.Params("hash"))
	}
	body, err := a.Bytes()
	if err != nil {
		return err
	}
	c.Set("Content-Type", "application/zip")
	c.Set("Content-Disposition", `attachment; filename="`+a.FileName()+`"`)
	return c.Send(body)
}
