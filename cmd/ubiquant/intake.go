package main

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"net/http"
	"os"
	"slices"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"ubiquant/core/kit"
	"ubiquant/core/kit/pack"
	"ubiquant/server/assets"
	"ubiquant/server/intake"
	"ubiquant/server/registry"
)

func intakeCommand() *cobra.Command {
	var o intake.Options
	var out, to, token, format, from string
	c := &cobra.Command{
		Use:   "intake PACKAGE",
		Short: "Pack a component library from the folder where it is installed",
		Long: `Packs a library with what it needs into one file: its code with its framework as one
module, its styles and assets, and a description read from everything it says of itself
(custom elements manifest, type declarations, web-types, custom properties, tokens). Run
it in the repository where the library is installed. Nothing of the library is run.

The file is uploaded in Intake, sent to a server with --to, or given to serve --kit. What
was read, what lacks and what was left out is reported.

Where the package does not say enough, say it: --module, --style, --kind, --wrap. With
--setup a module of your own says the rest; it exports setup (plugins), wrap (a component
around everything) and settings (of that, by theme).

With --registry the library need not be installed: it is fetched from that registry, with all
that it asks for, into a folder that is removed afterwards. No script of any package is run.

Exit codes: 0 packed; 2 it cannot be packed, with what lacks.`,
		Example: `  ubiquant intake @acme/orchard-ui
  ubiquant intake @acme/orchard-ui --style @acme/orchard-ui/dist/orchard.css -o orchard.kit
  ubiquant intake @acme/orchard-ui@^2 --registry https://registry.acme.example
  UBIQUANT_REGISTRY_TOKEN=… ubiquant intake @acme/orchard-ui --registry https://packages.acme.example
  ubiquant intake . --to http://127.0.0.1:4780 --token "$TOKEN"`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			o.Package = args[0]
			o.Reader, _ = assets.Reader() // without one types are left out, and it is said
			start := time.Now()
			if format != "json" {
				o.Tell = func(step string) { fmt.Fprintf(cmd.ErrOrStderr(), "%5.1f s  %s\n", time.Since(start).Seconds(), step) }
			}
			a, err := packed(cmd.Context(), o, from)
			if err != nil {
				return &exitError{exitBroken, err}
			}
			b, err := a.Bytes()
			if err != nil {
				return &exitError{exitBroken, err}
			}
			if to != "" {
				if err := sendKit(to, token, b); err != nil {
					return &exitError{exitBroken, err}
				}
			}
			if out == "" && to == "" {
				out = a.Meta.Short + "-" + a.Meta.Version + ".kit"
			}
			if out != "" {
				if err := replaceFile(out, b); err != nil {
					return &exitError{exitBroken, err}
				}
			}
			k, err := a.Kit()
			if err != nil {
				return &exitError{exitBroken, err}
			}
			report := reportOf(a, k, len(b))
			if format == "json" {
				enc := json.NewEncoder(cmd.OutOrStdout())
				enc.SetIndent("", " ")
				return enc.Encode(report)
			}
			report.write(cmd.OutOrStdout())
			if out != "" {
				fmt.Fprintf(cmd.OutOrStdout(), "\nWritten to %s. Upload it in Intake, or start with: ubiquant serve --kit %s\n", out, out)
			}
			if to != "" {
				fmt.Fprintf(cmd.OutOrStdout(), "\nSent to %s: it waits in Intake.\n", to)
			}
			return nil
		},
	}
	f := c.Flags()
	f.StringVar(&o.Dir, "dir", ".", "folder of the repository in which it is installed")
	f.StringVar(&from, "registry", "", "address of a registry to fetch it from; PACKAGE may then name a version")
	f.StringSliceVar(&o.Modules, "module", nil, "what code imports for its components")
	f.StringSliceVar(&o.Styles, "style", nil, "style sheet to import; - for none")
	f.StringVar(&o.Drawn, "kind", "", "elements, vue, react or angular")
	f.StringVar(&o.Wrap, "wrap", "", "component to put around everything; - for none")
	f.BoolVar(&o.Whole, "whole", false, "take the package's own files along, for deliveries of what no registry has")
	f.StringVar(&o.Setup, "setup", "", "module of your own that says what is set up once")
	f.StringVarP(&out, "out", "o", "", "file to write")
	f.StringVar(&to, "to", "", "address of a server to send it to")
	f.StringVar(&token, "token", os.Getenv("UBIQUANT_TOKEN"), "sign-in link or its token, for --to")
	f.StringVar(&format, "format", "text", "text or json")
	return c
}

