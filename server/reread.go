package server

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/server/store"
)

// reread brings screens that were read from code up to what their repository holds now, as one
// change that is in the history and can be taken back. What people decided about them stays. It
// tells how many documents were read anew, and which are in use though the code has them no more.
func reread(ctx context.Context, l *store.Live, now *model.Workspace) (read int, kept []string, err error) {
	var steps []change.Step
	err = l.Read(ctx, func(l *live.Live, _ int64) error {
		if l.W.Kit.Name != now.Kit.Name {
			return fmt.Errorf("the database holds a workspace on %s, and the repository uses %s: give it a database of its own with --data", l.W.Kit.Name, now.Kit.Name)
		}
		steps, read, kept = renewed(l.W, now)
		return nil
	})
	if err != nil || len(steps) == 0 {
		return 0, kept, err
	}
	title := fmt.Sprintf("Read %d screens and parts of the repository again", read)
	err = l.Take(ctx, "the repository", 0,
		func(*live.Live) (change.Change, error) { return change.Change{Title: title, Steps: steps}, nil },
		func(*live.Live, store.Outcome) error { return nil })
	return read, kept, err
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
