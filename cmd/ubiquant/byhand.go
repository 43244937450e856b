package main

import (
	"encoding/json"
	"errors"
	"fmt"

	"github.com/spf13/cobra"

	"ubiquant/core/change"
	"ubiquant/core/deliver"
	"ubiquant/core/live"
	"ubiquant/server/into"
)

// hand tells what was edited by hand in delivered code, and takes it into the workspace.
func (f *delivering) hand(cmd *cobra.Command, workspace string, l *live.Live, r *into.Repo, t deliver.Target, in deliver.Input) error {
	broken := func(err error) error { return &exitError{exitBroken, err} }
	if f.take && workspace == "-" {
		return broken(errors.New("what comes by standard input cannot be written back; give a file or a folder"))
	}
	h, err := r.ByHand(cmd.Context(), t, in)
	if err != nil {
		return broken(err)
	}
	if f.take && len(h.Taken) > 0 {
		if _, err := l.Take(change.Change{Steps: h.Steps()}); err != nil {
			return broken(err)
		}
		if err := rewrite(workspace, l.W); err != nil {
			return broken(err)
		}
	}
	w := cmd.OutOrStdout()
	if f.format == "json" {
		if err := json.NewEncoder(w).Encode(h); err != nil {
			return err
		}
	} else {
		fmt.Fprintf(w, "%d files edited in %s\n", h.Files, r.Folder)
		done := "can be taken into the screens; --take does"
		if f.take {
			done = "taken into the screens"
		}
		fmt.Fprintf(w, "  %4d edits %s\n", len(h.Taken), done)
		for _, x := range h.Taken {
			fmt.Fprintf(w, "       %s:%d %s %s: %s\n", x.Path, x.Line, x.Doc, x.Element, x.Says)
		}
		fmt.Fprintf(w, "  %4d stay in the code alone\n", len(h.Left))
		for _, x := range h.Left {
			fmt.Fprintf(w, "       %s:%d %s: %s\n", x.Path, x.Line, x.What, x.Why)
		}
	}
	if len(h.Left) > 0 {
		return &exitError{exitFound, fmt.Errorf("%d edits stay in the code alone", len(h.Left))}
	}
	return nil
}
