package source

import (
	"bytes"
	"fmt"
	"maps"
	"path"
	"regexp"
	"slices"
	"strings"

	"ubiquant/core/kit/describe"
	"ubiquant/core/model"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
)

// found is a screen that was found, with what stands around it.
type foundScreen struct {
	component *Component
	route     string
	shells    []*Component // from the outermost in
}

// app is the id of the one application that a repository's screens are of.
const app = "app"

// documents makes a document of every screen, shell and piece.
func (b *builder) documents() error {
	b.read.W = model.NewWorkspace(b.in.Name, model.KitRef{Name: "read", Version: "0"})
	b.read.W.Apps, b.read.W.Docs = []model.App{{ID: app, Name: b.in.Name}}, nil
	b.paths = map[string]bool{}
	list, how := b.screens()
	if len(b.paths) > 0 {
		for _, s := range list {
			b.paths[s.route] = false // it is the screen's own
		}
		for _, path := range slices.Sorted(maps.Keys(b.paths)) {
			if b.paths[path] {
				b.read.W.Apps[0].Paths = append(b.read.W.Apps[0].Paths, path)
			}
		}
	}
	r := &b.read.Report
	r.How = how
	// Screens and shells are what they are, wherever else they may be named.
	shells := map[*Component]*screen.Document{}
	docs := make([]*screen.Document, len(list))
	for i, s := range list {
		f := b.files[s.component]
		docs[i] = &screen.Document{
			Kind: screen.ScreenDoc, ID: b.docID(nameOf(f, s.component)), Title: spaced(nameOf(f, s.component)), Route: s.route, App: app, Source: f.Path, Owner: b.owner(f.Path), Made: b.in.Made[f.Path],
		}
		b.docs[s.component] = docs[i]
	}
	for i, s := range list {
		for _, c := range s.shells {
			if b.kitless(c) && !b.hasOutlet(c) {
				continue
			}
			d := shells[c]
			if d == nil {
				f := b.files[c]
				if other := b.docs[c]; other != nil {
					continue // a screen that others stand in
				}
				d = &screen.Document{Kind: screen.ShellDoc, ID: b.docID(nameOf(f, c)), Title: spaced(nameOf(f, c)), App: app, Source: f.Path, Owner: b.owner(f.Path), Made: b.in.Made[f.Path]}
				shells[c] = d
				b.fill(d, c)
				b.read.W.Docs = append(b.read.W.Docs, d)
				r.Shells++
			}
			docs[i].Shell = d.ID
		}
	}
	for i, s := range list {
		b.fill(docs[i], s.component)
		b.read.W.Docs = append(b.read.W.Docs, docs[i])
		r.Screens++
	}
	// What no screen leads to is still the team's code.
	for _, f := range b.in.Files {
		if b.test(f.Path) {
			r.Tests++
			continue
		}
		if len(f.Components) > 0 || len(f.Routes) > 0 {
			r.Files++
		}
		if b.inKit(f.Path) {
			continue
		}
		for _, c := range f.Components {
			if b.docs[c] == nil && b.wraps[c] == "" && b.direct(f, c.Roots) {
				b.piece(c)
				r.Parts--
				r.Unreached = append(r.Unreached, f.Path+"#"+nameOf(f, c))
			}
		}
	}
	for _, f := range b.in.Files {
		for _, p := range f.Problems {
			line := 1 + bytes.Count(f.Text[:min(max(p.At, 0), len(f.Text))], []byte("\n"))
			r.Left = append(r.Left, Left{f.Path, line, p.What})
		}
	}
	b.read.W.Models = things(b.read.W.Docs)
	for i, d := range b.read.W.Docs {
		if d.Root == nil {
			return fmt.Errorf("%s (%d) is empty", d.Address(), i)
		}
	}
	return nil
}

var thing = regexp.MustCompile(`^[a-z][A-Za-z0-9]*$`)

// things are what an application speaks of, by the first parts of its routes: "tickets". Nothing
// is known of them but their names, by which words about them are told from words about others.
func things(docs []*screen.Document) (out []sample.Model) {
	seen := map[string]bool{}
	for _, d := range docs {
		first, _, _ := strings.Cut(strings.TrimPrefix(d.Route, "/"), "/")
		if first == "" || strings.HasPrefix(first, ":") || !thing.MatchString(camel(first)) || seen[camel(first)] {
			continue
		}
		seen[camel(first)] = true
		out = append(out, sample.Model{ID: camel(first), Name: spaced(first)})
	}
	return out
}

