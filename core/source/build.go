package source

import (
	"bytes"
	"cmp"
	"maps"
	"path"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"ubiquant/core/kit"
	"ubiquant/core/kit/describe"
	"ubiquant/core/model"
	"ubiquant/core/screen"
)

// Place is where an element stands in code.
type Place struct {
	File *File
	Node *Node
	// Props leads the kit's names of props to attributes as they are written.
	Props map[string]*Attribute
	// Text is the literal that the element says; nil where it is computed or of several parts.
	Text *Value
	// Stands tells that the element is a component of the team that only passes things on to
	// the kit's; Sets that it sets something there itself.
	Stands string
	Sets   bool
}

// Position is the line and the column at which the element begins, both from 1.
func (p *Place) Position() (line, column int) {
	return position(p.File.Text, p.Node.Span[0])
}

// position is the line and the column of a byte, from 1; columns count letters.
func position(text []byte, at int) (line, column int) {
	before := text[:at]
	return 1 + bytes.Count(before, []byte("\n")), 1 + utf8.RuneCount(before[bytes.LastIndexByte(before, '\n')+1:])
}

// Read is a repository as documents.
type Read struct {
	W      *model.Workspace
	Kit    *kit.Kit
	Places map[string]map[string]*Place // by address of the document and id of the element
	Report Report
	// Catalogs describe its kits: those of Survey.Kits in their order, then what is used besides.
	Catalogs []*describe.Catalog
	// Besides are what is used of other packages and can be drawn alone, as pictures can.
	Besides []describe.Beside
}

// Report says what was understood and what was not.
type Report struct {
	Files     int            `json:"files"`     // with markup, or that lead to some
	Tests     int            `json:"tests"`     // left out by their names
	Screens   int            `json:"screens"`   //
	Shells    int            `json:"shells"`    //
	Parts     int            `json:"parts"`     // used in several places
	Inlined   int            `json:"inlined"`   // used in one place, and read as a part of it
	Unreached []string       `json:"unreached"` // components with elements of the kit to which no screen leads
	Kits      []KitUse       `json:"kits"`      //
	Elements  int            `json:"elements"`  // of the kit
	Plain     int            `json:"plain"`     // elements of HTML
	Others    map[string]int `json:"others"`    // of other libraries and of the team's own code, by where they are from
	Unknown   map[string]int `json:"unknown"`   // names that lead nowhere
	Set       int            `json:"set"`       // props set that the kit knows
	Known     int            `json:"known"`     // of these, literals
	Spread    int            `json:"spread"`    // elements on which more is set than is known
	Strange   map[string]int `json:"strange"`   // props set that the kit does not know, "component.prop"
	Left      []Left         `json:"left"`      // what could not be read, and why
	How       string         `json:"how"`       // how screens were found
}

// KitUse is a kit with how much of it is used.
type KitUse struct {
	Name       string `json:"name"`
	Version    string `json:"version,omitempty"`
	Components int    `json:"components"`
	Used       int    `json:"used"`
	Uses       int    `json:"uses"`
	Described  bool   `json:"described"` // by its makers; else by how it is used
}

// Left is something that was not understood.
type Left struct {
	File string `json:"file"`
	Line int    `json:"line,omitempty"`
	What string `json:"what"`
}

// builder makes the documents.
type builder struct {
	*Survey
	read      *Read
	tags      map[*Kit]map[string]string // what is exported -> type
	elements  map[string]string          // tag of a custom element -> type
	sels      map[string][]selectedType
	props     map[string]map[string]*kit.Prop // type -> name as written, made plain -> prop
	slotted   map[string]bool                 // "type.slot", made plain: slots that are filled like props
	templates map[string][]string             // what code puts into components as templates, by type
	bears     map[string]bool                 // "type.attribute", made plain: by which a component of Angular is known
	handsOn   map[string]bool                 // types that hand what they do not know to an element of the page
	wraps     map[*Component]string           // components that stand for one of a kit -> type
	sets      map[*Component]bool             // of these, those that set something themselves
	bare      map[*Component]bool             // without anything of a kit in them
	count     map[*Component]int              // places that use a component
	files     map[*Component]*File
	uses      map[string]int
	docs      map[*Component]*screen.Document
	ids       map[string]bool   // of documents
	told      int               // texts that are known by their keys
	asked     map[string]string // keys of texts that are not known, and a file that asks for each
	paths     map[string]bool   // that lead somewhere, and to no screen of their own
	open      map[*Component]bool
	kitDefs   []*kit.Component
	besides   map[string]*describe.Catalog // by package: kits that few import, and much uses
	pictures  map[string]*describe.Beside  // of other packages, by the types of their elements; nil where it is not known which
}

