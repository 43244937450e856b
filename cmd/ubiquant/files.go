package main

import (
	"fmt"
	"io"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"ubiquant/core/kit"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/server/assets"
)

func today() string { return time.Now().Format(time.DateOnly) }

// source is where a workspace was read from: one text, or the files of a folder.
type source struct {
	text  []byte
	files map[string][]byte
}

// of is the text that a document stands in, and its file within a folder.
func (s *source) of(d *screen.Document) (file string, text []byte) {
	if s.files == nil {
		return "", s.text
	}
	file = wsfile.Path(d)
	return file, s.files[file]
}

// readSource reads a workspace from a file, a folder or - for standard input.
func readSource(path string) (*model.Workspace, *source, error) {
	if path == "-" {
		src, err := io.ReadAll(os.Stdin)
		if err != nil {
			return nil, nil, err
		}
		w, err := wsfile.Read(src)
		return w, &source{text: src}, err
	}
	info, err := os.Stat(path)
	if err != nil {
		return nil, nil, err
	}
	if !info.IsDir() {
		src, err := os.ReadFile(path)
		if err != nil {
			return nil, nil, err
		}
		w, err := wsfile.Read(src)
		return w, &source{text: src}, err
	}
	files := map[string][]byte{}
	err = filepath.WalkDir(path, func(p string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if d.IsDir() {
			if p != path && strings.HasPrefix(d.Name(), ".") {
				return filepath.SkipDir // .git and the like
			}
			return nil
		}
		if strings.HasPrefix(d.Name(), ".") || filepath.Ext(p) != ".json" {
			return nil
		}
		rel, err := filepath.Rel(path, p)
		if err != nil {
			return err
		}
		files[filepath.ToSlash(rel)], err = os.ReadFile(p)
		return err
	})
	if err != nil {
		return nil, nil, err
	}
	w, err := wsfile.ReadFolder(files)
	return w, &source{files: files}, err
}

// onKit refuses a workspace that is built on another kit than the one at hand.
func onKit(path string, w *model.Workspace, k *kit.Kit) error {
	if w.Kit.Name == k.Name {
		return nil
	}
	return &exitError{
		exitBroken,
		fmt.Errorf("%s is built on the kit %s; this binary carries %s", path, w.Kit.Name, k.Name),
	}
}

// open computes everything from a workspace on the kit the binary carries.
func open(path string) (*live.Live, *source, *assets.Bundle, error) {
	w, src, err := readSource(path)
	if err != nil {
		return nil, nil, nil, &exitError{exitBroken, fmt.Errorf("%s: %w", path, err)}
	}
	bundle, err := assets.Kit()
	if err != nil {
		return nil, nil, nil, &exitError{exitBroken, err}
	}
	if err := onKit(path, w, bundle.Kit); err != nil {
		return nil, nil, nil, err
	}
	return live.Open(w, bundle.Kit, today()), src, bundle, nil
}

// writeFiles writes a tree of files beneath dir, each whole or not at all. Nothing is
// written elsewhere, whatever a path says and wherever links in the folder lead.
func writeFiles(dir string, files map[string][]byte) error {
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return err
	}
	root, err := os.OpenRoot(dir)
	if err != nil {
		return err
	}
	defer root.Close()
	for _, name := range slices.Sorted(maps.Keys(files)) {
		target := filepath.FromSlash(name)
		if err := root.MkdirAll(filepath.Dir(target), 0o755); err != nil {
			return err
		}
		if info, err := root.Lstat(target); err == nil && !info.Mode().IsRegular() {
			return fmt.Errorf("%s is no plain file; it is left as it is", filepath.Join(dir, target))
		}
		if err := root.WriteFile(target+".part", files[name], 0o644); err != nil {
			return err
		}
		if err := root.Rename(target+".part", target); err != nil {
			return err
		}
	}
	return nil
}
