// Package describe reads what a library says of itself: a Custom Elements Manifest of
// any age, web-types, type declarations as a helper read them, and tokens in the forms
// that are about. Each reader gives entries in which every statement carries where it is
// known from; Merge puts several together, the best source first; what no source says is
// proposed by Propose, each guess with its certainty and why.
//
// Nothing is dropped in silence: what a reader met and could not take stands in
// Catalog.Left, with where it stands and what would have been taken.
package describe

import (
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"ubiquant/core/jsonread"
	"ubiquant/core/kit"
)

// Format is the version of catalogs that this package writes.
const Format = "ubiquant.kit-catalog/1"

// Sources of a statement, the best first.
const (
	FromPerson   = "a person"
	FromManifest = "manifest"
	FromTypes    = "types"
	FromWebTypes = "web-types"
	FromGuess    = kit.Guessed
)

// Kinds of libraries, by how their components are drawn.
const (
	Elements = "elements" // custom elements, in any page
	Vue      = "vue"
	React    = "react"
	Angular  = "angular"
)

// Catalog is the description of a library at one version.
type Catalog struct {
	Format  string  `json:"format"`
	Name    string  `json:"name"`
	Version string  `json:"version"`
	Drawn   string  `json:"drawn"` // one of the kinds of libraries
	Entries []Entry `json:"components"`
	// System are the props that most components take over from one declaration; they are
	// told once and stand on no entry.
	System []Prop  `json:"system,omitempty"`
	Tokens []Token `json:"tokens,omitempty"` // custom properties of its style sheets
	Left   []Left  `json:"left,omitempty"`   // what was met and not taken
	// Named are types that were asked for by their names, as declarations say them.
	Named []NamedType `json:"named,omitempty"`
	// Besides are drawn as they are and belong to no kit: pictures of other packages.
	Besides []Beside `json:"besides,omitempty"`
	// Classes are those that the styles of the application speak of that it is drawn with.
	Classes []string `json:"classes,omitempty"`
}

// Entry is one component as described.
type Entry struct {
	// ID is its name in a workspace: the tag of a custom element; else made of the
	// library's short name and the export.
	ID         string `json:"id"`
	Export     string `json:"export,omitempty"`  // name by which the module gives it; "Tabs.List" for a part of another
	Default    bool   `json:"default,omitempty"` // the module gives it without a name, and Export is how it is called
	Module     string `json:"module,omitempty"`  // what an import names, or the file that defines an element
	Class      string `json:"class,omitempty"`
	Tag        string `json:"tag,omitempty"`      // element that it is written as
	Selector   string `json:"selector,omitempty"` // of Angular: "button[acButton]"
	Brings     string `json:"brings,omitempty"`   // what the module gives that code takes instead of it
	Summary    string `json:"summary,omitempty"`
	Deprecated string `json:"deprecated,omitempty"`
	From       string `json:"from"`
	Props      []Prop `json:"props"`
	Slots      []Slot `json:"slots"`
	Events     []Slot `json:"events,omitempty"`
	Parts      []Slot `json:"parts,omitempty"`
	CSS        []Slot `json:"css,omitempty"` // custom properties that its styles speak of

	Inside []string `json:"inside,omitempty"` // components that it draws in itself
	// Handed are settings of any element of a page that it hands on to what it draws, as code has it.
	Handed []string `json:"handed,omitempty"`
}

// Beside is something of another package that is drawn where a screen has it, and is no component of the
// library: nothing is said of it, and nothing held against it.
type Beside struct {
	Type   string `json:"type"` // of the plain element that it is: "other-plus"
	Export string `json:"export"`
	Module string `json:"module"`
}

// Draws is the name by which the library's module gives it.
func (b *Beside) Draws() string { return b.Module + "#" + b.Export }

