package main

import (
	"encoding/json"
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"ubiquant/core/deliver/targets"
)

func deliverCommand() *cobra.Command {
	var target, out, app, format string
	var screens []string
	names := []string{}
	for _, t := range targets.All() {
		names = append(names, t.ID+": "+t.Purpose)
	}
	c := &cobra.Command{
		Use:   "deliver WORKSPACE --target TARGET --out DIR",
		Short: "Write screens as an application that runs",
		Long: "Writes chosen screens, or all of an application, as code.\n\nTargets:\n  " + strings.Join(
			names,
			"\n  ",
		) +
			"\n\nExit codes: 0 delivered; 2 the workspace or the call cannot be used.",
		Example: "  ubiquant deliver demo/fernhollow.json --target vue --out /tmp/app",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			t, ok := targets.Find(target)
			if !ok {
				return &exitError{exitBroken, fmt.Errorf("there is no target %q", target)}
			}
			l, _, bundle, err := open(args[0])
			if err != nil {
				return err
			}
			in, err := l.DeliverInput(app, screens, bundle.Files)
			if err != nil {
				return &exitError{exitBroken, err}
			}
			files, err := t.Deliver(in)
			if err != nil {
				return &exitError{exitBroken, err}
			}
			tree := map[string][]byte{}
			paths := []string{}
			for _, f := range files {
				tree[f.Path] = f.Data
				paths = append(paths, f.Path)
			}
			if err := writeFiles(out, tree); err != nil {
				return &exitError{exitBroken, err}
			}
			if format == "json" {
				return json.NewEncoder(cmd.OutOrStdout()).
					Encode(map[string]any{"target": t.ID, "out": out, "files": paths})
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%s: %d files in %s\n", t.Title, len(files), out)
			return nil
		},
	}
	c.Flags().StringVar(&target, "target", "vue", "what to write: vue or html")
	c.Flags().StringVar(&out, "out", "", "folder to write to")
	c.Flags().StringVar(&app, "app", "", "application; the first one where not given")
	c.Flags().StringSliceVar(&screens, "screen", nil, "screen ids; all where not given")
	choice(c, &format, "format", "how the list of files is written", "text", "json")
	_ = c.MarkFlagRequired("out") // fails only for a flag that does not exist
	return c
}
