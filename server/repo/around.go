package repo

import (
	"encoding/json"
	"maps"
	"path"
	"regexp"
	"slices"
	"strings"

	"github.com/tailscale/hujson"

	"ubiquant/core/source"
)

// readPackage reads a package.json of the repository.
func (r *reader) readPackage(name string) {
	src, err := r.text(name, maxFile)
	if err != nil {
		r.left = append(r.left, source.Left{File: name, What: err.Error()})
		return
	}
	var p struct {
		Name, Main, Module, Source, Types                     string
		Exports                                               json.RawMessage
		Imports                                               map[string]json.RawMessage
		Dependencies, DevDependencies, PeerDependencies, Opts map[string]string
	}
	if err := json.Unmarshal(src, &p); err != nil {
		r.left = append(r.left, source.Left{File: name, What: err.Error()})
		return
	}
	out := source.Package{Name: p.Name, Dir: strings.TrimSuffix(strings.TrimSuffix(name, "package.json"), "/"), Entries: map[string]string{}, Needs: map[string]string{}}
	for _, m := range []map[string]string{p.DevDependencies, p.PeerDependencies, p.Dependencies} {
		for k, v := range m {
			out.Needs[k] = v
		}
	}
	var paths map[string]json.RawMessage
	if json.Unmarshal(p.Exports, &paths) == nil {
		for key, v := range paths {
			if strings.HasPrefix(key, ".") {
				if file := lead(v, 0); file != "" {
					out.Entries[key] = file
				}
			}
		}
	}
	for _, main := range []string{p.Source, lead(p.Exports, 0), p.Module, p.Main, p.Types, "src/index", "index"} {
		if main != "" && out.Entries["."] == "" {
			out.Entries["."] = main
		}
	}
	r.packages = append(r.packages, out)
	// What the package calls by names of its own: "#ui/*".
	for _, key := range slices.Sorted(maps.Keys(p.Imports)) {
		to := lead(p.Imports[key], 0)
		if to == "" || !strings.HasPrefix(to, ".") {
			continue
		}
		a := source.Alias{Prefix: key, Within: out.Dir, To: []string{path.Join(out.Dir, to)}}
		if before, after, ok := strings.Cut(key, "*"); ok {
			a.Prefix, a.Suffix, a.Star = before, after, true
		}
		r.aliases = append(r.aliases, a)
	}
	// What is imported from "@/" and "~/" by custom, where no settings say it.
	for _, prefix := range []string{"@/", "~/"} {
		r.aliases = append(r.aliases, source.Alias{Prefix: prefix, Star: true, Within: out.Dir, To: []string{path.Join(out.Dir, "src/*"), path.Join(out.Dir, "*"), path.Join(out.Dir, "app/*")}})
	}
}

// bundled takes over the aliases that settings of bundlers name, for the package that they
// stand in.
func (r *reader) bundled() {
	for _, f := range r.files {
		if len(f.Aliases) == 0 {
			continue
		}
		dir := path.Dir(f.Path)
		within := ""
		for _, p := range r.packages {
			if len(p.Dir) > len(within) && strings.HasPrefix(f.Path, p.Dir+"/") {
				within = p.Dir
			}
		}
		for _, a := range f.Aliases {
			to := path.Join(dir, a.To)
			if strings.HasPrefix(to, "../") {
				continue // it leads out of the repository
			}
			// Whoever joins a path in a folder of settings means the folder above it.
			above := path.Join(path.Dir(dir), a.To)
			r.aliases = append(r.aliases,
				source.Alias{Prefix: a.Find + "/", Star: true, Within: within, To: []string{path.Join(to, "*"), path.Join(above, "*")}},
				source.Alias{Prefix: a.Find, Within: within, To: []string{to, above}},
			)
		}
	}
}

func lead(value json.RawMessage, depth int) string {
	var file string
	if json.Unmarshal(value, &file) == nil {
		return file
	}
	var conditions map[string]json.RawMessage
	if depth > 5 || json.Unmarshal(value, &conditions) != nil {
		return ""
	}
	for _, name := range []string{"source", "development", "import", "module", "default", "require", "types", "."} {
		if file := lead(conditions[name], depth+1); file != "" {
			return file
		}
	}
	return ""
}

var tsconfig = regexp.MustCompile(`(^|/)(tsconfig(\.[a-z]+)?|jsconfig)\.json$`)

// readAliases reads the paths of a TypeScript configuration; comments may stand in it.
func (r *reader) readAliases(name string) {
	src, err := r.text(name, maxFile)
	if err != nil {
		return
	}
	plain, err := hujson.Standardize(src)
	if err != nil {
		r.left = append(r.left, source.Left{File: name, What: err.Error()})
		return
	}
	var c struct {
		CompilerOptions struct {
			BaseURL string `json:"baseUrl"`
			Paths   map[string][]string
		}
	}
	if json.Unmarshal(plain, &c) != nil {
		return
	}
	dir := path.Dir(name)
	if dir == "." {
		dir = ""
	}
	base := path.Join(dir, c.CompilerOptions.BaseURL)
	for _, key := range slices.Sorted(maps.Keys(c.CompilerOptions.Paths)) {
		a := source.Alias{Prefix: key, Within: dir}
		if before, after, ok := strings.Cut(key, "*"); ok {
			a.Prefix, a.Suffix, a.Star = before, after, true
		}
		for _, to := range c.CompilerOptions.Paths[key] {
			a.To = append(a.To, path.Join(base, to))
		}
		r.aliases = append(r.aliases, a)
	}
	if c.CompilerOptions.BaseURL != "" {
		r.aliases = append(r.aliases, source.Alias{Star: true, Within: dir, To: []string{path.Join(base, "*")}})
	}
}

type owner struct {
	pattern string
	name    string
}

// readOwners reads who owns which files, in the usual form: a pattern and names a line, the
// last that fits counts.
func (r *reader) readOwners(name string) {
	src, err := r.text(name, maxFile)
	if err != nil {
		return
	}
	for line := range strings.Lines(string(src)) {
		line, _, _ = strings.Cut(line, "#")
		fields := strings.Fields(line)
		if len(fields) < 2 {
			continue
		}
		r.owners = append(r.owners, owner{fields[0], strings.TrimPrefix(fields[1], "@")})
	}
}

func (r *reader) owner(file string) string {
	for _, o := range slices.Backward(r.owners) {
		p := strings.TrimSuffix(o.pattern, "/")
		switch {
		case p == "*", p == "":
			return o.name
		case strings.HasPrefix(p, "/"):
			if source.Match(p[1:], file) {
				return o.name
			}
		case source.Match(p, file) || source.Match("**/"+p, file) || source.Match("**/"+p+"/**", file):
			return o.name
		}
	}
	return ""
}
