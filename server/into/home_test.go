package into

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/deliver"
	"ubiquant/core/screen"
)

// Code goes by what the application around it is made with.
func TestWhatAnApplicationIsMadeWith(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct {
		target string
		files  map[string]string
		want   deliver.Home
	}{
		"Vite, a router of lists": {
			target: "react",
			files:  map[string]string{"package.json": `{"dependencies":{"react-router":"^7"},"devDependencies":{"vite":"6"}}`, "src/r.tsx": "export const r = createBrowserRouter([])\n"},
		},
		"a router of elements, of its older package": {
			target: "react",
			files:  map[string]string{"package.json": `{"dependencies":{"react-router-dom":"^6.20"},"devDependencies":{"vite":"6"}}`, "src/App.jsx": "import { Routes } from 'react-router-dom'\nexport const App = () => <Routes><Route path=\"/\" /></Routes>\n"},
			want:   deliver.Home{Router: "react-router-dom", Elements: true},
		},
		"elements that become a list": {
			target: "react",
			files:  map[string]string{"package.json": `{"dependencies":{"react-router":"^7"}}`, "src/App.jsx": "export const r = createBrowserRouter(createRoutesFromElements(<Route><Route path=\"/\" /></Route>))\n"},
			want:   deliver.Home{Elements: true},
		},
		"another builder": {
			target: "vue",
			files:  map[string]string{"package.json": `{"devDependencies":{"webpack":"5"}}`},
			want:   deliver.Home{NoVite: true},
		},
		"elements of another's making": {
			target: "react",
			files:  map[string]string{"package.json": `{"dependencies":{"react-router":"^7"}}`, "src/App.jsx": "import { Routes } from './mine'\nexport const App = () => <Routes><Route path=\"/\" /></Routes>\n"},
		},
		"pages that are folders": {
			target: "react",
			files:  map[string]string{"package.json": `{"dependencies":{"next":"15"}}`, "src/app/layout.tsx": ""},
			want:   deliver.Home{NoVite: true, Folders: true},
		},
		"nothing known": {target: "vue", files: map[string]string{"package.json": `{}`}},
		"no manifest":   {target: "react", files: map[string]string{"a.txt": ""}},
	} {
		t.Run(name, func(t *testing.T) {
			r := open(t, Repo{Dir: repository(t, c.files), App: "Office", Target: c.target})
			c.want.At = r.Folder
			assert.Equal(t, c.want, r.home(t.Context()))
		})
	}
}

