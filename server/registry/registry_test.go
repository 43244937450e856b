package registry_test

import (
	"archive/tar"
	"bytes"
	"compress/gzip"
	"context"
	"crypto/sha1"
	"crypto/sha512"
	"encoding/base64"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io/fs"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/Masterminds/semver/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ubiquant/server/registry"
)

func quiet(string) {}

// pkg is a made-up package: what its package.json says, beside a file that says which it is.
func pkg(t require.TestingT, name, version string, says map[string]any) map[string][]byte {
	about := map[string]any{"name": name, "version": version}
	for k, v := range says {
		about[k] = v
	}
	src, err := json.Marshal(about)
	require.NoError(t, err)
	return map[string][]byte{"package.json": src, "index.js": []byte("export default '" + name + "@" + version + "'\n")}
}

func offer(t require.TestingT, packages ...map[string][]byte) *registry.StandIn {
	s := &registry.StandIn{}
	for _, p := range packages {
		require.NoError(t, s.Add(p))
	}
	return s
}

func serve(t testing.TB, h http.Handler) *registry.Client {
	server := httptest.NewServer(h)
	t.Cleanup(server.Close)
	c, err := registry.New(server.URL)
	require.NoError(t, err)
	return c
}

type manifest struct {
	Name, Version                  string
	Dependencies, PeerDependencies map[string]string
}

// installed reads every package.json beneath a folder, by the folder of the package.
func installed(t require.TestingT, dir string) map[string]manifest {
	out := map[string]manifest{}
	err := filepath.WalkDir(dir, func(at string, d fs.DirEntry, err error) error {
		if err == nil && d.Name() == "package.json" {
			src, err := os.ReadFile(at)
			require.NoError(t, err)
			var m manifest
			require.NoError(t, json.Unmarshal(src, &m))
			out[filepath.Dir(at)] = m
		}
		return err
	})
	require.NoError(t, err)
	return out
}

// finds is the package that an import from a folder leads to, as Node looks for it.
func finds(all map[string]manifest, top, from, name string) (manifest, bool) {
	for at := from; ; at = filepath.Dir(at) {
		if m, ok := all[filepath.Join(at, "node_modules", filepath.FromSlash(name))]; ok {
			return m, true
		}
		if at == top || at == filepath.Dir(at) {
			return manifest{}, false
		}
	}
}

// Whatever packages ask of each other: each import finds a version that fits, and the same comes
// of it each time.
func TestWhoeverImportsFindsWhatItAsksFor(t *testing.T) {
	t.Parallel()
	versions := []string{"1.0.0", "1.4.2", "2.0.0", "2.1.0-beta.1", "3.0.0"}
	ranges := []string{"^1.0.0", "~1.4.0", "1 || 3", ">=1 <3", "*", "2.x", "3.0.0", "latest", ""}
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 7).Draw(t, "packages")
		name := func(i int) string { return []string{"oak", "@wood/elm", "ash", "lime", "yew", "fir", "@wood/box"}[i] }
		s := &registry.StandIn{}
		for i := range n {
			for _, v := range versions {
				deps := map[string]string{}
				for range rapid.IntRange(0, 3).Draw(t, "deps") {
					deps[name(rapid.IntRange(0, n-1).Draw(t, "dep"))] = rapid.SampledFrom(ranges).Draw(t, "range")
				}
				require.NoError(t, s.Add(pkg(t, name(i), v, map[string]any{"dependencies": deps})))
			}
		}
		server := httptest.NewServer(s)
		defer server.Close()
		var before map[string]manifest
		for range 2 {
			dir, err := os.MkdirTemp("", "installed-*")
			require.NoError(t, err)
			defer os.RemoveAll(dir)
			c, err := registry.New(server.URL)
			require.NoError(t, err)
			_, err = c.Begin(dir, quiet).Add(context.Background(), registry.Want{Name: name(0)})
			if err != nil && strings.Contains(err.Error(), "at most 1500") {
				return // without an end: said, not fetched
			}
			require.NoError(t, err)
			all := installed(t, dir)
			relative := map[string]manifest{}
			for at, m := range all {
				for dep, asked := range m.Dependencies {
					is, ok := finds(all, dir, at, dep)
					require.True(t, ok, "%s asks for %s, which is nowhere", at, dep)
					if asked == "" || asked == "latest" {
						continue
					}
					c, err := semver.NewConstraint(asked)
					require.NoError(t, err)
					assert.True(t, c.Check(semver.MustParse(is.Version)), "%s asks for %s %s and finds %s", at, dep, asked, is.Version)
				}
				rel, err := filepath.Rel(dir, at)
				require.NoError(t, err)
				relative[rel] = m
			}
			if before != nil {
				assert.Equal(t, before, relative)
			}
			before = relative
		}
	})
}

