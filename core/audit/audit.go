// Package audit checks documents against rules and house rules. A rule is a
// value (see audit/rules, one a file); a finding is one violation with the edits
// that repair it. Results are kept by document and brought up to date by
// difference, so that one edit costs what it changed.
package audit

import (
	"cmp"
	"maps"
	"slices"
	"strings"
	"sync"

	"ubiquant/core/cases"
	"ubiquant/core/kit"
	"ubiquant/core/norm"
	"ubiquant/core/picture"
	"ubiquant/core/sample"
	"ubiquant/core/screen"
	"ubiquant/core/usage"
)

// Severity orders findings.
type Severity string

const (
	Error   Severity = "error"
	Warning Severity = "warning"
	Note    Severity = "note"
)

// Rank is 3 for errors, 2 for warnings, 1 for notes.
func (s Severity) Rank() int {
	switch s {
	case Error:
		return 3
	case Warning:
		return 2
	case Note:
		return 1
	}
	return 0
}

// Finding is one violation of one rule at one element.
type Finding struct {
	Rule     string        `json:"rule"`
	Severity Severity      `json:"severity"`
	Doc      string        `json:"doc"` // kind:id
	Element  string        `json:"element"`
	Prop     string        `json:"prop,omitempty"`
	Message  string        `json:"message"`
	FixTitle string        `json:"fixTitle,omitempty"`
	Fix      []screen.Edit `json:"fix,omitempty"`
	Needs    string        `json:"needs,omitempty"` // why no repair is offered: what it would bring
	Few      bool          `json:"few,omitempty"`   // so few screens say it that it is only worth a look
	Like     *Place        `json:"like,omitempty"`  // an element that does as the others
}

// Key names the finding over time, for letting it stand.
func (f *Finding) Key() string { return Key{f.Rule, f.Doc, f.Element, f.Prop}.String() }

// HouseRule is an open question settled, or a norm adopted.
type HouseRule struct {
	ID     string `json:"id"`
	Spot   string `json:"spot"`            // a spot's address
	Words  string `json:"words"`           // the spot in words
	Where  string `json:"where,omitempty"` // what else must hold, see cases.ParseWhere
	Prop   string `json:"prop"`
	Value  string `json:"value"`
	Reason string `json:"reason"`
	By     string `json:"by"`
	When   string `json:"when"` // YYYY-MM-DD
}

// Rule is one explicit check.
type Rule struct {
	ID       string
	Title    string
	Purpose  string
	Why      string
	Severity Severity
	// Bad and Good are documents as JSON elements: the rule's test and its page
	// in the docs. Rules that compare documents give several.
	Bad, Good []string
	// Looks tells at which components there is anything to look for; it is asked
	// once a component. Without it the rule looks at every component of the kit.
	Looks func(c *kit.Component) bool
	// Unknown rules look at what the kit does not know, and at nothing else.
	Unknown bool
	// Code rules also look at screens that were read from code, where texts are often
	// computed, actions are functions and what is not set may be set elsewhere.
	Code bool
	// Element looks at one element.
	Element func(p *Pass, n *Node)
	// Prop looks at one prop set on an element; def is nil where the component has
	// no such prop.
	Prop func(p *Pass, n *Node, prop *screen.Prop, def *kit.Prop)
	// Judge compares what Pass.Fact noted under one key across documents.
	Judge func(g *Group)
	// Settings are what a team may set about it.
	Settings []Setting
	values   map[string]string
}

// Node is an element in its surroundings.
type Node struct {
	*screen.Element
	Def    *kit.Component // nil where the kit does not know it
	Parent *Node
	Spots  []*usage.Spot // from the general to the specific
}

// Closest returns the nearest ancestor that passes the test.
func (n *Node) Closest(test func(*Node) bool) *Node {
	for a := n.Parent; a != nil; a = a.Parent {
		if test(a) {
			return a
		}
	}
	return nil
}

// Sometimes reports whether it, or what it stands in, is there only on a condition or several times.
func (n *Node) Sometimes() bool {
	for a := n; a != nil; a = a.Parent {
		if a.Show != "" || a.Repeat != nil {
			return true
		}
	}
	return false
}

