package source

import (
	"cmp"
	"maps"
	"path"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/audit"
	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
)

// Settings are what a team says of its repository, in a file that travels with it. What is
// left out is found out.
type Settings struct {
	Format  string            `json:"format"`
	Kits    []string          `json:"kits,omitempty"`      // names of packages, or folders: "./src/ui"
	Screens []string          `json:"screens,omitempty"`   // files that hold screens: "src/pages/**"
	Ignore  []string          `json:"ignore,omitempty"`    // files that are not read
	Stands  map[string]string `json:"standsFor,omitempty"` // a component of the repository for one of a kit
	House   []HouseRule       `json:"houseRules,omitempty"`
	Own     []audit.OwnRule   `json:"ownRules,omitempty"`     // that the team wrote
	Held    []audit.Tuning    `json:"ruleSettings,omitempty"` // how rules are held
	Let     []LetStand        `json:"letStand,omitempty"`
}

// HouseRule and LetStand are decisions of the team, as a workspace keeps them too.
type (
	HouseRule struct {
		Spot   string `json:"spot"`
		Where  string `json:"where,omitempty"`
		Words  string `json:"words,omitempty"` // the spot in words
		Prop   string `json:"prop"`
		Value  string `json:"value"`
		Reason string `json:"reason,omitempty"`
	}
	LetStand struct {
		Key    string      `json:"key"`
		Scope  audit.Scope `json:"scope,omitempty"`
		Spot   string      `json:"spot,omitempty"` // where that is how far it reaches
		Reason string      `json:"reason"`
		Until  string      `json:"until,omitempty"`
	}
)

// SettingsFormat is the version of settings that this package reads.
const SettingsFormat = "ubiquant.repository/1"

// Input is a repository as it was read.
type Input struct {
	Name     string
	Files    []*File
	Packages []Package
	Aliases  []Alias
	Settings Settings
	Texts    *Texts                   // by their keys; may be nil
	Owner    func(file string) string // whose a file is; may be nil
	Made     map[string]string        // on which day files were added, YYYY-MM-DD; those not there are of unknown age
}

// use is one element of the markup with what its name means.
type use struct {
	file  *File
	in    *Component
	node  *Node
	found Found
}

// Kit is a library in use, or a folder of the repository that is used as one.
type Kit struct {
	Package string // name of the package; empty for a folder
	Folder  string
	Uses    int // elements outside of the kit
	Files   int // that use it
	Names   []string
}

// loosePackage stands for what is used without an import: custom elements, and components that
// are registered for a whole application.
const loosePackage = "*"

// Loose tells whether it is no library, but what is used without an import and is not known otherwise.
func (k *Kit) Loose() bool { return k.Package == loosePackage }

// Name is how a person knows the kit.
func (k *Kit) Name() string {
	if k.Loose() {
		return "what is used without an import"
	}
	if k.Package != "" {
		return k.Package
	}
	return "./" + k.Folder
}

// Survey is a repository with what its names mean, and the kits that it uses.
type Survey struct {
	in        *Input
	g         *graph
	uses      []use
	meaning   map[*Node]Found
	selectors map[string][]selected
	global    map[string]Found // components by the name they are used under without import
	tests     map[string]bool  // files asked about: whether they are tests
	within    map[string]string
	// registered are the libraries of which components are used without an import, with what
	// their names begin with there.
	registered map[*describe.Catalog]string
	Kits       []Kit
}

type selected struct {
	parts []string // attribute names that must be there; the tag is the key
	Found
}

// plainPackages are frameworks and helpers whose components draw nothing of their own.
var plainPackages = regexp.MustCompile(`^(react|react-dom|react-router.*|next|@remix-run/.*|@tanstack/.*|vue|vue-router|vue-i18n|pinia|@vueuse/.*|@angular/(animations|build|cdk|cli|common|compiler.*|core|elements|forms|language-service|localize|platform-.*|router|service-worker|ssr|upgrade)|@angular-(devkit|eslint)/.*|angular-eslint|react-helmet.*|react-i18next|i18next|react-intl|react-redux|@reduxjs/.*|swr|react-query|formik|react-hook-form|react-error-boundary|styled-components|@emotion/.*|framer-motion|motion|svelte|nuxt|gatsby|@apollo/.*|urql|react-dnd|react-transition-group)$`)

// builtIn are components that draw, which frameworks give every template, by the package that
// gives them: none is of a kit. Those that draw nothing of their own stand among htmlTags.
var builtIn = map[string]string{
	"RouterLink": "vue-router", "NuxtLink": "nuxt", "NuxtPage": "nuxt", "NuxtLayout": "nuxt",
	"NuxtLoadingIndicator": "nuxt", "ClientOnly": "nuxt",
}