type selectedType struct {
	attrs []string
	typ   string
}

// Build makes documents of a repository. catalogs describe its kits, in the order of
// Survey.Kits; nil where nobody does.
func (s *Survey) Build(catalogs []*describe.Catalog) (*Read, error) {
	b := &builder{
		Survey: s, read: &Read{Places: map[string]map[string]*Place{}}, tags: map[*Kit]map[string]string{}, elements: map[string]string{}, sels: map[string][]selectedType{},
		props: map[string]map[string]*kit.Prop{}, slotted: map[string]bool{}, bears: map[string]bool{}, templates: map[string][]string{}, handsOn: map[string]bool{}, wraps: map[*Component]string{}, sets: map[*Component]bool{}, bare: map[*Component]bool{}, count: map[*Component]int{}, files: map[*Component]*File{},
		uses: map[string]int{}, docs: map[*Component]*screen.Document{}, ids: map[string]bool{}, asked: map[string]string{}, open: map[*Component]bool{},
	}
	r := &b.read.Report
	r.Others, r.Unknown, r.Strange, r.Unreached = map[string]int{}, map[string]int{}, map[string]int{}, []string{}
	full := make([]*describe.Catalog, len(s.Kits))
	for i := range s.Kits {
		var c *describe.Catalog
		if i < len(catalogs) {
			c = catalogs[i]
		}
		full[i] = s.catalogOf(&s.Kits[i], c)
		for _, l := range full[i].Left {
			if c != nil {
				r.Left = append(r.Left, Left{File: full[i].Name, What: l.String()})
			}
		}
	}
	// Custom elements and Angular's components are known by tags, not by imports; what they describe
	// needs no description by its uses.
	extra := catalogs[min(len(s.Kits), len(catalogs)):]
	for i := range s.Kits {
		if s.Kits[i].Loose() {
			full[i].Entries = slices.DeleteFunc(full[i].Entries, func(e describe.Entry) bool {
				return slices.ContainsFunc(catalogs, func(c *describe.Catalog) bool {
					return c != nil && slices.ContainsFunc(c.Entries, func(known describe.Entry) bool {
						return s.calls(c, &known, plainName(e.ID)) || s.calls(c, &known, plainName(e.Export))
					})
				})
			})
		}
	}
	full = append(full, extra...)
	b.besides, b.pictures = map[string]*describe.Catalog{}, map[string]*describe.Beside{}
	for _, c := range extra {
		b.besides[c.Name] = c
	}
	b.index(full)
	b.wrappers()
	b.contents()
	if err := b.documents(); err != nil {
		return nil, err
	}
	b.unsaid()
	b.templated(full)
	k, err := s.join(full)
	if err != nil {
		return nil, err
	}
	k.Stand(b.uses)
	b.read.Kit, b.read.Catalogs = k, full
	for _, typ := range slices.Sorted(maps.Keys(b.pictures)) {
		if p := b.pictures[typ]; p != nil {
			b.read.Besides = append(b.read.Besides, *p)
		}
	}
	b.finish(full, catalogs)
	return b.read, nil
}

// templated gives components places for what code puts into them as templates: no declaration tells of those.
func (b *builder) templated(full []*describe.Catalog) {
	for i, c := range full {
		with := *c
		with.Entries = slices.Clone(c.Entries)
		for j := range with.Entries {
			with.Entries[j].AddTemplates(b.templates[with.Entries[j].ID])
		}
		full[i] = &with
	}
}

// plainName is a name as those who write it in another way mean it: "buttonType" and
// "button-type" are one.
func plainName(s string) string { return strings.ToLower(strings.ReplaceAll(s, "-", "")) }