// packed packs a library where it is installed, or from a registry.
func packed(ctx context.Context, o intake.Options, from string) (*pack.Archive, error) {
	if from == "" {
		return intake.Pack(ctx, o)
	}
	if o.Dir != "." || o.Setup != "" {
		return nil, errors.New("--dir and --setup go with a folder where the library is installed, not with --registry")
	}
	c, err := registry.Own(from)
	if err != nil {
		return nil, err
	}
	c.Token = os.Getenv("UBIQUANT_REGISTRY_TOKEN")
	if err := registry.CheckToken(c.Token); err != nil {
		return nil, fmt.Errorf("UBIQUANT_REGISTRY_TOKEN: %w", err)
	}
	return intake.FromRegistry(ctx, c, o)
}

// intakeReport is what was read of a library, in numbers.
type intakeReport struct {
	Name, Version, Drawn, Framework string
	Hash                            string
	Bytes                           int
	Components, Props, Choices      int
	OpenChoices, YesNo, Data        int
	Slots, Events, Described        int
	Undescribed                     int // components of which nothing but the name is known
	Sources                         map[string]int
	Tokens                          int
	Themes                          pack.Themes
	Families                        map[string]int
	System                          []string
	Notes                           []string
	Missing                         []pack.Missing
	Left                            []string
	Sizes                           map[string]int
}

func reportOf(a *pack.Archive, k *kit.Kit, size int) *intakeReport {
	r := &intakeReport{
		Name: a.Meta.Name, Version: a.Meta.Version, Drawn: a.Meta.Drawn, Framework: a.Meta.Framework, Hash: a.Hash(),
		Bytes: size, Components: len(k.Components), Tokens: len(k.Tokens.List), Themes: a.Meta.Themes,
		Sources: map[string]int{}, Families: map[string]int{}, Notes: a.Meta.Notes, Missing: a.Meta.Missing, Sizes: a.Meta.Sizes,
	}
	for _, p := range a.Catalog.System {
		r.System = append(r.System, p.Name)
	}
	for _, c := range k.Components {
		r.Families[c.Family]++
		if len(c.Props)+len(c.Slots)+len(c.Events) == 0 {
			r.Undescribed++
		}
		r.Slots += len(c.Slots)
		r.Events += len(c.Events)
		for _, p := range c.Props {
			r.Props++
			r.Sources[p.From]++
			if p.Summary != "" {
				r.Described++
			}
			switch {
			case p.Type == kit.Enum:
				r.Choices++
				if p.Open {
					r.OpenChoices++
				}
			case p.Type == kit.Bool:
				r.YesNo++
			case p.JSON:
				r.Data++
			}
		}
	}
	for _, l := range a.Catalog.Left {
		r.Left = append(r.Left, l.String())
	}
	return r
}