// uiFolder is a folder whose components are meant to be used everywhere.
var uiFolder = regexp.MustCompile(`(^|/)(ui|ui-kit|uikit|kit|design-system|designsystem|primitives|atoms|base-components|elements|ui-components)$`)

var testFile = regexp.MustCompile(`(^|/)(__tests__|__mocks__|__stories__|tests?|e2e|stories)/|\.(test|spec|stories|story|e2e|cy|mock)s?\.[a-z]+$|\.d\.[mc]?ts$`)

// TestFile reports whether a file is a test or an example, by its name: no screen of anybody.
func TestFile(p string) bool { return testFile.MatchString(p) }

// test is TestFile, asked once a file.
func (s *Survey) test(p string) bool {
	out, ok := s.tests[p]
	if !ok {
		out = TestFile(p)
		s.tests[p] = out
	}
	return out
}

// Look finds out what the names in a repository's markup mean, and which kits it uses.
func Look(in *Input) *Survey {
	s := &Survey{
		in: in, g: newGraph(in.Files, in.Packages, in.Aliases), meaning: map[*Node]Found{}, selectors: map[string][]selected{},
		global: map[string]Found{}, tests: map[string]bool{}, within: map[string]string{}, registered: map[*describe.Catalog]string{},
	}
	for _, f := range in.Files {
		for _, c := range f.Components {
			for _, sel := range plainWays(c.Selector) {
				s.selectors[sel.Tag] = append(s.selectors[sel.Tag], selected{sel.Attrs, Found{File: f, Component: c}})
			}
			// A page is reached by its route; what is used by its name alone is no page.
			if f.Language == "vue" && !viewFolder.MatchString(f.Path) {
				s.global[pascal(c.Name)] = Found{File: f, Component: c}
			}
		}
	}
	for _, f := range in.Files {
		for _, r := range f.Registered {
			if found, ok := s.g.Name(f, r.Local); ok {
				s.global[pascal(r.Name)] = found
			}
		}
	}
	for _, f := range in.Files {
		for _, c := range f.Components {
			for _, n := range c.Roots {
				s.name(f, c, n)
			}
		}
	}
	s.chooseKits()
	return s
}

// plainWays are the ways of a selector that ask for no class: classes are computed too often for
// code to say by them what an element is.
func plainWays(selector string) []kit.Selector {
	return slices.DeleteFunc(kit.ParseSelector(selector), func(s kit.Selector) bool { return len(s.Classes) > 0 })
}

func (s *Survey) name(f *File, in *Component, n *Node) {
	if n.Kind == "element" {
		found := s.find(f, n)
		s.meaning[n] = found
		if found != (Found{}) {
			s.uses = append(s.uses, use{f, in, n, found})
		}
	}
	for _, c := range n.Children {
		s.name(f, in, c)
	}
}

// find is what an element's name means, by the custom of its framework.
func (s *Survey) find(f *File, n *Node) Found {
	switch f.Language {
	case "vue":
		for _, name := range []string{n.Name, pascal(n.Name), camel(n.Name)} {
			if out, ok := s.g.Name(f, name); ok {
				return out
			}
		}
		if htmlTags[n.Name] {
			return Found{}
		}
		if out, ok := s.global[pascal(n.Name)]; ok {
			return out
		}
		if of, ok := builtIn[pascal(n.Name)]; ok {
			return Found{Package: of, Export: pascal(n.Name)}
		}
		return Found{Package: loosePackage, Export: pascal(n.Name)}
	case "angular":
		if sel, ok := matchSelector(s.selectors, n); ok {
			return sel
		}
		return loose(n)
	case "html":
		// The page that an application of Angular stands in has its outermost component.
		if sel, ok := matchSelector(s.selectors, n); ok && strings.Contains(n.Name, "-") {
			return sel
		}
		return loose(n)
	}
	if first := n.Name[:min(1, len(n.Name))]; first == strings.ToLower(first) && !strings.Contains(n.Name, ".") {
		return loose(n)
	}
	out, ok := s.g.Name(f, n.Name)
	if !ok {
		return Found{Package: "?", Export: n.Name}
	}
	return out
}

// loose is what a tag means that nobody imports: a custom element, or plain HTML.
func loose(n *Node) Found {
	if strings.Contains(n.Name, "-") && !htmlTags[n.Name] {
		return Found{Package: loosePackage, Export: pascal(n.Name)}
	}
	return Found{}
}

func matchSelector(list map[string][]selected, n *Node) (Found, bool) {
	has := func(name string) bool {
		return slices.ContainsFunc(n.Attributes, func(a Attribute) bool { return a.Name == name })
	}
	for _, tag := range []string{n.Name, ""} {
		best, most := Found{}, -1
		for _, sel := range list[tag] {
			if len(sel.parts) > most && !slices.ContainsFunc(sel.parts, func(p string) bool { return !has(p) }) && (tag != "" || len(sel.parts) > 0) {
				best, most = sel.Found, len(sel.parts)
			}
		}
		if most >= 0 {
			return best, true
		}
	}
	return Found{}, false
}

