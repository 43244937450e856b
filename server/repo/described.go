package repo

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"golang.org/x/sync/errgroup"

	"ubiquant/core/kit/describe"
	"ubiquant/core/source"
	"ubiquant/server/intake"
)

// describe asks the kits in use what they say of themselves, where they are installed.
func (r *reader) describe(ctx context.Context, s *source.Survey) []*describe.Catalog {
	asked := map[string]bool{}
	names := make([]string, len(s.Kits))
	for i, k := range s.Kits {
		if k.Package != "" && k.Name() == k.Package {
			names[i] = k.Package
			asked[k.Package] = true
		}
	}
	out := r.descriptions(ctx, names)
	// Names that are used without an import: elements, and what is registered for all.
	if loose := s.Loose(); len(loose) > 0 {
		for _, c := range out {
			if c != nil && c.Drawn == describe.Vue {
				s.TakeLoose(c, loose) // what some files import others may not
			}
		}
		for _, name := range r.candidates() {
			if asked[name] || len(asked) > 12 {
				continue
			}
			asked[name] = true
			if c := r.descriptions(ctx, []string{name})[0]; c != nil && s.TakeLoose(c, loose) {
				out = append(out, c)
			}
		}
	}
	return out
}

// atOnce is how many libraries are read at a time: a reader of types takes some hundred megabytes.
const atOnce = 2

// descriptions asks libraries by their names; nil where one is empty, and where nothing is told.
func (r *reader) descriptions(ctx context.Context, names []string) []*describe.Catalog {
	out, why, whole := make([]*describe.Catalog, len(names)), make([]error, len(names)), make([]bool, len(names))
	var all errgroup.Group
	all.SetLimit(atOnce)
	keys := make([]string, len(names))
	for i, name := range names {
		if name == "" {
			continue
		}
		dir, at := r.dirOf(name)
		if keys[i] = r.installedAs(dir, name); keys[i] != "" {
			if c := r.describedBefore(keys[i]); c != nil {
				out[i] = c
				continue
			}
		}
		r.Tell("reading what " + name + " says of itself")
		all.Go(func() error {
			out[i], whole[i], why[i] = intake.Describe(ctx, intake.Options{Dir: dir, Package: at, Reader: r.Declarations, Node: r.Node})
			return nil
		})
	}
	_ = all.Wait() // each says for itself why it failed
	for i, name := range names {
		switch known := r.Known[name]; {
		case whole[i] && keys[i] != "":
			r.keepDescription(keys[i], out[i])
		case why[i] != nil && known != nil:
			out[i] = known
		case why[i] != nil:
			first, _, _ := strings.Cut(why[i].Error(), "\n")
			r.left = append(r.left, source.Left{File: name, What: first + "; it is described by how it is used"})
		}
	}
	if r.kept != nil {
		r.kept.keep()
	}
	return out
}

// locks are the files that say exactly what is installed beside them.
var locks = []string{
	"node_modules/.package-lock.json", "node_modules/.pnpm/lock.yaml", "node_modules/.yarn-integrity", "node_modules/.yarn-state.yml",
}

// installedAs names what a library is as it is installed for a folder, with all that it is installed
// with; empty where nobody can tell whether it is the same as before, as of a folder that somebody works in.
func (r *reader) installedAs(dir, name string) string {
	if len(r.Declarations) == 0 {
		return ""
	}
	for at := dir; ; at = filepath.Dir(at) {
		in := filepath.Join(at, "node_modules", filepath.FromSlash(name))
		pkg, err := os.ReadFile(filepath.Join(in, "package.json"))
		if err != nil {
			if at == filepath.Dir(at) {
				return ""
			}
			continue
		}
		if real, err := filepath.EvalSymlinks(in); err != nil || !strings.Contains(filepath.ToSlash(real), "/node_modules/") {
			return ""
		}
		for _, lock := range locks {
			if text, err := os.ReadFile(filepath.Join(at, filepath.FromSlash(lock))); err == nil {
				return hashOf(text, strings.Join([]string{"described", name, hashOf(pkg, ""), hashOf(r.Declarations, ""), program()}, "|"))
			}
		}
		return ""
	}
}

// program tells one build of this program from another: what it makes of a library differs.
func program() string {
	file, err := os.Executable()
	if err != nil {
		return ""
	}
	info, err := os.Stat(file)
	if err != nil {
		return ""
	}
	return fmt.Sprint(info.Size(), info.ModTime().UnixNano())
}

func (r *reader) describedBefore(key string) *describe.Catalog {
	raw, ok := r.store().known[key]
	if !ok {
		return nil
	}
	c := &describe.Catalog{}
	if json.Unmarshal(raw, c) != nil || c.Check() != nil {
		return nil
	}
	r.kept.used[key] = true
	return c
}

func (r *reader) keepDescription(key string, c *describe.Catalog) {
	kept := r.store()
	if kept.used[key] {
		return
	}
	if raw, err := json.Marshal(c); err == nil {
		kept.add(key, raw)
	}
}

// dirOf is the folder of the repository in which a package is installed, and what it is found
// by there: its name, or its folder, where it lies beside the repository and is not installed.
func (r *reader) dirOf(name string) (dir, at string) {
	for _, p := range r.packages {
		version, needs := p.Needs[name]
		if !needs {
			continue
		}
		in := filepath.Join(r.Dir, filepath.FromSlash(p.Dir))
		if _, err := os.Stat(filepath.Join(in, "node_modules", filepath.FromSlash(name), "package.json")); err == nil {
			return in, name
		}
		for _, by := range []string{"file:", "link:", "portal:"} {
			if beside, ok := strings.CutPrefix(version, by); ok {
				if beside = filepath.FromSlash(beside); !filepath.IsAbs(beside) {
					beside = filepath.Join(in, beside)
				}
				if _, err := os.Stat(filepath.Join(beside, "package.json")); err == nil {
					return in, beside
				}
			}
		}
	}
	return r.Dir, name
}

// candidates are dependencies that may define elements or register components.
func (r *reader) candidates() []string {
	seen := map[string]bool{}
	var out []string
	for _, p := range r.packages {
		for _, name := range slices.Sorted(maps.Keys(p.Needs)) {
			if seen[name] || source.Plain(name) {
				continue
			}
			seen[name] = true
			if r.Known[name] != nil {
				out = append(out, name)
				continue
			}
			dir, at := r.dirOf(name)
			if !filepath.IsAbs(at) {
				at = filepath.Join(dir, "node_modules", filepath.FromSlash(name))
			}
			src, err := os.ReadFile(filepath.Join(at, "package.json"))
			if err != nil {
				continue
			}
			var pkg struct {
				CustomElements   json.RawMessage
				WebTypes         json.RawMessage `json:"web-types"`
				PeerDependencies map[string]string
				Dependencies     map[string]string
			}
			if json.Unmarshal(src, &pkg) != nil {
				continue
			}
			drawn := len(pkg.CustomElements) > 0 || len(pkg.WebTypes) > 0
			for _, of := range []string{"vue", "@angular/core", "lit"} {
				_, peer := pkg.PeerDependencies[of]
				_, dep := pkg.Dependencies[of]
				drawn = drawn || peer || dep && of == "lit"
			}
			if drawn {
				out = append(out, name)
			}
		}
	}
	return out
}