// direct reports whether elements of a kit stand in the markup itself.
func (b *builder) direct(f *File, list []*Node) bool {
	return slices.ContainsFunc(list, func(n *Node) bool {
		if n.Kind == "element" {
			if typ, _ := b.typeOf(f, n); typ != "" {
				return true
			}
		}
		return b.direct(f, n.Children)
	})
}

// hasOutlet reports whether a component shows another screen in itself.
func (b *builder) hasOutlet(c *Component) bool {
	var any func(list []*Node) bool
	any = func(list []*Node) bool {
		return slices.ContainsFunc(list, func(n *Node) bool {
			return n.Kind == "slot" || n.Name == "Outlet" || n.Name == "router-view" || n.Name == "RouterView" || n.Name == "router-outlet" || any(n.Children)
		})
	}
	return any(c.Roots)
}

var (
	byFolder   = regexp.MustCompile(`(^|/)app/(?:(.*)/)?page\.[jt]sx?$|(^|/)pages/(.*)\.(?:[jt]sx|vue)$|(^|/)routes/(.*?)(?:/\+page|/index)?\.(?:[jt]sx|svelte|vue)$`)
	viewFolder = regexp.MustCompile(`(^|/)(views|screens|pages|scenes)/`)
)

// fileRoute is the route that a file has by the folder it is in; ok is false for none.
func fileRoute(p string) (route string, ok bool) {
	m := byFolder.FindStringSubmatch(p)
	if m == nil {
		return "", false
	}
	rest := m[2] + m[4] + m[6]
	var parts []string
	for _, part := range strings.FieldsFunc(rest, func(r rune) bool { return r == '/' || r == '.' }) {
		switch {
		case part == "index" || strings.HasPrefix(part, "(") && strings.HasSuffix(part, ")"):
		case strings.HasPrefix(part, "_") || part == "api":
			return "", false
		case strings.HasPrefix(part, "[") || strings.HasPrefix(part, "$"):
			parts = append(parts, ":"+strings.Trim(part, "[].$"))
		default:
			parts = append(parts, part)
		}
	}
	return "/" + strings.Join(parts, "/"), true
}

// main is the component that a file is there for.
func (f *File) main() *Component {
	for _, c := range f.Components {
		if slices.Contains(c.Exported, "default") {
			return c
		}
	}
	for _, c := range f.Components {
		if len(c.Exported) > 0 && startsUpper(c.Name) {
			return c
		}
	}
	return nil
}

// screens finds what is a screen: as settings say, by routes, by folders, or what nothing
// else uses.
func (b *builder) screens() (list []foundScreen, how string) {
	taken := map[*Component]bool{}
	add := func(c *Component, route string, shells []*Component) {
		if c != nil && !taken[c] && !b.test(b.files[c].Path) {
			taken[c] = true
			list = append(list, foundScreen{c, route, shells})
		}
	}
	if len(b.in.Settings.Screens) > 0 {
		routes := b.routed()
		for _, f := range b.in.Files {
			if !matchAny(b.in.Settings.Screens, f.Path) {
				continue
			}
			c := f.main()
			route, _ := fileRoute(f.Path)
			var shells []*Component
			for _, r := range routes {
				if r.component == c {
					route, shells = r.route, r.shells
				}
			}
			add(c, route, shells)
		}
		return list, "as the settings say"
	}
	for _, r := range b.routed() {
		add(r.component, r.route, r.shells)
	}
	if len(list) > 0 {
		how = "by the routes"
	}
	used := map[*Component]bool{}
	for _, u := range b.Survey.uses {
		if u.found.Component != nil {
			used[u.found.Component] = true
		}
	}
	more := 0
	for _, f := range b.in.Files {
		c := f.main()
		if c == nil || used[c] || taken[c] || b.inKit(f.Path) {
			continue
		}
		route, ok := fileRoute(f.Path)
		if how != "" && !strings.Contains(f.Path, "/page.") {
			route = ""
			ok = ok && viewFolder.MatchString(f.Path)
		}
		if (ok || viewFolder.MatchString(f.Path)) && !b.kitless(c) {
			add(c, route, b.layouts(f.Path))
			more++
		}
	}
	switch {
	case how != "" && more > 0:
		how += fmt.Sprintf(", and %d more by their folders", more)
	case more > 0:
		how = "by their folders"
	}
	if len(list) > 0 {
		return list, how
	}
	for _, f := range b.in.Files {
		if b.inKit(f.Path) {
			continue
		}
		for _, c := range f.Components {
			if !used[c] && !b.kitless(c) && b.wraps[c] == "" && c.Name != "" && (startsUpper(c.Name) || f.Language != "tsx" && f.Language != "script") {
				route := ""
				if f.Language == "html" { // a page is where its file is
					route = "/" + strings.Trim(strings.TrimSuffix(strings.TrimSuffix(f.Path, path.Ext(f.Path)), "index"), "/")
				}
				add(c, route, nil)
			}
		}
	}
	return list, "no routes and no folders of screens were found: what no other component uses is taken for one"
}