func pascal(s string) string {
	var b strings.Builder
	for part := range strings.FieldsFuncSeq(s, func(r rune) bool { return r == '-' || r == '_' || r == '.' }) {
		b.WriteString(strings.ToUpper(part[:1]) + part[1:])
	}
	return b.String()
}

func camel(s string) string {
	p := pascal(s)
	if p == "" {
		return ""
	}
	return strings.ToLower(p[:1]) + p[1:]
}

// kitFolder is the folder of a kit that a file is in: one that is called so, or a package
// that others of the repository import. Empty where it is in none.
func (s *Survey) kitFolder(p string) string {
	dir := path.Dir(p)
	if out, ok := s.within[dir]; ok {
		return out
	}
	out := ""
	for at := dir; at != "." && out == ""; at = path.Dir(at) {
		if uiFolder.MatchString(at) {
			out = at
		}
	}
	s.within[dir] = out
	return out
}

// tally counts uses of one package or folder.
type tally struct {
	uses    int
	files   map[string]bool
	names   map[string]int
	figures int // uses that look like pictures: no content, nothing set but size and colour
}

func (t *tally) add(u use, name string) {
	t.uses++
	t.files[u.file.Path] = true
	t.names[name]++
	if len(u.node.Children) == 0 && !slices.ContainsFunc(u.node.Attributes, func(a Attribute) bool { return !ofPictures[strings.ToLower(a.Name)] }) {
		t.figures++
	}
}

var ofPictures = map[string]bool{
	"size": true, "color": true, "classname": true, "class": true, "style": true, "width": true, "height": true, "strokewidth": true, "stroke-width": true,
	"fontsize": true, "weight": true, "aria-hidden": true, "aria-label": true, "title": true, "role": true, "key": true, "fill": true, "stroke": true, "spin": true, "focusable": true,
}

// picturesOnly tells a set of icons from components.
func (t *tally) picturesOnly() bool { return t.figures*10 >= t.uses*9 && len(t.names) > 2 }

func (s *Survey) chooseKits() {
	packages, folders := map[string]*tally{}, map[string]*tally{}
	at := func(m map[string]*tally, key string) *tally {
		if m[key] == nil {
			m[key] = &tally{files: map[string]bool{}, names: map[string]int{}}
		}
		return m[key]
	}
	named := map[string]bool{} // folders that settings name
	for _, k := range s.in.Settings.Kits {
		if strings.HasPrefix(k, ".") || strings.HasPrefix(k, "/") {
			named[strings.Trim(path.Clean(strings.TrimPrefix(k, ".")), "/")] = true
		}
	}
	refused := map[string]bool{} // folders that are called like kits, and are none
	folderOf := func(p string) string {
		for dir := path.Dir(p); dir != "."; dir = path.Dir(dir) {
			if named[dir] {
				return dir
			}
		}
		if len(s.in.Settings.Kits) > 0 {
			return ""
		}
		if dir := s.kitFolder(p); !refused[dir] {
			return dir
		}
		return ""
	}
	count := func() {
		clear(packages)
		clear(folders)
		for _, u := range s.uses {
			if s.test(u.file.Path) || folderOf(u.file.Path) != "" {
				continue // what a kit is made of
			}
			switch {
			case u.found.File != nil:
				if dir := folderOf(u.found.File.Path); dir != "" {
					at(folders, dir).add(u, u.found.Component.Name)
				}
			case u.found.Package != "?":
				at(packages, u.found.Package).add(u, u.found.Export)
			}
		}
	}
	count()
	for _, f := range s.in.Files {
		if dir := s.kitFolder(f.Path); dir != "" && (folders[dir] == nil || folders[dir].uses < 5 || len(folders[dir].names) < 2) {
			refused[dir] = true
		}
	}
	count()
	add := func(pkg, folder string, t *tally) {
		s.Kits = append(s.Kits, Kit{pkg, folder, t.uses, len(t.files), slices.Sorted(maps.Keys(t.names))})
	}
	if len(s.in.Settings.Kits) > 0 {
		for _, k := range s.in.Settings.Kits {
			dir := strings.Trim(path.Clean(strings.TrimPrefix(k, ".")), "/")
			if named[dir] {
				add("", dir, at(folders, dir))
			} else {
				add(k, "", at(packages, k))
			}
		}
		if t := packages[loosePackage]; t != nil {
			add(loosePackage, "", t)
		}
		return
	}
	for name, t := range packages {
		if plainPackages.MatchString(name) || t.picturesOnly() || t.uses < 5 || len(t.names) < 2 {
			continue
		}
		add(name, "", t)
	}
	for dir, t := range folders {
		if len(t.names) >= 2 && t.uses >= 5 {
			add("", dir, t)
		}
	}
	outside := 0
	for _, k := range s.Kits {
		outside += k.Uses
	}
	s.guessFolder(outside/2, add)
	slices.SortFunc(s.Kits, func(a, b Kit) int {
		return cmp.Or(cmp.Compare(b.Uses, a.Uses), cmp.Compare(a.Name(), b.Name()))
	})
	s.fewer()
}

