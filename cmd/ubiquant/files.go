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

	"ubiquant/core/kit/pack"
	"ubiquant/core/live"
	"ubiquant/core/model"
	"ubiquant/core/screen"
	"ubiquant/core/wsfile"
	"ubiquant/server/assets"
)

func today() string { return time.Now().Format(time.DateOnly) }

// textSource is where a workspace was read from: one text, or the files of a folder.
type textSource struct {
	text  []byte
	files map[string][]byte
}

// of is the text that a document stands in, and its file within a folder.
func (s *textSource) of(d *screen.Document) (file string, text []byte) {
	if s.files == nil {
		return "", s.text
	}
	file = wsfile.Path(d)
	return file, s.files[file]
}

// readSource reads a workspace from a file, a folder or - for standard input.
func readSource(path string) (*model.Workspace, *textSource, error) {
	if path == "-" {
		src, err := io.ReadAll(os.Stdin)
		if err != nil {
			return nil, nil, err
		}
		w, err := wsfile.Read(src)
		return w, &textSource{text: src}, err
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
		return w, &textSource{text: src}, err
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
		if err != nil || strings.HasSuffix(p, ".kit") {
			return err
		}
		files[filepath.ToSlash(rel)], err = os.ReadFile(p)
		return err
	})
	if err != nil {
		return nil, nil, err
	}
	w, err := wsfile.ReadFolder(files)
	return w, &textSource{files: files}, err
}

// kitFor finds the kit that a workspace is built on: a packed kit that was named, one that
// lies in the workspace's folder, or one of those that come with this program. Another
// version of it serves as well, and that is said.
func kitFor(path, kitFile string, w *model.Workspace, say io.Writer) (*pack.Bundle, error) {
	a, err := archiveFor(path, kitFile, w, say)
	if err != nil {
		return nil, err
	}
	return a.Bundle()
}

func archiveFor(path, kitFile string, w *model.Workspace, say io.Writer) (*pack.Archive, error) {
	var at []*pack.Archive
	files, _ := filepath.Glob(filepath.Join(path, "*.kit"))
	if kitFile != "" {
		files = []string{kitFile}
	}
	for _, file := range files {
		src, err := os.ReadFile(file)
		var a *pack.Archive
		if err == nil {
			a, err = pack.Read(src)
		}
		if err != nil {
			return nil, &exitError{exitBroken, fmt.Errorf("%s: %w", file, err)}
		}
		at = append(at, a)
	}
	if kitFile == "" {
		own, err := assets.Kits()
		if err != nil {
			return nil, &exitError{exitBroken, err}
		}
		at = append(at, own...)
	}
	var other *pack.Archive
	names := []string{}
	for _, a := range at {
		switch {
		case a.Meta.Name == w.Kit.Name && (a.Meta.Version == w.Kit.Version || w.Kit.Hash == a.Hash()):
			return a, nil
		case a.Meta.Name == w.Kit.Name && other == nil:
			other = a
		}
		names = append(names, a.Meta.Name+" "+a.Meta.Version)
	}
	if other == nil {
		return nil, &exitError{exitBroken, fmt.Errorf("%s is built on the kit %s %s; here are %s: name the packed kit with --kit",
			path, w.Kit.Name, w.Kit.Version, strings.Join(names, ", "))}
	}
	fmt.Fprintf(say, "The workspace was made with version %s of the kit; here it is %s.\n", w.Kit.Version, other.Meta.Version)
	return other, nil
}

// open computes everything from a workspace on its kit.
func open(path, kitFile string) (*live.Live, *textSource, *pack.Bundle, error) {
	w, src, err := readSource(path)
	if err != nil {
		return nil, nil, nil, &exitError{exitBroken, fmt.Errorf("%s: %w", path, err)}
	}
	bundle, err := kitFor(path, kitFile, w, os.Stderr)
	if err != nil {
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

// replaceFile writes a file whole or not at all.
func replaceFile(name string, b []byte) error {
	if err := os.WriteFile(name+".part", b, 0o644); err != nil {
		return err
	}
	if err := os.Rename(name+".part", name); err != nil {
		os.Remove(name + ".part")
		return err
	}
	return nil
}

// holdsWorkspace tells whether a folder is a workspace's already, so that what lies in its places is its own.
func holdsWorkspace(dir string) bool {
	text, err := os.ReadFile(filepath.Join(dir, "workspace.json"))
	return err == nil && strings.Contains(string(text[:min(len(text), 200)]), wsfile.Format)
}

// removeStale takes the files of a folder's workspace away that it no longer has, and says which.
func removeStale(dir string, files map[string][]byte, say io.Writer) error {
	root, err := os.OpenRoot(dir)
	if err != nil {
		return err
	}
	defer root.Close()
	return fs.WalkDir(root.FS(), ".", func(name string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || files[name] != nil || !d.Type().IsRegular() || !wsfile.InFolder(name) {
			return err
		}
		fmt.Fprintf(say, "%s is no longer of the workspace: removed\n", filepath.Join(dir, name))
		return root.Remove(filepath.FromSlash(name))
	})
}
