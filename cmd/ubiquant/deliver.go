package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"ubiquant/core/audit"
	"ubiquant/core/deliver"
	"ubiquant/core/deliver/record"
	"ubiquant/core/deliver/targets"
	"ubiquant/core/live"
	"ubiquant/server/into"
)

// delivering are the flags of a delivery.
type delivering struct {
	target, kit, out, into, folder, app, format string
	screens                                     []string
	dry, check, connect, force, texts           bool
	byHand, take                                bool
}

func deliverCommand() *cobra.Command {
	var f delivering
	names := []string{}
	for _, t := range targets.All() {
		names = append(names, t.ID+": "+t.Purpose)
	}
	c := &cobra.Command{
		Use:   "deliver WORKSPACE --into REPOSITORY | --out DIR",
		Short: "Write screens as code: into a repository of yours, or as an application that runs",
		Long: `Writes chosen screens, or all of an application, as code.

Into a repository it writes a folder of its own, and says what else the application needs:
packages, routes, settings, styles; --connect makes these additions. Delivered again, files
that nobody touched are renewed, files that you edited are merged with what is new, and where
both changed the same lines yours stay and the new text is put beside them, ending in
` + record.Beside + `. Files that end in .own.ts and .own.css, data/data.ts and data/bases.ts
are yours: they are written once. ` + record.File + ` says what was delivered; commit it.

--by-hand reads what you edited in the code of a screen (a setting, a word, an element more or
less, another order) as an edit of the screen, and says what stays in the code alone; --take
takes it into the workspace.

Targets:
  ` + strings.Join(names, "\n  ") + `

Exit codes: 0 delivered, or with --check all is as delivered; 1 something waits for you (a
conflict), with --check something differs, or with --by-hand and --take something stays in the
code alone; 2 the workspace, the repository or the call
cannot be used, or the workspace has errors and --force is not given.`,
		Example: "  ubiquant deliver demo/fernhollow.json --into ~/office --dry-run\n  ubiquant deliver demo/fernhollow.json --into ~/office --connect\n  ubiquant deliver demo/fernhollow.json --target react --out /tmp/app",
		Args:    cobra.ExactArgs(1),
		RunE:    func(cmd *cobra.Command, args []string) error { return f.run(cmd, args[0]) },
	}
	c.Flags().StringVar(&f.target, "target", "", "what to write; that of the repository where not given, else vue")
	c.Flags().StringVar(&f.kit, "kit", "", "packed kit that the workspace is built on, where it does not come along")
	c.Flags().StringVar(&f.into, "into", "", "repository to write into")
	c.Flags().StringVar(&f.folder, "folder", "", "folder below it; that of the last delivery where not given")
	c.Flags().StringVar(&f.out, "out", "", "folder to write a whole application to")
	c.Flags().StringVar(&f.app, "app", "", "application; the first one where not given")
	c.Flags().StringSliceVar(&f.screens, "screen", nil, "screen ids; all where not given")
	c.Flags().BoolVar(&f.dry, "dry-run", false, "print the patch, write nothing")
	c.Flags().BoolVar(&f.check, "check", false, "tell what differs from what would be delivered, write nothing")
	c.Flags().BoolVar(&f.connect, "connect", false, "make the additions that the application needs")
	c.Flags().BoolVar(&f.force, "force", false, "deliver a workspace with errors; merge into files with edits that are not committed")
	c.Flags().BoolVar(&f.texts, "texts", false, "put texts into files, one a language; so where the last delivery did, or the workspace is translated")
	c.Flags().BoolVar(&f.byHand, "by-hand", false, "tell which edits of the code are edits of the screens, too; write nothing")
	c.Flags().BoolVar(&f.take, "take", false, "take these edits into the workspace, where it was read from")
	choice(c, &f.format, "format", "how the list of files is written", "text", "json")
	c.MarkFlagsOneRequired("into", "out")
	c.MarkFlagsMutuallyExclusive("into", "out")
	for _, name := range []string{"out", "check", "connect", "dry-run"} {
		c.MarkFlagsMutuallyExclusive("by-hand", name)
		c.MarkFlagsMutuallyExclusive("take", name)
	}
	return c
}

func (f *delivering) run(cmd *cobra.Command, workspace string) error {
	l, _, bundle, err := open(workspace, f.kit)
	if err != nil {
		return err
	}
	broken := func(err error) error { return &exitError{exitBroken, err} }
	in, err := l.DeliverInput(f.app, f.screens, bundle.DeliverFiles())
	if err != nil {
		return broken(err)
	}
	in.Take(bundle)
	if f.folder != "" && f.into == "" {
		return broken(errors.New("--folder says where in a repository; it goes with --into"))
	}
	repo := into.Repo{Dir: f.into, Folder: f.folder, App: in.Name}
	if f.out != "" {
		repo.Dir, repo.Folder = f.out, "."
		if !f.dry && !f.check {
			if err := os.MkdirAll(f.out, 0o755); err != nil {
				return broken(err)
			}
		}
	}
	found, _ := (&into.Repo{Dir: repo.Dir}).Detect()
	if f.target == "" {
		f.target = found
		if f.target == "" || f.out != "" {
			f.target = "vue"
		}
	}
	t, ok := targets.Find(f.target)
	if !ok {
		return broken(fmt.Errorf("there is no target %q", f.target))
	}
	if f.into != "" && found != "" && found != t.ID && t.Framework != "" {
		return broken(fmt.Errorf("%s is written in %s, not in %s", f.into, found, t.Title))
	}
	if why := t.Refuses(l.Kit); why != "" {
		return broken(errors.New(why))
	}
	if errs := errorsOf(l, &in); len(errs) > 0 && !f.force && f.into != "" && !f.check && !f.dry && !f.byHand && !f.take {
		return broken(fmt.Errorf("the screens have errors; mend them, or deliver with --force:\n  %s", strings.Join(errs, "\n  ")))
	}
	repo.Target = t.ID
	r, err := into.Open(repo)
	if err != nil {
		return broken(err)
	}
	defer r.Close()
	if before, err := r.Record(); err == nil && (f.texts || before.Texts) || len(l.W.Translated()) > 0 {
		l.WithTexts(&in)
	}
	if f.byHand || f.take {
		return f.hand(cmd, workspace, l, r, t, in)
	}
	files, notes, err := f.files(cmd.Context(), t, in, r)
	if err != nil {
		return broken(err)
	}
	said := ""
	if f.into != "" {
		_, said = r.Settle(cmd.Context(), t, in)
	}
	d, err := r.Plan(cmd.Context(), record.Of(in, t.ID), files)
	if err != nil {
		return broken(err)
	}
	if said != "" {
		d.Notes = append(d.Notes, said)
	}
	return f.finish(cmd, r, t, d, notes)
}