// Pass is one document being checked.
type Pass struct {
	Doc    *screen.Document
	Kit    *kit.Kit
	Cat    kit.Catalog
	Models map[string]*sample.Model
	House  map[string][]HouseRule // by component
	// Sourced are the models whose records come from a source.
	Sourced  []string
	Seen     map[string]*sample.Seen  // what the sample records show of each model
	Pictures map[string]*picture.Kept // by id
	Routes   *Routes                  // of the document's application; nil where not known
	facets   *cases.Facets
	uses     *usage.Doc
	rule     *Rule
	index    int
	out      *result
	// State is free for a rule to use within one document.
	State map[*Rule]any
}

// Report adds a finding at an element.
func (p *Pass) Report(n *Node, prop, message, fixTitle string, fix ...screen.Edit) {
	p.out.findings = append(
		p.out.findings,
		Finding{
			Rule:     p.rule.ID,
			Severity: p.rule.Severity,
			Doc:      usage.DocKey(p.Doc),
			Element:  n.ID,
			Prop:     prop,
			Message:  message,
			FixTitle: fixTitle,
			Fix:      fix,
		},
	)
}

// Fact notes something to compare across documents: under key, this element
// has this value.
func (p *Pass) Fact(n *Node, key, value string) {
	p.out.facts = append(p.out.facts, fact{p.index, key, value, n.ID})
}

// Holds tells whether the conditions of a house rule hold at an element.
func (p *Pass) Holds(n *Node, where string) bool {
	return where == "" || p.facets.Hold(p.uses, n.ID, where)
}

// Hold tells whether the conditions of a house rule hold at an element of a document.
func (e *Engine) Hold(d *usage.Doc, element, where string) bool {
	return e.facets.Hold(d, element, where)
}

// Remember keeps state of a rule for the rest of the document.
func Remember[T any](p *Pass) *T {
	if s, ok := p.State[p.rule].(*T); ok {
		return s
	}
	s := new(T)
	p.State[p.rule] = s
	return s
}

type fact struct {
	rule       int
	key, value string
	element    string
}

type result struct {
	findings []Finding
	facts    []fact
}

// Findings are what was found in the document itself.
func (r *result) Findings() []Finding { return slices.Clone(r.findings) }

type groupKey struct {
	rule int
	key  string
}

// Place is where a fact was noted.
type Place struct {
	Doc     string `json:"doc"`
	Element string `json:"element"`
}

// Group is all facts of a rule under one key: value to places.
type Group struct {
	Key      string
	Values   map[string][]Place
	rule     *Rule
	findings []Finding
}

// Docs counts the documents in which a value stands.
func (g *Group) Docs(value string) int {
	seen := map[string]bool{}
	for _, p := range g.Values[value] {
		seen[p.Doc] = true
	}
	return len(seen)
}

// Departs calls yield for each place that does not do as most do: certain where that is more
// likely a slip than a second habit, and not where the screens are of two minds. least is how
// many documents must agree before others are held to it.
func (g *Group) Departs(least int, yield func(p Place, value, usual string, docs int, certain bool)) {
	usual, docs, all := "", 0, 0
	for _, v := range g.Sorted() {
		n := g.Docs(v)
		all += n
		if n > docs {
			usual, docs = v, n
		}
	}
	if docs < least {
		return
	}
	for _, v := range g.Sorted() {
		if v == usual {
			continue
		}
		certain := norm.Chance(g.Docs(v), all) >= 0.5
		for _, p := range g.Values[v] {
			yield(p, v, usual, docs, certain)
		}
	}
}

// TwoMinds is how a message says that nobody departs for certain.
const TwoMinds = "; the screens are of two minds"

// Sorted lists the values in stable order.
func (g *Group) Sorted() []string {
	out := make([]string, 0, len(g.Values))
	for v := range g.Values {
		out = append(out, v)
	}
	slices.Sort(out)
	return out
}

// Report adds a finding at a place.
func (g *Group) Report(p Place, prop, message, fixTitle string, fix ...screen.Edit) {
	g.findings = append(
		g.findings,
		Finding{
			Rule:     g.rule.ID,
			Severity: g.rule.Severity,
			Doc:      p.Doc,
			Element:  p.Element,
			Prop:     prop,
			Message:  message,
			FixTitle: fixTitle,
			Fix:      fix,
		},
	)
}