// layouts are the components drawn around a page by files above it.
func (b *builder) layouts(p string) (out []*Component) {
	if !strings.Contains(p, "/page.") {
		return nil
	}
	for dir := path.Dir(p); ; dir = path.Dir(dir) {
		if f, ok := b.g.file(dir + "/layout"); ok {
			if c := f.main(); c != nil {
				out = append([]*Component{c}, out...)
			}
		}
		if dir == "." || path.Base(dir) == "app" {
			return out
		}
	}
}

// routed lists the screens that route tables lead to, those of other lists put below where
// they are named.
func (b *builder) routed() (out []foundScreen) {
	lists := map[*File]map[string][]Route{}
	below := map[*File]map[string]bool{} // lists that others lead to
	for _, f := range b.in.Files {
		if b.test(f.Path) {
			continue
		}
		for _, r := range f.Routes {
			if lists[f] == nil {
				lists[f] = map[string][]Route{}
			}
			lists[f][r.List] = append(lists[f][r.List], r)
			if r.Below == nil {
				continue
			}
			for _, to := range b.listsOf(f, *r.Below) {
				if below[to.file] == nil {
					below[to.file] = map[string]bool{}
				}
				below[to.file][to.list] = true
			}
		}
	}
	var walk func(f *File, list, prefix string, shells []*Component, depth int)
	walk = func(f *File, list, prefix string, shells []*Component, depth int) {
		if depth > 8 {
			return
		}
		for _, r := range lists[f][list] {
			around := slices.Clone(shells)
			var last *Component
			for _, t := range r.Chain {
				if last != nil {
					around = append(around, last)
				}
				if found, ok := b.g.Target(f, t); ok && found.Component != nil {
					last = found.Component
				}
			}
			route := joinRoute(prefix, r.Path)
			b.paths[route] = true // whatever it shows, or where it sends one on
			if at := strings.LastIndex(route, "/:"); at > 0 && strings.HasSuffix(r.Path, "?") {
				b.paths[route[:at]] = true // what may be left out
			}
			if r.Only {
				continue
			}
			if r.Below != nil {
				if last != nil {
					around = append(around, last)
				}
				for _, to := range b.listsOf(f, *r.Below) {
					walk(to.file, to.list, route, around, depth+1)
				}
				continue
			}
			if last != nil {
				out = append(out, foundScreen{last, route, around})
			}
		}
	}
	for _, f := range b.in.Files {
		for _, list := range slices.Sorted(maps.Keys(lists[f])) {
			if !below[f][list] {
				walk(f, list, "", nil, 0)
			}
		}
	}
	return out
}

// routeList is a list of routes in a file.
type routeList struct {
	file *File
	list string
}

// listsOf finds the lists of routes that something names: a list, or a module, of which it is those of what it imports.
func (b *builder) listsOf(f *File, t Target) []routeList {
	if t.Local == "" {
		if to, ok := b.g.module(f, t.From); ok {
			return b.listsIn(to, t.Name, map[*File]bool{})
		}
		return nil
	}
	if f.lists(t.Local) {
		return []routeList{{f, t.Local}}
	}
	for _, i := range f.Imports {
		if i.Local == t.Local {
			return b.listsOf(f, Target{From: i.From, Name: i.Name})
		}
	}
	return nil
}

