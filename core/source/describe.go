package source

import (
	"cmp"
	"fmt"
	"maps"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
)

// shown are settings of every element that are no props of a component: looks by hand,
// names for code, what is told to those who cannot see.
var shown = regexp.MustCompile(`^(class|className|classNames|style|styles|sx|css|key|ref|id|slot|is|tabIndex|tabindex|role|data-.*|aria-.*|@.*|on[A-Z].*|v-.*|\*.*|#.*|ngClass|ngStyle|ngIf|ngFor|formControlName|formControl|formGroup|ngModel|routerLink|routerLinkActive|xmlns.*|dangerouslySetInnerHTML|as|component|asChild|innerHTML|children|trackBy|autoFocus|autofocus|suppressHydrationWarning)$`)

// handedOn are attributes of the page that components of frameworks hand on to the element that they
// draw, whether they declare them or not.
var handedOn = regexp.MustCompile(`^(type|value|defaultValue|checked|defaultChecked|placeholder|href|target|rel|download|src|alt|title|name|min|max|step|rows|cols|maxLength|minLength|pattern|autoComplete|disabled|required|readOnly|htmlFor|for|form|action|method|width|height|hidden|lang|dir|accept|multiple|colSpan|rowSpan|scope|loading)$`)

// word is a value that reads like a choice: one word of letters, digits and dashes.
var word = regexp.MustCompile(`^[A-Za-z0-9][A-Za-z0-9_.:/-]{0,23}$`)

// saying are props that hold words for people, or what differs with every use, by their names.
var saying = regexp.MustCompile(`(?i)^(.*(label|title|text|name|placeholder|message|description|caption|heading|subtitle|help|hint|tooltip|content|href|src|url|path|to|value|alt|key|id|for|query|date|format|locale|pattern|field|accessor|prefix|suffix))$`)

// system are settings of room, size and place that boxes take: they answer to what stands
// around, and nobody holds to one value of them.
var system = regexp.MustCompile(`^([mp][trblxyse]?|(margin|padding|border|flex|grid|align|justify|place|min|max|overflow|text|line|letter|font|white|background|bg|box|object|row|column|inset)([A-Z].*)?|display|position|width|height|w|h|minW|maxW|minH|maxH|gap|rowGap|columnGap|top|left|right|bottom|zIndex|opacity|order|flex|transform|cursor|float|clear|visibility|lineHeight|letterSpacing|x[sl]|sm|md|lg|xl|xxl|offset|push|pull|span|colSpan|rowSpan|rows|cols|lines|autoComplete|autocomplete|target|rel|loading|lang|dir|dirAttr)$`)

// pictures are components called so.
var pictures = regexp.MustCompile(`(?i)(image|img|picture|photo|avatar|thumbnail)`)

// seen gathers what the uses of one component set.
type seen struct {
	name   string
	values map[string]int
	flags  int
	nums   int
	bound  int
	uses   int
}

// fills reports whether markup is given to an element under the name of an attribute: that is
// what stands in it, and no setting.
func (n *Node) fills(name string) bool {
	return slices.ContainsFunc(n.Children, func(c *Node) bool { return c.Slot == name })
}

// observed lists the props that the uses of a component set, with types as far as their
// values tell.
func observed(uses []use) []describe.Prop {
	order := []string{}
	by := map[string]*seen{}
	for _, u := range uses {
		for i := range u.node.Attributes {
			a := &u.node.Attributes[i]
			if shown.MatchString(a.Name) || a.Kind == "handler" || u.node.fills(a.Name) {
				continue
			}
			p := by[a.Name]
			if p == nil {
				p = &seen{name: a.Name, values: map[string]int{}}
				by[a.Name] = p
				order = append(order, a.Name)
			}
			p.uses++
			switch a.Kind {
			case "flag":
				p.flags++
			case "number":
				p.nums++
			case "text":
				p.values[a.Value.Value]++
			case "one":
				for _, v := range a.Values {
					p.values[v]++
				}
			default:
				p.bound++
			}
		}
	}
	slices.Sort(order)
	out := make([]describe.Prop, 0, len(order))
	for _, name := range order {
		out = append(out, by[name].prop())
	}
	return out
}

func (p *seen) prop() describe.Prop {
	out := describe.Prop{Name: p.name, Attr: p.name, Type: "text", From: describe.FromGuess}
	n, words, numbers := 0, true, true
	for v, k := range p.values {
		n += k
		words = words && word.MatchString(v)
		_, err := strconv.ParseFloat(v, 64)
		numbers = numbers && err == nil
	}
	switch {
	case n > 0 && numbers:
		out.Type = "number"
	case n > 0 && system.MatchString(p.name):
		// as text: shown, and no evidence
	case n == 0 && p.flags > 0:
		out.Type = "yes/no"
	case n == 0 && p.nums > 0:
		out.Type = "number"
	case n == 0:
		out.Type = "data"
	case words && !saying.MatchString(p.name) && len(p.values) <= 12 && (n >= 2*len(p.values) || len(p.values) <= 2 && n >= 2):
		out.Type, out.Open = "choice", true
		for v := range p.values {
			out.Values = append(out.Values, v)
		}
		slices.Sort(out.Values)
	}
	return out
}

