package api

import (
	"io"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/live"
	"ubiquant/core/screen"
)

// Limits of the lines that are shown around a place in code: how many before and after, how
// long a line, how large a file is read.
const (
	linesBefore = 3
	linesAfter  = 8
	lineLength  = 240
	maxCodeFile = 1 << 20
)

type codeLinesIn struct {
	Doc     string `query:"doc"`
	Element string `query:"element"`
}

type codeLinesOut struct {
	Repository string   `json:"repository,omitempty"`
	File       string   `json:"file"`
	Line       int      `json:"line"` // where the element begins
	From       int      `json:"from"` // number of the first of the lines
	Lines      []string `json:"lines"`
	Why        string   `json:"why,omitempty"` // there are none
}

// codeLines are the lines of code around an element that was read from a repository known here,
// as they stand in its folder now.
func (s *Server) codeLines(c *Call, in *codeLinesIn) (*codeLinesOut, error) {
	out := &codeLinesOut{}
	err := s.Live.Read(c.Context(), func(l *live.Live, _ int64) error {
		d, ok := l.W.Doc(in.Doc)
		if !ok {
			return missing(in.Doc)
		}
		var el *screen.Element
		if el, _ = d.Root.Find(in.Element); el == nil || !el.FromCode() {
			return missing(in.Element + " in code")
		}
		out.File = el.Origin.File
		line, _, _ := strings.Cut(el.Origin.Range, ":")
		out.Line, _ = strconv.Atoi(line)
		return nil
	})
	if err != nil {
		return nil, err
	}
	for _, name := range slices.Sorted(maps.Keys(s.repositories)) {
		lines, ok := linesOf(s.repositories[name], out.File)
		if !ok {
			continue
		}
		out.Repository = name
		if out.Line < 1 || out.Line > len(lines) {
			out.Why = "the file has become shorter since it was read"
			return out, nil
		}
		out.From = max(1, out.Line-linesBefore)
		for _, text := range lines[out.From-1 : min(len(lines), out.Line+linesAfter)] {
			if r := []rune(text); len(r) > lineLength {
				text = string(r[:lineLength]) + " …"
			}
			out.Lines = append(out.Lines, text)
		}
		return out, nil
	}
	out.Why = "no repository that is known here has the file"
	return out, nil
}

// linesOf reads a file below a folder, and nothing outside of it.
func linesOf(dir, file string) ([]string, bool) {
	root, err := os.OpenRoot(dir)
	if err != nil {
		return nil, false
	}
	defer root.Close()
	f, err := root.Open(filepath.FromSlash(file))
	if err != nil {
		return nil, false
	}
	defer f.Close()
	if info, err := f.Stat(); err != nil || !info.Mode().IsRegular() || info.Size() > maxCodeFile {
		return nil, false
	}
	text, err := io.ReadAll(io.LimitReader(f, maxCodeFile))
	if err != nil {
		return nil, false
	}
	return strings.Split(strings.ReplaceAll(string(text), "\r\n", "\n"), "\n"), true
}