func TestWhatIsChosenOfVersions(t *testing.T) {
	assert.ErrorContains(t, (&registry.StandIn{}).Add(pkg(t, "fern", "1.0", nil)), `"1.0" is no version`)
	old := pkg(t, "fern", "1.9.0", nil)
	withdrawn := pkg(t, "fern", "2.0.0", map[string]any{"deprecated": "it loses leaves"})
	c := serve(t, offer(t, old, withdrawn, pkg(t, "fern", "1.2.0", nil), pkg(t, "fern", "3.0.0-rc.1", nil), pkg(t, "fern", "2.0.1", nil)))
	d, err := c.Package(context.Background(), "fern")
	require.NoError(t, err)
	assert.Equal(t, []string{"3.0.0-rc.1", "2.0.1", "2.0.0", "1.9.0", "1.2.0"}, d.Numbers())
	d.Tags = map[string]string{"latest": "2.0.1", "next": "3.0.0-rc.1"}
	for asked, want := range map[string]string{
		"": "2.0.1", "latest": "2.0.1", "next": "3.0.0-rc.1", "^1": "1.9.0", "1.2.0": "1.2.0", "2.0.0": "2.0.0", "<=2.0.0 >1.9.0": "2.0.0",
		"~1.2 || ^9": "1.2.0", "*": "2.0.1", "1.0 - 1.5": "1.2.0", " >= 2 ": "2.0.1",
	} {
		v, err := d.Choose(asked)
		if assert.NoError(t, err, asked) {
			assert.Equal(t, want, v.Version, asked)
		}
	}
	for _, asked := range []string{"^7", "neext", "1.2.0.0.1", "^^"} {
		_, err := d.Choose(asked)
		assert.ErrorContains(t, err, "has no version", asked)
	}
	for asked, want := range map[string][2]string{
		"fern": {"fern", ""}, "fern@^2": {"fern", "^2"}, "@wood/fern": {"@wood/fern", ""}, " @wood/fern@1 - 2 ": {"@wood/fern", "1 - 2"},
	} {
		name, version := registry.Split(asked)
		assert.Equal(t, want, [2]string{name, version})
	}
	for _, name := range []string{"", "../fern", "@/fern", "fern/leaf", "a b", ".fern", "@wood/", "fern?x", "%2e%2e", strings.Repeat("f", 300)} {
		assert.Error(t, registry.CheckName(name), name)
	}
}

// What is asked of whoever uses a package stands beside it, once; what cannot be had is told.
func TestWhatAPackageAsksOfItsUserStandsBesideIt(t *testing.T) {
	c := serve(t, offer(t,
		pkg(t, "orchard", "1.0.0", map[string]any{
			"dependencies":         map[string]string{"leaf": "^1", "fork": "git+https://forge.example/fork.git", "alias": "npm:root-stock@^2", "native": "^1", "../up": "npm:root-stock@^2"},
			"optionalDependencies": map[string]string{"native": "^1"},
			"peerDependencies":     map[string]string{"soil": "^3", "rain": "^1", "nowhere": "^1"},
			"peerDependenciesMeta": map[string]any{"rain": map[string]bool{"optional": true}},
		}),
		pkg(t, "leaf", "1.0.0", map[string]any{"peerDependencies": map[string]string{"soil": "^2"}}),
		pkg(t, "soil", "3.1.0", nil), pkg(t, "soil", "2.0.0", nil), pkg(t, "rain", "1.0.0", nil), pkg(t, "root-stock", "2.2.0", nil),
	))
	dir := t.TempDir()
	is, err := c.Begin(dir, quiet).Add(context.Background(), registry.Want{Name: "orchard"})
	require.NoError(t, err)
	assert.Equal(t, map[string]string{"orchard": "1.0.0", "leaf": "1.0.0", "soil": "3.1.0", "alias": "2.2.0"}, is.Versions)
	assert.Equal(t, 4, is.Packages)
	assert.ElementsMatch(t, []string{
		"fork git+https://forge.example/fork.git is no package of a registry and was left out (asked for by orchard)",
		"../up npm:root-stock@^2 is no package of a registry and was left out (asked for by orchard)",
		"nowhere is not in the registry and was left out (asked for by orchard)",
		"soil 3.1.0 is there, and ^2 is asked for (asked for by leaf)",
	}, is.Notes)
	body, err := os.ReadFile(filepath.Join(dir, "node_modules", "alias", "index.js"))
	require.NoError(t, err)
	assert.Contains(t, string(body), "root-stock@2.2.0")
	_, err = c.Begin(t.TempDir(), quiet).Add(context.Background(), registry.Want{Name: "orchard", Range: "^4"})
	assert.EqualError(t, err, `orchard has no version "^4"; the newest is 1.0.0`)
	_, err = c.Begin(t.TempDir(), quiet).Add(context.Background(), registry.Want{Name: "meadow"})
	assert.ErrorIs(t, err, registry.ErrNotThere)
}