// Prop is a setting as described.
type Prop struct {
	Name       string   `json:"name"`
	Attr       string   `json:"attr,omitempty"` // attribute; empty where only a property carries it
	Type       string   `json:"type"`           // text, yes/no, number, choice, or data: any JSON
	Values     []string `json:"values,omitempty"`
	Open       bool     `json:"open,omitempty"`    // any other text may stand as well
	Numbers    bool     `json:"numbers,omitempty"` // the values are numbers in code
	Shape      string   `json:"shape,omitempty"`   // type as declared, where it says more than Type
	Default    string   `json:"default,omitempty"`
	Required   bool     `json:"required,omitempty"`
	Summary    string   `json:"summary,omitempty"`
	Deprecated string   `json:"deprecated,omitempty"`
	From       string   `json:"from"`
	// Given are exports of the library that can be handed to it, where nobody else has such a thing.
	Given []string `json:"given,omitempty"`
}

// Slot is a named place, event, part or custom property.
type Slot struct {
	Name    string `json:"name"`
	Summary string `json:"summary,omitempty"`
	Default string `json:"default,omitempty"` // of a custom property
	From    string `json:"from,omitempty"`
}

// Token is a custom property that a style sheet sets for the whole page.
type Token struct {
	Name   string            `json:"name"`   // with its dashes
	Values map[string]string `json:"values"` // by theme
}

// Left is something that was met and not taken.
type Left struct {
	Where string `json:"where"` // file, and place in it
	What  string `json:"what"`
}

// String says it in one line.
func (l Left) String() string { return l.Where + ": " + l.What }

// Limits hold what may be described: large libraries have some hundred components.
const (
	MaxEntries = 5_000
	MaxProps   = 1_000 // of one component
	MaxValues  = 40    // above that a choice is a text
	MaxText    = 4_000 // bytes of a sentence
	maxLeft    = 500   // told; the rest is counted
)

var documents = jsonread.Limits{Bytes: 48 << 20, Depth: 96, Values: 4_000_000}

// left notes what was not taken; after maxLeft it only says that there is more.
func (c *Catalog) left(where, format string, args ...any) {
	switch {
	case len(c.Left) < maxLeft:
		c.Left = append(c.Left, Left{where, clip(fmt.Sprintf(format, args...), 300)})
	case len(c.Left) == maxLeft:
		c.Left = append(c.Left, Left{where, "and more like this, not listed"})
	}
}

// clip cuts a text at a number of bytes, at a letter's edge.
func clip(s string, n int) string {
	if len(s) <= n {
		return s
	}
	return strings.ToValidUTF8(s[:n], "") + "…"
}

// Find gives the entry with an id.
func (c *Catalog) Find(id string) (*Entry, bool) {
	i := slices.IndexFunc(c.Entries, func(e Entry) bool { return e.ID == id })
	if i < 0 {
		return nil, false
	}
	return &c.Entries[i], true
}

// Prop finds a prop of an entry.
func (e *Entry) Prop(name string) (*Prop, bool) {
	i := slices.IndexFunc(e.Props, func(p Prop) bool { return p.Name == name })
	if i < 0 {
		return nil, false
	}
	return &e.Props[i], true
}

var (
	tagName  = regexp.MustCompile(`^[a-z][a-z0-9._]*-[a-z0-9._-]*$`)
	attrName = regexp.MustCompile(`^[A-Za-z][A-Za-z0-9._:-]*$`)
	exported = regexp.MustCompile(`^[A-Za-z_$][\w$]*$`)
	propName = regexp.MustCompile(`^[A-Za-z$][A-Za-z0-9$_:.-]*$`)
)

// never are attributes and properties that could run or replace something.
func never(name string) bool {
	switch n := strings.ToLower(name); n {
	case "style", "srcdoc", "innerhtml", "outerhtml", "dangerouslysetinnerhtml", "is", "slot", "id", "class",
		"classname", "__proto__", "constructor", "prototype", "key", "ref", "does", "data-e", "data-does", "data-holds":
		return true
	default:
		return strings.HasPrefix(n, "on") && len(n) > 2 && !strings.Contains(n, "-") && nativeHandler[n]
	}
}