// files are those that a folder of a repository gets, or a whole application.
func (f *delivering) files(ctx context.Context, t deliver.Target, in deliver.Input, r *into.Repo) ([]deliver.File, []deliver.Note, error) {
	if f.out != "" {
		return t.Deliver(in)
	}
	return r.Files(ctx, t, in)
}

// errorsOf are the errors of what is delivered, in words.
func errorsOf(l *live.Live, in *deliver.Input) []string {
	delivered := map[string]bool{}
	for _, d := range in.Screens {
		delivered[d.Address()] = true
	}
	var out []string
	open, _ := l.Findings()
	for _, fd := range open {
		if fd.Severity == audit.Error && delivered[fd.Doc] {
			out = append(out, fd.Doc+": "+fd.Message)
		}
	}
	return out
}

func (f *delivering) finish(cmd *cobra.Command, r *into.Repo, t deliver.Target, d *into.Delivery, notes []deliver.Note) error {
	w := cmd.OutOrStdout()
	if f.dry {
		fmt.Fprint(w, r.Patch(d, true))
		return nil
	}
	if !f.check {
		if err := r.Apply(d, f.connect, f.force); err != nil {
			return &exitError{exitBroken, err}
		}
	}
	waits := 0
	for _, c := range d.Changes {
		if c.What == record.Conflict || f.check && (c.Writes() || c.What == record.Edited) {
			waits++
		}
	}
	if f.check {
		for _, a := range d.Additions {
			if !a.Done {
				waits++
			}
		}
	}
	if f.format == "json" {
		if err := json.NewEncoder(w).Encode(map[string]any{
			"target": t.ID, "folder": r.Folder, "files": d.Changes, "additions": d.Additions, "notes": notes, "said": d.Notes,
		}); err != nil {
			return err
		}
	} else {
		tell(w, r, t, d, notes, f.check, f.connect)
	}
	if waits > 0 {
		return &exitError{exitFound, fmt.Errorf("%d things wait for you", waits)}
	}
	return nil
}

// Words for what happens to files, in the order in which they are told.
var happens = []struct{ what, done, would string }{
	{record.Add, "written", "missing"},
	{record.Renew, "renewed", "older than the screens"},
	{record.Merge, "merged with your edits", "edited, and older than the screens"},
	{record.Restore, "written again", "missing"},
	{record.Remove, "removed, no longer delivered", "no longer delivered"},
	{record.Conflict, "yours, with the new text beside them", "edited where the screens changed, too"},
	{record.Edited, "edited by you, nothing new", "edited"},
	{record.Left, "no longer delivered, left to you", "no longer delivered, and yours"},
	{record.Kept, "your own", "your own"},
	{record.Same, "unchanged", "as delivered"},
}

func tell(w io.Writer, r *into.Repo, t deliver.Target, d *into.Delivery, notes []deliver.Note, check, connect bool) {
	by := map[string][]record.Change{}
	for _, c := range d.Changes {
		by[c.What] = append(by[c.What], c)
	}
	fmt.Fprintf(w, "%s: %d files in %s\n", t.Title, len(d.Changes), strings.TrimSuffix(r.Dir+"/"+r.Folder, "/."))
	for _, h := range happens {
		list := by[h.what]
		if len(list) == 0 {
			continue
		}
		words := h.done
		if check {
			words = h.would
		}
		fmt.Fprintf(w, "  %4d %s\n", len(list), words)
		if h.what == record.Same || h.what == record.Kept || (h.what == record.Add || h.what == record.Renew) && !check {
			continue
		}
		for _, c := range list {
			why := ""
			if c.Why != "" {
				why = " (" + c.Why + ")"
			}
			fmt.Fprintf(w, "       %s%s\n", c.Path, why)
		}
	}
	for _, a := range d.Additions {
		state := "not yet"
		switch {
		case a.Done:
			state = "there"
		case connect && a.Is != nil && !check:
			state = "added"
		}
		fmt.Fprintf(w, "  %s: %s", state, a.What)
		if a.Path != "" {
			fmt.Fprintf(w, ", in %s", a.Path)
		}
		if state == "not yet" {
			how := "; --connect adds it"
			if a.By != "" {
				how = "; by hand: " + a.By
			}
			fmt.Fprint(w, how)
		}
		fmt.Fprintln(w)
	}
	for _, n := range d.Notes {
		fmt.Fprintln(w, "  "+n)
	}
	for _, n := range notes {
		if n.Doc == "" { // of the whole
			fmt.Fprintf(w, "  changed: %s\n", n.Message)
			continue
		}
		fmt.Fprintf(w, "  left out: %s\n", strings.TrimSpace(n.Doc+" "+n.Element+": "+n.Message))
	}
}
