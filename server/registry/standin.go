package registry

import (
	"archive/tar"
	"bytes"
	"compress/gzip"
	"crypto/sha512"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"io/fs"
	"maps"
	"net/http"
	"net/url"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/Masterminds/semver/v3"
)

// StandIn is a small registry: it answers for packages that it is given, from memory, as a real
// one does. For the demo, for tests, and for machines that reach no registry.
type StandIn struct {
	packages map[string]map[string]*stood // by name and version
}

type stood struct {
	about   map[string]any
	archive []byte
}

// Add offers a package, given by its files. Its package.json says what it is.
func (s *StandIn) Add(files map[string][]byte) error {
	var about map[string]any
	if err := json.Unmarshal(files["package.json"], &about); err != nil {
		return fmt.Errorf("package.json: %w", err)
	}
	name, _ := about["name"].(string)
	version, _ := about["version"].(string)
	if err := CheckName(name); err != nil {
		return fmt.Errorf("package.json: %w", err)
	}
	if _, err := semver.StrictNewVersion(version); err != nil {
		return fmt.Errorf("package.json of %s: %q is no version", name, version)
	}
	archive, err := packed(files)
	if err != nil {
		return err
	}
	if s.packages == nil {
		s.packages = map[string]map[string]*stood{}
	}
	if s.packages[name] == nil {
		s.packages[name] = map[string]*stood{}
	}
	s.packages[name][version] = &stood{about, archive}
	return nil
}

// packed makes an archive as package managers do; the same files make the same bytes.
func packed(files map[string][]byte) ([]byte, error) {
	var b bytes.Buffer
	zipped := gzip.NewWriter(&b)
	out := tar.NewWriter(zipped)
	for _, name := range slices.Sorted(maps.Keys(files)) {
		h := &tar.Header{Name: "package/" + name, Mode: 0o644, Size: int64(len(files[name])), Typeflag: tar.TypeReg, ModTime: time.Unix(0, 0)}
		if err := out.WriteHeader(h); err != nil {
			return nil, err
		}
		if _, err := out.Write(files[name]); err != nil {
			return nil, err
		}
	}
	if err := out.Close(); err != nil {
		return nil, err
	}
	err := zipped.Close() // writes the last of it
	return b.Bytes(), err
}

// AddFolder offers the package of a folder, without the packages that are installed in it; those
// of a folder of packages are all offered.
func (s *StandIn) AddFolder(dir string) error {
	if filepath.Base(dir) == "node_modules" {
		return s.addAll(dir)
	}
	files := map[string][]byte{}
	err := filepath.WalkDir(dir, func(at string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if d.IsDir() && (d.Name() == "node_modules" || strings.HasPrefix(d.Name(), ".") && at != dir) {
			return fs.SkipDir
		}
		if !d.Type().IsRegular() {
			return nil
		}
		name, err := filepath.Rel(dir, at)
		if err == nil {
			files[filepath.ToSlash(name)], err = os.ReadFile(at)
		}
		return err
	})
	if err != nil {
		return err
	}
	if err := s.Add(files); err != nil {
		return fmt.Errorf("%s: %w", dir, err)
	}
	return nil
}

func (s *StandIn) addAll(dir string) error {
	list, err := os.ReadDir(dir)
	if err != nil {
		return err
	}
	for _, d := range list {
		at := filepath.Join(dir, d.Name())
		switch {
		case strings.HasPrefix(d.Name(), ".") || !d.IsDir():
		case strings.HasPrefix(d.Name(), "@"):
			if err := s.addAll(at); err != nil {
				return err
			}
		default:
			if _, err := os.Stat(filepath.Join(at, "package.json")); err != nil {
				continue
			}
			if err := s.AddFolder(at); err != nil {
				return err
			}
		}
	}
	return nil
}

// Names lists what is offered, with the versions.
func (s *StandIn) Names() []string {
	out := []string{}
	for _, name := range slices.Sorted(maps.Keys(s.packages)) {
		out = append(out, name+" "+strings.Join(slices.Sorted(maps.Keys(s.packages[name])), ", "))
	}
	return out
}

func (s *StandIn) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	at := strings.TrimPrefix(r.URL.Path, "/")
	if name, file, ok := strings.Cut(at, "/-/"); ok {
		version := strings.TrimSuffix(strings.TrimPrefix(file, path.Base(name)+"-"), ".tgz")
		if p := s.packages[name][version]; p != nil {
			w.Header().Set("Content-Type", "application/octet-stream")
			_, _ = w.Write(p.archive) // who went away reads no answer
			return
		}
	}
	versions := s.packages[at]
	if versions == nil || r.Method != http.MethodGet {
		http.Error(w, `{"error":"not found"}`, http.StatusNotFound)
		return
	}
	d := &Document{Versions: map[string]*Version{}}
	said := map[string]any{}
	for number, p := range versions {
		sum := sha512.Sum512(p.archive)
		about := maps.Clone(p.about)
		about["dist"] = map[string]any{
			"tarball":   (&url.URL{Scheme: "http", Host: r.Host, Path: "/" + at + "/-/" + path.Base(at) + "-" + number + ".tgz"}).String(),
			"integrity": "sha512-" + base64.StdEncoding.EncodeToString(sum[:]),
		}
		said[number] = about
		d.Versions[number] = &Version{}
	}
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(map[string]any{ // likewise
		"name": at, "dist-tags": map[string]string{"latest": d.Numbers()[0]}, "versions": said,
	})
}