// nativeHandler are the attributes that run a text as code (HTML, event handler content
// attributes; the common ones and those that need nobody to press anything).
var nativeHandler = func() map[string]bool {
	out := map[string]bool{}
	for _, n := range strings.Fields("abort animationend animationstart auxclick beforeinput blur canplay change click close contextmenu copy cut dblclick drag dragend dragenter dragleave dragover dragstart drop error focus focusin focusout formdata input invalid keydown keypress keyup load loadstart message mousedown mouseenter mouseleave mousemove mouseout mouseover mouseup paste pause play pointercancel pointerdown pointerenter pointerleave pointermove pointerout pointerover pointerup progress reset resize scroll scrollend select submit toggle touchend touchstart transitionend unload wheel") {
		out["on"+n] = true
	}
	return out
}()

// Write gives the catalog as JSON, the same bytes for the same catalog.
func (c *Catalog) Write() []byte {
	c.Format = Format
	b, err := json.MarshalIndent(c, "", " ")
	if err != nil { // texts and lists alone
		panic(err)
	}
	return append(b, '\n')
}

// Read reads a catalog as Write gives it. Errors say what and where.
func Read(src []byte) (*Catalog, error) {
	if err := wellFormed(src); err != nil {
		return nil, err
	}
	var c Catalog
	if err := json.Unmarshal(src, &c); err != nil {
		return nil, err
	}
	if c.Format != Format {
		return nil, fmt.Errorf("/format: %q cannot be read; accepted: %q", c.Format, Format)
	}
	return &c, c.Check()
}

func wellFormed(src []byte) error {
	r, err := jsonread.New(src, documents)
	if err != nil {
		return err
	}
	if err := r.Skip(); err != nil {
		return err
	}
	return r.End()
}

// Check holds a catalog against what a workspace can work with. Errors name the place by
// a JSON pointer.
func (c *Catalog) Check() error {
	if c.Name == "" || c.Version == "" {
		return fmt.Errorf("/name: a name and a version are needed")
	}
	if !slices.Contains([]string{Elements, Vue, React, Angular}, c.Drawn) {
		return fmt.Errorf("/drawn: %q is not known; accepted: %s, %s, %s, %s", c.Drawn, Elements, Vue, React, Angular)
	}
	if len(c.Entries) == 0 {
		return fmt.Errorf("/components: no component is described")
	}
	if len(c.Entries) > MaxEntries {
		return fmt.Errorf("/components: %d components; at most %d are taken", len(c.Entries), MaxEntries)
	}
	if len(c.Besides) > MaxEntries {
		return fmt.Errorf("/besides: %d pictures of other packages; at most %d are taken", len(c.Besides), MaxEntries)
	}
	if len(c.Classes) > MaxClasses {
		return fmt.Errorf("/classes: %d classes; at most %d are taken", len(c.Classes), MaxClasses)
	}
	for i, name := range c.Classes {
		if name == "" || len(name) > maxClass || strings.ContainsAny(name, " \t\n") {
			return fmt.Errorf("/classes/%d: %q is no name of a class", i, clip(name, 60))
		}
	}
	for i, b := range c.Besides {
		if !strings.HasPrefix(b.Type, kit.OtherPrefix) || !tagName.MatchString(b.Type) || b.Module == "" || !exported.MatchString(b.Export) {
			return fmt.Errorf("/besides/%d: %q of %q cannot draw a plain element %q; accepted: a name that a module gives, and a type that begins with %q",
				i, clip(b.Export, 60), clip(b.Module, 60), clip(b.Type, 60), kit.OtherPrefix)
		}
	}
	seen := map[string]bool{}
	for i := range c.Entries {
		e := &c.Entries[i]
		at := "/components/" + strconv.Itoa(i)
		if !tagName.MatchString(e.ID) || len(e.ID) > 100 {
			return fmt.Errorf("%s/id: %q cannot name a component; accepted: a lower-case name with a dash", at, clip(e.ID, 60))
		}
		if seen[e.ID] {
			return fmt.Errorf("%s/id: %q is there twice", at, e.ID)
		}
		seen[e.ID] = true
		if len(e.Props) > MaxProps {
			return fmt.Errorf("%s/props: %d props; at most %d are taken", at, len(e.Props), MaxProps)
		}
		names := map[string]bool{}
		for j := range e.Props {
			p := &e.Props[j]
			at := at + "/props/" + strconv.Itoa(j)
			if !propName.MatchString(p.Name) || never(p.Name) {
				return fmt.Errorf("%s/name: %q cannot be a prop", at, clip(p.Name, 60))
			}
			if p.Attr != "" && (!attrName.MatchString(p.Attr) || never(p.Attr) || nativeHandler[strings.ToLower(p.Attr)]) {
				return fmt.Errorf("%s/attr: %q cannot be an attribute", at, clip(p.Attr, 60))
			}
			if names[p.Name] {
				return fmt.Errorf("%s/name: %q is there twice", at, p.Name)
			}
			names[p.Name] = true
			if !slices.Contains(typeNames, p.Type) {
				return fmt.Errorf("%s/type: %q is not known; accepted: %s", at, p.Type, strings.Join(typeNames, ", "))
			}
		}
	}
	return nil
}