func (b *builder) index(full []*describe.Catalog) {
	for i, c := range full {
		for j := range c.Entries {
			e := &c.Entries[j]
			props := map[string]*kit.Prop{}
			if c.Drawn == describe.Elements || e.Tag != "" {
				b.elements[plainName(e.ID)] = e.ID
				if e.Tag != "" {
					b.elements[plainName(e.Tag)] = e.ID
				}
			}
			if begin, ok := b.registered[c]; ok && c.Drawn == describe.Vue { // for the whole application
				b.elements[begin+plainName(e.Export)] = e.ID
				if begin == "" {
					b.elements[plainName(e.ID)] = e.ID
				}
			}
			for _, s := range plainWays(e.Selector) {
				b.sels[s.Tag] = append(b.sels[s.Tag], selectedType{s.Attrs, e.ID})
				for _, name := range s.Attrs {
					b.bears[e.ID+"."+plainName(name)] = true
				}
			}
			if i < len(b.Kits) {
				k := &b.Kits[i]
				if b.tags[k] == nil {
					b.tags[k] = map[string]string{}
				}
				if k.Folder != "" {
					b.tags[k][e.Module+"#"+cmp.Or(e.Class, e.Export)] = e.ID
				} else {
					b.tags[k][e.Export] = e.ID
					if e.Default {
						b.tags[k]["default"] = e.ID
					}
				}
			}
			b.props[e.ID] = props
		}
		for _, def := range c.Components() {
			for i := range def.Props {
				p := &def.Props[i]
				b.props[def.Tag][plainName(p.Name)] = p
				if p.Selects {
					b.props[def.Tag][selects] = p
				}
				if p.Attr != "" {
					b.props[def.Tag][plainName(p.Attr)] = p
				}
			}
			b.handsOn[def.Tag] = def.Export != ""
			for _, s := range def.Slots {
				b.slotted[def.Tag+"."+plainName(s.Name)] = true
			}
			b.kitDefs = append(b.kitDefs, def)
		}
	}
	// What is exported under several names, and entries found by their names alone.
	for _, u := range b.Survey.uses {
		k, ok := b.ofKit(u.found)
		if !ok || k.Folder != "" {
			continue
		}
		if _, has := b.tags[k][u.found.Export]; has {
			continue
		}
		for i := range b.Kits {
			if &b.Kits[i] == k {
				if e := b.entryOf(full[i], u.found.Export); e != nil {
					b.tags[k][u.found.Export] = e.ID
				}
			}
		}
	}
	for _, f := range b.in.Files {
		for _, c := range f.Components {
			b.files[c] = f
		}
	}
	for _, u := range b.Survey.uses {
		if u.found.Component != nil && !b.test(u.file.Path) {
			b.count[u.found.Component]++
		}
	}
}

// typeOf is the kit's component that an element is one of; empty for none.
func (b *builder) typeOf(f *File, n *Node) (typ string, found Found) {
	found = b.meaning[n]
	if found.Package == loosePackage {
		if typ, ok := b.elements[plainName(n.Name)]; ok {
			return typ, found
		}
		if typ := b.selected(n); typ != "" {
			return typ, found
		}
	}
	if k, ok := b.ofKit(found); ok {
		return b.tags[k][exportOf(found)], found
	}
	if c := b.besides[found.Package]; c != nil {
		if e := b.entryOf(c, found.Export); e != nil {
			return e.ID, found
		}
	}
	if found.Component != nil {
		if stands, ok := b.in.Settings.Stands["./"+b.files[found.Component].Path+"#"+found.Component.Name]; ok {
			for i := range b.Kits {
				_, export, _ := strings.Cut(stands, "#")
				if typ := b.tags[&b.Kits[i]][export]; typ != "" {
					return typ, found
				}
			}
		}
		return b.wraps[found.Component], found
	}
	if found != (Found{}) {
		return "", found
	}
	return b.selected(n), found
}

// selected finds a component by its selector: those of Angular are known by a tag, by
// attributes, or by both.
func (b *builder) selected(n *Node) string {
	for _, tag := range []string{n.Name, ""} {
		best, most := "", -1
		for _, sel := range b.sels[tag] {
			missing := slices.ContainsFunc(sel.attrs, func(want string) bool {
				return !slices.ContainsFunc(n.Attributes, func(a Attribute) bool { return a.Name == want })
			})
			if !missing && len(sel.attrs) > most {
				best, most = sel.typ, len(sel.attrs)
			}
		}
		if best != "" {
			return best
		}
	}
	return ""
}