// What the kit wants done once is called where the application begins; what goes into one file
// follows on each other, and each addition is a patch of its own.
func TestSetUpIsCalledWhereTheApplicationBegins(t *testing.T) {
	t.Parallel()
	for name, c := range map[string]struct{ target, file, text, want string }{
		"Vue, in a chain": {
			"vue", "src/main.js",
			"import { createApp } from 'vue'\n\ncreateApp(App).use(router).mount('#app')\n",
			"import { createApp } from 'vue'\nimport { setup as officeSetup } from './office'\n\nofficeSetup(createApp(App)).use(router).mount('#app')\n",
		},
		"Vue, by name, and routes in the same file": {
			"vue", "src/main.ts",
			"import { createApp } from \"vue\";\nconst router = createRouter({ routes: [] });\nconst app = createApp(App);\napp.mount(\"#app\");\n",
			"import { createApp } from \"vue\";\nimport { routes as officeRoutes, setup as officeSetup } from \"./office\";\nconst router = createRouter({ routes: [...officeRoutes] });\nconst app = officeSetup(createApp(App));\napp.mount(\"#app\");\n",
		},
		"React, routes as elements in the same file": {
			"react", "src/main.jsx",
			"import { createRoot } from 'react-dom/client'\nimport { Routes } from 'react-router'\n\nconst root = document.getElementById('root')\ncreateRoot(root).render(\n  <BrowserRouter>\n    <Routes>\n      <Route path=\"/\" element={<Home />} />\n    </Routes>\n  </BrowserRouter>,\n)\n",
			"import { createRoot } from 'react-dom/client'\nimport { Routes } from 'react-router'\nimport { routes as officeRoutes, setup as officeSetup } from './office'\n\nconst root = document.getElementById('root')\nofficeSetup()\ncreateRoot(root).render(\n  <BrowserRouter>\n    <Routes>\n      <Route path=\"/\" element={<Home />} />\n      {officeRoutes}\n    </Routes>\n  </BrowserRouter>,\n)\n",
		},
		"React, routes in one line": {
			"react", "src/index.js",
			"import ReactDOM from 'react-dom'\nimport { Routes } from 'react-router'\nReactDOM.render(<Routes><Route path=\"/\" /></Routes>, at)\n",
			"import ReactDOM from 'react-dom'\nimport { Routes } from 'react-router'\nimport { routes as officeRoutes, setup as officeSetup } from './office'\nofficeSetup()\nReactDOM.render(<Routes><Route path=\"/\" />{officeRoutes}</Routes>, at)\n",
		},
		"Angular": {
			"angular", "src/main.ts",
			"import { bootstrapApplication } from '@angular/platform-browser';\nbootstrapApplication(App, { providers: [provideRouter([])] });\n",
			"import { bootstrapApplication } from '@angular/platform-browser';\nimport { routes as officeRoutes, setup as officeSetup } from './office';\nofficeSetup();\nbootstrapApplication(App, { providers: [provideRouter([...officeRoutes])] });\n",
		},
	} {
		t.Run(name, func(t *testing.T) {
			dir := repository(t, map[string]string{"package.json": "{}", c.file: c.text})
			r := open(t, Repo{Dir: dir, App: "Office", Target: c.target})
			r.sets = true
			d := plan(t, r, code("index.ts", "1\n"))
			was := c.text
			for _, a := range d.Additions {
				if a.Path == c.file {
					assert.Equal(t, was, string(a.Was), "each follows on the one before")
					was = string(a.Is)
				}
			}
			require.NoError(t, r.Apply(d, true, false))
			assert.Equal(t, c.want, read(t, dir, c.file))
			for _, a := range plan(t, r, code("index.ts", "1\n")).Additions {
				if a.Path == c.file {
					assert.True(t, a.Done, a.What)
				}
			}
		})
	}
	t.Run("where no beginning is found, it is said", func(t *testing.T) {
		r := open(t, Repo{Dir: repository(t, map[string]string{"package.json": "{}"}), App: "Office", Target: "vue"})
		r.sets = true
		for _, a := range plan(t, r, code("index.ts", "1\n")).Additions {
			if strings.HasPrefix(a.What, "what the kit wants done once") {
				assert.Contains(t, a.By, "call setup(app) there")
				return
			}
		}
		t.Fatal("it is not asked for")
	})
}

// waiting are the additions that wait, by what they are.
func waiting(d *Delivery) map[string]string {
	out := map[string]string{}
	for _, a := range d.Additions {
		if !a.Done {
			out[a.What] = a.By
		}
	}
	return out
}

