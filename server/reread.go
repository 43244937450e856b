package server

import (
	"context"
	"fmt"
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
// tells how many documents were read anew.
func reread(ctx context.Context, l *store.Live, now *model.Workspace) (int, error) {
	var steps []change.Step
	read := 0
	err := l.Read(ctx, func(l *live.Live, _ int64) error {
		if l.W.Kit.Name != now.Kit.Name {
			return fmt.Errorf("the database holds a workspace on %s, and the repository uses %s: give it a database of its own with --data", l.W.Kit.Name, now.Kit.Name)
		}
		steps, read = renewed(l.W, now)
		return nil
	})
	if err != nil || len(steps) == 0 {
		return 0, err
	}
	title := fmt.Sprintf("Read %d screens and parts of the repository again", read)
	err = l.Take(ctx, "the repository", 0,
		func(*live.Live) (change.Change, error) { return change.Change{Title: title, Steps: steps}, nil },
		func(*live.Live, store.Outcome) error { return nil })
	return read, err
}

// renewed are the steps from the documents read before to those read now: what changed, and what
// stands in or around it, gives way and is made anew.
func renewed(was, now *model.Workspace) (steps []change.Step, read int) {
	text := func(d *screen.Document) string {
		plain := *d
		plain.Revision, plain.Signed = 0, nil
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
		return nil, 0
	}
	// What uses something that gives way gives way with it.
	for again := true; again; {
		again = false
		for address, d := range before {
			if !changed[address] && uses(d, changed) {
				changed[address], again = true, true
			}
		}
	}
	// Those that nothing uses any more go first.
	left := map[string]bool{}
	for address := range before {
		left[address] = changed[address]
	}
	for {
		gone := ""
		for _, d := range was.Docs {
			address := d.Address()
			if left[address] && !slices.ContainsFunc(was.Docs, func(o *screen.Document) bool {
				return o != d && left[o.Address()] && uses(o, map[string]bool{address: true})
			}) {
				gone = address
				break
			}
		}
		if gone == "" {
			break
		}
		delete(left, gone)
		steps = append(steps, &change.Discard{Doc: gone})
	}
	for _, d := range now.Docs { // parts stand before what uses them
		if changed[d.Address()] {
			made := *d
			made.Revision = 1
			steps = append(steps, &change.Create{Kind: d.Kind, Document: &made})
			read++
		}
	}
	return steps, read
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
