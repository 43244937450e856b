package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ubiquant/core/audit"
	"ubiquant/core/jsonread"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/norm"
	"ubiquant/core/source"
	"ubiquant/core/wsfile"
	"ubiquant/server/repo"
)

// version of the tool, in reports.
const version = "0.1.0"

var reportFormats = []string{"text", "json", "sarif", "junit", "csv", "markdown", "html"}

// auditing is one call of the command.
type auditing struct {
	path, format, fail, kitFile  string
	measure, fix, few            bool
	widths                       []int
	base, baseline, write, patch string
	rules, owners, paths         []string
	cmd                          *cobra.Command
	live                         *live.Live
	bundle                       *pack.Bundle
	repo                         *repo.Repository // where code is audited
	report                       *audit.Report
}

func auditCommand() *cobra.Command {
	a := &auditing{}
	c := &cobra.Command{
		Use:   "audit PATH",
		Short: "Check a workspace or a repository against all rules, house rules and norms",
		Long: `Checks every screen and prints what was found.

PATH is a workspace file, a folder as export writes it, - for standard input, or a
repository: a folder of code in which screens are built from a component library. What is
read of a repository, and what is not, is said first. ubiquant.json at its root says what
cannot be found out; "ubiquant init" writes one. Nothing of the repository is run.

With --base only what is new since then is told and counts: another workspace, a folder, or
a revision of git. With --baseline only what a file does not list; --write-baseline writes it.

--fix changes literals in the files, --patch writes the changes as a patch instead; what is
more than a change of a literal is listed. A comment lets a finding stand where it is:
  // ubiquant: let stand emphasis until 2027-01-31: the reason

Exit codes: 0 nothing at or above the failing level; 1 something was found;
2 what is named cannot be read, or the call cannot be used. Strays inform: they are notes.`,
		Example: `  ubiquant audit demo/fernhollow.json
  ubiquant audit demo/fernhollow.json --format sarif > report.sarif
  ubiquant audit demo/fernhollow.json --measured --fail error
  ubiquant audit ~/office
  ubiquant audit ~/office --base main --fail note
  ubiquant audit ~/office --rule stray --patch strays.patch`,
		Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			a.cmd, a.path = cmd, args[0]
			return a.run(cmd.Context())
		},
	}
	f := c.Flags()
	f.BoolVar(&a.measure, "measured", false, "also draw every screen under every sample set in headless Chromium and judge where things stand")
	f.StringVar(&a.kitFile, "kit", "", "packed kit that the workspace is built on, where it does not come along")
	f.IntSliceVar(&a.widths, "widths", []int{360, 1280}, "widths to draw at, with --measured")
	f.StringVar(&a.base, "base", "", "tell only what is new since: a workspace, a folder, or a revision of git")
	f.StringVar(&a.baseline, "baseline", "", "tell only what this file does not list")
	f.StringVar(&a.write, "write-baseline", "", "write what is found to this file, and fail for none of it")
	f.StringSliceVar(&a.rules, "rule", nil, "tell only findings of these rules")
	f.StringSliceVar(&a.owners, "owner", nil, "tell only findings on screens of these owners")
	f.StringSliceVar(&a.paths, "in", nil, "tell only findings in these files of a repository, by patterns")
	f.BoolVar(&a.fix, "fix", false, "change the files of a repository: bring what is told into line, as far as literals go")
	f.StringVar(&a.patch, "patch", "", "write the changes of --fix to this file as a patch instead; - for standard output")
	f.BoolVar(&a.few, "few", false, "with --fix or --patch, also repair what so few screens tell of that it is only worth a look")
	choice(c, &a.format, "format", "how it is written", reportFormats...)
	choice(c, &a.fail, "fail", "lowest level that makes the command fail", "warning", "error", "note", "never")
	return c
}

func broken(err error) error { return &exitError{exitBroken, err} }