// A package in a version that the code does not go with, one that is not installed, and a font
// that nothing brings are told before they show as something else.
func TestWhatAnApplicationLacksIsTold(t *testing.T) {
	t.Parallel()
	const react, kit = "react >=19.0.0, which the screens are made for", "@acme/kit ^1.4.0, which the screens are made for"
	const installed, font = "the packages that are asked for, installed", "the font Alder Sans, which the kit asks for and does not bring"
	for name, c := range map[string]struct {
		files map[string]string
		tells []string
	}{
		"all is there": {map[string]string{
			"package.json": `{"dependencies":{"react":"^19.1.0","@acme/kit":"^1.2.0"}}`, "package-lock.json": "{}",
			"node_modules/react/package.json": `{"version":"19.1.0"}`, "node_modules/@acme/kit/package.json": `{"version":"1.4.2"}`,
			"src/app.css": "@font-face { font-family: 'Alder Sans'; src: url(a.woff2) }",
		}, nil},
		"older ones": {map[string]string{
			"package.json":                    `{"dependencies":{"react":"^18.2.0","@acme/kit":"^1.2.0"}}`,
			"node_modules/react/package.json": `{"version":"18.3.1"}`, "node_modules/@acme/kit/package.json": `{"version":"1.3.9"}`,
			"index.html": `<link href="https://fonts.example/css2?family=Alder+Sans:wght@400&display=swap" rel="stylesheet">`,
		}, []string{react, kit}},
		"asked for, and not installed": {map[string]string{
			"package.json": `{"dependencies":{"react":"^19.0.0","@acme/kit":"^1.4.0","@fontsource/alder-sans":"5"}}`, "pnpm-lock.yaml": "",
			"node_modules/react/package.json": `{"version":"19.0.0"}`,
		}, []string{installed}},
		"a range that holds what is wanted, not installed": {map[string]string{
			"package.json": `{"dependencies":{"react":">=18","@acme/kit":"^1.2.0"}}`,
			"src/app.css":  "@font-face { font-family: Alder Sans; src: url(a.woff2) }",
		}, nil},
		"ranges that hold none of it": {map[string]string{
			"package.json": `{"dependencies":{"react":"^18.2.0","@acme/kit":"~1.3.0"}}`,
			"src/app.css":  "@font-face { font-family: Alder Sans; src: url(a.woff2) }",
		}, []string{react, kit}},
		"a font that is only spoken of": {map[string]string{
			"package.json": `{"dependencies":{"react":"19","@acme/kit":"^1.4.0"}}`,
			"src/app.css":  "body { font-family: 'Alder Sans' }",
		}, []string{font}},
		"from a folder": {map[string]string{
			"package.json": `{"dependencies":{"react":"workspace:*","@acme/kit":"file:../kit"}}`,
			"src/App.vue":  "<style>@import url('//fonts.example/css?family=Other|Alder%20Sans');</style>",
		}, nil},
	} {
		t.Run(name, func(t *testing.T) {
			here := map[string]string{}
			later := map[string]string{}
			for file, text := range c.files {
				if strings.HasPrefix(file, "node_modules/") {
					later[file] = text
				} else {
					here[file] = text
				}
			}
			dir := repository(t, here)
			for file, text := range later {
				require.NoError(t, os.MkdirAll(filepath.Join(dir, filepath.Dir(file)), 0o755))
				require.NoError(t, os.WriteFile(filepath.Join(dir, file), []byte(text), 0o644))
			}
			r := open(t, Repo{Dir: dir, App: "Office", Target: "react", Needs: map[string]string{"react": "19.3.1", "@acme/kit": "1.4.0"}})
			r.least, r.fonts = map[string]string{"react": ">=19.0.0", "@acme/kit": "^1.4.0"}, []string{"Alder Sans"}
			tells := waiting(plan(t, r, code("index.ts", "1\n")))
			delete(tells, "the routes of the screens among those of the application") // there are none
			for _, what := range c.tells {
				assert.NotEmpty(t, tells[what], "%s: %v", what, tells)
				delete(tells, what)
			}
			assert.Empty(t, tells)
		})
	}
}

// Where the application has a route at the address of a screen, one of them is never shown: that is
// told, below parents and among elements, too.
func TestAddressesThatAreTakenAreTold(t *testing.T) {
	t.Parallel()
	shown := []*screen.Document{{ID: "today", Title: "Today", Route: "/"}, {ID: "bed", Title: "Bed", Route: "/beds/:id"}, {ID: "orders", Title: "Orders", Route: "/orders"}}
	for name, c := range map[string]struct {
		target, file, text string
		want               []string
	}{
		"Vue": {"vue", "src/router.ts",
			"export default createRouter({ routes: [{ path: '/home', name: 'orders' }, { path: '/beds', children: [{ path: '', name: 'all' }, { path: ':which' }] }, { path: '/:rest(.*)*' }] })\n",
			[]string{"the address /beds/:id of the screen Bed for itself", "the name orders of the route of the screen Orders for itself"}},
		"React, elements": {"react", "src/App.tsx",
			"import { Routes } from 'react-router'\nexport const App = () => <Routes><Route element={<Shell />}><Route index element={<Home />} /><Route path=\"orders\"><Route path=\"new\" /></Route></Route><Route path=\"*\" /></Routes>\n",
			[]string{"the address / of the screen Today for itself"}},
		"Angular": {"angular", "src/app/app.routes.ts",
			"export const routes: Routes = [{ path: 'orders', component: A }, { path: 'beds', component: B }];\nexport const config = provideRouter(routes);\n",
			[]string{"the address /orders of the screen Orders for itself"}},
		"none": {"vue", "src/router.ts", "export default createRouter({ routes: [{ path: '/home' }, { path: '/beds/:id/old' }] })\n", nil},
	} {
		t.Run(name, func(t *testing.T) {
			dir := repository(t, map[string]string{"package.json": `{ "dependencies": { "b": "1" } }`, c.file: c.text})
			r := open(t, Repo{Dir: dir, App: "Office", Target: c.target, Needs: map[string]string{"a": "1", "c": "2"}})
			r.shown = shown
			var got []string
			d := plan(t, r, code("index.ts", "1\n"))
			for _, a := range d.Additions {
				if strings.HasSuffix(a.What, "for itself") {
					got = append(got, a.What)
					assert.NotEmpty(t, a.By)
					assert.Equal(t, c.file, a.Path)
				}
			}
			assert.ElementsMatch(t, c.want, got)
			require.NoError(t, r.Apply(d, true, false))
			assert.Equal(t, `{ "dependencies": { "a": "1", "b": "1", "c": "2" } }`, read(t, dir, "package.json"), "what is on one line stays there")
		})
	}
}

