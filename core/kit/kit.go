// Package kit models a shared UI component library at one version: its
// components with their props, variants and slots, its tokens and themes, its
// icons, and how it is written in code.
//
// A kit is read from the open formats its makers publish: a Custom Elements
// Manifest for the components, Design Tokens (DTCG) JSON for tokens and themes.
// What these cannot say (families, roles, aliases, what a slot accepts) stands in
// optional kit notes; a bare manifest gives a usable kit.
package kit

import (
	"cmp"
	"path"
	"regexp"
	"slices"
	"sort"
	"strings"
	"unicode"
)

// Type is the kind of value a prop takes.
type Type uint8

const (
	Text   Type = iota // any text
	Bool               // yes or no
	Number             // a number
	Enum               // one of Prop.Values
)

func (t Type) String() string { return [...]string{"text", "yes/no", "number", "choice"}[t] }

// Guessed is From of what no package says: it was seen in use, or is a proposal.
const Guessed = "guess"

// Level tells basic components, composites of several and layouts apart.
type Level string

const (
	Basic     Level = "basic"
	Composite Level = "composite"
	Layout    Level = "layout"
	Piece     Level = "piece"
)

// Prop is one setting of a component.
type Prop struct {
	Name       string   `json:"name"`
	Attr       string   `json:"attr,omitempty"` // attribute; empty when only a property carries it
	Summary    string   `json:"summary,omitempty"`
	Type       Type     `json:"type"`
	Values     []string `json:"values,omitempty"` // of an Enum, in the kit's order; with Tokens, those besides its steps
	Default    string   `json:"default"`          // as written in JSON text form, "" when none
	Required   bool     `json:"required,omitempty"`
	Deprecated string   `json:"deprecated,omitempty"`
	URL        bool     `json:"url,omitempty"`        // holds an address, checked before it is rendered
	Tokens     string   `json:"tokens,omitempty"`     // token group its values come from, for layouts
	Responsive bool     `json:"responsive,omitempty"` // may differ by width (layouts only)
	Icon       bool     `json:"icon,omitempty"`       // its value names an icon
	Inner      bool     `json:"inner,omitempty"`      // of a piece: reaches an inner element by its name
	Open       bool     `json:"open,omitempty"`       // of an Enum: any other text may stand as well
	Numbers    bool     `json:"numbers,omitempty"`    // the values of an Enum are numbers in code
	JSON       bool     `json:"json,omitempty"`       // a Text that holds structured data, written as JSON
	Handed     bool     `json:"handed,omitempty"`     // of any element of a page: handed on to what the component draws
	Selects    bool     `json:"selects,omitempty"`    // its value is the attribute by which the component is known; see ChosenBy
	Shape      string   `json:"shape,omitempty"`      // its type as declared, where that says more
	From       string   `json:"from,omitempty"`       // where it is known from: manifest, types, web-types, a person
}

// Takes reports whether a value is one of an Enum's; an open one takes any.
func (p *Prop) Takes(value string) bool { return p.Open || slices.Contains(p.Values, value) }

// Slot is a named place inside a component.
type Slot struct {
	Name    string   `json:"name"`
	Summary string   `json:"summary,omitempty"`
	Text    bool     `json:"text,omitempty"`    // plain text may stand in it
	Accepts []string `json:"accepts,omitempty"` // tags, or role:NAME; nil means anything that stands alone
	Closed  bool     `json:"closed,omitempty"`  // accepts no element at all
	Max     int      `json:"max,omitempty"`     // 0 means any number
}

// Choice names a prop's value.
type Choice struct {
	Prop  string `json:"prop"`
	Value string `json:"value"`
}

// Picture names the props of a component that shows a picture.
type Picture struct {
	Src        string `json:"src"`
	Alt        string `json:"alt"`
	Decorative string `json:"decorative,omitempty"`
}

// Heading says how a component takes part in the page's outline.
type Heading struct {
	Level     int    `json:"level,omitempty"`     // fixed
	LevelProp string `json:"levelProp,omitempty"` // or carried by this prop
	Text      string `json:"text,omitempty"`      // the prop with its words; empty: its text
}

