package into

import (
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/deliver"
	"ubiquant/core/deliver/record"
)

// repository makes one with files, and with the formatter and the parser that the web
// application has.
func repository(t *testing.T, files map[string]string) string {
	t.Helper()
	dir := t.TempDir()
	for name, text := range files {
		at := filepath.Join(dir, filepath.FromSlash(name))
		require.NoError(t, os.MkdirAll(filepath.Dir(at), 0o755))
		require.NoError(t, os.WriteFile(at, []byte(text), 0o644))
	}
	modules, err := filepath.Abs("../../web/node_modules")
	require.NoError(t, err)
	require.NoError(t, os.Mkdir(filepath.Join(dir, "node_modules"), 0o755))
	for _, name := range []string{"prettier", "typescript"} {
		// A folder of the repository's own that hands on: links that lead out are not followed.
		at := filepath.Join(dir, "node_modules", name)
		require.NoError(t, os.MkdirAll(at, 0o755))
		require.NoError(t, os.WriteFile(filepath.Join(at, "package.json"), []byte(`{"name":"`+name+`","main":"index.cjs"}`), 0o644))
		require.NoError(t, os.WriteFile(filepath.Join(at, "index.cjs"), []byte("module.exports = require("+strconv.Quote(filepath.Join(modules, name))+")\n"), 0o644))
	}
	return dir
}

func read(t *testing.T, dir, name string) string {
	t.Helper()
	data, err := os.ReadFile(filepath.Join(dir, filepath.FromSlash(name)))
	require.NoError(t, err)
	return string(data)
}

func open(t *testing.T, r Repo) *Repo {
	t.Helper()
	out, err := Open(r)
	require.NoError(t, err)
	t.Cleanup(func() { _ = out.Close() })
	return out
}

func of(target string) *record.Record { return &record.Record{Target: target, App: "Office"} }

func plan(t *testing.T, r *Repo, files ...deliver.File) *Delivery {
	t.Helper()
	d, err := r.Plan(t.Context(), of(r.Target), files)
	require.NoError(t, err)
	return d
}

func code(name, text string) deliver.File { return deliver.File{Path: name, Data: []byte(text)} }