func (a *auditing) run(ctx context.Context) error {
	for _, w := range a.widths {
		if a.measure && (w < 200 || w > 4000) {
			return broken(fmt.Errorf("the width %d cannot be looked at; accepted: 200 to 4000", w))
		}
	}
	if err := a.open(ctx); err != nil {
		return err
	}
	for _, r := range a.rules {
		if r != audit.StrayRule.ID && !slices.ContainsFunc(a.live.Rules(), func(k *audit.Rule) bool { return k.ID == r }) {
			return broken(fmt.Errorf("there is no rule %q; accepted: %s, or those in the docs under rules", r, audit.StrayRule.ID))
		}
	}
	if a.repo == nil && (a.fix || a.patch != "") {
		return broken(fmt.Errorf("%s is a workspace: --fix and --patch change code; findings of a workspace are repaired in the application", a.path))
	}
	if a.measure {
		if a.bundle == nil {
			return broken(fmt.Errorf("%s is a repository: what is read from code is not drawn; leave out --measured", a.path))
		}
		list, err := measured(ctx, a.live, a.bundle, lookSets(a.live), a.widths)
		if err != nil {
			return broken(err)
		}
		a.report.Findings = append(a.report.Findings, list...)
		a.report.Rules = append(slices.Clone(a.report.Rules), live.Looks)
	}
	a.narrow()
	if err := a.compare(ctx); err != nil {
		return err
	}
	if a.fix || a.patch != "" {
		return a.repair(ctx)
	}
	if err := a.print(); err != nil {
		return err
	}
	if a.write != "" {
		return nil
	}
	for _, f := range append(slices.Clone(a.report.Findings), a.report.Strays...) {
		if a.fail != "never" && f.Severity.Rank() >= audit.Severity(a.fail).Rank() {
			return &exitError{exitFound, fmt.Errorf("there are findings")}
		}
	}
	return nil
}

// open reads what is audited.
func (a *auditing) open(ctx context.Context) error {
	name := filepath.ToSlash(a.path)
	if isRepository(a.path) {
		r, err := readRepository(ctx, a.path, nil, nil, nil)
		if err != nil {
			return broken(fmt.Errorf("%s: %w", a.path, err))
		}
		a.repo = r
		a.live = r.Judge(today())
		a.report = reportOn(a.live, name, places(r))
		a.report.FixAt = fixes(r)
		tellRepository(a.cmd.ErrOrStderr(), r)
		stood := 0
		for i := range a.live.W.Stands {
			if s := &a.live.W.Stands[i]; s.InCode() && !s.Due(today()) {
				stood++
			}
		}
		if stood > 0 {
			fmt.Fprintf(a.cmd.ErrOrStderr(), "  let stand by comments: %s\n", several(stood, "finding"))
		}
		return nil
	}
	l, src, bundle, err := open(a.path, a.kitFile)
	if err != nil {
		return err
	}
	a.live, a.bundle = l, bundle
	a.report = newReport(l, src, name)
	return nil
}

// narrow leaves what was asked for.
func (a *auditing) narrow() {
	keep := func(f audit.Finding) bool {
		if len(a.rules) > 0 && !slices.Contains(a.rules, f.Rule) {
			return false
		}
		if len(a.owners) > 0 {
			if d, ok := a.live.W.Doc(f.Doc); !ok || !slices.Contains(a.owners, d.Owner) {
				return false
			}
		}
		if len(a.paths) > 0 {
			at, ok := a.report.At(f.Doc, f.Element)
			if !ok || !slices.ContainsFunc(a.paths, func(p string) bool { return source.Match(p, at.File) }) {
				return false
			}
		}
		return true
	}
	for _, list := range []*[]audit.Finding{&a.report.Findings, &a.report.Strays} {
		*list = slices.DeleteFunc(*list, func(f audit.Finding) bool { return !keep(f) })
	}
	a.report.Stood = slices.DeleteFunc(a.report.Stood, func(s audit.Stood) bool { return !keep(s.Finding) })
}

// compare leaves what is new, where there is something to compare with, and writes baselines.
func (a *auditing) compare(ctx context.Context) error {
	all := append(slices.Clone(a.report.Findings), a.report.Strays...)
	if a.write != "" {
		if err := replaceFile(a.write, audit.NewBaseline(a.live.W.Name, all).Write()); err != nil {
			return broken(err)
		}
		fmt.Fprintf(a.cmd.ErrOrStderr(), "%s written to %s: with --baseline %s only what is new is told.\n", several(len(all), "finding"), a.write, a.write)
	}
	var b *audit.Baseline
	switch {
	case a.base != "" && a.baseline != "":
		return broken(errors.New("compare with --base or with --baseline, not with both"))
	case a.baseline != "":
		src, err := os.ReadFile(a.baseline)
		if errors.Is(err, fs.ErrNotExist) {
			return broken(fmt.Errorf("%s is not there: write it with --write-baseline %s", a.baseline, a.baseline))
		}
		if err == nil {
			b, err = audit.ReadBaseline(src, a.live.W.Name)
		}
		if err != nil {
			return broken(fmt.Errorf("%s: %w", a.baseline, err))
		}
		a.report.Since = a.baseline
	case a.base != "":
		was, err := a.before(ctx)
		if err != nil {
			return broken(err)
		}
		b = audit.NewBaseline(a.live.W.Name, append(slices.Clone(was.Findings), was.Strays...))
		a.report.Since = a.base
	default:
		return nil
	}
	fresh, gone := b.Compare(all)
	a.report.Known = len(all) - len(fresh)
	a.report.Mended = gone
	// Rules and owners narrow what is compared with as well.
	if len(a.rules) > 0 {
		a.report.Mended = slices.DeleteFunc(a.report.Mended, func(e audit.Entry) bool { return !slices.Contains(a.rules, e.Rule) })
	}
	if len(a.owners)+len(a.paths) > 0 {
		a.report.Mended = nil // whose they were is not kept
	}
	isNew := map[string]int{}
	for i := range fresh {
		isNew[fresh[i].Key()+"\x00"+fresh[i].Message]++
	}
	for _, list := range []*[]audit.Finding{&a.report.Findings, &a.report.Strays} {
		*list = slices.DeleteFunc(*list, func(f audit.Finding) bool {
			k := f.Key() + "\x00" + f.Message
			if isNew[k] > 0 {
				isNew[k]--
				return false
			}
			return true
		})
	}
	return nil
}