// through is what a component of the team's is that is another name of something of a library.
func (s *Survey) through(f Found) Found {
	if f.Component != nil && f.Component.renames() {
		if out, ok := s.g.Name(f.File, f.Component.Roots[0].Name); ok {
			return out
		}
	}
	return f
}

// catalogOf describes a kit that nobody describes: a folder by what its components declare,
// and either by what their uses set.
func (s *Survey) catalogOf(k *Kit, catalog *describe.Catalog) *describe.Catalog {
	uses := map[string][]use{}
	for _, u := range s.uses {
		found := u.found
		if _, of := s.ofKit(found); !of {
			found = s.through(found)
		}
		if of, ok := s.ofKit(found); ok && of == k && !s.inKit(u.file.Path) && !s.test(u.file.Path) {
			uses[exportOf(found)] = append(uses[exportOf(found)], u)
		}
	}
	out := &describe.Catalog{Name: k.Name(), Version: "0", Drawn: describe.React}
	short := describe.Short(k.Package)
	if k.Loose() {
		short = "global"
	}
	if k.Folder != "" {
		short = describe.Short(path.Base(k.Folder))
		out.Drawn = s.drawnBy(k.Folder)
	}
	if catalog != nil {
		out = catalog
	}
	taken := map[string]bool{}
	for i := range out.Entries {
		taken[out.Entries[i].ID] = true
	}
	entry := func(name, export, module string) *describe.Entry {
		id := short + "-" + describe.Kebab(name)
		if k.Loose() && strings.Contains(describe.Kebab(name), "-") {
			id = describe.Kebab(name) // it is written so
		}
		for n := 2; taken[id]; n++ {
			id = short + "-" + describe.Kebab(name) + "-" + strconv.Itoa(n)
		}
		taken[id] = true
		return &describe.Entry{ID: id, Export: export, Module: module, From: describe.FromGuess, Slots: []describe.Slot{{From: describe.FromGuess}}}
	}
	if k.Folder != "" {
		for _, f := range s.in.Files {
			if !strings.HasPrefix(f.Path, k.Folder+"/") || s.test(f.Path) {
				continue
			}
			for _, c := range f.Components {
				if len(c.Exported) == 0 || f.Language == "tsx" && !startsUpper(nameOf(f, c)) {
					continue
				}
				e := entry(nameOf(f, c), c.Name, f.Path)
				e.From = describe.FromTypes
				if c.Name == "default" || !slices.Contains(c.Exported, c.Name) { // it is called otherwise by those who import it
					e.Export, e.Class = c.Exported[0], c.Name
					if e.Export == "default" {
						e.Export, e.Default = nameOf(f, c), true
					}
				}
				e.Selector = c.Selector
				e.Props = s.declared(f, c)
				had := map[string]int{}
				for i, p := range e.Props {
					had[p.Name] = i
				}
				for _, p := range observed(uses[exportOf(Found{File: f, Component: c})]) {
					at, known := had[p.Name]
					if !known {
						at, known = had[camel(p.Name)]
					}
					switch {
					case !known:
						e.Props = append(e.Props, p)
					case e.Props[at].Type == "data" && len(e.Props[at].Values) == 0 && p.Type != "data":
						// Its type is not understood: it may be what uses set it to.
						q := &e.Props[at]
						q.Type, q.Values, q.Open, q.From = p.Type, p.Values, p.Open, p.From
						if q.Type == "choice" && q.Default != "" && !slices.Contains(q.Values, q.Default) {
							q.Values = append(q.Values, q.Default)
							slices.Sort(q.Values)
						}
					}
				}
				for _, slot := range c.Slots {
					if slot != "" {
						e.Slots = append(e.Slots, describe.Slot{Name: slot})
					}
				}
				out.Entries = append(out.Entries, *e)
			}
		}
		return out
	}
	// Of a package, what is used and stands in no description.
	for _, name := range slices.Sorted(maps.Keys(uses)) {
		if s.entryOf(out, name) != nil {
			continue
		}
		export := strings.TrimPrefix(name, "default:")
		e := entry(export, export, k.Package)
		e.Props = observed(uses[name])
		if catalog != nil {
			out.Left = append(out.Left, describe.Left{Where: export, What: "used, and described nowhere: its props are those that its uses set"})
		}
		out.Entries = append(out.Entries, *e)
	}
	return out
}

// drawnBy is the framework that most components of a folder are written for.
func (s *Survey) drawnBy(folder string) string {
	n := map[string]int{}
	for _, f := range s.in.Files {
		if strings.HasPrefix(f.Path, folder+"/") && !s.test(f.Path) {
			n[f.Language] += len(f.Components)
		}
	}
	switch {
	case n["vue"] > n["tsx"]+n["script"] && n["vue"] >= n["angular"]:
		return describe.Vue
	case n["angular"] > n["tsx"]+n["script"]:
		return describe.Angular
	}
	return describe.React
}

func startsUpper(s string) bool { return s != "" && s[0] >= 'A' && s[0] <= 'Z' }