// Example is a sample use, as the notes give it.
type Example struct {
	Type     string            `json:"type,omitempty"`
	Slot     string            `json:"slot,omitempty"`
	Text     string            `json:"text,omitempty"`
	Props    map[string]string `json:"props,omitempty"`
	Children []Example         `json:"children,omitempty"`
}

// Component is one entry of a kit.
type Component struct {
	Tag         string   `json:"tag"`
	Title       string   `json:"title"`
	Summary     string   `json:"summary,omitempty"`
	Family      string   `json:"family"`
	Level       Level    `json:"level"`
	Role        string   `json:"role,omitempty"` // action, link, control, bar, status …
	Aliases     []string `json:"aliases,omitempty"`
	Props       []Prop   `json:"props"`
	Slots       []Slot   `json:"slots"`
	Events      []Named  `json:"events,omitempty"`
	Parts       []Named  `json:"parts,omitempty"`
	Tokens      []string `json:"tokens,omitempty"`  // CSS custom properties that its styles speak of
	Inside      []string `json:"inside,omitempty"`  // components that it draws in itself
	Parents     []string `json:"parents,omitempty"` // may stand only in these
	Deprecated  string   `json:"deprecated,omitempty"`
	Replacement string   `json:"replacement,omitempty"`
	Main        *Choice  `json:"main,omitempty"`       // the value that makes it the main action
	Acts        []string `json:"acts,omitempty"`       // props of which one must be set for it to do anything
	Answers     string   `json:"answers,omitempty"`    // event at which happens what it is told to do; empty for none
	OpensBy     string   `json:"opensBy,omitempty"`    // flag that says whether it is open; empty for what does not open
	Closes      string   `json:"closes,omitempty"`     // event by which it tells that it was closed, where it opens at all
	Holds       string   `json:"holds,omitempty"`      // prop with what people chose or typed; empty for none
	HoldsAt     string   `json:"holdsAt,omitempty"`    // event at which that changed
	NameProp    string   `json:"nameProp,omitempty"`   // prop with its accessible name
	LabelledBy  string   `json:"labelledBy,omitempty"` // component that names it
	Picture     *Picture `json:"picture,omitempty"`
	Heading     *Heading `json:"heading,omitempty"`
	Telling     []string `json:"telling,omitempty"`  // props shown inline on a line
	Labelled    bool     `json:"labelled,omitempty"` // its text is its label: what one writes first
	// Ordered lists props whose values must not descend: numbers, or dates.
	Ordered [][]string `json:"ordered,omitempty"`
	Example Example    `json:"example"`
	// Within are the components that it is drawn in where it stands alone, the outermost
	// first: a part shows nothing, or fails, without its whole.
	Within []Example `json:"within,omitempty"`
	Stands string    `json:"stands,omitempty"` // of a piece: its root's type, for slot rules
	// Revision of a piece counts the edits it has taken.
	Revision int    `json:"revision,omitempty"`
	Class    string `json:"class,omitempty"` // class name in the kit's code
	Module   string `json:"module,omitempty"`
	// Export is the name by which the module gives a component that is no element, with
	// its way: "Tabs.List"; Selector how one of Angular is written.
	Export   string `json:"export,omitempty"`
	Default  bool   `json:"default,omitempty"` // the module gives it without a name
	Selector string `json:"selector,omitempty"`
	// Brings is what its module gives that code takes instead of it: of Angular, the
	// NgModule of a component that cannot be taken alone.
	Brings string `json:"brings,omitempty"`
	From   string `json:"from,omitempty"` // where it is known from
	// Plain is an element of HTML, or of no kit at all, as code that was read has them: nobody
	// decides anything about it here.
	Plain bool `json:"plain,omitempty"`
	// Part is the part from elsewhere that it belongs to, from 1 in the order of Kit.Parts; 0 where it
	// is the kit's own.
	Part int `json:"part,omitempty"`
	// Guesses are what no source says and was proposed; a person can correct each.
	Guesses []Guess `json:"guesses,omitempty"`

	props map[string]int
	meant meant
}

// Guess is a statement about a component that no source makes: proposed from names and
// props, until a person says otherwise.
type Guess struct {
	What      string  `json:"what"` // family, role, label, main, telling, heading, picture, parents, example, holds
	Value     string  `json:"value"`
	Certainty float64 `json:"certainty"` // 0 to 1
	Why       string  `json:"why"`
}

