package main

import (
	"bufio"
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"os/signal"
	"path/filepath"
	"slices"
	"strings"
	"syscall"

	"github.com/spf13/cobra"

	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/wsfile"
	"ubiquant/server"
	"ubiquant/server/api"
	"ubiquant/server/assets"
	"ubiquant/server/pg"
	"ubiquant/server/store"
)

// database says where the data is: a private cluster in a folder, or an address.
type database struct {
	dir, url string
}

func (d *database) flags(c *cobra.Command) {
	c.Flags().StringVar(&d.dir, "data", defaultData(), "folder of the private database")
	c.Flags().
		StringVar(&d.url, "database", os.Getenv("UBIQUANT_DATABASE"), "address of a PostgreSQL database, instead of a private one")
}

func defaultData() string {
	if dir := os.Getenv("UBIQUANT_DATA"); dir != "" {
		return dir
	}
	if os.Getuid() == 0 {
		return "/var/lib/ubiquant"
	}
	home, err := os.UserHomeDir()
	if err != nil {
		return ".data"
	}
	return filepath.Join(home, ".local", "share", "ubiquant")
}

// open opens the database; made says that a private one is made where there is none.
func (d *database) open(ctx context.Context, made bool) (*store.Store, func(), error) {
	st, stop, err := server.OpenStore(ctx, server.Options{Data: d.dir, Database: d.url, Make: made})
	if err != nil {
		return nil, nil, &exitError{exitBroken, err}
	}
	return st, stop, nil
}

// served is the address of the server that runs on the data folder; empty where none does.
func (d *database) served() string {
	if d.url != "" {
		return ""
	}
	if owner, ok := pg.Owner(d.dir); ok && owner.Serve {
		return owner.URL
	}
	return ""
}

// openEmpty opens a database that must hold no workspace yet.
func (d *database) openEmpty(ctx context.Context) (*store.Store, func(), error) {
	st, stop, err := d.open(ctx, true)
	if err != nil {
		return nil, nil, err
	}
	empty, err := st.Empty(ctx)
	if err == nil && !empty {
		err = &exitError{
			exitBroken,
			errors.New(
				"the database holds a workspace already and nothing was changed; add to it with --merge, or export it and begin with --fresh",
			),
		}
	}
	if err != nil {
		stop()
		return nil, nil, err
	}
	return st, stop, nil
}

func serveCommand() *cobra.Command {
	var db database
	var port int
	var fresh, yes, measure bool
	var kitFile, code string
	var public api.Public
	var repositories map[string]string
	c := &cobra.Command{
		Use:   "serve",
		Short: "Serve the application on loopback",
		Long:  "Starts the database where it does not run, migrates it, loads the demo where it is\nempty, serves on 127.0.0.1 and prints the address with a one-time sign-in link.\nCtrl+C ends all that was started.",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			ctx, cancel := signal.NotifyContext(cmd.Context(), os.Interrupt, syscall.SIGTERM)
			defer cancel()
			if fresh {
				if err := db.freshen(cmd, port, yes); err != nil {
					return &exitError{exitBroken, err}
				}
			}
			var a *pack.Archive
			if kitFile != "" {
				var err error
				if a, err = readKit(kitFile); err != nil {
					return &exitError{exitBroken, err}
				}
			}
			o := server.Options{
				Data: db.dir, Database: db.url, Port: port, Public: public, Repositories: repositories, Kit: a, Measure: measure, Log: slog.New(slog.NewTextHandler(os.Stderr, nil)),
			}
			if code != "" {
				if err := beginWithCode(ctx, cmd, code, kitFile, &o); err != nil {
					return err
				}
			}
			return serve(ctx, cmd, &db, o)
		},
	}
	db.flags(c)
	c.Flags().IntVar(&port, "port", 4780, "port on 127.0.0.1; 0 takes a free one")
	c.Flags().StringVar(&kitFile, "kit", "", "packed kit: an empty database begins with it, in another it waits in Intake")
	c.Flags().BoolVar(&fresh, "fresh", false, "begin with an empty database; what is there is removed")
	c.Flags().StringVar(&public.Address, "address", "", "public address behind a proxy, such as https://ubiquant.example")
	c.Flags().StringSliceVar(&public.Proxies, "behind-proxy", nil, "addresses or networks of proxies that are trusted")
	c.Flags().StringVar(&code, "code", "", "repository of screens: an empty database begins with them, and their repairs come as patches of it")
	c.Flags().StringToStringVar(&repositories, "repository", nil, "folder that keepers may deliver into, as name=folder")
	c.Flags().BoolVar(&measure, "measure", true, "measure screens once nothing changes, where Chromium is here")
	c.Flags().BoolVar(&yes, "yes", false, "with --fresh, remove without asking")
	return c
}