// exportOf is a key for what was found within its kit.
func exportOf(f Found) string {
	if f.File != nil {
		return f.File.Path + "#" + f.Component.Name
	}
	return f.Export
}

// entryOf finds the entry of a described kit by the name that code imports.
func (s *Survey) entryOf(c *describe.Catalog, export string) *describe.Entry {
	want := describe.Kebab(export)
	short := describe.Short(c.Name)
	for i := range c.Entries {
		if e := &c.Entries[i]; e.Export == export || e.Class == export {
			return e
		}
	}
	for i := range c.Entries {
		if e := &c.Entries[i]; e.ID == want || e.ID == short+"-"+want || e.Export != "" && describe.Kebab(e.Export) == want {
			return e
		}
	}
	return nil
}

// declared are the props that a component declares, types of other files followed.
func (s *Survey) declared(f *File, c *Component) []describe.Prop {
	if c.Declared == nil {
		return nil
	}
	var out []describe.Prop
	had := map[string]int{} // where it stands in out
	var take func(f *File, d *Declared, depth int)
	take = func(f *File, d *Declared, depth int) {
		for _, p := range d.Props {
			at, known := had[p.Name]
			if known && !vague(&out[at]) || shown.MatchString(p.Name) {
				continue
			}
			q := describe.Prop{
				Name: p.Name, Attr: p.Name, Type: p.Type, Values: p.Values, Open: p.Open, Default: p.Default, Required: p.Required, Deprecated: p.Deprecated,
				From: describe.FromTypes,
			}
			if p.Ref != "" {
				if t, _, ok := s.typed(f, p.Ref); ok && len(t.Values) > 0 {
					q.Type, q.Values = "choice", t.Values
				}
			}
			if q.Type == "data" && (q.Default == "true" || q.Default == "false") {
				q.Type = "yes/no"
			}
			if q.Type == "choice" {
				q.Values = slices.Compact(slices.Clone(q.Values))
			}
			if known { // what it is where nothing is set stands where it is taken, what it may be where it is declared
				q.Default, q.Required = cmp.Or(out[at].Default, q.Default), q.Required && out[at].Default == ""
				if q.Type == "data" && (q.Default == "true" || q.Default == "false") {
					q.Type = "yes/no"
				}
				out[at] = q
				continue
			}
			had[p.Name] = len(out)
			out = append(out, q)
		}
		for _, name := range d.Extends {
			if t, of, ok := s.typed(f, name); ok && t.Declared != nil && depth < 6 {
				take(of, t.Declared, depth+1)
			}
		}
	}
	take(f, c.Declared, 0)
	return out
}

// vague reports whether a prop was met without anything said of what it may be.
func vague(p *describe.Prop) bool {
	return p.Type == "data" && len(p.Values) == 0 || p.Type == "yes/no" && (p.Default == "true" || p.Default == "false")
}

// typed finds a type by its name, in the file or where it is imported from.
func (s *Survey) typed(f *File, name string) (Type, *File, bool) {
	for range 8 {
		if t, ok := f.Types[name]; ok {
			return t, f, true
		}
		next, ok := s.typeImport(f, name)
		if !ok {
			return Type{}, nil, false
		}
		f, name = next.file, next.name
	}
	return Type{}, nil, false
}

type typeAt struct {
	file *File
	name string
}

func (s *Survey) typeImport(f *File, name string) (typeAt, bool) {
	for _, i := range f.Imports {
		if i.Local == name {
			to, ok := s.g.module(f, i.From)
			return typeAt{to, i.Name}, ok
		}
	}
	for _, e := range f.Exports {
		if e.From != "" && (e.Name == name || e.Name == "*") {
			to, ok := s.g.module(f, e.From)
			if !ok {
				continue
			}
			if e.Name == name {
				return typeAt{to, e.Local}, true
			}
			if _, has := to.Types[name]; has {
				return typeAt{to, name}, true
			}
		}
	}
	return typeAt{}, false
}

// join makes one kit of all that a repository uses: the described libraries and its own folders.
func (s *Survey) join(catalogs []*describe.Catalog) (*kit.Kit, error) {
	name, version := "none", "0"
	list := []*kit.Component{}
	for i, c := range catalogs {
		if i == 0 {
			name, version = c.Name, c.Version
		}
		list = append(list, c.Components()...)
	}
	describe.Propose(list, nil)
	for _, c := range list {
		if c.Family == "layout" && c.Level != kit.Composite {
			c.Level = kit.Layout // what stands in it stands in what is around it
		}
		// What is only known by its uses is a picture where it is called one.
		if c.Picture != nil && !pictures.MatchString(c.Tag) {
			src := c.Picture.Src
			if slices.ContainsFunc(c.Props, func(p kit.Prop) bool { return p.Name == src && p.From == describe.FromGuess }) {
				c.Picture = nil
			}
		}
	}
	k, err := kit.Read(kit.Sources{
		Name: name, Version: version, Components: list,
		Families: describe.Families,
	})
	if err != nil {
		return nil, fmt.Errorf("the kit as it was described: %w", err)
	}
	return k, nil
}