// Every kind of repository is connected by the smallest additions, in its own style, and
// connecting again adds nothing.
func TestTheScreensBecomePartOfAnApplication(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct {
		target      string
		prefixes    []string
		styles      []string
		done        []string // what the application has before
		files, want map[string]string
	}{
		"Vue, routes in the call, a catch-all last, double quotes": {
			target: "vue", prefixes: []string{"sorrel"},
			files: map[string]string{
				"package.json":   "{\n  \"name\": \"x\",\n  \"dependencies\": {\n    \"vue\": \"^3.5.0\",\n    \"zod\": \"4\"\n  }\n}\n",
				"src/router.ts":  "import { createRouter } from \"vue-router\";\n\nexport default createRouter({\n  history,\n  routes: [\n    { path: \"/\", component },\n    { path: \"/:rest(.*)*\", redirect: \"/\" },\n  ],\n});\n",
				"vite.config.ts": "import vue from \"@vitejs/plugin-vue\";\n\nexport default { plugins: [vue()] };\n",
			},
			want: map[string]string{
				"package.json":   "{\n  \"name\": \"x\",\n  \"dependencies\": {\n    \"@acme/kit\": \"1.0.0\",\n    \"vue\": \"^3.5.0\",\n    \"vue-router\": \"4.6.4\",\n    \"zod\": \"4\"\n  }\n}\n",
				"src/router.ts":  "import { createRouter } from \"vue-router\";\nimport { routes as officeRoutes } from \"./office\";\n\nexport default createRouter({\n  history,\n  routes: [\n    { path: \"/\", component },\n    ...officeRoutes,\n    { path: \"/:rest(.*)*\", redirect: \"/\" },\n  ],\n});\n",
				"vite.config.ts": "isCustomElement: (tag) => tag.startsWith(\"sorrel-\")",
			},
		},
		"React, routes by name, no semicolons": {
			target: "react",
			files: map[string]string{
				"package.json": "{ \"dependencies\": {} }\n",
				"src/app.tsx":  "import { createBrowserRouter } from 'react-router'\n\nconst routes = [{ path: '/', element: null }]\nexport const router = createBrowserRouter(routes)\n",
			},
			want: map[string]string{
				"package.json": "\"@acme/kit\": \"1.0.0\",\n",
				"src/app.tsx":  "import { createBrowserRouter } from 'react-router'\nimport { routes as officeRoutes } from './office'\n\nconst routes = [{ path: '/', element: null }, ...officeRoutes]\n",
			},
		},
		"Angular, routes in another file": {
			target: "angular", styles: []string{"@acme/kit/kit.css", "./layout.css"},
			files: map[string]string{
				"package.json":           "{\n  \"name\": \"x\"\n}\n",
				"angular.json":           "{\n  \"projects\": { \"x\": { \"architect\": { \"build\": { \"options\": { \"styles\": [\"src/styles.css\"] } } } } }\n}\n",
				"src/app/app.config.ts":  "import { provideRouter } from '@angular/router';\nimport { routes } from './app.routes';\n\nexport const appConfig = { providers: [provideRouter(routes)] };\n",
				"src/app/app.routes.ts":  "import { Routes } from '@angular/router';\n\nexport const routes: Routes = [];\n",
				"src/app/other.ts":       "export const routes = 5;\n",
				"src/app/app.spec.ts":    "provideRouter([])\n",
				"src/office/keep/me.txt": "x",
			},
			want: map[string]string{
				"package.json":          "{\n  \"dependencies\": {\n    \"@acme/kit\": \"1.0.0\",\n    \"vue-router\": \"4.6.4\"\n  },\n  \"name\": \"x\"\n}\n",
				"angular.json":          "\"src/styles.css\", \"@acme/kit/kit.css\", \"src/app/office/layout.css\"",
				"src/app/app.routes.ts": "import { routes as officeRoutes } from './office';\n\nexport const routes: Routes = [...officeRoutes];\n",
			},
		},
		"Angular, with a theme of the team's own": {
			target: "angular", styles: []string{"@acme/kit/themes/moss.css", "@acme/chart/chart.css", "./layout.css"},
			files: map[string]string{
				"package.json":          "{\n  \"name\": \"x\"\n}\n",
				"angular.json":          "{\n  \"projects\": { \"x\": { \"architect\": { \"build\": { \"options\": { \"styles\": [\"src/styles.scss\", \"node_modules/@acme/chart/plain.css\"] } } } } }\n}\n",
				"src/styles.scss":       "@use '@acme/kit' as kit;\n@include kit.theme($plum);\n",
				"src/app/app.config.ts": "import { provideRouter } from '@angular/router';\nimport { routes } from './app.routes';\n\nexport const appConfig = { providers: [provideRouter(routes)] };\n",
				"src/app/app.routes.ts": "import { Routes } from '@angular/router';\n\nexport const routes: Routes = [];\n",
			},
			done: []string{"styles of @acme/kit, which src/styles.scss brings", "styles of @acme/chart, which angular.json brings"},
			want: map[string]string{
				"angular.json": "[\"src/styles.scss\", \"node_modules/@acme/chart/plain.css\", \"src/app/office/layout.css\"]",
			},
		},
	} {
		t.Run(name, func(t *testing.T) {
			dir := repository(t, c.files)
			r := open(t, Repo{
				Dir: dir, App: "Office", Target: c.target, Prefixes: c.prefixes, Styles: c.styles,
				Needs:    map[string]string{"@acme/kit": "1.0.0", "vue-router": "4.6.4"},
				Pictures: []deliver.File{{Path: "public/pictures/oak.png", Data: []byte("\x89PNG")}},
			})
			d := plan(t, r, code("index.ts", "export const routes = []\n"))
			for _, a := range d.Additions {
				assert.Equal(t, slices.Contains(c.done, a.What), a.Done, a.What)
				assert.Empty(t, a.By, a.What)
			}
			require.NoError(t, r.Apply(d, true, false))
			assert.Equal(t, "\x89PNG", read(t, dir, "public/pictures/oak.png"))
			for file, want := range c.want {
				assert.Contains(t, read(t, dir, file), want, file)
			}
			for _, a := range plan(t, r, code("index.ts", "export const routes = []\n")).Additions {
				assert.True(t, a.Done, a.What)
			}
		})
	}
}

// Where a repository is set up otherwise, what to do by hand is said, and nothing is touched.
func TestWhatCannotBeAddedIsSaid(t *testing.T) {
	dir := repository(t, map[string]string{"package.json": "{}", "vite.config.ts": "import vue from '@vitejs/plugin-vue'\nexport default { plugins: [vue({ features: {} })] }\n"})
	r := open(t, Repo{Dir: dir, App: "Office", Target: "vue", Prefixes: []string{"sorrel"}, Needs: map[string]string{}})
	d := plan(t, r, code("index.ts", "1\n"))
	require.NoError(t, r.Apply(d, true, false))
	said := map[string]string{}
	for _, a := range d.Additions {
		said[a.What] = a.By
	}
	assert.Contains(t, said["the routes of the screens among those of the application"], "add ...routes to them")
	assert.Contains(t, said["the kit's elements, which are the browser's own, in the settings of templates"], "isCustomElement")
	assert.Equal(t, "{}", read(t, dir, "package.json"))
}