// listsIn are the lists of routes that a file gives under a name. A module of Angular has none in its own
// file as a rule: they are in the modules that it imports, or under a name that it hands to the router.
func (b *builder) listsIn(f *File, name string, seen map[*File]bool) (out []routeList) {
	if seen[f] {
		return nil
	}
	seen[f] = true
	if f.lists(name) {
		return []routeList{{f, name}}
	}
	for _, e := range f.Exports {
		if e.Name == name && e.From == "" && f.lists(e.Local) {
			return []routeList{{f, e.Local}}
		}
	}
	for _, r := range f.Routes {
		return []routeList{{f, r.List}} // one list is the file's
	}
	for _, i := range f.Imports {
		if to, ok := b.g.module(f, i.From); ok && (to.lists(i.Name) || strings.HasSuffix(i.Name, "Module")) {
			out = append(out, b.listsIn(to, i.Name, seen)...)
		}
	}
	return out
}

// lists tells whether a file has a list of routes of a name.
func (f *File) lists(name string) bool {
	return slices.ContainsFunc(f.Routes, func(r Route) bool { return r.List == name })
}

var parameter = regexp.MustCompile(`^(:[A-Za-z0-9_]+)[?*+]?(\(.*\))?[?*+]?$`)

// anything is a parameter that takes all that follows: ":rest(.*)*", ":rest+".
var anything = regexp.MustCompile(`^:\w+(\(\.[*+]\)[*+?]?|[*+])$`)

func joinRoute(prefix, p string) string {
	var parts []string
	for part := range strings.SplitSeq(prefix+"/"+p, "/") {
		if m := parameter.FindStringSubmatch(part); m != nil && !anything.MatchString(part) {
			part = m[1]
		} else if m != nil {
			part = "*"
		}
		if part != "" {
			parts = append(parts, part)
		}
	}
	return "/" + strings.Join(parts, "/")
}

// matchAny tells whether a path fits one of the patterns: ** is any folders, * a part of a name.
func matchAny(patterns []string, p string) bool {
	return slices.ContainsFunc(patterns, func(pattern string) bool { return Match(pattern, p) })
}

// Match tells whether a path fits a pattern: ** is any folders, * a part of a name. A pattern
// without either also names a folder with all in it.
func Match(pattern, p string) bool {
	pattern = strings.TrimPrefix(path.Clean(pattern), "./")
	if pattern == p || strings.HasPrefix(p, pattern+"/") {
		return true
	}
	var b strings.Builder
	b.WriteString("^")
	for i := 0; i < len(pattern); i++ {
		switch {
		case strings.HasPrefix(pattern[i:], "**/"):
			b.WriteString("(?:.*/)?")
			i += 2
		case strings.HasPrefix(pattern[i:], "**"):
			b.WriteString(".*")
			i++
		case pattern[i] == '*':
			b.WriteString("[^/]*")
		default:
			b.WriteString(regexp.QuoteMeta(pattern[i : i+1]))
		}
	}
	re, err := regexp.Compile(b.String() + "$")
	return err == nil && re.MatchString(p)
}

// finish completes the report.
func (b *builder) finish(full, given []*describe.Catalog) {
	r := &b.read.Report
	for i := range full {
		c := full[i]
		if len(c.Entries) == 0 {
			continue
		}
		use := KitUse{Name: c.Name, Components: len(c.Entries), Described: i < len(given) && given[i] != nil}
		if c.Version != "0" {
			use.Version = c.Version
		}
		if i < len(b.Kits) && b.Kits[i].Folder != "" {
			use.Described = true
		}
		for j := range c.Entries {
			if n := b.uses[c.Entries[j].ID]; n > 0 {
				use.Used++
				use.Uses += n
			}
		}
		if use.Uses == 0 && i < len(b.Kits) && b.Kits[i].Loose() {
			continue // all of it is known otherwise
		}
		r.Kits = append(r.Kits, use)
	}
	// The workspace is on the kit that is used most, of those that describe themselves.
	ref, most := model.KitRef{Name: b.read.Kit.Name, Version: b.read.Kit.Version}, 0
	for _, use := range r.Kits {
		if use.Described && use.Uses > most && !strings.HasPrefix(use.Name, "./") {
			ref, most = model.KitRef{Name: use.Name, Version: use.Version}, use.Uses
		}
	}
	b.read.W.Kit = ref
	slices.Sort(r.Unreached)
}
