// Package into delivers into a repository of a team's own: it looks at what is there,
// says what would change, and writes it, so that nothing the team wrote is lost. Plans are
// made by core/deliver/record; here are the files.
package into

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/emit"
	"ubiquant/core/deliver/record"
	"ubiquant/core/deliver/shared"
	"ubiquant/core/screen"
)

// Repo is a folder that is delivered into. Nothing outside of it is read or written,
// wherever links in it lead.
type Repo struct {
	Dir    string // of the repository
	Folder string // of the delivery, below it; "." is the whole repository
	Target string
	App    string // name of the application
	// Prefixes begin the tags of elements, which are the browser's own; none in a framework's kit.
	Prefixes []string
	Styles   []string
	Needs    map[string]string // packages that delivered code needs, with their versions
	// Pictures are the files that the screens show, by where the application serves them from.
	Pictures []deliver.File
	// Node is the program; empty is looked for. Without it code is not formatted as the
	// repository's own formatter would, and additions to it are said, not made.
	Node string

	found   *places
	least   map[string]string // ranges of packages that the code goes with
	fonts   []string          // families that nothing of the kit brings
	sets    bool              // the kit wants something done once
	inserts map[string][]insert
	shown   []*screen.Document // the screens of the delivery
	root    *os.Root
	settled []string // files of which all that was edited by hand is in the screens; see ByHand
}

// Delivery is what a delivery would do.
type Delivery struct {
	Changes   []record.Change
	Additions []Addition
	Notes     []string // what was looked at, and what could not be
	next      *record.Record
}

// lockFile keeps two deliveries from writing at once.
const lockFile = "delivery.lock"

// Open looks at a repository. Without a folder the one that an earlier delivery chose is
// taken, else one is proposed.
func Open(r Repo) (*Repo, error) {
	info, err := os.Stat(r.Dir)
	if err != nil {
		return nil, err
	}
	if !info.IsDir() {
		return nil, fmt.Errorf("%s is no folder", r.Dir)
	}
	if r.root, err = os.OpenRoot(r.Dir); err != nil {
		return nil, err
	}
	if r.Folder == "" {
		r.Folder = r.propose()
	}
	r.Folder = path.Clean(filepath.ToSlash(r.Folder))
	if r.Folder == ".." || strings.HasPrefix(r.Folder, "../") || path.IsAbs(r.Folder) {
		return nil, fmt.Errorf("the folder %s is not inside of %s", r.Folder, r.Dir)
	}
	return &r, nil
}

// Close gives the folder free.
func (r *Repo) Close() error { return r.root.Close() }

// propose is the folder of an earlier delivery of this application, else one of its name
// where code stands.
func (r *Repo) propose() string {
	name := emit.Kebab(r.App)
	for _, at := range []string{path.Join("src", "app", name), path.Join("src", name), path.Join("app", name), name} {
		if r.read(path.Join(at, record.File)) != nil {
			return at
		}
	}
	for _, dir := range []string{"src", "app"} {
		if f := r.folders(); f != nil && dir == f.dir {
			return name // in there stand pages alone
		}
		if info, err := r.root.Stat(dir); err == nil && info.IsDir() {
			if inner, err := r.root.Stat(path.Join(dir, "app")); r.Target == "angular" && err == nil && inner.IsDir() {
				return path.Join(dir, "app", name)
			}
			return path.Join(dir, name)
		}
	}
	return path.Join("src", name)
}

func (r *Repo) read(name string) []byte {
	data, err := r.root.ReadFile(filepath.FromSlash(name))
	if err != nil {
		return nil
	}
	if data == nil {
		data = []byte{}
	}
	return data
}

func (r *Repo) at(name string) string { return path.Join(r.Folder, name) }

// Has tells whether a folder, by its path from the root, is there.
func (r *Repo) Has(folder string) bool {
	info, err := r.root.Stat(filepath.FromSlash(folder))
	return err == nil && info.IsDir()
}

// Files are those of the folder, with what else the application needs for them.
func (r *Repo) Files(ctx context.Context, t deliver.Target, in deliver.Input) ([]deliver.File, []deliver.Note, error) {
	in.Home = r.home(ctx)
	if folder := in.Kit.Folder(); folder != "" {
		if !r.Has(folder) {
			return nil, nil, fmt.Errorf("there is no folder %s here: the screens are made of the components that another repository has in it", folder)
		}
	}
	files, notes, err := t.Inside(in)
	if err != nil || t.Framework == "" {
		return append(files, t.Pictures(in)...), notes, err
	}
	r.Pictures = t.Pictures(in)
	needs, packed, err := deliver.Dependencies(in, t)
	if err != nil {
		return nil, nil, err
	}
	setup, _ := shared.Setup(in)
	r.shown = in.Screens
	r.least, r.fonts, r.sets = leastOf(t, in, needs), in.Unbrought, len(setup.Statements) > 0
	if in.Home.Router != "" {
		delete(needs, "react-router")
	}
	for name, at := range needs {
		if file, ok := strings.CutPrefix(at, "file:"); ok && len(packed) > 0 {
			needs[name] = "file:" + strings.TrimPrefix(path.Join(r.Folder, file), "./")
		}
	}
	r.Needs, r.Styles = needs, shared.Sheets(in)
	r.Prefixes = in.Kit.TagPrefixes()
	return append(files, packed...), notes, nil
}