// freshen removes the database of the data folder, once it is clear that the server can
// run there, and that this is wanted.
func (d *database) freshen(cmd *cobra.Command, port int, yes bool) error {
	if d.url != "" {
		return errors.New("--fresh goes with a private database, not with --database")
	}
	if err := server.FreePort(port); err != nil {
		return err
	}
	if !pg.Holds(d.dir) {
		return nil
	}
	if !yes {
		fmt.Fprintf(cmd.ErrOrStderr(), "Everything in the database in %s will be removed. Type yes to go on: ", d.dir)
		answer, err := bufio.NewReader(cmd.InOrStdin()).ReadString('\n')
		if err != nil && !errors.Is(err, io.EOF) {
			return err
		}
		if strings.TrimSpace(answer) != "yes" {
			return errors.New("nothing was removed; --yes removes without asking")
		}
	}
	return pg.Remove(d.dir)
}

func serve(ctx context.Context, cmd *cobra.Command, db *database, o server.Options) error {
	running, err := server.Start(ctx, o)
	if err != nil {
		return &exitError{exitBroken, err}
	}
	fmt.Fprintf(cmd.OutOrStdout(), "Ubiquant serves on %s\n", running.URL)
	if o.Workspace != nil && !running.Began {
		if running.Reread+running.Decided == 0 {
			fmt.Fprintln(cmd.OutOrStdout(), "The repository is as it was when it was read.")
		} else {
			fmt.Fprintf(cmd.OutOrStdout(), "%d screens and parts were read anew, and %s taken from the repository; what was decided here stays.\n",
				running.Reread, several(running.Decided, "decision"))
		}
	}
	for _, said := range running.Said {
		fmt.Fprintf(cmd.OutOrStdout(), "%s.\n", said)
	}
	people, err := running.Store.Users(ctx)
	if err != nil {
		return errors.Join(err, running.Stop())
	}
	if !slices.ContainsFunc(people, func(p store.User) bool { return p.Role == store.Keeper }) {
		fmt.Fprintf(cmd.OutOrStdout(),
			"Nobody keeps this workspace yet: ubiquant user NAME --role keeper --data %s\n", db.dir)
	}
	for _, p := range people {
		if p.Role == store.Keeper {
			link, err := running.Link(ctx, p.Name)
			if err != nil {
				return errors.Join(err, running.Stop())
			}
			fmt.Fprintf(cmd.OutOrStdout(), "Sign in once, as %s, with %s\n", p.FullName, link)
			break
		}
	}
	select {
	case err = <-running.Failed():
		return errors.Join(err, running.Stop())
	case <-ctx.Done():
		return running.Stop()
	}
}

func openapiCommand() *cobra.Command {
	return &cobra.Command{
		Use:    "openapi",
		Short:  "Print the API as OpenAPI 3.1",
		Args:   cobra.NoArgs,
		Hidden: true,
		RunE: func(cmd *cobra.Command, _ []string) error {
			described, err := api.New(cmd.Context(), api.Parts{Log: slog.Default()})
			if err != nil {
				return err
			}
			spec, err := described.Spec()
			if err != nil {
				return err
			}
			_, err = cmd.OutOrStdout().Write(append(spec, '\n'))
			return err
		},
	}
}

func seedCommand() *cobra.Command {
	var db database
	c := &cobra.Command{
		Use:   "seed",
		Short: "Load the demo workspace into an empty database",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			st, stop, err := db.openEmpty(cmd.Context())
			if err != nil {
				return err
			}
			defer stop()
			return server.Seed(cmd.Context(), st, nil)
		},
	}
	db.flags(c)
	return c
}

func exportCommand() *cobra.Command {
	var db database
	var out string
	var folder bool
	c := &cobra.Command{
		Use:     "export --out PATH",
		Short:   "Write the workspace as one file, or as a folder for git",
		Example: "  ubiquant export --out fernhollow.json\n  ubiquant export --folder --out screens/",
		Args:    cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			st, stop, err := db.open(cmd.Context(), false)
			if err != nil {
				return err
			}
			defer stop()
			l, err := st.Load(cmd.Context(), 0, nil, today)
			if err != nil {
				return err
			}
			return l.Read(cmd.Context(), func(w *live.Live, _ int64) error {
				if folder {
					files := wsfile.Folder(w.W)
					if err := withKit(cmd.Context(), st, w.W.Kit, files); err != nil {
						return err
					}
					was := holdsWorkspace(out)
					if err := writeFiles(out, files); err != nil || !was {
						return err
					}
					return removeStale(out, files, cmd.ErrOrStderr())
				}
				if out == "-" {
					_, err := cmd.OutOrStdout().Write(wsfile.Write(w.W))
					return err
				}
				return writeFiles(filepath.Dir(out), map[string][]byte{filepath.Base(out): wsfile.Write(w.W)})
			})
		},
	}
	db.flags(c)
	c.Flags().StringVar(&out, "out", "", "file or folder; - writes to standard output")
	c.Flags().BoolVar(&folder, "folder", false, "write a folder with a file a screen")
	_ = c.MarkFlagRequired("out") // fails only for a flag that does not exist
	return c
}