// Routes are the routes of an application.
type Routes struct {
	exact    map[string]bool
	patterns []string // with parameters
	below    []string // paths below which everything leads somewhere, each with a slash at its end
}

// NewRoutes prepares routes for look-ups.
func NewRoutes(list map[string]bool) *Routes {
	r := &Routes{exact: list}
	for route := range list {
		if before, ok := strings.CutSuffix(route, "/*"); ok {
			if before != "" { // else it is what shows that nothing is there
				r.below = append(r.below, before+"/")
			}
			continue
		}
		if strings.Contains(route, ":") {
			r.patterns = append(r.patterns, route)
		}
	}
	slices.Sort(r.patterns)
	return r
}

// Of is the route that a path leads to; ok is false where none does.
func (r *Routes) Of(path string) (route string, ok bool) {
	path, _, _ = strings.Cut(path, "?")
	if trimmed := "/" + strings.Trim(path, "/"); r.exact[trimmed] {
		return trimmed, true
	}
	for _, route := range r.patterns {
		if matches(strings.Trim(route, "/"), strings.Trim(path, "/")) {
			return route, true
		}
	}
	return "", false
}

// Lead reports whether a path leads to a screen: on a plain route, or on one with
// parameters, which matches part by part.
func (r *Routes) Lead(path string) bool {
	if r.exact[path] {
		return true
	}
	path = strings.Trim(path, "/")
	if r.exact["/"+path] {
		return true
	}
	return slices.ContainsFunc(r.below, func(p string) bool { return strings.HasPrefix("/"+path+"/", p) }) ||
		slices.ContainsFunc(r.patterns, func(route string) bool { return matches(strings.Trim(route, "/"), path) })
}

func matches(route, path string) bool {
	for {
		want, route2, more := strings.Cut(route, "/")
		got, path2, more2 := strings.Cut(path, "/")
		if want != got && !(strings.HasPrefix(want, ":") && got != "") || more != more2 {
			return false
		}
		if !more {
			return true
		}
		route, path = route2, path2
	}
}

// Engine holds the findings of a set of documents.
type Engine struct {
	// Sourced are the models whose records come from a source; set before a context.
	Sourced []string
	// Seen is what the sample records show of each model; documents that were put before it
	// changed are to be put again.
	Seen map[string]*sample.Seen
	// Pictures are those that the workspace keeps, by id; set before a context.
	Pictures map[string]*picture.Kept
	// Own are the rules that the team wrote; set before a context.
	Own     []*Rule
	kit     *kit.Kit
	cat     kit.Catalog
	all     []*Rule
	rules   []*Rule // those of all as the team holds them; nil where one is off
	models  map[string]*sample.Model
	house   map[string][]HouseRule
	facets  *cases.Facets
	routes  map[string]*Routes
	results map[string]*result
	groups  map[groupKey]*Group
	dirty   map[groupKey]bool
	plans   *sync.Map // planKey to *plan
	// compared are the findings of groups by document.
	compared map[string][]compared
	moved    map[string]bool // documents whose findings changed since Moved was asked
	count    int
}

type compared struct {
	group *Group
	index int
}

// NewEngine prepares the rules for a kit.
func NewEngine(k *kit.Kit, cat kit.Catalog, rules []*Rule) *Engine {
	return &Engine{
		kit:      k,
		cat:      cat,
		all:      rules,
		plans:    &sync.Map{},
		rules:    rules,
		results:  map[string]*result{},
		groups:   map[groupKey]*Group{},
		dirty:    map[groupKey]bool{},
		compared: map[string][]compared{},
		moved:    map[string]bool{},
	}
}

// Context is what documents are checked against besides rules. After a change
// of it all documents are to be put again.
func (e *Engine) Context(
	models map[string]*sample.Model,
	house []HouseRule,
	routes map[string]map[string]bool,
	tunings []Tuning,
) {
	e.rules = slices.Clone(e.all)
	for _, t := range tunings {
		if i := slices.IndexFunc(e.all, func(r *Rule) bool { return r.ID == t.Rule }); i >= 0 {
			e.rules[i] = e.all[i].tuned(&t)
		}
	}
	e.rules = append(e.rules, e.Own...)
	e.plans.Clear()
	e.models, e.routes = models, map[string]*Routes{}
	for app, list := range routes {
		e.routes[app] = NewRoutes(list)
	}
	e.house = map[string][]HouseRule{}
	e.facets = cases.NewFacets(e.cat, models)
	for _, h := range house {
		if key, ok := usage.ParseKey(h.Spot); ok {
			e.house[key.Component] = append(e.house[key.Component], h)
		}
	}
}