// Record is what was delivered last.
func (r *Repo) Record() (*record.Record, error) {
	return record.Read(r.read(r.at(record.File)), r.read(r.at(record.Base)))
}

// Plan says what delivering does.
func (r *Repo) Plan(ctx context.Context, of *record.Record, files []deliver.File) (*Delivery, error) {
	d := &Delivery{}
	last, err := r.Record()
	if err != nil {
		return nil, err
	}
	if last.Target != "" && last.Target != of.Target {
		return nil, fmt.Errorf("%s holds a delivery for %s; deliver for %s into another folder, or remove that one first", r.Folder, last.Target, of.Target)
	}
	if err := r.links(files); err != nil {
		return nil, err
	}
	for _, name := range r.settled {
		last.Settle(name, r.read(r.at(name)))
	}
	files, note := r.formatted(ctx, files)
	if note != "" {
		d.Notes = append(d.Notes, note)
	}
	d.Changes, d.next, err = last.Plan(files, func(name string) []byte { return r.read(r.at(name)) })
	if err != nil {
		return nil, err
	}
	d.next.Target, d.next.App, d.next.Kit, d.next.Screens, d.next.Texts = of.Target, of.App, of.Kit, of.Screens, of.Texts
	if r.inserts = nil; r.Folder != "." {
		d.Additions = r.additions(ctx)
	}
	return d, nil
}

// links refuses a file that would be written through a link that leads out of the
// repository, or in place of something that is no plain file.
func (r *Repo) links(files []deliver.File) error {
	for _, f := range files {
		at := ""
		for _, part := range strings.Split(r.at(f.Path), "/") {
			at = path.Join(at, part)
			if _, err := r.root.Stat(filepath.FromSlash(at)); err != nil && !errors.Is(err, fs.ErrNotExist) {
				return fmt.Errorf("%s cannot be written: %w; nothing was written", at, err)
			}
		}
		if info, err := r.root.Lstat(filepath.FromSlash(at)); err == nil && !info.Mode().IsRegular() {
			return fmt.Errorf("%s is no plain file; nothing was written", at)
		}
	}
	return nil
}

// Apply writes what was planned, and the additions where the team agreed. Everything is
// looked at before anything is written.
func (r *Repo) Apply(d *Delivery, connect, force bool) error {
	type write struct {
		name string
		data []byte // nil removes
	}
	var list []write
	pending := map[string]string{}
	for _, c := range d.Changes {
		if c.Writes() {
			list = append(list, write{r.at(c.Path), c.Is})
			if c.Is != nil {
				pending[c.Path] = record.HashOf(c.Is)
			}
		}
		if c.Beside != nil {
			list = append(list, write{r.at(c.Path + record.Beside), c.Beside})
		}
	}
	if connect {
		for _, a := range d.Additions {
			if a.Is != nil {
				list = append(list, write{a.Path, a.Is})
			}
		}
	}
	for _, w := range list {
		if info, err := r.root.Stat(filepath.FromSlash(w.name)); err == nil && info.Mode().Perm()&0o200 == 0 {
			return fmt.Errorf("%s is read-only; nothing was written", w.name)
		}
	}
	if !force {
		if dirty := r.uncommitted(d, connect); len(dirty) > 0 {
			return fmt.Errorf("%s would be changed and has edits that are not committed; commit them, or use --force; nothing was written", strings.Join(dirty, ", "))
		}
	}
	unlock, err := r.lock()
	if err != nil {
		return err
	}
	defer unlock()
	// A delivery that is broken off is gone on with: what it wrote is known beforehand.
	if last, err := r.Record(); err == nil {
		last.Pending = pending
		if text, base, err := last.Write(); err == nil {
			if err := r.write(r.at(record.Base), base); err != nil {
				return err
			}
			if err := r.write(r.at(record.File), text); err != nil {
				return err
			}
		}
	}
	for _, w := range list {
		if w.data == nil {
			if err := r.root.Remove(filepath.FromSlash(w.name)); err != nil {
				return err
			}
			r.prune(path.Dir(w.name))
			continue
		}
		if err := r.write(w.name, w.data); err != nil {
			return err
		}
	}
	text, base, err := d.next.Write()
	if err != nil {
		return err
	}
	if err := r.write(r.at(record.Base), base); err != nil {
		return err
	}
	return r.write(r.at(record.File), text)
}

// write writes a file whole or not at all.
func (r *Repo) write(name string, data []byte) error {
	target := filepath.FromSlash(name)
	if err := r.root.MkdirAll(filepath.Dir(target), 0o755); err != nil {
		return err
	}
	mode := fs.FileMode(0o644)
	if info, err := r.root.Stat(target); err == nil {
		mode = info.Mode().Perm()
	}
	if err := r.root.WriteFile(target+".part", data, mode); err != nil {
		return err
	}
	return r.root.Rename(target+".part", target)
}