var typeNames = []string{"text", "yes/no", "number", "choice", "data"}

// AddTemplates adds places for what code puts into the component as templates; those that it has stay.
func (e *Entry) AddTemplates(names []string) {
	e.Slots = slices.Clone(e.Slots)
	for _, name := range names {
		if !slices.ContainsFunc(e.Slots, func(s Slot) bool { return s.Name == name }) {
			e.Slots = append(e.Slots, Slot{Name: name, From: FromGuess})
		}
	}
}

// ChosenBy is the setting whose value is the attribute that the component is written with, where it has one.
func (e *Entry) ChosenBy() (kit.Prop, bool) {
	props := make([]kit.Prop, len(e.Props))
	for i := range e.Props {
		props[i].Name = e.Props[i].Name
	}
	return kit.ChosenBy(e.Selector, e.Export, props)
}

// Components gives the entries as a kit holds them.
func (c *Catalog) Components() []*kit.Component {
	out, titles := make([]*kit.Component, 0, len(c.Entries)), c.titles()
	for i := range c.Entries {
		made := c.Entries[i].component(c.Drawn)
		made.Title = titles[made.Tag]
		out = append(out, made)
	}
	return out
}

// urlNames are prop names that hold an address by convention.
var urlNames = map[string]bool{"href": true, "src": true, "to": true, "url": true, "poster": true, "srcset": true, "action": true, "formaction": true, "xlinkhref": true}

func (e *Entry) component(drawn string) *kit.Component {
	c := &kit.Component{
		Tag: e.ID, Summary: e.Summary, Level: kit.Basic, Deprecated: e.Deprecated,
		Class: e.Class, Module: e.Module, Export: e.Export, Default: e.Default,
		Selector: e.Selector, Brings: e.Brings, From: e.From, Inside: e.Inside,
		Props: make([]kit.Prop, 0, len(e.Props)), Slots: make([]kit.Slot, 0, len(e.Slots)),
	}
	for _, p := range e.Props {
		out := kit.Prop{
			Name: p.Name, Attr: p.Attr, Summary: p.Summary, Default: p.Default, Required: p.Required,
			Deprecated: p.Deprecated, Values: p.Values, Open: p.Open, Numbers: p.Numbers, Shape: p.Shape, From: p.From,
			URL: p.Type == "text" && urlNames[strings.ToLower(strings.ReplaceAll(p.Name, "-", ""))],
		}
		if out.Shape == "string" {
			out.Shape = "" // which a text is
		}
		switch p.Type {
		case "yes/no":
			out.Type = kit.Bool
		case "number":
			out.Type = kit.Number
		case "choice":
			out.Type = kit.Enum
			if !out.Takes(out.Default) {
				out.Default = ""
			}
		case "data":
			out.JSON = true
		}
		c.Props = append(c.Props, out)
	}
	if p, ok := e.ChosenBy(); ok {
		p.From = FromTypes
		c.Props = append(c.Props, p)
	}
	for _, p := range kit.Handed(e.Handed) {
		if !slices.ContainsFunc(c.Props, func(own kit.Prop) bool { return own.Name == p.Name }) {
			c.Props = append(c.Props, p)
		}
	}
	for _, s := range e.Slots {
		c.Slots = append(c.Slots, kit.Slot{Name: s.Name, Summary: s.Summary, Text: s.Name == "" || drawn != Elements && drawn != Angular})
	}
	named := func(list []Slot) (out []kit.Named) {
		for _, s := range list {
			out = append(out, kit.Named{Name: s.Name, Summary: s.Summary})
		}
		return out
	}
	c.Events, c.Parts = named(e.Events), named(e.Parts)
	for _, s := range e.CSS {
		c.Tokens = append(c.Tokens, s.Name)
	}
	return c
}

