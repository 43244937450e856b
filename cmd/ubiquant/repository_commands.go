package main

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/signal"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"ubiquant/core/audit"
	"ubiquant/core/source"
	"ubiquant/core/wsfile"
	"ubiquant/server"
	"ubiquant/server/assets"
	"ubiquant/server/repo"
)

func initCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "init REPOSITORY",
		Short: "Look at a repository of screens and write its settings file",
		Long: `Looks at a repository, says what is understood of it, and writes ubiquant.json at its root:
the kits in use. Add to it what cannot be found out: "screens" (files that hold screens, as
patterns), "ignore" (files that are none of yours), "standsFor" (a component of yours that is
one of the kit's). A file that is there stays as it is.`,
		Example: "  ubiquant init ~/office",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			r, err := readRepository(cmd.Context(), args[0], cmd.ErrOrStderr(), nil, nil)
			if err != nil {
				return broken(fmt.Errorf("%s: %w", args[0], err))
			}
			tellRepository(cmd.OutOrStdout(), r)
			file := filepath.Join(r.Dir, repo.SettingsFile)
			if _, err := os.Stat(file); err == nil {
				fmt.Fprintf(cmd.OutOrStdout(), "\n%s is there already and stays as it is.\n", file)
				return nil
			}
			s := r.Settings
			for _, k := range r.Survey.Kits {
				if k.Package == k.Name() || k.Folder != "" {
					s.Kits = append(s.Kits, k.Name())
				}
			}
			if err := replaceFile(file, s.Write()); err != nil {
				return broken(err)
			}
			fmt.Fprintf(cmd.OutOrStdout(), "\nWritten to %s. Next: ubiquant audit %s\n", file, args[0])
			return nil
		},
	}
}

func settleCommand() *cobra.Command {
	var reason string
	c := &cobra.Command{
		Use:   "settle REPOSITORY QUESTION ANSWER",
		Short: "Settle an open question about a repository: its answer becomes a house rule",
		Long: `Settles an open question that "ubiquant audit" lists, by its number there. The answer is
one of those listed; it becomes a house rule in ubiquant.json, with the reason, and what
does otherwise is found from then on.`,
		Example: `  ubiquant settle ~/office 1 tight --reason "more rows on a screen"`,
		Args:    cobra.ExactArgs(3),
		RunE: func(cmd *cobra.Command, args []string) error {
			if strings.TrimSpace(reason) == "" {
				return broken(errors.New("a reason is needed: --reason \"…\""))
			}
			r, err := readRepository(cmd.Context(), args[0], nil, nil, nil)
			if err != nil {
				return broken(fmt.Errorf("%s: %w", args[0], err))
			}
			l := r.Judge(today())
			list := l.Questions()
			n, err := strconv.Atoi(args[1])
			if err != nil || n < 1 || n > len(list) {
				return broken(fmt.Errorf("there is no question %q; %s", args[1], numbered(len(list))))
			}
			q := list[n-1]
			words := make([]string, len(q.Sides))
			at := -1
			for i, side := range q.Sides {
				words[i] = side.Words
				if strings.EqualFold(side.Words, args[2]) || side.Value == args[2] {
					at = i
				}
			}
			if at < 0 {
				return broken(fmt.Errorf("%q is no answer to it; accepted: %s", args[2], strings.Join(words, ", ")))
			}
			if !q.Rule {
				return broken(fmt.Errorf("no house rule can hold %s: bring the screens into line instead", q.What))
			}
			spot := q.Spot
			if sp, ok := l.Index.Spot(q.Spot); ok {
				spot = l.Words(sp)
			}
			if q.Where != "" {
				spot += ", " + q.Words
			}
			s := r.Settings
			s.House = append(slices.Clone(s.House), source.HouseRule{Spot: q.Spot, Where: q.Where, Words: spot, Prop: q.Prop, Value: q.Sides[at].Value, Reason: reason})
			file := filepath.Join(r.Dir, repo.SettingsFile)
			if err := replaceFile(file, s.Write()); err != nil {
				return broken(err)
			}
			fmt.Fprintf(cmd.OutOrStdout(), "Settled: %s is %s. Written to %s.\n", q.What, words[at], file)
			return nil
		},
	}
	c.Flags().StringVar(&reason, "reason", "", "why it is so")
	return c
}

func numbered(n int) string {
	if n == 0 {
		return "nothing is open"
	}
	return fmt.Sprintf("accepted: 1 to %d", n)
}

// watchEvery is how often files are looked at.
const watchEvery = 400 * time.Millisecond

func watchCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "watch REPOSITORY",
		Short: "Audit a repository again whenever a file is saved, and tell what changed",
		Long: `Audits a repository, and again whenever one of its files changes: what is new and what is
mended is told, a line each. Ends with Ctrl+C.`,
		Example: "  ubiquant watch ~/office",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			ctx, stop := signal.NotifyContext(cmd.Context(), os.Interrupt)
			defer stop()
			return watch(ctx, cmd, args[0])
		},
	}
}