// before is what was found in what is compared with.
func (a *auditing) before(ctx context.Context) (*audit.Report, error) {
	if _, err := os.Stat(a.base); err == nil {
		if isRepository(a.base) {
			r, err := readRepository(ctx, a.base, nil, nil, nil)
			if err != nil {
				return nil, fmt.Errorf("%s: %w", a.base, err)
			}
			return a.reportOf(r), nil
		}
		l, src, _, err := open(a.base, a.kitFile)
		if err != nil {
			return nil, err
		}
		return newReport(l, src, a.base), nil
	}
	if a.repo != nil {
		files, err := repo.Revision(ctx, a.path, a.base)
		if err != nil {
			return nil, err
		}
		names := make([]string, 0, len(files))
		for name := range files {
			names = append(names, name)
		}
		r, err := readRepository(ctx, a.path, nil, files, names)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", a.base, err)
		}
		return a.reportOf(r), nil
	}
	if info, err := os.Stat(a.path); err != nil || info.IsDir() {
		return nil, fmt.Errorf("%s is not there; a folder of a workspace is compared with another file or folder", a.base)
	}
	text, err := repo.FileAt(ctx, a.path, a.base)
	if err != nil {
		return nil, fmt.Errorf("%s is neither a file, a folder nor a revision of git that has %s: %w", a.base, a.path, err)
	}
	w, err := wsfile.Read(text)
	if err != nil {
		return nil, fmt.Errorf("%s at %s: %w", a.path, a.base, err)
	}
	return newReport(live.Open(w, a.bundle.Kit, today()), &textSource{text: text}, a.path), nil
}

func (a *auditing) reportOf(r *repo.Repository) *audit.Report {
	return reportOn(r.Judge(today()), a.path, places(r))
}

// repair brings what is told into line, in files or as a patch.
func (a *auditing) repair(ctx context.Context) error {
	var repairs []source.Repair
	none := 0
	few := 0
	for _, f := range append(slices.Clone(a.report.Findings), a.report.Strays...) {
		switch {
		case len(f.Fix) == 0:
			none++
			continue
		case f.Few && !a.few:
			few++
			continue
		}
		repairs = append(repairs, source.Repair{Key: f.Key(), Doc: f.Doc, Edits: f.Fix})
	}
	say := a.cmd.ErrOrStderr()
	files, unmade, err := a.repo.Repair(ctx, repo.Options{Dir: a.path}, today(), repairs)
	if err != nil {
		return broken(err)
	}
	for _, u := range unmade {
		rule, _, _ := strings.Cut(u.Key, "|")
		fmt.Fprintf(say, "%s: %s: not repaired: %s\n", u.Where, rule, u.Why)
	}
	if none > 0 {
		fmt.Fprintf(say, "%s without a repair to offer\n", several(none, "finding"))
	}
	if few > 0 {
		fmt.Fprintf(say, "%s that only a few screens tell of, not repaired; --few repairs them too\n", several(few, "finding"))
	}
	made := 0
	for _, f := range files {
		made += len(f.Repairs)
	}
	if a.patch != "" {
		if a.patch == "-" {
			fmt.Fprint(a.cmd.OutOrStdout(), source.Diff(files))
		} else if err := replaceFile(a.patch, []byte(source.Diff(files))); err != nil {
			return broken(err)
		}
		fmt.Fprintf(say, "%s in %s, as a patch\n", several(made, "repair"), several(len(files), "file"))
		return nil
	}
	if len(files) == 0 {
		fmt.Fprintln(say, "Nothing to change.")
		return nil
	}
	if err := a.repo.Write(files); err != nil {
		return broken(err)
	}
	back, err := os.CreateTemp("", "ubiquant-back-*.patch")
	if err == nil {
		_, err = back.WriteString(source.Diff(source.Reverse(files)))
		err = errors.Join(err, back.Close())
	}
	if err != nil {
		return broken(err)
	}
	for _, f := range files {
		fmt.Fprintf(a.cmd.OutOrStdout(), "%s: %s\n", f.Path, several(len(f.Repairs), "repair"))
	}
	fmt.Fprintf(say, "%s in %s. To take it back: git -C %s apply %s\n", several(made, "repair"), several(len(files), "file"), a.path, back.Name())
	return nil
}

