package main

import (
	"encoding/json"
	"fmt"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"ubiquant/core/audit"
	"ubiquant/core/audit/rules"
	"ubiquant/core/jsonread"
	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
)

// version of the tool, in reports.
const version = "0.1.0"

var reportFormats = []string{"text", "json", "sarif", "junit", "csv"}

func auditCommand() *cobra.Command {
	var format, fail, kitFile string
	var measure bool
	var widths []int
	c := &cobra.Command{
		Use:   "audit WORKSPACE",
		Short: "Check a workspace file or folder against all rules, house rules and norms",
		Long: `Checks every screen of a workspace and prints what was found.

WORKSPACE is a workspace file, a folder as export writes it, or - for standard input.

Exit codes: 0 nothing at or above the failing level; 1 something was found;
2 the workspace or the call cannot be used. Strays inform: they are notes.`,
		Example: "  ubiquant audit demo/fernhollow.json\n  ubiquant audit demo/fernhollow.json --format sarif > report.sarif\n  ubiquant audit demo/fernhollow.json --measured --fail error",
		Args:    cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			level := audit.Severity(fail)
			var l *live.Live
			var bundle *pack.Bundle
			var report *audit.Report
			if isRepository(args[0]) {
				r, err := readRepository(cmd.Context(), args[0], nil, nil, nil)
				if err != nil {
					return &exitError{exitBroken, fmt.Errorf("%s: %w", args[0], err)}
				}
				tellRepository(cmd.ErrOrStderr(), r)
				l = openRepository(r)
				report = reportOn(l, filepath.ToSlash(args[0]), places(r))
			} else {
				var src *source
				var err error
				if l, src, bundle, err = open(args[0], kitFile); err != nil {
					return err
				}
				report = newReport(l, src, filepath.ToSlash(args[0]))
			}
			if measure && bundle == nil {
				return &exitError{exitBroken, fmt.Errorf("%s is a repository: what is read from code is not drawn; leave out --measured", args[0])}
			}
			if measure {
				for _, w := range widths {
					if w < 200 || w > 4000 {
						return &exitError{
							exitBroken,
							fmt.Errorf("the width %d cannot be looked at; accepted: 200 to 4000", w),
						}
					}
				}
				list, err := measured(cmd.Context(), l, bundle, lookSets(l), widths)
				if err != nil {
					return &exitError{exitBroken, err}
				}
				report.Findings = append(report.Findings, list...)
				report.Rules = append(slices.Clone(report.Rules), looks)
			}
			switch format {
			case "text":
				fmt.Fprint(cmd.OutOrStdout(), report.Text())
			case "sarif", "junit", "csv":
				write := map[string]func() ([]byte, error){
					"sarif": report.SARIF,
					"junit": report.JUnit,
					"csv":   report.CSV,
				}
				out, err := write[format]()
				if err != nil {
					return err
				}
				fmt.Fprintln(cmd.OutOrStdout(), strings.TrimSuffix(string(out), "\n"))
			case "json":
				out, err := json.MarshalIndent(
					map[string]any{
						"findings":  orEmpty(report.Findings),
						"strays":    l.Safe(l.Strays()),
						"leanings":  l.Safe(l.Leans()),
						"questions": l.Questions(),
					},
					"",
					" ",
				)
				if err != nil {
					return err
				}
				fmt.Fprintln(cmd.OutOrStdout(), string(out))
			}
			for _, f := range append(report.Findings, report.Strays...) {
				if fail != "never" && f.Severity.Rank() >= level.Rank() {
					return &exitError{exitFound, fmt.Errorf("there are findings")}
				}
			}
			return nil
		},
	}
	c.Flags().
		BoolVar(&measure, "measured", false, "also draw every screen under every sample set in headless Chromium and judge where things stand")
	c.Flags().StringVar(&kitFile, "kit", "", "packed kit that the workspace is built on, where it does not come along")
	c.Flags().IntSliceVar(&widths, "widths", []int{360, 1280}, "widths to draw at, with --measured")
	choice(c, &format, "format", "how it is written", reportFormats...)
	choice(c, &fail, "fail", "lowest level that makes the command fail", "warning", "error", "note", "never")
	return c
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
	r := &audit.Report{Tool: version, Source: path, Rules: rules.All(), Findings: open}
	for _, s := range l.Safe(l.Strays()) {
		r.Strays = append(
			r.Strays,
			audit.Finding{Rule: "stray", Severity: audit.Note, Doc: s.Doc, Element: s.Element, Prop: s.Prop,
				Message: s.Why, FixTitle: s.FixTitle, Fix: s.Fix},
		)
	}
	r.At = at
	return r
}

// newReport is what was found in a workspace.
func newReport(l *live.Live, src *source, path string) *audit.Report {
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