func TestNothingIsWrittenWhereItMayNot(t *testing.T) {
	t.Parallel()
	fresh := func(t *testing.T) (*Repo, string) {
		dir := repository(t, map[string]string{"package.json": "{}"})
		return open(t, Repo{Dir: dir, Folder: "src/office", App: "Office", Target: "vue"}), dir
	}
	t.Run("through links that lead out", func(t *testing.T) {
		r, dir := fresh(t)
		outside := t.TempDir()
		require.NoError(t, os.MkdirAll(filepath.Join(dir, "src"), 0o755))
		require.NoError(t, os.Symlink(outside, filepath.Join(dir, "src/office")))
		_, err := r.Plan(t.Context(), of("vue"), []deliver.File{code("a.txt", "1\n")})
		assert.ErrorContains(t, err, "src/office")
		list, err := os.ReadDir(outside)
		require.NoError(t, err)
		assert.Empty(t, list)
	})
	t.Run("over files that are read-only", func(t *testing.T) {
		r, dir := fresh(t)
		require.NoError(t, r.Apply(plan(t, r, code("a.txt", "1\n"), code("b.txt", "1\n")), false, false))
		require.NoError(t, os.Chmod(filepath.Join(dir, "src/office/b.txt"), 0o444))
		err := r.Apply(plan(t, r, code("a.txt", "2\n"), code("b.txt", "2\n")), false, false)
		assert.ErrorContains(t, err, "src/office/b.txt is read-only")
		assert.Equal(t, "1\n", read(t, dir, "src/office/a.txt"), "half of it was written")
	})
	t.Run("while another delivery writes", func(t *testing.T) {
		r, dir := fresh(t)
		d := plan(t, r, code("a.txt", "1\n"))
		lock := filepath.Join(dir, "src/office", lockFile)
		require.NoError(t, os.MkdirAll(filepath.Dir(lock), 0o755))
		require.NoError(t, os.WriteFile(lock, []byte(strconv.Itoa(os.Getpid())), 0o644))
		assert.ErrorContains(t, r.Apply(d, false, false), "another delivery")
		// The lock of a process that is gone is none.
		require.NoError(t, os.WriteFile(lock, []byte("999999999"), 0o644))
		require.NoError(t, r.Apply(d, false, false))
		assert.NoFileExists(t, lock)
	})
	t.Run("into edits that no commit has", func(t *testing.T) {
		r, dir := fresh(t)
		git := func(args ...string) {
			cmd := exec.Command("git", append([]string{"-C", dir, "-c", "user.email=a@example.org", "-c", "user.name=A"}, args...)...)
			out, err := cmd.CombinedOutput()
			require.NoError(t, err, string(out))
		}
		git("init", "-q")
		require.NoError(t, r.Apply(plan(t, r, code("a.txt", "1\n2\n3\n4\n5\n")), false, false))
		git("add", "-A")
		git("commit", "-qm", "x")
		require.NoError(t, os.WriteFile(filepath.Join(dir, "src/office/a.txt"), []byte("1 theirs\n2\n3\n4\n5\n"), 0o644))
		d := plan(t, r, code("a.txt", "1\n2\n3\n4\n5 ours\n"))
		assert.ErrorContains(t, r.Apply(d, false, false), "not committed")
		assert.True(t, strings.HasPrefix(read(t, dir, "src/office/a.txt"), "1 theirs"))
		git("commit", "-qam", "theirs")
		require.NoError(t, r.Apply(d, false, false))
		assert.Contains(t, read(t, dir, "src/office/a.txt"), "ours")
	})
	t.Run("for another framework into the same folder", func(t *testing.T) {
		r, dir := fresh(t)
		require.NoError(t, r.Apply(plan(t, r, code("a.txt", "1\n")), false, false))
		other := open(t, Repo{Dir: dir, Folder: "src/office", App: "Office", Target: "react"})
		_, err := other.Plan(t.Context(), of("react"), nil)
		assert.ErrorContains(t, err, "holds a delivery for vue")
	})
	for _, folder := range []string{"../out", "/tmp", "a/../../b"} {
		_, err := Open(Repo{Dir: t.TempDir(), Folder: folder})
		assert.Error(t, err, folder)
	}
}

// Where templates know some elements, those that came later are asked for by name.
func TestMoreElementsAreAskedFor(t *testing.T) {
	config := func(asks string) string {
		return "import vue from '@vitejs/plugin-vue'\nexport default { plugins: [vue({ template: { compilerOptions: { isCustomElement: tag => " + asks + " } } })] }\n"
	}
	for asks, want := range map[string]string{
		"tag.startsWith('sorrel-')":              "let isCustomElement take tag.startsWith('plum-') as well",
		"/^(sorrel|plum)-/.test(tag)":            "",
		"tag.startsWith('sorrel-') || isPlum":    "let isCustomElement take tag.startsWith('plum-') as well",
		"['sorrel-', 'plum-'].some(begins(tag))": "",
	} {
		dir := repository(t, map[string]string{"package.json": "{}", "vite.config.ts": config(asks)})
		r := open(t, Repo{Dir: dir, App: "Office", Target: "vue", Prefixes: []string{"sorrel", "plum"}, Needs: map[string]string{}})
		for _, a := range plan(t, r, code("index.ts", "1\n")).Additions {
			if strings.HasPrefix(a.What, "the kit's elements") {
				assert.Equal(t, want == "", a.Done, asks)
				assert.Equal(t, want, a.By, asks)
			}
		}
	}
}