// archived makes an archive of entries as they are given.
func archived(t testing.TB, headers ...tar.Header) []byte {
	var b bytes.Buffer
	z := gzip.NewWriter(&b)
	out := tar.NewWriter(z)
	for _, h := range headers {
		body := []byte("x")
		if h.Typeflag == tar.TypeReg {
			h.Size = int64(len(body))
		}
		require.NoError(t, out.WriteHeader(&h))
		if h.Typeflag == tar.TypeReg {
			_, err := out.Write(body)
			require.NoError(t, err)
		}
	}
	require.NoError(t, out.Close())
	require.NoError(t, z.Close())
	return b.Bytes()
}

// odd serves one package with what it says of its archive, and the archive.
func odd(dist map[string]any, body []byte) http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("/fern", func(w http.ResponseWriter, r *http.Request) {
		if dist["tarball"] == nil {
			dist["tarball"] = "http://" + r.Host + "/fern.tgz"
		}
		_ = json.NewEncoder(w).Encode(map[string]any{"versions": map[string]any{"1.0.0": map[string]any{"name": "fern", "version": "1.0.0", "dist": dist}}})
	})
	mux.HandleFunc("/fern.tgz", func(w http.ResponseWriter, _ *http.Request) { _, _ = w.Write(body) })
	return mux
}

// What came is what the registry said it would be, or nothing is taken of it.
func TestWhatComesIsCheckedAgainstWhatIsSaid(t *testing.T) {
	good := archived(t, tar.Header{Name: "package/package.json", Typeflag: tar.TypeReg, Mode: 0o644})
	sum, old := sha512.Sum512(good), sha1.Sum(good)
	strong := "sha512-" + base64.StdEncoding.EncodeToString(sum[:])
	weak := hex.EncodeToString(old[:])
	other := "sha512-" + base64.StdEncoding.EncodeToString(bytes.Repeat([]byte{7}, 64))
	for what, c := range map[string]struct {
		dist map[string]any
		says string
	}{
		"as it is said":             {map[string]any{"integrity": strong}, ""},
		"the old way":               {map[string]any{"shasum": weak}, ""},
		"one of several":            {map[string]any{"integrity": other + " " + strong}, ""},
		"another":                   {map[string]any{"integrity": other}, "its integrity differs"},
		"the strongest counts":      {map[string]any{"integrity": other + " sha1-" + base64.StdEncoding.EncodeToString(old[:])}, "its integrity differs"},
		"nothing is said":           {map[string]any{}, "nothing by which its archive could be checked"},
		"nothing that is known":     {map[string]any{"integrity": "md5-AAAA"}, "nothing by which its archive could be checked"},
		"no sum at all":             {map[string]any{"integrity": "sha512-"}, "its integrity differs"},
		"it lies elsewhere":         {map[string]any{"integrity": strong, "tarball": "http://evil.example/fern.tgz"}, "evil.example, which no keeper has allowed"},
		"it lies where secrets are": {map[string]any{"integrity": strong, "tarball": "http://169.254.169.254/fern.tgz"}, "which no keeper has allowed"},
	} {
		t.Run(what, func(t *testing.T) {
			dir := t.TempDir()
			_, err := serve(t, odd(c.dist, good)).Begin(dir, quiet).Add(context.Background(), registry.Want{Name: "fern"})
			if c.says == "" {
				assert.NoError(t, err)
				assert.FileExists(t, filepath.Join(dir, "node_modules", "fern", "package.json"))
				return
			}
			assert.ErrorContains(t, err, c.says)
			assert.NoFileExists(t, filepath.Join(dir, "node_modules", "fern", "package.json"))
		})
	}
}