// Named is a thing with a name and a sentence.
type Named struct {
	Name    string `json:"name"`
	Summary string `json:"summary,omitempty"`
}

// MadeOf lists the components that an entry is made of: those of its example and
// those it draws in itself.
func (c *Component) MadeOf() []string {
	out := []string{}
	add := func(tag string) {
		if tag != "" && tag != c.Tag && !slices.Contains(out, tag) {
			out = append(out, tag)
		}
	}
	var walk func(list []Example)
	walk = func(list []Example) {
		for _, e := range list {
			add(e.Type)
			walk(e.Children)
		}
	}
	walk(c.Example.Children)
	for _, tag := range c.Inside {
		add(tag)
	}
	return out
}

// Prop finds a prop by name. Layout props may carry a width: "span@640".
func (c *Component) Prop(name string) (*Prop, bool) {
	base, width, responsive := strings.Cut(name, "@")
	i, ok := c.props[base]
	if !ok && name == Does && c.Answers != "" {
		return does, true
	}
	if !ok || (responsive && (!c.Props[i].Responsive || !slices.Contains(Breakpoints, width))) {
		return nil, false
	}
	return &c.Props[i], true
}

// Slot finds a slot by name; the default slot's name is empty.
func (c *Component) Slot(name string) (*Slot, bool) {
	for i := range c.Slots {
		if c.Slots[i].Name == name {
			return &c.Slots[i], true
		}
	}
	return nil, false
}

// spoken are props whose words people read. Others of type text are ids, names and data.
var spoken = []string{
	"heading", "label", "title", "subtitle", "caption", "summary", "description", "help", "hint", "note",
	"placeholder", "message",
}

// Speaks tells whether people read what a prop holds, as a norm of words counts it.
func (c *Component) Speaks(p *Prop) bool {
	return p.Type == Text && !p.URL &&
		(slices.Contains(spoken, strings.ToLower(p.Name)) || p.Name == c.NameProp || p == c.LabelBy() ||
			c.Heading != nil && c.Heading.Text == p.Name)
}

// read are the last words of names of props that hold words for people, besides spoken.
var read = []string{
	"text", "alt", "error", "errors", "tooltip", "legend", "header", "footer", "headline", "content", "body",
	"prefix", "suffix", "unit", "empty", "success", "warning", "confirm",
}

// HoldsWords tells whether people read what a prop holds in whatever language they speak: all
// that Speaks, and whatever its name says.
func (c *Component) HoldsWords(p *Prop) bool {
	if c.Speaks(p) {
		return true
	}
	if p.Type != Text || p.URL || p.JSON || p.Icon || p.Tokens != "" || c.ShowsPicture(p.Name) {
		return false
	}
	last := strings.ToLower(p.Name[strings.LastIndexFunc(p.Name, func(r rune) bool { return r == '-' || r == '_' })+1:])
	if i := strings.LastIndexFunc(p.Name, unicode.IsUpper); i > 0 {
		last = strings.ToLower(p.Name[i:])
	}
	return slices.Contains(spoken, last) || slices.Contains(read, last)
}

// TakesText reports whether text may stand directly in the component.
func (c *Component) TakesText() bool {
	s, ok := c.Slot("")
	return ok && s.Text
}

// Does is the setting that says what happens when an element is pressed, changed or
// sent. Every component that answers to an event has it, beside its own props.
const Does = "does"

var does = &Prop{Name: Does, Type: Text, Summary: "What happens when it is pressed, changed or sent"}

// pictured are names of props that hold the address of a picture, where the kit does not say.
var pictured = regexp.MustCompile(`(?i)^(src|(.*-)?(image|picture|photo|avatar|cover|poster|thumbnail)([-_]?(src|url))?)$`)

// ShowsPicture tells whether a prop is the address of a picture.
func (c *Component) ShowsPicture(prop string) bool {
	if c.Picture != nil && c.Picture.Src == prop {
		return true
	}
	p, ok := c.Prop(prop)
	return ok && p.Type == Text && !p.JSON && pictured.MatchString(prop)
}

// Opens tells whether it can be opened and closed.
func (c *Component) Opens() bool { return c.OpensBy != "" }

