package server

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/change"
	"ubiquant/core/kit"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/source"
	"ubiquant/server/store"
)

// theRepository is who decides what a repository's settings and comments say.
const theRepository = "the repository"

// reread brings screens that were read from code up to what their repository holds now, as one
// change that is in the history and can be taken back, with what its settings and comments decided
// since. What people decided here stays.
func (r *Running) reread(ctx context.Context, l *store.Live, o *Options) error {
	now := o.Workspace
	base := &source.Settings{}
	if o.Code != nil {
		text, err := r.Store.CodeSettings(ctx, o.Code.Name)
		if err != nil {
			return err
		}
		base = source.SettingsBefore(text)
	}
	var steps []change.Step
	drawn, err := r.redrawn(ctx, l, o)
	if err != nil {
		return err
	}
	err = l.Read(ctx, func(l *live.Live, _ int64) error {
		if l.W.Kit.Name != now.Kit.Name {
			return fmt.Errorf("the database holds a workspace on %s, and the repository uses %s: give it a database of its own with --data", l.W.Kit.Name, now.Kit.Name)
		}
		var kept []string
		steps, r.Reread, kept = renewed(l.W, now)
		for _, k := range kept {
			r.Said = append(r.Said, k+" is in the code no more; what was assembled here uses it, so that it stays as it was")
		}
		if o.Code != nil {
			more, taken, said := change.Decisions(l.W, l.Cat, l, base, &o.Code.Settings, now.Stands, theRepository, l.Today)
			r.Decided, r.Said = taken, append(r.Said, said...)
			steps = append(steps, more...)
		}
		if drawn != nil {
			steps = append([]change.Step{drawn}, steps...)
		}
		return nil
	})
	if err != nil || len(steps) == 0 {
		return err
	}
	title := fmt.Sprintf("Read %d screens and parts of the repository again", r.Reread)
	if r.Reread == 0 && drawn != nil {
		title = "Read the repository's own components again"
	}
	if r.Decided > 0 {
		title += fmt.Sprintf(", and %d decisions", r.Decided)
	}
	return l.Take(ctx, theRepository, 0,
		func(*live.Live) (change.Change, error) { return change.Change{Title: title, Steps: steps}, nil },
		func(*live.Live, store.Outcome) error { return nil })
}

// redrawn puts the workspace on what draws the repository's own components now, where their code has
// changed; nil where it has not. A library that is installed otherwise now waits in Intake, as what it
// means for the screens is looked at there.
func (r *Running) redrawn(ctx context.Context, l *store.Live, o *Options) (*change.TakeKit, error) {
	if o.Kit == nil || o.Code == nil {
		return nil, nil
	}
	var was model.KitRef
	if err := l.Read(ctx, func(l *live.Live, _ int64) error { was = l.W.Kit; return nil }); err != nil {
		return nil, err
	}
	if was.Hash == o.Kit.Hash() || was.Name != o.Kit.Meta.Name {
		return nil, nil
	}
	if _, err := r.Store.PutKit(ctx, o.Kit, theRepository); err != nil {
		return nil, err
	}
	before, err := r.Store.Kit(ctx, was)
	if err != nil {
		return nil, err
	}
	beside := func(a *pack.Archive) string {
		names := []string{}
		for _, p := range a.Parts {
			if p.Meta.Name != kit.Outlines {
				names = append(names, p.Meta.Name)
			}
		}
		slices.Sort(names)
		return strings.Join(names, "\n")
	}
	if !strings.HasPrefix(was.Name, "./") || beside(before.From) != beside(o.Kit) {
		r.Said = append(r.Said, "what draws "+was.Name+" is not as it was: the kit as it is now waits in Intake")
		return nil, nil
	}
	return &change.TakeKit{Kit: o.Workspace.Kit}, nil
}

// renewed are the steps from the documents read before to those read now, how many were read anew,
// and what is in use though the code has it no more: it stays as it was.
func renewed(was, now *model.Workspace) (steps []change.Step, read int, kept []string) {
	text := func(d *screen.Document) string {
		plain := *d
		plain.Revision, plain.Signed, plain.Made = 0, nil, "" // what is only older now is not read anew
		var w screen.Writer
		model.WriteDocument(&w, &plain)
		return string(w.B)
	}
	before, after := map[string]*screen.Document{}, map[string]*screen.Document{}
	for _, d := range was.Docs {
		if d.Source != "" {
			before[d.Address()] = d
		}
	}
	for _, d := range now.Docs {
		after[d.Address()] = d
	}
	changed := map[string]bool{}
	for address, d := range before {
		if next, ok := after[address]; !ok || text(next) != text(d) {
			changed[address] = true
		}
	}
	for address := range after {
		if before[address] == nil {
			changed[address] = true
		}
	}
	if len(changed) == 0 {
		return nil, 0, nil
	}
	fresh := func(screens bool) {
		for _, d := range now.Docs { // parts stand before what uses them
			if before[d.Address()] == nil && (d.Kind == screen.ScreenDoc) == screens {
				made := *d
				made.Revision = 1
				steps = append(steps, &change.Create{Kind: d.Kind, Document: &made})
				read++
			}
		}
	}
	// A screen that is gone leaves its route to others; a part goes once nothing uses it.
	gone := map[string]bool{}
	for _, d := range was.Docs {
		if address := d.Address(); before[address] != nil && after[address] == nil {
			if d.Kind == screen.ScreenDoc {
				steps = append(steps, &change.Discard{Doc: address})
			} else {
				gone[address] = true
			}
		}
	}
	fresh(false)
	for _, d := range now.Docs {
		if before[d.Address()] != nil && changed[d.Address()] {
			next := *d
			next.Revision = 0
			steps = append(steps, &change.Renew{Document: &next})
			read++
		}
	}
	fresh(true)
	// What was assembled here may use a part that the code has no more: that stays.
	stays := slices.DeleteFunc(slices.Clone(was.Docs), func(d *screen.Document) bool { return d.Source != "" })
	stays = append(stays, now.Docs...)
	for again := true; again; {
		again = false
		for _, d := range was.Docs {
			address := d.Address()
			used := func(o *screen.Document) bool {
				return o != d && uses(o, map[string]bool{address: true})
			}
			if !gone[address] || slices.ContainsFunc(stays, used) ||
				slices.ContainsFunc(was.Docs, func(o *screen.Document) bool { return gone[o.Address()] && used(o) }) {
				continue
			}
			delete(gone, address)
			steps = append(steps, &change.Discard{Doc: address})
			again = true
		}
	}
	return steps, read, slices.Sorted(maps.Keys(gone))
}

// uses reports whether a document uses one of others: as a piece in it, or as the shell around it.
func uses(d *screen.Document, others map[string]bool) bool {
	if d.Shell != "" && others[string(screen.ShellDoc)+":"+d.Shell] {
		return true
	}
	found := false
	d.Root.Walk(func(e, _ *screen.Element) bool {
		if id, ok := strings.CutPrefix(e.Type, screen.PiecePrefix); ok && others[string(screen.PieceDoc)+":"+id] {
			found = true
		}
		return !found
	})
	return found
}