// Nothing of an archive lands outside the package's own folder.
func TestArchivesStayInTheirFolder(t *testing.T) {
	file := func(name string) tar.Header { return tar.Header{Name: name, Typeflag: tar.TypeReg, Mode: 0o777} }
	for what, c := range map[string]struct {
		body []byte
		says string
	}{
		"up":        {archived(t, file("package/../../../out.js")), "leads out of it"},
		"backwards": {archived(t, file(`package\..\..\..\out.js`)), "leads out of it"},
		"no folder": {archived(t, file("out.js")), "leads out of it"},
		"empty":     {archived(t), "holds no file"},
		"link first": {archived(t, tar.Header{Name: "package/lib", Typeflag: tar.TypeSymlink, Linkname: "/tmp"}, file("package/lib/out.js")),
			""}, // the link is left out, and a folder of that name made
		"no archive": {[]byte("<html>"), "cannot be read"},
		"cut":        {archived(t, file("package/a.js"))[:40], "cannot be read"},
	} {
		t.Run(what, func(t *testing.T) {
			sum := sha512.Sum512(c.body)
			top := t.TempDir()
			dir := filepath.Join(top, "in")
			require.NoError(t, os.Mkdir(dir, 0o755))
			_, err := serve(t, odd(map[string]any{"integrity": "sha512-" + base64.StdEncoding.EncodeToString(sum[:])}, c.body)).
				Begin(dir, quiet).Add(context.Background(), registry.Want{Name: "fern"})
			if c.says == "" {
				require.NoError(t, err)
				info, err := os.Lstat(filepath.Join(dir, "node_modules", "fern", "lib"))
				require.NoError(t, err)
				assert.True(t, info.IsDir())
			} else {
				assert.ErrorContains(t, err, c.says)
			}
			_ = filepath.WalkDir(top, func(at string, d fs.DirEntry, _ error) error {
				if d.Type().IsRegular() {
					assert.Contains(t, at, filepath.Join("in", "node_modules", "fern"), what)
					info, err := d.Info()
					require.NoError(t, err)
					assert.Zero(t, info.Mode()&0o111, "nothing is made to be run")
				}
				return nil
			})
		})
	}
}

// A registry may be busy, lie, lead elsewhere or lie inside: each is told for what it is.
func TestRegistriesAreAskedWithCare(t *testing.T) {
	elsewhere := 0
	other := httptest.NewServer(http.HandlerFunc(func(http.ResponseWriter, *http.Request) { elsewhere++ }))
	defer other.Close()
	busy := 0
	good := offer(t, pkg(t, "fern", "1.0.0", nil))
	ways := map[string]http.HandlerFunc{
		"/busy": func(w http.ResponseWriter, r *http.Request) {
			if busy++; busy < 3 {
				w.WriteHeader(http.StatusServiceUnavailable)
				return
			}
			r.URL.Path = "/fern"
			good.ServeHTTP(w, r)
		},
		"/closed": func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(http.StatusUnauthorized) },
		"/page":   func(w http.ResponseWriter, _ *http.Request) { fmt.Fprint(w, "<!doctype html>") },
		"/odd": func(w http.ResponseWriter, _ *http.Request) {
			fmt.Fprint(w, `{"versions":{"newest":{"name":"odd","version":"newest"}}}`)
		},
		"/none": func(w http.ResponseWriter, _ *http.Request) { fmt.Fprint(w, `{"versions":{}}`) },
		"/lies": func(w http.ResponseWriter, _ *http.Request) {
			fmt.Fprint(w, `{"versions":{"1.0.0":{"name":"other","version":"1.0.0"}}}`)
		},
		"/away": func(w http.ResponseWriter, r *http.Request) { http.Redirect(w, r, other.URL, http.StatusFound) },
	}
	c := serve(t, http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) { ways[r.URL.Path](w, r) }))
	for name, says := range map[string]string{
		"closed": "it asks for a token", "page": "cannot be read", "none": "lists no version", "odd": "lists no version", "lies": "lists no version", "away": "no keeper has allowed",
	} {
		_, err := c.Package(context.Background(), name)
		assert.ErrorContains(t, err, says, name)
	}
	assert.Zero(t, elsewhere)
	_, err := c.Package(context.Background(), "busy") // the answer is of another package
	assert.ErrorContains(t, err, "lists no version")
	assert.Equal(t, 3, busy, "asked again while it is busy")
	for _, address := range []string{"", "registry", "ftp://registry.example", "http://u:p@registry.example", "http://169.254.169.254", "https://registry.example/?x"} {
		_, err := registry.New(address)
		assert.Error(t, err, address)
	}
	at, err := registry.CheckAddress(" https://registry.example/npm/ ")
	require.NoError(t, err)
	assert.Equal(t, "https://registry.example/npm", at)
}