// wrappers finds the team's components that only pass what they are given on to one of the
// kit: "our own button around the kit's".
func (b *builder) wrappers() {
	inner := func(c *Component) *Node {
		var root *Node
		for _, r := range c.Roots {
			if r.Kind == "group" && r.Under != "" {
				continue
			}
			if r.Kind != "element" || root != nil {
				return nil
			}
			root = r
		}
		return root
	}
	for again := true; again; {
		again = false
		for _, f := range b.in.Files {
			if b.inKit(f.Path) {
				continue
			}
			for _, c := range f.Components {
				root := inner(c)
				if root == nil || b.wraps[c] != "" || !(root.Passes || f.Language == "vue") || !holesOnly(root) || f.Language == "vue" && c.Declared == nil && len(c.Slots) == 0 {
					continue
				}
				if typ, found := b.typeOf(f, root); typ != "" && found.Component != c {
					b.wraps[c] = typ
					b.sets[c] = found.Component != nil && b.sets[found.Component] ||
						slices.ContainsFunc(root.Attributes, func(a Attribute) bool { return !shown.MatchString(a.Name) })
					again = true
				}
			}
		}
	}
}

// holesOnly reports whether nothing stands in an element but what is passed to it.
func holesOnly(n *Node) bool {
	for _, c := range n.Children {
		if c.Kind != "slot" {
			return false
		}
	}
	return true
}

// kitless reports whether neither a component nor anything that it uses has elements of a kit.
func (b *builder) kitless(c *Component) bool {
	if out, ok := b.bare[c]; ok {
		return out
	}
	b.bare[c] = true // until shown otherwise; those that use themselves end here
	f := b.files[c]
	var any func(list []*Node) bool
	any = func(list []*Node) bool {
		for _, n := range list {
			if n.Kind == "element" {
				if typ, found := b.typeOf(f, n); typ != "" || found.Component != nil && !b.kitless(found.Component) {
					return true
				}
			}
			if any(n.Children) {
				return true
			}
		}
		return false
	}
	out := !any(c.Roots)
	b.bare[c] = out
	return out
}

// docID is a free id made of a name.
func (b *builder) docID(name string) string {
	id := describe.Kebab(strings.TrimSuffix(strings.TrimSuffix(name, ".html"), ".component"))
	if id == "" || !screen.ValidID(id) {
		id = "screen"
	}
	id = strings.TrimRight(id[:min(len(id), 56)], "-")
	free := id
	for n := 2; b.ids[free]; n++ {
		free = id + "-" + strconv.Itoa(n)
	}
	b.ids[free] = true
	return free
}

// piece makes the document of a component that is used in several places.
func (b *builder) piece(c *Component) *screen.Document {
	f := b.files[c]
	d := &screen.Document{Kind: screen.PieceDoc, ID: b.docID(nameOf(f, c)), Title: spaced(nameOf(f, c)), Source: f.Path, Owner: b.owner(f.Path), Made: b.in.Made[f.Path]}
	b.docs[c] = d
	b.fill(d, c)
	b.read.W.Docs = append(b.read.W.Docs, d)
	b.read.Report.Parts++
	return d
}

func (b *builder) owner(file string) string {
	if b.in.Owner == nil {
		return ""
	}
	return b.in.Owner(file)
}

// nameOf is a component's name; one that has none is called as its file or folder is.
func nameOf(f *File, c *Component) string {
	// What is called Root in its file and known elsewhere as Form.
	if len(c.Exported) > 0 && !slices.Contains(c.Exported, c.Name) && startsUpper(c.Exported[0]) {
		return c.Exported[0]
	}
	name := c.Name
	if f.Language == "angular" || c.Selector != "" { // a class says what it is of Angular's; nobody calls a screen so
		name = cmp.Or(strings.TrimSuffix(name, "Component"), name)
	}
	if name != "" && name != "Component" && name != "Page" && startsUpper(name) {
		return name
	}
	base := path.Base(f.Path)
	base = strings.TrimSuffix(base, path.Ext(base))
	switch base {
	case "index", "page", "+page", "layout", "default", "_layout":
		if dir := path.Base(path.Dir(f.Path)); dir != "." {
			return pascal(strings.Trim(dir, "[]()_+"))
		}
	}
	return pascal(base)
}

// spaced writes a name as people read it: "WorkTickets" is "Work tickets".
func spaced(name string) string {
	s := strings.ReplaceAll(describe.Kebab(name), "-", " ")
	if s == "" {
		return name
	}
	return strings.ToUpper(s[:1]) + s[1:]
}