// event finds an event by the end of its name, the first of the words first.
func (c *Component) event(words ...string) string {
	for _, word := range words {
		for _, e := range c.Events {
			if e.Name == word || strings.HasSuffix(e.Name, "-"+word) || strings.EqualFold(e.Name, "on"+word) {
				return e.Name
			}
		}
	}
	return ""
}

// held finds the prop that a control keeps its value in, and the event that tells of it.
func (c *Component) held() (prop, at string) {
	for _, word := range []string{"change", "input", "page", "tab"} {
		at := c.event(word)
		if at == "" {
			continue
		}
		for _, name := range []string{"checked", "on", "page", "shown", "value"} {
			if _, ok := c.props[name]; ok {
				return name, at
			}
		}
	}
	if c.Role != "control" {
		return "", ""
	}
	plain := func(s string) string { return strings.ToLower(strings.ReplaceAll(s, "-", "")) }
	for _, name := range []string{"checked", "on", "value", "modelValue", "model-value"} {
		if _, ok := c.props[name]; !ok {
			continue
		}
		best := ""
		for _, e := range c.Events {
			// By the prop's name: "valueChange", "update:modelValue", "onCheckedChange".
			said, p := strings.TrimPrefix(plain(e.Name), "on"), plain(name)
			if said == p+"change" || said == p+"changed" || said == "update:"+p {
				return name, e.Name
			}
			// By the component's own: "acInputChange" of ac-input; else whatever changes, the shortest.
			if said == plain(c.Tag)+"change" {
				best = e.Name
			} else if strings.HasSuffix(said, "change") && plain(best) != plain(c.Tag)+"change" && (best == "" || len(e.Name) < len(best)) {
				best = e.Name
			}
		}
		if best != "" {
			return name, best
		}
	}
	return "", ""
}

func (c *Component) index() {
	if at := c.SentAt(); at != "" {
		c.Answers = at
	}
	if c.Answers == "" && c.Level != Layout && c.Level != Piece {
		// What stands in the page as an element is pressed as any is, whether or not its makers say so.
		pressed := c.Role == "action" && (c.Export == "" || c.Selector != "")
		if c.Answers = c.event("press", "click", "change", "submit"); c.Answers == "" && (pressed || len(c.Acts) > 0) {
			c.Answers = "click"
		}
	}
	c.props = make(map[string]int, len(c.Props))
	for i, p := range c.Props {
		c.props[p.Name] = i
	}
	if c.Plain {
		return // nothing is meant by what it is set to
	}
	c.meant = c.means()
	if c.Holds == "" {
		c.Holds, c.HoldsAt = c.held()
	}
	if c.Answers == "" {
		c.Answers = c.HoldsAt
	}
	if flag, closes := c.opening(); c.OpensBy == "" {
		c.OpensBy = flag
		c.Closes = cmp.Or(c.Closes, closes)
	}
}

// Seal prepares a component made by hand (a piece's definition) for look-ups.
func (c *Component) Seal() *Component { c.index(); return c }

// Family groups components for browsing.
type Family struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

// Icon is one of the kit's picture signs.
type Icon struct {
	Name     string   `json:"name"`
	Meanings []string `json:"meanings,omitempty"`
	Own      bool     `json:"own,omitempty"` // the team's own, not the kit's
	SVG      string   `json:"-"`             // of the team's own
}

// Code says how the kit is brought into an application's code.
type Code struct {
	Import string `json:"import"`
	Styles string `json:"styles"`
	// Part imports the module of one component alone; {module} stands for the
	// module's name without its folder and ending.
	Part string `json:"part,omitempty"`
	Go   string `json:"go,omitempty"`   // event by which links and buttons ask to go to detail.to
	Icon string `json:"icon,omitempty"` // component that shows one icon, by its first icon prop
	// AddIcons is the module's function that takes icons of the application's own,
	// by name: addIcons({ name: svg }).
	AddIcons string `json:"addIcons,omitempty"`
}

// ImportOf is the statement that brings in one component, and as little else as the
// kit allows.
func (k *Kit) ImportOf(c *Component) string {
	code := k.CodeOf(c)
	if code.Part == "" || c.Module == "" {
		return code.Import
	}
	name := path.Base(c.Module)
	return strings.ReplaceAll(code.Part, "{module}", strings.TrimSuffix(name, path.Ext(name)))
}

