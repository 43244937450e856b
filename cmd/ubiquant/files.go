package main

import (
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"

	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/wsfile"
	"ubiquant/server/assets"
)

func today() string { return time.Now().Format(time.DateOnly) }

// readSource reads a workspace from a file, a folder or - for standard input,
// with the text it came from (nil for a folder).
func readSource(path string) (*model.Workspace, []byte, error) {
	if path == "-" {
		src, err := io.ReadAll(os.Stdin)
		if err != nil {
			return nil, nil, err
		}
		w, err := wsfile.Read(src)
		return w, src, err
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
		return w, src, err
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
	return w, nil, err
}

// open computes everything from a workspace on the kit the binary carries.
func open(path string) (*live.Live, []byte, *assets.Bundle, error) {
	w, src, err := readSource(path)
	if err != nil {
		return nil, nil, nil, &exitError{exitBroken, fmt.Errorf("%s: %w", path, err)}
	}
	bundle, err := assets.Kit()
	if err != nil {
		return nil, nil, nil, &exitError{exitBroken, err}
	}
	if w.Kit.Name != bundle.Kit.Name {
		return nil, nil, nil, &exitError{
			exitBroken,
			fmt.Errorf("%s is built on the kit %s; this binary carries %s", path, w.Kit.Name, bundle.Kit.Name),
		}
	}
	return live.Open(w, bundle.Kit, today()), src, bundle, nil
}

// writeFiles writes a tree of files below dir, each whole or not at all.
func writeFiles(dir string, files map[string][]byte) error {
	for path, data := range files {
		target := filepath.Join(dir, filepath.FromSlash(path))
		if err := os.MkdirAll(filepath.Dir(target), 0o755); err != nil {
			return err
		}
		temp := target + ".part"
		if err := os.WriteFile(temp, data, 0o644); err != nil {
			return err
		}
		if err := os.Rename(temp, target); err != nil {
			return err
		}
	}
	return nil
}