// FuzzArchives unpacks whatever comes: nothing lands outside, and nothing breaks.
func FuzzArchives(f *testing.F) {
	f.Add(archived(f, tar.Header{Name: "package/a.js", Typeflag: tar.TypeReg}))
	f.Add(archived(f, tar.Header{Name: "package/../b", Typeflag: tar.TypeReg}, tar.Header{Name: "p/l", Typeflag: tar.TypeLink, Linkname: "../x"}))
	f.Fuzz(func(t *testing.T, body []byte) {
		top := t.TempDir()
		require.NoError(t, os.Mkdir(filepath.Join(top, "in"), 0o755))
		sum := sha512.Sum512(body)
		c := serve(t, odd(map[string]any{"integrity": "sha512-" + base64.StdEncoding.EncodeToString(sum[:])}, body))
		_, _ = c.Begin(filepath.Join(top, "in"), quiet).Add(context.Background(), registry.Want{Name: "fern"})
		list, err := os.ReadDir(top)
		require.NoError(t, err)
		assert.Len(t, list, 1)
	})
}

// Who asks is told where a registry wants to know: to its own host, and to no other.
func TestATokenIsToldToItsRegistryAlone(t *testing.T) {
	var elsewhere []string
	other := httptest.NewServer(http.HandlerFunc(func(_ http.ResponseWriter, r *http.Request) {
		elsewhere = append(elsewhere, r.Header.Get("Authorization"))
	}))
	defer other.Close()
	stand := &registry.StandIn{}
	require.NoError(t, stand.Add(map[string][]byte{"package.json": []byte(`{"name":"fern","version":"1.0.0"}`)}))
	var told []string
	private := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		told = append(told, r.Header.Get("Authorization"))
		switch {
		case r.Header.Get("Authorization") != "Bearer sesame":
			w.WriteHeader(http.StatusUnauthorized)
		case r.URL.Path == "/away":
			http.Redirect(w, r, other.URL+"/away", http.StatusFound)
		default:
			stand.ServeHTTP(w, r)
		}
	}))
	defer private.Close()

	for token, says := range map[string]string{"": "it asks for a token, and none is given", "wrong": "the token that is given may not do this"} {
		c, err := registry.New(private.URL)
		require.NoError(t, err)
		c.Token = token
		_, err = c.Package(t.Context(), "fern")
		assert.ErrorContains(t, err, says)
		assert.NotContains(t, err.Error(), "wrong")
	}
	for _, open := range []func(string) (*registry.Client, error){registry.New, registry.Own} {
		c, err := open(private.URL)
		require.NoError(t, err)
		c.Token = "sesame"
		d, err := c.Package(t.Context(), "fern")
		require.NoError(t, err)
		assert.Equal(t, []string{"1.0.0"}, d.Numbers())
		_, err = c.Package(t.Context(), "away")
		assert.Error(t, err)
	}
	c, err := registry.New(private.URL)
	require.NoError(t, err)
	c.Token = "Basic b3Blbg=="
	_, err = c.Package(t.Context(), "fern")
	require.Error(t, err)
	assert.Equal(t, "Basic b3Blbg==", told[len(told)-1], "one that names its scheme is told as it is")
	for _, to := range elsewhere {
		assert.Empty(t, to)
	}
	assert.NoError(t, registry.CheckToken("abc.DEF-123=="))
	for _, no := range []string{"a\nb", "ö", strings.Repeat("x", 5000)} {
		assert.Error(t, registry.CheckToken(no))
	}
}