// Folder is the folder of a repository whose own code the kit is; empty for a kit that is a package.
func (k *Kit) Folder() string {
	folder, own := strings.CutPrefix(k.Name, "./")
	if !own {
		return ""
	}
	return folder
}

// codeFile is a file of code; what imports it leaves its ending out, but for single files.
var codeFile = regexp.MustCompile(`\.(tsx?|jsx?|mjs|vue)$`)

// ModuleOf is what an import of a component names, in a file one folder below the folder at of the
// repository; an empty at is its root. Only code of the repository itself depends on it.
func (k *Kit) ModuleOf(c *Component, at string) string {
	if k.Folder() == "" || c.Part > 0 || !codeFile.MatchString(c.Module) {
		return cmp.Or(c.Module, k.Name)
	}
	to := c.Module
	if path.Ext(to) != ".vue" {
		to = codeFile.ReplaceAllString(to, "")
	}
	if at == "" {
		return "./" + to
	}
	from := strings.Split(path.Join(at, "in"), "/")
	parts := strings.Split(to, "/")
	for len(from) > 0 && len(parts) > 1 && from[0] == parts[0] {
		from, parts = from[1:], parts[1:]
	}
	return strings.Repeat("../", len(from)) + strings.Join(parts, "/")
}

// Specifier is what an import statement names: of "import '@a/b/c.css'" it is
// "@a/b/c.css".
func Specifier(statement string) string {
	for _, quote := range []string{"'", `"`} {
		if _, rest, ok := strings.Cut(statement, quote); ok {
			name, _, _ := strings.Cut(rest, quote)
			return name
		}
	}
	return ""
}

// Kit is a component library at one version.
type Kit struct {
	Name       string       `json:"name"`
	Version    string       `json:"version"`
	Title      string       `json:"title"`
	Prefix     string       `json:"prefix"` // of its CSS custom properties
	Families   []Family     `json:"families"`
	Components []*Component `json:"components"` // in the order of families, then tag
	Icons      []Icon       `json:"icons"`
	Tokens     *Tokens      `json:"tokens"`
	Code       Code         `json:"code"`
	Drawn      string       `json:"drawn,omitempty"` // vue, react or angular; empty: custom elements
	Plain      bool         `json:"plain,omitempty"` // its steps of room are a plain scale: it has none of its own
	Snippets   []Snippet    `json:"-"`               // whole arrangements, made from a model or from routes
	Roles      *Roles       `json:"-"`               // of its tokens in making a theme, where the notes say
	Parts      []Part       `json:"parts,omitempty"` // from elsewhere, beside the kit's own components
	// Classes are those of the application whose styles the kit is drawn with, in order; elements can be
	// given them. Without such an application there are none.
	Classes []string `json:"classes,omitempty"`
	// Left are the entries that the team does not use, with the reason.
	Left map[string]string `json:"-"`

	bare *Kit // as its makers publish it

	byTag map[string]*Component
	draws map[string]drawing // of plain elements, by their types
}

// Catalog finds components by type: a kit's tag, a layout's name, or a piece.
type Catalog interface {
	Component(typ string) (*Component, bool)
}

// Component finds a component of the kit, a layout, or a plain element.
func (k *Kit) Component(typ string) (*Component, bool) {
	if c, ok := k.byTag[typ]; ok {
		return c, ok
	}
	return plain(typ, len(k.Classes) > 0)
}

// Bare is the kit as its makers publish it.
func (k *Kit) Bare() *Kit {
	if k.bare != nil {
		return k.bare
	}
	return k
}

// With is the kit as a team has it: with its own themes, its changes to the kit's,
// its own icons, and without the entries it left out, each with its reason.
func (k *Kit) With(themes []Theme, icons []OwnIcon, left map[string]string) (*Kit, error) {
	out := *k
	out.bare, out.Left = k, left
	tokens, err := k.Tokens.With(k, themes)
	if err != nil {
		return nil, err
	}
	out.Tokens = tokens
	if len(icons) > 0 {
		out.Icons = slices.Clone(k.Icons)
		for _, i := range icons {
			out.Icons = append(out.Icons, Icon{Name: i.Name, Meanings: i.Meanings, Own: true, SVG: i.SVG})
		}
	}
	return &out, nil
}