// withKit puts the packed kit of a workspace among its files, where no program brings it along.
func withKit(ctx context.Context, st *store.Store, ref model.KitRef, files map[string][]byte) error {
	own, err := assets.Kits()
	if err != nil || slices.ContainsFunc(own, func(a *pack.Archive) bool { return a.Hash() == ref.Hash }) {
		return err
	}
	a, err := st.Archive(ctx, ref)
	if err != nil {
		return err
	}
	files[a.FileName()], err = a.Bytes()
	return err
}

func importCommand() *cobra.Command {
	var db database
	var kitFile string
	var m merging
	var merges bool
	c := &cobra.Command{
		Use:   "import WORKSPACE",
		Short: "Load a workspace file or folder into an empty database, or merge it into a filled one",
		Long: `Reads a workspace file, a folder as export writes it, or - for standard input, checks it whole,
and stores it. Nothing is stored where anything is wrong.

With --merge it is put together with what the database holds, element by element: what either
changed since --base is changed, as one change of the history with its undo; a server may be
running. What both changed in another way is told, and then nothing is written unless --prefer
says whose stays. Without --base nothing counts as taken away, and each difference is a conflict.`,
		Example: "  ubiquant import fernhollow.json\n  ubiquant import screens/ --merge --base HEAD~4 --dry-run\n  ubiquant import screens/ --merge --base HEAD~4 --prefer theirs",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			w, _, err := readSource(args[0])
			if err != nil {
				return &exitError{exitBroken, fmt.Errorf("%s: %w", args[0], err)}
			}
			if m.path = args[0]; merges {
				st, stop, err := db.open(cmd.Context(), false)
				if err != nil {
					return err
				}
				defer stop()
				return m.run(cmd, st, w)
			}
			if m.base != "" || m.prefer != "nobody" || m.dry {
				return &exitError{exitBroken, errors.New("--base, --prefer and --dry-run go with --merge")}
			}
			bundle, err := kitFor(args[0], kitFile, w, cmd.ErrOrStderr())
			if err != nil {
				return err
			}
			w.Kit = model.KitRef{Name: bundle.Meta.Name, Version: bundle.Meta.Version, Hash: bundle.Hash}
			st, stop, err := db.openEmpty(cmd.Context())
			if err != nil {
				return err
			}
			defer stop()
			if _, err := st.PutKit(cmd.Context(), bundle.From, "the import"); err != nil {
				return err
			}
			if err := server.Seed(cmd.Context(), st, w); err != nil {
				return err
			}
			fmt.Fprintln(cmd.OutOrStdout(), "Imported. Add people with: ubiquant user NAME --role keeper")
			return nil
		},
	}
	db.flags(c)
	f := c.Flags()
	f.StringVar(&kitFile, "kit", "", "packed kit that the workspace is built on, where it does not come along")
	f.BoolVar(&merges, "merge", false, "put it together with what the database holds")
	f.StringVar(&m.base, "base", "", "what both come from: a workspace, a folder, or a revision of git of WORKSPACE")
	f.BoolVar(&m.dry, "dry-run", false, "tell what would change, write nothing")
	choice(c, &m.prefer, "prefer", "whose stays of what both changed", "nobody", "ours", "theirs")
	return c
}

func userCommand() *cobra.Command {
	var db database
	var role, full, password string
	c := &cobra.Command{
		Use:   "user NAME",
		Short: "Add or change a person and print a one-time sign-in link",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			st, stop, err := db.open(cmd.Context(), true)
			if err != nil {
				return err
			}
			defer stop()
			u := store.User{Name: args[0], FullName: cmp.Or(full, args[0]), Role: store.Role(role)}
			people, err := st.Users(cmd.Context())
			if err != nil {
				return err
			}
			for _, is := range people { // who is there keeps what is not named
				if is.Name != u.Name {
					continue
				}
				u.FullName = cmp.Or(full, is.FullName)
				if !cmd.Flags().Changed("role") {
					u.Role = is.Role
				}
			}
			if err := st.PutUser(cmd.Context(), u, password, "the command line"); err != nil {
				return &exitError{exitBroken, err}
			}
			token, err := st.Link(cmd.Context(), args[0])
			if err != nil {
				return err
			}
			fmt.Fprintf(cmd.ErrOrStderr(), "%s (%s) is a %s.\n", u.FullName, u.Name, u.Role)
			if at := db.served(); at != "" {
				fmt.Fprintf(cmd.OutOrStdout(), "%s/sign-in#%s\n", at, token)
				return nil
			}
			fmt.Fprintf(cmd.OutOrStdout(), "/sign-in#%s\nNo server runs here; put its address before the link, within an hour.\n", token)
			return nil
		},
	}
	db.flags(c)
	choice(c, &role, "role", "what the person may do; who is there keeps it where it is not named", "builder", "keeper", "reader")
	c.Flags().StringVar(&full, "full-name", "", "the person's full name, likewise")
	c.Flags().StringVar(&password, "password", "", "password, at least 12 letters; none keeps what is set")
	return c
}

// readKit reads a packed kit.
func readKit(file string) (*pack.Archive, error) {
	src, err := os.ReadFile(file)
	if err != nil {
		return nil, err
	}
	a, err := pack.Read(src)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	return a, nil
}