// Put checks a document, in place of its earlier state.
func (e *Engine) Put(d *usage.Doc) { e.Keep(d, e.Check(d)) }

// Result is what was found in one document, before it is compared with others.
type Result = result

// Check looks at a document by itself. It only reads, so that several documents
// can be checked at once.
func (e *Engine) Check(d *usage.Doc) *Result {
	res := &result{}
	p := &Pass{
		Doc:      d.Document,
		Kit:      e.kit,
		Cat:      e.cat,
		Models:   e.models,
		House:    e.house,
		Sourced:  e.Sourced,
		Seen:     e.Seen,
		Pictures: e.Pictures,
		Routes:   e.routes[d.App],
		facets:   e.facets,
		uses:     d,
		out:      res,
		State:    map[*Rule]any{},
	}
	pooled := nodePool.Get().(*[]Node)
	defer nodePool.Put(pooled)
	nodes := slices.Grow((*pooled)[:0], len(d.Uses))[:len(d.Uses)]
	*pooled = nodes
	next := 0
	var visit func(el *screen.Element, parent *Node)
	visit = func(el *screen.Element, parent *Node) {
		u, n := &d.Uses[next], &nodes[next]
		next++
		*n = Node{Element: el, Parent: parent, Def: u.Spots[0].Def(), Spots: u.Spots[:]}
		plan := e.plan(n.Def, d.Source != "")
		for _, i := range plan.element {
			p.rule, p.index = e.rules[i], i
			p.rule.Element(p, n)
		}
		for j := range el.Props {
			var def *kit.Prop
			if n.Def != nil {
				def, _ = n.Def.Prop(el.Props[j].Name)
			}
			for _, i := range plan.prop {
				p.rule, p.index = e.rules[i], i
				p.rule.Prop(p, n, &el.Props[j], def)
			}
		}
		for _, c := range el.Children {
			visit(c, n)
		}
	}
	visit(d.Root, nil)
	return res
}

// Only lists what one rule finds in a document, whether or not the team has it.
func (e *Engine) Only(d *usage.Doc, r *Rule) []Finding {
	alone := *e
	alone.rules, alone.plans = []*Rule{r}, &sync.Map{}
	return alone.Check(d).findings
}

// nodePool spares an allocation a document. Rules keep no node beyond a document.
var nodePool = sync.Pool{New: func() any { return new([]Node) }}

// plan is which rules look at a component and at its props.
type plan struct{ element, prop []int }

type planKey struct {
	component *kit.Component
	code      bool // of what was read from code
}

func (e *Engine) plan(c *kit.Component, code bool) *plan {
	key := planKey{c, code}
	if known, ok := e.plans.Load(key); ok {
		return known.(*plan)
	}
	out := &plan{}
	for i, r := range e.rules {
		if r == nil || code && !r.Code || r.Unknown != (c == nil) || c != nil && r.Looks != nil && !r.Looks(c) {
			continue
		}
		if r.Element != nil {
			out.element = append(out.element, i)
		}
		if r.Prop != nil {
			out.prop = append(out.prop, i)
		}
	}
	e.plans.Store(key, out)
	return out
}

// Keep makes a document's result current.
func (e *Engine) Keep(d *usage.Doc, res *Result) {
	key := usage.DocKey(d.Document)
	if old, ok := e.results[key]; ok && slices.Equal(old.facts, res.facts) {
		// What is compared with others is as it was.
		e.count += len(res.findings) - len(old.findings)
		e.results[key] = res
		e.moved[key] = true
		return
	}
	e.Drop(key)
	for _, f := range res.facts {
		gk := groupKey{f.rule, f.key}
		g := e.groups[gk]
		if g == nil {
			g = &Group{Key: f.key, Values: map[string][]Place{}}
			e.groups[gk] = g
		}
		g.rule = e.rules[f.rule]
		g.Values[f.value] = append(g.Values[f.value], Place{key, f.element})
		e.dirty[gk] = true
	}
	e.results[key] = res
	e.moved[key] = true
	e.count += len(res.findings)
}

