package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"ubiquant/core/change"
	"ubiquant/core/live"
	"ubiquant/core/merge"
	"ubiquant/core/model"
	"ubiquant/core/wsfile"
	"ubiquant/server/repo"
	"ubiquant/server/store"
)

// merging is an import into a database that holds a workspace.
type merging struct {
	path, base, prefer string
	dry                bool
}

// errDry ends a transaction of which nothing is to stay.
var errDry = errors.New("nothing is written")

// run merges a workspace into the one that the database holds, as one change of its history.
func (m *merging) run(cmd *cobra.Command, st *store.Store, theirs *model.Workspace) error {
	var base *model.Workspace
	if m.base != "" {
		var err error
		if base, err = workspaceAt(cmd.Context(), m.path, m.base); err != nil {
			return &exitError{exitBroken, fmt.Errorf("--base: %w", err)}
		}
	}
	l, err := st.Load(cmd.Context(), 0, nil, today)
	if err != nil {
		return err
	}
	out := cmd.OutOrStdout()
	waits := false
	err = l.Take(cmd.Context(), "import", 0, func(w *live.Live) (change.Change, error) {
		r, err := merge.Three(base, w.W, theirs, m.prefer == "theirs")
		if r != nil {
			m.tell(out, r, w.W.Name)
		}
		if err != nil {
			return change.Change{}, &exitError{exitBroken, err}
		}
		waits = len(r.Conflicts) > 0 && m.prefer == "nobody"
		if waits || m.dry || len(r.Change.Steps) == 0 {
			return change.Change{}, errDry
		}
		return r.Change, nil
	}, func(*live.Live, store.Outcome) error { return nil })
	switch {
	case waits:
		return &exitError{exitFound, errors.New("nothing was written: what both changed is decided with --prefer ours or --prefer theirs, or there first")}
	case errors.Is(err, errDry):
		fmt.Fprintln(out, "Nothing was written.")
		return nil
	case err != nil:
		return err
	}
	fmt.Fprintln(out, "Merged, as one change that can be undone.")
	return nil
}

func (m *merging) tell(out io.Writer, r *merge.Result, name string) {
	fmt.Fprintf(out, "%s into %s: %d added, %d changed, %d gone, %s\n", m.path, name, len(r.Added), len(r.Changed), len(r.Gone), several(len(r.Conflicts), "conflict"))
	for _, list := range []struct {
		what  string
		names []string
	}{{"added", r.Added}, {"changed", r.Changed}, {"gone", r.Gone}} {
		for _, n := range list.names {
			fmt.Fprintf(out, "  %s %s\n", list.what, n)
		}
	}
	for _, c := range r.Conflicts {
		fmt.Fprintf(out, "  conflict %s\n", c)
	}
}

// workspaceAt reads a workspace from a file or a folder, or as path stood at a revision of git.
func workspaceAt(ctx context.Context, path, at string) (*model.Workspace, error) {
	if _, err := os.Stat(at); err == nil {
		w, _, err := readSource(at)
		return w, err
	}
	info, err := os.Stat(path)
	if err != nil {
		return nil, err
	}
	if !info.IsDir() {
		text, err := repo.FileAt(ctx, path, at)
		if err != nil {
			return nil, fmt.Errorf("%s is neither a file, a folder nor a revision of git that has %s: %w", at, path, err)
		}
		return wsfile.Read(text)
	}
	files, err := repo.Revision(ctx, path, at)
	if err != nil {
		return nil, err
	}
	for name := range files {
		if filepath.Ext(name) != ".json" || strings.HasPrefix(filepath.Base(name), ".") {
			delete(files, name)
		}
	}
	return wsfile.ReadFolder(files)
}