// fewer leaves out what is used a little beside much else: a chart here, a map there.
func (s *Survey) fewer() {
	if len(s.Kits) < 2 {
		return
	}
	most := s.Kits[0].Uses
	s.Kits = slices.DeleteFunc(s.Kits, func(k Kit) bool { return k.Uses*50 < most && len(k.Names) < 4 })
}

// guessFolder takes folders for kits whose components are used in many others, at least so
// often in all, and use none of the team's components of other folders themselves.
func (s *Survey) guessFolder(least int, add func(pkg, folder string, t *tally)) {
	uses := map[*Component]bool{} // those that use components of the repository
	by := map[*Component]*tally{}
	file := map[*Component]*File{}
	for _, u := range s.uses {
		if u.found.File == nil || s.test(u.file.Path) || s.inKit(u.found.File.Path) {
			continue
		}
		if above(u.file.Path, u.in) != above(u.found.File.Path, u.found.Component) {
			uses[u.in] = true
		}
		c := u.found.Component
		if by[c] == nil {
			by[c] = &tally{files: map[string]bool{}, names: map[string]int{}}
		}
		file[c] = u.found.File
		if path.Dir(u.file.Path) != path.Dir(u.found.File.Path) {
			by[c].add(u, c.Name)
		}
	}
	dirs := map[string]*tally{}
	for c, t := range by {
		if len(t.files) < 3 || uses[c] {
			continue
		}
		dir := above(file[c].Path, c)
		if dir == "." {
			continue
		}
		if dirs[dir] == nil {
			dirs[dir] = &tally{files: map[string]bool{}, names: map[string]int{}}
		}
		dirs[dir].uses += t.uses
		maps.Copy(dirs[dir].files, t.files)
		maps.Copy(dirs[dir].names, t.names)
	}
	for dir, t := range dirs {
		if len(t.names) >= 3 && t.uses >= least {
			add("", dir, t)
		}
	}
}

// parentFolder is a folder of components that each have one of their own.
var parentFolder = regexp.MustCompile(`(^|/)(components?|common|shared|widgets|lib|library|base|core)$`)

// above is the folder that a component is one of several in: the one above, where it has a
// folder to itself.
func above(file string, c *Component) string {
	dir := path.Dir(file)
	plain := func(s string) string { return strings.ToLower(strings.ReplaceAll(s, "-", "")) }
	base := strings.TrimSuffix(path.Base(file), path.Ext(file))
	if name := plain(path.Base(dir)); name == plain(c.Name) || name == plain(base) || base == "index" || parentFolder.MatchString(path.Dir(dir)) {
		return path.Dir(dir)
	}
	return dir
}

// ofKit finds the kit that something found belongs to.
func (s *Survey) ofKit(f Found) (*Kit, bool) {
	for i := range s.Kits {
		k := &s.Kits[i]
		if f.File == nil && f.Package == k.Package && k.Package != "" {
			return k, true
		}
		if f.File != nil && k.Folder != "" && strings.HasPrefix(f.File.Path, k.Folder+"/") {
			return k, true
		}
	}
	return nil, false
}

// inKit reports whether a file is of a kit itself.
func (s *Survey) inKit(p string) bool {
	return slices.ContainsFunc(s.Kits, func(k Kit) bool { return k.Folder != "" && strings.HasPrefix(p, k.Folder+"/") })
}

// htmlTags are the elements of HTML and the roots of SVG and MathML.
var htmlTags = func() map[string]bool {
	out := map[string]bool{}
	for tag := range strings.FieldsSeq(`a abbr address area article aside audio b base bdi bdo blockquote body br button canvas caption cite code col colgroup data datalist dd del details dfn dialog div dl dt em embed fieldset figcaption figure footer form h1 h2 h3 h4 h5 h6 head header hgroup hr html i iframe img input ins kbd label legend li link main map mark menu meta meter nav noscript object ol optgroup option output p param picture pre progress q rp rt ruby s samp script search section select slot small source span strong style sub summary sup table tbody td template textarea tfoot th thead time title tr track u ul var video wbr svg g path circle rect line polyline polygon ellipse defs use text tspan lineargradient linearGradient stop mask clipPath symbol foreignObject math component transition Transition transition-group TransitionGroup keep-alive KeepAlive suspense Suspense router-view RouterView router-outlet ng-container ng-template ng-content`) {
		out[tag] = true
	}
	return out
}()
