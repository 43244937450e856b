package kit

import (
	"encoding/json"
	"fmt"
	"path"
	"strings"

	"ubiquant/core/jsonread"
)

// Package is what the package.json of a kit says of its files.
type Package struct {
	Name, Version string
	Module        string            // the module that registers the components, from the package's folder
	Peers         map[string]string // packages it wants beside it, with the range of versions
	exports       map[string]string
}

// ReadPackage reads a package.json. Exports may be a path or conditions, of which
// the default counts, as bundlers for browsers take them.
func ReadPackage(src []byte) (*Package, error) {
	var raw struct {
		Name, Version, Main, Module string
		Exports                     json.RawMessage
		PeerDependencies            map[string]string
		PeerDependenciesMeta        map[string]struct{ Optional bool }
	}
	if err := json.Unmarshal(src, &raw); err != nil {
		return nil, fmt.Errorf("package.json: %w", err)
	}
	p := &Package{Name: raw.Name, Version: raw.Version, Peers: map[string]string{}, exports: map[string]string{}}
	for name, wanted := range raw.PeerDependencies {
		if !raw.PeerDependenciesMeta[name].Optional {
			p.Peers[name] = wanted
		}
	}
	if p.Name == "" || p.Version == "" {
		return nil, fmt.Errorf("package.json: a name and a version are needed")
	}
	var paths map[string]json.RawMessage
	if json.Unmarshal(raw.Exports, &paths) == nil && len(paths) > 0 {
		for key, value := range paths {
			if strings.HasPrefix(key, ".") {
				p.exports[key] = target(value, 0)
			}
		}
	}
	if file := target(raw.Exports, 0); len(p.exports) == 0 && file != "" {
		p.exports["."] = file
	}
	for _, name := range []string{p.exports["."], raw.Module, raw.Main} {
		if p.Module == "" && name != "" {
			p.Module = clean(name)
		}
	}
	return p, nil
}

// target is the file an export leads to.
func target(value json.RawMessage, depth int) string {
	var file string
	if json.Unmarshal(value, &file) == nil {
		return file
	}
	var conditions map[string]json.RawMessage
	if depth > 4 || json.Unmarshal(value, &conditions) != nil {
		return ""
	}
	for _, name := range []string{"browser", "import", "default"} {
		if file := target(conditions[name], depth+1); file != "" {
			return file
		}
	}
	return ""
}

// clean makes a path from the package's folder that cannot leave it.
func clean(name string) string { return strings.TrimPrefix(path.Clean("/"+name), "/") }

// File is the file that an import of the package stands for:
// "@fernhollow/sorrel/sorrel.css" is "dist/sorrel.css".
func (p *Package) File(specifier string) (string, bool) {
	rest, ok := strings.CutPrefix(specifier, p.Name)
	if !ok || (rest != "" && rest[0] != '/') {
		return "", false
	}
	if file := p.exports["."+rest]; file != "" {
		return clean(file), true
	}
	for pattern, file := range p.exports { // "./parts/*.js": "./dist/parts/*.js"
		before, after, starred := strings.Cut(pattern, "*")
		if name, ok := strings.CutPrefix("."+rest, before); starred && ok && strings.HasSuffix(name, after) &&
			len(name) > len(after) {
			return clean(strings.ReplaceAll(file, "*", strings.TrimSuffix(name, after))), true
		}
	}
	// Without exports every file of a package can be imported.
	if rest == "" || len(p.exports) > 0 {
		return "", false
	}
	return clean(rest), true
}

// ReadDependencies lists what a package.json asks for: dependencies, those for
// development and those of peers, by name with the version asked for.
func ReadDependencies(src []byte) (map[string]string, error) {
	r, err := jsonread.New(src, jsonread.Limits{Bytes: 1 << 20, Depth: 16, Values: 20_000})
	if err != nil {
		return nil, fmt.Errorf("package.json: %w", err)
	}
	out := map[string]string{}
	err = r.Object(func(key string) error {
		if key != "dependencies" && key != "devDependencies" && key != "peerDependencies" {
			return r.Skip()
		}
		return r.Object(func(name string) error {
			version, err := r.String()
			if _, known := out[name]; !known || key == "dependencies" {
				out[name] = version
			}
			return err
		})
	})
	if err == nil {
		err = r.End()
	}
	if err != nil {
		return nil, fmt.Errorf("package.json: %w", err)
	}
	return out, nil
}