// Drop forgets a document.
func (e *Engine) Drop(key string) {
	res, ok := e.results[key]
	if !ok {
		return
	}
	for _, f := range res.facts {
		gk := groupKey{f.rule, f.key}
		g := e.groups[gk]
		places := slices.DeleteFunc(g.Values[f.value], func(p Place) bool { return p.Doc == key })
		if len(places) == 0 {
			delete(g.Values, f.value)
		} else {
			g.Values[f.value] = places
		}
		e.dirty[gk] = true
	}
	delete(e.results, key)
	e.moved[key] = true
	e.count -= len(res.findings)
}

// settle judges again the groups that changed.
func (e *Engine) settle() {
	for gk := range e.dirty {
		g := e.groups[gk]
		for _, f := range g.findings {
			e.moved[f.Doc] = true
			e.compared[f.Doc] = slices.DeleteFunc(e.compared[f.Doc], func(c compared) bool { return c.group == g })
		}
		e.count -= len(g.findings)
		g.findings = nil
		if len(g.Values) == 0 {
			delete(e.groups, gk)
			continue
		}
		if g.rule.Judge != nil {
			g.rule.Judge(g)
		}
		e.count += len(g.findings)
		for i, f := range g.findings {
			e.moved[f.Doc] = true
			e.compared[f.Doc] = append(e.compared[f.Doc], compared{g, i})
		}
	}
	clear(e.dirty)
}

// Findings lists all findings: errors first, then by rule, document and element.
func (e *Engine) Findings() []Finding {
	e.settle()
	out := make([]Finding, 0, e.count)
	for _, r := range e.results {
		out = append(out, r.findings...)
	}
	for _, g := range e.groups {
		out = append(out, g.findings...)
	}
	sortFindings(out)
	return out
}

func sortFindings(list []Finding) {
	slices.SortFunc(list, func(a, b Finding) int {
		if c := b.Severity.Rank() - a.Severity.Rank(); c != 0 {
			return c
		}
		if c := strings.Compare(a.Rule, b.Rule); c != 0 {
			return c
		}
		if c := strings.Compare(a.Doc, b.Doc); c != 0 {
			return c
		}
		return cmp.Or(
			strings.Compare(a.Element, b.Element),
			strings.Compare(a.Prop, b.Prop),
			strings.Compare(a.Message, b.Message),
		)
	})
}

// Of lists the findings of one document, in the order of Findings.
func (e *Engine) Of(key string) []Finding {
	e.settle()
	var out []Finding
	if r, ok := e.results[key]; ok {
		out = append(out, r.findings...)
	}
	for _, c := range e.compared[key] {
		out = append(out, c.group.findings[c.index])
	}
	sortFindings(out)
	return out
}

// Moved lists the documents whose findings changed since it was last asked.
func (e *Engine) Moved() []string {
	e.settle()
	out := slices.Collect(maps.Keys(e.moved))
	clear(e.moved)
	return out
}

// Tells reports whether a finding is about a prop of an element, "text" standing for its text.
func (e *Engine) Tells(doc, element, prop string) bool {
	e.settle()
	r, ok := e.results[doc]
	if !ok {
		return false
	}
	about := func(f *Finding) bool { return f.Element == element && f.Prop == prop }
	for i := range r.findings {
		if about(&r.findings[i]) {
			return true
		}
	}
	for _, c := range e.compared[doc] {
		if about(&c.group.findings[c.index]) {
			return true
		}
	}
	return false
}

// Count is the number of findings without listing them.
func (e *Engine) Count() int {
	e.settle()
	return e.count
}

// CountKey is the number of findings with a key.
func (e *Engine) CountKey(key string) int {
	parts := strings.Split(key, "|")
	if len(parts) != 4 {
		return 0
	}
	n := 0
	for _, f := range e.Of(parts[1]) {
		if f.Key() == key {
			n++
		}
	}
	return n
}