// prune removes folders that a removal left empty.
func (r *Repo) prune(dir string) {
	for dir != r.Folder && strings.HasPrefix(dir, r.Folder) && dir != "." {
		if r.root.Remove(filepath.FromSlash(dir)) != nil {
			return // something stands in it
		}
		dir = path.Dir(dir)
	}
}

// lock keeps other deliveries out until what comes back is called. One whose process is
// gone is no lock.
func (r *Repo) lock() (func(), error) {
	name := filepath.FromSlash(r.at(lockFile))
	if err := r.root.MkdirAll(filepath.Dir(name), 0o755); err != nil {
		return nil, err
	}
	for range 2 {
		f, err := r.root.OpenFile(name, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o644)
		if err == nil {
			_, err = fmt.Fprintln(f, os.Getpid())
			if err := errors.Join(err, f.Close()); err != nil {
				return nil, err
			}
			return func() { _ = r.root.Remove(name) }, nil // it is ours
		}
		if !errors.Is(err, fs.ErrExist) {
			return nil, err
		}
		pid, err := strconv.Atoi(strings.TrimSpace(string(r.read(r.at(lockFile)))))
		if err == nil && syscall.Kill(pid, 0) == nil {
			return nil, fmt.Errorf("another delivery (process %d) writes into %s; nothing was written", pid, r.Folder)
		}
		if err := r.root.Remove(name); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return nil, err
		}
	}
	return nil, fmt.Errorf("%s cannot be taken", r.at(lockFile))
}

// uncommitted are files whose edits a merge would mix with what is new and that no commit
// has; none where there is no git.
func (r *Repo) uncommitted(d *Delivery, connect bool) []string {
	var paths []string
	for _, c := range d.Changes {
		if c.What == record.Merge {
			paths = append(paths, r.at(c.Path))
		}
	}
	if connect {
		for _, a := range d.Additions {
			if a.Is != nil {
				paths = append(paths, a.Path)
			}
		}
	}
	if len(paths) == 0 {
		return nil
	}
	cmd := exec.Command("git", append([]string{"-C", r.Dir, "status", "--porcelain", "--untracked-files=no", "-z", "--"}, paths...)...)
	out, err := cmd.Output()
	if err != nil {
		return nil
	}
	var dirty []string
	for entry := range bytes.SplitSeq(out, []byte{0}) {
		if len(entry) > 3 {
			dirty = append(dirty, string(entry[3:]))
		}
	}
	slices.Sort(dirty)
	return dirty
}

// Patch is all of it as a patch from the root of the repository.
func (r *Repo) Patch(d *Delivery, connect bool) string {
	at := r.Folder + "/"
	if r.Folder == "." {
		at = ""
	}
	out := record.Patch(d.Changes, at)
	if connect {
		for _, a := range d.Additions {
			if a.Is != nil {
				out += record.Patch([]record.Change{{Path: a.Path, Was: a.Was, Is: a.Is}}, "")
			}
		}
	}
	return out
}

// manifest is what package.json of the repository says.
type manifest struct {
	Dependencies    map[string]string `json:"dependencies"`
	DevDependencies map[string]string `json:"devDependencies"`
	Peers           map[string]string `json:"peerDependencies"`
}

// Has gives the version range of a package that the repository depends on.
func (m manifest) has(name string) string {
	for _, list := range []map[string]string{m.Dependencies, m.DevDependencies, m.Peers} {
		if v := list[name]; v != "" {
			return v
		}
	}
	return ""
}

func (r *Repo) manifest() (manifest, error) {
	var m manifest
	src := r.read("package.json")
	if src == nil {
		return m, fmt.Errorf("%s has no package.json", r.Dir)
	}
	if err := json.Unmarshal(src, &m); err != nil {
		return m, fmt.Errorf("package.json cannot be read: %w", err)
	}
	return m, nil
}

// installed is the version of a package that is installed in the repository; empty where that
// cannot be told.
func (r *Repo) installed(name string) string {
	var m struct {
		Version string `json:"version"`
	}
	if json.Unmarshal(r.read(path.Join("node_modules", name, "package.json")), &m) != nil {
		return ""
	}
	return m.Version
}

// Detect tells what a repository is written in, by what it depends on: the id of a
// target, or empty.
func (r *Repo) Detect() (target, version string) {
	root, err := os.OpenRoot(r.Dir)
	if err != nil {
		return "", ""
	}
	defer root.Close()
	m, err := (&Repo{Dir: r.Dir, root: root}).manifest()
	if err != nil {
		return "", ""
	}
	for _, is := range [][2]string{{"@angular/core", "angular"}, {"vue", "vue"}, {"react", "react"}} {
		if v := m.has(is[0]); v != "" {
			return is[1], v
		}
	}
	return "", ""
}