func (k *Kit) finish() {
	order := map[string]int{}
	for i, f := range k.Families {
		order[f.ID] = i
	}
	sort.SliceStable(k.Components, func(i, j int) bool {
		a, b := k.Components[i], k.Components[j]
		if order[a.Family] != order[b.Family] {
			return order[a.Family] < order[b.Family]
		}
		return a.Tag < b.Tag
	})
	k.byTag = make(map[string]*Component, len(k.Components)+8)
	for _, c := range Layouts() {
		k.byTag[c.Tag] = c
	}
	for _, c := range k.Components {
		c.index()
		k.byTag[c.Tag] = c
	}
	k.drawPlain()
}

// Accepts reports whether child may stand in the named slot of parent; when not,
// the reason says what may.
func Accepts(cat Catalog, parent *Component, slot string, child *Component) (reason string, ok bool) {
	s, found := parent.Slot(slot)
	if !found {
		names := make([]string, len(parent.Slots))
		for i, s := range parent.Slots {
			names[i] = slotName(s.Name)
		}
		return parent.Title + " has no slot " + slotName(slot) + " (it has " + orNone(names) + ")", false
	}
	stands := child
	for range 8 { // a piece stands for its root; pieces in pieces are acyclic, the bound is a belt
		next, ok := cat.Component(stands.Stands)
		if stands.Stands == "" || !ok {
			break
		}
		stands = next
	}
	if s.Closed {
		return slotName(slot) + " of " + parent.Title + " takes only text", false
	}
	if len(stands.Parents) > 0 && !slices.Contains(stands.Parents, parent.Tag) {
		return child.Title + " stands only in " + strings.Join(stands.Parents, " or "), false
	}
	if s.Accepts == nil {
		return "", true
	}
	for _, a := range s.Accepts {
		if a == stands.Tag || (strings.HasPrefix(a, "role:") && a[5:] == stands.Role) {
			return "", true
		}
	}
	return slotName(slot) + " of " + parent.Title + " takes " + orNone(s.Accepts), false
}

// Around tells what would have to stand around a component so that it may stand in a
// slot where it may not by itself: tags, the outermost first. It is empty where nothing
// makes it right. What a component names as its parents comes first, then what labels
// it, then what takes it by name; at most two levels are tried.
func Around(cat Catalog, parent *Component, slot string, child *Component, all []*Component) []string {
	if _, ok := Accepts(cat, parent, slot, child); ok {
		return nil
	}
	wrappers := func(c *Component) []string {
		list := slices.Clone(c.Parents)
		if c.LabelledBy != "" {
			list = append(list, c.LabelledBy)
		}
		for _, w := range all {
			for _, s := range w.Slots {
				if slices.Contains(s.Accepts, c.Tag) && !slices.Contains(list, w.Tag) {
					list = append(list, w.Tag)
				}
			}
		}
		return list
	}
	for _, tag := range wrappers(child) {
		w, ok := cat.Component(tag)
		if !ok {
			continue
		}
		if _, ok := Accepts(cat, parent, slot, w); ok {
			return []string{tag}
		}
	}
	for _, tag := range wrappers(child) {
		w, ok := cat.Component(tag)
		if !ok {
			continue
		}
		for _, outer := range wrappers(w) {
			o, ok := cat.Component(outer)
			if !ok {
				continue
			}
			if _, ok := Accepts(cat, parent, slot, o); ok {
				return []string{outer, tag}
			}
		}
	}
	return nil
}

// SlotFor is the first slot of a parent in which a child may stand.
func SlotFor(cat Catalog, parent, child *Component) (string, bool) {
	for _, s := range parent.Slots {
		if _, ok := Accepts(cat, parent, s.Name, child); ok {
			return s.Name, true
		}
	}
	return "", false
}

func slotName(s string) string {
	if s == "" {
		return "the main slot"
	}
	return "the slot " + s
}

func orNone(list []string) string {
	if len(list) == 0 {
		return "nothing"
	}
	return strings.Join(list, ", ")
}
