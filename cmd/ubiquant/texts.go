package main

import (
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/texts"
	"ubiquant/core/wsfile"
)

// saying are the flags of texts.
type saying struct {
	kit, language, out, take string
	left, dry                bool
}

func textsCommand() *cobra.Command {
	var f saying
	c := &cobra.Command{
		Use:   "texts WORKSPACE",
		Short: "The texts of all screens, as a file to translate, and translations taken back in",
		Long: `Tells what the texts are and in which languages; with --language and --out writes them as a
file: a JSON object of ICU messages by keys that say where they stand. Copy the file of the
language that they are written in, translate it, and take it in with --take: the language is
that of --language, or what the file is called ("de.json"). What a file cannot say is told, by
its key, and is not taken.

Exit codes: 0 done; 1 something of the file was not taken; 2 it cannot be used, and nothing
was written.`,
		Example: "  ubiquant texts screens/\n  ubiquant texts screens/ --language en --out de.json\n  ubiquant texts screens/ --take de.json --dry-run",
		Args:    cobra.ExactArgs(1),
		RunE:    func(cmd *cobra.Command, args []string) error { return f.run(cmd, args[0]) },
	}
	c.Flags().StringVar(&f.kit, "kit", "", "packed kit that the workspace is built on, where it does not come along")
	c.Flags().StringVar(&f.language, "language", "", "which language, as BCP 47 writes it; that of the screens where not given")
	c.Flags().StringVar(&f.out, "out", "", "file to write; - writes to standard output")
	c.Flags().StringVar(&f.take, "take", "", "file of texts to take into the workspace")
	c.Flags().BoolVar(&f.left, "left", false, "also list what people read that is no text of its own, and why")
	c.Flags().BoolVar(&f.dry, "dry-run", false, "with --take: tell what the file brings, write nothing")
	c.MarkFlagsMutuallyExclusive("out", "take")
	return c
}

func (f *saying) run(cmd *cobra.Command, workspace string) error {
	broken := func(err error) error { return &exitError{exitBroken, err} }
	l, _, _, err := open(workspace, f.kit)
	if err != nil {
		return err
	}
	w := cmd.OutOrStdout()
	list, left := l.Scene().Texts()
	switch {
	case f.take != "":
		return f.taken(w, workspace, l)
	case f.out != "":
		if f.language == "" {
			f.language = l.W.Written()
		}
		if err := texts.Check(f.language); err != nil {
			return broken(err)
		}
		lines := texts.Lines(list, f.language, l.W.Written(), l.W.Translations)
		if f.out == "-" {
			_, err = w.Write(texts.Write(lines))
			return err
		}
		return writeFiles(filepath.Dir(f.out), map[string][]byte{filepath.Base(f.out): texts.Write(lines)})
	}
	fmt.Fprintf(w, "%d texts, written in %s\n", len(list), texts.Name(l.W.Written()))
	for _, language := range l.W.Translated() {
		table := texts.Beside(list, language, l.W.Translations)
		far := texts.Count(texts.Entries(list, table))
		fmt.Fprintf(w, "  %s: %d missing, %d of words that changed since, %d that cannot be shown, %d of no text\n",
			texts.Name(language), len(list)-far.Said, far.Changed, far.Wrong, len(table.Lost))
	}
	if len(left) > 0 {
		fmt.Fprintf(w, "  %d more are read by people and are no texts of their own", len(left))
		if !f.left {
			fmt.Fprint(w, "; --left lists them")
		}
		fmt.Fprintln(w)
	}
	if f.left {
		for _, x := range left {
			fmt.Fprintf(w, "  %s %s %s: %s: %q\n", x.Doc, x.Element, x.Prop, x.Why, x.Says)
		}
	}
	return nil
}

// taken takes a file in, and writes the workspace where it was read from.
func (f *saying) taken(w io.Writer, workspace string, l *live.Live) error {
	broken := func(err error) error { return &exitError{exitBroken, err} }
	if workspace == "-" && !f.dry {
		return broken(errors.New("what comes by standard input cannot be written back; give a file or a folder"))
	}
	data, err := os.ReadFile(f.take)
	if err != nil {
		return broken(err)
	}
	lines, err := texts.ReadFile(data)
	if err != nil {
		return broken(fmt.Errorf("%s: %w", f.take, err))
	}
	language := f.language
	if language == "" {
		language = strings.TrimSuffix(filepath.Base(f.take), ".json")
	}
	made, took, err := l.Scene().TakeTexts(language, lines)
	if err != nil {
		return broken(fmt.Errorf("%s: %w", f.take, err))
	}
	fmt.Fprintf(w, "%s: %d new, %d said otherwise, %d as before, %d missing", texts.Name(language), took.New, took.Other, took.Same, took.Missing)
	if took.Written > 0 {
		fmt.Fprintf(w, "; %d are as they are written in %s", took.Written, texts.Name(l.W.Written()))
	}
	fmt.Fprintln(w)
	refused := len(took.Unknown)
	for _, p := range took.Wrong {
		what := "taken, though"
		if p.Stays {
			what = "not taken:"
			refused++
		}
		fmt.Fprintf(w, "  %s: %s %s\n", p.Key, what, p.Message)
	}
	for _, key := range took.Unknown {
		fmt.Fprintf(w, "  %s: not taken: no text has this key\n", key)
	}
	if len(made.Steps) > 0 && !f.dry {
		if _, err := l.Take(made); err != nil {
			return broken(err)
		}
		if err := rewrite(workspace, l.W); err != nil {
			return broken(err)
		}
	}
	if refused > 0 {
		return &exitError{exitFound, fmt.Errorf("%d texts were not taken", refused)}
	}
	return nil
}

// rewrite writes a workspace where it was read from.
func rewrite(path string, w *model.Workspace) error {
	info, err := os.Stat(path)
	if err != nil {
		return err
	}
	if info.IsDir() {
		return writeFiles(path, wsfile.Folder(w))
	}
	return writeFiles(filepath.Dir(path), map[string][]byte{filepath.Base(path): wsfile.Write(w)})
}