func (r *intakeReport) write(w io.Writer) {
	fmt.Fprintf(w, "%s %s · %s", r.Name, r.Version, r.Drawn)
	if r.Framework != "" {
		fmt.Fprintf(w, " (%s)", r.Framework)
	}
	fmt.Fprintf(w, " · %d KB · %s\n", r.Bytes>>10, r.Hash[:12])
	fmt.Fprintf(w, "  %d components, %d of them known by name alone\n", r.Components, r.Undescribed)
	fmt.Fprintf(w, "  %d props: %d choices (%d open), %d yes or no, %d take data, %d have a sentence\n", r.Props, r.Choices, r.OpenChoices, r.YesNo, r.Data, r.Described)
	fmt.Fprintf(w, "  %d slots, %d events, %d tokens\n", r.Slots, r.Events, r.Tokens)
	var from []string
	for _, s := range slices.Sorted(maps.Keys(r.Sources)) {
		from = append(from, fmt.Sprintf("%s %d", s, r.Sources[s]))
	}
	fmt.Fprintf(w, "  props known from: %s\n", strings.Join(from, ", "))
	var families []string
	for _, s := range slices.Sorted(maps.Keys(r.Families)) {
		families = append(families, fmt.Sprintf("%s %d", s, r.Families[s]))
	}
	fmt.Fprintf(w, "  proposed families: %s\n", strings.Join(families, ", "))
	dark := "not known"
	if r.Themes.Dark != "" {
		dark = r.Themes.Dark + " (" + r.Themes.How + ")"
	}
	fmt.Fprintf(w, "  dark: %s\n", dark)
	if len(r.System) > 0 {
		fmt.Fprintf(w, "  %d props stand on most components and are told once: %s\n", len(r.System), strings.Join(r.System[:min(8, len(r.System))], ", "))
	}
	for _, n := range r.Notes {
		fmt.Fprintf(w, "  chosen: %s\n", n)
	}
	names := slices.SortedFunc(maps.Keys(r.Sizes), func(a, b string) int {
		return cmp.Or(r.Sizes[b]-r.Sizes[a], strings.Compare(a, b))
	})
	var sizes []string
	for _, n := range names[:min(5, len(names))] {
		sizes = append(sizes, fmt.Sprintf("%s %d KB", n, r.Sizes[n]>>10))
	}
	fmt.Fprintf(w, "  code: %s\n", strings.Join(sizes, ", "))
	for _, m := range r.Missing[:min(12, len(r.Missing))] {
		fmt.Fprintf(w, "  missing: %s; %s\n", m.What, m.Remedy)
	}
	if n := len(r.Missing) - 12; n > 0 {
		fmt.Fprintf(w, "  and %d more missing (--format json lists them)\n", n)
	}
	for _, l := range r.Left[:min(10, len(r.Left))] {
		fmt.Fprintf(w, "  left out: %s\n", l)
	}
	if n := len(r.Left) - 10; n > 0 {
		fmt.Fprintf(w, "  and %d more left out (--format json lists them)\n", n)
	}
}

// sendKit uploads a packed kit to a server, signed in by a link.
func sendKit(server, token string, b []byte) error {
	server = strings.TrimRight(server, "/")
	if i := strings.LastIndexByte(token, '#'); i >= 0 {
		token = token[i+1:]
	}
	if token == "" {
		return errors.New("a server wants to know who sends: give a sign-in link with --token (ubiquant user NAME)")
	}
	client := &http.Client{Timeout: 2 * time.Minute}
	body, _ := json.Marshal(map[string]string{"token": token})
	req, err := http.NewRequest("POST", server+"/api/sign-in/link", bytes.NewReader(body))
	if err != nil {
		return err
	}
	req.Header.Set("Content-Type", "application/json")
	resp, err := client.Do(req)
	if err != nil {
		return err
	}
	resp.Body.Close()
	if resp.StatusCode >= 300 {
		return fmt.Errorf("%s does not take the sign-in link (%s); links work once and for a while", server, resp.Status)
	}
	up, err := http.NewRequest("POST", server+"/api/kits", bytes.NewReader(b))
	if err != nil {
		return err
	}
	up.Header.Set("Content-Type", "application/octet-stream")
	for _, c := range resp.Cookies() {
		up.AddCookie(c)
	}
	resp, err = client.Do(up)
	if err != nil {
		return err
	}
	defer resp.Body.Close()
	if resp.StatusCode >= 300 {
		said, _ := io.ReadAll(io.LimitReader(resp.Body, 4<<10))
		return fmt.Errorf("%s refused it (%s): %s", server, resp.Status, strings.TrimSpace(string(said)))
	}
	return nil
}