func watch(ctx context.Context, cmd *cobra.Command, dir string) error {
	out := cmd.OutOrStdout()
	var known *audit.Baseline
	var seen map[string]string
	for {
		now := stamps(dir)
		if known == nil || !sameStamps(seen, now) {
			seen = now
			r, err := readRepository(ctx, dir, nil, nil, nil)
			switch {
			case ctx.Err() != nil:
				return nil
			case err != nil && known == nil:
				return broken(fmt.Errorf("%s: %w", dir, err))
			case err != nil:
				fmt.Fprintln(out, err)
			default:
				a := &auditing{path: dir, cmd: cmd}
				report := a.reportOf(r)
				all := append(slices.Clone(report.Findings), report.Strays...)
				if known == nil {
					tellRepository(cmd.ErrOrStderr(), r)
					fmt.Fprintf(out, "%s. Waiting for changes; Ctrl+C ends.\n", several(len(all), "finding"))
				} else {
					report.Findings, report.Mended = known.Compare(all)
					report.Strays, report.Questions, report.Since, report.Known = nil, nil, "the last save", len(all)-len(report.Findings)
					if len(report.Findings)+len(report.Mended) > 0 {
						fmt.Fprint(out, report.Text())
					}
				}
				known = audit.NewBaseline(r.W.Name, all)
			}
		}
		select {
		case <-ctx.Done():
			return nil
		case <-time.After(watchEvery):
		}
	}
}

// stamps are the times and sizes of a repository's files, by which a change is seen.
func stamps(dir string) map[string]string {
	out := map[string]string{}
	_ = filepath.WalkDir(dir, func(name string, d fs.DirEntry, err error) error {
		if err != nil {
			return nil
		}
		if d.IsDir() {
			if name != dir && (d.Name() == "node_modules" || strings.HasPrefix(d.Name(), ".")) {
				return filepath.SkipDir
			}
			return nil
		}
		if info, err := d.Info(); err == nil {
			out[name] = info.ModTime().Format(time.RFC3339Nano) + " " + strconv.FormatInt(info.Size(), 10)
		}
		return nil
	})
	return out
}

func sameStamps(a, b map[string]string) bool {
	if len(a) != len(b) {
		return false
	}
	for name, stamp := range a {
		if b[name] != stamp {
			return false
		}
	}
	return true
}

func readCommand() *cobra.Command {
	var out, kitFile string
	c := &cobra.Command{
		Use:   "read REPOSITORY",
		Short: "Write the screens of a repository as a workspace, to be looked at in the application",
		Long: `Reads the screens of a repository and writes them as a workspace file on the kit they use:
imported into an empty database they are drawn with what is known of them, counted, judged
and lined up like screens that were assembled here. They are changed in their code.

The kit is one that comes with this program, lies packed in the repository's root, or is
named with --kit; "ubiquant intake" packs one.`,
		Example: `  ubiquant read ~/office -o office.json
  ubiquant import office.json --data /tmp/office && ubiquant serve --data /tmp/office`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			r, err := readRepository(cmd.Context(), args[0], nil, nil, nil)
			if err != nil {
				return broken(fmt.Errorf("%s: %w", args[0], err))
			}
			tellRepository(cmd.ErrOrStderr(), r)
			bundle, err := kitFor(args[0], kitFile, r.W, cmd.ErrOrStderr())
			if err != nil {
				return err
			}
			r.W = r.Judge(today()).W // decisions of the settings come along
			lost := r.On(bundle.Kit)
			for _, l := range lost {
				fmt.Fprintf(cmd.ErrOrStderr(), "  %s\n", l)
			}
			b := wsfile.Write(r.W)
			if _, err := wsfile.Read(b); err != nil {
				return broken(fmt.Errorf("what was read does not hold as a workspace: %w", err))
			}
			if out == "-" {
				_, err = cmd.OutOrStdout().Write(b)
				return err
			}
			if out == "" {
				out = filepath.Base(r.Dir) + ".json"
			}
			if err := replaceFile(out, b); err != nil {
				return broken(err)
			}
			fmt.Fprintf(cmd.ErrOrStderr(), "Written to %s.\n", out)
			return nil
		},
	}
	c.Flags().StringVarP(&out, "out", "o", "", "file to write; - for standard output")
	c.Flags().StringVar(&kitFile, "kit", "", "packed kit that the screens are drawn with")
	return c
}

// beginWithCode reads the repository that an empty database begins with, and the kit that its
// screens are drawn with: one that is packed, else packed from where it is installed.
func beginWithCode(ctx context.Context, cmd *cobra.Command, dir, kitFile string, o *server.Options) error {
	say := cmd.ErrOrStderr()
	r, err := readRepository(ctx, dir, say, nil, nil)
	if err != nil {
		return broken(fmt.Errorf("%s: %w", dir, err))
	}
	tellRepository(say, r)
	if o.Kit == nil {
		o.Kit, err = archiveFor(dir, kitFile, r.W, say)
		if err != nil && kitFile != "" {
			return err // it was asked for
		}
		if err != nil {
			o.Kit = nil // what is installed is packed
		}
	}
	r.W = r.Judge(today()).W // decisions of the settings come along
	reader, _ := assets.Reader()
	var with repo.Making
	with.Classes, _ = assets.Classes()
	with.Single, _ = assets.Single()
	var said []string
	o.Kit, said, err = r.Drawn(ctx, repo.Options{Declarations: reader, Tell: func(step string) { fmt.Fprintln(say, step+" …") }}, with, o.Kit)
	for _, what := range said {
		fmt.Fprintf(say, "  %s\n", what)
	}
	if err != nil {
		return broken(err)
	}
	o.Workspace = r.W
	name := filepath.Base(r.Dir)
	o.Code = &server.Code{Name: name, Settings: r.Settings}
	if o.Repositories == nil {
		o.Repositories = map[string]string{}
	}
	o.Repositories[name] = r.Dir
	return nil
}