func (a *auditing) print() error {
	out := a.cmd.OutOrStdout()
	switch a.format {
	case "text":
		fmt.Fprint(out, a.report.Text())
	case "json":
		body := map[string]any{
			"findings": orEmpty(a.report.Findings), "strays": a.live.Safe(a.live.Strays()), "leanings": a.live.Safe(a.live.Leans()), "questions": a.live.Questions(),
		}
		if a.repo != nil || a.report.Since != "" {
			body["strays"] = orEmpty(a.report.Strays)
			body["places"] = a.report.Places()
		}
		if a.repo != nil {
			body["read"] = a.repo.Report
		}
		if a.report.Since != "" {
			body["since"], body["known"], body["mended"] = a.report.Since, a.report.Known, orEmpty(a.report.Mended)
		}
		b, err := json.MarshalIndent(body, "", " ")
		if err != nil {
			return err
		}
		fmt.Fprintln(out, string(b))
	default:
		write := map[string]func() ([]byte, error){
			"sarif": a.report.SARIF, "junit": a.report.JUnit, "csv": a.report.CSV, "markdown": a.report.Markdown, "html": a.report.HTML,
		}
		b, err := write[a.format]()
		if err != nil {
			return err
		}
		fmt.Fprintln(out, strings.TrimSuffix(string(b), "\n"))
	}
	return nil
}

func orEmpty[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// reportOn is what was found, with places by a function that knows them.
func reportOn(l *live.Live, path string, at func(doc, element string) (audit.Location, bool)) *audit.Report {
	open, _ := l.Findings()
	open = l.SafeFindings(open)
	r := &audit.Report{Tool: version, Source: path, Name: l.W.Name, Rules: l.Rules(), Findings: open, Questions: l.Questions(), At: at}
	for _, s := range l.Safe(l.Strays()) {
		f := audit.Finding{
			Rule: audit.StrayRule.ID, Severity: audit.Note, Doc: s.Doc, Element: s.Element, Prop: s.Prop, Message: s.Why, FixTitle: s.FixTitle, Fix: s.Fix,
			Few: s.Certainty == norm.Look, Like: &audit.Place{Doc: s.Like.Doc, Element: s.Like.Element},
		}
		r.Strays = append(r.Strays, f)
	}
	for _, w := range l.Worklist() {
		if w.Stood == nil {
			continue
		}
		k := audit.ParseKey(w.Key)
		severity := w.Severity
		if severity == "" {
			severity = audit.Note
		}
		r.Stood = append(r.Stood, audit.Stood{
			Finding: audit.Finding{Rule: k.Rule, Severity: severity, Doc: k.Doc, Element: k.Element, Prop: k.Prop, Message: w.Message},
			Reason:  w.Stood.Reason,
			InCode:  w.Stood.InCode(),
		})
	}
	// What many screens tell comes before what a few do.
	slices.SortStableFunc(r.Strays, func(a, b audit.Finding) int {
		if a.Few != b.Few {
			if a.Few {
				return 1
			}
			return -1
		}
		return 0
	})
	return r
}

// newReport is what was found in a workspace.
func newReport(l *live.Live, src *textSource, path string) *audit.Report {
	texts := map[string]*lines{}
	return reportOn(l, path, func(doc, element string) (audit.Location, bool) {
		d, ok := l.W.Doc(doc)
		if !ok {
			return audit.Location{}, false
		}
		el, _ := d.Root.Find(element)
		if el == nil {
			return audit.Location{}, false
		}
		file, text := src.of(d)
		if texts[file] == nil {
			texts[file] = newLines(text)
		}
		line, column := texts[file].at(el.Offset)
		return audit.Location{File: file, Line: line, Column: column}, true
	})
}

// lines finds positions in a text that is asked for many of them.
type lines struct {
	src    []byte
	starts []int
}

func newLines(src []byte) *lines {
	l := &lines{src: src, starts: []int{0}}
	for i, c := range src {
		if c == '\n' {
			l.starts = append(l.starts, i+1)
		}
	}
	return l
}

func (l *lines) at(offset int64) (line, column int) {
	i, found := slices.BinarySearch(l.starts, int(offset))
	if !found {
		i--
	}
	_, column = jsonread.Position(l.src[l.starts[i]:], offset-int64(l.starts[i]))
	return i + 1, column
}