// Where the routes of an application are the folders of its pages, a page takes all addresses that no
// other has, and shows the screens with their own router; connecting again adds nothing.
func TestScreensStandOnAPageWhereRoutesAreFolders(t *testing.T) {
	t.Parallel()
	const manifest = `{"dependencies":{"next":"15.1.0"}}`
	for name, c := range map[string]struct {
		files        map[string]string
		page, module string // written, and what it loads
		by           string // what is to be done by hand
		taken        []string
	}{
		"beside pages": {
			files: map[string]string{"src/app/layout.tsx": "", "src/app/page.tsx": "", "src/pages/beds/[which].tsx": "", "src/app/(staff)/rounds/page.tsx": "", "src/app/api/orders/page.tsx": ""},
			page:  "src/app/[...screen]/page.tsx", module: "../../office/Screens",
			taken: []string{"the address / of the screen Today for itself", "the address /beds/:id of the screen Bed for itself"},
		},
		"alone":       {files: map[string]string{"app/layout.js": ""}, page: "app/[[...screen]]/page.tsx", module: "../../office/Screens"},
		"with a rest": {files: map[string]string{"app/layout.js": "", "app/[...all]/page.tsx": "x"}, by: "app/[...all]/page.tsx shows all addresses"},
		"as files":    {files: map[string]string{"pages/index.js": "", "pages/orders.js": ""}, by: "begin app beside it, with a layout in app/layout.tsx", taken: []string{"the address / of the screen Today for itself", "the address /orders of the screen Orders for itself"}},
	} {
		t.Run(name, func(t *testing.T) {
			c.files["package.json"] = manifest
			dir := repository(t, c.files)
			r := open(t, Repo{Dir: dir, App: "Office", Target: "react"})
			r.shown = []*screen.Document{{ID: "today", Title: "Today", Route: "/"}, {ID: "bed", Title: "Bed", Route: "/beds/:id"}, {ID: "orders", Title: "Orders", Route: "/orders"}}
			d := plan(t, r, code("Screens.tsx", "1\n"))
			const what = "a page for the addresses of the screens"
			got, taken := waiting(d), []string{}
			for w := range got {
				if strings.HasSuffix(w, "for itself") {
					taken = append(taken, w)
				}
			}
			assert.ElementsMatch(t, c.taken, taken)
			assert.Contains(t, got[what], c.by)
			require.NoError(t, r.Apply(d, true, false))
			if c.page != "" {
				assert.Contains(t, read(t, dir, c.page), `import("`+c.module+`")`)
				again, waits := waiting(plan(t, r, code("Screens.tsx", "1\n")))[what]
				assert.False(t, waits, again)
			}
		})
	}
}

// A rule of the application for all elements takes away the room that elements give themselves.
func TestARuleForAllElementsIsTold(t *testing.T) {
	t.Parallel()
	for css, want := range map[string]string{
		"* {\n  box-sizing: border-box;\n  padding: 0;\n  margin: 0;\n}":                            "sets padding and margin there",
		"*, *::before { margin: 0 } * { margin: 0 }":                                                "sets margin there",
		"@layer base { h1, * { padding: 0 } }":                                                      "sets padding there",
		"* { box-sizing: border-box } ul > * { padding: 0 } p { margin: 0 } *::after { margin: 0 }": "",
	} {
		r := open(t, Repo{Dir: repository(t, map[string]string{"package.json": "{}", "src/all.css": css}), App: "Office", Target: "react", Prefixes: []string{"ac-"}})
		by := waiting(plan(t, r, code("index.ts", "1\n")))["the room that the kit's elements give themselves"]
		if want == "" {
			assert.Empty(t, by, css)
		} else {
			assert.Contains(t, by, want, css)
		}
	}
}