// title is what people read: the id without the library's name.
func (e *Entry) title() string {
	_, short, _ := strings.Cut(e.ID, "-")
	return strings.ReplaceAll(strings.Trim(short, "-"), "-", " ")
}

// titles are those of all entries, by id. What a class is, its name need not say ("button
// component"), but where that alone tells two apart.
func (c *Catalog) titles() map[string]string {
	bare := func(e *Entry) string {
		t := e.title()
		if e.Selector != "" {
			for _, kind := range []string{" component", " directive"} {
				if rest := strings.TrimSuffix(t, kind); rest != "" {
					t = rest
				}
			}
		}
		return t
	}
	count := map[string]int{}
	for i := range c.Entries {
		count[bare(&c.Entries[i])]++
	}
	out := make(map[string]string, len(c.Entries))
	for i := range c.Entries {
		e := &c.Entries[i]
		if out[e.ID] = bare(e); count[out[e.ID]] > 1 {
			out[e.ID] = e.title()
		}
	}
	return out
}

// Kebab writes a name of code in lower case with dashes: "TabsList", "Tabs.List" and
// "tabs_list" are "tabs-list"; "HTMLView" is "html-view", "H1" is "h1".
func Kebab(name string) string {
	var b strings.Builder
	r := []rune(name)
	lower := func(c rune) bool { return c >= 'a' && c <= 'z' || c >= '0' && c <= '9' }
	for i, c := range r {
		upper := c >= 'A' && c <= 'Z'
		switch {
		case upper:
			if i > 0 && b.Len() > 0 && (lower(r[i-1]) || i+1 < len(r) && r[i+1] >= 'a' && r[i+1] <= 'z' && r[i-1] >= 'A' && r[i-1] <= 'Z') {
				b.WriteByte('-')
			}
			b.WriteRune(c + 'a' - 'A')
		case lower(c):
			b.WriteRune(c)
		default:
			if b.Len() > 0 && !strings.HasSuffix(b.String(), "-") {
				b.WriteByte('-')
			}
		}
	}
	return strings.Trim(b.String(), "-")
}

// Short is a short name for a package, fit to begin ids: "@acme/orchard-ui" is
// "orchard", "@acme/ui" is "acme".
func Short(pkg string) string { return strings.ReplaceAll(called(pkg), "-", "") }

// Title is what people read for a package: "@acme/orchard-park-ui" is "Orchard park".
func Title(pkg string) string {
	words := strings.ReplaceAll(called(pkg), "-", " ")
	return strings.ToUpper(words[:1]) + words[1:]
}

func called(pkg string) string {
	scope, name, scoped := strings.Cut(strings.TrimPrefix(pkg, "@"), "/")
	if !scoped {
		scope, name = "", scope
	}
	for _, generic := range []string{"-web-components", "-components", "-elements", "-react", "-vue", "-angular", "-ui", "-core", "-kit", "-design-system", ".js"} {
		name = strings.TrimSuffix(name, generic)
	}
	switch name {
	case "ui", "core", "components", "web", "web-components", "react", "vue", "angular", "kit", "elements", "material", "themes", "lib", "":
		if scope != "" {
			name = scope
		}
	}
	if name = Kebab(name); name == "" || name[0] < 'a' {
		name = "kit" + name
	}
	return name
}
